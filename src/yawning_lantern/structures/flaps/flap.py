"""Flap: one panel that lifts, its end folded in half behind it or not, or two that meet in the middle."""

from __future__ import annotations

import math
from collections.abc import Mapping

from yawning_lantern.assembly import (
    HOST,
    Attach,
    Instance,
    Joint,
    Part,
    Room,
    Root,
    Span,
    Swing,
    Term,
    span,
    uses,
)
from yawning_lantern.measure import inches
from yawning_lantern.pattern import Fold, Panel, build_piece, rectangle
from yawning_lantern.structures.kit.corners import corner_gaps, radius_of, rounded, with_corners
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes
from yawning_lantern.structures.kit.lying import (
    SIZE_PARAMETERS,
    TAB,
    Lying,
    extent,
    face_mount,
    fit_gap,
    usual_length,
)
from yawning_lantern.structures.kit.shell import lever_term
from yawning_lantern.structures.kit.solving import face_room, positive, sheet_gap, word_of

CLEAR = inches(1 / 16)
"""What a folded half leaves free beside the tab, mm. Common practice, no source."""


class Flap(Lying):
    """Hinged on a tab that is folded behind it and glued; `double` leaves meet in the middle like shutters."""

    id = "flap"
    name = "Flap"
    about = "A panel that lifts on a hinge tab, or two that open like shutters."
    shelf = "Flaps"
    headline = ("width", "height")
    faces = (
        ("front", "front of the flap"), ("inside", "inside of the flap"),
        ("front-2", "front of the second leaf"), ("inside-2", "inside of the second leaf"),
        ("half-front", "folded half, shows when it is lifted"), ("half-inside", "folded half, inside"),
    )  # fmt: skip
    parameters = (
        *SIZE_PARAMETERS,
        Parameter("leaves", "Leaves", "word", "One that lifts, or two that meet.", "Hinge", words=("single", "double"),
                  default="single"),
        Parameter("tab", "Tab", "length", "Folded behind and glued.", "Hinge", 3.0, default=TAB),
        Parameter("fold", "Folded", "word", "Single leaves only: its end folded in half behind it, to be let down.",
                  "Hinge", words=("none", "half"), default="none"),
        Parameter("rounded", "Rounded corners", "length", "Radius of the free corners.", "Hinge", most=50.0),
    )  # fmt: skip

    def size(self, situation: Situation) -> dict[str, Sized]:
        """Leaves and tab. Raises ParameterError where nothing is left to fold."""
        s = situation
        sizes = {
            "width": extent(s, "width", 0, inches(3)),
            "height": extent(s, "height", 1, inches(3)),
            "leaves": word_of(s.given, "leaves", "single"),
            "fold": word_of(s.given, "fold", "none"),
        }
        leaf = sizes["width"].length / 2 if sizes["leaves"].value == "double" else sizes["height"].length
        sizes["tab"] = usual_length(s, "tab", TAB, leaf * 0.8, scored=True)
        if self._halved(sizes):
            positive(self._half(sizes), "folded half", "Make the flap higher or its tab narrower.")
        positive(leaf - sizes["tab"].length, "flap beyond its tab", "Make the flap larger or its tab narrower.")
        along, out = self._leaf(sizes)
        sizes["rounded"] = radius_of(s, "leaf", along, self._half(sizes) if self._halved(sizes) else out)
        return sizes

    @staticmethod
    def _halved(sizes: Sizes) -> bool:
        return sizes["fold"].value == "half" and sizes["leaves"].value == "single"

    @staticmethod
    def _half(sizes: Sizes) -> float:
        """How long the folded half is: it lies beside the tab, mm."""
        return sizes["height"].length - sizes["tab"].length - CLEAR

    @staticmethod
    def _within(s: Situation) -> float:
        """What lies between the flap and its folded half, mm."""
        return s.bulk_on("inside") + s.bulk_on("half-inside")

    def thickness(self, s: Situation, sizes: Sizes) -> Span:
        """Tab, leaf, and what is on its faces."""
        if self._halved(sizes):
            bulk = s.bulk_on("front") + self._within(s) + s.bulk_on("half-front")
            return span("tab and flap", 2 * s.paper.caliper).plus(Term("bulk on the flap", bulk))
        bulk = max(s.bulk_on("front") + s.bulk_on("inside"), s.bulk_on("front-2") + s.bulk_on("inside-2"))
        return span("tab and flap", 2 * s.paper.caliper).plus(Term("bulk on the flap", bulk))

    def _leaf(self, sizes: Sizes) -> tuple[float, float]:
        """Along the hinge, and hinge to free edge, mm."""
        w, h = sizes["width"].length, sizes["height"].length
        return (h, w / 2) if sizes["leaves"].value == "double" else (w, h)

    def rooms(self, situation: Situation, sizes: Sizes) -> dict[str, Room]:
        """Both faces of each leaf."""
        along, out = self._leaf(sizes)
        double = sizes["leaves"].value == "double"
        w, h = (out, along) if double else (along, out)
        face = face_room(w, h, situation.paper.caliper, situation.element, ("width", "height"), "flap")
        radius = sizes["rounded"].length
        if not self._halved(sizes):
            face = with_corners(face, situation, radius)
        names = [f for f, _ in self.faces][: 4 if double else 2]
        rooms = dict.fromkeys(names, face)
        if self._halved(sizes):
            s, low = situation, self._half(sizes)
            half = face_room(along, low, s.paper.caliper, s.element, ("width", "height"), "folded half")
            rooms |= dict.fromkeys(("half-front", "half-inside"), with_corners(half, s, radius))
        return rooms

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        """One leaf hinged at its head, or two hinged at the sides."""
        s, e, t = situation, situation.element, situation.paper.caliper
        along, out = self._leaf(sizes)
        tab, double = sizes["tab"].length, sizes["leaves"].value == "double"
        halved = self._halved(sizes)
        half = self._half(sizes) if halved else 0.0
        radius = sizes["rounded"].length
        shape = rectangle(0, 0, along, out) if halved else rounded(0, 0, along, out, radius, ("bl", "br"))
        panels = [Panel("flap", "flap", shape), Panel("tab", "tab", rectangle(0, out, along, out + tab))]
        wrap = s.bulk_on("inside") if not halved else self._within(s) + s.bulk_on("half-front")
        folds = [Fold("tab", "flap", -math.pi, wrap=wrap)]
        if halved:
            panels.append(Panel("half", "folded half", rounded(0, -half, along, 0, radius, ("bl", "br"))))
            folds.append(Fold("flap", "half", -math.pi, wrap=self._within(s)))
        piece = build_piece(
            f"{e}.flap", s.name, s.paper, panels, folds,
            quantity=2 if double else 1, note="Fold the tab behind and glue it.",
        )  # fmt: skip
        flap = piece.panel("flap")
        opened = -0.25 * math.pi
        along_by, out_by = ("height", "width") if double else ("width", "height")
        terms = (
            (lever_term("along the hinge", along, e, along_by),),
            (
                lever_term("leaf", out, e, out_by, 0.5 if double else 1.0),
                lever_term("tab and folded half", out - CLEAR, e, "height")
                if halved
                else lever_term("tab", tab, e, "tab"),
            ),
        )
        gaps = [
            *corner_gaps(s, sizes["rounded"].length),
            sheet_gap(e, s.name, s.paper, piece.size, terms),
            fit_gap(
                s,
                uses.SPARE,
                (f"{s.name}, tab", "leaf that hides it"),
                span("leaf", out, e, out_by, 0.5 if double else 1.0) - span("tab", tab, e, "tab"),
            ),
        ]
        if not double:
            root = Root("tab", (along / 2, 1.5 * out), (0.0, -1.0), 1)
            mounts = [
                face_mount("front", "front of the flap", "flap", flap, 1, t),
                face_mount("inside", "inside of the flap", "flap", flap, -1, t, (0.0, -1.0)),
            ]
            swings = [Swing("lift", f"{s.name} lifts", (("flap", "tab/flap", opened),))]
            if halved:
                lower = piece.panel("half")
                mounts += [
                    face_mount("half-front", "folded half, shows when it is lifted", "flap", lower, 1, t),
                    face_mount("half-inside", "folded half, inside", "flap", lower, -1, t, (0.0, -1.0)),
                ]
                swings.append(Swing("let-down", f"half of {s.name} unfolds", (("flap", "flap/half", -math.pi / 8),)))
            joints = (Joint(("flap", "half"), ("flap", "flap"), "free"),) if halved else ()
            return Part(
                e, s.name, (piece,), (Instance("flap", piece.id, root),), tuple(mounts), tuple(swings), tuple(gaps),
                joints=joints,
            )  # fmt: skip
        # the left leaf hinges at the left: seen from the front its own head points left
        left = Root("tab", (along / 2, 2 * out), (1.0, 0.0), 1)
        right = Root("tab", (along / 2, out), (0.0, -1.0), 1)
        on = Attach("flap", "tab", (along / 2, 3 * out), (0.0, 1.0), -1, 0.0)
        instances = [
            Instance("flap", piece.id, left),
            Instance("flap-2", piece.id, right, on, wraps=(("tab/flap", s.bulk_on("inside-2")),)),
        ]
        mounts = []
        for name, up in (("flap", 1.0), ("flap-2", -1.0)):
            tail = "" if name == "flap" else "-2"
            mounts.append(face_mount(f"front{tail}", "front of the leaf", name, flap, 1, t, (up, 0.0)))
            mounts.append(face_mount(f"inside{tail}", "inside of the leaf", name, flap, -1, t, (up, 0.0)))
        leaves = tuple(
            Swing(f"open-{k}", f"leaf {k} of {s.name} opens", ((name, "tab/flap", opened),))
            for k, name in enumerate(("flap", "flap-2"), 1)
        )
        return Part(
            e,
            s.name,
            (piece,),
            tuple(instances),
            tuple(mounts),
            leaves,
            tuple(gaps),
            joints=(Joint(("flap-2", "tab"), ("flap", "tab"), "free"), Joint(("flap-2", "tab"), HOST)),
        )


FAMILY = Flap()
