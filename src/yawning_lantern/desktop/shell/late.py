"""Pages made when they are first wanted: a design is painted sooner, and what is never opened costs nothing."""

from __future__ import annotations

from collections.abc import Callable
from typing import Generic, TypeVar

Page = TypeVar("Page")


class LatePage(Generic[Page]):
    """Calling it gives the page, made by `make` the first time. `known` is the page, or None while it is not made."""

    def __init__(self, make: Callable[[], Page]) -> None:
        self._make = make
        self.known: Page | None = None

    def __call__(self) -> Page:
        if self.known is None:
            self.known = self._make()
        return self.known

    def to(self, deed: Callable[[Page], object]) -> Callable[[], None]:
        """What does a deed to the page, made for it if need be."""

        def do() -> None:
            deed(self())

        return do

    def whether(self, asked: Callable[[Page], bool]) -> Callable[[], bool]:
        """What asks something of the page; of one that is not made yet it is not so."""
        return lambda: self.known is not None and asked(self.known)
