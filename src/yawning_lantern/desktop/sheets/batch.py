"""How many sheets so many copies of the whole design take, as a small plot."""

from __future__ import annotations

from PySide6.QtCore import QRectF, QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QWidget

from yawning_lantern.desktop.shared.spoken import GRAPHIC
from yawning_lantern.desktop.shared.theme import DAY, Theme


class CopiesView(QWidget):
    """How many sheets so many copies take: a bar for each number of copies, the sheets over it."""

    spoken_role = GRAPHIC

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.theme: Theme = DAY
        self.counts: tuple[int, ...] = ()
        self.copies = 1
        self.setAccessibleName("Sheets for so many copies")

    def sizeHint(self) -> QSize:
        return QSize(220, 96)

    def show_counts(self, counts: tuple[int, ...], copies: int) -> None:
        """Show other counts; one number of copies is the chosen one."""
        self.counts, self.copies = counts, copies
        told = ", ".join(f"{k} take {n}" for k, n in enumerate(counts, 1))
        self.setAccessibleDescription(f"Sheets by copies: {told}." if told else "")
        self.setMinimumHeight(96 if counts else 0)
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        t = self.theme
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if not self.counts:
            return
        line = painter.fontMetrics().height()
        wide, most = self.width() / len(self.counts), max(self.counts)
        room = self.height() - 2 * line - 6
        for k, count in enumerate(self.counts, 1):
            tall = max(2.0, room * count / most)
            left = (k - 1) * wide
            bar = QRectF(left + wide * 0.2, line + 2 + room - tall, wide * 0.6, tall)
            here = k == self.copies
            painter.setPen(QPen(t.colour("lamp" if here else "line"), 1))
            painter.setBrush(t.colour("lamp" if here else "fence"))
            painter.drawRect(bar)
            painter.setPen(t.colour("ink"))
            over = QRectF(left, bar.top() - line - 1, wide, line)
            painter.drawText(over, Qt.AlignmentFlag.AlignCenter, str(count))
            painter.setPen(t.colour("faint"))
            painter.drawText(QRectF(left, self.height() - line - 2, wide, line), Qt.AlignmentFlag.AlignCenter, f"{k}×")
