"""Structures: one module per family, each with declared parameters. No family knows another."""

from yawning_lantern.structures.compose import guest_settings, new_guest, start_design, with_layers
from yawning_lantern.structures.declare import Family, GuestNeed, Parameter, Situation, Sized, Sizes
from yawning_lantern.structures.registry import families, family
from yawning_lantern.structures.settings import checked_settings, parameter, read_setting

__all__ = [
    "Family",
    "GuestNeed",
    "Parameter",
    "Situation",
    "Sized",
    "Sizes",
    "checked_settings",
    "families",
    "family",
    "guest_settings",
    "new_guest",
    "parameter",
    "read_setting",
    "start_design",
    "with_layers",
]
