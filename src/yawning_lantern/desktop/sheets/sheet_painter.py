"""How a sheet is drawn: pieces in their paper, cuts numbered, what is left hatched, what is locked pinned."""

from __future__ import annotations

from itertools import combinations
from math import ceil
from typing import Protocol

from msgspec import Struct
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QBrush, QColor, QFont, QPainter, QPen, QTransform

from yawning_lantern.desktop.shared.printed import draw_plate, flat_brush
from yawning_lantern.desktop.shared.theme import Theme
from yawning_lantern.measure import Units, format_size
from yawning_lantern.sheets import Move, Placed, SheetPlan, cut_lines
from yawning_lantern.stock import Paper

HEAD = 22.0
"""The height of a sheet's heading, px."""


class Dragged(Struct, frozen=True):
    """A piece under the hand: its sheet and rank, where in it the hand holds it, and where the hand is, px."""

    sheet: int
    rank: int
    grip: QPointF
    at: QPointF


class Laid(Protocol):
    """What is known of sheets that are drawn: the view."""

    theme: Theme
    sheets: tuple[SheetPlan, ...]
    papers: dict[str, Paper]
    units: Units
    kerf: float
    at: int
    rank: int
    marked: frozenset[str]
    cut: frozenset[int]
    locked: frozenset[tuple[int, int]]

    def box(self, k: int) -> QRectF:
        """Where a sheet is, px."""

    def place(self, k: int, placed: Placed) -> QRectF:
        """Where a piece is, px."""

    def move_of(self, dragged: Dragged) -> Move | None:
        """Where a dragged piece would go."""

    def font(self) -> QFont:
        """The view's font."""


def _corner_boxes(sheet: SheetPlan, box: QRectF) -> list[QRectF]:
    """Where what the outlines of pieces leave is drawn, px; `box` is the sheet."""
    scale = box.width() / sheet.board.width
    return [
        QRectF(box.left() + c.x * scale, box.bottom() - (c.y + c.height) * scale, c.width * scale, c.height * scale)
        for c in sheet.corners
    ]


def free_room(part: QRectF, taken: list[QRectF]) -> QRectF:
    """The largest upright rectangle of a piece that meets nothing of what is taken: where its name stands."""
    within = [box for box in taken if box.intersects(part)]
    if not within:
        return part
    sides = sorted({part.left(), part.right(), *(x for b in within for x in (b.left(), b.right()))})
    free = []
    for x0, x1 in combinations([x for x in sides if part.left() <= x <= part.right()], 2):
        at = part.top()
        beside = sorted((b.top(), b.bottom()) for b in within if b.left() < x1 and b.right() > x0)
        for top, bottom in (*beside, (part.bottom(), part.bottom())):
            if top > at:
                free.append(QRectF(x0, at, x1 - x0, top - at))
            at = max(at, bottom)
    return max(free, key=lambda room: room.width() * room.height(), default=part)


class SheetPainter:
    """Draws the sheets of a view."""

    def __init__(self, view: Laid, painter: QPainter) -> None:
        self.view, self.painter = view, painter

    def sheet(self, k: int, sheet: SheetPlan) -> None:
        t, box = self.view.theme, self.view.box(k)
        here = k == self.view.at
        self.painter.setPen(t.colour("lamp" if here else "ink"))
        font = self.painter.font()
        font.setBold(here)
        self.painter.setFont(font)
        size = format_size((sheet.board.width, sheet.board.height), self.view.units, glyphs=True)
        paper = self.view.papers[sheet.board.stock].name
        words = f"{'Off-cut' if sheet.board.kept else 'Sheet'} {k + 1} · {size} · {paper}"
        words = self.painter.fontMetrics().elidedText(words, Qt.TextElideMode.ElideRight, int(box.width()))
        self.painter.drawText(
            QRectF(box.left(), box.top() - HEAD, box.width(), HEAD - 3), Qt.AlignmentFlag.AlignVCenter, words
        )
        font.setBold(False)
        self.painter.setFont(font)
        self.painter.setPen(Qt.PenStyle.NoPen)
        self.painter.setBrush(t.colour("field"))
        self.painter.drawRect(box)
        scale = box.width() / sheet.board.width
        for left in sheet.left:
            part = QRectF(box.left() + left.x * scale, box.bottom() - (left.y + left.height) * scale,
                          left.width * scale, left.height * scale)  # fmt: skip
            self.painter.fillRect(part, QBrush(t.colour("line"), Qt.BrushStyle.BDiagPattern))
            if left.useful and part.width() > 34 and part.height() > 18:
                wide = self.painter.fontMetrics().horizontalAdvance(left.name) + 10
                plate = QRectF(part.center().x() - wide / 2, part.center().y() - 9, wide, 18)
                self.painter.fillRect(plate, t.colour("field"))
                self.painter.setPen(t.colour("faint"))
                self.painter.drawText(plate, Qt.AlignmentFlag.AlignCenter, left.name)
        brush = self._fill(sheet, box)
        corners = _corner_boxes(sheet, box)
        for rank in range(len(sheet.placed)):
            self._piece(k, rank, brush, corners)
        self._corners(sheet, corners)
        self._cuts(box, sheet, here)
        if k in self.view.cut:
            veil = QColor(t.colour("field"))
            veil.setAlphaF(0.72)
            self.painter.fillRect(box, veil)
            self.painter.setPen(t.colour("easy"))
            font.setBold(True)
            font.setPointSizeF(font.pointSizeF() * 1.6)
            self.painter.setFont(font)
            self.painter.drawText(box, Qt.AlignmentFlag.AlignCenter, "✓ cut")
            self.painter.setFont(self.view.font())
        self.painter.setBrush(Qt.BrushStyle.NoBrush)
        self.painter.setPen(QPen(t.colour("lamp"), 2.5) if here else QPen(t.colour("fence"), 1.2))
        self.painter.drawRect(box)

    def _fill(self, sheet: SheetPlan, box: QRectF) -> QBrush:
        """What pieces are filled with: the paper as it lies, its pattern's up side as on the sheet."""
        paper, scale = self.view.papers[sheet.board.stock], box.width() / sheet.board.width
        if not self.view.theme.patterned:
            return QBrush(QColor(paper.front))
        return flat_brush(paper, 0, QTransform(scale, 0.0, 0.0, -scale, box.left(), box.bottom()))

    def _corners(self, sheet: SheetPlan, boxes: list[QRectF]) -> None:
        """What the outlines of pieces leave, hatched on them."""
        t = self.view.theme
        for corner, whole in zip(sheet.corners, boxes, strict=True):
            part = whole.adjusted(1, 1, -1, -1)
            self.painter.fillRect(part, t.colour("field"))
            self.painter.fillRect(part, QBrush(t.colour("line"), Qt.BrushStyle.BDiagPattern))
            wide = self.painter.fontMetrics().horizontalAdvance(corner.name)
            if part.width() > wide + 4 and part.height() > 16:
                self.painter.setPen(t.colour("faint"))
                self.painter.drawText(part, Qt.AlignmentFlag.AlignCenter, corner.name)

    def _piece(self, k: int, rank: int, brush: QBrush, corners: list[QRectF]) -> None:
        placed = self.view.sheets[k].placed[rank]
        t, part = self.view.theme, self.view.place(k, placed)
        paper = self.view.papers[self.view.sheets[k].board.stock]
        colour = QColor(paper.front)
        marked = placed.piece in self.view.marked
        self.painter.setPen(QPen(t.colour("lamp"), 2.2) if marked else QPen(t.colour("ink"), 0.8))
        self.painter.setBrush(brush)
        self.painter.drawRect(part.adjusted(0.5, 0.5, -0.5, -0.5))
        dark = colour.lightnessF() < 0.55
        self.painter.setPen(QColor("#fffaf0" if dark else "#2b2640"))
        room = free_room(part, corners).adjusted(3, 2, -3, -2)
        upright = room.height() > 1.6 * room.width() and room.width() < 70
        self.painter.save()
        if upright:
            self.painter.translate(room.center())
            self.painter.rotate(-90)
            room = QRectF(-room.height() / 2, -room.width() / 2, room.height(), room.width())
        metrics = self.painter.fontMetrics()
        line = metrics.height()
        if room.height() >= line - 3 and room.width() > 24:
            size = format_size((placed.width, placed.height), self.view.units, glyphs=True).replace(" ", "\u00a0")
            size = size.replace("\u00a0×\u00a0", " × ")  # a line may end between two lengths, not within one
            words = f"{placed.piece}\n{size}"
            wrapped = Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap
            asked = metrics.boundingRect(room.toRect(), wrapped, words)
            if asked.height() > room.height() or asked.width() > ceil(room.width()):
                words = metrics.elidedText(placed.piece, Qt.TextElideMode.ElideRight, int(room.width()))
            if t.patterned and paper.front_motif is not None:
                asked = metrics.boundingRect(room.toRect(), wrapped, words)
                draw_plate(self.painter, QRectF(asked).intersected(room), colour)
            self.painter.drawText(room, wrapped, words)
        self.painter.restore()
        if (k, rank) in self.view.locked:
            self._pin(part)
        if (k, rank) == (self.view.at, self.view.rank):
            self.painter.setBrush(Qt.BrushStyle.NoBrush)
            self.painter.setPen(QPen(t.colour("lamp"), 2.5, Qt.PenStyle.DotLine))
            self.painter.drawRect(part.adjusted(3, 3, -3, -3))

    def _pin(self, part: QRectF) -> None:
        """A pin in the upper left of a piece that stays."""
        t = self.view.theme
        head = QPointF(part.left() + 11, part.top() + 10)
        self.painter.setPen(QPen(t.colour("lamp"), 2))
        self.painter.drawLine(head, head + QPointF(5, 8))
        self.painter.setPen(QPen(t.colour("lamp_ink"), 1))
        self.painter.setBrush(t.colour("lamp"))
        self.painter.drawEllipse(head, 5.0, 5.0)

    def _cuts(self, box: QRectF, sheet: SheetPlan, here: bool) -> None:
        """The cuts; of the chosen sheet their numbers stand at the end where the blade goes in."""
        t = self.view.theme
        scale = box.width() / sheet.board.width
        self.painter.setPen(QPen(t.colour("lamp" if here else "fence"), 1.3 if here else 0.8, Qt.PenStyle.DashLine))
        lines = cut_lines(sheet, self.view.kerf)
        ends = []
        for cut in lines:
            a = QPointF(box.left() + cut.x0 * scale, box.bottom() - cut.y0 * scale)
            b = QPointF(box.left() + cut.x1 * scale, box.bottom() - cut.y1 * scale)
            self.painter.drawLine(a, b)
            ends.append((cut.number, a))
        if not here:
            return
        font = self.painter.font()
        font.setBold(True)
        self.painter.setFont(font)
        for number, end in ends:
            spot = QRectF(end.x() - 9, end.y() - 9, 18, 18)
            spot.moveLeft(min(max(spot.left(), box.left() - 4), box.right() - 14))
            spot.moveTop(min(max(spot.top(), box.top() - 4), box.bottom() - 14))
            self.painter.setPen(Qt.PenStyle.NoPen)
            self.painter.setBrush(t.colour("lamp"))
            self.painter.drawRoundedRect(spot, 3, 3)
            self.painter.setPen(t.colour("lamp_ink"))
            self.painter.drawText(spot, Qt.AlignmentFlag.AlignCenter, str(number))
        font.setBold(False)
        self.painter.setFont(font)

    def ghost(self, dragged: Dragged) -> None:
        """The piece that is dragged, and whether it could stay where it is."""
        t = self.view.theme
        part = self.view.place(dragged.sheet, self.view.sheets[dragged.sheet].placed[dragged.rank])
        part.moveTopLeft(dragged.at - dragged.grip)
        move = self.view.move_of(dragged)
        self.painter.setPen(QPen(t.colour("worked" if move else "clash"), 2.5, Qt.PenStyle.DashLine))
        veil = QColor(t.colour("field"))
        veil.setAlphaF(0.6)
        self.painter.setBrush(veil)
        self.painter.drawRect(part)
        if not move:
            self.painter.drawText(part, Qt.AlignmentFlag.AlignCenter, "✕")
