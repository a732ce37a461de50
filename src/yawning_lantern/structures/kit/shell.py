"""One sheet with four walls and glued corner tabs: what a tray is, and, folded the other way, a single-rim lid."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence

from yawning_lantern.assembly import Joint, Mount, Term, span
from yawning_lantern.assembly.room import SIDE_NAMES
from yawning_lantern.assembly.spans import Lever, Span
from yawning_lantern.measure import inches
from yawning_lantern.pattern import Fold, Panel, Piece, Point, ScoreFlag, build_piece, rectangle
from yawning_lantern.stock import Paper
from yawning_lantern.structures.kit.solving import centred

MITRE = inches(1 / 16)
"""What is cut off each end of a tab so that it neither shows nor binds, mm. Common practice, no source."""

WALL_UP: dict[str, Point] = {"right": (1.0, 0.0), "back": (0.0, 1.0), "left": (-1.0, 0.0), "front": (0.0, -1.0)}
"""Where a wall's rim is from its foot, in a cross that lies flat, by its side."""
FOLD_SHIFT = (1 - math.pi / 4) / 2
"""How far a plain 90° fold pushes its wall out, in calipers: R − R·π/4 with R = t/2 (see docs/architecture.md)."""
TAB_TAKERS = ("back", "front")
"""The walls that tabs are glued to; the other two carry the tabs."""


def tab_length(across: float, wall: float) -> float:
    """How long a corner tab may be, mm: the corner square, less where two would meet on the wall that takes them."""
    return max(min(wall, across / 2 - 1.0), 1.0)


def corner_tabs(
    rims: Iterable[tuple[str, float, float, float]], lo: float, hi: float, across: float, wall: float
) -> list[Panel]:
    """Mitred tabs at both ends of the left and right walls.

    Each rim is (name, x at the foot, x at the far edge, sign of x outward); `lo` and `hi` are the y of the ends, mm.
    """
    length = tab_length(across, wall)
    bevel = min(MITRE, wall / 6)
    tabs = []
    for name, foot, edge, sign in rims:
        inner, outer = foot + sign * bevel, edge - sign * bevel
        for end, y, way in (("front", lo, -1.0), ("back", hi, 1.0)):
            points = [(foot, y), (edge, y), (outer, y + way * length), (inner, y + way * length)]
            if sign * way < 0:
                points.reverse()
            tabs.append(Panel(f"tab-{name}-{end}", f"tab, {name} wall, {end} end", tuple(points)))
    return tabs


def shell_panels(floor: str, floor_label: str, width: float, depth: float, wall: float, word: str) -> list[Panel]:
    """Floor, four walls and four tabs of a sheet `width + 2 wall` by `depth + 2 wall`, mm."""
    x1, x2, x3 = wall, wall + width, 2 * wall + width
    y1, y2, y3 = wall, wall + depth, 2 * wall + depth
    panels = [
        Panel(floor, floor_label, rectangle(x1, y1, x2, y2)),
        Panel("wall-right", f"right {word}", rectangle(x2, y1, x3, y2)),
        Panel("wall-back", f"back {word}", rectangle(x1, y2, x2, y3)),
        Panel("wall-left", f"left {word}", rectangle(0.0, y1, x1, y2)),
        Panel("wall-front", f"front {word}", rectangle(x1, 0.0, x2, y1)),
    ]
    return panels + corner_tabs((("right", x2, x3, 1.0), ("left", x1, 0.0, -1.0)), y1, y2, width, wall)


def shell_piece(
    piece_id: str,
    name: str,
    paper: Paper,
    floor: tuple[str, str],
    size: tuple[float, float, float],
    sense: int,
    word: str,
    flags: tuple[ScoreFlag, ...],
    glue: float,
) -> Piece:
    """The sheet, scored at the wall height all round. `sense` +1 folds towards the front face, −1 away from it."""
    width, depth, wall = size
    quarter = sense * math.pi / 2
    folds = [Fold(floor[0], f"wall-{name}", quarter) for name in SIDE_NAMES]
    folds += [
        Fold(f"wall-{side}", f"tab-{side}-{end}", quarter, settle=paper.caliper + glue)
        for side in ("right", "left")
        for end in TAB_TAKERS
    ]
    return build_piece(
        piece_id,
        name,
        paper,
        shell_panels(*floor, width, depth, wall, word),
        folds,
        flags=flags,
        note="Slit each corner along the tab, cut the mitres, glue the tabs inside.",
    )


def corner_joints(instance: str, ends: Sequence[str] = TAB_TAKERS) -> tuple[Joint, ...]:
    """The corner tabs of a box, each glued on the wall beside it."""
    return tuple(
        Joint((instance, f"tab-{side}-{end}"), (instance, f"wall-{end}")) for side in ("right", "left") for end in ends
    )


def wall_mounts(
    width: float,
    depth: float,
    wall: float,
    instance: str,
    caliper: float,
    inside: int,
    word: str,
    inset: float = 0.0,
    tabs: float = 0.0,
    takers: Sequence[str] = (),
) -> list[Mount]:
    """The inside and outside face of each of four walls as faces for guests, up away from the floor. mm.

    `inside` is the side (+1 front, −1 back) that looks inward; `inset` shifts the origin in the piece (a wall further
    out than `wall` from the edge). On the `takers` what lies inside lies over glued tabs, `tabs` thick.
    """
    x1, x2 = wall + inset, wall + inset + width
    y1, y2 = wall + inset, wall + inset + depth
    xm, ym = (x1 + x2) / 2, (y1 + y2) / 2
    middles = {
        "right": (x2 + wall / 2, ym),
        "back": (xm, y2 + wall / 2),
        "left": (x1 - wall / 2, ym),
        "front": (xm, y1 - wall / 2),
    }
    mounts = []
    for name in SIDE_NAMES:
        across = depth if name in ("right", "left") else width
        for face, words in ((inside, "inside"), (-inside, "outside")):
            mounts.append(
                Mount(
                    f"{name}-{words}",
                    f"{name} {word}, {words}",
                    instance,
                    f"wall-{name}",
                    1 if face > 0 else -1,
                    middles[name],
                    WALL_UP[name],
                    centred(across, wall),
                    caliper / 2 + (tabs if words == "inside" and name in takers else 0.0),
                    over=tuple((instance, f"tab-{hand}-{name}") for hand in ("right", "left"))
                    if words == "inside" and name in takers
                    else (),
                )
            )
    return mounts


def inner_reach(element: str, label: str, size: float, parameter: str, caliper: float, bulk: float) -> Span:
    """From the middle to a wall's inside: half the nominal panel, less half a sheet and what is glued there, mm."""
    return span(label, size / 2, element, parameter, 0.5).plus(Term("sheet", -caliper / 2), Term("bulk inside", -bulk))


def outer_reach(element: str, label: str, size: float, parameter: str, caliper: float, bulk: float) -> Span:
    """From the middle to a wall's outside, with what is glued there, mm."""
    return span(label, size / 2, element, parameter, 0.5).plus(Term("sheet", caliper / 2), Term("bulk outside", bulk))


def lever_term(label: str, value: float, element: str, parameter: str, slope: float = 1.0) -> Term:
    """A term that hangs on a parameter."""
    return Term(label, value, Lever(element, parameter, slope))
