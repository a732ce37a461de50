"""A book from a sheet: what each way to slit it gives, and which of them answer a wish."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from itertools import pairwise
from math import ceil

from msgspec import Struct

from yawning_lantern.flatfold.script import Bring, Script, Way
from yawning_lantern.flatfold.sheet import Sheet, cell_name, grid
from yawning_lantern.flatfold.snakes import OPPOSITE, Cell, Side, Trunk, trunks
from yawning_lantern.pattern import Point

Line = tuple[Cell, Cell]
"""A stretch along the lines of a grid, from corner to corner (columns and rows from the lower left)."""


class Book(Struct, frozen=True):
    """A clean book. `pages` counts inner faces of its leaves, all of them the sheet's front; `open_top` pockets that
    can open at the head, `upright` pages on which the sheet's up is up, `backs` covers on which its back shows.
    `slits` are what the knife runs along, `from_rim` how many of them begin at the sheet's edge; `glued` edges of
    pockets need glue."""

    trunk: Trunk
    pages: int
    pockets: int
    open_top: int
    upright: int
    backs: int
    flaps: int
    slits: tuple[Line, ...]
    from_rim: int
    glued: int

    @property
    def rim_only(self) -> bool:
        """Whether scissors do: every slit begins at the rim."""
        return self.from_rim == len(self.slits)


def described(trunk: Trunk) -> Book:
    """What a trunk gives."""
    across = trunk.spine in ("right", "left")
    heads: tuple[Side, Side] = ("head", "foot") if across else ("right", "left")
    faces = [cell for gap in trunk.spreads for cell in trunk.path[gap : gap + 2]]
    even = sum(1 for cell in faces if not cell[1 if across else 0] % 2)
    folds = [trunk.folds[gap] for gap in trunk.pockets]
    open_top = max(sum(1 for side in folds if side != head) for head in heads) if folds else 0
    last = len(trunk.path) - 2
    backs = (trunk.first == 0) + (last in trunk.spreads)
    slits = cuts_of(trunk)
    rim = sum(1 for slit in slits if any(_on_rim(p, trunk.columns, trunk.rows) for p in slit))
    return Book(
        trunk, len(faces), len(folds), open_top, max(even, len(faces) - even), backs, len(trunk.flaps), slits, rim,
        2 * len(folds),
    )  # fmt: skip


def _on_rim(p: Cell, columns: int, rows: int) -> bool:
    return p[0] in (0, columns) or p[1] in (0, rows)


def cuts_of(trunk: Trunk) -> tuple[Line, ...]:
    """The slits: every line between cells that do not hang together, straight stretches as one."""
    joined, columns, rows = trunk.joined, trunk.columns, trunk.rows
    cuts: list[Line] = []
    for c in range(1, columns):
        runs = [r for r in range(rows) if frozenset(((c - 1, r), (c, r))) not in joined]
        cuts += [((c, a), (c, b + 1)) for a, b in _stretches(runs)]
    for r in range(1, rows):
        runs = [c for c in range(columns) if frozenset(((c, r - 1), (c, r))) not in joined]
        cuts += [((a, r), (b + 1, r)) for a, b in _stretches(runs)]
    return tuple(cuts)


def _stretches(numbers: Iterable[int]) -> list[tuple[int, int]]:
    """Runs of numbers without a gap: first and last of each."""
    stretches: list[tuple[int, int]] = []
    for n in numbers:
        if stretches and stretches[-1][1] == n - 1:
            stretches[-1] = (stretches[-1][0], n)
        else:
            stretches.append((n, n))
    return stretches


def marked_out(trunk: Trunk, width: float, height: float) -> Sheet:
    """The sheet of a trunk, `width` by `height` mm, in equal cells."""
    w, h = width / trunk.columns, height / trunk.rows

    def at(p: Cell) -> Point:
        return p[0] * w, p[1] * h

    return grid([w] * trunk.columns, [h] * trunk.rows, slits=[(at(a), at(b)) for a, b in cuts_of(trunk)])


def named(cell: Cell) -> str:
    """The panel of a cell."""
    return cell_name(cell[0] + 1, cell[1] + 1)


def folding_of(trunk: Trunk) -> Script:
    """How it is folded: each flap over the front of its cell, then the path from its far end, to and fro. Spreads come
    front to front."""
    ways: tuple[Way, Way] = ("over", "under") if trunk.first == 0 else ("under", "over")
    flaps = [Bring(((named(host), named(flap)),)) for flap, host in trunk.flaps]
    path = [Bring(((named(a), named(b)),), ways[k % 2]) for k, (a, b) in enumerate(pairwise(trunk.path))]
    return (*flaps, *reversed(path))


class Wish(Struct, frozen=True):
    """What a book shall have at least, 0 for no matter; `hide_back`: no cover shows the back of the paper."""

    pages: int = 0
    pockets: int = 0
    open_top: int = 0
    upright: int = 0
    hide_back: bool = False
    flaps: bool = False
    rim_only: bool = False


class Answer(Struct, frozen=True):
    """Books that answer a wish, best first: fewest slits, least glue, most pockets that open at the head. Where there
    is none, `reason` says why, and `books` are the nearest. `seen` counts what was searched; it was all there is where
    `complete`."""

    books: tuple[Book, ...]
    seen: int
    reason: str = ""
    other_grid: tuple[int, int] | None = None
    complete: bool = True


def most_upright(columns: int, rows: int) -> int:
    """No clean book of a grid has more upright pages: its spine on an upright line, up follows the row; every spread
    has two cells side by side, so that there are at most ⌊columns/2⌋ pairs in each of the ⌈rows/2⌉ rows that are the
    same way up; or the same with columns for rows."""
    return max(2 * ceil(rows / 2) * (columns // 2), 2 * ceil(columns / 2) * (rows // 2))


def find_books(columns: int, rows: int, wish: Wish, most: int = 12, stop: Callable[[], bool] | None = None) -> Answer:
    """The books of a grid that answer a wish, all of them looked at. Raises ParameterError for grids too large."""
    stopped = False

    def asked() -> bool:
        nonlocal stopped
        stopped = stopped or (stop is not None and stop())
        return stopped

    found = [described(trunk) for trunk in trunks(columns, rows, wish.flaps, asked)]
    good = [book for book in found if not lacking(book, wish)]
    if good:
        return Answer(tuple(sorted(good, key=_rank)[:most]), len(found), complete=not stopped)
    near = tuple(sorted(found, key=lambda b: (sum(lacking(b, wish).values()), _rank(b)))[:most])
    if stopped:
        return Answer(near, len(found), "None was found before the search was stopped.", complete=False)
    reason, other = _why_not(columns, rows, wish, found)
    return Answer(near, len(found), reason, other)


def lacking(book: Book, wish: Wish) -> dict[str, int]:
    """What a book lacks of a wish, and how much of it."""
    short = {
        "pages": wish.pages - book.pages,
        "pockets": wish.pockets - book.pockets,
        "pockets that open at the head": wish.open_top - book.open_top,
        "upright pages": wish.upright - book.upright,
        "covers without the paper's back": book.backs if wish.hide_back else 0,
        "slits from the rim": len(book.slits) - book.from_rim if wish.rim_only else 0,
    }
    return {name: much for name, much in short.items() if much > 0}


def _rank(book: Book) -> tuple[int, ...]:
    return (not book.rim_only, len(book.slits), book.glued, -book.open_top, -book.pages, book.flaps)


def _why_not(columns: int, rows: int, wish: Wish, found: list[Book]) -> tuple[str, tuple[int, int] | None]:
    """Why no book of a grid answers a wish, and a grid that may."""
    here = f"{columns} × {rows}"
    if not found:
        return f"No {here} sheet gives a book whose every second fold is on one spine.", None
    alone = {
        "pages": (wish.pages, max(b.pages for b in found)),
        "pockets": (wish.pockets, max(b.pockets for b in found)),
        "pockets that open at the head": (wish.open_top, max(b.open_top for b in found)),
        "upright pages": (wish.upright, max(b.upright for b in found)),
    }
    for name, (asked, most) in alone.items():
        if asked > most:
            reason = f"No {here} sheet gives {asked} {name}: the most is {most}."
            if name == "upright pages":
                reason += " Which way is up follows the row a page is cut from, and every second row folds on its head."
                other = _grid_for(wish)
                if other is not None:
                    reason += f" A sheet of {other[0]} × {other[1]} has {asked}."
                return reason, other
            return reason, None
    least = min(b.backs for b in found)
    if wish.hide_back and least:
        return f"Every {here} book shows the back of the paper on {least} of its covers.", None
    return f"Each of these can be had on a {here} sheet, but not all in one book.", None


def _grid_for(wish: Wish) -> tuple[int, int] | None:
    """The smallest grid with a book that answers a wish for upright pages, at most three times as wide as high: of a
    longer strip the pages would be slivers."""
    for cells in range(4, 37):
        for rows in range(2, cells + 1):
            columns = cells // rows
            if columns * rows != cells or not rows <= columns <= 3 * rows or most_upright(columns, rows) < wish.upright:
                continue
            if any(not lacking(described(trunk), wish) for trunk in trunks(columns, rows)):
                return columns, rows
    return None


__all__ = [
    "OPPOSITE", "Answer", "Book", "Wish", "cuts_of", "described", "find_books", "folding_of", "marked_out",
    "most_upright",
]  # fmt: skip
