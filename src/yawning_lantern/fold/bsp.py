"""Exact painter order of flat sheets in space: one binary space partition, sheets split where they must be.

The method is Fuchs, Kedem and Naylor, “On visible surface generation by a priori tree structures” (1980). The tree
holds for every viewpoint; only walking it depends on the eye.
"""

from __future__ import annotations

from collections.abc import Sequence
from math import inf
from typing import NamedTuple

from msgspec import Struct, field

Vec = tuple[float, float, float]
_THIN = 0.02  # mm: closer than this to a plane is in the plane; sheets lie at least a tenth of a millimetre apart
_TRIED = 12  # splitters weighed at each node
_SPLIT = 16  # sheets of unevenness that one split weighs as much as: what is split is painted twice


class Facet(NamedTuple):
    """A convex polygon in space, mm. `node` tells whose it is; `edges[i]` whether the edge from point i is original;
    `box` is the middle and half the extent of the upright box around it (x, y, z each)."""

    node: int
    points: tuple[Vec, ...]
    edges: tuple[bool, ...]
    normal: Vec
    box: tuple[float, float, float, float, float, float]


def facet(node: int, points: Sequence[Vec], edges: tuple[bool, ...], normal: Vec) -> Facet:
    """A facet with its box."""
    xs, ys, zs = zip(*points, strict=True)
    x0, x1, y0, y1, z0, z1 = min(xs), max(xs), min(ys), max(ys), min(zs), max(zs)
    box = (x0 + x1) / 2, (y0 + y1) / 2, (z0 + z1) / 2, (x1 - x0) / 2, (y1 - y0) / 2, (z1 - z0) / 2
    return Facet(node, tuple(points), edges, normal, box)


class PaintTree(Struct):
    """One node of the partition: a plane, what lies in it, and what lies to either side.

    `splitter` is the node (see Facet) whose plane it is; `fragments` counts what lies here and further down; `source`
    is what it was built from.
    """

    normal: Vec
    distance: float
    splitter: int = -1
    fragments: int = 0
    inside: list[Facet] = field(default_factory=list)
    front: PaintTree | None = None
    back: PaintTree | None = None
    source: Sequence[Facet] = ()


def _split(whole: Facet, heights: list[float]) -> tuple[Facet, Facet]:
    """The parts of a facet before and behind a plane."""
    front: list[Vec] = []
    back: list[Vec] = []
    front_edges: list[bool] = []
    back_edges: list[bool] = []
    points, edges = whole.points, whole.edges
    n = len(points)
    for i in range(n):
        p, h, edge = points[i], heights[i], edges[i]
        j = i + 1 if i + 1 < n else 0
        q, k = points[j], heights[j]
        if h >= 0:
            front.append(p)
            front_edges.append(edge)
        if h <= 0:
            back.append(p)
            back_edges.append(edge)
        if (h > 0 > k) or (h < 0 < k):
            s = h / (h - k)
            m = (p[0] + s * (q[0] - p[0]), p[1] + s * (q[1] - p[1]), p[2] + s * (q[2] - p[2]))
            front.append(m)
            back.append(m)
            # the edge that leaves the plane keeps its nature, the one that runs along the plane is new
            front_edges.append(edge if k > 0 else False)
            back_edges.append(edge if k < 0 else False)
        elif h == 0:
            if k < 0:
                front_edges[-1] = False
            elif k > 0:
                back_edges[-1] = False
    return (
        facet(whole.node, front, tuple(front_edges), whole.normal),
        facet(whole.node, back, tuple(back_edges), whole.normal),
    )


def _best(found: Sequence[Facet]) -> Facet:
    """The facet whose plane splits fewest of the others, of a few spread over the list."""
    count = len(found)
    if count <= 2:
        return found[0]
    stride = max(1, count // _TRIED)
    best, least = found[0], inf
    for at in range(0, count, stride):
        own = found[at]
        nx, ny, nz = own.normal
        x, y, z = own.points[0]
        d = x * nx + y * ny + z * nz
        ax, ay, az = abs(nx), abs(ny), abs(nz)
        splits = ahead = 0
        for other in found:
            cx, cy, cz, ex, ey, ez = other.box
            off, reach = cx * nx + cy * ny + cz * nz - d, ex * ax + ey * ay + ez * az
            if off - reach > _THIN:
                ahead += 1
                continue
            if off + reach < -_THIN:
                continue
            heights = [a * nx + b * ny + c * nz for a, b, c in other.points]
            if min(heights) < d - _THIN:
                if max(heights) > d + _THIN:
                    splits += 1
                    if splits * _SPLIT >= least:
                        break  # no better, however even
            else:
                ahead += 1
        score = splits * _SPLIT + abs(2 * ahead - count) / 2
        if score < least:
            best, least = own, score
    return best


def build_tree(found: Sequence[Facet], like: PaintTree | None = None) -> PaintTree | None:
    """A partition of the facets, or None for none.

    With a tree of the same things as they lay before, its choice of planes is tried first: most of them serve again. A
    part of it that was built from the very same facets is taken over whole.
    """
    if not found:
        return None
    if like is not None and len(like.source) == len(found) and like.source == found:
        return like
    if len(found) == 1:  # half of all places are such
        (nx, ny, nz), (x, y, z) = found[0].normal, found[0].points[0]
        return PaintTree(found[0].normal, x * nx + y * ny + z * nz, found[0].node, 1, [found[0]], source=found)
    first = None
    if like is not None:
        for one in found:
            if one.node == like.splitter:
                first = one
                break
    if first is None:
        first, like = _best(found), None
    nx, ny, nz = first.normal
    x, y, z = first.points[0]
    d = x * nx + y * ny + z * nz
    tree = PaintTree(first.normal, d, first.node, source=found)
    front: list[Facet] = []
    back: list[Facet] = []
    ax, ay, az = abs(nx), abs(ny), abs(nz)
    for one in found:
        cx, cy, cz, ex, ey, ez = one.box
        off, reach = cx * nx + cy * ny + cz * nz - d, ex * ax + ey * ay + ez * az
        if off - reach > _THIN:  # its box decides: most do not come near the plane
            front.append(one)
            continue
        if off + reach < -_THIN:
            back.append(one)
            continue
        heights = [x * nx + y * ny + z * nz - d for x, y, z in one.points]
        lo, hi = min(heights), max(heights)
        if lo >= -_THIN:
            (tree.inside if hi <= _THIN else front).append(one)
        elif hi <= _THIN:
            back.append(one)
        else:
            near, far = _split(one, [0.0 if -_THIN <= h <= _THIN else h for h in heights])
            front.append(near)
            back.append(far)
    tree.front = build_tree(front, like.front if like is not None else None)
    tree.back = build_tree(back, like.back if like is not None else None)
    tree.fragments = len(tree.inside) + sum(part.fragments for part in (tree.front, tree.back) if part is not None)
    return tree


def paint_order(tree: PaintTree | None, eye: Vec) -> list[Facet]:
    """Facets from far to near as seen from `eye` (mm). Sheets in one plane come in node order, turned with the side
    they are seen from, so that what is stacked later is seen from its own side."""
    ordered: list[Facet] = []
    behind: list[tuple[PaintTree, bool]] = []
    ex, ey, ez = eye
    node = tree
    while node is not None or behind:
        while node is not None:  # down the far sides first
            nx, ny, nz = node.normal
            ahead = ex * nx + ey * ny + ez * nz > node.distance
            behind.append((node, ahead))
            node = node.back if ahead else node.front
        here, ahead = behind.pop()
        ordered += here.inside if ahead else here.inside[::-1]
        node = here.front if ahead else here.back
    return ordered
