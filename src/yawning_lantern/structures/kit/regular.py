"""Regular polygons: what boxes, lids and roofs of other than four walls are drawn about."""

from __future__ import annotations

import math
from collections.abc import Sequence

from msgspec import Struct

from yawning_lantern.pattern import Panel, Point


def half_flat(sides: int) -> float:
    """From the middle of a regular polygon to a side, for a side of one (any book on geometry)."""
    return 0.5 / math.tan(math.pi / sides)


def furthest(sides: int, way: float, bent: Sequence[bool]) -> tuple[float, float, float]:
    """How far out a regular polygon with a side at its head reaches one way, radians: in parts of a side, of a sheet on
    its sides, and of what lies on those and is `bent` around the corner after a side (h, half a turn, off a side and on
    past its end by h)."""
    turn, radius = 2 * math.pi / sides, 0.5 / math.sin(math.pi / sides)
    best = (0.0, 0.0, 0.0)
    for k in range(sides):
        out = math.pi / 2 + turn * k
        for corner, around in ((out - turn / 2, bent[k - 1]), (out + turn / 2, bent[k])):
            off = math.cos(out - way)
            past = abs(math.sin(out - way)) * turn / 2 if around else 0.0
            best = max(best, (radius * math.cos(corner - way), off, off + past), key=lambda far: far[0] + 1e-3 * far[2])
    return best


class Regular(Struct, frozen=True):
    """A regular polygon about its middle with a side on its right; its `side`, mm."""

    sides: int
    side: float

    @property
    def turn(self) -> float:
        """From one side to the next, radians."""
        return 2 * math.pi / self.sides

    @property
    def apothem(self) -> float:
        """From the middle to a side, mm."""
        return self.side * half_flat(self.sides)

    @property
    def corners(self) -> list[Point]:
        """Counter-clockwise from the lower end of the right side, mm."""
        radius = self.side / (2 * math.sin(math.pi / self.sides))
        angles = (self.turn * (k - 0.5) for k in range(self.sides))
        return [(radius * math.cos(a), radius * math.sin(a)) for a in angles]

    @property
    def square(self) -> float:
        """Half the side of the largest square in it that is level with its right side, mm: every side of the polygon
        bounds one corner of the square."""
        angles = [self.turn * k for k in range(self.sides)]
        return self.apothem / max(abs(math.cos(a)) + abs(math.sin(a)) for a in angles)


def moved(panels: Sequence[Panel]) -> tuple[list[Panel], Point]:
    """Panels with their lower left corner at nothing, and where nothing was."""
    x0, y0 = (min(p[m] for panel in panels for p in panel.outline) for m in (0, 1))
    return [panel.moved(lambda p: (p[0] - x0, p[1] - y0)) for panel in panels], (-x0, -y0)
