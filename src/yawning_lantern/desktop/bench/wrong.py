"""Something went wrong: which piece, which line, what it really measures; and what helps. It blocks nothing."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PySide6.QtCore import Qt
from PySide6.QtGui import QCloseEvent
from PySide6.QtWidgets import (
    QComboBox,
    QDialog,
    QFormLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from yawning_lantern.bench import Walk
from yawning_lantern.design import Built, Design
from yawning_lantern.desktop.bench.pick import PiecePick
from yawning_lantern.desktop.shared.runner import Runner
from yawning_lantern.desktop.shared.theme import Theme
from yawning_lantern.errors import LanternError
from yawning_lantern.measure import Units, format_length, parse_length, speak
from yawning_lantern.pattern import Piece
from yawning_lantern.study import Study
from yawning_lantern.study.amiss import KINDS, Amiss, Kind, line_read, lines_of, made_of
from yawning_lantern.study.mend import Mended, mend, slits_of
from yawning_lantern.workshop import OffCut

TURNS = ("as it stands", "a quarter to the left", "half round", "a quarter to the right")


class WrongDialog(QDialog):
    """Asks what went wrong and tells what helps. `take` is handed the design to go on with (None: as it is), what came
    out, and the answer."""

    def __init__(
        self, study: Study, walk: Walk, theme: Theme, take: Callable[[Design | None, Built, Mended], object],
        kept: Sequence[OffCut] = (), parent: QWidget | None = None,
    ) -> None:  # fmt: skip
        super().__init__(parent)
        self._kept = kept
        self.setWindowTitle("Something went wrong")
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self._study, self._walk, self._take = study, walk, take
        self._units: Units = study.design.units
        self._asked: Amiss | None = None
        self.answer: Mended | None = None
        self._runner = Runner(self)
        self._runner.answered.connect(self._answered)
        self.kind = QComboBox()
        for kind, words in KINDS.items():
            self.kind.addItem(words, kind)
        self.what = QComboBox()
        self.line = QComboBox()
        self.measured = QLineEdit()
        self.measured.setPlaceholderText("such as 3 1/4")
        self.turned = QComboBox()
        self.turned.addItems(TURNS)
        self.picture = PiecePick()
        self.picture.theme = theme
        self.words = QLabel("Say what happened: the program looks for what saves it.")
        self.words.setWordWrap(True)
        self.words.setMinimumHeight(74)
        self.words.setAlignment(Qt.AlignmentFlag.AlignTop)
        self.help = QPushButton("What helps?")
        self.help.setObjectName("go")
        self.go_on = QPushButton("Go on so")
        self.go_on.setEnabled(False)
        self.built = QLabel(_built_words(study, self._units))
        self.built.setObjectName("faint")
        self.built.setWordWrap(True)
        self._lay_out()
        self.kind.currentIndexChanged.connect(self._kind_chosen)
        self.what.currentIndexChanged.connect(self._piece_chosen)
        self.line.currentIndexChanged.connect(self._line_chosen)
        self.picture.picked.connect(self._picked)
        self.help.clicked.connect(self.ask)
        self.measured.returnPressed.connect(self.ask)
        self.go_on.clicked.connect(self._taken)
        self._kind_chosen()

    def _lay_out(self) -> None:
        form = QFormLayout()
        form.addRow("What happened", self.kind)
        form.addRow("Which", self.what)
        form.addRow("Line", self.line)
        form.addRow("It really measures", self.measured)
        form.addRow("It was glued", self.turned)
        self._form = form
        left = QVBoxLayout()
        left.addLayout(form)
        left.addWidget(self.help)
        left.addWidget(self.words, 1)
        left.addWidget(self.built)
        row = QHBoxLayout()
        close = QPushButton("Never mind")
        close.clicked.connect(self.close)
        row.addWidget(close)
        row.addWidget(self.go_on, 1)
        left.addLayout(row)
        whole = QHBoxLayout(self)
        whole.addLayout(left, 1)
        whole.addWidget(self.picture, 1)
        for button in (self.help, self.go_on, close):
            button.setAutoDefault(False)
        self.resize(860, 430)

    # -- what is chosen

    def _chosen_kind(self) -> Kind:
        kind: Kind = self.kind.currentData()
        return kind

    def piece(self) -> Piece | None:
        """The piece that is chosen."""
        return next((p for p in self._study.pieces if p.id == self.what.currentData()), None)

    def _kind_chosen(self) -> None:
        kind = self._chosen_kind()
        self.what.blockSignals(True)
        self.what.clear()
        if kind == "turned":
            for element, r in self._study.resolved.items():
                if r.host:
                    self.what.addItem(r.part.name, element)
        else:
            for piece in self._study.pieces:
                if not piece.bought and (kind != "slit" or slits_of(piece)):
                    self.what.addItem(piece.name, piece.id)
        step = self._walk.step
        at = self.what.findData(step.element if kind == "turned" else step.piece) if step is not None else -1
        self.what.setCurrentIndex(max(at, 0))
        self.what.blockSignals(False)
        self.picture.setVisible(kind != "turned")
        self._form.setRowVisible(self.turned, kind == "turned")
        self._form.setRowVisible(self.line, kind != "turned")
        self._form.setRowVisible(self.measured, kind != "turned")
        self._piece_chosen()

    def _piece_chosen(self) -> None:
        piece, kind = self.piece(), self._chosen_kind()
        self.line.blockSignals(True)
        self.line.clear()
        if piece is not None and kind != "turned":
            for name, words in line_words(piece, kind, self._units).items():
                self.line.addItem(words, name)
            step, walk = self._walk.step, self._walk
            if kind == "score" and step is not None and step.placing is not None and step.piece == piece.id:
                now = line_read(piece, step.placing, step.placing.readings[walk.number])
                self.line.setCurrentIndex(max(self.line.findData(now), 0))
        self.line.blockSignals(False)
        self._line_chosen()

    def _line_chosen(self) -> None:
        self.picture.show_piece(self.piece(), self.line.currentData() or "", with_slits=self._chosen_kind() == "slit")
        self._forget()

    def _picked(self, name: str) -> None:
        at = self.line.findData(name)
        if at >= 0:
            self.line.setCurrentIndex(at)

    def _forget(self) -> None:
        self.answer = None
        self.go_on.setEnabled(False)

    # -- what helps

    @property
    def is_idle(self) -> bool:
        """Whether nothing is being worked out."""
        return not self._runner.is_busy

    def ask(self) -> None:
        """Work out what helps."""
        kind = self._chosen_kind()
        if self.what.currentData() is None:
            self.words.setText("✕ There is nothing here that this can have happened to.")
            return
        if kind == "turned":
            wrong = Amiss("turned", self.what.currentData(), "", float(self.turned.currentIndex()))
        else:
            try:
                measured = parse_length(self.measured.text(), self._units)
            except LanternError as error:
                self.words.setText(f"✕ {error.sentence()}")
                return
            wrong = Amiss(kind, self.what.currentData(), self.line.currentData() or "", measured)
        study, walk, kept = self._study, self._walk, self._kept
        self._asked = wrong
        self._forget()
        self.help.setEnabled(False)
        self.words.setText("Looking for what helps …")
        self._runner.submit(lambda: mend(study, wrong, made_of(study, walk), kept=kept))

    def _answered(self, answer: object) -> None:
        self.help.setEnabled(True)
        if isinstance(answer, BaseException):
            raise answer
        assert isinstance(answer, Mended)
        self.answer = answer
        sign = "✕" if answer.way == "redo" else "✓"
        self.words.setText(f"{sign} {speak(answer.words, self._units)}")
        self.go_on.setText("Make it anew" if answer.way == "redo" else "Go on so")
        self.go_on.setEnabled(True)

    def _taken(self) -> None:
        wrong, answer = self._asked, self.answer
        if wrong is None or answer is None:
            return
        piece = self.piece()
        planned = lines_of(piece).get(wrong.line, 0.0) if piece is not None else 0.0
        if wrong.kind == "turned":
            planned = float(self._study.resolved[wrong.piece].place.turn)
        note = speak(answer.words, self._units)
        self._take(answer.design, Built(wrong.piece, wrong.line, wrong.kind, planned, wrong.measured, note), answer)
        self.close()

    def closeEvent(self, event: QCloseEvent) -> None:
        self._runner.stop()
        super().closeEvent(event)


def line_words(piece: Piece, kind: Kind, units: Units) -> dict[str, str]:
    """The lines of a piece that one thing can have happened to, in words."""

    def told(at: float) -> str:
        return format_length(at, units)

    if kind == "slit":
        return {f"s{k + 1}": f"slit {k + 1}; measure how far it goes too far" for k in range(len(slits_of(piece)))}
    if kind == "extra":
        return {"x0": "upright, from the left", "y0": "level, from the foot"}
    lines = lines_of(piece)
    if kind == "cut":
        return {"w": f"its width, planned {told(lines['w'])}", "h": f"its height, planned {told(lines['h'])}"}
    return {
        name: f"{'upright' if name[0] == 'x' else 'level'} score {name[1:]}, planned at {told(at)} "
        f"from the {'left' if name[0] == 'x' else 'foot'}"
        for name, at in lines.items()
        if name[0] in "xy"
    }


def _built_words(study: Study, units: Units) -> str:
    """What is kept as built, in a line each."""
    names = {piece.id: piece.name for piece in study.pieces} | {e: r.part.name for e, r in study.resolved.items()}
    lines = []
    for one in study.design.built:
        where = "" if one.kind == "turned" else f" at {format_length(one.measured, units)}"
        lines.append(f"As built: {names.get(one.piece, one.piece)}, {KINDS[one.kind]}{where}")
    return "\n".join(lines)
