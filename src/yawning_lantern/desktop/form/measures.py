"""Measurements of the chosen part: typed as people say them; figures the program worked out look different."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QComboBox, QGridLayout, QLabel, QLineEdit, QSizePolicy, QToolButton, QVBoxLayout, QWidget

from yawning_lantern.design import find, walk
from yawning_lantern.desktop.shared.session import Session
from yawning_lantern.errors import LanternError
from yawning_lantern.measure import format_fine, format_length
from yawning_lantern.structures import Parameter, Sized, read_setting, with_layers

_ORIGINS = {"auto": "worked out", "fill": "fills its host", "default": "usual", "given": "yours"}


class MeasureRow:
    """One parameter: label, field, where it comes from, and a button that lets it be worked out again."""

    def __init__(self, panel: Measures, declared: Parameter, grid: QGridLayout, row: int) -> None:
        self.panel, self.declared = panel, declared
        self.label = QLabel(declared.label)
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
            line.setMinimumWidth(72)
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
        text = ""
        if sized is not None and isinstance(sized.value, str):
            text = sized.value
        elif sized is not None:
            text = f"{int(sized.length)}" if self.declared.kind == "count" else format_length(
                sized.length, units, glyphs=True, mark=False)  # fmt: skip
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
        self._layout = QVBoxLayout(self)
        self._layout.setContentsMargins(2, 2, 6, 2)
        self._layout.setSpacing(3)
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
            self._make(r.family.parameters)
            self._made_for = key
        self._rows_of = r.element.id
        for name, row in self.rows.items():
            sized = r.sizes.get(name)
            if sized is None and name in r.element.settings:
                sized = Sized(r.element.settings[name], "given")
            row.show_value(sized, name in r.element.settings)

    def _make(self, parameters: tuple[Parameter, ...]) -> None:
        while (item := self._layout.takeAt(0)) is not None:
            widget = item.widget()
            if widget is not None:
                widget.hide()
                widget.deleteLater()
        self.rows = {}
        groups: dict[str, list[Parameter]] = {}
        for declared in parameters:
            if declared.structural and declared.id != "layers":
                continue
            groups.setdefault(declared.group, []).append(declared)
        for name, members in groups.items():
            heading = QLabel(name)
            heading.setObjectName("heading")
            self._layout.addWidget(heading)
            holder = QWidget()
            grid = QGridLayout(holder)
            grid.setContentsMargins(0, 0, 0, 6)
            grid.setHorizontalSpacing(6)
            grid.setVerticalSpacing(3)
            grid.setColumnStretch(0, 5)
            grid.setColumnStretch(1, 4)
            grid.setColumnMinimumWidth(2, 76)
            grid.setColumnMinimumWidth(3, 26)
            for index, declared in enumerate(members):
                self.rows[declared.id] = MeasureRow(self, declared, grid, 2 * index)
            self._layout.addWidget(holder)
        self._layout.addStretch(1)

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
