"""A script carried out: where the facets lie after each step, and in which order.

Folding is strict. What moves must be free: nothing that stays lies on it, nothing else joins it to what stays, no
panel is creased where it has no score. Else the fold is refused and it is said who is in the way. That a fold lands
well is then no question; the end is judged by other means (`order.broken`).
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from itertools import islice

from msgspec.structs import replace

from yawning_lantern.errors import ParameterError
from yawning_lantern.flatfold.order import broken, orders
from yawning_lantern.flatfold.points import inner_points
from yawning_lantern.flatfold.script import Bring, Glue, Hinges, Script, Step, Tuck, Turn
from yawning_lantern.flatfold.sheet import Sheet
from yawning_lantern.flatfold.state import SLIVER, Folded, Pair, Stuck, back, flat, meets, mirror, overlaps, place, then
from yawning_lantern.pattern import Point, area, bounds
from yawning_lantern.pattern.convex import half, shared

_OFF = 1e-3  # mm: a corner this far over a line lies on it


def carried_out(sheet: Sheet, script: Script) -> tuple[Folded, ...]:
    """The state before the first step and after each. Raises ParameterError where a step cannot be done."""
    states = [flat(sheet)]
    for number, step in enumerate(script):
        try:
            states.append(stepped(states[-1], step))
        except ParameterError as problem:
            where = f"Act {number + 1}"
            raise ParameterError(problem.what, where, problem.remedy) from problem
    return tuple(states)


def stepped(state: Folded, step: Step) -> Folded:
    """The state after one step. Raises ParameterError where it cannot be done, and says why."""
    if isinstance(step, Turn):
        return _turned_over(state)
    if isinstance(step, Glue):
        return _glued(state, step)
    if isinstance(step, Tuck):
        return _tucked(state, step)
    return _brought(state, step)


def _turned_over(state: Folded) -> Folded:
    isos = tuple(then(iso, (-1.0, 0.0, 0.0, 1.0, 0.0, 0.0)) for iso in state.isos)
    return replace(state, isos=isos, above={pair: -sign for pair, sign in state.above.items()})


def _glued(state: Folded, step: Glue) -> Folded:
    a, b = state.sheet.at(step.a), state.sheet.at(step.b)
    if not state.over(a, b):
        raise ParameterError(f"{step.a} and {step.b} do not lie on one another.", "Glue", "Fold them together first.")
    common = shared(state.places[a], state.places[b])
    for k, outline in enumerate(state.places):
        between = state.over(a, k) and state.over(a, k) == state.over(k, b) == state.over(a, b)
        if between and area(shared(common, outline)) > area(common) - SLIVER:
            raise ParameterError(f"{state.name(k)} lies between {step.a} and {step.b}.", "Glue", "Glue neighbours.")
    if step.edges and step.width <= 0:
        raise ParameterError("A strip of glue without width holds nothing.", "Glue", "Give it a width.")
    x0, y0, x1, y1 = bounds(common)
    sides = {
        "left": (1.0, 0.0, x0 + step.width), "right": (-1.0, 0.0, step.width - x1),
        "foot": (0.0, 1.0, y0 + step.width), "head": (0.0, -1.0, step.width - y1),
    }  # fmt: skip
    strips = [half(common, -sides[e][0], -sides[e][1], -sides[e][2]) for e in step.edges] if step.edges else [common]
    home = back(state.isos[a])
    spots = tuple(place(strip, home) for strip in strips if strip)
    return replace(state, glued=(*state.glued, Stuck(a, b, spots)))


def _moved(state: Folded, ends: Hinges) -> tuple[set[int], tuple[Point, Point], list[int]]:
    """What a fold moves, its line and its hinges. Raises ParameterError where it is not free."""
    sheet = state.sheet
    hinges = [sheet.hinge(*pair) for pair in ends]
    line = state.stretch(hinges[0])
    normal = _normal(line)
    for k in hinges:
        if any(abs(_over(normal, p)) > _OFF for p in state.stretch(k)):
            raise ParameterError(
                f"{sheet.hinge_name(k)} does not lie on one line with {sheet.hinge_name(hinges[0])}.", "Fold",
                "Fold them one after another.",
            )  # fmt: skip
        if k in state.shut:
            raise ParameterError(f"{sheet.hinge_name(k)} is folded already.", "Fold", "Choose another score.")
        if not sheet.hinges[k].scored:
            raise ParameterError(f"{sheet.hinge_name(k)} has no score.", "Fold", "Score it first.")
    going = {sheet.at(beyond) for _, beyond in ends}
    todo = list(going)
    links = [(h.a, h.b) for k, h in enumerate(sheet.hinges) if k not in hinges]
    links += [(g.a, g.b) for g in state.glued]
    while todo:
        i = todo.pop()
        for a, b in links:
            for one, other in ((a, b), (b, a)):
                if one == i and other not in going:
                    going.add(other)
                    todo.append(other)
    for k in hinges:
        h = sheet.hinges[k]
        if h.a in going and h.b in going:
            raise ParameterError(
                f"{state.name(h.a)} and {state.name(h.b)} are still joined another way round.", "Fold", _freed(sheet, k)
            )
    return going, line, hinges


def _freed(sheet: Sheet, hinge: int) -> str:
    """What would let a fold be made that is held at one of its ends: a slit where the point there cannot fold flat."""
    for point in inner_points(sheet):
        if hinge in point.hinges and point.frees is not None:
            return f"The scores that meet there cannot fold flat: slit {sheet.hinge_name(point.frees)}."
    return "Slit what joins them, or fold both at once."


def _normal(line: tuple[Point, Point]) -> tuple[float, float, float]:
    (x0, y0), (x1, y1) = line
    length = math.hypot(x1 - x0, y1 - y0)
    nx, ny = -(y1 - y0) / length, (x1 - x0) / length
    return nx, ny, nx * x0 + ny * y0


def _over(normal: tuple[float, float, float], p: Point) -> float:
    return normal[0] * p[0] + normal[1] * p[1] - normal[2]


def _one_sided(state: Folded, going: Iterable[int], line: tuple[Point, Point]) -> None:
    """Raise ParameterError where some of what moves lies beyond the line already: it would swing down there."""
    normal = _normal(line)
    sides: dict[int, str] = {}
    for i in going:
        over = [_over(normal, p) for p in state.places[i]]
        if min(over) < -_OFF and max(over) > _OFF:
            raise ParameterError(
                f"The fold runs across {state.name(i)}, which has no score there.", "Fold",
                "Score it there, or slit it free.",
            )  # fmt: skip
        sides[1 if max(over) > _OFF else -1] = state.name(i)
    if len(sides) == 2:
        raise ParameterError(
            f"{sides[1]} and {sides[-1]} move together but lie on both sides of the fold.", "Fold",
            "Open the one that was folded across first.",
        )  # fmt: skip


def _reflected(state: Folded, going: set[int], line: tuple[Point, Point], hinges: Sequence[int]) -> Folded:
    """What moves reflected, its own layers the other way round; what it now meets is not yet ordered."""
    flip = mirror(*line)
    isos = tuple(then(iso, flip) if i in going else iso for i, iso in enumerate(state.isos))
    above = {
        (i, j): -sign if i in going else sign for (i, j), sign in state.above.items() if (i in going) == (j in going)
    }
    return Folded(state.sheet, isos, above, state.shut | set(hinges), state.glued)


def _met(after: Folded, going: set[int]) -> list[Pair]:
    """Pairs of what moved and what stayed that share area now."""
    n = len(after.isos)
    return [
        (i, j)
        for i in range(n)
        for j in range(i + 1, n)
        if (i in going) != (j in going) and meets(after.places[i], after.places[j])
    ]


def _brought(state: Folded, step: Bring) -> Folded:
    going, line, hinges = _moved(state, step.hinges)
    way = 1 if step.way == "over" else -1
    for (i, j), sign in state.above.items():
        if (i in going) == (j in going):
            continue
        mover, stays = (i, j) if i in going else (j, i)
        if (sign if i in going else -sign) == way:  # the one that stays lies on the side it must leave by
            where = "on" if way > 0 else "under"
            raise ParameterError(
                f"{state.name(stays)} lies {where} {state.name(mover)}, which must move.", "Fold",
                f"Fold {state.name(stays)} away first, or tuck instead.",
            )  # fmt: skip
    _one_sided(state, going, line)
    after = _reflected(state, going, line, hinges)
    above = dict(after.above)
    for i, j in _met(after, going):
        above[i, j] = way if j in going else -way
    return replace(after, above=above)


def _tucked(state: Folded, step: Tuck) -> Folded:
    """A fold that ends between layers. What is not told follows from what paper can do; where more than one order
    stands, it must be told."""
    going, line, hinges = _moved(state, step.hinges)
    _one_sided(state, going, line)
    after = _reflected(state, going, line, hinges)
    known = dict(after.above)
    for names, sign in ((step.over, 1), (step.under, -1)):
        for name in names:
            k = state.sheet.at(name)
            if k in going:
                raise ParameterError(f"{name} moves itself.", "Tuck", "Name what it slips between.")
            for i in going:
                pair = (min(i, k), max(i, k))
                if meets(after.places[i], after.places[k]):
                    known[pair] = sign if i > k else -sign
    found = list(islice(orders(after, known), 2))
    if not found:
        raise ParameterError(
            f"{step.hinges[0][1]} cannot be tucked there: it would go through paper.", "Tuck",
            "Slip it in elsewhere, or fold it before what it goes under.",
        )  # fmt: skip
    if len(found) > 1:
        unsure = next(pair for pair in found[0] if found[0][pair] != found[1][pair])
        raise ParameterError(
            f"It is open whether {state.name(unsure[0])} comes over or under {state.name(unsure[1])}.", "Tuck",
            "Name what it goes over and under.",
        )  # fmt: skip
    return replace(after, above=dict(found[0]))


def sound(state: Folded) -> str:
    """What is wrong with a state as a sentence, or nothing: every pair that meets has an order, and paper can do it."""
    for i, j in overlaps(state.places):
        if not state.over(i, j):
            return f"It is not told whether {state.name(i)} lies over {state.name(j)}."
    for condition in broken(state):
        names = ", ".join(state.name(k) for k in sorted({k for pair in condition.pairs for k in pair}))
        return f"{names}: {condition.kind}."
    return ""
