"""The standing view on the Opening page: follows the playhead and shows where sheets meet."""

from __future__ import annotations

from collections.abc import Sequence

from msgspec.structs import replace
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPen, QPolygonF, QResizeEvent
from PySide6.QtWidgets import QWidget

from yawning_lantern.desktop.shared.session import Session
from yawning_lantern.desktop.shared.standing_view import StandingView
from yawning_lantern.fold import State, extent
from yawning_lantern.fold.bsp import Vec
from yawning_lantern.fold.camera import Projection
from yawning_lantern.opening import Contact, Opening
from yawning_lantern.study import Study, state_at
from yawning_lantern.study.opened import room_of

CLOSER = 1.25
"""Of a long opening: the way of a lid is tall and thin, and what matters fills the view so."""
LONG = 4  # steps
MARGIN = 0.06  # of the view, free around the shut thing: what it stands on is seen too


class OpeningView(StandingView):
    """Shows the opening at a time; all of the opening stays in view, so that nothing jumps."""

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        self.opening: Opening | None = None
        self._of: Study | None = None
        self.time = 0.0
        self._around: tuple[Vec, ...] = ()
        self._near = 1.0
        self._marks: list[tuple[Contact, str]] = []
        self.labels: list[QRectF] = []
        """Where words stand at contacts, as painted last."""
        super().__init__(session, parent)
        self.setAccessibleName("The opening, standing")

    def show_opening(self, study: Study | None, opening: Opening | None) -> None:
        """Show another opening, or none."""
        self.opening, self._of = opening, study
        self._around = ()
        if study is not None and opening is not None:
            self._around = room_of(study, opening)
        self._come_near()
        self._disturbed()

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Another size takes another nearness."""
        self._come_near()
        super().resizeEvent(event)

    def _come_near(self) -> None:
        """Look at a long opening from nearer, as far as the shut thing stays whole."""
        if self.camera.zoom not in (1.0, self._near):
            return  # the maker's own
        near = 1.0
        if self._of is not None and self.opening is not None and len(self.opening.steps) >= LONG:
            (ax, ay, az), (bx, by, bz) = extent(self._of.assembly, self._of.shut_frames)
            shut = [(x, y, z) for x in (ax, bx) for y in (ay, by) for z in (az, bz)]
            camera = replace(self.camera, zoom=CLOSER, shift=(0.0, 0.0))
            wide, high = float(self.width()), float(self.height())
            seen = Projection.holding(camera, (*shut, *self._around), (wide, high)).points(shut)
            over = max(max(abs(x / wide - 0.5), abs(y / high - 0.5)) for x, y in seen) / (0.5 - MARGIN)
            near = max(1.0, CLOSER / max(over, 1.0))
        self._near = near
        self.camera = replace(self.camera, zoom=near)

    def show_time(self, time: float, marks: Sequence[tuple[Contact, str]]) -> None:
        """Go to a time, with contacts to mark and their words."""
        self.time, self._marks = time, list(marks)
        self._disturbed()

    def annotations(self) -> list[str]:
        """The words at the contacts that are marked now."""
        return [words for _, words in self._marks]

    def shown(self) -> float | State:
        study = self._session.study
        if study is None or self.opening is None or study is not self._of:
            return 0.0  # another design is open by now: its own opening is still being found
        return state_at(study, self.opening, self.time)

    def around(self) -> Sequence[Vec]:
        return self._around

    def annotate(self, painter: QPainter) -> None:
        """Both sheets of a contact outlined, and at them its sign and words."""
        self.labels.clear()
        for met, words in self._marks if self._session.study is self._of else ():
            colour = self.theme.colour("tight" if met.rests else "clash")
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(colour, 2.5, Qt.PenStyle.DotLine if met.rests else Qt.PenStyle.DashLine))
            places: list[QPointF] = []
            for sheet in self._drawn:
                if sheet.node in (met.a, met.b):
                    painter.drawPolygon(sheet.polygon)
                    places.append(sheet.polygon.boundingRect().center())
            if places:
                middle = QPointF(sum(p.x() for p in places) / len(places), sum(p.y() for p in places) / len(places))
                self._tag(painter, middle, words, colour, met.rests)

    def _tag(self, painter: QPainter, at: QPointF, words: str, colour: QColor, rests: bool) -> None:
        box = QRectF(painter.fontMetrics().boundingRect(words)).adjusted(-4, -3, 24, 3)
        box.moveCenter(at)
        box.moveLeft(max(4.0, min(box.left(), self.width() - box.width() - 4)))
        while any(box.intersects(other) for other in self.labels):
            box.translate(0, box.height() + 2)
        self.labels.append(QRectF(box))
        painter.setPen(QPen(colour, 1.5))
        painter.setBrush(self.theme.colour("card"))
        painter.drawRect(box)
        sign = QPointF(box.left() + 11, box.center().y())
        painter.setBrush(colour)
        if rests:
            painter.drawPolygon(QPolygonF([sign + QPointF(-5, -4), sign + QPointF(5, -4), sign + QPointF(0, 4)]))
        else:
            painter.setPen(QPen(colour, 2.5))
            painter.drawLine(sign + QPointF(-4, -4), sign + QPointF(4, 4))
            painter.drawLine(sign + QPointF(-4, 4), sign + QPointF(4, -4))
        painter.setPen(self.theme.colour("ink"))
        painter.drawText(box.adjusted(22, 0, -2, 0), Qt.AlignmentFlag.AlignVCenter, words)
