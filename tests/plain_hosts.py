"""Plain things that stand for every host and every guest: a family on them, with them on it, in thin card and thick."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import suppress

from msgspec.structs import replace

from yawning_lantern.design import Design, Element, Place, Value, add_guest
from yawning_lantern.errors import LanternError, ParameterError
from yawning_lantern.stock import Adhesive
from yawning_lantern.structures import families, start_design
from yawning_lantern.study import Study

PLAIN: dict[str, tuple[tuple[str, dict[str, Value], str], ...]] = {
    "inside": (
        ("tray", {"width": 120.0, "depth": 100.0, "height": 60.0}, "floor"),
        ("explosion-box", {"base": 110.0, "wall": 80.0}, "floor"),
    ),
    "onto": (
        ("mat", {"width": 150.0, "height": 120.0}, "face"),
        ("tray", {"width": 120.0, "depth": 100.0, "height": 60.0}, "floor"),
    ),
    "over": (
        ("tray", {"width": 90.0, "depth": 80.0, "height": 50.0}, "mouth"),
        *(("explosion-box", {"base": 60.0, "wall": 50.0, "sides": n}, "mouth") for n in (3, 4, 5, 6, 8, 12)),
        *(("prism", {"side": 50.0, "height": 60.0, "sides": n}, "mouth") for n in (4, 6)),
    ),
    "around": (("gusset-book", {}, "around"), ("board-cover", {}, "around")),
}
"""Hosts that stand for all where a relation is asked for: family, settings, face."""
ON_FACE = {"inside": ("mat", "tray"), "onto": ("mat",), "over": ("lid",), "around": ("belly-band",)}
"""Guests that stand for all on a face, by the face's relation."""


def takers(kind: str) -> tuple[tuple[str, dict[str, Value], str], ...]:
    """Plain hosts of a family. What goes around an edge is refused by all that have none, and goes on the back of
    covers; what goes over equal walls only is refused by a box that is not square."""
    usual = PLAIN[families()[kind].relation]
    host, given, face = usual[0]
    design = start_design(host, given)
    try:
        Study(add_guest(design, design.root.id, Element("g", kind), Place(face)))
    except ParameterError as refused:
        if "all alike" in refused.what:
            return usual[1:]
        if "edge" not in refused.what:
            raise
        return tuple((book, {}, face) for book, face in (("board-cover", "back"), ("accordion-spine", "cover-back")))
    return usual


def worded(kind: str) -> Iterator[dict[str, Value]]:
    """A new one, and one for every word that can be chosen."""
    yield {}
    for p in families()[kind].parameters:
        for word in () if p.derived or p.structural else p.words:
            with suppress(LanternError):
                Study(start_design(kind, {p.id: word}))
                yield {p.id: word}


def hosted(kind: str, given: dict[str, Value] | None = None) -> Iterator[tuple[str, Design]]:
    """The family as a guest `g` on plain hosts."""
    for host, size, face in takers(kind):
        design, guest = start_design(host, size), Element("g", kind, settings=given or {})
        yield f"on {host} {size.get('sides', '')}", add_guest(design, design.root.id, guest, Place(face))


def hosting(kind: str, given: dict[str, Value] | None = None) -> Iterator[tuple[str, Design]]:
    """The family `f` with a plain guest `g` on each of its faces: words, design. First alone, then on a plain host."""
    alone = start_design(kind, given or {})
    host, size, face = takers(kind)[0]
    below = start_design(host, size)
    hosts = {"alone": replace(alone, root=replace(alone.root, id="f"))}
    if given is None:
        hosts[f"on {host}"] = add_guest(below, below.root.id, Element("f", kind), Place(face))
    for words, design in hosts.items():
        for name, room in Study(design).resolved["f"].rooms.items():
            for guest in ON_FACE[room.relation]:
                yield f"{guest} on {name}, {words}", add_guest(design, "f", Element("g", guest), Place(name))


TAPE, CARD = Adhesive("thick-tape", "Thick tape", 0.4, 0, False), 0.6
"""Tape and card (mm) thicker than what the contracts let pass: where a layer or a sheet is forgotten, or told twice,
they see it."""


def bulky(design: Design) -> Design:
    """The design from thick card, put together with thick tape."""
    return replace(design, adhesive=TAPE.id, adhesives=(TAPE,), calipers={design.stock: CARD})
