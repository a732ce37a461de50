"""Windows and notches: cut out of the sheet, and of the panel in space, so that what lies behind is seen."""

from __future__ import annotations

import math
import random
from collections.abc import Sequence

import numpy as np
import pytest
from shapely import LineString, MultiPoint, Point, Polygon, unary_union

from yawning_lantern.design import Element, Place, add_guest
from yawning_lantern.errors import ParameterError
from yawning_lantern.fold import flat_parts
from yawning_lantern.pattern.convex import encloses, without
from yawning_lantern.pattern.piece import area
from yawning_lantern.pattern.validity import faults
from yawning_lantern.structures import start_design
from yawning_lantern.study import Study


def convex(rng: random.Random, about: tuple[float, float], size: float) -> tuple[tuple[float, float], ...]:
    """A convex polygon, counter-clockwise."""
    points = [(about[0] + rng.uniform(-size, size), about[1] + rng.uniform(-size, size)) for _ in range(8)]
    ring = list(MultiPoint(points).convex_hull.exterior.coords)[:-1]
    return tuple(ring) if area(ring) > 0 else tuple(reversed(ring))


def holds(ring: Sequence[tuple[float, float]], spots: np.ndarray) -> np.ndarray:
    """Which points (n, 2) a convex polygon holds, by the side of every edge they are on."""
    a, b = np.array(ring), np.roll(np.array(ring), -1, axis=0)
    way, off = b - a, spots[:, None] - a[None]
    inside: np.ndarray = (way[None, :, 0] * off[..., 1] - way[None, :, 1] * off[..., 0] >= 0).all(axis=1)
    return inside


@pytest.mark.parametrize("block", range(4))
def test_what_is_left_around_a_window_is_what_shapely_leaves(block: int) -> None:
    """Parts are convex, lie in no other, add up to the difference; edges of the paper are its border, all of it."""
    for seed in range(60 * block, 60 * block + 60):
        rng = random.Random(seed)
        outline, window = convex(rng, (0, 0), 30), convex(rng, (rng.uniform(-25, 25), 0), 12)
        left = Polygon(outline).difference(Polygon(window))
        parts = without(outline, window)
        shapes = [Polygon(points) for points, _ in parts]
        assert sum(one.area for one in shapes) == pytest.approx(left.area, abs=1e-6)
        spots = np.array([(rng.uniform(-32, 32), rng.uniform(-32, 32)) for _ in range(400)])
        wanted = holds(outline, spots) & ~holds(window, spots)
        assert (sum(holds(points, spots).astype(int) for points, _ in parts) == wanted).all(), seed
        for shape, (points, edges) in zip(shapes, parts, strict=True):
            assert shape.convex_hull.area == pytest.approx(shape.area, abs=1e-6) and len(points) == len(edges)
        shown = sum(
            math.dist(points[k], points[(k + 1) % len(points)])
            for points, edges in parts for k in range(len(points)) if edges[k]
        )  # fmt: skip
        border = left.boundary.length
        assert shown == pytest.approx(border, abs=1e-3), seed
        assert encloses(outline, window) == Polygon(outline).buffer(-1e-4).contains(Polygon(window)), seed


@pytest.mark.parametrize(("n", "windows"), [(6, "all"), (4, "but one"), (8, "but one"), (3, "all")])
def test_walls_of_a_prism_have_their_windows(n: int, windows: str) -> None:
    study = Study(start_design("prism", {"sides": n, "side": 60.0, "height": 80.0, "windows": windows, "pane": 14.0}))
    assert not study.has_clash and all(faults(piece) == () for piece in study.pieces)
    holes = [Polygon(hole) for piece in study.pieces for hole in piece.holes]
    assert len(holes) == (n if windows == "all" else n - 1)
    for hole in holes:
        x0, _, x1, _ = hole.bounds
        assert x1 - x0 == pytest.approx(60.0 - 28.0) and hole.area == pytest.approx(
            (x1 - x0) * (hole.bounds[3] - hole.bounds[1])
        )
    # neither a tab nor the neighbour's scores reach into one
    for piece in study.pieces:
        scores = [LineString([line.start, line.end]) for line in piece.lines if line.kind == "score"]
        assert all(not Polygon(hole).intersects(score) for hole in piece.holes for score in scores)
    with pytest.raises(ParameterError, match="no window"):
        Study(start_design("prism", {"side": 30.0, "height": 80.0, "windows": "all", "pane": 14.0}))


def test_what_stands_inside_is_seen_through_a_window() -> None:
    """Rays that leave what lies within get out through the windows, though a lid is on; through whole walls they do
    not."""
    seen = {}
    for windows in ("none", "all"):
        design = start_design("prism", {"sides": 6, "side": 60.0, "height": 80.0, "windows": windows})
        design = add_guest(
            design, design.root.id, Element("inside", "mat", "", {"width": 60.0, "height": 60.0}), Place("floor")
        )
        design = add_guest(design, design.root.id, Element("lid", "lid"), Place("mouth"))
        study = Study(design)
        assert not study.has_clash
        seen[windows] = study.seen("inside")[0].front
    assert seen["none"] != "shut" and seen["all"] == "shut"


def test_a_frame_leaves_its_window_free_and_shows_what_is_behind() -> None:
    for shape, free in (("square", 60.0 * 40.0), ("round", math.pi * 30.0 * 20.0)):
        study = Study(
            start_design("mat", {"width": 80.0, "height": 60.0, "border": 0.0, "frame": 10.0, "shape": shape})
        )
        (piece,) = study.pieces
        assert faults(piece) == ()
        (hole,) = piece.holes
        assert Polygon(hole).area == pytest.approx(
            free * (piece.size[0] - 20) * (piece.size[1] - 20) / 2400.0, rel=0.02
        )
        parts = flat_parts(study.assembly.nodes[0], study.shut_frames[0], 1.0)
        drawn = unary_union([Polygon([p[:2] for p in points]) for points, _, _ in parts])
        sheet = Polygon(piece.outline, piece.holes)
        assert drawn.area == pytest.approx(sheet.area, rel=1e-6)
        assert not drawn.contains(Point(np.mean([p[:2] for p in study.assembly.nodes[0].panel.outline], axis=0)))
        assert "face" not in study.resolved["mat"].rooms
    with pytest.raises(ParameterError, match="no window"):
        Study(start_design("mat", {"width": 80.0, "height": 30.0, "frame": 14.0}))


@pytest.mark.parametrize(
    ("kind", "panel"), [("pocket", "pocket"), ("drawer-sleeve", "top"), ("pull-waterfall", "base")]
)
def test_a_notch_is_cut_out_in_space_too(kind: str, panel: str) -> None:
    """Half a disc is missing of the drawn panel where the punch goes; the outline is drawn around it."""
    study = Study(start_design(kind, {}))
    k = next(k for k, node in enumerate(study.assembly.nodes) if node.panel.name == panel)
    node, frame = study.assembly.nodes[k], study.shut_frames[k]
    parts = flat_parts(node, frame, 1.0)
    turn = np.array(frame[:6]).reshape(2, 3)
    flat = [Polygon((np.array(points) - np.array(frame[9:])) @ turn.T) for points, _, _ in parts]
    gone = Polygon(node.panel.outline).difference(unary_union(flat).buffer(1e-6))
    chain = [line for line in node.piece.lines if line.kind == "cut"]
    xs = [p for line in chain for p in (line.start, line.end)]
    across = max(math.dist(p, q) for p in xs for q in xs)
    assert gone.area == pytest.approx(math.pi * across**2 / 8, rel=0.05)
