"""Swatches: every thing of the drawer drawn by the program, papers with a corner folded over to show the back."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QBrush, QColor, QPainter, QPen, QPolygonF, QTransform

from yawning_lantern.desktop.shared.printed import flat_brush
from yawning_lantern.desktop.shared.theme import Theme
from yawning_lantern.stock import Adhesive, Item, Paper, ReadyMade, Tool

CORNER = 0.36
"""How much of a swatch's height is folded over."""
SHOWN = 70.0
"""So many mm of a sheet a swatch shows of its pattern, across its height."""


def paint_swatch(painter: QPainter, box: QRectF, item: Item, theme: Theme) -> None:
    """A thing in a box, px."""
    painter.save()
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.setPen(QPen(theme.colour("fence"), 1))
    if isinstance(item, Paper):
        _paper(painter, box, item, theme)
    elif isinstance(item, Adhesive):
        _adhesive(painter, box, item, theme)
    elif isinstance(item, ReadyMade):
        _ready_made(painter, box, item)
    else:
        _tool(painter, box, item, theme)
    painter.restore()


def _paper(painter: QPainter, box: QRectF, paper: Paper, theme: Theme) -> None:
    """Front up, its upper right corner folded down: there the back is seen as it would be, its up side turned over."""
    fold = box.height() * CORNER
    a, b = QPointF(box.right() - fold, box.top()), QPointF(box.right(), box.top() + fold)
    tip = QPointF(a.x(), b.y())
    scale = box.height() / SHOWN
    onto = QTransform(scale, 0.0, 0.0, -scale, box.left(), box.bottom())
    painter.setBrush(flat_brush(paper, 0, onto) if theme.patterned else QColor(paper.front))
    painter.drawPolygon(QPolygonF([box.topLeft(), a, b, box.bottomRight(), box.bottomLeft()]))
    if paper.kind == "board":  # its edge tells that it is thick
        edge = QRectF(box.left(), box.bottom() - 4, box.width(), 4)
        painter.fillRect(edge, QColor(paper.front).darker(135))
    # reflected in the crease from a to b: (x, y) goes to where the corner came from
    over = QTransform(0.0, scale, scale, 0.0, a.x(), b.y() - box.height()) if paper.back_motif else onto
    painter.setBrush(flat_brush(paper, 0, over, front=False) if theme.patterned else QColor(paper.back))
    painter.drawPolygon(QPolygonF([a, b, tip]))


def _adhesive(painter: QPainter, box: QRectF, glue: Adhesive, theme: Theme) -> None:
    """A drop for glue, a roll as wide as the tape is for tape, pads for foam."""
    painter.setBrush(theme.colour("card"))
    painter.drawRect(box)
    middle, size = box.center(), box.height()
    if glue.is_wet:
        painter.setBrush(theme.colour("worked"))
        drop = QPolygonF([
            QPointF(middle.x(), middle.y() - size * 0.34), QPointF(middle.x() + size * 0.2, middle.y() + size * 0.08),
            QPointF(middle.x() - size * 0.2, middle.y() + size * 0.08),
        ])  # fmt: skip
        painter.drawPolygon(drop)
        painter.drawEllipse(QPointF(middle.x(), middle.y() + size * 0.12), size * 0.205, size * 0.2)
    elif glue.width is not None:
        wide = min(size * 0.8, max(6.0, glue.width / 15.0 * size))
        painter.setBrush(QColor("#f3e7c2"))
        painter.drawRect(QRectF(middle.x() - size * 0.55, middle.y() - wide / 2, size * 1.1, wide))
        painter.setBrush(QColor("#d8c48c"))
        painter.drawRect(QRectF(middle.x() - size * 0.55, middle.y() - wide / 2, size * 0.22, wide))
    else:
        painter.setBrush(QColor("#e9e2d0"))
        for x in (-1, 0, 1):
            for y in (-1, 0, 1):
                side = size * 0.16
                spot = QPointF(middle.x() + x * size * 0.24, middle.y() + y * size * 0.24)
                painter.drawRect(QRectF(spot.x() - side / 2, spot.y() - side / 2, side, side))


def _ready_made(painter: QPainter, box: QRectF, thing: ReadyMade) -> None:
    scale = min(box.width() * 0.9 / thing.width, box.height() * 0.9 / thing.height)
    part = QRectF(0, 0, thing.width * scale, thing.height * scale)
    part.moveCenter(box.center())
    painter.setBrush(QColor(thing.front))
    painter.drawRoundedRect(part, 3, 3)


def _tool(painter: QPainter, box: QRectF, tool: Tool, theme: Theme) -> None:
    """A board with its grooves, as many as its grid or they themselves tell, over 60 mm; a blade where it cuts."""
    painter.setBrush(theme.colour("card"))
    painter.drawRect(box)
    painter.setBrush(theme.colour("fence"))
    painter.drawRect(QRectF(box.left(), box.top(), box.width(), 5))
    scale = box.width() / 60.0
    grooves = tool.grooves or tuple(k * tool.grid for k in range(1, int(60.0 / tool.grid) + 1))
    painter.setPen(QPen(theme.colour("faint"), 1))
    for k, groove in enumerate(grooves):
        x = box.left() + groove * scale
        if x < box.right() - 1 and (scale * tool.grid > 2 or k % 4 == 0 or tool.grooves):
            painter.drawLine(QPointF(x, box.top() + 7), QPointF(x, box.bottom() - (3 if tool.does("score") else 22)))
    if tool.does("cut"):
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QBrush(theme.colour("lamp")))
        middle = box.center()
        painter.drawPolygon(QPolygonF([
            QPointF(middle.x() - 5, box.bottom() - 18), QPointF(middle.x() + 5, box.bottom() - 18),
            QPointF(middle.x(), box.bottom() - 3),
        ]))  # fmt: skip
