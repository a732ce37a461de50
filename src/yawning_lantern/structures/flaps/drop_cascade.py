"""Drop cascade: flaps on a page that stand behind one another and fall forward one by one."""

from __future__ import annotations

import math
from collections.abc import Mapping

from yawning_lantern.assembly import Instance, Part, Room, Root, Span, Term, span
from yawning_lantern.errors import ParameterError
from yawning_lantern.measure import inches, snap, told
from yawning_lantern.pattern import Panel, build_piece, rectangle
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes
from yawning_lantern.structures.kit.flaps import MOST_FLAPS, Stack, flap_faces, flap_rooms
from yawning_lantern.structures.kit.lying import LEAST, TAB, Lying, count_of, extent, face_mount, usual_length
from yawning_lantern.structures.kit.reach import STRAP_AT, fall_reach, strap_bulk, strap_length, strap_piece
from yawning_lantern.structures.kit.solving import given_length, length_of, sheet_gap


class DropCascade(Lying):
    """Flaps hinged at their feet, each a step above the last; the lowest holds the next until it falls."""

    id = "drop-cascade"
    name = "Drop cascade"
    about = "Flaps on a page, hinged at the foot: each falls forward when the one before it is let go."
    shelf = "Flaps"
    footprint = ("base-width", "base-length")
    headline = ("base-width", "base-length", "flaps")
    faces = (("base", "page, above the flaps"), *flap_faces())
    parameters = (
        Parameter("flap-width", "Flap width", "length", "Along the hinge.", "Flaps", 3.0),
        Parameter("flap-length", "Flap length", "length", "Hinge to free edge.", "Flaps", 6.0),
        Parameter("tab", "Tab", "length", "The narrow panel that is glued.", "Flaps", 3.0, default=TAB),
        Parameter("flaps", "Flaps", "count", "How many.", "Flaps", 1, MOST_FLAPS, default=3),
        Parameter("step", "Step", "length", "From hinge to hinge.", "Page", 3.0),
        Parameter("base-width", "Page width", "length", "As wide as the flaps as a rule.", "Page", 3.0),
        Parameter("base-length", "Page height", "length", "Foot to head of the page.", "Page", 6.0),
        Parameter("drop", "Falls by", "count", "How far a flap falls, degrees.", "Fall", 20, 180, default=180),
        Parameter("reach", "Reach when open", "length", "How far flaps hang below the page, or stand out before it.",
                  "Fall", derived=True),
        Parameter("strap", "Strap", "length", "Free length of the strap that stops a flap at its angle.", "Fall",
                  derived=True),
    )  # fmt: skip

    def size(self, situation: Situation) -> dict[str, Sized]:
        """Flaps, page, fall and strap. Raises ParameterError where the flaps do not fit the page."""
        s, given = situation, situation.given
        tall = given_length(given, "base-length") or (s.room.clear(1) if s.room is not None else 1000.0)
        flaps, tab = count_of(s, "flaps", 3), usual_length(s, "tab", TAB, tall / 8, scored=True)
        step = length_of(given, "step", tab.length, "auto")
        spread = (flaps.length - 1) * step.length
        length = given_length(given, "flap-length")
        needed = None if length is None else length + spread
        base = extent(s, "base-length", 1, inches(5), needed)
        if length is None:
            length = snap(base.length - spread, s.cut.grid, "down").value
        if length < 6.0 or length + spread > base.length + 1e-6:
            raise ParameterError(
                f"{flaps.length:.0f} flaps, {told(step.length)} apart, do not fit a page of {told(base.length)}.",
                "Flaps", "Take fewer flaps, a smaller step or a taller page.",
            )  # fmt: skip
        wide = given_length(given, "base-width")
        width = Sized(wide, "auto") if wide and "flap-width" not in given else extent(s, "flap-width", 0, inches(4))
        drop = count_of(s, "drop", 180)
        angle = math.radians(drop.length)
        held = STRAP_AT * length
        return {
            "flap-width": width,
            "flap-length": Sized(length, "given" if "flap-length" in given else "auto"),
            "tab": tab,
            "flaps": flaps,
            "step": step,
            "base-width": length_of(given, "base-width", width.length, width.origin),
            "base-length": base,
            "drop": drop,
            "reach": Sized(fall_reach(length, angle), "auto"),
            "strap": Sized(strap_length(held, held, angle), "auto"),
        }

    @staticmethod
    def _stack(s: Situation, sizes: Sizes) -> Stack:
        strap = strap_bulk(s) if sizes["drop"].length < 180 else 0.0
        bulk = tuple(
            (s.bulk_on(f"flap-{k + 1}-front"), s.bulk_on(f"flap-{k + 1}-inside") + strap)
            for k in range(int(sizes["flaps"].length))
        )
        b, length, step = (sizes[n].length for n in ("base-length", "flap-length", "step"))
        n = int(sizes["flaps"].length)
        return Stack(
            s.paper, s.glue, sizes["flap-width"].length, length, sizes["tab"].length, step,
            b - length - (n - 1) * step, n, bulk,
            under=max(0.0, s.bulk_on("base") - s.paper.caliper - s.glue),
        )  # fmt: skip

    def thickness(self, s: Situation, sizes: Sizes) -> Span:
        """Page, tab, and every flap with what is on it."""
        stack, t = self._stack(s, sizes), s.paper.caliper
        paper = span("page, tab and flaps", t * (2 + stack.flaps), s.element, "flaps", t)
        return paper.plus(
            Term("bulk on and under the flaps", stack.under + sum(a + b for a, b in stack.bulks)), Term("glue", s.glue)
        )

    def rooms(self, situation: Situation, sizes: Sizes) -> dict[str, Room]:
        """Both faces of each flap, and the page above the last hinge."""
        return flap_rooms(situation, sizes, "page")

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        """The page and the flaps, feet on it; the page's own up is the flaps' down."""
        s, e, t = situation, situation.element, situation.paper.caliper
        w, b, drop = sizes["base-width"].length, sizes["base-length"].length, math.radians(sizes["drop"].length)
        stack = self._stack(s, sizes)
        base = build_piece(
            f"{e}.page", f"{s.name}, page", s.paper, [Panel("base", "page", rectangle(0, 0, w, b))],
            note="" if sizes["drop"].length >= 180 else "A strap stops each flap at its angle.",
        )  # fmt: skip
        flap = stack.piece(e, s.name)
        middle = (w / 2, b / 2)
        instances = [Instance("base", base.id, Root("base", middle, (0.0, -1.0)))]
        instances += stack.instances(e, "base", "base", w / 2, t + s.glue)
        swings = stack.swings(s.name, drop, "falls", 0.05)
        free = (0.0, 0.0, w, max(stack.length - stack.tab, LEAST))
        mounts = [face_mount("base", "page, above the flaps", "base", base.panels[0], 1, t, (0.0, -1.0), free)]
        gaps = [
            *stack.fits(s, (w, b), "page"),
            sheet_gap(e, base.name, s.paper, base.size, (span("page width", w).terms, span("page height", b).terms)),
        ]
        pieces = [base, flap]
        if sizes["drop"].length < 180:
            pieces.append(strap_piece(s, sizes["strap"].length, stack.flaps))
        return Part(
            e,
            s.name,
            tuple(pieces),
            tuple(instances),
            (*mounts, *stack.mounts(flap)),
            tuple(swings),
            tuple(gaps),
            joints=stack.joints("base", "base"),
        )


FAMILY = DropCascade()
