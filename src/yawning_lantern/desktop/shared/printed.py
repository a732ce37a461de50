"""Patterned paper: tiles drawn once for each size and light, and brushes that lie on a panel as its sheet does."""

from __future__ import annotations

import math
from functools import lru_cache

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QBrush, QColor, QImage, QPainter, QPolygonF, QTransform

from yawning_lantern.stock import Motif, Paper, shapes

FINEST, COARSEST = 8, 512
"""A tile is drawn with so many pixels a side, at the least and at the most."""
STEPS = 24
"""So many shades of light are told apart on patterned paper."""


@lru_cache(maxsize=512)
def tile(motif: Motif, ground: str, shade: int, side: int) -> QImage:
    """One repeat of a pattern with so many pixels a side, its colours times shade / STEPS."""
    light = shade / STEPS
    image = QImage(side, side, QImage.Format.Format_RGB32)
    image.fill(_lit(ground, light))
    painter = QPainter(image)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(_lit(motif.ink, light))
    painter.scale(side, -side)
    painter.translate(0, -1)
    for shape in shapes(motif.kind):
        painter.drawPolygon(QPolygonF([QPointF(x, y) for x, y in shape]))
    painter.end()
    return image


def _lit(colour: str, light: float) -> QColor:
    plain = QColor(colour)
    return QColor.fromRgbF(*(min(1.0, part * light) for part in (plain.redF(), plain.greenF(), plain.blueF())))


def tile_side(pixels: float) -> int:
    """The size of tile that suits a repeat of so many pixels: the power of two that is not smaller."""
    return int(min(COARSEST, max(FINEST, 2 ** math.ceil(math.log2(max(pixels, 1.0))))))


def lying(motif: Motif, way: int, side: int, pixels: int) -> QTransform:
    """From a tile of so many pixels a side to the piece, mm: turned as its sheet lies, mirrored on the back."""
    step = motif.repeat / pixels
    turn = (way + motif.turn * side) % 4
    c, s = ((1, 0), (0, 1), (-1, 0), (0, -1))[turn]
    # the tile's x to the right and y down, turned to the left by quarters; the back is seen from the other side
    right, down = (c * side * step, s * side * step), (s * step, -c * step)
    if side < 0:
        right = (-c * step, -s * step)
    return QTransform(right[0], right[1], down[0], down[1], 0.0, 0.0)


def motif_of(paper: Paper, front: bool) -> tuple[Motif | None, str]:
    """What is printed on a face, and the colour under it."""
    return (paper.front_motif, paper.front) if front else (paper.back_motif, paper.back)


def flat_brush(paper: Paper, way: int, onto: QTransform, front: bool = True) -> QBrush:
    """What a face is filled with where it lies flat: `onto` takes the piece (mm) to pixels."""
    motif, ground = motif_of(paper, front)
    if motif is None:
        return QBrush(QColor(ground))
    pixels = tile_side(motif.repeat * math.sqrt(abs(onto.determinant())))
    brush = QBrush(tile(motif, ground, STEPS, pixels))
    brush.setTransform(lying(motif, way, 1 if front else -1, pixels) * onto)
    return brush


def draw_plate(painter: QPainter, box: QRectF, ground: QColor) -> None:
    """A plain field behind words on a pattern; pen and brush stay."""
    painter.save()
    plate = QColor(ground)
    plate.setAlphaF(0.86)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(plate)
    painter.drawRoundedRect(box.adjusted(-4, -1, 4, 1), 3, 3)
    painter.restore()
