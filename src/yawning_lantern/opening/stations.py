"""Where plates are all along one motion: many poses at once, only what moves being computed anew."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Iterable, Mapping, Sequence

from msgspec import Struct, field

from yawning_lantern.arrays import Floats, np
from yawning_lantern.assembly import Assembly, CreaseStep, Ring
from yawning_lantern.assembly.joined import Frame
from yawning_lantern.fold import State, pose
from yawning_lantern.fold.frames import crease_frame
from yawning_lantern.fold.pose import fold_angle, placed
from yawning_lantern.fold.rings import ring_angles, ring_path

_ENDS = 4
"""Poses at either end of a ring's path between which it is solved and not interpolated."""


class Standing(Struct, frozen=True):
    """What is open, by motion index, and the creases that came to rest before they were quite open: (node, motion) and
    the share they reached."""

    opened: frozenset[int] = frozenset()
    rests: Mapping[tuple[int, int], float] = field(default_factory=dict)

    def state(self, count: int, motion: int = -1, share: float = 0.0) -> State:
        """The state in which this stands, with one motion `share` under way (0 to 1)."""
        progress = tuple(share if k == motion else float(k in self.opened) for k in range(count))
        return State(1.0, progress, self.rests)

    def opening(self, motion: int, rests: Mapping[int, float]) -> Standing:
        """The same with a motion done, some of its creases (by node) at rest."""
        return Standing(
            self.opened | {motion}, {**self.rests, **{(node, motion): share for node, share in rests.items()}}
        )

    def shutting(self, motion: int) -> Standing:
        """The same with a motion shut again."""
        kept = {key: share for key, share in self.rests.items() if key[1] != motion}
        return Standing(self.opened - {motion}, kept)


def turns_of(assembly: Assembly, node: int) -> tuple[int, ...]:
    """The motions that move a node from its parent, in their order."""
    step = assembly.nodes[node].step
    if isinstance(step, CreaseStep):
        motions = [m for m, _ in step.turns]
    else:
        motions = [m for m, _ in step.moves] + [pin[0] for pin in step.pins]
        motions += [m for _, _, crease, _ in step.rolls for m, _ in crease.turns]  # where it is hangs on that fold
    for ring in assembly.rings:
        if any(node == k for group in ring.unknowns for k, _ in group):
            motions.append(ring.motion)
    return tuple(sorted(set(motions)))


def movers(assembly: Assembly, motion: int) -> list[int]:
    """For each node the nearest one, itself or above it, that the motion moves; −1 where it stays. Nodes of one mover
    move as one body."""
    moved = {k for k in range(len(assembly.nodes)) if motion in turns_of(assembly, k)}
    nearest: list[int] = []
    for k, node in enumerate(assembly.nodes):
        nearest.append(k if k in moved else (nearest[node.parent] if node.parent >= 0 else -1))
    return nearest


class Stations:
    """The poses of one motion begun from a standing, for chosen nodes."""

    def __init__(self, assembly: Assembly, nodes: Sequence[int], motion: int, standing: Standing) -> None:
        self.assembly, self.nodes, self.motion, self.standing = assembly, nodes, motion, standing
        self.mover = movers(assembly, motion)
        self._rings = [ring for ring in assembly.rings if ring.motion == motion]
        self._driven = {k for ring in self._rings for group in ring.unknowns for k, _ in group}
        count = len(assembly.motions)
        base = pose(assembly, standing.state(count, motion, 0.0))
        self._base = [self._split([f]) for f in base]

    def _split(self, frames: Sequence[Frame]) -> tuple[Floats, Floats]:
        """Rotations (s, 3, 3) and origins (s, 3) of frames."""
        f = np.array(frames)
        return f[:, :9].reshape(-1, 3, 3).transpose(0, 2, 1), f[:, 9:]

    def _local(self, k: int, state: State, solved: Mapping[int, float]) -> Frame:
        """The frame of a node in its parent's in a state."""
        step = self.assembly.nodes[k].step
        if not isinstance(step, CreaseStep):
            return placed(step, state)
        return crease_frame(step, solved[k] if k in solved else fold_angle(k, self.assembly.nodes, state))

    def _solved(self, shares: Sequence[float]) -> list[dict[int, float]]:
        """The angles of ring creases at each share; rings opened before keep the angles of the base pose."""
        solved: list[dict[int, float]] = [{} for _ in shares]
        for ring in self._rings:
            for angles, share in zip(solved, shares, strict=True):
                if share > 0.0:
                    angles.update(self._ring(ring, share))
        return solved

    def _ring(self, ring: Ring, share: float) -> Mapping[int, float]:
        """The angles of a ring by the cubic through the four solved poses around a share (Lagrange), which is some
        millionths of a radian off; near the ends, where a ring may turn sharply, it is solved."""
        poses = ring_path(self.assembly, ring).poses
        k = bisect_right(poses, share, key=lambda at: at[0])
        if not _ENDS <= k <= len(poses) - _ENDS:
            return ring_angles(self.assembly, ring, share)
        four = poses[k - 2 : k + 2]
        weights = []
        for i, (p, _) in enumerate(four):
            weight = 1.0
            for j, (q, _) in enumerate(four):
                if i != j:
                    weight *= (share - q) / (p - q)
            weights.append(weight)
        angles = [
            sum(w * t.angles[n] for w, (_, t) in zip(weights, four, strict=True)) for n in range(len(ring.unknowns))
        ]
        return {k: factor * angle for group, angle in zip(ring.unknowns, angles, strict=True) for k, factor in group}

    def at(self, shares: Sequence[float], ranks: Iterable[int] | None = None) -> tuple[Floats, Floats]:
        """Rotations (s, n, 3, 3) and origins (s, n, 3) in mm of the chosen nodes at `s` shares of the motion; with
        `ranks` those of these alone are told, the others are left as they come."""
        count = len(self.assembly.motions)
        states = [self.standing.state(count, self.motion, share) for share in shares]
        places = list(range(len(self.nodes)) if ranks is None else ranks)
        needed = self._moved(self.nodes[i] for i in places)
        solved = self._solved(shares) if not self._driven.isdisjoint(needed) else [{} for _ in shares]
        frames: dict[int, tuple[Floats, Floats]] = {}
        for k in sorted(needed):
            node = self.assembly.nodes[k]
            if self.mover[k] == k:
                turn, move = self._split([self._local(k, s, a) for s, a in zip(states, solved, strict=True)])
            else:
                turn, move = self._inside(k)
            if node.parent < 0:
                frames[k] = turn, move
                continue
            above, origin = frames.get(node.parent) or self._base[node.parent]
            frames[k] = above @ turn, (above @ move[..., None])[..., 0] + origin
        turns = np.empty((len(shares), len(self.nodes), 3, 3))
        origins = np.empty((len(shares), len(self.nodes), 3))
        for i in places:
            turns[:, i], origins[:, i] = frames.get(self.nodes[i]) or self._base[self.nodes[i]]
        return turns, origins

    def _moved(self, nodes: Iterable[int]) -> set[int]:
        """Those of some nodes that the motion moves, and the moved ones that they hang on; parents come before
        children in rank."""
        moved: set[int] = set()
        for k in nodes:
            at = k
            while at >= 0 and self.mover[at] >= 0 and at not in moved:
                moved.add(at)
                at = self.assembly.nodes[at].parent
        return moved

    def _inside(self, k: int) -> tuple[Floats, Floats]:
        """The frame of a node that moves with its parent, taken from the base pose: rings opened before stay solved."""
        above, origin = self._base[self.assembly.nodes[k].parent]
        turn, at = self._base[k]
        back = above.transpose(0, 2, 1)
        return back @ turn, (back @ (at - origin)[..., None])[..., 0]
