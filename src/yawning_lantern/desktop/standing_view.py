"""The folded thing on the table: turned with the mouse or keys, painted in exact order."""

from __future__ import annotations

import math

from PySide6.QtCore import QPointF, QSize, Qt, QTimer
from PySide6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QPolygonF, QWheelEvent
from PySide6.QtWidgets import QWidget

from yawning_lantern.desktop.camera import Camera, Projection
from yawning_lantern.desktop.session import Session
from yawning_lantern.desktop.theme import DAY, Theme
from yawning_lantern.fold import Facet, apply, paint_order
from yawning_lantern.fold.bsp import Vec

LIGHT = (0.36, -0.48, 0.8)
REST = 140  # ms without movement until edges are smoothed


class StandingView(QWidget):
    """Shows the session's study at its place between flat and open. A click selects the part under the pointer."""

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._session = session
        self.theme: Theme = DAY
        self.camera = Camera()
        self._drawn: list[tuple[str, QPolygonF]] = []
        self._pressed: QPointF | None = None
        self._last = QPointF()
        self._smooth = True
        self._rest = QTimer(self)
        self._rest.setSingleShot(True)
        self._rest.setInterval(REST)
        self._rest.timeout.connect(self._rested)
        self.setMinimumSize(240, 200)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Standing view")
        self.setAccessibleDescription("The folded thing. Arrow keys turn it, plus and minus zoom, 0 fits it again.")
        session.studied.connect(self.update)
        session.moved.connect(self._disturbed)
        session.selected.connect(self.update)

    def sizeHint(self) -> QSize:
        return QSize(480, 360)

    def fit(self) -> None:
        """Everything in view again, from the usual side."""
        self.camera = Camera()
        self.update()

    def _disturbed(self) -> None:
        self._smooth = False
        self._rest.start()
        self.update()

    def _rested(self) -> None:
        self._smooth = True
        self.update()

    def _projection(self, points: list[Vec]) -> Projection:
        lo = [min(p[k] for p in points) for k in range(3)]
        hi = [max(p[k] for p in points) for k in range(3)]
        middle = ((lo[0] + hi[0]) / 2, (lo[1] + hi[1]) / 2, (lo[2] + hi[2]) / 2)
        radius = max(math.dist(p, middle) for p in points) or 1.0
        return Projection.of(self.camera, middle, radius, (self.width(), self.height()))

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), self.theme.colour("table"))
        study = self._session.study
        if study is None:
            painter.setPen(self.theme.colour("faint"))
            painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter, "Folding …")
            return
        painter.setRenderHint(QPainter.RenderHint.Antialiasing, self._smooth)
        frames, tree = study.picture(self._session.position)
        nodes = study.assembly.nodes
        points = [apply(f, x, y) for node, f in zip(nodes, frames, strict=True) for x, y in node.panel.outline]
        view = self._projection(points)
        self._shadow(painter, view, points)
        self._drawn = []
        depth = {element: r.depth for element, r in study.resolved.items()}
        chosen = self._session.selection
        for facet in paint_order(tree, view.eye):
            node = nodes[facet.node]
            polygon = QPolygonF([QPointF(*view.point(p)) for p in facet.points])
            fill = self._fill(facet, view, node.piece.stock.front, node.piece.stock.back, depth[node.element])
            painter.setBrush(fill)
            painter.setPen(QPen(fill, 0.6))
            painter.drawPolygon(polygon)
            self._edges(painter, facet, polygon, fill, node.element == chosen)
            self._drawn.append((node.element, polygon))
        self._contents(painter, view)
        if self.hasFocus():
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(self.theme.colour("lamp"), 2))
            painter.drawRect(self.rect().adjusted(1, 1, -2, -2))

    def _fill(self, facet: Facet, view: Projection, front: str, back: str, depth: int) -> QColor:
        n, p, eye = facet.normal, facet.points[0], view.eye
        seen = (eye[0] - p[0]) * n[0] + (eye[1] - p[1]) * n[1] + (eye[2] - p[2]) * n[2] > 0
        sign = 1.0 if seen else -1.0
        lit = sign * (n[0] * LIGHT[0] + n[1] * LIGHT[1] + n[2] * LIGHT[2])
        base = QColor(front if seen else back)
        share = 0.70 + 0.30 * max(0.0, lit) - 0.06 * (depth % 3) * (0.5 if lit > 0.7 else 1.0)
        return QColor.fromRgbF(
            min(1.0, base.redF() * share), min(1.0, base.greenF() * share), min(1.0, base.blueF() * share)
        )

    def _edges(self, painter: QPainter, facet: Facet, polygon: QPolygonF, fill: QColor, chosen: bool) -> None:
        pen = QPen(self.theme.colour("lamp"), 2.0) if chosen else QPen(fill.darker(165), 0.9)
        painter.setPen(pen)
        n = polygon.size()
        if all(facet.edges):
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawPolygon(polygon)
            return
        for i in range(n):
            if facet.edges[i]:
                painter.drawLine(polygon.at(i), polygon.at((i + 1) % n))

    def _shadow(self, painter: QPainter, view: Projection, points: list[Vec]) -> None:
        """The footprint on the table, so that the thing stands somewhere."""
        if view.eye[2] <= 0:
            return
        lo = [min(p[k] for p in points) - 6 for k in range(2)]
        hi = [max(p[k] for p in points) + 6 for k in range(2)]
        corners = ((lo[0], lo[1]), (hi[0], lo[1]), (hi[0], hi[1]), (lo[0], hi[1]))
        painter.setPen(QPen(self.theme.colour("line"), 1, Qt.PenStyle.DashLine))
        painter.setBrush(self.theme.colour("ground"))
        painter.drawPolygon(QPolygonF([QPointF(*view.point((x, y, 0.0))) for x, y in corners]))

    def _contents(self, painter: QPainter, view: Projection) -> None:
        """What stands inside, as a dashed box."""
        study = self._session.study
        if study is None or self._session.position < 0:
            return
        pen = QPen(self.theme.colour("lamp"), 1.2, Qt.PenStyle.DashLine)
        painter.setPen(pen)
        for element, r in study.resolved.items():
            if r.part.contents is None or (element, "floor") not in study.mount_frames:
                continue
            frame = study.mount_frames[element, "floor"]
            w, d, h = r.part.contents
            feet = [(-w / 2, -d / 2), (w / 2, -d / 2), (w / 2, d / 2), (-w / 2, d / 2)]
            low = [QPointF(*view.point(apply(frame, x, y, 0.0))) for x, y in feet]
            high = [QPointF(*view.point(apply(frame, x, y, h))) for x, y in feet]
            for k in range(4):
                j = (k + 1) % 4
                painter.drawLine(low[k], low[j])
                painter.drawLine(high[k], high[j])
                painter.drawLine(low[k], high[k])

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self._pressed = self._last = event.position()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._pressed is None:
            return
        by = event.position() - self._last
        self._last = event.position()
        if event.buttons() & Qt.MouseButton.LeftButton and not event.modifiers() & Qt.KeyboardModifier.ShiftModifier:
            self.camera = self.camera.turned(-by.x() * 0.008, by.y() * 0.008)
        else:
            self.camera = self.camera.shifted(by.x(), by.y())
        self._disturbed()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self._pressed is not None and (event.position() - self._pressed).manhattanLength() < 4:
            for element, polygon in reversed(self._drawn):
                if polygon.containsPoint(event.position(), Qt.FillRule.OddEvenFill):
                    self._session.select(element)
                    break
        self._pressed = None

    def wheelEvent(self, event: QWheelEvent) -> None:
        self.camera = self.camera.zoomed(1.0015 ** event.angleDelta().y())
        self._disturbed()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        step = math.radians(8)
        turns = {Qt.Key.Key_Left: (-step, 0.0), Qt.Key.Key_Right: (step, 0.0), Qt.Key.Key_Up: (0.0, step),
                 Qt.Key.Key_Down: (0.0, -step)}  # fmt: skip
        key = Qt.Key(event.key())
        if key in turns:
            self.camera = self.camera.turned(*turns[key])
        elif key in (Qt.Key.Key_Plus, Qt.Key.Key_Equal):
            self.camera = self.camera.zoomed(1.15)
        elif key == Qt.Key.Key_Minus:
            self.camera = self.camera.zoomed(1 / 1.15)
        elif key == Qt.Key.Key_0:
            self.camera = Camera()
        else:
            super().keyPressEvent(event)
            return
        self._disturbed()
