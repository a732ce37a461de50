"""`stock`: the maker's drawer without a window."""

from __future__ import annotations

import argparse
import json
from pathlib import Path

from yawning_lantern.errors import ParameterError
from yawning_lantern.exchange.drawer_list import drawer_bytes, drawer_rows, read_drawer
from yawning_lantern.exchange.files import write_atomically
from yawning_lantern.exchange.item_rows import COLUMNS, KINDS, item_of
from yawning_lantern.folders import workshop_path
from yawning_lantern.measure import Units, format_size, parse_length
from yawning_lantern.stock import found, thing
from yawning_lantern.workshop import Workshop


def drawer_arguments(command: argparse.ArgumentParser) -> None:
    """What is done to the drawer."""
    deeds = command.add_subparsers(dest="what", required=True)
    listing = deeds.add_parser("list", help="what is in the drawer")
    listing.add_argument("--json", action="store_true", help="as JSON, lengths in mm")
    listing.add_argument("--find", metavar="WORDS", help="every thing that is called so, counted or not")
    adding = deeds.add_parser("add", help="a thing of one's own; how many sheets there are; an off-cut")
    adding.add_argument("--stock", required=True, help="stock by id or name")
    what = adding.add_mutually_exclusive_group(required=True)
    what.add_argument("--sheets", type=int, metavar="N", help="so many sheets are there")
    what.add_argument("--off-cut", metavar="W×H", help="an off-cut, such as 4in×5 1/2in")
    what.add_argument("--kind", choices=KINDS, help="a new thing of that kind; its stock is its id")
    adding.add_argument("--name", default="", help="what the off-cut or the new thing is called")
    for column in ("width", "height", *COLUMNS):
        adding.add_argument(f"--{column}", metavar="CELL", help=argparse.SUPPRESS)
    adding.epilog = (
        f"A new thing is told as in a list that is imported: --width, --height, --{', --'.join(COLUMNS)}. "
        "Bare lengths there are mm; a weight may be told as 216 or as 80 lb cover."
    )
    removing = deeds.add_parser("remove", help="take a thing out, with what was counted and kept of it")
    removing.add_argument("stock", help="the thing, by id or name")
    taking = deeds.add_parser("take", help="take an off-cut out")
    taking.add_argument("off_cut", type=int, metavar="NUMBER", help="its number, as list tells it")
    for deed, words in (("import", "take a list in"), ("export", "write the drawer as a list")):
        moving = deeds.add_parser(deed, help=f"{words}: CSV, or JSON")
        moving.add_argument("file", type=Path, metavar="FILE", help=".csv or .json")
    for one in deeds.choices.values():
        one.add_argument("--workshop", type=Path, metavar="FILE", help="another drawer than the usual one")
        one.add_argument("--units", choices=("in", "mm"), default="in", help="units in and out (default: in)")


def use_drawer(options: argparse.Namespace) -> int:
    """Do it, and tell what was done."""
    workshop = Workshop(options.workshop or workshop_path())
    units: Units = options.units
    catalogue = workshop.catalogue()
    deed = options.what
    if deed == "list":
        if options.find is not None:
            _print_found(workshop, options.find)
        elif options.json:
            print(json.dumps({"units": "mm", "drawer": drawer_rows(workshop)}, indent=2, ensure_ascii=False))
        else:
            _print(workshop, units)
    elif deed == "add" and options.kind:
        cells = {column: getattr(options, column.replace("-", "_")) for column in ("width", "height", *COLUMNS)}
        told = {key: text for key, text in cells.items() if text is not None}
        named = {"kind": options.kind, "stock": options.stock, "name": options.name or options.stock}
        made = item_of({**told, **named}, options.stock, catalogue.sheets)
        workshop.put(made)
        print(f"put in: {made.name}")
    elif deed == "remove":
        item = thing(catalogue.items, options.stock)
        workshop.remove(item)
        print(f"taken out: {item.name}")
    elif deed == "add":
        stock = catalogue.paper(options.stock)
        if options.sheets is not None:
            workshop.count(stock.id, options.sheets)
            print(f"{options.sheets} sheets of {stock.name}")
        else:
            sides = options.off_cut.replace("×", "x").split("x")
            if len(sides) != 2:
                raise ParameterError(f"“{options.off_cut}” is no size.", "--off-cut", "Give width and height: 4in×5in.")
            width, height = (parse_length(side, units) for side in sides)
            kept = workshop.keep(stock.id, width, height, options.name)
            print(f"off-cut {kept.id}: {format_size((width, height), units)} of {stock.name}")
    elif deed == "take":
        gone = workshop.take(options.off_cut)
        print(f"taken out: {format_size((gone.width, gone.height), units)} of {gone.stock}")
    elif deed == "import":
        print(f"{read_drawer(workshop, options.file)} rows taken in")
    else:
        write_atomically(options.file, drawer_bytes(workshop, options.file.suffix.lower() == ".json"))
    workshop.close()
    return 0


def _print(workshop: Workshop, units: Units) -> None:
    names = {item.id: item.name for item in workshop.catalogue().items}
    counts, kept = workshop.counts(), workshop.off_cuts()
    if not counts and not kept:
        print("The drawer is empty: nothing was counted yet.")
    for stock, count in counts.items():
        print(f"{count:5} × {names.get(stock, stock)}")
    for one in kept:
        size, name = format_size((one.width, one.height), units), f" “{one.name}”" if one.name else ""
        print(f"off-cut {one.id}{name}: {size} of {names.get(one.stock, one.stock)}")


def _print_found(workshop: Workshop, words: str) -> None:
    """Every thing that is called so, with its id and how many there are."""
    counts, items = workshop.counts(), found(workshop.catalogue().items, words)
    if not items:
        print("Nothing in the drawer is called so.")
    for item in items:
        count = f"{counts[item.id]} ×" if item.id in counts else ""
        print(f"{count:>7} {item.name}  [{item.id}]")
