"""A view in which a maker drags is painted before anyone else hears of a study, and not a second time with the rest."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QObject
from PySide6.QtWidgets import QWidget

from yawning_lantern.desktop.shared.session import Session
from yawning_lantern.study import Study


class HandFirst(QObject):
    """Has a view repaint itself at once while it is the session's hand; `refresh` is then told at `studied` whether
    the view is still to be painted."""

    def __init__(self, session: Session, view: QWidget, refresh: Callable[[bool], None]) -> None:
        super().__init__(view)
        self._session, self._view, self._refresh = session, view, refresh
        self._painted: Study | None = None
        session.handed.connect(self._handed)
        session.studied.connect(self._studied)

    def _handed(self) -> None:
        if self._session.hand is self._view:
            self._painted = self._session.study
            self._view.repaint()

    def _studied(self) -> None:
        self._refresh(self._painted is not self._session.study)
        self._painted = None
