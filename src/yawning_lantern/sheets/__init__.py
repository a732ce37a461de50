"""Sheets cut edge to edge: what is wanted laid on as few of them as can be, with the cuts in order and a proof."""

from yawning_lantern.sheets.drawn import CutLine, cut_lines
from yawning_lantern.sheets.held import Held
from yawning_lantern.sheets.moving import Move, moved
from yawning_lantern.sheets.plan import Effort, plan_sheets
from yawning_lantern.sheets.told import Board, Cut, Left, Placed, Plan, Rectangle, SheetPlan, Trimmer

__all__ = [
    "Board",
    "Cut",
    "CutLine",
    "Effort",
    "Held",
    "Left",
    "Move",
    "Placed",
    "Plan",
    "Rectangle",
    "SheetPlan",
    "Trimmer",
    "cut_lines",
    "moved",
    "plan_sheets",
]
