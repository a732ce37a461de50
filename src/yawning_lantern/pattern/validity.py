"""Is a piece sound? Panels that overlap, area that went missing, lines off the paper. Geometry by shapely."""

from __future__ import annotations

from msgspec import Struct

from yawning_lantern.on_use import load
from yawning_lantern.pattern.piece import Piece, area

_SLIVER = 1e-3  # mm²: rounding, not paper


class Fault(Struct, frozen=True):
    """One thing wrong with a piece: a code, the names it concerns, and how much (mm or mm²)."""

    code: str
    names: tuple[str, ...]
    amount: float


def faults(piece: Piece) -> tuple[Fault, ...]:
    """Every fault of a piece: `overlap`, `area` (mm²), `line-off-piece`, `outline` (not a simple polygon), `inside-out`
    (a panel that runs clockwise or has no area, mm²)."""
    shapely = load("shapely")  # costs a quarter second to import: only where it is used

    faults: list[Fault] = [
        Fault("inside-out", (panel.name,), area(panel.outline))
        for panel in piece.panels
        if area(panel.outline) < _SLIVER
    ]
    if faults:
        return tuple(faults)
    shapes = {panel.name: shapely.Polygon(panel.outline) for panel in piece.panels}
    names = list(shapes)
    for i, a in enumerate(names):
        for b in names[i + 1 :]:
            common = shapes[a].intersection(shapes[b]).area
            if common > _SLIVER:
                faults.append(Fault("overlap", (a, b), common))
    whole = shapely.Polygon(piece.outline, piece.holes)
    if not whole.is_valid:
        faults.append(Fault("outline", (piece.id,), 0.0))
        return tuple(faults)
    punched = shapely.union_all([shapely.Polygon(hole) for hole in piece.holes])  # through panels, or between them
    missing = whole.area - sum(shape.difference(punched).area for shape in shapes.values())
    if abs(missing) > _SLIVER:
        faults.append(Fault("area", (piece.id,), missing))
    room = whole.buffer(1e-3)
    for line in piece.lines:
        if not room.covers(shapely.LineString([line.start, line.end])):
            faults.append(Fault("line-off-piece", (f"{line.kind} {line.start} {line.end}",), 0.0))
    return tuple(faults)
