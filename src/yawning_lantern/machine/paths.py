"""What a machine is to do to a sheet: paths on layers, in the order in which nothing is cut loose too early.

Marks and scores come first, then slits, holes and notches, outlines last. Where two pieces lie edge to edge their edge
is cut once.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from typing import Literal

from msgspec import Struct
from msgspec.structs import replace

from yawning_lantern.pattern import Piece, Point
from yawning_lantern.pattern.build import lies_on
from yawning_lantern.sheets import Placed, SheetPlan

Layer = Literal["mark", "valley", "mountain", "slit", "outline"]
LAYERS: tuple[Layer, ...] = ("mark", "valley", "mountain", "slit", "outline")
"""In the order they are done."""
_SAME = 1e-4  # mm: ends nearer than this are one


class Path(Struct, frozen=True):
    """A line of straight pieces on a layer, mm from the bed's lower left; `closed` where it ends where it began."""

    layer: Layer
    points: tuple[Point, ...]
    closed: bool = False
    piece: str = ""


class Bed(Struct, frozen=True):
    """A sheet, or a piece by itself: its name, size in mm, and what is done to it, in order."""

    name: str
    width: float
    height: float
    paths: tuple[Path, ...]


def paths_of(piece: Piece) -> tuple[Path, ...]:
    """The paths of a piece as it lies at the fence, in order."""
    laid = piece.laid
    paths = [Path("outline", laid.outline, True, piece.name)]
    paths += [Path("slit", hole, True, piece.name) for hole in laid.holes]
    for line in laid.lines:
        layer: Layer = "slit" if line.kind == "cut" else "mark" if line.kind == "mark" else _sense(line.fold)
        paths.append(Path(layer, (line.start, line.end), False, piece.name))
    return in_order(paths)


def _sense(fold: str) -> Layer:
    return "mountain" if fold == "mountain" else "valley"


def in_order(paths: Iterable[Path]) -> tuple[Path, ...]:
    """Layer after layer, what is within a piece before its outline."""
    return tuple(sorted(paths, key=lambda path: LAYERS.index(path.layer)))


def bed_of_piece(piece: Piece) -> Bed:
    """A piece by itself."""
    many = f"{piece.quantity} × " if piece.quantity > 1 else ""
    return Bed(f"{many}{piece.name}", *piece.laid.size, paths_of(piece))


def beds_on_sheets(sheets: Sequence[SheetPlan], pieces: Sequence[Piece]) -> tuple[Bed, ...]:
    """Every sheet with its pieces where they lie; a piece is told by its name and its size."""
    beds = []
    for number, sheet in enumerate(sheets, 1):
        paths: list[Path] = []
        for placed in sheet.placed:
            piece = min((p for p in pieces if p.name == placed.piece), key=lambda p: _unlike(p, placed))
            turns = -piece.way % 4 if piece.stock.has_direction else int(placed.turned)
            paths += [_moved(path, piece.laid.size, turns, (placed.x, placed.y)) for path in paths_of(piece)]
        name = f"sheet {number}, {sheet.board.name}"
        beds.append(Bed(name, sheet.board.width, sheet.board.height, once(in_order(paths))))
    return tuple(beds)


def _unlike(piece: Piece, placed: Placed) -> float:
    """How far a piece is from the size of what was placed, mm."""
    w, h = piece.laid.size
    if placed.turned:
        w, h = h, w
    return abs(w - placed.width) + abs(h - placed.height)


def _moved(path: Path, size: tuple[float, float], turns: int, to: Point) -> Path:
    """A path of a piece turned to the left by quarters and put with its lower left at a place."""
    (w, h), (x0, y0) = size, to

    def at(p: Point) -> Point:
        x, y = p
        return {0: (x0 + x, y0 + y), 1: (x0 + h - y, y0 + x), 2: (x0 + w - x, y0 + h - y), 3: (x0 + y, y0 + w - x)}[
            turns
        ]

    return replace(path, points=tuple(map(at, path.points)))


def once(paths: Sequence[Path]) -> tuple[Path, ...]:
    """The paths with what was cut before left out of outlines: of two pieces edge to edge the edge is cut once. An
    outline that loses nothing stays one closed path."""
    kept: list[Path] = []
    cut: list[tuple[Point, Point]] = []
    for path in paths:
        if path.layer != "outline":
            kept.append(path)
            continue
        edges = list(zip(path.points, (*path.points[1:], path.points[0]), strict=True))
        left = [_without(edge, cut) for edge in edges]
        cut += edges
        if all(len(parts) == 1 and parts[0] == edge for parts, edge in zip(left, edges, strict=True)):
            kept.append(path)
            continue
        kept += [replace(path, points=run, closed=False) for run in _runs([part for parts in left for part in parts])]
    return tuple(kept)


def _without(edge: tuple[Point, Point], cut: Sequence[tuple[Point, Point]]) -> list[tuple[Point, Point]]:
    """What of an edge is not cut yet."""
    left = [edge]
    (x0, y0), (x1, y1) = edge
    for other in cut:
        if max(other[0][0], other[1][0]) < min(x0, x1) - 1 or min(other[0][0], other[1][0]) > max(x0, x1) + 1:
            continue
        if max(other[0][1], other[1][1]) < min(y0, y1) - 1 or min(other[0][1], other[1][1]) > max(y0, y1) + 1:
            continue
        rest: list[tuple[Point, Point]] = []
        for part in left:
            shared = lies_on(part, other)
            if shared is None:
                rest.append(part)
                continue
            ends = ((part[0], shared[0]), (shared[1], part[1]))
            rest += [one for one in ends if math.dist(*one) > _SAME]
        left = rest
    return left


def _runs(edges: Sequence[tuple[Point, Point]]) -> list[tuple[Point, ...]]:
    """Edges that follow one another, as lines."""
    runs: list[list[Point]] = []
    for a, b in edges:
        if runs and math.dist(runs[-1][-1], a) < _SAME:
            runs[-1].append(b)
        else:
            runs.append([a, b])
    if len(runs) > 1 and math.dist(runs[-1][-1], runs[0][0]) < _SAME:
        runs[0] = runs.pop() + runs[0][1:]
    return [tuple(run) for run in runs]
