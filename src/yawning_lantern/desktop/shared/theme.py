"""Colours, fonts and the style sheet. Two sets: paper by day, lamp by night."""

from __future__ import annotations

from pathlib import Path
from typing import NamedTuple

from PySide6.QtGui import QColor, QFont, QFontDatabase, QPalette
from PySide6.QtWidgets import QApplication

FONTS = Path(__file__).parents[2] / "fonts"
FAMILY = "Lato"


class Theme(NamedTuple):
    """Named colours as #rrggbb; `patterned`: patterns of paper are painted."""

    dark: bool
    ground: str
    card: str
    field: str
    line: str
    ink: str
    faint: str
    lamp: str
    lamp_ink: str
    worked: str
    table: str
    fence: str
    clash: str
    tight: str
    snug: str
    easy: str
    loose: str
    patterned: bool = True

    def colour(self, name: str) -> QColor:
        """A named colour for painting."""
        return QColor(getattr(self, name))


DAY = Theme(
    dark=False, ground="#efe9dc", card="#faf6ec", field="#fffdf7", line="#cfc4ae", ink="#2b2640", faint="#6c6478",
    lamp="#b8432f", lamp_ink="#fffaf0", worked="#2c6468", table="#e4dcca", fence="#8a7c66",
    clash="#a3122a", tight="#a65a00", snug="#7a6a00", easy="#2b6b45", loose="#4a5a8c",
)  # fmt: skip
NIGHT = Theme(
    dark=True, ground="#1b1a2b", card="#25243a", field="#2e2d47", line="#454465", ink="#f1eadb", faint="#aaa4bd",
    lamp="#f0a848", lamp_ink="#221b12", worked="#86c9c4", table="#201f33", fence="#7d76a0",
    clash="#ff8091", tight="#f6a95c", snug="#e0cf5a", easy="#82d3a0", loose="#a9b8f2",
)  # fmt: skip


def load_fonts() -> None:
    """Make the shipped faces known. Called once."""
    for name in ("Lato-Regular.ttf", "Lato-Bold.ttf"):
        QFontDatabase.addApplicationFont(str(FONTS / name))


def apply_theme(app: QApplication, theme: Theme, text_size: float) -> None:
    """Give the whole program its colours and text size (points)."""
    font = QFont(FAMILY)
    font.setPointSizeF(text_size)
    app.setFont(font)
    palette = QPalette()
    roles = {
        QPalette.ColorRole.Window: theme.ground, QPalette.ColorRole.Base: theme.field,
        QPalette.ColorRole.AlternateBase: theme.card, QPalette.ColorRole.Text: theme.ink,
        QPalette.ColorRole.WindowText: theme.ink, QPalette.ColorRole.Button: theme.card,
        QPalette.ColorRole.ButtonText: theme.ink, QPalette.ColorRole.Highlight: theme.lamp,
        QPalette.ColorRole.HighlightedText: theme.lamp_ink, QPalette.ColorRole.ToolTipBase: theme.card,
        QPalette.ColorRole.ToolTipText: theme.ink, QPalette.ColorRole.PlaceholderText: theme.faint,
        QPalette.ColorRole.Link: theme.worked,
    }  # fmt: skip
    for role, colour in roles.items():
        palette.setColor(role, QColor(colour))
    for role in (QPalette.ColorRole.Text, QPalette.ColorRole.ButtonText, QPalette.ColorRole.WindowText):
        palette.setColor(QPalette.ColorGroup.Disabled, role, QColor(theme.faint))
    app.setPalette(palette)
    app.setStyleSheet("")  # from one sheet to another Qt dresses every widget anew several times: four times as long
    app.setStyleSheet(_sheet(theme, text_size))


def _sheet(t: Theme, size: float) -> str:
    return f"""
    QWidget {{ color: {t.ink}; font-family: {FAMILY}; font-size: {size}pt; }}
    QMainWindow, QDialog {{ background: {t.ground}; }}
    QMenuBar {{ background: {t.ground}; }} QMenuBar::item {{ padding: 4px 10px; }}
    QMenuBar::item:selected, QMenu::item:selected {{ background: {t.lamp}; color: {t.lamp_ink}; }}
    QMenu {{ background: {t.card}; border: 1px solid {t.line}; padding: 4px; }}
    QMenu::item {{ padding: 5px 26px 5px 18px; }} QMenu::item:disabled {{ color: {t.faint}; }}
    QMenu::separator {{ height: 1px; background: {t.line}; margin: 4px 8px; }}
    QFrame#card {{ background: {t.card}; border: 1px solid {t.line}; border-radius: 3px; }}
    QFrame#way {{ background: {t.card}; border: 1px solid {t.line}; border-radius: 3px; }}
    QFrame#way[used="true"] {{ border: 2px solid {t.lamp}; }}
    QFrame#note {{ background: {t.card}; border: 2px solid {t.lamp}; border-radius: 5px; }}
    QDialogButtonBox {{ dialogbuttonbox-buttons-have-icons: 0; }}
    QLabel#heading {{ font-weight: bold; }}
    QLabel#faint {{ color: {t.faint}; }}
    QLabel#trouble, QFrame#trouble QLabel {{ color: {t.clash}; font-weight: bold; }}
    QLabel#title {{ font-weight: bold; font-size: {size * 1.7}pt; }}
    QLabel#question {{ font-weight: bold; font-size: {size * 1.25}pt; }}
    QLineEdit {{
        background: {t.field}; border: 1px solid {t.line}; border-radius: 2px; padding: 3px 6px;
        selection-background-color: {t.lamp}; selection-color: {t.lamp_ink}; min-height: 18px; }}
    QLineEdit:focus {{ border: 2px solid {t.lamp}; padding: 2px 5px; }}
    QLineEdit[origin="worked"] {{ color: {t.worked}; font-style: italic; background: {t.card}; border-style: dashed; }}
    QLineEdit[origin="given"] {{ font-weight: bold; }}
    QLineEdit[trouble="yes"] {{ border: 2px solid {t.clash}; }}
    QComboBox, QSpinBox {{ min-height: 24px; }}
    QPushButton {{ background: {t.card}; border: 1px solid {t.line}; border-bottom: 2px solid {t.line};
        border-radius: 3px; padding: 4px 12px; }}
    QPushButton:hover {{ border-color: {t.lamp}; }}
    QPushButton:focus {{ border: 2px solid {t.lamp}; padding: 3px 11px; }}
    QLabel:disabled {{ color: {t.faint}; }}
    QPushButton:disabled {{ color: {t.faint}; }}
    QPushButton#tight {{ padding: 4px 6px; }} QPushButton#tight:focus {{ padding: 3px 5px; }}
    QPushButton#go {{ background: {t.lamp}; color: {t.lamp_ink}; border-color: {t.lamp}; font-weight: bold; }}
    QPushButton#go:disabled {{ background: {t.line}; color: {t.faint}; border-color: {t.line}; }}
    QToolButton {{ background: transparent; border: 1px solid transparent; border-radius: 3px; padding: 2px 7px; }}
    QToolButton:hover, QToolButton:focus {{ border-color: {t.lamp}; }}
    QToolButton:disabled {{ color: {t.faint}; }}
    QToolButton:checked {{ background: {t.table}; border-color: {t.line}; font-weight: bold; }}
    QScrollArea {{ border: none; background: transparent; }}
    QScrollArea > QWidget > QWidget {{ background: transparent; }}
    QListView {{ background: {t.field}; border: 1px solid {t.line}; border-radius: 2px; outline: none; }}
    QSplitter::handle {{ background: {t.ground}; }} QSplitter::handle:hover {{ background: {t.lamp}; }}
    QSlider::groove:horizontal {{ height: 4px; background: {t.line}; border-radius: 2px; }}
    QSlider::handle:horizontal {{ background: {t.lamp}; width: 14px; margin: -7px 0; border-radius: 3px; }}
    QSlider:focus {{ border: 1px solid {t.lamp}; border-radius: 3px; }}
    QScrollBar:vertical {{ background: transparent; width: 10px; margin: 0; }}
    QScrollBar::handle:vertical {{ background: {t.line}; border-radius: 5px; min-height: 30px; }}
    QScrollBar:horizontal {{ background: transparent; height: 10px; }}
    QScrollBar::handle:horizontal {{ background: {t.line}; border-radius: 5px; min-width: 30px; }}
    QScrollBar::add-line, QScrollBar::sub-line {{ width: 0; height: 0; }}
    QScrollBar::add-page, QScrollBar::sub-page {{ background: transparent; }}
    QStatusBar {{ background: {t.ground}; color: {t.faint}; }}
    QToolTip {{ background: {t.card}; color: {t.ink}; border: 1px solid {t.line}; padding: 4px; }}
    """
