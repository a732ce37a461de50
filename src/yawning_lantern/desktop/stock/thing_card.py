"""One thing of the drawer, whole: its swatch, all that can be told of it, how many there are, what is left of it."""

from __future__ import annotations

from functools import partial
from typing import Any

from PySide6.QtCore import QRectF, QSize, Qt, Signal
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QPushButton,
    QScrollArea,
    QSpinBox,
    QVBoxLayout,
    QWidget,
)

from yawning_lantern.desktop.shared.cards import empty
from yawning_lantern.desktop.shared.spoken import GRAPHIC
from yawning_lantern.desktop.shared.theme import DAY, Theme
from yawning_lantern.desktop.stock.faces import FaceRow
from yawning_lantern.desktop.stock.fields import Field, Line, Pick, Tick, fields_of
from yawning_lantern.desktop.stock.swatch import paint_swatch
from yawning_lantern.errors import LanternError
from yawning_lantern.measure import Units, format_size
from yawning_lantern.stock import Adhesive, Item, Paper, ReadyMade, weight_words
from yawning_lantern.workshop import OffCut

MOST = 9999


class Swatch(QWidget):
    """A thing drawn large."""

    spoken_role = GRAPHIC

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.theme: Theme = DAY
        self.item: Item | None = None
        self.setFixedHeight(96)
        self.setAccessibleName("Swatch")

    def sizeHint(self) -> QSize:
        return QSize(260, 96)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        if self.item is not None:
            wide = min(float(self.width()) - 4, 260.0)
            paint_swatch(painter, QRectF(2, 2, wide, self.height() - 4.0), self.item, self.theme)


class ThingCard(QWidget):
    """`edited` carries the thing as it is told now and what was done in words, `counted` how many there are,
    `off_cut_gone` an off-cut that is no longer there."""

    edited = Signal(object, str)
    counted = Signal(object, int)
    off_cut_gone = Signal(object)

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.item: Item | None = None
        self.units: Units = "in"
        self.swatch = Swatch()
        self.facts = QLabel()
        self.facts.setObjectName("faint")
        self.facts.setWordWrap(True)
        self.trouble = QLabel()
        self.trouble.setObjectName("trouble")
        self.trouble.setWordWrap(True)
        self.trouble.hide()
        self.count = QSpinBox()
        self.count.setRange(-1, MOST)
        self.count.setSpecialValueText("not counted")
        self.count.setAccessibleName("How many are in the drawer")
        self.count.editingFinished.connect(self._count)
        self.faces = (FaceRow(True), FaceRow(False))
        for row in self.faces:
            row.changed.connect(self._face_changed)
            row.wrong.connect(self._wrong)
        self.form = QGridLayout()
        self.form.setVerticalSpacing(4)
        self.form.setColumnStretch(1, 1)
        self.kept = QVBoxLayout()
        self.kept.setSpacing(2)
        self._kept_title = QLabel("Off-cuts of it")
        self._kept_title.setObjectName("heading")
        self.editors: dict[str, QWidget] = {}
        self._count_row = QWidget()
        line = QHBoxLayout(self._count_row)
        line.setContentsMargins(0, 0, 0, 0)
        line.addWidget(QLabel("In the drawer"))
        line.addWidget(self.count, 1)
        inner = QWidget()
        column = QVBoxLayout(inner)
        column.setContentsMargins(0, 0, 6, 0)
        column.setSpacing(6)
        for widget in (self.swatch, self.facts, self.trouble, self._count_row, *self.faces):
            column.addWidget(widget)
        column.addLayout(self.form)
        column.addWidget(self._kept_title)
        column.addLayout(self.kept)
        column.addStretch(1)
        area = QScrollArea()
        area.setWidgetResizable(True)
        area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        area.setWidget(inner)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.addWidget(area)

    def show_thing(
        self, item: Item | None, count: int | None, kept: tuple[OffCut, ...], units: Units, note: str = ""
    ) -> None:
        """Show another thing, or the same as it is now, with a note of what the design says of it."""
        anew = item is None or self.item is None or fields_of(item) is not fields_of(self.item)
        other = anew or (item is not None and self.item is not None and item.id != self.item.id)
        if anew or item != self.item:
            self._wrong("")
        self.item, self.units = item, units
        self.swatch.item = item
        self.swatch.update()
        self.setEnabled(item is not None)
        if item is None:
            return
        if anew:
            self._build(fields_of(item))
        for field in fields_of(item):
            self._fill(field, item, other)
        paper = item if isinstance(item, Paper) else None
        for row in self.faces:
            row.setVisible(paper is not None)
            if paper is not None:
                row.show_paper(paper)
        self.facts.setText(f"{facts_of(item)} {note}".strip())
        self.facts.setVisible(bool(self.facts.text()))
        self._count_row.setVisible(isinstance(item, Paper | ReadyMade | Adhesive))
        if other or not self.count.hasFocus():
            self.count.setValue(-1 if count is None else count)
        self._show_kept(kept)

    def _show_kept(self, kept: tuple[OffCut, ...]) -> None:
        empty(self.kept)
        self._kept_title.setVisible(bool(kept))
        for one in kept:
            row = QWidget()
            line = QHBoxLayout(row)
            line.setContentsMargins(0, 0, 0, 0)
            size = format_size((one.width, one.height), self.units, glyphs=True)
            line.addWidget(QLabel(f"{size}{f' · {one.name}' if one.name else ''}"), 1)
            gone = QPushButton("Used up")
            gone.setAccessibleName(f"Off-cut {size} is used up")
            gone.clicked.connect(lambda _=False, one=one: self.off_cut_gone.emit(one))
            line.addWidget(gone)
            self.kept.addWidget(row)

    # -- the form

    def _build(self, fields: tuple[Field, ...]) -> None:
        for old in self.editors.values():
            old.blockSignals(True)  # one that loses the keys by going is not done with
        self.editors.clear()
        empty(self.form)
        for row, field in enumerate(fields):
            editor: QWidget
            if isinstance(field, Tick):
                tick = QCheckBox(field.label)
                tick.clicked.connect(lambda on, field=field: self._changed(field, on))
                editor = tick
                self.form.addWidget(tick, row, 0, 1, 2)
            else:
                label = QLabel(field.label)
                label.setWordWrap(True)
                self.form.addWidget(label, row, 0)
                if isinstance(field, Pick):
                    pick = QComboBox()
                    for key, words in field.ways:
                        pick.addItem(words, key)
                    pick.activated.connect(partial(self._picked, field, pick))
                    editor = pick
                else:
                    edit = QLineEdit()
                    edit.setPlaceholderText(field.hint)
                    edit.editingFinished.connect(partial(self._typed, field, edit))
                    editor = edit
                editor.setAccessibleName(field.label)
                label.setBuddy(editor)
                self.form.addWidget(editor, row, 1)
            self.editors[field.label] = editor

    def _fill(self, field: Field, item: Item, other: bool) -> None:
        """Show a fact; what is being typed stays, unless it was typed for another thing."""
        editor = self.editors[field.label]
        if isinstance(field, Line):
            assert isinstance(editor, QLineEdit)
            if other or not (editor.hasFocus() and editor.isModified()):
                editor.setText(field.show(item, self.units))
                editor.setCursorPosition(0)
        elif isinstance(field, Pick):
            assert isinstance(editor, QComboBox)
            editor.setCurrentIndex(editor.findData(field.show(item)))
        else:
            assert isinstance(editor, QCheckBox)
            editor.setChecked(field.show(item))

    def _typed(self, field: Line, edit: QLineEdit) -> None:
        if self.item is not None and edit.text() != field.show(self.item, self.units):
            edit.setModified(False)
            self._changed(field, edit.text())

    def _picked(self, field: Pick, pick: QComboBox, _index: int) -> None:
        self._changed(field, str(pick.currentData()))

    def _changed(self, field: Field, told: Any) -> None:
        """Make the thing that a field tells, and say it; what cannot be is told beside it."""
        if self.item is None:
            return
        try:
            made = (
                field.change(self.item, told, self.units) if isinstance(field, Line) else field.change(self.item, told)
            )
        except LanternError as error:
            self._wrong(error.sentence())
            return
        self.edited.emit(made, f"{field.label.lower()} of {self.item.name}")

    def _face_changed(self, paper: Paper) -> None:
        self.edited.emit(paper, f"face of {paper.name}")

    def _wrong(self, words: str) -> None:
        self.trouble.setText(f"✕ {words}" if words else "")
        self.trouble.setVisible(bool(words))

    def _count(self) -> None:
        if self.item is not None and self.count.value() >= 0:
            self.counted.emit(self.item, self.count.value())


def facts_of(item: Item) -> str:
    """What follows from what is told: weight in both systems, and how thick it is and how that is known."""
    if not isinstance(item, Paper):
        return ""
    weight = f"{weight_words(item.grammage)}, " if item.grammage else ""
    known = "estimated from weight and bulk" if item.is_estimated else "measured"
    return f"{weight}{item.caliper:.3f} mm thick, {known}."
