"""How light falls on a sheet in a picture: the same on screen, in print and in films."""

from __future__ import annotations

from functools import lru_cache

from yawning_lantern.fold.bsp import Facet, Vec

LIGHT = (0.36, -0.48, 0.8)  # where the light comes from: right, behind, above
Colour = tuple[float, float, float]


def faces_eye(facet: Facet, eye: Vec) -> bool:
    """Whether a facet's front is towards the eye (mm)."""
    n, p = facet.normal, facet.points[0]
    return (eye[0] - p[0]) * n[0] + (eye[1] - p[1]) * n[1] + (eye[2] - p[2]) * n[2] > 0


def shade(facet: Facet, front: str, back: str, depth: int, eye: Vec) -> Colour:
    """Red, green and blue (0 to 1) of a facet whose sides are coloured #rrggbb; deeper parts are a little darker."""
    seen = faces_eye(facet, eye)
    red, green, blue = parts(front if seen else back)
    light = share(facet.normal, depth, seen)
    return min(1.0, red * light), min(1.0, green * light), min(1.0, blue * light)


def share(n: Vec, depth: int, seen: bool) -> float:
    """How much of the light a sheet with that normal gives back on the side that is `seen` (its front or not)."""
    lit = (1.0 if seen else -1.0) * (n[0] * LIGHT[0] + n[1] * LIGHT[1] + n[2] * LIGHT[2])
    return 0.70 + 0.30 * max(0.0, lit) - 0.06 * (depth % 3) * (0.5 if lit > 0.7 else 1.0)


@lru_cache
def parts(colour: str) -> Colour:
    """Red, green and blue (0 to 1) of #rrggbb."""
    red, green, blue = (int(colour[k : k + 2], 16) / 255 for k in (1, 3, 5))
    return red, green, blue
