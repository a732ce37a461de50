"""Sheets drawn as they are cut: pieces in their paper's colour, cuts numbered, what is left hatched."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QBrush, QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QResizeEvent, QTransform
from PySide6.QtWidgets import QWidget

from yawning_lantern.desktop.shared.printed import draw_plate, flat_brush
from yawning_lantern.desktop.shared.spoken import LIST, Spoken
from yawning_lantern.desktop.shared.theme import DAY, Theme
from yawning_lantern.measure import Units, format_size
from yawning_lantern.sheets import Placed, SheetPlan, cut_lines
from yawning_lantern.stock import Paper

GAP, HEAD = 18.0, 22.0
LEAST = 250.0
"""A sheet is drawn at least so wide, px."""


class SheetsView(QWidget):
    """Sheets in rows; a click chooses a sheet, and the piece under it."""

    spoken_role = LIST
    chosen = Signal(int)
    picked = Signal(str)

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
            f"{len(sheets)} sheets. Arrow keys choose one; its cuts are listed beside." if sheets else "No sheets yet."
        )
        self._grow()
        self.update()

    def choose(self, sheet: int) -> None:
        """Choose a sheet."""
        self.at, self._kept = sheet, True
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

    def _place(self, k: int, placed: Placed) -> QRectF:
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
        for k, sheet in enumerate(self.sheets):
            if self.box(k).adjusted(-2, -HEAD, 2, 2).intersects(QRectF(event.rect())):
                self._sheet(painter, k, sheet)
        if not self.sheets:
            painter.setPen(t.colour("faint"))
            painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter, "The sheets appear here.")

    def _sheet(self, painter: QPainter, k: int, sheet: SheetPlan) -> None:
        t, box = self.theme, self.box(k)
        here = k == self.at
        painter.setPen(t.colour("lamp" if here else "ink"))
        font = painter.font()
        font.setBold(here)
        painter.setFont(font)
        size = format_size((sheet.board.width, sheet.board.height), self.units, glyphs=True)
        paper = self.papers[sheet.board.stock].name
        words = f"{'Off-cut' if sheet.board.kept else 'Sheet'} {k + 1} · {size} · {paper}"
        words = painter.fontMetrics().elidedText(words, Qt.TextElideMode.ElideRight, int(box.width()))
        painter.drawText(
            QRectF(box.left(), box.top() - HEAD, box.width(), HEAD - 3), Qt.AlignmentFlag.AlignVCenter, words
        )
        font.setBold(False)
        painter.setFont(font)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(t.colour("field"))
        painter.drawRect(box)
        scale = box.width() / sheet.board.width
        for left in sheet.left:
            part = QRectF(box.left() + left.x * scale, box.bottom() - (left.y + left.height) * scale,
                          left.width * scale, left.height * scale)  # fmt: skip
            painter.fillRect(part, QBrush(t.colour("line"), Qt.BrushStyle.BDiagPattern))
            if left.useful and part.width() > 34 and part.height() > 18:
                wide = painter.fontMetrics().horizontalAdvance(left.name) + 10
                plate = QRectF(part.center().x() - wide / 2, part.center().y() - 9, wide, 18)
                painter.fillRect(plate, t.colour("field"))
                painter.setPen(t.colour("faint"))
                painter.drawText(plate, Qt.AlignmentFlag.AlignCenter, left.name)
        brush = self._fill(sheet, box)
        for placed in sheet.placed:
            self._piece(painter, k, placed, brush)
        self._cuts(painter, box, sheet, here)
        if k in self.cut:
            veil = QColor(t.colour("field"))
            veil.setAlphaF(0.72)
            painter.fillRect(box, veil)
            painter.setPen(t.colour("easy"))
            font.setBold(True)
            font.setPointSizeF(font.pointSizeF() * 1.6)
            painter.setFont(font)
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, "✓ cut")
            painter.setFont(self.font())
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(t.colour("lamp"), 2.5) if here else QPen(t.colour("fence"), 1.2))
        painter.drawRect(box)

    def _fill(self, sheet: SheetPlan, box: QRectF) -> QBrush:
        """What pieces are filled with: the paper as it lies, its pattern's up side as on the sheet."""
        paper, scale = self.papers[sheet.board.stock], box.width() / sheet.board.width
        if not self.theme.patterned:
            return QBrush(QColor(paper.front))
        return flat_brush(paper, 0, QTransform(scale, 0.0, 0.0, -scale, box.left(), box.bottom()))

    def _piece(self, painter: QPainter, k: int, placed: Placed, brush: QBrush) -> None:
        t, part = self.theme, self._place(k, placed)
        paper = self.papers[self.sheets[k].board.stock]
        colour = QColor(paper.front)
        marked = placed.piece in self.marked
        painter.setPen(QPen(t.colour("lamp"), 2.2) if marked else QPen(t.colour("ink"), 0.8))
        painter.setBrush(brush)
        painter.drawRect(part.adjusted(0.5, 0.5, -0.5, -0.5))
        dark = colour.lightnessF() < 0.55
        painter.setPen(QColor("#fffaf0" if dark else "#2b2640"))
        room = part.adjusted(3, 2, -3, -2)
        upright = room.height() > 1.6 * room.width() and room.width() < 70
        painter.save()
        if upright:
            painter.translate(part.center())
            painter.rotate(-90)
            room = QRectF(-room.height() / 2, -room.width() / 2, room.height(), room.width())
        metrics = painter.fontMetrics()
        line = metrics.height()
        if room.height() >= line - 3 and room.width() > 24:
            size = format_size((placed.width, placed.height), self.units, glyphs=True).replace(" ", "\u00a0")
            size = size.replace("\u00a0×\u00a0", " × ")  # a line may end between two lengths, not within one
            words = f"{placed.piece}\n{size}"
            wrapped = Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap
            asked = metrics.boundingRect(room.toRect(), wrapped, words)
            if asked.height() > room.height() or asked.width() > room.width():
                words = metrics.elidedText(placed.piece, Qt.TextElideMode.ElideRight, int(room.width()))
            if t.patterned and paper.front_motif is not None:
                asked = metrics.boundingRect(room.toRect(), wrapped, words)
                draw_plate(painter, QRectF(asked).intersected(room), colour)
            painter.drawText(room, wrapped, words)
        painter.restore()

    def _cuts(self, painter: QPainter, box: QRectF, sheet: SheetPlan, here: bool) -> None:
        """The cuts; of the chosen sheet their numbers stand at the end where the blade goes in."""
        t = self.theme
        scale = box.width() / sheet.board.width
        painter.setPen(QPen(t.colour("lamp" if here else "fence"), 1.3 if here else 0.8, Qt.PenStyle.DashLine))
        lines = cut_lines(sheet, self.kerf)
        ends = []
        for cut in lines:
            a = QPointF(box.left() + cut.x0 * scale, box.bottom() - cut.y0 * scale)
            b = QPointF(box.left() + cut.x1 * scale, box.bottom() - cut.y1 * scale)
            painter.drawLine(a, b)
            ends.append((cut.number, a))
        if not here:
            return
        font = painter.font()
        font.setBold(True)
        painter.setFont(font)
        for number, end in ends:
            spot = QRectF(end.x() - 9, end.y() - 9, 18, 18)
            spot.moveLeft(min(max(spot.left(), box.left() - 4), box.right() - 14))
            spot.moveTop(min(max(spot.top(), box.top() - 4), box.bottom() - 14))
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(t.colour("lamp"))
            painter.drawRoundedRect(spot, 3, 3)
            painter.setPen(t.colour("lamp_ink"))
            painter.drawText(spot, Qt.AlignmentFlag.AlignCenter, str(number))
        font.setBold(False)
        painter.setFont(font)

    # -- choosing

    def mousePressEvent(self, event: QMouseEvent) -> None:
        for k, sheet in enumerate(self.sheets):
            if not self.box(k).adjusted(-2, -HEAD, 2, 2).contains(event.position()):
                continue
            self.choose(k)
            self.chosen.emit(k)
            for placed in sheet.placed:
                if self._place(k, placed).contains(event.position()):
                    self.picked.emit(placed.piece)
            return

    def keyPressEvent(self, event: QKeyEvent) -> None:
        step = {
            Qt.Key.Key_Right: 1, Qt.Key.Key_Left: -1, Qt.Key.Key_Down: self.columns, Qt.Key.Key_Up: -self.columns,
        }.get(Qt.Key(event.key()))  # fmt: skip
        if step is None or not self.sheets:
            super().keyPressEvent(event)
            return
        self.choose(max(0, min(len(self.sheets) - 1, self.at + step)))
        self.chosen.emit(self.at)
