"""The small catalogue that ships with the program, and looking things up in it by name."""

from __future__ import annotations

import json
import re
from collections.abc import Iterable
from fractions import Fraction
from functools import lru_cache
from pathlib import Path
from typing import Any, TypeVar

from msgspec import Struct

from yawning_lantern.errors import UnknownNameError, nearest
from yawning_lantern.measure import inches
from yawning_lantern.stock.items import Adhesive, Item, Paper, ReadyMade, SheetFormat, Tool
from yawning_lantern.stock.motifs import Motif

_Item = TypeVar("_Item", bound=Item | SheetFormat)


class Catalogue(Struct, frozen=True):
    """Papers, adhesives, ready-made things, tools and sheet formats by id."""

    papers: tuple[Paper, ...]
    adhesives: tuple[Adhesive, ...]
    tools: tuple[Tool, ...]
    sheets: tuple[SheetFormat, ...]
    ready_made: tuple[ReadyMade, ...] = ()

    @property
    def items(self) -> tuple[Item, ...]:
        """Everything but the sheet formats."""
        return (*self.papers, *self.adhesives, *self.ready_made, *self.tools)

    def under(self, own: Iterable[Item]) -> Catalogue:
        """The catalogue with things of one's own, which go before those of the same id."""
        kept: dict[tuple[type, str], Item] = {(type(item), item.id): item for item in self.items}
        kept.update(((type(item), item.id), item) for item in own)
        return catalogue_of(kept.values(), self.sheets)

    def paper(self, name: str) -> Paper:
        """The paper of that id or name. Raises UnknownNameError with the nearest names."""
        return _find(name, self.papers, "stock")

    def adhesive(self, name: str) -> Adhesive:
        """The adhesive of that id or name. Raises UnknownNameError."""
        return _find(name, self.adhesives, "adhesive")

    def tool(self, name: str) -> Tool:
        """The tool of that id or name. Raises UnknownNameError."""
        return _find(name, self.tools, "tool")

    def sheet(self, name: str) -> SheetFormat:
        """The sheet format of that id or name. Raises UnknownNameError."""
        return _find(name, self.sheets, "sheet format")


def found(items: Iterable[Item], words: str) -> tuple[Item, ...]:
    """The things in whose name, id or pattern every one of the words stands, as typed from the front of a word."""
    asked = [word for part in words.lower().split() if (word := part.strip(",;()"))]
    return tuple(item for item in items if all(_is_in(item, word) for word in asked))


def _is_in(item: Item, word: str) -> bool:
    told = f"{item.name} {item.id}"
    if isinstance(item, Paper):
        told += f" {item.kind} " + " ".join(m.kind for m in (item.front_motif, item.back_motif) if m is not None)
    told = told.lower()
    return any(part.startswith(word) for part in re.split(r"[\s,()/]+", told)) or word in item.id.lower()


def thing(items: Iterable[Item], name: str) -> Item:
    """The thing of that id or name, of whatever kind. Raises UnknownNameError."""
    return _find(name, items, "thing")


def catalogue_of(items: Iterable[Item], sheets: tuple[SheetFormat, ...]) -> Catalogue:
    """A catalogue of things in the order they come."""
    listed = tuple(items)
    return Catalogue(
        tuple(item for item in listed if isinstance(item, Paper)),
        tuple(item for item in listed if isinstance(item, Adhesive)),
        tuple(item for item in listed if isinstance(item, Tool)),
        sheets,
        tuple(item for item in listed if isinstance(item, ReadyMade)),
    )


def _find(name: str, items: Iterable[_Item], what: str) -> _Item:
    ids = []
    for item in items:
        if name in (item.id, item.name):
            return item
        ids.append(item.id)
    raise UnknownNameError(f"There is no {what} “{name}”.", remedy=nearest(name, sorted(ids), "There are"))


def _size(raw: dict[str, Any], key: str) -> tuple[float, float] | None:
    """A width and a height of an entry, in inches or mm."""
    if f"{key}in" in raw:
        w, h = raw[f"{key}in"]
        return inches(w), inches(h)
    if f"{key}mm" in raw:
        w, h = raw[f"{key}mm"]
        return float(w), float(h)
    return None


def _sheet(raw: dict[str, Any]) -> SheetFormat:
    nominal = _size(raw, "") or (0.0, 0.0)
    usable = _size(raw, "usable_") or nominal
    return SheetFormat(raw["id"], raw["name"], *nominal, *usable)


def _paper(raw: dict[str, Any], sheets: dict[str, SheetFormat]) -> Paper:
    made: dict[str, Any] = {key: Motif(**raw[key]) for key in ("front_motif", "back_motif") if key in raw}
    return Paper(**{**raw, **made, "sheet": sheets[raw["sheet"]]})


def _ready_made(raw: dict[str, Any]) -> ReadyMade:
    width, height = _size(raw, "") or (0.0, 0.0)
    extra = {"front": raw["front"]} if "front" in raw else {}
    return ReadyMade(raw["id"], raw["name"], width, height, raw["thickness"], **extra)


def _tool(raw: dict[str, Any]) -> Tool:
    grid = inches(float(Fraction(raw["grid_in"]))) if "grid_in" in raw else float(raw["grid_mm"])
    longest = inches(float(raw["longest_in"])) if "longest_in" in raw else raw.get("longest_mm")
    return Tool(
        raw["id"], raw["name"], raw["kind"], grid, float(raw.get("offset_mm", 0.0)),
        None if longest is None else float(longest), float(raw.get("kerf_mm", 0.0)),
        tuple(inches(float(groove)) for groove in raw.get("grooves_in", ())),
    )  # fmt: skip


@lru_cache(maxsize=1)
def builtin_catalogue() -> Catalogue:
    """The catalogue that ships with the program (`catalogue.json` beside this module)."""
    raw = json.loads(Path(__file__).with_name("catalogue.json").read_text(encoding="utf-8"))
    sheets = tuple(_sheet(item) for item in raw["sheets"])
    by_id = {sheet.id: sheet for sheet in sheets}
    return Catalogue(
        tuple(_paper(item, by_id) for item in raw["papers"]),
        tuple(Adhesive(**item) for item in raw["adhesives"]),
        tuple(map(_tool, raw["tools"])),
        sheets,
        tuple(map(_ready_made, raw["ready_made"])),
    )
