"""A sheet to be folded flat: convex facets, hinges where two of them stay joined, slits, and what is cut away."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from itertools import accumulate, pairwise
from typing import Literal

from msgspec import Struct

from yawning_lantern.errors import ParameterError
from yawning_lantern.measure import told
from yawning_lantern.pattern import Point, area
from yawning_lantern.pattern.build import Edge, lies_on, shared_edge
from yawning_lantern.pattern.convex import each_once, half

NEAR = 1e-6
"""Two places closer than this are one, mm: a hundred-thousandth of the finest tool."""
_SLIVER = 1e-3  # mm²: less is rounding, not paper


class Facet(Struct, frozen=True):
    """A convex part of the sheet that stays flat: its name and corners, counter-clockwise as it lies with its front
    up, mm."""

    name: str
    outline: tuple[Point, ...]


class Hinge(Struct, frozen=True):
    """The stretch along which two facets (by index) hang together, mm. What is not `scored` is never folded: the two
    are one panel that is not convex."""

    a: int
    b: int
    start: Point
    end: Point
    scored: bool = True


class Cut(Struct, frozen=True):
    """A stretch that the knife runs along inside the sheet, mm."""

    start: Point
    end: Point


class Sheet(Struct, frozen=True):
    """A sheet marked out. `offcuts` are what is taken away: a name and an outline each, mm."""

    width: float
    height: float
    facets: tuple[Facet, ...]
    hinges: tuple[Hinge, ...]
    cuts: tuple[Cut, ...] = ()
    offcuts: tuple[tuple[str, tuple[Point, ...]], ...] = ()

    def at(self, name: str) -> int:
        """Where a facet is among the facets. Raises ParameterError: a maker may have named it."""
        for k, facet in enumerate(self.facets):
            if facet.name == name:
                return k
        raise ParameterError(
            f"The sheet has no panel {name}.", "Panel", f"It has {', '.join(f.name for f in self.facets)}."
        )

    def hinge(self, a: str, b: str) -> int:
        """Where the hinge between two facets is among the hinges. Raises ParameterError where they are apart."""
        ends = {self.at(a), self.at(b)}
        for k, hinge in enumerate(self.hinges):
            if {hinge.a, hinge.b} == ends:
                return k
        raise ParameterError(f"{a} and {b} do not hang together.", "Fold", "Choose two panels with a score between.")

    def hinge_name(self, index: int) -> str:
        """A hinge by its two facets."""
        hinge = self.hinges[index]
        return f"{self.facets[hinge.a].name}/{self.facets[hinge.b].name}"


class Slant(Struct, frozen=True):
    """A straight line across the sheet from mark to mark, mm: scored, or cut through."""

    start: Point
    end: Point
    kind: Literal["score", "slit"] = "score"


def cell_name(column: int, row: int) -> str:
    """The cell in that column (from the left) and row (from the foot), both from 1."""
    return f"c{column}r{row}"


def grid(
    columns: Sequence[float],
    rows: Sequence[float],
    *,
    slits: Iterable[Edge] = (),
    blank: Iterable[Edge] = (),
    gone: Iterable[str] = (),
    slants: Iterable[Slant] = (),
) -> Sheet:
    """A sheet in columns (from the left) and rows (from the foot), mm, scored along every line but where it is slit or
    left `blank`. What is `gone` is cut away, by the name of its cell; a cell that a slant parts is named `c1r1a` on the
    left of the slant and `c1r1b` on its right.

    Raises:
        ParameterError: a slit beyond the sheet or along no line of it, a slant that ends within a cell, a cell that is
            not there, widths that are none.
    """
    if not columns or not rows or min(*columns, *rows) <= NEAR:
        raise ParameterError("A column or row without width cannot be folded.", "Grid", "Give widths above nothing.")
    xs, ys = (0.0, *accumulate(columns)), (0.0, *accumulate(rows))
    cut, whole = list(slits), list(blank)
    for edge in (*cut, *whole):
        _on_a_line(edge, xs, ys)
    facets = [
        Facet(cell_name(c + 1, r + 1), ((x0, y0), (x1, y0), (x1, y1), (x0, y1)))
        for r, (y0, y1) in enumerate(pairwise(ys))
        for c, (x0, x1) in enumerate(pairwise(xs))
    ]
    for slant in slants:
        facets = _parted(facets, slant)
        if slant.kind == "slit":
            cut.append((slant.start, slant.end))
    lost = set(gone)
    known = {facet.name for facet in facets}
    for name in sorted(lost - known):
        raise ParameterError(f"There is no cell {name} to take out.", "Cell", f"Cells are {', '.join(sorted(known))}.")
    kept = [facet for facet in facets if facet.name not in lost]
    if not kept:
        raise ParameterError("No paper is left.", "Grid", "Keep at least one cell.")
    hinges, cuts = joints(kept, cut, whole)
    offcuts = tuple((facet.name, facet.outline) for facet in facets if facet.name in lost)
    return Sheet(xs[-1], ys[-1], tuple(kept), hinges, cuts, offcuts)


def joints(
    facets: Sequence[Facet], slits: Iterable[Edge], blank: Iterable[Edge] = ()
) -> tuple[tuple[Hinge, ...], tuple[Cut, ...]]:
    """Where facets hang together and where they are cut apart, given the slits and what is not scored, mm."""
    slits, blank = list(slits), list(blank)
    hinges: list[Hinge] = []
    cuts: list[Cut] = []
    for i, one in enumerate(facets):
        for j in range(i + 1, len(facets)):
            edge = shared_edge(one.outline, facets[j].outline)
            if edge is None:
                continue
            left: list[Edge] = [edge]
            for slit in slits:
                left = [part for stretch in left for part in _less(stretch, slit, cuts)]
            if left:
                longest = max(left, key=lambda e: math.dist(*e))
                scored = not any(_covers(whole, longest) for whole in blank)
                hinges.append(Hinge(i, j, *longest, scored))
    return tuple(hinges), tuple(cuts)


def _on_a_line(edge: Edge, xs: Sequence[float], ys: Sequence[float]) -> None:
    """Raise ParameterError where a slit leaves the sheet or runs along no line of its grid."""
    (x0, y0), (x1, y1) = edge
    if min(x0, x1) < -NEAR or max(x0, x1) > xs[-1] + NEAR or min(y0, y1) < -NEAR or max(y0, y1) > ys[-1] + NEAR:
        far = max(max(x0, x1) - xs[-1], max(y0, y1) - ys[-1], -min(x0, x1), -min(y0, y1))
        raise ParameterError(f"The slit runs {told(far)} beyond the sheet.", "Slit", "End it on the sheet.")
    upright = abs(x0 - x1) < NEAR and any(abs(x0 - x) < NEAR for x in xs[1:-1])
    level = abs(y0 - y1) < NEAR and any(abs(y0 - y) < NEAR for y in ys[1:-1])
    if not upright and not level:
        raise ParameterError("A slit lies along no line of the grid.", "Slit", "Draw a slant, or move it to a line.")


def _less(stretch: Edge, slit: Edge, cuts: list[Cut]) -> list[Edge]:
    """A stretch without the slit that lies along it; what is cut is noted in `cuts`."""
    gone = lies_on(stretch, slit)
    if gone is None:
        return [stretch]
    cuts.append(Cut(*gone))
    return [part for part in ((stretch[0], gone[0]), (gone[1], stretch[1])) if math.dist(*part) > 1e-4]


def _covers(whole: Edge, part: Edge) -> bool:
    common = lies_on(part, whole)
    return common is not None and math.dist(*common) > math.dist(*part) - 1e-4


def _parted(facets: Sequence[Facet], slant: Slant) -> list[Facet]:
    """Facets parted by a slant. Raises ParameterError where it ends within one."""
    (x0, y0), (x1, y1) = slant.start, slant.end
    length = math.hypot(x1 - x0, y1 - y0)
    if length < NEAR:
        raise ParameterError("A slant from a mark to itself is none.", "Slant", "Draw it from mark to mark.")
    nx, ny = -(y1 - y0) / length, (x1 - x0) / length  # to its left
    d = nx * x0 + ny * y0
    parts: list[Facet] = []
    for facet in facets:
        left, right = half(facet.outline, nx, ny, d), half(facet.outline, -nx, -ny, -d)
        if not left or not right or min(area(left), area(right)) < _SLIVER:
            parts.append(facet)
            continue
        along = [
            ((x - x0) * (x1 - x0) + (y - y0) * (y1 - y0)) / length for x, y in left if abs(nx * x + ny * y - d) < 1e-4
        ]
        if max(along) <= 1e-4 or min(along) >= length - 1e-4:
            parts.append(facet)  # the line would cross it, the slant does not reach it
            continue
        if min(along) < -1e-4 or max(along) > length + 1e-4:
            raise ParameterError(
                f"The slant ends within {facet.name}.", "Slant", "Let it run from an edge or a score to another."
            )
        parts += [Facet(facet.name + "a", each_once(left)), Facet(facet.name + "b", each_once(right))]
    return parts
