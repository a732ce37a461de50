"""What a thing that goes over others is told of what is below it: lids, roofs."""

from __future__ import annotations

from msgspec import Struct

from yawning_lantern.structures.kit.declare import Situation, Sized


class Below(Struct, frozen=True):
    """The walls below. `nominal` is their panel, score to score, `outside` from the middle to the furthest of them
    with what is on it, `bulk` the most that is glued outside one, `wall` how high they are, mm."""

    walls: int
    nominal: tuple[float, float]
    outside: float
    caliper: float
    bulk: float
    wall: float | None

    def inside(self, joint: float) -> float:
        """From the middle to the inside of the walls, where a joint of so much lies inside them, mm."""
        return self.outside - self.bulk - self.caliper - joint


def below(s: Situation) -> Below | None:
    """What an element goes over; None where it stands alone."""
    room = s.room
    if room is None or room.relation != "over":
        return None
    outside = max(side.reach.value for side in room.sides)
    return Below(len(room.sides), room.nominal, outside, room.caliper, room.bulk, room.wall)


def walls_below(s: Situation, usual: int) -> Sized:
    """How many walls it goes over: its host's, or as told, else the usual."""
    under = below(s)
    if under is not None:
        return Sized(under.walls, "fill")
    return (
        Sized(int(told), "given") if isinstance(told := s.given.get("sides"), int | float) else Sized(usual, "default")
    )
