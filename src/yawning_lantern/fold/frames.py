"""Rigid motions, and the step over a crease by true thickness.

A crease is a small arc of the mid-surface: radius R = (t + wrap)/2 on the valley side, arc length R·θ taken in equal
halves from the two panels. With v across the crease, n the front normal and ρ = R·sign(θ), a point at v on the far
panel goes to

    v' = −ρθ/2·(1 + cos θ) + ρ sin θ + v cos θ,      n' = ρ(1 − cos θ) − ρθ/2·sin θ + v sin θ

(worked from the arc's tangent points; R = 0 gives the plain hinge). A 90° fold so moves its wall out by
R(1 − π/4) ≈ 0.107 t, a 180° fold leaves its leaves t + wrap apart.
"""

from __future__ import annotations

import math

from yawning_lantern.assembly import CreaseStep, Vec
from yawning_lantern.assembly.joined import Frame


def apply(frame: Frame, x: float, y: float, z: float = 0.0) -> Vec:
    """A point through a frame, mm."""
    return (
        frame[9] + x * frame[0] + y * frame[3] + z * frame[6],
        frame[10] + x * frame[1] + y * frame[4] + z * frame[7],
        frame[11] + x * frame[2] + y * frame[5] + z * frame[8],
    )


def then(a: Frame, b: Frame) -> Frame:
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
    half = 0.0 if step.strip else rho * angle / 2
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


def inverse(a: Frame) -> Frame:
    """The frame that takes back what `a` does: its turn transposed."""
    back: Frame = (a[0], a[3], a[6], a[1], a[4], a[7], a[2], a[5], a[8], 0.0, 0.0, 0.0)
    x, y, z = apply(back, -a[9], -a[10], -a[11])
    return (*back[:9], x, y, z)


def turned(frame: Frame, at: Vec, axis: Vec, angle: float) -> Frame:
    """A frame turned about a unit axis through a point (both where the frame is told), radians, right-handed: the
    formula of Rodrigues (textbook)."""
    c, s = math.cos(angle), math.sin(angle)
    (x, y, z), k = axis, 1.0 - math.cos(angle)
    turn: Frame = (
        c + x * x * k, y * x * k + z * s, z * x * k - y * s,
        x * y * k - z * s, c + y * y * k, z * y * k + x * s,
        x * z * k + y * s, y * z * k - x * s, c + z * z * k,
        0.0, 0.0, 0.0,
    )  # fmt: skip
    ox, oy, oz = apply(turn, -at[0], -at[1], -at[2])
    return then((*turn[:9], at[0] + ox, at[1] + oy, at[2] + oz), frame)


def crease_turn(step: CreaseStep, angle: float) -> tuple[Vec, Vec, Vec]:
    """How a crease's far panel moves as the angle grows, in the near panel's frame: the axis (unit), the point that
    turns with it, and what that point itself moves per radian (mm). The derivative of `crease_frame`."""
    c, s = math.cos(angle), math.sin(angle)
    rho = step.radius if angle >= 0 else -step.radius
    arc = 0.0 if step.strip else rho / 2  # half of what the bend takes of the paper's length, for each radian
    half = arc * angle
    tv, tn = rho * s - half * (1 + c), rho * (1 - c) - half * s
    dv = rho * c - arc * (1 + c) + half * s
    dn = (rho - arc) * s - half * c
    vx, vy = step.into
    fx, fy = step.foot[0] + vx * step.settle, step.foot[1] + vy * step.settle
    return (vy, -vx, 0.0), (fx + tv * vx, fy + tv * vy, tn), (dv * vx, dv * vy, dn)
