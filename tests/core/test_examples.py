"""What the commands say of the examples is what docs/examples.md tells: a change of any word or figure is read before
it is kept. It proves nothing; what it tells is proved elsewhere."""

from __future__ import annotations

import re
from pathlib import Path

import pytest

from yawning_lantern.cli.main import main
from yawning_lantern.words import in_a_row

ROOT = Path(__file__).parent.parent.parent
EXAMPLES = ROOT / "src" / "yawning_lantern" / "examples"
SAID = re.findall(
    r"^```\n\$ lantern ([^\n]*)\n(.*?)^```$", (ROOT / "docs" / "examples.md").read_text("utf-8"), re.S | re.M
)


@pytest.mark.parametrize(("command", "told"), SAID, ids=[command.partition(" --")[0] for command, _ in SAID])
def test_what_is_said_of_an_example(command: str, told: str, capsys: pytest.CaptureFixture[str]) -> None:
    name, file, *options = command.split()
    assert main([name, str(EXAMPLES / file), *options]) == 0
    assert capsys.readouterr().out == told


def test_every_example_is_told() -> None:
    assert {command.split()[1] for command, _ in SAID} == {file.name for file in EXAMPLES.glob("*.lantern")}


@pytest.mark.parametrize(
    ("names", "words"),
    [("", ""), ("a", "a"), ("ab", "a and b"), ("abc", "a, b and c"), ("abcd", "a, b, c and d")],
)
def test_names_in_a_row(names: str, words: str) -> None:
    assert in_a_row(names) == words
