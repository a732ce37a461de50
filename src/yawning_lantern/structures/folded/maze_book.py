"""Maze book: a sheet in a grid, slit to one long snake, folded to and fro; every second gap is a pocket."""

from __future__ import annotations

from yawning_lantern.errors import ParameterError
from yawning_lantern.flatfold.snakes import Trunk, to_and_fro
from yawning_lantern.structures.kit.around import AROUND
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes
from yawning_lantern.structures.kit.lying import count_of
from yawning_lantern.structures.kit.snake_book import PAGE_PARAMETERS, POCKET_PARAMETERS, SHEET_PARAMETERS, SnakeBook

MOST = 6  # columns and rows


class MazeBook(SnakeBook):
    """c × r cells make c·r panels; every second fold is on the spine, between them the pockets."""

    id = "maze-book"
    name = "Maze book"
    about = "A sheet scored in a grid, slit to one long snake and folded to and fro: pages, a pocket behind each pair."
    headline = ("sheet-width", "sheet-height", "columns", "rows")
    faces = (
        (AROUND, "around it, shut"),
        ("cover", "front cover"),
        *((f"page-{k}", f"page {k}") for k in range(1, MOST * MOST + 1)),
    )
    parameters = (
        *SHEET_PARAMETERS,
        Parameter("columns", "Columns", "count", "Cells side by side.", "Sheet", 2, MOST, default=4, structural=True),
        Parameter("rows", "Rows", "count", "Cells one above the other.", "Sheet", 1, MOST, default=4, structural=True),
        *POCKET_PARAMETERS,
        *PAGE_PARAMETERS,
    )

    def counts(self, s: Situation) -> dict[str, Sized]:
        """Columns and rows."""
        return {"columns": count_of(s, "columns", 4), "rows": count_of(s, "rows", 4)}

    def trunk(self, sizes: Sizes) -> Trunk:
        """Along the rows to and fro where the columns are even in number, else up and down the columns. Raises
        ParameterError where neither brings the spine's folds to one side."""
        columns, rows = int(sizes["columns"].length), int(sizes["rows"].length)
        if rows == 1 or columns % 2 == 0:
            path = to_and_fro(columns, rows)
        elif rows % 2 == 0:
            path = tuple((c, r) for r, c in to_and_fro(rows, columns))
        else:
            raise ParameterError(
                f"Of {columns} columns and {rows} rows the folds of the spine come to lie on two sides.", "Columns",
                "Make the columns or the rows even in number.",
            )  # fmt: skip
        return Trunk(columns, rows, path)


FAMILY = MazeBook()
