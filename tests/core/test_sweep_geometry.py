"""What a sweep stands on: plates by worked geometry and shapely, many poses at once against one by one, parting
directions against dense sampling."""

from __future__ import annotations

import math
import random
from itertools import combinations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.spatial import ConvexHull
from scipy.spatial.transform import Rotation
from shapely import MultiPoint, Polygon

from yawning_lantern.errors import LanternError
from yawning_lantern.exchange.design_file import read_design
from yawning_lantern.fold import pose
from yawning_lantern.fold.camera import Camera, Projection
from yawning_lantern.fold.rings import ring_angles, ring_path
from yawning_lantern.opening import Margin, Plates, Solid, Standing, Stations, find_opening
from yawning_lantern.opening.bodies import EDGE, GIVE, ROUND
from yawning_lantern.opening.stations import movers, turns_of
from yawning_lantern.opening.sweep import moves, near_pairs, parted, sweep
from yawning_lantern.structures import families, start_design
from yawning_lantern.study import Study

from ..conftest import DEMO, designed
from .test_random_nests import random_nest

MOVING = [name for name in sorted(families()) if Study(start_design(name, {})).assembly.motions]


def outline_of(plates: Plates, rank: int) -> Polygon:
    """The outline of a plate in its own piece, mm."""
    frames = [(1.0, 0, 0, 0, 1.0, 0, 0, 0, 1.0, 0, 0, 0)] * len(plates.assembly.nodes)
    corners = plates.corners(*plates.placed(frames))[rank]
    return MultiPoint(corners[: len(corners) // 2, :2]).convex_hull


# -- plates


def test_a_sheet_by_itself_lies_half_a_sheet_inside_its_outline() -> None:
    study = Study(designed("photo"))
    plates = Plates(study.assembly)
    panel, t = study.pieces[0].panels[0], study.pieces[0].stock.caliper
    want = Polygon(panel.outline).buffer(-(t / 2 + EDGE), join_style="mitre")
    assert outline_of(plates, 0).symmetric_difference(want).area < 1e-6
    grown = outline_of(Plates(study.assembly, Margin(outline=3.0)), 0)
    want = Polygon(panel.outline).buffer(3.0 / 2 - t / 2 - EDGE, join_style="mitre")
    assert grown.symmetric_difference(want).area < 1e-6


@pytest.mark.parametrize("name", sorted(families()))
def test_plates_lie_inside_their_panels(name: str) -> None:
    study = Study(start_design(name, {}))
    plates = Plates(study.assembly)
    for rank, k in enumerate(plates.nodes):
        node = study.assembly.nodes[k]
        if node.shape is not None:
            continue  # a bent sheet's body is tested by its own geometry
        panel = Polygon(node.panel.outline)
        own = outline_of(plates, rank)
        assert own.within(panel.buffer(1e-6)) and own.area > 0
        # every edge gives half a sheet; an edge with a fold gives the bend of the fold beside it
        assert own.distance(panel.exterior) >= min(node.piece.stock.caliper / 2, ROUND) + EDGE - 1e-6


def test_a_plate_is_thinner_than_its_sheet_by_what_paper_gives() -> None:
    for stock in ("card-216", "chipboard-1"):
        study = Study(start_design("mat", {}, stock=stock))
        t = study.pieces[0].stock.caliper
        plates, thicker = Plates(study.assembly), Plates(study.assembly, Margin(caliper=0.2))
        heights = []
        for made in (plates, thicker):
            corners = made.corners(*made.placed(study.shut_frames))[0]
            heights.append(corners[:, 2].max() - corners[:, 2].min())
        assert heights[0] == pytest.approx(t - 2 * min(t / 4, GIVE))
        assert heights[1] - heights[0] == pytest.approx(0.2 * t)


@given(
    a=st.tuples(st.floats(4, 60), st.floats(4, 60)), b=st.tuples(st.floats(4, 60), st.floats(4, 60)),
    x=st.floats(-70, 70), y=st.floats(-70, 70), up=st.floats(0.0, 10.0),
)  # fmt: skip
def test_depth_of_two_boxes_is_their_least_overlap(
    a: tuple[float, float], b: tuple[float, float], x: float, y: float, up: float
) -> None:
    """Two solids on one panel, square to one another: the least of three overlaps (worked geometry)."""
    study = Study(designed("photo"))

    def box(size: tuple[float, float], at: tuple[float, float], low: float) -> Solid:
        (w, d), (cx, cy) = size, at
        sides = ((-w, -d), (w, -d), (w, d), (-w, d))
        return Solid(0, tuple((cx + p / 2, cy + q / 2) for p, q in sides), low, low + 6.0)

    plates = Plates(study.assembly, solids=(box(a, (0, 0), 100.0), box(b, (x, y), 100.0 + up)))
    turns, origins = plates.placed(study.shut_frames)
    corners, ways = plates.corners(turns, origins), plates.ways(turns)
    least = min((a[0] + b[0]) / 2 - abs(x), (a[1] + b[1]) / 2 - abs(y), 6.0 - up)
    i = plates.sheets
    assert plates.depth(i, i + 1, corners, ways) == pytest.approx(max(0.0, least), abs=1e-9)
    if abs(least) > 1e-3:
        assert (plates.touch(i, i + 1, turns, origins) is not None) == (least > 0)
        assert (plates.way_apart(i, i + 1, turns, origins) is None) == (least > 0)
    told = plates.contact(i, 0, 0.5, 1.0)
    assert told.solid == (True, False) and (told.a, told.b) == (0, 0)
    assert plates.joined[i, 0] and not plates.joined[i, i + 1]  # what stands on a sheet may touch that


@given(seed=st.integers(0, 10**9))
def test_depth_of_two_slabs_is_how_far_nothing_lies_within_their_difference(seed: int) -> None:
    """Prisms on any base, turned any way, that cross aslant: the distance from nothing to the hull of the differences
    of their corners (Cameron and Culley, 1986), found by qhull."""
    rng = np.random.default_rng(seed)
    slabs, ways = [], []
    for _ in range(2):
        turn = Rotation.random(random_state=rng).as_matrix()
        angles = (np.arange(4) + rng.uniform(0.0, 0.9, 4)) * math.pi / 2
        below = np.stack([np.cos(angles), np.sin(angles), np.zeros(4)], axis=1) * rng.uniform(5.0, 40.0)
        above = below + np.array([0.0, 0.0, rng.uniform(1.0, 40.0)])
        slab = (np.concatenate([below, above]) + rng.uniform(-12, 12, 3)) @ turn
        edges = np.roll(slab[:4], -1, axis=0) - slab[:4]
        aside = np.cross(edges, turn[2])
        slabs.append(slab)
        ways.append([turn[2], *(aside / np.linalg.norm(aside, axis=1)[:, None])])
    hull = ConvexHull((slabs[0][:, None] - slabs[1][None]).reshape(-1, 3))
    within = max(0.0, float((-hull.equations[:, 3]).min()))
    found = Plates(Study(designed("photo")).assembly).depth(0, 1, np.array(slabs), np.array(ways))
    assert found == pytest.approx(within, abs=1e-6)


# -- poses in bulk


@pytest.mark.parametrize("name", [*MOVING, "demo"])
def test_stations_are_the_poses(name: str) -> None:
    """Every motion, others open or at rest at random: frames at seven shares against the pose of each by itself."""
    study = Study(read_design(DEMO) if name == "demo" else start_design(name, {}))
    assembly, rng = study.assembly, random.Random(name)
    count, nodes = len(assembly.motions), range(len(assembly.nodes))
    for motion in range(count):
        opened = frozenset(m for m in range(count) if m != motion and rng.random() < 0.5)
        standing = Standing(opened)
        still = {k for k in nodes if motion in turns_of(assembly, k)}
        if still and not assembly.rings:
            standing = Standing(opened, {(min(still), motion): 0.6})
        stations = Stations(assembly, nodes, motion, standing)
        shares = [0.0, 0.013, 0.2, 0.47, 0.61, 0.93, 1.0]
        turns, origins = stations.at(shares)
        for s, share in enumerate(shares):
            frames = np.array(pose(assembly, standing.state(count, motion, share)))
            assert np.allclose(turns[s].transpose(0, 2, 1).reshape(-1, 9), frames[:, :9], atol=2e-4)
            assert np.allclose(origins[s], frames[:, 9:], atol=0.03)


@pytest.mark.parametrize("name", ["gate-bag", "v-fold", "tent", "box-card"])
def test_the_cubic_through_solved_poses_is_as_good_as_solving(name: str) -> None:
    study = Study(start_design(name, {}))
    ring = study.assembly.rings[0]
    stations = Stations(study.assembly, range(len(study.assembly.nodes)), ring.motion, Standing())
    assert len(ring_path(study.assembly, ring).poses) > 12
    for share in np.linspace(0.02, 0.98, 33):
        quick, solved = stations._ring(ring, float(share)), ring_angles(study.assembly, ring, float(share))
        assert quick.keys() == solved.keys()
        assert max(abs(quick[k] - solved[k]) for k in solved) < 2e-4  # 0.02 mm at the end of a panel of 100 mm


@pytest.mark.parametrize("name", MOVING)
def test_movers_move_and_the_rest_stays(name: str) -> None:
    assembly = Study(start_design(name, {})).assembly
    count = len(assembly.motions)
    plates = Plates(assembly)
    for motion in range(count):
        mover, moved = movers(assembly, motion), moves(plates, motion)
        standing = Standing(frozenset(range(motion)))
        before, after = (np.array(pose(assembly, standing.state(count, motion, s))) for s in (0.0, 0.5))
        for k, (a, b) in enumerate(zip(before, after, strict=True)):
            assert (mover[k] >= 0) == (k in moved)
            if mover[k] < 0:
                assert np.allclose(a, b)
            elif mover[k] != k:  # one body with its parent: seen from there it stays
                above = assembly.nodes[k].parent
                seen = []
                for frames in (before, after):
                    turn = frames[above][:9].reshape(3, 3)
                    seen.append(turn @ (frames[k][9:] - frames[above][9:]))
                assert np.allclose(seen[0], seen[1], atol=1e-6)


def test_standing_opens_and_shuts() -> None:
    first = Standing().opening(2, {7: 0.8}).opening(4, {})
    assert first.opened == {2, 4} and first.rests == {(7, 2): 0.8}
    assert first.state(6).progress == (0.0, 0.0, 1.0, 0.0, 1.0, 0.0)
    assert first.state(6, 1, 0.3).progress[1] == 0.3
    assert first.shutting(2) == Standing(frozenset({4}), {})


# -- parting


@given(st.integers(0, 10_000))
def test_what_is_parted_at_both_ends_is_parted_between(seed: int) -> None:
    """Corners that go straight: what parts both ends parts every pose between (concavity), by sampling."""
    rng = np.random.default_rng(seed)
    a0, b0 = rng.normal(size=(1, 6, 3)), rng.normal(size=(1, 6, 3)) + rng.normal(size=3) * 3
    a1, b1 = a0 + rng.normal(size=(1, 6, 3)), b0 + rng.normal(size=(1, 6, 3))
    axis = rng.normal(size=(1, 1, 3))
    axis /= np.linalg.norm(axis)
    if not parted(axis, (a0, a1, b0, b1), np.array([0.05]))[0]:
        return
    for share in np.linspace(0, 1, 23):
        pa, pb = (((1 - share) * p + share * q)[0] @ axis[0, 0] for p, q in ((a0, a1), (b0, b1)))
        assert max(pb.min() - pa.max(), pa.min() - pb.max()) > 0.05 - 1e-9


def test_a_clear_sweep_is_clear_in_every_pose() -> None:
    """No tunnel: motions that were found clear, 150 poses each, every pair put to the library by itself."""
    tried = 0
    for seed in range(80):
        try:
            study = Study(random_nest(random.Random(seed)))
        except LanternError:
            continue
        count = len(study.assembly.motions)
        if study.has_clash or not 1 <= count <= 4 or len(study.assembly.nodes) > 40:
            continue
        plates = Plates(study.assembly)
        swept = sweep(plates, 0)
        if swept.contact is not None or swept.rests:
            continue
        tried += 1
        stations = Stations(study.assembly, plates.nodes, 0, Standing())
        mover = np.array([stations.mover[k] for k in plates.nodes])
        allowed = np.triu((mover[:, None] != mover[None]) & ~plates.joined, 1)
        shut = {(plates.ranks[c.a][0], plates.ranks[c.b][0]) for c in plates.shut_contacts(study.shut_frames)}
        turns, origins = stations.at(list(np.linspace(0, 1, 150)))
        corners, ways = plates.corners(turns, origins), plates.ways(turns)
        for s in range(150):
            lo, hi = corners[s].min(axis=1), corners[s].max(axis=1)
            for i, j in np.argwhere((lo[:, None] <= hi[None]).all(-1) & (lo[None] <= hi[:, None]).all(-1) & allowed):
                if (i, j) not in shut and plates.touch(i, j, turns[s], origins[s]) is not None:
                    assert plates.depth(i, j, corners[s], ways[s]) < 0.1, (seed, s, i, j)  # it grazes
    assert tried >= 8


def test_what_begins_too_tight_may_slide_on_as_long_as_it_gets_no_tighter() -> None:
    # a block on the drawer's floor that stands 1 to 16 mm through the sleeve's top: the fits tell of it, the slide is
    # free all the same. Worked geometry.
    study = Study(designed("drawer-sleeve"))
    nodes = study.assembly.nodes
    floor = next(k for k, n in enumerate(nodes) if n.instance == "drawer-1" and n.panel.name == "base")
    top = next(k for k, n in enumerate(nodes) if n.panel.name == "top")
    x, y = nodes[floor].panel.centre
    clear = study.shut_frames[top][11] - study.shut_frames[floor][11]
    for high, met in ((clear - 2, False), (clear + 1, True), (clear + 16, True)):
        corners = ((x - 9, y - 9), (x + 9, y - 9), (x + 9, y + 9), (x - 9, y + 9))
        plates = Plates(study.assembly, solids=[Solid(floor, corners, 0.2, high)])
        assert bool(plates.shut_contacts(study.shut_frames)) == met
        assert find_opening(plates).works


def test_a_design_without_plates_or_motions_opens() -> None:
    for name in ("photo", "rosette", "mat"):
        opening = find_opening(Plates(Study(start_design(name, {})).assembly))
        assert opening.works and opening.steps == ()


# -- the picture


@given(turn=st.floats(-3, 3), tilt=st.floats(-1.4, 1.4), zoom=st.sampled_from([0.5, 1.0]))
def test_a_projection_holds_all_points(turn: float, tilt: float, zoom: float) -> None:
    rng = np.random.default_rng(3)
    points = [tuple(p) for p in rng.normal(size=(40, 3)) * (80.0, 30.0, 10.0)]
    view = Projection.holding(Camera(turn, tilt, zoom), points, (640.0, 480.0))
    for x, y in map(view.point, points):
        assert 0 <= x <= 640 and 0 <= y <= 480
    assert math.dist(view.eye, view.middle) > max(math.dist(p, view.middle) for p in points)


@pytest.mark.parametrize("kind", ["waterfall", "closing-box", "tier-wrap"])
def test_pairs_that_come_near_are_those_whose_boxes_meet(kind: str) -> None:
    """Against corners at the same stations, box by box: of what moves and what does not, and is not hinged on it."""
    assembly = Study(designed(kind)).assembly
    plates = Plates(assembly)
    asked = 0
    for motion in range(len(assembly.motions)):
        going = {r for r, node in enumerate(plates.nodes) if node in moves(plates, motion)}
        seen: dict[bytes, set[tuple[int, int]]] = {}
        for turns, origins, i, j in near_pairs(plates, Stations(assembly, plates.nodes, motion, Standing()), 20.0):
            seen.setdefault(turns.tobytes() + origins.tobytes(), set()).add((min(i, j), max(i, j)))
        for key, pairs in seen.items():
            half = len(key) * 9 // 12
            turns = np.frombuffer(key[:half]).reshape(1, -1, 3, 3)
            at = plates.corners(turns, np.frombuffer(key[half:]).reshape(1, -1, 3))[0]
            want = {
                (i, j) for i, j in combinations(range(len(at)), 2)
                if (i in going) != (j in going) and not plates.joined[i, j]
                and (at[i].min(axis=0) <= at[j].max(axis=0)).all() and (at[j].min(axis=0) <= at[i].max(axis=0)).all()
            }  # fmt: skip
            assert {(i, j) for i, j in pairs if (i in going) != (j in going)} == want
            asked += len(want)
    assert asked > 0
