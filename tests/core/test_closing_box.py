"""Closing box: what it holds, how its lid tucks in, in which order its bottom is glued. Distances are taken from the
posed panels by numpy, not from what the family adds up."""

from __future__ import annotations

import numpy as np
import pytest

from yawning_lantern.errors import ParameterError
from yawning_lantern.fold import corners
from yawning_lantern.measure import inches
from yawning_lantern.structures import start_design
from yawning_lantern.study import Study, opening_of
from yawning_lantern.study.at_bench import plan_bench


def box(**given: float) -> Study:
    """A closing box, lengths in inches."""
    return Study(start_design("closing-box", {name.replace("_", "-"): inches(v) for name, v in given.items()}))


def spans(study: Study) -> dict[str, np.ndarray]:
    """Least and greatest x, y, z of the mid-surface of every panel when it is shut, mm."""
    found = {}
    for node, frame in zip(study.assembly.nodes, study.shut_frames, strict=True):
        points = np.array(corners(node, frame))
        found[node.panel.name] = np.array([points.min(axis=0), points.max(axis=0)])
    return found


@pytest.mark.parametrize("size", [(2, 1.5, 3), (4, 1, 2), (1.5, 1.5, 1.5), (3, 2, 4.5)])
def test_what_it_is_asked_to_hold_goes_in(size: tuple[float, float, float]) -> None:
    study = box(content_width=size[0], content_depth=size[1], content_height=size[2])
    assert not study.has_clash or study.checks[0].gap.code == "sheet"
    at, t = spans(study), study.pieces[0].stock.caliper
    wide = at["right"][0, 0] - at["left"][1, 0] - t
    deep = at["back"][0, 1] - max(at["front"][1, 1], at["tuck"][1, 1]) - t
    high = min(at["dust-left"][0, 2], at["dust-right"][0, 2]) - max(at["foot-left"][1, 2], at["foot-front"][1, 2]) - t
    for clear, asked in zip((wide, deep, high), size, strict=True):
        assert clear > inches(asked) + 0.4
        assert clear < inches(asked) + inches(5 / 8)  # and is not far too large


def test_the_lid_lies_on_its_walls_and_its_tuck_behind_the_front() -> None:
    study = box(width=3, depth=2, height=2.5)
    at, t = spans(study), study.pieces[0].stock.caliper
    lid, front, tuck, base = at["lid"], at["front"], at["tuck"], at["base"]
    assert np.ptp(lid[:, 2]) < 1e-6 and lid[0, 2] - base[0, 2] == pytest.approx(inches(2.5), abs=0.5 * t)
    assert front[1, 2] <= lid[0, 2] - t / 2 + 0.05  # the front wall ends under the lid
    assert tuck[0, 1] > front[1, 1] + 0.9 * t  # towards the back is up y
    assert tuck[1, 2] == pytest.approx(lid[0, 2], abs=0.2 * t) and tuck[0, 2] == pytest.approx(
        lid[0, 2] - study.resolved[study.design.root.id].sizes["tuck"].length, abs=0.5 * t
    )
    ring = [at[name] for name in ("left", "front", "right", "back")]
    assert ring[0][0, 0] < ring[2][0, 0] and ring[1][0, 1] < ring[3][0, 1]
    tab, back = at["tab"], at["back"]
    assert 0.9 * t < back[0, 1] - tab[1, 1] < 1.6 * t  # inside the back wall, a sheet and the glue off


def test_the_bottom_is_glued_from_inside_out() -> None:
    """Side flaps, the front flap on them, the square flap last (common practice, no source)."""
    plan = plan_bench(box())
    glued = [step.act for step in plan.steps if step.kind == "glue"]
    assert [act.split(".")[1] for act in glued] == [
        "close the seam", "front flap on the side flaps", "the square flap over all",
    ]  # fmt: skip
    assert not plan.stuck
    at = spans(box())
    assert at["base"][0, 2] < at["foot-front"][0, 2] < at["foot-left"][0, 2]


def test_it_opens_lid_first_and_its_tuck_wants_grip() -> None:
    opening = opening_of(box())
    study = box()
    assert opening.works and study.assembly.motions[opening.steps[0].motion].name.endswith(".lid")
    found = {}
    for grip in (0.0, 1 / 64, 1 / 16):
        check = next(c for c in box(grip=grip).checks if c.gap.code == "tuck")
        found[grip] = (check.is_clash, check.against)
    assert found == {0.0: (False, "above"), 1 / 64: (False, "within"), 1 / 16: (True, "below")}


@pytest.mark.parametrize(("grip", "shaved"), [(1 / 64, True), (0.0, False)])
def test_the_tuck_is_shaved_until_it_holds_once_all_is_dry(grip: float, shaved: bool) -> None:
    steps = plan_bench(box(grip=grip)).steps
    found = [k for k, step in enumerate(steps) if step.state == "shave until it holds"]
    assert bool(found) == shaved
    for k in found:
        assert "tuck" in steps[k].text and steps[k].caution
        assert max(n for n, step in enumerate(steps) if step.kind == "glue") < k and steps[k - 1].kind == "wait"


@pytest.mark.parametrize(
    ("given", "words"),
    [
        ({"tuck": 4, "height": 2}, "front wall"),
        ({"tab": 3, "width": 2}, "back wall"),
        ({"depth": 0.5}, "out of bounds"),
    ],
)
def test_what_cannot_be_is_told(given: dict[str, float], words: str) -> None:
    with pytest.raises(ParameterError, match=words) as told:
        box(**given)
    assert told.value.remedy
