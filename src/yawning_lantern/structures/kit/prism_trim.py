"""Walls in a ring: how strips share them, what of a foot is glued, and what dresses them outside: strips folded over
corners, and a skirting along the foot.

A sheet that lies on another and folds around the same corner turns about the same middle: its arc is longer by the
distance of the two times the angle, one half on either side of the score."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from itertools import pairwise

from msgspec import Struct

from yawning_lantern.assembly import Attach, Instance, Joint, Root
from yawning_lantern.pattern import Fold, Panel, Piece, Point, build_piece, rectangle
from yawning_lantern.structures.kit.declare import Situation

Trim = tuple[list[Piece], list[Instance], list[Joint]]
"""Pieces, their copies, and how they are glued."""


class Ring(Struct, frozen=True):
    """Walls in a ring: each turns by `theta` (radians) from the one before, is `side` wide and `height` high, its foot
    at `foot` in its strip, mm; `groups` are the walls of each strip, `where` the instance that each wall is in."""

    theta: float
    side: float
    height: float
    foot: float
    groups: Sequence[Sequence[int]]
    where: Mapping[int, str]

    def begins(self, wall: int) -> float:
        """Where a wall begins in its strip, mm."""
        group = next(one for one in self.groups if wall in one)
        return group.index(wall) * self.side

    def after(self, wall: int) -> int:
        """The next wall."""
        return wall % sum(map(len, self.groups)) + 1


def even_groups(walls: int, strips: int) -> list[list[int]]:
    """Walls, from 1, in so many strips, as even as can be."""
    numbers = iter(range(1, walls + 1))
    return [[next(numbers) for _ in range(walls // strips + (k < walls % strips))] for k in range(strips)]


def glued_foot(foot: Panel, beyond: float) -> tuple[Point, ...]:
    """What of a foot, its score last, lies under a base whose edge is `beyond` mm inwards of that score."""
    a, b, c, d = foot.outline
    share = 1.0 - min(0.9, max(0.0, beyond) / (d[1] - a[1]))
    near, far = ((p[0] + share * (q[0] - p[0]), p[1] + share * (q[1] - p[1])) for p, q in ((b, c), (a, d)))
    return a, b, near, far


def _apart(s: Situation) -> float:
    """From a wall's mid-surface to that of what is glued on it, mm."""
    return s.paper.caliper + s.glue


def corner_strips(s: Situation, ring: Ring, leg: float, low: float) -> Trim:
    """A strip over every corner, `leg` mm on either wall, from `low` over the walls' feet up."""
    apart, high = _apart(s), ring.height - low
    panels = [
        Panel("leg-1", "leg", rectangle(0, 0, leg, high)),
        Panel("leg-2", "leg", rectangle(leg, 0, 2 * leg, high)),
    ]
    count = sum(map(len, ring.groups))
    piece = build_piece(
        f"{s.element}.corner", f"{s.name}, corner strip", s.paper, panels,
        [Fold("leg-1", "leg-2", -ring.theta, wrap=2 * apart)], quantity=count,
        note="Score it in its middle; fold it over a corner when the ring is closed.",
    )  # fmt: skip
    instances, joints = [], []
    for wall in range(1, count + 1):
        edge = ring.begins(wall) + ring.side
        own = leg - ring.theta / 2 * apart  # its bend is longer than the walls'
        on = Attach(ring.where[wall], f"wall-{wall}", (edge, ring.foot + low + high / 2), (0.0, 1.0), 1, apart)
        name, act = f"corner-{wall}", f"corner strip {wall}"
        instances.append(Instance(name, piece.id, Root("leg-1", (own, high / 2)), on, limp=True))
        joints.append(Joint((name, "leg-1"), (ring.where[wall], f"wall-{wall}"), act=act))
        after = ring.after(wall)
        joints.append(Joint((name, "leg-2"), (ring.where[after], f"wall-{after}"), act=act))
    return [piece], instances, joints


def skirting(s: Situation, ring: Ring, high: float) -> Trim:
    """A band along the foot of every strip of walls, `high` mm: laid around it corner by corner."""
    apart = _apart(s)
    longer = ring.theta * apart
    pieces, instances, joints = [], [], []
    for k, walls in enumerate(ring.groups, 1):
        x, panels, places = 0.0, [], []
        for j, wall in enumerate(walls):
            wide = ring.side + longer * ((j > 0) + (j < len(walls) - 1)) / 2
            panels.append(Panel(f"skirt-{wall}", f"wall {wall}", rectangle(x, 0, x + wide, high)))
            places.append(x)
            x += wide
        folds = [Fold(f"skirt-{a}", f"skirt-{b}", -ring.theta, wrap=2 * apart) for a, b in pairwise(walls)]
        piece = build_piece(f"{s.element}.skirt-{k}", f"{s.name}, skirting {k}", s.paper, panels, folds,
                            note="Along the foot, when the ring is closed.")  # fmt: skip
        first = walls[0]
        edge = ring.begins(first) + ring.side  # the end of the first wall; the band's own bend is longer
        own = panels[0].outline[1][0] - (longer / 2 if len(walls) > 1 else 0.0)
        on = Attach(ring.where[first], f"wall-{first}", (edge, ring.foot + high / 2), (0.0, 1.0), 1, apart)
        name = f"skirt-{k}"
        pieces.append(piece)
        instances.append(Instance(name, piece.id, Root(f"skirt-{first}", (own, high / 2)), on, limp=True))
        joints += [
            Joint((name, f"skirt-{wall}"), (ring.where[wall], f"wall-{wall}"), act=f"skirting {k}") for wall in walls
        ]
    return pieces, instances, joints
