"""The folded thing on the table: turned with the mouse or keys, painted in exact order."""

from __future__ import annotations

import math
from collections.abc import Sequence, Set

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, QTimer
from PySide6.QtGui import (
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QPolygonF,
    QWheelEvent,
)
from PySide6.QtWidgets import QWidget

from yawning_lantern.desktop.shared.landing import Landing
from yawning_lantern.desktop.shared.putting import suiting_faces
from yawning_lantern.desktop.shared.scene import Drawn, ScenePainter, Sheet, Side
from yawning_lantern.desktop.shared.session import Session
from yawning_lantern.desktop.shared.spoken import GRAPHIC
from yawning_lantern.desktop.shared.theme import DAY, Theme
from yawning_lantern.fold import State
from yawning_lantern.fold.bsp import Vec
from yawning_lantern.fold.camera import Camera
from yawning_lantern.study import Study

REST = 140  # ms without movement until edges are smoothed


class StandingView(Landing):
    """Shows the session's study at its place between flat and open. A click selects the part under the pointer."""

    spoken_role = GRAPHIC

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(session, parent)
        self.theme: Theme = DAY
        self.camera = Camera()
        self._drawn: Drawn = []
        self._look: object = None
        self._printed: Set[Side] | None = None
        """While sizes change under one look, patterns are painted where they were seen when it was last at rest."""
        self._pressed: QPointF | None = None
        self._last = QPointF()
        self._smooth = True
        self._rest = QTimer(self)
        self._rest.setSingleShot(True)
        self._rest.setInterval(REST)
        self._rest.timeout.connect(self._rested)
        self.setMinimumSize(200, 170)
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)  # nothing behind it need be painted
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Standing view")
        self._target: Sheet | None = None
        self._host, self._offered = "", dict[str, str]()
        self.setAccessibleDescription("The folded thing. Arrow keys turn it, plus and minus zoom, 0 fits it again.")
        session.studied.connect(self._disturbed)
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

    def shown(self) -> float | State:
        """The place between flat and open, or the state, that is shown."""
        return self._session.position

    def around(self) -> Sequence[Vec]:
        """Points (mm) that must be in view beside what is shown."""
        return ()

    def only(self) -> Set[int] | None:
        """The nodes that are shown, where not all are."""
        return None

    def annotate(self, painter: QPainter) -> None:
        """Whatever is painted over the picture."""

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), self.theme.colour("table"))
        study = self._session.study
        if study is None:
            painter.setPen(self.theme.colour("faint"))
            words = "This cannot be folded as it stands." if self._session.is_refused else "Folding …"
            painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter, words)
            return
        painter.setRenderHint(QPainter.RenderHint.Antialiasing, self._smooth)
        size = (float(self.width()), float(self.height()))
        look = self.camera, self.shown(), size, self.theme, len(study.assembly.nodes)
        known = None if self._smooth or self._look != look else self._printed
        scene = ScenePainter(study, self.shown(), self.camera, size, self.theme, self.around(), self.only(), known)
        chosen = self._session.selection if len(study.resolved) > 1 else ""
        self._drawn = scene.paint(painter, chosen)
        self._look, self._printed = look, scene.printed
        self.annotate(painter)
        self._mark_offered(painter, study)
        if self._target is not None:
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(self.theme.colour("worked"), 3, Qt.PenStyle.DashLine))
            painter.drawPolygon(self._target.polygon)
        if self.hasFocus():
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(self.theme.colour("lamp"), 2))
            painter.drawRect(self.rect().adjusted(1, 1, -2, -2))

    def offer(self, host: str, faces: dict[str, str]) -> None:
        """Mark faces of a part as those that would take what is about to be put on it: words by face id, or none."""
        if (host, faces) != (self._host, self._offered):
            self._host, self._offered = host, faces
            self.update()

    def _mark_offered(self, painter: QPainter, study: Study) -> None:
        """Dashes around the offered faces that are seen, with their words, and in words how many there are."""
        if not self._offered or self._host not in study.resolved:
            return
        ink = self.theme.colour("worked")
        words = {
            (m.instance, m.panel, m.side): self._offered[m.id]
            for m in study.resolved[self._host].part.mounts
            if m.id in self._offered
        }
        seen: dict[str, QPolygonF] = {}
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(ink, 2, Qt.PenStyle.DashLine))
        for sheet in self._drawn:
            node = study.assembly.nodes[sheet.node]
            face = words.get((node.instance, node.panel.name, 1 if sheet.front else -1))
            if sheet.element == self._host and face is not None:
                painter.drawPolygon(sheet.polygon)
                seen[face] = sheet.polygon
        painter.setPen(ink)
        for face, polygon in seen.items():
            self._label(painter, face, polygon.boundingRect().center())
        count = len(self._offered)
        told = f"{count} faces would take it" if count > 1 else "One face would take it"
        self._label(painter, f"{told}, {len(seen)} seen here", QPointF(self.width() / 2, self.height() - 16.0))

    def _label(self, painter: QPainter, words: str, at: QPointF) -> None:
        box = QRectF(painter.fontMetrics().boundingRect(words)).adjusted(-5, -2, 5, 2)
        box.moveCenter(at)
        painter.fillRect(box, self.theme.colour("card"))
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, words)

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
            sheet = self.sheet_at(event.position())
            if sheet is not None:
                self._session.select(sheet.element)
        self._pressed = None

    def sheet_at(self, at: QPointF) -> Sheet | None:
        """The sheet that is seen at a pixel."""
        return next((s for s in reversed(self._drawn) if s.polygon.containsPoint(at, Qt.FillRule.OddEvenFill)), None)

    def face_at(self, at: QPointF, family_id: str) -> tuple[str, str] | None:
        """The part under a pixel and its face that is seen there, if that can carry a structure."""
        sheet, study = self.sheet_at(at), self._session.study
        if sheet is None or study is None:
            return None
        node = study.assembly.nodes[sheet.node]
        side = 1 if sheet.front else -1
        suits = {face for face, _ in suiting_faces(self._session, sheet.element, family_id)}
        for mount in study.resolved[sheet.element].part.mounts:
            here = (mount.instance, mount.panel, mount.side) == (node.instance, node.panel.name, side)
            if here and mount.id in suits:
                return sheet.element, mount.id
        return None

    def host_at(self, at: QPointF) -> str | None:
        sheet = self.sheet_at(at)
        return sheet.element if sheet is not None else None

    def mark(self, at: QPointF | None) -> None:
        self._target = self.sheet_at(at) if at is not None else None

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
