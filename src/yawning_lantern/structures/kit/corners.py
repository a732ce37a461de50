"""Rounded corners: a radius that a punch or a pair of scissors makes, and what the arcs take off a face."""

from __future__ import annotations

import math
from collections.abc import Iterable

from msgspec.structs import replace

from yawning_lantern.assembly import Gap, Room, Span, Term, span, uses
from yawning_lantern.errors import ParameterError
from yawning_lantern.measure import at_most, told
from yawning_lantern.pattern import Point
from yawning_lantern.pattern.rounding import SQUARE
from yawning_lantern.structures.kit.declare import Situation, Sized
from yawning_lantern.structures.kit.lying import fit_gap
from yawning_lantern.structures.kit.solving import length_of

ARC = 5  # straight pieces to a rounded corner
LEAST_RADIUS = 3.0
"""A rounded corner of less is none that a punch or a pair of scissors makes, mm. From memory."""


def radius_of(s: Situation, what: str, *sides: float) -> Sized:
    """The radius of rounded corners of what is `sides` mm long and wide; none if not told. Raises ParameterError where
    two corners meet."""
    radius, least = length_of(s.given, "rounded", 0.0), min(sides)
    if 2 * radius.length > least + 1e-6:
        raise ParameterError(
            f"Corners of {told(radius.length)} meet on a {what} of {told(least)}.", "Rounded corners",
            f"Give {at_most(least / 2)}.",
        )  # fmt: skip
    return radius


def rounded(x0: float, y0: float, x1: float, y1: float, radius: float, which: Iterable[str]) -> tuple[Point, ...]:
    """A rectangle with some corners (of `bl br tr tl`) rounded, counter-clockwise from the lower left, mm."""
    wanted = set(which)
    points: list[Point] = []
    for name, x, y, sx, sy, begin in (
        ("bl", x0, y0, 1, 1, math.pi),
        ("br", x1, y0, -1, 1, 1.5 * math.pi),
        ("tr", x1, y1, -1, -1, 0.0),
        ("tl", x0, y1, 1, -1, 0.5 * math.pi),
    ):
        if name not in wanted or radius <= 0:
            points.append((x, y))
            continue
        cx, cy = x + sx * radius, y + sy * radius
        points += [
            (cx + radius * math.cos(angle), cy + radius * math.sin(angle))
            for angle in (begin + k * math.pi / 2 / ARC for k in range(ARC + 1))
        ]
    return tuple(points)


def concentric(radius: float, border: float) -> float:
    """The radius of what lies on a face with rounded corners, its border even all round, mm: about the same middle, or
    none where square corners lie within the arcs too (a square's diagonal)."""
    return radius - border if SQUARE * radius > math.sqrt(2) * border else 0.0


def _rounding(s: Situation, radius: float) -> Span | None:
    """The radius of rounded corners, where there are any."""
    return span("rounded corner", radius, s.element, "rounded") if radius > 0 else None


def with_corners(room: Room, s: Situation, radius: float) -> Room:
    """The room of a face whose corners are rounded, or not."""
    return replace(room, corner=_rounding(s, radius))


def corner_gaps(s: Situation, radius: float) -> tuple[Gap, ...]:
    """A fit for rounded corners, where there are any: wide enough to be cut, and wider than the sheet is thick."""
    corner = _rounding(s, radius)
    if corner is None:
        return ()
    left = corner.plus(Term("least that can be cut", -max(LEAST_RADIUS, 2 * s.paper.caliper)))
    return (fit_gap(s, uses.SPARE, (f"{s.name}, rounded corners", "punch or scissors"), left),)
