"""Floating layer: a parallelogram over the gutter whose top stays level with a page as the card opens."""

from __future__ import annotations

from collections.abc import Mapping

from yawning_lantern.assembly import Part, Room, span
from yawning_lantern.measure import inches, snap
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


class FloatingLayer(PopUp):
    """Attached at u on the right page and v on the left; its panels are v and u long. Shut it reaches to u + v."""

    id = "floating-layer"
    name = "Floating layer"
    about = "A box over the gutter that stands when the card is half open and lies flat when it is shut."
    shelf = "Pop-ups"
    faces = (*CARD_FACES, ("layer-top", "top of the layer"), ("layer-front", "front of the layer"))
    parameters = (
        Parameter("out", "Out from the gutter", "length", "Where it is glued on the lying page.", "Layer", 6.0),
        Parameter("up", "Up from the gutter", "length", "Where it is glued on the page that stands.", "Layer", 6.0),
        Parameter("layer-width", "Layer width", "length", "Along the gutter.", "Layer", 6.0),
        Parameter("tab", "Tab", "length", "Glued to the pages, towards the gutter.", "Layer", 3.0),
        *CARD_PARAMETERS,
        Parameter("shut-reach", "Reach when shut", "length", "How far it reaches from the gutter.", "Layer",
                  derived=True),
    )  # fmt: skip

    def size(self, situation: Situation) -> dict[str, Sized]:
        """Pages and layer. Raises ParameterError where nothing is left to fold."""
        s = situation
        sizes = self.card_sizes(s)
        page, high = sizes["page-width"].length, sizes["page-height"].length
        out = length_of(s.given, "out", on_board(s, page * 0.45), "auto")
        rest = on_board(s, max(page - out.length - inches(1 / 8), 6.0) * 0.8)
        sizes["out"] = out
        sizes["up"] = length_of(s.given, "up", max(rest, 6.0), "auto")
        sizes["layer-width"] = length_of(s.given, "layer-width", snap(high * 0.5, s.cut.grid, "down").value, "auto")
        least = min(out.length, sizes["up"].length)
        sizes["tab"] = length_of(s.given, "tab", min(TAB, on_board(s, least * 0.8)), "auto")
        for name in ("out", "up", "layer-width", "tab"):
            positive(sizes[name].length, f"layer's {name.removeprefix('layer-')}", "Make the page larger.")
        sizes["shut-reach"] = Sized(out.length + sizes["up"].length, "auto")
        return sizes

    def rooms(self, situation: Situation, sizes: Sizes) -> dict[str, Room]:
        """The card's faces, and top and front of the layer."""
        s, t, e = situation, situation.paper.caliper, situation.element
        width = sizes["layer-width"].length
        rooms = self.card_rooms(s, sizes)
        rooms["layer-top"] = face_room(width, sizes["out"].length, t, e, ("layer-width", "out"), "layer top")
        rooms["layer-front"] = face_room(width, sizes["up"].length, t, e, ("layer-width", "up"), "layer front")
        return rooms

    def feet(self, sizes: Sizes) -> tuple[float, float]:
        """Where it is glued on the page that stands, and on the lying one."""
        return sizes["up"].length, sizes["out"].length

    def on_it(self, s: Situation, sizes: Sizes) -> float:
        """What is on both panels: they lie on one another."""
        return s.bulk_on("layer-top") + s.bulk_on("layer-front")

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        """The card and the strip."""
        s, e, page = situation, situation.element, sizes["page-width"].length
        u, v, width, tab = (sizes[n].length for n in ("out", "up", "layer-width", "tab"))
        under = {side: self.under(s, sizes, side) for side in ("right", "left")}
        bulks = (s.bulk_on("layer-front") + under["right"], s.bulk_on("layer-top") + under["left"])
        arch = Arch.of_two(width, tab, (u, v), (v, u), bulks)
        strip = arch.piece(s, "strip", "Tabs go towards the gutter; glue one, shut the card on the other.")
        left = span("page", page, e, "page-width").plus(
            lever_term("out", -u, e, "out", -1.0), lever_term("up", -v, e, "up", -1.0)
        )
        faces = (("layer-front", "front of the layer", "panel-1"), ("layer-top", "top of the layer", "panel-2"))
        foot = span("foot", min(u, v), e, "out" if u < v else "up")
        return arch_part(self, s, sizes, arch, strip, list(rooms), left, foot, "layer-width", faces)


FAMILY = FloatingLayer()
