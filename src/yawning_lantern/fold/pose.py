"""Where every panel is in a state, by true thickness.

A crease is a small arc of the mid-surface: radius R = (t + wrap)/2 on the valley side, arc length R·θ taken in equal
halves from the two panels. With v across the crease, n the front normal and ρ = R·sign(θ), a point at v on the far
panel goes to

    v' = −ρθ/2·(1 + cos θ) + ρ sin θ + v cos θ,      n' = ρ(1 − cos θ) − ρθ/2·sin θ + v sin θ

(worked from the arc's tangent points; R = 0 gives the plain hinge). A 90° fold so moves its wall out by
R(1 − π/4) ≈ 0.107 t, a 180° fold leaves its leaves t + wrap apart.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from yawning_lantern.assembly import Assembly, CreaseStep, Node, PlaceStep
from yawning_lantern.assembly.joined import Frame
from yawning_lantern.fold.bsp import Facet, Vec


@dataclass(frozen=True, slots=True)
class State:
    """How far the making is done (0 flat, 1 made) and how far each motion is (0 shut, 1 open), by motion index."""

    make: float
    progress: tuple[float, ...]


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


def apply(frame: Frame, x: float, y: float, z: float = 0.0) -> Vec:
    """A point through a frame, mm."""
    return (
        frame[9] + x * frame[0] + y * frame[3] + z * frame[6],
        frame[10] + x * frame[1] + y * frame[4] + z * frame[7],
        frame[11] + x * frame[2] + y * frame[5] + z * frame[8],
    )


def _then(a: Frame, b: Frame) -> Frame:
    """The frame that first does b, then a."""
    (a0, a1, a2, a3, a4, a5, a6, a7, a8, a9, a10, a11) = a
    (b0, b1, b2, b3, b4, b5, b6, b7, b8, b9, b10, b11) = b
    return (
        b0 * a0 + b1 * a3 + b2 * a6, b0 * a1 + b1 * a4 + b2 * a7, b0 * a2 + b1 * a5 + b2 * a8,
        b3 * a0 + b4 * a3 + b5 * a6, b3 * a1 + b4 * a4 + b5 * a7, b3 * a2 + b4 * a5 + b5 * a8,
        b6 * a0 + b7 * a3 + b8 * a6, b6 * a1 + b7 * a4 + b8 * a7, b6 * a2 + b7 * a5 + b8 * a8,
        a9 + b9 * a0 + b10 * a3 + b11 * a6, a10 + b9 * a1 + b10 * a4 + b11 * a7,
        a11 + b9 * a2 + b10 * a5 + b11 * a8,
    )  # fmt: skip


def crease_frame(step: CreaseStep, angle: float) -> Frame:
    """The motion of the far panel over a crease folded to `angle` (radians), in piece coordinates, mm."""
    c, s = math.cos(angle), math.sin(angle)
    rho = step.radius if angle >= 0 else -step.radius
    half = rho * angle / 2
    tv = rho * s - half * (1 + c)
    tn = rho * (1 - c) - half * s
    (ux, uy), (vx, vy) = step.along, step.into
    fx, fy = step.foot[0] + vx * step.settle, step.foot[1] + vy * step.settle
    # in-plane x̂ = (x̂·u)u + (x̂·v)v ; v turns to c·v + s·n, n to ±(−s·v + c·n)
    xx, xy, xz = ux * ux + vx * vx * c, ux * uy + vx * vy * c, vx * s
    yx, yy, yz = uy * ux + vy * vx * c, uy * uy + vy * vy * c, vy * s
    zx, zy, zz = -s * vx, -s * vy, c
    ox = fx - (fx * xx + fy * yx) + tv * vx
    oy = fy - (fx * xy + fy * yy) + tv * vy
    oz = -(fx * xz + fy * yz) + tn
    return (xx, xy, xz, yx, yy, yz, zx, zy, zz, ox, oy, oz)


def _angle(node: Node, nodes: Sequence[Node], state: State) -> float:
    step = node.step
    assert isinstance(step, CreaseStep)
    if state.make < 1.0:
        outer = isinstance(nodes[node.parent].step, PlaceStep)  # folds next to the middle come last
        share = 2 * state.make - 1 if outer else 2 * state.make
        return step.shut * min(1.0, max(0.0, share))
    if step.motion < 0:
        return step.shut
    return step.shut + state.progress[step.motion] * (step.open - step.shut)


def pose(assembly: Assembly, state: State) -> list[Frame]:
    """The frame of every node in the world, mm: z up, the root's underside on z = 0."""
    frames: list[Frame] = []
    nodes = assembly.nodes
    for node in nodes:
        step = node.step
        if isinstance(step, CreaseStep):
            frames.append(_then(frames[node.parent], crease_frame(step, _angle(node, nodes, state))))
            continue
        frame = step.frame
        if step.lift:
            share = state.progress[step.motion] if state.make >= 1.0 else 1.0 - state.make
            up = step.side * step.lift * share
            frame = (*frame[:11], frame[11] + up)
        frames.append(frame if node.parent < 0 else _then(frames[node.parent], frame))
    return frames


def facets(assembly: Assembly, frames: Sequence[Frame]) -> list[Facet]:
    """Every panel's mid-surface as a polygon in the world, in node order."""
    found = []
    for i, (node, frame) in enumerate(zip(assembly.nodes, frames, strict=True)):
        points = tuple(apply(frame, x, y) for x, y in node.panel.outline)
        found.append(Facet(i, points, (True,) * len(points), (frame[6], frame[7], frame[8])))
    return found


def extent(assembly: Assembly, frames: Sequence[Frame]) -> tuple[Vec, Vec]:
    """Least and greatest corner of everything, sheet thickness included, mm."""
    lo, hi = [math.inf] * 3, [-math.inf] * 3
    for node, frame in zip(assembly.nodes, frames, strict=True):
        half = node.piece.stock.caliper / 2
        points = [apply(frame, x, y) for x, y in node.panel.outline]
        for k in range(3):
            values = [p[k] for p in points]
            thick = half * abs(frame[6 + k])
            lo[k] = min(lo[k], min(values) - thick)
            hi[k] = max(hi[k], max(values) + thick)
    return (lo[0], lo[1], lo[2]), (hi[0], hi[1], hi[2])
