"""The window: band, pages, menus. It paints at once; the pages are made right after the first paint."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QSettings, Qt, QTimer, Signal
from PySide6.QtGui import QAction, QCloseEvent, QDragEnterEvent, QDropEvent, QPaintEvent
from PySide6.QtWidgets import (
    QApplication,
    QHBoxLayout,
    QLabel,
    QMainWindow,
    QMenu,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from yawning_lantern.desktop.band import PageBand
from yawning_lantern.desktop.commands import COMMANDS, Command
from yawning_lantern.desktop.theme import DAY, NIGHT, Theme, apply_theme

if TYPE_CHECKING:
    from yawning_lantern.desktop.workbench import Workbench

PAGES = [("idea", "Idea"), ("stock", "Stock"), ("form", "Form"), ("opening", "Opening")]
TEXT_SIZE = 10.0


class MainWindow(QMainWindow):
    """Shell of the program. `ready` is sent once the pages stand."""

    ready = Signal()

    def __init__(self, state_folder: Path, settings: QSettings) -> None:
        super().__init__()
        self.settings = settings
        self.state_folder = state_folder
        self.bench: Workbench | None = None
        self._painted = False
        self.theme: Theme = NIGHT if settings.value("dark", False, bool) else DAY
        self.text_size = float(settings.value("text", TEXT_SIZE, float))
        app = QApplication.instance()
        assert isinstance(app, QApplication)
        apply_theme(app, self.theme, self.text_size)
        self.setWindowTitle("Yawning Lantern")
        self.resize(1280, 800)
        self.setAcceptDrops(True)
        self.band = PageBand(PAGES)
        self.band.theme = self.theme
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
        self.actions_by_id: dict[str, QAction] = {}
        self._make_menus()

    def _make_menus(self) -> None:
        menus: dict[str, QMenu] = {}
        for command in COMMANDS:
            menu = menus.get(command.menu)
            if menu is None:
                menu = menus[command.menu] = self.menuBar().addMenu(command.menu)
                if command.menu == "&Design":
                    self.recent_menu = QMenu("Open &lately", self)
            action = QAction(command.words, self)
            if command.shortcut:
                action.setShortcut(command.shortcut)
            action.setCheckable(command.checkable)
            action.setEnabled(not command.needs)
            action.triggered.connect(lambda _=False, c=command: self.run(c))
            menu.addAction(action)
            if command.id == "open_demo":
                menu.addMenu(self.recent_menu)
                menu.addSeparator()
            if command.id in ("save_design_as", "export_json", "redo", "fit_views", "toggle_dark"):
                menu.addSeparator()
            self.actions_by_id[command.id] = action
        self.actions_by_id["toggle_dark"].setChecked(self.theme.dark)

    def run(self, command: Command) -> None:
        """Do a command of the table."""
        if self.bench is not None:
            next(getattr(holder, command.id) for holder in self.bench.holders if hasattr(holder, command.id))()

    def paintEvent(self, event: QPaintEvent) -> None:
        super().paintEvent(event)
        if not self._painted:
            self._painted = True
            QTimer.singleShot(0, self._load)

    def _load(self) -> None:
        """Make the workbench: everything that needs the core."""
        from yawning_lantern.desktop.workbench import Workbench

        if self.bench is None:
            self.bench = Workbench(self)
            self.ready.emit()

    def show_page(self, page: str) -> None:
        """Go to a page; pages of a design need one."""
        if self.bench is not None:
            self.bench.show_page(page)

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
        event.accept()
