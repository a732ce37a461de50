"""Edits: each takes a design and gives a new one. None of them computes a length."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator

from msgspec.structs import replace

from yawning_lantern.design.document import Design, Element, Lay, Place, Value
from yawning_lantern.errors import UnknownNameError


def walk(element: Element) -> Iterator[Element]:
    """The element and all within it, hosts before guests."""
    yield element
    for guest in element.guests:
        yield from walk(guest)


def find(design: Design, element_id: str) -> Element:
    """The element of that id. Raises UnknownNameError."""
    for element in walk(design.root):
        if element.id == element_id:
            return element
    raise UnknownNameError(f"There is no part “{element_id}” in this design.")


def parent_of(design: Design, element_id: str) -> Element | None:
    """The host of an element, None for the root. Raises UnknownNameError."""
    find(design, element_id)
    for element in walk(design.root):
        if any(guest.id == element_id for guest in element.guests):
            return element
    return None


def fresh_id(design: Design, stem: str) -> str:
    """An id that no element of the design has: the stem, or the stem with another number."""
    taken = {element.id for element in walk(design.root)}
    if stem not in taken:
        return stem
    stem = re.sub(r"-\d+$", "", stem)
    number = 2
    while f"{stem}-{number}" in taken:
        number += 1
    return f"{stem}-{number}"


def _mapped(element: Element, element_id: str, change: Callable[[Element], Element | None]) -> Element | None:
    """The tree with one element changed (or, where `change` gives None, taken out); untouched branches are shared."""
    if element.id == element_id:
        return change(element)
    guests = tuple(new for guest in element.guests if (new := _mapped(guest, element_id, change)) is not None)
    if len(guests) == len(element.guests) and all(a is b for a, b in zip(guests, element.guests, strict=True)):
        return element
    return replace(element, guests=guests)


def replace_element(design: Design, element_id: str, change: Callable[[Element], Element]) -> Design:
    """The design with one element changed. Raises UnknownNameError."""
    find(design, element_id)
    root = _mapped(design.root, element_id, change)
    assert root is not None
    return replace(design, root=root)


def set_value(design: Design, element_id: str, name: str, value: Value | None) -> Design:
    """Give a setting, or with None let the program work it out again. Raises UnknownNameError."""

    def change(element: Element) -> Element:
        settings = {k: v for k, v in element.settings.items() if k != name}
        if value is not None:
            settings[name] = value
        return replace(element, settings=settings)

    return replace_element(design, element_id, change)


def set_stock(design: Design, element_id: str | None, stock: str | None) -> Design:
    """Choose the stock of one element (None: the design's own), or of the whole design when no element is named."""
    if element_id is None:
        return replace(design, stock=stock or design.stock)
    return replace_element(design, element_id, lambda element: replace(element, stock=stock))


def set_lay(design: Design, element_id: str, piece: str, lay: Lay) -> Design:
    """Say how a piece of an element lies on its sheet. `piece` is its id after the element's.

    Raises:
        UnknownNameError: there is no such element.
    """

    def change(element: Element) -> Element:
        lays = {k: v for k, v in element.lays.items() if k != piece}
        if lay != Lay():
            lays[piece] = lay
        return replace(element, lays=lays)

    return replace_element(design, element_id, change)


def set_caliper(design: Design, stock: str, caliper: float | None) -> Design:
    """Note a measured thickness (mm) for a stock, or forget it."""
    calipers = {k: v for k, v in design.calipers.items() if k != stock}
    if caliper is not None:
        calipers[stock] = caliper
    return replace(design, calipers=calipers)


def add_guest(design: Design, host_id: str, guest: Element, place: Place) -> Design:
    """Put an element on a face of another. Raises UnknownNameError."""
    placed = replace(guest, place=place)
    return replace_element(design, host_id, lambda host: replace(host, guests=(*host.guests, placed)))


def remove_element(design: Design, element_id: str) -> Design:
    """Take an element out, with all it carries. The root stays. Raises UnknownNameError."""
    find(design, element_id)
    root = _mapped(design.root, element_id, lambda _: None)
    return design if root is None else replace(design, root=root)


def move_guest(design: Design, element_id: str, host_id: str, place: Place) -> Design:
    """Take an element from its host and put it on a face of another.

    Raises:
        UnknownNameError: one of the two does not exist, or the new host lies inside what is moved.
    """
    moved = find(design, element_id)
    if any(element.id == host_id for element in walk(moved)):
        raise UnknownNameError("A part cannot sit on a part that it carries itself.")
    return add_guest(remove_element(design, element_id), host_id, moved, place)
