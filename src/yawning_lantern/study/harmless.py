"""Whether a piece that came out otherwise than planned does any harm as it is: it is folded so, and looked at.

It does none where no two sheets come to be in one place, every joint keeps most of its area, no ring is asked to give
more than paper gives, and every fit that the part has stays no clash if the deviation is taken off it or put on."""

from __future__ import annotations

from msgspec import Struct
from msgspec.structs import replace

from yawning_lantern.assembly import Assembly, Guest, Lever, Part, Span, Term, join
from yawning_lantern.fit import check_gaps
from yawning_lantern.fold import State, pose
from yawning_lantern.opening import Opening, Plates, check_order
from yawning_lantern.pattern import Piece, area
from yawning_lantern.pattern.convex import shared
from yawning_lantern.study.amiss import Amiss, as_built, lines_of
from yawning_lantern.study.bodies import solids
from yawning_lantern.study.refit import Moves
from yawning_lantern.study.study import Study

KEPT = 0.6
"""A joint that keeps this share of its area holds. Common practice, no source."""
GIVES = 0.8
"""What paper gives in a ring, mm: an eighth of an inch is too much, a thirty-second is not. From memory."""


class AsBuilt(Struct, frozen=True):
    """What was looked at: `is_harmless`, else `why` it is not, in words. `assembly` is the thing as built."""

    is_harmless: bool
    why: str = ""
    assembly: Assembly | None = None


def look_at(study: Study, wrong: Amiss, moves: Moves | None = None) -> AsBuilt:
    """Look at one copy of a piece with a line elsewhere than planned."""
    moves = moves or Moves(study)
    piece = next(one for one in study.pieces if one.id == wrong.piece)
    planned = lines_of(piece)
    off = abs(wrong.measured - planned[wrong.line])
    element = wrong.piece.split(".")[0]
    part = study.resolved[element].part
    own = part.piece(wrong.piece)
    x0 = min(p[0] for p in own.outline)
    y0 = min(p[1] for p in own.outline)
    built = _moved(as_built(own, wrong.line, wrong.measured), x0, y0)
    if any(not area(panel.outline) > 1.0 for panel in built.panels):
        return AsBuilt(False, "a panel is as good as gone")
    if part.loops and off > GIVES:
        return AsBuilt(False, "its ring does not close")
    assembly = _with(study, element, replace_piece(part, built))
    now, before = Plates(assembly, solids=solids(study.resolved, assembly)), Plates(study.assembly)
    frames = pose(assembly, State(1.0, (0.0,) * len(assembly.motions)))
    known = {frozenset((c.a, c.b)) for c in before.shut_contacts(study.shut_frames)}
    fresh = [c for c in now.shut_contacts(frames) if frozenset((c.a, c.b)) not in known]
    if fresh:
        a, b = (assembly.nodes[k] for k in (fresh[0].a, fresh[0].b))
        return AsBuilt(False, f"{a.panel.label or a.panel.name} and {b.panel.label or b.panel.name} meet", assembly)
    if not _joints_hold(study, assembly):
        return AsBuilt(False, "a joint loses too much of its area", assembly)
    worst = _fits(study, element, (wrong.piece, wrong.line), off, moves)
    if worst:
        return AsBuilt(False, worst, assembly)
    return AsBuilt(True, assembly=assembly)


def _moved(piece: Piece, dx: float, dy: float) -> Piece:
    """A laid piece where its family drew it."""

    def at(p: tuple[float, float]) -> tuple[float, float]:
        return p[0] + dx, p[1] + dy

    return replace(
        piece,
        outline=tuple(map(at, piece.outline)),
        holes=tuple(tuple(map(at, hole)) for hole in piece.holes),
        panels=tuple(panel.moved(at) for panel in piece.panels),
        creases=tuple(replace(c, start=at(c.start), end=at(c.end)) for c in piece.creases),
        lines=tuple(replace(n, start=at(n.start), end=at(n.end)) for n in piece.lines),
    )


def replace_piece(part: Part, built: Piece) -> Part:
    """The part with the first copy of a piece as it was built."""
    name = f"{built.id}-as-built"
    first = next((one.id for one in part.instances if one.piece == built.id), "")  # a strap is set by the maker
    instances = tuple(replace(one, piece=name) if one.id == first else one for one in part.instances)
    return replace(part, pieces=(*part.pieces, replace(built, id=name)), instances=instances)


def _with(study: Study, element: str, part: Part) -> Assembly:
    glue = study.catalogue.adhesive(study.design.adhesive).thickness
    return join(
        [
            Guest(part if e == element else r.part, r.host, r.place.face, r.seat, r.place.turn, glue)
            for e, r in study.resolved.items()
        ]
    )


def _joints_hold(study: Study, assembly: Assembly) -> bool:
    """Whether every joint that is glued all over keeps most of the smaller of its two faces."""
    for before, now in zip(study.assembly.joints, assembly.joints, strict=True):
        if before.joint.bond != "glue" or before.joint.spots:
            continue
        was = min(area(study.assembly.nodes[k].panel.outline) for k in (before.a, before.b))
        left = min(area(assembly.nodes[k].panel.outline) for k in (now.a, now.b))
        if left < KEPT * was:
            return False
        one, other = (assembly.nodes[k].panel.outline for k in (now.a, now.b))
        if assembly.nodes[now.a].piece is assembly.nodes[now.b].piece and area(shared(one, other) or one) < 0:
            return False
    return True


def _fits(study: Study, element: str, target: tuple[str, str], off: float, moves: Moves) -> str:
    """The first fit that stands in no pose (thicknesses told by number, glue, pockets) and would clash with the
    deviation taken off or put on, in words. Only fits count that hang on a measure which moves the line."""
    for check in study.checks:
        gap = check.gap
        if element not in (gap.element, gap.host) or check.is_clash or gap.use.code in ("sheet", "stock", "panel"):
            continue
        if gap.host != gap.element or gap.where:
            continue  # between two things that stand in the pose: what meets was looked for there
        share = max((_share(term, target, moves) for term in gap.span.terms), default=0.0)
        for by in (-off * share, off * share):
            if not by:
                continue
            trial = replace(gap, span=Span((*gap.span.terms, Term("as built", by))))
            if check_gaps((trial,))[0].is_clash:
                return f"{gap.between[0]} and {gap.between[1]} would clash"
    return ""


def _share(term: Term, target: tuple[str, str], moves: Moves) -> float:
    """What a term of a fit moves by while the line moves by one."""
    if term.lever is None:
        return 0.0
    moved = moves.of((term.lever.element, term.lever.parameter)) if _is_length(moves.study, term.lever) else None
    by = abs(moved.get(target, 0.0)) if moved else 0.0
    return abs(term.lever.slope) / by if by > 1e-3 else 0.0


def _is_length(study: Study, lever: Lever) -> bool:
    sized = study.resolved[lever.element].sizes.get(lever.parameter) if lever.element in study.resolved else None
    return sized is not None and not isinstance(sized.value, str)


def opens(study: Study, built: AsBuilt, opening: Opening) -> bool:
    """Whether the thing as built opens in the order of the plan: every step swept."""
    assert built.assembly is not None
    plates = Plates(built.assembly, solids=solids(study.resolved, built.assembly))
    return check_order(plates, [step.motion for step in opening.steps]).works
