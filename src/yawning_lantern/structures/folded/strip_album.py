"""Strip album: a cover strip with spine, flap and pocket; pages with flaps hinged on glued tabs; a turning latch."""

from __future__ import annotations

import math
from collections.abc import Mapping

from msgspec import Struct

from yawning_lantern.assembly import (
    Attach,
    Gap,
    Instance,
    Joint,
    Mount,
    Part,
    Pin,
    Pocket,
    Room,
    Root,
    Span,
    Swing,
    Term,
    span,
    uses,
)
from yawning_lantern.errors import ParameterError
from yawning_lantern.measure import at_most, inches, snap, told
from yawning_lantern.pattern import Fold, Panel, Piece, Point, ScoreFlag, build_piece, rectangle
from yawning_lantern.structures.kit.around import AROUND, around_mount, around_room
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes, Start, fact
from yawning_lantern.structures.kit.lying import Lying, count_of, extent, face_mount, fit_gap, row, usual_length
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

MOST = 4  # pages at most
SPINE = inches(1 / 4)
"""A spine panel, mm. Common practice, no source."""
GROW = inches(1 / 2)
"""By how much each page is wider than the one that lies on it, so that its edge shows, mm. Common practice (1/2 to
3/4), no source."""
HINGE = inches(1 / 2)
"""The glued tab of a page, mm. Common practice, no source."""
STRIP = inches(1 / 4)
"""The glued strip at head and foot of the pocket, mm. Common practice, no source."""
PLAY = inches(1 / 4)
"""Border about what the smallest page holds, in all, mm. Common practice, no source."""
LATCH = (inches(3 / 4), inches(1 / 4))
"""The latch: a bar, long and wide, mm. From memory."""
LAP = inches(1 / 8)
"""How far the latch reaches over the flap it holds, mm. From memory."""
LEAST = 8.0  # mm: a smaller panel is none
LEANS = 0.5
"""How much less each page opens than the one before it, radians: they lean on one another."""


class _Levels(Struct, frozen=True):
    """How high the layers lie over the back cover, from mid-surface to mid-surface, mm; pages from the lowest."""

    pocket: float
    tabs: tuple[float, ...]
    pages: tuple[float, ...]
    flaps: tuple[float, ...]
    latch: float
    cover_flap: float
    front: float


class StripAlbum(Lying):
    """Pages lie on one another, the smallest on top; every tab is glued on the one below, all at the spine."""

    id = "strip-album"
    name = "Strip album"
    about = (
        "Strips of unequal panels hinged by glued tabs: cover with pocket and flap, pages whose edges show, a latch."
    )
    shelf = "One sheet"
    headline = ("cover", "height", "pages")
    footprint = ("cover", "height")
    starts: tuple[Start, ...] = ("size", "contents", "sheet")
    faces = (
        (AROUND, "around it, shut"),
        ("cover", "front cover"),
        ("cover-flap", "cover flap, shows when the cover is opened"),
        ("under-cover-flap", "front cover, under its flap"),
        ("pocket", "pocket"),
        *((f"page-{k}", f"page {k}, under its flap") for k in range(1, MOST + 1)),
        *((f"under-{k}", f"page {k}, other face") for k in range(1, MOST + 1)),
        *((f"flap-{k}", f"flap of page {k}") for k in range(1, MOST + 1)),
    )
    parameters = (
        Parameter("height", "Height", "length", "Of all strips.", "Size", 30.0),
        Parameter("cover", "Cover", "length", "A cover panel: what it measures when shut.", "Size", 40.0),
        Parameter("pages", "Pages", "count", "One strip each.", "Pages", 1, MOST, default=1),
        Parameter("page", "Page, the smallest", "length", "It lies on top; the others grow.", "Pages", 20.0),
        Parameter("grow", "Pages grow by", "length", "So that their edges show.", "Pages", 0.0, 40.0, default=GROW),
        Parameter("page-flap", "Page flap", "length", "Folded in over every page.", "Pages", LEAST),
        Parameter("hinge", "Hinge tab", "length", "Glued at the spine, tab on tab.", "Pages", 4.0, 40.0,
                  default=HINGE),
        Parameter("spine", "Spine", "length", "Between the scores; wider for more bulk.", "Cover", 1.0, 60.0),
        Parameter("cover-flap", "Cover flap", "length", "Folded in from the front cover.", "Cover", LEAST),
        Parameter("pocket", "Pocket", "length", "Folded in over the back cover, glued at head and foot.", "Cover",
                  LEAST),
        Parameter("strip", "Glued strip", "length", "At head and foot of the pocket.", "Cover", 2.0, 25.0,
                  default=STRIP),
        fact("insert", "In the pocket", "How thick what goes in is.", "Cover", 0.0, 6.0, default=0.0),
        Parameter("latch", "Turning latch", "word", "A bar on a brad that holds the top page's flap.", "Pages",
                  words=("yes", "no"), default="yes"),
        fact("content-width", "Picture, width", "What the smallest page shall hold.", "Contents", 15.0,
             default=inches(3)),
        fact("content-height", "Picture, height", "What the smallest page shall hold.", "Contents", 15.0,
             default=inches(4)),
        Parameter("thick", "Closed", "length", "Thickness when shut.", "Size", derived=True),
    )  # fmt: skip

    def size(self, situation: Situation) -> dict[str, Sized]:
        """Panels and spine. Raises ParameterError where one reaches over another."""
        s, given = situation, situation.given
        content = [given_length(given, f"content-{n}") for n in ("width", "height")]
        sizes: dict[str, Sized] = {
            "pages": count_of(s, "pages", 1), "grow": length_of(given, "grow", GROW),
            "strip": length_of(given, "strip", STRIP), "insert": length_of(given, "insert", 0.0),
            "latch": word_of(given, "latch", "yes"),
        }  # fmt: skip
        n, grow = int(sizes["pages"].length), sizes["grow"].length
        levels = self._levels(s, n, sizes["insert"].length, sizes["latch"].value == "yes")
        exact = levels.front - 2 * FOLD_SHIFT * s.paper.caliper
        usual = max(SPINE, snap(exact, s.score.grid, "up").value)
        sizes["spine"] = length_of(given, "spine", usual, "auto")
        beside = self._inset(s, levels) + n * grow  # what the cover is wider than the smallest page
        page = given_length(given, "page")
        wide = None if content[0] is None else content[0] + PLAY
        asked = page if page is not None else wide
        sizes["cover"] = extent(s, "cover", 0, inches(4), None if asked is None else asked + beside)
        sizes["height"] = extent(s, "height", 1, inches(6), None if content[1] is None else content[1] + PLAY)
        cover, grid_of = sizes["cover"].length, s.score.grid
        exact = cover - beside if wide is None or "cover" in given else wide
        sizes["page"] = length_of(given, "page", max(snap(exact, grid_of, "down").value, LEAST), "auto")
        page = sizes["page"].length
        turns = LATCH[0] / 2 + self._pivot() if sizes["latch"].value == "yes" else 0.0  # the latch, clear of the flap
        flap = min(page / 2, page - turns)
        sizes["page-flap"] = length_of(given, "page-flap", max(LEAST, snap(flap, grid_of, "down").value), "auto")
        sizes["cover-flap"] = length_of(given, "cover-flap", max(LEAST, snap(0.4 * cover, grid_of, "down").value),
                                        "auto")  # fmt: skip
        sizes["hinge"] = usual_length(s, "hinge", HINGE, page / 4, 4.0, scored=True)
        rest = cover - self._inset(s, levels) - sizes["hinge"].length
        usual = max(LEAST, snap(min(0.4 * cover, rest - 1.0), grid_of, "down").value)
        sizes["pocket"] = length_of(given, "pocket", usual, "auto")
        if page < 20.0:
            raise ParameterError(
                f"Its smallest page comes out at {told(page)}.", "Page", "Make the cover wider, or take fewer pages."
            )
        if "page-flap" not in given and flap < LEAST:
            raise ParameterError(
                f"On a page of {told(page)} no latch turns clear of a flap.", "Turning latch",
                "Leave it off, or make the cover wider.",
            )  # fmt: skip
        for name, most, what in (
            ("page-flap", page, "the smallest page"), ("cover-flap", cover, "the cover"), ("pocket", rest, "the hinge"),
            ("page", cover - beside + n * grow, "the cover"),
        ):  # fmt: skip
            if sizes[name].length > most + 1e-6:
                raise ParameterError(
                    f"{told(sizes[name].length)} reaches over {what}.",
                    name.capitalize().replace("-", " "),
                    f"Give {at_most(most)}.",
                )
        sizes |= as_given(given, "content-width", "content-height")
        sizes["thick"] = Sized(self.thickness(s, sizes).value, "auto")
        return sizes

    @staticmethod
    def _levels(s: Situation, n: int, insert: float, latched: bool) -> _Levels:
        """The layers as close as what is on them lets them lie."""
        t, on = s.paper.caliper, s.bulk_on
        pocket = t + insert
        tabs = tuple((k + 1) * (t + s.glue) for k in range(n))
        pages: list[float] = []
        flaps: list[float] = []
        below = max(pocket + on("pocket"), tabs[-1])
        for k in range(n):
            number = n - k  # page 1 is on top
            pages.append(below + t + on(f"under-{number}"))
            flaps.append(pages[-1] + t + on(f"page-{number}"))
            below = flaps[-1] + on(f"flap-{number}")
        latch = below + t
        cover_flap = (latch if latched else below) + t + on("cover-flap")
        top = cover_flap + t + on("under-cover-flap")
        return _Levels(pocket, tabs, tuple(pages), tuple(flaps), latch, cover_flap, top)

    @staticmethod
    def _inset(s: Situation, levels: _Levels) -> float:
        """How far the scores of the hinges stand back from the spine: folds are as high as what they go around."""
        rise = max(page - tab for page, tab in zip(levels.pages, levels.tabs, strict=True))
        return snap(rise / 2 + s.paper.caliper, s.cut.grid, "up").value

    def thickness(self, s: Situation, sizes: Sizes) -> Span:
        """The covers and what the spine holds them apart, and what is on the cover."""
        t = s.paper.caliper
        return span("spine", sizes["spine"].length, s.element, "spine").plus(
            Term("covers and bends", t * (1 + 2 * FOLD_SHIFT)), Term("bulk on the cover", s.bulk_on("cover"))
        )

    def beyond(self, s: Situation, sizes: Sizes) -> tuple[float, float]:
        """The spine stands out by its bend and half a sheet; cover flap and pocket by what they go around,
        three sheets at most: around more the arc takes its length from the leaves."""
        levels = self._levels(s, int(sizes["pages"].length), sizes["insert"].length, sizes["latch"].value == "yes")
        around = min(max(levels.pocket, levels.front - levels.cover_flap), 3 * s.paper.caliper)
        return max(s.paper.caliper * (0.5 + FOLD_SHIFT), around / 2 + s.paper.caliper / 2), 0.0

    def _wide(self, sizes: Sizes, number: int) -> float:
        """How wide a page is, from the smallest, mm."""
        return sizes["page"].length + (number - 1) * sizes["grow"].length

    def rooms(self, situation: Situation, sizes: Sizes) -> dict[str, Room]:
        """Covers, pocket, and the faces of pages and flaps."""
        s, t, e = situation, situation.paper.caliper, situation.element
        h = sizes["height"].length
        rooms = {
            "cover": face_room(sizes["cover"].length, h, t, e, ("cover", "height"), "cover"),
            "cover-flap": face_room(sizes["cover-flap"].length, h, t, e, ("cover-flap", "height"), "flap"),
            "under-cover-flap": face_room(sizes["cover-flap"].length, h, t, e, ("cover-flap", "height"), "flap"),
            "pocket": face_room(sizes["pocket"].length, h, t, e, ("pocket", "height"), "pocket"),
        }
        for k in range(1, int(sizes["pages"].length) + 1):
            flap = face_room(sizes["page-flap"].length, h, t, e, ("page-flap", "height"), "flap")
            rooms[f"page-{k}"] = rooms[f"flap-{k}"] = flap
            rooms[f"under-{k}"] = face_room(self._wide(sizes, k), h, t, e, ("page", "height"), "page")
        if s.room is None:
            reach = self.reaches(s, sizes)[0].plus(Term("folds", self.beyond(s, sizes)[0]))
            size = (sizes["cover"].length, h)
            rooms[AROUND] = around_room(reach, self.thickness(s, sizes), size, t)
        return rooms

    def _cover(self, s: Situation, sizes: Sizes, levels: _Levels) -> Piece:
        flap, cover, spine, pocket, h = (sizes[n].length for n in ("cover-flap", "cover", "spine", "pocket", "height"))
        t = s.paper.caliper
        panels = row(
            (("cover-flap", "cover flap", flap), ("front", "front cover", cover), ("spine", "spine", spine),
             ("back", "back cover", cover), ("pocket", "pocket", pocket)), 0.0, h,
        )  # fmt: skip
        quarter = math.pi / 2
        folds = [
            Fold("back", "spine", quarter), Fold("spine", "front", quarter),
            Fold("front", "cover-flap", math.pi, wrap=levels.front - levels.cover_flap - t),
            Fold("back", "pocket", math.pi, wrap=levels.pocket - t),
        ]  # fmt: skip
        at = (flap, flap + cover, flap + cover + spine, flap + 2 * cover + spine)
        moved = (("cover-flap", 1.0), ("cover", 1.0), ("spine", 1.0), ("cover", 2.0))
        flags = tuple(ScoreFlag("x", x, name, slope) for x, (name, slope) in zip(at, moved, strict=True))
        note = "Glue the pocket at head and foot only."
        return build_piece(f"{s.element}.cover", f"{s.name}, cover", s.paper, panels, folds, flags=flags, note=note)

    def _page(self, s: Situation, sizes: Sizes, levels: _Levels, number: int) -> Piece:
        n, t, h = int(sizes["pages"].length), s.paper.caliper, sizes["height"].length
        k = n - number
        hinge, wide, flap = sizes["hinge"].length, self._wide(sizes, number), sizes["page-flap"].length
        panels = row((("hinge", "hinge tab", hinge), ("page", "page", wide), ("flap", "page flap", flap)), 0.0, h)
        folds = [
            Fold("hinge", "page", math.pi, wrap=levels.pages[k] - levels.tabs[k] - t),
            Fold("page", "flap", -math.pi, wrap=levels.flaps[k] - levels.pages[k] - t),
        ]
        held = number == 1 and sizes["latch"].value == "yes"
        return build_piece(
            f"{s.element}.page-{number}", f"{s.name}, page {number}", s.paper, panels, folds,
            flags=(ScoreFlag("x", hinge, "hinge", 1.0), ScoreFlag("x", hinge + wide, "page", 1.0)),
            note="Punch for the latch before the tab is glued; cover its prongs on the other face." if held else "",
        )  # fmt: skip

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        """The cover on its back, the pages at its spine, the latch over the flap it holds."""
        s, e, t = situation, situation.element, situation.paper.caliper
        n, h = int(sizes["pages"].length), sizes["height"].length
        levels = self._levels(s, n, sizes["insert"].length, sizes["latch"].value == "yes")
        cover, pages = self._cover(s, sizes, levels), [self._page(s, sizes, levels, n - k) for k in range(n)]
        back = cover.panel("back").outline
        x0, middle = back[0][0], h / 2
        instances = [Instance("cover", cover.id, Root("back", (x0 + sizes["cover"].length / 2, middle)))]
        joints = [Joint(("cover", "pocket"), ("cover", "back"), spots=self._pocket_glue(sizes, cover))]
        hinge, pockets = sizes["hinge"].length, self._pockets(sizes)
        for k, piece in enumerate(pages):
            name = f"page-{n - k}"
            step = t + s.glue
            on = (
                Attach("cover", "back", (x0 + self._inset(s, levels), middle), (0.0, 1.0), 1, step) if k == 0
                else Attach(f"page-{n - k + 1}", "hinge", (hinge, middle), (0.0, -1.0), 1, step)
            )  # fmt: skip
            instances.append(Instance(name, piece.id, Root("hinge", (hinge, middle), (0.0, -1.0)), on))
        pieces = [cover, *pages]
        if sizes["latch"].value == "yes":
            pieces.append(self._latch(s))
            top = pages[-1].panel("page").outline
            at = (top[1][0] - sizes["page-flap"].length - self._pivot(), middle)
            on = Attach("page-1", "page", at, (1.0, 0.0), -1, levels.latch - levels.pages[-1])
            instances.append(Instance("latch", pieces[-1].id, Root("bar", (LATCH[1] / 2, LATCH[0] / 2)), on))
            joints.append(Joint(("latch", "bar"), ("page-1", "page"), "held", label="on a brad: it turns"))
        return Part(
            e, s.name, tuple(pieces), tuple(instances), tuple(self._mounts(s, sizes, cover, pages)),
            tuple(self._swings(s, n, sizes["latch"].value == "yes")),
            tuple(self._gaps(s, sizes, levels, cover, pages)), pockets, joints=tuple(joints),
        )  # fmt: skip

    @staticmethod
    def _pivot() -> float:
        """How far the latch's brad is from the edge of the flap, so that it laps it and stands clear of it turned
        aside, mm."""
        return LATCH[0] / 2 - LAP

    @staticmethod
    def _latch(s: Situation) -> Piece:
        bar = Panel("bar", "latch", rectangle(0.0, 0.0, LATCH[1], LATCH[0]))
        return build_piece(f"{s.element}.latch", f"{s.name}, latch", s.paper, [bar], note="On a brad: it turns.")

    @staticmethod
    def _pocket_glue(sizes: Sizes, cover: Piece) -> tuple[tuple[Point, ...], ...]:
        (x0, y0), _, (x1, y1), _ = cover.panel("pocket").outline
        strip = sizes["strip"].length
        return rectangle(x0, y0, x1, y0 + strip), rectangle(x0, y1 - strip, x1, y1)

    @staticmethod
    def _pockets(sizes: Sizes) -> tuple[Pocket, ...]:
        inside = sizes["height"].length - 2 * sizes["strip"].length
        return (Pocket("pocket", ("pocket", "back"), "left", inside, sizes["pocket"].length),)

    def _mounts(self, s: Situation, sizes: Sizes, cover: Piece, pages: list[Piece]) -> list[Mount]:
        t, labels, n = s.paper.caliper, dict(self.faces), int(sizes["pages"].length)
        down = (0.0, -1.0)
        front = cover.panel("front").outline
        under = (front[0][0], front[0][1], front[0][0] + sizes["cover-flap"].length, front[2][1])
        mounts = [
            face_mount("cover", labels["cover"], "cover", cover.panel("front"), -1, t),
            face_mount("cover-flap", labels["cover-flap"], "cover", cover.panel("cover-flap"), -1, t),
            face_mount(
                "under-cover-flap", labels["under-cover-flap"], "cover", cover.panel("front"), 1, t, shape=under
            ),
            face_mount("pocket", labels["pocket"], "cover", cover.panel("pocket"), -1, t),
        ]
        for number in range(1, n + 1):
            piece, name = pages[n - number], f"page-{number}"
            page = piece.panel("page")
            x1 = page.outline[1][0]
            below = (x1 - sizes["page-flap"].length, 0.0, x1, page.outline[2][1])
            mounts += [
                face_mount(name, labels[name], name, page, -1, t, down, below),
                face_mount(f"under-{number}", labels[f"under-{number}"], name, page, 1, t, down),
                face_mount(f"flap-{number}", labels[f"flap-{number}"], name, piece.panel("flap"), 1, t, down),
            ]
        if s.room is None:
            size = (sizes["cover"].length, sizes["height"].length)
            mounts.append(
                around_mount("cover", cover.panel("front"), -1, t + 2 * s.bulk_on("cover"), (0.0, 1.0), size)
            )  # fmt: skip
        return mounts

    @staticmethod
    def _swings(s: Situation, n: int, latched: bool) -> list[Swing]:
        swings = [
            Swing("cover", f"{s.name} opens", (("cover", "back/spine", 0.0), ("cover", "spine/front", 0.0))),
            Swing("cover-flap", f"cover flap of {s.name} opens", (("cover", "front/cover-flap", math.pi / 6),)),
        ]
        if latched:
            brad = Pin("latch", (LATCH[1] / 2, LATCH[0] / 2, 0.0), (0.0, 0.0, 1.0), math.pi / 2)
            swings.append(Swing("latch", f"latch of {s.name} turns", pins=(brad,)))
        for number in range(1, n + 1):
            name = f"page-{number}"
            swings.append(Swing(f"flap-{number}", f"flap of page {number} opens", ((name, "page/flap", -math.pi / 6),)))
            less = math.pi / 6 + LEANS * (number - 1)  # it comes to rest on the pages before it
            swings.append(Swing(name, f"page {number} of {s.name} turns", ((name, "hinge/page", less),)))
        return swings

    def _gaps(self, s: Situation, sizes: Sizes, levels: _Levels, cover: Piece, pages: list[Piece]) -> list[Gap]:
        e, n = s.element, int(sizes["pages"].length)
        flap, wide, spine, pocket, page, h = (
            sizes[name].length for name in ("cover-flap", "cover", "spine", "pocket", "page", "height")
        )
        high = (lever_term("height", h, e, "height"),)
        across = (
            lever_term("cover flap", flap, e, "cover-flap"), lever_term("covers", 2 * wide, e, "cover", 2.0),
            lever_term("spine", spine, e, "spine"), lever_term("pocket", pocket, e, "pocket"),
        )  # fmt: skip
        inset, hinge = self._inset(s, levels), sizes["hinge"].length
        room = span("spine", spine, e, "spine").plus(
            Term("bends", 2 * FOLD_SHIFT * s.paper.caliper), Term("what lies between the covers", -levels.front)
        )
        shows = span("cover", wide, e, "cover").plus(Term("back from the spine", -inset))
        largest = span("page", page, e, "page").plus(
            lever_term("growth", (n - 1) * sizes["grow"].length, e, "grow", n - 1)
        )
        beside = span("cover", wide, e, "cover").plus(
            Term("back from the spine", -inset), lever_term("hinge", -hinge, e, "hinge", -1.0),
            lever_term("pocket", -pocket, e, "pocket", -1.0),
        )  # fmt: skip
        gaps = [
            sheet_gap(e, cover.name, s.paper, cover.size, (across, high)),
            *(sheet_gap(e, p.name, s.paper, p.size, (span("page strip", p.size[0]).terms, high)) for p in pages),
            fit_gap(s, uses.SPINE, (f"{s.name}, spine", "what lies between the covers"), room, (0.0, inches(2))),
            fit_gap(s, uses.SPARE, (f"{s.name}, largest page", "edge of the cover"), shows - largest, uses.ENOUGH),
            fit_gap(s, uses.SPARE, (f"{s.name}, hinge", "pocket"), beside, uses.ENOUGH),
            fit_gap(s, uses.GLUE, (f"{s.name}, hinge", "glue"), span("hinge", hinge, e, "hinge")),
            fit_gap(s, uses.GLUE, (f"{s.name}, pocket", "glue"),
                    span("strip", sizes["strip"].length, e, "strip")),
            *told_contents(s, sizes, f"{s.name}, smallest page",
                           (("content-width", "page"), ("content-height", "height"))),
        ]  # fmt: skip
        if sizes["latch"].value == "yes":
            circle = span("page", page, e, "page").plus(
                lever_term("page flap", -sizes["page-flap"].length, e, "page-flap", -1.0),
                Term("pivot and half the latch", -self._pivot() - LATCH[0] / 2),
            )
            gaps.append(fit_gap(s, uses.SPARE, (f"{s.name}, latch", "circle it turns in"), circle, uses.ENOUGH))
        return gaps


FAMILY = StripAlbum()
