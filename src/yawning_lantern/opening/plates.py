"""Every sheet as a thin convex plate that can touch another: shrunk by what paper gives, placed by poses.

Sheets that only lie on one another, and folds, must give no alarm: a plate is thinner than its sheet on both faces and its
outline lies a little inside the panel's, further in along creases, where the fold's own bend is. What is left over
touches only where sheets would have to be in one place.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from yawning_lantern.assembly import Assembly, CreaseStep, PlaceStep
from yawning_lantern.assembly.joined import Frame
from yawning_lantern.pattern import Panel, Piece, Point

GIVE = 0.07
"""What a sheet gives on each face at most, mm; a thin one gives a quarter of itself."""
EDGE = 0.04
"""What an outline lies inside the panel's beside half a sheet, mm."""
_SMALL = 0.6  # mm: a plate narrower than this is left out


@dataclass(frozen=True, slots=True)
class Contact:
    """Two sheets that would have to be in one place: nodes, and how far the motion is done (0 to 1) when they meet.

    `depth` is how far the moving one would go on inside the other, mm.
    """

    a: int
    b: int
    at: float
    depth: float


def _inset(panel: Panel, piece: Piece) -> list[Point]:
    """The outline moved in by half a sheet and a little, and along creases by the bend of the fold, mm."""
    from yawning_lantern.pattern.build import shared_edge

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
        lines.append((nx, ny, nx * x0 + ny * y0 + t / 2 + EDGE + creased.get(k, 0.0)))
    shape = points
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


class Plates:
    """The plates of an assembly. Sheets that bend are left out: they are pressed where they lie."""

    def __init__(self, assembly: Assembly) -> None:
        import fcl  # only the opening needs these
        import numpy

        self._fcl: Any = fcl
        self.np: Any = numpy
        self.assembly = assembly
        self.nodes: list[int] = []
        self._objects: list[Any] = []
        corners: list[list[tuple[float, float, float]]] = []
        for k, node in enumerate(assembly.nodes):
            if node.shape is not None:
                continue
            shape = _inset(node.panel, node.piece)
            if not shape:
                continue
            xs, ys = [p[0] for p in shape], [p[1] for p in shape]
            if min(max(xs) - min(xs), max(ys) - min(ys)) < _SMALL:
                continue
            t = node.piece.stock.caliper
            half = t / 2 - min(t / 4, GIVE)
            m = len(shape)
            vertices = [(x, y, -half) for x, y in shape] + [(x, y, half) for x, y in shape]
            faces = [m, *range(m - 1, -1, -1), m, *range(m, 2 * m)]
            for i in range(m):
                j = (i + 1) % m
                faces += [4, i, j, m + j, m + i]
            body = fcl.Convex(numpy.array(vertices), m + 2, numpy.array(faces, dtype=numpy.int64))
            self.nodes.append(k)
            self._objects.append(fcl.CollisionObject(body))
            corners.append(vertices)
        most = max((len(c) for c in corners), default=1)
        self._local = numpy.array([c + [c[0]] * (most - len(c)) for c in corners]).reshape(-1, most, 3)
        self._request = fcl.CollisionRequest()
        self._asked = fcl.DistanceRequest(enable_nearest_points=True)
        self.rank = {node: k for k, node in enumerate(self.nodes)}
        self.joined = self._joined()

    def _joined(self) -> Any:
        """Pairs that are glued to one another, (n, n): they lie together, and a ring's slack is the paper's to give."""
        pairs = self.np.zeros((len(self.nodes),) * 2, dtype=bool)
        nodes = self.assembly.nodes
        glued = [(k, n.parent) for k, n in enumerate(nodes) if isinstance(n.step, PlaceStep) and n.step.kind == "glue"]
        glued += [(a, b) for ring in self.assembly.rings for a, b, _ in ring.joints]
        for a, b in glued:
            if a in self.rank and b in self.rank:
                i, j = self.rank[a], self.rank[b]
                pairs[i, j] = pairs[j, i] = True
        return pairs

    def placed(self, frames: Sequence[Frame]) -> tuple[Any, Any, Any]:
        """Rotations (n, 3, 3), origins (n, 3) and corners (n, k, 3) of the plates in a pose, mm."""
        np = self.np
        f = np.array([frames[k] for k in self.nodes]).reshape(-1, 12)
        turn = f[:, :9].reshape(-1, 3, 3).transpose(0, 2, 1)
        origin = f[:, 9:]
        return turn, origin, np.einsum("nij,nkj->nki", turn, self._local) + origin[:, None]

    def _set(self, k: int, pose: tuple[Any, Any, Any]) -> Any:
        body = self._objects[k]
        body.setTransform(self._fcl.Transform(pose[0][k], pose[1][k]))
        return body

    def touch(self, i: int, j: int, pose: tuple[Any, Any, Any]) -> bool:
        """Whether two plates (by rank) are in one place."""
        result = self._fcl.CollisionResult()
        return bool(self._fcl.collide(self._set(i, pose), self._set(j, pose), self._request, result))

    def apart(self, i: int, j: int, pose: tuple[Any, Any, Any]) -> tuple[float, Any]:
        """How far two plates (by rank) are apart, mm, and the direction from the first to the second."""
        np = self.np
        result = self._fcl.DistanceResult()
        gap = float(self._fcl.distance(self._set(i, pose), self._set(j, pose), self._asked, result))
        a, b = result.nearest_points
        way = np.asarray(b) - np.asarray(a)
        size = float(np.linalg.norm(way))
        return gap, way / size if size > 1e-9 else way

    def near(self, boxes: tuple[Any, Any], allowed: Any) -> Any:
        """Pairs of ranks whose boxes (least and greatest corners, (n, 3) each) meet and that may be tested, (m, 2)."""
        np = self.np
        lo, hi = boxes
        meet = (lo[:, None] <= hi[None]).all(-1) & (lo[None] <= hi[:, None]).all(-1) & allowed
        return np.argwhere(np.triu(meet, 1))

    def shut_contacts(self, frames: Sequence[Frame]) -> tuple[Contact, ...]:
        """Sheets that are in one place in a pose."""
        pose = self.placed(frames)
        boxes = pose[2].min(axis=1), pose[2].max(axis=1)
        found = []
        for i, j in self.near(boxes, ~self.joined):
            if not self._neighbours(i, j) and self.touch(i, j, pose):
                found.append(Contact(self.nodes[i], self.nodes[j], 0.0, 0.0))
        return tuple(found)

    def _neighbours(self, i: int, j: int) -> bool:
        """Whether two plates are panels on both sides of one crease that lies flat."""
        a, b = self.nodes[i], self.nodes[j]
        nodes = self.assembly.nodes
        step = nodes[b].step
        return nodes[b].parent == a and isinstance(step, CreaseStep) and abs(step.shut) < 1e-6
