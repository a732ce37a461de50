"""Books that were found, each as its sheet with slits and path: one is chosen by click or arrow keys."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import pairwise

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QColor, QFont, QFontMetricsF, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QWidget

from yawning_lantern.desktop.shared.spoken import LIST, Spoken
from yawning_lantern.desktop.shared.theme import DAY, Theme
from yawning_lantern.flatfold.books import Book
from yawning_lantern.flatfold.snakes import Cell

GAP = 10.0  # px
_KEYS = {Qt.Key.Key_Right: 1, Qt.Key.Key_Left: -1}


def words_of(book: Book) -> tuple[str, str]:
    """What a card says under its picture."""
    slits = f"{len(book.slits)} slit{'s' if len(book.slits) != 1 else ''}"
    how = ", scissors do" if book.rim_only else ""
    return f"{book.pages} pages, {book.pockets} pockets", f"{slits}{how}"


class BookCards(QWidget):
    """`chosen`: another card. `taken`: one was double-clicked or Enter pressed on it."""

    chosen = Signal(int)
    taken = Signal()
    spoken_role = LIST

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.theme: Theme = DAY
        self.books: Sequence[Book] = ()
        self.at = -1
        self.sheet = (1.0, 1.0)  # width and height, in any unit
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Books found")
        self.setAccessibleDescription("Arrow keys choose, Enter makes it.")

    def show_books(self, books: Sequence[Book]) -> None:
        """Show them, the first chosen."""
        self.books = books
        self.at = 0 if books else -1
        self._fit()
        self.update()
        self.chosen.emit(self.at)

    def choose(self, at: int) -> None:
        """Choose one."""
        if 0 <= at < len(self.books):
            self.at = at
            self.update()
            self.chosen.emit(at)

    def sides(self) -> tuple[float, float]:
        """A card's picture, and its foot under it, by the size of the text, px."""
        line = QFontMetricsF(self.font()).height()
        return max(170.0, 11 * line), 2 * line + 22

    def columns(self) -> int:
        """Cards beside one another."""
        return max(1, int((self.width() + GAP) // (self.sides()[0] + GAP)))

    def card(self, k: int) -> QRectF:
        """Where a card is, px."""
        row, column = divmod(k, self.columns())
        side, foot = self.sides()
        return QRectF(column * (side + GAP), row * (side + foot + GAP), side, side + foot)

    def _fit(self) -> None:
        rows = -(-len(self.books) // self.columns()) if self.books else 1
        self.setMinimumHeight(int(rows * (sum(self.sides()) + GAP)))

    def resizeEvent(self, event: object) -> None:
        self._fit()

    def sizeHint(self) -> QSize:
        return QSize(int(3 * (self.sides()[0] + GAP)), int(2 * (sum(self.sides()) + GAP)))

    def spoken_items(self) -> list[Spoken]:
        """Every card with what it says."""
        return [
            Spoken(", ".join(words_of(book)), self.card(k), chosen=k == self.at) for k, book in enumerate(self.books)
        ]

    def mousePressEvent(self, event: QMouseEvent) -> None:
        for k in range(len(self.books)):
            if self.card(k).contains(event.position()):
                self.choose(k)

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        if any(self.card(k).contains(event.position()) for k in range(len(self.books))):
            self.taken.emit()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key = Qt.Key(event.key())
        if key in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self.at >= 0:
            self.taken.emit()
        elif key in _KEYS:
            self.choose(self.at + _KEYS[key])
        elif key in (Qt.Key.Key_Down, Qt.Key.Key_Up):
            self.choose(self.at + (self.columns() if key == Qt.Key.Key_Down else -self.columns()))
        else:
            super().keyPressEvent(event)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        for k, book in enumerate(self.books):
            if self.card(k).intersects(QRectF(event.rect())):
                self._paint(painter, self.card(k), book, chosen=k == self.at)

    def _paint(self, painter: QPainter, card: QRectF, book: Book, *, chosen: bool) -> None:
        t, trunk = self.theme, book.trunk
        painter.setPen(QPen(t.colour("lamp" if chosen else "line"), 3 if chosen else 1))
        painter.setBrush(t.colour("card"))
        painter.drawRoundedRect(card.adjusted(2, 2, -2, -2), 4, 4)
        whole, foot = self.sides()
        scale = (whole - 28) / max(self.sheet)
        wide, high = scale * self.sheet[0] / trunk.columns, scale * self.sheet[1] / trunk.rows
        x0 = card.left() + (whole - wide * trunk.columns) / 2
        y0 = card.top() + 14 + (whole - 28 + high * trunk.rows) / 2

        def at(p: tuple[float, float]) -> QPointF:
            return QPointF(x0 + p[0] * wide, y0 - p[1] * high)

        def middle(cell: Cell) -> QPointF:
            return at((cell[0] + 0.5, cell[1] + 0.5))

        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(t.colour("table"))
        painter.drawRect(QRectF(at((0, trunk.rows)), at((trunk.columns, 0))))
        folds = QPen(t.colour("faint"), 1, Qt.PenStyle.DashLine)
        painter.setPen(folds)
        for c in range(1, trunk.columns):
            painter.drawLine(at((c, 0)), at((c, trunk.rows)))
        for r in range(1, trunk.rows):
            painter.drawLine(at((0, r)), at((trunk.columns, r)))
        path = QColor(t.colour("worked"))
        painter.setPen(QPen(path, 2))
        for a, b in pairwise(trunk.path):
            painter.drawLine(middle(a), middle(b))
        painter.setPen(QPen(t.colour("ink"), 3, Qt.PenStyle.SolidLine, Qt.PenCapStyle.FlatCap))
        for a, b in book.slits:
            painter.drawLine(at(a), at(b))
        painter.setPen(QPen(t.colour("ink"), 1.5))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(QRectF(at((0, trunk.rows)), at((trunk.columns, 0))))
        self._numbers(painter, book, min(wide, high), [middle(cell) for cell in trunk.path])
        first, second = words_of(book)
        under = QRectF(card.left() + 6, card.bottom() - foot, whole - 12, foot - 12)
        painter.setPen(t.colour("ink"))
        painter.drawText(under, Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignHCenter, first)
        painter.setPen(t.colour("faint"))
        painter.drawText(under, Qt.AlignmentFlag.AlignBottom | Qt.AlignmentFlag.AlignHCenter, second)

    def _numbers(self, painter: QPainter, book: Book, side: float, spots: Sequence[QPointF]) -> None:
        """First and last panel by their numbers, all of them where there is room."""
        font = QFont(self.font())
        small = min(font.pointSizeF(), max(6.0, side * 0.28))
        font.setPointSizeF(small)
        metrics = QFontMetricsF(font)
        painter.save()
        painter.setFont(font)
        shown = range(len(book.trunk.path)) if side > 26 else (0, len(book.trunk.path) - 1)
        for k in shown:
            text = str(k + 1)
            box = QRectF(0, 0, max(metrics.horizontalAdvance(text), metrics.height()) + 4, metrics.height() + 2)
            box.moveCenter(spots[k])
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(self.theme.colour("field"))
            painter.drawRoundedRect(box, 4, 4)
            painter.setPen(self.theme.colour("ink"))
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, text)
        painter.restore()
