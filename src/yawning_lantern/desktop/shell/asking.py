"""Questions that must be answered before something could be lost."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtWidgets import QMessageBox, QWidget


def may_overwrite(window: QWidget, path: Path, is_own: bool) -> bool:
    """Ask before a file goes that is not what was read from it or saved to it last.

    `is_own`: it is the file of the design that is open.
    """
    box = QMessageBox(window)
    box.setWindowTitle("Another file is there")
    box.setText(
        f"“{path.name}” was changed by someone else, or from another window, since it was opened here."
        if is_own
        else f"“{path.name}” is there already."
    )
    box.setInformativeText("Overwrite it, or cancel and save under another name.")
    kinds = QMessageBox.StandardButton
    box.setStandardButtons(kinds.Save | kinds.Cancel)
    box.button(kinds.Save).setText("Overwrite")
    box.setDefaultButton(kinds.Cancel)
    return bool(box.exec() == kinds.Save)
