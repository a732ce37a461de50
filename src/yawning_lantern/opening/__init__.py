"""Opening: which part moves when, each step swept with the paper's thickness; reach when open and where bulk lies."""

from yawning_lantern.opening.bulk import BulkMap, bulk_map, reach
from yawning_lantern.opening.order import Opening, Step, find_opening
from yawning_lantern.opening.plates import Contact, Plates
from yawning_lantern.opening.sweep import sweep

__all__ = [
    "BulkMap",
    "Contact",
    "Opening",
    "Plates",
    "Step",
    "bulk_map",
    "find_opening",
    "reach",
    "sweep",
]
