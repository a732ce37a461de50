"""A drag knife: its tip trails behind the carriage by an offset. The carriage is led so that the tip does the cut.

The tip follows the path where the carriage is one offset ahead in the way of the cut, and at a corner goes round the
tip on an arc (the tractrix with straight and circular stretches; worked from the geometry)."""

from __future__ import annotations

import math
from collections.abc import Sequence
from itertools import pairwise

from yawning_lantern.pattern import Point

ARC = math.radians(6.0)
"""The arc about the tip is told by points no further apart than this, radians."""
STRAIGHT = math.radians(0.2)
"""A turn smaller than this needs no arc, radians."""
OVER = 0.3
"""How far a closed cut goes on over its beginning, mm, so that no thread holds."""


def compensated(
    points: Sequence[Point], closed: bool, offset: float, heading: float
) -> tuple[tuple[Point, ...], float]:
    """Where the carriage goes, mm, so that the tip of a knife that looks along `heading` (radians) cuts a path; and how
    it looks afterwards. With no offset it is the path itself."""
    path = [*points, points[0]] if closed else list(points)
    if closed and math.dist(path[0], path[1]) > OVER:
        (x0, y0), (x1, y1) = path[0], path[1]
        share = OVER / math.dist(path[0], path[1])
        path.append((x0 + (x1 - x0) * share, y0 + (y1 - y0) * share))
    if offset <= 0.0:
        return tuple(path), heading
    led: list[Point] = [_ahead(path[0], offset, heading)]
    for a, b in pairwise(path):
        way = math.atan2(b[1] - a[1], b[0] - a[0])
        led += _arc(a, offset, heading, way)
        led.append(_ahead(b, offset, way))
        heading = way
    return tuple(led), heading


def _ahead(tip: Point, offset: float, heading: float) -> Point:
    return tip[0] + offset * math.cos(heading), tip[1] + offset * math.sin(heading)


def _arc(tip: Point, offset: float, before: float, after: float) -> list[Point]:
    """The carriage round the tip, from one way to another by the shorter turn."""
    turn = (after - before + math.pi) % (2 * math.pi) - math.pi
    if abs(turn) < STRAIGHT:
        return []
    count = max(1, math.ceil(abs(turn) / ARC))
    return [_ahead(tip, offset, before + turn * k / count) for k in range(1, count + 1)]
