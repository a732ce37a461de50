"""The structure reference, made from the families: what they declare, and how a new one comes out."""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping

from yawning_lantern.assembly import Part
from yawning_lantern.bench import BenchPlan
from yawning_lantern.design import Value
from yawning_lantern.errors import LanternError
from yawning_lantern.exchange.bench_data import step_words
from yawning_lantern.exchange.fit_table import fit_table
from yawning_lantern.exchange.scoring import reading_words
from yawning_lantern.fit import Check, asked, formula, headline
from yawning_lantern.measure import format_length, format_size, speak
from yawning_lantern.pattern import Piece
from yawning_lantern.structures import ENDLESS, Family, Parameter, Sized, families, setting_words, start_design
from yawning_lantern.study import Study
from yawning_lantern.study.at_bench import plan_bench


def value_words(p: Parameter, sized: Sized | None) -> str:
    """What a parameter is in a new one."""
    value = p.default if sized is None else sized.value
    if value is None:
        return ""
    words = setting_words(value, p)
    return f"{words}, worked out" if p.derived else words


def _kind(p: Parameter) -> str:
    """What a parameter takes: which words, from how much to how much, and whether it ends at a score."""
    words = f"{p.kind}: {', '.join(p.words)}" if p.words else p.kind
    if p.derived or p.kind not in ("length", "count"):
        return words
    unit = " mm" if p.kind == "length" else ""
    least, most = p.least > 0, p.most < ENDLESS
    if least and most:
        words += f", {p.least:g} to {p.most:g}{unit}"
    elif least or most:
        words += f", at least {p.least:g}{unit}" if least else f", at most {p.most:g}{unit}"
    return f"{words}, scored" if p.scored else words


def piece_line(piece: Piece) -> str:
    """A piece of a new one: how many, how large, how many scores, and what is to be heeded."""
    many = f"{piece.quantity} × " if piece.quantity > 1 else ""
    scores = sum(line.kind == "score" for line in piece.lines)
    folds = f", {scores} score{'s' if scores > 1 else ''}" if scores else ""
    bought = ", bought" if piece.bought else ""
    return f"- {many}{piece.name}: {format_size(piece.size)}{folds}{bought}." + (
        f" {speak(piece.note, 'in')}" if piece.note else ""
    )


def fit_line(check: Check) -> str:
    """A fit of a new one: what is spared between what, and what is asked."""
    return f"- {headline(check)}: {formula(check, 'in') or check.gap.lacks}. Asked: {asked(check, 'in')}."


def motions(part: Part) -> Iterator[str]:
    """The motions of a part in their order, with how far its folds and pins turn and how far what slides goes."""
    pieces = {piece.id: piece for piece in part.pieces}
    at = {(i.id, crease.name): crease.angle for i in part.instances for crease in pieces[i.piece].creases}
    for swing in part.swings:
        turned = [pin.angle for pin in swing.pins]
        for instance, crease, end in swing.creases:
            turned.append(end - at[instance, crease])
            at[instance, crease] = end
        turns = {round(abs(math.degrees(angle)), 1) for angle in turned}
        ways = {format_length(math.hypot(*way)) for _, way in swing.slides}
        far = ", ".join([*(f"{angle:g}°" for angle in sorted(turns)), *sorted(ways)])
        yield f"{swing.label} ({far})" if far else swing.label


def within(study: Study) -> list[str]:
    """Pockets of a new one with what they take, and what is bought by length for it."""
    part = study.resolved[study.design.root.id].part
    pockets = [f"{p.name} ({format_size((p.width, p.depth))}, opens {p.mouth})" for p in part.pockets]
    wares = [f"{w.count} × {w.name}, {format_length(w.length)}" for w in part.wares]
    told = {"Pockets": pockets, "Bought by length": wares, "Opens": [*motions(part)]}
    return [line for head, what in told.items() if what for line in (f"{head}: {'; '.join(what)}.", "")]


def _steps(plan: BenchPlan) -> list[str]:
    """How a new one is made after it is cut: every step, with what the fence reads and what is to be heeded."""
    lines = []
    for step in plan.steps:
        if step.kind != "cut":
            reads = [] if step.placing is None else [reading_words(one, "in") for one in step.placing.readings]
            takes = f"{step.minutes:.1f} min." if step.minutes else ""
            words = [step_words(step, "in"), f"{'; '.join(reads)}." if reads else "", speak(step.heed, "in"), takes]
            lines.append(f"1. {' '.join(filter(None, words))}")
    return lines


def tried(p: Parameter, sized: Sized | None) -> Iterator[Value]:
    """What is tried of a parameter: every word; the ends, a third and thrice of what it is in a new one; of counts one
    more and one less."""
    yield from p.words
    if p.kind in ("length", "count"):
        usual = 50.0 if sized is None or isinstance(sized.value, str) else sized.value or 50.0
        beside = (usual - 1, usual + 1) if p.kind == "count" else ()
        for value in (p.least, min(p.most, 500.0), usual / 3, 3 * usual, *beside):
            bounded = min(max(value, p.least), p.most)
            yield round(bounded) if p.kind == "count" else bounded


def _refused(kind: Family, sizes: Mapping[str, Sized]) -> list[str]:
    """What a family refuses within its bounds, one measurement at a time, and what it says then."""
    said: dict[str, str] = {}
    for p in kind.parameters:
        for value in () if p.derived else tried(p, sizes.get(p.id)):
            try:
                Study(start_design(kind.id, {p.id: value}))
            except LanternError as error:
                said.setdefault(speak(str(error), "in"), f"{p.label} {setting_words(value, p)}")
    return [f"- {what}: {words}" for words, what in said.items()]


def _family(kind: Family) -> list[str]:
    lines = [f"## {kind.name} (`{kind.id}`)", "", kind.about, "", f"Solved from: {', '.join(kind.starts)}."]
    lines += ["", "| parameter | what it takes | in a new one | what it is |", "| --- | --- | --- | --- |"]
    design = start_design(kind.id, {})
    study = Study(design)
    sizes = study.resolved[design.root.id].sizes
    for p in kind.parameters:
        lines.append(f"| `{p.id}` | {_kind(p)} | {value_words(p, sizes.get(p.id))} | {p.label}. {p.help} |")
    lines += ["", "Pieces:", "", *map(piece_line, study.pieces)]
    lines += ["", *within(study)]
    if steps := _steps(plan_bench(study)):
        lines += ["Made so, once it is cut:", "", *steps]
    fits = list(dict.fromkeys(map(fit_line, study.checks)))
    if fits:
        lines += ["", "Fits:", "", *fits]
    if refused := _refused(kind, sizes):
        lines += ["", "Refused, for instance:", "", *refused]
    lines += ["", "Faces: " + ("; ".join(f"`{face}` ({words})" for face, words in kind.faces) or "none") + ".", ""]
    return lines


def page() -> str:
    """The whole page as Markdown."""
    head = [
        "# Structures",
        "",
        "Made from the code. `./lantern families --markdown` prints this page. A new one stands by itself here, of",
        "card of 216 g/m²; inside something else it follows what holds it.",
        "",
    ]
    foot = [
        "## What each fit asks",
        "",
        "Common practice of the trade, with no source. What leaves less than nothing clashes; beyond easy it is loose.",
        "",
        *fit_table(),
        "",
    ]
    return "\n".join([*head, *(line for kind in families().values() for line in _family(kind)), *foot])
