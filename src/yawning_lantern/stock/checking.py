"""Whether a thing of the drawer can be: what is wrong with it, and what would help."""

from __future__ import annotations

import math
import re

from yawning_lantern.errors import ParameterError
from yawning_lantern.stock.items import Adhesive, Item, Paper, ReadyMade, SheetFormat, Tool
from yawning_lantern.stock.motifs import KINDS, LEAST, MOST, Motif

_COLOUR = re.compile(r"#[0-9a-fA-F]{6}")
LARGEST = 5000.0
"""No sheet is larger, mm."""
THICKEST = 20.0
"""No sheet and no layer of glue is thicker, mm."""
_WORDS = 200  # letters a name may have


def check_item(item: Item) -> None:
    """See that a thing can be. Raises ParameterError."""
    name = item.name or item.id
    if not item.id.strip() or not item.name.strip() or max(len(item.id), len(item.name)) > _WORDS:
        raise ParameterError("A thing in the drawer needs a name.", name, f"Give one of at most {_WORDS} letters.")
    if isinstance(item, Paper):
        _check_paper(item)
    elif isinstance(item, Adhesive):
        _within(name, "thickness", item.thickness, 0.0, THICKEST)
        _within(name, "open time", item.open_time, 0.0, 1e6)
        for what, value in (("width", item.width), ("length of a roll", item.roll)):
            if value is not None:
                _within(name, what, value, 0.1, 1e6)
    elif isinstance(item, ReadyMade):
        _within(name, "width", item.width, 1.0, LARGEST)
        _within(name, "height", item.height, 1.0, LARGEST)
        _within(name, "thickness", item.thickness, 0.0, 100.0)
        _coloured(name, item.front)
    else:
        _check_tool(item)


def _check_paper(paper: Paper) -> None:
    name = paper.name
    if paper.kind not in ("paper", "board", "film") or paper.grain not in ("long", "short", "none"):
        raise ParameterError("It is neither paper nor board nor film.", name)
    if paper.measured is None and paper.grammage is None:
        raise ParameterError("Neither its weight nor its thickness is known.", name, "Give one of them.")
    if paper.measured is not None:
        _within(name, "thickness", paper.measured, 0.005, THICKEST)
    if paper.grammage is not None:
        _within(name, "weight in g/m²", paper.grammage, 5.0, 5000.0)
    _within(name, "bulk", paper.bulk, 0.5, 3.0)
    _check_format(name, paper.sheet)
    _coloured(name, paper.front, paper.back)
    for motif in (paper.front_motif, paper.back_motif):
        if motif is not None:
            _check_motif(name, motif)


def _check_format(name: str, sheet: SheetFormat) -> None:
    for what, value, most in (
        ("sheet’s width", sheet.width, LARGEST), ("sheet’s height", sheet.height, LARGEST),
        ("usable width", sheet.usable_width, sheet.width), ("usable height", sheet.usable_height, sheet.height),
    ):  # fmt: skip
        _within(name, what, value, 1.0, most)


def _check_motif(name: str, motif: Motif) -> None:
    if motif.kind not in KINDS:
        raise ParameterError(f"There is no pattern “{motif.kind}”.", name, f"Choose {', '.join(KINDS)}.")
    _within(name, "pattern’s repeat", motif.repeat, LEAST, MOST)
    if motif.turn not in (0, 1, 2, 3):
        raise ParameterError(f"A pattern is not turned by {motif.turn} quarters.", name, "Choose 0, 1, 2 or 3.")
    _coloured(name, motif.ink)


def _check_tool(tool: Tool) -> None:
    if tool.kind not in ("score", "cut", "both"):
        raise ParameterError("A tool scores, cuts, or does both.", tool.name)
    _within(tool.name, "distance of two marks", tool.grid, 0.05, 500.0)
    _within(tool.name, "fence’s offset", tool.offset, -500.0, 500.0)
    _within(tool.name, "kerf", tool.kerf, 0.0, 10.0)
    if tool.longest is not None:
        _within(tool.name, "longest line", tool.longest, 1.0, LARGEST)
    for groove in tool.grooves:
        _within(tool.name, "groove", groove, 0.0, LARGEST)
    if list(tool.grooves) != sorted(set(tool.grooves)):
        raise ParameterError("Its grooves are not in rising order.", tool.name, "Tell each once, from the fence on.")


def _within(name: str, what: str, value: float, least: float, most: float) -> None:
    if not (math.isfinite(value) and least - 1e-9 <= value <= most + 1e-9):
        raise ParameterError(f"Its {what} of {value:g} cannot be.", name, f"It can be {least:g} to {most:g}.")


def _coloured(name: str, *colours: str) -> None:
    for colour in colours:
        if not _COLOUR.fullmatch(colour):
            raise ParameterError(f"“{colour}” is no colour.", name, "Give one as #rrggbb, such as #c9a24b.")
