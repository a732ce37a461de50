"""Maze book: a sheet in a grid, slit to one long snake, folded to and fro; every second gap is a pocket."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

from yawning_lantern.assembly import Instance, Lever, Part, Pocket, Room, Span, Swing, Term, span, uses
from yawning_lantern.errors import ParameterError
from yawning_lantern.flatfold.books import cuts_of, folding_of, named
from yawning_lantern.flatfold.script import Edge, Glue
from yawning_lantern.flatfold.sheet import grid
from yawning_lantern.flatfold.snakes import OPPOSITE, Cell, Side, Trunk
from yawning_lantern.measure import inches, snap, told
from yawning_lantern.pattern import Point
from yawning_lantern.structures.kit.around import AROUND, around_mount, around_room
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes, Start
from yawning_lantern.structures.kit.lying import BORDER, Lying, bulks, clear, count_of, fit_gap
from yawning_lantern.structures.kit.one_sheet import SHEET, FoldedSheet, fold_sheet, page_mount, page_room
from yawning_lantern.structures.kit.shell import lever_term
from yawning_lantern.structures.kit.solving import given_length, length_of, sheet_gap, told_contents, word_of

MOST = 6  # columns and rows
STRIP = inches(1 / 4)
"""The glued strip along a pocket's edge, mm. Common practice, no source."""
MAT_BORDER = inches(1 / 8)
"""What is left beside a mat on a page in all, mm: a page of 3 gets mats of 2 7/8. Common practice, no source."""
_WAYS: dict[Side, Point] = {"right": (0.0, -1.0), "left": (0.0, 1.0), "head": (1.0, 0.0), "foot": (-1.0, 0.0)}
_EDGES: dict[Point, Edge] = {(1.0, 0.0): "right", (-1.0, 0.0): "left", (0.0, 1.0): "head", (0.0, -1.0): "foot"}


@dataclass(frozen=True, slots=True)
class _Lies:
    """How the book lies folded: which way is up, where its spine, its head and its fore-edge are, as the sheet lies."""

    up: Point
    spine: Edge
    head: Edge
    fore: Edge


class MazeBook(Lying):
    """c × r cells make c·r panels; every second fold is on the spine, between them the pockets."""

    id = "maze-book"
    name = "Maze book"
    about = "A sheet scored in a grid, slit to one long snake and folded to and fro: pages, and a pocket behind each pair."
    shelf = "One sheet"
    headline = ("sheet-width", "sheet-height", "columns", "rows")
    starts: tuple[Start, ...] = ("size", "contents", "sheet")
    footprint = ("page-width", "page-height")
    faces = (
        (AROUND, "around it, shut"),
        ("cover", "front cover"),
        *((f"page-{k}", f"page {k}") for k in range(1, MOST * MOST + 1)),
    )
    parameters = (
        Parameter("sheet-width", "Sheet, width", "length", "Across the columns.", "Sheet", 20.0),
        Parameter("sheet-height", "Sheet, height", "length", "Up the rows.", "Sheet", 20.0),
        Parameter("columns", "Columns", "count", "Cells side by side.", "Sheet", 2, MOST, default=4, structural=True),
        Parameter("rows", "Rows", "count", "Cells one above the other.", "Sheet", 1, MOST, default=4, structural=True),
        Parameter("mouth", "Pockets open", "word", "At the head, or at the side away from the spine; a pocket with its "
                  "fold there opens at the other.", "Pockets", words=("head", "side"), default="head"),
        Parameter("strip", "Glued strip", "length", "What the glue takes along an edge of a pocket.", "Pockets", 1.0,
                  30.0, default=STRIP),
        Parameter("insert", "In each pocket", "length", "How thick what goes into a pocket is.", "Pockets", 0.0, 10.0,
                  default=0.0),
        Parameter("content-width", "Picture, width", "length", "What every page shall hold.", "Contents", 10.0),
        Parameter("content-height", "Picture, height", "length", "What every page shall hold.", "Contents", 10.0),
        Parameter("page-width", "Page, width", "length", "Spine to fore-edge.", "Pages", derived=True),
        Parameter("page-height", "Page, height", "length", "Foot to head.", "Pages", derived=True),
        Parameter("pages", "Inner pages", "count", "How many show when leaves are turned.", "Pages", derived=True),
        Parameter("pockets", "Pockets", "count", "Between the leaves.", "Pockets", derived=True),
        Parameter("mat-width", "Mat, width", "length", "For each page.", "Pages", derived=True),
        Parameter("mat-height", "Mat, height", "length", "For each page.", "Pages", derived=True),
        Parameter("thick", "Closed", "length", "Thickness of the shut book.", "Pages", derived=True),
    )  # fmt: skip

    def size(self, situation: Situation) -> dict[str, Sized]:
        """Sheet, pages and pockets. Raises ParameterError for a grid whose spine folds lie on two sides."""
        s = situation
        sizes = {"columns": count_of(s, "columns", 4), "rows": count_of(s, "rows", 4)}
        trunk = self.trunk(sizes)
        across = trunk.spine in ("right", "left")  # the spine upright as the sheet lies
        for name, count, axis, content in (
            ("sheet-width", trunk.columns, 0 if across else 1, "content-width" if across else "content-height"),
            ("sheet-height", trunk.rows, 1 if across else 0, "content-height" if across else "content-width"),
        ):
            sizes[name] = self._side(s, name, count, axis, given_length(s.given, content))
        sides = [sizes["sheet-width"], sizes["sheet-height"]]
        cells = [sides[0].length / trunk.columns, sides[1].length / trunk.rows]
        if not across:
            sides.reverse()
            cells.reverse()
        for name, cell, side in zip(("page-width", "page-height"), cells, sides, strict=True):
            if cell < 12.0:
                raise ParameterError(
                    f"Its pages come out at {told(cell)}: nothing can be folded from that.", "Pages",
                    "Take a larger sheet, or fewer columns and rows.",
                )  # fmt: skip
            sizes[name] = Sized(cell, side.origin if side.origin in ("given", "auto") else "fill")
            mat = "mat-width" if name == "page-width" else "mat-height"
            sizes[mat] = Sized(snap(cell - MAT_BORDER, s.cut.grid, "down").value, "auto")
        sizes["mouth"] = word_of(s.given, "mouth", "head")
        sizes["strip"] = length_of(s.given, "strip", min(STRIP, min(cells) / 6))
        if sizes["strip"].length > min(cells) / 3:
            raise ParameterError(
                f"Glue {told(sizes['strip'].length)} wide leaves no pocket in a page of {told(min(cells))}.",
                "Glued strip", "Make it narrower.",
            )  # fmt: skip
        sizes["insert"] = length_of(s.given, "insert", 0.0)
        sizes["pages"] = Sized(2 * len(trunk.spreads), "auto")
        sizes["pockets"] = Sized(len(trunk.pockets), "auto")
        for name in ("content-width", "content-height"):
            if name in s.given:
                sizes[name] = length_of(s.given, name, 0.0)
        sizes["thick"] = Sized(self.thickness(s, sizes).value, "auto")
        return sizes

    @staticmethod
    def _side(s: Situation, name: str, count: int, axis: int, content: float | None) -> Sized:
        """One side of the sheet: given, from what a page shall hold, from the face it lies on, or 12. mm."""
        if given_length(s.given, name) is not None:
            return length_of(s.given, name, 0.0)
        grid = s.score.grid
        if content is not None:
            exact = content + MAT_BORDER
            return Sized(count * snap(exact, grid, "up").value, "auto", count * exact)
        if s.room is None:
            return Sized(inches(12), "default")
        left = clear(s.room, axis) - BORDER
        if left < 12.0:
            raise ParameterError(
                f"The face leaves {told(max(left, 0.0))} for a page: too little.", s.name, "Put it on a larger face."
            )
        exact = min(left, inches(12) / count)
        return Sized(count * snap(exact, grid, "down").value, "fill", count * exact)

    @staticmethod
    def trunk(sizes: Sizes) -> Trunk:
        """The snake: along the rows to and fro where the columns are even, else up and down the columns."""
        columns, rows = int(sizes["columns"].length), int(sizes["rows"].length)
        if rows == 1 or columns % 2 == 0:
            path: list[Cell] = [
                (c if r % 2 == 0 else columns - 1 - c, r) for r in range(rows) for c in range(columns)
            ]
        elif rows % 2 == 0:
            path = [(c, r if c % 2 == 0 else rows - 1 - r) for c in range(columns) for r in range(rows)]
        else:
            raise ParameterError(
                f"Of {columns} columns and {rows} rows the folds of the spine come to lie on two sides.", "Columns",
                "Make the columns or the rows even in number.",
            )  # fmt: skip
        return Trunk(columns, rows, tuple(path))

    @staticmethod
    def lies(trunk: Trunk) -> _Lies:
        """The book with its spine at the left, seen from its front cover."""
        up = _WAYS[trunk.spine]
        spine: Edge = trunk.spine
        return _Lies(up, spine, _EDGES[up], OPPOSITE[spine])

    @staticmethod
    def mouth_of(trunk: Trunk, lies: _Lies, gap: int, wish: str) -> Edge:
        """Where a pocket opens: as wished, or where its fold leaves it."""
        first, second = (lies.head, lies.fore) if wish == "head" else (lies.fore, lies.head)
        return first if trunk.folds[gap] != first else second

    def script(self, trunk: Trunk, sizes: Sizes) -> tuple[Glue, ...]:
        """What is glued when all is folded: of each pocket every edge but its fold and its mouth."""
        lies = self.lies(trunk)
        found = []
        sides: tuple[Edge, ...] = ("left", "right", "foot", "head")
        for gap in trunk.pockets:
            mouth = self.mouth_of(trunk, lies, gap, str(sizes["mouth"].value))
            edges = tuple(side for side in sides if side not in (mouth, trunk.folds[gap]))
            pair = named(trunk.path[gap]), named(trunk.path[gap + 1])
            found.append(Glue(*pair, edges, sizes["strip"].length))
        return tuple(found)

    @staticmethod
    def pages_of(trunk: Trunk) -> tuple[tuple[int, str], ...]:
        """The pages in the order they are read, from the front cover: (gap, panel)."""
        found = []
        for gap in sorted(trunk.spreads, reverse=True):
            found += [(gap, named(trunk.path[gap + 1])), (gap, named(trunk.path[gap]))]
        return tuple(found)

    def _facing(self, s: Situation, trunk: Trunk) -> dict[int, float]:
        """What lies between the two pages of each spread, mm."""
        found: dict[int, float] = {}
        for number, (gap, _) in enumerate(self.pages_of(trunk), 1):
            found[gap] = found.get(gap, 0.0) + s.bulk_on(f"page-{number}")
        return found

    def thickness(self, s: Situation, sizes: Sizes) -> Span:
        """A sheet for every panel, what is in the pockets or their glue, what is on the pages."""
        trunk, t = self.trunk(sizes), s.paper.caliper
        pockets, insert = len(trunk.pockets), sizes["insert"].length
        sheets = span("panels", len(trunk.path) * t)
        if insert > s.glue:
            sheets = sheets.plus(Term("in the pockets", pockets * insert, Lever(s.element, "insert", float(pockets))))
        else:
            sheets = sheets.plus(Term("glue", pockets * s.glue))
        sheets = sheets.plus(Term("bulk between pages", sum(self._facing(s, trunk).values())))
        return sheets.plus(*bulks(s, "bulk on the cover", "cover"))

    def beyond(self, s: Situation, sizes: Sizes) -> tuple[float, float]:
        """Folds stand out by half of what they go around and half a sheet."""
        most = max([sizes["insert"].length, s.glue, *self._facing(s, self.trunk(sizes)).values()])
        out = (s.paper.caliper + most) / 2 + s.paper.caliper / 2
        return out, out

    def _levers(self, sizes: Sizes) -> tuple[tuple[str, float], tuple[str, float]]:
        trunk = self.trunk(sizes)
        levers = (("sheet-width", 1 / trunk.columns), ("sheet-height", 1 / trunk.rows))
        return levers if trunk.spine in ("right", "left") else (levers[1], levers[0])

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
        w, h = sizes["page-width"].length, sizes["page-height"].length
        levers = self._levers(sizes)
        page = page_room(w, h, t, s.element, levers)
        rooms = {f"page-{k}": page for k in range(1, int(sizes["pages"].length) + 1)}
        rooms["cover"] = page
        if s.room is None:
            reach = self.reaches(s, sizes)[0].plus(Term("folds", self.beyond(s, sizes)[0]))
            rooms[AROUND] = around_room(reach, self.thickness(s, sizes), (w, h), t)
        return rooms

    def made(self, s: Situation, sizes: Sizes) -> FoldedSheet:
        """The sheet marked out, slit, folded and glued."""
        trunk = self.trunk(sizes)
        w, h = sizes["sheet-width"].length / trunk.columns, sizes["sheet-height"].length / trunk.rows
        slits = [((a[0] * w, a[1] * h), (b[0] * w, b[1] * h)) for a, b in cuts_of(trunk)]
        sheet = grid([w] * trunk.columns, [h] * trunk.rows, slits=slits)
        facing = self._facing(s, trunk)
        between = {
            (named(trunk.path[g]), named(trunk.path[g + 1])): facing.get(g, sizes["insert"].length)
            for g in range(len(trunk.path) - 1)
        }
        labels = {named(cell): f"panel {k}" for k, cell in enumerate(trunk.path, 1)}
        return fold_sheet(
            f"{s.element}.sheet", s.name, s.paper, sheet, (*folding_of(trunk), *self.script(trunk, sizes)),
            glue=s.glue, labels=labels, between=between,
            note="Slit as drawn, then fold to and fro from the last panel; glue the pockets last.",
        )  # fmt: skip

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        """The folded sheet on its lowest panel, its leaves hinged at the spine."""
        s, e = situation, situation.element
        trunk = self.trunk(sizes)
        made, lies = self.made(s, sizes), self.lies(trunk)
        pages = self.pages_of(trunk)
        mounts = [
            page_mount(made, f"page-{k}", f"page {k}", panel, 1, lies.up) for k, (_, panel) in enumerate(pages, 1)
        ]
        top = named(trunk.path[-1])
        mounts.append(page_mount(made, "cover", "front cover", top, made.shows(top), lies.up))
        w, h = sizes["page-width"].length, sizes["page-height"].length
        if s.room is None:
            panel, way = made.face(top, 1, lies.up)
            bulk = s.paper.caliper + 2 * s.bulk_on("cover")
            mounts.append(around_mount(SHEET, panel, made.shows(top), bulk, way, (w, h), h * 1.2))
        creases = {frozenset((c.a, c.b)): c for c in made.piece.creases}
        swings = []
        spreads = sorted(trunk.spreads, reverse=True)
        for number, gap in enumerate(spreads, 1):
            crease = creases[frozenset((named(trunk.path[gap]), named(trunk.path[gap + 1])))]
            to = math.copysign(math.pi - math.pi / len(spreads), crease.angle)
            swings.append(
                Swing(f"spread-{number}", f"spread {number} of {s.name} opens", ((SHEET, crease.name, to),))
            )
        strip = sizes["strip"].length
        pockets = []
        for number, gap in enumerate(sorted(trunk.pockets, reverse=True), 1):
            mouth = self.mouth_of(trunk, lies, gap, str(sizes["mouth"].value))
            glued = [side for side in ("left", "right", "foot", "head") if side not in (mouth, trunk.folds[gap])]
            less_w = strip * sum(side in (lies.spine, lies.fore) for side in glued)
            less_h = strip * (len(glued) - sum(side in (lies.spine, lies.fore) for side in glued))
            inside = (w - less_w, h - less_h) if mouth == lies.head else (h - less_h, w - less_w)
            names = named(trunk.path[gap]), named(trunk.path[gap + 1])
            pockets.append(Pocket(f"pocket {number}", names, "up" if mouth == lies.head else "right", *inside))
        terms = (
            (lever_term("sheet", sizes["sheet-width"].length, e, "sheet-width"),),
            (lever_term("sheet", sizes["sheet-height"].length, e, "sheet-height"),),
        )
        content = [(c, p) for c, p in (("content-width", "page-width"), ("content-height", "page-height"))]
        gaps = [sheet_gap(e, made.piece.name, s.paper, made.piece.size, terms)]
        gaps.append(fit_gap(s, uses.GLUE, (f"{s.name}, glued strip", "glue"), span("strip", strip, e, "strip")))
        gaps += told_contents(s, sizes, f"{s.name}, page", content, MAT_BORDER)
        return Part(
            e, s.name, (made.piece,), (Instance(SHEET, made.piece.id, made.root(lies.up)),), tuple(mounts),
            tuple(swings), tuple(gaps), tuple(pockets),
            joints=made.glue_joints("along the edges that are not its mouth: keep glue out of the inside"),
            folding=made.stages(),
        )  # fmt: skip


FAMILY = MazeBook()
