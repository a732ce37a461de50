"""What the open design uses: a chip for each stock with its parts, how much of it is needed and what is missing."""

from __future__ import annotations

from msgspec import Struct
from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QResizeEvent
from PySide6.QtWidgets import QWidget

from yawning_lantern.desktop.shared.spoken import LIST, Spoken
from yawning_lantern.desktop.shared.theme import DAY, Theme
from yawning_lantern.desktop.stock.swatch import paint_swatch
from yawning_lantern.stock import Item

WIDE, HIGH, APART = 196.0, 58.0, 8.0
SMALLER = 0.62
"""The width of a chip that tells no count, against others."""


class Used(Struct, frozen=True):
    """A thing the design uses: which, for what in words, how many sheets of it are needed at most and there are. None
    are needed of what is no sheet; 0 stands for what is not known, and `why` says why."""

    item: Item
    parts: str
    needed: int | None = None
    there: int | None = None
    why: str = ""

    @property
    def missing(self) -> int:
        """So many more are needed than were counted."""
        return max(0, (self.needed or 0) - self.there) if self.there is not None else 0

    @property
    def words(self) -> str:
        """How much of it is needed, and what of that is there."""
        if self.needed is None:
            return self.parts
        if not self.needed:
            return self.why
        need = "1 sheet" if self.needed == 1 else f"{self.needed} sheets"
        if self.there is None:
            return f"{need}, not counted"
        return f"{need}, {self.missing} missing" if self.missing else f"{need}, {self.there} there"


class UsedView(QWidget):
    """Chips in rows; a click or the arrow keys choose one. `chosen` carries the thing."""

    spoken_role = LIST
    chosen = Signal(object)

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.theme: Theme = DAY
        self.used: tuple[Used, ...] = ()
        self.at = -1
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("What this design uses")

    def show_used(self, used: tuple[Used, ...]) -> None:
        """Show what a design uses."""
        self.used = used
        told = "; ".join(f"{one.item.name}: {one.words}" for one in used)
        self.setAccessibleDescription(told)
        self._grow()
        self.update()

    def mark(self, name: str) -> None:
        """Mark the chip of the thing of that id."""
        self.at = next((k for k, one in enumerate(self.used) if one.item.id == name), -1)
        self.update()

    def _boxes(self) -> list[QRectF]:
        """Where the chips are, px: in rows, a tool's or glue's chip smaller than a paper's."""
        columns = max(1, int((self.width() + APART) / (WIDE + APART)))
        wide = (self.width() + APART) / columns - APART
        boxes: list[QRectF] = []
        x = y = 0.0
        for one in self.used:
            own = wide if one.needed is not None else wide * SMALLER
            if x > 0 and x + own > self.width() + 1:
                x, y = 0.0, y + HIGH + 4
            boxes.append(QRectF(x, y, own, HIGH))
            x += own + APART
        return boxes

    def _grow(self) -> None:
        boxes = self._boxes()
        self.setMinimumHeight(int(boxes[-1].bottom() + 2) if boxes else 0)

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._grow()

    def sizeHint(self) -> QSize:
        return QSize(600, self.minimumHeight())

    def box(self, k: int) -> QRectF:
        """Where a chip is, px."""
        return self._boxes()[k]

    def spoken_items(self) -> list[Spoken]:
        """Every chip."""
        return [
            Spoken(f"{one.item.name}, {one.words}, {one.parts}", self.box(k), chosen=k == self.at)
            for k, one in enumerate(self.used)
        ]

    def paintEvent(self, event: QPaintEvent) -> None:
        t = self.theme
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        metrics = painter.fontMetrics()
        for k, (one, box) in enumerate(zip(self.used, self._boxes(), strict=True)):
            painter.setBrush(t.colour("field"))
            here = k == self.at
            painter.setPen(QPen(t.colour("lamp" if here else "line"), 2 if here else 1))
            painter.drawRoundedRect(box.adjusted(1, 1, -1, -1), 3, 3)
            wide = 58 if one.needed is not None else 40
            paint_swatch(painter, QRectF(box.left() + 6, box.top() + 6, wide, HIGH - 12), one.item, t)
            left = box.left() + wide + 13
            room = int(box.right() - left - 5)
            lines = [(one.item.name, "ink"), (one.words, "clash" if one.missing else "ink"), (one.parts, "faint")]
            if one.needed is None:
                lines.pop(1)
            top = box.top() + (HIGH - len(lines) * metrics.height()) / 2 + metrics.ascent()
            for row, (words, colour) in enumerate(lines):
                painter.setPen(t.colour(colour))
                font = painter.font()
                font.setBold(row == 0)
                painter.setFont(font)
                told = painter.fontMetrics().elidedText(words, Qt.TextElideMode.ElideRight, room)
                painter.drawText(QPointF(left, top + row * metrics.height()), told)
        if self.hasFocus():
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(t.colour("lamp"), 1, Qt.PenStyle.DashLine))
            painter.drawRect(self.rect().adjusted(0, 0, -1, -1))

    def _choose(self, k: int) -> None:
        if 0 <= k < len(self.used):
            self.at = k
            self.update()
            self.chosen.emit(self.used[k].item)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        for k, box in enumerate(self._boxes()):
            if box.contains(event.position()):
                self._choose(k)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        step = {Qt.Key.Key_Right: 1, Qt.Key.Key_Left: -1, Qt.Key.Key_Down: 1, Qt.Key.Key_Up: -1}.get(
            Qt.Key(event.key())
        )
        if step is None:
            super().keyPressEvent(event)
            return
        self._choose(max(0, min(len(self.used) - 1, self.at + step)))
