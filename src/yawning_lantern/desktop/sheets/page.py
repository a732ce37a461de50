"""The Sheets page: sheets as they are cut, the cuts of the chosen one, what must be bought, and how copies share."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtGui import QShowEvent
from PySide6.QtWidgets import (
    QButtonGroup,
    QHBoxLayout,
    QLabel,
    QListWidget,
    QListWidgetItem,
    QPushButton,
    QScrollArea,
    QSizePolicy,
    QSpinBox,
    QSplitter,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from yawning_lantern.desktop.shared.cards import card, heading
from yawning_lantern.desktop.shared.drawer import Drawer
from yawning_lantern.desktop.shared.session import Session
from yawning_lantern.desktop.shared.theme import Theme
from yawning_lantern.desktop.sheets.batch import CopiesView
from yawning_lantern.desktop.sheets.by_hand import ByHand
from yawning_lantern.desktop.sheets.view import SheetsView
from yawning_lantern.desktop.sheets.work import MOST_COPIES, Planned, SheetsWork
from yawning_lantern.errors import LanternError
from yawning_lantern.exchange.cutting import cut_words, sureness
from yawning_lantern.exchange.shopping_list import buy_words
from yawning_lantern.measure import format_length
from yawning_lantern.study import Study
from yawning_lantern.study.shopping import Buy, paper_of, shopping
from yawning_lantern.study.wanted import trimmer_of
from yawning_lantern.workshop import Job, OffCut


class SheetsPage(QWidget):
    """Which sheets, which cuts, what to buy."""

    def __init__(self, session: Session, drawer: Drawer, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.session = session
        self.drawer = drawer
        self._jobs: dict[int, int] = {}
        self._shown: Planned | None = None
        self.work = SheetsWork(session, self)
        self.view = SheetsView()
        self.summary = QLabel("")
        self.summary.setObjectName("title")
        self.note = QLabel("")
        self.note.setObjectName("faint")
        self.note.setWordWrap(True)
        self.note.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)
        self.copies = QSpinBox()
        self.copies.setRange(1, MOST_COPIES)
        self.copies.setSuffix(" ×")
        self.copies.setAccessibleName("Copies of the whole design")
        self.copies.setToolTip("So many copies of the whole design")
        self.copies.valueChanged.connect(self.look)
        self.enough = QPushButton("That will do")
        self.enough.setToolTip("Stop looking for fewer sheets")
        self.enough.clicked.connect(self.work.give_up)
        self.kept = QToolButton()
        self.kept.setText("Off-cuts first")
        self.kept.setCheckable(True)
        self.kept.setToolTip("Cut from the drawer's off-cuts of the same paper before a new sheet is taken")
        self.kept.clicked.connect(self.look)
        self.done = QPushButton("Mark as cut")
        self.done.clicked.connect(self.mark_as_cut)
        self.hand = ByHand(self.view, self.work, self.note.setText)
        self.cuts = QListWidget()
        self.cuts.setWordWrap(True)
        self.cuts.setAccessibleName("Cuts of the chosen sheet, in the order made")
        self.buy = QListWidget()
        self.buy.setWordWrap(True)
        self.buy.setAccessibleName("What must be bought")
        self.batch = CopiesView()
        self.cuts_title = heading("Cuts")
        self._cards = self._lay_out()
        self.view.chosen.connect(self._list_cuts)
        self.view.picked.connect(self._choose_part)
        self.hand.anew_asked.connect(lambda: self._look(anew=True))
        self.work.changed.connect(self.refresh)
        drawer.troubled.connect(lambda words: self.note.setText(f"✕ {words}" if words else self.note.toolTip()))
        self.work.found.connect(self._found)
        session.judged.connect(self.look)
        session.selected.connect(self._mark)

    def _lay_out(self) -> tuple[QWidget, ...]:
        head = QWidget()
        line = QHBoxLayout(head)
        line.setContentsMargins(0, 0, 0, 0)
        line.addWidget(self.summary)
        line.addWidget(self.note, 1)
        line.addWidget(self.enough)
        line.addWidget(self.kept)
        line.addWidget(QLabel("Copies"))
        line.addWidget(self.copies)
        self._ways = QButtonGroup(self)
        for words, tip, together in (
            ("Sheet by sheet", "Each sheet is cut by itself", False),
            ("One setting", "All sheets on the table: the fence is set as seldom as can be", True),
        ):
            button = QToolButton()
            button.setText(words)
            button.setToolTip(tip)
            button.setCheckable(True)
            button.setChecked(not together)
            self._ways.addButton(button, int(together))
            line.addWidget(button)
        self._ways.idClicked.connect(self.look)
        area = self._area = QScrollArea()
        area.setWidgetResizable(True)
        area.setWidget(self.view)
        area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        side = QSplitter(Qt.Orientation.Vertical)
        cards = (
            card(self.cuts_title, self.cuts, self.hand, self.done, stretch=1),
            card(heading("To buy"), self.buy, heading("Sheets for so many copies"), self.batch, stretch=1),
        )
        for one in cards:
            side.addWidget(one)
        side.setSizes([430, 260])
        side.setChildrenCollapsible(False)
        side.setHandleWidth(7)
        middle = QSplitter(Qt.Orientation.Horizontal)
        middle.addWidget(card(area))
        middle.addWidget(side)
        middle.setSizes([800, 340])
        middle.setStretchFactor(0, 1)
        middle.setChildrenCollapsible(False)
        middle.setHandleWidth(7)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(10, 8, 10, 8)
        layout.addWidget(head)
        layout.addWidget(middle, 1)
        return cards

    @property
    def is_idle(self) -> bool:
        """Whether nothing is being looked for."""
        return self.work.is_idle

    @property
    def together(self) -> bool:
        """Whether all sheets lie on the table at once."""
        return self._ways.checkedId() == 1

    def showEvent(self, event: QShowEvent) -> None:
        super().showEvent(event)
        self.look()

    def look(self) -> None:
        """Plan the design as it is now, if the page is seen."""
        if self.isVisible():
            self._look()

    def _look(self, anew: bool = False) -> None:
        self.work.look(self.copies.value(), self.together, self._off_cuts(), self.hand.held(), anew)
        self.refresh()

    def go(self, by: int) -> None:
        """Choose a sheet further on or back."""
        if self.view.sheets:
            self.view.choose((self.view.at + by) % len(self.view.sheets))
            self.view.chosen.emit(self.view.at)
            self._area.ensureVisible(0, int(self.view.box(self.view.at).center().y()), 0, self._area.height() // 2)

    # -- the drawer

    def _off_cuts(self) -> tuple[OffCut, ...]:
        """Off-cuts of the design's papers, where they go first."""
        study = self.session.study
        if study is None or not self.kept.isChecked():
            return ()
        papers = {piece.stock.id for piece in study.pieces}
        return tuple(one for one in self.drawer.off_cuts() if one.stock in papers)

    def mark_as_cut(self) -> None:
        """Mark the chosen sheet as cut: the drawer's counts go down, what is left is kept; or take that back."""
        workshop, planned, k = self.drawer.workshop(), self._shown, self.view.at
        if workshop is None or planned is None or not 0 <= k < len(planned.plan.sheets):
            return
        sheet = planned.plan.sheets[k]
        stock = sheet.board.stock
        try:
            if k in self._jobs:
                workshop.take_back(self._jobs[k])
                del self._jobs[k]
            else:
                used = [int(sheet.board.name.split()[-1])] if sheet.board.kept else []
                left = [(stock, part.name, part.width, part.height) for part in sheet.kept]
                name = f"{self.session.design.name}, sheet {k + 1}"
                self._jobs[k] = workshop.cut(Job(name, {} if used else {stock: 1}, used, left))
        except LanternError as error:
            self.note.setText(f"✕ {error.sentence()}")
            return
        self.drawer.look_again()
        self.view.mark_cut(frozenset(self._jobs))
        self._tell_buying()
        self._list_cuts(k)

    def stop(self) -> None:
        """Let what runs end."""
        self.work.stop()

    def shopping(self) -> tuple[Buy, ...]:
        """What is to be had for the sheets as they are planned, those that are marked as cut left out."""
        planned = self._shown
        if planned is None:
            return ()
        return shopping(planned.study, planned.plan, planned.copies, self.drawer.counts(), tuple(self._jobs))

    def _tell_buying(self) -> None:
        """What is still to be had, against what the drawer has."""
        self.buy.clear()
        self.buy.addItems([buy_words(one, self.session.design.units) for one in self.shopping()])

    def _found(self, count: int) -> None:
        if not self.work.is_idle:
            self.note.setText(f"{count} of one stock; looking for fewer …")

    def refresh(self) -> None:
        """Show what the work knows now."""
        planned, busy = self.work.current, not self.work.is_idle
        self.enough.setVisible(busy)
        if self.work.trouble and not busy:
            self.summary.setText("")
            self.note.setText(f"✕ {self.work.trouble}")
        elif planned is None or busy:
            self.summary.setText("Laying out the sheets …" if planned is None else self.summary.text())
            if planned is None:
                self.note.setText("")
        else:
            count = planned.plan.count
            self.summary.setText("1 sheet" if count == 1 else f"{count} sheets")
            told = f"{sureness(planned.plan)} The fence is set {planned.plan.settings} times."
            self.note.setText(told)
            self.note.setToolTip(told)
        if planned is None or busy:
            return
        study = planned.study
        papers = {
            stock: paper_of(study, stock) for stock in {piece.stock.id for piece in study.pieces if not piece.bought}
        }
        places = self.hand.locked_places()
        if planned is not self._shown:
            self._shown = planned
            self._jobs.clear()
            self.view.mark_cut(frozenset())
        kerf = trimmer_of(study.design, study.catalogue).kerf
        self.view.show_sheets(planned.plan.sheets, papers, self.session.design.units, kerf)
        self.hand.lock_places(places)
        self._tell_buying()
        self.batch.show_counts(planned.counts, planned.copies)
        self._mark()
        self._list_cuts(self.view.at)

    def _list_cuts(self, sheet: int) -> None:
        self.cuts.clear()
        self.hand.name()
        self.done.setText("Take back: it is not cut" if sheet in self._jobs else "Mark as cut")
        self.done.setEnabled(bool(self.view.sheets))
        if not self.view.sheets:
            self.cuts_title.setText("Cuts")
            return
        one, units = self.view.sheets[sheet], self.session.design.units
        self.cuts_title.setText(f"Cuts of sheet {sheet + 1}, in the order made")
        fence = None
        for cut in one.cuts:
            if cut.fence != fence:
                fence = cut.fence
                setting = QListWidgetItem(f"Fence at {format_length(fence, units, glyphs=True)}")
                font = setting.font()
                font.setBold(True)
                setting.setFont(font)
                self.cuts.addItem(setting)
            length = format_length(cut.length, units, glyphs=True)
            whole = "the sheet, " if cut.part == 1 else ""
            item = QListWidgetItem(f"    {cut.number}.  {whole}across its {cut.across}, {length} long")
            item.setToolTip(cut_words(cut, units))
            self.cuts.addItem(item)
        if not one.cuts:
            self.cuts.addItem("The sheet is used whole: no cut.")

    def _parts(self, study: Study) -> dict[str, list[str]]:
        """The parts that have a piece of each name."""
        parts: dict[str, list[str]] = {}
        for element, r in study.resolved.items():
            for piece in r.part.pieces:
                parts.setdefault(piece.name, []).append(element)
        return parts

    def _choose_part(self, piece: str) -> None:
        """Choose the part in the design that a piece on a sheet belongs to."""
        if self.session.study is not None and (parts := self._parts(self.session.study).get(piece)):
            self.session.select(parts[0])

    def _mark(self) -> None:
        study = self.session.study
        if study is not None and self.isVisible():
            parts = self._parts(study)
            self.view.mark(frozenset(name for name, of in parts.items() if self.session.selection in of))

    def set_theme(self, theme: Theme) -> None:
        """Colours for everything that paints itself."""
        for view in (self.view, self.batch):
            view.theme = theme
            view.update()
