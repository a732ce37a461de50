"""A regular board wrapped in paper: the sheet on its upper face, turn-ins under it, their corners mitred.

Turned under, strips along a regular polygon meet along its bisectors: a mitre slopes by the tangent of half the angle
between two sides."""

from __future__ import annotations

import math
from dataclasses import dataclass

from yawning_lantern.assembly import Attach, Instance, Joint, Root
from yawning_lantern.measure import inches, told
from yawning_lantern.pattern import Fold, Panel, Piece, Point, build_piece
from yawning_lantern.structures.kit.declare import Situation
from yawning_lantern.structures.kit.polygon_lid import corners, moved

TURN_IN = inches(3 / 4)
"""What is folded over the edges of a small board, mm. Common practice, no source."""
TURN_INS = "turn-ins"
"""What its strips are glued by."""
WAYS = ("none", "mitred")
"""Whether a board is wrapped, its corners mitred."""


@dataclass(frozen=True, slots=True)
class Board:
    """A regular board: its sides, how long one is and how thick it is, mm, and where it is: instance, panel, and its
    middle in that."""

    sides: int
    side: float
    thick: float
    instance: str
    panel: str
    middle: Point


def turn_in(sides: int, side: float, caliper: float) -> float:
    """How broad the turn-ins are, mm: three quarters of an inch, or less where they would meet."""
    return min(TURN_IN, max(0.45 * side - caliper, 0.1 * side) / math.tan(math.pi / sides))


def wrapping(s: Situation, board: Board) -> tuple[Piece, Instance, list[Joint]]:
    """The covering sheet on a board, its face outwards; and how it is glued: upper face, turn-ins."""
    n, t, half = board.sides, s.paper.caliper, math.pi / board.sides
    wide = turn_in(n, board.side, t)
    ring, strips = corners(board.side, n), []
    inset = min(wide * math.tan(half) + t, 0.45 * board.side)
    for k, a in enumerate(ring):
        b = ring[(k + 1) % n]
        along = (b[0] - a[0]) / board.side, (b[1] - a[1]) / board.side
        out = along[1], -along[0]
        far = [(p[0] + wide * out[0] + sign * inset * along[0], p[1] + wide * out[1] + sign * inset * along[1])
               for p, sign in ((a, 1.0), (b, -1.0))]  # fmt: skip
        strips.append(Panel(f"turn-{k + 1}", "turn-in", (b, a, far[0], far[1])))
    panels, middle = moved([Panel("sheet", "sheet", tuple(ring)), *strips])
    folds = [Fold("sheet", strip.name, -math.pi, wrap=board.thick + 2 * s.glue) for strip in strips]
    piece = build_piece(
        f"{s.element}.wrap", f"{s.name}, wrapping of the base", s.paper, panels, folds,
        note=f"Cut its mitres {told(board.thick + inches(1 / 8))} clear of the board's corners, an eighth and its "
        "thickness, and tuck what is left in.",
    )  # fmt: skip
    on = Attach(board.instance, board.panel, board.middle, (0.0, 1.0), 1, board.thick / 2 + t / 2 + s.glue)
    copy = Instance("wrap", piece.id, Root("sheet", middle), on)
    joints = [
        Joint(("wrap", f"turn-{k + 1}"), (board.instance, board.panel), act=TURN_INS,
              label="one side after the other, pulled tight over the edge")
        for k in range(n)
    ]  # fmt: skip
    return piece, copy, joints
