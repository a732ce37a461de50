"""Framed cards with a heading: what pages are made of."""

from __future__ import annotations

from PySide6.QtWidgets import QFrame, QLabel, QLayout, QVBoxLayout, QWidget


def card(*contents: QWidget, stretch: int = 0) -> QFrame:
    """A framed card with widgets one below the other; the `stretch`th takes what is left."""
    frame = QFrame()
    frame.setObjectName("card")
    layout = QVBoxLayout(frame)
    layout.setContentsMargins(6, 5, 6, 6)
    layout.setSpacing(4)
    for index, widget in enumerate(contents):
        layout.addWidget(widget, 1 if index == stretch else 0)
    return frame


def heading(text: str) -> QLabel:
    """The words above a card."""
    label = QLabel(text)
    label.setObjectName("heading")
    return label


def empty(layout: QLayout) -> None:
    """Take everything out of a layout, and let it go."""
    while (item := layout.takeAt(0)) is not None:
        widget = item.widget()
        if widget is not None:
            widget.hide()
            widget.deleteLater()
