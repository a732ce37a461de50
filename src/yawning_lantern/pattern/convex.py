"""Convex polygons: cut by a line, and what two of them share."""

from __future__ import annotations

import math
from collections.abc import Sequence
from itertools import combinations, pairwise

from yawning_lantern.pattern.piece import Point


def half(points: Sequence[Point], nx: float, ny: float, d: float) -> list[Point]:
    """The part of a convex polygon where nx·x + ny·y ≥ d, mm; empty where there is none."""
    over = [nx * x + ny * y - d for x, y in points]
    if not over or min(over) >= 0:
        return list(points) if len(over) > 2 else []
    kept: list[Point] = []
    p, a = points[-1], over[-1]
    for q, b in zip(points, over, strict=True):
        if (a > 0 > b) or (a < 0 < b):
            share = a / (a - b)
            kept.append((p[0] + share * (q[0] - p[0]), p[1] + share * (q[1] - p[1])))
        if b >= 0:
            kept.append(q)
        p, a = q, b
    return kept if len(kept) > 2 else []


def shared(one: Sequence[Point], other: Sequence[Point]) -> list[Point]:
    """What two convex polygons share, both counter-clockwise, mm (Sutherland and Hodgman, 1974)."""
    left = list(one)
    for k, (x0, y0) in enumerate(other):
        x1, y1 = other[(k + 1) % len(other)]
        nx, ny = y0 - y1, x1 - x0  # inward
        left = half(left, nx, ny, nx * x0 + ny * y0)
    return left


def centroid(points: Sequence[Point]) -> Point:
    """The centre of area of a polygon, mm (the shoelace formula)."""
    total = x = y = 0.0
    for k, (x0, y0) in enumerate(points):
        x1, y1 = points[(k + 1) % len(points)]
        cross = x0 * y1 - x1 * y0
        total += cross
        x += (x0 + x1) * cross
        y += (y0 + y1) * cross
    return x / (3 * total), y / (3 * total)


def least_width(points: Sequence[Point]) -> float:
    """The least width of a convex polygon over the directions of its edges, mm; 0 where there is none."""
    widths = []
    for k, (x0, y0) in enumerate(points):
        x1, y1 = points[(k + 1) % len(points)]
        size = math.hypot(x1 - x0, y1 - y0)
        if size > 1e-6:
            along = [(x * (y1 - y0) + y * (x0 - x1)) / size for x, y in points]
            widths.append(max(along) - min(along))
    return min(widths, default=0.0)


_STEPS = 16  # heights that are tried between two corners' heights


def largest_level(points: Sequence[Point]) -> tuple[float, float, float, float]:
    """The largest level rectangle in a convex polygon (x0, y0, x1, y1), mm: of those whose sides lie at the height of a
    corner or a sixteenth of the way between two."""
    ys = sorted({round(y, 6) for _, y in points})
    tried = sorted({a + (b - a) * k / _STEPS for a, b in pairwise(ys) for k in range(_STEPS + 1)})
    spans = [_across(points, y) for y in tried]
    best = (0.0, 0.0, 0.0, 0.0)
    for (y0, (a, b)), (y1, (c, d)) in combinations(zip(tried, spans, strict=True), 2):
        x0, x1 = max(a, c), min(b, d)
        if (x1 - x0) * (y1 - y0) > (best[2] - best[0]) * (best[3] - best[1]) + 1e-6:
            best = (x0, y0, x1, y1)
    return best


def _across(points: Sequence[Point], y: float) -> tuple[float, float]:
    """Where a level line enters and leaves a convex polygon, mm."""
    xs = []
    for k, (x0, y0) in enumerate(points):
        x1, y1 = points[(k + 1) % len(points)]
        if abs(y1 - y0) < 1e-9:
            if abs(y - y0) < 1e-6:
                xs += [x0, x1]
        elif min(y0, y1) - 1e-6 <= y <= max(y0, y1) + 1e-6:
            xs.append(x0 + (x1 - x0) * min(max((y - y0) / (y1 - y0), 0.0), 1.0))
    return (min(xs), max(xs)) if xs else (0.0, 0.0)
