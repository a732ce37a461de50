"""How large a window begins: as usual, or as much as the free screen gives with the frame around it."""

from __future__ import annotations

from PySide6.QtCore import QSize
from PySide6.QtGui import QGuiApplication

FRAME = QSize(8, 40)
"""What a title bar and its frame take, pixels, before a window knows its own."""
SMALL = QSize(1024, 700)
"""The smallest screen a dialog heeds, pixels."""


def _free(otherwise: QSize) -> QSize:
    screen = QGuiApplication.primaryScreen()
    return screen.availableGeometry().size() if screen is not None else otherwise + FRAME


def fitting(usual: QSize, least: QSize) -> QSize:
    """The usual size where the free screen has it, else what that gives; not below the `least` where it has that."""
    free = _free(usual) - FRAME
    return usual.boundedTo(free).expandedTo(least.boundedTo(free))


def dialog_fitting(usual: QSize) -> QSize:
    """The usual size of a dialog, or what the free screen gives."""
    return usual.boundedTo(_free(usual).expandedTo(SMALL) - FRAME)
