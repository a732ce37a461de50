"""`bench-plan`: the whole design step by step, in an order in which every joint can be reached."""

from __future__ import annotations

import argparse
import json
import sys
from datetime import date
from pathlib import Path

from yawning_lantern.bench import Schools
from yawning_lantern.bench.evenings import LONG, evenings
from yawning_lantern.cli.designs import design_arguments, told_design
from yawning_lantern.errors import ParameterError
from yawning_lantern.exchange.bench_data import bench_json, bench_words, calendar
from yawning_lantern.exchange.files import write_atomically
from yawning_lantern.measure import Units
from yawning_lantern.study import Study, sound
from yawning_lantern.study.at_bench import plan_bench

MOST = 1000  # copies that can be planned at once


def bench_arguments(command: argparse.ArgumentParser) -> None:
    """Of what, how many, which school, and how it is told."""
    design_arguments(command)
    command.add_argument("--copies", type=int, default=1, help="how many are made side by side")
    command.add_argument("--decorate", choices=("flat", "later"), default="flat", help="mats on while flat, or later")
    command.add_argument("--notch", choices=("before", "after"), default="before", help="punch before a pocket shuts")
    command.add_argument("--json", action="store_true", help="print the plan as JSON")
    command.add_argument("--by", metavar="DATE", help="cut it into evenings before a day, such as 2027-03-14")
    command.add_argument("--evening", type=float, default=LONG, metavar="MINUTES", help="how long an evening is")
    command.add_argument("--calendar", type=Path, metavar="OUT", help="write the evenings as .ics (with --by)")


def tell_bench(options: argparse.Namespace) -> int:
    """Tell every step; with a day, which evening it is done."""
    if not 1 <= options.copies <= MOST:
        raise ParameterError(f"{options.copies} copies cannot be planned.", "Copies", f"Give 1 to {MOST}.")
    if not options.evening >= 10:
        raise ParameterError("An evening is ten minutes at least.", "Evening", "Give its minutes, such as 90.")
    until = _day(options.by)
    if options.calendar and until is None:
        raise ParameterError("Evenings need a day to be done by.", "Calendar", "Add --by, such as --by 2027-03-14.")
    design = told_design(options)
    units: Units = options.units or design.units
    study = sound(Study(design))
    plan = plan_bench(study, Schools(options.decorate, options.notch), options.copies)
    if options.json:
        print(json.dumps(bench_json(plan, units), indent=2, ensure_ascii=False))
    else:
        waits = f", {plan.waits:.0f} minutes of waiting" if plan.waits else ""
        print(f"{design.name}: {len(plan.steps)} steps, {plan.minutes:.0f} minutes of hands{waits}\n")
        print("\n".join(bench_words(plan, units)))
        if plan.stuck:
            print(f"\nNo hand reaches: {', '.join(plan.stuck)}. Make the thing wider, or use tweezers.")
    if until is not None:
        sittings = evenings(plan, until, options.evening)
        if not options.json:
            for sitting in sittings:
                first, last = plan.at[sitting.steps[0].id] + 1, plan.at[sitting.steps[-1].id] + 1
                print(f"\n{sitting.day:%a %d %b %Y}: steps {first} to {last}, {sitting.minutes:.0f} minutes")
        if options.calendar:
            write_atomically(options.calendar, calendar(design.name, sittings, units))
    if study.has_clash:
        print("lantern: Something clashes; `./lantern plan` tells what. Mend it before you cut.", file=sys.stderr)
    return 1 if study.has_clash else 0


def _day(text: str | None) -> date | None:
    if text is None:
        return None
    try:
        return date.fromisoformat(text)
    except ValueError:
        raise ParameterError(f"“{text}” is no day.", "By", "Write year, month and day, such as 2027-03-14.") from None
