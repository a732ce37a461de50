"""Pull waterfall: a strip drawn around a holder turns its flaps over one by one."""

from __future__ import annotations

import math
from collections.abc import Mapping
from itertools import pairwise

from msgspec.structs import replace

from yawning_lantern.assembly import Attach, Instance, Joint, Part, Room, Root, Span, Swing, Term, span, uses
from yawning_lantern.errors import ParameterError
from yawning_lantern.measure import inches, snap, told
from yawning_lantern.pattern import Fold, Panel, build_piece, rectangle
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes
from yawning_lantern.structures.kit.lying import (
    Lying,
    count_of,
    extent,
    face_mount,
    fit_gap,
    notch,
    notched,
    row,
    usual_length,
)
from yawning_lantern.structures.kit.shell import lever_term
from yawning_lantern.structures.kit.solving import down_to_cut, face_room, given_length, length_of, sheet_gap, up_to_cut

MOST = 8  # flaps at most
NOTCH = inches(3 / 4)
"""Width of the notch in the base's foot where the strip is taken hold of, mm. Common practice, no source."""
HELD = 10.0
"""How much of a holder is glued at each end, mm. From memory."""


class PullWaterfall(Lying):
    """Travel N·s; the strip is folded about the holder with play, and each flap is glued to one step of it."""

    id = "pull-waterfall"
    name = "Pull waterfall"
    about = "Pull the strip at the foot: it runs around a holder and turns its flaps over, one a step."
    shelf = "Flaps"
    footprint = ("base-width", "base-length")
    headline = ("base-width", "base-length", "flaps")
    faces = tuple((f"flap-{k + 1}", f"flap {k + 1}, front") for k in range(MOST))
    parameters = (
        Parameter("flaps", "Flaps", "count", "How many turn over.", "Flaps", 2, MOST, default=4),
        Parameter("flap-width", "Flap width", "length", "Along the hinge.", "Flaps", 6.0),
        Parameter("flap-length", "Flap length", "length", "Head to free edge.", "Flaps", 6.0),
        Parameter("step", "Step", "length", "What the strip moves for one flap.", "Flaps", 3.0, default=inches(1 / 2)),
        Parameter("play", "Play", "length", "Of the strip around the holder; a sheet as a rule.", "Holder", most=10.0),
        Parameter(
            "slack",
            "Slack",
            "length",
            "What the holder is longer than the base is wide: it bows over the flaps that pass behind it.",
            "Holder",
            most=25.0,
        ),
        Parameter("holder", "Holder", "length", "Height of the band that the strip goes around.", "Holder", 3.0),
        Parameter("base-width", "Base width", "length", "Left to right.", "Base", 10.0),
        Parameter("base-length", "Base length", "length", "Foot to head.", "Base", 10.0),
        Parameter("travel", "Travel", "length", "How far the strip is drawn in all.", "Holder", derived=True),
        Parameter("strip", "Strip", "length", "Length of the strip.", "Holder", derived=True),
    )

    def size(self, situation: Situation) -> dict[str, Sized]:
        """Flaps, holder, base and strip. Raises ParameterError where the flaps do not fit the base."""
        s, given = situation, situation.given
        tall = given_length(given, "base-length") or (s.room.clear(1) if s.room is not None else 1000.0)
        n = count_of(s, "flaps", 4)
        step = usual_length(s, "step", inches(1 / 2), tall / (2 * n.length + 2))
        sizes = {"flaps": n, "step": step, "play": length_of(given, "play", s.paper.caliper, "auto")}
        sizes["base-width"] = extent(s, "base-width", 0, inches(4))
        sizes["base-length"] = extent(s, "base-length", 1, inches(6))
        base, wide = sizes["base-length"].length, sizes["base-width"].length
        travel = n.length * step.length
        # head of the top flap: half way up, so that turned flaps end inside the base
        length = length_of(given, "flap-length", snap((base - travel) / 2, s.cut.grid, "down").value, "auto")
        sizes["flap-length"] = length
        sizes["flap-width"] = length_of(given, "flap-width", snap(wide * 0.75, s.cut.grid, "down").value, "auto")
        sizes["holder"] = length_of(given, "holder", step.length, "auto")
        exact = bow_slack(wide, self._behind(s, sizes))
        sizes["slack"] = length_of(given, "slack", up_to_cut(s, exact, "auto").length, "auto")
        if length.length < step.length + 3.0 or length.length + travel > base + 1e-6:
            raise ParameterError(
                f"{n.length:.0f} flaps that move {told(step.length)} each do not fit a base of {told(base)}.",
                "Flaps", "Take fewer flaps, a smaller step or a longer base.",
            )  # fmt: skip
        sizes["travel"] = Sized(travel, "auto")
        sizes["strip"] = Sized(travel + self._head(sizes), "auto")
        return sizes

    @staticmethod
    def _behind(s: Situation, sizes: Sizes) -> float:
        """What passes behind the holder when all is drawn: every turned flap with what is on it, and the strip. mm."""
        n = int(sizes["flaps"].length)
        return s.paper.caliper * (n + 1) + sum(s.bulk_on(f"flap-{k + 1}") for k in range(n))

    @staticmethod
    def _head(sizes: Sizes) -> float:
        """Where the holder's upper edge lies, from the foot of the base, mm."""
        travel = sizes["flaps"].length * sizes["step"].length
        return min(sizes["flap-length"].length + travel, sizes["base-length"].length - 2.0)

    def _over(self, s: Situation, sizes: Sizes, k: int) -> float:
        """How far the middle of flap k (from 0, the top one) lies off its own step of the strip, mm."""
        n = int(sizes["flaps"].length)
        below = sum(s.paper.caliper + s.bulk_on(f"flap-{j + 1}") for j in range(k + 1, n))
        return s.paper.caliper + s.glue + below

    def thickness(self, s: Situation, sizes: Sizes) -> Span:
        """Base, strip, holder, strip, flaps, and what is on them."""
        n, t = int(sizes["flaps"].length), s.paper.caliper
        sheets = span("base, holder, strip and flaps", t * (4 + n), s.element, "flaps", t)
        bulk = sum(s.bulk_on(f"flap-{k + 1}") for k in range(n))
        return sheets.plus(Term("play", sizes["play"].length), Term("bulk on the flaps", bulk), Term("glue", s.glue))

    def beyond(self, s: Situation, sizes: Sizes) -> tuple[float, float]:
        """The holder is longer than the base is wide; flat it stands out by half of that on either side."""
        return sizes["slack"].length / 2, 0.0

    def rooms(self, situation: Situation, sizes: Sizes) -> dict[str, Room]:
        """The front of each flap."""
        w, length = sizes["flap-width"].length, sizes["flap-length"].length
        face = face_room(w, length, situation.paper.caliper, situation.element, ("flap-width", "flap-length"), "flap")
        return {f"flap-{k + 1}": face for k in range(int(sizes["flaps"].length))}

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        """Base, holder, strip behind and over it, flaps on the strip."""
        s, e, t = situation, situation.element, situation.paper.caliper
        n = int(sizes["flaps"].length)
        w, b, fw, length = (sizes[k].length for k in ("base-width", "base-length", "flap-width", "flap-length"))
        step, play, hold, slack = (sizes[k].length for k in ("step", "play", "holder", "slack"))
        head = self._head(sizes)
        base = build_piece(
            f"{e}.base",
            f"{s.name}, base",
            s.paper,
            [notched(Panel("base", "base", rectangle(0, 0, w, b)), (w / 2, 0.0), min(NOTCH, w / 3), (0.0, 1.0))],
            marks=notch((w / 2, 0.0), min(NOTCH, w / 3), (0.0, 1.0)),
            note="Punch the notch in the foot first.",
        )
        holder = build_piece(
            f"{e}.holder", f"{s.name}, holder", s.paper, [Panel("holder", "holder", rectangle(0, 0, w + slack, hold))],
            note="Glue the ends only, flush with the base: it bows, and strip and flaps run behind it.",
        )  # fmt: skip
        back = head
        parts = [("back", "pull", back), *((f"step-{k + 1}", f"step {k + 1}", step) for k in range(n))]
        sw = down_to_cut(s, min(fw, w) * 0.6, "auto").length or min(fw, w) * 0.6
        folds = [Fold(a[0], c[0], 0.0) for a, c in pairwise(parts[1:])]
        strip = build_piece(
            f"{e}.strip",
            f"{s.name}, strip",
            s.paper,
            row(parts, 0.0, sw, "y"),
            [
                Fold("back", "step-1", math.pi, wrap=t + play),
                *[replace(f, angle=1e-9, wrap=t + play) for f in folds],
            ],
            note="Score every step. Fold the first about the holder; it must run freely.",
        )
        flap = build_piece(
            f"{e}.flap", f"{s.name}, flap", s.paper, [Panel("flap", "flap", rectangle(0, 0, fw, length))], quantity=n,
            note="Glue the head of each on its step, the lowest first.",
        )  # fmt: skip
        instances = [
            Instance("base", base.id, Root("base", (w / 2, b / 2))),
            Instance(
                "strip", strip.id, Root("back", (sw / 2, back)),
                Attach("base", "base", (w / 2, head), (0.0, 1.0), 1, t, "slide"), limp=True,
            ),
            Instance(
                "holder", holder.id, Root("holder", ((w + slack) / 2, hold)),
                Attach("base", "base", (w / 2, head), (0.0, 1.0), 1, 2 * t + play / 2), limp=True,
            ),
        ]  # fmt: skip
        for k in range(n):
            # the step lies back up when the strip is folded: its own y runs down the base
            on = Attach("strip", f"step-{k + 1}", (sw / 2, back + k * step), (0.0, -1.0), -1, self._over(s, sizes, k))
            instances.append(Instance(f"flap-{k + 1}", flap.id, Root("flap", (fw / 2, length)), on, limp=True))
        swings = []
        for k in range(n):
            names = ["back/step-1", *(f"step-{j + 1}/step-{j + 2}" for j in range(n - 1))]
            turned = [("strip", names[k], 0.0)]
            if k + 1 < n:
                turned.append(("strip", names[k + 1], math.pi))
            slide = (("strip", (0.0, -step, 0.0)),)
            swings.append(Swing(f"pull-{k + 1}", f"{s.name} is drawn a step: flap {k + 1} turns", tuple(turned), slide))
        gaps = [
            fit_gap(
                s,
                uses.FLAPS,
                (f"{s.name}, {n} flaps", "base"),
                span("base", b, e, "base-length").plus(
                    lever_term("flap", -length, e, "flap-length", -1.0),
                    lever_term("travel", -n * step, e, "step", -float(n)),
                ),
            ),
            fit_gap(
                s,
                uses.PLACE,
                (f"{s.name}, flaps", "base, across"),
                span("base", w, e, "base-width") - span("flap", fw, e, "flap-width"),
            ),
            fit_gap(
                s,
                uses.STEP,
                (f"{s.name}, holder", "step"),
                span("step", step, e, "step") - span("holder", hold, e, "holder"),
            ),
            fit_gap(
                s,
                uses.SPARE,
                (f"{s.name}, holder", f"{n} turned flaps behind it"),
                span("bow of the holder", bow_height(w, slack), e, "slack", bow_height(w, slack) / max(2 * slack, 0.1))
                - span("strip and flaps", self._behind(s, sizes)),
            ),
            sheet_gap(
                e,
                base.name,
                s.paper,
                base.size,
                (span("width", w, e, "base-width").terms, span("length", b, e, "base-length").terms),
            ),
        ]
        mounts = tuple(
            face_mount(f"flap-{k + 1}", f"flap {k + 1}, front", f"flap-{k + 1}", flap.panels[0], 1, t) for k in range(n)
        )
        return Part(
            e,
            s.name,
            (base, strip, holder, flap),
            tuple(instances),
            mounts,
            tuple(swings),
            tuple(gaps),
            joints=(_held_ends(w + slack, hold),),
        )


def _held_ends(long: float, high: float) -> Joint:
    """The holder is glued at its ends: strip and flaps run between them."""
    end = min(HELD, long / 5)
    ends = (rectangle(0, 0, end, high), rectangle(long - end, 0, long, high))
    return Joint(("holder", "holder"), ("base", "base"), spots=ends, label="only its ends: it bows")


def bow_height(across: float, slack: float) -> float:
    """How high a strip bows in the middle that is `slack` longer than the way between its ends, mm: a flat parabola,
    s = 8/3 · h²/l (from memory; a few parts in a hundred for what paper does here)."""
    return math.sqrt(0.375 * across * slack)


def bow_slack(across: float, high: float) -> float:
    """How much longer a strip must be than the way between its ends to bow so high, mm."""
    return high * high / (0.375 * across)


FAMILY = PullWaterfall()
