"""The things of the maker's drawer, as plain immutable data. Lengths in mm, grammage in g/m²."""

from __future__ import annotations

from typing import Literal

from msgspec import Struct
from msgspec.structs import replace

from yawning_lantern.stock.motifs import Motif
from yawning_lantern.stock.weights import USUAL_BULK, caliper_from_grammage

PaperKind = Literal["paper", "board", "film"]


class SheetFormat(Struct, frozen=True):
    """A sheet as it is bought: nominal size, and the size that can be used (less a printed edge or white margin)."""

    id: str
    name: str
    width: float
    height: float
    usable_width: float
    usable_height: float


class Paper(Struct, frozen=True):
    """A sheet material.

    `measured` is a caliper taken with a gauge or from a stack, mm; where there is none the thickness is estimated.
    `front` and `back` are the colours of the two faces as #rrggbb, `front_motif` and `back_motif` what is printed on
    them; `two_sided` says that both may show. `grain` is the direction the grain runs on the sheet as it lies (long:
    along its longer side, along its height where both are equal), `none` for film and unknown stock. `coated`: wet glue
    and folds across the grain do it harm.
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
    front_motif: Motif | None = None
    back_motif: Motif | None = None
    coated: bool = False

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

    @property
    def grain_up(self) -> bool | None:
        """Whether the grain runs along the sheet's height as it lies, None where it is unknown."""
        if self.grain == "none":
            return None
        return (self.sheet.height >= self.sheet.width) == (self.grain == "long")

    @property
    def has_direction(self) -> bool:
        """Whether a pattern on either face tells how it is turned."""
        return any(m is not None and m.has_direction for m in (self.front_motif, self.back_motif))

    @property
    def turned_over(self) -> Paper:
        """The paper with its back for its front."""
        return replace(self, front=self.back, back=self.front, front_motif=self.back_motif, back_motif=self.front_motif)


class Adhesive(Struct, frozen=True):
    """What holds a joint. `thickness` is what it adds between two faces, mm; `open_time` in seconds.

    A tape has its `width`, and a roll of it a length (`roll`), mm.
    """

    id: str
    name: str
    thickness: float
    open_time: float
    can_shift: bool
    width: float | None = None
    roll: float | None = None

    @property
    def is_wet(self) -> bool:
        """Whether it is a glue that soaks in."""
        return self.can_shift


class ReadyMade(Struct, frozen=True):
    """A thing that is bought as it is: an envelope, a plastic card, a tag. Sides and thickness in mm."""

    id: str
    name: str
    width: float
    height: float
    thickness: float
    front: str = "#e9dcc0"


class Tool(Struct, frozen=True):
    """A scoring board, trimmer or ruler. A mark m on it lies at `offset + m` on the paper; marks are `grid` apart, mm.

    `kind` is what it does: score, cut or both. `longest` is the longest line it makes, mm (None: any), `kerf` what its
    blade takes away, mm. `grooves` are those of a board whose grooves are not evenly spaced, mm from its fence, rising;
    sizes still go by its `grid`.
    """

    id: str
    name: str
    kind: Literal["score", "cut", "both"]
    grid: float
    offset: float = 0.0
    longest: float | None = None
    kerf: float = 0.0
    grooves: tuple[float, ...] = ()

    @property
    def has_stop(self) -> bool:
        """Whether a stop is set for each number, as on a trimmer, and not a groove read off."""
        return self.kind == "both"

    def does(self, deed: Literal["score", "cut"]) -> bool:
        """Whether it scores, or cuts."""
        return self.kind in (deed, "both")

    def groove(self, at: float) -> float:
        """The place on the paper, mm, nearest to `at` where the tool makes its line; of two that near the fence."""
        if not self.grooves:
            return self.offset + round((at - self.offset) / self.grid) * self.grid
        return min(
            (self.offset + groove for groove in self.grooves), key=lambda place: (round(abs(place - at), 6), place)
        )

    def next_groove(self, at: float, way: int) -> float:
        """The place of the next line further from the fence (`way` 1) or nearer to it (−1), mm; where there is none,
        that of the last."""
        if not self.grooves:
            return self.groove(at) + way * self.grid
        places = [self.offset + groove for groove in self.grooves]
        ahead = [place for place in places if (place - at) * way > 1e-6]
        return min(ahead, key=lambda place: abs(place - at)) if ahead else self.groove(at)


Item = Paper | Adhesive | ReadyMade | Tool
