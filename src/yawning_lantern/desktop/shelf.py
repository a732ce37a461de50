"""The shelf: every structure with its picture, to begin a design with or to put on a face by drag or key."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QMimeData, QModelIndex, QPersistentModelIndex, QRect, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QIcon, QKeyEvent, QPainter, QPen
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

from yawning_lantern.desktop.thumbs import Thumbs
from yawning_lantern.structures import Family, families, family

MIME = "application/x-yawning-lantern-family"
Index = QModelIndex | QPersistentModelIndex
_FAMILY = Qt.ItemDataRole.UserRole


def dragged_family(data: QMimeData) -> str:
    """The family that is dragged, or nothing."""
    return bytes(data.data(MIME).data()).decode() if data.hasFormat(MIME) else ""


class _Tile(QStyledItemDelegate):
    """A picture and a name in one cell; the chosen one is framed, never tinted."""

    def __init__(self, cell: QSize, parent: QListWidget) -> None:
        super().__init__(parent)
        self._cell = cell

    def sizeHint(self, option: QStyleOptionViewItem, index: Index) -> QSize:
        return self._cell

    def paint(self, painter: QPainter, option: QStyleOptionViewItem, index: Index) -> None:
        box = QRectF(option.rect).adjusted(2, 2, -2, -2)  # type: ignore[attr-defined]  # Qt's stubs leave the option's fields out
        palette = option.palette  # type: ignore[attr-defined]  # Qt's stubs leave the option's fields out
        name = str(index.data(Qt.ItemDataRole.DisplayRole))
        painter.save()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if option.state & QStyle.StateFlag.State_Selected:  # type: ignore[attr-defined]  # Qt's stubs leave the option's fields out
            painter.setPen(QPen(palette.highlight().color(), 2))
            painter.drawRoundedRect(box, 3, 3)
        height = painter.fontMetrics().height()
        icon = index.data(Qt.ItemDataRole.DecorationRole)
        if isinstance(icon, QIcon):
            picture = QRect(
                int(box.left()) + 3, int(box.top()) + 3, int(box.width()) - 6, int(box.height()) - height - 8
            )
            icon.paint(painter, picture)
        painter.setPen(palette.text().color())
        line = QRectF(box.left(), box.bottom() - height - 3, box.width(), height)
        name = painter.fontMetrics().elidedText(name, Qt.TextElideMode.ElideRight, int(box.width()))
        painter.drawText(line, Qt.AlignmentFlag.AlignCenter, name)
        painter.restore()


class Shelf(QListWidget):
    """Structures in the order of their headings. `taken` carries the id of one that was entered or clicked twice."""

    taken = Signal(str)

    def __init__(self, thumbs: Thumbs, icon: QSize, *, draggable: bool, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._thumbs = thumbs
        self.setViewMode(QListView.ViewMode.IconMode)
        self.setResizeMode(QListView.ResizeMode.Adjust)
        self.setMovement(QListView.Movement.Static)
        self.setIconSize(icon)
        cell = QSize(icon.width() + 10, icon.height() + 28)
        self.setGridSize(cell)
        self.setItemDelegate(_Tile(cell, self))
        self.setWordWrap(True)
        self.setSpacing(0)
        self.setDragEnabled(draggable)
        self.setDragDropMode(
            QAbstractItemView.DragDropMode.DragOnly if draggable else QAbstractItemView.DragDropMode.NoDragDrop
        )
        self.setAccessibleName("Structures")
        for kind in families().values():
            item = QListWidgetItem(kind.name)
            item.setData(_FAMILY, kind.id)
            item.setToolTip(f"{kind.shelf} · {kind.about}")
            item.setData(Qt.ItemDataRole.AccessibleDescriptionRole, kind.about)
            item.setTextAlignment(Qt.AlignmentFlag.AlignHCenter)
            self.addItem(item)
        self.setCurrentRow(0)
        thumbs.drawn.connect(self._show)
        for name in thumbs.pictures:
            self._show(name)
        self.itemActivated.connect(lambda item: self.taken.emit(item.data(_FAMILY)))

    def _items(self) -> list[QListWidgetItem]:
        return [self.item(row) for row in range(self.count())]

    def _show(self, name: str) -> None:
        for item in self._items():
            if item.data(_FAMILY) == name:
                item.setIcon(QIcon(self._thumbs.pictures[name]))

    def keep(self, suits: Callable[[Family], bool]) -> None:
        """Show only the structures that suit."""
        for item in self._items():
            item.setHidden(not suits(family(item.data(_FAMILY))))

    def current_family(self) -> str:
        """The chosen structure's id."""
        item = self.currentItem()
        return str(item.data(_FAMILY)) if item is not None else ""

    def mimeData(self, items: object) -> QMimeData:
        data = QMimeData()
        data.setData(MIME, self.current_family().encode())
        return data

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self.current_family():
            self.taken.emit(self.current_family())
            return
        super().keyPressEvent(event)
