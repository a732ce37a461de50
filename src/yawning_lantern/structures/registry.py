"""All families by id: our own, and those of other packages found by entry point."""

from __future__ import annotations

from functools import lru_cache
from importlib import import_module
from importlib.metadata import entry_points
from pathlib import Path
from pkgutil import iter_modules

from yawning_lantern.errors import UnknownNameError, nearest
from yawning_lantern.structures.kit.declare import Family

KINDS = ("boxes", "flaps", "books", "folded", "popups", "dress", "closures")
"""Folders of families, in the order they are offered. A module in one of them with an object FAMILY is a family."""
ENTRY_POINTS = "yawning_lantern.families"


@lru_cache(maxsize=1)
def families() -> dict[str, Family]:
    """Every family by id, our own first."""
    found: dict[str, Family] = {}
    for kind in KINDS:
        for module in sorted(name for _, name, _ in iter_modules([str(Path(__file__).parent / kind)])):
            own: Family = import_module(f"yawning_lantern.structures.{kind}.{module}").FAMILY
            found[own.id] = own
    for point in entry_points(group=ENTRY_POINTS):
        other: Family = point.load()
        found.setdefault(other.id, other)
    return found


def family(name: str) -> Family:
    """The family of that id. Raises UnknownNameError with the nearest names."""
    known = families()
    if name not in known:
        raise UnknownNameError(f"There is no family “{name}”.", remedy=nearest(name, known, "There are"))
    return known[name]
