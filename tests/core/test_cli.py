"""The command line as a script sees it."""

from __future__ import annotations

import json
from pathlib import Path

import pytest

from yawning_lantern.cli.main import main

from ..conftest import DEMO


def run(capsys: pytest.CaptureFixture[str], *words: str) -> tuple[int, str, str]:
    code = main(words)
    out, err = capsys.readouterr()
    return code, out, err


def test_families_are_listed_with_the_ids_that_scripts_rely_on(capsys: pytest.CaptureFixture[str]) -> None:
    code, out, _ = run(capsys, "families", "--json")
    listed = {f["id"]: {p["id"] for p in f["parameters"]} for f in json.loads(out)["families"]}
    assert code == 0
    assert listed["explosion-box"] >= {
        "base",
        "wall",
        "sides",
        "layers",
        "layer-step",
        "corner",
        "content-width",
        "content-depth",
        "content-height",
    }
    assert listed["lid"] >= {"over-width", "over-depth", "rim", "rim-kind", "play"}
    assert listed["tray"] >= {"width", "depth", "height"} and listed["mat"] >= {"width", "height", "border"}
    assert "explosion-box" in run(capsys, "families")[1]


def test_plan_from_contents(capsys: pytest.CaptureFixture[str], tmp_path: Path) -> None:
    pdf, table = tmp_path / "p.pdf", tmp_path / "p.csv"
    code, out, _ = run(
        capsys,
        "plan",
        "--family",
        "explosion-box",
        "--from",
        "contents",
        "--set",
        "content-width=60mm",
        "--set",
        "content-depth=60mm",
        "--set",
        "content-height=45mm",
        "--set",
        "layers=3",
        "--set",
        "lid=easy",
        "--units",
        "mm",
        "--json",
        "--pdf",
        str(pdf),
        "--csv",
        str(table),
    )
    found = json.loads(out)
    assert code == 0 and pdf.read_bytes().startswith(b"%PDF") and "piece,quantity" in table.read_text()
    assert found["solved"]["content-width"] == 60 and found["solved"]["layers"] == 3
    assert found["finished"]["closed"][0] > found["solved"]["base"]
    assert {c["verdict"] for c in found["fits"]} <= {"snug", "easy", "loose"}


def test_from_sheet_takes_the_stock(capsys: pytest.CaptureFixture[str]) -> None:
    _, out, _ = run(capsys, "plan", "--family", "explosion-box", "--from", "sheet", "--json")
    assert json.loads(out)["solved"]["base"] == pytest.approx(4)
    _, out, _ = run(capsys, "plan", "--family", "explosion-box", "--from", "sheet", "--stock", "pattern-6x6", "--json")
    assert json.loads(out)["solved"]["sheet"] == pytest.approx(6)


@pytest.mark.parametrize(
    ("words", "told"),
    [
        (["--family", "explosion-bx"], "Did you mean explosion-box"),
        (["--family", "tray", "--set", "widht=3"], "width"),
        (["--family", "tray", "--set", "width=wide"], "cannot be read"),
        (["--family", "tray", "--set", "width"], "key=value"),
        (["--family", "tray", "--set", "width=-3"], "below zero"),
        (["--family", "tray", "--set", "width=0"], "out of bounds"),
        (["--family", "explosion-box", "--set", "sides=2"], "3 to 12"),
        (["--family", "mat", "--set", "border=3"], "border"),
        (["--family", "explosion-box", "--set", "corner=round"], "plain or pocket"),
        (["--family", "explosion-box", "--set", "sheet=8", "--set", "wall=4"], "wall"),
        (["--family", "explosion-box", "--set", "sides=6", "--set", "corner=pocket"], "four walls"),
        (["--family", "explosion-box", "--set", "sides=four"], "whole number"),
        (["--family", "explosion-box", "--from", "contents"], "content-width and content-height"),
        (["--family", "tray", "--stock", "gold"], "no stock"),
        ([], "--family"),
        (["--family", "explosion-box", "--from", "size", "--set", "sheet=12"], "finished size"),
        (["--family", "explosion-box", "--set", "layers=6", "--set", "base=2"], "base"),
    ],
)
def test_what_cannot_be_exits_two_with_a_sentence(
    capsys: pytest.CaptureFixture[str], words: list[str], told: str
) -> None:
    code, out, err = run(capsys, "plan", *words)
    assert code == 2 and out == "" and told in err and err.startswith("lantern: ") and "Traceback" not in err


@pytest.mark.parametrize("words", [[], ["stock"], ["edit"], ["edit", "x.lantern"]])
def test_what_to_do_is_listed_where_it_was_left_out(capsys: pytest.CaptureFixture[str], words: list[str]) -> None:
    code, out, err = run(capsys, *words)
    assert code == 2 and out == "" and "What to do is missing" in err
    listed = {"stock": "import", "edit": "rename"}.get(words[0] if words else "", "bench-plan")
    assert listed in err


def test_a_clash_exits_one_with_the_plan(capsys: pytest.CaptureFixture[str]) -> None:
    code, out, _ = run(capsys, "plan", "--family", "explosion-box", "--set", "base=6", "--set", "wall=6", "--json")
    assert code == 1 and any(c["verdict"] == "clash" for c in json.loads(out)["fits"])


def test_a_file_is_planned_and_a_bad_one_told(capsys: pytest.CaptureFixture[str], tmp_path: Path) -> None:
    code, out, _ = run(capsys, "plan", str(DEMO))
    assert code == 0 and "Night sky box" in out and "Closed " in out
    bad = tmp_path / "x.lantern"
    bad.write_text("{")
    code, _, err = run(capsys, "plan", str(bad))
    assert code == 2 and "line 1" in err
    assert run(capsys, "plan", "--family", "tray", "--set", "width=3", "--pdf", str(tmp_path / "no" / "x.pdf"))[0] == 2


def test_a_family_at_fault_is_told(capsys: pytest.CaptureFixture[str], monkeypatch: pytest.MonkeyPatch) -> None:
    from yawning_lantern.structures.kit import shell

    monkeypatch.setattr(shell, "MITRE", -5.0)  # tabs that lie on the walls beside them
    code, out, err = run(capsys, "plan", "--family", "tray", "--set", "width=4")
    assert code == 2 and out == "" and "is not sound: overlap" in err


def test_the_reference_is_printed(capsys: pytest.CaptureFixture[str]) -> None:
    code, out, _ = run(capsys, "families", "--markdown")
    assert code == 0 and out == (Path(__file__).parent.parent.parent / "docs" / "structures.md").read_text()
