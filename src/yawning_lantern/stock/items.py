"""The things of the stock shelf, as plain immutable data. Lengths in mm, grammage in g/m²."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from yawning_lantern.stock.weights import USUAL_BULK, caliper_from_grammage

PaperKind = Literal["paper", "board", "film"]


@dataclass(frozen=True, slots=True)
class SheetFormat:
    """A sheet as it is bought: nominal size, and the size that can be used (less a printed edge or white margin)."""

    id: str
    name: str
    width: float
    height: float
    usable_width: float
    usable_height: float


@dataclass(frozen=True, slots=True)
class Paper:
    """A sheet material.

    `measured` is a caliper taken with a gauge or from a stack, mm; where there is none the thickness is estimated.
    `front` and `back` are the colours of the two faces as #rrggbb; `two_sided` says that both may show.
    `grain` is the direction the grain runs on the sheet as it lies, `none` for film and unknown stock.
    """

    id: str
    name: str
    kind: PaperKind
    sheet: SheetFormat
    grammage: float | None = None
    bulk: float = USUAL_BULK
    measured: float | None = None
    front: str = "#d8cdb8"
    back: str = "#f4efe4"
    two_sided: bool = True
    grain: Literal["long", "short", "none"] = "none"

    @property
    def caliper(self) -> float:
        """Thickness in mm, measured if known, else estimated from grammage and bulk."""
        if self.measured is not None:
            return self.measured
        return caliper_from_grammage(self.grammage or 0.0, self.bulk)

    @property
    def is_estimated(self) -> bool:
        """Whether the thickness is an estimate."""
        return self.measured is None


@dataclass(frozen=True, slots=True)
class Adhesive:
    """What holds a joint. `thickness` is what it adds between two faces, mm; `open_time` in seconds."""

    id: str
    name: str
    thickness: float
    open_time: float
    can_shift: bool


@dataclass(frozen=True, slots=True)
class Tool:
    """A scoring board, trimmer or ruler. A mark m on it lies at `offset + m` on the paper; marks are `grid` apart, mm.

    `kind` is what it does: score or cut. `longest` is the longest line it makes, mm (None: any), `kerf` what its blade
    takes away, mm.
    """

    id: str
    name: str
    kind: Literal["score", "cut"]
    grid: float
    offset: float = 0.0
    longest: float | None = None
    kerf: float = 0.0
