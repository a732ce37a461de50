"""Painting a folded thing from a study: the one picture that the standing view and the thumbnails share."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QColor, QPainter, QPen, QPolygonF

from yawning_lantern.desktop.shared.theme import Theme
from yawning_lantern.fold import Facet, State, apply, corners, paint_order
from yawning_lantern.fold.bsp import Vec
from yawning_lantern.fold.camera import Camera, Projection
from yawning_lantern.fold.lit import faces_eye, shade
from yawning_lantern.study import Study


class Sheet(NamedTuple):
    """A polygon as it was painted: whose it is, which node, and whether its front is towards the eye."""

    element: str
    polygon: QPolygonF
    node: int
    front: bool


Drawn = list[Sheet]


class ScenePainter:
    """Paints one study at one place between flat and open, or in a state, as a camera sees it.

    `around` holds points (mm) that must be in view too, so that pictures of one film keep their scale.
    """

    def __init__(
        self, study: Study, at: float | State, camera: Camera, size: tuple[float, float], theme: Theme,
        around: Sequence[Vec] = (),
    ) -> None:  # fmt: skip
        position = at if isinstance(at, float) else at.make - 1.0
        self._study, self._position, self._theme = study, position, theme
        self._frames, self._tree = study.picture(at) if isinstance(at, float) else study.picture_of(at)
        nodes = study.assembly.nodes
        self._points = [
            p for node, f in zip(nodes, self._frames, strict=True) for p in corners(node, f, 1.0 + min(position, 0.0))
        ]
        self._view = Projection.holding(camera, [*self._points, *around], size)

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
            stock = node.piece.stock
            fill = QColor.fromRgbF(*shade(facet, stock.front, stock.back, depth[node.element], view.eye))
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
            drawn.append(Sheet(node.element, polygon, facet.node, faces_eye(facet, view.eye)))
        if self._position >= 0:
            self._contents(painter)
        return drawn

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
