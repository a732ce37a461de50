"""The piece as it lies: on the board with the number at its line, on the mat with what is cut, folded or glued."""

from __future__ import annotations

import math
from collections.abc import Sequence

from msgspec import Struct
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QBrush, QColor, QPainter, QPainterPath, QPen, QPolygonF, QTransform

from yawning_lantern.bench import Placing
from yawning_lantern.bench.glue_map import GlueMap
from yawning_lantern.bench.lying import Lying
from yawning_lantern.desktop.shared.printed import flat_brush
from yawning_lantern.desktop.shared.theme import Theme
from yawning_lantern.measure import Units, format_length, inches
from yawning_lantern.pattern import Line, Piece, Point

FENCE = 16.0  # px
EDGE_WORDS = {"fold": "fold", "glue": "glue", "open": "open"}


class Place(Struct, frozen=True):
    """Where the board lies in the picture: pixels a mm, and the pixel of the fence's lower end."""

    lying: Lying
    scale: float
    left: float
    foot: float

    @staticmethod
    def within(box: QRectF, lying: Lying) -> Place:
        """As large as the box takes it, the fence at the left."""
        wide, high = lying.extent
        scale = max(0.05, min((box.width() - FENCE) / max(wide, 1.0), box.height() / max(high, 1.0)))
        left = box.left() + FENCE + (box.width() - FENCE - wide * scale) / 2
        return Place(lying, scale, left, box.center().y() + high * scale / 2)

    def point(self, p: Point) -> QPointF:
        """A point of the piece, mm, in the picture."""
        u, v = self.lying.at(p)
        return QPointF(self.left + u * self.scale, self.foot - v * self.scale)

    def polygon(self, points: Sequence[Point]) -> QPolygonF:
        """An outline in the picture."""
        return QPolygonF([self.point(p) for p in points])

    @property
    def transform(self) -> QTransform:
        """From the piece, mm, to the picture."""
        o, x, y = self.point((0.0, 0.0)), self.point((1.0, 0.0)), self.point((0.0, 1.0))
        return QTransform(x.x() - o.x(), x.y() - o.y(), y.x() - o.x(), y.y() - o.y(), o.x(), o.y())


def ink_on(colour: str) -> QColor:
    """A dark or light ink that reads on a colour."""
    return QColor("#ffffff") if QColor(colour).lightnessF() < 0.55 else QColor("#1d1930")


def draw_blank(painter: QPainter, piece: Piece, place: Place, theme: Theme, *, blank: bool) -> None:
    """The piece with its waste, or the `blank` it is cut from, with the face that is up."""
    wide, high = piece.size
    front = place.lying.face == "front"
    stock = piece.stock
    whole: Sequence[Point] = ((0.0, 0.0), (wide, 0.0), (wide, high), (0.0, high))
    fill = flat_brush(stock, piece.way, place.transform, front) if theme.patterned else QBrush(
        QColor(stock.front if front else stock.back)
    )  # fmt: skip
    painter.setPen(QPen(theme.colour("ink"), 1.6))
    painter.setBrush(fill)
    painter.drawPolygon(place.polygon(whole if blank else piece.outline))
    if blank:
        return
    waste = QPainterPath()
    waste.addPolygon(place.polygon(whole))
    kept = QPainterPath()
    kept.addPolygon(place.polygon(piece.outline))
    waste = waste.subtracted(kept)
    for hole in piece.holes:
        inner = QPainterPath()
        inner.addPolygon(place.polygon(hole))
        waste = waste.united(inner)
    painter.setPen(QPen(theme.colour("faint"), 1, Qt.PenStyle.DotLine))
    painter.setBrush(QBrush(theme.colour("faint"), Qt.BrushStyle.BDiagPattern))
    painter.drawPath(waste)


def draw_fence(painter: QPainter, place: Place, theme: Theme) -> None:
    """The fence along the edge that is pushed against it."""
    high = place.lying.extent[1] * place.scale
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(theme.colour("fence"))
    painter.drawRect(QRectF(place.left - FENCE, place.foot - high - 8, FENCE, high + 16))


def draw_ruler(painter: QPainter, place: Place, theme: Theme, units: Units, offset: float) -> None:
    """Marks along the head of the board, from the fence on, as the tool counts them."""
    wide, high = place.lying.extent
    step = 10.0 if units == "mm" else inches(1 / 2)
    top = place.foot - high * place.scale - 8
    painter.setPen(QPen(theme.colour("faint"), 1))
    skip = max(1, math.ceil(7.0 / (step * place.scale)))
    for k in range(0, int((wide - offset) / step + 1e-6) + 1, skip):
        x = place.left + (k * step + offset) * place.scale
        painter.drawLine(QPointF(x, top), QPointF(x, top - (9 if k % 2 == 0 else 5)))
        if k % 2 == 0 and 2 * step * place.scale * skip > 26:
            figure = str(k * 10) if units == "mm" else str(k // 2)
            painter.drawText(QRectF(x - 20, top - 27, 40, 16), Qt.AlignmentFlag.AlignCenter, figure)


def draw_readings(
    painter: QPainter, place: Place, placing: Placing, number: int, theme: Theme, paper: str, units: Units
) -> QPointF:
    """The lines of one placing: those that are made, the one to make now, those to come. Gives the head of the one to
    make now."""
    _, along = place.lying.extent
    ink, head = ink_on(paper), QPointF()
    for k, reading in enumerate(placing.readings):
        runs = reading.runs or ((0.0, along),)
        now = k == number
        x = place.left + reading.number * place.scale
        for a, b in runs:
            # stretches are told from the piece's foot or left: bring them onto the board
            ends = _ends(place, reading.number, a, b)
            pen = QPen(theme.colour("lamp"), 5.0) if now else QPen(ink, 1.6, Qt.PenStyle.DashLine)
            if k < number:
                pen = QPen(ink, 1.6)
            painter.setPen(pen)
            painter.drawLine(
                QPointF(x, place.foot - ends[0] * place.scale), QPointF(x, place.foot - ends[1] * place.scale)
            )
        if now:
            head = QPointF(x, place.foot - along * place.scale)
    return head


def _ends(place: Place, number: float, a: float, b: float) -> tuple[float, float]:
    """Where a stretch begins and ends along the fence, mm."""
    lying = place.lying
    w, h = lying.size
    if lying.edge in ("left", "right"):
        x = number if lying.edge == "left" else w - number
        return lying.at((x, a))[1], lying.at((x, b))[1]
    y = number if lying.edge == "foot" else h - number
    return lying.at((a, y))[1], lying.at((b, y))[1]


def draw_lines(
    painter: QPainter, piece: Piece, place: Place, chosen: Sequence[int], theme: Theme, thick: float = 4.0
) -> None:
    """All lines of a piece, the chosen ones in the lamp's colour."""
    front = place.lying.face == "front"
    ink = ink_on(piece.stock.front if front else piece.stock.back)
    for k, line in enumerate(piece.lines):
        pen = QPen(theme.colour("lamp"), thick) if k in chosen else QPen(ink, 1.3)
        if line.kind == "score":
            pen.setDashPattern(_dashes(line, front, pen.widthF()))
        painter.setPen(pen)
        painter.drawLine(place.point(line.start), place.point(line.end))


def _dashes(line: Line, front: bool, wide: float) -> list[float]:
    """Mountain and valley as they are seen from the face that is up."""
    mountain = (line.fold == "mountain") == front
    long, short = 14 / wide, 5 / wide
    return [long, short, 2 / wide, short] if mountain else [long * 0.6, short]


def draw_glue(
    painter: QPainter, piece: Piece, maps: Sequence[GlueMap], panels: Sequence[int], box: QRectF, theme: Theme
) -> None:
    """What gets glue, as large as it can be: hatched where it goes, every edge named by what shuts it."""
    outlines = [piece.panels[k].outline for k in panels]
    xs = [p[0] for o in outlines for p in o]
    ys = [p[1] for o in outlines for p in o]
    wide, high = max(xs) - min(xs), max(ys) - min(ys)
    scale = min((box.width() - 90) / max(wide, 1.0), (box.height() - 60) / max(high, 1.0))
    origin = QPointF(box.center().x() - (min(xs) + wide / 2) * scale, box.center().y() + (min(ys) + high / 2) * scale)

    face = maps[0].face if maps else "front"
    middle = min(xs) + max(xs)
    colour_up = piece.stock.front if face == "front" else piece.stock.back

    def at(p: Point) -> QPointF:
        x = p[0] if face == "front" else middle - p[0]  # turned over
        return QPointF(origin.x() + x * scale, origin.y() - p[1] * scale)

    painter.setPen(QPen(theme.colour("ink"), 1.5))
    painter.setBrush(QColor(colour_up))
    for outline in outlines:
        painter.drawPolygon(QPolygonF([at(p) for p in outline]))
    ink = ink_on(colour_up)
    font = painter.font()
    words = QRectF(box.left(), box.bottom() - 24, box.width(), 22)
    painter.drawText(words, Qt.AlignmentFlag.AlignRight, f"{face} up")
    for one in maps:
        painter.setPen(Qt.PenStyle.NoPen)
        colour = theme.colour("lamp")
        colour.setAlphaF(0.32)
        painter.setBrush(colour)
        for spot in one.spots:
            painter.drawPolygon(QPolygonF([at(p) for p in spot]))
        painter.setBrush(QBrush(theme.colour("lamp"), Qt.BrushStyle.DiagCrossPattern))
        for spot in one.spots:
            painter.drawPolygon(QPolygonF([at(p) for p in spot]))
        for edge in one.edges:
            a, b = at(edge.start), at(edge.end)
            style = {"fold": Qt.PenStyle.DashLine, "glue": Qt.PenStyle.SolidLine, "open": Qt.PenStyle.DotLine}
            wide = 3.0 if edge.shut != "open" else 1.5
            painter.setPen(QPen(theme.colour("lamp") if edge.shut == "glue" else ink, wide, style[edge.shut]))
            painter.drawLine(a, b)
            _edge_word(painter, a, b, box.center(), EDGE_WORDS[edge.shut], theme)
    painter.setFont(font)


def _edge_word(painter: QPainter, a: QPointF, b: QPointF, middle: QPointF, word: str, theme: Theme) -> None:
    """A word outside the middle of an edge, on a plain field."""
    at = (a + b) / 2
    way = at - middle
    long = math.hypot(way.x(), way.y()) or 1.0
    at += way / long * 20
    box = QRectF(painter.fontMetrics().boundingRect(word)).adjusted(-5, -1, 5, 1)
    box.moveCenter(at)
    painter.fillRect(box, theme.colour("card"))
    painter.setPen(theme.colour("ink"))
    painter.drawText(box, Qt.AlignmentFlag.AlignCenter, word)


def number_words(length: float, units: Units) -> str:
    """A number as large as it is read: with its fraction as one glyph where there is one."""
    return format_length(length, units, glyphs=True, mark=False)
