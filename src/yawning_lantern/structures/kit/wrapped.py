"""A regular board wrapped in paper: the sheet on its upper face, turn-ins under it, their corners mitred.

Turned under, strips along a regular polygon meet along its bisectors: a mitre slopes by the tangent of half the angle
between two sides."""

from __future__ import annotations

import math

from msgspec import Struct
from msgspec.structs import replace

from yawning_lantern.assembly import Attach, Instance, Joint, Root
from yawning_lantern.errors import ParameterError
from yawning_lantern.measure import inches, told
from yawning_lantern.pattern import Fold, Panel, Piece, Point, Slit, area, build_piece
from yawning_lantern.structures.kit.declare import Situation
from yawning_lantern.structures.kit.regular import Regular, moved

TURN_IN = inches(3 / 4)
"""What is folded over the edges of a small board, mm. Common practice, no source."""
TURN_INS = "turn-ins"
"""What its strips are glued by."""
WAYS = ("none", "mitred", "folded")
"""Whether a board is wrapped, and its corners mitred or folded to ears that lie under the next strip."""
EARS = 6
"""From so many sides on an ear lies within the board: it is as wide as the angle between two sides, and has half the
angle of a corner to lie in."""


class Board(Struct, frozen=True):
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


def wrapping(s: Situation, board: Board, way: str) -> tuple[Piece, Instance, list[Joint]]:
    """The covering sheet on a board, its face outwards; and how it is glued: upper face, turn-ins.

    Raises ParameterError where corners are to be folded that cannot be."""
    n, t, half = board.sides, s.paper.caliper, math.pi / board.sides
    if way == "folded" and n < EARS:
        raise ParameterError(
            f"Of {n} sides the ears of folded corners reach over the board's edge.", "Base wrapped",
            f"Mitre them, or take {EARS} sides or more.",
        )  # fmt: skip
    wide = turn_in(n, board.side, t)
    ring, strips = Regular(n, board.side).corners, []
    inset = min(wide * math.tan(half) + (t if way == "mitred" else 0.0), 0.45 * board.side)
    ends = []
    for k, a in enumerate(ring):
        b = ring[(k + 1) % n]
        along = (b[0] - a[0]) / board.side, (b[1] - a[1]) / board.side
        out = along[1], -along[0]
        far = [(p[0] + wide * out[0] + sign * inset * along[0], p[1] + wide * out[1] + sign * inset * along[1])
               for p, sign in ((a, 1.0), (b, -1.0))]  # fmt: skip
        strips.append(Panel(f"turn-{k + 1}", "turn-in", (b, a, far[0], far[1])))
        ends.append(far)
    folds = [Fold("sheet", strip.name, -math.pi, wrap=board.thick + 2 * s.glue) for strip in strips]
    ears, slits = [], []
    for k in range(n if way == "folded" else 0):
        # what is left of the corner between two strips, halved by its bisector: one half goes on flat with its strip,
        # under the next one, the other is folded back on it
        corner, after = ring[(k + 1) % n], (k + 1) % n
        size = math.hypot(*corner)
        reach = wide / math.cos(half)
        tip = corner[0] * (1 + reach / size), corner[1] * (1 + reach / size)
        one, other = f"ear-{k + 1}", f"back-{k + 1}"
        ears += [Panel(one, "", (corner, ends[k][1], tip), soft=True),
                 Panel(other, "", (corner, tip, ends[after][0]), soft=True)]  # fmt: skip
        folds += [Fold(f"turn-{k + 1}", one, 0.0, scored=False), Fold(one, other, math.pi, scored=False)]
        slits.append(Slit(other, f"turn-{after + 1}", cut=False))
    ears = [p if area(p.outline) > 0 else replace(p, outline=p.outline[::-1]) for p in ears]
    panels, middle = moved([Panel("sheet", "sheet", tuple(ring)), *strips, *ears])
    clear = told(board.thick + inches(1 / 8))
    notes = {
        "mitred": f"Cut its mitres {clear} clear of the board's corners, an eighth and its thickness, and tuck what is "
        "left in.",
        "folded": "Fold every corner to an ear and lay it under the next strip.",
    }
    piece = build_piece(
        f"{s.element}.wrap", f"{s.name}, wrapping of the base", s.paper, panels, folds, slits=slits, note=notes[way],
    )  # fmt: skip
    on = Attach(board.instance, board.panel, board.middle, (0.0, 1.0), 1, board.thick / 2 + t / 2 + s.glue)
    copy = Instance("wrap", piece.id, Root("sheet", middle), on)
    joints = [
        Joint(("wrap", f"turn-{k + 1}"), (board.instance, board.panel), act=TURN_INS,
              label="one side after the other, pulled tight over the edge")
        for k in range(n)
    ]  # fmt: skip
    return piece, copy, joints
