"""A way into a design: a picture, a few lengths, and a button. Three of them stand on the Idea page."""

from __future__ import annotations

from dataclasses import dataclass

from PySide6.QtCore import Qt, QTimer, Signal
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import (
    QComboBox,
    QFrame,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QPushButton,
    QSpinBox,
    QVBoxLayout,
    QWidget,
)

from yawning_lantern.design import Design, Value
from yawning_lantern.desktop.runner import Runner
from yawning_lantern.desktop.scene import ScenePainter
from yawning_lantern.desktop.theme import DAY, Theme
from yawning_lantern.errors import LanternError
from yawning_lantern.fold.camera import Camera
from yawning_lantern.measure import Units, format_size, inches, snap
from yawning_lantern.stock import builtin_catalogue
from yawning_lantern.structures import family, parameter, read_setting, start_design
from yawning_lantern.study import Study

HALF_OPEN = 0.34
PAUSE = 250  # ms of quiet before the picture follows what is typed


@dataclass(frozen=True, slots=True)
class Start:
    """One way in: its id, words, and the parameters it asks for with what stands there at first, by units."""

    id: str
    title: str
    about: str
    fields: tuple[tuple[str, str, dict[str, str]], ...]


STARTS = (
    Start("contents", "What must it hold?", "Measure the thing. Walls, layers and lid follow from it.", (
        ("content-width", "Wide", {"in": "2 3/8", "mm": "60"}), ("content-depth", "Deep", {"in": "2 3/8", "mm": "60"}),
        ("content-height", "Tall", {"in": "1 3/4", "mm": "45"}),
    )),
    Start("size", "What size shall it be?", "Give base and wall. Layers and lid are fitted to them.", (
        ("base", "Base", {"in": "4", "mm": "100"}), ("wall", "Wall", {"in": "4", "mm": "100"}),
    )),
    Start("sheet", "What sheet is at hand?", "The largest box the sheet gives. The wall may be left open.", (
        ("sheet", "Sheet side", {"in": "12", "mm": "300"}), ("wall", "Wall", {"in": "", "mm": ""}),
    )),
)  # fmt: skip


class StartPicture(QWidget):
    """What would come of it, folded and half open, drawn by the program itself."""

    def __init__(self) -> None:
        super().__init__()
        self.theme: Theme = DAY
        self.study: Study | None = None
        self.setMinimumSize(120, 110)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), self.theme.colour("table"))
        if self.study is None:
            painter.setPen(self.theme.colour("faint"))
            painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter, "The box appears here as you type.")
            return
        size = (float(self.width()), float(self.height()))
        ScenePainter(self.study, HALF_OPEN, Camera(), size, self.theme).paint(painter)


class StartCard(QFrame):
    """One way in. `started` carries the new design."""

    started = Signal(object)

    def __init__(self, start: Start, units: Units) -> None:
        super().__init__()
        self.setObjectName("card")
        self._start = start
        self._units: Units = units
        self.picture = StartPicture()
        title = QLabel(start.title)
        title.setObjectName("question")
        about = QLabel(start.about)
        about.setWordWrap(True)
        about.setObjectName("faint")
        grid = QGridLayout()
        grid.setHorizontalSpacing(8)
        grid.setVerticalSpacing(3)
        self.fields: dict[str, QLineEdit] = {}
        for row, (name, label, firsts) in enumerate(start.fields):
            field = QLineEdit(firsts[units])
            field.setAccessibleName(f"{start.title} {label}")
            field.setPlaceholderText("as it comes")
            field.returnPressed.connect(self.begin)
            field.textChanged.connect(self._changed)
            self.fields[name] = field
            grid.addWidget(QLabel(label), row, 0)
            grid.addWidget(field, row, 1)
        self.layers = QSpinBox()
        self.layers.setRange(1, 6)
        self.layers.setValue(3)
        self.layers.setAccessibleName("Layers")
        self.lid = QComboBox()
        self.lid.addItems(["easy", "snug", "loose", "none"])
        self.lid.setAccessibleName("Lid")
        self.stock = QComboBox()
        self.stock.setAccessibleName("Stock")
        self.stock.setMinimumContentsLength(12)
        for paper in builtin_catalogue().papers:
            self.stock.addItem(paper.name, paper.id)
        row = len(start.fields)
        for label, widget in (("Layers", self.layers), ("Lid", self.lid), ("Stock", self.stock)):
            grid.addWidget(QLabel(label), row, 0)
            grid.addWidget(widget, row, 1)
            row += 1
        grid.setColumnStretch(1, 1)
        self.layers.valueChanged.connect(self._changed)
        self.lid.currentIndexChanged.connect(self._changed)
        self.stock.currentIndexChanged.connect(self._changed)
        self.outcome = QLabel()
        self.outcome.setObjectName("faint")
        self.outcome.setWordWrap(True)
        self._pause = QTimer(self)
        self._pause.setSingleShot(True)
        self._pause.setInterval(PAUSE)
        self._pause.timeout.connect(self.foresee)
        self.runner = Runner(self)
        self.runner.answered.connect(self._foreseen)
        self.trouble = QLabel()
        self.trouble.setObjectName("trouble")
        self.trouble.setWordWrap(True)
        self.trouble.hide()
        self.go = QPushButton("Work it out")
        self.go.setObjectName("go")
        self.go.clicked.connect(self.begin)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(14, 9, 14, 10)
        layout.setSpacing(5)
        layout.addWidget(title)
        layout.addWidget(about)
        middle = QHBoxLayout()
        middle.addLayout(grid, 3)
        middle.addWidget(self.picture, 2)
        layout.addLayout(middle, 1)
        layout.addWidget(self.outcome)
        layout.addWidget(self.trouble)
        layout.addWidget(self.go)

    def set_units(self, units: Units) -> None:
        """Read lengths in other units; fields nobody touched change to that unit's usual figures."""
        for name, _, firsts in self._start.fields:
            if self.fields[name].text() == firsts[self._units]:
                self.fields[name].setText(firsts[units])
        self._units = units

    def _changed(self) -> None:
        self._pause.start()

    def foresee(self) -> None:
        """Work out what would come of it, off the GUI thread, for the picture."""
        self._pause.stop()
        try:
            design = self.design()
        except LanternError as error:
            self._foreseen(error)
            return

        def work() -> Study:
            study = Study(design)
            study.picture(HALF_OPEN)
            return study

        self.runner.submit(work)

    def _foreseen(self, answer: object) -> None:
        if isinstance(answer, Study):
            self.picture.study = answer
            step = inches(1 / 16) if self._units == "in" else 1.0
            size = tuple(snap(x, step, "up").value for x in answer.size_at(0.0))
            cut = format_size(answer.pieces[0].size, self._units, glyphs=True)
            closed = format_size(size, self._units, glyphs=True)
            clash = " Something clashes: see Form." if answer.has_clash else ""
            self.outcome.setText(f"Outermost sheet {cut}, closed within {closed}.{clash}")
        elif isinstance(answer, LanternError):
            self.picture.study = None
            self.outcome.setText(answer.sentence())
        elif isinstance(answer, BaseException):
            raise answer
        self.picture.update()

    def begin(self) -> None:
        """Make the design, or say what stands in the way."""
        try:
            design = self.design()
            Study(design)
        except LanternError as error:
            self.trouble.setText(f"✕ {error.sentence()}")
            self.trouble.show()
            return
        self.trouble.hide()
        self.started.emit(design)

    def design(self) -> Design:
        """The design as asked for. Raises LanternError."""
        kind = family("explosion-box")
        settings: dict[str, Value] = {"layers": self.layers.value(), "lid": self.lid.currentText()}
        for name, field in self.fields.items():
            if field.text().strip():
                settings[name] = read_setting(parameter(kind, name), field.text(), self._units)
        metric = self._units == "mm"
        return start_design(
            kind.id, settings, name="Untitled box", stock=str(self.stock.currentData()), units=self._units,
            score_tool="scorer-mm" if metric else "board-8", cut_tool="trimmer-mm" if metric else "trimmer-16",
        )  # fmt: skip
