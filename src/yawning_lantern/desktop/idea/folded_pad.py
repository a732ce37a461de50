"""The sheet as it lies folded, seen from above: drag a panel over; what cannot be folded says why."""

from __future__ import annotations

import math
from functools import partial

from PySide6.QtCore import QPoint, QPointF, QSize, Qt, Signal
from PySide6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import QMenu, QWidget

from yawning_lantern.desktop.shared.runner import Runner
from yawning_lantern.desktop.shared.spoken import LIST, Spoken
from yawning_lantern.desktop.shared.theme import DAY, Theme
from yawning_lantern.errors import ParameterError
from yawning_lantern.flatfold.cavity import Stack
from yawning_lantern.flatfold.findings import face_up
from yawning_lantern.flatfold.folding import stepped
from yawning_lantern.flatfold.offers import Offer, glue_at, offers, tucks
from yawning_lantern.flatfold.script import Bring, Glue, Step, Way
from yawning_lantern.flatfold.state import Folded, apply, mirror
from yawning_lantern.flatfold.telling import EDGES, step_words
from yawning_lantern.pattern import Point, bounds
from yawning_lantern.pattern.convex import centroid

MARGIN = 26.0  # px
NEAR = 0.45
"""A fold is meant where the hand is nearer to its end than this share of the way there."""


class FoldedPad(QWidget):
    """`acted` carries an act the maker has done, `said` words about what they try. `mode` is fold, tuck or glue."""

    acted = Signal(object)
    said = Signal(str)
    spoken_role = LIST

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.theme: Theme = DAY
        self.faces = ("#d8cdb8", "#f4efe4")  # the paper's front and back
        self.state: Folded | None = None
        self.layers: tuple[Stack, ...] = ()
        self.mode = "fold"
        self.way: Way = "over"
        self.strip = 6.35
        self.chosen = ""
        self.offered: tuple[Offer, ...] = ()
        self._pressed: Point | None = None
        self._hand: QPointF | None = None
        self._teller = Runner(self)
        self._teller.answered.connect(self._told)
        self._menu: QMenu | None = None
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMinimumSize(220, 220)
        self.setAccessibleName("The sheet, folded")
        self.setAccessibleDescription(
            "Left and right arrow go from panel to panel, Enter lists what can be folded, G what can be glued. Drag a "
            "panel over to fold it."
        )

    def sizeHint(self) -> QSize:
        return QSize(400, 400)

    @property
    def is_idle(self) -> bool:
        """Whether no folds are being worked out."""
        return not self._teller.is_busy

    def stop(self) -> None:
        """Work nothing out any more."""
        self._teller.stop()

    def show_state(self, state: Folded, layers: tuple[Stack, ...]) -> None:
        """Another state, with the areas of the same layers."""
        self.state, self.layers = state, layers
        self._pressed = self._hand = None
        self.offered = ()
        names = self.panels()
        if self.chosen not in names:
            self.chosen = names[0] if names else ""
        self.update()

    def panels(self) -> list[str]:
        """The panels that lie on top, the largest area first."""
        assert self.state is not None
        found = sorted(self.layers, key=lambda s: (-_extent(s.outline), s.outline))
        return list(dict.fromkeys(self.state.name(stack.layers[-1]) for stack in found))

    # -- places

    def _frame(self) -> tuple[float, float, float]:
        """Scale, and where the folded sheet's lower left corner is, px."""
        assert self.state is not None
        x0, y0, x1, y1 = bounds([p for place in self.state.places for p in place])
        scale = min((self.width() - 2 * MARGIN) / max(x1 - x0, 1e-6), (self.height() - 2 * MARGIN) / max(y1 - y0, 1e-6))
        return scale, (self.width() - scale * (x0 + x1)) / 2, (self.height() + scale * (y0 + y1)) / 2

    def px(self, p: Point) -> QPointF:
        """Where a point of the folded sheet is, px."""
        scale, left, foot = self._frame()
        return QPointF(left + p[0] * scale, foot - p[1] * scale)

    def place(self, pixel: QPointF) -> Point:
        """The point of the folded sheet under a pixel, mm."""
        scale, left, foot = self._frame()
        return (pixel.x() - left) / scale, (foot - pixel.y()) / scale

    def _ring(self, points: tuple[Point, ...]) -> QPolygonF:
        return QPolygonF([self.px(p) for p in points])

    def stack_at(self, pixel: QPointF) -> Stack | None:
        """The layers under a pixel."""
        return next(
            (s for s in self.layers if self._ring(s.outline).containsPoint(pixel, Qt.FillRule.OddEvenFill)), None
        )

    # -- hand

    def mousePressEvent(self, event: QMouseEvent) -> None:
        stack = self.stack_at(event.position())
        if stack is None or self.state is None or event.button() != Qt.MouseButton.LeftButton:
            return
        self.chosen = self.state.name(stack.layers[-1])
        if self.mode == "glue":
            step = glue_at(self.state, stack.layers, self.place(event.position()), self.strip)
            if step is None:
                self.said.emit("There is one layer only: nothing to glue it to.")
            else:
                self._try(step)
            return
        self._pressed, self._hand = self.place(event.position()), event.position()
        self._ask()
        self.update()

    def _ask(self) -> None:
        state, chosen, way = self.state, self.chosen, self.way
        assert state is not None
        self._teller.submit(lambda: offers(state, chosen, way))

    def _told(self, found: object) -> None:
        if isinstance(found, Exception):
            raise found
        assert isinstance(found, tuple)
        self.offered = found
        if self._menu is not None:
            self._fill(self._menu)
        if not any(offer.after for offer in found):
            self.said.emit(found[0].why_not if found else f"{self.chosen} hangs on no open score.")
        else:
            self._say_meant()
        self.update()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._pressed is not None:
            self._hand = event.position()
            self._say_meant()
            self.update()

    def meant(self) -> Offer | None:
        """The fold that the hand is on its way to: the one whose end is nearest."""
        if self._pressed is None or self._hand is None:
            return None
        here, best, least = self.place(self._hand), None, NEAR
        for offer in self.offered:
            end = apply(mirror(*offer.line), self._pressed)
            way = math.dist(self._pressed, end)
            off = math.dist(here, end) / way if way > 1e-6 else math.inf
            if off < least:
                best, least = offer, off
        return best

    def _say_meant(self) -> None:
        offer = self.meant()
        if offer is not None:
            tuck = self.mode == "tuck"
            self.said.emit(offer.why_not if offer.after is None and not tuck else step_words(offer.step) + ".")

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        offer = self.meant()
        self._pressed = self._hand = None
        self.update()
        if offer is None or self.state is None:
            return
        if self.mode == "tuck" and isinstance(offer.step, Bring):
            self._tuck(offer.step, self.mapToGlobal(event.position().toPoint()))
        elif offer.after is None:
            self.said.emit(offer.why_not)
        else:
            self.acted.emit(offer.step)

    def _tuck(self, step: Bring, at: QPoint) -> None:
        """Offer every place it can slip into."""
        assert self.state is not None
        found = tucks(self.state, step.hinges)
        if not found:
            self.said.emit(f"{step.hinges[0][1]} can slip in nowhere: it would go through paper.")
            return
        if len(found) == 1:
            self.acted.emit(found[0].step)
            return
        menu = self._open_menu()
        for offer in found:
            menu.addAction(step_words(offer.step), partial(self.acted.emit, offer.step))
        menu.popup(at)

    def _try(self, step: Step) -> None:
        """Do an act, or say why it cannot be done."""
        assert self.state is not None
        try:
            stepped(self.state, step)
        except ParameterError as problem:
            self.said.emit(problem.sentence())
            return
        self.acted.emit(step)

    # -- keys

    def keyPressEvent(self, event: QKeyEvent) -> None:
        names = self.panels() if self.state is not None else []
        if event.key() in (Qt.Key.Key_Left, Qt.Key.Key_Right) and names:
            step = 1 if event.key() == Qt.Key.Key_Right else -1
            self.chosen = names[(names.index(self.chosen) + step) % len(names)]
            self.update()
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self.chosen:
            self.list_folds()
        elif event.key() == Qt.Key.Key_G and self.chosen:
            self.list_glue()
        else:
            super().keyPressEvent(event)

    def _open_menu(self) -> QMenu:
        menu = QMenu(self)
        menu.setToolTipsVisible(True)
        menu.aboutToHide.connect(self._closed)
        self._menu = menu
        return menu

    def _closed(self) -> None:
        self._menu = None

    def list_folds(self) -> None:
        """A menu of every fold that moves the chosen panel, those that cannot be done with the reason."""
        menu = self._open_menu()
        menu.addAction("Looking …").setEnabled(False)
        menu.popup(self.mapToGlobal(self._middle(self.chosen)))
        self._ask()

    def _fill(self, menu: QMenu) -> None:
        menu.clear()
        for offer in self.offered:
            if offer.after is None:
                menu.addAction(f"✕ {step_words(offer.step)}: {offer.why_not}").setEnabled(False)
            else:
                menu.addAction(step_words(offer.step), partial(self.acted.emit, offer.step))
        if not self.offered:
            menu.addAction(f"{self.chosen} hangs on no open score.").setEnabled(False)

    def list_glue(self) -> None:
        """A menu of the edges along which the chosen panel can be glued to the one below it."""
        stack = self._largest(self.chosen)
        if stack is None or len(stack.layers) < 2 or self.state is None:
            self.said.emit("There is one layer only: nothing to glue it to.")
            return
        one, other = (self.state.name(k) for k in stack.layers[-1:-3:-1])
        menu = self._open_menu()
        for edge in EDGES:
            step = Glue(one, other, (edge,), self.strip)
            menu.addAction(step_words(step), partial(self._try, step))
        menu.addAction(step_words(Glue(one, other)), partial(self._try, Glue(one, other)))
        menu.popup(self.mapToGlobal(self._middle(self.chosen)))

    def _largest(self, name: str) -> Stack | None:
        """The largest area over which a panel is the outermost."""
        state = self.state
        if state is None:
            return None
        on = [s for s in self.layers if state.name(s.layers[-1]) == name]
        return max(on, key=lambda s: _extent(s.outline), default=None)

    def _middle(self, name: str) -> QPoint:
        stack = self._largest(name)
        return self.px(centroid(stack.outline)).toPoint() if stack is not None else QPoint()

    def spoken_items(self) -> list[Spoken]:
        """The panels that lie on top."""
        found = []
        for name in self.panels() if self.state is not None else []:
            stack = self._largest(name)
            if stack is None or self.state is None:
                continue
            side = "front" if face_up(self.state, self.state.sheet.at(name)) > 0 else "back"
            words = f"{name}, {side} up, {len(stack.layers)} layers"
            found.append(Spoken(words, self._ring(stack.outline).boundingRect(), chosen=name == self.chosen))
        return found

    # -- picture

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        state, t = self.state, self.theme
        painter.fillRect(self.rect(), t.colour("table"))
        if state is None:
            return
        deep = max((len(s.layers) for s in self.layers), default=1)
        for stack in self.layers:
            top = stack.layers[-1]
            up = face_up(state, top) > 0
            colour = QColor(self.faces[0 if up else 1])
            painter.setBrush(colour.darker(100 + 22 * (deep - len(stack.layers)) // deep))
            painter.setPen(QPen(colour.darker(115), 0.8))
            painter.drawPolygon(self._ring(stack.outline))
        for k in range(len(state.sheet.facets)):
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(t.colour("faint"), 0.6))
            painter.drawPolygon(self._ring(state.places[k]))
        self._paint_glue(painter, state)
        self._paint_open(painter, state)
        for name in self.panels():
            largest = self._largest(name)
            if largest is None:
                continue
            ring = self._ring(largest.outline)
            up = face_up(state, state.sheet.at(name)) > 0
            light = QColor(self.faces[0 if up else 1]).lightnessF() > 0.5
            box = ring.boundingRect()
            box.moveCenter(self.px(centroid(largest.outline)))
            painter.setPen(QColor("#2b2640") if light else QColor("#f7f2e6"))
            if painter.fontMetrics().horizontalAdvance(name) + 4 < box.width():
                count = len(largest.layers)
                words = name if count < 2 else f"{name}\n{count} layers"
                painter.drawText(box, Qt.AlignmentFlag.AlignCenter, words)
            if name == self.chosen and self.hasFocus():
                painter.setPen(QPen(t.colour("lamp"), 2))
                painter.drawPolygon(ring)
        self._paint_meant(painter, state)

    def _paint_glue(self, painter: QPainter, state: Folded) -> None:
        painter.setPen(QPen(self.theme.colour("lamp"), 1))
        painter.setBrush(Qt.BrushStyle.BDiagPattern)
        for stuck in state.glued:
            for spot in stuck.spots:
                painter.drawPolygon(self._ring(tuple(apply(state.isos[stuck.a], p) for p in spot)))
        painter.setBrush(Qt.BrushStyle.NoBrush)

    def _paint_open(self, painter: QPainter, state: Folded) -> None:
        """Scores that are not folded yet: dashed."""
        painter.setPen(QPen(self.theme.colour("worked"), 1.6, Qt.PenStyle.DashLine))
        for k, hinge in enumerate(state.sheet.hinges):
            if k not in state.shut and hinge.scored:
                a, b = state.stretch(k)
                painter.drawLine(self.px(a), self.px(b))

    def _paint_meant(self, painter: QPainter, state: Folded) -> None:
        """The line of the fold that the hand is on its way to, and where the panel comes to lie."""
        offer = self.meant()
        if self._pressed is not None and self._hand is not None:
            painter.setPen(QPen(self.theme.colour("lamp"), 1.5, Qt.PenStyle.DotLine))
            painter.drawLine(self.px(self._pressed), self._hand)
        if offer is None:
            return
        can = offer.after is not None or self.mode == "tuck"
        colour = self.theme.colour("lamp" if can else "clash")
        painter.setPen(QPen(colour, 3))
        painter.drawLine(self.px(offer.line[0]), self.px(offer.line[1]))
        if offer.after is not None:
            painter.setPen(QPen(colour, 2, Qt.PenStyle.DashLine))
            for k, place in enumerate(offer.after.places):
                if place != state.places[k]:
                    painter.drawPolygon(self._ring(place))


def _extent(outline: tuple[Point, ...]) -> float:
    x0, y0, x1, y1 = bounds(outline)
    return (x1 - x0) * (y1 - y0)
