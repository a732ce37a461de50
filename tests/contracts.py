"""What every family promises, measured on the folded thing: each contract answers what is wrong, in panels and figures.

Nothing here uses the sums by which a family tells its sizes. Sheets are taken as solid plates of their whole thickness
where the poses put them; distances come from projections and shapely, what shows from rays. No family is named but the
plain things that stand for every host and every guest, and those that swell."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from itertools import combinations

import numpy as np
from numpy.typing import NDArray
from shapely import MultiPoint, Polygon

from yawning_lantern.assembly import HOST, CreaseStep, Gap, Mount, uses
from yawning_lantern.assembly.joined import Frame
from yawning_lantern.assembly.room import TOP, TOP_AROUND
from yawning_lantern.design import Design, walk
from yawning_lantern.fold import State, apply, corners, pose
from yawning_lantern.fold.pose import flat_parts
from yawning_lantern.structures import start_design
from yawning_lantern.study import Study

from .plain_hosts import bulky, hosted, hosting

Floats = NDArray[np.float64]
EDGE = 0.3
"""Sheets whose views along a way share less than this are no obstacle to one another there, mm."""
EXACT = 0.09
"""What is told and what is measured differ by less, mm: bends are drawn as arcs of a few chords."""
CREEPS = {
    "pull-waterfall": 3.0, "mini-envelope": 2.05, "gusset-pouch": 2.05,
    "pinwheel-pouch": 2.05, "pocket-page": 2.05, "envelope-fold": 2.05, "drop-ladder": 1.7,
    "double-flap": 1.55, "flip-book": 1.4, "grid-sheet": 1.4, "maze-book": 1.4, "card-stand": 1.05, "free-strip": 1.05,
    "fold-out": 1.05, "pocket-folio": 1.05, "gusset-book": 1.2, "hinged-flip-book": 2.05, "strip-album": 1.05,
}  # fmt: skip
"""So many sheets are allowed beside what is folded or stapled: its leaves creep out, lie askew, or swell."""
CREPT, DRESSED = 0.65, 6.0
"""So many beside anything else, and beside what bears something: that may lie elsewhere than at the farthest side."""
SLACK = 2.0
"""What straps, cords and mitred tabs, which do not stand everywhere, may leave beyond what was told, mm."""
SHEETS = 8
"""Of thick card so many sheets: what a family allows for the folds in it."""
ROUNDED = 1.5
"""What chords take off the arcs of rounded corners, mm²."""
GIVES = 0.5
"""Of a sheet: what paper gives where a tab is pulled inside a wall."""
BESIDE = 5.0
"""What folds, play and borders of a small panel come to, mm, and a sheet at either side."""
SLIVER = 12.0
"""A fold's own bend, and the corners of mitred tabs, mm²."""
LEAST_WAY = 8.0
"""A motion of less is none that anybody would make, mm."""


@dataclass(frozen=True)
class Plate:
    """One sheet's plane part as a solid: its corners on both faces (n, 3), mm."""

    element: str
    name: str
    node: int
    corners: Floats

    def span(self, way: Floats) -> tuple[float, float]:
        """Least and greatest along a way, mm."""
        along = self.corners @ way
        return float(along.min()), float(along.max())


def plates(study: Study, frames: list[Frame]) -> list[Plate]:
    """Every sheet of a design in a pose."""
    found = []
    for k, (node, frame) in enumerate(zip(study.assembly.nodes, frames, strict=True)):
        half = node.piece.stock.caliper / 2
        for points, normal, _ in flat_parts(node, frame, 1.0):
            at, off = np.array(points), half * np.array(normal)
            name = f"{node.element}.{node.instance}/{node.panel.name}"
            found.append(Plate(node.element, name, k, np.vstack([at + off, at - off])))
    return found


def subtree(study: Study, element: str) -> set[str]:
    """An element and all that is on it."""
    (top,) = (e for e in walk(study.design.root) if e.id == element)
    return {e.id for e in walk(top)}


def _covered(study: Study, node: int, other: int) -> bool:
    """Whether nearly all of a limp panel lies on the one that it is glued to."""
    if not study.assembly.nodes[node].limp:
        return False
    plane = np.array(study.shut_frames[node][:6]).reshape(2, 3)
    here, there = (
        Polygon([plane @ np.array(apply(study.shut_frames[k], *p)) for p in study.assembly.nodes[k].panel.outline])
        for k in (node, other)
    )
    return bool(here.intersection(there).area > 0.8 * here.area)


def stiff(study: Study, those: Iterable[Plate]) -> list[Plate]:
    """Without what is limp and hangs as it likes: it is not glued all over, and no motion of its part moves it."""
    glued = {
        k for joint in study.assembly.joints if joint.joint.bond == "glue"
        for k, other in ((joint.a, joint.b), (joint.b, joint.a)) if _covered(study, k, other)
    }  # fmt: skip
    kept = []
    for plate in those:
        node = study.assembly.nodes[plate.node]
        moves = study.resolved[node.element].part.swings
        if (
            not node.limp
            or plate.node in glued
            or any(node.instance in (one[0] for one in (*m.creases, *m.slides)) for m in moves)
        ):
            kept.append(plate)
    return kept


def _aslant(plate: Plate, way: Floats) -> bool:
    """Whether a sheet stands neither across a way nor along it."""
    half = len(plate.corners) // 2
    normal = np.cross(plate.corners[1] - plate.corners[0], plate.corners[2] - plate.corners[0])
    slope = abs(float(normal @ way)) / float(np.linalg.norm(normal))
    return half > 2 and 0.02 < slope < 0.99


def walls_way(inner: Iterable[Plate], outer: Iterable[Plate], way: Floats) -> tuple[float, str]:
    """How far the inner ones are from the nearest sheet beyond them that stands square across a way, mm: of more than
    four walls each has its own way."""
    those = list(inner)
    farthest = max(those, key=lambda plate: plate.span(way)[1])
    high, middle = farthest.span(way)[1], sum(sum(p.span(way)) for p in those) / len(those)
    facing = [p for p in outer if p.span(way)[1] - p.span(way)[0] < 2.0 and sum(p.span(way)) > middle]
    nearest = min(facing, key=lambda plate: plate.span(way)[0])
    return nearest.span(way)[0] - high, f"{farthest.name} and {nearest.name}"


def free_way(inner: Iterable[Plate], outer: Iterable[Plate], way: Floats) -> tuple[float, str]:
    """How far the inner ones can go along a way before they meet the outer ones (below zero: they are in one another),
    mm, and which two meet. Two sheets that both stand aslant are left to the ways that they stand across."""
    across = np.linalg.svd(way[None])[2][1:]
    shown = []
    for plate in outer:
        shape = MultiPoint(plate.corners @ across.T).convex_hull.buffer(-EDGE)
        shown.append((plate, shape, _aslant(plate, way), *plate.span(way)))
    best = (math.inf, "nothing")
    for plate in inner:
        low, high = plate.span(way)
        hull, sloped = MultiPoint(plate.corners @ across.T).convex_hull, _aslant(plate, way)
        for other, shape, slopes, near, far in shown:
            if (sloped and slopes) or near + far <= low + high or near - high >= best[0]:
                continue
            if hull.intersects(shape):
                best = (near - high, f"{plate.name} and {other.name}")
    return best


def axes(frame: Frame) -> tuple[Floats, Floats, Floats, Floats]:
    """Right, up and normal of a face, and its middle."""
    right, up, normal, middle = np.array(frame).reshape(4, 3)
    return right, up, normal, middle


def reach(those: Iterable[Plate], way: Floats) -> float:
    """How far the farthest of some sheets reaches along a way, mm."""
    return max(plate.span(way)[1] for plate in those)


def mount_of(study: Study, host: str, face: str) -> Mount:
    return next(m for m in study.resolved[host].part.mounts if m.id == face)


# -- the told gap is the distance in the posed thing


def _ways(gap: Gap, frame: Frame) -> list[Floats]:
    right, up, normal, _ = axes(frame)
    if gap.where == "up":
        return [normal]
    if gap.angle is None:
        return []
    way = math.cos(gap.angle) * right + math.sin(gap.angle) * up
    return [way, -way] if gap.in_all else [way]


def _lies_below(own: Iterable[Plate], normal: Floats) -> bool:
    """Whether something is thinner than what counts as an obstacle: nothing is met at its sides."""
    lows, highs = zip(*(plate.span(normal) for plate in own), strict=True)
    return max(highs) - min(lows) < EDGE / 2


def hosts_of(study: Study, element: str) -> Iterator[str]:
    """What an element sits on, what that sits on, and so on."""
    while host := study.resolved[element].host:
        yield host
        element = host


def gaps_are_distances(study: Study) -> Iterator[str]:
    """Between a guest and the face it sits on the folded thing leaves what was told, or a little more: straps and
    tabs stand nowhere near every edge."""
    shut = plates(study, list(study.shut_frames))
    for check in study.checks:
        gap = check.gap
        guest = study.resolved[gap.element]
        if gap.host == gap.element or guest.host != gap.host or gap.code == "beside":
            continue
        room, mount = study.resolved[gap.host].rooms[gap.mount], mount_of(study, gap.host, gap.mount)
        frame = study.mount_frames[gap.host, gap.mount]
        mine = subtree(study, gap.element)
        own, others = ([p for p in shut if (p.element in mine) is inside] for inside in (True, False))
        if gap.where != "up":
            own = stiff(study, own)
        _, _, normal, middle = axes(frame)
        left, where = 0.0, ""
        bounded = True
        for way in _ways(gap, frame):
            if gap.where == "up" and room.bound in (TOP, TOP_AROUND):
                walls = {gap.host} if room.bound == TOP else set(hosts_of(study, gap.host))
                top = max(p.span(normal)[1] for p in others if p.element in walls)
                more, where = top - reach(own, normal), "the top"
                bounded = False  # what hangs from a lid that is not there yet
            elif room.relation == "onto" and gap.where != "up":
                outline = np.array([(x, y, 0.0) for x, y in mount.outline]) @ np.array(frame).reshape(4, 3)[:3] + middle
                more, where = float((outline @ way).max()) - reach(own, way), "the edge of the face"
            else:
                within = subtree(study, gap.host)  # what the host itself stands in is not what a lid goes over
                under = [p for p in others if p.element in within]
                inner, outer = (under, own) if room.relation in ("over", "around") else (own, others)
                many = len(room.sides) not in (2, 4) and gap.where != "up"
                more, where = (walls_way if many else free_way)(inner, outer, way)
            left += more
        if not _ways(gap, frame) or (gap.where != "up" and _lies_below(own, normal)):
            continue
        slack = max(SLACK, SHEETS * guest.final.paper.caliper) + guest.final.glue
        if left < gap.value - EXACT or (bounded and left > gap.value + slack):
            yield (
                f"{gap.between[0]} in {gap.between[1]} ({gap.where}): told {gap.value:.2f} mm, "
                f"on the folded thing {left:.2f} mm ({where})"
            )


# -- it stands as told, and lies on what carries it


def stands_as_told(study: Study, element: str) -> Iterator[str]:
    """How far a guest stands off its face, out to its sides, over its walls: what it told its host. What is limp gives
    way at the sides."""
    r = study.resolved[element]
    shut = plates(study, list(study.shut_frames))
    mine = subtree(study, element)
    own, host = ([p for p in shut if p.element in those] for those in (mine, {r.host}))
    frame, need, sheet = study.mount_frames[r.host, r.place.face], r.need, r.final.paper.caliper
    _, _, normal, _ = axes(frame)
    told = need.tall
    first = r.part.instances[0]
    root = study.assembly.index(element, first.id, first.root.panel)
    origin = np.array(apply(study.shut_frames[root], *first.root.origin))
    if need.relation in ("inside", "onto"):
        half = study.assembly.nodes[root].piece.stock.caliper / 2 + first.root.away
        stood = reach(own, normal) - (float(origin @ normal) - half)
        twice = r.part.clasp is not None or sum(j.b == HOST for j in r.part.joints) > 1
        spare = r.final.glue if twice else 0.0  # what it is glued to on its other side lies on glue too
        # what is only told of to stand in it is not drawn
        if all(not -0.15 * sheet <= told - more - stood <= 0.25 * sheet + spare for more in (0.0, need.stands)):
            yield f"{element} stands {stood:.2f} mm off the face, told {told:.2f} mm"
        firm = stiff(study, own) if need.sides else []
        for k, side in enumerate(need.sides):
            angle = side.angle + r.place.turn * math.pi / 2
            way = _ways(Gap(uses.PLACE, "", "", ("", ""), side.reach, angle=angle), frame)[0]
            middle = first.root.ahead * math.sin(side.angle)  # where the origin lies, ahead of the middle
            out = reach(firm, way) - float(origin @ way) + middle
            creeps = CREEPS.get(r.element.family, CREPT) if mine == {element} else DRESSED
            if not -EXACT <= side.reach.value - out <= creeps * sheet + EXACT:
                yield f"{element} reaches {out:.2f} mm to its side {side.name or k}, told {side.reach.value:.2f} mm"
    if need.relation == "over":
        top = reach(host, normal)
        rise = reach(own, normal) - top
        if not -0.5 * sheet <= told - rise <= sheet:
            yield f"{element} stands {rise:.2f} mm above the walls, told {told:.2f} mm"
        drop, where = free_way(host, own, normal)
        if abs(drop) > 0.5 * sheet + need.intrudes:
            yield f"{element} lies {drop:.2f} mm above what it covers ({where})"


def panel_between_sides(study: Study, element: str) -> Iterator[str]:
    """The panel that is told lies between the sides that are told: layers are cut from the one, walls meet the other;
    folds, play and borders lie between, corners beyond."""
    need = study.resolved[element].need
    for axis, panel in enumerate(need.nominal if len(need.sides) == 4 else ()):
        one, other = (need.sides[k].reach.value for k in (axis, axis + 2))
        reaches = one + other
        if abs(one - other) > 0.2 * reaches:
            continue  # a triangle is told by the circle it turns in
        beside = BESIDE + 2 * study.resolved[element].final.paper.caliper
        if panel is not None and abs(reaches - panel) > max(beside, 0.15 * panel):
            yield f"{element} is told {panel:.1f} mm along axis {axis}, its sides {reaches:.1f} mm"


def lies_on_its_face(study: Study, element: str) -> Iterator[str]:
    """What is glued on a face or stands on it touches it there, on the side that was declared, within its panel."""
    r = study.resolved[element]
    if r.need.relation not in ("inside", "onto"):
        return
    mount = mount_of(study, r.host, r.place.face)
    host = study.assembly.index(r.host, mount.instance, mount.panel)
    shut = plates(study, list(study.shut_frames))
    _, _, normal, _ = axes(study.mount_frames[r.host, r.place.face])
    face = np.array(study.shut_frames[host][6:9]) * mount.side
    if float(face @ normal) < 0.999:
        yield f"{mount.label} looks another way than its panel"
    mine = subtree(study, element)
    own, others = ([p for p in shut if (p.element in mine) is inside] for inside in (True, False))
    under, on = free_way(own, [p for p in others if p.element == r.host], -normal)
    glue = 0.0 if mount.seat else r.final.glue  # what is only put there rests on it
    if abs(under - glue) > 0.05:
        yield f"{element} lies {under:.2f} mm off {mount.label}, {glue:.2f} of it glue ({on})"
    held = reach([p for p in shut if p.node == host], normal)
    lows = [p.span(normal)[0] - held for p in own]
    if study.resolved[r.host].rooms[r.place.face].through is not None and not r.need.sides[2:]:
        lows = [min(lows, key=abs)]  # what goes around an edge lies beyond the other side as well
    if (between := min(lows)) < -0.05 or between > 4 * (r.final.paper.caliper + r.final.glue):
        yield f"{element} lies {between:.2f} mm from the panel of {mount.label}"
    outline = [
        (mount.origin[0] + x * mount.side * mount.up[1] + y * mount.up[0],
         mount.origin[1] - x * mount.side * mount.up[0] + y * mount.up[1])
        for x, y in mount.outline
    ]  # fmt: skip
    node = study.assembly.nodes[host]
    corner = study.resolved[r.host].rooms[r.place.face].corner
    turned = 0.0 if corner is None else corner.value
    offered = Polygon(outline).buffer(-turned).buffer(turned)  # with the corners it is told to have
    over = offered.difference(Polygon(node.panel.outline).buffer(EDGE)).area
    if node.shape is None and over > ROUNDED:
        yield f"{mount.label} reaches {over:.1f} mm² over the edge of its panel"


# -- no sheet lies in another


def buried(study: Study) -> list[tuple[str, str, float, float]]:
    """Pairs of parallel sheets nearer than their thickness, with the distance (mm) and the area they share (mm²)."""
    nodes, frames = study.assembly.nodes, study.shut_frames
    found = []
    sheets = []
    for node, frame in zip(nodes, frames, strict=True):
        if node.shape is not None or node.panel.soft:  # bends as its neighbours ask
            sheets.append(None)
            continue
        points = np.array(corners(node, frame))
        normal = np.array(frame[6:9])
        sheets.append((points, normal, points.min(axis=0) - 1, points.max(axis=0) + 1))
    for i, j in combinations(range(len(nodes)), 2):
        a, b = sheets[i], sheets[j]
        if a is None or b is None or (a[2] > b[3]).any() or (b[2] > a[3]).any():
            continue
        if abs(abs(a[1] @ b[1]) - 1) > 1e-4:
            continue
        if nodes[j].parent == i and isinstance(nodes[j].step, CreaseStep) and abs(nodes[j].step.shut) < 1e-6:
            continue  # flat neighbours lie in one plane
        apart = abs((b[0][0] - a[0][0]) @ a[1])
        least = (nodes[i].piece.stock.caliper + nodes[j].piece.stock.caliper) / 2
        if apart > least * (1 - GIVES):
            continue
        across = np.array([1.0, 0, 0]) if abs(a[1][0]) < 0.8 else np.array([0, 1.0, 0])
        u = np.cross(a[1], across)
        u /= np.linalg.norm(u)
        v = np.cross(a[1], u)
        shapes = [Polygon([(p @ u, p @ v) for p in s[0]]).buffer(-0.05) for s in (a, b)]
        common = shapes[0].intersection(shapes[1]).area
        if common > SLIVER:
            name = [f"{nodes[k].element}.{nodes[k].instance}/{nodes[k].panel.name}" for k in (i, j)]
            found.append((*name, apart, common))
    return found


# -- every motion frees something


def motions_free(study: Study) -> Iterator[str]:
    """What lifts off comes clear of the rest; what swings or slides goes a way that a hand would notice and brings
    something to light, or gives way to what does."""
    motions = study.assembly.motions
    for k, motion in enumerate(motions):
        before = [1.0] * k + [0.0] * (len(motions) - k)
        after = [*before]
        after[k] = 1.0
        was, now = (plates(study, pose(study.assembly, State(1.0, tuple(p)))) for p in (before, after))
        moved = [float(np.abs(a.corners - b.corners).max()) for a, b in zip(was, now, strict=True)]
        if motion.kind == "lift":
            mine = subtree(study, motion.element)
            own, rest = [p for p in now if p.element in mine], [p for p in now if p.element not in mine]
            lows = np.vstack([p.corners for p in own]), np.vstack([p.corners for p in rest])
            apart = max((lows[i].min(0) - lows[1 - i].max(0)).max() for i in (0, 1))
            if apart <= 0:
                yield f"{motion.label}: still {-apart:.1f} mm among the rest"
        elif max(moved) < LEAST_WAY:
            yield f"{motion.label}: goes {max(moved):.1f} mm"


# -- all of them, for one family


def above_ground(study: Study) -> Iterator[str]:
    """Nothing lies lower than what all stands on: a face that looks down is not told as one that looks up. A band goes
    around below, and rims hang."""
    if study.resolved[study.design.root.id].family.relation == "over":
        return
    below = {e for e, r in study.resolved.items() if r.family.relation == "around"}
    below |= {e for top in below for e in subtree(study, top)}
    for plate in plates(study, list(study.shut_frames)):
        low = plate.span(np.array([0.0, 0.0, 1.0]))[0]
        if plate.element not in below and low < -0.05:
            yield f"{plate.name} lies {-low:.2f} mm below the ground"


def shows_as_called(study: Study) -> Iterator[str]:
    """What lies on a face can be seen in some standing from shut to open, where the thing lies on nothing. On what is
    called the outside it is seen while all is shut; on the inside of what lies on a host it is not."""
    r, host = study.resolved["g"], study.resolved["f"]
    if r.family.relation != "onto":
        return
    words = dict(host.family.faces)[r.place.face]
    when, alone = study.seen("g")[0].front, study.design.root.id == "f"
    if alone and when == "never":
        yield f"{words}: never shows"
    if alone and "outside" in words and when != "shut":
        yield f"{words}: does not show while all is shut"
    if not alone and host.family.relation == "onto" and r.place.face == "inside" and when == "shut":
        yield f"{words}: shows while all is shut"


def below_nothing(study: Study) -> list[str]:
    """Lengths and counts that are told as less than none."""
    return [
        name for of in study.resolved.values() for name, sized in of.sizes.items()
        if not isinstance(sized.value, str) and sized.value < 0.0
    ]  # fmt: skip


def broken(kind: str) -> Iterator[str]:
    """Every promise that a family does not keep, as a host of plain things and as a guest on them."""
    alone = Study(start_design(kind, {}))
    told, there = ({m.id for m in alone.resolved[alone.design.root.id].part.mounts},
                   set(alone.resolved[alone.design.root.id].rooms))  # fmt: skip
    if told != there:
        yield f"faces that have a room and no place, or a place and no room: {sorted(told ^ there)}"
    yield from motions_free(alone)
    yield from broken_as_guest(hosted(kind))
    yield from broken_as_host(hosting(kind))


def broken_in_bulk(kind: str) -> Iterator[str]:
    """What of it a family does not keep where sheets and layers of glue are thick."""
    yield from broken_as_guest((words, bulky(design)) for words, design in hosted(kind))
    yield from broken_as_host((words, bulky(design)) for words, design in hosting(kind))


def broken_as_guest(cases: Iterable[tuple[str, Design]]) -> Iterator[str]:
    """What is not kept where a family is the guest."""
    for words, design in cases:
        study = Study(design)
        for contract in (stands_as_told, lies_on_its_face, panel_between_sides):
            yield from (f"{words}: {fault}" for fault in contract(study, "g"))
        for holds in (gaps_are_distances, motions_free):
            yield from (f"{words}: {fault}" for fault in holds(study))


def broken_as_host(cases: Iterable[tuple[str, Design]]) -> Iterator[str]:
    """What is not kept where a plain guest sits on a face."""
    for words, design in cases:
        study = Study(design)
        held = ("f", "g") if study.design.root.id != "f" else ("g",)
        for element in held:
            for contract in (stands_as_told, lies_on_its_face):
                yield from (f"{words}: {fault}" for fault in contract(study, element))
        for holds in (gaps_are_distances, motions_free, above_ground):
            yield from (f"{words}: {fault}" for fault in holds(study))
        yield from (f"{words}: {a} and {b} share {area:.0f} mm², {d:.2f} mm apart" for a, b, d, area in buried(study))
        yield from (f"{words}: {fault}" for fault in shows_as_called(study))
