"""What is printed on a face of paper: a pattern that repeats, and whether it has an up side.

A tile is the unit square, y up; its shapes are filled with the pattern's ink on the colour of the face.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from functools import lru_cache
from typing import Literal, get_args

from msgspec import Struct

MotifKind = Literal["dots", "stripes", "waves", "scales", "stars", "script", "print"]
KINDS: tuple[MotifKind, ...] = get_args(MotifKind)
Shape = tuple[tuple[float, float], ...]
SAME_AFTER: dict[MotifKind, int] = {
    "dots": 1, "stars": 1, "stripes": 2, "waves": 2, "scales": 4, "script": 4, "print": 4,
}  # fmt: skip
"""After so many quarter turns a pattern looks as before: 1 has no direction, 2 may stand on its head, 4 has an up
side."""
LEAST, MOST = 2.0, 400.0
"""A pattern repeats within these, mm."""


class Motif(Struct, frozen=True):
    """A pattern on a face: its kind, the colour it is drawn in (#rrggbb), and after how many mm it repeats.

    `turn` tells how its up side stands when the sheet lies with that face up, in quarter turns to the left.
    """

    kind: MotifKind
    ink: str
    repeat: float = 14.0
    turn: int = 0

    @property
    def same_after(self) -> int:
        """After how many quarter turns it looks as before."""
        return SAME_AFTER[self.kind]

    @property
    def has_direction(self) -> bool:
        """Whether it matters how it is turned."""
        return self.same_after > 1

    def stands(self, turned: int) -> Literal["upright", "sideways", "upside down"]:
        """How it looks when its up side is so many quarter turns off up."""
        off = turned % self.same_after
        if off == 0:
            return "upright"
        return "upside down" if turned % 4 == 2 else "sideways"


@lru_cache(maxsize=16)
def shapes(kind: MotifKind) -> tuple[Shape, ...]:
    """The filled polygons of one tile, y up; they join those of the next tile on every side."""
    return tuple(tuple(shape) for shape in _DRAWN[kind]())


def _disc(x: float, y: float, radius: float, corners: int = 16) -> Shape:
    turns = [2 * math.pi * k / corners for k in range(corners)]
    return tuple((x + radius * math.cos(a), y + radius * math.sin(a)) for a in turns)


def _star(x: float, y: float, radius: float) -> Shape:
    points = []
    for k in range(8):
        reach, a = radius if k % 2 == 0 else radius * 0.36, math.pi / 2 + math.pi * k / 4
        points.append((x + reach * math.cos(a), y + reach * math.sin(a)))
    return tuple(points)


def _box(x0: float, y0: float, x1: float, y1: float) -> Shape:
    return (x0, y0), (x1, y0), (x1, y1), (x0, y1)


def _dots() -> Iterator[Shape]:
    yield _disc(0.25, 0.25, 0.14)
    yield _disc(0.75, 0.75, 0.14)


def _stripes() -> Iterator[Shape]:
    yield _box(0.1, 0.0, 0.4, 1.0)
    yield _box(0.7, 0.0, 0.8, 1.0)


def _waves() -> Iterator[Shape]:
    across = [k / 16 for k in range(17)]
    low = [(x, 0.42 + 0.17 * math.sin(2 * math.pi * x)) for x in across]
    yield (*low, *((x, y + 0.16) for x, y in reversed(low)))


def _arch(x: float, y: float, first: int, last: int) -> Shape:
    """Part of the rim of a scale, from one sixteenth of a turn to another."""
    turns = [math.pi * k / 8 for k in range(first, last + 1)]
    outer = [(x + 0.5 * math.cos(a), y + 0.5 * math.sin(a)) for a in turns]
    return (*outer, *((x + 0.39 * math.cos(a), y + 0.39 * math.sin(a)) for a in reversed(turns)))


def _scales() -> Iterator[Shape]:
    yield _arch(0.5, 0.0, 0, 8)
    yield _arch(0.0, 0.5, 0, 4)
    yield _arch(1.0, 0.5, 4, 8)


def _stars() -> Iterator[Shape]:
    yield _star(0.25, 0.25, 0.22)
    yield _star(0.75, 0.75, 0.12)


def _stroke(points: list[tuple[float, float]], thick: float) -> Shape:
    """A line as a ribbon: the pen is held level, so it is thin across."""
    return (*((x, y - thick / 2) for x, y in points), *((x, y + thick / 2) for x, y in reversed(points)))


def _script() -> Iterator[Shape]:
    for base, begin in ((0.62, 0.06), (0.14, 0.3)):
        heights = (0.0, 0.3, 0.02, 0.16, 0.0, 0.17, 0.03, 0.28, 0.0, 0.15, 0.02, 0.12)
        line = [(begin + 0.055 * k, base + h) for k, h in enumerate(heights)]
        yield _stroke(line, 0.06)


def _print() -> Iterator[Shape]:
    """A lantern on its post."""
    yield _box(0.47, 0.06, 0.53, 0.4)
    yield _box(0.32, 0.04, 0.68, 0.09)
    yield (0.36, 0.4), (0.64, 0.4), (0.7, 0.68), (0.3, 0.68)
    yield (0.24, 0.7), (0.76, 0.7), (0.5, 0.92)


_DRAWN = {
    "dots": _dots, "stripes": _stripes, "waves": _waves, "scales": _scales, "stars": _stars, "script": _script,
    "print": _print,
}  # fmt: skip
