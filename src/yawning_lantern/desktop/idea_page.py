"""Idea: three ways to begin, a gallery of every structure, and the designs that were open lately."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from yawning_lantern.desktop.shelf import Shelf
from yawning_lantern.desktop.start_card import STARTS, StartCard
from yawning_lantern.desktop.theme import Theme
from yawning_lantern.desktop.thumbs import SIZE, Thumbs
from yawning_lantern.measure import Units
from yawning_lantern.structures import family, start_design


class IdeaPage(QWidget):
    """`started` carries a new design, `opened` a path, `demo` asks for the demo design."""

    started = Signal(object)
    opened = Signal(object)
    browse = Signal()
    demo = Signal()

    def __init__(self, units: Units, thumbs: Thumbs, parent: QWidget | None = None) -> None:
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
        self._thumbs = thumbs
        self._units: Units = units
        self.gallery = Shelf(thumbs, SIZE, draggable=False)
        self.gallery.setObjectName("gallery")
        self.gallery.taken.connect(self._begin_with)
        self.gallery.currentItemChanged.connect(lambda *_: self._describe())
        self.about = QLabel()
        self.about.setObjectName("faint")
        self.about.setWordWrap(True)
        self.go = QPushButton("Begin with it")
        self.go.setObjectName("go")
        self.go.clicked.connect(lambda: self._begin_with(self.gallery.current_family()))
        self._recent = QVBoxLayout()
        self._recent.setSpacing(3)
        self._recent_title = QLabel("Open lately")
        self._recent_title.setObjectName("heading")
        side = QVBoxLayout()
        side.setSpacing(6)
        side.addWidget(self.about)
        side.addWidget(self.go)
        side.addStretch(1)
        side.addWidget(self._recent_title)
        side.addLayout(self._recent)
        for words, signal in (("Open a design …", self.browse), ("Open the demo: Comet Night set", self.demo)):
            button = QPushButton(words)
            button.clicked.connect(signal)
            side.addWidget(button)
        second = QLabel("Or begin with a structure")
        second.setObjectName("question")
        foot = QHBoxLayout()
        foot.setSpacing(14)
        foot.addWidget(self.gallery, 1)
        holder = QWidget()
        holder.setFixedWidth(232)
        holder.setLayout(side)
        side.setContentsMargins(0, 0, 0, 0)
        foot.addWidget(holder)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(18, 12, 22, 10)
        layout.setSpacing(7)
        layout.addWidget(title)
        layout.addWidget(about)
        layout.addLayout(row)
        layout.addWidget(second)
        layout.addLayout(foot, 1)
        self._describe()
        self.show_recent([])

    def _describe(self) -> None:
        """Tell of the chosen structure."""
        name = self.gallery.current_family()
        if name:
            kind = family(name)
            self.about.setText(f"{kind.name} ({kind.shelf.lower()}). {kind.about}")

    def _begin_with(self, name: str) -> None:
        """A new design of one structure in its usual size."""
        metric = self._units == "mm"
        self.started.emit(
            start_design(
                name, {}, name=f"Untitled {family(name).name.lower()}", units=self._units,
                score_tool="scorer-mm" if metric else "board-8", cut_tool="trimmer-mm" if metric else "trimmer-16",
            )
        )  # fmt: skip

    @property
    def is_idle(self) -> bool:
        """Whether every picture is up to date."""
        return self._thumbs.is_idle and not any(one.runner.is_busy for one in self.cards.values())

    def foresee(self) -> None:
        """Let every card show what would come of it."""
        for one in self.cards.values():
            if one.picture.study is None:
                one.foresee()
        self._thumbs.draw_all()

    def show_recent(self, paths: list[Path]) -> None:
        """List designs that were open lately, newest first."""
        while (item := self._recent.takeAt(0)) is not None:
            widget = item.widget()
            if widget is not None:
                widget.hide()
                widget.deleteLater()
        for path in paths[:3]:
            button = QPushButton(path.stem)
            button.setFlat(True)
            button.setToolTip(str(path))
            button.setStyleSheet("text-align: left;")
            button.clicked.connect(lambda _=False, p=path: self.opened.emit(p))
            self._recent.addWidget(button, 0, Qt.AlignmentFlag.AlignLeft)
        if not paths:
            label = QLabel("Designs you save will stand here.")
            label.setObjectName("faint")
            self._recent.addWidget(label)

    def set_units(self, units: Units) -> None:
        """Read and show lengths in other units."""
        self._units = units
        for one in self.cards.values():
            one.set_units(units)

    def set_theme(self, theme: Theme) -> None:
        """Colours for the pictures."""
        for one in self.cards.values():
            one.picture.theme = theme
            one.picture.update()
