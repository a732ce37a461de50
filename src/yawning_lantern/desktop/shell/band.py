"""The page band: a pleated strip at the left. Each pleat is a page; the open one stands out."""

from __future__ import annotations

from PySide6.QtCore import QEvent, QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QColor, QFontMetricsF, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import QSizePolicy, QWidget

from yawning_lantern.desktop.shared.spoken import TAB, TABS, Spoken
from yawning_lantern.desktop.shared.theme import DAY, Theme

PLEAT = 74
WIDTH = 84


class PageBand(QWidget):
    """Chooses a page. `chosen` carries the page's id."""

    spoken_role = TABS

    chosen = Signal(str)

    def __init__(self, pages: list[tuple[str, str]], parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._pages = pages
        self._current = pages[0][0]
        self._warned: dict[str, str] = {}
        self.theme: Theme = DAY
        self.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Expanding)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Pages")
        self._tell()

    def sizeHint(self) -> QSize:
        return QSize(int(self.wide), int(PLEAT * len(self._pages)))

    @property
    def wide(self) -> float:
        """As wide as the longest name asks, px."""
        font = self.font()
        font.setBold(True)
        longest = max(QFontMetricsF(font).horizontalAdvance(name) for _, name in self._pages)
        return max(WIDTH, longest + 34.0)

    def changeEvent(self, event: QEvent) -> None:
        super().changeEvent(event)
        if event.type() == QEvent.Type.FontChange:
            self.updateGeometry()

    @property
    def current(self) -> str:
        """The open page."""
        return self._current

    def show_page(self, page: str) -> None:
        """Mark a page as open, without a signal."""
        self._current = page
        self._tell()
        self.update()

    def warn(self, page: str, words: str) -> None:
        """Mark that something is wrong on a page, or with no words that nothing is."""
        if self._warned.get(page, "") == words:
            return
        self._warned[page] = words
        self._tell()
        self.update()

    def _tell(self) -> None:
        words = dict(self._pages)[self._current]
        trouble = self._warned.get(self._current, "")
        self.setAccessibleDescription(f"{words} is open. {trouble}".strip())
        self.setToolTip(
            "\n".join(f"{name}: {self._warned[page]}" for page, name in self._pages if self._warned.get(page))
        )

    def _pleat(self, index: int) -> tuple[QPolygonF, QPolygonF]:
        """Upper and lower face of a pleat: the hill in the middle stands out to the right."""
        y, out = index * PLEAT + 6.0, self.wide - 4.0
        back = out - 13.0
        mid = y + PLEAT / 2
        upper = QPolygonF([QPointF(0, y), QPointF(back, y), QPointF(out, mid), QPointF(0, mid)])
        lower = QPolygonF([QPointF(0, mid), QPointF(out, mid), QPointF(back, y + PLEAT), QPointF(0, y + PLEAT)])
        return upper, lower

    def spoken_items(self) -> list[Spoken]:
        """Every page, and what is wrong there."""
        return [
            Spoken(
                f"{name}: {self._warned[page]}" if self._warned.get(page) else name,
                QRectF(0.0, k * PLEAT + 6.0, self.wide, PLEAT),
                TAB,
                page == self._current,
            )
            for k, (page, name) in enumerate(self._pages)
        ]

    def paintEvent(self, event: QPaintEvent) -> None:
        t = self.theme
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), t.colour("ground"))
        for index, (page, name) in enumerate(self._pages):
            here = page == self._current
            base = t.colour("lamp") if here else t.colour("card")
            upper, lower = self._pleat(index)
            painter.setPen(QPen(t.colour("line"), 1))
            painter.setBrush(base.lighter(106))
            painter.drawPolygon(upper)
            painter.setBrush(base.darker(108))
            painter.drawPolygon(lower)
            painter.setPen(t.colour("lamp_ink") if here else t.colour("ink"))
            font = painter.font()
            font.setBold(here)
            painter.setFont(font)
            box = QRectF(6, index * PLEAT + 6, self.wide - 20, PLEAT / 2)
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, name)
            if self._warned.get(page):
                self._mark(painter, QPointF(self.wide - 26, index * PLEAT + 58.0), t.colour("clash"))
        for index in range(len(self._pages), int(self.height() / PLEAT) + 1):
            painter.setPen(Qt.PenStyle.NoPen)
            for face, shade in zip(self._pleat(index), (101, 97), strict=True):
                painter.setBrush(t.colour("ground").lighter(shade + 2 if t.dark else shade))
                painter.drawPolygon(face)
        if self.hasFocus():
            upper, lower = self._pleat([p for p, _ in self._pages].index(self._current))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(t.colour("ink"), 1.5, Qt.PenStyle.DotLine))
            painter.drawPolygon(QPolygonF([upper.at(0), upper.at(1), upper.at(2), lower.at(2), lower.at(3)]))

    @staticmethod
    def _mark(painter: QPainter, at: QPointF, colour: QColor) -> None:
        painter.setPen(QPen(QColor("#ffffff"), 1.2))
        painter.setBrush(colour)
        painter.drawRect(QRectF(at.x() - 6, at.y() - 6, 12, 12))
        painter.setPen(QPen(QColor("#ffffff"), 2))
        painter.drawLine(QPointF(at.x() - 3, at.y() - 3), QPointF(at.x() + 3, at.y() + 3))
        painter.drawLine(QPointF(at.x() - 3, at.y() + 3), QPointF(at.x() + 3, at.y() - 3))

    def mousePressEvent(self, event: QMouseEvent) -> None:
        index = int((event.position().y() - 6) // PLEAT)
        if 0 <= index < len(self._pages):
            self.chosen.emit(self._pages[index][0])

    def keyPressEvent(self, event: QKeyEvent) -> None:
        step = {Qt.Key.Key_Down: 1, Qt.Key.Key_Up: -1}.get(Qt.Key(event.key()))
        if step is None:
            super().keyPressEvent(event)
            return
        ids = [page for page, _ in self._pages]
        self.chosen.emit(ids[(ids.index(self._current) + step) % len(ids)])
