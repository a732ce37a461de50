"""One piece moved by hand on planned sheets: it goes where it is put, what lay there finds another place."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from msgspec import Struct
from msgspec.structs import replace

from yawning_lantern.errors import ParameterError
from yawning_lantern.sheets.fill import Filler
from yawning_lantern.sheets.held import put_at, thinned, tree_of
from yawning_lantern.sheets.layout import Node
from yawning_lantern.sheets.plan import ANY, Effort, filled_first, joined, told_plan, units_of, wants_of
from yawning_lantern.sheets.search import find_sheets
from yawning_lantern.sheets.told import Board, Plan, Rectangle, SheetPlan, Trimmer

NARROWEST = 3.0
"""A strip of waste between the fence and a piece is at least so wide, mm: a narrower one cannot be held."""


class Move(Struct, frozen=True):
    """A piece (`placed` of a `sheet`, by rank) put so that its middle comes near a place (mm from the lower left) of
    another sheet or the same."""

    sheet: int
    placed: int
    to: int
    x: float
    y: float


def moved(
    rectangles: Iterable[Rectangle], boards: Sequence[Board], plan: Plan, move: Move, trimmer: Trimmer = ANY,
    together: bool = False,
) -> Plan:  # fmt: skip
    """The plan with a piece moved; all that it does not displace stays as it was.

    Raises:
        ParameterError: the sheet is of another stock, or the piece does not fit it.
    """
    source, target = plan.sheets[move.sheet], plan.sheets[move.to]
    piece = source.placed[move.placed]
    if source.board.stock != target.board.stock:
        raise ParameterError("That sheet is another paper.", piece.piece, "Put it on a sheet of its own paper.")
    by_stock: dict[str, list[Rectangle]] = {}
    for one in rectangles:
        by_stock.setdefault(one.stock, []).append(one)
    parts = []
    for stock in dict.fromkeys(sheet.board.stock for sheet in plan.sheets):
        ranks = [k for k, sheet in enumerate(plan.sheets) if sheet.board.stock == stock]
        own = [board for board in boards if board.stock == stock]
        inner = None
        if stock == source.board.stock:
            inner = replace(move, sheet=ranks.index(move.sheet), to=ranks.index(move.to))
        parts.append(_of_one(by_stock[stock], own, [plan.sheets[k] for k in ranks], inner, trimmer, together))
    return replace(joined(parts, together), bound=plan.bound)


def _of_one(
    wanted: Sequence[Rectangle], boards: Sequence[Board], sheets: Sequence[SheetPlan], move: Move | None,
    trimmer: Trimmer, together: bool,
) -> Plan:  # fmt: skip
    units = units_of(wanted, boards, trimmer, sheets)
    wants = wants_of(wanted, units)
    trees = [tree_of(sheet, wants, units) for sheet in sheets]
    on = [sheet.board for sheet in sheets]
    if move is None:
        return told_plan(on, trees, wanted, units, together, 0, len(trees))
    longest = 0 if trimmer.longest is None else units.down(trimmer.longest)
    lies = sheets[move.sheet].placed[move.placed]
    at = round(lies.x / units.step), round(lies.y / units.step)
    gone: list[int] = []

    def stays(rank: int, x: int, y: int) -> bool:
        if (x, y) == at:
            gone.append(rank)
            return False
        return True

    trees[move.sheet] = thinned(trees[move.sheet], stays)
    spot = move.x / units.step, move.y / units.step
    want = wants[gone[0]]
    ways = sorted(want.ways, key=lambda way: way != (units.up(lies.width), units.up(lies.height)))
    for width, height in ways:
        turned = (width, height) != (want.width, want.height)
        leaf = Node(width, height, gone[0], turned, held=1, area=width * height)
        put = put_at(trees[move.to], spot, leaf, longest, units.up(NARROWEST))
        if put is not None:
            break
    else:
        raise ParameterError("It does not fit there.", lies.piece, "Put it on a larger part, or on another sheet.")
    trees[move.to], displaced = put
    filler = Filler(wants, longest)
    counts = [displaced.count(k) for k in range(len(wants))]
    used, rest = filled_first(filler, list(zip(on, trees, strict=True)), counts, 1)
    if rest:
        whole = next(board for board in boards if not board.kept)
        left = [replace(want, count=rest.count(k)) for k, want in enumerate(wants)]
        size = units.down(whole.width), units.down(whole.height)
        new = find_sheets(left, size, bound=1, moves=0, seconds=1.0, longest=longest, seed=Effort().seed)
        used = [*used, *((whole, node) for node in new.sheets)]
    return told_plan([board for board, _ in used], [node for _, node in used], wanted, units, together, 0, len(used))
