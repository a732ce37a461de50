"""The Help menu: help for the page one is on, the search of commands, the tour, and what the program is."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QObject
from PySide6.QtWidgets import QDialog, QTextBrowser, QVBoxLayout

from yawning_lantern.design import walk
from yawning_lantern.desktop.form.page import FormPage
from yawning_lantern.desktop.shared.session import Session
from yawning_lantern.desktop.shell.commands import Command
from yawning_lantern.desktop.shell.finder import Deed, Finder
from yawning_lantern.desktop.shell.tour import Stop, Tour
from yawning_lantern.desktop.shell.window import PAGES, MainWindow

TOURED = "toured"  # the setting that says that the tour was seen


class Guidance(QObject):
    """Helps of one window. `page` tells which page is shown."""

    def __init__(self, window: MainWindow, session: Session, form: FormPage, page: Callable[[], str]) -> None:
        super().__init__(window)
        self._window, self._session, self._form, self._page = window, session, form, page
        self._text: QTextBrowser | None = None
        self.dialog: QDialog | None = None
        self.finder: Finder | None = None
        self.tour: Tour | None = None
        session.studied.connect(self._first_time)
        window.resized.connect(self._follow)

    def commands(self) -> tuple[Command, ...]:
        """The Help menu."""
        return (
            Command("show_help", "&Help", "&Help for this page, and keys", self.show_help, "F1"),
            Command(
                "find_command", "&Help", "&Find a command or a part …", self.find, "F3", ends_group=True,
                about="Type some of its words",
            ),
            Command(
                "show_tour", "&Help", "The &tour", self.take_tour, when=lambda: self._session.study is not None,
                about="Five short notes on the Form page",
            ),
            Command("show_about", "&Help", "&About Yawning Lantern", self.show_about),
        )  # fmt: skip

    def _show(self, title: str, html: str) -> None:
        if self.dialog is None or self._text is None:
            self.dialog = QDialog(self._window)
            self.dialog.resize(620, 640)
            self._text = QTextBrowser()
            self._text.setOpenExternalLinks(False)
            self._text.setAccessibleName("Help")
            QVBoxLayout(self.dialog).addWidget(self._text)
        self.dialog.setWindowTitle(title)
        self._text.setHtml(html)
        self.dialog.show()
        self.dialog.raise_()

    def show_help(self) -> None:
        """What can be done on this page, its keys, then the first steps and all keys."""
        from yawning_lantern.desktop.shell.help_text import help_html

        page = self._page()
        self._show(f"Help: {dict(PAGES)[page]}", help_html(page, tuple(self._window.commands.values())))

    def show_about(self) -> None:
        """What this is, which version, whose letters it is set in, and who has the last word."""
        from importlib.metadata import version

        from yawning_lantern.desktop.shell.help_text import about_html

        self._show("About Yawning Lantern", about_html(version("yawning-lantern")))

    def deeds(self) -> list[Deed]:
        """Everything that can be done now, and every part that can be chosen."""
        commands = [
            Deed(c.plain, c.menu.replace("&", ""), c.shortcut, c.do, c.about)
            for c in self._window.commands.values()
            if c.when() and c.id != "find_command"
        ]
        if not self._session.is_open:
            return commands

        def choose(element: str) -> Callable[[], None]:
            def do() -> None:
                self._window.show_page("form")
                self._session.select(element)

            return do

        parts = walk(self._session.design.root)
        return commands + [Deed(p.name or p.family, "part", "", choose(p.id), "Choose it on Form") for p in parts]

    def find(self) -> None:
        """The search, over the window."""
        if self.finder is not None:
            self.finder.deleteLater()
        self.finder = Finder(self.deeds(), self._window)
        self.finder.show()
        self.finder.field.setFocus()

    def _first_time(self) -> None:
        seen = self._window.program.settings.value(TOURED, False, bool)
        if self.tour is None and self._page() == "form" and not seen:
            self.take_tour()

    def take_tour(self) -> None:
        """The notes, from the first."""
        form = self._form
        stops = (
            Stop(form.nest, "The nest",
                 "Parts inside parts. Choose one here; everything else on this page is about the chosen one."),
            Stop(form.measures, "Measurements",
                 "Type as you speak: 2 7/8, 73mm, 1/16 more. Bold figures are yours; slanted ones are worked out and "
                 "follow."),
            Stop(form.standing, "Standing",
                 "How it folds, with the paper's real thickness. Drag to turn it; the slider goes from flat over shut "
                 "to open."),
            Stop(form.fits, "Fits",
                 "Every gap, those that are wrong first. Choose one to see its sum, and what would cure it."),
            Stop(self._window.band, "The pages",
                 "Idea begins, Stock chooses paper, Form shapes, Opening proves how it opens. F3 finds any command by "
                 "its words, F1 helps."),
        )  # fmt: skip
        self._window.show_page("form")
        if form.is_enlarged:
            form.enlarge()
        if self.tour is not None:
            self.tour.deleteLater()
        self.tour = Tour(self._window, stops, self._toured)
        self.tour.begin()

    def _toured(self) -> None:
        self._window.program.settings.setValue(TOURED, True)

    def _follow(self) -> None:
        if self.tour is not None and self.tour.isVisible():
            self.tour.place()
