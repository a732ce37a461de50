"""A line of faint text that gives way: it is elided where there is no room, and a new text moves nothing around it."""

from __future__ import annotations

from PySide6.QtCore import QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QSizePolicy, QWidget

from yawning_lantern.desktop.shared.spoken import TEXT
from yawning_lantern.desktop.shared.theme import DAY, Theme


class Caption(QWidget):
    """Right-aligned; unlike a label it never asks its layout for other room, so that an edit lays nothing out anew."""

    spoken_role = TEXT

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.theme: Theme = DAY
        self._text = ""
        self.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)

    def sizeHint(self) -> QSize:
        return QSize(60, self.fontMetrics().height() + 2)

    def text(self) -> str:
        """The whole text."""
        return self._text

    def setText(self, text: str) -> None:
        """Show another text."""
        if text != self._text:
            self._text = text
            self.setToolTip(text)
            self.setAccessibleName(text)
            self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setPen(self.theme.colour("faint"))
        shown = painter.fontMetrics().elidedText(self._text, Qt.TextElideMode.ElideMiddle, self.width())
        painter.drawText(self.rect(), Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter, shown)
