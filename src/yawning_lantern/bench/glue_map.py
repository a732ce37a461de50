"""Where glue goes on a panel, edge by edge: shut by a fold, glued, or open."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Literal

from msgspec import Struct

from yawning_lantern.assembly import Assembly, Bonded
from yawning_lantern.assembly.joined import Frame
from yawning_lantern.bench.scores import Face
from yawning_lantern.fold import apply
from yawning_lantern.pattern import Point
from yawning_lantern.pattern.build import lies_on
from yawning_lantern.pattern.convex import least_width

Shut = Literal["fold", "glue", "open"]
NEAR = 2.5
"""Glue that comes as near as this to an edge shuts it, mm."""
OFF_FOLD = 2.0
"""How far wet glue is kept off folds and open edges, mm: its bead is as wide. Common practice, no source."""


class EdgeGlue(Struct, frozen=True):
    """One edge of a panel, in its piece, mm, and what shuts it."""

    start: Point
    end: Point
    shut: Shut


class GlueMap(Struct, frozen=True):
    """A joint as glue is put on: on which node and which of its faces, the outlines that get it, mm, the edges round
    about, and how wide the narrowest of the outlines is, mm."""

    node: int
    face: Face
    spots: tuple[tuple[Point, ...], ...]
    edges: tuple[EdgeGlue, ...]
    width: float

    @property
    def inner(self) -> bool:
        """Whether glue runs round the middle of a panel: what lies within it is a pocket."""
        return len(self.spots) > 1

    @property
    def open_edges(self) -> int:
        """How many edges stay open."""
        return sum(edge.shut == "open" for edge in self.edges)


def glued_face(assembly: Assembly, frames: Sequence[Frame], bonded: Bonded) -> Face:
    """The face of what is brought that looks at its mate when all is shut: glue goes there."""
    a, b = frames[bonded.a], frames[bonded.b]
    outline = assembly.nodes[bonded.b].panel.outline
    points = [apply(b, x, y) for x, y in outline]
    high = sum((p[0] - a[9]) * a[6] + (p[1] - a[10]) * a[7] + (p[2] - a[11]) * a[8] for p in points)
    return "front" if high > 0 else "back"


def glue_map(assembly: Assembly, bonded: Bonded, frames: Sequence[Frame]) -> GlueMap:
    """Where the glue of a joint goes on what is brought; `frames` are those of the shut thing."""
    node = assembly.nodes[bonded.a]
    outline = node.panel.outline
    spots = bonded.joint.spots or (outline,)
    edges = []
    for k, start in enumerate(outline):
        end = outline[(k + 1) % len(outline)]
        edges.append(EdgeGlue(start, end, _shut(bonded, assembly, start, end, spots)))
    return GlueMap(bonded.a, glued_face(assembly, frames, bonded), spots, tuple(edges), min(map(least_width, spots)))


def _shut(bonded: Bonded, assembly: Assembly, start: Point, end: Point, spots: tuple[tuple[Point, ...], ...]) -> Shut:
    """What shuts an edge: a crease that folds there, glue along most of it, or nothing."""
    node = assembly.nodes[bonded.a]
    long = math.dist(start, end)
    for crease in node.piece.creases:
        if node.panel.name in (crease.a, crease.b) and abs(crease.angle) > 1e-6:
            part = lies_on((start, end), (crease.start, crease.end))
            if part is not None and math.dist(*part) > long / 2:
                return "fold"
    ux, uy = (end[0] - start[0]) / long, (end[1] - start[1]) / long
    glued = 0.0
    for spot in spots:
        near = [
            (p[0] - start[0]) * ux + (p[1] - start[1]) * uy
            for p in spot
            if abs((p[0] - start[0]) * uy - (p[1] - start[1]) * ux) < NEAR
        ]
        if len(near) > 1:
            glued += min(max(near), long) - max(min(near), 0.0)
    return "glue" if glued > 0.6 * long else "open"
