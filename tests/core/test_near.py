"""Bodies near one another in one pose, against python-fcl and against every pair of boxes."""

from __future__ import annotations

import math
import random
from collections.abc import Sequence

import fcl
import msgspec
import numpy as np
import pytest
import shapely
import shapely.affinity
from msgspec.structs import replace
from shapely.geometry import Polygon

from yawning_lantern.assembly import CreaseStep
from yawning_lantern.exchange.design_file import read_design
from yawning_lantern.opening import Plates
from yawning_lantern.opening.bodies import EDGE, ROUND, Solid, insets, over_flat_creases, prism
from yawning_lantern.pattern import Crease, Panel, Piece
from yawning_lantern.structures import start_design
from yawning_lantern.study import Study
from yawning_lantern.study.bodies import GIVES, solids
from yawning_lantern.study.near import Bodies, Body, parted

from ..conftest import DEMO, designed


def frame_of(rng: random.Random, spread: float) -> tuple[float, ...]:
    """A place and a turn at random (a unit quaternion, as books on graphics have it; from memory)."""
    q = np.array([rng.gauss(0, 1) for _ in range(4)])
    a, b, c, d = q / np.linalg.norm(q)
    x = (a * a + b * b - c * c - d * d, 2 * (b * c + a * d), 2 * (b * d - a * c))
    y = (2 * (b * c - a * d), a * a - b * b + c * c - d * d, 2 * (c * d + a * b))
    z = (2 * (b * d + a * c), 2 * (c * d - a * b), a * a - b * b - c * c + d * d)
    return (*x, *y, *z, *(rng.uniform(-spread, spread) for _ in range(3)))


def body_of(rng: random.Random, spread: float) -> Body:
    """A regular prism of three to seven sides, thin as a sheet or as tall as it is wide."""
    n, size, high = rng.randint(3, 7), rng.uniform(2.0, 12.0), rng.choice([0.1, 0.3, rng.uniform(1.0, 9.0)])
    outline = [(size * math.cos(2 * math.pi * k / n), size * math.sin(2 * math.pi * k / n)) for k in range(n)]
    return Body(0, prism(outline, -high / 2, high / 2), frame_of(rng, spread), solid=False)


def library(corners: Sequence[Sequence[float]]) -> fcl.CollisionObject:
    m = len(corners) // 2
    faces: list[int] = []
    for face in (range(m - 1, -1, -1), range(m, 2 * m)):
        faces += [m, *face]
    for i in range(m):
        faces += [4, i, (i + 1) % m, m + (i + 1) % m, m + i]
    return fcl.CollisionObject(fcl.Convex(np.array(corners), m + 2, np.array(faces, dtype=np.int64)))


@pytest.mark.parametrize("seed", range(6))
def test_two_bodies_are_apart_as_the_library_says(seed: int) -> None:
    rng, met, free = random.Random(seed), 0, 0
    for _ in range(150):
        a, b = body_of(rng, 7.0), body_of(rng, 7.0)
        apart, way = parted(a, b, math.inf)
        one, other = library(a.corners), library(b.corners)
        touch = fcl.collide(one, other, fcl.CollisionRequest(), fcl.CollisionResult()) > 0
        least = fcl.distance(one, other, fcl.DistanceRequest(), fcl.DistanceResult())
        assert math.isclose(math.hypot(*way), 1.0, abs_tol=1e-9)
        if abs(apart) > 1e-3:
            assert touch == (apart < 0)
        if apart > 0:  # no way parts them further than they are apart, and this one parts them so far
            assert apart <= least + 1e-3
            assert b.span(way)[0] - a.span(way)[1] == pytest.approx(apart, abs=1e-9)
            free += 1
        else:  # pushed apart along that way by so much they are free, by less they still meet
            met += 1
            for share, meets in ((1.0, False), (0.9, True)):
                far = [-apart * share * w + (1e-4 * w if share == 1.0 else 0.0) for w in way]
                moved = library([[p + f for p, f in zip(c, far, strict=True)] for c in b.corners])
                hit = fcl.collide(one, moved, fcl.CollisionRequest(), fcl.CollisionResult()) > 0
                assert hit == meets or -apart < 1e-3
    assert met > 20 and free > 20


def test_boxes_that_come_near_are_all_found() -> None:
    study = Study(read_design(DEMO))
    bodies = Bodies(study.assembly, study.shut_frames, solids(study.resolved, study.assembly))
    names = sorted({bodies.element(k) for k in range(len(bodies.all))})
    for most, least in ((0.5, 1), (3.0, 20), (20.0, 100)):

        def near(a: str, b: str, most: float = most) -> float:  # nothing between some, all of it or half between others
            return most * ((names.index(a) + names.index(b)) % 3) / 2

        every = []
        for j, b in enumerate(bodies.all):
            for i, a in enumerate(bodies.all[:j]):
                one, other = bodies.element(i), bodies.element(j)
                limit = 0.0 if one == other else near(one, other)
                if all(a.low[n] - b.high[n] <= limit and b.low[n] - a.high[n] <= limit for n in range(3)):
                    every.append((i, j, limit))
        assert sorted(bodies._boxes(most, near)) == sorted(every) and len(every) > least


@pytest.mark.parametrize("everywhere", [False, True])
def test_bodies_are_those_of_the_sweep(everywhere: bool) -> None:
    study = Study(read_design(DEMO))
    stand = solids(study.resolved, study.assembly)
    if everywhere:  # glued, limp, beyond a flat crease: something stands there too
        nodes = study.assembly.nodes
        stand = [*stand, *(Solid(k, node.panel.outline, 0.0, 2.0) for k, node in enumerate(nodes))]
    bodies, plates = Bodies(study.assembly, study.shut_frames, stand), Plates(study.assembly, solids=stand)
    turns, origins = plates.placed(study.shut_frames)
    assert [body.node for body in bodies.all] == plates.nodes
    for k, body in enumerate(bodies.all):
        own = np.array(plates.vertices(k)) @ turns[k].T + origins[k]
        assert np.allclose(body.corners, own, atol=1e-9)
        for j in range(k):
            untested = bool(plates.joined[j, k] or plates.one_sheet[j, k])
            assert bodies.may_meet(j, k) != untested


@pytest.mark.parametrize("name", ["comet-night-set", "observatory-box", "tide-table-book"])
def test_flat_creases_are_those_that_lie_flat_when_shut(name: str) -> None:
    study = Study(read_design(DEMO.parent / f"{name}.lantern"))
    pairs, flat = over_flat_creases(study.assembly), 0
    for k, node in enumerate(study.assembly.nodes):
        if isinstance(node.step, CreaseStep):
            one, other = (np.array(study.shut_frames[n][6:9]) for n in (k, node.parent))
            lies = float(one @ other) > 1 - 1e-9
            assert ((k, node.parent) in pairs) == ((node.parent, k) in pairs) == lies
            flat += lies
    assert flat or name != "comet-night-set"


@pytest.mark.parametrize("kind", ["tray", "explosion-box", "drop-front"])
def test_walls_of_thick_board_do_not_meet_at_their_corners(kind: str) -> None:
    # cut edges of three panels run into one another's thickness there: each body stays half a sheet away
    design = designed(kind)
    board = msgspec.structs.replace(design.root, stock="chipboard-2")
    study = Study(msgspec.structs.replace(design, root=board))
    assert study.pieces[0].stock.caliper == pytest.approx(2.0)
    assert Plates(study.assembly).shut_contacts(study.shut_frames) == ()
    own = [check for check in study.checks if check.gap.code == "beside"]
    assert not own


def half_plane(a: tuple[float, float], b: tuple[float, float], inward: float) -> Polygon:
    """All that lies left of an edge, further than so many mm, out to where no panel is."""
    size = math.dist(a, b)
    x, y = (b[0] - a[0]) / size, (b[1] - a[1]) / size
    at = a[0] - inward * y, a[1] + inward * x
    sides = [(at[0] + s * 999 * x - h * 999 * y, at[1] + s * 999 * y + h * 999 * x) for s, h in
             ((-1, 0), (1, 0), (1, 1), (-1, 1))]  # fmt: skip
    return Polygon(sides)


@pytest.mark.parametrize("seed", range(3))
def test_what_cannot_be_shared_of_a_panel_is_what_its_edges_leave(seed: int) -> None:
    rng, lost, gone = random.Random(seed), 0, 0
    paper = Study(read_design(DEMO)).pieces[0].stock
    t = paper.caliper
    for _ in range(300):
        n, wide, high = rng.randint(3, 8), rng.uniform(0.4, 9.0), rng.uniform(0.4, 9.0)
        turns = sorted(rng.uniform(0.0, 2 * math.pi) for _ in range(n))
        outline = tuple((wide * math.cos(a), high * math.sin(a)) for a in turns)
        if Polygon(outline).area < 0.1 or min(map(math.dist, outline, (*outline[1:], outline[0]))) < 0.05:
            continue
        folds = [k for k in range(n) if rng.random() < 0.4]
        edges = list(zip(outline, (*outline[1:], outline[0]), strict=True))
        wraps = {k: rng.choice((0.0, rng.uniform(0.0, 1.5))) for k in folds}
        creases = tuple(Crease(f"{k}", "own", "own", *edges[k], math.pi / 2, wraps[k]) for k in folds)
        piece = Piece("p", "p", paper, outline, (Panel("own", "own", outline),), creases)
        left = Polygon(outline)
        for k, (a, b) in enumerate(edges):
            bend = (t + wraps.get(k, 0.0)) / 2  # a fold takes a quarter of its circle, at the most what a corner takes
            back = min(t / 2 + bend, math.pi / 2 * bend) if k in folds else min(t / 2, ROUND)
            left = left.intersection(half_plane(a, b, EDGE + back))
        inner = insets(piece)["own"]
        told = Polygon(inner) if len(inner) > 2 else Polygon()
        assert told.symmetric_difference(left).area < 1e-6
        lost += 2 < len(inner) < n
        gone += not inner
    assert lost > 10 and gone > 10  # edges that keep nothing, and panels


@pytest.mark.parametrize("turn", [0.0, 37.0, 90.0, 200.0])
def test_what_stands_on_a_floor_is_turned_with_it(turn: float) -> None:
    """Whichever way its face is up: a box turned about the face's middle, as shapely turns it, its corners leftwards
    around."""
    study = Study(start_design("tray", {"content-width": 60.0, "content-depth": 50.0, "content-height": 40.0}))
    ((name, tray),) = study.resolved.items()
    up = (-math.sin(math.radians(turn)), math.cos(math.radians(turn)))
    part = replace(tray.part, mounts=tuple(replace(mount, up=up) for mount in tray.part.mounts))
    (box,) = solids({name: replace(tray, part=part)}, study.assembly)
    (x, y) = next(mount.origin for mount in part.mounts if mount.holds)
    flat = shapely.box(x - 30.0 + GIVES, y - 25.0 + GIVES, x + 30.0 - GIVES, y + 25.0 - GIVES)
    assert shapely.equals_exact(
        shapely.Polygon(box.outline).normalize(), shapely.affinity.rotate(flat, turn, (x, y)).normalize(), 1e-6
    )
    assert shapely.LinearRing(box.outline).is_ccw
