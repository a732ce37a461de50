"""What leaves the program: templates, cut list, plan; and the print preview."""

from __future__ import annotations

import json
from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject
from PySide6.QtWidgets import QFileDialog, QWidget

from yawning_lantern.desktop.shared.session import Session
from yawning_lantern.desktop.shared.voice import Voice
from yawning_lantern.desktop.shell.commands import Command
from yawning_lantern.desktop.shell.writing import Writer
from yawning_lantern.errors import LanternError
from yawning_lantern.exchange.files import write_atomically
from yawning_lantern.opening import Opening
from yawning_lantern.study import Study, sound

if TYPE_CHECKING:  # pages and print are loaded when they are asked for
    from yawning_lantern.desktop.shell.preview import Preview


class Exports(QObject):
    """The exporting commands of one session. `commit` enters what is typed; `opening` gives what is known of a study's
    opening."""

    def __init__(
        self,
        window: QWidget,
        session: Session,
        voice: Voice,
        commit: Callable[[], None],
        opening: Callable[[Study], Opening | None],
        writer: Writer,
    ) -> None:
        super().__init__(window)
        self._window, self._session, self._voice = window, session, voice
        self._commit, self._opening, self._writer = commit, opening, writer
        self.preview: Preview | None = None

    def commands(self) -> tuple[Command, ...]:
        """The second half of the Design menu."""

        def is_studied() -> bool:
            return self._session.study is not None

        return (
            Command(
                "preview_templates", "&Design", "Print &preview of templates …", self.preview_templates, "Ctrl+P",
                is_studied,
            ),
            Command("export_pdf", "&Design", "&Export templates as PDF …", self.export_pdf, "Ctrl+E", is_studied),
            Command("export_csv", "&Design", "Export &cut list as CSV …", self.export_csv, "", is_studied),
            Command(
                "export_json", "&Design", "Export plan as &JSON …", self.export_json, "", is_studied, ends_group=True
            ),
        )  # fmt: skip

    def follow(self, study: Study) -> None:
        """An open preview follows the design."""
        if self.preview is not None and self.preview.isVisible():
            self.preview.show_study(study)

    def preview_templates(self) -> None:
        """The template pages in a window of their own."""
        study = self._session.study
        if study is None:
            return
        if self.preview is None:
            from yawning_lantern.desktop.shell.preview import Preview

            self.preview = Preview(study, self._window)
        self.preview.show_study(study)
        self.preview.show()
        self.preview.raise_()

    def _export(self, title: str, suffix: str, write: Callable[[Study, Path], object]) -> None:
        self._commit()
        session = self._session
        study = session.study
        if study is None:
            return
        if session.is_refused or study.design is not session.design:
            self._voice.complain(LanternError(
                "This design cannot be made as it stands, so nothing of it is exported.", title, session.trouble
            ), "")  # fmt: skip
            return
        try:
            sound(study)
        except LanternError as error:
            self._voice.complain(error, "")
            return
        first = f"{session.design.name}{suffix}"
        name, _ = QFileDialog.getSaveFileName(self._window, title, first, f"*{suffix}")
        if not name:
            return
        self._writer.write(Path(name), lambda: write(study, Path(name)))

    def export_pdf(self) -> None:
        """Templates at 1:1 on the usual paper of the units."""
        from yawning_lantern.exchange.pdf import write_templates

        units = self._session.design.units
        paper = "letter" if units == "in" else "a4"
        self._export("Export templates", ".pdf", lambda study, path: write_templates(study, path, paper, units))

    def export_csv(self) -> None:
        """The cut list."""
        from yawning_lantern.exchange.plan import cut_list

        units = self._session.design.units
        self._export("Export the cut list", ".csv",
                     lambda study, path: write_atomically(path, cut_list(study, units).encode("utf-8")))  # fmt: skip

    def export_json(self) -> None:
        """The plan as data, with the opening if it has been found."""
        from yawning_lantern.exchange.plan import plan

        units = self._session.design.units
        self._export("Export the plan", ".json", lambda study, path: write_atomically(
            path, json.dumps(plan(study, units, self._opening(study)), indent=2, ensure_ascii=False).encode("utf-8")
        ))  # fmt: skip
