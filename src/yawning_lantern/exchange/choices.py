"""What every choice makes of a structure: each word, the least and most of each count, each length a third of what it
is in a new one, something to hold, and what comes out otherwise then. Made from the families, like the structure
reference."""

from __future__ import annotations

import math
import re
from collections.abc import Iterator

from yawning_lantern.design import Value
from yawning_lantern.errors import LanternError
from yawning_lantern.exchange.reference import fit_line, piece_line, value_words, within
from yawning_lantern.fold import weight
from yawning_lantern.measure import format_length, format_size, inches
from yawning_lantern.pattern import Piece
from yawning_lantern.pattern.piece import Point
from yawning_lantern.structures import Family, families, setting_words, start_design
from yawning_lantern.study import Study

MANY = 8
"""Of what may be had by the dozen so many are tried."""
ONCE = 30.0
"""What is nothing in a new one is there for once, mm."""
WHOLE = inches(7)
"""What may be told instead of a new one's measurements (a sheet, a strip), mm: so long, or as above."""
HELD = {"width": inches(2.75), "height": inches(2), "depth": inches(1.25)}
"""What is told to be in it, if a new one holds nothing, mm."""
_COUNTED = re.compile(r"^\d+ × ")


def choices(kind: Family) -> Iterator[dict[str, Value]]:
    """Every choice by itself, those that are refused too: every word, the least and most of every count, every length a
    third of what it is in a new one; what it holds, and what goes before its measurements, if a new one is told
    neither."""
    usual = Study(start_design(kind.id, {}))
    sizes = usual.resolved[usual.design.root.id].sizes
    for p in kind.parameters:
        if p.derived or p.structural:
            continue
        if p.kind == "count":
            for n in dict.fromkeys((p.most, p.least, min(p.most, MANY))):
                yield {p.id: int(n)}
        for word in p.words:
            yield {p.id: word}
        if p.kind == "length" and p.id in sizes and not isinstance(sizes[p.id].value, str):
            yield {p.id: max(p.least, sizes[p.id].length / 3 or ONCE)}
        elif p.kind == "length" and not p.fact:
            yield {p.id: ONCE}
            yield {p.id: WHOLE}
    absent = [p.id for p in kind.parameters if p.fact and p.id not in sizes]
    held: dict[str, Value] = {name: HELD[name.rpartition("-")[2]] for name in absent}
    if held:
        yield held


def _scored(piece: Piece) -> Iterator[str]:
    """Where scores lie that run square to a side of a piece, from its left and from its foot, and the length of all."""
    scores = [line for line in piece.lines if line.kind == "score"]
    for axis, from_where in enumerate(("left", "foot")):
        at = sorted({round(s.start[axis], 2) for s in scores if abs(s.start[axis] - s.end[axis]) < 0.01})
        if at:
            yield f"scores {', '.join(format_length(mm, mark=False) for mm in at)} from the {from_where}"
    if scores:
        yield f"{format_length(sum(math.dist(s.start, s.end) for s in scores))} of scores"


def _shape(piece: Piece) -> str:
    """A piece as it lies against the fence: its scores, and how far the knife goes around it and in it."""
    if piece.bought:
        return piece_line(piece)
    words = [f"cut to {format_size(piece.blank)} first"] if piece.edge else []
    words += [*_scored(piece.laid), f"{format_length(knife_way(piece))} of cuts"]
    return f"{piece_line(piece)} {'; '.join(words).capitalize()}."


def knife_way(piece: Piece) -> float:
    """How far the knife goes around a piece and in it, mm."""
    cuts = [math.dist(line.start, line.end) for line in piece.lines if line.kind == "cut"]
    return sum(cuts) + sum(map(_around, (piece.outline, *piece.holes)))


def _around(ring: tuple[Point, ...]) -> float:
    """How far it is around, mm."""
    return sum(math.dist(a, b) for a, b in zip(ring, (*ring[1:], ring[0]), strict=True))


def told(study: Study) -> list[str]:
    """What is told of a structure that stands by itself: its measurements, pieces, pockets, motions and fits."""
    top = study.design.root
    sizes = study.resolved[top.id].sizes
    measured = [
        f"- {p.label}: {value_words(p, sizes[p.id])}." for p in families()[top.family].parameters if p.id in sizes
    ]
    fits = dict.fromkeys(map(fit_line, study.checks))
    shut = f"- Shut: {format_size(study.closed)}, {weight(study.pieces):.1f} g of paper."
    return [*measured, shut, *map(_shape, study.pieces), *(f"- {line}" for line in within(study) if line), *fits]


def changed(kind: Family) -> Iterator[str]:
    """What every choice of a family makes otherwise, line by line."""
    yield from (f"## {kind.name} (`{kind.id}`)", "")
    new = Study(start_design(kind.id, {}))
    usual, sizes = told(new), new.resolved[new.design.root.id].sizes
    named = {p.id: p for p in kind.parameters}
    for given in choices(kind):
        try:
            now = told(Study(start_design(kind.id, given)))
        except LanternError:
            continue  # refusals stand in the structure reference
        new_one = {name: sizes[name].value for name in given if name in sizes}
        if new_one != given:
            changes = _otherwise(usual, now)
            if not changes and not new_one:
                continue  # it goes with another choice
            words = [f"{named[name].label} {setting_words(value, named[name])}" for name, value in given.items()]
            yield from (f"### {', '.join(words)}", "", *(changes or ["Nothing else."]), "")


def _heads(lines: list[str]) -> dict[str, None]:
    """What lines are about, in their order."""
    return dict.fromkeys(_COUNTED.sub("", line.removeprefix("- ").partition(":")[0]) for line in lines)


def _otherwise(usual: list[str], now: list[str]) -> list[str]:
    """Lines that are told now and were not, and what is not told any more."""
    told_now = _heads(now)
    gone = [head for head in _heads(usual) if head not in told_now]
    return [*(line for line in now if line not in usual), *([f"- No longer: {'; '.join(gone)}."] if gone else [])]


def page() -> str:
    """The whole page as Markdown."""
    head = [
        "# What each choice makes",
        "",
        "Made from the code. `./lantern families --choices` prints this page. One thing at a time is chosen otherwise",
        "than in a [new one](structures.md): every word, the least and most of a count, a third of a length. What is",
        "told is what comes out otherwise then; what is refused stands in the structure reference.",
        "",
    ]
    return "\n".join(head + [line for kind in families().values() for line in changed(kind)])
