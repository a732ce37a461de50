"""What the design asks of the drawer, worked out off the GUI thread: warnings, and how many sheets of each stock."""

from __future__ import annotations

from msgspec import Struct
from PySide6.QtCore import QObject, Signal

from yawning_lantern.desktop.shared.runner import Runner
from yawning_lantern.desktop.shared.session import Session
from yawning_lantern.errors import LanternError
from yawning_lantern.sheets import Effort, plan_sheets
from yawning_lantern.study import Study
from yawning_lantern.study.stock_warnings import stock_warnings
from yawning_lantern.study.wanted import boards_of, trimmer_of, wanted
from yawning_lantern.study.warning import StockWarning

ROUGH = Effort(moves=0, seconds=1.0, proof=0.0)


class Asked(Struct, frozen=True):
    """What a study asks: its warnings, and how many sheets of each stock it takes at the most, as far as they can be
    cut at all."""

    study: Study
    warnings: tuple[StockWarning, ...]
    sheets: dict[str, int]


class StockWork(QObject):
    """`changed`: something else is known."""

    changed = Signal()

    def __init__(self, session: Session, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._session = session
        self._runner = Runner(self)
        self._runner.answered.connect(self._answered)
        self._known: Asked | None = None
        self._asked: Study | None = None

    @property
    def is_idle(self) -> bool:
        """Whether nothing is being worked out."""
        return not self._runner.is_busy

    @property
    def current(self) -> Asked | None:
        """What the design as it is now asks, if that is known."""
        return self._known if self._known is not None and self._known.study is self._session.study else None

    def look(self) -> None:
        """See that it is known or being worked out."""
        study = self._session.study
        if study is None or study is self._asked:
            return
        self._asked = study
        self._runner.submit(lambda: Asked(study, stock_warnings(study), _sheets(study)))
        self.changed.emit()

    def stop(self) -> None:
        """Let what runs end."""
        self._runner.stop()

    def _answered(self, answer: object) -> None:
        if isinstance(answer, BaseException):
            raise answer
        assert isinstance(answer, Asked)
        self._known = answer
        self.changed.emit()


def _sheets(study: Study) -> dict[str, int]:
    """Whole sheets by stock, as a first look finds them; a stock whose pieces are larger than its sheet is left out."""
    counts: dict[str, int] = {}
    trimmer = trimmer_of(study.design, study.catalogue)
    pieces, boards = wanted(study), boards_of(study)
    for board in boards:
        try:
            plan = plan_sheets(tuple(p for p in pieces if p.stock == board.stock), (board,), trimmer, ROUGH)
        except LanternError:
            continue
        counts[board.stock] = plan.count
    return counts
