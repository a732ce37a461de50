"""What a path that is drawn makes: pages, pockets, what shows, in words; worked out at once."""

from __future__ import annotations

from yawning_lantern.errors import LanternError
from yawning_lantern.flatfold.books import named
from yawning_lantern.flatfold.snakes import Cell
from yawning_lantern.measure import Units, format_size
from yawning_lantern.stock import Paper
from yawning_lantern.structures import family
from yawning_lantern.study import Study
from yawning_lantern.study.page_map import heads, pages_of, pockets_of
from yawning_lantern.study.ways_in import begin

Asked = tuple[tuple[Cell, ...], tuple[int, int], tuple[float, float], Paper, Units]
"""The path, columns and rows, the sheet (mm), its paper, and the units of what is said."""


def study_of(asked: Asked) -> Study:
    """The grid sheet of a path. Raises LanternError where it cannot be made."""
    path, (columns, rows), (wide, high), paper, units = asked
    settings: dict[str, float | int | str] = {
        "sheet-width": wide, "sheet-height": high, "columns": columns, "rows": rows,
        "path": " ".join(named(cell) for cell in path),
    }  # fmt: skip
    return Study(
        begin(family("grid-sheet"), None, settings, name="Untitled book", stock=paper.id, units=units, papers=(paper,))
    )


def told_path(asked: Asked) -> str:
    """What comes of a path, or why nothing does."""
    path = asked[0]
    if len(path) < 2:
        return "Go on from cell to cell; what is left over is cut away."
    try:
        study = study_of(asked)
    except LanternError as error:
        return f"✕ {error.sentence()}"
    r = study.resolved[study.design.root.id]
    units = asked[4]
    pages, pockets = pages_of(study, r), pockets_of(r)
    count = sum(page.face.startswith("page") for page in pages)
    size = (r.sizes["page-width"].length, r.sizes["page-height"].length)
    words = [f"{count} pages of {format_size(size, units)}, {len(pockets)} pockets"]
    if pockets:
        up = sum(pocket.mouth == "up" for pocket in pockets)
        words.append(f"{up} of them open at the head")
    left = asked[1][0] * asked[1][1] - len(path)
    if left:
        words.append(f"{left} cells are off-cuts")
    said = ", ".join(words) + f", {format_size((r.sizes['thick'].length,), units)} thick."
    return " ".join(part for part in (said, heads(pages)) if part)
