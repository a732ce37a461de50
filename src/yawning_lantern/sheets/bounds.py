"""How many sheets there must be at the least: proven, whatever the cutting.

Two proofs. Dual feasible functions (Fekete and Schepers 2004, from memory): a change of lengths under which what fits
one sheet still has an area of at most one, so that the areas of all add up to a least number; milliseconds. And the
pattern relaxation (Gilmore and Gomory 1965, from memory): the fewest fractions of sheets over every pattern that can be
cut edge to edge, told by linear programming with patterns found as they are wanted; at any moment the worth of all
pieces over the worth of the best pattern is a proof by itself (Farley 1990, from memory)."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable, Sequence

from yawning_lantern.arrays import Floats, np
from yawning_lantern.on_use import load
from yawning_lantern.sheets.layout import Node, Want, pieces_of
from yawning_lantern.sheets.patience import Patience

_SLACK = 1e-9  # of a sheet: what a bound may miss by rounding
FINEST = 400
"""The pattern relaxation is asked of sheets of no more than so many units a side: the work grows with their cube."""


def area_bound(wants: Sequence[Want], size: tuple[int, int]) -> int:
    """Sheets for the bare area."""
    return math.ceil(sum(w.width * w.height * w.count for w in wants) / (size[0] * size[1]) - _SLACK)


def _functions(lengths: Iterable[int], whole: int) -> list[tuple[str, int]]:
    """Dual feasible functions worth trying for some lengths on a side."""
    cuts = sorted({v for length in lengths for v in (length, whole - length) if 0 < v <= whole // 2})
    return [
        ("as-is", 0),
        *(("floor", k) for k in range(1, 12)),
        *(("drop", e) for e in cuts),
        *(("half", e) for e in cuts),
    ]


def _changed(kind: tuple[str, int], lengths: Floats, whole: int) -> Floats:
    """Lengths (n,) as shares of the whole, changed by a dual feasible function."""
    name, value = kind
    share = lengths / whole
    if name == "floor":  # rounded down to k-ths of what k + 1 of them would be
        scaled = (value + 1) * lengths
        exact = scaled % whole == 0
        return np.where(exact, share, np.floor(scaled / whole) / value)
    if name == "drop":  # what is nearly whole is whole, what is small is nothing
        return np.where(lengths > whole - value, 1.0, np.where(lengths < value, 0.0, share))
    if name == "half":  # counted in steps of e beyond the half
        steps = whole // value
        over = 1.0 - np.floor((whole - lengths) / value) / steps
        under = np.floor(lengths / value) / steps
        return np.where(2 * lengths > whole, over, np.where(2 * lengths == whole, 0.5, under))
    return share


def function_bound(wants: Sequence[Want], size: tuple[int, int]) -> int:
    """The best proof by dual feasible functions; of a piece that may turn the smaller of its two areas counts."""
    if not wants:
        return 0
    width = np.array([w.width for w in wants], dtype=float)
    height = np.array([w.height for w in wants], dtype=float)
    count = np.array([w.count for w in wants], dtype=float)
    turns = np.array([w.may_turn for w in wants])
    lengths = {v for w in wants for v in ((w.width, w.height) if w.may_turn else (w.width,))}
    heights = {v for w in wants for v in ((w.width, w.height) if w.may_turn else (w.height,))}
    across, up = _functions(lengths, size[0]), _functions(heights, size[1])
    a, b = (np.array([_changed(kind, side, size[0]) for kind in across]) for side in (width, height))
    c, d = (np.array([_changed(kind, side, size[1]) for kind in up]) for side in (height, width))
    best = 0.0
    for k in range(len(across)):
        upright, turned = a[k] * c, b[k] * d
        areas = np.where(turns, np.minimum(upright, turned), upright)
        best = max(best, float((areas * count).sum(axis=1).max()))
    return math.ceil(best - 1e-6)


def _worth(values: Floats, wants: Sequence[Want], size: tuple[int, int]) -> Floats:
    """The most that a part (x, y) can be worth, (width + 1, height + 1): pieces may come again and again."""
    w, h = size
    worth = np.zeros((w + 1, h + 1))
    for value, want in zip(values, wants, strict=True):
        for x, y in want.ways:
            if x <= w and y <= h:
                worth[x, y] = max(worth[x, y], value)
    worth = np.maximum.accumulate(np.maximum.accumulate(worth, axis=0), axis=1)
    while True:
        before = worth.sum()
        for x in range(2, w + 1):
            half = x // 2
            np.maximum(worth[x], (worth[1 : half + 1] + worth[x - 1 : x - half - 1 : -1]).max(axis=0), out=worth[x])
            np.maximum(worth[x], worth[x - 1], out=worth[x])
        turned = worth.T
        for y in range(2, h + 1):
            half = y // 2
            np.maximum(turned[y], (turned[1 : half + 1] + turned[y - 1 : y - half - 1 : -1]).max(axis=0), out=turned[y])
            np.maximum(turned[y], turned[y - 1], out=turned[y])
        if worth.sum() <= before + 1e-12:
            return worth


def _pattern(worth: Floats, values: Floats, wants: Sequence[Want], size: tuple[int, int]) -> list[int]:
    """How often each piece is in a pattern that is worth the most."""
    counts = [0] * len(wants)
    sizes = [want.ways for want in wants]
    todo = [size]
    while todo:
        x, y = todo.pop()
        value = float(worth[x, y])
        if value <= 1e-9:
            continue
        while x > 1 and worth[x - 1, y] >= value - 1e-9:
            x -= 1
        while y > 1 and worth[x, y - 1] >= value - 1e-9:
            y -= 1
        one = next((k for k, ways in enumerate(sizes) if (x, y) in ways and values[k] >= value - 1e-9), None)
        if one is not None:
            counts[one] += 1
            continue
        a = next((a for a in range(1, x // 2 + 1) if worth[a, y] + worth[x - a, y] >= value - 1e-9), 0)
        if a:
            todo += [(a, y), (x - a, y)]
            continue
        b = next((b for b in range(1, y // 2 + 1) if worth[x, b] + worth[x, y - b] >= value - 1e-9), 0)
        if not b:
            break
        todo += [(x, b), (x, y - b)]
    return counts


def pattern_bound(
    wants: Sequence[Want],
    size: tuple[int, int],
    sheets: Sequence[Node],
    goal: int,
    seconds: float,
    enough: Callable[[], bool] | None = None,
) -> int:
    """The best proof by patterns within some time: it stops where it reaches the `goal`, sheets that were found.

    `sheets` are found ones: patterns to begin with. 0 where the sheet has too many units.
    """
    step = math.gcd(*size, *(v for w in wants for v in (w.width, w.height))) if wants else 1
    size = size[0] // step, size[1] // step
    wants = [Want(w.name, w.width // step, w.height // step, w.count, w.may_turn) for w in wants]
    if not wants or max(size) > FINEST:
        return 0
    patience = Patience(seconds, enough)
    solve = load("scipy.optimize").linprog
    demand = np.array([w.count for w in wants], dtype=float)
    columns = []
    for sheet in sheets:
        counts = [0] * len(wants)
        for piece in pieces_of(sheet):
            counts[piece] += 1
        columns.append(counts)
    columns += [[int(k == j) for k in range(len(wants))] for j in range(len(wants))]
    best = 0.0
    while not patience.is_over:
        matrix = np.array(columns, dtype=float).T
        answer = solve(np.ones(len(columns)), A_ub=-matrix, b_ub=-demand, method="highs")
        if answer.status != 0:
            break
        values = np.maximum(-np.array(answer.ineqlin.marginals), 0.0)
        worth = _worth(values, wants, size)
        most = float(worth[size])
        if most <= 0:
            break
        best = max(best, float(values @ demand) / max(most, 1.0))
        if math.ceil(best - 1e-6) >= goal or most <= 1 + 1e-7:
            break
        pattern = _pattern(worth, values, wants, size)
        if pattern in columns:
            break
        columns.append(pattern)
    return math.ceil(best - 1e-6)
