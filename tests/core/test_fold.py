"""Poses, painter order and sections against independent computation."""

from __future__ import annotations

import math
import random

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.spatial.transform import Rotation
from shapely import LineString, Polygon

from yawning_lantern.assembly import CreaseStep
from yawning_lantern.exchange.design_file import read_design
from yawning_lantern.fold import Facet, apply, build_tree, cut_through, opening_state, paint_order, pose
from yawning_lantern.fold.bsp import Vec, facet
from yawning_lantern.fold.camera import Camera, Projection
from yawning_lantern.fold.frames import crease_frame
from yawning_lantern.study import Study

from ..conftest import DEMO, designed

angles = st.floats(-math.pi, math.pi)


def step(foot: tuple[float, float], way: float, radius: float, hand: int) -> CreaseStep:
    along = (math.cos(way), math.sin(way))
    into = (-along[1] * hand, along[0] * hand)
    return CreaseStep(foot, along, into, radius, 0.0, 0.0, ())


@given(st.floats(-50, 50), st.floats(-50, 50), angles, angles, st.sampled_from([1, -1]))
def test_plain_hinge_is_a_rotation(x: float, y: float, way: float, angle: float, hand: int) -> None:
    # rotation about an axis in space, by scipy
    crease = step((x, y), way, 0.0, hand)
    axis = np.array([*crease.along, 0.0]) * hand
    turn = Rotation.from_rotvec(axis * angle)
    frame = crease_frame(crease, angle)
    for p in ((3.0, 4.0), (-20.0, 7.0), (0.0, 0.0)):
        want = turn.apply(np.array([p[0] - x, p[1] - y, 0.0])) + np.array([x, y, 0.0])
        assert apply(frame, *p) == pytest.approx(want, abs=1e-9)


@given(st.floats(0.01, 3), st.floats(0.05, math.pi), st.sampled_from([1, -1]))
def test_bend_is_an_arc_walked_in_small_steps(radius: float, angle: float, sense: int) -> None:
    # independent: walk the mid-surface as a chain of short straight pieces, each turned a little further
    crease = step((0.0, 0.0), 0.0, radius, 1)  # child lies at y > 0
    n, arc = 4000, radius * angle
    y, z, heading = -arc / 2, 0.0, 0.0
    for _ in range(n):
        heading += angle / n / 2
        y += arc / n * math.cos(heading)
        z += arc / n * math.sin(heading)
        heading += angle / n / 2
    rest = 25.0 - arc / 2
    want = (y + rest * math.cos(angle), sense * (z + rest * math.sin(angle)))
    got = apply(crease_frame(crease, sense * angle), 0.0, 25.0)
    assert got[1:] == pytest.approx(want, abs=1e-4)


def test_half_turn_leaves_leaves_a_sheet_and_wrap_apart() -> None:
    # worked: a sheet folded on itself round a bulk: mid-surfaces t + wrap apart (model of the arc, from memory)
    t, wrap = 0.27, 1.5
    frame = crease_frame(step((0.0, 0.0), 0.0, (t + wrap) / 2, 1), math.pi)
    assert apply(frame, 0.0, 10.0) == pytest.approx((0.0, -10.0, t + wrap))


def test_box_measures_nominal_and_a_sheet() -> None:
    # common practice, no source: outside = nominal + t; the arc gives it within a quarter of a sheet
    study = Study(designed("tray", width=3, depth=4, height=1))
    t = study.resolved["tray"].final.paper.caliper
    w, d, h = study.size_at(0.0)
    assert w == pytest.approx(3 * 25.4 + t, abs=0.25 * t)
    assert d == pytest.approx(4 * 25.4 + t, abs=0.25 * t)
    assert h == pytest.approx(25.4 + t / 2, abs=0.25 * t)


def quad(rng: random.Random, node: int) -> Facet:
    """A random rectangle in space."""
    turn = Rotation.random(rng=rng.randrange(1 << 30)).as_matrix()
    centre = np.array([rng.uniform(-30, 30) for _ in range(3)])
    a, b = turn[:, 0] * rng.uniform(5, 30), turn[:, 1] * rng.uniform(5, 30)
    points = [centre - a - b, centre + a - b, centre + a + b, centre - a + b]
    return facet(
        node,
        tuple((float(p[0]), float(p[1]), float(p[2])) for p in points),
        (True,) * 4,
        (float(turn[0, 2]), float(turn[1, 2]), float(turn[2, 2])),
    )


def hit(points: tuple[Vec, ...], eye: Vec, way: np.ndarray) -> float | None:
    """Distance along a ray to a convex polygon, or None (Möller–Trumbore over a fan of triangles)."""
    o = np.array(eye)
    p = np.array(points)
    for k in range(1, len(p) - 1):
        e1, e2 = p[k] - p[0], p[k + 1] - p[0]
        h = np.cross(way, e2)
        det = e1 @ h
        if abs(det) < 1e-12:
            continue
        s = o - p[0]
        u = s @ h / det
        q = np.cross(s, e1)
        v = way @ q / det
        if u >= 0 and v >= 0 and u + v <= 1:
            return float(e2 @ q / det)
    return None


def check_order(facets: list[Facet], eye: Vec, target: float, rays: int, rng: random.Random) -> None:
    """The last facet painted on each ray must be the nearest one hit, found by brute force over the originals."""
    painted = list(paint_order(build_tree(facets), eye))
    seen = 0
    for _ in range(rays):
        aim = np.array([rng.uniform(-target, target) for _ in range(3)]) - np.array(eye)
        way = aim / np.linalg.norm(aim)
        truth = sorted((d, f.node) for f in facets if (d := hit(f.points, eye, way)) is not None)
        if not truth or (len(truth) > 1 and truth[1][0] - truth[0][0] < 0.05):
            continue
        top = [f.node for f in painted if hit(f.points, eye, way) is not None]
        if not top:
            continue  # the ray runs along a cut
        seen += 1
        assert top[-1] == truth[0][1]
    assert seen > rays / 10


@pytest.mark.parametrize("seed", range(4))
def test_painter_order_of_sheets_that_pass_through_each_other(seed: int) -> None:
    rng = random.Random(seed)
    facets = [quad(rng, k) for k in range(14)]
    tree_area = dict.fromkeys(range(14), 0.0)
    for piece in paint_order(build_tree(facets), (300.0, 80.0, 120.0)):
        p = np.array(piece.points)
        tree_area[piece.node] += sum(
            float(np.linalg.norm(np.cross(p[k] - p[0], p[k + 1] - p[0]))) / 2 for k in range(1, len(p) - 1)
        )
    for one in facets:
        p = np.array(one.points)
        whole = float(np.linalg.norm(np.cross(p[1] - p[0], p[3] - p[0])))
        assert tree_area[one.node] == pytest.approx(whole, rel=1e-6)  # splitting keeps area
    for eye in ((300.0, 80.0, 120.0), (-90.0, -250.0, 40.0), (10.0, 20.0, -280.0)):
        check_order(facets, eye, 40.0, 60, rng)


@pytest.mark.parametrize("position", [-0.6, 0.0, 0.3, 1.0])
def test_painter_order_of_the_demo(position: float) -> None:
    from yawning_lantern.exchange.design_file import read_design
    from yawning_lantern.fold import facets

    study = Study(read_design(DEMO))
    frames, _ = study.picture(position)
    check_order(facets(study.assembly, frames), (300.0, -420.0, 330.0), 110.0, 110, random.Random(5))


def test_section_shows_every_sheet_in_its_thickness() -> None:
    study = Study(designed("explosion-box", base=4, wall=3, layers=2))
    cuts = study.section(1)
    t = study.resolved["box"].final.paper.caliper
    assert len(cuts) == 6  # two floors, four walls
    for cut in cuts:
        a, b, _, d = cut.corners
        thick = math.dist(a, d)
        assert thick == pytest.approx(t, abs=1e-6)
        assert math.dist(a, b) > 20
    walls = sorted(sum(c[0] for c in cut.corners) / 4 for cut in cuts)
    assert walls[0] == pytest.approx(-walls[-1])
    assert walls[-1] == pytest.approx(2 * 25.4, abs=0.2 * t)


def test_lids_lift_before_walls_fall_and_outer_before_inner() -> None:
    study = Study(designed("explosion-box", base=4, wall=4, layers=2, lid="easy"))
    assert [(m.element, m.kind) for m in study.assembly.motions] == [
        ("lid", "lift"),
        ("box", "swing"),
        ("layer-2", "swing"),
    ]


@given(
    st.floats(-3, 3), st.floats(-1.4, 1.4), st.floats(0.5, 3), st.lists(st.floats(-80, 80), min_size=9, max_size=9),
    st.tuples(st.floats(-60, 60), st.floats(-60, 60)),
)  # fmt: skip
@settings(max_examples=80)
def test_a_plane_is_brought_to_pixels_as_its_points_are(
    turn: float, tilt: float, zoom: float, values: list[float], at: tuple[float, float]
) -> None:
    # the matrix of nine against every point by itself
    view = Projection.of(Camera(turn, tilt, zoom), (3.0, -2.0, 5.0), 200.0, (640.0, 480.0))
    o, e1, e2 = (tuple(values[k : k + 3]) for k in (0, 3, 6))
    e1, e2 = tuple(v / 80 for v in e1), tuple(v / 80 for v in e2)
    m = view.plane(o, e1, e2)  # type: ignore[arg-type]  # three numbers each
    x, y = at
    across, down, far = (x * m[k] + y * m[3 + k] + m[6 + k] for k in range(3))
    point = tuple(o[k] + x * e1[k] + y * e2[k] for k in range(3))
    assert pytest.approx(view.point(point), abs=1e-6) == (across / far, down / far)  # type: ignore[arg-type]  # three numbers


@given(
    st.lists(st.tuples(*[st.floats(-200, 200)] * 3), min_size=2, max_size=12),
    st.floats(-3, 3), st.floats(-1.5, 1.5), st.sampled_from([(640.0, 480.0), (200.0, 700.0)]),
)  # fmt: skip
@settings(max_examples=80)
def test_everything_looked_at_is_in_view(
    points: list[tuple[float, float, float]], turn: float, tilt: float, size: tuple[float, float]
) -> None:
    view = Projection.holding(Camera(turn, tilt), points, size)
    for x, y in view.points(points):
        assert -1e-6 <= x <= size[0] + 1e-6 and -1e-6 <= y <= size[1] + 1e-6
    # and not smaller than it need be: seen straight on, the farthest point comes near the rim of what fits
    middle = [(min(p[k] for p in points) + max(p[k] for p in points)) / 2 for k in range(3)]
    far = max(math.dist(p, middle) for p in points)
    if far > 1.0:
        assert 2 * far * view.scale > 0.85 * min(size)


@given(st.floats(-40, 40), st.floats(-40, 40), st.floats(0.2, 2.9))
@settings(max_examples=60)
def test_a_split_sheet_keeps_its_own_edges_and_no_others(x: float, y: float, turn: float) -> None:
    # a square in the level plane, cut by an upright one: an edge of a fragment is original where it lies on the square
    square = facet(0, ((-50, -50, 0), (50, -50, 0), (50, 50, 0), (-50, 50, 0)), (True,) * 4, (0, 0, 1))
    dx, dy = math.cos(turn) * 300, math.sin(turn) * 300
    wall = facet(1, ((x - dx, y - dy, -9), (x + dx, y + dy, -9), (x + dx, y + dy, 9), (x - dx, y - dy, 9)), (True,) * 4,
                 (-math.sin(turn), math.cos(turn), 0))  # fmt: skip
    tree = build_tree([wall, square])
    parts = [one for one in paint_order(tree, (10.0, 20.0, 500.0)) if one.node == 0]
    assert sum(area_of(one) for one in parts) == pytest.approx(100 * 100, abs=5)
    for one in parts:
        for k, p in enumerate(one.points):
            q = one.points[(k + 1) % len(one.points)]
            if math.dist(p, q) < 0.1:
                continue
            middle = [(a + b) / 2 for a, b in zip(p, q, strict=True)]
            on_rim = max(abs(middle[0]), abs(middle[1])) > 50 - 1e-6
            assert one.edges[k] is on_rim, (p, q)


def area_of(one: Facet) -> float:
    points = one.points
    total = sum(
        p[0] * q[1] - q[0] * p[1] for p, q in zip(points, (*points[1:], points[0]), strict=True)
    )  # fmt: skip
    return abs(total) / 2


@pytest.mark.parametrize("axis", [0, 1])
@pytest.mark.parametrize("share", [0.02, 0.3, 0.5, 0.77])
def test_a_section_holds_every_sheet_it_goes_through(axis: int, share: float) -> None:
    """By shapely: in each sheet's own plane what a line leaves of it, as long; as thick as the sheet is when it is cut
    aslant. Sheets that lie in the plane of the section are no part of it, and hide none of the others."""
    study = Study(read_design(DEMO))
    across, facets = 1 - axis, study.shut_facets
    places = [p[axis] for f in facets for p in f.points]
    in_a_wall = min((f.points[0][axis] for f in facets if abs(f.normal[axis]) > 1 - 1e-9), key=abs)
    for at in (min(places) + share * (max(places) - min(places)) + 0.0137, in_a_wall):
        wanted = []
        for sheet in facets:
            points, normal = np.array(sheet.points), np.array(sheet.normal)
            tilt = math.hypot(normal[across], normal[2])
            if tilt < 1e-6:
                continue
            u = np.cross(normal, np.eye(3)[axis]) / tilt  # along the section
            v = np.cross(normal, u)
            shape = Polygon([(p @ u, p @ v) for p in points])
            far = (at - points[0][axis]) / v[axis] + points[0] @ v
            left = shape.intersection(LineString([(-1e4, far), (1e4, far)])).length
            if left > 1e-6:
                caliper = study.assembly.nodes[sheet.node].piece.stock.caliper
                wanted.append((sheet.node, left, min(caliper / tilt, 3.0 * tilt * caliper)))  # grazed: bounded
        got = [
            (cut.node, math.dist(*cut.corners[:2]), math.dist(cut.corners[1], cut.corners[2]))
            for cut in cut_through(study.assembly, facets, axis, at)
        ]
        assert len(got) == len(wanted) > 5 and [k for k, *_ in got] == [k for k, *_ in wanted]
        for (_, length, thick), (_, left, wide) in zip(got, wanted, strict=True):
            assert length == pytest.approx(left, abs=1e-6) and thick == pytest.approx(wide, rel=1e-6)


@pytest.mark.parametrize("kind", ["explosion-box", "pocket-folio", "tent", "tier-wrap", "booklet"])
def test_how_large_it_is_is_where_its_sheets_are(kind: str) -> None:
    """Shut, half open and open: from the least to the most of every panel's corners, as thick as its sheet."""
    study = Study(designed(kind))
    for position in (0.0, 0.5, 1.0):
        frames = study.shut_frames if not position else pose(study.assembly, opening_state(study.assembly, position))
        points = []
        for node, frame in zip(study.assembly.nodes, np.array(frames).reshape(-1, 4, 3), strict=True):
            half = node.piece.stock.caliper / 2
            flat = [(x, y, z) for x, y in node.panel.outline for z in (-half, half)]
            points += [np.array(flat) @ frame[:3] + frame[3]]
        each = np.concatenate(points)
        size = each.max(axis=0) - each.min(axis=0)
        assert study.size_at(position) == pytest.approx(size, abs=0.6)
        assert abs(size[0] - size[1]) > 1.0 or kind in ("explosion-box", "tier-wrap")
