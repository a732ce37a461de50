"""What dresses slopes: shingles in courses from the eaves up, and strips folded over the hips.

A slope is told with its eaves on the level and its top above, in the middle; slopes lie in a fan about the point that
all lean to. A strip folds about the same middle as the hip below it (see `prism_trim`)."""

from __future__ import annotations

import math
from collections.abc import Sequence

from msgspec import Struct

from yawning_lantern.assembly import Attach, Instance, Joint, Root
from yawning_lantern.measure import inches
from yawning_lantern.pattern import Fold, Line, Panel, Piece, Point, area, build_piece
from yawning_lantern.pattern.convex import shared
from yawning_lantern.structures.kit.declare import Situation
from yawning_lantern.structures.kit.prism_trim import Trim

LAP = inches(3 / 16)
"""How far a course of shingles lies over the one below, mm. From memory."""
_FREE = 0.2
"""What two strips leave between them on a slope, mm."""


def hip_turn(pitch: float, theta: float) -> float:
    """How far one slope is turned from the next about their hip, radians: the angle between normals that lean out by
    the pitch and are `theta` apart around the middle, cos = sin²p·cos θ + cos²p (spherical law of cosines)."""
    return math.acos(math.sin(pitch) ** 2 * math.cos(theta) + math.cos(pitch) ** 2)


class Slopes(Struct, frozen=True):
    """Slopes in a fan: how many, a slope's outline, how far its eaves are from the point and where that is in the fan,
    mm, the angle of a slope about it, and by how much one turns from the next about their hip, radians."""

    count: int
    shape: Sequence[Point]
    far: float
    point: Point
    alpha: float
    turn: float

    def at(self, number: int, place: Point) -> Point:
        """A place on a slope (across, up) in the fan."""
        ((x, y),) = about((place,), self.far, self.alpha * number)
        return x + self.point[0], y + self.point[1]


def about(shape: Sequence[Point], far: float, angle: float) -> tuple[Point, ...]:
    """A shape on a slope (across, up from its eaves) in the fan about the point, mm: right of a slope, seen from
    outside, is the next one."""
    c, q = math.cos(angle), math.sin(angle)
    return tuple((c * (far - v) - q * u, q * (far - v) + c * u) for u, v in shape)


def beside_hips(shape: Sequence[Point], leg: float) -> tuple[Point, ...]:
    """What strips `leg` mm broad on either hip leave of a slope."""
    (_, _), (half, _), (top, high), (_, _) = shape
    if not leg:
        return tuple(shape)
    less = leg * math.hypot(half - top, high) / high  # across, on the level
    low, up = half - less, top - less
    if up < 0.0:
        high = high * low / (half - top) if low > 0 else 0.0
    return (-low, 0.0), (low, 0.0), (max(up, 1e-3), high), (-max(up, 1e-3), high)


def courses(s: Situation, slopes: Slopes, many: int, high: float) -> list[tuple[Piece, float]]:
    """A strip of shingles for every course, from the eaves up to `high`, cut to the slope; and where its foot is, mm.
    Slits part them, in every second course by half a shingle further on."""
    shape = slopes.shape
    step = high / many if many else 0.0
    lap, one = min(LAP, step / 2), step * 0.8
    made = []
    for k in range(many):
        low, top = k * step, min(high, (k + 1) * step + lap)

        def half(y: float) -> float:
            (x0, _), (x1, _) = shape[1], shape[2]
            return x0 + (x1 - x0) * y / shape[2][1] - 0.3

        wide, narrow = half(low), max(half(top), 0.6)
        outline = ((0.0, 0.0), (2 * wide, 0.0), (wide + narrow, top - low), (wide - narrow, top - low))
        marks, x = [], one * (0.5 if k % 2 else 1.0)
        while x < 2 * wide - one / 4:
            rise = min(step * 0.7, (top - low) * 0.7)
            inside = wide - narrow
            edge = inside * rise / (top - low) + 1.0
            if edge < x < 2 * wide - edge:
                marks.append(Line("cut", "none", (x, 0.0), (x, rise)))
            x += one
        piece = build_piece(
            f"{s.element}.course-{k + 1}", f"{s.name}, shingles {k + 1}", s.paper,
            [Panel("course", "shingles", outline)], marks=marks, quantity=slopes.count,
            note="From the eaves up, its foot on its guide line.",
        )  # fmt: skip
        made.append((piece, low))
    return made


def guides(slopes: Slopes, feet: Sequence[float]) -> list[Line]:
    """A line across every slope where the foot of a course comes to lie: drawn while the fan is flat. The first lies on
    the eaves."""
    (_, _), (half, _), (top, high), (_, _) = slopes.shape
    marks = []
    for number in range(slopes.count):
        for low in feet:
            if low < 1.0:
                continue
            wide = half + (top - half) * low / high - 1.0
            if wide > 1.0:
                marks.append(Line("mark", "none", slopes.at(number, (-wide, low)), slopes.at(number, (wide, low))))
    return marks


def strips_off(s: Situation, shingles: int) -> float:
    """How far a ridge strip lies off its slope over so many courses of shingles, middle to middle, mm."""
    return (shingles + 1) * s.paper.caliper + s.glue * (2 if shingles else 1)


def over_hip(s: Situation, shingles: int, turn: float) -> float:
    """How far up a strip's outside reaches at its bend, in parts of the slopes' cosine, mm: it lies off its slope, and
    runs on past the hip by half its arc, h = turn / 2; that way leads up by tan h."""
    return strips_off(s, shingles) * (1 + turn / 2 * math.tan(turn / 2)) + s.paper.caliper / 2


def ridge_strips(s: Situation, slopes: Slopes, leg: float, shingles: int, upto: float) -> Trim:
    """A strip over every hip, `leg` mm on either slope and `upto` mm up it, over so many courses of shingles; two of
    one slope meet along its middle."""
    t = s.paper.caliper
    apart = strips_off(s, shingles)
    (_, _), (half, _), (top, high), (_, _) = slopes.shape
    length = math.hypot(half - top, high)
    along = (top - half) / length, high / length
    inward = -along[1], along[0]

    def seen(place: Point) -> Point:
        """A place on the slope as the hip sees it: inwards of it, and up along it."""
        x, y = place[0] - half, place[1]
        return x * inward[0] + y * inward[1], x * along[0] + y * along[1]

    ends = half + (top - half) * upto / high
    own_half = [seen(p) for p in ((_FREE, 0.0), (half, 0.0), (ends, upto), (_FREE, upto))]
    band = ((0.0, -length), (leg, -length), (leg, 2 * length), (0.0, 2 * length))
    cut = shared(own_half if area(own_half) > 0 else own_half[::-1], band if area(band) > 0 else band[::-1])
    low, upper = min(v for _, v in cut), max(v for _, v in cut)
    panels = [
        Panel("leg-1", "leg", _ccw([(leg - d, v - low) for d, v in cut])),
        Panel("leg-2", "leg", _ccw([(leg + d, v - low) for d, v in cut])),
    ]
    piece = build_piece(
        f"{s.element}.ridge", f"{s.name}, ridge strip", s.paper, panels,
        [Fold("leg-1", "leg-2", -slopes.turn, wrap=2 * apart)], quantity=slopes.count,
        note="Score it in its middle; fold it over a hip when the roof is closed.",
    )  # fmt: skip
    bend = slopes.turn / 2 * (t / 2)  # of the hip; its own is longer
    own = leg - bend - slopes.turn / 2 * apart
    middle = (low + upper) / 2
    instances, joints = [], []
    for k in range(slopes.count):
        place = (half + along[0] * middle + inward[0] * bend, along[1] * middle + inward[1] * bend)
        here, ahead = slopes.at(k, place), slopes.at(k, (place[0] + along[0], place[1] + along[1]))
        on = Attach("slopes", f"slope-{k + 1}", here, (ahead[0] - here[0], ahead[1] - here[1]), 1, apart)
        name, after = f"ridge-{k + 1}", (k + 1) % slopes.count + 1
        instances.append(Instance(name, piece.id, Root("leg-1", (own, middle - low)), on, limp=True))
        for part, slope in (("leg-1", k + 1), ("leg-2", after)):
            below = (f"course-{shingles}-{slope}", "course") if shingles else ("slopes", f"slope-{slope}")
            joints.append(Joint((name, part), below, act=f"ridge strip {k + 1}"))
        if shingles:
            joints.append(Joint((name, "leg-1"), ("slopes", f"slope-{k + 1}"), "free"))
    return [piece], instances, joints


def _ccw(ring: Sequence[Point]) -> tuple[Point, ...]:
    return tuple(ring) if area(ring) > 0 else tuple(reversed(ring))
