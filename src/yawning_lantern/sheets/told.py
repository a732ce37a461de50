"""What a plan of sheets is, as plain data: what is wanted, what it is cut from, the cuts, what lies where. In mm."""

from __future__ import annotations

from typing import Literal

from msgspec import Struct


class Rectangle(Struct, frozen=True):
    """What is wanted of a stock: a name, width and height in mm, how often, and whether it may be turned. What may not
    be lies upright on its sheet, or a quarter `turned`. `spare` are rectangles that its outline leaves of it, as it
    lies on its sheet: x, y, width, height, mm."""

    name: str
    width: float
    height: float
    count: int = 1
    may_turn: bool = True
    stock: str = ""
    turned: bool = False
    spare: tuple[tuple[float, float, float, float], ...] = ()

    @property
    def on_sheet(self) -> tuple[float, float]:
        """Width and height as it lies on its sheet, mm."""
        return (self.height, self.width) if self.turned else (self.width, self.height)


class Board(Struct, frozen=True):
    """A sheet of a stock as it can be used, mm; `kept` ones are off-cuts, `count` tells how many there are (None: as
    many as are bought)."""

    name: str
    stock: str
    width: float
    height: float
    count: int | None = None
    kept: bool = False


class Trimmer(Struct, frozen=True):
    """What cuts: the longest cut it makes (mm, None: any) and what its blade takes away, mm."""

    longest: float | None = None
    kerf: float = 0.0


class Cut(Struct, frozen=True):
    """A cut as it is made: on which part of the sheet (1: the sheet itself), across its width or height, where the
    fence stands and how long it is, mm; the numbers of the part at the fence and the part beyond (0: none)."""

    number: int
    part: int
    across: Literal["width", "height"]
    fence: float
    length: float
    at_fence: int
    beyond: int


class Placed(Struct, frozen=True):
    """A piece where it lies on its sheet, mm from the lower left."""

    piece: str
    x: float
    y: float
    width: float
    height: float
    turned: bool


class Left(Struct, frozen=True):
    """What is left of a sheet, mm from the lower left; `useful` ones are kept."""

    name: str
    x: float
    y: float
    width: float
    height: float
    useful: bool


class SheetPlan(Struct, frozen=True):
    """One sheet or off-cut: what is cut from it, in order, and what is left; `corners` are what the outlines of its
    pieces leave of their rectangles, large enough to keep."""

    board: Board
    cuts: tuple[Cut, ...]
    placed: tuple[Placed, ...]
    left: tuple[Left, ...]
    corners: tuple[Left, ...] = ()

    @property
    def kept(self) -> tuple[Left, ...]:
        """All that is worth keeping of it."""
        return (*(part for part in self.left if part.useful), *self.corners)


class Plan(Struct, frozen=True):
    """Sheets for all that is wanted. `bound`: there cannot be fewer whole sheets. `settings`: how often the fence is
    set. `order` tells the cuts of all sheets in the order made, as (sheet, rank of its cut)."""

    sheets: tuple[SheetPlan, ...]
    bound: int
    settings: int
    order: tuple[tuple[int, int], ...]

    @property
    def count(self) -> int:
        """Whole sheets; off-cuts are not counted."""
        return sum(not sheet.board.kept for sheet in self.sheets)

    @property
    def is_least(self) -> bool:
        """Whether it is proven that there cannot be fewer."""
        return self.count <= self.bound
