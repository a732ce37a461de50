"""A piece to point at: its sides and scores, the chosen one in the lamp's colour."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QWidget

from yawning_lantern.bench.lying import Lying
from yawning_lantern.desktop.bench.drawing import Place, draw_blank, draw_lines, ink_on
from yawning_lantern.desktop.shared.spoken import LIST, Spoken
from yawning_lantern.desktop.shared.theme import DAY, Theme
from yawning_lantern.pattern import Piece, Point
from yawning_lantern.study.amiss import lines_of
from yawning_lantern.study.mend import slits_of

REACH = 9.0  # px


class PiecePick(QWidget):
    """Front up. `picked`: a line, by its name."""

    picked = Signal(str)
    spoken_role = LIST

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.theme: Theme = DAY
        self.piece: Piece | None = None
        self.chosen = ""
        self.with_slits = False
        self.setMinimumSize(240, 200)
        self.setAccessibleName("The piece")
        self.setAccessibleDescription("Click the line that went wrong, or choose it in the list.")

    def sizeHint(self) -> QSize:
        return QSize(420, 320)

    def show_piece(self, piece: Piece | None, chosen: str, *, with_slits: bool) -> None:
        """Show a piece with one of its lines chosen."""
        self.piece = piece.laid if piece is not None else None
        self.chosen, self.with_slits = chosen, with_slits
        self.update()

    def spoken_items(self) -> list[Spoken]:
        """Every line that can be chosen."""
        return [
            Spoken(name, QRectF(a, b).normalized().adjusted(-4, -4, 4, 4), chosen=name == self.chosen)
            for name, (a, b) in self.ends().items()
        ]

    def ends(self) -> dict[str, tuple[QPointF, QPointF]]:
        """Where each line that can be chosen runs, px."""
        piece = self.piece
        if piece is None:
            return {}
        place, (w, h) = self._place(piece), piece.size
        if self.with_slits:
            return {
                f"s{k + 1}": (place.point(line.start), place.point(line.end)) for k, line in enumerate(slits_of(piece))
            }
        ends: dict[str, tuple[Point, Point]] = {}
        for name, at in lines_of(piece).items():
            upright = name[0] in "wx"
            ends[name] = ((at, 0.0), (at, h)) if upright else ((0.0, at), (w, at))
        return {name: (place.point(a), place.point(b)) for name, (a, b) in ends.items()}

    def _place(self, piece: Piece) -> Place:
        return Place.within(QRectF(self.rect()).adjusted(6, 14, -22, -14), Lying("left", "front", piece.size))

    def mousePressEvent(self, event: QMouseEvent) -> None:
        at = event.position()
        near = {name: _away(at, a, b) for name, (a, b) in self.ends().items()}
        if near and min(near.values()) < REACH:
            self.picked.emit(min(near, key=lambda name: near[name]))

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), self.theme.colour("table"))
        if self.piece is None:
            return
        place = self._place(self.piece)
        draw_blank(painter, self.piece, place, self.theme, blank=False)
        draw_lines(painter, self.piece, place, (), self.theme)
        ends = self.ends().get(self.chosen)
        if ends is not None:
            painter.setPen(QPen(self.theme.colour("lamp"), 5))
            painter.drawLine(*ends)
        painter.setPen(ink_on(self.piece.stock.front))
        box = QRectF(self.rect()).adjusted(30, 16, -30, -18)
        painter.drawText(box, Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignBottom, "front up")


def _away(p: QPointF, a: QPointF, b: QPointF) -> float:
    """How far a pixel is from a line between two others."""
    way, to = b - a, p - a
    long = way.x() ** 2 + way.y() ** 2
    share = max(0.0, min(1.0, (to.x() * way.x() + to.y() * way.y()) / long)) if long else 0.0
    off = to - way * share
    return float((off.x() ** 2 + off.y() ** 2) ** 0.5)
