"""Where the bulk lies: the shut thing from above, every place coloured and figured by the sheets on it."""

from __future__ import annotations

from PySide6.QtCore import QRectF, QSize, Qt
from PySide6.QtGui import QColor, QFont, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QWidget

from yawning_lantern.desktop.shared.spoken import GRAPHIC
from yawning_lantern.desktop.shared.theme import DAY, Theme
from yawning_lantern.fold import BulkMap

FIGURES = 11
"""About how many figures lie along the longer side: more could not be read."""


class BulkView(QWidget):
    """The map of one study."""

    spoken_role = GRAPHIC

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.theme: Theme = DAY
        self.bulk: BulkMap | None = None
        self.setMinimumSize(150, 100)
        self.setAccessibleName("Bulk from above")

    def sizeHint(self) -> QSize:
        return QSize(240, 200)

    def show_bulk(self, bulk: BulkMap) -> None:
        """Show another map."""
        self.bulk = bulk
        self.setAccessibleDescription(f"At most {bulk.most} sheets lie in one place.")
        self.update()

    def colour_of(self, count: int) -> QColor:
        """The colour of a place with so many sheets: from the card's to the lamp's."""
        assert self.bulk is not None
        share = count / max(self.bulk.most, 1)
        low, high = self.theme.colour("field"), self.theme.colour("lamp")
        pairs = ((low.redF(), high.redF()), (low.greenF(), high.greenF()), (low.blueF(), high.blueF()))
        return QColor.fromRgbF(*(a + (b - a) * share for a, b in pairs))

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        if self.bulk is None:
            return
        rows, columns = len(self.bulk.layers), len(self.bulk.layers[0])
        size = min((self.width() - 4) / columns, (self.height() - 4) / rows)
        left, top = (self.width() - size * columns) / 2, (self.height() - size * rows) / 2
        painter.setPen(Qt.PenStyle.NoPen)
        for r, row in enumerate(self.bulk.layers):
            for c, count in enumerate(row):
                if count:
                    painter.setBrush(self.colour_of(count))
                    y = top + (rows - 1 - r) * size  # rows go away from the maker
                    painter.drawRect(QRectF(left + c * size, y, size + 0.5, size + 0.5))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(self.theme.colour("fence"), 1))
        painter.drawRect(QRectF(left, top, size * columns, size * rows))
        every = max(1, round(max(rows, columns) / FIGURES))
        font = QFont(painter.font())
        font.setPixelSize(max(8, min(12, int(size * every * 0.6))))
        painter.setFont(font)
        for r in range(every // 2, rows, every):
            for c in range(every // 2, columns, every):
                count = self.bulk.layers[r][c]
                if count:
                    painter.setPen(QColor("#1c1830" if self.colour_of(count).lightnessF() > 0.55 else "#ffffff"))
                    y = top + (rows - 1 - r) * size
                    half = every * size / 2
                    box = QRectF(left + (c + 0.5) * size - half, y + size / 2 - half, 2 * half, 2 * half)
                    painter.drawText(box, Qt.AlignmentFlag.AlignCenter, str(count))
