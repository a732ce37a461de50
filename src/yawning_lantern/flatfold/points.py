"""Points inside a sheet where scores meet: whether the paper around them can fold flat."""

from __future__ import annotations

import math

from msgspec import Struct

from yawning_lantern.flatfold.sheet import Sheet
from yawning_lantern.flatfold.state import Folded, turned
from yawning_lantern.pattern import Point

_CLOSE = 1e-3  # mm: corners nearer than this are one
_STRAIGHT = 1e-6  # radians: what angles about a point may miss by rounding


class InnerPoint(Struct, frozen=True):
    """A point with paper all around it. `hinges` by index, turning to the left; `angles` between them and the next,
    radians. `off` is how far the sum of every second angle is from half a turn; 0 where it folds flat (Kawasaki 1989,
    Justin 1986). `frees` is the hinge to slit, from the point outward, where it does not."""

    at: Point
    hinges: tuple[int, ...]
    angles: tuple[float, ...]
    off: float
    frees: int | None


def inner_points(sheet: Sheet) -> tuple[InnerPoint, ...]:
    """Every inner point at which scores meet."""
    spokes: dict[tuple[int, int], list[tuple[float, int]]] = {}
    places: dict[tuple[int, int], Point] = {}
    for k, hinge in enumerate(sheet.hinges):
        for here, there in ((hinge.start, hinge.end), (hinge.end, hinge.start)):
            key = round(here[0] / _CLOSE), round(here[1] / _CLOSE)
            places[key] = here
            spokes.setdefault(key, []).append((math.atan2(there[1] - here[1], there[0] - here[0]), k))
    points = []
    for key, around in spokes.items():
        here = places[key]
        around.sort()
        angles = [
            (around[(k + 1) % len(around)][0] - a) % (2 * math.pi) or 2 * math.pi for k, (a, _) in enumerate(around)
        ]
        if not _whole(sheet, here, len(around)):
            continue
        scored = [k for k, (_, h) in enumerate(around) if sheet.hinges[h].scored]
        if not scored:
            continue
        hinges = tuple(h for _, h in around)
        off, frees = _flat(sheet, hinges, angles)
        points.append(InnerPoint(here, hinges, tuple(angles), off, frees))
    return tuple(points)


def _whole(sheet: Sheet, here: Point, spokes: int) -> bool:
    """Whether paper goes all around a point: as many facets have a corner there as hinges, or an edge runs past."""
    total = 0.0
    for facet in sheet.facets:
        n = len(facet.outline)
        for k, p in enumerate(facet.outline):
            if math.dist(p, here) < _CLOSE:
                a, b = facet.outline[k - 1], facet.outline[(k + 1) % n]
                one = math.atan2(a[1] - p[1], a[0] - p[0])
                two = math.atan2(b[1] - p[1], b[0] - p[0])
                total += (one - two) % (2 * math.pi)
    corners = sum(1 for f in sheet.facets for p in f.outline if math.dist(p, here) < _CLOSE)
    return abs(total - 2 * math.pi) < 1e-3 and corners == spokes


def _flat(sheet: Sheet, hinges: tuple[int, ...], angles: list[float]) -> tuple[float, int | None]:
    """How far a point is from folding flat along all its scores, and which slit frees it."""
    order = [k for k, h in enumerate(hinges) if sheet.hinges[h].scored]
    kept: list[float] = []  # angles between scored spokes; what is not scored is passed over
    for n, begin in enumerate(order):
        end = order[(n + 1) % len(order)]
        count = (end - begin) % len(hinges) or len(hinges)
        kept.append(sum(angles[(begin + k) % len(hinges)] for k in range(count)))
    if len(kept) % 2:
        return math.pi, hinges[order[0]]
    off = abs(sum(kept[::2]) - math.pi)
    if off < _STRAIGHT:
        return 0.0, None
    return off, hinges[order[0]]


def mountains(state: Folded, hinge: int) -> int:
    """+1 for a shut hinge whose fronts meet (a valley), −1 where its backs do (a mountain), 0 while it is open."""
    if hinge not in state.shut:
        return 0
    h = state.sheet.hinges[hinge]
    over = state.over(h.a, h.b)
    return -over if turned(state.isos[h.a]) else over
