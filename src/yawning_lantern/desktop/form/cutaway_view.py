"""The cutaway: a section through the shut thing, every sheet in its thickness, every gap drawn and figured."""

from __future__ import annotations

from collections.abc import Callable
from typing import NamedTuple

from msgspec import Struct
from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import (
    QColor,
    QFontMetricsF,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QPolygonF,
    QWheelEvent,
)
from PySide6.QtWidgets import QWidget

from yawning_lantern.assembly import uses
from yawning_lantern.assembly.joined import Frame
from yawning_lantern.desktop.shared.marks import draw_verdict
from yawning_lantern.desktop.shared.session import Session
from yawning_lantern.desktop.shared.spoken import GRAPHIC, TEXT, Spoken
from yawning_lantern.desktop.shared.theme import DAY, Theme
from yawning_lantern.fit import Check
from yawning_lantern.fold import apply
from yawning_lantern.measure import format_fine
from yawning_lantern.study import Study
from yawning_lantern.study.anchors import anchor_of

MOST_BESIDE = 0.36  # of the view that labels take on either side
Pixel = Callable[[float, float], QPointF]


class Callout(Struct, frozen=True):
    """A gap in the section: its two ends in the plane (mm), and its words."""

    start: tuple[float, float]
    end: tuple[float, float]
    check: Check
    figure: str
    name: str

    @property
    def text(self) -> str:
        """Figure and name in one line."""
        return f"{self.figure} · {self.name}"


class _Columns(NamedTuple):
    """Room for labels on either side, px: how wide, into how many lines a label goes, how high each is, and whether
    all are whole in it."""

    side: float
    lines: int
    row: float
    whole: bool


FLAT, TALLEST = 0.25, 30  # share of the view below which heights are drawn larger, and how much at most
BESIDE = 0.4  # mm off the middle, where ridges and seams would lie in the plane of the cut


class CutawayView(QWidget):
    """Section across (x) or front to back (y). The wheel zooms, dragging moves, double click fits again."""

    spoken_role = GRAPHIC

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._session = session
        self.theme: Theme = DAY
        self.axis = 1
        self._notes_now: list[Callout] = []
        self._zoom = 1.0
        self._shift = QPointF()
        self._last: QPointF | None = None
        self.setMinimumSize(320, 150)
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)  # nothing behind it need be painted
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Cutaway")
        session.judged.connect(self._refresh)
        session.selected.connect(self.update)

    def sizeHint(self) -> QSize:
        return QSize(760, 230)

    def look_along(self, axis: int) -> None:
        """Cut by the plane where coordinate `axis` is 0: 1 shows left to right, 0 shows front to back."""
        self.axis = axis
        self._refresh()

    def spoken_items(self) -> list[Spoken]:
        """Every gap that is written beside the section."""
        return [Spoken(f"{c.text}, {c.check.verdict}", QRectF(self.rect()), TEXT) for c in self._notes_now]

    def fit(self) -> None:
        """Everything in view again."""
        self._zoom, self._shift = 1.0, QPointF()
        self.update()

    def _refresh(self) -> None:
        study = self._session.study
        if study is not None:
            self._notes_now = self.callouts(study)
            told = "; ".join(f"{c.text}, {c.check.verdict}" for c in self._notes_now)
            self.setAccessibleDescription(f"Gaps when shut: {told}.")
        self.update()

    def callouts(self, study: Study) -> list[Callout]:
        """The gaps that lie in this section."""
        across = 1 - self.axis
        callouts = []
        for check in study.checks:
            anchor = anchor_of(study, check)
            if anchor is None:
                continue
            a, b = anchor.start, anchor.end
            if check.gap.where != "up" and abs(a[self.axis] - b[self.axis]) > abs(a[across] - b[across]) + 1e-6:
                continue
            if (
                check.gap.where != "up"
                and max(abs(a[self.axis]), abs(b[self.axis])) > 1.0
                and check.gap.use != uses.TRAY
            ):
                continue
            name = check.gap.between[0].split(",")[0]
            gap = check.gap.value
            figure = (
                format_fine(abs(gap), self._session.design.units, glyphs=True)
                .replace("about ", "≈ ")
                .replace("under ", "< ")
            )
            whole = " in all" if check.gap.in_all else ""
            if gap < -1e-6:
                whole = " too much" if check.is_clash else " proud"
            callouts.append(Callout((a[across], a[2]), (b[across], b[2]), check, f"{figure}{whole}", name))
        return callouts

    def paintEvent(self, event: QPaintEvent) -> None:
        t = self.theme
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), t.colour("card"))
        study = self._session.study
        if study is None:
            return
        cuts = study.section(self.axis, BESIDE)
        if not cuts:
            return
        xs = [x for cut in cuts for x, _ in cut.corners]
        zs = [z for cut in cuts for _, z in cut.corners]
        notes = self._notes_now
        room_h = self.height() - 24.0
        columns = self._columns(notes)
        side = columns.side
        room_w = max(80.0, self.width() - 2 * side)
        scale = min(room_w / (max(xs) - min(xs)), room_h / (max(zs) - min(zs))) * self._zoom
        middle = ((max(xs) + min(xs)) / 2, (max(zs) + min(zs)) / 2)
        taller = self._taller((max(zs) - min(zs)) * scale / self._zoom, room_h)

        left = self.width() / 2 + self._shift.x() - middle[0] * scale
        foot, rise = self.height() / 2 + self._shift.y() + middle[1] * scale * taller, scale * taller

        def pixel(x: float, z: float) -> QPointF:
            return QPointF(left + x * scale, foot - z * rise)

        ground = pixel(0, 0).y()
        painter.setPen(QPen(t.colour("line"), 1, Qt.PenStyle.DashLine))
        painter.drawLine(QPointF(side - 20, ground), QPointF(self.width() - side + 20, ground))
        self._contents(painter, study, pixel)
        several, now = len(study.resolved) > 1, ("", False)
        for cut in cuts:
            node = study.assembly.nodes[cut.node]
            ink = node.piece.stock.front, several and node.element == self._session.selection
            if ink != now:  # sheets of one part follow one another
                self._dip(painter, *ink)
                now = ink
            painter.drawPolygon(QPolygonF([pixel(x, z) for x, z in cut.corners]))
        self._notes(painter, notes, pixel, columns)
        if taller > 1:
            painter.setPen(t.colour("faint"))
            box = QRectF(8, self.height() - 22, self.width() - 16, 18)
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, f"heights drawn {taller:.0f} × as large")
        if self.hasFocus():
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(t.colour("lamp"), 2))
            painter.drawRect(self.rect().adjusted(1, 1, -2, -2))

    def _dip(self, painter: QPainter, colour: str, chosen: bool) -> None:
        """Take brush and pen for sheets of a colour; those of the chosen part are edged in the lamp's."""
        fill = QColor(colour)
        if self.theme.dark and fill.lightnessF() < 0.45:
            fill = fill.lighter(150)
        painter.setPen(QPen(self.theme.colour("lamp"), 1.4) if chosen else QPen(fill.darker(150), 0.8))
        painter.setBrush(fill)

    @staticmethod
    def _taller(tall: float, room: float) -> float:
        """How much larger heights are drawn, so that the sheets of a flat thing can be told apart."""
        if tall >= FLAT * room:
            return 1.0
        return float(max(1, min(TALLEST, round(2 * FLAT * room / max(tall, 1.0)))))

    def _contents(self, painter: QPainter, study: Study, pixel: Pixel) -> None:
        for element, r in study.resolved.items():
            if r.part.contents is None:
                continue
            for mount in (m for m in r.part.mounts if m.holds):
                self._standing_box(painter, study.mount_frames[element, mount.id], r.part.contents, pixel)

    def _standing_box(self, painter: QPainter, frame: Frame, size: tuple[float, float, float], pixel: Pixel) -> None:
        t = self.theme
        w, d, h = size
        corners = [apply(frame, sx * w / 2, sy * d / 2, 0.0) for sx in (-1, 1) for sy in (-1, 1)]
        across = 1 - self.axis
        lo, hi = min(c[across] for c in corners), max(c[across] for c in corners)
        foot = frame[11]
        a, b = pixel(lo, foot + h), pixel(hi, foot)
        painter.setPen(QPen(t.colour("lamp"), 1.2, Qt.PenStyle.DashLine))
        painter.setBrush(t.colour("ground"))
        box = QRectF(a, b)
        painter.drawRect(box)
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, "contents")

    def _columns(self, notes: list[Callout]) -> _Columns:
        """Labels in two lines, so that they are whole beside a large picture, where their number leaves room for that;
        else in one. They take no more than their share of the view."""
        metrics = QFontMetricsF(self.font())
        line = metrics.height()
        lines = 2 if (len(notes) + 1) // 2 * (2 * line + 6.0) <= self.height() else 1
        words = [n.text for n in notes] if lines == 1 else [w for n in notes for w in (n.figure, n.name)]
        asked = max(map(metrics.horizontalAdvance, words), default=0.0) + 46
        side = min(asked, self.width() * MOST_BESIDE)
        return _Columns(side, lines, line * lines + (6.0 if lines == 2 else 3.0), side == asked)

    def _notes(self, painter: QPainter, notes: list[Callout], pixel: Pixel, room: _Columns) -> None:
        """Every gap with a leader to a figure in the left or right column, sorted so that no two leaders cross."""
        most = int(self.height() / room.row)
        columns: dict[bool, list[tuple[QPointF, QPointF, Callout]]] = {False: [], True: []}
        for note in notes:
            a, b = pixel(*note.start), pixel(*note.end)
            middle = (a + b) / 2
            right = middle.x() > self.width() / 2 + self._shift.x()
            if note.check.gap.where == "up":
                right = len(columns[True]) <= len(columns[False])
            if len(columns[right]) >= most > len(columns[not right]):
                right = not right  # the column is full
            columns[right].append((a, b, note))
        for right, found in columns.items():
            found.sort(key=lambda item: ((item[0].y() + item[1].y()) / 2, item[0].x() if right else -item[0].x()))
            gap = min(room.row, self.height() / max(len(found), 1))
            ends = gap / 2, self.height() - gap / 2
            ys = self._spread([(a.y() + b.y()) / 2 for a, b, _ in found], gap, *ends)
            for (a, b, note), y in zip(found, ys, strict=True):
                self._note(painter, a, b, note, y, right, room)

    @staticmethod
    def _spread(wanted: list[float], gap: float, first: float, last: float) -> list[float]:
        """Places near the wanted ones, at least `gap` apart, from `first` to `last`."""
        ys: list[float] = []
        for want in wanted:
            ys.append(max(want, (ys[-1] + gap) if ys else first))
        limit = last
        for i in range(len(ys) - 1, -1, -1):
            ys[i] = min(ys[i], limit)
            limit = ys[i] - gap
        return ys

    def _note(
        self, painter: QPainter, a: QPointF, b: QPointF, note: Callout, y: float, right: bool, room: _Columns
    ) -> None:
        t, side = self.theme, room.side
        verdict = note.check.verdict
        colour = t.colour(verdict)
        chosen = self._session.selection in (note.check.gap.element, note.check.gap.host)
        painter.setPen(QPen(colour, 3.0, Qt.PenStyle.SolidLine, Qt.PenCapStyle.FlatCap))
        painter.drawLine(a, b)
        elbow = self.width() - side + 8 if right else side - 8
        painter.setPen(QPen(colour if chosen else t.colour("line"), 1.0))
        middle = (a + b) / 2
        painter.drawPolyline(QPolygonF([middle, QPointF(elbow, y), QPointF(elbow + (6 if right else -6), y)]))
        mark = elbow + (14 if right else -14)
        draw_verdict(painter, verdict, QPointF(mark, y), 9, t)
        painter.setPen(t.colour("ink" if chosen else "faint"))
        align = Qt.AlignmentFlag.AlignVCenter | (Qt.AlignmentFlag.AlignLeft if right else Qt.AlignmentFlag.AlignRight)
        left, wide = (mark + 8, self.width() - mark - 10) if right else (4.0, mark - 12)
        box = QRectF(left, y - room.row / 2, wide, room.row)
        said = [note.text] if room.lines == 1 else [note.figure, note.name]
        if not room.whole:
            said = [painter.fontMetrics().elidedText(one, Qt.TextElideMode.ElideRight, int(wide)) for one in said]
        painter.drawText(box, align, "\n".join(said))

    def wheelEvent(self, event: QWheelEvent) -> None:
        factor = 1.0015 ** event.angleDelta().y()
        zoom = max(0.5, min(40.0, self._zoom * factor))
        centre = QPointF(self.width() / 2, self.height() / 2)
        self._shift = (self._shift - (event.position() - centre)) * (zoom / self._zoom) + (event.position() - centre)
        self._zoom = zoom
        self.update()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self._last = event.position()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._last is not None:
            self._shift += event.position() - self._last
            self._last = event.position()
            self.update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        self._last = None

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        self.fit()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key = Qt.Key(event.key())
        if key in (Qt.Key.Key_Plus, Qt.Key.Key_Equal):
            self._zoom = min(40.0, self._zoom * 1.2)
        elif key == Qt.Key.Key_Minus:
            self._zoom = max(0.5, self._zoom / 1.2)
        elif key == Qt.Key.Key_0:
            self._zoom, self._shift = 1.0, QPointF()
        else:
            super().keyPressEvent(event)
            return
        self.update()
