"""Prism: walls in one or more strips around a base board of three to twelve sides, their feet glued under it."""

from __future__ import annotations

import math
from collections.abc import Mapping

from yawning_lantern.assembly import (
    HOST,
    Attach,
    Gap,
    Hint,
    Instance,
    Joint,
    Lever,
    Mount,
    Need,
    Part,
    Pocket,
    Relation,
    Room,
    Root,
    Side,
    Span,
    Term,
    span,
    uses,
)
from yawning_lantern.assembly.uses import use_of
from yawning_lantern.errors import ParameterError
from yawning_lantern.measure import at_most, give_at_most, inches, snap, told
from yawning_lantern.pattern import Fold, Panel, Piece, Point, ScoreFlag, build_piece, rectangle
from yawning_lantern.structures.kit.boards import board_of
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes, Start, fact
from yawning_lantern.structures.kit.lying import ABOVE, count_of, face_mount, fit_gap, usual_length
from yawning_lantern.structures.kit.prism_trim import Ring, corner_strips, even_groups, glued_foot, skirting
from yawning_lantern.structures.kit.regular import Regular, furthest, half_flat, moved
from yawning_lantern.structures.kit.shell import FOLD_SHIFT, lever_term
from yawning_lantern.structures.kit.solving import (
    HEADROOM,
    as_given,
    face_room,
    given_length,
    length_of,
    sheet_gap,
    up_to_score,
    word_of,
)
from yawning_lantern.structures.kit.wrapped import TURN_INS, WAYS, Board, wrapping

MOST = 12  # walls at most
FOOT, LEAST_GLUED = inches(1 / 2), 6.0
"""A foot, glued under the base, and the least of it that holds, mm. Common practice, no source."""
TAB = inches(1 / 2)
"""The tab at the end of a strip, mm. Common practice, no source."""
BOARD = 1.5
"""The base board, mm. Common practice, no source."""
PLAY = inches(1 / 8)
"""Room about what it holds, in all, mm. Common practice, no source."""
FOLLOWS = use_of("plate", "Walls follow the base", (0.0, 1 / 128, 1 / 16), {"easy": (0, 1 / 16)}, drawn=False)
"""What is left between the edge of the base and a wall, all round: more, and walls stand off it and no roof fits."""
STANDS = use_of("stands", "Prism in its place", (1 / 64, 1 / 32, 36), {"easy": (1 / 32, 36)}, fills=True)
"""What is left around it: one way there is always more than the other, for its corners turn in a circle."""
LEAST, TIP, WINDOW = 12.0, 1.0, 6.0
"""A narrower wall is none, so much is left of half a foot at its tip, a smaller window is none, mm. From memory."""


def corner_shift(theta: float, caliper: float) -> float:
    """How far a bend by `theta` (radians) lengthens a side at each end, mm: paper bends about half its thickness, so
    that the arc is shorter than the corner (R·tan(θ/2) − R·θ/2 with R = t/2)."""
    return caliper / 2 * (math.tan(theta / 2) - theta / 2)


class Prism:
    """The base lies on the feet, within the walls: it gives them their shape."""

    id = "prism"
    name = "Prism"
    about = "A box of three to twelve walls, folded from strips around a base board; for a roof, a lid or a lantern."
    shelf = "Boxes"
    relation: Relation = "inside"
    headline = ("sides", "side", "height")
    starts: tuple[Start, ...] = ("size", "contents")
    faces = (
        ("floor", "floor, inside"),
        ("mouth", "over the mouth"),
        *((f"wall-{k}-outside", f"wall {k}, outside") for k in range(1, MOST + 1)),
        *((f"wall-{k}-inside", f"wall {k}, inside") for k in range(1, MOST + 1)),
    )
    parameters = (
        Parameter("sides", "Sides", "count", "How many walls.", "Size", 3, MOST, default=6),
        Parameter("side", "Side", "length", "Of a wall, score to score.", "Size", LEAST, scored=True),
        Parameter("height", "Height", "length", "Of a wall.", "Size", 15.0, scored=True),
        Parameter("strips", "Strips", "count", "How many the walls are cut from.", "Walls", 1, MOST),
        Parameter("tab", "Tab", "length", "At the end of a strip, glued inside the next wall.", "Walls", 4.0, 40.0),
        Parameter("foot", "Foot", "length", "Folded in under the base.", "Walls", 4.0, 40.0),
        Parameter("windows", "Windows", "word", "In every wall, in all but the first (a door), or in none.", "Walls",
                  words=("none", "all", "but one"), default="none"),
        Parameter("pane", "Around a window", "length", "What stays of the wall on every side of it.", "Walls", 4.0,
                  100.0),
        Parameter("corner", "Corner strips", "length", "On either wall, folded over every corner; 0 for none.", "Dress",
                  0.0, 60.0),
        Parameter("skirting", "Skirting", "length", "How high along the foot; 0 for none.", "Dress", 0.0, 100.0),
        Parameter("board", "Base board", "length", "How thick it is.", "Base", 0.3, 6.0, default=BOARD),
        Parameter("wrap", "Base wrapped", "word", "In paper, turned in below, corners mitred or folded.", "Base",
                  words=WAYS, default="mitred"),
        Parameter("plate", "Base, side", "length", "Else as large as goes between the walls.", "Base", 5.0),
        fact("content-width", "What it holds, across", "Of what is round or as many-sided.", "Contents", 10.0,
             default=inches(3)),
        fact("content-height", "What it holds, height", "Under a lid or roof.", "Contents", 10.0, default=inches(3)),
        Parameter("across", "Across", "length", "Inside, from wall to opposite wall or corner.", "Size", derived=True),
    )  # fmt: skip

    def size(self, situation: Situation) -> dict[str, Sized]:
        """Walls, strips and base. Raises ParameterError where tabs or feet have no room."""
        s, given, t = situation, situation.given, situation.paper.caliper
        sizes = {
            "sides": count_of(s, "sides", 6), "board": length_of(given, "board", BOARD),
            "wrap": word_of(given, "wrap", "mitred"),
        }  # fmt: skip
        n = int(sizes["sides"].length)
        content = [given_length(given, f"content-{name}") for name in ("width", "height")]
        flat = half_flat(n)
        if (own := given_length(given, "side")) is not None:
            sizes["side"] = Sized(own, "given")
        elif content[0] is not None:
            sizes["side"] = up_to_score(s, (content[0] / 2 + PLAY / 2 + t / 2 + self._tabs(s)) / flat, "auto")
        elif s.room is not None:
            beyond = self._outside(s, n) + s.lid_overhang() / math.cos(math.pi / n)
            radius = min(s.room.clear(0), s.room.clear(1)) / 2 - PLAY / 2 - t - beyond
            exact = radius / max(flat, 0.5 / math.sin(math.pi / n))
            sizes["side"] = Sized(snap(exact, s.score.grid, "down").value, "fill")
        else:
            sizes["side"] = Sized(inches(2), "default")
        side = sizes["side"].length
        if side < LEAST:
            raise ParameterError(f"Walls of {told(side)} cannot be folded.", "Side",
                                 "Make it larger, or take fewer sides.")  # fmt: skip
        if content[1] is not None:
            exact = content[1] + self._floor_level(s, sizes) - t / 2 + PLAY / 2
            sizes["height"] = up_to_score(s, exact, "auto")
        else:
            high = inches(4)
            if s.room is not None and s.room.height is not None:
                free = s.room.height.value - s.room.intrudes - t * (0.5 + FOLD_SHIFT) - s.lid_rise() - HEADROOM
                high = min(high, free)
            least = max(15.0, snap(high, s.score.grid, "down").value)
            sizes["height"] = Sized(least, "fill" if s.room else "default")
        sizes |= as_given(given, "height")
        apothem = side * flat
        glued = LEAST_GLUED + t + inches(1 / 64) + self._skin(s, sizes)  # its score is so far out from the base
        foot = snap(min(FOOT, apothem / 2), s.score.grid, "down").value
        if foot < glued <= 0.7 * apothem:
            foot = snap(glued, s.score.grid, "up").value
        sizes["foot"] = length_of(given, "foot", max(4.0, foot), "auto")
        sizes["tab"] = usual_length(s, "tab", TAB, side / 3, 4.0, scored=True)
        deepest = (side / 2 - t - TIP) / math.tan(self._theta(sizes) / 2)
        for name, most, what in (("foot", deepest, "the middle of the base"), ("tab", side - 1.0, "the wall")):
            if sizes[name].length > most:
                over = f"{told(sizes[name].length)} reaches over {what}."
                raise ParameterError(over, name.capitalize(), f"Give {at_most(most)}.")
        longest = max(s.paper.sheet.width, s.paper.sheet.height)
        fits = max(1, int((longest - sizes["tab"].length) // side))
        for name, label, most, what in (
            ("corner", "Corner strips", side / 2 - 3.0, "two of them meet"),
            ("skirting", "Skirting", sizes["height"].length / 2, "half is gone"),
        ):  # fmt: skip
            sizes[name] = length_of(given, name, 0.0)
            if sizes[name].length > most:
                raise ParameterError(f"Of {told(sizes[name].length)} {what}.", label, f"Give {at_most(most)}.")
        sizes["windows"] = word_of(given, "windows", "none")
        low, high = side, sizes["height"].length - self._floor_level(s, sizes)
        usual = max(inches(1 / 2), sizes["tab"].length + inches(1 / 16))
        sizes["pane"] = usual_length(s, "pane", usual, min(low, high) / 3, 4.0)
        if sizes["windows"].value != "none" and min(low, high) - 2 * sizes["pane"].length < WINDOW:
            raise ParameterError(
                f"{told(sizes['pane'].length)} on every side leaves no window in walls of {told(side)} by "
                f"{told(sizes['height'].length)}.", "Around a window",
                give_at_most((min(low, high) - WINDOW) / 2, 4.0, "Make the walls larger, or leave windows out."),
            )  # fmt: skip
        sizes["strips"] = count_of(s, "strips", 0) if "strips" in given else Sized(-(-n // fits), "auto")
        if sizes["strips"].length > n:
            raise ParameterError(f"{n} walls are not cut from {int(sizes['strips'].length)} strips.", "Strips",
                                 f"Give at most {n}.")  # fmt: skip
        base = self._base(s, apothem - self._skin(s, sizes), n)
        sizes |= {"plate": base} | as_given(given, "plate")
        sizes["across"] = Sized(2 * self._apothem(s, sizes) - t, "auto")
        sizes |= as_given(given, "content-width", "content-height")
        return sizes

    @staticmethod
    def _base(s: Situation, apothem: float, n: int) -> Sized:
        """The side of a base that goes between the walls, its way across on a fine grid, mm."""
        exact = apothem - s.paper.caliper / 2 - inches(1 / 64)
        half = snap(2 * exact, s.cut.grid / 4, "down").value / 2
        return Sized(half / half_flat(n), "auto", exact / half_flat(n))

    # -- geometry

    def _reach(self, s: Situation, sizes: Sizes, way: float) -> Span:
        """From the middle to what stands furthest out one way, radians in the face it stands on; wall 1 at its head."""
        n, t = int(sizes["sides"].length), s.paper.caliper
        ends = {walls[-1] for walls in self._groups(sizes)} if not given_length(s.given, "corner") else set()
        best, sheet, around = furthest(n, way, [k + 1 not in ends for k in range(n)])
        shift, on_walls = 2 * corner_shift(self._theta(sizes), t), self._bulk(s, n, "outside")
        return span("walls", sizes["side"].length * best, s.element, "side", best).plus(
            Term("sheet and bends", shift * best + t / 2 * sheet),
            Term("bulk outside", max(self._trim(s) * around, on_walls)),
            Term("its lid", s.lid_overhang() * best / half_flat(n)),
        )  # fmt: skip

    @staticmethod
    def _theta(sizes: Sizes) -> float:
        return 2 * math.pi / int(sizes["sides"].length)

    def _apothem(self, s: Situation, sizes: Sizes) -> float:
        """From the middle to a wall's mid-surface, mm."""
        side = sizes["side"].length + 2 * corner_shift(self._theta(sizes), s.paper.caliper)
        return side * half_flat(int(sizes["sides"].length))

    @staticmethod
    def _tabs(s: Situation) -> float:
        return s.paper.caliper + s.glue

    @staticmethod
    def _trim(s: Situation) -> float:
        own = any((given_length(s.given, name) or 0.0) > 0 for name in ("corner", "skirting"))
        return s.paper.caliper + s.glue if own else 0.0

    @staticmethod
    def _bulk(s: Situation, n: int, face: str) -> float:
        return max(s.bulk_on(f"wall-{k}-{face}") for k in range(1, n + 1))

    def _outside(self, s: Situation, n: int) -> float:
        return max(self._trim(s), self._bulk(s, n, "outside"))

    def _groups(self, sizes: Sizes) -> list[list[int]]:
        """The walls of each strip, from 1, as even as can be."""
        return even_groups(int(sizes["sides"].length), int(sizes["strips"].length))

    @staticmethod
    def _skin(s: Situation, sizes: Sizes) -> float:
        """What the base is wrapped in, with its glue, on every side, mm."""
        return 0.0 if sizes["wrap"].value == "none" else s.paper.caliper + s.glue

    def _floor_level(self, s: Situation, sizes: Sizes) -> float:
        """From the underside to the top of the base, mm."""
        return s.paper.caliper + s.glue + sizes["board"].length + 2 * self._skin(s, sizes)

    def need(self, situation: Situation, sizes: Sizes) -> Need:
        """The circle it turns in: its corners, and what is on its walls."""
        s, e, n = situation, situation.element, int(sizes["sides"].length)
        t, sides = s.paper.caliper, tuple[Side, ...]()
        if s.room is not None or sizes["side"].origin in ("given", "auto"):
            sides = tuple(
                Side(name, k * math.pi / 2, self._reach(s, sizes, k * math.pi / 2))
                for k, name in enumerate(("right", "back", "left", "front"))
            )
        high = s.room is not None or sizes["height"].origin in ("given", "auto")
        height = span("walls", sizes["height"].length, e, "height").plus(
            Term("feet and bend", t * (0.5 + FOLD_SHIFT)), Term("its lid", s.lid_rise())
        )
        across = sizes["side"].length / math.sin(math.pi / n)
        return Need(
            "inside", STANDS, sides, (across, across) if sides else (None, None), t, height=height if high else None,
            wall=sizes["height"].length if high else None, play=PLAY,
        )  # fmt: skip

    def rooms(self, situation: Situation, sizes: Sizes) -> dict[str, Room]:
        """Floor, mouth and both faces of every wall."""
        s, e, t, n = situation, situation.element, situation.paper.caliper, int(sizes["sides"].length)
        side, h, flat = sizes["side"].length, sizes["height"].length, half_flat(n)
        shift = Term("bends", self._apothem(s, sizes) - side * flat)
        wall = span("wall", side * flat, e, "side", flat)
        inside = wall.plus(shift, Term("half a sheet", -t / 2), Term("tabs", -self._tabs(s)),
                           Term("bulk inside", -self._bulk(s, n, "inside")))  # fmt: skip
        outside = wall.plus(shift, Term("half a sheet", t / 2), Term("bulk outside", self._outside(s, n)))
        clear = span("wall", h, e, "height").plus(
            Term("bend", FOLD_SHIFT * t + t / 2), Term("base and feet", -self._floor_level(s, sizes))
        )
        intrudes = max((g.need.intrudes for g in s.on("mouth")), default=0.0)

        def around(reach: Span) -> tuple[Side, ...]:
            return tuple(Side(f"wall {k + 1}", 2 * math.pi * k / n, reach) for k in range(n))

        across = (side, side)
        rooms = {
            "floor": Room("inside", uses.TRAY, around(inside), across, t, 0.0, clear, True, wall=h, intrudes=intrudes),
            "mouth": Room("over", uses.LID, around(outside), across, t, self._outside(s, n), wall=h),
        }
        low = self._floor_level(s, sizes)
        for k in range(1, n + 1):
            wide, tall = side - 2 * sizes["corner"].length, h - sizes["skirting"].length
            rooms[f"wall-{k}-outside"] = face_room(wide, tall, t, e, ("side", "height"), f"wall {k}")
            rooms[f"wall-{k}-inside"] = face_room(
                side - 2 * self._tabs(s) - t, h - low, t, e, ("side", "height"), f"wall {k}"
            )
        return rooms

    def _strip(self, s: Situation, sizes: Sizes, walls: list[int], number: int) -> Piece:
        """Walls side by side with their feet below and the tab at the end, as they lie with the outside up."""
        side, h, foot, tab = (sizes[n].length for n in ("side", "height", "foot", "tab"))
        theta, t = self._theta(sizes), s.paper.caliper
        cut = foot * math.tan(theta / 2) + t  # a foot's corners stay clear of its neighbours
        panels, folds = [], []
        for k, wall in enumerate(walls):
            x0, x1 = k * side, (k + 1) * side
            shape, window = rectangle(x0, foot, x1, foot + h), self._window(s, sizes, wall, (x0, x1))
            panels.append(Panel(f"wall-{wall}", f"wall {wall}", shape, window=window))
            under = (x0 + cut, 0.0), (x1 - cut, 0.0), (x1 - t, foot), (x0 + t, foot)
            panels.append(Panel(f"foot-{wall}", f"foot {wall}", under))
            folds.append(Fold(f"wall-{wall}", f"foot-{wall}", -math.pi / 2))
            if k:
                folds.append(Fold(f"wall-{walls[k - 1]}", f"wall-{wall}", -theta))
        x1, bevel = len(walls) * side, min(inches(1 / 16), h / 6)
        low = foot + self._floor_level(s, sizes)
        panels.append(
            Panel("tab", "tab", ((x1, low), (x1 + tab, low + bevel), (x1 + tab, foot + h - bevel), (x1, foot + h)))
        )
        folds.append(Fold(f"wall-{walls[-1]}", "tab", -theta, settle=self._tabs(s) / math.sin(max(theta, 0.3))))
        flags = tuple(ScoreFlag("x", (k + 1) * side, "side", k + 1.0) for k in range(len(walls)))
        return build_piece(
            f"{s.element}.walls-{number}", f"{s.name}, walls {walls[0]} to {walls[-1]}" if len(walls) > 1
            else f"{s.name}, wall {walls[0]}", s.paper, panels, folds,
            flags=(*flags, ScoreFlag("y", foot, "foot", 1.0)),
            note="Feet under the base, tab inside the next wall. Inner facings go in before the ring is closed, outer "
            "ones after.",
        )  # fmt: skip

    def _window(self, s: Situation, sizes: Sizes, wall: int, across: tuple[float, float]) -> tuple[Point, ...]:
        """The window of a wall that lies from one place to another across its strip, mm; nothing in a door."""
        if sizes["windows"].value == "none" or (sizes["windows"].value == "but one" and wall == 1):
            return ()
        edge, foot, h = (sizes[n].length for n in ("pane", "foot", "height"))
        low = foot + self._floor_level(s, sizes)
        return rectangle(across[0] + edge, low + edge, across[1] - edge, foot + h - edge)

    def _plate(self, s: Situation, sizes: Sizes) -> tuple[Piece, Point]:
        """The base, wall 1 on its right; and its middle."""
        ring = tuple(Regular(int(sizes["sides"].length), sizes["plate"].length).corners)
        panels, middle = moved([Panel("plate", "base", ring)])
        piece = build_piece(
            f"{s.element}.base", f"{s.name}, base", board_of(s.paper, sizes["board"].length), panels,
            note="" if sizes["wrap"].value == "none" else "Wrapped before the feet are glued.",
        )  # fmt: skip
        return piece, middle

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        """The first strip on its foot, the base on it, the other strips under the base."""
        s, t = situation, situation.paper.caliper
        side, foot, theta = sizes["side"].length, sizes["foot"].length, self._theta(sizes)
        plate, middle = self._plate(s, sizes)
        groups = self._groups(sizes)
        strips = [self._strip(s, sizes, walls, k) for k, walls in enumerate(groups, 1)]
        inward = self._apothem(s, sizes) - FOLD_SHIFT * t  # from a foot's score to the middle
        skin, flat = self._skin(s, sizes), half_flat(int(sizes["sides"].length))
        at, away = (side / 2, foot - inward), sizes["board"].length / 2 + skin + t / 2 + s.glue
        instances = [
            Instance("walls-1", strips[0].id, Root(f"foot-{groups[0][0]}", at, (0.0, 1.0), 1)),
            Instance("base", plate.id, Root("plate", middle, (1.0, 0.0)),
                     Attach("walls-1", f"foot-{groups[0][0]}", at, (0.0, 1.0), -1, away)),
        ]  # fmt: skip
        for k, walls in enumerate(groups[1:], 2):
            turn = theta * (walls[0] - 1)
            up = (math.cos(turn), math.sin(turn))
            on = Attach("base", "plate", middle, up, -1, away)
            instances.append(Instance(f"walls-{k}", strips[k - 1].id, Root(f"foot-{walls[0]}", at, (0.0, 1.0)), on))
        wrap = None
        if skin:
            many, long, thick = (sizes[name].length for name in ("sides", "plate", "board"))
            wrap = wrapping(s, Board(int(many), long, thick, "base", "plate", middle), str(sizes["wrap"].value))
            instances.insert(2, wrap[1])
        where = {wall: f"walls-{k}" for k, walls in enumerate(groups, 1) for wall in walls}
        under = {wall: ("wrap", f"turn-{wall}") if skin else ("base", "plate") for wall in where}
        joints = [
            Joint((where[wall], f"foot-{wall}"), under[wall], label="under the base", on_contents=True,
                  spots=(glued_foot(strips[k].panel(f"foot-{wall}"), inward - sizes["plate"].length * flat),))
            for k, walls in enumerate(groups) for wall in walls
        ]  # fmt: skip
        if skin:
            joints += [Joint((where[w[0]], f"foot-{w[0]}"), ("base", "plate"), "free") for w in groups]
        joints += [Joint((where[wall], f"foot-{wall}"), HOST, act="feet") for walls in groups for wall in walls]
        ends = []
        for k in range(1, len(groups) + 1):
            mate = groups[k % len(groups)][0]
            act = f"close the ring at wall {mate}"
            ends.append(act)
            joints.append(Joint((f"walls-{k}", "tab"), (where[mate], f"wall-{mate}"), act=act, seam=True))
        first = joints[0].name
        hints = tuple(Hint(first, act, "the base gives the walls their shape") for act in ends)
        if skin:
            hints += tuple(Hint(TURN_INS, j.name, "the feet lie over the turn-ins") for j in joints if j.on_contents)
        trims, dress = [], [*instances]
        ring = Ring(theta, side, sizes["height"].length, foot, groups, where)
        if sizes["skirting"].length:
            trims.append(skirting(s, ring, sizes["skirting"].length))
        if sizes["corner"].length:
            trims.append(corner_strips(s, ring, sizes["corner"].length, sizes["skirting"].length))
        more: list[Piece] = []
        if wrap is not None:
            more.append(wrap[0])
            joints += wrap[2]
        for pieces, copies, glued in trims:
            more += pieces
            dress += copies
            joints += glued
            hints += tuple(Hint(act, one.name, "the ring is closed first") for act in ends for one in glued[:1])
        mounts = self._mounts(s, sizes, plate, middle, strips, where)
        return Part(
            s.element, s.name, (*strips, plate, *more), tuple(dress), tuple(mounts),
            gaps=tuple(self._gaps(s, sizes, strips, plate)),
            pockets=(Pocket("prism", ("plate",), "up", sizes["across"].length,
                            sizes["height"].length - self._floor_level(s, sizes)),),
            joints=tuple(joints), hints=hints,
        )  # fmt: skip

    def _mounts(
        self, s: Situation, sizes: Sizes, plate: Piece, middle: Point, strips: list[Piece], where: Mapping[int, str]
    ) -> list[Mount]:
        t, n, board = s.paper.caliper, int(sizes["sides"].length), sizes["board"].length
        h, foot = sizes["height"].length, sizes["foot"].length
        up, labels = (0.0, 1.0), dict(self.faces)
        outline = tuple((x - middle[0], y - middle[1]) for x, y in plate.panels[0].outline)
        skin = self._skin(s, sizes)
        top = h + FOLD_SHIFT * t - t / 2 - s.glue - board / 2 - skin  # of the walls over the middle of the board
        over: tuple[tuple[str, str], ...] = (("wrap", "sheet"),) if skin else ()
        mounts = [
            Mount(
                "floor",
                "floor, inside",
                "base",
                "plate",
                1,
                middle,
                up,
                outline,
                board / 2 + skin,
                holds=True,
                over=over,
            ),
            Mount("mouth", "over the mouth", "base", "plate", 1, middle, up, outline, top, True, h + ABOVE),
        ]
        low = foot + self._floor_level(s, sizes)
        groups = self._groups(sizes)
        takes = {groups[(k + 1) % len(groups)][0]: f"walls-{k + 1}" for k in range(len(groups))}
        for wall in range(1, n + 1):
            name = where[wall]
            tabs = self._tabs(s) if wall in takes else 0.0
            over = ((takes[wall], "tab"),) if wall in takes else ()
            piece = strips[int(name.split("-")[1]) - 1]
            panel = piece.panel(f"wall-{wall}")
            x0, x1 = panel.outline[0][0], panel.outline[1][0]
            less = self._tabs(s) + t / 2
            leg, low_ = sizes["corner"].length, foot + sizes["skirting"].length
            mounts.append(
                face_mount(f"wall-{wall}-outside", labels[f"wall-{wall}-outside"], name, panel, 1, t,
                           shape=(x0 + leg, low_, x1 - leg, foot + h))
            )  # fmt: skip
            mounts.append(
                face_mount(f"wall-{wall}-inside", labels[f"wall-{wall}-inside"], name, panel, -1,
                           t + 2 * tabs, up, (x0 + less, low, x1 - less, foot + h), over)
            )  # fmt: skip
        return mounts

    def _gaps(self, s: Situation, sizes: Sizes, strips: list[Piece], plate: Piece) -> list[Gap]:
        e, t, n = s.element, s.paper.caliper, int(sizes["sides"].length)
        side, h, foot, tab, base = (sizes[m].length for m in ("side", "height", "foot", "tab", "plate"))
        flat = half_flat(n)
        gaps = []
        for k, strip in enumerate(strips):
            many = len(self._groups(sizes)[k])
            across = (lever_term("walls", many * side, e, "side", float(many)), lever_term("tab", tab, e, "tab"))
            along = (lever_term("wall", h, e, "height"), lever_term("foot", foot, e, "foot"))
            gaps.append(sheet_gap(e, strip.name, s.paper, strip.size, (across, along)))
        follows = Span((
            Term("middle to wall", self._apothem(s, sizes), Lever(e, "side", flat)), Term("half a sheet", -t / 2),
            Term("middle to the edge of the base", -base * flat, Lever(e, "plate", -flat)),
            Term("its wrapping", -self._skin(s, sizes)),
        ))  # fmt: skip
        gaps += [
            fit_gap(s, FOLLOWS, (f"{s.name}, base", "walls"), follows),
            fit_gap(s, uses.GLUE, (f"{s.name}, foot", "glue"), span("foot", foot, e, "foot")),
            fit_gap(s, uses.GLUE, (f"{s.name}, tab", "glue"), span("tab", tab, e, "tab")),
        ]
        for name, own in (("content-width", "across"), ("content-height", "height")):
            content = given_length(s.given, name)
            if content is not None:
                less = 2 * self._tabs(s) if name == "content-width" else self._floor_level(s, sizes)
                left = Span(
                    (Term(own, sizes[own].length), Term("tabs or base", -less), Term("what it holds", -content))
                )
                gaps.append(fit_gap(s, uses.AT_HAND, (f"{s.name}, inside", f"what it holds, {own}"), left))
        return gaps


FAMILY = Prism()
