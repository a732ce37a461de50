"""Drawer sleeve: trays that slide out of tubes of four panels and a tab, one or several on one another."""

from __future__ import annotations

import math
from collections.abc import Mapping
from itertools import pairwise

from msgspec.structs import replace

from yawning_lantern.assembly import (
    Attach,
    Gap,
    Instance,
    Joint,
    Lever,
    Mount,
    Need,
    Part,
    Pocket,
    Room,
    Root,
    Span,
    Swing,
    Term,
    box_sides,
    span,
    uses,
)
from yawning_lantern.assembly.room import SIDE_NAMES
from yawning_lantern.assembly.uses import use_of
from yawning_lantern.errors import ParameterError
from yawning_lantern.measure import at_most, give_at_most, inches, snap, told
from yawning_lantern.pattern import Fold, Panel, Piece, ScoreFlag, build_piece, rectangle
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes
from yawning_lantern.structures.kit.lying import TAB, count_of, face_mount, fit_gap, notch, notched, usual_length
from yawning_lantern.structures.kit.open_box import OpenBox
from yawning_lantern.structures.kit.shell import FOLD_SHIFT, corner_joints, inner_reach, lever_term, shell_piece
from yawning_lantern.structures.kit.solving import (
    CONTENT_PARAMETERS,
    HEADROOM,
    centred,
    contents_gaps,
    contents_of,
    down_to_cut,
    face_room,
    given_length,
    length_of,
    sheet_gap,
    up_to_cut,
    up_to_score,
)

MOST = 4  # drawers at most
PLAY = inches(1 / 16)
"""How much wider and higher a sleeve is inside than its drawer, mm. Common practice (1/16), no source."""
SPARE = inches(1 / 16)
"""What a sleeve that fills a box leaves free of it in all, mm. Common practice, no source."""
NOTCH = inches(3 / 4)
"""The thumb notch across, mm. Common practice, no source."""
OUT = 0.85
"""How far a drawer is drawn, of its depth: no further, so that it does not fall. From memory."""
SLIDES = use_of(
    "slides", "Drawer slides in its sleeve", (0.0, 1 / 128, 3 / 16), {"easy": (1 / 64, 3 / 16)}, drawn=False
)
"""What is left beside a drawer, and over it."""
_PANELS = ("bottom", "left", "top", "right")


class DrawerSleeve(OpenBox):
    """The sleeve is as long as the drawer is deep; its seam tab lies inside, beside the drawer."""

    id = "drawer-sleeve"
    name = "Drawer sleeve"
    about = "A tray that slides out of a tube of four panels, or a stack of them; sized around the drawer."
    shelf = "Boxes"
    usual = (inches(3), inches(3), inches(1))
    starts = ("size", "contents")
    headline = ("width", "depth", "height", "drawers")
    faces = (
        ("floor", "floor of the drawer"),
        *((f"floor-{k}", f"floor of drawer {k}") for k in range(2, MOST + 1)),
        ("front", "front of the drawer"),
        *((f"front-{k}", f"front of drawer {k}") for k in range(2, MOST + 1)),
        ("top", "top, outside"), ("left-outside", "left side, outside"), ("right-outside", "right side, outside"),
    )  # fmt: skip
    parameters = (
        Parameter("width", "Drawer, width", "length", "Score to score, left to right.", least=15.0),
        Parameter("depth", "Drawer, depth", "length", "Score to score, front to back.", least=15.0),
        Parameter("height", "Drawer, height", "length", "Score to edge.", least=6.0, scored=True),
        Parameter("drawers", "Drawers", "count", "On one another.", "Size", 1, MOST, default=1),
        Parameter("play", "Play", "length", "How much wider and higher the sleeve is inside.", "Sleeve", 0.0, 25.0,
                  default=PLAY),
        Parameter("tab", "Seam tab", "length", "Glued inside the right side.", "Sleeve", 4.0, 60.0),
        Parameter("notch", "Thumb notch", "length", "Across, in the front edge of the top; 0 for none.", "Sleeve", 0.0,
                  60.0, default=NOTCH),
        *CONTENT_PARAMETERS,
        Parameter("sleeve-width", "Sleeve, width", "length", "Score to score.", "Sleeve", derived=True),
        Parameter("sleeve-height", "Sleeve, height", "length", "Score to score.", "Sleeve", derived=True),
        Parameter("sleeve-depth", "Sleeve, depth", "length", "From end to end.", "Sleeve", derived=True),
    )  # fmt: skip

    def size(self, situation: Situation) -> dict[str, Sized]:
        """The drawer, and the sleeve around it. Raises ParameterError where a notch or tab has no room."""
        s = situation
        sizes = super().size(s)
        sizes["drawers"] = count_of(s, "drawers", 1)
        sizes["play"] = length_of(s.given, "play", PLAY)
        sizes["tab"] = usual_length(s, "tab", TAB, sizes["height"].length - 2.0, 4.0, scored=True)
        sizes["notch"] = usual_length(s, "notch", NOTCH, min(sizes["width"].length / 3, sizes["depth"].length))
        t, play = s.paper.caliper, sizes["play"].length
        w, d, h = (sizes[n].length for n in ("width", "depth", "height"))
        bulk = max(s.bulk_on(name) for name in self._fronts(sizes))
        sizes["sleeve-width"] = up_to_score(s, w + t + self._beside(s) + t + play, "auto")
        sizes["sleeve-height"] = up_to_score(s, h + t / 2 + FOLD_SHIFT * t + t + play, "auto")
        sizes["sleeve-depth"] = up_to_cut(s, d + t, "auto")
        if sizes["tab"].length > sizes["sleeve-height"].length - t:
            raise ParameterError(
                f"A tab of {told(sizes['tab'].length)} is higher than the sleeve.", "Seam tab",
                f"Give {at_most(sizes['sleeve-height'].length - t)}.",
            )  # fmt: skip
        if sizes["notch"].length > w - 6.0 or sizes["notch"].length > sizes["sleeve-depth"].length:
            raise ParameterError(
                f"A notch of {told(sizes['notch'].length)} takes the whole front, or half of the top and more.",
                "Thumb notch",
                give_at_most(min(w - 6.0, sizes["sleeve-depth"].length), 0.0, "Make the drawer wider."),
            )  # fmt: skip
        if bulk > d / 2:
            raise ParameterError(f"What is on the front stands out {told(bulk)}.", "Front", "Put it elsewhere.")
        return sizes

    @staticmethod
    def _beside(s: Situation) -> float:
        """What the seam tab takes of the width, mm."""
        return s.paper.caliper + s.glue

    @staticmethod
    def _fronts(sizes: Sizes) -> tuple[str, ...]:
        n = int(sizes["drawers"].length) if "drawers" in sizes else 1
        return ("front", *(f"front-{k}" for k in range(2, n + 1)))

    def _bulk_side(self, s: Situation, side: str, face: str) -> float:
        # what is outside the drawer is on its front, beyond the sleeve
        return s.paper.caliper + s.glue if face == "inside" and side in self.takers else 0.0

    def _fill(self, s: Situation, axis: int) -> Sized:
        """As wide or deep as lets the sleeve go where the face has room, mm."""
        assert s.room is not None
        t, play = s.paper.caliper, length_of(s.given, "play", PLAY).length
        free = s.room.clear(axis) - SPARE
        if axis:
            fronts = max(s.bulk_on(name) for name in ("front", *(f"front-{k}" for k in range(2, MOST + 1))))
            sleeve = down_to_cut(s, free - 2 * FOLD_SHIFT * t - fronts, "fill").length
            return down_to_cut(s, sleeve - t, "fill")
        sides = s.bulk_on("left-outside") + s.bulk_on("right-outside")
        sleeve = snap(free - sides - (1 + 2 * FOLD_SHIFT) * t, s.score.grid, "down", s.score.offset).value
        return down_to_cut(s, sleeve - 2 * t - self._beside(s) - play, "fill")

    def _height(self, s: Situation, sheet: float | None) -> Sized:
        given, t = s.given, s.paper.caliper
        told = given_length(given, "height") is not None or given_length(given, "content-height") is not None
        if told or s.room is None or s.room.height is None or s.on("floor"):
            return super()._height(s, sheet)
        n, play = int(count_of(s, "drawers", 1).length), length_of(given, "play", PLAY).length
        clear = (s.room.height.value - s.room.intrudes - HEADROOM - s.bulk_on("top")) / n
        most = clear - (2 * FOLD_SHIFT + 1) * t - s.glue - (1.5 + FOLD_SHIFT) * t - play - s.score.grid
        exact = min(most, self.usual[2])
        return Sized(snap(exact, s.score.grid, "down").value, "fill", exact)

    def _step(self, s: Situation, sizes: Sizes) -> float:
        """From the bottom of one sleeve to that of the next, mm."""
        t = s.paper.caliper
        return sizes["sleeve-height"].length + 2 * FOLD_SHIFT * t + t + s.glue

    def need(self, situation: Situation, sizes: Sizes) -> Need:
        """The outside of the sleeves, and what is on top; the drawers come out in front."""
        s, e, t = situation, situation.element, situation.paper.caliper
        need = super().need(s, sizes)
        if not need.sides or need.height is None:
            return replace(need, sides=(), nominal=(None, None), height=None, wall=None)
        w, d = sizes["sleeve-width"].length, sizes["sleeve-depth"].length
        across = span("sleeve", w / 2, e, "width", 0.5).plus(Term("sheet and bend", (0.5 + FOLD_SHIFT) * t))
        behind = span("sleeve", d / 2, e, "depth", 0.5).plus(Term("wall's bend", FOLD_SHIFT * t))
        fronts = Term("bulk on the front", max(s.bulk_on(name) for name in self._fronts(sizes)))
        right, left = (across.plus(Term("bulk outside", s.bulk_on(f"{side}-outside"))) for side in ("right", "left"))
        sides = box_sides((right, behind, left, behind.plus(fronts)))
        n = int(sizes["drawers"].length)
        high = n * self._step(s, sizes) - s.glue
        height = Span((Term("sleeves", high, Lever(e, "height", float(n))), Term("bulk on top", s.bulk_on("top"))))
        return replace(need, sides=sides, nominal=(w, d), height=height, wall=None)

    def rooms(self, situation: Situation, sizes: Sizes) -> dict[str, Room]:
        """The floor and front of every drawer, the sleeve's top and sides."""
        s, e, t = situation, situation.element, situation.paper.caliper
        w, d, h = (sizes[n].length for n in ("width", "depth", "height"))
        inner = box_sides(
            inner_reach(e, "drawer", sizes[n].length, n, t, self._bulk_side(s, side, "inside"))
            for side, n in zip(SIDE_NAMES, ("width", "depth", "width", "depth"), strict=True)
        )
        clear = span("drawer's wall", h, e, "height").plus(Term("half a sheet", -t / 2))
        bulk = max(self._bulk_side(s, side, "inside") for side in SIDE_NAMES)
        floor = Room("inside", uses.TRAY, inner, (w, d), t, bulk, clear, wall=h)
        front = face_room(w, h, t, e, ("width", "height"), "front")
        rooms = {"floor": floor, "front": front}
        for k in range(2, int(sizes["drawers"].length) + 1):
            rooms[f"floor-{k}"], rooms[f"front-{k}"] = floor, front
        wide, deep = sizes["sleeve-width"].length, sizes["sleeve-depth"].length
        notched = sizes["notch"].length / 2
        rooms["top"] = face_room(wide, deep - 2 * notched, t, e, ("width", "depth"), "top")
        for side in ("left", "right"):
            rooms[f"{side}-outside"] = face_room(deep, sizes["sleeve-height"].length, t, e, ("depth", "height"), side)
        return rooms

    def _sleeve(self, s: Situation, sizes: Sizes) -> Piece:
        """Tab, bottom, left, top and right, as they lie with the outside up."""
        w, h, d, tab = (sizes[n].length for n in ("sleeve-width", "sleeve-height", "sleeve-depth", "tab"))
        n, quarter = int(sizes["drawers"].length), -math.pi / 2
        bevel = min(inches(1 / 16), d / 6)
        panels = [Panel("tab", "seam tab", ((0.0, bevel), (tab, 0.0), (tab, d), (0.0, d - bevel)))]
        x, widths = tab, {"bottom": w, "left": h, "top": w, "right": h}
        flags = [ScoreFlag("x", tab, "tab", 1.0)]
        for name in _PANELS:
            panels.append(Panel(name, name, rectangle(x, 0.0, x + widths[name], d)))
            x += widths[name]
        folds = [Fold("bottom", "tab", quarter, settle=s.paper.caliper + s.glue)]
        folds += [Fold(a, b, quarter) for a, b in pairwise(_PANELS)]
        across = sizes["notch"].length
        top = tab + 1.5 * w + h
        marks = notch((top, 0.0), across, (0.0, 1.0)) if across else ()
        if across:
            panels = [notched(p, (top, 0.0), across, (0.0, 1.0)) if p.name == "top" else p for p in panels]
        return build_piece(
            f"{s.element}.sleeve", f"{s.name}, sleeve", s.paper, panels, folds, marks=marks, flags=flags, quantity=n,
            note="Punch the notch before the tube is closed. Try the drawer in it before the glue sets.",
        )  # fmt: skip

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        """Sleeve on sleeve, a drawer in each."""
        s, e, t = situation, situation.element, situation.paper.caliper
        w, d, h = (sizes[name].length for name in ("width", "depth", "height"))
        wide, high, deep, tab = (sizes[m].length for m in ("sleeve-width", "sleeve-height", "sleeve-depth", "tab"))
        n = int(sizes["drawers"].length)
        sleeve = self._sleeve(s, sizes)
        flags = self.flags(sizes)
        tray = shell_piece(
            f"{e}.drawer", f"{s.name}, drawer", s.paper, ("base", "base"), (w, d, h), 1, "wall", flags, s.glue
        )
        tray = replace(tray, quantity=n)
        bottom, top = (tab + wide / 2, deep / 2), (tab + 1.5 * wide + high, deep / 2)
        up, middle = (0.0, 1.0), (h + w / 2, h + d / 2)
        aside = self._beside(s) / 2  # the seam tab is on the right
        instances, swings, joints, mounts = [], [], [], []
        for k in range(1, n + 1):
            name, drawer = f"sleeve-{k}", f"drawer-{k}"
            on = Attach(f"sleeve-{k - 1}", "top", top, up, 1, t + s.glue) if k > 1 else None
            instances.append(Instance(name, sleeve.id, Root("bottom", bottom, up, 1), on))
            inside = Attach(name, "bottom", (bottom[0] + aside, bottom[1]), up, -1, t, "slide")
            instances.append(Instance(drawer, tray.id, Root("base", middle), inside))
            joints.append(Joint((name, "tab"), (name, "right"), act=f"close sleeve {k}", seam=True))
            joints += [replace(joint, act="") for joint in corner_joints(drawer)]
            out = ((drawer, (0.0, -OUT * d, 0.0)),)
            swings.append(Swing(drawer, f"drawer {k} of {s.name} slides out", slides=out))
            labels, more = dict(self.faces), "" if k == 1 else f"-{k}"
            floor, front = f"floor{more}", f"front{more}"
            shape = centred(w, d)
            mounts.append(Mount(floor, labels[floor], drawer, "base", 1, middle, up, shape, t / 2, holds=True))
            mounts.append(face_mount(front, labels[front], drawer, tray.panel("wall-front"), -1, t, (0.0, -1.0)))
        notched = sizes["notch"].length / 2
        x0 = tab + wide + high
        mounts += [
            face_mount("top", "top, outside", f"sleeve-{n}", sleeve.panel("top"), 1, t, up,
                       (x0, notched, x0 + wide, deep - notched)),
            face_mount("left-outside", "left side, outside", "sleeve-1", sleeve.panel("left"), 1, t, (1.0, 0.0)),
            face_mount("right-outside", "right side, outside", "sleeve-1", sleeve.panel("right"), 1, t, (-1.0, 0.0)),
        ]  # fmt: skip
        return Part(
            e, s.name, (sleeve, tray), tuple(instances), tuple(mounts), tuple(swings),
            tuple(self._gaps(s, sizes, rooms, sleeve, tray)), (Pocket("drawer", ("base",), "up", w - t, h - t / 2),),
            contents_of(sizes), joints=tuple(joints),
        )  # fmt: skip

    def _gaps(self, s: Situation, sizes: Sizes, rooms: Mapping[str, Room], sleeve: Piece, tray: Piece) -> list[Gap]:
        e, t = s.element, s.paper.caliper
        w, h = sizes["width"].length, sizes["height"].length
        wide, high, deep, tab = (sizes[n].length for n in ("sleeve-width", "sleeve-height", "sleeve-depth", "tab"))
        beside = Span((
            Term("sleeve", wide), Term("its sheet", -t), Term("seam tab", -self._beside(s)), Term("drawer", -w),
            Term("drawer's walls", -t),
        ))  # fmt: skip
        over = Span((
            Term("sleeve", high + 2 * FOLD_SHIFT * t), Term("its sheet", -t), Term("drawer", -h),
            Term("drawer's base and bend", -(0.5 + FOLD_SHIFT) * t),
        ))  # fmt: skip
        across = (
            Term("panels", sleeve.size[0] - tab, Lever(e, "width", 2.0)), lever_term("tab", tab, e, "tab"),
        )  # fmt: skip
        terms = tuple(
            (lever_term(m, sizes[m].length, e, m), lever_term("two walls", 2 * h, e, "height", 2.0))
            for m in ("width", "depth")
        )
        return [
            sheet_gap(e, sleeve.name, s.paper, sleeve.size, (across, (Term("depth", deep, Lever(e, "depth", 1.0)),))),
            sheet_gap(e, tray.name, s.paper, tray.size, terms),
            *contents_gaps(e, s.name, sizes, rooms["floor"]),
            fit_gap(s, SLIDES, (f"{s.name}, drawer", "sides of its sleeve"), beside),
            fit_gap(s, SLIDES, (f"{s.name}, drawer", "top of its sleeve"), over),
            fit_gap(s, uses.GLUE, (f"{s.name}, seam tab", "glue"), span("tab", tab, e, "tab")),
        ]


FAMILY = DrawerSleeve()
