"""A sheet of one's own while it is drawn and folded: every change makes another draft, so that each can be undone."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Literal

from msgspec import Struct
from msgspec.structs import replace

from yawning_lantern.errors import ParameterError
from yawning_lantern.flatfold.folding import stepped
from yawning_lantern.flatfold.script import Glue, Script, Step
from yawning_lantern.flatfold.sheet import Sheet
from yawning_lantern.flatfold.state import Folded, flat
from yawning_lantern.flatfold.telling import (
    own_sheet,
    parse_cells,
    parse_script,
    parse_segments,
    parse_slants,
    script_text,
)
from yawning_lantern.measure import row_of
from yawning_lantern.pattern import Point

Segment = tuple[str, str]
"""A stretch of a grid's line, by the cells on either side."""
SlantTold = tuple[str, Point, Point]
"""score or slit, and two marks in columns and rows from the lower left."""


class Draft(Struct, frozen=True):
    """Widths of columns and heights of rows (mm), what is drawn on the grid, and the acts. `strip`: how wide glue along
    an edge is, mm."""

    columns: tuple[float, ...]
    rows: tuple[float, ...]
    slits: tuple[Segment, ...] = ()
    blank: tuple[Segment, ...] = ()
    gone: tuple[str, ...] = ()
    slants: tuple[SlantTold, ...] = ()
    script: Script = ()
    strip: float = 6.35

    def sheet(self) -> Sheet:
        """The sheet as it is marked out. Raises ParameterError for what cannot be."""
        told = self.settings()
        return own_sheet(
            self.columns, self.rows, *(str(told.get(name, "")) for name in ("slits", "blank", "gone", "slants"))
        )

    def settings(self) -> dict[str, str | float]:
        """Itself as the settings of a grid sheet."""
        settings: dict[str, str | float] = {
            "widths": row_of(self.columns), "heights": row_of(self.rows), "script": script_text(self.script),
            "slits": _segments(self.slits), "blank": _segments(self.blank), "gone": " ".join(self.gone),
            "slants": "; ".join(f"{kind} {_mark(a)} {_mark(b)}" for kind, a, b in self.slants), "strip": self.strip,
        }  # fmt: skip
        return {name: value for name, value in settings.items() if value != ""}

    def kind(self, segment: Segment) -> Literal["score", "slit", "nothing"]:
        """What a stretch is: score, slit or nothing."""
        return "slit" if segment in self.slits else "nothing" if segment in self.blank else "score"

    def turned_to_next(self, segment: Segment) -> Draft:
        """A score becomes a slit, a slit nothing, nothing a score."""
        kind = self.kind(segment)
        slits = tuple(s for s in self.slits if s != segment)
        blank = tuple(s for s in self.blank if s != segment)
        if kind == "score":
            slits = (*slits, segment)
        elif kind == "slit":
            blank = (*blank, segment)
        return replace(self, slits=slits, blank=blank)

    def taken(self, cell: str) -> Draft:
        """A cell cut away, or put back."""
        gone = tuple(c for c in self.gone if c != cell) if cell in self.gone else (*self.gone, cell)
        return replace(self, gone=gone)

    def slanted(self, kind: str, start: Point, end: Point) -> Draft:
        """A slant drawn from mark to mark; one that is there already becomes a slit, a slit is taken away."""
        for k, (old, a, b) in enumerate(self.slants):
            if {a, b} == {start, end}:
                rest = (*self.slants[:k], *self.slants[k + 1 :])
                return replace(self, slants=(*rest, ("slit", a, b)) if old == "score" else rest)
        return replace(self, slants=(*self.slants, (kind, start, end)))

    def acted(self, step: Step, at: int | None = None) -> Draft:
        """One act more, as number `at` or the last; glue of the same two panels is one act."""
        if isinstance(step, Glue):
            for k, old in enumerate(self.script):
                if isinstance(old, Glue) and {old.a, old.b} == {step.a, step.b} and old.edges and step.edges:
                    edges = tuple(dict.fromkeys((*old.edges, *step.edges)))
                    script = (*self.script[:k], replace(old, edges=edges), *self.script[k + 1 :])
                    return replace(self, script=script)
        at = len(self.script) if at is None else at
        return replace(self, script=(*self.script[:at], step, *self.script[at:]))

    def without(self, number: int) -> Draft:
        """An act taken away, by its place."""
        return replace(self, script=(*self.script[:number], *self.script[number + 1 :]))

    def moved(self, number: int, to: int) -> Draft:
        """An act moved to another place."""
        script = list(self.script)
        step = script.pop(number)
        script.insert(to, step)
        return replace(self, script=tuple(script))

    def gridded(self, columns: Sequence[float], rows: Sequence[float]) -> Draft:
        """Other widths; what was drawn stays where the grid has as many columns and rows, else all begins anew."""
        if (len(columns), len(rows)) == (len(self.columns), len(self.rows)):
            return replace(self, columns=tuple(columns), rows=tuple(rows))
        return Draft(tuple(columns), tuple(rows), strip=self.strip)


def draft_of(settings: Mapping[str, object], columns: Sequence[float], rows: Sequence[float], strip: float) -> Draft:
    """The draft that a grid sheet's settings tell. Raises ParameterError where they cannot be read."""
    told = {name: str(settings.get(name, "") or "") for name in ("slits", "blank", "gone", "slants", "script")}
    parse_slants(told["slants"], columns, rows)  # says what is wrong with them
    slants = []
    for line in told["slants"].split(";"):
        if line.strip():
            kind, one, two = line.split()
            slants.append((kind, _point(one), _point(two)))
    return Draft(
        tuple(columns), tuple(rows), parse_segments(told["slits"]), parse_segments(told["blank"]),
        parse_cells(told["gone"]), tuple(slants), parse_script(told["script"], strip), strip,
    )  # fmt: skip


class Replay(Struct, frozen=True):
    """The states before the first act and after each, as far as they can be done; what is wrong with the next one."""

    states: tuple[Folded, ...]
    problem: ParameterError | None = None


def replayed(sheet: Sheet, script: Script) -> Replay:
    """A script carried out as far as it goes."""
    states = [flat(sheet)]
    for step in script:
        try:
            states.append(stepped(states[-1], step))
        except ParameterError as problem:
            return Replay(tuple(states), problem)
    return Replay(tuple(states))


def _segments(pairs: Sequence[Segment]) -> str:
    return " ".join("/".join(pair) for pair in pairs)


def _mark(point: Point) -> str:
    return f"{point[0]:g},{point[1]:g}"


def _point(mark: str) -> Point:
    x, y = (float(n) for n in mark.split(","))
    return x, y
