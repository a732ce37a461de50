"""An order to open in: each step proven clear in the state it happens in, and if there is none, what holds what."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass

from yawning_lantern.assembly import Assembly, CreaseStep
from yawning_lantern.opening.plates import Contact, Plates
from yawning_lantern.opening.sweep import sweep


RESTS = 0.85
"""Share of a swing from which a contact is a panel coming to rest on what lies there."""


@dataclass(frozen=True, slots=True)
class Step:
    """One motion as it opens. Angles are those of its first fold (degrees), `travel` what it slides or lifts, mm.

    `rests` is how far it comes (0 to 1): a falling panel comes to rest on what lies there. `contact` tells what it meets;
    a step that is not `clear` is what stops the opening.
    """

    motion: int
    from_deg: float
    to_deg: float
    travel: float
    clear: bool
    rests: float = 1.0
    contact: Contact | None = None


@dataclass(frozen=True, slots=True)
class Opening:
    """Steps in an order that works as far as there is one, what is in one place when shut, and the shortest ring of
    motions that hold each other where it stops (by index)."""

    steps: tuple[Step, ...]
    shut: tuple[Contact, ...]
    knot: tuple[int, ...] = ()

    @property
    def works(self) -> bool:
        """Whether everything opens and nothing was in one place."""
        return not self.shut and all(step.clear for step in self.steps)


def _told(assembly: Assembly, motion: int, contact: Contact | None) -> Step:
    start = added = 0.0
    for node in assembly.nodes:
        if isinstance(node.step, CreaseStep):
            added = sum(by for m, by in node.step.turns if m == motion)
            if added:
                start = node.step.shut + sum(by for m, by in node.step.turns if m < motion)
                break
    travel = max(
        (
            math.hypot(*way)
            for node in assembly.nodes
            if not isinstance(node.step, CreaseStep)
            for m, way in node.step.moves
            if m == motion
        ),
        default=0.0,
    )
    clear = _clear(assembly, motion, contact)
    rests = 1.0 if contact is None or not clear else contact.at
    end = start + added * rests
    return Step(motion, math.degrees(start), math.degrees(end), travel, clear, rests, contact)


def _clear(assembly: Assembly, motion: int, contact: Contact | None) -> bool:
    """Whether a motion may be done: nothing is met, or a falling panel comes to rest near the end of its swing."""
    return contact is None or (assembly.motions[motion].kind == "swing" and contact.at >= RESTS)


def find_opening(
    assembly: Assembly,
    plates: Plates | None = None,
    shut: Sequence[Contact] = (),
    cancelled: Callable[[], bool] = lambda: False,
) -> Opening:
    """An order in which every motion is clear, begun from the order the parts suggest.

    In each state the motions that are left are tried in turn; the first that is clear is done. Where none is, the way back
    is tried: another choice earlier on. If no order works, the longest that was found is told with what stops each of the
    rest, and the shortest ring of motions that hold one another.
    """
    plates = plates or Plates(assembly)
    count = len(assembly.motions)
    tried: dict[tuple[int, frozenset[int]], Contact | None] = {}

    def contact(motion: int, done: dict[int, float]) -> Contact | None:
        key = (motion, frozenset(done))
        if key not in tried:
            tried[key] = sweep(plates, motion, done, cancelled)
        return tried[key]

    longest: dict[int, float] = {}
    seen: set[frozenset[int]] = set()

    def search(done: dict[int, float]) -> dict[int, float] | None:
        nonlocal longest
        if len(done) > len(longest):
            longest = done
        if len(done) == count or cancelled():
            return done
        state = frozenset(done)
        if state in seen:
            return None
        seen.add(state)
        for motion in range(count):
            if motion in state or not _ready(assembly, motion, state):
                continue
            met = contact(motion, done)
            if _clear(assembly, motion, met):
                found = search({**done, motion: 1.0 if met is None else met.at})
                if found is not None:
                    return found
        return None

    order = search({})
    whole = order if order is not None else longest
    steps = [_told(assembly, m, contact(m, dict(list(whole.items())[:k]))) for k, m in enumerate(whole)]
    if order is not None:
        return Opening(tuple(steps), tuple(shut))
    left = [m for m in range(count) if m not in longest]
    steps += [_told(assembly, m, contact(m, longest)) for m in left]
    return Opening(tuple(steps), tuple(shut), _knot(assembly, left, {m: contact(m, longest) for m in left}))


def _ready(assembly: Assembly, motion: int, done: frozenset[int]) -> bool:
    """Whether motions of the same creases that come earlier are done: a strip is drawn step by step."""
    earlier = {
        m
        for node in assembly.nodes
        for m in (
            [m for m, _ in node.step.turns] if isinstance(node.step, CreaseStep) else [m for m, _ in node.step.moves]
        )
        if m < motion
        and any(
            k == motion
            for k in (
                [k for k, _ in node.step.turns] if isinstance(node.step, CreaseStep) else [k for k, _ in node.step.moves]
            )
        )
    }
    return earlier <= done


def _knot(assembly: Assembly, left: Sequence[int], contacts: dict[int, Contact | None]) -> tuple[int, ...]:
    """The shortest ring of motions each of which meets a sheet that the next would move."""
    import networkx

    movers: dict[int, set[int]] = {}
    for motion in left:
        moved: set[int] = set()
        for k, node in enumerate(assembly.nodes):
            step = node.step
            turns = step.turns if isinstance(step, CreaseStep) else step.moves
            if node.parent in moved or any(m == motion for m, _ in turns):
                moved.add(k)
        movers[motion] = moved
    graph = networkx.DiGraph()
    graph.add_nodes_from(left)
    for motion, contact in contacts.items():
        if contact is None:
            continue
        for other in left:
            if other != motion and {contact.a, contact.b} & movers[other]:
                graph.add_edge(motion, other)
    cycles = sorted(networkx.simple_cycles(graph), key=len) if graph.number_of_nodes() <= 40 else []
    return tuple(cycles[0]) if cycles else ()
