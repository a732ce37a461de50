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
    words = [str(EXAMPLES / word) if word.endswith(".lantern") else word for word in command.split()]
    unanswered = words[0] == "fold-search" and re.search(r"^(No|Each|Every) .*\.$", told, re.M)
    assert main(words) == (1 if unanswered else 0)
    assert capsys.readouterr().out == told


def test_every_example_is_told() -> None:
    told = {word for command, _ in SAID for word in command.split() if word.endswith(".lantern")}
    assert told == {file.name for file in EXAMPLES.glob("*.lantern")}


@pytest.mark.parametrize(
    ("names", "words"),
    [("", ""), ("a", "a"), ("ab", "a and b"), ("abc", "a, b and c"), ("abcd", "a, b, c and d")],
)
def test_names_in_a_row(names: str, words: str) -> None:
    assert in_a_row(names) == words
