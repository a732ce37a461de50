"""Every sheet as a thin convex plate that can touch another: shrunk by what paper gives, placed by poses.

Sheets that only lie on one another, and folds, must give no alarm: a plate is thinner than its sheet on both faces
and its outline lies a little inside the panel's, further in along creases, where the fold's own bend is. What is left
over touches only where sheets would have to be in one place."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from yawning_lantern.assembly import Assembly, CreaseStep, PlaceStep, Vec
from yawning_lantern.assembly.joined import Frame
from yawning_lantern.on_use import load
from yawning_lantern.pattern import Panel, Piece, Point, bounds
from yawning_lantern.pattern.build import shared_edge

GIVE = 0.07
"""What a sheet gives on each face at most, mm; a thin one gives a quarter of itself."""
EDGE = 0.04
"""What an outline lies inside the panel's beside half a sheet, mm."""
_SMALL = 0.6  # mm: a plate narrower than this is left out


@dataclass(frozen=True, slots=True)
class Contact:
    """Two sheets that would have to be in one place: nodes, and how far the motion is done (0 to 1) when they meet.

    `depth` is how far they would go into one another, at the most, mm. `rests`: the moving one comes down on the other
    and stays there. `solid` tells for each whether it is not the sheet itself but what stands on it.
    """

    a: int
    b: int
    at: float
    depth: float
    rests: bool = False
    solid: tuple[bool, bool] = (False, False)


@dataclass(frozen=True, slots=True)
class Margin:
    """What is added to every sheet: to its outline (mm in all, half on each side) and to its caliper (a share)."""

    outline: float = 0.0
    caliper: float = 0.0


def _inset(panel: Panel, piece: Piece, grown: float) -> list[Point]:
    """The outline moved in by half a sheet and a little, and along creases by the bend of the fold, mm.

    Free edges go out by half of what it is `grown`, mm.
    """
    t = piece.stock.caliper
    points = list(panel.outline)
    n = len(points)
    creased: dict[int, float] = {}
    for crease in piece.creases:
        if panel.name not in (crease.a, crease.b):
            continue
        for k in range(n):
            edge = (points[k], points[(k + 1) % n])
            if shared_edge(edge, (crease.end, crease.start)) or shared_edge(edge, (crease.start, crease.end)):
                creased[k] = (t + crease.wrap) / 2 + crease.settle
    lines = []
    for k in range(n):
        (x0, y0), (x1, y1) = points[k], points[(k + 1) % n]
        size = ((x1 - x0) ** 2 + (y1 - y0) ** 2) ** 0.5
        if size < 1e-9:
            continue
        nx, ny = -(y1 - y0) / size, (x1 - x0) / size  # inward, for a counter-clockwise outline
        lines.append((nx, ny, nx * x0 + ny * y0 + t / 2 + EDGE + creased.get(k, -grown / 2)))
    x0, y0, x1, y1 = bounds(points)
    shape = [(x0 - grown, y0 - grown), (x1 + grown, y0 - grown), (x1 + grown, y1 + grown), (x0 - grown, y1 + grown)]
    for nx, ny, d in lines:
        shape = _clipped(shape, nx, ny, d)
        if len(shape) < 3:
            return []
    return shape


def _clipped(points: Sequence[Point], nx: float, ny: float, d: float) -> list[Point]:
    """The part of a convex polygon where nx·x + ny·y ≥ d."""
    kept: list[Point] = []
    for k, p in enumerate(points):
        q = points[(k + 1) % len(points)]
        a, b = nx * p[0] + ny * p[1] - d, nx * q[0] + ny * q[1] - d
        if a >= 0:
            kept.append(p)
        if (a > 0 > b) or (a < 0 < b):
            share = a / (a - b)
            kept.append((p[0] + share * (q[0] - p[0]), p[1] + share * (q[1] - p[1])))
    return kept


@dataclass(frozen=True, slots=True)
class Solid:
    """What stands on a panel, such as the contents of a box: its outline (counter-clockwise) and where it begins and
    ends along the panel's normal, in the piece's coordinates, mm."""

    node: int
    outline: tuple[Point, ...]
    low: float
    high: float


def _prism(outline: Sequence[Point], low: float, high: float) -> list[Vec]:
    """Corners of an upright prism: those below, then those above."""
    return [(x, y, low) for x, y in outline] + [(x, y, high) for x, y in outline]


def _body(fcl: Any, np: Any, vertices: Sequence[Vec]) -> Any:
    """A prism as a convex body of the library."""
    m = len(vertices) // 2
    faces = [m, *range(m - 1, -1, -1), m, *range(m, 2 * m)]
    for i in range(m):
        j = (i + 1) % m
        faces += [4, i, j, m + j, m + i]
    return fcl.Convex(np.array(vertices), m + 2, np.array(faces, dtype=np.int64))


class Plates:
    """The plates of an assembly, and the solids that stand on them. Sheets that bend are left out: they are pressed
    where they lie."""

    def __init__(self, assembly: Assembly, margin: Margin = Margin(), solids: Sequence[Solid] = ()) -> None:
        fcl = self._fcl = load("fcl")
        numpy = self.np = load("numpy")
        self.assembly = assembly
        self.nodes: list[int] = []
        corners: list[list[Vec]] = []
        for k, node in enumerate(assembly.nodes):
            shape = _inset(node.panel, node.piece, margin.outline) if node.shape is None else []
            if not shape:
                continue
            xs, ys = [p[0] for p in shape], [p[1] for p in shape]
            if min(max(xs) - min(xs), max(ys) - min(ys)) < _SMALL:
                continue
            t = node.piece.stock.caliper
            half = t * (1 + margin.caliper) / 2 - min(t / 4, GIVE)
            self.nodes.append(k)
            corners.append(_prism(shape, -half, half))
        self.sheets = len(self.nodes)
        for solid in solids:
            self.nodes.append(solid.node)
            corners.append(_prism(solid.outline, solid.low, solid.high))
        self._objects = [fcl.CollisionObject(_body(fcl, numpy, vertices)) for vertices in corners]
        most = max((len(c) for c in corners), default=2) // 2
        # bottom and top corners, padded by the first of them
        local = [[*c[: len(c) // 2], *[c[0]] * (most - len(c) // 2)] for c in corners]
        upper = [[*c[len(c) // 2 :], *[c[len(c) // 2]] * (most - len(c) // 2)] for c in corners]
        self._local = numpy.array([a + b for a, b in zip(local, upper, strict=True)]).reshape(-1, 2 * most, 3)
        self._ways = self._outward(numpy, self._local[:, :most])
        self._request = fcl.CollisionRequest(num_max_contacts=1, enable_contact=True)
        self._asked = fcl.DistanceRequest(enable_nearest_points=True)
        self.rank = {node: k for k, node in enumerate(self.nodes[: self.sheets])}
        self.joined = self._joined()

    @staticmethod
    def _outward(np: Any, outline: Any) -> Any:
        """Directions that may part a plate from another: its normal, and square to each edge, (n, k + 1, 3)."""
        edges = np.roll(outline, -1, axis=1) - outline
        square = np.stack([edges[..., 1], -edges[..., 0], np.zeros_like(edges[..., 0])], axis=-1)
        size = np.linalg.norm(square, axis=-1, keepdims=True)
        square = np.divide(square, size, out=np.zeros_like(square), where=size > 1e-9)
        normal = np.zeros((len(outline), 1, 3))
        normal[..., 2] = 1.0
        return np.concatenate([normal, square], axis=1)

    def _joined(self) -> Any:
        """Pairs that are never tested, (n, n): glued to one another (a ring's slack is the paper's to give), and
        sheets of one part that bend where they are drawn stiff."""
        pairs = self.np.zeros((len(self.nodes),) * 2, dtype=bool)
        nodes = self.assembly.nodes
        left_out = [
            (k, n.parent) for k, n in enumerate(nodes) if isinstance(n.step, PlaceStep) and n.step.kind == "glue"
        ]
        left_out += [(a, b) for ring in self.assembly.rings for a, b, _ in ring.joints]
        limp = {n.element for n in nodes if n.limp}
        left_out += [
            (a, b)
            for a, n in enumerate(nodes)
            if n.element in limp
            for b in range(a)
            if nodes[b].element == n.element and (n.limp or nodes[b].limp)
        ]
        for a, b in left_out:
            if a in self.rank and b in self.rank:
                i, j = self.rank[a], self.rank[b]
                pairs[i, j] = pairs[j, i] = True
        for i in range(self.sheets, len(self.nodes)):
            j = self.rank.get(self.nodes[i], i)
            pairs[i, j] = pairs[j, i] = True  # it stands on that
        return pairs

    def contact(self, i: int, j: int, at: float, depth: float, rests: bool = False) -> Contact:
        """A contact of two ranks."""
        return Contact(self.nodes[i], self.nodes[j], at, depth, rests, (i >= self.sheets, j >= self.sheets))

    def corners(self, turns: Any, origins: Any, ranks: Any = slice(None)) -> Any:
        """Corners (s, n, k, 3) of the plates, or of those of some ranks, at `s` stations, mm."""
        return self._local[ranks] @ turns.swapaxes(-1, -2) + origins[..., None, :]

    def ways(self, turns: Any, ranks: Any = slice(None)) -> Any:
        """Directions (s, n, k, 3) that may part each plate from another."""
        return self._ways[ranks] @ turns.swapaxes(-1, -2)

    def placed(self, frames: Sequence[Frame]) -> tuple[Any, Any]:
        """Rotations (n, 3, 3) and origins (n, 3) of the plates in a pose, mm."""
        f = self.np.array([frames[k] for k in self.nodes]).reshape(-1, 12)
        return f[:, :9].reshape(-1, 3, 3).transpose(0, 2, 1), f[:, 9:]

    def _set(self, k: int, turns: Any, origins: Any) -> Any:
        body = self._objects[k]
        body.setTransform(self._fcl.Transform(turns[k], origins[k]))
        return body

    def touch(self, i: int, j: int, turns: Any, origins: Any) -> Any:
        """Where two plates (by rank) are in one place, mm, or None where they are not."""
        result = self._fcl.CollisionResult()
        hit = self._fcl.collide(self._set(i, turns, origins), self._set(j, turns, origins), self._request, result)
        return self.np.array(result.contacts[0].pos) if hit else None

    def way_apart(self, i: int, j: int, turns: Any, origins: Any) -> Any:
        """The unit direction between the nearest points of two plates (by rank), or None where they touch."""
        result = self._fcl.DistanceResult()
        gap = self._fcl.distance(self._set(i, turns, origins), self._set(j, turns, origins), self._asked, result)
        if gap <= 1e-6:
            return None
        a, b = (self.np.asarray(p) for p in result.nearest_points)
        return (b - a) / self.np.linalg.norm(b - a)

    def depth(self, i: int, j: int, corners: Any, ways: Any) -> float:
        """How far two plates are in one another, mm: the least way to part them, over their normals, the squares of
        their edges and of one edge with another (the separating axis theorem, from memory). 0 where they are
        apart."""
        np = self.np
        a, b = corners[i], corners[j]
        half_a, half_b = len(a) // 2, len(b) // 2
        along_a = np.roll(a[:half_a], -1, axis=0) - a[:half_a]
        along_b = np.roll(b[:half_b], -1, axis=0) - b[:half_b]
        crossed = np.cross(along_a[:, None], along_b[None]).reshape(-1, 3)
        axes = np.concatenate([ways[i], ways[j], crossed])
        size = np.linalg.norm(axes, axis=1)
        axes = axes[size > 1e-6] / size[size > 1e-6, None]
        pa, pb = a @ axes.T, b @ axes.T
        over = np.minimum(pa.max(axis=0) - pb.min(axis=0), pb.max(axis=0) - pa.min(axis=0))
        return max(0.0, float(over.min()))

    def shut_contacts(self, frames: Sequence[Frame]) -> tuple[Contact, ...]:
        """Sheets that are in one place in a pose."""
        np = self.np
        if not self.nodes:
            return ()
        turns, origins = self.placed(frames)
        corners, ways = self.corners(turns, origins), self.ways(turns)
        lo, hi = corners.min(axis=1), corners.max(axis=1)
        meet = (lo[:, None] <= hi[None]).all(-1) & (lo[None] <= hi[:, None]).all(-1) & ~self.joined
        found = []
        for i, j in np.argwhere(np.triu(meet, 1)):
            if not self._one_sheet(i, j) and self.touch(i, j, turns, origins) is not None:
                found.append(self.contact(int(i), int(j), 0.0, self.depth(i, j, corners, ways)))
        return tuple(found)

    def _one_sheet(self, i: int, j: int) -> bool:
        """Whether two plates are panels on both sides of one crease that lies flat."""
        a, b = self.nodes[i], self.nodes[j]
        if max(i, j) >= self.sheets:
            return False
        step = self.assembly.nodes[b].step
        return self.assembly.nodes[b].parent == a and isinstance(step, CreaseStep) and abs(step.shut) < 1e-6
