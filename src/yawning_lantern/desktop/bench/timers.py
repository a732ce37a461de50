"""Timers for glue: they run while the window is there, ring once, and are kept with where one is."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from PySide6.QtCore import QElapsedTimer, QObject, QTimer, Signal

BEAT = 500  # ms


@dataclass
class Timer:
    """What sets, and how many seconds are left."""

    step: str
    words: str
    left: float
    rung: bool = False

    @property
    def told(self) -> str:
        """Minutes and seconds."""
        seconds = max(0, round(self.left))
        return f"{seconds // 60}:{seconds % 60:02}"


class Timers(QObject):
    """`beat`: they have gone on. `rang`: one is up, with its words."""

    beat = Signal()
    rang = Signal(str)

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.all: list[Timer] = []
        self._clock = QElapsedTimer()
        self._tick = QTimer(self)
        self._tick.setInterval(BEAT)
        self._tick.timeout.connect(self.go_on)

    @property
    def is_running(self) -> bool:
        """Whether they go on."""
        return self._tick.isActive()

    def start(self, step: str, words: str, minutes: float) -> None:
        """One more; that of the same step begins anew."""
        self.all = [one for one in self.all if one.step != step]
        self.all.append(Timer(step, words, minutes * 60))
        self.resume()

    def drop(self, step: str) -> None:
        """The step was taken back."""
        self.all = [one for one in self.all if one.step != step]
        self.beat.emit()

    def resume(self) -> None:
        """Go on, if there is one to go on with."""
        if any(not one.rung for one in self.all) and not self._tick.isActive():
            self._clock.start()
            self._tick.start()
        self.beat.emit()

    def pause(self) -> None:
        """The window is away: time stands still."""
        if self._tick.isActive():
            self.go_on()
            self._tick.stop()

    def go_on(self) -> None:
        """Let the time pass that has."""
        self.pass_time(self._clock.restart() / 1000)

    def pass_time(self, seconds: float) -> None:
        """Let so many seconds pass."""
        for one in self.all:
            if one.rung:
                continue
            one.left -= seconds
            if one.left <= 0:
                one.rung = True
                self.rang.emit(one.words)
        if all(one.rung for one in self.all):
            self._tick.stop()
        self.beat.emit()

    def record(self) -> list[list[object]]:
        """What is kept."""
        return [[one.step, one.words, round(one.left, 1)] for one in self.all if not one.rung]

    def restore(self, kept: Iterable[object]) -> None:
        """As they were kept; what cannot be read is passed over."""
        self.all = []
        for one in kept:
            if isinstance(one, list) and len(one) == 3 and isinstance(one[2], int | float):
                self.all.append(Timer(str(one[0]), str(one[1]), float(one[2])))
        self.resume()
