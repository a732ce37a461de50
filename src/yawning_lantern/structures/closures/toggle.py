"""Toggle: a bar tied on one side of a thing; a loop of cord from the other side goes around an edge and over it."""

from __future__ import annotations

import math
from collections.abc import Mapping
from itertools import pairwise

from msgspec.structs import replace

from yawning_lantern.assembly import HOST, Instance, Joint, Need, Part, Room, Root, Span, Term, Ware, span, uses
from yawning_lantern.errors import ParameterError
from yawning_lantern.measure import at_least, inches, told
from yawning_lantern.pattern import Fold, build_piece
from yawning_lantern.structures.kit import over_edge
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes, Start
from yawning_lantern.structures.kit.lying import Lying, fit_gap, row, usual_length
from yawning_lantern.structures.kit.solving import length_of

BAR, ACROSS, BEHIND = inches(1), 6.0, inches(1)
"""A bar's length and thickness, and how far behind the edge its loop is tied, mm. Common practice and from memory."""
TAIL = inches(2)
"""What of a cord is knotted, both ends together, mm. From memory."""
CORE, SKIN, SIDES = 2.0, 0.1, 8
"""The rod that a bar is rolled on, mm; what it is drawn of, mm, and with how many sides."""
HOLE, APART = 2.5, 5.0
"""Two holes for its cord, and from one to the other, mm. From memory."""
GRIP = 3.0
"""So much longer than the eye of its loop is a bar that holds, mm. From memory."""
HOLDS = uses.use_of("toggle", "Bar holds its loop", (0.0, 1 / 16, 36), {"easy": (0, 36)})
AROUND = uses.use_of("loop", "Loop around the edge", (0.0, 1 / 16, 36), {"easy": (-1 / 64, 1 / 4)})
"""A bar against the eye of its loop; how thick the loop takes a thing to be against how thick that is: cord gives a
little. Common practice, no source."""


def eye(length: float, across: float) -> float:
    """How long the eye of a loop is around, mm: laid along its cord, half the bar goes through, so that it clears a
    strip half as long as the bar and as wide as it is thick. Worked geometry, from memory."""
    return 2 * (length / 2 + across)


class Toggle(Lying):
    """The bar lies along the edge, its cord through two holes; the loop's length follows from the thing's thickness."""

    id = "toggle"
    name = "Toggle"
    about = "A small bar tied on a face; a loop of cord from behind goes around the edge and over it."
    shelf = "Closures and hinges"
    headline = ("length", "loop")
    starts: tuple[Start, ...] = ("size",)
    footprint = ("across", "length")
    faces = ()
    parameters = (
        *over_edge.PARAMETERS,
        Parameter("length", "Bar, length", "length", "Along the edge.", "Bar", 10.0, 120.0, default=BAR),
        Parameter("across", "Bar, thickness", "length", "Bought, or rolled of paper on a thin rod.", "Bar", 3.0, 25.0,
                  default=ACROSS),
        Parameter("inwards", "From the edge", "length", "To the middle of the bar.", "Bar", 3.0),
        Parameter("behind", "Loop's hole, from the edge", "length", "Where it is tied on the other side.", "Loop", 3.0,
                  default=BEHIND),
        Parameter("loop", "Cord for the loop", "length", "With its eye and its knot.", "Loop", derived=True),
        Parameter("roll", "Rolled of a strip", "length", "As broad as the bar is long.", "Bar", derived=True),
    )  # fmt: skip

    def size(self, situation: Situation) -> dict[str, Sized]:
        """Bar, its place and its loop. Raises ParameterError for a bar that its own loop slips off."""
        s, given = situation, situation.given
        along, deep = over_edge.clear_by(s)
        behind = usual_length(s, "behind", BEHIND, deep)
        sizes = {**over_edge.thing(s, behind.length), "behind": behind}
        sizes["length"] = usual_length(s, "length", BAR, along)
        sizes["across"] = length_of(given, "across", ACROSS)
        sizes["inwards"] = usual_length(s, "inwards", inches(3 / 4), deep / 2)
        length, across = sizes["length"].length, sizes["across"].length
        if length / 2 - across < GRIP:
            raise ParameterError(
                "The eye that lets such a bar through does not hold it.", "Bar, length",
                f"Give {at_least(2 * (across + GRIP))}, or a thinner bar.",
            )  # fmt: skip
        way = sizes["inwards"].length + sizes["over-thick"].length + sizes["behind"].length
        exact = 2 * way + eye(length, across) + TAIL
        sizes["loop"] = Sized(10.0 * math.ceil(exact / 10.0), "auto", exact)
        sizes["roll"] = Sized(math.pi * (across**2 - CORE**2) / (4 * s.paper.caliper), "auto")
        return sizes

    def thickness(self, s: Situation, sizes: Sizes) -> Span:
        """The bar."""
        return span("bar", sizes["across"].length, s.element, "across")

    def need(self, situation: Situation, sizes: Sizes) -> Need:
        """The bar, along the edge and so far in from it."""
        s, e, height = situation, situation.element, self.thickness(situation, sizes).merged()
        half = span("bar", sizes["length"].length / 2, e, "length", 0.5)
        inwards = span("from the edge", sizes["inwards"].length, e, "inwards")
        thick = span("bar", sizes["across"].length / 2, e, "across", 0.5)
        sides = over_edge.taken(over_edge.edge_of(s, sizes), half, inwards - thick, inwards + thick)
        return Need("onto", uses.PLACE, sides, caliper=SKIN, height=height, fixed=True)

    def rooms(self, situation: Situation, sizes: Sizes) -> dict[str, Room]:
        """Nothing goes on it."""
        return {}

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        """A bar of eight sides, one of them on the face."""
        s, e = situation, situation.element
        length, across, inwards = (sizes[n].length for n in ("length", "across", "inwards"))
        side = (across - SKIN) * math.tan(math.pi / SIDES)
        stock = replace(
            s.paper, id="ready-made", name="ready-made", kind="film", measured=SKIN, front="#8a6a48", back="#8a6a48",
            front_motif=None, back_motif=None,
        )  # fmt: skip
        names = [f"side-{k + 1}" for k in range(SIDES)]
        folds = [Fold(a, b, 2 * math.pi / SIDES) for a, b in pairwise(names)]
        sides = [(n, "" if k else "bar", side) for k, n in enumerate(names)]
        bar = build_piece(
            f"{e}.bar", f"{s.name}, bar", stock, row(sides, 0.0, length), folds,
            note="Ready-made: not cut. Or rolled of paper.", bought=True,
        )  # fmt: skip
        edge = over_edge.edge_of(s, sizes)
        middle = side / 2, length / 2
        off = inwards - edge.reach if s.room is not None else 0.0
        root = Root("side-1", (middle[0] + off, middle[1]), edge.up)
        thick = over_edge.told_thick(s, sizes, sizes["behind"].length)
        holds = span("half a bar", length / 2, e, "length", 0.5).plus(Term("its thickness", -across))
        gaps = [fit_gap(s, HOLDS, (f"{s.name}, bar", "eye of its loop"), holds, (GRIP, inches(6)))]
        if thick is not None:
            left = span("taken to be", sizes["over-thick"].length, e, "over-thick").plus(Term("thing, shut", -thick))
            gaps.append(fit_gap(s, AROUND, (f"{s.name}, loop", "thickness of the thing"), left))
        joint = Joint(
            ("bar", "side-1"),
            HOST,
            "held",
            act="tie",
            label="its cord through both holes, knotted behind; the loop is tied on the other side, through a hole "
            f"{told(sizes['behind'].length)} in from the edge",
        )
        pierces = tuple(((middle[0], middle[1] + way * APART / 2), HOLE) for way in (-1, 1))
        wares = (Ware("cord", 1, sizes["loop"].length),)
        return Part(
            e, s.name, (bar,), (Instance("bar", bar.id, root),), gaps=tuple(gaps), joints=(joint,), wares=wares,
            pierces=pierces,
        )  # fmt: skip


FAMILY = Toggle()
