"""The whole joined up: a tree of panels, each moved from its parent by a crease or set on it by a joint.

Creases and glue make a graph; its spanning tree from the root down is walked once and gives every pose by one product
of frames a panel, as robots' arms are told (forward kinematics). What closes a ring is no edge of the tree but an
equation (`Ring`), so that the tree holds whatever the rings do."""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping, Sequence
from typing import Literal

from msgspec import Struct, field
from msgspec.structs import replace

from yawning_lantern.assembly.joints import joints_of
from yawning_lantern.assembly.part import HOST, Instance, Joint, Loop, Mount, Part, Pin, Roll, Root, Shape, Vec
from yawning_lantern.pattern import Panel, Piece, Point

Frame = tuple[float, float, float, float, float, float, float, float, float, float, float, float]
"""Images of x, y, z and the origin, in that order: the rigid motion P ↦ o + P.x·X + P.y·Y + P.z·Z."""


class Motion(Struct, frozen=True):
    """A named path from shut (0) to open (1) of some creases, or of one seat. `parts` are the element ids it moves."""

    name: str
    label: str
    element: str
    kind: Literal["swing", "lift"]


class CreaseStep(Struct, frozen=True):
    """The step over a crease: foot and along-direction of its line, direction into the child, bend radius (mm), angles.

    `settle` moves the line along `into`, mm (see Crease). `shut` is its angle when shut, radians; `turns` holds (index
    of a motion, what that motion adds to the angle). `stage` are the shares of the making between which it is folded,
    where its part says in which order. A `strip` turns about a line at the height of its radius; else paper bends
    evenly over as much of its length as the arc is long.
    """

    foot: Point
    along: Point
    into: Point
    radius: float
    settle: float
    shut: float
    turns: tuple[tuple[int, float], ...]
    stage: tuple[float, float] | None = None
    strip: bool = False


class PlaceStep(Struct, frozen=True):
    """A rigid joint. `moves` holds (index of a motion, what it adds to the place in the parent's frame, mm); `pins`
    (index of a motion, a point and a unit axis in the parent's frame, the angle it turns about them, radians) in the
    order in which they turn; `rolls` (index of a motion, node and crease, whether that is its own or of the panel it
    is set on), over which what lies beyond stays; `apart` is how far off it is before it is made."""

    frame: Frame
    kind: Literal["root", "glue", "slide", "seat"]
    moves: tuple[tuple[int, Vec], ...] = ()
    apart: Vec = (0.0, 0.0, 0.0)
    pins: tuple[tuple[int, Vec, Vec, float], ...] = ()
    rolls: tuple[tuple[int, int, CreaseStep, bool], ...] = ()


class Node(Struct, frozen=True):
    """One panel in the whole. `parent` is an index into the nodes, −1 for the first; `shape`, where there is one,
    tells the corners of the panel in the piece's frame, and `place` which panel of the piece it is. `limp` is told of
    its instance."""

    element: str
    instance: str
    piece: Piece
    panel: Panel
    parent: int
    step: CreaseStep | PlaceStep
    shape: Shape | None = None
    place: int = 0
    limp: bool = False


class Ring(Struct, frozen=True):
    """A loop among the nodes. `unknowns` hold (node, factor); `joints` hold (node, node, pairs of points, mm)."""

    loop: Loop
    element: str
    motion: int
    unknowns: tuple[tuple[tuple[int, float], ...], ...]
    joints: tuple[tuple[int, int, tuple[tuple[Vec, Vec], ...]], ...]


class Bonded(Struct, frozen=True):
    """A joint among the nodes: of which element, the two nodes, and how it is told. `host` is the element that `b`
    belongs to."""

    element: str
    host: str
    a: int
    b: int
    joint: Joint

    @property
    def act(self) -> str:
        """The name of what closes it, in the whole design."""
        return f"{self.element}.{self.joint.name}"


class Guest(Struct, frozen=True):
    """A part on a mount of another: off its middle by `offset` (mm), turned by quarter turns; `depth` in the nest."""

    part: Part
    host: str = ""
    mount: str = ""
    offset: Point = (0.0, 0.0)
    turn: int = 0
    glue: float = 0.0


class Joined(Struct, frozen=True):
    """What one part became in the whole: its nodes from the `first` on, its rings and joints. With it what it was
    joined by: the guest, its mount, the nodes of the host that are `onto` that, how much lies `below` it there, mm."""

    guest: Guest
    mount: Mount | None
    onto: tuple[int, ...]
    below: float
    first: int
    nodes: tuple[Node, ...]
    rings: tuple[Ring, ...]
    joints: tuple[Bonded, ...]

    def serves(self, guest: Guest, mount: Mount | None, onto: tuple[int, ...], below: float, first: int) -> bool:
        """Whether it is what a guest becomes there, if all motions are the same."""
        own = self.guest
        return (
            own.part is guest.part
            and (own.host, own.mount, own.offset, own.turn, own.glue)
            == (guest.host, guest.mount, guest.offset, guest.turn, guest.glue)
            and (self.onto, self.below, self.first) == (onto, below, first)
            and (self.mount is mount or self.mount == mount)
        )


class Assembly(Struct, frozen=True):
    """Every panel of a design in one tree, parents before children, the motions that move them, the rings in it, and
    what is joined to what; by element what it is of it."""

    nodes: tuple[Node, ...]
    motions: tuple[Motion, ...]
    rings: tuple[Ring, ...] = ()
    joints: tuple[Bonded, ...] = ()
    parts: Mapping[str, Joined] = field(default_factory=dict)

    def index(self, element: str, instance: str, panel: str) -> int:
        """Where a panel is among the nodes. Raises KeyError."""
        for i, node in enumerate(self.nodes):
            if node.element == element and node.instance == instance and node.panel.name == panel:
                return i
        raise KeyError((element, instance, panel))


def _placed(
    host_origin: Point, host_up: Point, side: int, standoff: float, root: Root, offset: Point, turn: int
) -> Frame:
    """The frame that takes piece coordinates of a guest to those of its host panel."""
    up_x, up_y = host_up
    right_x, right_y = up_y * side, -up_x * side
    angle = turn * math.pi / 2
    c, s = math.cos(angle), math.sin(angle)
    # the guest's own right and up in the host's plane, turned about the face's normal
    gx = (right_x * c + up_x * s, right_y * c + up_y * s)
    gy = (-right_x * s + up_x * c, -right_y * s + up_y * c)
    ox = host_origin[0] + right_x * offset[0] + up_x * offset[1] + gy[0] * root.ahead
    oy = host_origin[1] + right_y * offset[0] + up_y * offset[1] + gy[1] * root.ahead
    # tilted, up rises from the face and what was straight out of it leans back
    flat, rise = math.cos(root.tilt), math.sin(root.tilt) * side
    zx, zy, z = (-root.touch * way for way in (-gy[0] * rise * side, -gy[1] * rise * side, flat * side))
    # right and up of the guest as seen from the host's face, told in the guest's piece
    gu = root.up
    flip = -root.touch
    gr = (gu[1] * flip, -gu[0] * flip)
    # piece x = gr.x · right + gu.x · up ; piece y likewise
    ux, uy = gy[0] * flat, gy[1] * flat
    xx, xy, xz = gr[0] * gx[0] + gu[0] * ux, gr[0] * gx[1] + gu[0] * uy, gu[0] * rise
    yx, yy, yz = gr[1] * gx[0] + gu[1] * ux, gr[1] * gx[1] + gu[1] * uy, gu[1] * rise
    px, py = root.origin
    at = (ox - px * xx - py * yx, oy - px * xy - py * yy, standoff * side - px * xz - py * yz)
    return (xx, xy, xz, yx, yy, yz, zx, zy, z, *at)


class _Joiner:
    """Collects nodes and rings while walking the parts."""

    def __init__(self, motions: tuple[Motion, ...]) -> None:
        self.nodes: list[Node] = []
        self.rings: list[Ring] = []
        self.joints: list[Bonded] = []
        self.motions = {motion.name: k for k, motion in enumerate(motions)}
        self.below: dict[tuple[str, str], float] = {}
        self.at: dict[tuple[str, str, str], int] = {}
        self.folded: dict[tuple[str, str, str], int] = {}
        self.parts: dict[str, Joined] = {}

    def add(self, guest: Guest, mount: Mount | None, before: Joined | None) -> None:
        """One part: what it was before, if it is joined by the very same, else made anew."""
        onto: tuple[int, ...] = ()
        if mount is not None:
            onto = tuple(self.at[guest.host, *face] for face in ((mount.instance, mount.panel), *mount.over))
        below, first = self.below.get((guest.host, guest.mount), 0.0), len(self.nodes)
        element = guest.part.element
        if before is not None and before.serves(guest, mount, onto, below, first):
            self.parts[element] = before
            self.nodes += before.nodes
            self.rings += before.rings
            self.joints += before.joints
            self.at.update(((element, n.instance, n.panel.name), k) for k, n in enumerate(before.nodes, first))
            return
        rings, joints = len(self.rings), len(self.joints)
        self.add_part(guest, mount)
        added = tuple(self.nodes[first:]), tuple(self.rings[rings:]), tuple(self.joints[joints:])
        self.parts[element] = Joined(guest, mount, onto, below, first, *added)

    def add_part(self, guest: Guest, mount: Mount | None) -> None:
        """All panels of one part, its first instance on `mount` (or in the world when there is none)."""
        part = guest.part
        turns: dict[tuple[str, str], list[tuple[int, float]]] = {}
        slides: dict[str, list[tuple[int, Vec]]] = {}
        pins: dict[str, list[tuple[int, Pin]]] = {}
        n = len(part.folding)
        stages = {named: (k / n, (k + 1) / n) for k, stage in enumerate(part.folding) for named in stage}
        for swing in part.swings:
            motion = self.motions[f"{part.element}.{swing.name}"]
            for copy, crease, angle in swing.creases:
                turns.setdefault((copy, crease), []).append((motion, angle))
            for copy, way in swing.slides:
                slides.setdefault(copy, []).append((motion, way))
            for pin in swing.pins:
                pins.setdefault(pin.instance, []).append((motion, pin))
        for instance in part.instances:
            piece, root = part.piece(instance.piece), instance.root
            half = piece.stock.caliper / 2 * math.cos(root.tilt) + root.away
            own = slides.get(instance.id, ())
            if instance.attach is not None:
                attach = instance.attach
                parent = self.at[part.element, attach.host, attach.panel]
                frame = _placed(attach.origin, attach.up, attach.side, attach.standoff, root, (0.0, 0.0), 0)
                step = PlaceStep(frame, attach.kind, _turned_moves(frame, own))
            elif mount is not None:
                parent = self.at[guest.host, mount.instance, mount.panel]
                away = mount.standoff + half + (0.0 if mount.seat else guest.glue)
                if not part.under and not mount.seat:
                    away += self.below.get((guest.host, mount.id), 0.0)
                frame = _placed(mount.origin, mount.up, mount.side, away, root, guest.offset, guest.turn)
                if mount.seat:
                    apart = _lifted(mount)
                    seat = self.motions[f"{part.element}.lift"]
                    step = PlaceStep(frame, "seat", ((seat, apart), *_turned_moves(frame, own)), apart)
                else:
                    step = PlaceStep(frame, "slide" if own else "glue", _turned_moves(frame, own))
            else:
                parent = -1
                frame = _placed((0.0, 0.0), (0.0, 1.0), 1, half, root, (0.0, 0.0), 0)
                step = PlaceStep(frame, "root", _turned_moves(frame, own))
            if instance.id in pins:
                step = replace(step, pins=_pinned(step.frame, pins[instance.id]))
            if instance.shape is None:
                self._add_piece(part.element, instance, piece, parent, step, turns, stages)
            else:
                for k, panel in enumerate(piece.panels):
                    self.at[part.element, instance.id, panel.name] = len(self.nodes)
                    self.nodes.append(Node(part.element, instance.id, piece, panel, parent, step, instance.shape, k))
        for swing in part.swings:
            for roll in swing.rolls:
                self._add_roll(part, roll, self.motions[f"{part.element}.{swing.name}"])
        for loop in part.loops:
            self._add_ring(part.element, loop)
        for joint in joints_of(part):
            self._add_joint(guest, mount, joint)

    def _add_roll(self, part: Part, roll: Roll, motion: int) -> None:
        """A crease over which an instance rolls is told to its own rigid joint, and to those of its riders."""
        crease = next(c for c in part.piece(part.instance(roll.instance).piece).creases if c.name == roll.crease)
        beyond = max(self.at[part.element, roll.instance, panel] for panel in (crease.a, crease.b))
        bend = self.nodes[beyond].step
        assert isinstance(bend, CreaseStep)
        for name in (roll.instance, *roll.riders):
            k = self.at[part.element, name, part.instance(name).root.panel]
            step = self.nodes[k].step
            assert isinstance(step, PlaceStep)
            rolls = (*step.rolls, (motion, beyond, bend, name == roll.instance))
            self.nodes[k] = replace(self.nodes[k], step=replace(step, rolls=rolls))

    def _add_joint(self, guest: Guest, mount: Mount | None, joint: Joint) -> None:
        element = guest.part.element
        a = self.at[element, *joint.a]
        if joint.b != HOST:
            self.joints.append(Bonded(element, element, a, self.at[element, *joint.b], joint))
        elif mount is not None:
            seated = replace(joint, bond="free") if mount.seat and joint.bond == "glue" else joint
            for face in ((mount.instance, mount.panel), *mount.over):
                self.joints.append(Bonded(element, guest.host, a, self.at[guest.host, *face], seated))

    def _add_ring(self, element: str, loop: Loop) -> None:
        unknowns = tuple(
            tuple((self.folded[element, copy, crease], factor) for copy, crease, factor in group)
            for group in loop.unknowns
        )
        joints = tuple((self.at[element, *c.a], self.at[element, *c.b], c.points) for c in loop.closures)
        self.rings.append(Ring(loop, element, self.motions[f"{element}.{loop.swing}"], unknowns, joints))

    def _add_piece(
        self,
        element: str,
        copy: Instance,
        piece: Piece,
        parent: int,
        step: PlaceStep,
        turns: Mapping[tuple[str, str], Sequence[tuple[int, float]]],
        stages: Mapping[tuple[str, str], tuple[float, float]],
    ) -> None:
        panels = {panel.name: panel for panel in piece.panels}
        thickness, instance, wraps = piece.stock.caliper, copy.id, dict(copy.wraps)
        todo: list[tuple[str, int, CreaseStep | PlaceStep]] = [(copy.root.panel, parent, step)]
        done: set[str] = set()
        while todo:
            name, above, how = todo.pop()
            if name in done:
                continue  # around an inner point scores make a ring: one way there is enough
            done.add(name)
            index = len(self.nodes)
            self.at[element, instance, name] = index
            self.nodes.append(Node(element, instance, piece, panels[name], above, how, limp=copy.limp))
            for crease in piece.creases:
                if name not in (crease.a, crease.b):
                    continue
                other = crease.b if crease.a == name else crease.a
                if other in done:
                    self.folded[element, instance, crease.name] = index
                    continue
                now, added = crease.angle, []
                for motion, angle in turns.get((instance, crease.name), ()):
                    added.append((motion, angle - now))
                    now = angle
                (x0, y0), (x1, y1) = crease.start, crease.end
                length = math.hypot(x1 - x0, y1 - y0)
                ux, uy = (x1 - x0) / length, (y1 - y0) / length
                cx, cy = panels[other].centre
                left = (cx - x0) * -uy + (cy - y0) * ux > 0
                into = (-uy, ux) if left else (uy, -ux)
                settle = -crease.settle if other == crease.b else crease.settle
                radius = (thickness + wraps.get(crease.name, crease.wrap)) / 2
                bend = CreaseStep(
                    crease.start,
                    (ux, uy),
                    into,
                    radius,
                    settle,
                    crease.angle,
                    tuple(added),
                    stages.get((instance, crease.name)),
                    crease.strip,
                )
                todo.append((other, index, bend))


def _pinned(frame: Frame, pins: Sequence[tuple[int, Pin]]) -> tuple[tuple[int, Vec, Vec, float], ...]:
    """Pins told in a piece's own coordinates, as the panel sees them that it is set on, by their motions."""
    turned = []
    for motion, pin in sorted(pins, key=lambda told: told[0]):
        x, y, z = _turned(frame, pin.at)
        at = (x + frame[9], y + frame[10], z + frame[11])
        turned.append((motion, at, _turned(frame, pin.axis), pin.angle))
    return tuple(turned)


def _turned(frame: Frame, way: Vec) -> Vec:
    """A way in a piece's own coordinates, as the panel sees it that the piece is set on, mm."""
    x, y, z = way
    return (
        x * frame[0] + y * frame[3] + z * frame[6],
        x * frame[1] + y * frame[4] + z * frame[7],
        x * frame[2] + y * frame[5] + z * frame[8],
    )


def _turned_moves(frame: Frame, moves: Sequence[tuple[int, Vec]]) -> tuple[tuple[int, Vec], ...]:
    """Ways told in a piece's own coordinates, as the panel sees them that it is set on, mm."""
    return tuple((motion, _turned(frame, way)) for motion, way in moves)


def _lifted(mount: Mount) -> Vec:
    """How far a seated guest goes off its mount, in the host panel's frame, mm."""
    ux, uy = mount.up
    rx, ry = uy * mount.side, -ux * mount.side
    right, up = mount.draw
    return right * rx + up * ux, right * ry + up * uy, mount.side * mount.lift


def _motions(guests: Sequence[Guest], mounts: Mapping[tuple[str, str], Mount]) -> tuple[Motion, ...]:
    """What moves, in the order it opens: what is seated on a part lifts before the part's own walls fall, and those
    before what stands inside it."""
    held: dict[str, list[Guest]] = {}
    for guest in guests:
        held.setdefault(guest.host, []).append(guest)
    return tuple(_moving(guests[0], held, mounts))


def _moving(
    guest: Guest, held: Mapping[str, Sequence[Guest]], mounts: Mapping[tuple[str, str], Mount]
) -> Iterator[Motion]:
    """What moves of a guest and of all that it carries."""
    part = guest.part
    inside = held.get(part.element, ())
    seated = [g for g in inside if mounts[g.host, g.mount].seat]
    for lid in seated:
        yield Motion(f"{lid.part.element}.lift", f"lift {lid.part.name}", lid.part.element, "lift")
        yield from _moving(lid, held, mounts)
    for swing in part.swings:
        yield Motion(f"{part.element}.{swing.name}", swing.label, part.element, "swing")
    for other in inside:
        if other not in seated:
            yield from _moving(other, held, mounts)


def join(guests: Sequence[Guest], before: Assembly | None = None) -> Assembly:
    """One assembly of parts given hosts before guests; the first is the root. What of the one `before` it is joined the
    same way is taken over: the very same nodes in the same places.

    Raises:
        KeyError: a guest names a host or mount that does not exist; the resolver has checked that before.
    """
    mounts = {(guest.part.element, mount.id): mount for guest in guests for mount in guest.part.mounts}
    motions = _motions(guests, mounts)
    joiner = _Joiner(motions)
    for guest in guests:  # what lies under the others on a face lifts them
        if guest.part.under and guest.host and not mounts[guest.host, guest.mount].seat:
            own = guest.part.piece(guest.part.instances[0].piece).stock.caliper + guest.glue
            key = guest.host, guest.mount
            joiner.below[key] = max(own, joiner.below.get(key, 0.0))
    old = before.parts if before is not None and before.motions == motions else {}
    for guest in guests:
        mount = mounts[guest.host, guest.mount] if guest.host else None
        joiner.add(guest, mount, old.get(guest.part.element))
    return Assembly(tuple(joiner.nodes), motions, tuple(joiner.rings), tuple(joiner.joints), joiner.parts)
