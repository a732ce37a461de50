"""Things of the drawer as they stand in its file: a kind, an id, and the thing as JSON."""

from __future__ import annotations

import msgspec

from yawning_lantern.errors import ParameterError, WriteError
from yawning_lantern.stock import Adhesive, Item, Paper, ReadyMade, Tool, check_item

KINDS: dict[str, type[Item]] = {"paper": Paper, "adhesive": Adhesive, "ready-made": ReadyMade, "tool": Tool}
"""What each kind is called in files."""


def kind_of(item: Item) -> str:
    """What the kind of a thing is called in files."""
    return next(kind for kind, made in KINDS.items() if isinstance(item, made))


def written(item: Item) -> tuple[str, str, str]:
    """Kind, id and record of a thing."""
    return kind_of(item), item.id, msgspec.json.encode(item).decode("utf-8")


def read(kind: str, record: str, where: str) -> Item:
    """The thing of a record. Raises WriteError where it is none."""
    remedy = "Move the file aside: a new one is made. What `./lantern stock export` wrote can be read in again."
    try:
        item: Item = msgspec.json.decode(record.encode("utf-8"), type=KINDS[kind])
        check_item(item)
        return item
    except (KeyError, msgspec.ValidationError, msgspec.DecodeError, ParameterError) as error:
        raise WriteError(f"A thing in the drawer is damaged ({error}).", where, remedy) from error
