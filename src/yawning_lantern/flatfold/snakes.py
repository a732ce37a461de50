"""Books in a grid of cells: snakes that go through every cell, and trunks with flaps of one cell beside them.

A sheet slit so that its cells hang together along a path is folded to and fro onto one cell. Folded so, the fold
across the line k of a grid lies on one side for odd k and on the other for even k, whichever way the path runs. A
*clean* book has every second fold of its path on one side: that side is its spine, these gaps are its spreads, and the
gaps between are glued to pockets.

Every path and trunk is found, depth first. On a clean path every second step is forced: across the one line of the
spine's parity that bounds the cell. That is the pruning for grids of any size; nothing is left out by it.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from itertools import pairwise, product
from typing import Literal

from msgspec import Struct

from yawning_lantern.errors import ParameterError

Cell = tuple[int, int]
"""Column and row, from 0 at the lower left."""
Side = Literal["right", "left", "head", "foot"]
OPPOSITE: dict[Side, Side] = {"right": "left", "left": "right", "head": "foot", "foot": "head"}
MOST_CELLS = 64  # cells of a grid whose slits are looked for
ASKED = 2048
"""So many steps are taken between asking whether to stop."""


class Trunk(Struct, frozen=True):
    """A path of cells and the cells that hang on it as flaps: (flap, the cell of the path it hangs on). `first` is the
    fold with which the spine begins: 0 where the first fold lies on it, 1 where the second does."""

    columns: int
    rows: int
    path: tuple[Cell, ...]
    flaps: tuple[tuple[Cell, Cell], ...] = ()
    first: int = 0

    @property
    def folds(self) -> tuple[Side, ...]:
        """The side on which each fold of the path lies, seen from above with the first cell lying as in the sheet."""
        return tuple(fold_side(a, b) for a, b in pairwise(self.path))

    @property
    def spine(self) -> Side:
        """The side with every second fold."""
        return self.folds[self.first]

    @property
    def spreads(self) -> tuple[int, ...]:
        """The gaps (0 between the first two cells) that open as pages."""
        return tuple(range(self.first, len(self.path) - 1, 2))

    @property
    def pockets(self) -> tuple[int, ...]:
        """The gaps between, which are glued."""
        return tuple(range(1 - self.first, len(self.path) - 1, 2))

    @property
    def joined(self) -> frozenset[frozenset[Cell]]:
        """Every two cells that hang together."""
        return frozenset(frozenset(p) for p in (*pairwise(self.path), *self.flaps))


def fold_side(a: Cell, b: Cell) -> Side:
    """Where the fold between two neighbouring cells lies once all is folded onto the cell at the lower left."""
    if a[1] == b[1]:
        return "right" if max(a[0], b[0]) % 2 else "left"
    return "head" if max(a[1], b[1]) % 2 else "foot"


def to_and_fro(columns: int, rows: int) -> tuple[Cell, ...]:
    """The common path: along the rows, to and fro, from the lower left."""
    return tuple((c if r % 2 == 0 else columns - 1 - c, r) for r in range(rows) for c in range(columns))


def beside(cell: Cell, columns: int, rows: int) -> Iterator[Cell]:
    """The cells that share an edge with a cell."""
    c, r = cell
    if c:
        yield c - 1, r
    if c < columns - 1:
        yield c + 1, r
    if r:
        yield c, r - 1
    if r < rows - 1:
        yield c, r + 1


def snakes(columns: int, rows: int) -> Iterator[tuple[Cell, ...]]:
    """Every path through all cells (Hamiltonian path of the grid), in both ways."""
    cells = [(c, r) for r in range(rows) for c in range(columns)]
    around = {cell: tuple(beside(cell, columns, rows)) for cell in cells}
    path: list[Cell] = []
    left = set(cells)

    def walk(cell: Cell) -> Iterator[tuple[Cell, ...]]:
        left.discard(cell)
        path.append(cell)
        if left:
            for other in around[cell]:
                if other in left:
                    yield from walk(other)
        else:
            yield tuple(path)
        path.pop()
        left.add(cell)

    for cell in cells:
        yield from walk(cell)


def _turns(columns: int, rows: int) -> tuple[Callable[[Cell], Cell], ...]:
    """The ways to turn a grid, or turn it over, onto itself."""
    w, h = columns - 1, rows - 1
    turns: list[Callable[[Cell], Cell]] = [
        lambda q: q,
        lambda q: (w - q[0], q[1]),
        lambda q: (q[0], h - q[1]),
        lambda q: (w - q[0], h - q[1]),
    ]
    if columns == rows:
        turns += [
            lambda q: (q[1], q[0]),
            lambda q: (w - q[1], q[0]),
            lambda q: (q[1], h - q[0]),
            lambda q: (w - q[1], h - q[0]),
        ]
    return tuple(turns)


def trunks(columns: int, rows: int, flaps: bool = False, stop: Callable[[], bool] | None = None) -> list[Trunk]:
    """Every clean book of a grid, one of each kind that turning the sheet makes equal; with `flaps` also those of which
    some cells hang beside the path. Where one sheet has several trunks, the longest is told. `stop` is asked now and
    then and ends the search: the caller knows that it did.

    Raises ParameterError for more cells than are searched.
    """
    if columns * rows > MOST_CELLS:
        raise ParameterError(
            f"{columns} × {rows} cells are too many to search.", "Grid", f"Give at most {MOST_CELLS} cells."
        )
    turns = _turns(columns, rows)
    known: dict[frozenset[frozenset[Cell]], int] = {}
    trunks: list[Trunk] = []
    for trunk in _all_trunks(columns, rows, flaps, stop or _never):
        joined = trunk.joined
        at = known.get(joined)
        if at is None:
            for t in turns:
                known[frozenset(frozenset(map(t, pair)) for pair in joined)] = len(trunks)
            trunks.append(trunk)
        elif len(trunk.path) > len(trunks[at].path):
            trunks[at] = trunk
    return trunks


def _never() -> bool:
    return False


def _all_trunks(columns: int, rows: int, flaps: bool, stop: Callable[[], bool]) -> Iterator[Trunk]:
    cells = [(c, r) for r in range(rows) for c in range(columns)]
    around = {cell: tuple(beside(cell, columns, rows)) for cell in cells}
    on: dict[Side, dict[Cell, Cell]] = {side: {} for side in OPPOSITE}  # who lies across the fold on that side
    for cell in cells:
        for other in around[cell]:
            on[fold_side(cell, other)][cell] = other
    for spine, first in product(OPPOSITE, (0, 1)):
        for path in _clean(cells, around, on[spine], first, flaps, stop):
            left = [cell for cell in cells if cell not in set(path)]
            hangs = [[p for p in around[cell] if p in set(path)] for cell in left]
            for chosen in product(*hangs):
                yield Trunk(columns, rows, path, tuple(zip(left, chosen, strict=True)), first)


def _clean(
    cells: list[Cell],
    around: dict[Cell, tuple[Cell, ...]],
    across: dict[Cell, Cell],
    first: int,
    flaps: bool,
    stop: Callable[[], bool],
) -> Iterator[tuple[Cell, ...]]:
    """Paths with every second fold on the spine; all cells are on it, or with `flaps` beside it."""
    path: list[Cell] = []
    on_path: set[Cell] = set()
    n = len(cells)
    steps, ended = 0, False

    def complete() -> bool:
        if len(path) < 3 or (not flaps and len(path) < n):
            return False
        return len(path) == n or all(any(q in on_path for q in around[c]) for c in cells if c not in on_path)

    def walk(cell: Cell) -> Iterator[tuple[Cell, ...]]:
        nonlocal steps, ended
        steps += 1
        if ended or (steps % ASKED == 1 and stop()):
            ended = True
            return
        path.append(cell)
        on_path.add(cell)
        if complete():
            yield tuple(path)
        fold = len(path) - 1
        if fold % 2 == first:
            other = across.get(cell)
            if other is not None and other not in on_path:
                yield from walk(other)
        else:
            for other in around[cell]:
                if other not in on_path:
                    yield from walk(other)
        path.pop()
        on_path.discard(cell)

    for cell in cells:
        yield from walk(cell)
