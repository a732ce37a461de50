"""Lanes along one band of time: one for every moving part, a wedge for every step, a mark where sheets meet."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QColor, QFont, QMouseEvent, QPainter, QPaintEvent, QPen, QPixmap, QPolygonF
from PySide6.QtWidgets import QSizePolicy, QWidget

from yawning_lantern.desktop.shared.spoken import LIST, Spoken
from yawning_lantern.desktop.shared.theme import DAY, Theme
from yawning_lantern.opening import Opening, Step

ROW = 30
HEAD = 24
NAMES = 190
RIGHT = 14


class Lanes(QWidget):
    """`scrubbed` carries a time (steps done), `reordered` the parts from above to below after one was dragged."""

    spoken_role = LIST

    scrubbed = Signal(float)
    reordered = Signal(object)

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.theme: Theme = DAY
        self.opening: Opening | None = None
        self.parts: list[tuple[str, str]] = []
        self._of: Sequence[str] = ()
        self.time = 0.0
        self._dragged: int | None = None
        self._drop = 0
        self._scrubbing = False
        self._kept: tuple[object, QPixmap] | None = None
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.MinimumExpanding)
        self.setMouseTracking(True)
        self.setAccessibleName("Lanes of the opening")
        self.setAccessibleDescription(
            "Left and right step through the opening; drag a name up or down for another order."
        )

    def show_opening(self, opening: Opening | None, parts: Sequence[tuple[str, str]], of: Sequence[str]) -> None:
        """Show an opening: moving parts (element, name) in their order, and the element of every motion."""
        self.opening, self.parts, self._of = opening, list(parts), of
        self.updateGeometry()
        self.update()

    def show_time(self, time: float) -> None:
        """Move the playhead."""
        self.time = time
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(640, HEAD + ROW * max(len(self.parts), 2) + 8)

    def minimumSizeHint(self) -> QSize:
        return QSize(420, self.sizeHint().height())

    @property
    def count(self) -> int:
        """How many steps the band has."""
        return len(self.opening.steps) if self.opening is not None else 0

    def x_at(self, time: float) -> float:
        """Where a time lies, pixels."""
        return NAMES + (self.width() - NAMES - RIGHT) * time / max(self.count, 1)

    def time_at(self, x: float) -> float:
        """The time at a pixel."""
        share = (x - NAMES) / max(self.width() - NAMES - RIGHT, 1)
        return max(0.0, min(float(self.count), share * self.count))

    def row_of(self, element: str) -> int:
        """The lane of a part."""
        return next((k for k, (e, _) in enumerate(self.parts) if e == element), -1)

    def spoken_items(self) -> list[Spoken]:
        """Every moving part in the order of its lane, and at which steps it moves."""
        steps = self.opening.steps if self.opening is not None else ()
        items = []
        for row, (element, name) in enumerate(self.parts):
            own = ", ".join(str(k + 1) for k, step in enumerate(steps) if self._of[step.motion] == element)
            box = QRectF(0, HEAD + row * ROW, self.width(), ROW)
            items.append(Spoken(f"{name}, step {own}" if own else name, box, chosen=row == self._dragged))
        return items

    # -- painting

    def paintEvent(self, event: QPaintEvent) -> None:
        """Lanes as they are kept, and the playhead, which alone moves while it plays."""
        painter = QPainter(self)
        size = (self.width(), self.height(), self.devicePixelRatio(), self.font().toString())
        key = (size, self.theme, id(self.opening), tuple(self.parts), self._dragged, self._drop)
        if self._kept is None or self._kept[0] != key:
            still = QPixmap(self.size() * self.devicePixelRatio())
            still.setDevicePixelRatio(self.devicePixelRatio())
            with QPainter(still) as inner:
                inner.setFont(self.font())
                self._lanes(inner)
            self._kept = key, still
        painter.drawPixmap(0, 0, self._kept[1])
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if self.opening is not None:
            self._playhead(painter)
        if self.hasFocus():
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(self.theme.colour("lamp"), 2))
            painter.drawRect(self.rect().adjusted(1, 1, -2, -2))

    def _lanes(self, painter: QPainter) -> None:
        """Everything but the playhead."""
        t = self.theme
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), t.colour("card"))
        for row, (_, name) in enumerate(self.parts):
            y = HEAD + row * ROW
            if row % 2 == 0:
                painter.fillRect(QRectF(0, y, self.width(), ROW), t.colour("ground"))
            painter.setPen(t.colour("faint"))
            painter.drawText(QRectF(6, y, 14, ROW), Qt.AlignmentFlag.AlignVCenter, "⋮")
            painter.setPen(t.colour("ink"))
            font = painter.font()
            font.setBold(row == self._dragged)
            painter.setFont(font)
            shown = painter.fontMetrics().elidedText(name, Qt.TextElideMode.ElideRight, NAMES - 28)
            painter.drawText(QRectF(20, y, NAMES - 28, ROW), Qt.AlignmentFlag.AlignVCenter, shown)
        if self.opening is None:
            painter.setPen(t.colour("faint"))
            painter.drawText(
                self.rect(), Qt.AlignmentFlag.AlignCenter, "The order to open in is shown here once it is found."
            )
            return
        self._heads(painter)
        opened: dict[int, int] = {}
        for k, step in enumerate(self.opening.steps):
            row = self.row_of(self._of[step.motion])
            self._wedge(painter, k, row, step)
            if step.opens and step.clear:
                opened[step.motion] = k + 1
            elif not step.opens and step.motion in opened:
                self._stays(painter, row, opened.pop(step.motion), k)
        for motion, since in opened.items():
            self._stays(painter, self.row_of(self._of[motion]), since, self.count)
        for k, step in enumerate(self.opening.steps):
            row = self.row_of(self._of[step.motion])
            for met in step.resting:
                self._mark_rest(painter, QPointF(self.x_at(k + met.at), HEAD + row * ROW + ROW - 8))
            if step.contact is not None:
                self._mark_stop(painter, QPointF(self.x_at(k + step.contact.at), HEAD + row * ROW + ROW / 2))
        if self._dragged is not None:
            painter.setPen(QPen(t.colour("lamp"), 3))
            y = HEAD + self._drop * ROW
            painter.drawLine(QPointF(0, y), QPointF(self.width(), y))

    def _heads(self, painter: QPainter) -> None:
        """Numbers of the steps; steps that may change places share a bracket."""
        assert self.opening is not None
        small = QFont(painter.font())
        small.setPointSizeF(max(small.pointSizeF() - 1, 7.0))
        painter.setFont(small)
        steps = self.opening.steps
        for k, step in enumerate(steps):
            left, right = self.x_at(k), self.x_at(k + 1)
            painter.setPen(self.theme.colour("faint"))
            painter.drawText(QRectF(left, 0, right - left, HEAD - 4), Qt.AlignmentFlag.AlignCenter, str(k + 1))
            painter.setPen(QPen(self.theme.colour("line"), 1, Qt.PenStyle.DotLine))
            painter.drawLine(QPointF(left, HEAD), QPointF(left, self.height()))
            if k and step.stage == steps[k - 1].stage and step.clear:
                middle = self.x_at(k - 0.5)
                painter.setPen(QPen(self.theme.colour("worked"), 1.5))
                after = self.x_at(k + 0.5)
                ends = ((middle, HEAD - 5), (middle, HEAD - 2), (after, HEAD - 2), (after, HEAD - 5))
                painter.drawPolyline([QPointF(x, y) for x, y in ends])

    def _wedge(self, painter: QPainter, k: int, row: int, step: Step) -> None:
        """A wedge that widens while a part opens and narrows while it is shut again."""
        left, right = self.x_at(k) + 2, self.x_at(k + 1) - 1
        low, thin, thick = HEAD + row * ROW + ROW - 5.0, 2.0, ROW - 11.0
        begin, end = (thin, thick) if step.opens else (thick, thin)
        colour = self.theme.colour("worked" if step.opens else "fence")
        if not step.clear:
            colour = self.theme.colour("clash")
        painter.setPen(QPen(colour.darker(120), 1))
        painter.setBrush(QColor(colour))
        if not step.opens:
            painter.setBrush(QColor(colour.red(), colour.green(), colour.blue(), 110))
        painter.drawPolygon(
            QPolygonF([QPointF(left, low), QPointF(right, low), QPointF(right, low - end), QPointF(left, low - begin)])
        )

    def _stays(self, painter: QPainter, row: int, since: int, until: int) -> None:
        """A part that stays open."""
        y = HEAD + row * ROW + ROW - 6.0
        painter.setPen(QPen(self.theme.colour("worked"), 2.4))
        painter.drawLine(QPointF(self.x_at(since), y), QPointF(self.x_at(until), y))

    def _mark_stop(self, painter: QPainter, at: QPointF) -> None:
        """A square with a cross: sheets meet and nothing goes on."""
        painter.setPen(QPen(QColor("#ffffff"), 1.4))
        painter.setBrush(self.theme.colour("clash"))
        painter.drawRect(QRectF(at.x() - 8, at.y() - 8, 16, 16))
        painter.setPen(QPen(QColor("#ffffff"), 2.2))
        painter.drawLine(at + QPointF(-4, -4), at + QPointF(4, 4))
        painter.drawLine(at + QPointF(-4, 4), at + QPointF(4, -4))

    def _mark_rest(self, painter: QPainter, at: QPointF) -> None:
        """A triangle on a line: a panel comes to rest."""
        painter.setPen(QPen(self.theme.colour("card"), 1))
        painter.setBrush(self.theme.colour("tight"))
        painter.drawPolygon(QPolygonF([at + QPointF(-5, -7), at + QPointF(5, -7), at]))
        painter.setPen(QPen(self.theme.colour("tight"), 2))
        painter.drawLine(at + QPointF(-5, 2), at + QPointF(5, 2))

    def _playhead(self, painter: QPainter) -> None:
        x = self.x_at(self.time)
        painter.setPen(QPen(self.theme.colour("lamp"), 2))
        painter.drawLine(QPointF(x, 4), QPointF(x, self.height()))
        painter.setBrush(self.theme.colour("lamp"))
        painter.drawPolygon(QPolygonF([QPointF(x - 6, 2), QPointF(x + 6, 2), QPointF(x, 12)]))

    # -- hands

    def mousePressEvent(self, event: QMouseEvent) -> None:
        at = event.position()
        row = int((at.y() - HEAD) // ROW)
        if at.x() < NAMES and 0 <= row < len(self.parts):
            self._dragged, self._drop = row, row
        elif at.x() >= NAMES:
            self._scrubbing = True
            self.scrubbed.emit(self.time_at(at.x()))
        self.update()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        at = event.position()
        over = at.x() < NAMES and 0 <= at.y() - HEAD < ROW * len(self.parts)
        self.setCursor(
            Qt.CursorShape.SizeVerCursor if over or self._dragged is not None else Qt.CursorShape.ArrowCursor
        )
        if self._scrubbing:
            self.scrubbed.emit(self.time_at(at.x()))
        elif self._dragged is not None:
            self._drop = max(0, min(len(self.parts), round((at.y() - HEAD) / ROW)))
            self.update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        dragged, self._dragged, self._scrubbing = self._dragged, None, False
        if dragged is not None and self._drop not in (dragged, dragged + 1):
            moved = self.parts.pop(dragged)
            self.parts.insert(self._drop - (self._drop > dragged), moved)
            self.reordered.emit([element for element, _ in self.parts])
        self.update()
