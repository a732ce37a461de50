"""Lengths: reading, showing, snapping. The inch is 25.4 mm exactly (international yard and pound agreement, 1959)."""

from __future__ import annotations

from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from yawning_lantern.errors import LengthError
from yawning_lantern.measure import (
    format_fine,
    format_length,
    parse_length,
    parse_lengths,
    parse_signed,
    parse_spoken,
    snap,
)


@pytest.mark.parametrize(
    ("text", "mm"),
    [
        ("2 7/8", 73.025),
        ('2-7/8"', 73.025),
        ("2⅞ in", 73.025),
        ("2 ⅞″", 73.025),
        ("2-⅞", 73.025),
        ("73mm", 73.0),
        ("7.3 cm", 73.0),
        ("7,3 cm", 73.0),
        ("7 3/8 - 1/16", 185.7375),
        ("7 3/8-1/16", 185.7375),
        (".5", 12.7),
        ("3/4", 19.05),
        ("12", 304.8),
        ("4 in + 3 mm", 104.6),
        ("1/2 + 1/4 in", 19.05),
        ("0", 0.0),
        ("1 ft", 304.8),
        ("7 3/8 − 1/16", 185.7375),
        ("2 inches", 50.8),
        ("3/8-⅛", 6.35),
    ],
)
def test_lengths_are_read_as_people_write_them(text: str, mm: float) -> None:
    assert parse_length(text) == pytest.approx(mm, abs=1e-9)


@pytest.mark.parametrize(
    "text",
    [
        "",
        "  ",
        "abc",
        "2 7/0",
        "1/2/3",
        "2 x 3",
        "4 4",
        "--3",
        "1 +",
        "mm",
        "2 mm mm",
        "1e9",
        "99999 in",
        "3 - 5",
        "nan",
        "inf",
        "2 7/8 " * 20,
        "½½",
        "0x10",
        "²",
        "1__0",
    ],
)
def test_nonsense_gets_a_sentence(text: str) -> None:
    with pytest.raises(LengthError) as caught:
        parse_length(text)
    assert caught.value.sentence().rstrip()[-1] in ".?"


@given(st.text(max_size=100))
def test_no_text_breaks_the_reader(text: str) -> None:
    try:
        assert parse_length(text) >= 0
    except LengthError as error:
        assert error.sentence()


def test_relative_lengths_change_what_is_there() -> None:
    assert parse_spoken("1/16 more", 25.4) == pytest.approx(26.9875)
    assert parse_spoken("1/8 less", 25.4) == pytest.approx(22.225)
    assert parse_spoken("2 mm More", 10.0, "mm") == pytest.approx(12.0)
    with pytest.raises(LengthError, match="not known yet"):
        parse_spoken("1/16 more", None)
    with pytest.raises(LengthError, match="below zero"):
        parse_spoken("2 less", 25.4)
    assert parse_signed("1/4 - 1/2") == pytest.approx(-6.35)


@given(st.integers(0, 40), st.integers(0, 31))
def test_fractions_shown_are_read_back(whole: int, part: int) -> None:
    mm = float((whole + Fraction(part, 32)) * Fraction(127, 5))
    for glyphs in (False, True):
        assert parse_length(format_length(mm, glyphs=glyphs)) == pytest.approx(mm, abs=1e-9)


def test_showing() -> None:
    assert format_length(73.025, glyphs=True) == "2 ⅞″"
    assert format_length(22.225, glyphs=True) == "⅞″"
    assert format_length(80.9625) == "3 3/16″"
    assert format_length(73.5) == "2.894″"  # no thirty-second lies there
    assert format_length(-0.001, "mm") == "0.0 mm"
    assert format_length(73.04, "mm") == "73.0 mm"
    assert format_fine(1.5875) == "1/16″"
    assert format_fine(1.7) == "about 1/16″"
    assert format_fine(0.1) == "under 1/32″"


@given(st.floats(0, 500), st.sampled_from([25.4 / 8, 25.4 / 16, 5.0, 1.0]), st.floats(0, 4))
def test_snapping_keeps_its_direction_and_residual(length: float, step: float, offset: float) -> None:
    up, down = snap(length, step, "up", offset), snap(length, step, "down", offset)
    assert length - 1e-5 <= up.value < length + step
    assert length - step < down.value <= length + 1e-5
    assert abs(snap(length, step, "nearest", offset).residual) <= step / 2 + 1e-5
    assert up.residual == pytest.approx(up.value - length)
    assert ((up.value - offset) / step) == pytest.approx(round((up.value - offset) / step), abs=1e-6)


def test_a_value_on_the_grid_stays() -> None:
    assert snap(3 * 25.4 / 8, 25.4 / 8, "up").value == pytest.approx(9.525)
    assert snap(7.3, 0.0, "up").value == 7.3  # a tool without marks reaches any distance


def test_how_long_a_text_and_a_length_may_be() -> None:
    """Eighty letters for one, four hundred for a row, ten metres for any: the last that is read, the next refused."""
    one, row = "1" + " + 1" * 19 + "+11", "10mm" + " + 1mm" * 66
    assert len(one) == 80 and parse_length(one, "mm") == 31.0
    with pytest.raises(LengthError, match="too long"):
        parse_length(one + "1", "mm")
    assert len(row) == 400 and len(parse_lengths(row, "mm")) > 60
    with pytest.raises(LengthError, match="too long"):
        parse_lengths(row + "0", "mm")
    assert parse_length("10000 mm") == 10_000.0 and parse_lengths("10000mm + 1mm") == (10_000.0, 1.0)
    for read in (parse_length, parse_lengths):
        with pytest.raises(LengthError, match="ten metres"):
            read("10000.1 mm")
