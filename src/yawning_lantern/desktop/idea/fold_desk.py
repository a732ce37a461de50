"""Your own sheet: marked out on the left, folded in the middle, its acts, faces and pockets on the right."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QSize, Qt
from PySide6.QtGui import QCloseEvent, QKeySequence, QShortcut
from PySide6.QtWidgets import (
    QButtonGroup,
    QDialog,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QPushButton,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from yawning_lantern.desktop.idea.fold_acts import FoldActs
from yawning_lantern.desktop.idea.fold_look import Look, look
from yawning_lantern.desktop.idea.folded_pad import FoldedPad
from yawning_lantern.desktop.idea.marked_pad import MarkedPad
from yawning_lantern.desktop.shared.fitting import dialog_fitting
from yawning_lantern.desktop.shared.runner import Runner
from yawning_lantern.desktop.shared.theme import Theme
from yawning_lantern.errors import LanternError
from yawning_lantern.flatfold.draft import Draft, Segment
from yawning_lantern.flatfold.script import Step, Turn
from yawning_lantern.flatfold.telling import parse_grid
from yawning_lantern.measure import MM_PER_INCH, Units, format_length, inches
from yawning_lantern.pattern import Point
from yawning_lantern.stock import Paper

_STEP = Qt.ItemDataRole.UserRole
MARKING = (("line", "Lines and cells"), ("score", "Slant, scored"), ("slit", "Slant, slit"))
FOLDING = (("fold", "Fold"), ("tuck", "Tuck"), ("glue", "Glue an edge"))
HINTS = {
    "fold": "Drag a panel over to where it shall lie.",
    "tuck": "Drag a panel over; then say between which layers it slips.",
    "glue": "Click near an edge of a panel: it is glued there to the one below.",
}


def told_grid(draft: Draft, units: Units) -> str:
    """A draft's grid as people say it."""
    sides = (" ".join(format_length(x, units, mark=False) for x in side) for side in (draft.columns, draft.rows))
    return " by ".join(sides)


class FoldDesk(QDialog):
    """`take` is handed the settings of a grid sheet."""

    def __init__(
        self, theme: Theme, units: Units, paper: Paper, draft: Draft, take: Callable[[dict[str, str | float]], object],
        parent: QWidget | None = None,
    ) -> None:  # fmt: skip
        super().__init__(parent)
        self.setWindowTitle("Your own sheet")
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self._units, self._paper, self._take = units, paper, take
        self.draft, self.at = draft, len(draft.script)
        self._done: list[tuple[Draft, int]] = []
        self._undone: list[tuple[Draft, int]] = []
        self.seen: Look | None = None
        self._runner = Runner(self)
        self._runner.answered.connect(self._looked)
        self.flat, self.folded, self.acts = MarkedPad(), FoldedPad(), FoldActs()
        for pad in (self.flat, self.folded):
            pad.theme = theme
        self.flat.step = inches(1 / 8) if units == "in" else 1.0
        self.flat.paper, self.folded.faces = paper.front, (paper.front, paper.back)
        self.grid = QLineEdit(told_grid(draft, units))
        self.grid.setAccessibleName("Grid")
        self.grid.setToolTip("Columns by rows, as 3 3 3 3 by 4 4; or drag the marks beside the sheet")
        self.map = QListWidget()
        self.map.setAccessibleName("Faces, pockets and edges")
        self.map.setWordWrap(True)
        self.words, self.said = QLabel(), QLabel(HINTS["fold"])
        for label in (self.words, self.said):
            label.setWordWrap(True)
            label.setMinimumHeight(2 * self.fontMetrics().height())
        self.words.setAlignment(Qt.AlignmentFlag.AlignTop)
        self.undo_button, self.redo_button = QToolButton(), QToolButton()
        self.make = QPushButton("Make it")
        self.make.setObjectName("go")
        self.make.setAutoDefault(False)
        self.marking, self.folding = QButtonGroup(self), QButtonGroup(self)
        self.over, self.under = QToolButton(), QToolButton()
        self._lay_out()
        self._listen()
        self._show()

    # -- building

    def _lay_out(self) -> None:
        left, middle, right = QVBoxLayout(), QVBoxLayout(), QVBoxLayout()
        row = QHBoxLayout()
        row.addWidget(_headed("Flat"))
        row.addWidget(self.grid, 1)
        left.addLayout(row)
        left.addLayout(self._choices(self.marking, MARKING))
        left.addWidget(self.flat, 1)
        row = QHBoxLayout()
        row.addWidget(_headed("Folded"))
        row.addStretch(1)
        ways = QButtonGroup(self)
        for button, words in ((self.over, "over"), (self.under, "under")):
            button.setText(words)
            button.setCheckable(True)
            button.setToolTip("Panels are folded over all they land on" if words == "over" else "Panels go under all")
            ways.addButton(button)
            row.addWidget(button)
        self.over.setChecked(True)
        turn = QToolButton()
        turn.setText("Turn over")
        turn.clicked.connect(lambda: self.act(Turn()))
        row.addWidget(turn)
        middle.addLayout(row)
        middle.addLayout(self._choices(self.folding, FOLDING))
        middle.addWidget(self.folded, 1)
        middle.addWidget(self.said)
        row = QHBoxLayout()
        row.addWidget(_headed("Acts"))
        row.addStretch(1)
        for tool, words, does in (
            (self.undo_button, "Undo", self.undo), (self.redo_button, "Redo", self.redo),
        ):  # fmt: skip
            tool.setText(words)
            tool.clicked.connect(does)
            row.addWidget(tool)
        right.addLayout(row)
        right.addWidget(self.acts, 4)
        right.addWidget(_headed("What it is"))
        right.addWidget(self.map, 5)
        right.addWidget(self.words)
        row = QHBoxLayout()
        close = QPushButton("Never mind")
        close.setAutoDefault(False)
        close.clicked.connect(self.close)
        row.addWidget(close)
        row.addWidget(self.make, 1)
        right.addLayout(row)
        whole = QHBoxLayout(self)
        whole.setSpacing(12)
        for column, share in ((left, 5), (middle, 5), (right, 4)):
            column.setSpacing(5)
            whole.addLayout(column, share)
        line = self.fontMetrics().height()
        self.resize(dialog_fitting(QSize(max(1180, 74 * line), max(680, 36 * line))))

    @staticmethod
    def _choices(group: QButtonGroup, words: tuple[tuple[str, str], ...]) -> QHBoxLayout:
        row = QHBoxLayout()
        row.setSpacing(2)
        for k, (_, told) in enumerate(words):
            button = QToolButton()
            button.setText(told)
            button.setCheckable(True)
            button.setChecked(k == 0)
            group.addButton(button, k)
            row.addWidget(button)
        row.addStretch(1)
        return row

    def _listen(self) -> None:
        self.flat.line.connect(self._line)
        self.flat.cell.connect(lambda cell: self.change(self.draft.taken(cell)))
        self.flat.slant.connect(self._slant)
        self.flat.gridded.connect(lambda columns, rows: self.change(self.draft.gridded(columns, rows)))
        self.grid.editingFinished.connect(self._regrid)
        self.folded.acted.connect(self.act)
        self.folded.said.connect(self.said.setText)
        self.marking.idToggled.connect(lambda *_: self._marked())
        self.folding.idToggled.connect(lambda *_: self._folding())
        self.over.toggled.connect(self._ways)
        self.acts.shown.connect(self._look_at)
        self.acts.taken.connect(lambda number: self.change(self.draft.without(number), number))
        self.acts.moved.connect(lambda a, b: self.change(self.draft.moved(a, b), b + 1))
        self.map.itemDoubleClicked.connect(self._map_taken)
        self.make.clicked.connect(self.finish)
        for keys, does in (("Ctrl+Z", self.undo), ("Ctrl+Shift+Z", self.redo)):
            QShortcut(QKeySequence(keys), self, does)

    # -- drafts

    @property
    def is_idle(self) -> bool:
        """Whether nothing is worked out."""
        return not self._runner.is_busy and self.folded.is_idle

    def change(self, draft: Draft, at: int | None = None) -> None:
        """Another draft; the one before can be had back."""
        if draft == self.draft:
            return
        self._done.append((self.draft, self.at))
        self._undone.clear()
        self.draft = draft
        self.at = min(self.at if at is None else at, len(draft.script))
        self._show()

    def act(self, step: Step) -> None:
        """One act more, after those that are shown as done."""
        draft = self.draft.acted(step, self.at)
        self.change(draft, self.at + (len(draft.script) > len(self.draft.script)))

    def undo(self) -> None:
        """The draft before."""
        if self._done:
            self._undone.append((self.draft, self.at))
            self.draft, self.at = self._done.pop()
            self._show()

    def redo(self) -> None:
        """What was undone."""
        if self._undone:
            self._done.append((self.draft, self.at))
            self.draft, self.at = self._undone.pop()
            self._show()

    def _line(self, segment: Segment) -> None:
        self.change(self.draft.turned_to_next(segment))

    def _slant(self, start: Point, end: Point) -> None:
        self.change(self.draft.slanted(MARKING[self.marking.checkedId()][0], start, end))

    def _regrid(self) -> None:
        try:
            columns, rows = parse_grid(self.grid.text(), 1.0 if self._units == "mm" else MM_PER_INCH)
            draft = self.draft.gridded(columns, rows)
            draft.sheet()
        except LanternError as error:
            self.words.setText(f"✕ {error.sentence()}")
            return
        if told_grid(draft, self._units) != told_grid(self.draft, self._units):
            self.change(draft)

    def _marked(self) -> None:
        self.flat.slanting = MARKING[self.marking.checkedId()][0] != "line"
        self.flat.update()

    def _folding(self) -> None:
        self.folded.mode = FOLDING[self.folding.checkedId()][0]
        self.said.setText(HINTS[self.folded.mode])
        self.folded.update()

    def _ways(self, over: bool) -> None:
        self.folded.way = "over" if over else "under"

    def _look_at(self, count: int) -> None:
        self.at = count
        self._show(acts=False)

    def _map_taken(self, item: QListWidgetItem) -> None:
        step = item.data(_STEP)
        if step is not None:
            self.at = len(self.draft.script)
            self.act(step)

    # -- showing

    def _show(self, acts: bool = True) -> None:
        self.flat.show_draft(self.draft)
        self.folded.strip = self.draft.strip
        if acts:
            self.acts.show_script(self.draft.script, self.at, None)
        self.undo_button.setEnabled(bool(self._done))
        self.redo_button.setEnabled(bool(self._undone))
        if not self.grid.hasFocus():
            self.grid.setText(told_grid(self.draft, self._units))
        draft, at, paper, units = self.draft, self.at, self._paper, self._units
        self._runner.submit(lambda: look(draft, at, paper, units))

    def _looked(self, seen: object) -> None:
        if isinstance(seen, Exception):
            raise seen
        assert isinstance(seen, Look)
        self.seen = seen
        self.make.setEnabled(seen.can_be_made)
        if seen.trouble or seen.replay is None or seen.state is None:
            self.words.setText(f"✕ {seen.trouble}")
            return
        bad = len(seen.replay.states) - 1 if seen.replay.problem is not None else None
        if bad is not None:
            self.acts.show_script(self.draft.script, self.at, bad)
        self.folded.show_state(seen.state, seen.layers)
        marks = [f"{'✕' if found.stops else '•'} {found.what} {found.remedy}" for found in seen.found]
        if not self.draft.script:
            marks = ["Mark the sheet out on the left, then fold it in the middle.", *marks]
        self.words.setText("\n".join(marks) if marks else "Nothing is wrong with it.")
        place = self.map.verticalScrollBar().value()
        self.map.clear()
        for line in seen.lines:
            item = QListWidgetItem(line.text if line.head else f"   {line.text}")
            font = item.font()
            font.setBold(line.head)
            item.setFont(font)
            item.setData(_STEP, line.step)
            self.map.addItem(item)
        self.map.verticalScrollBar().setValue(place)

    def finish(self) -> None:
        """Hand the settings over and close; what cannot be made is told, and nothing is closed."""
        try:
            self._take(self.draft.settings())
        except LanternError as error:
            self.words.setText(f"✕ {error.sentence()}")
            return
        self.close()

    def closeEvent(self, event: QCloseEvent) -> None:
        self._runner.stop()
        self.folded.stop()
        super().closeEvent(event)


def _headed(words: str) -> QLabel:
    label = QLabel(words)
    label.setObjectName("heading")
    return label
