"""What lies on a panel with rounded corners: whether its own corners lie within the arcs. Its sides have fits with
their host; those know of no corner."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence

from yawning_lantern.assembly import Assembly, Gap, Span, Term, uses
from yawning_lantern.assembly.joined import Frame
from yawning_lantern.fold import apply
from yawning_lantern.pattern import Point
from yawning_lantern.study.resolve import Resolved

SQUARE = math.sqrt(2) - 1
"""How much less of a square corner is left within an arc when its radius grows by one."""


def rounded_gaps(resolved: Mapping[str, Resolved], assembly: Assembly, frames: Sequence[Frame]) -> tuple[Gap, ...]:
    """A gap for everything that is glued on a panel with rounded corners: how far its root panel's corners lie within
    the panel's outline in the shut pose, mm; outside it, less than nothing."""
    gaps = []
    for element, r in resolved.items():
        if not r.host or r.need.relation != "onto":
            continue
        room = resolved[r.host].rooms[r.place.face]
        if room.corner is None:
            continue
        mount = next(m for m in resolved[r.host].part.mounts if m.id == r.place.face)
        host = assembly.index(r.host, mount.instance, mount.panel)
        first = r.part.instances[0]
        own = assembly.index(element, first.id, first.root.panel)
        spots = [_on(frames[host], apply(frames[own], *p)) for p in assembly.nodes[own].panel.outline]
        left = _within(assembly.nodes[host].panel.outline, spots)
        names = (f"{r.final.name}, corners", f"{resolved[r.host].final.name}, {mount.label}")
        corner = Span(tuple(term.times(-SQUARE) for term in room.corner.terms))
        gaps.append(
            Gap(uses.CORNERS, element, element, names, corner.plus(Term("border, on the slant", left - corner.value)))
        )
    return tuple(gaps)


def _on(frame: Frame, place: Sequence[float]) -> Point:
    """A place in the world in a panel's own coordinates, mm."""
    way = [x - o for x, o in zip(place, frame[9:], strict=True)]
    across, up = (sum(a * b for a, b in zip(way, frame[k : k + 3], strict=True)) for k in (0, 3))
    return across, up


def _within(ring: Sequence[Point], spots: Sequence[Point]) -> float:
    """How far the outermost of some places lies within a convex outline, counter-clockwise, mm. In plain numbers: a
    dozen of them need no arrays."""
    return min(
        ((bx - ax) * (y - ay) - (by - ay) * (x - ax)) / math.dist((ax, ay), (bx, by))
        for (ax, ay), (bx, by) in zip(ring, (*ring[1:], ring[0]), strict=True) if math.dist((ax, ay), (bx, by)) > 1e-9
        for x, y in spots
    )  # fmt: skip
