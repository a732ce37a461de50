"""What is not saved yet is kept for recovery, now and then while a maker works."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import QObject, QTimer, Signal

from yawning_lantern.design import Design
from yawning_lantern.desktop.shared.runner import Runner
from yawning_lantern.errors import WriteError
from yawning_lantern.exchange.recovery import Recovery

AFTER = 700  # ms after an edit


class Keeping(QObject):
    """Keeps what `unsaved` gives: a design and where it is saved, or None where there is nothing to lose.

    By itself it does so in the worker: a slow disk does not hold up the hand. `failed`: why that could not be done.
    """

    failed = Signal(str)

    def __init__(
        self, recovery: Recovery, unsaved: Callable[[], tuple[Design, Path | None] | None], parent: QObject
    ) -> None:
        super().__init__(parent)
        self._recovery, self._unsaved = recovery, unsaved
        self._runner = Runner(self)
        self._runner.answered.connect(self._kept)
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.setInterval(AFTER)
        self._timer.timeout.connect(self._keep)

    def soon(self) -> None:
        """There is an edit: the first that is not kept yet sets the time, however many follow."""
        if not self._timer.isActive():
            self._timer.start()

    def now(self) -> bool:
        """Keep it at once; gives whether that was done."""
        unsaved = self._unsaved()
        if unsaved is None:
            self._recovery.discard()
            return True
        try:
            self._recovery.save(*unsaved)
        except WriteError as error:
            self._kept(error)
            return False
        return True

    def stop(self) -> None:
        """Keep nothing any more."""
        self._timer.stop()
        self._runner.stop()

    def _keep(self) -> None:
        unsaved = self._unsaved()
        if unsaved is None:
            self._recovery.discard()
        else:
            self._runner.submit(self._recovery.keeper(*unsaved))

    def _kept(self, answer: object) -> None:
        if isinstance(answer, WriteError):
            self.failed.emit(f"The autosave failed. {answer.sentence()}")
        elif isinstance(answer, BaseException):
            raise answer
