"""Grid sheet: the maker's own sheet, cells in a row from first to last; what is not in the row is cut away."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Mapping

from yawning_lantern.assembly import Need, Part, Room, Span
from yawning_lantern.errors import ParameterError
from yawning_lantern.flatfold.snakes import Cell, Side, Trunk, to_and_fro
from yawning_lantern.structures.kit.around import AROUND
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes
from yawning_lantern.structures.kit.lying import count_of
from yawning_lantern.structures.kit.one_sheet import FoldedSheet
from yawning_lantern.structures.kit.own_fold import OWN_PARAMETERS, OwnFold
from yawning_lantern.structures.kit.snake_book import PAGE_PARAMETERS, POCKET_PARAMETERS, SHEET_PARAMETERS, SnakeBook

MOST = 8  # columns and rows
PAGES = 48  # pages that can be faces
_CELL = re.compile(r"^c(\d{1,2})r(\d{1,2})$")


def told_path(columns: int, rows: int, text: str) -> tuple[Cell, ...]:
    """Cells as they are told, `c1r1 c2r1 …`. Raises ParameterError for what is no path on such a sheet."""
    path: list[Cell] = []
    for word in text.replace(",", " ").split():
        match = _CELL.match(word)
        if match is None:
            raise ParameterError(f"“{word}” is no cell.", "Path", "Cells are told as c1r1: first column, first row.")
        cell = (int(match[1]) - 1, int(match[2]) - 1)
        if not (0 <= cell[0] < columns and 0 <= cell[1] < rows):
            raise ParameterError(f"The sheet has no cell {word}.", "Path", f"It has {columns} columns and {rows} rows.")
        if cell in path:
            raise ParameterError(f"{word} comes twice.", "Path", "A row of cells goes through each of them once.")
        if path and abs(cell[0] - path[-1][0]) + abs(cell[1] - path[-1][1]) != 1:
            raise ParameterError(
                f"{word} does not lie beside the cell before it.", "Path", "Go from cell to neighbouring cell."
            )
        path.append(cell)
    if len(path) < 2:
        raise ParameterError("One cell alone cannot be folded.", "Path", "Tell two or more.")
    return tuple(path)


class GridSheet(SnakeBook):
    """Leaves turn where most folds lie on one side; every other gap is glued to a pocket. With a script it is folded
    act by act instead."""

    id = "grid-sheet"
    name = "Grid sheet"
    about = "Your own sheet: any grid, slits and slants, folded by your own script; or a row of cells, to and fro."
    headline = ("sheet-width", "sheet-height", "columns", "rows")
    faces = (
        (AROUND, "around it, shut"),
        ("cover", "front cover"),
        *((f"page-{k}", f"page {k}") for k in range(1, PAGES + 1)),
    )
    parameters = (
        *SHEET_PARAMETERS,
        Parameter("columns", "Columns", "count", "Cells side by side.", "Sheet", 1, MOST, default=4, structural=True),
        Parameter("rows", "Rows", "count", "Cells one above the other.", "Sheet", 1, MOST, default=4, structural=True),
        Parameter("path", "Path", "text", "Cells in the order they hang together, as c1r1 c2r1 c2r2: column and row "
                  "from the lower left. What is not named is cut away.", "Sheet"),
        *OWN_PARAMETERS,
        *POCKET_PARAMETERS,
        *PAGE_PARAMETERS,
        Parameter("wide", "Closed, width", "length", "What a fold of one's own covers.", "Own fold", derived=True),
        Parameter("high", "Closed, height", "length", "What a fold of one's own covers.", "Own fold", derived=True),
    )  # fmt: skip

    def counts(self, s: Situation) -> dict[str, Sized]:
        """Columns, rows and path. Raises ParameterError for more pages than can be told."""
        sizes = {"columns": count_of(s, "columns", 4), "rows": count_of(s, "rows", 4)}
        columns, rows = (int(sizes[n].length) for n in ("columns", "rows"))
        text = s.given.get("path")
        if isinstance(text, str) and text.strip():
            told_path(columns, rows, text)
            sizes["path"] = Sized(text, "given")
        else:
            usual = to_and_fro(columns, rows)
            if len(usual) < 2:
                raise ParameterError("One cell alone cannot be folded.", "Columns", "Take two or more.")
            sizes["path"] = Sized(" ".join(f"c{c + 1}r{r + 1}" for c, r in usual), "default")
        return sizes

    def trunk(self, sizes: Sizes) -> Trunk:
        """The path, its spine where most folds are."""
        columns, rows = (int(sizes[n].length) for n in ("columns", "rows"))
        path = told_path(columns, rows, str(sizes["path"].value))
        plain = Trunk(columns, rows, path)
        first = min(self.opens(plain)) % 2  # leaves that turn first show the paper's front
        trunk = Trunk(columns, rows, path, (), first)
        if 2 * len(self.opens(trunk)) > PAGES:
            raise ParameterError(
                f"That makes more than {PAGES} pages.", "Path", "Take fewer columns and rows, or a shorter path."
            )
        return trunk

    def spine(self, trunk: Trunk) -> Side:
        """The side with most folds; of several, one on which no two neighbouring folds lie: there leaves turn one by
        one."""
        folds = trunk.folds
        count = Counter(folds)
        order: tuple[Side, ...] = ("right", "left", "head", "foot")
        return max(order, key=lambda side: (count[side], -order.index(side)))

    def opens(self, trunk: Trunk) -> tuple[int, ...]:
        """The gaps whose fold lies on the spine."""
        side = self.spine(trunk)
        return tuple(gap for gap, fold in enumerate(trunk.folds) if fold == side)

    def size(self, situation: Situation) -> dict[str, Sized]:
        """By its script where it has one, else by its path."""
        script = situation.given.get("script")
        own = isinstance(script, str) and bool(script.strip())
        for declared in OWN_PARAMETERS:
            told = situation.given.get(declared.id)
            if told and not own:
                raise ParameterError(f"“{told}” speaks of a fold of your own.", declared.label, "Tell its script too.")
        return OWN.size(situation) if own else super().size(situation)

    def need(self, situation: Situation, sizes: Sizes) -> Need:
        """The face it takes."""
        return OWN.need(situation, sizes) if "script" in sizes else super().need(situation, sizes)

    def thickness(self, s: Situation, sizes: Sizes) -> Span:
        """Its layers and what is between them."""
        return OWN.thickness(s, sizes) if "script" in sizes else super().thickness(s, sizes)

    def rooms(self, situation: Situation, sizes: Sizes) -> dict[str, Room]:
        """The faces that show."""
        return OWN.rooms(situation, sizes) if "script" in sizes else super().rooms(situation, sizes)

    def made(self, s: Situation, sizes: Sizes) -> FoldedSheet:
        """The sheet folded."""
        return OWN.made(s, sizes) if "script" in sizes else super().made(s, sizes)

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        """The part, folded act by act or along its path."""
        build = OWN.build if "script" in sizes else super().build
        return build(situation, sizes, rooms)


OWN = OwnFold()
FAMILY = GridSheet()
