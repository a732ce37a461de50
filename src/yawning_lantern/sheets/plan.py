"""From what is wanted and what lies in the drawer to sheets cut edge to edge: off-cuts first, then as few whole sheets
as can be, a proof how few there must be, and the cuts in the order made."""

from __future__ import annotations

import math
import random
from collections.abc import Callable, Iterable, Sequence
from typing import Literal

from msgspec import Struct
from msgspec.structs import replace

from yawning_lantern.errors import ParameterError
from yawning_lantern.measure import told
from yawning_lantern.sheets.bounds import area_bound, function_bound, pattern_bound
from yawning_lantern.sheets.cuts import Worked, in_order
from yawning_lantern.sheets.exact import FEW, fewest
from yawning_lantern.sheets.fill import Filler
from yawning_lantern.sheets.fixed import as_it_lies
from yawning_lantern.sheets.held import Held, free_parts, thinned, tree_of, with_parts
from yawning_lantern.sheets.layout import Node, Want
from yawning_lantern.sheets.search import POWERS, find_sheets
from yawning_lantern.sheets.tidy import tidied
from yawning_lantern.sheets.told import Board, Cut, Left, Placed, Plan, Rectangle, SheetPlan, Trimmer
from yawning_lantern.sheets.units import Units

EXACT = 1000
"""Handfuls are solved exactly on sheets of no more than so many units a side."""
USEFUL = 25.4
"""What is left over and at least so wide, mm, is kept as an off-cut. Common practice, no source."""


ANY = Trimmer()
"""A tool that cuts any length and takes nothing away."""


class Effort(Struct, frozen=True):
    """How long is looked for less: moves and seconds for each stock. `together`: all sheets lie on the table at once,
    and the fence is set for all of them; else each is cut by itself."""

    moves: int = 4000
    seconds: float = 1.0
    proof: float = 2.0
    seed: int = 1
    together: bool = False


_USUAL = Effort()


class _Asked(Struct, frozen=True):
    """Who waits for an answer: whom to tell of fewer sheets, and whom to ask whether to stop."""

    better: Callable[[int], None] | None
    enough: Callable[[], bool] | None


_SAME_FENCE = 1e-4  # mm: fences nearer than this are set once


def plan_sheets(
    rectangles: Iterable[Rectangle], boards: Sequence[Board], trimmer: Trimmer = ANY, effort: Effort = _USUAL,
    better: Callable[[int], None] | None = None,
    enough: Callable[[], bool] | None = None,
    held: Sequence[Held] = (),
) -> Plan:  # fmt: skip
    """Sheets for all that is wanted, stock by stock. On sheets that are `held` the locked pieces stay where they are,
    as long as they are wanted; what else is wanted goes on them first.

    `better` is told the number of sheets of a stock whenever fewer are found; `enough` is asked now and then whether
    the best so far will do.

    Raises:
        ParameterError: a piece fits no sheet of its stock, or there is none of that stock.
    """
    by_stock: dict[str, list[Rectangle]] = {}
    for one in rectangles:
        if one.count > 0:
            by_stock.setdefault(one.stock, []).append(one)
    parts = []
    for stock, wanted in by_stock.items():
        own = [board for board in boards if board.stock == stock]
        stay = [one for one in held if one.sheet.board.stock == stock]
        parts.append(_of_one_stock(wanted, own, trimmer, effort, _Asked(better, enough), stay))
    return joined(parts, effort.together)


def joined(parts: Iterable[Plan], together: bool) -> Plan:
    """The plans of several stocks as one, sheets numbered and what is left of them named. Where all lie on the table
    `together`, a fence that stays as it is from one stock to the next is set once."""
    sheets: list[SheetPlan] = []
    order: list[tuple[int, int]] = []
    bound = settings = 0
    fence: float | None = None
    for part in parts:
        fences = [part.sheets[k].cuts[rank].fence for k, rank in part.order]
        if together and fences and fence is not None and abs(fences[0] - fence) < _SAME_FENCE:
            settings -= 1
        fence = fences[-1] if fences else fence
        order += [(len(sheets) + k, rank) for k, rank in part.order]
        sheets += [_named(sheet, len(sheets) + k + 1) for k, sheet in enumerate(part.sheets)]
        bound += part.bound
        settings += part.settings
    return Plan(tuple(sheets), bound, settings, tuple(order))


def _named(sheet: SheetPlan, number: int) -> SheetPlan:
    """A sheet whose left parts are called by its number and a letter."""
    left, corners = (tuple(replace(part, name=f"{number}{part.name}") for part in parts) for parts in (
        sheet.left, sheet.corners))  # fmt: skip
    return replace(sheet, left=left, corners=corners)


def _of_one_stock(
    wanted: Sequence[Rectangle], boards: Sequence[Board], trimmer: Trimmer, effort: Effort,
    asked_by: _Asked, held: Sequence[Held],
) -> Plan:  # fmt: skip
    whole = _whole(wanted, boards)
    units = units_of(wanted, boards, trimmer, [one.sheet for one in held])
    wants = wants_of(wanted, units)
    size = units.down(whole.width), units.down(whole.height)
    longest = 0 if trimmer.longest is None else units.down(trimmer.longest)
    filler = Filler(wants, longest)
    _check_sizes(wanted, filler, whole, size, trimmer)
    taken = [one.sheet.board for one in held]
    kept = [board for board in boards if board.kept and board not in taken for _ in range(board.count or 1)]
    stay, counts = _staying(held, wants, units)
    first = [*((one.sheet.board, node) for one, node in zip(held, stay, strict=True)),
             *((board, Node(units.down(board.width), units.down(board.height))) for board in kept)]  # fmt: skip
    used, rest = filled_first(filler, first, counts, effort.seed)
    stays_held = sum(any(board is one for one in taken) for board, _ in used)
    counts = [rest.count(k) for k in range(len(wants))]
    left = [replace(want, count=n) for want, n in zip(wants, counts, strict=True)]
    nodes, bound = _fewest(left, size, longest, effort, asked_by) if rest else ((), 0)
    if nodes and effort.moves:
        nodes = tidied(
            Filler(left, longest), nodes, together=effort.together, moves=min(60, effort.moves),
            seconds=effort.seconds, seed=effort.seed, enough=asked_by.enough,
        )  # fmt: skip
    if used:
        bound = _bound_with_others(wants, size, kept, units, bound, len(held))
    used = [*used, *((whole, node) for node in nodes)]
    on, trees = [board for board, _ in used], [node for _, node in used]
    return told_plan(on, trees, wanted, units, effort.together, bound, stays_held)


def _whole(wanted: Sequence[Rectangle], boards: Sequence[Board]) -> Board:
    """The sheet that is bought. Raises ParameterError where there is none."""
    whole = next((board for board in boards if not board.kept), None)
    if whole is None:
        name = wanted[0].stock or "that stock"
        raise ParameterError(f"There is no sheet of {name} to cut from.", wanted[0].name, "Add one to the drawer.")
    return whole


def units_of(
    wanted: Sequence[Rectangle], boards: Sequence[Board], trimmer: Trimmer, sheets: Sequence[SheetPlan] = ()
) -> Units:
    """Units for what is wanted of one stock, its sheets and off-cuts, and settings that were made before."""
    lengths = [v for r in wanted for v in (r.width, r.height)]
    lengths += [v for b in boards for v in (b.width, b.height)]
    lengths += [v for s in sheets for v in (s.board.width, s.board.height, *(cut.fence for cut in s.cuts))]
    return Units(lengths, trimmer.kerf)


def wants_of(wanted: Sequence[Rectangle], units: Units) -> list[Want]:
    """What is wanted in units, as it lies on its sheets."""
    return [
        Want(r.name, units.up(r.on_sheet[0]), units.up(r.on_sheet[1]), r.count, r.may_turn and not r.turned)
        for r in wanted
    ]


def _check_sizes(
    wanted: Sequence[Rectangle], filler: Filler, whole: Board, size: tuple[int, int], trimmer: Trimmer
) -> None:
    """Raise ParameterError for a piece that fits no sheet."""
    for k, one in enumerate(wanted):
        if filler.fill([size], [k], 1.5, 1)[1]:
            long = trimmer.longest is not None and max(whole.width, whole.height) > trimmer.longest
            lies = "" if one.may_turn else ", lying as its pattern or the grain asks"
            raise ParameterError(
                f"It is {told(one.width)} × {told(one.height)}: it cannot be cut from {whole.name}{lies}.", one.name,
                "Take a larger sheet, or a trimmer that cuts longer." if long else "Take a larger sheet.",
            )  # fmt: skip


def _staying(held: Sequence[Held], wants: Sequence[Want], units: Units) -> tuple[list[Node], list[int]]:
    """The held sheets with their locked pieces only, and how many of each want are still to be placed."""
    counts = [want.count for want in wants]
    nodes = []
    for one in held:
        places = {(units.near(p.x) - units.near(0.0), units.near(p.y) - units.near(0.0))
                  for k, p in enumerate(one.sheet.placed) if k in one.locked}  # fmt: skip

        def stays(rank: int, x: int, y: int, places: set[tuple[int, int]] = places) -> bool:
            if (x, y) not in places or not counts[rank]:
                return False
            counts[rank] -= 1
            return True

        nodes.append(thinned(tree_of(one.sheet, wants, units), stays))
    return nodes, counts


def filled_first(
    filler: Filler, sheets: Sequence[tuple[Board, Node]], counts: Sequence[int], seed: int
) -> tuple[list[tuple[Board, Node]], list[int]]:
    """Held sheets and off-cuts, their free parts filled as full as some tries fill them, and what is left over."""
    items = [k for k, count in enumerate(counts) for _ in range(count)]
    if not sheets:
        return [], items
    rng = random.Random(seed)
    parts = [part for _, node in sheets for part in free_parts(node)]
    best: tuple[int, list[Node], list[int]] | None = None
    for power in POWERS:
        for noise in (0.0, 0.3, 0.8, 1.5):
            nodes, over = filler.fill(parts, filler.order(items, rng, noise), power, 4)
            left = sum(filler.areas[i] for i in over)
            if best is None or left < best[0]:
                best = left, nodes, over
    assert best is not None
    filled = iter(best[1])
    whole = [(board, with_parts(node, filled)) for board, node in sheets]
    return [(board, node) for board, node in whole if node.held], best[2]


def _bound_with_others(
    wants: Sequence[Want], size: tuple[int, int], kept: Sequence[Board], units: Units, bound: int, held: int
) -> int:
    """How many whole sheets there must be where some pieces lie on off-cuts or held sheets: other pieces might lie
    there, so what the off-cuts could take at the most is all that is proven."""
    asked = [want for want in wants if want.count]
    if not kept:
        return min(bound + held, max(area_bound(asked, size), function_bound(asked, size)))
    taken = sum(units.down(b.width) * units.down(b.height) for b in kept)
    area = sum(want.width * want.height * want.count for want in asked)
    return min(bound + held, max(0, math.ceil((area - taken) / (size[0] * size[1]) - 1e-9)))


def _fewest(
    wants: Sequence[Want], size: tuple[int, int], longest: int, effort: Effort, asked_by: _Asked
) -> tuple[tuple[Node, ...], int]:
    """Whole sheets for some wants, and how many there must be."""
    pieces = sum(want.count for want in wants)
    free = not longest or longest >= max(size)
    asked = [want for want in wants if want.count]
    if free and pieces <= FEW and max(size) <= EXACT:
        exact = fewest(wants, size)
        if exact is not None:
            return exact, len(exact)
    bound = max(area_bound(asked, size), function_bound(asked, size))

    found = find_sheets(
        wants, size, bound=bound, moves=effort.moves, seconds=effort.seconds, longest=longest, seed=effort.seed,
        better=asked_by.better, enough=asked_by.enough,
    )  # fmt: skip
    if len(found.sheets) > bound and effort.proof > 0:
        bound = max(
            bound, pattern_bound(asked, size, _renumbered(found.sheets, wants), len(found.sheets), effort.proof)
        )
    return found.sheets, bound


def _renumbered(sheets: Sequence[Node], wants: Sequence[Want]) -> list[Node]:
    """Sheets with their pieces' ranks among those wants that are wanted at all."""
    ranks = {k: n for n, k in enumerate(k for k, want in enumerate(wants) if want.count)}

    def again(node: Node) -> Node:
        if node.low is None or node.high is None:
            return node._replace(piece=ranks.get(node.piece, -1))
        return node._replace(low=again(node.low), high=again(node.high))

    return [again(sheet) for sheet in sheets]


def told_plan(
    boards: Sequence[Board], nodes: Sequence[Node], wanted: Sequence[Rectangle], units: Units, together: bool,
    bound: int, held: int = 0,
) -> Plan:  # fmt: skip
    """Layouts of one stock as sheets with cuts, in mm. On the first `held` of them everything stays where it lies."""
    if together and nodes:
        tables: list[Worked] = [as_it_lies(nodes) if held else in_order(nodes)]
    else:
        tables = [as_it_lies([node]) if k < held else in_order([node]) for k, node in enumerate(nodes)]
    cuts: list[list[Cut]] = [[] for _ in nodes]
    order: list[tuple[int, int]] = []
    for n, table in enumerate(tables):
        for step in table.steps:
            k = step.sheet if together else n
            order.append((k, len(cuts[k])))
            number = len(order) if together else len(cuts[k]) + 1
            across: Literal["width", "height"] = "width" if step.across_width else "height"
            fence, length = units.size(step.fence), units.size(step.length)
            cuts[k].append(Cut(number, step.part, across, fence, length, step.at_fence, step.beyond))
    sheets = []
    for k, (board, _) in enumerate(zip(boards, nodes, strict=True)):
        spots = tables[0].spots[k] if together else tables[k].spots[0]
        placed: list[Placed] = []
        left: list[Left] = []
        corners: list[tuple[float, float, float, float]] = []
        for spot in spots:
            x, y, w, h = units.mm(spot.x), units.mm(spot.y), units.size(spot.width), units.size(spot.height)
            if spot.piece >= 0:
                one = wanted[spot.piece]
                placed.append(Placed(one.name, x, y, w, h, spot.turned != one.turned))
                corners += _corners(one, spot.turned, x, y)
            elif w > 0 and h > 0:
                useful = min(w, h) >= USEFUL
                left.append(Left(chr(97 + len(left) % 26), x, y, w, h, useful))
        names = (chr(97 + n % 26) for n in range(len(left), len(left) + len(corners)))
        spare = tuple(Left(name, *corner, True) for name, corner in zip(names, corners, strict=True))
        sheets.append(SheetPlan(board, tuple(cuts[k]), tuple(placed), tuple(left), spare))
    return Plan(tuple(sheets), bound, sum(table.settings for table in tables), tuple(order))


def _corners(one: Rectangle, turned: bool, x: float, y: float) -> list[tuple[float, float, float, float]]:
    """What a piece's outline leaves of its rectangle, where it lies on the sheet, as far as it is useful, mm."""
    height = one.on_sheet[1]
    boxes = []
    for sx, sy, w, h in one.spare:
        if min(w, h) >= USEFUL:
            boxes.append((x + height - sy - h, y + sx, h, w) if turned else (x + sx, y + sy, w, h))
    return boxes
