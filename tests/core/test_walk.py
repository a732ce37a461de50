"""Walking the plan: numbers, copies, back again, kept and taken up, whatever became of the design."""

from __future__ import annotations

import json
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from yawning_lantern.bench import Act, BenchPlan, Walk, acts_of, made_nodes, resumed
from yawning_lantern.exchange.design_file import read_design
from yawning_lantern.study import Study
from yawning_lantern.study.at_bench import plan_bench
from yawning_lantern.workshop import Workshop

from ..conftest import DEMO, designed

STUDY = Study(designed("lid", rim_kind="double"))
PLAN = plan_bench(STUDY)
THREE = plan_bench(STUDY, copies=3)
ACTS = {act.name: act for act in acts_of(STUDY.assembly)}


def test_quarters_of_minutes_are_told() -> None:
    first = replace(PLAN.steps[0], minutes=1.25)
    walk = Walk(replace(PLAN, steps=(first, *PLAN.steps[1:])))
    rest = sum(step.minutes for step in PLAN.steps[1:])
    assert walk.minutes_left == pytest.approx(1.25 + rest, abs=0.005)


def test_all_numbers_come_one_by_one_and_back_again() -> None:
    walk, seen = Walk(PLAN), []
    while walk.step is not None:
        at = [s.id for s in PLAN.steps].index(walk.step.id)
        assert walk.after == (PLAN.steps[at + 1] if at + 1 < len(PLAN.steps) else None)
        assert walk.before == (PLAN.steps[at - 1] if at else None)
        seen.append((walk.step.id, walk.number))
        walk = walk.forward()
    told = [(s.id, k) for s in PLAN.steps for k in range(len(s.placing.readings) if s.placing else 1)]
    assert seen == told and walk.done == {step.id for step in PLAN.steps} and walk.minutes_left == 0
    for place in reversed(told):
        walk = walk.back()
        assert walk.step is not None
        assert (walk.step.id, walk.number) == place
    assert walk.done == frozenset() and walk == walk.back()


def test_copies_are_checked_off_one_by_one() -> None:
    walk = Walk(THREE)
    assert walk.step is not None and walk.step.copies == 3
    some = walk.tick(0).tick(2)
    assert some.ticked == {0, 2} and some.tick(2).ticked == {0} and some.tick(7) == some
    assert some.tick(1) == walk.forward()


def moved(walk: Walk, move: str, at: int) -> Walk:
    if move == "tick":
        return walk.tick(at % 3)
    return walk.go(at % len(THREE.steps)) if move == "go" else walk.forward() if move == "forward" else walk.back()


@given(st.lists(st.sampled_from(["forward", "back", "tick", "go"]), max_size=60), st.integers(0, 40))
def test_where_one_is_comes_back_as_it_was_kept(moves: list[str], at: int) -> None:
    walk = Walk(THREE)
    for move in moves:
        walk = moved(walk, move, at)
    kept = json.loads(json.dumps(walk.record()))
    assert resumed(THREE, kept) == walk


def test_what_is_done_stays_done_when_the_design_changes() -> None:
    walk = Walk(PLAN)
    for _ in range(12):
        walk = walk.forward()
    other = plan_bench(Study(designed("lid", rim_kind="double", rim=1.25)))
    again = resumed(other, walk.record())
    assert again.done == walk.done and again.step is not None and walk.step is not None
    assert again.step.id == walk.step.id
    single = plan_bench(Study(designed("lid")))
    fewer = resumed(single, walk.record())
    assert fewer.done <= set(single.at) and (fewer.step is None or fewer.step.id not in fewer.done)


def test_what_cannot_be_read_begins_anew() -> None:
    for record in ({}, {"at": 7, "done": "all"}, {"at": "nowhere", "done": [1, "x"]}, {"done": None, "number": "x"},
                   {"at": PLAN.steps[1].id, "number": 99, "ticked": [5, "x"], "done": []}):  # fmt: skip
        walk = resumed(PLAN, record)
        assert walk.step is not None and walk.number == 0 and walk.ticked == frozenset()
    scored = next(step for step in PLAN.steps if step.placing is not None and len(step.placing.readings) > 1)
    assert resumed(PLAN, {"at": scored.id, "done": []}).number == 0
    assert scored.placing is not None
    for number in (-1, len(scored.placing.readings)):
        assert resumed(PLAN, {"at": scored.id, "number": number, "done": []}).number == 0


def test_what_was_not_done_is_told_where_one_jumps() -> None:
    at = PLAN.at["glue:lid.lining-back"]
    missing = {step.id for step in Walk(PLAN).go(at).missing}
    assert "glue:lid.lid/tab-right-back/lid/wall-back" in missing
    assert Walk(PLAN, at, done=frozenset(PLAN.at)).missing == ()


def test_the_thing_grows_piece_by_piece() -> None:
    study = Study(designed("tier-wrap"))
    plan = plan_bench(study)
    acts: dict[str, Act] = {act.name: act for act in acts_of(study.assembly)}
    walk, sizes = Walk(plan), []
    whole = len(study.assembly.nodes)
    while walk.step is not None:
        piece = next((p for p in study.pieces if walk.step is not None and p.id == walk.step.piece), None)
        seen = made_nodes(study.assembly, walk, acts, study.copies(piece) if piece else ())
        if walk.step.kind in ("cut", "score"):
            assert piece is not None and len(seen) == len(piece.panels)
        if walk.step.kind == "glue":  # what is brought and what it is brought to
            assert all({bonded.a, bonded.b} <= seen for bonded in acts[walk.step.act].joints)
        sizes.append(len(seen))
        walk = walk.forward()
    assert max(sizes[:4]) < whole and sizes[-1] == whole
    assert made_nodes(study.assembly, walk, acts) == frozenset(range(whole))


def test_what_was_slid_in_is_in_hand_from_then_on() -> None:
    study = Study(designed("drawer-sleeve"))
    plan = plan_bench(study)
    acts: dict[str, Act] = {act.name: act for act in acts_of(study.assembly)}
    first = next(k for k, step in enumerate(plan.steps) if step.kind == "insert")
    glued = {step.id for step in plan.steps[:first]}
    before = made_nodes(study.assembly, Walk(plan, first, done=frozenset(glued)), acts)
    wait = next(k for k, step in enumerate(plan.steps) if k > first and step.kind == "wait")
    after = made_nodes(study.assembly, Walk(plan, wait, done=frozenset({*glued, plan.steps[first].id})), acts)
    assert len(before) < len(after) == len(study.assembly.nodes)


def test_the_drawer_keeps_where_one_is(tmp_path: Path) -> None:
    file = tmp_path / "drawer.sqlite"
    walk = Walk(PLAN).forward()
    drawer = Workshop(file)
    assert drawer.progress("a box") == {}
    drawer.keep_progress("a box", Walk(PLAN).record())
    drawer.keep_progress("a box", walk.record())
    drawer.keep_progress("another", {})
    drawer.close()
    again = Workshop(file)
    assert resumed(PLAN, again.progress("a box")) == walk
    again.close()


def test_stuck_steps_say_so() -> None:
    # no finger gets into a box of 1 by 1 by 6: common practice, no source
    plan: BenchPlan = plan_bench(Study(designed("tray", width=1, depth=1, height=6)))
    assert plan.stuck
    told = [step for step in plan.steps if step.act in plan.stuck and step.kind == "glue"]
    assert len(told) == len(plan.stuck) and all("tweezers" in step.caution for step in told)


@pytest.mark.parametrize("name", ["comet-night-box", "four-lenses"])
def test_what_is_only_put_there_is_in_hand_with_its_host_from_then_on(name: str) -> None:
    study = Study(read_design(DEMO.with_name(f"{name}.lantern")))
    plan = plan_bench(study)
    acts: dict[str, Act] = {act.name: act for act in acts_of(study.assembly)}
    puts = {step.element: k for k, step in enumerate(plan.steps) if step.kind == "put"}
    host = {bonded.element: bonded.host for bonded in study.assembly.joints if bonded.host != bonded.element}
    assert puts
    for k in range(len(plan.steps)):
        made = made_nodes(study.assembly, Walk(plan, k, done=frozenset(s.id for s in plan.steps[:k])), acts)
        seen = {study.assembly.nodes[node].element for node in made}
        for element, at in puts.items():
            together = {element, host[element]} <= seen
            assert not together if k < at else together or not {element, host[element]} & seen, (element, k)
