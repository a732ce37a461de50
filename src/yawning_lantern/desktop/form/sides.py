"""Which side of each panel shows, worked out off the GUI thread for the chosen part, while the maker asks for it."""

from __future__ import annotations

from PySide6.QtCore import QObject, Signal

from yawning_lantern.desktop.shared.runner import Runner
from yawning_lantern.desktop.shared.session import Session
from yawning_lantern.fold import PanelSeen
from yawning_lantern.pattern import Piece
from yawning_lantern.study import Study


class Sides(QObject):
    """`changed`: something else is known now, or is asked for."""

    changed = Signal()

    def __init__(self, session: Session, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._session = session
        self._asked = False
        self._seen: tuple[Study, str, dict[str, PanelSeen]] | None = None
        self._runner = Runner(self)
        self._runner.answered.connect(self._looked)

    @property
    def is_idle(self) -> bool:
        """Whether all that is asked for is known."""
        return not self._runner.is_busy

    def stop(self) -> None:
        """Let what runs end."""
        self._runner.stop()

    def ask(self, on: bool) -> None:
        """Ask for it, or no longer."""
        self._asked = on
        self.changed.emit()

    def look(self) -> None:
        """See that it is worked out for the chosen part as it is now."""
        study, element = self._session.study, self._session.selection
        if not self._asked or study is None or element not in study.resolved:
            return
        if self._seen is not None and self._seen[0] is study and self._seen[1] == element:
            return

        def work() -> tuple[Study, str, dict[str, PanelSeen]]:
            nodes = study.assembly.nodes
            found: dict[str, PanelSeen] = {}
            for seen in study.seen(element):
                found.setdefault(f"{nodes[seen.node].piece.id}/{nodes[seen.node].panel.name}", seen)
            return study, element, found

        self._runner.submit(work)

    def _looked(self, answer: object) -> None:
        if isinstance(answer, BaseException):
            raise answer
        assert isinstance(answer, tuple)
        self._seen = answer
        self.changed.emit()

    def of(self, piece: Piece) -> dict[str, PanelSeen]:
        """What is known of a piece's panels, by panel; nothing while it is not asked for or out of date."""
        if not self._asked or self._seen is None or self._seen[0] is not self._session.study:
            return {}
        return {p.name: s for p in piece.panels if (s := self._seen[2].get(f"{piece.id}/{p.name}")) is not None}
