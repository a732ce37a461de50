"""A view on which a structure dragged from the shelf can be put down."""

from __future__ import annotations

from PySide6.QtCore import QPointF
from PySide6.QtGui import QDragEnterEvent, QDragLeaveEvent, QDragMoveEvent, QDropEvent
from PySide6.QtWidgets import QMenu, QWidget

from yawning_lantern.desktop.shared.putting import offer_faces, put_structure, suiting_faces
from yawning_lantern.desktop.shared.session import Session
from yawning_lantern.desktop.shared.shelf import dragged_family


class Landing(QWidget):
    """Takes structures: marks what is under the pointer while it could carry one, and puts it there.

    A view tells what is where (`host_at`, and `face_at` where one face is seen) and how it is marked (`mark`).
    """

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setAcceptDrops(True)
        self._session = session
        self.menu: QMenu | None = None

    def host_at(self, at: QPointF) -> str | None:
        """The part at a pixel."""
        raise NotImplementedError  # every view says

    def mark(self, at: QPointF | None) -> None:
        """Mark what is at a pixel as the place to land, or nothing."""
        raise NotImplementedError  # every view says

    def face_at(self, at: QPointF, family_id: str) -> tuple[str, str] | None:
        """The part at a pixel and the one face of it that is seen there, if there is one that suits."""
        return None

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        if dragged_family(event.mimeData()):
            event.acceptProposedAction()

    def dragMoveEvent(self, event: QDragMoveEvent) -> None:
        kind, host = dragged_family(event.mimeData()), self.host_at(event.position())
        fine = bool(kind and host and suiting_faces(self._session, host, kind))
        self.mark(event.position() if fine else None)
        self.update()
        event.setAccepted(fine)

    def dragLeaveEvent(self, event: QDragLeaveEvent) -> None:
        self.mark(None)
        self.update()

    def dropEvent(self, event: QDropEvent) -> None:
        kind, host = dragged_family(event.mimeData()), self.host_at(event.position())
        self.mark(None)
        self.update()
        if not kind or not host:
            return
        event.acceptProposedAction()
        seen = self.face_at(event.position(), kind)
        if seen is not None:
            put_structure(self._session, *seen, kind)
            return
        at = self.mapToGlobal(event.position().toPoint())
        self.menu = offer_faces(
            self._session, host, kind, self, at, lambda face: put_structure(self._session, host, face, kind)
        )
