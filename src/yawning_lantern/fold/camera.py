"""A camera that goes round a thing: turn, tilt, distance; and the projection of points. Plain arithmetic, no Qt."""

from __future__ import annotations

import math
from collections.abc import Sequence

from msgspec import Struct

from yawning_lantern.fold.bsp import Vec

LENS = 3.4  # distance of the eye in radii of what is looked at
_SPECK = 1e-3  # mm: what is smaller is looked at as a point
_NEAREST = 0.05  # of that distance: nothing is drawn as if it were nearer


class Camera(Struct, frozen=True):
    """Turn about the upright and tilt above the table in radians; `zoom` is 1 when everything just fits."""

    turn: float = math.radians(-62)
    tilt: float = math.radians(30)
    zoom: float = 1.0
    shift: tuple[float, float] = (0.0, 0.0)

    def turned(self, by: float, up: float) -> Camera:
        """Gone round by angles in radians; the eye stays between straight above and straight below."""
        tilt = max(-math.pi / 2 + 0.01, min(math.pi / 2 - 0.01, self.tilt + up))
        return Camera(self.turn + by, tilt, self.zoom, self.shift)

    def zoomed(self, factor: float) -> Camera:
        """Nearer or further."""
        return Camera(self.turn, self.tilt, max(0.3, min(12.0, self.zoom * factor)), self.shift)

    def shifted(self, dx: float, dy: float) -> Camera:
        """The picture moved by so many pixels."""
        return Camera(self.turn, self.tilt, self.zoom, (self.shift[0] + dx, self.shift[1] + dy))


class Projection(Struct, frozen=True):
    """From the world (mm) to pixels."""

    eye: Vec
    right: Vec
    up: Vec
    ahead: Vec
    middle: Vec
    scale: float
    origin: tuple[float, float]
    distance: float

    @staticmethod
    def of(camera: Camera, middle: Vec, radius: float, size: tuple[float, float]) -> Projection:
        """Look at a ball about `middle` (mm) so that it fits in `size` pixels."""
        ct, st = math.cos(camera.turn), math.sin(camera.turn)
        cu, su = math.cos(camera.tilt), math.sin(camera.tilt)
        back = (ct * cu, st * cu, su)
        right = (-st, ct, 0.0)
        up = (-ct * su, -st * su, cu)
        distance = radius * LENS
        eye = (middle[0] + back[0] * distance, middle[1] + back[1] * distance, middle[2] + back[2] * distance)
        fit = min(size) / 2 / radius * math.sqrt(1 - 1 / LENS**2) * 0.97
        origin = (size[0] / 2 + camera.shift[0], size[1] / 2 + camera.shift[1])
        ahead = (-back[0], -back[1], -back[2])
        return Projection(eye, right, up, ahead, middle, fit * camera.zoom, origin, distance)

    @staticmethod
    def holding(camera: Camera, points: Sequence[Vec], size: tuple[float, float]) -> Projection:
        """Look at points (mm) so that all of them fit in `size` pixels."""
        xs, ys, zs = zip(*points, strict=True)
        middle = (min(xs) + max(xs)) / 2, (min(ys) + max(ys)) / 2, (min(zs) + max(zs)) / 2
        radius = max([math.dist(p, middle) for p in points])
        return Projection.of(camera, middle, radius if radius > _SPECK else 1.0, size)

    def plane(self, origin: Vec, right: Vec, up: Vec) -> tuple[float, ...]:
        """From a plane in the world to pixels, as the nine entries of a matrix for rows: with (X, Y, W) = (x, y, 1) · M
        the point origin + x·right + y·up (mm) is seen at X / W, Y / W. Exact where nothing is nearer than a twentieth
        of the eye's distance."""
        (mx, my, mz), (left, top) = self.middle, self.origin
        lens = self.scale * self.distance
        rows: list[float] = []
        for (x, y, z), far in ((right, 0.0), (up, 0.0), ((origin[0] - mx, origin[1] - my, origin[2] - mz), 1.0)):
            w = far * self.distance + x * self.ahead[0] + y * self.ahead[1] + z * self.ahead[2]
            across = x * self.right[0] + y * self.right[1] + z * self.right[2]
            high = x * self.up[0] + y * self.up[1] + z * self.up[2]
            rows += [left * w + lens * across, top * w - lens * high, w]
        return tuple(rows)

    def point(self, p: Vec) -> tuple[float, float]:
        """A point in pixels."""
        return self.points((p,))[0]

    def points(self, points: Sequence[Vec]) -> list[tuple[float, float]]:
        """Points in pixels. It runs for every corner of every sheet: sums are written out."""
        (mx, my, mz), (ax, ay, az) = self.middle, self.ahead
        (rx, ry, rz), (ux, uy, uz), (left, top) = self.right, self.up, self.origin
        far, near, lens = self.distance, self.distance * _NEAREST, self.scale * self.distance
        shown = []
        for px, py, pz in points:
            x, y, z = px - mx, py - my, pz - mz
            depth = far + x * ax + y * ay + z * az
            k = lens / (depth if depth > near else near)
            shown.append((left + k * (x * rx + y * ry + z * rz), top - k * (x * ux + y * uy + z * uz)))
        return shown
