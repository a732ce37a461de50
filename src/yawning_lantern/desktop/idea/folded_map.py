"""A folded sheet on a picture: where its points are in pixels, what lies under one, which panels lie on top."""

from __future__ import annotations

from msgspec import Struct
from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtGui import QPolygonF

from yawning_lantern.flatfold.cavity import Stack
from yawning_lantern.flatfold.state import Folded
from yawning_lantern.pattern import Point, bounds
from yawning_lantern.pattern.convex import centroid

MARGIN = 26.0  # px


class FoldedMap(Struct, frozen=True):
    """A state with the areas of the same layers, in a picture `width` by `height` pixels."""

    state: Folded
    layers: tuple[Stack, ...]
    width: int
    height: int

    def _frame(self) -> tuple[float, float, float]:
        """Scale, and where the folded sheet's lower left corner is, px."""
        x0, y0, x1, y1 = bounds([p for place in self.state.places for p in place])
        scale = min((self.width - 2 * MARGIN) / max(x1 - x0, 1e-6), (self.height - 2 * MARGIN) / max(y1 - y0, 1e-6))
        return scale, (self.width - scale * (x0 + x1)) / 2, (self.height + scale * (y0 + y1)) / 2

    def px(self, p: Point) -> QPointF:
        """Where a point of the folded sheet (mm) is."""
        scale, left, foot = self._frame()
        return QPointF(left + p[0] * scale, foot - p[1] * scale)

    def place(self, pixel: QPointF) -> Point:
        """The point of the folded sheet under a pixel, mm."""
        scale, left, foot = self._frame()
        return (pixel.x() - left) / scale, (foot - pixel.y()) / scale

    def ring(self, points: tuple[Point, ...]) -> QPolygonF:
        """An outline (mm) in pixels."""
        return QPolygonF([self.px(p) for p in points])

    def stack_at(self, pixel: QPointF) -> Stack | None:
        """The layers under a pixel."""
        inside = Qt.FillRule.OddEvenFill
        return next((s for s in self.layers if self.ring(s.outline).containsPoint(pixel, inside)), None)

    def panels(self) -> list[str]:
        """The panels that lie on top, the largest area first."""
        layers = sorted(self.layers, key=lambda s: (-_extent(s.outline), s.outline))
        return list(dict.fromkeys(self.state.name(stack.layers[-1]) for stack in layers))

    def largest(self, name: str) -> Stack | None:
        """The largest area over which a panel lies on top."""
        on = [s for s in self.layers if self.state.name(s.layers[-1]) == name]
        return max(on, key=lambda s: _extent(s.outline), default=None)

    def middle(self, name: str) -> QPoint:
        """The middle of that area."""
        stack = self.largest(name)
        return self.px(centroid(stack.outline)).toPoint() if stack is not None else QPoint()


def _extent(outline: tuple[Point, ...]) -> float:
    x0, y0, x1, y1 = bounds(outline)
    return (x1 - x0) * (y1 - y0)
