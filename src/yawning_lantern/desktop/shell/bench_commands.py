"""The Bench menu: on, back, the list of steps, evenings as a calendar."""

from __future__ import annotations

from collections.abc import Callable
from datetime import date, timedelta
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject
from PySide6.QtWidgets import QFileDialog, QInputDialog, QWidget

from yawning_lantern.desktop.shared.session import Session
from yawning_lantern.desktop.shared.voice import Voice
from yawning_lantern.desktop.shell.commands import Command
from yawning_lantern.desktop.shell.late import LatePage
from yawning_lantern.desktop.shell.writing import Writer
from yawning_lantern.errors import ParameterError

if TYPE_CHECKING:  # the page is imported when it is first shown
    from yawning_lantern.desktop.bench.page import BenchPage


class BenchCommands(QObject):
    """Commands of the Bench page; `show` goes there."""

    def __init__(
        self,
        window: QWidget,
        session: Session,
        page: LatePage[BenchPage],
        show: Callable[[], None],
        voice: Voice,
        writer: Writer,
    ) -> None:
        super().__init__(window)
        self._session, self._late, self._show, self._voice, self._writer = session, page, show, voice, writer

    @property
    def _page(self) -> BenchPage:
        return self._late()

    def commands(self) -> tuple[Command, ...]:
        """The Bench menu."""
        page = self._late
        is_planned = page.whether(lambda p: p.walk is not None)

        def is_studied() -> bool:
            return self._session.study is not None

        return (
            Command(
                "bench_done",
                "&Bench",
                "&Done, next",
                page.to(lambda p: p.go_on()),
                "Ctrl+Return",
                is_planned,
                about="The number or the step is done; Space on the page",
            ),
            Command(
                "bench_back",
                "&Bench",
                "&Back",
                page.to(lambda p: p.go_back()),
                "Ctrl+Backspace",
                is_planned,
                about="The number or the step before; Backspace on the page",
            ),
            Command(
                "all_steps",
                "&Bench",
                "&All steps",
                page.to(lambda p: p.all.toggle()),
                "Ctrl+L",
                is_studied,
                checked=page.whether(lambda p: p.all.isChecked()),
                about="Fold out the list of all steps, with the time left",
            ),
            Command(
                "went_wrong",
                "&Bench",
                "Something went &wrong …",
                page.to(lambda p: p.rescue.open()),
                "Ctrl+Shift+W",
                is_planned,
                about="Say what it really measures: the rest is fitted again round it",
            ),
            Command(
                "begin_anew",
                "&Bench",
                "Begin a&new",
                page.to(lambda p: p.begin_anew()),
                "",
                is_planned,
                ends_group=True,
                about="Nothing is done yet",
            ),
            Command(
                "export_booklet",
                "&Bench",
                "Boo&klet as PDF …",
                lambda: self.export_booklet(trial=False),
                "",
                is_planned,
                about="Everything on paper: list, sheets, steps with pictures, templates at 1:1",
            ),
            Command(
                "export_trial",
                "&Bench",
                "&Paper trial as PDF …",
                lambda: self.export_booklet(trial=True),
                "",
                is_planned,
                about="Steps and templates to try it on copy paper first",
            ),
            Command(
                "export_machine",
                "&Bench",
                "Files for a &cutting machine …",
                self.export_machine,
                "",
                is_planned,
                about="SVG, DXF or a plotter file; a plotter file is tried on the simulated machine first",
            ),
            Command(
                "export_evenings",
                "&Bench",
                "&Evenings as a calendar …",
                self.export_evenings,
                "",
                is_planned,
                about="Cut the work into evenings before a day, as an iCalendar file",
            ),
        )

    def export_booklet(self, *, trial: bool) -> None:
        """Everything on paper."""
        from yawning_lantern.exchange.booklet import write_booklet

        study, walk = self._session.study, self._page.walk
        if study is None or walk is None:
            return
        what, units = ("paper trial" if trial else "booklet"), self._session.design.units
        copies = self._page.copies.value()
        chosen, _ = QFileDialog.getSaveFileName(self._page, "Write", f"{self._session.design.name} {what}.pdf", "*.pdf")
        if chosen:
            path = Path(chosen) if Path(chosen).suffix else Path(chosen + ".pdf")
            self._writer.write(path, lambda: write_booklet(study, walk.plan, path, units, copies=copies, trial=trial))

    def export_machine(self) -> None:
        """A file for a cutting machine, by its suffix; a plotter file is tried first."""
        from yawning_lantern.exchange.cut_files import write_cut_file

        study = self._session.study
        if study is None:
            return
        proposed = f"{self._session.design.name}.svg"
        chosen, _ = QFileDialog.getSaveFileName(self._page, "Write", proposed, "*.svg;;*.dxf;;*.plt")
        if chosen:
            path = Path(chosen) if Path(chosen).suffix else Path(chosen + ".svg")
            self._writer.write(path, lambda: write_cut_file(study, path))

    def export_evenings(self) -> None:
        """The work cut into evenings before a day, as a calendar."""
        from yawning_lantern.bench.evenings import evenings
        from yawning_lantern.exchange.bench_data import calendar
        from yawning_lantern.exchange.files import write_atomically

        walk = self._page.walk
        if walk is None:
            return
        proposed = date.today() + timedelta(days=7)
        words = "By which day shall it be done? Write year, month and day."
        text, ok = QInputDialog.getText(self._page, "Evenings", words, text=proposed.isoformat())
        if not ok:
            return
        try:
            until = date.fromisoformat(text.strip())
        except ValueError:
            error = ParameterError(f"“{text}” is no day.", "Evenings", "Write it such as 2027-03-14.")
            self._voice.complain(error, "")
            return
        sittings = evenings(walk.plan, until)
        units, name = self._session.design.units, self._session.design.name
        chosen, _ = QFileDialog.getSaveFileName(self._page, "Write the evenings", f"{name} evenings.ics", "*.ics")
        if chosen:
            path = Path(chosen) if Path(chosen).suffix else Path(chosen + ".ics")
            self._writer.write(path, lambda: write_atomically(path, calendar(name, sittings, units)))
            first = sittings[0].day if sittings else until
            self._voice.say(f"{len(sittings)} evenings, the first on {first:%A %d %B}.")
