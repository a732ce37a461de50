"""As few sheets as can be found: greedy passes, then the emptiest sheet is dropped and its pieces find room in the
others, part after part opened and filled anew. Where that goes on no more, the emptiest sheets that hold a handful
together are solved exactly.

The same wants give the same sheets: chance is seeded, and the limit is a number of moves; time only cuts it short."""

from __future__ import annotations

import random
from collections.abc import Callable, Sequence

from msgspec import Struct
from msgspec.structs import replace

from yawning_lantern.sheets.exact import fewest
from yawning_lantern.sheets.fill import Filler
from yawning_lantern.sheets.layout import Node, Want, pieces_of, replaced, way_down
from yawning_lantern.sheets.patience import Patience

LEAST, MOST = 3, 12
"""Pieces in a region that is opened."""
STUCK, WEIGH = 40, 1.2  # rounds without gain, after which a piece that is left over weighs so much more
RESTART = 1000  # moves after which it begins anew from another filling
HANDFUL, UNITS = 9, 1000
"""So many pieces of the emptiest sheets are solved exactly in the end, on sheets of no more units a side."""
POWERS = (1.2, 1.5, 2.0)  # exponents of the length that say which piece goes first


class Found(Struct, frozen=True):
    """Sheets filled with all that was wanted, and how many moves it took."""

    sheets: tuple[Node, ...]
    moves: int


def greedy(filler: Filler, size: tuple[int, int], items: Sequence[int], power: float, rng: random.Random, noise: float
) -> list[Node]:  # fmt: skip
    """Sheet after sheet filled with the largest that still fits. Raises ValueError where a piece fits no sheet."""
    left = filler.order(items, rng, noise)
    sheets = []
    while left:
        (sheet,), over = filler.fill([size], left, power, 4)
        if len(over) == len(left):
            raise ValueError(filler.wants[left[0]].name)
        sheets.append(sheet)
        left = over
    return sheets


def find_sheets(
    wants: Sequence[Want], size: tuple[int, int], *, bound: int = 0, moves: int = 6000, seconds: float = 1.0,
    longest: int = 0, seed: int = 1, better: Callable[[int], None] | None = None,
    enough: Callable[[], bool] | None = None,
) -> Found:  # fmt: skip
    """As few sheets of one size as can be found for some wants.

    `bound` is a proven least: there it stops. `better` is told how many there are whenever
    fewer are found; `enough` is asked now and then whether to stop.
    Raises ValueError with the name of a piece that fits no sheet.
    """
    rng = random.Random(seed)
    patience = Patience(seconds, enough)
    filler = Filler(wants, longest)
    items = [k for k, want in enumerate(wants) for _ in range(want.count)]
    if not items:
        return Found((), 0)
    best: list[Node] = []
    for power in POWERS:
        for noise in (0.0, 0.15, 0.4, 0.8):
            sheets = greedy(filler, size, items, power, rng, noise)
            if not best or len(sheets) < len(best):
                best = sheets
    done = 0
    while len(best) > max(bound, 1) and done < moves and not patience.is_over:
        if better is not None:
            better(len(best))
        searcher = _Searcher(filler, size, best, rng)
        taken, answer = searcher.run(moves - done, patience)
        done += taken
        if answer is None and not longest and not patience.is_over:
            answer = _solved(best, wants, size)
        if answer is None:
            break
        best = answer
    return Found(tuple(best), done)


def _solved(sheets: Sequence[Node], wants: Sequence[Want], size: tuple[int, int]) -> list[Node] | None:
    """The same with fewer sheets for the handful that lies on the emptiest ones, or None."""
    chosen: list[int] = []
    held: list[int] = []
    for k in sorted(range(len(sheets)), key=lambda k: sheets[k].area):
        pieces = list(pieces_of(sheets[k]))
        if len(held) + len(pieces) > HANDFUL:
            break
        chosen.append(k)
        held += pieces
    if len(chosen) < 2 or max(size) > UNITS:
        return None
    exact = fewest([replace(want, count=held.count(k)) for k, want in enumerate(wants)], size)
    if exact is None or len(exact) >= len(chosen):
        return None
    return [s for k, s in enumerate(sheets) if k not in chosen] + list(exact)


class _Searcher:
    """Looks for one sheet less than there are."""

    def __init__(self, filler: Filler, size: tuple[int, int], start: Sequence[Node], rng: random.Random) -> None:
        self.filler, self.size, self.rng = filler, size, rng
        self.start = list(start)

    def _begin(self) -> tuple[list[Node], list[int]]:
        """All but the emptiest sheet (or, later, any of the emptier ones), and what was on it."""
        order = sorted(range(len(self.start)), key=lambda k: self.start[k].area)
        gone = order[min(int(self.rng.random() ** 2 * len(order)), len(order) - 1)]
        return [s for k, s in enumerate(self.start) if k != gone], list(pieces_of(self.start[gone]))

    def run(self, moves: int, patience: Patience) -> tuple[int, list[Node] | None]:
        """Moves made, and sheets that hold all, or None."""
        rng, filler, areas = self.rng, self.filler, self.filler.areas
        order = sorted(range(len(self.start)), key=lambda k: self.start[k].area)
        sheets = [s for k, s in enumerate(self.start) if k != order[0]]
        loose = list(pieces_of(self.start[order[0]]))
        weight = [1.0] * len(filler.wants)
        now = sum(weight[i] * areas[i] for i in loose)
        least, still, made = now, 0, 0
        whole = self.size[0] * self.size[1]
        while made < moves:
            if made % 16 == 0 and patience.is_over:
                break
            if made and made % RESTART == 0:
                sheets, loose = self._begin()
                weight = [1.0] * len(filler.wants)
                now = least = sum(areas[i] for i in loose)
            made += 1
            paths, parts, held = self._opened(sheets)
            tried = filler.order([*held, *loose], rng, rng.choice((0.05, 0.3, 0.8)))
            if rng.random() < 0.5:  # what is loose goes first
                first = set(loose)
                tried.sort(key=lambda i: i not in first)
            filled, over = filler.fill(parts, tried, rng.choice(POWERS), rng.choice((2, 3, 4)))
            then = sum(weight[i] * areas[i] for i in over)
            if then <= now + 0.002 * whole * rng.random():
                for path, part in zip(paths, filled, strict=True):
                    sheets[path[0]] = replaced(sheets[path[0]], path[1], part)
                loose, now = over, then
                if not loose:
                    return made, sheets
            if now < least - 1e-9:
                least, still = now, 0
            else:
                still += 1
            if still >= STUCK:
                still = 0
                for i in set(loose):
                    weight[i] *= WEIGH
                now = least = sum(weight[i] * areas[i] for i in loose)
        return made, None

    def _opened(
        self, sheets: Sequence[Node]
    ) -> tuple[list[tuple[int, tuple[int, ...]]], list[tuple[int, int]], list[int]]:
        """Where the opened parts are (sheet, way down), their sizes, and the pieces that were in them: whole sheets, or
        a region of one or two."""
        rng = self.rng
        count = len(sheets)
        if rng.random() < 0.55:
            chosen = rng.sample(range(count), min(count, rng.choice((1, 1, 2, 2, 3))))
            return (
                [(k, ()) for k in chosen],
                [self.size] * len(chosen),
                [i for k in chosen for i in pieces_of(sheets[k])],
            )
        paths, sizes, held = [], [], []
        for k in rng.sample(range(count), min(count, rng.choice((1, 2, 2)))):
            path, part = way_down(sheets[k], rng, LEAST, lambda node: node.held <= MOST and rng.random() < 0.4)
            paths.append((k, path))
            sizes.append((part.width, part.height))
            held += list(pieces_of(part))
        return paths, sizes, held
