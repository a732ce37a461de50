"""Sheets cut edge to edge: what is wanted laid on as few of them as can be, with the cuts in order and a proof."""

from yawning_lantern.sheets.drawn import CutLine, cut_lines
from yawning_lantern.sheets.plan import (
    Board,
    Cut,
    Effort,
    Left,
    Placed,
    Plan,
    Rectangle,
    SheetPlan,
    Trimmer,
    plan_sheets,
)

__all__ = [
    "Board",
    "Cut",
    "CutLine",
    "Effort",
    "Left",
    "Placed",
    "Plan",
    "Rectangle",
    "SheetPlan",
    "Trimmer",
    "cut_lines",
    "plan_sheets",
]
