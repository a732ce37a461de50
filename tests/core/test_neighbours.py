"""Things that no host brings together, and where a thing sits: each side's own gap, neighbours on one face, on walls
that meet and walls that face, what hangs against what stands. Distances by shapely and by hand; contacts by
the library."""

from __future__ import annotations

import random
from collections import Counter

import pytest
from shapely import Polygon

from yawning_lantern.design import Design, Element, Place, add_guest, set_value
from yawning_lantern.errors import LanternError
from yawning_lantern.exchange.design_file import read_design
from yawning_lantern.fit import Check
from yawning_lantern.fold import corners
from yawning_lantern.opening import Plates
from yawning_lantern.study import Study, applied, remedies
from yawning_lantern.study.bodies import solids

from ..conftest import DEMO, designed
from .test_random_nests import random_nest

T = 0.27  # mm: 216 g/m² at 1.25 cm³/g


def clashes(study: Study) -> list[Check]:
    return [check for check in study.checks if check.is_clash]


def boxed(*guests: tuple[str, Element, Place], **given: float | str) -> Design:
    design = designed("explosion-box", base=4, wall=4, **given)
    for host, element, place in guests:
        design = add_guest(design, host, element, place)
    return design


def footprint(study: Study, element: str) -> Polygon:
    """The outline of an element from above when all is shut, mm."""
    points = [
        p[:2]
        for node, frame in zip(study.assembly.nodes, study.shut_frames, strict=True)
        if node.element == element
        for p in corners(node, frame)
    ]
    return Polygon(points).convex_hull


# -- where a thing sits on its face


def test_a_mat_off_the_middle_hangs_over_one_edge() -> None:
    # a 4 in wall and a mat an eighth smaller: 1/16 border; 10 mm off, it stands 10 − 1/16 in over the edge
    design = boxed(("box", Element("m", "mat"), Place("right-inside", 10.0)))
    study = Study(design)
    (worst,) = [c for c in clashes(study) if c.gap.element == "m"]
    assert worst.gap.value == pytest.approx(25.4 / 16 - 10.0) and worst.gap.code == "mat"
    cures = remedies(study, worst)
    assert cures and cures[0].parameter == "place-x"
    cured = Study(applied(study, cures[0]))
    assert not cured.has_clash and cured.resolved["m"].place.x == pytest.approx(0.0)
    # either side is a gap of its own, and up and down stay one
    assert {c.gap.where for c in study.checks if c.gap.element == "m" and c.gap.host == "box"} == {
        "right", "left", "front to back",
    }  # fmt: skip
    assert not Study(boxed(("box", Element("m", "mat"), Place("right-inside", 0.5)))).has_clash


def test_each_side_is_asked_for_half_of_what_both_are() -> None:
    both = Study(boxed(("box", Element("m", "mat"), Place("back-inside"))))
    apart = Study(boxed(("box", Element("m", "mat"), Place("back-inside", 0.1))))
    (whole,) = [c for c in both.checks if c.gap.element == "m" and c.gap.where == "across"]
    halves = [c for c in apart.checks if c.gap.element == "m" and c.gap.where in ("right", "left")]
    assert sum(c.gap.value for c in halves) == pytest.approx(whole.gap.value)
    assert all(c.want[0] == pytest.approx(whole.want[0] / 2) for c in halves)
    # and of what was put off the middle nobody asks that it fills its place
    assert all(c.against != "above" for c in halves)


def test_a_tray_stands_amid_what_is_free_between_unlike_walls() -> None:
    # three photos of 2 mm on the right wall only: the tray beside them has as much room on the left as on the right
    design = boxed(("box", Element("p", "photo", "", {"thick": 6.0}), Place("right-inside")))
    design = add_guest(design, "box", Element("t", "tray", "", {"height": 30.0}), Place("floor"))
    study = Study(design)
    assert not study.has_clash
    tray = footprint(study, "t").bounds
    half = 101.6 / 2
    assert (half - T / 2 - 6.0) - tray[2] == pytest.approx(tray[0] + half - T / 2, abs=0.2)


# -- neighbours


def two_trays(apart: float, axis: str = "x") -> Design:
    design = designed("explosion-box", base=6, wall=3)
    for name, at in (("a", -apart / 2), ("b", apart / 2)):
        place = Place("floor", at, 0.0) if axis == "x" else Place("floor", 0.0, at)
        given = {"width": 50.8, "depth": 50.8, "height": 25.4}
        design = add_guest(design, "box", Element(name, "tray", f"Tray {name}", given), place)
    return design


@pytest.mark.parametrize("axis", ["x", "y"])
@pytest.mark.parametrize("apart", [20.0, 45.0, 50.0, 51.5, 53.0, 60.0])
def test_two_trays_on_one_floor(apart: float, axis: str) -> None:
    study = Study(two_trays(apart, axis))
    beside = [c for c in study.checks if c.gap.code == "beside"]
    one, other = footprint(study, "a"), footprint(study, "b")
    if one.intersection(other).area > 1.0:
        # 2 in trays nearer than 2 in (and their sheet) share a place
        (found,) = beside
        assert found.is_clash
        if apart > 40:
            assert -found.gap.value == pytest.approx(50.8 + T - apart, abs=0.25)
    elif apart < 54.0:
        (found,) = beside
        assert found.gap.value == pytest.approx(one.distance(other) - T, abs=0.2) and not found.is_clash
    else:
        assert not beside


def test_what_parts_two_neighbours_is_offered_and_was_tried() -> None:
    study = Study(two_trays(45.0))
    (found,) = clashes(study)
    levers = {term.lever.parameter for term in found.gap.span.terms if term.lever}
    assert {"place-x", "width"} <= levers
    # places, trays and sheets make up the whole sum: what is left to be measured is nothing
    (rest,) = [term.value for term in found.gap.span.terms if term.label == "from one to the other"]
    assert abs(rest) < 0.5
    cures = remedies(study, found)
    assert {"place-x", "width"} <= {c.parameter for c in cures}
    for cure in cures:
        assert not Study(applied(study, cure)).has_clash


def test_things_on_walls_that_meet_and_walls_that_face() -> None:
    block = {"width": 60.0, "height": 60.0, "thick": 10.0}
    # on walls that meet: 4 in less a sheet; 60 in the middle begin 20.8 from the corner, clear of 10 thick
    corner = [
        ("box", Element(f"p{k}", "photo", "", block), Place(f"{wall}-inside"))
        for k, wall in ((1, "right"), (2, "back"))
    ]
    assert not Study(boxed(*corner)).has_clash
    wide = {**block, "width": 90.0, "thick": 9.9}
    met = [
        ("box", Element(f"p{k}", "photo", "", wide), Place(f"{wall}-inside")) for k, wall in ((1, "right"), (2, "back"))
    ]
    assert [c.gap.code for c in clashes(Study(boxed(*met)))] == ["beside"]
    # on walls that face: two blocks of 55 in 101.3 between the walls
    facing = [
        (
            "box",
            Element(name, "tray", "", {"width": 40.0, "depth": 40.0, "height": high}),
            Place(f"{wall}-inside", 0.0, up),
        )
        for name, wall, high, up in (("a", "right", 55.0, 0.0), ("b", "left", 55.0, 0.0))
    ]
    (found,) = clashes(Study(boxed(*facing)))
    assert found.gap.code == "beside" and found.gap.value == pytest.approx(101.6 - T - 2 * (55.0 + T), abs=0.5)
    # the same two, one above the other: neither is in the way
    apart = [(h, e, Place(p.face, 0.0, y)) for (h, e, p), y in zip(facing, (-24.0, 24.0), strict=True)]
    assert not clashes(Study(boxed(*apart)))


def test_what_hangs_from_a_lid_against_what_stands_on_a_wall() -> None:
    def hung(high: float) -> Study:
        design = boxed(("box", Element("lid", "lid"), Place("mouth")))
        design = add_guest(design, "box", Element("shelf", "tray", "", {"width": 60.0, "depth": 60.0, "height": 40.0}),
                           Place("right-inside", 0.0, 15.0))  # fmt: skip
        drop = {"width": 30.0, "depth": 30.0, "height": high}
        place = Place("ceiling", -30.0)  # seen from below: towards the right wall
        return Study(add_guest(design, "lid", Element("drop", "tray", "", drop), place))

    assert not hung(4.0).has_clash
    found = [c for c in clashes(hung(30.0)) if c.gap.code == "beside"]
    assert found and {"drop", "shelf"} == {found[0].gap.element, found[0].gap.host}


def test_one_clash_is_told_once() -> None:
    # a lid that is too narrow is told by its own fit, not again for every sheet that lies under it
    design = add_guest(designed("explosion-box", base=4, wall=4), "box", Element("lid", "lid"), Place("mouth"))
    study = Study(set_value(design, "lid", "top-width", 95.0))
    counted = Counter(c.gap.code for c in clashes(study))
    assert counted["lid"] >= 1 and counted["beside"] == 0


# -- fits and contacts hold each other


def held(seeds: range) -> int:
    """How many random nests were held: fits part bodies by directions (numpy), the sweep asks python-fcl."""
    agreed = 0
    for seed in seeds:
        try:
            study = Study(random_nest(random.Random(seed)))
        except LanternError:
            continue
        plates = Plates(study.assembly, solids=solids(study.resolved, study.assembly))
        met = plates.shut_contacts(study.shut_frames)
        deepest = max((contact.depth for contact in met), default=0.0)
        assert study.has_clash or deepest < 1e-6, (seed, deepest)  # nothing in one place is left untold
        nodes = study.assembly.nodes
        pairs = {frozenset((nodes[c.a].element, nodes[c.b].element)) for c in met}
        for check in clashes(study):
            if check.gap.code == "beside":
                assert frozenset((check.gap.element, check.gap.host)) in pairs, (seed, check.gap.between)
        agreed += 1
    return agreed


@pytest.mark.parametrize("block", range(4))
def test_what_the_library_finds_in_one_place_the_fits_tell_and_the_other_way_round(block: int) -> None:
    assert held(range(block * 60, block * 60 + 60)) >= 25


@pytest.mark.long
@pytest.mark.parametrize("block", range(4, 50))
def test_library_and_fits_over_three_thousand_nests(block: int) -> None:
    held(range(block * 60, block * 60 + 60))


def test_what_lies_beside_is_moved_along_the_way_between_and_no_other() -> None:
    slopes = []
    for file in sorted(DEMO.parent.glob("*.lantern")):
        gaps = [check.gap for check in Study(read_design(file)).checks if check.gap.code == "beside"]
        levers = [t.lever for gap in gaps for t in gap.span.terms if t.lever is not None and t.lever.is_place]
        slopes += [abs(lever.slope) for lever in levers]
    assert slopes and min(slopes) > 0.1 and max(slopes) < 1 + 1e-9
