"""The shopping list against hand-worked figures, and its files read by other means than they were written with."""

from __future__ import annotations

import csv
import io
import json
import zipfile
from pathlib import Path
from xml.etree import ElementTree

import pytest
from msgspec.structs import replace

from yawning_lantern.cli.main import main
from yawning_lantern.design import Design, Element, Place, add_guest
from yawning_lantern.errors import ParameterError
from yawning_lantern.exchange.shopping_list import buy_words, shopping_bytes
from yawning_lantern.sheets import Board, Effort, Plan, Trimmer, plan_sheets
from yawning_lantern.study import Study
from yawning_lantern.study.shopping import Buy, shopping, tape_along
from yawning_lantern.study.wanted import boards_of, wanted
from yawning_lantern.workshop import Workshop

from ..conftest import designed

QUICK = Effort(moves=0, seconds=1.0, proof=0.0)


def planned(study: Study, copies: int = 1) -> Plan:
    return plan_sheets(wanted(study, copies), boards_of(study), Trimmer(), QUICK)


def listed(design: Design, copies: int = 1, have: dict[str, int] | None = None) -> tuple[Buy, ...]:
    study = Study(design)
    return shopping(study, planned(study, copies), copies, have)


def matted(adhesive: str) -> Design:
    """A mat of 80 × 60 mm on the floor of a tray whose tabs are known."""
    tray = designed("tray", width=4, depth=4, height=1)
    mat = Element("m", "mat", settings={"width": 80.0, "height": 60.0})
    return replace(add_guest(tray, "tray", mat, Place("floor")), adhesive=adhesive)


@pytest.mark.parametrize(
    ("sides", "width", "along"),
    [((100.0, 12.0), 6.0, 100.0), ((12.0, 100.0), 6.0, 100.0), ((80.0, 60.0), 6.0, 280.0), ((80.0, 36.0), 12.0, 80.0)],
)
def test_tape_runs_along_a_tab_and_around_a_mat(sides: tuple[float, float], width: float, along: float) -> None:
    w, h = sides  # worked by hand
    assert tape_along(((0, 0), (w, 0), (w, h), (0, h)), width) == pytest.approx(along)


def test_tape_is_told_by_width_and_length_and_in_rolls() -> None:
    bare, full = (next(b for b in listed(d) if b.kind == "tape") for d in (
        replace(designed("tray", width=4, depth=4, height=1), adhesive="tape"), matted("tape")))  # fmt: skip
    assert bare.length and full.length and full.what == "Double-sided tape 6 mm" and full.count == 1
    w, h = Study(matted("tape")).resolved["m"].part.pieces[0].size
    assert full.length - bare.length == pytest.approx(1.1 * 2 * (w + h))  # a tenth more for square ends
    # four tabs of 1 in by 15/16 in, worked from the pattern but for what the
    # paper's thickness adds: wider than three tapes, so a strip along every edge
    assert bare.length / 1.1 == pytest.approx(4 * 2 * (25.4 + 15 / 16 * 25.4), abs=0.8)
    many = next(b for b in listed(matted("tape"), copies=50) if b.kind == "tape")
    assert many.length == pytest.approx(50 * full.length) and many.count == -(-int(many.length) // 20_000)


def test_glue_is_told_by_what_it_holds() -> None:
    glue = next(b for b in listed(matted("wet-glue")) if b.kind == "glue")
    w, h = Study(matted("wet-glue")).resolved["m"].part.pieces[0].size
    bare = next(b for b in listed(designed("tray", width=4, depth=4, height=1)) if b.kind == "glue")
    assert glue.area and bare.area and glue.area - bare.area == pytest.approx(w * h)
    assert "of joints" in buy_words(glue, "in") and "cm²" in buy_words(glue, "mm")


def test_ready_made_things_and_what_goes_by_length_are_on_it() -> None:
    tray = add_guest(matted("tape"), "m", Element("p", "photo", "Star", {"format": "id-card"}), Place("face"))
    star = next(b for b in listed(tray, copies=3) if b.kind == "ready-made")
    assert (star.count, star.missing) == (3, 3) and star.size == pytest.approx((85.60, 53.98))  # ISO/IEC 7810 ID-1
    ribbon = next(b for b in listed(designed("tier-wrap"), copies=2) if b.kind == "by length")
    assert ribbon.count == 2 and ribbon.length and ribbon.length > 100


def test_what_is_there_need_not_be_bought() -> None:
    study = Study(designed("explosion-box", base=4, wall=4, lid="easy"))
    plan = planned(study)
    (sheets,) = (b for b in shopping(study, plan, 1, {"card-216": 1}) if b.kind == "sheets")
    assert (sheets.count, sheets.have, sheets.missing) == (plan.count, 1, plan.count - 1) and plan.count > 1
    assert "1 in the drawer" in buy_words(sheets, "in")
    (fewer,) = (b for b in shopping(study, plan, 1, {"card-216": 1}, cut=(0,)) if b.kind == "sheets")
    assert fewer.count == plan.count - 1
    assert not [b for b in shopping(study, plan, 1, {}, cut=range(plan.count)) if b.kind == "sheets"]


def test_off_cuts_are_not_bought() -> None:
    study = Study(designed("mat", width=4, height=3))
    kept = Board("off-cut 1", "card-216", 200.0, 200.0, 1, kept=True)
    plan = plan_sheets(wanted(study), (*boards_of(study), kept), Trimmer(), QUICK)
    assert plan.count == 0 and not [b for b in shopping(study, plan, 1) if b.kind == "sheets"]


def test_the_files_say_what_the_list_says() -> None:
    buy = listed(matted("tape"), copies=2, have={"card-216": 9})
    told = list(csv.DictReader(io.StringIO(shopping_bytes(buy, "in", "Trays", Path("x.csv")).decode())))
    assert [row["what"] for row in told] == [b.what for b in buy]
    assert told[0]["in the drawer"] == "9" and told[0]["to buy"] == "0"
    # OpenDocument 1.3 (ISO/IEC 26300), part 2: the media type is the first entry and is not compressed
    with zipfile.ZipFile(io.BytesIO(shopping_bytes(buy, "in", "Trays", Path("x.ods")))) as pack:
        first = pack.infolist()[0]
        assert (first.filename, first.compress_type) == ("mimetype", zipfile.ZIP_STORED)
        assert pack.read("mimetype") == b"application/vnd.oasis.opendocument.spreadsheet"
        content = ElementTree.fromstring(pack.read("content.xml"))
    names = "urn:oasis:names:tc:opendocument:xmlns:"
    table, office = f"{{{names}table:1.0}}", f"{{{names}office:1.0}}"
    lines = list(content.iter(f"{table}table-row"))
    rows = [["".join(cell.itertext()) for cell in line.iter(f"{table}table-cell")] for line in lines]
    assert rows[0] == list(told[0]) and rows[1:] == [list(row.values()) for row in told]
    numbers = [cell for cell in content.iter(f"{table}table-cell") if cell.get(f"{office}value-type") == "float"]
    assert len(numbers) >= 2 * len(buy) and all(float(cell.get(f"{office}value", "x")) >= 0 for cell in numbers)
    with pytest.raises(ParameterError):
        shopping_bytes(buy, "in", "Trays", Path("x.doc"))


def test_the_demo_down_to_its_shopping_list(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    from importlib.resources import files

    demo = str(files("yawning_lantern").joinpath("examples/comet-night-set.lantern"))
    drawer = Workshop(tmp_path / "w.sqlite")
    drawer.count("card-216", 1)
    own = ["--workshop", str(drawer.path)]
    assert main(["sheets", demo, "--seconds", "0.3", "--json", "--shopping", str(tmp_path / "s.ods"), *own]) == 0
    plan = json.loads(capsys.readouterr().out)
    sheets = [one for one in plan["buy"] if one["kind"] == "sheets"]
    assert sum(one["count"] for one in sheets) == plan["count"]
    assert next(one for one in sheets if "216" in one["what"])["missing"] == 1
    assert {one["kind"] for one in plan["buy"]} == {"sheets", "ready-made", "by length", "glue"}
    assert zipfile.is_zipfile(tmp_path / "s.ods")
    # three papers with a direction: their pieces lie as the pattern asks, however they came to lie there
    turned = {p["piece"]: p["turned"] for sheet in plan["sheets"] for p in sheet["placed"]}
    assert turned["Order of the evening"] and turned["Map of the marsh"] and not turned["Full moon"]


@pytest.mark.parametrize("adhesive", ["tape", "wet-glue"])
def test_what_lies_alone_is_glued_to_nothing(adhesive: str) -> None:
    alone = replace(designed("mat", width=4, height=3), adhesive=adhesive)
    assert not [b for b in listed(alone) if b.kind in ("tape", "glue")]
