"""Card stand: a strip glued at both ends straight on a floor; its fin stands up and holds a card. It goes in on the
diagonal where only that takes it."""

from __future__ import annotations

import math
from collections.abc import Mapping

from yawning_lantern.assembly import (
    HOST,
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
from yawning_lantern.measure import inches, told
from yawning_lantern.pattern import Fold, Piece, ScoreFlag, build_piece
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes, Start
from yawning_lantern.structures.kit.lying import TAB, face_mount, fit_gap, row
from yawning_lantern.structures.kit.shell import lever_term
from yawning_lantern.structures.kit.solving import face_room, length_of, sheet_gap, word_of

PANEL, WIDE = inches(3 / 4), inches(4)
"""Each of the four panels, and the strip across: 4 × 4 scored at 1/2, 1 1/4, 2, 2 3/4, 3 1/2. Common practice, no
source."""
FREE = inches(1 / 16)
"""What is left beside it in all, mm. Common practice, no source."""
_DIAGONAL = math.sqrt(0.5)
_NAMES = ("tab-near", "carry-near", "fin-front", "fin-back", "carry-far", "tab-far")


class CardStand:
    """Two panels carry, two are glued to a fin; tabs lie outward, where a finger presses them."""

    id = "card-stand"
    name = "Card stand"
    about = "A strip glued at both ends on a floor or face; its fin stands and holds a card or photo."
    shelf = "Pop-ups"
    relation: Relation = "inside"
    headline = ("width", "panel")
    starts: tuple[Start, ...] = ("size",)
    faces = (("holder", "fin, front"),)
    parameters = (
        Parameter("width", "Width", "length", "Along the fin.", "Stand", 10.0),
        Parameter("panel", "Panel", "length", "Each of the four panels, score to score.", "Stand", 6.0, scored=True),
        Parameter("foot", "Foot", "length", "From its middle to where an end is glued.", "Stand", 3.0),
        Parameter("tab", "Tab", "length", "Glued down at each end.", "Stand", 4.0, scored=True),
        Parameter("lies", "Lies", "word", "Straight or on the diagonal; as the room asks where nothing is said.",
                  "Stand", words=("straight", "diagonal")),
        Parameter("card-thick", "Card in the fin", "length", "What is glued in between its panels; 0 for none.",
                  "Stand", 0.0, 5.0, default=0.0),
        Parameter("stands", "Stands", "length", "Height of the fin's head.", "Stand", derived=True),
    )  # fmt: skip

    def size(self, situation: Situation) -> dict[str, Sized]:
        """Strip and feet. Raises ParameterError where its ends are too far apart, or no way takes it."""
        s, given = situation, situation.given
        sizes = {
            "panel": length_of(given, "panel", PANEL),
            "tab": length_of(given, "tab", TAB),
            "card-thick": length_of(given, "card-thick", 0.0),
        }
        panel = sizes["panel"].length
        sizes["foot"] = length_of(given, "foot", panel / 2, "auto")
        if sizes["foot"].length >= panel - 0.5:
            raise ParameterError(
                f"Ends {told(sizes['foot'].length)} from the middle leave panels of {told(panel)} no height.", "Foot",
                f"Give at most {told(panel - 1.0)}.",
            )  # fmt: skip
        deep = 2 * (sizes["foot"].length + sizes["tab"].length)
        straight, slanted = self._room(s, deep)
        wide = length_of(
            given, "width", min(WIDE, max(straight, slanted) - FREE), "default" if s.room is None else "fill"
        )
        usual = "straight" if wide.length <= straight or slanted <= straight else "diagonal"
        sizes["width"], sizes["lies"] = wide, word_of(given, "lies", usual)
        if wide.length < 10.0:
            raise ParameterError(
                f"The room leaves {told(max(0.0, wide.length))} for a stand {told(deep)} deep.", "Width",
                "Put it where there is more room, or take smaller panels and tabs.",
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
        return math.acos(sizes["foot"].length / sizes["panel"].length)

    def _rise(self, s: Situation, sizes: Sizes) -> float:
        """From the face to the fin's head, mm."""
        t, panel = s.paper.caliper, sizes["panel"].length
        around = (t + sizes["card-thick"].length) / 2
        return panel * math.sin(self._slope(sizes)) + panel + t / 2 + around * (1 - math.pi / 2) + t / 2

    def need(self, situation: Situation, sizes: Sizes) -> Need:
        """What it takes of the floor, straight or on the diagonal, and how high it stands."""
        s, e, t = situation, situation.element, situation.paper.caliper
        deep = sizes["foot"].length + sizes["tab"].length + sizes["card-thick"].length / 2 + t
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
        height = span("stand", self._rise(s, sizes))
        return Need("inside", uses.PLACE, sides, (None, None), t, height=height, play=FREE)

    def rooms(self, situation: Situation, sizes: Sizes) -> dict[str, Room]:
        """The fin's front."""
        s = situation
        w, panel = sizes["width"].length, sizes["panel"].length
        return {"holder": face_room(w, panel, s.paper.caliper, s.element, ("width", "panel"), "fin")}

    def _piece(self, s: Situation, sizes: Sizes) -> Piece:
        panel, tab, w = (sizes[n].length for n in ("panel", "tab", "width"))
        slope = self._slope(sizes)
        lengths = (tab, panel, panel, panel, panel, tab)
        labels = ("tab", "carries", "fin, front", "fin, back", "carries", "tab")
        panels = row(list(zip(_NAMES, labels, lengths, strict=True)), 0.0, w)
        angles = (slope, math.pi / 2 - slope, -math.pi, math.pi / 2 - slope, slope)
        thick = sizes["card-thick"].length
        folds = [
            Fold(a, b, angle, wrap=thick if angle < 0 else 0.0)
            for a, b, angle in zip(_NAMES, _NAMES[1:], angles, strict=False)
        ]
        flags = (ScoreFlag("x", tab, "tab", 1.0), ScoreFlag("x", tab + panel, "panel", 1.0))
        return build_piece(f"{s.element}.strip", s.name, s.paper, panels, folds, flags=flags,
                           note="Glue the fin first; then the tabs, outward.")  # fmt: skip

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        """The strip on its near tab."""
        s, e, t = situation, situation.element, situation.paper.caliper
        panel, tab, w, foot = (sizes[n].length for n in ("panel", "tab", "width", "foot"))
        piece = self._piece(s, sizes)
        # the fin stands in the middle: its near tab ends a foot before that, bends and what is held taken off
        middle = tab + foot + (t + sizes["card-thick"].length) / 2 - self._drawn_in(s, sizes)
        up = (1.0, 0.0) if sizes["lies"].value == "straight" else (_DIAGONAL, _DIAGONAL)
        instance = Instance("strip", piece.id, Root("tab-near", (middle, w / 2), up))
        joints = (
            Joint(("strip", "fin-back"), ("strip", "fin-front"), act="fin", label="panel on panel"),
            Joint(("strip", "tab-near"), HOST, act="tabs"),
            Joint(("strip", "tab-far"), HOST, act="tabs"),
        )  # fmt: skip
        mount = face_mount("holder", "fin, front", "strip", piece.panel("fin-front"), 1, t, (1.0, 0.0))
        across = (lever_term("two tabs", 2 * tab, e, "tab", 2.0), lever_term("four panels", 4 * panel, e, "panel", 4.0))
        left = span("panel", panel, e, "panel") - span("foot", foot, e, "foot")
        gaps = (
            sheet_gap(e, piece.name, s.paper, piece.size, (across, span("width", w, e, "width").terms)),
            fit_gap(s, uses.STEP, (f"{s.name}, panels", "feet apart"), left),
            fit_gap(s, uses.GLUE, (f"{s.name}, tab", "glue"), span("tab", tab, e, "tab")),
        )
        return Part(e, s.name, (piece,), (instance,), (mount,), gaps=gaps, joints=joints)

    def _drawn_in(self, s: Situation, sizes: Sizes) -> float:
        """How much nearer to the fin a tab's score comes because of the bends, mm."""
        radius, slope = s.paper.caliper / 2, self._slope(sizes)
        first = radius * (slope - 2 * math.tan(slope / 2)) if slope else 0.0
        second = radius * ((math.pi / 2 - slope) - 2 * math.tan((math.pi / 2 - slope) / 2))
        return -(first + second) * math.cos(slope) / 2


FAMILY = CardStand()
