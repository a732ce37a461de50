"""The list of all steps, grouped by part: what is done, what one is at, what comes."""

from __future__ import annotations

from PySide6.QtCore import Qt, QTimer, Signal
from PySide6.QtWidgets import QListWidget, QListWidgetItem, QWidget

from yawning_lantern.bench import KINDS, Walk
from yawning_lantern.measure import Units, speak

RANK = Qt.ItemDataRole.UserRole


class StepList(QListWidget):
    """Every step of a walk. `chosen`: go to that one, by its rank."""

    chosen = Signal(int)

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._shown: Walk | None = None
        self.setWordWrap(True)
        self.setAccessibleName("All steps")
        self.itemActivated.connect(self._choose)
        self.itemClicked.connect(self._choose)

    def show_walk(self, walk: Walk | None, units: Units) -> None:
        """List a walk's steps, if it is another than the one that is listed."""
        if walk is self._shown:
            return
        self._shown = walk
        self.clear()
        if walk is None:
            return
        group = ""
        for k, step in enumerate(walk.plan.steps):
            named = "Cutting" if step.kind == "cut" else step.parts[0] if step.parts else "The whole"
            if named != group:
                group = named
                self._add_title(group)
            sign = "✓" if step.id in walk.done else "▸" if k == walk.at else "  "
            words = speak(step.text, units)
            if not words.startswith(KINDS[step.kind]):
                words = f"{KINDS[step.kind]}: {words}"
            item = QListWidgetItem(f"{sign} {k + 1}.  {words}")
            item.setData(RANK, k)
            item.setToolTip(speak(step.heed or step.because, units))
            self.addItem(item)
            if k == walk.at:
                self.setCurrentItem(item)
        QTimer.singleShot(0, self, self._scroll)

    def _add_title(self, words: str) -> None:
        title = QListWidgetItem(words)
        font = title.font()
        font.setBold(True)
        title.setFont(font)
        title.setFlags(Qt.ItemFlag.NoItemFlags)
        self.addItem(title)

    def _scroll(self) -> None:
        """The step that one is at stands in the middle."""
        item = self.currentItem()
        if item is not None:
            self.scrollToItem(item, QListWidget.ScrollHint.PositionAtCenter)

    def _choose(self, item: QListWidgetItem) -> None:
        rank = item.data(RANK)
        if rank is not None:
            self.chosen.emit(int(rank))
