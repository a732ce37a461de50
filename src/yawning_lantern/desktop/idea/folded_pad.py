"""The sheet as it lies folded, seen from above: drag a panel over; what cannot be folded says why."""

from __future__ import annotations

import math
from functools import partial

from PySide6.QtCore import QPoint, QPointF, QSize, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QMenu, QWidget

from yawning_lantern.desktop.idea.folded_map import FoldedMap
from yawning_lantern.desktop.idea.folded_paint import paint_meant, paint_names, paint_sheet
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
from yawning_lantern.pattern import Point

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
    def map(self) -> FoldedMap | None:
        """Where everything is in the picture."""
        return None if self.state is None else FoldedMap(self.state, self.layers, self.width(), self.height())

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
        names = self.map.panels() if self.map is not None else []
        if self.chosen not in names:
            self.chosen = names[0] if names else ""
        self.update()

    # -- hand

    def mousePressEvent(self, event: QMouseEvent) -> None:
        at = self.map
        stack = at.stack_at(event.position()) if at is not None else None
        if at is None or stack is None or self.state is None or event.button() != Qt.MouseButton.LeftButton:
            return
        self.chosen = self.state.name(stack.layers[-1])
        if self.mode == "glue":
            step = glue_at(self.state, stack.layers, at.place(event.position()), self.strip)
            if step is None:
                self.said.emit("There is one layer only: nothing to glue it to.")
            else:
                self._try(step)
            return
        self._pressed, self._hand = at.place(event.position()), event.position()
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
        at = self.map
        if self._pressed is None or self._hand is None or at is None:
            return None
        here, best, least = at.place(self._hand), None, NEAR
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
        names = self.map.panels() if self.map is not None else []
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
        menu.popup(self.mapToGlobal(self.map.middle(self.chosen) if self.map is not None else QPoint()))
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
        stack = self.map.largest(self.chosen) if self.map is not None else None
        if stack is None or len(stack.layers) < 2 or self.state is None:
            self.said.emit("There is one layer only: nothing to glue it to.")
            return
        one, other = (self.state.name(k) for k in stack.layers[-1:-3:-1])
        menu = self._open_menu()
        for edge in EDGES:
            step = Glue(one, other, (edge,), self.strip)
            menu.addAction(step_words(step), partial(self._try, step))
        menu.addAction(step_words(Glue(one, other)), partial(self._try, Glue(one, other)))
        menu.popup(self.mapToGlobal(self.map.middle(self.chosen) if self.map is not None else QPoint()))

    def spoken_items(self) -> list[Spoken]:
        """The panels that lie on top."""
        items = []
        at = self.map
        for name in at.panels() if at is not None else []:
            stack = at.largest(name) if at is not None else None
            if stack is None or at is None or self.state is None:
                continue
            side = "front" if face_up(self.state, self.state.sheet.at(name)) > 0 else "back"
            words = f"{name}, {side} up, {len(stack.layers)} layers"
            items.append(Spoken(words, at.ring(stack.outline).boundingRect(), chosen=name == self.chosen))
        return items

    # -- picture

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), self.theme.colour("table"))
        at = self.map
        if at is None:
            return
        paint_sheet(painter, at, self.theme, self.faces)
        paint_names(painter, at, self.theme, self.faces, self.chosen if self.hasFocus() else "")
        if self._pressed is not None and self._hand is not None:
            tuck = self.mode == "tuck"
            paint_meant(painter, at, self.theme, self.meant(), tuck, self._pressed, self._hand)
