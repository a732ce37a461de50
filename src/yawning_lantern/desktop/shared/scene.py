"""Painting a folded thing from a study: the one picture that the standing view and the thumbnails share."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache
from typing import NamedTuple

from PySide6.QtCore import QLineF, QPointF, Qt
from PySide6.QtGui import QBrush, QColor, QPainter, QPen, QPolygonF

from yawning_lantern.assembly.joined import Frame
from yawning_lantern.desktop.shared.theme import Theme
from yawning_lantern.fold import Facet, State, apply, paint_order
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


class _Ink(NamedTuple):
    """What a sheet of one colour is painted with: its face, its edges, and the seams that a split made."""

    fill: QBrush
    edge: QPen
    seam: QPen


@lru_cache(maxsize=1024)
def _ink(red: int, green: int, blue: int) -> _Ink:
    fill = QColor(red, green, blue)
    return _Ink(QBrush(fill), QPen(fill.darker(165), 0.9), QPen(fill, 0.6))


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
        self._points = [p for facet in self._tree.source for p in facet.points] if self._tree is not None else []
        self._view = Projection.holding(camera, [*self._points, *around] or [(0.0, 0.0, 0.0)], size)

    def paint(self, painter: QPainter, chosen: str = "") -> Drawn:
        """Table, sheets far to near, contents; gives every polygon with its element, in the order painted."""
        self._table(painter)
        study, view = self._study, self._view
        nodes, eye, pixels = study.assembly.nodes, view.eye, self._pixels
        depth = {element: r.depth for element, r in study.resolved.items()}
        lamp = QPen(self._theme.colour("lamp"), 2.0)
        drawn: Drawn = []
        for facet in paint_order(self._tree, eye):
            node = nodes[facet.node]
            polygon = pixels(facet.points)
            stock = node.piece.stock
            red, green, blue = shade(facet, stock.front, stock.back, depth[node.element], eye)
            ink = _ink(round(red * 255), round(green * 255), round(blue * 255))
            painter.setBrush(ink.fill)
            edge = lamp if node.element == chosen else ink.edge
            if all(facet.edges):
                painter.setPen(edge)
                painter.drawPolygon(polygon)
            else:
                painter.setPen(ink.seam)
                painter.drawPolygon(polygon)
                painter.setPen(edge)
                self._edges(painter, facet, polygon)
            drawn.append(Sheet(node.element, polygon, facet.node, faces_eye(facet, eye)))
        if self._position >= 0:
            self._contents(painter)
        return drawn

    def _pixels(self, points: Sequence[Vec]) -> QPolygonF:
        """Points (mm) as a polygon in pixels."""
        return QPolygonF([QPointF(x, y) for x, y in self._view.points(points)])

    @staticmethod
    def _edges(painter: QPainter, facet: Facet, polygon: QPolygonF) -> None:
        """The original edges only, not those a split made."""
        n = polygon.size()
        lines = [QLineF(polygon.at(i), polygon.at((i + 1) % n)) for i in range(n) if facet.edges[i]]
        if lines:
            painter.drawLines(lines)

    def _table(self, painter: QPainter) -> None:
        """The footprint on the table, so that the thing stands somewhere."""
        if self._view.eye[2] <= 0:
            return
        lo = [min(p[k] for p in self._points) - 6 for k in range(2)]
        hi = [max(p[k] for p in self._points) + 6 for k in range(2)]
        corners = ((lo[0], lo[1]), (hi[0], lo[1]), (hi[0], hi[1]), (lo[0], hi[1]))
        painter.setPen(QPen(self._theme.colour("line"), 1, Qt.PenStyle.DashLine))
        painter.setBrush(self._theme.colour("ground"))
        painter.drawPolygon(self._pixels([(x, y, 0.0) for x, y in corners]))

    def _contents(self, painter: QPainter) -> None:
        """What stands inside, as a dashed box."""
        painter.setPen(QPen(self._theme.colour("lamp"), 1.2, Qt.PenStyle.DashLine))
        for element, r in self._study.resolved.items():
            if r.part.contents is None:
                continue
            for mount in (m for m in r.part.mounts if m.holds):
                self._standing_box(painter, self._study.mount_frames[element, mount.id], r.part.contents)

    def _standing_box(self, painter: QPainter, frame: Frame, size: tuple[float, float, float]) -> None:
        w, d, h = size
        feet = [(-w / 2, -d / 2), (w / 2, -d / 2), (w / 2, d / 2), (-w / 2, d / 2)]
        rims: list[list[Vec]] = [[apply(frame, x, y, z) for x, y in feet] for z in (0.0, h)]
        low, high = ([QPointF(*self._view.point(p)) for p in rim] for rim in rims)
        for k in range(4):
            j = (k + 1) % 4
            painter.drawLine(low[k], low[j])
            painter.drawLine(high[k], high[j])
            painter.drawLine(low[k], high[k])
