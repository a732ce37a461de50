"""Where gaps are drawn in the shut thing."""

from __future__ import annotations

import math

from msgspec import Struct

from yawning_lantern.fit import Check
from yawning_lantern.fold import apply
from yawning_lantern.fold.bsp import Vec
from yawning_lantern.study.study import Study


class Anchor(Struct, frozen=True):
    """Where a gap lies when shut: from the guest's face to the host's, in the world, mm."""

    start: Vec
    end: Vec


def anchor_of(study: Study, check: Check) -> Anchor | None:
    """Where to draw a gap, or None where it has no place in the shut thing."""
    gap = check.gap
    frame = study.mount_frames.get((gap.host, gap.mount))
    if frame is None or gap.reach is None or not gap.use.drawn:
        return None
    if gap.where == "up":
        side = study.resolved[gap.element].depth * 6.0
        return Anchor(apply(frame, side, 0.0, gap.reach - gap.value), apply(frame, side, 0.0, gap.reach))
    if gap.angle is None:
        return None
    c, s = math.cos(gap.angle), math.sin(gap.angle)
    share = 0.5 if gap.in_all else 1.0
    near = gap.reach + gap.value * share * (1 if gap.use.outside else -1)
    return Anchor(apply(frame, near * c, near * s, gap.level), apply(frame, gap.reach * c, gap.reach * s, gap.level))
