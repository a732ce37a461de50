"""Designs that were open lately."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path

from PySide6.QtCore import QSettings
from PySide6.QtWidgets import QMenu

KEPT = 8


class RecentFiles:
    """Paths kept in the settings, shown in a menu; files that are gone are passed over."""

    def __init__(self, settings: QSettings, menu: QMenu, open_path: Callable[[Path], None]) -> None:
        self._settings, self._menu, self._open = settings, menu, open_path
        self._fill()

    def paths(self) -> list[Path]:
        """Newest first."""
        stored = self._settings.value("recent", [])
        names = stored if isinstance(stored, list) else [stored] if stored else []
        return [path for name in names if (path := Path(str(name))).is_file()]

    def add(self, path: Path) -> None:
        """Note that a file was opened or saved."""
        path = path.resolve()
        names = [str(path), *(str(p) for p in self.paths() if p != path)][:KEPT]
        self._settings.setValue("recent", names)
        self._fill()

    def _opened(self, path: Path, _checked: bool = False) -> None:
        self._open(path)

    def _fill(self) -> None:
        self._menu.clear()
        for path in self.paths():
            self._menu.addAction(str(path)).triggered.connect(partial(self._opened, path))
        self._menu.setEnabled(not self._menu.isEmpty())
