"""Where the eye is, where a piece lies in the world though it bends, which of a folded panel's faces lies up."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from yawning_lantern.flatfold.anatomy import anatomy
from yawning_lantern.flatfold.findings import face_up
from yawning_lantern.flatfold.telling import own_sheet, parse_script
from yawning_lantern.fold import corners
from yawning_lantern.fold.camera import Camera, Projection
from yawning_lantern.fold.lit import LIGHT, parts, share
from yawning_lantern.fold.pose import plane_of
from yawning_lantern.study import Study

from ..conftest import designed


@given(st.lists(st.tuples(st.floats(-9, 9), st.floats(-4, 4)), max_size=6))
def test_the_eye_goes_round_and_never_over_the_top(turns: list[tuple[float, float]]) -> None:
    camera = Camera()
    for by, up in turns:
        turned = camera.turned(by, up)
        assert turned.turn == pytest.approx(camera.turn + by)
        assert abs(turned.tilt) < math.pi / 2
        assert abs(turned.tilt - camera.tilt - up) < 1e-9 or abs(turned.tilt) > math.radians(89)
        camera = turned
    assert (camera.zoom, camera.shift) == (Camera().zoom, Camera().shift)


def test_nearer_further_and_aside_keep_the_rest() -> None:
    camera = Camera(turn=1.0, tilt=0.5)
    assert camera.zoomed(2.0).zoomed(1.5).zoom == pytest.approx(3.0)
    assert camera.zoomed(1e6).zoom == camera.zoomed(2e6).zoom == 12.0 and camera.zoomed(1e-6).zoom == 0.3
    moved = camera.shifted(3.0, -4.0).shifted(10.0, 1.0)
    assert moved.shift == (13.0, -3.0)
    assert (moved.turn, moved.tilt, moved.zoom) == (1.0, 0.5, 1.0) == (camera.zoomed(1.0).turn, 0.5, 1.0)


@given(st.floats(-300, 300), st.floats(-300, 300), st.floats(0.3, 12))
def test_a_picture_moves_as_far_as_it_is_pushed(dx: float, dy: float, zoom: float) -> None:
    points = [(0.0, 0.0, 0.0), (80.0, 10.0, 5.0), (-20.0, 60.0, 90.0)]
    still = Projection.holding(Camera(zoom=zoom), points, (640.0, 480.0)).points(points)
    moved = Projection.holding(Camera(zoom=zoom).shifted(dx, dy), points, (640.0, 480.0)).points(points)
    assert np.array(moved) - np.array(still) == pytest.approx(np.tile([dx, dy], (3, 1)), abs=1e-6)


def test_a_thing_is_first_seen_from_in_front_and_above() -> None:
    """Its front nearer to the eye than its back, straight before it rather than aside (under 45°), from higher than
    its walls and not from straight above: as it stands before a maker on a table."""
    study = Study(designed("tray"))
    at = {node.panel.name: np.mean(corners(node, frame, 1.0), axis=0)
          for node, frame in zip(study.assembly.nodes, study.shut_frames, strict=True)}  # fmt: skip
    view = Projection.holding(Camera(), [tuple(map(float, p)) for p in at.values()], (640.0, 480.0))
    far = {name: math.dist(view.eye, p) for name, p in at.items()}
    assert far["wall-front"] < min(far["wall-left"], far["wall-right"]) < far["wall-back"]
    towards = np.array(view.eye) - at["base"]
    assert abs(towards[0]) < -towards[1] and 0 < towards[2] < math.hypot(*towards[:2])
    sees = view.points([tuple(map(float, at[name])) for name in ("wall-left", "wall-right", "wall-front", "wall-back")])
    assert sees[0][0] < sees[1][0] and sees[2][1] > sees[3][1]  # left is left; what is behind is higher up


@pytest.mark.parametrize(("kind", "bends"), [("rosette", True), ("tray", False)])
def test_a_piece_lies_where_its_corners_are(kind: str, bends: bool) -> None:
    """What maps three corners of a panel on three points of the world is an affine map (worked geometry): solved for
    as equations here."""
    study = Study(designed(kind))
    bent = 0
    for node, frame in zip(study.assembly.nodes, study.shut_frames, strict=True):
        origin, x, y = (np.array(part) for part in plane_of(node, frame))
        flat, world = np.array(node.panel.outline), np.array(corners(node, frame, 1.0))
        laid = origin + flat[:, :1] * x + flat[:, 1:] * y
        if node.shape is None:
            assert laid == pytest.approx(world, abs=1e-6)
            continue
        bent += 1
        k = next(k for k in range(1, len(flat) - 1) if abs(np.linalg.det(flat[[k, k + 1]] - flat[0])) > 1e-9)
        three = [0, k, k + 1]
        assert laid[three] == pytest.approx(world[three], abs=1e-6)
        solved = np.linalg.solve(np.column_stack([flat[three], np.ones(3)]), world[three])
        assert np.array([x, y, origin]) == pytest.approx(solved, abs=1e-6)
    assert (bent > 0) == bends


def test_each_fold_turns_a_panel_over() -> None:
    """A panel is front up after an even number of folds from the one that lies, as a strip folded to and fro shows."""
    sheet = own_sheet((40.0,) * 4, (60.0,))
    state = anatomy(sheet, parse_script("over c3r1/c4r1; over c2r1/c3r1; over c1r1/c2r1", 6.0)).state
    ups = [face_up(state, state.sheet.at(f"c{k}r1")) for k in (1, 2, 3, 4)]
    assert ups in ([1, -1, 1, -1], [-1, 1, -1, 1])


def test_light_falls_on_what_faces_it() -> None:
    """Full on a face square to it, none beyond a right angle; what lies deeper is darker, half as much where it is
    bright; the back is the front turned over."""
    full = np.array(LIGHT) / np.linalg.norm(LIGHT)
    side = np.cross(full, (0.0, 0.0, 1.0))
    side /= np.linalg.norm(side)
    for angle in np.radians([0, 20, 60, 80, 91, 180]):
        normal = tuple(math.cos(angle) * full + math.sin(angle) * side)
        lit = max(0.0, math.cos(angle)) * np.linalg.norm(LIGHT)
        less = 0.03 if lit > 0.7 else 0.06
        for depth, deep in ((0, 0.0), (1, 1.0), (2, 2.0), (3, 0.0)):
            want = 0.7 + 0.3 * lit - less * deep
            assert share(normal, depth, True) == pytest.approx(want)
            assert share((-normal[0], -normal[1], -normal[2]), depth, False) == pytest.approx(want)
    assert parts("#ff8000") == pytest.approx((1.0, 128 / 255, 0.0))


def test_all_is_seen_from_where_the_eye_is() -> None:
    """Pinhole (worked geometry): what is on a line through the eye is seen in one place, the middle straight ahead."""
    rng = np.random.default_rng(5)
    for _ in range(40):
        points = rng.uniform((-90, 10, 0), (-20, 300, 60), (6, 3))
        camera = Camera(turn=rng.uniform(-3, 3), tilt=rng.uniform(-1.2, 1.2))
        view = Projection.holding(camera, [tuple(map(float, p)) for p in points], (640.0, 480.0))
        eye = np.array(view.eye)
        nearer = [tuple(map(float, eye + 0.7 * (p - eye))) for p in points]
        seen = view.points([tuple(map(float, p)) for p in points])
        assert np.array(view.points(nearer)) == pytest.approx(np.array(seen), abs=1e-6)
        assert view.point(view.middle) == pytest.approx((320.0, 240.0))
