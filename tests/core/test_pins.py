"""What turns about a staple or a brad: against scipy's rotations and the posed panels."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.spatial.transform import Rotation

from yawning_lantern.design import Design, Element, Place, Value, add_guest
from yawning_lantern.fold import State, corners, pose
from yawning_lantern.fold.frames import apply, turned
from yawning_lantern.structures import start_design
from yawning_lantern.study import Study, opening_of
from yawning_lantern.study.opened import opening_in_order

number = st.floats(-50.0, 50.0)


@given(st.tuples(number, number, number), st.tuples(number, number, number), st.floats(-7.0, 7.0))
def test_a_frame_turns_as_scipy_turns_its_points(at: tuple[float, ...], way: tuple[float, ...], angle: float) -> None:
    size = math.hypot(*way)
    axis = tuple(w / size for w in way) if size > 1e-3 else (0.0, 0.0, 1.0)
    base = Rotation.from_rotvec([0.3, -0.5, 0.8])
    frame = (*base.as_matrix().T.ravel().tolist(), 3.0, -4.0, 5.0)
    now = turned(frame, at, axis, angle)  # type: ignore[arg-type]  # three of each
    turn = Rotation.from_rotvec(angle * np.array(axis))
    for point in ((0.0, 0.0, 0.0), (7.0, -2.0, 1.0)):
        told = turn.apply(np.array(apply(frame, *point)) - at) + at
        assert apply(now, *point) == pytest.approx(told, abs=1e-9)


def booklet(sheets: int, **given: Value) -> tuple[Study, list[str]]:
    settings = {"sheets": sheets, "page-width": 60.0, "page-height": 80.0, **given}
    study = Study(start_design("booklet", settings))
    return study, [motion.name.split(".")[1] for motion in study.assembly.motions]


def at(study: Study, progress: list[float]) -> dict[tuple[str, str], np.ndarray]:
    frames = pose(study.assembly, State(1.0, tuple(progress)))
    return {
        (node.instance, node.panel.name): np.array(corners(node, frame))
        for node, frame in zip(study.assembly.nodes, frames, strict=True)
    }


@pytest.mark.parametrize("sheets", [1, 2, 4])
def test_every_leaf_of_a_booklet_turns_and_the_others_stay(sheets: int) -> None:
    """4 n pages are 2 n leaves, the last one lying: n sheets have 2 n − 1 that turn (fact of the trade)."""
    study, names = booklet(sheets)
    assert names == [f"leaf-{k}" for k in range(1, 2 * sheets)]
    order = [(f"sheet-{k}", "front") for k in range(1, sheets + 1)]
    order += [(f"sheet-{k}", "back") for k in range(sheets, 1, -1)]
    done = [0.0] * len(names)
    for k, leaf in enumerate(order):
        before = at(study, done)
        for share in (0.25, 0.6, 1.0):
            done[k] = share
            now = at(study, done)
            for name, points in now.items():
                gone = np.abs(points - before[name]).max()
                if name == leaf:
                    assert gone > 30.0 * share
                else:  # folds are rolled along as a leaf turns, by a sheet or two
                    assert gone < 1.2, (leaf, name, share)
        free = now[leaf]
        assert free[:, 0].mean() < now["sheet-1", "back"][:, 0].min()  # it lies at the left, beyond the spine
    lean = [math.atan2(np.ptp(at(study, done)[leaf][:, 2]), np.ptp(at(study, done)[leaf][:, 0])) for leaf in order]
    assert lean == sorted(lean) and np.diff(lean).min(initial=1.0) > 0.01  # each on the one before
    assert opening_of(study).works


@pytest.mark.parametrize("page", [3, 6, 7, 8, 9, 11, 12])
def test_what_lies_on_a_page_is_carried_by_its_leaf_and_spreads_the_fold(page: int) -> None:
    """Three sheets: pages 7 to 12 lie behind the middle."""
    design = start_design("booklet", {"sheets": 3, "page-width": 60.0, "page-height": 80.0})
    bare = Study(design)
    element = Element("photo", "photo", "Photo", {"width": 30.0, "height": 40.0, "thick": 1.5})
    study = Study(add_guest(design, design.root.id, element, Place(f"page-{page}")))
    assert not study.has_clash and opening_of(study).works
    glue = study.resolved["photo"].final.glue
    assert study.closed[2] - bare.closed[2] == pytest.approx(1.5 + glue, abs=0.05)
    for node, frame in zip(study.assembly.nodes, study.shut_frames, strict=True):
        if node.element != "photo":
            continue
        there = study.assembly.nodes[node.parent]
        sheet, leaf = int(there.instance[-1]), there.panel.name
        # leaf m has pages 2 m − 1 and 2 m
        number = (page + 1) // 2
        assert (sheet, leaf) == ((number, "front") if number <= 3 else (7 - number, "back"))
        up = (frame[8] > 0) == (page % 2 == 1)
        assert up  # odd pages look up when all is shut, even ones down


def put(design: Design, host: str, name: str, family: str, place: Place, **given: Value) -> Design:
    return add_guest(design, host, Element(name, family, name.capitalize(), dict(given)), place)


def test_a_spinner_is_spun_all_round_and_meets_what_stands_in_its_circle() -> None:
    mat = start_design("mat", {"width": 200.0, "height": 150.0})
    design = put(mat, "mat", "spinner", "spinner", Place("face", -40.0), diameter=80.0)
    study = Study(design)
    (spin,) = (k for k, m in enumerate(study.assembly.motions) if m.name == "spinner.spin")
    tips = [
        at(study, [0.0] * spin + [share])["pointer", "pointer"][-1][:2]
        - at(study, [0.0])["dial", "dial"].mean(axis=0)[:2]
        for share in np.linspace(0.0, 1.0, 41)
    ]
    ways = np.unwrap([math.atan2(y, x) for x, y in tips])
    assert abs(ways[-1] - ways[0]) > 2 * math.pi and np.ptp(np.linalg.norm(tips, axis=1)) < 1e-6
    assert opening_of(study).works
    # a post on the dial's edge at the far side, where its pointer is only on its way
    blocked = Study(put(design, "mat", "post", "ready-made", Place("face", -40.0, -32.0), width=6.0, depth=6.0,
                        height=10.0, held="glued"))  # fmt: skip
    motion = [m.name for m in blocked.assembly.motions].index("spinner.spin")
    assert not opening_in_order(blocked, [motion]).steps[0].clear
