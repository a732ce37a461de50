"""Answers kept by whom they are for: asked the same again, the very same is given.

An edit leaves most of a design as it was. What follows from a thing is kept by that thing, so it matters that the thing
itself comes back, not one like it.
"""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable, Hashable
from typing import Generic, TypeVar

Answer = TypeVar("Answer")


class LastAnswers(Generic[Answer]):
    """By key the last answer, and what it was asked for with; of more than `most` keys the oldest go first."""

    def __init__(self, most: int) -> None:
        self._most = most
        self._kept: OrderedDict[Hashable, tuple[tuple[object, ...], Answer]] = OrderedDict()

    def given(self, key: Hashable, asked: tuple[object, ...], make: Callable[[], Answer]) -> Answer:
        """The answer for a key: that of the last time where it was asked for with equal things, else what `make` gives.

        Of two threads that ask at once each gets a right answer; one of the two is kept.
        """
        known = self._kept.get(key)
        if known is not None and known[0] == asked:
            return known[1]
        answer = make()
        self._kept[key] = asked, answer
        while len(self._kept) > self._most:
            self._kept.popitem(last=False)
        return answer

    def forget(self) -> None:
        """Keep nothing."""
        self._kept.clear()
