"""Thread disc: a disc of card held by a brad; a thread goes in an eight around it and another holds a thing shut."""

from __future__ import annotations

import math
from collections.abc import Mapping

from msgspec.structs import replace

from yawning_lantern.assembly import HOST, Attach, Instance, Joint, Part, Room, Root, Span, Term, Ware, span, uses
from yawning_lantern.errors import ParameterError
from yawning_lantern.measure import inches, told
from yawning_lantern.pattern import Panel, Point, build_piece, round_hole
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes, Start
from yawning_lantern.structures.kit.lying import BORDER, Lying, count_of, fit_gap, usual_length
from yawning_lantern.structures.kit.solving import length_of, sheet_gap

DISC, HEAD, THICK, HOLE = inches(3 / 4), 8.0, 1.5, 3.0
"""A disc, a brad's head across and over the disc, its hole, mm. Common practice and from memory."""
TAIL = inches(2)
"""What of the thread hangs free, and is knotted under the disc, mm. From memory."""
LEAST = 10.0
"""A smaller disc holds no thread, mm. From memory."""
_EVEN = 32  # sides of the polygon that stands for a disc


def eight(apart: float, across: float) -> float:
    """Length of a thread laid once in an eight around two discs, mm: a crossed belt (textbook formula, from memory).
    `apart` is from middle to middle, `across` a disc's diameter."""
    straight = math.sqrt(apart**2 - across**2)
    return 2 * straight + across * (math.pi + 2 * math.asin(across / apart))


class ThreadDisc(Lying):
    """Two go with one another, each on its side of what opens; the thread is tied under one of them."""

    id = "thread-disc"
    name = "Thread disc"
    about = "A disc of card on a brad; a thread wound in an eight around two of them holds a thing shut."
    shelf = "Closures and hinges"
    headline = ("diameter", "to")
    starts: tuple[Start, ...] = ("size",)
    footprint = ("diameter", "diameter")
    faces = ()
    parameters = (
        Parameter("diameter", "Diameter", "length", "Of the disc.", "Disc", LEAST, 80.0, default=DISC),
        Parameter("cards", "Cards", "count", "Glued on one another, so that the thread finds a groove.", "Disc", 1, 4,
                  default=2),
        Parameter("to", "To the other disc", "length", "From middle to middle; 0 where the other bears the thread.",
                  "Thread", 0.0, 400.0, default=inches(1.5)),
        Parameter("turns", "Turns", "count", "How often it goes in an eight around both.", "Thread", 1, 6, default=2),
        Parameter("thread", "Thread", "length", "With what hangs free.", "Thread", derived=True),
    )  # fmt: skip

    def size(self, situation: Situation) -> dict[str, Sized]:
        """Disc and thread. Raises ParameterError where two discs would lie over one another."""
        s = situation
        free = DISC if s.room is None else min(s.room.clear(0), s.room.clear(1)) - BORDER
        disc = usual_length(s, "diameter", DISC, free, LEAST)
        sizes = {
            "diameter": disc,
            "cards": count_of(s, "cards", 2),
            "to": length_of(s.given, "to", max(inches(1.5), 2 * disc.length)),
            "turns": count_of(s, "turns", 2),
        }
        across, apart = sizes["diameter"].length, sizes["to"].length
        if 0.0 < apart <= across:
            raise ParameterError(
                f"Two discs of {told(across)} lie over one another {told(apart)} apart.", "To the other disc",
                f"Give more than {told(across)}, or smaller discs.",
            )  # fmt: skip
        exact = sizes["turns"].length * eight(apart, across) + TAIL if apart else 0.0
        sizes["thread"] = Sized(10.0 * math.ceil(exact / 10.0), "auto", exact)
        return sizes

    def thickness(self, s: Situation, sizes: Sizes) -> Span:
        """Its layers and the brad's head."""
        n = int(sizes["cards"].length)
        return span("disc", n * s.paper.caliper).plus(Term("glue", (n - 1) * s.glue), Term("brad's head", THICK))

    def rooms(self, situation: Situation, sizes: Sizes) -> dict[str, Room]:
        """Nothing goes on it."""
        return {}

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        """Discs on one another, the brad through them and the panel they are on."""
        s, e, t, g = situation, situation.element, situation.paper.caliper, situation.glue
        r, n, head, up = sizes["diameter"].length / 2, int(sizes["cards"].length), HEAD / 2, (0.0, 1.0)

        def ring(radius: float) -> tuple[Point, ...]:
            steps = (2 * math.pi * k / _EVEN for k in range(_EVEN))
            return tuple((radius + radius * math.cos(a), radius + radius * math.sin(a)) for a in steps)

        disc = build_piece(f"{e}.disc", f"{s.name}, disc", s.paper, [Panel("disc", "disc", ring(r))], quantity=n,
                           note="Punch its middle.")  # fmt: skip
        disc = replace(disc, holes=(round_hole((r, r), HOLE),))
        brass = replace(
            s.paper, id="ready-made", name="ready-made", kind="board", measured=THICK, front="#b9a36a", back="#b9a36a",
            front_motif=None, back_motif=None,
        )  # fmt: skip
        brad = build_piece(f"{e}.brad", f"{s.name}, brad", brass, [Panel("brad", "brad", ring(head))],
                           note="Ready-made: not cut.", bought=True)  # fmt: skip
        instances = [Instance("disc-1", disc.id, Root("disc", (r, r)))]
        for k in range(2, n + 1):
            on = Attach(f"disc-{k - 1}", "disc", (r, r), up, 1, t + g)
            instances.append(Instance(f"disc-{k}", disc.id, Root("disc", (r, r)), on))
        on = Attach(f"disc-{n}", "disc", (r, r), up, 1, (t + THICK) / 2)
        instances.append(Instance("brad", brad.id, Root("brad", (head, head)), on))
        joints = (
            Joint(("disc-1", "disc"), HOST, "held", act="set",
                  label="the brad through disc and panel, prongs flat behind",
                  caution="Its prongs are sharp: press them flat and cover them."),
            Joint(("brad", "brad"), (f"disc-{n}", "disc"), "held", act="set"),
        )  # fmt: skip
        across = span("disc", 2 * r, e, "diameter")
        gaps = (
            sheet_gap(e, disc.name, s.paper, disc.size, (across.terms, across.terms)),
            fit_gap(s, uses.SPARE, (f"{s.name}, brad", "disc"), across.plus(Term("brad's head", -HEAD))),
        )
        wares = (Ware("thread", 1, sizes["thread"].length),) if sizes["to"].length else ()
        return Part(
            e, s.name, (disc, brad), tuple(instances), gaps=gaps, joints=joints, wares=wares, pierces=(((r, r), HOLE),)
        )


FAMILY = ThreadDisc()
