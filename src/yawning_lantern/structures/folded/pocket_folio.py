"""Pocket folio: two long strips of pages and narrow gussets, glued back to back so that pockets open at the head."""

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
    span,
    uses,
)
from yawning_lantern.errors import ParameterError
from yawning_lantern.measure import at_most, inches, snap, told
from yawning_lantern.pattern import Fold, Panel, Piece, Point, ScoreFlag, build_piece, rectangle
from yawning_lantern.structures.kit.around import AROUND, around_mount, around_room
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes, Start, fact
from yawning_lantern.structures.kit.lying import Lying, count_of, extent, face_mount, fit_gap
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

MOST = 6  # pages at most
GUSSET = inches(1 / 4)
"""A narrow gusset, mm. Common practice, no source."""
STRIP = inches(1 / 4)
"""Tape or glue along the edges of a pocket, mm. Common practice, no source."""
PLAY = inches(1 / 8)
"""Room beside what a pocket holds, mm. Common practice, no source."""
NARROW = 0.4
"""The cover's narrow panel, of the page. From memory."""
_Row = tuple[tuple[str, float], ...]


class PocketFolio(Lying):
    """The strips run to and fro; at every gusset one of them lies inside, the other around it and as much longer."""

    id = "pocket-folio"
    name = "Pocket folio"
    about = "Two strips of pages and narrow gussets, glued back to back to pockets; a cover with a narrow front panel."
    shelf = "One sheet"
    headline = ("page-width", "height", "pages")
    footprint = ("page-width", "height")
    starts: tuple[Start, ...] = ("size", "contents", "sheet")
    faces = (
        (AROUND, "around it, shut"),
        ("cover", "narrow panel of the cover"),
        *((f"page-{k}", f"page {k}, first strip") for k in range(1, MOST + 1)),
        *((f"back-{k}", f"page {k}, second strip") for k in range(2, MOST + 1)),
    )
    parameters = (
        Parameter("page-width", "Page, width", "length", "From gusset to gusset.", "Pages", 30.0),
        Parameter("height", "Height", "length", "Of strips and cover.", "Pages", 30.0),
        Parameter("pages", "Pages", "count", "Of one strip.", "Pages", 2, MOST, default=3),
        Parameter("gusset", "Gusset", "length", "Between two pages; wider for more bulk.", "Pages", 1.0, 60.0),
        Parameter("strip", "Tape", "length", "Along the edges of a pocket.", "Pockets", 2.0, 20.0, default=STRIP),
        fact("insert", "In each pocket", "How thick what goes in is.", "Pockets", 0.0, 6.0, default=0.0),
        Parameter("narrow", "Narrow panel", "length", "The front of the cover.", "Cover", 10.0),
        Parameter("spine-is", "Cover's spine", "word", "Left free, or glued to the first gusset: two schools.", "Cover",
                  words=("free", "glued"), default="free"),
        fact("content-width", "What a pocket holds, width", "Upright.", "Contents", 15.0, default=inches(3)),
        fact("content-height", "What a pocket holds, height", "Upright.", "Contents", 15.0, default=inches(5)),
        Parameter("spine", "Spine", "length", "Of the cover, between its scores.", "Cover", derived=True),
        Parameter("pockets", "Pockets", "count", "Between the strips.", "Pockets", derived=True),
        Parameter("thick", "Closed", "length", "Thickness when shut.", "Pages", derived=True),
    )  # fmt: skip

    def size(self, situation: Situation) -> dict[str, Sized]:
        """Pages, gusset and cover. Raises ParameterError where no pocket is left."""
        s, given = situation, situation.given
        sizes = {
            "pages": count_of(s, "pages", 3), "strip": length_of(given, "strip", STRIP),
            "insert": length_of(given, "insert", 0.0), "spine-is": word_of(given, "spine-is", "free"),
        }  # fmt: skip
        strip = sizes["strip"].length
        content = [given_length(given, f"content-{n}") for n in ("width", "height")]
        wide = None if content[0] is None else content[0] + 2 * strip + PLAY
        high = None if content[1] is None else content[1] + strip + PLAY
        sizes["page-width"] = extent(s, "page-width", 0, inches(3.75), wide)
        sizes["height"] = extent(s, "height", 1, inches(6), high)
        w = sizes["page-width"].length
        if w < 30.0 or strip > w / 5:
            raise ParameterError(
                f"Tape of {told(strip)} leaves no pocket in a page of {told(w)}.", "Tape", "Make it narrower."
            )
        exact = max(self._facing(s, k) for k in range(1, int(sizes["pages"].length))) + s.paper.caliper
        usual = max(GUSSET, snap(exact, s.score.grid, "up").value)
        sizes["gusset"] = length_of(given, "gusset", usual, "auto")
        sizes["narrow"] = length_of(given, "narrow", max(10.0, snap(NARROW * w, s.score.grid, "down").value), "auto")
        if sizes["narrow"].length > w:
            raise ParameterError(
                f"A panel of {told(sizes['narrow'].length)} reaches over the page.", "Narrow panel",
                f"Give {at_most(w)}.",
            )  # fmt: skip
        exact = self._stack(s, sizes) - 2 * FOLD_SHIFT * s.paper.caliper
        sizes["spine"] = Sized(snap(exact, s.score.grid, "up").value, "auto", exact)
        sizes["pockets"] = Sized(int(sizes["pages"].length) - 1, "auto")
        sizes |= as_given(given, "content-width", "content-height")
        sizes["thick"] = Sized(self.thickness(s, sizes).value, "auto")
        return sizes

    @staticmethod
    def _apart(s: Situation, sizes: Sizes) -> float:
        """From the middle of one strip to that of the other, mm."""
        return s.paper.caliper + max(s.glue, sizes["insert"].length)

    @staticmethod
    def _facing(s: Situation, turn: int) -> float:
        """What lies between the two pages that meet at a gusset, from 1, mm: at odd ones the first strip's."""
        kind = "page" if turn % 2 else "back"
        return sum(s.bulk_on(f"{kind}-{k}") for k in (turn, turn + 1))

    def _top(self, sizes: Sizes) -> str:
        """The face that lies up when shut."""
        n = int(sizes["pages"].length)
        return f"page-{n}" if n % 2 else f"back-{n}"

    def _stack(self, s: Situation, sizes: Sizes) -> float:
        """From the middle of the cover's wide panel to that of its narrow one, mm."""
        n, t = int(sizes["pages"].length), s.paper.caliper
        gussets = (n - 1) * (sizes["gusset"].length + 2 * FOLD_SHIFT * t)
        return t + s.glue + n * self._apart(s, sizes) + gussets + t + s.bulk_on(self._top(sizes))

    def thickness(self, s: Situation, sizes: Sizes) -> Span:
        """What the cover's spine holds its panels apart, and what is on them."""
        t, n = s.paper.caliper, int(sizes["pages"].length)
        spine = Term("spine", sizes["spine"].length, Lever(s.element, "gusset", n - 1.0))
        return Span((spine,)).plus(
            Term("covers and bends", t * (1 + 2 * FOLD_SHIFT)), Term("bulk on the cover", s.bulk_on("cover"))
        )

    def beyond(self, s: Situation, sizes: Sizes) -> tuple[float, float]:
        """Half of what stands out at both sides: it lies with its middle on the face's."""
        return sum(self._stands_out(s, sizes)) / 2, 0.0

    def _stands_out(self, s: Situation, sizes: Sizes) -> tuple[float, float]:
        """How far gussets stand out on the left of a page, and the cover's spine on its right, mm; the last page's edge
        by what was rounded."""
        n, bend = int(sizes["pages"].length), s.paper.caliper * (0.5 + FOLD_SHIFT)
        # the second strip's last page begins beyond the first's on the right, within it on the left
        begins = (0.0, -self._apart(s, sizes) if n % 2 == 0 else self._apart(s, sizes))
        ends = (at + row[-1][1] for at, row in zip(begins, self._rows(s, sizes), strict=True))
        last = max(ends) - sizes["page-width"].length
        left, right = bend if n > 2 else 0.0, self._right(s, sizes) + bend
        return (max(left, last), right) if n % 2 == 0 else (left, max(right, last))

    def _right(self, s: Situation, sizes: Sizes) -> float:
        """How far the score of the cover's spine is beyond the page's right edge: strips and glue lie between, mm."""
        return snap(self._apart(s, sizes) + s.paper.caliper + s.glue, s.cut.grid, "up").value

    def rooms(self, situation: Situation, sizes: Sizes) -> dict[str, Room]:
        """Both strips' faces but the one that the cover is glued to, and the cover's narrow panel."""
        s, t, e = situation, situation.paper.caliper, situation.element
        w, h = sizes["page-width"].length, sizes["height"].length
        page = face_room(w, h, t, e, ("page-width", "height"), "page")
        rooms = {f"page-{k}": page for k in range(1, int(sizes["pages"].length) + 1)}
        rooms |= {f"back-{k}": page for k in range(2, int(sizes["pages"].length) + 1)}
        rooms["cover"] = face_room(sizes["narrow"].length, h, t, e, ("narrow", "height"), "narrow panel")
        if s.room is None:
            reach = self.reaches(s, sizes)[0].plus(Term("spine and gussets", self.beyond(s, sizes)[0]))
            rooms[AROUND] = around_room(reach, self.thickness(s, sizes), (w, h), t)
        return rooms

    def _rows(self, s: Situation, sizes: Sizes) -> tuple[_Row, _Row]:
        """Panels of the first strip and of the second, from page 1 on, mm. At odd gussets the first lies inside."""
        n, w, g = int(sizes["pages"].length), sizes["page-width"].length, sizes["gusset"].length
        more = self._apart(s, sizes)
        rows = []
        for first in (True, False):
            panels = []
            for k in range(1, n + 1):
                # on the right the first strip turns within the second, on the left around it
                longer = 0.0 if first else more if k == 1 or (k == n and n % 2 == 0) else 0.0
                panels.append((f"page-{k}", w + longer))
                if k < n:
                    inside = (k % 2 == 1) == first
                    panels.append((f"gusset-{k}", g if inside else g + 2 * more))
            total = sum(width for _, width in panels)
            name, width = panels[-1]
            panels[-1] = (name, width - total + snap(total, s.cut.grid, "up").value)  # its edge is free
            rows.append(tuple(panels))
        return rows[0], rows[1]

    def _strip(self, s: Situation, sizes: Sizes, first: bool) -> Piece:
        """A strip as it lies with its front up; the second is the mirror of the first."""
        told_row = self._rows(s, sizes)[0 if first else 1]
        n, h = int(sizes["pages"].length), sizes["height"].length
        total, at, panels, folds = sum(width for _, width in told_row), 0.0, [], []
        for name, width in told_row:
            x0, x1 = (at, at + width) if first else (total - at - width, total - at)
            panels.append(Panel(name, name.replace("-", " "), rectangle(x0, 0.0, x1, h)))
            at += width
        for k in range(1, n):
            angle = math.pi / 2 if (k % 2 == 1) == first else -math.pi / 2
            folds += [Fold(f"page-{k}", f"gusset-{k}", angle), Fold(f"gusset-{k}", f"page-{k + 1}", angle)]
        panels.sort(key=lambda panel: panel.outline[0])
        which = "first" if first else "second"
        flags = (ScoreFlag("x", sizes["page-width"].length, "page-width", 1.0),) if first else ()
        note = "" if first else (
            "Its glue is the mirror of the first's: a frame on page 1, an L on those between, a U on the last; "
            "all heads stay open but the first."
        )  # fmt: skip
        return build_piece(
            f"{s.element}.{which}", f"{s.name}, {which} strip", s.paper, panels, folds, flags=flags, note=note
        )

    def _cover(self, s: Situation, sizes: Sizes) -> Piece:
        """Wide panel, spine and narrow panel, as they lie with the front up: the wide one on the right."""
        narrow, spine, h = (sizes[n].length for n in ("narrow", "spine", "height"))
        wide = sizes["page-width"].length + self._right(s, sizes)
        panels = [
            Panel("narrow", "narrow panel", rectangle(0.0, 0.0, narrow, h)),
            Panel("spine", "spine", rectangle(narrow, 0.0, narrow + spine, h)),
            Panel("wide", "wide panel", rectangle(narrow + spine, 0.0, narrow + spine + wide, h)),
        ]
        folds = [Fold("wide", "spine", -math.pi / 2), Fold("spine", "narrow", -math.pi / 2)]
        return build_piece(
            f"{s.element}.cover", f"{s.name}, cover", s.paper, panels, folds,
            flags=(ScoreFlag("x", narrow, "narrow", 1.0),),
            note="Its spine stays free." if sizes["spine-is"].value == "free" else "Its spine is glued to the gusset.",
        )  # fmt: skip

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        """The cover on its wide panel, the second strip on it, the first on that."""
        s, t = situation, situation.paper.caliper
        n, w, h = int(sizes["pages"].length), sizes["page-width"].length, sizes["height"].length
        first, second, cover = (self._strip(s, sizes, True), self._strip(s, sizes, False), self._cover(s, sizes))
        up, middle = (0.0, 1.0), h / 2
        left_of_cover = cover.size[0]  # the left edge as it lies shut, front down
        left_of_second = second.size[0]
        left, right = self._stands_out(s, sizes)
        instances = [
            Instance("cover", cover.id, Root("wide", (left_of_cover - (w + right - left) / 2, middle), up, 1)),
            Instance("second", second.id, Root("page-1", (left_of_second, middle), up, 1),
                     Attach("cover", "wide", (left_of_cover, middle), up, -1, t + s.glue)),
            Instance("first", first.id, Root("page-1", (0.0, middle), up),
                     Attach("second", "page-1", (left_of_second, middle), up, -1, self._apart(s, sizes))),
        ]  # fmt: skip
        joints = [
            Joint(("second", f"page-{k}"), ("first", f"page-{k}"), spots=self._spots(sizes, second, k),
                  act=f"strips together at page {k}")
            for k in range(1, n + 1)
        ]  # fmt: skip
        if sizes["spine-is"].value == "glued":
            joints.append(Joint(("cover", "spine"), ("second", "gusset-1")))
        mounts = self._mounts(s, sizes, cover, first, second)
        return Part(
            s.element, s.name, (cover, second, first), tuple(instances), tuple(mounts),
            tuple(self._swings(s, n)), tuple(self._gaps(s, sizes, cover, first, second)), self._pockets(sizes),
            joints=tuple(joints),
        )  # fmt: skip

    @staticmethod
    def _spots(sizes: Sizes, second: Piece, page: int) -> tuple[tuple[Point, ...], ...]:
        """The glue on the second strip's page, as it lies with its front up: a frame, an L or a U, mm."""
        (x0, y0), _, (x1, y1), _ = second.panel(f"page-{page}").outline
        strip = sizes["strip"].length
        foot, head = rectangle(x0, y0, x1, y0 + strip), rectangle(x0, y1 - strip, x1, y1)
        # beside the gusset before it, and the far side
        one, two = rectangle(x1 - strip, y0 + strip, x1, y1), rectangle(x0, y0 + strip, x0 + strip, y1)
        if page == 1:
            low, high = y0 + strip, y1 - strip
            return foot, head, rectangle(x0, low, x0 + strip, high), rectangle(x1 - strip, low, x1, high)
        return (foot, one, two) if page == int(sizes["pages"].length) else (foot, one)

    @staticmethod
    def _pockets(sizes: Sizes) -> tuple[Pocket, ...]:
        """A pocket in every page but the first."""
        w, h, strip, n = (sizes[name].length for name in ("page-width", "height", "strip", "pages"))
        return tuple(
            Pocket(f"pocket {k}", (f"page-{k}",), "up", w - strip * (2 if k == n else 1), h - strip)
            for k in range(2, int(n) + 1)
        )

    def _mounts(self, s: Situation, sizes: Sizes, cover: Piece, first: Piece, second: Piece) -> list[Mount]:
        t, labels, h, w = s.paper.caliper, dict(self.faces), sizes["height"].length, sizes["page-width"].length
        mounts = [face_mount("cover", labels["cover"], "cover", cover.panel("narrow"), 1, t)]
        for k in range(1, int(sizes["pages"].length) + 1):
            mounts.append(face_mount(f"page-{k}", labels[f"page-{k}"], "first", first.panel(f"page-{k}"), 1, t,
                                     shape=self._middle(first, k, w)))  # fmt: skip
            if k > 1:
                mounts.append(face_mount(f"back-{k}", labels[f"back-{k}"], "second", second.panel(f"page-{k}"), 1, t,
                                         shape=self._middle(second, k, w)))  # fmt: skip
        if s.room is None:
            left, right = self._stands_out(s, sizes)
            x0 = sizes["narrow"].length + right - self._right(s, sizes)
            whole = Panel("narrow", "cover", rectangle(x0 - (left + w + right), 0.0, x0, h))
            size = (left + w + right, h)
            mounts.append(around_mount("cover", whole, 1, t + 2 * s.bulk_on("cover"), (0.0, 1.0), size))
        return mounts

    @staticmethod
    def _middle(strip: Piece, page: int, w: float) -> tuple[float, float, float, float]:
        (x0, y0), _, (x1, y1), _ = strip.panel(f"page-{page}").outline
        over = (x1 - x0 - w) / 2
        return x0 + over, y0, x1 - over, y1

    @staticmethod
    def _swings(s: Situation, n: int) -> list[Swing]:
        swings = [
            Swing("cover", f"cover of {s.name} opens", (("cover", "wide/spine", 0.0), ("cover", "spine/narrow", 0.0)))
        ]
        for k in range(n - 1, 0, -1):
            turned = tuple(
                (strip, crease, 0.0)
                for strip in ("first", "second")
                for crease in (f"page-{k}/gusset-{k}", f"gusset-{k}/page-{k + 1}")
            )
            swings.append(Swing(f"page-{k + 1}", f"page {k + 1} of {s.name} turns", turned))
        return swings

    def _gaps(self, s: Situation, sizes: Sizes, cover: Piece, first: Piece, second: Piece) -> list[Gap]:
        e, t, n = s.element, s.paper.caliper, int(sizes["pages"].length)
        w, h, g, strip = (sizes[name].length for name in ("page-width", "height", "gusset", "strip"))
        high = (lever_term("height", h, e, "height"),)
        pages = lever_term("pages", n * w, e, "page-width", float(n))
        room = span("gusset", g, e, "gusset").plus(
            Term("bends less the sheet", (2 * FOLD_SHIFT - 1) * t),
            Term("bulk between two pages", -max(self._facing(s, k) for k in range(1, n))),
        )
        gaps = [
            sheet_gap(e, piece.name, s.paper, piece.size,
                      ((pages, lever_term("gussets", piece.size[0] - n * w, e, "gusset", n - 1.0)), high))
            for piece in (first, second)
        ]  # fmt: skip
        across = (
            lever_term("wide panel", w, e, "page-width"),
            lever_term("narrow panel", sizes["narrow"].length, e, "narrow"),
            Term("spine", cover.size[0] - w - sizes["narrow"].length, Lever(e, "gusset", n - 1.0)),
        )  # fmt: skip
        gaps.append(sheet_gap(e, cover.name, s.paper, cover.size, (across, high)))
        gaps.append(fit_gap(s, uses.SPINE, (f"{s.name}, gusset", "two pages that meet"), room, (0.0, inches(2))))
        gaps.append(fit_gap(s, uses.GLUE, (f"{s.name}, tape", "glue"), span("tape", strip, e, "strip")))
        gaps += told_contents(s, sizes, f"{s.name}, pocket", (("content-width", "page-width"),), 2 * strip)
        gaps += told_contents(s, sizes, f"{s.name}, pocket", (("content-height", "height"),), strip)
        return gaps


FAMILY = PocketFolio()
