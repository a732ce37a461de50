"""What the work is made of and made with: papers, boards, films, adhesives, tools, sheet formats."""

from yawning_lantern.stock.catalogue import Catalogue, builtin_catalogue
from yawning_lantern.stock.items import Adhesive, Paper, SheetFormat, Tool
from yawning_lantern.stock.weights import BASIC_SIZES, caliper_from_grammage, grammage_from_pounds

__all__ = [
    "BASIC_SIZES",
    "Adhesive",
    "Catalogue",
    "Paper",
    "SheetFormat",
    "Tool",
    "builtin_catalogue",
    "caliper_from_grammage",
    "grammage_from_pounds",
]
