"""Ready-made thing: what is bought and stands somewhere as a body: a block of sweets, a film tub, a pack of cards."""

from __future__ import annotations

import math
from collections.abc import Mapping

from msgspec.structs import replace

from yawning_lantern.assembly import (
    Instance,
    Lever,
    Mount,
    Need,
    Part,
    Relation,
    Room,
    Root,
    Swing,
    Term,
    box_sides,
    span,
    uses,
)
from yawning_lantern.errors import ParameterError
from yawning_lantern.measure import inches, told
from yawning_lantern.pattern import Fold, Panel, Piece, Point, build_piece, rectangle
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes, Start
from yawning_lantern.structures.kit.lying import count_of
from yawning_lantern.structures.kit.solving import face_room, given_length, length_of, word_of

FORMATS: dict[str, tuple[float, float, float]] = {
    "own": (inches(2), inches(1.5), inches(1)),
    "plastic card": (85.60, 53.98, 0.76),
    "envelope A2": (inches(5.75), inches(4.375), 1.0),
    "pack of cards": (64.0, 89.0, 18.0),
    "block of sweets": (60.0, 40.0, 15.0),
    "film tub": (31.0, 31.0, 51.0),
}
"""Width, depth and height as it stands, mm. Plastic card: ISO/IEC 7810 ID-1. Envelope A2: announcement sizes, its
thickness from memory. The others: from memory, to be measured."""
SKIN = 0.1
"""What it is drawn of, mm: its outside is as large as it is told."""
ROUND = 16
"""How many sides a round thing is drawn with, about the circle."""


def _leaning(sizes: Sizes) -> tuple[float, float]:
    """How much of its depth lies along what it stands on, and how much rises: cosine and sine of how it leans."""
    leans = sizes["leans"].length
    return (math.cos(math.radians(leans)), math.sin(math.radians(leans))) if leans < 90 else (0.0, 1.0)


class ReadyMade:
    """A closed body on its base: it takes room, is lifted out, and is bought."""

    id = "ready-made"
    name = "Ready-made thing"
    about = "A thing that is bought and stands there as a body: sweets, a tub, an envelope, a pack of cards."
    shelf = "Dress"
    relation: Relation = "inside"
    headline = ("width", "depth", "height")
    starts: tuple[Start, ...] = ("size",)
    faces = (("top", "on its top"),)
    parameters = (
        Parameter("format", "Kind", "word", "A usual thing, or your own.", "Size", words=tuple(FORMATS),
                  default="own"),
        Parameter("width", "Width", "length", "Left to right; of what is round its diameter.", "Size", 2.0, 500.0),
        Parameter("depth", "Depth", "length", "Front to back.", "Size", 2.0, 500.0),
        Parameter("height", "Height", "length", "As it stands; of what lies its thickness.", "Size", 0.3, 500.0),
        Parameter("shape", "Shape", "word", "Square or round, seen from above.", "Size", words=("block", "round")),
        Parameter("leans", "Leans", "count", "From lying, degrees; 90 stands on its front edge.", "Size",
                  0, 90, default=0),
        Parameter("held", "Held", "word", "It is lifted out, or glued down.", "Size", words=("loose", "glued"),
                  default="loose"),
        Parameter("play", "Room around it", "length", "In all, across: half of it each side.", "Size", 0.0, 50.0,
                  default=inches(1 / 8)),
    )  # fmt: skip

    def size(self, situation: Situation) -> dict[str, Sized]:
        """The kind's size, or what was given. Raises ParameterError where a round thing has two diameters."""
        given = situation.given
        kind = word_of(given, "format", "own")
        sizes = {"format": kind, "held": word_of(given, "held", "loose")}
        sizes["shape"] = word_of(given, "shape", "round" if kind.value == "film tub" else "block")
        sizes["play"] = length_of(given, "play", inches(1 / 8))
        sizes["leans"] = count_of(situation, "leans", 0)
        usual = FORMATS[str(kind.value)]
        for name, length in zip(("width", "depth", "height"), usual, strict=True):
            sizes[name] = length_of(given, name, length, "default" if kind.value == "own" else "auto")
        if sizes["shape"].value == "round":
            across = [given_length(given, name) for name in ("width", "depth")]
            if across[0] is not None and across[1] is not None and abs(across[0] - across[1]) > 0.01:
                raise ParameterError(
                    f"What is round is not {told(across[0])} one way and {told(across[1])} the other.", "Shape",
                    "Give one of them, or make it a block.",
                )  # fmt: skip
            own = across[0] or across[1] or usual[0]
            for name in ("width", "depth"):
                sizes[name] = replace(sizes[name], value=own)
        return sizes

    def need(self, situation: Situation, sizes: Sizes) -> Need:
        """Its outside, whatever it stands in: it cannot be made smaller. What leans takes the box about it."""
        e, bulk = situation.element, situation.bulk_on("top")
        flat, rise = _leaning(sizes)
        deep, high = sizes["depth"].length, sizes["height"].length
        across = span("thing", sizes["width"].length / 2, e, "width", 0.5)
        height = span("thing", high * flat, e, "height", flat).plus(Term("bulk on its top", bulk * flat))
        own = "width" if sizes["shape"].value == "round" else "depth"
        along = span("thing", deep * flat / 2, e, own, flat / 2)
        if rise:
            along = along.plus(Term("how thick it is", (high + bulk) * rise / 2, Lever(e, "height", rise / 2)))
            height = height.plus(Term("how deep it is", deep * rise, Lever(e, own, rise)))
        return Need(
            self.relation, uses.CONTENTS, box_sides((across, along, across, along)),
            (sizes["width"].length, 2 * along.value), SKIN, height=height, play=sizes["play"].length,
            want=uses.ENOUGH, height_want=uses.ENOUGH,
        )  # fmt: skip

    def rooms(self, situation: Situation, sizes: Sizes) -> dict[str, Room]:
        """Its top: of what is round the largest square on it."""
        w, d = sizes["width"].length, sizes["depth"].length
        if sizes["shape"].value == "round":
            w = d = w / math.sqrt(2)
        return {"top": face_room(w, d, SKIN, situation.element, ("width", "depth"), "top")}

    def _piece(self, s: Situation, sizes: Sizes) -> tuple[Piece, Point, Point]:
        """Base, walls about it and the top on the back wall; and the middles of base and top."""
        w, d, h = (sizes[n].length - SKIN for n in ("width", "depth", "height"))
        h = max(h, 0.1)
        if sizes["shape"].value == "round":
            radius, step = w / 2 / math.cos(math.pi / ROUND), 2 * math.pi / ROUND
            ring = [(radius * math.cos(step * (k + 0.5)), radius * math.sin(step * (k + 0.5))) for k in range(ROUND)]
        else:
            ring = [(w / 2, d / 2), (-w / 2, d / 2), (-w / 2, -d / 2), (w / 2, -d / 2)]
        back = max(range(len(ring)), key=lambda k: min(ring[k][1], ring[(k + 1) % len(ring)][1]))
        panels, folds = [Panel("base", "base", tuple(ring))], []
        for k, a in enumerate(ring):
            b = ring[(k + 1) % len(ring)]
            length = math.dist(a, b)
            out = (h * (b[1] - a[1]) / length, -h * (b[0] - a[0]) / length)
            wall = (b, a, (a[0] + out[0], a[1] + out[1]), (b[0] + out[0], b[1] + out[1]))
            panels.append(Panel(f"side-{k + 1}", "side", wall))
            folds.append(Fold("base", f"side-{k + 1}", math.pi / 2))
        middle = (0.0, d + h)  # of the top: the base mirrored over the back wall
        top = tuple((x, middle[1] - y) for x, y in reversed(ring))
        panels.append(Panel("top", "top", top))
        folds.append(Fold(f"side-{back + 1}", "top", math.pi / 2))
        stock = replace(
            s.paper, id="ready-made", name="ready-made", kind="film", measured=SKIN, front="#c8ced6", back="#aab3bf",
            front_motif=None, back_motif=None,
        )  # fmt: skip
        piece = build_piece(
            f"{s.element}.thing", s.name, stock, panels, folds, note="Ready-made: not cut.", bought=True
        )
        return piece, (0.0, 0.0), middle

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        """One body."""
        s, e = situation, situation.element
        piece, base, top = self._piece(s, sizes)
        deep, thick = sizes["depth"].length, sizes["height"].length
        flat, rise = _leaning(sizes)
        room = rooms["top"].nominal
        mount = Mount("top", "on its top", "thing", "top", -1, top, (0.0, -1.0),
                      rectangle(-room[0] / 2, -room[1] / 2, room[0] / 2, room[1] / 2), SKIN / 2)  # fmt: skip
        swings: tuple[Swing, ...] = ()
        if sizes["held"].value == "loose" and s.room is not None:
            clear = s.room.height.value if s.room.height is not None else 0.0
            high = max(deep * rise + thick * flat, clear) + inches(1 / 4)
            straight = (0.0, high * rise, high * flat)
            swings = (Swing("lift", f"{s.name} is lifted out", slides=(("thing", straight),)),)
        root = Root("base", base)
        if rise:
            ahead = ((thick + s.bulk_on("top")) * rise - deep * flat) / 2
            root = Root("base", (0.0, -deep / 2), tilt=math.atan2(rise, flat), ahead=ahead)
        return Part(e, s.name, (piece,), (Instance("thing", piece.id, root),), (mount,), swings)


FAMILY = ReadyMade()
