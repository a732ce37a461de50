"""What of every sheet cannot be in one place with another: a prism that lies a little inside the sheet.

Sheets that only lie on one another, and folds, must give no alarm: a prism is thinner than its sheet on both faces, and
its outline lies inside the panel's by what a cut edge rounds off, further in along creases, where the fold's own bend
is, and beside a corner where three panels of one sheet meet, since there each runs into the thickness of the next. What
is left over touches only where sheets would have to be in one place."""

from __future__ import annotations

import math
from collections import OrderedDict
from collections.abc import Sequence
from dataclasses import dataclass

from yawning_lantern.assembly import Assembly, Node, Vec
from yawning_lantern.pattern import Panel, Piece, Point, bounds
from yawning_lantern.pattern.build import lies_on
from yawning_lantern.pattern.convex import half

GIVE = 0.07
"""What a sheet gives on each face at most, mm; a thin one gives a quarter of itself."""
EDGE = 0.04
"""What an outline lies inside the panel's at the least, mm."""
ROUND = 0.14
"""What a cut edge rounds off at most, mm; a thin sheet half of itself."""
SMALL = 0.6
"""A prism narrower than this is left out, mm."""
_SAME = 1e-4


@dataclass(frozen=True, slots=True)
class Margin:
    """What is added to every sheet: to its outline (mm in all, half on each side) and to its caliper (a share)."""

    outline: float = 0.0
    caliper: float = 0.0


NO_MARGIN = Margin()


@dataclass(frozen=True, slots=True)
class Solid:
    """What stands on a panel, such as the contents of a box: its outline (counter-clockwise) and where it begins and
    ends along the panel's normal, in the piece's coordinates, mm."""

    node: int
    outline: tuple[Point, ...]
    low: float
    high: float


def give(caliper: float) -> float:
    """What a sheet gives on each face, mm."""
    return min(caliper / 4, GIVE)


def _meet(p: Point, q: Point) -> bool:
    return abs(p[0] - q[0]) < _SAME and abs(p[1] - q[1]) < _SAME


def _corners_of_three(panel: Panel, piece: Piece) -> list[Point]:
    """Corners of a panel where two more panels of its piece meet, one of them not hinged on it: a box's corners."""
    own = {c.b if c.a == panel.name else c.a for c in piece.creases if panel.name in (c.a, c.b)}
    found = []
    for p in panel.outline:
        beside = [o.name for o in piece.panels if o.name != panel.name and any(_meet(p, q) for q in o.outline)]
        if len(beside) > 1 and any(name not in own for name in beside):
            found.append(p)
    return found


def inset(panel: Panel, piece: Piece, grown: float = 0.0) -> list[Point]:
    """The outline of what cannot be shared, mm; nothing where no such place is left.

    Free edges go out by half of what the panel is `grown`, mm.
    """
    t = piece.stock.caliper
    points = list(panel.outline)
    n = len(points)
    creased: dict[int, float] = {}
    for crease in piece.creases:
        if panel.name not in (crease.a, crease.b):
            continue
        for k in range(n):
            if lies_on((points[k], points[(k + 1) % n]), (crease.start, crease.end)):
                bend = (t + crease.wrap) / 2  # of this radius: flat, it takes a quarter of its circle from either panel
                creased[k] = min(t / 2 + bend, math.pi / 2 * bend) + crease.settle
    corners = _corners_of_three(panel, piece) if len(piece.panels) > 2 and t / 2 > ROUND else []
    lines = []
    for k in range(n):
        (x0, y0), (x1, y1) = points[k], points[(k + 1) % n]
        size = ((x1 - x0) ** 2 + (y1 - y0) ** 2) ** 0.5
        if size < 1e-9:
            continue
        nx, ny = -(y1 - y0) / size, (x1 - x0) / size  # inward, for a counter-clockwise outline
        at_corner = any(_meet(c, end) for c in corners for end in (points[k], points[(k + 1) % n]))
        free = (t / 2 if at_corner else min(t / 2, ROUND)) - grown / 2
        lines.append((nx, ny, nx * x0 + ny * y0 + EDGE + creased.get(k, free)))
    x0, y0, x1, y1 = bounds(points)
    shape = [(x0 - grown, y0 - grown), (x1 + grown, y0 - grown), (x1 + grown, y1 + grown), (x0 - grown, y1 + grown)]
    for nx, ny, d in lines:
        shape = half(shape, nx, ny, d)
    return shape


def prism(outline: Sequence[Point], low: float, high: float) -> list[Vec]:
    """Corners of an upright prism: those below, then those above, mm."""
    return [(x, y, low) for x, y in outline] + [(x, y, high) for x, y in outline]


_KEPT = 1024
_insets: OrderedDict[tuple[int, str, float], tuple[Piece, list[Point]]] = OrderedDict()


def _kept_inset(node: Node, grown: float) -> list[Point]:
    """`inset`, kept for the pieces seen last: an edit leaves most pieces of a design the very same."""
    key = (id(node.piece), node.panel.name, grown)
    known = _insets.get(key)
    if known is not None and known[0] is node.piece and node.panel in node.piece.panels:
        return known[1]
    shape = inset(node.panel, node.piece, grown)
    _insets[key] = (node.piece, shape)
    while len(_insets) > _KEPT:
        _insets.popitem(last=False)
    return shape


def sheet_prisms(node: Node, margin: Margin = NO_MARGIN) -> list[list[Vec]]:
    """The prisms of a node in its piece's frame, mm: one for a plane panel, none or some for one that bends."""
    t = node.piece.stock.caliper
    if node.shape is not None:
        more = margin.outline / 2
        found = []
        for outline, low, high in node.shape.bodies(node.place):
            x0, y0, x1, y1 = bounds(outline)
            size = max(x1 - x0, y1 - y0)
            grown = [(x * (1 + 2 * more / size), y * (1 + 2 * more / size)) for x, y in outline]
            found.append(prism(grown, low - t / 2 + give(t), high + t / 2 - give(t)))
        return found
    shape = [] if node.panel.soft else _kept_inset(node, margin.outline)
    if not shape:
        return []
    xs, ys = [p[0] for p in shape], [p[1] for p in shape]
    if min(max(xs) - min(xs), max(ys) - min(ys)) < SMALL:
        return []
    thick = t * (1 + margin.caliper) / 2 - give(t)
    return [prism(shape, -thick, thick)]


def nodes_with_prisms(assembly: Assembly, margin: Margin = NO_MARGIN) -> list[tuple[int, list[Vec]]]:
    """Every prism of every sheet, with the node it belongs to, in the order of the nodes."""
    return [(k, one) for k, node in enumerate(assembly.nodes) for one in sheet_prisms(node, margin)]
