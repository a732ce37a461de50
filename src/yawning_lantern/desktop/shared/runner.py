"""Studies made off the GUI thread. Only the newest design is worth an answer; stale ones are dropped."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from PySide6.QtCore import QObject, QRunnable, QThreadPool, Signal


class _Told(QObject):
    done = Signal(int, object)


class _Job(QRunnable):
    def __init__(self, generation: int, work: Callable[[], Any], told: _Told) -> None:
        super().__init__()
        self._generation, self._work, self._told = generation, work, told

    def run(self) -> None:
        try:
            answer: Any = self._work()
        except Exception as error:  # carried to the GUI thread, where it is told or raised
            answer = error
        self._told.done.emit(self._generation, answer)


class Runner(QObject):
    """Runs one piece of work at a time; while it runs only the newest that was asked for waits.

    `answered` carries what the work gave (or the exception it raised) and is not sent for stale work.
    """

    answered = Signal(object)

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._pool = QThreadPool.globalInstance()  # shared: every thread costs memory
        self._told = _Told(self)
        self._told.done.connect(self._finished)
        self._generation = 0
        self._busy = False
        self._waiting: Callable[[], Any] | None = None

    @property
    def is_busy(self) -> bool:
        """Whether an answer is still to come."""
        return self._busy

    def submit(self, work: Callable[[], Any]) -> None:
        """Ask for work; what was asked for before becomes stale."""
        self._generation += 1
        if self._busy:
            self._waiting = work
        else:
            self._start(work)

    def _start(self, work: Callable[[], Any]) -> None:
        self._busy = True
        self._pool.start(_Job(self._generation, work, self._told))

    def _finished(self, generation: int, answer: object) -> None:
        self._busy = False
        if self._waiting is not None:
            work, self._waiting = self._waiting, None
            self._start(work)
        if generation == self._generation:
            self.answered.emit(answer)

    def stop(self) -> None:
        """Forget what waits, drop what still comes, and wait for what runs."""
        self._waiting = None
        self._generation += 1
        self._pool.waitForDone()
