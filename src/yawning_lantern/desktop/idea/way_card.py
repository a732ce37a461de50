"""One way into a design: a question, and the few lengths that answer it."""

from __future__ import annotations

from collections.abc import Mapping

from PySide6.QtCore import QEvent, QObject, Signal
from PySide6.QtGui import QMouseEvent
from PySide6.QtWidgets import QFrame, QGridLayout, QLabel, QLineEdit, QVBoxLayout

from yawning_lantern.design import Value
from yawning_lantern.desktop.shared.cards import empty
from yawning_lantern.measure import Units, format_length
from yawning_lantern.structures import Family, Start, read_setting
from yawning_lantern.study.ways_in import Way

QUESTIONS: dict[Start, tuple[str, str]] = {
    "contents": ("What must it hold?", "Measure the thing. The size follows from it."),
    "size": ("What size shall it be?", "Give what matters to you; the rest is usual."),
    "sheet": ("What sheet is at hand?", "The largest one that the sheet gives."),
}
_DEEP = {"content-width": ("2 3/8", "60"), "content-depth": ("2 3/8", "60"), "content-height": ("1 3/4", "45")}
_FLAT = {"content-width": ("4", "100"), "content-height": ("6", "150")}
_THICK = {"content-height": ("1/2", "12")}
_SHEET = {"sheet": ("12", "300")}
OPEN = "as it comes"


def first_figures(way: Way) -> dict[str, tuple[str, str]]:
    """What stands in the fields that must be known, in inches and in mm, until the maker says otherwise."""
    names = {field.id for field in way.fields}
    if way.start == "sheet":
        return _SHEET
    if way.start == "size":
        return {}
    usual = _DEEP if "content-depth" in names else _FLAT if "content-width" in names else _THICK
    own = {f.id: float(f.default) for f in way.fields if f.id in usual and isinstance(f.default, int | float)}
    return usual | {
        name: (format_length(length, "in", mark=False), format_length(5 * round(length / 5), "mm", mark=False))
        for name, length in own.items()
    }


class WayCard(QFrame):
    """Three of them stand on the Idea page; one of them is in use. `taken`: the maker turned to this one; `changed`:
    other figures; `entered`: that is all, go."""

    taken = Signal()
    changed = Signal()
    entered = Signal()

    def __init__(self, start: Start, units: Units) -> None:
        super().__init__()
        self.setObjectName("way")
        self.start: Start = start
        self.way: Way | None = None
        self._units: Units = units
        self.fields: dict[str, QLineEdit] = {}
        question, about = QUESTIONS[start]
        self.title = QLabel(question)
        self.title.setObjectName("question")
        self.title.setWordWrap(True)
        self.about = QLabel(about)
        self.about.setObjectName("faint")
        self.about.setWordWrap(True)
        self._grid = QGridLayout()
        self._grid.setHorizontalSpacing(8)
        self._grid.setVerticalSpacing(3)
        self._grid.setColumnStretch(1, 1)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(12, 8, 12, 9)
        layout.setSpacing(4)
        layout.addWidget(self.title)
        layout.addWidget(self.about)
        layout.addLayout(self._grid)
        layout.addStretch(1)

    def show_way(self, kind: Family, way: Way | None) -> None:
        """Ask what this way into a structure needs; with None, say that there is none."""
        self.way = way
        empty(self._grid)
        self.fields = {}
        self.setEnabled(way is not None)
        self.about.setText(QUESTIONS[self.start][1] if way is not None else f"{kind.name}: not from that.")
        if way is None:
            return
        firsts = first_figures(way)
        for row, asked in enumerate(way.fields):
            first = firsts.get(asked.id)
            field = QLineEdit(first[self._units == "mm"] if first else "")
            field.setAccessibleName(f"{QUESTIONS[self.start][0]} {asked.label}")
            field.setPlaceholderText(OPEN)
            field.setToolTip(asked.help)
            field.setMinimumWidth(64)
            field.textChanged.connect(self.changed)
            field.returnPressed.connect(self.entered)
            field.installEventFilter(self)
            label = QLabel(asked.label.removeprefix("Contents, ").capitalize())
            label.setBuddy(field)
            self.fields[asked.id] = field
            self._grid.addWidget(label, row, 0)
            self._grid.addWidget(field, row, 1)

    def set_units(self, units: Units) -> None:
        """Read lengths in other units; fields nobody touched change to that unit's usual figures."""
        firsts = first_figures(self.way) if self.way is not None else {}
        for name, figures in firsts.items():
            field = self.fields.get(name)
            if field is not None and field.text() == figures[self._units == "mm"]:
                field.setText(figures[units == "mm"])
        self._units = units

    def settings(self) -> dict[str, Value]:
        """What was typed, read. Raises LanternError."""
        asked = {field.id: field for field in self.way.fields} if self.way is not None else {}
        return {
            name: read_setting(asked[name], field.text(), self._units)
            for name, field in self.fields.items()
            if field.text().strip()
        }

    def tell(self, worked: Mapping[str, str]) -> None:
        """What comes of it stands, faint, in the fields that were left open."""
        for name, field in self.fields.items():
            field.setPlaceholderText(worked.get(name, OPEN))

    def show_used(self, used: bool) -> None:
        """Frame the card that is in use."""
        if self.property("used") != used:
            self.setProperty("used", used)
            self.style().polish(self)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """To go into a field is to take this way."""
        if event.type() == QEvent.Type.FocusIn:
            self.taken.emit()
        return super().eventFilter(watched, event)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if self.fields:
            next(iter(self.fields.values())).setFocus()
