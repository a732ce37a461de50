"""A folded card with something that stands up between its pages: what all pop-ups share."""

from __future__ import annotations

import math
from collections.abc import Sequence

from msgspec import Struct

from yawning_lantern.assembly import (
    Attach,
    Closure,
    Gap,
    Instance,
    Loop,
    Mount,
    Part,
    Room,
    Root,
    Span,
    Swing,
    Term,
    Ware,
    span,
    uses,
)
from yawning_lantern.assembly.edges import matching_side
from yawning_lantern.measure import inches
from yawning_lantern.pattern import Fold, Piece, ScoreFlag, build_piece
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes
from yawning_lantern.structures.kit.lying import BEARS, Lying, bulks, count_of, extent, face_mount, fit_gap, row
from yawning_lantern.structures.kit.shell import lever_term
from yawning_lantern.structures.kit.solving import face_room, sheet_gap

RISE = "rise"
CARD_PARAMETERS = (
    Parameter("page-width", "Page, width", "length", "From the gutter to the edge of a page.", "Card", 10.0),
    Parameter("page-height", "Page, height", "length", "Along the gutter.", "Card", 10.0),
    Parameter("opens", "Opens to", "count", "How far the card opens, degrees.", "Card", 60, 180),
)
CARD_FACES = (("front", "front of the card"), ("left", "left page, beside it"), ("right", "right page, beside it"))
_QUARTER = math.pi / 2  # radians: a quarter turn


def open_angle(sizes: Sizes) -> float:
    """How far the card opens, radians."""
    return math.radians(sizes["opens"].length)


def quarter_open(sizes: Sizes) -> float:
    """How much of the swing is done when the pages stand at a right angle (all of it where they open no further)."""
    return min(1.0, _QUARTER / open_angle(sizes))


class PopUp(Lying):
    """A card of two pages; subclasses add what stands up, and how many sheets lie between the shut pages."""

    footprint = ("page-width", "page-height")
    headline = ("page-width", "page-height")
    opens = 90
    sheets = 2

    def card_sizes(self, s: Situation) -> dict[str, Sized]:
        """The pages, and how far they open."""
        return {
            "page-width": extent(s, "page-width", 0, inches(4)),
            "page-height": extent(s, "page-height", 1, inches(5)),
            "opens": count_of(s, "opens", self.opens),
        }

    def between(self, s: Situation, sizes: Sizes) -> float:
        """What lies between the shut pages where most of it lies, mm: what stands up, with all that is on it, or what
        lies on the pages beside it."""
        stands = self.sheets * s.paper.caliper + 2 * s.glue + self.on_it(s, sizes)
        stands += self.under(s, sizes, "left") + self.under(s, sizes, "right")
        return max(stands, s.bulk_on("left") + s.bulk_on("right"))

    def feet(self, sizes: Sizes) -> tuple[float, float]:
        """How far from the gutter something is glued on the left and on the right page, mm: beyond that a page is free,
        whatever lies over it when the card is shut."""
        return sizes["shut-reach"].length, sizes["shut-reach"].length

    def free(self, sizes: Sizes) -> tuple[float, float]:
        """What is free of the left and of the right page, from its outer edge, mm."""
        left, right = (sizes["page-width"].length - foot for foot in self.feet(sizes))
        return left, right

    def under(self, s: Situation, sizes: Sizes, side: str) -> float:
        """What lies on a page under the shut pop-up, mm: its panels go over that, its tab stays beside it."""
        foot, free = (pair[side == "right"] for pair in (self.feet(sizes), self.free(sizes)))
        most = 0.0
        for guest in s.on(side):
            towards = math.pi if side == "right" else 0.0  # the gutter, as the face sees it
            own = matching_side(guest.need.sides, towards, guest.turn)
            off = guest.offset[0] if side == "right" else -guest.offset[0]
            near = foot + free / 2 + off - (own.reach.value if own is not None else free / 2)
            if near < sizes["shut-reach"].length:
                most = max(most, guest.need.tall + s.glue)
        return most

    def on_it(self, s: Situation, sizes: Sizes) -> float:
        """What what stands up carries and holds, mm."""
        return 0.0

    def thickness(self, s: Situation, sizes: Sizes) -> Span:
        """Both pages and what lies between them."""
        pages = span("two pages", 2 * s.paper.caliper)
        return pages.plus(Term("between the pages", self.between(s, sizes)), *bulks(s, "bulk on the front", "front"))

    def card_rooms(self, s: Situation, sizes: Sizes) -> dict[str, Room]:
        """The front, and of each page what is free beside what is glued on it."""
        w, h, t, e = sizes["page-width"].length, sizes["page-height"].length, s.paper.caliper, s.element
        rooms = {"front": face_room(w, h, t, e, ("page-width", "page-height"), "card front")}
        for side, free in zip(("left", "right"), self.free(sizes), strict=True):
            if free > BEARS:
                rooms[side] = face_room(free, h, t, e, ("page-width", "page-height"), f"{side} page")
        return rooms

    def card(self, s: Situation, sizes: Sizes) -> Piece:
        """The card: two pages, folded on the gutter."""
        w, h = sizes["page-width"].length, sizes["page-height"].length
        panels = row((("page-left", "left page", w), ("page-right", "right page", w)), 0.0, h)
        fold = Fold("page-right", "page-left", math.pi, wrap=self.between(s, sizes))
        flag = ScoreFlag("x", w, "page-width", 1.0)
        return build_piece(f"{s.element}.card", f"{s.name}, card", s.paper, panels, [fold], flags=(flag,))

    def card_mounts(self, s: Situation, sizes: Sizes, card: Piece, rooms: Sequence[str]) -> list[Mount]:
        """The card's faces."""
        on_left, on_right = self.free(sizes)
        t, w, h = s.paper.caliper, sizes["page-width"].length, sizes["page-height"].length
        mounts = [face_mount("front", "front of the card", "card", card.panel("page-left"), -1, t)]
        if "left" in rooms:
            left = (0.0, 0.0, on_left, h)
            mounts.append(face_mount("left", "left page", "card", card.panel("page-left"), 1, t, shape=left))
        if "right" in rooms:
            right = (2 * w - on_right, 0.0, 2 * w, h)
            mounts.append(face_mount("right", "right page", "card", card.panel("page-right"), 1, t, shape=right))
        return mounts

    @staticmethod
    def card_instance(sizes: Sizes, card: Piece) -> Instance:
        """The right page lies on the host; the left one folds over it and opens to the left."""
        w, h = sizes["page-width"].length, sizes["page-height"].length
        return Instance("card", card.id, Root("page-right", (1.5 * w, h / 2)))

    def card_swing(self, s: Situation, sizes: Sizes) -> Swing:
        """The card opens."""
        return Swing(RISE, f"{s.name} opens", (("card", "page-right/page-left", math.pi - open_angle(sizes)),))

    @staticmethod
    def card_sheet(s: Situation, sizes: Sizes, card: Piece) -> Gap:
        """Whether the sheet holds the card."""
        w, h, e = sizes["page-width"].length, sizes["page-height"].length, s.element
        terms = (
            (lever_term("two pages", 2 * w, e, "page-width", 2.0),),
            (lever_term("page height", h, e, "page-height"),),
        )
        return sheet_gap(e, card.name, s.paper, card.size, terms)


class Arch(Struct, frozen=True):
    """A strip that spans the gutter, hinges parallel to it: a tab, panels, a tab. Lengths in mm.

    `feet` are the distances of its two ends from the gutter on the right and left page; `panels` the lengths between;
    `angles` the folds (first tab to last tab) when the pages stand at a right angle, `shut` when they meet, radians;
    `ties` say which folds share an unknown angle (None: fixed). `bulks` are what is glued on the outer faces that
    lie on the right and on the left page when shut.
    """

    width: float
    tab: float
    feet: tuple[float, float]
    panels: tuple[float, ...]
    angles: tuple[float, ...]
    shut: tuple[float, ...]
    ties: tuple[int | None, ...]
    wraps: tuple[float, ...] = ()
    bulks: tuple[float, float] = (0.0, 0.0)

    @classmethod
    def of_two(
        cls, width: float, tab: float, feet: tuple[float, float], panels: tuple[float, float],
        bulks: tuple[float, float],
    ) -> Arch:  # fmt: skip
        """A strip of two panels with one ridge, all of its folds found by the ring."""
        angles = two_panel_angles(feet, panels)
        return cls(width, tab, feet, panels, angles, (0.0, -math.pi, 0.0), (0, 1, 2), bulks=bulks)

    @property
    def names(self) -> list[str]:
        """Names of its panels in order."""
        return ["tab-right", *(f"panel-{k + 1}" for k in range(len(self.panels))), "tab-left"]

    def piece(self, s: Situation, label: str, note: str) -> Piece:
        """The flat strip."""
        lengths = (self.tab, *self.panels, self.tab)
        words = ["tab", *(f"panel {k + 1}" for k in range(len(self.panels))), "tab"]
        panels = row([(n, w, x) for n, w, x in zip(self.names, words, lengths, strict=True)], 0.0, self.width)
        wraps = self.wraps or (0.0,) * len(self.shut)
        folds = [
            Fold(a, b, angle, wrap)
            for a, b, angle, wrap in zip(self.names, self.names[1:], self.shut, wraps, strict=False)
        ]
        # flat when shut, but folded while it rises: a score all the same, of the sense it has then
        folds = [
            f if f.angle else Fold(f.a, f.b, math.copysign(1e-9, rising), f.wrap)
            for f, rising in zip(folds, self.angles, strict=True)
        ]
        return build_piece(f"{s.element}.strip", f"{s.name}, {label}", s.paper, panels, folds, note=note)

    def instance(self, s: Situation, piece: Piece, page: float, at: float) -> Instance:
        """Glued by its first tab on the right page, `at` mm up the gutter; `page` is the page's width."""
        away = s.paper.caliper + s.glue + self.bulks[0]
        on = Attach("card", "page-right", (page + self.feet[0], at), (0.0, 1.0), 1, away)
        return Instance("strip", piece.id, Root("tab-right", (self.tab, self.width / 2), (0.0, -1.0), 1), on)

    def loop(self, s: Situation, page: float, at: float, start_at: float) -> Loop:
        """The ring over both pages: its last tab stays where it is glued on the left page."""
        total = self.tab + sum(self.panels)
        half = s.paper.caliper / 2
        pairs = []
        for along, across in ((0.0, 0.0), (0.0, self.width), (self.tab, 0.0)):
            strip = (total + along, across, half + s.glue + self.bulks[1])
            card = (page - self.feet[1] + along, at + self.width / 2 - across, half)
            pairs.append((strip, card))
        groups: dict[int, list[tuple[str, str, float]]] = {}
        start: dict[int, float] = {}
        for k, tie in enumerate(self.ties):
            if tie is not None:
                groups.setdefault(tie, []).append(("strip", f"{self.names[k]}/{self.names[k + 1]}", 1.0))
                start[tie] = self.angles[k]
        closure = Closure("tab on the left page", ("strip", "tab-left"), ("card", "page-left"), tuple(pairs))
        order = sorted(groups)
        return Loop(
            "arch", RISE, tuple(tuple(groups[k]) for k in order), tuple(start[k] for k in order), (closure,), start_at
        )

    def mount(self, name: str, label: str, piece: Piece, panel: str, caliper: float) -> Mount:
        """The outer face of a panel, up along the panel away from the first foot."""
        return face_mount(name, label, "strip", piece.panel(panel), 1, caliper, (1.0, 0.0))


def two_panel_angles(feet: tuple[float, float], panels: tuple[float, float]) -> tuple[float, ...]:
    """Folds of a two-panel arch when the pages stand at a right angle, radians.

    In the plane across the gutter the right page runs along x, the left one along y. The apex is the meeting of two
    circles about the feet; a mountain turns the strip's direction to the left.
    """
    (u, v), (a, b) = feet, panels
    dx, dy = -u, v
    d = math.hypot(dx, dy)
    along = (a * a - b * b + d * d) / (2 * d)
    off = math.sqrt(max(0.0, a * a - along * along))
    cx, cy = u + along * dx / d + off * dy / d, along * dy / d - off * dx / d
    first = math.atan2(cy, cx - u)
    second = math.atan2(v - cy, -cx) % (2 * math.pi)
    return -first, -(second - first), -(1.5 * math.pi - second)


def as_part(
    s: Situation, pieces: Sequence[Piece], instances: Sequence[Instance], mounts: Sequence[Mount],
    swing: Swing, gaps: Sequence[Gap], loop: Loop, wares: tuple[Ware, ...] = (),
) -> Part:  # fmt: skip
    """A part with one swing and one ring."""
    return Part(
        s.element, s.name, tuple(pieces), tuple(instances), tuple(mounts), (swing,), tuple(gaps), loops=(loop,),
        wares=wares,
    )  # fmt: skip


def arch_part(
    own: PopUp, s: Situation, sizes: Sizes, arch: Arch, strip: Piece, rooms: Sequence[str],
    beyond: Span, foot: Span, width: str, faces: Sequence[tuple[str, str, str]],
) -> Part:  # fmt: skip
    """A card with a strip over its gutter: its fits, faces and ring.

    `beyond` is what is left from the shut strip to the page's edge, `foot` from the gutter to where its tab ends,
    `width` the parameter that is its width, `faces` its own faces as (mount, words, panel).
    """
    page, high, e = sizes["page-width"].length, sizes["page-height"].length, s.element
    card = own.card(s, sizes)
    along = span("page", high, e, "page-height") - span(width.removesuffix("-width"), arch.width, e, width)
    gaps = [
        fit_gap(s, uses.INSIDE_CARD, (s.name, "page edge"), beyond),
        fit_gap(s, uses.INSIDE_CARD, (f"{s.name}, along the gutter", "page"), along),
        fit_gap(s, uses.SPARE, (f"{s.name}, tab", "gutter"), foot - span("tab", arch.tab, e, "tab"), (0.0, 2 * page)),
        own.card_sheet(s, sizes, card),
    ]
    mounts = [
        *own.card_mounts(s, sizes, card, rooms),
        *(arch.mount(name, words, strip, panel, s.paper.caliper) for name, words, panel in faces),
    ]
    instances = [own.card_instance(sizes, card), arch.instance(s, strip, page, high / 2)]
    loop = arch.loop(s, page, high / 2, quarter_open(sizes))
    return as_part(s, (card, strip), instances, mounts, own.card_swing(s, sizes), gaps, loop)
