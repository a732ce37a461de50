"""What the chosen structure is asked: its three ways in, what holds for all of them, and what would come of it."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PySide6.QtCore import Qt, QTimer, Signal
from PySide6.QtWidgets import QComboBox, QHBoxLayout, QLabel, QPushButton, QSpinBox, QVBoxLayout, QWidget

from yawning_lantern.design import Design, Value
from yawning_lantern.desktop.idea.outlook import HALF_OPEN, SheetOutlook, StandingOutlook
from yawning_lantern.desktop.idea.way_card import QUESTIONS, WayCard
from yawning_lantern.desktop.shared.figures import figure
from yawning_lantern.desktop.shared.runner import Runner
from yawning_lantern.desktop.shared.theme import Theme
from yawning_lantern.errors import LanternError
from yawning_lantern.measure import Units, format_size, inches, snap
from yawning_lantern.stock import Paper, builtin_catalogue
from yawning_lantern.structures import Start, family
from yawning_lantern.study import Study
from yawning_lantern.study.ways_in import begin, ways_in

PAUSE = 250  # ms of quiet before the picture follows what is typed
USUAL_LAYERS = 3


class Asking(QWidget):
    """One structure. `started` carries the new design."""

    started = Signal(object)

    def __init__(self, units: Units) -> None:
        super().__init__()
        self._units: Units = units
        self.kind = family("explosion-box")
        self.used: Start = "contents"
        self.study: Study | None = None
        self._begun: Design | None = None
        self._wanted = False
        self.title = QLabel()
        self.title.setObjectName("title")
        self.about = QLabel()
        self.about.setObjectName("faint")
        self.about.setWordWrap(True)
        self.cards = {start: WayCard(start, units) for start in QUESTIONS}
        row = QHBoxLayout()
        row.setSpacing(10)
        for start, card in self.cards.items():
            card.taken.connect(lambda s=start: self.take(s))
            card.changed.connect(lambda s=start: self._typed(s))
            card.entered.connect(self.begin)
            row.addWidget(card, 1)
        self.standing, self.sheet = StandingOutlook(), SheetOutlook()
        pictures = QHBoxLayout()
        pictures.setSpacing(10)
        pictures.addWidget(self.standing, 3)
        pictures.addWidget(self.sheet, 2)
        self.outcome = QLabel()
        self.outcome.setWordWrap(True)
        self.outcome.setMinimumHeight(2 * self.fontMetrics().height())
        self.outcome.setAlignment(Qt.AlignmentFlag.AlignTop)
        self.go = QPushButton("Work it out")
        self.go.setObjectName("go")
        self.go.clicked.connect(self.begin)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(7)
        layout.addWidget(self.title)
        layout.addWidget(self.about)
        layout.addLayout(row)
        layout.addLayout(self._options())
        layout.addLayout(pictures, 1)
        foot = QHBoxLayout()
        foot.addWidget(self.outcome, 1)
        foot.addWidget(self.go)
        layout.addLayout(foot)
        self._pause = QTimer(self)
        self._pause.setSingleShot(True)
        self._pause.setInterval(PAUSE)
        self._pause.timeout.connect(self.foresee)
        self.runner = Runner(self)
        self.runner.answered.connect(self._foreseen)

    def _options(self) -> QHBoxLayout:
        """What holds for every way in: layers and a lid where the structure has them, and the stock."""
        self.layers = QSpinBox()
        self.layers.setRange(1, 6)
        self.layers.setValue(USUAL_LAYERS)
        self.layers.setAccessibleName("Layers")
        self.layers_label = QLabel("Layers")
        self.lid = QComboBox()
        self.lid.addItems(["easy", "snug", "loose", "none"])
        self.lid.setAccessibleName("Lid")
        self.lid_label = QLabel("Lid")
        self.stock = QComboBox()
        self.stock.setAccessibleName("Stock")
        self.stock.setMinimumContentsLength(14)
        self.stock.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
        self.papers: tuple[Paper, ...] = ()
        self.set_papers(builtin_catalogue().papers)
        for signal in (self.layers.valueChanged, self.lid.currentIndexChanged, self.stock.currentIndexChanged):
            signal.connect(self._changed)
        row = QHBoxLayout()
        row.setSpacing(8)
        for widget in (self.layers_label, self.layers, self.lid_label, self.lid, QLabel("Stock")):
            row.addWidget(widget)
        row.addWidget(self.stock, 1)
        return row

    @property
    def paper(self) -> Paper:
        """The stock that is chosen."""
        return self.papers[max(0, self.stock.currentIndex())]

    def set_papers(self, papers: tuple[Paper, ...]) -> None:
        """Offer other papers; the chosen one stays chosen where it is still there."""
        if papers == self.papers:
            return
        chosen, self.papers = self.stock.currentData(), papers
        self.stock.blockSignals(True)
        self.stock.clear()
        for paper in papers:
            self.stock.addItem(paper.name, paper.id)
        self.stock.setCurrentIndex(max(0, self.stock.findData(chosen)))
        self.stock.blockSignals(False)

    @property
    def is_idle(self) -> bool:
        """Whether the pictures belong to what is typed."""
        return not self._pause.isActive() and not self.runner.is_busy

    def ask(self, family_id: str) -> None:
        """Ask what another structure needs to know."""
        self.kind = family(family_id)
        self.title.setText(self.kind.name)
        self.about.setText(self.kind.about)
        ways = {way.start: way for way in ways_in(self.kind)}
        for start, card in self.cards.items():
            card.show_way(self.kind, ways.get(start))
        declared = {p.id for p in self.kind.parameters if p.structural}
        for name, widgets in (("layers", (self.layers, self.layers_label)), ("lid", (self.lid, self.lid_label))):
            for widget in widgets:
                widget.setVisible(name in declared)
        self.take(self.used if self.used in ways else next(iter(ways)))
        self.foresee()

    def take(self, start: Start) -> None:
        """This way in is the one in use."""
        if start != self.used:
            self.used = start
            self._changed()
        for name, card in self.cards.items():
            card.show_used(name == start)

    def _typed(self, start: Start) -> None:
        self.take(start)
        self._changed()

    def _changed(self) -> None:
        self._begun = None
        self._pause.start()

    def set_units(self, units: Units) -> None:
        """Read and show lengths in other units."""
        self._units = units
        for card in self.cards.values():
            card.set_units(units)
        self._changed()

    def asked(self) -> Callable[[], Design]:
        """What is asked for, read from the fields; called, from any thread, it gives the design or raises
        LanternError. Raises LanternError for what cannot be read."""
        settings: dict[str, Value] = dict(self.cards[self.used].settings())
        if not self.layers.isHidden():
            settings["layers"] = float(self.layers.value())
        if not self.lid.isHidden():
            settings["lid"] = self.lid.currentText()
        paper = self.paper
        return partial(
            begin, self.kind, self.used, settings, name=f"Untitled {self.kind.name.lower()}",
            stock=paper.id, units=self._units, papers=(paper,),
        )  # fmt: skip

    def foresee(self) -> None:
        """Work out what would come of it, off the GUI thread, for the pictures."""
        self._pause.stop()
        try:
            made = self.asked()
        except LanternError as error:
            self._foreseen(error)
            return

        def work() -> Study:
            study = Study(made())
            study.picture(HALF_OPEN)
            return study

        self.runner.submit(work)

    def _foreseen(self, answer: object) -> None:
        if isinstance(answer, Study):
            self._begun = answer.design
            self._show(answer)
            self.outcome.setText(self._came(answer))
            if self._wanted:
                self.started.emit(answer.design)
        elif isinstance(answer, LanternError):
            self._show(None)
            self.outcome.setText(f"✕ {answer.sentence()}")
        elif isinstance(answer, BaseException):
            raise answer
        self._wanted = False

    def _show(self, study: Study | None) -> None:
        self.study = study
        self.standing.show_study(study)
        self.sheet.show_study(study)
        sizes = next(iter(study.resolved.values())).sizes if study is not None else {}
        worked = {p.id: figure(sizes[p.id], p, self._units) for p in self.kind.parameters if p.id in sizes}
        for start, card in self.cards.items():
            card.tell(worked if start == self.used else {})

    def _came(self, study: Study) -> str:
        step = inches(1 / 16) if self._units == "in" else 1.0
        size = tuple(snap(x, step, "up").value for x in study.size_at(0.0))
        closed = format_size(size, self._units, glyphs=True)
        count = sum(piece.quantity for piece in study.pieces if not piece.bought)
        clash = " Something clashes: see Form." if study.has_clash else ""
        return f"{count} piece{'s' if count != 1 else ''}, closed within {closed}.{clash}"

    def begin(self) -> None:
        """Make the design, as soon as it is worked out; what stands in the way is told."""
        if self._begun is not None:
            self.started.emit(self._begun)
            return
        self._wanted = True
        self.foresee()

    def set_theme(self, theme: Theme) -> None:
        """Colours for the pictures."""
        for view in (self.standing, self.sheet):
            view.theme = theme
            view.update()
