"""What goes on every face of a structure, and how a structure goes in and on others: sizes and fits of plain guests and
on plain hosts. Made from the families, like the structure reference."""

from __future__ import annotations

from collections.abc import Iterator
from functools import lru_cache

from yawning_lantern.design import Design, Element, Place, Value, add_guest
from yawning_lantern.errors import LanternError
from yawning_lantern.exchange.reference import fit_line, motions, value_words
from yawning_lantern.measure import inches
from yawning_lantern.structures import Family, families, setting_words, start_design
from yawning_lantern.study import Study
from yawning_lantern.words import in_a_row

_GUESTS = {"inside": ("mat", "tray"), "onto": ("mat",), "over": ("lid",), "around": ("belly-band",)}
"""What stands for all that goes on a face, by the face's relation."""
_TRAY: dict[str, Value] = {"width": inches(5), "depth": inches(4), "height": inches(2.5)}
_BOX: dict[str, Value] = {"base": inches(4), "wall": inches(3)}
_SHEET: dict[str, Value] = {"width": inches(6), "height": inches(5)}
_SMALL_TRAY: dict[str, Value] = {"width": inches(2), "depth": inches(1.5), "height": inches(1)}
_SMALL: dict[str, Value] = {"width": inches(2), "height": inches(1.5)}
_TINY: dict[str, Value] = {"width": inches(1.25), "height": inches(1)}
_HOSTS: dict[str, tuple[tuple[str, dict[str, Value], str], ...]] = {
    "inside": (("tray", _TRAY, "floor"), ("explosion-box", _BOX, "floor"), ("tray", _SMALL_TRAY, "floor")),
    "onto": (
        ("mat", _SHEET, "face"), ("tray", _TRAY, "floor"), ("tray", _TRAY, "front-outside"), ("mat", _SMALL, "face"),
        ("mat", _TINY, "face"),
    ),
    "over": (
        ("tray", _TRAY, "mouth"), ("tray", _SMALL_TRAY, "mouth"),
        *(("explosion-box", {**_BOX, "sides": n}, "mouth") for n in (4, 6)),
    ),
    "around": (("gusset-book", {}, "around"), ("board-cover", {}, "around")),
}  # fmt: skip
"""What stands for all that something goes on, by its relation: family, measurements, face. What is usual is less on
something small."""


def _sizes(study: Study, element: str) -> str:
    """Measurements of an element that follow from where it is or from one another, in a row."""
    r = study.resolved[element]
    told = [
        f"{p.label.lower()} {value_words(p, r.sizes[p.id]).removesuffix(', worked out')}"
        for p in r.family.parameters
        if p.id in r.sizes and r.sizes[p.id].origin in ("auto", "fill")
    ]
    return "; ".join(told)


@lru_cache
def _moves_alone(kind: str) -> frozenset[str]:
    """How a new one opens by itself."""
    design = start_design(kind, {})
    return frozenset(motions(Study(design).resolved[design.root.id].part))


def _told(design: Design, element: str) -> list[str]:
    """What an element comes to where it is, how it opens there otherwise than by itself, and its fits to what it is
    on."""
    try:
        study = Study(design)
    except LanternError as refused:
        return [f"- Refused: {refused}"]
    sizes = _sizes(study, element)
    between = (check for check in study.checks if check.gap.element == element != check.gap.host)
    fits = dict.fromkeys(map(fit_line, between))
    moves, alone = motions(study.resolved[element].part), _moves_alone(study.resolved[element].family.id)
    opens = "; ".join(move for move in moves if move not in alone)
    lines = [f"- {sizes[0].upper()}{sizes[1:]}."] if sizes else []
    lines += [f"- Opens: {opens}."] if opens else []
    return [*lines, *fits]


def on_faces(kind: Family) -> Iterator[str]:
    """What a plain guest comes to on every face of a new one, faces that are alike together."""
    design = start_design(kind.id, {})
    root = design.root.id
    alike: dict[tuple[str, ...], list[str]] = {}
    for face, room in Study(design).resolved[root].rooms.items():
        for family in _GUESTS[room.relation]:
            guest = Element("guest", family, families()[family].name)
            lines = _told(add_guest(design, root, guest, Place(face)), "guest")
            alike.setdefault((guest.name, *lines), []).append(f"`{face}`")
    for (name, *lines), faces in alike.items():
        yield from (f"### {name} on {in_a_row(faces)}", "", *lines, "")


def on_others(kind: Family) -> Iterator[str]:
    """What a family comes to on plain hosts."""
    for host, given, face in _HOSTS[kind.relation]:
        design = start_design(host, given)
        lines = _told(add_guest(design, design.root.id, Element("guest", kind.id, kind.name), Place(face)), "guest")
        named = {p.id: p for p in families()[host].parameters}
        words = ", ".join(setting_words(value, named[name]) for name, value in given.items())
        yield from (f"### On {families()[host].name.lower()}, `{face}`{f' ({words})' if words else ''}", "", *lines, "")


def placed(kind: Family) -> Iterator[str]:
    """What a family comes to on plain hosts and what goes on it, line by line."""
    yield from (f"## {kind.name} (`{kind.id}`)", "", *on_others(kind), *on_faces(kind))


def page() -> str:
    """The whole page as Markdown."""
    head = [
        "# What goes where",
        "",
        "Made from the code. `./lantern families --faces` prints this page. What fills every face of a",
        "[new one](structures.md), with its fits, and what each structure comes to on plain others.",
        "",
    ]
    return "\n".join(head + [line for kind in families().values() for line in placed(kind)])
