"""A tour of short notes on the real screen. It blocks nothing: the window can be used while a note stands."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from msgspec import Struct
from PySide6.QtCore import QPoint, QSize, Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QFrame, QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

WIDE = 300  # px
APART = 12  # px between a note and what it is about


class Stop(Struct, frozen=True):
    """One note: what it is about, and its words."""

    about: QWidget
    title: str
    words: str


def beside(target: tuple[int, int, int, int], size: tuple[int, int], room: tuple[int, int]) -> tuple[int, int]:
    """Where a note of a size stands, px: right of what it is about, else left of it, else over its middle; always
    whole within the room. `target` is left, top, width, height."""
    left, top, wide, high = target
    x = left + wide + APART
    if x + size[0] > room[0]:
        x = left - size[0] - APART
    if x < 0:
        x = left + (wide - size[0]) // 2
    y = top + min(40, high // 4)
    return max(0, min(x, room[0] - size[0])), max(0, min(y, room[1] - size[1]))


class Tour(QFrame):
    """Goes through the notes; `done` is called when the last was read or the maker has had enough."""

    def __init__(self, window: QWidget, stops: Sequence[Stop], done: Callable[[], object]) -> None:
        super().__init__(window)
        self.setObjectName("note")
        self._window, self._stops, self._done = window, tuple(stops), done
        self.at = 0
        self.title = QLabel()
        self.title.setObjectName("question")
        self.words = QLabel()
        self.words.setWordWrap(True)
        self.words.setFixedWidth(WIDE)
        self.count = QLabel()
        self.count.setObjectName("faint")
        self.enough = QPushButton("Enough")
        self.enough.clicked.connect(self._end)
        self.on = QPushButton("Next")
        self.on.setObjectName("go")
        self.on.clicked.connect(self._next)
        row = QHBoxLayout()
        row.addWidget(self.count, 1)
        row.addWidget(self.enough)
        row.addWidget(self.on)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(14, 10, 14, 12)
        layout.addWidget(self.title)
        layout.addWidget(self.words)
        layout.addLayout(row)
        self.setAccessibleName("Tour")

    def begin(self) -> None:
        """The first note."""
        self.at = 0
        self.place()
        self.show()
        self.raise_()
        self.on.setFocus()

    def place(self) -> None:
        """Stand beside what the note is about, wherever that is now."""
        stop = self._stops[self.at]
        self.title.setText(stop.title)
        self.words.setText(stop.words)
        self.count.setText(f"{self.at + 1} of {len(self._stops)}")
        self.on.setText("Next" if self.at + 1 < len(self._stops) else "To work")
        self.setAccessibleDescription(f"{stop.title} {stop.words}")
        self.words.setMinimumHeight(self.words.heightForWidth(WIDE))
        layout = self.layout()
        assert layout is not None
        layout.activate()
        size: QSize = self.sizeHint()
        self.resize(size)
        at = stop.about.mapTo(self._window, QPoint(0, 0))
        target = (at.x(), at.y(), stop.about.width(), stop.about.height())
        room = (self._window.width(), self._window.height())
        self.move(*beside(target, (size.width(), size.height()), room))

    def _next(self) -> None:
        if self.at + 1 == len(self._stops):
            self._end()
        else:
            self.at += 1
            self.place()

    def _end(self) -> None:
        self.hide()
        self._done()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape:
            self._end()
        else:
            super().keyPressEvent(event)
