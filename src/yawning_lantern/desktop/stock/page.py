"""Stock: what the design is made of and with. Thickness is measured, or estimated and shown as estimated."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from msgspec.structs import replace
from PySide6.QtCore import QTimer
from PySide6.QtGui import QShowEvent
from PySide6.QtWidgets import (
    QComboBox,
    QFormLayout,
    QFrame,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QPushButton,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from yawning_lantern.design import set_caliper, set_stock, walk
from yawning_lantern.desktop.shared.cards import empty
from yawning_lantern.desktop.shared.runner import Runner
from yawning_lantern.desktop.shared.session import Session
from yawning_lantern.errors import LanternError, ParameterError
from yawning_lantern.measure import format_length, parse_length, speak
from yawning_lantern.stock import builtin_catalogue
from yawning_lantern.structures import family
from yawning_lantern.study.stock_warnings import stock_warnings

THICKEST = 10.0  # mm


class StockPage(QWidget):
    """Body stock with its thickness, glue, tools, and another stock for single parts."""

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.session = session
        shelf = builtin_catalogue()
        self.body = self._combo("Body stock", [(p.id, p.name) for p in shelf.papers], self._choose_body)
        self.glue = self._combo("Adhesive", [(a.id, a.name) for a in shelf.adhesives], self._choose_glue)
        self.score = self._combo(
            "Scored on", [(x.id, x.name) for x in shelf.tools if x.kind == "score"], self._choose_score
        )
        self.cut = self._combo("Cut with", [(x.id, x.name) for x in shelf.tools if x.kind == "cut"], self._choose_cut)
        self.facts = QLabel()
        self.facts.setObjectName("faint")
        self.facts.setWordWrap(True)
        self.measured = QLineEdit()
        self.measured.setPlaceholderText("as estimated")
        self.measured.setAccessibleName("Thickness of ten sheets")
        self.measured.editingFinished.connect(self._measure)
        self.forget = QPushButton("Use the estimate")
        self.forget.clicked.connect(lambda: self._set_caliper(None))
        self.trouble = QLabel()
        self.trouble.setObjectName("trouble")
        self.trouble.setWordWrap(True)
        stack = QHBoxLayout()
        stack.addWidget(self.measured)
        stack.addWidget(self.forget)
        form = QFormLayout()
        form.setVerticalSpacing(10)
        form.addRow("Body stock", self.body)
        form.addRow("", self.facts)
        form.addRow("A stack of ten measures", stack)
        form.addRow("", self.trouble)
        form.addRow("Adhesive", self.glue)
        form.addRow("Scored on", self.score)
        form.addRow("Cut with", self.cut)
        left = self._card("Paper, glue and tools", form)
        self._parts = QGridLayout()
        self._parts.setVerticalSpacing(6)
        right = self._card("Stock of each part", self._parts)
        title = QLabel("What it is made of")
        title.setObjectName("title")
        row = QHBoxLayout()
        row.setSpacing(14)
        row.addWidget(left, 1)
        row.addWidget(right, 1)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(18, 18, 22, 14)
        self.warnings = QLabel()
        self.warnings.setObjectName("trouble")
        self.warnings.setWordWrap(True)
        self.warnings.hide()
        layout.addWidget(title)
        layout.addWidget(self.warnings)
        layout.addLayout(row, 1)
        self._runner = Runner(self)
        self._runner.answered.connect(self._warned)
        session.judged.connect(self._look_over)
        self._listed: tuple[tuple[str, str, str], ...] = ()
        session.changed.connect(self._changed)

    @staticmethod
    def _card(title: str, inner: QFormLayout | QGridLayout) -> QFrame:
        frame = QFrame()
        frame.setObjectName("card")
        heading = QLabel(title)
        heading.setObjectName("heading")
        holder = QWidget()
        column = QVBoxLayout(holder)
        column.setContentsMargins(0, 0, 8, 0)
        column.addLayout(inner)
        column.addStretch(1)
        area = QScrollArea()
        area.setWidgetResizable(True)
        area.setWidget(holder)
        layout = QVBoxLayout(frame)
        layout.setContentsMargins(16, 12, 10, 12)
        layout.addWidget(heading)
        layout.addWidget(area, 1)
        return frame

    @staticmethod
    def _combo(name: str, items: list[tuple[str, str]], chosen: Callable[[str], None]) -> QComboBox:
        combo = QComboBox()
        combo.setAccessibleName(name)
        combo.setMinimumContentsLength(16)
        for key, words in items:
            combo.addItem(words, key)
        combo.activated.connect(lambda: chosen(str(combo.currentData())))
        return combo

    def _changed(self) -> None:
        if self.isVisible():
            self.refresh()

    @property
    def is_idle(self) -> bool:
        """Whether the papers have been looked over."""
        return not self._runner.is_busy

    def stop(self) -> None:
        """Let what runs end."""
        self._runner.stop()

    def _look_over(self) -> None:
        """See off the GUI thread whether the papers can do what they are asked."""
        study = self.session.study
        if self.isVisible() and study is not None:
            self._runner.submit(lambda: (study, stock_warnings(study)))

    def _warned(self, answer: object) -> None:
        if isinstance(answer, BaseException):
            raise answer
        assert isinstance(answer, tuple)
        study, warnings = answer
        if study is not self.session.study:
            return
        units = self.session.design.units
        self.warnings.setText("\n".join(f"△ {speak(warning.sentence, units)}" for warning in warnings))
        self.warnings.setVisible(bool(warnings))

    def showEvent(self, event: QShowEvent) -> None:
        self.refresh()
        QTimer.singleShot(0, self, self._look_over)
        super().showEvent(event)

    def refresh(self) -> None:
        """Show the design as it is now."""
        design = self.session.design
        for combo, key in ((self.body, design.stock), (self.glue, design.adhesive), (self.score, design.score_tool),
                           (self.cut, design.cut_tool)):  # fmt: skip
            combo.setCurrentIndex(combo.findData(key))
        paper = builtin_catalogue().paper(design.stock)
        measured = design.calipers.get(design.stock)
        thick = measured if measured is not None else paper.caliper
        known = "measured by you" if measured is not None else (
            "estimated from weight and bulk" if paper.is_estimated else "as the catalogue has it")  # fmt: skip
        weight = f"{paper.grammage:g} g/m², " if paper.grammage else ""
        sheet = paper.sheet
        usable = format_length(sheet.usable_width, design.units), format_length(sheet.usable_height, design.units)
        sides = "both faces may show" if paper.two_sided else "one-sided: keep the back hidden"
        can = f"{usable[0]} × {usable[1]} of it can be used"
        self.facts.setText(f"{weight}{thick:.3f} mm thick, {known}.\nSheet {sheet.name}, {can}; {sides}.")
        if not self.measured.hasFocus():
            self.measured.setText(f"{measured * 10:.2f} mm" if measured is not None else "")
        self.forget.setEnabled(measured is not None)
        self._list_parts()

    def _list_parts(self) -> None:
        now = tuple((e.id, e.name, e.stock or "") for e in walk(self.session.design.root))
        if now == self._listed:
            return
        self._listed = now
        empty(self._parts)
        shelf = builtin_catalogue()
        for row, element in enumerate(walk(self.session.design.root)):
            name = element.name or family(element.family).name
            items = [("", "the body stock"), *((p.id, p.name) for p in shelf.papers)]
            combo = self._combo(f"Stock of {name}", items, partial(self._choose_part, element.id))
            combo.setCurrentIndex(max(0, combo.findData(element.stock or "")))
            self._parts.addWidget(QLabel(name), row, 0)
            self._parts.addWidget(combo, row, 1)
        self._parts.setColumnStretch(1, 1)

    def _measure(self) -> None:
        text = self.measured.text().strip()
        self.trouble.setText("")
        try:
            caliper = parse_length(text, "mm") / 10 if text else None
            if caliper is not None and not 0.01 <= caliper <= THICKEST:
                raise ParameterError(
                    f"A sheet of {caliper:.3f} mm is no paper or board.",
                    "Thickness",
                    "Stack ten sheets, press them, and measure the stack.",
                )
        except LanternError as error:
            self.trouble.setText(f"✕ {error.sentence()}")
            return
        self._set_caliper(caliper)

    def _set_caliper(self, caliper: float | None) -> None:
        design = self.session.design
        self.measured.clearFocus()
        self.session.edit(set_caliper(design, design.stock, caliper), "measure the stock")

    def _choose_body(self, key: str) -> None:
        self.session.edit(set_stock(self.session.design, None, key), "choose stock")

    def _choose_part(self, element: str, key: str) -> None:
        self.session.edit(set_stock(self.session.design, element, key or None), "choose a part's stock")

    def _choose_glue(self, key: str) -> None:
        self.session.edit(replace(self.session.design, adhesive=key), "choose adhesive")

    def _choose_score(self, key: str) -> None:
        self.session.edit(replace(self.session.design, score_tool=key), "choose scoring tool")

    def _choose_cut(self, key: str) -> None:
        self.session.edit(replace(self.session.design, cut_tool=key), "choose cutting tool")
