"""Card stand: a strip glued at both ends straight on a floor. It stands as a fin that holds a card, as a ridge, or as a
step on which something stands; and goes in on the diagonal where only that takes it."""

from __future__ import annotations

import math
from collections.abc import Mapping
from itertools import pairwise

from yawning_lantern.assembly import (
    HOST,
    Gap,
    Instance,
    Joint,
    Need,
    Part,
    Relation,
    Room,
    Root,
    Term,
    box_sides,
    span,
    uses,
)
from yawning_lantern.errors import ParameterError
from yawning_lantern.measure import at_most, inches, snap, told
from yawning_lantern.pattern import Fold, Piece, ScoreFlag, build_piece
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes, Start, fact
from yawning_lantern.structures.kit.lying import TAB, face_mount, fit_gap, row
from yawning_lantern.structures.kit.shell import FOLD_SHIFT, lever_term
from yawning_lantern.structures.kit.solving import face_room, length_of, sheet_gap, word_of

PANEL, WIDE = inches(3 / 4), inches(4)
"""Each of the four panels, and the strip across: 4 × 4 scored at 1/2, 1 1/4, 2, 2 3/4, 3 1/2. Common practice, no
source."""
FREE = inches(1 / 16)
"""What is left beside it in all, mm. Common practice, no source."""
_DIAGONAL = math.sqrt(0.5)  # half the diagonal of a square of one
Shape = tuple[tuple[tuple[str, str, float], ...], tuple[float, ...]]
"""Panels from the near tab to the far one (name, label, length in mm), and the angles between them, radians."""


class CardStand:
    """Of a fin two panels carry and two are glued on one another; tabs lie outward, where a finger presses them."""

    id = "card-stand"
    name = "Card stand"
    about = (
        "A strip glued at both ends on a floor or face, standing there: a fin that holds a card, a ridge, or a step."
    )
    shelf = "Pop-ups"
    relation: Relation = "inside"
    headline = ("width", "panel")
    starts: tuple[Start, ...] = ("size",)
    faces = (("holder", "fin, front"), ("slope", "ridge, front"), ("top", "step, top"))
    parameters = (
        Parameter("form", "Form", "word", "A fin that holds a card, a ridge, or a step with a level top.", "Stand",
                  words=("fin", "ridge", "step"), default="fin"),
        Parameter("width", "Width", "length", "Along its scores.", "Stand", 10.0),
        Parameter("panel", "Panel", "length", "Score to score; of a step how high it is.", "Stand", 6.0, scored=True),
        Parameter("foot", "Foot", "length", "From its middle to where an end is glued; half a step's top.", "Stand",
                  3.0),
        Parameter("tab", "Tab", "length", "Glued down at each end.", "Stand", 4.0, scored=True),
        Parameter("lies", "Lies", "word", "Straight or on the diagonal; as the room asks where nothing is said.",
                  "Stand", words=("straight", "diagonal")),
        fact("card-thick", "Card in the fin", "What is glued in between its panels; 0 for none.", "Stand", 0.0, 5.0,
             default=0.0),
        Parameter("stands", "Stands", "length", "Height of the fin's head.", "Stand", derived=True),
    )  # fmt: skip

    def size(self, situation: Situation) -> dict[str, Sized]:
        """Strip and feet. Raises ParameterError where its ends are too far apart, or no way takes it."""
        s, given = situation, situation.given
        sizes = {
            "form": word_of(given, "form", "fin"),
            "panel": length_of(given, "panel", PANEL),
            "tab": length_of(given, "tab", TAB),
            "card-thick": length_of(given, "card-thick", 0.0),
        }
        panel = sizes["panel"].length
        sizes["foot"] = length_of(given, "foot", panel / 2, "auto")
        if sizes["form"].value != "step" and sizes["foot"].length >= panel - 0.5:
            raise ParameterError(
                f"Ends {told(sizes['foot'].length)} from the middle leave panels of {told(panel)} no height.", "Foot",
                f"Give {at_most(panel - 1.0)}.",
            )  # fmt: skip
        deep = 2 * (sizes["foot"].length + sizes["tab"].length)
        straight, slanted = self._room(s, deep)
        most = snap(max(straight, slanted) - FREE, s.cut.grid, "down").value
        wide = length_of(given, "width", min(WIDE, most), "default" if s.room is None else "fill")
        usual = "straight" if wide.length <= straight or slanted <= straight else "diagonal"
        sizes["width"], sizes["lies"] = wide, word_of(given, "lies", usual)
        if wide.length < 10.0:
            raise ParameterError(
                f"The room leaves {told(max(0.0, wide.length))} for a stand {told(deep)} deep.", "Width",
                "Take smaller panels and tabs.",
            )  # fmt: skip
        sizes["stands"] = Sized(self._rise(s, sizes), "auto")
        return sizes

    @staticmethod
    def _room(s: Situation, deep: float) -> tuple[float, float]:
        """How wide a stand so deep may be, straight and on the diagonal, mm."""
        if s.room is None:
            return 1000.0, 0.0
        across, along = s.room.clear(0), s.room.clear(1)
        straight = across if deep <= along else 0.0
        return straight, min(across, along) / _DIAGONAL - deep

    @staticmethod
    def _slope(sizes: Sizes) -> float:
        """How steeply the panels that carry stand, radians."""
        if sizes["form"].value == "step":
            return math.pi / 2
        return math.acos(sizes["foot"].length / sizes["panel"].length)

    def _shape(self, sizes: Sizes) -> Shape:
        panel, tab, foot = (sizes[n].length for n in ("panel", "tab", "foot"))
        slope, up = self._slope(sizes), math.pi / 2
        near, far = ("tab-near", "tab", tab), ("tab-far", "tab", tab)
        carry = (("carry-near", "carries", panel), ("carry-far", "carries", panel))
        if sizes["form"].value == "ridge":
            return (near, *carry, far), (slope, -2 * slope, slope)
        if sizes["form"].value == "step":
            return (near, carry[0], ("top", "top", 2 * foot), carry[1], far), (up, -up, -up, up)
        fin = (("fin-front", "fin, front", panel), ("fin-back", "fin, back", panel))
        return (near, carry[0], *fin, carry[1], far), (slope, up - slope, -math.pi, up - slope, slope)

    def _rise(self, s: Situation, sizes: Sizes) -> float:
        """From the face to its head, mm."""
        t, panel, slope = s.paper.caliper, sizes["panel"].length, self._slope(sizes)
        if sizes["form"].value == "fin":
            around = (t + sizes["card-thick"].length) / 2
            return panel * math.sin(slope) + panel + t / 2 + around * (1 - math.pi / 2) + t / 2
        return panel * math.sin(slope) + t + (2 * FOLD_SHIFT * t if sizes["form"].value == "step" else 0.0)

    def need(self, situation: Situation, sizes: Sizes) -> Need:
        """What it takes of the floor, straight or on the diagonal, and how high it stands."""
        s, e, t = situation, situation.element, situation.paper.caliper
        deep = sizes["foot"].length + sizes["tab"].length + sizes["card-thick"].length / 2 + t
        deep = max(deep, sizes["card-thick"].length / 2 + 2 * t + s.bulk_on("holder"))  # what stands before the fin
        across = span("stand", sizes["width"].length / 2, e, "width", 0.5)
        along = span("foot", sizes["foot"].length, e, "foot").plus(
            lever_term("tab", sizes["tab"].length, e, "tab"),
            Term("bends", deep - sizes["foot"].length - sizes["tab"].length),
        )
        if sizes["lies"].value == "diagonal":
            across = along = span(
                "stand on the diagonal", sizes["width"].length / 2 * _DIAGONAL, e, "width", _DIAGONAL / 2
            ).plus(Term("its depth", deep * _DIAGONAL))
        settled = s.room is not None or sizes["width"].origin == "given"
        sides = box_sides((across, along, across, along)) if settled else ()
        height = span("stand", self._rise(s, sizes)).plus(Term("bulk on top", s.bulk_on("top")))
        return Need("inside", uses.PLACE, sides, (None, None), t, height=height, play=FREE)

    def rooms(self, situation: Situation, sizes: Sizes) -> dict[str, Room]:
        """The fin's front, the near slope of a ridge, the top of a step."""
        s = situation
        name, long, lever = {
            "fin": ("holder", sizes["panel"].length, "panel"),
            "ridge": ("slope", sizes["panel"].length, "panel"),
            "step": ("top", 2 * sizes["foot"].length, "foot"),
        }[str(sizes["form"].value)]
        return {name: face_room(sizes["width"].length, long, s.paper.caliper, s.element, ("width", lever), name)}

    def _piece(self, s: Situation, sizes: Sizes) -> Piece:
        panel, tab, w = (sizes[n].length for n in ("panel", "tab", "width"))
        parts, angles = self._shape(sizes)
        folds = [
            Fold(a[0], b[0], angle, wrap=sizes["card-thick"].length if angle < -3.0 else 0.0)
            for (a, b), angle in zip(pairwise(parts), angles, strict=True)
        ]
        flags = (ScoreFlag("x", tab, "tab", 1.0), ScoreFlag("x", tab + panel, "panel", 1.0))
        note = "Glue the fin first; then the tabs, outward." if sizes["form"].value == "fin" else "Tabs go outward."
        return build_piece(f"{s.element}.strip", s.name, s.paper, row(parts, 0.0, w), folds, flags=flags, note=note)

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        """The strip on its near tab."""
        s, e, t = situation, situation.element, situation.paper.caliper
        panel, tab, w, foot = (sizes[n].length for n in ("panel", "tab", "width", "foot"))
        piece = self._piece(s, sizes)
        # the fin stands in the middle: its near tab ends a foot before that, and what is held
        held = (t + sizes["card-thick"].length) / 2 if sizes["form"].value == "fin" else 0.0
        middle = tab + foot + held
        up = (1.0, 0.0) if sizes["lies"].value == "straight" else (_DIAGONAL, _DIAGONAL)
        instance = Instance("strip", piece.id, Root("tab-near", (middle, w / 2), up))
        joints = [Joint(("strip", name), HOST, act="tabs") for name in ("tab-near", "tab-far")]
        if sizes["form"].value == "fin":
            joints.insert(0, Joint(("strip", "fin-back"), ("strip", "fin-front"), act="fin", label="panel on panel"))
        face = {"fin": ("holder", "fin-front"), "ridge": ("slope", "carry-near"), "step": ("top", "top")}[
            str(sizes["form"].value)
        ]
        label = dict(self.faces)[face[0]]
        mount = face_mount(face[0], label, "strip", piece.panel(face[1]), 1, t, (1.0, 0.0))
        many = sum(name.startswith(("carry", "fin")) for name, _, _ in self._shape(sizes)[0])
        across = (
            lever_term("two tabs", 2 * tab, e, "tab", 2.0), lever_term("panels", many * panel, e, "panel", float(many)),
            *((lever_term("top", 2 * foot, e, "foot", 2.0),) if face[0] == "top" else ()),
        )  # fmt: skip
        gaps = (
            sheet_gap(e, piece.name, s.paper, piece.size, (across, span("width", w, e, "width").terms)),
            *(() if face[0] == "top" else (self._leans(s, panel, foot),)),
            fit_gap(s, uses.GLUE, (f"{s.name}, tab", "glue"), span("tab", tab, e, "tab")),
        )
        return Part(e, s.name, (piece,), (instance,), (mount,), gaps=gaps, joints=tuple(joints))

    @staticmethod
    def _leans(s: Situation, panel: float, foot: float) -> Gap:
        """Whether panels are longer than their feet are apart: else they lie flat. A step's stand upright."""
        left = span("panel", panel, s.element, "panel").plus(lever_term("foot", -foot, s.element, "foot", -1.0))
        return fit_gap(s, uses.SPARE, (f"{s.name}, panels", "feet apart"), left)


FAMILY = CardStand()
