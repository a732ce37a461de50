"""Stock against published standards and the definitions of basis weight."""

from __future__ import annotations

import math

import pytest

from yawning_lantern.design import set_caliper
from yawning_lantern.errors import ParameterError, UnknownNameError
from yawning_lantern.stock import builtin_catalogue, caliper_from_grammage, grammage_from_pounds
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
