"""Drop front: an open box whose front wall falls forward, held by a strap at its angle."""

from __future__ import annotations

import math
from collections.abc import Mapping

from yawning_lantern.assembly import Instance, Part, Room, Root, Swing, Term, span, uses
from yawning_lantern.assembly.room import SIDE_NAMES
from yawning_lantern.pattern import Fold, build_piece
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes
from yawning_lantern.structures.kit.lying import count_of, fit_gap
from yawning_lantern.structures.kit.open_box import OpenBox
from yawning_lantern.structures.kit.reach import STRAP_AT, fall_reach, strap_bulk, strap_length, strap_piece
from yawning_lantern.structures.kit.shell import corner_joints, shell_panels
from yawning_lantern.structures.kit.solving import contents_of, length_of


class DropFront(OpenBox):
    """Three walls glued, the fourth hinged at its foot. A lid, a band or a ribbon holds it shut."""

    id = "drop-front"
    name = "Drop front"
    about = "An open box whose front wall falls forward; a strap stops it at its angle, a lid or band holds it shut."
    shelf = "Boxes"
    takers = ("back",)
    parameters = (
        *OpenBox.parameters,
        Parameter("drop", "Falls by", "count", "How far the front falls, degrees.", "Fall", 20, 90, default=90),
        Parameter("strap", "Strap", "length", "Free length of a strap fixed three quarters up both walls.", "Fall"),
        Parameter("reach", "Reach when open", "length", "How far the front stands out.", "Fall", derived=True),
    )

    def _bulk_side(self, s: Situation, side: str, face: str) -> float:
        """As of an open box, and the straps, folded on the front and on both walls beside it."""
        straps = strap_bulk(s) if face == "inside" and side in ("front", "right", "left") else 0.0
        return super()._bulk_side(s, side, face) + straps

    def size(self, situation: Situation) -> dict[str, Sized]:
        """As an open box, and the fall. Raises ParameterError where nothing is left to fold."""
        sizes = super().size(situation)
        sizes["drop"] = count_of(situation, "drop", 90)
        angle, h = math.radians(sizes["drop"].length), sizes["height"].length
        sizes["strap"] = length_of(situation.given, "strap", strap_length(STRAP_AT * h, STRAP_AT * h, angle), "auto")
        sizes["reach"] = Sized(fall_reach(h, angle), "auto")
        return sizes

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        """One sheet; tabs at the back only, the front is free."""
        s, e = situation, situation.element
        w, d, h = (sizes[n].length for n in ("width", "depth", "height"))
        panels = [
            p
            for p in shell_panels("base", "base", w, d, h, "wall")
            if not p.name.endswith("-front") or p.name == "wall-front"
        ]
        folds = [Fold("base", f"wall-{name}", math.pi / 2) for name in SIDE_NAMES]
        folds += [
            Fold(f"wall-{side}", f"tab-{side}-back", math.pi / 2, settle=s.paper.caliper + s.glue)
            for side in ("right", "left")
        ]
        piece = build_piece(
            f"{e}.box", s.name, s.paper, panels, folds, flags=self.flags(sizes),
            note="Cut the front corners away. A strap at either side holds the front.",
        )  # fmt: skip
        angle = math.radians(sizes["drop"].length)
        needed = strap_length(STRAP_AT * h, STRAP_AT * h, angle)
        gaps = self.own_gaps(s, sizes, rooms, piece)
        gaps.append(
            fit_gap(
                s, uses.STRAP, (f"{s.name}, strap", f"front at {sizes['drop'].length:.0f}°"),
                span("strap", sizes["strap"].length, e, "strap").plus(Term("from wall to front", -needed)),
            )
        )  # fmt: skip
        swing = Swing("front", f"front of {s.name} falls", (("box", "base/wall-front", math.pi / 2 - angle),))
        straps = strap_piece(s, sizes["strap"].length, 2)
        return Part(
            e, s.name, (piece, straps), (Instance("box", piece.id, Root("base", (h + w / 2, h + d / 2))),),
            self.mounts(s, sizes, "box"), (swing,), tuple(gaps), contents=contents_of(sizes),
            joints=corner_joints("box", ("back",)),
        )  # fmt: skip


FAMILY = DropFront()
