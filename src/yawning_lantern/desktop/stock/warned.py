"""What the papers cannot do as they are used: each warning in words, with the changes that would end it."""

from __future__ import annotations

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QHBoxLayout, QLabel, QMenu, QPushButton, QScrollArea, QVBoxLayout, QWidget

from yawning_lantern.desktop.shared.cards import empty
from yawning_lantern.measure import Units, speak
from yawning_lantern.study.warning import Cure, StockWarning

HIGHEST = 96
"""The list is no higher, px: more is scrolled."""


class Warnings(QScrollArea):
    """`cured` carries the change that was chosen, `pointed` the part a warning is about."""

    cured = Signal(object)
    pointed = Signal(str)

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.shown: tuple[StockWarning, ...] = ()
        self._units: Units = "in"
        self.setWidgetResizable(True)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setAccessibleName("What the papers cannot do")
        self._inner = QWidget()
        self._rows = QVBoxLayout(self._inner)
        self._rows.setContentsMargins(0, 0, 6, 0)
        self._rows.setSpacing(3)
        self.setWidget(self._inner)
        self.hide()

    def text(self) -> str:
        """All that is said, a line each."""
        return "\n".join(label.text() for label in self._inner.findChildren(QLabel))

    def show_warnings(self, warnings: tuple[StockWarning, ...], units: Units) -> None:
        """Say other warnings; what is said already stays, with the menu that may be open in it."""
        if warnings is self.shown and units == self._units:
            return
        self.shown, self._units = warnings, units
        empty(self._rows)
        for warning in warnings:
            row = QWidget()
            line = QHBoxLayout(row)
            line.setContentsMargins(0, 0, 0, 0)
            words = QLabel(f"△ {speak(warning.what if warning.cures else warning.sentence, units)}")
            words.setObjectName("trouble")
            words.setWordWrap(True)
            words.setToolTip(speak(warning.sentence, units))
            line.addWidget(words, 1)
            show = QPushButton("Show")
            show.setAccessibleName(f"Show the part: {warning.element}")
            show.clicked.connect(lambda _=False, part=warning.element: self.pointed.emit(part))
            line.addWidget(show)
            if warning.cures:
                line.addWidget(self._mending(warning.cures, units))
            self._rows.addWidget(row)
        self._rows.addStretch(1)
        self.setVisible(bool(warnings))
        self.setFixedHeight(min(HIGHEST, 4 + len(warnings) * (2 * self.fontMetrics().height() + 8)))

    def _mending(self, cures: tuple[Cure, ...], units: Units) -> QPushButton:
        """A button that offers what would help."""
        button = QPushButton("Mend it")
        menu = QMenu(button)
        for cure in cures:
            menu.addAction(speak(cure.words, units)).triggered.connect(lambda _=False, cure=cure: self.cured.emit(cure))
        button.setMenu(menu)
        return button
