"""What the work is made of and made with: papers, boards, films, adhesives, tools, sheet formats."""

from yawning_lantern.stock.catalogue import Catalogue, builtin_catalogue, catalogue_of, found, thing
from yawning_lantern.stock.checking import check_item
from yawning_lantern.stock.items import Adhesive, Item, Paper, ReadyMade, SheetFormat, Tool
from yawning_lantern.stock.motifs import KINDS, Motif, MotifKind, shapes
from yawning_lantern.stock.weights import (
    BASIC_SIZES,
    caliper_from_grammage,
    grammage_from_pounds,
    parse_weight,
    weight_words,
)

__all__ = [
    "BASIC_SIZES",
    "KINDS",
    "Adhesive",
    "Catalogue",
    "Item",
    "Motif",
    "MotifKind",
    "Paper",
    "ReadyMade",
    "SheetFormat",
    "Tool",
    "builtin_catalogue",
    "caliper_from_grammage",
    "catalogue_of",
    "check_item",
    "found",
    "grammage_from_pounds",
    "parse_weight",
    "shapes",
    "thing",
    "weight_words",
]
