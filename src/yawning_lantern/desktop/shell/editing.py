"""The Edit menu: steps back and on, and what is done to the chosen part."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

from msgspec.structs import replace
from PySide6.QtCore import QObject, QPoint
from PySide6.QtWidgets import QInputDialog, QMenu

from yawning_lantern.design import Element, Lay, Place, parent_of, replace_element, set_lay
from yawning_lantern.desktop.form.page import FormPage
from yawning_lantern.desktop.shared.putting import offer_faces, put_element, suiting_faces
from yawning_lantern.desktop.shared.session import Session
from yawning_lantern.desktop.shared.voice import Voice
from yawning_lantern.desktop.shell import clipboard
from yawning_lantern.desktop.shell.commands import Command
from yawning_lantern.errors import LanternError
from yawning_lantern.stock import Item, Paper
from yawning_lantern.structures import copied, family, new_guest
from yawning_lantern.study.all_walls import Which, on_all_walls, wall_faces

if TYPE_CHECKING:
    from yawning_lantern.flatfold.draft import Draft

    FoldOn = Callable[[Draft, Paper, Callable[[dict[str, str | float]], object]], None]


class Editing(QObject):
    """Edits of one session. What is typed and not entered yet is entered first. `fold_on` opens the desk for a sheet of
    one's own."""

    def __init__(self, session: Session, form: FormPage, voice: Voice, fold_on: FoldOn) -> None:
        super().__init__(form)
        self._session, self._form, self._voice, self._fold_on = session, form, voice, fold_on
        self.faces: QMenu | None = None

    def commands(self) -> tuple[Command, ...]:
        """The Edit menu."""
        s = self._session
        return (
            Command("undo", "&Edit", "&Undo", s.undo, "Ctrl+Z", lambda: bool(s.history.undo_words)),
            Command(
                "redo", "&Edit", "&Redo", s.redo, "Ctrl+Shift+Z", lambda: bool(s.history.redo_words), ends_group=True
            ),
            Command("cut_part", "&Edit", "Cu&t part", self.cut, "Ctrl+X", self._is_guest),
            Command("copy_part", "&Edit", "&Copy part", self.copy, "Ctrl+C", self._is_open),
            Command(
                "paste_part", "&Edit", "&Paste on it", self.paste, "Ctrl+V", self._has_study,
                about="Put the part that was cut or copied, here or in another window, on the chosen one",
            ),
            Command(
                "duplicate_part", "&Edit", "&Duplicate part", self.duplicate, "Ctrl+Shift+D", self._is_guest,
                ends_group=True, about="Once more on a face of the same part that is free, or beside it",
            ),
            Command("rename_part", "&Edit", "Re&name part …", self.rename, "F2", self._is_open),
            Command("turn_part", "&Edit", "Turn part a &quarter", self.turn, "Ctrl+T", self._is_guest),
            Command(
                "turn_on_sheet", "&Edit", "Turn the piece on its s&heet", self.turn_on_sheet, "Ctrl+Shift+T",
                self._has_study, about="The pattern of the piece that lies flat runs a quarter turn further",
            ),
            Command(
                "other_face", "&Edit", "The other &face of its paper out", self.turn_over, "Ctrl+Shift+F",
                self._has_study, ends_group=True,
                about="The paper's back becomes the front of the piece in the flat view",
            ),
            Command(
                "fold_anew", "&Edit", "Fold it ane&w …", self.fold_anew, "", self._is_own,
                about="Mark out the chosen grid sheet and fold it act by act",
            ),
            Command(
                "put_part", "&Edit", "Put a &structure on it …", self._form.begin_putting, "Ctrl+K", self._has_study,
                about="Go to the structures: arrows choose one, Enter puts it on the chosen part",
            ),
            Command(
                "mat_outside", "&Edit", "Mats on all walls, outs&ide", lambda: self.mat_walls("walls-outside"), "",
                lambda: self._walls("walls-outside"), about="One on every wall of the chosen part that is free outside",
            ),
            Command(
                "mat_inside", "&Edit", "Mats on all wa&lls, inside", lambda: self.mat_walls("walls-inside"), "",
                lambda: self._walls("walls-inside"), ends_group=True,
                about="One on every wall of the chosen part that is free inside",
            ),
            Command(
                "remove_part", "&Edit", "Take &off part", self._form.remove_selected, "Ctrl+Delete", self._is_guest
            ),
        )  # fmt: skip

    def _is_open(self) -> bool:
        return self._session.is_open

    def _has_study(self) -> bool:
        return self._session.study is not None

    def _is_guest(self) -> bool:
        return self._session.is_open and self._session.selection != self._session.design.root.id

    def _is_own(self) -> bool:
        return self._has_study() and self._session.selected_element().family == "grid-sheet"

    def fold_anew(self) -> None:
        """The chosen grid sheet on the desk; what comes of it takes its place."""
        from yawning_lantern.desktop.idea.own_sheet import OWN_SETTINGS, draft_of_part

        study, element = self._session.study, self._session.selected_element()
        if study is None or element.id not in study.resolved:
            return
        r = study.resolved[element.id]

        def take(told: dict[str, str | float]) -> None:
            settings = {k: v for k, v in element.settings.items() if k not in OWN_SETTINGS} | told
            design = replace_element(self._session.design, element.id, lambda e: replace(e, settings=settings))
            self._session.edit(design, "fold anew")

        self._fold_on(draft_of_part(r), r.part.pieces[0].stock, take)

    def _walls(self, which: Which) -> bool:
        study = self._session.study
        element = self._session.selection
        return study is not None and element in study.resolved and bool(wall_faces(study, element, which))

    def mat_walls(self, which: Which) -> None:
        """A mat on every wall of the chosen part that is free on that side: one step."""
        study, element = self._session.study, self._session.selection
        if study is not None and self._walls(which):
            mat = new_guest(study.design, family("mat"))
            self._session.edit(on_all_walls(study, element, which, mat), "mats on all walls")

    def copy(self) -> None:
        """The chosen part onto the clipboard."""
        self._form.measures.commit_typed()
        element = self._session.selected_element()
        clipboard.keep(self._session.design, element)
        self._voice.say(f"{element.name or element.family} is on the clipboard.")

    def cut(self) -> None:
        """The chosen part onto the clipboard, and off its host."""
        if self._is_guest():
            self.copy()
            self._form.remove_selected()

    def paste(self) -> None:
        """What is on the clipboard onto a face of the chosen part."""
        self._form.measures.commit_typed()
        try:
            kept = clipboard.kept()
        except LanternError as error:
            self._voice.complain(error, "Nothing was put on.")
            return
        if kept is None:
            self._voice.say("No part is on the clipboard. Choose one in the nest and copy it first.")
            return
        host, part = self._session.selection, kept.root
        at = self._form.nest.mapToGlobal(QPoint(40, 40))

        def put(face: str) -> None:
            self._put(host, Place(face), part, "paste", *kept.papers)

        self.faces = offer_faces(self._session, host, part.family, self._form, at, put)

    def _put(self, host: str, place: Place, element: Element, word: str, *items: Item) -> None:
        put_element(self._session, host, place, copied(self._session.design, element), word, *items)

    def duplicate(self) -> None:
        """The chosen part once more on its host: on a free face that suits, else on the same."""
        self._form.measures.commit_typed()
        element = self._session.selected_element()
        host = parent_of(self._session.design, element.id)
        if host is None or element.place is None:
            return
        taken = {guest.place.face for guest in host.guests if guest.place}
        free = [face for face, _ in suiting_faces(self._session, host.id, element.family) if face not in taken]
        place = replace(element.place, face=free[0]) if free else element.place
        self._put(host.id, place, element, "duplicate")

    def rename(self) -> None:
        """Give the chosen part a name of the maker's own."""
        element = self._session.selected_element()
        name, done = QInputDialog.getText(self._form, "Name of the part", "Name", text=element.name)
        if done and name.strip():
            design = replace_element(self._session.design, element.id, lambda e: replace(e, name=name.strip()[:60]))
            self._session.edit(design, "rename")

    def turn(self) -> None:
        """Turn the chosen part a quarter on its face."""
        element = self._session.selected_element()
        if element.place is not None:
            place = replace(element.place, turn=(element.place.turn + 1) % 4)
            design = replace_element(self._session.design, element.id, lambda e: replace(e, place=place))
            self._session.edit(design, "turn a quarter")

    def turn_on_sheet(self) -> None:
        """The piece in the flat view a quarter further on its sheet."""
        self._lay("turn the piece on its sheet", lambda lay: Lay((lay.turn + 1) % 4, lay.over))

    def turn_over(self) -> None:
        """The piece in the flat view with the other face of its paper for its front."""
        self._lay("turn the paper over", lambda lay: Lay(lay.turn, not lay.over))

    def _lay(self, words: str, change: Callable[[Lay], Lay]) -> None:
        piece, r = self._form.flat.piece(), self._form.flat.resolved()
        if piece is None or r is None or piece.bought:
            return
        key = piece.id.removeprefix(f"{r.element.id}.")
        lay = change(r.element.lays.get(key, Lay()))
        self._session.edit(set_lay(self._session.design, r.element.id, key, lay), words)
