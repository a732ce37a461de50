"""Books found in a grid: counts of paths and trees against brute force and Kirchhoff, each book folded, wishes
answered."""

from __future__ import annotations

import json
import re
from collections import Counter
from itertools import combinations, pairwise, product

import numpy as np
import pytest

from yawning_lantern.cli.main import main
from yawning_lantern.errors import ParameterError
from yawning_lantern.flatfold.books import (
    Wish,
    described,
    find_books,
    folding_of,
    lacking,
    marked_out,
    most_upright,
    named,
)
from yawning_lantern.flatfold.cavity import hollows
from yawning_lantern.flatfold.folding import carried_out, sound
from yawning_lantern.flatfold.order import heights
from yawning_lantern.flatfold.script import Glue
from yawning_lantern.flatfold.snakes import OPPOSITE, Cell, Trunk, snakes, trunks
from yawning_lantern.flatfold.state import turned

# Paths through all cells of a grid, both ways: OEIS A096969 for squares (8, 40, 552); the rest worked by a second
# program.
SNAKES = [(3, 2, 16, 3, 2), (3, 3, 40, 3, 0), (4, 3, 124, 19, 2), (4, 4, 552, 38, 6), (5, 4, 2012, 262, 3)]


@pytest.mark.parametrize(("columns", "rows", "both_ways", "distinct", "clean"), SNAKES)
def test_snakes_are_counted(columns: int, rows: int, both_ways: int, distinct: int, clean: int) -> None:
    assert sum(1 for _ in snakes(columns, rows)) == both_ways
    kinds = distinct_paths(columns, rows)
    assert len(kinds) == distinct
    # those that are clean by the folds of every kind, against the pruned search
    by_hand = 0
    for path in kinds:
        folds = Trunk(columns, rows, path).folds
        by_hand += sum(len(set(folds[first::2])) == 1 for first in (0, 1))
    assert by_hand == clean
    assert len(trunks(columns, rows)) == clean


def distinct_paths(columns: int, rows: int) -> list[tuple[Cell, ...]]:
    """Of paths that join the same cells but for turning the sheet or turning it over, one."""
    known: set[frozenset[frozenset[Cell]]] = set()
    kept = []
    for path in snakes(columns, rows):
        joined = frozenset(frozenset(pair) for pair in pairwise(path))
        if joined not in known:
            known |= images(joined, columns, rows)
            kept.append(path)
    return kept


def spanning_trees(columns: int, rows: int) -> int:
    """Kirchhoff's theorem: any cofactor of the grid's Laplacian."""
    n = columns * rows
    laplacian = np.zeros((n, n))
    for a, b in edges_of(columns, rows):
        i, j = a[1] * columns + a[0], b[1] * columns + b[0]
        laplacian[[i, j], [i, j]] += 1
        laplacian[[i, j], [j, i]] -= 1
    return round(np.linalg.det(laplacian[1:, 1:]))


def edges_of(columns: int, rows: int) -> list[tuple[Cell, Cell]]:
    across = [((c, r), (c + 1, r)) for c in range(columns - 1) for r in range(rows)]
    return across + [((c, r), (c, r + 1)) for c in range(columns) for r in range(rows - 1)]


def clean_trees(columns: int, rows: int) -> tuple[int, set[frozenset[frozenset[Cell]]]]:
    """Brute force: every choice of edges that is a tree; of those the ones that have a path with all else hanging on
    it by one cell and every second fold on one side."""
    cells = [(c, r) for c in range(columns) for r in range(rows)]
    trees, good = 0, set()
    for chosen in combinations(edges_of(columns, rows), len(cells) - 1):
        lead = {cell: cell for cell in cells}

        def root(cell: Cell, lead: dict[Cell, Cell] = lead) -> Cell:
            while lead[cell] != cell:
                cell = lead[cell]
            return cell

        for a, b in chosen:
            if root(a) == root(b):
                break
            lead[root(a)] = root(b)
        else:
            trees += 1
            if any(is_clean(chosen, path) for path in long_paths(cells, chosen)):
                good.add(frozenset(frozenset(edge) for edge in chosen))
    return trees, good


def long_paths(cells: list[Cell], chosen: tuple[tuple[Cell, Cell], ...]) -> list[tuple[Cell, ...]]:
    around: dict[Cell, list[Cell]] = {cell: [] for cell in cells}
    for a, b in chosen:
        around[a].append(b)
        around[b].append(a)
    found: list[tuple[Cell, ...]] = []

    def walk(path: tuple[Cell, ...]) -> None:
        left = set(cells) - set(path)
        if len(path) > 2 and all(len(around[c]) == 1 and around[c][0] in path for c in left):
            found.append(path)
        for other in around[path[-1]]:
            if other not in path:
                walk((*path, other))

    for cell in cells:
        walk((cell,))
    return found


def is_clean(chosen: tuple[tuple[Cell, Cell], ...], path: tuple[Cell, ...]) -> bool:
    """By folding a strip in the head: where each cell comes to lie is told by reflections, and so is each fold's
    side."""
    folds = []
    flipped = [False, False]
    for a, b in pairwise(path):
        axis = 0 if a[1] == b[1] else 1
        ahead = b[axis] > a[axis]
        folds.append((axis, ahead != flipped[axis]))
        flipped[axis] = not flipped[axis]
    return any(len(set(folds[first::2])) == 1 for first in (0, 1))


@pytest.mark.parametrize(("columns", "rows", "count"), [(3, 2, 15), (3, 3, 192), (4, 2, 56)])
def test_trunks_are_all_there_are(columns: int, rows: int, count: int) -> None:
    """Spanning trees: 192 on 3 × 3, 15 on 3 × 2, 56 on 4 × 2 (Kirchhoff 1847); the search against brute force over
    them."""
    trees, good = clean_trees(columns, rows)
    assert trees == spanning_trees(columns, rows) == count
    found = [trunk.joined for trunk in trunks(columns, rows, flaps=True)]
    around = set()
    for joined in found:
        assert joined in good
        around |= images(joined, columns, rows)
    assert around == good
    assert len(set(map(frozenset, found))) == len(found)


def images(joined: frozenset[frozenset[Cell]], columns: int, rows: int) -> set[frozenset[frozenset[Cell]]]:
    ways = [(1, 0, 0, 1)] + ([(0, 1, 1, 0)] if columns == rows else [])
    found = set()
    for (a, b, c, d), x, y in product(ways, (0, 1), (0, 1)):

        def at(q: Cell, a: int = a, b: int = b, c: int = c, d: int = d, x: int = x, y: int = y) -> Cell:
            u, v = a * q[0] + b * q[1], c * q[0] + d * q[1]
            return (columns - 1 - u if x else u, rows - 1 - v if y else v)

        found.add(frozenset(frozenset(map(at, pair)) for pair in joined))
    return found


def test_of_four_by_four() -> None:
    """Thirty trunks whose flaps hang within; flaps on the outer leaves, which close it, make twelve more. Of the
    snakes only the common maze book is cut wholly from the rim, and it ties for most pockets that open at the head: 6
    of 7."""
    all_kinds = trunks(4, 4, flaps=True)
    within = [t for t in all_kinds if all(host not in (t.path[0], t.path[-1]) for _, host in t.flaps)]
    assert len(all_kinds) == 42 and len(within) == 30
    books = [described(trunk) for trunk in trunks(4, 4)]
    assert Counter((b.pages, b.pockets) for b in books) == {(16, 7): 4, (14, 8): 2}
    assert [b.trunk.path[0] in ((0, 0), (0, 3), (3, 0), (3, 3)) and len(b.slits) == 3 for b in books if b.rim_only] == [
        True
    ]
    assert max(b.open_top for b in books if b.pages == 16) == next(b.open_top for b in books if b.rim_only) == 6


@pytest.mark.parametrize(
    "trunk", trunks(4, 4, flaps=True) + trunks(5, 4), ids=lambda t: f"{len(t.path)}+{len(t.flaps)}"
)
def test_every_book_folds(trunk: Trunk) -> None:
    """Its script is carried out, its end judged by the conditions, its counts taken from what the folded sheet
    shows."""
    sheet = marked_out(trunk, 300.0, 280.0)
    state = carried_out(sheet, folding_of(trunk))[-1]
    assert not sound(state)
    level = heights(state)
    assert level is not None
    book = described(trunk)
    path = [sheet.at(named(cell)) for cell in trunk.path]
    turning = [(named(trunk.path[g]), named(trunk.path[g + 1])) for g in trunk.spreads]
    gluing = tuple(
        Glue(named(trunk.path[g]), named(trunk.path[g + 1]), ("left", "right", "foot", "head"), 5.0)
        for g in trunk.pockets
    )
    for a, b in pairwise(path):
        assert level[b] > level[a] or level[a] > level[b]
    # a page is a front that faces the front of its neighbour across a spread
    for a, b in turning:
        i, j = sheet.at(a), sheet.at(b)
        low, high = (i, j) if state.over(i, j) > 0 else (j, i)
        assert not turned(state.isos[low]) and turned(state.isos[high])
    ups = Counter(
        round(state.isos[sheet.at(name)][3 if trunk.spine in ("right", "left") else 0])
        for pair in turning
        for name in pair
    )
    assert max(ups.values()) == book.upright and sum(ups.values()) == book.pages
    outer = [min(path, key=lambda k: level[k]), max(path, key=lambda k: level[k])]
    backs = sum((not turned(state.isos[outer[0]]), turned(state.isos[outer[1]])))
    if not trunk.flaps:
        assert backs == book.backs
        # each pocket keeps one hollow, shut all round once every edge is glued; without glue none of it is shut but a
        # fold
        shut = hollows(carried_out(sheet, (*folding_of(trunk), *gluing))[-1], turning)
        assert len(shut) == book.pockets and not any(h.mouth for h in shut)
        loose = hollows(state, turning)
        assert len(loose) == book.pockets
        assert all({r.kind for r in h.rim if r.kind == "fold"} for h in loose)


def test_the_maze_book_by_its_figures() -> None:
    """12 × 12 at 3, 6, 9 both ways, slits 9 long from alternate edges: 16 panels, 15 folds, 7 pockets, 16 inner pages
    and two covers, 8 up and 8 down, gaps shut by a fold four at the side, two at one end, one at the other
    (geometry)."""
    (book,) = find_books(4, 4, Wish(pages=16, pockets=7, rim_only=True)).books
    sheet = marked_out(book.trunk, 12.0, 12.0)
    assert len(sheet.facets) == 16 and len(sheet.hinges) == 15
    assert sorted(abs(a[0] - b[0]) + abs(a[1] - b[1]) for a, b in book.slits) == [3, 3, 3]  # cells: 9 of 12
    assert book.backs == 2 and book.upright == 8
    folds = Counter(book.trunk.folds[g] for g in book.trunk.pockets)
    side = folds.pop(OPPOSITE[book.trunk.spine])
    assert side == 4 and sorted(folds.values()) == [1, 2]
    assert Counter(book.trunk.folds)[book.trunk.spine] == 8


@pytest.mark.parametrize(
    ("grid", "wish", "words"),
    [
        ((4, 4), Wish(upright=16), "the most is 8.*8 × 3 has 16"),
        ((4, 4), Wish(pages=20), "the most is 16"),
        ((4, 4), Wish(pockets=9), "the most is 8"),
        ((3, 3), Wish(), "No 3 × 3"),
        ((4, 4), Wish(pages=16, pockets=8), "not all in one"),
    ],
)
def test_a_wish_that_cannot_be_had_is_answered(grid: tuple[int, int], wish: Wish, words: str) -> None:
    answer = find_books(*grid, wish)
    assert re.search(words, answer.reason), answer.reason


def test_upright_pages_keep_their_bound_and_reach_it() -> None:
    for columns, rows in ((3, 2), (4, 2), (4, 3), (4, 4), (5, 4), (8, 3)):
        best = max((described(t).upright for t in trunks(columns, rows)), default=0)
        assert best <= most_upright(columns, rows)
    assert max(described(t).upright for t in trunks(8, 3)) == 16
    assert find_books(4, 4, Wish(hide_back=True)).books[0].backs == 0


@pytest.mark.parametrize("asked", [1, 4, 70])
def test_a_search_that_is_stopped_tells_what_it_found(asked: int) -> None:
    """Stopped the n-th time it asks: it asks no more, tells that it is not all, and nothing that is not among all."""
    times = 0

    def stop() -> bool:
        nonlocal times
        times += 1
        return times == asked

    whole, part = find_books(6, 6, Wish(), most=1000), find_books(6, 6, Wish(), most=1000, stop=stop)
    assert times == asked and not part.complete and whole.complete
    assert part.seen <= whole.seen and set(part.books) <= set(whole.books)
    assert {1: part.seen == 0, 4: 0 < part.seen < whole.seen, 70: part.seen == whole.seen}[asked]  # mirrored by then
    assert ("stopped" in part.reason) == (not part.books)


def test_a_search_asks_often_and_not_always() -> None:
    """Told by counting: of more cells there is more to walk, and asking for each step would cost more than the step."""
    counts = []
    for columns, rows in ((3, 2), (6, 5), (6, 6)):
        times = [0]

        def stop(times: list[int] = times) -> bool:
            times[0] += 1
            return False

        trunks(columns, rows, stop=stop)
        counts.append(times[0])
    assert counts[0] == 8  # once for each spine and way to begin
    assert counts[0] < counts[1] < counts[2] < 1000


def test_on_the_command_line(capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["fold-search", "--grid", "4x4", "--pages", "16", "--pockets", "7", "--json"]) == 0
    told = json.loads(capsys.readouterr().out)
    assert len(told["books"]) == 4 and all(not lacking_of(b) for b in told["books"])
    assert told["books"][0]["slits"] and len(told["books"][0]["path"]) == 16
    assert main(["fold-search", "--grid", "4x4", "--upright", "16"]) == 1
    assert "8 × 3" in capsys.readouterr().out
    for wrong, words in (
        (["--grid", "4"], "no grid"),
        (["--grid", "40x40"], "too many"),
        (["--grid", "4x4", "--most", "0"], "At least"),
    ):
        assert main(["fold-search", *wrong]) == 2
        assert words in capsys.readouterr().err
    with pytest.raises(ParameterError):
        trunks(9, 9)
    assert lacking(described(trunks(4, 4)[0]), Wish(pages=18, rim_only=True))["pages"] >= 2


def lacking_of(book: dict[str, int]) -> bool:
    return book["pages"] < 16 or book["pockets"] < 7
