"""Closing tongue: a strip glued behind a shut book that comes around an edge and closes on the other side."""

from __future__ import annotations

import math
from collections.abc import Mapping

from yawning_lantern.assembly import Clasp, Instance, Need, Part, Room, Root, Span, Swing, Term, span, uses
from yawning_lantern.errors import FaceError
from yawning_lantern.measure import inches
from yawning_lantern.pattern import Fold, Panel, ScoreFlag, build_piece
from yawning_lantern.structures.kit import over_edge
from yawning_lantern.structures.kit.corners import corner_gaps, radius_of, rounded, with_corners
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes
from yawning_lantern.structures.kit.lying import Lying, face_mount, fit_gap, row, usual_length
from yawning_lantern.structures.kit.shell import lever_term
from yawning_lantern.structures.kit.solving import face_room, length_of, sheet_gap

BREADTH = inches(1)
FOOT = inches(1)
TIP = inches(1.5)
PLAY = inches(1 / 32)
"""Breadth, what is glued behind, what lies on the other side, and room over the thing's thickness, mm. Common practice,
no source."""
AIR = 0.5
"""Across how much air a tip still slips under a band, mm. From memory."""


class ClosingTongue(Lying):
    """Foot, edge and tip: the edge is as long as the shut thing is thick, with what is on both sides. What else is on
    the face is glued over its foot."""

    id = "closing-tongue"
    name = "Closing tongue"
    about = "A strip glued behind a book that comes around its edge: tucked in in front, or held by a fastener."
    shelf = "Closures and hinges"
    headline = ("breadth", "through", "tip")
    footprint = ("breadth", "foot")
    faces = (("tip", "tip, outside"), ("inside", "tip, inside"))
    parameters = (
        *over_edge.PARAMETERS,
        Parameter("breadth", "Breadth", "length", "Of the tongue.", "Tongue", 6.0, 150.0, default=BREADTH),
        Parameter("foot", "Glued foot", "length", "From the edge inwards.", "Tongue", 6.0, default=FOOT),
        Parameter("tip", "Tip", "length", "What lies on the other side.", "Tongue", 6.0, default=TIP),
        Parameter("play", "Play", "length", "Room over the thing's thickness.", "Tongue", 0.0, 10.0, default=PLAY),
        Parameter("rounded", "Rounded corners", "length", "Radius at its end.", "Tongue", most=50.0),
        Parameter("through", "Around the edge", "length", "Between its two scores.", "Tongue", derived=True),
    )  # fmt: skip

    def size(self, situation: Situation) -> dict[str, Sized]:
        """Foot and tip from the face, the edge from the thing's thickness and what is under the tip.

        Raises FaceError on a face that no edge of a shut thing is behind."""
        s, given = situation, situation.given
        if s.room is not None and s.room.through is None:
            raise FaceError(
                "It goes around an edge of what shuts, and this face has none behind it.", s.name,
                "Put it on the outside of a book or cover that lies on nothing.",
            )  # fmt: skip
        across, along = over_edge.clear_by(s)
        tip = usual_length(s, "tip", TIP, along)
        sizes = {**over_edge.thing(s, tip.length), "tip": tip}
        sizes["breadth"] = usual_length(s, "breadth", BREADTH, across)
        sizes["foot"] = usual_length(s, "foot", FOOT, along)
        usual = PLAY / 2 if s.on("inside") else PLAY  # a fastening holds over less air than a hand needs to tuck
        sizes["play"] = length_of(given, "play", max(usual, s.paper.caliper))
        sizes["rounded"] = radius_of(s, "tip", tip.length, sizes["breadth"].length)
        thick = sizes["over-thick"].length + s.bulk_on("inside") + s.glue + s.paper.caliper
        sizes["through"] = Sized(thick + sizes["play"].length, "auto")
        return sizes

    def thickness(self, s: Situation, sizes: Sizes) -> Span:
        """Its foot."""
        return span("foot", s.paper.caliper)

    def need(self, situation: Situation, sizes: Sizes) -> Need:
        """Its breadth along the edge: inwards its foot has a fit of its own, the other way it goes over the edge."""
        s, height = situation, self.thickness(situation, sizes).merged()
        breadth = span(self.name.lower(), sizes["breadth"].length / 2, s.element, "breadth", 0.5)
        sides = over_edge.along(over_edge.edge_of(s, sizes), breadth) if s.room is not None else ()
        return Need("onto", uses.PLACE, sides, caliper=s.paper.caliper, height=height, under=True)

    def rooms(self, situation: Situation, sizes: Sizes) -> dict[str, Room]:
        """Both faces of the tip."""
        s = situation
        tip, wide = sizes["tip"].length, sizes["breadth"].length
        face = face_room(tip, wide, s.paper.caliper, s.element, ("tip", "breadth"), "tip")
        face = with_corners(face, s, sizes["rounded"].length)
        return {"tip": face, "inside": face}

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        """One strip with two scores, folded over the edge."""
        s, e, t = situation, situation.element, situation.paper.caliper
        foot, through, tip, wide, radius = (
            sizes[n].length for n in ("foot", "through", "tip", "breadth", "rounded")
        )  # fmt: skip
        edge = over_edge.edge_of(s, sizes)
        panels = row((("foot", "glued foot", foot), ("edge", "around the edge", through)), 0.0, wide)
        x0, x1 = foot + through, foot + through + tip
        panels.append(Panel("tip", "tip", rounded(x0, 0.0, x1, wide, radius, ("br", "tr"))))
        folds = [Fold("foot", "edge", -math.pi / 2), Fold("edge", "tip", -math.pi / 2)]
        piece = build_piece(
            f"{e}.tongue", s.name, s.paper, panels, folds,
            flags=(ScoreFlag("x", foot, "foot", 1.0), ScoreFlag("x", x0, "through", 1.0)),
            note="Score it last, around the finished thing: only then is the bulk known.",
        )  # fmt: skip
        off = sizes["play"].length / 2 + t / 2  # its middle goes past the edge so far
        root = Root("foot", (foot - off - edge.reach, wide / 2), edge.up, -1 if s.room is not None else 1)
        told = over_edge.told_thick(s, sizes, tip)
        thick = told if told is not None else sizes["over-thick"].length
        around = span("around the edge", through, e, "play").plus(
            Term("sheet", -t), Term("thing, shut", -thick), Term("glue", -s.glue),
            Term("under the tip", -s.bulk_on("inside")),
        )  # fmt: skip
        gaps = [
            fit_gap(s, uses.BAND, (f"{s.name}, around the edge", "what it closes"), around, (0.0, inches(1 / 8))),
            *corner_gaps(s, radius),
            sheet_gap(e, s.name, s.paper, piece.size, (
                (lever_term("foot", foot, e, "foot"), lever_term("around the edge", through, e, "play"),
                 lever_term("tip", tip, e, "tip")),
                (lever_term("breadth", wide, e, "breadth"),),
            )),
        ]  # fmt: skip
        over = piece.panel("tip")
        shape = (x0, 0.0, x1, wide)
        mounts = (
            face_mount("tip", "tip, outside", "tongue", over, 1, t, shape=shape),
            face_mount("inside", "tip, inside", "tongue", over, -1, t, shape=shape),
        )
        if s.room is not None:
            foot_of = (f"{s.name}, foot", "the face it is on")
            deep = span("face", over_edge.across(s.room, edge)).plus(lever_term("foot", -foot, e, "foot", -1.0))
            gaps.append(fit_gap(s, uses.PLACE, foot_of, deep))
        opens = Swing("open", f"{s.name} opens", (("tongue", "foot/edge", 0.0), ("tongue", "edge/tip", 0.0)))
        clasp = None if s.on("inside") else Clasp("tongue", "tip", -1, AIR + sizes["play"].length, tucks=wide)
        return Part(
            e, s.name, (piece,), (Instance("tongue", piece.id, root),), mounts, (opens,), tuple(gaps), clasp=clasp,
            under=True,
        )  # fmt: skip


FAMILY = ClosingTongue()
