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

from ..contracts import broken_as_guest, broken_as_host
from ..plain_hosts import bulky, hosted, hosting

KINDS = sorted(families())
Choice = tuple[str, object]
TOGETHER = ""
"""Of a choice that tells several measurements at once (what it shall hold): they stand beside it."""


def _told(row: dict[str, object]) -> dict[str, Value]:
    """Settings of choices."""
    parts = [value if name == TOGETHER else ((name, value),) for name, value in row.items()]
    return {name: value for part in parts for name, value in part}  # type: ignore[attr-defined]  # pairs


def _made(kind: str, row: dict[str, object]) -> bool:
    try:
        Study(start_design(kind, _told(row)))
    except LanternError:
        return False
    return True


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
    """Of thin card and of thick: what is not refused, and of which it is not told that it clashes; on what sheet it
    goes is another question."""
    for words, thin in cases:
        for design in (thin, bulky(thin)):
            try:
                study = Study(design)
            except LanternError:
                continue
            clashes = [check for check in study.checks if check.is_clash and check.gap.code != "sheet"]
            if not any(check.gap.element == element for check in clashes):
                yield words, design


@pytest.mark.parametrize("kind", KINDS)
def test_a_family_keeps_its_promises_whatever_is_chosen_together(kind: str) -> None:
    for row in rows(kind):
        made = Study(start_design(kind, row))
        assert [(piece.id, fault) for piece in made.pieces for fault in faults(piece)] == [], row
        sizes = made.resolved[made.design.root.id].sizes
        assert [n for n, sized in sizes.items() if not isinstance(sized.value, str) and sized.value < 0.0] == [], row
        try:
            cases = list(sound(hosting(kind, row), "f"))
        except LanternError:
            continue
        assert [fault for fault in broken_as_host(cases) if not fault.endswith("never shows")] == [], row
        assert list(broken_as_guest(sound(hosted(kind, row), "g"))) == [], row
