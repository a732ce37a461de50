"""What is fixed on one side of a shut thing and closes on the other: it goes around an edge of it."""

from __future__ import annotations

import math
from collections.abc import Sequence

from msgspec import Struct

from yawning_lantern.assembly import Room, Side, Span, Term, Through, span
from yawning_lantern.assembly.edges import matching_side
from yawning_lantern.measure import inches
from yawning_lantern.pattern import Point
from yawning_lantern.structures.kit.declare import GuestNeed, Parameter, Situation, Sized, Sizes, fact
from yawning_lantern.structures.kit.solving import given_length, length_of, word_of

EDGES = ("fore edge", "head", "foot")
"""The edges of a book that open, as a maker calls them."""
AHEAD, INWARDS, ASIDE = "towards the edge", "inwards", ("one side", "other side")
"""The sides of what is put so far from an edge."""
THICK = inches(1 / 2)
"""How thick a thing is where nothing tells, mm."""
PARAMETERS = (
    fact("over-thick", "Thing, thickness", "Shut, with all that is on its other side.", "Thing", 0.1),
    Parameter("edge", "Around", "word", "The edge that it goes around.", "Thing", words=EDGES, default=EDGES[0]),
)


def through(s: Situation, thick: Span, fore: float, end: float, faces: tuple[str, str], behind: bool) -> Through:
    """What a book tells of the first of its two outside `faces`.

    It is `thick` with all that is on both; its fore edge and its head and foot lie so far from the middle of the face,
    mm. Its spine is at its left; for one who looks from `behind`, at its right.
    """
    sides = [
        Side(EDGES[0], math.pi if behind else 0.0, span("half the face", fore)),
        Side(EDGES[1], math.pi / 2, span("half the face", end)),
        Side(EDGES[2], 1.5 * math.pi, span("half the face", end)),
    ]
    lumps = tuple(_lump(guest, s.glue, sides) for guest in s.on(faces[1]))
    bare = thick.plus(Term("bulk on both sides", -s.bulk_on(faces[0]) - s.bulk_on(faces[1])))
    return Through(bare, tuple(sorted(sides, key=lambda side: side.angle)), lumps)


def _lump(guest: GuestNeed, glue: float, half: Sequence[Side]) -> tuple[float, float, float, float, float]:
    """What a guest takes of the other side, mirrored: left, foot, right, head, and its height, mm. `half` are the edges
    as one sees them from this side."""
    fore, end = (next(side for side in half if side.name == name) for name in EDGES[:2])
    whole = (fore.reach.value, end.reach.value)
    reaches = [0.0] * 4  # right, head, left, foot
    if guest.need.fixed:
        towards = {side.name: side for side in guest.need.sides}
        k = round(towards[AHEAD].angle / (math.pi / 2))
        far = whole[k % 2]
        k = round(fore.angle / (math.pi / 2)) if k == 0 else k
        reaches[k], reaches[(k + 2) % 4] = far + towards[AHEAD].reach.value, towards[INWARDS].reach.value - far
        for one in (k + 1, k + 3):
            reaches[one % 4] = towards[ASIDE[0]].reach.value
    else:
        for axis in (0, 1):
            own = [matching_side(guest.need.sides, (axis + n) * math.pi / 2, guest.turn) for n in (0, 2)]
            there = [side.reach.value for side in own if side is not None]
            reaches[axis] = reaches[axis + 2] = sum(there) / 2 if len(there) == 2 else whole[axis]
    x, y = -guest.offset[0], guest.offset[1]
    return x - reaches[2], y - reaches[3], x + reaches[0], y + reaches[1], guest.need.tall + glue


class Edge(Struct, frozen=True):
    """Where a thing goes around: the way to that edge as the face sees it, radians, and how far off it is, mm."""

    angle: float
    reach: float

    @property
    def up(self) -> Point:
        """The face's up as a piece sees it whose x looks to the edge."""
        return math.sin(self.angle), math.cos(self.angle)


def thing(s: Situation, depth: float) -> dict[str, Sized]:
    """Thickness and edge of what it goes around, `depth` mm in over its other side: given, or of its host."""
    sizes = {"edge": word_of(s.given, "edge", EDGES[0])}
    told = told_thick(s, sizes, depth)
    if given_length(s.given, "over-thick") is None and told is not None:
        return {**sizes, "over-thick": Sized(told, "fill")}
    return {**sizes, "over-thick": length_of(s.given, "over-thick", THICK)}


def told_thick(s: Situation, sizes: Sizes, depth: float) -> float | None:
    """How thick the host tells it is there, mm; None where it tells nothing."""
    if s.room is None or s.room.through is None:
        return None
    edge = edge_of(s, sizes)
    return s.room.through.within(edge.angle, edge.reach, depth)


def clear_by(s: Situation) -> tuple[float, float]:
    """What is free on the face along the edge and inwards from it, mm; without a face as much as one likes."""
    if s.room is None:
        return 1000.0, 1000.0
    fore = word_of(s.given, "edge", EDGES[0]).value == EDGES[0]
    return (s.room.clear(1), s.room.clear(0)) if fore else (s.room.clear(0), s.room.clear(1))


def edge_of(s: Situation, sizes: Sizes) -> Edge:
    """The edge that it goes around: of a face that tells of none its right, its head or its foot. While nothing is
    known of the face it lies in the middle."""
    name = str(sizes["edge"].value)
    told = s.room.through if s.room is not None else None
    for side in told.edges if told is not None else ():
        if side.name == name:
            return Edge(side.angle, side.reach.value)
    axis = 0 if name == EDGES[0] else 1
    half = s.room.clear(axis) / 2 if s.room is not None else 0.0
    return Edge({EDGES[0]: 0.0, EDGES[1]: math.pi / 2}.get(name, 1.5 * math.pi), half)


def along(edge: Edge, half: Span) -> tuple[Side, ...]:
    """What it takes of the face along the edge: as much each way, mm."""
    return tuple(
        sorted(
            (Side(name, round((edge.angle + turn) % (2 * math.pi), 12), half)
             for name, turn in zip(ASIDE, (math.pi / 2, 1.5 * math.pi), strict=True)),
            key=lambda side: side.angle,
        )
    )  # fmt: skip


def across(room: Room, edge: Edge) -> float:
    """How far it is over the face from the edge, mm."""
    sides = (matching_side(room.sides, edge.angle + turn, 0) for turn in (0.0, math.pi))
    return sum(side.reach.value if side is not None else edge.reach for side in sides)


def taken(edge: Edge, half: Span, near: Span, deep: Span) -> tuple[Side, ...]:
    """The sides of what lies from `near` to `deep` inwards of the edge, and half its length along it each way, mm: told
    from the middle of the face; from the edge itself where `edge` lies in the middle."""
    reach = span("edge", edge.reach)
    ahead = Side(AHEAD, edge.angle % (2 * math.pi), reach - near)
    behind = Side(INWARDS, round((edge.angle + math.pi) % (2 * math.pi), 12), deep - reach)
    return tuple(sorted((ahead, behind, *along(edge, half)), key=lambda side: side.angle))
