"""Tag: a card with clipped shoulders and a tab, that slides out of what holds it."""

from __future__ import annotations

from collections.abc import Mapping

from yawning_lantern.assembly import Instance, Part, Room, Root, Span, Swing, span
from yawning_lantern.errors import ParameterError
from yawning_lantern.measure import at_most, inches, told
from yawning_lantern.pattern import Fold, Panel, Point, build_piece
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes
from yawning_lantern.structures.kit.lying import BEARS, SIZE_PARAMETERS, Lying, bulks, extent, face_mount
from yawning_lantern.structures.kit.solving import face_room, length_of, sheet_gap

PULL = inches(1 / 2)
"""How high a pull tab is, mm. Common practice, no source."""


class Tag(Lying):
    """Shoulders clipped at the head."""

    id = "tag"
    name = "Tag"
    about = "A card with clipped shoulders that slides out along the face it lies on."
    shelf = "Dress"
    headline = ("width", "height")
    faces = (("face", "on the tag"),)
    parameters = (
        *SIZE_PARAMETERS,
        Parameter("pull", "Pull tab", "length", "Across, on its head, to draw it by; 0 for none.", most=100.0),
        Parameter("shoulder", "Shoulder", "length", "What is clipped off each corner of the head.", most=60.0),
    )

    def size(self, situation: Situation) -> dict[str, Sized]:
        """Width, height and shoulders. Raises ParameterError where the shoulders meet."""
        s = situation
        sizes = {"width": extent(s, "width", 0, inches(2)), "height": extent(s, "height", 1, inches(4))}
        least = min(sizes["width"].length, sizes["height"].length)
        if least < BEARS:
            raise ParameterError(
                f"A tag of {told(max(least, 0.0))} is too small to take hold of.", "Tag", "Make it larger."
            )
        sizes["shoulder"] = length_of(s.given, "shoulder", min(inches(3 / 8), least / 4), "auto")
        sizes["pull"] = length_of(s.given, "pull", 0.0)
        flat = sizes["width"].length - 2 * sizes["shoulder"].length
        if 0.0 < flat < sizes["pull"].length:
            raise ParameterError(
                f"A pull tab of {told(sizes['pull'].length)} is wider than the head between its shoulders.", "Pull tab",
                f"Give {at_most(flat)}, or smaller shoulders.",
            )  # fmt: skip
        if sizes["shoulder"].length > least * 0.49:
            raise ParameterError(
                "The shoulders would meet.", "Shoulder", f"Clip less than {told(least / 2)} off each corner."
            )
        return sizes

    def thickness(self, s: Situation, sizes: Sizes) -> Span:
        """The tag and what is on it."""
        return span("tag", s.paper.caliper).plus(*bulks(s, "bulk on the tag", "face"))

    @staticmethod
    def _pull(sizes: Sizes) -> float:
        """How high the pull tab is: within the tag's height, mm."""
        return min(PULL, sizes["height"].length / 4) if sizes["pull"].length else 0.0

    def rooms(self, situation: Situation, sizes: Sizes) -> dict[str, Room]:
        """Its face below the shoulders."""
        w, h = sizes["width"].length, sizes["height"].length - sizes["shoulder"].length - self._pull(sizes)
        return {"face": face_room(w, h, situation.paper.caliper, situation.element, ("width", "height"), "tag")}

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        """One panel."""
        s, e, t = situation, situation.element, situation.paper.caliper
        w, h, cut, pull = (sizes[n].length for n in ("width", "height", "shoulder", "pull"))
        head, h = h, h - self._pull(sizes)
        shape: tuple[Point, ...] = ((0.0, 0.0), (w, 0.0), (w, h - cut), (w - cut, h), (cut, h), (0.0, h - cut))
        if cut == 0.0:
            shape = ((0.0, 0.0), (w, 0.0), (w, h), (0.0, h))
        panel = Panel("tag", "tag", shape)
        panels, folds = [panel], []
        if pull:
            x0, x1, slope = (w - pull) / 2, (w + pull) / 2, min(pull, head - h) / 4
            panels.append(Panel("pull", "pull tab", ((x0, h), (x1, h), (x1 - slope, head), (x0 + slope, head))))
            folds.append(Fold("tag", "pull", 0.0, scored=False))
        piece = build_piece(f"{e}.tag", s.name, s.paper, panels, folds)
        mount = face_mount("face", "on the tag", "tag", panel, 1, t, shape=(0.0, 0.0, w, h - cut))
        terms = (span("width", w, e, "width").terms, span("height", head, e, "height").terms)
        slide: Swing | None = None
        if s.room is not None and s.room.relation == "inside":  # between walls the only way is out of the box
            high = s.room.height.value if s.room.height is not None else h
            slide = Swing("slide", f"{s.name} is lifted out", slides=(("tag", (0.0, 0.0, high + 2 * t)),))
        elif s.room is not None:
            slide = Swing("slide", f"{s.name} slides out", slides=(("tag", (0.0, head, 0.0)),))
        return Part(
            e, s.name, (piece,), (Instance("tag", piece.id, Root("tag", (w / 2, head / 2))),), (mount,),
            (slide,) if slide else (), (sheet_gap(e, s.name, s.paper, (w, h), terms),),
        )  # fmt: skip


FAMILY = Tag()
