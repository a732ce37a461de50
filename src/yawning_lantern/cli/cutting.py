"""`sheets`: on which sheets a design or any list of rectangles is cut, and in which order."""

from __future__ import annotations

import argparse
import json
from collections.abc import Sequence
from pathlib import Path

from msgspec.structs import replace

from yawning_lantern.cli.designs import design_arguments, told_design
from yawning_lantern.cli.shelf import shelf
from yawning_lantern.errors import LanternError, ParameterError
from yawning_lantern.exchange.cutting import (
    cut_words,
    read_rectangles,
    sheet_pages,
    sheets_csv,
    sheets_json,
    summary,
)
from yawning_lantern.exchange.files import write_atomically
from yawning_lantern.exchange.pdf import to_pdf
from yawning_lantern.exchange.shopping_list import buy_words, shopping_bytes
from yawning_lantern.folders import workshop_path
from yawning_lantern.measure import Units, format_size, speak
from yawning_lantern.sheets import Board, Effort, Plan, Rectangle, Trimmer, plan_sheets
from yawning_lantern.study import Study, sound
from yawning_lantern.study.shopping import Buy, sheets_to_buy, shopping
from yawning_lantern.study.wanted import boards, boards_of, kept_boards, trimmer_of, wanted
from yawning_lantern.workshop import Workshop

MOST_COPIES = 200  # copies that can be cut at once


def sheets_arguments(command: argparse.ArgumentParser) -> None:
    """What is to be cut, how often, how, and what is written."""
    design_arguments(command)
    command.add_argument("--pieces", type=Path, metavar="LIST", help="any rectangles: a CSV of name, width, height, …")
    command.add_argument("--copies", type=int, default=1, metavar="K", help="so many of the whole design")
    command.add_argument(
        "--together", action="store_true", help="all sheets on the table: fewest settings of the fence"
    )
    command.add_argument("--kept", action="store_true", help="the drawer's off-cuts first")
    command.add_argument("--workshop", type=Path, metavar="FILE", help="another drawer than the usual one")
    command.add_argument("--seconds", type=float, default=2.0, help="how long to look for fewer sheets (default: 2)")
    command.add_argument("--json", action="store_true", help="print the sheets as JSON")
    command.add_argument("--csv", type=Path, metavar="OUT", help="write the cuts")
    command.add_argument("--shopping", type=Path, metavar="OUT", help="write what must be had: .csv or .ods")
    command.add_argument("--pdf", type=Path, metavar="OUT", help="write a page for every sheet")


def tell_sheets(options: argparse.Namespace) -> int:
    """Plan the sheets, tell them, and write what was asked for."""
    if not 1 <= options.copies <= MOST_COPIES:
        raise ParameterError(f"{options.copies} copies cannot be planned.", "--copies", f"Give 1 to {MOST_COPIES}.")
    if not 0 < options.seconds <= 3600:
        raise ParameterError("That is no time to look for sheets.", "--seconds", "Give some seconds, such as 5.")
    catalogue = shelf(options.workshop)
    units: Units
    study: Study | None = None
    have: dict[str, int] = {}
    rectangles: tuple[Rectangle, ...]
    sheets: tuple[Board, ...]
    if options.pieces is not None:
        if options.file is not None or options.family is not None:
            raise ParameterError("Give either a list of pieces or a design.")
        units = options.units or "in"
        usual = catalogue.paper(options.stock or "card-216").id
        listed = read_rectangles(options.pieces, units)
        papers = {r.stock: catalogue.paper(r.stock or usual) for r in listed}
        rectangles = tuple(replace(r, count=r.count * options.copies, stock=papers[r.stock].id) for r in listed)
        sheets, trimmer, title = boards(papers.values()), Trimmer(), options.pieces.stem
    else:
        design = told_design(options)
        units = options.units or design.units
        study = sound(Study(design))
        rectangles, sheets = wanted(study, options.copies), boards_of(study)
        trimmer, title, catalogue = trimmer_of(design, study.catalogue), design.name, study.catalogue
    if options.kept or options.workshop:
        workshop = Workshop(options.workshop or workshop_path())
        sheets, have = (*sheets, *kept_boards(workshop.off_cuts())), workshop.counts()
    effort = Effort(seconds=options.seconds, proof=2 * options.seconds, together=options.together)
    try:
        plan = plan_sheets(rectangles, sheets, trimmer, effort)
    except LanternError as error:
        error.reworded(lambda text: speak(text, units))
        raise
    names = {paper.id: paper.name for paper in catalogue.papers}
    buy = shopping(study, plan, options.copies, have) if study is not None else sheets_to_buy(plan, names)
    if options.json:
        print(json.dumps(sheets_json(plan, names, units, buy), indent=2, ensure_ascii=False))
    else:
        _print(plan, names, units, title, buy)
    if options.csv:
        write_atomically(options.csv, sheets_csv(plan, names, units).encode("utf-8"))
    if options.shopping:
        write_atomically(options.shopping, shopping_bytes(buy, units, title, options.shopping))
    if options.pdf:
        write_atomically(options.pdf, to_pdf(sheet_pages(plan, names, units), title))
    return 0


def _print(plan: Plan, names: dict[str, str], units: Units, title: str, buy: Sequence[Buy]) -> None:
    print(f"{title}: {summary(plan)}")
    print(f"The fence is set {plan.settings} times.")
    for k, sheet in enumerate(plan.sheets):
        size = format_size((sheet.board.width, sheet.board.height), units)
        print(f"\nSheet {k + 1}: {names.get(sheet.board.stock, '')}, {sheet.board.name}, {size}")
        for cut in sheet.cuts:
            print(f"  {cut.number:3}. {cut_words(cut, units)}")
        for placed in sheet.placed:
            turned = ", turned" if placed.turned else ""
            print(f"       {placed.piece}: {format_size((placed.width, placed.height), units)}{turned}")
        for left in sheet.left:
            if left.useful:
                print(f"       off-cut {left.name}: {format_size((left.width, left.height), units)}")
    print("\nTo buy")
    for one in buy:
        print(f"  {buy_words(one, units)}")
