"""A design's opening: found for its study, told in words, and laid out along a band of time."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from msgspec import Struct

from yawning_lantern.assembly import uses
from yawning_lantern.fit import Check, headline, sentence
from yawning_lantern.fold import State, extent, pose, weight
from yawning_lantern.fold.bsp import Vec
from yawning_lantern.measure import Units, format_fine, format_length, format_size, inches, snap
from yawning_lantern.opening import Contact, Margin, Memory, Opening, Plates, Standing, Step, check_order, find_opening
from yawning_lantern.opening.bodies import NO_MARGIN
from yawning_lantern.study.bodies import solids
from yawning_lantern.study.cures import lever_label
from yawning_lantern.study.study import Study

BROKEN_BY = Margin(outline=0.5, caliper=0.2)
"""What “try to break it” adds: half a millimetre to every part, a fifth to every caliper."""

BAND_LAP = inches(1 / 2)
"""What a belly band overlaps itself, mm. Common practice, no source."""
BOW = inches(20)
"""Ribbon for a bow with tails, mm. Common practice, no source."""

PRESSED = 0.2
"""Sheets that lie on one another and grow thicker are pressed into one another less than this, mm."""
WINDMILL = 3
"""From so many flaps on, a ring of flaps of one part is a windmill."""


def _never() -> bool:
    return False


def plates_of(study: Study, margin: Margin = NO_MARGIN) -> Plates:
    """Every sheet of a study, and what stands on its floors."""
    return Plates(study.assembly, margin, solids(study.resolved, study.assembly))


def opening_of(
    study: Study,
    cancelled: Callable[[], bool] = _never,
    told: Callable[[int, int], None] = lambda done, of: None,
    memory: Memory | None = None,
) -> Opening:
    """The order in which the design opens. Some seconds for a large one, unless a `memory` has it nearly. Raises
    CancelledError."""
    plates = plates_of(study)
    return find_opening(plates, plates.shut_contacts(study.shut_frames), cancelled, told, memory)


def opening_in_order(study: Study, order: Sequence[int], cancelled: Callable[[], bool] = _never) -> Opening:
    """The opening in an order that was asked for; it ends where that stops. Raises CancelledError."""
    plates = plates_of(study)
    return check_order(plates, order, plates.shut_contacts(study.shut_frames), cancelled)


def broken(
    study: Study, opening: Opening, margin: Margin = BROKEN_BY, cancelled: Callable[[], bool] = _never
) -> Opening:
    """The same steps with every sheet larger and thicker by a margin, everything else being where it was: it ends with
    what gives first. What would be in one place when all is shut comes before any step, the deepest first.

    Raises:
        CancelledError: `cancelled` said so.
    """
    plates = plates_of(study, margin)
    shut = sorted(plates.shut_contacts(study.shut_frames), key=lambda met: -met.depth)
    steps = [step.motion for step in opening.steps if step.clear]
    return check_order(plates, steps, [met for met in shut if met.depth > PRESSED], cancelled)


# -- time


def state_at(study: Study, opening: Opening, time: float) -> State:
    """The state at a place on the band of time: 0 shut, one for every step. A step that is stopped stops where it
    meets."""
    count = len(study.assembly.motions)
    steps = opening.steps
    if not steps or time <= 0.0:
        return Standing().state(count)
    k = min(int(time), len(steps) - 1)
    step, share = steps[k], min(1.0, time - k)
    if not step.clear:
        assert step.contact is not None
        return step.before.state(count, step.motion, share * step.contact.at)
    if step.opens:
        rests = {**step.before.rests, **step.after.rests}
        return Standing(step.before.opened, rests).state(count, step.motion, share)
    return Standing(step.after.opened, step.before.rests).state(count, step.motion, 1.0 - share)


def room_of(study: Study, opening: Opening) -> tuple[Vec, ...]:
    """Corners (mm) that hold everything before and after every step and half way through it."""
    corners: list[Vec] = []
    for k in range(2 * len(opening.steps) + 1):
        corners += extent(study.assembly, pose(study.assembly, state_at(study, opening, k / 2)))
    return tuple(corners)


def reach(study: Study, opening: Opening) -> tuple[float, float, float]:
    """Width, depth and height (mm) of the room everything takes on the table while it opens."""
    wide, deep, high = (max(values) - min(values) for values in zip(*room_of(study, opening), strict=True))
    return wide, deep, high


# -- words


class Cure(Struct, frozen=True):
    """A fit between the two parts that meet, and the measurement in it that the maker can change."""

    check: Check
    element: str
    parameter: str


def panel_name(study: Study, node: int, solid: bool = False) -> str:
    """A panel as a maker calls it, “Dusk layer, left wall”, or what stands on it."""
    n = study.assembly.nodes[node]
    name, label = study.resolved[n.element].final.name, n.panel.label
    if solid:
        return f"What is in {name}"
    return name if label.lower() in name.lower() else f"{name}, {label}"


def where(step: Step, share: float, units: Units) -> str:
    """At what angle of its motion, or after what way, a share of a step is: “at 37°”."""
    if abs(step.to_deg - step.from_deg) > 1e-6:
        begin, end = (step.from_deg, step.to_deg) if step.opens else (step.to_deg, step.from_deg)
        return f"at {abs(begin + (end - begin) * share):.0f}°"
    if step.travel > 0:
        return f"after {format_length(step.travel * share, units, denominator=16)}"
    return f"{share * 100:.0f} % on its way"


def contact_words(study: Study, step: Step, contact: Contact, units: Units) -> str:
    """“Inner lid, wall meets box, front wall at 37°, 2.1 mm deep.”"""
    a, b = panel_name(study, contact.a, contact.solid[0]), panel_name(study, contact.b, contact.solid[1])
    here = where(step, contact.at, units)
    if contact.rests:
        return f"{a} comes to rest on {b} {here}."
    worst = where(step, contact.worst, units)
    most = "" if worst == here else f", most {worst}"
    return f"{a} meets {b} {here}, {format_fine(contact.depth, units)} deep{most}."


def shut_words(study: Study, contact: Contact, units: Units) -> str:
    """Two sheets that are in one place before anything moves."""
    a, b = panel_name(study, contact.a, contact.solid[0]), panel_name(study, contact.b, contact.solid[1])
    return f"{a} and {b} are in one place when all is shut, {format_fine(contact.depth, units)} deep."


def step_words(study: Study, step: Step) -> str:
    """What the hands do: “lift Comet lid”, “shut again: Programme book opens”."""
    label = study.assembly.motions[step.motion].label
    return label[:1].upper() + label[1:] if step.opens else f"Shut again: {label}"


def cures(study: Study, contact: Contact) -> tuple[Cure, ...]:
    """The fits that the two parts (or their hosts) have with one another, the tightest first, each with a
    measurement."""
    nodes = study.assembly.nodes
    elements = {nodes[contact.a].element, nodes[contact.b].element}
    cures: list[tuple[int, float, Cure]] = []
    for check in study.checks:
        levers = [term.lever for term in check.gap.span.terms if term.lever is not None]
        touched = {check.gap.element, check.gap.host} | {lever.element for lever in levers}
        shared = len(touched & elements)
        if shared and levers and check.gap.use not in (uses.SHEET, uses.MAT):
            lever = next((lv for lv in levers if lv.element in elements), levers[0])
            cures.append((-shared, check.gap.value, Cure(check, lever.element, lever.parameter)))
    cures.sort(key=lambda item: item[:2])
    return tuple(cure for _, _, cure in cures[:3])


def cure_words(study: Study, cure: Cure, units: Units) -> str:
    """“Lid over box: … 1/16 to spare. Change base of Night sky box.”"""
    r = study.resolved[cure.element]
    label = lever_label(r.family, cure.parameter)
    return f"{headline(cure.check)}, {sentence(cure.check, units)}. Change “{label}” of {r.final.name}."


def knot_words(study: Study, opening: Opening) -> str:
    """The ring of motions that hold one another, and what would undo it; nothing where there is none."""
    if not opening.knot:
        return ""
    motions = [study.assembly.motions[m] for m in opening.knot]
    if len(motions) >= WINDMILL and len({m.element for m in motions}) == 1 and all(m.kind == "swing" for m in motions):
        name = study.resolved[motions[0].element].final.name
        return (
            f"{name}: a windmill. Every flap lies under the next, and the last tucks under the first: it holds "
            "by itself. Lift them all a little together; then they open one by one."
        )
    words = " ".join(f"“{m.label}” waits for" for m in motions)
    return f"{words} “{motions[0].label}”: none can go first. Turn one of them on its face, or give it more room."


def verdict(study: Study, opening: Opening, units: Units, room: tuple[float, float, float]) -> str:
    """One sentence on the whole; `room` is what it takes on the table, mm (see `reach`)."""
    if opening.shut:
        return shut_words(study, opening.shut[0], units)
    stopped = next((s for s in opening.steps if not s.clear), None)
    if stopped is not None and stopped.contact is not None:
        return f"Stops at “{step_words(study, stopped)}”. {contact_words(study, stopped, stopped.contact, units)}"
    if not opening.steps:
        return "Nothing moves in this design."
    again = sum(not s.opens for s in opening.steps)
    more = f", {again} of them shutting again" if again else ""
    grid = inches(1 / 2) if units == "in" else 5.0
    table = format_size(tuple(snap(x, grid, "up").value for x in room[:2]), units, glyphs=True)
    steps = "1 step" if len(opening.steps) == 1 else f"{len(opening.steps)} steps"
    return f"Opens and shuts clear in {steps}{more}. It needs {table} of table."


def closed_facts(study: Study, units: Units) -> tuple[tuple[str, str], ...]:
    """What follows from the shut thing: its outline, thickness and bulk, what goes around it, its weight. Lengths are
    rounded up to what a ruler shows."""
    grid = inches(1 / 16) if units == "in" else 1.0
    wide, deep, high = (snap(x, grid, "up").value for x in study.closed)
    bulk = study.bulk
    sheets = "sheet" if bulk.most == 1 else "sheets"
    lap = format_length(BAND_LAP, units, glyphs=True)

    def ruled(mm: float, per: float = 1.0) -> str:
        return format_length(snap(mm, grid * per, "up").value, units, glyphs=True)

    return (
        ("Shut", format_size((wide, deep), units, glyphs=True)),
        ("Thick", ruled(high)),
        ("Most bulk", f"{bulk.most} {sheets}, {format_fine(bulk.thickest, units, glyphs=True)} of paper"),
        ("Belly band", f"{ruled(2 * (min(wide, deep) + high) + BAND_LAP)} long, {lap} of it overlap"),
        ("Ribbon", f"{ruled(2 * (wide + deep + 2 * high) + BOW, 8.0)} crosswise, with a bow"),
        ("Spine", f"{ruled(high)} between two covers"),
        ("Paper", f"{weight(study.pieces):.0f} g, without glue and contents"),
    )
