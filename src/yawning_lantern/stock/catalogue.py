"""The small catalogue that ships with the program, and looking things up in it by name."""

from __future__ import annotations

import json
from collections.abc import Iterable
from dataclasses import dataclass
from fractions import Fraction
from functools import lru_cache
from pathlib import Path
from typing import Any, TypeVar

from yawning_lantern.errors import UnknownNameError, nearest
from yawning_lantern.measure import inches
from yawning_lantern.stock.items import Adhesive, Paper, SheetFormat, Tool

_Item = TypeVar("_Item", Paper, Adhesive, Tool, SheetFormat)


@dataclass(frozen=True, slots=True)
class Catalogue:
    """Papers, adhesives, tools and sheet formats by id."""

    papers: tuple[Paper, ...]
    adhesives: tuple[Adhesive, ...]
    tools: tuple[Tool, ...]
    sheets: tuple[SheetFormat, ...]

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


def _find(name: str, items: Iterable[_Item], what: str) -> _Item:
    ids = []
    for item in items:
        if name in (item.id, item.name):
            return item
        ids.append(item.id)
    raise UnknownNameError(f"There is no {what} “{name}”.", remedy=nearest(name, sorted(ids), "There are"))


def _sheet(raw: dict[str, Any]) -> SheetFormat:
    def size(key: str) -> tuple[float, float] | None:
        if f"{key}in" in raw:
            w, h = raw[f"{key}in"]
            return inches(w), inches(h)
        if f"{key}mm" in raw:
            w, h = raw[f"{key}mm"]
            return float(w), float(h)
        return None

    nominal = size("") or (0.0, 0.0)
    usable = size("usable_") or nominal
    return SheetFormat(raw["id"], raw["name"], *nominal, *usable)


def _tool(raw: dict[str, Any]) -> Tool:
    grid = inches(float(Fraction(raw["grid_in"]))) if "grid_in" in raw else float(raw["grid_mm"])
    longest = inches(float(raw["longest_in"])) if "longest_in" in raw else raw.get("longest_mm")
    return Tool(
        raw["id"], raw["name"], raw["kind"], grid, float(raw.get("offset_mm", 0.0)),
        None if longest is None else float(longest), float(raw.get("kerf_mm", 0.0)),
    )  # fmt: skip


@lru_cache(maxsize=1)
def builtin_catalogue() -> Catalogue:
    """The catalogue that ships with the program (`catalogue.json` beside this module)."""
    raw = json.loads(Path(__file__).with_name("catalogue.json").read_text(encoding="utf-8"))
    sheets = tuple(_sheet(item) for item in raw["sheets"])
    by_id = {sheet.id: sheet for sheet in sheets}
    papers = tuple(Paper(**{**item, "sheet": by_id[item["sheet"]]}) for item in raw["papers"])
    return Catalogue(
        papers, tuple(Adhesive(**item) for item in raw["adhesives"]), tuple(map(_tool, raw["tools"])), sheets
    )
