"""Sheets that hold all, made better to cut: fewer settings of the fence, and what is left over in large parts.

The number of sheets stays. Parts are opened and filled anew as in the search; what comes of it is kept where it needs
no more settings and leaves no smaller a part, and something is gained."""

from __future__ import annotations

import random
from collections.abc import Callable, Sequence

from yawning_lantern.sheets.cuts import in_order
from yawning_lantern.sheets.fill import Filler
from yawning_lantern.sheets.layout import Node, pieces_of, replaced, split, way_down
from yawning_lantern.sheets.patience import Patience

POWERS = (1.2, 1.5, 2.0, 3.0)  # exponents of the length that say which piece goes first


def largest_left(node: Node) -> int:
    """The area of the largest part of a sheet with nothing on it, square units."""
    if not node.held:
        return node.width * node.height
    if node.low is None or node.high is None:
        return 0
    return max(largest_left(node.low), largest_left(node.high))


def _with_strip(filler: Filler, sheet: Node, rng: random.Random) -> Node:
    """A sheet's pieces crowded together, so that the widest strip right across it is free: bisected."""
    items = list(pieces_of(sheet))
    best, width, height = sheet, sheet.width, sheet.height
    for upright in (True, False):
        if filler.longest and (height if upright else width) > filler.longest:
            continue
        low, high = 0, width if upright else height
        while high - low > max(1, (width if upright else height) // 96):
            strip = (low + high) // 2
            size = (width - strip, height) if upright else (width, height - strip)
            done = None
            for power in POWERS:
                (node,), over = filler.fill([size], filler.order(items, rng, 0.3), power, 4)
                if not over:
                    done = node
                    break
            if done is None:
                high = strip
                continue
            low = strip
            rest = Node(strip, height) if upright else Node(width, strip)
            whole = split(width, height, 0 if upright else 1, done, rest)
            if largest_left(whole) > largest_left(best):
                best = whole
    return best


def tidied(
    filler: Filler, sheets: Sequence[Node], *, together: bool = False, moves: int = 60, seconds: float = 0.5,
    seed: int = 1,
    enough: Callable[[], bool] | None = None,
) -> tuple[Node, ...]:  # fmt: skip
    """The same pieces on the same sheets with larger parts left and fewer settings; of all sheets `together`, or of
    each by itself. `moves` are for each sheet."""
    rng = random.Random(seed)
    patience = Patience(seconds, enough)
    best = [_with_strip(filler, sheet, rng) for sheet in sheets]
    left = [largest_left(sheet) for sheet in best]
    settings = [in_order(best if together else [sheet], 1).settings for sheet in best]
    for turn in range(moves * len(best)):
        if patience.is_over:
            break
        k = turn % len(best)
        path, part = way_down(best[k], rng, 2, lambda node: node.held <= 2 or rng.random() >= 0.7)
        held = list(pieces_of(part))
        order = filler.order(held, rng, rng.choice((0.0, 0.3, 0.8)))
        if rng.random() < 0.5:  # equal lengths one after another
            order.sort(key=lambda i: (-max(filler.wants[i].width, filler.wants[i].height), i))
        (filled,), over = filler.fill([(part.width, part.height)], order, rng.choice(POWERS), rng.choice((1, 2, 4)))
        if over:
            continue
        tried = replaced(best[k], path, filled)
        then = largest_left(tried)
        if then < left[k] * 0.98:
            continue
        others = [sheet for j, sheet in enumerate(best) if j != k] if together else []
        now = in_order([*others, tried], 1).settings
        if now > settings[k]:
            continue
        settings = [now] * len(best) if together else [*settings[:k], now, *settings[k + 1 :]]
        best[k], left[k] = tried, max(left[k], then)
    return tuple(best)
