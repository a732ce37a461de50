"""One stream of shapes for paper, PDF and screen: strokes and texts on a page, mm from its lower left."""

from __future__ import annotations

from typing import Literal

from msgspec import Struct

from yawning_lantern.pattern import Point

MARGIN = 8.0
"""What is kept free of every page's edge, mm."""
FOOT = 16.0
"""Height kept for the scale bars and the page's title, mm."""
Pen = Literal["cut", "valley", "mountain", "mark", "guide", "join", "glue", "print"]
DASHES: dict[Pen, tuple[float, ...]] = {
    "cut": (),
    "valley": (3.0, 1.5),
    "mountain": (4.0, 1.2, 0.8, 1.2),
    "mark": (0.8, 1.2),
    "guide": (),
    "join": (),
    "glue": (),
    "print": (),
}
"""Dash pattern of each pen, mm: on, off, …"""
WIDTHS: dict[Pen, float] = {
    "cut": 0.35,
    "valley": 0.25,
    "mountain": 0.25,
    "mark": 0.2,
    "guide": 0.2,
    "join": 0.15,
    "glue": 0.08,
    "print": 0.1,
}
"""Width of each pen, mm."""
GREY: dict[Pen, float] = {"print": 0.72}
"""How light a pen is that is not black: 0 black, 1 white."""


class Stroke(Struct, frozen=True):
    """A straight line, mm."""

    pen: Pen
    start: Point
    end: Point


class Label(Struct, frozen=True):
    """A text with its baseline's left, middle or right end at a place, mm; `size` in mm."""

    at: Point
    text: str
    size: float
    anchor: Literal["left", "middle", "right"] = "left"
    bold: bool = False


class Page(Struct, frozen=True):
    """One page of paper, mm."""

    width: float
    height: float
    title: str
    shapes: tuple[Stroke | Label, ...]


def clipped(start: Point, end: Point, box: tuple[float, float, float, float]) -> tuple[Point, Point] | None:
    """The part of a line within a box (least x, least y, greatest x, greatest y), or None. Liang and Barsky (1984)."""
    x0, y0 = start
    dx, dy = end[0] - x0, end[1] - y0
    lo, hi = 0.0, 1.0
    for p, q in ((-dx, x0 - box[0]), (dx, box[2] - x0), (-dy, y0 - box[1]), (dy, box[3] - y0)):
        if abs(p) < 1e-12:
            if q < 0:
                return None
            continue
        r = q / p
        if p < 0:
            lo = max(lo, r)
        else:
            hi = min(hi, r)
    if lo > hi:
        return None
    return (x0 + lo * dx, y0 + lo * dy), (x0 + hi * dx, y0 + hi * dy)
