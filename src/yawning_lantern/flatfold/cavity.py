"""What is hollow in a folded sheet: pockets as cavities, with every edge told.

The sheet as it lies is cut into regions over each of which the same facets lie (an arrangement of their edges, by
shapely). A gap is the space between two neighbours of a region. Two gaps are one hollow where the space goes on: across
an edge of a region, unless a fold shuts it off, glue fills it, or a sheet that goes through lies between. What opens
when pages are turned, and what lies outside, is no hollow; an edge towards it is a mouth.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping, Sequence
from functools import cmp_to_key
from typing import Literal

from msgspec import Struct

from yawning_lantern.flatfold.state import SLIVER, Folded, Pair, place
from yawning_lantern.on_use import load
from yawning_lantern.pattern import Point, bounds
from yawning_lantern.pattern.convex import holds

EdgeKind = Literal["fold", "wrapped", "glue", "open", "page"]
"""fold: shut by the hinge named. wrapped: a fold of outer layers goes around it, no mouth. glue: held there. open: a
mouth. page: it opens where a page is turned."""
_Gap = tuple[int, int]  # region, how many layers lie below
_Segment = tuple[Point, Point]
_WELD = 4  # decimals of a mm: corners closer than this are one


class Rim(Struct, frozen=True):
    """A stretch of a hollow's edge, as it lies, mm, and what is there; `by` names hinge or facets."""

    kind: EdgeKind
    by: str
    start: Point
    end: Point


class Hollow(Struct, frozen=True):
    """A cavity: the pairs of facets it lies between, its extent as it lies (x0, y0, x1, y1, mm), its area (of what is
    seen from above, mm²) and its rim."""

    walls: tuple[tuple[str, str], ...]
    extent: tuple[float, float, float, float]
    area: float
    rim: tuple[Rim, ...]

    def length(self, *kinds: EdgeKind) -> float:
        """How much of its rim is of these kinds, mm."""
        return sum(math.dist(r.start, r.end) for r in self.rim if r.kind in kinds)

    @property
    def mouth(self) -> tuple[Rim, ...]:
        """Where something can be slipped in."""
        return tuple(r for r in self.rim if r.kind in ("open", "page"))

    @property
    def pocket(self) -> bool:
        """Whether it holds something: a mouth, and more of its rim shut than open."""
        mouth, shut = self.length("open", "page"), self.length("fold", "glue", "wrapped")
        return 0 < mouth < shut


class _Region(Struct, frozen=True):
    outline: tuple[Point, ...]
    area: float
    layers: tuple[int, ...]
    solid: frozenset[int]  # gaps (layers below) that glue fills


def hollows(state: Folded, turns: Iterable[tuple[str, str]] = ()) -> tuple[Hollow, ...]:
    """Every cavity of a folded sheet, largest first. `turns` are pairs of facets that part when pages are turned."""
    sheet = state.sheet
    pages: set[Pair] = set()
    for a, b in turns:
        i, j = sheet.at(a), sheet.at(b)
        pages.add((min(i, j), max(i, j)))
    regions = _regions(state)
    borders: dict[_Segment, list[int]] = {}
    for r, region in enumerate(regions):
        ring = region.outline
        for k, p in enumerate(ring):
            q = ring[(k + 1) % len(ring)]
            borders.setdefault((min(p, q), max(p, q)), []).append(r)
    folds = {k: _segment(*state.stretch(k)) for k in range(len(sheet.hinges))}
    lead: dict[_Gap, _Gap] = {}

    def outer(gap: _Gap) -> bool:
        layers = regions[gap[0]].layers
        return gap[1] in (0, len(layers)) or _pair(layers[gap[1] - 1], layers[gap[1]]) in pages

    def root(gap: _Gap) -> _Gap:
        while lead.get(gap, gap) != gap:
            gap = lead[gap]
        return gap

    rims: list[tuple[_Gap, Rim]] = []
    for segment, beside in borders.items():
        zones: dict[int, list[_Gap]] = {}
        for r in beside:
            other = next((q for q in beside if q != r), None)
            for gap, zone, shut in _at_edge(state, regions, folds, segment, r, other):
                if zone is None:
                    if gap[1] not in regions[r].solid and not outer(gap):
                        rims.append((gap, Rim(*shut, *segment)))
                else:
                    zones.setdefault(zone, []).append(gap)
        for gaps in zones.values():
            inner = [g for g in gaps if g[1] not in regions[g[0]].solid and not outer(g)]
            out = len(beside) == 1 or any(g[1] in (0, len(regions[g[0]].layers)) for g in gaps)
            turning = any(outer(g) for g in gaps)
            filled = [g for g in gaps if g[1] in regions[g[0]].solid]
            for g in inner:
                if out or turning:
                    rims.append((g, Rim("open" if out else "page", _between(state, regions, g), *segment)))
                elif filled and all(q == g or q in filled for q in gaps):
                    rims.append((g, Rim("glue", _between(state, regions, filled[0]), *segment)))
                elif root(inner[0]) != root(g):
                    lead[root(g)] = root(inner[0])
    groups: dict[_Gap, list[_Gap]] = {}
    for r, region in enumerate(regions):
        for k in range(1, len(region.layers)):
            if k not in region.solid and not outer((r, k)):
                groups.setdefault(root((r, k)), []).append((r, k))
    hollows = [
        _hollow(state, regions, gaps, [rim for g, rim in rims if root(g) == key]) for key, gaps in groups.items()
    ]
    return tuple(sorted(hollows, key=lambda h: (-round(h.area, 1), h.walls)))


def _pair(i: int, j: int) -> Pair:
    return (i, j) if i < j else (j, i)


class Stack(Struct, frozen=True):
    """Over an area of a folded sheet the facets that lie there, from below; its outline as it lies, mm."""

    outline: tuple[Point, ...]
    layers: tuple[int, ...]


def stacks(state: Folded) -> tuple[Stack, ...]:
    """The sheet as it lies, in areas over each of which the same facets lie."""
    return tuple(Stack(region.outline, region.layers) for region in _regions(state))


def _segment(p: Point, q: Point) -> _Segment:
    return p, q


def _regions(state: Folded) -> list[_Region]:
    """The sheet as it lies, cut along every edge of a facet and every rim of glue."""
    shapely = load("shapely")
    spots = [(stuck, place(spot, state.isos[stuck.a])) for stuck in state.glued for spot in stuck.spots]
    rings = [*state.places, *(spot for _, spot in spots)]
    lines = [shapely.LinearRing([(round(x, _WELD), round(y, _WELD)) for x, y in ring]) for ring in rings]
    noded = shapely.set_precision(shapely.union_all(lines), 10.0**-_WELD)
    regions = []

    def upward(a: int, b: int) -> int:
        return -state.over(a, b)

    for shape in shapely.get_parts(shapely.polygonize([noded])):
        if shape.area < SLIVER:
            continue
        middle = shape.representative_point()
        spot = (middle.x, middle.y)
        here = [i for i, outline in enumerate(state.places) if holds(outline, spot)]
        if not here:
            continue
        layers = tuple(sorted(here, key=cmp_to_key(upward)))
        filled = {
            k
            for k in range(1, len(layers))
            for stuck, outline in spots
            if {stuck.a, stuck.b} == {layers[k - 1], layers[k]} and holds(outline, spot)
        }
        ring = tuple((round(x, _WELD), round(y, _WELD)) for x, y in shape.exterior.coords[:-1])
        regions.append(_Region(ring, float(shape.area), layers, frozenset(filled)))
    return regions


def _on(stretch: _Segment, segment: _Segment) -> bool:
    """Whether the middle of a segment lies on a stretch and along it."""
    (x0, y0), (x1, y1) = stretch
    length = math.dist(*stretch)
    ux, uy = (x1 - x0) / length, (y1 - y0) / length
    for x, y in segment:
        if abs((x - x0) * uy - (y - y0) * ux) > 1e-2:
            return False
    mx, my = (segment[0][0] + segment[1][0]) / 2, (segment[0][1] + segment[1][1]) / 2
    return -1e-3 < (mx - x0) * ux + (my - y0) * uy < length + 1e-3


def _at_edge(
    state: Folded,
    regions: Sequence[_Region],
    folds: Mapping[int, _Segment],
    segment: _Segment,
    r: int,
    other: int | None,
) -> list[tuple[_Gap, int | None, tuple[EdgeKind, str]]]:
    """For every gap of a region at one of its edges: the zone it leads to (how many sheets that go through lie below),
    or none and what shuts it."""
    layers = regions[r].layers
    beyond = set(regions[other].layers) if other is not None else set()
    at = {facet: k for k, facet in enumerate(layers)}
    through: set[int] = {k for k, facet in enumerate(layers) if facet in beyond}
    arcs: list[tuple[int, int, int]] = []
    for number, hinge in enumerate(state.sheet.hinges):
        if not _on(folds[number], segment):
            continue
        if number in state.shut:
            if hinge.a in at and hinge.b in at:
                one, two = at[hinge.a], at[hinge.b]
                arcs.append((min(one, two), max(one, two), number))
        else:
            for one, two in ((hinge.a, hinge.b), (hinge.b, hinge.a)):
                if one in at and two in beyond and one not in beyond:
                    through.add(at[one])
    edges: list[tuple[_Gap, int | None, tuple[EdgeKind, str]]] = []
    for k in range(len(layers) + 1):
        around = [arc for arc in arcs if arc[0] < k <= arc[1]]
        if around:
            low, high, by = max(around)  # folds of one line do not cross: the nearest begins highest
            kind: EdgeKind = "fold" if high - low == 1 else "wrapped"
            edges.append(((r, k), None, (kind, state.sheet.hinge_name(by))))
        else:
            edges.append(((r, k), sum(1 for t in through if t < k), ("open", "")))
    return edges


def _between(state: Folded, regions: Sequence[_Region], gap: _Gap) -> str:
    layers = regions[gap[0]].layers
    return f"{state.name(layers[gap[1] - 1])}, {state.name(layers[gap[1]])}"


def _hollow(state: Folded, regions: Sequence[_Region], gaps: Sequence[_Gap], rim: Sequence[Rim]) -> Hollow:
    walls = sorted({(state.name(regions[r].layers[k - 1]), state.name(regions[r].layers[k])) for r, k in gaps})
    x0, y0, x1, y1 = bounds([p for r, _ in gaps for p in regions[r].outline])
    seen = {r for r, _ in gaps}
    return Hollow(tuple(walls), (x0, y0, x1, y1), sum(regions[r].area for r in seen), tuple(_joined(rim)))


def _joined(rim: Sequence[Rim]) -> list[Rim]:
    """Stretches of one kind that go on from one another in a straight line, as one."""
    left = sorted(rim, key=lambda r: (r.kind, r.by, r.start, r.end))
    rims: list[Rim] = []
    for one in left:
        for k, other in enumerate(rims):
            if (one.kind, one.by) == (other.kind, other.by) and (longer := _together(other, one)) is not None:
                rims[k] = Rim(one.kind, one.by, *longer)
                break
        else:
            rims.append(one)
    return rims


def _together(a: Rim, b: Rim) -> _Segment | None:
    if b.start not in (a.start, a.end) and b.end not in (a.start, a.end):
        return None
    points = sorted({a.start, a.end, b.start, b.end})
    if len(points) != 3:
        return None
    p, q, s = points
    cross = (q[0] - p[0]) * (s[1] - p[1]) - (q[1] - p[1]) * (s[0] - p[0])
    return (p, s) if abs(cross) < 1e-2 * max(1.0, abs(s[0] - p[0]) + abs(s[1] - p[1])) else None
