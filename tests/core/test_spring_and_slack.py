"""What springs back and what buckles: a rosette against what holds it, one liner in the hinges of a cover."""

from __future__ import annotations

import math

import numpy as np
import pytest

from yawning_lantern.fold import State, apply, pose
from yawning_lantern.structures import start_design
from yawning_lantern.structures.dress.rosette import Ring, spring
from yawning_lantern.study import Study
from yawning_lantern.study.at_bench import plan_bench
from yawning_lantern.study.stock_warnings import stock_warnings


@pytest.mark.parametrize(("board", "gap"), [(1.5, 3.175), (2.0, 4.5), (1.0, 3.175)])
def test_slack_of_one_liner_is_what_the_hinge_takes(board: float, gap: float) -> None:
    """The inner edges of a board and of the spine, measured in the posed cover: how much nearer they are when it is
    shut than when it lies open is what of a liner has nowhere to go."""
    two = Study(start_design("board-cover", {"board": board, "gap": gap, "spine": 20.0}))
    assembly = two.assembly
    root = two.design.root.id
    one = Study(start_design("board-cover", {"board": board, "gap": gap, "spine": 20.0, "liner": "one"}))
    told = one.resolved[root].sizes["slack"].length
    near = []
    for progress in (0.0, 1.0):
        frames = pose(assembly, State(1.0, (progress,)))
        found = []
        for name in ("board-front", "board-spine"):
            k = assembly.index(root, name, "board")
            panel = assembly.nodes[k].panel
            x = {"board-front": max, "board-spine": min}[name](p[0] for p in panel.outline)
            found.append(np.array(apply(frames[k], x, panel.centre[1], board / 2)))
        near.append(float(np.linalg.norm(found[1] - found[0])))
    assert told == pytest.approx(near[1] - near[0], abs=0.35)
    assert told > board  # of boards as thick as these a taut liner would tear or buckle
    whole = 2 * one.resolved[root].sizes["board-width"].length + 2 * gap + 20.0
    liner = next(p for p in one.pieces if p.id.endswith(".liner"))
    assert liner.size[0] == pytest.approx(whole + 4 * board - 3.175, abs=0.01)
    assert "taut" in liner.note and "slack" not in two.resolved[root].sizes


def test_a_ring_that_springs_off_is_told() -> None:
    """Common practice, no source: hot glue or strong tape, and hold it; heavy paper on tape comes off."""
    for stock, press, off in (
        ("card-176", "tape", False), ("card-297", "tape", True), ("card-297", "hot-glue", False),
        ("copy-80", "tape", False),
    ):  # fmt: skip
        study = Study(start_design("rosette", {"press": press}, stock=stock))
        found = [w for w in stock_warnings(study) if w.code == "spring"]
        assert bool(found) == off, (stock, press)
        if found:
            assert "hot glue" in found[0].remedy
    step = next(s for s in plan_bench(Study(start_design("rosette", {}))).steps if s.act.endswith("on the disc"))
    assert "Hot glue" in step.heed and "hold it down" in step.heed and "burn" in step.caution and step.wait == 1.0
    taped = plan_bench(Study(start_design("rosette", {"press": "tape"})))
    step = next(s for s in taped.steps if s.act.endswith("on the disc"))
    assert "tape" in step.heed and not step.caution


def test_a_spring_follows_its_paper_and_its_pleats() -> None:
    """By dimension: twice as many folds or twice as wide spring twice as strongly, twice as thick paper four times
    (bending grows with the cube, and a crease is as stiff as a strip that grows with the thickness)."""
    ring = Ring(24, 12.7, 50.0, 8.0)
    base = spring(ring, 0.27)
    assert spring(Ring(48, 12.7, 50.0, 8.0), 0.27) == pytest.approx(2 * base)
    assert spring(Ring(24, 12.7, 100.0, 8.0), 0.27) == pytest.approx(2 * base)
    assert spring(ring, 0.54) == pytest.approx(4 * base)
    # against a beam: a fold as a strip 150 sheets long, turned by one radian, its moment over a pleat
    moment = 3e9 * (0.27e-3) ** 3 / 12 / (150 * 0.27e-3) * 0.05
    assert base == pytest.approx(24 * moment / 12.7e-3, rel=1e-6) and 1.0 < base < 100.0 and not math.isnan(base)
