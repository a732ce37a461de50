"""What must be had to make a design: sheets, ready-made things, what goes by length, tape or glue for every joint."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from typing import Literal

from msgspec import Struct

from yawning_lantern.assembly import Ware
from yawning_lantern.pattern import Point, area, bounds
from yawning_lantern.pattern.convex import least_width
from yawning_lantern.sheets import Plan
from yawning_lantern.stock import Adhesive, Paper
from yawning_lantern.structures.making import glued_outlines
from yawning_lantern.study.study import Study

Kind = Literal["sheets", "ready-made", "by length", "tape", "glue"]
STRIP = 3.0
"""A joint up to so many widths of the tape wide takes one strip along it, a wider one a strip along every edge. Common
practice, no source."""
SPARE = 1.1
"""So much more tape than the joints are long: ends are cut off square. Common practice, no source."""


class Buy(Struct, frozen=True):
    """One thing to have: of which kind, its name, how many; how many there are (None: not counted).

    `size` is its width and height where it has one, `length` how much of it is needed of what is sold by length, `area`
    how much is glued, mm and mm².
    """

    kind: Kind
    what: str
    count: int
    have: int | None = None
    size: tuple[float, float] | None = None
    length: float | None = None
    area: float | None = None

    @property
    def missing(self) -> int:
        """How many are to be bought: all of them where none were counted."""
        return max(0, self.count - (self.have or 0))


def wares_of(study: Study) -> tuple[Ware, ...]:
    """What is bought by length beside the pieces."""
    return tuple(ware for r in study.resolved.values() for ware in r.part.wares)


def shopping(
    study: Study, plan: Plan, copies: int, have: Mapping[str, int] | None = None, cut: Sequence[int] = ()
) -> tuple[Buy, ...]:
    """Everything for so many copies, sheets as a plan has them; `cut` are the ranks of sheets that are cut already.
    `have` tells how many there are, by the id of a thing."""
    there = have or {}
    return (
        *_sheets(study, plan, there, cut), *_ready_made(study, copies), *_by_length(study, copies),
        *_adhesive(study, copies, there),
    )  # fmt: skip


def paper_of(study: Study, stock: str) -> Paper:
    """A paper by its id: what pieces are made of goes before the drawer, for families bring board of their own."""
    return next((p.stock for p in study.pieces if p.stock.id == stock), None) or study.catalogue.paper(stock)


def sheets_to_buy(plan: Plan, names: Mapping[str, str]) -> tuple[Buy, ...]:
    """Whole sheets by stock as a shop would be asked, of a plan without a design."""
    counts: dict[tuple[str, str, float, float], int] = {}
    for sheet in plan.sheets:
        if not sheet.board.kept:
            key = sheet.board.stock, sheet.board.name, sheet.board.width, sheet.board.height
            counts[key] = counts.get(key, 0) + 1
    return tuple(
        Buy("sheets", f"{names.get(stock, stock) or 'sheet'}, {name}", count, size=(w, h))
        for (stock, name, w, h), count in counts.items()
    )


def _sheets(study: Study, plan: Plan, have: Mapping[str, int], cut: Sequence[int]) -> list[Buy]:
    counts: dict[str, int] = {}
    for k, sheet in enumerate(plan.sheets):
        if not sheet.board.kept and k not in cut:
            counts[sheet.board.stock] = counts.get(sheet.board.stock, 0) + 1
    buys = []
    for stock, count in counts.items():
        paper = paper_of(study, stock)
        size = paper.sheet.width, paper.sheet.height
        buys.append(Buy("sheets", f"{paper.name}, {paper.sheet.name}", count, have.get(stock), size))
    return buys


def _ready_made(study: Study, copies: int) -> list[Buy]:
    return [
        Buy("ready-made", piece.name, piece.quantity * copies, size=piece.size)
        for piece in study.pieces
        if piece.bought
    ]


def _by_length(study: Study, copies: int) -> list[Buy]:
    return [Buy("by length", ware.name, ware.count * copies, length=ware.length) for ware in wares_of(study)]


def _adhesive(study: Study, copies: int, have: Mapping[str, int]) -> list[Buy]:
    """Tape by width and length, in rolls; glue by the area that it holds."""
    glue = study.catalogue.adhesive(study.design.adhesive)
    joints = [
        outline
        for r in study.resolved.values()
        for outline in glued_outlines(r.part, r.host != "" and r.need.relation in ("onto", "inside"))
    ]
    if not joints:
        return []
    glued = sum(abs(area(outline)) for outline in joints) * copies
    if glue.width is None:
        return [Buy("glue", glue.name, 1, have.get(glue.id), area=glued)]
    length = SPARE * copies * sum(tape_along(outline, glue.width) for outline in joints)
    rolls = max(1, math.ceil(length / glue.roll)) if glue.roll else 1
    return [Buy("tape", _tape(glue), rolls, have.get(glue.id), length=length, area=glued)]


def _tape(glue: Adhesive) -> str:
    wide = f"{glue.width:g} mm"
    return glue.name if wide in glue.name else f"{glue.name}, {wide} wide"


def tape_along(outline: Sequence[Point], width: float) -> float:
    """How much tape of a width a joint takes, mm: one strip along a narrow one, one along every edge of a wide one."""
    x0, y0, x1, y1 = bounds(outline)
    if least_width(outline) <= STRIP * width:
        return max(x1 - x0, y1 - y0)
    return sum(math.dist(p, outline[(k + 1) % len(outline)]) for k, p in enumerate(outline))
