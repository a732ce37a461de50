"""The design that a command speaks of: a file, or a family with parameters."""

from __future__ import annotations

import argparse
from collections.abc import Sequence
from pathlib import Path
from typing import Any

from msgspec.structs import replace

from yawning_lantern.design import Design, Value, set_caliper
from yawning_lantern.errors import ParameterError
from yawning_lantern.exchange.design_file import read_design
from yawning_lantern.measure import Units, parse_length
from yawning_lantern.stock import builtin_catalogue
from yawning_lantern.structures import Family, Parameter, family, parameter, read_setting, start_design
from yawning_lantern.study import fill_sheet


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
    found: dict[str, Value] = {}
    for pair in pairs:
        key, equals, text = pair.partition("=")
        if not equals:
            raise ParameterError(f"“{pair}” gives no value.", remedy="Write it as key=value, such as base=4.")
        name = key.strip()
        if name == "sheet" and "sheet" in kind.starts and _has(kind, name) is None:
            found[name] = parse_length(text, units)
        else:
            found[name] = read_setting(parameter(kind, name), text, units)
    return found


def _has(kind: Family, name: str) -> Parameter | None:
    return next((p for p in kind.parameters if p.id == name), None)


def _started(kind: Family, settings: dict[str, Value], start: str | None, stock: str) -> dict[str, Value]:
    """Settings completed for the way in that was asked for."""
    if start is not None and start not in kind.starts:
        raise ParameterError(f"{kind.name} cannot be solved from its {start}.")
    if start == "sheet" and "sheet" not in settings:
        sheet = builtin_catalogue().paper(stock).sheet
        settings["sheet"] = min(sheet.usable_width, sheet.usable_height)
    if start == "contents":
        wanted = ("content-width",) if kind.relation == "over" else ("content-width", "content-height")
        needed = [n for n in wanted if _has(kind, n)]
        missing = [n for n in needed if n not in settings]
        if missing:
            raise ParameterError(
                f"To solve from the contents, {' and '.join(missing)} must be known.",
                remedy=f"Add --set {missing[0]}=2in, with your own length.",
            )
    if start == "size" and any(n == "sheet" or (n.startswith("content-") and n != "content-play") for n in settings):
        raise ParameterError(
            "A finished size was asked for, but a sheet or contents are given too.",
            remedy="Leave them out, or choose --from sheet or --from contents.",
        )
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
        stock = builtin_catalogue().paper(options.stock).id if options.stock else "card-216"
        settings = _started(kind, read_settings(kind, options.set, units), options.start, stock)
        metric = units == "mm"
        tools = {
            "score_tool": "scorer-mm" if metric else "board-8",
            "cut_tool": "trimmer-mm" if metric else "trimmer-16",
        }
        how: dict[str, Any] = {"name": kind.name, "stock": stock, "units": units, **tools}
        if _has(kind, "sheet") is None and "sheet" in settings:
            side = settings.pop("sheet")
            assert not isinstance(side, str)
            design = fill_sheet(options.family, settings, side, **how)
        else:
            design = start_design(options.family, settings, **how)
    if options.stock and getattr(options, "file", None) is not None:
        design = replace(design, stock=builtin_catalogue().paper(options.stock).id)
    if options.caliper:
        design = set_caliper(design, design.stock, parse_length(options.caliper, options.units or design.units))
    return design
