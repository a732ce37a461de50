"""Acts: joints that one fold or one press closes; and what hangs together stiffly while one is made.

Panels that are joined are one body; creases hinge bodies on one another. A hinge that is a bridge of that graph is
free: what lies beyond it is swung out of the way. So only the bodies in one ring with the joint, its block, can be in
the way (bridges by depth-first search, Tarjan 1974, from memory)."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from msgspec import Struct

from yawning_lantern.assembly import HOST, Assembly, Bonded, CreaseStep


class Act(Struct, frozen=True):
    """What is closed at once: its joints, of the element whose it is. `host` is the element that it is joined to."""

    name: str
    joints: tuple[Bonded, ...]

    @property
    def element(self) -> str:
        """Whose it is."""
        return self.joints[0].element

    @property
    def host(self) -> str:
        """What it is joined to: the same element, or the one it is put on."""
        return self.joints[0].host

    @property
    def is_foot(self) -> bool:
        """Whether it puts a part on its host."""
        return self.joints[0].joint.b == HOST

    @property
    def closes(self) -> bool:
        """Whether the thing is shut by it."""
        return any(bonded.joint.closes for bonded in self.joints)

    @property
    def is_by_eye(self) -> bool:
        """Whether no number tells its place."""
        return any(bonded.joint.by_eye for bonded in self.joints)

    @property
    def tried(self) -> str:
        """What is tried before it is made, for it does not open again."""
        return next((bonded.joint.tried for bonded in self.joints if bonded.joint.tried), "")

    @property
    def label(self) -> str:
        """What is to be heeded when it is made."""
        return next((bonded.joint.label for bonded in self.joints if bonded.joint.label), "")


def acts_of(assembly: Assembly) -> tuple[Act, ...]:
    """Every act of a design in the order that its parts tell them."""
    groups: dict[str, list[Bonded]] = {}
    for bonded in assembly.joints:
        if bonded.joint.bond in ("glue", "held"):
            groups.setdefault(bonded.act, []).append(bonded)
    return tuple(Act(name, tuple(joints)) for name, joints in groups.items())


class Way(Struct, frozen=True):
    """A way to take what is brought off its mate: the nodes that move, by which crease (its node), or −1: as a whole
    that hangs on nothing yet."""

    crease: int
    moving: frozenset[int]


class Block(Struct, frozen=True):
    """What is in one ring with a joint that is made, the ways to undo it, and whether it is closed by others
    already."""

    nodes: frozenset[int]
    ways: tuple[Way, ...]


class Hanging:
    """How the panels of a design hang together, some of its joints made."""

    def __init__(self, assembly: Assembly) -> None:
        self.assembly = assembly
        nodes = assembly.nodes
        self._creases = [(k, n.parent) for k, n in enumerate(nodes) if isinstance(n.step, CreaseStep)]
        whole: dict[tuple[str, str], int] = {}
        self._sheets = []  # a sheet that bends is one body, whichever of its panels is asked for
        for k, node in enumerate(nodes):
            if node.shape is not None:
                first = whole.setdefault((node.element, node.instance), k)
                self._sheets.append((first, k))

    def block(self, act: Act, bonded: Bonded, made: Iterable[Act], others: Sequence[Bonded] = ()) -> Block | None:
        """What is in the way of one joint of an act while others are made, some of its own too, or None where those
        hold it shut."""
        made = tuple(made)
        root = self._bodies([*(joint for other in made for joint in other.joints), *others])
        if root[bonded.a] == root[bonded.b]:
            return None
        hinges = self._hinges(root)
        path = _path(hinges, root[bonded.a], root[bonded.b])
        closed = self._bodies(
            [*(joint for other in made for joint in other.joints), *act.joints],
        )
        ring = _ring(self._hinges(closed), closed[bonded.a])
        nodes = frozenset(k for k, body in enumerate(closed) if body in ring)
        if path is None:
            held = _reached(hinges, root[bonded.a], None)
            moving = frozenset(k for k in nodes if root[k] in held)
            return Block(nodes, (Way(-1, moving),))
        ways = []
        for crease in path:
            beyond = _reached(hinges, root[bonded.a], crease)
            if root[bonded.b] not in beyond:
                ways.append(Way(crease, frozenset(k for k in nodes if root[k] in beyond)))
        return Block(nodes, tuple(ways))

    def _bodies(self, joints: Iterable[Bonded]) -> list[int]:
        """For each node a number that nodes joined stiffly share."""
        root = list(range(len(self.assembly.nodes)))

        def find(k: int) -> int:
            while root[k] != k:
                root[k] = root[root[k]]
                k = root[k]
            return k

        for a, b in (*self._sheets, *((joint.a, joint.b) for joint in joints)):
            root[find(a)] = find(b)
        return [find(k) for k in range(len(root))]

    def _hinges(self, root: Sequence[int]) -> dict[int, list[tuple[int, int]]]:
        """For each body the bodies hinged on it, and by which crease."""
        hinges: dict[int, list[tuple[int, int]]] = {}
        for a, b in self._creases:
            if root[a] != root[b]:
                hinges.setdefault(root[a], []).append((root[b], a))
                hinges.setdefault(root[b], []).append((root[a], a))
        return hinges


_Hinges = dict[int, list[tuple[int, int]]]


def _reached(hinges: _Hinges, start: int, without: int | None) -> set[int]:
    """The bodies that hang on one, a crease left out."""
    reached, todo = {start}, [start]
    while todo:
        for other, crease in hinges.get(todo.pop(), ()):
            if crease != without and other not in reached:
                reached.add(other)
                todo.append(other)
    return reached


def _path(hinges: _Hinges, start: int, end: int) -> list[int] | None:
    """The creases of a shortest way from one body to another, or None where there is none."""
    came: dict[int, tuple[int, int]] = {start: (start, -1)}
    todo = [start]
    for body in todo:
        for other, crease in hinges.get(body, ()):
            if other not in came:
                came[other] = (body, crease)
                todo.append(other)
    if end not in came:
        return None
    path = []
    while end != start:
        end, crease = came[end]
        path.append(crease)
    return path


def _ring(hinges: _Hinges, start: int) -> set[int]:
    """The bodies that hang on one by more than one way: reached from it without a bridge."""
    order: dict[int, int] = {start: 0}
    low = {start: 0}
    bridges: set[int | None] = set()
    stack: list[tuple[int, int | None, int]] = [(start, None, 0)]  # body, crease it was reached by, next of its hinges
    while stack:
        body, by, at = stack.pop()
        own = hinges.get(body, [])
        if at < len(own):
            stack.append((body, by, at + 1))
            other, crease = own[at]
            if crease == by:
                continue
            if other in order:
                low[body] = min(low[body], order[other])
            else:
                order[other] = low[other] = len(order)
                stack.append((other, crease, 0))
        elif stack:
            above = stack[-1][0]
            low[above] = min(low[above], low[body])
            if low[body] > order[above]:
                bridges.add(by)
    ring, todo = {start}, [start]
    while todo:
        for other, crease in hinges.get(todo.pop(), ()):
            if crease not in bridges and other not in ring:
                ring.add(other)
                todo.append(other)
    return ring
