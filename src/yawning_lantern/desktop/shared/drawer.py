"""The maker's drawer as a window sees it: opened when first wanted, its changes told, the last of them taken back."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from msgspec import Struct
from PySide6.QtCore import QObject, Signal

from yawning_lantern.errors import LanternError
from yawning_lantern.stock import Catalogue, Item, builtin_catalogue
from yawning_lantern.workshop import OffCut, Workshop

KEPT = 50
"""So many changes can be taken back."""


class Change(Struct, frozen=True):
    """Something that was done to the drawer, in words, and what takes it back."""

    words: str
    back: Callable[[Workshop], object]


class Drawer(QObject):
    """`changed`: something else is in it. `troubled`: it cannot be used, in words, or it can again (nothing)."""

    changed = Signal()
    troubled = Signal(str)

    def __init__(self, path: Path, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.path = path
        self._workshop: Workshop | None = None
        self._changes: list[Change] = []
        self._known: Catalogue | None = None

    def workshop(self) -> Workshop | None:
        """The drawer itself; None where it cannot be used, which is told."""
        if self._workshop is None:
            try:
                self._workshop = Workshop(self.path)
            except LanternError as error:
                self.troubled.emit(error.sentence())
        return self._workshop

    def catalogue(self) -> Catalogue:
        """Everything in it; what ships with the program where there is none yet, or it cannot be used."""
        if self._known is None:
            if not self.path.exists():
                return builtin_catalogue()
            workshop = self.workshop()
            try:
                self._known = workshop.catalogue() if workshop is not None else builtin_catalogue()
            except LanternError as error:
                self.troubled.emit(error.sentence())
                self._known = builtin_catalogue()
        return self._known

    def counts(self) -> dict[str, int]:
        """How many sheets there are, by stock, where they were counted."""
        workshop = self.workshop() if self.path.exists() else self._workshop
        return workshop.counts() if workshop is not None else {}

    def off_cuts(self) -> tuple[OffCut, ...]:
        """Every off-cut."""
        workshop = self.workshop() if self.path.exists() else self._workshop
        return workshop.off_cuts() if workshop is not None else ()

    def do(self, words: str, deed: Callable[[Workshop], object], back: Callable[[Workshop], object]) -> bool:
        """Change the drawer. Gives whether it was done; what is wrong is told."""
        workshop = self.workshop()
        if workshop is None:
            return False
        try:
            deed(workshop)
        except LanternError as error:
            self.troubled.emit(error.sentence())
            return False
        self._changes = [*self._changes, Change(words, back)][-KEPT:]
        self.look_again()
        return True

    def put(self, item: Item, words: str) -> bool:
        """Put a thing in, or another in its place."""
        before = next((i for i in self.catalogue().items if type(i) is type(item) and i.id == item.id), None)
        if before == item:
            return True

        def back(workshop: Workshop) -> None:
            workshop.remove(item) if before is None else workshop.put(before)

        return self.do(words, lambda workshop: workshop.put(item), back)

    def remove(self, item: Item) -> bool:
        """Take a thing out, with what was counted and kept of it."""
        counts = {stock: n for stock, n in self.counts().items() if stock == item.id}
        kept = [(o.stock, o.name, o.width, o.height) for o in self.off_cuts() if o.stock == item.id]
        return self.do(f"remove {item.name}", lambda w: w.remove(item), lambda w: w.fill(counts, kept, (item,)))

    def count(self, item: Item, sheets: int) -> bool:
        """Say how many there are of a thing."""
        before = self.counts().get(item.id)
        if before == sheets:
            return True
        words = f"count {item.name}"
        return self.do(words, lambda w: w.count(item.id, sheets), lambda w: w.count(item.id, before or 0))

    @property
    def last(self) -> str:
        """What would be taken back, in words, or nothing."""
        return self._changes[-1].words if self._changes else ""

    def take_back(self) -> None:
        """Take the last change back."""
        workshop = self.workshop()
        if workshop is None or not self._changes:
            return
        change = self._changes.pop()
        try:
            change.back(workshop)
        except LanternError as error:
            self.troubled.emit(error.sentence())
        self.look_again()

    def look_again(self) -> None:
        """See what is in it now: another window may have changed it."""
        self._known = None
        self.troubled.emit("")
        self.changed.emit()

    def close(self) -> None:
        """Let go of the file."""
        if self._workshop is not None:
            self._workshop.close()
            self._workshop = None
