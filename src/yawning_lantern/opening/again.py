"""What the sweeps of a design still tell of it after an edit: of sheets that are as they were and move as they did.

A sweep says for every two sheets whether they meet. Where neither of two was changed, and everything that moves them is
as it was, the answer stands; only pairs with a changed sheet are asked anew (after the incremental view of collision
tests, Lin and Canny 1991, from memory: what did not change is not computed again)."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import NamedTuple

from yawning_lantern.arrays import Truths, np
from yawning_lantern.assembly import Assembly, CreaseStep, PlaceStep
from yawning_lantern.opening.plates import Contact, Plates
from yawning_lantern.opening.stations import Standing
from yawning_lantern.opening.sweep import Swept, moves

Key = tuple[str, str, str]
Asked = tuple[str, frozenset[str], tuple[tuple[int, str, float], ...]]
"""A motion, what of it that matters is open, and which of the sheets that stayed rest, by what they are called."""


class Kept(NamedTuple):
    """A sweep that was made: of which motion, in which standing, and what came of it."""

    motion: int
    standing: Standing
    swept: Swept


def _keys(assembly: Assembly) -> list[Key]:
    return [(node.element, node.instance, node.panel.name) for node in assembly.nodes]


def _told(assembly: Assembly, node: int, keys: list[Key], names: list[str]) -> object:
    """How a node is moved from its parent, in names instead of indices."""
    step = assembly.nodes[node].step
    if isinstance(step, CreaseStep):
        return (*_plain(step), tuple((names[m], by) for m, by in step.turns))
    assert isinstance(step, PlaceStep)
    return (
        step.frame, step.kind, tuple((names[m], way) for m, way in step.moves),
        tuple((names[m], *pin) for m, *pin in step.pins),
        tuple((names[m], keys[k], _plain(c), tuple((names[t], by) for t, by in c.turns), own)
              for m, k, c, own in step.rolls),
    )  # fmt: skip


def _plain(step: CreaseStep) -> tuple[object, ...]:
    return step.foot, step.along, step.into, step.radius, step.settle, step.shut, step.strip


def _unsettled(assembly: Assembly, same: Mapping[int, int], old: Assembly) -> set[str]:
    """Elements whose rings are not as they were: all that a ring drives hangs on every part of it."""
    rings = {(ring.element, ring.loop.name): ring.loop for ring in old.rings}
    changed = {r.element for r in assembly.rings if rings.get((r.element, r.loop.name)) != r.loop}
    driven = {ring.element for ring in assembly.rings}
    return changed | {n.element for k, n in enumerate(assembly.nodes) if n.element in driven and k not in same}


def same_nodes(assembly: Assembly, old: Assembly) -> dict[int, int]:
    """Nodes that stand where they stood and move as they did, with their index in the design as it was."""
    keys, before = _keys(assembly), _keys(old)
    names, were = ([motion.name for motion in one.motions] for one in (assembly, old))
    where = {key: k for k, key in enumerate(before)}

    def matched(broken: Iterable[str]) -> dict[int, int]:
        matches: dict[int, int] = {}
        for k, node in enumerate(assembly.nodes):
            j = where.get(keys[k])
            if j is None or node.element in broken:
                continue
            there = old.nodes[j]
            above = matches.get(node.parent, -1) if node.parent >= 0 else -1
            if above != there.parent or (node.parent >= 0 and above < 0):
                continue
            if node.shape == there.shape and _told(assembly, k, keys, names) == _told(old, j, before, were):
                matches[k] = j
        return matches

    first = matched(())
    broken = _unsettled(assembly, first, old)
    return matched(broken) if broken else first


class Again:
    """Answers from sweeps of the design as it was. `changed` are the bodies of which nothing is known, (n,)."""

    def __init__(self, plates: Plates, before: Plates, kept: Iterable[Kept]) -> None:
        new, old = plates.assembly, before.assembly
        self._same = same_nodes(new, old)
        back = {j: k for k, j in self._same.items()}
        self._names = [motion.name for motion in new.motions]
        was = [motion.name for motion in old.motions]
        self.changed = self._changed(plates, before)
        matter = {was[m] for m in range(len(was)) if not moves(before, m).isdisjoint(back)}
        self._matter = matter & set(self._names)
        self._answers: dict[Asked, Swept] = {}
        index = {name: m for m, name in enumerate(self._names)}
        for motion, standing, swept in kept:
            if was[motion] not in self._matter:
                continue
            opened = frozenset(was[m] for m in standing.opened) & matter
            rests = [(back[j], was[m], round(s, 5)) for (j, m), s in standing.rests.items() if j in back]
            answer = _mapped(swept, back)
            if answer is not None and opened <= index.keys():
                self._answers.setdefault((was[motion], opened, tuple(sorted(rests))), answer)

    def _changed(self, plates: Plates, before: Plates) -> Truths:
        ranks: dict[tuple[int, bool], list[int]] = {}
        for r, node in enumerate(before.nodes):
            ranks.setdefault((node, r >= before.sheets), []).append(r)
        matched = np.full(len(plates.nodes), -1)
        count: dict[tuple[int, bool], int] = {}
        for r, node in enumerate(plates.nodes):
            solid = r >= plates.sheets
            ordinal = count.get((node, solid), 0)
            count[node, solid] = ordinal + 1
            there = ranks.get((self._same.get(node, -1), solid), [])
            if ordinal < len(there) and plates.vertices(r) == before.vertices(there[ordinal]):
                matched[r] = there[ordinal]
        changed: Truths = matched < 0
        stayed = np.nonzero(~changed)[0]
        grid, was = np.ix_(stayed, stayed), np.ix_(matched[stayed], matched[stayed])
        other = (plates.joined[grid] != before.joined[was]) | (plates.one_sheet[grid] != before.one_sheet[was])
        changed[stayed[other.any(axis=1)]] = True
        return changed

    def of(self, motion: int, standing: Standing) -> Swept | None:
        """What was found for sheets that stayed, or None where it is not known."""
        if self._names[motion] not in self._matter:
            return None
        opened = frozenset(self._names[m] for m in standing.opened) & self._matter
        rests = [(k, self._names[m], round(s, 5)) for (k, m), s in standing.rests.items() if k in self._same]
        return self._answers.get((self._names[motion], opened, tuple(sorted(rests))))


def _mapped(swept: Swept, back: Mapping[int, int]) -> Swept | None:
    """A result in the nodes of now; None where it speaks of one that is gone or changed."""

    def contact(met: Contact) -> Contact | None:
        if met.a not in back or met.b not in back:
            return None
        return Contact(back[met.a], back[met.b], met.at, met.depth, met.rests, met.solid, met.worst)

    met = contact(swept.contact) if swept.contact is not None else None
    resting = [contact(one) for one in swept.resting]
    if (swept.contact is not None and met is None) or any(one is None for one in resting):
        return None
    if any(node not in back for node, _ in swept.rests):
        return None
    rests = tuple((back[node], share) for node, share in swept.rests)
    return Swept(met, rests, tuple(one for one in resting if one is not None))
