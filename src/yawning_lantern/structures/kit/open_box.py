"""Boxes open at the top, from one sheet with four walls: what a tray is, and a box whose front wall falls."""

from __future__ import annotations

from collections.abc import Mapping

from yawning_lantern.assembly import (
    Gap,
    Mount,
    Need,
    Relation,
    Room,
    Side,
    Span,
    Term,
    box_sides,
    span,
    uses,
)
from yawning_lantern.assembly.room import SIDE_NAMES
from yawning_lantern.measure import inches, snap
from yawning_lantern.pattern import Piece, ScoreFlag
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes, Start
from yawning_lantern.structures.kit.lying import ABOVE
from yawning_lantern.structures.kit.shell import (
    FOLD_SHIFT,
    TAB_TAKERS,
    inner_reach,
    lever_term,
    outer_reach,
    wall_mounts,
)
from yawning_lantern.structures.kit.solving import (
    CONTENT_PARAMETERS,
    HEADROOM,
    LID_PARAMETER,
    as_given,
    between_walls,
    centred,
    contents_gaps,
    down_to_cut,
    face_room,
    facing_wall,
    given_length,
    guests_want,
    hanging_gap,
    length_of,
    positive,
    sheet_gap,
    tallest_inside,
    up_to_cut,
    up_to_score,
)

PLAY = inches(1 / 16)
"""Play in all that a tray gets in what holds it, mm. Common practice, no source."""
_AXES = (("width", "content-width", 0), ("depth", "content-depth", 1))


class OpenBox:
    """Sizes, need and faces of an open box; subclasses build it. `takers` are the walls that corner tabs are glued to,
    and `usual` its sizes where nobody spoke, mm."""

    name: str
    takers: tuple[str, ...] = TAB_TAKERS
    relation: Relation = "inside"
    usual: tuple[float, float, float] = (inches(3), inches(3), inches(1))
    headline: tuple[str, ...] = ("width", "depth", "height")
    starts: tuple[Start, ...] = ("size", "contents", "sheet")
    faces = (
        ("floor", "floor, inside"),
        ("mouth", "over the mouth"),
        *((f"{side}-{face}", f"{side} wall, {face}") for side in SIDE_NAMES for face in ("inside", "outside")),
    )
    parameters: tuple[Parameter, ...] = (
        Parameter("width", "Width", "length", "Score to score, left to right.", least=3.0),
        Parameter("depth", "Depth", "length", "Score to score, front to back.", least=3.0),
        Parameter("height", "Wall height", "length", "Score to edge.", least=3.0, scored=True),
        *CONTENT_PARAMETERS,
        LID_PARAMETER,
        Parameter("sheet", "Sheet", "length", "Side of the square sheet to use whole.", "Sheet", 10.0),
    )

    def size(self, situation: Situation) -> dict[str, Sized]:
        """Width, depth and height. Raises ParameterError where nothing is left to fold."""
        given, t = situation.given, situation.paper.caliper
        sizes: dict[str, Sized] = {"content-play": length_of(given, "content-play", inches(1 / 8))}
        sheet = given_length(given, "sheet")
        sizes["height"] = self._height(situation, sheet)
        positive(sizes["height"].length, "box's wall", "Give it more room, or make what lies above it lower.")
        for name, content, axis in _AXES:
            inside = given_length(given, content) or (given_length(given, "content-width") if axis else None)
            if inside is not None:
                sizes[content] = Sized(inside, "given")
            bulk = self._bulk_inside(situation, axis)
            if (own := given_length(given, name)) is not None:
                sizes[name] = Sized(own, "given")
            elif inside is not None:
                sizes[name] = up_to_cut(situation, inside + t + bulk + sizes["content-play"].length, "auto")
            elif sheet is not None:
                sizes[name] = Sized(sheet - 2 * sizes["height"].length, "auto")
            elif (wanted := guests_want(situation, axis)) is not None:
                sizes[name] = up_to_cut(situation, wanted + t + bulk, "auto")
            elif situation.room is not None:
                sizes[name] = self._fill(situation, axis)
            else:
                sizes[name] = Sized(self.usual[axis], "default")
            positive(sizes[name].length, f"tray's {name}", "Make the walls lower or the sheet larger.")
        sizes |= as_given(given, "content-height", "sheet")
        return sizes

    def _layers(self, s: Situation) -> float:
        """What the sheet it stands on takes of its height inside, mm."""
        return s.paper.caliper / 2

    def _rise(self, s: Situation) -> float:
        """How much higher it stands than from score to edge, mm."""
        return s.paper.caliper / 2

    def _height(self, s: Situation, sheet: float | None) -> Sized:
        given = s.given
        content = given_length(given, "content-height")
        if (own := given_length(given, "height")) is not None:
            return Sized(own, "given")
        if content is not None:
            return up_to_score(s, content + self._layers(s) + HEADROOM, "auto")
        if sheet is not None:
            return Sized(snap(sheet / 4, s.score.grid, "nearest").value, "auto")
        tallest = tallest_inside(s, inches(1))
        if tallest:
            return up_to_score(s, tallest + self._layers(s) + HEADROOM, "auto")
        if s.room is not None and s.room.height is not None:
            exact = s.room.height.value - s.room.intrudes - self._rise(s) - s.lid_rise() - HEADROOM
            return Sized(snap(exact, s.score.grid, "down").value, "fill", exact)
        return Sized(self.usual[2], "default")

    def _bulk_side(self, s: Situation, side: str, face: str) -> float:
        tabs = s.paper.caliper + s.glue if face == "inside" and side in self.takers else 0.0
        return s.bulk_on(f"{side}-{face}") + tabs

    def _bulk_inside(self, s: Situation, axis: int) -> float:
        return sum(self._bulk_side(s, side, "inside") for side in (("right", "left"), ("back", "front"))[axis])

    def _fill(self, s: Situation, axis: int) -> Sized:
        assert s.room is not None
        t = s.paper.caliper
        bulk = sum(self._bulk_side(s, side, "outside") for side in (("right", "left"), ("back", "front"))[axis])
        return down_to_cut(s, s.room.clear(axis) - t - bulk - 2 * s.lid_overhang() - PLAY, "fill")

    def need(self, situation: Situation, sizes: Sizes) -> Need:
        """Its outside; dimensions nobody settled stay open while needs go up."""
        s, e, t = situation, situation.element, situation.paper.caliper
        settled = [s.room is not None or sizes[n].origin in ("given", "auto") for n in ("width", "depth")]
        sides: tuple[Side, ...] = ()
        if all(settled):
            sides = box_sides(
                outer_reach(e, "tray", sizes[n].length, n, t, self._bulk_side(s, side, "outside")).plus(
                    Term("its lid", s.lid_overhang())
                )
                for side, n in zip(SIDE_NAMES, ("width", "depth", "width", "depth"), strict=True)
            )
        high = s.room is not None or sizes["height"].origin in ("given", "auto")
        height: Span | None = None
        if high:
            height = span("tray wall", sizes["height"].length, e, "height").plus(
                Term("half a sheet", t / 2), Term("its lid", s.lid_rise())
            )
        return Need(
            "inside",
            uses.TRAY,
            sides,
            (sizes["width"].length, sizes["depth"].length) if sides else (None, None),
            t,
            height=height,
            wall=sizes["height"].length if high else None,
            play=PLAY,
        )

    def rooms(self, situation: Situation, sizes: Sizes) -> dict[str, Room]:
        """Floor, mouth and both faces of each wall."""
        s, e, t = situation, situation.element, situation.paper.caliper
        w, d, h = (sizes[n].length for n in ("width", "depth", "height"))
        names = ("width", "depth", "width", "depth")
        inner = box_sides(
            inner_reach(e, "tray", sizes[n].length, n, t, self._bulk_side(s, side, "inside"))
            for side, n in zip(SIDE_NAMES, names, strict=True)
        )
        outer = box_sides(
            outer_reach(e, "tray", sizes[n].length, n, t, self._bulk_side(s, side, "outside"))
            for side, n in zip(SIDE_NAMES, names, strict=True)
        )
        intrudes = max((g.need.intrudes for g in s.on("mouth")), default=0.0)
        clear = span("tray wall", h, e, "height").plus(Term("half a sheet", -t / 2))
        bulk_in = max(self._bulk_side(s, side, "inside") for side in SIDE_NAMES)
        bulk_out = max(self._bulk_side(s, side, "outside") for side in SIDE_NAMES)
        rooms = {
            "floor": Room("inside", uses.TRAY, inner, (w, d), t, bulk_in, clear, wall=h, intrudes=intrudes),
            "mouth": Room("over", uses.LID, outer, (w, d), t, bulk_out, wall=h),
        }
        for k, (side, name) in enumerate(zip(SIDE_NAMES, ("depth", "width", "depth", "width"), strict=True)):
            beside = s.bulk_on("right-inside") + s.bulk_on("left-inside") if side in ("back", "front") else 0.0
            for face in ("inside", "outside"):
                wide = between_walls(sizes[name].length, beside if face == "inside" else 0.0)
                rooms[f"{side}-{face}"] = face_room(wide, h, t, e, (name, "height"), f"{side} wall")
            across = "width" if name == "depth" else "depth"
            tabs = sum(t + s.glue for wall in (side, SIDE_NAMES[(k + 2) % 4]) if wall in self.takers)
            rooms[f"{side}-inside"] = facing_wall(rooms[f"{side}-inside"], e, sizes[across].length, across, t, tabs)
        return rooms

    def own_gaps(self, s: Situation, sizes: Sizes, rooms: Mapping[str, Room], piece: Piece) -> list[Gap]:
        """The sheet, and what stands on the floor."""
        e, h = s.element, sizes["height"].length
        terms = tuple(
            (lever_term(n, sizes[n].length, e, n), lever_term("two walls", 2 * h, e, "height", 2.0))
            for n in ("width", "depth")
        )
        gaps = [sheet_gap(e, s.name, s.paper, piece.size, terms), *contents_gaps(e, s.name, sizes, rooms["floor"])]
        if rooms["floor"].intrudes and not s.on("floor"):
            gaps.append(hanging_gap(e, s.name, rooms["floor"]))
        return gaps

    @staticmethod
    def flags(sizes: Sizes) -> tuple[ScoreFlag, ...]:
        """Scores at the wall height all round."""
        w, d, h = (sizes[n].length for n in ("width", "depth", "height"))
        return (
            ScoreFlag("x", h, "height", 1.0),
            ScoreFlag("x", h + w, "width", 1.0),
            ScoreFlag("y", h, "height", 1.0),
            ScoreFlag("y", h + d, "depth", 1.0),
        )

    def mounts(self, s: Situation, sizes: Sizes, instance: str) -> tuple[Mount, ...]:
        """Floor, mouth, and both faces of each wall."""
        w, d, h = (sizes[n].length for n in ("width", "depth", "height"))
        t, up, middle = s.paper.caliper, (0.0, 1.0), (h + w / 2, h + d / 2)
        top, off = h + FOLD_SHIFT * t, h + ABOVE
        return (
            Mount("floor", "floor, inside", instance, "base", 1, middle, up, centred(w, d), t / 2, holds=True),
            Mount("mouth", "over the mouth", instance, "base", 1, middle, up, centred(w, d), top, True, off),
            *wall_mounts(w, d, h, instance, t, 1, "wall", tabs=t + s.glue, takers=self.takers),
        )
