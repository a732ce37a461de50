"""Reading lengths as people write and say them: `2 7/8`, `2-7/8"`, `2⅞ in`, `73mm`, `7 3/8 - 1/16`, `1/16 more`.

The inch is 25.4 mm exactly (international inch, 1959). Inside this module lengths are exact fractions of a millimetre;
what leaves it is a float in mm.
"""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Sequence
from fractions import Fraction
from functools import lru_cache

from yawning_lantern.errors import LengthError

MM_PER_INCH = 25.4  # mm in an inch, by definition
_INCH = Fraction(127, 5)
_UNITS = {
    "mm": Fraction(1),
    "cm": Fraction(10),
    "m": Fraction(1000),
    "in": _INCH,
    "inch": _INCH,
    "inches": _INCH,
    '"': _INCH,
    "ft": 12 * _INCH,
}
_EXAMPLES = "Write it like 2 7/8, 2.875 in or 73 mm."
_LONGEST_TEXT, _LONGEST_ROW = 80, 400  # letters of a length, and of a row of lengths
_LARGEST_MM = 10_000  # mm: nothing here is larger

_HYPHENATED = re.compile(r"(?<![\d/])(\d+)-(?=[¼½¾⅐-⅞])")
_TOKEN = re.compile(
    r"""\s*(?:
      (?P<mixed>\d+(?:\s+|-)\d+/\d+)
    | (?P<fraction>\d+/\d+)
    | (?P<number>\d+(?:[.,]\d+)?|[.,]\d+)
    | (?P<unit>millimet(?:er|re)s?|centimet(?:er|re)s?|inches|inch|mm|cm|in\b\.?|ft\b|m\b|")
    | (?P<sign>[+-])
    )""",
    re.VERBOSE | re.IGNORECASE,
)


def inches(value: float) -> float:
    """Inches to mm."""
    return value * MM_PER_INCH


def _plain(text: str) -> str:
    """The same text with one spelling for quotes, minus signs and vulgar fractions."""
    out: list[str] = []
    for char in _HYPHENATED.sub(r"\1 ", text):
        if unicodedata.category(char) == "No" and "FRACTION" in unicodedata.name(char, ""):
            top, _, bottom = unicodedata.normalize("NFKD", char).partition("\u2044")
            out.append(f" {top}/{bottom} ")
        else:
            out.append({"″": '"', "”": '"', "“": '"', "−": "-", "–": "-", "—": "-", "⁄": "/"}.get(char, char))
    return "".join(out).replace("''", '"')


def _fraction(text: str) -> Fraction:
    top, bottom = text.split("/")
    if int(bottom) == 0:
        raise LengthError(f"“{text}” divides by nothing.", remedy=_EXAMPLES)
    return Fraction(int(top), int(bottom))


def _number(kind: str, text: str) -> Fraction:
    if kind == "mixed":
        whole, part = re.split(r"\s+|-", text, maxsplit=1)
        return int(whole) + _fraction(part)
    if kind == "fraction":
        return _fraction(text)
    return Fraction(text.replace(",", "."))


def _unit(text: str) -> Fraction:
    word = text.lower().rstrip(".")
    if word.startswith("milli"):
        word = "mm"
    elif word.startswith("centi"):
        word = "cm"
    return _UNITS[word]


def _terms(text: str, longest: int = _LONGEST_TEXT) -> list[tuple[int, Fraction, Fraction | None]]:
    """The text as a sum: (sign, number, unit or None) for each term.

    Raises:
        LengthError: the text is not a sum of lengths.
    """
    plain = _plain(text).strip()
    if not plain:
        raise LengthError("There is no length here yet.", remedy=_EXAMPLES)
    if len(plain) > longest:
        raise LengthError("That is too long to be a length.", remedy=_EXAMPLES)
    terms: list[tuple[int, Fraction, Fraction | None]] = []
    sign, at, want_number = 1, 0, True
    while at < len(plain):
        match = _TOKEN.match(plain, at)
        if match is None:
            rest = plain[at:].strip()
            what = f"“{rest}” in “{text.strip()}” cannot be read." if terms else f"“{rest}” cannot be read as a length."
            raise LengthError(what, remedy=_EXAMPLES)
        kind, token = match.lastgroup or "", match.group(match.lastgroup or 0)
        at = match.end()
        if kind == "sign":
            if want_number and terms:
                raise LengthError(f"“{text.strip()}” has two signs in a row.", remedy=_EXAMPLES)
            sign, want_number = (-1 if token == "-" else 1), True
        elif kind == "unit":
            if want_number or terms[-1][2] is not None:
                raise LengthError(f"“{text.strip()}” has a unit without a number.", remedy=_EXAMPLES)
            terms[-1] = (terms[-1][0], terms[-1][1], _unit(token))
        else:
            if not want_number:
                raise LengthError(f"“{text.strip()}” has two numbers with nothing between them.", remedy=_EXAMPLES)
            terms.append((sign, _number(kind, token), None))
            sign, want_number = 1, False
    if want_number:
        raise LengthError(f"“{text.strip()}” ends before its last number.", remedy=_EXAMPLES)
    return terms


def parse_signed(text: str, default_unit: str = "in") -> float:
    """A length that may be negative, in mm. A term without a unit takes the next one given, else `default_unit`.

    Raises:
        LengthError: the text is no length, or one beyond ten metres.
    """
    terms = _terms(text)
    total, unit = Fraction(0), None
    for sign, number, own in reversed(terms):
        unit = own or unit
        total += sign * number * (unit or _UNITS[default_unit])
    if abs(total) > _LARGEST_MM:
        raise LengthError(f"“{text.strip()}” is over ten metres.", remedy="Is the unit right?")
    return float(total)


def parse_length(text: str, default_unit: str = "in") -> float:
    """A length of zero or more, in mm.

    Raises:
        LengthError: the text is no length, is negative, or is beyond ten metres.
    """
    value = parse_signed(text, default_unit)
    if value < 0:
        raise LengthError(f"“{text.strip()}” comes out below zero.", remedy="A length is zero or more.")
    return value


@lru_cache(maxsize=256)
def parse_lengths(text: str, default_unit: str = "in") -> tuple[float, ...]:
    """Lengths in a row as people say them, `3 1/4 + 3 1/2 + 2`: each by itself, in mm.

    Raises:
        LengthError: the text is no such row, or one of them is not above zero.
    """
    lengths, unit = [], None
    for sign, number, own in reversed(_terms(text, _LONGEST_ROW)):
        unit = own or unit
        length = sign * number * (unit or _UNITS[default_unit])
        if length <= 0:
            raise LengthError(f"“{text.strip()}” has a length that is not above zero.", remedy="Join them by +.")
        if length > _LARGEST_MM:
            raise LengthError(f"“{text.strip()}” is over ten metres.", remedy="Is the unit right?")
        lengths.append(float(length))
    return tuple(reversed(lengths))


def row_of(lengths: Sequence[float]) -> str:
    """Lengths in a row (mm) as they are kept."""
    return " + ".join(f"{length:g}mm" for length in lengths)


def parse_spoken(text: str, current: float | None, default_unit: str = "in") -> float:
    """As `parse_length`, and also relative to `current` (mm): `1/16 more`, `1/8 less`.

    Raises:
        LengthError: as `parse_length`; or the text is relative and there is nothing yet to change.
    """
    match = re.fullmatch(r"\s*(.+?)\s+(more|less)\s*", text, re.IGNORECASE)
    if match is None:
        return parse_length(text, default_unit)
    if current is None:
        raise LengthError(f"“{text.strip()}” changes a length that is not known yet.", remedy="Give the length itself.")
    change = parse_length(match.group(1), default_unit)
    value = current + (change if match.group(2).lower() == "more" else -change)
    if value < 0:
        raise LengthError(f"“{text.strip()}” comes out below zero.", remedy="A length is zero or more.")
    return value
