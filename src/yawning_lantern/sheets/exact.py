"""The fewest sheets for a few pieces, proven: of every handful of pieces the least height at every width is known, and
the handfuls that fit a sheet are put together.

A handful cut edge to edge is two handfuls beside or above one another; so the least heights follow from those of its
parts (dynamic programming over sub-handfuls, from the definition of edge-to-edge cutting; no source needed)."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import product

from yawning_lantern.arrays import Floats, np
from yawning_lantern.sheets.layout import Node, Want, empty, split

FEW = 12
"""So many pieces are solved exactly."""
_Bag = tuple[int, ...]


class _Handfuls:
    """Least heights by width (units 0 … W; inf where it is too narrow) of every handful that fits a sheet."""

    def __init__(self, wants: Sequence[Want], size: tuple[int, int]) -> None:
        self.wants, (self.width, self.height) = wants, size
        self.heights: dict[_Bag, Floats] = {}
        self.widths: dict[_Bag, Floats] = {}
        none = tuple(0 for _ in wants)
        self.areas = [w.width * w.height for w in wants]
        bags = sorted(product(*(range(w.count + 1) for w in wants)), key=sum)
        for bag in bags:
            if bag != none and sum(n * a for n, a in zip(bag, self.areas, strict=True)) <= self.width * self.height:
                self._add(bag)

    def _add(self, bag: _Bag) -> None:
        tall = np.full(self.width + 1, np.inf)
        if sum(bag) == 1:
            want = self.wants[bag.index(1)]
            for w, h in want.ways:
                if w <= self.width and h <= self.height:
                    tall[w:] = np.minimum(tall[w:], h)
        else:
            beside = np.full(self.height + 1, np.inf)
            for part, rest in _halves(bag):
                if part not in self.heights or rest not in self.heights:
                    continue
                np.minimum(tall, self.heights[part] + self.heights[rest], out=tall)
                np.minimum(beside, self.widths[part] + self.widths[rest], out=beside)
            # what is so wide at a height is so high at that width
            for h in np.flatnonzero(beside <= self.width)[::-1]:
                tall[int(beside[h]) :] = np.minimum(tall[int(beside[h]) :], h)
        tall[tall > self.height] = np.inf
        if np.isfinite(tall[self.width]):
            self.heights[bag] = tall
            wide = np.full(self.height + 1, np.inf)
            for w in np.flatnonzero(np.isfinite(tall))[::-1]:
                wide[int(tall[w]) :] = w
            self.widths[bag] = wide

    def fits(self, bag: _Bag) -> bool:
        """Whether a handful fits one sheet."""
        return bag in self.heights

    def laid(self, bag: _Bag, width: int, height: int) -> Node:
        """A handful laid in a part that takes it."""
        if sum(bag) == 0:
            return empty(width, height)
        if sum(bag) == 1:
            k = bag.index(1)
            want = self.wants[k]
            w, h, turned = next(
                (w, h, t)
                for w, h, t in ((want.width, want.height, False), (want.height, want.width, True))
                if w <= width and h <= height and (want.may_turn or not t)
            )
            leaf = Node(w, h, k, turned, held=1, area=w * h)
            inner = leaf if h == height else split(w, height, 1, leaf, empty(w, height - h))
            return inner if w == width else split(width, height, 0, inner, empty(width - w, height))
        for part, rest in _halves(bag):
            if part not in self.heights or rest not in self.heights:
                continue
            low, high = self.heights[part][width], self.heights[rest][width]
            if low + high <= height:
                cut = int(low)
                return split(width, height, 1, self.laid(part, width, cut), self.laid(rest, width, height - cut))
            left, right = self.widths[part][height], self.widths[rest][height]
            if left + right <= width:
                cut = int(left)
                return split(width, height, 0, self.laid(part, cut, height), self.laid(rest, width - cut, height))
        raise AssertionError("a handful that fits can be laid")


def _halves(bag: _Bag) -> list[tuple[_Bag, _Bag]]:
    """Every way to part a handful in two that are not empty, each once."""
    halves = []
    for part in product(*(range(n + 1) for n in bag)):
        rest = tuple(n - m for n, m in zip(bag, part, strict=True))
        if any(part) and any(rest) and part <= rest:
            halves.append((part, rest))
    return halves


def fewest(wants: Sequence[Want], size: tuple[int, int]) -> tuple[Node, ...] | None:
    """The fewest sheets for at most `FEW` pieces, or None where there are more of them.

    Raises ValueError with the name of a piece that fits no sheet.
    """
    if sum(w.count for w in wants) > FEW:
        return None
    known = _Handfuls(wants, size)
    for k, want in enumerate(wants):
        if want.count and not known.fits(tuple(int(j == k) for j in range(len(wants)))):
            raise ValueError(want.name)
    whole = tuple(w.count for w in wants)
    none = tuple(0 for _ in wants)
    best: dict[_Bag, tuple[int, _Bag]] = {none: (0, none)}
    for bag in sorted(product(*(range(n + 1) for n in whole)), key=sum):
        if bag == none:
            continue
        first = next(k for k, n in enumerate(bag) if n)
        for part in product(*(range(n + 1) for n in bag)):
            if not part[first] or not known.fits(part):  # the first piece lies on some sheet: on this one
                continue
            rest = tuple(n - m for n, m in zip(bag, part, strict=True))
            if rest in best and (bag not in best or best[rest][0] + 1 < best[bag][0]):
                best[bag] = best[rest][0] + 1, part
    sheets = []
    bag = whole
    while bag != none:
        part = best[bag][1]
        sheets.append(known.laid(part, *size))
        bag = tuple(n - m for n, m in zip(bag, part, strict=True))
    return tuple(sheets)
