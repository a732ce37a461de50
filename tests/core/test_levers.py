"""Levers move their gaps as they say: by finite differences, with every word, alone and on plain hosts, where no tool
rounds anything. A remedy goes as far as its lever says."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

import pytest
from msgspec.structs import replace

from yawning_lantern.design import Design, Value, set_value
from yawning_lantern.errors import LanternError
from yawning_lantern.fit import Check
from yawning_lantern.structures import Parameter, families, start_design
from yawning_lantern.study import Study

from ..plain_hosts import hosted, hosting, worded

BENT = {("lid", "rim"): 0.26}
"""A gap that does not grow evenly: by so much a lever may be wrong (tabs of a lid of five sides, which follow the
rim)."""
FOLLOWS = {("gate-bag", "page-width"), ("rosette", "hub"), ("pull-waterfall", "slack")}
"""What moves something else along that stands on the other side of the gap; a strip rolled around flaps, which does not
grow evenly at all."""
STEP, TRUE = 0.01, 0.02
UNEVEN = ("flat-tube", "beside")
"""Equal pairs: more of either wall is too much. Neighbours: told by what is measured in the shut thing."""


def cases(kind: str) -> Iterator[tuple[Design, str]]:
    """Alone and as a guest, with every word: the design and the element's id."""
    for word in worded(kind):
        alone = start_design(kind, word)
        yield replace(alone, cut_tool="free", score_tool="free"), alone.root.id
        try:
            on_hosts = list(hosted(kind, word))
        except LanternError:
            continue
        for _, design in on_hosts:
            yield replace(design, cut_tool="free", score_tool="free"), "g"


def typed(study: Study, element: str, declared: Mapping[str, Parameter]) -> Design:
    """Everything as it is, as if the maker had typed it; not what it was begun with instead of its measurements."""
    design, kind = study.design, study.resolved[element].family
    begun = {"sheet", "centre"} - set(kind.headline)
    for name, sized in study.resolved[element].sizes.items():
        p = declared.get(name)
        if p is None:
            continue
        apart = p.derived or p.structural or p.kind == "word" or name.startswith("content-") or name in begun
        if not apart and not isinstance(sized.value, str) and p.least <= sized.length <= p.most:
            design = set_value(design, element, name, sized.value)
    return design


def slopes(check: Check, element: str) -> dict[str, float]:
    """What a gap gains by every parameter of an element, as its levers say."""
    told: dict[str, float] = {}
    for term in check.gap.span.terms:
        if term.lever is not None and term.lever.element == element and not term.lever.is_place:
            told[term.lever.parameter] = told.get(term.lever.parameter, 0.0) + term.lever.slope
    return told


@pytest.mark.parametrize("kind", sorted(families()))
@pytest.mark.usefixtures("no_rounding")
def test_levers_move_their_gaps_as_they_say(kind: str) -> None:
    declared = {p.id: p for p in families()[kind].parameters}
    moved = 0
    for design, element in cases(kind):
        try:
            still = Study(typed(Study(design), element, declared))
        except LanternError:
            continue
        for name in sorted({name for check in still.checks for name in slopes(check, element)} & set(declared)):
            now: Value | None = still.current(element, name)
            if declared[name].derived or declared[name].kind != "length" or not isinstance(now, float):
                continue
            try:
                more = Study(set_value(still.design, element, name, now + STEP))
            except LanternError:
                continue
            for before, after in zip(still.checks, more.checks, strict=False):
                told = slopes(before, element).get(name)
                same = before.gap.between == after.gap.between and before.gap.code not in UNEVEN
                if told is None or not same or (kind, name) in FOLLOWS:
                    continue
                gained = (after.gap.value - before.gap.value) / STEP
                assert gained == pytest.approx(told, abs=BENT.get((kind, name), TRUE)), (before.gap.between, name)
                moved += abs(gained) > TRUE
    assert moved or kind in ("free-strip", "fold-out", "fastener"), "no lever was moved"


@pytest.mark.parametrize("kind", sorted(families()))
@pytest.mark.usefixtures("no_rounding")
def test_levers_of_what_is_nothing_in_a_new_one_move_their_gaps_too(kind: str) -> None:
    """Terms of nothing are left out of sums: a millimetre or more is told first."""
    declared = {p.id: p for p in families()[kind].parameters}
    for design, element in cases(kind):
        try:
            bare = Study(typed(Study(design), element, declared))
        except LanternError:
            continue
        for name, p in declared.items():
            if p.derived or p.kind != "length" or bare.current(element, name) != 0.0:
                continue
            for begun in (1.0, 20.0):
                try:
                    still, more = (Study(set_value(bare.design, element, name, begun + k * STEP)) for k in (0, 1))
                except LanternError:
                    continue
                for before, after in zip(still.checks, more.checks, strict=False):
                    told = slopes(before, element).get(name)
                    if told is not None and before.gap.between == after.gap.between and before.gap.code not in UNEVEN:
                        gained = (after.gap.value - before.gap.value) / STEP
                        assert gained == pytest.approx(told, abs=TRUE), (before.gap.between, name)


@pytest.mark.parametrize("kind", sorted(families()))
@pytest.mark.usefixtures("no_rounding")
def test_levers_of_what_bears_something_move_its_fits_as_they_say(kind: str) -> None:
    """A plain thing on every face, its size typed too: what is left beside it when its host's measures grow."""
    declared = {p.id: p for p in families()[kind].parameters}
    for words, made in hosting(kind):
        if not words.endswith("alone"):
            continue
        design = replace(made, cut_tool="free", score_tool="free")
        try:
            host = Study(typed(Study(design), "f", declared))
            guest = {p.id: p for p in host.resolved["g"].family.parameters}
            still = Study(typed(host, "g", guest))
        except LanternError:
            continue
        beside = [check for check in still.checks if check.gap.element == "g"]
        for name in sorted({name for check in beside for name in slopes(check, "f")} & set(declared)):
            now: Value | None = still.current("f", name)
            if declared[name].derived or declared[name].kind != "length" or not isinstance(now, float):
                continue
            try:
                more = Study(set_value(still.design, "f", name, now + STEP))
            except LanternError:
                continue
            for before, after in zip(still.checks, more.checks, strict=False):
                told = slopes(before, "f").get(name)
                if before.gap.element != "g" or told is None or before.gap.code in UNEVEN:
                    continue
                gained = (after.gap.value - before.gap.value) / STEP
                assert gained == pytest.approx(told, abs=TRUE), (words, before.gap.between, name)
