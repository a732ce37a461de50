"""A study made from the one before it is the study made from nothing, whatever was edited."""

from __future__ import annotations

import gc
import random
from collections.abc import Callable
from functools import partial

import pytest

from yawning_lantern.design import Design, Place, add_guest, move_guest, remove_element, set_stock, set_value, walk
from yawning_lantern.errors import LanternError
from yawning_lantern.exchange.design_file import read_design
from yawning_lantern.kept import LastAnswers
from yawning_lantern.opening import bodies
from yawning_lantern.pattern import build
from yawning_lantern.structures import families, family, making, new_guest, start_design
from yawning_lantern.study import Study

from ..conftest import DEMO
from .test_random_nests import random_nest

SET = DEMO.with_name("comet-night-set.lantern")
EDITS = 12


def anew(design: Design) -> Study:
    """The study with nothing taken over, pieces and parts that were kept forgotten too."""
    build._built.forget()
    making._fitted.forget()
    bodies._prisms.forget()
    return Study(design)


def told(study: Study) -> object:
    """All that a maker gets of a study: sizes, places, depths, parts, poses, fits."""
    return (
        {name: (r.sizes, r.seat, r.depth, r.host, r.alone, r.part) for name, r in study.resolved.items()},
        [(c.gap.code, c.gap.between, round(c.gap.value, 9), c.want, c.verdict) for c in study.checks],
        study.shut_frames,
    )


def some_edit(rng: random.Random, design: Design) -> Design:
    """An edit of any kind: a length, the stock of one part or of all, a place, a part on or off or elsewhere."""
    elements = list(walk(design.root))
    one = rng.choice(elements)
    study = Study(design)
    r = study.resolved[one.id]

    def length() -> Design:
        names = [p.id for p in r.family.parameters if p.kind == "length" and not p.derived and p.id in r.sizes]
        name = rng.choice(names)
        value = r.sizes[name].value
        return set_value(
            design, one.id, name, float(value) * rng.uniform(0.9, 1.1) if not isinstance(value, str) else 9.0
        )

    def stock() -> Design:
        return set_stock(design, rng.choice((None, one.id)), rng.choice(("card-216", "card-176", "card-297")))

    def place() -> Design:
        if one.place is None:
            return stock()
        host = r.host
        faces = list(study.resolved[host].rooms)
        face = rng.choice((one.place.face, rng.choice(faces)))
        return move_guest(design, one.id, host, Place(face, rng.choice((0.0, 2.0)), 0.0, rng.randint(0, 3)))

    def on() -> Design:
        return add_guest(design, one.id, new_guest(design, family("mat")), Place(rng.choice(list(r.rooms))))

    def off() -> Design:
        return remove_element(design, one.id) if one.place is not None else stock()

    ways: tuple[Callable[[], Design], ...] = (length, length, stock, place, on, off)
    return rng.choice(ways)()


def hold(design: Design, rng: random.Random) -> int:
    """Edit after edit, each study made from the last; how many could be studied."""
    before, held = Study(design), 0
    _ = before.checks
    for _ in range(EDITS):
        try:
            edited = some_edit(rng, before.design)
            again = Study(edited, before=before)
        except (LanternError, IndexError):
            continue
        assert told(again) == told(anew(edited)), edited
        before, held = again, held + 1
    return held


@pytest.mark.parametrize("seed", range(3))
def test_the_demo_set_edited_is_the_demo_set_made_anew(seed: int) -> None:
    assert hold(read_design(SET), random.Random(seed)) > EDITS // 4


@pytest.mark.parametrize("block", range(4))
def test_random_nests_edited_are_as_made_anew(block: int) -> None:
    held = 0
    for seed in range(block * 20, block * 20 + 20, 2):
        rng = random.Random(seed)
        nest = random_nest(rng)
        try:
            Study(nest)
        except LanternError:
            continue  # of nests at random some cannot be made
        held += hold(nest, rng)
    assert held > EDITS // 2


def test_stock_that_changes_nothing_a_host_asks_is_changed_all_the_same() -> None:
    # the same card in another format is as thick: the host, of its own stock, sees no difference
    tray = set_stock(start_design("tray", {}), "tray", "card-176")
    design = add_guest(tray, "tray", new_guest(tray, family("pocket")), Place("front-outside"))
    before = Study(design)
    _ = before.checks
    edited = set_stock(design, None, "card-216-a4")
    again, fresh = Study(edited, before=before), anew(edited)
    assert [p.stock for p in again.pieces] == [p.stock for p in fresh.pieces]
    assert told(again) == told(fresh)


def test_what_an_edit_leaves_as_it_was_is_the_very_same() -> None:
    before = Study(read_design(SET))
    again = Study(set_value(before.design, "box", "base", 101.6), before=before)
    same = {
        (name, piece.id)
        for name, r in again.resolved.items()
        for piece, old in zip(r.part.pieces, before.resolved[name].part.pieces, strict=True)
        if piece is old
    }
    assert {("rosette", "rosette.strip-1"), ("star", "star.photo")} <= same  # of sizes of their own
    assert ("box", "box.cross") not in same and again.resolved["rosette"].part is before.resolved["rosette"].part


@pytest.mark.parametrize("kind", families())
def test_a_study_that_is_done_with_leaves_nothing_to_the_collector(kind: str) -> None:
    # what holds itself in a circle stays until it is looked for, and looking takes longer than a frame
    def look() -> None:
        study = Study(start_design(kind, {}))
        _ = study.checks, study.closed, study.mount_frames, study.picture(0.0), study.section(1), study.pieces

    look()
    gc.collect()
    gc.disable()
    try:
        look()
        assert gc.collect() == 0
    finally:
        gc.enable()


def test_of_more_keys_than_are_kept_the_oldest_go() -> None:
    """Against a plain list of what must have been made anew."""
    kept, made = LastAnswers[str](2), list[str]()

    def make(word: str) -> str:
        made.append(word)
        return word

    for key, asked in (("a", 1), ("b", 1), ("a", 1), ("a", 2), ("a", 1), ("c", 1), ("b", 1), ("a", 1)):
        assert kept.given(key, (asked,), partial(make, f"{key}{asked}")) == f"{key}{asked}"
    assert made == ["a1", "b1", "a2", "a1", "c1", "a1"]
