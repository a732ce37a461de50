"""Tag: a card with clipped shoulders and a tab, that slides out of what holds it."""

from __future__ import annotations

from collections.abc import Mapping

from yawning_lantern.assembly import Instance, Part, Room, Root, Span, Swing, span
from yawning_lantern.errors import ParameterError
from yawning_lantern.measure import inches, told
from yawning_lantern.pattern import Panel, Point, build_piece
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes
from yawning_lantern.structures.kit.lying import SIZE_PARAMETERS, Lying, bulks, extent, face_mount
from yawning_lantern.structures.kit.solving import face_room, length_of, sheet_gap


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
        Parameter("shoulder", "Shoulder", "length", "What is clipped off each corner of the head.", most=60.0),
    )

    def size(self, situation: Situation) -> dict[str, Sized]:
        """Width, height and shoulders. Raises ParameterError where the shoulders meet."""
        s = situation
        sizes = {"width": extent(s, "width", 0, inches(2)), "height": extent(s, "height", 1, inches(4))}
        least = min(sizes["width"].length, sizes["height"].length)
        if least < 6.0:
            raise ParameterError("There is no room for a tag there.", "Tag", "Put it on a larger face.")
        sizes["shoulder"] = length_of(s.given, "shoulder", min(inches(3 / 8), least / 4), "auto")
        if sizes["shoulder"].length > least * 0.49:
            raise ParameterError(
                "The shoulders would meet.", "Shoulder", f"Clip less than {told(least / 2)} off each corner."
            )
        return sizes

    def thickness(self, s: Situation, sizes: Sizes) -> Span:
        """The tag and what is on it."""
        return span("tag", s.paper.caliper).plus(*bulks(s, "bulk on the tag", "face"))

    def rooms(self, situation: Situation, sizes: Sizes) -> dict[str, Room]:
        """Its face below the shoulders."""
        w, h = sizes["width"].length, sizes["height"].length - sizes["shoulder"].length
        return {"face": face_room(w, h, situation.paper.caliper, situation.element, ("width", "height"), "tag")}

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        """One panel."""
        s, e, t = situation, situation.element, situation.paper.caliper
        w, h, cut = (sizes[n].length for n in ("width", "height", "shoulder"))
        shape: tuple[Point, ...] = ((0.0, 0.0), (w, 0.0), (w, h - cut), (w - cut, h), (cut, h), (0.0, h - cut))
        if cut == 0.0:
            shape = ((0.0, 0.0), (w, 0.0), (w, h), (0.0, h))
        panel = Panel("tag", "tag", shape)
        piece = build_piece(f"{e}.tag", s.name, s.paper, [panel])
        mount = face_mount("face", "on the tag", "tag", panel, 1, t, shape=(0.0, 0.0, w, h - cut))
        terms = (span("width", w, e, "width").terms, span("height", h, e, "height").terms)
        slide: Swing | None = None
        if s.room is not None and s.room.relation == "inside":  # between walls the only way is out of the box
            high = s.room.height.value if s.room.height is not None else h
            slide = Swing("slide", f"{s.name} is lifted out", slides=(("tag", (0.0, 0.0, high + 2 * t)),))
        elif s.room is not None:
            slide = Swing("slide", f"{s.name} slides out", slides=(("tag", (0.0, h, 0.0)),))
        return Part(
            e, s.name, (piece,), (Instance("tag", piece.id, Root("tag", (w / 2, h / 2))),), (mount,),
            (slide,) if slide else (), (sheet_gap(e, s.name, s.paper, (w, h), terms),),
        )  # fmt: skip


FAMILY = Tag()
