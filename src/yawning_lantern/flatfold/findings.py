"""What is wrong with a folded sheet of one's own, or worth knowing before it is glued, each with what helps."""

from __future__ import annotations

import math
from collections import Counter
from typing import Literal

from msgspec import Struct

from yawning_lantern.errors import ParameterError
from yawning_lantern.flatfold.anatomy import Anatomy, anatomy
from yawning_lantern.flatfold.folding import carried_out
from yawning_lantern.flatfold.order import heights
from yawning_lantern.flatfold.points import inner_points
from yawning_lantern.flatfold.script import Edge, Glue, Script
from yawning_lantern.flatfold.sheet import Sheet
from yawning_lantern.flatfold.state import Folded, turned
from yawning_lantern.measure import told
from yawning_lantern.pattern import bounds
from yawning_lantern.pattern.convex import shared
from yawning_lantern.words import in_a_row

Code = Literal["refused", "flat", "heads", "shut", "waste", "back", "gape", "bent"]
GAPE = 2.5
"""A fold around so many sheets and more is told: from there on what lies outside wants to be wider. From memory."""


class Found(Struct, frozen=True):
    """What was found as a sentence, and what helps as another. `stops`: it cannot be made as it is."""

    code: Code
    what: str
    remedy: str
    stops: bool = False


def findings(sheet: Sheet, script: Script, caliper: float, two_sided: bool = True) -> tuple[Found, ...]:
    """All there is to say, what stops it first. `caliper` of the paper, mm; `two_sided`: its back may show."""
    findings = [
        Found(
            "flat",
            f"The scores that meet at {told(point.at[0])}, {told(point.at[1])} cannot all fold flat.",
            f"Slit {sheet.hinge_name(point.frees)}, or fold one across another.",
        )
        for point in inner_points(sheet)
        if point.frees is not None
    ]
    try:
        whole = anatomy(sheet, script)
    except ParameterError as problem:
        return (Found("refused", f"{problem.where}: {problem.what}", problem.remedy, True), *findings)
    return (
        *_bent(whole), *_shut(whole), *findings, *_waste(sheet, script), *_heads(whole), *_back(whole, two_sided),
        *_gape(whole, caliper),
    )  # fmt: skip


def way_up(state: Folded, facet: str) -> str:
    """Which way the sheet's up points on a panel as it lies folded: up, down, left, right, or askew."""
    _, _, c, d, _, _ = state.isos[state.sheet.at(facet)]
    turn = math.atan2(d, c) / (math.pi / 2)
    if abs(turn - round(turn)) > 1e-3:
        return "askew"
    return ("right", "up", "left", "down")[round(turn) % 4]


def _heads(whole: Anatomy) -> list[Found]:
    count = Counter(way_up(whole.state, face.facet) for face in whole.faces)
    if len(count) < 2:
        return []
    (way, most), *_ = count.most_common()
    other = sum(count.values()) - most
    return [
        Found(
            "heads", f"{other} of {most + other} faces do not stand as the rest: most have the paper's head {way}.",
            "Use paper without a direction, turn the grid, or cover them with mats.",
        )
    ]  # fmt: skip


def _shut(whole: Anatomy) -> list[Found]:
    """Hollows without a mouth that glue has shut."""
    findings = []
    for hollow in whole.hollows:
        if hollow.mouth or not any(rim.kind == "glue" for rim in hollow.rim):
            continue
        walls = in_a_row(hollow.walls[0])
        findings.append(
            Found(
                "shut", f"Between {walls} is a pocket glued shut.", "Leave one of its edges without glue.",
            )
        )  # fmt: skip
    return findings


def _waste(sheet: Sheet, script: Script) -> list[Found]:
    """Glue along an edge that a fold of the same two panels shuts already."""
    findings: list[Found] = []
    states = carried_out(sheet, script)
    for number, step in enumerate(script):
        if not isinstance(step, Glue):
            continue
        state = states[number + 1]
        for edge in step.edges:
            name = _folded_at(state, step.a, step.b, edge)
            if name:
                findings.append(
                    Found(
                        "waste", f"Act {number + 1} glues {step.a} and {step.b} along the {edge}, where the fold "
                        f"{name} closes them.", f"Leave the {edge} out.",
                    )
                )  # fmt: skip
    return findings


def _folded_at(state: Folded, a: str, b: str, edge: Edge) -> str:
    """The shut hinge of two panels that runs along an edge of what they share, or nothing."""
    i, j = state.sheet.at(a), state.sheet.at(b)
    x0, y0, x1, y1 = bounds(shared(state.places[i], state.places[j]))
    axis, at = {"left": (0, x0), "right": (0, x1), "foot": (1, y0), "head": (1, y1)}[edge]
    for k, hinge in enumerate(state.sheet.hinges):
        if {hinge.a, hinge.b} == {i, j} and k in state.shut and all(abs(p[axis] - at) < 0.01 for p in state.stretch(k)):
            return state.sheet.hinge_name(k)
    return ""


def _back(whole: Anatomy, two_sided: bool) -> list[Found]:
    backs = [face for face in whole.faces if face.side < 0]
    if two_sided or not backs:
        return []
    shut = sum(face.opened is None for face in backs)
    where = f", {shut} of them when it is shut" if shut else ""
    return [
        Found(
            "back", f"The back of the paper shows on {len(backs)} of {len(whole.faces)} faces{where}.",
            "Use paper that is printed on both sides, fold it the other way, or cover them with mats.",
        )
    ]  # fmt: skip


def _gape(whole: Anatomy, caliper: float) -> list[Found]:
    """The fold that goes around most."""
    state = whole.state
    level = heights(state, caliper)
    if level is None:
        return []
    around = [(abs(level[h.a] - level[h.b]) - caliper, k) for k, h in enumerate(state.sheet.hinges) if k in state.shut]
    much, k = max(around, default=(0.0, 0))
    if much < GAPE * caliper:
        return []
    return [
        Found(
            "gape", f"The fold {state.sheet.hinge_name(k)} goes around {round(much / caliper)} sheets: it gapes by "
            f"{told(much)}.", f"Score it twice, {told(much)} apart, or make what lies outside wider by as much.",
        )
    ]  # fmt: skip


def _bent(whole: Anatomy) -> list[Found]:
    if heights(whole.state) is not None:
        return []
    return [
        Found(
            "bent", "Its layers lie over one another in a circle: paper does that only by bending.",
            "Bend the last flap under the first, or tuck one elsewhere.", True,
        )
    ]  # fmt: skip


def face_up(state: Folded, facet: int) -> Literal[1, -1]:
    """Which face of a panel lies up: +1 its front, −1 its back."""
    return -1 if turned(state.isos[facet]) else 1
