"""Paper that cannot do what it is asked: told with the part and what would help, and not told where all is well."""

from __future__ import annotations

import pytest
from msgspec.structs import replace

from yawning_lantern.design import Design, Element, Place, add_guest, set_stock
from yawning_lantern.measure import speak
from yawning_lantern.structures import families, start_design
from yawning_lantern.study import Study
from yawning_lantern.study.stock_warnings import SLENDER, stock_warnings

from ..conftest import designed


def codes(design: Design) -> list[tuple[str, str]]:
    return [(w.code, w.element) for w in stock_warnings(Study(design))]


def boxed(wall: float, stock: str) -> Design:
    return set_stock(designed("tray", width=4, depth=4, height=wall), None, stock)


def test_walls_of_copy_paper_do_not_stand_and_cardstock_does() -> None:
    # the trade's own words: copy paper is too thin for a structure, 216 g/m² is what boxes are made of
    assert ("thin", "tray") in codes(boxed(4.0, "copy-80"))
    for stock in ("card-176", "card-216", "chipboard-1"):
        assert codes(boxed(4.0, stock)) == []
    study = Study(boxed(4.0, "copy-80"))
    limit = SLENDER * study.resolved["tray"].final.paper.caliper / 25.4
    assert codes(boxed(limit - 0.2, "copy-80")) == [] and codes(boxed(limit + 0.2, "copy-80")) != []
    (told,) = stock_warnings(study)
    words = speak(told.sentence, "in")
    assert words.startswith("Tray: its walls are 4″ high") and "heavier stock" in words


def test_film_and_wet_glue_are_told_and_tape_is_the_remedy() -> None:
    design = replace(set_stock(designed("mat", width=4, height=4), None, "vellum"), adhesive="wet-glue")
    assert codes(design) == [("glue", "mat")]
    assert codes(replace(design, adhesive="tape")) == []


@pytest.mark.parametrize(("stock", "bare"), [("pattern-160", True), ("pattern-190", False)])
def test_one_sided_paper_is_told_where_its_back_shows(stock: str, bare: bool) -> None:
    # a tray of one-sided paper shows its bare outside; a mat that lies on something shows its printed side only
    assert (("one-sided", "tray") in codes(boxed(1.0, stock))) is bare
    matted = add_guest(
        designed("tray", width=4, depth=4, height=1), "tray", Element("m", "mat", stock=stock), Place("floor")
    )
    assert codes(matted) == []
    flap = add_guest(designed("mat", width=5, height=5), "mat", Element("f", "flap", stock=stock), Place("face"))
    assert (("one-sided", "f") in codes(flap)) is bare  # lifted, its back is seen


@pytest.mark.parametrize("kind", sorted(families()))
def test_nothing_usual_is_warned_of(kind: str) -> None:
    assert codes(start_design(kind, {})) == []
