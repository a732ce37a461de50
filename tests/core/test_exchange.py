"""Files in and out: designs, plans, cut lists, templates read back by foreign libraries."""

from __future__ import annotations

import csv
import io
import json
import os
from pathlib import Path
from threading import Thread

import jsonschema
import pdfplumber
import pytest
from hypothesis import given
from hypothesis import strategies as st
from pypdf import PdfReader

from yawning_lantern.design import Design, Element, Place, add_guest, set_value
from yawning_lantern.errors import DesignFileError, LanternError, UnknownNameError, WriteError
from yawning_lantern.exchange.design_file import from_bytes, read_design, schema, to_bytes, write_design
from yawning_lantern.exchange.files import write_atomically
from yawning_lantern.exchange.pages import PAPERS, template_pages
from yawning_lantern.exchange.pdf import write_templates
from yawning_lantern.exchange.plan import cut_list, plan
from yawning_lantern.exchange.recovery import Recovery
from yawning_lantern.study import Study

from ..conftest import DEMO, designed

DOCS = Path(__file__).parent.parent.parent / "docs" / "schema"
POINT = 72 / 25.4


def test_design_files_come_back_as_they_went(tmp_path: Path) -> None:
    design = add_guest(
        designed("explosion-box", base=3.1, wall=4, layers=2), "box", Element("lid", "lid"), Place("mouth")
    )
    write_design(design, tmp_path / "a.lantern")
    assert read_design(tmp_path / "a.lantern") == design
    assert [p.name for p in tmp_path.iterdir()] == ["a.lantern"]  # nothing left beside it


def test_published_schemas_are_current_and_hold() -> None:
    published = json.loads((DOCS / "design.schema.json").read_text())
    assert published == json.loads(json.dumps(schema()))
    validator = jsonschema.Draft202012Validator(published)
    validator.validate(json.loads(DEMO.read_text()))
    validator.validate(json.loads(to_bytes(designed("tray", width=2))))
    assert not validator.is_valid({"format": "yawning-lantern", "root": {"id": 3, "family": "tray"}})
    plans = jsonschema.Draft202012Validator(json.loads((DOCS / "plan.schema.json").read_text()))
    for units in ("in", "mm"):
        plans.validate(plan(Study(read_design(DEMO)), units))  # type: ignore[arg-type]  # a plain text for a literal


@pytest.mark.parametrize(
    ("data", "words"),
    [
        (b"", "line 1"),
        (b"\xff\xfe\x00", "byte 0"),
        (b'{"format": "yawning-lantern", ', "damaged"),
        (b"[]", "not a"),
        (b'{"format": "drawing"}', "not a Yawning Lantern"),
        (b'{"format": "yawning-lantern", "version": 99}', "newer"),
        (b'{"format": "yawning-lantern", "version": "one"}', "version"),
        (b'{"format": "yawning-lantern", "version": true}', "version"),
        (b'{"format": "yawning-lantern", "version": 1}', "root"),
        (
            b'{"format": "yawning-lantern", "version": 1, "root": {"id": "a", "family": "lid", "settings": {"w": []}}}',
            "settings",
        ),
        (
            b'{"format": "yawning-lantern", "version": 1, "root": {"id": "a", "family": "tray", "colour": "red"}}',
            "colour",
        ),
        (b"[" * 200_000, "deep"),
        (
            b'{"format": "yawning-lantern", "version": 1, "root": {"id": "a", "family": "lid", "guests": NaN}}',
            "NaN",
        ),
    ],
)
def test_bad_files_get_a_sentence_that_says_what_and_where(data: bytes, words: str) -> None:
    with pytest.raises(DesignFileError, match=words) as caught:
        from_bytes(data, "box.lantern")
    assert caught.value.where == "box.lantern" and caught.value.sentence().endswith(".")


def test_huge_and_missing_files(tmp_path: Path) -> None:
    with pytest.raises(DesignFileError, match="cannot be read"):
        read_design(tmp_path / "none.lantern")
    big = tmp_path / "big.lantern"
    with big.open("wb") as file:
        file.truncate(50_000_000)
    with pytest.raises(DesignFileError, match=r"50\.0 MB"):
        read_design(big)


@given(st.binary(max_size=200), st.integers(0, 2000), st.integers(0, 255))
def test_no_bytes_break_the_reader(junk: bytes, at: int, byte: int) -> None:
    whole = bytearray(DEMO.read_bytes())
    whole[at % len(whole)] = byte
    for data in (junk, bytes(whole), bytes(whole[:at])):
        try:
            assert isinstance(from_bytes(data), Design)
        except DesignFileError as error:
            assert error.sentence()


def test_writing_is_whole_or_not_at_all(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    target = tmp_path / "a.txt"
    target.write_bytes(b"old")

    def fail(*_: object) -> None:
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(os, "fsync", fail)
    with pytest.raises(WriteError, match="No space left"):
        write_atomically(target, b"new")
    assert target.read_bytes() == b"old" and len(list(tmp_path.iterdir())) == 1
    with pytest.raises(WriteError, match="Nothing can be written there"):
        write_atomically(tmp_path / "no" / "a.txt", b"new")


def test_what_was_let_go_is_not_kept_by_a_thread_that_comes_late(tmp_path: Path) -> None:
    recovery, design = Recovery(tmp_path / "autosave"), read_design(DEMO)
    late = recovery.keeper(design, None)
    recovery.discard()
    late()
    assert not recovery.file.exists()
    recovery.keeper(design, None)()
    assert recovery.file.exists()
    for _ in range(20):
        workers = [Thread(target=recovery.keeper(design, None)) for _ in range(3)]
        for worker in workers:
            worker.start()
        recovery.discard()
        for worker in workers:
            worker.join()
        assert not recovery.file.exists()


def test_autosaves_of_ended_programs_are_found(tmp_path: Path) -> None:
    alive, dead = Recovery(tmp_path), Recovery(tmp_path)
    alive.save(designed("tray", width=2), None)
    dead.save(designed("tray", width=3), Path("/somewhere/x.lantern"))
    record = json.loads(dead.file.read_text())
    dead.file.write_text(json.dumps({**record, "started": "0"}))  # the same pid, another process
    (tmp_path / "junk.autosave").write_text("{")
    found = Recovery(tmp_path).leftovers()
    assert [(left.file, left.path) for left in found] == [(dead.file, Path("/somewhere/x.lantern"))]
    assert found[0].design.root.settings["width"] == pytest.approx(76.2)


def test_cut_list_reads_back_as_a_table() -> None:
    rows = list(csv.DictReader(io.StringIO(cut_list(Study(designed("explosion-box", sheet=11, wall=4))))))
    assert rows[0]["width (in)"] == "11" and rows[0]["scores from the left"] == "4; 7"
    assert float(rows[0]["height (decimal)"]) == 11.0
    mm = list(csv.DictReader(io.StringIO(cut_list(Study(designed("tray", width=4, depth=3, height=1)), "mm"))))
    assert float(mm[0]["width (decimal)"]) == pytest.approx(152.4)


@pytest.mark.parametrize("paper", list(PAPERS))
def test_template_pages_have_the_paper_and_every_line_at_its_place(tmp_path: Path, paper: str) -> None:
    # paper sizes: ISO 216 (A4, A3), ANSI/ASME Y14.1 (Letter); lines read back by pdfplumber within 0.1 mm
    study = Study(designed("explosion-box", base=2, wall=1.5))
    out = tmp_path / "t.pdf"
    count = write_templates(study, out, paper)
    want = {"letter": (612.0, 792.0), "a4": (595.28, 841.89), "a3": (841.89, 1190.55), "12x12": (864.0, 864.0)}[paper]
    assert len(PdfReader(out).pages) == count
    with pdfplumber.open(out) as pdf:
        for page in pdf.pages:
            assert (float(page.width), float(page.height)) == pytest.approx(want, abs=0.02)
        page = pdf.pages[0]
        lines = [
            tuple(float(v) / POINT for v in (ln["x0"], ln["x1"], page.height - ln["bottom"], page.height - ln["top"]))
            for ln in page.lines
        ]
        text = page.extract_text()
    assert "Explosion box" in text and "100 mm" in text
    bars = sorted(x1 - x0 for x0, x1, y0, y1 in lines if abs(y1 - y0) < 0.01)
    assert any(abs(b - 100.0) < 0.1 for b in bars) and any(abs(b - 101.6) < 0.1 for b in bars)
    left, foot = min(x for x, *_ in lines), None
    piece = study.pieces[0]
    found = [(x0, x1, y0, y1) for x0, x1, y0, y1 in lines]
    top = max(y1 for *_, y1 in found)
    foot = top - piece.size[1]
    for line in piece.lines:
        xs, ys = sorted((line.start[0], line.end[0])), sorted((line.start[1], line.end[1]))
        expected = (left + xs[0], left + xs[1], foot + ys[0], foot + ys[1])
        assert any(all(abs(a - b) < 0.1 for a, b in zip(expected, one, strict=True)) for one in found), line


def test_tiles_overlap_and_together_show_every_line_whole() -> None:
    from yawning_lantern.exchange.shapes import Stroke

    study = Study(designed("explosion-box", base=4, wall=4))
    pages = [p for p in template_pages(study, "letter", "in") if "tile" in p.title]
    words = " ".join([*(p.title for p in pages), *(getattr(s, "text", "") for p in pages for s in p.shapes)])
    assert all(f"tile {name} of 2 × 2" in words for name in ("A1", "A2", "B1", "B2")) and len(pages) <= 4
    assert all(words.count(f"joins {name}") == 2 for name in ("A1", "A2", "B1", "B2"))
    lengths = sum(
        abs(s.start[0] - s.end[0]) + abs(s.start[1] - s.end[1])
        for page in pages
        for s in page.shapes
        if isinstance(s, Stroke) and s.pen == "valley" and s.start[1] > 24
    )
    assert lengths >= 4 * 4 * 25.4  # four scores of four inches, more where tiles overlap
    with pytest.raises(UnknownNameError):
        template_pages(study, "a7", "in")


def test_plan_tells_lengths_in_the_chosen_unit() -> None:
    study = Study(designed("tray", width=4, depth=3, height=1))
    inch, mm = plan(study, "in"), plan(study, "mm")
    assert inch["pieces"][0]["width"] == pytest.approx(6.0) and mm["pieces"][0]["width"] == pytest.approx(152.4)
    assert inch["pieces"][0]["height"] == pytest.approx(5.0)
    folds = {(ln["kind"], ln["fold"]) for ln in inch["pieces"][0]["lines"]}
    assert folds == {("score", "valley")}
    lid = plan(Study(designed("lid", over_width=3, over_depth=3)))
    assert {(ln["kind"], ln["fold"]) for ln in lid["pieces"][0]["lines"]} == {("score", "mountain")}
    clash = plan(Study(set_value(designed("tray", width=4), "tray", "sheet", 900.0)))
    assert clash["solved"]["width"] == pytest.approx(4.0)


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"calipers": {"card-216": -1.0}}, "cannot be"),
        ({"calipers": {"card-216": 1e999}}, "cannot be"),
        ({"stock": "gold leaf"}, "no stock"),
        ({"cut_tool": "scissors"}, "no tool"),
        ({"adhesive": "spit"}, "no adhesive"),
        ({"root": {"id": "a", "family": "tray", "settings": {"width": 1e999}}}, "out of bounds"),
        ({"root": {"id": "a", "family": "tray", "settings": {"width": "wide"}}}, "cannot stand here"),
        ({"root": {"id": "a", "family": "tray", "settings": {"wings": 2}}}, "no parameter"),
        (
            {
                "root": {
                    "id": "a",
                    "family": "tray",
                    "guests": [{"id": "b", "family": "mat", "place": {"face": "left-inside", "x": 1e9}}],
                }
            },
            "far off",
        ),
        (
            {
                "root": {
                    "id": "a",
                    "family": "tray",
                    "guests": [{"id": "b", "family": "mat", "place": {"face": "left-inside", "turn": 10**30}}],
                }
            },
            "far off|expected|int",
        ),
    ],
)
def test_files_with_impossible_values_get_a_sentence(change: dict[str, object], words: str) -> None:
    raw = {"format": "yawning-lantern", "version": 1, "root": {"id": "a", "family": "tray"}, **change}
    with pytest.raises(LanternError, match=words) as caught:
        Study(from_bytes(json.dumps(raw).replace("Infinity", "1e999").encode()))
    assert caught.value.sentence().endswith((".", "?"))


def test_turns_beyond_a_full_one_are_the_same() -> None:
    design = add_guest(designed("tray", width=4, depth=3), "tray", Element("m", "tray"), Place("floor", turn=5))
    same = add_guest(designed("tray", width=4, depth=3), "tray", Element("m", "tray"), Place("floor", turn=1))
    assert Study(design).current("m", "width") == Study(same).current("m", "width")
    assert [c.gap.value for c in Study(design).checks] == pytest.approx([c.gap.value for c in Study(same).checks])
