"""A strip above the page that tells something and may offer deeds. It never blocks the work."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from PySide6.QtWidgets import QFrame, QHBoxLayout, QLabel, QPushButton, QToolButton, QWidget


class Notice(QFrame):
    """Words, a button for each deed, and one that closes it."""

    def __init__(self, words: str, deeds: Mapping[str, Callable[[], object]], parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setObjectName("card")
        self.label = QLabel(words)
        self.label.setWordWrap(True)
        self.buttons: dict[str, QPushButton] = {}
        layout = QHBoxLayout(self)
        layout.setContentsMargins(10, 5, 6, 5)
        layout.addWidget(self.label, 1)
        for name, deed in deeds.items():
            button = QPushButton(name)
            button.clicked.connect(lambda _=False, d=deed: self._do(d))
            self.buttons[name] = button
            layout.addWidget(button)
        if not deeds:
            away = QToolButton()
            away.setText("✕")
            away.setAccessibleName("Close this notice")
            away.clicked.connect(self.deleteLater)
            layout.addWidget(away)

    def _do(self, deed: Callable[[], object]) -> None:
        self.hide()
        self.deleteLater()
        deed()
