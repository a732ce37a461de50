"""Snapping to a tool's grid, in the direction that keeps the clearance, with what is left over."""

from __future__ import annotations

import math
from typing import Literal

from msgspec import Struct

Direction = Literal["up", "down", "nearest"]
_SAME = 1e-6  # mm: what counts as on the grid already


class Snapped(Struct, frozen=True):
    """A length on a grid. `value`, `exact` and `residual` (= value − exact) in mm."""

    value: float
    exact: float

    @property
    def residual(self) -> float:
        """What the snap added (or took off), mm."""
        return self.value - self.exact


def snap(length: float, step: float, direction: Direction = "nearest", offset: float = 0.0) -> Snapped:
    """Move `length` (mm) onto the grid `offset + k·step` (mm). A step of 0 or less leaves it alone."""
    if step <= 0:
        return Snapped(length, length)
    k = (length - offset) / step
    slack = _SAME / step
    if direction == "up":
        whole = math.ceil(k - slack)
    elif direction == "down":
        whole = math.floor(k + slack)
    else:
        whole = math.floor(k + 0.5 + slack)
    return Snapped(offset + whole * step, length)
