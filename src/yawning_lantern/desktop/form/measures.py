"""Measurements of the chosen part: typed as people say them; figures the program worked out look different."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import QEvent, Qt
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import QComboBox, QGridLayout, QLabel, QLineEdit, QSizePolicy, QToolButton, QVBoxLayout, QWidget

from yawning_lantern.design import find, walk
from yawning_lantern.desktop.shared.cards import empty
from yawning_lantern.desktop.shared.figures import figure
from yawning_lantern.desktop.shared.session import Session
from yawning_lantern.errors import LanternError
from yawning_lantern.measure import format_fine
from yawning_lantern.structures import Parameter, Sized, read_setting, with_layers
from yawning_lantern.study import Resolved

FIELD, LABEL = 72, 7  # px a field wants at least, and letters of a label that stay on one line
_ORIGINS = {"auto": "worked out", "fill": "fills its host", "default": "usual", "given": "yours"}


def plain_label(declared: Parameter) -> str:
    """The label under its group's heading: what the heading says already is left out."""
    rest = declared.label.removeprefix(f"{declared.group}, ")
    return rest[0].upper() + rest[1:]


def follows(sized: Sized | None, declared: Parameter, is_given: bool) -> bool:
    """Whether a measurement is none of the maker's business for now: it follows the host, cannot be given, or is not
    used."""
    return not is_given and (sized is None or sized.origin == "fill" or declared.derived)


class MeasureRow:
    """One parameter: label, field, where it comes from, and a button that lets it be worked out again."""

    def __init__(self, panel: Measures, declared: Parameter, grid: QGridLayout, row: int) -> None:
        self.panel, self.declared = panel, declared
        self.label = QLabel(plain_label(declared))
        self.label.setToolTip(declared.help)
        self.label.setWordWrap(True)
        self.field: QLineEdit | QComboBox
        if declared.kind == "word":
            combo = QComboBox()
            combo.addItems(list(declared.words))
            combo.activated.connect(lambda: self.commit(combo.currentText()))
            combo.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
            self.field = combo
        else:
            line = QLineEdit()
            line.editingFinished.connect(self.finish)
            line.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
            line.setMinimumWidth(FIELD)
            self.field = line
        self.field.setAccessibleName(declared.label)
        self.field.setToolTip(declared.help)
        self.label.setBuddy(self.field)
        self.origin = QLabel()
        self.origin.setObjectName("faint")
        self.release = QToolButton()
        self.release.setText("↺")
        self.release.setToolTip(f"Let “{declared.label.lower()}” be worked out")
        self.release.setAccessibleName(f"Let {declared.label.lower()} be worked out")
        self.release.clicked.connect(lambda: panel.give(declared, None))
        self.note = QLabel()
        self.note.setObjectName("faint")
        self.note.setWordWrap(True)
        self.note.hide()
        grid.addWidget(self.label, row, 0)
        grid.addWidget(self.field, row, 1)
        grid.addWidget(self.origin, row, 2)
        grid.addWidget(self.release, row, 3)
        grid.addWidget(self.note, row + 1, 0, 1, 4)
        if declared.derived:
            self.field.setEnabled(False)
        self._shown = ""

    def finish(self) -> None:
        """The text in the field is as it shall be."""
        assert isinstance(self.field, QLineEdit)
        if self.field.text() != self._shown:
            self.commit(self.field.text())

    def commit(self, text: str) -> None:
        """Take what was typed or chosen; a text that cannot be is told under the field and the design stays."""
        typed = self.field if isinstance(self.field, QLineEdit) else None
        try:
            if typed is not None:
                typed.setModified(False)  # a study made at once shows the settled value in it
            self.panel.take(self.declared, text)
        except LanternError as error:
            if typed is not None:
                typed.setModified(True)
            self._trouble(f"✕ {error.what} {error.remedy}".strip())

    def _trouble(self, words: str) -> None:
        self.field.setProperty("trouble", "yes" if words else "no")
        self.note.setObjectName("trouble" if words else "faint")
        self.note.setText(words)
        self.note.setVisible(bool(words))
        for widget in (self.field, self.note):
            widget.style().unpolish(widget)
            widget.style().polish(widget)

    def show_value(self, sized: Sized | None, is_given: bool) -> None:
        """Show a settled value and where it came from."""
        units = self.panel.session.design.units
        text = figure(sized, self.declared, units) if sized is not None else ""
        if isinstance(self.field, QComboBox):
            self.field.setCurrentText(text)
        elif not (self.field.hasFocus() and self.field.isModified()):
            if self.field.text() != text:
                self.field.setText(text)
                self.field.setCursorPosition(0)
            self._shown = text
        state = "given" if is_given else "worked"
        if self.field.property("origin") != state or self.field.property("trouble") == "yes":
            self.field.setProperty("origin", state)
            self._trouble("")
            self.field.style().unpolish(self.field)
            self.field.style().polish(self.field)
        self.origin.setText(_ORIGINS["given" if is_given else sized.origin] if sized else "not used")
        self.release.setVisible(is_given and not self.declared.structural)
        rounded = sized is not None and not isinstance(sized.value, str) and abs(sized.residual) > 0.01
        if rounded and sized is not None and sized.exact is not None:
            exact = f"{sized.exact / 25.4:.3f}″" if units == "in" else f"{sized.exact:.2f} mm"
            way = "up" if sized.residual > 0 else "down"
            self.note.setText(f"exact {exact}, rounded {way} by {format_fine(abs(sized.residual), units)}")
        else:
            self.note.setText("")
        self.note.setVisible(rounded)


class Measures(QWidget):
    """All parameters of the chosen part, grouped as its family groups them."""

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.session = session
        self.rows: dict[str, MeasureRow] = {}
        self._front, self._behind = QWidget(), QWidget()
        self.more = QToolButton()
        self.more.setCheckable(True)
        self.more.setToolTip("Measurements that follow the host, cannot be given, or are not used here")
        self.more.toggled.connect(self._unfold)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(2, 2, 6, 2)
        layout.setSpacing(3)
        for part in (self._front, self._behind):
            inner = QVBoxLayout(part)
            inner.setContentsMargins(0, 0, 0, 0)
            inner.setSpacing(3)
        layout.addWidget(self._front)
        layout.addWidget(self.more)
        layout.addWidget(self._behind)
        layout.addStretch(1)
        self._words = ""
        self._made_for: tuple[str, str] | None = None
        self._rows_of = ""
        """The part whose measurements are shown: what is typed is meant for it, whatever is chosen by then."""
        session.studied.connect(self.refresh)
        session.selected.connect(self.refresh)

    def refresh(self) -> None:
        """Show the chosen part as last studied."""
        study = self.session.study
        if study is None or self.session.selection not in study.resolved:
            return
        r = study.resolved[self.session.selection]
        key = (r.element.id, r.family.id)
        if key != self._made_for:
            self._make(r)
            self._made_for = key
        self._rows_of = r.element.id
        for name, row in self.rows.items():
            sized = r.sizes.get(name)
            if sized is None and name in r.element.settings:
                sized = Sized(r.element.settings[name], "given")
            row.show_value(sized, name in r.element.settings)

    def _make(self, r: Resolved) -> None:
        """Rows for a part: what the maker decides in front, what follows folded away behind it."""
        for part in (self._front, self._behind):
            layout = part.layout()
            assert layout is not None
            empty(layout)
        self.rows = {}
        front: list[Parameter] = []
        behind: list[Parameter] = []
        for declared in r.family.parameters:
            if not declared.structural or declared.id == "layers":
                after = follows(r.sizes.get(declared.id), declared, declared.id in r.element.settings)
                (behind if after else front).append(declared)
        if not front:
            front, behind = behind, []
        self._fill(self._front, front)
        self._fill(self._behind, behind)
        self.more.setVisible(bool(behind))
        self._words = f"{len(behind)} more that follow"
        self._unfold(self.more.isChecked())
        self._fit_columns()

    def _fill(self, part: QWidget, parameters: Sequence[Parameter]) -> None:
        """Rows in one grid, so that fields stand under one another, with a heading before each group."""
        layout = part.layout()
        assert layout is not None
        holder = QWidget()
        grid = QGridLayout(holder)
        grid.setContentsMargins(0, 0, 0, 6)
        grid.setHorizontalSpacing(6)
        grid.setVerticalSpacing(3)
        grid.setColumnStretch(0, 5)
        grid.setColumnStretch(1, 4)
        grid.setColumnMinimumWidth(3, 26)
        line = 0
        for name in dict.fromkeys(p.group for p in parameters):
            heading = QLabel(name)
            heading.setObjectName("heading")
            heading.setContentsMargins(0, 6 if line else 0, 0, 0)
            grid.addWidget(heading, line, 0, 1, 4)
            line += 1
            for declared in (p for p in parameters if p.group == name):
                self.rows[declared.id] = MeasureRow(self, declared, grid, line)
                line += 2
        layout.addWidget(holder)

    def _unfold(self, shown: bool) -> None:
        self._behind.setVisible(shown)
        self.more.setText(f"{'▾' if shown else '▸'} {self._words}")

    def _fit_columns(self) -> None:
        """Where the panel is narrow for its text, the word that tells where a figure comes from gives way to the label
        (the field's look tells it too); no label is broken inside a word."""
        metrics = self.fontMetrics()
        words = [word for row in self.rows.values() for word in row.label.text().split()]
        longest = max((metrics.horizontalAdvance(word) for word in words), default=0)
        origins = max(metrics.horizontalAdvance(word) for word in (*_ORIGINS.values(), "not used"))
        label = max(longest, metrics.horizontalAdvance("m" * LABEL))
        around = self.parentWidget()
        width = around.width() if around is not None else self.width()
        roomy = width >= label + FIELD + origins + 64
        for row in self.rows.values():
            row.origin.setVisible(roomy)
            row.label.setMinimumWidth(min(longest + 2, max(40, width - FIELD - 60)))

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._fit_columns()

    def changeEvent(self, event: QEvent) -> None:
        super().changeEvent(event)
        if event.type() == QEvent.Type.FontChange:
            self._fit_columns()

    def commit_typed(self) -> None:
        """Take what stands typed in a field and was not entered yet: before saving, exporting, or taking a part off."""
        for row in list(self.rows.values()):
            field = row.field
            if isinstance(field, QLineEdit) and field.isModified():
                row.finish()

    def take(self, declared: Parameter, text: str) -> None:
        """Give a parameter as typed; an empty field lets it be worked out. Raises ParameterError."""
        if not text.strip():
            self.give(declared, None)
            return
        study, element = self.session.study, self._rows_of or self.session.selection
        if element not in {one.id for one in walk(self.session.design.root)}:
            return  # the part was taken off while this was being typed
        current = study.current(element, declared.id) if study else None
        value = read_setting(declared, text, self.session.design.units, current)
        if declared.structural:
            design = with_layers(self.session.design, element, int(float(value)))
            self.session.edit(design, f"set {declared.label.lower()} to {value}")
        else:
            self.give(declared, value)

    def give(self, declared: Parameter, value: float | str | None) -> None:
        """Give or release a parameter of the chosen part: one step."""
        chosen = self._rows_of or self.session.selection
        if chosen not in {one.id for one in walk(self.session.design.root)}:
            return
        element = find(self.session.design, chosen)
        if value is None and declared.id not in element.settings:
            self.refresh()
            return
        words = f"set {declared.label.lower()}" if value is not None else f"let {declared.label.lower()} be worked out"
        self.session.give(element.id, declared.id, value, words)
