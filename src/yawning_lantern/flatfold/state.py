"""A sheet folded flat: where each facet lies, turned over or not, and which of two that overlap is above.

The order is a relation between pairs that share area, not one list: with slits and tucks no list need exist for the
whole sheet, only over each region.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from functools import cached_property

from msgspec import Struct, field

from yawning_lantern.flatfold.sheet import Sheet
from yawning_lantern.pattern import Point, area
from yawning_lantern.pattern.convex import shared

Iso = tuple[float, float, float, float, float, float]
"""Images of x, of y, and of the origin: (x, y) ↦ (a·x + c·y + e, b·x + d·y + f). Turned over where a·d − b·c is −1."""
LIES: Iso = (1.0, 0.0, 0.0, 1.0, 0.0, 0.0)  # a sheet as it lies: neither turned nor moved
SLIVER = 0.5
"""Two facets that share less than this touch, mm²: welded corners and rounding, not paper."""
Pair = tuple[int, int]


def apply(iso: Iso, p: Point) -> Point:
    """Where a point of the sheet lies, mm."""
    a, b, c, d, e, f = iso
    return a * p[0] + c * p[1] + e, b * p[0] + d * p[1] + f


def then(first: Iso, second: Iso) -> Iso:
    """One motion after another."""
    a, b, c, d, e, f = first
    g, h, i, j, k, m = second
    return (
        g * a + i * b,
        h * a + j * b,
        g * c + i * d,
        h * c + j * d,
        g * e + i * f + k,
        h * e + j * f + m,
    )


def mirror(p: Point, q: Point) -> Iso:
    """The reflection in the line through two points: I − 2nnᵀ about it (Householder, 1958)."""
    length = math.dist(p, q)
    nx, ny = -(q[1] - p[1]) / length, (q[0] - p[0]) / length
    off = nx * p[0] + ny * p[1]
    return (1 - 2 * nx * nx, -2 * nx * ny, -2 * nx * ny, 1 - 2 * ny * ny, 2 * off * nx, 2 * off * ny)


def turned(iso: Iso) -> bool:
    """Whether its back is up."""
    return iso[0] * iso[3] - iso[1] * iso[2] < 0


class Stuck(Struct, frozen=True):
    """Two facets glued together: the outline of every glued spot on the first, as the sheet lies flat, mm."""

    a: int
    b: int
    spots: tuple[tuple[Point, ...], ...]


class Folded(Struct, frozen=True, dict=True):
    """A state of a sheet. `above` holds for every pair (i, j), i < j, of facets that share area +1 where j lies above
    i, −1 where it lies below. `shut` are the hinges that are folded."""

    sheet: Sheet
    isos: tuple[Iso, ...]
    above: Mapping[Pair, int] = field(default_factory=dict)
    shut: frozenset[int] = frozenset()
    glued: tuple[Stuck, ...] = ()

    @cached_property
    def places(self) -> tuple[tuple[Point, ...], ...]:
        """Every facet as it lies, counter-clockwise seen from above, mm."""
        return tuple(place(f.outline, iso) for f, iso in zip(self.sheet.facets, self.isos, strict=True))

    def over(self, i: int, j: int) -> int:
        """+1 where j lies above i, −1 where below, 0 where they do not meet."""
        return self.above.get((i, j), 0) if i < j else -self.above.get((j, i), 0)

    def stretch(self, hinge: int) -> tuple[Point, Point]:
        """Where a hinge lies, mm."""
        h = self.sheet.hinges[hinge]
        return apply(self.isos[h.a], h.start), apply(self.isos[h.a], h.end)

    def name(self, facet: int) -> str:
        """The name of a facet."""
        return self.sheet.facets[facet].name


def back(iso: Iso) -> Iso:
    """The motion that undoes one: its part about the origin is orthogonal, so its inverse is its transpose."""
    a, b, c, d, e, f = iso
    return (a, c, b, d, -(a * e + b * f), -(c * e + d * f))


def place(outline: Sequence[Point], iso: Iso) -> tuple[Point, ...]:
    """An outline as it lies, counter-clockwise seen from above, mm."""
    points = [apply(iso, p) for p in outline]
    return tuple(reversed(points)) if turned(iso) else tuple(points)


def flat(sheet: Sheet) -> Folded:
    """The sheet as it lies before the first fold, its front up."""
    return Folded(sheet, (LIES,) * len(sheet.facets))


def meets(one: Sequence[Point], other: Sequence[Point]) -> bool:
    """Whether two convex outlines share area."""
    xs, ys = [p[0] for p in one], [p[1] for p in one]
    us, vs = [p[0] for p in other], [p[1] for p in other]
    if max(xs) < min(us) or max(us) < min(xs) or max(ys) < min(vs) or max(vs) < min(ys):
        return False
    common = shared(one, other)
    return bool(common) and area(common) > SLIVER


def overlaps(places: Sequence[Sequence[Point]]) -> tuple[Pair, ...]:
    """Every pair of facets that share area."""
    n = len(places)
    return tuple((i, j) for i in range(n) for j in range(i + 1, n) if meets(places[i], places[j]))
