"""What was replaced is let go when nothing waits for it: to clear away a study takes more than a millisecond."""

from __future__ import annotations

from PySide6.QtCore import QObject, QTimer

LATER = 100  # ms


class LettingGo(QObject):
    """Holds what was replaced last, and for a moment what was before that. A study holds the one before it until the
    next is made: whoever held no more than the newest would clear away the one before that between edit and paint."""

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self._held: list[object] = []
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.setInterval(LATER)
        self._timer.timeout.connect(self._let_go)

    def put(self, thing: object) -> None:
        """Take what was replaced."""
        self._held.append(thing)
        if not self._timer.isActive():  # while edits follow quickly some are held at once, never more than of that time
            self._timer.start()

    def stop(self) -> None:
        """Let all go."""
        self._timer.stop()
        self._held.clear()

    def _let_go(self) -> None:
        del self._held[:-1]
