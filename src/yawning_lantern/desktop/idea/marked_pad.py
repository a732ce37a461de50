"""The sheet flat, its front up: click a line to score, slit or leave it, a cell to take it out; draw slants."""

from __future__ import annotations

from itertools import accumulate, pairwise

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import QWidget

from yawning_lantern.desktop.shared.spoken import LIST, Spoken
from yawning_lantern.desktop.shared.theme import DAY, Theme
from yawning_lantern.flatfold.draft import Draft, Segment
from yawning_lantern.flatfold.sheet import cell_name
from yawning_lantern.flatfold.telling import at_mark, segments_of
from yawning_lantern.pattern import Point

MARGIN = 22.0  # px
REACH = 9.0  # px: a click so near a line means it
HANDLE = 9.0  # px: so far beside the sheet are the marks that move its lines
LEAST = 6.35  # mm: no cell is dragged narrower
_WAYS = {
    Qt.Key.Key_Right: (1, 0), Qt.Key.Key_Left: (-1, 0), Qt.Key.Key_Up: (0, 1), Qt.Key.Key_Down: (0, -1),
}  # fmt: skip


class MarkedPad(QWidget):
    """`line` and `cell` tell what was clicked, `slant` two marks, `gridded` other widths. `slanting`: a drag draws a
    slant; marks beside the sheet move its lines, on a grid of `step` mm."""

    line = Signal(object)
    cell = Signal(str)
    slant = Signal(object, object)
    gridded = Signal(object, object)
    spoken_role = LIST

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.theme: Theme = DAY
        self.paper = "#d8cdb8"
        self.draft = Draft((76.2,) * 4, (76.2,) * 4)
        self.slanting = False
        self.at = (0, 0)  # the cell that keys speak of
        self.step = 3.175
        self._held: tuple[int, int] | None = None  # axis and number of the line that is moved
        self._from: Point | None = None
        self._to: Point | None = None
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMinimumSize(220, 220)
        self.setMouseTracking(True)
        self.setAccessibleName("The sheet, flat")
        self.setAccessibleDescription(
            "Arrow keys go from cell to cell, Space takes a cell out or puts it back; Shift and an arrow turn the line "
            "on that side from score to slit to nothing."
        )

    def sizeHint(self) -> QSize:
        return QSize(400, 400)

    def show_draft(self, draft: Draft) -> None:
        """Another draft."""
        self.draft = draft
        self.at = (min(self.at[0], len(draft.columns) - 1), min(self.at[1], len(draft.rows) - 1))
        self.update()

    # -- places

    def _scale(self) -> float:
        wide, high = sum(self.draft.columns), sum(self.draft.rows)
        return min((self.width() - 2 * MARGIN) / wide, (self.height() - 2 * MARGIN) / high)

    def _px(self, p: Point) -> QPointF:
        scale = self._scale()
        w, h = scale * sum(self.draft.columns), scale * sum(self.draft.rows)
        return QPointF((self.width() - w) / 2 + p[0] * scale, (self.height() + h) / 2 - p[1] * scale)

    def _lines(self) -> tuple[tuple[float, ...], tuple[float, ...]]:
        return (0.0, *accumulate(self.draft.columns)), (0.0, *accumulate(self.draft.rows))

    def cell_box(self, column: int, row: int) -> QRectF:
        """Where a cell is, px."""
        xs, ys = self._lines()
        return QRectF(self._px((xs[column], ys[row + 1])), self._px((xs[column + 1], ys[row])))

    def ends(self, segment: Segment) -> tuple[QPointF, QPointF]:
        """Where a stretch is, px."""
        xs, ys = self._lines()
        (c0, r0), (c1, r1) = (tuple(int(n) for n in cell[1:].split("r")) for cell in segment)
        if r0 == r1:
            return self._px((xs[c0], ys[r0 - 1])), self._px((xs[c0], ys[r0]))
        return self._px((xs[c1 - 1], ys[r0])), self._px((xs[c1], ys[r0]))

    def segment_at(self, p: QPointF) -> Segment | None:
        """The stretch a click means, if any."""
        best: tuple[float, Segment | None] = (REACH, None)
        for segment in segments_of(len(self.draft.columns), len(self.draft.rows)):
            a, b = self.ends(segment)
            box = QRectF(a, b).normalized().adjusted(-REACH, -REACH, REACH, REACH)
            inner = min(abs(b.x() - a.x()) + abs(b.y() - a.y()), 4 * REACH) / 4
            upright = abs(a.x() - b.x()) < 1
            box.adjust(0, REACH + inner, 0, -REACH - inner) if upright else box.adjust(
                REACH + inner, 0, -REACH - inner, 0
            )
            off = abs(p.x() - a.x()) if upright else abs(p.y() - a.y())
            if box.contains(p) and off < best[0]:
                best = (off, segment)
        return best[1]

    def cell_at(self, p: QPointF) -> tuple[int, int] | None:
        """The cell under a pixel."""
        for r in range(len(self.draft.rows)):
            for c in range(len(self.draft.columns)):
                if self.cell_box(c, r).contains(p):
                    return c, r
        return None

    def mark_at(self, p: QPointF) -> Point:
        """The nearest mark: corners of cells and the middles of their sides, in columns and rows."""
        columns, rows = len(self.draft.columns), len(self.draft.rows)
        marks = [(c / 2, r / 2) for c in range(2 * columns + 1) for r in range(2 * rows + 1)]

        def off(mark: Point) -> float:
            at = self._px(at_mark(mark, self.draft.columns, self.draft.rows))
            return (at.x() - p.x()) ** 2 + (at.y() - p.y()) ** 2

        return min(marks, key=off)

    def _mark_px(self, mark: Point) -> QPointF:
        return self._px(at_mark(mark, self.draft.columns, self.draft.rows))

    def handles(self) -> list[tuple[tuple[int, int], QPointF]]:
        """The marks that move lines: (0 for columns, 1 for rows; which line, from 1), and where they are, px."""
        xs, ys = self._lines()
        handles = [((0, k), self._px((xs[k], ys[-1])) - QPointF(0, HANDLE)) for k in range(1, len(xs) - 1)]
        return handles + [((1, k), self._px((xs[0], ys[k])) - QPointF(HANDLE, 0)) for k in range(1, len(ys) - 1)]

    def _drag_line(self, pixel: QPointF) -> None:
        """The line that is held, to where the hand is."""
        assert self._held is not None
        axis, k = self._held
        lines, scale, zero = self._lines()[axis], self._scale(), self._px((0.0, 0.0))
        at = (pixel.x() - zero.x()) / scale if axis == 0 else (zero.y() - pixel.y()) / scale
        at = min(max(round(at / self.step) * self.step, lines[k - 1] + LEAST), lines[k + 1] - LEAST)
        moved = (*lines[:k], at, *lines[k + 1 :])
        widths = tuple(b - a for a, b in pairwise(moved))
        sides = (widths, self.draft.rows) if axis == 0 else (self.draft.columns, widths)
        self.draft = self.draft.gridded(*sides)
        self.update()

    # -- hand

    def mousePressEvent(self, event: QMouseEvent) -> None:
        p = event.position()
        near = [line for line, at in self.handles() if (at - p).manhattanLength() < REACH + 3]
        self._held = near[0] if near and not self.slanting else None
        if self._held is not None:
            return
        if self.slanting:
            self._from = self._to = self.mark_at(p)
            self.update()
            return
        segment, cell = self.segment_at(p), self.cell_at(p)
        if segment is not None:
            self.line.emit(segment)
        elif cell is not None:
            self.at = cell
            self.cell.emit(cell_name(cell[0] + 1, cell[1] + 1))

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._held is not None:
            self._drag_line(event.position())
        elif self._from is not None:
            self._to = self.mark_at(event.position())
            self.update()
        else:
            on = not self.slanting and self.segment_at(event.position()) is not None
            self.setCursor(Qt.CursorShape.PointingHandCursor if on else Qt.CursorShape.ArrowCursor)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self._held is not None:
            self._held = None
            self.gridded.emit(self.draft.columns, self.draft.rows)
            return
        start, end, self._from, self._to = self._from, self._to, None, None
        if start is not None and end is not None and start != end:
            self.slant.emit(start, end)
        self.update()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        way = _WAYS.get(Qt.Key(event.key()))
        c, r = self.at
        if way is not None:
            to = (c + way[0], r + way[1])
            if not (0 <= to[0] < len(self.draft.columns) and 0 <= to[1] < len(self.draft.rows)):
                return
            if event.modifiers() & Qt.KeyboardModifier.ShiftModifier:
                pair = sorted((self.at, to))
                self.line.emit(tuple(cell_name(x + 1, y + 1) for x, y in pair))
            else:
                self.at = to
                self.update()
        elif event.key() == Qt.Key.Key_Space:
            self.cell.emit(cell_name(c + 1, r + 1))
        else:
            super().keyPressEvent(event)

    def spoken_items(self) -> list[Spoken]:
        """Every cell, and every line that is no plain score."""
        items = []
        for r in range(len(self.draft.rows)):
            for c in range(len(self.draft.columns)):
                name = cell_name(c + 1, r + 1)
                words = f"column {c + 1}, row {r + 1}" + (": taken out" if name in self.draft.gone else "")
                items.append(Spoken(words, self.cell_box(c, r), chosen=(c, r) == self.at))
        for segment in segments_of(len(self.draft.columns), len(self.draft.rows)):
            kind = self.draft.kind(segment)
            if kind != "score":
                box = QRectF(*self.ends(segment)).normalized().adjusted(-3, -3, 3, 3)
                items.append(Spoken(f"between {segment[0]} and {segment[1]}: {kind}", box))
        return items

    # -- picture

    def paintEvent(self, event: QPaintEvent) -> None:
        t = self.theme
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), t.colour("table"))
        names = []
        for r in range(len(self.draft.rows)):
            for c in range(len(self.draft.columns)):
                name, box = cell_name(c + 1, r + 1), self.cell_box(c, r)
                painter.setPen(Qt.PenStyle.NoPen)
                if name in self.draft.gone:
                    painter.setBrush(t.colour("table"))
                    painter.drawRect(box)
                    painter.setBrush(Qt.BrushStyle.BDiagPattern)
                    painter.setPen(QPen(t.colour("faint"), 1))
                    painter.drawRect(box)
                else:
                    painter.setBrush(QColor(self.paper))
                    painter.drawRect(box)
                names.append((name, box))
        ink = QColor("#2b2640") if QColor(self.paper).lightnessF() > 0.5 else QColor("#f7f2e6")
        for segment in segments_of(len(self.draft.columns), len(self.draft.rows)):
            if set(segment) <= set(self.draft.gone):
                continue
            kind = self.draft.kind(segment)
            if kind == "nothing":
                continue
            cut = kind == "slit" or bool(set(segment) & set(self.draft.gone))
            self._paint_line(painter, *self.ends(segment), ink, cut)
        for told, a, b in self.draft.slants:
            self._paint_line(painter, self._mark_px(a), self._mark_px(b), ink, told == "slit")
        painter.setBrush(Qt.BrushStyle.NoBrush)
        whole = QRectF(self._px((0.0, sum(self.draft.rows))), self._px((sum(self.draft.columns), 0.0)))
        painter.setPen(QPen(t.colour("ink"), 2))
        painter.drawRect(whole)
        for name, box in names:
            painter.setPen(t.colour("faint") if name in self.draft.gone else ink)
            if painter.fontMetrics().horizontalAdvance(name) + 6 < box.width():
                painter.drawText(box, Qt.AlignmentFlag.AlignCenter, name)
        if self.hasFocus() and not self.slanting:
            painter.setPen(QPen(t.colour("lamp"), 2))
            painter.drawRect(self.cell_box(*self.at).adjusted(3, 3, -3, -3))
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(t.colour("fence"))
        for (axis, _), at in self.handles():
            tip = QPointF(0, 6) if axis == 0 else QPointF(6, 0)
            side = QPointF(4, 0) if axis == 0 else QPointF(0, 4)
            painter.drawPolygon(QPolygonF([at + tip, at - tip / 2 + side, at - tip / 2 - side]))
        self._paint_slanting(painter)

    def _paint_line(self, painter: QPainter, a: QPointF, b: QPointF, ink: QColor, cut: bool) -> None:
        """A score dashed; a slit as the gap it is."""
        if not cut:
            painter.setPen(QPen(ink, 1.4, Qt.PenStyle.DashLine))
            painter.drawLine(a, b)
            return
        for colour, width in ((self.theme.colour("ink"), 6.0), (self.theme.colour("table"), 3.0)):
            painter.setPen(QPen(colour, width, Qt.PenStyle.SolidLine, Qt.PenCapStyle.FlatCap))
            painter.drawLine(a, b)

    def _paint_slanting(self, painter: QPainter) -> None:
        if not self.slanting:
            return
        t = self.theme
        columns, rows = len(self.draft.columns), len(self.draft.rows)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(t.colour("worked"))
        for c in range(2 * columns + 1):
            for r in range(2 * rows + 1):
                at = self._mark_px((c / 2, r / 2))
                painter.drawPolygon(QPolygonF(QRectF(at.x() - 2, at.y() - 2, 4, 4)))
        if self._from is not None and self._to is not None:
            painter.setPen(QPen(t.colour("lamp"), 3))
            painter.drawLine(self._mark_px(self._from), self._mark_px(self._to))
