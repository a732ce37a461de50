"""A sheet of the maker's own, folded by the maker's own script: faces that show, pockets, and what opens again."""

from __future__ import annotations

import math
from collections.abc import Mapping
from typing import Literal

from yawning_lantern.assembly import Gap, Mount, Part, Pocket, Room, Span, Swing, Term, box_sides, span, uses
from yawning_lantern.errors import ParameterError
from yawning_lantern.flatfold.anatomy import Anatomy, Face, anatomy
from yawning_lantern.flatfold.script import Bring, Glue, Script, Tuck
from yawning_lantern.flatfold.sheet import Sheet
from yawning_lantern.flatfold.state import Folded, apply, back, turned
from yawning_lantern.flatfold.telling import own_sheet, parse_script
from yawning_lantern.measure import inches, parse_lengths, told
from yawning_lantern.pattern import rectangle
from yawning_lantern.pattern.convex import largest_level
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes
from yawning_lantern.structures.kit.lying import Lying, fit_gap
from yawning_lantern.structures.kit.one_sheet import SHEET, FoldedSheet, fold_sheet, folded_once, sheet_part
from yawning_lantern.structures.kit.shell import lever_term
from yawning_lantern.structures.kit.solving import given_length, length_of, sheet_gap, worked_out

STRIP = inches(1 / 4)
"""The glued strip along an edge, mm. Common practice, no source."""
LEAST_FACE = 12.0
"""A face that leaves less than this carries nothing, mm. From memory."""
LEAST_CELL = 6.0
"""A narrower one cannot be folded by hand, mm. From memory."""
OPENS = 5 * math.pi / 6  # radians: as far as a leaf is turned
UP = (0.0, 1.0)  # up in the sheet, unless it is told

OWN_PARAMETERS = (
    Parameter("widths", "Widths of columns", "lengths", "From the left, joined by +; else the sheet in equal ones.",
              "Own fold"),
    Parameter("heights", "Heights of rows", "lengths", "From the foot, joined by +; else the sheet in equal ones.",
              "Own fold"),
    Parameter("script", "Script", "text", "How it is folded, act by act: over c1r1/c2r1; tuck c2r1/c2r2 over c1r1; "
              "turn; glue c1r1/c2r1 left foot.", "Own fold", structural=True),
    Parameter("slits", "Slits", "text", "Between which cells: c1r1/c2r1 c1r2/c2r2.", "Own fold"),
    Parameter("blank", "Not scored", "text", "Between which cells: c1r1/c2r1.", "Own fold"),
    Parameter("gone", "Taken out", "text", "Cells that are cut away: c2r2.", "Own fold"),
    Parameter("slants", "Slants", "text", "From mark to mark, in columns and rows from the lower left: score 0,1 1,0; "
              "slit 1,0 2,1.", "Own fold"),
)  # fmt: skip
_TOLD = ("slits", "blank", "gone", "slants")


class OwnFold(Lying):
    """What is drawn is marked out and folded act by act; an act opens again where no glue holds it."""

    name = "Grid sheet"
    footprint = ("wide", "high")

    def size(self, situation: Situation) -> dict[str, Sized]:
        """The grid, what is drawn on it, what comes of it. Raises ParameterError where it cannot be folded."""
        s, given = situation, situation.given
        sizes: dict[str, Sized] = {}
        for name, count, whole, axis in (
            ("widths", "columns", "sheet-width", 0), ("heights", "rows", "sheet-height", 1),
        ):  # fmt: skip
            row = given.get(name)
            if isinstance(row, str):
                lengths = parse_lengths(row, "mm")
                sizes[name] = Sized(row, "given")
                sizes[count] = Sized(len(lengths), "auto")
                sizes[whole] = Sized(sum(lengths), "auto")
            else:
                asked = given.get(count)
                sizes[count] = Sized(int(asked), "given") if isinstance(asked, int | float) else Sized(4, "default")
                sizes[whole] = self._side(s, whole, int(sizes[count].length), axis)
        for name in (*_TOLD, "script"):
            text = given.get(name)
            if isinstance(text, str) and text.strip():
                sizes[name] = Sized(text, "given")
        sizes["strip"] = length_of(given, "strip", STRIP)
        if min(*self.columns(sizes), *self.rows(sizes)) < LEAST_CELL:
            raise ParameterError("A cell comes out too narrow to be folded.", "Own fold", "Make it wider.")
        for name in ("content-width", "content-height"):
            if given_length(given, name) is not None:
                raise ParameterError(
                    "A fold of one's own is not worked out from a picture.", "Picture, width", "Take it away, or make "
                    "the cells as large as you need them.",
                )  # fmt: skip
        folded = anatomy(self.marked(sizes), self.script(sizes))
        xs, ys = ([p[k] for ring in folded.state.places for p in ring] for k in (0, 1))
        origin = worked_out(sizes["sheet-width"], sizes["sheet-height"])
        sizes["wide"], sizes["high"] = Sized(max(xs) - min(xs), origin), Sized(max(ys) - min(ys), origin)
        sizes["pages"] = Sized(len(self.faces(sizes)), "auto")
        sizes["pockets"] = Sized(len(folded.pockets), "auto")
        sizes["thick"] = Sized(self.thickness(s, sizes).value, "auto")
        return sizes

    @staticmethod
    def _side(s: Situation, name: str, count: int, axis: int) -> Sized:
        """One side of the sheet where its cells are equal, mm: given, or as much as the face it lies on lets a cell
        be."""
        if given_length(s.given, name) is not None or s.room is None:
            return length_of(s.given, name, inches(12))
        cell = min(s.room.clear(axis) - inches(1 / 8), inches(12) / count)
        if cell < LEAST_CELL:
            raise ParameterError(f"The face leaves {told(max(cell, 0.0))}.", s.name)
        return Sized(cell * count, "fill")

    @staticmethod
    def _line(sizes: Sizes, row: str, whole: str, count: str) -> tuple[float, ...]:
        if row in sizes:
            return parse_lengths(str(sizes[row].value), "mm")
        n = int(sizes[count].length)
        return (sizes[whole].length / n,) * n

    def columns(self, sizes: Sizes) -> tuple[float, ...]:
        """Widths of the columns from the left, mm."""
        return self._line(sizes, "widths", "sheet-width", "columns")

    def rows(self, sizes: Sizes) -> tuple[float, ...]:
        """Heights of the rows from the foot, mm."""
        return self._line(sizes, "heights", "sheet-height", "rows")

    def marked(self, sizes: Sizes) -> Sheet:
        """The sheet as it is marked out."""
        drawn = {name: str(sizes[name].value) for name in _TOLD if name in sizes}
        return own_sheet(self.columns(sizes), self.rows(sizes), **drawn)

    def script(self, sizes: Sizes) -> Script:
        """The acts in their order."""
        return parse_script(str(sizes["script"].value), sizes["strip"].length)

    def faces(self, sizes: Sizes) -> tuple[tuple[str, Face, tuple[float, float, float, float]], ...]:
        """Faces that carry something: their id, panel and side, and the upright rectangle (x0, y0, x1, y1, mm) that is
        free on them in the sheet turned so that up is up."""
        folded = anatomy(self.marked(sizes), self.script(sizes))
        named: list[tuple[str, Face, tuple[float, float, float, float]]] = []
        for face in folded.faces:
            free = largest_level(self._upright(folded.state, face))
            if min(free[2] - free[0], free[3] - free[1]) >= LEAST_FACE:
                named.append((f"page-{len(named)}" if named else "cover", face, free))
        return tuple(named)

    @staticmethod
    def _upright(state: Folded, face: Face) -> list[tuple[float, float]]:
        """The outline of a face turned so that up is up and the face is seen, counter-clockwise, mm."""
        (ux, uy), k = OwnFold._up(state, face.facet), state.sheet.at(face.facet)
        rx, ry = (uy, -ux) if face.side > 0 else (-uy, ux)
        ring = [(x * rx + y * ry, x * ux + y * uy) for x, y in state.sheet.facets[k].outline]
        return ring if face.side > 0 else ring[::-1]

    @staticmethod
    def _up(state: Folded, facet: str) -> tuple[float, float]:
        """Which way in the sheet is up on a facet as it lies folded."""
        home = back(state.isos[state.sheet.at(facet)])
        zero, tip = apply(home, (0.0, 0.0)), apply(home, UP)
        return tip[0] - zero[0], tip[1] - zero[1]

    def _held(self, s: Situation, sizes: Sizes) -> dict[tuple[str, int], float]:
        """What is on the faces, by panel and side, mm."""
        return {(face.facet, face.side): s.bulk_on(name) for name, face, _ in self.faces(sizes)}

    @folded_once
    def made(self, s: Situation, sizes: Sizes) -> FoldedSheet:
        """The sheet folded at true thickness, what is on its faces between."""
        state = anatomy(self.marked(sizes), self.script(sizes)).state
        held = self._held(s, sizes)
        between = {}
        for i, j in state.above:
            low, high = (i, j) if state.over(i, j) > 0 else (j, i)
            bulk = 0.0
            for facet, upper in ((low, True), (high, False)):
                bulk += held.get((state.name(facet), 1 if upper != turned(state.isos[facet]) else -1), 0.0)
            between[state.name(low), state.name(high)] = bulk
        return fold_sheet(
            f"{s.element}.sheet", s.name, s.paper, self.marked(sizes), self.script(sizes), glue=s.glue,
            between={pair: bulk for pair, bulk in between.items() if bulk}, note="Slit as drawn, then fold act by act.",
        )  # fmt: skip

    def thickness(self, s: Situation, sizes: Sizes) -> Span:
        """Its layers with what is between them, and what lies highest."""
        made, held = self.made(s, sizes), self._held(s, sizes)
        names = [facet.name for facet in made.sheet.facets]
        tops = [
            level + made.caliper + held.get((names[k], made.shows(names[k])), 0.0) for k, level in enumerate(made.level)
        ]
        return span("layers", made.thick).plus(Term("bulk on top", max(0.0, max(tops) - made.thick)))

    def beyond(self, s: Situation, sizes: Sizes) -> tuple[float, float]:
        """Folds stand out a little."""
        out = self.made(s, sizes).outermost
        return out, out

    def reaches(self, s: Situation, sizes: Sizes) -> tuple[Span, Span]:
        """Half of what it covers."""
        return span("half of what it covers", sizes["wide"].length / 2), span("half its height",
                                                                              sizes["high"].length / 2)  # fmt: skip

    def rooms(self, situation: Situation, sizes: Sizes) -> dict[str, Room]:
        """Every face that shows, at last when it is opened, but the one it lies on."""
        t = situation.paper.caliper
        rooms = {}
        for name, _, (x0, y0, x1, y1) in self.faces(sizes):
            across, along = span("half the face", (x1 - x0) / 2), span("half the face", (y1 - y0) / 2)
            rooms[name] = Room("onto", uses.MAT, box_sides((across, along, across, along)), (x1 - x0, y1 - y0), t)
        return rooms

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        """The folded sheet on its lowest panel; what no glue holds opens again, the last act first."""
        s = situation
        made = self.made(s, sizes)
        folded = anatomy(self.marked(sizes), self.script(sizes))
        mounts = []
        for name, face, (x0, y0, x1, y1) in self.faces(sizes):
            ux, uy = self._up(folded.state, face.facet)
            rx, ry = (uy, -ux) if face.side > 0 else (-uy, ux)
            u, v = (x0 + x1) / 2, (y0 + y1) / 2
            way: Literal[-1, 1] = 1 if face.side > 0 else -1
            label = "front cover" if name == "cover" else name.replace("-", " ")
            mounts.append(
                Mount(
                    name,
                    label,
                    SHEET,
                    face.facet,
                    way,
                    (u * rx + v * ux, u * ry + v * uy),
                    (ux, uy),
                    rectangle((x0 - x1) / 2, (y0 - y1) / 2, (x1 - x0) / 2, (y1 - y0) / 2),
                    made.caliper / 2,
                )
            )
        creases = {frozenset((c.a, c.b)): c for c in made.piece.creases}
        swings, script = [], self.script(sizes)
        for number, _ in folded.openings:
            step = script[number]
            assert isinstance(step, Bring | Tuck)
            # two scores on one line turn as one only where what was folded across them lies flat again
            earlier = (script[k] for k, _ in folded.openings if k < number)
            flat = any(len(fold.hinges) > 1 for fold in earlier if isinstance(fold, Bring | Tuck))
            left = 0.0 if flat else math.pi - OPENS
            moved = tuple(
                (SHEET, crease.name, math.copysign(left, crease.angle))
                for crease in (creases[frozenset(pair)] for pair in step.hinges)
            )
            swings.append(Swing(f"act-{number + 1}", f"act {number + 1} of {s.name} opens again", moved))
        names = [facet.name for facet in made.sheet.facets]
        parting = [(names[a], names[b]) for _, parted in folded.openings for a, b in parted]
        return sheet_part(
            s, made, UP, by_fold=False, mounts=mounts, swings=swings, gaps=self._gaps(s, sizes, made, script),
            pockets=self._pockets(folded), joints=made.resting(parting), label="along the edges told",
        )  # fmt: skip

    def _gaps(self, s: Situation, sizes: Sizes, made: FoldedSheet, script: Script) -> list[Gap]:
        e = s.element
        terms = tuple((lever_term("sheet", sizes[n].length, e, n),) for n in ("sheet-width", "sheet-height"))
        gaps = [sheet_gap(e, made.piece.name, s.paper, made.piece.size, terms)]
        if any(isinstance(step, Glue) and step.edges for step in script):
            strip = span("strip", sizes["strip"].length, e, "strip")
            gaps.append(fit_gap(s, uses.GLUE, (f"{s.name}, glued strip", "glue"), strip))
        return gaps

    @staticmethod
    def _pockets(found: Anatomy) -> list[Pocket]:
        """Every hollow that holds something, with the side it opens on."""
        pockets = []
        for number, hollow in enumerate(found.pockets, 1):
            x0, y0, x1, y1 = hollow.extent
            sides = {"left": 0.0, "right": 0.0, "up": 0.0, "down": 0.0}
            for rim in hollow.mouth:
                mx, my = (rim.start[0] + rim.end[0]) / 2, (rim.start[1] + rim.end[1]) / 2
                off = {"left": mx - x0, "right": x1 - mx, "up": y1 - my, "down": my - y0}
                sides[min(off, key=lambda side: off[side])] += math.dist(rim.start, rim.end)
            mouth = max(sides, key=lambda side: sides[side])
            size = (x1 - x0, y1 - y0) if mouth in ("up", "down") else (y1 - y0, x1 - x0)
            panels = tuple(dict.fromkeys(name for pair in hollow.walls for name in pair))
            pockets.append(Pocket(f"pocket {number}", panels, mouth, *size))
        return pockets
