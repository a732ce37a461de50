"""What each kind of fit asks, as a table: by school, and from where on it is snug, easy and loose."""

from __future__ import annotations

import sys
from collections.abc import Iterator

from yawning_lantern.assembly import Use, uses
from yawning_lantern.fit.words import ENDLESS
from yawning_lantern.measure import format_length
from yawning_lantern.structures import families


def _all_uses() -> Iterator[Use]:
    """Every kind of fit once: the usual ones, then what families bring."""
    modules = [uses, *(sys.modules[type(kind).__module__] for kind in families().values())]
    yield from {use.code: use for module in modules for use in vars(module).values() if isinstance(use, Use)}.values()


def _end(mm: float) -> str:
    return "any" if mm >= ENDLESS else format_length(mm, denominator=256)


def _asked(use: Use) -> str:
    words = []
    for school, least, most in use.wants:
        name = f"{school}: " if len(use.wants) > 1 else ""
        end = "or more" if most >= ENDLESS else f"to {_end(most)}"
        words.append(f"{name}{_end(least)} {end}")
    return "; ".join(words)


def fit_table() -> list[str]:
    """The table, line by line, as Markdown."""
    lines = [
        "| fit | what it asks | tight up to | snug up to | easy up to |",
        "| --- | --- | --- | --- | --- |",
    ]
    for use in _all_uses():
        ends = " | ".join(_end(end) for end in use.bands[1:])
        lines.append(f"| {use.label} | {_asked(use)} | {ends} |")
    return lines
