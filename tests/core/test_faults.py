"""Faults put in on purpose: each is found by the fits, and the remedies offered do cure them."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from yawning_lantern.assembly import Gap, Lever, Span, Term, uses
from yawning_lantern.design import Design, Element, Place, add_guest, set_value
from yawning_lantern.fit import Check, formula, sentence
from yawning_lantern.fit.checks import judge
from yawning_lantern.fit.remedies import candidates
from yawning_lantern.study import Study, applied, remedies

from ..conftest import designed


def nest() -> Design:
    design = designed("explosion-box", base=4, wall=4, layers=2, lid="easy", corner="pocket")
    return add_guest(design, "layer-2", Element("tray", "tray", "Tray"), Place("floor"))


def wrong(study: Study) -> list[Check]:
    return [c for c in study.checks if not c.is_fine]


def test_the_nest_itself_is_fine() -> None:
    assert wrong(Study(nest())) == []


@given(st.sampled_from(["top-width", "top-depth"]), st.sampled_from(["snug", "easy", "loose"]))
def test_lid_one_millimetre_small(name: str, play: str) -> None:
    design = set_value(nest(), "lid", "play", play)
    before = Study(design)
    across = next(
        c for c in before.checks if c.gap.code == "lid" and (c.gap.where == "across") == (name == "top-width")
    )
    tightest = (before.current("lid", name) or 0.0) - across.gap.value
    needed = tightest + {"snug": 0.0, "easy": 25.4 / 16, "loose": 25.4 / 8}[play]
    found = [c for c in wrong(Study(set_value(design, "lid", name, needed - 1.0))) if c.against == "below"]
    assert [(c.gap.code, c.gap.where, c.against) for c in found] == [("lid", across.gap.where, "below")]
    assert found[0].is_clash == (play == "snug")


@pytest.mark.parametrize("axis", ["base", "base-depth"])
def test_layer_as_wide_as_its_host_and_wider(axis: str) -> None:
    t = Study(nest()).resolved["layer-2"].final.paper.caliper
    host = Study(nest()).current("box", "base") or 0.0
    inside = host - 2 * t  # as wide as fits between bare walls, without any room
    for wide in (inside + 1.0, host, host + 1.0):
        study = Study(set_value(nest(), "layer-2", axis, wide))
        assert study.has_clash
        clash = next(c for c in study.checks if c.is_clash)
        assert clash.gap.code == "layer" and "clash" in sentence(clash, "mm") and "=" in formula(clash, "mm")


@pytest.mark.parametrize("extra", [2.0, 0.3, 25.0])
def test_tray_too_tall(extra: float) -> None:
    study = Study(nest())
    room = study.resolved["layer-2"].rooms["floor"].height
    assert room is not None
    t = study.resolved["tray"].final.paper.caliper
    found = wrong(Study(set_value(nest(), "tray", "height", room.value - t / 2 + extra)))
    high = [c for c in found if c.gap.code == "headroom"]
    assert [c.is_clash for c in high] == [True]
    assert high[0].gap.value == pytest.approx(-extra)


def test_contents_too_large_for_a_given_box() -> None:
    mm = 1 / 25.4
    study = Study(designed("explosion-box", base=2, wall=2, content_width=50 * mm, content_height=52 * mm))
    codes = {(c.gap.code, c.verdict) for c in wrong(study)}
    assert ("headroom", "clash") in codes and any(code == "contents" for code, _ in codes)


def test_mat_wider_than_its_panel_and_tag_wider_than_its_pocket() -> None:
    design = add_guest(
        designed("explosion-box", base=4, wall=4, corner="pocket"),
        "box",
        Element("m", "mat", settings={"width": 108.0}),
        Place("right-inside"),
    )
    assert any(c.gap.code == "mat" and c.is_clash for c in Study(design).checks)
    tagged = Study(set_value(designed("explosion-box", base=4, wall=4, corner="pocket"), "box", "tag-width", 101.5))
    assert any(c.gap.code == "pocket" and c.is_clash for c in tagged.checks)


def test_cross_larger_than_its_sheet() -> None:
    study = Study(designed("explosion-box", base=5, wall=5, piecing="one"))
    assert [c.gap.code for c in study.checks if c.is_clash] == ["sheet"]
    assert study.checks[0].gap.value == pytest.approx(-3 * 25.4)


@pytest.mark.parametrize(
    ("element", "name", "value"),
    [("layer-2", "base", 101.6), ("tray", "height", 110.0), ("lid", "top-width", 101.0), ("tray", "width", 99.0)],
)
def test_remedies_cure(element: str, name: str, value: float) -> None:
    study = Study(set_value(nest(), element, name, value))
    bad = next(c for c in study.checks if not c.is_fine and c.gap.element == element)
    cures = remedies(study, bad)
    assert cures
    for cure in cures:
        after = Study(applied(study, cure))
        same = [c for c in after.checks if (c.gap.code, c.gap.between) == (bad.gap.code, bad.gap.between)]
        assert same and all(c.is_fine for c in same)
        assert sum(c.is_clash for c in after.checks) <= sum(c.is_clash for c in study.checks)
    assert (cures[0].element, cures[0].parameter, cures[0].value) == (element, name, None)  # the natural one first


@given(st.floats(-9, 9), st.sampled_from((0.5, 1.0, 1.5875, 3.175)), st.sampled_from((-2.0, -1.0, -0.5, 0.5, 1.0)),
       st.floats(20, 80))  # fmt: skip
def test_a_remedy_is_rounded_to_the_side_that_cures(value: float, grid: float, slope: float, now: float) -> None:
    # what a remedy gives lies within what is asked, and the next mark back does not
    rest = Term("rest", value - slope * now)
    gap = Gap(uses.TRAY, "a", "b", ("a", "b"), Span((Term("width", slope * now, Lever("a", "width", slope)), rest)))
    check = judge(replace(gap, want=(1.0, 5.0)))
    found = candidates(check, lambda e, p: now, lambda e, p: False, lambda e, p: grid)
    if 1.0 <= value <= 5.0:
        assert found == ()
        return
    for cure in found:
        assert cure.value is not None
        back = -grid if (cure.value > now) else grid
        cured, before = (value + slope * (at - now) for at in (cure.value, cure.value + back))
        if value < 1.0:
            assert cured >= 1.0 - 1e-6 > before - 2e-6
        else:
            assert cured <= 5.0 + 1e-6 < before + 2e-6


def test_a_fine_gap_has_no_remedy() -> None:
    study = Study(nest())
    assert remedies(study, study.checks[0]) == ()


@pytest.mark.parametrize("sides", [3, 5, 6, 8])
def test_contents_too_wide_for_a_box_of_other_walls(sides: int) -> None:
    mm = 1 / 25.4
    given = {"content_width": 50 * mm, "content_depth": 50 * mm, "content_height": 40 * mm}
    fine = Study(designed("explosion-box", sides=sides, **given))
    assert [c.verdict for c in fine.checks if c.gap.code == "contents" and c.is_clash] == []
    assert len({c.gap.between for c in fine.checks}) == len(fine.checks)  # each is told apart
    base = fine.current("box", "base") or 0.0
    small = Study(set_value(designed("explosion-box", sides=sides, **given), "box", "base", base - 8.0))
    found = [c for c in small.checks if c.gap.code == "contents" and c.against == "below"]
    assert found and min(c.gap.value for c in found) < min(c.gap.value for c in fine.checks if c.gap.code == "contents")
    far_too_small = Study(set_value(designed("explosion-box", sides=sides, **given), "box", "base", base * 0.7))
    assert any(c.gap.code == "contents" and c.is_clash for c in far_too_small.checks)
