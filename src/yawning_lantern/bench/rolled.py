"""Tubes that roll flat: where two corners of a ring of panels halve the way around it, one half folds onto the other,
and the joint that closes the ring lies open on the table.

A ring of four whose opposite sides are equal always does so (a parallel four-bar, from memory). Its tab is then glued
and pressed flat, whatever the tube is too narrow or too long for."""

from __future__ import annotations

import math
from collections.abc import Sequence
from itertools import combinations

from yawning_lantern.arrays import Floats, np
from yawning_lantern.assembly import Assembly, Bonded, CreaseStep
from yawning_lantern.assembly.joined import Frame
from yawning_lantern.bench.acts import Block
from yawning_lantern.fold import apply

HALVES = 0.75
"""How far the two halves of a ring may differ, mm: paper gives as much at its folds."""
LIES = 4.0
"""What is glued on a panel of it within this lies flat with it, mm."""


def rolls_flat(assembly: Assembly, bonded: Bonded, block: Block, frames: list[Frame]) -> bool:
    """Whether what is in one ring with a joint is a tube of one sheet that can be laid flat; `frames` are of any pose
    in which it is made."""
    nodes = assembly.nodes
    first, last = nodes[bonded.a], nodes[bonded.b]
    if (first.element, first.instance) != (last.element, last.instance):
        return False
    chain = _chain(assembly, bonded)
    if len(chain) < 4:
        return False
    corners, ways = [], []
    for k in chain:
        step = nodes[k].step
        assert isinstance(step, CreaseStep)
        above = np.array(frames[nodes[k].parent])
        ways.append(step.along[0] * above[:3] + step.along[1] * above[3:6])
        corners.append(np.array(apply(frames[nodes[k].parent], *step.foot)))
    axis = ways[0]
    if any(abs(way @ axis) < 0.999 for way in ways):
        return False
    around = [corner - (corner @ axis) * axis for corner in corners]
    sides = [float(np.linalg.norm(around[k] - around[k - 1])) for k in range(len(around))]
    ring = {*chain, *(nodes[k].parent for k in chain)}
    return halves(sides) and all(_lies_on(frames[k], axis, [frames[one] for one in ring]) for k in block.nodes)


def halves(sides: Sequence[float]) -> bool:
    """Whether two corners of a ring of such sides, mm, halve the way around it."""
    whole = math.fsum(sides)
    cuts = combinations(range(len(sides) + 1), 2)
    return any(abs(math.fsum(sides[i:j]) - whole / 2) < HALVES for i, j in cuts)


def _chain(assembly: Assembly, bonded: Bonded) -> list[int]:
    """The creases of one sheet that a ring runs over, each by the lower of its two nodes: from one panel of its joint
    up to where both meet, and down to the other."""
    nodes = assembly.nodes

    def up(k: int) -> list[int]:
        chain = []
        while isinstance(nodes[k].step, CreaseStep):
            chain.append(k)
            k = nodes[k].parent
        return chain

    one, other = up(bonded.a), up(bonded.b)
    while one and other and one[-1] == other[-1]:
        one.pop()
        other.pop()
    return [*one, *reversed(other)]


def _lies_on(frame: Frame, axis: Floats, ring: list[Frame]) -> bool:
    """Whether a panel lies flat on one of a ring's, so that it goes with it."""
    own = np.array(frame)
    if abs(own[6:9] @ axis) > 1e-3:
        return False
    for one in ring:
        other = np.array(one)
        if abs(own[6:9] @ other[6:9]) > 0.999 and abs((own[9:] - other[9:]) @ other[6:9]) < LIES:
            return True
    return False
