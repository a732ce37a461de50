"""The plan for the bench as data and in words, and its evenings as a calendar (iCalendar, RFC 5545)."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import UTC, datetime, time, timedelta
from typing import Any
from zlib import crc32

from yawning_lantern.bench import KINDS, BenchPlan, Placing, Step
from yawning_lantern.bench.evenings import Evening
from yawning_lantern.exchange.scoring import reading_words
from yawning_lantern.measure import MM_PER_INCH, Units, speak
from yawning_lantern.on_use import load

_DECIMALS = 5  # decimals of a length in mm
BEGINS = time(19, 30)
"""When an evening begins."""


def bench_json(plan: BenchPlan, units: Units) -> dict[str, Any]:
    """The plan as data, lengths in the units: see the file formats page."""
    divide = MM_PER_INCH if units == "in" else 1.0

    def u(mm: float) -> float:
        return round(mm / divide, _DECIMALS) + 0.0

    def read(placing: Placing | None) -> list[dict[str, Any]]:
        if placing is None:
            return []
        on = [u(r.mark) for r in placing.readings if r.is_on]
        records = [{"edge": placing.edge, "fence": on, "on_grid": True, "residual": 0.0}] if on else []
        records += [
            {"edge": placing.edge, "fence": [u(r.mark)], "on_grid": False, "residual": u(r.residual)}
            for r in placing.readings
            if not r.is_on
        ]
        return records

    def told(k: int, step: Step) -> dict[str, Any]:
        return {
            "number": k + 1,
            "id": step.id,
            "kind": step.kind,
            "piece": step.piece,
            "parts": list(step.parts),
            "text": speak(step.text, units),
            "heed": speak(step.heed, units),
            "face_up": step.face,
            "readings": read(step.placing),
            "needs": list(step.needs),
            "because": speak(step.because, units),
            "minutes": step.minutes,
            "wait": step.wait,
            "caution": step.caution,
            "state": step.state,
            "copies": step.copies,
            "tools": list(step.tools),
        }

    chain, least = plan.critical
    return {
        "units": units,
        "minutes": plan.minutes,
        "waits": plan.waits,
        "critical": {"minutes": least, "steps": list(chain)},
        "stuck": list(plan.stuck),
        "steps": [told(k, step) for k, step in enumerate(plan.steps)],
    }


def bench_words(plan: BenchPlan, units: Units) -> list[str]:
    """The plan as lines of text: scores as they are read off the fence."""
    lines = []
    for k, step in enumerate(plan.steps):
        lines.append(f"{k + 1:3}  {step_words(step, units)}")
        if step.placing is not None:
            lines += [f"       {reading_words(reading, units)}" for reading in step.placing.readings]
        lines += [f"       {speak(words, units)}" for words in (step.heed, step.caution) if words]
        if step.because:
            lines.append(f"       Now, because {speak(step.because, units)}.")
        if step.state != "sure":
            lines.append(f"       {step.state.capitalize()}.")
    return lines


def step_words(step: Step, units: Units) -> str:
    """A step in one sentence, begun by what is done."""
    text = speak(step.text, units)
    kind = KINDS[step.kind]
    return text if text.startswith(kind) else f"{kind}. {text}"


def calendar(name: str, sittings: Sequence[Evening], units: Units, stamp: datetime | None = None) -> bytes:
    """Evenings as an iCalendar file: an event each, its steps in the description. Times are local ones."""
    ical = load("icalendar")
    made = stamp or datetime.now(UTC)
    whole = ical.Calendar()
    whole.add("prodid", "-//Yawning Lantern//bench//EN")
    whole.add("version", "2.0")
    for k, sitting in enumerate(sittings):
        event = ical.Event()
        begins = datetime.combine(sitting.day, BEGINS)
        event.add("uid", f"{sitting.day:%Y%m%d}-{k + 1}-{abs(hash_of(name))}@yawning-lantern")
        event.add("dtstamp", made)
        event.add("dtstart", begins)
        event.add("dtend", begins + timedelta(minutes=max(15, round(sitting.minutes))))
        event.add("summary", f"{name}: evening {k + 1} of {len(sittings)}")
        lines = [step_words(step, units) for step in sitting.steps]
        event.add("description", "\n".join(lines))
        whole.add_component(event)
    text: bytes = whole.to_ical()
    return text


def hash_of(name: str) -> int:
    """A number of a name that is the same tomorrow (CRC-32)."""
    return crc32(name.encode())
