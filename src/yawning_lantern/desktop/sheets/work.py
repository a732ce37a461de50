"""Sheets planned off the GUI thread: the best so far is told, it can be stopped, stale answers are dropped."""

from __future__ import annotations

from threading import Event

from msgspec import Struct
from msgspec.structs import replace
from PySide6.QtCore import QObject, Signal

from yawning_lantern.desktop.shared.runner import Runner
from yawning_lantern.desktop.shared.session import Session
from yawning_lantern.errors import LanternError
from yawning_lantern.measure import speak
from yawning_lantern.sheets import Effort, Held, Move, Plan, moved, plan_sheets
from yawning_lantern.study import Study
from yawning_lantern.study.wanted import boards_of, kept_boards, trimmer_of, wanted
from yawning_lantern.workshop import OffCut

MOST_COPIES = 24
USUAL = Effort(moves=3000, seconds=3.0, proof=6.0)
ROUGH = Effort(moves=0, seconds=1.0, proof=0.0)
BATCHES = 8


class Planned(Struct, frozen=True):
    """Sheets for so many copies of a study; `counts` are those of one copy, two, … as far as they are known."""

    study: Study
    copies: int
    together: bool
    plan: Plan
    counts: tuple[int, ...] = ()

    @property
    def names(self) -> dict[str, str]:
        """What the papers are called, by id."""
        return {piece.stock.id: piece.stock.name for piece in self.study.pieces}


class SheetsWork(QObject):
    """`changed`: something is known, under way or given up. `found`: so many sheets, fewer are looked for."""

    changed = Signal()
    found = Signal(int)

    def __init__(self, session: Session, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._session = session
        self._runner = Runner(self)
        self._runner.answered.connect(self._answered)
        self._stop = Event()
        self._asked: tuple[Study, int, bool, tuple[OffCut, ...]] | None = None
        self._before: list[Planned] = []
        self.planned: Planned | None = None
        self.trouble = ""

    @property
    def is_idle(self) -> bool:
        """Whether nothing is being looked for."""
        return not self._runner.is_busy

    @property
    def current(self) -> Planned | None:
        """Sheets of the design as it is now, or None while they are out of date."""
        planned = self.planned
        return planned if planned is not None and planned.study is self._session.study else None

    def look(
        self,
        copies: int,
        together: bool,
        kept: tuple[OffCut, ...] = (),
        held: tuple[Held, ...] = (),
        anew: bool = False,
    ) -> None:  # fmt: skip
        """See that the sheets of the design as it is now are known or being looked for, `kept` off-cuts first; what is
        locked on `held` sheets stays. Asked again for the same it lays out `anew` only where that is said."""
        study = self._session.study
        if study is None or ((study, copies, together, kept) == self._asked and not anew):
            return
        self._asked = study, copies, together, kept
        self._before.clear()
        self._stop.set()
        stop = self._stop = Event()
        catalogue = study.catalogue
        trimmer = trimmer_of(study.design, catalogue)
        effort = replace(USUAL, together=together)

        def work() -> Planned:
            boards = boards_of(study)
            first = (*boards, *kept_boards(kept))
            plan = plan_sheets(wanted(study, copies), first, trimmer, effort, self.found.emit, stop.is_set, held)
            counts = []
            for k in range(1, BATCHES + 1):
                if stop.is_set():
                    break
                rough = plan.count if k == copies else plan_sheets(wanted(study, k), first, trimmer, ROUGH).count
                counts.append(rough)
            return Planned(study, copies, together, plan, tuple(counts))

        self._runner.submit(work)
        self.changed.emit()

    def move(self, move: Move) -> str:
        """Put a piece elsewhere; gives what that costs, in words. Raises LanternError where it cannot be."""
        planned = self.current
        if planned is None:
            return ""
        study, catalogue = planned.study, planned.study.catalogue
        boards = (*boards_of(study), *(sheet.board for sheet in planned.plan.sheets if sheet.board.kept))
        after = moved(
            wanted(study, planned.copies), boards, planned.plan, move, trimmer_of(study.design, catalogue),
            planned.together,
        )  # fmt: skip
        self._before.append(planned)
        self.planned = replace(planned, plan=after)
        self.changed.emit()
        return cost_words(planned.plan, after)

    @property
    def was_moved(self) -> bool:
        """Whether something was put elsewhere by hand since the sheets were laid out."""
        return bool(self._before)

    def take_back(self) -> None:
        """Take the last move back."""
        if self._before:
            self.planned = self._before.pop()
            self.changed.emit()

    def give_up(self) -> None:
        """Take the best that is known."""
        self._stop.set()

    def stop(self) -> None:
        """Let what runs end."""
        self._stop.set()
        self._runner.stop()

    def _answered(self, answer: object) -> None:
        self.trouble = ""
        if isinstance(answer, LanternError):
            self.planned, self.trouble = None, speak(answer.sentence(), self._session.design.units)
        elif isinstance(answer, BaseException):
            raise answer
        else:
            assert isinstance(answer, Planned)
            self.planned = answer
        self.changed.emit()


def cost_words(before: Plan, after: Plan) -> str:
    """What a change of the sheets costs: sheets, and settings of the fence."""
    sheets, settings = after.count - before.count, after.settings - before.settings
    told = []
    if sheets:
        many = "a sheet" if abs(sheets) == 1 else f"{abs(sheets)} sheets"
        told.append(f"it takes {many} {'more' if sheets > 0 else 'less'}")
    if settings:
        told.append(f"the fence is set {_times(abs(settings))} {'more' if settings > 0 else 'less'}")
    words = " and ".join(told) or "it costs nothing"
    return f"{words[0].upper()}{words[1:]}."


def _times(count: int) -> str:
    return "once" if count == 1 else f"{count} times"
