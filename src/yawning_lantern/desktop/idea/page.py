"""Idea: any structure, three ways in, and the designs that were open lately."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import QSize, Qt, Signal
from PySide6.QtWidgets import QHBoxLayout, QLabel, QLineEdit, QPushButton, QVBoxLayout, QWidget

from yawning_lantern.desktop.idea.asking import Asking
from yawning_lantern.desktop.idea.finding import FindBook
from yawning_lantern.desktop.idea.fold_desk import FoldDesk
from yawning_lantern.desktop.idea.own_sheet import own_design
from yawning_lantern.desktop.shared.cards import empty
from yawning_lantern.desktop.shared.shelf import Shelf
from yawning_lantern.desktop.shared.theme import DAY, Theme
from yawning_lantern.desktop.shared.thumbs import Thumbs
from yawning_lantern.flatfold.draft import Draft
from yawning_lantern.measure import Units, inches
from yawning_lantern.stock import Paper

RECENT = 4
CELL = QSize(103, 70)


class IdeaPage(QWidget):
    """`started` carries a new design, `opened` a path, `demo` asks for the demo design."""

    started = Signal(object)
    opened = Signal(object)
    browse = Signal()
    demo = Signal()

    def __init__(self, units: Units, thumbs: Thumbs, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._thumbs, self._units, self._theme = thumbs, units, DAY
        self.finding: FindBook | None = None
        self.desk: FoldDesk | None = None
        self.asking = Asking(units)
        self.asking.started.connect(self.started)
        self.gallery = Shelf(thumbs, CELL, draggable=False)
        self.gallery.setObjectName("gallery")
        self.gallery.choose(self.asking.kind.id)
        self.gallery.currentItemChanged.connect(lambda *_: self._ask())
        self.gallery.taken.connect(lambda _: self.asking.begin())
        self.seek = QLineEdit()
        self.seek.setPlaceholderText("Find a structure: box, flap, pop-up …")
        self.seek.setAccessibleName("Find a structure")
        self.seek.setClearButtonEnabled(False)
        self.seek.textChanged.connect(self.gallery.seek)
        self.seek.returnPressed.connect(self.gallery.setFocus)
        self.nothing = QLabel("No structure is called that. Try one word of it.")
        self.nothing.setObjectName("faint")
        self.nothing.setWordWrap(True)
        self.gallery.sought.connect(lambda count: self.nothing.setVisible(count == 0))
        self.nothing.hide()
        self._recent = QVBoxLayout()
        self._recent.setSpacing(2)
        left = QVBoxLayout()
        left.setSpacing(6)
        left.addWidget(_titled("Begin with a structure", "title"))
        left.addWidget(self.seek)
        left.addWidget(self.nothing)
        left.addWidget(self.gallery, 1)
        left.addWidget(_titled("Open lately", "heading"))
        left.addLayout(self._recent)
        book = QPushButton("A book from one sheet …")
        book.setToolTip("Say the grid and what you wish: the program looks at every way to slit it")
        book.clicked.connect(self.find_book)
        own = QPushButton("Your own sheet …")
        own.setToolTip("Say a grid, slit it, fold it act by act: pages and pockets are worked out as you go")
        own.clicked.connect(self.own_sheet)
        for button in (book, own):
            left.addWidget(button)
        buttons = QHBoxLayout()
        for words, signal in (("Open a design …", self.browse), ("Open the demo", self.demo)):
            button = QPushButton(words)
            button.clicked.connect(signal)
            buttons.addWidget(button)
        left.addLayout(buttons)
        layout = QHBoxLayout(self)
        layout.setContentsMargins(14, 10, 18, 10)
        layout.setSpacing(16)
        layout.addLayout(left, 5)
        layout.addWidget(self.asking, 11)
        self.show_recent([])

    @property
    def is_idle(self) -> bool:
        """Whether every picture is up to date."""
        found = self.finding is None or self.finding.is_idle
        found = found and (self.desk is None or self.desk.is_idle)
        return found and self._thumbs.is_idle and self.asking.is_idle

    def _ask(self) -> None:
        name = self.gallery.current_family()
        if name and name != self.asking.kind.id:
            self.asking.ask(name)

    def find_book(self) -> None:
        """Ask for a book from one sheet."""
        self.finding = FindBook(self._theme, self._units, self.asking.paper, self.started.emit, self)
        self.finding.destroyed.connect(self._found)
        self.finding.open()

    def _found(self) -> None:
        self.finding = None

    def own_sheet(self) -> None:
        """Mark out and fold a sheet of one's own; it becomes a design."""
        paper, units = self.asking.paper, self._units
        quarter = inches(3)
        self.fold_on(
            Draft((quarter,) * 4, (quarter,) * 4), paper, lambda told: self.started.emit(own_design(told, paper, units))
        )

    def fold_on(self, draft: Draft, paper: Paper, take: Callable[[dict[str, str | float]], object]) -> None:
        """Go on with a draft; `take` is handed what comes of it."""
        self.desk = FoldDesk(self._theme, self._units, paper, draft, take, self.window())
        self.desk.destroyed.connect(self._left_desk)
        self.desk.open()

    def _left_desk(self) -> None:
        self.desk = None

    def set_papers(self, papers: tuple[Paper, ...]) -> None:
        """Offer the papers of the drawer."""
        self.asking.set_papers(papers)

    def foresee(self) -> None:
        """Show what would come of it, and every structure's picture."""
        if self.asking.study is None:
            self.asking.ask(self.asking.kind.id)
        self._thumbs.draw_all()

    def stop(self) -> None:
        """Work nothing out any more."""
        self.asking.runner.stop()

    def show_recent(self, paths: list[Path]) -> None:
        """List designs that were open lately, newest first."""
        empty(self._recent)
        for path in paths[:RECENT]:
            button = QPushButton(path.stem)
            button.setFlat(True)
            button.setToolTip(str(path))
            button.setStyleSheet("text-align: left;")
            button.clicked.connect(lambda _=False, p=path: self.opened.emit(p))
            self._recent.addWidget(button, 0, Qt.AlignmentFlag.AlignLeft)
        if not paths:
            self._recent.addWidget(_titled("Designs you save will stand here.", "faint"))

    def set_units(self, units: Units) -> None:
        """Read and show lengths in other units."""
        self._units = units
        self.asking.set_units(units)

    def set_theme(self, theme: Theme) -> None:
        """Colours for the pictures."""
        self._theme = theme
        self.asking.set_theme(theme)


def _titled(words: str, kind: str) -> QLabel:
    label = QLabel(words)
    label.setObjectName(kind)
    return label
