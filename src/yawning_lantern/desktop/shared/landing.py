"""A view on which a structure dragged from the shelf, or a thing dragged from the drawer, can be put down."""

from __future__ import annotations

from PySide6.QtCore import QPointF
from PySide6.QtGui import QDragEnterEvent, QDragLeaveEvent, QDragMoveEvent, QDropEvent
from PySide6.QtWidgets import QMenu, QWidget

from yawning_lantern.design import Place, find
from yawning_lantern.desktop.shared.putting import choice, offer_faces, put_element, put_structure, suiting_faces
from yawning_lantern.desktop.shared.session import Session
from yawning_lantern.desktop.shared.shelf import dragged_family
from yawning_lantern.desktop.shared.stocking import MIME as THING
from yawning_lantern.desktop.shared.stocking import dragged_thing, put_mat, ready_made, use_paper, use_thing
from yawning_lantern.stock import Item, Paper, ReadyMade


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
        if dragged_family(event.mimeData()) or event.mimeData().hasFormat(THING):
            event.acceptProposedAction()

    def dragMoveEvent(self, event: QDragMoveEvent) -> None:
        kind, host = dragged_family(event.mimeData()), self.host_at(event.position())
        thing = event.mimeData().hasFormat(THING)
        fine = bool(host and (thing or (kind and suiting_faces(self._session, host, kind))))
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
        thing = dragged_thing(event.mimeData())
        if thing is not None and host:
            event.acceptProposedAction()
            self._take_thing(thing, host, event.position())
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

    def _take_thing(self, thing: Item, host: str, at: QPointF) -> None:
        """Use a thing where it was put down: paper for the part, or as a mat on the face that is seen there; what is
        ready made on a face; glue and tools for the whole design."""
        session, spot = self._session, self.mapToGlobal(at.toPoint())
        if isinstance(thing, ReadyMade):
            guest = ready_made(session, thing)

            def put(face: str) -> None:
                put_element(session, host, Place(face), guest, "add")

            self.menu = offer_faces(session, host, guest.family, self, spot, put)
        elif isinstance(thing, Paper):
            seen = self.face_at(at, "mat")
            if seen is None:
                use_paper(session, thing, host)
                return
            part = find(session.design, host)
            self.menu = choice(self, spot, "What becomes of it", (
                (f"Make {part.name or part.family} of it", lambda: use_paper(session, thing, host)),
                ("Put a mat of it on this face", lambda: put_mat(session, *seen, thing)),
            ))  # fmt: skip
        else:
            use_thing(session, thing)
