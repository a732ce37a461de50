"""Names in a row, as they are said."""

from __future__ import annotations

from collections.abc import Iterable


def in_a_row(names: Iterable[str]) -> str:
    """“a”, “a and b”, “a, b and c”; nothing of none."""
    *first, last = [*names] or [""]
    return f"{', '.join(first)} and {last}" if first else last
