"""The bench plan worked out off the GUI thread; stale answers are dropped, and it can be stopped."""

from __future__ import annotations

from threading import Event

from msgspec import Struct
from PySide6.QtCore import QObject, Signal

from yawning_lantern.bench import Act, BenchPlan, Schools, acts_of
from yawning_lantern.desktop.shared.runner import Runner
from yawning_lantern.desktop.shared.session import Session
from yawning_lantern.errors import LanternError
from yawning_lantern.measure import speak
from yawning_lantern.opening import CancelledError
from yawning_lantern.study import Study, sound
from yawning_lantern.study.at_bench import plan_bench


class Planned(Struct, frozen=True):
    """The plan of a study for so many copies, and its acts by name."""

    study: Study
    copies: int
    schools: Schools
    plan: BenchPlan
    acts: dict[str, Act]


class BenchWork(QObject):
    """`changed`: something is known, under way or given up. `progressed`: so many joints of how many."""

    changed = Signal()
    progressed = Signal(int, int)

    def __init__(self, session: Session, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._session = session
        self._runner = Runner(self)
        self._runner.answered.connect(self._answered)
        self._stop = Event()
        self._asked: tuple[Study, int, Schools] | None = None
        self.planned: Planned | None = None
        self.trouble = ""

    @property
    def is_idle(self) -> bool:
        """Whether nothing is being worked out."""
        return not self._runner.is_busy

    @property
    def current(self) -> Planned | None:
        """The plan of the design as it is now, or None while it is out of date."""
        planned = self.planned
        return planned if planned is not None and planned.study is self._session.study else None

    def look(self, copies: int, schools: Schools) -> None:
        """See that the plan of the design as it is now is known or being made."""
        study = self._session.study
        if study is None or (study, copies, schools) == self._asked:
            return
        self._asked = study, copies, schools
        self._stop.set()
        stop = self._stop = Event()

        def told(done: int, of: int) -> None:
            if stop.is_set():
                raise CancelledError
            self.progressed.emit(done, of)

        def work() -> Planned:
            plan = plan_bench(sound(study), schools, copies, told)
            return Planned(study, copies, schools, plan, {act.name: act for act in acts_of(study.assembly)})

        self._runner.submit(work)
        self.changed.emit()

    def give_up(self) -> None:
        """Stop what is under way."""
        self._stop.set()

    def stop(self) -> None:
        """The program ends."""
        self._stop.set()
        self._runner.stop()

    def _answered(self, answer: object) -> None:
        self.trouble = ""
        if isinstance(answer, CancelledError):
            self.planned, self.trouble, self._asked = None, "Given up: the order is not worked out.", None
        elif isinstance(answer, LanternError):
            self.planned, self.trouble = None, speak(answer.sentence(), self._session.design.units)
        elif isinstance(answer, BaseException):
            raise answer
        else:
            assert isinstance(answer, Planned)
            self.planned = answer
        self.changed.emit()
