"""How the scores of a piece are made with few placings and on the board's own grooves.

Every score has two readings, one from each parallel edge of the blank. Of all ways to choose edges the one is taken
that leaves fewest scores off the grooves, then takes fewest placings, then fewest different numbers; on a tool whose
stop is set for each number these come first. Placings are then put in the order with fewest turns over and quarter
turns.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from itertools import pairwise, permutations, product
from typing import Literal

from msgspec import Struct

from yawning_lantern.bench.scores import Face, Score, slanted_scores, straight_scores
from yawning_lantern.pattern import Piece, Point
from yawning_lantern.stock import Tool

Edge = Literal["left", "right", "foot", "head"]
EDGES: tuple[tuple[Edge, Edge], ...] = (("left", "right"), ("foot", "head"))
"""The two edges that a score is read from, by its axis."""
ON = 0.2
"""A groove no further off than this, mm, is the score's own: half of what a fold is true to. From memory."""
_RING: tuple[Edge, ...] = ("left", "head", "right", "foot")
_MANY = 6  # placings of which every order is tried


class Reading(Struct, frozen=True):
    """One score as it is read off: its number (mm from the edge at the fence), the groove that is nearest (mm), whether
    that is its own, and the stretches to press, mm from the foot or the left; none: from edge to edge. Marks of the
    tool lie `offset` mm further on the paper than they say."""

    number: float
    groove: float
    is_on: bool
    runs: tuple[tuple[float, float], ...]
    offset: float = 0.0

    @property
    def mark(self) -> float:
        """What the tool says where the score is, mm."""
        return self.number - self.offset

    @property
    def residual(self) -> float:
        """How far the nearest groove is beyond the number, mm."""
        return self.groove - self.number


class Placing(Struct, frozen=True):
    """The piece once at the fence: which edge (as it is drawn, front up), which face is up, what is read off."""

    edge: Edge
    face: Face
    readings: tuple[Reading, ...]


class ScorePlan(Struct, frozen=True):
    """All placings of a piece in order; slanted scores by face and both ends, mm from the left and the foot."""

    piece: Piece
    placings: tuple[Placing, ...]
    slanted: tuple[tuple[Face, Point, Point], ...]

    @property
    def off(self) -> int:
        """How many scores are on no groove."""
        return sum(not reading.is_on for placing in self.placings for reading in placing.readings)

    @property
    def numbers(self) -> frozenset[float]:
        """The different numbers."""
        return frozenset(round(r.number, 3) for placing in self.placings for r in placing.readings)


def score_plan(piece: Piece, tool: Tool) -> ScorePlan:
    """How a piece is scored on a tool."""
    size = piece.laid.size
    groups: dict[tuple[int, Face], list[Score]] = {}
    for score in straight_scores(piece):
        groups.setdefault((score.axis, score.face), []).append(score)
    best: tuple[tuple[int, ...], list[Placing]] | None = None
    for ways in product(*(list(_ways(group, size[axis], tool)) for (axis, _), group in groups.items())):
        placings = [p for way in ways for p in way]
        plan = ScorePlan(piece, tuple(placings), ())
        effort = len(placings), len(plan.numbers)
        key = (plan.off, *(reversed(effort) if tool.has_stop else effort))
        if best is None or key < best[0]:
            best = key, placings
    placings = _in_order(best[1]) if best is not None else []
    return ScorePlan(piece, tuple(placings), slanted_scores(piece))


def numbers_of(score: Score, size: tuple[float, float]) -> tuple[float, float]:
    """The two readings of a score on a blank of a size, mm: from the left or foot, and from the right or head."""
    return score.at, round(size[score.axis] - score.at, 4)


def _ways(group: Sequence[Score], long: float, tool: Tool) -> Iterator[list[Placing]]:
    """Ways to read scores of one direction and one face: all from the one edge, all from the other, or each from that
    on whose groove it is (of two the number that is there already, else the lower edge's)."""
    edges = EDGES[group[0].axis]
    both = [(_reading(s.at, s, tool), _reading(round(long - s.at, 4), s, tool)) for s in group]
    for k in (0, 1):
        yield [_placing(edges[k], group[0].face, [pair[k] for pair in both])]
    if len(group) < 2:
        return
    chosen: tuple[list[Reading], list[Reading]] = ([], [])
    seen: set[float] = set()
    for pair in sorted(both, key=lambda pair: pair[0].is_on and pair[1].is_on):
        ranks = sorted((0, 1), key=lambda k: (not pair[k].is_on, round(pair[k].number, 3) not in seen, pair[k].number))
        k = ranks[0]
        chosen[k].append(pair[k])
        seen.add(round(pair[k].number, 3))
    if chosen[0] and chosen[1]:
        yield [_placing(edges[k], group[0].face, chosen[k]) for k in (0, 1)]


def _reading(number: float, score: Score, tool: Tool) -> Reading:
    groove = tool.groove(number)
    return Reading(number, groove, abs(groove - number) <= ON, () if score.is_full else score.runs, tool.offset)


def _placing(edge: Edge, face: Face, readings: Sequence[Reading]) -> Placing:
    return Placing(edge, face, tuple(sorted(readings, key=lambda reading: reading.number)))


def _in_order(placings: Sequence[Placing]) -> list[Placing]:
    """The placings in the order with fewest turns over, then fewest quarter turns."""
    if len(placings) > _MANY:
        return sorted(placings, key=lambda p: (p.face, _RING.index(p.edge)))
    return list(min(permutations(placings), key=_effort))


def _effort(order: Iterable[Placing]) -> tuple[int, int, str]:
    flips = turns = 0
    order = list(order)
    for before, after in pairwise(order):
        flips += before.face != after.face
        apart = abs(_RING.index(before.edge) - _RING.index(after.edge)) % 4
        turns += min(apart, 4 - apart)
    return flips, turns, " ".join(f"{p.face} {p.edge}" for p in order)
