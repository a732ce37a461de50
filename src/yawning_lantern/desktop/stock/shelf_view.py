"""The open drawer: swatches in rows, found by typing, dragged onto parts or used by key."""

from __future__ import annotations

from PySide6.QtCore import QMimeData, QModelIndex, QPersistentModelIndex, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QFontMetrics, QKeyEvent, QPainter, QPen
from PySide6.QtWidgets import (
    QAbstractItemView,
    QListView,
    QListWidget,
    QListWidgetItem,
    QStyle,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QWidget,
)

from yawning_lantern.desktop.shared.stocking import thing_mime
from yawning_lantern.desktop.shared.theme import DAY, Theme
from yawning_lantern.desktop.stock.swatch import paint_swatch
from yawning_lantern.stock import Adhesive, Item, Paper, ReadyMade, Tool, found

Index = QModelIndex | QPersistentModelIndex
THING = Qt.ItemDataRole.UserRole
COUNT = Qt.ItemDataRole.UserRole + 1
SWATCH = QSize(103, 56)
KINDS = ("All", "Paper", "Board", "Film", "Glue, tape", "Ready-made", "Tools")


def is_of(item: Item, kind: str) -> bool:
    """Whether a thing is of one of the KINDS."""
    if isinstance(item, Paper):
        return kind in ("All", {"paper": "Paper", "board": "Board", "film": "Film"}[item.kind])
    if isinstance(item, Adhesive):
        return kind in ("All", "Glue, tape")
    return kind in ("All", "Ready-made" if isinstance(item, ReadyMade) else "Tools")


class _Tile(QStyledItemDelegate):
    """A swatch with its name in two lines below, and how many there are in its corner."""

    def __init__(self, view: ShelfView) -> None:
        super().__init__(view)
        self._view = view

    def sizeHint(self, option: QStyleOptionViewItem, index: Index) -> QSize:
        return QSize(SWATCH.width() + 14, SWATCH.height() + 2 * self._view.fontMetrics().height() + 16)

    def paint(self, painter: QPainter, option: QStyleOptionViewItem, index: Index) -> None:
        box = QRectF(option.rect).adjusted(2, 2, -2, -2)
        theme, palette = self._view.theme, option.palette
        painter.save()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if option.state & QStyle.StateFlag.State_Selected:
            painter.setPen(QPen(palette.highlight().color(), 2))
            painter.drawRoundedRect(box, 3, 3)
        swatch = QRectF(box.left() + 5, box.top() + 5, box.width() - 10, SWATCH.height())
        paint_swatch(painter, swatch, index.data(THING), theme)
        count = index.data(COUNT)
        metrics = painter.fontMetrics()
        if count is not None:
            words = f"{count} ×"
            plate = QRectF(swatch.left(), swatch.bottom() - metrics.height(), metrics.horizontalAdvance(words) + 8,
                           metrics.height())  # fmt: skip
            painter.fillRect(plate, theme.colour("card"))
            painter.setPen(theme.colour("clash" if count == 0 else "ink"))
            painter.drawText(plate, Qt.AlignmentFlag.AlignCenter, words)
        painter.setPen(palette.text().color())
        text = QRectF(box.left() + 4, swatch.bottom() + 3, box.width() - 8, 2 * metrics.height())
        first, second = two_lines(str(index.data(Qt.ItemDataRole.DisplayRole)), metrics, int(text.width()))
        line = QRectF(text.left(), text.top(), text.width(), metrics.height())
        painter.drawText(line, Qt.AlignmentFlag.AlignCenter, first)
        painter.drawText(line.translated(0, metrics.height()), Qt.AlignmentFlag.AlignCenter, second)
        painter.restore()


def two_lines(text: str, metrics: QFontMetrics, wide: int) -> tuple[str, str]:
    """A name in two lines, the second one cut off where there is no room."""
    first, rest = "", text.split()
    while rest and metrics.horizontalAdvance(f"{first} {rest[0]}".strip()) <= wide:
        first = f"{first} {rest.pop(0)}".strip()
    if not first and rest:
        first = metrics.elidedText(rest.pop(0), Qt.TextElideMode.ElideRight, wide)
    return first, metrics.elidedText(" ".join(rest), Qt.TextElideMode.ElideRight, wide)


class ShelfView(QListWidget):
    """Things of one kind, or all. `chosen` carries the thing that is looked at, `taken` one that is to be used."""

    chosen = Signal(object)
    taken = Signal(object)

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.theme: Theme = DAY
        self._words, self._kind = "", "All"
        self.setViewMode(QListView.ViewMode.IconMode)
        self.setResizeMode(QListView.ResizeMode.Adjust)
        self.setMovement(QListView.Movement.Static)
        self.setUniformItemSizes(True)
        self.setSpacing(1)
        self.setItemDelegate(_Tile(self))
        self.setDragEnabled(True)
        self.setDragDropMode(QAbstractItemView.DragDropMode.DragOnly)
        self.setVerticalScrollMode(QAbstractItemView.ScrollMode.ScrollPerPixel)
        self.setAccessibleName("The drawer")
        self.setAccessibleDescription("Arrow keys choose a thing, Enter uses it for the part that is chosen.")
        self.currentItemChanged.connect(lambda *_: self.chosen.emit(self.thing()))
        self.itemActivated.connect(lambda item: self.taken.emit(item.data(THING)))

    def thing(self) -> Item | None:
        """The thing that is looked at."""
        item = self.currentItem()
        return item.data(THING) if item is not None and not item.isHidden() else None

    def show_things(self, items: tuple[Item, ...], counts: dict[str, int], choose: str = "") -> None:
        """Show other things; the one that was looked at, or of the id `choose`, stays chosen."""
        now = self.thing()
        wanted = choose or (now.id if now is not None else "")
        self.blockSignals(True)
        self.clear()
        for item in items:
            entry = QListWidgetItem(item.name)
            entry.setData(THING, item)
            entry.setData(COUNT, counts.get(item.id) if isinstance(item, Paper | ReadyMade | Adhesive) else None)
            entry.setToolTip(item.name)
            entry.setData(Qt.ItemDataRole.AccessibleDescriptionRole, spoken(item, counts))
            self.addItem(entry)
        self._sift()
        self.blockSignals(False)
        self.choose(wanted)

    def choose(self, name: str) -> None:
        """Look at the thing of that id, or at the first that is shown."""
        shown = [item for row in range(self.count()) if not (item := self.item(row)).isHidden()]
        best = next((item for item in shown if item.data(THING).id == name), shown[0] if shown else None)
        if best is not None:
            self.setCurrentItem(best)
            self.scrollToItem(best)
        self.chosen.emit(self.thing())

    def seek(self, words: str, kind: str) -> int:
        """Show only what is called so and is of a kind; gives how many there are."""
        self._words, self._kind = words, kind
        self._sift()
        now = self.currentItem()
        if now is None or now.isHidden():
            self.choose("")
        return sum(not self.item(row).isHidden() for row in range(self.count()))

    def _sift(self) -> None:
        entries = [self.item(row) for row in range(self.count())]
        left = {(type(item), item.id) for item in found((entry.data(THING) for entry in entries), self._words)}
        for entry in entries:
            thing = entry.data(THING)
            entry.setHidden((type(thing), thing.id) not in left or not is_of(thing, self._kind))

    def mimeData(self, items: object) -> QMimeData:
        thing = self.thing()
        return thing_mime(thing) if thing is not None else QMimeData()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        thing = self.thing()
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and thing is not None:
            self.taken.emit(thing)
            return
        super().keyPressEvent(event)


def spoken(item: Item, counts: dict[str, int]) -> str:
    """What a thing is, in words."""
    count = f"{counts[item.id]} in the drawer" if item.id in counts else "not counted"
    if isinstance(item, Paper):
        faces = [f"{side} {motif.kind if motif else 'plain'}" for side, motif in (
            ("front", item.front_motif), ("back", item.back_motif))]  # fmt: skip
        return f"{item.kind}, {item.sheet.name}, {', '.join(faces)}, {count}"
    if isinstance(item, Tool):
        return {"score": "scores", "cut": "cuts", "both": "cuts and scores"}[item.kind]
    return count
