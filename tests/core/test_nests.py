"""Over random valid parameters: pieces are sound, walls meet, layers lie inside their host with the promised gap."""

from __future__ import annotations

import math

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from yawning_lantern.design import Element, Place, add_guest
from yawning_lantern.errors import ParameterError
from yawning_lantern.fold import State, apply, pose
from yawning_lantern.pattern.validity import faults
from yawning_lantern.study import Study

from ..conftest import designed

eighths = st.integers(16, 44).map(lambda k: k / 8)
FOLD = 0.22  # of a caliper: how far a 90° fold moves its wall from the nominal panel's edge, R(1 − π/4) twice


def corners(study: Study, element: str, panel: str, instance: str | None = None) -> list[tuple[float, float, float]]:
    """Corners of a panel's mid-surface when shut, mm."""
    for node, frame in zip(study.assembly.nodes, study.shut_frames, strict=True):
        if node.element == element and node.panel.name == panel and instance in (None, node.instance):
            return [apply(frame, x, y) for x, y in node.panel.outline]
    raise AssertionError((element, panel))


@given(eighths, eighths, st.sampled_from([3, 4, 5, 6, 8]), st.booleans())
def test_boxes_are_sound_and_their_walls_meet(base: float, wall: float, sides: int, pocket: bool) -> None:
    corner = "pocket" if pocket and sides == 4 else "plain"
    try:
        study = Study(designed("explosion-box", base=base, wall=wall, sides=sides, corner=corner, piecing="one"))
    except ParameterError as error:
        assert corner == "pocket" and error.remedy  # too small for a tag
        assume(False)
    for piece in study.pieces:
        assert faults(piece) == ()
    names = ("right", "back", "left", "front") if sides == 4 else tuple(str(k + 1) for k in range(sides))
    for k, name in enumerate(names):
        here = corners(study, "box", f"wall-{name}", "cross")
        there = corners(study, "box", f"wall-{names[(k + 1) % sides]}", "cross")
        top = max(p[2] for p in here)
        upper = [p for p in here if p[2] > top - 1e-6]
        gap = min(math.dist(p, q) for p in upper for q in there)
        assert gap < 0.1  # mm: folded walls meet


@given(eighths, eighths, eighths, st.sampled_from(["single", "double"]), st.sampled_from(["snug", "easy", "loose"]))
def test_lids_and_trays_are_sound(width: float, depth: float, height: float, kind: str, play: str) -> None:
    tray = Study(designed("tray", width=width, depth=depth, height=height / 3, lid=play))
    cap = Study(designed("lid", over_width=width, over_depth=depth, rim=height / 4, rim_kind=kind, play=play))
    for study in (tray, cap):
        for piece in study.pieces:
            assert faults(piece) == ()
        assert not [c for c in study.checks if c.is_clash and c.gap.code not in ("sheet", "rim")]
    walls = [corners(tray, "tray", f"wall-{side}") for side in ("right", "back", "left", "front")]
    for a, b in zip(walls, walls[1:] + walls[:1], strict=True):
        assert min(math.dist(p, q) for p in a for q in b if p[2] > 5 and q[2] > 5) < 0.1


@given(eighths, eighths, st.integers(2, 4), st.booleans(), st.sampled_from(["same", "lower"]))
def test_each_layer_lies_in_its_host_with_the_promised_gap(
    base: float, wall: float, layers: int, pocket: bool, school: str
) -> None:
    assume(base - layers / 2 > 1.5)
    try:
        study = Study(
            designed(
                "explosion-box",
                base=base,
                wall=wall,
                layers=layers,
                layer_walls=school,
                corner="pocket" if pocket else "plain",
                piecing="one",
            )
        )
    except ParameterError:
        assume(False)
    elements = ["box", *(f"layer-{k}" for k in range(2, layers + 1))]
    for k in range(1, layers):
        for check in study.checks:
            gap = check.gap
            if gap.element != elements[k] or gap.code != "layer":
                continue
            angle = gap.angle or 0.0
            turn = (k - 1) * math.pi / 2  # the host itself is turned against the world
            way = (math.cos(angle + turn), math.sin(angle + turn))
            t = study.resolved[elements[k]].final.paper.caliper
            host, guest = (
                max(
                    p[0] * way[0] + p[1] * way[1]
                    for name in ("right", "back", "left", "front")
                    for p in corners(study, element, f"wall-{name}", "cross")
                )
                for element in (elements[k - 1], elements[k])
            )
            flaps = [
                p[0] * way[0] + p[1] * way[1]
                for node, frame in zip(study.assembly.nodes, study.shut_frames, strict=True)
                if node.element == elements[k - 1] and node.panel.name.startswith(("flap", "tag"))
                for p in [apply(frame, *node.panel.centre)]
            ]
            inner = min([host, *(f for f in flaps if f > host - 3 * t - 1e-6)])
            assert inner - guest - t == pytest.approx(gap.value, abs=FOLD * t + 1e-6)
            assert gap.value > 0


@given(eighths, eighths, st.integers(1, 4))
def test_everything_shut_stays_inside_the_lid(base: float, wall: float, layers: int) -> None:
    assume(base - layers / 2 > 1.5)
    study = Study(designed("explosion-box", base=base, wall=wall, layers=layers, lid="easy", piecing="one"))
    top = list(corners(study, "lid", "top"))
    t = study.resolved["lid"].final.paper.caliper
    inside = [
        apply(frame, x, y)
        for node, frame in zip(study.assembly.nodes, study.shut_frames, strict=True)
        if node.element != "lid"
        for x, y in node.panel.outline
    ]
    assert max(p[2] for p in inside) <= top[0][2] - t / 2 + FOLD * t
    assert max(abs(p[0]) for p in inside) + t / 2 < max(p[0] for p in top) - t / 2
    assert max(abs(p[1]) for p in inside) + t / 2 < max(p[1] for p in top) - t / 2


@given(st.floats(20, 80), st.floats(20, 80), st.floats(10, 70), st.integers(1, 3), st.sampled_from(["same", "lower"]))
def test_contents_always_find_room(width: float, depth: float, height: float, layers: int, school: str) -> None:
    mm = 1 / 25.4
    study = Study(
        designed(
            "explosion-box",
            content_width=width * mm,
            content_depth=depth * mm,
            lid="easy",
            content_height=height * mm,
            layers=layers,
            layer_walls=school,
        )
    )
    assert [c for c in study.checks if not c.is_fine and c.gap.code != "sheet" and c.gap.code != "rim"] == []
    inner = "box" if layers == 1 else f"layer-{layers}"
    t = study.resolved[inner].final.paper.caliper
    assert (study.current(inner, "base") or 0) - t >= width
    assert (study.current(inner, "base-depth") or 0) - t >= depth
    assert (study.current(inner, "wall") or 0) - t / 2 >= height


def test_a_guest_of_every_kind_three_deep_and_more() -> None:
    design = designed("explosion-box", base=4, wall=4, layers=3)
    for host, guest, family, face in (
        ("layer-3", "tray", "tray", "floor"),
        ("tray", "tray-lid", "lid", "mouth"),
        ("tray-lid", "m1", "mat", "top"),
        ("m1", "m2", "mat", "face"),
        ("tray", "m3", "mat", "left-outside"),
        ("tray", "inner", "explosion-box", "floor"),
        ("inner", "inner-lid", "lid", "mouth"),
    ):
        design = add_guest(design, host, Element(guest, family), Place(face))
    study = Study(design)
    assert study.resolved["m2"].depth == 6 and study.resolved["inner-lid"].depth == 5
    assert not [c for c in study.checks if c.is_clash and c.gap.code != "sheet"]
    assert len({r.element.family for r in study.resolved.values()}) == 4


def test_bulk_enters_every_gap_it_touches() -> None:
    design = designed("explosion-box", base=4, wall=4, lid="easy")
    bare = Study(design)
    matted = Study(add_guest(design, "box", Element("m", "mat", stock="pattern-190"), Place("right-outside")))
    t = matted.resolved["m"].final.paper.caliper
    exact = [s.resolved["lid"].sizes["top-width"].exact or 0.0 for s in (bare, matted)]
    assert exact[1] - exact[0] == pytest.approx(2 * t)  # lid = box + sheets + 2·bulk + play
    assert t == pytest.approx(0.190 * 1.15)


def test_making_starts_flat_and_ends_shut() -> None:
    study = Study(designed("explosion-box", base=4, wall=4, corner="pocket"))
    flat = pose(study.assembly, State(0.0, (0.0,) * len(study.assembly.motions)))
    for node, frame in zip(study.assembly.nodes, flat, strict=True):
        if node.instance == "cross":
            assert frame[8] == pytest.approx(1.0)  # every panel's front face looks up
    assert study.size_at(-1.0)[:2] == pytest.approx((304.8, 304.8), abs=1e-6)
    assert study.size_at(0.0)[2] < 102.5


@pytest.mark.parametrize("sides", [3, 5, 6, 8])
@pytest.mark.parametrize("way", ["size", "contents"])
def test_layers_of_other_polygons_stand_evenly(sides: int, way: str) -> None:
    # geometry: opposite walls (or wall and middle, twice) of the next layer stand 1/2 closer; the gap is half of that
    # less a sheet on every side, and what the trimmer's marks add to the side
    given = {"base": 3.0, "wall": 3.0} if way == "size" else {"content_width": 2.0, "content_height": 2.0}
    study = Study(designed("explosion-box", layers=3, sides=sides, piecing="one", **given))
    t = study.resolved["box"].final.paper.caliper
    found = [c.gap for c in study.checks if c.gap.code == "layer"]
    assert len(found) == 2 * sides
    marks = 25.4 / 16 / 2 / math.tan(math.pi / sides)
    assert all(-1e-6 <= gap.value - (12.7 / 2 - t) < marks for gap in found)
    inner, outer = (study.current(e, "base") or 0.0 for e in ("layer-2", "box"))
    assert 0 <= outer - inner - 12.7 * math.tan(math.pi / sides) < 25.4 / 16
    assert all((x / (25.4 / 16)) == pytest.approx(round(x / (25.4 / 16))) for x in (inner, outer))
    assert not [c for c in study.checks if c.is_clash and c.gap.code != "sheet"]
