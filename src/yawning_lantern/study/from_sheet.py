"""From the sheet at hand: the largest of a structure whose every piece can be cut from one square sheet."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from yawning_lantern.assembly import uses
from yawning_lantern.design import Design, Value
from yawning_lantern.errors import LanternError, ParameterError
from yawning_lantern.measure import format_length, snap
from yawning_lantern.stock import builtin_catalogue
from yawning_lantern.structures import family, start_design
from yawning_lantern.study.study import Study

_STRIP = "strip-length"
_LARGEST, _SMALLEST, _STEPS, _HALVINGS = 5.0, 0.1, 48, 9
"""Shares of the sheet from which and to which it is tried, in how many steps, and how often the last is halved."""


def fill_sheet(family_id: str, settings: Mapping[str, Value], sheet: float, **start: Any) -> Design:
    """A design of a family, scaled until a square sheet of this side (mm) takes each of its pieces and no larger does.

    What `settings` gives stays; the other lengths of the family's headline grow together from their usual sizes, each
    rounded down to the cutting tool. `start` goes to `start_design`.

    Raises:
        ParameterError: not even the smallest fits. UnknownNameError: no such family or parameter.
    """
    kind = family(family_id)
    usual = Study(start_design(family_id, settings, **start)).resolved
    root = next(iter(usual.values()))
    declared = {p.id: p for p in kind.parameters}
    names = [
        n
        for n in kind.headline
        if n in root.sizes and n not in settings and declared[n].kind == "length" and not declared[n].derived
    ]
    grid = builtin_catalogue().tool(root.final.cut.id).grid

    if _STRIP in declared and _STRIP not in settings:
        settings = {**settings, _STRIP: sheet}  # strips run along the sheet

    def made(share: float) -> Design | None:
        sized: dict[str, Value] = dict(settings)
        for name in names:
            sized[name] = max(snap(root.sizes[name].length * share, grid, "down").value, declared[name].least)
        try:
            design = start_design(family_id, sized, **start)
            study = Study(design)
        except LanternError:
            return None
        fits = all(max(piece.size) <= sheet + 1e-6 for piece in study.pieces if not piece.bought)
        clash = any(check.is_clash and check.gap.use != uses.SHEET for check in study.checks)
        return design if fits and not clash else None

    ratio = (_SMALLEST / _LARGEST) ** (1 / _STEPS)
    share = _LARGEST
    for _ in range(_STEPS):
        best = made(share)
        if best is not None:
            break
        share *= ratio
    else:
        raise ParameterError(
            f"No {kind.name.lower()} can be cut from a sheet of {format_length(sheet, start.get('units', 'in'))}.",
            "Sheet",
            "Take a larger sheet.",
        )
    good, bad = share, share / ratio
    for _ in range(_HALVINGS):
        middle = (good + bad) / 2
        found = made(middle)
        if found is None:
            bad = middle
        else:
            good, best = middle, found
    return best
