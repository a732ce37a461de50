"""The Bench page: one step at a time, how far the thing is, timers, and the list of all steps."""

from __future__ import annotations

from typing import Any

from PySide6.QtCore import Qt
from PySide6.QtGui import QHideEvent, QShowEvent
from PySide6.QtWidgets import (
    QApplication,
    QComboBox,
    QHBoxLayout,
    QLabel,
    QProgressBar,
    QPushButton,
    QSpinBox,
    QSplitter,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from yawning_lantern.bench import Schools, Step, Walk, resumed
from yawning_lantern.desktop.bench.rescue import Rescue
from yawning_lantern.desktop.bench.stand import BenchStanding
from yawning_lantern.desktop.bench.steps import StepList
from yawning_lantern.desktop.bench.timers import Timers
from yawning_lantern.desktop.bench.view import StepView
from yawning_lantern.desktop.bench.work import BenchWork, Planned
from yawning_lantern.desktop.shared.cards import card, heading
from yawning_lantern.desktop.shared.drawer import Drawer
from yawning_lantern.desktop.shared.session import Session
from yawning_lantern.desktop.shared.theme import Theme
from yawning_lantern.errors import LanternError
from yawning_lantern.study import Study

MOST_COPIES = 24


class BenchPage(QWidget):
    """Where a maker is, and what is done next."""

    def __init__(self, session: Session, drawer: Drawer, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.session, self.drawer = session, drawer
        self.work = BenchWork(session, self)
        self.timers = Timers(self)
        self.view = StepView()
        self.stand = BenchStanding(session)
        self.walk: Walk | None = None
        self._of: Planned | None = None
        self.summary = QLabel("")
        self.summary.setObjectName("question")
        self.bar = QProgressBar()
        self.bar.setFixedWidth(150)
        self.bar.setTextVisible(False)
        self.bar.setAccessibleName("Joints placed in the order so far")
        self.cancel = QPushButton("Cancel")
        self.cancel.clicked.connect(self.work.give_up)
        self.copies = QSpinBox()
        self.copies.setRange(1, MOST_COPIES)
        self.copies.setSuffix(" ×")
        self.copies.setAccessibleName("Copies made side by side")
        self.copies.valueChanged.connect(self.look)
        self.school = QComboBox()
        self.school.addItem("Mats on while flat", Schools())
        self.school.addItem("Mats on later", Schools("later"))
        self.school.addItem("Flat; notches punched last", Schools(notch="after"))
        self.school.setAccessibleName("School of working")
        self.school.currentIndexChanged.connect(self.look)
        self.all = QToolButton()
        self.all.setText("All steps")
        self.all.setCheckable(True)
        self.all.setToolTip("Fold out the list of all steps")
        self.all.toggled.connect(self._list)
        self.steps = StepList()
        self.steps.chosen.connect(self._go_to)
        self.before = QPushButton("Back")
        self.before.setToolTip("The number or step before (Backspace)")
        self.before.clicked.connect(self.go_back)
        self.next = QPushButton("Done, next")
        self.next.setObjectName("go")
        self.next.setToolTip("It is done (Space)")
        self.next.clicked.connect(self.go_on)
        self.wrong = QPushButton("Something went wrong")
        self.wrong.setToolTip("Say what it really measures: the rest is fitted again round it")
        self.rescue = Rescue(self, session, self.where, lambda: self.view.theme, self.show_walk, drawer)
        self.wrong.clicked.connect(self.rescue.open)
        self.ringing = QLabel("")
        self.ringing.setObjectName("question")
        self.ringing.setWordWrap(True)
        self._lay_out()
        self.view.done.connect(self.go_on)
        self.view.back.connect(self.go_back)
        self.view.ticked.connect(self.tick)
        self.work.changed.connect(self.refresh)
        self.work.progressed.connect(self._progress)
        self.timers.beat.connect(self._tell_timers)
        self.timers.rang.connect(self._ring)
        session.judged.connect(self.look)

    def _lay_out(self) -> None:
        head = QWidget()
        line = QHBoxLayout(head)
        line.setContentsMargins(4, 0, 4, 0)
        line.addWidget(self.summary, 1)
        for one in (self.bar, self.cancel, self.school, QLabel("Copies"), self.copies, self.all):
            line.addWidget(one)
        hands = QWidget()
        row = QHBoxLayout(hands)
        row.setContentsMargins(0, 0, 0, 0)
        row.addWidget(self.before)
        row.addWidget(self.next, 1)
        for button in (self.before, self.next):
            button.setMinimumHeight(44)
            button.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        side = QSplitter(Qt.Orientation.Vertical)
        side.addWidget(card(heading("How far it is"), self.stand, stretch=1))
        side.addWidget(card(heading("Setting"), self.ringing, self.wrong, hands, stretch=1))
        side.setSizes([500, 150])
        side.setChildrenCollapsible(False)
        self._list_card = card(heading("All steps"), self.steps, stretch=1)
        self._list_card.hide()
        middle = QSplitter(Qt.Orientation.Horizontal)
        for part in (card(self.view), side, self._list_card):
            middle.addWidget(part)
        middle.setSizes([820, 340, 320])
        middle.setStretchFactor(0, 1)
        middle.setChildrenCollapsible(False)
        middle.setHandleWidth(7)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(10, 8, 10, 8)
        layout.addWidget(head)
        layout.addWidget(middle, 1)

    def where(self) -> tuple[Study, Walk] | None:
        """The study that is made, and how far it is."""
        planned = self.work.current
        return (planned.study, self.walk) if planned is not None and self.walk is not None else None

    @property
    def is_idle(self) -> bool:
        """Whether nothing is being worked out."""
        return self.work.is_idle

    def showEvent(self, event: QShowEvent) -> None:
        super().showEvent(event)
        self.look()
        self.timers.resume()
        self.view.setFocus()

    def hideEvent(self, event: QHideEvent) -> None:
        if self.window().isMinimized() or not self.window().isVisible():
            self.timers.pause()
        super().hideEvent(event)

    def look(self) -> None:
        """Plan the design as it is now, if the page is seen."""
        if self.isVisible():
            self.work.look(self.copies.value(), self.school.currentData())
            self.refresh()

    # -- where one is

    def _key(self) -> str:
        """By what a design's place is kept: its file, else its name."""
        return str(self.session.path or self.session.design.name)

    def _resume(self, planned: Planned) -> Walk:
        workshop = self.drawer.workshop()
        kept: dict[str, Any] = {}
        try:
            kept = workshop.progress(self._key()) if workshop is not None else {}
        except LanternError as error:
            self.drawer.troubled.emit(error.sentence())
        if self._of is None or self._of.study.design.name != planned.study.design.name:
            waits = kept.get("timers", [])
            self.timers.restore(waits if isinstance(waits, list) else [])
        return resumed(planned.plan, kept)

    def _keep(self) -> None:
        workshop = self.drawer.workshop()
        if workshop is None or self.walk is None:
            return
        try:
            workshop.keep_progress(self._key(), {**self.walk.record(), "timers": self.timers.record()})
        except LanternError as error:
            self.drawer.troubled.emit(error.sentence())

    def go_on(self) -> None:
        """The number or step is done, for all copies."""
        if self.walk is not None:
            self.show_walk(self.walk.forward())

    def go_back(self) -> None:
        """The number or step before."""
        if self.walk is not None:
            self.show_walk(self.walk.back())

    def tick(self, copy: int) -> None:
        """One copy of it is done, or not after all."""
        if self.walk is not None:
            self.show_walk(self.walk.tick(copy))

    def begin_anew(self) -> None:
        """Nothing is done yet."""
        if self.walk is not None:
            for one in tuple(self.timers.all):
                self.timers.drop(one.step)
            self.show_walk(Walk(self.walk.plan))

    def _go_to(self, rank: int) -> None:
        if self.walk is not None:
            self.show_walk(self.walk.go(rank))
            self.view.setFocus()

    def show_walk(self, walk: Walk) -> None:
        """Be elsewhere in the plan: it is kept, glue that was put on meanwhile sets."""
        before = self.walk
        self.walk = walk
        if before is not None:
            for step in walk.plan.steps:
                if step.id in walk.done - before.done and step.wait:
                    self.timers.start(step.element or step.id, _what_sets(step), step.wait)
                elif step.id in before.done - walk.done:
                    self.timers.drop(step.element or step.id)
        self._keep()
        self._show()

    # -- showing

    def _progress(self, done: int, of: int) -> None:
        self.bar.setRange(0, max(of, 1))
        self.bar.setValue(done)

    def refresh(self) -> None:
        """Show what the work knows now."""
        planned, busy = self.work.current, not self.work.is_idle
        self.bar.setVisible(busy)
        self.cancel.setVisible(busy)
        self.view.trouble = "" if busy else self.work.trouble
        if planned is None or busy:
            self.walk = None
        elif planned is not self._of or self.walk is None:
            self.walk = self._resume(planned)
            self._of = planned
        self._show()

    def _show(self) -> None:
        planned, walk = self._of if self.walk is not None else None, self.walk
        acts = planned.acts if planned is not None else {}
        study = planned.study if planned is not None else None
        self.view.text_scale = self.font().pointSizeF() / 10.5
        self.view.show_walk(walk, study, acts, self.session.design.units)
        self.stand.show_walk(walk, acts)
        self.view.only = self.stand.only() or frozenset()
        self.next.setEnabled(walk is not None and walk.step is not None)
        self.wrong.setEnabled(walk is not None)
        self.before.setEnabled(walk is not None and (walk.at > 0 or walk.number > 0))
        if walk is None:
            self.summary.setText("" if self.work.trouble else "Working out the order …")
        else:
            count, left = len(walk.plan.steps), walk.minutes_left
            told = f"{len(walk.done)} of {count} steps done, about {_hours(left)} left"
            clash = (
                "▲ Something clashes: look at Form before you cut. " if study is not None and study.has_clash else ""
            )
            self.summary.setText(f"{clash}{told}" if walk.step is not None else "Everything is done.")
            if study is not None and walk.step is not None and walk.step.element in study.resolved:
                self.session.select(walk.step.element)
        self._list()

    def _list(self) -> None:
        """Fold the list of all steps out or away."""
        self._list_card.setVisible(self.all.isChecked())
        if self.all.isChecked():
            self.steps.show_walk(self.walk, self.session.design.units)

    def _tell_timers(self) -> None:
        step = self.walk.step if self.walk is not None else None
        if step is not None and step.kind == "wait":
            own = next((one.told for one in self.timers.all if one.step == step.element and not one.rung), "")
            if own != self.view.countdown:
                self.view.countdown = own
                self.view.update()
        lines = [
            f"◔ {one.told}  {one.words}" if not one.rung else f"✓ Set: {one.words}" for one in self.timers.all[-4:]
        ]
        self.ringing.setText("\n".join(lines) or "Nothing is setting.")

    def _ring(self, words: str) -> None:
        QApplication.beep()
        QApplication.alert(self.window())
        self._tell_timers()

    def stop(self) -> None:
        """The window goes: keep where one is."""
        self.timers.pause()
        self._keep()
        self.work.stop()

    def set_theme(self, theme: Theme) -> None:
        """Colours for everything that paints itself."""
        for view in (self.view, self.stand):
            view.theme = theme
            view.update()


def _what_sets(step: Step) -> str:
    return step.parts[0] if step.parts else "the glue"


def _hours(minutes: float) -> str:
    whole = round(minutes)
    return f"{whole} min" if whole < 90 else f"{whole // 60} h {whole % 60:02} min"
