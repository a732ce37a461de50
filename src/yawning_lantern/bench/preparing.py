"""What is done to a piece before it is glued: cut, scored one placing after the other, slit, cut out, punched, folded.

The blank is a rectangle, cut first and scored whole: the fence needs its edges. Its outline is cut after that.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from itertools import pairwise

from msgspec.structs import replace

from yawning_lantern.bench.score_plan import Placing, ScorePlan
from yawning_lantern.bench.step import MINUTES, Step
from yawning_lantern.measure import told
from yawning_lantern.pattern import Line, Piece, Point, area, bounds
from yawning_lantern.pattern.rounding import rounded_corners
from yawning_lantern.stock import Tool

BLADE = "Blades cut fingers too: cut away from yourself, and shut the blade when it lies down."
_SHARP = math.radians(25.0)  # radians: a corner turns by more, what turns by less is a curve's chord
PUNCHED = 8.0
"""A hole no wider than this is punched, a wider one is cut out, mm. From memory."""
_ROUND = 10
"""So many cuts one after the other, each turning a little, are one punch."""


def preparing(piece: Piece, plan: ScorePlan, tool: Tool, punched: bool) -> tuple[Step, ...]:
    """The steps of one piece, each after the one before it; `punched`: its notches are made before it is glued."""
    steps = [_cut(piece), *_scores(piece, plan, tool), *_cuts(piece, punched), *_folds(piece)]
    last = steps[-1]
    if piece.note and (len(piece.panels) > 1 or not last.heed):
        at = next((k for k, step in enumerate(steps) if step.kind in ("slit", "trim")), len(steps) - 1)
        steps[at] = replace(steps[at], heed=" ".join(filter(None, (piece.note, steps[at].heed))))
    return (steps[0], *(replace(step, needs=(before.id,)) for before, step in pairwise(steps)))


def _each(kind: str, piece: Piece, count: float) -> float:
    return round(MINUTES[kind] * count * piece.quantity, 3)


def _many(piece: Piece) -> str:
    return f"{piece.quantity} × {piece.name}" if piece.quantity > 1 else piece.name


def _cut(piece: Piece) -> Step:
    wide, high = piece.laid.blank
    heed = f"The decorative edge takes {told(piece.edge)} off every side: punch it now." if piece.edge else ""
    up = ("", " The sheet's up is at its left.", " The sheet's up is at its foot.", " The sheet's up is at its right.")
    way = up[piece.way % 4] if piece.stock.has_direction else ""
    return Step(
        f"cut:{piece.id}", "cut", f"Cut {_many(piece)}: {told(wide)} by {told(high)}, from {piece.stock.name}.{way}",
        piece=piece.id, parts=(piece.name,), copies=piece.quantity,
        minutes=MINUTES["cut"] + MINUTES["cut each"] * (piece.quantity - 1), caution=BLADE, heed=heed,
    )  # fmt: skip


def _scores(piece: Piece, plan: ScorePlan, tool: Tool) -> Iterator[Step]:
    before: Placing | None = None
    for k, placing in enumerate(plan.placings):
        count = len(placing.readings)
        numbers = "one number" if count == 1 else f"{count} numbers"
        how = "" if before is None else _turned(before, placing)
        lying = f"{placing.edge} edge at the fence, {placing.face} up"
        yield Step(
            f"score:{piece.id}:{k + 1}", "score", f"{how}Score {_many(piece)} on {tool.name}: {lying}, {numbers}.",
            piece=piece.id, parts=(piece.name,), face=placing.face, placing=placing, copies=piece.quantity,
            minutes=_each("placing", piece, 1) + _each("number", piece, count),
            heed="" if all(r.is_on for r in placing.readings)
            else "A number that no groove has: use the trimmer or a ruler, or the groove told beside it.",
        )  # fmt: skip
        before = placing
    if plan.slanted:
        yield Step(
            f"score:{piece.id}:slanted", "score",
            f"Score {len(plan.slanted)} slanted lines of {_many(piece)} along a ruler: {_ends(plan)}.",
            piece=piece.id, parts=(piece.name,), face=plan.slanted[0][0], copies=piece.quantity,
            lines=tuple(k for k, line in enumerate(piece.lines) if line.kind == "score" and _is_slanted(line)),
            minutes=_each("slit", piece, len(plan.slanted)),
            heed=f"On an angled fence every mark lies {told(tool.offset)} further on the paper." if tool.offset else "",
        )  # fmt: skip


def _turned(before: Placing, now: Placing) -> str:
    """What is done between two placings."""
    ring = ("left", "head", "right", "foot")
    turns = (ring.index(now.edge) - ring.index(before.edge)) % 4
    if before.face != now.face:
        return "Turn it over. "
    return {0: "", 1: "A quarter turn. ", 2: "Turn it end for end. ", 3: "A quarter turn. "}[turns]


def _ends(plan: ScorePlan) -> str:
    some = plan.slanted[:3]
    words = [f"from {told(a[0])}, {told(a[1])} to {told(b[0])}, {told(b[1])}" for _, a, b in some]
    more = f", and {len(plan.slanted) - 3} more as drawn" if len(plan.slanted) > 3 else ""
    return "; ".join(words) + more + " (from the left, from the foot)"


def _is_slanted(line: Line) -> bool:
    (x0, y0), (x1, y1) = line.start, line.end
    return abs(x0 - x1) > 1e-4 and abs(y0 - y1) > 1e-4


def notches(piece: Piece) -> tuple[tuple[int, ...], ...]:
    """The cuts of a piece that a punch makes at once, by their ranks: short ones that meet and turn a little."""
    groups: list[list[int]] = []
    for k, line in enumerate(piece.lines):
        if line.kind != "cut":
            continue
        met = [chain for chain in groups if any(_is_bent(piece.lines[other], line) for other in chain)]
        groups = [chain for chain in groups if chain not in met]
        groups.append([*(rank for chain in met for rank in chain), k])
    return tuple(tuple(sorted(chain)) for chain in groups if len(chain) >= _ROUND // 2)


def _is_bent(a: Line, b: Line) -> bool:
    """Whether two cuts meet at an end and turn there a little."""
    if min(math.dist(p, q) for p in (a.start, a.end) for q in (b.start, b.end)) > 1e-4:
        return False
    one = math.atan2(a.end[1] - a.start[1], a.end[0] - a.start[0])
    other = math.atan2(b.end[1] - b.start[1], b.end[0] - b.start[0])
    turn = abs((other - one + math.pi / 2) % math.pi - math.pi / 2)
    return 1e-3 < turn < math.pi / 4


def _cuts(piece: Piece, punched: bool) -> Iterator[Step]:
    punches = notches(piece)
    round_cuts = {k for chain in punches for k in chain}
    slits = tuple(k for k, line in enumerate(piece.lines) if line.kind == "cut" and k not in round_cuts)
    laid = piece.laid
    if slits:
        first = laid.lines[slits[0]]
        at = f", the first from {_place(first.start)} to {_place(first.end)} (from the left, from the foot)"
        yield Step(
            f"slit:{piece.id}", "slit", f"Slit {_many(piece)} along {_count(len(slits), 'line')}{at}.",
            piece=piece.id, parts=(piece.name,), lines=slits, copies=piece.quantity, caution=BLADE,
            minutes=_each("slit", piece, len(slits)), heed="Slits end where they are drawn: mark the ends first.",
        )  # fmt: skip
    wide, high = laid.size
    gone = wide * high - abs(area(laid.outline))
    corners = _corners(laid.outline)
    punched_through = [hole for hole in laid.holes if max(_across(hole)) <= PUNCHED]
    cut_out = len(laid.holes) - len(punched_through)
    rounded, radius = rounded_corners(laid.outline)
    if rounded and not cut_out:
        yield Step(
            f"trim:{piece.id}", "trim", f"Round {_count(rounded, 'corner')} of {_many(piece)}: {told(radius)}.",
            piece=piece.id, parts=(piece.name,), copies=piece.quantity, minutes=_each("punch", piece, rounded),
            heed="With a corner punch, or with scissors around something round.",
        )  # fmt: skip
    elif gone > 0.5 or cut_out:
        windows = f" and {_count(cut_out, 'window')}" if cut_out else ""
        yield Step(
            f"trim:{piece.id}", "trim", f"Cut {_many(piece)} out: what is hatched goes{windows}.",
            piece=piece.id, parts=(piece.name,), copies=piece.quantity, caution=BLADE,
            minutes=_each("trim", piece, max(corners - 4, 1) + 4 * cut_out),
            heed="Cut lines are drawn through, scores are dashed: keep the knife off the scores.",
        )  # fmt: skip
    for k, hole in enumerate(punched_through, 1):
        x0, y0, x1, y1 = bounds(hole)
        yield Step(
            f"hole:{piece.id}:{k}", "punch",
            f"Punch a hole of {told(x1 - x0, fine=True)} in {_many(piece)}: {told((x0 + x1) / 2)} from the left, "
            f"{told((y0 + y1) / 2)} from the foot, front up.",
            piece=piece.id, parts=(piece.name,), face="front", copies=piece.quantity,
            minutes=_each("punch", piece, 1), heed="Now, while it lies flat: something goes through it.",
        )  # fmt: skip
    if punches and punched:
        yield punching(piece)


def _across(ring: Sequence[Point]) -> tuple[float, float]:
    x0, y0, x1, y1 = bounds(ring)
    return x1 - x0, y1 - y0


def _corners(outline: Sequence[Point]) -> int:
    """How often a knife stops on its way round: corners sharper than those of a circle."""
    count = 0
    for k, (x, y) in enumerate(outline):
        (x0, y0), (x1, y1) = outline[k - 1], outline[(k + 1) % len(outline)]
        turn = math.atan2(y1 - y, x1 - x) - math.atan2(y - y0, x - x0)
        count += abs((turn + math.pi) % (2 * math.pi) - math.pi) > _SHARP
    return count


def punching(piece: Piece) -> Step:
    """The notches of a piece."""
    punches = notches(piece)
    return Step(
        f"punch:{piece.id}", "punch", f"Punch {_count(len(punches), 'notch', 'notches')} in {_many(piece)}.",
        piece=piece.id, parts=(piece.name,), lines=tuple(k for chain in punches for k in chain),
        copies=piece.quantity, minutes=_each("punch", piece, len(punches)),
    )  # fmt: skip


def _folds(piece: Piece) -> Iterator[Step]:
    scores = [line for line in piece.lines if line.kind == "score"]
    if not scores:
        return
    mountains = sum(line.fold == "mountain" for line in scores)
    senses = [f"{n} {word}" for n, word in ((mountains, "mountain"), (len(scores) - mountains, "valley")) if n]
    yield Step(
        f"fold:{piece.id}", "fold",
        f"Fold {_many(piece)} along every score and burnish: {' and '.join(senses)}, front up; the ridge lies inside.",
        piece=piece.id, parts=(piece.name,), face="front", copies=piece.quantity,
        lines=tuple(k for k, line in enumerate(piece.lines) if line.kind == "score"),
        minutes=_each("fold", piece, len(scores)),
    )  # fmt: skip


def _place(p: Sequence[float]) -> str:
    return f"{told(p[0])}, {told(p[1])}"


def _count(n: int, word: str, many: str = "") -> str:
    return f"1 {word}" if n == 1 else f"{n} {many or word + 's'}"
