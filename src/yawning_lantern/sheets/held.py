"""Sheets that are held: laid out before, some of their pieces locked where they lie, the rest of them free again."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence

from msgspec import Struct

from yawning_lantern.sheets.layout import Node, Want, split
from yawning_lantern.sheets.told import SheetPlan
from yawning_lantern.sheets.units import Units


class Held(Struct, frozen=True):
    """A sheet as it was planned, and the ranks (in `placed`) of those pieces that stay where they are."""

    sheet: SheetPlan
    locked: frozenset[int]


def tree_of(sheet: SheetPlan, wants: Sequence[Want], units: Units) -> Node:
    """The tree of a sheet's cuts, its pieces by the rank of their want: by name and size. A piece that is none of those
    wanted, or that does not fill its part any more, is left out."""
    by_part = {cut.part: cut for cut in sheet.cuts}
    lying = {(round(p.x, 3), round(p.y, 3)): p for p in sheet.placed}

    def node(part: int, x: float, y: float, width: int, height: int) -> Node:
        cut = by_part.get(part)
        if cut is None:
            placed = lying.get((round(x, 3), round(y, 3)))
            rank = -1 if placed is None else _rank(placed.piece, width, height, wants)
            if rank < 0:
                return Node(width, height)
            turned = (width, height) != (wants[rank].width, wants[rank].height)
            return Node(width, height, rank, turned, held=1, area=width * height)
        whole = width if cut.across == "width" else height
        at = min(units.near(cut.fence), whole)
        beyond = units.mm(at)
        if cut.across == "width":
            low = node(cut.at_fence, x, y, at, height)
            high = node(cut.beyond, x + beyond, y, width - at, height) if width > at else Node(0, height)
            return split(width, height, 0, low, high) if width > at else low
        low = node(cut.at_fence, x, y, width, at)
        high = node(cut.beyond, x, y + beyond, width, height - at) if height > at else Node(width, 0)
        return split(width, height, 1, low, high) if height > at else low

    return node(1, 0.0, 0.0, units.down(sheet.board.width), units.down(sheet.board.height))


def _rank(name: str, width: int, height: int, wants: Sequence[Want]) -> int:
    """The want that a piece of that name and size is, or −1."""
    return next((k for k, want in enumerate(wants) if want.name == name and (width, height) in want.ways), -1)


def thinned(node: Node, stays: Callable[[int, int, int], bool], x: int = 0, y: int = 0) -> Node:
    """The tree with only those pieces that stay (asked with rank, x and y, in the order of the tree); parts with
    nothing left on them are one again."""
    if node.low is None or node.high is None:
        return node if node.piece >= 0 and stays(node.piece, x, y) else Node(node.width, node.height)
    low = thinned(node.low, stays, x, y)
    dx, dy = (node.low.width, 0) if node.axis == 0 else (0, node.low.height)
    high = thinned(node.high, stays, x + dx, y + dy)
    if not low.held and not high.held:
        return Node(node.width, node.height)
    return split(node.width, node.height, node.axis, low, high)


def free_parts(node: Node) -> Iterator[tuple[int, int]]:
    """The size of every part with nothing on it, in the order of the tree."""
    if node.low is not None and node.high is not None:
        yield from free_parts(node.low)
        yield from free_parts(node.high)
    elif node.piece < 0 and node.width > 0 and node.height > 0:
        yield node.width, node.height


def with_parts(node: Node, parts: Iterator[Node]) -> Node:
    """The tree with others in the place of its free parts, in the order of `free_parts`."""
    if node.low is not None and node.high is not None:
        low = with_parts(node.low, parts)
        return split(node.width, node.height, node.axis, low, with_parts(node.high, parts))
    if node.piece < 0 and node.width > 0 and node.height > 0:
        return next(parts)
    return node


def put_at(
    node: Node, spot: tuple[float, float], leaf: Node, longest: int, least: int = 1
) -> tuple[Node, tuple[int, ...]] | None:
    """The tree with a piece at a place (units from the lower left), and the pieces that it displaced; None where it
    does not fit there.

    It goes into the smallest part around the place that holds it, in the corner that is nearest to where its middle is
    to be; everything else in that part is displaced. What is left beside it towards the fence is at least `least` wide.
    """
    if leaf.width > node.width or leaf.height > node.height:
        return None
    x, y = spot
    if node.low is not None and node.high is not None:
        in_low = x < node.low.width if node.axis == 0 else y < node.low.height
        inner = (x, y) if in_low else (x - node.low.width, y) if node.axis == 0 else (x, y - node.low.height)
        deeper = put_at(node.low if in_low else node.high, inner, leaf, longest, least)
        if deeper is not None:
            part, gone = deeper
            low, high = (part, node.high) if in_low else (node.low, part)
            return split(node.width, node.height, node.axis, low, high), gone
    right = x > node.width / 2 and node.width - leaf.width >= least
    upper = y > node.height / 2 and node.height - leaf.height >= least
    placed = _in_corner(node.width, node.height, leaf, right, upper, longest)
    return None if placed is None else (placed, tuple(_pieces(node)))


def _in_corner(width: int, height: int, leaf: Node, right: bool, upper: bool, longest: int) -> Node | None:
    """A piece in a corner of a part, the first cut along its longer rest where the tool lets it."""
    dw, dh = width - leaf.width, height - leaf.height
    for axis in (0, 1) if dw >= dh else (1, 0):
        if longest and ((dw and (height if axis == 0 else leaf.height) > longest)
                        or (dh and (leaf.width if axis == 0 else width) > longest)):  # fmt: skip
            continue
        across = (_beside(leaf, dw, right) if dw else leaf) if axis == 1 else (_above(leaf, dh, upper) if dh else leaf)
        if axis == 1:
            return _above(across, dh, upper) if dh else across
        return _beside(across, dw, right) if dw else across
    return None


def _beside(node: Node, rest: int, right: bool) -> Node:
    free = Node(rest, node.height)
    return split(node.width + rest, node.height, 0, *((free, node) if right else (node, free)))


def _above(node: Node, rest: int, upper: bool) -> Node:
    free = Node(node.width, rest)
    return split(node.width, node.height + rest, 1, *((free, node) if upper else (node, free)))


def _pieces(node: Node) -> Iterator[int]:
    if node.low is not None and node.high is not None:
        yield from _pieces(node.low)
        yield from _pieces(node.high)
    elif node.piece >= 0:
        yield node.piece
