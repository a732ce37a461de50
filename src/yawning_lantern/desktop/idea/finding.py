"""A book from one sheet: the grid, the wishes, and what the search finds; one of them becomes a design."""

from __future__ import annotations

from collections.abc import Callable
from threading import Event

from PySide6.QtCore import QSize, Qt
from PySide6.QtGui import QCloseEvent
from PySide6.QtWidgets import (
    QCheckBox,
    QDialog,
    QFormLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QPushButton,
    QScrollArea,
    QSpinBox,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from yawning_lantern.design import Design
from yawning_lantern.desktop.idea.book_cards import BookCards
from yawning_lantern.desktop.idea.own_sheet import Asked, study_of, told_path
from yawning_lantern.desktop.idea.path_pad import PathPad
from yawning_lantern.desktop.shared.fitting import dialog_fitting
from yawning_lantern.desktop.shared.runner import Runner
from yawning_lantern.desktop.shared.theme import Theme
from yawning_lantern.errors import LanternError
from yawning_lantern.flatfold.books import Answer, Book, Wish, find_books
from yawning_lantern.measure import Units, format_length, inches, parse_length
from yawning_lantern.stock import Paper

MOST = 8  # columns and rows, as a grid sheet has


def told_book(book: Book) -> str:
    """A book in a sentence or two."""
    upright = f"{book.upright} of its {book.pages} pages stand upright"
    if book.upright * 2 == book.pages:
        upright = "half of its pages stand on their heads: use paper without a direction, or mats"
    back = (
        "the back of the paper is hidden"
        if not book.backs
        else ("both covers show the back of the paper" if book.backs == 2 else "one cover shows the back of the paper")
    )
    heads = f"{book.open_top} of {book.pockets} pockets can open at the head"
    return f"{heads}; {upright}; {back}. {book.glued} edges want glue."


class FindBook(QDialog):
    """`take` is handed the new design."""

    def __init__(
        self, theme: Theme, units: Units, paper: Paper, take: Callable[[Design], object], parent: QWidget | None = None
    ) -> None:
        super().__init__(parent)
        self.setWindowTitle("A book from one sheet")
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self._units, self._paper, self._take = units, paper, take
        self.answer: Answer | None = None
        self._stop = Event()
        self._runner = Runner(self)
        self._runner.answered.connect(self._answered)
        self._teller = Runner(self)
        self._teller.answered.connect(self._told)
        self.columns, self.rows = _count(4, 1, MOST), _count(4, 1, MOST)
        usual = format_length(inches(12), units, mark=False)
        self.width_field, self.height_field = QLineEdit(usual), QLineEdit(usual)
        self.pages, self.pockets, self.open_top, self.upright = (_count(0, 0, 64) for _ in range(4))
        for box in (self.pages, self.pockets, self.open_top, self.upright):
            box.setSpecialValueText("any number")
        self.hide_back = QCheckBox("No cover shows the paper's back")
        self.rim_only = QCheckBox("Scissors do: every slit from the edge")
        self.words = QLabel()
        self.words.setWordWrap(True)
        self.detail = QLabel()
        self.detail.setWordWrap(True)
        self.detail.setObjectName("faint")
        self.cards = BookCards()
        self.cards.theme = theme
        self.pad = PathPad()
        self.pad.theme = theme
        self.own = QCheckBox("Draw my own path")
        self.own.setToolTip("Begin with the chosen one, or take its cells away and go where you like")
        self.other = QPushButton()
        self.other.hide()
        self.halt = QPushButton("Stop")
        self.halt.hide()
        self.make = QPushButton("Make it")
        self.make.setObjectName("go")
        self._lay_out()
        for number in (self.columns, self.rows, self.pages, self.pockets, self.open_top, self.upright):
            number.valueChanged.connect(self.search)
        for field in (self.width_field, self.height_field):
            field.textChanged.connect(self._shape)
        for tick in (self.hide_back, self.rim_only):
            tick.toggled.connect(self.search)
        self.own.toggled.connect(self._draw_own)
        self.pad.drawn.connect(self._drawn)
        self.cards.chosen.connect(self._chosen)
        self.cards.taken.connect(self.take)
        self.make.clicked.connect(self.take)
        self.other.clicked.connect(self._use_other)
        self.halt.clicked.connect(self.stop)
        self.search()

    def _lay_out(self) -> None:
        form = QFormLayout()
        form.addRow("Columns", self.columns)
        form.addRow("Rows", self.rows)
        form.addRow("Sheet, width", self.width_field)
        form.addRow("Sheet, height", self.height_field)
        self.wishes = QWidget()
        whole = QVBoxLayout(self.wishes)
        whole.setContentsMargins(0, 0, 0, 0)
        wishes = QFormLayout()
        whole.addLayout(wishes)
        wishes.addRow("Pages, at least", self.pages)
        wishes.addRow("Pockets, at least", self.pockets)
        wishes.addRow("Open at the head, at least", self.open_top)
        wishes.addRow("Upright pages, at least", self.upright)
        left = QVBoxLayout()
        left.addLayout(form)
        left.addSpacing(8)
        whole.addWidget(self.hide_back)
        whole.addWidget(self.rim_only)
        left.addWidget(self.wishes)
        left.addSpacing(8)
        left.addWidget(self.own)
        left.addStretch(1)
        row = QHBoxLayout()
        close = QPushButton("Never mind")
        close.clicked.connect(self.close)
        row.addWidget(close)
        row.addWidget(self.make, 1)
        left.addLayout(row)
        scroll = QScrollArea()
        scroll.setWidgetResizable(True)
        scroll.setWidget(self.cards)
        scroll.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        said = QHBoxLayout()
        said.addWidget(self.words, 1)
        said.addWidget(self.other)
        said.addWidget(self.halt)
        right = QVBoxLayout()
        right.addLayout(said)
        self.shown = QStackedWidget()
        self.shown.addWidget(scroll)
        self.shown.addWidget(self.pad)
        right.addWidget(self.shown, 1)
        right.addWidget(self.detail)
        all_of_it = QHBoxLayout(self)
        all_of_it.setSpacing(14)
        all_of_it.addLayout(left)
        all_of_it.addLayout(right, 1)
        for button in (self.make, self.other, self.halt, close):
            button.setAutoDefault(False)
        line = self.fontMetrics().height()
        self.resize(dialog_fitting(QSize(max(980, 62 * line), max(600, 31 * line))))

    def wish(self) -> Wish:
        """What is wished for."""
        return Wish(
            self.pages.value(), self.pockets.value(), self.open_top.value(), self.upright.value(),
            self.hide_back.isChecked(), False, self.rim_only.isChecked(),
        )  # fmt: skip

    @property
    def is_idle(self) -> bool:
        """Whether nothing is searched."""
        return not (self._runner.is_busy or self._teller.is_busy)

    def search(self) -> None:
        """Look for books, off this thread; what was looked for before is dropped."""
        self._stop.set()
        stop = self._stop = Event()
        columns, rows, wish = self.columns.value(), self.rows.value(), self.wish()
        self.pad.show_grid(columns, rows)
        if self.own.isChecked():
            return
        self.words.setText("Looking at every way to slit it …")
        self.halt.setVisible(columns * rows > 30)
        self._runner.submit(lambda: find_books(columns, rows, wish, stop=stop.is_set))

    def _shape(self) -> None:
        """Draw the sheet as wide and high as told, where that can be read."""
        try:
            wide, high = (parse_length(f.text(), self._units) for f in (self.width_field, self.height_field))
        except LanternError:
            wide = high = 0.0
        if wide > 0 and high > 0:
            self.cards.sheet = self.pad.sheet = (wide, high)
            self.cards.update()
            self.pad.update()
        self._drawn()

    def stop(self) -> None:
        """End the search with what it has."""
        self._stop.set()

    def _answered(self, answer: object) -> None:
        self.halt.hide()
        if isinstance(answer, LanternError):
            self.words.setText(f"✕ {answer.sentence()}")
            return
        if isinstance(answer, Exception):
            raise answer
        assert isinstance(answer, Answer)
        self.answer = answer
        kinds = f"{answer.seen} kind{'s' if answer.seen != 1 else ''} of book"
        if answer.reason:
            self.words.setText(f"✕ {answer.reason}" + (" The nearest:" if answer.books else ""))
        elif answer.complete:
            shown = "" if len(answer.books) == answer.seen else f" {len(answer.books)} answer, best first."
            self.words.setText(f"Every way to slit it was looked at: {kinds}.{shown}")
        else:
            self.words.setText(f"Stopped: {kinds} so far, not all there are.")
        self.other.setVisible(answer.other_grid is not None)
        if answer.other_grid is not None:
            self.other.setText("Use {} × {}".format(*answer.other_grid))
        self.cards.show_books(answer.books)

    def _draw_own(self, on: bool) -> None:
        """Draw by hand, from the chosen path, or go back to what was found."""
        self.shown.setCurrentIndex(int(on))
        self.wishes.setVisible(not on)
        if on:
            self.other.hide()
            self.words.setText("Click from cell to cell; a click on the path goes back to there.")
            trunk = self.cards.books[self.cards.at].trunk if self.cards.at >= 0 else None
            self.pad.show_path(trunk.path if trunk is not None else ())
            self.pad.setFocus()
        else:
            self.search()

    def _asked(self) -> Asked:
        """The path with its sheet. Raises LanternError where the sheet cannot be read."""
        wide, high = (parse_length(f.text(), self._units) for f in (self.width_field, self.height_field))
        grid = (self.columns.value(), self.rows.value())
        own = self.own.isChecked()
        path = self.pad.path if own else self.cards.books[self.cards.at].trunk.path if self.cards.at >= 0 else ()
        return path, grid, (wide, high), self._paper, self._units

    def _drawn(self) -> None:
        """Tell what comes of the path, off this thread."""
        if not self.own.isChecked():
            return
        self.make.setEnabled(False)
        try:
            asked = self._asked()
        except LanternError as error:
            self.detail.setText(f"✕ {error.sentence()}")
            return
        self._teller.submit(lambda: told_path(asked))

    def _told(self, words: object) -> None:
        if isinstance(words, Exception):
            raise words
        if self.own.isChecked():
            self.detail.setText(str(words))
            self.make.setEnabled(len(self.pad.path) > 1 and not str(words).startswith("✕"))

    def _chosen(self, at: int) -> None:
        self.make.setEnabled(at >= 0)
        self.detail.setText(told_book(self.cards.books[at]) if at >= 0 else "")

    def _use_other(self) -> None:
        if self.answer is not None and self.answer.other_grid is not None:
            columns, rows = self.answer.other_grid
            self.columns.setValue(columns)
            self.rows.setValue(rows)

    def take(self) -> None:
        """Make the chosen book a design; a sheet that cannot be is told, and nothing is closed."""
        try:
            asked = self._asked()
            if len(asked[0]) < 2:
                return
            design = study_of(asked).design
        except LanternError as error:
            self.words.setText(f"✕ {error.sentence()}")
            return
        self.close()
        self._take(design)

    def closeEvent(self, event: QCloseEvent) -> None:
        self._stop.set()
        self._runner.stop()
        self._teller.stop()
        super().closeEvent(event)


def _count(value: int, least: int, most: int) -> QSpinBox:
    box = QSpinBox()
    box.setRange(least, most)
    box.setValue(value)
    return box
