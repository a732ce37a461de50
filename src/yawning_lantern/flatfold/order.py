"""Which orders of layers a folded sheet can have, however it got there: conditions between pairs and triples of facets.

Facets that share area are above one another in some order; that order must let every hinge be (Justin 1997, Bern and
Hayes 1996, and the names of Demaine and O'Rourke 2007):

- *taco and tortilla*: a facet that lies across a shut hinge is not between its two facets;
- *tortilla and tortilla*: a facet, or a hinge that is not shut, that lies across a flat hinge stays on one side of it;
- *taco and taco*: of two shut hinges on one line and one side, one is within the other or they are apart;
- the order is *transitive* wherever three facets share area.

This is no part of folding: it judges an end, and it finds every end there is by trying.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping, Sequence
from typing import Literal

from msgspec import Struct

from yawning_lantern.flatfold.state import SLIVER, Folded, Pair, overlaps
from yawning_lantern.pattern import Point, area
from yawning_lantern.pattern.convex import half, shared

_ALONG = 1e-2  # mm: two stretches share less than this of a line only by rounding

Kind = Literal["through a fold", "through a panel", "two folds cross", "in a circle"]


class Condition(Struct, frozen=True):
    """Pairs of facets of which only some signs go together. `pairs` are (i, j), i < j; `allowed` their signs."""

    kind: Kind
    pairs: tuple[Pair, ...]
    allowed: frozenset[tuple[int, ...]]


def _signed(i: int, j: int) -> tuple[Pair, int]:
    return ((i, j), 1) if i < j else ((j, i), -1)


def _same(kind: Kind, one: tuple[int, int], other: tuple[int, int]) -> Condition:
    """Two pairs that must be the same way round."""
    (p, s), (q, r) = _signed(*one), _signed(*other)
    return Condition(kind, (p, q), frozenset({(1, s * r), (-1, -s * r)}))


def _line(p: Point, q: Point) -> tuple[float, float, float]:
    """Unit normal to the left and offset of the line through two points."""
    length = math.dist(p, q)
    nx, ny = -(q[1] - p[1]) / length, (q[0] - p[0]) / length
    return nx, ny, nx * p[0] + ny * p[1]


def _side(points: Sequence[Point], line: tuple[float, float, float]) -> int:
    """+1 left of a line, −1 right of it, 0 across it."""
    over = [line[0] * x + line[1] * y - line[2] for x, y in points]
    if min(over) > -1e-3:
        return 1
    return -1 if max(over) < 1e-3 else 0


def _common(a: tuple[Point, Point], b: tuple[Point, Point]) -> tuple[Point, Point] | None:
    """What two stretches share where they lie on one line, or None."""
    nx, ny, d = _line(*a)
    if any(abs(nx * x + ny * y - d) > 1e-3 for x, y in b):
        return None
    ux, uy = ny, -nx  # from a's start to its end
    at = [ux * x + uy * y for x, y in (*a, *b)]
    lo, hi = max(min(at[0], at[1]), min(at[2], at[3])), min(max(at[0], at[1]), max(at[2], at[3]))
    if hi - lo < _ALONG:
        return None
    return (nx * d + ux * lo, ny * d + uy * lo), (nx * d + ux * hi, ny * d + uy * hi)


def _crosses(points: Sequence[Point], stretch: tuple[Point, Point]) -> bool:
    """Whether a facet lies on both sides of a stretch of a line, where the stretch runs."""
    line = _line(*stretch)
    if _side(points, line):
        return False
    ux, uy = line[1], -line[0]
    a, b = (ux * x + uy * y for x, y in stretch)
    within = half(half(points, ux, uy, min(a, b) + _ALONG), -ux, -uy, -(max(a, b) - _ALONG))
    return bool(within) and _side(within, line) == 0


def conditions(state: Folded) -> tuple[Condition, ...]:
    """Every condition on the order of a folded sheet; of its state only where the facets lie is used and which hinges
    are shut."""
    places, sheet = state.places, state.sheet
    pairs = overlaps(places)
    meeting = set(pairs)
    conditions: list[Condition] = []

    def meet(i: int, j: int) -> bool:
        return ((i, j) if i < j else (j, i)) in meeting

    stretches = [state.stretch(k) for k in range(len(sheet.hinges))]
    lines = [_line(*s) for s in stretches]
    for k, h in enumerate(sheet.hinges):
        for c in range(len(sheet.facets)):
            if c in (h.a, h.b) or not (meet(c, h.a) and meet(c, h.b)) or not _crosses(places[c], stretches[k]):
                continue
            kind: Kind = "through a fold" if k in state.shut else "through a panel"
            conditions.append(_same(kind, (c, h.a), (c, h.b)))
        for m in range(k + 1, len(sheet.hinges)):
            g = sheet.hinges[m]
            if len({h.a, h.b, g.a, g.b}) < 4 or _common(stretches[k], stretches[m]) is None:
                continue
            one, other = (k in state.shut), (m in state.shut)
            sides = [_side(places[f], lines[k]) for f in (h.a, h.b, g.a, g.b)]
            if one and other:
                if sides[0] == sides[2]:
                    conditions.append(_nested(h.a, h.b, g.a, g.b))
            elif not one and not other:
                c, d = (g.a, g.b) if sides[2] == sides[0] else (g.b, g.a)
                conditions.append(_same("through a panel", (h.a, c), (h.b, d)))
            else:
                taco, flat = (h, g) if one else (g, h)
                bent = _side(places[taco.a], lines[k])
                c = flat.a if _side(places[flat.a], lines[k]) == bent else flat.b
                conditions.append(_same("through a fold", (c, taco.a), (c, taco.b)))
    conditions += _triples(places, pairs)
    return tuple(conditions)


def _nested(a: int, b: int, c: int, d: int) -> Condition:
    """Of two folds on one line: none of a c b d and its kin, where they would cross."""
    told = [_signed(*p) for p in ((a, c), (a, d), (b, c), (b, d))]
    allowed = set()
    for bits in range(16):
        ac, ad, bc, bd = (1 if bits >> k & 1 else -1 for k in range(4))
        # c is between a and b where it is over one and under the other; so must d be then, and the other way round
        within, around = (ac != bc, ad != bd), (ac != ad, bc != bd)
        if within[0] == within[1] and around[0] == around[1]:
            allowed.add(tuple(s * v for (_, s), v in zip(told, (ac, ad, bc, bd), strict=True)))
    return Condition("two folds cross", tuple(p for p, _ in told), frozenset(allowed))


_ROUND = frozenset({(1, 1, -1), (-1, -1, 1)})  # signs of (ij, jk, ik) where i < j < k < i, and its mirror
_STRAIGHT = frozenset((a, b, c) for a in (1, -1) for b in (1, -1) for c in (1, -1) if (a, b, c) not in _ROUND)
"""All other signs: three facets in some order."""


def _triples(places: Sequence[Sequence[Point]], pairs: Sequence[Pair]) -> Iterator[Condition]:
    """One condition for every three facets that share area."""
    beside: dict[int, set[int]] = {}
    for i, j in pairs:
        beside.setdefault(i, set()).add(j)
    for i, j in pairs:
        common = None
        for k in sorted(beside.get(i, set()) & beside.get(j, set())):
            if common is None:
                common = shared(places[i], places[j])
            both = shared(common, places[k])
            if both and area(both) > SLIVER:
                yield Condition("in a circle", ((i, j), (j, k), (i, k)), _STRAIGHT)


def broken(state: Folded) -> tuple[Condition, ...]:
    """The conditions that a state's order does not keep, or does not tell."""
    return tuple(c for c in conditions(state) if tuple(state.above.get(pair, 0) for pair in c.pairs) not in c.allowed)


def orders(
    state: Folded, known: Mapping[Pair, int] | None = None, most: int = 1_000_000
) -> Iterator[Mapping[Pair, int]]:
    """Every order a folded sheet can have in which the `known` pairs are as told: all are tried (depth first, and what
    a choice forces is followed at once). At most `most` are given."""
    pairs = overlaps(state.places)
    wanted = conditions(state)
    touching: dict[Pair, list[Condition]] = {pair: [] for pair in pairs}
    for condition in wanted:
        for pair in condition.pairs:
            touching[pair].append(condition)
    values: dict[Pair, int] = {}
    trail: list[Pair] = []

    def put(pair: Pair, value: int) -> bool:
        todo = [(pair, value)]
        while todo:
            p, v = todo.pop()
            if p in values:
                if values[p] != v:
                    return False
                continue
            values[p] = v
            trail.append(p)
            for c in touching[p]:
                now = [values.get(q, 0) for q in c.pairs]
                left = [a for a in c.allowed if all(n in (0, x) for n, x in zip(now, a, strict=True))]
                if not left:
                    return False
                for n, q in enumerate(c.pairs):
                    if not now[n] and all(a[n] == left[0][n] for a in left):
                        todo.append((q, left[0][n]))
        return True

    def undo(mark: int) -> None:
        while len(trail) > mark:
            del values[trail.pop()]

    given = 0

    def search(at: int) -> Iterator[Mapping[Pair, int]]:
        nonlocal given
        while at < len(pairs) and pairs[at] in values:
            at += 1
        if at == len(pairs):
            given += 1
            yield dict(values)
            return
        for value in (1, -1):
            mark = len(trail)
            if put(pairs[at], value):
                yield from search(at + 1)
            undo(mark)
            if given >= most:
                return

    for pair, value in (known or {}).items():
        if pair in touching and not put(pair, value):
            return
    yield from search(0)


def heights(
    state: Folded, thickness: Sequence[float] | float = 1.0, between: Mapping[Pair, float] | None = None
) -> tuple[float, ...] | None:
    """How high the middle of each facet lies, mm: what is joined by hinges that are not shut lies level; over it comes
    what must, each sheet as thick as told (mm, for each facet or for all), and `between` two of them (i, j), i < j,
    what lies there, mm. None where some lie over one another in a circle: paper does that by bending."""
    n = len(state.sheet.facets)
    thick = [thickness] * n if isinstance(thickness, float | int) else list(thickness)
    lead = list(range(n))

    def root(i: int) -> int:
        while lead[i] != i:
            i = lead[i]
        return i

    for k, hinge in enumerate(state.sheet.hinges):
        if k not in state.shut:
            lead[root(hinge.a)] = root(hinge.b)
    over: dict[int, dict[int, float]] = {}
    below: dict[int, int] = {root(i): 0 for i in range(n)}
    for (i, j), sign in state.above.items():
        low, high = (i, j) if sign > 0 else (j, i)
        a, b = root(low), root(high)
        if a == b:
            return None
        step = (thick[low] + thick[high]) / 2 + (between or {}).get((i, j), 0.0)
        if b not in over.setdefault(a, {}):
            below[b] += 1
        over[a][b] = max(over[a].get(b, 0.0), step)
    level = dict.fromkeys(below, 0.0)
    todo = [k for k, count in below.items() if not count]
    done = 0
    while todo:
        a = todo.pop()
        done += 1
        for b, step in over.get(a, {}).items():
            level[b] = max(level[b], level[a] + step)
            below[b] -= 1
            if not below[b]:
                todo.append(b)
    return tuple(level[root(i)] for i in range(n)) if done == len(below) else None
