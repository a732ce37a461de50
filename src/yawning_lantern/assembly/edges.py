"""The gaps between one guest and one host, from the Room and the Need alone.

Both are convex and told by their reaches towards directions (the support function of a convex set): the gap towards a
side of the room is its reach less the guest's support that way. So no family meets another, and any two give a gap."""

from __future__ import annotations

import math

from yawning_lantern.assembly import uses
from yawning_lantern.assembly.room import TOP, TOP_AROUND, Gap, Need, Room, Side
from yawning_lantern.assembly.spans import Lever, Span, Term

_SAME_ANGLE = 1e-6  # radians: two sides nearer than this look one way
_UNLIKE = 0.01  # mm: where two opposite sides leave more than this unlike, each is told
_FAR = 25.0  # mm: what is across a wall and farther off than this is not asked for


def _turned(angle: float, turn: int) -> float:
    return (angle + turn * math.pi / 2) % (2 * math.pi)


def matching_side(sides: tuple[Side, ...], angle: float, turn: int) -> Side | None:
    """The side of a guest that looks in a direction of the face (radians) when it is turned, or None."""
    if not turn:
        for side in sides:
            if side.angle == angle:
                return side
    for side in sides:
        apart = abs(_turned(side.angle, turn) - angle % (2 * math.pi))
        if min(apart, 2 * math.pi - apart) < _SAME_ANGLE:
            return side
    return None


def support(sides: tuple[Side, ...], angle: float, turn: int) -> float:
    """How far the polygon bounded by `sides` (sorted by angle, turned) reaches in a direction, mm."""
    n = len(sides)
    far = -math.inf
    for k in range(n):
        a, b = sides[k], sides[(k + 1) % n]
        det = math.sin(b.angle - a.angle)
        if abs(det) < 1e-9:
            continue
        ra, rb = a.reach.value, b.reach.value
        x = (ra * math.sin(b.angle) - rb * math.sin(a.angle)) / det
        y = (rb * math.cos(a.angle) - ra * math.cos(b.angle)) / det
        turned = turn * math.pi / 2
        far = max(far, x * math.cos(angle - turned) + y * math.sin(angle - turned))
    return far


def seat_shift(room: Room, need: Need, turn: int) -> tuple[float, float]:
    """How far the middle of a guest lies off the middle of the face, mm, so that it has as much room on either side.

    Walls carry unlike bulk, and things stand out unlike: the maker sets a thing in the middle of what is free. Layers
    are glued base on base, and bands lie as they fall.
    """
    if need.fixed or (room.per_side and need.use == room.use):
        return 0.0, 0.0
    shifts = []
    for angle in (0.0, math.pi / 2):
        ahead, behind = matching_side(room.sides, angle, 0), matching_side(room.sides, angle + math.pi, 0)
        own, other = matching_side(need.sides, angle, turn), matching_side(need.sides, angle + math.pi, turn)
        shift = 0.0
        if ahead is not None and behind is not None and room.relation in ("inside", "onto", "over"):
            shift = (ahead.reach.value - behind.reach.value) / 2
            if own is not None and other is not None:
                shift -= (own.reach.value - other.reach.value) / 2
        shifts.append(shift if abs(shift) > 1e-9 else 0.0)
    return shifts[0], shifts[1]


def _one_side(
    room_side: Side,
    need: Need,
    turn: int,
    place: tuple[float, float],
    shift: tuple[float, float],
    over: bool,
    guest: str,
) -> Span | None:
    """What is left at one side of the room, the guest at its `place` (mm) from where it would sit by itself."""
    own = matching_side(need.sides, room_side.angle, turn)
    if own is not None:
        reach = own.reach
    elif len(need.sides) >= 3:
        reach = Span((Term(f"corner towards {room_side.name}", support(need.sides, room_side.angle, turn)),))
    else:
        return None
    sign = 1.0 if over else -1.0
    left = reach - room_side.reach if over else room_side.reach - reach
    c, q = math.cos(room_side.angle), math.sin(room_side.angle)
    own_shift = shift[0] * c + shift[1] * q
    terms = [Term("set in the middle of what is free", sign * own_shift)] if abs(own_shift) > 1e-9 else []
    for share, at, name in ((c, place[0], "place-x"), (q, place[1], "place-y")):
        if abs(share * at) > 1e-9:
            terms.append(Term("off the middle", sign * share * at, Lever(guest, name, sign * share)))
    return Span((*left.terms, *terms))


def _axis(angle: float) -> str:
    """What a maker calls a direction in a face, or nothing for a slanting one."""
    if abs(math.sin(angle)) < _SAME_ANGLE:
        return "across"
    return "front to back" if abs(math.cos(angle)) < _SAME_ANGLE else ""


def edge_gaps(
    host: str,
    guest: str,
    names: tuple[str, str],
    room: Room,
    need: Need,
    turn: int,
    place: tuple[float, float],
    mount: str = "floor",
) -> tuple[Gap, ...]:
    """Every gap between a guest and the face it sits on.

    `names` are what the maker calls host and guest; `turn` is in quarter turns, `place` in mm from where it would sit
    by itself. Gaps are per side where the room says so or where opposite sides are unlike, else in all, along each
    pair of opposite sides.
    """
    shift = seat_shift(room, need, turn)
    over = room.relation in ("over", "around")
    per_side = room.per_side and need.use == room.use
    sides: list[tuple[Side, Span]] = []
    for side in room.sides:
        left = _one_side(side, need, turn, place, shift, over, guest)
        if left is not None:
            sides.append((side, left))
    use = need.use if per_side else need.use.elsewhere or need.use
    if room.relation == "inside" and use.between is not None:
        use = use.between  # what lies flat between walls has to go in
    gaps: list[Gap] = []
    level = 0.0 if room.relation == "onto" else (room.wall or 0.0) * (0.94 if over else 0.6)

    def at_side(side: Side, left: Span, share: float) -> Gap:
        between = (f"{names[1]}, {side.name}", f"{names[0]}, {side.name}")
        return Gap(
            use, guest, host, between, left.merged(), need.school, need.want, side.name, side.angle, mount,
            reach=side.reach.value, level=level, share=share,
        )  # fmt: skip

    if per_side:
        gaps += [at_side(side, left, 1.0) for side, left in sides]
    else:
        done: set[int] = set()
        for i, (side, one) in enumerate(sides):
            if i in done:
                continue
            opposite = [
                j
                for j, (other, _) in enumerate(sides)
                if j != i and j not in done and abs(abs(other.angle - side.angle) - math.pi) < _SAME_ANGLE
            ]
            other = sides[opposite[0]] if opposite else None
            unlike = other is not None and abs(one.value - other[1].value) > _UNLIKE
            if other is None or unlike:
                gaps.append(at_side(side, one, 0.5))
                continue
            axis = _axis(side.angle) or f"{side.name} to {other[0].name}"
            done.add(opposite[0])
            left = one + other[1]
            between = (names[1], f"{names[0]}, {axis}")
            gaps.append(
                Gap(
                    use,
                    guest,
                    host,
                    between,
                    left.merged(),
                    need.school,
                    need.want,
                    axis,
                    side.angle,
                    mount,
                    True,
                    side.reach.value,
                    level,
                )
            )
    if room.height is not None and need.height is not None and not over:
        hangs = 0.0 if need.bears_lid else room.intrudes  # a lid rests on what bears it
        upwards = uses.WALL_HEIGHT if per_side else uses.HEADROOM
        left = (room.height - need.height).plus(Term("under the lid", -hangs))
        if not per_side:
            left = left.plus(Term("what stands above its wall", -need.stands))
        left = left.merged()
        if room.bound not in (TOP, TOP_AROUND) and left.value > _FAR:
            return tuple(gaps)  # a mat on a wall is not asked how far the wall across is
        between = (f"{names[1]}, top", f"{names[0]}, {room.bound}")
        gaps.append(
            Gap(
                upwards,
                guest,
                host,
                between,
                left,
                need.height_school,
                need.height_want,
                "up",
                None,
                mount,
                False,
                room.height.value,
                0.0,
            )
        )
    return tuple(gaps)
