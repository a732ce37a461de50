"""Form: the nest, the standing and flat views, the cutaway, measurements and fits, all of one session."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QSize, Qt, Signal
from PySide6.QtWidgets import (
    QButtonGroup,
    QFrame,
    QHBoxLayout,
    QMenu,
    QPushButton,
    QScrollArea,
    QSlider,
    QSplitter,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from yawning_lantern.assembly import Relation, sits_on
from yawning_lantern.design import remove_element
from yawning_lantern.desktop.form.advice import Advice
from yawning_lantern.desktop.form.cutaway_view import CutawayView
from yawning_lantern.desktop.form.fits import FitsPanel
from yawning_lantern.desktop.form.flat_view import FlatView
from yawning_lantern.desktop.form.measures import Measures
from yawning_lantern.desktop.form.piece_row import PieceRow
from yawning_lantern.desktop.shared.caption import Caption
from yawning_lantern.desktop.shared.cards import card, heading
from yawning_lantern.desktop.shared.nest_view import NestView
from yawning_lantern.desktop.shared.putting import offer_faces, put_structure, suiting_faces
from yawning_lantern.desktop.shared.session import Session
from yawning_lantern.desktop.shared.shelf import Shelf
from yawning_lantern.desktop.shared.standing_view import StandingView
from yawning_lantern.desktop.shared.theme import Theme
from yawning_lantern.desktop.shared.thumbs import Thumbs
from yawning_lantern.measure import format_size, inches, snap
from yawning_lantern.structures import family

STEPS = 100


class FormPage(QWidget):
    """Home. Every view observes the session; none knows another. `show` brings the page to the front; `enlarged`: one
    view has the page for itself, or no longer."""

    enlarged = Signal()

    def __init__(
        self, session: Session, thumbs: Thumbs, show: Callable[[], None], parent: QWidget | None = None
    ) -> None:
        super().__init__(parent)
        self.session = session
        self._show = show
        self.is_enlarged = False
        self.shelf = Shelf(thumbs, QSize(76, 53), draggable=True)
        self.nest = NestView(session)
        self.faces: QMenu | None = None
        self._offered: set[Relation] = set()
        self.standing = StandingView(session)
        self.flat = FlatView(session)
        self.cutaway = CutawayView(session)
        self.measures = Measures(session)
        self.fits = FitsPanel(session)
        self.advice = Advice(session)
        session.studied.connect(self._sizes)
        session.selected.connect(self._titles)
        session.moved.connect(self._follow)

        middle = QSplitter(Qt.Orientation.Vertical)
        top = QSplitter(Qt.Orientation.Horizontal)
        self._cards = [self._standing_card(), self._flat_card(), self._cutaway_card()]
        for one in self._cards[:2]:
            top.addWidget(one)
        top.setSizes([340, 330])
        middle.addWidget(top)
        middle.addWidget(self._cards[2])
        middle.setSizes([430, 250])
        whole = QSplitter(Qt.Orientation.Horizontal)
        self._sides = [self._nest_card(), self._right()]
        whole.addWidget(self._sides[0])
        whole.addWidget(middle)
        whole.addWidget(self._sides[1])
        whole.setSizes([236, 650, 302])
        whole.setStretchFactor(1, 1)
        for splitter in (middle, top, whole):
            splitter.setChildrenCollapsible(False)
            splitter.setHandleWidth(7)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(2, 6, 8, 4)
        layout.setSpacing(4)
        layout.addWidget(self.advice)
        layout.addWidget(whole, 1)

    # -- cards

    def _nest_card(self) -> QWidget:
        area = QScrollArea()
        area.setWidgetResizable(True)
        area.setWidget(self.nest)
        area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.put_on = QPushButton("Put on")
        self.put_on.setToolTip("Put the structure chosen below on the chosen part. Or drag it there.")
        self.put_on.clicked.connect(lambda: self.put_on_part(self.shelf.current_family()))
        self.shelf.taken.connect(self.put_on_part)
        self.shelf.aimed.connect(self._aim)
        self.take_off = QPushButton("Take off")
        self.take_off.clicked.connect(self.remove_selected)
        row = QWidget()
        buttons = QHBoxLayout(row)
        buttons.setContentsMargins(0, 0, 0, 0)
        buttons.addWidget(heading("Structures"), 1)
        buttons.addWidget(self.put_on)
        buttons.addWidget(self.take_off)
        nest, below = card(heading("The nest"), area, stretch=1), card(row, self.shelf, stretch=1)
        both = QSplitter(Qt.Orientation.Vertical)
        both.addWidget(nest)
        both.addWidget(below)
        both.setSizes([500, 220])
        both.setStretchFactor(0, 1)
        both.setChildrenCollapsible(False)
        both.setHandleWidth(7)
        return both

    def _standing_card(self) -> QFrame:
        self.slider = QSlider(Qt.Orientation.Horizontal)
        self.slider.setRange(-STEPS, STEPS)
        self.slider.setAccessibleName("From flat over shut to open")
        self.slider.valueChanged.connect(lambda value: self.session.move_to(value / STEPS))
        self.slider.setTickPosition(QSlider.TickPosition.TicksBelow)
        self.slider.setTickInterval(STEPS)
        row = QWidget()
        lines = QVBoxLayout(row)
        lines.setContentsMargins(0, 0, 0, 0)
        lines.setSpacing(0)
        lines.addWidget(self.slider)
        below = QHBoxLayout()  # each word under the place of the slider that it goes to
        self.places: list[QToolButton] = []
        sides = (Qt.AlignmentFlag.AlignLeft, Qt.AlignmentFlag.AlignHCenter, Qt.AlignmentFlag.AlignRight)
        for words, value, side in zip(("Flat", "Shut", "Open"), (-STEPS, 0, STEPS), sides, strict=True):
            button = QToolButton()
            button.setText(words)
            button.clicked.connect(lambda _=False, v=value: self.slider.setValue(v))
            below.addWidget(button, 1, side)
            self.places.append(button)
        lines.addLayout(below)
        self.closed = Caption()
        head = QWidget()
        top = QHBoxLayout(head)
        top.setContentsMargins(0, 0, 0, 0)
        top.addWidget(heading("Standing"))
        top.addWidget(self.closed, 1)
        return card(head, self.standing, row, stretch=1)

    def _flat_card(self) -> QFrame:
        self.piece_title = Caption()
        self.flat.piece_shown.connect(self.piece_title.setText)
        head = QWidget()
        line = QHBoxLayout(head)
        line.setContentsMargins(0, 0, 0, 0)
        line.addWidget(heading("Flat"))
        line.addWidget(self.piece_title, 1)
        self.sides = QToolButton()
        self.sides.setText("Sides")
        self.sides.setCheckable(True)
        self.sides.setToolTip("Which side of each panel shows, and which way is up")
        self.sides.toggled.connect(self.flat.sides.ask)
        line.addWidget(self.sides)
        self.pieces = PieceRow()
        self.pieces.picked.connect(self.flat.pick)
        self.flat.pieces_shown.connect(self.pieces.show_pieces)
        return card(head, self.flat, self.pieces, stretch=1)

    def _cutaway_card(self) -> QFrame:
        head = QWidget()
        line = QHBoxLayout(head)
        line.setContentsMargins(0, 0, 0, 0)
        line.addWidget(heading("Cutaway, shut"))
        line.addStretch(1)
        self._ways = QButtonGroup(self)
        for words, axis in (("left to right", 1), ("front to back", 0)):
            button = QToolButton()
            button.setText(words)
            button.setCheckable(True)
            button.setChecked(axis == 1)
            button.clicked.connect(lambda _=False, a=axis: self.cutaway.look_along(a))
            self._ways.addButton(button)
            line.addWidget(button)
        fit = QToolButton()
        fit.setText("Fit")
        fit.setToolTip("Everything in view")
        fit.clicked.connect(self.cutaway.fit)
        line.addWidget(fit)
        return card(head, self.cutaway, stretch=1)

    def _right(self) -> QWidget:
        area = QScrollArea()
        area.setWidgetResizable(True)
        area.setWidget(self.measures)
        area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.part_title = heading("Measurements")
        right = QSplitter(Qt.Orientation.Vertical)
        right.addWidget(card(self.part_title, area, stretch=1))
        right.addWidget(card(self.fits, stretch=0))
        right.setSizes([350, 360])
        right.setChildrenCollapsible(False)
        right.setHandleWidth(7)
        return right

    # -- what the session tells

    def _sizes(self) -> None:
        study = self.session.study
        if study is not None:
            units = self.session.design.units
            step = inches(1 / 16) if units == "in" else 1.0
            size = tuple(snap(x, step, "up").value for x in study.size_at(0.0))
            self.closed.setText(f"closed within {format_size(size, units, glyphs=True)}")
        self._titles()

    def _titles(self) -> None:
        self.shelf.aim()
        element = self.session.selected_element()
        name = element.name or family(element.family).name
        self.part_title.setText(f"Measurements · {name}")
        self.take_off.setEnabled(element.id != self.session.design.root.id)
        study = self.session.study
        if study is not None and element.id in study.resolved:
            offered = {room.relation for room in study.resolved[element.id].rooms.values()}
            if offered != self._offered:
                self._offered = offered
                self.shelf.keep(lambda kind: any(sits_on(kind.relation, one) for one in offered))

    def _follow(self) -> None:
        value = round(self.session.position * STEPS)
        if value != self.slider.value():
            self.slider.blockSignals(True)
            self.slider.setValue(value)
            self.slider.blockSignals(False)

    def set_theme(self, theme: Theme) -> None:
        """Colours for everything that paints itself."""
        for view in (
            self.nest,
            self.standing,
            self.flat,
            self.cutaway,
            self.fits,
            self.closed,
            self.piece_title,
            self.pieces,
        ):
            view.theme = theme
            view.update()

    # -- one view large

    def enlarge(self) -> None:
        """The picture that has the keys, or else the standing view, fills the page; again, and all are back."""
        self.is_enlarged = not self.is_enlarged
        views: tuple[QWidget, ...] = (self.standing, self.flat, self.cutaway)
        large = next((one for one in views if one.hasFocus()), self.standing)
        for one, frame in zip(views, self._cards, strict=True):
            frame.setVisible(one is large or not self.is_enlarged)
        for side in self._sides:
            side.setVisible(not self.is_enlarged)
        large.setFocus()
        self.enlarged.emit()

    # -- what the maker does to the nest

    def begin_putting(self) -> None:
        """Go to the structures: arrows choose one, Enter puts it on the chosen part."""
        self._show()
        if self.is_enlarged:
            self.enlarge()
        self.shelf.setFocus()

    def _aim(self, family_id: str) -> None:
        """Mark the faces of the chosen part that would take a structure; with no name, none."""
        host = self.session.selection
        faces = dict(suiting_faces(self.session, host, family_id)) if family_id else {}
        self.standing.offer(host, faces)

    def fill_shelf(self) -> None:
        """The structures that can be put on; those that are seen ask for their pictures."""
        self.shelf.fill()

    def put_on_part(self, family_id: str) -> None:
        """Put a structure on the chosen part: on the face that suits, or on one of those in a menu."""
        at = self.put_on.mapToGlobal(self.put_on.rect().bottomLeft())
        host = self.session.selection
        self.faces = offer_faces(self.session, host, family_id, self, at, lambda face: self.put(face, family_id))

    def put(self, face: str, family_id: str) -> None:
        """Put a new structure on a face of the chosen part, and choose it."""
        put_structure(self.session, self.session.selection, face, family_id)

    def remove_selected(self) -> None:
        """Take the chosen part off, with all it carries. What is typed is entered first."""
        self.measures.commit_typed()
        element = self.session.selected_element()
        if element.id != self.session.design.root.id:
            self.session.edit(remove_element(self.session.design, element.id), f"take off {element.name.lower()}")
