"""Structures: one module per family, each with declared parameters. No family knows another."""

from yawning_lantern.structures.compose import copied, guest_settings, new_guest, start_design, with_layers
from yawning_lantern.structures.kit.declare import ENDLESS, Family, GuestNeed, Parameter, Situation, Sized, Sizes, Start
from yawning_lantern.structures.kit.settings import checked_settings, parameter, read_setting, setting_words
from yawning_lantern.structures.registry import families, family

__all__ = [
    "ENDLESS",
    "Family",
    "GuestNeed",
    "Parameter",
    "Situation",
    "Sized",
    "Sizes",
    "Start",
    "checked_settings",
    "copied",
    "families",
    "family",
    "guest_settings",
    "new_guest",
    "parameter",
    "read_setting",
    "setting_words",
    "start_design",
    "with_layers",
]
