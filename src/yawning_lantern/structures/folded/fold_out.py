"""Fold-out: an accordion of unequal panels; the first is glued down, the others lie on it to and fro."""

from __future__ import annotations

from msgspec.structs import replace

from yawning_lantern.errors import ParameterError
from yawning_lantern.measure import inches, row_of, told
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes, Start
from yawning_lantern.structures.kit.free_strip import LEAST, MOST, FreeStrip
from yawning_lantern.structures.kit.lying import extent, most_of
from yawning_lantern.structures.kit.solving import length_of, word_of, worked_out

STEP = inches(1 / 16)
"""How much narrower each panel is than the one before, so that none stands over the first, mm. Common practice, no
source."""


class FoldOut(FreeStrip):
    """A strip of which only the first panel is glued; each next one is a little narrower."""

    id = "fold-out"
    name = "Fold-out"
    about = "An accordion whose first panel is glued down; the others lie on it to and fro and are drawn out."
    shelf = "Flaps"
    headline = ("width", "height", "count")
    starts: tuple[Start, ...] = ("size",)
    footprint = ("wide", "height")
    faces = (
        *((f"panel-{k}", f"panel {k}, face that shows when it is shut") for k in range(1, MOST + 1)),
        *((f"inside-{k}", f"panel {k}, other face") for k in range(2, MOST + 1)),
    )
    parameters = (
        Parameter("width", "Width", "length", "Of the first panel, score to edge.", "Size", 10.0),
        Parameter("height", "Height", "length", "Along the scores.", "Size", 10.0),
        Parameter("count", "Panels", "count", "The glued one with them.", "Panels", 2, MOST, default=4),
        Parameter("step", "Narrower each by", "length", "So that none stands over the first.", "Panels", 0.0, 50.0,
                  default=STEP),
        Parameter("panels", "Panels, one by one", "lengths", "Widths from the glued one on: 3 1/4 + 3 + 1 1/2.",
                  "Panels"),
        Parameter("scores", "Scores", "word", "Single, or double where a fold goes around more than a sheet.", "Panels",
                  words=("single", "double"), default="single"),
        Parameter("total", "In all", "length", "Drawn out.", "Panels", derived=True),
        Parameter("wide", "Closed, width", "length", "What it covers when shut.", "Panels", derived=True),
        Parameter("thick", "Closed", "length", "Thickness when shut.", "Panels", derived=True),
    )  # fmt: skip

    def size(self, situation: Situation) -> dict[str, Sized]:
        """Panels one by one. Raises ParameterError where one comes out too narrow."""
        s, text = situation, situation.given.get("panels")
        sizes: dict[str, Sized] = {}
        if isinstance(text, str):
            panels, origin = Sized(text, "given"), "given"
            count = len(self.row({"panels": panels}))
            sizes["count"] = Sized(count, "auto")
            sizes["width"] = Sized(self.row({"panels": panels})[0], "auto")
        else:
            sizes["step"], sizes["width"] = length_of(s.given, "step", STEP), extent(s, "width", 0, inches(3))
            first, step = sizes["width"].length, sizes["step"].length
            longest = max(s.paper.sheet.usable_width, s.paper.sheet.usable_height)
            held = next((n for n in (4, 3) if n * first - n * (n - 1) / 2 * step <= longest), 2)
            sizes["count"] = most_of(s, "count", 4, held)  # of one sheet
            widths = [first - k * step for k in range(int(sizes["count"].length))]
            if widths[-1] < LEAST:
                raise ParameterError(
                    f"The last panel comes out at {told(max(widths[-1], 0.0))}: none that folds.", "Panels",
                    "Take fewer of them, or let each be narrower by less.",
                )  # fmt: skip
            origin = sizes["width"].origin
            panels = Sized(row_of(widths), origin)
        given = {"panels": panels.value, "base": 1, "folds": "to and fro"}
        for name in ("height", "scores"):
            if name in s.given:
                given[name] = s.given[name]
        found = super().size(replace(s, given=given))
        found["panels"] = panels
        found["wide"] = Sized(found["wide"].value, worked_out(panels))
        found["scores"] = word_of(s.given, "scores", "single")
        return found | sizes

    def called(self, panel: int, sizes: Sizes) -> str:
        """The panel that is glued, and the others by their number."""
        return "glued panel" if panel == 0 else f"panel {panel + 1}"


FAMILY = FoldOut()
