"""Reading and checking settings against what a family declares."""

from __future__ import annotations

import math
import re
from collections.abc import Mapping

from yawning_lantern.design import Value
from yawning_lantern.errors import LengthError, ParameterError, UnknownNameError, nearest
from yawning_lantern.measure import Units, format_length, parse_lengths, parse_spoken, row_of
from yawning_lantern.structures.kit.declare import Family, Parameter

LONGEST = 4000
"""Letters of a text at most."""
_TEXT = re.compile(r"^[a-z0-9 .,;/+×″\"'½¼¾⅛⅜⅝⅞-]*$")


def setting_words(
    value: Value, declared: Parameter, units: Units = "in", *, glyphs: bool = False, mark: bool = True
) -> str:
    """A value in words: a word as it is, a count, a length or lengths in a row in the reader's units."""
    if isinstance(value, str):
        if declared.kind != "lengths":
            return value
        row = [format_length(mm, units, glyphs=glyphs, mark=False) for mm in parse_lengths(value, "mm")]
        return " + ".join(row) + (("″" if units == "in" else " mm") if mark else "")
    return f"{value:g}" if declared.kind == "count" else format_length(value, units, glyphs=glyphs, mark=mark)


def parameter(family: Family, name: str) -> Parameter:
    """The declared parameter of that id. Raises UnknownNameError with the nearest names."""
    for declared in family.parameters:
        if declared.id == name:
            return declared
    ids = [declared.id for declared in family.parameters]
    raise UnknownNameError(f"{family.name} has no parameter “{name}”.", remedy=nearest(name, ids, "It has"))


def read_setting(declared: Parameter, text: str, units: Units, current: Value | None = None) -> Value:
    """A setting from what was typed, checked.

    Raises:
        ParameterError: the text is no such value, or out of bounds.
    """
    plain = text.strip().lower()
    if plain in declared.words:
        return plain
    if declared.kind == "text":
        return check_value(declared, " ".join(plain.split()), units)
    if declared.kind == "lengths":
        try:
            return check_value(declared, row_of(parse_lengths(text, units)), units)
        except LengthError as error:
            raise ParameterError(error.what, declared.label, error.remedy) from error
    if declared.kind == "word":
        raise ParameterError(f"“{text}” is not one of its words.", declared.label, nearest_word(text, declared.words))
    if declared.kind == "count":
        try:
            value: float = int(plain)
        except ValueError:
            raise ParameterError(f"“{text}” is not a whole number.", declared.label, _bounds(declared, units)) from None
    else:
        try:
            value = parse_spoken(text, current if isinstance(current, int | float) else None, units)
        except LengthError as error:
            also = f" Or say {_or(declared.words)}." if declared.words else ""
            raise ParameterError(error.what, declared.label, error.remedy + also) from error
    return check_value(declared, value, units)


def check_value(declared: Parameter, value: Value, units: Units = "in") -> Value:
    """The value, if the declaration allows it. Raises ParameterError."""
    if declared.derived:
        raise ParameterError("This is worked out; it cannot be given.", declared.label)
    if declared.kind in ("text", "lengths"):
        if not isinstance(value, str):
            raise ParameterError(f"{value} is a number.", declared.label, declared.help)
        if len(value) > LONGEST or not _TEXT.match(value):
            raise ParameterError(f"“{value[:40]}” cannot be read.", declared.label, declared.help)
        return value
    if isinstance(value, str):
        if value not in declared.words:
            allowed = _or(declared.words) if declared.words else "a number"
            raise ParameterError(f"“{value}” cannot stand here.", declared.label, f"Give {allowed}.")
        return value
    if declared.kind == "word":
        raise ParameterError(f"{value} is a number.", declared.label, f"Choose {_or(declared.words)}.")
    if not declared.least <= value <= declared.most:
        plain = declared.kind == "count" or not math.isfinite(value)
        shown = f"{value:g}" if plain else format_length(value, units)
        raise ParameterError(f"{shown} is out of bounds.", declared.label, _bounds(declared, units))
    return int(value) if declared.kind == "count" else float(value)


def checked_settings(family: Family, settings: Mapping[str, Value], units: Units = "in") -> dict[str, Value]:
    """All settings of an element, checked. Raises UnknownNameError or ParameterError."""
    return {name: check_value(parameter(family, name), value, units) for name, value in settings.items()}


def _bounds(declared: Parameter, units: Units) -> str:
    if declared.kind == "count":
        return f"It can be {declared.least:g} to {declared.most:g}."
    return f"It can be {format_length(declared.least, units)} to {format_length(declared.most, units)}."


def nearest_word(text: str, words: tuple[str, ...]) -> str:
    """One suggestion for a word that was missed by a little, else all that may stand there."""
    near = nearest(text, words, "")
    return near if near.startswith("Did you mean") else f"Choose {_or(words)}."


def _or(words: tuple[str, ...]) -> str:
    return words[0] if len(words) == 1 else f"{', '.join(words[:-1])} or {words[-1]}"
