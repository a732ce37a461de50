"""Stock: the maker's drawer beside the design. What is dragged onto a part, or used by key, is what it is made of."""

from __future__ import annotations

from msgspec.structs import replace
from PySide6.QtCore import QPoint, Qt, QTimer
from PySide6.QtGui import QKeySequence, QShortcut, QShowEvent
from PySide6.QtWidgets import (
    QComboBox,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QMenu,
    QPushButton,
    QScrollArea,
    QSplitter,
    QVBoxLayout,
    QWidget,
)

from yawning_lantern.design import Place, carry, catalogue_for, find, set_caliper, stocks_used, walk
from yawning_lantern.desktop.shared.cards import card, heading
from yawning_lantern.desktop.shared.drawer import Drawer
from yawning_lantern.desktop.shared.nest_view import NestView
from yawning_lantern.desktop.shared.putting import offer_faces, put_element
from yawning_lantern.desktop.shared.session import Session
from yawning_lantern.desktop.shared.standing_view import StandingView
from yawning_lantern.desktop.shared.stocking import ready_made, use_body, use_paper, use_thing
from yawning_lantern.desktop.shared.theme import Theme
from yawning_lantern.desktop.stock.shelf_view import KINDS, ShelfView
from yawning_lantern.desktop.stock.thing_card import ThingCard
from yawning_lantern.desktop.stock.used import Used, UsedView
from yawning_lantern.desktop.stock.warned import Warnings
from yawning_lantern.desktop.stock.work import StockWork
from yawning_lantern.stock import Adhesive, Item, Paper, ReadyMade, Tool, builtin_catalogue
from yawning_lantern.structures import family
from yawning_lantern.study.warning import Cure
from yawning_lantern.workshop import OffCut

_SHEET = builtin_catalogue().sheet("12x12")
NEW: tuple[Item, ...] = (
    Paper("paper", "New paper", "paper", _SHEET, 200.0), Paper("board", "New board", "board", _SHEET, measured=1.0),
    Paper("film", "New film", "film", _SHEET, measured=0.1), Adhesive("glue", "New glue", 0.0, 60.0, True),
    Adhesive("own-tape", "New tape", 0.1, 0.0, False, 6.0, 20_000.0),
    ReadyMade("thing", "New ready-made thing", 100.0, 70.0, 0.3), Tool("tool", "New tool", "score", 3.175),
)  # fmt: skip
"""What a new thing of each kind begins as."""
USES = "In this design"
NARROWEST = 318
"""The card of a thing is no narrower, px."""


class StockPage(QWidget):
    """What the design uses on top; below it the drawer, the chosen thing, and the design to put it on."""

    def __init__(self, session: Session, drawer: Drawer, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.session, self.drawer = session, drawer
        self.work = StockWork(session, self)
        self.uses = heading(USES)
        self.used = UsedView()
        self.warnings = Warnings()
        self.search = QLineEdit()
        self.search.setPlaceholderText("Find by name, weight, pattern")
        self.search.setAccessibleName("Find in the drawer")
        self.search.setClearButtonEnabled(True)
        self.kind = QComboBox()
        self.kind.addItems(KINDS)
        self.kind.setAccessibleName("Kind of thing")
        self.shelf = ShelfView()
        self.note = QLabel()
        self.note.setObjectName("trouble")
        self.note.setWordWrap(True)
        self.note.hide()
        self.title = heading("")
        self.thing = ThingCard()
        self.use = QPushButton("Use it")
        self.use.setObjectName("go")
        self.body = QPushButton("As the body")
        self.new = QPushButton("New")
        self.new.setMenu(self._kinds_menu())
        self.duplicate = QPushButton("Duplicate")
        self.remove = QPushButton("Remove")
        self.back = QPushButton("Take back")
        self.thing.setMinimumWidth(NARROWEST)
        self.nest = NestView(session)
        self.standing = StandingView(session)
        self.menu: QMenu | None = None
        self._lay_out()
        self._listen()

    def _lay_out(self) -> None:
        top = QHBoxLayout()
        top.addWidget(self.search, 1)
        top.addWidget(self.kind)
        finding = QWidget()
        finding.setLayout(top)
        top.setContentsMargins(0, 0, 0, 0)
        deeds = QWidget()
        row = QHBoxLayout(deeds)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(4)
        for button in (self.new, self.duplicate, self.remove, self.back):
            button.setObjectName("tight")
            row.addWidget(button)
        row.addStretch(1)
        using = QWidget()
        line = QHBoxLayout(using)
        line.setContentsMargins(0, 0, 0, 0)
        line.addWidget(self.use, 1)
        line.addWidget(self.body)
        area = QScrollArea()
        area.setWidgetResizable(True)
        area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        area.setWidget(self.nest)
        right = QSplitter(Qt.Orientation.Vertical)
        right.addWidget(card(heading("The design: put paper on a part, or on a face"), self.standing, stretch=1))
        right.addWidget(card(heading("Its parts"), area, stretch=1))
        right.setSizes([330, 220])
        middle = QSplitter(Qt.Orientation.Horizontal)
        middle.addWidget(card(heading("The drawer"), finding, self.note, self.shelf, deeds, stretch=3))
        middle.addWidget(card(self.title, self.thing, using, stretch=1))
        middle.addWidget(right)
        middle.setSizes([430, 370, 390])
        middle.setStretchFactor(0, 1)
        for one in (right, middle):
            one.setChildrenCollapsible(False)
            one.setHandleWidth(7)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(10, 8, 10, 8)
        layout.addWidget(card(self.uses, self.used, self.warnings))
        layout.addWidget(middle, 1)
        QShortcut(
            QKeySequence("Ctrl+L"), self, self.search.setFocus, context=Qt.ShortcutContext.WidgetWithChildrenShortcut
        )

    def _listen(self) -> None:
        session = self.session
        session.changed.connect(self._changed)
        session.judged.connect(self._look_over)
        session.selected.connect(self._name_use)
        self.drawer.changed.connect(self.refresh)
        self.drawer.troubled.connect(self._trouble)
        self.work.changed.connect(self._show_asked)
        self.used.chosen.connect(self._show_used)
        self.warnings.cured.connect(self._cure)
        self.warnings.pointed.connect(session.select)
        self.search.textChanged.connect(self._seek)
        self.kind.currentTextChanged.connect(self._seek)
        self.shelf.chosen.connect(self.look_at)
        self.shelf.taken.connect(self.use_it)
        self.thing.edited.connect(self._edited)
        self.thing.counted.connect(self.drawer.count)
        self.thing.off_cut_gone.connect(self._gone)
        self.use.clicked.connect(lambda: self.use_it(self.thing.item))
        self.body.clicked.connect(lambda: use_body(session, session.selection))
        self.duplicate.clicked.connect(self._duplicate)
        self.remove.clicked.connect(self._remove)
        self.back.clicked.connect(self.drawer.take_back)

    # -- what is shown

    def set_theme(self, theme: Theme) -> None:
        """Other colours."""
        for view in (self.used, self.shelf, self.thing.swatch, self.nest, self.standing):
            view.theme = theme
            view.update()
        self.shelf.viewport().update()

    @property
    def is_idle(self) -> bool:
        """Whether the papers have been looked over."""
        return self.work.is_idle

    def stop(self) -> None:
        """Let what runs end."""
        self.work.stop()

    def showEvent(self, event: QShowEvent) -> None:
        super().showEvent(event)
        self.drawer.look_again()
        QTimer.singleShot(0, self, self._look_over)

    def _changed(self) -> None:
        if self.isVisible():
            self._show_asked()
            self._name_use()

    def _look_over(self) -> None:
        if self.isVisible():
            self.work.look()  # it says when something is asked or known

    def refresh(self) -> None:
        """Show the drawer as it is now."""
        if not self.isVisible():
            return
        self.shelf.show_things(self.drawer.catalogue().items, self.drawer.counts())
        self.back.setEnabled(bool(self.drawer.last))
        self.back.setToolTip(f"Take back: {self.drawer.last}" if self.drawer.last else "Nothing to take back")
        self._show_asked()

    def _trouble(self, words: str) -> None:
        self.note.setText(f"✕ {words}" if words else "")
        self.note.setVisible(bool(words))

    def _seek(self) -> None:
        count = self.shelf.seek(self.search.text(), self.kind.currentText())
        self._trouble("" if count else "Nothing in the drawer is called so.")

    def _show_asked(self) -> None:
        """What the design uses, and what its papers cannot do."""
        design, asked = self.session.design, self.work.current
        study = self.session.study
        if study is None:
            return
        shelf, counts = catalogue_for(design), self.drawer.counts()
        names: dict[str, list[str]] = {}
        for element in walk(design.root):
            r = study.resolved.get(element.id)
            if r is not None and not all(piece.bought for piece in r.part.pieces):
                names.setdefault(element.stock or design.stock, []).append(element.name or family(element.family).name)
        used = []
        sheets = asked.sheets if asked is not None else {}
        why = "sheets being counted …" if asked is None else "larger than its sheet"
        for stock in stocks_used(design):
            if stock in names:
                parts, needed = ", ".join(names[stock]), sheets.get(stock, 0)
                used.append(Used(shelf.paper(stock), parts, needed, counts.get(stock), why))
        used.append(Used(shelf.adhesive(design.adhesive), "holds all joints"))
        used.append(Used(shelf.tool(design.score_tool), "scores"))
        used.append(Used(shelf.tool(design.cut_tool), "cuts"))
        self.uses.setText(USES if self.work.is_idle else f"{USES} · looking over the papers …")
        self.used.show_used(tuple(used))
        self.used.mark(self.thing.item.id if self.thing.item is not None else "")
        if asked is not None:
            self.warnings.show_warnings(asked.warnings, design.units)

    def _show_used(self, item: Item) -> None:
        """Look at a thing the design uses: as the drawer has it, or as the design carries it."""
        self.search.clear()
        self.kind.setCurrentIndex(0)
        if any(type(one) is type(item) and one.id == item.id for one in self.drawer.catalogue().items):
            self.shelf.choose(item.id)
        else:
            self.look_at(item)

    def look_at(self, item: Item | None) -> None:
        """Show one thing whole."""
        counts = self.drawer.counts()
        kept = tuple(one for one in self.drawer.off_cuts() if item is not None and one.stock == item.id)
        design, name = self.session.design, item.id if item is not None else ""
        caliper = design.calipers.get(name)
        note = f"Measured in this design {caliper:.3f} mm." if caliper is not None else ""
        self.thing.show_thing(item, counts.get(name), kept, design.units, note)
        self.title.setText(item.name if item is not None else "Nothing is chosen")
        self.used.mark(item.id if item is not None else "")
        self.duplicate.setEnabled(item is not None)
        self.remove.setEnabled(item is not None)
        self._name_use()

    def _name_use(self) -> None:
        """What the button does with the thing that is looked at."""
        item, session = self.thing.item, self.session
        part = find(session.design, session.selection)
        name = part.name or family(part.family).name
        words = "Use it"
        if isinstance(item, Paper):
            is_body = part.id == session.design.root.id and part.stock is None
            words = "Use for the body" if is_body else f"Use for {name}"
        elif isinstance(item, ReadyMade):
            words = f"Put on {name}"
        elif isinstance(item, Adhesive):
            words = "Glue with it"
        elif isinstance(item, Tool):
            words = {"score": "Score with it", "cut": "Cut with it", "both": "Cut and score with it"}[item.kind]
        self.use.setText(words)
        self.use.setEnabled(item is not None)
        self.body.setVisible(isinstance(item, Paper) and part.stock is not None)

    # -- what is done

    def use_it(self, item: Item | None) -> None:
        """Use a thing for the part that is chosen, or for the whole design."""
        session = self.session
        if isinstance(item, Paper):
            use_paper(session, item, session.selection)
        elif isinstance(item, ReadyMade):
            guest, host = ready_made(session, item), session.selection
            at = self.nest.mapToGlobal(QPoint(30, 30))

            def put(face: str) -> None:
                put_element(session, host, Place(face), guest, "add")

            self.menu = offer_faces(session, host, guest.family, self, at, put)
        elif item is not None:
            use_thing(session, item)

    def _edited(self, item: Item, words: str) -> None:
        """Keep what was told of a thing, and let the design use it as it is now, if it uses it."""
        if not self.drawer.put(item, words):
            return
        design = self.session.design
        used = {*stocks_used(design), design.adhesive, design.score_tool, design.cut_tool}
        if item.id in used and self.session.is_open:
            changed = carry(design, item)
            if isinstance(item, Paper):
                changed = set_caliper(changed, item.id, None)
            self.session.edit(changed, f"change the {words}")
        self.look_at(item)

    def _kinds_menu(self) -> QMenu:
        menu = QMenu(self)
        for item in NEW:
            menu.addAction(item.name.removeprefix("New ").capitalize()).triggered.connect(
                lambda _=False, item=item: self._add(item)
            )
        return menu

    def _duplicate(self) -> None:
        if self.thing.item is not None:
            self._add(self.thing.item)

    def _add(self, item: Item) -> None:
        """Put one more of a thing into the drawer, under a name of its own that is to be typed."""
        taken = {one.id for one in self.drawer.catalogue().items}
        number = next(k for k in range(2, 10_000) if f"{item.id}-{k}" not in taken)
        made = replace(item, id=f"{item.id}-{number}", name=f"{item.name}, {number}")
        if self.drawer.put(made, f"add {made.name}"):
            self.search.clear()
            self.kind.setCurrentIndex(0)
            self.shelf.choose(made.id)
            name = self.thing.editors.get("Name")
            if isinstance(name, QLineEdit):
                name.setFocus()
                name.selectAll()

    def _remove(self) -> None:
        if self.thing.item is not None:
            self.drawer.remove(self.thing.item)

    def _gone(self, one: OffCut) -> None:
        kept = ((one.stock, one.name, one.width, one.height),)
        self.drawer.do("off-cut used up", lambda w: w.take(one.id), lambda w: w.fill({}, kept))

    def _cure(self, cure: Cure) -> None:
        self.session.edit(cure.design, cure.words.split(",")[0][:1].lower() + cure.words.split(",")[0][1:])
