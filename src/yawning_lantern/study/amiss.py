"""What went wrong at the bench: a line that lies elsewhere than it should, and what is made already.

A piece's lines are told by names that last from one solution to the next: `w` and `h` are its sides, `x1`, `x2`, … its
upright scores from the left, `y1`, … its level ones from the foot."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Literal

from msgspec import Struct
from msgspec.structs import replace

from yawning_lantern.bench import Placing, Reading, Walk
from yawning_lantern.pattern import Piece, Point
from yawning_lantern.study.study import Study

Kind = Literal["score", "cut", "slit", "extra", "turned"]
KINDS: dict[Kind, str] = {
    "score": "scored in the wrong place",
    "cut": "cut to the wrong size",
    "slit": "slit too far",
    "extra": "a score too many",
    "turned": "glued the wrong way round",
}
_SAME = 1e-3  # mm: lines nearer than this are one


class Amiss(Struct, frozen=True):
    """One thing that went wrong: on which piece (its id) or with which part (`turned`), which line, and where it really
    is, mm; of a slit how far it goes beyond its end; of a part how many quarter turns to the left it was glued."""

    kind: Kind
    piece: str
    line: str
    measured: float


class Made(Struct, frozen=True):
    """What is made already: pieces that are cut, and lines that are scored, by piece."""

    cut: frozenset[str] = frozenset()
    scored: Mapping[str, frozenset[str]] = None  # type: ignore[assignment]  # a mapping that is never changed

    def lines(self, piece: str) -> frozenset[str]:
        """The lines of a piece that are scored."""
        return (self.scored or {}).get(piece, frozenset())


def lines_of(piece: Piece) -> dict[str, float]:
    """Where the lines of a piece lie, mm from its left or foot, by their names."""
    laid = piece.laid
    lengths = dict(zip(("w", "h"), laid.size, strict=True))
    for axis, letter in ((0, "x"), (1, "y")):
        places = sorted(
            {
                round(line.start[axis], 3)
                for line in laid.lines
                if line.kind == "score" and abs(line.start[axis] - line.end[axis]) < _SAME
            }
        )
        lengths |= {f"{letter}{k + 1}": at for k, at in enumerate(places)}
    return lengths


def all_lines(study: Study) -> dict[tuple[str, str], float]:
    """The lines of every piece that is cut."""
    return {(piece.id, name): at for piece in study.pieces if not piece.bought for name, at in lines_of(piece).items()}


def line_read(piece: Piece, placing: Placing, reading: Reading) -> str:
    """The name of the line that a reading makes, or nothing where there is none of that place."""
    axis = 0 if placing.edge in ("left", "right") else 1
    far = placing.edge in ("right", "head")
    at = piece.laid.size[axis] - reading.number if far else reading.number
    lines = lines_of(piece)
    return next((n for n, place in lines.items() if n[0] == "xy"[axis] and abs(place - at) < 0.01), "")


def made_of(study: Study, walk: Walk) -> Made:
    """What is made where a maker is in the plan."""
    cut, scored = set(), dict[str, set[str]]()
    pieces = {piece.id: piece for piece in study.pieces}
    for step in walk.plan.steps:
        current = walk.step is not None and step.id == walk.step.id
        if not (step.id in walk.done or current) or step.piece not in pieces:
            continue
        if step.kind == "cut" and step.id in walk.done:
            cut.add(step.piece)
        if step.placing is not None:
            count = walk.number if current else len(step.placing.readings)
            names = {line_read(pieces[step.piece], step.placing, r) for r in step.placing.readings[:count]}
            scored.setdefault(step.piece, set()).update(names - {""})
    return Made(frozenset(cut), {piece: frozenset(lines) for piece, lines in scored.items()})


def as_built(piece: Piece, line: str, measured: float) -> Piece:
    """The piece with one line where it really is, mm: corners, panels and folds on it lie there too."""
    laid = piece.laid
    planned = lines_of(piece)[line]
    axis = 0 if line[0] in "wx" else 1

    def at(p: Point) -> Point:
        if abs(p[axis] - planned) > 2 * _SAME:
            return p
        return (measured, p[1]) if axis == 0 else (p[0], measured)

    return replace(
        laid,
        outline=tuple(map(at, laid.outline)),
        holes=tuple(tuple(map(at, hole)) for hole in laid.holes),
        panels=tuple(panel.moved(at) for panel in laid.panels),
        creases=tuple(replace(c, start=at(c.start), end=at(c.end)) for c in laid.creases),
        lines=tuple(replace(n, start=at(n.start), end=at(n.end)) for n in laid.lines),
    )
