"""`families`, `plan` and `opening`. Exit 0: fine. 1: the plan has a clash, or it does not open. 2: a name or value that
cannot be."""

from __future__ import annotations

import argparse
import json
import os
import sys
from collections.abc import Sequence
from pathlib import Path
from typing import Any

from yawning_lantern import __version__
from yawning_lantern.design import Design, Value, set_caliper
from yawning_lantern.errors import LanternError, ParameterError
from yawning_lantern.exchange.design_file import read_design
from yawning_lantern.exchange.files import write_atomically
from yawning_lantern.exchange.film import write_film, write_strip
from yawning_lantern.exchange.mesh import write_pose
from yawning_lantern.exchange.pages import PAPERS
from yawning_lantern.exchange.pdf import write_templates
from yawning_lantern.exchange.plan import cut_list, plan
from yawning_lantern.exchange.reference import reference
from yawning_lantern.fit import formula, headline, sentence
from yawning_lantern.fold import weight
from yawning_lantern.measure import MM_PER_INCH, Units, format_fine, format_length, format_size, parse_length
from yawning_lantern.pattern.validity import faults
from yawning_lantern.stock import builtin_catalogue
from yawning_lantern.structures import Family, Parameter, families, family, parameter, read_setting, start_design
from yawning_lantern.study import Study, fill_sheet, opening_of, state_at
from yawning_lantern.study.opened import (
    closed_facts,
    contact_words,
    cure_words,
    cures,
    knot_words,
    reach,
    shut_words,
    step_words,
    verdict,
)


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="lantern", description="Plan fold-out paper structures.")
    parser.add_argument("--version", action="version", version=__version__)
    commands = parser.add_subparsers(dest="command", required=True)
    listing = commands.add_parser("families", help="list structure families with their parameters")
    listing.add_argument("--json", action="store_true", help="as JSON, lengths in mm")
    listing.add_argument("--markdown", action="store_true", help="as the structure reference of the docs")
    planning = commands.add_parser("plan", help="work out a design: cut sizes, scores, fits")
    _design_arguments(planning)
    planning.add_argument("--json", action="store_true", help="print the plan as JSON")
    planning.add_argument("--pdf", type=Path, metavar="OUT", help="write templates at 1:1")
    planning.add_argument("--paper", choices=tuple(PAPERS), default="letter", help="paper for the templates")
    planning.add_argument("--csv", type=Path, metavar="OUT", help="write the cut list")
    moving = commands.add_parser("opening", help="find the order a design opens in, and what meets on the way")
    _design_arguments(moving)
    moving.add_argument("--strip", type=Path, metavar="OUT", help="write a strip of pictures, .pdf or .svg")
    moving.add_argument("--film", type=Path, metavar="OUT", help="write a film, .gif or .png (animated)")
    moving.add_argument("--pose", type=Path, metavar="OUT", help="write a pose as .obj")
    moving.add_argument("--step", type=float, default=1e9, help="steps done in that pose (default: all)")
    return parser


def _design_arguments(command: argparse.ArgumentParser) -> None:
    """What tells the design: a file, or a family with parameters."""
    command.add_argument("file", nargs="?", type=Path, help="a .lantern design")
    command.add_argument("--family", help="start from a family instead of a file")
    command.add_argument("--set", action="append", default=[], metavar="KEY=VALUE", help="give a parameter")
    command.add_argument("--from", dest="start", choices=("sheet", "size", "contents"), help="what to solve from")
    command.add_argument("--stock", help="body stock by id or name")
    command.add_argument("--caliper", metavar="LENGTH", help="the stock's thickness as measured")
    command.add_argument("--units", choices=("in", "mm"), help="units in and out (default: in, or the file's)")


def main(arguments: Sequence[str] | None = None) -> int:
    """Run one command; gives the exit code."""
    options = _parser().parse_args(arguments)
    try:
        code = {"families": _families, "plan": _plan, "opening": _opening}[options.command](options)
        sys.stdout.flush()
        return code
    except LanternError as error:
        print(f"lantern: {error.sentence()}", file=sys.stderr)
        return 2
    except BrokenPipeError:  # whoever reads has read enough
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
        return 0


def _told(kind: Family) -> dict[str, Any]:
    return {
        "id": kind.id,
        "name": kind.name,
        "about": kind.about,
        "starts": list(kind.starts),
        "faces": [{"id": face, "label": label} for face, label in kind.faces],
        "parameters": [
            {
                "id": p.id,
                "label": p.label,
                "kind": p.kind,
                "group": p.group,
                "help": p.help,
                "words": list(p.words),
                "least": p.least,
                "most": p.most,
                "default": p.default,
                "derived": p.derived,
            }
            for p in kind.parameters
        ],
    }


def _families(options: argparse.Namespace) -> int:
    if options.markdown:
        print(reference(), end="")
        return 0
    if options.json:
        print(json.dumps({"units": "mm", "families": [_told(kind) for kind in families().values()]}, indent=2))
        return 0
    for kind in families().values():
        print(f"{kind.id}: {kind.about}")
        for p in kind.parameters:
            words = f" [{', '.join(p.words)}]" if p.words else ""
            print(f"    {p.id:16} {p.kind:7}{words} {p.help}")
        print()
    return 0


def _settings(kind: Family, pairs: Sequence[str], units: Units) -> dict[str, Value]:
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


def _design(options: argparse.Namespace) -> Design:
    if (options.file is None) == (options.family is None):
        raise ParameterError("Give either a design file or --family.")
    if options.file is not None:
        if options.set or options.start:
            raise ParameterError("--set and --from go with --family, not with a file.")
        design = read_design(options.file)
    else:
        kind = family(options.family)
        units: Units = options.units or "in"
        stock = builtin_catalogue().paper(options.stock).id if options.stock else "card-216"
        settings = _started(kind, _settings(kind, options.set, units), options.start, stock)
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
    if options.stock and options.file is not None:
        from msgspec.structs import replace

        design = replace(design, stock=builtin_catalogue().paper(options.stock).id)
    if options.caliper:
        design = set_caliper(design, design.stock, parse_length(options.caliper, options.units or design.units))
    return design


def _plan(options: argparse.Namespace) -> int:
    design = _design(options)
    units: Units = options.units or design.units
    study = Study(design)
    for piece in study.pieces:
        if found := faults(piece):
            told = ", ".join(f"{fault.code} {' and '.join(fault.names)}" for fault in found)
            raise LanternError(f"{piece.name} is not sound: {told}.", remedy="The family that made it is at fault.")
    if options.json:
        print(json.dumps(plan(study, units, opening_of(study)), indent=2, ensure_ascii=False))
    else:
        _print_plan(study, units)
    if options.pdf:
        write_templates(study, options.pdf, options.paper, units)
    if options.csv:
        write_atomically(options.csv, cut_list(study, units).encode("utf-8"))
    return 1 if study.has_clash else 0


def _opening(options: argparse.Namespace) -> int:
    """Find the opening, tell it, and write what was asked for; 1 where it does not open."""
    design = _design(options)
    units: Units = options.units or design.units
    study = Study(design)

    def told(done: int, of: int) -> None:
        if sys.stderr.isatty():
            print(f"\r{done} of {of} motions open", end="\n" if done == of else "", file=sys.stderr)

    opening = opening_of(study, told=told)
    room = reach(study, opening)
    if options.strip:
        write_strip(study, opening, options.strip, units, room)
    if options.film:
        write_film(study, opening, options.film)
    if options.pose:
        write_pose(study, state_at(study, opening, options.step), options.pose)
    print(verdict(study, opening, units, room))
    for contact in opening.shut:
        print(f"  {shut_words(study, contact, units)}")
    for k, step in enumerate(opening.steps):
        print(f"  {k + 1:2} {'  ' if step.clear else '✕ '}{step_words(study, step)}")
        for contact in step.resting:
            print(f"        {contact_words(study, step, contact, units)}")
        if step.contact is not None:
            print(f"        {contact_words(study, step, step.contact, units)}")
            for cure in cures(study, step.contact):
                print(f"        → {cure_words(study, cure, units)}")
    if knot := knot_words(study, opening):
        print(knot)
    for name, words in closed_facts(study, units):
        print(f"{name:12}{words}")
    print("If it goes by post, the carrier's own thickness and weight limits have the last word.")
    return 0 if opening.works else 1


def _print_plan(study: Study, units: Units) -> None:
    print(study.design.name)
    print("\nPieces")
    for piece in study.pieces:
        print(f"  {piece.quantity} × {piece.name}: {format_size(piece.size, units)}, {piece.stock.name}")
    print("\nWorked out")
    for element, r in study.resolved.items():
        for declared in r.family.parameters:
            sized = r.sizes.get(declared.id)
            if sized is None:
                continue
            value = sized.value
            shown = format_length(value, units) if declared.kind == "length" and not isinstance(value, str) else value
            exact = ""
            if abs(sized.residual) > 1e-6:
                divide = MM_PER_INCH if units == "in" else 1.0
                exact = f" (exact {(sized.exact or 0.0) / divide:.3f}, rounded by {sized.residual / divide:+.3f})"
            print(f"  {element}.{declared.id} = {shown}, {sized.origin}{exact}")
    print("\nClosed " + format_size(tuple(round(x, 1) for x in study.size_at(0.0)), units))
    bulk = study.bulk
    print(
        f"At most {bulk.most} {'sheet lies' if bulk.most == 1 else 'sheets lie'} in one place, "
        f"{format_fine(bulk.thickest, units)} of paper; "
        f"the paper weighs about {weight(study.pieces):.0f} g without glue and contents."
    )
    print("If it goes by post, the carrier's own thickness and weight limits have the last word.")
    print("\nFits")
    for check in study.checks:
        print(f"  {headline(check)}: {sentence(check, units)}\n      {formula(check, units)}")
    if study.has_clash:
        print("\nSomething clashes: this cannot be built as it stands.")


if __name__ == "__main__":
    sys.exit(main())
