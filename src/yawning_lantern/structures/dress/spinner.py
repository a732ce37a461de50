"""Spinner: a pointer that turns on a brad over a dial; its circle stays free, its prongs lie under the dial."""

from __future__ import annotations

import math
from collections.abc import Mapping

from msgspec.structs import replace

from yawning_lantern.assembly import Attach, Hint, Instance, Joint, Part, Pin, Room, Root, Span, Swing, Term, span, uses
from yawning_lantern.errors import ParameterError
from yawning_lantern.measure import at_most, inches, told
from yawning_lantern.pattern import Panel, Piece, Point, build_piece, round_hole
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes, Start
from yawning_lantern.structures.kit.lying import Lying, extent, fit_gap, usual_length
from yawning_lantern.structures.kit.shell import lever_term
from yawning_lantern.structures.kit.solving import down_to_cut, length_of, sheet_gap

HEAD, THICK, PRONGS, HOLE = 8.0, 1.5, 0.6, 3.0
"""A brad's head across and over the pointer, what its prongs under the dial lift it, the hole it goes through, mm. From
memory."""
FREE = inches(1 / 8)
"""How much shorter a pointer is than its dial's radius, mm. Common practice, no source."""
SPUN = 2.5 * math.pi
"""How far it is spun on screen, radians: once round, so that its whole circle is swept, and on."""
_EVEN = 48  # sides of the polygon that stands for a dial
_DISC = 20  # sides of the polygon that stands for a brad's head


class Spinner(Lying):
    """The dial is glued down last: until then its back is open for the prongs."""

    id = "spinner"
    name = "Spinner"
    about = "A pointer that turns on a brad over a round dial."
    shelf = "Dress"
    headline = ("diameter",)
    starts: tuple[Start, ...] = ("size",)
    footprint = ("diameter", "diameter")
    faces = ()
    parameters = (
        Parameter("diameter", "Dial, across", "length", "Its circle stays free.", "Dial", 20.0, 400.0),
        Parameter("pointer", "Pointer", "length", "From the brad to its tip.", "Pointer", 8.0, 200.0),
        Parameter("breadth", "Pointer, breadth", "length", "Where it is widest.", "Pointer", 9.0, 60.0),
        Parameter("fields", "Fields", "count", "Lines from the middle that part the dial.", "Dial", 0, 24, default=8),
    )  # fmt: skip

    def size(self, situation: Situation) -> dict[str, Sized]:
        """Dial and pointer. Raises ParameterError where the pointer reaches beyond its circle."""
        s = situation
        sizes = {"diameter": self._dial(s)}
        radius = sizes["diameter"].length / 2
        sizes["pointer"] = length_of(s.given, "pointer", down_to_cut(s, radius - FREE, "auto").length, "auto")
        sizes["breadth"] = usual_length(s, "breadth", inches(1 / 2), radius / 2, 9.0)
        fields = s.given.get("fields")
        sizes["fields"] = Sized(8 if fields is None or isinstance(fields, str) else int(fields),
                                "default" if fields is None else "given")  # fmt: skip
        if sizes["pointer"].length > radius:
            raise ParameterError(
                f"A pointer of {told(sizes['pointer'].length)} reaches beyond its dial.", "Pointer",
                f"Give {at_most(radius)}.",
            )  # fmt: skip
        if sizes["breadth"].length > sizes["pointer"].length:
            raise ParameterError("The pointer is wider than long.", "Pointer, breadth", "Make it narrower.")
        return sizes

    @staticmethod
    def _dial(s: Situation) -> Sized:
        """As large as goes on the face both ways."""
        both = [extent(s, name, axis, inches(3)) for axis, name in enumerate(("diameter", "diameter"))]
        smaller = min(both, key=lambda sized: sized.length)
        if smaller.length < 20.0:
            raise ParameterError("There is no room for a spinner there.", "Dial, across")
        return smaller

    def thickness(self, s: Situation, sizes: Sizes) -> Span:
        """Prongs, dial, pointer and the brad's head."""
        return span("dial and pointer", 2 * s.paper.caliper).plus(Term("prongs", PRONGS), Term("brad's head", THICK))

    def rooms(self, situation: Situation, sizes: Sizes) -> dict[str, Room]:
        """Nothing may lie in its circle."""
        return {}

    def _pieces(self, s: Situation, sizes: Sizes) -> tuple[Piece, Piece, Piece]:
        r, long, wide = sizes["diameter"].length / 2, sizes["pointer"].length, sizes["breadth"].length / 2
        n, e = int(sizes["fields"].length), s.element

        def ring(radius: float, even: int, middle: Point) -> tuple[Point, ...]:
            steps = (2 * math.pi * k / even for k in range(even))
            return tuple((middle[0] + radius * math.cos(a), middle[1] + radius * math.sin(a)) for a in steps)

        fields = f" Draw {n} lines from the middle, {360 / n:.4g}° apart." if n else ""
        dial = build_piece(
            f"{e}.dial", f"{s.name}, dial", s.paper, [Panel("dial", "dial", ring(r, _EVEN, (r, r)))],
            note=f"Punch its middle.{fields}",
        )  # fmt: skip
        tail = wide
        shape = ((-wide, 0.0), (-0.7 * wide, -tail), (0.7 * wide, -tail), (wide, 0.0), (0.0, long))
        pointer = build_piece(
            f"{e}.pointer", f"{s.name}, pointer", s.paper, [Panel("pointer", "pointer", shape)],
            note="Punch it in its middle; the hole a little larger than the brad, so that it turns.",
        )  # fmt: skip
        brass = replace(
            s.paper, id="ready-made", name="ready-made", kind="board", measured=THICK + PRONGS, front="#b9a36a",
            back="#b9a36a", front_motif=None, back_motif=None,
        )  # fmt: skip
        head = HEAD / 2
        brad = build_piece(
            f"{e}.brad", f"{s.name}, brad", brass, [Panel("brad", "brad", ring(head, _DISC, (head, head)))],
            note="Ready-made: not cut.", bought=True,
        )  # fmt: skip
        dial = replace(dial, holes=(round_hole((r, r), HOLE),))
        return dial, replace(pointer, holes=(round_hole((0.0, 0.0), HOLE),)), brad

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        """The pointer on the dial, the brad through both."""
        s, e, t = situation, situation.element, situation.paper.caliper
        dial, pointer, brad = self._pieces(s, sizes)
        r, wide, long = sizes["diameter"].length / 2, sizes["breadth"].length, sizes["pointer"].length
        up, head = (0.0, 1.0), HEAD / 2
        instances = (
            Instance("dial", dial.id, Root("dial", (r, r))),
            Instance("pointer", pointer.id, Root("pointer", (0.0, 0.0)), Attach("dial", "dial", (r, r), up, 1, t)),
            Instance("brad", brad.id, Root("brad", (head, head)),
                     Attach("pointer", "pointer", (0.0, 0.0), up, 1, (t + THICK + PRONGS) / 2)),
        )  # fmt: skip
        joints = (
            Joint(("pointer", "pointer"), ("dial", "dial"), "held", act="brad"),
            Joint(("brad", "brad"), ("pointer", "pointer"), "held", act="brad",
                  label="through pointer and dial, prongs flat behind; loose enough that it turns",
                  caution="Its prongs are sharp: press them flat; the dial covers them."),
        )  # fmt: skip
        across = span("dial", 2 * r, e, "diameter")
        gaps = (
            sheet_gap(e, dial.name, s.paper, dial.size, (across.terms, across.terms)),
            fit_gap(s, uses.SPARE, (f"{s.name}, pointer", "its circle"), Span((
                lever_term("radius", r, e, "diameter", 0.5), lever_term("pointer", -long, e, "pointer", -1.0),
            ))),
            fit_gap(s, uses.SPARE, (f"{s.name}, brad", "pointer"),
                    span("pointer", wide, e, "breadth").plus(Term("brad's head", -HEAD))),
        )  # fmt: skip
        hint = Hint("brad", "dial/dial", "its prongs lie between the dial and what it is glued on")
        pin = Pin("pointer", (0.0, 0.0, 0.0), (0.0, 0.0, 1.0), SPUN)
        return Part(
            e, s.name, (dial, pointer, brad), instances, swings=(Swing("spin", f"{s.name} is spun", pins=(pin,)),),
            gaps=gaps, joints=joints, hints=(hint,),
        )  # fmt: skip


FAMILY = Spinner()
