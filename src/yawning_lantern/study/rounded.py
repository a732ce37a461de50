"""What lies on a panel with rounded corners: whether its own corners lie within the arcs. Its sides have fits with
their host; those know of no corner."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence

from yawning_lantern.arrays import Floats, np
from yawning_lantern.assembly import Assembly, Gap, Span, Term, uses
from yawning_lantern.assembly.joined import Frame
from yawning_lantern.fold import apply
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
        frame = np.array(frames[host])
        spots = np.array([apply(frames[own], *p) for p in assembly.nodes[own].panel.outline]) - frame[9:]
        left = _within(np.array(assembly.nodes[host].panel.outline), spots @ frame[:6].reshape(2, 3).T)
        names = (f"{r.final.name}, corners", f"{resolved[r.host].final.name}, {mount.label}")
        corner = Span(tuple(term.times(-SQUARE) for term in room.corner.terms))
        gaps.append(
            Gap(uses.CORNERS, element, element, names, corner.plus(Term("border, on the slant", left - corner.value)))
        )
    return tuple(gaps)


def _within(ring: Floats, spots: Floats) -> float:
    """How far the outermost of some places (n, 2) lies within a convex outline (m, 2), counter-clockwise, mm."""
    along = np.roll(ring, -1, axis=0) - ring
    size = np.hypot(along[:, 0], along[:, 1])
    keep = size > 1e-9
    inwards = np.stack([-along[:, 1], along[:, 0]], axis=1)[keep] / size[keep, None]
    return float(((spots[:, None] - ring[keep][None]) * inwards[None]).sum(axis=2).min())
