"""How small and how large every measurement of a new one may be told by itself, what comes out there, and what is said
beyond: found by asking, not declared. Made from the families, like the structure reference."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from yawning_lantern.design import Value
from yawning_lantern.errors import LanternError
from yawning_lantern.exchange.choices import knife_way
from yawning_lantern.exchange.reference import value_words
from yawning_lantern.measure import format_length, inches, speak
from yawning_lantern.structures import ENDLESS, Family, Parameter, Sizes, families, setting_words, start_design
from yawning_lantern.study import Study

FINE = 0.02
"""So near a limit is looked for, mm."""
LARGEST = inches(36)
"""Where nothing bounds a length it is told up to this, mm."""


def _refusal(kind: Family, given: Mapping[str, Value]) -> str:
    """What is said when a new one is told something; nothing where it takes it."""
    try:
        Study(start_design(kind.id, given))
    except LanternError as error:
        return speak(error.sentence(), "in")
    return ""


def told_at(p: Parameter, value: float) -> dict[str, Value]:
    """How a limit is told to a new one."""
    return {p.id: int(value) if p.kind == "count" else value}


def _limit(kind: Family, p: Parameter, usual: float, end: float) -> tuple[float, str]:
    """The last value on the way from the usual one to an end that a new one takes, and what is said of the next."""
    whole = p.kind == "count"
    words = _refusal(kind, told_at(p, end))
    if not words:
        return end, ""
    good, bad = usual, end
    while abs(bad - good) > (1.0 if whole else FINE):
        middle = float(round((good + bad) / 2)) if whole else (good + bad) / 2
        if middle in (good, bad):
            break
        said = _refusal(kind, told_at(p, middle))
        good, bad, words = (good, middle, said) if said else (middle, bad, words)
    return good, words


def _usual(kind: Family) -> Sizes:
    """The measurements of a new one."""
    study = Study(start_design(kind.id, {}))
    return study.resolved[study.design.root.id].sizes


def limits(kind: Family) -> Iterator[tuple[Parameter, list[tuple[float, str]]]]:
    """Every length and count that a new one has, with its least and its most and what is said beyond each; mm."""
    sizes = _usual(kind)
    for p in kind.parameters:
        sized = sizes.get(p.id)
        if p.derived or p.words or p.kind not in ("length", "count") or sized is None or isinstance(sized.value, str):
            continue
        most = p.most if p.most < ENDLESS or p.kind == "count" else LARGEST
        if not _refusal(kind, {p.id: sized.value}):
            yield p, [_limit(kind, p, float(sized.value), end) for end in (p.least, most)]


def follows(kind: Family, given: Mapping[str, Value], usual: Sizes) -> list[str]:
    """What comes out otherwise where a new one is told something, in words, and how far the knife goes in all; what is
    `usual` it has where it is told nothing."""
    study = Study(start_design(kind.id, given))
    now = study.resolved[study.design.root.id].sizes
    words = [
        f"{p.label} {value_words(p, now[p.id])}" for p in kind.parameters
        if p.id in now and p.id not in given and (p.id not in usual or usual[p.id].value != now[p.id].value)
    ]  # fmt: skip
    gone = [p.label for p in kind.parameters if p.id in usual and p.id not in now]
    cuts = sum(knife_way(piece) * piece.quantity for piece in study.pieces if not piece.bought)
    return [*words, *([f"no longer {', '.join(gone)}"] if gone else []), f"{format_length(cuts)} of cuts"]


def bounded(kind: Family) -> Iterator[str]:
    """The limits of a family, line by line; those that are declared stand in the structure reference, so what they are
    is told here only where something comes of it."""
    yield from (f"## {kind.name} (`{kind.id}`)", "")
    usual = _usual(kind)
    for p, ends in limits(kind):
        for word, (value, refused) in zip(("from", "up to"), ends, strict=True):
            given = told_at(p, value)
            then = [] if given[p.id] == usual[p.id].value else follows(kind, given, usual)
            told = [f"Beyond: {refused}"] if refused else []
            told += [f"There: {'; '.join(then)}."] if then else []
            if told:
                yield f"- {p.label} {word} {setting_words(value, p)}. {' '.join(told)}"
    yield ""


def page() -> str:
    """The whole page as Markdown."""
    head = [
        "# Limits",
        "",
        "Made from the code. `./lantern families --limits` prints this page: how small and how large every",
        "measurement of a new one may be told by itself, what is said beyond, and what comes out otherwise there.",
        "Found by asking, to a fiftieth of a millimetre. Where nothing is said beyond, the end is the one that the",
        "[structure reference](structures.md) tells.",
        "",
    ]
    return "\n".join([*head, *(line for kind in families().values() for line in bounded(kind))])
