"""Files written off the GUI thread, one after the other; none is dropped."""

from __future__ import annotations

from collections.abc import Callable
from contextlib import suppress
from pathlib import Path

from PySide6.QtCore import QObject

from yawning_lantern.desktop.shared.runner import Runner
from yawning_lantern.desktop.shared.voice import Voice
from yawning_lantern.errors import LanternError


class Writer(QObject):
    """Says what it writes, and what came of it."""

    def __init__(self, voice: Voice, parent: QObject) -> None:
        super().__init__(parent)
        self._voice = voice
        self._waiting: list[tuple[Path, Callable[[], object]]] = []
        self._runner = Runner(self)
        self._runner.answered.connect(self._written)

    @property
    def is_idle(self) -> bool:
        """Whether everything is written."""
        return not self._waiting and not self._runner.is_busy

    def write(self, path: Path, job: Callable[[], object]) -> None:
        """Do a job that writes a file, after those that wait."""
        self._waiting.append((path, job))
        self._next()

    def finish(self) -> None:
        """The window goes: write what waits before it does. What fails now can be told nobody."""
        self._runner.stop()
        for _, job in self._waiting:
            with suppress(LanternError):
                job()
        self._waiting.clear()

    def _next(self) -> None:
        if not self._waiting or self._runner.is_busy:
            return
        path, job = self._waiting.pop(0)
        self._voice.say(f"Writing {path} …")

        def work() -> Path:
            job()
            return path

        self._runner.submit(work)

    def _written(self, answer: object) -> None:
        if isinstance(answer, LanternError):
            self._voice.complain(answer, "")
        elif isinstance(answer, BaseException):
            raise answer
        else:
            self._voice.say(f"Saved {answer}")
        self._next()
