"""What of every sheet cannot be in one place with another: a prism that lies a little inside the sheet.

Sheets that only lie on one another, and folds, must give no alarm: a prism is thinner than its sheet on both faces, and
its outline lies inside the panel's by what a cut edge rounds off, further in along creases, where the fold's own bend
is, and beside a corner where three panels of one sheet meet, since there each runs into the thickness of the next. What
is left over touches only where sheets would have to be in one place."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence

from msgspec import Struct

from yawning_lantern.assembly import Assembly, CreaseStep, Node, Vec
from yawning_lantern.kept import LastAnswers
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
_SAME = 1e-4  # mm: corners nearer than this are in one place
_FLAT = 1e-6  # radians: a crease bent less lies flat
_TURNS = 1e-4  # sine of the angle between two edges: less is straight on


class Margin(Struct, frozen=True):
    """What is added to every sheet: to its outline (mm in all, half on each side) and to its caliper (a share)."""

    outline: float = 0.0
    caliper: float = 0.0


NO_MARGIN = Margin()


class Solid(Struct, frozen=True):
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
    """Which panels of a piece have a corner in which place: points nearer than `_SAME` are one place. Corners are kept
    by the square millimetre they lie in."""

    def __init__(self, piece: Piece) -> None:
        self._at: dict[tuple[int, int], list[tuple[float, float, str]]] = {}
        for panel in piece.panels:
            for x, y in panel.outline:
                self._at.setdefault((math.floor(x), math.floor(y)), []).append((x, y, panel.name))

    def here(self, p: Point) -> set[str]:
        """The panels that have a corner at a point."""
        names = set()
        x, y = p
        for i in {math.floor(x - _SAME), math.floor(x + _SAME)}:  # one cell, or two where the point is at their border
            for j in {math.floor(y - _SAME), math.floor(y + _SAME)}:
                for a, b, name in self._at.get((i, j), ()):
                    if abs(x - a) < _SAME and abs(y - b) < _SAME:
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
    edges = list(zip(points, (*points[1:], points[0]), strict=True))
    along = [by_edge.get(edge) for edge in edges]  # nearly always a crease is a whole edge
    whole = n - along.count(None) == len(creases)
    corner = [meeting is not None and _is_box_corner(panel, p, creases, meeting) for p in points]
    lines, least = [], 0.0
    for k, (edge, own) in enumerate(zip(edges, along, strict=True)):
        (x0, y0), (x1, y1) = edge
        size = ((x1 - x0) ** 2 + (y1 - y0) ** 2) ** 0.5
        if size < 1e-9:
            continue
        nx, ny = -(y1 - y0) / size, (x1 - x0) / size  # inward, for a counter-clockwise outline
        back = None
        for crease in (own,) if own is not None else () if whole else creases:
            if crease is own or lies_on(edge, (crease.start, crease.end)):
                bend = (t + crease.wrap) / 2  # of this radius: flat, it takes a quarter of its circle from either panel
                back = min(t / 2 + bend, math.pi / 2 * bend) + crease.settle
        if back is None:
            at_corner = corner[k] or corner[(k + 1) % n]
            back = (t / 2 if at_corner else min(t / 2, ROUND)) - grown / 2
        lines.append((nx, ny, nx * x0 + ny * y0 + EDGE + back))
        least = min(least, EDGE + back)
    if not least:
        shape = _met(lines)
        if shape:
            return shape
    x0, y0, x1, y1 = bounds(points)
    shape = [(x0 - grown, y0 - grown), (x1 + grown, y0 - grown), (x1 + grown, y1 + grown), (x0 - grown, y1 + grown)]
    for nx, ny, d in lines:
        shape = half(shape, nx, ny, d)
    return shape


def _met(lines: Sequence[tuple[float, float, float]]) -> list[Point]:
    """The polygon nx·x + ny·y ≥ d by the meetings of lines that follow one another round it, all of them moved inward;
    nothing where not every one of them keeps a stretch, or two that follow are one line."""
    corners = []
    a, b, c = lines[-1]
    for nx, ny, d in lines:
        det = a * ny - b * nx
        if det < _TURNS:
            return []
        corners.append(((c * ny - d * b) / det, (a * d - nx * c) / det))
        a, b, c = nx, ny, d
    x, y = corners[0]
    for (nx, ny, _), (p, q) in zip(reversed(lines), reversed(corners), strict=True):
        if (x - p) * ny - (y - q) * nx < _SAME:
            return []
        x, y = p, q
    return corners


def prism(outline: Sequence[Point], low: float, high: float) -> list[Vec]:
    """Corners of an upright prism: those below, then those above, mm."""
    return [(x, y, low) for x, y in outline] + [(x, y, high) for x, y in outline]


_prisms = LastAnswers[dict[str, list[list[Vec]]]](512)


def _plane_prisms(piece: Piece, margin: Margin) -> dict[str, list[list[Vec]]]:
    """For each panel of a piece its prism, or none, kept for the pieces seen last: an edit leaves most pieces of a
    design the very same."""
    return _prisms.given((id(piece), margin), (piece,), lambda: _prisms_of(piece, margin))


def _prisms_of(piece: Piece, margin: Margin) -> dict[str, list[list[Vec]]]:
    t = piece.stock.caliper
    thick = t * (1 + margin.caliper) / 2 - give(t)
    prisms = {
        name: [prism(shape, -thick, thick)] if _is_wide(shape) else []
        for name, shape in insets(piece, margin.outline).items()
    }
    for panel in piece.panels:
        if panel.soft:
            prisms[panel.name] = []
    return prisms


def _is_wide(shape: Sequence[Point]) -> bool:
    """Whether a prism of that outline is told at all."""
    if not shape:
        return False
    x0, y0, x1, y1 = bounds(shape)
    return min(x1 - x0, y1 - y0) >= SMALL


def sheet_prisms(node: Node, margin: Margin = NO_MARGIN) -> list[list[Vec]]:
    """The prisms of a node in its piece's frame, mm: one for a plane panel, none or some for one that bends."""
    if node.shape is not None:
        t = node.piece.stock.caliper
        more = margin.outline / 2
        prisms = []
        for outline, low, high in node.shape.bodies(node.place):
            x0, y0, x1, y1 = bounds(outline)
            size = max(x1 - x0, y1 - y0)
            grown = [(x * (1 + 2 * more / size), y * (1 + 2 * more / size)) for x, y in outline]
            prisms.append(prism(grown, low - t / 2 + give(t), high + t / 2 - give(t)))
        return prisms
    return _plane_prisms(node.piece, margin)[node.panel.name]


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
