"""What begins with what it must hold comes out so much larger, and no larger than the next mark makes it.

Room in all beside what stands in a box an eighth of an inch, above it a sixteenth; beside a card in a pocket an eighth,
about a picture on a page a quarter (common practice, no source). Added by hand: half a sheet of either wall that a
length from score to score takes, tabs and straps that lie inside, a flap's layers; then the next mark of the trimmer
(a sixteenth) or of the scoring board (an eighth)."""

from __future__ import annotations

import math

import pytest
from msgspec.structs import replace

from yawning_lantern.measure import inches
from yawning_lantern.structures import families, start_design
from yawning_lantern.study import Study

T = 0.27  # mm: card of 216 g/m², calipered at bulk 1.25
E, S = inches(1 / 8), inches(1 / 16)
CUT, SCORE = S, E
HOLDS: tuple[tuple[str, str, str, float, float], ...] = (
    ("tray", "width", "width", E + T, CUT),
    ("tray", "depth", "depth", E + T + 2 * T, CUT),  # corner tabs at front and back
    ("tray", "height", "height", S + T / 2, SCORE),
    ("drawer-sleeve", "width", "width", E + T, CUT),
    ("drawer-sleeve", "depth", "depth", E + T + 2 * T, CUT),
    ("drawer-sleeve", "height", "height", S + T / 2, SCORE),
    ("drop-front", "width", "width", E + T + 4 * T, CUT),  # a folded strap on either wall
    ("drop-front", "depth", "depth", E + T + 2 * T + T, CUT),  # one folded on the front, tabs at the back
    ("drop-front", "height", "height", S + T / 2, SCORE),
    ("closing-box", "width", "width", E + T, CUT),
    ("closing-box", "depth", "depth", E + T + T + S, CUT),  # seam tab; the lid is two sheets shorter, up to a mark
    ("closing-box", "height", "height", S + 4 * T, SCORE),  # two flaps and half the lid and the floor, a dust flap
    ("explosion-box", "width", "base", E + T, CUT),
    ("explosion-box", "depth", "base-depth", E + T, CUT),
    ("explosion-box", "height", "wall", S + T / 2, CUT * 2),
    ("tier-wrap", "height", "height", S + T / 2, SCORE),
    ("lid", "width", "top-width", S + T, CUT),
    ("lid", "depth", "top-depth", S + T + 2 * T, CUT),
    ("gusset-pouch", "width", "width", E, CUT),
    ("gusset-pouch", "height", "height", E, CUT),
    ("mini-envelope", "width", "width", E, CUT),
    ("mini-envelope", "height", "height", E, CUT),
    ("flip-book", "width", "page-width", E, SCORE),
    ("flip-book", "height", "page-height", E, SCORE),
    ("maze-book", "width", "page-width", E, SCORE),
    ("grid-sheet", "height", "page-height", E, SCORE),
    ("strip-album", "width", "page", E, SCORE),
    ("strip-album", "height", "height", 2 * E, CUT),
    ("envelope-fold", "height", "height", 2 * E, CUT),
    ("free-strip", "height", "height", 2 * E, CUT),
    ("free-strip", "width", "wide", 2 * E, CUT),
    ("hinged-flip-book", "width", "width", 2 * E, CUT),
    ("waterfall", "width", "flap-width", 2 * E, CUT),
    ("tuck-spot", "width", "clear", E, CUT),
    ("gusset-book", "width", "page-width", 0.0, CUT),
    ("gusset-book", "height", "page-height", 0.0, CUT),
    ("accordion-spine", "height", "height", 0.0, CUT),
    ("accordion-spine", "width", "page-width", 0.0, 0.0),  # what is at hand is the page
    ("mat", "width", "width", 2 * E, 0.0),  # its own border and that of the picture on it
    ("mat", "height", "height", 2 * E, 0.0),
    ("pocket", "width", "tag-width", 0.0, 0.0),
    ("pocket", "height", "height", 2 * E, CUT),
    ("grid-sheet", "width", "page-width", E, SCORE),
    ("maze-book", "height", "page-height", E, SCORE),
    ("waterfall", "height", "flap-length", 2 * E, CUT),
    ("pocket-folio", "height", "height", 3 * E, CUT),  # a card's play, and its glue below
)  # fmt: skip
EXACTLY = {("closing-box", "depth"): E + 4 * T, ("strip-album", "width"): 2 * E}
"""Where no tool rounds: the sheets by which a lid is shorter, up to a mark else; a page whose mark lies below."""
THINGS = ((47.3, 33.1, 61.5), (71.9, 50.3, 93.5), (93.1, 65.2, 71.0), (61.4, 88.8, 40.2))
"""Width, depth and height, mm, on no mark of any tool."""


@pytest.mark.parametrize(("kind", "content", "own", "least", "mark"), HOLDS)
def test_what_holds_something_is_so_much_larger(kind: str, content: str, own: str, least: float, mark: float) -> None:
    for thing in THINGS:
        given = dict(zip(("content-width", "content-depth", "content-height"), thing, strict=True))
        known = {declared.id for declared in families()[kind].parameters}
        study = Study(start_design(kind, {name: mm for name, mm in given.items() if name in known}))
        size = study.resolved[study.design.root.id].sizes[own].length
        spare = size - given[f"content-{content}"]
        assert least - 1e-6 <= spare <= least + mark + 1e-6, (thing, spare)


@pytest.mark.parametrize("sides", [3, 4, 5, 6, 8, 12])
@pytest.mark.usefixtures("no_rounding")
def test_a_prism_is_so_much_wider_than_what_stands_in_it(sides: int) -> None:
    """The play, a tab inside either wall, and what a wall is longer outside its scores than between them: at either end
    a bend of the turn 2π/n about half a sheet takes less than its tangents (worked geometry)."""
    turn = 2 * math.pi / sides
    bends = T * (math.tan(turn / 2) - turn / 2) / math.tan(math.pi / sides)
    for wide in (47.3, 71.9, 93.1):
        begun = start_design("prism", {"sides": sides, "content-width": wide, "content-height": 60.0})
        study = Study(replace(begun, cut_tool="free", score_tool="free"))
        across = study.resolved[study.design.root.id].sizes["across"].length
        assert across - wide == pytest.approx(E + 2 * T + bends, abs=0.01)


@pytest.mark.usefixtures("no_rounding")
def test_square_trays_are_as_wide_as_the_longer_side_of_what_they_hold_asks() -> None:
    """The play, half a sheet of either wall, a tab inside either wall."""
    for wide, deep in ((47.3, 33.1), (50.3, 71.9), (61.5, 61.5)):
        begun = start_design("tier-wrap", {"content-width": wide, "content-depth": deep})
        study = Study(replace(begun, cut_tool="free", score_tool="free"))
        width = study.resolved[study.design.root.id].sizes["width"].length
        assert width - max(wide, deep) == pytest.approx(E + T + 2 * T, abs=0.02)


@pytest.mark.parametrize("kind", ["pocket-folio", "pocket", "strip-pockets", "pocket-page", "angled-album"])
def test_a_pocket_takes_the_card_it_begins_with(kind: str) -> None:
    for wide, high in ((47.3, 61.5), (71.9, 93.5), (93.1, 71.0), (61.4, 40.2), (101.7, 55.0), (31.0, 120.0)):
        study = Study(start_design(kind, {"content-width": wide, "content-height": high}))
        pockets = study.resolved[study.design.root.id].part.pockets
        spare = [(p.width - wide, p.depth - high) for p in pockets]
        assert min(across for across, _ in spare) >= E - 1e-6, spare
        if kind in ("pocket-folio", "pocket", "strip-pockets"):  # the others are half of a square sheet
            assert min(across for across, _ in spare) <= E + CUT + 1e-6, spare
        if kind == "pocket-page":  # 3 1/2 of 12, and no more where a card is narrow for its height
            sizes = study.resolved[study.design.root.id].sizes
            assert sizes["side"].length <= sizes["sheet"].length * 3.5 / 12 + SCORE
        if kind == "pocket":
            assert all(-1e-6 <= down <= CUT + 1e-6 for _, down in spare), spare
        assert not any(c.is_clash and c.gap.code == "at-hand" for c in study.checks)


@pytest.mark.parametrize(("kind", "content", "own", "least", "mark"), HOLDS)
@pytest.mark.usefixtures("no_rounding")
def test_where_no_tool_rounds_it_is_larger_by_that_and_nothing(
    kind: str, content: str, own: str, least: float, mark: float
) -> None:
    for thing in THINGS:
        given = dict(zip(("content-width", "content-depth", "content-height"), thing, strict=True))
        known = {declared.id for declared in families()[kind].parameters}
        begun = start_design(kind, {name: mm for name, mm in given.items() if name in known})
        study = Study(replace(begun, cut_tool="free", score_tool="free"))
        spare = study.resolved[study.design.root.id].sizes[own].length - given[f"content-{content}"]
        assert spare == pytest.approx(EXACTLY.get((kind, content), least), abs=0.02), thing
