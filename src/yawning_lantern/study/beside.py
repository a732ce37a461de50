"""Fits between things that no host brings together: neighbours on one face, on walls that meet or face one another,
what hangs from a lid against what stands below it. Found in the shut pose, so that no family has to think of them.

Bodies are those of the sweep (`opening.bodies`); here pairs are parted by the separating axis theorem over all pairs at
once, where the sweep asks python-fcl."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass

from yawning_lantern.arrays import Floats, Ranks, np
from yawning_lantern.assembly import Assembly, Gap, Lever, Span, Term, uses
from yawning_lantern.assembly.edges import matching_side
from yawning_lantern.assembly.joined import Frame
from yawning_lantern.assembly.spans import PLACES
from yawning_lantern.fit import check_gaps
from yawning_lantern.measure import inches
from yawning_lantern.opening import Plates
from yawning_lantern.opening.bodies import EDGE, ROUND, give
from yawning_lantern.study.bodies import solids
from yawning_lantern.study.resolve import Resolved

NEAR = inches(1 / 8)
"""Things that come nearer than this to one another have a fit, mm."""
TOUCHING = 0.35
"""Sheets that lie this near are meant to lie on one another: no fit, mm."""
_ALONG, _ACROSS = 0.98, 0.2
_AT_ONCE = 400  # pairs


@dataclass(frozen=True, slots=True)
class _Pair:
    """Two bodies (by rank), how far they are apart (below zero: in one another), mm, and the unit way from a to b."""

    a: int
    b: int
    apart: float
    way: tuple[float, float, float]


def _chain(resolved: Mapping[str, Resolved], element: str) -> list[str]:
    """An element and its hosts, outwards."""
    found = [element]
    while (host := resolved[found[-1]].host) != "":
        found.append(host)
    return found


def _neighbours(resolved: Mapping[str, Resolved], mounts: Mapping[tuple[str, str], Frame], a: str, b: str) -> bool:
    """Whether a maker would ask how near two things come: on one face, on two walls of a box, or one hanging from the
    lid of what carries the other."""
    one, other = resolved[a], resolved[b]
    if not one.host or not other.host:
        return False
    if any(r.family.relation not in ("inside", "onto") for r in (one, other)):
        return False
    if one.host == other.host:
        if one.place.face == other.place.face:
            return True
        here, there = (mounts[r.host, r.place.face] for r in (one, other))
        same_way = here[6] * there[6] + here[7] * there[7] + here[8] * there[8] > _ALONG
        return resolved[one.host].family.relation == "inside" and not same_way
    lid, low = (one, other) if resolved[one.host].host == other.host else (other, one)
    return resolved[lid.host].host == low.host and resolved[lid.host].family.relation == "over"


def _over(corners: Floats, axes: Floats, p: Ranks, q: Ranks) -> tuple[Floats, Floats]:
    """How far bodies p and q are apart over the best of their axes (m, x, 3), and that axis, from p to q."""
    size = np.linalg.norm(axes, axis=-1, keepdims=True)
    unit = np.divide(axes, size, out=np.zeros_like(axes), where=size > 1e-6)
    turned = unit.swapaxes(1, 2)
    pa, pb = corners[p] @ turned, corners[q] @ turned
    ahead, behind = pb.min(1) - pa.max(1), pa.min(1) - pb.max(1)
    gap = np.where(size[..., 0] > 1e-6, np.maximum(ahead, behind), -np.inf)
    best = gap.argmax(axis=1)
    rows = np.arange(len(gap))
    sign = np.where(ahead[rows, best] >= behind[rows, best], 1.0, -1.0)
    return gap[rows, best], unit[rows, best] * sign[:, None]


def _apart(plates: Plates, corners: Floats, ways: Floats, i: Ranks, j: Ranks, enough: Floats) -> tuple[Floats, Floats]:
    """How far pairs of bodies are apart (m,), mm, below zero where they are in one another, and along which way (m, 3),
    from i to j: over their normals, then the squares of their edges, then of one edge with another (the separating axis
    theorem, from memory); pairs that are `enough` apart, or that no edge could part further, are not asked again."""
    gap, way = _over(corners, np.concatenate([ways[i, :1], ways[j, :1]], axis=1), i, j)

    def again(left: Ranks, axes: Floats) -> None:
        more, other = _over(corners, axes, i[left], j[left])
        better = more > gap[left]
        gap[left] = np.where(better, more, gap[left])
        way[left] = np.where(better[:, None], other, way[left])

    left = np.nonzero(gap < enough)[0]
    if len(left):
        again(left, np.concatenate([ways[i[left], 1:], ways[j[left], 1:]], axis=1))
    left = np.nonzero(gap < 0)[0]
    half = corners.shape[1] // 2
    for part in (left[k : k + _AT_ONCE] for k in range(0, len(left), _AT_ONCE)):
        edges = [corners[r[part]][:, :half] for r in (i, j)]
        a, b = (
            np.concatenate([np.roll(e, -1, 1) - e, ways[r[part], :1]], 1) for e, r in zip(edges, (i, j), strict=True)
        )
        again(part, np.cross(a[:, :, None], b[:, None]).reshape(len(part), -1, 3))
    return gap, way


def _boxes_near(lo: Floats, hi: Floats, near: float) -> tuple[Ranks, Ranks]:
    """Pairs (i < j, in order) of boxes that are no further than `near` mm from one another: sorted along one axis, each
    against those that begin before it ends (sweep and prune: Baraff 1992), so that no table of all pairs is made."""
    order = np.argsort(lo[:, 0], kind="stable")
    begin = lo[order, 0]
    until = np.searchsorted(begin, hi[order, 0] + near, side="right")
    count = until - np.arange(len(order)) - 1
    first = np.repeat(np.arange(len(order)), count)
    second = first + 1 + np.arange(len(first)) - np.repeat(np.cumsum(count) - count, count)
    a, b = order[first], order[second]
    apart = np.maximum(lo[a, 1:] - hi[b, 1:], lo[b, 1:] - hi[a, 1:]).max(axis=-1)
    a, b = a[apart <= near], b[apart <= near]
    low, high = np.minimum(a, b), np.maximum(a, b)
    rank = np.lexsort((high, low))
    return low[rank], high[rank]


def _pairs(plates: Plates, frames: Sequence[Frame], near: Callable[[str, str], float]) -> list[_Pair]:
    """Bodies that are in one another, and bodies of two elements that come nearer than `near` says, mm."""
    if len(plates.nodes) < 2:
        return []
    turns, origins = plates.placed(frames)
    corners, ways = plates.corners(turns, origins), plates.ways(turns)
    lo, hi = corners.min(axis=1), corners.max(axis=1)
    ii, jj = _boxes_near(lo, hi, NEAR)
    keep = ~(plates.joined[ii, jj] | plates.one_sheet[ii, jj])
    ii, jj = ii[keep], jj[keep]
    names = [plates.assembly.nodes[k].element for k in plates.nodes]
    limits: dict[tuple[str, str], float] = {}
    for key in ((names[i], names[j]) for i, j in zip(ii.tolist(), jj.tolist(), strict=True)):
        if key not in limits:
            limits[key] = near(*key)
    enough = np.array([limits[names[i], names[j]] for i, j in zip(ii.tolist(), jj.tolist(), strict=True)])
    meet = np.maximum(lo[ii] - hi[jj], lo[jj] - hi[ii]).max(axis=-1) <= enough if len(ii) else np.zeros(0, dtype=bool)
    ii, jj, enough = ii[meet], jj[meet], enough[meet]
    if not len(ii):
        return []
    gap, way = _apart(plates, corners, ways, ii, jj, enough)
    wanted = np.nonzero(np.where(enough > 0, gap < enough, gap < 0))[0]
    return [
        _Pair(int(ii[k]), int(jj[k]), float(gap[k]), (float(way[k][0]), float(way[k][1]), float(way[k][2])))
        for k in wanted
    ]


def _gives(plates: Plates, rank: int, frames: Sequence[Frame], way: Sequence[float]) -> float:
    """What a body was made smaller by along a way, mm."""
    if rank >= plates.sheets:
        return 0.0
    node = plates.nodes[rank]
    t, f = plates.assembly.nodes[node].piece.stock.caliper, frames[node]
    slope = abs(f[6] * way[0] + f[7] * way[1] + f[8] * way[2])
    return give(t) if slope > _ALONG else min(t / 2, ROUND) + EDGE


def _parting(
    plates: Plates, frames: Sequence[Frame], mounts: Sequence[Frame], a: str, b: str
) -> tuple[float, tuple[float, float, float]]:
    """How far two elements as wholes are in one another, mm (below zero), along the way in which the least would part
    them: the axes of the faces they sit on. From a to b."""
    turns, origins = plates.placed(frames)
    corners = plates.corners(turns, origins)
    ranks = [[k for k, n in enumerate(plates.nodes) if plates.assembly.nodes[n].element == e] for e in (a, b)]
    best, found = -math.inf, (0.0, 0.0, 1.0)
    for frame in mounts:
        for k in range(3):
            way = np.array(frame[3 * k : 3 * k + 3])
            spans = [(corners[r] @ way) for r in ranks]
            for sign in (1.0, -1.0):
                near = (sign * spans[0]).max(axis=1)
                far = (sign * spans[1]).min(axis=1)
                here, there = ranks[0][int(near.argmax())], ranks[1][int(far.argmin())]
                told = (float(sign * way[0]), float(sign * way[1]), float(sign * way[2]))
                gives = _gives(plates, here, frames, told) + _gives(plates, there, frames, told)
                apart = float(far.min() - near.max()) - gives
                if apart > best:
                    best, found = apart, told
    return best, found


class _Told:
    """Words and levers for the gaps of one study."""

    def __init__(
        self,
        resolved: Mapping[str, Resolved],
        assembly: Assembly,
        mounts: Mapping[tuple[str, str], Frame],
        plates: Plates,
    ) -> None:
        self.resolved, self.assembly, self.mounts, self.plates = resolved, assembly, mounts, plates

    def label(self, rank: int) -> str:
        """A body as a maker calls it."""
        node = self.assembly.nodes[self.plates.nodes[rank]]
        name, label = self.resolved[node.element].final.name, node.panel.label
        if rank >= self.plates.sheets:
            return f"What is in {name}"
        return name if label.lower() in name.lower() else f"{name}, {label}"

    def known(self, element: str, way: Sequence[float]) -> tuple[Term, ...]:
        """What an element reaches from its place on its face along a way, with the levers of that place."""
        r = self.resolved[element]
        frame = self.mounts.get((r.host, r.place.face))
        if frame is None:
            return ()
        x, y, z = (sum(frame[3 * k + n] * way[n] for n in range(3)) for k in range(3))
        if z > _ALONG and r.need.height is not None:
            return tuple(term.times(-1.0) for term in r.need.height.terms)
        if abs(z) > _ACROSS:
            return ()
        terms: list[Term] = []
        side = matching_side(r.need.sides, math.atan2(y, x), r.place.turn)
        if side is not None:
            terms += [term.times(-1.0) for term in side.reach.terms]
        for share, name, at in ((x, PLACES[0], r.place.x), (y, PLACES[1], r.place.y)):
            if abs(share) > 0.1:
                terms.append(Term(f"place of {r.final.name}", -at * share, Lever(element, name, -share)))
        return tuple(terms)

    def gap(self, pair: _Pair, apart: float, way: tuple[float, float, float]) -> Gap:
        """The fit between two bodies that are `apart` mm, a way from the first to the second."""
        a, b = (self.assembly.nodes[self.plates.nodes[k]].element for k in (pair.a, pair.b))
        terms: tuple[Term, ...] = ()
        if a != b:
            terms = (*self.known(a, way), *self.known(b, (-way[0], -way[1], -way[2])))
        rest = apart - sum(term.value for term in terms)
        between = (self.label(pair.a), self.label(pair.b))
        return Gap(uses.BESIDE, b, a, between, Span((Term("from one to the other", rest), *terms)).merged())


def beside_gaps(
    resolved: Mapping[str, Resolved],
    assembly: Assembly,
    frames: Sequence[Frame],
    mounts: Mapping[tuple[str, str], Frame],
    told: Iterable[Gap],
) -> tuple[Gap, ...]:
    """A gap for every two elements (or copies in one element) that are in one another or come near one another when
    all is shut, the narrowest place of each two.

    `told` are the gaps known so far: what one of those already tells to clash, between the two or on the way from one
    to the other through the nest, is not told twice. Some milliseconds.
    """
    plates = Plates(assembly, solids=solids(resolved, assembly))
    clashes = [check.gap for check in check_gaps(told) if check.is_clash]
    clashing = {gap.element for gap in clashes}
    hung = {gap.element for gap in clashes if gap.use == uses.HEADROOM and gap.element == gap.host}
    chains = {element: _chain(resolved, element) for element in resolved}
    words = _Told(resolved, assembly, mounts, plates)
    worst: dict[tuple[str, str], _Pair] = {}

    def near(a: str, b: str) -> float:
        return NEAR if a != b and _neighbours(resolved, mounts, a, b) else 0.0

    for pair in _pairs(plates, frames, near):
        a, b = (assembly.nodes[plates.nodes[k]].element for k in (pair.a, pair.b))
        key = (a, b) if a <= b else (b, a)
        if key not in worst or pair.apart < worst[key].apart:
            worst[key] = pair
    found = []
    for (a, b), pair in worst.items():
        up_a, up_b = chains[a], chains[b]
        shared = next(e for e in up_a if e in up_b)
        path = {*up_a[: up_a.index(shared)], *up_b[: up_b.index(shared)]} or {a}
        gives = sum(_gives(plates, k, frames, pair.way) for k in (pair.a, pair.b))
        if pair.apart < 0:
            if path & clashing or shared in hung:
                continue
            apart, way = pair.apart - gives, pair.way
            if shared not in (a, b):
                sides = [mounts[r.host, r.place.face] for r in (resolved[e] for e in (a, b))]
                ends = [assembly.nodes[plates.nodes[k]].element for k in (pair.a, pair.b)]
                apart, way = _parting(plates, frames, sides, ends[0], ends[1])
            found.append(words.gap(pair, min(apart, pair.apart - gives), way))
        elif pair.apart - gives > TOUCHING:
            found.append(words.gap(pair, pair.apart - gives, pair.way))
    return tuple(found)
