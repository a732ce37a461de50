"""Double flap: leaves on both sides of a panel that is glued down, one over the other; opened, it is three wide."""

from __future__ import annotations

from collections.abc import Mapping

from msgspec.structs import replace

from yawning_lantern.assembly import Gap, Part, Room, span, uses
from yawning_lantern.design import Value
from yawning_lantern.errors import ParameterError
from yawning_lantern.measure import at_most, inches, row_of, told
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes, Start
from yawning_lantern.structures.kit.free_strip import FreeStrip
from yawning_lantern.structures.kit.lying import extent, fit_gap
from yawning_lantern.structures.kit.solving import down_to_cut, length_of, word_of, worked_out

LESS = inches(1 / 16)
"""How much narrower a leaf is than the panel it lies on, mm: it clears the fold of the other. Common practice, no
source."""
_NAMES = ("left leaf", "middle", "right leaf")


class DoubleFlap(FreeStrip):
    """The middle is glued; the leaf that is folded in first lies under the other."""

    id = "double-flap"
    name = "Double flap"
    about = "A panel that is glued down, with a leaf on either side folded over it: two flaps, one over the other."
    shelf = "Flaps"
    headline = ("width", "height")
    starts: tuple[Start, ...] = ("size",)
    faces = (
        ("panel-1", "left leaf, face that shows when it is shut"), ("inside-1", "left leaf, other face"),
        ("panel-2", "middle"), ("panel-3", "right leaf, face that shows when it is shut"),
        ("inside-3", "right leaf, other face"),
    )  # fmt: skip
    parameters = (
        Parameter("width", "Width", "length", "Of the middle, score to score.", "Size", 10.0),
        Parameter("height", "Height", "length", "Along the scores.", "Size", 10.0),
        Parameter("left", "Left leaf", "length", "Score to edge.", "Leaves", 6.0),
        Parameter("right", "Right leaf", "length", "Score to edge.", "Leaves", 6.0),
        Parameter("first", "First over it", "word", "Which leaf lies under the other.", "Leaves",
                  words=("left", "right"), default="right"),
        Parameter("scores", "Scores", "word", "Single, or double where a fold goes around more than a sheet.", "Leaves",
                  words=("single", "double"), default="single"),
        Parameter("panels", "Panels", "lengths", "From left to right.", "Leaves", derived=True),
        Parameter("total", "In all", "length", "Opened.", "Leaves", derived=True),
        Parameter("wide", "Closed, width", "length", "What it covers when shut.", "Leaves", derived=True),
        Parameter("thick", "Closed", "length", "Thickness when shut.", "Leaves", derived=True),
    )  # fmt: skip

    def size(self, situation: Situation) -> dict[str, Sized]:
        """The middle, and leaves that lie within it."""
        s = situation
        width = extent(s, "width", 0, inches(3))
        leaf = down_to_cut(s, width.length - LESS, "auto").length
        sizes = {"width": width} | {n: length_of(s.given, n, leaf, "auto") for n in ("left", "right")}
        first = str(word_of(s.given, "first", "right").value)
        if sizes[first].length > width.length + 1e-6:
            raise ParameterError(
                f"A leaf of {told(sizes[first].length)}, folded in first, reaches over the far fold: the other does "
                "not fold over it.",
                f"{first.capitalize()} leaf",
                f"Give {at_most(width.length)}, or fold the other one first.",
            )
        row = row_of((sizes["left"].length, width.length, sizes["right"].length))
        given: dict[str, Value] = {"panels": row, "base": 2, "first": word_of(s.given, "first", "right").value}
        for name in ("height", "scores"):
            if name in s.given:
                given[name] = s.given[name]
        found = super().size(replace(s, given=given))
        found["panels"] = Sized(row, worked_out(width))
        found["wide"] = Sized(found["wide"].value, worked_out(width))
        found["first"] = word_of(s.given, "first", "right")
        return found | sizes

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        """The strip, and whether its leaves lie within the middle."""
        s, e = situation, situation.element
        part = super().build(s, sizes, rooms)
        gaps: list[Gap] = []
        for name in ("left", "right"):
            left = span("middle", sizes["width"].length, e, "width") - span("leaf", sizes[name].length, e, name)
            gaps.append(fit_gap(s, uses.SPARE, (f"{s.name}, {name} leaf", "middle"), left))
        return replace(part, gaps=(*part.gaps, *gaps))

    def called(self, panel: int, sizes: Sizes) -> str:
        """Left, middle and right."""
        return _NAMES[panel]


FAMILY = DoubleFlap()
