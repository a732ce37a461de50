"""Fastener: magnets, hook and loop, a snap or a brad: bought, glued on a face or put through it."""

from __future__ import annotations

import math
from collections.abc import Mapping

from msgspec.structs import replace

from yawning_lantern.assembly import HOST, Attach, Clasp, Gap, Instance, Joint, Part, Room, Root, Span, Term, span, uses
from yawning_lantern.errors import ParameterError
from yawning_lantern.measure import inches
from yawning_lantern.pattern import Panel, build_piece
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes, Start
from yawning_lantern.structures.kit.lying import Lying, fit_gap
from yawning_lantern.structures.kit.solving import length_of, word_of

KINDS: dict[str, tuple[float, float, float, float]] = {
    "magnet": (10.0, 1.0, 0.8, 0.0),
    "hook and loop": (inches(1 / 2), 1.2, 0.5, 0.0),
    "snap": (12.0, 2.0, 0.5, 4.0),
    "brad": (8.0, 1.5, 0.0, 3.0),
}
"""Diameter, thickness of one half, the air it still holds across, and the hole it needs, mm. From memory: the label of
what is bought goes first."""
DISC = 24
"""How many sides a disc is drawn with."""
_COLOURS = {"magnet": "#6f7782", "hook and loop": "#3b3f46", "snap": "#b9a36a", "brad": "#b9a36a"}
_CAUTIONS = {
    "magnet": "Small strong magnets: not for children, nor near a pacemaker or a magnetic stripe; glue them well in.",
    "snap": "Set it on a firm board, fingers away.",
    "brad": "Its prongs are sharp: press them flat and cover them.",
}


class Fastener(Lying):
    """A pair lies on its face one half on the other, as when it is shut: the outer half stays on what it meets."""

    id = "fastener"
    name = "Fastener"
    about = "A pair of magnets, hook and loop, a snap that closes on what it meets; or a brad through a panel."
    shelf = "Closures and hinges"
    headline = ("kind", "diameter")
    starts: tuple[Start, ...] = ("size",)
    footprint = ("diameter", "diameter")
    faces = ()
    parameters = (
        Parameter("kind", "Kind", "word", "What is bought.", "Fastener", words=tuple(KINDS), default="magnet"),
        Parameter("diameter", "Diameter", "length", "Of one half.", "Fastener", 3.0, 60.0),
        Parameter("thick", "Thickness", "length", "Of one half.", "Fastener", 0.2, 10.0),
        Parameter("halves", "Halves here", "word", "Both, the outer one to stay on what it meets; or one.", "Fastener",
                  words=("both", "one"), default="both"),
        Parameter("holds", "Holds across", "length", "So much air between its halves and what they meet.", "Fastener",
                  0.0, 10.0),
    )  # fmt: skip

    def size(self, situation: Situation) -> dict[str, Sized]:
        """The kind's measures, or what was given."""
        given = situation.given
        kind = word_of(given, "kind", "magnet")
        across, thick, holds, _ = KINDS[str(kind.value)]
        single = kind.value == "brad"
        if single and given.get("halves") == "both":
            raise ParameterError(
                "A brad is one piece, bent over behind the panel: it has no other half.", "Halves here",
                "Set the halves to one, or take a snap.",
            )  # fmt: skip
        sizes = {"kind": kind, "halves": word_of(given, "halves", "one" if single else "both")}
        for name, usual in (("diameter", across), ("thick", thick), ("holds", holds)):
            sizes[name] = length_of(given, name, usual, "auto")
        return sizes

    @staticmethod
    def _halves(sizes: Sizes) -> int:
        return 2 if sizes["halves"].value == "both" else 1

    def thickness(self, s: Situation, sizes: Sizes) -> Span:
        """Its halves, and the glue between the outer one and what it meets."""
        n = self._halves(sizes)
        return span("halves", n * sizes["thick"].length, s.element, "thick", float(n)).plus(
            Term("glue", s.glue if n > 1 else 0.0)
        )

    def rooms(self, situation: Situation, sizes: Sizes) -> dict[str, Room]:
        """Nothing goes on it."""
        return {}

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        """One disc, or one on the other."""
        s, e, kind = situation, situation.element, str(sizes["kind"].value)
        r, thick = sizes["diameter"].length / 2, sizes["thick"].length
        ring = tuple(
            (r + r * math.cos(2 * math.pi * k / DISC), r + r * math.sin(2 * math.pi * k / DISC)) for k in range(DISC)
        )
        stock = replace(
            s.paper, id="ready-made", name="ready-made", kind="board", measured=thick, front=_COLOURS[kind],
            back=_COLOURS[kind], front_motif=None, back_motif=None,
        )  # fmt: skip
        n, middle, pierces = self._halves(sizes), (r, r), KINDS[kind][3]
        disc = build_piece(f"{e}.disc", f"{s.name}, {kind}", stock, [Panel("disc", kind, ring)], quantity=n,
                           note="Ready-made: not cut.", bought=True)  # fmt: skip
        instances = [Instance("half-1", disc.id, Root("disc", middle))]
        caution = _CAUTIONS.get(kind, "")
        if pierces:
            through = "its prongs through the hole, pressed flat behind"
        else:
            through = "then its other half on it with glue, and shut the thing: it finds its own place" if n > 1 else ""
        joints = [Joint(("half-1", "disc"), HOST, "held" if pierces else "glue", label=through, caution=caution)]
        if n > 1:
            instances.append(
                Instance(
                    "half-2", disc.id, Root("disc", middle), Attach("half-1", "disc", middle, (0.0, 1.0), 1, thick)
                )
            )
            joints.append(Joint(("half-2", "disc"), ("half-1", "disc"), "free"))
        gaps: list[Gap] = []
        if pierces:
            left = span("diameter", 2 * r, e, "diameter").plus(Term("hole", -pierces))
            gaps.append(fit_gap(s, uses.SPARE, (s.name, "hole that it covers"), left))
        clasp = Clasp(f"half-{n}", "disc", 1, sizes["holds"].length, kind == "magnet") if kind != "brad" else None
        return Part(
            e,
            s.name,
            (disc,),
            tuple(instances),
            gaps=tuple(gaps),
            joints=tuple(joints),
            pierces=((middle, pierces),) if pierces else (),
            clasp=clasp,
        )


FAMILY = Fastener()
