"""The cuts of sheets on which everything stays where it lies: only their order is free, not which side comes off.

What was locked, or put somewhere by hand, is cut so; `cuts` may lay strips in another order to set the fence less."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence

from msgspec import Struct

from yawning_lantern.sheets.cuts import Step, Worked
from yawning_lantern.sheets.layout import Node, Spot


class _Part(Struct, frozen=True):
    """A part on the table that is still to be cut: its sheet, its number, what is on it and where it lies."""

    sheet: int
    number: int
    node: Node
    x: int
    y: int

    @property
    def fence(self) -> int:
        """Where the fence stands for its cut."""
        low = self.node.low
        assert low is not None
        return low.width if self.node.axis == 0 else low.height


def as_it_lies(sheets: Sequence[Node]) -> Worked:
    """The cuts of some sheets that lie on the table together, everything in its place: with the fence where it stands
    whatever can be cut is cut, then it goes where most waits."""
    numbers = [0] * len(sheets)
    spots: list[list[Spot]] = [[] for _ in sheets]
    steps: list[Step] = []
    waiting: list[_Part] = []

    def lay(sheet: int, node: Node, x: int, y: int) -> int:
        numbers[sheet] += 1
        if node.held and node.low is not None:
            waiting.append(_Part(sheet, numbers[sheet], node, x, y))
        else:
            spots[sheet].append(Spot(node.piece if node.held else -1, x, y, node.width, node.height, node.turned))
        return numbers[sheet]

    for k, sheet in enumerate(sheets):
        lay(k, sheet, 0, 0)
    fence, settings = -1, 0
    while waiting:
        part = next((one for one in waiting if one.fence == fence), None)
        if part is None:
            counts = Counter(one.fence for one in waiting)
            fence = max(counts, key=lambda at: (counts[at], at))
            settings += 1
            continue
        waiting.remove(part)
        node = part.node
        assert node.low is not None and node.high is not None
        upright = node.axis == 0
        taken = lay(part.sheet, node.low, part.x, part.y)
        dx, dy = (fence, 0) if upright else (0, fence)
        beyond = lay(part.sheet, node.high, part.x + dx, part.y + dy) if node.high.width and node.high.height else 0
        length = node.height if upright else node.width
        steps.append(Step(part.sheet, part.number, upright, fence, length, taken, beyond))
    return Worked(tuple(steps), tuple(map(tuple, spots)), settings)
