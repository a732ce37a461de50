"""Pocket page: a square, its ends folded in to overlap, folded in half; a slit and turned corners leave two mouths."""

from __future__ import annotations

import math
from collections.abc import Mapping

from yawning_lantern.assembly import Lever, Part, Pocket, Room, Span, Swing, Term, span, uses
from yawning_lantern.errors import ParameterError
from yawning_lantern.flatfold.script import Bring, Glue, Script
from yawning_lantern.flatfold.sheet import Sheet, Slant, grid
from yawning_lantern.measure import give_at_most, inches, snap, told
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes, Start, fact
from yawning_lantern.structures.kit.lying import BORDER, Lying, bulks, fit_gap
from yawning_lantern.structures.kit.one_sheet import (
    SHEET,
    FoldedSheet,
    fold_sheet,
    folded_once,
    page_mount,
    page_room,
    sheet_part,
)
from yawning_lantern.structures.kit.shell import lever_term
from yawning_lantern.structures.kit.solving import (
    as_given,
    given_length,
    length_of,
    sheet_gap,
    told_contents,
    up_to_score,
    worked_out,
)

STRIP = inches(1 / 4)
"""Glue along the foot of a pocket, mm. Common practice, no source."""
LEAST_OVERLAP = inches(1 / 4)
"""The ends lap by this at least, or glue does not hold them, mm. Common practice, no source."""
PLAY = inches(1 / 8)
"""Room beside the card it holds in all, mm. Common practice, no source."""
LEAST_PAGE = 15.0
"""A page of less is none, mm. From memory."""
SIDE = 7 / 24
"""Of the sheet: a sheet of 12 has its side scores at 3 1/2. Common practice, no source."""
_CORNERS = (("c1r1a", "c1r1b"), ("c3r1b", "c3r1a"), ("c1r2a", "c1r2b"), ("c3r2b", "c3r2a"))
"""Each end's half, and the corner of it at the slit."""


class PocketPage(Lying):
    """Page W − 2c by W/2; the ends lap by 4c − W."""

    id = "pocket-page"
    name = "Pocket page"
    about = (
        "A square with both ends folded in and folded in half: a page with a pocket on either side, no cutting loose."
    )
    shelf = "One sheet"
    headline = ("sheet", "side")
    starts: tuple[Start, ...] = ("size", "contents", "sheet")
    footprint = ("page-width", "page-height")
    faces = (("front", "front, below the turned corner"), ("inside-1", "inside, left"), ("inside-2", "inside, right"))
    parameters = (
        Parameter("sheet", "Sheet", "length", "Side of the square.", "Sheet", 60.0),
        Parameter("side", "Side score", "length", "From either edge; both ends fold in along it.", "Sheet", 15.0),
        Parameter("overlap", "Overlap", "length", "By which the ends lap in the middle.", "Sheet", derived=True),
        fact("insert", "In each pocket", "How thick what goes into a pocket is.", "Pockets", 0.0, 10.0, default=0.0),
        Parameter("strip", "Glued strip", "length", "Along the foot of each pocket.", "Pockets", 1.0, 30.0,
                  default=STRIP),
        fact("content-width", "Card, width", "What a pocket shall take.", "Contents", 10.0, default=inches(4)),
        fact("content-height", "Card, height", "What a pocket shall take.", "Contents", 10.0, default=inches(5)),
        Parameter("page-width", "Page, width", "length", "From fold to fold.", "Page", derived=True),
        Parameter("page-height", "Page, height", "length", "Half the sheet.", "Page", derived=True),
        Parameter("thick", "Closed", "length", "Thickness when shut and empty.", "Page", derived=True),
    )  # fmt: skip

    def size(self, situation: Situation) -> dict[str, Sized]:
        """Sheet and side score. Raises ParameterError where the ends do not lap, or reach beyond the middle."""
        s, given = situation, situation.given
        sizes: dict[str, Sized] = {"strip": length_of(given, "strip", STRIP), "insert": length_of(given, "insert", 0.0)}
        card = [given_length(given, f"content-{n}") for n in ("width", "height")]
        sizes["sheet"] = self._sheet(s, card, sizes["strip"].length)
        w = sizes["sheet"].length
        sizes["side"] = length_of(given, "side", self._side(s, w, card[0]), "auto")
        c = sizes["side"].length
        if c > w / 3 + 1e-6:
            raise ParameterError(
                f"A side of {told(c)} is wider than the page it leaves: the ends would reach beyond the far fold.",
                "Side score", give_at_most(w / 3, LEAST_PAGE, "Make the sheet larger."),
            )  # fmt: skip
        overlap, page = 4 * c - w, w - 2 * c
        if page < LEAST_PAGE:
            raise ParameterError(f"The page comes out at {told(page)}.", "Side score", "Make the sides narrower.")
        if overlap < 3.0:
            lack = f"leave {told(-overlap)} between them" if overlap < 0 else f"lap by {told(overlap)} only"
            raise ParameterError(
                f"The ends {lack}: no glue holds them.", "Side score", f"Give {told((w + LEAST_OVERLAP) / 4)} or more."
            )
        sizes["overlap"] = Sized(overlap, "auto")
        origin = worked_out(sizes["sheet"])
        sizes["page-width"], sizes["page-height"] = Sized(page, origin), Sized(w / 2, origin)
        sizes |= as_given(given, "content-width", "content-height")
        sizes["thick"] = Sized(self.thickness(s, sizes).value, "auto")
        return sizes

    @staticmethod
    def _side(s: Situation, w: float, card: float | None) -> float:
        """Where the sides are scored, mm: at their share of the sheet; so near its edges that a card goes in, where the
        ends still lap."""
        least = (w + LEAST_OVERLAP) / 4
        if card is not None:
            near = snap(min(w * SIDE, (w - card - PLAY) / 2), s.score.grid, "down").value
            if near >= least:
                return near
        return up_to_score(s, max(w * SIDE, least), "auto").length

    def _sheet(self, s: Situation, card: list[float | None], strip: float) -> Sized:
        """The square: given, from the card, from the face, or 12 inches. mm."""
        if (own := given_length(s.given, "sheet")) is not None:
            return Sized(own, "given")
        wide, high = card
        if wide is not None or high is not None:
            # page W − 2c with c = W·SIDE; a pocket is as deep as half the sheet less its glue
            need = max(((wide or 0.0) + PLAY) / (1 - 2 * SIDE), 2 * ((high or 0.0) + strip))
            sheet = up_to_score(s, need, "auto")
            while wide is not None and sheet.length - 2 * self._side(s, sheet.length, wide) < wide + PLAY - 1e-6:
                sheet = up_to_score(s, sheet.length + s.score.grid, "auto")  # the next one whose sides lie on a mark
            return sheet
        if s.room is None:
            return Sized(inches(12), "default")
        exact = min((s.room.clear(0) - BORDER) / (1 - 2 * SIDE), 2 * (s.room.clear(1) - BORDER), inches(12))
        if exact < 60.0:
            raise ParameterError("The face is too small for it.", s.name)
        grid_of = s.score.grid
        return Sized(math.floor(exact / grid_of + 1e-9) * grid_of, "fill", exact)

    def marked(self, sizes: Sizes) -> Sheet:
        """Side scores, the middle slit in to them, and the corners' diagonals."""
        w, c = sizes["sheet"].length, sizes["side"].length
        half = w / 2
        return grid(
            [c, w - 2 * c, c], [half, half],
            slits=[((0, half), (c, half)), ((w - c, half), (w, half))],
            slants=[
                Slant((c, half), (0, half - c)), Slant((0, half + c), (c, half)),
                Slant((w - c, half), (w, half - c)), Slant((w, half + c), (w - c, half)),
            ],
        )  # fmt: skip

    def script(self, sizes: Sizes) -> Script:
        """Corners, ends, glue, half."""
        strip = sizes["strip"].length
        return (
            *(Bring((pair,)) for pair in _CORNERS),
            Bring((("c2r1", "c1r1a"), ("c2r2", "c1r2a"))),
            Glue("c2r1", "c1r1a", ("foot",), strip),
            Glue("c2r2", "c1r2a", ("head",), strip),
            Bring((("c2r1", "c3r1b"), ("c2r2", "c3r2b"))),
            Glue("c2r1", "c3r1b", ("foot",), strip),
            Glue("c2r2", "c3r2b", ("head",), strip),
            Glue("c1r1a", "c3r1b"),
            Glue("c1r2a", "c3r2b"),
            Bring((("c2r1", "c2r2"),), "under"),
        )

    @folded_once
    def made(self, s: Situation, sizes: Sizes) -> FoldedSheet:
        """The sheet folded and glued."""
        insert, inside = sizes["insert"].length, s.bulk_on("inside-1") + s.bulk_on("inside-2")
        between = {("c2r1", "c2r2"): inside}
        if insert:
            between |= {("c2r1", "c1r1b"): insert, ("c2r2", "c1r2b"): insert, ("c2r1", "c1r1a"): insert}
            between |= {("c2r2", "c1r2a"): insert}
        labels = {"c2r1": "front", "c2r2": "back", "c1r1a": "left end", "c3r1b": "right end"}
        labels |= {"c1r2a": "left end", "c3r2b": "right end"}
        labels |= {corner: "corner" for _, corner in _CORNERS}
        return fold_sheet(
            f"{s.element}.sheet", s.name, s.paper, self.marked(sizes), self.script(sizes), glue=s.glue, labels=labels,
            between=between, note="Slit the middle line in from both sides, only as far as the side scores.",
        )  # fmt: skip

    def thickness(self, s: Situation, sizes: Sizes) -> Span:
        """Up to ten layers, what is in the pockets and inside."""
        return span("layers", self.made(s, sizes).thick).plus(*bulks(s, "bulk on the front", "front"))

    def beyond(self, s: Situation, sizes: Sizes) -> tuple[float, float]:
        """The folds stand out by half of what they go around and half a sheet."""
        out = self.made(s, sizes).outermost
        return out, out

    def reaches(self, s: Situation, sizes: Sizes) -> tuple[Span, Span]:
        """Half the page: half the sheet less the side, a quarter of the sheet."""
        w, c, e = sizes["sheet"].length, sizes["side"].length, s.element
        across = Span((Term("half the sheet", w / 2, Lever(e, "sheet", 0.5)), Term("side", -c, Lever(e, "side", -1.0))))
        return across, Span((Term("a quarter of the sheet", w / 4, Lever(e, "sheet", 0.25)),))

    def rooms(self, situation: Situation, sizes: Sizes) -> dict[str, Room]:
        """The front below the turned corner; both halves inside."""
        t, e = situation.paper.caliper, situation.element
        w, c = sizes["sheet"].length, sizes["side"].length
        inside = page_room(w - 2 * c, w / 2, t, e, (("sheet", 1.0), ("sheet", 0.5)))
        free = w / 2 - c
        rooms = {"inside-1": inside, "inside-2": inside}
        if free > 12.0:
            rooms["front"] = page_room(min(c, w - 2 * c), free, t, e, (("side", 1.0), ("sheet", 0.5)))
        return rooms

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        """The page on its back, its halves hinged at the head."""
        s, e = situation, situation.element
        made = self.made(s, sizes)
        w, c = sizes["sheet"].length, sizes["side"].length
        up = (0.0, 1.0)
        mounts = [
            page_mount(made, "inside-1", "inside, left", "c2r1", -1, up),
            page_mount(made, "inside-2", "inside, right", "c2r2", -1, up),
        ]
        if "front" in rooms:
            wide = min(c, w - 2 * c)
            mounts.append(
                page_mount(made, "front", "front, below the turned corner", "c3r1b", made.shows("c3r1b"), up,
                           (w - c, 0.0, w - c + wide, w / 2 - c))
            )  # fmt: skip
        crease = next(x for x in made.piece.creases if {x.a, x.b} == {"c2r1", "c2r2"})
        opening = Swing("open", f"{s.name} opens", ((SHEET, crease.name, math.copysign(math.pi / 6, crease.angle)),))
        strip, e_sheet = sizes["strip"].length, lever_term("sheet", w, e, "sheet")
        overlap = Span((lever_term("sides", 4 * c, e, "side", 4.0), lever_term("sheet", -w, e, "sheet", -1.0)))
        gaps = [
            sheet_gap(e, made.piece.name, s.paper, made.piece.size, ((e_sheet,), (e_sheet,))),
            fit_gap(s, uses.GLUE, (f"{s.name}, end", "end that laps it"), overlap),
            fit_gap(s, uses.GLUE, (f"{s.name}, glued strip", "glue"), span("strip", strip, e, "strip")),
            *told_contents(
                s, sizes, f"{s.name}, pocket", (("content-width", "page-width"), ("content-height", "page-height")),
            ),
        ]  # fmt: skip
        inside = (w - 2 * c, w / 2 - strip)
        pockets = [
            Pocket("pocket in front", ("c2r1", "c1r1a", "c3r1b"), "up", *inside),
            Pocket("pocket at the back", ("c2r2", "c1r2a", "c3r2b"), "up", *inside),
        ]
        return sheet_part(
            s, made, up, mounts=mounts, swings=(opening,), gaps=gaps, pockets=pockets,
            joints=made.resting((("c2r1", "c2r2"),)), label="keep glue out of the mouth at the turned corners",
        )  # fmt: skip


FAMILY = PocketPage()
