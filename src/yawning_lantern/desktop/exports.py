"""What leaves the program: templates, cut list, plan; and the print preview."""

from __future__ import annotations

import json
from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject
from PySide6.QtWidgets import QFileDialog

from yawning_lantern.desktop.preview import Preview
from yawning_lantern.errors import LanternError
from yawning_lantern.exchange.files import write_atomically
from yawning_lantern.exchange.pdf import write_templates
from yawning_lantern.exchange.plan import cut_list, plan
from yawning_lantern.study import Study, sound

if TYPE_CHECKING:
    from yawning_lantern.desktop.workbench import Workbench


class Exports(QObject):
    """The exporting commands of one workbench."""

    def __init__(self, bench: Workbench) -> None:
        super().__init__(bench)
        self._bench = bench
        self.preview: Preview | None = None

    def follow(self, study: Study) -> None:
        """An open preview follows the design."""
        if self.preview is not None and self.preview.isVisible():
            self.preview.show_study(study)

    def preview_templates(self) -> None:
        """The template pages in a window of their own."""
        if self._bench.session.study is None:
            return
        if self.preview is None:
            self.preview = Preview(self._bench.session.study, self._bench.window)
        self.preview.show_study(self._bench.session.study)
        self.preview.show()
        self.preview.raise_()

    def _export(self, title: str, suffix: str, write: Callable[[Study, Path], object]) -> None:
        self._bench.form.measures.commit_typed()
        session = self._bench.session
        study = session.study
        if study is None:
            return
        if session.is_refused or study.design is not session.design:
            self._bench.complain(LanternError(
                "This design cannot be made as it stands, so nothing of it is exported.", title, session.trouble
            ))  # fmt: skip
            return
        try:
            sound(study)
        except LanternError as error:
            self._bench.complain(error)
            return
        first = f"{self._bench.session.design.name}{suffix}"
        name, _ = QFileDialog.getSaveFileName(self._bench.window, title, first, f"*{suffix}")
        if not name:
            return
        try:
            write(study, Path(name))
        except LanternError as error:
            self._bench.complain(error)
            return
        self._bench.say(f"Saved {name}")

    def export_pdf(self) -> None:
        """Templates at 1:1 on the usual paper of the units."""
        units = self._bench.session.design.units
        paper = "letter" if units == "in" else "a4"
        self._export("Export templates", ".pdf", lambda study, path: write_templates(study, path, paper, units))

    def export_csv(self) -> None:
        """The cut list."""
        units = self._bench.session.design.units
        self._export("Export the cut list", ".csv",
                     lambda study, path: write_atomically(path, cut_list(study, units).encode("utf-8")))  # fmt: skip

    def export_json(self) -> None:
        """The plan as data, with the opening if it has been found."""
        units = self._bench.session.design.units
        known = self._bench.opening.work.found
        opening = known.opening if known is not None and known.study is self._bench.session.study else None
        self._export("Export the plan", ".json", lambda study, path: write_atomically(
            path, json.dumps(plan(study, units, opening), indent=2, ensure_ascii=False).encode("utf-8")))  # fmt: skip
