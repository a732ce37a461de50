"""Box card: a tube of four walls with cross strips that folds flat and pops up square."""

from __future__ import annotations

import math
from collections.abc import Mapping

from yawning_lantern.assembly import (
    Attach,
    Closure,
    Gap,
    Hint,
    Instance,
    Joint,
    Loop,
    Mount,
    Part,
    Room,
    Root,
    Span,
    Swing,
    Term,
    span,
    uses,
)
from yawning_lantern.measure import inches, snap
from yawning_lantern.pattern import Fold, Piece, ScoreFlag, build_piece
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes
from yawning_lantern.structures.kit.lying import LEAST, TAB, Lying, extent, face_mount, fit_gap, most_of, row, within
from yawning_lantern.structures.kit.shell import lever_term
from yawning_lantern.structures.kit.solving import face_room, length_of, positive, sheet_gap

MOST = 3  # strips at most
LEAST_STRIP = 6.0
"""A lower strip is none that stands across a box, mm. From memory."""
STRIP, SPREAD = 0.3, 0.6
"""Of a wall's height a strip is so high where there are few; and so much of what is left lies between the first and the
last. From memory."""
WALLS = ("back", "right", "front", "left")
_SQUARE = "pop"


class BoxCard(Lying):
    """Walls a, b, a, b: it folds flat where the two pairs of neighbours are equal. Strips cross from side to side."""

    id = "box-card"
    name = "Box card"
    about = "A tube of four walls with strips across: it lies flat in an envelope and pops up square."
    shelf = "Boxes"
    footprint = ("flat-width", "wall-height")
    levers = ("box-width", "wall-height")
    headline = ("box-width", "box-depth", "wall-height")
    faces = (
        *((f"wall-{name}", f"{name} wall, outside") for name in WALLS),
        *((f"strip-{k + 1}", f"strip {k + 1}, front") for k in range(MOST)),
    )
    parameters = (
        Parameter("box-width", "Box, width", "length", "Front and back wall.", "Box", 10.0),
        Parameter("box-depth", "Box, depth", "length", "Side walls.", "Box", 10.0),
        Parameter("wall-height", "Wall height", "length", "Foot to head.", "Box", 10.0),
        Parameter(
            "left-depth", "Left wall", "length", "As deep as the right wall, or it does not fold flat.", "Box", 10.0
        ),
        Parameter("tab", "Tab", "length", "Glued inside the back wall.", "Box", 3.0, default=TAB),
        Parameter("strips", "Strips", "count", "How many cross from side to side.", "Strips", 0, MOST, default=2),
        Parameter("strip-height", "Strip height", "length", "Foot to head.", "Strips", LEAST_STRIP),
        Parameter("strip-tab", "Strip tab", "length", "Glued inside the side walls.", "Strips", 3.0),
        Parameter("flat-width", "Width when flat", "length", "What an envelope must hold.", "Box", derived=True),
    )

    def size(self, situation: Situation) -> dict[str, Sized]:
        """Walls and strips. Raises ParameterError where nothing is left to fold."""
        s, given = situation, situation.given
        flat = extent(s, "flat-width", 0, inches(5.5))
        wide = length_of(given, "box-width", snap(flat.length * 0.6, s.cut.grid, "down").value, flat.origin)
        deep = length_of(given, "box-depth", snap(flat.length - wide.length, s.cut.grid, "down").value, flat.origin)
        sizes: dict[str, Sized] = {
            "box-width": wide,
            "box-depth": deep,
            "wall-height": extent(s, "wall-height", 1, inches(4)),
            "left-depth": length_of(given, "left-depth", deep.length, "auto"),
        }
        sizes["strips"] = most_of(s, "strips", 2, self._most(deep.length, sizes["wall-height"].length))
        n = sizes["strips"].length
        least = snap(deep.length / (n + 1) * 0.8, s.cut.grid, "down").value
        sizes["tab"] = length_of(given, "tab", min(TAB, snap(wide.length / 2, s.cut.grid, "down").value), "auto")
        within(sizes, "tab", "Tab", wide.length, "the back wall")
        sizes["strip-tab"] = length_of(given, "strip-tab", min(TAB, max(least, LEAST)), "auto")
        high = snap(sizes["wall-height"].length * (STRIP if n < 3 else 0.2), s.cut.grid, "down").value
        sizes["strip-height"] = length_of(given, "strip-height", max(high, LEAST_STRIP), "auto")
        for name in ("box-width", "box-depth", "wall-height"):
            positive(sizes[name].length, name, "Give the card more room.")
        sizes["flat-width"] = Sized(wide.length + deep.length, wide.origin if "box-width" in given else flat.origin)
        return sizes

    @staticmethod
    def _most(deep: float, high: float) -> int:
        """As many strips as are usual, or as there is room for in a small box: beside one another, and one over the
        other when it is flat."""
        strip = max(STRIP * high, LEAST_STRIP)
        two = deep / 3 > LEAST + 0.5 and SPREAD * (high - strip) > strip
        return 2 if two else 1 if deep / 2 > LEAST and high > strip else 0

    def thickness(self, s: Situation, sizes: Sizes) -> Span:
        """Two walls and what lies between them: a strip on its tab, or the seam's tab; strips lie side by side."""
        under, over = s.bulk_on("wall-back", "wall-right"), s.bulk_on("wall-front", "wall-left")
        walls = span("two walls", 2 * s.paper.caliper)
        return walls.plus(Term("between the walls", self._inside(s, sizes)), Term("bulk on the walls", under + over))

    @staticmethod
    def _on_strips(s: Situation, sizes: Sizes) -> float:
        """The most that is on a strip, mm."""
        return max((s.bulk_on(f"strip-{k + 1}") for k in range(int(sizes["strips"].length))), default=0.0)

    def _inside(self, s: Situation, sizes: Sizes) -> float:
        """What lies between the walls when it is folded flat, mm."""
        if not sizes["strips"].length:
            return s.paper.caliper + s.glue
        return 2 * (s.paper.caliper + s.glue) + self._on_strips(s, sizes)

    def rooms(self, situation: Situation, sizes: Sizes) -> dict[str, Room]:
        """Outsides of the walls and fronts of the strips."""
        t, e = situation.paper.caliper, situation.element
        wide, deep, high = (sizes[n].length for n in ("box-width", "box-depth", "wall-height"))
        rooms = {
            f"wall-{name}": face_room(
                wide if name in ("back", "front") else deep, high, t, e,
                ("box-width" if name in ("back", "front") else "box-depth", "wall-height"), f"{name} wall",
            )
            for name in WALLS
        }  # fmt: skip
        for k in range(int(sizes["strips"].length)):
            rooms[f"strip-{k + 1}"] = face_room(
                wide, sizes["strip-height"].length, t, e, ("box-width", "strip-height"), f"strip {k + 1}"
            )
        return rooms

    def _pieces(self, s: Situation, sizes: Sizes) -> tuple[Piece, Piece | None]:
        wide, deep, high, left = (sizes[n].length for n in ("box-width", "box-depth", "wall-height", "left-depth"))
        n = int(sizes["strips"].length)
        inside = self._inside(s, sizes)
        at_seam = inside - s.paper.caliper - s.glue
        tube = build_piece(
            f"{s.element}.tube", f"{s.name}, tube", s.paper,
            row(
                (
                    ("back", "back wall", wide), ("right", "right wall", deep), ("front", "front wall", wide),
                    ("left", "left wall", left), ("tab", "tab", sizes["tab"].length),
                ),
                0.0, high,
            ),
            [
                Fold("back", "right", -1e-9), Fold("right", "front", -math.pi, wrap=inside),
                Fold("front", "left", -1e-9), Fold("left", "tab", -math.pi, wrap=at_seam),
            ],
            flags=(ScoreFlag("x", wide, "box-width", 1.0), ScoreFlag("x", wide + deep, "box-depth", 1.0)),
            note="Glue the strips in while it lies flat, then the tab inside the back wall.",
        )  # fmt: skip
        if not n:
            return tube, None
        tab = sizes["strip-tab"].length
        strip = build_piece(
            f"{s.element}.strip", f"{s.name}, strip", s.paper,
            row((("tab-right", "tab", tab), ("span", "strip", wide), ("tab-left", "tab", tab)), 0.0,
                sizes["strip-height"].length),
            [Fold("tab-right", "span", -math.pi), Fold("span", "tab-left", -1e-9)],
            quantity=n, note="Glue the tabs inside the side walls, towards the back.",
        )  # fmt: skip
        return tube, strip

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        """Tube and strips; the back wall lies on the host."""
        s, e, t = situation, situation.element, situation.paper.caliper
        wide, deep, high, left = (sizes[n].length for n in ("box-width", "box-depth", "wall-height", "left-depth"))
        tab, half = sizes["tab"].length, t / 2
        tube, strip = self._pieces(s, sizes)
        centre = ((wide + deep) / 2, high / 2)
        instances = [
            Instance("tube", tube.id, Root("back", centre, touch=1, away=s.bulk_on("wall-back", "wall-right")))
        ]
        edge = 2 * wide + deep + left
        glued = [
            ((edge + along, up, half + s.glue), (along, up, -half))
            for along, up in ((0.0, 0.0), (0.0, high), (tab, 0.0))
        ]
        closures = [Closure("tab inside the back wall", ("tube", "tab"), ("tube", "back"), tuple(glued))]
        q = math.pi / 4
        unknowns = [(("tube", name, 1.0),) for name in ("right/front", "front/left", "left/tab")]
        start = [-math.pi + q, -q, -math.pi + q]
        n, low = int(sizes["strips"].length), sizes["strip-height"].length
        for k in range(n):
            assert strip is not None
            at = deep * (k + 1) / (n + 1)  # from the back wall
            foot = max(0.0, (high - low) * (0.75 - SPREAD * k / max(n - 1, 1)) if n > 1 else (high - low) / 2)
            width = sizes["strip-tab"].length
            instances.append(
                Instance(
                    f"strip-{k + 1}", strip.id, Root("tab-right", (width, 0.0), touch=1),
                    Attach("tube", "right", (wide + at, foot), (0.0, 1.0), -1, t + s.glue),
                )
            )  # fmt: skip
            begin = 2 * wide + deep + left - at
            pairs = tuple(
                (
                    (width + wide + along, up, half + s.glue + self._on_strips(s, sizes)),
                    (begin + along, foot + up, -half),
                )
                for along, up in ((0.0, 0.0), (0.0, low), (width, 0.0))
            )
            closures.append(
                Closure(f"strip {k + 1} on the left wall", (f"strip-{k + 1}", "tab-left"), ("tube", "left"), pairs)
            )
            unknowns += [((f"strip-{k + 1}", name, 1.0),) for name in ("tab-right/span", "span/tab-left")]
            start += [-math.pi + q, -q]
        loop = Loop("tube", _SQUARE, tuple(unknowns), tuple(start), tuple(closures), 0.5)
        joints = [
            Joint(("tube", "tab"), ("tube", "back"), act="close the tube", label="tab inside the back wall", seam=True)
        ]
        strips = [
            Joint((f"strip-{k + 1}", f"tab-{hand}"), ("tube", hand), act=f"strip {k + 1}, {hand}")
            for k in range(n) for hand in ("right", "left")
        ]  # fmt: skip
        joints += strips
        hints = tuple(Hint(one.act, "close the tube", "strips go in while the tube lies flat") for one in strips)
        swing = Swing(_SQUARE, f"{s.name} pops up", (("tube", "back/right", -math.pi / 2),))
        return Part(
            e, s.name, (tube,) if strip is None else (tube, strip), tuple(instances),
            tuple(self._mounts(s, sizes, tube, strip)), (swing,), tuple(self._gaps(s, sizes, tube)), loops=(loop,),
            joints=tuple(joints), hints=hints,
        )  # fmt: skip

    @staticmethod
    def _mounts(s: Situation, sizes: Sizes, tube: Piece, strip: Piece | None) -> list[Mount]:
        t = s.paper.caliper
        mounts = [face_mount(f"wall-{n}", f"{n} wall, outside", "tube", tube.panel(n), 1, t) for n in WALLS]
        for k in range(int(sizes["strips"].length)):
            assert strip is not None
            name = f"strip-{k + 1}"
            mounts.append(face_mount(name, f"strip {k + 1}, front", name, strip.panel("span"), 1, t))
        return mounts

    def _gaps(self, s: Situation, sizes: Sizes, tube: Piece) -> list[Gap]:
        e = s.element
        wide, deep, high, left = (sizes[n].length for n in ("box-width", "box-depth", "wall-height", "left-depth"))
        right_wall, left_wall = span("right wall", deep, e, "box-depth"), span("left wall", left, e, "left-depth")
        pairs = right_wall - left_wall if left > deep else left_wall - right_wall  # below zero: it does not fold flat
        sides: tuple[Term, ...] = (
            lever_term("sides", deep + left, e, "box-depth", 2.0),
        )  # the left wall follows unless it is given
        if "left-depth" in s.given:
            sides = (lever_term("right wall", deep, e, "box-depth"), lever_term("left wall", left, e, "left-depth"))
        n, low, width = int(sizes["strips"].length), sizes["strip-height"].length, sizes["strip-tab"].length
        gaps = [
            fit_gap(s, uses.FLAT_TUBE, (f"{s.name}, neighbours in pairs", "folded flat"), pairs),
            sheet_gap(
                e, tube.name, s.paper, tube.size,
                (
                    (
                        lever_term("front and back", 2 * wide, e, "box-width", 2.0),
                        *sides,
                        lever_term("tab", sizes["tab"].length, e, "tab"),
                    ),
                    (lever_term("wall", high, e, "wall-height"),),
                ),
            ),
        ]  # fmt: skip
        if n:
            gaps.append(
                fit_gap(
                    s, uses.SPARE, (f"{s.name}, strip", "wall"),
                    span("wall", high, e, "wall-height") - span("strip", low, e, "strip-height"),
                )
            )  # fmt: skip
            if n > 1:
                share = SPREAD / (n - 1)  # of what the wall leaves above a strip, from strip to strip
                beside = span("strips' places", share * high, e, "wall-height", share) - span(
                    "strip", low * (1 + share), e, "strip-height", 1 + share
                )
                gaps.append(fit_gap(s, uses.SPARE, (f"{s.name}, strips", "one over the other when flat"), beside))
            gaps.append(
                fit_gap(
                    s, uses.SPARE, (f"{s.name}, strip tab", "next strip"),
                    span("side wall", deep / (n + 1), e, "box-depth", 1 / (n + 1)) - span("tab", width, e, "strip-tab"),
                )
            )  # fmt: skip
        return gaps


FAMILY = BoxCard()
