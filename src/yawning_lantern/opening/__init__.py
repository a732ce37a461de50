"""Opening: which part moves when, each step swept with the paper's thickness."""

from yawning_lantern.opening.bodies import Margin, Solid
from yawning_lantern.opening.order import Memory, Opening, Step, check_order, find_opening, natural_order
from yawning_lantern.opening.plates import Contact, Plates
from yawning_lantern.opening.stations import Standing, Stations
from yawning_lantern.opening.sweep import CancelledError, Swept, sweep

__all__ = [
    "CancelledError",
    "Contact",
    "Margin",
    "Memory",
    "Opening",
    "Plates",
    "Solid",
    "Standing",
    "Stations",
    "Step",
    "Swept",
    "check_order",
    "find_opening",
    "natural_order",
    "sweep",
]
