"""What came out otherwise: asked, and kept beside the plan as one step that can be taken back."""

from __future__ import annotations

from collections.abc import Callable

from msgspec import structs
from PySide6.QtCore import QObject
from PySide6.QtWidgets import QWidget

from yawning_lantern.bench import Walk
from yawning_lantern.design import Built, Design
from yawning_lantern.desktop.bench.wrong import WrongDialog
from yawning_lantern.desktop.shared.drawer import Drawer
from yawning_lantern.desktop.shared.session import Session
from yawning_lantern.desktop.shared.theme import Theme
from yawning_lantern.study import Study
from yawning_lantern.study.mend import Mended


class Rescue(QObject):
    """`where` tells the study and how far it is made (or nothing), `theme` the colours, `go` goes to another place."""

    def __init__(
        self, page: QWidget, session: Session, where: Callable[[], tuple[Study, Walk] | None],
        theme: Callable[[], Theme], go: Callable[[Walk], object], drawer: Drawer,
    ) -> None:  # fmt: skip
        super().__init__(page)
        self._page, self._session, self._where, self._theme, self._go = page, session, where, theme, go
        self._drawer = drawer
        self.dialog: WrongDialog | None = None

    def open(self) -> None:
        """Ask what went wrong, and tell what helps."""
        here = self._where()
        if here is None:
            return
        self.dialog = WrongDialog(*here, self._theme(), self._take, self._drawer.off_cuts(), self._page)
        self.dialog.show()

    def _take(self, design: Design | None, built: Built, answer: Mended) -> None:
        """Go on with what came out, or make one piece anew."""
        here = self._where()
        if answer.way == "redo" and here is not None:
            walk = here[1]
            again = frozenset(step.id for step in walk.plan.steps if step.piece == answer.piece)
            first = min((walk.plan.at[one] for one in again), default=walk.at)
            self._go(Walk(walk.plan, first, done=walk.done - again))
        now = design if design is not None else self._session.design
        self._session.edit(structs.replace(now, built=(*now.built, built)), "what came out otherwise")
