"""Gusset book: pages or envelopes, each with a gusset at its back, glued back to back."""

from __future__ import annotations

import math
from collections.abc import Mapping
from typing import Literal

from msgspec.structs import replace

from yawning_lantern.assembly import Attach, Gap, Instance, Mount, Part, Room, Root, Span, Swing, Term, span, uses
from yawning_lantern.measure import inches, snap
from yawning_lantern.pattern import Fold, Panel, Piece, Point, ScoreFlag, build_piece, rectangle
from yawning_lantern.stock import Paper
from yawning_lantern.structures.kit.around import AROUND, around_mount, around_room
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes, Start, fact
from yawning_lantern.structures.kit.lying import (
    TAB,
    Lying,
    count_of,
    extent,
    face_mount,
    fit_gap,
    row,
    usual_length,
)
from yawning_lantern.structures.kit.over_edge import through
from yawning_lantern.structures.kit.shell import FOLD_SHIFT, lever_term
from yawning_lantern.structures.kit.solving import (
    as_given,
    face_room,
    given_length,
    length_of,
    positive,
    sheet_gap,
    told_contents,
    word_of,
)

MOST = 12  # pages at most
GUSSET = inches(1 / 32)
"""A gusset between two thin pages, mm: about 1/8 for five pages and their four hinges together. Common practice, no
source."""
MAT_BORDER = inches(1 / 8)
"""Border of the mats on its pages, mm. Common practice, no source."""
FIRST = inches(1 / 8)
"""The one gusset of a book whose pages hang on flaps of their own, for five thin ones together, mm. Common practice, no
source."""
ENVELOPE = 3.0
"""An envelope is this many sheets thick. From memory."""
FACES: tuple[tuple[str, Literal[-1, 1]], ...] = (("front", 1), ("back", -1))
"""Of a page, and which side of its piece they are."""


class GussetBook(Lying):
    """Each leaf is a page, a double score a gusset apart, and a tab that is glued to the leaf before."""

    id = "gusset-book"
    name = "Gusset book"
    about = "Pages or bought envelopes, each hinged on a gusset that makes room for what it holds."
    shelf = "Books"
    footprint = ("page-width", "page-height")
    headline = ("page-width", "page-height", "pages")
    starts: tuple[Start, ...] = ("size", "contents", "sheet")
    faces = (
        (AROUND, "around it, shut"),
        *(
            (f"page-{k + 1}-{side}", f"page {k + 1}, {side}")
            for k in range(MOST)
            for side in ("front", "back")  # the first page's back only where the book lies on nothing
        ),
    )
    parameters = (
        Parameter("pages", "Pages", "count", "How many.", "Pages", 2, MOST, default=5),
        Parameter("page-width", "Page, width", "length", "Of a page or an envelope.", "Pages", 15.0),
        Parameter("page-height", "Page, height", "length", "Foot to head.", "Pages", 15.0),
        Parameter("page-kind", "Pages are", "word", "Cut from the sheet, or bought envelopes.", "Pages",
                  words=("cut", "envelopes"), default="cut"),
        Parameter("binding", "Bound by", "word", "A gusset for every two pages, or each page's own flap, one gusset on "
                  "the first.", "Spine", words=("gussets", "own flaps"), default="gussets"),
        Parameter("gusset", "Gusset", "length", "Between the two scores; wider for more bulk.", "Spine", 0.5, 60.0),
        Parameter("gussets", "Gussets together", "length", "What all of them add at the spine.", "Spine", derived=True),
        Parameter("tab", "Tab", "length", "Glued to the leaf before.", "Spine", 3.0, default=TAB),
        fact("content-width", "Page at hand, width", "A card that becomes a page.", "Contents", 15.0),
        fact("content-height", "Page at hand, height", "A card that becomes a page.", "Contents", 15.0),
        Parameter("mat-width", "Mat, width", "length", "For each page.", "Mats", derived=True),
        Parameter("mat-height", "Mat, height", "length", "For each page.", "Mats", derived=True),
        Parameter("thick", "Closed", "length", "Thickness of the shut book.", "Spine", derived=True),
    )  # fmt: skip

    def size(self, situation: Situation) -> dict[str, Sized]:
        """Pages and gussets. Raises ParameterError where no page is left."""
        s = situation
        wide = given_length(s.given, "page-width") or (s.room.clear(0) if s.room is not None else 1000.0)
        sizes = {
            "pages": count_of(s, "pages", 5),
            "page-kind": word_of(s.given, "page-kind", "cut"),
            "page-width": extent(s, "page-width", 0, inches(4.25), given_length(s.given, "content-width")),
            "page-height": extent(s, "page-height", 1, inches(6.25), given_length(s.given, "content-height")),
            "tab": usual_length(s, "tab", TAB, wide / 5, scored=True),
        }
        n = int(sizes["pages"].length)
        sizes["binding"] = word_of(s.given, "binding", "gussets")
        flaps = sizes["binding"].value == "own flaps"
        bulk = self._facing(s, n) if not flaps else s.bulk_on("page-1-front") + s.bulk_on("page-2-back")
        exact = bulk + s.paper.caliper if bulk else 0.0  # mats lie over the tabs of their page
        least = FIRST if flaps else GUSSET
        sizes["gusset"] = length_of(s.given, "gusset", max(least, snap(exact, s.cut.grid, "up").value), "auto")
        sizes["gussets"] = Sized((1 if flaps else n - 1) * sizes["gusset"].length, "auto")
        positive(sizes["page-width"].length - 2 * sizes["tab"].length, "page beyond its tab", "Make the pages wider.")
        for name, length in (("mat-width", "page-width"), ("mat-height", "page-height")):
            sizes[name] = Sized(snap(sizes[length].length - 2 * MAT_BORDER, s.cut.grid, "down").value, "auto")
        sizes |= as_given(s.given, "content-width", "content-height")
        sizes["thick"] = Sized(self.thickness(s, sizes).value, "auto")
        return sizes

    @staticmethod
    def _sheet(s: Situation, sizes: Sizes) -> float:
        return s.paper.caliper * (ENVELOPE if sizes["page-kind"].value == "envelopes" else 1.0)

    @staticmethod
    def _facing(s: Situation, pages: int) -> float:
        """The most that lies between two pages when they meet: on the front of one and the back of the next, mm."""
        return max(s.bulk_on(f"page-{k}-front") + s.bulk_on(f"page-{k + 1}-back") for k in range(1, pages))

    def thickness(self, s: Situation, sizes: Sizes) -> Span:
        """A page for each, and the gussets between them."""
        n, sheet = int(sizes["pages"].length), self._sheet(s, sizes)
        if sizes["binding"].value == "own flaps":
            rest = sum(self._over(s, sizes, k) for k in range(3, n + 1))
            first = span("first gusset", sizes["gusset"].length, s.element, "gusset")
            return first.plus(
                Term("first flap and bends", sheet * (1 + 2 * FOLD_SHIFT) + s.glue), Term("flaps and pages", rest),
                Term("a page", sheet), Term("bulk outside", s.bulk_on(f"page-{n}-front") + s.bulk_on("page-1-back")),
            )  # fmt: skip
        step = self._step(s, sizes)
        return span("gussets", (n - 1) * step, s.element, "gusset", n - 1.0).plus(
            Term("a page", sheet), Term("bulk outside", s.bulk_on(f"page-{n}-front") + s.bulk_on("page-1-back"))
        )

    def beyond(self, s: Situation, sizes: Sizes) -> tuple[float, float]:
        """Half of what stands out at the spine: it lies with its middle on the face's."""
        return self._stands_out(s, sizes) / 2, 0.0

    def _stands_out(self, s: Situation, sizes: Sizes) -> float:
        """Gussets stand out at the spine by their bend and half a sheet, flaps by half of what they go around, mm."""
        if sizes["binding"].value == "own flaps":
            sheet, n = self._sheet(s, sizes), int(sizes["pages"].length)
            around = max((self._over(s, sizes, k) - sheet for k in range(3, n + 1)), default=0.0)
            return max(sheet * (0.5 + FOLD_SHIFT), around / 2 + sheet / 2)
        return s.paper.caliper * (0.5 + FOLD_SHIFT)

    def _root(self, s: Situation, sizes: Sizes) -> Root:
        """The first page, its spine on the left."""
        w, h = sizes["page-width"].length, sizes["page-height"].length
        return Root("page", ((w - self._stands_out(s, sizes)) / 2, h / 2), away=s.bulk_on("page-1-back"))

    def _around(self, s: Situation, sizes: Sizes, panel: Panel, side: Literal[-1, 1], up: Point) -> Mount:
        """A band around the shut book, over its last page, whose spine is where the panel begins."""
        (x, y), out = panel.outline[0], self._stands_out(s, sizes)
        w, h, n = sizes["page-width"].length, sizes["page-height"].length, int(sizes["pages"].length)
        whole = Panel(panel.name, panel.label, rectangle(x - out, y, x + w, y + h))
        thick = self._sheet(s, sizes) + 2 * s.bulk_on(f"page-{n}-front")
        return around_mount(f"page-{n}", whole, side, thick, up, (w + out, h))

    def _over(self, s: Situation, sizes: Sizes, page: int) -> float:
        """From a page that hangs on its own flap to the one below it when shut, mm."""
        return 2 * self._sheet(s, sizes) + s.glue + s.bulk_on(f"page-{page - 1}-front") + s.bulk_on(f"page-{page}-back")

    def _step(self, s: Situation, sizes: Sizes) -> float:
        """From page to page when shut, mm."""
        return sizes["gusset"].length + s.paper.caliper * (1 + 2 * FOLD_SHIFT) + self._sheet(s, sizes) + 2 * s.glue

    def rooms(self, situation: Situation, sizes: Sizes) -> dict[str, Room]:
        """Both faces of each page; around it where it lies on nothing."""
        s, t, e = situation, situation.paper.caliper, situation.element
        w, h, n = sizes["page-width"].length, sizes["page-height"].length, int(sizes["pages"].length)
        rooms = {
            f"page-{k + 1}-{side}": face_room(w, h, t, e, ("page-width", "page-height"), "page")
            for k in range(n)
            for side in ("front", "back")
            if (k, side) != (0, "back")
        }
        if s.room is None:
            rooms["page-1-back"] = face_room(w, h, t, e, ("page-width", "page-height"), "page")
            ends, thick = ("page-1-back", f"page-{n}-front"), self.thickness(s, sizes)
            for face, other in (ends, ends[::-1]):
                edges = through(s, thick, w / 2, h / 2, (face, other), behind=face == "page-1-back")
                rooms[face] = replace(rooms[face], through=edges)
            reach = span("half a page", w / 2, e, "page-width", 0.5).plus(Term("gussets", self.beyond(s, sizes)[0]))
            rooms[AROUND] = around_room(reach, self.thickness(s, sizes), (w, h), t)
        return rooms

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        """Pages from the back to the front, each hinged at its left on the one below."""
        if sizes["binding"].value == "own flaps":
            return self._on_flaps(situation, sizes)
        s, e, t = situation, situation.element, situation.paper.caliper
        w, h, tab = (sizes[n].length for n in ("page-width", "page-height", "tab"))
        n, sheet = int(sizes["pages"].length), self._sheet(s, sizes)
        bought = sizes["page-kind"].value == "envelopes"
        page = build_piece(
            f"{e}.page", f"{s.name}, page", self._stock(s, sizes), [Panel("page", "page", rectangle(0, 0, w, h))],
            quantity=n, note="Bought: not cut." if bought else "", bought=bought,
        )  # fmt: skip
        rise = sizes["gusset"].length
        strip = build_piece(
            f"{e}.gusset", f"{s.name}, gusset", s.paper,
            row((("lower", "tab", tab), ("gusset", "gusset", rise), ("upper", "tab", tab)), 0.0, h),
            [Fold("lower", "gusset", math.pi / 2), Fold("gusset", "upper", math.pi / 2)],
            flags=(ScoreFlag("x", tab, "tab", 1.0),), quantity=n - 1, note="Double score.",
        )  # fmt: skip
        instances = [Instance("page-1", page.id, self._root(s, sizes))]
        swings = []
        mid, away = h / 2, t / 2 + sheet / 2 + s.glue
        for k in range(1, n):
            # the lower tab lies on the page below, its score at the page's edge, running inward
            on = Attach(f"page-{k}", "page", (0.0, mid), (0.0, 1.0), 1, away)
            name = f"gusset-{k}"
            instances.append(Instance(name, strip.id, Root("lower", (tab, mid), (0.0, -1.0)), on))
            over = Attach(name, "upper", (tab + rise, mid), (0.0, -1.0), -1, away)
            instances.append(Instance(f"page-{k + 1}", page.id, Root("page", (0.0, mid)), over))
        for k in range(n - 1, 0, -1):
            share = math.pi / 2 / (n - 1)
            turned = (
                (f"gusset-{k}", "lower/gusset", math.pi / 2 - share),
                (f"gusset-{k}", "gusset/upper", math.pi / 2 - share),
            )
            swings.append(Swing(f"page-{k + 1}", f"page {k + 1} of {s.name} turns", turned))
        mounts = [
            face_mount(
                f"page-{k + 1}-{side}",
                f"page {k + 1}, {side}",
                f"page-{k + 1}",
                page.panels[0],
                way,
                sheet if (k, side) == (n - 1, "front") else sheet + 2 * (t + s.glue),  # over the tabs, but on the last
                over=()
                if (k, side) == (n - 1, "front")
                else ((f"gusset-{k + 1}", "lower"),)
                if way > 0
                else ((f"gusset-{k}", "upper"),),
            )
            for k in range(n)
            for side, way in FACES
            if (k, side) != (0, "back")
        ]
        if s.room is None:
            mounts.append(face_mount("page-1-back", "page 1, back", "page-1", page.panels[0], -1, sheet))
            mounts.append(self._around(s, sizes, page.panels[0], 1, (0.0, 1.0)))
        return Part(
            e, s.name, (page, strip), tuple(instances), tuple(mounts), tuple(swings),
            tuple(self._gaps(s, sizes, page, strip, bought)),
        )  # fmt: skip

    def _stock(self, s: Situation, sizes: Sizes) -> Paper:
        """What pages are made of."""
        if sizes["page-kind"].value != "envelopes":
            return s.paper
        thick = self._sheet(s, sizes)
        return replace(s.paper, id="envelope", name="bought envelope", measured=thick, front="#e8e2d4")

    def _on_flaps(self, s: Situation, sizes: Sizes) -> Part:
        """Every page but the first hangs on its own flap, glued on the page below; the first flap has a gusset."""
        e, n, sheet = s.element, int(sizes["pages"].length), self._sheet(s, sizes)
        w, h, tab, rise = (sizes[m].length for m in ("page-width", "page-height", "tab", "gusset"))
        paper, mid, quarter = self._stock(s, sizes), h / 2, math.pi / 2
        bought = sizes["page-kind"].value == "envelopes"
        note = "Bought: its own flap is the hinge." if bought else ""
        page = build_piece(f"{e}.page", f"{s.name}, first page", paper, [Panel("page", "page", rectangle(0, 0, w, h))],
                           note=note, bought=bought)  # fmt: skip
        first = build_piece(
            f"{e}.first", f"{s.name}, second page", paper,
            row((("flap", "flap", tab), ("gusset", "gusset", rise), ("page", "page", w)), 0.0, h),
            [Fold("flap", "gusset", quarter), Fold("gusset", "page", quarter)],
            flags=(ScoreFlag("x", tab, "tab", 1.0),), bought=bought, note="Double score: room for all pages together.",
        )  # fmt: skip
        pieces = [page, first]
        if n > 2:
            pieces.append(
                build_piece(
                    f"{e}.leaf",
                    f"{s.name}, further page",
                    paper,
                    row((("flap", "flap", tab), ("page", "page", w)), 0.0, h),
                    [Fold("flap", "page", math.pi)],
                    flags=(ScoreFlag("x", tab, "tab", 1.0),),
                    quantity=n - 2,
                    note=note,
                    bought=bought,
                )
            )
        instances = [Instance("page-1", page.id, self._root(s, sizes))]
        mounts = [face_mount("page-1-front", "page 1, front", "page-1", page.panels[0], 1, sheet + 2 * (sheet + s.glue),
                             over=(("page-2", "flap"),))]  # fmt: skip
        swings, down = [], (0.0, -1.0)
        for k in range(2, n + 1):
            name, piece = f"page-{k}", pieces[1] if k == 2 else pieces[2]
            edge = 0.0 if k == 2 else tab + rise if k == 3 else tab
            side: Literal[-1, 1] = 1 if k == 2 else -1
            on = Attach(f"page-{k - 1}", "page", (edge, mid), (0.0, 1.0) if k == 2 else down, side, sheet + s.glue)
            wraps = () if k == 2 else (("flap/page", self._over(s, sizes, k) - 2 * sheet - s.glue),)
            instances.append(Instance(name, piece.id, Root("flap", (tab, mid), down), on, wraps=wraps))
            flaps = sheet + (0.0 if k == n else 2 * (sheet + s.glue))
            over = () if k == n else ((f"page-{k + 1}", "flap"),)
            mounts.append(face_mount(f"{name}-front", f"page {k}, front", name, piece.panel("page"), -1, flaps, down,
                                     over=over))  # fmt: skip
            mounts.append(face_mount(f"{name}-back", f"page {k}, back", name, piece.panel("page"), 1, sheet, down))
        for k in range(n, 1, -1):
            share = quarter / (n - 1)
            turned = (
                ((f"page-{k}", "flap/gusset", quarter - share), (f"page-{k}", "gusset/page", quarter - share)) if k == 2
                else ((f"page-{k}", "flap/page", math.pi - 2 * share),)
            )  # fmt: skip
            swings.append(Swing(f"page-{k}", f"page {k} of {s.name} turns", turned))
        if s.room is None:
            panel = pieces[1 if n == 2 else 2].panel("page")
            mounts.append(face_mount("page-1-back", "page 1, back", "page-1", page.panels[0], -1, sheet))
            mounts.append(self._around(s, sizes, panel, -1, down))
        gaps = self._flap_gaps(s, sizes, pieces, bought)
        return Part(e, s.name, tuple(pieces), tuple(instances), tuple(mounts), tuple(swings), tuple(gaps))

    def _flap_gaps(self, s: Situation, sizes: Sizes, pieces: list[Piece], bought: bool) -> list[Gap]:
        e = s.element
        w, h, tab, rise = (sizes[m].length for m in ("page-width", "page-height", "tab", "gusset"))
        sheet = self._sheet(s, sizes)
        facing = s.bulk_on("page-1-front") + s.bulk_on("page-2-back")
        room = span("gusset", rise, e, "gusset").plus(
            Term("bends less the page", (2 * FOLD_SHIFT - 1) * sheet), Term("bulk between two pages", -facing)
        )
        pages = (f"{s.name}, gusset", "first two pages")
        gaps = [fit_gap(s, uses.SPINE, pages, room, (-sheet / 2, inches(2)))]
        sized = (("content-width", "page-width"), ("content-height", "page-height"))
        gaps += told_contents(s, sizes, f"{s.name}, page", sized)
        gaps.append(fit_gap(s, uses.GLUE, (f"{s.name}, flap", "glue"), span("flap", tab, e, "tab")))
        along = (lever_term("page", h, e, "page-height"),)
        for piece in pieces if not bought else ():
            across = (lever_term("page", w, e, "page-width"), Term("flap and gusset", piece.size[0] - w))
            gaps.append(sheet_gap(e, piece.name, s.paper, piece.size, (across, along)))
        return gaps

    def _gaps(self, s: Situation, sizes: Sizes, page: Piece, strip: Piece, bought: bool) -> list[Gap]:
        e = s.element
        w, h, n = sizes["page-width"].length, sizes["page-height"].length, int(sizes["pages"].length)
        most = self._facing(s, n)
        room = span("gusset", sizes["gusset"].length, e, "gusset").plus(
            Term("gusset's sheet", s.paper.caliper),
            Term("over the tabs", -2 * s.paper.caliper if most else 0.0),
            Term("bulk between two pages", -most),
        )
        gaps = [
            fit_gap(
                s, uses.SPINE, (f"{s.name}, gusset", "two pages that meet"), room, (-s.paper.caliper / 2, inches(2))
            )
        ]
        sized = (("content-width", "page-width"), ("content-height", "page-height"))
        gaps += told_contents(s, sizes, f"{s.name}, page", sized)
        terms = ((lever_term("page", w, e, "page-width"),), (lever_term("page", h, e, "page-height"),))
        if not bought:
            gaps.append(sheet_gap(e, page.name, s.paper, page.size, terms))
        wide = strip.size[0]
        gaps.append(sheet_gap(e, strip.name, s.paper, strip.size, (span("gusset and tabs", wide).terms, terms[1])))
        return gaps


FAMILY = GussetBook()
