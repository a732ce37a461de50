"""Flip book: three by two cells slit along two of them; six panels that open from both long sides, and a pocket."""

from __future__ import annotations

import math

from yawning_lantern.flatfold.snakes import Trunk
from yawning_lantern.structures.kit.around import AROUND
from yawning_lantern.structures.kit.declare import Sizes
from yawning_lantern.structures.kit.snake_book import PAGE_PARAMETERS, POCKET_PARAMETERS, SHEET_PARAMETERS, SnakeBook

_PATH = ((0, 0), (1, 0), (2, 0), (2, 1), (1, 1), (0, 1))  # cells in the order of the pages: column, row
_POCKET = 2  # the gap across the short side, where a pocket stays


class FlipBook(SnakeBook):
    """Two folds on its spine, two on the other long side, which are flaps, and one at the foot: a pocket's bottom."""

    id = "flip-book"
    name = "Flip book"
    about = "Three by two cells, slit along two: six panels that open from both sides, ten faces that show, one pocket."
    headline = ("sheet-width", "sheet-height")
    faces = (
        (AROUND, "around it, shut"),
        ("cover", "front cover"),
        *((f"page-{k}", f"page {k}") for k in range(1, 9)),
    )
    parameters = (*SHEET_PARAMETERS, *POCKET_PARAMETERS, *PAGE_PARAMETERS)

    def trunk(self, sizes: Sizes) -> Trunk:
        """Along the foot, up, and back."""
        return Trunk(3, 2, _PATH)

    def opens(self, trunk: Trunk) -> tuple[int, ...]:
        """All but the gap with its fold at the foot."""
        return tuple(gap for gap in range(len(trunk.path) - 1) if gap != _POCKET)

    def turn(self, trunk: Trunk) -> float:
        """Panels open from either side in turn, so that they stand up like a screen."""
        return math.pi / 3


FAMILY = FlipBook()
