"""Ribbon: once around and a bow. Bought, so only its length is cut."""

from __future__ import annotations

from msgspec.structs import replace

from yawning_lantern.assembly.part import Bond
from yawning_lantern.measure import inches
from yawning_lantern.stock import Paper
from yawning_lantern.stock.items import SheetFormat
from yawning_lantern.structures.kit.around import Band, band_play
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes, fact
from yawning_lantern.structures.kit.solving import length_of, up_to_cut, word_of

BREADTH = inches(1 / 2)
BOW = inches(10)
"""Breadth of a ribbon, and what a bow takes (9 to 12 in), mm. Common practice, no source."""
_REEL = SheetFormat("reel", "reel", 10000.0, 10000.0, 10000.0, 10000.0)


class Ribbon(Band):
    """Length = once around + the bow."""

    id = "ribbon"
    name = "Ribbon"
    about = "A ribbon around a shut thing, with what its bow takes."
    shelf = "Closures and hinges"
    headline = ("strip",)
    bought = True
    faces = ()  # its bow lies on its front
    parameters = (
        fact("over-width", "Thing, width", "What it goes around, across.", "Thing", 3.0),
        fact("over-thick", "Thing, thickness", "What it goes around, shut, with all bulk.", "Thing", 0.1),
        Parameter("breadth", "Breadth", "length", "Of the ribbon.", "Ribbon", 1.0, 80.0, default=BREADTH),
        Parameter("bow", "Bow", "length", "What the knot and the bow take.", "Ribbon", most=1000.0, default=BOW),
        Parameter(
            "laid",
            "Laid",
            "word",
            "Around all when it is finished; or under the mats, and only tied then.",
            "Ribbon",
            words=("last", "under the mats"),
            default="last",
        ),
        Parameter("play", "Play", "length", "Room in all, once around.", "Ribbon", most=30.0),
        Parameter("strip", "Cut to", "length", "Length of the ribbon.", "Ribbon", derived=True),
    )

    bond: Bond = "held"

    def stock(self, s: Situation) -> Paper:
        """A ribbon from the reel, a quarter of a millimetre thick."""
        return replace(
            s.paper,
            id="ribbon",
            name="Ribbon",
            kind="film",
            sheet=_REEL,
            measured=0.25,
            front="#8e3b46",
            back="#8e3b46",
        )

    def size(self, situation: Situation) -> dict[str, Sized]:
        """Breadth and length."""
        s = situation
        sizes = self.thing(s)
        sizes["breadth"] = length_of(s.given, "breadth", BREADTH)
        sizes["laid"] = word_of(s.given, "laid", "last")
        sizes["bow"] = length_of(s.given, "bow", BOW)
        sizes["overlap"] = Sized(sizes["breadth"].length, "auto")
        sizes["play"] = band_play(s, 4 * 0.25 + 1.0)
        around = 2 * (sizes["over-width"].length + sizes["over-thick"].length) + sizes["play"].length
        least = around + sizes["overlap"].length
        sizes["strip"] = up_to_cut(s, max(around + sizes["bow"].length, least), "auto")
        return sizes

    def laid_under(self, sizes: Sizes) -> bool:
        """As it was asked."""
        return sizes["laid"].value == "under the mats"

    def note(self, sizes: Sizes) -> str:
        """What to heed."""
        return "Laid before the mats, tied last." if self.laid_under(sizes) else "Tie it last."


FAMILY = Ribbon()
