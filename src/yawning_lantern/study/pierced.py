"""What goes through a panel: where its hole is punched, what must come before what covers its back, and whether
anything covers it."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence

from msgspec import Struct
from msgspec.structs import replace

from yawning_lantern.arrays import np
from yawning_lantern.assembly import HOST, Assembly, Bonded
from yawning_lantern.assembly.joined import Frame
from yawning_lantern.pattern import Piece, Point, round_hole
from yawning_lantern.pattern.convex import holds
from yawning_lantern.study.resolve import Resolved


class Hole(Struct, frozen=True):
    """A hole through a piece: for which part, in which piece, how wide, and where in it and on it as it lies (from its
    left and its foot), mm. `act` is what goes through it, `covered` are the acts that cover its other side. It is
    `drawn` on its piece unless that is cut more than once, or bought."""

    element: str
    piece: str
    across: float
    middle: Point
    at: Point
    act: str
    covered: tuple[str, ...]
    drawn: bool


def holes(resolved: Mapping[str, Resolved], assembly: Assembly, frames: Sequence[Frame]) -> tuple[Hole, ...]:
    """Every hole that a part of a design needs in the panel it is put on; `frames` are those of the shut thing."""
    return tuple(
        hole
        for element, r in resolved.items()
        if r.part.pierces and r.host
        for hole in _holes(element, r, resolved, assembly, frames)
    )


def _holes(
    element: str, r: Resolved, resolved: Mapping[str, Resolved], assembly: Assembly, frames: Sequence[Frame]
) -> Iterator[Hole]:
    foot = next(b for b in assembly.joints if b.element == element and b.joint.b == HOST)
    host, own, frame = assembly.nodes[foot.b], np.array(frames[foot.a]), np.array(frames[foot.b])
    laid, plain = host.piece.laid, host.piece
    shift = laid.outline[0][0] - plain.outline[0][0], laid.outline[0][1] - plain.outline[0][1]
    side = next(m for m in resolved[r.host].part.mounts if m.id == r.place.face).side
    for (x, y), across in r.part.pierces:
        spot = own[9:] + x * own[:3] + y * own[3:6] - frame[9:]
        middle = float(spot @ frame[:3]), float(spot @ frame[3:6])
        covered = dict.fromkeys(b.act for b in assembly.joints if _covers(assembly, frames, b, foot, side, middle))
        yield Hole(
            element, plain.id, across, middle, (middle[0] + shift[0], middle[1] + shift[1]), foot.act,
            tuple(covered), plain.quantity == 1 and not plain.bought,
        )  # fmt: skip


def _covers(assembly: Assembly, frames: Sequence[Frame], other: Bonded, foot: Bonded, side: int, at: Point) -> bool:
    """Whether a joint brings something over the other side of a panel where a hole goes through it."""
    if other is foot or other.joint.bond not in ("glue", "held") or foot.b not in (other.a, other.b):
        return False
    mate = other.a if other.b == foot.b else other.b
    here, there = (np.array(frames[k]) for k in (foot.b, mate))
    off = float((there[9:] - here[9:]) @ here[6:9])
    if abs(abs(float(here[6:9] @ there[6:9])) - 1) > 1e-3 or off * side >= 0:
        return False
    spot = here[9:] + at[0] * here[:3] + at[1] * here[3:6] - there[9:]
    return holds(assembly.nodes[mate].panel.outline, (float(spot @ there[:3]), float(spot @ there[3:6])))


def pierced(piece: Piece, through: Sequence[Hole]) -> Piece:
    """A piece with the holes that go through it."""
    own = tuple(round_hole(hole.middle, hole.across) for hole in through if hole.piece == piece.id and hole.drawn)
    return replace(piece, holes=(*piece.holes, *own)) if own else piece


def bare(through: Sequence[Hole]) -> dict[str, str]:
    """By act what is to be heeded where nothing covers what stands through a panel."""
    return {
        hole.act: "what holds it lies bare on the other side: cover it with a mat"
        for hole in through
        if not hole.covered
    }
