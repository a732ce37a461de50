"""Strap: a strip fixed at both ends that lets a panel fall so far and no further."""

from __future__ import annotations

import math
from collections.abc import Mapping

from yawning_lantern.assembly import HOST, Instance, Joint, Mount, Part, Room, Root, Span, Term, span, uses
from yawning_lantern.errors import ParameterError
from yawning_lantern.measure import inches, told
from yawning_lantern.pattern import Fold, build_piece
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes
from yawning_lantern.structures.kit.lying import Lying, count_of, face_mount, fit_gap, row, usual_length
from yawning_lantern.structures.kit.reach import strap_length
from yawning_lantern.structures.kit.shell import lever_term
from yawning_lantern.structures.kit.solving import face_room, length_of, sheet_gap, up_to_cut

FAR = inches(1.5)
"""From the fold to where it is glued, mm. Common practice, no source."""
_LABEL = 6.0  # mm: less is no place for a label


class Strap(Lying):
    """Free length by the law of cosines from where it is fixed and how far the panel may fall."""

    id = "strap"
    name = "Strap"
    about = "A narrow strip fixed at both ends: it stops a falling panel at its angle, and folds up when that is shut."
    shelf = "Closures and hinges"
    footprint = ("breadth", "lying")
    headline = ("breadth", "free")
    faces = (("strap", "on the strap"),)
    parameters = (
        Parameter("breadth", "Breadth", "length", "Of the strap.", "Strap", 2.0, 60.0, default=inches(3 / 8)),
        Parameter("end", "Glued end", "length", "At each end.", "Strap", 3.0, 60.0, default=inches(1 / 2)),
        Parameter("free", "Free length", "length", "Between the glued ends.", "Strap", 3.0),
        Parameter("from", "Fixed up the standing panel", "length", "From the hinge.", "Fall", 3.0, default=inches(1.5)),
        Parameter("to", "Fixed up the falling panel", "length", "From the hinge.", "Fall", 3.0, default=inches(1.5)),
        Parameter("drop", "Falls by", "count", "How far the panel may fall, degrees.", "Fall", 20, 180, default=90),
        Parameter("stops", "Stops at", "count", "Where this strap stops it, degrees.", "Fall", derived=True),
        Parameter("lying", "Lies folded", "length", "How much of the face it takes when shut.", "Strap", derived=True),
    )

    def size(self, situation: Situation) -> dict[str, Sized]:
        """Free length from the fall, or the fall from the length. Raises ParameterError where it stops nothing."""
        s, given = situation, situation.given
        across, along = (s.room.clear(k) if s.room is not None else 1000.0 for k in (0, 1))
        sizes = {
            "breadth": usual_length(s, "breadth", inches(3 / 8), across),
            "end": usual_length(s, "end", inches(1 / 2), along / 4),
            "from": usual_length(s, "from", FAR, along * 0.8),
            "to": usual_length(s, "to", FAR, along * 0.8),
            "drop": count_of(s, "drop", 90),
        }
        a, b = sizes["from"].length, sizes["to"].length
        needed = strap_length(a, b, math.radians(sizes["drop"].length))
        sizes["free"] = length_of(given, "free", up_to_cut(s, needed, "auto").length, "auto")
        free = sizes["free"].length
        if free < abs(a - b) - 1e-6:
            raise ParameterError(
                "The strap is shorter than its ends are apart when shut.", "Free length",
                f"Make it {told(abs(a - b))} at least, or fix both ends equally far from the hinge.",
            )  # fmt: skip
        cosine = (a * a + b * b - free * free) / (2 * a * b)
        stops = 180.0 if cosine <= -1 else math.degrees(math.acos(min(1.0, cosine)))
        sizes["stops"] = Sized(round(stops), "auto")
        sizes["lying"] = Sized(sizes["end"].length + max(free / 2, sizes["end"].length), "auto")
        return sizes

    def thickness(self, s: Situation, sizes: Sizes) -> Span:
        """Folded on itself: its other end lies beside what is on it."""
        t = s.paper.caliper
        above = Term("other end, or bulk on the strap", max(t, s.bulk_on("strap")))
        return span("strap, folded", 2 * t).plus(above, Term("glue", s.glue))

    def rooms(self, situation: Situation, sizes: Sizes) -> dict[str, Room]:
        """The half of it that lies uppermost, beside the other end, where that leaves any."""
        s, free = situation, sizes["free"].length / 2 - sizes["end"].length
        if free < _LABEL:
            return {}
        face = face_room(sizes["breadth"].length, free, s.paper.caliper, s.element, ("breadth", "free"), "strap",
                         (1.0, 0.5))  # fmt: skip
        return {"strap": face}

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        """One strip with its fold in the middle."""
        s, e = situation, situation.element
        w, end, free = (sizes[n].length for n in ("breadth", "end", "free"))
        panels = row(
            (
                ("end-1", "glued end", end),
                ("half-1", "strap", free / 2),
                ("half-2", "strap", free / 2),
                ("end-2", "other end", end),
            ),
            0.0,
            w,
            "y",
        )
        folds = [Fold("end-1", "half-1", 0.0), Fold("half-1", "half-2", math.pi), Fold("half-2", "end-2", -math.pi)]
        piece = build_piece(
            f"{e}.strap", s.name, s.paper, panels, folds, note="Fix the other end when all else is dry."
        )
        a, b = sizes["from"].length, sizes["to"].length
        needed = strap_length(a, b, math.radians(sizes["drop"].length))
        gaps = (
            fit_gap(
                s, uses.STRAP, (s.name, f"fall of {sizes['drop'].length:.0f}°"),
                span("free length", free, e, "free").plus(Term("from end to end", -needed)), (0.0, inches(1 / 8)),
            ),
            sheet_gap(e, s.name, s.paper, piece.size, (
                (lever_term("breadth", w, e, "breadth"),),
                (lever_term("free length", free, e, "free"), lever_term("ends", 2 * end, e, "end", 2.0)),
            )),
        )  # fmt: skip
        mounts: tuple[Mount, ...] = ()
        if "strap" in rooms:
            shape = (0.0, end + free / 2, w, end + free - end)
            half = piece.panel("half-2")
            mounts = (face_mount("strap", "on the strap", "strap", half, -1, s.paper.caliper, (0.0, -1.0), shape),)
        root = Root("end-1", (w / 2, sizes["lying"].length / 2))
        return Part(
            e,
            s.name,
            (piece,),
            (Instance("strap", piece.id, root),),
            mounts,
            gaps=gaps,
            joints=(
                Joint(("strap", "half-1"), HOST, "free"),
                Joint(("strap", "half-2"), ("strap", "half-1"), "free"),
                Joint(("strap", "end-2"), ("strap", "half-2"), "free"),
                Joint(
                    ("strap", "end-2"), HOST, act="other end", label="the other end, when all else is dry", by_eye=True
                ),
            ),
        )


FAMILY = Strap()
