"""Idea: three ways to begin, and the designs that were open lately."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from yawning_lantern.desktop.start_card import STARTS, StartCard
from yawning_lantern.desktop.theme import Theme
from yawning_lantern.measure import Units


class IdeaPage(QWidget):
    """`started` carries a new design, `opened` a path, `demo` asks for the demo design."""

    started = Signal(object)
    opened = Signal(object)
    browse = Signal()
    demo = Signal()

    def __init__(self, units: Units, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        title = QLabel("Begin with what you know")
        title.setObjectName("title")
        about = QLabel("One of the three is enough. Everything else is worked out, and can be changed afterwards.")
        about.setObjectName("faint")
        self.cards = {start.id: StartCard(start, units) for start in STARTS}
        row = QHBoxLayout()
        row.setSpacing(14)
        for one in self.cards.values():
            one.started.connect(self.started)
            row.addWidget(one, 1)
        self._recent = QVBoxLayout()
        self._recent.setSpacing(3)
        self._recent_title = QLabel("Open lately")
        self._recent_title.setObjectName("heading")
        foot = QHBoxLayout()
        left = QVBoxLayout()
        left.addWidget(self._recent_title)
        left.addLayout(self._recent)
        left.addStretch(1)
        foot.addLayout(left, 2)
        right = QVBoxLayout()
        for words, signal in (("Open a design …", self.browse), ("Open the demo: Comet Night keepsake box", self.demo)):
            button = QPushButton(words)
            button.clicked.connect(signal)
            right.addWidget(button)
        right.addStretch(1)
        foot.addLayout(right, 1)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(18, 18, 22, 14)
        layout.setSpacing(10)
        layout.addWidget(title)
        layout.addWidget(about)
        layout.addLayout(row, 1)
        layout.addLayout(foot)
        self.show_recent([])

    @property
    def is_idle(self) -> bool:
        """Whether every picture is up to date."""
        return not any(one.runner.is_busy for one in self.cards.values())

    def foresee(self) -> None:
        """Let every card show what would come of it."""
        for one in self.cards.values():
            if one.picture.study is None:
                one.foresee()

    def show_recent(self, paths: list[Path]) -> None:
        """List designs that were open lately, newest first."""
        while (item := self._recent.takeAt(0)) is not None:
            widget = item.widget()
            if widget is not None:
                widget.hide()
                widget.deleteLater()
        for path in paths[:4]:
            button = QPushButton(f"{path.stem}   ({path.parent})")
            button.setFlat(True)
            button.setStyleSheet("text-align: left;")
            button.clicked.connect(lambda _=False, p=path: self.opened.emit(p))
            self._recent.addWidget(button, 0, Qt.AlignmentFlag.AlignLeft)
        if not paths:
            label = QLabel("Designs you save will stand here.")
            label.setObjectName("faint")
            self._recent.addWidget(label)

    def set_units(self, units: Units) -> None:
        """Read and show lengths in other units."""
        for one in self.cards.values():
            one.set_units(units)

    def set_theme(self, theme: Theme) -> None:
        """Colours for the pictures."""
        for one in self.cards.values():
            one.picture.theme = theme
            one.picture.update()
