"""`booklet`: everything on paper, from the shopping list to the templates."""

from __future__ import annotations

import argparse
from pathlib import Path

from yawning_lantern.cli.designs import design_arguments, told_design
from yawning_lantern.errors import ParameterError
from yawning_lantern.exchange.booklet import write_booklet
from yawning_lantern.exchange.pages import PAPERS
from yawning_lantern.measure import Units
from yawning_lantern.study import Study, sound
from yawning_lantern.study.at_bench import plan_bench


def booklet_arguments(command: argparse.ArgumentParser) -> None:
    """Of what, on which paper."""
    design_arguments(command)
    command.add_argument("--pdf", type=Path, metavar="OUT", required=True, help="the booklet to write")
    command.add_argument("--paper", choices=tuple(PAPERS), default="letter", help="paper of its pages")
    command.add_argument("--copies", type=int, default=1, help="how many are made side by side")
    command.add_argument("--trial", action="store_true", help="a paper trial: steps and templates for copy paper")


def make_booklet(options: argparse.Namespace) -> int:
    """Write the booklet."""
    if not 1 <= options.copies <= 1000:
        raise ParameterError(f"{options.copies} copies cannot be planned.", "Copies", "Give 1 to 1000.")
    design = told_design(options)
    units: Units = options.units or design.units
    study = sound(Study(design))
    plan = plan_bench(study, copies=options.copies)
    write_booklet(study, plan, options.pdf, units, options.paper, copies=options.copies, trial=options.trial)
    print(f"{design.name}: {len(plan.steps)} steps on paper, {options.pdf.name}")
    return 0
