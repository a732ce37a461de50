"""Patterns on paper templates: here and there a repeat of it, faint, turned as it will lie on the panel."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence

from yawning_lantern.exchange.shapes import Stroke
from yawning_lantern.pattern import Panel, Piece, Point, bounds
from yawning_lantern.stock import Motif, shapes

APART = 32.0
"""Repeats are drawn at least so far apart, mm: a template is to be read, not to be looked at."""
LEAST = 4.0
"""A smaller repeat cannot be made out, mm."""


def print_strokes(piece: Piece) -> Iterator[Stroke]:
    """The pattern of a piece's front as strokes in its own coordinates, mm; nothing on panels that are too small."""
    motif = piece.stock.front_motif
    if motif is None:
        return
    turn = math.pi / 2 * (piece.way + motif.turn)
    for panel in piece.panels:
        for middle, size in _spots(panel, motif):
            yield from _drawn(motif, middle, size, turn)


def _spots(panel: Panel, motif: Motif) -> Iterator[tuple[Point, float]]:
    """Where repeats are drawn on a panel, and how large: beside one another, or one that is made to fit."""
    x0, y0, x1, y1 = bounds(panel.outline)
    step = max(APART, 1.5 * motif.repeat)
    across, along = int((x1 - x0) / step), int((y1 - y0) / step)
    spots = []
    for i in range(across):
        for j in range(along):
            middle = x0 + (i + 0.5) * (x1 - x0) / across, y0 + (j + 0.5) * (y1 - y0) / along
            if _within(panel.outline, middle, 0.72 * motif.repeat):
                spots.append((middle, motif.repeat))
    if spots:
        yield from spots
        return
    size = min(motif.repeat, 0.6 * (x1 - x0), 0.6 * (y1 - y0))
    if size < LEAST:
        return
    x, y = panel.centre
    for off in (1.1, -1.1, 0.0):  # beside the panel's name where there is room
        if _within(panel.outline, (x, y + off * size), 0.6 * size):
            yield (x, y + off * size), size
            return


def _within(outline: Sequence[Point], middle: Point, reach: float) -> bool:
    """Whether a place is at least so far inside a convex outline, mm."""
    for k, (ax, ay) in enumerate(outline):
        bx, by = outline[(k + 1) % len(outline)]
        long = math.hypot(bx - ax, by - ay)
        if long > 1e-9 and ((bx - ax) * (middle[1] - ay) - (by - ay) * (middle[0] - ax)) / long < reach:
            return False
    return True


def _drawn(motif: Motif, middle: Point, size: float, turn: float) -> Iterator[Stroke]:
    """One repeat about a place, turned to the left by an angle (radians)."""
    c, s = math.cos(turn), math.sin(turn)

    def at(p: tuple[float, float]) -> Point:
        x, y = (p[0] - 0.5) * size, (p[1] - 0.5) * size
        return middle[0] + c * x - s * y, middle[1] + s * x + c * y

    for shape in shapes(motif.kind):
        points = [at(p) for p in shape]
        for k, point in enumerate(points):
            yield Stroke("print", point, points[(k + 1) % len(points)])
