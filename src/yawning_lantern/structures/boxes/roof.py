"""Roof: slopes on a ring that lies on the walls, a rim beneath that holds it there; a small storey may stand on it."""

from __future__ import annotations

import math
from collections.abc import Mapping

from yawning_lantern.assembly import (
    Attach,
    Gap,
    Hint,
    Instance,
    Joint,
    Lever,
    Mount,
    Need,
    Part,
    Relation,
    Room,
    Root,
    Span,
    Term,
    box_sides,
    span,
    uses,
)
from yawning_lantern.assembly.uses import use_of
from yawning_lantern.errors import ParameterError
from yawning_lantern.measure import at_least, at_most, inches, snap, told
from yawning_lantern.pattern import Fold, Panel, Piece, Point, build_piece, rectangle
from yawning_lantern.pattern.convex import largest_level
from yawning_lantern.structures.kit.below import below, walls_below
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes, Start
from yawning_lantern.structures.kit.lying import LEAST, count_of, fit_gap
from yawning_lantern.structures.kit.regular import Regular, half_flat, moved
from yawning_lantern.structures.kit.roof_trim import (
    Slopes,
    about,
    beside_hips,
    courses,
    guides,
    hip_turn,
    over_hip,
    ridge_strips,
)
from yawning_lantern.structures.kit.solving import given_length, length_of, sheet_gap, up_to_cut

MOST = 12  # slopes at most
COURSES = 8  # courses of shingles at most
PITCH = 40
"""Of a roof, degrees from level. Common practice, no source."""
OVERHANG = inches(3 / 8)
"""How far the eaves stand out over the walls, mm. Common practice, no source."""
RIM = inches(1 / 2)
"""The rim that hangs in the walls, mm. Common practice, no source."""
PLAY = inches(1 / 16)
"""What the rim leaves free between opposite walls, mm. Common practice, no source."""
TAB = inches(3 / 8)
"""A tab along a hip, and a ledge under the storey, mm. Common practice, no source."""
POINT = 2.0
"""The least that is left of a slope at its point, mm: less tears. From memory."""
LEAST_FACE = 10.0  # mm: nothing is put on a smaller one
SEAT = use_of("seat", "Rim between the walls", (0.0, 1 / 64, 3 / 16), {"easy": (1 / 64, 3 / 16)}, drawn=False)
"""What is left between the rim and opposite walls, in all."""
STOREY = 6.0
"""Nothing smaller stands on top, mm. From memory."""
EVEN = inches(1 / 16)
"""Walls whose lengths differ by more are no square for a roof, mm: its rim would meet two of them."""


def _far(sizes: Sizes) -> float:
    """From the eaves of a slope to the point that all lean to, mm."""
    half = sizes["plate"].length / 2
    return sizes["slant"].length * half / (half - sizes["storey"].length / 2)


def _ledge(sizes: Sizes) -> float:
    """How wide a ledge under the storey is, mm."""
    return min(sizes["tab"].length, sizes["storey"].length * half_flat(int(sizes["sides"].length)) / 2)


def _pitch(sizes: Sizes) -> float:
    return math.acos(min(1.0, math.sqrt(max(sizes["slant"].length**2 - sizes["rise"].length**2, 0.0))
                         / sizes["slant"].length))  # fmt: skip


class Roof:
    """The ring's front looks down: slopes are folded up from its edges and lean in until their hips meet."""

    id = "roof"
    name = "Roof"
    about = "Slopes on a ring for a prism, with overhang and rim; flat on top for a small storey, or up to its point."
    shelf = "Boxes"
    relation: Relation = "over"
    headline = ("sides", "side", "rise")
    starts: tuple[Start, ...] = ("size",)
    faces = (
        ("top", "top, under the storey"),
        *((f"slope-{k}", f"slope {k}") for k in range(1, MOST + 1)),
    )
    parameters = (
        Parameter("sides", "Sides", "count", "As many as the walls below.", "Size", 3, MOST, default=6),
        Parameter("side", "Walls' side", "length", "Of the walls below, score to score.", "Size", 12.0),
        Parameter("pitch", "Pitch", "count", "Degrees from level.", "Slopes", 10, 75, default=PITCH),
        Parameter("height", "Height", "length", "Of the slopes; goes before the pitch.", "Slopes", 4.0),
        Parameter("overhang", "Overhang", "length", "Of the eaves over the walls.", "Slopes", 0.0, 60.0,
                  default=OVERHANG),
        Parameter("storey", "Storey, side", "length", "Of what stands on top; 0: the slopes meet in a point.", "Slopes",
                  0.0, default=0.0),
        Parameter("rim", "Rim", "length", "It hangs inside the walls and holds the roof there.", "Rim", 4.0, 60.0,
                  default=RIM),
        Parameter("play", "Play", "length", "Between rim and opposite walls, in all.", "Rim", 0.0, 10.0, default=PLAY),
        Parameter("tab", "Tab", "length", "Along every hip.", "Slopes", 3.0, 25.0),
        Parameter("courses", "Shingles", "count", "Courses of them on every slope, from the eaves up.", "Slopes", 0,
                  COURSES, default=0),
        Parameter("ridge", "Ridge strips", "length", "On either slope, folded over every hip; 0 for none.", "Slopes",
                  0.0, 60.0, default=0.0),
        Parameter("plate", "Plate, side", "length", "Score to score, eaves and all.", "Slopes", derived=True),
        Parameter("slant", "Slant", "length", "Of a slope, from the eaves up.", "Slopes", derived=True),
        Parameter("rise", "Rise", "length", "Of the slopes.", "Slopes", derived=True),
    )  # fmt: skip

    def size(self, situation: Situation) -> dict[str, Sized]:
        """Plate, pitch and slant. Raises ParameterError where slopes, storey or tabs have no room."""
        s, given = situation, situation.given
        under = below(s)
        if under is not None and abs(under.nominal[0] - under.nominal[1]) > EVEN:
            wide, deep = map(told, under.nominal)
            raise ParameterError(
                f"The walls below are {wide} and {deep}, and its slopes are all alike.", s.name,
                "Make the box as deep as it is wide, or cover it with a lid.",
            )  # fmt: skip
        sizes = {
            "sides": walls_below(s, 6),
            "overhang": length_of(given, "overhang", OVERHANG), "storey": length_of(given, "storey", 0.0),
            "rim": length_of(given, "rim", RIM), "play": length_of(given, "play", PLAY),
            "ridge": length_of(given, "ridge", 0.0),
            "courses": count_of(s, "courses", 0), "pitch": count_of(s, "pitch", PITCH),
        }  # fmt: skip
        n = int(sizes["sides"].length)
        flat = half_flat(n)
        usual = (
            Sized(under.nominal[0], "fill")
            if under is not None
            else (Sized(max(inches(2), 1.6 * sizes["storey"].length), "default"))
        )  # its walls are not known yet
        sizes["side"] = length_of(given, "side", 0.0) if given_length(given, "side") is not None else usual
        across = up_to_cut(s, 2 * (self._outside(s, sizes) + sizes["overhang"].length), "auto")
        sizes["plate"] = Sized(across.length / (2 * flat), "auto", (across.exact or across.length) / (2 * flat))
        apothem, top = across.length / 2, sizes["storey"].length * flat
        run = apothem - top
        if 0.0 < sizes["storey"].length < STOREY:
            raise ParameterError(
                f"A storey of {told(sizes['storey'].length)} is none.", "Storey, side",
                f"Give 0 for slopes that meet in a point, or {at_least(STOREY)}.",
            )  # fmt: skip
        if run < 10.0:
            raise ParameterError(
                f"A storey of {told(sizes['storey'].length)} leaves no slope.", "Storey, side",
                f"Give {at_most((apothem - 10.0) / flat)}.",
            )  # fmt: skip
        height = given_length(given, "height")
        if height is not None:
            sizes["height"] = Sized(height, "given")
            sizes["pitch"] = Sized(round(math.degrees(math.atan2(height, run))), "auto")
        pitch = math.atan2(height, run) if height is not None else math.radians(sizes["pitch"].length)
        if not math.radians(8) < pitch < math.radians(80):
            raise ParameterError(
                f"Slopes of {math.degrees(pitch):.0f}° cannot be folded.", "Height",
                f"Give {told(run * math.tan(math.radians(10)))} to {told(run * math.tan(math.radians(75)))}.",
            )  # fmt: skip
        sizes["rise"], sizes["slant"] = Sized(run * math.tan(pitch), "auto"), Sized(run / math.cos(pitch), "auto")
        edge = sizes["plate"].length
        usual_tab = max(
            3.0, snap(min(TAB, edge / 5, sizes["slant"].length / 4, self._widest_tab(sizes)), s.cut.grid, "down").value
        )
        sizes["tab"] = length_of(given, "tab", usual_tab, "auto")
        if sizes["tab"].length > min(edge / 3, sizes["slant"].length / 2):
            raise ParameterError(
                f"Tabs of {told(sizes['tab'].length)} do not go under a slope of {told(edge)}.", "Tab",
                f"Give {at_most(min(edge / 3, sizes['slant'].length / 2))}.",
            )  # fmt: skip
        most = self._widest_tab(sizes)
        if sizes["tab"].length > 1.05 * most:
            raise ParameterError(
                f"Slopes of {math.degrees(pitch):.0f}° leave {told(most)} for a tab between the last and the first.",
                "Pitch", "Make them steeper, or the tab narrower.",
            )  # fmt: skip
        if self._rim_apothem(s, sizes) < 12.0:
            raise ParameterError("The walls leave no room for a rim.", "Rim", "Make the walls wider.")
        return sizes

    # -- geometry

    @staticmethod
    def _gap(sizes: Sizes) -> float:
        """What the fan of slopes leaves about its point, radians."""
        n = int(sizes["sides"].length)
        return 2 * math.pi - 2 * n * math.atan2(sizes["plate"].length / 2, _far(sizes))

    @staticmethod
    def _widest_tab(sizes: Sizes) -> float:
        """The widest tab that lies between the last slope and the first on the sheet, mm."""
        return max(0.0, Roof._gap(sizes) * math.hypot(_far(sizes), sizes["plate"].length / 2) / 3.5)

    @staticmethod
    def _outside(s: Situation, sizes: Sizes) -> float:
        """From the middle to the outside of the walls below, mm."""
        under = below(s)
        if under is not None:
            return under.outside
        return sizes["side"].length * half_flat(int(sizes["sides"].length)) + s.paper.caliper / 2

    def _inside(self, s: Situation, sizes: Sizes) -> float:
        """From the middle to the inside of the walls below, what is glued outside them left off, mm."""
        under = below(s)
        if under is not None:
            return under.inside(under.caliper + s.glue)
        return self._outside(s, sizes) - 2 * s.paper.caliper - s.glue

    def _rim_apothem(self, s: Situation, sizes: Sizes) -> float:
        """From the middle to the rim's mid-surface, mm."""
        return self._inside(s, sizes) - sizes["play"].length / 2 - s.paper.caliper / 2

    def _lip(self, s: Situation, sizes: Sizes) -> float:
        """The glued part of the rim, and of a slope's foot, mm."""
        return min(sizes["rim"].length, inches(1 / 2), self._rim_apothem(s, sizes) / 2)

    def _ring(self, s: Situation, sizes: Sizes) -> float:
        """How wide the plate's ring is: from the eaves to where the lips of the rim end, mm."""
        apothem = sizes["plate"].length * half_flat(int(sizes["sides"].length))
        return apothem - self._rim_apothem(s, sizes) + self._lip(s, sizes)

    def need(self, situation: Situation, sizes: Sizes) -> Need:
        """How far it stands above the walls, out over them, and hangs between them."""
        s, e, t = situation, situation.element, situation.paper.caliper
        pitch, rho = _pitch(sizes), t / 2
        angle = math.pi - pitch  # the eaves bend by so much
        bend = rho * (1 - math.cos(angle)) - rho * angle / 2 * math.sin(angle)
        slopes = self._slope(sizes)[2][1] * math.sin(pitch)
        high = span("slopes", slopes, e, "height", 1.0 if "height" in sizes else 0.0).plus(
            Term("ring, feet and eaves", 1.5 * t + s.glue + bend), Term("what is on it", self._above(s, sizes))
        )
        return Need(
            "over", uses.LID, (), (None, None), t, sizes["overhang"].length + t, high, play=0.0,
            intrudes=sizes["rim"].length + t,
        )  # fmt: skip

    def _above(self, s: Situation, sizes: Sizes) -> float:
        """How far the highest of what is on it stands above the middle of the slopes' upper edge, mm: what lies on a
        slope off its face, what is bent over a hip off the edge between two, a deck on its ledges."""
        t, pitch, many = s.paper.caliper, _pitch(sizes), int(sizes["courses"].length)
        n, edge = int(sizes["sides"].length), self._slope(sizes)[2][1]
        worn = max(s.bulk_on(f"slope-{k}") for k in range(1, n + 1))
        off = [(edge, t / 2), (largest_level(self._bare(sizes))[3], t / 2 + worn)]
        if many:
            off.append((self._shingled(s, sizes), (many + 0.5) * t + s.glue))
        if sizes["ridge"].length:
            off.append((self._ridged(s, sizes), over_hip(s, many, hip_turn(pitch, 2 * math.pi / n))))
        tops = [(up - edge) * math.sin(pitch) + out * math.cos(pitch) for up, out in off]
        deck = 1.5 * t + s.glue + s.bulk_on("top") if _ledge(sizes) > LEAST else 0.0
        return max(*tops, deck)

    def _slope(self, sizes: Sizes) -> tuple[Point, ...]:
        """A slope with its eaves on the level and its ridge up, in the middle, mm; its point is cut off."""
        half, slant = sizes["plate"].length / 2, sizes["slant"].length
        top = max(sizes["storey"].length, POINT) / 2
        high = slant if sizes["storey"].length > POINT else slant * (half - top) / half
        return (-half, 0.0), (half, 0.0), (top, high), (-top, high)

    def _bare(self, sizes: Sizes) -> tuple[Point, ...]:
        """What of a slope its ridge strips leave free."""
        return beside_hips(self._slope(sizes), sizes["ridge"].length)

    def rooms(self, situation: Situation, sizes: Sizes) -> dict[str, Room]:
        """The slopes where they are bare, and the top."""
        t = situation.paper.caliper
        rooms: dict[str, Room] = {}
        x0, y0, x1, y1 = largest_level(self._bare(sizes))
        if not sizes["courses"].length and min(x1 - x0, y1 - y0) > LEAST_FACE:
            across, along = span("slope", (x1 - x0) / 2), span("slope", (y1 - y0) / 2)
            room = Room("onto", uses.MAT, box_sides((across, along, across, along)), (x1 - x0, y1 - y0), t)
            rooms |= {f"slope-{k}": room for k in range(1, int(sizes["sides"].length) + 1)}
        if sizes["storey"].length * half_flat(int(sizes["sides"].length)) > LEAST_FACE:
            half = self._top(sizes)
            reach = span("top", half)
            rooms["top"] = Room("onto", uses.MAT, box_sides((reach,) * 4), (2 * half, 2 * half), t)
        return rooms

    @staticmethod
    def _top(sizes: Sizes) -> float:
        """Half the largest square on the top, mm."""
        return Regular(int(sizes["sides"].length), sizes["storey"].length).square

    def _ring_piece(self, s: Situation, sizes: Sizes) -> tuple[Piece, Point]:
        """The ring that lies on the walls, its front down; and where its middle is."""
        n = int(sizes["sides"].length)
        apothem = sizes["plate"].length * half_flat(n)
        outer = Regular(n, sizes["plate"].length).corners
        share = 1 - self._ring(s, sizes) / apothem
        inner = [(x * share, y * share) for x, y in outer]
        panels = [
            Panel(f"ring-{k + 1}", "ring", (inner[k], outer[k], outer[(k + 1) % n], inner[(k + 1) % n]))
            for k in range(n)
        ]
        folds = [Fold(f"ring-{k + 1}", f"ring-{(k + 1) % n + 1}", 0.0, scored=False) for k in range(n)]
        panels, middle = moved(panels)
        return build_piece(f"{s.element}.ring", f"{s.name}, ring", s.paper, panels, folds), middle

    def _fan(self, s: Situation, sizes: Sizes) -> tuple[Piece, Point, float]:
        """The slopes side by side about their point, front up: feet at the eaves, a tab at the last hip, ledges under
        the storey. Gives the piece, where the point is, and the angle of a slope about it, radians."""
        n, t = int(sizes["sides"].length), s.paper.caliper
        shape, tab, foot = self._slope(sizes), sizes["tab"].length, self._lip(s, sizes)
        half, slant = sizes["plate"].length / 2, sizes["slant"].length
        far = slant * half / (half - sizes["storey"].length / 2)  # from the eaves to the point, over any storey
        alpha, turn, pitch = (
            2 * math.atan2(half, far),
            hip_turn(_pitch(sizes), 2 * math.pi / n),
            _pitch(sizes),
        )
        panels, folds = [], []
        slope_of = min(foot * math.tan(math.pi / n) + t, half - 1.0)
        feet = ((half - t, 0.0), (-half + t, 0.0), (-half + slope_of, -foot), (half - slope_of, -foot))
        (_, _), (x1, _), (x2, y2), (x3, _) = shape
        length = math.hypot(x2 - x1, y2)
        ux, uy = (x2 - x1) / length, y2 / length
        lo, hi = min(tab, length / 4), length - min(tab, length / 4)
        foot_of = min(tab / 2, length / 8)  # it stays clear of the ring
        lo = lo + foot_of
        whole = math.hypot(far, half)  # of the hip, up to the point
        # where the next slope is wider than the tab, and on the sheet the first one is further off
        hi = min(hi, far * (1 - 1.3 * tab / (2 * half)), whole - 1.25 * tab / self._gap(sizes))
        hip = (
            (x1 + ux * foot_of, uy * foot_of), (x1 + ux * lo + uy * tab, uy * lo - ux * tab),
            (x1 + ux * hi + uy * tab, uy * hi - ux * tab), (x2 - ux, y2 - uy),
        )  # fmt: skip
        ledge = _ledge(sizes)
        for k in range(n):
            name, angle = f"slope-{k + 1}", alpha * k
            panels.append(Panel(name, f"slope {k + 1}", about(shape, far, angle)))
            panels.append(Panel(f"foot-{k + 1}", f"foot {k + 1}", about(feet, far, angle)))
            folds.append(Fold(name, f"foot-{k + 1}", -(math.pi - pitch)))
            if k:
                folds.append(Fold(f"slope-{k}", name, -turn))
            if ledge > LEAST:
                in_ = min(ledge * math.tan(math.pi / n) + t, x2 - 0.5)
                shelf = ((x3, y2), (x2, y2), (x2 - in_, y2 + ledge), (x3 + in_, y2 + ledge))
                panels.append(Panel(f"ledge-{k + 1}", f"ledge {k + 1}", about(shelf, far, angle)))
                folds.append(Fold(name, f"ledge-{k + 1}", -pitch))
        panels.append(Panel("tab", "tab", about(hip, far, alpha * (n - 1))))
        folds.append(Fold(f"slope-{n}", "tab", -turn, settle=(t + s.glue) / max(math.sin(turn), 0.3)))
        panels, point = moved(panels)
        many = int(sizes["courses"].length)
        lows = [self._shingled(s, sizes) * k / many for k in range(many)]
        piece = build_piece(
            f"{s.element}.slopes", f"{s.name}, slopes", s.paper, panels, folds,
            marks=guides(self._slopes(sizes, point, alpha), lows),
            note="Close the last hip first, from below; then the feet go on the ring.",
        )  # fmt: skip
        return piece, point, alpha

    def _slopes(self, sizes: Sizes, point: Point, alpha: float) -> Slopes:
        n = int(sizes["sides"].length)
        turn = hip_turn(_pitch(sizes), 2 * math.pi / n)
        return Slopes(n, self._slope(sizes), _far(sizes), point, alpha, turn)

    def _shingled(self, s: Situation, sizes: Sizes) -> float:
        """How far up a slope shingles go, mm: under a deck they stop short."""
        under = (2 + sizes["courses"].length) * s.paper.caliper if sizes["storey"].length else 0.0
        return self._slope(sizes)[2][1] - under

    def _ridged(self, s: Situation, sizes: Sizes) -> float:
        """How far up a slope its ridge strips go, mm."""
        return self._shingled(s, sizes) - (2 * s.paper.caliper if sizes["storey"].length else 0.0)

    def _rims(self, s: Situation, sizes: Sizes) -> Piece:
        """A side of the rim: what is glued, and what hangs."""
        n, t = int(sizes["sides"].length), s.paper.caliper
        rim, lip = sizes["rim"].length, self._lip(s, sizes)
        length = 2 * self._rim_apothem(s, sizes) * math.tan(math.pi / n) - 2 * t
        slope = min(lip * math.tan(math.pi / n), length / 2 - 1.0)
        panels = [
            Panel("lip", "lip", ((0.0, 0.0), (length, 0.0), (length - slope, lip), (slope, lip))),
            Panel("rim", "rim", rectangle(0.0, -rim, length, 0.0)),
        ]
        return build_piece(
            f"{s.element}.rim", f"{s.name}, rim", s.paper, panels, [Fold("lip", "rim", math.pi / 2)], quantity=n,
            note="Set all of them with the roof upside down on its walls' plan: they find the walls.",
        )  # fmt: skip

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        """The ring, front down, the slopes on it; rims below, the top and shingles on the slopes."""
        s, t, n = situation, situation.paper.caliper, int(sizes["sides"].length)
        ring, middle = self._ring_piece(s, sizes)
        fan, point, alpha = self._fan(s, sizes)
        rim, theta = self._rims(s, sizes), 2 * math.pi / n
        pieces, apothem = [ring, fan, rim], sizes["plate"].length * half_flat(n)
        far, slant = _far(sizes), sizes["slant"].length
        slopes = self._slopes(sizes, point, alpha)
        shingled = courses(s, slopes, int(sizes["courses"].length), self._shingled(s, sizes))
        # the ring's front looks down: its panels run on clockwise seen from above, the slopes the other way round
        on_ring = (middle[0] + apothem - t, middle[1])
        eaves = (point[0] + far, point[1])  # of the first slope, in the middle
        instances = [
            Instance("ring", ring.id, Root("ring-1", middle, (0.0, -1.0), 1)),
            Instance("slopes", fan.id, Root("foot-1", eaves, (1.0, 0.0), 1),
                     Attach("ring", "ring-1", on_ring, (-1.0, 0.0), -1, t + s.glue)),
        ]  # fmt: skip
        joints = [Joint(("slopes", "tab"), ("slopes", "slope-1"), act="close the last hip", seam=True)]
        joints += [
            Joint(("ring", f"ring-{(n - k) % n + 1}"), ("slopes", f"foot-{k + 1}"), act="the ring on the feet",
                  on_contents=True, label="upside down: press the ring on the feet, a finger through its hole")
            for k in range(n)
        ]  # fmt: skip
        at, length = self._rim_apothem(s, sizes), rim.panel("rim").outline[1][0]
        for k in range(n):
            out = (math.cos(theta * k), math.sin(theta * k))
            origin = (middle[0] + at * out[0], middle[1] + at * out[1])
            on = Attach("ring", f"ring-{k + 1}", origin, (-out[0], -out[1]), 1, t + s.glue)
            instances.append(Instance(f"rim-{k + 1}", rim.id, Root("lip", (length / 2, 0.0)), on))
        if any(p.name == "ledge-1" for p in fan.panels):
            deck, centre = self._deck(s, sizes)
            pieces.append(deck)
            over = (eaves[0] - slant - sizes["storey"].length * half_flat(n), point[1])
            on = Attach("slopes", "ledge-1", over, (-1.0, 0.0), 1, t + s.glue)
            instances.append(Instance("deck", deck.id, Root("deck", centre, (-1.0, 0.0)), on))
            joints += [
                Joint(("deck", "deck"), ("slopes", f"ledge-{k + 1}"), act="deck on the ledges") for k in range(n)
            ]
        for number, (course, low) in enumerate(shingled, 1):
            pieces.append(course)
            wide = course.panels[0].outline[1][0]
            for k in range(n):
                out = (math.cos(alpha * k), math.sin(alpha * k))
                origin = (point[0] + (far - low) * out[0], point[1] + (far - low) * out[1])
                on = Attach("slopes", f"slope-{k + 1}", origin, (-out[0], -out[1]), 1, number * t + s.glue)
                instances.append(Instance(f"course-{number}-{k + 1}", course.id, Root("course", (wide / 2, 0.0)), on))
                if number > 1:  # it is drawn lying on the whole of the one below
                    this, below = (f"course-{number}-{k + 1}", "course"), (f"course-{number - 1}-{k + 1}", "course")
                    joints += [
                        Joint(this, below, label="its head on the slope, its foot over the course below"),
                        Joint(this, ("slopes", f"slope-{k + 1}"), "free"),
                    ]
        hints: tuple[Hint, ...] = ()
        if sizes["ridge"].length:
            up = self._ridged(s, sizes)
            more, copies, glued = ridge_strips(s, slopes, sizes["ridge"].length, len(shingled), up)
            pieces, instances, joints = [*pieces, *more], [*instances, *copies], [*joints, *glued]
            hints = tuple(Hint("close the last hip", one.name, "the hips are closed first") for one in glued)
        mounts = self._mounts(s, sizes, point, alpha, rooms)
        return Part(
            s.element, s.name, tuple(pieces), tuple(instances), tuple(mounts), gaps=tuple(self._gaps(s, sizes, pieces)),
            joints=tuple(joints), hints=hints,
        )  # fmt: skip

    def _deck(self, s: Situation, sizes: Sizes) -> tuple[Piece, Point]:
        n, side = int(sizes["sides"].length), sizes["storey"].length
        panels, middle = moved([Panel("deck", "top", tuple(Regular(n, side).corners))])
        return build_piece(f"{s.element}.deck", f"{s.name}, top", s.paper, panels), middle

    def _mounts(self, s: Situation, sizes: Sizes, point: Point, alpha: float, rooms: Mapping[str, Room]) -> list[Mount]:
        n, t, far, labels = int(sizes["sides"].length), s.paper.caliper, _far(sizes), dict(self.faces)
        mounts = []
        if "slope-1" in rooms:
            x0, y0, x1, y1 = largest_level(self._bare(sizes))
            outline = rectangle((x0 - x1) / 2, (y0 - y1) / 2, (x1 - x0) / 2, (y1 - y0) / 2)
            for k in range(n):
                out = (math.cos(alpha * k), math.sin(alpha * k))
                off = far - (y0 + y1) / 2
                name, origin = f"slope-{k + 1}", (point[0] + off * out[0], point[1] + off * out[1])
                mounts.append(Mount(name, labels[name], "slopes", name, 1, origin, (-out[0], -out[1]), outline, t / 2))
        if "top" in rooms:
            half, centre = self._top(sizes), self._deck(s, sizes)[1]
            square = rectangle(-half, -half, half, half)
            mounts.append(Mount("top", labels["top"], "deck", "deck", 1, centre, (0.0, 1.0), square, t / 2))
        return mounts

    def _gaps(self, s: Situation, sizes: Sizes, pieces: list[Piece]) -> list[Gap]:
        e, tab = s.element, sizes["tab"].length
        gaps = [
            sheet_gap(e, piece.name, s.paper, piece.size, tuple((Term("size", x),) for x in piece.size))
            for piece in pieces
        ]
        inside = Span((
            Term("between the walls", 2 * self._inside(s, sizes)),
            Term("rim and its sheet", -2 * self._rim_apothem(s, sizes) - s.paper.caliper, Lever(e, "play", 1.0)),
        ))  # fmt: skip
        gaps.append(fit_gap(s, SEAT, (f"{s.name}, rim", "walls"), inside))
        gaps.append(fit_gap(s, uses.GLUE, (f"{s.name}, tab", "glue"), span("tab", tab, e, "tab")))
        lip = self._lip(s, sizes)
        gaps.append(fit_gap(s, uses.GLUE, (f"{s.name}, rim's lip", "glue"), Span((Term("lip", lip),))))
        return gaps


FAMILY = Roof()
