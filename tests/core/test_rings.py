"""Rings of hinged panels against closed forms, finite differences and a general solver, over the whole swing."""

from __future__ import annotations

import math
import random
from types import SimpleNamespace
from typing import cast

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace
from scipy.optimize import least_squares

from yawning_lantern.assembly import Assembly, Closure, Loop, Ring
from yawning_lantern.fold import State, apply, corners, examine, jam, pose
from yawning_lantern.fold.rings import RingPath, RingSolver, _damped, rank, ring_path
from yawning_lantern.structures import start_design
from yawning_lantern.study import Study

from ..conftest import Maker, designed

POPUPS = ("floating-layer", "tent", "v-fold", "stand", "gate-bag", "box-card")
MEETS = 0.05  # mm: glued edges that are nearer coincide


def only(study: Study) -> Ring:
    return study.assembly.rings[0]


TENT = RingPath(Study(designed("tent")).assembly.nodes, only(Study(designed("tent"))), plain=True)


@pytest.mark.parametrize("kind", POPUPS)
def test_glued_edges_coincide_over_the_whole_swing(studied: Maker, kind: str) -> None:
    study = studied(kind)
    plain = ring_path(study.assembly, only(study), plain=True)
    assert plain.residual < MEETS and len(plain.poses) > 24
    thick = ring_path(study.assembly, only(study))
    half = study.pieces[0].stock.caliper / 2
    told = [f for f in examine(study.assembly, only(study)) if f.code == "slack"]
    assert thick.residual <= half or told[0].amount == pytest.approx(thick.residual)
    assert not [f for f in examine(study.assembly, only(study)) if f.code != "slack"]


@settings(max_examples=25)
@given(st.sampled_from(POPUPS), st.floats(60, 140), st.floats(60, 160), st.integers(60, 180), st.randoms())
def test_random_cards_close(kind: str, width: float, height: float, opens: int, rng: object) -> None:
    if kind == "box-card":
        given_ = {"box-width": width, "box-depth": height / 2, "wall-height": height}
    else:
        given_ = {"page-width": width, "page-height": height, "opens": opens}
    study = Study(start_design(kind, given_))
    assert ring_path(study.assembly, only(study), plain=True).residual < MEETS
    assert not any(c.is_clash for c in study.checks if c.gap.code == "inside-card")


@pytest.mark.parametrize("opens", [90, 120, 180])
@pytest.mark.parametrize("kind", POPUPS)
def test_a_ring_begins_where_the_solver_finds_it(kind: str, opens: int) -> None:
    """The closed form from which it is followed is no guess: sheets without thickness meet in it."""
    if kind == "box-card" and opens != 90:
        return
    study = Study(start_design(kind, {} if kind == "box-card" else {"opens": opens}))
    ring = only(study)
    found = ring_path(study.assembly, ring, plain=True).at(ring.loop.start_at)
    assert found.angles == pytest.approx(ring.loop.start, abs=1e-6)


@pytest.mark.parametrize("kind", POPUPS)
def test_mountains_stay_mountains(studied: Maker, kind: str) -> None:
    study = studied(kind)
    path = ring_path(study.assembly, only(study), plain=True)
    angles = np.array([p.angles for _, p in path.poses])
    for column in angles.T:
        assert column.max() < 0.02 or column.min() > -0.02  # one sense all the way, through zero nowhere
        assert np.abs(np.diff(column)).max() < 0.5  # and no leap to another branch


@pytest.mark.parametrize("kind", POPUPS)
def test_shut_is_what_the_family_declares(studied: Maker, kind: str) -> None:
    study = studied(kind)
    ring = only(study)
    first = ring_path(study.assembly, ring, plain=True).poses[0]
    assert first[0] == 0.0
    for group, angle in zip(ring.unknowns, first[1].angles, strict=True):
        for node, factor in group:
            declared = study.assembly.nodes[node].step.shut  # type: ignore[union-attr]  # a crease by construction
            assert factor * angle == pytest.approx(declared, abs=0.02)


def test_derivatives_agree_with_finite_differences(studied: Maker) -> None:
    study = studied("gate-bag")
    solver = RingSolver(study.assembly.nodes, only(study))
    rng = np.random.default_rng(3)
    for progress in (0.2, 0.6, 0.9):
        angles = np.array(ring_path(study.assembly, only(study)).at(progress).angles) + rng.normal(
            0, 0.05, solver.count
        )
        left, rows = solver.equations(progress, list(angles))
        for k in range(solver.count):
            step = np.zeros(solver.count)
            step[k] = 1e-6
            ahead = np.array(solver.equations(progress, list(angles + step))[0])
            back = np.array(solver.equations(progress, list(angles - step))[0])
            # what turns both ends of a joint alike is left out: it changes no distance
            cost = (ahead @ ahead - back @ back) / 2e-6
            assert cost == pytest.approx(2 * float(np.array(rows)[:, k] @ np.array(left)), rel=1e-4, abs=1e-3)
            if k:
                assert (ahead - back) / 2e-6 == pytest.approx(np.array(rows)[:, k], abs=1e-4)
        assert len(left) == len(rows)


@pytest.mark.parametrize("kind", ["gate-bag", "v-fold", "box-card"])
def test_a_general_solver_finds_the_same_pose(studied: Maker, kind: str) -> None:
    study = studied(kind)
    solver = RingSolver(study.assembly.nodes, only(study), plain=True)
    path = ring_path(study.assembly, only(study), plain=True)
    for progress in (0.3, 0.55, 0.8):
        own = path.at(progress)
        other = least_squares(lambda a, p=progress: solver.equations(p, a)[0], np.array(own.angles) + 0.1, xtol=1e-14)
        assert other.x == pytest.approx(own.angles, abs=1e-5)


@given(st.floats(15, 45), st.floats(1.05, 1.9), st.integers(95, 180))
@settings(max_examples=20)
def test_tent_stands_as_high_as_its_triangle(foot: float, share: float, opens: int) -> None:
    # worked: isosceles over two feet, √(L² − u²) at 180°
    side = foot * share
    study = Study(
        start_design(
            "tent", {"foot": foot, "side": side, "page-width": foot + side + 5, "page-height": 100.0, "opens": opens}
        )
    )
    ring = only(study)
    path = ring_path(study.assembly, ring, plain=True)
    first, ridge, _ = path.at(1.0).angles
    half = math.radians(opens) / 2
    # in the triangle of foot, gutter and ridge: the gutter's angle is half the opening
    stands = foot * math.cos(half) + math.sqrt(side**2 - (foot * math.sin(half)) ** 2)
    at_foot = math.acos((foot**2 + side**2 - stands**2) / (2 * foot * side))
    assert -first == pytest.approx(math.pi - at_foot, abs=1e-4)
    at_ridge = math.asin(min(1.0, foot * math.sin(half) / side))
    assert -ridge == pytest.approx(math.pi - 2 * at_ridge, abs=1e-3)


@given(st.integers(30, 70), st.integers(75, 105), st.floats(0.15, 1.0))
@settings(max_examples=20)
def test_v_fold_ridge_obeys_the_spherical_triangle(spread: int, corner: int, progress: float) -> None:
    # worked: on the unit sphere, ridge · glue line = cos(corner) on both pages at once
    if corner <= spread + 3:
        return
    study = Study(
        start_design("v-fold", {"spread": spread, "corner": corner, "page-width": 110.0, "page-height": 160.0})
    )
    states = tuple(progress for _ in study.assembly.motions)
    _ = pose(study.assembly, State(1.0, states))
    solver = RingSolver(study.assembly.nodes, only(study), plain=True)
    turned = ring_path(study.assembly, only(study), plain=True).at(progress)
    frames = solver._frames(progress, turned.angles)
    place = {n.panel.name: solver._place[k] for k, n in enumerate(study.assembly.nodes) if k in solver._place}
    right, left = frames[place["page-right"]], frames[place["page-left"]]
    panel = frames[place["right"]]
    ridge = np.array(apply(panel, 0.0, 1.0)) - np.array(apply(panel, 0.0, 0.0))
    s, c = math.sin(math.radians(spread)), math.cos(math.radians(spread))
    for page, x in ((right, s), (left, -s)):
        glue = np.array(apply(page, x, c)) - np.array(apply(page, 0.0, 0.0))
        assert float(ridge @ glue) == pytest.approx(math.cos(math.radians(corner)), abs=1e-5)


@pytest.mark.parametrize("opens", [180, 130])
def test_gussets_fold_as_the_leaves_say(studied: Maker, opens: int) -> None:
    # worked: front and back stay parallel, g·cos(lift) apart; each half gusset then leans by the lift
    study = Study(start_design("gate-bag", {"opens": opens}))
    path = ring_path(study.assembly, only(study), plain=True)
    for progress in (0.25, 0.5, 0.75, 0.95):
        lift = (math.pi - progress * math.radians(opens)) / 2
        a = path.at(progress).angles
        want = [-(math.pi / 2 - lift), -(math.pi / 2 + lift), 2 * lift, -(math.pi / 2 + lift)]
        assert a[:4] == pytest.approx(want, abs=2e-4)


def test_a_layer_passes_through_the_flat_state(studied: Maker) -> None:
    # a parallelogram is flat at both ends: shut, and when the pages lie in one plane
    study = studied("floating-layer", opens=180)
    path = ring_path(study.assembly, only(study), plain=True)
    assert path.poses[-1][1].angles == pytest.approx((-math.pi, 0.0, -math.pi), abs=1e-3)
    square = path.at(0.5).angles
    assert square == pytest.approx((-math.pi / 2,) * 3, abs=1e-6)
    assert path.residual < MEETS


def test_pop_ups_stay_inside_the_shut_card(studied: Maker) -> None:
    for kind in ("floating-layer", "tent", "v-fold", "stand", "gate-bag"):
        study = studied(kind)
        card = next(
            (n, f) for n, f in zip(study.assembly.nodes, study.shut_frames, strict=True) if n.panel.name == "page-right"
        )
        xs, ys = ([p[k] for p in corners(*card)] for k in (0, 1))
        for node, frame in zip(study.assembly.nodes, study.shut_frames, strict=True):
            for x, y, _ in corners(node, frame):
                assert min(xs) - 0.3 <= x <= max(xs) + 0.3 and min(ys) - 0.3 <= y <= max(ys) + 0.3, (kind, node.panel)


def changed(study: Study, change: object) -> tuple[Assembly, Ring]:
    ring = only(study)
    loop: Loop = change(ring.loop)  # type: ignore[operator]  # a row of callables
    joints = tuple((a, b, c.points) for (a, b, _), c in zip(ring.joints, loop.closures, strict=False))
    wrong = replace(ring, loop=loop, joints=joints)
    return study.assembly, wrong


def test_a_tab_turned_by_a_degree_is_found(studied: Maker) -> None:
    study = studied("gate-bag")

    def crooked(loop: Loop) -> Loop:
        foot, seam = loop.closures
        (x0, y0, _), _ = seam.points[0]
        turn = math.radians(1.0)
        moved = tuple(
            (
                (
                    x0 + (x - x0) * math.cos(turn) - (y - y0) * math.sin(turn),
                    y0 + (x - x0) * math.sin(turn) + (y - y0) * math.cos(turn),
                    z,
                ),
                q,
            )
            for (x, y, z), q in seam.points
        )
        return replace(loop, closures=(foot, Closure(seam.label, seam.a, seam.b, moved)))

    assembly, ring = changed(study, crooked)
    found = examine(assembly, ring)
    assert found[0].code == "crooked" and found[0].amount > MEETS
    angles = dict(ring_path(assembly, ring, plain=True).poses)[found[0].at].angles
    off = {}
    for closure, joint in zip(ring.loop.closures, ring.joints, strict=True):  # each by itself
        alone = replace(ring, loop=replace(ring.loop, closures=(closure,)), joints=(joint,))
        solver = RingSolver(assembly.nodes, alone, plain=True)
        off[closure.label] = solver.residual(solver.equations(found[0].at, angles)[0])
    assert found[0].closure == max(off, key=lambda label: off[label]) and found[0].amount >= max(off.values()) - 1e-6


def test_missing_glue_is_found_by_what_can_still_move(studied: Maker) -> None:
    study = studied("gate-bag")
    assembly, ring = changed(study, lambda loop: replace(loop, closures=loop.closures[:1]))
    found = [f for f in examine(assembly, ring) if f.code == "missing-glue"]
    assert found and found[0].amount >= 1


def test_walls_that_are_no_pairs_jam_on_the_way(studied: Maker) -> None:
    study = studied("box-card", box_width=3, box_depth=2, left_depth=2.0625)
    clash = next(c for c in study.checks if c.gap.code == "flat-tube")
    assert clash.is_clash and clash.gap.value == pytest.approx(-25.4 / 16)
    found = examine(study.assembly, only(study))
    assert found[0].code == "crooked"
    at = jam(RingPath(study.assembly.nodes, only(study), plain=True))
    assert at is not None and 0.0 <= at < 1.0
    assert jam(RingPath(studied("box-card").assembly.nodes, only(studied("box-card")), plain=True)) is None


@given(st.lists(st.tuples(*[st.floats(-9, 9)] * 3), max_size=5))
def test_what_is_left_is_the_greatest_distance(points: list[tuple[float, float, float]]) -> None:
    want = max((float(np.linalg.norm(p)) for p in points), default=0.0)
    assert TENT.solver.residual([x for p in points for x in p]) == pytest.approx(want)


@pytest.mark.parametrize("kind", ["floating-layer", "tent", "stand"])
def test_a_ring_is_closed_from_a_guess_far_off(kind: str) -> None:
    """A third of a right angle off in every crease: damping rises where a step leads away, and falls again."""
    study, rng = Study(designed(kind)), random.Random(1)
    path = RingPath(study.assembly.nodes, only(study), plain=True)
    for _ in range(40):
        progress = rng.uniform(0.2, 0.8)
        guess = [angle + rng.uniform(-0.6, 0.6) for angle in path.at(progress).angles]
        assert path.solver.solve(progress, guess).residual < MEETS


@pytest.mark.parametrize("share", [0.0, 0.07, 0.5, 0.83])
def test_where_a_ring_jams_is_found_between_the_poses(share: float) -> None:
    """A ring that meets up to a share of its way and no further: told within a ten-thousandth, not before it."""

    def at(place: float) -> SimpleNamespace:
        return SimpleNamespace(residual=0.0 if place < share else 1.0)

    path = SimpleNamespace(poses=[(k / 10, at(k / 10)) for k in range(11)], at=at)
    told = jam(cast("RingPath", path))
    assert told is not None and share <= told <= share + 1e-4


def test_findings_reach_the_study(studied: Maker) -> None:
    assert all(f.code == "slack" for f in studied("v-fold").findings)
    assert Study(designed("tray")).findings == ()


@pytest.mark.parametrize("seed", range(40))
def test_rank_and_step_are_those_of_a_library(seed: int) -> None:
    rng = np.random.default_rng(seed)
    m, n = int(rng.integers(3, 30)), int(rng.integers(1, 9))
    made = int(rng.integers(0, min(m, n) + 1))
    jac = rng.normal(size=(m, made)) @ rng.normal(size=(made, n)) * 10.0 ** rng.uniform(-2, 3)
    assert rank(jac.tolist()) == np.linalg.matrix_rank(jac, tol=1e-6 * max(np.linalg.norm(jac, 2), 1e-12)) == made
    left, damping = rng.normal(size=m), 10.0 ** rng.uniform(-6, 0)
    normal = jac.T @ jac
    scale = damping * normal.trace() + 1e-12
    step = np.linalg.solve(normal + scale * np.eye(n), -jac.T @ left)
    assert np.array(_damped(jac.tolist(), left.tolist(), damping)) == pytest.approx(step, rel=1e-6, abs=1e-9)
