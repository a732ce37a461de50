"""`scores`: how every piece is scored, one number at a time."""

from __future__ import annotations

import argparse
import json

from yawning_lantern.bench import fewest_numbers, score_plan
from yawning_lantern.cli.designs import design_arguments, told_design
from yawning_lantern.exchange.plan import score_tool
from yawning_lantern.exchange.scoring import placing_words, reading_words, scores_json
from yawning_lantern.measure import Units, format_length, format_size
from yawning_lantern.study import Study, sound


def scores_arguments(command: argparse.ArgumentParser) -> None:
    """Of what, and how it is told."""
    design_arguments(command)
    command.add_argument("--json", action="store_true", help="print the score plans as JSON")


def tell_scores(options: argparse.Namespace) -> int:
    """Tell each piece's placings and numbers, and the fewest numbers for all of them."""
    design = told_design(options)
    units: Units = options.units or design.units
    study = sound(Study(design))
    tool = score_tool(study)
    pieces = [piece for piece in study.pieces if not piece.bought]
    plans, numbers = [score_plan(piece, tool) for piece in pieces], fewest_numbers(pieces)
    if options.json:
        print(json.dumps(scores_json(plans, numbers, units), indent=2, ensure_ascii=False))
        return 0
    print(f"{design.name}, scored on {tool.name}")
    for plan in plans:
        piece = plan.piece
        count = f"{piece.quantity} × " if piece.quantity > 1 else ""
        print(f"\n{count}{piece.name}, {format_size(piece.size, units)}")
        if not plan.placings and not plan.slanted:
            print("  no score")
        for placing in plan.placings:
            print(f"  {placing_words(placing)}:")
            for reading in placing.readings:
                print(f"      {reading_words(reading, units)}")
        for face, a, b in plan.slanted:
            ends = " to ".join(", ".join(format_length(v, units, mark=False) for v in end) for end in (a, b))
            print(f"  slanted, {face} up: from {ends}")
    told = ", ".join(format_length(number, units, mark=False) for number in numbers)
    if numbers:
        many = "1 number does" if len(numbers) == 1 else f"{len(numbers)} numbers do"
        print(f"\nWith a stop that is set once for all pieces and copies {many}: {told}")
    return 0
