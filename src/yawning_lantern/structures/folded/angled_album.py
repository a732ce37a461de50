"""Angled album: half sheets folded once, one half cut on a slant; leaf glued on leaf, a pocket between every two."""

from __future__ import annotations

import math
from collections.abc import Mapping

from yawning_lantern.assembly import (
    Attach,
    Gap,
    Instance,
    Joint,
    Lever,
    Mount,
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
from yawning_lantern.errors import ParameterError
from yawning_lantern.measure import inches, snap, told
from yawning_lantern.pattern import Fold, Panel, Piece, Point, ScoreFlag, bounds, build_piece, rectangle
from yawning_lantern.pattern.convex import largest_level, shared
from yawning_lantern.structures.kit.around import AROUND, around_mount, around_room
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes, Start, fact
from yawning_lantern.structures.kit.lying import BORDER, Lying, count_of, face_mount, fit_gap
from yawning_lantern.structures.kit.shell import FOLD_SHIFT, lever_term
from yawning_lantern.structures.kit.solving import (
    as_given,
    given_length,
    length_of,
    sheet_gap,
    told_contents,
    up_to_cut,
)

MOST = 8  # leaves at most
STRIP = inches(1 / 4)
"""The glued strip along three edges of a pocket, mm. Common practice, no source."""
MARK = 1 / 3
"""The mark above the lower outer corner, of the page's side: 2 of 6. Common practice, no source."""
PLAY = inches(1 / 8)
"""Room beside what it holds, mm. Common practice, no source."""
SNIP = inches(1 / 16)
"""What is snipped from the tip of a wedge, so that it goes into its corner without play. From memory."""
LEAST = 40.0
"""A smaller page holds nothing behind a slant, mm. From memory."""


class AngledAlbum(Lying):
    """Leaves are cut right- and left-handed in turn, for each is glued on the one before with its fold on the other
    side."""

    id = "angled-album"
    name = "Angled album"
    about = "Half sheets folded once, one half cut on a slant: leaf on leaf they make big pockets; wedges hold corners."
    shelf = "One sheet"
    headline = ("sheet", "leaves")
    footprint = ("side", "side")
    starts: tuple[Start, ...] = ("size", "contents", "sheet")
    faces = (
        (AROUND, "around it, shut"),
        ("cover", "slanted cover"),
        *((f"page-{k}", f"leaf {k}, whole page") for k in range(1, MOST + 1)),
        *((f"slant-{k}", f"leaf {k}, slanted page") for k in range(1, MOST + 1)),
    )
    parameters = (
        Parameter("sheet", "Sheet", "length", "The side of the square sheet that is halved: two leaves from each.",
                  "Leaves", 2 * LEAST),
        Parameter("mark", "Mark", "length", "Above the lower outer corner: there the slant ends.", "Leaves", 6.0),
        Parameter("leaves", "Leaves", "count", "As many right-handed as left-handed.", "Leaves", 2, MOST, default=4),
        Parameter("strip", "Glued strip", "length", "Along three edges of every pocket.", "Pockets", 2.0, 25.0,
                  default=STRIP),
        fact("insert", "In each pocket", "How thick what goes in is.", "Pockets", 0.0, 6.0, default=0.0),
        fact("content-width", "What a pocket holds, width", "Upright, behind the slant.", "Contents", 15.0,
             default=inches(4)),
        fact("content-height", "What a pocket holds, height", "Upright.", "Contents", 15.0, default=inches(4)),
        Parameter("side", "Page", "length", "Half the sheet, either way.", "Leaves", derived=True),
        Parameter("wedge", "Wedge", "length", "Its short side; the long one is the page's. It becomes a corner pocket.",
                  "Leaves", derived=True),
        Parameter("pockets", "Pockets", "count", "One between every two leaves.", "Pockets", derived=True),
        Parameter("thick", "Closed", "length", "Thickness when shut.", "Leaves", derived=True),
    )  # fmt: skip

    def size(self, situation: Situation) -> dict[str, Sized]:
        """Page, mark and leaves. Raises ParameterError for an odd number of leaves, and where no slant is left."""
        s, given = situation, situation.given
        sizes = {"leaves": count_of(s, "leaves", 4), "strip": length_of(given, "strip", STRIP)}
        sizes["insert"] = length_of(given, "insert", 0.0)
        n, strip = int(sizes["leaves"].length), sizes["strip"].length
        if n % 2:
            right, left = (n + 1) // 2, n // 2
            raise ParameterError(
                f"{n} leaves are {right} right-handed and {left} left-handed: they do not close.", "Leaves",
                f"Take {n - 1} or {n + 1}." if n > 2 else f"Take {n + 1}.",
            )  # fmt: skip
        wide, high = (given_length(given, f"content-{name}") for name in ("width", "height"))
        asked = [x + more for x, more in ((wide, 2 * strip + PLAY), (high, strip + PLAY)) if x is not None]
        if given_length(given, "sheet") is not None:
            sizes["sheet"] = length_of(given, "sheet", inches(12))
        elif asked:
            half = up_to_cut(s, max(asked), "auto")
            sizes["sheet"] = Sized(2 * half.length, "auto", None if half.exact is None else 2 * half.exact)
        elif s.room is not None:
            free = min(s.room.clear(0), s.room.clear(1)) - BORDER
            sizes["sheet"] = Sized(2 * snap(min(free, inches(6)), s.cut.grid, "down").value, "fill")
        else:
            sizes["sheet"] = Sized(inches(12), "default")
        side = sizes["sheet"].length / 2
        if side < LEAST:
            raise ParameterError(f"Its pages come out at {told(side)}.", "Sheet", "Take a larger one.")
        sizes["side"] = Sized(side, sizes["sheet"].origin)
        sizes["mark"] = length_of(given, "mark", snap(side * MARK, s.cut.grid, "nearest").value, "auto")
        mark = sizes["mark"].length
        if mark > side - 6.0 or mark < strip:
            raise ParameterError(
                f"A mark at {told(mark)} leaves no slant on a page of {told(side)}." if mark > side - 6.0
                else f"A mark at {told(mark)} leaves no edge for glue of {told(strip)}.",
                "Mark", f"Give {told(strip)} to {told(side - 6.0)}.",
            )  # fmt: skip
        sizes["wedge"] = Sized(side - mark, "auto")
        sizes["pockets"] = Sized(n - 1, "auto")
        sizes |= as_given(given, "content-width", "content-height")
        sizes["thick"] = Sized(self.thickness(s, sizes).value, "auto")
        return sizes

    @staticmethod
    def _facing(s: Situation, leaf: int) -> float:
        """What lies between the two halves of a leaf, from 1, mm."""
        return s.bulk_on(f"page-{leaf}") + s.bulk_on(f"slant-{leaf}")

    def _held(self, s: Situation, sizes: Sizes) -> float:
        """What lies between two leaves, mm."""
        return max(s.glue, sizes["insert"].length)

    def thickness(self, s: Situation, sizes: Sizes) -> Span:
        """Two sheets a leaf, what is in the pockets and on the pages."""
        n, insert = int(sizes["leaves"].length), sizes["insert"].length
        pockets = (
            Term("in the pockets", (n - 1) * insert, Lever(s.element, "insert", n - 1.0)) if insert > s.glue
            else Term("glue", (n - 1) * s.glue)
        )  # fmt: skip
        facing = sum(self._facing(s, k) for k in range(1, n + 1))
        return span("leaves", 2 * n * s.paper.caliper).plus(
            pockets, Term("bulk on pages", facing), Term("bulk on the cover", s.bulk_on("cover"))
        )

    def beyond(self, s: Situation, sizes: Sizes) -> tuple[float, float]:
        """The folds stand out on either side by half of what they go around and half a sheet; around more than three
        sheets the arc takes its length from the leaves, and stands out no further."""
        facing = max(self._facing(s, k) for k in range(1, int(sizes["leaves"].length) + 1))
        return s.paper.caliper * (0.5 + FOLD_SHIFT) + min(facing, 3 * s.paper.caliper) / 2, 0.0

    def reaches(self, s: Situation, sizes: Sizes) -> tuple[Span, Span]:
        """Half a page: a quarter of the sheet."""
        half = Span((Term("half a page", sizes["side"].length / 2, Lever(s.element, "sheet", 0.25)),))
        return half, half

    def _slanted(self, sizes: Sizes, right: bool) -> tuple[Point, ...]:
        """The slanted half in its leaf, counter-clockwise, mm."""
        p, mark = sizes["side"].length, sizes["mark"].length
        if right:
            return (p, 0.0), (2 * p, 0.0), (2 * p, mark), (p, p)
        return (0.0, 0.0), (p, 0.0), (p, p), (0.0, mark)

    def _free(self, sizes: Sizes, right: bool) -> tuple[float, float, float, float]:
        """The largest upright rectangle on the slanted half."""
        return largest_level(self._slanted(sizes, right))

    def rooms(self, situation: Situation, sizes: Sizes) -> dict[str, Room]:
        """Whole and slanted pages; the cover; around it where it lies on nothing."""
        s, t = situation, situation.paper.caliper
        p = sizes["side"].length
        x0, y0, x1, y1 = self._free(sizes, True)
        across, along = span("slanted page", (x1 - x0) / 2), span("slanted page", (y1 - y0) / 2)
        slant = Room("onto", uses.MAT, box_sides((across, along, across, along)), (x1 - x0, y1 - y0), t)
        half = self.reaches(s, sizes)[0]
        rooms = {"cover": slant}
        for k in range(1, int(sizes["leaves"].length) + 1):
            rooms[f"page-{k}"] = Room("onto", uses.MAT, box_sides((half,) * 4), (p, p), t)
            rooms[f"slant-{k}"] = slant
        if s.room is None:
            reach = half.plus(Term("folds", self.beyond(s, sizes)[0]))
            rooms[AROUND] = around_room(reach, self.thickness(s, sizes), (p, p), t)
        return rooms

    def _leaf(self, s: Situation, sizes: Sizes, right: bool) -> Piece:
        p, n = sizes["side"].length, int(sizes["leaves"].length)
        whole = rectangle(0.0, 0.0, p, p) if right else rectangle(p, 0.0, 2 * p, p)
        hand = "right" if right else "left"
        return build_piece(
            f"{s.element}.{hand}", f"{s.name}, {hand}-handed leaf", s.paper,
            [Panel("whole", "whole page", whole), Panel("slant", "slanted page", self._slanted(sizes, right))],
            [Fold("whole", "slant", math.pi)], flags=(ScoreFlag("x", p, "sheet", 0.5),), quantity=n // 2,
            note="Cut from the top of the score to the mark. Keep the wedge for a corner pocket, "
            f"{told(p)} × {told(sizes['wedge'].length)}; snip {told(SNIP)} from its tip, for it has no play.",
        )  # fmt: skip

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        """Leaf on leaf from the last page to the cover, folds on the right and on the left in turn."""
        s, t = situation, situation.paper.caliper
        n, p = int(sizes["leaves"].length), sizes["side"].length
        pieces = {True: self._leaf(s, sizes, True), False: self._leaf(s, sizes, False)}
        instances, joints, swings, mounts, pockets = [], [], [], [], []
        up, middle = (0.0, 1.0), {True: (p / 2, p / 2), False: (1.5 * p, p / 2)}
        other = {True: middle[False], False: middle[True]}  # the middle of the square that the slant is cut from
        labels = dict(self.faces)
        for k in range(1, n + 1):
            right, name = k % 2 == 1, f"leaf-{k}"
            piece = pieces[right]
            on = Attach(f"leaf-{k - 1}", "slant", other[not right], up, -1, t + self._held(s, sizes)) if k > 1 else None
            instances.append(
                Instance(
                    name, piece.id, Root("whole", middle[right], up), on, wraps=(("whole/slant", self._facing(s, k)),)
                )
            )
            if k > 1:
                below = (f"leaf-{k - 1}", "slant")
                joints.append(Joint((name, "whole"), below, spots=self._spots(sizes, right), label="three edges only"))
                pockets.append(Pocket(f"pocket {k - 1}", ("slant", "whole"), "up", p - 2 * sizes["strip"].length,
                                      p - sizes["strip"].length))  # fmt: skip
            mounts.append(face_mount(f"page-{k}", labels[f"page-{k}"], name, piece.panel("whole"), 1, t))
            mounts.append(
                face_mount(f"slant-{k}", labels[f"slant-{k}"], name, piece.panel("slant"), 1, t, up,
                           self._free(sizes, right))
            )  # fmt: skip
        last, cover = f"leaf-{n}", pieces[False].panel("slant")  # an even number closes: the last turns on the left
        mounts.append(face_mount("cover", labels["cover"], last, cover, -1, t, up, self._free(sizes, False)))
        for k in range(n, 0, -1):
            swings.append(
                Swing(f"leaf-{k}", f"leaf {k} of {s.name} opens", ((f"leaf-{k}", "whole/slant", math.pi / 6),))
            )
        if s.room is None:
            mounts.append(self._around(s, sizes, last))
        return Part(
            s.element, s.name, tuple(pieces.values()), tuple(instances), tuple(mounts), tuple(swings),
            tuple(self._gaps(s, sizes, pieces[True])), tuple(pockets), joints=tuple(joints),
        )  # fmt: skip

    @staticmethod
    def _around(s: Situation, sizes: Sizes, last: str) -> Mount:
        p = sizes["side"].length
        square = Panel("slant", "cover", rectangle(0.0, 0.0, p, p))
        bulk = s.paper.caliper + 2 * s.bulk_on("cover")
        return around_mount(last, square, -1, bulk, (0.0, 1.0), (p, p))

    def _spots(self, sizes: Sizes, right: bool) -> tuple[tuple[Point, ...], ...]:
        """The glued strips on the back of a whole page, where the slant below it has its three straight edges, mm."""
        p, mark, strip = (sizes[n].length for n in ("side", "mark", "strip"))
        # the slant below as it lies on this page: its score on the side where this leaf has none
        x0 = 0.0 if right else p
        slant = (
            ((x0, 0.0), (x0 + p, 0.0), (x0 + p, mark), (x0, p)) if right
            else ((x0, 0.0), (x0 + p, 0.0), (x0 + p, p), (x0, mark))
        )  # fmt: skip
        low = rectangle(x0, 0.0, x0 + p, strip)
        one, two = rectangle(x0, strip, x0 + strip, p), rectangle(x0 + p - strip, strip, x0 + p, p)
        spots = [shared(slant, strip_of) for strip_of in (low, one, two)]
        return tuple(tuple(ring) for ring in spots if ring and bounds(ring)[3] > bounds(ring)[1])

    def _gaps(self, s: Situation, sizes: Sizes, leaf: Piece) -> list[Gap]:
        e, p, strip = s.element, sizes["side"].length, sizes["strip"].length
        terms = (
            (lever_term("half sheet, long", 2 * p, e, "sheet", 1.0),),
            (lever_term("its half", p, e, "sheet", 0.5),),
        )
        return [
            sheet_gap(e, leaf.name, s.paper, leaf.size, terms),
            fit_gap(s, uses.GLUE, (f"{s.name}, edge of a pocket", "glue"), span("strip", strip, e, "strip")),
            *told_contents(s, sizes, f"{s.name}, pocket", (("content-width", "side"),), 2 * strip),
            *told_contents(s, sizes, f"{s.name}, pocket", (("content-height", "side"),), strip),
        ]


FAMILY = AngledAlbum()
