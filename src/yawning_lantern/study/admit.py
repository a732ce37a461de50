"""What would admit a design that is refused or clashes: the one reason, and the smallest change that cures it."""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping

from msgspec import Struct

from yawning_lantern.assembly import sits_on, uses
from yawning_lantern.design import (
    Design,
    Element,
    Place,
    Value,
    find,
    move_guest,
    parent_of,
    remove_element,
    set_stock,
    set_value,
)
from yawning_lantern.errors import LanternError
from yawning_lantern.fit import check_gaps, headline, sentence
from yawning_lantern.measure import snap
from yawning_lantern.stock import Catalogue, Paper
from yawning_lantern.structures import Parameter, family, setting_words
from yawning_lantern.study.resolve import Resolved, paper_of, resolve
from yawning_lantern.study.study import Study

_SHARES = (0.97, 1.03, 0.94, 1.06, 0.86, 1.15, 0.72, 1.35, 0.55, 1.8, 0.35, 2.7)
"""Shares of a measurement that are tried instead, the nearest first."""
_STOCK = 0.9  # how great a change it is to make it from thinner stock
_LET, _WORD = 1.0, 1.2  # how great a change: to let a value be worked out, to take another word
_MOVED, _TAKEN = 1.5, 2.0  # how great a change: put on another face, taken off


class Admission(Struct, frozen=True):
    """Why a design is refused, and the smallest change that admits it, in words and done."""

    reason: str
    change: str
    design: Design


class _Trial:
    """Tries designs; what the last one that could be settled shares with the next is not settled again."""

    def __init__(self, catalogue: Catalogue, known: Mapping[str, Resolved]) -> None:
        self.catalogue, self.known = catalogue, known

    def admits(self, design: Design) -> bool:
        """Whether a design is solved with nothing clashing."""
        try:
            resolved = resolve(design, self.catalogue, self.known)
        except LanternError:
            return False
        self.known = {**self.known, **resolved}
        gaps = (gap for r in resolved.values() for gap in (*r.gaps, *r.part.gaps))
        if any(check.is_clash for check in check_gaps(gaps)):
            return False
        return not Study(design, self.catalogue, settled=resolved).has_clash


def _reason(design: Design, catalogue: Catalogue) -> tuple[str, str, Study | None] | None:
    """The reason in a sentence, the element it concerns, and the study where there is one; None where all is well."""
    try:
        study = Study(design, catalogue)
    except LanternError as error:
        return error.sentence(), error.element or design.root.id, None
    clashes = [check for check in study.checks if check.is_clash]
    if not clashes:
        return None
    worst = min(clashes, key=lambda check: check.gap.value)
    return f"{headline(worst)}: {sentence(worst, design.units)}.", worst.gap.element, study


def _near(now: float, declared: Parameter, grid: float) -> Iterator[float]:
    """Values about the present one, nearest first."""
    if declared.kind == "count":
        for step in range(1, 9):
            yield now - step
            yield now + step
        return
    for share in _SHARES:
        yield snap(now * share, grid, "down" if share < 1 else "up").value


def _sized(
    trial: _Trial, design: Design, element: Element, declared: Parameter, now: float, grid: float, best: float
) -> tuple[float, Value] | None:
    """The value nearest to the present one that admits the design, with how far off it is; None beyond `best`."""
    tried = set()
    for value in _near(now, declared, grid):
        if value in tried or not declared.least <= value <= declared.most or value <= 0:
            continue
        tried.add(value)
        if _weight(value, now) >= best:
            break
        if not trial.admits(set_value(design, element.id, declared.id, _typed(declared, value))):
            continue
        good, bad = value, now
        if declared.kind == "length":
            while (middle := snap((good + bad) / 2, grid, "nearest").value) not in (good, bad):
                if trial.admits(set_value(design, element.id, declared.id, middle)):
                    good = middle
                else:
                    bad = middle
        return _weight(good, now), _typed(declared, good)
    return None


def _weight(value: float, now: float) -> float:
    return abs(math.log(value / now)) if now > 0 else 1.0


def _typed(declared: Parameter, value: float) -> Value:
    return round(value) if declared.kind == "count" else value


def _changes(
    trial: _Trial, design: Design, element: Element, study: Study | None, best: float
) -> Iterator[tuple[float, str, Design]]:
    """Single changes of one element that admit the design, each smaller than `best` and the last: (weight, words,
    design)."""
    kind = family(element.family)
    name = element.name or kind.name
    given = element.settings  # as they stand: a value that is out of bounds may be the reason
    grid = trial.catalogue.tool(design.cut_tool).grid
    for paper in _thinner(trial, design, element, study) if best > _STOCK else ():
        changed = set_stock(design, element.id, paper.id)
        if trial.admits(changed):
            best = _STOCK
            yield best, f"Make {name} from {paper.name}.", changed
            break
    for declared in kind.parameters:
        if declared.derived or declared.structural:
            continue
        if declared.kind in ("text", "lengths") and declared.id not in given:
            continue
        if declared.id in given and best > _LET:
            without = set_value(design, element.id, declared.id, None)
            if trial.admits(without):
                best = _LET
                yield best, f"Let “{declared.label}” of {name} be worked out.", without
        now: Value | None = given.get(declared.id, declared.default)
        if now is None and study is not None and element.id in study.resolved:
            sized = study.resolved[element.id].sizes.get(declared.id)
            now = sized.value if sized is not None else None
        if declared.kind in ("text", "lengths"):
            continue
        if declared.kind == "word":
            for word in declared.words if best > _WORD else ():
                tried = set_value(design, element.id, declared.id, word)
                if word != now and trial.admits(tried):
                    best = _WORD
                    yield best, f"Set “{declared.label}” of {name} to {word}.", tried
                    break
            continue
        if now is None or isinstance(now, str):  # what goes before what is told is no small change
            continue
        found = _sized(trial, design, element, declared, float(now), grid, best)
        if found is not None:
            best, value = found
            words = f"Set “{declared.label}” of {name} to {setting_words(value, declared, design.units)}."
            yield best, words, set_value(design, element.id, declared.id, value)


def _thinner(trial: _Trial, design: Design, element: Element, study: Study | None) -> list[Paper]:
    """Stock that is thinner than an element's own, the nearest first, where the fits ask for it or nothing is known."""
    asked = study is None or any(
        c.is_clash and c.gap.use in (uses.STOCK, uses.PANEL) and c.gap.element == element.id for c in study.checks
    )
    papers = [paper_of(paper, design.calipers.get(paper.id)) for paper in trial.catalogue.papers if asked]
    now = next((p for p in papers if p.id == (element.stock or design.stock)), None)
    thinner = [p for p in papers if p.kind != "film" and now is not None and p.caliper < now.caliper - 1e-6]
    return sorted(thinner, key=lambda p: -p.caliper)


def _elsewhere(trial: _Trial, design: Design, element: Element) -> Iterator[tuple[float, str, Design]]:
    """Other faces of its host, and without it."""
    host = parent_of(design, element.id)
    if host is None:
        return
    kind, turn = family(host.family), element.place.turn if element.place else 0
    name = element.name or family(element.family).name
    taken = {g.place.face for g in host.guests if g.place}
    try:
        rooms = Study(remove_element(design, element.id), trial.catalogue).resolved[host.id].rooms
    except LanternError:
        rooms = {}
    for face, words in kind.faces:
        if face in taken or face not in rooms or not sits_on(family(element.family).relation, rooms[face].relation):
            continue
        moved = move_guest(design, element.id, host.id, Place(face, turn=turn))
        if trial.admits(moved):
            yield _MOVED, f"Put {name} on “{words}”.", moved
            break
    without = remove_element(design, element.id)
    if trial.admits(without):
        yield _TAKEN, f"Take {name} off.", without


def admission(design: Design, catalogue: Catalogue) -> Admission | None:
    """The one reason why a design is refused or clashes, and the smallest single change that admits it.

    None where nothing has to change. The part concerned, its host and its guests are tried. A change in
    proportion weighs by its logarithm; to let a value be worked out weighs as much as a length made 2.7 times as long,
    another face or taking a part off more. Where no single change helps, parts go until the rest can be made.
    """
    found = _reason(design, catalogue)
    if found is None:
        return None
    reason, concerned, study = found
    trial = _Trial(catalogue, study.resolved if study else {})
    element = find(design, concerned)
    near = [element]
    host = parent_of(design, concerned)
    if host is not None:
        near.append(host)
    near += list(element.guests)
    best: tuple[float, str, Design] | None = None
    for one in near:
        for option in _changes(trial, design, one, study, best[0] if best else math.inf):
            best = option
    for one in (element, *element.guests):
        for option in _elsewhere(trial, design, one) if best is None or best[0] > _MOVED else ():
            best = option if best is None or option[0] < best[0] else best
    if best is not None:
        return Admission(reason, best[1], best[2])
    words, rest = _stripped(trial, design, concerned)
    return Admission(reason, words, rest)


def _stripped(trial: _Trial, design: Design, concerned: str) -> tuple[str, Design]:
    """Where no single change helps: parts taken off, one after the other, until the rest can be made."""
    gone: list[str] = []
    while True:
        element = find(design, concerned)
        host = parent_of(design, concerned)
        if host is None:
            if element.guests:
                element = element.guests[-1]
                host = design.root
            else:
                for name in element.settings:
                    design = set_value(design, element.id, name, None)
                words = f"begin {element.name or family(element.family).name} again with nothing given"
                return _sentence([*(f"take {name} off" for name in gone), words]), design
        gone.append(element.name or family(element.family).name)
        design = remove_element(design, element.id)
        reason = _reason(design, trial.catalogue)
        if reason is None:
            return _sentence([f"take {name} off" for name in gone]), design
        concerned = reason[1]


def _sentence(deeds: list[str]) -> str:
    text = ", ".join(deeds)
    return f"{text[0].upper()}{text[1:]}."
