"""Verdicts as shapes, so that none is told by colour alone."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPen, QPolygonF

from yawning_lantern.desktop.shared.theme import Theme


def draw_verdict(painter: QPainter, verdict: str, at: QPointF, size: float, theme: Theme) -> None:
    """A mark of `size` pixels about `at`: crossed square, wedge, two bars, disc or ring."""
    colour = theme.colour(verdict)
    r = size / 2
    painter.save()
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.setPen(QPen(colour, max(1.6, size / 8)))
    painter.setBrush(colour)
    if verdict == "clash":
        painter.drawRect(QRectF(at.x() - r, at.y() - r, size, size))
        painter.setPen(QPen(theme.colour("card"), max(1.6, size / 6)))
        k = r * 0.55
        painter.drawLine(QPointF(at.x() - k, at.y() - k), QPointF(at.x() + k, at.y() + k))
        painter.drawLine(QPointF(at.x() - k, at.y() + k), QPointF(at.x() + k, at.y() - k))
    elif verdict == "tight":
        points = [QPointF(at.x() - r, at.y() - r), QPointF(at.x() + r, at.y() - r), QPointF(at.x(), at.y() + r)]
        painter.drawPolygon(QPolygonF(points))
    elif verdict == "snug":
        painter.setPen(Qt.PenStyle.NoPen)
        painter.drawRect(QRectF(at.x() - r, at.y() - r, size * 0.38, size))
        painter.drawRect(QRectF(at.x() + r - size * 0.38, at.y() - r, size * 0.38, size))
    elif verdict == "easy":
        painter.drawEllipse(at, r * 0.8, r * 0.8)
    else:
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawEllipse(at, r * 0.85, r * 0.85)
    painter.restore()
