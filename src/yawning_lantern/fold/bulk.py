"""How many sheets lie where when all is shut, and what the paper weighs."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from msgspec import Struct

from yawning_lantern.arrays import np
from yawning_lantern.assembly import Assembly
from yawning_lantern.assembly.joined import Frame
from yawning_lantern.fold.pose import extent, flat_parts
from yawning_lantern.pattern import Piece, area

CELL = 5.0
"""Side of a cell of the map, mm."""
_STANDS = 0.05
"""A panel whose normal has less than this upwards stands: a line straight down runs along it."""


class BulkMap(Struct, frozen=True):
    """Sheets over every place of the table: `layers[row][column]` and the same places in mm of paper, `paper`.

    Cells have sides of `cell` mm; the first lies at `low` (x, y in mm), rows go away from the maker.
    """

    low: tuple[float, float]
    cell: float
    layers: tuple[tuple[int, ...], ...]
    paper: tuple[tuple[float, ...], ...]

    @property
    def most(self) -> int:
        """The most sheets that lie in one place."""
        return max((n for row in self.layers for n in row), default=0)

    @property
    def thickest(self) -> float:
        """The most paper that lies in one place, mm, without the air between."""
        return max((v for row in self.paper for v in row), default=0.0)


def bulk_map(assembly: Assembly, frames: Sequence[Frame], cell: float = CELL) -> BulkMap:
    """How many sheets a line straight down meets, in the middle of every cell.

    A leaning sheet counts with the length of the line in it, caliper / |n_z|. Panels are closed by the even-odd rule:
    a notch is left out; holes that are cut in a panel are not.
    """

    lo, hi = extent(assembly, frames)
    columns = max(1, int(np.ceil((hi[0] - lo[0]) / cell)))
    rows = max(1, int(np.ceil((hi[1] - lo[1]) / cell)))
    x, y = np.meshgrid(lo[0] + (np.arange(columns) + 0.5) * cell, lo[1] + (np.arange(rows) + 0.5) * cell)
    layers = np.zeros((rows, columns), dtype=int)
    paper = np.zeros((rows, columns))
    for node, frame in zip(assembly.nodes, frames, strict=True):
        for points, normal, _ in flat_parts(node, frame, 1.0):
            if abs(normal[2]) < _STANDS:
                continue
            inside = np.zeros_like(layers, dtype=bool)
            for (ax, ay, _a), (bx, by, _b) in zip(points, (*points[1:], points[0]), strict=True):
                if ay != by:
                    crosses = (ay > y) != (by > y)
                    inside ^= crosses & (x < ax + (y - ay) / (by - ay) * (bx - ax))
            layers += inside
            paper += inside * (node.piece.stock.caliper / abs(normal[2]))
    return BulkMap(
        (lo[0], lo[1]),
        cell,
        tuple(tuple(int(n) for n in row) for row in layers),
        tuple(tuple(float(v) for v in row) for row in paper),
    )


def weight(pieces: Iterable[Piece]) -> float:
    """What the cut pieces weigh, g, without glue and contents: area times grammage.

    A stock of which only the caliper is known is reckoned with its bulk (cm³/g): grammage = 1000 · caliper / bulk.
    """
    total = 0.0
    for piece in pieces:
        mm2 = abs(area(piece.outline)) - sum(abs(area(hole)) for hole in piece.holes)
        stock = piece.stock
        total += piece.quantity * mm2 * 1e-6 * (stock.grammage or 1000.0 * stock.caliper / stock.bulk)
    return total
