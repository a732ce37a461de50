"""Tuck spot: a band, a half round or a corner glued along its rim, under which a tag or a photo is tucked."""

from __future__ import annotations

import math
from collections.abc import Mapping

from yawning_lantern.assembly import HOST, Instance, Joint, Part, Pocket, Room, Root, Span, span, uses
from yawning_lantern.errors import ParameterError
from yawning_lantern.measure import inches, told
from yawning_lantern.pattern import Panel, Point, build_piece, rectangle
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes, Start, fact
from yawning_lantern.structures.kit.lying import BEARS, Lying, bulks, extent, face_mount, fit_gap, usual_length
from yawning_lantern.structures.kit.shell import lever_term
from yawning_lantern.structures.kit.solving import face_room, given_length, length_of, sheet_gap, word_of, worked_out

STRIP = inches(1 / 4)
"""What is glued along its rim, mm. Common practice, no source."""
BREADTH = inches(3 / 4)
"""How high a band is, mm. Common practice, no source."""
PLAY = inches(1 / 8)
"""How much narrower what is tucked under is than the clear way, mm. Common practice, no source."""
_ARC = 24  # chords of a half round
_RIM = 8  # straight stretches of glue along a half round's rim


class TuckSpot(Lying):
    """Its mouth looks up: of a band, through and through."""

    id = "tuck-spot"
    name = "Tuck spot"
    about = "A band glued at its ends, a half round or a corner glued along its rim: a tag or photo is tucked under."
    shelf = "Dress"
    headline = ("shape", "width")
    starts: tuple[Start, ...] = ("size", "contents")
    faces = (("face", "on the tuck spot"),)
    parameters = (
        Parameter("shape", "Shape", "word", "A band across the face, a half round, or a corner.", "Size",
                  words=("band", "half round", "corner"), default="band"),
        Parameter("width", "Width", "length", "Left to right; of a corner along its foot.", "Size", 12.0),
        Parameter("height", "Height", "length", "Foot to head; of a half round follows from its width.", "Size", 6.0),
        Parameter("strip", "Glued strip", "length", "What the glue takes at each end, or along the rim.", "Size", 2.0,
                  30.0, default=STRIP),
        fact("content-width", "What is tucked in, width", "A tag or photo.", "Contents", 6.0),
        Parameter("clear", "Clear way", "length", "Between the glued strips at the mouth.", "Size", derived=True),
    )  # fmt: skip

    def size(self, situation: Situation) -> dict[str, Sized]:
        """Its shape. Raises ParameterError where the glue leaves no way in."""
        s, given = situation, situation.given
        shape = word_of(given, "shape", "band")
        strip = length_of(given, "strip", STRIP)
        content = given_length(given, "content-width")
        lost = (2.0 if shape.value != "corner" else 1.0) * strip.length
        auto = None if content is None else content + PLAY + lost
        sizes = {"shape": shape, "strip": strip, "width": extent(s, "width", 0, inches(3), auto)}
        w = sizes["width"].length
        if shape.value == "half round":
            sizes["height"] = Sized(w / 2, worked_out(sizes["width"]))
        elif shape.value == "band":
            sizes["height"] = usual_length(s, "height", BREADTH, self._room(s))
        else:
            sizes["height"] = length_of(given, "height", min(w, self._room(s)), "auto")
        sizes["clear"] = Sized(w - lost, "auto")
        if content is not None:
            sizes["content-width"] = Sized(content, "given")
        least = min(w - lost, sizes["height"].length - (0.0 if shape.value == "band" else strip.length))
        if least < BEARS:
            raise ParameterError(
                f"The glue leaves {told(max(least, 0.0))}: nothing is tucked in there.", "Glued strip",
                "Make it narrower, or the tuck spot larger.",
            )  # fmt: skip
        return sizes

    @staticmethod
    def _room(s: Situation) -> float:
        return s.room.clear(1) if s.room is not None else 1000.0

    def reaches(self, s: Situation, sizes: Sizes) -> tuple[Span, Span]:
        """Half its footprint; a half round is half as high as it is wide."""
        across, along = super().reaches(s, sizes)
        if sizes["shape"].value == "half round":
            along = span(self.name.lower(), sizes["height"].length / 2, s.element, "width", 0.25)
        return across, along

    def thickness(self, s: Situation, sizes: Sizes) -> Span:
        """One sheet and what is on it."""
        return span("tuck spot", s.paper.caliper).plus(*bulks(s, "bulk on it", "face"))

    def _outline(self, sizes: Sizes) -> tuple[Point, ...]:
        w, h = sizes["width"].length, sizes["height"].length
        if sizes["shape"].value == "corner":
            return (0.0, 0.0), (w, 0.0), (0.0, h)
        if sizes["shape"].value == "half round":
            steps = (math.pi * (1 + k / _ARC) for k in range(_ARC + 1))
            return tuple((w / 2 * (1 + math.cos(a)), h * (1 + math.sin(a))) for a in steps)
        return rectangle(0, 0, w, h)

    def _spots(self, sizes: Sizes) -> tuple[tuple[Point, ...], ...]:
        """What is glued: the ends of a band, both legs of a corner, the rim of a half round."""
        w, h, g = (sizes[n].length for n in ("width", "height", "strip"))
        if sizes["shape"].value == "band":
            return rectangle(0, 0, g, h), rectangle(w - g, 0, w, h)
        if sizes["shape"].value == "corner":
            at = w * (1 - g / h), h * (1 - g / w)  # where the slope crosses the strips
            return ((0.0, 0.0), (w, 0.0), (at[0], g), (0.0, g)), ((0.0, g), (g, g), (g, at[1]), (0.0, h))
        spots = []
        for k in range(_RIM):
            a, b = (math.pi * (1 + (k + e) / _RIM) for e in (0, 1))
            ring = [(w / 2 + r * math.cos(v), h + r * math.sin(v)) for r, v in
                    ((w / 2 - g, a), (w / 2, a), (w / 2, b), (w / 2 - g, b))]  # fmt: skip
            spots.append(tuple(ring))
        return tuple(spots)

    def _free(self, sizes: Sizes) -> tuple[float, float, float, float]:
        """A rectangle that lies on it, mm: x0, y0, x1, y1."""
        w, h = sizes["width"].length, sizes["height"].length
        if sizes["shape"].value == "corner":
            return 0.0, 0.0, w / 2, h / 2
        if sizes["shape"].value == "half round":
            side = w / 2 / math.sqrt(2)
            return w / 2 - side, h - side, w / 2 + side, h
        return 0.0, 0.0, w, h

    def rooms(self, situation: Situation, sizes: Sizes) -> dict[str, Room]:
        """What lies on it: of a corner or half round the largest rectangle."""
        x0, y0, x1, y1 = self._free(sizes)
        s = situation
        return {"face": face_room(x1 - x0, y1 - y0, s.paper.caliper, s.element, ("width", "height"), "tuck spot")}

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        """One panel, glued along its rim."""
        s, e, t = situation, situation.element, situation.paper.caliper
        w, h, strip, clear = (sizes[n].length for n in ("width", "height", "strip", "clear"))
        shape = str(sizes["shape"].value)
        panel = Panel("spot", "tuck spot", self._outline(sizes))
        where = {"band": "at both ends", "half round": "along its round rim", "corner": "along both its legs"}[shape]
        piece = build_piece(
            f"{e}.spot", s.name, s.paper, [panel],
            note=f"Glue it {where}, in a strip of {told(strip)}; keep glue out of the inside.",
        )  # fmt: skip
        mount = face_mount("face", "on the tuck spot", "spot", panel, 1, t, shape=self._free(sizes))
        up = span("height", h, e, "height") if shape != "half round" else span("height", h, e, "width", 0.5)
        gaps = [sheet_gap(e, s.name, s.paper, piece.size, (span("width", w, e, "width").terms, up.terms))]
        if "content-width" in sizes:
            lost = 2.0 if shape != "corner" else 1.0
            left = span("tuck spot", w, e, "width").plus(lever_term("glued strips", -lost * strip, e, "strip", -lost))
            left = left - span("what is tucked in", sizes["content-width"].length)
            gaps.append(fit_gap(s, uses.POCKET, ("what is tucked in", s.name), left, uses.SLIDES))
        joint = Joint(("spot", "spot"), HOST, spots=self._spots(sizes), label=f"{where}: keep glue out of the inside")
        depth = h if shape == "band" else h - strip
        return Part(
            e, s.name, (piece,), (Instance("spot", piece.id, Root("spot", (w / 2, h / 2))),), (mount,),
            gaps=tuple(gaps), pockets=(Pocket("tuck spot", ("spot",), "up", clear, depth),), joints=(joint,),
        )  # fmt: skip


FAMILY = TuckSpot()
