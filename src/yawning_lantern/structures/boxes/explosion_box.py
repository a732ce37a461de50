"""Explosion box: a cross of base and walls that falls open; layers nest inside it, corner squares can be pockets."""

from __future__ import annotations

import math
from collections.abc import Mapping

from yawning_lantern.assembly import Need, Part, Relation, Room, Side, Span, Term, box_sides, span, uses
from yawning_lantern.assembly.room import SIDE_NAMES, TOP, TOP_AROUND
from yawning_lantern.errors import ParameterError
from yawning_lantern.measure import inches, snap, told
from yawning_lantern.structures.kit.around import AROUND, around_room
from yawning_lantern.structures.kit.cross import (
    TAG_LESS,
    Cross,
    build_cross,
    pocket_bulk,
    pocket_width,
    star_base,
    under_base,
    wall_names,
)
from yawning_lantern.structures.kit.declare import GuestNeed, Parameter, Situation, Sized, Sizes, Start
from yawning_lantern.structures.kit.regular import half_flat
from yawning_lantern.structures.kit.shell import inner_reach, outer_reach
from yawning_lantern.structures.kit.solving import (
    CONTENT_PARAMETERS,
    HEADROOM,
    LID_PARAMETER,
    as_given,
    between_walls,
    down_to_cut,
    face_room,
    facing_wall,
    given_length,
    guests_want,
    length_of,
    positive,
    tallest_inside,
    up_to_cut,
    up_to_score,
    word_of,
)

STEP_HABIT = inches(1 / 2)
"""The base shrinks by this much a layer, mm: trade habit 1/2 to 1. Common practice, no source."""
MOST = 12
"""The most walls."""
LAYER_PLAY = inches(1 / 32)
"""The least room between two layers, per side, mm. Common practice, no source."""


class ExplosionBox:
    """A cross with n walls, scored round its base."""

    id = "explosion-box"
    name = "Explosion box"
    about = "A cross whose walls fall open when the lid is lifted; layers nest in it, corners can be pockets."
    shelf = "Boxes"
    relation: Relation = "inside"
    headline = ("base", "base-depth", "wall")
    starts: tuple[Start, ...] = ("contents", "size", "sheet")
    faces = (
        ("floor", "floor, inside"),
        ("mouth", "over the walls"),
        (AROUND, "around the walls"),
        *((f"{side}-{face}", f"{side} wall, {face}") for side in SIDE_NAMES for face in ("inside", "outside")),
        *((f"wall-{k + 1}-{face}", f"wall {k + 1}, {face}") for k in range(MOST) for face in ("inside", "outside")),
    )
    parameters = (
        Parameter("base", "Base", "length", "Side of the base, score to score.", least=3.0),
        Parameter("base-depth", "Base, depth", "length", "Front to back, where the base is no square.", least=3.0),
        Parameter("wall", "Wall height", "length", "From the score to the edge.", least=3.0, scored=True),
        Parameter("sides", "Walls", "count", "How many walls stand round the base.", least=3, most=MOST, default=4),
        *CONTENT_PARAMETERS,
        Parameter("sheet", "Sheet", "length", "Side of the square sheet to use whole.", "Sheet", 10.0),
        Parameter(
            "layers",
            "Layers",
            "count",
            "How many boxes stand in one another.",
            "Layers",
            1,
            8,
            default=1,
            structural=True,
        ),
        Parameter(
            "layer-step",
            "Layer step",
            "length",
            "How much closer opposite walls of the next layer stand: with four walls, how much smaller its base is.",
            "Layers",
        ),
        Parameter(
            "layer-walls",
            "Walls of layers",
            "word",
            "same: every layer is scored at the same distance. lower: sheet and walls shrink together.",
            "Layers",
            words=("same", "lower"),
            default="same",
        ),
        Parameter(
            "wall-step",
            "Wall step",
            "length",
            "How much lower the next layer's walls are, where they shrink.",
            "Layers",
        ),
        Parameter(
            "layer-turn",
            "Turn of layers",
            "word",
            "quarter: each layer is turned against the last; pockets then face clear walls. none: it lies as the last.",
            "Layers",
            words=("quarter", "none"),
            default="quarter",
            structural=True,
        ),
        Parameter(
            "corner",
            "Corners",
            "word",
            "plain: corner squares are cut away. pocket: kept on two walls, cut on the diagonal and folded in.",
            "Corners",
            words=("plain", "pocket"),
            default="plain",
        ),
        Parameter(
            "tags",
            "Tags",
            "word",
            "Whether each pocket wall gets a tag.",
            "Corners",
            words=("yes", "no"),
            default="yes",
        ),
        Parameter("tag-width", "Tag width", "length", "Width of a pocket's tag.", "Corners", 3.0),
        Parameter("tag-height", "Tag height", "length", "Height of a pocket's tag.", "Corners", 3.0),
        Parameter(
            "piecing",
            "Pieces",
            "word",
            "one: a whole cross. three: three walls on the cross, one joined. pieced: a strip, two walls joined. "
            "auto: as the sheet asks.",
            "Sheet",
            words=("auto", "one", "three", "pieced"),
            default="auto",
        ),
        LID_PARAMETER,
        Parameter("cross", "Cross, overall", "length", "The square that the cross is cut from.", "Sheet", derived=True),
    )

    def size(self, situation: Situation) -> dict[str, Sized]:
        """Base, walls, layers and pockets. Raises ParameterError where they make no box."""
        s, given = situation, situation.given
        sides = Sized(given["sides"], "given") if "sides" in given else Sized(4, "default")
        corner = word_of(given, "corner", "plain")
        four = sides.value == 4
        if not four and corner.value == "pocket":
            raise ParameterError(
                "Corner pockets need four walls: other corners are no squares.",
                "Corners",
                "Set the walls to 4, or the corners to plain and put pockets on the walls.",
            )
        if not four and "base-depth" in given:
            raise ParameterError(
                "Only a box of four walls can be deeper than wide.",
                "Base, depth",
                "Set the walls to 4, or leave the depth out.",
            )
        sizes: dict[str, Sized] = {
            "sides": sides,
            "corner": corner,
            "tags": word_of(given, "tags", "yes"),
            "layer-walls": word_of(given, "layer-walls", "same"),
            "piecing": word_of(given, "piecing", "auto"),
            "content-play": length_of(given, "content-play", inches(1 / 8)),
        }
        layer = self._layer(s)
        sizes["layers"] = Sized(1 + (layer.need.layers if layer else 0), "auto" if layer else "default")
        lower = sizes["layer-walls"].value == "lower"
        sizes["wall-step"] = length_of(given, "wall-step", self._wall_step(s) if lower else 0.0, "auto")
        sizes |= as_given(given, "content-width", "content-depth", "content-height", "sheet")
        sizes["wall"] = self._wall(s, sizes, layer)
        for axis, name in enumerate(("base", "base-depth")):
            sizes[name] = self._base(s, sizes, layer, axis)
        if sizes["base"].origin == "given" and sizes["base-depth"].origin == "default":
            sizes["base-depth"] = Sized(sizes["base"].length, "auto")
        if not four:
            sizes["base-depth"] = Sized(sizes["base"].length, "auto")
        positive(sizes["base"].length, "base", "Make the walls lower, the step smaller or the sheet larger.")
        positive(
            sizes["base-depth"].length, "base's depth", "Make the walls lower, the step smaller or the sheet larger."
        )
        positive(sizes["wall"].length, "wall", "Make the base smaller or the sheet larger.")
        sizes["layer-step"] = self._step_shown(s, sizes, layer)
        if corner.value == "pocket":
            self._tag(s, sizes)
        sizes["cross"] = Sized(max(Cross.of(s, sizes).size), "auto")
        return sizes

    @staticmethod
    def _layer(s: Situation) -> GuestNeed | None:
        return next((g for g in s.on("floor") if g.need.use == uses.LAYER), None)

    @staticmethod
    def _fills_layer(s: Situation, sizes: Sizes) -> bool:
        """Whether it is a layer in a box with as many walls: it then follows that box, not what stands in it."""
        return s.room is not None and s.room.per_side and len(s.room.sides) == int(sizes["sides"].length)

    @staticmethod
    def _wall_step(s: Situation) -> float:
        return snap(2 * s.paper.caliper, s.score.grid, "up").value

    def _wall(self, s: Situation, sizes: Sizes, layer: GuestNeed | None) -> Sized:
        given, t = s.given, s.paper.caliper
        content, sheet, base = (given_length(given, k) for k in ("content-height", "sheet", "base"))
        if (own := given_length(given, "wall")) is not None:
            return Sized(own, "given")
        if content is not None:
            return up_to_score(s, content + t / 2 + HEADROOM, "auto")
        if sheet is not None and base is not None:
            return Sized((sheet - base) / 2, "auto")
        if sheet is not None:
            return Sized(snap(sheet / 3, s.score.grid, "nearest").value, "auto", sheet / 3)
        if self._fills_layer(s, sizes) and s.room is not None and s.room.wall is not None:
            return Sized(s.room.wall - s.room.wall_step, "fill")
        if layer is not None and layer.need.wall is not None:
            return Sized(layer.need.wall + sizes["wall-step"].length, "auto")
        tallest = tallest_inside(s, inches(3) if base is None else base, layered=True)
        if tallest:
            return up_to_score(s, tallest + t / 2 + HEADROOM, "auto")
        if s.room is not None and s.room.height is not None:
            exact = s.room.height.value - s.room.intrudes - t / 2 - s.lid_rise()
            return Sized(snap(exact, s.score.grid, "down").value, "fill", exact)
        return Sized(inches(3) if base is None else base, "default")

    def _base(self, s: Situation, sizes: Sizes, layer: GuestNeed | None, axis: int) -> Sized:
        given, t = s.given, s.paper.caliper
        name = ("base", "base-depth")[axis]
        content, sheet = given_length(given, "content-width"), given_length(given, "sheet")
        if axis == 1:
            content = given_length(given, "content-depth") or content
        if sizes["sides"].value == 4:
            bulk = sum(self._bulk(s, sizes, side, "inside") for side in (("right", "left"), ("back", "front"))[axis])
        else:
            bulk = 2 * self._most_bulk(s, sizes, "inside") * self._across(sizes)
        if (own := given_length(given, name)) is not None:
            return Sized(own, "given")
        if axis == 1 and given_length(given, "base") is not None:
            return Sized(sizes["base"].length, "auto")
        if content is not None and sizes["sides"].value == 4:
            return up_to_cut(s, content + t + bulk + sizes["content-play"].length, "auto")
        if content is not None and "content-width" in sizes:
            return self._polygon_base(s, sizes)
        if sheet is not None and sizes["sides"].value == 4:
            return Sized(sheet - 2 * sizes["wall"].length, "auto")
        if sheet is not None:
            return down_to_cut(s, star_base(int(sizes["sides"].length), sizes["wall"].length, sheet), "auto")
        if self._fills_layer(s, sizes):
            return self._fill(s, sizes, axis)
        if layer is not None and (inner := layer.need.nominal[(axis + layer.turn) % 2]) is not None:
            return up_to_cut(
                s, inner + self._step(s, sizes, layer.need.caliper, layer.need.bulk) * self._across(sizes), "auto"
            )
        wanted = guests_want(s, axis)
        if wanted is not None:
            return up_to_cut(s, wanted + t + bulk, "auto")
        if s.room is not None:
            return self._fill(s, sizes, axis)
        if given_length(given, "wall") is not None:
            return Sized(sizes["wall"].length, "default")
        return Sized(inches(3), "default")

    def _polygon_base(self, s: Situation, sizes: Sizes) -> Sized:
        """Side of the regular polygon whose inside takes the contents' rectangle (its support in every direction)."""
        n = int(sizes["sides"].length)
        w = sizes["content-width"].length + sizes["content-play"].length
        d = sizes.get("content-depth", sizes["content-width"]).length + sizes["content-play"].length
        need = max(
            w / 2 * abs(math.cos(k * 2 * math.pi / n)) + d / 2 * abs(math.sin(k * 2 * math.pi / n)) for k in range(n)
        )
        need += self._most_bulk(s, sizes, "inside")
        return up_to_cut(s, (need + s.paper.caliper / 2) / half_flat(n), "auto")

    def _fill(self, s: Situation, sizes: Sizes, axis: int) -> Sized:
        room, t = s.room, s.paper.caliper
        assert room is not None
        bulk = self._most_bulk(s, sizes, "outside") + s.lid_overhang()
        n = int(sizes["sides"].length)
        if room.per_side and len(room.sides) == n:
            needed = self._least_step(s, t, room.caliper, bulk, room.bulk)
            step = room.step if room.step is not None else max(STEP_HABIT, snap(needed, s.cut.grid, "up").value)
            exact = room.nominal[axis] - step * self._across(sizes)
            return Sized(exact, "fill") if n == 4 else down_to_cut(s, exact, "fill")
        clear = 2 * min(side.reach.value for side in room.sides)
        if n == 4 and len(room.sides) == 4:
            clear = sum(side.reach.value for side in room.sides[axis::2])
        if n != 4:  # its corners lie on the circle that touches the room's walls
            inside = (clear / 2 - LAYER_PLAY) * math.cos(math.pi / n) - t / 2 - bulk
            return down_to_cut(s, inside / half_flat(n), "fill")
        return Sized(snap(clear - t - 2 * bulk - 2 * LAYER_PLAY, s.cut.grid, "down").value, "fill")

    @staticmethod
    def _least_step(s: Situation, t: float, other: float, bulk_a: float, bulk_b: float) -> float:
        return t + other + 2 * (bulk_a + bulk_b) + 2 * LAYER_PLAY

    @staticmethod
    def _across(sizes: Sizes) -> float:
        """What a side of the base changes when the distance between opposite walls changes by one."""
        return math.tan(math.pi / int(sizes["sides"].length))

    def _step(self, s: Situation, sizes: Sizes, caliper: float, bulk: float) -> float:
        """Nominal base less the next layer's: as given, else the habit, else what sheets and bulk need. mm."""
        own = given_length(s.given, "layer-step")
        if own is not None:
            return own
        needed = self._least_step(s, s.paper.caliper, caliper, bulk, self._most_bulk(s, sizes, "inside"))
        return max(STEP_HABIT, snap(needed, s.cut.grid, "up").value)

    def _step_shown(self, s: Situation, sizes: Sizes, layer: GuestNeed | None) -> Sized:
        caliper, bulk = (layer.need.caliper, layer.need.bulk) if layer else (s.paper.caliper, 0.0)
        return Sized(self._step(s, sizes, caliper, bulk), "given" if "layer-step" in s.given else "auto")

    def _bulk(self, s: Situation, sizes: Sizes, side: str, face: str) -> float:
        pocket = pocket_bulk(s, sizes, side) if face == "inside" else 0.0
        return pocket + s.bulk_on(f"{side}-{face}")

    def _most_bulk(self, s: Situation, sizes: Sizes, face: str) -> float:
        return max(self._bulk(s, sizes, side, face) for side in wall_names(sizes))

    @staticmethod
    def _tag(s: Situation, sizes: dict[str, Sized]) -> None:
        """Tag sizes: what the pocket holds less 1/8 across, rounded down."""
        inside, deep = pocket_width(s, sizes), Cross.pocket_depth(sizes)
        for name, room in (("tag-width", inside), ("tag-height", deep)):
            exact = room - TAG_LESS
            sizes[name] = length_of(s.given, name, snap(exact, s.cut.grid, "down").value, "auto")
            if sizes[name].length < 3.0 and sizes["tags"].value == "yes":
                raise ParameterError(
                    f"The corner pockets are too small for a tag ({told(room)}).",
                    "Corners",
                    "Set tags to no, or the corners to plain.",
                )

    def _sides(self, s: Situation, sizes: Sizes, face: str) -> tuple[Side, ...]:
        e, t, n = s.element, s.paper.caliper, int(sizes["sides"].length)
        reach = inner_reach if face == "inside" else outer_reach
        if n == 4:
            return box_sides(
                reach(e, s.name, sizes[name].length, self._lever(s, name), t, self._bulk(s, sizes, side, face))
                for side, name in zip(SIDE_NAMES, ("base", "base-depth", "base", "base-depth"), strict=True)
            )
        half = half_flat(n)
        sign = -1.0 if face == "inside" else 1.0
        return tuple(
            Side(
                f"wall {k + 1}",
                2 * math.pi * k / n,
                span(f"{s.name} apothem", sizes["base"].length * half, e, "base", half).plus(
                    Term("sheet", sign * t / 2),
                    Term(f"bulk {face}", sign * self._bulk(s, sizes, f"wall-{k + 1}", face)),
                ),
            )
            for k in range(n)
        )

    def _outermost(self, s: Situation, sizes: Sizes) -> tuple[Side, ...]:
        """Its outside, and a lid that stands out further."""
        lid = Term("its lid", s.lid_overhang())
        return tuple(Side(side.name, side.angle, side.reach.plus(lid)) for side in self._sides(s, sizes, "outside"))

    @staticmethod
    def _lever(s: Situation, name: str) -> str:
        return name if name in s.given else "base"

    def need(self, situation: Situation, sizes: Sizes) -> Need:
        """Its outside as a layer; open while needs go up if nothing in or on it settles its base."""
        s, t = situation, situation.paper.caliper
        settled = s.room is not None or all(sizes[n].origin in ("given", "auto") for n in ("base", "base-depth"))
        high = s.room is not None or sizes["wall"].origin in ("given", "auto")
        height: Span | None = None
        if high:
            height = span("layer wall", sizes["wall"].length, s.element, "wall").plus(
                Term("half a sheet", t / 2),
                Term("tabs under its base", under_base(s, sizes)),
                Term("its lid", s.lid_rise()),
            )
        lower = s.room is not None and s.room.wall_step > 0
        below = (t + s.room.caliper) / 2 if s.room is not None else t  # it stands on a sheet of its host's
        level = (-below - s.glue - 0.05 - s.lid_rise() - under_base(s, sizes), inches(1 / 8))
        nominal = (sizes["base"].length, sizes["base-depth"].length) if settled else (None, None)
        return Need(
            "inside",
            uses.LAYER,
            self._outermost(s, sizes) if settled else (),
            nominal,
            t,
            self._most_bulk(s, sizes, "outside") + s.lid_overhang(),
            height,
            "stepped" if lower else "level",
            None if lower else level,
            sizes["wall"].length if high else None,
            2 * LAYER_PLAY,
            bears_lid=True,
            layers=int(sizes["layers"].length),
            stands=max((self._stands(s, sizes, g) for g in s.on("floor")), default=0.0),
        )

    @staticmethod
    def _stands(s: Situation, sizes: Sizes, guest: GuestNeed) -> float:
        """How far what is on the floor stands above this box's own wall, mm."""
        return max(0.0, s.paper.caliper / 2 + s.glue + guest.need.tall - sizes["wall"].length)

    def rooms(self, situation: Situation, sizes: Sizes) -> dict[str, Room]:
        """Floor, mouth and both faces of each wall."""
        s, t, n = situation, situation.paper.caliper, int(sizes["sides"].length)
        w, d, h = sizes["base"].length, sizes["base-depth"].length, sizes["wall"].length
        intrudes = max((g.need.intrudes for g in s.on("mouth")), default=0.0)
        clear = span(f"{s.name} wall", h, s.element, "wall").plus(Term("half a sheet", -t / 2))
        bound = TOP
        if s.room is not None and s.room.height is not None and s.room.height.value - t > clear.value:
            clear, bound = s.room.height.plus(Term("floor", -t)), TOP_AROUND
        if s.room is not None:
            intrudes = max(intrudes, s.room.intrudes)
        step = given_length(s.given, "layer-step")
        rooms = {
            "floor": Room(
                "inside",
                uses.LAYER,
                self._sides(s, sizes, "inside"),
                (w, d),
                t,
                self._most_bulk(s, sizes, "inside"),
                clear,
                True,
                step if step is not None else s.room.step if s.room else None,
                sizes["wall-step"].length,
                h,
                intrudes,
                bound,
            ),
        }
        outer = self._sides(s, sizes, "outside")
        rooms["mouth"] = Room("over", uses.LID, outer, (w, d), t, self._most_bulk(s, sizes, "outside"), wall=h)
        if n == 4:
            if s.room is None:
                right = self._sides(s, sizes, "outside")[0].reach
                deep = span(f"{s.name} base", d, s.element, self._lever(s, "base-depth")).plus(
                    Term("sheet", t),
                    Term("bulk outside", sum(self._bulk(s, sizes, x, "outside") for x in ("back", "front"))),
                )
                rooms[AROUND] = around_room(right, deep, (w, h), t)
            for side, name in zip(SIDE_NAMES, ("base-depth", "base", "base-depth", "base"), strict=True):
                if side in ("back", "front"):
                    beside = s.bulk_on("right-inside") + s.bulk_on("left-inside")
                else:
                    beside = pocket_bulk(s, sizes, "back") + pocket_bulk(s, sizes, "front")
                for face in ("inside", "outside"):
                    wide = between_walls(sizes[name].length, beside if face == "inside" else 0.0)
                    rooms[f"{side}-{face}"] = face_room(
                        wide, h, t, s.element, (self._lever(s, name), "wall"), f"{side} wall"
                    )
                if not pocket_bulk(s, sizes, side):  # else the pocket lies over what is on the wall
                    across = "base" if name == "base-depth" else "base-depth"
                    inner, lever = rooms[f"{side}-inside"], self._lever(s, across)
                    rooms[f"{side}-inside"] = facing_wall(inner, s.element, sizes[across].length, lever, t)
            return rooms
        for wall in wall_names(sizes):
            # a thing on a wall keeps to its side of the line that halves the corner, so it meets none of its neighbours
            less = 2 * s.bulk_on(f"{wall}-inside") * math.tan(math.pi / n)
            for face, wide in (("inside", between_walls(w, less)), ("outside", w)):
                rooms[f"{wall}-{face}"] = face_room(wide, h, t, s.element, ("base", "wall"), wall.replace("-", " "))
        return rooms

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        """The cross (or strip and walls), pockets, tags, faces and own gaps."""
        return build_cross(situation, sizes, rooms["floor"])


FAMILY = ExplosionBox()
