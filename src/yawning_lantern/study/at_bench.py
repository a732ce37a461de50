"""A study at the bench: its pieces, parts and joints as the bench plans them."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from msgspec.structs import replace

from yawning_lantern.assembly import HOST, Assembly
from yawning_lantern.assembly.joined import Frame
from yawning_lantern.bench import (
    Before,
    BenchPlan,
    Material,
    Reach,
    Reasons,
    Schools,
    Step,
    Thing,
    acts_of,
    bench_plan,
    find_order,
    natural,
    score_plan,
)
from yawning_lantern.bench.acts import Act
from yawning_lantern.bench.preparing import notches
from yawning_lantern.fold import apply
from yawning_lantern.measure import told
from yawning_lantern.pattern import Piece, Point, area
from yawning_lantern.pattern.convex import holds
from yawning_lantern.study.fastened import lie_over
from yawning_lantern.study.pierced import bare
from yawning_lantern.study.seams import seams_that_show
from yawning_lantern.study.study import Study
from yawning_lantern.words import in_a_row

STRIP_NEAR = 3.0
"""A ribbon and what is glued over it lie no further from one another, mm. From memory."""
BEHIND = 6.0
"""What lies within this behind a notch would be punched too, mm."""


def rules(study: Study) -> tuple[Before, ...]:
    """What the parts of a design say of the order of their acts; and what is tried before an act is made before it."""
    acts = acts_of(study.assembly)
    names = {act.name for act in acts}
    told = [
        Before(f"{element}.{hint.first}", f"{element}.{hint.then}", hint.because)
        for element, r in study.resolved.items()
        for hint in r.part.hints
        if f"{element}.{hint.then}" in names  # what is put on nothing has no foot to come before
    ]
    for act in acts:
        inside = _within(study, act.element) if act.tried else frozenset()
        told += [Before(one.name, act.name, "it is tried before that is closed") for one in acts
                 if one.element in inside]  # fmt: skip
    told += [
        Before(hole.act, act, "it goes through, and what holds it lies behind")
        for hole in study.holes
        for act in hole.covered
    ]
    told += [
        Before(foot.name, act.name, f"{study.resolved[foot.element].part.name} lies under it")
        for foot in acts
        if foot.is_foot and study.resolved[foot.element].part.under
        for act in acts
        if act.is_foot and act.element != foot.element and _covers(study, act.element, foot)
    ]
    return tuple(told)


def _covers(study: Study, guest: str, foot: Act) -> bool:
    """Whether a part that is glued on the host of a strip lies where that runs, or of one that is not closed around it
    where its foot is, when all is shut."""
    strip = study.resolved[foot.element]
    if study.resolved[guest].host != strip.host:
        return False
    nodes, frames = study.assembly.nodes, study.shut_frames
    around = strip.family.relation == "around"
    mine = [k for k, n in enumerate(nodes) if n.element == foot.element] if around else [b.a for b in foot.joints]
    those = [k for k, n in enumerate(nodes) if n.element == guest]
    return any(lie_over(study.assembly, frames, a, b, STRIP_NEAR) for a in mine for b in those)


def _within(study: Study, element: str) -> frozenset[str]:
    """What stands inside a part, with all that is on it."""
    elements: set[str] = set()
    for guest, r in study.resolved.items():  # hosts come before their guests
        if r.host in elements or (r.host == element and _stands_in(study, guest)):
            elements.add(guest)
    return frozenset(elements)


def _stands_in(study: Study, guest: str) -> bool:
    """Whether a part stands between the walls of its host, or in a place that it lifts out of."""
    r = study.resolved[guest]
    host = study.resolved.get(r.host)
    if host is None:
        return False
    room, mount = host.rooms.get(r.place.face), next((m for m in host.part.mounts if m.id == r.place.face), None)
    return room is not None and (
        room.relation == "inside" or (room.relation == "onto" and mount is not None and mount.seat)
    )


def plan_bench(
    study: Study,
    schools: Schools | None = None,
    copies: int = 1,
    told: Callable[[int, int], object] = lambda done, of: None,
) -> BenchPlan:
    """The design step by step, for so many copies made side by side. `told` how far it is, some of how many; what it
    raises ends it."""
    schools = schools or Schools()
    assembly = study.assembly
    acts, reach, own = acts_of(assembly), Reach(assembly), rules(study)
    order = find_order(natural(assembly, acts, schools), reach, own, told)
    tool = study.catalogue.tool(study.design.score_tool)
    plan = bench_plan(
        assembly, order, Reasons(order, reach), materials(study, copies), things(study), tool,
        study.catalogue.adhesive(study.design.adhesive), schools, own, copies,
    )  # fmt: skip
    seams = seams_that_show(study) | bare(study.holes)
    return replace(plan, steps=tuple(_heeding(step, seams) for step in plan.steps)) if seams else plan


def _heeding(step: Step, seams: Mapping[str, str]) -> Step:
    """A step of a seam that shows says so."""
    words = seams.get(step.act, "") if step.kind in ("glue", "tie") else ""
    return replace(step, heed=" ".join(filter(None, (words, step.heed)))) if words else step


def materials(study: Study, copies: int = 1) -> tuple[Material, ...]:
    """Every piece that is cut, in the order of the nest, with how it is scored and what needs it."""
    tool = study.catalogue.tool(study.design.score_tool)
    materials = []
    for piece in study.pieces:
        if piece.bought:
            continue
        whole = replace(piece, quantity=piece.quantity * copies) if copies > 1 else piece
        turns = _turns(study, piece)
        materials.append(Material(whole, score_plan(piece, tool), study.copies(piece), _behind(study, piece), turns))
    return tuple(materials)


MOST_TURNS = 8
"""Of more folds than this the order is told by the piece's note and the picture: a list helps nobody."""


def _turns(study: Study, piece: Piece) -> tuple[str, ...]:
    """In which order a folded sheet is folded: what moves and onto what, for each fold."""
    r = study.resolved.get(piece.id.split(".")[0])
    if r is None or not 1 < len(r.part.folding) <= MOST_TURNS:
        return ()
    labels = {panel.name: panel.label for panel in piece.panels}
    ends = {crease.name: (crease.a, crease.b) for crease in piece.creases}
    turns = []
    for stage in r.part.folding:
        moved = []
        for _, name in stage:
            a, b = ends[name]
            mover, stays = (a, b) if _beyond(piece, a, name) < _beyond(piece, b, name) else (b, a)
            moved.append(f"{labels[mover]} on {labels[stays]}")
        turns.append(in_a_row(dict.fromkeys(moved)))
    return tuple(turns)


def _beyond(piece: Piece, panel: str, crease: str) -> float:
    """How much paper hangs on a panel but for what lies across a crease, mm²: hands move the smaller part."""
    seen, todo = {panel}, [panel]
    while todo:
        here = todo.pop()
        for one in piece.creases:
            if one.name != crease and here in (one.a, one.b):
                other = one.b if one.a == here else one.a
                if other not in seen:
                    seen.add(other)
                    todo.append(other)
    return sum(area(one.outline) for one in piece.panels if one.name in seen)


def things(study: Study) -> dict[str, Thing]:
    """Every part as the bench sees it."""
    things = {}
    feet = (bonded for bonded in study.assembly.joints if bonded.joint.b == HOST)
    through: dict[str, tuple[tuple[float, float, float], ...]] = {}
    for hole in study.holes:
        if not hole.drawn:
            through[hole.element] = (*through.get(hole.element, ()), (hole.across, *hole.at))
    loose = {bonded.element for bonded in feet if bonded.joint.bond == "slide"}
    for element, r in study.resolved.items():
        part = r.part
        host = study.resolved.get(r.host) if r.host else None
        mount = next((m for m in host.part.mounts if m.id == r.place.face), None) if host else None
        room = host.rooms.get(r.place.face) if host else None
        slides = [one for one in part.instances if one.attach is not None and one.attach.kind == "slide"]
        inserts = tuple(part.piece(one.piece).name for one in slides if not one.limp)
        placed = {one.piece for one in part.instances}
        bends = tuple((one.id, one.name, one.quantity, one.note) for one in part.pieces if one.id not in placed)
        fits = tuple(
            f"{check.gap.between[1]} {told(check.gap.value, fine=True)}"
            for check in study.checks
            if check.gap.element == element and check.gap.host == r.host and r.host and check.gap.value > 0
        )[:3]
        things[element] = Thing(
            element,
            part.name,
            r.host,
            host.part.name if host else "",
            mount.label if mount else "",
            r.place.turn,
            flat=len(part.instances) == 1 and len(part.pieces[0].panels) == 1,
            inside=room is not None and room.relation in ("inside", "over", "around"),
            within=_stands_in(study, element),
            seated=mount is not None and (mount.seat or element in loose),
            inserts=inserts,
            bends=bends,
            wares=tuple((ware.name, ware.count, ware.length) for ware in part.wares),
            holds=None if any(joint.tried for joint in part.joints) else part.contents,
            shaves=part.shaves,
            under=part.under,
            fits=fits,
            holes=through.get(element, ()),
        )
    return things


def _behind(study: Study, piece: Piece) -> tuple[str, ...]:
    """The names of what lies behind the notches of a piece when all is shut, but for the piece itself."""
    chains = notches(piece)
    if not chains:
        return ()
    assembly, names = study.assembly, []
    ids = set(study.copies(piece))
    for k, node in enumerate(assembly.nodes):
        if node.piece.id not in ids or node.shape is not None:
            continue
        for chain in chains:
            points = [node.piece.lines[rank].start for rank in chain]
            middle = sum(p[0] for p in points) / len(points), sum(p[1] for p in points) / len(points)
            names += _under(assembly, study.shut_frames, k, middle)
    return tuple(dict.fromkeys(names))


def _under(assembly: Assembly, frames: list[Frame], k: int, at: Point) -> list[str]:
    """What lies close behind a place of a panel, by name."""
    x, y, z = apply(frames[k], *at)
    own, names = assembly.nodes[k], []
    for j, node in enumerate(assembly.nodes):
        if (node.element, node.instance) == (own.element, own.instance) or node.shape is not None:
            continue
        f = frames[j]
        dx, dy, dz = x - f[9], y - f[10], z - f[11]
        u, v, w = (dx * f[n] + dy * f[n + 1] + dz * f[n + 2] for n in (0, 3, 6))
        if abs(w) < BEHIND and holds(node.panel.outline, (u, v)):
            names.append(node.piece.name)
    return names
