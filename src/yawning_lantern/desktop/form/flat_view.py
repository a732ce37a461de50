"""The flat piece against the fence: rulers that read as the board reads, score flags that are dragged and snap."""

from __future__ import annotations

import math
from itertools import pairwise

from msgspec import Struct
from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import (
    QColor,
    QFontMetricsF,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QPolygonF,
    QTransform,
)
from PySide6.QtWidgets import QWidget

from yawning_lantern.desktop.form.panel_marks import NAMELESS, draw_seen, names_of, off_holes, seen_words, up_words
from yawning_lantern.desktop.form.sides import Sides
from yawning_lantern.desktop.shared.hand_first import HandFirst
from yawning_lantern.desktop.shared.printed import draw_plate, flat_brush
from yawning_lantern.desktop.shared.session import Session
from yawning_lantern.desktop.shared.spoken import GRAPHIC, Spoken
from yawning_lantern.desktop.shared.theme import DAY, Theme
from yawning_lantern.errors import LanternError
from yawning_lantern.measure import Units, format_length, format_size, inches
from yawning_lantern.pattern import Line, Piece, ScoreFlag, bounds
from yawning_lantern.structures import parameter
from yawning_lantern.structures.kit.settings import check_value
from yawning_lantern.study import Resolved

RULER = 34.0
FENCE = 9.0
SPACE = 16.0


class Layout(Struct, frozen=True):
    """Where the piece lies: pixels per mm, and the pixel of its lower left corner."""

    scale: float
    left: float
    foot: float

    def point(self, x: float, y: float) -> QPointF:
        """Piece coordinates (mm) to pixels."""
        return QPointF(self.left + x * self.scale, self.foot - y * self.scale)


def _place_at(layout: Layout, flag: ScoreFlag, pixel: QPointF) -> float:
    """Where a flag would be at a pixel, mm from its edge."""
    if flag.axis == "x":
        return (pixel.x() - layout.left) / layout.scale
    return (layout.foot - pixel.y()) / layout.scale


class FlatView(QWidget):
    """One piece of the selected part. Dragging a flag gives its parameter; arrow keys move the chosen flag a groove."""

    spoken_role = GRAPHIC

    piece_shown = Signal(str)
    pieces_shown = Signal(object, int)

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._session = session
        self.theme: Theme = DAY
        self._index = 0
        self._held: ScoreFlag | None = None
        self._grip = 0.0
        self._chosen = -1
        self._gesture = 0
        self.sides = Sides(session, self)
        self.sides.changed.connect(self._refresh)
        self.setMinimumSize(200, 170)
        self.setMouseTracking(True)
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)  # nothing behind it need be painted
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Flat view")
        self._first = HandFirst(session, self, self._refresh)
        session.selected.connect(self._reselect)

    def sizeHint(self) -> QSize:
        return QSize(420, 360)

    def _reselect(self) -> None:
        self._index, self._chosen = 0, -1
        self._refresh()

    def _refresh(self, paint: bool = True) -> None:
        piece = self.piece()
        if piece is not None:
            r = self.resolved()
            if r is not None:
                self.pieces_shown.emit(r.part.pieces, self._index % len(r.part.pieces))
            self.piece_shown.emit(f"{piece.name} · {format_size(piece.size, self.units, glyphs=True)}"
                                  + (f" · cut {piece.quantity}" if piece.quantity > 1 else ""))  # fmt: skip
            flags = ", ".join(format_length(f.at, self.units) for f in piece.flags)
            sides = self.sides.of(piece)
            names = names_of(self.resolved())
            told = "; ".join(
                ", ".join((f"{p.label}: {front}", back, up_words(sides[p.name])))
                for p in piece.panels
                if p.name in sides
                for front, back in [seen_words(sides[p.name], names.get(p.name, NAMELESS))]
            )
            self.setAccessibleDescription(
                f"{piece.name}. Scores at {flags}. F chooses a score, arrow keys move it. {told}".strip()
            )
            self.sides.look()
        if paint:
            self.update()

    @property
    def units(self) -> Units:
        """The design's units."""
        return self._session.design.units

    def resolved(self) -> Resolved | None:
        """The selected element as studied."""
        study = self._session.study
        return study.resolved.get(self._session.selection) if study else None

    def piece(self) -> Piece | None:
        """The piece that is shown."""
        r = self.resolved()
        return r.part.pieces[self._index % len(r.part.pieces)].laid if r else None

    def pick(self, index: int) -> None:
        """Show one of the pieces of the selected part."""
        self._index = index
        self._chosen = -1
        self._refresh()

    def layout_of(self, piece: Piece) -> Layout:
        """How the piece lies in the view."""
        width, height = piece.size
        room_w = self.width() - RULER - FENCE - 2 * SPACE
        room_h = self.height() - RULER - FENCE - 2 * SPACE - 18
        scale = max(0.05, min(room_w / width, room_h / height))
        return Layout(scale, RULER + FENCE, RULER + height * scale)

    def spoken_items(self) -> list[Spoken]:
        """Every score that can be chosen and moved."""
        piece = self.piece()
        if piece is None:
            return []
        boxes = self._flag_boxes(piece, self.layout_of(piece))
        return [
            Spoken(f"score at {format_length(flag.at, self.units)}, {flag.parameter}", box, chosen=k == self._chosen)
            for k, (flag, box) in enumerate(zip(piece.flags, boxes, strict=True))
        ]

    # -- painting

    def paintEvent(self, event: QPaintEvent) -> None:
        t = self.theme
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), t.colour("table"))
        piece = self.piece()
        if piece is None:
            return
        layout = self.layout_of(piece)
        self._board(painter, piece, layout)
        self._paper(painter, piece, layout)
        for index, box in enumerate(self._flag_boxes(piece, layout)):
            flag = piece.flags[index]
            self._flag(painter, layout, flag, box, index == self._chosen or flag is self._held)
        self._legend(painter, piece, layout)
        if self.hasFocus():
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(t.colour("lamp"), 2))
            painter.drawRect(self.rect().adjusted(1, 1, -2, -2))

    def _grid(self) -> tuple[float, int]:
        """Distance of two ruler marks (mm) and how many make a figure."""
        if self.units == "mm":
            return 5.0, 4
        return inches(1 / 8), 8

    def _board(self, painter: QPainter, piece: Piece, layout: Layout) -> None:
        """The fence in the corner, and the two rulers read from it."""
        t = self.theme
        width, height = piece.size
        right, foot = layout.left + width * layout.scale, layout.foot
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(t.colour("fence"))
        painter.drawRect(QRectF(layout.left - FENCE, RULER - 4, FENCE, foot - RULER + 4 + FENCE))
        painter.drawRect(QRectF(layout.left - FENCE, foot, right - layout.left + FENCE + 6, FENCE))
        step, per = self._grid()
        small = painter.font()
        small.setPointSizeF(small.pointSizeF() * 0.82)
        painter.setFont(small)
        painter.setPen(QPen(t.colour("faint"), 1))
        skip = max(1, math.ceil(3.2 / (step * layout.scale)))
        far = 1
        while step * per * layout.scale * far < 24:
            far *= 2
        for k in range(0, int(max(width, height) / step + 1e-6) + 1, skip):
            long = k % per == 0
            length = 9.0 if long else (6.0 if k % (per // 2) == 0 else 3.5)
            at = k * step
            figure = f"{round(at)}" if self.units == "mm" else f"{k // per}"
            if at <= width + 1e-6:
                x = layout.left + at * layout.scale
                painter.drawLine(QPointF(x, RULER - 4), QPointF(x, RULER - 4 - length))
            if at <= height + 1e-6:
                y = foot - at * layout.scale
                painter.drawLine(QPointF(RULER, y), QPointF(RULER - length, y))
            if long and (k // per) % far == 0:
                if at <= width + 1e-6:
                    x = layout.left + at * layout.scale
                    painter.drawText(QRectF(x - 20, 2, 40, 14), Qt.AlignmentFlag.AlignCenter, figure)
                if at <= height + 1e-6:
                    y = foot - at * layout.scale
                    painter.drawText(QRectF(0, y - 8, 22, 16), Qt.AlignmentFlag.AlignCenter, figure)
        small.setPointSizeF(small.pointSizeF() / 0.82)
        painter.setFont(small)

    def _paper(self, painter: QPainter, piece: Piece, layout: Layout) -> None:
        t = self.theme
        fill = QColor(piece.stock.front)
        painter.setPen(QPen(t.colour("ink"), 1.8))
        onto = QTransform(layout.scale, 0.0, 0.0, -layout.scale, layout.left, layout.foot)
        painter.setBrush(flat_brush(piece.stock, piece.way, onto) if t.patterned else fill)
        painter.drawPolygon(QPolygonF([layout.point(x, y) for x, y in piece.outline]))
        painter.setBrush(t.colour("table"))
        punched = [QPolygonF([layout.point(x, y) for x, y in hole]) for hole in piece.holes]
        for hole in punched:
            painter.drawPolygon(hole)
        holes = [hole.boundingRect() for hole in punched]
        light = fill.lightnessF() < 0.55
        ink = QColor("#ffffff") if light else QColor("#1d1930")
        for line in piece.lines:
            self._line(painter, line, layout, ink)
        painter.setPen(ink)
        metrics = QFontMetricsF(painter.font())
        sides = self.sides.of(piece)
        names = names_of(self.resolved()) if sides else {}
        printed = t.patterned and piece.stock.front_motif is not None
        for panel in piece.panels:
            if panel.name in sides:
                x0, y0, x1, y1 = bounds(panel.outline)
                box = QRectF(layout.point(x0, y1), layout.point(x1, y0))
                draw_seen(painter, sides[panel.name], box, ink, names.get(panel.name, NAMELESS))
                continue
            x0, y0, x1, y1 = panel.blank
            room, tall = (x1 - x0) * layout.scale, (y1 - y0) * layout.scale
            wide = metrics.horizontalAdvance(panel.label)
            at = layout.point(*(panel.centre if not panel.window else ((x0 + x1) / 2, (y0 + y1) / 2)))
            if len(panel.outline) == 3:
                room, tall = room * 0.55, tall * 0.55
            if wide <= room - 6 and tall > metrics.height():
                own = QRectF(layout.point(x0, y1), layout.point(x1, y0))
                high = max(18.0, metrics.height())
                label = off_holes(QRectF(at.x() - wide / 2 - 1, at.y() - high / 2, wide + 2, high), holes, own)
                if printed:
                    draw_plate(painter, label, fill)
                painter.drawText(label, Qt.AlignmentFlag.AlignCenter, panel.label)
            elif wide <= tall - 6 and room > metrics.height():
                painter.save()
                painter.translate(at)
                painter.rotate(-90)
                if printed:
                    draw_plate(painter, QRectF(-wide / 2, -9, wide, 18), fill)
                painter.drawText(QRectF(-tall / 2, -10, tall, 20), Qt.AlignmentFlag.AlignCenter, panel.label)
                painter.restore()

    def _line(self, painter: QPainter, line: Line, layout: Layout, ink: QColor) -> None:
        pen = QPen(ink, 1.6)
        if line.kind == "cut":
            pen = QPen(self.theme.colour("ink"), 2.0)
        elif line.kind == "mark":
            pen.setStyle(Qt.PenStyle.DotLine)
        elif line.fold == "mountain":
            pen.setDashPattern([7, 2.5, 1.2, 2.5])
        else:
            pen.setDashPattern([4.5, 3])
        painter.setPen(pen)
        painter.drawLine(layout.point(*line.start), layout.point(*line.end))

    def _flag_boxes(self, piece: Piece, layout: Layout) -> list[QRectF]:
        """Where the flags' figures stand, moved along the ruler where two would cover each other."""
        boxes = []
        for flag in piece.flags:
            text = format_length(flag.at, self.units, glyphs=True, mark=False)
            wide = QFontMetricsF(self.font()).horizontalAdvance(text) + 13
            if flag.axis == "x":
                boxes.append(QRectF(layout.left + flag.at * layout.scale - wide / 2, 1, wide, 18))
            else:
                boxes.append(QRectF(1, layout.foot - flag.at * layout.scale - 9, wide, 18))
        across = sorted((i for i, f in enumerate(piece.flags) if f.axis == "x"), key=lambda i: boxes[i].left())
        for before, here in pairwise(across):
            boxes[here].moveLeft(max(boxes[here].left(), boxes[before].right() + 2))
        along = sorted((i for i, f in enumerate(piece.flags) if f.axis == "y"), key=lambda i: -boxes[i].top())
        for before, here in pairwise(along):
            boxes[here].moveBottom(min(boxes[here].bottom(), boxes[before].top() - 2))
        return boxes

    def _flag(self, painter: QPainter, layout: Layout, flag: ScoreFlag, box: QRectF, held: bool) -> None:
        t = self.theme
        r = self.resolved()
        given = r is not None and flag.parameter in r.element.settings
        colour = t.colour("lamp") if held else t.colour("ink" if given else "worked")
        painter.setPen(QPen(colour, 1.4))
        if flag.axis == "x":
            foot = QPointF(layout.left + flag.at * layout.scale, RULER + 3)
            painter.drawLine(QPointF(box.center().x(), box.bottom()), foot)
        else:
            foot = QPointF(layout.left + 3, layout.foot - flag.at * layout.scale)
            painter.drawLine(QPointF(box.right(), box.center().y()), foot)
        painter.setBrush(t.colour("field"))
        painter.drawPolygon(QPolygonF([box.topLeft(), box.topRight(), box.bottomRight(), box.bottomLeft()]))
        painter.setPen(colour)
        font = painter.font()
        font.setBold(given or held)
        painter.setFont(font)
        text = format_length(flag.at, self.units, glyphs=True, mark=False)
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, text)
        font.setBold(False)
        painter.setFont(font)

    def _legend(self, painter: QPainter, piece: Piece, layout: Layout) -> None:
        t = self.theme
        y = self.height() - 12.0
        x = 10.0
        kinds = {("valley" if n.fold == "valley" else "mountain") if n.kind == "score" else n.kind for n in piece.lines}
        shown = [(k, w) for k, w in (("valley", "valley"), ("mountain", "mountain"), ("cut", "slit")) if k in kinds]
        wide = painter.fontMetrics().horizontalAdvance
        face = "front face up"
        if x + wide(face) + 16 + sum(46 + wide(words) for _, words in shown) > self.width():
            face = "front up"
        painter.setPen(t.colour("faint"))
        painter.drawText(QPointF(x, y + 4), face)
        x += wide(face) + 16
        for kind, words in shown:
            line = Line(
                "cut" if kind == "cut" else "score", "mountain" if kind == "mountain" else "valley", (0, 0), (0, 0)
            )
            pen_line = Layout(1.0, x, y)
            self._line(painter, Line(line.kind, line.fold, (0, 0), (26, 0)), pen_line, t.colour("faint"))
            painter.setPen(t.colour("faint"))
            painter.drawText(QPointF(x + 32, y + 4), words)
            x += 32 + wide(words) + 14

    # -- dragging

    def _under(self, pixel: QPointF) -> ScoreFlag | None:
        piece = self.piece()
        if piece is None:
            return None
        layout = self.layout_of(piece)
        for flag, box in zip(piece.flags, self._flag_boxes(piece, layout), strict=True):
            if box.adjusted(-3, -3, 3, 6).contains(pixel):
                return flag
        return None

    def mousePressEvent(self, event: QMouseEvent) -> None:
        flag, piece = self._under(event.position()), self.piece()
        if flag is None or piece is None:
            return
        self._held, self._session.hand = flag, self
        self._grip = _place_at(self.layout_of(piece), flag, event.position()) - flag.at
        self._gesture += 1
        self._chosen = piece.flags.index(flag)
        self.update()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        piece = self.piece()
        if self._held is None or piece is None:
            self.setCursor(
                Qt.CursorShape.SizeHorCursor if self._under(event.position()) else Qt.CursorShape.ArrowCursor
            )
            return
        at = _place_at(self.layout_of(piece), self._held, event.position()) - self._grip
        self._move(self._held, at)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        self._held = self._session.hand = None
        self.update()

    def _move(self, flag: ScoreFlag, at: float) -> None:
        """Move a flag to `at` mm from the fence, snapped to the board's groove, by giving its parameter."""
        r, study, piece = self.resolved(), self._session.study, self.piece()
        if r is None or study is None or piece is None:
            return
        snapped = r.final.score.groove(at)
        current = next((f for f in piece.flags if (f.axis, f.parameter, f.slope) == (
            flag.axis, flag.parameter, flag.slope)), None)  # fmt: skip
        now = study.current(r.element.id, flag.parameter)
        if current is None or now is None or abs(snapped - current.at) < 1e-6:
            return
        declared = parameter(r.family, flag.parameter)
        try:
            value = check_value(declared, now + (snapped - current.at) / flag.slope, self._session.design.units)
        except LanternError:
            return  # the flag stays where it can be
        self._session.give(
            r.element.id, flag.parameter, value, f"move {declared.label.lower()}", f"flag-{self._gesture}"
        )

    def keyPressEvent(self, event: QKeyEvent) -> None:
        piece, r = self.piece(), self.resolved()
        key = Qt.Key(event.key())
        turn = {Qt.Key.Key_PageDown: 1, Qt.Key.Key_PageUp: -1}.get(key)
        if turn is not None:
            self.pick(self._index + turn)
            return
        if piece is None or r is None or not piece.flags:
            super().keyPressEvent(event)
            return
        if key == Qt.Key.Key_F:
            self._chosen = (self._chosen + 1) % len(piece.flags)
            self._gesture += 1
            self.update()
            return
        step = {Qt.Key.Key_Right: 1, Qt.Key.Key_Up: 1, Qt.Key.Key_Left: -1, Qt.Key.Key_Down: -1}.get(key)
        if step is None or not 0 <= self._chosen < len(piece.flags):
            super().keyPressEvent(event)
            return
        flag = piece.flags[self._chosen]
        self._move(flag, r.final.score.next_groove(flag.at, step))
