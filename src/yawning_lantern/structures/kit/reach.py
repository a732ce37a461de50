"""Falling panels: how long a strap must be, and how far a panel reaches."""

from __future__ import annotations

import math

from yawning_lantern.measure import inches, snap, told
from yawning_lantern.pattern import Line, Panel, Piece, build_piece, rectangle
from yawning_lantern.structures.kit.declare import Situation

STRAP_AT = 0.75
"""Where a strap is fixed, as a share of the panel's height. Common practice, no source."""


STRAP_BREADTH, STRAP_END = inches(3 / 8), inches(1 / 2)
"""Breadth of a strap, and what is glued of it at either end, mm. Common practice, no source."""


def strap_piece(s: Situation, free: float, count: int) -> Piece:
    """A strap of so much free length, mm, cut from the body's sheet; its ends are marked."""
    total = snap(free + 2 * STRAP_END, s.cut.grid, "up").value
    at = ((total - free) / 2, (total + free) / 2)
    marks = [Line("mark", "none", (x, 0.0), (x, STRAP_BREADTH)) for x in at]
    panel = Panel("strap", "strap", rectangle(0.0, 0.0, total, STRAP_BREADTH))
    return build_piece(
        f"{s.element}.strap", f"{s.name}, strap", s.paper, [panel], marks=marks, quantity=count,
        note=f"Free for {told(free)}, fixed three quarters up by its ends; it folds inward when all is shut.",
    )  # fmt: skip


def strap_bulk(s: Situation) -> float:
    """What a folded strap adds where it lies, mm."""
    return 2 * s.paper.caliper + s.glue


def strap_length(a: float, b: float, drop: float) -> float:
    """From a point `a` up a standing panel to one `b` up a panel that fell by `drop` radians, mm (law of cosines)."""
    return math.sqrt(max(0.0, a * a + b * b - 2 * a * b * math.cos(drop)))


def fall_reach(length: float, drop: float) -> float:
    """How far a panel of this length stands out from its hinge when it fell by `drop` radians, mm."""
    return length * math.sin(drop) if drop <= math.pi / 2 else length
