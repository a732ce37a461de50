"""What lies on a panel with rounded corners: whether its own corners lie within the arcs. Its sides have fits with
their host; those know of no corner."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from yawning_lantern.assembly import Assembly, Gap, Span, Term, uses
from yawning_lantern.assembly.joined import Frame
from yawning_lantern.fold.frames import apply, inverse, then
from yawning_lantern.pattern.convex import margin
from yawning_lantern.pattern.rounding import SQUARE
from yawning_lantern.study.resolve import Resolved


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
        lies = then(inverse(frames[host]), frames[own])
        spots = [apply(lies, *p)[:2] for p in assembly.nodes[own].panel.outline]
        left = margin(assembly.nodes[host].panel.outline, spots)
        names = (f"{r.final.name}, corners", f"{resolved[r.host].final.name}, {mount.label}")
        corner = Span(tuple(term.times(-SQUARE) for term in room.corner.terms))
        gaps.append(
            Gap(uses.CORNERS, element, element, names, corner.plus(Term("border, on the slant", left - corner.value)))
        )
    return tuple(gaps)
