"""What helps when something went wrong at a structure: a side cut short, a score beside its place, a slit too far. Made
from the families, like the structure reference."""

from __future__ import annotations

from collections.abc import Iterator

from yawning_lantern.measure import format_length, inches, speak
from yawning_lantern.pattern import Piece
from yawning_lantern.structures import Family, families, start_design
from yawning_lantern.study import Study
from yawning_lantern.study.amiss import Amiss, Made, lines_of
from yawning_lantern.study.mend import mend, slits_of
from yawning_lantern.study.refit import Moves

_OFF = inches(1 / 8)  # mm: so much a line is cut wrong
_PIECES, _SCORES = 3, 4
"""So many pieces of a structure, and scores of a piece, are asked."""


def _slips(piece: Piece) -> Iterator[tuple[str, Amiss, Made]]:
    """What may go wrong with a piece: in words, as it is, and what is made by then."""
    lines = lines_of(piece)
    cut = Made(frozenset({piece.id}))
    for side, name in (("w", "width"), ("h", "height")):
        for by, words in ((-_OFF, "too short"), (_OFF, "too long")):
            yield f"{name} cut {words}", Amiss("cut", piece.id, side, lines[side] + by), Made()
    scores = [name for name in lines if name not in ("w", "h")][:_SCORES]
    for name in scores:
        where = f"score {name} ({format_length(lines[name])})"
        yield f"{where} too far, before it is cut", Amiss("score", piece.id, name, lines[name] + _OFF), Made()
        yield f"{where} too near, after it is cut", Amiss("score", piece.id, name, lines[name] - _OFF), cut
    if slits_of(piece):
        yield "slit too far", Amiss("slit", piece.id, "s1", 2 * _OFF), cut
    for name in scores[:1]:
        yield "a score too many", Amiss("extra", piece.id, name[0], lines[name] + 4 * _OFF), cut


def answered(kind: Family) -> Iterator[str]:
    """What helps against every slip at a new structure, answers that are alike together, line by line."""
    study = Study(start_design(kind.id, {}))
    moves = Moves(study)
    yield from (f"## {kind.name} (`{kind.id}`)", "")
    for piece in [one for one in study.pieces if not one.bought][:_PIECES]:
        alike: dict[str, list[str]] = {}
        for words, wrong, made in _slips(piece):
            alike.setdefault(speak(mend(study, wrong, made, moves=moves).words, "in"), []).append(words)
        yield from (f"### {piece.name}", "")
        yield from (f"- {'; '.join(slips)}: {answer}" for answer, slips in alike.items())
        yield ""


def page() -> str:
    """The whole page as Markdown."""
    head = [
        "# When something went wrong",
        "",
        "Made from the code. `./lantern families --slips` prints this page. What helps at a [new one](structures.md)",
        "where a side, a score or a slit came out 1/8″ beside its place (a slit 1/4″).",
        "",
    ]
    return "\n".join(head + [line for kind in families().values() for line in answered(kind)])
