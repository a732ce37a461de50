"""The scores of a piece on its blank, the rectangle it is cut from: where each lies, how far it runs, which face is up.

A groove presses the paper into a ridge on the far side, and a fold is made with the ridge inside (the trade's rule): a
mountain, seen from the front, is scored with the front up, a valley with the back up.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from typing import Literal

from msgspec import Struct

from yawning_lantern.pattern import Piece, Point, bounds

Face = Literal["front", "back"]
INSET = 0.05
"""A score that runs on through no more of a panel than this does no harm, mm."""
_SAME = 1e-4  # mm: scores nearer than this are on one line


class Score(Struct, frozen=True):
    """A straight score across the blank: upright (`axis` 0, at `at` from the left) or level (1, from the foot), mm.

    `runs` are the stretches that must be pressed, from the foot or the left; `is_full`: it may run from edge to edge.
    """

    axis: Literal[0, 1]
    at: float
    face: Face
    runs: tuple[tuple[float, float], ...]
    is_full: bool


def straight_scores(piece: Piece) -> tuple[Score, ...]:
    """The level and upright scores of a piece, those in one line with one sense together, from the fence on."""
    laid = piece.laid
    spans: dict[tuple[Literal[0, 1], float, Face], list[tuple[float, float]]] = {}
    for line in laid.lines:
        axis = _axis(line.start, line.end)
        if line.kind != "score" or axis is None:
            continue
        face: Face = "front" if line.fold == "mountain" else "back"
        along = sorted((line.start[1 - axis], line.end[1 - axis]))
        spans.setdefault((axis, round(line.start[axis], 4), face), []).append((along[0], along[1]))
    size = laid.size
    scores = []
    for (axis, at, face), runs in sorted(spans.items()):
        joined = _joined(runs)
        rest = _rest(joined, size[1 - axis])
        against = spans.get((axis, at, "back" if face == "front" else "front"), [])
        full = not any(_overlap(part, run) > INSET for part in rest for run in against)
        full = full and not any(_crosses(axis, at, part, panel.outline) for part in rest for panel in laid.panels)
        scores.append(Score(axis, at, face, joined, full))
    return tuple(scores)


def slanted_scores(piece: Piece) -> tuple[tuple[Face, Point, Point], ...]:
    """The other scores: which face is up, and their ends from the left and the foot, mm."""
    return tuple(
        ("front" if line.fold == "mountain" else "back", line.start, line.end)
        for line in piece.laid.lines
        if line.kind == "score" and _axis(line.start, line.end) is None
    )


def _axis(a: Point, b: Point) -> Literal[0, 1] | None:
    if abs(a[0] - b[0]) < _SAME:
        return 0
    return 1 if abs(a[1] - b[1]) < _SAME else None


def _joined(runs: Iterable[tuple[float, float]]) -> tuple[tuple[float, float], ...]:
    """Stretches in order, those that touch as one."""
    spans: list[tuple[float, float]] = []
    for a, b in sorted(runs):
        if spans and a <= spans[-1][1] + _SAME:
            spans[-1] = (spans[-1][0], max(spans[-1][1], b))
        else:
            spans.append((a, b))
    return tuple(spans)


def _rest(runs: Sequence[tuple[float, float]], whole: float) -> list[tuple[float, float]]:
    """What is left of an edge-to-edge line beside its stretches."""
    ends = [0.0, *(end for run in runs for end in run), whole]
    return [(a, b) for a, b in zip(ends[::2], ends[1::2], strict=True) if b - a > _SAME]


def _overlap(one: tuple[float, float], other: tuple[float, float]) -> float:
    return min(one[1], other[1]) - max(one[0], other[0])


def _crosses(axis: int, at: float, part: tuple[float, float], outline: Sequence[Point]) -> bool:
    """Whether a stretch of a line runs through a convex panel, more than a hair from its rim."""
    x0, y0, x1, y1 = bounds(outline)
    low, high = (x0, x1) if axis == 0 else (y0, y1)
    if not low + INSET < at < high - INSET:
        return False
    cuts = []
    for k, p in enumerate(outline):
        q = outline[(k + 1) % len(outline)]
        a, b = p[axis] - at, q[axis] - at
        if (a > 0) != (b > 0):
            share = a / (a - b)
            cuts.append(p[1 - axis] + share * (q[1 - axis] - p[1 - axis]))
    return len(cuts) >= 2 and _overlap(part, (min(cuts), max(cuts))) > INSET
