"""What a `.lantern` file holds. Plain immutable data; lengths in mm, turns in quarter turns.

Only what the maker decided is kept here. Everything else follows from it and is worked out by `study`.
"""

from __future__ import annotations

from typing import Literal

import msgspec

FORMAT = "yawning-lantern"
VERSION = 1

Value = float | str
"""A setting: a length in mm, a count, or a word; which of them, the family's declaration says."""


class Place(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """Where a guest sits: a face of its host, off that face's middle by x, y (mm), turned by quarter turns."""

    face: str
    x: float = 0.0
    y: float = 0.0
    turn: int = 0


class Element(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """One structure in the nest. `settings` holds only what the maker gave; `stock` is None for the design's own."""

    id: str
    family: str
    name: str = ""
    settings: dict[str, Value] = {}
    stock: str | None = None
    place: Place | None = None
    guests: tuple[Element, ...] = ()


class Design(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """One design.

    `calipers` are thicknesses measured by the maker, by stock id, mm; they go before the catalogue's.
    """

    root: Element
    format: Literal["yawning-lantern"] = "yawning-lantern"
    version: int = VERSION
    name: str = "Untitled"
    note: str = ""
    units: Literal["in", "mm"] = "in"
    stock: str = "card-216"
    adhesive: str = "wet-glue"
    score_tool: str = "board-8"
    cut_tool: str = "trimmer-16"
    calipers: dict[str, float] = {}
