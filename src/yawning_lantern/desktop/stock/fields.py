"""What can be told of a thing of the drawer: a line for each fact, how it reads, what a change makes of the thing."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from msgspec import Struct
from msgspec.structs import replace

from yawning_lantern.errors import ParameterError
from yawning_lantern.measure import Units, format_fine, format_length, parse_length
from yawning_lantern.stock import Adhesive, Item, Paper, ReadyMade, Tool, parse_weight

STACK = 10
"""So many sheets are stacked and measured together."""
GRAINS = (("none", "not known"), ("long", "along the longer side"), ("short", "along the shorter side"))
DEEDS = (("score", "scores"), ("cut", "cuts"), ("both", "cuts and scores"))


class Line(Struct, frozen=True):
    """A fact that is typed: its words, how it reads, the thing that a text makes. `hint` stands where it is empty."""

    label: str
    show: Callable[[Any, Units], str]
    change: Callable[[Any, str, Units], Item]
    hint: str = ""


class Pick(Struct, frozen=True):
    """A fact that is picked: its words, what there is (key, words), which it is, the thing that a key makes."""

    label: str
    ways: tuple[tuple[str, str], ...]
    show: Callable[[Any], str]
    change: Callable[[Any, str], Item]


class Tick(Struct, frozen=True):
    """A fact that is or is not."""

    label: str
    show: Callable[[Any], bool]
    change: Callable[[Any, bool], Item]


Field = Line | Pick | Tick


def _length(text: str, units: Units, what: str) -> float:
    if not text.strip():
        raise ParameterError(f"There is no {what}.", what.capitalize(), "Type a length, such as 12in or 300mm.")
    return parse_length(text, units)


def _of(name: str, label: str) -> Line:
    """A length of a thing that must be there."""

    def change(item: Any, text: str, units: Units) -> Item:
        return replace(item, **{name: _length(text, units, label.lower())})  # type: ignore[no-any-return]  # by name

    return Line(label, lambda item, units: format_length(getattr(item, name), units, glyphs=True), change)


def _maybe(name: str, label: str, hint: str) -> Line:
    """A length of a thing that may be missing."""

    def show(item: Any, units: Units) -> str:
        value = getattr(item, name)
        return "" if value is None else format_length(value, units, glyphs=True)

    def change(item: Any, text: str, units: Units) -> Item:
        return replace(item, **{name: parse_length(text, units) if text.strip() else None})  # type: ignore[no-any-return]  # by name

    return Line(label, show, change, hint)


def _thin(name: str, label: str) -> Line:
    """A thickness: always told in mm, read in what is typed."""

    def change(item: Any, text: str, units: Units) -> Item:
        return replace(item, **{name: _length(text, "mm", label.lower())})  # type: ignore[no-any-return]  # by name

    return Line(label, lambda item, units: f"{getattr(item, name):.3g} mm", change)


NAME = Line("Name", lambda item, units: item.name, lambda item, text, units: replace(item, name=text.strip()))


def _weigh(paper: Paper, text: str, units: Units) -> Item:
    return replace(paper, grammage=parse_weight(text) if text.strip() else None)


def _measure(paper: Paper, text: str, units: Units) -> Item:
    """A stack of ten sheets measured: a tenth of it is the sheet's thickness."""
    if not text.strip():
        return replace(paper, measured=None)
    return replace(paper, measured=parse_length(text, "mm") / STACK)


def _sheet(side: str, label: str) -> Line:
    """A side of the sheet; what can be used of it follows where it was all of it."""

    def show(paper: Paper, units: Units) -> str:
        return format_length(getattr(paper.sheet, side), units, glyphs=True)

    def change(paper: Paper, text: str, units: Units) -> Item:
        long = _length(text, units, label.lower())
        usable, sheet = f"usable_{side}", paper.sheet
        whole = abs(getattr(sheet, usable) - getattr(sheet, side)) < 1e-6
        changed: dict[str, Any] = {side: long, usable: long if whole else min(long, getattr(sheet, usable))}
        return replace(paper, sheet=_own(replace(sheet, **changed), units))

    return Line(label, show, change)


def _usable(side: str, label: str) -> Line:
    def show(paper: Paper, units: Units) -> str:
        return format_length(getattr(paper.sheet, f"usable_{side}"), units, glyphs=True)

    def change(paper: Paper, text: str, units: Units) -> Item:
        changed: dict[str, Any] = {f"usable_{side}": _length(text, units, label)}
        return replace(paper, sheet=_own(replace(paper.sheet, **changed), units))

    return Line(label, show, change)


def _own(sheet: Any, units: Units) -> Any:
    """A sheet of one's own is called by its size."""
    size = " × ".join(format_length(v, units, mark=False) for v in (sheet.width, sheet.height))
    return replace(sheet, id="own", name=f"{size} {units}")


PAPER: tuple[Field, ...] = (
    NAME,
    Line("Weight", lambda p, units: f"{p.grammage:g} g/m²" if p.grammage else "", _weigh, "not known"),
    Line(
        "A stack of ten measures", lambda p, units: f"{p.measured * STACK:.2f} mm" if p.measured else "", _measure,
        "as estimated",
    ),
    _sheet("width", "Sheet, width"),
    _sheet("height", "Sheet, height"),
    _usable("width", "Usable width"),
    _usable("height", "Usable height"),
    Pick("Grain", GRAINS, lambda p: p.grain, lambda p, key: replace(p, grain=key)),
    Tick("Both faces may show", lambda p: p.two_sided, lambda p, on: replace(p, two_sided=on)),
    Tick("Coated", lambda p: p.coated, lambda p, on: replace(p, coated=on)),
)  # fmt: skip
ADHESIVE: tuple[Field, ...] = (
    NAME,
    _thin("thickness", "Adds between two faces"),
    _maybe("width", "Width of the tape", "none: it is no tape"),
    Line(
        "A roll holds", lambda a, units: f"{a.roll / 1000:g} m" if a.roll else "",
        lambda a, text, units: replace(a, roll=_metres(text)), "none",
    ),
    Tick("Wet: soaks in, can be shifted", lambda a: a.can_shift, lambda a, on: replace(a, can_shift=on)),
)  # fmt: skip
READY_MADE: tuple[Field, ...] = (
    NAME, _of("width", "Width"), _of("height", "Height"), _thin("thickness", "Thickness"),
)  # fmt: skip


def _metres(text: str) -> float | None:
    told = text.strip().lower().removesuffix("m").strip().replace(",", ".")
    if not told:
        return None
    try:
        return float(told) * 1000.0
    except ValueError as error:
        raise ParameterError(
            f"“{text}” is no length of a roll.", "A roll holds", "Give metres, such as 20 m."
        ) from error


def _grooves(tool: Tool, text: str, units: Units) -> Item:
    return replace(
        tool, grooves=tuple(parse_length(one, units) for one in text.replace(";", ",").split(",") if one.strip())
    )


TOOL: tuple[Field, ...] = (
    NAME,
    Pick("It", DEEDS, lambda tool: tool.kind, lambda tool, key: replace(tool, kind=key)),
    _of("grid", "Marks are apart"),
    Line(
        "First mark lies at", lambda t, units: format_fine(t.offset, units) if t.offset else "",
        lambda t, text, units: replace(t, offset=parse_length(text, units) if text.strip() else 0.0), "the fence",
    ),
    _maybe("longest", "Longest line", "any"),
    Line(
        "The blade takes away", lambda t, units: f"{t.kerf:g} mm" if t.kerf else "",
        lambda t, text, units: replace(t, kerf=parse_length(text, "mm") if text.strip() else 0.0), "nothing",
    ),
    Line(
        "Its grooves", lambda t, units: ", ".join(format_length(g, units, mark=False) for g in t.grooves), _grooves,
        "evenly apart",
    ),
)  # fmt: skip


def fields_of(item: Item) -> tuple[Field, ...]:
    """What can be told of a thing."""
    if isinstance(item, Paper):
        return PAPER
    if isinstance(item, Adhesive):
        return ADHESIVE
    return READY_MADE if isinstance(item, ReadyMade) else TOOL
