"""Fastenings in the shut thing: whether each meets something that opens away from it, and how far magnets are from
magnetic stripes."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence

from msgspec import Struct

from yawning_lantern.arrays import Floats, np
from yawning_lantern.assembly import Assembly, Gap, Lever, Span, Term, uses
from yawning_lantern.assembly.joined import Frame
from yawning_lantern.fold import State, apply, pose
from yawning_lantern.measure import inches
from yawning_lantern.pattern.convex import holds
from yawning_lantern.study.resolve import Resolved

FAR = inches(1)
"""What a fastening does not meet within this it does not meet at all, mm."""
OPENS = 1.0
"""What goes less far from a fastening when all opens does not open, mm."""
TWO_SHEETS = 1.0
"""What lies between the middles of a tongue and a band that it goes under: half of each, mm. From memory."""
STRIPE = inches(2)
"""How far a magnet is kept from a magnetic stripe, mm. From memory: whoever gave the card has the last word."""


class _Half(Struct, frozen=True):
    """The outer face of a fastening: its middle, and the way it looks, in the shut thing."""

    element: str
    node: int
    at: Floats
    way: Floats


def fastening_gaps(resolved: Mapping[str, Resolved], assembly: Assembly, frames: Sequence[Frame]) -> tuple[Gap, ...]:
    """A gap for every fastening to what it meets, and for every magnet to a magnetic stripe that is too near."""
    halves = [_half(r, assembly, frames) for r in resolved.values() if r.part.clasp is not None and r.host]
    if not halves:
        return ()
    opened = pose(assembly, State(1.0, (1.0,) * len(assembly.motions)))
    gaps = [_meeting(half, resolved, assembly, frames, opened) for half in halves]
    return (*gaps, *_stripes(halves, resolved, assembly, frames))


def _half(r: Resolved, assembly: Assembly, frames: Sequence[Frame]) -> _Half:
    clasp = r.part.clasp
    assert clasp is not None
    k = assembly.index(r.part.element, clasp.instance, clasp.panel)
    node, frame = assembly.nodes[k], frames[k]
    way = clasp.side * np.array(frame[6:9])
    return _Half(
        r.part.element, k, np.array(apply(frame, *node.panel.centre)) + node.piece.stock.caliper / 2 * way, way
    )


def _meeting(
    half: _Half,
    resolved: Mapping[str, Resolved],
    assembly: Assembly,
    frames: Sequence[Frame],
    opened: Sequence[Frame],
) -> Gap:
    """How much air is between a fastening and the nearest face that opens away from it."""
    r = resolved[half.element]
    clasp = r.part.clasp
    assert clasp is not None
    if clasp.tucks:
        return _tucked(half, resolved, assembly, frames)
    best, name = FAR, "nothing that opens"
    for k, node in enumerate(assembly.nodes):
        if node.element == half.element or node.shape is not None:
            continue
        frame = np.array(frames[k])
        slope = float(frame[6:9] @ half.way)
        if abs(slope) < 0.98:
            continue
        far = float((frame[9:] - half.at) @ frame[6:9]) / slope
        air = far - node.piece.stock.caliper / 2
        spot = half.at + far * half.way - frame[9:]
        at = float(spot @ frame[:3]), float(spot @ frame[3:6])
        if not -r.final.glue - 0.3 < air < best or not holds(node.panel.outline, at):
            continue
        if _moved(frames, opened, half.node, k) > OPENS:
            best, name = air, resolved[node.element].final.name
    span = Span((Term("air between them", max(0.0, best)),))
    lacks = "" if best < FAR else "nothing that it meets opens: put it where something lies on it when all is shut"
    return Gap(
        uses.CLASP, half.element, half.element, (r.final.name, name), span, want=(0.0, clasp.holds + r.final.glue),
        lacks=lacks,
    )  # fmt: skip


def _tucked(half: _Half, resolved: Mapping[str, Resolved], assembly: Assembly, frames: Sequence[Frame]) -> Gap:
    """What is left beside a tongue in what it is tucked into: a pocket or band that lies under its tip."""
    r = resolved[half.element]
    clasp = r.part.clasp
    assert clasp is not None
    for k, node in enumerate(assembly.nodes):
        pocket = next((p for p in resolved[node.element].part.pockets if node.panel.name in p.panels), None)
        if node.element == half.element or pocket is None:
            continue
        if not lie_over(assembly, frames, half.node, k, clasp.holds + TWO_SHEETS):
            continue
        span = Span(
            (Term("clear way", pocket.width), Term("tongue", -clasp.tucks, Lever(half.element, "breadth", -1.0)))
        )
        names = (r.final.name, resolved[node.element].final.name)
        return Gap(uses.POCKET, half.element, half.element, names, span, want=uses.SLIDES)
    names = (r.final.name, "nothing it is tucked under")
    lacks = "nothing holds it: put a tuck spot under its tip, or a fastener on the inside of its tip"
    span = Span((Term("no tuck spot", FAR),))
    return Gap(uses.CLASP, half.element, half.element, names, span, want=(0.0, clasp.holds), lacks=lacks)


def _ring(assembly: Assembly, frames: Sequence[Frame], node: int) -> Floats:
    """The outline of a panel in the shut thing (n, 3), mm."""
    return np.array([apply(frames[node], *p) for p in assembly.nodes[node].panel.outline])


def lie_over(assembly: Assembly, frames: Sequence[Frame], a: int, b: int, air: float) -> bool:
    """Whether two panels (nodes) are parallel and lie over one another in a pose, their middles no more than `air` mm
    apart."""
    way = np.array(frames[a][6:9])
    if abs(float(np.array(frames[b][6:9]) @ way)) < 0.98:
        return False
    one, other = _ring(assembly, frames, a), _ring(assembly, frames, b)
    if abs(float((other.mean(axis=0) - one.mean(axis=0)) @ way)) > air:
        return False
    x = one[1] - one[0]
    x = x / np.linalg.norm(x)
    plane = np.array([x, np.cross(way, x)])
    p, q = one @ plane.T, other @ plane.T
    return bool((np.minimum(p.max(axis=0), q.max(axis=0)) - np.maximum(p.min(axis=0), q.min(axis=0)) > 1.0).all())


def _moved(before: Sequence[Frame], after: Sequence[Frame], a: int, b: int) -> float:
    """How far the place of one panel goes, as another sees it, mm."""
    seen = []
    for frames in (before, after):
        one, other = np.array(frames[a]), np.array(frames[b])
        turn = np.array([one[:3], one[3:6], one[6:9]])
        seen.append(np.concatenate([turn @ (other[9:] - one[9:]), 50.0 * (turn @ other[6:9])]))
    return float(np.abs(seen[1] - seen[0]).max())


def _stripes(
    halves: Sequence[_Half], resolved: Mapping[str, Resolved], assembly: Assembly, frames: Sequence[Frame]
) -> Iterator[Gap]:
    """Magnets nearer to a card with a magnetic stripe than is good for it."""
    cards = {k: node.element for k, node in enumerate(assembly.nodes) if resolved[node.element].part.striped}
    for half in halves:
        clasp = resolved[half.element].part.clasp
        assert clasp is not None
        if not clasp.magnetic:
            continue
        for k, element in cards.items():
            points = np.array([apply(frames[k], *p) for p in assembly.nodes[k].panel.outline])
            away = _to_outline(half.at, points)
            if away < STRIPE:
                names = (resolved[half.element].final.name, resolved[element].final.name)
                span = Span((Term("from one to the other", away),))
                yield Gap(uses.STRIPE, half.element, half.element, names, span, want=(STRIPE, 10000.0))


def _to_outline(point: Floats, ring: Floats) -> float:
    """How far a point is from a flat convex outline in space (n, 3), mm: from its face, or else from its edges."""
    normal = np.cross(ring[1] - ring[0], ring[2] - ring[0])
    normal = normal / np.linalg.norm(normal)
    foot = point - ((point - ring[0]) @ normal) * normal
    edges = np.roll(ring, -1, axis=0) - ring
    if (np.cross(edges, foot - ring) @ normal >= 0).all():
        return float(abs((point - ring[0]) @ normal))
    along = np.clip(((point - ring) * edges).sum(axis=1) / (edges**2).sum(axis=1), 0.0, 1.0)
    return float(np.linalg.norm(point - ring - along[:, None] * edges, axis=1).min())
