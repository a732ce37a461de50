"""The acts of a script in their order: choose one to see the sheet as it is then, drag them about, take one away."""

from __future__ import annotations

from PySide6.QtCore import Qt, QTimer, Signal
from PySide6.QtWidgets import (
    QAbstractItemView,
    QHBoxLayout,
    QListWidget,
    QListWidgetItem,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from yawning_lantern.flatfold.script import Script
from yawning_lantern.flatfold.telling import step_words

BEAT = 700  # ms from act to act when they are played
_NUMBER = Qt.ItemDataRole.UserRole


class FoldActs(QWidget):
    """`shown` tells after how many acts the sheet is looked at, `moved` (from, to) and `taken` which act goes."""

    shown = Signal(int)
    moved = Signal(int, int)
    taken = Signal(int)

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.list = QListWidget()
        self.list.setDragDropMode(QAbstractItemView.DragDropMode.InternalMove)
        self.list.setAccessibleName("Acts")
        self.list.setWordWrap(True)
        self.list.currentRowChanged.connect(self._chosen)
        self.list.model().rowsMoved.connect(lambda *_: QTimer.singleShot(0, self, self._dropped))
        self.earlier, self.later, self.take, self.play = (QToolButton() for _ in range(4))
        row = QHBoxLayout()
        row.setSpacing(2)
        for button, words, does in (
            (self.earlier, "Earlier", lambda: self._shift(-1)), (self.later, "Later", lambda: self._shift(1)),
            (self.take, "Take away", self._take), (self.play, "Play", self.replay),
        ):  # fmt: skip
            button.setText(words)
            button.clicked.connect(does)
            row.addWidget(button)
        row.addStretch(1)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(4)
        layout.addWidget(self.list, 1)
        layout.addLayout(row)
        self._script: Script = ()
        self._beat = QTimer(self)
        self._beat.setInterval(BEAT)
        self._beat.timeout.connect(self._next)

    def show_script(self, script: Script, at: int, bad: int | None) -> None:
        """The acts; `at` of them done in what is shown, `bad` the one that cannot be done."""
        self._script = script
        self.list.blockSignals(True)
        self.list.clear()
        first = QListWidgetItem("The sheet, flat")
        first.setFlags(Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsSelectable)
        self.list.addItem(first)
        for number, step in enumerate(script):
            mark = "✕ " if number == bad else ""
            item = QListWidgetItem(f"{mark}{number + 1}  {step_words(step)}")
            item.setData(_NUMBER, number)
            self.list.addItem(item)
        self.list.setCurrentRow(at)
        self.list.blockSignals(False)
        self._enable()

    def _enable(self) -> None:
        row = self.list.currentRow()
        self.earlier.setEnabled(row > 1)
        self.later.setEnabled(0 < row < len(self._script))
        self.take.setEnabled(row > 0)
        self.play.setEnabled(bool(self._script))

    def _chosen(self, row: int) -> None:
        self._enable()
        if row >= 0:
            self.shown.emit(row)

    def _shift(self, by: int) -> None:
        row = self.list.currentRow()
        if row > 0 and 0 < row + by <= len(self._script):
            self.moved.emit(row - 1, row - 1 + by)

    def _take(self) -> None:
        row = self.list.currentRow()
        if row > 0:
            self.taken.emit(row - 1)

    def _dropped(self) -> None:
        """Tell the move that a drag made."""
        order = [self.list.item(k).data(_NUMBER) for k in range(self.list.count())]
        order = [number for number in order if number is not None]
        for to, number in enumerate(order):
            if number != to:
                # what was dragged down leaves a gap where the next one is; what was dragged up stands here
                frm, where = (to, order.index(to)) if number == to + 1 else (number, to)
                self.moved.emit(frm, where)
                return

    def replay(self) -> None:
        """From the flat sheet act by act, or stop."""
        if self._beat.isActive():
            self._stop()
            return
        self.list.setCurrentRow(0)
        self.play.setText("Stop")
        self._beat.start()

    def _next(self) -> None:
        row = self.list.currentRow() + 1
        if row > len(self._script):
            self._stop()
            return
        self.list.setCurrentRow(row)

    def _stop(self) -> None:
        self._beat.stop()
        self.play.setText("Play")
