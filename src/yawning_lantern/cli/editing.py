"""`new` and `edit`: the window's edits without the window, so that any nest can be made and checked by a script."""

from __future__ import annotations

import argparse
from pathlib import Path

from msgspec.structs import replace

from yawning_lantern.cli.designs import read_settings, told_design
from yawning_lantern.cli.shelf import shelf
from yawning_lantern.design import (
    Design,
    Element,
    Place,
    add_guest,
    carry,
    catalogue_for,
    find,
    move_guest,
    remove_element,
    replace_element,
    set_value,
    walk,
)
from yawning_lantern.errors import ParameterError, UnknownNameError, WriteError, nearest
from yawning_lantern.exchange.design_file import read_design, write_design
from yawning_lantern.measure import Units
from yawning_lantern.measure.lengths import parse_signed
from yawning_lantern.structures import family, new_guest, with_layers
from yawning_lantern.study import Study, known_names
from yawning_lantern.study.all_walls import WORDS, on_all_walls


def editing_arguments(command: argparse.ArgumentParser) -> None:
    """The file, and what is done to it."""
    command.add_argument("file", type=Path, help="a .lantern design; it is written back")
    command.add_argument("--units", choices=("in", "mm"), help="units of bare numbers (default: the design's)")
    acts = command.add_subparsers(dest="act", required=True)
    put = acts.add_parser("put", help="put a structure on a face of a part")
    put.add_argument("family", help="id of a family")
    put.add_argument("--name", default="", help="what the part is called")
    put.add_argument("--stock", help="its own stock, by id or name")
    put.add_argument("--set", action="append", default=[], metavar="KEY=VALUE", help="give a parameter")
    _placed(put)
    change = acts.add_parser("set", help="give parameters of a part; KEY= lets one be worked out again")
    change.add_argument("element", help="id of a part")
    change.add_argument("values", nargs="+", metavar="KEY=VALUE", help="what to give")
    taking = acts.add_parser("take", help="take a part off, with all it carries")
    taking.add_argument("element", help="id of a part")
    naming = acts.add_parser("rename", help="call a part something else")
    naming.add_argument("element", help="id of a part")
    naming.add_argument("name", help="what it is called")
    moving = acts.add_parser("move", help="put a part on another face, or elsewhere on its own")
    moving.add_argument("element", help="id of a part")
    _placed(moving)


def _placed(command: argparse.ArgumentParser) -> None:
    command.add_argument(
        "--on",
        metavar="ELEMENT:FACE",
        help="the face it sits on; `box:walls-outside`, `walls-inside` or `walls`: one on every free wall",
    )
    command.add_argument("--at", metavar="X,Y", help="off the middle of that face, right and up")
    command.add_argument("--turn", type=int, metavar="N", help="turned by so many quarters")


def new_design(options: argparse.Namespace) -> int:
    """Write a new design file."""
    if options.family is None:
        raise ParameterError("A new design begins with a family.", remedy="Add --family explosion-box, or another.")
    if options.out.exists() and not options.force:
        raise WriteError("A file is there already.", str(options.out), "Choose another name, or add --force.")
    design = told_design(options)
    if options.name:
        design = replace(design, name=options.name[:200])
    return _kept(design, options.out)


def edit_design(options: argparse.Namespace) -> int:
    """Change a design file and write it back."""
    design = read_design(options.file)
    known_names(design)
    units: Units = options.units or design.units
    deed = {"put": _put, "set": _set, "take": _take, "rename": _rename, "move": _move}[options.act]
    return _kept(deed(design, options, units), options.file)


def _kept(design: Design, path: Path) -> int:
    """Write a design that can be worked out, and tell its parts. Raises LanternError; nothing is then written."""
    known_names(design)
    study = Study(design)
    write_design(design, path)
    for element, r in study.resolved.items():
        on = f" on {r.host}:{r.place.face}" if r.host else ""
        print(f"{'  ' * r.depth}{element} ({r.family.id}){on}")
    if study.has_clash:
        print("Something clashes: `lantern plan` tells what.")
    return 0


def _part(design: Design, element: str) -> Element:
    """The part of that id. Raises UnknownNameError with the nearest."""
    known = [one.id for one in walk(design.root)]
    if element not in known:
        raise UnknownNameError(
            f"There is no part “{element}” in this design.", remedy=nearest(element, known, "It has")
        )
    return find(design, element)


def _place(design: Design, options: argparse.Namespace, units: Units, now: Place | None = None) -> tuple[str, Place]:
    """The host and the place on it that the arguments tell; what is not told stays as it is `now`."""
    host, face = "", now.face if now is not None else ""
    if options.on:
        host, colon, face = options.on.rpartition(":")
        if not colon or not face:
            raise ParameterError(f"“{options.on}” names no face.", "--on", "Write it as part:face, such as box:floor.")
        known = [name for name, _ in family(_part(design, host).family).faces]
        if face not in known:
            raise UnknownNameError(f"“{host}” has no face “{face}”.", remedy=nearest(face, known, "Its faces are"))
    x, y = (now.x, now.y) if now is not None and not options.on else (0.0, 0.0)
    if options.at:
        parts = options.at.split(",")
        if len(parts) != 2:
            raise ParameterError(
                f"“{options.at}” is no place.", "--at", "Write it as right,up, such as 1/2,0 or 5mm,-3mm."
            )
        x, y = (parse_signed(part, units) for part in parts)
    turn = options.turn if options.turn is not None else (now.turn if now is not None else 0)
    return host, Place(face, x, y, turn % 4)


def _put(design: Design, options: argparse.Namespace, units: Units) -> Design:
    kind = family(options.family)
    if not options.on:
        raise ParameterError("Nothing says where it goes.", remedy="Add --on part:face, such as --on box:floor.")
    walls = options.on.rpartition(":")[2] in WORDS
    host, place = ("", Place("")) if walls else _place(design, options, units)
    settings = read_settings(kind, options.set, units)
    if any(p.structural and p.id in settings for p in kind.parameters):
        raise ParameterError("Layers and lids are parts of their own.", remedy="Put them on with further edits.")
    paper = catalogue_for(design).under(shelf().papers).paper(options.stock) if options.stock else None
    if paper is not None:
        design = carry(design, paper)
    guest = replace(new_guest(design, kind, options.name), settings=settings, stock=paper.id if paper else None)
    if walls:
        part, _, told = options.on.rpartition(":")
        which = next(word for word in WORDS if word == told)
        return on_all_walls(Study(design), _part(design, part).id, which, replace(guest, name=options.name or ""))
    return add_guest(design, host, guest, place)


def _set(design: Design, options: argparse.Namespace, units: Units) -> Design:
    element = _part(design, options.element)
    kind = family(element.family)
    for pair in options.values:
        key, equals, text = pair.partition("=")
        if equals and not text.strip():
            design = set_value(design, element.id, key.strip(), None)
            continue
        for name, value in read_settings(kind, [pair], units).items():
            if name == "layers":
                design = with_layers(design, element.id, int(float(value)))
            else:
                design = set_value(design, element.id, name, value)
    return design


def _take(design: Design, options: argparse.Namespace, units: Units) -> Design:
    element = _part(design, options.element)
    if element.id == design.root.id:
        raise ParameterError("The outermost part stays.", remedy="Begin a new design with `lantern new`.")
    return remove_element(design, element.id)


def _rename(design: Design, options: argparse.Namespace, units: Units) -> Design:
    element, name = _part(design, options.element), options.name.strip()[:60]
    if not name:
        raise ParameterError("A part cannot be called nothing.", "Name", "Give it a name.")
    return replace_element(design, element.id, lambda one: replace(one, name=name))


def _move(design: Design, options: argparse.Namespace, units: Units) -> Design:
    element = _part(design, options.element)
    if element.place is None:
        raise ParameterError("The outermost part sits on nothing.", remedy="Move what sits on it.")
    host, place = _place(design, options, units, element.place)
    if not host:
        return replace_element(design, element.id, lambda one: replace(one, place=place))
    return move_guest(design, element.id, host, place)
