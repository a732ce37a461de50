"""What goes around a shut thing: a loop of four panels, in one strip or in two where the sheet is too short."""

from __future__ import annotations

import math
from collections.abc import Mapping
from itertools import pairwise
from typing import Literal

from msgspec import Struct

from yawning_lantern.assembly import (
    HOST,
    Attach,
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
    span,
    uses,
)
from yawning_lantern.assembly.part import Bond
from yawning_lantern.measure import inches
from yawning_lantern.pattern import Fold, Panel, Piece, Point, build_piece
from yawning_lantern.stock import Paper
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes, Start
from yawning_lantern.structures.kit.lying import BEARS, face_mount, fit_gap, row
from yawning_lantern.structures.kit.solving import centred, face_room, given_length, length_of, sheet_gap, up_to_cut

AROUND = "around"
LOOSE = 0.1
"""What lies between two lengths of a bow that is laid to and fro, mm. From memory."""


def around_room(reach: Span, thick: Span, nominal: tuple[float, float], caliper: float) -> Room:
    """The outside of a shut thing as a band sees it: half its width each way, and its thickness. Lengths in mm."""
    sides = (Side("right", 0.0, reach), Side("left", math.pi, reach))
    return Room("around", uses.BAND, sides, nominal, caliper, height=thick)


DRAWN_OFF = 1.2
"""How far a band is drawn, of the height of what it is around: off it, and on so that both are seen. From memory."""


def around_mount(
    instance: str, panel: Panel, side: Literal[-1, 1], caliper: float, up: Point, size: tuple[float, float]
) -> Mount:
    """Where a band lies: over the middle of a face, drawn off along the face's up and on. `size` of the face, mm."""
    base = face_mount(AROUND, "around it, shut", instance, panel, side, caliper, up)
    return Mount(
        AROUND, base.label, instance, panel.name, base.side, base.origin, up, centred(*size), base.standoff, True, 0.0,
        (0.0, DRAWN_OFF * size[1]),
    )  # fmt: skip


class Around(Struct, frozen=True):
    """Sizes of a loop, mm: what it goes around, its own panels, its breadth and overlap."""

    width: float
    thick: float
    breadth: float
    overlap: float


class Band:
    """A loop around a shut thing; subclasses say of what, and how long the strip is."""

    relation: Relation = "around"
    bought = False
    bond: Bond = "glue"
    starts: tuple[Start, ...] = ("size",)
    headline: tuple[str, ...] = ("breadth", "strip")
    faces: tuple[tuple[str, str], ...] = (("front", "front of the band"),)
    id: str
    name: str
    parameters: tuple[Parameter, ...]

    def stock(self, s: Situation) -> Paper:
        """What it is made of."""
        return s.paper

    def thing(self, s: Situation) -> dict[str, Sized]:
        """Width and thickness of what it goes around: given, or of its host."""
        sizes = {}
        for axis, name in enumerate(("over-width", "over-thick")):
            own = given_length(s.given, name)
            if own is not None:
                sizes[name] = Sized(own, "given")
            elif s.room is not None and s.room.use == uses.BAND:
                width = sum(side.reach.value for side in s.room.sides)
                thick = s.room.height.value if s.room.height else 0.0
                sizes[name] = Sized((width, thick)[axis], "fill")
            else:
                sizes[name] = Sized(inches((4.0, 0.5)[axis]), "default")
        return sizes

    def panels(self, s: Situation, sizes: Sizes) -> tuple[float, float]:
        """The loop's own panels, across and through, score to score, mm."""
        share = sizes["play"].length / 4
        return sizes["over-width"].length + share, max(sizes["over-thick"].length + share, 0.5)

    def layers(self, s: Situation, sizes: Sizes) -> int:
        """How many lengths what is left over for a bow makes when it is laid to and fro over the front."""
        across, through = self.panels(s, sizes)
        tail = sizes["strip"].length - 2 * (across + through) - sizes["overlap"].length
        return math.ceil(tail / (0.85 * across)) if tail > 1.0 else 0

    def need(self, situation: Situation, sizes: Sizes) -> Need:
        """Its inside across; how far it stands off the face."""
        s, t = situation, self.stock(situation).caliper
        sides: tuple[Side, ...] = ()
        if s.room is not None:
            inside = span("band panel", self.panels(s, sizes)[0] / 2, s.element, "play", 0.125).plus(
                Term("half a sheet", -t / 2)
            )
            sides = (Side("right", 0.0, inside), Side("left", math.pi, inside))
        count = self.layers(s, sizes)
        thick = span("band", t).plus(
            Term("bow, laid flat", t * count + LOOSE * max(count - 1, 0)), Term("bulk on the band", s.bulk_on("front"))
        )
        return Need("around", uses.BAND, sides, caliper=t, height=thick, want=(0.0, inches(1 / 4)))

    def rooms(self, situation: Situation, sizes: Sizes) -> dict[str, Room]:
        """Its front, unless a bow lies on it."""
        across, t = self._free(situation, sizes), self.stock(situation).caliper
        if not self.faces or across < BEARS:
            return {}
        return {"front": face_room(across, sizes["breadth"].length, t, situation.element, ("play", "breadth"), "band",
                                   (0.25, 1.0))}  # fmt: skip

    def _free(self, s: Situation, sizes: Sizes) -> float:
        """How much of its front is left beside the overlap, mm."""
        return self.panels(s, sizes)[0] - sizes["overlap"].length

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        """Front panel first; the loop runs on around the thing and overlaps itself."""
        s, e, stock = situation, situation.element, self.stock(situation)
        t, breadth, overlap = stock.caliper, sizes["breadth"].length, sizes["overlap"].length
        across, through = self.panels(s, sizes)
        total = sizes["strip"].length
        sheet = stock.sheet
        whole = total <= max(sheet.usable_width, sheet.usable_height) + 1e-6
        q = -math.pi / 2
        names = [("front", "front", across), ("side-1", "edge", through), ("back", "back", across)]
        names += [("side-2", "edge", through + t), ("overlap", "overlap", overlap - t)]  # it ends a sheet further out
        pieces: list[Piece]
        if whole:
            tail = total - 2 * (across + through) - overlap
            folds = [Fold(a[0], b[0], q) for a, b in pairwise(names)]
            count = self.layers(s, sizes)
            if count:  # what a bow takes, laid to and fro on the front: the first length runs straight on
                names += [(f"tail-{k + 1}", "tail", tail / count) for k in range(count)]
                folds += [
                    Fold(names[4 + k][0], names[5 + k][0], (math.pi if k % 2 else -math.pi) if k else 0.0, wrap=LOOSE)
                    for k in range(count)
                ]
            strip = build_piece(
                f"{e}.band", s.name, stock, row(names, 0.0, breadth), folds, note=self.note(sizes), bought=self.bought
            )
            pieces = [strip]
            instances = [Instance("band", strip.id, Root("front", (across / 2, breadth / 2)))]
            front = strip.panel("front")
        else:
            # the strips lap on the back, which is as wide as the front; the bridging piece lies outside
            side = through + 2 * t + s.glue
            lapped = up_to_cut(s, across + through + overlap, "auto").length - across - through
            over = up_to_cut(s, across + side + overlap - t, "auto").length - across - side
            first = build_piece(
                f"{e}.band", s.name, stock, row([*names[:2], ("lap", "lap", lapped)], 0.0, breadth),
                [Fold("front", "side-1", q), Fold("side-1", "lap", q)], note=self.note(sizes),
            )  # fmt: skip
            parts = [names[2], ("side-2", "edge", side), ("overlap", "overlap", over)]
            bridge = build_piece(
                f"{e}.bridge", f"{s.name}, bridging piece", stock, row(parts, 0.0, breadth),
                [Fold("back", "side-2", q), Fold("side-2", "overlap", q)], note="Laps the other strip at both ends.",
            )  # fmt: skip
            pieces = [first, bridge]
            lap = Attach("band", "lap", (across + through, breadth / 2), (0.0, 1.0), 1, t + s.glue)
            instances = [
                Instance("band", first.id, Root("front", (across / 2, breadth / 2))),
                Instance("bridge", bridge.id, Root("back", (0.0, breadth / 2)), lap),
            ]
            front = first.panel("front")
        free = (overlap, 0.0, across, breadth)
        mounts = [face_mount(f, words, "band", front, 1, t, shape=free) for f, words in self.faces if f in rooms]
        ends = [("band", "overlap") if whole else ("bridge", "overlap")]
        if whole:
            ends += [("band", f"tail-{k + 1}") for k in range(self.layers(s, sizes))]
        joints = [Joint(ends[0], ("band", "front"), self.bond, "close", on_contents=True, closes=True, seam=True)]
        under = self.laid_under(sizes)
        if under:
            words = "across back and front before their mats, a dot of glue in each middle; its ends stay free"
            joints.append(Joint(("band", "front"), HOST, "held", act="lay", label=words))
        if not whole:
            joints.append(Joint(("bridge", "back"), ("band", "lap"), act="lap", on_contents=True, seam=True))
        joints += [Joint(b, a if k else ("band", "front"), "free") for k, (a, b) in enumerate(pairwise(ends))]
        return Part(
            e, s.name, tuple(pieces), tuple(instances), tuple(mounts), gaps=tuple(self._gaps(s, sizes, pieces)),
            joints=tuple(joints), under=under,
        )  # fmt: skip

    def laid_under(self, sizes: Sizes) -> bool:
        """Whether it is laid under the mats of what it goes around, and only closed last."""
        return False

    def note(self, sizes: Sizes) -> str:
        """What to heed when it is made."""
        return "Make it last, around the finished thing: only then is the bulk known."

    def _gaps(self, s: Situation, sizes: Sizes, pieces: list[Piece]) -> list[Gap]:
        stock = self.stock(s)
        across, through = self.panels(s, sizes)
        e, t = s.element, stock.caliper
        gaps = []
        for label, own, name in (("across", across, "over-width"), ("through", through, "over-thick")):
            left = span("band panel", own, e, "play", 0.25).plus(Term("thing", -sizes[name].length), Term("sheet", -t))
            if s.room is None or name == "over-thick":
                gaps.append(
                    fit_gap(s, uses.BAND, (f"{s.name}, {label}", "what it goes around"), left, (-t, inches(1 / 4)))
                )
        if sizes["overlap"].length and any(p.id == "overlap" for p in self.parameters):
            gaps.append(
                fit_gap(
                    s, uses.GLUE, (f"{s.name}, overlap", "glue"), span("overlap", sizes["overlap"].length, e, "overlap")
                )
            )
        for piece in pieces:
            w, h = piece.size
            if piece.bought:
                continue
            gaps.append(
                sheet_gap(
                    e, piece.name, stock, (w, h), (span("strip", w).terms, span("breadth", h, e, "breadth").terms)
                )
            )
        return gaps


def band_play(s: Situation, default: float) -> Sized:
    """The play of a band in all, mm."""
    return length_of(s.given, "play", default)
