"""Hinge strip: two leaves with a double score, for a hinge that closes over what lies on both sides of it."""

from __future__ import annotations

import math
from collections.abc import Mapping

from yawning_lantern.assembly import Instance, Part, Room, Root, Span, Swing, Term, span, uses
from yawning_lantern.measure import inches
from yawning_lantern.pattern import Fold, ScoreFlag, build_piece
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes
from yawning_lantern.structures.kit.lying import Lying, bulks, extent, face_mount, fit_gap, row
from yawning_lantern.structures.kit.shell import FOLD_SHIFT, lever_term
from yawning_lantern.structures.kit.solving import face_room, length_of, positive, sheet_gap, up_to_cut


class HingeStrip(Lying):
    """Leaves that close over bulks b1 and b2 need scores b1 + b2 + t apart."""

    id = "hinge-strip"
    name = "Hinge strip"
    about = "Two leaves with a double score: a hinge that shuts over contents without springing open."
    shelf = "Closures and hinges"
    footprint = ("leaf", "length")
    headline = ("leaf", "length", "spine")
    faces = (("over", "top leaf, outside"), ("inside", "top leaf, inside"), ("under", "lower leaf, inside"))
    parameters = (
        Parameter("length", "Length", "length", "Along the hinge.", least=6.0),
        Parameter("leaf", "Leaf", "length", "From a score to the free edge.", least=3.0),
        Parameter("bulk-1", "Bulk on the first leaf", "length", "What lies inside on one leaf.", "Bulk", most=60.0),
        Parameter("bulk-2", "Bulk on the second leaf", "length", "What lies inside on the other.", "Bulk", most=60.0),
        Parameter("spine", "Scores apart", "length", "Between the two scores.", "Bulk", derived=True),
    )

    def size(self, situation: Situation) -> dict[str, Sized]:
        """Leaves and the distance of the scores. Raises ParameterError where nothing is left to fold."""
        s = situation
        sizes = {"length": extent(s, "length", 1, inches(4)), "leaf": extent(s, "leaf", 0, inches(1))}
        for name, face in (("bulk-1", "under"), ("bulk-2", "inside")):
            sizes[name] = length_of(s.given, name, s.bulk_on(face), "auto")
        exact = sizes["bulk-1"].length + sizes["bulk-2"].length + s.paper.caliper
        sizes["spine"] = up_to_cut(s, exact, "auto")
        positive(sizes["leaf"].length, "leaf", "Make it wider.")
        return sizes

    def thickness(self, s: Situation, sizes: Sizes) -> Span:
        """Both leaves, what the scores leave between them, and what is on top."""
        between = span("scores apart", sizes["spine"].length, s.element, "bulk-1")
        return between.plus(
            Term("sheet and bends", s.paper.caliper * (1 + 2 * FOLD_SHIFT)), *bulks(s, "bulk on top", "over")
        )

    def beyond(self, s: Situation, sizes: Sizes) -> tuple[float, float]:
        """The spine stands out by its bend and half a sheet."""
        return s.paper.caliper * (0.5 + FOLD_SHIFT), 0.0

    def rooms(self, situation: Situation, sizes: Sizes) -> dict[str, Room]:
        """The leaves' faces."""
        face = face_room(
            sizes["leaf"].length, sizes["length"].length, situation.paper.caliper, situation.element,
            ("leaf", "length"), "leaf",
        )  # fmt: skip
        return {name: face for name, _ in self.faces}

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        """One strip: the lower leaf lies on the host, hinged at its left."""
        s, e, t = situation, situation.element, situation.paper.caliper
        leaf, length, spine = (sizes[n].length for n in ("leaf", "length", "spine"))
        panels = row(
            (("upper", "upper leaf", leaf), ("spine", "spine", spine), ("lower", "lower leaf", leaf)), 0.0, length
        )
        folds = [Fold("lower", "spine", math.pi / 2), Fold("spine", "upper", math.pi / 2)]
        flags = (ScoreFlag("x", leaf, "leaf", 1.0),)
        piece = build_piece(f"{e}.hinge", s.name, s.paper, panels, folds, flags=flags, note="Double score.")
        left = span("scores apart", spine).plus(
            Term("bulk on both leaves", -sizes["bulk-1"].length - sizes["bulk-2"].length), Term("sheet", -t)
        )
        gaps = (
            fit_gap(s, uses.SPINE, (s.name, "what it closes over"), left, (0.0, inches(1 / 16))),
            sheet_gap(e, s.name, s.paper, piece.size, (
                (lever_term("two leaves", 2 * leaf, e, "leaf", 2.0), Term("spine", spine)),
                (lever_term("length", length, e, "length"),),
            )),
        )  # fmt: skip
        root = Root("lower", (1.5 * leaf + spine, length / 2))
        mounts = (
            face_mount("over", "top leaf, outside", "hinge", piece.panel("upper"), -1, t),
            face_mount("inside", "top leaf, inside", "hinge", piece.panel("upper"), 1, t),
            face_mount("under", "lower leaf, inside", "hinge", piece.panel("lower"), 1, t),
        )
        swing = Swing("open", f"{s.name} opens", (("hinge", "lower/spine", 0.0), ("hinge", "spine/upper", 0.0)))
        return Part(e, s.name, (piece,), (Instance("hinge", piece.id, root),), mounts, (swing,), gaps)


FAMILY = HingeStrip()
