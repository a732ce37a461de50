"""`fold-search`: a book from one sheet, by looking at every way to slit it."""

from __future__ import annotations

import argparse
import json
import re

from yawning_lantern.errors import ParameterError
from yawning_lantern.flatfold.books import Answer, Book, Wish, find_books, named

_GRID = re.compile(r"^\s*(\d{1,3})\s*[x×]\s*(\d{1,3})\s*$", re.IGNORECASE)


def search_arguments(command: argparse.ArgumentParser) -> None:
    """The grid and the wishes."""
    command.add_argument("--grid", required=True, metavar="CxR", help="columns by rows of the sheet, as 4x4")
    command.add_argument("--pages", type=int, default=0, help="inner pages at least")
    command.add_argument("--pockets", type=int, default=0, help="pockets at least")
    command.add_argument("--open-top", type=int, default=0, help="pockets that can open at the head, at least")
    command.add_argument("--upright", type=int, default=0, help="pages on which a pattern stands upright, at least")
    command.add_argument("--hide-back", action="store_true", help="no cover shows the back of the paper")
    command.add_argument("--from-rim", action="store_true", help="every slit begins at the edge: scissors do")
    command.add_argument("--flaps", action="store_true", help="cells beside the path too, as flaps on pages")
    command.add_argument("--most", type=int, default=12, help="how many are told, best first (default: 12)")
    command.add_argument("--json", action="store_true", help="as JSON; cells by column and row from the lower left")


def grid_size(text: str) -> tuple[int, int]:
    """Columns and rows. Raises ParameterError for what is none."""
    told = _GRID.match(text)
    if told is None or not int(told[1]) or not int(told[2]):
        raise ParameterError(f"{text!r} is no grid.", "Grid", "Give columns by rows, such as 4x4.")
    return int(told[1]), int(told[2])


def search_books(options: argparse.Namespace) -> int:
    """Tell the books that answer; 1 where none does."""
    columns, rows = grid_size(options.grid)
    if options.most < 1:
        raise ParameterError("At least one book must be told.", "Most", "Give 1 or more.")
    wish = Wish(
        options.pages, options.pockets, options.open_top, options.upright, options.hide_back, options.flaps,
        options.from_rim,
    )  # fmt: skip
    answer = find_books(columns, rows, wish, options.most)
    if options.json:
        print(json.dumps(_as_json(columns, rows, answer), indent=2, ensure_ascii=False))
    else:
        _tell(columns, rows, answer)
    return 1 if answer.reason else 0


def counted(n: int, word: str) -> str:
    """So many of it, in words."""
    return f"{n} {word}" if n == 1 else f"{n} {word}s"


def _tell(columns: int, rows: int, answer: Answer) -> None:
    kinds = counted(answer.seen, "kind")
    print(f"Books from a sheet of {columns} × {rows}: every way to slit it was looked at; there are {kinds}.")
    if answer.reason:
        print(answer.reason)
        if answer.books:
            print("The nearest:")
    for number, book in enumerate(answer.books, 1):
        print(f"\n{number}. {_summary(book)}")
        print(f"   path: {' '.join(named(cell) for cell in book.trunk.path)}")
        for flap, host in book.trunk.flaps:
            print(f"   flap: {named(flap)} on {named(host)}")
        for (c0, r0), (c1, r1) in book.slits:
            if r0 == r1:
                print(f"   slit: between rows {r0} and {r0 + 1}, along {_stretch('column', c0, c1)}")
            else:
                print(f"   slit: between columns {c0} and {c0 + 1}, along {_stretch('row', r0, r1)}")


def _stretch(word: str, begin: int, end: int) -> str:
    """The columns or rows from one line to another."""
    return f"{word} {end}" if end - begin == 1 else f"{word}s {begin + 1} to {end}"


def _summary(book: Book) -> str:
    rim = "all from the rim" if book.rim_only else f"{book.from_rim} from the rim"
    parts = [
        counted(book.pages, "page"),
        f"{counted(book.pockets, 'pocket')} ({book.open_top} can open at the head)",
        f"{counted(book.upright, 'page')} upright",
        f"{counted(len(book.slits), 'slit')}, {rim}",
        f"{counted(book.glued, 'edge')} to glue",
    ]
    if book.flaps:
        parts.append(counted(book.flaps, "flap"))
    parts.append(
        "the back of the paper is hidden"
        if not book.backs
        else f"{counted(book.backs, 'cover')} with the back of the paper"
    )
    return ", ".join(parts)


def _as_json(columns: int, rows: int, answer: Answer) -> dict[str, object]:
    return {
        "grid": [columns, rows],
        "looked_at": "all" if answer.complete else "some",
        "kinds": answer.seen,
        "reason": answer.reason,
        "other_grid": list(answer.other_grid) if answer.other_grid else None,
        "books": [
            {
                "pages": book.pages,
                "pockets": book.pockets,
                "open_top": book.open_top,
                "upright": book.upright,
                "covers_with_back": book.backs,
                "flaps": [[named(flap), named(host)] for flap, host in book.trunk.flaps],
                "path": [named(cell) for cell in book.trunk.path],
                "spine": book.trunk.spine,
                "slits": [[list(a), list(b)] for a, b in book.slits],
                "slits_from_rim": book.from_rim,
                "edges_to_glue": book.glued,
            }
            for book in answer.books
        ],
    }
