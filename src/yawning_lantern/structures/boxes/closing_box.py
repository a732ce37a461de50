"""Closing box: one sheet, four walls and a seam tab one way; bottom flaps, lid and tuck the other. It shuts itself."""

from __future__ import annotations

import math
from collections.abc import Mapping

from msgspec.structs import replace

from yawning_lantern.assembly import (
    Gap,
    Instance,
    Joint,
    Mount,
    Need,
    Part,
    Pocket,
    Room,
    Root,
    Swing,
    Term,
    span,
    uses,
)
from yawning_lantern.assembly.room import SIDE_NAMES, box_sides
from yawning_lantern.assembly.uses import use_of
from yawning_lantern.errors import ParameterError
from yawning_lantern.measure import give_at_most, inches, snap, told
from yawning_lantern.pattern import Fold, Panel, Piece, ScoreFlag, build_piece, rectangle
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes
from yawning_lantern.structures.kit.lying import TAB, face_mount, fit_gap, usual_length
from yawning_lantern.structures.kit.open_box import OpenBox
from yawning_lantern.structures.kit.shell import FOLD_SHIFT, MITRE, inner_reach, lever_term
from yawning_lantern.structures.kit.solving import (
    CONTENT_PARAMETERS,
    contents_gaps,
    contents_of,
    face_room,
    length_of,
    sheet_gap,
)

GRIP = inches(1 / 64)
"""The tuck is wider than the opening by this, so that it holds: it is shaved until it does. Common practice, no
source."""
LEAST = 4.0
"""A tab and a tuck of less are none that can be folded and glued, mm. From memory."""
TUCK = inches(1 / 2)
"""How far the tuck goes in, mm. Common practice, no source."""
HOLDS = use_of("tuck", "Tuck holds the lid", (-1 / 64, -1 / 128, 0.0), {"grip": (-1 / 32, -1 / 256)}, drawn=False)
"""What is left beside the tuck: less than nothing, by a hair."""
ROUND = ("back", "left", "front", "right")
"""The walls in the order they stand beside one another on the sheet, seen from outside."""


class ClosingBox(OpenBox):
    """Walls follow one another around; the square flap under the back wall is the floor and is glued last."""

    id = "closing-box"
    name = "Closing box"
    about = "A box from one sheet that shuts itself: four walls round, flaps for a bottom, a lid that tucks in."
    shelf = "Boxes"
    takers = ("back",)
    usual = (inches(2.5), inches(2), inches(3))
    starts = ("size", "contents")
    faces = (
        ("floor", "floor, inside"),
        ("lid", "lid, outside"),
        *((f"{side}-outside", f"{side} wall, outside") for side in SIDE_NAMES),
    )
    parameters = (
        Parameter("width", "Width", "length", "Score to score, left to right.", least=15.0),
        Parameter("depth", "Depth", "length", "Score to score, front to back.", least=15.0),
        Parameter("height", "Height", "length", "Score to score, foot to lid.", least=15.0, scored=True),
        Parameter("tab", "Seam tab", "length", "Glued inside the back wall.", "Flaps", LEAST, default=TAB),
        Parameter("tuck", "Tuck", "length", "How far the lid goes in at the front.", "Flaps", LEAST, default=TUCK),
        Parameter("grip", "Grip", "length", "How much wider the tuck is than the opening; shave it until it holds.",
                  "Flaps", 0.0, 2.0, default=GRIP),
        *CONTENT_PARAMETERS,
    )  # fmt: skip

    def size(self, situation: Situation) -> dict[str, Sized]:
        """Walls and flaps. Raises ParameterError where a flap reaches over the far wall."""
        s = situation
        sizes = super().size(s)
        w, d, h = (sizes[n].length for n in ("width", "depth", "height"))
        for name, label, usual, most, what in (
            ("tab", "Seam tab", TAB, w / 2, "half the back wall"), ("tuck", "Tuck", TUCK, h - 3.0, "the front wall"),
        ):  # fmt: skip
            sizes[name] = usual_length(s, name, usual, most / 2, scored=True)
            if sizes[name].length > most:
                raise ParameterError(
                    f"{told(sizes[name].length)} is more than {what}, {told(most)}.",
                    label,
                    give_at_most(most, LEAST, "Make the box larger."),
                )
        sizes["grip"] = length_of(s.given, "grip", GRIP)
        if min(w, d, h) < 15.0:
            raise ParameterError(f"A wall of {told(min(w, d, h))} cannot be folded round.", s.name, "Make it larger.")
        return sizes

    @staticmethod
    def _lid(s: Situation) -> float:
        """How much higher it stands shut than its walls, mm: half the lid's sheet and its folds."""
        return (0.5 + 2 * FOLD_SHIFT) * s.paper.caliper

    def _rise(self, s: Situation) -> float:
        return super()._rise(s) + self._lid(s)

    def _layers(self, s: Situation) -> float:
        """What floor, flaps and lid take of the height inside, mm."""
        t = s.paper.caliper
        return 2 * (t + s.glue) + t + t  # two flaps on the floor; half of floor and of lid; a dust flap under the lid

    def _bulk_inside(self, s: Situation, axis: int) -> float:
        """The seam tab at the back and the tuck at the front."""
        return s.paper.caliper + s.glue + self._less(s) if axis else 0.0

    def need(self, situation: Situation, sizes: Sizes) -> Need:
        """Its outside, what is on its lid included."""
        s = situation
        need = super().need(s, sizes)
        if need.height is None:
            return need
        lid = Term("lid and its folds", self._lid(s))
        return replace(need, height=need.height.plus(lid, Term("bulk on the lid", s.bulk_on("lid"))), wall=None)

    def rooms(self, situation: Situation, sizes: Sizes) -> dict[str, Room]:
        """Floor, lid, and the outside of each wall."""
        s, e, t = situation, situation.element, situation.paper.caliper
        w, d, h = (sizes[n].length for n in ("width", "depth", "height"))
        inside = {"right": 0.0, "back": t + s.glue, "left": 0.0, "front": self._less(s)}
        reaches = box_sides(
            inner_reach(e, "box", sizes[n].length, n, t, inside[side])
            for side, n in zip(SIDE_NAMES, ("width", "depth", "width", "depth"), strict=True)
        )
        clear = span("wall", h, e, "height").plus(Term("floor, flaps and lid", -self._layers(s)))
        rooms = {
            "floor": Room("inside", uses.TRAY, reaches, (w, d), t, max(inside.values()), clear, wall=h),
            "lid": face_room(w - t, d - self._less(s), t, e, ("width", "depth"), "lid"),
        }
        for side, name in zip(SIDE_NAMES, ("depth", "width", "depth", "width"), strict=True):
            rooms[f"{side}-outside"] = face_room(sizes[name].length, h - t, t, e, (name, "height"), f"{side} wall")
        return rooms

    def _panels(self, s: Situation, sizes: Sizes) -> list[Panel]:
        w, d, h, tab, tuck, grip = (sizes[n].length for n in ("width", "depth", "height", "tab", "tuck", "grip"))
        t, m, less = s.paper.caliper, MITRE, self._less(s)
        wide = {"back": w, "left": d, "front": w, "right": d}
        panels, x = [], 0.0
        for name in ROUND:
            top = h if name != "front" else h - t
            panels.append(Panel(name, f"{name} wall", rectangle(x, 0.0, x + wide[name], top)))
            if name == "back":
                panels.append(Panel("base", "square flap", rectangle(x + t, self._short(s) - d, x + w - t, 0.0)))
                panels.append(Panel("lid", "lid", rectangle(x + t / 2, h, x + w - t / 2, h + d - less)))
                under = max(0.0, t - grip) / 2  # the tuck is that much narrower than the wall, on either side
                x0, x1, y0 = x + under, x + w - under, h + d - less
                bevel = min(tuck / 2, w / 8)
                panels.append(
                    Panel("tuck", "tuck", ((x0, y0), (x1, y0), (x1 - bevel, y0 + tuck), (x0 + bevel, y0 + tuck)), True)
                )
            else:
                drawn = max(m, 2 * (t + s.glue))  # the two of the sides do not meet where both are drawn in
                deep = d / 2 if name == "front" else min(w / 2 - drawn, d * 0.6)
                panels.append(self._flap(f"foot-{name}", "bottom flap", x + m, x + wide[name] - m, 0.0, -deep))
            if name in ("left", "right"):
                high = min(w / 2 - m, d * 0.6, h)
                inset = m + 2 * t
                panels.append(self._flap(f"dust-{name}", "dust flap", x + inset, x + wide[name] - inset, h, h + high))
            x += wide[name]
        bevel = min(m, h / 6)
        panels.append(
            Panel("tab", "seam tab", ((x, bevel), (x + tab, 2 * bevel), (x + tab, h - 2 * bevel), (x, h - bevel)))
        )
        return panels

    @staticmethod
    def _less(s: Situation) -> float:
        """How much shorter the lid is than the depth, so that it goes in: two sheets, on the trimmer's grid, mm."""
        return snap(2 * s.paper.caliper, s.cut.grid, "up").value

    @staticmethod
    def _short(s: Situation) -> float:
        """How much shorter the square flap is than the depth, on the board's grooves: scores are read from its edge."""
        return snap(2 * s.paper.caliper, s.score.grid, "up").value

    @staticmethod
    def _flap(name: str, label: str, x0: float, x1: float, foot: float, end: float) -> Panel:
        """A flap tapered by its mitre, so that it goes in easily; counter-clockwise whichever way it goes."""
        m = min(MITRE, (x1 - x0) / 6)
        ring = ((x0, foot), (x1, foot), (x1 - m, end), (x0 + m, end))
        return Panel(name, label, ring if end > foot else tuple(reversed(ring)))

    def _piece(self, s: Situation, sizes: Sizes) -> Piece:
        w, d = sizes["width"].length, sizes["depth"].length
        t, q = s.paper.caliper, -math.pi / 2
        step = t + s.glue
        folds = [
            Fold("back", "base", q), Fold("back", "lid", q), Fold("lid", "tuck", q),
            Fold("back", "left", q), Fold("left", "front", q), Fold("front", "right", q),
            Fold("right", "tab", q, settle=step),
            Fold("front", "foot-front", q, settle=step),
            *(Fold(side, f"foot-{side}", q, settle=2 * step) for side in ("left", "right")),
            *(Fold(side, f"dust-{side}", q, settle=t) for side in ("left", "right")),
        ]  # fmt: skip
        return build_piece(
            f"{s.element}.box", s.name, s.paper, self._panels(s, sizes), folds,
            flags=(ScoreFlag("x", w, "width", 1.0), ScoreFlag("x", w + d, "depth", 1.0)),
            note="Glue the seam, then the bottom: side flaps in, the front flap on them, the square flap last.",
        )  # fmt: skip

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        """The box on its square flap."""
        s, e, t = situation, situation.element, situation.paper.caliper
        w, d, h = (sizes[n].length for n in ("width", "depth", "height"))
        piece = self._piece(s, sizes)
        high = t / 2 + 2 * (t + s.glue)
        middle, up = (w / 2, -d / 2), (0.0, 1.0)
        floor = rectangle(t - w / 2, self._short(s) - d / 2, w / 2 - t, d / 2)
        over = tuple(("box", f"foot-{side}") for side in ("front", "left", "right"))
        mounts = [
            Mount("floor", "floor, inside", "box", "base", -1, middle, up, floor, high, holds=True, over=over),
            face_mount("lid", "lid, outside", "box", piece.panel("lid"), 1, t, (0.0, -1.0)),
            *(
                face_mount(f"{side}-outside", f"{side} wall, outside", "box", piece.panel(side), 1, t)
                for side in SIDE_NAMES
            ),
        ]
        swings = [
            Swing("lid", f"{s.name}, lid opens", (("box", "back/lid", math.pi / 6), ("box", "lid/tuck", -math.pi / 8))),
            *(
                Swing(
                    f"dust-{side}", f"{s.name}, {side} dust flap opens", (("box", f"{side}/dust-{side}", math.pi / 6),)
                )
                for side in ("right", "left")
            ),
        ]
        joints = [
            Joint(("box", "tab"), ("box", "back"), act="close the seam", seam=True),
            *(
                Joint(("box", "foot-front"), ("box", f"foot-{side}"), act="front flap on the side flaps")
                for side in ("left", "right")
            ),
            Joint(("box", "base"), ("box", "foot-front"), act="the square flap over all"),
        ]
        return Part(
            e, s.name, (piece,), (Instance("box", piece.id, Root("base", middle, up, 1)),), tuple(mounts),
            tuple(swings), tuple(self._gaps(s, sizes, rooms, piece)),
            (Pocket("box", ("base",), "up", w - t, h - self._layers(s)),), contents_of(sizes), joints=tuple(joints),
            shaves="the tuck" if sizes["grip"].length > 0 else "",
        )  # fmt: skip

    def _gaps(self, s: Situation, sizes: Sizes, rooms: Mapping[str, Room], piece: Piece) -> list[Gap]:
        e = s.element
        w, d, h, tab, tuck, grip = (sizes[n].length for n in ("width", "depth", "height", "tab", "tuck", "grip"))
        across = (
            lever_term("front and back", 2 * w, e, "width", 2.0), lever_term("sides", 2 * d, e, "depth", 2.0),
            lever_term("seam tab", tab, e, "tab"),
        )  # fmt: skip
        along = (
            lever_term("square flap and lid", 2 * d, e, "depth", 2.0), lever_term("wall", h, e, "height"),
            lever_term("tuck", tuck, e, "tuck"), Term("so that both go in", -self._less(s) - self._short(s)),
        )  # fmt: skip
        return [
            sheet_gap(e, s.name, s.paper, piece.size, (across, along)),
            *contents_gaps(e, s.name, sizes, rooms["floor"]),
            fit_gap(s, HOLDS, (f"{s.name}, tuck", "opening"), span("grip", -grip, e, "grip", -1.0)),
            fit_gap(s, uses.GLUE, (f"{s.name}, seam tab", "glue"), span("tab", tab, e, "tab")),
        ]


FAMILY = ClosingBox()
