"""A settled value in words."""

from __future__ import annotations

from yawning_lantern.measure import Units, format_length, parse_lengths
from yawning_lantern.structures import Parameter, Sized


def figure(sized: Sized, declared: Parameter, units: Units) -> str:
    """A value as it stands in a field: a word, a whole number, or a length without its unit's mark."""
    if isinstance(sized.value, str):
        if declared.kind != "lengths":
            return sized.value
        row = parse_lengths(sized.value, "mm")
        return " + ".join(format_length(length, units, glyphs=True, mark=False) for length in row)
    if declared.kind == "count":
        return f"{int(sized.length)}"
    return format_length(sized.length, units, glyphs=True, mark=False)
