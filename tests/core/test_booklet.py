"""The booklet, read back by others: every step is in it, with its numbers, and every piece at its true size."""

from __future__ import annotations

import io
from pathlib import Path

import pdfplumber
import pypdf
import pytest

from yawning_lantern.bench import KINDS
from yawning_lantern.cli.main import main
from yawning_lantern.exchange.booklet import EFFORT, booklet
from yawning_lantern.exchange.cutting import sheet_pages
from yawning_lantern.exchange.design_file import read_design
from yawning_lantern.exchange.pages import template_pages
from yawning_lantern.exchange.shapes import Label
from yawning_lantern.measure import format_length
from yawning_lantern.sheets import plan_sheets
from yawning_lantern.study import Study
from yawning_lantern.study.at_bench import plan_bench
from yawning_lantern.study.wanted import boards_of, trimmer_of, wanted

from ..conftest import DEMO, designed

SET = DEMO.with_name("comet-night-set.lantern")
MM = 72 / 25.4


def made(study: Study, *, trial: bool = False) -> list[str]:
    """The text of every page."""
    sheets = plan_sheets(wanted(study), boards_of(study), trimmer_of(study.design, study.catalogue), EFFORT)
    data = booklet(study, plan_bench(study), None if trial else sheets, "in", "letter")
    return [page.extract_text() for page in pypdf.PdfReader(io.BytesIO(data)).pages]


def test_every_step_of_the_set_is_in_its_booklet() -> None:
    study = Study(read_design(SET))
    plan, pages = plan_bench(study), made(study)
    assert study.design.name in pages[0] and "4 23/32" in pages[0]
    text = "\n".join(pages)
    for k, step in enumerate(plan.steps):
        assert f"{k + 1} {KINDS[step.kind]}" in text.replace("  ", " "), step.id
        for reading in step.placing.readings[:6] if step.placing else ():
            assert format_length(reading.mark, "in", mark=False) in text
    for heading in ("What must be had", "Sheet 1 of", "How it opens", "Take care", "Notes for next time"):
        assert heading in text
    assert "{" not in text and "mm}" not in text
    headings = ("What must be had", "Sheet 1 of", "Steps 1 and on", "How it opens", "Take care")
    order = [next(k for k, page in enumerate(pages) if words in page) for words in headings]
    assert order == sorted(order)


def test_a_paper_trial_has_steps_and_templates_only() -> None:
    study = Study(designed("lid", rim_kind="double"))
    trial, whole = "\n".join(made(study, trial=True)), "\n".join(made(study))
    assert "Paper trial" in trial and "copy paper" in trial and "What must be had" not in trial
    assert "What must be had" in whole and "Sheet 1 of 1" in whole
    templates = template_pages(study, "letter", "in")
    assert len(made(study, trial=True)) >= len(templates) + 3


def test_templates_keep_their_size_in_the_booklet() -> None:
    study = Study(designed("tray", width=3, depth=3, height=1))
    sheets = plan_sheets(wanted(study), boards_of(study), trimmer_of(study.design, study.catalogue), EFFORT)
    data = booklet(study, plan_bench(study), sheets, "in", "letter")
    with pdfplumber.open(io.BytesIO(data)) as read:
        found = [line for page in read.pages[-4:] for line in page.lines]
    lengths = {round(max(abs(n["x1"] - n["x0"]), abs(n["bottom"] - n["top"])) / MM, 1) for n in found}
    assert 76.2 in lengths  # 3 in, score to score


def test_off_cuts_are_named_where_they_lie() -> None:
    study = Study(designed("tray", width=3, depth=3, height=1))
    sheets = plan_sheets(wanted(study), boards_of(study), trimmer_of(study.design, study.catalogue), EFFORT)
    page = sheet_pages(sheets, {}, "in")[0]
    piece = next(s for s in page.shapes if isinstance(s, Label) and s.text == "Tray")
    marks = [s for s in page.shapes if isinstance(s, Label) and s.text.startswith("off-cut")]
    scale = min((page.width - 16) / sheets.sheets[0].board.width, page.height * 0.5 / sheets.sheets[0].board.height)
    placed = sheets.sheets[0].placed[0]
    low = piece.at[1] - (placed.y + placed.height / 2) * scale
    useful = [part for part in sheets.sheets[0].left if part.useful]
    assert len(marks) == len(useful) > 0
    for mark, part in zip(marks, useful, strict=True):
        x, y = (mark.at[0] - 8.0) / scale, (mark.at[1] - low) / scale
        assert part.x < x < part.x + part.width and part.y < y < part.y + part.height


def test_the_command_writes_it(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    out = tmp_path / "book.pdf"
    assert main(["booklet", "--family", "tray", "--pdf", str(out), "--paper", "a4", "--copies", "2"]) == 0
    assert "steps on paper" in capsys.readouterr().out
    assert len(pypdf.PdfReader(out).pages) > 5
    assert main(["booklet", "--family", "tray", "--pdf", str(out), "--copies", "0"]) == 2
