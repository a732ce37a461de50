"""The design that a command speaks of: a file, or a family with parameters."""

from __future__ import annotations

import argparse
from collections.abc import Sequence
from pathlib import Path

from yawning_lantern.cli.shelf import shelf
from yawning_lantern.design import Design, Value, carry, catalogue_for, set_caliper, set_stock
from yawning_lantern.errors import ParameterError
from yawning_lantern.exchange.design_file import read_design
from yawning_lantern.measure import Units, parse_length
from yawning_lantern.structures import Family, family, parameter, read_setting
from yawning_lantern.study.ways_in import begin


def family_arguments(command: argparse.ArgumentParser) -> None:
    """What begins a design from a family."""
    command.add_argument("--family", help="start from a family")
    command.add_argument("--set", action="append", default=[], metavar="KEY=VALUE", help="give a parameter")
    command.add_argument("--from", dest="start", choices=("sheet", "size", "contents"), help="what to solve from")
    command.add_argument("--stock", help="body stock by id or name")
    command.add_argument("--caliper", metavar="LENGTH", help="the stock's thickness as measured")
    command.add_argument("--units", choices=("in", "mm"), help="units in and out (default: in, or the file's)")


def design_arguments(command: argparse.ArgumentParser) -> None:
    """What tells the design: a file, or a family with parameters."""
    command.add_argument("file", nargs="?", type=Path, help="a .lantern design")
    family_arguments(command)


def read_settings(kind: Family, pairs: Sequence[str], units: Units) -> dict[str, Value]:
    """Settings from `key=value` words. Raises LanternError."""
    settings: dict[str, Value] = {}
    for pair in pairs:
        key, equals, text = pair.partition("=")
        if not equals:
            raise ParameterError(f"“{pair}” gives no value.", remedy="Write it as key=value, such as base=4.")
        name = key.strip()
        if name == "sheet" and "sheet" in kind.starts and not any(p.id == name for p in kind.parameters):
            settings[name] = parse_length(text, units)
        else:
            settings[name] = read_setting(parameter(kind, name), text, units)
    return settings


def told_design(options: argparse.Namespace) -> Design:
    """The design that the arguments tell of. Raises LanternError."""
    if (getattr(options, "file", None) is None) == (options.family is None):
        raise ParameterError("Give either a design file or --family.")
    if getattr(options, "file", None) is not None:
        if options.set or options.start:
            raise ParameterError("--set and --from go with --family, not with a file.")
        design = read_design(options.file)
    else:
        kind = family(options.family)
        units: Units = options.units or "in"
        papers = (shelf().paper(options.stock),) if options.stock else ()
        stock = papers[0].id if papers else "card-216"
        settings = read_settings(kind, options.set, units)
        design = begin(kind, options.start, settings, name=kind.name, stock=stock, units=units, papers=papers)
    if options.stock and getattr(options, "file", None) is not None:
        paper = catalogue_for(design).under(shelf().items).paper(options.stock)
        design = set_stock(carry(design, paper), None, paper.id)
    if options.caliper:
        design = set_caliper(design, design.stock, parse_length(options.caliper, options.units or design.units))
    return design
