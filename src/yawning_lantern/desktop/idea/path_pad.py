"""A grid to draw a row of cells in: click from cell to cell, or use the arrow keys; what is not drawn is cut away."""

from __future__ import annotations

from itertools import pairwise

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QFont, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QWidget

from yawning_lantern.desktop.shared.spoken import LIST, Spoken
from yawning_lantern.desktop.shared.theme import DAY, Theme
from yawning_lantern.flatfold.snakes import Cell, Trunk, beside

MARGIN = 26.0  # px
_WAYS = {
    Qt.Key.Key_Right: (1, 0), Qt.Key.Key_Left: (-1, 0), Qt.Key.Key_Up: (0, 1), Qt.Key.Key_Down: (0, -1),
}  # fmt: skip


class PathPad(QWidget):
    """`drawn`: the path is another one."""

    drawn = Signal()
    spoken_role = LIST

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.theme: Theme = DAY
        self.columns, self.rows = 4, 4
        self.sheet = (1.0, 1.0)  # width and height, in any unit
        self.path: tuple[Cell, ...] = ()
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMinimumSize(240, 240)
        self.setAccessibleName("The sheet")
        self.setAccessibleDescription(
            "Arrow keys go on to the next cell, Backspace takes the last one away. A click does the same."
        )

    def sizeHint(self) -> QSize:
        return QSize(520, 460)

    def show_grid(self, columns: int, rows: int) -> None:
        """Another grid: the path begins anew where it does not lie on it."""
        self.columns, self.rows = columns, rows
        if any(c >= columns or r >= rows for c, r in self.path):
            self.path = ()
            self.drawn.emit()
        self.update()

    def show_path(self, path: tuple[Cell, ...]) -> None:
        """Begin with a path."""
        self.path = path
        self.drawn.emit()
        self.update()

    def step_to(self, cell: Cell) -> None:
        """Go on to a cell; back where the path has been there already; anew where it does not lie beside the last."""
        if not (0 <= cell[0] < self.columns and 0 <= cell[1] < self.rows):
            return
        if cell in self.path:
            at = self.path.index(cell)
            self.path = self.path[:at] if at == len(self.path) - 1 else self.path[: at + 1]
        elif self.path and abs(cell[0] - self.path[-1][0]) + abs(cell[1] - self.path[-1][1]) == 1:
            self.path = (*self.path, cell)
        elif not self.path:
            self.path = (cell,)
        else:
            return
        self.drawn.emit()
        self.update()

    def trunk(self) -> Trunk | None:
        """The path as a trunk, where it has two cells or more."""
        return Trunk(self.columns, self.rows, self.path) if len(self.path) > 1 else None

    def box(self) -> QRectF:
        """Where the sheet is drawn, px."""
        wide, high = self.width() - 2 * MARGIN, self.height() - 2 * MARGIN
        scale = min(wide / self.sheet[0], high / self.sheet[1])
        w, h = scale * self.sheet[0], scale * self.sheet[1]
        return QRectF((self.width() - w) / 2, (self.height() - h) / 2, w, h)

    def cell_box(self, cell: Cell) -> QRectF:
        """Where a cell is, px."""
        box = self.box()
        w, h = box.width() / self.columns, box.height() / self.rows
        return QRectF(box.left() + cell[0] * w, box.bottom() - (cell[1] + 1) * h, w, h)

    def spoken_items(self) -> list[Spoken]:
        """Every cell, with its place on the path."""
        items = []
        for r in range(self.rows):
            for c in range(self.columns):
                at = self.path.index((c, r)) + 1 if (c, r) in self.path else 0
                words = f"column {c + 1}, row {r + 1}: " + (f"panel {at}" if at else "cut away")
                items.append(Spoken(words, self.cell_box((c, r)), chosen=at == len(self.path) > 0))
        return items

    def mousePressEvent(self, event: QMouseEvent) -> None:
        box = self.box()
        if box.contains(event.position()):
            c = int((event.position().x() - box.left()) / box.width() * self.columns)
            r = int((box.bottom() - event.position().y()) / box.height() * self.rows)
            self.step_to((min(c, self.columns - 1), min(r, self.rows - 1)))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        way = _WAYS.get(Qt.Key(event.key()))
        if way is not None:
            last = self.path[-1] if self.path else (-way[0], -way[1]) if min(way) >= 0 else (0, 0)
            self.step_to((last[0] + way[0], last[1] + way[1]) if self.path else (0, 0))
        elif event.key() in (Qt.Key.Key_Backspace, Qt.Key.Key_Delete) and self.path:
            self.step_to(self.path[-1])
        else:
            super().keyPressEvent(event)

    def paintEvent(self, event: QPaintEvent) -> None:
        t = self.theme
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        box = self.box()
        painter.fillRect(box, t.colour("card"))
        for r in range(self.rows):
            for c in range(self.columns):
                here = self.cell_box((c, r))
                painter.setPen(QPen(t.colour("faint"), 1, Qt.PenStyle.DashLine))
                painter.setBrush(t.colour("table") if (c, r) in self.path else Qt.BrushStyle.BDiagPattern)
                painter.drawRect(here)
        w, h = box.width() / self.columns, box.height() / self.rows
        trunk = self.trunk()
        if trunk is not None:
            painter.setPen(QPen(t.colour("worked"), 3))
            for a, b in pairwise(self.path):
                painter.drawLine(self.cell_box(a).center(), self.cell_box(b).center())
            painter.setPen(QPen(t.colour("ink"), 4, Qt.PenStyle.SolidLine, Qt.PenCapStyle.FlatCap))
            for (c0, r0), (c1, r1) in self.slits(trunk):
                painter.drawLine(
                    QPointF(box.left() + c0 * w, box.bottom() - r0 * h),
                    QPointF(box.left() + c1 * w, box.bottom() - r1 * h),
                )
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(t.colour("lamp" if self.hasFocus() else "ink"), 2))
        painter.drawRect(box)
        font = QFont(self.font())
        font.setPointSizeF(font.pointSizeF() * 1.3)
        painter.setFont(font)
        for k, cell in enumerate(self.path):
            here = self.cell_box(cell)
            mark = QRectF(0, 0, 34, 26)
            mark.moveCenter(here.center())
            last = k == len(self.path) - 1
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(t.colour("lamp" if last else "field"))
            painter.drawRoundedRect(mark, 5, 5)
            painter.setPen(t.colour("lamp_ink" if last else "ink"))
            painter.drawText(mark, Qt.AlignmentFlag.AlignCenter, str(k + 1))
        if not self.path:
            painter.setPen(t.colour("ink"))
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, "Click a cell to begin.")

    def slits(self, trunk: Trunk) -> list[tuple[Cell, Cell]]:
        """Every stretch that the knife runs along, one cell long: between cells of which one stays at least."""
        slits: list[tuple[Cell, Cell]] = []
        for a in self.path:
            for b in beside(a, self.columns, self.rows):
                if frozenset((a, b)) in trunk.joined:
                    continue
                c, r = max(a[0], b[0]), max(a[1], b[1])
                slits.append(((c, r), (c, r + 1)) if a[1] == b[1] else ((c, r), (c + 1, r)))
        return slits
