"""What the flat view writes on a panel: which side shows once it is folded, and which way is up."""

from __future__ import annotations

import math

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPen, QPolygonF

from yawning_lantern.fold import PanelSeen
from yawning_lantern.study import Resolved

SHOWS = {"shut": "shows", "open": "shows when open", "never": "hidden"}
ARROW = 13.0
SMALLEST = 11.0  # pixels: on less there is no room for an arrow


Names = tuple[str, str]
"""What the front and the back of a panel are called where they are faces of the part, else nothing."""


NAMELESS: Names = ("", "")


def names_of(r: Resolved | None) -> dict[str, Names]:
    """What the faces of a folded sheet are called, by panel."""
    names: dict[str, Names] = {}
    for mount in r.part.mounts if r is not None and r.part.folding else ():
        front, back = names.get(mount.panel, NAMELESS)
        names[mount.panel] = (mount.label, back) if mount.side > 0 else (front, mount.label)
    return names


def seen_words(seen: PanelSeen, names: Names = ("", "")) -> tuple[str, str]:
    """Front and back in words, by their names where they have some."""
    told = []
    for word, shows, name in zip(("front", "back"), (seen.front, seen.back), names, strict=True):
        told.append(name if name and shows != "never" else f"{name or word} {SHOWS[shows]}")
    return told[0], told[1]


def draw_seen(painter: QPainter, seen: PanelSeen, box: QRectF, ink: QColor, names: Names = ("", "")) -> None:
    """An arrow towards up in the middle of a panel's box, and words below where there is room: both faces, or one."""
    if min(box.width(), box.height()) < SMALLEST:
        return
    middle = box.center()
    ux, uy = seen.up[0], -seen.up[1]
    length = min(ARROW, box.width() / 3, box.height() / 3)
    words = seen_words(seen, names)
    metrics = painter.fontMetrics()
    lines: tuple[str, ...] = words
    for told in (words, tuple(filter(None, names))[:1], ()):
        lines = told
        wide = max((metrics.horizontalAdvance(text) for text in lines), default=0)
        high = len(lines) * metrics.height() + 2 * length + (16 if len(lines) > 1 else 6)
        if wide + 4 <= box.width() and high <= box.height():
            break
    at = QPointF(middle.x(), middle.y() - len(lines) * metrics.height() / 2)
    tip, foot = at + QPointF(ux, uy) * length, at - QPointF(ux, uy) * length
    hollow = seen.front == "never" and seen.back == "never"
    painter.setPen(QPen(ink, 1.6, Qt.PenStyle.DotLine if hollow else Qt.PenStyle.SolidLine))
    painter.drawLine(foot, tip)
    side = QPointF(-uy, ux)
    head = QPolygonF([tip, tip - QPointF(ux, uy) * 6 + side * 4, tip - QPointF(ux, uy) * 6 - side * 4])
    painter.setBrush(Qt.BrushStyle.NoBrush if hollow else ink)
    painter.drawPolygon(head)
    painter.setBrush(Qt.BrushStyle.NoBrush)
    if lines:
        top = at.y() + length + (6 if len(lines) > 1 else 2)
        for row, text in enumerate(lines):
            line = QRectF(box.left(), top + row * metrics.height(), box.width(), metrics.height())
            painter.drawText(line, Qt.AlignmentFlag.AlignCenter, text)


def off_holes(label: QRectF, holes: list[QRectF], panel: QRectF) -> QRectF:
    """A label moved straight down or up off the holes under it, where its panel has room; else where it was. Pixels."""
    met = [hole for hole in holes if hole.intersects(label)]
    if not met:
        return label
    for top in (max(hole.bottom() for hole in met), min(hole.top() for hole in met) - label.height()):
        moved = QRectF(label.left(), top, label.width(), label.height())
        if panel.contains(moved) and not any(hole.intersects(moved) for hole in holes):
            return moved
    return label


def up_words(seen: PanelSeen) -> str:
    """Which way is up on a panel as the piece lies, in words."""
    angle = math.degrees(math.atan2(seen.up[1], seen.up[0])) % 360
    names = ("right", "up", "left", "down")
    return f"up is {names[round(angle / 90) % 4]}"
