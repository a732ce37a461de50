"""A flat piece: what is cut from a sheet. It lies with x to the right, y up, mm, its front face up."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Literal

from msgspec import Struct
from msgspec.structs import replace

from yawning_lantern.stock import Paper

Point = tuple[float, float]


def area(polygon: Sequence[Point]) -> float:
    """Signed area in mm², positive counter-clockwise (the shoelace formula)."""
    total = 0.0
    x0, y0 = polygon[-1]
    for x1, y1 in polygon:
        total += x0 * y1 - x1 * y0
        x0, y0 = x1, y1
    return total / 2.0


def bounds(points: Sequence[Point]) -> tuple[float, float, float, float]:
    """Least x, least y, greatest x, greatest y, mm."""
    xs = [p[0] for p in points]
    ys = [p[1] for p in points]
    return min(xs), min(ys), max(xs), max(ys)


class Panel(Struct, frozen=True):
    """What lies between scores: a convex polygon, counter-clockwise, mm. `label` is what a maker calls it.

    `soft`: the paper bends there as its neighbours ask, as in the turned-in edge of a hinge; it has no body of its own.
    What is cut out of it is a `window`, or a notch where it reaches an edge: a convex polygon, counter-clockwise, mm.
    """

    name: str
    label: str
    outline: tuple[Point, ...]
    soft: bool = False
    window: tuple[Point, ...] = ()

    @property
    def blank(self) -> tuple[float, float, float, float]:
        """Where its name can stand: least x, least y, greatest x, greatest y, mm; beside a window the largest strip."""
        x0, y0, x1, y1 = bounds(self.outline)
        if not self.window:
            return x0, y0, x1, y1
        a, b, c, d = bounds(self.window)
        strips = ((x0, y0, x1, b), (x0, d, x1, y1), (x0, y0, a, y1), (c, y0, x1, y1))
        return max(strips, key=lambda strip: (strip[2] - strip[0]) * (strip[3] - strip[1]))

    def moved(self, at: Callable[[Point], Point]) -> Panel:
        """The panel with every point elsewhere."""
        return replace(self, outline=tuple(map(at, self.outline)), window=tuple(map(at, self.window)))

    @property
    def centre(self) -> Point:
        """Mean of the corners, mm."""
        n = len(self.outline)
        return sum(p[0] for p in self.outline) / n, sum(p[1] for p in self.outline) / n


class Crease(Struct, frozen=True):
    """A score that folds between panels `a` and `b`, from `start` to `end`, mm.

    `angle` is what it is folded to when the thing is shut, radians: 0 flat, positive valley (front faces meet),
    negative mountain. `wrap` is the bulk that the fold goes around, mm. `settle` is how far the fold moves into `a`
    because a joint pulls it inside another sheet, mm: the paper gives that much. A `strip` is a fold around layers of
    its own sheet that turns about a line at half their height; others bend evenly.
    """

    name: str
    a: str
    b: str
    start: Point
    end: Point
    angle: float
    wrap: float = 0.0
    settle: float = 0.0
    strip: bool = False


class Line(Struct, frozen=True):
    """A straight segment on a piece that is cut, scored or only marked. `fold` is seen from the front face."""

    kind: Literal["cut", "score", "mark"]
    fold: Literal["mountain", "valley", "none"]
    start: Point
    end: Point


class ScoreFlag(Struct, frozen=True):
    """A score that reads `at` mm from the fence along `axis`, and the parameter that moves it.

    `slope` is d(at) / d(parameter): what the score moves when the parameter grows by one.
    """

    axis: Literal["x", "y"]
    at: float
    parameter: str
    slope: float


class Piece(Struct, frozen=True):
    """One thing to cut. `outline` and `holes` are what the knife follows; `lines` lie inside them.

    `bought`: it is ready-made (an envelope, a card, a ribbon): on the shopping list, not among what is cut. `way` tells
    how far the up side of the sheet is turned from the piece's, in quarter turns to the left, seen from the front. A
    decorative `edge` takes so much off every side of what is cut first, mm: the blank is that much larger.
    """

    id: str
    name: str
    stock: Paper
    outline: tuple[Point, ...]
    panels: tuple[Panel, ...]
    creases: tuple[Crease, ...] = ()
    lines: tuple[Line, ...] = ()
    holes: tuple[tuple[Point, ...], ...] = ()
    flags: tuple[ScoreFlag, ...] = ()
    quantity: int = 1
    note: str = ""
    bought: bool = False
    way: int = 0
    edge: float = 0.0

    @property
    def size(self) -> tuple[float, float]:
        """Width (x) and height (y) of the piece, mm."""
        x0, y0, x1, y1 = bounds(self.outline)
        return x1 - x0, y1 - y0

    @property
    def blank(self) -> tuple[float, float]:
        """Width and height of what is cut from the sheet, mm."""
        w, h = self.size
        return w + 2 * self.edge, h + 2 * self.edge

    @property
    def laid(self) -> Piece:
        """The piece as it lies against the fence: moved so that its extent begins at 0, 0.

        Families draw where it suits them; everything that is listed, printed or read off a fence is this one.
        """
        x0, y0, _, _ = bounds(self.outline)
        if abs(x0) < 1e-9 and abs(y0) < 1e-9:
            return self

        def at(p: Point) -> Point:
            return p[0] - x0, p[1] - y0

        return replace(
            self,
            outline=tuple(map(at, self.outline)),
            holes=tuple(tuple(map(at, hole)) for hole in self.holes),
            panels=tuple(panel.moved(at) for panel in self.panels),
            creases=tuple(replace(c, start=at(c.start), end=at(c.end)) for c in self.creases),
            lines=tuple(replace(line, start=at(line.start), end=at(line.end)) for line in self.lines),
            flags=tuple(replace(f, at=f.at - (x0 if f.axis == "x" else y0)) for f in self.flags),
        )

    def panel(self, name: str) -> Panel:
        """The panel of that name. Raises KeyError: a family names its own panels."""
        for panel in self.panels:
            if panel.name == name:
                return panel
        raise KeyError(name)
