"""A real window for every test, offscreen, with state of its own; noise from Qt or leftover work is a failure."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

import pytest
from PySide6.QtCore import QEvent
from PySide6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from yawning_lantern.desktop.shell.application import bench_of, make_application, make_program, new_window
from yawning_lantern.desktop.shell.window import MainWindow
from yawning_lantern.desktop.shell.workbench import Workbench
from yawning_lantern.desktop.shot import settle
from yawning_lantern.exchange.design_file import read_design

from ..conftest import DEMO


@pytest.fixture(scope="session")
def qapp() -> QApplication:
    return make_application()


@pytest.fixture
def window(qapp: QApplication, qtbot: QtBot, tmp_path: Path) -> Iterator[MainWindow]:
    program = make_program(tmp_path / "state")
    program.settings.setValue("toured", True)
    made = new_window(program)
    made.show()
    assert settle(qapp, made)
    yield made
    for one in tuple(program.windows):
        one.hide()  # a hidden window asks nothing about unsaved work
        one.close()
        one.deleteLater()
    qapp.sendPostedEvents(None, QEvent.Type.DeferredDelete)
    assert not [w for w in qapp.topLevelWidgets() if isinstance(w, MainWindow)]


@pytest.fixture
def bench(window: MainWindow) -> Workbench:
    return bench_of(window)


@pytest.fixture
def demo(bench: Workbench, qapp: QApplication) -> Workbench:
    bench.session.start(read_design(DEMO))
    bench.show_page("form")
    assert settle(qapp, bench.window)
    return bench
