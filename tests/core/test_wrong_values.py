"""What a person can get wrong with any structure on the command line: a sentence says what, and what would help."""

from __future__ import annotations

import subprocess
import sys
from pathlib import Path

import pytest

from yawning_lantern.cli.main import main
from yawning_lantern.structures import families, family

KINDS = sorted(families())


def refused(capsys: pytest.CaptureFixture[str], *arguments: str) -> str:
    """What is told when a plan is refused."""
    assert main(["plan", *arguments]) == 2
    said = capsys.readouterr()
    assert said.out == "" and "Traceback" not in said.err
    assert said.err.strip()[-1] in ".?"
    return said.err


@pytest.mark.parametrize("kind", KINDS)
def test_every_parameter_refuses_what_it_cannot_be(kind: str, capsys: pytest.CaptureFixture[str]) -> None:
    for declared in family(kind).parameters:
        given = "banana"
        if declared.derived:
            told = refused(capsys, "--family", kind, "--set", f"{declared.id}=1")
            assert "worked out" in told
            continue
        told = refused(capsys, "--family", kind, "--set", f"{declared.id}={given}")
        assert given in told
        if declared.kind in ("text", "lengths"):
            continue
        if declared.kind == "word":
            assert any(word in told for word in declared.words)
        else:
            least = refused(capsys, "--family", kind, "--set", f"{declared.id}=-3")
            assert declared.label in least or "-3" in least or "−3" in least
            most = refused(capsys, "--family", kind, "--set", f"{declared.id}=999999")
            assert declared.label in most and ("out of bounds" in most or "over ten metres" in most)


@pytest.mark.parametrize("kind", KINDS)
def test_every_structure_knows_its_parameters(kind: str, capsys: pytest.CaptureFixture[str]) -> None:
    names = [p.id for p in family(kind).parameters if not p.derived]
    told = refused(capsys, "--family", kind, "--set", f"{names[0]}x=1")
    assert names[0] in told  # the nearest name is offered
    refused(capsys, "--family", kind, "--set", names[0])


@pytest.mark.parametrize("kind", KINDS)
def test_a_family_that_is_no_name_gets_the_nearest(kind: str, capsys: pytest.CaptureFixture[str]) -> None:
    assert kind in refused(capsys, "--family", kind[:-1] + "q")


@pytest.mark.parametrize(
    ("arguments", "said"),
    [
        (["opening", "--family", "no-such-thing"], "no-such-thing"),
        (["opening"], "Give either a design file or --family."),
        (["opening", "--family", "mat", "--set", "width=wide"], "wide"),
        (["opening", "--family", "flap", "--strip", "steps.doc"], "End the name in .pdf or .svg."),
        (["opening", "--family", "flap", "--film", "film.mov"], "Choose gif or png."),
        (["opening", "no-such-file.lantern"], "no-such-file"),
    ],
)
def test_opening_says_what_is_wrong_and_ends_with_2(
    arguments: list[str], said: str, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    monkeypatch.chdir(tmp_path)
    assert main(arguments) == 2
    error = capsys.readouterr().err
    assert error.startswith("lantern: ") and said in error and "Traceback" not in error
    assert list(tmp_path.iterdir()) == []


def test_a_reader_that_has_read_enough_is_no_fault(tmp_path: Path) -> None:
    """The first line is read and the pipe closed, as `head -1` does; what was to be written is written."""
    target = tmp_path / "pose.obj"
    command = [sys.executable, "-m", "yawning_lantern.cli.main", "opening", "--family", "flap", "--pose", str(target)]
    with subprocess.Popen(command, stdout=subprocess.PIPE, stderr=subprocess.PIPE, text=True, bufsize=1) as child:
        assert child.stdout is not None and child.stderr is not None
        child.stdout.close()
        assert child.stderr.read() == "" and child.wait() == 0
    assert target.exists()
