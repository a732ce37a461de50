"""Mat: a patterned sheet glued on a panel with a border; its corners square or rounded, or round itself."""

from __future__ import annotations

import math
from collections.abc import Mapping

from msgspec.structs import replace

from yawning_lantern.assembly import (
    HOST,
    Gap,
    Instance,
    Joint,
    Mount,
    Need,
    Part,
    Relation,
    Room,
    Root,
    Side,
    Term,
    box_sides,
    span,
    uses,
)
from yawning_lantern.errors import ParameterError
from yawning_lantern.measure import at_most, give_at_most, inches, told
from yawning_lantern.pattern import Panel, Point, build_piece, rectangle
from yawning_lantern.structures.kit.corners import concentric, rounded
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes, Start, fact
from yawning_lantern.structures.kit.lying import usual_length
from yawning_lantern.structures.kit.shell import lever_term
from yawning_lantern.structures.kit.solving import (
    as_given,
    centred,
    down_to_cut,
    face_room,
    given_length,
    length_of,
    positive,
    sheet_gap,
    word_of,
)

PHOTO_LESS = inches(1 / 8)
"""A photo is this much smaller than its mat, in all. Common practice, no source."""


EVEN, ROUND = 48, 20
"""How many sides a round mat is drawn with, and a round window."""
TAPED = "double-sided tape along its edges"
"""What holds film, which refuses wet glue. Common practice, no source."""
LEAST = 6.0
"""A smaller window is none, mm."""
SHARP = 2.0
"""A corner rounded by less is a plain one, mm."""


class Mat:
    """It leaves an even border on the panel it lies on, or one at the sides and another at head and foot."""

    id = "mat"
    name = "Mat"
    about = "A patterned sheet glued on a panel with an even border."
    shelf = "Dress"
    relation: Relation = "onto"
    headline = ("cut-width", "cut-height")
    starts: tuple[Start, ...] = ("size", "contents", "sheet")
    faces = (("face", "on the mat, unless it is a frame"),)
    parameters = (
        Parameter("width", "Panel width", "length", "Width of the panel that the mat lies on.", least=3.0),
        Parameter("height", "Panel height", "length", "Height of the panel that the mat lies on.", least=3.0),
        Parameter("border", "Border", "length", "What stays free of the panel all round.", default=inches(1 / 16)),
        Parameter("border-up", "Border, head and foot", "length", "Where it is another than at the sides."),
        Parameter(
            "shape",
            "Shape",
            "word",
            "Square corners, rounded ones, or round: a circle or an oval.",
            "Shape",
            words=("square", "rounded", "round"),
            default="square",
        ),
        Parameter(
            "corner",
            "Corners",
            "length",
            "Radius of rounded ones: the punch's.",
            "Shape",
            SHARP,
            60.0,
            default=inches(1 / 4),
        ),
        Parameter(
            "edge", "Decorative edge", "length", "What a punch or scissors take off every side.", "Shape", 0.0, 30.0
        ),
        Parameter("frame", "Frame", "length", "What stays around a window; 0: it is whole.", "Shape", 0.0, 100.0),
        Parameter("sheet", "Sheet", "length", "Cut the largest mat from a square sheet of this side.", "Sheet", 3.0),
        fact("content-width", "Photo, width", "Width of a photo for the mat.", "Contents", 1.0),
        fact("content-height", "Photo, height", "Height of a photo for the mat.", "Contents", 1.0),
        Parameter("cut-width", "Cut to, width", "length", "What to cut.", derived=True),
        Parameter("cut-height", "Cut to, height", "length", "What to cut.", derived=True),
    )

    def size(self, situation: Situation) -> dict[str, Sized]:
        """Panel and cut size. Raises ParameterError where the border leaves nothing."""
        given = situation.given
        border = length_of(given, "border", inches(1 / 16))
        sizes = {"border": border, "border-up": length_of(given, "border-up", border.length, "auto")}
        corner = situation.room.corner if situation.room is not None else None
        inner = concentric(corner.value, min(sizes[n].length for n in ("border", "border-up"))) if corner else 0.0
        sizes["shape"] = word_of(given, "shape", "rounded" if inner else "square")
        share = math.sqrt(2) if sizes["shape"].value == "round" else 1.0  # a photo in an oval: its corners on it
        for axis, name in enumerate(("width", "height")):
            border = sizes["border-up" if axis else "border"]
            photo, sheet = given_length(given, f"content-{name}"), given_length(given, "sheet")
            if photo is not None:
                sizes[f"content-{name}"] = Sized(photo, "given")
            if (own := given_length(given, name)) is not None:
                panel = Sized(own, "given")
            elif photo is not None:
                panel = Sized(share * (photo + PHOTO_LESS) + 2 * border.length, "auto")
            elif sheet is not None:
                panel = Sized(sheet + 2 * border.length, "auto")
            elif situation.room is not None:
                room = situation.room
                panel = Sized(room.nominal[axis] if len(room.sides) == 4 else room.clear(axis), "fill")
            else:
                panel = Sized(inches(4), "default")
            sizes[name] = panel
            exact = positive(panel.length - 2 * border.length, f"mat's {name}", "Make the border narrower.")
            sizes[f"cut-{name}"] = down_to_cut(situation, exact, panel.origin)
        sizes |= as_given(given, "sheet")
        least = min(sizes["cut-width"].length, sizes["cut-height"].length)
        sizes["frame"], sizes["edge"] = length_of(given, "frame", 0.0), length_of(given, "edge", 0.0)
        if sizes["frame"].length > 0.0 and least - 2 * sizes["frame"].length < LEAST:
            raise ParameterError(
                f"A frame of {told(sizes['frame'].length)} leaves no window in a mat of {told(least)}.", "Frame",
                f"Give {at_most((least - LEAST) / 2)}.",
            )  # fmt: skip
        sizes["corner"] = usual_length(situation, "corner", inches(1 / 4), least / 4, SHARP)
        if inner > sizes["corner"].length and "corner" not in given:
            sizes["corner"] = Sized(min(inner, least / 2), "fill")
        if sizes["shape"].value == "rounded" and 2 * sizes["corner"].length > least + 1e-6:
            raise ParameterError(
                f"Corners of {told(sizes['corner'].length)} meet on a mat of {told(least)}.", "Corners",
                give_at_most(least / 2, SHARP, "Make it square, or round."),
            )  # fmt: skip
        return sizes

    @staticmethod
    def outline(sizes: Sizes) -> tuple[Point, ...]:
        """What is cut, mm."""
        w, h, shape = sizes["cut-width"].length, sizes["cut-height"].length, sizes["shape"].value
        if shape == "round":
            steps = (2 * math.pi * k / EVEN for k in range(EVEN))
            return tuple((w / 2 * (1 + math.cos(a)), h / 2 * (1 + math.sin(a))) for a in steps)
        if shape == "rounded":
            return rounded(0.0, 0.0, w, h, sizes["corner"].length, ("bl", "br", "tr", "tl"))
        return rectangle(0, 0, w, h)

    @classmethod
    def window(cls, sizes: Sizes) -> tuple[Point, ...]:
        """The window of a frame, of the mat's own shape but with plain corners, mm; nothing where it is whole."""
        w, h, edge = (sizes[n].length for n in ("cut-width", "cut-height", "frame"))
        if not edge:
            return ()
        if sizes["shape"].value == "round":
            steps = (2 * math.pi * (k + 0.5) / ROUND for k in range(ROUND))
            return tuple((w / 2 + (w / 2 - edge) * math.cos(a), h / 2 + (h / 2 - edge) * math.sin(a)) for a in steps)
        return rectangle(edge, edge, w - edge, h - edge)

    @staticmethod
    def free(sizes: Sizes) -> tuple[float, float]:
        """A rectangle that lies on it with its corners, mm: of an oval the one of its proportions."""
        w, h, shape = sizes["cut-width"].length, sizes["cut-height"].length, sizes["shape"].value
        if shape == "round":
            return w / math.sqrt(2), h / math.sqrt(2)
        less = (2 - math.sqrt(2)) * sizes["corner"].length if shape == "rounded" else 0.0
        return w - less, h - less

    def need(self, situation: Situation, sizes: Sizes) -> Need:
        """A flat thing as thick as its sheet; it fills the panel unless its size is given."""
        settled = situation.room is not None or any(k in situation.given for k in ("width", "content-width", "sheet"))
        caliper = situation.paper.caliper
        thick = span("mat", caliper).plus(Term("bulk on the mat", situation.bulk_on("face")))
        sides: tuple[Side, ...] = ()
        if settled:
            reaches = [
                span("mat", sizes[f"cut-{n}"].length / 2, situation.element, n, 0.5) for n in ("width", "height")
            ]
            sides = box_sides((reaches[0], reaches[1], reaches[0], reaches[1]))
        return Need(
            "onto",
            uses.MAT,
            sides,
            (sizes["width"].length, sizes["height"].length) if settled else (None, None),
            caliper,
            height=thick,
            play=2 * sizes["border"].length,
        )

    def rooms(self, situation: Situation, sizes: Sizes) -> dict[str, Room]:
        """The mat's own face; what is behind its host is behind it too."""
        if sizes["frame"].length:
            return {}
        s, (w, h) = situation, self.free(sizes)
        face = face_room(w, h, s.paper.caliper, s.element, ("width", "height"), "mat")
        through = s.room.through if s.room is not None else None
        if through is not None:
            thick = through.thick.plus(Term("mat", s.paper.caliper + s.glue))
            face = replace(face, through=replace(through, thick=thick))
        return {"face": face}

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        """One rectangle."""
        w, h = sizes["cut-width"].length, sizes["cut-height"].length
        element, paper = situation.element, situation.paper
        piece = build_piece(
            f"{element}.mat",
            situation.name,
            paper,
            [Panel("mat", "frame" if sizes["frame"].length else "mat", self.outline(sizes), window=self.window(sizes))],
            note=f"Glue with {_borders(sizes)}.",
        )
        if sizes["edge"].length:
            piece = replace(piece, edge=sizes["edge"].length)
        border, upright = 2 * sizes["border"].length, 2 * sizes["border-up"].length
        edge = Term("decorative edge", 2 * sizes["edge"].length)
        gaps = [
            sheet_gap(
                element,
                situation.name,
                paper,
                piece.blank,
                (
                    (
                        lever_term("panel width", sizes["width"].length, element, "width"),
                        Term("borders", -border),
                        edge,
                    ),
                    (
                        lever_term("panel height", sizes["height"].length, element, "height"),
                        Term("borders", -upright),
                        edge,
                    ),
                ),
            )
        ]
        fw, fh = self.free(sizes)
        for name, cut in (("width", fw), ("height", fh)):
            if f"content-{name}" in sizes:
                left = span("mat", cut, element, name) - span("photo", sizes[f"content-{name}"].length)
                gaps.append(Gap(uses.MAT, element, element, ("photo", f"{situation.name}, {name}"), left))
        mount = Mount(
            "face", "on the mat", "mat", "mat", 1, (w / 2, h / 2), (0.0, 1.0), centred(fw, fh), paper.caliper / 2
        )
        return Part(
            element,
            situation.name,
            (piece,),
            (Instance("mat", piece.id, Root("mat", (w / 2, h / 2))),),
            (mount,) if rooms else (),
            gaps=tuple(gaps),
            joints=(Joint(("mat", "mat"), HOST, by=TAPED),) if paper.kind == "film" else (),
        )


def _borders(sizes: Sizes) -> str:
    """Its borders in words."""
    side, upright = sizes["border"].length, sizes["border-up"].length
    if abs(side - upright) < 0.01:
        return f"an even border of {told(side)}"
    return f"borders of {told(side)} at the sides, {told(upright)} at head and foot"


FAMILY = Mat()
