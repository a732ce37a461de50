"""What would come of it: the thing half open, and its largest piece on the sheet it is cut from."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRect, QRectF, QSize, Qt
from PySide6.QtGui import QColor, QPainter, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import QWidget

from yawning_lantern.desktop.shared.scene import ScenePainter
from yawning_lantern.desktop.shared.spoken import GRAPHIC
from yawning_lantern.desktop.shared.theme import DAY, Theme
from yawning_lantern.fold.camera import Camera
from yawning_lantern.measure import format_size
from yawning_lantern.pattern import Piece
from yawning_lantern.study import Study

HALF_OPEN = 0.34
BORDER = 14.0


class StandingOutlook(QWidget):
    """The thing, folded and half open, drawn by the program itself."""

    spoken_role = GRAPHIC

    def __init__(self) -> None:
        super().__init__()
        self.theme: Theme = DAY
        self.study: Study | None = None
        self.setMinimumSize(160, 130)
        self.setAccessibleName("What would come of it, half open")

    def show_study(self, study: Study | None) -> None:
        """Another one, or none."""
        self.study = study
        self.setAccessibleDescription(study.design.root.name or study.design.root.family if study is not None else "")
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), self.theme.colour("table"))
        if self.study is None:
            painter.setPen(self.theme.colour("faint"))
            painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter, "It appears here as you type.")
            return
        size = (float(self.width()), float(self.height()))
        ScenePainter(self.study, HALF_OPEN, Camera(), size, self.theme).paint(painter)


def largest(study: Study) -> Piece | None:
    """The piece that wants the largest sheet."""
    cut = [piece for piece in study.pieces if not piece.bought]
    return max(cut, key=lambda piece: piece.size[0] * piece.size[1]).laid if cut else None


class SheetOutlook(QWidget):
    """The largest piece laid in the corner of its sheet, the way round that it fits."""

    spoken_role = GRAPHIC

    def __init__(self) -> None:
        super().__init__()
        self.theme: Theme = DAY
        self.study: Study | None = None
        self.setMinimumSize(130, 130)
        self.setAccessibleName("The largest piece on its sheet")

    def sizeHint(self) -> QSize:
        return QSize(240, 240)

    def show_study(self, study: Study | None) -> None:
        """Another one, or none."""
        self.study = study
        piece = largest(study) if study is not None else None
        self.setAccessibleDescription(self._words(piece) if piece is not None else "")
        self.update()

    def _words(self, piece: Piece) -> str:
        assert self.study is not None
        units = self.study.design.units
        sheet = piece.stock.sheet
        cut = format_size(piece.size, units, glyphs=True)
        return f"{piece.name}: {cut} from {format_size((sheet.width, sheet.height), units, glyphs=True)}"

    def paintEvent(self, event: QPaintEvent) -> None:
        t = self.theme
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), t.colour("table"))
        piece = largest(self.study) if self.study is not None else None
        if piece is None:
            return
        sheet = piece.stock.sheet
        wide, high = sheet.width, sheet.height
        turned = (piece.size[0] > wide or piece.size[1] > high) and piece.size[0] <= high and piece.size[1] <= wide
        if turned:
            wide, high = high, wide
        words = self._words(piece)
        flags = Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap
        under = painter.fontMetrics().boundingRect(QRect(0, 0, self.width() - 8, 1000), int(flags), words)
        foot = under.height() + 8.0
        extent = (max(wide, piece.size[0]), max(high, piece.size[1]))
        room = (self.width() - 2 * BORDER, self.height() - BORDER - foot)
        scale = min(room[0] / extent[0], room[1] / extent[1])
        left = (self.width() - extent[0] * scale) / 2
        base = (self.height() - foot + extent[1] * scale + BORDER) / 2

        def at(x: float, y: float) -> QPointF:
            return QPointF(left + x * scale, base - y * scale)

        painter.setPen(QPen(t.colour("faint"), 1, Qt.PenStyle.DashLine))
        painter.setBrush(t.colour("card"))
        painter.drawRect(QRectF(at(0, high), at(wide, 0)))
        painter.setPen(QPen(t.colour("ink"), 1.4))
        fill = QColor(piece.stock.front)
        painter.setBrush(fill)
        painter.drawPolygon(QPolygonF([at(*p) for p in piece.outline]))
        painter.setBrush(t.colour("card"))
        for hole in piece.holes:
            painter.drawPolygon(QPolygonF([at(*p) for p in hole]))
        painter.setPen(QPen(QColor("#ffffff" if fill.lightnessF() < 0.55 else "#1d1930"), 0.9, Qt.PenStyle.DashLine))
        for line in piece.lines:
            if line.kind != "mark":
                painter.drawLine(at(*line.start), at(*line.end))
        painter.setPen(t.colour("faint"))
        painter.drawText(QRectF(4, self.height() - foot, self.width() - 8, foot - 2), int(flags), words)
