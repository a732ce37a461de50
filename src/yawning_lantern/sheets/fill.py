"""Parts filled with pieces: a beam over where the next piece goes and which way the rest of its part is cut."""

from __future__ import annotations

import random
from collections.abc import Sequence
from typing import cast

from yawning_lantern.sheets.layout import Node, Want, split

BEAM = 3
"""How many half-filled layouts are carried on."""
_Free = tuple[int, int, int]  # width, height, slot
_Step = tuple[int, int, bool, int, int, int]  # slot, piece, turned, axis of the first cut, slots of the two rests


class Filler:
    """Fills parts with pieces of some wants. `longest` is the longest cut of the tool, units, or 0 where there is
    none."""

    def __init__(self, wants: Sequence[Want], longest: int = 0) -> None:
        self.wants, self.longest = wants, longest
        self.ways = [
            ((w.width, w.height, False), (w.height, w.width, True))
            if w.may_turn and w.width != w.height
            else ((w.width, w.height, False),)
            for w in wants
        ]
        self.areas = [w.width * w.height for w in wants]

    def fill(
        self, parts: Sequence[tuple[int, int]], items: Sequence[int], power: float, beam: int = BEAM
    ) -> tuple[list[Node], list[int]]:
        """Parts (width, height) filled with items (ranks, the first goes first): the filled parts, and what is left
        over. Layouts are ranked by the area that is skipped, then by how much of the free area lies in large parts."""
        free: tuple[_Free, ...] = tuple((w, h, k) for k, (w, h) in enumerate(parts))
        states: list[tuple[int, float, tuple[_Free, ...], int, object, tuple[int, ...]]] = [
            (0, 0.0, free, len(parts), None, ())
        ]
        longest = self.longest
        for item in items:
            grown: list[tuple[int, float, tuple[_Free, ...], int, object, tuple[int, ...]]] = []
            area = self.areas[item]
            for skipped, rank, free, slots, log, over in states:
                places: list[tuple[int, int, int, int, bool]] = []
                for k, (w, h, _) in enumerate(free):
                    for iw, ih, turned in self.ways[item]:
                        dw, dh = w - iw, h - ih
                        if dw >= 0 and dh >= 0:
                            places.append((dw if dw < dh else dh, k, dw, dh, turned))
                if not places:
                    grown.append((skipped + area, rank, free, slots, log, (*over, item)))
                    continue
                places.sort()
                for _, k, dw, dh, turned in places[:2]:
                    w, h, slot = free[k]
                    rest = free[:k] + free[k + 1 :]
                    iw, ih = w - dw, h - dh
                    lost = (w * h) ** power
                    for axis in (0, 1) if dw and dh else ((0,) if dw else (1,)):
                        if longest and ((h if axis == 0 else w) > longest or (iw if axis == 0 else ih) > longest):
                            continue
                        one, two = ((dw, h), (iw, dh)) if axis == 0 else ((w, dh), (dw, ih))
                        more: tuple[_Free, ...] = ()
                        gain = 0.0
                        if one[0] and one[1]:
                            more = ((one[0], one[1], slots),)
                            gain = (one[0] * one[1]) ** power
                        if two[0] and two[1]:
                            more = (*more, (two[0], two[1], slots + 1))
                            gain += (two[0] * two[1]) ** power
                        step = (slot, item, turned, axis, slots, slots + 1)
                        grown.append((skipped, rank + lost - gain, rest + more, slots + 2, (log, step), over))
            if not grown:
                return [Node(w, h) for w, h in parts], list(items)
            grown.sort(key=lambda state: (state[0], state[1]))
            states = grown[:beam]
        _, _, _, _, log, over = states[0]
        return self._built(parts, log), list(over)

    def _built(self, parts: Sequence[tuple[int, int]], log: object) -> list[Node]:
        """The trees that a log of steps tells."""
        steps: dict[int, _Step] = {}
        while log is not None:
            log, step = cast("tuple[object, _Step]", log)
            steps[step[0]] = step

        def node(slot: int, w: int, h: int) -> Node:
            step = steps.get(slot)
            if step is None:
                return Node(w, h)
            _, item, turned, axis, one, two = step
            want = self.wants[item]
            iw, ih = (want.height, want.width) if turned else (want.width, want.height)
            leaf = Node(iw, ih, item, turned, held=1, area=iw * ih)
            if axis == 0:
                inner = leaf if ih == h else split(iw, h, 1, leaf, node(two, iw, h - ih))
                return inner if iw == w else split(w, h, 0, inner, node(one, w - iw, h))
            inner = leaf if iw == w else split(w, ih, 0, leaf, node(two, w - iw, ih))
            return inner if ih == h else split(w, h, 1, inner, node(one, w, h - ih))

        return [node(k, w, h) for k, (w, h) in enumerate(parts)]

    def order(self, items: Sequence[int], rng: random.Random, noise: float) -> list[int]:
        """Items in the order in which they are to be placed: large ones first, more or less."""
        key = [(-self.areas[i] * (1.0 + noise * rng.random()), k, i) for k, i in enumerate(items)]
        return [i for _, _, i in sorted(key)]
