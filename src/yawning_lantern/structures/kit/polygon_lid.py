"""Lids over boxes of other than four walls: a regular top with a rim on every side, each rim's tab inside the next."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence

from yawning_lantern.assembly import Gap, Instance, Joint, Mount, Part, Root, Side, Term, span
from yawning_lantern.measure import inches
from yawning_lantern.pattern import Fold, Panel, Piece, Point, bounds, build_piece
from yawning_lantern.structures.kit.declare import Situation, Sized, Sizes
from yawning_lantern.structures.kit.regular import Regular, half_flat, moved
from yawning_lantern.structures.kit.shell import MITRE, lever_term
from yawning_lantern.structures.kit.solving import sheet_gap, up_to_cut, worked_out

TAB = inches(1 / 2)
"""A tab, mm. Common practice, no source."""


def top_side(s: Situation, sides: int, sizes: Mapping[str, Sized], play: float) -> Sized:
    """Side of the top: as much larger as puts opposite rims apart by sheets, bulk, tabs and play. mm."""
    t = s.paper.caliper
    apart = sizes["over-caliper"].length + t + 2 * sizes["over-bulk"].length + 2 * (t + s.glue) + play
    over = sizes["over-width"]
    exact = over.length + apart * math.tan(math.pi / sides)
    # a side on the trimmer's grid would make a lid of many sides loose: what is on the grid is the way across
    flat = 2 * half_flat(sides)
    across = up_to_cut(s, exact * flat, "auto").length
    return Sized(across / flat, worked_out(over), exact)


def rim_sides(s: Situation, sides: int, sizes: Sizes) -> tuple[Side, ...]:
    """The inside of every rim, tabs taken off."""
    t, half = s.paper.caliper, half_flat(sides)
    reach = span("lid top", sizes["top-width"].length * half, s.element, "top-width", half).plus(
        Term("half the lid's sheet", -t / 2), Term("tabs inside the lid", -t - s.glue)
    )
    return tuple(Side(f"rim {k + 1}", 2 * math.pi * k / sides, reach) for k in range(sides))


def _turned(points: list[Point], angle: float) -> tuple[Point, ...]:
    c, q = math.cos(angle), math.sin(angle)
    return tuple((c * v - q * u, q * v + c * u) for u, v in points)


def _star(sides: int, side: float, rim: float) -> tuple[list[Panel], Point]:
    """Rims and tabs about the top, top in their middle; and where that middle is."""
    polygon = Regular(sides, side)
    apothem, wedge = polygon.apothem, polygon.turn
    bevel = min(MITRE, rim / 6)
    tab = min(TAB, side * 0.45)
    if wedge < math.pi / 2:
        tab = min(tab, (rim / 2 - bevel) * math.tan(wedge))  # it stays clear of the next rim
    low = tab / math.tan(wedge) + bevel if wedge < math.pi / 2 else bevel
    panels: list[Panel] = []
    top: list[Point] = []
    for k in range(sides):
        a = wedge * k
        h = side / 2
        rim_shape = _turned([(-h, apothem), (-h, apothem + rim), (h, apothem + rim), (h, apothem)], a)
        tab_shape = _turned(
            [
                (h, apothem),
                (h, apothem + rim),
                (h + tab, apothem + rim - bevel),
                (h + tab, apothem + low),
            ],
            a,
        )
        top.append(rim_shape[0])
        panels.append(Panel(f"wall-{k + 1}", f"rim {k + 1}", rim_shape))
        panels.append(Panel(f"tab-{k + 1}", f"tab {k + 1}", tab_shape))
    return moved([Panel("top", "top", tuple(top)), *panels])


def _size(panels: Sequence[Panel]) -> tuple[float, float]:
    x0, y0, x1, y1 = bounds([p for panel in panels for p in panel.outline])
    return x1 - x0, y1 - y0


def _piece(s: Situation, sides: int, side: float, rim: float) -> tuple[Piece, Point]:
    """The star and where its middle is."""
    wedge = Regular(sides, side).turn
    panels, middle = _star(sides, side, rim)
    folds = [Fold("top", f"wall-{k + 1}", -math.pi / 2) for k in range(sides)]
    folds += [
        Fold(f"wall-{k + 1}", f"tab-{k + 1}", -wedge, settle=(s.paper.caliper + s.glue) / math.sin(wedge))
        for k in range(sides)
    ]
    piece = build_piece(
        f"{s.element}.lid", s.name, s.paper, panels, folds,
        note="Cut between the rims, mitre the tabs, glue each inside the next rim.",
    )  # fmt: skip
    return piece, middle


def build_polygon_lid(s: Situation, sides: int, sizes: Sizes, extra: list[Gap]) -> Part:
    """The lid, the outside of its top up."""
    e, t = s.element, s.paper.caliper
    side, rim = sizes["top-width"].length, sizes["rim"].length
    piece, middle = _piece(s, sides, side, rim)
    square = Regular(sides, side).square
    outline = ((-square, -square), (square, -square), (square, square), (-square, square))
    up = (0.0, 1.0)
    mounts = (
        Mount("top", "top, outside", "lid", "top", 1, middle, up, outline, t / 2),
        Mount("ceiling", "top, inside", "lid", "top", -1, middle, up, outline, t / 2),
    )
    spread = 2 * half_flat(sides)
    more_top, more_rim = (_size(_star(sides, *one)[0]) for one in ((side + 1.0, rim), (side, rim + 1.0)))
    terms = tuple(
        (
            lever_term("top", side * spread, e, "top-width", by_top - size),
            lever_term("rims", size - side * spread, e, "rim", by_rim - size),
        )
        for size, by_top, by_rim in zip(piece.size, more_top, more_rim, strict=True)
    )
    gaps = (sheet_gap(e, s.name, s.paper, piece.size, terms), *extra)
    return Part(
        e,
        s.name,
        (piece,),
        (Instance("lid", piece.id, Root("top", middle)),),
        mounts,
        gaps=gaps,
        joints=tuple(Joint(("lid", f"tab-{k + 1}"), ("lid", f"wall-{(k + 1) % sides + 1}")) for k in range(sides)),
    )
