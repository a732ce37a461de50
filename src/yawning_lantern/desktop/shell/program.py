"""The running program: its windows, each with a design of its own, and what all of them share."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import QObject, QSettings, Signal
from PySide6.QtWidgets import QApplication, QWidget

from yawning_lantern.desktop.shared.theme import DAY, NIGHT, Theme, apply_theme

TEXT_SIZE = 10.0
SMALLEST, LARGEST = 7.0, 18.0


class Program(QObject):
    """Settings, colours and text size of all windows. `dressed`: the colours or the text are others."""

    dressed = Signal()

    def __init__(
        self, state_folder: Path, settings: QSettings, drawer: Path | None = None, parent: QObject | None = None
    ) -> None:
        super().__init__(parent)
        self.state_folder = state_folder
        self.drawer = drawer or state_folder / "workshop.sqlite"
        self.settings = settings
        dark, patterned = bool(settings.value("dark", False, bool)), bool(settings.value("patterns", True, bool))
        self.theme: Theme = (NIGHT if dark else DAY)._replace(patterned=patterned)
        self.text_size = float(str(settings.value("text", TEXT_SIZE, float)))
        self.windows: list[QWidget] = []
        self._apply()

    def remember(self, window: QWidget) -> None:
        """A window opened: it lives until it is closed."""
        self.windows.append(window)

    def forget(self, window: QWidget) -> None:
        """A window closed."""
        if window in self.windows:
            self.windows.remove(window)

    def _apply(self) -> None:
        app = QApplication.instance()
        assert isinstance(app, QApplication)
        apply_theme(app, self.theme, self.text_size)

    def be_dark(self, dark: bool) -> None:
        """Paper by day, lamp by night."""
        self.theme = (NIGHT if dark else DAY)._replace(patterned=self.theme.patterned)
        self.settings.setValue("dark", dark)
        self._apply()
        self.dressed.emit()

    def show_patterns(self, on: bool) -> None:
        """Paint the patterns of papers, or their colours only."""
        self.theme = self.theme._replace(patterned=on)
        self.settings.setValue("patterns", on)
        self.dressed.emit()

    def resize_text(self, by: float) -> None:
        """Text so many points larger."""
        size = max(SMALLEST, min(LARGEST, self.text_size + by))
        if size != self.text_size:
            self.text_size = size
            self.settings.setValue("text", size)
            self._apply()
            self.dressed.emit()
