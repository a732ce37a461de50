"""The one QApplication, and windows made for it."""

from __future__ import annotations

import gc
import sys
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QSettings
from PySide6.QtWidgets import QApplication

from yawning_lantern.desktop.shared.drawn_icons import PlainStyle
from yawning_lantern.desktop.shared.spoken import speak_views
from yawning_lantern.desktop.shared.theme import load_fonts
from yawning_lantern.desktop.shell.program import Program
from yawning_lantern.desktop.shell.window import Bench, MainWindow

if TYPE_CHECKING:  # imported when a window is ready: the first paint does not wait for it
    from yawning_lantern.desktop.shell.workbench import Workbench


def make_application() -> QApplication:
    """The one QApplication, with the shipped fonts and the plain style that takes our colours and icons."""
    app = QApplication.instance() or QApplication([sys.argv[0]])
    assert isinstance(app, QApplication)
    app.setApplicationName("Yawning Lantern")
    app.setStyle(PlainStyle())
    load_fonts()
    speak_views()
    return app


def spare_the_collector() -> None:
    """What stands for good need not be looked through again; a study makes and drops many small things at once."""
    gc.collect()
    gc.freeze()
    gc.set_threshold(20_000, 20, 50)


def make_program(state_folder: Path, drawer: Path | None = None) -> Program:
    """A program whose settings and autosaves lie in a folder; the maker's `drawer` is a file there or elsewhere."""
    return Program(state_folder, QSettings(str(state_folder / "settings.ini"), QSettings.Format.IniFormat), drawer)


def new_window(program: Program) -> MainWindow:
    """A window, not shown yet. What stands in it is made, and imported, after its first paint."""

    def furnish(window: MainWindow) -> Bench:
        from yawning_lantern.desktop.shell.workbench import Workbench

        return Workbench(window, lambda: new_window(program))

    window = MainWindow(program, furnish)
    program.remember(window)
    return window


def bench_of(window: MainWindow) -> Workbench:
    """What stands in a window that is ready."""
    from yawning_lantern.desktop.shell.workbench import Workbench

    assert isinstance(window.bench, Workbench)
    return window.bench
