"""What would cure a gap: edits of the parameters in its expression, each rounded in the direction that cures."""

from __future__ import annotations

from collections.abc import Callable

from msgspec import Struct

from yawning_lantern.fit.checks import Check
from yawning_lantern.measure import snap


class Candidate(Struct, frozen=True):
    """One edit: give `parameter` of `element` the value (mm), or with None let the program work it out."""

    element: str
    parameter: str
    value: float | None


def candidates(
    check: Check,
    current: Callable[[str, str], float | None],
    is_given: Callable[[str, str], bool],
    grid: Callable[[str, str], float],
) -> tuple[Candidate, ...]:
    """Edits that should bring a gap into its wanted range, the most natural first. None where it is within already.

    `current` gives a parameter's value (mm), `grid` its tool's grid (mm), `is_given` whether the maker typed it.
    """
    if check.is_fine:
        return ()
    lo, hi = check.want
    value = check.gap.value
    target = lo if value < lo else hi
    candidates: list[Candidate] = []
    levers = [term.lever for term in check.gap.span.terms if term.lever is not None]
    levers.sort(key=lambda lever: lever.element != check.gap.element)
    for lever in levers:
        if is_given(lever.element, lever.parameter):
            candidates.append(Candidate(lever.element, lever.parameter, None))
    for lever in levers:
        now = current(lever.element, lever.parameter)
        if now is None or abs(lever.slope) < 1e-9:
            continue
        raises_gap = lever.slope > 0
        up = raises_gap if value < lo else not raises_gap
        want = now + (target - value) / lever.slope
        new = snap(want, grid(lever.element, lever.parameter), "up" if up else "down").value
        if (new > 0 or lever.is_place) and abs(new - now) > 1e-6:
            candidates.append(Candidate(lever.element, lever.parameter, new))
    return tuple(dict.fromkeys(candidates))
