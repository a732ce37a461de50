"""Rectangles with rounded corners: how many of them, and how round."""

from __future__ import annotations

import math
from collections.abc import Sequence

from yawning_lantern.pattern.piece import Point, bounds

SQUARE = math.sqrt(2) - 1
"""How much less of a square corner is left within an arc when its radius grows by one."""
TRUE = 0.02
"""Places that lie so near where they should be lie there, mm."""


def rounded_corners(outline: Sequence[Point]) -> tuple[int, float]:
    """How many corners of a rectangle are rounded, and by which radius, mm: (0, 0) where an outline is anything else (a
    circle too), has plain corners, or several radii. Arcs are told by chords with their ends on the sides."""
    x0, y0, x1, y1 = bounds(outline)
    on_sides = [p for p in outline if min(p[0] - x0, x1 - p[0], p[1] - y0, y1 - p[1]) < TRUE]
    count, radii = 0, set()
    for x, inwards in ((x0, 1.0), (x1, -1.0)):
        for y, up in ((y0, 1.0), (y1, -1.0)):
            if any(math.dist(p, (x, y)) < TRUE for p in on_sides):
                continue
            along = min((abs(p[0] - x) for p in on_sides if abs(p[1] - y) < TRUE), default=0.0)
            middle = x + inwards * along, y + up * along
            beside = [p for p in outline if inwards * (p[0] - middle[0]) <= TRUE and up * (p[1] - middle[1]) <= TRUE]
            if len(beside) < 3 or any(abs(math.dist(p, middle) - along) > TRUE for p in beside):
                return 0, 0.0
            count += 1
            radii.add(round(along, 2))
    inside = [p for p in outline if p not in on_sides]
    near = sum(min(abs(p[0] - x0), abs(p[0] - x1)) <= max(radii, default=0.0) for p in inside)
    if len(radii) != 1 or near != len(inside):
        return 0, 0.0
    (radius,) = radii
    return (0, 0.0) if count == 4 and 2 * radius > min(x1 - x0, y1 - y0) - TRUE else (count, radius)
