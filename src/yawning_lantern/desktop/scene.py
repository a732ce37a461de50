"""Painting a folded thing from a study: the one picture that the standing view and the thumbnails share."""

from __future__ import annotations

import math
from typing import NamedTuple

from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QColor, QPainter, QPen, QPolygonF

from yawning_lantern.desktop.camera import Camera, Projection
from yawning_lantern.desktop.theme import Theme
from yawning_lantern.fold import Facet, apply, corners, paint_order
from yawning_lantern.fold.bsp import Vec
from yawning_lantern.study import Study

LIGHT = (0.36, -0.48, 0.8)


class Sheet(NamedTuple):
    """A polygon as it was painted: whose it is, which node, and whether its front is towards the eye."""

    element: str
    polygon: QPolygonF
    node: int
    front: bool


Drawn = list[Sheet]


class ScenePainter:
    """Paints one study at one place between flat and open, as a camera sees it."""

    def __init__(self, study: Study, position: float, camera: Camera, size: tuple[float, float], theme: Theme) -> None:
        self._study, self._position, self._theme = study, position, theme
        self._frames, self._tree = study.picture(position)
        nodes = study.assembly.nodes
        self._points = [
            p for node, f in zip(nodes, self._frames, strict=True) for p in corners(node, f, 1.0 + min(position, 0.0))
        ]
        lo = [min(p[k] for p in self._points) for k in range(3)]
        hi = [max(p[k] for p in self._points) for k in range(3)]
        middle = ((lo[0] + hi[0]) / 2, (lo[1] + hi[1]) / 2, (lo[2] + hi[2]) / 2)
        radius = max(math.dist(p, middle) for p in self._points) or 1.0
        self._view = Projection.of(camera, middle, radius, size)

    def paint(self, painter: QPainter, chosen: str = "") -> Drawn:
        """Table, sheets far to near, contents; gives every polygon with its element, in the order painted."""
        self._table(painter)
        study, view = self._study, self._view
        nodes = study.assembly.nodes
        depth = {element: r.depth for element, r in study.resolved.items()}
        lamp = QPen(self._theme.colour("lamp"), 2.0)
        drawn: Drawn = []
        for facet in paint_order(self._tree, view.eye):
            node = nodes[facet.node]
            polygon = QPolygonF([QPointF(*view.point(p)) for p in facet.points])
            fill = self._fill(facet, node.piece.stock.front, node.piece.stock.back, depth[node.element])
            painter.setBrush(fill)
            edge = lamp if node.element == chosen else QPen(fill.darker(165), 0.9)
            if all(facet.edges):
                painter.setPen(edge)
                painter.drawPolygon(polygon)
            else:
                painter.setPen(QPen(fill, 0.6))
                painter.drawPolygon(polygon)
                painter.setPen(edge)
                self._edges(painter, facet, polygon)
            drawn.append(Sheet(node.element, polygon, facet.node, self._faces_eye(facet)))
        if self._position >= 0:
            self._contents(painter)
        return drawn

    def _faces_eye(self, facet: Facet) -> bool:
        n, p, eye = facet.normal, facet.points[0], self._view.eye
        return (eye[0] - p[0]) * n[0] + (eye[1] - p[1]) * n[1] + (eye[2] - p[2]) * n[2] > 0

    def _fill(self, facet: Facet, front: str, back: str, depth: int) -> QColor:
        n, seen = facet.normal, self._faces_eye(facet)
        lit = (1.0 if seen else -1.0) * (n[0] * LIGHT[0] + n[1] * LIGHT[1] + n[2] * LIGHT[2])
        base = QColor(front if seen else back)
        share = 0.70 + 0.30 * max(0.0, lit) - 0.06 * (depth % 3) * (0.5 if lit > 0.7 else 1.0)
        parts = (min(1.0, part * share) for part in (base.redF(), base.greenF(), base.blueF()))
        return QColor.fromRgbF(*parts)

    @staticmethod
    def _edges(painter: QPainter, facet: Facet, polygon: QPolygonF) -> None:
        """The original edges only, not those a split made."""
        n = polygon.size()
        for i in range(n):
            if facet.edges[i]:
                painter.drawLine(polygon.at(i), polygon.at((i + 1) % n))

    def _table(self, painter: QPainter) -> None:
        """The footprint on the table, so that the thing stands somewhere."""
        if self._view.eye[2] <= 0:
            return
        lo = [min(p[k] for p in self._points) - 6 for k in range(2)]
        hi = [max(p[k] for p in self._points) + 6 for k in range(2)]
        corners = ((lo[0], lo[1]), (hi[0], lo[1]), (hi[0], hi[1]), (lo[0], hi[1]))
        painter.setPen(QPen(self._theme.colour("line"), 1, Qt.PenStyle.DashLine))
        painter.setBrush(self._theme.colour("ground"))
        painter.drawPolygon(QPolygonF([QPointF(*self._view.point((x, y, 0.0))) for x, y in corners]))

    def _contents(self, painter: QPainter) -> None:
        """What stands inside, as a dashed box."""
        painter.setPen(QPen(self._theme.colour("lamp"), 1.2, Qt.PenStyle.DashLine))
        for element, r in self._study.resolved.items():
            if r.part.contents is None or (element, "floor") not in self._study.mount_frames:
                continue
            frame = self._study.mount_frames[element, "floor"]
            w, d, h = r.part.contents
            feet = [(-w / 2, -d / 2), (w / 2, -d / 2), (w / 2, d / 2), (-w / 2, d / 2)]
            rims: list[list[Vec]] = [[apply(frame, x, y, z) for x, y in feet] for z in (0.0, h)]
            low, high = ([QPointF(*self._view.point(p)) for p in rim] for rim in rims)
            for k in range(4):
                j = (k + 1) % 4
                painter.drawLine(low[k], low[j])
                painter.drawLine(high[k], high[j])
                painter.drawLine(low[k], high[k])
