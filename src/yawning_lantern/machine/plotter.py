"""A simulated cutting machine: it reads a plotter file, moves its carriage, drags its knife, and tells what would go
wrong. It stands for a machine of the usual kind and is none in particular.

Commands (HPGL, from memory): IN begins, SP takes a tool, PU and PD raise and lower it and go to places, PA and PR tell
places from the bed's corner or from where it is, PG takes the next sheet. A unit is a fortieth of a millimetre.
"""

from __future__ import annotations

import math
import re
from collections.abc import Iterator, Sequence
from itertools import pairwise
from typing import Any, Literal

from msgspec import Struct, field

from yawning_lantern.errors import LanternError
from yawning_lantern.on_use import load
from yawning_lantern.pattern import Point

UNIT = 40.0
"""Steps a millimetre."""
STILL = 1e-6  # radians: the head turns by less without being lifted
STEP = 0.05
"""How finely the trailing of the knife is followed, mm."""
FREE = 0.15
"""What a stroke may go beyond bed or piece without being told, mm."""
TWICE = 1.0
"""Two cuts may share so much of their way, mm: a closed cut goes on over its beginning."""
NEAR = 0.06  # mm: cuts nearer than this are one cut
_COMMAND = re.compile(r"\s*([A-Za-z]{2})([^A-Za-z;]*);?")


class Plotter(Struct, frozen=True):
    """A bed in mm, and its tools by number: the pen that marks, the stylus that scores, the blade that cuts and trails
    by `offset` mm."""

    width: float = 330.0
    height: float = 330.0
    pen: int = 1
    stylus: int = 2
    blade: int = 3
    offset: float = 0.25


class Stroke(Struct, frozen=True):
    """One stroke of a tool, on which sheet: where its tip went, mm."""

    tool: int
    tip: tuple[Point, ...]
    sheet: int = 0


class Fault(Struct, frozen=True):
    """What would go wrong: of which kind, in which stroke, in words."""

    kind: Literal["outside", "order", "doubled"]
    stroke: int
    words: str


class Report(Struct, frozen=True):
    """What a file did: every stroke in order, and the faults."""

    plotter: Plotter
    strokes: tuple[Stroke, ...]
    faults: tuple[Fault, ...] = field(default=())


class PlotterError(LanternError):
    """A plotter file that cannot be read."""


def run(text: str, plotter: Plotter | None = None) -> Report:
    """Run a plotter file on the machine.

    Raises:
        PlotterError: it has a command or a number that the machine does not know.
    """
    machine = plotter or Plotter()
    strokes = tuple(_strokes(text, machine))
    return Report(machine, strokes, tuple(_faults(strokes, machine)))


def _strokes(text: str, machine: Plotter) -> Iterator[Stroke]:
    at, tool, sheet, is_down, is_relative = (0.0, 0.0), 0, 0, False, False
    knife = _Knife(machine.offset)
    way: list[Point] = []
    place = 0

    def lifted() -> Stroke | None:
        nonlocal way
        carriage, way = way, []
        if len(carriage) < 2 or tool == 0:
            return None
        tip = knife.drag(carriage) if tool == machine.blade else tuple(carriage)
        return Stroke(tool, tip, sheet)

    while place < len(text.rstrip()):
        match = _COMMAND.match(text, place)
        if match is None:
            raise PlotterError(f"“{text[place : place + 12]}” is no command.", f"character {place + 1}")
        place = match.end()
        name, values = match[1].upper(), _numbers(match[2])
        if name in ("SP", "PG", "IN", "PU") and way:
            stroke = lifted()
            if stroke is not None:
                yield stroke
        if name == "SP":
            tool = int(values[0]) if values else 0
        elif name == "PG":
            sheet += 1
        elif name == "IN":
            at, is_down, is_relative = (0.0, 0.0), False, False
            knife = _Knife(machine.offset)
        elif name in ("PA", "PR", "PU", "PD"):
            is_relative = {"PA": False, "PR": True}.get(name, is_relative)
            if name in ("PU", "PD"):
                is_down = name == "PD"
            if is_down and not way:
                way = [at]
            for x, y in zip(values[::2], values[1::2], strict=False):
                at = (at[0] + x / UNIT, at[1] + y / UNIT) if is_relative else (x / UNIT, y / UNIT)
                if is_down:
                    way.append(at)
        elif name not in ("VS", "FS", "LT", "DF"):
            raise PlotterError(
                f"The machine does not know “{name}”.", f"character {place}", "It reads IN SP PU PD PA PR PG."
            )
    stroke = lifted()
    if stroke is not None:
        yield stroke


def _numbers(text: str) -> list[float]:
    try:
        return [float(word) for word in text.replace(",", " ").split()]
    except ValueError:
        raise PlotterError(f"“{text}” holds no numbers.") from None


class _Knife:
    """A tip that trails behind the carriage; it keeps its way while it is lifted, and looks to the right at first."""

    def __init__(self, offset: float) -> None:
        self.offset, self.heading = offset, 0.0

    def drag(self, carriage: Sequence[Point]) -> tuple[Point, ...]:
        """Where the tip goes, pulled along in small steps (pursuit)."""
        if self.offset <= 0:
            return tuple(carriage)
        x, y = carriage[0]
        tip = x - self.offset * math.cos(self.heading), y - self.offset * math.sin(self.heading)
        points = [tip]
        for a, b in pairwise(carriage):
            count = max(1, math.ceil(math.dist(a, b) / STEP))
            for k in range(1, count + 1):
                cx, cy = a[0] + (b[0] - a[0]) * k / count, a[1] + (b[1] - a[1]) * k / count
                far = math.dist((cx, cy), tip)
                if far < 1e-9:
                    continue
                before, self.heading = self.heading, math.atan2(cy - tip[1], cx - tip[0])
                tip = cx - self.offset * math.cos(self.heading), cy - self.offset * math.sin(self.heading)
                if len(points) > 1 and abs(self.heading - before) < STILL:
                    points[-1] = tip  # straight on
                else:
                    points.append(tip)
        return tuple(points)


def _faults(strokes: Sequence[Stroke], machine: Plotter) -> Iterator[Fault]:
    names = {machine.pen: "mark", machine.stylus: "score", machine.blade: "cut"}
    for k, stroke in enumerate(strokes):
        far = [
            p
            for p in stroke.tip
            if not (-FREE <= p[0] <= machine.width + FREE and -FREE <= p[1] <= machine.height + FREE)
        ]
        if far:
            x, y = far[0]
            yield Fault("outside", k, f"A {names.get(stroke.tool, 'stroke')} leaves the bed at {x:.1f}, {y:.1f} mm.")
    for sheet in sorted({stroke.sheet for stroke in strokes}):
        own = [k for k, stroke in enumerate(strokes) if stroke.sheet == sheet]
        yield from _doubled(strokes, [k for k in own if strokes[k].tool == machine.blade])
        yield from _too_late(strokes, own, machine)


def _line(stroke: Stroke) -> Any:
    return load("shapely").LineString(stroke.tip).simplify(0.01, preserve_topology=False)


def _doubled(strokes: Sequence[Stroke], cuts: Sequence[int]) -> Iterator[Fault]:
    """Cuts that go over what is cut already."""
    shapely = load("shapely")
    lines = [_line(strokes[k]) for k in cuts]
    tree = shapely.STRtree(lines)
    wide = [line.buffer(NEAR / 2, cap_style="flat") for line in lines]
    for i, line in enumerate(lines):
        for j in sorted(int(j) for j in tree.query(wide[i])):
            if j < i and (shared := line.intersection(wide[j]).length) > TWICE:
                yield Fault("doubled", cuts[i], f"A cut goes over {shared:.1f} mm of one that was made before.")
                break


def _too_late(strokes: Sequence[Stroke], own: Sequence[int], machine: Plotter) -> Iterator[Fault]:
    """Strokes within a piece that is cut loose already."""
    shapely = load("shapely")
    ops = load("shapely.ops")
    cuts = [k for k in own if strokes[k].tool == machine.blade]
    lines = {k: _line(strokes[k]) for k in own}
    if not cuts:
        return
    faces = [
        face for face in ops.polygonize(shapely.unary_union([_snapped(lines[k]) for k in cuts])) if face.area > 4.0
    ]
    for face in faces:
        rim = face.boundary.buffer(NEAR)
        loose = max((k for k in cuts if lines[k].intersection(rim).length > 4 * NEAR), default=-1)
        inner = face.buffer(-2 * NEAR)
        for k in own:
            if k > loose >= 0 and lines[k].intersection(inner).length > TWICE:
                yield Fault("order", k, "A line is made in a piece that is cut loose already.")


def _snapped(line: Any) -> Any:
    """A line on a grid of a hundredth of a millimetre, so that ends that meet are one."""
    return load("shapely").set_precision(line, 0.02)
