"""How a piece lies on the board: which edge is at the fence, which face is up. Pictures have the fence at the left."""

from __future__ import annotations

from msgspec import Struct

from yawning_lantern.bench.score_plan import Edge
from yawning_lantern.bench.scores import Face
from yawning_lantern.pattern import Point


class Lying(Struct, frozen=True):
    """From the piece as it is drawn, front up (mm), to the board: so far from the fence, so far along it, mm."""

    edge: Edge
    face: Face
    size: tuple[float, float]

    @property
    def extent(self) -> tuple[float, float]:
        """From the fence, and along it, mm."""
        w, h = self.size
        return (w, h) if self.edge in ("left", "right") else (h, w)

    def at(self, p: Point) -> Point:
        """Where a point of the piece is on the board, mm."""
        (x, y), (w, h) = p, self.size
        u, v = {
            "left": (x, y), "right": (w - x, h - y), "foot": (y, w - x), "head": (h - y, x),
        }[self.edge]  # fmt: skip
        return (u, v) if self.face == "front" else (u, self.extent[1] - v)
