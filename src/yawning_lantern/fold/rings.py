"""Rings of hinged panels: one angle drives, the others follow so that every glued joint stays closed.

Unknown are crease angles only; the equations are glued points that must coincide. Each pose is a least-squares problem
solved by Levenberg and Marquardt's method with the exact Jacobian (axis × lever arm, and what the arc of a thick fold
adds), begun from the secant through the last two poses. A path is walked from the pose where the mountains and valleys
of the family choose the branch, out to both ends: at the flat ends several branches meet, so nothing is begun there.
"""

from __future__ import annotations

import math
from collections import OrderedDict
from collections.abc import Mapping, Sequence
from operator import mul
from threading import Lock

from msgspec import Struct

from yawning_lantern.assembly import Assembly, CreaseStep, Node, PlaceStep, Ring, Vec
from yawning_lantern.assembly.joined import Frame
from yawning_lantern.fold.frames import apply, crease_frame, crease_turn, then

STEPS = 24
"""Poses along a path."""
_MOST = 12  # iterations a pose
_CLOSE = 1e-7  # mm: what an iteration gains when it is done
_KEPT = 64  # rings whose ways are kept
_DEPENDENT = 1e-6  # a column of which no more is left depends on the others, as a share of the largest
_TINY = 1e-300  # below any square that is no rounding
_paths: OrderedDict[tuple[int, bool], tuple[Ring, RingPath]] = OrderedDict()
_lock = Lock()


class Turned(Struct, frozen=True):
    """One solved pose: the unknown angles (radians) and the greatest distance left between glued points, mm."""

    angles: tuple[float, ...]
    residual: float


def _plain(step: CreaseStep | PlaceStep) -> CreaseStep | PlaceStep:
    """The same step as if paper had no thickness."""
    if isinstance(step, CreaseStep):
        return CreaseStep(step.foot, step.along, step.into, 0.0, 0.0, step.shut, step.turns)
    return PlaceStep((*step.frame[:11], 0.0), step.kind, step.moves, step.apart, step.pins, step.rolls)


def _flat(p: Vec) -> Vec:
    return p[0], p[1], 0.0


class RingSolver:
    """The equations of one ring. Panels that do not lead to a glued joint are left out."""

    def __init__(self, nodes: Sequence[Node], ring: Ring, plain: bool = False) -> None:
        """`plain` solves as if paper had no thickness: plain hinges, glued faces in one plane."""
        self.ring = ring
        chains: dict[int, list[int]] = {}
        for end in {k for a, b, _ in ring.joints for k in (a, b)}:
            chain = [end]
            while nodes[chain[-1]].parent >= 0 and nodes[nodes[chain[-1]].parent].element == ring.element:
                chain.append(nodes[chain[-1]].parent)
            chains[end] = chain[::-1]
        self.root = next(iter(chains.values()))[0]
        used = sorted({k for chain in chains.values() for k in chain})
        self._place = {k: i for i, k in enumerate(used)}
        self._parents = [self._place.get(nodes[k].parent, -1) for k in used]
        self._steps = [nodes[k].step for k in used]
        if plain:
            self._steps = [_plain(step) for step in self._steps]
        self._unknown: dict[int, tuple[int, float]] = {
            self._place[k]: (i, factor)
            for i, group in enumerate(ring.unknowns)
            for k, factor in group
            if k in self._place
        }
        above = {end: {self._place[k] for k in chain} for end, chain in chains.items()}
        self._pairs = [
            (
                self._place[a],
                self._place[b],
                _flat(p) if plain else p,
                _flat(q) if plain else q,
                above[a] - above[b],
                above[b] - above[a],
            )
            for a, b, points in ring.joints
            for p, q in points
        ]
        self.count = len(ring.unknowns)

    def _frames(self, progress: float, angles: Sequence[float]) -> list[Frame]:
        """Frames in the ring's own root; the root itself stays where it is."""
        frames: list[Frame] = []
        motion = self.ring.motion
        for i, step in enumerate(self._steps):
            above = self._parents[i]
            if above < 0:
                frames.append((1.0, 0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0))
            elif isinstance(step, PlaceStep):
                frames.append(then(frames[above], step.frame))
            else:
                frames.append(then(frames[above], crease_frame(step, self._angle(i, step, progress, motion, angles))))
        return frames

    def _angle(self, i: int, step: CreaseStep, progress: float, motion: int, angles: Sequence[float]) -> float:
        if i in self._unknown:
            k, factor = self._unknown[i]
            return factor * angles[k]
        return step.shut + progress * sum(added for m, added in step.turns if m == motion)

    def equations(self, progress: float, angles: Sequence[float]) -> tuple[list[float], list[list[float]]]:
        """Distances between glued points (3 a pair, mm) and their derivatives by the unknowns (mm per radian).

        Shapes: (3·pairs,) and (3·pairs, unknowns). A crease that turns both ends of a joint alike changes no distance:
        its share is left out.
        """
        frames = self._frames(progress, angles)
        turns: dict[int, tuple[Vec, Vec, Vec]] = {}
        for i in self._unknown:
            step = self._steps[i]
            assert isinstance(step, CreaseStep)
            axis, at, moved = crease_turn(step, self._angle(i, step, progress, self.ring.motion, angles))
            f = frames[self._parents[i]]
            turns[i] = (_direction(f, axis), apply(f, *at), _direction(f, moved))
        left: list[float] = []
        rows: list[list[float]] = []
        for a, b, p, q, over_a, over_b in self._pairs:
            pa, pb = apply(frames[a], *p), apply(frames[b], *q)
            left += [pa[0] - pb[0], pa[1] - pb[1], pa[2] - pb[2]]
            x, y, z = [0.0] * self.count, [0.0] * self.count, [0.0] * self.count
            for end, over, sign in ((pa, over_a, 1.0), (pb, over_b, -1.0)):
                for i in over & self._unknown.keys():
                    (ax, ay, az), (ox, oy, oz), (mx, my, mz) = turns[i]
                    k, factor = self._unknown[i]
                    rx, ry, rz = end[0] - ox, end[1] - oy, end[2] - oz
                    share = sign * factor
                    x[k] += share * (ay * rz - az * ry + mx)
                    y[k] += share * (az * rx - ax * rz + my)
                    z[k] += share * (ax * ry - ay * rx + mz)
            rows += [x, y, z]
        return left, rows

    def residual(self, left: Sequence[float]) -> float:
        """The greatest distance between two glued points, mm."""
        return max((math.hypot(*left[k : k + 3]) for k in range(0, len(left), 3)), default=0.0)

    def solve(self, progress: float, guess: Sequence[float]) -> Turned:
        """The angles that close the ring best when its swing is `progress` done, near a guess (radians)."""
        angles = list(guess)
        left, rows = self.equations(progress, angles)
        cost, damping = _dot(left, left), 1e-9
        for _ in range(_MOST):
            step = _damped(rows, left, damping)
            ahead = [angle + more for angle, more in zip(angles, step, strict=True)]
            tried, tried_rows = self.equations(progress, ahead)
            new = _dot(tried, tried)
            if new <= cost:
                angles, left, rows = ahead, tried, tried_rows
                gained, cost, damping = cost - new, new, max(damping / 10, 1e-12)
                if gained < _CLOSE**2 + 1e-8 * cost or cost < _CLOSE**2:
                    break
            else:
                damping = max(damping * 100, 1e-9)
                if damping > 1e3:
                    break
        return Turned(tuple(angles), self.residual(left))

    def freedom(self, progress: float, angles: Sequence[float]) -> int:
        """In how many ways the ring can still move with its driver held: the dimension of the Jacobian's null space."""
        _, rows = self.equations(progress, angles)
        return self.count - rank(rows)


def _dot(a: Sequence[float], b: Sequence[float]) -> float:
    return float(sum(map(mul, a, b)))


def _damped(rows: Sequence[Sequence[float]], left: Sequence[float], damping: float) -> list[float]:
    """The step of Levenberg and Marquardt (1963): (JᵀJ + λI)·s = −Jᵀr, by Cholesky. The unknowns of a ring are a
    handful: for so few, plain arithmetic is quicker than a library that must be loaded and handed arrays."""
    columns = [*zip(*rows, strict=True)]
    normal = [[_dot(a, b) for b in columns[: i + 1]] for i, a in enumerate(columns)]
    scale = damping * sum(row[-1] for row in normal) + 1e-12
    n = len(columns)
    for i in range(n):
        row = normal[i]
        row[i] += scale
        for j in range(i + 1):
            rest = row[j] - _dot(row[:j], normal[j][:j])
            row[j] = rest / normal[j][j] if j < i else math.sqrt(max(rest, _TINY))
    step = [-_dot(column, left) for column in columns]
    for i in range(n):
        step[i] = (step[i] - _dot(normal[i][:i], step[:i])) / normal[i][i]
    for i in range(n - 1, -1, -1):
        step[i] = (step[i] - sum(normal[k][i] * step[k] for k in range(i + 1, n))) / normal[i][i]
    return step


def rank(rows: Sequence[Sequence[float]]) -> int:
    """The rank of a matrix (m, n), told by what is left of its largest column when those before it are taken out (QR
    with column pivoting: Golub 1965), against the largest of all."""
    columns = [list(column) for column in zip(*rows, strict=True)]
    count, first = 0, 0.0
    while columns:
        sizes = [_dot(column, column) for column in columns]
        k = max(range(len(columns)), key=sizes.__getitem__)
        first = first or sizes[k]
        if sizes[k] <= _DEPENDENT**2 * first:
            break
        count += 1
        chosen, size = columns.pop(k), sizes[k]
        for column in columns:
            for _ in range(2):  # twice is enough (Kahan)
                share = _dot(column, chosen) / size
                column[:] = [x - share * y for x, y in zip(column, chosen, strict=True)]
    return count


def _direction(f: Frame, v: Vec) -> Vec:
    x, y, z = v
    return x * f[0] + y * f[3] + z * f[6], x * f[1] + y * f[4] + z * f[7], x * f[2] + y * f[5] + z * f[8]


_SOLVED = 4096
"""Poses kept for one ring."""


class RingPath:
    """A ring over its whole swing: solved poses from shut (0) to open (1)."""

    def __init__(self, nodes: Sequence[Node], ring: Ring, plain: bool = False) -> None:
        self.solver = RingSolver(nodes, ring, plain)
        at = ring.loop.start_at
        begun = self.solver.solve(at, ring.loop.start)
        poses: dict[float, Turned] = {at: begun}
        for end in (0.0, 1.0):
            before, last = None, (at, begun.angles)
            for k in range(1, STEPS + 1):
                p = at + (end - at) * k / STEPS
                if p == last[0]:
                    continue
                guess = last[1]
                if before is not None:
                    share = (p - last[0]) / (last[0] - before[0])
                    guess = tuple(b + share * (b - a) for a, b in zip(before[1], last[1], strict=True))
                pose = self.solver.solve(p, guess)
                poses[p] = pose
                before, last = last, (p, pose.angles)
        self.poses: tuple[tuple[float, Turned], ...] = tuple(sorted(poses.items()))
        self._solved = poses

    def at(self, progress: float) -> Turned:
        """The pose when the swing is `progress` done, solved from the two poses beside it; what was asked for is kept:
        sweeps ask for the same ones in every standing."""
        known = self._solved.get(progress)
        if known is None:
            known = self._solve(progress)
            if len(self._solved) < _SOLVED:
                self._solved[progress] = known
        return known

    def _solve(self, progress: float) -> Turned:
        poses = self.poses
        k = next((i for i in range(1, len(poses)) if poses[i][0] >= progress), len(poses) - 1)
        (p0, a), (p1, b) = poses[k - 1], poses[k]
        share = (progress - p0) / (p1 - p0)
        guess = tuple(x + share * (y - x) for x, y in zip(a.angles, b.angles, strict=True))
        return self.solver.solve(progress, guess)

    @property
    def residual(self) -> float:
        """The greatest distance between glued points over the swing, mm."""
        return max(pose.residual for _, pose in self.poses)


def ring_path(assembly: Assembly, ring: Ring, plain: bool = False) -> RingPath:
    """The path of a ring; the last few are kept, by the loop they belong to."""
    key = (id(ring.loop), plain)
    with _lock:  # a sweep on another thread asks too
        if key in _paths:
            _paths.move_to_end(key)
            return _paths[key][1]
    path = RingPath(assembly.nodes, ring, plain)
    with _lock:
        _paths[key] = (ring, path)
        if len(_paths) > _KEPT:
            _paths.popitem(last=False)
    return path


def ring_angles(assembly: Assembly, ring: Ring, progress: float) -> Mapping[int, float]:
    """The angle of every crease that follows in a ring, by node, radians."""
    turned = ring_path(assembly, ring).at(progress)
    return {k: factor * angle for group, angle in zip(ring.unknowns, turned.angles, strict=True) for k, factor in group}
