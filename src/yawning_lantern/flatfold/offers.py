"""What can be folded next: for a panel of a folded sheet every fold that moves it, possible or not, and why not."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import combinations, islice

from msgspec import Struct

from yawning_lantern.errors import ParameterError
from yawning_lantern.flatfold.folding import stepped
from yawning_lantern.flatfold.order import orders
from yawning_lantern.flatfold.script import Bring, Edge, Glue, Hinges, Step, Tuck, Way
from yawning_lantern.flatfold.state import Folded, Pair, meets, mirror, then
from yawning_lantern.pattern import Point, bounds
from yawning_lantern.pattern.convex import centroid, shared

_NEAR = 1e-2  # mm: corners nearer than this to a line are on it
_TRIES = 64  # sets of scores on one line
_MOST = 12  # places a panel may slip into that are told


class Offer(Struct, frozen=True):
    """A fold, and what it leads to; or why it cannot be done, with what would help."""

    step: Step
    line: tuple[Point, Point]
    after: Folded | None
    why_not: str = ""


def offers(state: Folded, facet: str, way: Way = "over") -> tuple[Offer, ...]:
    """Every fold of one line that moves a panel, what can be done first: the fewest scores of the line that do."""
    at = state.sheet.at(facet)
    offers: dict[Hinges, Offer] = {}
    for line in _lines(state):
        refused: Offer | None = None
        for hinges in islice(_candidates(state, line, at), _TRIES):
            offer = _tried(state, hinges, way)
            if offer.after is not None and offer.after.isos[at] == state.isos[at]:
                continue  # it moves others
            if offer.after is not None:
                offers[hinges] = offer
                break
            refused = refused or offer
        else:
            if refused is not None and isinstance(refused.step, Bring):
                offers[refused.step.hinges] = refused
    return tuple(sorted(offers.values(), key=lambda offer: offer.after is None))


def _tried(state: Folded, hinges: Hinges, way: Way) -> Offer:
    step = Bring(hinges, way)
    line = state.stretch(state.sheet.hinge(*hinges[0]))
    try:
        return Offer(step, line, stepped(state, step))
    except ParameterError as problem:
        return Offer(step, line, None, problem.sentence())


def tucks(state: Folded, hinges: Hinges) -> tuple[Offer, ...]:
    """Every place between layers that what hangs on some hinges can slip into, told by what it comes over and under.
    Nothing where it cannot be moved at all."""
    sheet, line = state.sheet, state.stretch(state.sheet.hinge(*hinges[0]))
    going = _beyond(state, hinges)
    if going is None:
        return ()
    flip = mirror(*line)
    isos = tuple(then(iso, flip) if k in going else iso for k, iso in enumerate(state.isos))
    above: dict[Pair, int] = {
        (i, j): -sign if i in going else sign for (i, j), sign in state.above.items() if (i in going) == (j in going)
    }
    shut = state.shut | {sheet.hinge(*pair) for pair in hinges}
    after = Folded(sheet, isos, above, shut, state.glued)
    offers: dict[tuple[tuple[str, ...], tuple[str, ...]], Offer] = {}
    for order in islice(orders(after, above), _MOST):
        over: list[str] = []
        under: list[str] = []
        for k, facet in enumerate(sheet.facets):
            if k in going:
                continue
            signs = [
                order[min(i, k), max(i, k)] * (1 if i > k else -1)
                for i in going
                if meets(after.places[i], after.places[k])
            ]
            if signs:
                (over if signs[0] > 0 else under).append(facet.name)
        step = Tuck(hinges, tuple(over), tuple(under))
        try:
            offers.setdefault((step.over, step.under), Offer(step, line, stepped(state, step)))
        except ParameterError:
            continue  # some of its panels go over and under the same one: it cannot be told that way
    return tuple(offers.values())


def _beyond(state: Folded, hinges: Hinges) -> set[int] | None:
    """What hangs beyond some hinges; None where it is joined another way round."""
    cut = {state.sheet.hinge(*pair) for pair in hinges}
    going = {state.sheet.at(b) for _, b in hinges}
    todo = list(going)
    while todo:
        i = todo.pop()
        for a, b in _links(state, cut):
            other = b if a == i else a if b == i else -1
            if other >= 0 and other not in going:
                going.add(other)
                todo.append(other)
    return None if any(state.sheet.at(a) in going for a, _ in hinges) else going


def _links(state: Folded, cut: set[int]) -> Iterator[Pair]:
    for k, h in enumerate(state.sheet.hinges):
        if k not in cut:
            yield h.a, h.b
    for g in state.glued:
        yield g.a, g.b


def _lines(state: Folded) -> list[tuple[int, ...]]:
    """Open scores that lie on one line, for every line."""
    free = [k for k, h in enumerate(state.sheet.hinges) if h.scored and k not in state.shut]
    lines: list[tuple[int, ...]] = []
    for k in free:
        line = tuple(m for m in free if _on_line(state.stretch(k), state.stretch(m)))
        if line not in lines:
            lines.append(line)
    return lines


def _candidates(state: Folded, line: tuple[int, ...], facet: int) -> Iterator[Hinges]:
    """The sets of scores on a line that a fold may use which moves a facet, small ones first: what moves lies on one
    side of the line or hangs together with the facet. Where none parts the sheet, the facet's own score, to be told why
    not."""
    given = set()
    for count in range(1, len(line) + 1):
        for group in combinations(line, count):
            for hinges in (_directed(state, group, facet), _on_its_side(state, group, facet)):
                if hinges and hinges not in given:
                    given.add(hinges)
                    yield hinges
    if not given:
        for k in line:
            h = state.sheet.hinges[k]
            if facet in (h.a, h.b):
                other = h.b if h.a == facet else h.a
                yield ((state.name(other), state.name(facet)),)


def _on_its_side(state: Folded, group: tuple[int, ...], facet: int) -> Hinges:
    """The hinges told so that what lies on the facet's side of the line moves: layers that are folded as one."""
    (x0, y0), (x1, y1) = state.stretch(group[0])

    def side(k: int) -> bool:
        x, y = centroid(state.places[k])
        return (x1 - x0) * (y - y0) - (y1 - y0) * (x - x0) > 0

    told = []
    for k in group:
        h = state.sheet.hinges[k]
        a, b = (h.a, h.b) if side(h.b) == side(facet) else (h.b, h.a)
        told.append((state.name(a), state.name(b)))
    return tuple(told)


def _on_line(one: tuple[Point, Point], other: tuple[Point, Point]) -> bool:
    (x0, y0), (x1, y1) = one
    length = ((x1 - x0) ** 2 + (y1 - y0) ** 2) ** 0.5
    return all(abs((x1 - x0) * (y - y0) - (y1 - y0) * (x - x0)) < _NEAR * length for x, y in other)


def _directed(state: Folded, group: tuple[int, ...], facet: int) -> Hinges:
    """The hinges told so that what moves is the facet's side; none where the group does not part the sheet there."""
    sheet = state.sheet
    cut = set(group)
    side = {facet}
    todo = [facet]
    while todo:
        i = todo.pop()
        for a, b in _links(state, cut):
            other = b if a == i else a if b == i else -1
            if other >= 0 and other not in side:
                side.add(other)
                todo.append(other)
    told = []
    for k in group:
        h = sheet.hinges[k]
        if (h.a in side) == (h.b in side):
            continue
        a, b = (h.b, h.a) if h.a in side else (h.a, h.b)
        told.append((sheet.facets[a].name, sheet.facets[b].name))
    return tuple(told)


def edge_near(state: Folded, one: str, other: str, p: Point) -> Edge:
    """The side of what two panels share that a point is nearest to, as it lies."""
    common = shared(state.places[state.sheet.at(one)], state.places[state.sheet.at(other)])
    x0, y0, x1, y1 = bounds(common)
    off: dict[Edge, float] = {"left": p[0] - x0, "right": x1 - p[0], "foot": p[1] - y0, "head": y1 - p[1]}
    return min(off, key=lambda edge: abs(off[edge]))


def glue_at(state: Folded, layers: tuple[int, ...], p: Point, width: float) -> Glue | None:
    """Glue between the two uppermost of some layers, along the edge nearest a point; None where one lies alone."""
    if len(layers) < 2:
        return None
    one, other = state.name(layers[-1]), state.name(layers[-2])
    return Glue(one, other, (edge_near(state, one, other, p),), width)
