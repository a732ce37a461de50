"""What every choice makes of a structure, and what goes where: the pages are current, family by family, and their sums
add up as a reader adds them."""

from __future__ import annotations

import math
import re
from fractions import Fraction
from itertools import pairwise
from pathlib import Path

import pytest
from shapely.geometry import Polygon

from yawning_lantern.exchange import choices, faces, limits, slips
from yawning_lantern.pattern import Piece
from yawning_lantern.pattern.validity import faults
from yawning_lantern.structures import families, start_design
from yawning_lantern.study import Study, remedies

from ..contracts import below_nothing

DOCS = Path(__file__).parent.parent.parent / "docs"
PAGES = {name: (DOCS / f"{name}.md").read_text(encoding="utf-8") for name in ("choices", "faces", "limits", "slips")}
HEADING = re.compile(r"^## [^\n]*\(`([a-z-]+)`\)\n.*?(?=^## |\Z)", re.DOTALL | re.MULTILINE)
SECTIONS = {name: {found[1]: found[0] for found in HEADING.finditer(text)} for name, text in PAGES.items()}
MADE = {"choices": choices.changed, "faces": faces.placed, "limits": limits.bounded, "slips": slips.answered}
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


@pytest.mark.parametrize("page", PAGES)
@pytest.mark.parametrize("kind", sorted(families()))
def test_what_a_page_says_of_a_family_is_current(kind: str, page: str) -> None:
    # printed with `./lantern families --choices > docs/choices.md`, and `--faces`, `--limits`, `--slips`; read what has
    # changed before it is kept
    assert "\n".join(MADE[page](families()[kind])).rstrip() == SECTIONS[page][kind].rstrip()


def test_the_pages_tell_every_family_once() -> None:
    assert all(list(sections) == list(families()) for sections in SECTIONS.values())
    made = {"choices": choices, "faces": faces, "limits": limits, "slips": slips}
    assert {name: one.page() for name, one in made.items()} == PAGES


def _blunt(piece: Piece) -> list[str]:
    """Panels that have a side of no length."""
    sides = ((p.name, a, b) for p in piece.panels for a, b in pairwise((*p.outline, p.outline[0])))
    return [name for name, a, b in sides if math.dist(a, b) < 1e-6]


@pytest.mark.parametrize("kind", sorted(families()))
def test_what_is_told_at_its_limit_is_sound(kind: str) -> None:
    """Pieces are whole as shapely sees them, and no panel of them is nothing."""
    for p, ends in limits.limits(families()[kind]):
        for value, _ in ends:
            given = limits.told_at(p, value)
            study = Study(start_design(kind, given))
            assert below_nothing(study) == [], given
            for piece in study.pieces:
                assert not faults(piece), (given, piece.id)
                assert not _blunt(piece), (given, piece.id)
                shapes = [Polygon(panel.outline) for panel in piece.panels]
                assert all(shape.is_valid and shape.area > 0.5 for shape in shapes), (given, piece.id)


@pytest.mark.parametrize("page", ["choices", "faces"])
def test_the_sums_on_a_page_add_up(page: str) -> None:
    sums = SUM.findall(PAGES[page])
    assert len(sums) > 500
    for words, total in sums:
        terms = re.split(r" (?=[+−] \d)", words)
        told = float(total.replace("−", "-"))
        assert sum(map(_inches, terms)) == pytest.approx(told, abs=ROUNDED * (len(terms) + 1)), words


def test_nothing_that_is_told_of_another_thing_is_changed_to_mend_paper() -> None:
    """What it holds and what it goes around are as large as they are, whatever was cut wrong."""
    facts = [f"{kind.name}: {p.label} " for kind in families().values() for p in kind.parameters if p.fact]
    assert len(facts) > 60 and not [words for words in facts if words in PAGES["slips"]]
    study = Study(start_design("lid", {"over-width": 100.0, "over-depth": 100.0, "top-width": 99.0}))
    tight = next(check for check in study.checks if check.is_clash)
    cures = {cure.parameter for cure in remedies(study, tight)}
    assert "top-width" in cures and not cures & {p.id for p in families()["lid"].parameters if p.fact}
