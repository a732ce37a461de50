"""The cuts of sheets in the order in which they are made, the fence set as seldom as can be.

A part that is cut along one direction gives several strips; in which order they come off is free, so the strips of a
width that the fence stands at come off together, wherever they are. What is taken off lies at the fence; what is left
of a part lies beyond. So the order decides where pieces lie, and what is told here is what happens."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, field

from msgspec import Struct

from yawning_lantern.sheets.layout import Node, Spot


class Step(Struct, frozen=True):
    """One cut: of which sheet and part, across its width or its height, where the fence stands and how long it is
    (units, kerf included in the fence); the part at the fence and the part beyond (0: nothing but the blade's)."""

    sheet: int
    part: int
    across_width: bool
    fence: int
    length: int
    at_fence: int
    beyond: int


@dataclass(slots=True)
class _Part:
    """Something on the table: where it lies on its sheet, its size, and the strips that are still to come off it."""

    sheet: int
    number: int
    x: int
    y: int
    width: int
    height: int
    axis: int = 0
    strips: list[Node] = field(default_factory=list)
    waste: int = 0


class Worked(Struct, frozen=True):
    """All cuts in order, where every piece and every left part then lies (by sheet), and how often the fence is set."""

    steps: tuple[Step, ...]
    spots: tuple[tuple[Spot, ...], ...]
    settings: int


def _strips(node: Node, axis: int) -> list[Node]:
    """What a part gives when it is cut along one direction only."""
    if node.low is None or node.high is None or node.axis != axis or not node.held:
        return [node]
    return [*_strips(node.low, axis), *_strips(node.high, axis)]


class _Table:
    """What lies before the maker."""

    def __init__(self, sheets: Sequence[Node]) -> None:
        self.open: list[_Part] = []
        self.needed: Counter[int] = Counter()
        self.numbers = [0] * len(sheets)
        self.spots: list[list[Spot]] = [[] for _ in sheets]
        self.steps: list[Step] = []
        for k, sheet in enumerate(sheets):
            self._need(sheet)
            self._lay(k, sheet, 0, 0)

    def _need(self, node: Node) -> None:
        """Count every setting that is still to come."""
        if node.low is None or node.high is None or not node.held:
            return
        for strip in _strips(node, node.axis):
            if strip.held:
                self.needed[strip.width if node.axis == 0 else strip.height] += 1
                if strip.axis != node.axis or strip.low is None:
                    self._need(strip)

    def _number(self, sheet: int) -> int:
        self.numbers[sheet] += 1
        return self.numbers[sheet]

    def _lay(self, sheet: int, node: Node, x: int, y: int) -> int:
        """Put a part on the table, to be cut or done; gives its number."""
        number = self._number(sheet)
        if node.low is None or node.high is None or not node.held:
            piece = node.piece if node.held else -1
            self.spots[sheet].append(Spot(piece, x, y, node.width, node.height, node.turned))
            return number
        strips = _strips(node, node.axis)
        size = [s.width if node.axis == 0 else s.height for s in strips]
        waste = sum(n for n, s in zip(size, strips, strict=True) if not s.held)
        kept = [s for s in strips if s.held]
        part = _Part(sheet, number, x, y, node.width, node.height, node.axis, kept, waste)
        self.open.append(part)
        return number

    def available(self) -> Counter[int]:
        """How many strips of each width could come off now."""
        counts: Counter[int] = Counter()
        for part in self.open:
            for strip in part.strips:
                counts[strip.width if part.axis == 0 else strip.height] += 1
        return counts

    def ends(self) -> Counter[int]:
        """Strips that would be what is left of their part if the others were taken off first."""
        counts: Counter[int] = Counter()
        for part in self.open:
            if not part.waste:
                sizes = {strip.width if part.axis == 0 else strip.height for strip in part.strips}
                counts.update(size for size in sizes if self.needed[size] == 1)
        return counts

    def next_setting(self, whim: int) -> int:
        """Where to put the fence next."""
        now, needed = self.available(), self.needed
        free = self.ends() if whim else Counter[int]()

        def key(s: int) -> tuple[float, ...]:
            done = now[s] >= needed[s]
            return done, now[s] > free[s], now[s] / max(needed[s], 1), now[s], (s * (2 * whim + 1)) % 97, s

        return max(now, key=key)

    def take(self, setting: int) -> bool:
        """Cut off one strip with the fence where it stands; whether there was one."""
        for part in self.open:
            for k, strip in enumerate(part.strips):
                if (strip.width if part.axis == 0 else strip.height) == setting:
                    self._cut(part, k)
                    return True
        return False

    def _cut(self, part: _Part, k: int) -> None:
        strip = part.strips.pop(k)
        along = part.axis == 0
        self.needed[strip.width if along else strip.height] -= 1
        length = part.height if along else part.width
        fence = strip.width if along else strip.height
        taken = self._lay(part.sheet, strip, part.x, part.y)
        if along:
            part.x, part.width = part.x + fence, part.width - fence
        else:
            part.y, part.height = part.y + fence, part.height - fence
        number, part.number = part.number, 0
        rest = part.width if along else part.height
        if len(part.strips) == 1 and not part.waste:  # the last strip is what is left
            self.open.remove(part)
            last = part.strips[0]
            self.needed[last.width if along else last.height] -= 1
            part.number = self._lay(part.sheet, last, part.x, part.y)
        elif not part.strips:
            self.open.remove(part)
            if rest > 0:
                part.number = self._number(part.sheet)
                self.spots[part.sheet].append(Spot(-1, part.x, part.y, part.width, part.height))
        else:
            part.number = self._number(part.sheet)
        self.steps.append(Step(part.sheet, number, along, fence, length, taken, part.number))


TRIES = 6
"""How many orders are tried for the sheets on a table."""


def _worked(sheets: Sequence[Node], whim: int) -> Worked:
    """The cuts by one rule: a setting that nothing needs later is done with once and for all; of those the one that
    does most. Where several are as good the `whim` chooses."""
    table = _Table(sheets)
    settings = 0
    while table.open:
        setting = table.next_setting(whim)
        settings += 1
        while table.take(setting):
            pass
    return Worked(tuple(table.steps), tuple(map(tuple, table.spots)), settings)


def in_order(sheets: Sequence[Node], tries: int = TRIES) -> Worked:
    """The cuts of some sheets that lie on the table together: of some orders the one that sets the fence least."""
    return min((_worked(sheets, whim) for whim in range(tries)), key=lambda worked: worked.settings)
