"""An order of acts in which every joint can still be reached, built from its end.

The last act is any that can be reached with all others made, the one before it any of the rest, and so on. Less that is
made is less in the way, so what could be last once can be last later: the search never has to turn back, and finds an
order wherever there is one. Of several the one is taken that a maker would come to last.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass, field

from msgspec import Struct

from yawning_lantern.assembly import Assembly
from yawning_lantern.bench.acts import Act
from yawning_lantern.bench.reach import Reach, Reached


class Before(Struct, frozen=True):
    """An act that comes before another for a reason of its own, by their names."""

    first: str
    then: str
    because: str


class Order(Struct, frozen=True):
    """Acts in order, each with what presses it; `stuck` are those for which there is no place, with what fails."""

    acts: tuple[tuple[Act, Reached], ...] = ()
    stuck: tuple[tuple[Act, Reached], ...] = ()


class Schools(Struct, frozen=True):
    """What makers do differently: whether mats are glued while all lies `flat` or `later`; whether notches are punched
    `before` a pocket shuts or `after`."""

    decorate: str = "flat"
    notch: str = "before"


def natural(assembly: Assembly, acts: Sequence[Act], schools: Schools) -> list[Act]:
    """The acts as a maker would come to them: each part by itself, flat things on it first or last, then what stands
    in it, each built before it is put there; what closes the thing last of all."""
    hosts: dict[str, list[str]] = {}
    feet = {act.element: act for act in acts if act.is_foot}
    size: dict[str, int] = {}
    for node in assembly.nodes:
        size[node.element] = size.get(node.element, 0) + 1
    own: dict[str, list[Act]] = {}
    for act in acts:
        if not act.is_foot:
            own.setdefault(act.element, []).append(act)
    first = assembly.nodes[0].element
    for bonded in assembly.joints:
        if bonded.host != bonded.element and bonded.element not in hosts.get(bonded.host, []):
            hosts.setdefault(bonded.host, []).append(bonded.element)
    order: list[Act] = []

    def put(element: str) -> None:
        build(element)
        if element in feet:
            order.append(feet[element])

    def build(element: str) -> None:
        guests = hosts.get(element, [])
        flat = [g for g in guests if size[g] == 1 and g in feet]
        if schools.decorate == "flat":
            for guest in flat:
                put(guest)
        mine = own.get(element, [])
        order.extend(act for act in mine if _within(assembly, act))  # each piece by itself, then piece on piece
        order.extend(act for act in mine if not _within(assembly, act))
        for guest in guests:
            if guest not in flat or schools.decorate != "flat":
                put(guest)

    build(first)
    order += [act for act in acts if act not in order]  # what hangs on nothing that was told
    return sorted(order, key=lambda act: act.closes)


def _within(assembly: Assembly, act: Act) -> bool:
    """Whether an act joins a piece to itself."""
    nodes = assembly.nodes
    return all(nodes[bonded.a].instance == nodes[bonded.b].instance for bonded in act.joints)


def find_order(
    preferred: Sequence[Act],
    reach: Reach,
    before: Iterable[Before] = (),
    told: Callable[[int, int], object] = lambda done, of: None,
) -> Order:
    """The order nearest to the one preferred in which every act can be reached. `told` how many are placed of how many;
    what it raises ends the search."""
    after: dict[str, set[str]] = {}
    for rule in before:
        after.setdefault(rule.first, set()).add(rule.then)
    left = list(preferred)
    done: list[tuple[Act, Reached]] = []
    told(0, len(preferred))
    while left:
        told(len(done), len(preferred))
        names = {act.name for act in left}
        for act in reversed(left):
            if after.get(act.name, set()) & names:
                continue
            reached = reach.of(act, [other for other in left if other is not act])
            if reached.ok:
                done.append((act, reached))
                left.remove(act)
                break
        else:
            break
    stuck = tuple((act, reach.of(act, [other for other in left if other is not act])) for act in left)
    return Order(tuple(reversed(done)), stuck)


class Reason(Struct, frozen=True):
    """Why an act comes before others: made first, those would leave it `fails` (see `Reached`)."""

    act: Act
    others: tuple[Act, ...]
    fails: str


@dataclass
class Reasons:
    """Why each act of an order comes where it does, found when asked for."""

    order: Order
    reach: Reach
    _known: dict[str, Reason | None] = field(default_factory=dict)

    def of(self, act: Act) -> Reason | None:
        """The least set of later acts that would shut an act out, or None where it could come last."""
        if act.name not in self._known:
            self._known[act.name] = self._find(act)
        return self._known[act.name]

    def _find(self, act: Act) -> Reason | None:
        made = [one for one, _ in self.order.acts]
        place = made.index(act)
        earlier, later = made[:place], made[place + 1 :]

        def shuts(some: Sequence[Act]) -> bool:
            return not self.reach.of(act, [*earlier, *some]).ok

        if not shuts(later):
            return None
        blocking = _least(later, shuts)
        return Reason(act, tuple(blocking), self.reach.of(act, [*earlier, *blocking]).fails)


def _least(some: list[Act], shuts: Callable[[Sequence[Act]], bool]) -> list[Act]:
    """A least part of `some` that shuts still: halves are left out while that can be, then one by one (delta debugging,
    Zeller 1999, from memory)."""
    size = len(some) // 2
    while size:
        at = 0
        while at < len(some):
            fewer = some[:at] + some[at + size :]
            if fewer and shuts(fewer):
                some = fewer
            else:
                at += size
        size //= 2
    return some
