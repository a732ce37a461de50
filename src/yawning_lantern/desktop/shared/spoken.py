"""What a screen reader is told of views that are painted by hand: their role, and what stands in them, item by item.

A view says its role as `spoken_role`; one that shows things to choose from tells them in `spoken_items()`. Its name and
description are the widget's own."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

from PySide6.QtCore import QObject, QPoint, QRect, QRectF
from PySide6.QtGui import QAccessible, QAccessibleInterface
from PySide6.QtWidgets import QAccessibleWidget, QWidget

GRAPHIC = QAccessible.Role.Graphic
LIST, ITEM = QAccessible.Role.List, QAccessible.Role.ListItem
TREE, BRANCH = QAccessible.Role.Tree, QAccessible.Role.TreeItem
TABS, TAB = QAccessible.Role.PageTabList, QAccessible.Role.PageTab
TEXT = QAccessible.Role.StaticText


class Spoken(NamedTuple):
    """One thing in a view: its words, where it is in the view (px), and whether it is the chosen one."""

    words: str
    box: QRectF
    role: QAccessible.Role = ITEM
    chosen: bool = False


class _Item(QAccessibleInterface):
    """One thing in a view, by its rank."""

    def __init__(self, view: _View, rank: int) -> None:
        super().__init__()
        self._view, self._rank = view, rank

    def _spoken(self) -> Spoken | None:
        items = self._view.items()
        return items[self._rank] if self._rank < len(items) else None

    def isValid(self) -> bool:
        return self._spoken() is not None

    def object(self) -> QObject | None:  # type: ignore[override]  # a thing in a view is no object of its own
        return None

    def parent(self) -> QAccessibleInterface:
        return self._view

    def child(self, index: int) -> QAccessibleInterface | None:  # type: ignore[override]  # it has none
        return None

    def childCount(self) -> int:
        return 0

    def indexOfChild(self, child: QAccessibleInterface) -> int:
        return -1

    def childAt(self, x: int, y: int) -> QAccessibleInterface | None:  # type: ignore[override]  # it has none
        return None

    def role(self) -> QAccessible.Role:
        spoken = self._spoken()
        return spoken.role if spoken else ITEM

    def state(self) -> QAccessible.State:
        state, spoken = QAccessible.State(), self._spoken()
        state.selectable = True
        state.selected = bool(spoken and spoken.chosen)
        return state

    def text(self, kind: QAccessible.Text) -> str:
        spoken = self._spoken()
        return spoken.words if spoken and kind == QAccessible.Text.Name else ""

    def setText(self, kind: QAccessible.Text, text: str) -> None:
        """What is painted is not edited here."""

    def rect(self) -> QRect:
        spoken = self._spoken()
        if spoken is None:
            return QRect()
        box = spoken.box.toAlignedRect()
        return QRect(self._view.widget().mapToGlobal(box.topLeft()), box.size())


class _View(QAccessibleWidget):
    """A view painted by hand."""

    def __init__(self, view: QWidget, role: QAccessible.Role) -> None:
        super().__init__(view, role)
        self._widget = view
        self._made: list[_Item] = []

    def items(self) -> Sequence[Spoken]:
        """What stands in the view now."""
        tell = getattr(self._widget, "spoken_items", None)
        return tell() if tell is not None else ()

    def widget(self) -> QWidget:
        return self._widget

    def childCount(self) -> int:
        return len(self.items())

    def child(self, index: int) -> QAccessibleInterface | None:  # type: ignore[override]  # None where there is none
        if not 0 <= index < self.childCount():
            return None
        while len(self._made) <= index:
            self._made.append(_Item(self, len(self._made)))
        return self._made[index]

    def indexOfChild(self, child: QAccessibleInterface) -> int:
        return next((k for k, item in enumerate(self._made) if item is child), -1)

    def childAt(self, x: int, y: int) -> QAccessibleInterface | None:  # type: ignore[override]  # None where there is none
        at = self._widget.mapFromGlobal(QPoint(x, y))
        return next((self.child(k) for k, item in enumerate(self.items()) if item.box.contains(at)), None)


_interfaces: dict[int, _View] = {}


def _interface_of(_: str, thing: QObject) -> QAccessibleInterface | None:
    role = getattr(thing, "spoken_role", None)
    if role is None or not isinstance(thing, QWidget):
        return None
    key = id(thing)
    if key not in _interfaces:
        _interfaces[key] = _View(thing, role)
        thing.destroyed.connect(lambda: _interfaces.pop(key, None))
    return _interfaces[key]


def speak_views() -> None:
    """Let Qt ask here what hand-painted views are. Called once."""
    QAccessible.installFactory(_interface_of)
