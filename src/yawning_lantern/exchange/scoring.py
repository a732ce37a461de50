"""Score plans in words and as data: each piece placed at the fence, and the numbers to read off."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from yawning_lantern.bench import Placing, Reading, ScorePlan
from yawning_lantern.measure import MM_PER_INCH, Units, format_fine, format_length

_DECIMALS = 5  # decimals of a length in mm


def placing_words(placing: Placing) -> str:
    """How a piece lies: “left edge at the fence, back up”."""
    return f"{placing.edge} edge at the fence, {placing.face} up"


def reading_words(reading: Reading, units: Units) -> str:
    """One number as it is read off: “1 7/8”, “5 7/16, no groove: 5 1/2 is 1/16 too far”, “2, only from 1 to 3”."""
    told = format_length(reading.mark, units, mark=False)
    if not reading.is_on:
        nearest = format_length(reading.groove - reading.offset, units, mark=False)
        way = "too far" if reading.residual > 0 else "too near"
        told += f", no groove: {nearest} is {format_fine(abs(reading.residual), units)} {way}"
    if reading.runs:
        ends = [[format_length(end, units, mark=False) for end in run] for run in reading.runs]
        runs = [f"from {a} to {b}" for a, b in ends]
        told += f", only {' and '.join(runs)}"
    return told


def scores_json(plans: Sequence[ScorePlan], numbers: Sequence[float], units: Units) -> dict[str, Any]:
    """Score plans as data, lengths in the units: see the file formats page."""
    divide = MM_PER_INCH if units == "in" else 1.0

    def u(mm: float) -> float:
        return round(mm / divide, _DECIMALS) + 0.0

    def read(reading: Reading) -> dict[str, Any]:
        runs = [[u(a), u(b)] for a, b in reading.runs]
        return {"number": u(reading.number), "groove": u(reading.groove), "on": reading.is_on, "runs": runs}

    return {
        "units": units,
        "numbers": [u(number) for number in numbers],
        "pieces": [
            {
                "piece": plan.piece.id,
                "name": plan.piece.name,
                "quantity": plan.piece.quantity,
                "width": u(plan.piece.size[0]),
                "height": u(plan.piece.size[1]),
                "placings": [
                    {"edge": p.edge, "up": p.face, "readings": [read(reading) for reading in p.readings]}
                    for p in plan.placings
                ],
                "slanted": [
                    {"up": face, "from": [u(v) for v in a], "to": [u(v) for v in b]} for face, a, b in plan.slanted
                ],
            }
            for plan in plans
        ],
    }
