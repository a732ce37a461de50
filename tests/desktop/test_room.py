"""Every page in the smallest window, and with large text: nothing is squeezed until it cannot be read or gripped."""

from __future__ import annotations

from collections.abc import Iterator

import pytest
from PySide6.QtWidgets import QAbstractButton, QApplication, QComboBox, QLabel, QSlider, QWidget

from yawning_lantern.desktop.shell.workbench import Workbench
from yawning_lantern.desktop.shot import settle
from yawning_lantern.exchange.design_file import read_design

from ..conftest import DEMO

PAGES = ("idea", "stock", "form", "opening", "sheets", "bench")
GRIP = 100  # pixels: a slider shorter than this cannot be set; common practice, no source


def squeezed(page: QWidget) -> Iterator[str]:
    """What is shown with less room than its words need, or than a hand needs."""
    for one in page.findChildren(QWidget):
        if not one.isVisible():
            continue
        if isinstance(one, QSlider) and max(one.width(), one.height()) < GRIP:
            yield f"a slider of {one.width()} pixels"
        elif isinstance(one, QAbstractButton) and one.text() and one.width() < one.minimumSizeHint().width() - 1:
            yield f"{one.text()!r} in {one.width()}"
        elif isinstance(one, QComboBox):
            if one.width() < one.fontMetrics().horizontalAdvance(one.currentText()) + 16:
                yield f"{one.currentText()!r} in {one.width()}"
        elif isinstance(one, QLabel) and one.text() and one.wordWrap():
            if one.height() < one.heightForWidth(one.width()) - 2:
                yield f"{one.text()!r} in {one.width()} × {one.height()}"
        elif isinstance(one, QLabel) and one.text() and one.width() < one.sizeHint().width() - 1:
            yield f"{one.text()!r} in {one.width()}"


@pytest.mark.parametrize(("size", "text"), [((1024, 700), 1.0), ((1280, 800), 1.5)])
def test_nothing_is_squeezed(demo: Workbench, size: tuple[int, int], text: float) -> None:
    app, program = QApplication.instance(), demo.window.program
    assert isinstance(app, QApplication)
    demo.session.start(read_design(DEMO.with_name("comet-night-set.lantern")))
    demo.window.resize(*size)
    program.resize_text(program.text_size * (text - 1))
    for page in PAGES:
        demo.show_page(page)
        assert settle(app, demo.window, 60.0)
        assert list(squeezed(demo.window)) == [], page
    slider = demo.form.slider
    demo.show_page("form")
    settle(app, demo.window, 60.0)
    flat, shut, opened = (
        button.mapTo(demo.form, button.rect().center()).x() - slider.mapTo(demo.form, slider.rect().center()).x()
        for button in demo.form.places
    )
    assert abs(shut) < 6 and flat < -GRIP / 4 and opened > GRIP / 4  # each word is under its place
