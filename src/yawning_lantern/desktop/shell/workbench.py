"""What stands in a window: one session, its pages, and the commands, each handed what it needs."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject

from yawning_lantern.desktop.form.page import FormPage
from yawning_lantern.desktop.shared.drawer import Drawer
from yawning_lantern.desktop.shared.notice import Notice
from yawning_lantern.desktop.shared.session import Session
from yawning_lantern.desktop.shared.thumbs import Thumbs
from yawning_lantern.desktop.shared.voice import Voice
from yawning_lantern.desktop.shell.bench_commands import BenchCommands
from yawning_lantern.desktop.shell.commands import Command
from yawning_lantern.desktop.shell.editing import Editing
from yawning_lantern.desktop.shell.exports import Exports
from yawning_lantern.desktop.shell.files import Files
from yawning_lantern.desktop.shell.guidance import Guidance
from yawning_lantern.desktop.shell.looks import Looks
from yawning_lantern.desktop.shell.opening_commands import OpeningCommands
from yawning_lantern.desktop.shell.pages import Pages
from yawning_lantern.desktop.shell.sheets_commands import SheetsCommands
from yawning_lantern.desktop.shell.window import PAGES, MainWindow
from yawning_lantern.desktop.shell.writing import Writer
from yawning_lantern.errors import LanternError
from yawning_lantern.exchange.recovery import Recovery
from yawning_lantern.stock import Paper

if TYPE_CHECKING:
    from yawning_lantern.desktop.bench.page import BenchPage
    from yawning_lantern.desktop.idea.page import IdeaPage
    from yawning_lantern.desktop.opening.page import OpeningPage
    from yawning_lantern.desktop.sheets.page import SheetsPage
    from yawning_lantern.desktop.stock.page import StockPage
    from yawning_lantern.flatfold.draft import Draft

SAID_FOR = 8000  # ms


class Workbench(QObject):
    """One session in one window. `another` makes one more window."""

    def __init__(self, window: MainWindow, another: Callable[[], MainWindow]) -> None:
        super().__init__(window)
        self.window = window
        program = window.program
        self.session = Session(Recovery(program.state_folder / "autosave"), self)
        voice = Voice(self.say, self.complain)
        self.thumbs = Thumbs(self)
        self.drawer = Drawer(program.drawer, self)
        self.form = FormPage(self.session, self.thumbs, lambda: self.show_page("form"))
        commit = self.form.measures.commit_typed
        self.writer = Writer(voice, self)
        self.files = Files(window, self.session, voice, commit, another)
        pages = self.pages = Pages(window, self.session, self.drawer, self.form, self.thumbs, self.files, self.refresh)
        self.exports = Exports(window, self.session, voice, commit, pages.opening_of, self.writer)
        self.editing = Editing(self.session, self.form, voice, self._fold_on)
        self.looks = Looks(program, self.session, pages.idea, self.form)
        self.opening_commands = OpeningCommands(
            window, self.session, pages.opening, lambda: self.show_page("opening"), voice, self.writer
        )
        self.sheets_commands = SheetsCommands(
            window, self.session, pages.sheets, lambda: self.show_page("sheets"), voice, self.writer
        )
        self.bench_commands = BenchCommands(
            window, self.session, pages.bench, lambda: self.show_page("bench"), voice, self.writer
        )
        self.guidance = Guidance(window, self.session, self.form, self.shown_page)
        window.take((
            *self.files.commands(),
            Command("find_book", "&Design", "A boo&k from one sheet …",
                    pages.idea.to(lambda page: page.find_book()), "",
                    about="Say the grid and what you wish: every way to slit it is looked at"),
            Command("own_sheet", "&Design", "&Your own sheet …", pages.idea.to(lambda page: page.own_sheet()), "",
                    about="Mark out a grid, slit it, fold it act by act"),
            *self.exports.commands(),
            Command("quit_program", "&Design", "&Quit", self.quit_program, "Ctrl+Q"),
            *self.editing.commands(), *self.looks.commands(), *self._going(), *self.opening_commands.commands(),
            *self.sheets_commands.commands(), *self.bench_commands.commands(),
            *self.guidance.commands(),
        ))  # fmt: skip
        for menu in (window.examples_menu, window.recent_menu):
            window.menus["&Design"].insertMenu(window.actions_by_id["save_design"], menu)
        window.menus["&Window"].aboutToShow.connect(self._list_windows)
        self._listen()
        self.dress()
        if len(program.windows) == 1:
            for leftover in self.session.recovery.leftovers():
                self.files.offer(leftover)
        self.refresh()

    @property
    def idea(self) -> IdeaPage:
        """The Idea page, made if it is not there yet; so are those that follow."""
        return self.pages.idea()

    @property
    def stock(self) -> StockPage:
        """The Stock page."""
        return self.pages.stock()

    @property
    def opening(self) -> OpeningPage:
        """The Opening page."""
        return self.pages.opening()

    @property
    def sheets(self) -> SheetsPage:
        """The Sheets page."""
        return self.pages.sheets()

    @property
    def bench(self) -> BenchPage:
        """The Bench page."""
        return self.pages.bench()

    def _listen(self) -> None:
        self.files.begun.connect(lambda: self.show_page("form"))
        self.window.program.dressed.connect(self.dress)
        session = self.session
        for signal in (session.changed, session.judged, session.saved, session.selected, session.troubled):
            signal.connect(self.refresh)
        self.form.sides.toggled.connect(self.window.refresh)
        self.form.enlarged.connect(self.window.refresh)

    def _fold_on(self, draft: Draft, paper: Paper, take: Callable[[dict[str, str | float]], object]) -> None:
        self.idea.fold_on(draft, paper, take)

    def _going(self) -> tuple[Command, ...]:
        """The Go menu."""

        def to(page: str) -> Callable[[], None]:
            return lambda: self.show_page(page)

        def may(page: str) -> Callable[[], bool]:
            return lambda: page == "idea" or self.session.is_open

        letters: list[str] = []
        commands = []
        for n, (page, words) in enumerate(PAGES, 1):
            at = next(k for k, letter in enumerate(words.lower()) if letter not in letters)
            letters.append(words[at].lower())
            marked = f"{words[:at]}&{words[at:]}"
            commands.append(
                Command(f"page_{page}", "&Go", marked, to(page), f"Alt+{n}", may(page), about=f"The page {words}")
            )
        return tuple(commands)

    def _list_windows(self) -> None:
        """One line for every open design."""
        menu = self.window.menus["&Window"]
        menu.clear()
        for window in self.window.program.windows:
            action = menu.addAction(window.windowTitle())
            action.setCheckable(True)
            action.setChecked(window is self.window)
            action.triggered.connect(lambda _=False, w=window: (w.raise_(), w.activateWindow()))

    # -- state of the window

    def begin(self) -> None:
        """What was to be opened at once is open; where nothing was, Idea."""
        if not self.session.is_open:
            self.show_page("idea")

    def shown_page(self) -> str:
        """The page that is shown."""
        return self.pages.shown

    def show_page(self, page: str) -> None:
        """Go to a page; without a design only Idea is there."""
        if page != "idea" and not self.session.is_open:
            self.say("There is no design yet. Begin one here, or open one.")
            page = "idea"
        self.pages.show(page)

    @property
    def is_idle(self) -> bool:
        """Whether nothing is being worked out."""
        form = self.form
        parts = (self.session, form.fits, form.flat.sides, form.advice, self.thumbs, self.writer, *self.pages.made)
        return all(one.is_idle for one in parts)

    def refresh(self) -> None:
        """Title, commands, marks on the band."""
        session, window = self.session, self.window
        window.refresh()
        window.actions_by_id["undo"].setText(f"&Undo {session.history.undo_words}".strip())
        window.actions_by_id["redo"].setText(f"&Redo {session.history.redo_words}".strip())
        name = session.path.stem if session.path else session.design.name
        star = "*" if session.is_dirty else ""
        window.setWindowTitle(f"{name}{star} – Yawning Lantern" if session.is_open else "Yawning Lantern")
        words = session.trouble
        if not words and session.study is not None and session.study.has_clash:
            words = "something clashes"
        window.band.warn("form", words)
        opening = self.pages.opening.known
        known = opening.work.current if opening is not None else None
        window.band.warn("opening", "it does not open" if known is not None and not known.opening.works else "")
        if session.study is not None:
            self.exports.follow(session.study)

    def dress(self) -> None:
        """Give every page the program's theme."""
        theme = self.window.program.theme
        for page in (self.form, self.thumbs, *self.pages.made):
            page.set_theme(theme)
        self.window.band.theme = theme
        self.window.band.update()
        self.window.refresh()

    def say(self, words: str) -> None:
        """Tell something in passing."""
        self.window.statusBar().showMessage(words, SAID_FOR)

    def complain(self, error: LanternError, after: str = "") -> None:
        """Tell what went wrong, and what follows, in a strip that does not block the work."""
        self.window.notices.addWidget(Notice(f"✕ {error.sentence()} {after}".rstrip(), {}))

    # -- beginning and ending

    def open_path(self, path: Path) -> None:
        """Open a file."""
        self.files.open_path(path)

    def may_close(self) -> bool:
        """Whether the design may go."""
        return self.files.may_leave()

    def close(self) -> None:
        """The window goes: keep the switches, end well."""
        self.pages.stop()
        for one in (self.form.fits, self.form.advice, self.form.flat.sides, self.thumbs):
            one.stop()
        self.writer.finish()
        self.drawer.close()
        self.session.close()
        self.window.program.settings.sync()

    def quit_program(self) -> None:
        """Close every window; each asks what must be asked."""
        for window in tuple(self.window.program.windows):
            if not window.close():
                return
