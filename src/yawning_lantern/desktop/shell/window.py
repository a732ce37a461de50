"""The window: band, pages, menus. It paints at once; the pages are made right after the first paint."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from pathlib import Path
from typing import Protocol

from PySide6.QtCore import QSize, Qt, QTimer, Signal
from PySide6.QtGui import (
    QAction,
    QCloseEvent,
    QDragEnterEvent,
    QDropEvent,
    QPaintEvent,
    QResizeEvent,
)
from PySide6.QtWidgets import QHBoxLayout, QLabel, QMainWindow, QMenu, QStackedWidget, QVBoxLayout, QWidget

from yawning_lantern.desktop.shared.fitting import fitting
from yawning_lantern.desktop.shell.band import PageBand
from yawning_lantern.desktop.shell.commands import MENUS, Command
from yawning_lantern.desktop.shell.program import Program

PAGES = [
    ("idea", "Idea"), ("stock", "Stock"), ("form", "Form"), ("opening", "Opening"), ("sheets", "Sheets"),
    ("bench", "Bench"),
]  # fmt: skip
USUAL, LEAST = QSize(1280, 800), QSize(1024, 640)


class Bench(Protocol):
    """What the window asks of what stands in it."""

    def begin(self) -> None:
        """The window is there, and what was to be opened at once is open."""

    def show_page(self, page: str) -> None:
        """Go to a page."""

    def open_path(self, path: Path) -> None:
        """Open a file."""

    def may_close(self) -> bool:
        """Whether the design may go."""

    def close(self) -> None:
        """End well."""


class MainWindow(QMainWindow):
    """Shell of one design. `furnish` makes what stands in it, once it has painted; `ready` is sent then."""

    ready = Signal()
    resized = Signal()

    def __init__(self, program: Program, furnish: Callable[[MainWindow], Bench]) -> None:
        super().__init__()
        self.program = program
        self.bench: Bench | None = None
        self._furnish = furnish
        self._painted = False
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self.setWindowTitle("Yawning Lantern")
        self.resize(fitting(USUAL, LEAST))
        self.setMinimumSize(720, 480)
        self.setAcceptDrops(True)
        self.band = PageBand(PAGES)
        self.band.theme = program.theme
        self.band.chosen.connect(self.show_page)
        self.stack = QStackedWidget()
        waiting = QLabel("Unfolding …")
        waiting.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self.stack.addWidget(waiting)
        self.notices = QVBoxLayout()
        self.notices.setContentsMargins(4, 0, 8, 0)
        body = QWidget()
        line = QHBoxLayout(body)
        line.setContentsMargins(0, 0, 0, 0)
        line.setSpacing(0)
        line.addWidget(self.band)
        column = QVBoxLayout()
        column.setSpacing(0)
        column.addLayout(self.notices)
        column.addWidget(self.stack, 1)
        line.addLayout(column, 1)
        self.setCentralWidget(body)
        self.commands: dict[str, Command] = {}
        self.actions_by_id: dict[str, QAction] = {}
        self.menus: dict[str, QMenu] = {name: self.menuBar().addMenu(name) for name in MENUS}
        self.recent_menu = QMenu("Open &lately", self)
        self.examples_menu = QMenu("Open an e&xample", self)

    def take(self, commands: Sequence[Command]) -> None:
        """Fill the menus."""
        for command in commands:
            action = QAction(command.words, self)
            if command.shortcut:
                action.setShortcut(command.shortcut)
            if command.checked is not None:
                action.setCheckable(True)
            action.triggered.connect(lambda _=False, do=command.do: do())
            menu = self.menus[command.menu]
            menu.addAction(action)
            if command.ends_group:
                menu.addSeparator()
            assert command.id not in self.commands, command.id  # two of one name would do one thing
            self.commands[command.id] = command
            self.actions_by_id[command.id] = action
        self.refresh()

    def refresh(self) -> None:
        """Which commands can be done now, and which switches are on."""
        for name, command in self.commands.items():
            action = self.actions_by_id[name]
            action.setEnabled(command.when())
            if command.checked is not None:
                action.setChecked(command.checked())

    def paintEvent(self, event: QPaintEvent) -> None:
        super().paintEvent(event)
        if not self._painted:
            self._painted = True
            QTimer.singleShot(0, self, self._load)

    def _load(self) -> None:
        """Make everything that needs the core."""
        if self.bench is None:
            self.bench = self._furnish(self)
            self.ready.emit()
            self.bench.begin()

    def show_page(self, page: str) -> None:
        """Go to a page; pages of a design need one."""
        if self.bench is not None:
            self.bench.show_page(page)

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self.resized.emit()

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        if any(url.toLocalFile().endswith(".lantern") for url in event.mimeData().urls()):
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        for url in event.mimeData().urls():
            if self.bench is not None and url.toLocalFile().endswith(".lantern"):
                self.bench.open_path(Path(url.toLocalFile()))
                return

    def closeEvent(self, event: QCloseEvent) -> None:
        if self.bench is not None and not self.bench.may_close():
            event.ignore()
            return
        if self.bench is not None:
            self.bench.close()
        self.program.forget(self)
        event.accept()
