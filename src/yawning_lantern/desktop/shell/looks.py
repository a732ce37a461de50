"""The View menu: commands that change only what is seen."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

from msgspec.structs import replace
from PySide6.QtCore import QObject

from yawning_lantern.desktop.form.page import FormPage
from yawning_lantern.desktop.shared.session import Session
from yawning_lantern.desktop.shell.commands import Command
from yawning_lantern.desktop.shell.late import LatePage
from yawning_lantern.desktop.shell.program import Program
from yawning_lantern.measure import Units

if TYPE_CHECKING:
    from yawning_lantern.desktop.idea.page import IdeaPage

STEP = 0.1


class Looks(QObject):
    """Units, colours, text size, and the place between flat and open, of one window."""

    def __init__(self, program: Program, session: Session, idea: LatePage[IdeaPage], form: FormPage) -> None:
        super().__init__(form)
        self._program, self._session, self._idea, self._form = program, session, idea, form

    def commands(self) -> tuple[Command, ...]:
        """The View menu."""
        session, form, program = self._session, self._form, self._program

        def is_studied() -> bool:
            return session.study is not None

        def to(position: float) -> Callable[[], None]:
            return lambda: session.move_to(position)

        def by(step: float) -> Callable[[], None]:
            return lambda: session.move_to(session.position + step)

        return (
            Command("show_flat", "&View", "&Flat", to(-1.0), "Ctrl+1", is_studied),
            Command("show_shut", "&View", "&Shut", to(0.0), "Ctrl+2", is_studied),
            Command("show_open", "&View", "&Open", to(1.0), "Ctrl+3", is_studied),
            Command("less_open", "&View", "A little towards flat", by(-STEP), "Ctrl+Left", is_studied),
            Command("more_open", "&View", "A little towards open", by(STEP), "Ctrl+Right", is_studied),
            Command("fit_views", "&View", "F&it the pictures", self.fit_views, "Ctrl+0", is_studied),
            Command(
                "one_view", "&View", "One &view large", form.enlarge, "F11", is_studied, lambda: form.is_enlarged,
                ends_group=True, about="The view that has the keys fills the page; again, and all are back",
            ),
            Command(
                "mark_sides", "&View", "Which si&de shows", form.sides.toggle, "Ctrl+U", is_studied,
                form.sides.isChecked, about="On the flat panels: which side shows, and which way is up",
            ),
            Command(
                "toggle_units", "&View", "&Millimetres", self.toggle_units, "Ctrl+M", checked=lambda: self.is_metric
            ),
            Command(
                "toggle_dark", "&View", "Dar&k", lambda: program.be_dark(not program.theme.dark), "Ctrl+D",
                checked=lambda: program.theme.dark,
            ),
            Command(
                "toggle_patterns", "&View", "&Patterns of papers",
                lambda: program.show_patterns(not program.theme.patterned), "Ctrl+Shift+P",
                checked=lambda: program.theme.patterned, about="Paint what is printed on the papers, or plain colours",
            ),
            Command("larger_text", "&View", "&Larger text", lambda: program.resize_text(1.0), "Ctrl+="),
            Command("smaller_text", "&View", "Smalle&r text", lambda: program.resize_text(-1.0), "Ctrl+-"),
        )  # fmt: skip

    @property
    def is_metric(self) -> bool:
        """Whether lengths are shown in millimetres."""
        if self._session.is_open:
            return self._session.design.units == "mm"
        return bool(self._program.settings.value("units", "in") == "mm")

    def fit_views(self) -> None:
        """Pictures as they were at first."""
        self._form.standing.fit()
        self._form.cutaway.fit()

    def toggle_units(self) -> None:
        """Inches or millimetres everywhere: in the open design and for new ones."""
        units: Units = "in" if self.is_metric else "mm"
        self._program.settings.setValue("units", units)
        if self._idea.known is not None:
            self._idea.known.set_units(units)
        session = self._session
        if session.is_open:
            session.edit(replace(session.design, units=units), "change units")
