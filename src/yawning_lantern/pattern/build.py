"""Building a piece from its panels and the folds between them: creases, merged score lines and the cut outline."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from typing import Literal

from msgspec import Struct

from yawning_lantern.errors import ParameterError
from yawning_lantern.kept import LastAnswers
from yawning_lantern.pattern.convex import encloses
from yawning_lantern.pattern.piece import Crease, Line, Panel, Piece, Point, ScoreFlag, area
from yawning_lantern.stock import Paper

_NEAR = 1e-6  # mm: a line shorter than this is none
_ONE_PLACE = 1e-4  # mm: ends nearer than this meet
Edge = tuple[Point, Point]
_LineKey = tuple[Literal["cut", "score", "mark"], Literal["mountain", "valley", "none"], float, float, float]


class Fold(Struct, frozen=True):
    """A fold between two panels that share an edge. Angle in radians, positive valley; see Crease for the rest.

    What is not `scored` bends by itself, as a corner that is tucked in. An angle of exactly 0 is no fold: the edge is
    marked, not scored. A score that lies flat when shut has a tiny angle, whose sign tells its sense. Where it is
    `double`, a second score lies so far beyond it in `b`, mm: the fold is a strip between the two.
    """

    a: str
    b: str
    angle: float
    wrap: float = 0.0
    settle: float = 0.0
    scored: bool = True
    strip: bool = False
    double: float = 0.0

    @property
    def name(self) -> str:
        """The name of the crease it makes."""
        return f"{self.a}/{self.b}"


class Slit(Struct, frozen=True):
    """A cut between two panels that share an edge: they part there, and the knife runs inside the piece.

    Where it is not `cut`, the sheet stays whole and only the model parts there: soft paper that bends.
    """

    a: str
    b: str
    cut: bool = True


_EVEN = 16  # sides of the polygon around a hole


def round_hole(middle: Point, across: float) -> tuple[Point, ...]:
    """A punched hole, clockwise as holes are, mm: a ring about the circle."""
    radius = across / 2 / math.cos(math.pi / _EVEN)
    steps = (2 * math.pi * k / _EVEN for k in range(_EVEN))
    return tuple((middle[0] + radius * math.cos(a), middle[1] - radius * math.sin(a)) for a in steps)


def rectangle(x0: float, y0: float, x1: float, y1: float) -> tuple[Point, ...]:
    """A rectangle, counter-clockwise from its lower left, mm."""
    return (x0, y0), (x1, y0), (x1, y1), (x0, y1)


def _key(p: Point) -> tuple[int, int]:
    return round(p[0] / _NEAR / 10), round(p[1] / _NEAR / 10)


def _edges(polygon: Sequence[Point]) -> list[Edge]:
    return list(zip(polygon, (*polygon[1:], *polygon[:1]), strict=True))


def _overlap(edge: Edge, other: Edge) -> Edge | None:
    """The part of `edge` that `other` (running the other way) shares, or None. Ends in the direction of `edge`."""
    (ax, ay), (bx, by) = edge
    ux, uy = bx - ax, by - ay
    length = math.hypot(ux, uy)
    if length < _NEAR:
        return None
    ux, uy = ux / length, uy / length
    spans = []
    for x, y in other:
        if abs((x - ax) * uy - (y - ay) * ux) > 1e-5:
            return None
        spans.append((x - ax) * ux + (y - ay) * uy)
    if spans[1] > spans[0]:
        return None
    lo, hi = max(0.0, spans[1]), min(length, spans[0])
    if hi - lo < 1e-4:
        return None
    return (ax + lo * ux, ay + lo * uy), (ax + hi * ux, ay + hi * uy)


def shared_edge(a: Sequence[Point], b: Sequence[Point]) -> Edge | None:
    """The longest stretch of border that two counter-clockwise polygons share, or None."""
    return _shared(_edges(a), _edges(b))


def _shared(edges_a: Sequence[Edge], edges_b: Sequence[Edge]) -> Edge | None:
    for edge in edges_a:
        if (edge[1], edge[0]) in edges_b:
            return edge
    stretches = [part for ea in edges_a for eb in edges_b if (part := _overlap(ea, eb)) is not None]
    return max(stretches, key=lambda e: math.dist(*e), default=None)


def lies_on(edge: Edge, stretch: Edge) -> Edge | None:
    """The part of an edge that a stretch, either way round, lies on, or None."""
    return _overlap(edge, (stretch[1], stretch[0])) or _overlap(edge, stretch)


def _without(edges: list[Edge], gone: Edge) -> list[Edge]:
    """`edges` with the stretch `gone` (either way round) taken out of the ones it lies on."""
    back = (gone[1], gone[0])
    for whole in (gone, back):
        if whole in edges:
            return [edge for edge in edges if edge != whole]
    kept: list[Edge] = []
    for edge in edges:
        part = lies_on(edge, gone)
        if part is None:
            kept.append(edge)
            continue
        for piece in ((edge[0], part[0]), (part[1], edge[1])):
            if math.dist(*piece) > 1e-4:
                kept.append(piece)
    return kept


def _loops(edges: Sequence[Edge]) -> list[tuple[Point, ...]]:
    """Closed loops from directed edges, straight-through corners dropped."""
    leaving: dict[tuple[float, float], list[Edge]] = {start: [(start, end)] for start, end in edges}
    exact = len(leaving) == len(edges)
    for (x, y), end in edges:
        exact = exact and end in leaving and abs(end[0] - x) + abs(end[1] - y) > _ONE_PLACE
    if not exact:  # corners that should be one are told a little apart, or edges meet at a corner
        leaving = {}
        for edge in edges:
            leaving.setdefault(_key(edge[0]), []).append(edge)
    loops = []
    while leaving:
        start = next(iter(leaving))
        at, points = start, []
        while leaving.get(at):
            edge = leaving[at].pop()
            if not leaving[at]:
                del leaving[at]
            points.append(edge[0])
            at = edge[1] if exact else _key(edge[1])
            if at == start:
                break
        loops.append(_straightened(points))
    return [loop for loop in loops if len(loop) > 2]


def _straightened(points: list[Point]) -> tuple[Point, ...]:
    kept = []
    bx, by = points[-1]
    for (x, y), (ax, ay) in zip(points, (*points[1:], points[0]), strict=True):
        if abs((x - bx) * (ay - y) - (y - by) * (ax - x)) > 1e-5:
            kept.append((x, y))
        bx, by = x, y
    return tuple(kept)


def merge_lines(lines: Iterable[Line]) -> tuple[Line, ...]:
    """Join segments of one kind and fold that continue each other along one straight line."""
    groups: dict[_LineKey, list[tuple[float, float]]] = {}
    axes: dict[_LineKey, tuple[float, float, float]] = {}
    for line in lines:
        (x0, y0), (x1, y1) = line.start, line.end
        length = math.hypot(x1 - x0, y1 - y0)
        if length < 1e-4:
            continue
        ux, uy = (x1 - x0) / length, (y1 - y0) / length
        if ux < -1e-9 or (abs(ux) <= 1e-9 and uy < 0):
            ux, uy = -ux, -uy
        off = x0 * uy - y0 * ux
        key: _LineKey = (line.kind, line.fold, round(ux, 6), round(uy, 6), round(off, 4))
        axes.setdefault(key, (ux, uy, off))
        s, e = x0 * ux + y0 * uy, x1 * ux + y1 * uy
        groups.setdefault(key, []).append((min(s, e), max(s, e)))
    merged = []
    for key, spans in groups.items():
        ux, uy, off = axes[key]
        run: list[list[float]] = []
        for s, e in sorted(spans):
            if run and s <= run[-1][1] + 1e-4:
                run[-1][1] = max(run[-1][1], e)
            else:
                run.append([s, e])
        for s, e in run:
            start, end = (s * ux + off * uy, s * uy - off * ux), (e * ux + off * uy, e * uy - off * ux)
            merged.append(Line(key[0], key[1], start, end))
    return tuple(merged)


def _scores(edge: Edge, apart: float, beyond: Point) -> tuple[Edge, ...]:
    """The score along an edge, and a second one on the side of `beyond`."""
    if not apart:
        return (edge,)
    (x0, y0), (x1, y1) = edge
    length = math.hypot(x1 - x0, y1 - y0)
    nx, ny = -(y1 - y0) / length, (x1 - x0) / length
    way = apart if nx * (beyond[0] - x0) + ny * (beyond[1] - y0) > 0 else -apart
    return edge, ((x0 + way * nx, y0 + way * ny), (x1 + way * nx, y1 + way * ny))


def _sense(angle: float) -> Literal["mountain", "valley", "none"]:
    if angle == 0:
        return "none"
    return "valley" if angle > 0 else "mountain"


_built = LastAnswers[Piece](512)


def build_piece(
    piece_id: str,
    name: str,
    stock: Paper,
    panels: Sequence[Panel],
    folds: Sequence[Fold] = (),
    *,
    slits: Sequence[Slit] = (),
    marks: Sequence[Line] = (),
    flags: Sequence[ScoreFlag] = (),
    quantity: int = 1,
    note: str = "",
    bought: bool = False,
) -> Piece:
    """A piece from panels (counter-clockwise) and the folds between them.

    The outline is the border of all panels with the folded edges and slits taken out; what it encloses is a hole,
    and so is every window within a panel. Where the last piece of that id was asked for in the same words it is given
    again, the very same: an edit leaves many pieces as they were, and what follows from one is kept by it.

    Raises:
        ParameterError: nothing is left of its panels.
        ValueError: a fold or slit names two panels that share no edge. That is a fault in the family, not in a value.
    """
    asked = (
        piece_id, name, stock, tuple(panels), tuple(folds), tuple(slits), tuple(marks), tuple(flags), quantity, note,
        bought,
    )  # fmt: skip
    return _built.given(piece_id, asked, lambda: _build(*asked))


def _build(
    piece_id: str, name: str, stock: Paper, panels: Sequence[Panel], folds: Sequence[Fold], slits: Sequence[Slit],
    marks: Sequence[Line], flags: tuple[ScoreFlag, ...], quantity: int, note: str, bought: bool,
) -> Piece:  # fmt: skip
    """The piece itself: creases, lines, and the border of what is left."""
    by_name = {panel.name: panel.outline for panel in panels}
    borders = {panel.name: _edges(panel.outline) for panel in panels}
    edges = dict(borders)
    creases: list[Crease] = []
    lines: list[Line] = list(marks)
    for fold in folds:
        edge = _shared(borders[fold.a], borders[fold.b])
        if edge is None:
            raise ValueError(f"{piece_id}: {fold.a} and {fold.b} share no edge")
        creases.append(Crease(fold.name, fold.a, fold.b, *edge, fold.angle, fold.wrap, fold.settle, fold.strip))
        if fold.angle and fold.scored:
            corners = by_name[fold.b]
            beyond = sum(p[0] for p in corners) / len(corners), sum(p[1] for p in corners) / len(corners)
            lines += [Line("score", _sense(fold.angle), *score) for score in _scores(edge, fold.double, beyond)]
        elif fold.scored:
            lines.append(Line("mark", "none", *edge))
        for side in (fold.a, fold.b):
            edges[side] = _without(edges[side], edge)
    for slit in slits:
        edge = _shared(borders[slit.a], borders[slit.b])
        if edge is None:
            raise ValueError(f"{piece_id}: {slit.a} and {slit.b} share no edge")
        if slit.cut:
            lines.append(Line("cut", "none", *edge))
        for side in (slit.a, slit.b):
            edges[side] = _without(edges[side], edge)
    if bought:
        lines = []  # a ribbon's places and an envelope's folds are not ours to score
    loops = sorted(_loops([edge for own in edges.values() for edge in own]), key=area)
    windows = tuple(tuple(reversed(panel.window)) for panel in panels if encloses(panel.outline, panel.window))
    if not loops:
        raise ParameterError("These measurements leave no paper for it.", name, "Make it larger.")
    outline, holes = loops[-1], (*loops[:-1], *windows)
    return Piece(
        piece_id, name, stock, outline, tuple(panels), tuple(creases), merge_lines(lines), holes, flags, quantity,
        note, bought,
    )  # fmt: skip
