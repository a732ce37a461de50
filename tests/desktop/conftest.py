"""A real window for every test, offscreen, with state of its own; noise from Qt or leftover work is a failure."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

import pytest
from PySide6.QtCore import QEvent, QSettings
from PySide6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from yawning_lantern.desktop.__main__ import make_application
from yawning_lantern.desktop.shot import settle
from yawning_lantern.desktop.window import MainWindow
from yawning_lantern.desktop.workbench import Workbench
from yawning_lantern.exchange.design_file import read_design

from ..conftest import DEMO


@pytest.fixture(scope="session")
def qapp() -> QApplication:
    return make_application()


@pytest.fixture
def window(qapp: QApplication, qtbot: QtBot, tmp_path: Path) -> Iterator[MainWindow]:
    settings = QSettings(str(tmp_path / "settings.ini"), QSettings.Format.IniFormat)
    made = MainWindow(tmp_path / "state", settings)
    made.show()
    assert settle(qapp, made)
    yield made
    made.hide()  # a hidden window asks nothing about unsaved work
    made.close()
    made.deleteLater()
    qapp.sendPostedEvents(None, QEvent.Type.DeferredDelete)
    assert not [w for w in qapp.topLevelWidgets() if isinstance(w, MainWindow)]


@pytest.fixture
def bench(window: MainWindow) -> Workbench:
    assert window.bench is not None
    return window.bench


@pytest.fixture
def demo(bench: Workbench, qapp: QApplication) -> Workbench:
    bench.session.start(read_design(DEMO))
    bench.show_page("form")
    assert settle(qapp, bench.window)
    return bench
