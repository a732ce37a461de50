"""Paper that cannot do what it is asked: told with the part and what would help, and not told where all is well."""

from __future__ import annotations

import json
import math
from pathlib import Path

import jsonschema
import pytest
from msgspec.structs import replace
from shapely import LineString

from yawning_lantern.cli.main import main
from yawning_lantern.design import Design, Element, Lay, Place, add_guest, carry, set_lay, set_stock
from yawning_lantern.exchange.design_file import write_design
from yawning_lantern.measure import speak
from yawning_lantern.pattern.convex import least_width
from yawning_lantern.stock import Motif, SheetFormat, builtin_catalogue
from yawning_lantern.structures import families, start_design
from yawning_lantern.study import Study
from yawning_lantern.study.at_bench import plan_bench
from yawning_lantern.study.stock_warnings import SLENDER, stock_warnings
from yawning_lantern.study.wanted import folds_along, lying

from ..conftest import designed

TALL = SheetFormat("tall", "Tall", 300.0, 400.0, 300.0, 400.0)

SCHEMAS = Path(__file__).parent.parent.parent / "docs" / "schema"


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


@pytest.mark.parametrize(("pitch", "told"), [(30.0, False), (65.0, False), (74.0, True)])
def test_what_leans_holds_itself_and_what_nearly_stands_does_not(pitch: float, told: bool) -> None:
    """Slopes of a roof of copy paper rest on one another. From memory: up to some seventy degrees."""
    roof = start_design("roof", {"side": 200.0, "pitch": pitch}, stock="copy-80")
    assert (("thin", "roof") in codes(roof)) == told


def test_film_and_wet_glue_are_told_and_tape_is_the_remedy() -> None:
    design = replace(set_stock(designed("pocket", width=4, height=3), None, "vellum"), adhesive="wet-glue")
    assert codes(design) == [("glue", "pocket")]
    assert codes(replace(design, adhesive="tape")) == []
    # a pane of film is held by tape whatever the design's glue is, and its step says so
    pane = add_guest(designed("tray", width=4, depth=4, height=2), "tray", Element("pane", "mat", stock="vellum"),
                     Place("front-inside"))  # fmt: skip
    assert codes(replace(pane, adhesive="wet-glue")) == []
    step = next(s for s in plan_bench(Study(pane)).steps if s.act.startswith("pane."))
    assert "tape" in step.heed and "Wet glue" not in step.heed


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


# -- what else stock cannot do


def own(design: Design, **changes: object) -> Design:
    """The design made of the usual cardstock with something changed."""
    paper = replace(builtin_catalogue().paper("card-216"), id="own", **changes)  # type: ignore[arg-type]  # by name
    return set_stock(carry(design, paper), None, "own")


def test_coated_paper_and_wet_glue() -> None:
    tray = own(designed("tray", width=4, depth=4, height=1), coated=True)
    (warning,) = [w for w in stock_warnings(Study(tray)) if w.code == "glue"]
    assert "coated" in warning.what and "tape" in warning.remedy and "label" in warning.remedy
    assert ("glue", "tray") not in codes(warning.cures[0].design)
    assert warning.cures[0].design.adhesive == "tape"  # and no foam pads, which are thicker than a sheet
    assert ("glue", "tray") not in codes(replace(tray, adhesive="tape"))


@pytest.mark.parametrize(("caliper", "told"), [(0.8, False), (1.7, True), (2.0, True)])
def test_board_that_takes_no_score(caliper: float, told: bool) -> None:
    # from memory: grey board up to 1.5 mm takes a scored right angle, 2 mm has to be cut and hinged
    tray = own(designed("tray", width=8, depth=8, height=3), kind="board", measured=caliper)
    assert (("board", "tray") in codes(tray)) is told


@pytest.mark.parametrize(("grain", "told"), [("none", False), ("long", False), ("short", False)])
def test_grain_lies_along_the_longer_folds_where_nothing_forbids(grain: str, told: bool) -> None:
    book = own(start_design("accordion-spine", {}), grain=grain)
    assert any(code == "grain" for code, _ in codes(book)) is told
    # light, uncoated stock may be folded as it comes
    light = own(
        start_design("accordion-spine", {}), grain="long", grammage=120.0, front_motif=Motif("print", "#000000")
    )
    assert not any(code == "grain" for code, _ in codes(light))


def test_tape_wider_than_the_tab() -> None:
    narrow = designed("tray", width=4, depth=4, height=0.3)
    study = Study(narrow)
    tab = min(
        least_width(outline) for piece in study.pieces for outline in study.glued[piece.id]
    )  # fmt: skip
    assert 6 < tab < 12
    assert not [c for c, _ in codes(replace(narrow, adhesive="tape")) if c == "tape"]
    wide = stock_warnings(Study(replace(narrow, adhesive="tape-12")))
    (warning,) = [w for w in wide if w.code == "tape"]
    assert "12 mm" in speak(warning.what, "mm") and not [c for c, _ in codes(warning.cures[0].design) if c == "tape"]


def test_a_strip_that_its_pattern_lays_across_the_sheet() -> None:
    # 25 cm go along a sheet of A4 (ISO 216: 21 × 29.7 cm) and not across it
    paper = replace(builtin_catalogue().paper("card-216-a4"), id="own", front_motif=Motif("print", "#102030", 20.0))
    strip = set_stock(carry(designed("mat", width=10, height=2), paper), None, "own")
    (warning,) = [w for w in stock_warnings(Study(strip)) if w.code == "across"]
    assert "2 lengths" in warning.what and "joined once" in warning.what and "pattern" in warning.what
    assert not [c for c, _ in codes(warning.cures[0].design) if c == "across"]
    plain = replace(paper, front_motif=None)
    assert not [c for c, _ in codes(set_stock(carry(strip, plain), None, "own")) if c == "across"]


def test_the_plan_tells_what_stock_cannot_do(capsys: pytest.CaptureFixture[str], tmp_path: Path) -> None:
    file = tmp_path / "m.lantern"
    paper = replace(builtin_catalogue().paper("night-print-190"), id="own")
    mat = set_stock(carry(designed("mat", width=4, height=3), paper), None, "own")
    write_design(set_lay(mat, "mat", "mat", Lay(2)), file)
    assert main(["plan", str(file), "--json"]) == 0
    told = json.loads(capsys.readouterr().out)
    jsonschema.Draft202012Validator(json.loads((SCHEMAS / "plan.schema.json").read_text())).validate(told)
    (one,) = told["stock"]
    assert (one["code"], one["part"], one["panels"]) == ("upside-down", "mat", ["mat (front)"])
    assert "Turn Mat by half a turn" in one["text"]
    assert main(["plan", str(file)]) == 0 and "stands on its head" in capsys.readouterr().out


@pytest.mark.parametrize("kind", sorted(families()))
def test_folds_along_and_across_the_grain(kind: str) -> None:
    """By length and angle of every crease, of grain that runs up the sheet and across it."""
    for piece in Study(start_design(kind, {})).pieces:
        for grain_up in (True, False):
            laid = replace(piece, stock=replace(piece.stock, grain="long" if grain_up else "short", sheet=TALL))
            up = level = 0.0
            for crease in piece.creases:
                line = LineString([crease.start, crease.end])
                angle = math.atan2(crease.end[1] - crease.start[1], crease.end[0] - crease.start[0])
                up, level = up + line.length * abs(math.sin(angle)), level + line.length * abs(math.cos(angle))
            turned = lying(laid)[1]
            assert laid.stock.grain_up == grain_up
            want = (up, level) if grain_up != turned else (level, up)
            assert folds_along(laid) == pytest.approx(want, abs=1e-6)
