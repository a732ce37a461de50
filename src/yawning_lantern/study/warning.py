"""What a warning about stock is: what is wrong between a part and its paper, and what would help."""

from __future__ import annotations

from dataclasses import dataclass

from yawning_lantern.design import Design


@dataclass(frozen=True, slots=True)
class Cure:
    """A change that ends a warning: its words, and the design it makes."""

    words: str
    design: Design


@dataclass(frozen=True, slots=True)
class StockWarning:
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
