"""Mini envelope: a back with a front flap folded up, two sides glued under it, and a flap that closes it."""

from __future__ import annotations

import math
from collections.abc import Mapping

from yawning_lantern.assembly import Part, Pocket, Room, Span, Swing, span, uses
from yawning_lantern.errors import ParameterError
from yawning_lantern.flatfold.script import Bring, Glue, Script, Turn
from yawning_lantern.flatfold.sheet import Facet, Sheet, joints
from yawning_lantern.measure import give_at_most, inches, snap, told
from yawning_lantern.pattern import rectangle
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes, Start, fact
from yawning_lantern.structures.kit.lying import SIZE_PARAMETERS, Lying, bulks, extent, fit_gap, usual_length
from yawning_lantern.structures.kit.one_sheet import SHEET, FoldedSheet, fold_sheet, folded_once, page_mount, sheet_part
from yawning_lantern.structures.kit.shell import lever_term
from yawning_lantern.structures.kit.solving import (
    as_given,
    face_room,
    given_length,
    length_of,
    sheet_gap,
    told_contents,
)

SIDE = inches(1 / 2)
"""A side tab, mm. Common practice, no source."""
RELIEF = inches(1 / 16)
"""How far from the folds beside them side tabs begin, mm. Common practice, no source."""
LEAST_FLAP, LEAST_SIDE = 8.0, 3.0
"""A flap of less does not stay shut, a side of less is not glued, mm. From memory."""
PLAY = inches(1 / 8)
"""Room beside the card it holds in all, mm. Common practice, no source."""
_FRONT, _LEFT, _BACK, _RIGHT, _FLAP = "c2r1", "c1r2", "c2r2", "c3r2", "c2r3"


class MiniEnvelope(Lying):
    """Front and flap together reach over the back's height; sides are glued between back and front."""

    id = "mini-envelope"
    name = "Mini envelope"
    about = "A small envelope from one piece: sides in, front up and glued to them, a flap over it."
    shelf = "One sheet"
    headline = ("width", "height")
    starts: tuple[Start, ...] = ("size", "contents", "sheet")
    faces = (("front", "front, below the flap"), ("flap", "flap, outside"))
    parameters = (
        *SIZE_PARAMETERS,
        Parameter("front", "Front", "length", "Folded up over the sides.", "Panels", LEAST_FLAP),
        Parameter("flap", "Flap", "length", "Folded down over the front.", "Panels", LEAST_FLAP),
        Parameter("side", "Side tab", "length", "Either side, glued under the front.", "Panels", LEAST_SIDE, 60.0,
                  default=SIDE),
        fact("content-width", "Card, width", "What it shall hold.", "Contents", 10.0, default=inches(3.5)),
        fact("content-height", "Card, height", "What it shall hold.", "Contents", 10.0, default=inches(2.5)),
        fact("insert", "Inside", "How thick what it holds is; more wants a gusset.", "Contents", 0.0, 3.0, default=0.0),
        Parameter("thick", "Closed", "length", "Thickness when shut.", "Panels", derived=True),
    )  # fmt: skip

    def size(self, situation: Situation) -> dict[str, Sized]:
        """Panels. Raises ParameterError where a panel reaches over the far fold or the flap does not close it."""
        s, given = situation, situation.given
        card = [given_length(given, f"content-{n}") for n in ("width", "height")]
        auto = [None if x is None else x + PLAY for x in card]
        sizes = {
            "width": extent(s, "width", 0, inches(3), auto[0]),
            "height": extent(s, "height", 1, inches(2), auto[1]),
            "insert": length_of(given, "insert", 0.0),
        }
        w, h, grid_of = sizes["width"].length, sizes["height"].length, s.score.grid
        sizes["front"] = length_of(given, "front", max(LEAST_FLAP, snap(h * 0.75, grid_of, "down").value), "auto")
        sizes["flap"] = length_of(given, "flap", max(LEAST_FLAP, snap(h * 0.5, grid_of, "down").value), "auto")
        sizes["side"] = usual_length(s, "side", SIDE, w / 4, scored=True)
        front, flap, side = (sizes[n].length for n in ("front", "flap", "side"))
        for name, length, least, most, what, wider in (
            ("Front", front, LEAST_FLAP, h, "height", "higher"), ("Flap", flap, LEAST_FLAP, h, "height", "higher"),
            ("Side tab", side, LEAST_SIDE, w / 2, "half width", "wider"),
        ):  # fmt: skip
            if length > most + 1e-9:
                raise ParameterError(
                    f"{told(length)} reaches over the far fold: the {what} is {told(most)}.", name,
                    give_at_most(most, least, f"Make it {wider}."),
                )  # fmt: skip
        if front + flap < h + 3.0:
            raise ParameterError(
                f"Front and flap leave {told(h - front - flap)} between them open." if front + flap < h
                else f"The flap laps the front by {told(front + flap - h)} only.",
                "Flap", f"Give {told(h - front + inches(1 / 4))} or more.",
            )  # fmt: skip
        sizes |= as_given(given, "content-width", "content-height")
        sizes["thick"] = Sized(self.thickness(s, sizes).value, "auto")
        return sizes

    def marked(self, sizes: Sizes) -> Sheet:
        """A cross of five panels; the sides begin below the flap's fold and taper, so that nothing catches there."""
        w, h, front, flap, side = (sizes[n].length for n in ("width", "height", "front", "flap", "side"))
        off = min(RELIEF + sizes["insert"].length, h / 6)
        taper = min(side / 2, h / 6)
        lo, hi = front + off, front + h - off
        facets = (
            Facet(_FRONT, rectangle(side, 0.0, side + w, front)),
            Facet(_LEFT, ((side, lo), (side, hi), (0.0, hi - taper), (0.0, lo + taper))),
            Facet(_BACK, rectangle(side, front, side + w, front + h)),
            Facet(_RIGHT, ((side + w, lo), (2 * side + w, lo + taper), (2 * side + w, hi - taper), (side + w, hi))),
            Facet(_FLAP, rectangle(side, front + h, side + w, front + h + flap)),
        )
        hinges, cuts = joints(facets, ())
        return Sheet(2 * side + w, front + h + flap, facets, hinges, cuts)

    def script(self) -> Script:
        """Sides, front, flap; the paper's front is outside."""
        return (
            Bring(((_BACK, _LEFT),), "under"),
            Bring(((_BACK, _RIGHT),), "under"),
            Bring(((_BACK, _FRONT),), "under"),
            Glue(_FRONT, _LEFT),
            Glue(_FRONT, _RIGHT),
            Bring(((_BACK, _FLAP),), "under"),
            Turn(),
        )

    @folded_once
    def made(self, s: Situation, sizes: Sizes) -> FoldedSheet:
        """The envelope folded, shut and glued."""
        insert = sizes["insert"].length
        return fold_sheet(
            f"{s.element}.sheet", s.name, s.paper, self.marked(sizes), self.script(), glue=s.glue,
            labels={_FRONT: "front", _LEFT: "side", _BACK: "back", _RIGHT: "side", _FLAP: "flap"},
            between={
                (_BACK, _LEFT): insert, (_BACK, _RIGHT): insert, (_BACK, _FRONT): insert,
                (_FRONT, _FLAP): s.bulk_on("front"),
            },
            note="Sides in first; glue on the sides only, then the front up.",
        )  # fmt: skip

    def thickness(self, s: Situation, sizes: Sizes) -> Span:
        """Its layers, what it holds, and what lies on the flap."""
        return span("layers", self.made(s, sizes).thick).plus(*bulks(s, "bulk on the flap", "flap"))

    def beyond(self, s: Situation, sizes: Sizes) -> tuple[float, float]:
        """The folds stand out by half of what they go around and half a sheet."""
        out = self.made(s, sizes).outermost
        return out, out

    def _free(self, sizes: Sizes) -> tuple[float, float, float, float]:
        """The front below the flap's edge, in the sheet, mm."""
        w, h, front, flap, side = (sizes[n].length for n in ("width", "height", "front", "flap", "side"))
        return side, front - min(front, h - flap), side + w, front

    def rooms(self, situation: Situation, sizes: Sizes) -> dict[str, Room]:
        """The front below the flap, and the flap."""
        t, e = situation.paper.caliper, situation.element
        w, flap = sizes["width"].length, sizes["flap"].length
        x0, y0, x1, y1 = self._free(sizes)
        rooms = {"flap": face_room(w, flap, t, e, ("width", "flap"), "flap")}
        if y1 - y0 > 8.0:
            rooms["front"] = face_room(x1 - x0, y1 - y0, t, e, ("width", "height"), "front")
        return rooms

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        """The envelope on its back, its flap at the head."""
        s, e = situation, situation.element
        made = self.made(s, sizes)
        w, h, front, flap, side = (sizes[n].length for n in ("width", "height", "front", "flap", "side"))
        up = (0.0, 1.0)
        mounts = [page_mount(made, "flap", "flap, outside", _FLAP, made.shows(_FLAP), up)]
        if "front" in rooms:
            mounts.append(
                page_mount(made, "front", "front, below the flap", _FRONT, made.shows(_FRONT), up, self._free(sizes))
            )
        crease = next(c for c in made.piece.creases if {c.a, c.b} == {_BACK, _FLAP})
        opening = Swing("open", f"{s.name} opens", ((SHEET, crease.name, math.copysign(math.pi / 6, crease.angle)),))
        across = (lever_term("back", w, e, "width"), lever_term("sides", 2 * side, e, "side", 2.0))
        along = tuple(lever_term(n, v, e, n) for n, v in (("height", h), ("front", front), ("flap", flap)))
        lap = Span((*span("front", front, e, "front").terms, *span("flap", flap, e, "flap").terms))
        gaps = [
            sheet_gap(e, made.piece.name, s.paper, made.piece.size, (across, along)),
            fit_gap(s, uses.GLUE, (f"{s.name}, side", "front"), span("side tab", side, e, "side")),
            fit_gap(s, uses.LAP, (f"{s.name}, flap", "front that it laps"), lap - span("height", h, e, "height")),
            *told_contents(s, sizes, f"{s.name}, inside", (("content-width", "width"), ("content-height", "height"))),
        ]
        return sheet_part(
            s, made, up, mounts=mounts, swings=(opening,), gaps=gaps,
            pockets=(Pocket("envelope", (_BACK, _FRONT), "up", w, h),), joints=made.resting(((_FRONT, _FLAP),)),
            label="on the sides only",
        )  # fmt: skip


FAMILY = MiniEnvelope()
