"""How a sheet is folded, told as data: folds, tucks, turns and glue, one after another.

A step names the hinges it means by their facets, not by a line: lines move when a width changes, names stay.
"""

from __future__ import annotations

from typing import Literal

from msgspec import Struct

Hinges = tuple[tuple[str, str], ...]
Way = Literal["over", "under"]
Edge = Literal["left", "right", "head", "foot"]


class Bring(Struct, frozen=True):
    """Fold what hangs on `hinges` over all that it lands on, or under it. Each hinge is (a facet, the one beyond it,
    which moves)."""

    hinges: Hinges
    way: Way = "over"


class Tuck(Struct, frozen=True):
    """Fold as `Bring` does, but between layers: over all of `over`, under all of `under`."""

    hinges: Hinges
    over: tuple[str, ...] = ()
    under: tuple[str, ...] = ()


class Turn(Struct, frozen=True):
    """Turn the whole over, left to right."""


class Glue(Struct, frozen=True):
    """Glue two facets that lie on one another: a strip `width` wide (mm) along these `edges` of what they share, as it
    lies. Without edges all that they share is glued."""

    a: str
    b: str
    edges: tuple[Edge, ...] = ()
    width: float = 0.0


Step = Bring | Tuck | Turn | Glue
Script = tuple[Step, ...]
