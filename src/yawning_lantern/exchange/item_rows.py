"""Things of the drawer as rows of a table, and back: every cell a text that a person can read and write."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Literal, cast

from yawning_lantern.errors import ParameterError
from yawning_lantern.measure import parse_length
from yawning_lantern.stock import (
    Adhesive,
    Item,
    Motif,
    MotifKind,
    Paper,
    ReadyMade,
    SheetFormat,
    Tool,
    check_item,
    parse_weight,
)

COLUMNS = (
    "weight", "bulk", "thickness", "front", "back", "front-pattern", "back-pattern", "two-sided", "grain", "coated",
    "usable-width", "usable-height", "open-time", "wet", "roll", "does", "grid", "offset", "longest", "kerf", "grooves",
)  # fmt: skip
"""What a thing's row has beside kind, stock, name, width and height."""
KINDS = ("paper", "board", "film", "ready-made", "adhesive", "tool")
_YES, _NO = ("yes", "y", "1", "true"), ("no", "n", "0", "false", "")


def item_row(item: Item) -> dict[str, str]:
    """A thing as a row; what it has not is left out."""
    row = {"stock": item.id, "name": item.name}
    if isinstance(item, Paper):
        row |= {"kind": item.kind, **_sheet_cells(item.sheet), "bulk": f"{item.bulk:g}"}
        row |= {"front": item.front, "back": item.back, "two-sided": _said(item.two_sided), "grain": item.grain}
        row |= {"coated": _said(item.coated)}
        if item.grammage is not None:
            row["weight"] = f"{item.grammage:.10g} g/m2"
        if item.measured is not None:
            row["thickness"] = _mm(item.measured)
        for key, motif in (("front-pattern", item.front_motif), ("back-pattern", item.back_motif)):
            if motif is not None:
                row[key] = f"{motif.kind} {motif.ink} {_mm(motif.repeat)} {motif.turn}"
    elif isinstance(item, ReadyMade):
        row |= {"kind": "ready-made", "width": _mm(item.width), "height": _mm(item.height)}
        row |= {"thickness": _mm(item.thickness), "front": item.front}
    elif isinstance(item, Adhesive):
        row |= {"kind": "adhesive", "thickness": _mm(item.thickness), "open-time": f"{item.open_time:g}"}
        row |= {"wet": _said(item.can_shift)}
        if item.width is not None:
            row["width"] = _mm(item.width)
        if item.roll is not None:
            row["roll"] = f"{item.roll:g}"  # mm, longer than what is read as a length
    else:
        row |= {"kind": "tool", "does": item.kind, "grid": _mm(item.grid), "offset": _mm(item.offset)}
        row |= {"kerf": _mm(item.kerf), "grooves": " ".join(_mm(groove) for groove in item.grooves)}
        if item.longest is not None:
            row["longest"] = _mm(item.longest)
    return row


def _sheet_cells(sheet: SheetFormat) -> dict[str, str]:
    return {
        "width": _mm(sheet.width), "height": _mm(sheet.height),
        "usable-width": _mm(sheet.usable_width), "usable-height": _mm(sheet.usable_height),
    }  # fmt: skip


def _mm(length: float) -> str:
    return f"{length:.10g}mm"


def _said(yes: bool) -> str:
    return "yes" if yes else "no"


def item_of(row: Mapping[str, str], where: str, sheets: tuple[SheetFormat, ...] = ()) -> Item:
    """The thing of a row; bare lengths are mm. A sheet that is one of the known formats is that one.

    Raises:
        ParameterError: a cell tells nothing that can be, or one is missing.
    """
    cells = _Cells(row, where)
    kind = cells.text("kind")
    name, known_as = cells.text("name"), cells.text("stock")
    made: Item
    if kind in ("paper", "board", "film"):
        made = _paper(cells, cast(Literal["paper", "board", "film"], kind), known_as, name, sheets)
    elif kind == "ready-made":
        made = ReadyMade(known_as, name, cells.length("width"), cells.length("height"), cells.length("thickness", 0.0),
                         cells.text("front", "#e9dcc0"))  # fmt: skip
    elif kind == "adhesive":
        made = Adhesive(known_as, name, cells.length("thickness", 0.0), cells.number("open-time", 0.0),
                        cells.yes("wet"), cells.maybe("width"), cells.number("roll", 0.0) or None)  # fmt: skip
    elif kind == "tool":
        grooves = tuple(parse_length(groove, "mm") for groove in cells.text("grooves", "").split())
        does = cast(Literal["score", "cut", "both"], cells.text("does"))
        made = Tool(known_as, name, does, cells.length("grid"), cells.length("offset", 0.0), cells.maybe("longest"),
                    cells.length("kerf", 0.0), grooves)  # fmt: skip
    else:
        raise ParameterError(f"“{kind}” is no kind of thing.", where, f"Choose {', '.join(KINDS)}.")
    try:
        check_item(made)
    except ParameterError as error:
        raise ParameterError(error.what, where, error.remedy) from error
    return made


def _paper(
    cells: _Cells, kind: Literal["paper", "board", "film"], known_as: str, name: str, sheets: tuple[SheetFormat, ...]
) -> Paper:
    width, height = cells.length("width"), cells.length("height")
    usable = cells.length("usable-width", width), cells.length("usable-height", height)
    own = SheetFormat(f"{known_as}-sheet", f"{width:g} × {height:g} mm", width, height, *usable)
    same = (s for s in sheets if _sizes(s) == tuple(round(v, 3) for v in (width, height, *usable)))
    sheet = next(same, own)
    grain = cast(Literal["long", "short", "none"], cells.text("grain", "none"))
    return Paper(
        known_as, name, kind, sheet, cells.weight(), cells.number("bulk", 1.25), cells.maybe("thickness"),
        cells.text("front", "#d8cdb8"), cells.text("back", "#f4efe4"), cells.yes("two-sided", True), grain,
        cells.motif("front-pattern"), cells.motif("back-pattern"), cells.yes("coated"),
    )  # fmt: skip


def _sizes(sheet: SheetFormat) -> tuple[float, ...]:
    return tuple(round(v, 3) for v in (sheet.width, sheet.height, sheet.usable_width, sheet.usable_height))


class _Cells:
    """The cells of one row, read as what they should be."""

    def __init__(self, row: Mapping[str, str], where: str) -> None:
        self._row, self._where = row, where

    def text(self, key: str, usual: str | None = None) -> str:
        """A cell, or the usual where it is empty. Raises ParameterError where there is none."""
        told = str(self._row.get(key) or "").strip()
        if not told and usual is None:
            raise ParameterError(f"It tells no {key}.", self._where)
        return told or usual or ""

    def length(self, key: str, usual: float | None = None) -> float:
        """A length, mm."""
        told = self.text(key, "" if usual is not None else None)
        return parse_length(told, "mm") if told else float(usual or 0.0)

    def maybe(self, key: str) -> float | None:
        """A length (mm), or None where there is none."""
        told = self.text(key, "")
        return parse_length(told, "mm") if told else None

    def number(self, key: str, usual: float) -> float:
        """A plain number."""
        told = self.text(key, str(usual))
        try:
            return float(told)
        except ValueError as error:
            raise ParameterError(f"“{told}” is no number for {key}.", self._where) from error

    def yes(self, key: str, usual: bool = False) -> bool:
        """Yes or no."""
        told = self.text(key, _said(usual)).lower()
        if told not in (*_YES, *_NO):
            raise ParameterError(f"“{told}” is neither yes nor no for {key}.", self._where)
        return told in _YES

    def weight(self) -> float | None:
        """A weight in g/m², told as 216, 216 g/m2, or 80 lb cover."""
        told = self.text("weight", "")
        return parse_weight(told, self._where) if told else None

    def motif(self, key: str) -> Motif | None:
        """A pattern, told as: kind, colour, repeat, quarter turns (the last two may be left out)."""
        told = self.text(key, "").split()
        if not told:
            return None
        if len(told) < 2:
            remedy = "Give kind, colour, repeat, as in dots #c9a24b 12mm."
            raise ParameterError(f"“{' '.join(told)}” is no pattern.", self._where, remedy)
        turn = told[3] if len(told) > 3 else "0"
        if not turn.isdigit():
            raise ParameterError(f"“{turn}” are no quarter turns.", self._where)
        repeat = parse_length(told[2], "mm") if len(told) > 2 else 14.0
        return Motif(cast(MotifKind, told[0]), told[1], repeat, int(turn))
