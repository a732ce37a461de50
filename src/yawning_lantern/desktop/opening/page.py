"""Opening: which part moves when, played on the folded thing; where sheets meet; what follows from the shut thing."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QElapsedTimer, Qt, QTimer
from PySide6.QtGui import QKeyEvent, QShowEvent
from PySide6.QtWidgets import (
    QFormLayout,
    QHBoxLayout,
    QLabel,
    QProgressBar,
    QPushButton,
    QScrollArea,
    QSplitter,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from yawning_lantern.desktop.opening.bulk_view import BulkView
from yawning_lantern.desktop.opening.lanes import Lanes
from yawning_lantern.desktop.opening.view import OpeningView
from yawning_lantern.desktop.opening.work import OpeningWork
from yawning_lantern.desktop.shared.cards import card
from yawning_lantern.desktop.shared.session import Session
from yawning_lantern.desktop.shared.theme import Theme
from yawning_lantern.opening import Contact, Opening, Step
from yawning_lantern.study import Study
from yawning_lantern.study.opened import (
    closed_facts,
    contact_words,
    cure_words,
    cures,
    knot_words,
    shut_words,
    step_words,
    verdict,
    where,
)

STEP_MS = 1300
"""How long one step is played, ms."""
FRAME_MS = 33
_NEAR = 0.02
POST = "By post: a thick place may cost more or be refused. The carrier's own limits have the last word."
MOST_LANES, FEWEST_LANES = 260, 150  # px high


def _label(name: str = "") -> QLabel:
    label = QLabel()
    label.setWordWrap(True)
    label.setObjectName(name)
    return label


class OpeningPage(QWidget):
    """Observes the session; sweeps run in `work`."""

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.session = session
        self.work = OpeningWork(session, self)
        self.view = OpeningView(session)
        self.lanes = Lanes()
        self.bulk = BulkView()
        self.time = 0.0
        self._shown: Opening | None = None
        self._shown_of: Study | None = None
        self._play = QTimer(self)
        self._play.setInterval(FRAME_MS)
        self._play.timeout.connect(self._tick)
        self._clock = QElapsedTimer()
        self.theme: Theme = self.view.theme
        layout = QVBoxLayout(self)
        layout.setContentsMargins(2, 6, 8, 4)
        layout.setSpacing(4)
        layout.addWidget(self._head())
        middle = QSplitter(Qt.Orientation.Horizontal)
        middle.addWidget(card(self.view, self._controls()))
        middle.addWidget(self._right())
        middle.setSizes([820, 340])
        middle.setStretchFactor(0, 1)
        middle.setChildrenCollapsible(False)
        middle.setHandleWidth(7)
        layout.addWidget(middle, 1)
        self._area = QScrollArea()
        self._area.setWidgetResizable(True)
        self._area.setWidget(self.lanes)
        self._area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self._lane_card = card(self._area)
        layout.addWidget(self._lane_card)
        self.lanes.scrubbed.connect(self.go_to)
        self.lanes.reordered.connect(self._reordered)
        session.studied.connect(self._studied)
        self.work.changed.connect(self.refresh)
        self.work.progressed.connect(self._progress)

    def _head(self) -> QWidget:
        self.sign = QLabel()
        self.sign.setObjectName("title")
        self.words = _label("question")
        self.bar = QProgressBar()
        self.bar.setFixedWidth(170)
        self.bar.setTextVisible(False)
        self.bar.setAccessibleName("Motions swept so far")
        self.cancel = QPushButton("Cancel")
        self.cancel.clicked.connect(self.work.give_up)
        self.anew = QPushButton("Work it out")
        self.anew.clicked.connect(self.work.again)
        self.back = QPushButton("Back to the order found")
        self.back.clicked.connect(self.work.forget_order)
        self.break_it = QPushButton("Try to break it")
        self.break_it.setToolTip("Sweep again with every part 0.5 mm larger and every sheet a fifth thicker")
        self.break_it.clicked.connect(self.work.try_to_break)
        row = QWidget()
        line = QHBoxLayout(row)
        line.setContentsMargins(4, 0, 0, 0)
        line.addWidget(self.sign)
        line.addWidget(self.words, 1)
        for one in (self.bar, self.cancel, self.anew, self.back, self.break_it):
            line.addWidget(one)
        return card(row)

    def _controls(self) -> QWidget:
        row = QWidget()
        line = QHBoxLayout(row)
        line.setContentsMargins(0, 0, 0, 0)
        self.play_button = QToolButton()
        for words, tip, act in (
            ("Shut", "To the beginning (Home)", lambda: self.go_to(0.0)),
            ("‹ Back", "One step back (Left)", self.step_back),
            ("", "Play or pause (Space)", self.play_opening),
            ("On ›", "One step on (Right)", self.step_on),
            ("Open", "To the end (End)", lambda: self.go_to(1e9)),
        ):
            button = self.play_button if not words else QToolButton()
            button.setText(words or "Play")
            button.setToolTip(tip)
            button.setAccessibleName(tip)
            button.clicked.connect(act)
            line.addWidget(button)
        self.now = QLabel()
        self.now.setTextFormat(Qt.TextFormat.PlainText)
        line.addWidget(self.now, 1)
        return row

    def _right(self) -> QWidget:
        self.meets = _label()
        self.meets.setTextFormat(Qt.TextFormat.PlainText)
        self.meets.setAlignment(Qt.AlignmentFlag.AlignTop)
        self.meets.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
        heads = []
        for words in ("Where sheets meet", "Shut, from above: sheets on one another"):
            head = QLabel(words)
            head.setObjectName("heading")
            heads.append(head)
        self.facts = QWidget()
        self._facts = QFormLayout(self.facts)
        self._facts.setContentsMargins(0, 2, 0, 0)
        self._facts.setVerticalSpacing(1)
        post = _label("faint")
        post.setText(POST)
        shut = QWidget()
        column = QVBoxLayout(shut)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(4)
        column.addWidget(self.bulk, 1)
        column.addWidget(self.facts)
        column.addWidget(post)
        right = QSplitter(Qt.Orientation.Vertical)
        for head, held in zip(heads, (self.meets, shut), strict=True):
            area = QScrollArea()  # with large text there is more than has room
            area.setWidgetResizable(True)
            area.setWidget(held)
            area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
            right.addWidget(card(head, area, stretch=1))
        right.setSizes([190, 380])
        right.setChildrenCollapsible(False)
        right.setHandleWidth(7)
        return right

    # -- what is known

    @property
    def is_idle(self) -> bool:
        """Whether nothing is being worked out or played."""
        return self.work.is_idle and not self._play.isActive()

    def stop(self) -> None:
        """Work nothing out any more."""
        self.work.stop()

    def showEvent(self, event: QShowEvent) -> None:
        super().showEvent(event)
        self._studied()

    def _studied(self) -> None:
        if self._shown_of is not self.session.study:
            self._play.stop()  # what was played belongs to a design that is gone
            self.play_button.setText("Play")
        if not self.isVisible():
            return
        self.work.look()
        study = self.session.study
        if study is not None:
            self.bulk.show_bulk(study.bulk)
            while self._facts.rowCount():
                self._facts.removeRow(0)
            for name, words in closed_facts(study, self.session.design.units):
                self._facts.addRow(name, _worded(words))
        self.refresh()

    def refresh(self) -> None:
        """Show what the work knows now."""
        answer, study = self.work.current, self.session.study
        opening = answer.opening if answer is not None else None
        if study is not None and (opening is not self._shown or opening is None):
            self._shown, self._shown_of = opening, study
            motions = study.assembly.motions
            order = [s.motion for s in opening.steps] if opening is not None else range(len(motions))
            kept = [e for e, _ in self.lanes.parts if e in study.resolved] if self.work.asked is not None else []
            elements = list(dict.fromkeys(kept + [motions[m].element for m in order] + [m.element for m in motions]))
            parts = [(e, study.resolved[e].final.name) for e in elements]
            self.lanes.show_opening(opening, parts, [m.element for m in motions])
            wanted = min(self.lanes.sizeHint().height() + 18, MOST_LANES)
            self._lane_card.setMaximumHeight(wanted)
            self._lane_card.setMinimumHeight(min(wanted, FEWEST_LANES))
            self.view.show_opening(study, opening)
            self.go_to(min(self.time, float(self.lanes.count)))
        self._tell(study, opening)

    def _tell(self, study: Study | None, opening: Opening | None) -> None:
        busy = not self.work.is_idle
        self.bar.setVisible(busy)
        self.cancel.setVisible(busy)
        self.anew.setVisible(self.work.given_up and not busy)
        self.back.setVisible(self.work.asked is not None and not busy)
        self.break_it.setVisible(not busy)
        self.break_it.setEnabled(opening is not None and any(s.clear for s in opening.steps))
        if study is None or opening is None or self.work.current is None:
            self.sign.setText("…" if busy else "?")
            self.words.setText(
                "Sweeping every motion with the paper's thickness …"
                if busy
                else "Nothing was swept for this design yet."
            )
            self.meets.setText("Contacts are listed here, with the fit and the measurement that would cure them.")
            return
        units = self.session.design.units
        self.sign.setText("✓" if opening.works else "✕")
        words = verdict(study, opening, units, self.work.current.room)
        if self.work.asked is not None:
            words = ("This order works. " if opening.works else "This order does not work. ") + words
        self.words.setText(words)
        self.meets.setText("\n\n".join(self._contacts(study, opening)) or "Nothing meets, nothing rests on anything.")

    def _contacts(self, study: Study, opening: Opening) -> list[str]:
        units = self.session.design.units
        lines = [f"✕ {shut_words(study, met, units)}" for met in opening.shut]
        for k, step in enumerate(opening.steps):
            if step.contact is not None:
                lines.append(f"✕ {k + 1}  {contact_words(study, step, step.contact, units)}")
                lines += [f"→ {cure_words(study, cure, units)}" for cure in cures(study, step.contact)]
            lines += [f"▼ {k + 1}  {contact_words(study, step, met, units)}" for met in step.resting]
        knot = knot_words(study, opening)
        if knot:
            lines.insert(0, f"✕ {knot}")
        broke = self.work.broken
        if broke is not None and broke.study is study:
            lines[:0] = self._gives(study, broke.opening)
        return lines

    def _gives(self, study: Study, broke: Opening) -> list[str]:
        """What gives first with the margin, and what would cure it."""
        units = self.session.design.units
        first = next((s for s in broke.steps if s.contact is not None), None)
        if broke.shut:
            met, told = broke.shut[0], shut_words(study, broke.shut[0], units)
        elif first is not None and first.contact is not None:
            met, told = (
                first.contact,
                f"{step_words(study, first)}. {contact_words(study, first, first.contact, units)}",
            )
        else:
            return ["✓ Tried to break it: 0.5 mm larger and a fifth thicker, it still opens."]
        cured = [f"→ {cure_words(study, cure, units)}" for cure in cures(study, met)[:1]]
        return [f"✕ 0.5 mm larger and a fifth thicker, this gives first: {told}", *cured]

    def _progress(self, done: int, of: int) -> None:
        self.bar.setRange(0, max(of, 1))
        self.bar.setValue(done)

    # -- time

    def go_to(self, time: float) -> None:
        """Move the playhead: so many steps done."""
        self.time = max(0.0, min(float(self.lanes.count), time))
        self.lanes.show_time(self.time)
        study = self.session.study
        opening = self._shown if study is self._shown_of else None
        marks: list[tuple[Contact, str]] = []
        words = "Now: shut"
        if study is not None and opening is not None and opening.steps:
            k = min(max(0, -int(-self.time // 1) - 1), len(opening.steps) - 1)
            step = opening.steps[k]
            if self.time > 0.0:
                words = f"{k + 1}  {step_words(study, step)}"
            marks = self._marks(study, step, self.time - k)
        self.now.setText(words)
        self.view.show_time(self.time, marks)

    def _marks(self, study: Study, step: Step, share: float) -> list[tuple[Contact, str]]:
        units = self.session.design.units
        marks = []
        if step.contact is not None and share > 1.0 - _NEAR:
            marks.append((step.contact, f"meets {where(step, step.contact.at, units)}"))
        if step.opens:
            marks += [(m, f"rests {where(step, m.at, units)}") for m in step.resting if share > m.at - _NEAR]
        return marks

    def step_on(self) -> None:
        """To the end of the step under way, or of the next."""
        self._play.stop()
        self.go_to(float(int(self.time + 1e-6) + 1))

    def step_back(self) -> None:
        """To the beginning of the step under way, or of the one before."""
        self._play.stop()
        self.go_to(float(-int(-(self.time - 1e-6) // 1) - 1))

    def play_opening(self) -> None:
        """Play from here (from the beginning at the end), or pause."""
        if self._play.isActive():
            self._play.stop()
        elif self.lanes.count:
            if self.time >= self.lanes.count:
                self.go_to(0.0)
            self._clock.start()
            self._play.start()
        self.play_button.setText("Pause" if self._play.isActive() else "Play")

    def _tick(self) -> None:
        self.go_to(self.time + self._clock.restart() / STEP_MS)
        if self.time >= self.lanes.count:
            self._play.stop()
            self.play_button.setText("Play")

    def keyPressEvent(self, event: QKeyEvent) -> None:
        acts: dict[Qt.Key, Callable[[], object]] = {
            Qt.Key.Key_Right: self.step_on, Qt.Key.Key_Left: self.step_back, Qt.Key.Key_Space: self.play_opening,
            Qt.Key.Key_Home: lambda: self.go_to(0.0), Qt.Key.Key_End: lambda: self.go_to(1e9),
        }  # fmt: skip
        act = acts.get(Qt.Key(event.key()))
        if act is None:
            super().keyPressEvent(event)
        else:
            act()

    def _reordered(self, elements: list[str]) -> None:
        """A lane was dragged: the parts' motions one after the other, from the lane above to the lane below."""
        study, found = self.session.study, self.work.found
        if study is None:
            return
        motions = study.assembly.motions
        known = [s.motion for s in found.opening.steps if s.opens] if found is not None and found.study is study else []
        order = dict.fromkeys([*known, *range(len(motions))])
        self.work.ask([m for e in elements for m in order if motions[m].element == e])

    def set_theme(self, theme: Theme) -> None:
        """Colours for everything that paints itself."""
        for view in (self.view, self.lanes, self.bulk):
            view.theme = theme
            view.update()


def _worded(words: str) -> QLabel:
    label = _label()
    label.setText(words)
    return label
