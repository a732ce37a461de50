"""What a draft comes to, worked out at once off the window's thread: states, findings, the map of faces and pockets."""

from __future__ import annotations

from msgspec import Struct

from yawning_lantern.errors import ParameterError
from yawning_lantern.flatfold.anatomy import Anatomy, Face, anatomy
from yawning_lantern.flatfold.cavity import Hollow, Stack, stacks
from yawning_lantern.flatfold.draft import Draft, Replay, replayed
from yawning_lantern.flatfold.findings import Found, findings, way_up
from yawning_lantern.flatfold.order import heights
from yawning_lantern.flatfold.script import Edge, Glue, Step
from yawning_lantern.flatfold.sheet import Sheet
from yawning_lantern.flatfold.state import Folded
from yawning_lantern.measure import Units, format_fine, format_size
from yawning_lantern.pattern import bounds
from yawning_lantern.stock import Paper
from yawning_lantern.words import in_a_row


class Line(Struct, frozen=True):
    """A line of the map; `step` is what a double click does."""

    text: str
    step: Step | None = None
    head: bool = False


class Look(Struct, frozen=True):
    """The script carried out as far as it goes; what lies where after `upto` acts; findings; the map."""

    draft: Draft
    sheet: Sheet | None
    replay: Replay | None
    upto: int
    layers: tuple[Stack, ...]
    found: tuple[Found, ...]
    lines: tuple[Line, ...]
    trouble: str = ""

    @property
    def state(self) -> Folded | None:
        """The state that is shown."""
        return None if self.replay is None else self.replay.states[min(self.upto, len(self.replay.states) - 1)]

    @property
    def can_be_made(self) -> bool:
        """Whether a design comes of it."""
        folded = self.replay is not None and self.replay.problem is None and len(self.replay.states) > 1
        return folded and not any(found.stops for found in self.found)


def look(draft: Draft, upto: int, paper: Paper, units: Units) -> Look:
    """All that is told of a draft."""
    try:
        sheet = draft.sheet()
    except ParameterError as problem:
        return Look(draft, None, None, upto, (), (), (), problem.sentence())
    replay = replayed(sheet, draft.script)
    state = replay.states[min(upto, len(replay.states) - 1)]
    found = findings(sheet, draft.script, paper.caliper, paper.two_sided)
    lines: tuple[Line, ...] = ()
    if replay.problem is None:
        lines = _map(anatomy(sheet, draft.script), draft, paper, units)
    return Look(draft, sheet, replay, upto, stacks(state), found, lines)


def _map(whole: Anatomy, draft: Draft, paper: Paper, units: Units) -> tuple[Line, ...]:
    state = whole.state
    x0, y0, x1, y1 = bounds([p for ring in state.places for p in ring])
    level = heights(state, paper.caliper) or (0.0,)
    high = max(level) - min(level) + paper.caliper
    lines = [Line(f"Folded: {format_size((x1 - x0, y1 - y0), units)}, {format_fine(high, 'mm')} thick", head=True)]
    lines.append(Line("Faces that show", head=True))
    lines += [Line(_face_words(state, face, draft)) for face in whole.faces]
    pockets = whole.pockets
    lines.append(Line(f"Pockets: {len(pockets)}" if pockets else "No pocket yet", head=True))
    lines += [Line(_pocket_words(hollow, units)) for hollow in pockets]
    offered = [line for hollow in whole.hollows for line in _to_glue(state, hollow, draft.strip)]
    if offered:
        lines.append(Line("Edges that can be glued: double-click one", head=True))
        lines += offered
    sheet = state.sheet
    if sheet.offcuts:
        lines.append(Line("Cut away", head=True))
        for name, ring in sheet.offcuts:
            a, b, c, d = bounds(ring)
            lines.append(Line(f"{name}: {format_size((c - a, d - b), units)}"))
    return tuple(lines)


def _face_words(state: Folded, face: Face, draft: Draft) -> str:
    side = "front" if face.side > 0 else "back"
    when = "when shut" if face.opened is None else f"when act {face.opened + 1} opens again"
    way = way_up(state, face.facet)
    return f"{face.facet}, {side}: {when}" + ("" if way == "up" else f", its head {way}")


def _pocket_words(hollow: Hollow, units: Units) -> str:
    x0, y0, x1, y1 = hollow.extent
    sides = {side for rim in hollow.mouth for side in (_side(hollow, rim.start, rim.end),) if side}
    mouth = in_a_row(edge for edge in ("head", "foot", "left", "right") if edge in sides) or "inside"
    walls = in_a_row(hollow.walls[0])
    return f"between {walls}: open at the {mouth}, {format_size((x1 - x0, y1 - y0), units)}"


def _side(hollow: Hollow, a: tuple[float, float], b: tuple[float, float]) -> Edge | None:
    """The side of a hollow that a stretch lies on, where it lies on one."""
    x0, y0, x1, y1 = hollow.extent
    near = 0.05
    if abs(a[0] - b[0]) < near:
        return "left" if abs(a[0] - x0) < near else "right" if abs(a[0] - x1) < near else None
    if abs(a[1] - b[1]) < near:
        return "foot" if abs(a[1] - y0) < near else "head" if abs(a[1] - y1) < near else None
    return None


def _to_glue(state: Folded, hollow: Hollow, strip: float) -> list[Line]:
    """The open edges of a hollow as acts of gluing."""
    one, other = hollow.walls[0]
    sides = {side for rim in hollow.mouth for side in (_side(hollow, rim.start, rim.end),) if side}
    if hollow.pocket and len(sides) < 2:
        return []  # its only mouth
    return [
        Line(f"{one} to {other}, {side}", Glue(one, other, (side,), strip))
        for side in ("left", "right", "foot", "head")
        if side in sides
    ]
