"""A settled value in words."""

from __future__ import annotations

from yawning_lantern.measure import Units, format_length
from yawning_lantern.structures import Parameter, Sized


def figure(sized: Sized, declared: Parameter, units: Units) -> str:
    """A value as it stands in a field: a word, a whole number, or a length without its unit's mark."""
    if isinstance(sized.value, str):
        return sized.value
    if declared.kind == "count":
        return f"{int(sized.length)}"
    return format_length(sized.length, units, glyphs=True, mark=False)
