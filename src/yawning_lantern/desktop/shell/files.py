"""Designs that come and go: new, opened, saved, left; each in this window or in one more."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import QObject, Signal
from PySide6.QtWidgets import QFileDialog, QMessageBox

from yawning_lantern.design import Design
from yawning_lantern.desktop.shared.notice import Notice
from yawning_lantern.desktop.shared.session import Session
from yawning_lantern.desktop.shared.voice import Voice
from yawning_lantern.desktop.shell.asking import may_overwrite
from yawning_lantern.desktop.shell.commands import Command
from yawning_lantern.desktop.shell.recent import RecentFiles
from yawning_lantern.desktop.shell.window import MainWindow
from yawning_lantern.errors import LanternError
from yawning_lantern.exchange.design_file import SUFFIX, read_design
from yawning_lantern.exchange.recovery import Leftover

DEMO = Path(__file__).parents[2] / "examples" / "comet-night-set.lantern"


class Files(QObject):
    """What the Design menu does to the open design. `begun`: another design is open; `listed`: other files are recent.

    `commit` enters what is typed and not entered yet; `another` makes one more window.
    """

    begun = Signal()
    listed = Signal()

    def __init__(
        self,
        window: MainWindow,
        session: Session,
        voice: Voice,
        commit: Callable[[], None],
        another: Callable[[], MainWindow],
    ) -> None:
        super().__init__(window)
        self._window, self._session, self._voice = window, session, voice
        self._commit, self._another = commit, another
        window.examples_menu.aboutToShow.connect(self._list_examples)
        self.recent = RecentFiles(window.program.settings, window.recent_menu, self.open_path)

    def commands(self) -> tuple[Command, ...]:
        """The first half of the Design menu."""
        s = self._session
        return (
            Command("new_design", "&Design", "&New …", lambda: self._window.show_page("idea"), "Ctrl+N"),
            Command(
                "new_window", "&Design", "New &window", self.open_window, "Ctrl+Shift+N",
                about="One more design beside this one",
            ),
            Command("open_design", "&Design", "&Open …", self.open_design, "Ctrl+O"),
            Command("open_beside", "&Design", "Open &beside this …", self.open_beside, "Ctrl+Shift+O"),
            Command("open_demo", "&Design", "Open the &demo", self.open_demo, ends_group=True),
            Command("save_design", "&Design", "&Save", self.save_design, "Ctrl+S", lambda: s.is_open),
            Command(
                "save_design_as", "&Design", "Save &as …", self.save_design_as, "Ctrl+Shift+S", lambda: s.is_open,
                ends_group=True,
            ),
        )  # fmt: skip

    def begin(self, design: Design) -> None:
        """Start with a new design, if the open one may go."""
        if self.may_leave():
            self._session.start(design, dirty=True)
            self.begun.emit()

    def open_demo(self) -> None:
        """The design that ships with the program, as a copy without a file."""
        self.open_example(DEMO)

    def open_example(self, path: Path) -> None:
        """A design that ships with the program, as a copy without a file."""
        if self.may_leave():
            self._session.start(read_design(path))
            self.begun.emit()

    def _list_examples(self) -> None:
        """Every design that ships with the program, by its name."""
        menu = self._window.examples_menu
        menu.clear()
        for path in sorted(DEMO.parent.glob(f"*{SUFFIX}")):
            menu.addAction(read_design(path).name).triggered.connect(lambda _=False, path=path: self.open_example(path))

    def open_window(self, path: Path | None = None) -> MainWindow:
        """One more window, with the Idea page or with a file."""
        window = self._another()

        def ready() -> None:
            if path is not None and window.bench is not None:
                window.bench.open_path(path)

        window.ready.connect(ready)
        window.move(self._window.pos().x() + 40, self._window.pos().y() + 40)
        window.show()
        return window

    def _ask(self) -> Path | None:
        name, _ = QFileDialog.getOpenFileName(self._window, "Open a design", "", f"Designs (*{SUFFIX})")
        return Path(name) if name else None

    def open_design(self) -> None:
        """Choose a file and open it here."""
        path = self._ask()
        if path is not None:
            self.open_path(path)

    def open_beside(self) -> None:
        """Choose a file and open it in a window of its own."""
        path = self._ask()
        if path is not None:
            self.open_window(path)

    def open_path(self, path: Path) -> None:
        """Open a file; what is wrong with it is told, and the open design stays."""
        if not self.may_leave():
            return
        try:
            self._session.open_file(path)
        except LanternError as error:
            self._voice.complain(error, "The open design stays as it was." if self._session.study else "")
            return
        self._list(path)
        self.begun.emit()

    def _list(self, path: Path) -> None:
        self.recent.add(path)
        self.listed.emit()

    def save_design(self) -> None:
        """Save where it lives, or ask."""
        self._commit()
        if self._session.path is None:
            self.save_design_as()
        else:
            self.save_to(self._session.path)

    def save_design_as(self) -> None:
        """Ask where, and save there."""
        self._commit()
        first = f"{self._session.design.name}{SUFFIX}"
        name, _ = QFileDialog.getSaveFileName(self._window, "Save the design", first, f"Designs (*{SUFFIX})")
        if name:
            path = Path(name)
            whole = path if path.suffix == SUFFIX else path.with_name(path.name + SUFFIX)
            self.save_to(whole, asked=whole == path)

    def save_to(self, path: Path, asked: bool = False) -> None:
        """Save to a path. What is there and is not what was read from it is not lost without a word, unless the maker
        was `asked` already."""
        if (
            not asked
            and self._session.is_changed_on_disk(path)
            and not may_overwrite(self._window, path, path == self._session.path)
        ):
            return
        try:
            self._session.save(path)
        except LanternError as error:
            self._voice.complain(error, "")
            return
        self._list(path)
        self._voice.say(f"Saved {path}")

    def may_leave(self) -> bool:
        """Whether the open design may go: it is saved, or the maker says so."""
        if not self._session.is_dirty or self._window.isHidden():
            return True
        box = QMessageBox(self._window)
        box.setWindowTitle("Not saved yet")
        box.setText(f"“{self._session.design.name}” has changes that are not saved.")
        kinds = QMessageBox.StandardButton
        box.setStandardButtons(kinds.Save | kinds.Discard | kinds.Cancel)
        answer = box.exec()
        if answer == kinds.Save:
            self.save_design()
            return not self._session.is_dirty
        return answer == kinds.Discard

    def offer(self, leftover: Leftover) -> None:
        """A design that was open when a program ended: offer it without blocking."""

        def recover() -> None:
            if self.may_leave():
                self._session.start(leftover.design, leftover.path, dirty=True)
                if self._session.autosave():  # only when it is kept anew does the old one go
                    leftover.file.unlink(missing_ok=True)
                self.begun.emit()

        deeds = {"Recover it": recover, "Let it go": lambda: leftover.file.unlink(missing_ok=True)}
        words = f"“{leftover.design.name}” was open when the program ended, with changes that were not saved."
        self._window.notices.addWidget(Notice(words, deeds))
