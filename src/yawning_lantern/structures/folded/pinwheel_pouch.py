"""Pinwheel pouch: a square scored across its four corners, which fold in over one another; a band holds them."""

from __future__ import annotations

import math
from collections.abc import Mapping

from yawning_lantern.assembly import Joint, Lever, Part, Pocket, Room, Span, Swing, Term, box_sides, span, uses
from yawning_lantern.errors import ParameterError
from yawning_lantern.flatfold.script import Bring
from yawning_lantern.flatfold.sheet import Facet, Sheet, joints
from yawning_lantern.measure import at_most, inches, snap, told
from yawning_lantern.pattern.convex import half as half_of
from yawning_lantern.structures.kit.around import AROUND, around_room
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes, Start, fact
from yawning_lantern.structures.kit.lying import BORDER, Lying, bulks
from yawning_lantern.structures.kit.one_sheet import (
    SHEET,
    FoldedSheet,
    around_sheet,
    fold_sheet,
    folded_once,
    page_mount,
    sheet_part,
)
from yawning_lantern.structures.kit.shell import lever_term
from yawning_lantern.structures.kit.solving import (  # fmt: skip
    as_given,
    down_to_cut,
    given_length,
    length_of,
    sheet_gap,
    told_contents,
    up_to_cut,
    worked_out,
)

SNIP = inches(1 / 32)
"""How far outside the score the corner between two flaps is snipped, mm. Common practice, no source."""
PLAY = inches(1 / 8)
"""What is left beside the card it holds, in all, mm. Common practice, no source."""
ROOT = math.sqrt(2.0)  # of two: a diagonal of a square of one
_UP = (1 / ROOT, 1 / ROOT)  # up when it lies before you, in the sheet
FLAPS = ("flap-1", "flap-2", "flap-3", "flap-4")


class PinwheelPouch(Lying):
    """With legs a from each corner of a square W the inner square is √2·(W − a); the flaps reach past its middle."""

    id = "pinwheel-pouch"
    name = "Pinwheel pouch"
    about = (
        "A square whose four corners fold in over one another to a smaller square; the last is bent under the first."
    )
    shelf = "One sheet"
    headline = ("sheet", "leg")
    starts: tuple[Start, ...] = ("size", "contents", "sheet")
    footprint = ("side", "side")
    faces = ((AROUND, "around it, shut"), ("inside", "inside, under the flaps"))
    parameters = (
        Parameter("sheet", "Sheet", "length", "Side of the square.", "Sheet", 60.0),
        Parameter("leg", "Leg", "length", "From a corner along the edge to the score: more than half the sheet.",
                  "Size", 31.0),
        fact("content-width", "Card, width", "What it shall hold.", "Contents", 10.0),
        fact("content-height", "Card, height", "What it shall hold.", "Contents", 10.0),
        fact("insert", "Inside", "How thick what it holds is.", "Contents", 0.0, 15.0, default=0.0),
        Parameter("side", "Inner square", "length", "Its size when shut.", "Size", derived=True),
        Parameter("thick", "Closed", "length", "Thickness when shut.", "Size", derived=True),
    )  # fmt: skip

    def size(self, situation: Situation) -> dict[str, Sized]:
        """Sheet and legs. Raises ParameterError where the flaps do not reach the middle or nothing is left inside."""
        s, given = situation, situation.given
        card = [x for n in ("width", "height") if (x := given_length(given, f"content-{n}")) is not None]
        sizes = self._square(s, max(card) + PLAY if card else None)
        w = sizes["sheet"].length
        a = sizes["leg"].length
        if a <= w / 2 + 1.0:
            raise ParameterError(
                f"With legs of {told(a)} on a sheet of {told(w)} the flaps do not reach over the middle.", "Leg",
                f"Give more than half the sheet, {told(w / 2)}.",
            )  # fmt: skip
        if a > 2 * w / 3 + 1e-6:
            raise ParameterError(
                f"With legs of {told(a)} on a sheet of {told(w)} a flap reaches over the far fold.", "Leg",
                f"Give {at_most(2 * w / 3)}.",
            )  # fmt: skip
        side = ROOT * (w - a)
        if side < 20.0:
            raise ParameterError(
                f"The inner square comes out at {told(side)}: nothing goes into that.", "Leg",
                "Make the sheet larger, or the legs shorter.",
            )  # fmt: skip
        sizes["side"] = Sized(side, worked_out(sizes["sheet"], sizes["leg"]))
        sizes |= as_given(given, "content-width", "content-height")
        sizes["insert"] = length_of(given, "insert", 0.0)
        sizes["thick"] = Sized(self.thickness(s, sizes).value, "auto")
        return sizes

    @staticmethod
    def _square(s: Situation, card: float | None) -> dict[str, Sized]:
        """Sheet and legs: given, around a card, within the face, or legs of 7 on a sheet of 12. mm."""
        share = 7 / 12
        left = min(s.room.clear(0), s.room.clear(1)) - BORDER if s.room is not None else None
        if (own := given_length(s.given, "sheet")) is not None:
            sheet = Sized(own, "given")
        elif card is not None:
            sheet = up_to_cut(s, card / ROOT / (1 - share), "auto")
        elif left is not None:
            sheet = down_to_cut(s, min(left / ROOT / (1 - share), inches(12)), "fill")
        else:
            sheet = Sized(inches(12), "default")
        w, grid = sheet.length, s.score.grid
        if card is not None:
            leg = snap(w - card / ROOT, grid, "down").value
        elif left is not None:
            leg = snap(max(w * share, w - left / ROOT), grid, "up").value
        else:
            leg = snap(w * share, grid, "up").value
        return {"sheet": sheet, "leg": length_of(s.given, "leg", leg, worked_out(sheet))}

    def marked(self, sizes: Sizes) -> Sheet:
        """The inner square, and at each corner a flap; what two flaps would share is snipped away."""
        w, a = sizes["sheet"].length, sizes["leg"].length
        half, b = w / 2, w - a
        low = a - half
        middle = Facet("middle", ((half, low), (w - low, half), (half, w - low), (low, half)))
        # snipped just outside the scores, so that neighbours pass one another when they open
        slack = SNIP + sizes["insert"].length
        across = (half - low) / ROOT  # what the corner lies off the middle of the flap, along its score
        at_foot = [(0.0, 0.0), (b, 0.0), (half, low), (low, half), (0.0, b)]
        for way in (1.0, -1.0):
            at_foot = half_of(at_foot, way / ROOT, -way / ROOT, slack - across)

        def turned(p: tuple[float, float], k: int) -> tuple[float, float]:
            for _ in range(k):
                p = (w - p[1], p[0])
            return p

        flaps = [Facet(name, tuple(turned(p, k) for p in at_foot)) for k, name in enumerate(FLAPS)]
        snips = [("snip", tuple(turned(p, k) for p in ((b, 0.0), (a, 0.0), (half, low)))) for k in range(4)]
        facets = (middle, *flaps)
        hinges, cuts = joints(facets, ())
        return Sheet(w, w, facets, hinges, cuts, tuple(snips))

    @folded_once
    def made(self, s: Situation, sizes: Sizes) -> FoldedSheet:
        """The flaps folded in one after the other."""
        script = tuple(Bring((("middle", name),)) for name in FLAPS)
        inside = sizes["insert"].length + s.bulk_on("inside")
        between = {("middle", name): inside for name in FLAPS}
        labels = {"middle": "middle", **{name: f"flap {k}" for k, name in enumerate(FLAPS, 1)}}
        return fold_sheet(
            f"{s.element}.sheet", s.name, s.paper, self.marked(sizes), script, glue=s.glue, labels=labels,
            between=between,
            note="Score across all four corners, snip the small triangles just outside the scores. Bend the last flap "
            "under the first: paper does that, rigid board would not.",
        )  # fmt: skip

    def thickness(self, s: Situation, sizes: Sizes) -> Span:
        """The middle, four flaps over one another, and what it holds."""
        insert = sizes["insert"].length
        layers = span("layers", self.made(s, sizes).thick - insert - s.bulk_on("inside"))
        return layers.plus(
            Term("what it holds", insert, Lever(s.element, "insert", 1.0)), *bulks(s, "bulk inside", "inside")
        )

    def beyond(self, s: Situation, sizes: Sizes) -> tuple[float, float]:
        """The folds stand out by half of what they go around and half a sheet."""
        out = self.made(s, sizes).outermost
        return out, out

    def reaches(self, s: Situation, sizes: Sizes) -> tuple[Span, Span]:
        """Half of the inner square."""
        w, a, e = sizes["sheet"].length, sizes["leg"].length, s.element
        half = Span((
            Term("half the sheet, slanted", w / ROOT, Lever(e, "sheet", 1 / ROOT)),
            Term("leg, slanted", -a / ROOT, Lever(e, "leg", -1 / ROOT)),
        ))  # fmt: skip
        return half, half

    def rooms(self, situation: Situation, sizes: Sizes) -> dict[str, Room]:
        """The inner square; around it where it lies on nothing."""
        s, t = situation, situation.paper.caliper
        side = sizes["side"].length
        half = self.reaches(s, sizes)[0]
        rooms = {"inside": Room("onto", uses.MAT, box_sides((half,) * 4), (side, side), t)}
        if s.room is None:
            reach = half.plus(Term("folds", self.beyond(s, sizes)[0]))
            rooms[AROUND] = around_room(reach, self.thickness(s, sizes), (side, side), t)
        return rooms

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        """The pouch on its middle, its flaps opening in the order that is the reverse of the folding."""
        s, e = situation, situation.element
        made = self.made(s, sizes)
        side = sizes["side"].length
        mounts = [page_mount(made, "inside", "inside, under the flaps", "middle", 1, _UP)]
        if s.room is None:
            mounts.append(around_sheet(made, FLAPS[-1], _UP, (side, side), 0.0))
        swings = [
            Swing(f"{name}", f"{s.name}, flap {4 - k} opens", ((SHEET, f"middle/{name}", math.pi / 8),))
            for k, name in enumerate(reversed(FLAPS))
        ]
        sheet = lever_term("sheet", sizes["sheet"].length, e, "sheet")
        gaps = [
            sheet_gap(e, made.piece.name, s.paper, made.piece.size, ((sheet,), (sheet,))),
            *told_contents(
                s, sizes, f"{s.name}, inner square", (("content-width", "side"), ("content-height", "side")), PLAY
            ),
        ]
        held = Joint((SHEET, FLAPS[-1]), (SHEET, FLAPS[-2]), "free", label="bend the last flap under the first")
        resting = [j for j in made.resting([("middle", name) for name in FLAPS]) if {j.a, j.b} != {held.a, held.b}]
        return sheet_part(
            s, made, _UP, mounts=mounts, swings=swings, gaps=gaps,
            pockets=(Pocket("pouch", ("middle", *FLAPS), "up", side, side),), joints=(held, *resting),
        )  # fmt: skip


FAMILY = PinwheelPouch()
