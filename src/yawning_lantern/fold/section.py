"""The section through the folded thing: every sheet as a strip of its true thickness, for the cutaway."""

from __future__ import annotations

from collections.abc import Sequence

from msgspec import Struct

from yawning_lantern.assembly import Assembly
from yawning_lantern.fold.bsp import Facet

_PARALLEL = 1e-6  # sine: a sheet nearer than this to the plane is not cut by it
_GRAZING = 3.0  # a sheet that the plane grazes is drawn this many times as thick at most


class Cut(Struct, frozen=True):
    """One sheet where the plane cuts it: four corners (horizontal, up) in mm, and whose it is.

    The corners run front face start, front face end, back face end, back face start.
    """

    node: int
    corners: tuple[tuple[float, float], ...]


def cut_through(assembly: Assembly, found: Sequence[Facet], axis: int, at: float = 0.0) -> list[Cut]:
    """Cut everything by the upright plane where coordinate `axis` (0: x, 1: y) is `at` mm.

    The picture's horizontal is the other of x and y. Sheets that lie in the plane are left out.
    """
    across = 1 - axis
    nodes = assembly.nodes
    cuts: list[Cut] = []
    for facet in found:
        if abs(facet.box[axis] - at) > facet.box[axis + 3]:
            continue
        points, normal = facet.points, facet.normal
        tilt = (normal[across] ** 2 + normal[2] ** 2) ** 0.5
        if tilt < _PARALLEL:
            continue
        ends: list[tuple[float, float]] = []
        for k, p in enumerate(points):
            q = points[(k + 1) % len(points)]
            a, b = p[axis] - at, q[axis] - at
            if (a > 0) != (b > 0):
                s = a / (a - b)
                ends.append((p[across] + s * (q[across] - p[across]), p[2] + s * (q[2] - p[2])))
        if len(ends) < 2:
            continue
        half = nodes[facet.node].piece.stock.caliper / 2 * min(1 / tilt**2, _GRAZING)
        ox, oz = normal[across] * half, normal[2] * half
        (x0, z0), (x1, z1) = ends[0], ends[1]
        corners = (x0 + ox, z0 + oz), (x1 + ox, z1 + oz), (x1 - ox, z1 - oz), (x0 - ox, z0 - oz)
        cuts.append(Cut(facet.node, corners))
    return cuts
