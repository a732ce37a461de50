"""Which side of a panel shows once the thing is folded, and which way is up on it: worked out from the poses.

A side shows where a ray from it gets away past every sheet; it is covered where another sheet lies flat upon it.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Literal

from msgspec import Struct

from yawning_lantern.arrays import Floats, Ranks, Truths, np
from yawning_lantern.assembly import Assembly
from yawning_lantern.assembly.joined import Frame
from yawning_lantern.fold.pose import flat_parts, opening_state, pose

Shows = Literal["shut", "open", "never"]
"""shut: it shows when all is shut. open: only when it is opened. never: it is covered all the time."""
_LIFT = 0.02  # mm off the sheet's own face where a ray begins
_TILT = math.radians(62)  # radians from a panel's normal: how far rays lean
_AROUND = tuple(k * math.pi / 2 + aside for k in range(4) for aside in (-0.3, 0.3))
"""Ways in which rays lean, radians from the panel's first edge: alike for every quarter and for its mirror image, and
none along an edge or the diagonal of a square, where hairline gaps lie."""
_SAMPLES = 5  # points of a panel from which rays go out
_STAGES = 12  # poses that are looked at, beside the shut one
_NEAREST = 64  # triangles that are asked first whether they stop a ray
_LYING = 0.9  # cosine of the slope up to which a panel counts as lying


class PanelSeen(Struct, frozen=True):
    """A panel: when its front and back show, and where up is on it (a unit vector in the piece, seen from the front) in
    the state in which it is seen first."""

    node: int
    front: Shows
    back: Shows
    up: tuple[float, float]


class Scene:
    """All sheets of one pose as triangles."""

    def __init__(self, assembly: Assembly, frames: Sequence[Frame]) -> None:
        corners = []
        for node, frame in zip(assembly.nodes, frames, strict=True):
            for points, _, _ in flat_parts(node, frame, 1.0):
                corners += [(points[0], points[k], points[k + 1]) for k in range(1, len(points) - 1)]
        tri = np.array(corners)
        at, self.u, self.v = tri[:, 0], tri[:, 1] - tri[:, 0], tri[:, 2] - tri[:, 0]
        self.normal = np.cross(self.u, self.v)
        self.off = (at * self.normal).sum(-1)
        self.at_u, self.at_v = np.cross(at, self.u), np.cross(at, self.v)
        self.middle = tri.mean(axis=1)

    def escapes(self, start: Floats, way: Floats) -> Truths:
        """Whether rays get away. `start` and `way` (n, 3).

        What lies nearest to the first ray's start is asked first: it stops most of those that are stopped.
        """
        order = np.argsort(((self.middle - start[0]) ** 2).sum(-1))
        away: Truths = self._pass(start, way, order[:_NEAREST])
        if away.any() and len(order) > _NEAREST:
            away[away] = self._pass(start[away], way[away], order[_NEAREST:])
        return away

    def _pass(self, start: Floats, way: Floats, which: Ranks) -> Truths:
        """Whether rays pass some triangles, by the test of Möller and Trumbore (1997); its triple products are turned
        about so that each is a product of matrices."""
        moment, normal = np.cross(start, way), self.normal[which]
        det = -(way @ normal.T)
        ok = np.abs(det) > 1e-9
        inv = np.where(ok, 1.0 / np.where(ok, det, 1.0), 0.0)
        b = (moment @ self.v[which].T + way @ self.at_v[which].T) * inv
        c = -(moment @ self.u[which].T + way @ self.at_u[which].T) * inv
        t = (start @ normal.T - self.off[which]) * inv
        hit = ok & (b > -1e-9) & (c > -1e-9) & (b + c < 1 + 1e-9) & (t > 1e-6)
        away: Truths = ~hit.any(axis=1)
        return away


def _samples(points: Sequence[tuple[float, float, float]]) -> list[tuple[float, float, float]]:
    """The middle, and places between it and the corners."""
    n = len(points)
    mx, my, mz = (sum(p[k] for p in points) / n for k in range(3))
    samples = [(mx, my, mz)]
    stride = max(1, n // (_SAMPLES - 1))
    for x, y, z in points[::stride][: _SAMPLES - 1]:
        samples.append((mx + 0.6 * (x - mx), my + 0.6 * (y - my), mz + 0.6 * (z - mz)))
    return samples


def _shown(
    scene: Scene, points: Sequence[tuple[float, float, float]], normal: tuple[float, float, float],
    half: float,
) -> tuple[bool, bool]:  # fmt: skip
    """Whether the front and the back of a panel can be seen from outside. Rays go out square to it, and aslant as its
    own edges run: which way it lies in the world is no matter."""
    n = np.array(normal)
    e1 = np.array(points[1]) - np.array(points[0])
    e1 /= np.linalg.norm(e1)
    e2 = np.cross(n, e1)
    spots = np.array(_samples(points))
    answers = []
    for side in (1.0, -1.0):
        ways = [side * n]
        for a in _AROUND:
            ways.append(side * n * math.cos(_TILT) + (e1 * math.cos(a) + e2 * math.sin(a)) * math.sin(_TILT))
        start = (spots + side * n * (half + _LIFT))[:, None, :].repeat(len(ways), axis=1).reshape(-1, 3)
        way = np.array(ways)[None].repeat(len(spots), axis=0).reshape(-1, 3)
        away = scene.escapes(start, way).reshape(len(spots), len(ways))
        # a mat's border leaves a little of what lies below: a third of the spots must show
        answers.append(bool(away.any(axis=1).sum() * 3 >= len(spots)))
    return answers[0], answers[1]


def looks(assembly: Assembly, shut: list[Frame]) -> tuple[list[list[Frame]], list[Scene]]:
    """The shut pose and those in which a motion has come to its end, along the opening, and what stands in each."""
    motions = max(len(assembly.motions), 1)
    stride = -(-motions // _STAGES)
    ends = [min(k + stride, motions) / motions for k in range(0, motions, stride)]
    poses = [shut, *(pose(assembly, opening_state(assembly, end)) for end in ends)]
    return poses, [Scene(assembly, frames) for frames in poses]


def panels_seen(
    assembly: Assembly, poses: Sequence[Sequence[Frame]], scenes: Sequence[Scene], nodes: Sequence[int]
) -> tuple[PanelSeen, ...]:
    """For each of these nodes: when its sides show, and where up is. `poses` begin with the shut one and go along the
    opening, `scenes` are what stands in each.

    Bent panels are told by their first triangle.
    """
    shut = poses[0]
    seen = []
    for k in nodes:
        node = assembly.nodes[k]
        half = node.piece.stock.caliper / 2
        sides: list[Shows] = ["never", "never"]
        first = len(poses) - 1
        for at, (scene, frames) in enumerate(zip(scenes, poses, strict=True)):
            points, normal, _ = flat_parts(node, frames[k], 1.0)[0]
            for side, shows in enumerate(_shown(scene, points, normal, half)):
                if shows and sides[side] == "never":
                    sides[side] = "shut" if at == 0 else "open"
                    first = min(first, at)
            if "never" not in sides:
                break
        seen.append(PanelSeen(k, sides[0], sides[1], up_on(shut[k], poses[first][k], first == 0)))
    return tuple(seen)


def up_on(shut: Frame, opened: Frame, seen_shut: bool) -> tuple[float, float]:
    """Where up is on a panel, in its own piece, in the state in which it is seen first.

    What stands when shut has its head towards the sky; what lies when shut has it away from the maker, and keeps that
    way as a page does when it is turned.
    """
    stands = abs(shut[8]) < _LYING
    frame = shut if seen_shut or (stands and abs(opened[8]) > _LYING) else opened
    axis = 2 if stands else 1
    x, y = frame[axis], frame[3 + axis]
    size = math.hypot(x, y)
    return x / size, y / size
