"""What a piece's outline leaves of the rectangle it is cut from: corners, windows, wedges, as rectangles to keep."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache
from itertools import pairwise

from yawning_lantern.pattern import Piece, Point

LEAST = 25.4
"""A narrower one is not kept, mm. Common practice, no source."""
_MOST = 14  # places along a side that are tried
Box = tuple[float, float, float, float]


def spare_of(piece: Piece, way: int, turned: bool) -> tuple[Box, ...]:
    """The largest rectangle of everything that is cut away from a piece's rectangle, as far as it is worth keeping: x,
    y, width, height from the lower left of the piece as it lies on its sheet, mm.

    The piece is turned to the right by `way` quarters (its pattern's up side then points up); where only the grain
    turns it, by one to the left.
    """
    laid = piece.laid
    w, h = laid.size
    boxes = _spare(laid.outline, laid.holes)
    quarters = (-way) % 4 if way or not turned else 1
    for _ in range(quarters):  # to the left: (x, y) goes to (h - y, x)
        boxes = tuple((h - y - high, x, high, wide) for x, y, wide, high in boxes)
        w, h = h, w
    return boxes


@lru_cache(maxsize=512)
def _spare(outline: tuple[Point, ...], holes: tuple[tuple[Point, ...], ...]) -> tuple[Box, ...]:
    from shapely.geometry import Polygon, box

    shape = Polygon(outline)
    x0, y0, x1, y1 = shape.bounds
    rest = [Polygon(hole) for hole in holes]
    if shape.area < (x1 - x0) * (y1 - y0) - LEAST**2:
        gone = box(x0, y0, x1, y1).difference(shape)
        rest += [part for part in getattr(gone, "geoms", [gone]) if part.area > LEAST**2]
    largest = (_largest(part) for part in rest)
    return tuple(sorted(one for one in largest if min(one[2:]) >= LEAST - 1e-6))


def _largest(part: object) -> Box:
    """The largest level rectangle in a polygon with its sides at corners of it or halfway between two."""
    from shapely.geometry import Polygon, box
    from shapely.prepared import prep

    assert isinstance(part, Polygon)
    inside = prep(part.buffer(1e-6))
    xs, ys = (_places([p[k] for p in part.exterior.coords]) for k in (0, 1))
    best: Box = (0.0, 0.0, 0.0, 0.0)
    for i, xa in enumerate(xs):
        for xb in xs[i + 1 :]:
            for j, ya in enumerate(ys):
                for yb in ys[j + 1 :]:
                    if (xb - xa) * (yb - ya) > best[2] * best[3] + 1e-6 and inside.contains(box(xa, ya, xb, yb)):
                        best = (xa, ya, xb - xa, yb - ya)
    return best


def _places(values: Sequence[float]) -> list[float]:
    """Where sides are tried: at the values and halfway between, or of many at some of them."""
    own = sorted({round(v, 6) for v in values})
    if len(own) * 2 > _MOST:
        return own[:: -(-len(own) // _MOST)]
    return sorted({*own, *((a + b) / 2 for a, b in pairwise(own))})
