"""What families that lie on a face share: how large they are, how thick, what they ask, and rows of panels."""

from __future__ import annotations

import math
from collections.abc import Sequence
from itertools import pairwise
from typing import Literal

from msgspec.structs import replace

from yawning_lantern.assembly import Gap, Mount, Need, Relation, Span, Term, Use, box_sides, span, uses
from yawning_lantern.errors import ParameterError
from yawning_lantern.measure import at_most, inches, snap, told
from yawning_lantern.pattern import Line, Panel, Point, area, bounds, rectangle
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes, Start
from yawning_lantern.structures.kit.solving import down_to_cut, given_length, length_of, on_board, up_to_cut

BORDER = inches(1 / 8)
"""What a thing that fills a face leaves free of it in all, mm. Common practice, no source."""
TAB = inches(1 / 2)
"""A glued tab, mm. Common practice, no source."""
LEAST = 3.0
"""Less cannot be folded or cut, mm."""
BEARS = 6.0
"""A narrower face bears nothing, and nothing narrower is put on one, mm. From memory."""
ABOVE = inches(1)
"""How far above its walls what is lifted off a box, or out of it, is drawn, mm. From memory."""


def extent(s: Situation, name: str, axis: int, default: float, auto: float | None = None) -> Sized:
    """A length along a face: given, else worked out (rounded up), else what the face leaves, else the default. mm."""
    if given_length(s.given, name) is not None:
        return length_of(s.given, name, default)
    if auto is not None:
        return up_to_cut(s, auto, "auto")
    if s.room is None:
        return Sized(default, "default")
    left = down_to_cut(s, s.room.clear(axis) - BORDER, "fill")
    if left.length < LEAST:
        raise ParameterError(f"The face leaves {told(max(left.length, 0.0))} for it: too little.", s.name)
    return left


def usual_length(
    s: Situation, name: str, usual: float, most: float, least: float = LEAST, scored: bool = False
) -> Sized:
    """A length: given, else the usual one; where that is too much for something small the most there is, on the cutting
    grid or, from one score to the next or an edge, on the board's, but not under the least. mm."""
    if given_length(s.given, name) is not None or usual <= most:
        return length_of(s.given, name, usual)
    marked = on_board(s, most) if scored else snap(most, s.cut.grid, "down").value
    return Sized(max(marked, least), "auto")


def count_of(s: Situation, name: str, default: int) -> Sized:
    """A count, given or by default."""
    value = s.given.get(name)
    return Sized(default, "default") if value is None or isinstance(value, str) else Sized(int(value), "given")


def most_of(s: Situation, name: str, usual: int, room_for: int) -> Sized:
    """A count: given, else the usual one, or as many as there is room for."""
    return count_of(s, name, usual) if name in s.given or usual <= room_for else Sized(room_for, "fill")


def at_least(value: float, least: float, what: str, remedy: str) -> None:
    """Raise ParameterError where a length (mm) that was worked out is too short for paper."""
    if value < least:
        raise ParameterError(f"The {what} comes out at {told(value)}: that is too little.", what, remedy)


def within(sizes: Sizes, name: str, label: str, most: float, where: str) -> None:
    """Raise ParameterError where what is glued (a size, told as `label`) is longer than what it is glued to, mm."""
    length = sizes[name].length
    if length > most + 1e-6:
        raise ParameterError(
            f"{told(length)} is more than {where} of {told(most)} it is glued to.", label, f"Give {at_most(most)}."
        )


class Lying:
    """A family that lies flat on a face while it is shut. Subclasses tell their thickness.

    `footprint` are the sizes that say how much of the face it takes; `levers` the parameters behind them.
    """

    relation: Relation = "onto"
    starts: tuple[Start, ...] = ("size", "sheet")
    footprint: tuple[str, str] = ("width", "height")
    levers: tuple[str, str] | None = None
    name: str

    def thickness(self, s: Situation, sizes: Sizes) -> Span:
        """How far it stands off the face when shut."""
        raise NotImplementedError  # every family that lies says

    def beyond(self, s: Situation, sizes: Sizes) -> tuple[float, float]:
        """How far it stands over its footprint, per side: across and along, mm."""
        return 0.0, 0.0

    def reaches(self, s: Situation, sizes: Sizes) -> tuple[Span, Span]:
        """Half its footprint, across and along, with what moves it."""
        across, along = (
            span(self.name.lower(), sizes[n].length / 2, s.element, lever, 0.5)
            for n, lever in zip(self.footprint, self.levers or self.footprint, strict=True)
        )
        return across, along

    def need(self, situation: Situation, sizes: Sizes) -> Need:
        """The face it takes and how far it stands off; it fills the face while nothing settles its size."""
        s = situation
        lengths = [sizes[n].length for n in self.footprint]
        settled = s.room is not None or all(sizes[n].origin in ("given", "auto") for n in self.footprint)
        reaches = [
            half.plus(Term("folds and hinges", over))
            for half, over in zip(self.reaches(s, sizes), self.beyond(s, sizes), strict=True)
        ]
        return Need(
            self.relation,
            uses.PLACE,
            box_sides((reaches[0], reaches[1], reaches[0], reaches[1])) if settled else (),
            (lengths[0], lengths[1]) if settled else (None, None),
            s.paper.caliper,
            height=self.thickness(s, sizes).merged(),
        )


def row(
    parts: Sequence[tuple[str, str, float]], lo: float, hi: float, axis: str = "x", start: float = 0.0
) -> list[Panel]:
    """Panels side by side along an axis, each (name, label, length), from `lo` to `hi` across it, mm."""
    panels = []
    at = start
    for name, label, length in parts:
        end = at + length
        shape = rectangle(at, lo, end, hi) if axis == "x" else rectangle(lo, at, hi, end)
        panels.append(Panel(name, label, shape))
        at = end
    return panels


def notch(middle: Point, across: float, way: Point, pieces: int = 10) -> tuple[Line, ...]:
    """The half circle punched for a finger: cut lines about `middle` on an edge, `across` wide, into `way`. mm."""
    wx, wy = way
    points = []
    for k in range(pieces + 1):
        a = math.pi * k / pieces
        u, v = across / 2 * math.cos(a), across / 2 * math.sin(a)
        points.append((middle[0] + u * wy + v * wx, middle[1] - u * wx + v * wy))
    return tuple(Line("cut", "none", p, q) for p, q in pairwise(points))


def notched(panel: Panel, middle: Point, across: float, way: Point, pieces: int = 10) -> Panel:
    """A panel with the half circle of `notch` cut out of it in space too."""
    lines = notch(middle, across, way, pieces)
    ring = (*(line.start for line in lines), lines[-1].end)
    return replace(panel, window=ring if area(ring) > 0 else ring[::-1])


def face_mount(
    mount: str, label: str, instance: str, panel: Panel, side: Literal[-1, 1], caliper: float, up: Point = (0.0, 1.0),
    shape: tuple[float, float, float, float] | None = None, over: tuple[tuple[str, str], ...] = (),
) -> Mount:  # fmt: skip
    """A face of a panel as a place for guests; `shape` (x0, y0, x1, y1, mm) where not all of it is free, `over` what
    lies flush on it."""
    x0, y0, x1, y1 = shape or bounds(panel.outline)
    w, h = (x1 - x0, y1 - y0) if abs(up[1]) > 0.5 else (y1 - y0, x1 - x0)
    outline = rectangle(-w / 2, -h / 2, w / 2, h / 2)
    middle = ((x0 + x1) / 2, (y0 + y1) / 2)
    return Mount(mount, label, instance, panel.name, side, middle, up, outline, caliper / 2, over=over)


def fit_gap(
    s: Situation, use: Use, between: tuple[str, str], left: Span, want: tuple[float, float] | None = None
) -> Gap:
    """A gap inside one element."""
    return Gap(use, s.element, s.element, between, left.merged(), want=want)


def bulks(s: Situation, label: str, *mounts: str) -> tuple[Term, ...]:
    """A term for what is glued on these faces, if anything is."""
    total = sum(s.bulk_on(mount) for mount in mounts)
    return (Term(label, total),) if total else ()


SIZE_PARAMETERS = (
    Parameter("width", "Width", "length", "Left to right.", least=3.0),
    Parameter("height", "Height", "length", "Foot to head.", least=3.0),
)
