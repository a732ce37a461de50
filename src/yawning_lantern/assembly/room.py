"""Room and Need: what a face offers and what a guest asks. The same two types serve every pair of families."""

from __future__ import annotations

import math
from collections.abc import Iterable
from typing import Literal

from msgspec import Struct
from msgspec.structs import replace

from yawning_lantern.assembly.spans import Span, Term
from yawning_lantern.assembly.uses import Use

Relation = Literal["inside", "over", "onto", "around"]
"""inside: between the host's walls. over: over the host's walls (a lid). onto: flat on a face (a mat). around: a loop
about the whole shut host (a band)."""


def sits_on(guest: Relation, room: Relation) -> bool:
    """Whether a guest of one relation can sit where a room of another is: lids over walls, bands around, the rest on
    floors and faces alike."""
    return guest == room or (guest in ("inside", "onto") and room in ("inside", "onto"))


class Side(Struct, frozen=True):
    """What bounds a Room or a Need one way: a name, the outward direction in the face (radians), the reach from the
    face's middle."""

    name: str
    angle: float
    reach: Span


class Through(Struct, frozen=True):
    """What goes around an edge of a shut thing sees from a face of it: how `thick` it is from that face through to its
    other side, and its free `edges`: how far each lies from the face's middle. `lumps` are what is on the other side:
    outlines as this face sees them (left, foot, right, head) and how high they are. Lengths in mm."""

    thick: Span
    edges: tuple[Side, ...]
    lumps: tuple[tuple[float, float, float, float, float], ...] = ()

    def within(self, angle: float, reach: float, depth: float) -> float:
        """How thick it is, with what lies on its other side nearer than `depth` to the edge `reach` off the middle at
        an angle (of whole quarters), mm."""
        c, s = round(math.cos(angle)), round(math.sin(angle))
        near = (
            high for x0, y0, x1, y1, high in self.lumps if reach - max(c * x0 + s * y0, c * x1 + s * y1) < depth
        )  # fmt: skip
        return self.thick.value + max(near, default=0.0)


TOP, TOP_AROUND = "top", "top of what is around it"
"""What bounds a room upwards: its own walls, or, where those are lower, the walls it stands in."""


class Room(Struct, frozen=True):
    """What a face offers a guest when everything is shut. Lengths in mm.

    `use` names the gap that its sides make (see `uses`); `per_side` asks for one gap a side instead of one in all.
    `nominal` is the host's own panel there, `caliper` the host's sheet, `bulk` the most that is glued on one of the
    walls. `height` is the clear depth in front of the face, None where nothing bounds it, `bound` what bounds it, and
    `intrudes` how far a lid hangs into it. `step`, `wall_step` and `wall` serve a guest of the host's own kind: how
    much smaller its nominal panel and its wall are to be, and the host's own wall. `through` is told of an outside of
    a thing that shuts, by what is glued behind and closed in front. `corner` is the radius of the face's corners where
    they are rounded.
    """

    relation: Relation
    use: Use
    sides: tuple[Side, ...]
    nominal: tuple[float, float]
    caliper: float
    bulk: float = 0.0
    height: Span | None = None
    per_side: bool = False
    step: float | None = None
    wall_step: float = 0.0
    wall: float | None = None
    intrudes: float = 0.0
    bound: str = TOP
    through: Through | None = None
    corner: Span | None = None

    def clear(self, axis: int) -> float:
        """How much is free along an axis of the face (0 across, 1 up) for what stands square in its middle, mm.

        Between four walls from one to the other; on other faces the side of the largest square about the middle: its
        corner (a, a) reaches a·(|cos θ| + |sin θ|) towards a side at the angle θ.
        """
        if len(self.sides) == 4:
            return sum(side.reach.value for side in self.sides[axis::2])
        shares = ((s.reach.value, abs(math.cos(s.angle)) + abs(math.sin(s.angle))) for s in self.sides)
        return 2 * min(reach / share for reach, share in shares)

    def narrowed(self, across: float, up: float) -> Room:
        """The same room with so much less of it along each axis of the face, half on either side, mm."""
        sides = []
        for side in self.sides:
            less = (across * abs(math.cos(side.angle)) + up * abs(math.sin(side.angle))) / 2
            sides.append(replace(side, reach=side.reach.plus(Term("kept free", -less))))
        nominal = (self.nominal[0] - across, self.nominal[1] - up)
        return replace(self, sides=tuple(sides), nominal=nominal)

    def on_glue(self, glue: float) -> Room:
        """The same room over a layer of glue, mm: what has a height and goes over or around nothing is glued down."""
        if not glue or self.height is None or self.relation not in ("inside", "onto"):
            return self
        return replace(self, height=self.height.plus(Term("glue beneath", -glue)))

    def turned(self, quarters: int) -> Room:
        """The same room as a guest sees it that is turned by so many quarter turns."""
        if quarters % 4 == 0:
            return self
        nominal = self.nominal if quarters % 2 == 0 else (self.nominal[1], self.nominal[0])
        through = self.through
        if through is not None:
            lumps = tuple(_turned_box(lump, quarters) for lump in through.lumps)
            through = replace(through, edges=_turned(through.edges, quarters), lumps=lumps)
        return replace(self, sides=_turned(self.sides, quarters), nominal=nominal, through=through)


def _turned(sides: tuple[Side, ...], quarters: int) -> tuple[Side, ...]:
    """Sides as one sees them that is turned by so many quarter turns, by their angles."""
    angles = [(side.angle - quarters * math.pi / 2 + 1e-9) % (2 * math.pi) - 1e-9 for side in sides]
    turned = (replace(side, angle=angle) for side, angle in zip(sides, angles, strict=True))
    return tuple(sorted(turned, key=lambda side: side.angle))


def _turned_box(
    lump: tuple[float, float, float, float, float], quarters: int
) -> tuple[float, float, float, float, float]:
    """An outline as one sees it that is turned by so many quarter turns; its height stays."""
    x0, y0, x1, y1, high = lump
    for _ in range(quarters % 4):
        x0, y0, x1, y1 = y0, -x1, y1, -x0
    return x0, y0, x1, y1, high


class Need(Struct, frozen=True):
    """What a guest asks of the face it sits on, when shut. Lengths in mm.

    `use` names the gap to its sides. `sides` are the ones already settled (none: it fills the room); `nominal` is its
    own nominal panel (None: not settled), `caliper` its sheet, `bulk` the most that is glued on one of its faces that
    look at the host (of a lid: what it adds outside a wall). `height` is how far it stands off the face, `wall` its
    own wall. `play` is the play it wants in all. `school` is the fit asked for and `want` a range that replaces the
    school's. `bears_lid`: a lid may rest on it. `intrudes`: how far it hangs into what it covers. `layers`: how many
    shells of one kind it is, itself included. `stands`: how far something inside it stands above its own wall, so
    that a lid rests there. `fixed`: its sides are told from the middle of the face, and it is not set in the middle of
    what is free there. `under`: whatever else is on the face is glued over it.
    """

    relation: Relation
    use: Use
    sides: tuple[Side, ...] = ()
    nominal: tuple[float | None, float | None] = (None, None)
    caliper: float = 0.0
    bulk: float = 0.0
    height: Span | None = None
    height_school: str = "easy"
    height_want: tuple[float, float] | None = None
    wall: float | None = None
    play: float = 0.0
    school: str = "easy"
    want: tuple[float, float] | None = None
    bears_lid: bool = False
    intrudes: float = 0.0
    layers: int = 0
    stands: float = 0.0
    fixed: bool = False
    under: bool = False

    @property
    def tall(self) -> float:
        """How far it stands off the face, with what stands above its own wall, mm; 0 where that is open."""
        return self.height.value + self.stands if self.height is not None else 0.0


class Gap(Struct, frozen=True):
    """The space between two things when shut: a sum that must come out within what its use wants.

    `use` tells the kind of gap, `element` whose it is, `between` names both sides, `school` the fit asked for,
    `want` a range that replaces the school's, mm. `where` names the direction for pictures (a side, an axis, `up`) and
    `angle` its direction in the face, radians; `in_all`: both
    sides together; `mount`, `reach` and `level` tell where to draw it: on that face of the
    host, so far from its middle (for `up`: above it), so high above it, mm. `share` is how much of what its use asks
    for in all this gap has to give: one half where each of two sides is a gap of its own. `lacks` says what is missing
    where there is nothing to measure to.
    """

    use: Use
    element: str
    host: str
    between: tuple[str, str]
    span: Span
    school: str = "easy"
    want: tuple[float, float] | None = None
    where: str = ""
    angle: float | None = None
    mount: str = "floor"
    in_all: bool = False
    reach: float | None = None
    level: float = 0.0
    share: float = 1.0
    lacks: str = ""

    @property
    def key(self) -> str:
        """A text that tells it from all others of a design."""
        return "|".join((self.code, self.element, self.where, *self.between))

    @property
    def code(self) -> str:
        """The kind of gap in one word, as files and lists tell it."""
        return self.use.code

    @property
    def value(self) -> float:
        """What is left, mm; below zero the two overlap."""
        return self.span.value


SIDE_NAMES = ("right", "back", "left", "front")
_QUARTERS = (0.0, math.pi / 2, math.pi, 1.5 * math.pi)  # radians, from the right: where the four sides look


def box_sides(reaches: Iterable[Span], names: Iterable[str] = SIDE_NAMES) -> tuple[Side, ...]:
    """Four sides, at 0, 90, 180 and 270 degrees: right, back, left, front as the thing stands before you."""
    return tuple([Side(*one) for one in zip(names, _QUARTERS, reaches, strict=True)])  # some hundred at every edit
