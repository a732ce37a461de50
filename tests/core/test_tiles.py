"""Tiles laid on each other by their join marks give every line of the piece back, whole and in its place."""

from __future__ import annotations

import math

import pytest
from shapely import LineString, unary_union

from yawning_lantern.exchange.pages import FOOT, MARGIN, OVERLAP, PAPERS, piece_shapes, template_pages
from yawning_lantern.exchange.shapes import Stroke, clipped
from yawning_lantern.study import Study

from ..conftest import designed


@pytest.mark.parametrize("paper", ["letter", "a4"])
@pytest.mark.parametrize(("base", "wall"), [(4.0, 4.0), (2.0, 4.5), (6.0, 2.0)])
def test_laid_together_they_are_the_piece(paper: str, base: float, wall: float) -> None:
    study = Study(designed("explosion-box", base=base, wall=wall, piecing="one"))
    piece = study.pieces[0]
    width, height = PAPERS[paper][0] - 2 * MARGIN, PAPERS[paper][1] - 2 * MARGIN - FOOT
    found: dict[str, list[LineString]] = {}
    tiles = [p for p in template_pages(study, paper, "in") if "tile" in p.title]
    across = max(int(p.title.split(" tile ")[1].split(" of ")[0][1:]) for p in tiles)
    for page in tiles:
        name = page.title.split(" tile ")[1].split(" of ")[0]
        row, column = ord(name[0]) - 65, int(name[1:]) - 1
        dx = column * (width - OVERLAP) - MARGIN
        dy = row * (height - OVERLAP) - MARGIN - FOOT
        for shape in page.shapes:
            if isinstance(shape, Stroke) and shape.pen in ("cut", "valley", "mountain"):
                if min(shape.start[1], shape.end[1]) < MARGIN + FOOT - 1e-6:
                    continue  # the legend at the foot
                ends = [(x + dx, y + dy) for x, y in (shape.start, shape.end)]
                if math.dist(*ends) > 1e-6:
                    found.setdefault(shape.pen, []).append(LineString(ends))
    assert across >= 1 and len(tiles) > 1
    wanted: dict[str, list[LineString]] = {}
    for shape in piece_shapes(piece, "in"):
        if isinstance(shape, Stroke):
            wanted.setdefault(shape.pen, []).append(LineString([shape.start, shape.end]))
    assert set(found) == set(wanted)
    for pen, lines in wanted.items():
        got, want = unary_union(found[pen]), unary_union(lines)
        assert got.length == pytest.approx(want.length, abs=0.01)
        assert got.hausdorff_distance(want) < 0.01  # mm


@pytest.mark.parametrize(
    ("start", "end", "want"),
    [
        ((-5, 5), (15, 5), ((0, 5), (10, 5))),
        ((5, 5), (5, 5.5), ((5, 5), (5, 5.5))),
        ((-5, -5), (15, 15), ((0, 0), (10, 10))),
        ((-5, 11), (15, 11), None),
        ((12, 0), (12, 9), None),
        ((-4, 4), (4, -4), ((0, 0), (0, 0))),
        ((0, 0), (10, 0), ((0, 0), (10, 0))),
    ],
)
def test_clipping(start: tuple[float, float], end: tuple[float, float], want: object) -> None:
    # worked by hand on a box of 10 × 10; the method is Liang and Barsky's (1984)
    got = clipped(start, end, (0, 0, 10, 10))
    if want is None:
        assert got is None
    else:
        assert got is not None
        assert [c for p in got for c in p] == pytest.approx([c for p in want for c in p])  # type: ignore[attr-defined]  # points of a row
