"""A settled value in words."""

from __future__ import annotations

from yawning_lantern.measure import Units
from yawning_lantern.structures import Parameter, Sized, setting_words


def figure(sized: Sized, declared: Parameter, units: Units) -> str:
    """A value as it stands in a field: a word, a whole number, or a length without its unit's mark."""
    return setting_words(sized.value, declared, units, glyphs=True, mark=False)
