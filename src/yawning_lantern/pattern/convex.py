"""Convex polygons: cut by a line, and what two of them share."""

from __future__ import annotations

import math
from collections.abc import Sequence
from itertools import combinations, pairwise

from yawning_lantern.pattern.piece import Point, area

_ONE = 1e-6  # mm: corners nearer than this are one


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
    """What two convex polygons share, both counter-clockwise, mm (Sutherland and Hodgman, 1974). Where an edge of one
    runs along an edge of the other, rounding leaves corners twice: each is told once."""
    left = list(one)
    for k, (x0, y0) in enumerate(other):
        x1, y1 = other[(k + 1) % len(other)]
        nx, ny = y0 - y1, x1 - x0  # inward
        left = half(left, nx, ny, nx * x0 + ny * y0)
    kept = each_once(left)
    return list(kept) if len(kept) > 2 else []


def each_once(points: Sequence[Point]) -> tuple[Point, ...]:
    """The corners of a polygon without those that lie where the one before lies, as near as rounding leaves them."""
    return tuple(p for k, p in enumerate(points) if abs(p[0] - points[k - 1][0]) + abs(p[1] - points[k - 1][1]) > _ONE)


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
    if len(points) == 4:
        (a, b), p, (c, d), q = points
        if (tuple(p), tuple(q)) in (((c, b), (a, d)), ((a, d), (c, b))):  # a level rectangle: most are
            return min(abs(c - a), abs(d - b))
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


def holds(outline: Sequence[Point], p: Point) -> bool:
    """Whether a convex polygon, counter-clockwise, has a point within it or on its edges."""
    ends = zip(outline, (*outline[1:], outline[0]), strict=True)
    return all((bx - ax) * (p[1] - ay) - (by - ay) * (p[0] - ax) >= 0 for (ax, ay), (bx, by) in ends)


def margin(outline: Sequence[Point], inner: Sequence[Point]) -> float:
    """How far the outermost of some places lies within a convex polygon, counter-clockwise, mm; outside it, less than
    nothing."""
    edges = [(a, b, math.dist(a, b)) for a, b in zip(outline, (*outline[1:], outline[0]), strict=True)]
    return min(
        ((bx - ax) * (y - ay) - (by - ay) * (x - ax)) / size
        for (ax, ay), (bx, by), size in edges if size > 1e-9
        for x, y in inner
    )  # fmt: skip


def encloses(outline: Sequence[Point], inner: Sequence[Point]) -> bool:
    """Whether a convex polygon, counter-clockwise, has all of another one within it, its edges untouched."""
    return bool(inner) and margin(outline, inner) >= 1e-4


Part = tuple[tuple[Point, ...], tuple[bool, ...]]
"""A convex polygon, and which of its edges (from each point on) are edges of the paper."""


def without(outline: Sequence[Point], window: Sequence[Point]) -> tuple[Part, ...]:
    """What is left of a convex polygon when another one is cut out, as convex polygons; both counter-clockwise, mm.

    Along each edge of the window what lies beyond it is cut off and kept: the rest shrinks to the window itself.
    """
    parts: list[Part] = []
    rest = list(outline)
    for k, a in enumerate(window):
        b = window[(k + 1) % len(window)]
        nx, ny = b[1] - a[1], a[0] - b[0]  # outward
        off = half(rest, nx, ny, nx * a[0] + ny * a[1])
        if len(off) > 2 and abs(area(off)) > 1e-9:
            parts.append(_edged(off, outline, window))
        rest = half(rest, -nx, -ny, -nx * a[0] - ny * a[1])
        if not rest:
            break
    return tuple(parts)


def _edged(points: Sequence[Point], outline: Sequence[Point], window: Sequence[Point]) -> Part:
    """A part with the corners of the window that lie on its edges, and which of them are edges of the paper."""
    ring: list[Point] = []
    for p, q in zip(points, (*points[1:], points[0]), strict=True):
        apart = [(math.dist(p, v), v) for v in window if _within(p, q, v)]
        ring += [p, *(v for far, v in sorted(apart) if far > 1e-6 and math.dist(q, v) > 1e-6)]
    sides = [(ends[k], ends[(k + 1) % len(ends)]) for ends in (outline, window) for k in range(len(ends))]
    edges = []
    for p, q in zip(ring, (*ring[1:], ring[0]), strict=True):
        middle = (p[0] + q[0]) / 2, (p[1] + q[1]) / 2
        edges.append(any(_within(a, b, middle) for a, b in sides))
    # it begins beside a true corner, so that its first three points make a triangle
    first = max(range(len(ring)), key=lambda k: area([ring[k - 1], ring[k], ring[(k + 1) % len(ring)]])) - 1
    return tuple(ring[first:] + ring[:first]), tuple(edges[first:] + edges[:first])


def _within(a: Point, b: Point, p: Point) -> bool:
    """Whether a point lies on a stretch."""
    size = math.dist(a, b)
    if size < 1e-9:
        return False
    along = ((p[0] - a[0]) * (b[0] - a[0]) + (p[1] - a[1]) * (b[1] - a[1])) / size
    off = ((p[0] - a[0]) * (b[1] - a[1]) - (p[1] - a[1]) * (b[0] - a[0])) / size
    return abs(off) < 1e-6 and -1e-6 <= along <= size + 1e-6
