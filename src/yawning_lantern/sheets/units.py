"""Lengths of one stock as whole numbers of a small unit, the blade's kerf told with every piece and every sheet."""

from __future__ import annotations

import math
from collections.abc import Iterable

from yawning_lantern.sheets.bounds import FINEST

FINE = 10_000
"""Lengths are told apart to a ten-thousandth of a millimetre."""
COARSE = 0.05
"""Where lengths have no common divisor worth having: what is wanted is rounded up to this, sheets down, mm."""


class Units:
    """A unit that divides all lengths (mm), where there is one worth having."""

    def __init__(self, lengths: Iterable[float], kerf: float) -> None:
        fine = [round(v * FINE) for v in (*lengths, kerf)]
        step = math.gcd(*fine) or 1
        coarse = max(fine) / step > 40 * FINEST
        self.step = COARSE if coarse else step / FINE
        self.kerf = kerf

    def up(self, length: float) -> int:
        """Of what is wanted, its share of the blade's cuts included."""
        return math.ceil((length + self.kerf) / self.step - 1e-6)

    def down(self, length: float) -> int:
        """Of a sheet."""
        return math.floor((length + self.kerf) / self.step + 1e-6)

    def near(self, length: float) -> int:
        """Of a setting of the fence that was made before."""
        return round((length + self.kerf) / self.step)

    def mm(self, units: int) -> float:
        """Where something begins, mm."""
        return units * self.step

    def size(self, units: int) -> float:
        """How long something is, mm: the blade's share taken off."""
        return max(units * self.step - self.kerf, 0.0)
