"""Casing: a long tray with hollow walls in which boxes stand in a row, a little proud, so that they lift out."""

from __future__ import annotations

import math
from collections.abc import Mapping
from itertools import pairwise

from yawning_lantern.assembly import (
    Attach,
    Gap,
    Hint,
    Instance,
    Joint,
    Mount,
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
from yawning_lantern.assembly.uses import use_of
from yawning_lantern.errors import ParameterError
from yawning_lantern.measure import at_most, inches, snap, told
from yawning_lantern.pattern import Fold, Panel, Piece, ScoreFlag, build_piece, rectangle
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes, Start
from yawning_lantern.structures.kit.lying import ABOVE, count_of, face_mount, fit_gap
from yawning_lantern.structures.kit.shell import FOLD_SHIFT, lever_term
from yawning_lantern.structures.kit.solving import (
    centred,
    down_to_cut,
    face_room,
    given_length,
    length_of,
    sheet_gap,
    up_to_cut,
)

MOST = 8  # boxes at most
PLAY = inches(1 / 8)
"""Room in all along the row. Common practice, no source."""
EACH = inches(1 / 32)
"""And so much for each box at the least: more than four ask for more. From memory."""
ACROSS = inches(1 / 16)
"""Room in all across it: a row needs it too. Common practice, no source."""
WALL = inches(1 / 2)
"""How thick a hollow wall is, mm. Common practice, no source."""
EAR = inches(1)
"""How far an end's ears go into the long walls beyond the end itself, where a finger gets at them, mm. From memory."""
APART = 20.0
"""How much higher each box of a row is drawn than the one before it, mm. From memory."""
PROUD = 1.0
"""How far boxes stand above the walls, mm. Common practice, no source."""
BOX = inches(2)  # mm: the side of a box of which nothing is told
LEAST = 12.0
"""A smaller box is none, mm."""
UNDER = inches(1 / 16)
"""How much shorter the floor is than the tray in all, so that it does not show, mm. Common practice, no source."""
ROW = use_of(
    "row", "Boxes in their casing", (1 / 64, 1 / 32, 3 / 16), {"easy": (1 / 32, 1 / 4)}, drawn=False, fills=True
)
"""What is left along a row of boxes, and across it."""
LIFT = use_of(
    "proud", "Boxes stand proud", (1 / 64, 1 / 32, 3 / 16), {"easy": (1 / 64, 1 / 4)}, drawn=False, fills=True
)
"""How far boxes stand above the walls: less, and no finger gets hold of them."""
EARS = use_of("ears", "Ears in the long walls", (1 / 64, 1 / 32, 1), {"easy": (1 / 64, 1)}, drawn=False, fills=True)
"""What is left over and under an ear in the tube that it goes into."""
_ROUND = ("tab", "inner", "top", "outer", "bottom")
SIDES = ("front", "back", "left", "right")


class Casing:
    """Long walls are tubes over the whole length; the ends stand between them, their outer panels close the tubes."""

    id = "casing"
    name = "Casing"
    about = "A long tray with hollow walls for a row of boxes, which stand a little proud of it."
    shelf = "Boxes"
    relation: Relation = "inside"
    headline = ("boxes", "box-width", "box-depth", "box-height")
    starts: tuple[Start, ...] = ("size",)
    faces = (
        *((f"place-{k}", f"place {k}") for k in range(1, MOST + 1)),
        *((f"{side}-outside", f"{side} wall, outside") for side in SIDES),
    )
    parameters = (
        Parameter("boxes", "Boxes", "count", "How many stand in the row.", "Size", 1, MOST, default=4),
        Parameter("box-width", "Box, width", "length", "Outside, along the row.", "Size", 15.0, default=BOX),
        Parameter("box-depth", "Box, depth", "length", "Outside, across the row.", "Size", 15.0, default=BOX),
        Parameter("box-height", "Box, height", "length", "Outside.", "Size", 15.0, default=BOX),
        Parameter("play", "Play along the row", "length", "In all.", "Play", 0.0, 30.0, default=PLAY),
        Parameter("play-across", "Play across", "length", "In all: a row needs it too.", "Play", 0.0, 30.0,
                  default=ACROSS),
        Parameter("proud", "Boxes stand proud", "length", "How far above the walls, at least.", "Play", 0.0, 30.0,
                  default=PROUD),
        Parameter("wall", "Wall, thickness", "length", "Of a hollow wall, score to score.", "Walls", 6.0, 40.0,
                  default=WALL),
        Parameter("tab", "Seam tab", "length", "Of each tube, glued inside on its bottom.", "Walls", 3.0, 35.0),
        Parameter("ear", "Ears", "length", "How far an end goes into the long walls.", "Walls", 8.0, 80.0),
        Parameter("floor-sheets", "Floor, sheets", "count", "Glued on one another.", "Floor", 1, 4, default=2),
        Parameter("rail", "Wall, height", "length", "Score to score.", "Walls", derived=True),
        Parameter("end", "End, width", "length", "From ear to ear, score to score.", "Walls", derived=True),
        Parameter("length", "Long wall", "length", "From end to end.", "Walls", derived=True),
    )  # fmt: skip

    def size(self, situation: Situation) -> dict[str, Sized]:
        """Boxes, walls around them, and a floor below. Raises ParameterError where tabs or ears have no room."""
        s, t = situation, situation.paper.caliper
        sizes = {"boxes": count_of(s, "boxes", self._count(s))}
        play = max(PLAY, EACH * sizes["boxes"].length)
        for name, default in (("play", play), ("play-across", ACROSS), ("proud", PROUD), ("wall", WALL)):
            sizes[name] = length_of(s.given, name, default)
        sizes["ear"] = length_of(s.given, "ear", sizes["wall"].length + EAR, "auto")
        sizes["floor-sheets"] = count_of(s, "floor-sheets", 2)
        for axis, name in enumerate(("box-width", "box-depth", "box-height")):
            sizes[name] = self._box(s, sizes, axis, name)
            if sizes[name].length < LEAST:
                raise ParameterError(
                    f"A box of {told(max(sizes[name].length, 0.0))} is none that stands in a row.",
                    name.replace("-", ", ").capitalize(),
                    "Take fewer boxes.",
                )  # fmt: skip
        n, (w, d, h) = int(sizes["boxes"].length), (sizes[m].length for m in ("box-width", "box-depth", "box-height"))
        exact = h - sizes["proud"].length - s.glue - t - 2 * FOLD_SHIFT * t
        sizes["rail"] = Sized(snap(exact, s.cut.grid, "down").value, "auto", exact)
        wide = d + sizes["play-across"].length + self._end_less(s, sizes)
        sizes["end"] = up_to_cut(s, wide, "auto")
        sizes["length"] = up_to_cut(s, n * w + sizes["play"].length + self._along_less(s, sizes), "auto")
        wall, most = sizes["wall"].length, sizes["wall"].length - 3 * t - 0.5
        sizes["tab"] = length_of(s.given, "tab", max(3.0, snap(most - 1.0, s.cut.grid, "down").value), "auto")
        if sizes["tab"].length > most:
            raise ParameterError(
                f"A tab of {told(sizes['tab'].length)} leaves no room for the ears in a wall of {told(wall)}.",
                "Seam tab", f"Give {at_most(most)}.",
            )  # fmt: skip
        if sizes["rail"].length < 12.0:
            raise ParameterError(
                f"Walls of {told(sizes['rail'].length)} cannot be folded.", "Box, height", "Make the boxes higher."
            )
        if sizes["ear"].length > sizes["length"].length / 2 - 1.0:
            raise ParameterError(
                f"Ears of {told(sizes['ear'].length)} meet in the long walls.", "Ears",
                f"Give {at_most(sizes['length'].length / 2 - 1.0)}.",
            )  # fmt: skip
        return sizes

    @staticmethod
    def _count(s: Situation) -> int:
        """As many boxes as there are, if any are told."""
        taken = [int(guest.mount.split("-")[1]) for guest in s.guests if guest.mount.startswith("place-")]
        return max((4, *taken))

    def _box(self, s: Situation, sizes: Sizes, axis: int, name: str) -> Sized:
        """The size of a box: given, else of the boxes that stand here, else what the room leaves, mm."""
        if given_length(s.given, name) is not None:
            return length_of(s.given, name, BOX)
        guests = [g for g in s.guests if g.mount.startswith("place-") and g.need.relation == "inside"]
        if axis == 2:
            high = [g.need.tall for g in guests if g.need.height is not None and g.need.tall >= LEAST]
            if high:
                return Sized(max(high), "auto")
            if s.room is not None and s.room.height is not None:
                free = s.room.height.value - s.room.intrudes - self._floor(s, sizes) - inches(1 / 16)
                return Sized(snap(min(free, BOX), s.cut.grid, "down").value, "fill")
            return Sized(BOX, "default")
        wants = [
            math.fsum(side.reach.value for side in g.need.sides[(axis + g.turn) % 2 :: 2])
            for g in guests
            if len(g.need.sides) == 4
        ]
        if wants:
            return Sized(max(wants), "auto")
        if s.room is not None:
            n = int(sizes["boxes"].length)
            outside = 2 * s.bulk_on(*(f"{side}-outside" for side in (SIDES[2:], SIDES[:2])[axis]))
            free = s.room.clear(axis) - ACROSS - outside - s.paper.caliper - s.cut.grid
            if axis:
                wall = self._end_less(s, sizes) + s.paper.caliper * (2 + 2 * FOLD_SHIFT) + 2 * s.glue
                return down_to_cut(s, free - wall - sizes["play-across"].length, "fill")
            over = self._along_less(s, sizes) + s.paper.caliper
            return down_to_cut(s, (free - over - sizes["play"].length) / n, "fill")
        return Sized(BOX, "default")

    # -- geometry: where mid-surfaces lie, from the middle of the floor, mm

    @staticmethod
    def _thick(s: Situation, sizes: Sizes) -> float:
        """From the outer to the inner panel of a hollow wall."""
        return sizes["wall"].length + 2 * FOLD_SHIFT * s.paper.caliper

    def _end_less(self, s: Situation, sizes: Sizes) -> float:
        """How much wider an end is, ear to ear, than what is clear between the long walls."""
        t = s.paper.caliper
        return t + 2 * self._thick(s, sizes) - 2 * (t + s.glue) - 2 * FOLD_SHIFT * t

    def _along_less(self, s: Situation, sizes: Sizes) -> float:
        """How much longer a long wall is than what is clear between the ends."""
        return 2 * self._thick(s, sizes)

    def _outer(self, s: Situation, sizes: Sizes, axis: int) -> float:
        """From the middle to an outer panel: of an end (0), of a long wall (1)."""
        t = s.paper.caliper
        if axis:
            return sizes["end"].length / 2 + FOLD_SHIFT * t + t + s.glue
        return sizes["length"].length / 2 + t / 2

    def _clear(self, s: Situation, sizes: Sizes, axis: int) -> float:
        """What is clear inside, along the row (0) and across it (1)."""
        return 2 * (self._outer(s, sizes, axis) - self._thick(s, sizes)) - s.paper.caliper

    @staticmethod
    def _floor(s: Situation, sizes: Sizes) -> float:
        """How thick the floor is."""
        n, t = int(sizes["floor-sheets"].length), s.paper.caliper
        return n * t + (n - 1) * s.glue

    def _rise(self, s: Situation, sizes: Sizes) -> float:
        """From the floor's upper side to that of the walls."""
        t = s.paper.caliper
        return s.glue + t + sizes["rail"].length + 2 * FOLD_SHIFT * t

    def need(self, situation: Situation, sizes: Sizes) -> Need:
        """Its outside, and how far its boxes stand above its walls."""
        s, e, t = situation, situation.element, situation.paper.caliper
        names = ("box-width", "box-depth")
        settled = s.room is not None or all(sizes[m].origin in ("given", "auto") for m in names)
        n = sizes["boxes"].length
        reaches = {}
        for axis, (name, slope) in enumerate(zip(names, (n / 2, 0.5), strict=True)):
            whole = self._outer(s, sizes, axis)
            own = sizes[name].length * slope
            for side in (("right", "left"), ("back", "front"))[axis]:
                reaches[side] = span("boxes", own, e, name, slope).plus(
                    Term("play, walls and sheet", whole - own + t / 2),
                    Term("bulk outside", s.bulk_on(f"{side}-outside")),
                )
        sides = box_sides(reaches[side] for side in ("right", "back", "left", "front"))
        high = s.room is not None or sizes["box-height"].origin in ("given", "auto")
        rise = self._rise(s, sizes)
        height = span("boxes", sizes["box-height"].length, e, "box-height").plus(
            Term("floor", self._floor(s, sizes)), Term("they stand proud", rise - sizes["box-height"].length)
        )
        return Need(
            "inside", uses.TRAY, sides if settled else (), (2 * self._outer(s, sizes, 0), 2 * self._outer(s, sizes, 1))
            if settled else (None, None), t, height=height if high else None, play=ACROSS,
            stands=max(0.0, sizes["box-height"].length - rise) if self._stood(s) else 0.0,
        )  # fmt: skip

    @staticmethod
    def _stood(s: Situation) -> bool:
        """Whether boxes stand in it that were told of or built."""
        told = any(name.startswith("box-") for name in s.given)
        return told or any(g.mount.startswith("place-") and g.need.relation == "inside" for g in s.guests)

    def rooms(self, situation: Situation, sizes: Sizes) -> dict[str, Room]:
        """A place for every box, and the outside of each wall."""
        s, e, t, n = situation, situation.element, situation.paper.caliper, int(sizes["boxes"].length)
        reaches = []
        for axis, (name, share) in enumerate((("box-width", n), ("box-depth", 1))):
            clear = self._clear(s, sizes, axis) / share
            own = sizes[name].length
            reaches.append(span("box", own / 2, e, name, 0.5).plus(Term("its share of the play", (clear - own) / 2)))
        sides = box_sides((reaches[0], reaches[1], reaches[0], reaches[1]))
        nominal = (2 * reaches[0].value, 2 * reaches[1].value)
        rooms = {f"place-{k}": Room("onto", ROW, sides, nominal, t) for k in range(1, n + 1)}
        for side in SIDES:
            long = side in ("front", "back")
            lever = "box-width" if long else "box-depth"
            wide = sizes["length"].length if long else sizes["end"].length
            rooms[f"{side}-outside"] = face_room(
                wide,
                sizes["rail"].length,
                t,
                e,
                (lever, "box-height"),
                f"{side} wall",
                (sizes["boxes"].length if long else 1.0, 1.0),
            )
        return rooms

    # -- pieces

    def _tube(self, s: Situation, sizes: Sizes, name: str, words: str, length: float, wide: float = 0.0) -> Piece:
        """A tube flat, its outside up: tab, inner, top, outer and bottom side by side, `length` long. Of an end the
        outer panel is `wide` and has ears."""
        h, wall, tab, ear = (sizes[m].length for m in ("rail", "wall", "tab", "ear"))
        t, q = s.paper.caliper, -math.pi / 2
        off = max(0.0, (wide - length) / 2)
        y0, y1, bevel = off, off + length, min(inches(1 / 16), tab / 4)
        panels = [
            Panel(
                "tab", "seam tab", ((0.0, y0 + 2 * bevel), (tab, y0 + bevel), (tab, y1 - bevel), (0.0, y1 - 2 * bevel))
            )
        ]
        x, widths = tab, {"inner": h, "top": wall, "outer": h, "bottom": wall}
        flags = [ScoreFlag("x", tab, "tab", 1.0)]
        for panel in _ROUND[1:]:
            low, high = (0.0, wide) if wide and panel == "outer" else (y0, y1)
            panels.append(Panel(panel, f"{panel} panel" if panel in ("inner", "outer") else panel,
                                rectangle(x, low, x + widths[panel], high)))  # fmt: skip
            x += widths[panel]
        folds = [Fold("inner", "tab", q, settle=t + s.glue)] + [Fold(a, b, q) for a, b in pairwise(_ROUND[1:])]
        note = "Fold the tube flat at two opposite scores to glue its tab, then open it up."
        if wide:
            x0, x1, less = tab + h + wall, tab + 2 * h + wall, self._inset(s)
            slope = min(less, ear / 4)
            for end, foot, far in (("near", 0.0, -ear), ("far", wide, wide + ear)):
                ring = ((x0 + less, foot), (x1 - less, foot), (x1 - less - slope, far), (x0 + less + slope, far))
                panels.append(Panel(f"ear-{end}", f"{end} ear", ring if far > foot else tuple(reversed(ring))))
                folds.append(Fold("outer", f"ear-{end}", q))
            note += " Its ears go into the long walls."
        return build_piece(f"{s.element}.{name}", f"{s.name}, {words}", s.paper, panels, folds, flags=flags,
                           quantity=2, note=note)  # fmt: skip

    @staticmethod
    def _inset(s: Situation) -> float:
        """How much lower an ear is than the wall on either edge, so that it goes into the tube, mm."""
        return max(inches(1 / 16), 2 * s.paper.caliper)

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        """Long walls on the floor, an end in them, and, once the boxes were tried, the other."""
        s, e, t, g = situation, situation.element, situation.paper.caliper, situation.glue
        long = self._tube(s, sizes, "long", "long wall", sizes["length"].length)
        between = down_to_cut(s, self._clear(s, sizes, 1) - t / 2, "auto").length
        end = self._tube(s, sizes, "end", "end", between, sizes["end"].length)
        size = [down_to_cut(s, 2 * self._outer(s, sizes, axis) + t - UNDER, "auto").length for axis in (0, 1)]
        layers = int(sizes["floor-sheets"].length)
        floor = build_piece(f"{e}.floor", f"{s.name}, floor", s.paper,
                            [Panel("floor", "floor", rectangle(0.0, 0.0, *size))], quantity=layers,
                            note="Glue the layers on one another and press them under a weight.")  # fmt: skip
        middle, up = (size[0] / 2, size[1] / 2), (0.0, 1.0)
        instances = [Instance("floor-1", floor.id, Root("floor", middle))]
        for k in range(2, layers + 1):
            on = Attach(f"floor-{k - 1}", "floor", middle, up, 1, t + g)
            instances.append(Instance(f"floor-{k}", floor.id, Root("floor", middle), on))
        top = f"floor-{layers}"
        joints, ends = [], {"front": long, "back": long, "left": end, "right": end}
        named = {side: f"{side}-{'wall' if piece is long else 'end'}" for side, piece in ends.items()}
        ways = {"front": (1.0, 0.0), "back": (-1.0, 0.0), "left": (0.0, -1.0), "right": (0.0, 1.0)}
        out = {"front": (0, -1), "back": (0, 1), "left": (-1, 0), "right": (1, 0)}
        for side, piece in ends.items():
            bottom = piece.panel("bottom")
            x0, x1 = bottom.outline[0][0], bottom.outline[1][0]
            y0, y1 = bottom.outline[0][1], bottom.outline[2][1]
            off = self._outer(s, sizes, int(side in ("front", "back"))) - FOLD_SHIFT * t - sizes["wall"].length / 2
            at = (middle[0] + out[side][0] * off, middle[1] + out[side][1] * off)
            root = Root("bottom", ((x0 + x1) / 2, (y0 + y1) / 2), up, 1)
            instances.append(Instance(named[side], piece.id, root, Attach(top, "floor", at, ways[side], 1, t + g)))
            joints.append(Joint((named[side], "tab"), (named[side], "bottom"), act=f"close the {side} tube", seam=True,
                                label="fold the tube flat, press it, open it up"))  # fmt: skip
            act = f"{side} wall on the floor" if piece is long else f"{side} end into the long walls"
            joints.append(
                Joint((named[side], "bottom"), (top, "floor"), act=act, hollow=True, tried=self._tried(sizes, side))
            )
            if piece is end:
                mates = ("front", "back") if side == "right" else ("back", "front")
                joints += [
                    Joint((named[side], f"ear-{which}"), (named[mate], "outer"), act=act, hollow=True)
                    for which, mate in zip(("near", "far"), mates, strict=True)
                ]
        hints = (
            Hint("left end into the long walls", "right end into the long walls", "boxes are tried between"),
            *(Hint(f"{side} wall on the floor", "left end into the long walls", "its ears go into both")
              for side in ("front", "back")),
        )  # fmt: skip
        return Part(
            e, s.name, (long, end, floor), tuple(instances), tuple(self._mounts(s, sizes, ends, top, middle)),
            gaps=tuple(self._gaps(s, sizes, long, end)),
            contents=self._told(s, sizes),
            joints=tuple(joints), hints=hints,
        )  # fmt: skip

    @staticmethod
    def _told(s: Situation, sizes: Sizes) -> tuple[float, float, float] | None:
        """A box that the maker told of, mm: one stands on every place."""
        w, d, h = (sizes[f"box-{name}"].length for name in ("width", "depth", "height"))
        return (w, d, h) if any(name.startswith("box-") for name in s.given) else None

    @staticmethod
    def _tried(sizes: Sizes, side: str) -> str:
        many = int(sizes["boxes"].length)
        return "" if side != "right" else f"all {many} boxes side by side" if many > 1 else "the box"

    def _mounts(
        self, s: Situation, sizes: Sizes, ends: Mapping[str, Piece], top: str, middle: tuple[float, float]
    ) -> list[Mount]:
        n, t, h = int(sizes["boxes"].length), s.paper.caliper, sizes["box-height"].length
        pitch, deep = self._clear(s, sizes, 0) / n, self._clear(s, sizes, 1)
        labels, mounts = dict(self.faces), []
        for k in range(1, n + 1):
            at = (middle[0] + (k - (n + 1) / 2) * pitch, middle[1])
            place, lift = centred(pitch, deep), h + ABOVE + APART * (k - 1)
            mounts.append(
                Mount(f"place-{k}", labels[f"place-{k}"], top, "floor", 1, at, (0.0, 1.0), place, t / 2, True, lift,
                      holds=True)
            )  # fmt: skip
        for side, piece in ends.items():
            panel = piece.panel("outer")
            name = f"{side}-{'wall' if side in ('front', 'back') else 'end'}"
            mounts.append(face_mount(f"{side}-outside", labels[f"{side}-outside"], name, panel, 1, t, (-1.0, 0.0)))
        return mounts

    def _gaps(self, s: Situation, sizes: Sizes, long: Piece, end: Piece) -> list[Gap]:
        e, t, n = s.element, s.paper.caliper, int(sizes["boxes"].length)
        w, d, h, rail, wall, tab, ear = (
            sizes[m].length for m in ("box-width", "box-depth", "box-height", "rail", "wall", "tab", "ear")
        )
        rounded = "rounded up to the trimmer"
        along, across, proud = (
            span(label, sizes[name].length, e, name).plus(Term(rounded, left - sizes[name].length))
            for label, name, left in (
                ("play along the row", "play", self._clear(s, sizes, 0) - n * w),
                ("play across it", "play-across", self._clear(s, sizes, 1) - d),
                ("stand proud", "proud", h - self._rise(s, sizes)),
            )
        )
        # inside the tube: half a sheet at its top, and what an ear is lower by
        over = span("lower than the wall", self._inset(s)).plus(
            Term("half a sheet", -t / 2), Term("bend", FOLD_SHIFT * t)
        )
        around = (
            lever_term("tab", tab, e, "tab"), Term("two heights", 2 * rail),
            lever_term("two walls", 2 * wall, e, "wall", 2.0),
        )  # fmt: skip
        wide = (Term("from ear to ear", sizes["end"].length), lever_term("ears", 2 * ear, e, "ear", 2.0))
        gaps = [
            sheet_gap(e, long.name, s.paper, long.size, (around, (Term("long wall", sizes["length"].length),))),
            sheet_gap(e, end.name, s.paper, end.size, (around, wide)),
            fit_gap(s, EARS, (f"{s.name}, ears", "long walls"), over),
            fit_gap(s, uses.GLUE, (f"{s.name}, seam tab", "glue"), span("tab", tab, e, "tab")),
            fit_gap(s, uses.GLUE, (f"{s.name}, ear", "glue"), span("ear", ear, e, "ear")),
        ]
        if not any(guest.mount.startswith("place-") for guest in s.guests):
            gaps += [
                fit_gap(s, ROW, (f"{s.name}, boxes", "along the row"), along),
                fit_gap(s, ROW, (f"{s.name}, boxes", "across it"), across),
            ]
        gaps.append(fit_gap(s, LIFT, (f"{s.name}, boxes", "walls"), proud))
        return gaps


FAMILY = Casing()
