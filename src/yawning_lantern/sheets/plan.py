"""From what is wanted and what lies in the drawer to sheets cut edge to edge: off-cuts first, then as few whole sheets
as can be, a proof how few there must be, and the cuts in the order made."""

from __future__ import annotations

import math
import random
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass, replace
from typing import Literal

from yawning_lantern.errors import ParameterError
from yawning_lantern.measure import told
from yawning_lantern.sheets.bounds import FINEST, area_bound, function_bound, pattern_bound
from yawning_lantern.sheets.cuts import Worked, in_order
from yawning_lantern.sheets.exact import FEW, fewest
from yawning_lantern.sheets.fill import Filler
from yawning_lantern.sheets.layout import Node, Want
from yawning_lantern.sheets.search import POWERS, find_sheets
from yawning_lantern.sheets.tidy import tidied

FINE = 10_000
"""Lengths are told apart to a ten-thousandth of a millimetre."""
COARSE = 0.05
"""Where lengths have no common divisor worth having: what is wanted is rounded up to this, sheets down, mm."""
EXACT = 1000
"""Handfuls are solved exactly on sheets of no more than so many units a side."""
USEFUL = 25.4
"""What is left over and at least so wide, mm, is kept as an off-cut. Common practice, no source."""


@dataclass(frozen=True, slots=True)
class Rectangle:
    """What is wanted of a stock: a name, width and height in mm, how often, and whether it may be turned. What may not
    be lies upright on its sheet, or a quarter `turned`."""

    name: str
    width: float
    height: float
    count: int = 1
    may_turn: bool = True
    stock: str = ""
    turned: bool = False

    @property
    def on_sheet(self) -> tuple[float, float]:
        """Width and height as it lies on its sheet, mm."""
        return (self.height, self.width) if self.turned else (self.width, self.height)


@dataclass(frozen=True, slots=True)
class Board:
    """A sheet of a stock as it can be used, mm; `kept` ones are off-cuts, `count` tells how many there are (None: as
    many as are bought)."""

    name: str
    stock: str
    width: float
    height: float
    count: int | None = None
    kept: bool = False


@dataclass(frozen=True, slots=True)
class Trimmer:
    """What cuts: the longest cut it makes (mm, None: any) and what its blade takes away, mm."""

    longest: float | None = None
    kerf: float = 0.0


@dataclass(frozen=True, slots=True)
class Cut:
    """A cut as it is made: on which part of the sheet (1: the sheet itself), across its width or height, where the
    fence stands and how long it is, mm; the numbers of the part at the fence and the part beyond (0: none)."""

    number: int
    part: int
    across: Literal["width", "height"]
    fence: float
    length: float
    at_fence: int
    beyond: int


@dataclass(frozen=True, slots=True)
class Placed:
    """A piece where it lies on its sheet, mm from the lower left."""

    piece: str
    x: float
    y: float
    width: float
    height: float
    turned: bool


@dataclass(frozen=True, slots=True)
class Left:
    """What is left of a sheet, mm from the lower left; `useful` ones are kept."""

    name: str
    x: float
    y: float
    width: float
    height: float
    useful: bool


@dataclass(frozen=True, slots=True)
class SheetPlan:
    """One sheet or off-cut: what is cut from it, in order, and what is left."""

    board: Board
    cuts: tuple[Cut, ...]
    placed: tuple[Placed, ...]
    left: tuple[Left, ...]


@dataclass(frozen=True, slots=True)
class Plan:
    """Sheets for all that is wanted. `bound`: there cannot be fewer whole sheets. `settings`: how often the fence is
    set. `order` tells the cuts of all sheets in the order made, as (sheet, rank of its cut)."""

    sheets: tuple[SheetPlan, ...]
    bound: int
    settings: int
    order: tuple[tuple[int, int], ...]

    @property
    def count(self) -> int:
        """Whole sheets; off-cuts are not counted."""
        return sum(not sheet.board.kept for sheet in self.sheets)

    @property
    def is_least(self) -> bool:
        """Whether it is proven that there cannot be fewer."""
        return self.count <= self.bound


@dataclass(frozen=True, slots=True)
class Effort:
    """How long is looked for less: moves and seconds for each stock. `together`: all sheets lie on the table at once,
    and the fence is set for all of them; else each is cut by itself."""

    moves: int = 4000
    seconds: float = 1.0
    proof: float = 2.0
    seed: int = 1
    together: bool = False


@dataclass(frozen=True, slots=True)
class _Asked:
    """Who waits for an answer: whom to tell of fewer sheets, and whom to ask whether to stop."""

    better: Callable[[int], None] | None
    enough: Callable[[], bool] | None


class _Units:
    """Lengths of one stock as whole numbers."""

    def __init__(self, rectangles: Sequence[Rectangle], boards: Sequence[Board], kerf: float) -> None:
        lengths = [v for r in rectangles for v in (r.width, r.height)] + [
            v for b in boards for v in (b.width, b.height)
        ]
        fine = [round(v * FINE) for v in (*lengths, kerf)]
        step = math.gcd(*fine) or 1
        coarse = max(fine) / step > 40 * FINEST
        self.step = COARSE if coarse else step / FINE
        self.kerf = kerf

    def up(self, length: float) -> int:
        """Of what is wanted, its share of the blade's cuts included."""
        return math.ceil((length + self.kerf) / self.step - 1e-6)

    def down(self, length: float) -> int:
        """Of a sheet."""
        return math.floor((length + self.kerf) / self.step + 1e-6)

    def mm(self, units: int) -> float:
        """Where something begins, mm."""
        return units * self.step

    def size(self, units: int) -> float:
        """How long something is, mm: the blade's share taken off."""
        return max(units * self.step - self.kerf, 0.0)


def plan_sheets(
    rectangles: Iterable[Rectangle], boards: Sequence[Board], trimmer: Trimmer = Trimmer(), effort: Effort = Effort(),
    better: Callable[[int], None] | None = None,
    enough: Callable[[], bool] | None = None,
) -> Plan:  # fmt: skip
    """Sheets for all that is wanted, stock by stock.

    `better` is told the number of sheets of a stock whenever fewer are found; `enough` is asked now and then whether
    the best so far will do.

    Raises:
        ParameterError: a piece fits no sheet of its stock, or there is none of that stock.
    """
    by_stock: dict[str, list[Rectangle]] = {}
    for one in rectangles:
        if one.count > 0:
            by_stock.setdefault(one.stock, []).append(one)
    sheets: list[SheetPlan] = []
    order: list[tuple[int, int]] = []
    bound = settings = 0
    for stock, wanted in by_stock.items():
        own = [board for board in boards if board.stock == stock]
        part = _of_one_stock(wanted, own, trimmer, effort, _Asked(better, enough))
        order += [(len(sheets) + k, rank) for k, rank in part.order]
        sheets += [_named(sheet, len(sheets) + k + 1) for k, sheet in enumerate(part.sheets)]
        bound += part.bound
        settings += part.settings
    return Plan(tuple(sheets), bound, settings, tuple(order))


def _named(sheet: SheetPlan, number: int) -> SheetPlan:
    """A sheet whose left parts are called by its number and a letter."""
    return replace(sheet, left=tuple(replace(part, name=f"{number}{part.name}") for part in sheet.left))


def _of_one_stock(
    wanted: Sequence[Rectangle], boards: Sequence[Board], trimmer: Trimmer, effort: Effort,
    asked_by: _Asked,
) -> Plan:  # fmt: skip
    whole = next((board for board in boards if not board.kept), None)
    if whole is None:
        name = wanted[0].stock or "that stock"
        raise ParameterError(f"There is no sheet of {name} to cut from.", wanted[0].name, "Add one to the drawer.")
    units = _Units(wanted, boards, trimmer.kerf)
    wants = [
        Want(r.name, units.up(r.on_sheet[0]), units.up(r.on_sheet[1]), r.count, r.may_turn and not r.turned)
        for r in wanted
    ]
    size = units.down(whole.width), units.down(whole.height)
    longest = 0 if trimmer.longest is None else units.down(trimmer.longest)
    filler = Filler(wants, longest)
    for want, one in zip(wants, wanted, strict=True):
        if filler.fill([size], [wants.index(want)], 1.5, 1)[1]:
            long = trimmer.longest is not None and max(whole.width, whole.height) > trimmer.longest
            raise ParameterError(
                f"It is {told(one.width)} × {told(one.height)}: it cannot be cut from {whole.name}.", one.name,
                "Take a larger sheet, or a trimmer that cuts longer." if long else "Take a larger sheet.",
            )  # fmt: skip
    kept = [board for board in boards if board.kept for _ in range(board.count or 1)]
    from_kept, rest = _from_kept(filler, kept, units, effort.seed)
    counts = [rest.count(k) for k in range(len(wants))]
    left = [replace(want, count=n) for want, n in zip(wants, counts, strict=True)]
    nodes, bound = _fewest(left, size, longest, effort, asked_by) if rest else ((), 0)
    if nodes and effort.moves:
        nodes = tidied(
            Filler(left, longest), nodes, together=effort.together, moves=min(60, effort.moves),
            seconds=effort.seconds, seed=effort.seed, enough=asked_by.enough,
        )  # fmt: skip
    if from_kept:  # other pieces might go on the off-cuts: what they could take at the most is all that is proven
        taken = sum(units.down(b.width) * units.down(b.height) for b in kept)
        asked = sum(want.width * want.height * want.count for want in wants)
        bound = min(bound, max(0, math.ceil((asked - taken) / (size[0] * size[1]) - 1e-9)))
    used = [*from_kept, *((whole, node) for node in nodes)]
    return _told([board for board, _ in used], [node for _, node in used], wanted, units, effort.together, bound)


def _from_kept(
    filler: Filler, kept: Sequence[Board], units: _Units, seed: int
) -> tuple[list[tuple[Board, Node]], list[int]]:
    """Off-cuts filled as full as some tries fill them, and the pieces that are left."""
    items = [k for k, want in enumerate(filler.wants) for _ in range(want.count)]
    if not kept:
        return [], items
    rng = random.Random(seed)
    parts = [(units.down(board.width), units.down(board.height)) for board in kept]
    best: tuple[int, list[Node], list[int]] | None = None
    for power in POWERS:
        for noise in (0.0, 0.3, 0.8, 1.5):
            nodes, over = filler.fill(parts, filler.order(items, rng, noise), power, 4)
            left = sum(filler.areas[i] for i in over)
            if best is None or left < best[0]:
                best = left, nodes, over
    assert best is not None
    return [(board, node) for board, node in zip(kept, best[1], strict=True) if node.held], best[2]


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


def _told(
    boards: Sequence[Board],
    nodes: Sequence[Node],
    wanted: Sequence[Rectangle],
    units: _Units,
    together: bool,
    bound: int,
) -> Plan:
    """Layouts as sheets with cuts, in mm."""
    tables: list[Worked] = [in_order(nodes)] if together and nodes else [in_order([node]) for node in nodes]
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
        for spot in spots:
            x, y, w, h = units.mm(spot.x), units.mm(spot.y), units.size(spot.width), units.size(spot.height)
            if spot.piece >= 0:
                one = wanted[spot.piece]
                placed.append(Placed(one.name, x, y, w, h, spot.turned != one.turned))
            elif w > 0 and h > 0:
                useful = min(w, h) >= USEFUL
                left.append(Left(chr(97 + len(left) % 26), x, y, w, h, useful))
        sheets.append(SheetPlan(board, tuple(cuts[k]), tuple(placed), tuple(left)))
    return Plan(tuple(sheets), bound, sum(table.settings for table in tables), tuple(order))
