"""Pieces put elsewhere by hand and locked there: what that costs, and how it is taken back."""

from __future__ import annotations

import math
from collections.abc import Callable

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QWidget

from yawning_lantern.desktop.sheets.view import SheetsView
from yawning_lantern.desktop.sheets.work import SheetsWork
from yawning_lantern.errors import LanternError
from yawning_lantern.sheets import Held, Move, Placed

Spot = tuple[int, str, float, float]
"""A piece by its sheet, its name and where it lies, mm."""


class ByHand(QWidget):
    """Three buttons below the sheets. `anew_asked`: lay out all that is not locked."""

    anew_asked = Signal()

    def __init__(
        self, view: SheetsView, work: SheetsWork, say: Callable[[str], None], parent: QWidget | None = None
    ) -> None:
        super().__init__(parent)
        self._view, self._work, self._say = view, work, say
        self.locks: frozenset[tuple[int, int]] = frozenset()
        self.pin = QPushButton("Lock the piece")
        self.pin.setToolTip("It stays where it is when the sheets are laid out again")
        self.pin.clicked.connect(self.toggle_lock)
        self.anew = QPushButton("Lay the rest anew")
        self.anew.setToolTip("What is locked stays; everything else is laid out again")
        self.anew.clicked.connect(self.anew_asked)
        self.back = QPushButton("Move back")
        self.back.setToolTip("Take the last move back")
        self.back.clicked.connect(work.take_back)
        line = QHBoxLayout(self)
        line.setContentsMargins(0, 0, 0, 0)
        line.setSpacing(4)
        for button in (self.pin, self.anew, self.back):
            button.setObjectName("tight")
            line.addWidget(button, 1)
        view.dropped.connect(self.put)
        view.picked.connect(self.name)

    def held(self) -> tuple[Held, ...]:
        """The sheets with locked pieces."""
        return tuple(
            Held(sheet, ranks)
            for k, sheet in enumerate(self._view.sheets)
            if (ranks := frozenset(rank for on, rank in self.locks if on == k))
        )

    def put(self, move: Move) -> None:
        """Put a piece elsewhere, lock it there, and say what that costs."""
        piece = self._view.sheets[move.sheet].placed[move.placed]
        try:
            cost = self._work.move(move)
        except LanternError as error:
            self._say(f"✕ {error.sentence()}")
            return
        landed = self._landed(piece, move)
        self._lock(self.locks | {landed})
        self._view.choose(landed[0])
        self._view.chosen.emit(landed[0])
        self._view.choose_piece(landed[1])
        self._say(f"{piece.piece} is locked there. {cost}")

    def _landed(self, piece: Placed, move: Move) -> tuple[int, int]:
        """The piece of that name that lies nearest to where it was put: sheet and rank."""

        def far(k: int, p: Placed) -> tuple[int, float]:
            middle = p.x + p.width / 2, p.y + p.height / 2
            return abs(k - move.to), math.dist(middle, (move.x, move.y))

        spots = [
            (far(k, p), k, rank)
            for k, sheet in enumerate(self._view.sheets)
            for rank, p in enumerate(sheet.placed)
            if p.piece == piece.piece
        ]
        _, k, rank = min(spots)
        return k, rank

    # -- locks

    def locked_places(self) -> set[Spot]:
        """The locked pieces by name and place: ranks change when sheets are told anew."""
        return {(k, *_place(self._view.sheets[k].placed[rank])) for k, rank in self.locks}

    def lock_places(self, places: set[Spot]) -> None:
        """Lock what lies at those places, on that sheet or, where it became another's, on the nearest that has it."""
        locked: set[tuple[int, int]] = set()
        for at, *place in places:
            spots = [
                (k, rank)
                for k, sheet in enumerate(self._view.sheets)
                for rank, p in enumerate(sheet.placed)
                if list(_place(p)) == place
            ]
            if spots:
                locked.add(min(spots, key=lambda spot: abs(spot[0] - at)))
        self._lock(frozenset(locked))

    def _lock(self, locks: frozenset[tuple[int, int]]) -> None:
        self.locks = locks
        self._view.lock(locks)
        self.name()

    def toggle_lock(self) -> None:
        """Lock the chosen piece where it is, or free it."""
        if self._view.piece() is not None:
            self._lock(self.locks ^ {(self._view.at, self._view.rank)})

    def name(self) -> None:
        """What the buttons do now."""
        here = (self._view.at, self._view.rank)
        self.pin.setEnabled(self._view.piece() is not None)
        self.pin.setText("Free the piece" if here in self.locks else "Lock the piece")
        self.anew.setEnabled(bool(self.locks) or self._work.was_moved)
        self.back.setEnabled(self._work.was_moved)


def _place(placed: Placed) -> tuple[str, float, float]:
    """A piece by its name and where it lies."""
    return placed.piece, round(placed.x, 2), round(placed.y, 2)
