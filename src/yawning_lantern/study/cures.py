"""What would cure a fit: edits of the measurements in its sum, each tried before it is offered."""

from __future__ import annotations

from msgspec import structs

from yawning_lantern.assembly import uses
from yawning_lantern.assembly.spans import PLACES
from yawning_lantern.design import Design, Place, replace_element, set_value
from yawning_lantern.errors import LanternError
from yawning_lantern.fit import Candidate, Check, candidates
from yawning_lantern.structures import Family, Parameter
from yawning_lantern.study.study import Study

_TRIED = 10  # remedies that are tried out
_PLACE_LABELS = dict(zip(PLACES, ("Place, across", "Place, up"), strict=True))


def lever_label(family: Family, parameter: str) -> str:
    """What a maker calls what a remedy changes: a parameter of a family, or where a part sits on its face."""
    if parameter in _PLACE_LABELS:
        return _PLACE_LABELS[parameter]
    return next((p.label for p in family.parameters if p.id == parameter), parameter)


def remedies(study: Study, check: Check) -> tuple[Candidate, ...]:
    """Edits that were tried and cure the check without making another clash."""

    def is_given(element: str, parameter: str) -> bool:
        if parameter in PLACES:
            return bool(study.current(element, parameter))
        return element in study.resolved and parameter in study.resolved[element].element.settings

    def declared(element: str, parameter: str) -> Parameter | None:
        of = study.resolved[element].family.parameters if element in study.resolved else ()
        return next((p for p in of if p.id == parameter), None)

    def grid(element: str, parameter: str) -> float:
        final, p = study.resolved[element].final, declared(element, parameter)
        return final.score.grid if p is not None and p.scored else final.cut.grid

    def is_fact(element: str, parameter: str) -> bool:
        p = declared(element, parameter)
        return p is not None and p.fact

    clashes = sum(c.is_clash for c in study.checks)
    cures = []
    wanted = [c for c in candidates(check, study.current, is_given, grid) if not is_fact(c.element, c.parameter)]
    if check.gap.use == uses.BESIDE:  # of two that stand side by side one is moved before either is made smaller
        wanted.sort(key=lambda candidate: candidate.parameter not in PLACES)
    for candidate in wanted[:_TRIED]:
        try:
            trial = Study(applied(study, candidate), study.catalogue)
        except LanternError:
            continue
        now = [c for c in trial.checks if _one_gap(c) == _one_gap(check)]
        now = now or [c for c in trial.checks if _one_face(c) == _one_face(check)]
        gone = not now and check.gap.use.only_short
        fewer = sum(c.is_clash for c in trial.checks) < clashes + (not check.is_clash)
        if (now or gone) and all(c.is_fine for c in now) and fewer:
            cures.append(candidate)
    return tuple(cures)


def _one_gap(check: Check) -> tuple[object, ...]:
    return check.gap.code, check.gap.element, check.gap.where, check.gap.between


def _one_face(check: Check) -> tuple[object, ...]:
    """What two checks share that tell of one thing on one face: both sides may have become one."""
    return check.gap.code, check.gap.element, check.gap.host, check.gap.mount


def applied(study: Study, candidate: Candidate) -> Design:
    """The design with a remedy applied: one edit."""
    if candidate.parameter in PLACES:
        place = study.resolved[candidate.element].place
        at = candidate.value or 0.0
        moved = Place(place.face, at, place.y, place.turn)
        if candidate.parameter == PLACES[1]:
            moved = Place(place.face, place.x, at, place.turn)
        return replace_element(study.design, candidate.element, lambda one: structs.replace(one, place=moved))
    return set_value(study.design, candidate.element, candidate.parameter, candidate.value)
