"""What every choice makes of a structure: the page is current, family by family, and its sums add up as a reader adds
them."""

from __future__ import annotations

import re
from fractions import Fraction
from pathlib import Path

import pytest

from yawning_lantern.exchange.choices import changed, page
from yawning_lantern.structures import families

PAGE = (Path(__file__).parent.parent.parent / "docs" / "choices.md").read_text(encoding="utf-8")
HEADING = re.compile(r"^## [^\n]*\(`([a-z-]+)`\)\n.*?(?=^## |\Z)", re.DOTALL | re.MULTILINE)
SECTIONS = {found[1]: found[0] for found in HEADING.finditer(PAGE)}
SUM = re.compile(r": ([^:=]+) = (−?[\d.]+)″\. Asked: ")
TERM = re.compile(r"([+−]? ?)(?:(\d+) (?=\d+/))?(\d+/\d+|\d+\.\d+|\d+)( mm)? ")
ROUNDED = 0.0012
"""Of every figure that is told to three decimals, or to a hundredth of a millimetre, so much may be lost, inches."""


def _inches(term: str) -> float:
    """A term of a sum as a reader takes it: “− 6 1/2 front and back”."""
    found = TERM.match(term)
    assert found, term
    sign, whole, part, mm = found.groups()
    value = float(int(whole or 0) + Fraction(part)) / (25.4 if mm else 1.0)
    return -value if "−" in sign else value


@pytest.mark.parametrize("kind", sorted(families()))
def test_what_the_page_says_of_a_family_is_current(kind: str) -> None:
    # printed with `./lantern families --choices > docs/choices.md`; read what has changed before it is kept
    assert "\n".join(changed(families()[kind])).rstrip() == SECTIONS[kind].rstrip()


def test_the_page_tells_every_family_once() -> None:
    assert list(SECTIONS) == list(families()) and page() == PAGE


def test_the_sums_on_the_page_add_up() -> None:
    sums = SUM.findall(PAGE)
    assert len(sums) > 800
    for words, total in sums:
        terms = re.split(r" (?=[+−] \d)", words)
        told = float(total.replace("−", "-"))
        assert sum(map(_inches, terms)) == pytest.approx(told, abs=ROUNDED * (len(terms) + 1)), words
