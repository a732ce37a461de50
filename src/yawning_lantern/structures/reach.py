"""Falling panels: how long a strap must be, and how far a panel reaches."""

from __future__ import annotations

import math

STRAP_AT = 0.75
"""Where a strap is fixed, as a share of the panel's height. Common practice, no source."""


def strap_length(a: float, b: float, drop: float) -> float:
    """From a point `a` up a standing panel to one `b` up a panel that fell by `drop` radians, mm (law of cosines)."""
    return math.sqrt(max(0.0, a * a + b * b - 2 * a * b * math.cos(drop)))


def fall_reach(length: float, drop: float) -> float:
    """How far a panel of this length stands out from its hinge when it fell by `drop` radians, mm."""
    return length * math.sin(drop) if drop <= math.pi / 2 else length
