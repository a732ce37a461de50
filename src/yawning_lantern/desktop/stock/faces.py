"""The two faces of a paper: colour, pattern and which way the pattern runs."""

from __future__ import annotations

from msgspec.structs import replace
from PySide6.QtCore import QSize, Signal
from PySide6.QtGui import QColor, QIcon, QPixmap
from PySide6.QtWidgets import QColorDialog, QComboBox, QGridLayout, QLabel, QLineEdit, QPushButton, QWidget

from yawning_lantern.errors import LanternError
from yawning_lantern.measure import parse_length
from yawning_lantern.stock import KINDS, Motif, Paper

WAYS = ("up", "to the left", "down", "to the right")
"""Where a pattern's up side is when the sheet lies with that face up, by quarter turns."""


class ColourButton(QPushButton):
    """A colour; a click lets the maker choose another one. `picked` carries it as #rrggbb."""

    picked = Signal(str)

    def __init__(self, name: str, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setAccessibleName(name)
        self.setToolTip(name)
        self.setFixedWidth(38)
        self._colour = "#ffffff"
        self.clicked.connect(self._ask)

    def show_colour(self, colour: str) -> None:
        """Show another colour."""
        self._colour = colour
        pixmap = QPixmap(QSize(20, 14))
        pixmap.fill(QColor(colour))
        self.setIcon(QIcon(pixmap))
        self.setIconSize(pixmap.size())
        self.setAccessibleDescription(colour)

    def _ask(self) -> None:
        colour = QColorDialog.getColor(QColor(self._colour), self, self.toolTip())
        if colour.isValid():
            self.picked.emit(colour.name())


class FaceRow(QWidget):
    """One face of a paper. `changed` carries the paper with the face as it is told now; `wrong` what cannot be."""

    changed = Signal(object)
    wrong = Signal(str)

    def __init__(self, front: bool, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._front = front
        self._paper: Paper | None = None
        side = "Front" if front else "Back"
        self.colour = ColourButton(f"{side}, colour")
        self.kind = QComboBox()
        self.kind.addItems(["plain", *KINDS])
        self.kind.setAccessibleName(f"{side}, pattern")
        self.ink = ColourButton(f"{side}, colour of the pattern")
        self.repeat = QLineEdit()
        self.repeat.setAccessibleName(f"{side}, the pattern repeats every")
        self.repeat.setToolTip("The pattern repeats every")
        self.repeat.setMaximumWidth(76)
        self.way = QComboBox()
        self.way.setAccessibleName(f"{side}, the pattern’s up side")
        self.way.setToolTip("Where the pattern’s up side is as the sheet lies, this face up")
        self.way.addItems([f"up side {way}" for way in WAYS])
        grid = QGridLayout(self)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setHorizontalSpacing(5)
        grid.setVerticalSpacing(3)
        grid.addWidget(QLabel(side), 0, 0)
        grid.addWidget(self.colour, 0, 1)
        grid.addWidget(self.kind, 0, 2, 1, 2)
        grid.addWidget(self.ink, 1, 1)
        grid.addWidget(self.repeat, 1, 2)
        grid.addWidget(self.way, 1, 3)
        grid.setColumnMinimumWidth(0, 40)
        grid.setColumnStretch(3, 1)
        self.colour.picked.connect(lambda colour: self._give(colour=colour))
        self.ink.picked.connect(lambda colour: self._give(ink=colour))
        self.kind.textActivated.connect(lambda kind: self._give(kind=kind))
        self.repeat.editingFinished.connect(lambda: self._give(repeat=self.repeat.text()))
        self.way.activated.connect(lambda turn: self._give(turn=turn))

    def show_paper(self, paper: Paper) -> None:
        """Show another paper's face."""
        self._paper = paper
        motif = paper.front_motif if self._front else paper.back_motif
        self.colour.show_colour(paper.front if self._front else paper.back)
        self.kind.setCurrentText(motif.kind if motif is not None else "plain")
        for widget in (self.ink, self.repeat, self.way):
            widget.setVisible(motif is not None)
        if motif is None:
            return
        self.ink.show_colour(motif.ink)
        self.repeat.setText(_repeat(motif))
        self.repeat.setCursorPosition(0)
        self.way.setCurrentIndex(motif.turn)
        self.way.setVisible(motif.has_direction)

    def _give(
        self, colour: str | None = None, kind: str | None = None, ink: str | None = None, repeat: str | None = None,
        turn: int | None = None,
    ) -> None:  # fmt: skip
        """Tell the paper with something of this face changed."""
        paper = self._paper
        if paper is None:
            return
        motif = paper.front_motif if self._front else paper.back_motif
        if kind == "plain":
            motif = None
        elif kind is not None:
            chosen = next(one for one in KINDS if one == kind)
            motif = replace(motif, kind=chosen) if motif is not None else Motif(chosen, _beside(self._ground(paper)))
        if motif is not None and repeat is not None:
            try:
                if repeat != _repeat(motif):
                    motif = replace(motif, repeat=parse_length(repeat, "mm"))
            except LanternError as error:
                self.wrong.emit(error.sentence())
                return
        if motif is not None and ink is not None:
            motif = replace(motif, ink=ink)
        if motif is not None and turn is not None:
            motif = replace(motif, turn=turn)
        names = ("front", "front_motif") if self._front else ("back", "back_motif")
        now = replace(paper, **{names[0]: colour or self._ground(paper), names[1]: motif})
        if now != paper:
            self.changed.emit(now)

    def _ground(self, paper: Paper) -> str:
        return paper.front if self._front else paper.back


def _repeat(motif: Motif) -> str:
    return f"{motif.repeat:.4g} mm"


def _beside(ground: str) -> str:
    """A colour that can be seen on another: much lighter, or much darker."""
    colour = QColor(ground)
    return (colour.lighter(170) if colour.lightnessF() < 0.5 else colour.darker(170)).name()
