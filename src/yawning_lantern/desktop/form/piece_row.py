"""The pieces of the chosen part in a row, small, to pick from."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import QSizePolicy, QWidget

from yawning_lantern.desktop.shared.spoken import LIST, Spoken
from yawning_lantern.desktop.shared.theme import DAY, Theme
from yawning_lantern.pattern import Piece

CELL, TALL = 74.0, 62
GAP = 4.0


class PieceRow(QWidget):
    """Each piece to the same scale with its name; `picked` carries the place of the one that was picked."""

    spoken_role = LIST

    picked = Signal(int)

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.theme: Theme = DAY
        self.pieces: tuple[Piece, ...] = ()
        self.at = 0
        self.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Pieces of the part")

    def sizeHint(self) -> QSize:
        return QSize(200, TALL + self.fontMetrics().height())

    def show_pieces(self, pieces: tuple[Piece, ...], at: int) -> None:
        """Show the pieces of a part, one of them as the one that is seen above."""
        if pieces is self.pieces and at == self.at:
            return
        self.pieces, self.at = pieces, at
        self.setVisible(len(pieces) > 1)
        told = "; ".join(f"{p.name}{f', cut {p.quantity}' if p.quantity > 1 else ''}" for p in pieces)
        self.setAccessibleDescription(f"{told}. {pieces[at].name} is shown. Left and right choose." if pieces else "")
        self.update()

    def cell(self, k: int) -> QRectF:
        """Where a piece is drawn; cells are as wide as the row gives, and the chosen one is always in view."""
        count = max(len(self.pieces), 1)
        wide = max(CELL * 0.7, min(CELL * 1.4, (self.width() - GAP) / count))
        seen = max(1, int((self.width() - GAP) / wide))
        first = max(0, min(self.at - seen // 2, count - seen))
        return QRectF(GAP + (k - first) * wide, 2.0, wide - GAP, self.height() - 4.0)

    def spoken_items(self) -> list[Spoken]:
        """Every piece and how often it is cut."""
        return [
            Spoken(f"{p.name}, cut {p.quantity}", self.cell(k), chosen=k == self.at) for k, p in enumerate(self.pieces)
        ]

    def paintEvent(self, event: QPaintEvent) -> None:
        t = self.theme
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        line = painter.fontMetrics().height()
        largest = max((max(p.size) for p in self.pieces), default=1.0)
        for k, piece in enumerate(self.pieces):
            box = self.cell(k)
            painter.setPen(QPen(t.colour("lamp"), 2) if k == self.at else QPen(t.colour("line"), 1))
            painter.setBrush(t.colour("field" if k == self.at else "card"))
            painter.drawRoundedRect(box, 3, 3)
            room = box.adjusted(5, 4, -5, -line - 3)
            shown = piece.laid
            scale = min(room.width(), room.height()) / largest
            scale = max(scale, min(6.0 / max(min(shown.size), 0.1), room.width() / max(shown.size)))
            scale = min(scale, room.width() / shown.size[0], room.height() / shown.size[1])
            left = room.center().x() - shown.size[0] * scale / 2
            foot = room.center().y() + shown.size[1] * scale / 2
            painter.setPen(QPen(t.colour("ink"), 0.8))
            painter.setBrush(QColor(piece.stock.front))
            painter.drawPolygon(QPolygonF([QPointF(left + x * scale, foot - y * scale) for x, y in shown.outline]))
            painter.setPen(t.colour("ink" if k == self.at else "faint"))
            words = f"{piece.name} ×{piece.quantity}" if piece.quantity > 1 else piece.name
            words = painter.fontMetrics().elidedText(words, Qt.TextElideMode.ElideMiddle, int(box.width()) - 4)
            under = QRectF(box.left(), box.bottom() - line - 1, box.width(), line)
            painter.drawText(under, Qt.AlignmentFlag.AlignCenter, words)
        if self.hasFocus():
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(t.colour("lamp"), 1, Qt.PenStyle.DotLine))
            painter.drawRect(self.rect().adjusted(0, 0, -1, -1))

    def mousePressEvent(self, event: QMouseEvent) -> None:
        for k in range(len(self.pieces)):
            if self.cell(k).contains(event.position()):
                self.picked.emit(k)
                return

    def keyPressEvent(self, event: QKeyEvent) -> None:
        step = {Qt.Key.Key_Right: 1, Qt.Key.Key_Left: -1}.get(Qt.Key(event.key()))
        if step is None or not self.pieces:
            super().keyPressEvent(event)
            return
        self.picked.emit((self.at + step) % len(self.pieces))
