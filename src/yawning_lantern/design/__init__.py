"""The document: an immutable nest of elements, edits that make a new one, and its history."""

from yawning_lantern.design.carried import carry, catalogue_for, stocks_used, with_copies, without_shipped
from yawning_lantern.design.document import FORMAT, VERSION, Built, Design, Element, Lay, Place, Value
from yawning_lantern.design.edits import (
    add_guest,
    find,
    fresh_id,
    move_guest,
    parent_of,
    remove_element,
    replace_element,
    set_caliper,
    set_lay,
    set_stock,
    set_value,
    walk,
)
from yawning_lantern.design.history import History

__all__ = [
    "FORMAT",
    "VERSION",
    "Built",
    "Design",
    "Element",
    "History",
    "Lay",
    "Place",
    "Value",
    "add_guest",
    "carry",
    "catalogue_for",
    "find",
    "fresh_id",
    "move_guest",
    "parent_of",
    "remove_element",
    "replace_element",
    "set_caliper",
    "set_lay",
    "set_stock",
    "set_value",
    "stocks_used",
    "walk",
    "with_copies",
    "without_shipped",
]
