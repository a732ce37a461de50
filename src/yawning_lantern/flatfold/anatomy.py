"""What a folded sheet is, whatever it was folded for: which faces show and when, what opens again, what is a pocket."""

from __future__ import annotations

from collections import deque
from functools import lru_cache
from itertools import pairwise

from msgspec import Struct

from yawning_lantern.flatfold.cavity import Hollow, Stack, hollows, stacks
from yawning_lantern.flatfold.folding import carried_out
from yawning_lantern.flatfold.script import Bring, Script, Tuck
from yawning_lantern.flatfold.sheet import Sheet
from yawning_lantern.flatfold.state import Folded, turned
from yawning_lantern.pattern import area


class Face(Struct, frozen=True):
    """A face of a folded sheet that shows: its panel, +1 front or −1 back, and the act that must be undone to see it
    (None: it shows when shut)."""

    facet: str
    side: int
    opened: int | None


class Anatomy(Struct, frozen=True):
    """What a folded sheet is: where it lies in which layers, which acts open again (by number in the script, with the
    pairs of facets that part), faces that show in the order they are met, faces that only show from below, hollows."""

    state: Folded
    layers: tuple[Stack, ...]
    openings: tuple[tuple[int, tuple[tuple[int, int], ...]], ...]
    faces: tuple[Face, ...]
    under: tuple[Face, ...]
    hollows: tuple[Hollow, ...]

    @property
    def pockets(self) -> tuple[Hollow, ...]:
        """The hollows that hold something."""
        return tuple(hollow for hollow in self.hollows if hollow.pocket)


def _beyond(state: Folded, hinges: frozenset[int], first: int) -> set[int]:
    """What hangs together with a facet when some hinges are cut: by all others and by glue."""
    links: dict[int, list[int]] = {}
    joined = [(h.a, h.b) for k, h in enumerate(state.sheet.hinges) if k not in hinges]
    for a, b in (*joined, *((g.a, g.b) for g in state.glued)):
        links.setdefault(a, []).append(b)
        links.setdefault(b, []).append(a)
    seen, todo = {first}, deque([first])
    while todo:
        for other in links.get(todo.popleft(), ()):
            if other not in seen:
                seen.add(other)
                todo.append(other)
    return seen


@lru_cache(maxsize=64)
def anatomy(sheet: Sheet, script: Script) -> Anatomy:
    """Fold a sheet and look at what came of it. Raises ParameterError where an act cannot be done."""
    state = carried_out(sheet, script)[-1]
    layers = stacks(state)
    touching = {(low, high) for stack in layers for low, high in pairwise(stack.layers)}
    openings: list[tuple[int, tuple[tuple[int, int], ...]]] = []
    seen: set[tuple[int, int]] = set()
    faces: list[Face] = []

    def show(facet: int, upper: bool, opened: int | None) -> None:
        side = 1 if upper != turned(state.isos[facet]) else -1
        if (facet, side) not in seen:
            seen.add((facet, side))
            faces.append(Face(state.name(facet), side, opened))

    by_area = sorted(layers, key=lambda stack: (-round(abs(area(stack.outline)), 3), stack.outline))
    for stack in by_area:
        show(stack.layers[-1], True, None)
    for number in reversed(range(len(script))):
        step = script[number]
        if not isinstance(step, Bring | Tuck):
            continue
        hinges = frozenset(sheet.hinge(*pair) for pair in step.hinges)
        moving = _beyond(state, hinges, sheet.at(step.hinges[0][1]))
        if any(sheet.at(a) in moving for a, _ in step.hinges):
            continue  # glue holds it shut
        parted = tuple(sorted(pair for pair in touching if (pair[0] in moving) != (pair[1] in moving)))
        openings.append((number, parted))
        for low, high in sorted(parted, key=lambda pair: pair[0] in moving):
            show(low, True, number)
            show(high, False, number)
    shown = tuple(faces)
    for stack in by_area:
        show(stack.layers[0], False, None)
    turns = [(state.name(low), state.name(high)) for _, parted in openings for low, high in parted]
    cavities = hollows(state, turns)
    return Anatomy(state, layers, tuple(openings), shown, tuple(faces[len(shown) :]), cavities)
