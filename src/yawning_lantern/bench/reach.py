"""Can a joint still be made: what is brought comes off its mate, glue gets between them, and both sides can be pressed.

Each of the three may be done in a pose of its own: shut, or with everything a part of the way open. In the way is only
the block of the joint (see `acts`): all else is swung aside. What is brought is turned about a crease of the ring it
closes, or, where it hangs on nothing yet, comes along the face's normal or aslant. Glue must reach seven points in
ten; pressed is each side where half of its points are met by a finger, a folder or its tip, or lie on the table, or
where the whole block lies flat and is pressed as one.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator, Sequence

from msgspec import Struct

from yawning_lantern.arrays import Floats, Truths, np
from yawning_lantern.assembly import Assembly, Bonded, CreaseStep
from yawning_lantern.assembly.joined import Frame
from yawning_lantern.bench.acts import Act, Block, Hanging, Way
from yawning_lantern.bench.hands import NOZZLES, PRESSING, Free, is_flat_against, names_of
from yawning_lantern.bench.rolled import rolls_flat
from yawning_lantern.fold import State, apply, pose
from yawning_lantern.fold.frames import crease_frame, then
from yawning_lantern.opening import Plates
from yawning_lantern.pattern import Point
from yawning_lantern.pattern.convex import shared
from yawning_lantern.pattern.piece import area, bounds

TURNS = tuple(math.radians(a) for a in (0.3, 0.6, 1.2, 2.5, 5.0, 9.0, 14.0, 22.0))
"""How far what is brought must come off its mate by turning, radians."""
WIDER = tuple(math.radians(a) for a in (45.0, 90.0, 135.0))
"""How far it may be turned away while glue is put on, radians."""
OFF = (0.12, 0.3, 0.6, 1.2, 2.5, 5.0, 10.0, 20.0, 40.0, 90.0)
"""How far what hangs on nothing must come off, mm."""
Pose = tuple[float, int]
"""How far the first so many motions are, the others shut; of −1 all of them."""
SHUT: Pose = (0.0, -1)  # nothing is moved
POSES: tuple[Pose, ...] = tuple((share, -1) for share in (0.0, 0.25, 0.5, 0.75, 1.0))
"""All motions together, from shut to open: where a joint is tried."""
GLUED = 0.7  # share of a joint that a nozzle must reach
PRESSED = 0.5  # share of a joint that a finger must reach
THROUGH = 3.0
"""What is glued flat on a joint within this is pressed through, mm."""
PACK = 15.0
"""A block that lies flat is pressed as one up to this thickness, mm."""
HOLLOW = 13.5
"""A hollow wall of paper gives way between two fingers, and a face between two walls is stiff, up to this, mm: half an
inch and its sheets. From memory."""
BOARD = 1.0
"""Board as thick as this spreads what presses it over all that is under it, mm. From memory."""
_FLAT = 0.9995  # cosine: panels that lie along one another more nearly are level
_PACKED = 0.99  # cosine: of a block that is pressed flat; short panels over thick ones lean a little


class Reached(Struct, frozen=True):
    """Whether an act can be made. `tools` press it; where it cannot be, `fails` tells what: it is `held` shut by
    others, does not come `off` its mate, no `glue` gets in, or it cannot be `pressed`."""

    ok: bool
    tools: tuple[str, ...] = ()
    fails: str = ""


class _Face(Struct, frozen=True):
    """The face of a joint in the frame of what is brought: its points, mm, and on which side of its panel the mate
    lies."""

    points: tuple[Point, ...]
    side: float


class Reach:
    """Answers for one design, kept by what is in the way."""

    def __init__(self, assembly: Assembly) -> None:
        self.assembly = assembly
        self.hanging = Hanging(assembly)
        self._plates = Plates(assembly)
        self._known: dict[tuple[int, Block], Reached] = {}
        self._faces: dict[int, _Face] = {}
        self._free = Free()
        self._poses: dict[Pose, tuple[list[Frame], Floats, Floats, Floats, Floats]] = {}

    def of(self, act: Act, made: Iterable[Act]) -> Reached:
        """Whether an act can be made while others are made already."""
        made = tuple(made)
        tools: list[str] = []
        for bonded in act.joints:
            if self._bends(bonded):
                continue
            block = self.hanging.block(act, bonded, made)
            if block is None:
                return Reached(False, fails="held")
            answer = self._answer(bonded, block)
            if not answer.ok and len(act.joints) > 1:  # a pile that is stapled is laid on one another first
                others = [other for other in act.joints if other is not bonded]
                piled = self.hanging.block(act, bonded, made, others)
                answer = self._answer(bonded, piled) if piled is not None else answer
            if not answer.ok:
                return answer
            tools += answer.tools
        return Reached(True, tuple(dict.fromkeys(tools)))

    def _answer(self, bonded: Bonded, block: Block) -> Reached:
        key = (id(bonded), block)
        if key not in self._known:
            self._known[key] = self._reach(bonded, block)
        return self._known[key]

    def _bends(self, bonded: Bonded) -> bool:
        """Whether a sheet of it bends: it is pressed where it lies, whatever else is made."""
        a, b = self.assembly.nodes[bonded.a], self.assembly.nodes[bonded.b]
        return a.shape is not None or b.shape is not None or a.limp

    # -- one joint

    def _reach(self, bonded: Bonded, block: Block) -> Reached:
        if not self._face(bonded).points:
            return Reached(True)  # fixed elsewhere than it is drawn, by hand
        if rolls_flat(self.assembly, bonded, block, self._at(SHUT)[0]):
            return Reached(True)
        off = glue = False
        tools: tuple[str, ...] | None = None
        for share in (*POSES, *self._one_by_one(bonded)):
            if not (off and glue):
                came, wet = self._off_and_glued(bonded, block, share)
                off, glue = off or came, glue or wet
            tools = tools or self._pressed(bonded, block, share)
            if off and glue and tools is not None:
                return Reached(True, tools)
            if not any(k for k in self._moved(block)):
                break
        return Reached(False, fails="off" if not off else "glue" if not glue else "pressed")

    def _one_by_one(self, bonded: Bonded) -> Iterator[Pose]:
        """Poses in which the two elements of a joint are opened motion by motion: leaves lie on one another when all
        are turned, as they do when none is."""
        those = (bonded.element, bonded.host)
        own = [k for k, motion in enumerate(self.assembly.motions) if motion.element in those]
        yield from ((1.0, k + 1) for k in own[:-1])

    def _moved(self, block: Block) -> list[bool]:
        """Whether a node of the block moves when the thing opens."""
        return [
            bool(step.turns if isinstance(step, CreaseStep) else step.moves or step.pins or step.rolls)
            for step in (self.assembly.nodes[k].step for k in block.nodes)
        ]

    def _face(self, bonded: Bonded) -> _Face:
        """The points of a joint's face, in the pose where it is shut."""
        known = self._faces.get(id(bonded))
        if known is not None:
            return known
        frames = self._at(SHUT)[0]
        a, b = frames[bonded.a], frames[bonded.b]
        one, other = self.assembly.nodes[bonded.a].panel, self.assembly.nodes[bonded.b].panel
        seen = [_local(a, apply(b, x, y)) for x, y in other.outline]
        flat: list[Point] = [(x, y) for x, y, _ in seen]
        if area(flat) < 0:
            flat.reverse()
        spots = [shared(spot, flat) for spot in (bonded.joint.spots or (one.outline,))]
        points = tuple(p for spot in spots if len(spot) > 2 and area(spot) > 1.0 for p in _sample(spot))
        height = sum(z for _, _, z in seen) / len(seen)
        self._faces[id(bonded)] = _Face(points, 1.0 if height > 0 else -1.0)
        return self._faces[id(bonded)]

    def _at(self, share: Pose) -> tuple[list[Frame], Floats, Floats, Floats, Floats]:
        """Frames, rotations and origins of the plates, their corners and ways in a pose."""
        if share not in self._poses:
            far, first = share
            count = len(self.assembly.motions)
            progress = tuple(far if first < 0 or m < first else 0.0 for m in range(count))
            frames = pose(self.assembly, State(1.0, progress))
            turns, origins = self._plates.placed(frames)
            corners, ways = self._plates.corners(turns, origins), self._plates.ways(turns)
            self._poses[share] = frames, turns, origins, corners, ways
        return self._poses[share]

    def _ranks(self, nodes: Iterable[int]) -> list[int]:
        return sorted(rank for k in nodes for rank in self._plates.ranks.get(k, ()))

    def _on_face(self, bonded: Bonded, share: Pose) -> tuple[Floats, Floats, Floats]:
        """Points of the joint (p, 3), mm, the unit normal from what is brought to its mate, a way in the face."""
        frames, face = self._at(share)[0], self._face(bonded)
        frame = frames[bonded.a]
        points = np.array([apply(frame, x, y) for x, y in face.points])
        return points, face.side * np.array(frame[6:9]), np.array(frame[:3])

    # -- off its mate, and glue between

    def _off_and_glued(self, bonded: Bonded, block: Block, share: Pose) -> tuple[bool, bool]:
        points, normal, along = self._on_face(bonded, share)
        off = False
        for way in block.ways:
            moving = self._ranks(way.moving)
            rest = self._ranks(block.nodes - way.moving)
            for motion in self._motions(bonded, way, share, points, normal):
                came = self._come_off(moving, rest, share, motion)
                if came is None:
                    continue
                off = True
                if self._glued(moving, rest, share, (points, normal, along), came):
                    return True, True
        return off, False

    def _motions(
        self, bonded: Bonded, way: Way, share: Pose, points: Floats, normal: Floats
    ) -> list[list[tuple[Floats, Floats]]]:
        """Ways off: for each a list of motions in the world (rotation, shift), ever further; those beyond `TURNS` and
        `OFF` are not needed. `normal` points to the mate."""
        if way.crease < 0:
            motions = []
            side = np.cross(normal, [0.36, 0.48, 0.8])
            side /= np.linalg.norm(side)
            cross = np.cross(normal, side)
            slants = [(math.cos(k * math.pi / 4), math.sin(k * math.pi / 4)) for k in range(8)]
            for a, b in ((0.0, 0.0), *slants):
                go = -normal + a * side + b * cross
                go /= np.linalg.norm(go)
                motions.append([(np.eye(3), go * far) for far in OFF])
            if bonded.joint.hollow:
                frame = np.array(self._at(share)[0][bonded.a])
                motions += [[(np.eye(3), sign * way * far) for far in OFF]
                          for way in (frame[:3], frame[3:6]) for sign in (1.0, -1.0)]  # fmt: skip
            return motions
        frames = self._at(share)[0]
        node = self.assembly.nodes[way.crease]
        step = node.step
        assert isinstance(step, CreaseStep)
        above, below = frames[node.parent], frames[way.crease]
        angle = _angle(step, above, below)
        turned = []
        middle = points.mean(axis=0)
        child_moves = way.crease in way.moving
        for sign in (1.0, -1.0):
            motion = []
            for turn in (*TURNS, *WIDER):
                now = then(above, crease_frame(step, angle + sign * turn))
                rot, shift = _between(below, now)
                motion.append((rot, shift) if child_moves else (rot.T, -rot.T @ shift))
            first_rot, first_shift = motion[2]
            if (first_rot @ middle + first_shift - middle) @ normal < -1e-3:
                turned.append(motion)
        return turned

    def _come_off(
        self, moving: Sequence[int], rest: Sequence[int], share: Pose, motion: Sequence[tuple[Floats, Floats]]
    ) -> tuple[Floats, Floats] | None:
        """The furthest motion without contact, or None where what must be got is not."""
        _, turns, origins, corners, ways = self._at(share)
        needed = len(TURNS) if len(motion) > len(OFF) else len(OFF)
        low, high = corners[rest].min(axis=1), corners[rest].max(axis=1)
        last = None
        touching = self._touching(moving, rest, turns, origins, corners, (low, high), None, ways)
        for k, (rot, shift) in enumerate(motion):
            moved = corners[moving] @ rot.T + shift
            if self._touching(moving, rest, turns, origins, moved, (low, high), (rot, shift), ways) - touching:
                return last if k >= needed else None
            last = (rot, shift)
        return last

    def _touching(
        self,
        moving: Sequence[int],
        rest: Sequence[int],
        turns: Floats,
        origins: Floats,
        corners: Floats,
        box: tuple[Floats, Floats],
        motion: tuple[Floats, Floats] | None,
        ways: Floats,
    ) -> set[tuple[int, int]]:
        """Pairs of ranks that are in one place."""
        if not moving or not rest:
            return set()
        own = corners if motion is not None else corners[moving]
        meet = (own.min(axis=1)[:, None] <= box[1][None]).all(-1) & (box[0][None] <= own.max(axis=1)[:, None]).all(-1)
        meet &= ~self._plates.joined[np.ix_(moving, rest)]
        pairs = np.argwhere(meet)
        if not len(pairs):
            return set()
        if motion is not None:
            turns, origins = turns.copy(), origins.copy()
            turns[moving] = motion[0] @ turns[moving]
            origins[moving] = origins[moving] @ motion[0].T + motion[1]
        touching = set()
        for i, j in pairs:
            if self._plates.touch(moving[i], rest[j], turns, origins) is not None:
                touching.add((moving[i], rest[j]))
        return touching

    def _glued(
        self,
        moving: Sequence[int],
        rest: Sequence[int],
        share: Pose,
        face: tuple[Floats, Floats, Floats],
        came: tuple[Floats, Floats],
    ) -> bool:
        """Whether the nozzle gets at the face of what is brought, or at its mate's, once it is off."""
        points, normal, along = face
        rot, shift = came
        _, _, _, corners, ways = self._at(share)
        moved, turned = corners[moving] @ rot.T + shift, ways[moving] @ rot.T
        both = np.concatenate([moved, corners[rest]]), np.concatenate([turned, ways[rest]])
        for at, way, side in (
            (points @ rot.T + shift, rot @ normal, rot @ along),
            (points, -normal, along),
        ):
            near = _stacked(at, way, *both)
            free = np.zeros(len(at), dtype=bool)
            for tool in NOZZLES:
                free |= self._free.points(at, way, side, tool, both[0][~near], both[1][~near])
                if free.mean() >= GLUED:
                    return True
        return False

    # -- pressed

    def _pressed(self, bonded: Bonded, block: Block, share: Pose) -> tuple[str, ...] | None:
        """What presses both sides, or None. An empty answer: it lies on the table and is pressed flat."""
        points, normal, along = self._on_face(bonded, share)
        _, _, _, corners, ways = self._at(share)
        stiff = [k for k in block.nodes if self.assembly.nodes[k].shape is None]  # what bends gives way
        ranks = self._ranks(stiff)
        own, turned = corners[ranks], ways[ranks]
        if len(own):
            heights = own @ normal
            if (np.abs(turned[:, 0] @ normal) > _PACKED).all() and np.ptp(heights) < PACK:
                return ()
        used = []
        tables = 0
        for way in (-normal, normal):
            if way is normal and bonded.joint.on_contents:
                continue
            if is_flat_against(own, points[0], way, THROUGH) and not tables:
                tables += 1
                continue
            faces = self._faces_pressed(bonded, points, way, own, turned)
            faces += [(spots, faces[0][1]) for spots in self._boards(stiff, share, points, way)]
            for at, near in faces:
                tool = next(
                    (one for one in PRESSING
                     if self._free.points(at, way, along, one, own[~near], turned[~near]).mean() >= PRESSED), None
                )  # fmt: skip
                if tool is not None:
                    used.append(tool)
                    break
            else:
                if not (bonded.joint.hollow and self._is_stiff(bonded, share, way, own, turned)):
                    return None
        return names_of(used)

    @staticmethod
    def _faces_pressed(
        bonded: Bonded, points: Floats, way: Floats, own: Floats, turned: Floats
    ) -> list[tuple[Floats, Truths]]:
        """Where a joint is pressed from one side, (p, 3), and what plates are pressed with it, (n,): the joint itself,
        and the far side of the hollow wall it is in."""
        pressed = [(points, _stacked(points, way, own, turned))]
        if bonded.joint.hollow:
            deep = _stacked(points, way, own, turned, HOLLOW)
            far = float(((own[deep] - points[0]) @ way).max()) if deep.any() else 0.0
            pressed.append((points + max(far, 0.0) * way, deep))
        return pressed

    def _boards(self, nodes: Sequence[int], share: Pose, points: Floats, way: Floats) -> Iterator[Floats]:
        """Points on the far face of every stiff board that lies over a joint one way: pressed there, it presses all
        that is under it."""
        frames = self._at(share)[0]
        for k in nodes:
            node, frame = self.assembly.nodes[k], np.array(frames[k])
            off = float((frame[9:] - points[0]) @ way)
            half = node.piece.stock.caliper / 2
            if 2 * half >= BOARD and 0.0 < off < THROUGH and abs(float(frame[6:9] @ way)) > _FLAT:
                yield np.array([apply(frames[k], *p) for p in _sample(node.panel.outline)]) + half * way

    def _is_stiff(self, bonded: Bonded, share: Pose, way: Floats, own: Floats, turned: Floats) -> bool:
        """Whether a panel of a joint is narrow and stands between two walls that go off it one way: they bear it."""
        frames = self._at(share)[0]
        for k in (bonded.a, bonded.b):
            outline = self.assembly.nodes[k].panel.outline
            x0, y0, x1, y1 = bounds(outline)
            narrow = 0 if x1 - x0 < y1 - y0 else 1
            low, high = ((x0, x1), (y0, y1))[narrow]
            if high - low > HOLLOW:
                continue
            frame = np.array(frames[k])
            across = frame[3 * narrow : 3 * narrow + 3]
            off, over = (own - frame[9:]) @ way, (own - frame[9:]) @ across
            walls = (np.abs(turned[:, 0] @ way) < 0.1) & (np.abs(turned[:, 0] @ across) > 0.9)
            walls &= (off.min(axis=1) < THROUGH) & (off.max(axis=1) > THROUGH)
            middles = over.mean(axis=1)
            if all((walls & (np.abs(middles - edge) < THROUGH)).any() for edge in (low, high)):
                return True
        return False


def _local(frame: Frame, p: tuple[float, float, float]) -> tuple[float, float, float]:
    """A point of the world in a frame, mm."""
    dx, dy, dz = p[0] - frame[9], p[1] - frame[10], p[2] - frame[11]
    return (
        dx * frame[0] + dy * frame[1] + dz * frame[2],
        dx * frame[3] + dy * frame[4] + dz * frame[5],
        dx * frame[6] + dy * frame[7] + dz * frame[8],
    )


def _sample(outline: Sequence[Point]) -> list[Point]:
    """The middle of a convex outline and points half-way to its corners; of a long one a point in each third too."""
    x0, y0, x1, y1 = bounds(outline)
    n = len(outline)
    middle = sum(p[0] for p in outline) / n, sum(p[1] for p in outline) / n
    points = [middle] + [((p[0] + middle[0]) / 2, (p[1] + middle[1]) / 2) for p in outline[:6]]
    if max(x1 - x0, y1 - y0) > 3 * min(x1 - x0, y1 - y0):
        points += [(middle[0] + 0.8 * (p[0] - middle[0]), middle[1] + 0.8 * (p[1] - middle[1])) for p in outline[:6]]
    return points


def _stacked(points: Floats, way: Floats, corners: Floats, ways: Floats, through: float = THROUGH) -> Truths:
    """Which plates lie flat on a face within what is pressed `through`, mm, (n,)."""
    flat = np.abs(ways[:, 0] @ way) > _FLAT
    height = (corners - points[0]) @ way
    near: Truths = flat & (height.max(axis=1) < through) & (height.min(axis=1) > -THROUGH)
    return near


def _angle(step: CreaseStep, above: Frame, below: Frame) -> float:
    """How far a crease is folded in a pose, radians."""
    vx, vy = step.into
    x, y, z = (vx * below[k] + vy * below[3 + k] for k in range(3))
    along = [vx * above[k] + vy * above[3 + k] for k in range(3)]
    cosine = x * along[0] + y * along[1] + z * along[2]
    sine = x * above[6] + y * above[7] + z * above[8]
    return math.atan2(sine, cosine)


def _between(before: Frame, after: Frame) -> tuple[Floats, Floats]:
    """The motion of the world that takes one frame to another: rotation and shift."""
    a, b = np.array(before), np.array(after)
    turn_a, turn_b = a[:9].reshape(3, 3).T, b[:9].reshape(3, 3).T
    rot = turn_b @ turn_a.T
    return rot, b[9:] - rot @ a[9:]
