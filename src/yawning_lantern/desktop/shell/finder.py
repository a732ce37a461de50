"""Find a command, a page or a part by typing some of its words."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from msgspec import Struct
from PySide6.QtCore import QEvent, QObject, Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QDialog, QLabel, QLineEdit, QListWidget, QListWidgetItem, QVBoxLayout, QWidget

SHOWN = 200


class Deed(Struct, frozen=True):
    """One line of the search: its words, where it stands (a menu, or “part”), its keys, and what it does."""

    words: str
    where: str
    keys: str
    do: Callable[[], object]
    about: str = ""


def matching(deeds: Sequence[Deed], typed: str) -> list[Deed]:
    """The deeds that have every typed word, those that begin with what was typed first, then in the order given."""
    wanted = typed.lower().split()
    told = [(deed, f"{deed.words} {deed.where} {deed.about}".lower()) for deed in deeds]
    kept = [deed for deed, text in told if all(word in text for word in wanted)]

    def rank(deed: Deed) -> int:
        words = deed.words.lower()
        if not wanted or words.startswith(wanted[0]):
            return 0
        return 1 if all(word in words for word in wanted) else 2

    return sorted(kept, key=rank)


class Finder(QDialog):
    """A field and a list; arrows choose, Enter does it, Escape goes back."""

    def __init__(self, deeds: Sequence[Deed], parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle("Find a command or a part")
        self.resize(560, 420)
        self._deeds = tuple(deeds)
        self._shown: list[Deed] = []
        self.field = QLineEdit()
        self.field.setPlaceholderText("Some of its words: undo, film, lid …")
        self.field.setAccessibleName("Words to find")
        self.field.textChanged.connect(self._refresh)
        self.field.installEventFilter(self)
        self.list = QListWidget()
        self.list.setAccessibleName("What was found")
        self.list.itemActivated.connect(lambda _: self._do())
        self.foot = QLabel()
        self.foot.setObjectName("faint")
        self.foot.setWordWrap(True)
        layout = QVBoxLayout(self)
        layout.addWidget(self.field)
        layout.addWidget(self.list, 1)
        layout.addWidget(self.foot)
        self.list.currentRowChanged.connect(self._describe)
        self._refresh()

    def _refresh(self) -> None:
        self._shown = matching(self._deeds, self.field.text())[:SHOWN]
        self.list.clear()
        for deed in self._shown:
            keys = f"   {deed.keys}" if deed.keys else ""
            item = QListWidgetItem(f"{deed.words}  ·  {deed.where}{keys}")
            self.list.addItem(item)
        self.list.setCurrentRow(0)
        self._describe()

    def _describe(self) -> None:
        row = self.list.currentRow()
        if 0 <= row < len(self._shown):
            self.foot.setText(self._shown[row].about or "Enter does it.")
        else:
            self.foot.setText("Nothing is called that. Try one word of it.")

    def _do(self) -> None:
        row = self.list.currentRow()
        if 0 <= row < len(self._shown):
            self.accept()
            self._shown[row].do()

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Arrow keys in the field move in the list, Enter does what is chosen."""
        if isinstance(event, QKeyEvent) and event.type() == QEvent.Type.KeyPress:
            step = {Qt.Key.Key_Down: 1, Qt.Key.Key_Up: -1}.get(Qt.Key(event.key()))
            if step is not None:
                self.list.setCurrentRow(max(0, min(self.list.count() - 1, self.list.currentRow() + step)))
                return True
            if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
                self._do()
                return True
        return super().eventFilter(watched, event)
