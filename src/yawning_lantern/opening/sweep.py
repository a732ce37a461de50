"""One motion swept from shut to open, everything else as it is then: the first contact, or none.

Poses are taken so close that nothing moves by more than a few millimetres between two; where two sheets are nearer than
they move towards one another in such a step, the step is halved until it is finer than a sheet. So nothing tunnels.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from types import MappingProxyType
from typing import Any

from yawning_lantern.assembly import Assembly
from yawning_lantern.assembly.joined import Frame
from yawning_lantern.fold import State, pose
from yawning_lantern.opening.plates import Contact, Plates

STEP = 5.0
"""How far a corner may move between two poses, mm."""
FINEST = 0.1
"""How fine a step is halved, mm: less than the thinnest sheet that is used."""
FEWEST, MOST = 6, 90
_DEPTHS = 8
_SHORTEST = 1e-5  # of a motion


def progress_of(count: int, done: Mapping[int, float], motion: int, share: float) -> tuple[float, ...]:
    """Progress of every motion: those done have come as far as they rest, one is under way."""
    return tuple(share if k == motion else done.get(k, 0.0) for k in range(count))


class _Swept:
    """The poses of one motion, each made once."""

    def __init__(self, plates: Plates, motion: int, done: Mapping[int, float]) -> None:
        self.plates, self.motion, self.done = plates, motion, done
        self._made: dict[float, tuple[Any, Any, Any]] = {}

    def at(self, share: float) -> tuple[Any, Any, Any]:
        key = round(share, 9)
        if key not in self._made:
            assembly = self.plates.assembly
            state = State(1.0, progress_of(len(assembly.motions), self.done, self.motion, share))
            self._made[key] = self.plates.placed(pose(assembly, state))
        return self._made[key]


def _groups(plates: Plates, swept: _Swept) -> Any:
    """Which plates move as one: pairs of different groups may meet, (n, n)."""
    np = plates.np
    turn0, origin0, _ = swept.at(0.0)
    keys = []
    for share in (0.37, 1.0):
        turn, origin, _ = swept.at(share)
        rotation = np.einsum("nij,nkj->nik", turn, turn0)
        shift = origin - np.einsum("nij,nj->ni", rotation, origin0)
        keys.append(np.concatenate([rotation.reshape(-1, 9), shift / 100.0], axis=1))
    key = np.round(np.concatenate(keys, axis=1), 4)
    _, group = np.unique(key, axis=0, return_inverse=True)
    group = group.reshape(-1)
    return (group[:, None] != group[None]) & ~plates.joined


def sweep(
    plates: Plates, motion: int, done: Mapping[int, float] = MappingProxyType({}), cancelled: Callable[[], bool] = lambda: False
) -> Contact | None:
    """The first contact of a motion (by its index) when the motions in `done` have come as far as told there (0 to 1) and the others are shut.

    Sheets that are in one place already when it begins are told as a contact at 0 only if the motion drives them
    further in. None where it is clear, or where it was cancelled.
    """
    np = plates.np
    if not plates.nodes:
        return None
    swept = _Swept(plates, motion, done)
    allowed = _groups(plates, swept)
    if not allowed.any():
        return None
    # how far anything moves, from three stations on the way
    stations = [swept.at(s)[2] for s in (0.0, 0.33, 0.67, 1.0)]
    travel = sum(float(np.linalg.norm(b - a, axis=2).max()) for a, b in zip(stations, stations[1:], strict=False))
    steps = max(FEWEST, min(MOST, math.ceil(travel / STEP)))
    before = 0.0
    begun = {(int(i), int(j)) for i, j in _pairs(plates, swept.at(0.0), allowed) if plates.touch(i, j, swept.at(0.0))}
    for k in range(1, steps + 1):
        if cancelled():
            return None
        share = k / steps
        found = _between(plates, swept, allowed, before, share, begun)
        if found is not None:
            i, j, at = found
            depth = _depth(plates, swept, i, j, at)
            return Contact(plates.nodes[i], plates.nodes[j], at, depth)
        before = share
    return None


def _pairs(plates: Plates, placed: tuple[Any, Any, Any], allowed: Any) -> Any:
    corners = placed[2]
    return plates.near((corners.min(axis=1), corners.max(axis=1)), allowed)


def _between(
    plates: Plates, swept: _Swept, allowed: Any, lo: float, hi: float, begun: set[tuple[int, int]]
) -> tuple[int, int, float] | None:
    """The first pair that meets between two poses, and when; pairs in `begun` touched from the start and may part."""
    np = plates.np
    a, b = swept.at(lo), swept.at(hi)
    least = np.minimum(a[2].min(axis=1), b[2].min(axis=1))
    most = np.maximum(a[2].max(axis=1), b[2].max(axis=1))
    best: tuple[int, int, float] | None = None
    for i, j in plates.near((least, most), allowed):
        pair = (int(i), int(j))
        if pair in begun:
            if not plates.touch(i, j, b):
                begun.discard(pair)
            continue
        limit = best[2] if best is not None else hi
        at = _first(plates, swept, pair, lo, min(hi, limit))
        if at is not None and (best is None or at < best[2]):
            best = (*pair, at)
    return best


def _first(plates: Plates, swept: _Swept, pair: tuple[int, int], lo: float, hi: float) -> float | None:
    """When two plates that are apart at `lo` first meet up to `hi`, by halving; None if they do not."""
    np = plates.np
    i, j = pair
    a, b = swept.at(lo), swept.at(hi)
    moved = (b[2][i] - a[2][i]), (b[2][j] - a[2][j])
    if plates.touch(i, j, a):
        return lo
    touching = plates.touch(i, j, b)
    whole = max(float(np.linalg.norm(m, axis=1).max()) for m in moved)
    if not touching:
        gap_a, way_a = plates.apart(i, j, a)
        if gap_a > 2 * whole:
            return None
        gap_b, way_b = plates.apart(i, j, b)
        # how much nearer they can have come: what moves along the line between them
        nearer = 0.0
        for way in (way_a, way_b):
            along = (moved[0] @ way).max() - (moved[1] @ way).min()
            nearer = max(nearer, float(along))
        if gap_a + gap_b > nearer * 1.05 + 1e-9 or whole < FINEST:
            return None
    elif whole < FINEST or hi - lo < _SHORTEST:
        return hi
    if hi - lo < _SHORTEST:
        return None
    middle = (lo + hi) / 2
    early = _first(plates, swept, pair, lo, middle)
    if early is not None:
        return early
    if plates.touch(i, j, swept.at(middle)):
        return middle
    return _first(plates, swept, pair, middle, hi)


def _depth(plates: Plates, swept: _Swept, i: int, j: int, at: float) -> float:
    """How far the two go on through one another after they met, at most, mm: what their corners move meanwhile."""
    np = plates.np
    start = swept.at(at)[2]
    deepest = 0.0
    for k in range(1, _DEPTHS + 1):
        share = at + (1.0 - at) * (k / _DEPTHS) ** 2
        now = swept.at(share)
        if not plates.touch(i, j, now):
            break
        moved = (now[2][i] - start[i]) - (now[2][j] - start[j]).mean(axis=0)
        deepest = max(deepest, float(np.linalg.norm(moved, axis=1).max()))
    return deepest


def swept_frames(assembly: Assembly, motion: int, done: Mapping[int, float], share: float) -> list[Frame]:
    """The frames of every node with a motion under way, mm."""
    return pose(assembly, State(1.0, progress_of(len(assembly.motions), done, motion, share)))
