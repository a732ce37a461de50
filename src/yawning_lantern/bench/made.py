"""What hangs together with the piece in hand, so far as a plan is done."""

from __future__ import annotations

from collections.abc import Collection, Mapping

from yawning_lantern.assembly import Assembly
from yawning_lantern.bench.acts import Act
from yawning_lantern.bench.walk import Walk

DONE = ("glue", "decorate", "tie")
TRIED = (*DONE, "fit")


def made_nodes(assembly: Assembly, walk: Walk, acts: Mapping[str, Act], same: Collection[str] = ()) -> frozenset[int]:
    """The nodes of the thing in hand: the piece of the step (`same` are the ids of pieces equal to it) with all that is
    joined to it by now, the joint that is made or tried in the step included; where all is done the whole."""
    step = walk.step
    if step is None:
        return frozenset(range(len(assembly.nodes)))
    done = [one for one in walk.plan.steps if one.id in walk.done]
    joined = {one.act for one in done if one.kind in DONE} | ({step.act} if step.kind in TRIED else set())
    put = {one.element for one in done if one.kind == "put"} | ({step.element} if step.kind == "put" else set())
    slid = {one.element for one in done if one.kind == "insert"}
    root = list(range(len(assembly.nodes)))

    def find(k: int) -> int:
        while root[k] != k:
            root[k] = root[root[k]]
            k = root[k]
        return k

    sheets: dict[tuple[str, str], int] = {}
    for k, node in enumerate(assembly.nodes):
        root[find(k)] = find(sheets.setdefault((node.element, node.instance), k))
    for name in joined:
        for bonded in acts[name].joints if name in acts else ():
            root[find(bonded.a)] = find(bonded.b)
    for bonded in assembly.joints:
        seated = bonded.host != bonded.element and bonded.joint.bond == "free" and bonded.element in put
        if seated or (bonded.joint.bond == "slide" and bonded.element in slid):
            root[find(bonded.a)] = find(bonded.b)
    hand = _in_hand(assembly, walk, acts, same)
    return frozenset(k for k in range(len(root)) if find(k) == find(hand))


def _in_hand(assembly: Assembly, walk: Walk, acts: Mapping[str, Act], same: Collection[str]) -> int:
    """A node of the piece in hand."""
    step = walk.step
    assert step is not None
    if step.act in acts:
        return acts[step.act].joints[0].a
    nodes = assembly.nodes
    own = (k for k, node in enumerate(nodes) if node.piece.id in same)
    of_part = (k for k, node in enumerate(nodes) if node.element == step.element)  # what bends is nowhere drawn
    return next((k for k in (*own, *of_part)), 0)
