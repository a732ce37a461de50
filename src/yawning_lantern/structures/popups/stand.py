"""Stand: an accordion strip glued at both ends whose middle fin lifts a card as the pages open."""

from __future__ import annotations

import math
from collections.abc import Mapping

from msgspec.structs import replace

from yawning_lantern.assembly import Joint, Part, Room, span
from yawning_lantern.errors import ParameterError
from yawning_lantern.measure import inches, snap, told
from yawning_lantern.structures.kit.card import CARD_FACES, CARD_PARAMETERS, Arch, PopUp, arch_part
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes, fact
from yawning_lantern.structures.kit.lying import TAB, usual_length
from yawning_lantern.structures.kit.shell import lever_term
from yawning_lantern.structures.kit.solving import face_room, length_of, positive


class Stand(PopUp):
    """Feet at u, four equal panels p: two carry, two make the fin that is glued together. Shut it reaches to u + 2p."""

    id = "stand"
    name = "Stand"
    about = "An accordion strip across the gutter; its fin stands up and holds a card when the pages lie open."
    shelf = "Pop-ups"
    opens = 180
    faces = (*CARD_FACES, ("holder", "fin, front"))
    parameters = (
        Parameter("panel", "Panel", "length", "Each of the four panels, score to score.", "Stand", 6.0,
                  default=inches(3 / 4)),
        Parameter("foot", "Foot", "length", "From the gutter to where an end is glued.", "Stand", 3.0),
        Parameter("stand-width", "Stand width", "length", "Along the gutter.", "Stand", 6.0),
        Parameter("tab", "Tab", "length", "Glued to the pages, towards the gutter.", "Stand", 3.0, default=TAB),
        fact("card-thick", "Card it holds", "Thickness of what stands in the fin.", "Stand", most=5.0),
        *CARD_PARAMETERS,
        Parameter("stands", "Stands", "length", "Height of the fin's head when open.", "Stand", derived=True),
        Parameter("shut-reach", "Reach when shut", "length", "How far it reaches from the gutter.", "Stand",
                  derived=True),
    )  # fmt: skip

    def size(self, situation: Situation) -> dict[str, Sized]:
        """Pages and strip. Raises ParameterError where the ends are too far apart for the panels."""
        s = situation
        sizes = self.card_sizes(s)
        high = sizes["page-height"].length
        panel = usual_length(s, "panel", inches(3 / 4), (sizes["page-width"].length - 3.0) / 3, scored=True)
        sizes["panel"] = panel
        tab = usual_length(s, "tab", TAB, 0.8 * panel.length, scored=True)
        sizes["foot"] = length_of(
            s.given, "foot", min(panel.length * 0.8, max(tab.length + inches(1 / 16), 6.0)), "auto"
        )
        sizes["tab"] = tab if "tab" in s.given else Sized(min(tab.length, sizes["foot"].length), "auto")
        sizes["stand-width"] = length_of(
            s.given, "stand-width", min(inches(4), snap(high * 0.8, s.cut.grid, "down").value), "auto"
        )
        sizes["card-thick"] = length_of(s.given, "card-thick", 0.0)
        half = math.radians(sizes["opens"].length) / 2
        across = sizes["foot"].length * math.sin(half)
        if across >= panel.length:
            raise ParameterError(
                "The ends are glued too far apart for the panels to meet.",
                "Foot", f"Put them nearer than {told(panel.length)} to the gutter, or make the panels longer.",
            )  # fmt: skip
        for name in ("panel", "foot", "stand-width", "tab"):
            positive(sizes[name].length, f"stand's {name.removeprefix('stand-')}", "Make the page larger.")
        rise = sizes["foot"].length * math.cos(half) + math.sqrt(panel.length**2 - across**2)
        sizes["stands"] = Sized(rise + panel.length, "auto")
        sizes["shut-reach"] = Sized(sizes["foot"].length + 2 * panel.length, "auto")
        return sizes

    def rooms(self, situation: Situation, sizes: Sizes) -> dict[str, Room]:
        """The card's faces and the fin."""
        s, t, e = situation, situation.paper.caliper, situation.element
        rooms = self.card_rooms(s, sizes)
        rooms["holder"] = face_room(
            sizes["stand-width"].length, sizes["panel"].length, t, e, ("stand-width", "panel"), "fin"
        )
        return rooms

    def feet(self, sizes: Sizes) -> tuple[float, float]:
        """Where its ends are glued."""
        return sizes["foot"].length, sizes["foot"].length

    def on_it(self, s: Situation, sizes: Sizes) -> float:
        """What the fin holds, and what is on its front; as much is kept free behind it."""
        return sizes["card-thick"].length + 2 * s.bulk_on("holder")

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        """The card and the strip."""
        s, e, page = situation, situation.element, sizes["page-width"].length
        u, p, width, tab = (sizes[n].length for n in ("foot", "panel", "stand-width", "tab"))
        arch = Arch(
            width, tab, (u, u), (p, p, p, p), self._angles(u, p), (0.0, 0.0, -math.pi, 0.0, 0.0),
            (0, 1, None, 1, 0), (0.0, 0.0, sizes["card-thick"].length, 0.0, 0.0),
            (s.bulk_on("holder") + self.under(s, sizes, "right"), s.bulk_on("holder") + self.under(s, sizes, "left")),
        )  # fmt: skip
        strip = arch.piece(s, "strip", "Glue the two middle panels together about the card; tabs towards the gutter.")
        left = span("page", page, e, "page-width").plus(
            lever_term("foot", -u, e, "foot", -1.0), lever_term("two panels", -2 * p, e, "panel", -2.0)
        )
        faces = (("holder", "fin, front", "panel-2"),)
        foot = span("foot", u, e, "foot")
        part = arch_part(self, s, sizes, arch, strip, list(rooms), left, foot, "stand-width", faces)
        return replace(part, joints=(Joint(("strip", "panel-3"), ("strip", "panel-2"), label="about the card"),))

    @staticmethod
    def _angles(u: float, p: float) -> tuple[float, ...]:
        """Folds when the pages stand at a right angle: the fin lies in the plane between them. Radians."""
        q = math.pi / 4
        d = u * math.cos(q) + math.sqrt(max(p * p - (u * math.sin(q)) ** 2, 0.0))
        cx = d * math.cos(q)
        first = math.atan2(cx, cx - u)
        return -first, first - q, -math.pi, first - q, -first


FAMILY = Stand()
