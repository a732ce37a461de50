"""Bodies that are in one another, or near one another, in one pose: all that a single shut pose asks.

The sweep asks arrays of poses and python-fcl; here there is one pose and few pairs, so that plain arithmetic is quick
and needs no library. Boxes are found by sweep and prune (Baraff 1992), pairs are parted by the separating axis theorem
(from memory; Gottschalk, Lin and Manocha 1996 use it for boxes): normals, then squares of edges, then edge with edge.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence, Set
from math import inf, sqrt

from msgspec import Struct
from msgspec.structs import replace

from yawning_lantern.assembly import Assembly, Vec
from yawning_lantern.assembly.joined import Frame
from yawning_lantern.opening import Solid
from yawning_lantern.opening.bodies import (
    EDGE,
    ROUND,
    Untested,
    give,
    over_flat_creases,
    prism,
    sheet_prisms,
)

ALONG = 0.98
"""Two ways whose cosine is larger are one way."""
_LEAST = 1e-6  # of a way's length: a shorter one is none
_Boxed = tuple[int, str, float, float, float, float, float]  # rank, element, end along x, begin and end along y and z
_STRAIGHT = 1e-9
"""Sine of an angle: less is no angle."""


class Pair(Struct, frozen=True):
    """Two bodies (by rank), how far they are apart (below zero: in one another), mm, and the unit way from a to b."""

    a: int
    b: int
    apart: float
    way: Vec


class Body:
    """One convex prism where it lies: its corners `below`, the way `up` from those to the ones above, mm, its box."""

    __slots__ = ("below", "frame", "high", "low", "node", "solid", "up")

    def __init__(self, node: int, vertices: Sequence[Vec], frame: Frame, solid: bool) -> None:
        self.node, self.frame, self.solid = node, frame, solid
        xx, xy, xz, yx, yy, yz, nx, ny, nz, ox, oy, oz = frame
        count = len(vertices) // 2
        self.below = [
            (x * xx + y * yx + z * nx + ox, x * xy + y * yy + z * ny + oy, x * xz + y * yz + z * nz + oz)
            for x, y, z in vertices[:count]
        ]
        thick = vertices[count][2] - vertices[0][2]
        self.up = ux, uy, uz = thick * nx, thick * ny, thick * nz
        xs, ys, zs = zip(*self.below, strict=True)
        self.low = min(xs) + min(ux, 0.0), min(ys) + min(uy, 0.0), min(zs) + min(uz, 0.0)
        self.high = max(xs) + max(ux, 0.0), max(ys) + max(uy, 0.0), max(zs) + max(uz, 0.0)

    @property
    def corners(self) -> list[Vec]:
        """Those below, then those above, mm."""
        ux, uy, uz = self.up
        return [*self.below, *((x + ux, y + uy, z + uz) for x, y, z in self.below)]

    def normal(self) -> Vec:
        """The way in which it is a prism."""
        return self.frame[6], self.frame[7], self.frame[8]

    def edges(self) -> list[Vec]:
        """Ways along its outline."""
        own = self.below
        return [(q[0] - p[0], q[1] - p[1], q[2] - p[2]) for p, q in zip(own, [*own[1:], own[0]], strict=True)]

    def squares(self) -> list[Vec]:
        """Ways square to its outline, in its plane; of edges that run back along others one of the two is enough."""
        edges, normal = self.edges(), self.normal()
        half = len(edges) // 2
        if len(edges) == 2 * half and all(_is_back(a, b) for a, b in zip(edges[:half], edges[half:], strict=True)):
            edges = edges[:half]
        return [_cross(edge, normal) for edge in edges]

    def span(self, way: Vec) -> tuple[float, float]:
        """Where it begins and ends along a way, mm for a unit way."""
        x, y, z = way
        along = [x * a + y * b + z * c for a, b, c in self.below]
        rise = x * self.up[0] + y * self.up[1] + z * self.up[2]
        return (min(along), max(along) + rise) if rise > 0 else (min(along) + rise, max(along))


def _is_back(a: Vec, b: Vec) -> bool:
    """Whether one way is the other backwards."""
    return abs(a[0] + b[0]) + abs(a[1] + b[1]) + abs(a[2] + b[2]) < _LEAST


def _cross(a: Vec, b: Vec) -> Vec:
    return a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]


def _better(a: Body, b: Body, ways: Sequence[Vec], best: tuple[float, Vec], enough: float) -> tuple[float, Vec]:
    """The furthest that two bodies are apart along one of some ways, and that unit way from a to b; the first that is
    `enough`. Ways that run along one another are one."""
    apart, along = best
    asked: list[Vec] = []
    for way in ways:
        size = sqrt(way[0] * way[0] + way[1] * way[1] + way[2] * way[2])
        if size < _LEAST:
            continue
        unit = ux, uy, uz = (way[0] / size, way[1] / size, way[2] / size)
        if any(
            abs(ux * y - uy * x) < _STRAIGHT and abs(uy * z - uz * y) < _STRAIGHT and abs(uz * x - ux * z) < _STRAIGHT
            for x, y, z in asked
        ):
            continue
        asked.append(unit)
        (begin_a, end_a), (begin_b, end_b) = a.span(unit), b.span(unit)
        if begin_b - end_a >= begin_a - end_b:
            gap = begin_b - end_a
        else:
            gap, unit = begin_a - end_b, (-unit[0], -unit[1], -unit[2])
        if gap > apart:
            apart, along = gap, unit
            if gap >= enough:
                break
    return apart, along


def parted(a: Body, b: Body, enough: float) -> tuple[float, Vec]:
    """How far two bodies are apart, mm, below zero where they are in one another, and along which way from a to b; of
    those that are `enough` apart no more is asked, so that it is told too short rather than too long."""
    best = _better(a, b, (a.normal(), b.normal()), (-inf, (0.0, 0.0, 1.0)), enough)
    if best[0] < enough:
        best = _better(a, b, (*a.squares(), *b.squares()), best, enough)
    if best[0] < 0:
        of_a, of_b = [*a.edges(), a.normal()], [*b.edges(), b.normal()]
        best = _better(a, b, [_cross(e, f) for e in of_a for f in of_b], best, enough)
    return best


class Bodies:
    """Every sheet of an assembly in one pose, and the solids that stand on them, by rank.

    With those of a design as it was `before` an edit, bodies and pairs of elements that `stayed` (the very same nodes
    in the same places) are taken over: what is asked of them must be the same, too.
    """

    def __init__(
        self,
        assembly: Assembly,
        frames: Sequence[Frame],
        solids: Sequence[Solid] = (),
        before: Bodies | None = None,
        stayed: Set[str] = frozenset(),
    ) -> None:
        self.assembly = assembly
        self._sheets: list[list[Body]] = []
        self._standing: dict[Solid, Body] = {}
        for k, node in enumerate(assembly.nodes):
            if before is not None and node.element in stayed:
                self._sheets.append(before._sheets[k])
            else:
                self._sheets.append([Body(k, vertices, frames[k], solid=False) for vertices in sheet_prisms(node)])
        for s in solids:
            old = before._standing.get(s) if before is not None else None
            if old is None or assembly.nodes[s.node].element not in stayed:
                old = Body(s.node, prism(s.outline, s.low, s.high), frames[s.node], solid=True)
            self._standing[s] = old
        self.all = [body for own in self._sheets for body in own] + list(self._standing.values())
        self._untested, self._flat = Untested(assembly), over_flat_creases(assembly)
        self._elements = [assembly.nodes[body.node].element for body in self.all]
        old_ones = {id(body) for body in before.all} if before is not None else set()
        self._stayed = [id(body) in old_ones for body in self.all]
        self._before: Mapping[tuple[Body, Body], Pair | None] = before._asked if before is not None else {}
        self._asked: dict[tuple[Body, Body], Pair | None] = {}

    def element(self, rank: int) -> str:
        """Whose a body is."""
        return self._elements[rank]

    def may_meet(self, i: int, j: int) -> bool:
        """Whether it is a question at all how near two bodies are."""
        a, b = self.all[i], self.all[j]
        if a.solid or b.solid:
            return a.node != b.node or a.solid == b.solid  # what stands on a sheet may touch that
        return (a.node, b.node) not in self._flat and not self._untested(a.node, b.node)

    def gives(self, rank: int, way: Vec) -> float:
        """What a body was made smaller by along a way, mm."""
        body = self.all[rank]
        if body.solid:
            return 0.0
        t, n = self.assembly.nodes[body.node].piece.stock.caliper, body.normal()
        slope = abs(n[0] * way[0] + n[1] * way[1] + n[2] * way[2])
        return give(t) if slope > ALONG else min(t / 2, ROUND) + EDGE

    def _boxes(self, most: float, near: Callable[[str, str], float]) -> Iterator[tuple[int, int, float]]:
        """Pairs (i < j) of bodies whose boxes meet, or are no further from one another than `near` says of their two
        elements, mm, which is `most` at the most; with each what is near. Not of two that both stayed."""
        limits: dict[tuple[str, str], float] = {}
        stayed: list[_Boxed] = []  # those that did not move are asked only by those that did
        moved: list[_Boxed] = []
        for k in sorted(range(len(self.all)), key=lambda rank: self.all[rank].low[0]):
            (x, y, z), (far, ey, ez) = self.all[k].low, self.all[k].high
            own = self._elements[k]
            begin, y0, y1, z0, z1 = x - most, y - most, ey + most, z - most, ez + most
            moved = [box for box in moved if box[2] >= begin]
            others = moved
            if not self._stayed[k]:
                stayed = [box for box in stayed if box[2] >= begin]
                others = stayed + moved
            for i, name, until, ly, hy, lz, hz in others:
                if lz <= z1 and hz >= z0 and ly <= y1 and hy >= y0:
                    meet = lz <= ez and hz >= z and ly <= ey and hy >= y and until >= x
                    if name == own:  # most come near one another, few meet: asked first
                        if meet:
                            yield (i, k, 0.0) if i < k else (k, i, 0.0)
                        continue
                    key = (name, own)
                    limit = limits.get(key)
                    if limit is None:
                        limit = limits[key] = near(name, own)
                    if meet or (limit and max(ly - ey, y - hy, lz - ez, z - hz, x - until) <= limit):
                        yield (i, k, limit) if i < k else (k, i, limit)
            (stayed if self._stayed[k] else moved).append((k, own, far, y, ey, z, ez))

    def _asked_before(self) -> dict[tuple[int, int], Pair | None]:
        """What was asked of two bodies that both stayed, by their ranks now."""
        if not self._before:
            return {}
        ranks = {body: k for k, body in enumerate(self.all) if self._stayed[k]}
        known: dict[tuple[int, int], Pair | None] = {}
        for (a, b), pair in self._before.items():
            i, j = ranks.get(a), ranks.get(b)
            if i is not None and j is not None:
                same = pair is None or (pair.a, pair.b) == (i, j)
                known[i, j] = pair if pair is None or same else replace(pair, a=i, b=j)
        return known

    def pairs(self, most: float, near: Callable[[str, str], float]) -> list[Pair]:
        """Bodies that are in one another, and bodies of two elements that come nearer than `near` says, mm, which is
        `most` at the most; in the order of their ranks."""
        asked = self._asked_before()
        for i, j, enough in self._boxes(most, near):
            pair = None
            if self.may_meet(i, j):
                apart, way = parted(self.all[i], self.all[j], enough)
                if apart < enough if enough > 0 else apart < 0:
                    pair = Pair(i, j, apart, way)
            asked[i, j] = pair
        self._asked = {(self.all[i], self.all[j]): pair for (i, j), pair in asked.items()}
        self._before = self._asked
        return [pair for _, pair in sorted(asked.items()) if pair is not None]

    def parting(self, a: str, b: str, faces: Sequence[Frame]) -> tuple[float, Vec]:
        """How far two elements as wholes are in one another, mm (below zero), along the way in which the least would
        part them: the axes of the faces they sit on. From a to b."""
        ranks = [[k for k in range(len(self.all)) if self.element(k) == e] for e in (a, b)]
        best, along = -inf, (0.0, 0.0, 1.0)
        for frame in faces:
            for k in range(3):
                way = (frame[3 * k], frame[3 * k + 1], frame[3 * k + 2])
                for unit in (way, (-way[0], -way[1], -way[2])):
                    end, here = max((self.all[r].span(unit)[1], r) for r in ranks[0])
                    begin, there = min((self.all[r].span(unit)[0], r) for r in ranks[1])
                    apart = begin - end - self.gives(here, unit) - self.gives(there, unit)
                    if apart > best:
                        best, along = apart, unit
        return best, along
