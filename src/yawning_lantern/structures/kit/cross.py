"""The pieces of an explosion box: a cross or star, its pocket flaps and tags, and the pieced form."""

from __future__ import annotations

import math
from collections.abc import Sequence

from msgspec import Struct

from yawning_lantern.assembly import (
    Attach,
    Gap,
    Instance,
    Joint,
    Mount,
    Part,
    Pocket,
    Room,
    Root,
    Swing,
    Term,
    span,
    uses,
)
from yawning_lantern.assembly.room import SIDE_NAMES
from yawning_lantern.measure import inches
from yawning_lantern.pattern import Fold, Panel, Piece, Point, ScoreFlag, bounds, build_piece, rectangle
from yawning_lantern.pattern.convex import half
from yawning_lantern.structures.kit.around import around_mount
from yawning_lantern.structures.kit.declare import Situation, Sizes
from yawning_lantern.structures.kit.lying import ABOVE
from yawning_lantern.structures.kit.regular import Regular, moved
from yawning_lantern.structures.kit.shell import FOLD_SHIFT, WALL_UP, lever_term, wall_mounts
from yawning_lantern.structures.kit.solving import (
    centred,
    contents_gaps,
    contents_of,
    fits_sheet,
    hanging_gap,
    sheet_gap,
)

POCKET_WALLS = ("back", "front")
TAG_LESS = inches(1 / 8)
"""A tag is this much narrower than its pocket's inside. Common practice, no source."""
GLUE_STRIP = inches(1 / 4)
"""What the glue takes along a flap's foot, mm. Common practice, no source."""
RELIEF = inches(1 / 16)
"""How far a flap's foot stands clear of the base, mm. Common practice, no source."""
TAB = inches(1 / 2)
"""The tab that joins a separate wall, mm. Common practice, no source."""
Shape = tuple[Point, ...]


class Cross(Struct, frozen=True):
    """Plane geometry of the cross: base `width` × `depth`, walls `wall`, all mm; `reach` is how far a flap reaches."""

    sides: int
    width: float
    depth: float
    wall: float
    pockets: bool
    reach: float

    @staticmethod
    def of(s: Situation, sizes: Sizes) -> Cross:
        """From settled sizes."""
        w, d, h = (sizes[n].length for n in ("base", "base-depth", "wall"))
        return Cross(int(sizes["sides"].length), w, d, h, sizes["corner"].value == "pocket", flap_reach(sizes))

    @property
    def tab(self) -> float:
        """The tab of a separate wall, mm: two of them do not meet under the base."""
        return min(TAB, self.width / 2 - 1.0)

    @staticmethod
    def pocket_depth(sizes: Sizes) -> float:
        """From the glued foot of a flap to the wall's edge, mm."""
        return sizes["wall"].length - RELIEF - GLUE_STRIP

    @property
    def size(self) -> tuple[float, float]:
        """Extent of the cross, mm."""
        if self.sides == 4:
            return self.width + 2 * self.wall, self.depth + 2 * self.wall
        x0, y0, x1, y1 = bounds([p for panel in self.star()[0] for p in panel.outline])
        return x1 - x0, y1 - y0

    def square(self) -> list[Panel]:
        """Base, four walls, and the flaps of corner pockets."""
        h, w, d = self.wall, self.width, self.depth
        x0, x1, y0, y1 = h, h + w, h, h + d
        panels = [
            Panel("base", "base", rectangle(x0, y0, x1, y1)),
            Panel("wall-right", "right wall", rectangle(x1, y0, x1 + h, y1)),
            Panel("wall-back", "back wall", rectangle(x0, y1, x1, y1 + h)),
            Panel("wall-left", "left wall", rectangle(0, y0, x0, y1)),
            Panel("wall-front", "front wall", rectangle(x0, 0, x1, y0)),
        ]
        if self.pockets:
            c, r = RELIEF, self.reach
            for wall, foot, way in (("back", y1, 1.0), ("front", y0, -1.0)):
                near, far = foot + way * c, foot + way * h
                for hand, edge, out in (("right", x1, 1.0), ("left", x0, -1.0)):
                    corners = [(edge, near), (edge + out * r, near), (edge, far)]
                    if out * way < 0:
                        corners.reverse()
                    panels.append(Panel(f"flap-{wall}-{hand}", f"pocket flap, {wall} wall, {hand}", tuple(corners)))
        return panels

    def star(self) -> tuple[list[Panel], list[float]]:
        """A regular polygon with a wall on every side, and the direction of each wall, radians."""
        base = Regular(self.sides, self.width)
        ring, angles = base.corners, [base.turn * k for k in range(self.sides)]
        panels = [Panel("base", "base", tuple(ring))]
        for k, a in enumerate(angles):
            (x0, y0), (x1, y1) = ring[k], ring[(k + 1) % self.sides]
            ox, oy = self.wall * math.cos(a), self.wall * math.sin(a)
            wall = ((x0, y0), (x0 + ox, y0 + oy), (x1 + ox, y1 + oy), (x1, y1))
            panels.append(Panel(f"wall-{k + 1}", f"wall {k + 1}", wall))
        return moved(panels)[0], angles


def star_base(sides: int, wall: float, sheet: float) -> float:
    """The side of the base whose star fills a square sheet, mm; 0 where the walls alone are too tall. By bisection."""
    lo, hi = 0.0, sheet
    for _ in range(50):
        middle = (lo + hi) / 2
        if max(Cross(sides, middle, middle, wall, False, 0.0).size) > sheet:
            hi = middle
        else:
            lo = middle
    return lo


def wall_names(sizes: Sizes) -> tuple[str, ...]:
    """The walls' names as their faces have them, in turn from the right."""
    n = int(sizes["sides"].length)
    return SIDE_NAMES if n == 4 else tuple(f"wall-{k + 1}" for k in range(n))


def flap_reach(sizes: Sizes) -> float:
    """How far a pocket flap reaches along the foot of its wall, mm: the corner square, no further than the wall."""
    return min(sizes["wall"].length, sizes["base"].length - RELIEF)


def has_tags(sizes: Sizes) -> bool:
    """Whether pocket walls carry tags."""
    return sizes["corner"].value == "pocket" and sizes["tags"].value == "yes"


def pocket_bulk(s: Situation, sizes: Sizes, side: str) -> float:
    """What pocket flaps and a tag add inside a wall, mm."""
    if sizes["corner"].value != "pocket" or side not in POCKET_WALLS:
        return 0.0
    crossed = 2 * flap_reach(sizes) > sizes["base"].length if "base" in sizes else True
    flaps = 2 if crossed else 1
    # a flap is glued along its foot, where no tag is: the tag lies beside that glue
    return s.paper.caliper * flaps + s.glue * (flaps - 1) + max(s.paper.caliper * has_tags(sizes), s.glue)


def pocket_width(s: Situation, sizes: Sizes) -> float:
    """Inside width of a pocket across its wall: the wall less a sheet's bend at each fold, mm."""
    return sizes["base"].length - 2 * s.paper.caliper


def _folds(cross: Cross, s: Situation, sizes: Sizes, names: tuple[str, ...]) -> list[Fold]:
    folds = [Fold("base", f"wall-{name}", math.pi / 2) for name in names]
    if cross.pockets:
        t = s.paper.caliper
        tag = t if has_tags(sizes) else 0.0
        second = t + s.glue if 2 * cross.reach > cross.width else 0.0
        for wall in POCKET_WALLS:
            inside = max(tag + s.bulk_on(f"{wall}-inside"), s.glue)  # what lies on the wall lies under the tag
            folds.append(Fold(f"wall-{wall}", f"flap-{wall}-right", math.pi, wrap=inside))
            folds.append(Fold(f"wall-{wall}", f"flap-{wall}-left", math.pi, wrap=inside + second))
    return folds


def _depth_of(s: Situation, cross: Cross) -> str:
    """The parameter that moves the depth of the base: that of its width, while nobody told it apart."""
    return "base-depth" if "base-depth" in s.given or cross.depth != cross.width else "base"


def _flags(s: Situation, cross: Cross) -> tuple[ScoreFlag, ...]:
    h = cross.wall
    return (
        ScoreFlag("x", h, "wall", 1.0),
        ScoreFlag("x", h + cross.width, "base", 1.0),
        ScoreFlag("y", h, "wall", 1.0),
        ScoreFlag("y", h + cross.depth, _depth_of(s, cross), 1.0),
    )


def _whole(s: Situation, sizes: Sizes, cross: Cross) -> tuple[list[Piece], list[Instance], Point]:
    if cross.sides == 4:
        panels = cross.square()
        names: tuple[str, ...] = SIDE_NAMES
        middle = (cross.wall + cross.width / 2, cross.wall + cross.depth / 2)
        flags = _flags(s, cross)
    else:
        panels, angles = cross.star()
        names = tuple(str(k + 1) for k in range(len(angles)))
        middle, flags = panels[0].centre, ()
    note = "Cut away the corner squares." if cross.sides == 4 else "Cut away what lies between the walls."
    if cross.pockets:
        note = "Keep the corner squares on back and front wall, cut them on the diagonal, fold in, glue along the foot."
    piece = build_piece(
        f"{s.element}.cross", s.name, s.paper, panels, _folds(cross, s, sizes, names), flags=flags, note=note
    )
    return [piece], [Instance("cross", piece.id, Root("base", middle))], middle


def _pieced(s: Situation, sizes: Sizes, cross: Cross) -> tuple[list[Piece], list[Instance], Point]:
    """The base with two or three of its walls, and the others joined by a tab under the score."""
    h, w, d, t = cross.wall, cross.width, cross.depth, s.paper.caliper
    joined = joined_walls(s, sizes)
    side = cross.reach if cross.pockets else 0.0
    left = side if "left" in joined else h  # what is kept of the sheet on the left of the base
    shift = h - left
    panels = [
        Panel(p.name, p.label, tuple((x - shift, y) for x, y in p.outline))
        for p in cross.square()
        if p.name.removeprefix("wall-") not in joined
    ]
    middle = (left + w / 2, h + d / 2)
    flags = [ScoreFlag("y", h, "wall", 1.0), ScoreFlag("y", h + d, _depth_of(s, cross), 1.0)]
    if len(joined) == 1:
        flags.append(ScoreFlag("x", left + w, "base", 1.0))
    kept = tuple(name for name in SIDE_NAMES if name not in joined)
    strip = build_piece(
        f"{s.element}.strip",
        f"{s.name}, strip",
        s.paper,
        panels,
        _folds(cross, s, sizes, kept),
        flags=flags,
        note=f"Base with {', '.join(kept[:-1])} and {kept[-1]} wall.",
    )
    wall = build_piece(
        f"{s.element}.wall",
        f"{s.name}, joined wall",
        s.paper,
        [
            Panel("tab", "tab", rectangle(0, 0, d, cross.tab)),
            Panel("wall", "wall", rectangle(0, cross.tab, d, cross.tab + h)),
        ],
        [Fold("tab", "wall", math.pi / 2)],
        quantity=len(joined),
        note="Glue the tab under the base, its score on the base's edge; a mat on base and wall hides the join.",
    )
    instances = [Instance("cross", strip.id, Root("base", middle, away=under_base(s, sizes)))]
    for name, x, up in (("right", left + w, (1.0, 0.0)), ("left", left, (-1.0, 0.0))):
        if name in joined:
            instances.append(
                Instance(
                    f"wall-{name}",
                    wall.id,
                    Root("tab", (d / 2, cross.tab), (0.0, 1.0), 1),
                    Attach("cross", "base", (x, h + d / 2), up, -1, t + s.glue),
                )
            )
    return [strip, wall], instances, middle


def _wall_at(name: str, joined: Sequence[str]) -> tuple[str, str]:
    """Instance and panel of a wall."""
    return (f"wall-{name}", "wall") if name in joined else ("cross", f"wall-{name}")


def _tags(s: Situation, sizes: Sizes, cross: Cross, middle: Point) -> tuple[Piece, list[Instance]]:
    tw, th, t = sizes["tag-width"].length, sizes["tag-height"].length, s.paper.caliper
    tag = build_piece(
        f"{s.element}.tag",
        f"{s.name}, tag",
        s.paper,
        [Panel("tag", "tag", rectangle(0, 0, tw, th))],
        quantity=2,
        note="Slides into the corner pocket.",
    )
    foot = cross.depth / 2 + RELIEF + GLUE_STRIP
    instances = []
    for wall, way in (("back", 1.0), ("front", -1.0)):
        origin = (middle[0], middle[1] + way * (foot + th / 2))
        instances.append(
            Instance(
                f"tag-{wall}",
                tag.id,
                Root("tag", (tw / 2, th / 2)),
                Attach("cross", f"wall-{wall}", origin, WALL_UP[wall], 1, t + s.bulk_on(f"{wall}-inside"), "slide"),
            )
        )
    return tag, instances


def _mounts(s: Situation, cross: Cross, middle: Point, top: float, joined: Sequence[str]) -> list[Mount]:
    h, w, d, t = cross.wall, cross.width, cross.depth, s.paper.caliper
    up = (0.0, 1.0)
    outline = (
        centred(w, d)
        if cross.sides == 4
        else tuple((x - middle[0], y - middle[1]) for x, y in cross.star()[0][0].outline)
    )
    mounts = [Mount("floor", "floor, inside", "cross", "base", 1, middle, up, outline, t / 2, holds=True)]
    mounts.append(Mount("mouth", "over the walls", "cross", "base", 1, middle, up, outline, top, True, h + ABOVE))
    if cross.sides != 4:
        return mounts + _star_mounts(cross, middle, t)
    if s.room is None:
        front = next(panel for panel in cross.square() if panel.name == "wall-front")
        down = middle[1] - h - d / 2  # a pieced strip is cut where the whole cross would have its corners
        across = Panel(front.name, front.label, tuple((x + middle[0] - h - w / 2, y + down) for x, y in front.outline))
        bulk = s.bulk_on("front-outside")
        mounts.append(around_mount("cross", across, -1, t + 2 * bulk, (0.0, -1.0), (w, h)))
    for mount in wall_mounts(w, d, h, "cross", t, 1, "wall"):
        side = mount.id.split("-")[0]
        instance, panel = _wall_at(side, joined)
        origin = (mount.origin[0] + middle[0] - h - w / 2, mount.origin[1] + middle[1] - h - d / 2)
        here = Mount(
            mount.id,
            mount.label,
            instance,
            panel,
            mount.side,
            origin if instance == "cross" else (d / 2, cross.tab + h / 2),
            mount.up if instance == "cross" else up,
            mount.outline,
            mount.standoff,
        )
        mounts.append(here)
    return mounts


def _star_mounts(cross: Cross, middle: Point, caliper: float) -> list[Mount]:
    """Both faces of every wall of a star, up away from the base."""
    away = Regular(cross.sides, cross.width).apothem + cross.wall / 2
    mounts = []
    for k, angle in enumerate(cross.star()[1]):
        up = (math.cos(angle), math.sin(angle))
        origin = (middle[0] + away * up[0], middle[1] + away * up[1])
        for side, face in ((1, "inside"), (-1, "outside")):
            name = f"wall-{k + 1}"
            mounts.append(
                Mount(f"{name}-{face}", f"wall {k + 1}, {face}", "cross", name, 1 if side > 0 else -1, origin, up,
                      centred(cross.width, cross.wall), caliper / 2)
            )  # fmt: skip
    return mounts


def _own_gaps(s: Situation, sizes: Sizes, cross: Cross, pieces: list[Piece], pieced: bool, floor: Room) -> list[Gap]:
    e, h = s.element, cross.wall
    base = ("base", "base" if "base-depth" not in s.given else "base-depth")
    terms: Sequence[tuple[Term, ...]] = tuple(
        (lever_term(n, cross_side, e, n), lever_term("two walls", 2 * h, e, "wall", 2.0))
        for n, cross_side in zip(base, (cross.width, cross.depth), strict=True)
    )
    if cross.sides != 4 or pieced:
        terms = tuple((Term("piece", size),) for size in pieces[0].size)
    gaps = [sheet_gap(e, pieces[0].name, s.paper, pieces[0].size, terms)]
    gaps += contents_gaps(e, s.name, sizes, floor)
    if floor.intrudes and not s.on("floor"):
        gaps.append(hanging_gap(e, s.name, floor))
    if has_tags(sizes):
        wide = span("base", cross.width, e, "base").plus(Term("bends", -2 * s.paper.caliper)) - span(
            "tag", sizes["tag-width"].length, e, "tag-width"
        )
        deep = span("wall", h, e, "wall").plus(Term("glue strip and relief", -RELIEF - GLUE_STRIP)) - span(
            "tag", sizes["tag-height"].length, e, "tag-height"
        )
        gaps.append(Gap(uses.POCKET, e, e, (f"{s.name}, tag", "corner pocket, across"), wide))
        gaps.append(Gap(uses.POCKET, e, e, (f"{s.name}, tag", "corner pocket, deep"), deep))
    return gaps


def joined_walls(s: Situation, sizes: Sizes) -> tuple[str, ...]:
    """The walls that are joined to the rest by a tab: as asked, or none where the sheet takes the whole; else the way
    that takes fewer sheets, and of equal ones fewer joins. Where the sheet takes neither, the smallest pieces."""
    wanted, cross = sizes["piecing"].value, Cross.of(s, sizes)
    if cross.sides != 4 or wanted == "one" or (wanted == "auto" and fits_sheet(s.paper, cross.size)):
        return ()
    side = cross.reach if cross.pockets else 0.0
    three = (cross.width + cross.wall + side, cross.size[1])
    if wanted == "three":
        return ("left",)
    if wanted == "auto" and fits_sheet(s.paper, three):
        strip, wall = (cross.width + 2 * side, cross.size[1]), (cross.depth, cross.tab + cross.wall)
        rest = {1: beside(s, three, wall), 2: beside(s, strip, wall)}
        if rest[1] >= 1 or rest[2] < 2:
            return ("left",)
    return ("right", "left")


def beside(s: Situation, large: tuple[float, float], small: tuple[float, float]) -> int:
    """How many small pieces are cut from what a large one leaves of its sheet, edge to edge, mm: it lies in a corner,
    and either of the two cuts along it goes through."""
    sheet = s.paper.sheet.usable_width, s.paper.sheet.usable_height

    def many(width: float, height: float) -> int:
        return max((int((width + 1e-6) // a) * int((height + 1e-6) // b) for a, b in (small, small[::-1])), default=0)

    best = 0
    for w, h in (large, large[::-1]):
        if w <= sheet[0] + 1e-6 and h <= sheet[1] + 1e-6:
            right, top = sheet[0] - w, sheet[1] - h
            best = max(best, many(right, sheet[1]) + many(w, top), many(right, h) + many(sheet[0], top))
    return best


def under_base(s: Situation, sizes: Sizes) -> float:
    """How far tabs of joined walls keep the base off what it stands on, mm."""
    return s.paper.caliper + s.glue if joined_walls(s, sizes) else 0.0


def build_cross(s: Situation, sizes: Sizes, floor: Room) -> Part:
    """Everything that makes one explosion box: pieces, instances, swings, faces, pockets, gaps."""
    cross, t = Cross.of(s, sizes), s.paper.caliper
    joined = joined_walls(s, sizes)
    pieced = bool(joined)
    pieces, instances, middle = (_pieced if pieced else _whole)(s, sizes, cross)
    if has_tags(sizes):
        tag, tags = _tags(s, sizes, cross, middle)
        pieces.append(tag)
        instances += tags
    names = SIDE_NAMES if cross.sides == 4 else tuple(str(k + 1) for k in range(cross.sides))
    swung = []
    for name in names:
        instance, panel = _wall_at(name, joined)
        swung.append((instance, f"{'tab' if panel == 'wall' else 'base'}/{panel}", 0.0))
    swing = Swing("walls", f"walls of {s.name} fall", tuple(swung))
    top = cross.wall + FOLD_SHIFT * t
    for guest in s.on("floor"):
        if guest.need.bears_lid and guest.need.height is not None:
            top = max(top, t / 2 + s.glue + guest.need.tall + floor.intrudes + FOLD_SHIFT * t)
    pockets = (
        tuple(
            Pocket(
                f"pocket-{wall}",
                (f"wall-{wall}", f"flap-{wall}-right", f"flap-{wall}-left"),
                "up",
                pocket_width(s, sizes),
                Cross.pocket_depth(sizes),
            )
            for wall in POCKET_WALLS
        )
        if cross.pockets
        else ()
    )
    return Part(
        s.element,
        s.name,
        tuple(pieces),
        tuple(instances),
        tuple(_mounts(s, cross, middle, top, joined)),
        (swing,),
        tuple(_own_gaps(s, sizes, cross, pieces, pieced, floor)),
        pockets,
        contents_of(sizes),
        joints=_pocket_joints(pieces[0], has_tags(sizes)) if cross.pockets else (),
    )


def _pocket_joints(piece: Piece, tagged: bool) -> tuple[Joint, ...]:
    """A corner flap is glued on its wall along its foot; the second lies over the first; a tag slides beneath both."""
    joints = []
    for wall, way in (("back", 1.0), ("front", -1.0)):
        name, tag = f"wall-{wall}", (f"tag-{wall}", "tag")
        flaps = [("cross", f"flap-{wall}-{hand}") for hand in ("right", "left")]
        for flap in flaps:
            shape = piece.panel(flap[1]).outline
            foot = min(way * y for _, y in shape)
            strip = tuple(half(shape, 0.0, -way, -foot - GLUE_STRIP))
            joints.append(
                Joint(flap, ("cross", name), spots=(strip,), label="only along its foot: the rest is the pocket")
            )
            if tagged:
                joints.append(Joint(tag, flap, "slide"))
        joints.append(Joint(flaps[1], flaps[0], "free"))
    return tuple(joints)
