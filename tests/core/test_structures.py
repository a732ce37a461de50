"""Structures as they stand: told sizes against built ones, pleats by brute force, stacks, polygons and falls."""

from __future__ import annotations

import math
from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.spatial.transform import Rotation
from shapely import MultiPoint, Polygon

from yawning_lantern.design import Element, Place, add_guest
from yawning_lantern.fold import State, corners, extent, pose
from yawning_lantern.pattern.validity import faults
from yawning_lantern.structures import families, start_design
from yawning_lantern.structures.kit.pleats import (
    PleatedRing,
    Ring,
    joined,
    keeps_alternating,
    least_hub,
    strips_must_flip,
)
from yawning_lantern.study import Study

from ..conftest import Maker, designed
from ..plain_hosts import takers

ONTO = sorted(
    k for k, f in families().items() if f.relation in ("onto", "inside") and takers(k)[0][0] in ("mat", "tray")
)
T = 0.27  # mm: 216 g/m² at 1.25 cm³/g


def on_a_sheet(kind: str, given_: dict[str, float | str] | None = None) -> Study:
    """A structure alone on a large flat face."""
    design = start_design("mat", {"width": 180.0, "height": 230.0})
    return Study(add_guest(design, "mat", Element("g", kind, "", given_ or {}), Place("face")))


def span_of(study: Study, element: str) -> tuple[tuple[float, ...], tuple[float, ...]]:
    """Least and greatest corner of one element's sheets when shut, thickness included, mm."""
    from yawning_lantern.assembly import Assembly

    own = [(n, f) for n, f in zip(study.assembly.nodes, study.shut_frames, strict=True) if n.element == element]
    return extent(Assembly(tuple(n for n, _ in own), ()), [f for _, f in own])


@pytest.mark.parametrize("kind", ONTO)
def test_it_stands_as_it_tells_its_host(kind: str) -> None:
    study = on_a_sheet(kind)
    lo, hi = span_of(study, "g")
    need, floor = study.resolved["g"].need, study.resolved["mat"].final.paper.caliper
    assert need.height is not None and need.height.value == pytest.approx(hi[2] - floor, abs=1.2 * T)
    for axis in (0, 1):
        reach = need.sides[axis].reach.value + need.sides[axis + 2].reach.value
        assert hi[axis] - lo[axis] <= reach + 1.2 * T
    assert lo[2] >= -0.01


@pytest.mark.parametrize("kind", sorted(families()))
def test_every_structure_folds_from_whole_sheets(kind: str) -> None:
    study = Study(start_design(kind, {}))
    assert not study.has_clash, [c.gap.between for c in study.checks if c.is_clash]
    for piece in study.pieces:
        assert faults(piece) == ()
    for position in (-1.0, -0.4, 0.0, 0.3, 0.8, 1.0):
        frames, tree = study.picture(position)
        assert tree is not None
        assert np.isfinite(np.array(frames)).all()


def test_bulk_of_what_lies_on_a_part_goes_all_the_way_up() -> None:
    # a card on a flap of a waterfall on a wall of the outer layer moves the inner layer in
    box = start_design("explosion-box", {"base": 120.0, "wall": 90.0, "layers": 2})
    design = add_guest(box, "box", Element("w", "waterfall", "", {"flaps": 3}), Place("right-inside"))
    plain = Study(design)
    thick = Study(
        add_guest(
            design,
            "w",
            Element("card", "photo", "", {"thick": 6.0, "width": 40.0, "height": 30.0}),
            Place("flap-2-front"),
        )
    )
    for study in (plain, thick):
        assert not study.has_clash
    before, after = (s.current("layer-2", "base") or 0.0 for s in (plain, thick))
    assert before == pytest.approx(120.0 - 12.7)  # the habit of half an inch is enough
    # worked: five sheets and the card on one wall, as much on the other side, two sheets and the least play
    needed = 2 * (5 * T + 6.0) + 2 * T + 25.4 / 16
    assert after == pytest.approx(120.0 - math.ceil(needed / (25.4 / 16)) * 25.4 / 16)


def test_as_many_flaps_as_fit_are_told_up_the_nest() -> None:
    box = designed("explosion-box", base=6, wall=5, layers=2)
    study = Study(add_guest(box, "box", Element("w", "waterfall", "", {"flap-length": 60.0}), Place("left-inside")))
    flaps = int(study.current("w", "flaps") or 0)
    # worked: L + (N − 1)·s ≤ B
    base, step = (study.current("w", n) or 0.0 for n in ("base-length", "step"))
    assert flaps == 1 + int((base - 60.0) // step) and flaps > 4
    layers = [c.gap for c in study.checks if c.gap.code == "layer"]
    assert all(gap.value > 0 for gap in layers)
    need = study.resolved["w"].need.height
    assert need is not None and study.resolved["box"].final.bulk_on("left-inside") == pytest.approx(need.value)


# -- waterfall and its kin


def test_flaps_lie_on_one_another_and_lift_in_turn(studied: Maker) -> None:
    study = studied("waterfall", flaps=5)
    nodes = study.assembly.nodes
    flaps = [k for k, n in enumerate(nodes) if n.panel.name == "flap"]
    heights = [study.shut_frames[k][11] for k in flaps]
    assert all(b - a == pytest.approx(T, abs=1e-6) for a, b in pairwise(heights))
    names = [m.name for m in study.assembly.motions]
    assert names == [f"waterfall.flap-{k}" for k in (5, 4, 3, 2, 1)]
    half = pose(study.assembly, State(1.0, (1.0, 0.5, 0.0, 0.0, 0.0)))
    tops = [max(p[2] for p in corners(nodes[k], half[k])) for k in flaps]
    assert tops[4] > 20 and tops[3] > 20 and all(t < 5 for t in tops[:3])


def test_pulled_strip_turns_its_flaps_by_half_a_turn(studied: Maker) -> None:
    study = studied("pull-waterfall", flaps=4)
    opened = pose(study.assembly, State(1.0, (1.0,) * 4))
    for k, node in enumerate(study.assembly.nodes):
        shut = Rotation.from_matrix(np.array(study.shut_frames[k][:9]).reshape(3, 3).T)
        now = Rotation.from_matrix(np.array(opened[k][:9]).reshape(3, 3).T)
        turned = (shut.inv() * now).magnitude()
        assert turned == pytest.approx(
            math.pi if node.panel.name == "flap" or "step" in node.panel.name else 0.0, abs=1e-6
        )
        if node.panel.name == "back":
            moved = np.array(opened[k][9:]) - np.array(study.shut_frames[k][9:])
            travel = study.current("waterfall", "travel")
            assert np.linalg.norm(moved) == pytest.approx(travel)


@pytest.mark.parametrize("drop", [30, 60, 90])
def test_front_falls_to_its_angle_and_the_strap_is_taut(drop: int) -> None:
    study = Study(start_design("drop-front", {"height": 60.0, "drop": drop}))
    opened = pose(study.assembly, State(1.0, (1.0,)))
    at = study.assembly.index("front", "box", "wall-front")
    outline = corners(study.assembly.nodes[at], opened[at])
    foot = [p for p in outline if p[2] < 1.0]
    head = [p for p in outline if p[2] >= 1.0] or [p for p in outline if p not in foot]
    if drop < 90:
        rise = max(p[2] for p in head)
        assert rise == pytest.approx(60.0 * math.cos(math.radians(drop)), abs=0.4)
    out = max(-p[1] for p in outline) - study.resolved["front"].sizes["depth"].length / 2
    assert out == pytest.approx(study.current("front", "reach"), abs=0.4)


def test_ladder_hangs_with_every_mouth_to_the_eye(studied: Maker) -> None:
    study = studied("drop-ladder", trays=4)
    opened = pose(study.assembly, State(1.0, (1.0,) * 3))
    bases = [k for k, n in enumerate(study.assembly.nodes) if n.panel.name == "base"]
    for k, base in enumerate(bases):
        assert study.shut_frames[base][8] == pytest.approx(1.0 if k % 2 == 0 else -1.0)
        assert opened[base][8] > 0.99
    depths = [np.mean(corners(study.assembly.nodes[b], opened[b]), axis=0)[1] for b in bases]
    tall = study.current("ladder", "height") or 0.0
    assert all(a - b == pytest.approx(tall, abs=3.0) for a, b in pairwise(depths))


def test_tiers_stack_into_one_column(studied: Maker) -> None:
    for trays in (2, 3, 4, 5, 8):
        study = studied("tier-wrap", trays=trays)
        mids = []
        for node, frame in zip(study.assembly.nodes, study.shut_frames, strict=True):
            if node.panel.name == "base":
                mids.append(np.mean(corners(node, frame), axis=0))
        mids.sort(key=lambda p: p[2])
        assert len(mids) == trays
        pitch = study.resolved["wrap"].sizes["height"].length + T
        for k, p in enumerate(mids):
            assert p[2] == pytest.approx(T / 2 + k * pitch, abs=0.15)
            # play and rounding only; a second turn is wider by a sixteenth and more, the least the trimmer can do
            assert max(abs(p[0]), abs(p[1])) < 4.5 + (25.4 / 16 if trays > 4 else 0.0)
        opened = pose(study.assembly, State(1.0, (1.0,) * len(study.assembly.motions)))
        panels = [f for n, f in zip(study.assembly.nodes, opened, strict=True) if n.instance == "wrapper"]
        assert all(f[6:9] == pytest.approx(panels[0][6:9], abs=1e-6) for f in panels)  # one plane


# -- books


@given(st.integers(1, 10), st.floats(8, 20))
@settings(max_examples=20)
def test_spine_keeps_its_pages_apart(pages: int, pleat: float) -> None:
    study = Study(start_design("accordion-spine", {"pages": pages, "pleat": pleat, "page-width": 110.0}))
    heights = sorted(
        f[11] for n, f in zip(study.assembly.nodes, study.shut_frames, strict=True) if n.panel.name == "page"
    )
    # two pleats and a page to each: 2t + page
    assert all(b - a == pytest.approx(3 * T, abs=1e-6) for a, b in pairwise(heights))
    opened = pose(study.assembly, State(1.0, (1.0,)))
    front = study.assembly.index("spine", "front", "board")
    assert opened[front][8] == pytest.approx(-1.0 if pages > 0 else 1.0, abs=1e-6)  # the cover lies on its face
    assert study.resolved["spine"].sizes["strip"].length == pytest.approx((2 * pages + 2) * pleat)


def test_flat_hills_make_room_for_bulk(studied: Maker) -> None:
    study = studied("accordion-spine", pages=4, page_bulk=0.25)
    top = study.current("spine", "hill-top") or 0.0
    assert top == pytest.approx(25.4 / 4 - 3 * T, abs=25.4 / 16)
    heights = sorted(
        f[11] for n, f in zip(study.assembly.nodes, study.shut_frames, strict=True) if n.panel.name == "page"
    )
    assert all(b - a >= 25.4 / 4 - 3 * T for a, b in pairwise(heights))


# -- rosettes


def folded_senses(strips: int, each: int, flip: bool) -> list[int]:
    """Brute force: pleat every strip to and fro, lay each new strip's first panel on the last one's last panel; the
    folds of the ring in order, +1 for a mountain."""
    ring: list[int] = []
    for k in range(strips):
        turned = -1 if flip and k % 2 else 1
        folds = [turned * (1 if j % 2 == 0 else -1) for j in range(each - 1)]
        if ring and folds[0] == ring[-1]:
            folds = [-f for f in folds]  # it has to lie the other face up to go on
        ring += folds
    return ring


@given(st.integers(1, 5), st.integers(4, 30))
def test_parity_by_pleating(strips: int, each: int) -> None:
    folds = folded_senses(strips, each, flip=False)
    assert len(folds) == joined(strips, each)  # as many folds as panels once the last join is made
    alternates = all(a != b for a, b in pairwise(folds)) and folds[0] != folds[-1]
    assert alternates == keeps_alternating(joined(strips, each))


@given(st.integers(4, 30))
def test_one_sided_strips_turn_over_where_their_panels_are_even(each: int) -> None:
    # the second strip begins with the fold that must follow; if that is its own first fold, its face stays up
    first = [1 if j % 2 == 0 else -1 for j in range(each - 1)]
    must_be = -first[-1]
    assert strips_must_flip(each) == (must_be != first[0])


@given(st.integers(10, 60), st.floats(3, 15), st.floats(10, 60))
def test_pleats_stand_as_pythagoras_says(half: int, pitch: float, width: float) -> None:
    n = 2 * half
    ring = Ring(n, pitch, width, least_hub(n, T))
    if ring.fullness < 1.0:
        return
    shape = PleatedRing(ring, 0)
    for panel in (0, 1, n // 2):
        hub_a, hub_b, rim_b, rim_a = (np.array(p) for p in shape.points(panel, 1.0))
        # along the arc a pleat spans 2πr/n; off the table the rest of p
        for a, b, radius in ((hub_a, hub_b, ring.hub), (rim_a, rim_b, ring.radius)):
            arc = 2 * math.pi * radius / n
            assert math.hypot(arc, b[2] - a[2]) == pytest.approx(pitch, rel=1e-9)
            assert math.hypot(a[0], a[1]) == pytest.approx(radius)
        assert rim_a[2] <= ring.height(ring.hub) + 1e-9
    flat = [np.array(p) for p in shape.points(3, 0.0)]
    assert Polygon([p[:2] for p in flat]).area == pytest.approx(pitch * width)


def test_rosette_lies_flat_only_with_enough_pleats(studied: Maker) -> None:
    from yawning_lantern.errors import ParameterError

    rim = 2 * math.pi * (50.0 + 4.0)
    for panels, fine in ((int(0.97 * rim / 10) // 2 * 2, False), (int(1.2 * rim / 10) // 2 * 2, True)):
        each = panels // 2 + 1
        given_ = {"strip-width": 50.0, "hub": 4.0, "pleat": 10.0, "strips": 2, "strip-length": each * 10.0}
        if fine:
            assert not Study(start_design("rosette", given_)).has_clash
        else:
            with pytest.raises(ParameterError, match="too few to lie flat"):
                Study(start_design("rosette", given_))


@pytest.mark.parametrize(("hub", "strips"), [(4.0, 4), (30.0, 5), (60.0, 6)])
def test_the_disc_of_a_ring_reaches_under_its_pleats_all_round(hub: float, strips: int) -> None:
    """Half as wide as the ring, and a quarter of an inch beyond the hub at least; the cover half that again at most.
    Common practice, no source."""
    given_ = {"strip-width": 40.0, "hub": hub, "pleat": 12.0, "strips": strips}
    study = Study(start_design("rosette", given_))
    sizes = study.resolved[study.design.root.id].sizes
    disc, radius = sizes["disc"].length, 40.0 + hub
    exact = max(radius, 2 * (hub + 6.35))
    assert exact - 25.4 / 16 <= disc <= exact + 1e-6
    assert 2 * (hub + 6.35) - 1e-6 <= sizes["medallion"].length <= max(0.7 * radius, 2 * (hub + 6.35)) + 25.4 / 16


def test_rosettes_stack_on_the_medallion() -> None:
    design = designed("rosette", diameter=6)
    study = Study(add_guest(design, "rosette", Element("small", "rosette"), Place("medallion")))
    assert not study.has_clash
    outer, inner = (study.current(e, "diameter") or 0.0 for e in ("rosette", "small"))
    assert 0 < inner < outer * 0.6
    assert study.closed[2] > Study(design).closed[2] + 5


# -- boxes of other shapes


@pytest.mark.parametrize("sides", [5, 6, 8])
def test_polygon_boxes_stand_on_their_base(sides: int) -> None:
    study = Study(start_design("explosion-box", {"sides": sides, "base": 50.0, "wall": 40.0, "layers": 2}))
    assert not study.has_clash
    walls = [
        (n, f)
        for n, f in zip(study.assembly.nodes, study.shut_frames, strict=True)
        if n.element == "box" and n.panel.name.startswith("wall")
    ]
    assert len(walls) == sides
    heads = [p for n, f in walls for p in corners(n, f) if p[2] > 20]
    hull = MultiPoint([p[:2] for p in heads]).convex_hull
    apothem = 25.0 / math.tan(math.pi / sides)
    area = sides * apothem * 25.0  # the regular polygon's closed form
    assert hull.area == pytest.approx(area, rel=0.02)
