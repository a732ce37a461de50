"""Starts the program: `demo` or `open [FILE]`, with `--shot FILE.png` to paint a page without a display."""

from __future__ import annotations

import argparse
import math
import sys
from collections.abc import Sequence
from pathlib import Path

from yawning_lantern.cli.sentences import SentenceParser
from yawning_lantern.desktop.shell.application import (
    bench_of,
    make_application,
    make_program,
    new_window,
    spare_the_collector,
)
from yawning_lantern.desktop.shell.window import PAGES
from yawning_lantern.errors import LanternError, UnknownNameError
from yawning_lantern.folders import state_folder, workshop_path

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


DIALOGS = ("find_book", "own_sheet", "fold_anew")
"""Commands that open a dialog of which a picture can be taken."""


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
    parser.add_argument("--step", type=_number, default=0.0, help="steps done on the Opening or the Bench page")
    parser.add_argument("--text", type=_number, default=100.0, help="size of the text, %%")
    parser.add_argument("--do", metavar="COMMAND", help="do a command first; the picture is of the dialog it opens")
    parser.add_argument("--tour", action="store_true", help="with the first note of the tour")
    parser.add_argument("--size", type=_size, default=(1280, 800), help="size of the picture, WIDTHxHEIGHT")
    return parser.parse_args(arguments)


def _check_shown(options: argparse.Namespace) -> None:
    """See that what a picture is asked of is there. Raises LanternError."""
    from yawning_lantern.design import find
    from yawning_lantern.desktop.shell.files import DEMO
    from yawning_lantern.exchange.design_file import read_design

    file = DEMO if options.what == "demo" else options.file
    if file is not None:
        design = read_design(file)
        if options.part:
            find(design, options.part)
    if options.do not in (None, *DIALOGS):
        raise UnknownNameError(
            f"A picture of “{options.do}” cannot be taken.", remedy=f"There are {', '.join(DIALOGS)}."
        )


def _state_folder(temporary: bool) -> Path:
    """Where state is kept; a picture is painted with settings of its own that are forgotten."""
    if temporary:
        import tempfile

        return Path(tempfile.mkdtemp(prefix="lantern-"))
    return state_folder()


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
    drawer = None if options.shot is not None else workshop_path()
    program = make_program(_state_folder(options.shot is not None), drawer)
    if options.dark:
        program.be_dark(True)
    if options.shot is not None:
        program.settings.setValue("toured", not options.tour)
        program.resize_text(program.text_size * (options.text / 100 - 1))
    window = new_window(program)

    def begin() -> None:
        spare_the_collector()
        bench = bench_of(window)
        if options.what == "demo":
            bench.files.open_demo()
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
