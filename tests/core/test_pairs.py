"""Two choices at once: some forms come about only so. Rows of choices are taken in which every two that go together
stand in one row at least, and every family keeps its promises in all of them."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import combinations
from operator import itemgetter

import pytest

from yawning_lantern.design import Design, Value
from yawning_lantern.errors import LanternError
from yawning_lantern.exchange.choices import MANY, choices
from yawning_lantern.pattern.validity import faults
from yawning_lantern.structures import families, start_design
from yawning_lantern.study import Study

from ..contracts import below_nothing, broken_as_guest, broken_as_host
from ..plain_hosts import bulky, hosted, hosting

KINDS = sorted(families())
Choice = tuple[str, object]
OPEN = {
    "board-cover": (" lies ",),  # one liner over both hinges is told and cut, not drawn: a mat lies a sheet higher
}
"""What is not mended yet, by words of the faults: whoever mends one takes it out."""
TOGETHER = ""
"""Of a choice that tells several measurements at once (what it shall hold): they stand beside it."""


def _told(row: dict[str, object]) -> dict[str, Value]:
    """Settings of choices."""
    parts = [value if name == TOGETHER else ((name, value),) for name, value in row.items()]
    return {name: value for part in parts for name, value in part}  # type: ignore[attr-defined]  # pairs


def _clashes(study: Study, element: str) -> bool:
    """Whether it is told that something of an element clashes; on what sheet it goes is another question."""
    return any(c.is_clash and c.gap.code != "sheet" and c.gap.element == element for c in study.checks)


def _made(kind: str, row: dict[str, object]) -> bool:
    """Whether choices go together: they are not refused, and nothing is told to clash. Else a row of which one clashes
    would be passed over with all that it holds."""
    try:
        design = start_design(kind, _told(row))
        return not _clashes(Study(design), design.root.id)
    except LanternError:
        return False


def rows(kind: str) -> Iterator[dict[str, Value]]:
    """Choices together, greedily: a pair that no row has yet, and whatever goes with it and brings another new pair.
    What is refused together stands in none; what goes with nothing stands alone. (All-pairs testing: Cohen et al., IEEE
    Trans. Softw. Eng. 23(7), 1997.)"""
    alone: list[Choice] = []
    for given in choices(families()[kind]):
        choice: Choice = (TOGETHER, tuple(given.items())) if len(given) > 1 else next(iter(given.items()))
        whole = isinstance(choice[1], int) and choice[1] > MANY
        if not whole and _made(kind, dict([choice])):
            alone.append(choice)
    together: set[Choice] = set()
    left = {frozenset(pair) for pair in combinations(alone, 2) if pair[0][0] != pair[1][0]}
    while left:
        first = min(left, key=lambda pair: sorted(map(str, pair)))
        row = dict(sorted(first, key=str))
        left -= {first}
        if not _made(kind, row):
            continue
        for name in dict.fromkeys(choice[0] for choice in alone if choice[0] not in row):
            new = [
                (sum(frozenset((choice, other)) in left for other in row.items()), choice)
                for choice in alone if choice[0] == name
            ]  # fmt: skip
            most, best = max(new, key=itemgetter(0))
            if most and _made(kind, {**row, name: best[1]}):
                row[name] = best[1]
        left -= {frozenset(pair) for pair in combinations(row.items(), 2)}
        together |= set(row.items())
        yield _told(row)
    yield from (_told({name: value}) for name, value in alone if (name, value) not in together)


def sound(cases: Iterator[tuple[str, Design]], element: str) -> Iterator[tuple[str, Design]]:
    """Of thin card and of thick: what is not refused, and of which it is not told that it clashes."""
    for words, thin in cases:
        for design in (thin, bulky(thin)):
            try:
                study = Study(design)
            except LanternError:
                continue
            if not _clashes(study, element):
                yield words, design


def _is_open(kind: str, fault: str) -> bool:
    return any(words in fault for words in OPEN.get(kind, ()))


@pytest.mark.parametrize("kind", KINDS)
def test_a_family_keeps_its_promises_whatever_is_chosen_together(kind: str) -> None:
    seen = []
    for row in rows(kind):
        made = Study(start_design(kind, row))
        assert [(piece.id, fault) for piece in made.pieces for fault in faults(piece)] == [], row
        assert below_nothing(made) == [], row
        try:
            cases = list(sound(hosting(kind, row), "f"))
        except LanternError:
            continue
        found = [fault for fault in broken_as_host(cases) if not fault.endswith("never shows")]
        found += broken_as_guest(sound(hosted(kind, row), "g"))
        seen += [fault for fault in found if _is_open(kind, fault)]
        assert [fault for fault in found if not _is_open(kind, fault)] == [], row
    assert bool(seen) == (kind in OPEN), "mended: take it out of OPEN"
