"""A strip of any panels in a row, each as wide as told, folded onto the one that is glued down: the free strip, and
what is one with its panels told in another way."""

from __future__ import annotations

import math
from collections.abc import Mapping
from fractions import Fraction
from functools import partial
from itertools import pairwise

from yawning_lantern.assembly import Part, Room, Span, Swing, Term, box_sides, span, uses
from yawning_lantern.errors import ParameterError
from yawning_lantern.flatfold.script import Bring, Script, Way
from yawning_lantern.flatfold.sheet import Sheet, grid
from yawning_lantern.measure import MM_PER_INCH, inches, parse_lengths, row_of, snap, told
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes, Start, fact
from yawning_lantern.structures.kit.lying import BORDER, Lying, count_of, extent, fit_gap
from yawning_lantern.structures.kit.one_sheet import (
    SHEET,
    FoldedSheet,
    end_of,
    fold_sheet,
    folded_once,
    page_mount,
    sheet_part,
)
from yawning_lantern.structures.kit.shell import lever_term
from yawning_lantern.structures.kit.solving import as_given, given_length, sheet_gap, word_of, worked_out

MOST = 10  # panels at most
LEAST = 6.0
"""A narrower panel cannot be folded by hand, mm. From memory."""
INSET = inches(1 / 16)
"""What halves that meet over the middle leave between them in all, mm. Common practice, no source."""
PLAY = inches(1 / 4)
"""Border about what the panel glued down holds, in all, mm. Common practice, no source."""


def readings(panels: tuple[float, ...], sheet: float) -> tuple[tuple[int, float], ...]:
    """Which one panel, told wrongly, would make a row as long as its sheet: (panel from 1, what it would be, mm). Best
    first: as wide as another one, then what a ruler shows most plainly, then the smallest change."""
    off = sheet - sum(panels)
    readings = [(k, width + off) for k, width in enumerate(panels, 1) if width + off >= LEAST]

    def plain(width: float) -> tuple[bool, int, float]:
        twin = any(abs(width - other) < 1e-6 for other in panels)
        return (not twin, Fraction(width / MM_PER_INCH).limit_denominator(64).denominator, abs(off))

    return tuple(sorted(readings, key=lambda one: (*plain(one[1]), one[0])))


class FreeStrip(Lying):
    """Gate-folds, pages that grow by a step, flaps on flaps: all are a row of panels and which of them is glued."""

    id = "free-strip"
    name = "Free strip"
    about = "A strip of any panels, told as 3 1/4 + 3 1/2 + 2, folded in over the one that is glued down."
    shelf = "One sheet"
    headline: tuple[str, ...] = ("panels", "height")
    starts: tuple[Start, ...] = ("size", "contents")
    footprint = ("wide", "height")
    levers = ("height", "height")
    faces: tuple[tuple[str, str], ...] = (
        *((f"panel-{k}", f"panel {k}, face that shows when it is shut") for k in range(1, MOST + 1)),
        *((f"inside-{k}", f"panel {k}, other face") for k in range(1, MOST + 1)),
    )
    parameters: tuple[Parameter, ...] = (
        Parameter("panels", "Panels", "lengths", "Widths from left to right, joined by +: 3 1/4 + 3 1/2 + 3 1/4 + 2.",
                  "Strip"),
        Parameter("height", "Height", "length", "Along the scores.", "Strip", 10.0),
        Parameter("strip", "Strip, length", "length", "How long the strip at hand is: what the panels must come to.",
                  "Strip", 12.0),
        Parameter("base", "Glued panel", "count", "Which lies on the face, from the left; 0: the widest.", "Folds", 0,
                  MOST, default=0),
        Parameter("together", "Panels glued", "count", "How many lie on the face, from that one to the right.", "Folds",
                  1, MOST, default=1),
        Parameter("folds", "Others fold", "word", "Each side rolled in from its end, or to and fro.", "Folds",
                  words=("rolled in", "to and fro"), default="rolled in"),
        Parameter("first", "First over it", "word", "Which side is folded in first; the other comes on top.", "Folds",
                  words=("left", "right"), default="left"),
        Parameter("scores", "Scores", "word", "Single, or double where a fold goes around more than a sheet.", "Folds",
                  words=("single", "double"), default="single"),
        fact("content-width", "What it covers, width", "On the panel glued down.", "Contents", 10.0),
        fact("content-height", "What it covers, height", "On the panel glued down.", "Contents", 10.0),
        Parameter("total", "In all", "length", "What the panels come to.", "Strip", derived=True),
        Parameter("wide", "Closed, width", "length", "What it covers when shut.", "Folds", derived=True),
        Parameter("thick", "Closed", "length", "Thickness when shut.", "Folds", derived=True),
    )  # fmt: skip

    def size(self, situation: Situation) -> dict[str, Sized]:
        """Panels, and what they come to. Raises ParameterError where they do not make the strip, or cannot be
        folded."""
        s, given = situation, situation.given
        content = [given_length(given, f"content-{n}") for n in ("width", "height")]
        sizes = {
            "panels": self._panels(s, content[0]),
            "height": extent(s, "height", 1, inches(4), None if content[1] is None else content[1] + PLAY),
            "base": count_of(s, "base", 0),
            "together": count_of(s, "together", 1),
            "folds": word_of(given, "folds", "rolled in"),
            "first": word_of(given, "first", "left"),
            "scores": word_of(given, "scores", "single"),
        }
        panels = self.row(sizes)
        if not 1 < len(panels) <= MOST:
            raise ParameterError(
                f"A strip of {len(panels)} panels is none that folds." if len(panels) < 2
                else f"{len(panels)} panels are more than {MOST}.", "Panels", "Tell two to ten, joined by +.",
            )  # fmt: skip
        if min(panels) < LEAST:
            raise ParameterError(f"A panel of {told(min(panels))} cannot be folded.", "Panels", "Make it wider.")
        if int(sizes["base"].length) > len(panels):
            raise ParameterError(
                f"There is no panel {int(sizes['base'].length)}.", "Glued panel", f"There are {len(panels)}."
            )
        first, last = self.lying(sizes)
        if last >= len(panels):
            raise ParameterError(
                f"From panel {first + 1} on there are {len(panels) - first}, not {last - first + 1}.", "Panels glued",
                f"Give at most {len(panels) - first}.",
            )  # fmt: skip
        total = sum(panels)
        sizes["total"] = Sized(total, "auto")
        long = given_length(given, "strip")
        if long is not None:
            sizes["strip"] = Sized(long, "given")
            if abs(total - long) > 0.05:
                best = ", or ".join(f"panel {k} is {told(width)}" for k, width in readings(panels, long)[:3])
                way = "too long" if total > long else "too short"
                raise ParameterError(
                    f"The panels come to {told(total)}, the strip is {told(long)}: {told(abs(total - long))} {way}.",
                    "Panels", f"Perhaps {best}." if best else "Tell other panels.",
                )  # fmt: skip
        sizes |= as_given(given, "content-width", "content-height")
        end_of(self.marked(sizes), self.script(sizes))  # says why it cannot be folded
        made = self.made(s, sizes)
        xs = [p[0] for place in made.state.places for p in place]
        sizes["wide"] = Sized(max(xs) - min(xs), worked_out(sizes["panels"]))
        sizes["thick"] = Sized(self.thickness(s, sizes).value, "auto")
        return sizes

    @staticmethod
    def _panels(s: Situation, content: float | None) -> Sized:
        """The panels: given, else a gate: two halves that meet over the middle of a panel that holds the contents, or
        fills the face."""
        text = s.given.get("panels")
        if isinstance(text, str):
            return Sized(text, "given")
        if content is not None:
            wide = Sized(content + PLAY, "auto")
        elif s.room is not None:
            wide = Sized(s.room.clear(0) - BORDER, "fill")
        else:
            wide = Sized(inches(4), "default")
        half = (wide.length - INSET) / 2
        return Sized(row_of((half, wide.length, half)), wide.origin)

    @staticmethod
    def row(sizes: Sizes) -> tuple[float, ...]:
        """Widths of the panels from the left, mm."""
        return parse_lengths(str(sizes["panels"].value), "mm")

    def called(self, panel: int, sizes: Sizes) -> str:
        """What a maker calls a panel, counted from 0."""
        return f"panel {panel + 1}"

    def glued(self, sizes: Sizes) -> int:
        """Which panel is glued down, from 0."""
        panels, base = self.row(sizes), int(sizes["base"].length)
        return base - 1 if base else panels.index(max(panels))

    def lying(self, sizes: Sizes) -> tuple[int, int]:
        """The first and the last of the panels that are glued down, from 0."""
        first = self.glued(sizes)
        return first, first + int(sizes["together"].length) - 1

    def marked(self, sizes: Sizes) -> Sheet:
        """One row of cells."""
        return grid(list(self.row(sizes)), [sizes["height"].length])

    def script(self, sizes: Sizes) -> Script:
        """One side, then the other."""
        n, (base, last) = len(self.row(sizes)), self.lying(sizes)
        sides = {"left": list(range(base - 1, -1, -1)), "right": list(range(last + 1, n))}
        order = ("left", "right") if sizes["first"].value == "left" else ("right", "left")
        rolled = sizes["folds"].value == "rolled in"
        acts: list[Bring] = []
        for side in order:
            chain = [base if side == "left" else last, *sides[side]]
            folds = list(pairwise(chain))
            for k in reversed(range(len(folds))):  # from the end inward
                way: Way = "over" if rolled or k % 2 == 0 else "under"
                a, b = folds[k]
                acts.append(Bring(((f"c{a + 1}r1", f"c{b + 1}r1"),), way))
        return tuple(acts)

    @folded_once
    def made(self, s: Situation, sizes: Sizes) -> FoldedSheet:
        """The strip folded, what is on its faces between."""
        n = len(self.row(sizes))
        state = end_of(self.marked(sizes), self.script(sizes))
        bulk = {k: self._bulks(s, k) for k in range(n)}
        between = {}
        for i, j in state.above:
            low, high = (i, j) if state.over(i, j) > 0 else (j, i)
            # what is on the upper face of the lower one and on the lower face of the upper one
            between[f"c{i + 1}r1", f"c{j + 1}r1"] = bulk[low][0] + bulk[high][1]
        return fold_sheet(
            f"{s.element}.strip", s.name, s.paper, self.marked(sizes), self.script(sizes), glue=s.glue,
            labels={f"c{k + 1}r1": self.called(k, sizes) for k in range(n)}, between=between,
            note=self._note(sizes),
            double=partial(self._apart, s) if sizes["scores"].value == "double" else None,
        )  # fmt: skip

    def _note(self, sizes: Sizes) -> str:
        first, last = self.lying(sizes)
        if first == last:
            return f"Only panel {first + 1} is glued down."
        return f"Only panels {first + 1} to {last + 1} are glued down; the scores between them stay flat."

    @staticmethod
    def _apart(s: Situation, around: float) -> float:
        """How far apart a fold is scored twice that goes around so much, mm: its own height, on the board's grid."""
        high = around + s.paper.caliper
        return snap(high, s.score.grid, "up").value if around > s.paper.caliper / 2 else 0.0

    @staticmethod
    def _bulks(s: Situation, panel: int) -> tuple[float, float]:
        """What lies on the face of a panel that is up when shut, and on the other, mm."""
        return s.bulk_on(f"panel-{panel + 1}"), s.bulk_on(f"inside-{panel + 1}")

    def thickness(self, s: Situation, sizes: Sizes) -> Span:
        """Its layers with what is on them, and what lies highest."""
        made = self.made(s, sizes)
        top = max(
            (level + made.caliper + self._bulks(s, k)[0] for k, level in enumerate(made.level)), default=made.thick
        )
        return span("layers", made.thick).plus(Term("bulk on top", max(0.0, top - made.thick)))

    def beyond(self, s: Situation, sizes: Sizes) -> tuple[float, float]:
        """The folds stand out by half of what they go around and half a sheet."""
        return self.made(s, sizes).outermost, 0.0

    def reaches(self, s: Situation, sizes: Sizes) -> tuple[Span, Span]:
        """Half of what it covers."""
        high = span("half the height", sizes["height"].length / 2, s.element, "height", 0.5)
        return span("half of what it covers", sizes["wide"].length / 2), high

    def rooms(self, situation: Situation, sizes: Sizes) -> dict[str, Room]:
        """Both faces of every panel, but what lies on the host."""
        t, e = situation.paper.caliper, situation.element
        above, h, rooms = end_of(self.marked(sizes), self.script(sizes)).above, sizes["height"].length, {}
        lifted = {j if sign > 0 else i for (i, j), sign in above.items()}
        for k, width in enumerate(self.row(sizes)):
            across = span(f"panel {k + 1}", width / 2)
            along = span("height", h / 2, e, "height", 0.5)
            plain = Room("onto", uses.MAT, box_sides((across, along, across, along)), (width, h), t)
            rooms[f"panel-{k + 1}"] = plain
            if k in lifted:  # else it is glued down, or lies beside what is
                rooms[f"inside-{k + 1}"] = plain
        return rooms

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        """The strip on its glued panel, every other panel hinged."""
        s, e = situation, situation.element
        made, (first, last) = self.made(s, sizes), self.lying(sizes)
        panels, h, up = self.row(sizes), sizes["height"].length, (0.0, 1.0)
        mounts = []
        for k in range(len(panels)):
            name = f"c{k + 1}r1"
            mounts.append(page_mount(made, f"panel-{k + 1}", self.called(k, sizes), name, made.shows(name), up))
            if f"inside-{k + 1}" in rooms:
                label = f"{self.called(k, sizes)}, other face"
                mounts.append(page_mount(made, f"inside-{k + 1}", label, name, -made.shows(name), up))
        creases = {frozenset((c.a, c.b)): c for c in made.piece.creases}
        swings = []
        for step in reversed(self.script(sizes)):
            assert isinstance(step, Bring)
            (a, b) = step.hinges[0]
            crease = creases[frozenset((a, b))]
            number = int(b[1:].split("r")[0])
            to = math.copysign(math.pi / 6, crease.angle)
            words = f"{self.called(number - 1, sizes)} of {s.name} opens"
            swings.append(Swing(f"panel-{number}", words, ((SHEET, crease.name, to),)))
        across = tuple(span(f"panel {k}", width).terms[0] for k, width in enumerate(panels, 1))
        gaps = [
            sheet_gap(e, made.piece.name, s.paper, made.piece.size, (across, (lever_term("height", h, e, "height"),)))
        ]
        for name, own in (("content-width", sum(panels[first : last + 1])), ("content-height", h)):
            if name in sizes:
                left = span("panel glued down", own) - span("what it covers", sizes[name].length, e, name)
                gaps.append(fit_gap(s, uses.COVER, (s.name, "what it covers"), left, uses.ENOUGH))
        return sheet_part(
            s, made, up, mounts=mounts, swings=swings, gaps=gaps, joints=made.resting(self._parting(made)),
        )  # fmt: skip

    @staticmethod
    def _parting(made: FoldedSheet) -> list[tuple[str, str]]:
        """Every two panels that touch part when something opens."""
        names = [facet.name for facet in made.sheet.facets]
        return [(names[i], names[j]) for i, j in made.state.above]
