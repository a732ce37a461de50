"""The pages of a window. Form is there at once, the others are imported and made when they are first shown."""

from __future__ import annotations

from collections.abc import Callable
from importlib import import_module
from typing import TYPE_CHECKING, TypeVar

from PySide6.QtCore import QTimer
from PySide6.QtWidgets import QWidget

from yawning_lantern.desktop.form.page import FormPage
from yawning_lantern.desktop.shared.drawer import Drawer
from yawning_lantern.desktop.shared.runner import Runner
from yawning_lantern.desktop.shared.session import Session
from yawning_lantern.desktop.shared.thumbs import Thumbs
from yawning_lantern.desktop.shell.files import Files
from yawning_lantern.desktop.shell.late import LatePage
from yawning_lantern.desktop.shell.window import MainWindow
from yawning_lantern.measure import Units
from yawning_lantern.opening import Opening
from yawning_lantern.study import Study

if TYPE_CHECKING:
    from yawning_lantern.desktop.bench.page import BenchPage
    from yawning_lantern.desktop.idea.page import IdeaPage
    from yawning_lantern.desktop.opening.page import OpeningPage
    from yawning_lantern.desktop.sheets.page import SheetsPage
    from yawning_lantern.desktop.stock.page import StockPage

SHELF_AFTER = 600  # ms until the shelf draws its pictures: the design comes first
READ_AFTER = 1500  # ms until the modules of the other pages are read
LATE = ("idea", "stock", "opening", "sheets", "bench")
One = TypeVar("One", bound="IdeaPage | StockPage | OpeningPage | SheetsPage | BenchPage")


class Pages:
    """The pages by name. `refresh` is told when what a page knows bears on title and menus."""

    def __init__(
        self,
        window: MainWindow,
        session: Session,
        drawer: Drawer,
        form: FormPage,
        thumbs: Thumbs,
        files: Files,
        refresh: Callable[[], None],
    ) -> None:
        self._window, self._session, self._drawer, self._refresh = window, session, drawer, refresh
        self._files, self._thumbs, self._form = files, thumbs, form
        self.idea, self.stock, self.opening = LatePage(self._idea), LatePage(self._stock), LatePage(self._opening)
        self.sheets, self.bench = LatePage(self._sheets), LatePage(self._bench)
        self._runner: Runner | None = None
        self.shown = "idea"  # by name; what would be shown while nothing is
        window.stack.addWidget(form)
        drawer.changed.connect(self._offer_papers)

    @property
    def made(self) -> tuple[IdeaPage | StockPage | OpeningPage | SheetsPage | BenchPage, ...]:
        """The pages, but Form, that are there by now."""
        late = (self.idea, self.stock, self.opening, self.sheets, self.bench)
        return tuple(one.known for one in late if one.known is not None)

    def opening_of(self, study: Study) -> Opening | None:
        """What the Opening page knows of a study."""
        known = self.opening.known.work.found if self.opening.known is not None else None
        return known.opening if known is not None and known.study is study else None

    def show(self, name: str) -> None:
        """Go to a page."""
        self.shown = name
        if name == "idea":
            QTimer.singleShot(0, self._window, self._foresee)
        if name == "form":
            QTimer.singleShot(SHELF_AFTER, self._form, self._form.fill_shelf)
            QTimer.singleShot(READ_AFTER, self._form, self._read_on)
        page: dict[str, Callable[[], QWidget]] = {
            "idea": self.idea, "stock": self.stock, "form": lambda: self._form, "opening": self.opening,
            "sheets": self.sheets, "bench": self.bench,
        }  # fmt: skip
        self._window.band.show_page(name)
        self._window.stack.setCurrentWidget(page[name]())

    def _read_on(self) -> None:
        """Import the other pages off the GUI thread, so that none of them is waited for when it is first shown."""
        if self._runner is None:
            self._runner = Runner(self._form)
            self._runner.submit(lambda: [import_module(f"yawning_lantern.desktop.{name}.page") for name in LATE])

    def stop(self) -> None:
        """The window goes: work nothing out any more."""
        if self._runner is not None:
            self._runner.stop()
        for page in self.made:
            page.stop()

    def _foresee(self) -> None:
        """Idea draws its pictures where it stays: a design that is opened at once does not wait for them."""
        if self.shown == "idea":
            self._offer_papers()
            self.idea().foresee()

    def _offer_papers(self) -> None:
        papers = self._drawer.catalogue().papers
        if papers and self.idea.known is not None:  # an empty drawer still lets one begin
            self.idea.known.set_papers(papers)

    # -- each made

    def _placed(self, page: One) -> One:
        page.set_theme(self._window.program.theme)
        self._window.stack.addWidget(page)
        return page

    def _idea(self) -> IdeaPage:
        from yawning_lantern.desktop.idea.page import IdeaPage

        units: Units = "mm" if self._window.program.settings.value("units", "in") == "mm" else "in"
        files = self._files
        page = self._placed(IdeaPage(units, self._thumbs))
        page.started.connect(files.begin)
        page.opened.connect(files.open_path)
        page.browse.connect(files.open_design)
        page.demo.connect(files.open_demo)
        files.listed.connect(lambda: page.show_recent(files.recent.paths()))
        page.show_recent(files.recent.paths())
        return page

    def _stock(self) -> StockPage:
        from yawning_lantern.desktop.stock.page import StockPage

        return self._placed(StockPage(self._session, self._drawer))

    def _opening(self) -> OpeningPage:
        from yawning_lantern.desktop.opening.page import OpeningPage

        page = self._placed(OpeningPage(self._session))
        page.work.changed.connect(self._refresh)
        return page

    def _sheets(self) -> SheetsPage:
        from yawning_lantern.desktop.sheets.page import SheetsPage

        page = self._placed(SheetsPage(self._session, self._drawer))
        page.work.changed.connect(self._window.refresh)
        page.view.picked.connect(self._window.refresh)
        return page

    def _bench(self) -> BenchPage:
        from yawning_lantern.desktop.bench.page import BenchPage

        page = self._placed(BenchPage(self._session, self._drawer))
        page.work.changed.connect(self._window.refresh)
        page.all.toggled.connect(self._window.refresh)
        return page
