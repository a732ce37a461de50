"""The document: an immutable nest of elements, edits that make a new one, and its history."""

from yawning_lantern.design.document import FORMAT, VERSION, Design, Element, Place, Value
from yawning_lantern.design.edits import (
    add_guest,
    find,
    fresh_id,
    move_guest,
    parent_of,
    remove_element,
    replace_element,
    set_caliper,
    set_stock,
    set_value,
    walk,
)
from yawning_lantern.design.history import History

__all__ = [
    "FORMAT",
    "VERSION",
    "Design",
    "Element",
    "History",
    "Place",
    "Value",
    "add_guest",
    "find",
    "fresh_id",
    "move_guest",
    "parent_of",
    "remove_element",
    "replace_element",
    "set_caliper",
    "set_stock",
    "set_value",
    "walk",
]
