"""Accordion spine: a pleated strip between two covers; the pages sit in its valleys."""

from __future__ import annotations

import math
from collections.abc import Mapping
from typing import Literal

from msgspec import Struct
from msgspec.structs import replace

from yawning_lantern.assembly import (
    HOST,
    Attach,
    Gap,
    Instance,
    Joint,
    Mount,
    Part,
    Room,
    Root,
    Span,
    Swing,
    Term,
    span,
    uses,
)
from yawning_lantern.errors import ParameterError
from yawning_lantern.measure import inches, snap, told
from yawning_lantern.pattern import Fold, Panel, Piece, ScoreFlag, build_piece, rectangle
from yawning_lantern.structures.kit.around import AROUND, around_mount, around_room
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes, Start, fact
from yawning_lantern.structures.kit.lying import (
    TAB,
    Lying,
    bulks,
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
    sheet_gap,
    told_contents,
    word_of,
)

MOST = 12  # pages at most
PLAY = inches(1 / 8)
"""What a cover stands over its pages, mm. Common practice, no source."""
FLAT_TOP = inches(1 / 8)
"""A hill that is flat because the maker says so is at least so wide, mm: a double score. Common practice, no source."""
ENVELOPE = 3.0
"""An envelope is this many sheets thick: front, back and half its flaps. From memory."""
FACES: tuple[tuple[str, Literal[-1, 1]], ...] = (("recto", 1), ("verso", -1))
"""Of a page, and which side of its piece they are."""


class Spine(Struct, frozen=True):
    """The pleated strip, mm: `depth` of a pleat, `hill` the flat top of each hill (0: none), pages N."""

    pages: int
    depth: float
    hill: float

    @property
    def length(self) -> float:
        """2N + 2 pleats and N + 1 hill tops, mm."""
        return (2 * self.pages + 2) * self.depth + (self.pages + 1) * self.hill

    def parts(self) -> list[tuple[str, str, float]]:
        """Panels in order: a pleat, a hill, a pleat, (a valley) a pleat, a hill …"""
        parts: list[tuple[str, str, float]] = []
        for k in range(self.pages + 1):
            parts.append((f"p{2 * k}", f"pleat {2 * k + 1}", self.depth))
            if self.hill:
                parts.append((f"hill-{k + 1}", f"hill {k + 1}", self.hill))
            parts.append((f"p{2 * k + 1}", f"pleat {2 * k + 2}", self.depth))
        return parts

    def hills(self) -> list[list[tuple[str, str]]]:
        """The folds of each hill: one, or two about its flat top."""
        if not self.hill:
            return [[(f"p{2 * k}", f"p{2 * k + 1}")] for k in range(self.pages + 1)]
        return [[(f"p{2 * k}", f"hill-{k + 1}"), (f"hill-{k + 1}", f"p{2 * k + 1}")] for k in range(self.pages + 1)]

    def valleys(self) -> list[tuple[str, str]]:
        """The fold of each valley, where a page sits."""
        return [(f"p{2 * k + 1}", f"p{2 * k + 2}") for k in range(self.pages)]


class AccordionSpine(Lying):
    """Panels = 2N + 2: the outer two join the covers, each page stands in a valley between two fins."""

    id = "accordion-spine"
    name = "Accordion spine"
    about = "A book whose spine is pleated: a page in every valley, hills as fins between them, two covers."
    shelf = "Books"
    footprint = ("cover-width", "height")
    headline = ("cover-width", "height", "pages")
    starts: tuple[Start, ...] = ("size", "contents", "sheet")
    faces = (
        ("cover-front", "front cover, outside"), ("cover-inside", "front cover, inside"),
        ("back-inside", "back cover, inside"), ("cover-back", "back cover, outside"), (AROUND, "around it, shut"),
        *((f"page-{k + 1}-{side}", f"page {k + 1}, {side}") for k in range(MOST) for side in ("recto", "verso")),
    )  # fmt: skip
    parameters = (
        Parameter("pages", "Pages", "count", "How many stand in the spine.", "Pages", 1, MOST, default=5),
        Parameter("page-width", "Page, width", "length", "Of a page or a bought envelope.", "Pages", 10.0),
        Parameter(
            "page-kind",
            "Pages are",
            "word",
            "Cut from the sheet, or bought envelopes.",
            "Pages",
            words=("cut", "envelopes"),
            default="cut",
        ),
        fact("page-bulk", "Bulk of a page", "Thickness of a page with all that is on it.", "Pages", most=40.0),
        Parameter(
            "joint",
            "Joint of the pages",
            "word",
            "Glued into the valleys, or left free to turn.",
            "Pages",
            words=("glued", "free"),
            default="glued",
        ),
        Parameter("height", "Height", "length", "Of pages, spine and covers.", "Pages", 10.0),
        Parameter(
            "pleat",
            "Pleat",
            "length",
            "Depth of a pleat: how far a hill reaches between the pages.",
            "Spine",
            5.0,
            default=TAB,
        ),
        Parameter(
            "hills",
            "Hills",
            "word",
            "Sharp, or flat on top where the pages carry bulk.",
            "Spine",
            words=("auto", "sharp", "flat"),
            default="auto",
        ),
        Parameter("hill-top", "Flat top", "length", "Width of the flat top of a hill.", "Spine", most=40.0),
        Parameter("cover-width", "Cover, width", "length", "Tab, page and play.", "Cover", 10.0),
        fact("content-width", "Page at hand, width", "An envelope or card that becomes a page.", "Contents", 10.0),
        fact("content-height", "Page at hand, height", "An envelope or card that becomes a page.", "Contents", 10.0),
        Parameter("strip", "Spine strip", "length", "Length to cut.", "Spine", derived=True),
        Parameter("panels", "Pleats", "count", "2N + 2.", "Spine", derived=True),
        Parameter("thick", "Closed", "length", "Thickness of the shut book.", "Cover", derived=True),
    )

    def size(self, situation: Situation) -> dict[str, Sized]:
        """Pages, spine and covers. Raises ParameterError where the pages are narrower than the pleats."""
        s, given, t = situation, situation.given, situation.paper.caliper
        pages = count_of(s, "pages", 5)
        n = int(pages.length)
        wide = given_length(given, "cover-width") or (s.room.clear(0) if s.room is not None else 1000.0)
        sizes: dict[str, Sized] = {
            "pages": pages,
            "page-kind": word_of(given, "page-kind", "cut"),
            "joint": word_of(given, "joint", "glued"),
            "hills": word_of(given, "hills", "auto"),
            "height": extent(s, "height", 1, inches(5.75), given_length(given, "content-height")),
            "pleat": usual_length(s, "pleat", TAB, wide / 5, scored=True),
        }
        pleat = sizes["pleat"].length
        page = given_length(given, "page-width") or given_length(given, "content-width")
        if page is not None:
            sizes["page-width"] = Sized(page, "given" if "page-width" in given else "auto")
            sizes["cover-width"] = length_of(given, "cover-width", page + pleat + PLAY, "auto")
        else:
            cover = extent(s, "cover-width", 0, inches(5))
            sizes["cover-width"] = cover
            exact = cover.length - pleat - PLAY
            sizes["page-width"] = Sized(snap(exact, s.cut.grid, "down").value, cover.origin, exact)
        if sizes["page-width"].length < 2 * pleat:
            raise ParameterError(
                "The pages are hardly wider than the pleats that hold them.", "Page, width",
                f"Make them wider than {told(2 * pleat)}, or the pleats shallower.",
            )  # fmt: skip
        sheet = self._page_sheet(s, sizes)
        sizes["page-bulk"] = length_of(given, "page-bulk", sheet + max(self._facing(s, n), default=0.0), "auto")
        spare = sizes["page-bulk"].length - (2 * t + sheet)
        flat = sizes["hills"].value == "flat" or (sizes["hills"].value == "auto" and spare > t / 2)
        most = max(spare, *(end - 2 * t for end in self._ends(s, n)))
        least = FLAT_TOP if sizes["hills"].value == "flat" else 0.0
        top = snap(max(most + t * (1 - 2 * FOLD_SHIFT), least), s.cut.grid, "up").value if flat else 0.0
        sizes["hill-top"] = length_of(given, "hill-top", top, "auto")
        sizes |= as_given(given, "content-width", "content-height")
        sizes["strip"] = Sized(self._spine(sizes).length, "auto")
        sizes["panels"] = Sized(2 * n + 2, "auto")
        sizes["thick"] = Sized(self.thickness(s, sizes).value, "auto")
        return sizes

    @staticmethod
    def _page_sheet(s: Situation, sizes: Sizes) -> float:
        return s.paper.caliper * (ENVELOPE if sizes["page-kind"].value == "envelopes" else 1.0)

    @staticmethod
    def _facing(s: Situation, pages: int) -> list[float]:
        """What lies between two pages when they meet: on the recto of one and the verso of the next, mm."""
        return [s.bulk_on(f"page-{k}-recto") + s.bulk_on(f"page-{k + 1}-verso") for k in range(1, pages)]

    @staticmethod
    def _ends(s: Situation, pages: int) -> tuple[float, float]:
        """What lies between the back cover and the first page, and between the last page and the front cover, mm."""
        first = s.bulk_on("back-inside") + s.bulk_on("page-1-verso")
        return first, s.bulk_on("cover-inside") + s.bulk_on(f"page-{pages}-recto")

    def _wraps(self, s: Situation, sizes: Sizes) -> tuple[float, float]:
        """What the outer hills go around beyond their two pleats, where they are sharp, mm."""
        if sizes["hill-top"].length:
            return 0.0, 0.0
        pleats, glue = 2 * s.paper.caliper, s.glue  # on the first pleat a page is glued, the last one is free
        first, last = self._ends(s, int(sizes["pages"].length))
        return max(0.0, first - pleats - 2 * glue), max(0.0, last - pleats - glue)

    @staticmethod
    def _spine(sizes: Sizes) -> Spine:
        return Spine(int(sizes["pages"].length), sizes["pleat"].length, sizes["hill-top"].length)

    @staticmethod
    def _hill_gain(t: float, top: float) -> float:
        """What a flat hill keeps its pleats apart beyond a sharp one, mm."""
        return max(0.0, top - t * (1 - 2 * FOLD_SHIFT)) if top else 0.0

    def _each(self, s: Situation, sizes: Sizes) -> float:
        """What one page with its two pleats takes of the closed thickness, mm."""
        t, top = s.paper.caliper, sizes["hill-top"].length
        at_spine = 2 * t + self._page_sheet(s, sizes) + s.glue  # a page is glued to the pleat before it
        return max(at_spine + self._hill_gain(t, top), sizes["page-bulk"].length)

    def thickness(self, s: Situation, sizes: Sizes) -> Span:
        """Covers, outer pleats, and every page with its pleats or its bulk."""
        n, t = int(sizes["pages"].length), s.paper.caliper
        outer = span("covers and outer pleats", 4 * t + 2 * s.glue)
        each = self._each(s, sizes)
        top = sizes["hill-top"].length
        pages = Term("pages in the spine", n * each + self._hill_gain(t, top))
        inner = sum(self._wraps(s, sizes))
        return outer.plus(
            pages, Term("bulk inside the covers", inner), *bulks(s, "bulk on the covers", "cover-front", "cover-back")
        )

    def rooms(self, situation: Situation, sizes: Sizes) -> dict[str, Room]:
        """Covers and pages; around it where it lies on nothing."""
        s, t, e = situation, situation.paper.caliper, situation.element
        w, h, page, pleat = (sizes[n].length for n in ("cover-width", "height", "page-width", "pleat"))
        rooms = {"cover-front": face_room(w - pleat, h, t, e, ("cover-width", "height"), "cover")}
        for name in ("cover-inside", "back-inside"):
            rooms[name] = face_room(w - pleat, h, t, e, ("cover-width", "height"), "cover")
        for k in range(int(sizes["pages"].length)):
            for side in ("recto", "verso"):
                rooms[f"page-{k + 1}-{side}"] = face_room(page - pleat, h, t, e, ("page-width", "height"), "page")
        if s.room is None:
            reach = span("half a cover", w / 2, e, "cover-width", 0.5)
            rooms["cover-back"] = face_room(w - pleat, h, t, e, ("cover-width", "height"), "cover")
            covers, thick = ("cover-back", "cover-front"), self.thickness(s, sizes)
            for face, other in (covers, covers[::-1]):
                edges = through(s, thick, (w - pleat) / 2, h / 2, (face, other), behind=face == "cover-back")
                rooms[face] = replace(rooms[face], through=edges)
            rooms[AROUND] = around_room(reach, self.thickness(s, sizes), (w, h), t)
        return rooms

    def _pieces(self, s: Situation, sizes: Sizes) -> dict[str, Piece]:
        e, h, spine = s.element, sizes["height"].length, self._spine(sizes)
        w, pleat, page = (sizes[n].length for n in ("cover-width", "pleat", "page-width"))
        sheet = self._page_sheet(s, sizes)
        angle = math.pi / 2 if spine.hill else math.pi
        first, last = self._wraps(s, sizes)
        ends = {0: first, spine.pages: last}  # what lies inside the covers
        folds = [Fold(a, b, angle, wrap=ends.get(k, 0.0)) for k, hill in enumerate(spine.hills()) for a, b in hill]
        folds += [Fold(a, b, -math.pi, wrap=sheet + s.glue) for a, b in spine.valleys()]
        flags = (ScoreFlag("x", pleat, "pleat", 1.0),)
        strip = build_piece(
            f"{e}.spine", f"{s.name}, spine", s.paper, row(spine.parts(), 0.0, h), folds, flags=flags,
            note="Fold to and fro; the grain should run along the pleats.",
        )  # fmt: skip
        boards = (("tab", "tab", pleat), ("board", "cover", w - pleat))
        front = build_piece(
            f"{e}.cover-front", f"{s.name}, front cover", s.paper, row(boards, 0.0, h),
            [Fold("tab", "board", 1e-9)], flags=flags, note="Score the tab: the cover turns on it.",
        )  # fmt: skip
        back = build_piece(
            f"{e}.cover-back", f"{s.name}, back cover", s.paper, row(boards[::-1], 0.0, h),
            [Fold("board", "tab", 1e-9)], flags=(ScoreFlag("x", w - pleat, "cover-width", 1.0),),
        )  # fmt: skip
        bought = sizes["page-kind"].value == "envelopes"
        leaf_panels = row((("glued", "page, glued to the pleat", pleat), ("page", "page", page - pleat)), 0.0, h)
        paper = s.paper
        if bought:
            paper = replace(s.paper, id="envelope", name="bought envelope", measured=sheet, front="#e8e2d4")
        how = "Glue along the pleat only." if sizes["joint"].value == "glued" else "Left free: it turns more easily."
        note = f"{'Bought: not cut. ' if bought else ''}{how}"
        leaf = build_piece(
            f"{e}.page", f"{s.name}, page", paper, leaf_panels, [Fold("glued", "page", 0.0, scored=False)],
            quantity=spine.pages, note=note, bought=bought,
        )  # fmt: skip
        return {"strip": strip, "front": front, "back": back, "page": leaf}

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        """The back cover lies; spine, pages and front cover are stacked on it."""
        s, t = situation, situation.paper.caliper
        spine, pieces = self._spine(sizes), self._pieces(s, sizes)
        w, h = sizes["cover-width"].length, sizes["height"].length
        strip, away, sheet = pieces["strip"], t + s.glue, self._page_sheet(s, sizes)
        mid = h / 2
        instances = [
            Instance("back", pieces["back"].id, Root("board", (w / 2, mid), touch=1, away=s.bulk_on("cover-back"))),
            Instance("spine", strip.id, Root("p0", (0.0, mid)), Attach("back", "tab", (w, mid), (0.0, 1.0), -1, away)),
        ]
        for k, (name, _) in enumerate(spine.valleys()):
            edge = max(x for x, _ in strip.panel(name).outline)
            off = t / 2 + sheet / 2 + s.glue
            on = Attach("spine", name, (edge, mid), (0.0, 1.0), -1, off)
            instances.append(Instance(f"page-{k + 1}", pieces["page"].id, Root("glued", (0.0, mid)), on))
        last = f"p{2 * spine.pages + 1}"
        on = Attach("spine", last, (spine.length, mid), (0.0, 1.0), -1, away)
        instances.append(Instance("front", pieces["front"].id, Root("tab", (0.0, mid)), on))
        return Part(
            s.element, s.name, tuple(pieces.values()), tuple(instances), tuple(self._mounts(s, sizes, pieces)),
            (self._swing(s, spine),), tuple(self._gaps(s, sizes, pieces)),
            joints=(
                Joint(("back", "tab"), HOST, "free"),
                *(Joint(("spine", f"p{2 * k + 1}"), ("spine", f"p{2 * k}"), "free") for k in range(spine.pages + 1)),
            ),
        )  # fmt: skip

    @staticmethod
    def _swing(s: Situation, spine: Spine) -> Swing:
        """The valleys spread evenly until the covers lie flat, every page amid its own; the hills stay shut, fins
        between the pages."""
        share = math.pi / spine.pages
        turned = [("spine", f"{a}/{b}", share - math.pi) for a, b in spine.valleys()]
        turned += [(f"page-{k + 1}", "glued/page", share / 2) for k in range(spine.pages)]
        return Swing("open", f"{s.name} opens", tuple(turned))

    @staticmethod
    def _mounts(s: Situation, sizes: Sizes, pieces: Mapping[str, Piece]) -> list[Mount]:
        t, w, h = s.paper.caliper, sizes["cover-width"].length, sizes["height"].length
        pleat, page = sizes["pleat"].length, sizes["page-width"].length
        front, back, leaf = pieces["front"].panel("board"), pieces["back"].panel("board"), pieces["page"].panel("page")
        mounts = [
            face_mount("cover-front", "front cover, outside", "front", front, 1, t),
            face_mount("cover-inside", "front cover, inside", "front", front, -1, t),
            face_mount("back-inside", "back cover, inside", "back", back, -1, t),
        ]
        free = (pleat, 0.0, page, h)
        for k in range(int(sizes["pages"].length)):
            for side, face in FACES:
                name = f"page-{k + 1}-{side}"
                mounts.append(
                    face_mount(
                        name, f"page {k + 1}, {side}", f"page-{k + 1}", leaf, face, leaf_caliper(pieces), shape=free
                    )
                )
        if s.room is None:
            mounts.append(face_mount("cover-back", "back cover, outside", "back", back, 1, t))
            whole = Panel("board", "cover", rectangle(0.0, 0.0, w, h))
            mounts.append(around_mount("front", whole, 1, t + 2 * s.bulk_on("cover-front"), (0.0, 1.0), (w, h)))
        return mounts

    def _gaps(self, s: Situation, sizes: Sizes, pieces: Mapping[str, Piece]) -> list[Gap]:
        e, t = s.element, s.paper.caliper
        w, h, pleat, page = (sizes[n].length for n in ("cover-width", "height", "pleat", "page-width"))
        n, top, sheet = int(sizes["pages"].length), sizes["hill-top"].length, self._page_sheet(s, sizes)
        over = span("cover", w, e, "cover-width").plus(
            lever_term("pleat", -pleat, e, "pleat", -1.0), lever_term("page", -page, e, "page-width", -1.0)
        )
        room = span("two pleats and a page", 2 * t + sheet + s.glue)
        if top:
            room = room.plus(
                lever_term("flat top", top, e, "hill-top"), Term("bend of the hill", -t * (1 - 2 * FOLD_SHIFT))
            )
        facing = room - span("page with what meets it", sizes["page-bulk"].length, e, "page-bulk")
        gaps = [
            fit_gap(s, uses.COVER, (f"{s.name}, cover", "page"), over),
            fit_gap(s, uses.SPINE, (f"{s.name}, spine", "two pages that meet"), facing, (-t / 2, inches(2))),
        ]
        for cover, end, wrap in zip(
            ("back cover", "front cover"), self._ends(s, n), self._wraps(s, sizes), strict=True
        ):
            if end:
                left = room.plus(Term("the page itself", -sheet), Term("wider outer fold", wrap), Term("bulk", -end))
                gaps.append(
                    fit_gap(s, uses.SPINE, (f"{s.name}, {cover}", "the page that meets it"), left, (-t / 2, inches(2)))
                )
        gaps += told_contents(
            s, sizes, f"{s.name}, page", (("content-width", "page-width"), ("content-height", "height"))
        )
        strip, front, leaf = pieces["strip"], pieces["front"], pieces["page"]
        gaps.append(
            sheet_gap(e, strip.name, s.paper, strip.size, (
                (lever_term("pleats", (2 * n + 2) * pleat, e, "pleat", 2.0 * n + 2),
                 lever_term("flat tops", (n + 1) * top, e, "hill-top", n + 1.0)),
                (lever_term("height", h, e, "height"),),
            ))
        )  # fmt: skip
        for piece, name in ((front, "cover-width"), (leaf, "page-width")):
            if piece is leaf and sizes["page-kind"].value == "envelopes":
                continue
            wide = piece.size[0]
            gaps.append(
                sheet_gap(e, piece.name, s.paper, piece.size,
                          ((lever_term("width", wide, e, name),), (lever_term("height", h, e, "height"),)))
            )  # fmt: skip
        return gaps


def leaf_caliper(pieces: Mapping[str, Piece]) -> float:
    """The thickness of a page, mm."""
    return pieces["page"].stock.caliper


FAMILY = AccordionSpine()
