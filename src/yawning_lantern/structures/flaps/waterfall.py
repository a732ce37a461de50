"""Waterfall: hinged flaps, each glued a step below the last on one base."""

from __future__ import annotations

import math
from collections.abc import Mapping

from yawning_lantern.assembly import Attach, Instance, Joint, Part, Room, Root, Span, Term, span
from yawning_lantern.errors import ParameterError
from yawning_lantern.measure import at_least, inches, snap, told
from yawning_lantern.pattern import Panel, Piece, build_piece, rectangle
from yawning_lantern.structures.kit.corners import concentric, radius_of, rounded
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes, Start, fact
from yawning_lantern.structures.kit.flaps import MOST_FLAPS, Stack, flap_faces, flap_rooms
from yawning_lantern.structures.kit.lying import LEAST, TAB, Lying, count_of, extent, face_mount, usual_length
from yawning_lantern.structures.kit.solving import given_length, length_of, sheet_gap, told_contents, word_of

MAT_LESS = inches(1 / 8)
"""A mat is this much smaller than its flap, in all. Common practice, no source."""
PHOTO_LESS = inches(1 / 4)
"""A photo is this much smaller than its flap, in all. Common practice, no source."""


class Waterfall(Lying):
    """N flaps of face L, step s, on a base B: L + (N − 1)·s ≤ B, the rest is margin."""

    id = "waterfall"
    name = "Waterfall"
    about = "Hinged flaps, each a step below the last, on one base: lift them one after the other."
    shelf = "Flaps"
    footprint = ("base-width", "base-length")
    headline = ("base-width", "base-length", "flaps")
    starts: tuple[Start, ...] = ("size", "contents", "sheet")
    faces = (("base", "base, below the flaps"), *flap_faces())
    parameters = (
        Parameter("flap-width", "Flap width", "length", "Along the hinge.", "Flaps", 3.0),
        Parameter("flap-length", "Flap length", "length", "The face of a flap, score to free edge.", "Flaps", 6.0),
        Parameter("tab", "Tab", "length", "The narrow panel behind the score, glued.", "Flaps", 3.0, default=TAB),
        Parameter("flaps", "Flaps", "count", "How many; without it the most that fit.", "Flaps", 1, MOST_FLAPS),
        Parameter("rounded", "Rounded corners", "length", "Radius of the free corners.", "Flaps", most=50.0),
        Parameter("step", "Step", "length", "From hinge to hinge; as much as the tab as a rule.", "Base", 3.0),
        Parameter("base-length", "Base length", "length", "Foot to head of the base.", "Base", 6.0),
        Parameter("base-width", "Base width", "length", "The base is as wide as the flaps as a rule.", "Base", 3.0),
        fact("content-width", "Photo, width", "A photo that a flap shall take.", "Contents", 3.0),
        fact("content-height", "Photo, height", "A photo that a flap shall take.", "Contents", 3.0),
        Parameter(
            "mats",
            "Mats",
            "word",
            "Cut a mat for both faces of every flap and for the base, or leave them.",
            "Mats",
            words=("none", "all"),
            default="none",
        ),
        Parameter("margin", "Margin", "length", "What is left of the base above the last hinge.", "Base", derived=True),
        Parameter(
            "mat-count", "Mats it takes", "count", "Both faces of each flap, and the base.", "Mats", derived=True
        ),
        Parameter("mat-width", "Mat, width", "length", "What to cut.", "Mats", derived=True),
        Parameter("mat-height", "Mat, height", "length", "What to cut.", "Mats", derived=True),
        Parameter("photo-width", "Photo up to, width", "length", "The largest on a mat.", "Mats", derived=True),
        Parameter("photo-height", "Photo up to, height", "length", "The largest on a mat.", "Mats", derived=True),
    )

    def size(self, situation: Situation) -> dict[str, Sized]:
        """Flaps, step, base and mats. Raises ParameterError where not one flap fits its base."""
        s, given = situation, situation.given
        photo = [given_length(given, f"content-{n}") for n in ("width", "height")]
        tall = given_length(given, "base-length") or (s.room.clear(1) if s.room is not None else 1000.0)
        tab = usual_length(s, "tab", TAB, tall / 8, scored=True)
        step = length_of(given, "step", tab.length, "auto")
        count = given.get("flaps")
        auto = None if photo[0] is None else photo[0] + PHOTO_LESS
        base_width = given_length(given, "base-width")
        if given_length(given, "flap-width") is None and base_width is not None:
            width = Sized(base_width, "auto")
        else:
            width = extent(s, "flap-width", 0, inches(4), auto)
        length = None if photo[1] is None else photo[1] + PHOTO_LESS
        length = given_length(given, "flap-length") or length
        spread = step.length * (int(count) - 1) if count is not None and not isinstance(count, str) else None
        if (own := given_length(given, "base-length")) is not None:
            base = Sized(own, "given")
        elif length is not None and spread is not None:
            base = Sized(length + spread, "auto")
        else:
            base = extent(s, "base-length", 1, (length or inches(4)) + 3 * step.length)
        if length is None:
            room = base.length - (spread if spread is not None else 3 * step.length)
            flap = Sized(snap(room, s.cut.grid, "down").value, "auto", room)
        else:
            flap = Sized(length, "given" if "flap-length" in given else "auto")
        if flap.length > base.length + 1e-6 or flap.length < 6.0:
            raise ParameterError(
                "The first flap is longer than its base."
                if flap.length > base.length
                else "So many flaps leave no length for a flap.",
                "Flap length",
                f"Make the flap {told(base.length)} long or shorter, or the base longer."
                if flap.length > base.length
                else "Take fewer flaps, a smaller step or a longer base.",
            )
        most = 1 + int((base.length - flap.length + 1e-6) // step.length)
        flaps = count_of(s, "flaps", min(most, MOST_FLAPS))
        if flaps.origin == "default":
            flaps = Sized(flaps.value, "auto")
        sizes = {
            "flap-width": width,
            "flap-length": flap,
            "tab": tab,
            "flaps": flaps,
            "rounded": radius_of(s, "flap", width.length, flap.length),
            "step": step,
            "base-length": base,
            "base-width": length_of(given, "base-width", width.length, width.origin),
            "mats": word_of(given, "mats", "none"),
        }
        n = flaps.length
        sizes["margin"] = Sized(max(0.0, base.length - flap.length - (n - 1) * step.length), "auto")
        sizes["mat-count"] = Sized(2 * n + 1, "auto")
        for axis, size, name in (("width", width.length, "Flap width"), ("height", flap.length, "Flap length")):
            mat = snap(size - MAT_LESS, s.cut.grid, "down").value
            if mat > 0.0:
                sizes[f"mat-{axis}"] = Sized(mat, "auto", size - MAT_LESS)
            elif sizes["mats"].value == "all":
                raise ParameterError(
                    f"A flap of {told(size)} leaves nothing for a mat.", name,
                    f"Give {at_least(MAT_LESS + s.cut.grid)}, or flaps without mats.",
                )  # fmt: skip
            if size > PHOTO_LESS:
                sizes[f"photo-{axis}"] = Sized(size - PHOTO_LESS, "auto")
            if f"content-{axis}" in given:
                sizes[f"content-{axis}"] = length_of(given, f"content-{axis}", 0.0)
        return sizes

    @staticmethod
    def _mat(s: Situation, sizes: Sizes) -> float:
        """What a mat adds to a face, mm: the one on the base lies under the tabs."""
        return s.paper.caliper + s.glue if sizes["mats"].value == "all" else 0.0

    def _stack(self, s: Situation, sizes: Sizes) -> Stack:
        mat = self._mat(s, sizes)
        bulk = tuple(
            (s.bulk_on(f"flap-{k + 1}-front") + mat, s.bulk_on(f"flap-{k + 1}-inside") + mat)
            for k in range(int(sizes["flaps"].length))
        )
        return Stack(
            s.paper, s.glue, sizes["flap-width"].length, sizes["flap-length"].length, sizes["tab"].length,
            sizes["step"].length, 0.0, int(sizes["flaps"].length), bulk, sizes["rounded"].length,
            max(0.0, s.bulk_on("base") - s.paper.caliper - s.glue),
        )  # fmt: skip

    def thickness(self, s: Situation, sizes: Sizes) -> Span:
        """Base, tab, and every flap with its mats, at the hinge side."""
        stack, t = self._stack(s, sizes), s.paper.caliper
        paper = span("base, tab and flaps", t * (2 + stack.flaps), s.element, "flaps", t)
        bulk = sum(a + b for a, b in stack.bulks)
        return paper.plus(
            Term("mats and bulk on the flaps", bulk),
            Term("bulk under the flaps", stack.under + self._mat(s, sizes)),
            Term("glue", s.glue),
        )

    def rooms(self, situation: Situation, sizes: Sizes) -> dict[str, Room]:
        """Both faces of each flap, and the base under them."""
        return flap_rooms(situation, sizes, "base")

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        """The base, the flaps, and mats where they are asked for."""
        s, e, t = situation, situation.element, situation.paper.caliper
        w, b = sizes["base-width"].length, sizes["base-length"].length
        stack = self._stack(s, sizes)
        base = build_piece(
            f"{e}.base", f"{s.name}, base", s.paper, [Panel("base", "base", rectangle(0, 0, w, b))],
            note="Glue the lowest flap first and check it against the edge: it decides whether all are straight.",
        )  # fmt: skip
        flap = stack.piece(e, s.name)
        instances = [Instance("base", base.id, Root("base", (w / 2, b / 2)))]
        instances += stack.instances(e, "base", "base", w / 2, t + s.glue + self._mat(s, sizes))
        pieces = [base, flap]
        if sizes["mats"].value == "all":
            mat, more = self._mats(s, sizes, stack)
            pieces.append(mat)
            instances += more
        free = (0.0, 0.0, w, max(sizes["flap-length"].length - sizes["tab"].length, LEAST))
        mounts = [
            face_mount(
                "base", "base, below the flaps", "base", base.panels[0], 1, t + 2 * self._mat(s, sizes), shape=free
            )
        ]
        gaps = [
            *stack.fits(s, (w, b), "base"),
            *told_contents(
                s,
                sizes,
                f"{s.name}, flap",
                (("content-width", "flap-width"), ("content-height", "flap-length")),
                PHOTO_LESS,
            ),
            sheet_gap(e, base.name, s.paper, base.size, (span("base width", w).terms, span("base length", b).terms)),
        ]
        return Part(
            e,
            s.name,
            tuple(pieces),
            tuple(instances),
            (*mounts, *stack.mounts(flap, t + s.glue if sizes["mats"].value == "all" else 0.0)),
            tuple(stack.swings(s.name, 0.86 * math.pi, "lifts", 0.06)),
            tuple(gaps),
            joints=(*stack.joints("base", "base"), *_ON_MAT)
            if sizes["mats"].value == "all"
            else stack.joints("base", "base"),
        )

    @staticmethod
    def _mats(s: Situation, sizes: Sizes, stack: Stack) -> tuple[Piece, list[Instance]]:
        """One mat for both faces of every flap and one for what shows of the base."""
        e, away = s.element, s.paper.caliper + s.glue
        w, h = sizes["mat-width"].length, sizes["mat-height"].length
        count = int(sizes["mat-count"].length)
        radius = concentric(stack.radius, (stack.width - w) / 2)
        shape = rounded(0, 0, w, h, radius, ("bl", "br", "tr", "tl"))
        mat = build_piece(f"{e}.mat", f"{s.name}, mat", s.paper, [Panel("mat", "mat", shape)], quantity=count)
        root = Root("mat", (w / 2, h / 2))
        middle = (stack.width / 2, stack.length / 2)
        copies = []
        for k in range(stack.flaps):
            for face, side, up in (("front", 1, 1.0), ("inside", -1, -1.0)):
                on = Attach(f"flap-{k + 1}", "flap", middle, (0.0, up), 1 if side > 0 else -1, away)
                copies.append(Instance(f"mat-{k + 1}-{face}", mat.id, root, on))
        on = Attach("base", "base", (sizes["base-width"].length / 2, h / 2 + MAT_LESS / 2), (0.0, 1.0), 1, away)
        copies.append(Instance("mat-base", mat.id, root, on))
        return mat, copies


_ON_MAT = (Joint(("flap-1", "tab"), ("mat-base", "mat"), act="flap-1"),)

FAMILY = Waterfall()
