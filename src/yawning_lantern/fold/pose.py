"""Where every panel is in a state, by true thickness: creases, rigid joints, rings and bent sheets."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from functools import lru_cache

from msgspec import Struct, field

from yawning_lantern.assembly import Assembly, CreaseStep, Node, PlaceStep
from yawning_lantern.assembly.joined import Frame
from yawning_lantern.fold.bsp import Facet, Vec, facet
from yawning_lantern.fold.frames import apply, crease_frame, inverse, then, turned
from yawning_lantern.fold.rings import ring_angles
from yawning_lantern.pattern.convex import without


class State(Struct, frozen=True):
    """How far the making is done (0 flat, 1 made) and how far each motion is (0 shut, 1 open), by motion index.

    `rests` tells of creases that come to rest before their motion is done: (node, motion) and the share they reach.
    """

    make: float
    progress: tuple[float, ...]
    rests: Mapping[tuple[int, int], float] = field(default_factory=dict)


def opening_state(assembly: Assembly, position: float) -> State:
    """The state at a place on the line from flat (−1) over shut (0) to open (1).

    Motions open one after the other in the order they have in the assembly: a lid before what it covers, an outer
    layer before an inner one.
    """
    n = len(assembly.motions)
    if position <= 0:
        return State(1.0 + max(position, -1.0), (0.0,) * n)
    done = min(position, 1.0) * n
    return State(1.0, tuple(min(1.0, max(0.0, done - k)) for k in range(n)))


def fold_angle(index: int, nodes: Sequence[Node], state: State) -> float:
    """The angle of a node's crease in a state, radians, where no ring decides it."""
    node = nodes[index]
    step = node.step
    assert isinstance(step, CreaseStep)
    if state.make < 1.0 and step.stage is not None:
        begin, end = step.stage
        return step.shut * min(1.0, max(0.0, (state.make - begin) / (end - begin)))
    if state.make < 1.0:
        outer = isinstance(nodes[node.parent].step, PlaceStep)  # folds next to the middle come last
        share = 2 * state.make - 1 if outer else 2 * state.make
        return step.shut * min(1.0, max(0.0, share))
    return _angle(index, step, state)


def _angle(index: int, step: CreaseStep, state: State) -> float:
    """The angle of a node's crease when all is made, as far as its motions are, radians."""
    return step.shut + sum(_share(index, motion, state) * added for motion, added in step.turns)


def _share(index: int, motion: int, state: State) -> float:
    """How far a motion is at a node: no further than to where that came to rest."""
    share = state.progress[motion]
    return min(share, state.rests.get((index, motion), 1.0)) if state.rests else share


def placed(step: PlaceStep, state: State) -> Frame:
    """The frame of a rigid joint in a state: moved by its motions, or off its place while it is not made."""
    frame = step.frame
    x, y, z = frame[9:]
    if state.make < 1.0:
        away = 1.0 - state.make
        x, y, z = x + away * step.apart[0], y + away * step.apart[1], z + away * step.apart[2]
        return (*frame[:9], x, y, z)
    for motion, way in step.moves:
        share = state.progress[motion]
        x, y, z = x + share * way[0], y + share * way[1], z + share * way[2]
    frame = (*frame[:9], x, y, z)
    for motion, at, axis, angle in step.pins:
        if state.progress[motion]:
            frame = turned(frame, at, axis, state.progress[motion] * angle)
    for motion, node, crease, own in step.rolls:
        if state.progress[motion]:
            now = _angle(node, crease, state)
            was = now - _share(node, motion, state) * sum(added for m, added in crease.turns if m == motion)
            frame = _rolled(frame, crease_frame(crease, was), crease_frame(crease, now), own)
    return frame


def _rolled(frame: Frame, before: Frame, after: Frame, own: bool) -> Frame:
    """A frame rolled over a crease, so that what lies beyond that stays: of its `own` by the way from where the crease
    was to where it is, of a rider back by the same way."""
    if own:
        return then(frame, then(before, inverse(after)))
    return then(after, then(inverse(before), frame))


class Posed(Struct, frozen=True):
    """An assembly and its frames in a pose."""

    assembly: Assembly
    frames: Sequence[Frame]


def unmoved(now: Posed, before: Posed) -> frozenset[str]:
    """The elements that are in both the very same, in the same place: their nodes and frames in one serve in the other.
    In both poses nothing is on its way."""
    old = before.assembly.parts
    return frozenset(
        element
        for element, part in now.assembly.parts.items()
        if old.get(element) is part and now.frames[part.first] == before.frames[part.first]
    )


def shut_pose(assembly: Assembly, before: Posed | None = None) -> list[Frame]:
    """The frames when everything is shut; those of the very same nodes on what did not move are taken over from another
    shut pose."""
    state = opening_state(assembly, 0.0)
    if before is None:
        return pose(assembly, state)
    old, known = before.assembly.nodes, len(before.frames)
    frames: list[Frame] = []
    for i, node in enumerate(assembly.nodes):
        if i < known and node is old[i] and (node.parent < 0 or frames[node.parent] is before.frames[node.parent]):
            frames.append(before.frames[i])
        else:
            frames.append(_framed(i, assembly.nodes, frames, state, {}))
    return frames


def _framed(i: int, nodes: Sequence[Node], frames: Sequence[Frame], state: State, solved: Mapping[int, float]) -> Frame:
    """The frame of a node whose parent has its own."""
    node = nodes[i]
    step = node.step
    if isinstance(step, CreaseStep):
        angle = solved[i] if i in solved else fold_angle(i, nodes, state)
        return then(frames[node.parent], crease_frame(step, angle))
    frame = placed(step, state) if step.moves or step.pins or step.rolls or state.make < 1.0 else step.frame
    return frame if node.parent < 0 else then(frames[node.parent], frame)


def pose(assembly: Assembly, state: State) -> list[Frame]:
    """The frame of every node in the world, mm: z up, the root's underside on z = 0. Rings are closed as well as their
    paper allows (see `fold.rings`)."""
    frames: list[Frame] = []
    nodes = assembly.nodes
    solved: dict[int, float] = {}
    if assembly.rings and state.make >= 1.0:
        for ring in assembly.rings:
            if state.progress[ring.motion] > 0.0:
                solved.update(ring_angles(assembly, ring, state.progress[ring.motion]))
    for i in range(len(nodes)):
        frames.append(_framed(i, nodes, frames, state, solved))
    return frames


def corners(node: Node, frame: Frame, make: float = 1.0) -> list[Vec]:
    """The corners of a panel's mid-surface in the world, mm."""
    if node.shape is None:
        a, b, c, d, e, f, _, _, _, u, v, w = frame  # written out: it runs for every corner at every edit
        return [(u + x * a + y * d, v + x * b + y * e, w + x * c + y * f) for x, y in node.panel.outline]
    return [apply(frame, *p) for p in node.shape.points(node.place, make)]


def flat_parts(node: Node, frame: Frame, make: float) -> list[tuple[list[Vec], Vec, tuple[bool, ...]]]:
    """The panel as plane polygons: corners (mm), unit normal of the front, which edges are the panel's own.

    A panel that bends is told as triangles about its first corner, one with a window as what is left around that.
    """
    points = corners(node, frame, make)
    if node.shape is None and node.panel.window:
        normal = (frame[6], frame[7], frame[8])
        return [
            ([apply(frame, x, y) for x, y in part], normal, own)
            for part, own in _around(node.panel.outline, node.panel.window)
        ]
    if node.shape is None:
        return [(points, (frame[6], frame[7], frame[8]), (True,) * len(points))]
    parts: list[tuple[list[Vec], Vec, tuple[bool, ...]]] = []
    for k in range(1, len(points) - 1):
        a, b, c = points[0], points[k], points[k + 1]
        ux, uy, uz = b[0] - a[0], b[1] - a[1], b[2] - a[2]
        vx, vy, vz = c[0] - a[0], c[1] - a[1], c[2] - a[2]
        nx, ny, nz = uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx
        size = math.sqrt(nx * nx + ny * ny + nz * nz)
        if size > 1e-9:
            own = (k == 1, True, k == len(points) - 2)
            parts.append(([a, b, c], (nx / size, ny / size, nz / size), own))
    return parts


_around = lru_cache(maxsize=512)(without)


def plane_of(node: Node, frame: Frame, make: float = 1.0) -> tuple[Vec, Vec, Vec]:
    """Where a panel's piece lies in the world: its origin (mm), its x and its y. Of a panel that bends, those of the
    first three corners that make a triangle."""
    if node.shape is None:
        return (frame[9], frame[10], frame[11]), (frame[0], frame[1], frame[2]), (frame[3], frame[4], frame[5])
    flat, bent = node.panel.outline, corners(node, frame, make)
    (x0, y0), (ox, oy, oz) = flat[0], bent[0]
    edges = [(k, flat[k][0] - x0, flat[k][1] - y0, flat[k + 1][0] - x0, flat[k + 1][1] - y0)
             for k in range(1, len(flat) - 1)]  # fmt: skip
    k, ax, ay, bx, by = next(edge for edge in edges if abs(edge[1] * edge[4] - edge[3] * edge[2]) > 1e-9)
    size = ax * by - bx * ay
    a, b = ([bent[k + n][m] - bent[0][m] for m in range(3)] for n in (0, 1))
    xx, xy, xz = ((a[m] * by - b[m] * ay) / size for m in range(3))
    yx, yy, yz = ((b[m] * ax - a[m] * bx) / size for m in range(3))
    return (ox - x0 * xx - y0 * yx, oy - x0 * xy - y0 * yy, oz - x0 * xz - y0 * yz), (xx, xy, xz), (yx, yy, yz)


def facets(assembly: Assembly, frames: Sequence[Frame], make: float = 1.0) -> list[Facet]:
    """Every panel's mid-surface as polygons in the world, in node order."""
    return [one for i in range(len(assembly.nodes)) for one in _facets_of(i, assembly, frames, make)]


def shut_facets(now: Posed, before: Posed | None = None, known: Sequence[Facet] = ()) -> list[Facet]:
    """The facets of a shut pose; those of what did not move are taken over from the `known` ones of another."""
    if before is None:
        return facets(now.assembly, now.frames)
    still, old = unmoved(now, before), dict[int, list[Facet]]()
    for one in known:
        old.setdefault(one.node, []).append(one)
    return [
        one
        for i, node in enumerate(now.assembly.nodes)
        for one in (old.get(i, ()) if node.element in still else _facets_of(i, now.assembly, now.frames, 1.0))
    ]


def _facets_of(i: int, assembly: Assembly, frames: Sequence[Frame], make: float) -> list[Facet]:
    """The polygons of one node."""
    parts = flat_parts(assembly.nodes[i], frames[i], make)
    return [facet(i, points, own, normal) for points, normal, own in parts]


def extent(assembly: Assembly, frames: Sequence[Frame], make: float = 1.0) -> tuple[Vec, Vec]:
    """Least and greatest corner of everything in a pose, sheet thickness included, mm."""
    return extent_of(assembly, facets(assembly, frames, make))


def extent_of(assembly: Assembly, found: Sequence[Facet]) -> tuple[Vec, Vec]:
    """Least and greatest corner of everything, sheet thickness included, mm."""
    x0 = y0 = z0 = math.inf
    x1 = y1 = z1 = -math.inf
    nodes = assembly.nodes
    for one in found:  # it runs for every sheet at every edit: written out
        half = nodes[one.node].piece.stock.caliper / 2
        (x, y, z, w, d, h), (nx, ny, nz) = one.box, one.normal
        w, d, h = w + half * abs(nx), d + half * abs(ny), h + half * abs(nz)
        x0, x1 = x - w if x - w < x0 else x0, x + w if x + w > x1 else x1
        y0, y1 = y - d if y - d < y0 else y0, y + d if y + d > y1 else y1
        z0, z1 = z - h if z - h < z0 else z0, z + h if z + h > z1 else z1
    return (x0, y0, z0), (x1, y1, z1)
