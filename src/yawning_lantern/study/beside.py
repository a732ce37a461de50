"""Fits between things that no host brings together: neighbours on one face, on walls that meet or face one another,
what hangs from a lid against what stands below it. Found in the shut pose, so that no family has to think of them.

Bodies are those of the sweep (`opening.bodies`); `near` parts pairs of them, where the sweep asks python-fcl."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping, Sequence

from msgspec import Struct

from yawning_lantern.assembly import Assembly, Gap, Lever, Span, Term, uses
from yawning_lantern.assembly.edges import matching_side
from yawning_lantern.assembly.joined import Frame
from yawning_lantern.assembly.spans import PLACES
from yawning_lantern.fit import Check
from yawning_lantern.fold import Posed, unmoved
from yawning_lantern.measure import inches
from yawning_lantern.study.bodies import solids
from yawning_lantern.study.near import ALONG, Bodies, Pair
from yawning_lantern.study.resolve import Resolved

NEAR = inches(1 / 8)
"""Things that come nearer than this to one another have a fit, mm."""
TOUCHING = 0.35
"""Sheets that lie this near are meant to lie on one another: no fit, mm."""
_ACROSS = 0.2  # of a way off a face: what leans more is not beside it
_LIKE = 1e-6  # mm: of places as narrow as one another the first is told


def _chain(resolved: Mapping[str, Resolved], element: str) -> list[str]:
    """An element and its hosts, outwards."""
    chain = [element]
    while (host := resolved[chain[-1]].host) != "":
        chain.append(host)
    return chain


def _neighbours(resolved: Mapping[str, Resolved], mounts: Mapping[tuple[str, str], Frame], a: str, b: str) -> bool:
    """Whether a maker would ask how near two things come: on one face, on two walls of a box, or one hanging from the
    lid of what carries the other."""
    one, other = resolved[a], resolved[b]
    if not one.host or not other.host:
        return False
    if any(r.family.relation not in ("inside", "onto") for r in (one, other)):
        return False
    if one.host == other.host:
        if one.place.face == other.place.face:
            return True
        here, there = (mounts[r.host, r.place.face] for r in (one, other))
        same_way = here[6] * there[6] + here[7] * there[7] + here[8] * there[8] > ALONG
        return resolved[one.host].family.relation == "inside" and not same_way
    lid, low = (one, other) if resolved[one.host].host == other.host else (other, one)
    return resolved[lid.host].host == low.host and resolved[lid.host].family.relation == "over"


class _Told:
    """Words and levers for the gaps of one study."""

    def __init__(
        self,
        resolved: Mapping[str, Resolved],
        assembly: Assembly,
        mounts: Mapping[tuple[str, str], Frame],
        bodies: Bodies,
    ) -> None:
        self.resolved, self.assembly, self.mounts, self.bodies = resolved, assembly, mounts, bodies

    def label(self, rank: int) -> str:
        """A body as a maker calls it."""
        node = self.assembly.nodes[self.bodies.all[rank].node]
        name, label = self.resolved[node.element].final.name, node.panel.label
        if self.bodies.all[rank].solid:
            return f"What is in {name}"
        return name if label.lower() in name.lower() else f"{name}, {label}"

    def known(self, element: str, way: Sequence[float]) -> tuple[Term, ...]:
        """What an element reaches from its place on its face along a way, with the levers of that place."""
        r = self.resolved[element]
        frame = self.mounts.get((r.host, r.place.face))
        if frame is None:
            return ()
        x, y, z = (sum(frame[3 * k + n] * way[n] for n in range(3)) for k in range(3))
        if z > ALONG and r.need.height is not None:
            return tuple(term.times(-1.0) for term in r.need.height.terms)
        if abs(z) > _ACROSS:
            return ()
        terms: list[Term] = []
        side = matching_side(r.need.sides, math.atan2(y, x), r.place.turn)
        if side is not None:
            terms += [term.times(-1.0) for term in side.reach.terms]
        for share, name, at in ((x, PLACES[0], r.place.x), (y, PLACES[1], r.place.y)):
            if abs(share) > 0.1:
                terms.append(Term(f"place of {r.final.name}", -at * share, Lever(element, name, -share)))
        return tuple(terms)

    def gap(self, pair: Pair, apart: float, way: tuple[float, float, float]) -> Gap:
        """The fit between two bodies that are `apart` mm, a way from the first to the second."""
        a, b = (self.bodies.element(k) for k in (pair.a, pair.b))
        terms: tuple[Term, ...] = ()
        if a != b:
            terms = (*self.known(a, way), *self.known(b, (-way[0], -way[1], -way[2])))
        rest = apart - sum(term.value for term in terms)
        between = (self.label(pair.a), self.label(pair.b))
        return Gap(uses.BESIDE, b, a, between, Span((Term("from one to the other", rest), *terms)).merged())


class Beside(Struct, frozen=True):
    """The gaps between things that no host brings together, and what they were found from."""

    gaps: tuple[Gap, ...]
    posed: Posed
    resolved: Mapping[str, Resolved]
    mounts: Mapping[tuple[str, str], Frame]
    bodies: Bodies
    told: Mapping[tuple[str, str], tuple[Pair, Gap | None]]


def _asked_alike(resolved: Mapping[str, Resolved], before: Beside) -> set[str]:
    """Elements that are the very same, hosts of the same kind included: whether it is asked how near two of them come,
    and what is said of it, is as it was."""
    old = before.resolved

    def alike(element: str) -> bool:
        r = resolved[element]
        if old.get(element) is not r:
            return False
        host, was = resolved.get(r.host), old.get(r.host)
        return host is was or (
            host is not None and was is not None and (host.family, host.host) == (was.family, was.host)
        )

    return {element for element in resolved if alike(element)}


def find_beside(
    resolved: Mapping[str, Resolved],
    posed: Posed,
    mounts: Mapping[tuple[str, str], Frame],
    told: Iterable[Check],
    before: Beside | None = None,
) -> Beside:
    """A gap for every two elements (or copies in one element) that are in one another or come near one another when
    all is shut, the narrowest place of each two.

    `told` are the fits known so far: what one of those already tells to clash, between the two or on the way from one
    to the other through the nest, is not told twice. What was found `before` an edit holds for two things that it left
    as and where they were. Some milliseconds.
    """
    assembly = posed.assembly
    alike = _asked_alike(resolved, before) if before is not None else set[str]()
    stayed = unmoved(posed, before.posed) & alike if before is not None else frozenset[str]()
    old_bodies = before.bodies if before is not None else None
    bodies = Bodies(assembly, posed.frames, solids(resolved, assembly), old_bodies, stayed)
    clashes = [check.gap for check in told if check.is_clash]
    clashing = {gap.element for gap in clashes}
    hung = {gap.element for gap in clashes if gap.use == uses.HEADROOM and gap.element == gap.host}
    words = _Told(resolved, assembly, mounts, bodies)
    worst: dict[tuple[str, str], Pair] = {}

    def near(a: str, b: str) -> float:
        return NEAR if a != b and _neighbours(resolved, mounts, a, b) else 0.0

    def found(pair: Pair) -> Gap | None:
        a, b = (bodies.element(k) for k in (pair.a, pair.b))
        gives = sum(bodies.gives(k, pair.way) for k in (pair.a, pair.b))
        if pair.apart >= 0:
            return words.gap(pair, pair.apart - gives, pair.way) if pair.apart - gives > TOUCHING else None
        up_a, up_b = _chain(resolved, a), _chain(resolved, b)
        shared = next(e for e in up_a if e in up_b)
        path = {*up_a[: up_a.index(shared)], *up_b[: up_b.index(shared)]} or {a}
        if path & clashing or shared in hung:
            return None
        apart, way = pair.apart - gives, pair.way
        if shared not in (a, b):
            sides = [mounts[r.host, r.place.face] for r in (resolved[e] for e in (a, b))]
            apart, way = bodies.parting(a, b, sides)
        return words.gap(pair, min(apart, pair.apart - gives), way)

    for pair in bodies.pairs(NEAR, near):
        a, b = (bodies.element(k) for k in (pair.a, pair.b))
        key = (a, b) if a <= b else (b, a)
        if key not in worst or pair.apart < worst[key].apart - _LIKE:
            worst[key] = pair
    known = before.told if before is not None else {}
    kept: dict[tuple[str, str], tuple[Pair, Gap | None]] = {}
    for key, pair in worst.items():
        was = known.get(key)
        # what is in one another is told or not by all that clashes on the way from one to the other
        if was is not None and was[0] is pair and pair.apart >= 0:
            kept[key] = was
        else:
            kept[key] = pair, found(pair)
    gaps = tuple(gap for _, gap in kept.values() if gap is not None)
    return Beside(gaps, posed, resolved, mounts, bodies, kept)
