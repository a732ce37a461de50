"""What a `.lantern` file holds. Plain immutable data; lengths in mm, turns in quarter turns.

Only what the maker decided is kept here. Everything else follows from it and is worked out by `study`.
"""

from __future__ import annotations

from typing import Literal

import msgspec

from yawning_lantern.stock import Adhesive, Paper, Tool

FORMAT = "yawning-lantern"
VERSION = 3  # of the files that are written

Value = float | str
"""A setting: a length in mm, a count, or a word; which of them, the family's declaration says."""


class Place(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """Where a guest sits: a face of its host, off that face's middle by x, y (mm), turned by quarter turns."""

    face: str
    x: float = 0.0
    y: float = 0.0
    turn: int = 0


class Lay(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """How a piece lies on its sheet: its pattern's up side so many quarter turns to the left of the piece's own, seen
    from the piece's front; and whether the paper's back is the piece's front."""

    turn: int = 0
    over: bool = False


class Element(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """One structure in the nest. `settings` holds only what the maker gave; `stock` is None for the design's own.

    `lays` tells how its pieces lie on their sheets, by the piece's own id after the element's; what is not in it lies
    as it is drawn.
    """

    id: str
    family: str
    name: str = ""
    settings: dict[str, Value] = {}
    stock: str | None = None
    place: Place | None = None
    guests: tuple[Element, ...] = ()
    lays: dict[str, Lay] = {}


class Built(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """Something that came out otherwise than planned: which piece or part, which of its lines, in what way, and where
    it was planned and really is, mm (of a part: quarter turns). `note` says what was done about it."""

    piece: str
    line: str
    kind: Literal["score", "cut", "slit", "extra", "turned"]
    planned: float
    measured: float
    note: str = ""


class Design(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """One design.

    `calipers` are thicknesses measured by the maker, by stock id, mm; they go before the catalogue's. `papers`,
    `adhesives` and `tools` are copies of what the design uses: they go before things of the same id elsewhere. `built`
    is what came out otherwise than planned, kept beside the plan.
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
    papers: tuple[Paper, ...] = ()
    adhesives: tuple[Adhesive, ...] = ()
    tools: tuple[Tool, ...] = ()
    built: tuple[Built, ...] = ()
