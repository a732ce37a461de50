"""Gaps as promised by the sums, measured again on the folded thing."""

from __future__ import annotations

import math

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from yawning_lantern.assembly import Gap, Span, Term, uses
from yawning_lantern.design import Element, Place, add_guest, set_stock
from yawning_lantern.fit.checks import judge
from yawning_lantern.fold import apply
from yawning_lantern.study import Study
from yawning_lantern.study.anchors import anchor_of

from ..conftest import designed

halves = st.integers(5, 10).map(lambda k: k / 2)
FOLD = 0.22  # of a caliper, see test_nests


def far(study: Study, element: str, axis: int, names: tuple[str, ...]) -> float:
    """The greatest coordinate of some panels' mid-surfaces when shut, mm."""
    return max(
        apply(frame, x, y)[axis]
        for node, frame in zip(study.assembly.nodes, study.shut_frames, strict=True)
        if node.element == element and node.panel.name.startswith(names)
        for x, y in node.panel.outline
    )


def middles(study: Study, element: str, axis: int, names: tuple[str, ...]) -> list[float]:
    """Coordinates of the middles of some panels when shut, mm."""
    return [
        apply(frame, *node.panel.centre)[axis]
        for node, frame in zip(study.assembly.nodes, study.shut_frames, strict=True)
        if node.element == element and node.panel.name.startswith(names)
    ]


@given(halves, halves, st.sampled_from(["single", "double"]), st.sampled_from(["snug", "easy", "loose"]))
def test_lid_over_box(base: float, wall: float, kind: str, play: str) -> None:
    design = designed("explosion-box", base=base, wall=wall, piecing="one")
    cap = Element("lid", "lid", settings={"rim-kind": kind, "play": play})
    study = Study(add_guest(design, "box", cap, Place("mouth")))
    t = study.resolved["lid"].final.paper.caliper
    for axis, where in ((0, "across"), (1, "front to back")):
        gap = next(c.gap for c in study.checks if c.gap.code == "lid" and c.gap.where == where)
        walls = ("wall-right", "wall-left") if axis == 0 else ("wall-back", "wall-front")
        inner = ("lining-right", "lining-left") if axis == 0 else ("lining-back", "lining-front")
        box = max(middles(study, "box", axis, walls)) + t / 2
        rims = middles(study, "lid", axis, inner if kind == "double" else walls)
        tabs = [x for x in middles(study, "lid", axis, ("tab",)) if abs(x) > box]
        inside = min([x for x in (*rims, *tabs) if x > 0]) - t / 2
        assert 2 * (inside - box) == pytest.approx(gap.value, abs=2 * FOLD * t + 0.02)


@given(halves, st.sampled_from(["card-176", "card-297", "chipboard-1"]), st.sampled_from([0, 1]))
def test_tray_in_box(base: float, stock: str, turn: int) -> None:
    design = designed("explosion-box", base=base, wall=2.0, piecing="one")
    design = add_guest(design, "box", Element("t", "tray", stock=stock), Place("floor", turn=turn))
    study = Study(design)
    t, thick = (study.resolved[e].final.paper.caliper for e in ("box", "t"))
    gap = next(c.gap for c in study.checks if c.gap.code == "tray" and c.gap.where == "across")
    walls = ("wall-right", "wall-left") if turn == 0 else ("wall-back", "wall-front")
    outside = max(middles(study, "t", 0, walls)) + thick / 2
    inside = max(middles(study, "box", 0, ("wall-right", "wall-left"))) - t / 2
    assert 2 * (inside - outside) == pytest.approx(gap.value, abs=FOLD * (t + thick) + 0.02)
    high = next(c.gap for c in study.checks if c.gap.code == "headroom")
    assert far(study, "box", 2, ("wall",)) - far(study, "t", 2, ("wall",)) == pytest.approx(
        high.value, abs=FOLD * (t + thick)
    )


@given(st.integers(1, 5), st.sampled_from(["card-216", "chipboard-2", "vellum"]))
def test_floors_are_stacked_by_their_thickness(layers: int, stock: str) -> None:
    assume(layers > 1)
    design = set_stock(designed("explosion-box", base=6, wall=2, layers=layers, piecing="one"), None, stock)
    study = Study(design)
    t = study.resolved["box"].final.paper.caliper
    heights = [middles(study, e, 2, ("base",))[0] for e in ("box", *(f"layer-{k}" for k in range(2, layers + 1)))]
    assert heights == pytest.approx([t / 2 + k * t for k in range(layers)])


def test_glue_with_thickness_lifts_what_it_holds() -> None:
    from msgspec.structs import replace

    design = designed("explosion-box", base=4, wall=3, layers=2)
    tape = Study(replace(design, adhesive="foam-1"))
    t = tape.resolved["box"].final.paper.caliper
    assert middles(tape, "layer-2", 2, ("base",)) == pytest.approx([t / 2 + t + 1.0])  # a pad of 1 mm between


@pytest.mark.parametrize("turn", range(4))
def test_a_quarter_turn_turns_the_pockets(turn: int) -> None:
    design = designed("explosion-box", base=4, wall=3)
    inner = Element("in", "explosion-box", settings={"corner": "pocket"})
    study = Study(add_guest(design, "box", inner, Place("floor", turn=turn)))
    axis = 1 if turn % 2 == 0 else 0
    assert len([x for x in middles(study, "in", axis, ("flap",)) if abs(x) > 40]) == 4
    assert all(abs(x) < 40 for x in middles(study, "in", 1 - axis, ("flap",)))


def test_anchors_of_gaps_lie_where_the_gap_is() -> None:
    study = Study(designed("explosion-box", base=4, wall=3, layers=2, lid="easy", corner="pocket"))
    t = study.resolved["box"].final.paper.caliper
    seen = set()
    sideways = 0
    for check in study.checks:
        anchor = anchor_of(study, check)
        if anchor is None:
            continue
        seen.add(check.gap.code)
        share = 0.5 if check.gap.where in ("across", "front to back") else 1.0
        assert math.dist(anchor.start, anchor.end) == pytest.approx(abs(check.gap.value) * share, abs=1e-9)
        if check.gap.code == "layer" and check.gap.where == "right":
            assert anchor.end[0] == pytest.approx(2 * 25.4 - t / 2)
        assert 0 <= anchor.end[2] <= 3.2 * 25.4
        if check.gap.where != "up" and check.gap.value > 0:  # the guest is on the near side, or around it
            middle = study.mount_frames[check.gap.host, check.gap.mount][9:11]
            near, far = (math.dist(point[:2], middle) for point in (anchor.start, anchor.end))
            assert (near > far) == check.gap.use.outside
            sideways += 1
    assert sideways > 3
    assert seen >= {"layer", "lid", "wall-height"}


@pytest.mark.parametrize("use", [use for use in vars(uses).values() if isinstance(use, uses.Use)], ids=lambda u: u.code)
@given(st.floats(-4, 40), st.sampled_from((0.5, 0.25)))
def test_a_share_of_a_gap_is_judged_as_the_whole(use: uses.Use, value: float, share: float) -> None:
    """One side of two, half as wide: as tight, as snug, as loose."""
    assume(all(abs(value - edge) > 1e-3 for edge in (*use.bands, *use.wanted(""), 0.0)))
    whole = judge(Gap(use, "a", "b", ("a", "b"), Span((Term("left", value),))))
    part = judge(Gap(use, "a", "b", ("a", "b"), Span((Term("left", value * share),)), share=share))
    assert (part.verdict, part.against) == (whole.verdict, whole.against)
