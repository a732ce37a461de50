"""What a path that is drawn makes: pages, pockets, what shows, in words; worked out at once."""

from __future__ import annotations

from collections.abc import Mapping

from yawning_lantern.design import Design
from yawning_lantern.errors import LanternError
from yawning_lantern.flatfold.books import folding_of, named
from yawning_lantern.flatfold.draft import Draft, draft_of
from yawning_lantern.flatfold.script import Glue
from yawning_lantern.flatfold.snakes import Cell
from yawning_lantern.measure import Units, format_fine, format_size
from yawning_lantern.stock import Paper
from yawning_lantern.structures import family
from yawning_lantern.structures.folded.grid_sheet import OWN, GridSheet
from yawning_lantern.structures.kit.own_fold import OWN_PARAMETERS
from yawning_lantern.study import Study
from yawning_lantern.study.page_map import heads, pages_of, pockets_of
from yawning_lantern.study.resolve import Resolved
from yawning_lantern.study.ways_in import begin

OWN_SETTINGS = frozenset(
    (*(p.id for p in OWN_PARAMETERS), "path", "columns", "rows", "sheet-width", "sheet-height", "content-width",
     "content-height", "strip")
)  # fmt: skip
"""Settings of a grid sheet that a draft replaces."""
Asked = tuple[tuple[Cell, ...], tuple[int, int], tuple[float, float], Paper, Units]
"""The path, columns and rows, the sheet (mm), its paper, and the units of what is said."""


def own_design(settings: Mapping[str, float | int | str], paper: Paper, units: Units) -> Design:
    """A new design that is one grid sheet. Raises LanternError where it cannot be made."""
    design = begin(family("grid-sheet"), None, settings, name="Untitled sheet", stock=paper.id, units=units,
                   papers=(paper,))  # fmt: skip
    return Study(design).design


def draft_of_part(r: Resolved) -> Draft:
    """A grid sheet as a draft to go on with: by its script, or by its path."""
    assert isinstance(r.family, GridSheet)
    sizes, strip = r.sizes, r.sizes["strip"].length
    if "script" in sizes:
        own = {name: size.value for name, size in sizes.items()}
        return draft_of(own, OWN.columns(sizes), OWN.rows(sizes), strip)
    trunk = r.family.trunk(sizes)
    on = set(trunk.path)
    grid = [(c, r_) for r_ in range(trunk.rows) for c in range(trunk.columns)]
    between = [(a, b) for a in grid for b in ((a[0] + 1, a[1]), (a[0], a[1] + 1)) if a in on and b in on]
    slits = tuple((named(a), named(b)) for a, b in between if frozenset((a, b)) not in trunk.joined)
    gone = tuple(named(cell) for cell in grid if cell not in on)
    glue = tuple(
        Glue(named(trunk.path[g]), named(trunk.path[g + 1]), r.family.glued(trunk, g, sizes), strip)
        for g in r.family.pockets_of(trunk)
    )
    wide = sizes["sheet-width"].length / trunk.columns, sizes["sheet-height"].length / trunk.rows
    return Draft(
        (wide[0],) * trunk.columns, (wide[1],) * trunk.rows, slits, (), gone, (), (*folding_of(trunk), *glue), strip
    )


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
    said = ", ".join(words) + f", {format_fine(r.sizes['thick'].length, 'mm')} thick."
    return " ".join(part for part in (said, heads(pages)) if part)
