"""Commands that change only what is seen: pages, units, colours, text size, the place between flat and open."""

from __future__ import annotations

from typing import TYPE_CHECKING

from msgspec.structs import replace
from PySide6.QtCore import QObject
from PySide6.QtWidgets import QApplication, QDialog, QTextBrowser, QVBoxLayout

from yawning_lantern.desktop.help_text import help_html
from yawning_lantern.desktop.theme import DAY, NIGHT, apply_theme
from yawning_lantern.measure import Units

if TYPE_CHECKING:
    from yawning_lantern.desktop.workbench import Workbench

STEP = 0.1
SMALLEST, LARGEST = 7.0, 18.0


class Looks(QObject):
    """The View, Go and Help menus of one workbench."""

    def __init__(self, bench: Workbench) -> None:
        super().__init__(bench)
        self._bench = bench
        self._help: QDialog | None = None

    def show_flat(self) -> None:
        """Flat."""
        self._bench.session.move_to(-1.0)

    def show_shut(self) -> None:
        """Shut."""
        self._bench.session.move_to(0.0)

    def show_open(self) -> None:
        """Open."""
        self._bench.session.move_to(1.0)

    def less_open(self) -> None:
        """A step towards flat."""
        self._bench.session.move_to(self._bench.session.position - STEP)

    def more_open(self) -> None:
        """A step towards open."""
        self._bench.session.move_to(self._bench.session.position + STEP)

    def put_part(self) -> None:
        """Go to the shelf: arrows choose a structure, Enter puts it on the chosen part."""
        self._bench.show_page("form")
        self._bench.form.shelf.setFocus()

    def mark_sides(self) -> None:
        """Write on the flat panels which side shows and which way is up, or no longer."""
        self._bench.form.sides.setChecked(self._bench.window.actions_by_id["mark_sides"].isChecked())

    def fit_views(self) -> None:
        """Pictures as they were at first."""
        self._bench.form.standing.fit()
        self._bench.form.cutaway.fit()

    def toggle_units(self) -> None:
        """Inches or millimetres everywhere: in the open design and for new ones."""
        metric = self._bench.window.actions_by_id["toggle_units"].isChecked()
        units: Units = "mm" if metric else "in"
        self._bench.window.settings.setValue("units", units)
        self._bench.idea.set_units(units)
        session = self._bench.session
        if session.is_open:
            session.edit(replace(session.design, units=units), "change units")

    def toggle_dark(self) -> None:
        """Paper by day, lamp by night."""
        window = self._bench.window
        window.theme = NIGHT if window.actions_by_id["toggle_dark"].isChecked() else DAY
        window.settings.setValue("dark", window.theme.dark)
        self._dress()

    def _dress(self) -> None:
        app = QApplication.instance()
        assert isinstance(app, QApplication)
        apply_theme(app, self._bench.window.theme, self._bench.window.text_size)
        self._bench.dress()

    def larger_text(self) -> None:
        """Text a point larger."""
        self._resize(1.0)

    def smaller_text(self) -> None:
        """Text a point smaller."""
        self._resize(-1.0)

    def _resize(self, by: float) -> None:
        window = self._bench.window
        window.text_size = max(SMALLEST, min(LARGEST, window.text_size + by))
        window.settings.setValue("text", window.text_size)
        self._dress()

    def page_idea(self) -> None:
        """Idea."""
        self._bench.show_page("idea")

    def page_stock(self) -> None:
        """Stock."""
        self._bench.show_page("stock")

    def page_form(self) -> None:
        """Form."""
        self._bench.show_page("form")

    def show_help(self) -> None:
        """First steps and the keys, in a window of their own."""
        if self._help is None:
            self._help = QDialog(self._bench.window)
            self._help.setWindowTitle("First steps and keys")
            self._help.resize(620, 640)
            text = QTextBrowser()
            text.setHtml(help_html())
            QVBoxLayout(self._help).addWidget(text)
        self._help.show()
        self._help.raise_()
