"""A limit that a sentence tells is one that can be kept: who types what it says is not told the same again."""

from __future__ import annotations

import math
import random
import re
from fractions import Fraction

import pytest

from yawning_lantern.design import Value
from yawning_lantern.errors import LanternError
from yawning_lantern.measure import Units, at_least, at_most, speak
from yawning_lantern.structures import start_design
from yawning_lantern.study import Study

NUMBER = re.compile(r"(?:at most|at least) (?:(\d+) )?(\d+/\d+|\d+(?:\.\d+)?)(″| mm)")


def limit_in(sentence: str) -> float:
    """The limit in a sentence, mm, read by itself: whole inches, a fraction, decimals."""
    found = NUMBER.search(sentence)
    assert found is not None, sentence
    whole, part, unit = found.groups()
    return float(int(whole or 0) + Fraction(part)) * (25.4 if unit == "″" else 1.0)


@pytest.mark.parametrize("units", ["in", "mm"])
def test_limits_are_rounded_to_their_own_side(units: Units) -> None:
    rng = random.Random(7)
    for mm in (14.5, 14.2875, 101.6, 1.27, 0.3, *(rng.uniform(0.1, 400.0) for _ in range(400))):
        most, least = limit_in(speak(at_most(mm), units)), limit_in(speak(at_least(mm), units))
        assert most <= mm + 1e-4 and least >= mm - 1e-4
        assert least - most < 25.4 / 16 + 1e-6 and most > mm - 25.4 / 32 - 1e-6


@pytest.mark.parametrize("units", ["in", "mm"])
@pytest.mark.parametrize(
    ("kind", "parameter", "given"),
    [
        ("handle", "spread", {"cord": 12.0, "spread": 10.0}),
        ("casing", "tab", {"tab": 33.3}),
        ("casing", "ear", {"ear": 80.0, "boxes": 1}),
        ("mat", "corner", {"width": 43.7, "height": 51.3, "corner": 40.0, "shape": "rounded"}),
        ("spinner", "pointer", {"diameter": 43.7, "pointer": 60.0}),
        ("closing-box", "tab", {"tab": 90.0, "width": 40.1}),
        ("closing-box", "tuck", {"tuck": 90.0, "height": 40.1}),
    ],
)
def test_what_keeps_a_limit_is_not_refused_for_it(
    kind: str, parameter: str, given: dict[str, float | str], units: Units
) -> None:
    with pytest.raises(LanternError) as refused:
        Study(start_design(kind, given))
    kept = {**given, parameter: limit_in(speak(refused.value.sentence(), units))}
    assert Study(start_design(kind, kept)).resolved


@pytest.mark.parametrize(("sides", "side"), [(3, 60.0), (4, 50.0), (6, 40.0), (8, 30.0), (12, 20.0)])
def test_the_deepest_foot_of_a_prism_keeps_its_tip(sides: int, side: float) -> None:
    """Two millimetres of it are left, and what the limit was rounded down by: no more than a sixteenth's slope."""
    given: dict[str, Value] = {"sides": sides, "side": side}
    with pytest.raises(LanternError) as refused:
        Study(start_design("prism", {**given, "foot": 40.0}))
    most = limit_in(speak(refused.value.sentence(), "in"))
    study = Study(start_design("prism", {**given, "foot": most}))
    strip = next(piece for piece in study.pieces if any(p.name == "foot-1" for p in piece.panels))
    across = sorted(strip.panel("foot-1").outline, key=lambda p: p[1])[:2]
    tip = abs(across[0][0] - across[1][0])
    assert 2.0 - 1e-6 <= tip <= 2.0 + 2 * math.tan(math.pi / sides) * 25.4 / 16 + 1e-6
