"""A sheet cut edge to edge: a tree of cuts, each right across what lies before the maker.

Lengths are whole numbers of some small unit, so that what fits exactly is known exactly. A blade that takes a kerf is
told by adding the kerf to every piece and to the sheet: what is left between two pieces is then the blade's."""

from __future__ import annotations

import random
from collections.abc import Callable, Iterator
from typing import NamedTuple

from msgspec import Struct


class Want(Struct, frozen=True):
    """A rectangle that is wanted: size in units (kerf included), how often, and whether it may be turned."""

    name: str
    width: int
    height: int
    count: int = 1
    may_turn: bool = True

    @property
    def ways(self) -> frozenset[tuple[int, int]]:
        """Its size, one or both ways round."""
        upright = (self.width, self.height)
        return frozenset((upright, upright[::-1]) if self.may_turn else (upright,))


class Node(NamedTuple):
    """A part of a sheet, `width` by `height`: a piece (rank of its want) that fills it, nothing (−1), or two parts.

    `axis` 0: cut upright, `low` is the left part; 1: cut level, `low` is the lower part. `held` pieces are in it, of
    `area` in all.
    """

    width: int
    height: int
    piece: int = -1
    turned: bool = False
    axis: int = 0
    low: Node | None = None
    high: Node | None = None
    held: int = 0
    area: int = 0


class Spot(Struct, frozen=True):
    """A piece or a left part (−1) where it lies on its sheet, units from the lower left."""

    piece: int
    x: int
    y: int
    width: int
    height: int
    turned: bool = False


def empty(width: int, height: int) -> Node:
    """A part with nothing in it yet."""
    return Node(width, height)


def split(width: int, height: int, axis: int, low: Node, high: Node) -> Node:
    """Two parts beside (axis 0) or above one another (axis 1)."""
    return Node(width, height, -1, False, axis, low, high, low.held + high.held, low.area + high.area)


def spots(node: Node, x: int = 0, y: int = 0) -> Iterator[Spot]:
    """Every piece and every left part of a sheet, where it lies."""
    if node.low is None or node.high is None:
        if node.width > 0 and node.height > 0:
            yield Spot(node.piece, x, y, node.width, node.height, node.turned)
        return
    yield from spots(node.low, x, y)
    if node.axis == 0:
        yield from spots(node.high, x + node.low.width, y)
    else:
        yield from spots(node.high, x, y + node.low.height)


def pieces_of(node: Node) -> Iterator[int]:
    """The pieces in a part, by rank, each as often as it is there."""
    todo = [node]
    while todo:
        one = todo.pop()
        if one.piece >= 0:
            yield one.piece
        if one.low is not None and one.high is not None and one.held:
            todo += (one.high, one.low)


def way_down(node: Node, rng: random.Random, least: int, ends: Callable[[Node], bool]) -> tuple[tuple[int, ...], Node]:
    """A part of a sheet by chance, and the way down to it (0: the lower part of a cut, 1: the upper): into parts that
    hold at least so many pieces, as long as it does not end."""
    path: list[int] = []
    while node.low is not None and node.high is not None and not ends(node):
        ways = [k for k, part in enumerate((node.low, node.high)) if part.held >= least]
        if not ways:
            break
        way = rng.choice(ways)
        path.append(way)
        node = node.high if way else node.low
    return tuple(path), node


def replaced(node: Node, path: tuple[int, ...], part: Node) -> Node:
    """A sheet with another part at the end of a way down."""
    if not path:
        return part
    assert node.low is not None and node.high is not None
    if path[0]:
        return split(node.width, node.height, node.axis, node.low, replaced(node.high, path[1:], part))
    return split(node.width, node.height, node.axis, replaced(node.low, path[1:], part), node.high)
