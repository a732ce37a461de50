"""Finding the opening off the GUI thread: progress, cancelling, orders that are tried, margins that are added."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from threading import Event
from typing import Literal

from msgspec import Struct
from PySide6.QtCore import QObject, Signal

from yawning_lantern.desktop.shared.runner import Runner
from yawning_lantern.desktop.shared.session import Session
from yawning_lantern.opening import CancelledError, Memory, Opening
from yawning_lantern.study import Study, opening_in_order, opening_of
from yawning_lantern.study.opened import broken, reach

Kind = Literal["found", "asked", "broken"]


class Answer(Struct, frozen=True):
    """What came of one sweep. `room` is what the opening takes on the table, mm."""

    kind: Kind
    study: Study
    opening: Opening
    room: tuple[float, float, float]


class OpeningWork(QObject):
    """`changed`: something is known, under way or given up. Answers for an older study are dropped."""

    changed = Signal()
    progressed = Signal(int, int)

    def __init__(self, session: Session, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._session = session
        self._runner = Runner(self)
        self._runner.answered.connect(self._answered)
        self._cancel = Event()
        self._wanted: Study | None = None
        self._memory = Memory()  # touched by the worker alone, one sweep at a time
        self.found: Answer | None = None
        self.asked: Answer | None = None
        self.broken: Answer | None = None
        self.given_up = False

    @property
    def is_idle(self) -> bool:
        """Whether nothing is being worked out."""
        return not self._runner.is_busy

    @property
    def current(self) -> Answer | None:
        """The opening that is shown: the order asked for, or else the one found; None while it is out of date."""
        answer = self.asked or self.found
        return answer if answer is not None and answer.study is self._session.study else None

    def look(self) -> None:
        """See that the opening of the design as it is now is known or being found."""
        study = self._session.study
        if study is None or study is self._wanted:
            return
        self._wanted, self.asked, self.broken, self.given_up = study, None, None, False
        self._run("found", study, lambda stop: opening_of(study, stop.is_set, self.progressed.emit, self._memory))

    def ask(self, order: Sequence[int]) -> None:
        """Try an order of motions, by index."""
        study, kept = self._session.study, tuple(order)
        if study is not None:
            self._run("asked", study, lambda stop: opening_in_order(study, kept, stop.is_set))

    def forget_order(self) -> None:
        """Back to the order that was found."""
        self.asked = None
        self.changed.emit()

    def try_to_break(self) -> None:
        """Sweep once more with every sheet larger and thicker."""
        answer = self.current
        if answer is not None:
            self._run("broken", answer.study, lambda stop: broken(answer.study, answer.opening, cancelled=stop.is_set))

    def give_up(self) -> None:
        """Stop what is under way."""
        self._cancel.set()
        self.given_up = True
        self.changed.emit()

    def again(self) -> None:
        """Find the opening anew."""
        self._wanted = None
        self.look()

    def stop(self) -> None:
        """The program ends."""
        self._cancel.set()
        self._runner.stop()

    def _run(self, kind: Kind, study: Study, work: Callable[[Event], Opening]) -> None:
        self._cancel.set()  # what runs is stale
        stop = self._cancel = Event()
        self.given_up = False

        def job() -> Answer:
            opening = work(stop)
            return Answer(kind, study, opening, reach(study, opening))

        self._runner.submit(job)
        self.changed.emit()

    def _answered(self, answer: object) -> None:
        if isinstance(answer, CancelledError):
            self.changed.emit()
            return
        if isinstance(answer, BaseException):
            raise answer
        assert isinstance(answer, Answer)
        if answer.study is self._session.study:
            setattr(self, answer.kind, answer)
        self.changed.emit()
