"""The shelf: every structure with its picture under its heading, to begin a design with or to put on a face."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QMimeData, QModelIndex, QPersistentModelIndex, QRect, QRectF, QSize, Qt, QTimer, Signal
from PySide6.QtGui import QFocusEvent, QIcon, QKeyEvent, QPainter, QPen
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

from yawning_lantern.desktop.shared.thumbs import Thumbs
from yawning_lantern.structures import Family, families, family

MIME = "application/x-yawning-lantern-family"
Index = QModelIndex | QPersistentModelIndex
_FAMILY = Qt.ItemDataRole.UserRole
_AROUND = QSize(10, 10)  # px beside and above a picture


def dragged_family(data: QMimeData) -> str:
    """The family that is dragged, or nothing."""
    return bytes(data.data(MIME).data()).decode() if data.hasFormat(MIME) else ""


class _Tile(QStyledItemDelegate):
    """A picture and a name in one cell; the chosen one is framed, never tinted. A heading takes a line of its own."""

    def __init__(self, icon: QSize, wanted: Callable[[str], None], view: QListWidget) -> None:
        super().__init__(view)
        self._icon, self._wanted, self._view = icon, wanted, view
        self._wide: dict[str, int] = {}  # by font

    def sizeHint(self, option: QStyleOptionViewItem, index: Index) -> QSize:
        line = self._view.fontMetrics().height()
        if not index.data(_FAMILY):
            return QSize(self._view.viewport().width() - 2, line + 10)
        wide = max(self._icon.width() + _AROUND.width(), self._longest())
        return QSize(wide, self._icon.height() + _AROUND.height() + line)

    def _longest(self) -> int:
        """How wide the longest name is, px; asked for every tile of every layout, worked out once for a font."""
        font = self._view.font().key()
        if font not in self._wide:
            metrics = self._view.fontMetrics()
            self._wide[font] = max(metrics.horizontalAdvance(kind.name) for kind in families().values()) + 8
        return self._wide[font]

    def paint(self, painter: QPainter, option: QStyleOptionViewItem, index: Index) -> None:
        box = QRectF(option.rect).adjusted(2, 2, -2, -2)
        palette = option.palette
        name = str(index.data(Qt.ItemDataRole.DisplayRole))
        painter.save()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(palette.text().color())
        if not index.data(_FAMILY):
            font = painter.font()
            font.setBold(True)
            painter.setFont(font)
            painter.drawText(box.adjusted(3, 0, 0, -1), Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignBottom, name)
            painter.restore()
            return
        if option.state & QStyle.StateFlag.State_Selected:
            painter.setPen(QPen(palette.highlight().color(), 2))
            painter.drawRoundedRect(box, 3, 3)
        height = painter.fontMetrics().height()
        icon = index.data(Qt.ItemDataRole.DecorationRole)
        if icon is None:
            self._wanted(str(index.data(_FAMILY)))
        if isinstance(icon, QIcon):
            left, top = int(box.left()) + 3, int(box.top()) + 3
            icon.paint(painter, QRect(left, top, int(box.width()) - 6, int(box.height()) - height - 6))
        painter.setPen(palette.text().color())
        line = QRectF(box.left(), box.bottom() - height - 2, box.width(), height)
        name = painter.fontMetrics().elidedText(name, Qt.TextElideMode.ElideRight, int(box.width()))
        painter.drawText(line, Qt.AlignmentFlag.AlignCenter, name)
        painter.restore()


class Shelf(QListWidget):
    """Structures under their headings. `taken` carries the id of one that was entered or clicked twice, `aimed` that of
    the one that would be while the shelf has the keys, or nothing. `sought` carries how many were found."""

    taken = Signal(str)
    aimed = Signal(str)
    sought = Signal(int)

    def __init__(self, thumbs: Thumbs, icon: QSize, *, draggable: bool, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._thumbs = thumbs
        self._suits: Callable[[Family], bool] = lambda kind: True
        self._words: list[str] = []
        self.setViewMode(QListView.ViewMode.IconMode)
        self.setResizeMode(QListView.ResizeMode.Adjust)
        self.setMovement(QListView.Movement.Static)
        self.setIconSize(icon)
        self.setItemDelegate(_Tile(icon, self._want, self))
        self.setSpacing(0)
        self.setDragEnabled(draggable)
        self.setDragDropMode(
            QAbstractItemView.DragDropMode.DragOnly if draggable else QAbstractItemView.DragDropMode.NoDragDrop
        )
        self.setAccessibleName("Structures")
        self._headings: dict[str, QListWidgetItem] = {}
        thumbs.drawn.connect(self._show)
        self.itemActivated.connect(lambda item: self.taken.emit(item.data(_FAMILY)))

    def fill(self) -> None:
        """Put the structures in, once: until then it is empty, so that a design need not wait for all of them."""
        if self._headings:
            return
        kinds = families().values()
        for heading in dict.fromkeys(kind.shelf for kind in kinds):
            item = QListWidgetItem(heading)
            item.setFlags(Qt.ItemFlag.NoItemFlags)
            self._headings[heading] = item
            self.addItem(item)
            for kind in (one for one in kinds if one.shelf == heading):
                self.addItem(self._tile(kind))
        self.setCurrentItem(self._items()[0])
        for name in self._thumbs.pictures:
            self._show(name)
        self._sift()
        self.currentItemChanged.connect(lambda *_: self.aim())

    def _want(self, name: str) -> None:
        """A structure is seen that has no picture yet; it is drawn after what is painted now."""
        QTimer.singleShot(0, self, lambda: self._thumbs.want(name))

    @staticmethod
    def _tile(kind: Family) -> QListWidgetItem:
        item = QListWidgetItem(kind.name)
        item.setData(_FAMILY, kind.id)
        item.setToolTip(f"{kind.name}. {kind.about}")
        item.setData(Qt.ItemDataRole.AccessibleDescriptionRole, kind.about)
        return item

    def _items(self) -> list[QListWidgetItem]:
        """The structures, without the headings."""
        return [item for row in range(self.count()) if (item := self.item(row)).data(_FAMILY)]

    def _show(self, name: str) -> None:
        for item in self._items():
            if item.data(_FAMILY) == name:
                item.setIcon(QIcon(self._thumbs.pictures[name]))

    def keep(self, suits: Callable[[Family], bool]) -> None:
        """Show only the structures that suit."""
        self._suits = suits
        self._sift()

    def seek(self, words: str) -> None:
        """Show only the structures whose name, heading or description has every word."""
        self.fill()
        self._words = words.lower().split()
        self._sift()
        shown = [item for item in self._items() if not item.isHidden()]
        current = self.currentItem()
        if shown and (current is None or current.isHidden()):
            self.setCurrentItem(shown[0])
        self.sought.emit(len(shown))

    def _sift(self) -> None:
        left = set()
        for item in self._items():
            kind = family(item.data(_FAMILY))
            told = f"{kind.name} {kind.shelf} {kind.about}".lower()
            shown = self._suits(kind) and all(word in told for word in self._words)
            item.setHidden(not shown)
            if shown:
                left.add(kind.shelf)
        for heading, item in self._headings.items():
            item.setHidden(heading not in left)

    def current_family(self) -> str:
        """The chosen structure's id."""
        self.fill()
        item = self.currentItem()
        return str(item.data(_FAMILY) or "") if item is not None else ""

    def choose(self, family_id: str) -> None:
        """Choose a structure."""
        self.fill()
        self.setCurrentItem(next(item for item in self._items() if item.data(_FAMILY) == family_id))

    def mimeData(self, items: object) -> QMimeData:
        data = QMimeData()
        data.setData(MIME, self.current_family().encode())
        return data

    def aim(self) -> None:
        """Say again which structure would be put on, or none while the keys are elsewhere."""
        self.aimed.emit(self.current_family() if self.hasFocus() else "")

    def focusInEvent(self, event: QFocusEvent) -> None:
        super().focusInEvent(event)
        self.aim()

    def focusOutEvent(self, event: QFocusEvent) -> None:
        super().focusOutEvent(event)
        self.aim()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self.current_family():
            self.taken.emit(self.current_family())
            return
        super().keyPressEvent(event)
