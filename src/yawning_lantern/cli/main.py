"""The command line. Exit 0: fine. 1: the plan has a clash, or it does not open. 2: a name or value that cannot be, told
in a sentence. 3: a fault inside the program."""

from __future__ import annotations

import argparse
import io
import os
import re
import sys
import traceback
from collections.abc import Sequence
from pathlib import Path

from yawning_lantern import __version__
from yawning_lantern.cli.bench_plan import bench_arguments, tell_bench
from yawning_lantern.cli.booklet import booklet_arguments, make_booklet
from yawning_lantern.cli.cutting import sheets_arguments, tell_sheets
from yawning_lantern.cli.designs import design_arguments, family_arguments
from yawning_lantern.cli.drawer import drawer_arguments, use_drawer
from yawning_lantern.cli.editing import edit_design, editing_arguments, new_design
from yawning_lantern.cli.fold_search import search_arguments, search_books
from yawning_lantern.cli.machining import machine_cut, machining_arguments
from yawning_lantern.cli.planning import tell_families, tell_opening, tell_plan
from yawning_lantern.cli.scoring import scores_arguments, tell_scores
from yawning_lantern.cli.sentences import SentenceParser
from yawning_lantern.errors import LanternError
from yawning_lantern.exchange.pages import PAPERS

_FAULT = 3  # exit status where the program itself failed


def _parser() -> argparse.ArgumentParser:
    parser = SentenceParser(prog="lantern", description="Plan fold-out paper structures.")
    parser.add_argument("--version", action="version", version=__version__)
    commands = parser.add_subparsers(dest="command", required=True)
    listing = commands.add_parser("families", help="list structure families with their parameters")
    listing.add_argument("--json", action="store_true", help="as JSON, lengths in mm")
    listing.add_argument("--markdown", action="store_true", help="as the structure reference of the docs")
    listing.add_argument("--choices", action="store_true", help="what every choice makes otherwise than in a new one")
    listing.add_argument("--faces", action="store_true", help="what goes on every face, and each on plain others")
    listing.add_argument("--limits", action="store_true", help="how small and how large what is told may be")
    listing.add_argument("--slips", action="store_true", help="what helps when something went wrong at a new one")
    listing.set_defaults(deed=tell_families)
    planning = commands.add_parser("plan", help="work out a design: cut sizes, scores, fits")
    design_arguments(planning)
    planning.add_argument("--json", action="store_true", help="print the plan as JSON")
    planning.add_argument("--pdf", type=Path, metavar="OUT", help="write templates at 1:1")
    planning.add_argument("--paper", choices=tuple(PAPERS), default="letter", help="paper for the templates")
    planning.add_argument("--csv", type=Path, metavar="OUT", help="write the cut list")
    planning.set_defaults(deed=tell_plan)
    cutting = commands.add_parser("sheets", help="on which sheets it is cut, edge to edge, and in which order")
    sheets_arguments(cutting)
    cutting.set_defaults(deed=tell_sheets)
    scoring = commands.add_parser("scores", help="how every piece is scored: edge at the fence, face up, numbers")
    scores_arguments(scoring)
    scoring.set_defaults(deed=tell_scores)
    machining = commands.add_parser("cut", help="files for a cutting machine, tried on a simulated one")
    machining_arguments(machining)
    machining.set_defaults(deed=machine_cut)
    booking = commands.add_parser("booklet", help="everything on paper: list, sheets, steps with pictures, templates")
    booklet_arguments(booking)
    booking.set_defaults(deed=make_booklet)
    benching = commands.add_parser("bench-plan", help="the whole design step by step, in an order that works")
    bench_arguments(benching)
    benching.set_defaults(deed=tell_bench)
    searching = commands.add_parser("fold-search", help="a book from one sheet: every way to slit it is looked at")
    search_arguments(searching)
    searching.set_defaults(deed=search_books)
    drawer = commands.add_parser("stock", help="the drawer: how many sheets there are, and which off-cuts")
    drawer_arguments(drawer)
    drawer.set_defaults(deed=use_drawer)
    moving = commands.add_parser("opening", help="find the order a design opens in, and what meets on the way")
    design_arguments(moving)
    moving.add_argument("--strip", type=Path, metavar="OUT", help="write a strip of pictures, .pdf or .svg")
    moving.add_argument("--film", type=Path, metavar="OUT", help="write a film, .gif or .png (animated)")
    moving.add_argument("--pose", type=Path, metavar="OUT", help="write a pose as .obj")
    moving.add_argument("--step", type=_steps, default=1e9, help="steps done in that pose (default: all)")
    moving.set_defaults(deed=tell_opening)
    making = commands.add_parser("new", help="write a new design file")
    making.add_argument("out", type=Path, metavar="FILE", help="the .lantern file to write")
    family_arguments(making)
    making.add_argument("--name", help="what the design is called")
    making.add_argument("--force", action="store_true", help="overwrite a file that is there")
    making.set_defaults(deed=new_design)
    editing_arguments(commands.add_parser("edit", help="change a design file: put, set, take, move, turn, rename"))
    commands.choices["edit"].set_defaults(deed=edit_design)
    return parser


def _steps(text: str) -> float:
    """A number of steps, zero or more. Raises ValueError, which the parser words."""
    value = float(text)
    if not value >= 0.0:
        raise ValueError(text)
    return value


def _with_offsets(arguments: Sequence[str]) -> list[str]:
    """The arguments, a place left of the middle or below it (`--at -22mm,0`) held to its option."""
    words: list[str] = []
    for word in arguments:
        if words and words[-1] == "--at" and re.match(r"-[\d.]", word):
            words[-1] = f"--at={word}"
        else:
            words.append(word)
    return words


def main(arguments: Sequence[str] | None = None) -> int:
    """Run one command; gives the exit code."""
    for stream in (sys.stdout, sys.stderr):  # a terminal that cannot show ″ shall not stop the work
        if isinstance(stream, io.TextIOWrapper):
            stream.reconfigure(errors="backslashreplace")
    try:
        options = _parser().parse_args(_with_offsets(sys.argv[1:] if arguments is None else arguments))
        code = int(options.deed(options))
        sys.stdout.flush()
        return code
    except LanternError as error:
        print(f"lantern: {error.sentence()}", file=sys.stderr)
        return 2
    except BrokenPipeError:  # whoever reads has read enough
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
        return 0
    except Exception as error:
        where = traceback.extract_tb(error.__traceback__)[-1]
        print(
            f"lantern: A fault inside the program ({type(error).__name__} in {Path(where.filename).name}, line "
            f"{where.lineno}). Nothing was changed. Please report it with the design and the command.",
            file=sys.stderr,
        )
        return _FAULT


if __name__ == "__main__":
    sys.exit(main())
