"""How a family declares itself: parameters with labels, limits and help, and the four functions that make it work."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Literal, Protocol

from msgspec import Struct

from yawning_lantern.assembly import Need, Part, Relation, Room
from yawning_lantern.design import Value
from yawning_lantern.stock import Paper, Tool

Origin = Literal["given", "auto", "fill", "default"]
"""given: typed by the maker. auto: from contents, sheet or guests. fill: from the host. default: nothing said."""

Start = Literal["size", "contents", "sheet"]


ENDLESS = 2000.0
"""A parameter that may be so much, mm, is bounded by nothing of its own."""


class Parameter(Struct, frozen=True):
    """One named measure of a family.

    `least` and `most` bound a length (mm) or a count. A `word` takes one of `words`; a `length` with `words` takes
    either; a `text` is read by its family, `lengths` are some in a row, kept as text in mm. `group` is the heading
    under which a maker looks for it. `structural` ones change the nest, not a number; `derived` ones are shown and
    cannot be given. What is `scored` lies on the scoring tool's grid, other lengths on the cutting tool's. A `fact` is
    told of what it holds or goes over, which no remedy changes.
    """

    id: str
    label: str
    kind: Literal["length", "count", "word", "text", "lengths"]
    help: str
    group: str = "Size"
    least: float = 0.0
    most: float = ENDLESS
    words: tuple[str, ...] = ()
    default: Value | None = None
    structural: bool = False
    derived: bool = False
    scored: bool = False
    fact: bool = False


def fact(
    id: str, label: str, help: str, group: str = "Size", least: float = 0.0, most: float = ENDLESS,
    default: Value | None = None,
) -> Parameter:  # fmt: skip
    """A length that is told of what a structure holds or goes over."""
    return Parameter(id, label, "length", help, group, least, most, default=default, fact=True)


class Sized(Struct, frozen=True):
    """A settled value, where it came from, and for a rounded length the exact figure it came from (mm)."""

    value: Value
    origin: Origin
    exact: float | None = None

    @property
    def length(self) -> float:
        """The value as a length, mm, or as a count. Raises TypeError for a word: a family knows its own kinds."""
        if isinstance(self.value, str):
            raise TypeError(f"{self.value!r} is a word")
        return self.value

    @property
    def residual(self) -> float:
        """What rounding to the tool's grid added, mm."""
        return 0.0 if self.exact is None else self.length - self.exact


Sizes = Mapping[str, Sized]


class GuestNeed(Struct, frozen=True):
    """A guest as its host sees it: on which face, how turned and placed, and what it asks."""

    element: str
    name: str
    mount: str
    turn: int
    offset: tuple[float, float]
    need: Need

    def wants(self, axis: int) -> float | None:
        """What it asks for between two walls along an axis of its face (0 across, 1 up), mm: its outside and its play,
        or where it lies flat there what is asked beside such a thing. None where it has no four sides yet."""
        if len(self.need.sides) != 4:
            return None
        sides = self.need.sides[(axis + self.turn) % 2 :: 2]
        flat = self.need.use.between
        play = max(self.need.play, flat.wanted(self.need.school)[0]) if flat is not None else self.need.play
        return sum(side.reach.value for side in sides) + play


class Situation(Struct, frozen=True):
    """All that one element's sizes and shape follow from. Two equal situations give equal parts.

    `glue` is the thickness of the adhesive's layer, mm. `room` is None at the root and while needs go up. `lays` tells
    how pieces lie on their sheets (piece, quarter turns, turned over); families need not heed it.
    """

    element: str
    name: str
    given: Mapping[str, Value]
    paper: Paper
    glue: float
    score: Tool
    cut: Tool
    guests: tuple[GuestNeed, ...] = ()
    room: Room | None = None
    lays: tuple[tuple[str, int, bool], ...] = ()

    def on(self, *mounts: str) -> tuple[GuestNeed, ...]:
        """The guests on these faces."""
        return tuple(guest for guest in self.guests if guest.mount in mounts)

    def bulk_on(self, *mounts: str) -> float:
        """The greatest thickness that guests add on one of these faces, glue included, mm: what lies under the others
        and they."""
        greatest = 0.0
        for mount in mounts:
            there = [g.need for g in self.guests if g.mount == mount and g.need.height]
            if there:
                tall = [(need.under, need.tall + self.glue) for need in there]
                over, below = (max((t for under, t in tall if under is lies), default=0.0) for lies in (False, True))
                greatest = max(greatest, over + below)
        return greatest

    def lid_overhang(self) -> float:
        """How far a lid stands out beyond a wall's outside, half its play and rounding included, mm."""
        return max(
            (g.need.bulk + g.need.play / 2 + self.cut.grid / 2 for g in self.guests if g.need.relation == "over"),
            default=0.0,
        )

    def lid_rise(self) -> float:
        """How far a lid stands above the walls, mm."""
        over = [g.need.height for g in self.guests if g.need.relation == "over"]
        return max((height.value for height in over if height), default=0.0)


class Family(Protocol):
    """One kind of structure."""

    id: str
    name: str
    about: str
    shelf: str
    """The heading under which makers look for it."""
    parameters: tuple[Parameter, ...]
    starts: tuple[Start, ...]
    faces: tuple[tuple[str, str], ...]
    """Every face that can carry a guest: (mount id, words)."""
    relation: Relation
    """How it lies on a host: inside its walls, over them, or flat onto a face."""
    headline: tuple[str, ...]
    """The parameters that tell its size in a few figures."""

    def size(self, situation: Situation) -> dict[str, Sized]:
        """Every parameter settled. Raises ParameterError for values that make no such structure."""

    def need(self, situation: Situation, sizes: Sizes) -> Need:
        """What it asks of its host. Called first without a room: dimensions that would fill are then left open."""

    def rooms(self, situation: Situation, sizes: Sizes) -> dict[str, Room]:
        """What each of its faces offers."""

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        """Pieces, joints, faces, pockets and its own gaps; `rooms` is what `rooms()` gave."""
