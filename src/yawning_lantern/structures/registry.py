"""All families by id: our own, and those of other packages found by entry point."""

from __future__ import annotations

from functools import lru_cache
from importlib import import_module
from importlib.metadata import entry_points

from yawning_lantern.errors import UnknownNameError, nearest
from yawning_lantern.structures.declare import Family

_OWN = (
    "explosion_box",
    "lid",
    "tray",
    "tier_wrap",
    "drop_front",
    "drop_ladder",
    "box_card",
    "waterfall",
    "pull_waterfall",
    "drop_cascade",
    "flap",
    "accordion_spine",
    "gusset_book",
    "board_cover",
    "floating_layer",
    "tent",
    "v_fold",
    "stand",
    "gate_bag",
    "rosette",
    "mat",
    "photo",
    "tag",
    "pocket",
    "belly_band",
    "ribbon",
    "strap",
    "hinge_strip",
)
ENTRY_POINTS = "yawning_lantern.families"


@lru_cache(maxsize=1)
def families() -> dict[str, Family]:
    """Every family by id, our own first."""
    found: dict[str, Family] = {}
    for module in _OWN:
        own: Family = import_module(f"yawning_lantern.structures.{module}").FAMILY
        found[own.id] = own
    for point in entry_points(group=ENTRY_POINTS):
        other: Family = point.load()
        found.setdefault(other.id, other)
    return found


def family(name: str) -> Family:
    """The family of that id. Raises UnknownNameError with the nearest names."""
    known = families()
    if name not in known:
        raise UnknownNameError(f"There is no family “{name}”.", remedy=nearest(name, known, "There are"))
    return known[name]
