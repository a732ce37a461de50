"""Lid: slips over a box. Single rim with corner tabs, or double rim whose inner rim hides the tabs."""

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
    Relation,
    Room,
    Root,
    Side,
    Span,
    Term,
    box_sides,
    span,
    uses,
)
from yawning_lantern.assembly.room import SIDE_NAMES
from yawning_lantern.errors import ParameterError
from yawning_lantern.measure import inches
from yawning_lantern.pattern import Fold, Panel, Piece, ScoreFlag, build_piece, rectangle
from yawning_lantern.structures.kit.below import below, walls_below
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes, Start, fact
from yawning_lantern.structures.kit.lying import at_least
from yawning_lantern.structures.kit.polygon_lid import build_polygon_lid, rim_sides, top_side
from yawning_lantern.structures.kit.regular import Regular
from yawning_lantern.structures.kit.shell import (
    MITRE,
    TAB_TAKERS,
    WALL_UP,
    corner_joints,
    corner_tabs,
    lever_term,
    shell_piece,
    wall_mounts,
)
from yawning_lantern.structures.kit.solving import (
    PLAY_WORDS,
    as_given,
    centred,
    face_room,
    given_length,
    length_of,
    positive,
    sheet_gap,
    told_contents,
    up_to_cut,
    word_of,
    worked_out,
)

_AXES = (("width", 0), ("depth", 1))
LEAST_TOP = 8.0
"""A smaller top has no room for its corner tabs, mm."""


def lining_cut(caliper: float) -> float:
    """What is cut off each end of an inner rim, so that it stands clear of its neighbours, mm."""
    return max(MITRE, 2 * caliper)


class Lid:
    """A cap that slips over walls."""

    id = "lid"
    name = "Lid"
    about = "Slips over a box: single rim with corner tabs, or double rim whose inner rim hides the tabs."
    shelf = "Boxes"
    relation: Relation = "over"
    headline = ("top-width", "top-depth", "rim")
    starts: tuple[Start, ...] = ("size", "contents", "sheet")
    faces = (
        ("top", "top, outside"),
        ("ceiling", "top, inside"),
        *((f"{side}-{face}", f"{side} rim, {face}") for side in SIDE_NAMES for face in ("outside", "inside")),
    )
    parameters = (
        fact("over-width", "Over width", "The box's own nominal panel, left to right.", least=3.0),
        fact("over-depth", "Over depth", "The box's own nominal panel, front to back.", least=3.0),
        Parameter("sides", "Walls", "count", "How many walls the box has.", least=3, most=12, default=4),
        fact("over-caliper", "Box sheet", "Thickness of the box's sheet.", least=0.01, most=10.0),
        fact("over-bulk", "Bulk on the box", "What is glued outside the box, per side.", most=50.0),
        Parameter("rim", "Rim", "length", "First score from the edge. Kept exactly.", least=3.0, scored=True),
        Parameter(
            "rim-kind",
            "Rim kind",
            "word",
            "Single, or folded double so that the tabs are hidden.",
            words=("single", "double"),
            default="single",
        ),
        Parameter(
            "play",
            "Play",
            "length",
            "How loose in all: snug, easy, loose, or a length.",
            "Fit",
            words=tuple(PLAY_WORDS),
            most=50.0,
            default="easy",
        ),
        Parameter("top-width", "Top width", "length", "Score to score of the lid's own top.", "Worked out", 3.0),
        Parameter("top-depth", "Top depth", "length", "Score to score of the lid's own top.", "Worked out", 3.0),
        fact("content-width", "Thing, width", "Outside width of what the lid goes over.", "Contents", 1.0),
        fact("content-depth", "Thing, depth", "Outside depth of what the lid goes over.", "Contents", 1.0),
        fact("content-height", "Thing, height", "Height of what the lid goes over.", "Contents", 1.0),
        Parameter("sheet", "Sheet", "length", "Side of the square sheet to use whole.", "Sheet", 10.0),
    )

    def size(self, situation: Situation) -> dict[str, Sized]:
        """What it goes over, its rim, and its top rounded up. Raises ParameterError where nothing is left to fold."""
        s, given, t, under = situation, situation.given, situation.paper.caliper, below(situation)
        play = given.get("play", "easy")
        sizes = {
            "rim-kind": word_of(given, "rim-kind", "single"),
            "play": Sized(play, "given" if "play" in given else "default"),
            "over-caliper": length_of(
                given, "over-caliper", under.caliper if under else t, "fill" if under else "default"
            ),
            "over-bulk": length_of(given, "over-bulk", under.bulk if under else 0.0, "fill" if under else "default"),
        }
        sizes["sides"] = walls_below(s, 4)
        n = int(sizes["sides"].length)
        if n != 4 and sizes["rim-kind"].value == "double":
            raise ParameterError(
                "A double rim needs a lid of four sides.",
                "Rim kind",
                "Set the rim to single, or take a box of four walls.",
            )
        tops: list[float] = []
        for name, axis in _AXES:
            content = given_length(given, f"content-{name}")
            if content is not None:
                sizes[f"content-{name}"] = Sized(content, "given")
            fallback = Sized(inches(3), "default")
            if content is not None:
                fallback = Sized(content - sizes["over-caliper"].length, "auto")
            elif under is not None:
                fallback = Sized(under.nominal[axis], "fill")
            elif "over-width" in sizes:
                fallback = Sized(sizes["over-width"].length, "default")
            over = given_length(given, f"over-{name}")
            sizes[f"over-{name}"] = fallback if over is None else Sized(over, "given")
            tops.append(
                sizes[f"over-{name}"].length
                + sizes["over-caliper"].length
                + t
                + 2 * sizes["over-bulk"].length
                + self._inside(s, sizes, axis)
                + self.play(sizes)
            )
        tops = self._from_sheet(s, sizes, tops)
        if abs(sizes["over-width"].length - sizes["over-depth"].length) < 1e-6:
            tops = [max(tops)] * 2  # a square box keeps a square lid: it goes on either way round
        for (name, _), exact in zip(_AXES, tops, strict=True):
            top = given_length(given, f"top-{name}")
            from_over = worked_out(sizes[f"over-{name}"])
            sizes[f"top-{name}"] = up_to_cut(s, exact, from_over) if top is None else Sized(top, "given")
        if n != 4:
            sizes["over-depth"] = sizes["over-width"]
            if "top-width" not in given:
                sizes["top-width"] = top_side(s, n, sizes, self.play(sizes))
            sizes["top-depth"] = sizes["top-width"]
        for name, _ in _AXES:
            at_least(sizes[f"top-{name}"].length, LEAST_TOP, f"lid's top, {name}", "Make what it goes over larger.")
        sizes["rim"] = self._rim(s, sizes)
        sizes |= as_given(given, "content-height", "sheet")
        return sizes

    def _from_sheet(self, s: Situation, sizes: dict[str, Sized], tops: list[float]) -> list[float]:
        """The tops of a lid that uses its sheet whole about a rim that was given, where nothing tells what it goes
        over; that then follows from the lid. Else the tops as they are. mm."""
        sheet, rim = given_length(s.given, "sheet"), given_length(s.given, "rim")
        told = any(n in s.given for n in ("over-width", "over-depth", "content-width", "content-depth", "top-width"))
        if sheet is None or rim is None or s.room is not None or told or sizes["sides"].value != 4:
            return tops
        top = sheet - self._rims(sizes) * rim
        positive(top, "lid's top", "Take a larger sheet, or a lower rim.")
        for (name, _), now in zip(_AXES, tops, strict=True):
            over = sizes[f"over-{name}"].length + top - now
            sizes[f"over-{name}"] = Sized(positive(over, "box", "Take a larger sheet, or a lower rim."), "auto")
        return [top, top]

    @staticmethod
    def _rims(sizes: Sizes) -> float:
        """How many rims there are across the sheet: both, each double where it is folded double."""
        return 4.0 if sizes["rim-kind"].value == "double" else 2.0

    @staticmethod
    def play(sizes: Sizes) -> float:
        """The play in all, mm."""
        value = sizes["play"].value
        return PLAY_WORDS[value] if isinstance(value, str) else float(value)

    def _rim(self, s: Situation, sizes: Sizes) -> Sized:
        rims = self._rims(sizes)
        sheet = given_length(s.given, "sheet")
        if (own := given_length(s.given, "rim")) is not None:
            return Sized(own, "given")
        if sheet is not None:
            room = (sheet - max(sizes["top-width"].length, sizes["top-depth"].length)) / rims
            return Sized(positive(room, "lid's rim", "Take a larger sheet, or a smaller top."), "auto")
        under = below(s)
        tall = under.wall if under is not None else given_length(s.given, "content-height")
        if tall is None or tall >= inches(1):
            return Sized(inches(1), "default")
        return Sized(tall, "fill")

    @staticmethod
    def _side_bulk(s: Situation, side: str) -> float:
        """What is glued inside one rim: the corner tabs, and guests. mm."""
        tabs = s.paper.caliper + s.glue if side in TAB_TAKERS else 0.0
        return tabs + s.bulk_on(f"{side}-inside")

    def _overhang(self, s: Situation, sizes: Sizes) -> float:
        """What it adds outside a wall beside its play, mm: tabs, inner rim, its sheet, and what is on it."""
        doubled = s.paper.caliper if sizes["rim-kind"].value == "double" else 0.0
        inner = max(self._side_bulk(s, side) for side in SIDE_NAMES)
        return inner + doubled + s.paper.caliper + s.bulk_on(*(f"{side}-outside" for side in SIDE_NAMES))

    def _inside(self, s: Situation, sizes: Sizes, axis: int) -> float:
        doubled = 2 * s.paper.caliper if sizes["rim-kind"].value == "double" else 0.0
        return doubled + sum(self._side_bulk(s, side) for side in (("right", "left"), ("back", "front"))[axis])

    def need(self, situation: Situation, sizes: Sizes) -> Need:
        """Its inside, once the box is known; how far its top stands above the walls, and hangs below them."""
        s, e, t = situation, situation.element, situation.paper.caliper
        high = span("lid", t).plus(Term("bulk on the lid", s.bulk_on("top")))
        school = str(sizes["play"].value) if isinstance(sizes["play"].value, str) else "asked"
        want = None
        if school == "asked":
            asked = self.play(sizes)
            want = (max(0.0, asked - inches(1 / 64)), asked + inches(1 / 16))
        sides: tuple[Side, ...] = ()
        if s.room is not None and sizes["sides"].value != 4:
            sides = rim_sides(s, int(sizes["sides"].length), sizes)
        elif s.room is not None:
            doubled = t if sizes["rim-kind"].value == "double" else 0.0
            reaches: list[Span] = []
            for side, n in zip(SIDE_NAMES, ("width", "depth", "width", "depth"), strict=True):
                reaches.append(
                    span("lid top", sizes[f"top-{n}"].length / 2, e, f"top-{n}", 0.5).plus(
                        Term("half the lid's sheet", -t / 2),
                        Term("inner rim", -doubled),
                        Term("tabs and bulk inside the lid", -self._side_bulk(s, side)),
                    )
                )
            sides = box_sides(reaches)
        return Need(
            "over",
            uses.LID,
            sides,
            (None, None),  # nobody is cut from a lid's panel
            t,
            self._overhang(s, sizes),
            high,
            play=self.play(sizes),
            school=school,
            want=want,
            intrudes=s.bulk_on("ceiling"),
        )

    def rooms(self, situation: Situation, sizes: Sizes) -> dict[str, Room]:
        """Top and rims, outside and inside."""
        e, t = situation.element, situation.paper.caliper
        w, d, r = sizes["top-width"].length, sizes["top-depth"].length, sizes["rim"].length
        if sizes["sides"].value != 4:
            square = 2 * Regular(int(sizes["sides"].length), w).square
            flat = face_room(square, square, t, e, ("top-width", "top-width"), "lid top")
            return {"top": flat, "ceiling": flat}
        top = face_room(w, d, t, e, ("top-width", "top-depth"), "lid top")
        less = 2 * t + 2 * max(self._side_bulk(situation, side) for side in SIDE_NAMES)
        rooms = {"top": top, "ceiling": face_room(w - less, d - less, t, e, ("top-width", "top-depth"), "lid ceiling")}
        for side, n in zip(SIDE_NAMES, ("depth", "width", "depth", "width"), strict=True):
            for face in ("outside", "inside"):
                less = 2 * lining_cut(t) if face == "inside" and sizes["rim-kind"].value == "double" else 0.0
                rooms[f"{side}-{face}"] = face_room(
                    sizes[f"top-{n}"].length - less, r, t, e, (f"top-{n}", "rim"), f"{side} rim"
                )
        return rooms

    def _double(self, s: Situation, w: float, d: float, r: float) -> Piece:
        t, e = s.paper.caliper, s.element
        x = (0.0, r, 2 * r, 2 * r + w, 3 * r + w, 4 * r + w)
        y = (0.0, r, 2 * r, 2 * r + d, 3 * r + d, 4 * r + d)
        cut = lining_cut(t)
        panels = [
            Panel("top", "top", rectangle(x[2], y[2], x[3], y[3])),
            Panel("wall-right", "right rim", rectangle(x[3], y[2], x[4], y[3])),
            Panel("wall-back", "back rim", rectangle(x[2], y[3], x[3], y[4])),
            Panel("wall-left", "left rim", rectangle(x[1], y[2], x[2], y[3])),
            Panel("wall-front", "front rim", rectangle(x[2], y[1], x[3], y[2])),
            Panel("lining-right", "right inner rim", rectangle(x[4], y[2] + cut, x[5], y[3] - cut)),
            Panel("lining-back", "back inner rim", rectangle(x[2] + cut, y[4], x[3] - cut, y[5])),
            Panel("lining-left", "left inner rim", rectangle(x[0], y[2] + cut, x[1], y[3] - cut)),
            Panel("lining-front", "front inner rim", rectangle(x[2] + cut, y[0], x[3] - cut, y[1])),
            *corner_tabs((("right", x[3], x[4], 1.0), ("left", x[2], x[1], -1.0)), y[2], y[3], w, r),
        ]
        folds = [Fold("top", f"wall-{side}", -math.pi / 2) for side in SIDE_NAMES]
        folds += [
            Fold(f"wall-{side}", f"lining-{side}", -math.pi, wrap=t + s.glue if side in TAB_TAKERS else 0.0)
            for side in SIDE_NAMES
        ]
        folds += [
            Fold(f"wall-{side}", f"tab-{side}-{end}", -math.pi / 2, settle=t + s.glue)
            for side in ("right", "left")
            for end in TAB_TAKERS
        ]
        flags = (
            ScoreFlag("x", r, "rim", 1.0),
            ScoreFlag("x", 2 * r, "rim", 2.0),
            ScoreFlag("x", 2 * r + w, "top-width", 1.0),
            ScoreFlag("y", r, "rim", 1.0),
            ScoreFlag("y", 2 * r + d, "top-depth", 1.0),
        )
        return build_piece(
            f"{e}.lid",
            s.name,
            s.paper,
            panels,
            folds,
            flags=flags,
            note="Cut each corner to a step, glue the tabs, then fold the inner rim over them.",
        )

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        """One sheet, the outside up."""
        s, e, t = situation, situation.element, situation.paper.caliper
        w, d, r = sizes["top-width"].length, sizes["top-depth"].length, sizes["rim"].length
        double = sizes["rim-kind"].value == "double"
        if sizes["sides"].value != 4:
            extra = [] if s.room is None else self._rim_gap(s, sizes)
            return build_polygon_lid(s, int(sizes["sides"].length), sizes, extra)
        if double:
            piece, foot = self._double(s, w, d, r), 2 * r
        else:
            flags = (
                ScoreFlag("x", r, "rim", 1.0),
                ScoreFlag("x", r + w, "top-width", 1.0),
                ScoreFlag("y", r, "rim", 1.0),
                ScoreFlag("y", r + d, "top-depth", 1.0),
            )
            piece, foot = (
                shell_piece(f"{e}.lid", s.name, s.paper, ("top", "top"), (w, d, r), -1, "rim", flags, s.glue),
                r,
            )
        middle = (foot + w / 2, foot + d / 2)
        rims = self._rims(sizes)
        gaps = [
            sheet_gap(
                e,
                s.name,
                s.paper,
                piece.size,
                tuple(
                    (
                        lever_term(f"top {n}", sizes[f"top-{n}"].length, e, f"top-{n}"),
                        lever_term("rims", rims * r, e, "rim", rims),
                    )
                    for n, _ in _AXES
                ),
            )
        ]
        gaps += told_sheet(s, sizes, piece, rims)
        if s.room is None:
            gaps += self._own_gaps(s, sizes)
        else:
            gaps += self._rim_gap(s, sizes)
        mounts = [
            Mount("top", "top, outside", "lid", "top", 1, middle, (0.0, 1.0), centred(w, d), t / 2),
            Mount("ceiling", "top, inside", "lid", "top", -1, middle, (0.0, 1.0), centred(w, d), t / 2),
        ]
        walls = wall_mounts(w, d, r, "lid", t, -1, "rim", foot - r, t + s.glue, TAB_TAKERS)
        mounts += [self._on_lining(mount, r, t) if double and mount.id.endswith("inside") else mount for mount in walls]
        return Part(
            e,
            s.name,
            (piece,),
            (Instance("lid", piece.id, Root("top", middle)),),
            tuple(mounts),
            gaps=tuple(gaps),
            joints=(*corner_joints("lid"), *(_lining_joints() if double else ())),
        )

    @staticmethod
    def _on_lining(mount: Mount, rim: float, caliper: float) -> Mount:
        """The inside of a doubled rim is the front of its inner half, which lies the other way up."""
        side = mount.id.split("-")[0]
        (x, y), (ux, uy) = mount.origin, WALL_UP[side]
        half = max(px for px, _ in mount.outline) - lining_cut(caliper)
        return replace(
            mount,
            outline=centred(2 * half, rim),
            panel=f"lining-{side}",
            side=1,
            origin=(x + ux * rim, y + uy * rim),
            up=(-ux, -uy),
            standoff=caliper / 2,
            over=(),  # the tabs lie behind it
        )

    @staticmethod
    def _rim_gap(s: Situation, sizes: Sizes) -> list[Gap]:
        """The rim is no deeper than the wall it covers."""
        if s.room is None or s.room.wall is None:
            return []
        left = span("box wall", s.room.wall) - span("rim", sizes["rim"].length, s.element, "rim")
        return [Gap(uses.RIM, s.element, s.element, (f"{s.name}, rim", "box wall"), left, where="up")]

    def _own_gaps(self, s: Situation, sizes: Sizes) -> list[Gap]:
        """Lid over the box it was told of, where there is no box in the nest."""
        e, t = s.element, s.paper.caliper
        need = self.need(s, sizes)
        over = tuple((f"content-{n}", f"over-{n}") for n, _ in _AXES)
        gaps = told_contents(s, sizes, s.name, over, -sizes["over-caliper"].length)
        for name, axis in _AXES:
            left = span("lid top", sizes[f"top-{name}"].length, e, f"top-{name}").plus(
                lever_term("box", -sizes[f"over-{name}"].length, e, f"over-{name}", -1.0),
                Term("box sheet", -sizes["over-caliper"].length),
                Term("lid sheet", -t),
                Term("bulk on the box", -2 * sizes["over-bulk"].length),
                Term("tabs, inner rim and bulk inside", -self._inside(s, sizes, axis)),
            )
            where = ("across", "front to back")[axis]
            gaps.append(
                Gap(
                    uses.LID,
                    e,
                    e,
                    (s.name, f"the box, {where}"),
                    left,
                    need.school,
                    need.want,
                    where,
                    axis * math.pi / 2,
                )
            )
        return gaps


def told_sheet(s: Situation, sizes: Sizes, piece: Piece, rims: float) -> list[Gap]:
    """The lid against the square sheet that it was to be cut from, where one was told."""
    sheet = given_length(s.given, "sheet")
    if sheet is None:
        return []
    axis = "width" if piece.size[0] >= piece.size[1] else "depth"
    left = span("sheet", sheet, s.element, "sheet").plus(
        lever_term(f"top {axis}", -sizes[f"top-{axis}"].length, s.element, f"top-{axis}", -1.0),
        lever_term("rims", -rims * sizes["rim"].length, s.element, "rim", -rims),
    )
    return [Gap(uses.SHEET, s.element, s.element, (s.name, "the sheet at hand"), left.merged(), "any", (0.0, sheet))]


def _lining_joints() -> tuple[Joint, ...]:
    """The inner rims: each folded over its outer half, and over the tabs that are glued there, in one act."""
    joints = []
    for side in SIDE_NAMES:
        tabs = [f"tab-{hand}-{side}" for hand in ("right", "left")] if side in TAB_TAKERS else []
        joints += [
            Joint(("lid", f"lining-{side}"), ("lid", under), act=f"lining-{side}") for under in (f"wall-{side}", *tabs)
        ]
    return tuple(joints)


FAMILY = Lid()
