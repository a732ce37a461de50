"""Icons of Qt's own dialogs are ours, in the colours of day and night."""

from __future__ import annotations

import pytest
from PySide6.QtGui import QColor, QImage
from PySide6.QtWidgets import QApplication, QFileDialog, QMessageBox, QStyle, QStyleFactory, QToolButton
from pytestqt.qtbot import QtBot

from yawning_lantern.desktop.shared.drawn_icons import _PLAIN, PlainStyle, drawn
from yawning_lantern.desktop.shell.workbench import Workbench


def inks(image: QImage) -> set[str]:
    """The opaque colours of a picture."""
    colours = (image.pixelColor(x, y) for x in range(image.width()) for y in range(image.height()))
    return {colour.name() for colour in colours if colour.alpha() == 255}


@pytest.mark.parametrize("kind", list(_PLAIN), ids=lambda kind: kind.name)
def test_every_icon_is_drawn_in_its_two_colours(kind: QStyle.StandardPixmap, qapp: QApplication) -> None:
    image = drawn(kind, 64, QColor("#112233"), QColor("#fefefe")).toImage()
    assert "#112233" in inks(image) and image.width() == image.height() == 64
    stock = QStyleFactory.create("Fusion").standardIcon(kind).pixmap(64).toImage()
    assert PlainStyle().standardIcon(kind).pixmap(64).toImage() != stock
    corners = [image.pixelColor(x, y).alpha() for x in (0, 63) for y in (0, 63)]
    assert corners == [0, 0, 0, 0]


def test_the_file_dialog_and_a_question_show_them(bench: Workbench, qtbot: QtBot) -> None:
    def shown(kind: QStyle.StandardPixmap) -> QImage:
        return QApplication.style().standardIcon(kind).pixmap(32).toImage()

    dialog = QFileDialog(bench.window)
    dialog.setOption(QFileDialog.Option.DontUseNativeDialog)
    qtbot.addWidget(dialog)
    buttons = {button.objectName(): button for button in dialog.findChildren(QToolButton)}
    for name, kind in (("backButton", QStyle.StandardPixmap.SP_ArrowBack),
                       ("newFolderButton", QStyle.StandardPixmap.SP_FileDialogNewFolder)):  # fmt: skip
        assert buttons[name].icon().pixmap(32).toImage() == shown(kind)
    day = shown(QStyle.StandardPixmap.SP_DirIcon)
    bench.window.actions_by_id["toggle_dark"].trigger()
    night = shown(QStyle.StandardPixmap.SP_DirIcon)
    bench.window.actions_by_id["toggle_dark"].trigger()
    assert day != night and inks(day).isdisjoint(inks(night))
    box = QMessageBox(QMessageBox.Icon.Question, "Leave", "Keep the changes?")
    qtbot.addWidget(box)
    highlight = QApplication.palette().highlight().color().name()
    assert highlight in inks(box.iconPixmap().toImage())
