"""Programs that `./lantern bench` starts as processes of their own: each prints what it measured and ends."""

from __future__ import annotations

import importlib
import os
import resource
import sys
import tempfile
import time
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtGui import QPaintEvent
from PySide6.QtWidgets import QApplication, QMainWindow

from yawning_lantern.desktop.yardstick import plain_loop

if TYPE_CHECKING:
    from yawning_lantern.desktop.shell.window import MainWindow

EDITS, SETTLING = 60, 5
BETWEEN = 0.2  # s between two edits
SAME = {
    "PySide6.QtCore": "QEvent QObject QPoint QPointF QRect QRectF QSettings QSize QTimer Qt Signal",
    "PySide6.QtGui": "QAccessible QAccessibleInterface QAction QCloseEvent QColor QDragEnterEvent QDropEvent QFont "
    "QFontDatabase QFontMetricsF QGuiApplication QIcon QKeyEvent QMouseEvent QPaintEvent QPainter "
    "QPalette QPen QPixmap QPolygonF QResizeEvent",
    "PySide6.QtWidgets": "QAccessibleWidget QApplication QHBoxLayout QLabel QMainWindow QMenu QProxyStyle QSizePolicy "
    "QStackedWidget QStyle QStyleOption QVBoxLayout QWidget",
}
"""What the modules of the first window import of Qt: some of it takes long by itself (`Qt` alone 27 ms)."""
AT_REST = 4000  # ms: shelf, rings and fits are there by then


def _tell_memory_and_end() -> None:
    with Path("/proc/self/statm").open() as file:
        pages = int(file.read().split()[1])
    print(pages * resource.getpagesize() / 1e6, flush=True)
    os._exit(0)


class _Bare(QMainWindow):
    """The least window there is: what the program is measured against."""

    def paintEvent(self, event: QPaintEvent) -> None:
        super().paintEvent(event)
        _tell_memory_and_end()


def empty() -> None:
    """An empty window that imports what the first window does of Qt: memory when it is first painted, MB."""
    for module, names in SAME.items():
        for name in names.split():
            getattr(importlib.import_module(module), name)
    app = QApplication(sys.argv)
    window = _Bare()
    window.resize(1280, 800)
    window.show()
    app.exec()


def _program() -> tuple[QApplication, MainWindow]:
    from yawning_lantern.desktop.shell.application import make_application, make_program, new_window

    app = make_application()
    program = make_program(Path(tempfile.mkdtemp()))
    program.settings.setValue("toured", True)
    window = new_window(program)
    window.resize(1280, 800)  # whatever screen there is: figures are told for this size
    return app, window


def _started(*words: str) -> None:
    """Start the program as its own command does, with state of its own."""
    from PySide6.QtCore import QSettings

    from yawning_lantern.desktop.__main__ import main
    from yawning_lantern.folders import NAME

    home = Path(tempfile.mkdtemp())
    os.environ["XDG_STATE_HOME"], os.environ["LANTERN_WORKSHOP"] = str(home), str(home / "workshop.sqlite")
    (home / NAME).mkdir()
    settings = QSettings(str(home / NAME / "settings.ini"), QSettings.Format.IniFormat)
    settings.setValue("toured", True)
    settings.sync()
    main(words)


def first() -> None:
    """The program: memory when its window is first painted, MB."""
    from yawning_lantern.desktop.shell.band import PageBand

    paint = PageBand.paintEvent

    def painted(self: PageBand, event: QPaintEvent) -> None:
        paint(self, event)
        _tell_memory_and_end()

    PageBand.paintEvent = painted  # type: ignore[method-assign]  # the first paint is what is measured
    _started("open")


def form() -> None:
    """The program with the demo: “painted” when the folded thing is, then memory when all has come to rest, MB."""
    from PySide6.QtCore import QTimer

    from yawning_lantern.desktop.shared import standing_view

    view = standing_view.StandingView
    told: list[bool] = []
    paint = view.paintEvent

    def painted(self: standing_view.StandingView, event: QPaintEvent) -> None:
        paint(self, event)
        if self._session.study is not None and not told:
            told.append(True)
            print("painted", flush=True)
            QTimer.singleShot(AT_REST, _tell_memory_and_end)

    view.paintEvent = painted  # type: ignore[method-assign]  # the first paint is what is measured
    _started("demo")


def _with_demo() -> tuple[QApplication, MainWindow]:
    from yawning_lantern.desktop.shell.application import bench_of
    from yawning_lantern.desktop.shot import settle

    app, window = _program()

    def begin() -> None:
        bench_of(window).files.open_demo()

    window.ready.connect(begin)
    window.show()
    settle(app, window)
    return app, window


def repaint() -> None:
    """One edit to the repainted view under the hand and to the whole repainted Form page, and a plain loop, in
    seconds, a line each; asleep while it waits, as the program is."""
    from PySide6.QtCore import QEventLoop

    from yawning_lantern.desktop.form.flat_view import FlatView
    from yawning_lantern.desktop.shell.application import bench_of, spare_the_collector

    paint, painted = FlatView.paintEvent, [0.0]

    def told(self: FlatView, event: QPaintEvent) -> None:
        paint(self, event)
        painted.append(time.perf_counter())

    FlatView.paintEvent = told  # type: ignore[method-assign]  # the first paint is what is measured
    app, window = _with_demo()
    spare_the_collector()
    session, flat = bench_of(window).session, bench_of(window).form.flat
    session.select("box")
    session.hand = flat
    for k in range(EDITS):
        painted.clear()
        begin = time.perf_counter()
        session.give("box", "base", 114.3 - (k % 4) * 1.5875, "edit")
        while not session.is_idle:
            app.processEvents(QEventLoop.ProcessEventsFlag.WaitForMoreEvents)
        app.processEvents()
        taken = time.perf_counter() - begin
        if k >= SETTLING:
            print(painted[0] - begin, taken, plain_loop())
        end = time.monotonic() + BETWEEN
        while time.monotonic() < end:
            app.processEvents()
            time.sleep(0.005)
    sys.stdout.flush()
    os._exit(0)


def scrub() -> None:
    """The playhead moved to a repainted Opening page, and a plain loop, in seconds, a line each."""
    from yawning_lantern.desktop.shell.application import bench_of, spare_the_collector
    from yawning_lantern.desktop.shot import settle

    app, window = _with_demo()
    spare_the_collector()
    page = bench_of(window).opening
    window.show_page("opening")
    settle(app, window)
    for k in range(EDITS):
        begin = time.perf_counter()
        page.go_to(page.lanes.count * (k + 0.5) / EDITS)
        app.processEvents()
        taken = time.perf_counter() - begin
        if k >= SETTLING:
            print(taken, plain_loop())
    sys.stdout.flush()
    os._exit(0)


def patterns() -> None:
    """The demo's standing view painted while it is turned, with its patterns and without: s each, in turn."""
    from PySide6.QtGui import QImage, QPainter

    from yawning_lantern.desktop.shared.scene import ScenePainter
    from yawning_lantern.desktop.shared.theme import DAY
    from yawning_lantern.desktop.shell.application import bench_of
    from yawning_lantern.fold.camera import Camera

    app, window = _with_demo()
    study = bench_of(window).session.study
    assert study is not None
    image = QImage(640, 480, QImage.Format.Format_RGB32)
    for k in range(2 * EDITS):
        begin = time.perf_counter()
        painter = QPainter(image)
        theme = DAY._replace(patterned=k % 2 == 0)
        ScenePainter(study, 0.6, Camera().turned(0.02 * k, 0.0), (640.0, 480.0), theme).paint(painter)
        painter.end()
        if k >= 2 * SETTLING:
            print(time.perf_counter() - begin, flush=True)
    app.processEvents()
    os._exit(0)


if __name__ == "__main__":
    programs = (empty, first, form, repaint, scrub, patterns)
    {one.__name__: one for one in programs}[sys.argv[1]]()
