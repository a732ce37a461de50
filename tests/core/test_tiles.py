"""Tiles laid on each other by their join marks give every line of the piece back, whole and in its place."""

from __future__ import annotations

import math
import re
from importlib.resources import files

import pytest
from shapely import LineString, unary_union

from yawning_lantern.exchange.design_file import from_bytes
from yawning_lantern.exchange.pages import FOOT, MARGIN, OVERLAP, PAPERS, piece_shapes, template_pages
from yawning_lantern.exchange.shapes import Label, Page, Stroke, clipped
from yawning_lantern.study import Study

from ..conftest import designed


def placed_tiles(study: Study, paper: str) -> list[tuple[int, int, tuple[float, float], Page]]:
    """Every tile: its row and column, where its lower left is on its page (of one that shares a page: its left, and
    what is above it, as a negative number), and the page."""
    found = []
    for page in template_pages(study, paper, "in"):
        told = re.fullmatch(r".* · tile ([A-Z])(\d) of [^,]*", page.title)
        if told and "," not in page.title:
            labels = [s for s in page.shapes if isinstance(s, Label) and s.bold and " · tile " in s.text]
            if not labels:
                found.append((ord(told[1]) - 65, int(told[2]) - 1, (MARGIN, MARGIN + FOOT), page))
                continue
        for shape in page.shapes:
            if isinstance(shape, Label) and shape.bold and (here := re.search(r" · tile ([A-Z])(\d) of", shape.text)):
                top = shape.at[1] - 1.5  # its title stands so far above it
                found.append((ord(here[1]) - 65, int(here[2]) - 1, (shape.at[0], -top), page))
    return found


def test_no_page_holds_what_another_has_room_for() -> None:
    # the demo set took 23 pages of pieces when every tile had a page of its own
    demo = files("yawning_lantern").joinpath("examples/comet-night-set.lantern").read_bytes()
    pages = template_pages(Study(from_bytes(demo)), "letter", "in")
    pieces = [page for page in pages if not re.search(r": (pieces|fits)$", page.title)]
    assert len(pieces) <= 19


@pytest.mark.parametrize("paper", ["letter", "a4"])
@pytest.mark.parametrize(("base", "wall"), [(4.0, 4.0), (2.0, 4.5), (6.0, 2.0)])
def test_laid_together_they_are_the_piece(paper: str, base: float, wall: float) -> None:
    study = Study(designed("explosion-box", base=base, wall=wall, piecing="one"))
    piece = study.pieces[0]
    width, height = PAPERS[paper][0] - 2 * MARGIN, PAPERS[paper][1] - 2 * MARGIN - FOOT
    found: dict[str, list[LineString]] = {}
    tiles = placed_tiles(study, paper)
    across = max(column for _, column, _, _ in tiles) + 1
    for row, column, left, page in tiles:
        step = width - OVERLAP, height - OVERLAP
        size = min(width, piece.size[0] - column * step[0]), min(height, piece.size[1] - row * step[1])
        dx, dy = column * step[0] - left[0], row * step[1] - (left[1] if left[1] >= 0 else -left[1] - size[1])
        low = column * step[0], row * step[1]
        for shape in page.shapes:
            if isinstance(shape, Stroke) and shape.pen in ("cut", "valley", "mountain"):
                if min(shape.start[1], shape.end[1]) < MARGIN + FOOT - 1e-6:
                    continue  # the legend at the foot
                ends = [(x + dx, y + dy) for x, y in (shape.start, shape.end)]
                within = all(low[k] - 1e-6 <= end[k] <= low[k] + size[k] + 1e-6 for end in ends for k in (0, 1))
                if within and math.dist(*ends) > 1e-6:
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
