"""Tier wrap: trays glued to the panels of a wrapper, each a tray's height lower, that rolls them into one column."""

from __future__ import annotations

import math
from collections.abc import Mapping

from msgspec import Struct
from msgspec.structs import replace

from yawning_lantern.assembly import (
    Attach,
    Hint,
    Instance,
    Joint,
    Mount,
    Need,
    Part,
    Relation,
    Room,
    Root,
    Side,
    Swing,
    Term,
    Ware,
    box_sides,
    span,
    uses,
)
from yawning_lantern.errors import ParameterError
from yawning_lantern.measure import inches
from yawning_lantern.pattern import Fold, Panel, Piece, ScoreFlag, build_piece, rectangle
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes, Start
from yawning_lantern.structures.kit.lying import ABOVE, count_of, face_mount, fit_gap
from yawning_lantern.structures.kit.shell import (
    FOLD_SHIFT,
    TAB_TAKERS,
    corner_joints,
    inner_reach,
    lever_term,
    shell_piece,
)
from yawning_lantern.structures.kit.solving import (
    CONTENT_PARAMETERS,
    HEADROOM,
    as_given,
    centred,
    contents_gaps,
    contents_of,
    down_to_cut,
    face_room,
    given_length,
    length_of,
    positive,
    sheet_gap,
    up_to_cut,
    up_to_score,
    word_of,
)

MOST = 12  # trays at most
PLAY = inches(1 / 16)
"""Play of a wrapper panel over the stack, mm. Common practice, no source."""
BOW = inches(10)
"""What a bow takes of a ribbon, mm. Common practice, no source."""


LAID = 0.05
"""What a sheet takes more than its thickness where a strip is rolled around itself, mm. From memory."""


def within_ends(k: int) -> tuple[int, int]:
    """How many sheets of the wrapper's own earlier turns panel k, counted from 0, goes around at its start and end."""
    return max(k - 1, 0) // 4, (k + 1) // 4


class Wrapper(Struct, frozen=True):
    """The wrapper's panels: `widths` score to score, `foot` the height of each panel's lower edge, `top` of all, mm."""

    widths: tuple[float, ...]
    foot: tuple[float, ...]
    top: float
    pitch: float

    @property
    def starts(self) -> list[float]:
        """Where each panel begins along the strip, mm."""
        at = [0.0]
        for width in self.widths[:-1]:
            at.append(at[-1] + width)
        return at


def outside(k: int) -> str:
    """The face that panel k of the wrapper, counted from 0, shows to the outside."""
    return f"panel-{k + 1}-outside"


class TierWrap:
    """N trays and the wrapper that stacks them. The last panel carries the lowest tray and lies outermost."""

    id = "tier-wrap"
    name = "Tier wrap"
    about = "A wrapper rolls up and stacks its trays into one column; unrolled, they stand as a staircase."
    shelf = "Boxes"
    relation: Relation = "inside"
    headline = ("width", "height", "trays")
    starts: tuple[Start, ...] = ("size", "contents", "sheet")
    faces = (
        ("mouth", "over the column"),
        *((f"tray-{k + 1}", f"tray {k + 1}, floor") for k in range(MOST)),
        *((outside(k), f"panel {k + 1}, outside") for k in range(4 * 4)),
    )
    parameters = (
        Parameter("trays", "Trays", "count", "How many are stacked.", "Size", 2, MOST, default=3),
        Parameter("width", "Tray, width", "length", "Score to score, both ways: trays are square.", least=6.0),
        Parameter("height", "Tray, height", "length", "Score to edge.", least=3.0, scored=True),
        Parameter("turns", "Turns", "count", "How often the wrapper goes around; four trays a turn.", "Wrapper", 1, 4),
        Parameter("play", "Play", "length", "What a panel has over the stack it goes around.", "Wrapper", most=20.0,
                  default=PLAY),
        Parameter("slack", "Slack", "length", "What the wrapper stands above the stack.", "Wrapper", most=100.0),
        Parameter("foot", "Foot free", "length", "What the wrapper stands off the ground.", "Wrapper", most=60.0),
        Parameter("align", "Glue", "word", "Let the roll align the trays, or measure where each goes.", "Wrapper",
                  words=("stack", "measured"), default="stack"),
        *CONTENT_PARAMETERS,
        Parameter("panel", "Panel", "length", "First panel of the wrapper, score to score.", "Wrapper", derived=True),
        Parameter("wrapper-length", "Wrapper, length", "length", "Along the strip.", "Wrapper", derived=True),
        Parameter("wrapper-height", "Wrapper, height", "length", "Foot to head.", "Wrapper", derived=True),
        Parameter("ribbon", "Ribbon", "length", "Once around and a bow.", "Wrapper", derived=True),
    )  # fmt: skip

    def size(self, situation: Situation) -> dict[str, Sized]:
        """Trays and wrapper. Raises ParameterError for turns that leave trays without a panel."""
        s, given, t = situation, situation.given, situation.paper.caliper
        trays = count_of(s, "trays", 3)
        n = int(trays.length)
        sizes: dict[str, Sized] = {
            "trays": trays,
            "play": length_of(given, "play", PLAY),
            "slack": length_of(given, "slack", 0.0),
            "foot": length_of(given, "foot", 0.0),
            "align": word_of(given, "align", "stack"),
            "content-play": length_of(given, "content-play", inches(1 / 8)),
        }
        least = math.ceil(n / 4)
        sizes["turns"] = Sized(int(float(given["turns"])), "given") if "turns" in given else Sized(least, "auto")
        if sizes["turns"].length < least:
            raise ParameterError(
                f"{n} trays need {least} turns: a turn has four panels and a panel carries one tray.",
                "Turns", f"Set the turns to {least}, or take {int(sizes['turns'].length) * 4} trays.",
            )  # fmt: skip
        sizes |= as_given(given, "content-width", "content-depth", "content-height")
        sizes["height"] = self._height(s, sizes, n)
        sizes["width"] = self._width(s, sizes, t)
        positive(sizes["width"].length, "tray's width", "Give the trays more room, or the wrapper less play.")
        positive(sizes["height"].length, "tray's height", "Take fewer trays, or give them more height.")
        wrapper = self._wrapper(s, sizes)
        sizes["panel"] = Sized(wrapper.widths[0], sizes["width"].origin, self._panel(s, sizes, 0))
        sizes["wrapper-length"] = Sized(sum(wrapper.widths), "auto")
        sizes["wrapper-height"] = Sized(wrapper.top, "auto")
        sizes["ribbon"] = Sized(4 * (max(wrapper.widths) + t) + BOW, "auto")
        return sizes

    @staticmethod
    def _inner(s: Situation, axis: int) -> float:
        return max((g.wants(axis) or 0.0 for g in s.guests if g.mount.startswith("tray-")), default=0.0)

    def _height(self, s: Situation, sizes: Sizes, n: int) -> Sized:
        t = s.paper.caliper
        if (own := given_length(s.given, "height")) is not None:
            return Sized(own, "given")
        if "content-height" in sizes:
            return up_to_score(s, sizes["content-height"].length + t / 2 + HEADROOM, "auto")
        tall = [g.need.tall for g in s.guests if g.mount.startswith("tray-") and g.need.height]
        if tall:
            return up_to_score(s, max(tall) + s.glue + t / 2 + HEADROOM, "auto")
        if s.room is not None and s.room.height is not None:
            top = down_to_cut(s, s.room.height.value - s.room.intrudes - HEADROOM, "fill").length  # the wrapper's head
            return down_to_cut(s, (top - sizes["slack"].length) / n - t, "fill")
        return Sized(inches(1), "default")

    def _width(self, s: Situation, sizes: Sizes, t: float) -> Sized:
        if (own := given_length(s.given, "width")) is not None:
            return Sized(own, "given")
        tabs = 2 * (t + s.glue)
        if "content-width" in sizes:
            box = contents_of(sizes)
            assert box is not None
            return up_to_cut(s, max(box[:2]) + t + tabs + sizes["content-play"].length, "auto")
        inner = max(self._inner(s, 0), self._inner(s, 1))
        if inner:
            return up_to_cut(s, inner + t + tabs, "auto")
        if s.room is not None:
            return self._fill(s, sizes, min(s.room.clear(0), s.room.clear(1)) - 2 * s.lid_overhang() - PLAY)
        return Sized(inches(2), "default")

    def _fill(self, s: Situation, sizes: Sizes, most: float) -> Sized:
        """The widest tray whose rolled wrapper is no wider than `most`, mm."""
        width = down_to_cut(s, most - 3 * s.paper.caliper - sizes["play"].length, "fill")
        for _ in range(40):
            if width.length < 6.0 or max(self._across(s, {**sizes, "width": width})) <= most + 1e-6:
                break
            width = down_to_cut(s, width.length - max(s.cut.grid, 0.2), "fill")
        return width

    @staticmethod
    def _panel(s: Situation, sizes: Sizes, k: int) -> float:
        """Exact width of panel k (from 0): core, a sheet, play, and a sheet for every turn on either side of it. mm."""
        t = s.paper.caliper
        core = sizes["width"].length + t + s.glue
        return core + t + sizes["play"].length + sum(within_ends(k)) * (t + LAID)

    @staticmethod
    def _along(s: Situation, wrapper: Wrapper, k: int) -> float:
        """How far along panel k its tray's middle stands, mm: in line with the others, so not in the middle of a panel
        that goes around one sheet more at one of its ends."""
        start, end = within_ends(k)
        return wrapper.widths[k] / 2 + (start - end) * (s.paper.caliper + LAID) / 2

    def _wrapper(self, s: Situation, sizes: Sizes) -> Wrapper:
        n, turns = int(sizes["trays"].length), int(sizes["turns"].length)
        count = max(n, 4 * turns if sizes["turns"].origin == "given" else n)
        widths: list[float] = []
        for k in range(count):
            # from the fourth panel on the strip lies outside its own first turn: rounding must not take the sheet away
            least = widths[k - 2] + s.paper.caliper + LAID if k >= 3 else 0.0
            exact = max(self._panel(s, sizes, k), least)
            # in one turn the last panel ends free: nothing is scored beyond it and nothing lies within it, so its play
            # may give what the trimmer cannot
            free = count <= 4 and k == count - 1
            last = free and down_to_cut(s, exact, "auto").length >= exact - sizes["play"].length
            widths.append((down_to_cut if last else up_to_cut)(s, exact, "auto").length)
        pitch = sizes["height"].length + s.paper.caliper
        foot = []
        for k in range(count):
            lowest = min(4 * (k // 4 + 1), n)  # the lowest tray of this turn
            low = up_to_cut(s, (n - lowest) * pitch if k < n else 0.0, "auto").length
            foot.append(max(low, sizes["foot"].length))
        top = up_to_cut(s, n * pitch + sizes["slack"].length, "auto").length
        return Wrapper(tuple(widths), tuple(foot), top, pitch)

    def _slack(self, s: Situation, sizes: Sizes) -> float:
        """What the wrapper stands above the stack, its rounding included, mm."""
        wrapper = self._wrapper(s, sizes)
        return wrapper.top - wrapper.pitch * sizes["trays"].length

    def _reaches(self, s: Situation, sizes: Sizes) -> tuple[float, float, float, float]:
        """From the middle of the lowest tray to the outside of the column on its right, back, left and front, mm.

        The wrapper is followed from the panel that is glued to the back of that tray, both ways round: every fold turns
        a quarter, and the panels' play lies where they are not glued.
        """
        t, n = s.paper.caliper, int(sizes["trays"].length)
        wrapper = self._wrapper(s, sizes)
        widths = wrapper.widths
        bare = sizes["width"].length / 2 + FOLD_SHIFT * t + t / 2
        reaches = [bare] * 4  # right, back, left, front
        ways = ((1.0, 0.0), (0.0, 1.0), (-1.0, 0.0), (0.0, -1.0))
        back = sizes["width"].length / 2 + FOLD_SHIFT * t + t + s.glue
        before = self._along(s, wrapper, n - 1)
        beyond = widths[n - 1] - before
        for start, order, turn in ((-before, range(n - 2, -1, -1), 1), (beyond, range(n, len(widths)), -1)):
            side, x, y = 1, start, back
            reaches[1] = max(reaches[1], back + t / 2 + s.bulk_on(outside(n - 1)))
            reaches[0], reaches[2] = max(reaches[0], start), max(reaches[2], -start)
            for k in order:
                side = (side + turn) % 4  # the next panel stands on this side and runs on from here
                nx, ny = ways[side]
                dressed = FOLD_SHIFT * t + t / 2 + s.bulk_on(outside(k))
                reaches[side] = max(reaches[side], x * nx + y * ny + dressed)
                dx, dy = ways[(side + turn) % 4]
                if k < n:  # its tray stands on its panel, a sheet and the glue inside it
                    inward = sizes["width"].length / 2 + FOLD_SHIFT * t + t + s.glue
                    back_to = widths[k] - self._along(s, wrapper, k)  # the panel is followed from its end
                    cx, cy = x + dx * back_to - nx * inward, y + dy * back_to - ny * inward
                    for other, (ox, oy) in enumerate(ways):
                        reaches[other] = max(reaches[other], cx * ox + cy * oy + bare)
                x, y = x + dx * widths[k], y + dy * widths[k]
                for other, (ox, oy) in enumerate(ways):
                    reaches[other] = max(reaches[other], x * ox + y * oy)
        return reaches[0], reaches[1], reaches[2], reaches[3]

    def _across(self, s: Situation, sizes: Sizes) -> tuple[float, float]:
        """Outside of the rolled column left to right and front to back, mm."""
        right, back, left, front = self._reaches(s, sizes)
        return right + left, back + front

    def _sides(self, s: Situation, sizes: Sizes, *more: Term) -> tuple[Side, ...]:
        """The outside of the column, each side by itself."""
        half = sizes["width"].length / 2
        return box_sides(
            span("half a tray", half, s.element, "width", 0.5).plus(Term("wrapper and play", reach - half), *more)
            for reach in self._reaches(s, sizes)
        )

    def need(self, situation: Situation, sizes: Sizes) -> Need:
        """The column, wrapper included."""
        s, e, t = situation, situation.element, situation.paper.caliper
        settled = s.room is not None or sizes["width"].origin in ("given", "auto")
        high = s.room is not None or sizes["height"].origin in ("given", "auto")
        n = int(sizes["trays"].length)
        height = span(f"trays ({n})", n * sizes["height"].length, e, "height", float(n)).plus(
            Term("floors", n * t), Term("slack", self._slack(s, sizes))
        )
        return Need(
            "inside", uses.TRAY, self._sides(s, sizes, Term("its lid", s.lid_overhang())) if settled else (),
            self._across(s, sizes) if settled else (None, None), t,
            height=height.plus(Term("its lid", s.lid_rise())) if high else None,
            wall=sizes["wrapper-height"].length if high else None, play=PLAY,
            want=(inches(1 / 32), inches(1 / 4)),
        )  # fmt: skip

    def rooms(self, situation: Situation, sizes: Sizes) -> dict[str, Room]:
        """Every tray's floor, and the outside of the column for a lid."""
        s, e, t = situation, situation.element, situation.paper.caliper
        w, h, n = sizes["width"].length, sizes["height"].length, int(sizes["trays"].length)
        tabs = t + s.glue
        inner = box_sides(
            inner_reach(e, "tray", w, "width", t, tabs if side in TAB_TAKERS else 0.0)
            for side in ("right", "back", "left", "front")
        )
        clear_height = span("tray wall", h, e, "height").plus(Term("half a sheet", -t / 2))
        floor = Room("inside", uses.TRAY, inner, (w, w), t, tabs, clear_height, wall=h)
        rooms = {f"tray-{k + 1}": floor for k in range(n)}
        panel, (wide, deep) = sizes["panel"].length, self._across(s, sizes)
        wrapper = self._wrapper(s, sizes)
        for k in self._shown(wrapper):
            tall = wrapper.top - wrapper.foot[k]
            rooms[outside(k)] = face_room(wrapper.widths[k], tall, t, e, ("width", "height"), f"panel {k + 1}",
                                          (1.0, float(n)))  # fmt: skip
        rooms["mouth"] = Room("over", uses.LID, self._sides(s, sizes), (wide - t, deep - t), t, wall=min(h, panel))
        return rooms

    @staticmethod
    def _shown(wrapper: Wrapper) -> range:
        """The panels that nothing lies over when it is rolled: the last turn."""
        return range(max(len(wrapper.widths) - 4, 0), len(wrapper.widths))

    def _pieces(self, s: Situation, sizes: Sizes, wrapper: Wrapper) -> tuple[Piece, Piece]:
        e, w, h = s.element, sizes["width"].length, sizes["height"].length
        flags = tuple(ScoreFlag(a, at, p, 1.0) for a in ("x", "y") for at, p in ((h, "height"), (h + w, "width")))
        tray = shell_piece(
            f"{e}.tray", f"{s.name}, tray", s.paper, ("base", "base"), (w, w, h), 1, "wall", flags, s.glue
        )
        tray = replace(tray, quantity=int(sizes["trays"].length))
        panels = [
            Panel(f"panel-{k + 1}", f"panel {k + 1}", rectangle(x, foot, x + width, wrapper.top))
            for k, (x, width, foot) in enumerate(zip(wrapper.starts, wrapper.widths, wrapper.foot, strict=True))
        ]
        folds = [Fold(f"panel-{k + 1}", f"panel-{k + 2}", math.pi / 2) for k in range(len(panels) - 1)]
        how = (
            "Glue the top tray and the lowest one, roll up, and let the others find their place between them."
            if sizes["align"].value == "stack"
            else "Mark where each tray goes, a tray and a sheet lower from panel to panel."
        )
        strip = build_piece(f"{e}.wrapper", f"{s.name}, wrapper", s.paper, panels, folds, note=how)
        return tray, strip

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        """The lowest tray stands; the wrapper hangs on it by its last tray panel and carries the others."""
        s, e, t = situation, situation.element, situation.paper.caliper
        w, h, n = sizes["width"].length, sizes["height"].length, int(sizes["trays"].length)
        wrapper = self._wrapper(s, sizes)
        tray, strip = self._pieces(s, sizes, wrapper)
        middle, away = (h + w / 2, h + w / 2), t + s.glue
        wall = (middle[0], h + w + h / 2)  # the middle of a tray's back wall

        def on_panel(k: int) -> tuple[float, float]:
            """Where the middle of tray k's wall lies on its panel."""
            return wrapper.starts[k] + self._along(s, wrapper, k), (n - 1 - k) * wrapper.pitch + t / 2 + h / 2

        instances = [
            Instance(f"tray-{n}", tray.id, Root("base", middle)),
            Instance(
                "wrapper", strip.id, Root(f"panel-{n}", on_panel(n - 1), (0.0, 1.0), 1),
                Attach(f"tray-{n}", "wall-back", wall, (0.0, 1.0), -1, away),
            ),
        ]  # fmt: skip
        for k in range(n - 1):
            on = Attach("wrapper", f"panel-{k + 1}", on_panel(k), (0.0, 1.0), 1, away)
            instances.append(Instance(f"tray-{k + 1}", tray.id, Root("wall-back", wall, (0.0, 1.0), -1), on))
        count = len(wrapper.widths)
        order = [*range(count - 2, n - 2, -1), *range(n - 2, -1, -1)]
        swings = [
            Swing(f"roll-{k + 1}", f"{s.name} unrolls at score {k + 1}",
                  (("wrapper", f"panel-{k + 1}/panel-{k + 2}", 0.0),))
            for k in order
        ]  # fmt: skip
        up, top = (0.0, 1.0), wrapper.top - t / 2
        mounts = [
            Mount("mouth", "over the column", f"tray-{n}", "base", 1, middle, up, centred(w, w), top, True, h + ABOVE),
            *(
                Mount(
                    f"tray-{k + 1}",
                    f"tray {k + 1}, floor",
                    f"tray-{k + 1}",
                    "base",
                    1,
                    middle,
                    up,
                    centred(w, w),
                    t / 2,
                    holds=True,
                )
                for k in range(n)
            ),
            *(
                face_mount(outside(k), f"panel {k + 1}, outside", "wrapper", strip.panel(f"panel-{k + 1}"), -1, t)
                for k in self._shown(wrapper)
            ),
        ]
        first = wrapper.widths[0]
        around = span("panel", first, e, "width").plus(  # it is as much wider as the tray
            lever_term("tray", -w, e, "width", -1.0),
            Term("tray's sheet and glue", -t - s.glue),
            Term("wrapper's sheet", -t),
        )
        gaps = [
            fit_gap(s, uses.WRAP, (f"{s.name}, panel 1", "stack"), around, (0.0, sizes["play"].length + s.cut.grid)),
            fit_gap(
                s,
                uses.STACK,
                (f"{s.name}, wrapper", f"{n} trays"),
                span("wrapper", wrapper.top, e, "height", float(n)) - span("trays", n * (h + t), e, "height", float(n)),
            ),
            sheet_gap(
                e,
                strip.name,
                s.paper,
                strip.size,
                (
                    span("wrapper length", strip.size[0], e, "width", float(count)).terms,
                    span("wrapper height", strip.size[1], e, "height", float(n)).terms,
                ),
            ),
        ]
        gaps += contents_gaps(e, s.name, sizes, rooms["tray-1"])
        corners = [joint for k in range(n) for joint in corner_joints(f"tray-{k + 1}")]
        rolled, hints = _on_wrapper(n, sizes["align"].value == "stack")
        return Part(
            e, s.name, (tray, strip), tuple(instances), tuple(mounts), tuple(swings), tuple(gaps),
            contents=contents_of(sizes), joints=(*corners, *rolled), hints=hints,
            wares=(Ware(f"{s.name}, ribbon", 1, sizes["ribbon"].length),),
        )  # fmt: skip


def _on_wrapper(n: int, aligned: bool) -> tuple[tuple[Joint, ...], tuple[Hint, ...]]:
    """How trays get on the wrapper: where the stack is to align itself, the top one and the lowest first, the others
    with the wrapper rolled around them."""
    ends = ["tray 1 on the wrapper", f"the wrapper on tray {n}"]
    joints = [
        Joint((f"tray-{k + 1}", "wall-back"), ("wrapper", f"panel-{k + 1}"), act=f"tray {k + 1} on the wrapper",
              label="with the wrapper rolled up: it finds its place between the others" if aligned and k else "",
              by_eye=aligned and k > 0)
        for k in range(n - 1)
    ]  # fmt: skip
    joints.append(Joint(("wrapper", f"panel-{n}"), (f"tray-{n}", "wall-back"), act=ends[1]))
    words = "top and lowest tray hold the roll in which the others find their place"
    hints = (
        [Hint(end, f"tray {k + 1} on the wrapper", words) for k in range(1, n - 1) for end in ends] if aligned else []
    )
    return tuple(joints), tuple(hints)


FAMILY = TierWrap()
