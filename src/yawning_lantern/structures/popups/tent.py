"""Tent: two panels over the gutter that lift their ridge as the card opens."""

from __future__ import annotations

import math
from collections.abc import Mapping

from yawning_lantern.assembly import Part, Room, span
from yawning_lantern.errors import ParameterError
from yawning_lantern.measure import inches, snap, told
from yawning_lantern.structures.kit.card import (
    CARD_FACES,
    CARD_PARAMETERS,
    Arch,
    PopUp,
    arch_part,
)
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes
from yawning_lantern.structures.kit.lying import TAB
from yawning_lantern.structures.kit.shell import lever_term
from yawning_lantern.structures.kit.solving import face_room, length_of, on_board, positive


class Tent(PopUp):
    """Feet at u on both pages, panels L: open it stands √(L² − u²) high, shut it reaches to u + L."""

    id = "tent"
    name = "Tent"
    about = "Two panels that meet in a ridge over the gutter; the ridge rises when the card lies open."
    shelf = "Pop-ups"
    opens = 180
    faces = (*CARD_FACES, ("roof-right", "right side of the tent"), ("roof-left", "left side of the tent"))
    parameters = (
        Parameter("foot", "Foot", "length", "From the gutter to where a side is glued.", "Tent", 6.0),
        Parameter("side", "Side", "length", "Foot to ridge.", "Tent", 6.0),
        Parameter("tent-width", "Tent width", "length", "Along the gutter.", "Tent", 6.0),
        Parameter("tab", "Tab", "length", "Glued to the pages, towards the gutter.", "Tent", 3.0),
        *CARD_PARAMETERS,
        Parameter("stands", "Stands", "length", "Height of the ridge when open.", "Tent", derived=True),
        Parameter(
            "shut-reach", "Reach when shut", "length", "How far it reaches from the gutter.", "Tent", derived=True
        ),
    )

    def size(self, situation: Situation) -> dict[str, Sized]:
        """Pages and tent. Raises ParameterError where the sides are too short to meet."""
        s = situation
        sizes = self.card_sizes(s)
        page, high = sizes["page-width"].length, sizes["page-height"].length
        side = length_of(s.given, "side", on_board(s, (page - inches(1 / 8)) * 0.6), "auto")
        rest = min(side.length * 0.6, max(page - side.length - inches(1 / 8), 6.0))
        sizes["side"] = side
        sizes["foot"] = length_of(s.given, "foot", max(on_board(s, rest), 6.0), "auto")
        sizes["tent-width"] = length_of(s.given, "tent-width", snap(high * 0.5, s.cut.grid, "down").value, "auto")
        foot = sizes["foot"].length
        sizes["tab"] = length_of(s.given, "tab", min(TAB, on_board(s, foot * 0.8)), "auto")
        half = open_half(sizes)
        if foot * math.sin(half) >= side.length:
            raise ParameterError(
                "The sides of the tent are too short to meet over the gutter.",
                "Side", f"Make them longer than {told(foot * math.sin(half))}, or put the feet nearer to the gutter.",
            )  # fmt: skip
        for name in ("side", "foot", "tent-width", "tab"):
            positive(sizes[name].length, f"tent's {name.removeprefix('tent-')}", "Make the page larger.")
        stands = foot * math.cos(half) + math.sqrt(side.length**2 - (foot * math.sin(half)) ** 2)
        sizes["stands"] = Sized(stands, "auto")
        sizes["shut-reach"] = Sized(foot + side.length, "auto")
        return sizes

    def rooms(self, situation: Situation, sizes: Sizes) -> dict[str, Room]:
        """The card's faces and both sides of the tent."""
        s, t, e = situation, situation.paper.caliper, situation.element
        rooms = self.card_rooms(s, sizes)
        for hand in ("right", "left"):
            rooms[f"roof-{hand}"] = face_room(
                sizes["tent-width"].length, sizes["side"].length, t, e, ("tent-width", "side"), "tent side"
            )
        return rooms

    def feet(self, sizes: Sizes) -> tuple[float, float]:
        """Where its sides are glued."""
        return sizes["foot"].length, sizes["foot"].length

    def on_it(self, s: Situation, sizes: Sizes) -> float:
        """What is on both sides: they lie on one another."""
        return s.bulk_on("roof-right") + s.bulk_on("roof-left")

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        """The card and the strip."""
        s, e, page = situation, situation.element, sizes["page-width"].length
        u, side, width, tab = (sizes[n].length for n in ("foot", "side", "tent-width", "tab"))
        under = {side: self.under(s, sizes, side) for side in ("right", "left")}
        bulks = (s.bulk_on("roof-right") + under["right"], s.bulk_on("roof-left") + under["left"])
        arch = Arch.of_two(width, tab, (u, u), (side, side), bulks)
        strip = arch.piece(s, "tent", "Tabs go towards the gutter; glue one, shut the card on the other.")
        left = span("page", page, e, "page-width").plus(
            lever_term("foot", -u, e, "foot", -1.0), lever_term("side", -side, e, "side", -1.0)
        )
        faces = (
            ("roof-right", "right side of the tent", "panel-1"),
            ("roof-left", "left side of the tent", "panel-2"),
        )
        foot = span("foot", u, e, "foot")
        return arch_part(self, s, sizes, arch, strip, list(rooms), left, foot, "tent-width", faces)


def open_half(sizes: Sizes) -> float:
    """Half the angle between the pages when the card is open, radians."""
    return math.radians(sizes["opens"].length) / 2


FAMILY = Tent()
