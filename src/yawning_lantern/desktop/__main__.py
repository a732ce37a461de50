"""Starts the program: `demo` or `open [FILE]`, with `--shot FILE.png` to paint a page without a display."""

from __future__ import annotations

import argparse
import gc
import math
import sys
from collections.abc import Sequence
from pathlib import Path

from PySide6.QtCore import QSettings
from PySide6.QtWidgets import QApplication

from yawning_lantern.cli.sentences import SentenceParser
from yawning_lantern.desktop.theme import load_fonts
from yawning_lantern.desktop.window import PAGES, MainWindow
from yawning_lantern.errors import LanternError

_SMALLEST, _LARGEST = 100, 8000  # pixels


def _number(text: str) -> float:
    value = float(text)
    if not math.isfinite(value):
        raise ValueError(text)
    return value


def _size(text: str) -> tuple[int, int]:
    width, height = (int(part) for part in text.split("x"))
    if not (min(width, height) >= _SMALLEST and max(width, height) <= _LARGEST):
        raise ValueError(text)
    return width, height


def _options(arguments: Sequence[str] | None) -> argparse.Namespace:
    parser = SentenceParser(prog="lantern")
    parser.add_argument("what", nargs="?", default="open", choices=("demo", "open", "run"))
    parser.add_argument("file", nargs="?", type=Path, help="a .lantern design")
    parser.add_argument("--shot", type=Path, metavar="FILE.png", help="paint a page to a picture and end")
    parser.add_argument("--page", choices=[page for page, _ in PAGES], help="the page to show")
    parser.add_argument("--dark", action="store_true", help="lamp by night")
    parser.add_argument("--position", type=_number, default=0.0, help="flat −1, shut 0, open 1")
    parser.add_argument("--part", help="the part to choose, by id")
    parser.add_argument("--sides", action="store_true", help="write on flat panels which side shows")
    parser.add_argument("--step", type=_number, default=0.0, help="steps done on the Opening page")
    parser.add_argument("--size", type=_size, default=(1280, 800), help="size of the picture, WIDTHxHEIGHT")
    return parser.parse_args(arguments)


def _check_shown(options: argparse.Namespace) -> None:
    """See that what a picture is asked of is there. Raises LanternError."""
    from yawning_lantern.design import find
    from yawning_lantern.desktop.workbench import DEMO
    from yawning_lantern.exchange.design_file import read_design

    file = DEMO if options.what == "demo" else options.file
    if file is not None:
        design = read_design(file)
        if options.part:
            find(design, options.part)


def make_application() -> QApplication:
    """The one QApplication, with the shipped fonts and the plain style that takes our colours."""
    app = QApplication.instance() or QApplication([sys.argv[0]])
    assert isinstance(app, QApplication)
    app.setApplicationName("Yawning Lantern")
    app.setStyle("Fusion")
    load_fonts()
    return app


def spare_the_collector() -> None:
    """What stands for good need not be looked through again; a study makes and drops many small things at once."""
    gc.collect()
    gc.freeze()
    gc.set_threshold(20_000, 20, 50)


def _settings(temporary: bool) -> tuple[Path, QSettings]:
    """Where state is kept; a picture is painted with settings of its own that are forgotten."""
    if temporary:
        import tempfile

        folder = Path(tempfile.mkdtemp(prefix="lantern-"))
    else:
        from platformdirs import user_state_path

        folder = user_state_path("yawning-lantern", appauthor=False)
    return folder, QSettings(str(folder / "settings.ini"), QSettings.Format.IniFormat)


def main(arguments: Sequence[str] | None = None) -> int:
    """Run the program; gives its exit code: 2 for a word that cannot be, or a picture of what cannot be opened."""
    try:
        options = _options(arguments)
        if options.shot is not None:
            _check_shown(options)
    except LanternError as error:
        print(f"lantern: {error.sentence()}", file=sys.stderr)
        return 2
    app = make_application()
    folder, settings = _settings(options.shot is not None)
    if options.dark:
        settings.setValue("dark", True)
    window = MainWindow(folder, settings)

    def begin() -> None:
        spare_the_collector()
        bench = window.bench
        assert bench is not None
        if options.what == "demo":
            bench.open_demo()
        elif options.file is not None:
            bench.open_path(options.file)
        if options.page:
            bench.show_page(options.page)

    window.ready.connect(begin)
    if options.shot is not None:
        from yawning_lantern.desktop.shot import paint_shot

        return paint_shot(app, window, options)
    window.show()
    return app.exec()


if __name__ == "__main__":
    sys.exit(main())
