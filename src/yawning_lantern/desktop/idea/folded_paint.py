"""A folded sheet painted from above: what lies on top, deeper where there are fewer layers; glue, open scores, a fold
that is meant."""

from __future__ import annotations

from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QColor, QPainter, QPen

from yawning_lantern.desktop.idea.folded_map import FoldedMap
from yawning_lantern.desktop.shared.theme import Theme
from yawning_lantern.flatfold.findings import face_up
from yawning_lantern.flatfold.offers import Offer
from yawning_lantern.flatfold.state import apply
from yawning_lantern.pattern import Point
from yawning_lantern.pattern.convex import centroid

DARK, LIGHT = "#2b2640", "#f7f2e6"


def paint_sheet(painter: QPainter, at: FoldedMap, theme: Theme, faces: tuple[str, str]) -> None:
    """The layers in the colours of the paper's front and back, every panel's outline, glue and open scores."""
    state = at.state
    deep = max((len(s.layers) for s in at.layers), default=1)
    for stack in at.layers:
        colour = QColor(faces[0 if face_up(state, stack.layers[-1]) > 0 else 1])
        painter.setBrush(colour.darker(100 + 22 * (deep - len(stack.layers)) // deep))
        painter.setPen(QPen(colour.darker(115), 0.8))
        painter.drawPolygon(at.ring(stack.outline))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.setPen(QPen(theme.colour("faint"), 0.6))
    for place in state.places:
        painter.drawPolygon(at.ring(place))
    painter.setPen(QPen(theme.colour("lamp"), 1))
    painter.setBrush(Qt.BrushStyle.BDiagPattern)
    for stuck in state.glued:
        for spot in stuck.spots:
            painter.drawPolygon(at.ring(tuple(apply(state.isos[stuck.a], p) for p in spot)))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.setPen(QPen(theme.colour("worked"), 1.6, Qt.PenStyle.DashLine))
    for k, hinge in enumerate(state.sheet.hinges):
        if k not in state.shut and hinge.scored:
            a, b = state.stretch(k)
            painter.drawLine(at.px(a), at.px(b))


def paint_names(painter: QPainter, at: FoldedMap, theme: Theme, faces: tuple[str, str], chosen: str) -> None:
    """The panels that lie on top by name, with how many layers there are; the chosen one framed."""
    state = at.state
    for name in at.panels():
        largest = at.largest(name)
        if largest is None:
            continue
        ring = at.ring(largest.outline)
        light = QColor(faces[0 if face_up(state, state.sheet.at(name)) > 0 else 1]).lightnessF() > 0.5
        box = ring.boundingRect()
        box.moveCenter(at.px(centroid(largest.outline)))
        painter.setPen(QColor(DARK if light else LIGHT))
        if painter.fontMetrics().horizontalAdvance(name) + 4 < box.width():
            count = len(largest.layers)
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, name if count < 2 else f"{name}\n{count} layers")
        if name == chosen:
            painter.setPen(QPen(theme.colour("lamp"), 2))
            painter.drawPolygon(ring)


def paint_meant(
    painter: QPainter, at: FoldedMap, theme: Theme, offer: Offer | None, tuck: bool, pressed: Point, hand: QPointF
) -> None:
    """How far the hand is, the line of the fold that it is on its way to, and where what moves comes to lie."""
    painter.setPen(QPen(theme.colour("lamp"), 1.5, Qt.PenStyle.DotLine))
    painter.drawLine(at.px(pressed), hand)
    if offer is None:
        return
    colour = theme.colour("lamp" if offer.after is not None or tuck else "clash")
    painter.setPen(QPen(colour, 3))
    painter.drawLine(at.px(offer.line[0]), at.px(offer.line[1]))
    if offer.after is not None:
        painter.setPen(QPen(colour, 2, Qt.PenStyle.DashLine))
        for k, place in enumerate(offer.after.places):
            if place != at.state.places[k]:
                painter.drawPolygon(at.ring(place))
