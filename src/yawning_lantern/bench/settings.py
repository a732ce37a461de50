"""So few numbers that every score of a batch has one of its two readings among them: exactly, by integer programming.

Numbers are the corners of a graph and scores its edges, from the one reading to the other; wanted is a least vertex
cover. Through all copies of all pieces a stop is then set once for each number.
"""

from __future__ import annotations

from collections.abc import Iterable

from yawning_lantern.arrays import np
from yawning_lantern.bench.score_plan import numbers_of
from yawning_lantern.bench.scores import straight_scores
from yawning_lantern.on_use import load
from yawning_lantern.pattern import Piece


def fewest_numbers(pieces: Iterable[Piece]) -> tuple[float, ...]:
    """The fewest numbers for all straight scores of some pieces, mm, rising."""
    pairs = set()
    for piece in pieces:
        size = piece.laid.size
        for score in straight_scores(piece):
            one, other = (round(number, 2) for number in numbers_of(score, size))
            pairs.add((min(one, other), max(one, other)))
    numbers = sorted({number for pair in pairs for number in pair})
    if not numbers:
        return ()
    rank = {number: k for k, number in enumerate(numbers)}
    rows = np.zeros((len(pairs), len(numbers)))
    for k, pair in enumerate(sorted(pairs)):
        for number in pair:
            rows[k, rank[number]] = 1.0
    # of several covers the one of smaller numbers: they are read off more surely
    cost = np.ones(len(numbers)) + np.arange(len(numbers)) * 1e-6
    scipy = load("scipy.optimize")
    needed, share = scipy.LinearConstraint(rows, lb=1.0), scipy.Bounds(0.0, 1.0)
    solution = scipy.milp(cost, constraints=needed, integrality=np.ones(len(numbers)), bounds=share)
    return tuple(number for number, used in zip(numbers, solution.x, strict=True) if used > 0.5)
