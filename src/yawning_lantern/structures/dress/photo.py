"""Photo, print or card of a known size: a flat thing that is bought or printed, not cut."""

from __future__ import annotations

from collections.abc import Mapping

from msgspec.structs import replace

from yawning_lantern.assembly import Instance, Part, Room, Root, Span, span
from yawning_lantern.errors import ParameterError
from yawning_lantern.measure import inches
from yawning_lantern.pattern import Panel, build_piece
from yawning_lantern.structures.kit.corners import rounded
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes, Start
from yawning_lantern.structures.kit.lying import SIZE_PARAMETERS, Lying, bulks, extent, face_mount
from yawning_lantern.structures.kit.solving import face_room, given_length, length_of, word_of

CORNER = 3.18
"""Radius of a plastic card's corners, mm: ISO/IEC 7810 ID-1, from memory."""
FORMATS: dict[str, tuple[float, float, float]] = {
    "4x6": (inches(4), inches(6), 0.25),
    "6x4": (inches(6), inches(4), 0.25),
    "3x4": (inches(3), inches(4), 0.25),
    "2x2": (inches(2), inches(2), 0.25),
    "id-card": (85.60, 53.98, 0.76),
    "fits": (0.0, 0.0, 0.25),
    "own": (0.0, 0.0, 0.25),
}
"""Width, height and thickness, mm. Cards: ISO/IEC 7810 ID-1. Prints: common practice, no source."""


class Photo(Lying):
    """A ready-made flat thing."""

    id = "photo"
    name = "Photo"
    about = "A photo, print or plastic card of a known size, glued on a face."
    shelf = "Dress"
    headline = ("width", "height")
    starts: tuple[Start, ...] = ("size",)
    faces = (("face", "on the photo"),)
    parameters = (
        Parameter("format", "Format", "word", "A usual size, or one's own.", words=tuple(FORMATS), default="fits"),
        *SIZE_PARAMETERS,
        Parameter("thick", "Thickness", "length", "Of the photo or card itself.", most=10.0),
    )

    def size(self, situation: Situation) -> dict[str, Sized]:
        """The format's size, or what was given, or what the face leaves. Raises ParameterError for half a size."""
        given = situation.given
        kind = word_of(given, "format", "own" if "width" in given else "fits")
        w, h, thick = FORMATS[str(kind.value)]
        sizes = {"format": kind, "thick": length_of(given, "thick", thick, "auto")}
        for axis, (name, length) in enumerate((("width", w), ("height", h))):
            own = given_length(given, name)
            if own is not None:
                sizes[name] = Sized(own, "given")
            elif length:
                sizes[name] = Sized(length, "auto")
            else:
                sizes[name] = extent(situation, name, axis, inches((4, 3)[axis]))
            if sizes[name].length < 3.0:
                raise ParameterError("There is no room for a photo there.", name)
        return sizes

    def thickness(self, s: Situation, sizes: Sizes) -> Span:
        """The photo and what is on it."""
        return span("photo", sizes["thick"].length, s.element, "thick").plus(*bulks(s, "bulk on the photo", "face"))

    def rooms(self, situation: Situation, sizes: Sizes) -> dict[str, Room]:
        """Its face."""
        w, h, thick = (sizes[n].length for n in ("width", "height", "thick"))
        face = face_room(w, h, thick, situation.element, ("width", "height"), "photo")
        corner = self._corner(sizes)
        return {"face": replace(face, corner=span("rounded corner", corner) if corner else None)}

    @staticmethod
    def _corner(sizes: Sizes) -> float:
        """The radius of a plastic card's corners, mm."""
        least = min(sizes["width"].length, sizes["height"].length)
        return min(CORNER, least / 2) if sizes["format"].value == "id-card" else 0.0

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        """One sheet; a plastic card has its rounded corners."""
        s, e = situation, situation.element
        w, h = sizes["width"].length, sizes["height"].length
        shape = rounded(0, 0, w, h, self._corner(sizes), ("bl", "br", "tr", "tl"))
        stock = replace(s.paper, id="ready-made", name="ready-made", measured=sizes["thick"].length, front="#c8ced6")
        piece = build_piece(
            f"{e}.photo", s.name, stock, [Panel("photo", "photo", shape)], note="Ready-made: not cut.", bought=True
        )
        mount = face_mount("face", "on the photo", "photo", piece.panels[0], 1, sizes["thick"].length)
        return Part(e, s.name, (piece,), (Instance("photo", piece.id, Root("photo", (w / 2, h / 2))),), (mount,),
                    striped=sizes["format"].value == "id-card")  # fmt: skip


FAMILY = Photo()
