"""Casing: what its boxes have, how its ends go into its walls, what is tried before the last is closed.

Distances are taken from the posed panels by numpy, not from what the family adds up."""

from __future__ import annotations

from itertools import pairwise, product
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from yawning_lantern.bench import Reach, acts_of, find_order
from yawning_lantern.bench.rolled import HALVES, halves
from yawning_lantern.bench.walk import Walk
from yawning_lantern.design import Design, Element, Place, Value, add_guest
from yawning_lantern.errors import ParameterError
from yawning_lantern.exchange.design_file import read_design
from yawning_lantern.fold import corners
from yawning_lantern.measure import inches
from yawning_lantern.structures import start_design
from yawning_lantern.study import Study, opening_of
from yawning_lantern.study.at_bench import plan_bench, rules

from ..contracts import plates

EXAMPLE = Path(__file__).parents[2] / "src/yawning_lantern/examples/four-lenses.lantern"


def casing(**given: float) -> Study:
    """A casing, lengths in inches."""
    counts = ("boxes", "floor-sheets")
    return Study(
        start_design(
            "casing",
            {name.replace("_", "-"): v if name.replace("_", "-") in counts else inches(v) for name, v in given.items()},
        )
    )


def spans(study: Study) -> dict[str, np.ndarray]:
    """Least and greatest x, y, z of the mid-surface of every panel when it is shut, mm."""
    found = {}
    for node, frame in zip(study.assembly.nodes, study.shut_frames, strict=True):
        points = np.array(corners(node, frame))
        found[f"{node.instance}/{node.panel.name}"] = np.array([points.min(axis=0), points.max(axis=0)])
    return found


SIZES = [(4, 2, 2, 2, 0.5), (1, 3, 2, 1.5, 0.25), (3, 1.25, 2.5, 4, 0.5), (5, 1.5, 1, 1, 0.75)]


@pytest.mark.parametrize(("n", "w", "d", "h", "wall"), SIZES)
def test_a_row_has_its_play_both_ways_and_stands_proud(n: int, w: float, d: float, h: float, wall: float) -> None:
    """Inside length = boxes and play, inside width has play too, boxes stand about 1 mm proud (common practice, no
    source); what rounding to the tools adds is no more than a sixteenth a cut."""
    study = casing(boxes=n, box_width=w, box_depth=d, box_height=h, wall=wall)
    at, t = spans(study), study.pieces[0].stock.caliper
    along = at["right-end/inner"][0, 0] - at["left-end/inner"][1, 0] - t
    across = at["back-wall/inner"][0, 1] - at["front-wall/inner"][1, 1] - t
    assert 0 <= along - n * inches(w) - inches(1 / 8) < inches(1 / 16) + 1e-6
    assert 0 <= across - inches(d) - inches(1 / 16) < inches(1 / 16) + 1e-6
    rise = at["front-wall/top"][1, 2] - at["floor-2/floor"][1, 2]  # from mid-surface to mid-surface: both faces are up
    assert 0 <= inches(h) - rise - 1.0 < inches(1 / 16) + 1e-6
    assert not study.has_clash
    told = {c.gap.between[1]: c.gap.value for c in study.checks if c.gap.code in ("row", "proud")}
    assert told["along the row"] == pytest.approx(along - n * inches(w), abs=0.02)
    assert told["across it"] == pytest.approx(across - inches(d), abs=0.02)
    assert told["walls"] == pytest.approx(inches(h) - rise, abs=0.02)


@pytest.mark.parametrize(("n", "w", "d", "h", "wall"), SIZES)
def test_ends_stand_between_the_walls_and_their_ears_within(n: int, w: float, d: float, h: float, wall: float) -> None:
    study = casing(boxes=n, box_width=w, box_depth=d, box_height=h, wall=wall)
    at, t = spans(study), study.pieces[0].stock.caliper
    for side, (near, far) in {"right": ("front", "back"), "left": ("back", "front")}.items():
        end = at[f"{side}-end/inner"]
        assert end[0, 1] > at["front-wall/inner"][1, 1] + t / 2 - 0.01  # between the long walls
        assert end[1, 1] < at["back-wall/inner"][0, 1] - t / 2 + 0.01
        outer = at[f"{side}-end/outer"][:, 0]
        edge = at["front-wall/outer"][int(side == "right"), 0]
        assert abs(abs(outer[0]) - abs(edge)) == pytest.approx(t / 2, abs=0.05)  # it closes the tubes, edge on sheet
        for which, mate in (("near", near), ("far", far)):
            ear, tube = at[f"{side}-end/ear-{which}"], at[f"{mate}-wall/outer"]
            apart = abs(ear[0, 1]) - abs(tube[0, 1])
            assert -1.7 * t < apart < -0.9 * t  # within the tube, a sheet and the glue off its outer panel
            assert ear[0, 2] > at[f"{mate}-wall/bottom"][1, 2] + t / 2 + 0.2
            assert ear[1, 2] < at[f"{mate}-wall/top"][0, 2] - t / 2 - 0.2
            assert abs(abs(ear[:, 1]).max() - abs(at[f"{mate}-wall/tab"][:, 1]).max()) > t  # beside the seam tab


def test_the_floor_is_a_little_shorter_than_the_tray() -> None:
    at = spans(casing())
    for axis, walls in enumerate((("left-end", "right-end"), ("front-wall", "back-wall"))):
        outside = at[f"{walls[1]}/outer"][1, axis] - at[f"{walls[0]}/outer"][0, axis]
        assert 0.5 < outside - np.ptp(at["floor-1/floor"][:, axis]) < inches(1 / 4)


def test_boxes_tell_their_casing_its_size() -> None:
    design = start_design("casing", {})
    for k in range(1, 7):
        box = Element(f"box-{k}", "closing-box", f"Box {k}", {"width": 40.0, "depth": 50.0, "height": 60.0})
        design = add_guest(design, design.root.id, box, Place(f"place-{k}"))
    study = Study(design)
    sizes = study.resolved[design.root.id].sizes
    assert sizes["boxes"].value == 6 and not study.has_clash
    at = spans(study)
    boxes = [
        np.array([p for node, frame in zip(study.assembly.nodes, study.shut_frames, strict=True)
                  if node.element == f"box-{k}" for p in corners(node, frame)]) for k in range(1, 7)
    ]  # fmt: skip
    for one, other in pairwise(boxes):
        assert one[:, 0].max() < other[:, 0].min()
    assert boxes[0][:, 0].min() > at["left-end/inner"][1, 0] and boxes[-1][:, 0].max() < at["right-end/inner"][0, 0]
    assert boxes[0][:, 2].max() > at["front-wall/top"][1, 2] + 0.7


@pytest.mark.parametrize("proud", [0.0, 10.0, 20.0])
def test_a_tray_around_a_row_is_as_high_as_what_stands_in_it(proud: float) -> None:
    """However far boxes stand above their casing: over the floor's sheets, and to the next mark or two."""
    tray = start_design("tray", {"width": 160.0, "depth": 120.0})
    row: dict[str, Value] = {"box-width": 40.0, "box-depth": 50.0, "box-height": 60.0, "boxes": 2, "proud": proud}
    study = Study(add_guest(tray, tray.root.id, Element("row", "casing", settings=row), Place("floor")))
    assert 60.5 < float(study.resolved["tray"].sizes["height"].value) < 60.5 + inches(3 / 16)
    assert not study.has_clash


@pytest.mark.parametrize(
    ("name", "between"), [("play", "along the row"), ("play-across", "across it"), ("proud", "walls")]
)
def test_a_row_without_play_is_told(name: str, between: str) -> None:
    """Boxes without play, along or across, and boxes no finger gets hold of, are found; with it they are not."""
    given = {"boxes": 4.0, "box-width": 50.8, "box-depth": 50.8, "box-height": 50.8}
    for value, wrong in ((0.0, True), (3.0, False)):
        design = start_design("casing", {**given, name: value})
        study = Study(design)
        found = next(c for c in study.checks if c.gap.code in ("row", "proud") and c.gap.between[1] == between)
        room = found.gap.value
        assert (room < inches(1 / 16) + 0.1) == wrong  # what rounding left is all there is
    tight = Study(start_design("casing", {**given, "box-width": 50.9, "play": 0.0}))
    assert any(c.gap.code == "row" for c in tight.checks)


def test_the_last_end_is_closed_after_the_boxes_were_tried() -> None:
    study = Study(read_design(EXAMPLE))
    plan = plan_bench(study)
    assert not plan.stuck and opening_of(study).works
    ids = [step.id for step in plan.steps]
    last = f"{study.design.root.id}.right end into the long walls"
    tried = ids.index(f"fit:{last}")
    boxes = [k for k, step in enumerate(plan.steps) if step.element.startswith("box-") and step.kind == "glue"]
    assert len(boxes) == 12 and max(boxes) < tried < ids.index(f"glue:{last}")
    # gone to it at once, what is missing is told
    walk = Walk(plan).go(ids.index(f"glue:{last}"))
    assert f"fit:{last}" in {step.id for step in walk.missing}
    # asked for first, the order refuses it: the other end, its walls and every box come before
    acts = acts_of(study.assembly)
    early = sorted(acts, key=lambda act: act.name != last)
    order = find_order(early, Reach(study.assembly), rules(study))
    names = [act.name for act, _ in order.acts]
    before = names[: names.index(last)]
    assert {a.name for a in acts if a.element.startswith("box-")} <= set(before)
    assert any(name.endswith("left end into the long walls") for name in before)


def test_ears_slide_in_and_are_pinched_through_the_wall() -> None:
    """A hollow wall gives way between two fingers up to about half an inch; an inch is too far (from memory)."""
    assert not plan_bench(casing(wall=0.25)).stuck
    assert not plan_bench(casing(wall=0.5)).stuck
    assert any("into the long walls" in act for act in plan_bench(casing(wall=1)).stuck)
    assert plan_bench(casing(ear=0.5)).stuck  # behind the end no finger gets at them


def test_a_long_wall_cannot_be_put_on_once_an_end_stands() -> None:
    """Ears are glued in the tube: with one made the wall hangs on it, and there is no way to bring it."""
    study = casing()
    reach, acts = Reach(study.assembly), acts_of(study.assembly)
    named = {act.name.split(".", 1)[1]: act for act in acts}
    front = named["front wall on the floor"]
    rest = [act for act in acts if act is not front]
    assert reach.of(front, rest).fails == "off"
    assert reach.of(front, [act for act in rest if "end into" not in act.name]).ok


@given(st.lists(st.integers(1, 12), min_size=3, max_size=8))
def test_a_ring_rolls_flat_where_it_can_be_laid_on_a_line(sides: list[int]) -> None:
    """Tried with every way to lay its sides to and fro: it closes with two turns, no more."""

    def turns(signs: tuple[int, ...]) -> int:
        return sum(signs[k] != signs[k - 1] for k in range(len(signs)))

    flat = any(
        turns(signs) == 2 and abs(sum(s * a for s, a in zip(signs, sides, strict=True))) < 2 * HALVES
        for signs in product((1, -1), repeat=len(sides))
    )
    assert halves([float(a) for a in sides]) == flat


@pytest.mark.parametrize(
    ("given", "words"),
    [
        ({"tab": 0.5}, "no room for the ears"),
        ({"boxes": 1, "ear": 3}, "meet"),
        ({"box_height": 0.6, "proud": 0.5}, "cannot"),
    ],
)
def test_what_cannot_be_is_told(given: dict[str, float], words: str) -> None:
    with pytest.raises(ParameterError, match=words) as told:
        casing(**given)
    assert told.value.remedy


@pytest.mark.parametrize("dressed", [(), ("left", "right"), ("front", "back"), ("left", "right", "front", "back")])
def test_a_casing_that_fills_its_tray_leaves_room_for_what_is_on_its_outsides_and_little_more(
    dressed: tuple[str, ...],
) -> None:
    """Boxes as large as go in, by steps of a sixteenth: each of five along the row, one across. Worked geometry."""
    mats = tuple(Element(f"{side}-mat", "mat", stock="chipboard-2", place=Place(f"{side}-outside")) for side in dressed)
    inside = Element("casing", "casing", settings={"boxes": 5}, place=Place("floor"), guests=mats)
    size: dict[str, float | str] = {"width": 300.0, "depth": 100.0, "height": 60.0}
    study = Study(Design(Element("tray", "tray", settings=size, guests=(inside,))))
    points: dict[str, list[np.ndarray]] = {"tray": [], "in": []}
    for plate in plates(study, list(study.shut_frames)):
        points["tray" if plate.element == "tray" else "in"].append(plate.corners)
    walls = np.array([300.0, 100.0]) - study.pieces[0].stock.caliper
    within = np.ptp(np.concatenate(points["in"]), axis=0)[:2]
    spare = walls - within
    assert (spare > inches(1 / 32) - 0.05).all(), spare
    assert (spare < inches(1 / 32) + inches(1 / 16) * (np.array([5, 1]) + 1) + 0.6).all(), spare
