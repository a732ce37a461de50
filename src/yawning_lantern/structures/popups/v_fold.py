"""V-fold: two panels in a V on the gutter that stand up, and lean, as the card opens."""

from __future__ import annotations

import math
from collections.abc import Mapping

from yawning_lantern.assembly import Attach, Closure, Instance, Loop, Part, Room, Root, span, uses
from yawning_lantern.errors import ParameterError
from yawning_lantern.measure import inches, snap
from yawning_lantern.pattern import Fold, Panel, Piece, Point, build_piece
from yawning_lantern.structures.kit.card import CARD_FACES, CARD_PARAMETERS, RISE, PopUp, as_part, quarter_open
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes
from yawning_lantern.structures.kit.lying import TAB, count_of, fit_gap, usual_length
from yawning_lantern.structures.kit.solving import length_of, positive

OUTER = 0.8
"""How high the free edge of a panel is, of its ridge. From memory."""


def v_fold_crease(spread: float, corner: float, lift: float) -> float:
    """How far the ridge leans from the gutter, radians, when each page is lifted by `lift` from lying flat.

    The glue lines make `spread` with the gutter and `corner` with the ridge; in the mirror plane the ridge r and a glue
    line p satisfy r·p = cos(corner). Of the two ridges the one that reaches outward when shut is meant.
    """
    a, b = math.cos(spread), math.sin(spread) * math.sin(lift)
    return math.atan2(b, a) + math.acos(max(-1.0, min(1.0, math.cos(corner) / math.hypot(a, b))))


def v_fold_angles(spread: float, corner: float, lift: float) -> tuple[float, float]:
    """The folds at the tabs and at the ridge, radians, when each page is lifted by `lift`."""
    lean = v_fold_crease(spread, corner, lift)
    r = (0.0, math.cos(lean), math.sin(lean))
    sp, cp, sl, cl = math.sin(spread), math.cos(spread), math.sin(lift), math.cos(lift)
    p = (sp * cl, cp, sp * sl)
    normal = (-sl, 0.0, cl)
    left = (  # across the glue line, towards the gutter, in the page
        normal[1] * p[2] - normal[2] * p[1],
        normal[2] * p[0] - normal[0] * p[2],
        normal[0] * p[1] - normal[1] * p[0],
    )
    foot = math.atan2(
        sum(a * b for a, b in zip(r, normal, strict=True)), sum(a * b for a, b in zip(r, left, strict=True))
    )
    along = sum(a * b for a, b in zip(p, r, strict=True))
    side = [a - along * b for a, b in zip(p, r, strict=True)]
    between = 2 * math.asin(min(1.0, abs(side[0]) / math.sqrt(sum(x * x for x in side))))
    return foot % (2 * math.pi), between - math.pi


class VFold(PopUp):
    """Glue lines leave a point of the gutter at an angle on either page; the ridge stands or leans between them."""

    id = "v-fold"
    name = "V-fold"
    about = "Two panels glued in a V on the gutter: they swing up and stand when the card lies open."
    shelf = "Pop-ups"
    opens = 180
    sheets = 4
    faces = CARD_FACES
    parameters = (
        Parameter("foot", "Glue line", "length", "From the gutter outward, on each page.", "V", 6.0),
        Parameter("ridge", "Ridge", "length", "Along the middle fold.", "V", 6.0),
        Parameter("spread", "Spread", "count", "Between a glue line and the gutter, degrees.", "V", 20, 80, default=55),
        Parameter("corner", "Corner", "count", "Between a glue line and the ridge, degrees.", "V", 60, 120, default=90),
        Parameter("tab", "Tab", "length", "Glued to the pages, below the V.", "V", 3.0),
        Parameter(
            "at", "Up the gutter", "length", "Where the point of the V sits, from the foot of the page.", "V", 0.0
        ),
        *CARD_PARAMETERS,
        Parameter("lean", "Leans", "count", "Ridge from the page when open, degrees.", "V", derived=True),
        Parameter("shut-reach", "Reach when shut", "length", "How far it reaches from the gutter.", "V", derived=True),
    )

    def size(self, situation: Situation) -> dict[str, Sized]:
        """Pages and V. Raises ParameterError where no V stands at those angles."""
        s = situation
        sizes = self.card_sizes(s)
        page, high = sizes["page-width"].length, sizes["page-height"].length
        sizes["spread"], sizes["corner"] = count_of(s, "spread", 55), count_of(s, "corner", 90)
        spread, corner = math.radians(sizes["spread"].length), math.radians(sizes["corner"].length)
        if corner <= spread + math.radians(2) or spread + corner >= math.radians(178):
            raise ParameterError(
                "At these angles the V would lie flat in the open card or never come out of the gutter.",
                "Corner", "Make the corner larger than the spread, and both together less than 178 degrees.",
            )  # fmt: skip
        foot = snap(page * 0.5 / math.sin(spread), s.cut.grid, "down").value
        sizes["foot"] = length_of(s.given, "foot", min(foot, snap(high * 0.4, s.cut.grid, "down").value), "auto")
        reach = max(math.sin(spread + corner), 0.1)
        ridge = (page - inches(1 / 8) - sizes["foot"].length * math.sin(spread)) / reach
        sizes["ridge"] = length_of(
            s.given, "ridge", snap(min(ridge, page, high * 0.45), s.cut.grid, "down").value, "auto"
        )
        sizes["tab"] = usual_length(s, "tab", TAB, sizes["ridge"].length / 2, scored=True)
        for name in ("foot", "ridge", "tab"):
            positive(sizes[name].length, f"V's {name}", "Make the page larger.")
        sizes["at"] = length_of(s.given, "at", high / 2, "auto")
        self._shrink(s, sizes)
        lift = (math.pi - math.radians(sizes["opens"].length)) / 2
        sizes["lean"] = Sized(round(math.degrees(v_fold_crease(spread, corner, lift))), "auto")
        sizes["shut-reach"] = Sized(max(x for x, _ in self._shut(sizes)), "auto")
        return sizes

    def _shrink(self, s: Situation, sizes: dict[str, Sized]) -> None:
        """Make what was not given smaller until the shut V lies inside the page."""
        page, high, at = (sizes[n].length for n in ("page-width", "page-height", "at"))
        for _ in range(8):
            shut = self._shut(sizes)
            share = min(
                [1.0]
                + [(page - inches(1 / 16)) / x for x, _ in shut if x > 0]
                + [(high - at - 0.5) / y for _, y in shut if y > 0]
                + [(at - 0.5) / -y for _, y in shut if y < 0]
            )
            if share >= 1.0 or share <= 0.0:
                return
            for name in ("foot", "ridge"):
                if sizes[name].origin != "given":
                    smaller = snap(sizes[name].length * share, s.cut.grid, "down").value
                    sizes[name] = Sized(positive(smaller, f"V's {name}", "Make the page larger."), "auto")

    @staticmethod
    def _shape(sizes: Sizes) -> tuple[Point, ...]:
        """The right panel about the V's point, ridge up: point, end of the glue line, free corner, ridge's head."""
        corner = math.radians(sizes["corner"].length)
        foot, ridge = sizes["foot"].length, sizes["ridge"].length
        gx, gy = foot * math.sin(corner), foot * math.cos(corner)
        return (0.0, 0.0), (gx, gy), (gx, max(gy + ridge * OUTER, ridge * OUTER)), (0.0, ridge)

    def _shut(self, sizes: Sizes) -> list[Point]:
        """The panel's corners in the shut card: x from the gutter, y along it from the V's point."""
        spread, corner = math.radians(sizes["spread"].length), math.radians(sizes["corner"].length)
        turn = spread + corner  # the ridge from the gutter
        points = []
        for x, y in self._shape(sizes):
            # mirrored about the glue line: the ridge comes to lie at spread + corner, the glue line at spread
            c, q = math.cos(turn), math.sin(turn)
            points.append((y * q - x * c, y * c + x * q))
        foot, tab = sizes["foot"].length, sizes["tab"].length
        for along in (0.0, foot):  # the tabs lie on the page below the glue line
            points.append(
                (along * math.sin(spread) + tab * math.cos(spread), along * math.cos(spread) - tab * math.sin(spread))
            )
        return points

    def rooms(self, situation: Situation, sizes: Sizes) -> dict[str, Room]:
        """The card's faces."""
        return self.card_rooms(situation, sizes)

    def _piece(self, s: Situation, sizes: Sizes) -> Piece:
        corner, tab = math.radians(sizes["corner"].length), sizes["tab"].length
        right = self._shape(sizes)
        end = right[1]
        length = sizes["foot"].length
        cut = min(tab * 0.6, length / 3)
        out = (math.cos(corner), -math.sin(corner))  # away from the panel, across the glue line
        along = (math.sin(corner), math.cos(corner))
        tabs = (
            (0.0, 0.0),
            (out[0] * tab + along[0] * cut, out[1] * tab + along[1] * cut),
            (end[0] + out[0] * tab - along[0] * cut, end[1] + out[1] * tab - along[1] * cut),
            end,
        )

        def mirrored(points: tuple[Point, ...]) -> tuple[Point, ...]:
            return tuple((-x, y) for x, y in reversed(points))

        panels = [
            Panel("tab-right", "right tab", tabs),
            Panel("right", "right panel", right),
            Panel("left", "left panel", mirrored(right)),
            Panel("tab-left", "left tab", mirrored(tabs)),
        ]
        folds = [
            Fold("tab-right", "right", math.pi),
            Fold("right", "left", -math.pi),
            Fold("left", "tab-left", math.pi),
        ]
        return build_piece(
            f"{s.element}.v", f"{s.name}, V", s.paper, panels, folds,
            note="Glue both tabs along lines from one point of the gutter; shut the card to press the second.",
        )  # fmt: skip

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        """The card and the V."""
        s, e, t = situation, situation.element, situation.paper.caliper
        page, high, at = (sizes[n].length for n in ("page-width", "page-height", "at"))
        spread, corner = math.radians(sizes["spread"].length), math.radians(sizes["corner"].length)
        card, piece = self.card(s, sizes), self._piece(s, sizes)
        p, q = (math.sin(spread), math.cos(spread)), (math.sin(corner), math.cos(corner))
        on = Attach("card", "page-right", (page, at), p, 1, t + s.glue)
        half, foot, tab = t / 2, sizes["foot"].length, sizes["tab"].length
        pairs = []
        for along, across in ((0.0, 0.0), (foot, 0.0), (foot / 2, tab)):
            mine = (-along * q[0] - across * q[1], along * q[1] - across * q[0], -half - s.glue)
            there = (page - along * p[0] - across * p[1], at + along * p[1] - across * p[0], half)
            pairs.append((mine, there))
        start_at = quarter_open(sizes)
        lift = (math.pi - start_at * math.radians(sizes["opens"].length)) / 2
        at_foot, at_ridge = v_fold_angles(spread, corner, lift)
        loop = Loop(
            "v",
            RISE,
            ((("v", "tab-right/right", 1.0),), (("v", "right/left", 1.0),), (("v", "left/tab-left", 1.0),)),
            (at_foot, at_ridge, at_foot),
            (Closure("tab on the left page", ("v", "tab-left"), ("card", "page-left"), tuple(pairs)),),
            start_at,
        )
        shut = self._shut(sizes)
        free = page - sizes["shut-reach"].length
        above, below = max(y for _, y in shut), min(y for _, y in shut)
        grows = (0.0, 0.0, OUTER, 1.0)  # the panel's corners, when its ridge does
        far = max(zip(shut, grows, strict=False), key=lambda one: one[0][0])[1] * math.sin(spread + corner)
        gaps = [
            fit_gap(
                s,
                uses.INSIDE_CARD,
                (s.name, "page edge"),
                span("page", page, e, "page-width") - span("V when shut", page - free, e, "ridge", far),
            ),
            fit_gap(
                s,
                uses.INSIDE_CARD,
                (s.name, "head of the page"),
                span("page", high, e, "page-height") - span("V", at + above, e, "at"),
            ),
            fit_gap(s, uses.INSIDE_CARD, (s.name, "foot of the page"), span("V", at + below, e, "at")),
            self.card_sheet(s, sizes, card),
        ]
        instances = [self.card_instance(sizes, card), Instance("v", piece.id, Root("tab-right", (0.0, 0.0), q), on)]
        mounts = self.card_mounts(s, sizes, card, list(rooms))
        return as_part(s, (card, piece), instances, mounts, self.card_swing(s, sizes), gaps, loop)


FAMILY = VFold()
