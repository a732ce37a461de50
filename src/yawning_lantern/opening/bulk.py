"""Reach when open, and how many sheets lie where when all is shut."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from yawning_lantern.assembly import Assembly
from yawning_lantern.assembly.joined import Frame
from yawning_lantern.fold import State, extent, pose
from yawning_lantern.fold.pose import flat_parts

CELL = 5.0
"""Side of a cell of the map, mm."""


@dataclass(frozen=True, slots=True)
class BulkMap:
    """Sheets over every place of the table when shut: `layers[row][column]`, cells of `cell` mm, the first row at `low`
    (x, y in mm) and rows going away from the maker. `thick` are the same places in mm of paper."""

    low: tuple[float, float]
    cell: float
    layers: tuple[tuple[int, ...], ...]
    thick: tuple[tuple[float, ...], ...]

    @property
    def most(self) -> int:
        """The most sheets that lie in one place."""
        return max((n for row in self.layers for n in row), default=0)


def bulk_map(assembly: Assembly, frames: Sequence[Frame], cell: float = CELL) -> BulkMap:
    """How many sheets a line straight down meets, in the middle of every cell."""
    import numpy as np

    lo, hi = extent(assembly, frames)
    columns = max(1, int(np.ceil((hi[0] - lo[0]) / cell)))
    rows = max(1, int(np.ceil((hi[1] - lo[1]) / cell)))
    x = lo[0] + (np.arange(columns) + 0.5) * cell
    y = lo[1] + (np.arange(rows) + 0.5) * cell
    gx, gy = np.meshgrid(x, y)
    layers = np.zeros((rows, columns), dtype=int)
    thick = np.zeros((rows, columns))
    for node, frame in zip(assembly.nodes, frames, strict=True):
        t = node.piece.stock.caliper
        for points, normal, _ in flat_parts(node, frame, 1.0):
            if abs(normal[2]) < 0.05:
                continue  # it stands: the line down runs along it
            ring = np.array(points)[:, :2]
            if normal[2] < 0:
                ring = ring[::-1]
            inside = np.ones_like(layers, dtype=bool)
            for a, b in zip(ring, np.roll(ring, -1, axis=0), strict=True):
                inside &= (b[0] - a[0]) * (gy - a[1]) - (b[1] - a[1]) * (gx - a[0]) >= 0
            layers += inside
            thick += inside * t / abs(normal[2])
    return BulkMap(
        (lo[0], lo[1]),
        cell,
        tuple(tuple(int(n) for n in row) for row in layers),
        tuple(tuple(round(float(v), 4) for v in row) for row in thick),
    )


def reach(assembly: Assembly, order: Sequence[int]) -> tuple[float, float, float]:
    """The most that is needed across, front to back and upwards at any time of an opening, mm."""
    count = len(assembly.motions)
    most = [0.0, 0.0, 0.0]
    done: list[int] = []
    for motion in (None, *order):
        if motion is not None:
            done.append(motion)
        for share in (0.5, 1.0) if motion is not None else (1.0,):
            states = tuple((share if k == motion else 1.0) if k in done else 0.0 for k in range(count))
            lo, hi = extent(assembly, pose(assembly, State(1.0, states)))
            most = [max(m, b - a) for m, a, b in zip(most, lo, hi, strict=True)]
    return most[0], most[1], most[2]
