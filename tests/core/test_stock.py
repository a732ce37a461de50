"""Stock against published standards and the definitions of basis weight."""

from __future__ import annotations

import math
from typing import Literal

import msgspec
import pytest
from msgspec.structs import replace

from yawning_lantern.design import set_caliper
from yawning_lantern.errors import ParameterError, UnknownNameError
from yawning_lantern.exchange.plan import readings, score_tool
from yawning_lantern.stock import (
    Item,
    Motif,
    SheetFormat,
    builtin_catalogue,
    caliper_from_grammage,
    check_item,
    found,
    grammage_from_pounds,
    thing,
    weight_words,
)
from yawning_lantern.study import Study

from ..conftest import designed


@pytest.mark.parametrize(("kind", "factor"), [("text", 1.480), ("cover", 2.704), ("index", 1.808)])
def test_one_pound_of_each_kind(kind: str, factor: float) -> None:
    # definition of basis weight: 500 sheets of the basic size (TAPPI T 410 names the conversion); worked by hand
    assert grammage_from_pounds(1, kind) == pytest.approx(factor, abs=0.0005)


@pytest.mark.parametrize(("pounds", "grammage"), [(65, 176), (80, 216), (100, 270), (110, 297)])
def test_common_cover_weights(pounds: float, grammage: float) -> None:
    # common practice, no source: what labels of cover stock print in both units
    assert grammage_from_pounds(pounds, "cover") == pytest.approx(grammage, abs=0.8)


def test_caliper_is_grammage_times_bulk() -> None:
    # definition: bulk (cm³/g) is thickness over grammage
    assert caliper_from_grammage(216, 1.25) == pytest.approx(0.27)
    for call in (
        lambda: caliper_from_grammage(0),
        lambda: caliper_from_grammage(200, 9),
        lambda: grammage_from_pounds(0, "cover"),
        lambda: grammage_from_pounds(80, "wall"),
    ):
        with pytest.raises(ParameterError):
            call()


def test_sheets_are_the_published_sizes() -> None:
    shelf = builtin_catalogue()
    a4, a3 = shelf.sheet("a4"), shelf.sheet("a3")
    assert (a4.width, a4.height) == (210, 297)  # ISO 216
    assert (a3.width, a3.height) == (297, 420)  # ISO 216
    assert a4.height / a4.width == pytest.approx(math.sqrt(2), abs=0.002)  # ISO 216's principle, rounded to mm
    letter = shelf.sheet("letter")
    assert (letter.width, letter.height) == pytest.approx((215.9, 279.4))  # ANSI/ASME Y14.1 size A
    edged = shelf.sheet("12x12-edge")
    assert edged.height > edged.usable_height  # common practice, no source: a printed edge of up to 1/8


def test_estimated_and_measured_thickness_are_told_apart() -> None:
    design = designed("explosion-box", base=4, wall=4)
    before = Study(design).resolved["box"].final.paper
    assert before.is_estimated and before.caliper == pytest.approx(0.27)
    after = Study(set_caliper(design, "card-216", 0.31)).resolved["box"].final.paper
    assert not after.is_estimated and after.caliper == 0.31


def test_unknown_stock_names_the_nearest() -> None:
    with pytest.raises(UnknownNameError, match="card-216"):
        builtin_catalogue().paper("card-21")
    assert builtin_catalogue().tool("board-8").grid == pytest.approx(25.4 / 8)


@pytest.mark.parametrize(
    ("at", "groove", "further", "nearer"),
    [(0.4, 0.5, 0.5, 0.5), (4.3, 4.25, 4.5, 4.25), (4.375, 4.25, 4.5, 4.25), (10.4, 10, 11, 10), (20, 11, 11, 11)],
)
def test_a_board_with_its_own_grooves(at: float, groove: float, further: float, nearer: float) -> None:
    # worked by hand from the grooves it has: …, 4, 4 1/4, 4 1/2, …, 10, 11 in
    board = builtin_catalogue().tool("board-folio")
    inch = 25.4
    assert board.groove(at * inch) == pytest.approx(groove * inch)
    assert board.next_groove(at * inch, 1) == pytest.approx(further * inch)
    assert board.next_groove(at * inch, -1) == pytest.approx(nearer * inch)


def test_an_angled_fence_moves_every_mark() -> None:
    board = builtin_catalogue().tool("board-slant")
    assert board.groove(25.4) == pytest.approx(25.4)  # a quarter inch off: an eighth grid meets the inch again
    moved = replace(board, offset=1.0)
    assert moved.groove(25.4) == pytest.approx(25.4 - 25.4 % 3.175 + 1.0, abs=1e-6)
    assert moved.next_groove(moved.groove(25.4), 1) == pytest.approx(26.4 + 3.175)


@pytest.mark.parametrize("deed", ["score", "cut"])
def test_what_tools_do(deed: str) -> None:
    tools = builtin_catalogue().tools
    both = next(tool for tool in tools if tool.kind == "both")
    assert both.does(deed)  # type: ignore[arg-type]  # one of the two
    assert {t.does(deed) for t in tools if t.kind != "both"} == {True, False}  # type: ignore[arg-type]  # as above


def test_scores_without_a_groove_are_told_with_the_nearest() -> None:
    design = msgspec.structs.replace(designed("explosion-box", base=3.4, wall=2.8), score_tool="board-folio")
    study = Study(design)
    (cross,) = (p for p in study.pieces if p.id == "box.cross")
    told = dict(readings(cross, "in", score_tool(study)))["scores from the left"]
    places = sorted({line.start[0] for line in cross.lines if line.kind == "score" and line.start[0] == line.end[0]})
    board = study.catalogue.tool("board-folio")
    assert told.count("no groove there") == sum(min(abs(g - at) for g in board.grooves) > 0.4 for at in places) > 0
    plain = msgspec.structs.replace(design, score_tool="board-8")
    assert "no groove" not in dict(readings(cross, "in", score_tool(Study(plain))))["scores from the left"]


SHELF = builtin_catalogue()
CARD, GLUE, BOARD = SHELF.paper("card-216"), SHELF.adhesive("tape"), SHELF.tool("board-8")


@pytest.mark.parametrize(
    "item",
    [
        replace(CARD, grammage=None), replace(CARD, measured=0.0), replace(CARD, back="#12345"),
        replace(CARD, front_motif=Motif("dots", "#123456", 0.5)), replace(CARD, front_motif=Motif("dots", "red")),
        replace(CARD, front_motif=Motif("dots", "#123456", 9.0, 7)), replace(BOARD, grooves=(5.0, 3.0)),
        replace(BOARD, grid=0.0), replace(GLUE, width=-1.0), replace(GLUE, name=" "),
        replace(SHELF.ready_made[0], thickness=float("nan")),
    ],
)  # fmt: skip
def test_what_cannot_be_in_a_drawer(item: Item) -> None:
    with pytest.raises(ParameterError):
        check_item(item)


@pytest.mark.parametrize(
    ("item", "name", "least", "most"),
    [
        (GLUE, "thickness", 0.0, 20.0), (GLUE, "open_time", 0.0, 1e6), (GLUE, "width", 0.1, 1e6),
        (GLUE, "roll", 0.1, 1e6),
        (CARD, "measured", 0.005, 20.0), (CARD, "grammage", 5.0, 5000.0), (CARD, "bulk", 0.5, 3.0),
        (SHELF.ready_made[0], "width", 1.0, 5000.0), (SHELF.ready_made[0], "height", 1.0, 5000.0),
        (SHELF.ready_made[0], "thickness", 0.0, 100.0), (BOARD, "grid", 0.05, 500.0), (BOARD, "offset", -500.0, 500.0),
        (BOARD, "kerf", 0.0, 10.0), (BOARD, "longest", 1.0, 5000.0),
    ],
)  # fmt: skip
def test_how_small_and_large_things_of_the_drawer_may_be(item: Item, name: str, least: float, most: float) -> None:
    # what a shop may sell and a hand may hold: from memory. The answer to what is beyond tells both ends.
    for end, beyond in ((least, least - 0.004), (most, most * 1.001)):
        check_item(replace(item, **{name: end}))
        with pytest.raises(ParameterError) as refused:
            check_item(replace(item, **{name: beyond}))
        assert f"{least:g} to {most:g}" in refused.value.sentence()


@pytest.mark.parametrize(
    ("name", "most"), [("width", 5000.0), ("height", 5000.0), ("usable_width", 300.0), ("usable_height", 200.0)]
)
def test_how_small_and_large_a_sheet_may_be(name: str, most: float) -> None:
    sheet = SheetFormat("s", "s", 300.0, 200.0, 1.0, 1.0)
    for end, beyond in ((1.0, 0.99), (most, most + 0.01)):
        check_item(replace(CARD, sheet=replace(sheet, **{name: end})))
        with pytest.raises(ParameterError, match="cannot be"):
            check_item(replace(CARD, sheet=replace(sheet, **{name: beyond})))


@pytest.mark.parametrize("item", builtin_catalogue().items, ids=lambda item: item.id)
def test_what_ships_can_be(item: Item) -> None:
    check_item(item)
    assert thing(builtin_catalogue().items, item.name) == item
    assert item in found(builtin_catalogue().items, item.name.split()[0])


def test_a_weight_is_told_in_both_systems() -> None:
    # the definition of basis weight, worked by hand: 216 g/m² is 216 / 2.7042 lb cover and 216 / 1.4801 lb text
    assert weight_words(216) == "216 g/m² (80 lb cover, 146 lb text)"


@pytest.mark.parametrize(("wide", "high", "grain", "up"), [
    (200.0, 300.0, "long", True), (300.0, 200.0, "long", False), (200.0, 300.0, "short", False),
    (300.0, 200.0, "short", True), (300.0, 200.0, "none", None),
])  # fmt: skip
def test_grain_runs_along_the_longer_side_where_it_is_long(
    wide: float, high: float, grain: Literal["long", "short", "none"], up: bool | None
) -> None:
    paper = replace(builtin_catalogue().papers[0], sheet=SheetFormat("s", "s", wide, high, wide, high), grain=grain)
    assert paper.grain_up is up


@pytest.mark.parametrize("turn", [*range(-2, 7)])
def test_a_pattern_is_turned_by_quarters(turn: int) -> None:
    paper = next(p for p in builtin_catalogue().papers if p.front_motif is not None)
    assert paper.front_motif is not None
    turned = replace(paper, front_motif=replace(paper.front_motif, turn=turn))
    if turn in range(4):
        check_item(turned)
    else:
        with pytest.raises(ParameterError, match="quarters"):
            check_item(turned)
