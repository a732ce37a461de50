"""One element, built: its pieces, how they join, what moves, the faces it offers, its pockets and own gaps."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from yawning_lantern.assembly.room import Gap
from yawning_lantern.pattern import Piece, Point


@dataclass(frozen=True, slots=True)
class Root:
    """The panel by which a thing is placed: its middle and up direction in the piece, and the face that touches.

    `touch` is −1 where the back lies against the host, +1 where the front does.
    """

    panel: str
    origin: Point
    up: Point = (0.0, 1.0)
    touch: Literal[-1, 1] = -1


@dataclass(frozen=True, slots=True)
class Attach:
    """A joint inside a part: an instance set on a panel of another.

    `side` +1 is the host panel's front, −1 its back; `standoff` is the distance between the two mid-surfaces, mm.
    """

    host: str
    panel: str
    origin: Point
    up: Point
    side: Literal[-1, 1]
    standoff: float
    kind: Literal["glue", "slide"] = "glue"


@dataclass(frozen=True, slots=True)
class Instance:
    """One copy of a piece in the built thing. The first of a part has no `attach`: the host places it."""

    id: str
    piece: str
    root: Root
    attach: Attach | None = None


@dataclass(frozen=True, slots=True)
class Swing:
    """A movable group of creases: (instance, crease name, angle when open in radians) each, moved together."""

    name: str
    label: str
    creases: tuple[tuple[str, str, float], ...]


@dataclass(frozen=True, slots=True)
class Mount:
    """A face that can carry a guest: where it is, and how the guest sits.

    `outline` is the free part of the face in the mount's frame (x right, y up, origin in its middle), mm.
    `standoff` is the distance from the host panel's mid-surface to the plane the guest's touching face lies in, mm.
    `seat` guests rest and lift off along the face's normal; others are glued.
    """

    id: str
    label: str
    instance: str
    panel: str
    side: Literal[-1, 1]
    origin: Point
    up: Point
    outline: tuple[Point, ...]
    standoff: float
    seat: bool = False
    lift: float = 0.0


@dataclass(frozen=True, slots=True)
class Pocket:
    """A pocket: the panels that make it, its mouth, and depth and inside width after glue, mm."""

    name: str
    panels: tuple[str, ...]
    mouth: str
    width: float
    depth: float


@dataclass(frozen=True, slots=True)
class Part:
    """One element, built. Immutable, and a function of its situation alone.

    `contents` is the box of what stands on its floor (width, depth, height, mm), where the maker told of it.
    """

    element: str
    name: str
    pieces: tuple[Piece, ...]
    instances: tuple[Instance, ...]
    mounts: tuple[Mount, ...] = ()
    swings: tuple[Swing, ...] = ()
    gaps: tuple[Gap, ...] = ()
    pockets: tuple[Pocket, ...] = ()
    contents: tuple[float, float, float] | None = None

    def piece(self, piece_id: str) -> Piece:
        """The piece of that id. Raises KeyError."""
        for piece in self.pieces:
            if piece.id == piece_id:
                return piece
        raise KeyError(piece_id)
