"""Sheets drawn as they are cut: pieces in their paper's colour, cuts numbered, what is left hatched."""

from __future__ import annotations

from msgspec.structs import replace
from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QResizeEvent
from PySide6.QtWidgets import QWidget

from yawning_lantern.desktop.shared.spoken import LIST, Spoken
from yawning_lantern.desktop.shared.theme import DAY, Theme
from yawning_lantern.desktop.sheets.sheet_painter import HEAD, Dragged, SheetPainter
from yawning_lantern.measure import Units
from yawning_lantern.sheets import Move, Placed, SheetPlan
from yawning_lantern.stock import Paper

GAP = 18.0
LEAST = 250.0
"""A sheet is drawn at least so wide, px."""
DRAGGED = 6.0
"""So far the hand moves before a piece is dragged, px."""


class SheetsView(QWidget):
    """Sheets in rows; a click chooses a sheet and the piece under it, dragging puts a piece elsewhere.

    `dropped` carries where a piece was put. `locked` are the pieces that stay, as (sheet, rank).
    """

    spoken_role = LIST
    chosen = Signal(int)
    picked = Signal(str)
    dropped = Signal(object)

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.theme: Theme = DAY
        self.sheets: tuple[SheetPlan, ...] = ()
        self.papers: dict[str, Paper] = {}
        self.units: Units = "in"
        self.kerf = 0.0
        self.at, self._kept = 0, False
        self.marked: frozenset[str] = frozenset()
        self.cut: frozenset[int] = frozenset()
        self.locked: frozenset[tuple[int, int]] = frozenset()
        self.rank = -1
        self._pressed: Dragged | None = None
        self._dragged: Dragged | None = None
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)  # nothing behind it need be painted
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Sheets")
        self.setMouseTracking(True)

    def show_sheets(
        self, sheets: tuple[SheetPlan, ...], papers: dict[str, Paper], units: Units, kerf: float = 0.0
    ) -> None:
        """Show other sheets, in the colours of their papers (by id)."""
        self.sheets, self.papers, self.units, self.kerf = sheets, papers, units, kerf
        first = next((k for k, sheet in enumerate(sheets) if sheet.cuts), 0)
        self.at = self.at if self._kept and self.at < len(sheets) else first
        self.setAccessibleDescription(
            f"{len(sheets)} sheets. Arrow keys choose one; its cuts are listed beside. Space chooses a piece on it, "
            "Shift and an arrow key put it on the next sheet."
            if sheets
            else "No sheets yet."
        )
        self.rank = -1
        self._grow()
        self.update()

    def choose(self, sheet: int) -> None:
        """Choose a sheet."""
        if sheet != self.at:
            self.rank = -1
        self.at, self._kept = sheet, True
        self.update()

    def piece(self) -> Placed | None:
        """The piece that is chosen on the chosen sheet."""
        if not 0 <= self.at < len(self.sheets) or not 0 <= self.rank < len(self.sheets[self.at].placed):
            return None
        return self.sheets[self.at].placed[self.rank]

    def choose_piece(self, rank: int) -> None:
        """Choose a piece on the chosen sheet."""
        self.rank = rank
        self.update()
        piece = self.piece()
        if piece is not None:
            self.picked.emit(piece.piece)

    def lock(self, locked: frozenset[tuple[int, int]]) -> None:
        """Mark pieces as those that stay where they are."""
        self.locked = locked
        self.update()

    def mark(self, names: frozenset[str]) -> None:
        """Mark pieces by name: those of the part that is chosen in the design."""
        if names != self.marked:
            self.marked = names
            self.update()

    def mark_cut(self, sheets: frozenset[int]) -> None:
        """Mark sheets as cut."""
        self.cut = sheets
        self.update()

    # -- where things lie

    @property
    def columns(self) -> int:
        """How many sheets stand beside one another."""
        return max(1, int((self.width() - GAP) / (LEAST + GAP)))

    def _cell(self) -> tuple[float, float]:
        wide = (self.width() - GAP * (self.columns + 1)) / self.columns
        most = max((s.board.height / s.board.width for s in self.sheets), default=1.0)
        return wide, HEAD + wide * min(most, 1.5) + GAP

    def box(self, k: int) -> QRectF:
        """Where a sheet is drawn, its heading above it left out."""
        wide, tall = self._cell()
        board = self.sheets[k].board
        scale = min(wide / board.width, (tall - HEAD - GAP) / board.height)
        x = GAP + (k % self.columns) * (wide + GAP)
        y = GAP / 2 + (k // self.columns) * tall + HEAD
        return QRectF(x, y, board.width * scale, board.height * scale)

    def _grow(self) -> None:
        rows = -(-len(self.sheets) // self.columns)
        self.setMinimumHeight(int(rows * self._cell()[1] + GAP))

    def sizeHint(self) -> QSize:
        return QSize(640, max(self.minimumHeight(), 300))

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._grow()

    def place(self, k: int, placed: Placed) -> QRectF:
        box, board = self.box(k), self.sheets[k].board
        scale = box.width() / board.width
        return QRectF(
            box.left() + placed.x * scale,
            box.bottom() - (placed.y + placed.height) * scale,
            placed.width * scale,
            placed.height * scale,
        )

    def spoken_items(self) -> list[Spoken]:
        """Every sheet and what is cut from it."""
        return [
            Spoken(
                f"Sheet {k + 1}, {s.board.name}: {', '.join(p.piece for p in s.placed)}",
                self.box(k),
                chosen=k == self.at,
            )
            for k, s in enumerate(self.sheets)
        ]

    # -- painting

    def paintEvent(self, event: QPaintEvent) -> None:
        t = self.theme
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), t.colour("table"))
        ink = SheetPainter(self, painter)
        for k, sheet in enumerate(self.sheets):
            if self.box(k).adjusted(-2, -HEAD, 2, 2).intersects(QRectF(event.rect())):
                ink.sheet(k, sheet)
        if self._dragged is not None:
            ink.ghost(self._dragged)
        if not self.sheets:
            painter.setPen(t.colour("faint"))
            painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter, "The sheets appear here.")

    # -- choosing and moving

    def sheet_at(self, at: QPointF) -> int:
        """The sheet under a pixel, its heading with it, or −1."""
        return next((k for k in range(len(self.sheets)) if self.box(k).adjusted(-2, -HEAD, 2, 2).contains(at)), -1)

    def move_of(self, dragged: Dragged) -> Move | None:
        """Where a dragged piece would go: onto a sheet of its own paper."""
        k = self.sheet_at(dragged.at)
        source = self.sheets[dragged.sheet]
        if k < 0 or self.sheets[k].board.stock != source.board.stock:
            return None
        part = self.place(dragged.sheet, source.placed[dragged.rank])
        part.moveTopLeft(dragged.at - dragged.grip)
        box, scale = self.box(k), self.box(k).width() / self.sheets[k].board.width
        middle = part.center()
        x, y = (middle.x() - box.left()) / scale, (box.bottom() - middle.y()) / scale
        board = self.sheets[k].board
        return Move(dragged.sheet, dragged.rank, k, min(max(x, 0.0), board.width), min(max(y, 0.0), board.height))

    def mousePressEvent(self, event: QMouseEvent) -> None:
        k = self.sheet_at(event.position())
        if k < 0:
            return
        self.choose(k)
        self.chosen.emit(k)
        for rank, placed in enumerate(self.sheets[k].placed):
            part = self.place(k, placed)
            if part.contains(event.position()):
                self.choose_piece(rank)
                if k not in self.cut:
                    self._pressed = Dragged(k, rank, event.position() - part.topLeft(), event.position())
                return

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        pressed = self._pressed
        if pressed is None or not event.buttons() & Qt.MouseButton.LeftButton:
            return
        if self._dragged is not None or (event.position() - pressed.at).manhattanLength() > DRAGGED:
            self._dragged = replace(pressed, at=event.position())
            self.setCursor(Qt.CursorShape.ClosedHandCursor)
            self.update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        dragged, self._dragged, self._pressed = self._dragged, None, None
        self.unsetCursor()
        self.update()
        if dragged is not None:
            move = self.move_of(dragged)
            if move is not None:
                self.dropped.emit(move)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key = Qt.Key(event.key())
        step = {
            Qt.Key.Key_Right: 1, Qt.Key.Key_Left: -1, Qt.Key.Key_Down: self.columns, Qt.Key.Key_Up: -self.columns,
        }.get(key)  # fmt: skip
        if self.sheets and key == Qt.Key.Key_Space and self.sheets[self.at].placed:
            self.choose_piece((self.rank + 1) % len(self.sheets[self.at].placed))
        elif step is None or not self.sheets:
            super().keyPressEvent(event)
        elif event.modifiers() & Qt.KeyboardModifier.ShiftModifier:
            self._carry(1 if step > 0 else -1)
        else:
            self.choose(max(0, min(len(self.sheets) - 1, self.at + step)))
            self.chosen.emit(self.at)

    def _carry(self, step: int) -> None:
        """Put the chosen piece on the next sheet of its paper, in its largest free part."""
        if self.piece() is None or self.at in self.cut:
            return
        stock = self.sheets[self.at].board.stock
        same = [k for k, sheet in enumerate(self.sheets) if sheet.board.stock == stock and k not in self.cut]
        to = same[(same.index(self.at) + step) % len(same)]
        free = max(self.sheets[to].left, key=lambda left: left.width * left.height, default=None)
        x, y = (free.x + free.width / 2, free.y + free.height / 2) if free is not None else (0.0, 0.0)
        if to != self.at:
            self.dropped.emit(Move(self.at, self.rank, to, x, y))
