"""The commands of the Opening menu."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject
from PySide6.QtWidgets import QFileDialog

from yawning_lantern.desktop.opening_work import Answer
from yawning_lantern.desktop.runner import Runner
from yawning_lantern.errors import LanternError
from yawning_lantern.exchange.film import write_film, write_strip
from yawning_lantern.exchange.mesh import write_pose
from yawning_lantern.study import state_at

if TYPE_CHECKING:
    from yawning_lantern.desktop.workbench import Workbench


class OpeningCommands(QObject):
    """Stepping, playing, breaking and exporting; pictures are written off the GUI thread."""

    def __init__(self, bench: Workbench) -> None:
        super().__init__(bench)
        self._bench = bench
        self.runner = Runner(self)
        self.runner.answered.connect(self._written)

    def _page(self) -> None:
        self._bench.show_page("opening")

    def page_opening(self) -> None:
        """Opening."""
        self._page()

    def step_on(self) -> None:
        """A step on."""
        self._page()
        self._bench.opening.step_on()

    def step_back(self) -> None:
        """A step back."""
        self._page()
        self._bench.opening.step_back()

    def play_opening(self) -> None:
        """Play or pause."""
        self._page()
        self._bench.opening.play_opening()

    def try_to_break(self) -> None:
        """Sweep with a margin."""
        self._page()
        self._bench.opening.work.try_to_break()

    def export_strip(self) -> None:
        """The opening as a strip of pictures."""
        units = self._bench.session.design.units
        self._export("Export the opening as a strip", ".pdf", "Pictures (*.pdf *.svg)",
                     lambda a, path: write_strip(a.study, a.opening, path, units, a.room))  # fmt: skip

    def export_film(self) -> None:
        """The opening as a film."""
        self._export("Export the opening as a film", ".gif", "Films (*.gif *.png)",
                     lambda a, path: write_film(a.study, a.opening, path))  # fmt: skip

    def export_pose(self) -> None:
        """What the view shows, as a mesh."""
        time = self._bench.opening.time
        self._export("Export this pose", ".obj", "Meshes (*.obj)",
                     lambda a, path: write_pose(a.study, state_at(a.study, a.opening, time), path))  # fmt: skip

    def _export(self, title: str, suffix: str, kinds: str, write: Callable[[Answer, Path], None]) -> None:
        answer = self._bench.opening.work.current
        if answer is None:
            self._page()
            self._bench.say("The opening is being worked out; export it when it is there.")
            return
        first = f"{self._bench.session.design.name}{suffix}"
        name, _ = QFileDialog.getSaveFileName(self._bench.window, title, first, kinds)
        if not name:
            return
        path = Path(name) if Path(name).suffix else Path(name + suffix)

        def job() -> Path:
            write(answer, path)
            return path

        self._bench.say(f"Writing {path} …")
        self.runner.submit(job)

    def _written(self, answer: object) -> None:
        if isinstance(answer, LanternError):
            self._bench.complain(answer)
        elif isinstance(answer, BaseException):
            raise answer
        else:
            self._bench.say(f"Saved {answer}")
