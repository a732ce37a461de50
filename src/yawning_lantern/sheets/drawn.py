"""Where the cuts of a sheet run, for pictures: told by cutting it as it is told."""

from __future__ import annotations

from msgspec import Struct

from yawning_lantern.sheets.told import SheetPlan


class CutLine(Struct, frozen=True):
    """A cut on its sheet, mm from the lower left."""

    number: int
    x0: float
    y0: float
    x1: float
    y1: float


def cut_lines(sheet: SheetPlan, kerf: float = 0.0) -> tuple[CutLine, ...]:
    """Every cut where the blade goes, in the order made; with a kerf along the fence's side of it."""
    table = {1: (0.0, 0.0, sheet.board.width, sheet.board.height)}
    lines = []
    for cut in sheet.cuts:
        x, y, w, h = table.pop(cut.part)
        if cut.across == "width":
            at = x + cut.fence
            lines.append(CutLine(cut.number, at, y, at, y + h))
            table[cut.at_fence] = (x, y, cut.fence, h)
            rest = (at + kerf, y, w - cut.fence - kerf, h)
        else:
            at = y + cut.fence
            lines.append(CutLine(cut.number, x, at, x + w, at))
            table[cut.at_fence] = (x, y, w, cut.fence)
            rest = (x, at + kerf, w, h - cut.fence - kerf)
        if cut.beyond:
            table[cut.beyond] = rest
    return tuple(lines)
