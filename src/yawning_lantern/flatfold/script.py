"""How a sheet is folded, told as data: folds, tucks, turns and glue, one after another.

A step names the hinges it means by their facets, not by a line: lines move when a width changes, names stay.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

Hinges = tuple[tuple[str, str], ...]
Way = Literal["over", "under"]
Edge = Literal["left", "right", "head", "foot"]


@dataclass(frozen=True, slots=True)
class Bring:
    """Fold what hangs on `hinges` over all that it lands on, or under it. Each hinge is (a facet, the one beyond it,
    which moves)."""

    hinges: Hinges
    way: Way = "over"


@dataclass(frozen=True, slots=True)
class Tuck:
    """Fold as `Bring` does, but between layers: over all of `over`, under all of `under`."""

    hinges: Hinges
    over: tuple[str, ...] = ()
    under: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class Turn:
    """Turn the whole over, left to right."""


@dataclass(frozen=True, slots=True)
class Glue:
    """Glue two facets that lie on one another: a strip `width` wide (mm) along these `edges` of what they share, as it
    lies. Without edges all that they share is glued."""

    a: str
    b: str
    edges: tuple[Edge, ...] = ()
    width: float = 0.0


Step = Bring | Tuck | Turn | Glue
Script = tuple[Step, ...]
