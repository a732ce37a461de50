"""Ways into a design: from what it must hold, from its size, from the sheet at hand; the same for every structure."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from msgspec import Struct

from yawning_lantern.design import Design, Value
from yawning_lantern.errors import ParameterError
from yawning_lantern.measure import Units
from yawning_lantern.stock import Paper, builtin_catalogue
from yawning_lantern.structures import Family, Parameter, Start, start_design
from yawning_lantern.study.from_sheet import fill_sheet

_CONTENT = "content-"
_ASKED = 4  # measurements that are asked first
_SHEET = Parameter("sheet", "Sheet side", "length", "The side of the square sheet at hand.", "Sheet", 10.0)


class Way(Struct, frozen=True):
    """One way in: what is asked, in order, and what of it must be known. The rest may be left open."""

    start: Start
    fields: tuple[Parameter, ...]
    needed: tuple[str, ...]


def _is_content(name: str) -> bool:
    return name.startswith(_CONTENT) and name != f"{_CONTENT}play"


def ways_in(kind: Family) -> tuple[Way, ...]:
    """The ways into a structure, in the order in which its family tells them."""
    return tuple(_way(kind, start) for start in kind.starts)


def _way(kind: Family, start: Start) -> Way:
    declared = {p.id: p for p in kind.parameters}
    if start == "contents":
        fields = tuple(p for name, p in declared.items() if _is_content(name))
        wanted = ("content-width",) if kind.relation == "over" else ("content-width", "content-height")
        return Way(start, fields, tuple(name for name in wanted if name in declared))
    given = [
        p
        for p in kind.parameters
        if p.kind not in ("word", "text", "lengths")
        and not (p.structural or p.derived)
        and p.group not in ("Contents", "Sheet", "Worked out")
    ]
    if start == "size":
        return Way(start, tuple(given[:_ASKED]), ())
    beside = [p for p in given if p.id in kind.headline]
    return Way(start, (declared.get("sheet", _SHEET), *beside[-1:]), ("sheet",))


def begin(
    kind: Family,
    start: Start | None,
    settings: Mapping[str, Value],
    *,
    name: str,
    stock: str,
    units: Units,
    papers: tuple[Paper, ...] = (),
) -> Design:
    """A new design of one structure by a way in; with no `start`, by what is given. The tools are the usual ones of the
    units; it carries `papers`, which go before those of the program.

    Raises:
        ParameterError: there is no such way, something that it needs is missing, or something else is given too; or
            nothing can be made. UnknownNameError: no such parameter or stock.
    """
    if start is not None and start not in kind.starts:
        raise ParameterError(f"{kind.name} cannot be solved from its {start}.")
    given = dict(settings)
    if start == "sheet" and "sheet" not in given:
        sheet = builtin_catalogue().under(papers).paper(stock).sheet
        given["sheet"] = min(sheet.usable_width, sheet.usable_height)
    if start == "contents":
        way = _way(kind, "contents")
        missing = [field for field in way.fields if field.id in way.needed and field.id not in given]
        if missing:
            labels = " and ".join(f"“{field.label}”" for field in missing)
            raise ParameterError(
                f"To solve from the contents, {labels} must be known.",
                remedy=f"Measure the thing and give {' and '.join(field.id for field in missing)}.",
            )
    if start == "size" and any(n == "sheet" or _is_content(n) for n in given):
        raise ParameterError(
            "A finished size was asked for, but a sheet or contents are given too.",
            remedy="Leave them out, or choose --from sheet or --from contents.",
        )
    shipped = builtin_catalogue().papers
    more: dict[str, Any] = {"papers": tuple(paper for paper in papers if paper not in shipped)}
    if units == "mm":
        more |= {"score_tool": "scorer-mm", "cut_tool": "trimmer-mm"}
    if "sheet" in given and not any(p.id == "sheet" for p in kind.parameters):
        side = given.pop("sheet")
        if isinstance(side, str):
            raise ParameterError(f"“{side}” is no length.", "Sheet")
        return fill_sheet(kind.id, given, side, name=name, stock=stock, units=units, **more)
    return start_design(kind.id, given, name=name, stock=stock, units=units, **more)
