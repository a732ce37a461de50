"""An order to open in: each step proven clear in the standing it happens in, and if there is none, what holds what.

The natural order first, since nearly every design opens that way and a step proven is never taken back; only what is
stopped asks for others before it, depth first and a few deep (after the assembly planners' “disassembly by contact”,
Wilson and Latombe 1994, from memory: what blocks a motion is what must move first). Sweeps are kept by their standing,
so that the search pays for each motion in each standing once."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass

from msgspec import Struct
from msgspec.structs import replace

from yawning_lantern.arrays import Truths, np
from yawning_lantern.assembly import Assembly, CreaseStep
from yawning_lantern.on_use import load
from yawning_lantern.opening.again import Again, Kept
from yawning_lantern.opening.plates import Contact, Plates
from yawning_lantern.opening.stations import Standing, turns_of
from yawning_lantern.opening.sweep import Swept, moves, sweep

_DEEP = 3
"""How many things may have to be moved out of the way of one another for one step."""
_MOST_SWEEPS = 40  # sweeps for each motion
_KNOTS = 40  # motions in a knot of which the shortest rounds are looked for


class Step(Struct, frozen=True):
    """One motion as it opens, or is shut again out of the way of the next.

    Angles are those of its first fold (degrees), `travel` what it slides or lifts, mm. `before` is how everything
    stands when it begins. `contact` is what stops it where it is not `clear`; `resting` tells what came to rest on
    the way. Steps of one `stage` may be done in either order."""

    motion: int
    opens: bool
    from_deg: float
    to_deg: float
    travel: float
    clear: bool
    before: Standing
    after: Standing
    stage: int = 0
    contact: Contact | None = None
    resting: tuple[Contact, ...] = ()


class Opening(Struct, frozen=True):
    """Steps in an order that works as far as there is one, what is in one place when shut, and the shortest ring of
    motions that hold each other where it stops (by index). Shut again, it goes the same way back."""

    steps: tuple[Step, ...]
    shut: tuple[Contact, ...]
    knot: tuple[int, ...] = ()

    @property
    def works(self) -> bool:
        """Whether everything opens and nothing was in one place."""
        return not self.shut and all(step.clear for step in self.steps)


def natural_order(assembly: Assembly) -> tuple[int, ...]:
    """Motions as a maker would go: a lid first, then what it stood on, then what that carries, and of things side by
    side those that hold the fewest others first."""
    hosts: dict[str, str] = {}
    for node in assembly.nodes:
        if node.element not in hosts:
            hosts[node.element] = assembly.nodes[node.parent].element if node.parent >= 0 else ""
    own: dict[str, list[int]] = {}
    for k, motion in enumerate(assembly.motions):
        own.setdefault(motion.element, []).append(k)
    held = {element: [e for e, host in hosts.items() if host == element] for element in hosts}

    def moving(element: str) -> int:
        return int(element in own) + sum(moving(e) for e in held[element])

    order: list[int] = []

    def walk(element: str) -> None:
        mine = own.get(element, [])
        lifts = [k for k in mine if assembly.motions[k].kind == "lift"]
        order.extend(lifts)
        lids = [e for e in held[element] if any(assembly.motions[k].kind == "lift" for k in own.get(e, []))]
        for lid in lids:
            walk(lid)
        order.extend(k for k in mine if k not in lifts)
        for other in sorted((e for e in held[element] if e not in lids), key=moving):
            walk(other)

    if assembly.nodes:
        walk(assembly.nodes[0].element)
    return tuple(order)


def _angles(assembly: Assembly, motion: int) -> tuple[float, float]:
    """Degrees of a motion's first fold or pin when it begins and when it is done; nothing where it has none."""
    for node in assembly.nodes:
        if not isinstance(node.step, CreaseStep):
            turned = sum(angle for m, _, _, angle in node.step.pins if m == motion)
            if turned:
                return 0.0, abs(math.degrees(turned))
        else:
            added = sum(by for m, by in node.step.turns if m == motion)
            if added:
                start = node.step.shut + sum(by for m, by in node.step.turns if m < motion)
                return math.degrees(start), math.degrees(start + added)
    return 0.0, 0.0


def _travel(assembly: Assembly, motion: int) -> float:
    ways = (way for n in assembly.nodes if not isinstance(n.step, CreaseStep) for m, way in n.step.moves if m == motion)
    return max((math.hypot(*way) for way in ways), default=0.0)


@dataclass(slots=True)
class Memory:
    """What was swept for the design as it was last, so that after an edit only what it touches is swept again."""

    plates: Plates | None = None
    kept: tuple[Kept, ...] = ()


class Search:
    """Sweeps that were made, by motion and standing."""

    def __init__(self, plates: Plates, cancelled: Callable[[], bool], memory: Memory | None = None) -> None:
        self.plates, self.assembly = plates, plates.assembly
        self.cancelled = cancelled
        self.kept: list[Kept] = []
        self._again: Again | None = None
        if memory is not None and memory.plates is not None:
            self._again = Again(plates, memory.plates, memory.kept)
        count = len(self.assembly.motions)
        self._tried: dict[tuple[int, frozenset[int], tuple[tuple[tuple[int, int], float], ...]], Swept] = {}
        self.moves = [moves(plates, m) for m in range(count)]
        self._chains: dict[int, frozenset[int]] = {}
        self.budget = _MOST_SWEEPS * max(count, 1)
        self.before = {m: self._shares_crease(m) for m in range(count)}
        self._earlier: dict[int, list[tuple[Standing, Swept]]] = {m: [] for m in range(count)}

    def _shares_crease(self, motion: int) -> frozenset[int]:
        """Motions of the same creases that come earlier: a strip is drawn step by step."""
        earlier: set[int] = set()
        for k in range(len(self.assembly.nodes)):
            turns = turns_of(self.assembly, k)
            if motion in turns:
                earlier |= {m for m in turns if m < motion}
        return frozenset(earlier)

    def chain(self, node: int) -> frozenset[int]:
        """The motions that move a node in the world."""
        if node not in self._chains:
            above = self.assembly.nodes[node].parent
            self._chains[node] = frozenset(turns_of(self.assembly, node)) | (
                self.chain(above) if above >= 0 else frozenset()
            )
        return self._chains[node]

    def swept(self, motion: int, standing: Standing) -> Swept:
        """What a motion meets as everything stands. Raises CancelledError."""
        key = (motion, standing.opened, tuple(sorted((k, round(v, 5)) for k, v in standing.rests.items())))
        if key not in self._tried:
            self.budget -= 1
            known = self._again.of(motion, standing) if self._again is not None else None
            if known is not None and self._again is not None:
                known = self._with(motion, standing, known, self._again.changed)
            known = known or self._elsewhere(motion, standing) or sweep(self.plates, motion, standing, self.cancelled)
            self._earlier[motion].append((standing, known))
            self._tried[key] = known
            self.kept.append(Kept(motion, standing, known))
        return self._tried[key]

    def _with(self, motion: int, standing: Standing, known: Swept, changed: Truths) -> Swept | None:
        """What a motion meets if that is `known` of everything but some bodies (n,), which alone are asked; None where
        the one way would be stopped or bent by the other."""
        if not changed.any():
            return known
        held = Standing(standing.opened, {**standing.rests, **{(node, motion): share for node, share in known.rests}})
        met = sweep(self.plates, motion, held, self.cancelled, changed)
        if met.rests:
            return None
        if met.contact is None or (known.contact is not None and known.contact.at <= met.contact.at):
            return known
        return None if known.rests else met

    def _elsewhere(self, motion: int, standing: Standing) -> Swept | None:
        """What the motion met in an earlier standing, where what stands otherwise now has no part in it; of few sheets
        that is sooner asked than all again."""
        known: Swept | None = None
        changed, fewest = frozenset[int](), len(self.assembly.nodes) // 2
        for before, swept in self._earlier[motion]:
            other = self._otherwise(standing, before)
            if len(other) <= fewest and other.isdisjoint(_speaks_of(swept)):
                known, changed, fewest = swept, other, len(other)
        if known is None:
            return None
        bodies = np.array([node in changed for node in self.plates.nodes], dtype=bool)
        return self._with(motion, standing, known, bodies)

    def _otherwise(self, one: Standing, other: Standing) -> frozenset[int]:
        """The nodes that are elsewhere, or move otherwise, in two standings."""
        motions = one.opened ^ other.opened
        rests = {key[0] for key in one.rests.keys() | other.rests.keys() if one.rests.get(key) != other.rests.get(key)}
        elsewhere: set[int] = set()
        for k, node in enumerate(self.assembly.nodes):  # parents come before children
            if k in rests or node.parent in elsewhere or not self.chain(k).isdisjoint(motions):
                elsewhere.add(k)
        return frozenset(elsewhere)

    def opens(self, motion: int, standing: Standing, stage: int = 0) -> Step:
        """The step of one motion from a standing."""
        swept = self.swept(motion, standing)
        start, end = _angles(self.assembly, motion)
        after = standing.opening(motion, dict(swept.rests)) if swept.contact is None else standing
        travel = _travel(self.assembly, motion)
        return Step(
            motion,
            True,
            start,
            end,
            travel,
            swept.contact is None,
            standing,
            after,
            stage,
            swept.contact,
            swept.resting,
        )

    def shuts(self, motion: int, standing: Standing) -> Step:
        """The step that shuts a motion again: the way it opened, as everything stands now."""
        after = standing.shutting(motion)
        swept = self.swept(motion, after)
        start, end = _angles(self.assembly, motion)
        clear = swept.contact is None
        travel = _travel(self.assembly, motion)
        return Step(motion, False, end, start, travel, clear, standing, after if clear else standing, 0, swept.contact)

    def reach(
        self, motion: int, standing: Standing, deep: int, busy: frozenset[int], opening: bool = True
    ) -> list[Step] | None:
        """Steps that end with the motion open (or shut), moving out of the way what stands in it; None if there are
        none."""
        if opening and not self.before[motion] <= standing.opened:
            return None
        if not opening and any(motion in self.before[m] for m in standing.opened):
            return None
        step = self.opens(motion, standing) if opening else self.shuts(motion, standing)
        if step.clear:
            return [step]
        assert step.contact is not None
        if deep <= 0 or self.budget <= 0:
            return None
        nodes, motions = self.assembly.nodes, self.assembly.motions
        chains = self.chain(step.contact.a) ^ self.chain(step.contact.b)
        busy = busy | {motion}
        elements = {nodes[k].element for k in (step.contact.a, step.contact.b)}
        tries: list[list[int]] = [[m] for m in sorted(chains - busy - standing.opened)]
        shut = [m for m in standing.opened if m in chains | self._of(elements) and m not in busy]
        # what is met is most likely to be what must go, before all that it hangs on
        for element in dict.fromkeys(
            motions[m].element for m in sorted(shut, key=lambda m: (motions[m].element not in elements, m))
        ):
            tries.append([m for m in sorted(standing.opened, reverse=True) if motions[m].element == element])
        for group in tries:
            done: list[Step] = []
            now = standing
            for m in group:
                more = self.reach(m, now, deep - 1, busy, m not in standing.opened)
                if more is None:
                    break
                done += more
                now = more[-1].after
            else:
                rest = self.reach(motion, now, deep - 1, busy | frozenset(group), opening)
                if rest is not None:
                    return done + rest
        return None

    def lower(self, steps: list[Step]) -> list[Step]:
        """The same with what was opened before shut again, where the step comes to rest on it and would come lower."""
        nodes, motions = self.assembly.nodes, self.assembly.motions
        moved = self.moves[steps[-1].motion]
        under = {nodes[k].element for met in steps[-1].resting for k in (met.a, met.b) if k not in moved}
        for element in sorted(under):
            step = steps[-1]
            now, done = step.before, steps[:-1]
            for m in [m for m in sorted(now.opened, reverse=True) if motions[m].element == element]:
                back = self.reach(m, now, 0, frozenset(), False)
                if back is None:
                    break
                done, now = done + back, back[-1].after
            if now is not step.before:
                other = self.opens(step.motion, now)
                if other.clear and _raised(other) < _raised(step) - 1e-6:
                    steps = [*done, other]
        return steps

    def _of(self, elements: set[str]) -> frozenset[int]:
        return frozenset(k for k, m in enumerate(self.assembly.motions) if m.element in elements)


def _speaks_of(swept: Swept) -> set[int]:
    """The nodes that a result names."""
    contacts = (*swept.resting, *((swept.contact,) if swept.contact is not None else ()))
    return {node for met in contacts for node in (met.a, met.b)} | {node for node, _ in swept.rests}


def _raised(step: Step) -> float:
    """How much of its way is left where a motion came to rest, summed over its creases."""
    return sum(1.0 - share for (_, m), share in step.after.rests.items() if m == step.motion)


def find_opening(
    plates: Plates,
    shut: Sequence[Contact] = (),
    cancelled: Callable[[], bool] = lambda: False,
    told: Callable[[int, int], None] = lambda done, of: None,
    memory: Memory | None = None,
) -> Opening:
    """An order in which every motion is clear, begun from the natural one.

    As things stand the motions that are left are tried in turn, and the first that is clear is done. Where none is,
    what stands in the way is moved first: shut again, as a maker shuts the book on a wall before the next layer falls
    on it. Where nothing goes on, what stops each of the rest is told, and the shortest ring of motions that hold one
    another. `told` hears how many motions are done of how many. What a `memory` has of sheets that stayed is not swept
    again, and it keeps what was.

    Raises:
        CancelledError: `cancelled` said so.
    """
    search = Search(plates, cancelled, memory)
    left = list(natural_order(plates.assembly))
    count = len(left)
    standing = Standing()
    steps: list[Step] = []
    while left:
        told(count - len(left), count)
        tries = ((m, deep) for deep in (0, _DEEP) for m in left)
        reached = (search.reach(m, standing, deep, frozenset()) for m, deep in tries)
        found = next((way for way in reached if way is not None), None)
        if found is None:
            break
        found = search.lower(found)
        for step in found:
            steps.append(_staged(search, steps, step))
            if step.opens and step.motion in left:
                left.remove(step.motion)
        standing = found[-1].after
    contacts = {m: search.swept(m, standing).contact for m in left}
    steps += [search.opens(m, standing, _stage(steps) + 1) for m in left]
    told(count, count)
    if memory is not None:
        memory.plates, memory.kept = plates, tuple(search.kept)
    return Opening(tuple(steps), tuple(shut), _knot(search, left, contacts) if left else ())


def check_order(
    plates: Plates,
    order: Sequence[int],
    shut: Sequence[Contact] = (),
    cancelled: Callable[[], bool] = lambda: False,
) -> Opening:
    """The opening in an order that was asked for: motions by index, one named a second time is shut again.

    It ends with the first step that is not clear. Raises CancelledError.
    """
    search = Search(plates, cancelled)
    standing = Standing()
    steps: list[Step] = []
    for motion in order:
        step = search.shuts(motion, standing) if motion in standing.opened else search.opens(motion, standing)
        steps.append(_staged(search, steps, step))
        if not step.clear:
            break
        standing = step.after
    return Opening(tuple(steps), tuple(shut))


def _stage(steps: Sequence[Step]) -> int:
    return steps[-1].stage if steps else 0


def _staged(search: Search, steps: Sequence[Step], step: Step) -> Step:
    """The step with its stage: that of the step before where either may be done first."""
    stage = _stage(steps)
    if steps and step.clear and step.opens and steps[-1].opens:
        last = steps[-1]
        apart = not search.moves[step.motion] & search.moves[last.motion]
        if apart and search.before[step.motion] <= last.before.opened:
            first = search.opens(step.motion, last.before)
            if (
                first.clear
                and first.after.rests == {**step.after.rests}
                and search.opens(last.motion, first.after).clear
            ):
                return replace(step, stage=stage)
    return replace(step, stage=stage + 1)


def _knot(search: Search, left: Sequence[int], contacts: dict[int, Contact | None]) -> tuple[int, ...]:
    """The shortest ring of motions each of which meets a sheet that the next would move."""
    networkx = load("networkx")
    graph = networkx.DiGraph()
    graph.add_nodes_from(left)
    for motion, contact in contacts.items():
        if contact is None:
            continue
        for other in left:
            if other != motion and {contact.a, contact.b} & search.moves[other]:
                graph.add_edge(motion, other)
    cycles = sorted(networkx.simple_cycles(graph, length_bound=6), key=len) if len(left) <= _KNOTS else []
    return tuple(cycles[0]) if cycles else ()
