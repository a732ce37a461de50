"""What to do when something went wrong: keep it, fit the rest again round it, score again, or make one piece anew."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from typing import Literal

from msgspec import Struct, structs

from yawning_lantern.design import Design, Place, replace_element
from yawning_lantern.errors import LanternError
from yawning_lantern.measure import told
from yawning_lantern.on_use import load
from yawning_lantern.opening import Opening
from yawning_lantern.pattern import Line, Piece
from yawning_lantern.study.amiss import Amiss, Made, lines_of
from yawning_lantern.study.harmless import look_at, opens
from yawning_lantern.study.refit import Change, Moves, Refit, refit
from yawning_lantern.study.study import Study
from yawning_lantern.workshop import OffCut

Way = Literal["harmless", "refit", "again", "keep", "trim", "mend", "redo"]
TAPED = 2.0
"""Where paper no wider than twice this is left beside a slit, no tape holds it, mm. From memory."""
SPARE = 1.5
"""A score made again must lie so far beside the wrong one, mm: else the paper folds in the wrong one. From memory."""


class Mended(Struct, frozen=True):
    """What helps. `design` is the changed design where it changes, `piece` the one to make anew where nothing helps;
    `words` tell it, lengths told."""

    way: Way
    words: str
    design: Design | None = None
    changes: tuple[Change, ...] = ()
    piece: str = ""


def mend(
    study: Study,
    wrong: Amiss,
    made: Made,
    opening: Opening | None = None,
    moves: Moves | None = None,
    asked: Callable[[int, int], object] = lambda done, of: None,
    kept: Sequence[OffCut] = (),
) -> Mended:
    """What helps against one thing that went wrong. With a known `opening` what is kept as built is swept in it; a
    piece to make anew comes from one of the `kept` off-cuts where one is large enough.

    Raises:
        KeyError: there is no such piece, line or part.
    """
    moves = moves or Moves(study)
    if wrong.kind == "turned":
        return _turned(study, wrong)
    piece = next(one for one in study.pieces if one.id == wrong.piece)
    if wrong.kind in ("slit", "extra"):
        return _stray(study, piece, wrong, kept)
    planned = lines_of(piece)[wrong.line]
    if wrong.kind == "cut" and wrong.measured > planned:
        return Mended(
            "trim", f"Trim {piece.name} to {told(planned)}: it is {told(wrong.measured - planned)} too large."
        )
    answer = refit(study, wrong, made, asked, moves)
    if answer is not None:
        return Mended("refit", _refit_words(study, piece, answer), answer.design, answer.changes)
    built = look_at(study, wrong, moves)
    if built.is_harmless and (opening is None or opens(study, built, opening)):
        words = f"Go on: {piece.name} folds as it is, nothing meets, every joint holds and every fit stays good."
        return Mended("harmless", words)
    if wrong.kind == "score" and abs(wrong.measured - planned) >= SPARE and _is_hidden(study, piece, wrong):
        words = f"Score {piece.name} again at {told(planned)}: the spare score lies where nobody sees it."
        return Mended("again", words)
    why = built.why or "the thing does not open"
    words = f"Make {piece.name} anew: {why}. {_serves(study, piece, kept)}"
    return Mended("redo", words, piece=piece.id)


def _refit_words(study: Study, piece: Piece, found: Refit) -> str:
    changes = ", ".join(f"{study.resolved[c.element].part.name}: {c.label} {told(c.after)} instead of {told(c.before)}"
                        for c in found.changes)  # fmt: skip
    words = [f"The rest fits again with {changes}." if changes else "Nothing else changes."]
    if found.cut:
        words.append(f"Trim {piece.name} by {told(found.cut)} at the fence.")
    elif found.trimmed:
        words.append(f"Trim {', '.join(found.trimmed)}.")
    if found.other:
        words.append(f"Cut otherwise: {', '.join(found.other)}.")
    return " ".join(words)


def _turned(study: Study, wrong: Amiss) -> Mended:
    """A part that was glued turned: it stays so where nothing clashes, else it is made anew."""
    name = study.resolved[wrong.piece].part.name
    place = study.resolved[wrong.piece].place
    turn = round(wrong.measured) % 4

    def change_place(element: object) -> object:
        return structs.replace(element, place=Place(place.face, place.x, place.y, turn))  # type: ignore[type-var]  # an Element

    try:
        design = replace_element(study.design, wrong.piece, change_place)  # type: ignore[arg-type]  # gives an Element
        now = Study(design, study.catalogue)
        worse = sum(c.is_clash for c in now.checks) > sum(c.is_clash for c in study.checks)
    except LanternError:
        worse = True
    if not worse:
        words = f"Leave {name} as it is glued: turned so it fits as well. Patterns and pockets now look the other way."
        return Mended("keep", words, design)
    piece = study.resolved[wrong.piece].part.pieces[0]
    return Mended("redo", f"{name} cannot stay turned so: cut it loose, or make it anew.", piece=piece.id)


def _stray(study: Study, piece: Piece, wrong: Amiss, kept: Sequence[OffCut]) -> Mended:
    """A slit that goes too far, or a score too many: no panel moves, so every fit stays; what shows or is weak is
    told."""
    if wrong.kind == "extra":
        if _is_hidden(study, piece, wrong):
            return Mended("harmless", "Leave it: the score too many lies where nobody sees it.")
        return Mended("mend", f"Leave it flat and glue a mat over it: no panel of {piece.name} moves.")
    if _hangs_together(piece, wrong):
        words = f"Close the slit's end with a strip of tape on the back of {piece.name}: it still hangs together."
        return Mended("mend", words)
    words = f"The slit cuts a panel off: make {piece.name} anew. {_serves(study, piece, kept)}"
    return Mended("redo", words, piece=piece.id)


def slits_of(piece: Piece) -> list[Line]:
    """The slits of a piece: `s1`, `s2`, … in the order they are drawn."""
    return [line for line in piece.laid.lines if line.kind == "cut"]


def _hangs_together(piece: Piece, wrong: Amiss) -> bool:
    """Whether a piece is one still, with room for tape, when a slit goes on at both ends."""
    shapely = load("shapely")
    line = slits_of(piece)[int(wrong.line[1:]) - 1]
    (x0, y0), (x1, y1) = line.start, line.end
    long = math.dist(line.start, line.end)
    ux, uy = (x1 - x0) / long * wrong.measured, (y1 - y0) / long * wrong.measured
    cuts = [shapely.LineString([n.start, n.end]) for n in slits_of(piece) if n is not line]
    cuts.append(shapely.LineString([(x0 - ux, y0 - uy), (x1 + ux, y1 + uy)]))
    whole = shapely.Polygon(piece.laid.outline, piece.laid.holes)
    left = whole.difference(shapely.unary_union(cuts).buffer(TAPED))
    return bool(left.geom_type == "Polygon")


def _is_hidden(study: Study, piece: Piece, wrong: Amiss) -> bool:
    """Whether a line across a piece at a place lies in waste or on panels of which neither side shows."""
    laid, axis = piece.laid, 0 if wrong.line[0] in "wx" else 1
    crossed = []
    for panel in laid.panels:
        along = [p[axis] for p in panel.outline]
        if min(along) + 0.3 < wrong.measured < max(along) - 0.3:
            crossed.append(panel.name)
    element = piece.id.split(".")[0]
    seen = {one.node: one for one in study.seen(element)}
    for k, node in enumerate(study.assembly.nodes):
        if node.piece.id == piece.id and node.panel.name in crossed:
            one = seen.get(k)
            if one is None or one.front != "never" or one.back != "never":
                return False
    return True


def _serves(study: Study, piece: Piece, kept: Sequence[OffCut]) -> str:
    """What a spoiled piece still serves as, and what a new one comes from: the smallest off-cut that takes it, or a
    sheet."""
    small, large = sorted(piece.size)
    smaller = [
        one.name for one in study.pieces
        if not one.bought and one.id != piece.id and one.stock.id == piece.stock.id
        and sorted(one.size)[0] < small - 1 and sorted(one.size)[1] < large - 1
    ]  # fmt: skip
    serves = f"The spoiled one still serves for {smaller[0]}. " if smaller else ""
    fits = [
        one for one in kept
        if one.stock == piece.stock.id and min(one.width, one.height) >= small and max(one.width, one.height) >= large
    ]  # fmt: skip
    size = f"{told(piece.size[0])} by {told(piece.size[1])}"
    if not fits:
        return f"{serves}A new one takes {size} of a sheet of {piece.stock.name}."
    least = min(fits, key=lambda one: one.width * one.height)
    name = f"“{least.name}”" if least.name else f"number {least.id}"
    return f"{serves}A new one, {size}, comes from the off-cut {name} of {piece.stock.name}."
