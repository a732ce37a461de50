"""Books of one sheet that is slit to a long snake and folded to and fro: pages where leaves turn, pockets between."""

from __future__ import annotations

import math
from collections.abc import Mapping

from yawning_lantern.assembly import Lever, Part, Pocket, Room, Span, Swing, Term, span, uses
from yawning_lantern.errors import ParameterError
from yawning_lantern.flatfold.books import cuts_of, folding_of, named
from yawning_lantern.flatfold.script import Edge, Glue
from yawning_lantern.flatfold.sheet import grid
from yawning_lantern.flatfold.snakes import OPPOSITE, Side, Trunk
from yawning_lantern.measure import inches, snap, told
from yawning_lantern.pattern import Point
from yawning_lantern.structures.kit.around import AROUND, around_room
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes, Start, fact
from yawning_lantern.structures.kit.lying import BORDER, Lying, bulks, fit_gap, usual_length
from yawning_lantern.structures.kit.one_sheet import (
    SHEET,
    FoldedSheet,
    around_sheet,
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
    word_of,
    worked_out,
)

STRIP = inches(1 / 4)
"""The glued strip along a pocket's edge, mm. Common practice, no source."""
MAT_BORDER = inches(1 / 8)
"""What is left beside a mat on a page in all, mm: a page of 3 gets mats of 2 7/8. Common practice, no source."""
LEAST_PAGE = 12.0
"""A smaller page cannot be folded by hand, mm. From memory."""
SIDES: tuple[Edge, ...] = ("left", "right", "foot", "head")
_UP: dict[Side, Point] = {"right": (0.0, -1.0), "left": (0.0, 1.0), "head": (1.0, 0.0), "foot": (-1.0, 0.0)}
"""Where up is in the sheet, by the side the spine is on."""
_HEAD: dict[Side, Edge] = {"right": "foot", "left": "head", "head": "right", "foot": "left"}

SHEET_PARAMETERS = (
    Parameter("sheet-width", "Sheet, width", "length", "Across the columns.", "Sheet", 20.0),
    Parameter("sheet-height", "Sheet, height", "length", "Up the rows.", "Sheet", 20.0),
)
POCKET_PARAMETERS = (
    Parameter("mouth", "Pockets open", "word", "At the head, or away from the spine; a pocket with its fold there "
              " opens at the other.", "Pockets", words=("head", "side"), default="head"),
    Parameter("strip", "Glued strip", "length", "What the glue takes along an edge of a pocket.", "Pockets", 1.0, 30.0,
              default=STRIP),
    fact("insert", "In each pocket", "How thick what goes into a pocket is.", "Pockets", 0.0, 10.0, default=0.0),
)  # fmt: skip
PAGE_PARAMETERS = (
    fact("content-width", "Picture, width", "What every page shall hold.", "Contents", 10.0, default=inches(2.75)),
    fact("content-height", "Picture, height", "What every page shall hold.", "Contents", 10.0, default=inches(2.75)),
    Parameter("page-width", "Page, width", "length", "Spine to fore-edge.", "Pages", derived=True),
    Parameter("page-height", "Page, height", "length", "Foot to head.", "Pages", derived=True),
    Parameter("pages", "Inner pages", "count", "How many show when leaves are turned.", "Pages", derived=True),
    Parameter("pockets", "Pockets", "count", "Between the leaves.", "Pockets", derived=True),
    Parameter("mat-width", "Mat, width", "length", "For each page.", "Pages", derived=True),
    Parameter("mat-height", "Mat, height", "length", "For each page.", "Pages", derived=True),
    Parameter("thick", "Closed", "length", "Thickness of the shut book.", "Pages", derived=True),
)


class SnakeBook(Lying):
    """Subclasses tell the snake, and which of its gaps open; the others are pockets."""

    shelf = "One sheet"
    starts: tuple[Start, ...] = ("size", "contents", "sheet")
    footprint = ("page-width", "page-height")
    id: str

    def trunk(self, sizes: Sizes) -> Trunk:
        """The snake. Raises ParameterError where none makes a book."""
        raise NotImplementedError  # every such book says

    def opens(self, trunk: Trunk) -> tuple[int, ...]:
        """The gaps that open as pages; all others are pockets."""
        return trunk.spreads

    def spine(self, trunk: Trunk) -> Side:
        """The side, as the sheet lies folded, on which leaves hang together."""
        return trunk.spine

    def turn(self, trunk: Trunk) -> float:
        """How far each of them opens, radians."""
        return math.pi / len(self.opens(trunk))

    def pockets_of(self, trunk: Trunk) -> tuple[int, ...]:
        """The gaps that are glued, from the front cover."""
        opens = set(self.opens(trunk))
        return tuple(g for g in reversed(range(len(trunk.path) - 1)) if g not in opens)

    def pages_of(self, trunk: Trunk) -> tuple[tuple[int, str, int], ...]:
        """The pages in the order they are read, from the front cover: (gap, panel, side of it)."""
        pages = []
        for gap in sorted(self.opens(trunk), reverse=True):
            side = 1 if gap % 2 == trunk.first else -1
            pages += [(gap, named(trunk.path[k]), side) for k in (gap + 1, gap)]
        return tuple(pages)

    def size(self, situation: Situation) -> dict[str, Sized]:
        """Sheet, pages and pockets. Raises ParameterError where no page or pocket is left."""
        s = situation
        sizes = self.counts(s)
        trunk = self.trunk(sizes)
        upright = self.spine(trunk) in ("right", "left")  # the spine, as the sheet lies
        across, along = ("sheet-width", "sheet-height") if upright else ("sheet-height", "sheet-width")
        count = {"sheet-width": trunk.columns, "sheet-height": trunk.rows}
        for axis, (name, page) in enumerate(((across, "page-width"), (along, "page-height"))):
            content = given_length(s.given, page.replace("page", "content"))
            sizes[name] = self._side(s, name, count[name], axis, content)
            cell = sizes[name].length / count[name]
            if cell < LEAST_PAGE:
                raise ParameterError(
                    f"Its pages come out at {told(cell)}: nothing can be folded from that.", "Pages",
                    "Take a larger sheet, or fewer columns and rows.",
                )  # fmt: skip
            sizes[page] = Sized(cell, worked_out(sizes[name]))
            mat = snap(cell - MAT_BORDER, s.cut.grid, "down").value
            sizes[page.replace("page", "mat")] = Sized(mat, "auto")
        least = min(sizes[page].length for page in self.footprint)
        sizes["mouth"] = word_of(s.given, "mouth", "head")
        sizes["strip"] = usual_length(s, "strip", STRIP, least / 6)
        if sizes["strip"].length > least / 3:
            raise ParameterError(
                f"Glue {told(sizes['strip'].length)} wide leaves no pocket in a page of {told(least)}.",
                "Glued strip", "Make it narrower.",
            )  # fmt: skip
        sizes["insert"] = length_of(s.given, "insert", 0.0)
        sizes["pages"] = Sized(len(self.pages_of(trunk)), "auto")
        sizes["pockets"] = Sized(len(self.pockets_of(trunk)), "auto")
        sizes |= as_given(s.given, "content-width", "content-height")
        sizes["thick"] = Sized(self.thickness(s, sizes).value, "auto")
        return sizes

    def counts(self, s: Situation) -> dict[str, Sized]:
        """What tells the snake, where that can be chosen."""
        return {}

    @staticmethod
    def _side(s: Situation, name: str, count: int, axis: int, content: float | None) -> Sized:
        """One side of the sheet: given, from what a page shall hold, from the face it lies on, or 12 inches. mm."""
        if (own := given_length(s.given, name)) is not None:
            return Sized(own, "given")
        if content is not None:
            exact = content + MAT_BORDER
            return Sized(count * snap(exact, s.score.grid, "up").value, "auto", count * exact)
        if s.room is None:
            return Sized(inches(12), "default")
        left = s.room.clear(axis) - BORDER
        if left < LEAST_PAGE:
            raise ParameterError(f"The face leaves {told(max(left, 0.0))} for a page: too little.", s.name)
        exact = min(left, inches(12) / count)
        return Sized(count * snap(exact, s.score.grid, "down").value, "fill", count * exact)

    def mouth_of(self, trunk: Trunk, gap: int, wish: str) -> Edge:
        """Where a pocket opens, as the sheet lies: as wished, or where its fold leaves it."""
        head, fore = _HEAD[self.spine(trunk)], OPPOSITE[self.spine(trunk)]
        first, second = (head, fore) if wish == "head" else (fore, head)
        return first if trunk.folds[gap] != first else second

    def glued(self, trunk: Trunk, gap: int, sizes: Sizes) -> tuple[Edge, ...]:
        """The edges of a pocket that want glue: all but its fold and its mouth."""
        mouth = self.mouth_of(trunk, gap, str(sizes["mouth"].value))
        return tuple(side for side in SIDES if side not in (mouth, trunk.folds[gap]))

    def _facing(self, s: Situation, trunk: Trunk) -> dict[int, float]:
        """What lies between the two pages of each gap that opens, mm."""
        angles: dict[int, float] = {}
        for number, (gap, _, _) in enumerate(self.pages_of(trunk), 1):
            angles[gap] = angles.get(gap, 0.0) + s.bulk_on(f"page-{number}")
        return angles

    def thickness(self, s: Situation, sizes: Sizes) -> Span:
        """A sheet for every panel, what is in the pockets or their glue, what is on the pages."""
        trunk, t = self.trunk(sizes), s.paper.caliper
        pockets, insert = len(self.pockets_of(trunk)), sizes["insert"].length
        sheets = span("panels", len(trunk.path) * t)
        if insert > s.glue:
            sheets = sheets.plus(Term("in the pockets", pockets * insert, Lever(s.element, "insert", float(pockets))))
        else:
            sheets = sheets.plus(Term("glue", pockets * s.glue))
        sheets = sheets.plus(Term("bulk between pages", sum(self._facing(s, trunk).values())))
        return sheets.plus(*bulks(s, "bulk on the cover", "cover"))

    def beyond(self, s: Situation, sizes: Sizes) -> tuple[float, float]:
        """Folds stand out a little."""
        out = self.made(s, sizes).outermost
        return out, out

    def _levers(self, sizes: Sizes) -> tuple[tuple[str, float], tuple[str, float]]:
        """The parameters behind a page's width and height, and how much of each it is."""
        trunk = self.trunk(sizes)
        wide, high = ("sheet-width", 1 / trunk.columns), ("sheet-height", 1 / trunk.rows)
        return (wide, high) if self.spine(trunk) in ("right", "left") else (high, wide)

    def reaches(self, s: Situation, sizes: Sizes) -> tuple[Span, Span]:
        """Half a page: a column or a row of the sheet."""
        across, along = (
            Span((Term(self.name.lower(), sizes[n].length / 2, Lever(s.element, p, share / 2)),))
            for n, (p, share) in zip(self.footprint, self._levers(sizes), strict=True)
        )
        return across, along

    def rooms(self, situation: Situation, sizes: Sizes) -> dict[str, Room]:
        """Every page and the front cover; around it where it lies on nothing."""
        s, t = situation, situation.paper.caliper
        w, h = (sizes[n].length for n in self.footprint)
        page = page_room(w, h, t, s.element, self._levers(sizes))
        rooms = {f"page-{k}": page for k in range(1, int(sizes["pages"].length) + 1)}
        rooms["cover"] = page
        if s.room is None:
            reach = self.reaches(s, sizes)[0].plus(Term("folds", self.beyond(s, sizes)[0]))
            rooms[AROUND] = around_room(reach, self.thickness(s, sizes), (w, h), t)
        return rooms

    @folded_once
    def made(self, s: Situation, sizes: Sizes) -> FoldedSheet:
        """The sheet marked out, slit, folded and glued."""
        trunk = self.trunk(sizes)
        w, h = sizes["sheet-width"].length / trunk.columns, sizes["sheet-height"].length / trunk.rows
        slits = [((a[0] * w, a[1] * h), (b[0] * w, b[1] * h)) for a, b in cuts_of(trunk)]
        on = {*trunk.path, *(flap for flap, _ in trunk.flaps)}
        gone = [named((c, r)) for r in range(trunk.rows) for c in range(trunk.columns) if (c, r) not in on]
        sheet = grid([w] * trunk.columns, [h] * trunk.rows, slits=slits, gone=gone)
        facing, path = self._facing(s, trunk), [named(cell) for cell in trunk.path]
        between = {(path[g], path[g + 1]): facing.get(g, sizes["insert"].length) for g in range(len(path) - 1)}
        glue = [
            Glue(path[g], path[g + 1], self.glued(trunk, g, sizes), sizes["strip"].length)
            for g in self.pockets_of(trunk)
        ]
        return fold_sheet(
            f"{s.element}.sheet", s.name, s.paper, sheet, (*folding_of(trunk), *glue), glue=s.glue,
            labels={name: f"panel {k}" for k, name in enumerate(path, 1)}, between=between,
            note="Slit as drawn, then fold to and fro from the last panel; glue the pockets last.",
        )  # fmt: skip

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        """The folded sheet on its lowest panel, its leaves hinged where they turn."""
        s, e = situation, situation.element
        trunk = self.trunk(sizes)
        made, up = self.made(s, sizes), _UP[self.spine(trunk)]
        w, h = (sizes[n].length for n in self.footprint)
        mounts = [
            page_mount(made, f"page-{k}", f"page {k}", panel, side, up)
            for k, (_, panel, side) in enumerate(self.pages_of(trunk), 1)
        ]
        top = named(trunk.path[-1])
        mounts.append(page_mount(made, "cover", "front cover", top, made.shows(top), up))
        if s.room is None:
            mounts.append(around_sheet(made, top, up, (w, h), s.bulk_on("cover")))
        creases = {frozenset((c.a, c.b)): c for c in made.piece.creases}
        swings = []
        for number, gap in enumerate(sorted(self.opens(trunk), reverse=True), 1):
            crease = creases[frozenset((named(trunk.path[gap]), named(trunk.path[gap + 1])))]
            to = math.copysign(math.pi - self.turn(trunk), crease.angle)
            swings.append(Swing(f"spread-{number}", f"spread {number} of {s.name} opens", ((SHEET, crease.name, to),)))
        strip = sizes["strip"].length
        terms = tuple((lever_term("sheet", sizes[n].length, e, n),) for n in ("sheet-width", "sheet-height"))
        content = (("content-width", "page-width"), ("content-height", "page-height"))
        gaps = [
            sheet_gap(e, made.piece.name, s.paper, made.piece.size, terms),
            fit_gap(s, uses.GLUE, (f"{s.name}, glued strip", "glue"), span("strip", strip, e, "strip")),
            *told_contents(s, sizes, f"{s.name}, page", content, MAT_BORDER),
        ]
        return sheet_part(
            s, made, up, by_fold=False, mounts=mounts, swings=swings, gaps=gaps, pockets=self._pockets(trunk, sizes),
            label="along the edges that are not its mouth: keep glue out of the inside",
        )  # fmt: skip

    def _pockets(self, trunk: Trunk, sizes: Sizes) -> list[Pocket]:
        """Every pocket with its mouth, and its inside less the glue."""
        w, h = (sizes[n].length for n in self.footprint)
        strip, pockets = sizes["strip"].length, []
        upright = {self.spine(trunk), OPPOSITE[self.spine(trunk)]}
        for number, gap in enumerate(self.pockets_of(trunk), 1):
            glued = self.glued(trunk, gap, sizes)
            beside = sum(side in upright for side in glued)
            inside = (w - strip * beside, h - strip * (len(glued) - beside))
            at_head = self.mouth_of(trunk, gap, str(sizes["mouth"].value)) == _HEAD[self.spine(trunk)]
            names = named(trunk.path[gap]), named(trunk.path[gap + 1])
            size = inside if at_head else (inside[1], inside[0])
            pockets.append(Pocket(f"pocket {number}", names, "up" if at_head else "right", *size))
        return pockets
