"""What a family refuses, and what it says then: in words of the trade, and with advice that can be kept."""

from __future__ import annotations

import re
from collections.abc import Iterator
from fractions import Fraction

import pytest

from yawning_lantern.design import Element, Place, add_guest
from yawning_lantern.errors import LanternError
from yawning_lantern.exchange.reference import tried
from yawning_lantern.measure import speak
from yawning_lantern.structures import families, start_design
from yawning_lantern.study import Study

from ..plain_hosts import worded

GIVE = re.compile(r"Give (?:at most |at least )?(?:(\d+) )?(\d+/\d+|\d+(?:\.\d+)?)(″| mm)(?: or more)?[.,]")
RAW = re.compile(r"c\d+r\d+|\b[a-z]+-[a-z]+-\d|content-|_|\bNone\b|\bnan\b")
"""Names that only the program uses, and values that nobody measured."""


def refusals(kind: str) -> Iterator[tuple[dict[str, float | str], LanternError]]:
    """Every measurement of a family by itself as small, as large, as odd as it may be, with every word: what is
    refused."""
    for word in worded(kind):
        usual = start_design(kind, word)
        sizes = Study(usual).resolved[usual.root.id].sizes
        for declared in families()[kind].parameters:
            for value in () if declared.derived or declared.id in word else tried(declared, sizes.get(declared.id)):
                given = {**word, declared.id: value}
                try:
                    Study(start_design(kind, given))
                except LanternError as error:
                    yield given, error


@pytest.mark.parametrize("kind", sorted(families()))
def test_a_refusal_says_what_is_wrong_and_advice_that_can_be_kept(kind: str) -> None:
    labels = {declared.label: declared for declared in families()[kind].parameters}
    for given, error in refusals(kind):
        text = speak(error.sentence(), "in")
        assert error.what and error.where and error.remedy and not RAW.search(text), (given, text)
        found = GIVE.search(text)
        if found is None:
            continue
        whole, part, unit = found.groups()
        limit = float(int(whole or 0) + Fraction(part)) * (25.4 if unit == "″" else 1.0)
        declared = labels[error.where]
        assert declared.least - 1e-6 <= limit <= declared.most + 1e-6, (given, text)
        try:
            Study(start_design(kind, {**given, declared.id: int(limit) if declared.kind == "count" else limit}))
        except LanternError as other:  # of two faults one is told at a time
            assert other.where != error.where, (given, text, str(other))


@pytest.mark.parametrize(("share", "taken"), [(0.4, True), (0.45, True), (0.55, False), (2.5, False)])
def test_what_is_on_a_drawers_front_stands_out_by_half_its_depth_at_most(share: float, taken: bool) -> None:
    design = start_design("drawer-sleeve", {"depth": 80.0})
    thing = Element("knob", "ready-made", "Knob", {"width": 20.0, "depth": 20.0, "height": share * 80.0})
    put = add_guest(design, design.root.id, thing, Place("front"))
    if taken:
        assert Study(put).resolved
    else:
        with pytest.raises(LanternError, match="stands out"):
            Study(put)
