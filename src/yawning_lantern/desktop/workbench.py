"""What the commands do: opens, saves, exports, switches; ties the session to the pages."""

from __future__ import annotations

from pathlib import Path

from msgspec.structs import replace
from PySide6.QtCore import QObject, QTimer
from PySide6.QtWidgets import QFileDialog, QInputDialog, QMessageBox

from yawning_lantern.design import Design, replace_element
from yawning_lantern.desktop.asking import may_overwrite
from yawning_lantern.desktop.commands import COMMANDS
from yawning_lantern.desktop.exports import Exports
from yawning_lantern.desktop.form_page import FormPage
from yawning_lantern.desktop.idea_page import IdeaPage
from yawning_lantern.desktop.looks import Looks
from yawning_lantern.desktop.notice import Notice
from yawning_lantern.desktop.opening_commands import OpeningCommands
from yawning_lantern.desktop.opening_page import OpeningPage
from yawning_lantern.desktop.recent import RecentFiles
from yawning_lantern.desktop.session import Session
from yawning_lantern.desktop.stock_page import StockPage
from yawning_lantern.desktop.thumbs import Thumbs
from yawning_lantern.desktop.window import MainWindow
from yawning_lantern.errors import LanternError
from yawning_lantern.exchange.design_file import SUFFIX, read_design
from yawning_lantern.exchange.recovery import Leftover, Recovery

SHELF_AFTER = 600  # ms until the shelf draws its pictures: the design comes first
DEMO = Path(__file__).parent.parent / "examples" / "comet-night-set.lantern"


class Workbench(QObject):
    """One session in one window. A command of the table is a method of one of its `holders`."""

    def __init__(self, window: MainWindow) -> None:
        super().__init__(window)
        self.window = window
        self.session = Session(Recovery(window.state_folder / "autosave"), self)
        self.recent = RecentFiles(window.settings, window.recent_menu, self.open_path)
        units = "mm" if window.settings.value("units", "in") == "mm" else "in"
        self.thumbs = Thumbs(self)
        self.idea = IdeaPage(units, self.thumbs)
        self.stock = StockPage(self.session)
        self.form = FormPage(self.session, self.thumbs)
        self.opening = OpeningPage(self.session)
        self.pages = {"idea": self.idea, "stock": self.stock, "form": self.form, "opening": self.opening}
        for page in self.pages.values():
            window.stack.addWidget(page)
        self.exports = Exports(self)
        self.looks = Looks(self)
        self.opening_commands = OpeningCommands(self)
        self.holders = (self, self.looks, self.exports, self.opening_commands)
        self.idea.started.connect(self.begin)
        self.idea.opened.connect(self.open_path)
        self.idea.browse.connect(self.open_design)
        self.idea.demo.connect(self.open_demo)
        self.opening.work.changed.connect(self.refresh)
        for signal in (self.session.changed, self.session.studied, self.session.saved, self.session.selected):
            signal.connect(self.refresh)
        self.session.troubled.connect(lambda _: self.refresh())
        self.idea.show_recent(self.recent.paths())
        window.actions_by_id["toggle_units"].setChecked(units == "mm")
        self.dress()
        self.show_page("idea")
        for leftover in self.session.recovery.leftovers():
            self._offer(leftover)
        self.refresh()

    # -- state of the window

    def show_page(self, page: str) -> None:
        """Go to a page; without a design only Idea is there."""
        if page != "idea" and not self.session.is_open:
            self.say("There is no design yet. Begin one here, or open one.")
            page = "idea"
        if page == "idea":
            self.idea.foresee()
        if page == "form":
            QTimer.singleShot(SHELF_AFTER, self.thumbs, self.thumbs.draw_all)
        self.window.band.show_page(page)
        self.window.stack.setCurrentWidget(self.pages[page])

    @property
    def is_idle(self) -> bool:
        """Whether nothing is being worked out."""
        form = self.form
        return all(
            one.is_idle for one in (self.session, form.fits, form.flat.sides, form.advice, self.idea, self.opening)
        ) and (not self.opening_commands.runner.is_busy)

    def refresh(self) -> None:
        """Title, enabled commands, marks on the band."""
        session = self.session
        has = {
            "design": session.is_open, "study": session.study is not None, "undo": bool(session.history.undo_words),
            "redo": bool(session.history.redo_words),
            "part": session.is_open and session.selection != session.design.root.id,
        }  # fmt: skip
        for command in COMMANDS:
            if command.needs:
                self.window.actions_by_id[command.id].setEnabled(has[command.needs])
        self.window.actions_by_id["undo"].setText(f"&Undo {session.history.undo_words}".strip())
        self.window.actions_by_id["redo"].setText(f"&Redo {session.history.redo_words}".strip())
        if session.is_open:
            self.window.actions_by_id["toggle_units"].setChecked(session.design.units == "mm")
        name = session.path.stem if session.path else session.design.name
        star = "*" if session.is_dirty else ""
        self.window.setWindowTitle(f"{name}{star} – Yawning Lantern" if session.is_open else "Yawning Lantern")
        words = session.trouble
        if not words and session.study is not None and session.study.has_clash:
            words = "something clashes"
        self.window.band.warn("form", words)
        known = self.opening.work.current
        self.window.band.warn("opening", "it does not open" if known is not None and not known.opening.works else "")
        if session.study is not None:
            self.exports.follow(session.study)

    def dress(self) -> None:
        """Give every page the window's theme."""
        theme = self.window.theme
        self.form.set_theme(theme)
        self.opening.set_theme(theme)
        self.idea.set_theme(theme)
        self.thumbs.set_theme(theme)
        self.window.band.theme = theme
        self.window.band.update()

    def say(self, words: str) -> None:
        """Tell something in passing."""
        self.window.statusBar().showMessage(words, 8000)

    def complain(self, error: LanternError, after: str = "") -> None:
        """Tell what went wrong, and what follows, in a strip that does not block the work."""
        self.window.notices.addWidget(Notice(f"✕ {error.sentence()} {after}".rstrip(), {}))

    # -- beginning and ending

    def begin(self, design: Design) -> None:
        """Start with a new design, if the open one may go."""
        if self.may_leave():
            self.session.start(design, dirty=True)
            self.show_page("form")

    def new_design(self) -> None:
        """The Idea page is where designs begin."""
        self.show_page("idea")

    def open_demo(self) -> None:
        """The design that ships with the program, as a copy without a file."""
        if self.may_leave():
            self.session.start(read_design(DEMO))
            self.show_page("form")

    def open_design(self) -> None:
        """Choose a file and open it."""
        name, _ = QFileDialog.getOpenFileName(self.window, "Open a design", "", f"Designs (*{SUFFIX})")
        if name:
            self.open_path(Path(name))

    def open_path(self, path: Path) -> None:
        """Open a file; what is wrong with it is told, and the open design stays."""
        if not self.may_leave():
            return
        try:
            self.session.open_file(path)
        except LanternError as error:
            self.complain(error, "The open design stays as it was." if self.session.study else "")
            return
        self.recent.add(path)
        self.idea.show_recent(self.recent.paths())
        self.show_page("form")

    def save_design(self) -> None:
        """Save where it lives, or ask."""
        self.form.measures.commit_typed()
        if self.session.path is None:
            self.save_design_as()
        else:
            self.save_to(self.session.path)

    def save_design_as(self) -> None:
        """Ask where, and save there."""
        self.form.measures.commit_typed()
        first = f"{self.session.design.name}{SUFFIX}"
        name, _ = QFileDialog.getSaveFileName(self.window, "Save the design", first, f"Designs (*{SUFFIX})")
        if name:
            path = Path(name)
            whole = path if path.suffix == SUFFIX else path.with_name(path.name + SUFFIX)
            self.save_to(whole, asked=whole == path)

    def save_to(self, path: Path, asked: bool = False) -> None:
        """Save to a path. What is there and is not what was read from it is not lost without a word, unless the maker
        was `asked` already."""
        if (
            not asked
            and self.session.is_changed_on_disk(path)
            and not may_overwrite(self.window, path, path == self.session.path)
        ):
            return
        try:
            self.session.save(path)
        except LanternError as error:
            self.complain(error)
            return
        self.recent.add(path)
        self.idea.show_recent(self.recent.paths())
        self.say(f"Saved {path}")

    def may_leave(self) -> bool:
        """Whether the open design may go: it is saved, or the maker says so."""
        if not self.session.is_dirty or self.window.isHidden():
            return True
        box = QMessageBox(self.window)
        box.setWindowTitle("Not saved yet")
        box.setText(f"“{self.session.design.name}” has changes that are not saved.")
        kinds = QMessageBox.StandardButton
        box.setStandardButtons(kinds.Save | kinds.Discard | kinds.Cancel)
        answer = box.exec()
        if answer == kinds.Save:
            self.save_design()
            return not self.session.is_dirty
        return answer == kinds.Discard

    may_close = may_leave

    def close(self) -> None:
        """The window goes: keep the switches, end well."""
        self.opening.work.stop()
        self.opening_commands.runner.stop()
        for one in (self.form.fits, self.form.advice, self.form.flat.sides, self.thumbs):
            one.stop()
        for one in self.idea.cards.values():
            one.runner.stop()
        self.session.close()
        self.window.settings.sync()

    def _offer(self, leftover: Leftover) -> None:
        """A design that was open when a program ended: offer it without blocking."""

        def recover() -> None:
            if self.may_leave():
                self.session.start(leftover.design, leftover.path, dirty=True)
                if self.session.autosave():  # only when it is kept anew does the old one go
                    leftover.file.unlink(missing_ok=True)
                self.show_page("form")

        deeds = {"Recover it": recover, "Let it go": lambda: leftover.file.unlink(missing_ok=True)}
        words = f"“{leftover.design.name}” was open when the program ended, with changes that were not saved."
        self.window.notices.addWidget(Notice(words, deeds))

    def quit_program(self) -> None:
        """Close the window; it asks what must be asked."""
        self.window.close()

    # -- edits

    def undo(self) -> None:
        """One step back."""
        self.session.undo()

    def redo(self) -> None:
        """One step on."""
        self.session.redo()

    def rename_part(self) -> None:
        """Give the chosen part a name of the maker's own."""
        element = self.session.selected_element()
        name, done = QInputDialog.getText(self.window, "Name of the part", "Name", text=element.name)
        if done and name.strip():
            design = replace_element(self.session.design, element.id, lambda e: replace(e, name=name.strip()[:60]))
            self.session.edit(design, "rename")

    def turn_part(self) -> None:
        """Turn the chosen part a quarter on its face."""
        element = self.session.selected_element()
        if element.place is not None:
            place = replace(element.place, turn=(element.place.turn + 1) % 4)
            design = replace_element(self.session.design, element.id, lambda e: replace(e, place=place))
            self.session.edit(design, "turn a quarter")

    def remove_part(self) -> None:
        """Take the chosen part off."""
        self.form.measures.commit_typed()
        self.form.remove_selected()
