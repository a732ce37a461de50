"""Room and Need on their own: the gaps they make, turned, off the middle, and of other shapes."""

from __future__ import annotations

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace
from shapely import Polygon

from yawning_lantern.assembly import Gap, Need, Room, Side, Span, Term, Use, box_sides, edge_gaps, span, uses
from yawning_lantern.assembly.edges import support
from yawning_lantern.assembly.spans import Lever
from yawning_lantern.fit import check_gaps, formula, headline, sentence
from yawning_lantern.fit.words import asked, sums


def room(width: float, depth: float, relation: str = "inside", per_side: bool = False) -> Room:
    reaches = [span("host", s / 2, "host", p, 0.5) for s, p in ((width, "w"), (depth, "d"), (width, "w"), (depth, "d"))]
    return Room(
        relation,  # type: ignore[arg-type]  # a plain text for a literal
        uses.LAYER if per_side else uses.TRAY,
        box_sides(reaches),
        (width, depth),
        0.3,
        height=span("wall", 40.0),
        per_side=per_side,
        wall=40.0,
    )


def need(width: float, depth: float, relation: str = "inside", use: Use = uses.TRAY, height: float = 30.0) -> Need:
    reaches = [span("guest", s / 2, "guest", "w", 0.5) for s in (width, depth, width, depth)]
    return Need(relation, use, box_sides(reaches), (width, depth), 0.3, height=span("guest", height))  # type: ignore[arg-type]  # a plain text for a literal


def gaps(host: Room, guest: Need, turn: int = 0, offset: tuple[float, float] = (0.0, 0.0)) -> dict[str, float]:
    found = edge_gaps("host", "guest", ("Host", "Guest"), host, guest, turn, offset)
    return {gap.where: gap.value for gap in found}


def test_in_all_along_both_axes_and_in_height() -> None:
    assert gaps(room(50, 60), need(48, 55)) == pytest.approx({"across": 2.0, "front to back": 5.0, "up": 10.0})


@pytest.mark.parametrize("turn", range(8))
def test_a_quarter_turn_swaps_the_axes(turn: int) -> None:
    want = (2.0, 5.0) if turn % 2 == 0 else (50 - 55, 60 - 48)
    found = gaps(room(50, 60), need(48, 55), turn)
    assert (found["across"], found["front to back"]) == pytest.approx(want)


def test_off_the_middle_takes_from_one_side_and_gives_to_the_other() -> None:
    found = gaps(room(50, 50, per_side=True), need(40, 40, use=uses.LAYER), 0, (2.0, -1.0))
    assert found["right"] == pytest.approx(3.0) and found["left"] == pytest.approx(7.0)
    assert found["back"] == pytest.approx(6.0) and found["front"] == pytest.approx(4.0)
    found = gaps(room(50, 50), need(40, 40), 0, (2.0, 0.0))
    assert (found["right"], found["left"], found["front to back"]) == pytest.approx((3.0, 7.0, 10.0))


def test_over_is_the_other_way_round() -> None:
    found = gaps(room(50, 60, "over"), need(51, 62, "over", uses.LID))
    assert found == pytest.approx({"across": 1.0, "front to back": 2.0})


def test_what_is_not_settled_makes_no_gap() -> None:
    assert gaps(room(50, 60), Need("inside", uses.TRAY)) == {}


@given(st.floats(10, 60), st.floats(10, 60), st.sampled_from([3, 5, 6, 8]), st.integers(0, 3))
def test_a_box_in_a_polygon_reaches_as_shapely_says(width: float, depth: float, n: int, turn: int) -> None:
    # independent: the farthest corner of the turned rectangle along each wall's direction, corners from shapely
    guest = need(width, depth)
    rectangle = Polygon(
        [(width / 2, depth / 2), (-width / 2, depth / 2), (-width / 2, -depth / 2), (width / 2, -depth / 2)]
    )
    quarter = turn * math.pi / 2
    corners = [
        (x * math.cos(quarter) - y * math.sin(quarter), x * math.sin(quarter) + y * math.cos(quarter))
        for x, y in list(rectangle.exterior.coords)[:4]
    ]
    for k in range(n):
        angle = 2 * math.pi * k / n
        want = max(x * math.cos(angle) + y * math.sin(angle) for x, y in corners)
        assert support(guest.sides, angle, turn) == pytest.approx(want, abs=1e-9)
    host = Room(
        "inside",
        uses.TRAY,
        tuple(Side(f"wall {k}", 2 * math.pi * k / n, span("apothem", 100.0)) for k in range(n)),
        (1.0, 1.0),
        0.3,
    )
    found = edge_gaps("h", "g", ("H", "G"), host, guest, turn, (0.0, 0.0))
    assert found and all(gap.value < 200 for gap in found)


@given(st.integers(-8, 8))
def test_a_room_turned_four_times_is_itself(quarters: int) -> None:
    host = room(50, 60)
    again = host.turned(quarters).turned(-quarters)
    assert [s.name for s in again.sides] == [s.name for s in host.sides]
    assert [s.angle for s in again.sides] == pytest.approx([s.angle for s in host.sides], abs=1e-6)
    assert again.nominal == host.nominal
    assert host.turned(1).nominal == (60, 50)
    assert host.turned(1).sides[0].reach.value == pytest.approx(30.0)


def test_spans_remember_their_terms_and_levers() -> None:
    a = span("box", 50.0, "box", "base").plus(Term("sheet", -0.3), Term("nothing", 0.0))
    b = span("layer", 20.0, "layer", "base", 0.5) + span("layer", 20.0, "layer", "base", 0.5)
    left = (a - b).merged()
    assert left.value == pytest.approx(9.7)
    assert [(t.label, t.value) for t in left.terms] == [("box", 50.0), ("sheet", -0.3), ("layer", -40.0)]
    assert left.terms[2].lever == Lever("layer", "base", -1.0)
    assert Span().value == 0 and (a - a).merged().terms == ()


def gap(value: float, use: Use = uses.LID, school: str = "easy", want: tuple[float, float] | None = None) -> Gap:
    return Gap(use, "g", "h", ("Lid", "Box, across"), span("lid", 50.0) - span("box", 50.0 - value), school, want)


@pytest.mark.parametrize(
    ("inches", "school", "verdict", "against"),
    [
        (-0.01, "easy", "clash", "below"),
        (0.0, "snug", "snug", "within"),
        (1 / 32, "snug", "snug", "within"),
        (1 / 16, "easy", "easy", "within"),
        (1 / 16, "snug", "easy", "above"),
        (1 / 64, "easy", "snug", "below"),
        (1 / 8, "loose", "loose", "within"),
        (1 / 16, "loose", "easy", "below"),
        (1 / 2, "loose", "loose", "above"),
    ],
)
def test_verdicts_of_a_lid(inches: float, school: str, verdict: str, against: str) -> None:
    # common practice, no source: snug 0 to 1/32, easy 1/16, loose 1/8, in all
    check = check_gaps([gap(inches * 25.4, school=school)])[0]
    assert (check.verdict, check.against) == (verdict, against)
    assert check.is_fine == (against == "within") and check.is_clash == (verdict == "clash")


@pytest.mark.parametrize(
    ("inches", "verdict"), [(-0.001, "clash"), (1 / 32, "tight"), (1 / 16, "snug"), (1 / 8, "easy"), (1, "loose")]
)
def test_verdicts_of_a_tag(inches: float, verdict: str) -> None:
    # common practice, no source: insert ≤ inside − 1/8 across, 1/16 at least
    assert check_gaps([gap(inches * 25.4, uses.POCKET)])[0].verdict == verdict


def test_words_say_figure_verdict_and_what_was_asked() -> None:
    easy, clash, tight = check_gaps([gap(25.4 / 16), gap(-1.0), gap(0.2)])
    assert sentence(easy, "in") == "1/16″ to spare, easy"
    assert sentence(clash, "mm") == "1.00 mm too large: it clashes"
    assert sentence(tight, "mm") == "0.20 mm to spare, snug, less than asked"
    assert headline(easy) == "Lid over box: Lid · Box, across"
    assert formula(easy, "mm") == "50.00 lid − 48.41 box = 1.59 mm"
    assert formula(clash, "in").endswith("= −0.039″")
    amid = Gap(uses.LID, "g", "h", ("Lid", "Box"), span("lid", 9.0).plus(Term("off", 0.0), Term("tabs", -2.0)))
    assert formula(check_gaps([amid])[0], "mm") == "9.00 lid − 2.00 tabs = 7.00 mm"  # nothing of what is nothing
    bent = Gap(uses.LID, "g", "h", ("Lid", "Box"), span("lid", 25.4).plus(Term("bends", 0.015), Term("tabs", -2.0)))
    assert formula(check_gaps([bent])[0], "in") == "1 lid − 0.079 tabs = 0.922″"
    assert formula(check_gaps([bent])[0], "mm") == "25.40 lid + 0.01 bends − 2.00 tabs = 23.41 mm"
    assert sentence(check_gaps([gap(0.0, uses.SHEET, "any")])[0], "in") == "nothing to spare, snug"
    level = check_gaps([gap(-0.27, uses.WALL_HEIGHT, "level", (-0.5, 3.0))])[0]
    assert not level.is_clash and sentence(level, "mm") == "0.27 mm above, as asked"
    lacking = check_gaps([replace(gap(1.0), lacks="nothing is there to hold it")])[0]
    assert sums(lacking, "in") == "Lid over box: Lid · Box, across\nNothing is there to hold it."
    assert sentence(lacking, "in") == "nothing is there to hold it" and formula(lacking, "in") == ""
    assert sums(easy, "mm").split("\n")[1:] == ["50.00 lid − 48.41 box = 1.59 mm", f"Asked: {asked(easy, 'mm')}."]
