"""One motion swept from shut to open, everything else as it is then: what it meets, and what comes to rest on the way.

Poses are taken close together. Between two of them a pair of sheets is clear where one direction parts them in both:
the corners go straight from one to the other but for the bend of their path, which is told from three poses and left
as a margin. Where no direction does, the stretch is cut in eight, down to less than a sheet's thickness. So nothing
tunnels. Directions are those of the separating axis theorem (Gottschalk, Lin and Manocha 1996, from memory); cutting
where nothing parts is conservative advancement (Mirtich 1996, from memory) with many pairs at once instead of one."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator, Sequence

from msgspec import Struct

from yawning_lantern.arrays import Floats, Ranks, Truths, np
from yawning_lantern.assembly import CreaseStep
from yawning_lantern.opening.plates import Contact, Plates
from yawning_lantern.opening.stations import Standing, Stations, turns_of

STEP = 6.0
"""How far a corner may move between two poses, mm."""
FINEST = 0.06
"""How fine a stretch is cut, mm: less than the thinnest sheet that is used."""
FEWEST, MOST = 6, 80  # stations of a motion at which all is looked at, at least and at most
_SHORTEST = 2e-5  # of a motion: a shorter stretch is cut no further
_DEPTHS = 24  # stations at which it is asked how deep two plates get
_SCRAPED = 60  # stations over which two plates' scraping is followed
GRAZE = 0.1
"""Sheets that never get further into one another than this, mm, only graze: paper gives as much."""
_RESTS_FROM = 0.5  # of a swing: from there on a panel may come to rest
_DOWN = 0.7
"""A panel rests where it comes down on something: this much of its way (the cosine to straight down) must be
downwards."""
_PARTS = 8
"""Into how many a stretch is cut where no direction parts two sheets."""
_CHUNK = 4000  # pairs tested at once
SCRAPE = 3.0
"""Two sheets that graze may go on doing so over this way along one another, mm; what goes on longer goes through."""
_ARRIVED = math.radians(6.0)
"""A turn by half that is stopped this near to its end has arrived: it lies on what it lies on."""
_HALF_TURN = math.radians(150.0)  # radians: a turn of more is one by half
_DEEPER = 0.3
"""How much further in, mm, two sheets that touch from the start may go before that is a contact."""


class Swept(Struct, frozen=True):
    """What a motion met: the contact that stops it, or None; creases that came to rest (node and share), and on
    what."""

    contact: Contact | None
    rests: tuple[tuple[int, float], ...] = ()
    resting: tuple[Contact, ...] = ()


class CancelledError(Exception):
    """A sweep was not wanted any more."""


class _Way:
    """The plates along a motion from a share on."""

    def __init__(self, plates: Plates, stations: Stations, begin: float) -> None:
        self.plates, self.stations = plates, stations
        few = self.corners([begin + (1.0 - begin) * k / 4 for k in range(5)])
        travel = float(np.linalg.norm(np.diff(few, axis=0), axis=-1).max(axis=(1, 2)).sum()) if few.size else 0.0
        steps = max(FEWEST, min(MOST, math.ceil(travel / STEP)))
        self.shares = [begin + (1.0 - begin) * k / steps for k in range(steps + 1)]
        self.turns, self.origins = stations.at(self.shares)
        self.at = plates.corners(self.turns, self.origins)
        self.ways = plates.ways(self.turns)
        self.bend = _bends(plates, self.at, plates.small)

    def corners(self, shares: Sequence[float]) -> Floats:
        """Corners (s, n, k, 3) at shares, mm."""
        return self.plates.corners(*self.stations.at(shares))

    def between(self, lo: float, hi: float, ranks: Ranks) -> tuple[list[float], Floats, Floats, Floats, Floats]:
        """Shares, rotations and origins (told for some ranks), corners and ways (of those) of a stretch cut up."""
        shares = [lo + (hi - lo) * k / _PARTS for k in range(_PARTS + 1)]
        turns, origins = self.stations.at(shares, ranks.tolist())
        some, there = turns[:, ranks], origins[:, ranks]
        return shares, turns, origins, self.plates.corners(some, there, ranks), self.plates.ways(some, ranks)


def _bends(plates: Plates, corners: Floats, small: Truths) -> Floats:
    """How far corners (s, n, k, 3) leave the straight way in each stretch between stations, (s − 1, n), mm: an eighth
    of the second difference, as told from the stations on either side, and a third more."""
    bend = np.zeros((len(corners) - 2, corners.shape[1]))
    for those, own in plates.unpadded(corners, small):
        second = own[2:] - 2 * own[1:-1] + own[:-2]
        bend[:, those] = np.sqrt((second**2).sum(axis=-1).max(axis=-1)) / 6
    bends = np.zeros((len(corners) - 1, corners.shape[1]))
    bends[:-1] = bend
    bends[1:] = np.maximum(bends[1:], bend)
    return bends


def parted(axes: Floats, ends: Sequence[Floats], slack: Floats) -> Truths:
    """Whether one of the axes (m, x, 3) parts the corners of a from those of b in both poses by more than `slack` (m,)
    mm; then it does so all the way between, as corners go straight: (m,). `ends` are the corners (m, k, 3) of a in one
    pose and the other, then those of b."""
    turned = axes.swapaxes(1, 2)
    pa0, pa1, pb0, pb1 = (corners @ turned for corners in ends)
    left = np.minimum(pb0.min(1) - pa0.max(1), pb1.min(1) - pa1.max(1))
    right = np.minimum(pa0.min(1) - pb0.max(1), pa1.min(1) - pb1.max(1))
    clear: Truths = (np.maximum(left, right) > slack[:, None]).any(1)
    return clear


def _aside(stations: Stations, nodes: Sequence[int]) -> list[int]:
    """A number for each node by what it was lifted off with: what was lifted off is put aside, in nobody's way."""
    assembly, standing = stations.assembly, stations.standing
    lifted = {m for m in standing.opened if assembly.motions[m].kind == "lift" and m != stations.motion}
    aside: list[int] = []
    for k, node in enumerate(assembly.nodes):
        own = [m for m in turns_of(assembly, k) if m in lifted] if lifted else []
        aside.append(own[0] if own else (aside[node.parent] if node.parent >= 0 else -1))
    return [aside[k] for k in nodes]


class _Sweep:
    """The search for the first contact of one way."""

    def __init__(
        self, plates: Plates, way: _Way, grazing: set[tuple[int, int]], cancelled: Callable[[], bool],
        only: Truths | None = None,
    ) -> None:  # fmt: skip
        self.plates, self.way, self.cancelled = plates, way, cancelled
        mover = np.array([way.stations.mover[k] for k in plates.nodes])
        self.allowed = np.triu((mover[:, None] != mover[None]) & ~plates.joined, 1)
        aside = np.array(_aside(way.stations, plates.nodes))
        self.allowed &= aside[:, None] == aside[None]
        for pair in grazing:
            self.allowed[pair] = False
        if only is not None:
            self.allowed &= only[:, None] | only[None]

    def suspects(self) -> tuple[Ranks, Ranks, Ranks]:
        """Stretches and pairs that no direction of their own parts all the way: three arrays (m,), by stretch."""
        way = self.way
        low, high = (np.zeros((*way.at.shape[:2], 3)) for _ in range(2))
        for those, own in self.plates.unpadded(way.at, self.plates.small):
            low[:, those], high[:, those] = own.min(axis=2), own.max(axis=2)
        low, high = np.minimum(low[1:], low[:-1]), np.maximum(high[1:], high[:-1])
        suspects: list[tuple[Ranks, Ranks, Ranks]] = []
        ii, jj = np.nonzero(self.allowed)
        for k in range(len(low)):
            lo, hi = low[k] - way.bend[k][:, None], high[k] + way.bend[k][:, None]
            meet = (lo[ii] <= hi[jj]).all(-1) & (lo[jj] <= hi[ii]).all(-1)
            i, j = ii[meet], jj[meet]
            for first in range(0, len(i), _CHUNK):
                part = slice(first, first + _CHUNK)
                p, q = i[part], j[part]
                slack = way.bend[k][p] + way.bend[k][q] + 1e-6
                left = self.unparted(way.ways[k : k + 2], way.at[k : k + 2], p, q, slack, self.plates.small)
                suspects.append((np.full(int(left.sum()), k), p[left], q[left]))
            if self.cancelled():
                raise CancelledError
        if not suspects:
            return np.zeros(0, int), np.zeros(0, int), np.zeros(0, int)
        a, b, c = (np.concatenate([f[n] for f in suspects]) for n in range(3))
        return a, b, c

    def unparted(self, ways: Floats, corners: Floats, i: Ranks, j: Ranks, slack: Floats, small: Truths) -> Truths:
        """Which of the pairs no direction of their own parts over a stretch, (m,): normals first, then the squares of
        the edges. `ways` and `corners` (2, n, …) are those at its ends; pairs that are both `small` are asked together,
        with few corners."""
        left = np.zeros(len(i), dtype=bool)
        both = small[i] & small[j]
        for those, columns in ((both, self.plates.columns), (~both, np.arange(corners.shape[2]))):
            if not those.any():
                continue
            p, q, room = i[those], j[those], slack[those]
            ends = [at[r[:, None], columns] for r in (p, q) for at in corners]
            directions = ways[:, :, : len(columns) // 2 + 1]
            normals = np.stack([at[r, 0] for at in directions for r in (p, q)], axis=1)
            near = ~parted(normals, ends, room)
            if near.any():
                edges = np.concatenate([directions[0, r[near], 1:] for r in (p, q)], axis=1)
                near[near] = ~parted(edges, [end[near] for end in ends], room[near])
            left[those] = near
        return left

    def _in_parts(self, ways: Floats, corners: Floats, i: Ranks, j: Ranks, slacks: Floats, small: Truths) -> Truths:
        """Which of the pairs (m,) are not parted in each part of a stretch, (parts, m): all parts asked at once."""
        parts, n = len(slacks), corners.shape[1]

        def ends(of: Floats) -> Floats:
            return np.stack([of[:-1].reshape(-1, *of.shape[2:]), of[1:].reshape(-1, *of.shape[2:])])

        step = n * np.arange(parts)[:, None]
        left = self.unparted(
            ends(ways), ends(corners), (i + step).ravel(), (j + step).ravel(), slacks.ravel(), np.tile(small, parts)
        )
        return left.reshape(parts, -1)

    def first(self, lo: float, hi: float, pairs: list[tuple[int, int]]) -> tuple[float, int, int, Floats] | None:
        """The first pair that meets between two shares: the last share that is clear, the pair and the place, mm."""
        plates = self.plates
        if self.cancelled():
            raise CancelledError
        ranks, places = np.unique(np.array(pairs), return_inverse=True)
        i, j = places.reshape(-1, 2).T
        shares, turns, origins, corners, ways = self.way.between(lo, hi, ranks)
        bends = _bends(plates, corners, plates.small[ranks])
        moved = np.zeros((_PARTS, len(ranks)))
        for those, own in plates.unpadded(corners, plates.small[ranks]):
            moved[:, those] = np.sqrt((np.diff(own, axis=0) ** 2).sum(axis=-1).max(axis=-1))
        slacks = bends[:, i] + bends[:, j] + 1e-6
        unparted = self._in_parts(ways, corners, i, j, slacks, plates.small[ranks])
        for k in range(_PARTS):
            slack = slacks[k]
            left = []
            for n in np.nonzero(unparted[k])[0]:
                way = plates.way_apart(pairs[n][0], pairs[n][1], turns[k], origins[k])
                ends = [corners[k + e, r[n]][None] for r in (i, j) for e in (0, 1)]
                if way is None or not parted(way[None, None], ends, slack[n : n + 1])[0]:
                    left.append(n)
            if not left:
                continue
            fine = max(float(moved[k][p]) for n in left for p in (i[n], j[n])) < FINEST
            if fine or shares[k + 1] - shares[k] < _SHORTEST:
                for n in left:
                    p, q = pairs[n]
                    place = plates.touch(p, q, turns[k + 1], origins[k + 1])
                    if place is not None:
                        return shares[k], p, q, place
                continue
            found = self.first(shares[k], shares[k + 1], [pairs[n] for n in left])
            if found is not None:
                return found
        return None

    def run(self) -> tuple[float, int, int, Floats] | None:
        """The first contact of the way: the last share that is clear, the pair (by rank) and the place, mm."""
        plates, way = self.plates, self.way
        stretches, ii, jj = self.suspects()
        begun = {}
        turns, origins = way.turns[0], way.origins[0]
        for i, j in sorted({(int(i), int(j)) for k, i, j in zip(stretches, ii, jj, strict=True) if k == 0}):
            if plates.touch(i, j, turns, origins) is not None:
                begun[i, j] = plates.depth(i, j, way.at[0], way.ways[0])
        by_stretch: dict[int, list[tuple[int, int]]] = {}
        for k, i, j in zip(stretches, ii, jj, strict=True):
            by_stretch.setdefault(int(k), []).append((int(i), int(j)))
        for k in range(len(way.shares) - 1):
            pairs = by_stretch.get(k, [])
            for pair in list(begun):
                if pair not in pairs:
                    del begun[pair]  # they have parted
                    continue
                place = plates.touch(*pair, way.turns[k + 1], way.origins[k + 1])
                if place is None:
                    del begun[pair]
                    pairs = [p for p in pairs if p != pair]
                elif plates.depth(*pair, way.at[k + 1], way.ways[k + 1]) > begun[pair] + _DEEPER:
                    return way.shares[k], *pair, place
            pairs = [p for p in pairs if p not in begun]
            if pairs:
                found = self.first(way.shares[k], way.shares[k + 1], pairs)
                if found is not None:
                    return found
        return None


def near_pairs(plates: Plates, stations: Stations, step: float) -> Iterator[tuple[Ranks, Ranks, int, int]]:
    """Every pair whose boxes meet at stations of a whole motion that lie `step` mm apart, with rotations and origins
    there: what would have to be asked if each pair were tested by itself. For measurements."""
    ii, jj = np.nonzero(_Sweep(plates, _Way(plates, stations, 0.0), set(), lambda: False).allowed)
    few = plates.corners(*stations.at([k / 8 for k in range(9)]))
    travel = float(np.linalg.norm(np.diff(few, axis=0), axis=-1).max(axis=(1, 2)).sum())
    count = max(FEWEST, math.ceil(travel / step))
    for k in range(count + 1):
        turns, origins = stations.at([k / count])
        at = plates.corners(turns, origins)[0]
        low, high = at.min(axis=1), at.max(axis=1)
        meet = (low[ii] <= high[jj]).all(-1) & (low[jj] <= high[ii]).all(-1)
        yield from ((turns[0], origins[0], int(i), int(j)) for i, j in zip(ii[meet], jj[meet], strict=True))


def _near(plates: Plates, motion: int, standing: Standing, only: Truths) -> Ranks:
    """Bodies that a motion may bring near those asked for, and these: by boxes about five poses, larger by as much as a
    corner goes from one to the next (an arc of less than half a turn stays within its chord's length of it)."""
    stations = Stations(plates.assembly, plates.nodes, motion, standing)
    corners = plates.corners(*stations.at([k / 4 for k in range(5)]))
    gone = np.linalg.norm(np.diff(corners, axis=0), axis=-1).max(axis=(0, 2))
    low, high = corners.min(axis=(0, 2)) - gone[:, None], corners.max(axis=(0, 2)) + gone[:, None]
    mover = np.array([stations.mover[k] for k in plates.nodes])
    meet = (low[:, None] <= high[None, only]).all(-1) & (low[None, only] <= high[:, None]).all(-1)
    meet &= (mover[:, None] != mover[None, only]) & ~plates.joined[:, only]
    beside = meet.any(axis=1)
    own = np.zeros(len(plates.nodes), dtype=bool)
    own[np.nonzero(only)[0][meet.any(axis=0)]] = True
    ranks: Ranks = np.nonzero(beside | own)[0]
    return ranks


def _depth(plates: Plates, stations: Stations, i: int, j: int, at: float) -> tuple[float, float]:
    """How deep two plates get into one another, at the most, on the rest of the way, mm, and at which share."""
    shares = [at + (1.0 - at) * (k / _DEPTHS) ** 2 for k in range(1, _DEPTHS + 1)]
    pair = np.array([i, j])
    turns, origins = (told[:, pair] for told in stations.at(shares, (i, j)))
    corners, ways = plates.corners(turns, origins, pair), plates.ways(turns, pair)
    return max((plates.depth(0, 1, corners[k], ways[k]), shares[k]) for k in range(_DEPTHS))


def _scrapes(plates: Plates, stations: Stations, i: int, j: int, at: float, place: Floats) -> float:
    """How far two plates that touch at a place (mm) go along one another while they touch, mm."""
    shares = [at + (1.0 - at) * k / _SCRAPED for k in range(1, _SCRAPED + 1)]
    turns, origins = stations.at(shares, (i, j))
    gone, last = 0.0, place
    for k in range(_SCRAPED):
        here = plates.touch(i, j, turns[k], origins[k])
        if here is None:
            break
        # where the two places that touched before are now: how far they have gone from one another
        before = [turns[k - 1, p].T @ (last - origins[k - 1, p]) if k else None for p in (i, j)]
        if before[0] is not None:
            now = [turns[k, p] @ local + origins[k, p] for p, local in zip((i, j), before, strict=True)]
            gone += float(np.linalg.norm(now[0] - now[1]))
        last = here
    return gone


def _arrived(plates: Plates, stations: Stations, i: int, j: int, at: float) -> tuple[int, int, int] | None:
    """The node of a half turn that is as good as done where two plates meet, and the plates, the turned one first."""
    assembly, motion = stations.assembly, stations.motion
    for turned, other in ((i, j), (j, i)):
        node = stations.mover[plates.nodes[turned]]
        if node < 0 or (node, motion) in stations.standing.rests:
            continue
        step = assembly.nodes[node].step
        driven = any(ring.motion == motion and ring.element == assembly.nodes[node].element for ring in assembly.rings)
        if isinstance(step, CreaseStep) and not driven:
            turn = abs(sum(by for m, by in step.turns if m == motion))
            if turn >= _HALF_TURN and (1.0 - at) * turn <= _ARRIVED:
                return int(node), turned, other
    return None


def _rests(plates: Plates, stations: Stations, i: int, j: int, at: float, place: Floats) -> tuple[int, int, int] | None:
    """The node whose crease comes to rest because its panel comes down on the other, and the two plates, the falling
    one first; None where that is no rest."""
    assembly = stations.assembly
    if at < _RESTS_FROM or assembly.motions[stations.motion].kind != "swing" or place is None:
        return None
    back = max(0.0, at - 0.01)
    turns, origins = stations.at([back, at], (i, j))
    speed = []
    for p in (i, j):
        local = turns[1, p].T @ (place - origins[1, p])
        speed.append(place - (turns[0, p] @ local + origins[0, p]))
    for falling, lying, p, other in ((0, 1, i, j), (1, 0, j, i)):
        size = float(np.linalg.norm(speed[falling]))
        if size < 1e-9 or float(np.linalg.norm(speed[lying])) > 0.2 * size or -speed[falling][2] < _DOWN * size:
            continue
        node = stations.mover[plates.nodes[p]]
        step = assembly.nodes[node].step
        own = assembly.nodes[node].element
        driven = any(ring.motion == stations.motion and ring.element == own for ring in assembly.rings)
        held = (node, stations.motion) in stations.standing.rests
        if isinstance(step, CreaseStep) and not driven and not held:
            return int(node), p, other
    return None


def sweep(
    plates: Plates,
    motion: int,
    standing: Standing | None = None,
    cancelled: Callable[[], bool] = lambda: False,
    only: Truths | None = None,
) -> Swept:
    """A motion (by its index) from shut to open, the others as they stand.

    A panel that comes down on what lies there rests, and the others go on. Sheets that are in one place already when it
    begins are told only if they are driven further in. With `only` (n,) no pair is asked but those with one of these
    bodies.

    Raises:
        CancelledError: `cancelled` said so.
    """
    standing = standing or Standing()
    rests: dict[int, float] = {}
    resting: list[Contact] = []
    grazing: set[tuple[int, int]] = set()
    begin = 0.0
    if only is None:  # what stays meets nothing new
        moved = moves(plates, motion)
        only = np.array([node in moved for node in plates.nodes], dtype=bool)
    near = _near(plates, motion, standing, only)
    plates, only = plates.some(near), only[near]
    if not plates.nodes:
        return Swept(None)
    while True:
        held = Standing(standing.opened, {**standing.rests, **{(n, motion): s for n, s in rests.items()}})
        stations = Stations(plates.assembly, plates.nodes, motion, held)
        found = _Sweep(plates, _Way(plates, stations, begin), grazing, cancelled, only).run()
        if found is None:
            return Swept(None, tuple(rests.items()), tuple(resting))
        at, i, j, place = found
        deep, worst = _depth(plates, stations, i, j, at)
        if deep < GRAZE and (place is None or _scrapes(plates, stations, i, j, at, place) < SCRAPE):
            grazing.add((i, j))
            begin = at
            continue
        rest = _rests(plates, stations, i, j, at, place) or _arrived(plates, stations, i, j, at)
        if rest is None:
            met = plates.contact(i, j, at, deep, worst=worst)
            return Swept(met, tuple(rests.items()), tuple(resting))
        node, falling, lying = rest
        met = plates.contact(falling, lying, at, deep, True)
        rests[node] = at
        resting.append(met)
        begin = at


def moves(plates: Plates, motion: int) -> frozenset[int]:
    """The nodes that a motion moves."""
    nodes = plates.assembly.nodes
    moved: set[int] = set()
    for k, node in enumerate(nodes):
        if node.parent in moved or motion in turns_of(plates.assembly, k):
            moved.add(k)
    return frozenset(moved)
