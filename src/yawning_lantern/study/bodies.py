"""What the maker said stands on floors, as bodies."""

from __future__ import annotations

from collections.abc import Mapping

from yawning_lantern.assembly import Assembly
from yawning_lantern.opening import Solid
from yawning_lantern.study.resolve import Resolved

GIVES = 0.3
"""What contents give on every side, mm."""


def solids(resolved: Mapping[str, Resolved], assembly: Assembly) -> tuple[Solid, ...]:
    """What the maker said stands on floors, as boxes that give a little."""
    solids = []
    taken = {(r.host, r.place.face) for r in resolved.values() if r.host}
    for element, r in resolved.items():
        if r.part.contents is None:
            continue
        wide, deep, high = (max(size - 2 * GIVES, GIVES) for size in r.part.contents)
        for mount in r.part.mounts:
            if not mount.holds or (element, mount.id) in taken:
                continue
            (x, y), (ux, uy) = mount.origin, mount.up
            across, along = (wide / 2 * uy, -wide / 2 * ux), (deep / 2 * ux, deep / 2 * uy)
            outline = tuple(
                (x + a * across[0] + b * along[0], y + a * across[1] + b * along[1])
                for a, b in ((-1, -1), (1, -1), (1, 1), (-1, 1))
            )
            begin = mount.side * (mount.standoff + GIVES)
            end = mount.side * (mount.standoff + GIVES + high)
            node = assembly.index(element, mount.instance, mount.panel)
            solids.append(Solid(node, outline, min(begin, end), max(begin, end)))
    return tuple(solids)
