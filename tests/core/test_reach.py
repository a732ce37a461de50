"""Every joint can be reached in the order told: held against all orders, against wrong orders put in, and what is told
to be free against planes found by linear programming."""

from __future__ import annotations

import random
from itertools import permutations
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.optimize import linprog

from yawning_lantern.arrays import Floats
from yawning_lantern.bench import Order, Reach, Reasons, Schools, acts_of, find_order, natural
from yawning_lantern.bench.hands import NOZZLES, PRESSING, Free, boxes_at
from yawning_lantern.bench.reach import HOLLOW
from yawning_lantern.errors import LanternError
from yawning_lantern.exchange.design_file import read_design
from yawning_lantern.study import Study
from yawning_lantern.study.at_bench import rules

from ..conftest import DEMO, designed
from .test_joints import CASES
from .test_random_nests import random_nest

SET = DEMO.with_name("comet-night-set.lantern")


def ordered(study: Study, schools: Schools | None = None) -> tuple[Order, Reach]:
    acts = acts_of(study.assembly)
    reach = Reach(study.assembly)
    return find_order(natural(study.assembly, acts, schools or Schools()), reach, rules(study)), reach


def check(study: Study, schools: Schools | None = None) -> None:
    """Nothing is stuck, nothing is left out, and each act can be made when those before it are, walked forward."""
    order, _ = ordered(study, schools)
    assert [act.name for act, _ in order.stuck] == []
    assert sorted(act.name for act, _ in order.acts) == sorted(act.name for act in acts_of(study.assembly))
    fresh, made = Reach(study.assembly), []
    for act, _ in order.acts:
        assert fresh.of(act, made).ok, act.name
        made.append(act)
    places = {act.name: k for k, (act, _) in enumerate(order.acts)}
    assert all(places[rule.first] < places[rule.then] for rule in rules(study))


@pytest.mark.parametrize(("kind", "given"), CASES)
def test_every_structure_has_an_order(kind: str, given: dict[str, float | str]) -> None:
    check(Study(designed(kind, **given)))


@pytest.mark.parametrize("path", [DEMO, SET], ids=["box", "set"])
@pytest.mark.parametrize("decorate", ["flat", "later"])
def test_the_examples_have_an_order_either_way(path: Path, decorate: str) -> None:
    check(Study(read_design(path)), Schools(decorate=decorate))


NARROW = 16.0  # mm: into a box narrower than that no finger goes; its walls are low or it has no order


def hold(seeds: range) -> int:
    built = 0
    for seed in seeds:
        try:
            study = Study(random_nest(random.Random(seed)))
            if study.has_clash:
                continue
        except LanternError:
            continue
        cases = [r.sizes["wall"].length for r in study.resolved.values() if r.family.id == "casing"]
        if max(cases, default=0.0) > HOLLOW - 0.5:
            continue  # a wall that no two fingers press together: its ears are held by clips, all else waits for that
        built += 1
        order, _ = ordered(study)
        for act, _ in order.stuck:
            sizes = study.resolved[act.element].sizes
            least = [sizes[n].length for n in ("width", "depth", "top-width", "box-width", "panel") if n in sizes]
            assert min(least, default=100.0) < NARROW, (seed, act.name)
    return built


@pytest.mark.parametrize("block", range(4))
def test_random_nests_have_an_order(block: int) -> None:
    assert hold(range(1000 + 30 * block, 1030 + 30 * block)) > 5


@pytest.mark.long
def test_many_random_nests_have_an_order() -> None:
    assert hold(range(1120, 1620)) > 150


WRONG: tuple[tuple[str, dict[str, float | str], str, tuple[str, ...], str], ...] = (
    # structure, settings, what comes too late, after what, what fails: facts of the trade, common practice, no source
    ("lid", {"rim_kind": "double"}, "lid/tab-right-back/lid/wall-back", ("lining-back",), "held"),
    ("lid", {"rim_kind": "double"}, "lid/tab-left-front/lid/wall-front", ("lining-front",), "held"),
    ("board-cover", {}, "turn-front", ("liner-front",), "held"),
    ("board-cover", {}, "turn-head", ("turn-front",), "held"),
    ("board-cover", {}, "board-front/board/cover/front", ("turn-front",), "off"),
    ("board-cover", {}, "board-spine/board/cover/spine", ("turn-head", "turn-foot"), "off"),
    ("gate-bag", {}, "bag/band-front/bag/front", ("seam",), "held"),
    ("explosion-box", {"corner": "pocket"}, "cross/flap-back-right/cross/wall-back",
     ("cross/flap-back-left/cross/wall-back",), "off"),
    ("waterfall", {"mats": "all"}, "mat-base/mat/base/base", ("flap-1",), "held"),
    ("stand", {}, "strip/panel-3/strip/panel-2",
     ("strip/tab-right/card/page-right", "strip/tab-left/card/page-left"), "off"),
    ("tray", {"width": 3, "depth": 3, "height": 8}, "tray/tab-left-front/tray/wall-front",
     ("tray/tab-right-front/tray/wall-front", "tray/tab-left-back/tray/wall-back"), "pressed"),
    ("tray", {"width": 1, "depth": 1, "height": 6}, "tray/tab-left-front/tray/wall-front",
     ("tray/tab-right-front/tray/wall-front", "tray/tab-left-back/tray/wall-back"), "pressed"),
)  # fmt: skip


@pytest.mark.parametrize(("kind", "given", "late", "after", "fails"), WRONG)
def test_wrong_orders_are_refused(
    kind: str, given: dict[str, float | str], late: str, after: tuple[str, ...], fails: str
) -> None:
    study = Study(designed(kind, **given))
    element = study.assembly.nodes[0].element
    acts = {act.name.removeprefix(f"{element}."): act for act in acts_of(study.assembly)}
    reach = Reach(study.assembly)
    assert reach.of(acts[late], ()).ok
    assert reach.of(acts[late], [acts[name] for name in after]).fails == fails
    assert reach.of(acts[late], [acts[name] for name in after[1:]]).ok  # none of those in its way is there for nothing


SMALL = [case for case in CASES if 2 <= len(acts_of(Study(designed(case[0], **case[1])).assembly)) <= 5]


@pytest.mark.parametrize(("kind", "given"), SMALL)
def test_an_order_is_found_where_any_order_is_good(kind: str, given: dict[str, float | str]) -> None:
    study = Study(designed(kind, **given))
    acts, reach = acts_of(study.assembly), Reach(study.assembly)

    def good(order: tuple[int, ...]) -> bool:
        return all(reach.of(acts[k], [acts[j] for j in order[:n]]).ok for n, k in enumerate(order))

    found = {order for order in permutations(range(len(acts))) if good(order)}
    order, _ = ordered(study)
    assert tuple(acts.index(act) for act, _ in order.acts) in found


def test_reasons_name_the_least_that_shuts_an_act_out() -> None:
    study = Study(read_design(SET))
    order, reach = ordered(study)
    reasons = Reasons(order, reach)
    made = [act for act, _ in order.acts]
    told = [reason for act in made if (reason := reasons.of(act)) is not None]
    assert len(told) > 6
    for reason in told:
        earlier = made[: made.index(reason.act)]
        assert not reach.of(reason.act, [*earlier, *reason.others]).ok
        for other in reason.others:
            fewer = [one for one in reason.others if one is not other]
            assert reach.of(reason.act, [*earlier, *fewer]).ok


def parted(one: Floats, other: Floats) -> bool:
    """Whether a plane parts two sets of corners: found by linear programming."""
    rows = np.vstack([np.column_stack([one, -np.ones(len(one))]), np.column_stack([-other, np.ones(len(other))])])
    rows = np.column_stack([rows, np.ones(len(rows))])
    answer = linprog(
        [0, 0, 0, 0, -1], A_ub=rows, b_ub=np.zeros(len(rows)), bounds=[(-1, 1)] * 3 + [(None, None), (0, 1)]
    )
    return bool(answer.status == 0 and -answer.fun > 1e-7)


@given(st.integers(0, 10_000))
def test_what_is_free_meets_nothing(seed: int) -> None:
    # a tool told to be free has a way to be held in which a plane parts each of its boxes from each plate
    rng = np.random.default_rng(seed)
    tool = [*NOZZLES, *PRESSING][seed % (len(NOZZLES) + len(PRESSING))]
    frame, _ = np.linalg.qr(rng.normal(size=(3, 3)))
    flat = np.array([[-20, -15, 0], [20, -15, 0], [20, 15, 0], [-20, 15, 0]])
    corners, ways = [], []
    for _ in range(4):
        turn, _ = np.linalg.qr(rng.normal(size=(3, 3)))
        at = rng.normal(size=3) * 60
        corners.append(np.vstack([flat + np.array([0, 0, z]) for z in (-0.1, 0.1)]) @ turn.T + at)
        ways.append(np.array([[0, 0, 1.0], [1, 0, 0], [0, 1, 0]]) @ turn.T)
    points = rng.normal(size=(1, 3)) * 10
    plates = np.array(corners)
    clear = Free().points(points, frame[:, 2], frame[:, 0], tool, plates, np.array(ways))[0]
    middles, axes, halves = boxes_at(points, frame[:, 2], frame[:, 0], tool)
    signs = np.array([[a, b, c] for a in (-1, 1) for b in (-1, 1) for c in (-1, 1)])
    any_way = False
    for k, axis in enumerate(axes):
        boxes = [middles[0, k, b] + (signs * half) @ axis for b, half in enumerate(halves)]
        if all(parted(box, plate) for box in boxes for plate in plates):
            any_way = True
            break
    assert any_way or not clear


@given(st.integers(0, 10_000))
def test_what_is_kept_of_some_plates_tells_of_all(seed: int) -> None:
    rng = np.random.default_rng(seed)
    tool = [*NOZZLES, *PRESSING][seed % (len(NOZZLES) + len(PRESSING))]
    frame, _ = np.linalg.qr(rng.normal(size=(3, 3)))
    points, corners = rng.normal(size=(3, 3)) * 10, rng.normal(size=(6, 8, 3)) * 20 + rng.normal(size=(6, 1, 3)) * 50
    ways = rng.normal(size=(6, 3, 3))
    face = (points, frame[:, 2], frame[:, 0], tool)
    kept = Free()
    for _ in range(4):
        some = np.nonzero(rng.random(6) < 0.5)[0]
        assert (kept.points(*face, corners[some], ways[some]) == Free().points(*face, corners[some], ways[some])).all()
    single = [Free().points(*face, corners[k : k + 1], ways[k : k + 1]) for k in range(6)]
    whole = kept.points(*face, corners, ways)
    assert not (whole & ~np.logical_and.reduce(single)).any()  # one more plate never frees a point
