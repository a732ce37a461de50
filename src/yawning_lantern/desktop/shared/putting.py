"""Putting a structure on a face: which faces suit, and the one edit that does it."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from functools import partial

from PySide6.QtCore import QPoint
from PySide6.QtGui import QAction
from PySide6.QtWidgets import QMenu, QWidget

from yawning_lantern.assembly import sits_on
from yawning_lantern.design import Element, Place, add_guest, carry
from yawning_lantern.desktop.shared.session import Session
from yawning_lantern.stock import Item
from yawning_lantern.structures import family, new_guest


def suiting_faces(session: Session, host: str, family_id: str) -> list[tuple[str, str]]:
    """Faces of a part that can carry a structure, (id, words), those that carry nothing yet first."""
    study = session.study
    if study is None or host not in study.resolved:
        return []
    r = study.resolved[host]
    relation = family(family_id).relation
    taken = {g.place.face for g in r.element.guests if g.place}
    faces = [(f, w) for f, w in r.family.faces if f in r.rooms and sits_on(relation, r.rooms[f].relation)]
    return sorted(faces, key=lambda face: face[0] in taken)


def put_structure(session: Session, host: str, face: str, family_id: str) -> None:
    """Put a new structure on a face, and choose it: one step."""
    put_element(session, host, Place(face), new_guest(session.design, family(family_id)), "add")


def put_element(session: Session, host: str, place: Place, guest: Element, word: str, *items: Item) -> None:
    """Put an element at a place of a part, with copies of what it needs of stock, and choose it: one step, which is
    called by the `word` and its name."""
    session.edit(add_guest(carry(session.design, *items), host, guest, place), f"{word} {guest.name.lower()}")
    session.select(guest.id)


def offer_faces(
    session: Session, host: str, family_id: str, parent: QWidget, at: QPoint, then: Callable[[str], None]
) -> QMenu | None:
    """Put a structure on the one face that suits, or let the maker choose among several in a menu at a screen point."""
    faces = suiting_faces(session, host, family_id)
    if not faces:
        name = session.study.resolved[host].final.name if session.study is not None else host
        session.tell(f"{name} has no face for a {family(family_id).name.lower()}. Choose another part.")
        return None
    if len(faces) == 1:
        then(faces[0][0])
        return None
    words = tuple((text[0].upper() + text[1:], partial(then, face)) for face, text in faces)
    return choice(parent, at, "Faces", words)


def choice(parent: QWidget, at: QPoint, name: str, ways: Sequence[tuple[str, Callable[[], None]]]) -> QMenu:
    """A menu at a screen point: words, and what each of them does."""
    menu = QMenu(parent)
    menu.setAccessibleName(name)
    for words, do in ways:
        action = QAction(words, menu)
        action.triggered.connect(lambda _=False, do=do: do())
        menu.addAction(action)
    menu.setActiveAction(menu.actions()[0])
    menu.popup(at)
    return menu
