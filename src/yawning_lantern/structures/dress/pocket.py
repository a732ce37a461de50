"""Pocket: a panel glued along three sides, its mouth up or to a side, with a notch and what slides in."""

from __future__ import annotations

from collections.abc import Mapping

from msgspec.structs import replace

from yawning_lantern.assembly import (
    HOST,
    Attach,
    Instance,
    Joint,
    Need,
    Part,
    Pocket,
    Room,
    Root,
    Span,
    Swing,
    span,
    uses,
)
from yawning_lantern.errors import ParameterError
from yawning_lantern.measure import inches, snap, told
from yawning_lantern.pattern import Panel, build_piece, rectangle
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes, Start, fact
from yawning_lantern.structures.kit.lying import (
    SIZE_PARAMETERS,
    Lying,
    bulks,
    extent,
    face_mount,
    fit_gap,
    notch,
    notched,
    usual_length,
)
from yawning_lantern.structures.kit.shell import lever_term
from yawning_lantern.structures.kit.solving import as_given, face_room, given_length, length_of, sheet_gap, word_of

STRIP = inches(1 / 4)
"""The glued strip along a pocket's side, mm. Common practice, no source."""
TAG_LESS = inches(1 / 8)
"""A tag is this much narrower than its pocket's inside. Common practice, no source."""
NOTCH = (inches(3 / 4), inches(3 / 2))
"""Punches for a notch, smallest and largest, mm. Common practice, no source."""


class GluedPocket(Lying):
    """Inside = panel − the glued strips; the tag is an eighth narrower."""

    id = "pocket"
    name = "Pocket"
    about = "A panel glued along three sides, mouth up or to a side, with a finger notch and a tag that slides in."
    shelf = "Dress"
    headline = ("width", "height")
    starts: tuple[Start, ...] = ("size", "contents", "sheet")
    faces = (("face", "on the pocket"),)
    parameters = (
        *SIZE_PARAMETERS,
        Parameter(
            "mouth",
            "Mouth",
            "word",
            "Where the tag goes in; right is the side away from a gutter.",
            "Pocket",
            words=("up", "right", "left"),
            default="up",
        ),
        Parameter(
            "strip",
            "Glued strip",
            "length",
            "What the glue takes along each closed side.",
            "Pocket",
            1.0,
            30.0,
            default=STRIP,
        ),
        Parameter(
            "notch", "Notch", "length", "Width of the half circle in the mouth; 0 for none.", "Pocket", most=60.0
        ),
        Parameter("tag", "Tag", "word", "Cut a tag for it.", "Tag", words=("yes", "no"), default="yes"),
        Parameter("tag-width", "Tag, width", "length", "Across the mouth.", "Tag", 3.0),
        Parameter("tag-length", "Tag, length", "length", "Into the pocket.", "Tag", 3.0),
        fact("content-width", "Card, width", "A card that shall slide in, across the mouth.", "Contents", 3.0),
        fact("content-height", "Card, length", "A card that shall slide in.", "Contents", 3.0),
    )

    def size(self, situation: Situation) -> dict[str, Sized]:
        """Pocket, notch and tag. Raises ParameterError where the glue leaves no pocket."""
        s, given = situation, situation.given
        mouth = word_of(given, "mouth", "up")
        least = min(s.room.clear(0), s.room.clear(1)) if s.room is not None else 1000.0
        strip = usual_length(s, "strip", STRIP, least / 6)
        card = [given_length(given, f"content-{n}") for n in ("width", "height")]
        sideways = mouth.value != "up"
        need = [
            None if x is None else x + gain
            for x, gain in zip(card, (2 * strip.length + TAG_LESS, strip.length), strict=True)
        ]
        if need[1] is not None and card[1] is not None:
            need[1] = card[1] + strip.length
        across, deep = ("height", "width") if sideways else ("width", "height")
        sizes = {
            "strip": strip,
            "mouth": mouth,
            across: extent(s, across, 1 if sideways else 0, inches(4), need[0]),
            deep: extent(s, deep, 0 if sideways else 1, inches(3), need[1]),
        }
        inside, depth = self.inside(sizes)
        if inside < 8.0 or depth < 8.0:
            raise ParameterError(
                f"The glue leaves {told(min(inside, depth))}: no pocket.", "Pocket",
                "Make the panel larger or the glued strip narrower.",
            )  # fmt: skip
        wide = given_length(given, "notch")
        widest = min(NOTCH[1], inside * 0.6)
        sizes["notch"] = (
            Sized(wide, "given") if wide is not None else Sized(NOTCH[0] if NOTCH[0] <= widest else 0.0, "auto")
        )
        if sizes["notch"].length >= inside:
            raise ParameterError(
                f"A notch of {told(sizes['notch'].length)} is wider than the pocket's mouth of {told(inside)}.",
                "Notch",
                "Make it narrower, or the pocket wider.",
            )
        sizes["tag"] = word_of(given, "tag", "yes")
        for name, exact, known in (
            ("tag-width", inside - TAG_LESS, card[0]), ("tag-length", depth, card[1]),
        ):  # fmt: skip
            auto = known if known is not None else snap(exact, s.cut.grid, "down").value
            sizes[name] = length_of(given, name, auto, "auto")
        sizes |= as_given(given, "content-width", "content-height")
        return sizes

    @staticmethod
    def inside(sizes: Sizes) -> tuple[float, float]:
        """Across the mouth between the glued strips, and from the mouth to the glue, mm."""
        strip = sizes["strip"].length
        across, deep = ("width", "height") if sizes["mouth"].value == "up" else ("height", "width")
        return sizes[across].length - 2 * strip, sizes[deep].length - strip

    def _tag(self, s: Situation, sizes: Sizes) -> float:
        return s.paper.caliper if sizes["tag"].value == "yes" else 0.0

    def thickness(self, s: Situation, sizes: Sizes) -> Span:
        """Panel, tag, and what is on the panel."""
        sheets = span("pocket and tag", s.paper.caliper + self._tag(s, sizes))
        return sheets.plus(*bulks(s, "bulk on the pocket", "face"))

    def need(self, situation: Situation, sizes: Sizes) -> Need:
        """The panel; and a tag that is longer than it is deep stands out of the mouth."""
        need, e = super().need(situation, sizes), situation.element
        mouth = str(sizes["mouth"].value)
        long, depth = sizes["tag-length"].length, self.inside(sizes)[1]
        if sizes["tag"].value != "yes" or long <= depth + 1e-6:
            return need
        strip, deep = sizes["strip"].length, "height" if mouth == "up" else "width"
        out = (
            lever_term("tag", long, e, "tag-length"), lever_term("glued strip", strip, e, "strip"),
            lever_term("pocket", -sizes[deep].length, e, deep, -1.0),
        )  # fmt: skip
        side = {"up": "back"}.get(mouth, mouth)
        sides = tuple(replace(one, reach=one.reach.plus(*out)) if one.name == side else one for one in need.sides)
        return replace(need, sides=sides)

    def rooms(self, situation: Situation, sizes: Sizes) -> dict[str, Room]:
        """Its face, below the notch."""
        w, h = sizes["width"].length, sizes["height"].length
        cut = sizes["notch"].length / 2
        if sizes["mouth"].value == "up":
            h -= cut
        else:
            w -= cut
        return {"face": face_room(w, h, situation.paper.caliper, situation.element, ("width", "height"), "pocket")}

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        """The panel with its notch, and the tag behind it."""
        s, e, t = situation, situation.element, situation.paper.caliper
        w, h, mouth = sizes["width"].length, sizes["height"].length, str(sizes["mouth"].value)
        wide = sizes["notch"].length
        at, way = {
            "up": ((w / 2, h), (0.0, -1.0)), "right": ((w, h / 2), (-1.0, 0.0)), "left": ((0.0, h / 2), (1.0, 0.0)),
        }[mouth]  # fmt: skip
        marks = notch(at, wide, way) if wide else ()
        panel = Panel("pocket", "pocket", rectangle(0, 0, w, h))
        panel = notched(panel, at, wide, way) if wide else panel
        piece = build_piece(
            f"{e}.pocket", s.name, s.paper, [panel], marks=marks,
            note=f"Glue three sides in a strip of {told(sizes['strip'].length)}; keep glue out of the inside.",
        )  # fmt: skip
        tagged = sizes["tag"].value == "yes"
        pieces, instances = (
            [piece],
            [Instance("pocket", piece.id, Root("pocket", (w / 2, h / 2), away=self._tag(s, sizes)))],
        )
        swings: tuple[Swing, ...] = ()
        inside, depth = self.inside(sizes)
        tw, tl = sizes["tag-width"].length, sizes["tag-length"].length
        if tagged:
            tag = build_piece(f"{e}.tag", f"{s.name}, tag", s.paper, [Panel("tag", "tag", rectangle(0, 0, tw, tl))])
            pieces.append(tag)
            out = (-way[0], -way[1])
            foot = (at[0] - out[0] * depth, at[1] - out[1] * depth)
            centre = (foot[0] + out[0] * tl / 2, foot[1] + out[1] * tl / 2)
            on = Attach("pocket", "pocket", centre, out, -1, t, "slide")
            # the pocket stands off its host by the tag: the tag lies between them
            instances.append(Instance("tag", tag.id, Root("tag", (tw / 2, tl / 2), touch=1), on))
            way_out = (0.0, tl, 0.0)
            swings = (Swing("tag", f"tag out of {s.name}", slides=(("tag", way_out),)),)
        gaps = [
            fit_gap(
                s,
                uses.POCKET,
                (f"{s.name}, tag" if tagged else "card", "pocket, across"),
                span("pocket", inside + 2 * sizes["strip"].length, e, "height" if mouth != "up" else "width").plus(
                    lever_term("glued strips", -2 * sizes["strip"].length, e, "strip", -2.0)
                )
                - span("tag", tw, e, "tag-width"),
                uses.SLIDES,
            ),
            sheet_gap(
                e, s.name, s.paper, (w, h), (span("width", w, e, "width").terms, span("height", h, e, "height").terms)
            ),
        ]
        if wide:
            gaps.append(
                fit_gap(
                    s,
                    uses.SPARE,
                    (f"{s.name}, notch", "mouth"),
                    span("mouth", inside) - span("notch", wide, e, "notch"),
                )
            )
        x0, y0, x1, y1 = 0.0, 0.0, w, h
        cut = wide / 2
        shape = {"up": (x0, y0, x1, y1 - cut), "right": (x0, y0, x1 - cut, y1), "left": (x0 + cut, y0, x1, y1)}[mouth]
        mount = face_mount("face", "on the pocket", "pocket", panel, 1, t, shape=shape)
        return Part(
            e, s.name, tuple(pieces), tuple(instances), (mount,), swings, tuple(gaps),
            (Pocket("pocket", ("pocket",), mouth, inside, depth),),
            joints=(_strips(w, h, sizes["strip"].length, mouth),),
        )  # fmt: skip


def _strips(w: float, h: float, strip: float, mouth: str) -> Joint:
    """A pocket is glued along three sides, its mouth open."""
    sides = {
        "up": rectangle(strip, h - strip, w - strip, h), "down": rectangle(strip, 0, w - strip, strip),
        "left": rectangle(0, 0, strip, h), "right": rectangle(w - strip, 0, w, h),
    }  # fmt: skip
    spots = tuple(shape for name, shape in sides.items() if name != mouth)
    return Joint(("pocket", "pocket"), HOST, spots=spots, label="on three sides: keep glue out of the inside")


FAMILY = GluedPocket()
