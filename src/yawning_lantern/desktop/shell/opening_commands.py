"""The Opening menu: stepping, playing, breaking, and what is exported of an opening."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject
from PySide6.QtWidgets import QFileDialog, QWidget

from yawning_lantern.desktop.opening.work import Answer
from yawning_lantern.desktop.shared.session import Session
from yawning_lantern.desktop.shared.voice import Voice
from yawning_lantern.desktop.shell.commands import Command
from yawning_lantern.desktop.shell.late import LatePage
from yawning_lantern.desktop.shell.writing import Writer
from yawning_lantern.study import state_at

if TYPE_CHECKING:  # the page is imported when it is first shown
    from yawning_lantern.desktop.opening.page import OpeningPage


class OpeningCommands(QObject):
    """Commands of the Opening page; `show` goes there."""

    def __init__(
        self,
        window: QWidget,
        session: Session,
        page: LatePage[OpeningPage],
        show: Callable[[], None],
        voice: Voice,
        writer: Writer,
    ) -> None:
        super().__init__(window)
        self._session, self._late, self._show, self._voice, self._writer = session, page, show, voice, writer

    @property
    def _page(self) -> OpeningPage:
        return self._late()

    def commands(self) -> tuple[Command, ...]:
        """The Opening menu."""

        def is_studied() -> bool:
            return self._session.study is not None

        def there(deed: Callable[[OpeningPage], object]) -> Callable[[], None]:
            def do() -> None:
                self._show()
                deed(self._page)

            return do

        return (
            Command("step_on", "&Opening", "Step &on", there(lambda page: page.step_on()), "Alt+Right", is_studied),
            Command(
                "step_back", "&Opening", "Step &back", there(lambda page: page.step_back()), "Alt+Left", is_studied
            ),
            Command(
                "play_opening",
                "&Opening",
                "&Play or pause",
                there(lambda page: page.play_opening()),
                "Ctrl+Space",
                is_studied,
            ),
            Command(
                "try_to_break",
                "&Opening",
                "&Try to break it",
                there(lambda page: page.work.try_to_break()),
                "Ctrl+B",
                is_studied,
                ends_group=True,
                about="Sweep again with a margin around every sheet",
            ),
            Command(
                "export_strip",
                "&Opening",
                "Export the opening as a &strip of pictures …",
                self.export_strip,
                "",
                is_studied,
            ),
            Command("export_film", "&Opening", "Export the opening as a &film …", self.export_film, "", is_studied),
            Command("export_pose", "&Opening", "&Export this pose as OBJ …", self.export_pose, "", is_studied),
        )

    def export_strip(self) -> None:
        """The opening as a strip of pictures."""
        from yawning_lantern.exchange.film import write_strip

        units = self._session.design.units
        self._export(
            "Export the opening as a strip",
            ".pdf",
            "Pictures (*.pdf *.svg)",
            lambda a, path: write_strip(a.study, a.opening, path, units, a.room),
        )

    def export_film(self) -> None:
        """The opening as a film."""
        from yawning_lantern.exchange.film import write_film

        self._export(
            "Export the opening as a film",
            ".gif",
            "Films (*.gif *.png)",
            lambda a, path: write_film(a.study, a.opening, path),
        )

    def export_pose(self) -> None:
        """What the view shows, as a mesh."""
        from yawning_lantern.exchange.mesh import write_pose

        time = self._page.time
        self._export(
            "Export this pose",
            ".obj",
            "Meshes (*.obj)",
            lambda a, path: write_pose(a.study, state_at(a.study, a.opening, time), path),
        )

    def _export(self, title: str, suffix: str, kinds: str, write: Callable[[Answer, Path], object]) -> None:
        answer = self._page.work.current
        if answer is None:
            self._show()
            self._voice.say("The opening is being worked out; export it when it is there.")
            return
        first = f"{self._session.design.name}{suffix}"
        name, _ = QFileDialog.getSaveFileName(self._page, title, first, kinds)
        if not name:
            return
        path = Path(name) if Path(name).suffix else Path(name + suffix)
        self._writer.write(path, lambda: write(answer, path))
