"""All families by id: our own, and those of other packages found by entry point."""

from __future__ import annotations

import sys
from collections.abc import Iterable
from functools import cache, lru_cache
from importlib import import_module
from pathlib import Path
from pkgutil import iter_modules
from typing import Any

from yawning_lantern.errors import UnknownNameError, nearest
from yawning_lantern.structures.kit.declare import Family

KINDS = ("boxes", "flaps", "books", "folded", "popups", "dress", "closures")
"""Folders of families, in the order they are offered. A module in one of them with an object FAMILY is a family."""
ENTRY_POINTS = "yawning_lantern.families"


def entry_points(group: str) -> Iterable[Any]:
    """What other packages offer under a name. The library that finds them takes six megabytes: it is asked only where
    some installed package has the name in its list of entry points (the packaging user guide's entry_points.txt)."""
    lists = (file for folder in sys.path for file in Path(folder).glob("*.*-info/entry_points.txt"))
    if not any(f"[{group}]" in file.read_text(encoding="utf-8", errors="replace") for file in lists):
        return ()
    from importlib import metadata

    return metadata.entry_points(group=group)


@lru_cache(maxsize=1)
def families() -> dict[str, Family]:
    """Every family by id, our own first."""
    known: dict[str, Family] = {}
    for kind in KINDS:
        for module in sorted(name for _, name, _ in iter_modules([str(Path(__file__).parent / kind)])):
            own: Family = import_module(f"yawning_lantern.structures.{kind}.{module}").FAMILY
            known[own.id] = own
    for point in entry_points(group=ENTRY_POINTS):
        other: Family = point.load()
        known.setdefault(other.id, other)
    return known


@cache
def _own(name: str) -> Family | None:
    """One of our own by its id, without the others: its module has the same name."""
    module = name.replace("-", "_")
    if not module.isidentifier():
        return None
    for kind in KINDS:
        if (Path(__file__).parent / kind / f"{module}.py").exists():
            own: Family = import_module(f"yawning_lantern.structures.{kind}.{module}").FAMILY
            return own if own.id == name else None
    return None


def family(name: str) -> Family:
    """The family of that id. Raises UnknownNameError with the nearest names."""
    own = _own(name)
    if own is not None:
        return own
    known = families()
    if name not in known:
        raise UnknownNameError(f"There is no family “{name}”.", remedy=nearest(name, known, "There are"))
    return known[name]
