"""Building pieces: outlines, creases, merged lines, slits, holes; and faults put in on purpose are found."""

from __future__ import annotations

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace
from shapely import LineString, MultiPoint, Point, Polygon, box, unary_union

from yawning_lantern.pattern import Fold, Line, Panel, Slit, area, build_piece, rectangle
from yawning_lantern.pattern.build import _overlap, merge_lines, shared_edge
from yawning_lantern.pattern.convex import centroid, shared
from yawning_lantern.pattern.rounding import rounded_corners
from yawning_lantern.pattern.validity import faults
from yawning_lantern.stock import builtin_catalogue

PAPER = builtin_catalogue().paper("card-216")


def grid(columns: int, rows: int, size: float = 10.0) -> dict[tuple[int, int], Panel]:
    return {
        (c, r): Panel(f"{c}{r}", f"{c}{r}", rectangle(c * size, r * size, (c + 1) * size, (r + 1) * size))
        for c in range(columns)
        for r in range(rows)
    }


def test_maze_of_four_by_four_with_three_slits() -> None:
    # common practice, no source: the maze book, 12 × 12 at 3, 6, 9 both ways, three slits of three cells
    cells = grid(4, 4, 3 * 25.4)
    folds, slits = [], []
    for (c, r), panel in cells.items():
        for other, across in (((c + 1, r), True), ((c, r + 1), False)):
            if other not in cells:
                continue
            # three upright slits, each through three cells, from the foot and from the head in turn
            cut = across and ((c != 1 and r < 3) or (c == 1 and r > 0))
            (slits if cut else folds).append((panel.name, cells[other].name))
    piece = build_piece(
        "maze",
        "maze",
        PAPER,
        list(cells.values()),
        [Fold(a, b, math.pi) for a, b in folds],
        slits=[Slit(a, b) for a, b in slits],
    )
    assert faults(piece) == ()
    assert len(piece.outline) == 4 and piece.size == pytest.approx((304.8, 304.8))
    cuts = [ln for ln in piece.lines if ln.kind == "cut"]
    assert len(cuts) == 3 and all(math.dist(ln.start, ln.end) == pytest.approx(9 * 25.4) for ln in cuts)
    assert len(piece.creases) == 15 - 0 and len(cells) - 1 == len(piece.creases)  # the strip is a tree of folds


def test_scores_that_continue_each_other_are_one_line() -> None:
    cells = grid(3, 3)
    names = [("01", "11"), ("11", "21"), ("10", "11"), ("11", "12")]
    cross = [cells[c] for c in ((1, 1), (0, 1), (2, 1), (1, 0), (1, 2))]
    piece = build_piece("x", "x", PAPER, cross, [Fold(a, b, math.pi / 2) for a, b in names])
    assert len(piece.lines) == 4 and len(piece.outline) == 12
    row = build_piece(
        "r",
        "r",
        PAPER,
        list(cells.values()),
        [Fold(f"{c}{r}", f"{c}{r + 1}", math.pi / 2) for c in range(3) for r in range(2)],
        slits=[Slit(f"{c}{r}", f"{c + 1}{r}") for c in range(2) for r in range(3)],
    )
    assert sorted((ln.kind, round(math.dist(ln.start, ln.end))) for ln in row.lines) == [
        ("cut", 30),
        ("cut", 30),
        ("score", 30),
        ("score", 30),
    ]


def test_a_missing_cell_is_a_hole() -> None:
    cells = grid(3, 3)
    ring = [cells[c] for c in ((0, 0), (1, 0), (2, 0), (2, 1), (2, 2), (1, 2), (0, 2), (0, 1))]
    folds = [Fold(a.name, b.name, 1.0) for a, b in zip(ring, ring[1:] + ring[:1], strict=True)]
    piece = build_piece("ring", "ring", PAPER, ring, folds)
    assert len(piece.holes) == 1 and abs(area(piece.holes[0])) == pytest.approx(100.0)
    assert area(piece.outline) == pytest.approx(900.0) and faults(piece) == ()


@given(st.lists(st.tuples(st.integers(0, 3), st.integers(0, 3)), min_size=1, max_size=12, unique=True))
def test_outline_is_the_union_of_the_cells(chosen: list[tuple[int, int]]) -> None:
    # independent: shapely's union of the same cells
    cells = grid(4, 4)
    kept = {c: cells[c] for c in chosen}
    folds = [
        Fold(p.name, kept[o].name, 0.5)
        for c, p in kept.items()
        for o in ((c[0] + 1, c[1]), (c[0], c[1] + 1))
        if o in kept
    ]
    union = unary_union([Polygon(p.outline) for p in kept.values()])
    if union.geom_type != "Polygon" or not union.is_valid:
        return
    piece = build_piece("u", "u", PAPER, list(kept.values()), folds)
    got = Polygon(piece.outline, piece.holes)
    if got.is_valid:  # cells that touch at a corner alone can be traced two ways
        assert got.area == pytest.approx(union.area)
        assert got.symmetric_difference(union).area < 1e-6


def test_edges_shared_in_part() -> None:
    assert shared_edge(rectangle(0, 0, 10, 10), rectangle(10, 2, 15, 8)) == ((10, 2), (10, 8))
    assert shared_edge(rectangle(0, 0, 10, 10), rectangle(11, 0, 15, 8)) is None
    assert shared_edge(rectangle(0, 0, 10, 10), rectangle(10, 10, 15, 15)) is None  # a corner is no edge
    with pytest.raises(ValueError, match="share no edge"):
        build_piece(
            "x",
            "x",
            PAPER,
            [Panel("a", "a", rectangle(0, 0, 1, 1)), Panel("b", "b", rectangle(5, 0, 6, 1))],
            [Fold("a", "b", 1.0)],
        )


@given(st.floats(0, math.pi), st.lists(st.floats(0.5, 20), min_size=2, max_size=6))
def test_merging_keeps_length_and_direction(angle: float, steps: list[float]) -> None:
    c, s = math.cos(angle), math.sin(angle)
    at, lines = 0.0, []
    for step in steps:
        lines.append(Line("score", "valley", (at * c, at * s), ((at + step) * c, (at + step) * s)))
        at += step
    merged = merge_lines([*lines[::2], *lines[1::2]])
    assert len(merged) == 1
    assert math.dist(merged[0].start, merged[0].end) == pytest.approx(at, abs=1e-3)
    apart = merge_lines([lines[0], Line("cut", "none", lines[1].start, lines[1].end)])
    assert len(apart) == 2


def test_faults_put_in_are_found() -> None:
    base = Panel("a", "a", rectangle(0, 0, 10, 10))
    piece = build_piece("p", "p", PAPER, [base, Panel("b", "b", rectangle(10, 0, 20, 10))], [Fold("a", "b", 1.0)])
    assert faults(piece) == ()
    over = replace(piece, panels=(base, Panel("b", "b", rectangle(9.5, 0, 20, 10))))
    assert {f.code for f in faults(over)} == {"overlap", "area"}
    assert next(f for f in faults(over) if f.code == "overlap").amount == pytest.approx(5.0)
    short = replace(piece, panels=(base,))
    assert [f.code for f in faults(short)] == ["area"]
    off = replace(piece, lines=(Line("score", "valley", (0, 0), (0, 12)),))
    assert [f.code for f in faults(off)] == ["line-off-piece"]
    bow = replace(piece, outline=((0, 0), (20, 10), (20, 0), (0, 10)))
    assert [f.code for f in faults(bow)] == ["outline"]


def test_what_two_polygons_share_has_no_corner_twice() -> None:
    # an edge that runs along another's but for rounding: four corners, as shapely has after the same is rounded away
    one, other = rectangle(0.0, 0.0, 10.0, 5.0), ((0.0, 1e-14), (12.0, -1e-15), (12.0, 7.0), (-1e-15, 7.0))
    for a, b in ((one, other), (other, one), (one, one)):
        both = shared(a, b)
        assert len(both) == 4 and Polygon(both).symmetric_difference(box(0, 0, 10, 5)).area < 1e-9


@given(st.lists(st.tuples(st.floats(-50, 90), st.floats(-90, 50)), min_size=3, max_size=9))
def test_the_middle_of_a_polygon_is_what_a_library_finds(points: list[tuple[float, float]]) -> None:
    hull = MultiPoint(points).convex_hull
    if hull.area > 1.0:
        ring = tuple(hull.exterior.coords)[:-1]  # type: ignore[attr-defined]  # it has an area
        assert centroid(ring) == pytest.approx((hull.centroid.x, hull.centroid.y), abs=1e-6)


@given(*[st.integers(0, 12)] * 4, st.floats(0, 6.3))
def test_what_two_edges_share(a: int, b: int, c: int, d: int, turn: float) -> None:
    """Along a line at any angle, by shapely: of edges that run against one another the common stretch, the way of the
    first; of those that run the same way, or share a point at most, nothing."""
    ux, uy = math.cos(turn), math.sin(turn)
    one, other = (((p * ux + 3, p * uy - 2), (q * ux + 3, q * uy - 2)) for p, q in ((a, b), (c, d)))
    told = _overlap(one, other)
    low, high = max(min(a, b), min(c, d)), min(max(a, b), max(c, d))
    if a == b or high <= low or (b - a) * (d - c) >= 0:
        assert told is None
        return
    assert told is not None
    assert LineString(told).length == pytest.approx(high - low)
    assert (told[1][0] - told[0][0]) * (b - a) * ux + (told[1][1] - told[0][1]) * (b - a) * uy > 0
    assert all(LineString(edge).distance(Point(p)) < 1e-6 for edge in (one, other) for p in told)


def _rounded(radius: float, corners: int, wide: float = 60.0, high: float = 40.0) -> list[tuple[float, float]]:
    """A rectangle some of whose corners shapely has rounded off by an opening with a disc."""
    whole = box(0, 0, wide, high)
    arcs = whole.buffer(-radius).buffer(radius, quad_segs=6)
    plain = [box(x - 0.1, y - 0.1, x + radius, y + radius).intersection(whole) for x, y in (
        (0, 0), (wide - radius, 0), (wide - radius, high - radius), (0, high - radius))][corners:]  # fmt: skip
    return list(unary_union([arcs, *plain]).simplify(1e-6).exterior.coords)[:-1]


MIXED = (((0, 0, 30, 40), 3.0), ((20, 0, 60, 40), 6.0))
"""Two radii on one rectangle: what is rounded, and by how much."""


@pytest.mark.parametrize("corners", [0, 1, 2, 3, 4])
@pytest.mark.parametrize("radius", [2.0, 6.35, 19.0])
def test_rounded_corners_are_told_from_an_outline(corners: int, radius: float) -> None:
    told, by = rounded_corners(_rounded(radius, corners))
    assert (told, by) == ((corners, pytest.approx(radius, abs=0.02)) if corners else (0, 0.0))


@pytest.mark.parametrize(
    "outline",
    [
        list(Point(0, 0).buffer(20.0).exterior.coords)[:-1],  # a disc
        [(5.0, 0.0), (60.0, 0.0), (60.0, 40.0), (0.0, 40.0), (0.0, 5.0)],  # a corner that is cut off straight
        [(0.0, 0.0), (60.0, 0.0), (60.0, 40.0), (30.0, 25.0), (0.0, 40.0)],  # a notch
        [(0.0, 0.0), (60.0, 0.0), (50.0, 40.0), (10.0, 40.0)],
        list(box(0, 0, 30, 40).buffer(-3).buffer(3).union(box(20, 0, 60, 40).buffer(-6).buffer(6)).exterior.coords)[
            :-1
        ],
    ],
)
def test_what_has_no_rounded_corners_is_told_to_have_none(outline: list[tuple[float, float]]) -> None:
    assert rounded_corners(outline) == (0, 0.0)


@pytest.mark.parametrize("window", [(10, 10, 30, 90), (70, 5, 95, 55), (5, 60, 110, 95), (20, 8, 100, 30)])
def test_a_name_stands_beside_a_window_where_there_is_most_paper(window: tuple[float, float, float, float]) -> None:
    """Of the four strips beside it the one of the largest area, as shapely has it, and no window in it."""
    panel = Panel("p", "p", rectangle(5.0, 5.0, 115.0, 95.0), window=rectangle(*window))
    x0, y0, x1, y1 = window
    strips = [box(5, 5, 115, y0), box(5, y1, 115, 95), box(5, 5, x0, 95), box(x1, 5, 115, 95)]
    blank = box(*panel.blank)
    assert blank.area == pytest.approx(max(strip.area for strip in strips))
    assert blank.intersection(box(*window)).area == 0.0
