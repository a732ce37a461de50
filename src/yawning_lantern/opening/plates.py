"""Every sheet as convex bodies that can touch one another, placed by poses (see `bodies` for what each gives)."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from copy import copy
from functools import cached_property
from typing import Any

from msgspec import Struct

from yawning_lantern.arrays import Floats, Ranks, Truths, np
from yawning_lantern.assembly import Assembly, Vec
from yawning_lantern.assembly.joined import Frame
from yawning_lantern.on_use import load
from yawning_lantern.opening.bodies import (
    NO_MARGIN,
    Margin,
    Solid,
    Untested,
    nodes_with_prisms,
    over_flat_creases,
    prism,
)


class Contact(Struct, frozen=True):
    """Two sheets that would have to be in one place: nodes, and how far the motion is done (0 to 1) when they meet.

    `depth` is how far they would go into one another, at the most, mm, and `worst` the share at which they do.
    `rests`: the moving one comes down on the other
    and stays there. `solid` tells for each whether it is not the sheet itself but what stands on it.
    """

    a: int
    b: int
    at: float
    depth: float
    rests: bool = False
    solid: tuple[bool, bool] = (False, False)
    worst: float = 0.0


FEW = 4
"""Nearly all plates have so many corners: these are asked for by themselves, without the padding of those with more."""


def _edges(corners: Floats) -> Floats:
    """The ways that a prism's edges run, around its base and up, mm."""
    base = corners[: len(corners) // 2]
    return np.concatenate([np.roll(base, -1, axis=0) - base, corners[len(base) : len(base) + 1] - base[:1]])


def _body(fcl: Any, vertices: Sequence[Vec]) -> Any:
    """A prism as a convex body of the library."""
    m = len(vertices) // 2
    faces = [m, *range(m - 1, -1, -1), m, *range(m, 2 * m)]
    for i in range(m):
        j = (i + 1) % m
        faces += [4, i, j, m + j, m + i]
    return fcl.Convex(np.array(vertices), m + 2, np.array(faces, dtype=np.int64))


class Plates:
    """The plates of an assembly, and the solids that stand on them. Sheets that bend are left out: they are pressed
    where they lie. `small` are those of few corners, (n,), which lie in these `columns` of theirs."""

    def __init__(self, assembly: Assembly, margin: Margin = NO_MARGIN, solids: Sequence[Solid] = ()) -> None:
        self.assembly = assembly
        bodies = nodes_with_prisms(assembly, margin)
        self.sheets = len(bodies)
        bodies += [(solid.node, prism(solid.outline, solid.low, solid.high)) for solid in solids]
        self.nodes = [k for k, _ in bodies]
        self._prisms = corners = [vertices for _, vertices in bodies]
        most = max((len(c) for c in corners), default=2) // 2
        few = min(FEW, most)
        self.small = np.array([len(c) // 2 <= few for c in corners], dtype=bool)
        self.columns = np.concatenate([np.arange(few), most + np.arange(few)])
        # bottom and top corners, padded by the first of them
        local = [[*c[: len(c) // 2], *[c[0]] * (most - len(c) // 2)] for c in corners]
        upper = [[*c[len(c) // 2 :], *[c[len(c) // 2]] * (most - len(c) // 2)] for c in corners]
        self._local = np.array([a + b for a, b in zip(local, upper, strict=True)]).reshape(-1, 2 * most, 3)
        self._ways = self._outward(self._local[:, :most])
        self.ranks: dict[int, list[int]] = {}
        for k, node in enumerate(self.nodes[: self.sheets]):
            self.ranks.setdefault(node, []).append(k)
        self.joined = self._joined()

    @cached_property
    def _fcl(self) -> Any:
        return load("fcl")

    @cached_property
    def _objects(self) -> list[Any]:
        return [self._fcl.CollisionObject(_body(self._fcl, vertices)) for vertices in self._prisms]

    @cached_property
    def _request(self) -> Any:
        return self._fcl.CollisionRequest(num_max_contacts=1, enable_contact=True)

    @cached_property
    def _asked(self) -> Any:
        return self._fcl.DistanceRequest(enable_nearest_points=True)

    @staticmethod
    def _outward(outline: Floats) -> Floats:
        """Directions that may part a plate from another: its normal, and square to each edge, (n, k + 1, 3)."""
        edges = np.roll(outline, -1, axis=1) - outline
        square = np.stack([edges[..., 1], -edges[..., 0], np.zeros_like(edges[..., 0])], axis=-1)
        size = np.linalg.norm(square, axis=-1, keepdims=True)
        square = np.divide(square, size, out=np.zeros_like(square), where=size > 1e-9)
        normal = np.zeros((len(outline), 1, 3))
        normal[..., 2] = 1.0
        return np.concatenate([normal, square], axis=1)

    def _joined(self) -> Truths:
        """Pairs of bodies that are never tested, (n, n)."""
        pairs = self._among(Untested(self.assembly).every())
        for i in range(self.sheets, len(self.nodes)):
            for j in self.ranks.get(self.nodes[i], ()):
                pairs[i, j] = pairs[j, i] = True  # it stands on that
        return pairs

    def some(self, chosen: Ranks) -> Plates:
        """The same with some of the bodies alone, by rank."""
        few = copy(self)
        few.nodes = [self.nodes[r] for r in chosen]
        few.sheets = int((chosen < self.sheets).sum())
        few._prisms = [self._prisms[r] for r in chosen]
        few.small, few._local, few._ways = self.small[chosen], self._local[chosen], self._ways[chosen]
        few.joined = self.joined[np.ix_(chosen, chosen)]
        few.ranks = {}
        for r, node in enumerate(few.nodes[: few.sheets]):
            few.ranks.setdefault(node, []).append(r)
        for known in ("_objects", "one_sheet"):
            few.__dict__.pop(known, None)
        return few

    def vertices(self, rank: int) -> Sequence[Vec]:
        """The corners of a body in its own piece, mm."""
        return self._prisms[rank]

    def contact(
        self, i: int, j: int, at: float, depth: float, rests: bool = False, worst: float | None = None
    ) -> Contact:
        """A contact of two ranks."""
        solid = (i >= self.sheets, j >= self.sheets)
        return Contact(self.nodes[i], self.nodes[j], at, depth, rests, solid, at if worst is None else worst)

    def unpadded(self, corners: Floats, small: Truths) -> Iterator[tuple[Truths, Floats]]:
        """Corners (s, n, k, 3) in two lots: which of the n, and theirs without the padding that `small` ones have."""
        for those, columns in ((small, self.columns), (~small, slice(None))):
            if those.any():
                yield those, corners[:, those][:, :, columns]

    def corners(self, turns: Floats, origins: Floats, ranks: Ranks | slice = slice(None)) -> Floats:
        """Corners (s, n, k, 3) of the plates, or of those of some ranks, at `s` stations, mm."""
        local, small = self._local[ranks], self.small[ranks]
        if local.shape[1] == len(self.columns) or not small.any():
            return local @ turns.swapaxes(-1, -2) + origins[..., None, :]
        # those of few corners are turned with few, and padded after that: most of the work is theirs
        whole = np.empty((*turns.shape[:-2], *local.shape[1:]))
        large, few, half = ~small, len(self.columns) // 2, local.shape[1] // 2
        whole[..., large, :, :] = local[large] @ turns[..., large, :, :].swapaxes(-1, -2) + origins[..., large, None, :]
        own = local[small][:, self.columns] @ turns[..., small, :, :].swapaxes(-1, -2) + origins[..., small, None, :]
        for begin, end in ((0, few), (few, 2 * few)):
            at = half if begin else 0
            whole[..., small, at : at + few, :] = own[..., begin:end, :]
            whole[..., small, at + few : at + half, :] = own[..., begin : begin + 1, :]
        return whole

    def ways(self, turns: Floats, ranks: Ranks | slice = slice(None)) -> Floats:
        """Directions (s, n, k, 3) that may part each plate from another."""
        return self._ways[ranks] @ turns.swapaxes(-1, -2)

    def placed(self, frames: Sequence[Frame]) -> tuple[Floats, Floats]:
        """Rotations (n, 3, 3) and origins (n, 3) of the plates in a pose, mm."""
        f = np.array([frames[k] for k in self.nodes]).reshape(-1, 12)
        return f[:, :9].reshape(-1, 3, 3).transpose(0, 2, 1), f[:, 9:]

    def _set(self, k: int, turns: Floats, origins: Floats) -> Any:
        body = self._objects[k]
        body.setTransform(self._fcl.Transform(turns[k], origins[k]))
        return body

    def touch(self, i: int, j: int, turns: Floats, origins: Floats) -> Floats | None:
        """Where two plates (by rank) are in one place, mm, or None where they are not."""
        result = self._fcl.CollisionResult()
        hit = self._fcl.collide(self._set(i, turns, origins), self._set(j, turns, origins), self._request, result)
        return np.array(result.contacts[0].pos) if hit else None

    def way_apart(self, i: int, j: int, turns: Floats, origins: Floats) -> Floats | None:
        """The unit direction between the nearest points of two plates (by rank), or None where they touch."""
        result = self._fcl.DistanceResult()
        gap = self._fcl.distance(self._set(i, turns, origins), self._set(j, turns, origins), self._asked, result)
        if gap <= 1e-6:
            return None
        a, b = (np.asarray(p, dtype=float) for p in result.nearest_points)
        way: Floats = (b - a) / np.linalg.norm(b - a)
        return way

    def depth(self, i: int, j: int, corners: Floats, ways: Floats) -> float:
        """How far two plates are in one another, mm: the least way to part them, over their normals, the squares of
        their edges and of one edge with another (the separating axis theorem, from memory). 0 where they are
        apart."""
        a, b = corners[i], corners[j]
        crossed = np.cross(_edges(a)[:, None], _edges(b)[None]).reshape(-1, 3)
        axes = np.concatenate([ways[i], ways[j], crossed])
        size = np.linalg.norm(axes, axis=1)
        axes = axes[size > 1e-6] / size[size > 1e-6, None]
        pa, pb = a @ axes.T, b @ axes.T
        over = np.minimum(pa.max(axis=0) - pb.min(axis=0), pb.max(axis=0) - pa.min(axis=0))
        return max(0.0, float(over.min()))

    def shut_contacts(self, frames: Sequence[Frame]) -> tuple[Contact, ...]:
        """Sheets that are in one place in a pose."""
        if not self.nodes:
            return ()
        turns, origins = self.placed(frames)
        corners, ways = self.corners(turns, origins), self.ways(turns)
        lo, hi = corners.min(axis=1), corners.max(axis=1)
        meet = (lo[:, None] <= hi[None]).all(-1) & (lo[None] <= hi[:, None]).all(-1) & ~self.joined
        contacts = []
        for i, j in np.argwhere(np.triu(meet & ~self.one_sheet, 1)):
            if self.touch(i, j, turns, origins) is not None:
                contacts.append(self.contact(int(i), int(j), 0.0, self.depth(i, j, corners, ways)))
        return tuple(contacts)

    @cached_property
    def one_sheet(self) -> Truths:
        """Pairs of bodies that are panels on both sides of one crease that lies flat, (n, n)."""
        return self._among(over_flat_creases(self.assembly))

    def _among(self, nodes: Iterable[tuple[int, int]]) -> Truths:
        """The sheets of pairs of nodes, (n, n)."""
        pairs = np.zeros((len(self.nodes),) * 2, dtype=bool)
        for a, b in nodes:
            for i in self.ranks.get(a, ()):
                for j in self.ranks.get(b, ()):
                    pairs[i, j] = True
        return pairs
