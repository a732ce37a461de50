"""Envelope fold: one sheet in two columns, its side halved to a pocket, its foot to a pocket over that, then a flap."""

from __future__ import annotations

import math
from collections.abc import Mapping

from yawning_lantern.assembly import Part, Pocket, Room, Span, Swing, Term, span, uses
from yawning_lantern.errors import ParameterError
from yawning_lantern.flatfold.script import Bring, Glue, Script, Turn
from yawning_lantern.flatfold.sheet import Sheet
from yawning_lantern.flatfold.telling import own_sheet
from yawning_lantern.measure import give_at_most, inches, snap, told
from yawning_lantern.structures.kit.around import AROUND, around_room
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes, Start, fact
from yawning_lantern.structures.kit.lying import SIZE_PARAMETERS, Lying, extent, fit_gap
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
from yawning_lantern.structures.kit.solving import (
    as_given,
    face_room,
    given_length,
    length_of,
    sheet_gap,
    told_contents,
)

STRIP = inches(1 / 4)
"""The glued strip at either side of the lower pocket, mm. Common practice, no source."""
SHOWS = 8.0
"""Of the lower pocket so much shows below the flap for something to lie there beside it, mm. From memory."""
LEAST_FLAP = 8.0
"""A flap of less does not stay shut, mm. From memory."""
PLAY = inches(1 / 4)
"""Room beside what it holds in all, mm: glue and a finger. Common practice, no source."""
_MAIN, _FLAP, _INNER, _OUTER = "c1r3", "c1r4", "c1r2", "c1r1"
_SIDE, _HALF, _FREED, _FREED_HALF = "c2r3", "c3r3", "c2r2", "c3r2"
_NAMES = {
    _MAIN: "main", _FLAP: "flap", _INNER: "lower pocket", _OUTER: "lower pocket, inside", _SIDE: "side pocket",
    _HALF: "side pocket, inside", _FREED: "freed half", _FREED_HALF: "freed half, inside",
}  # fmt: skip


class EnvelopeFold(Lying):
    """The side is halved and its freed end turned up, so that its pocket is shut by folds alone."""

    id = "envelope-fold"
    name = "Envelope fold"
    about = "A sheet of two columns: a side pocket, a pocket over it from the foot, and a flap that closes both."
    shelf = "One sheet"
    headline = ("width", "height")
    starts: tuple[Start, ...] = ("size", "contents", "sheet")
    faces = (
        (AROUND, "around it, shut"),
        ("flap", "flap, outside"),
        ("front", "lower pocket, outside"),
        ("side", "side pocket, above the lower one"),
        ("inside", "beside the side pocket"),
    )
    parameters = (
        *SIZE_PARAMETERS,
        Parameter("flap", "Flap", "length", "Folded down over the pockets.", "Panels", LEAST_FLAP),
        Parameter("strip", "Glued strip", "length", "At either side of the lower pocket.", "Panels", 2.0, 30.0,
                  default=STRIP),
        fact("content-width", "What it holds, width", "In the lower pocket.", "Contents", 20.0, default=inches(3.5)),
        fact("content-height", "What it holds, height", "From its foot to its head.", "Contents", 20.0,
             default=inches(4)),
        fact("insert", "In each pocket", "How thick what goes in is.", "Contents", 0.0, 6.0, default=0.0),
        Parameter("thick", "Closed", "length", "Thickness when shut.", "Panels", derived=True),
    )  # fmt: skip

    def size(self, situation: Situation) -> dict[str, Sized]:
        """Width, height and flap. Raises ParameterError where no pocket is left or the flap reaches over the foot."""
        s, given = situation, situation.given
        content = [given_length(given, f"content-{n}") for n in ("width", "height")]
        strip = length_of(given, "strip", STRIP)
        auto = (
            None if content[0] is None else content[0] + 2 * strip.length + PLAY,
            None if content[1] is None else content[1] + PLAY,
        )
        sizes = {
            "width": extent(s, "width", 0, inches(4.5), auto[0]),
            "height": extent(s, "height", 1, inches(4), auto[1]),
            "strip": strip,
            "insert": length_of(given, "insert", 0.0),
        }
        w, h = sizes["width"].length, sizes["height"].length
        sizes["flap"] = length_of(given, "flap", max(LEAST_FLAP, snap(0.65 * h, s.score.grid, "down").value), "auto")
        if sizes["flap"].length > h:
            raise ParameterError(
                f"A flap of {told(sizes['flap'].length)} reaches over the foot.",
                "Flap",
                give_at_most(h, LEAST_FLAP, "Make it higher."),
            )
        if min(w, h) < 30.0 or strip.length > w / 6:
            raise ParameterError(
                f"{told(w)} × {told(h)} leaves no pocket beside glue of {told(strip.length)}.", s.name,
                "Make it larger, or the glued strip narrower.",
            )  # fmt: skip
        sizes |= as_given(given, "content-width", "content-height")
        sizes["thick"] = Sized(self.thickness(s, sizes).value, "auto")
        return sizes

    def marked(self, sizes: Sizes) -> Sheet:
        """Two columns, the second halved; the foot halved too. A slit half a cell long frees the end of the side."""
        w, h, flap = (sizes[n].length for n in ("width", "height", "flap"))
        return own_sheet(
            (w, w / 2, w / 2), (h / 2, h / 2, h, flap), slits=f"{_INNER}/{_FREED}", gone="c2r1 c3r1 c2r4 c3r4"
        )

    def script(self, sizes: Sizes) -> Script:
        """The side halved, its freed end up, the side in; the foot halved and up; the flap. The front is outside."""
        strip = sizes["strip"].length
        return (
            Bring(((_SIDE, _HALF), (_FREED, _FREED_HALF)), "under"),
            Bring(((_SIDE, _FREED), (_HALF, _FREED_HALF)), "under"),
            Bring(((_MAIN, _SIDE),), "under"),
            Bring(((_INNER, _OUTER),), "under"),
            Bring(((_MAIN, _INNER),), "under"),
            Glue(_OUTER, _MAIN, ("left",), strip),
            Glue(_OUTER, _SIDE, ("right",), strip),
            Bring(((_MAIN, _FLAP),), "under"),
            Turn(),
        )

    @folded_once
    def made(self, s: Situation, sizes: Sizes) -> FoldedSheet:
        """The sheet folded, with what its pockets hold and what is on its faces."""
        insert, on = sizes["insert"].length, s.bulk_on
        return fold_sheet(
            f"{s.element}.sheet", s.name, s.paper, self.marked(sizes), self.script(sizes), glue=s.glue, labels=_NAMES,
            between={
                (_SIDE, _HALF): insert, (_OUTER, _MAIN): insert + on("inside"), (_OUTER, _SIDE): insert + on("side"),
                (_INNER, _FLAP): on("front"), (_SIDE, _FLAP): on("side"), (_MAIN, _FLAP): on("inside"),
            },
            note="Slit first. Only the two edges of the lower pocket are glued: folds shut the rest.",
        )  # fmt: skip

    def thickness(self, s: Situation, sizes: Sizes) -> Span:
        """Its layers, what they hold, and what lies on the flap or below it."""
        made = self.made(s, sizes)
        return span("layers", made.thick).plus(Term("bulk outside", self._outside(s, sizes, made)))

    @staticmethod
    def _outside(s: Situation, sizes: Sizes, made: FoldedSheet) -> float:
        """How far what lies on the flap, or below a short one, stands above the highest layer, mm."""
        low = sizes["height"].length - sizes["flap"].length > SHOWS
        shown = {"flap": _FLAP, "front": _INNER} if low else {"flap": _FLAP}
        tops = [made.level[made.sheet.at(facet)] + made.caliper + s.bulk_on(name) for name, facet in shown.items()]
        return max(0.0, max(tops) - made.thick)

    def beyond(self, s: Situation, sizes: Sizes) -> tuple[float, float]:
        """The folds stand out by half of what they go around and half a sheet."""
        out = self.made(s, sizes).outermost
        return out, out

    def rooms(self, situation: Situation, sizes: Sizes) -> dict[str, Room]:
        """The flap, both pockets' fronts, and what is free beside the side pocket."""
        s, t, e = situation, situation.paper.caliper, situation.element
        w, h, flap = (sizes[n].length for n in ("width", "height", "flap"))
        rooms = {
            "flap": face_room(w, flap, t, e, ("width", "flap"), "flap"),
            "front": face_room(w, h / 2, t, e, ("width", "height"), "lower pocket", (1.0, 0.5)),
            "side": face_room(w / 2, h / 2, t, e, ("width", "height"), "side pocket", (0.5, 0.5)),
            "inside": face_room(w / 2, h / 2, t, e, ("width", "height"), "inside", (0.5, 0.5)),
        }
        if s.room is None:
            reach = self.reaches(s, sizes)[0].plus(Term("folds", self.beyond(s, sizes)[0]))
            rooms[AROUND] = around_room(reach, self.thickness(s, sizes), (w, h), t)
        return rooms

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        """The envelope on its main panel, its flap at the head."""
        s, e = situation, situation.element
        made, up = self.made(s, sizes), (0.0, 1.0)
        w, h, flap, strip = (sizes[n].length for n in ("width", "height", "flap", "strip"))
        where = {
            "flap": (_FLAP, made.shows(_FLAP), None),
            "front": (_INNER, made.shows(_INNER), None),
            "side": (_SIDE, made.shows(_SIDE), (w, 1.5 * h, 1.5 * w, 2 * h)),
            "inside": (_MAIN, made.shows(_MAIN), (0.0, 1.5 * h, w / 2, 2 * h)),
        }
        labels = dict(self.faces)
        mounts = [page_mount(made, name, labels[name], *at[:2], up, at[2]) for name, at in where.items()]
        if s.room is None:
            mounts.append(around_sheet(made, _FLAP, up, (w, h), self._outside(s, sizes, made)))
        crease = next(c for c in made.piece.creases if {c.a, c.b} == {_MAIN, _FLAP})
        opening = Swing("open", f"{s.name} opens", ((SHEET, crease.name, math.copysign(math.pi / 6, crease.angle)),))
        across = (lever_term("two columns", 2 * w, e, "width", 2.0),)
        along = (
            lever_term("main panel and lower pocket", 2 * h, e, "height", 2.0),
            lever_term("flap", flap, e, "flap"),
        )
        gaps = [
            sheet_gap(e, made.piece.name, s.paper, made.piece.size, (across, along)),
            fit_gap(s, uses.GLUE, (f"{s.name}, lower pocket", "glue"), span("strip", strip, e, "strip")),
            *told_contents(s, sizes, f"{s.name}, lower pocket", (("content-width", "width"),), 2 * strip),
            *told_contents(s, sizes, f"{s.name}, inside", (("content-height", "height"),)),
        ]
        pockets = (
            Pocket("lower pocket", (_OUTER, _MAIN), "up", w - 2 * strip, h / 2),
            Pocket("side pocket", (_SIDE, _HALF), "up", w / 2, h),
        )
        under = [(_FLAP, other) for other in (_INNER, _SIDE, _MAIN)]
        return sheet_part(
            s, made, up, mounts=mounts, swings=(opening,), gaps=gaps, pockets=pockets, joints=made.resting(under),
            label="at either side only",
        )  # fmt: skip


FAMILY = EnvelopeFold()
