"""What is fixed behind a shut book and closes in front of it: measured on the folded thing, not by the sums that made
it."""

from __future__ import annotations

import math

import numpy as np
import pytest
from shapely import MultiPoint, Polygon, box
from shapely.affinity import rotate, translate

from yawning_lantern.assembly import uses
from yawning_lantern.design import Design, Element, Place, Value, add_guest
from yawning_lantern.errors import ParameterError
from yawning_lantern.fold import corners
from yawning_lantern.measure import inches
from yawning_lantern.structures import start_design
from yawning_lantern.structures.closures.toggle import eye
from yawning_lantern.study import Study, opening_of
from yawning_lantern.study.at_bench import plan_bench, rules
from yawning_lantern.study.opened import opening_in_order

from ..contracts import plates

BOOKS: list[tuple[str, dict[str, Value], str, str]] = [
    ("board-cover", {}, "back", "front"),
    ("accordion-spine", {"pages": 4}, "cover-back", "cover-front"),
    ("gusset-book", {"pages": 4}, "page-1-back", "page-4-front"),
    ("gusset-book", {"pages": 3, "binding": "own flaps"}, "page-1-back", "page-3-front"),
]
EDGES = {"fore edge": (0, 1.0), "head": (1, 1.0), "foot": (1, -1.0)}
"""The axis that an edge lies across, and which way, as the shut book lies with its spine at the left."""


def put(
    design: Design, host: str, name: str, family: str, face: str, place: tuple[float, float, int] = (0.0, 0.0, 0),
    **given: Value,
) -> Design:  # fmt: skip
    settings = {key.replace("_", "-"): value for key, value in given.items()}
    return add_guest(design, host or design.root.id, Element(name, family, name.capitalize(), settings),
                     Place(face, *place))  # fmt: skip


def solid(study: Study, *elements: str, panel: str = "") -> np.ndarray:
    """Corners of the sheets of some elements (all of them), as thick as they are, when all is shut (n, 3), mm."""
    found = [p.corners for p in plates(study, list(study.shut_frames))
             if (not elements or p.element in elements) and p.name.endswith(panel)]  # fmt: skip
    return np.vstack(found)


@pytest.mark.parametrize("edge", EDGES)
@pytest.mark.parametrize(("book", "given", "back", "front"), BOOKS)
@pytest.mark.parametrize("dressed", ["", "near", "far"])
def test_a_tongue_comes_around_the_edge_it_was_told(
    book: str, given: dict[str, Value], back: str, front: str, edge: str, dressed: str
) -> None:
    axis, way = EDGES[edge]
    design = start_design(book, given)
    if dressed:  # what the tip comes to lie over counts, and nothing else
        off = (40.0 if axis == 1 else 30.0) * way * (1.0 if dressed == "near" else -1.0)
        design = put(design, "", "picture", "photo", front, (0.0, off, 0) if axis else (off, 0.0, 0), width=20.0,
                     height=30.0, thick=2.0)  # fmt: skip
    design = put(design, "", "tongue", "closing-tongue", back, edge=edge, play=1.5, tip=40.0)
    study = Study(design)
    assert not study.has_clash
    thing = solid(study, design.root.id, *(["picture"] if dressed == "near" else []))
    foot, between, tip = (solid(study, "tongue", panel=f"/{n}") for n in ("foot", "edge", "tip"))
    glue = study.resolved["tongue"].final.glue
    assert thing[:, 2].min() - foot[:, 2].max() == pytest.approx(glue, abs=0.01)  # it lies behind the back
    assert tip[:, 2].min() - thing[:, 2].max() == pytest.approx(1.5, abs=0.12)  # over the front by its play
    past = way * between[:, axis].max() if way > 0 else -between[:, axis].min()
    edge_at = (way * thing[:, axis]).max()
    near = (way * between[:, axis]).min()
    assert 0.0 < near - edge_at < 1.5 and past > near  # beyond that edge, close by
    assert (way * tip[:, axis]).min() < edge_at - 20.0  # and in over the front


@pytest.mark.parametrize("edge", EDGES)
def test_an_edge_is_the_books_however_the_tongue_is_turned(edge: str) -> None:
    turned = []
    for turn in range(4):
        design = put(start_design("board-cover", {}), "", "picture", "photo", "front", (30.0, 0.0, 0), width=20.0,
                     height=20.0, thick=2.0)  # fmt: skip
        design = put(design, "", "tongue", "closing-tongue", "back", (0.0, 0.0, turn), edge=edge)
        turned.append(solid(Study(design), "tongue"))
    assert all(np.allclose(one, turned[0], atol=1e-9) for one in turned)


@pytest.mark.parametrize(("book", "given", "back", "front"), BOOKS)
def test_the_book_opens_when_its_tongue_is_open(book: str, given: dict[str, Value], back: str, front: str) -> None:
    design = put(start_design(book, given), "", "tongue", "closing-tongue", back)
    study = Study(design)
    motions = [motion.element for motion in study.assembly.motions]
    opening = opening_of(study)
    assert opening.works and motions[opening.steps[0].motion] == "tongue"
    first = next(k for k, element in enumerate(motions) if element != "tongue")
    blocked = opening_in_order(study, [first])
    assert not blocked.steps[0].clear  # shut, it holds the book


@pytest.mark.parametrize(("book", "given", "back", "front"), BOOKS)
def test_a_cover_mat_is_glued_over_the_foot_of_a_tongue(
    book: str, given: dict[str, Value], back: str, front: str
) -> None:
    """So its foot is hidden (common practice, no source): bulk, order and poses tell the two sheets there."""
    tongued = put(start_design(book, given), "", "tongue", "closing-tongue", back)
    matted = put(put(tongued, "", "mat", "mat", back), "", "other", "mat", front)
    study, bare = Study(matted), Study(tongued)
    assert not study.has_clash and opening_of(study).works
    book_at, foot, mat = solid(study, matted.root.id), solid(study, "tongue", panel="/foot"), solid(study, "mat")
    assert book_at[:, 2].min() >= foot[:, 2].max() - 1e-6 and foot[:, 2].min() >= mat[:, 2].max() - 1e-6
    t, glue = study.resolved["mat"].final.paper.caliper, study.resolved["mat"].final.glue
    assert mat[:, 2].min() == pytest.approx(0.0, abs=0.02)  # it stands on that
    host = study.resolved[matted.root.id]
    thick = host.family.thickness(host.final, host.sizes).value  # type: ignore[attr-defined]  # of what lies
    assert np.ptp(solid(study, matted.root.id, "mat", "other")[:, 2]) == pytest.approx(thick, abs=0.15)
    before = bare.resolved["tongue"].sizes["through"].length
    assert study.resolved["tongue"].sizes["through"].length - before == pytest.approx(t + glue, abs=0.02)  # in front
    acts = [step.act for step in plan_bench(study).steps if step.kind in ("glue", "decorate", "tie")]
    assert acts.index("tongue.tongue/foot") < acts.index("mat.mat/mat")


@pytest.mark.parametrize(("wide", "fine"), [(50.0, True), (38.2, False)])
def test_a_tongue_is_tucked_under_what_lies_below_its_tip(wide: float, fine: bool) -> None:
    design = start_design("board-cover", {})
    tongued = put(design, "", "tongue", "closing-tongue", "back", breadth=24.0)
    bare = next(c for c in Study(tongued).checks if c.gap.use is uses.CLASP)
    assert bare.gap.between[1] == "nothing it is tucked under" and not bare.is_fine
    # half a cover is 57 mm wide: the band stands where the tip comes to lie, and beside it
    for x, met in ((36.0, True), (-36.0, False)):
        study = Study(put(tongued, "", "band", "tuck-spot", "front", (x, 0.0, 1), width=wide))
        tucked = [c for c in study.checks if c.gap.use is uses.POCKET and c.gap.element == "tongue"]
        assert bool(tucked) == met
        for check in tucked:
            assert check.gap.between[1] == "Band" and check.is_fine == fine
            assert check.gap.value == pytest.approx(wide - 2 * inches(1 / 4) - 24.0)


def test_a_toggle_counts_where_the_tip_comes_to_lie_and_not_elsewhere() -> None:
    design = put(start_design("board-cover", {}), "", "tongue", "closing-tongue", "back")
    bare = Study(design).resolved["tongue"].sizes["through"].length
    for edge, more in (("head", 0.0), ("fore edge", 6.0)):
        study = Study(put(design, "", "toggle", "toggle", "front", edge=edge))
        assert study.resolved["tongue"].sizes["through"].length - bare == pytest.approx(more, abs=0.1)


@pytest.mark.parametrize("halves", ["both", "one"])
def test_a_magnet_on_the_tip_meets_the_cover(halves: str) -> None:
    design = put(start_design("board-cover", {}), "", "tongue", "closing-tongue", "back")
    study = Study(put(design, "tongue", "magnet", "fastener", "inside", thick=1.0, halves=halves))
    check = next(c for c in study.checks if c.gap.use is uses.CLASP)
    assert check.gap.between == ("Magnet", "Board cover") and check.is_fine
    cover, tip = solid(study, design.root.id), solid(study, "tongue", panel="/tip")
    count = 2 if halves == "both" else 1
    assert tip[:, 2].min() - cover[:, 2].max() == pytest.approx(count * 1.0 + inches(1 / 64), abs=0.12)


@pytest.mark.parametrize("face", ["inside-front", "front"])
def test_a_tongue_on_a_face_that_no_edge_is_behind_is_refused(face: str) -> None:
    tray = start_design("tray", {})
    boxed = put(tray, "tray", "book", "board-cover", "floor", board_width=40.0, board_height=50.0)
    with pytest.raises(ParameterError, match="goes around an edge"):
        Study(put(boxed, "book", "tongue", "closing-tongue", face))


def test_a_given_thickness_that_is_too_little_is_told() -> None:
    design = put(start_design("board-cover", {}), "", "tongue", "closing-tongue", "back", over_thick=8.0)
    check = next(c for c in Study(design).checks if c.gap.use is uses.BAND)
    assert check.is_clash
    design = put(start_design("board-cover", {}), "", "toggle", "toggle", "front", over_thick=8.0)
    assert any(c.is_clash and c.gap.use.label == "Loop around the edge" for c in Study(design).checks)


@pytest.mark.parametrize(
    ("more", "against", "clash"),
    [(-1.0, "below", True), (-0.3, "within", False), (6.0, "within", False), (7.0, "above", False)],
)
def test_a_loop_may_be_a_hair_shorter_and_a_quarter_longer_than_around_its_thing(
    more: float, against: str, clash: bool
) -> None:
    """Cord gives a little (common practice, no source); the thing's thickness is taken from its posed sheets."""
    book = start_design("board-cover", {})
    there = solid(Study(book), book.root.id)
    design = put(book, "", "toggle", "toggle", "front", over_thick=float(np.ptp(there[:, 2])) + more)
    check = next(c for c in Study(design).checks if c.gap.use.label == "Loop around the edge")
    assert check.gap.value == pytest.approx(more, abs=0.1)
    assert (check.against, check.is_clash) == (against, clash)


@pytest.mark.parametrize(("length", "across"), [(25.4, 6.0), (40.0, 5.0), (30.0, 10.0)])
def test_the_eye_of_a_loop_lets_half_the_bar_through_and_not_the_whole(length: float, across: float) -> None:
    """A loop of so much cord, laid as a rectangle around half the bar, holds it; the bar lying across does not go
    through any loop whose greatest width (half of what is around it) is less than its length. Worked geometry."""
    around = eye(length, across)
    half = box(0.0, 0.0, length / 2, across)
    assert half.length == pytest.approx(around)
    for degrees in range(0, 180, 15):  # however it is turned, half the bar is what goes in
        hull = translate(rotate(half, degrees), 3.0, 1.0)
        assert Polygon(hull.exterior).length <= around + 1e-9
    assert around / 2 < length
    with pytest.raises(ParameterError, match="does not hold"):
        Study(start_design("toggle", {"length": 2 * across + 5.0, "across": across}))


@pytest.mark.parametrize(("book", "given", "back", "front"), BOOKS)
@pytest.mark.parametrize("edge", EDGES)
def test_a_loop_reaches_from_its_hole_around_to_its_toggle(
    book: str, given: dict[str, Value], back: str, front: str, edge: str
) -> None:
    design = put(start_design(book, given), "", "toggle", "toggle", front, edge=edge, inwards=15.0, behind=20.0)
    study = Study(design)
    assert not study.has_clash
    axis, way = EDGES[edge]
    thing, bar = solid(study, design.root.id), solid(study, "toggle")
    edge_at = (way * thing[:, axis]).max()
    middle = way * bar.mean(axis=0)[axis]
    assert edge_at - middle == pytest.approx(15.0, abs=1.0)  # where it was told to sit
    assert np.ptp(bar[:, 1 - axis]) == pytest.approx(inches(1), abs=0.01)  # along the edge
    assert np.ptp(bar[:, 2]) == pytest.approx(6.0, abs=0.1)
    path = 15.0 + np.ptp(thing[:, 2]) + 20.0
    loop = study.resolved["toggle"].sizes["loop"].length
    assert 0.0 <= loop - 2 * path - (inches(1) + 12.0) - inches(2) < 12.0  # up to the next 10 mm
    step = next(s for s in plan_bench(study).steps if s.kind == "tie")
    assert "{20.0000 mm} in from the edge" in step.heed
    assert MultiPoint(bar[:, :2]).centroid.within(MultiPoint(thing[:, :2]).convex_hull)


@pytest.mark.parametrize(("laid", "first"), [("under the mats", True), ("last", False)])
def test_a_ribbon_is_laid_before_the_mats_that_cover_it(laid: str, first: bool) -> None:
    """Ribbon under the cover mats (common practice, no source); a mat inside does not wait for it."""
    design = start_design("board-cover", {})
    for face in ("front", "back", "inside-front"):
        design = put(design, "", f"mat-{face}", "mat", face)
    design = put(design, "mat-front", "picture", "photo", "face")  # it waits for its mat, not for the ribbon
    study = Study(put(design, "", "ribbon", "ribbon", "around", laid=laid))
    plan = plan_bench(study)
    ids = [step.id for step in plan.steps]
    mats = {face: next(k for k, s in enumerate(plan.steps) if s.act.startswith(f"mat-{face}.")) for face in
            ("front", "back", "inside-front")}  # fmt: skip
    assert not plan.stuck and ("tie:ribbon.lay" in ids) == first
    assert ids.index("tie:ribbon.close") > max(mats.values())
    if first:
        lay = plan.steps[ids.index("tie:ribbon.lay")]
        assert ids.index(lay.id) < min(mats["front"], mats["back"]) and "Lay Ribbon" in lay.text
        before = {rule.then for rule in rules(study) if rule.first == "ribbon.lay"}
        assert before == {"mat-front.mat/mat", "mat-back.mat/mat"}
    assert opening_of(study).works


def test_what_is_on_a_cover_mat_goes_around_the_edge_of_the_book() -> None:
    design = put(start_design("board-cover", {}), "", "mat", "mat", "front")
    plain = Study(put(start_design("board-cover", {}), "", "toggle", "toggle", "front"))
    study = Study(put(design, "mat", "toggle", "toggle", "face"))
    assert not study.has_clash
    cover, mat, bar = (solid(study, name) for name in (design.root.id, "mat", "toggle"))
    sizes = study.resolved["toggle"].sizes
    assert sizes["over-thick"].length == pytest.approx(mat[:, 2].max() - cover[:, 2].min(), abs=0.1)
    assert sizes["over-thick"].length > plain.resolved["toggle"].sizes["over-thick"].length
    assert bar[:, 2].min() >= mat[:, 2].max() - 0.01
    assert cover[:, 0].max() - bar[:, 0].mean() == pytest.approx(sizes["inwards"].length, abs=1.0)
    tongued = Study(
        put(put(start_design("board-cover", {}), "", "mat", "mat", "back"), "mat", "t", "closing-tongue", "face")
    )
    assert not tongued.has_clash
    tip, there = solid(tongued, "t", panel="/tip"), solid(tongued, design.root.id)
    assert tip[:, 2].min() - there[:, 2].max() == pytest.approx(inches(1 / 32), abs=0.12)


def test_a_bar_rolled_of_paper_is_as_thick_as_its_strip_makes_it() -> None:
    """The paper of a roll fills the ring between rod and outside: its length times its thickness is that area."""
    study = Study(start_design("toggle", {"across": 8.0}))
    r = study.resolved[study.design.root.id]
    t, turns, length = r.final.paper.caliper, 0, 0.0
    across = 2.0  # the rod
    while across < 8.0 - 1e-9:  # turn by turn, each on the last; of the last what is still wanted
        share = min(1.0, (8.0 - across) / (2 * t))
        length += share * math.pi * (across + t)
        across += 2 * t
        turns += 1
    assert turns > 5 and r.sizes["roll"].length == pytest.approx(length, rel=0.02)
    assert len(corners(study.assembly.nodes[0], study.shut_frames[0])) == 4
