"""What the documents promise is there: tests that are named, links, and the command line's own words."""

from __future__ import annotations

import ast
import re
from pathlib import Path

import pytest

TOP = Path(__file__).parent.parent
DOCS = [TOP / "README.md", *sorted((TOP / "docs").rglob("*.md"))]
TEST_NAME = re.compile(r"`((?:core|desktop)/test_\w+\.py)::(test_\w+)`|`(test_house|test_documents)\.py::(test_\w+)`")


def names_in(path: Path) -> set[str]:
    tree = ast.parse(path.read_text(encoding="utf-8"))
    return {node.name for node in tree.body if isinstance(node, ast.FunctionDef) and node.name.startswith("test_")}


@pytest.mark.parametrize("document", DOCS, ids=lambda path: path.name)
def test_every_test_that_is_named_exists(document: Path) -> None:
    for one, name, other, last in TEST_NAME.findall(document.read_text(encoding="utf-8")):
        file = TOP / "tests" / (one or f"{other}.py")
        assert file.is_file() and (name or last) in names_in(file), f"{file.name}::{name or last}"


@pytest.mark.parametrize("document", DOCS, ids=lambda path: path.name)
def test_every_link_leads_somewhere(document: Path) -> None:
    for target in re.findall(r"\]\(([^)#]+)(?:#[^)]*)?\)", document.read_text(encoding="utf-8")):
        assert (document.parent / target).exists(), target


def test_the_table_of_mistakes_is_whole_and_honest() -> None:
    text = (TOP / "docs" / "what-it-catches.md").read_text(encoding="utf-8")
    rows = [[cell.strip() for cell in line.strip("|").split("|")] for line in text.splitlines() if line[:3] != "| #"]
    rows = [row for row in rows if len(row) == 6 and row[0].isdigit()]
    assert [int(row[0]) for row in rows] == list(range(1, 38))
    counted = {"yes": 0, "in part": 0, "not yet": 0}
    for number, mistake, asked, caught, where, tests in rows:
        counted[caught] += 1
        assert mistake and set(asked.split()) <= {"P", "F", "R"}, number
        if caught == "not yet":
            assert (where, tests) == ("—", "—"), number
        else:
            assert len(where) > 20 and len(TEST_NAME.findall(tests)) == tests.count("::") > 0, number
        # what is in part says what is missing
        assert (re.search(r"\bnot\b", where) is not None) or caught != "in part", number
    told = re.search(r"Caught: (\d+)\. In part: (\d+)\. Not yet: (\d+)\.", text)
    assert told and [int(n) for n in told.groups()] == list(counted.values())
