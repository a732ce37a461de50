"""Pleated rings: how strips join, when a ring lies flat, how thick it is, and where its panels are."""

from __future__ import annotations

import math
from functools import lru_cache

from msgspec import Struct

from yawning_lantern.assembly import Vec
from yawning_lantern.pattern import Point


class Ring(Struct, frozen=True):
    """A pleated ring pressed flat: n panels of pitch p, strip width w, hub radius, all mm. Common practice, checked
    by geometry: at radius r a pleat spans 2πr/n of the circle, so it stands √(p² − (2πr/n)²) off the table."""

    panels: int
    pitch: float
    width: float
    hub: float

    @property
    def radius(self) -> float:
        """Of the rim, mm."""
        return self.hub + self.width

    @property
    def length(self) -> float:
        """Of all strips once joined, mm."""
        return self.panels * self.pitch

    @property
    def fullness(self) -> float:
        """Ring length over the rim's circle: below 1 it cannot lie flat."""
        return self.length / (2 * math.pi * self.radius)

    def height(self, radius: float) -> float:
        """How far a ridge stands off the table at a radius, mm."""
        across = 2 * math.pi * radius / self.panels
        return math.sqrt(max(0.0, self.pitch**2 - across**2))


def least_hub(panels: int, caliper: float) -> float:
    """The hub's radius: n·t / 2π is the least that the sheets take, twice that with the bulge of their folds. mm."""
    return 2 * panels * caliper / (2 * math.pi)


def joined(strips: int, each: int, overlap: int = 1) -> int:
    """Panels of a ring of strips, every join overlapping by so many panels."""
    return strips * (each - overlap)


def keeps_alternating(panels: int) -> bool:
    """Whether mountains and valleys still alternate all round: a ring needs an even number of panels."""
    return panels % 2 == 0


def strips_must_flip(each: int) -> bool:
    """Whether every second strip of one-sided paper would show its back.

    Overlapping one panel, the next strip begins with the sense of the last panel: after an even count of panels that is
    the other sense, so the strip has to be turned over.
    """
    return each % 2 == 0


class PleatedRing(Struct, frozen=True):
    """Where the panels of one strip of a ring lie: flat (make 0), pleated and curled, pressed into a disc (make 1).

    `first` is the place of the strip's first panel in the ring; the ring's middle is the piece's own origin when made.
    """

    ring: Ring
    first: int

    def points(self, panel: int, make: float) -> tuple[Vec, ...]:
        """Corners of a panel, hub edge first, counter-clockwise in the flat strip, mm."""
        return _points(self, panel, round(min(1.0, max(0.0, make)), 4))

    def bodies(self, panel: int) -> tuple[tuple[tuple[Point, ...], float, float], ...]:
        """The pressed ring as a stepped disc, told by its first strip: at every radius as high as its ridges stand
        there, which is less further out."""
        if self.first or panel:
            return ()
        ring = self.ring
        shares = (0.0, 0.35, 0.7, 1.0)
        bodies = []
        for share in shares:
            radius = ring.hub + share * ring.width
            if radius > 1.0:
                bodies.append((_circle(radius), 0.0, ring.height(radius)))
        return tuple(bodies)


def _circle(radius: float, corners: int = 24) -> tuple[Point, ...]:
    """A circle about the origin as the polygon inside it, mm."""
    return tuple(
        (radius * math.cos(2 * math.pi * k / corners), radius * math.sin(2 * math.pi * k / corners))
        for k in range(corners)
    )


@lru_cache(maxsize=2048)
def _points(shape: PleatedRing, panel: int, make: float) -> tuple[Vec, ...]:
    ring, at = shape.ring, shape.first + panel
    near, far = _edge(ring, at, panel, make), _edge(ring, at + 1, panel + 1, make)
    return near[0], far[0], far[1], near[1]


def _edge(ring: Ring, at: int, along: int, make: float) -> tuple[Vec, Vec]:
    """Hub end and rim end of one score. From the flat strip it is blended into its place in the ring."""
    angle = -2 * math.pi * at / ring.panels
    c, s = math.cos(angle), math.sin(angle)
    ridge = at % 2 == 1
    made = []
    for radius in (ring.hub, ring.radius):
        up = ring.height(radius) if ridge else 0.0
        made.append((radius * c, radius * s, up))
    flat = [(along * ring.pitch, 0.0, 0.0), (along * ring.pitch, ring.width, 0.0)]
    a, b = (
        (f[0] + make * (m[0] - f[0]), f[1] + make * (m[1] - f[1]), f[2] + make * (m[2] - f[2]))
        for f, m in zip(flat, made, strict=True)
    )
    return a, b
