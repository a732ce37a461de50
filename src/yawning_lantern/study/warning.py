"""What a warning about stock is: what is wrong between a part and its paper, and what would help."""

from __future__ import annotations

from msgspec import Struct

from yawning_lantern.design import Design


class Cure(Struct, frozen=True):
    """A change that ends a warning: its words, and the design it makes."""

    words: str
    design: Design


class StockWarning(Struct, frozen=True):
    """What is wrong between a part and its paper, and what would help. `code` tells the kind in one word; `panels` are
    the faces it is about, in words."""

    code: str
    element: str
    what: str
    remedy: str
    panels: tuple[str, ...] = ()
    cures: tuple[Cure, ...] = ()

    @property
    def sentence(self) -> str:
        """All of it in words."""
        return f"{self.what} {self.remedy}"
