"""Gusset pouch: one strip of front, gusset leaves and back that closes to a flat pouch, its foot turned up."""

from __future__ import annotations

from collections.abc import Mapping

from yawning_lantern.assembly import Part, Pocket, Room, Span, Term, span, uses
from yawning_lantern.errors import ParameterError
from yawning_lantern.flatfold.script import Bring, Glue, Script, Turn
from yawning_lantern.flatfold.sheet import Sheet, grid
from yawning_lantern.measure import give_at_most, inches, snap, told
from yawning_lantern.structures.kit.around import AROUND, around_room
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes, Start, fact
from yawning_lantern.structures.kit.lying import SIZE_PARAMETERS, TAB, Lying, extent, fit_gap, usual_length
from yawning_lantern.structures.kit.one_sheet import (
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

GUSSET = inches(3 / 8)
"""One leaf of a narrow gusset, mm. Common practice, no source."""
LEAST_LEAF = 4.0
"""A leaf of less does not fold, mm. From memory."""
PLAY = inches(1 / 8)
"""Room beside what it holds in all, mm. Common practice, no source."""
_FRONT, _ONE, _TWO, _BACK, _THREE, _STRIP = (f"c{k}r2" for k in range(1, 7))
_FOOT = "c4r1"


class GussetPouch(Lying):
    """Front, two gusset leaves, back, a third leaf and a glue strip; the gussets are unequal until that is glued."""

    id = "gusset-pouch"
    name = "Gusset pouch"
    about = "A strip folded to a flat pouch with narrow gussets: it holds something thicker than paper and lies flat."
    shelf = "One sheet"
    headline = ("width", "height", "gusset")
    starts: tuple[Start, ...] = ("size", "contents", "sheet")
    faces = ((AROUND, "around it, shut"), ("front", "front, above the foot"))
    parameters = (
        *SIZE_PARAMETERS,
        Parameter("gusset", "Gusset leaf", "length", "One leaf; two make a side.", "Gusset", LEAST_LEAF, 80.0),
        Parameter("tab", "Tab", "length", "The glue strip, and the foot that is turned up.", "Gusset", 6.0, 40.0,
                  default=TAB),
        fact("content-width", "What it holds, width", "Across the mouth.", "Contents", 10.0),
        fact("content-height", "What it holds, height", "Into the pouch.", "Contents", 10.0),
        fact("insert", "What it holds, thick", "The gussets open that far.", "Contents", 0.0, 60.0, default=0.0),
        Parameter("thick", "Closed", "length", "Thickness when shut.", "Gusset", derived=True),
    )  # fmt: skip

    def size(self, situation: Situation) -> dict[str, Sized]:
        """Width, height, gusset and tab. Raises ParameterError where the gussets meet or no pouch is left."""
        s, given = situation, situation.given
        card = [given_length(given, f"content-{n}") for n in ("width", "height")]
        insert = length_of(given, "insert", 0.0)
        # what is thick takes its thickness from the width: the gusset opens to that, the front bows
        auto = [
            None if card[0] is None else card[0] + insert.length + PLAY,
            None if card[1] is None else card[1] + PLAY,
        ]
        sizes = {
            "width": extent(s, "width", 0, inches(3), auto[0]),
            "height": extent(s, "height", 1, inches(4), auto[1]),
            "insert": insert,
        }
        w, h = sizes["width"].length, sizes["height"].length
        usual = max(GUSSET, snap(insert.length / 2, s.score.grid, "up").value)
        gusset = usual_length(s, "gusset", usual, w / 4, scored=True)
        sizes["gusset"] = Sized(gusset.value, "auto") if "gusset" not in given and usual > GUSSET else gusset
        sizes["tab"] = usual_length(s, "tab", TAB, min(h, w) / 4, scored=True)
        g, tab = sizes["gusset"].length, sizes["tab"].length
        if 2 * g > w - 3.0:
            raise ParameterError(
                f"Gusset leaves of {told(g)} meet inside a pouch of {told(w)}.", "Gusset leaf",
                give_at_most((w - 3.0) / 2, LEAST_LEAF, "Make the pouch wider."),
            )  # fmt: skip
        if tab > min(w - g, h - 10.0):
            raise ParameterError(f"A tab of {told(tab)} reaches over the pouch.", "Tab", "Make it narrower.")
        sizes |= as_given(given, "content-width", "content-height")
        sizes["thick"] = Sized(self.thickness(s, sizes).value, "auto")
        return sizes

    def marked(self, sizes: Sizes) -> Sheet:
        """A strip of six panels; below the back the foot, all else beside it cut away."""
        w, h, g, tab = (sizes[n].length for n in ("width", "height", "gusset", "tab"))
        gone = [f"c{k}r1" for k in range(1, 7) if k != 4]
        return grid([w, g, g, w, g, self.strip(sizes)[0]], [tab, h], gone=gone)

    @staticmethod
    def strip(sizes: Sizes) -> tuple[float, str]:
        """The glue strip, no wider than the leaf it folds back on, mm; and the parameter behind it."""
        return min((sizes[name].length, name) for name in ("tab", "gusset"))

    def script(self) -> Script:
        """The third leaf and the strip first; then the gusset to and fro, the front last; the foot over it."""
        return (
            Bring(((_THREE, _STRIP),)),
            Bring(((_BACK, _THREE),), "under"),
            Bring(((_TWO, _ONE),)),
            Bring(((_ONE, _FRONT),)),
            Bring(((_BACK, _TWO),), "under"),
            Glue(_STRIP, _FRONT),
            Bring(((_BACK, _FOOT),), "under"),
            Glue(_FOOT, _FRONT),
            Turn(),
        )

    @folded_once
    def made(self, s: Situation, sizes: Sizes) -> FoldedSheet:
        """The strip folded and glued."""
        labels = {_FRONT: "front", _ONE: "gusset", _TWO: "gusset", _BACK: "back", _THREE: "gusset", _STRIP: "strip"}
        return fold_sheet(
            f"{s.element}.sheet", s.name, s.paper, self.marked(sizes), self.script(), glue=s.glue,
            labels=labels | {_FOOT: "foot"}, between={(_BACK, _FRONT): sizes["insert"].length},
            note="Fold the strip and the third gusset leaf back first, then the front over; glue the foot last.",
        )  # fmt: skip

    def thickness(self, s: Situation, sizes: Sizes) -> Span:
        """Its layers, or what it holds, and what lies on its front beside the foot, where that is thicker."""
        layers, foot = self._layers(s, sizes)
        return span("layers", layers).plus(Term("on the front", max(foot, s.bulk_on("front"))))

    def _layers(self, s: Situation, sizes: Sizes) -> tuple[float, float]:
        """How high the front's face lies, and the foot's over it, mm."""
        made = self.made(s, sizes)
        front = made.level[made.sheet.at(_FRONT)] + made.caliper
        return front, made.thick - front

    def beyond(self, s: Situation, sizes: Sizes) -> tuple[float, float]:
        """The folds stand out by half of what they go around and half a sheet."""
        out = self.made(s, sizes).outermost
        return out, out

    def _free(self, sizes: Sizes) -> tuple[float, float, float, float]:
        """What is free of the front above the foot, in the sheet, mm."""
        w, h, tab = (sizes[n].length for n in ("width", "height", "tab"))
        return 0.0, 2 * tab, w, tab + h

    def rooms(self, situation: Situation, sizes: Sizes) -> dict[str, Room]:
        """The front above the foot; around it where it lies on nothing."""
        s, t, e = situation, situation.paper.caliper, situation.element
        x0, y0, x1, y1 = self._free(sizes)
        rooms = {"front": face_room(x1 - x0, y1 - y0, t, e, ("width", "height"), "front")}
        if s.room is None:
            reach = self.reaches(s, sizes)[0].plus(Term("folds", self.beyond(s, sizes)[0]))
            size = (sizes["width"].length, sizes["height"].length)
            rooms[AROUND] = around_room(reach, self.thickness(s, sizes), size, t)
        return rooms

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        """The pouch on its back, its mouth up."""
        s, e = situation, situation.element
        made = self.made(s, sizes)
        w, h, g, tab = (sizes[n].length for n in ("width", "height", "gusset", "tab"))
        up, (strip, behind) = (0.0, 1.0), self.strip(sizes)
        mounts = [page_mount(made, "front", "front, above the foot", _FRONT, made.shows(_FRONT), up, self._free(sizes))]
        if s.room is None:
            mounts.append(
                around_sheet(made, _FOOT, up, (w, h), max(0.0, s.bulk_on("front") - self._layers(s, sizes)[1]))
            )
        across = (
            lever_term("front and back", 2 * w, e, "width", 2.0),
            lever_term("gusset leaves", 3 * g, e, "gusset", 3.0),
            lever_term("glue strip", strip, e, behind),
        )
        up_sheet = (lever_term("height", h, e, "height"), lever_term("foot", tab, e, "tab"))
        opens = span("two gusset leaves", 2 * g, e, "gusset", 2.0) - span(
            "what it holds", sizes["insert"].length, e, "insert"
        )
        gaps = [
            sheet_gap(e, made.piece.name, s.paper, made.piece.size, (across, up_sheet)),
            fit_gap(s, uses.SPINE, (f"{s.name}, gusset", "what it holds"), opens, uses.ENOUGH),
            fit_gap(s, uses.GLUE, (f"{s.name}, glue strip", "glue"), span("glue strip", strip, e, behind)),
            *told_contents(
                s, sizes, f"{s.name}, front", (("content-width", "width"), ("content-height", "height")),
                sizes["insert"].length,
            ),
        ]  # fmt: skip
        return sheet_part(
            s, made, up, mounts=mounts, gaps=gaps, pockets=(Pocket("pouch", (_FRONT, _BACK), "up", w, h),),
            joints=made.resting(), label="keep glue off the mouth",
        )  # fmt: skip


FAMILY = GussetPouch()
