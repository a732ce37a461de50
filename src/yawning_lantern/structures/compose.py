"""Beginning a design, and the edits that change its nest: layers, and new guests on a face."""

from __future__ import annotations

from collections.abc import Mapping
from itertools import count

from msgspec.structs import replace

from yawning_lantern.design import (
    Design,
    Element,
    Place,
    Value,
    add_guest,
    find,
    fresh_id,
    remove_element,
    replace_element,
    walk,
)
from yawning_lantern.errors import ParameterError
from yawning_lantern.stock import Paper
from yawning_lantern.structures.kit.declare import Family
from yawning_lantern.structures.kit.settings import checked_settings
from yawning_lantern.structures.registry import family

_OUTERMOST = ("base", "base-depth", "wall", "sheet")
_CONTENTS = "content-"
_ORDINALS = (
    "",
    "",
    "Second layer",
    "Third layer",
    "Fourth layer",
    "Fifth layer",
    "Sixth layer",
    "Seventh layer",
    "Eighth layer",
)


def guest_settings(host: Element) -> dict[str, Value]:
    """What a further layer takes over from the one around it: everything but its size and contents."""
    return {k: v for k, v in host.settings.items() if k not in _OUTERMOST and not k.startswith(_CONTENTS)}


def _quarter(host: Element, turned: bool) -> int:
    """A layer is turned a quarter where that is asked and the base looks the same afterwards."""
    sides = host.settings.get("sides", 4)
    return 0 if not turned or isinstance(sides, str) or sides % 4 else 1


def _layer_of(element: Element) -> Element | None:
    return next((g for g in element.guests if g.family == element.family and g.place and g.place.face == "floor"), None)


def with_layers(design: Design, element_id: str, layers: int, turned: bool = True) -> Design:
    """The design with so many layers from an element inwards, each `turned` a quarter against the last (of four or
    eight walls; others stand as the last).

    A new innermost layer takes over the contents and the guests of the one that was innermost before; layers that go
    hand theirs back.

    Raises:
        UnknownNameError: no such element. ParameterError: fewer than one layer.
    """
    if layers < 1:
        raise ParameterError("There must be one layer at least.", "Layers")
    chain = [find(design, element_id)]
    while (inner := _layer_of(chain[-1])) is not None:
        chain.append(inner)
    last = chain[-1]
    contents = {k: v for k, v in last.settings.items() if k.startswith(_CONTENTS)}
    inside = tuple(g for g in last.guests if g.place and g.place.face == "floor")
    if len(chain) > layers:
        keep = chain[layers - 1]
        design = remove_element(design, chain[layers].id)
        host = find(design, keep.id)
        return _changed(design, replace(host, settings={**host.settings, **contents}, guests=(*host.guests, *inside)))
    while len(chain) < layers:
        host = find(design, chain[-1].id)
        rest = tuple(g for g in host.guests if g not in inside)
        settings = {k: v for k, v in host.settings.items() if not k.startswith(_CONTENTS)}
        design = _changed(design, replace(host, settings=settings, guests=rest))
        number = len(chain) + 1
        layer = Element(
            fresh_id(design, f"layer-{number}"),
            host.family,
            _ORDINALS[number],
            {**guest_settings(host), **contents},
            host.stock,
            None,
            inside,
        )
        design = add_guest(design, host.id, layer, Place("floor", turn=_quarter(host, turned)))
        chain.append(layer)
    return design


def _changed(design: Design, element: Element) -> Design:
    return replace_element(design, element.id, lambda _: element)


def new_guest(design: Design, kind: Family, name: str = "") -> Element:
    """An element of a family with nothing given, ready to be put on a face. Where nobody named it, it is called after
    its family, with a number where there is one already, so that sentences tell the two apart."""
    return Element(fresh_id(design, kind.id), kind.id, name or _fresh_name(design, kind.name))


def copied(design: Design, element: Element) -> Element:
    """A copy of an element with all that it carries, as this design can take it: ids of its own all through, and a name
    that tells it from what is there."""
    names = {one.name for one in walk(design.root)}
    host = design.root

    def copy(one: Element) -> Element:
        nonlocal design
        new = replace(one, id=fresh_id(design, one.id), guests=())
        design = add_guest(design, host.id, new, Place(""))  # so that the next id is another
        return replace(new, guests=tuple(copy(guest) for guest in one.guests))

    new = copy(element)
    return replace(new, name=_fresh_name(design, element.name)) if element.name in names else new


def _fresh_name(design: Design, name: str) -> str:
    taken = {element.name for element in walk(design.root)}
    return name if name not in taken else next(n for k in count(2) if (n := f"{name} {k}") not in taken)


def start_design(
    family_id: str,
    settings: Mapping[str, Value],
    *,
    name: str = "Untitled",
    stock: str = "card-216",
    units: str = "in",
    adhesive: str = "wet-glue",
    score_tool: str = "board-8",
    cut_tool: str = "trimmer-16",
    papers: tuple[Paper, ...] = (),
) -> Design:
    """A new design of one structure; `layers`, `layer-turn` and `lid` among the settings make the nest. It carries
    `papers`.

    Raises:
        UnknownNameError: no such family or parameter. ParameterError: a value is impossible.
    """
    kind = family(family_id)
    checked = checked_settings(kind, settings, "mm" if units == "mm" else "in")
    layers = int(float(checked.pop("layers", 1)))
    lid = checked.pop("lid", "none")
    turned = checked.pop("layer-turn", "quarter") == "quarter"
    root = Element(family_id.split("-")[-1], family_id, kind.name, checked)
    design = Design(
        root,
        name=name,
        units="mm" if units == "mm" else "in",
        stock=stock,
        adhesive=adhesive,
        score_tool=score_tool,
        cut_tool=cut_tool,
        papers=papers,
    )
    if layers > 1:
        design = with_layers(design, root.id, layers, turned)
    if lid == "none":
        return design
    cap = replace(new_guest(design, family("lid")), settings={"play": lid})
    return add_guest(design, root.id, cap, Place("mouth"))
