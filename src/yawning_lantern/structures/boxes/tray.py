"""Tray: a base with four walls, one slit per corner, tabs glued inside."""

from __future__ import annotations

from collections.abc import Mapping

from yawning_lantern.assembly import Instance, Part, Pocket, Room, Root
from yawning_lantern.structures.kit.declare import Situation, Sizes
from yawning_lantern.structures.kit.open_box import OpenBox
from yawning_lantern.structures.kit.shell import corner_joints, shell_piece
from yawning_lantern.structures.kit.solving import contents_of


class Tray(OpenBox):
    """An open box from one sheet."""

    id = "tray"
    name = "Tray"
    about = "An open box from one sheet: four walls, one slit per corner, tabs glued inside."
    shelf = "Boxes"

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        """One sheet with walls and tabs."""
        s, e, t = situation, situation.element, situation.paper.caliper
        w, d, h = (sizes[n].length for n in ("width", "depth", "height"))
        flags = self.flags(sizes)
        piece = shell_piece(f"{e}.tray", s.name, s.paper, ("base", "base"), (w, d, h), 1, "wall", flags, s.glue)
        return Part(
            e,
            s.name,
            (piece,),
            (Instance("tray", piece.id, Root("base", (h + w / 2, h + d / 2))),),
            self.mounts(s, sizes, "tray"),
            gaps=tuple(self.own_gaps(s, sizes, rooms, piece)),
            pockets=(Pocket("tray", ("base",), "up", w - t, h - t / 2),),
            contents=contents_of(sizes),
            joints=corner_joints("tray"),
        )


FAMILY = Tray()
