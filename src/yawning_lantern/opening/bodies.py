"""What of every sheet cannot be in one place with another: a prism that lies a little inside the sheet.

Sheets that only lie on one another, and folds, must give no alarm: a prism is thinner than its sheet on both faces, and
its outline lies inside the panel's by what a cut edge rounds off, further in along creases, where the fold's own bend
is, and beside a corner where three panels of one sheet meet, since there each runs into the thickness of the next. What
is left over touches only where sheets would have to be in one place."""

from __future__ import annotations

import math
from collections import OrderedDict
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from yawning_lantern.assembly import Assembly, CreaseStep, Node, Vec
from yawning_lantern.pattern import Crease, Panel, Piece, Point, bounds
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
_SAME = 1e-4  # mm
_FLAT = 1e-6  # radians
_CELL = 1.0  # mm: larger than that, so that one place lies in a cell or in one beside it


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


class _Meeting:
    """Which panels of a piece have a corner in which place: points nearer than `_SAME` are one place."""

    def __init__(self, piece: Piece) -> None:
        self._at: dict[tuple[int, int], list[tuple[Point, str]]] = {}
        for panel in piece.panels:
            for p in panel.outline:
                self._at.setdefault(self._cell(p), []).append((p, panel.name))

    @staticmethod
    def _cell(p: Point) -> tuple[int, int]:
        return math.floor(p[0] / _CELL), math.floor(p[1] / _CELL)

    def here(self, p: Point) -> set[str]:
        """The panels that have a corner at a point."""
        i, j = self._cell(p)
        names = set()
        for cell in ((i + a, j + b) for a in (-1, 0, 1) for b in (-1, 0, 1)):
            for q, name in self._at.get(cell, ()):
                if abs(p[0] - q[0]) < _SAME and abs(p[1] - q[1]) < _SAME:
                    names.add(name)
        return names


def insets(piece: Piece, grown: float = 0.0) -> dict[str, list[Point]]:
    """For each panel of a piece the outline of what cannot be shared, mm; nothing where no such place is left.

    Free edges go out by half of what a panel is `grown`, mm.
    """
    t = piece.stock.caliper
    hinged: dict[str, list[Crease]] = {panel.name: [] for panel in piece.panels}
    for crease in piece.creases:
        hinged[crease.a].append(crease)
        hinged[crease.b].append(crease)
    meeting = _Meeting(piece) if len(piece.panels) > 2 and t / 2 > ROUND else None
    return {panel.name: _inset(panel, t, hinged[panel.name], meeting, grown) for panel in piece.panels}


def _is_box_corner(panel: Panel, p: Point, creases: Sequence[Crease], meeting: _Meeting) -> bool:
    """Whether two more panels of the piece meet a panel at a corner, one of them not hinged on it: a box's corner."""
    beside = meeting.here(p) - {panel.name}
    own = {c.b if c.a == panel.name else c.a for c in creases}
    return len(beside) > 1 and not beside <= own


def _inset(panel: Panel, t: float, creases: Sequence[Crease], meeting: _Meeting | None, grown: float) -> list[Point]:
    points = panel.outline
    n = len(points)
    by_edge: dict[tuple[Point, Point], Crease] = {}
    for crease in creases:
        by_edge[crease.start, crease.end] = by_edge[crease.end, crease.start] = crease
    whole = sum((points[k - 1], points[k]) in by_edge for k in range(n)) == len(creases)
    corner = [meeting is not None and _is_box_corner(panel, p, creases, meeting) for p in points]
    lines = []
    for k in range(n):
        start, end = points[k], points[(k + 1) % n]
        (x0, y0), (x1, y1) = start, end
        size = ((x1 - x0) ** 2 + (y1 - y0) ** 2) ** 0.5
        if size < 1e-9:
            continue
        nx, ny = -(y1 - y0) / size, (x1 - x0) / size  # inward, for a counter-clockwise outline
        back = None
        own = by_edge.get((start, end))  # nearly always a crease is a whole edge
        for crease in (own,) if own is not None else () if whole else creases:
            if crease is own or lies_on((start, end), (crease.start, crease.end)):
                bend = (t + crease.wrap) / 2  # of this radius: flat, it takes a quarter of its circle from either panel
                back = min(t / 2 + bend, math.pi / 2 * bend) + crease.settle
        if back is None:
            at_corner = corner[k] or corner[(k + 1) % n]
            back = (t / 2 if at_corner else min(t / 2, ROUND)) - grown / 2
        lines.append((nx, ny, nx * x0 + ny * y0 + EDGE + back))
    x0, y0, x1, y1 = bounds(points)
    shape = [(x0 - grown, y0 - grown), (x1 + grown, y0 - grown), (x1 + grown, y1 + grown), (x0 - grown, y1 + grown)]
    for nx, ny, d in lines:
        shape = half(shape, nx, ny, d)
    return shape


def prism(outline: Sequence[Point], low: float, high: float) -> list[Vec]:
    """Corners of an upright prism: those below, then those above, mm."""
    return [(x, y, low) for x, y in outline] + [(x, y, high) for x, y in outline]


_KEPT = 512
_insets: OrderedDict[tuple[int, float], tuple[Piece, dict[str, list[Point]]]] = OrderedDict()


def _kept_insets(piece: Piece, grown: float) -> dict[str, list[Point]]:
    """`insets`, kept for the pieces seen last: an edit leaves most pieces of a design the very same."""
    key = (id(piece), grown)
    known = _insets.get(key)
    if known is not None and known[0] is piece:
        return known[1]
    shapes = insets(piece, grown)
    _insets[key] = (piece, shapes)
    while len(_insets) > _KEPT:
        _insets.popitem(last=False)
    return shapes


def sheet_prisms(node: Node, margin: Margin = NO_MARGIN) -> list[list[Vec]]:
    """The prisms of a node in its piece's frame, mm: one for a plane panel, none or some for one that bends."""
    t = node.piece.stock.caliper
    if node.shape is not None:
        more = margin.outline / 2
        prisms = []
        for outline, low, high in node.shape.bodies(node.place):
            x0, y0, x1, y1 = bounds(outline)
            size = max(x1 - x0, y1 - y0)
            grown = [(x * (1 + 2 * more / size), y * (1 + 2 * more / size)) for x, y in outline]
            prisms.append(prism(grown, low - t / 2 + give(t), high + t / 2 - give(t)))
        return prisms
    shape = [] if node.panel.soft else _kept_insets(node.piece, margin.outline)[node.panel.name]
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


class Untested:
    """Sheets, by their nodes, that are never asked how near they are: glued to one another (a ring's slack is the
    paper's to give), of one part that bends where it is drawn stiff, and panels of one bent sheet, which are one body
    with what carries them."""

    def __init__(self, assembly: Assembly) -> None:
        nodes = assembly.nodes
        pairs = {(j.a, j.b) for j in assembly.joints if j.joint.bond in ("glue", "held")}
        pairs |= {(k, n.parent) for k, n in enumerate(nodes) if n.shape is not None}
        self._pairs = pairs | {(b, a) for a, b in pairs}
        self._soft: dict[str, list[int]] = {n.element: [] for n in nodes if n.limp}
        self._bent: dict[tuple[str, str], list[int]] = {}
        for k, n in enumerate(nodes):
            if n.element in self._soft:
                self._soft[n.element].append(k)
            if n.shape is not None:
                self._bent.setdefault((n.element, n.instance), []).append(k)
        self._nodes = nodes

    def __call__(self, a: int, b: int) -> bool:
        """Whether two nodes are never asked."""
        if (a, b) in self._pairs:
            return True
        one, other = self._nodes[a], self._nodes[b]
        if one.element != other.element:
            return False
        if one.shape is not None and other.shape is not None and one.instance == other.instance:
            return True
        return a != b and (one.limp or other.limp)

    def every(self) -> Iterator[tuple[int, int]]:
        """All such pairs of nodes, both ways round."""
        yield from self._pairs
        for same in (*self._soft.values(), *self._bent.values()):
            yield from ((a, b) for a in same for b in same if self(a, b))


def over_flat_creases(assembly: Assembly) -> set[tuple[int, int]]:
    """Nodes, both ways round, that are panels on both sides of one crease that lies flat."""
    pairs = {
        (k, n.parent)
        for k, n in enumerate(assembly.nodes)
        if isinstance(n.step, CreaseStep) and abs(n.step.shut) < _FLAT
    }
    return pairs | {(b, a) for a, b in pairs}
