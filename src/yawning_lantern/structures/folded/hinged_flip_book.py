"""Hinged flip book: a row of panels that nest over the centre one, and one cell of a strip left on as a hinge."""

from __future__ import annotations

import math
from collections.abc import Mapping

from yawning_lantern.assembly import Part, Room, Span, Swing, Term, box_sides, span, uses
from yawning_lantern.errors import ParameterError
from yawning_lantern.flatfold.script import Bring, Glue, Script
from yawning_lantern.flatfold.sheet import Sheet, grid
from yawning_lantern.measure import give_at_most, inches, told
from yawning_lantern.structures.kit.around import AROUND, around_room
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes, Start, fact
from yawning_lantern.structures.kit.lying import Lying, extent, fit_gap, usual_length
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
from yawning_lantern.structures.kit.solving import as_given, given_length, length_of, sheet_gap, told_contents

STEP = inches(1 / 4)
"""The centre panel is this much wider than its neighbours, so that they nest. Common practice, no source."""
STRIP = inches(2)
"""The row that is removed but for the hinge, mm. From memory."""
FOLD_BACK = inches(2)
"""The last panel, folded back on its neighbour, mm. From memory."""
LEAST = 8.0
"""A panel and a hinge of less do not fold, mm. From memory."""
PLAY = inches(1 / 4)
"""Border about what the centre holds, in all, mm. Common practice, no source."""
_LEFT, _CENTRE, _RIGHT, _BACK = (f"c{k}r2" for k in range(1, 5))
_HINGE = "c2r1"
_NAMES = {_LEFT: "left", _CENTRE: "centre", _RIGHT: "right", _BACK: "fold-back", _HINGE: "hinge"}


class HingedFlipBook(Lying):
    """Left, centre, right and a last panel folded back; below the centre the hinge, folded up behind its neighbours."""

    id = "hinged-flip-book"
    name = "Hinged flip book"
    about = "Two panels that nest over a wider one, the last folded back, and a hinge for envelopes left of a strip."
    shelf = "One sheet"
    headline = ("width", "height")
    starts: tuple[Start, ...] = ("size", "contents", "sheet")
    faces = (
        (AROUND, "around it, shut"),
        ("centre", "centre, above the hinge"),
        ("hinge", "on the hinge"),
        ("left-inside", "left panel, inside"),
        ("left", "left panel, under the right one"),
        ("right-inside", "right panel, inside"),
        ("right", "right panel, outside"),
    )
    parameters = (
        Parameter("width", "Centre, width", "length", "The widest panel: what it measures when shut.", "Size", 30.0),
        Parameter("height", "Height", "length", "Of all panels.", "Size", 20.0),
        Parameter("step", "Narrower by", "length", "How much narrower its neighbours are.", "Panels", 0.5, 30.0,
                  default=STEP),
        Parameter("fold-back", "Fold-back", "length", "The last panel, folded back and glued.", "Panels",
                  LEAST),
        Parameter("strip", "Strip", "length", "The row that is removed but for the hinge.", "Panels", LEAST),
        fact("content-width", "What it holds, width", "On the centre.", "Contents", 10.0, default=inches(3)),
        fact("content-height", "What it holds, height", "On the centre, above the hinge.", "Contents", 10.0,
             default=inches(4)),
        Parameter("side", "Neighbours, width", "length", "Left and right.", "Panels", derived=True),
        Parameter("thick", "Closed", "length", "Thickness when shut.", "Size", derived=True),
    )  # fmt: skip

    def size(self, situation: Situation) -> dict[str, Sized]:
        """Panels. Raises ParameterError where one reaches over the far fold."""
        s, given = situation, situation.given
        content = [given_length(given, f"content-{n}") for n in ("width", "height")]
        strip = given_length(given, "strip")
        tall = None if content[1] is None else content[1] + PLAY + (STRIP if strip is None else strip)
        sizes = {
            "width": extent(s, "width", 0, inches(3.5), None if content[0] is None else content[0] + PLAY),
            "height": extent(s, "height", 1, inches(6), tall),
            "step": length_of(given, "step", STEP),
        }
        w, h, step = (sizes[n].length for n in ("width", "height", "step"))
        side = w - step
        if side < 20.0:
            raise ParameterError(f"Its neighbours come out at {told(side)}.", "Narrower by", "Make the centre wider.")
        sizes["side"] = Sized(side, "auto")
        sizes["fold-back"] = usual_length(s, "fold-back", FOLD_BACK, side / 2, LEAST, scored=True)
        sizes["strip"] = usual_length(s, "strip", STRIP, h / 3, LEAST, scored=True)
        for name, label, most, what in (
            ("fold-back", "Fold-back", side, "its neighbour"), ("strip", "Strip", h - 8.0, "the centre"),
        ):  # fmt: skip
            if sizes[name].length > most:
                raise ParameterError(
                    f"{told(sizes[name].length)} reaches over {what}.", label,
                    give_at_most(most, LEAST, "Make the centre larger."),
                )  # fmt: skip
        sizes |= as_given(given, "content-width", "content-height")
        sizes["thick"] = Sized(self.thickness(s, sizes).value, "auto")
        return sizes

    def marked(self, sizes: Sizes) -> Sheet:
        """Four panels in a row, below the centre the hinge; the rest of that strip is cut away."""
        w, h, side, back, strip = (sizes[n].length for n in ("width", "height", "side", "fold-back", "strip"))
        return grid([side, w, side, back], [strip, h], gone=("c1r1", "c3r1", "c4r1"))

    def script(self) -> Script:
        """The last panel back and glued, the hinge up, then the left panel and the right over it."""
        return (
            Bring(((_RIGHT, _BACK),), "under"),
            Glue(_BACK, _RIGHT),
            Bring(((_CENTRE, _HINGE),)),
            Bring(((_CENTRE, _LEFT),)),
            Bring(((_CENTRE, _RIGHT),)),
        )

    @folded_once
    def made(self, s: Situation, sizes: Sizes) -> FoldedSheet:
        """The row folded, with what is on its faces between."""
        on = s.bulk_on
        return fold_sheet(
            f"{s.element}.sheet", s.name, s.paper, self.marked(sizes), self.script(), glue=s.glue, labels=_NAMES,
            between={
                (_CENTRE, _LEFT): max(on("centre"), 0.0) + on("left-inside"),
                (_HINGE, _LEFT): on("hinge") + on("left-inside"),
                (_LEFT, _RIGHT): on("left") + on("right-inside"),
                (_HINGE, _RIGHT): on("hinge") + on("right-inside"),
                (_CENTRE, _RIGHT): on("centre") + on("right-inside"),
            },
            note="Keep what is cut from the strip: it becomes the closure and gussets.",
        )  # fmt: skip

    def _layers(self, s: Situation, sizes: Sizes) -> tuple[float, float]:
        """How high the right panel's outside lies, and the fold-back's over it, mm."""
        made = self.made(s, sizes)
        right = made.level[made.sheet.at(_RIGHT)] + made.caliper
        return right, made.thick - right

    def thickness(self, s: Situation, sizes: Sizes) -> Span:
        """Its layers, and what lies on the right panel beside the fold-back where that is thicker."""
        right, back = self._layers(s, sizes)
        return span("layers", right).plus(Term("on the outside", max(back, s.bulk_on("right"))))

    def beyond(self, s: Situation, sizes: Sizes) -> tuple[float, float]:
        """The folds stand out by half of what they go around and half a sheet."""
        out = self.made(s, sizes).outermost
        return out, out

    def rooms(self, situation: Situation, sizes: Sizes) -> dict[str, Room]:
        """Every panel's free faces."""
        s, t, e = situation, situation.paper.caliper, situation.element
        w, h, side, back, strip = (sizes[n].length for n in ("width", "height", "side", "fold-back", "strip"))

        def room(wide: float, high: float, lever: str = "height") -> Room:
            across, along = span("panel", wide / 2, e, "width", 0.5), span("panel", high / 2, e, lever, 0.5)
            return Room("onto", uses.MAT, box_sides((across, along, across, along)), (wide, high), t)

        rooms = {
            "centre": room(w, h - strip),
            "hinge": room(w, strip, "strip"),
            "left-inside": room(side, h),
            "left": room(side, h),
            "right-inside": room(side, h),
        }
        if side - back > 8.0:
            rooms["right"] = room(side - back, h)
        if s.room is None:
            reach = self.reaches(s, sizes)[0].plus(Term("folds", self.beyond(s, sizes)[0]))
            rooms[AROUND] = around_room(reach, self.thickness(s, sizes), (w, h), t)
        return rooms

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        """The book on its centre panel."""
        s, e = situation, situation.element
        made, up = self.made(s, sizes), (0.0, 1.0)
        w, h, side, back, strip = (sizes[n].length for n in ("width", "height", "side", "fold-back", "strip"))
        where = {
            "centre": (_CENTRE, 1, (side, 2 * strip, side + w, strip + h)),
            "hinge": (_HINGE, -1, None),
            "left-inside": (_LEFT, 1, None),
            "left": (_LEFT, -1, None),
            "right-inside": (_RIGHT, 1, None),
            "right": (_RIGHT, -1, (side + w, strip, side + w + side - back, strip + h)),
        }
        labels = dict(self.faces)
        mounts = [
            page_mount(made, name, labels[name], panel, way, up, shape)
            for name, (panel, way, shape) in where.items()
            if name in rooms
        ]
        if s.room is None:
            bulk = max(0.0, s.bulk_on("right") - self._layers(s, sizes)[1])
            mounts.append(around_sheet(made, _BACK, up, (w, h), bulk))
        creases = {frozenset((c.a, c.b)): c for c in made.piece.creases}
        swings = []
        for panel in (_RIGHT, _LEFT, _HINGE):
            crease = creases[frozenset((_CENTRE, panel))]
            to = math.copysign(math.pi / 6, crease.angle)
            swings.append(Swing(_NAMES[panel], f"{s.name}, {_NAMES[panel]} opens", ((SHEET, crease.name, to),)))
        across = (
            lever_term("centre", w, e, "width", 1.0),
            lever_term("neighbours", 2 * side, e, "width", 2.0),
            lever_term("fold-back", back, e, "fold-back"),
        )
        along = (lever_term("height", h, e, "height"), lever_term("strip", strip, e, "strip"))
        gaps = [
            sheet_gap(e, made.piece.name, s.paper, made.piece.size, (across, along)),
            fit_gap(s, uses.SPARE, (f"{s.name}, neighbour", "centre"), span("step", w - side, e, "step")),
            fit_gap(s, uses.GLUE, (f"{s.name}, fold-back", "glue"), span("fold-back", back, e, "fold-back")),
            *told_contents(s, sizes, f"{s.name}, centre", (("content-width", "width"), ("content-height", "height"))),
        ]
        parting = [(_CENTRE, _LEFT), (_CENTRE, _RIGHT), (_LEFT, _RIGHT), (_HINGE, _LEFT), (_HINGE, _RIGHT)]
        parting += [(_CENTRE, _HINGE), (_LEFT, _BACK), (_CENTRE, _BACK), (_HINGE, _BACK)]
        return sheet_part(s, made, up, mounts=mounts, swings=swings, gaps=gaps, joints=made.resting(parting))


FAMILY = HingedFlipBook()
