"""Evenings before a date: the steps cut into sittings, glue drying over night."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date, timedelta

from msgspec import Struct

from yawning_lantern.bench.plan import BenchPlan
from yawning_lantern.bench.step import Step

LONG = 90.0
"""How long an evening is, minutes."""


class Evening(Struct, frozen=True):
    """One sitting: its day, its steps, minutes of hands and of waiting."""

    day: date
    steps: tuple[Step, ...]
    minutes: float


def evenings(plan: BenchPlan, until: date, long: float = LONG) -> tuple[Evening, ...]:
    """The steps in order on the last days before a date, no sitting longer than `long` minutes unless one step is.

    A wait at the end of an evening passes over night. There are as few sittings as there can be, and of those none
    longer than it must.
    """
    count, least = len(_cut_up(plan.steps, long)), 1.0
    while long - least > 1.0:  # the shortest evening that makes no more of them
        middle = (least + long) / 2
        least, long = (least, middle) if len(_cut_up(plan.steps, middle)) <= count else (middle, long)
    sittings = _cut_up(plan.steps, long)
    first = until - timedelta(days=len(sittings))
    return tuple(
        Evening(first + timedelta(days=k), tuple(steps), round(sum(step.minutes for step in steps), 2))
        for k, steps in enumerate(sittings)
    )


def _cut_up(steps: Sequence[Step], long: float) -> list[list[Step]]:
    """Sittings filled from the last one back."""
    groups: list[list[Step]] = []
    now: list[Step] = []
    took = 0.0
    for step in reversed(steps):
        if now and took + step.minutes > long:
            groups.append(now)
            now, took = [], 0.0
        if not now and step.kind == "wait":
            continue  # it passes over night
        now.append(step)
        took += step.minutes
    if now:
        groups.append(now)
    return [list(reversed(one)) for one in reversed(groups)]
