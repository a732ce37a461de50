"""The Sheets menu: walking the sheets, marking them as cut, and what is exported of them."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject
from PySide6.QtWidgets import QFileDialog, QWidget

from yawning_lantern.desktop.shared.session import Session
from yawning_lantern.desktop.shared.voice import Voice
from yawning_lantern.desktop.shell.commands import Command
from yawning_lantern.desktop.shell.late import LatePage
from yawning_lantern.desktop.shell.writing import Writer

if TYPE_CHECKING:  # the page is imported when it is first shown
    from yawning_lantern.desktop.sheets.page import SheetsPage
    from yawning_lantern.desktop.sheets.work import Planned


class SheetsCommands(QObject):
    """Commands of the Sheets page; `show` goes there."""

    def __init__(
        self,
        window: QWidget,
        session: Session,
        page: LatePage[SheetsPage],
        show: Callable[[], None],
        voice: Voice,
        writer: Writer,
    ) -> None:
        super().__init__(window)
        self._session, self._late, self._show, self._voice, self._writer = session, page, show, voice, writer

    @property
    def _page(self) -> SheetsPage:
        return self._late()

    def commands(self) -> tuple[Command, ...]:
        """The Sheets menu."""

        def is_studied() -> bool:
            return self._session.study is not None

        page = self._late

        def walk(by: int) -> Callable[[], None]:
            def do() -> None:
                self._show()
                self._page.go(by)

            return do

        return (
            Command("next_sheet", "&Sheets", "&Next sheet", walk(1), "Ctrl+PgDown", is_studied),
            Command("last_sheet", "&Sheets", "&Sheet before", walk(-1), "Ctrl+PgUp", is_studied),
            Command(
                "mark_cut",
                "&Sheets",
                "&Mark the sheet as cut, or take that back",
                self.mark,
                "Ctrl+Shift+M",
                is_studied,
                about="The drawer's counts go down, off-cuts are kept",
            ),
            Command(
                "lock_piece",
                "&Sheets",
                "&Lock the piece, or free it",
                page.to(lambda p: p.hand.toggle_lock()),
                "Ctrl+Shift+L",
                page.whether(lambda p: p.view.piece() is not None),
                about="It stays where it is on its sheet",
            ),
            Command(
                "lay_anew",
                "&Sheets",
                "Lay the rest &anew",
                page.to(lambda p: p.hand.anew_asked.emit()),
                "",
                is_studied,
                about="What is locked stays; everything else is laid out again",
            ),
            Command(
                "move_back",
                "&Sheets",
                "Move the piece &back",
                page.to(lambda p: p.work.take_back()),
                "",
                page.whether(lambda p: p.work.was_moved),
                ends_group=True,
            ),
            Command("export_sheets", "&Sheets", "Export the sheets as &PDF …", self.export_pdf, "", is_studied),
            Command("export_cuts", "&Sheets", "Export the &cuts as CSV …", self.export_csv, "", is_studied),
            Command(
                "export_shopping",
                "&Sheets",
                "Shopping l&ist …",
                self.export_shopping,
                "",
                is_studied,
                about="Sheets, tape by width and length, ready-made things: as a spreadsheet (ODS) or CSV",
            ),
        )

    def mark(self) -> None:
        """Mark the chosen sheet as cut, or take that back."""
        self._show()
        self._page.mark_as_cut()

    def export_pdf(self) -> None:
        """A page for every sheet, with its cuts."""
        from yawning_lantern.exchange.cutting import sheet_pages
        from yawning_lantern.exchange.files import write_atomically
        from yawning_lantern.exchange.pdf import to_pdf

        units, title = self._session.design.units, self._session.design.name
        self._export(
            "Export the sheets",
            ".pdf",
            lambda planned, path: write_atomically(
                path, to_pdf(sheet_pages(planned.plan, planned.names, units), title)
            ),
        )

    def export_csv(self) -> None:
        """Every cut in the order made."""
        from yawning_lantern.exchange.cutting import sheets_csv
        from yawning_lantern.exchange.files import write_atomically

        units = self._session.design.units
        self._export(
            "Export the cuts",
            ".csv",
            lambda planned, path: write_atomically(
                path, sheets_csv(planned.plan, planned.names, units).encode("utf-8")
            ),
        )

    def export_shopping(self) -> None:
        """What must be had, as a spreadsheet or a plain table."""
        from yawning_lantern.exchange.files import write_atomically
        from yawning_lantern.exchange.shopping_list import shopping_bytes

        units, title, buy = self._session.design.units, self._session.design.name, self._page.shopping()
        self._export(
            "Write the shopping list",
            ".ods",
            lambda planned, path: write_atomically(path, shopping_bytes(buy, units, title, path)),
            ".csv",
        )

    def _export(self, title: str, suffix: str, write: Callable[[Planned, Path], object], *others: str) -> None:
        planned = self._page.work.current
        if planned is None or not self._page.work.is_idle:
            self._show()
            self._voice.say("The sheets are being laid out; export them when they are there.")
            return
        kinds = ";;".join(f"*{end}" for end in (suffix, *others))
        proposed = f"{self._session.design.name} sheets{suffix}"
        name, _ = QFileDialog.getSaveFileName(self._page, title, proposed, kinds)
        if not name:
            return
        path = Path(name) if Path(name).suffix else Path(name + suffix)
        self._writer.write(path, lambda: write(planned, path))
