"""Handle: a cord through two holes, over a band that bears it; its knots lie behind the panel."""

from __future__ import annotations

import math
from collections.abc import Mapping
from itertools import pairwise

from msgspec.structs import replace

from yawning_lantern.assembly import Instance, Part, Room, Root, Span, Term, Ware, span, uses
from yawning_lantern.errors import ParameterError
from yawning_lantern.measure import at_least, inches, told
from yawning_lantern.pattern import Panel, build_piece, rectangle, round_hole
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes, Start
from yawning_lantern.structures.kit.lying import BEARS, Lying, bulks, extent, face_mount, fit_gap, usual_length
from yawning_lantern.structures.kit.shell import lever_term
from yawning_lantern.structures.kit.solving import face_room, length_of, sheet_gap

HIGH = inches(3 / 4)
"""How high the band is, mm. Common practice, no source."""
CORD, DROP = 3.0, inches(3)
"""A cord's thickness, and how high it stands in a bow, mm. Common practice, no source."""
KNOT = 12.0
"""What a knot takes of a cord, in its own thicknesses. From memory; its tail with it."""
BETWEEN = 2.0
"""Paper that is left between two holes at least, mm. From memory."""
_STEPS = 512  # chords by which a bow is measured


def bow(spread: float, drop: float) -> float:
    """Length of half an ellipse over two holes `spread` apart, `drop` high, mm: chords of it, closer than any cord is
    cut."""
    points = [(spread / 2 * math.cos(a), drop * math.sin(a)) for a in (math.pi * k / _STEPS for k in range(_STEPS + 1))]
    return math.fsum(math.dist(a, b) for a, b in pairwise(points))


class Handle(Lying):
    """The band takes the pull; holes go through it and the panel, punched before anything covers the panel's back."""

    id = "handle"
    name = "Handle"
    about = "A cord in a bow, knotted behind two holes; a band under it bears the pull."
    shelf = "Closures and hinges"
    headline = ("spread", "drop")
    starts: tuple[Start, ...] = ("size",)
    faces = (("face", "on the band, between its holes"),)
    parameters = (
        Parameter("width", "Band, width", "length", "Left to right.", "Band", 20.0),
        Parameter("height", "Band, height", "length", "Foot to head.", "Band", 8.0),
        Parameter("spread", "Holes apart", "length", "From middle to middle.", "Holes", 10.0),
        Parameter("cord", "Cord", "length", "How thick it is.", "Cord", 0.5, 12.0, default=CORD),
        Parameter("drop", "Bow", "length", "How high it stands over its holes.", "Cord", 5.0, 400.0, default=DROP),
        Parameter("length", "Cord, length", "length", "With both knots.", "Cord", derived=True),
    )  # fmt: skip

    def size(self, situation: Situation) -> dict[str, Sized]:
        """Band, holes and cord. Raises ParameterError where a hole is too near an edge."""
        s = situation
        least = s.room.clear(1) if s.room is not None else 1000.0
        sizes = {
            "width": extent(s, "width", 0, inches(4)),
            "height": usual_length(s, "height", HIGH, least),
            "cord": length_of(s.given, "cord", CORD),
            "drop": length_of(s.given, "drop", DROP),
        }
        w, cord = sizes["width"].length, sizes["cord"].length
        sizes["spread"] = length_of(s.given, "spread", w / 2, "auto")
        edge = min((w - sizes["spread"].length) / 2, sizes["height"].length / 2) - self._hole(sizes) / 2
        if edge < 1.5:
            raise ParameterError(
                f"A hole for a cord of {told(cord, fine=True)} tears out at the edge of the band.", "Holes apart",
                "Let them be nearer, take a thinner cord, or a larger band.",
            )  # fmt: skip
        if sizes["spread"].length < self._hole(sizes) + BETWEEN:
            raise ParameterError(
                f"Two holes for a cord of {told(cord, fine=True)} run into one another.", "Holes apart",
                f"Set them {at_least(self._hole(sizes) + BETWEEN)} apart, or take a thinner cord.",
            )  # fmt: skip
        exact = bow(sizes["spread"].length, sizes["drop"].length) + 2 * KNOT * cord
        sizes["length"] = Sized(5.0 * math.ceil(exact / 5.0), "auto", exact)
        return sizes

    @staticmethod
    def _hole(sizes: Sizes) -> float:
        """A hole a little larger than the cord, mm."""
        return sizes["cord"].length + 0.5

    def thickness(self, s: Situation, sizes: Sizes) -> Span:
        """Band, and what is on it; the cord stands in its bow beyond."""
        return span("band", s.paper.caliper).plus(*bulks(s, "bulk on the band", "face"))

    def rooms(self, situation: Situation, sizes: Sizes) -> dict[str, Room]:
        """Between the holes."""
        s, free = situation, sizes["spread"].length - self._hole(sizes) - 2.0
        if free < BEARS:
            return {}
        return {
            "face": face_room(free, sizes["height"].length, s.paper.caliper, s.element, ("spread", "height"), "band")
        }

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        """The band; the cord is bought by length."""
        s, e, t = situation, situation.element, situation.paper.caliper
        w, h, apart = (sizes[n].length for n in ("width", "height", "spread"))
        hole = self._hole(sizes)
        panel = Panel("band", "band", rectangle(0, 0, w, h))
        places = tuple((w / 2 + sign * apart / 2, h / 2) for sign in (-1, 1))
        piece = build_piece(
            f"{e}.band", s.name, s.paper, [panel],
            note="Punch band and panel together; knot the cord behind before anything covers it.",
        )  # fmt: skip
        piece = replace(piece, holes=tuple(round_hole(at, hole) for at in places))
        mounts = []
        if "face" in rooms:
            free = (apart - hole - 2.0) / 2
            mounts.append(
                face_mount("face", "on the band", "band", panel, 1, t, shape=(w / 2 - free, 0.0, w / 2 + free, h))
            )
        edge = span("band", w / 2, e, "width", 0.5).plus(
            lever_term("half the spread", -apart / 2, e, "spread", -0.5), Term("half a hole", -hole / 2)
        )
        gaps = (
            sheet_gap(
                e, s.name, s.paper, (w, h), (span("width", w, e, "width").terms, span("height", h, e, "height").terms)
            ),
            fit_gap(s, uses.SPARE, (f"{s.name}, holes", "edge of the band"), edge),
        )  # fmt: skip
        return Part(
            e, s.name, (piece,), (Instance("band", piece.id, Root("band", (w / 2, h / 2))),), tuple(mounts), gaps=gaps,
            wares=(Ware("cord", 1, sizes["length"].length),), pierces=tuple((at, hole) for at in places),
        )  # fmt: skip


FAMILY = Handle()
