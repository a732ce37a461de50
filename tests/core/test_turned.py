"""A thing that is turned on what holds it is the same thing: nothing in it may depend on how the world lies."""

from __future__ import annotations

import random

import numpy as np
import pytest
from msgspec.structs import replace

from yawning_lantern.design import Design, Element, Place, walk
from yawning_lantern.errors import LanternError
from yawning_lantern.exchange.design_file import read_design
from yawning_lantern.structures import families, family
from yawning_lantern.study import Study, opening_of
from yawning_lantern.study.at_bench import plan_bench
from yawning_lantern.study.opened import step_words

from ..conftest import DEMO
from .test_random_nests import random_nest

EXAMPLES = ["comet-night-box", "comet-night-set", "four-lenses", "observatory-box", "tide-table-book"]
SEEDS = (3, 5, 17, 20, 21, 29, 33, 47, 48, 49, 50, 53)
"""Random nests of four parts and more that stand in a box."""


def design_of(name: str) -> Design:
    """An example by name, or a random nest by number."""
    return random_nest(random.Random(int(name))) if name.isdigit() else read_design(DEMO.parent / f"{name}.lantern")


def held(design: Design, turn: int, x: float = 0.0, y: float = 0.0) -> Study:
    """A design on the floor of a square box that is too large for any of its fits, turned by quarters, and so far off
    the middle, mm."""
    thing = replace(design.root, place=Place("floor", x, y, turn))
    sizes: dict[str, float | str] = {"base": 900.0, "wall": 600.0}
    return Study(replace(design, root=Element("around-it", "explosion-box", settings=sizes, guests=(thing,))))


def told(study: Study) -> list[tuple[object, ...]]:
    """Every fit within the thing, with its words, its figure and what moves it."""
    return sorted(
        (
            check.gap.code, check.gap.element, check.gap.host, *sorted(check.gap.between), check.verdict,
            round(check.gap.value, 6), tuple(sorted((t.lever.element, t.lever.parameter, round(t.lever.slope, 6))
                                                    for t in check.gap.span.terms if t.lever is not None)),
        )
        for check in study.checks if "around-it" not in (check.gap.element, check.gap.host)
    )  # fmt: skip


@pytest.mark.parametrize("name", [*EXAMPLES, *map(str, SEEDS)])
def test_fits_are_the_same_however_it_is_turned(name: str) -> None:
    design = design_of(name)
    plain = held(design, 0)
    want = told(plain)
    assert want and len(list(walk(design.root))) + 1 == len(plain.resolved)
    for turn, x, y in ((1, 0.0, 0.0), (2, 40.0, 0.0), (3, 25.0, -60.0)):
        turned = held(design, turn, x, y)
        assert told(turned) == want
        for one, other in zip(plain.pieces, turned.pieces, strict=True):
            assert (one.id, one.quantity, len(one.lines)) == (other.id, other.quantity, len(other.lines))
            for a, b in zip((one.outline, *one.holes), (other.outline, *other.holes), strict=True):
                assert np.allclose(a, b, atol=1e-9)


@pytest.mark.parametrize("seed", [17, 33])
def test_it_opens_in_the_same_order_however_it_is_turned(seed: int) -> None:
    design = design_of(str(seed))
    plain, turned = held(design, 0), held(design, 3)
    want, found = opening_of(plain), opening_of(turned)
    assert want.works and found.works and len(want.steps) > 5
    assert [step_words(plain, one) for one in want.steps] == [step_words(turned, one) for one in found.steps]


@pytest.mark.parametrize("name", ["comet-night-box", "5", "33"])
def test_it_is_glued_in_the_same_order_with_the_same_tools_however_it_is_turned(name: str) -> None:
    # whether a tool that just touches a wall gets there was decided by rounding: seed 5 has such a wall
    design = design_of(name)
    plans = [
        [(step.id, step.minutes, step.text.rsplit(". ", 1)[-1]) for step in plan_bench(held(design, turn)).steps
         if step.element != "around-it" and step.kind != "fit"]
        for turn in (0, 1)
    ]  # fmt: skip
    assert plans[0] == plans[1] and len(plans[0]) > 20


@pytest.mark.parametrize("name", ["four-lenses", "17", "29", "47"])
def test_the_same_sides_show_however_it_is_turned(name: str) -> None:
    design = design_of(name)
    shown = []
    for turn in (0, 1):
        study = held(design, turn)
        own = [element.id for element in walk(design.root)]
        shown.append([(p.node, p.front, p.back) for element in own for p in study.seen(element)])
    assert shown[0] == shown[1] and len({front for _, front, _ in shown[0]}) > 1


@pytest.mark.parametrize("kind", sorted(families()))
def test_what_grows_around_its_guest_grows_however_that_lies(kind: str) -> None:
    grown = 0
    for face, _ in family(kind).faces:
        beside = []
        for turn in (0, 1):
            tray = Element("in", "tray", settings={"width": 137.0, "depth": 91.0, "height": 43.0})
            tray = replace(tray, place=Place(face, turn=turn))
            try:
                study = Study(Design(Element("host", kind, guests=(tray,))))
            except LanternError:
                continue  # it cannot stand there
            gaps = [check for check in study.checks if (check.gap.element, check.gap.host) == ("in", "host")]
            beside.append(all(check.against != "below" for check in gaps))
        grown += beside[:1] == [True]
        assert beside[:1] != [True] or beside == [True, True], face
    assert grown or kind not in ("tray", "drop-ladder", "tier-wrap", "drop-front", "drawer-sleeve", "explosion-box")
