"""Each family from each way in, and the shapes of its pieces, against figures worked by hand."""

from __future__ import annotations

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st
from shapely import Polygon

from yawning_lantern.design import Element, Place, add_guest, set_value
from yawning_lantern.errors import ParameterError
from yawning_lantern.exchange.plan import plan
from yawning_lantern.measure import inches
from yawning_lantern.pattern.validity import faults
from yawning_lantern.structures import families, family, parameter, read_setting
from yawning_lantern.structures.kit.shell import MITRE, tab_length
from yawning_lantern.study import Study

from ..conftest import Maker, designed

T = 0.27  # mm: 216 g/m² at 1.25 cm³/g


@pytest.mark.parametrize(
    ("kind", "given_", "solved"),
    [
        ("explosion-box", {"sheet": 12.0, "base": 3.0}, {"wall": 4.5, "base": 3.0, "cross": 12.0}),
        ("explosion-box", {"base": 3.0}, {"wall": 3.0, "base-depth": 3.0, "cross": 9.0}),
        ("explosion-box", {"wall": 2.5}, {"base": 2.5}),
        ("explosion-box", {"base": 3.0, "base_depth": 4.0, "wall": 2.0}, {"cross": 8.0}),
        ("explosion-box", {"base": 4.0, "wall": 4.0, "layers": 2, "layer_step": 0.75}, {"layer-2.base": 3.25}),
        ("explosion-box", {"base": 4.0, "wall": 4.0, "layers": 3, "layer_step": 1.0}, {"layer-3.base": 2.0}),
        (
            "explosion-box",
            {"base": 4.0, "wall": 4.0, "layers": 2, "layer_walls": "lower", "wall_step": 0.25},
            {"layer-2.wall": 3.75, "layer-2.base": 3.5},
        ),
        ("tray", {"sheet": 8.0, "height": 1.0}, {"width": 6.0, "depth": 6.0}),
        ("tray", {"sheet": 8.0}, {"height": 2.0, "width": 4.0}),
        ("tray", {"width": 5.0}, {"depth": 3.0, "height": 1.0}),
        ("mat", {"sheet": 6.0}, {"cut-width": 6.0, "cut-height": 6.0}),
        ("mat", {"width": 5.0, "height": 3.0, "border": 0.25}, {"cut-width": 4.5, "cut-height": 2.5}),
        ("lid", {"over_width": 3.0, "over_depth": 5.0, "rim": 0.75}, {"rim": 0.75, "over-depth": 5.0}),
    ],
)
def test_what_follows_from_what(
    studied: Maker, kind: str, given_: dict[str, float | str], solved: dict[str, float]
) -> None:
    # worked by hand from sheet = B + 2H, mat = panel − 2·border, and the steps of the layers
    found = plan(studied(kind, **given_))["solved"]
    assert {name: found[name] for name in solved} == pytest.approx(solved)


def test_lid_from_a_sheet_uses_it_whole(studied: Maker) -> None:
    for kind, rims in (("single", 2), ("double", 4)):
        study = studied("lid", over_width=3, over_depth=3, sheet=6, rim_kind=kind)
        assert study.pieces[0].size[0] == pytest.approx(inches(6))
        top, rim = (study.current("lid", n) or 0.0 for n in ("top-width", "rim"))
        assert top + rims * rim == pytest.approx(inches(6))


def test_lid_over_a_thing_of_known_outside(studied: Maker) -> None:
    # worked: over = thing − t, so that its outside is the thing; top = thing + t + play + tabs
    study = studied("lid", content_width=4, content_depth=4)
    exact = study.resolved["lid"].sizes["top-width"].exact or 0.0
    assert exact == pytest.approx(inches(4) + T + inches(1 / 16) + 2 * T)


@given(st.integers(8, 60), st.integers(8, 60), st.integers(2, 40))
def test_shells_have_the_area_of_their_panels(width: int, depth: int, height: int) -> None:
    w, d, h = width / 8, depth / 8, height / 8
    study = Study(designed("tray", width=w, depth=d, height=h))
    piece = study.pieces[0]
    assert piece.size[0] == pytest.approx(inches(w + 2 * h))
    # the sheet is as deep as base and walls, or as base and tabs where these are longer
    assert piece.size[1] == pytest.approx(inches(d + 2 * h))
    length, bevel = tab_length(inches(w), inches(h)), min(MITRE, inches(h) / 6)
    tabs = 4 * (inches(h) - bevel) * length
    walls = 2 * inches(h) * (inches(w) + inches(d))
    assert Polygon(piece.outline).area == pytest.approx(inches(w) * inches(d) + walls + tabs)
    assert 2 * length <= inches(w) or length == 1.0  # two tabs never meet on the wall that takes them
    assert len(piece.creases) == 8


def test_tabs_lie_inside_the_wall_that_takes_them(studied: Maker) -> None:
    from yawning_lantern.fold import apply

    study = studied("tray", width=4, depth=3, height=1)
    ys: dict[str, float] = {}
    for node, frame in zip(study.assembly.nodes, study.shut_frames, strict=True):
        ys[node.panel.name] = apply(frame, *node.panel.centre)[1]
        if node.panel.name.startswith("tab"):
            assert abs(frame[7]) == pytest.approx(1.0)  # it stands across, face to the back or front
    for side in ("right", "left"):
        assert ys["wall-back"] - ys[f"tab-{side}-back"] == pytest.approx(T, abs=0.01)
        assert ys[f"tab-{side}-front"] - ys["wall-front"] == pytest.approx(T, abs=0.01)


def test_inner_rim_of_a_double_lid_lies_inside_and_hides_the_tabs(studied: Maker) -> None:
    from yawning_lantern.fold import apply

    study = studied("lid", over_width=4, over_depth=4, rim=1, rim_kind="double")
    at: dict[str, tuple[float, float, float]] = {}
    for node, frame in zip(study.assembly.nodes, study.shut_frames, strict=True):
        at[node.panel.name] = apply(frame, *node.panel.centre)
    assert at["wall-right"][0] - at["lining-right"][0] == pytest.approx(T, abs=0.01)
    assert at["wall-back"][1] - at["lining-back"][1] == pytest.approx(2 * T, abs=0.01)  # the tab lies between
    assert at["lining-back"][1] < at["tab-right-back"][1] < at["wall-back"][1]
    assert all(at["top"][2] > p[2] for name, p in at.items() if name != "top")


def test_pocket_flaps_lie_on_their_wall_with_the_tag_between(studied: Maker) -> None:
    from yawning_lantern.fold import apply

    study = studied("explosion-box", base=4, wall=4, corner="pocket")
    at: dict[str, float] = {}
    for node, frame in zip(study.assembly.nodes, study.shut_frames, strict=True):
        at[f"{node.instance}/{node.panel.name}"] = apply(frame, *node.panel.centre)[1]
    wall = at["cross/wall-back"]
    assert wall - at["tag-back/tag"] == pytest.approx(T)
    assert wall - at["cross/flap-back-right"] == pytest.approx(2 * T)
    assert wall - at["cross/flap-back-left"] == pytest.approx(3 * T)  # over the other flap
    pocket = study.resolved["box"].part.pockets[0]
    assert pocket.mouth == "up" and pocket.width == pytest.approx(inches(4) - 2 * T)
    tag = next(p for p in study.pieces if p.id == "box.tag")
    assert tag.quantity == 2 and tag.size[0] <= pocket.width - inches(1 / 8) and tag.size[1] <= pocket.depth
    assert studied("explosion-box", base=4, wall=4, corner="pocket", tags="no").resolved["box"].part.pieces[1:] == ()


def test_pieced_box_stands_like_the_whole_one(studied: Maker) -> None:
    whole, pieced = (studied("explosion-box", base=3, wall=3, piecing=p) for p in ("one", "pieced"))
    assert [p.id for p in pieced.pieces] == ["box.strip", "box.wall"]
    assert pieced.size_at(0.0) == pytest.approx(whole.size_at(0.0), abs=2 * T)
    for piece in pieced.pieces:
        assert faults(piece) == ()
    # the walls fall open as well
    assert pieced.size_at(1.0)[0] == pytest.approx(inches(9), abs=2 * T)


def test_sheet_with_a_printed_edge_holds_only_what_can_be_used(studied: Maker) -> None:
    # common practice, no source: pattern sheets carry a printed edge of up to 1/8 more
    design = designed("explosion-box", base=4, wall=4, piecing="one")
    from yawning_lantern.design import set_stock

    study = Study(set_stock(design, None, "pattern-160"))
    gap = next(c.gap for c in study.checks if c.gap.code == "sheet")
    assert gap.value == pytest.approx(0.0, abs=1e-6)
    a4 = Study(set_stock(designed("tray", width=6, depth=9, height=1), None, "card-216-a4"))
    gap = next(c.gap for c in a4.checks if c.gap.code == "sheet")
    assert gap.value == pytest.approx(min(210 - inches(8), 297 - inches(11)))  # laid the better way; ISO 216


def test_mats_on_mats_and_on_every_face() -> None:
    design = designed("tray", width=4, depth=3, height=2)
    for k, (face, _) in enumerate(f for f in family("tray").faces if f[0] not in ("floor", "mouth")):
        design = add_guest(design, "tray", Element(f"m{k}", "mat", stock="pattern-160"), Place(face))
    study = Study(design)
    for k in range(8):
        r = study.resolved[f"m{k}"]
        wide = 3 if r.place.face.startswith(("right", "left")) else 4
        assert r.sizes["cut-width"].length == pytest.approx(inches(wide - 1 / 8))
        assert r.sizes["cut-height"].length == pytest.approx(inches(2 - 1 / 8))
    over = Study(add_guest(design, "m0", Element("photo", "mat"), Place("face")))
    assert over.resolved["photo"].sizes["cut-width"].length == pytest.approx(inches(3 - 1 / 4))
    assert not over.has_clash


@pytest.mark.parametrize("kind", sorted(families()))
def test_every_bound_holds_and_is_told(kind: str) -> None:
    declared = families()[kind].parameters
    for p in declared:
        if p.derived:
            with pytest.raises(ParameterError, match="worked out"):
                read_setting(p, "1", "in") if p.kind != "word" else read_setting(p, "x", "in")
            continue
        if p.kind in ("text", "lengths"):
            with pytest.raises(ParameterError, match="cannot be read"):
                read_setting(p, "§ drop", "in")
            if p.kind == "lengths":
                assert read_setting(p, "3 1/4 + 3 ½ + 2", "in") == "82.55mm + 88.9mm + 50.8mm"
                assert read_setting(p, "40 + 50", "mm") == "40mm + 50mm"
                with pytest.raises(ParameterError, match="not above zero"):
                    read_setting(p, "3 - 2", "in")
            continue
        if p.kind == "word":
            assert read_setting(p, p.words[0].upper(), "in") == p.words[0]
            with pytest.raises(ParameterError, match="Choose"):
                read_setting(p, "nothing of the kind", "in")
            continue
        over = f"{p.most + 1:g}" + ("" if p.kind == "count" else " mm")
        with pytest.raises(ParameterError, match="out of bounds"):
            read_setting(p, over, "in")
        some = min(max(p.least, 4), p.most)
        text = f"{some:g}" + ("" if p.kind == "count" else " mm")
        assert read_setting(p, text, "in") == pytest.approx(some)


def test_spoken_settings_change_what_is_there() -> None:
    base = parameter(family("explosion-box"), "base")
    assert read_setting(base, "1/8 more", "in", 25.4) == pytest.approx(28.575)
    assert read_setting(base, "2 less", "mm", 25.4) == pytest.approx(23.4)
    play = parameter(family("lid"), "play")
    assert read_setting(play, "Easy", "in") == "easy" and read_setting(play, "1/8", "in") == pytest.approx(3.175)
    with pytest.raises(ParameterError, match="Or say snug, easy or loose"):
        read_setting(play, "roomy", "in")


@given(st.floats(0.2, 1.0), st.integers(3, 8))
def test_polygon_contents_stand_free_of_every_wall(share: float, sides: int) -> None:
    # independent: the contents' corners against the lines of the walls' inside
    mm = 1 / 25.4
    w, d = 60.0, 60.0 * share
    study = Study(
        designed("explosion-box", content_width=w * mm, content_depth=d * mm, content_height=40 * mm, sides=sides)
    )
    base = study.current("box", "base") or 0.0
    depth = study.current("box", "base-depth") or 0.0
    for k in range(sides):
        a = 2 * math.pi * k / sides
        apothem = base / 2 / math.tan(math.pi / sides)
        if sides == 4 and k % 2:
            apothem = depth / 2
        reach = max(sx * w / 2 * math.cos(a) + sy * d / 2 * math.sin(a) for sx in (-1, 1) for sy in (-1, 1))
        assert reach + inches(1 / 16) <= apothem - T / 2 + 1e-6


def test_a_setting_given_twice_over_is_a_fit_not_a_guess() -> None:
    design = designed("explosion-box", base=4, wall=4, layers=2)
    loose = Study(set_value(design, "layer-2", "base", inches(2)))
    check = next(c for c in loose.checks if c.gap.code == "layer")
    assert check.verdict == "loose" and check.against == "above"
    assert loose.current("box", "base") == pytest.approx(inches(4))
