"""Pieces moved and locked by hand, pieces that lie as their pattern asks, corners kept: all replayed with a ruler."""

from __future__ import annotations

from collections import Counter

import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st
from shapely import affinity
from shapely.geometry import Polygon, box

from yawning_lantern.design import Lay, set_lay, set_stock
from yawning_lantern.errors import ParameterError
from yawning_lantern.pattern import Panel, Piece
from yawning_lantern.sheets import Board, Effort, Held, Move, Plan, Rectangle, Trimmer, moved, plan_sheets
from yawning_lantern.structures import families, start_design
from yawning_lantern.study import Study
from yawning_lantern.study.spare import LEAST, spare_of
from yawning_lantern.study.wanted import boards_of, lying, wanted

from .test_sheets import eighths, named, replay, some_rectangles

BOARDS = [Board(f"sheet {s}", s, 304.8, 215.9) for s in "ab"]
LITTLE = Effort(20, 20.0, 0.0)


def fitting(rows: list[tuple[float, float, int, bool, str]]) -> list[Rectangle]:
    found = named(rows)
    for r in found:
        assume((r.width <= 304.8 and r.height <= 215.9) or (r.may_turn and r.height <= 304.8 and r.width <= 215.9))
    return found


@given(some_rectangles, st.sampled_from((0.0, 0.4, 3.175)), st.data())
@settings(max_examples=60)
def test_a_piece_that_is_moved_lies_there_and_all_can_still_be_cut(
    rows: list[tuple[float, float, int, bool, str]], kerf: float, data: st.DataObject
) -> None:
    rectangles, trimmer = fitting(rows), Trimmer(None, kerf)
    plan = plan_sheets(rectangles, BOARDS, trimmer, LITTLE)
    sheet = data.draw(st.integers(0, len(plan.sheets) - 1))
    rank = data.draw(st.integers(0, len(plan.sheets[sheet].placed) - 1))
    to = data.draw(st.integers(0, len(plan.sheets) - 1))
    spot = data.draw(st.floats(0, 304)), data.draw(st.floats(0, 215))
    piece = plan.sheets[sheet].placed[rank]
    try:
        after = moved(rectangles, BOARDS, plan, Move(sheet, rank, to, *spot), trimmer)
    except ParameterError as error:
        assert "another paper" in error.what or "does not fit" in error.what
        return
    replay(after, rectangles, trimmer)
    assert after.bound == plan.bound <= after.count
    landed = [p for s in after.sheets for p in s.placed if p.piece == piece.piece]
    part = [s for s in after.sheets if s.board.stock == plan.sheets[sheet].board.stock]
    assert landed and len(part) >= 1
    # what was on other sheets than these two is where it was
    for k, before in enumerate(plan.sheets):
        if k not in (sheet, to):
            where = {(p.piece, round(p.x, 3), round(p.y, 3)) for p in before.placed}
            assert any(where <= {(p.piece, round(p.x, 3), round(p.y, 3)) for p in s.placed} for s in after.sheets)


def test_a_worked_move() -> None:
    # two squares of 100 on a sheet of 200 × 100 and one on a second: the third takes the place of the first, which
    # finds room on the second sheet
    rectangles = [Rectangle("a", 100, 100), Rectangle("b", 100, 100), Rectangle("c", 100, 60)]
    boards = [Board("sheet", "", 200.0, 100.0)]
    plan = plan_sheets(rectangles, boards, effort=LITTLE)
    assert plan.count == 2
    k = next(k for k, s in enumerate(plan.sheets) if any(p.piece == "c" for p in s.placed))
    rank = next(n for n, p in enumerate(plan.sheets[k].placed) if p.piece == "c")
    other = 1 - k
    after = moved(rectangles, boards, plan, Move(k, rank, other, 10.0, 10.0))
    lies = next(p for s in after.sheets for p in s.placed if p.piece == "c")
    assert (lies.x, lies.y) == (0.0, 0.0) and after.count == 2
    replay(after, rectangles, Trimmer())
    held = [Held(s, frozenset(n for n, p in enumerate(s.placed) if p.piece == "c")) for s in after.sheets]
    again = plan_sheets(rectangles, boards, effort=LITTLE, held=[one for one in held if one.locked])
    still = next(p for s in again.sheets for p in s.placed if p.piece == "c")
    assert (still.x, still.y, still.width, still.height) == (lies.x, lies.y, lies.width, lies.height)
    replay(again, rectangles, Trimmer())


@given(some_rectangles, st.sampled_from((0.0, 0.4)), st.randoms(use_true_random=False))
@settings(max_examples=40)
def test_what_is_locked_stays(rows: list[tuple[float, float, int, bool, str]], kerf: float, rng: object) -> None:
    rectangles, trimmer = fitting(rows), Trimmer(None, kerf)
    plan = plan_sheets(rectangles, BOARDS, trimmer, LITTLE)
    held = [
        Held(s, frozenset(k for k in range(len(s.placed)) if rng.random() < 0.4))  # type: ignore[attr-defined]  # a Random
        for s in plan.sheets
    ]
    held = [one for one in held if one.locked]
    again = plan_sheets(rectangles, BOARDS, trimmer, LITTLE, held=held)
    replay(again, rectangles, trimmer)
    assert again.bound <= again.count
    for one in held:
        where = {(p.piece, round(p.x, 3), round(p.y, 3)) for k, p in enumerate(one.sheet.placed) if k in one.locked}
        assert any(where <= {(p.piece, round(p.x, 3), round(p.y, 3)) for p in s.placed} for s in again.sheets)


def test_a_lock_on_what_is_no_longer_wanted_is_forgotten() -> None:
    rectangles = [Rectangle("a", 100, 50, 2), Rectangle("b", 80, 50)]
    boards = [Board("sheet", "", 304.8, 215.9)]
    plan = plan_sheets(rectangles, boards, effort=LITTLE)
    held = [Held(plan.sheets[0], frozenset(range(len(plan.sheets[0].placed))))]
    fewer = [Rectangle("a", 100, 50), Rectangle("b", 81, 50)]  # one gone, one of another size
    again = plan_sheets(fewer, boards, effort=LITTLE, held=held)
    replay(again, fewer, Trimmer())


@given(st.lists(st.tuples(eighths, eighths, st.integers(1, 3), st.booleans()), min_size=1, max_size=7))
@settings(max_examples=40)
def test_pieces_lie_as_their_pattern_asks(rows: list[tuple[float, float, int, bool]]) -> None:
    rectangles = [Rectangle(f"r{k}", w, h, n, False, "a", turned) for k, (w, h, n, turned) in enumerate(rows)]
    for r in rectangles:
        assume(r.on_sheet[0] <= 304.8 and r.on_sheet[1] <= 215.9)
    plan = plan_sheets(rectangles, BOARDS[:1], effort=LITTLE)
    made: Counter[str] = Counter()
    for sheet in plan.sheets:
        for p in sheet.placed:
            made[p.piece] += 1
            one = rectangles[int(p.piece[1:])]
            assert p.turned is one.turned
            assert (p.width, p.height) == pytest.approx(
                (one.height, one.width) if one.turned else (one.width, one.height)
            )
    assert made == Counter({r.name: r.count for r in rectangles})


# -- what outlines leave


def cut_away(piece: Piece) -> Polygon:
    """The piece as shapely has it, holes left out."""
    return Polygon(piece.outline, piece.holes)


@pytest.mark.parametrize("kind", sorted(families()))
def test_corners_are_what_the_knife_leaves(kind: str) -> None:
    for piece in Study(start_design(kind, {})).pieces:
        for way in range(4):
            boxes = spare_of(piece, way, way % 2 == 1)
            lies = affinity.rotate(cut_away(piece), -90 * way, origin=(0, 0))
            lies = affinity.translate(lies, -lies.bounds[0], -lies.bounds[1])
            whole = box(*lies.bounds)
            for x, y, w, h in boxes:
                corner = box(x, y, x + w, y + h)
                assert min(w, h) >= LEAST - 1e-6
                assert corner.intersection(lies).area < 1e-3 and corner.difference(whole).area < 1e-3


def test_the_corners_of_a_cross_are_its_squares_and_a_wedge_gives_half_its_legs() -> None:
    lid = Study(start_design("explosion-box", {"base": 101.6, "wall": 76.2})).pieces[0]
    flat = Study(start_design("mat", {"width": 100.0, "height": 100.0})).pieces[0]
    assert spare_of(flat, 0, False) == ()
    gone = box(0, 0, *lid.size).difference(cut_away(lid))
    boxes = spare_of(lid, 0, False)
    assert len(boxes) == 4 and all(w * h > 76.2 * 70 for _, _, w, h in boxes)  # its corner squares
    assert sum(w * h for _, _, w, h in boxes) <= gone.area + 1e-3
    # worked by hand: of a right triangle with legs 80 and 60 the largest rectangle along them is 40 × 30
    from yawning_lantern.study.spare import _spare

    (one,) = _spare(((80, 0), (200, 0), (200, 200), (0, 200), (0, 60)), ())
    assert sorted(one[2:]) == pytest.approx([30, 40])


def total(plan: Plan) -> int:
    return sum(len(s.corners) for s in plan.sheets)


@pytest.mark.parametrize("turn", range(4))
def test_corners_lie_within_their_piece_on_the_sheet(turn: int) -> None:
    design = start_design("explosion-box", {"base": 101.6, "wall": 50.8, "corner": "plain"})
    design = set_lay(set_stock(design, None, "night-print-190"), "box", "cross", Lay(turn))
    study = Study(design)
    cross = next(p for p in study.pieces if p.id == "box.cross")
    assert lying(cross) == (False, turn % 2 == 1)
    plan = plan_sheets(wanted(study), boards_of(study), effort=LITTLE)
    for sheet in plan.sheets:
        for corner in sheet.corners:
            part = box(corner.x, corner.y, corner.x + corner.width, corner.y + corner.height)
            places = [box(p.x, p.y, p.x + p.width, p.y + p.height) for p in sheet.placed]
            inside = [place for place in places if part.difference(place).area < 1e-6]
            assert len(inside) == 1 and corner.useful
        names = [part.name for part in (*sheet.left, *sheet.corners)]
        assert len(names) == len(set(names))
    assert total(plan) == len(spare_of(cross, turn, turn % 2 == 1))


ELL = ((0, 0), (200, 0), (200, 60), (80, 60), (80, 120), (0, 120))
"""An L of 200 × 120 mm whose upper right, 120 × 60 mm, is cut away."""


@pytest.mark.parametrize(
    ("way", "turned", "corner"),
    [
        (0, False, (80, 60, 120, 60)), (1, True, (60, 0, 60, 120)), (2, False, (0, 0, 120, 60)),
        (3, True, (0, 80, 60, 120)), (0, True, (0, 80, 60, 120)),
    ],
)  # fmt: skip
def test_the_corner_of_an_ell_however_it_lies(way: int, turned: bool, corner: tuple[float, ...]) -> None:
    # worked by hand: the piece is turned to the right by the way its pattern asks, by the grain to the left
    paper = Study(start_design("mat", {})).pieces[0].stock
    piece = Piece("x", "L", paper, ELL, (Panel("l", "l", ELL),))
    (found,) = spare_of(piece, way, turned)
    assert found == pytest.approx(corner)


def test_a_corner_goes_where_the_planner_turns_its_piece() -> None:
    ell = Rectangle("L", 200, 120, spare=((80, 60, 120, 60),))
    plan = plan_sheets([ell], [Board("low", "", 130.0, 210.0)], effort=LITTLE)
    (placed,), (corner,) = plan.sheets[0].placed, plan.sheets[0].corners
    assert placed.turned and (placed.width, placed.height) == (120, 200)
    # turned to the left: what was upper right is upper left
    assert (corner.x - placed.x, corner.y - placed.y, corner.width, corner.height) == (0, 80, 60, 120)


def test_a_held_off_cut_is_there_once() -> None:
    rectangles = [Rectangle("a", 60, 40, 2), Rectangle("b", 50, 40)]
    kept = Board("off-cut 1", "", 70.0, 90.0, 1, kept=True)
    boards = [Board("sheet", "", 304.8, 215.9), kept]
    plan = plan_sheets(rectangles, boards, effort=LITTLE)
    on = next(s for s in plan.sheets if s.board.kept)
    again = plan_sheets(rectangles, boards, effort=LITTLE, held=[Held(on, frozenset({0}))])
    replay(again, rectangles, Trimmer())
    assert sum(s.board.kept for s in again.sheets) == 1


@pytest.mark.parametrize(
    ("x", "y", "corner"), [(5.0, 5.0, (0, 0)), (195.0, 5.0, (140, 0)), (5.0, 95.0, (0, 60)), (195.0, 95.0, (140, 60))]
)
def test_a_piece_goes_to_the_corner_it_is_put_in(x: float, y: float, corner: tuple[float, float]) -> None:
    rectangles = [Rectangle("a", 60, 40, may_turn=False)]
    boards = [Board("sheet", "", 200.0, 100.0)]
    plan = plan_sheets(rectangles, boards, effort=LITTLE)
    after = moved(rectangles, boards, plan, Move(0, 0, 0, x, y))
    (placed,) = after.sheets[0].placed
    assert (placed.x, placed.y) == corner
    replay(after, rectangles, Trimmer())
