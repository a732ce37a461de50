"""What is free of a page: all but what is glued on it. A mat runs under a pop-up that lies over it when shut, and stops
at its foot; thickness is told where things lie on one another, and nowhere else."""

from __future__ import annotations

import numpy as np
import pytest
from shapely import MultiPoint

from yawning_lantern.design import Design, Value
from yawning_lantern.fold import State, corners, pose
from yawning_lantern.structures import start_design
from yawning_lantern.study import Study, opening_of

from .test_fastenings import put

FEET = {
    "gate-bag": lambda sizes: (sizes["gusset"].length / 2,) * 2,
    "floating-layer": lambda sizes: (sizes["up"].length, sizes["out"].length),
    "tent": lambda sizes: (sizes["foot"].length,) * 2,
    "stand": lambda sizes: (sizes["foot"].length,) * 2,
}
"""How far from the gutter each is glued on the left and on the right page: worked from the drawings of the trade."""


SMALL: dict[str, dict[str, Value]] = {
    "gate-bag": {"bag-height": 60.0, "gusset": 40.0},
    "floating-layer": {"out": 40.0, "up": 45.0},
    "tent": {"foot": 40.0, "side": 60.0},
    "stand": {"foot": 20.0, "panel": 30.0},
}


def matted(kind: str) -> Design:
    design = start_design(kind, {"page-width": 120.0, "page-height": 140.0})
    for side in ("left", "right"):
        design = put(design, design.root.id, side, "mat", side)
    return design


def plan_of(study: Study, element: str, progress: float, instance: str = "") -> list[np.ndarray]:
    """Every panel of an element in a pose, mm."""
    frames = pose(study.assembly, State(1.0, (progress,) * len(study.assembly.motions)))
    return [
        np.array(corners(node, frame))
        for node, frame in zip(study.assembly.nodes, frames, strict=True)
        if node.element == element and instance in ("", node.instance)
    ]


@pytest.mark.parametrize("kind", sorted(FEET))
def test_a_mat_runs_under_a_pop_up_and_stops_at_its_foot(kind: str) -> None:
    study = Study(matted(kind))
    assert not study.has_clash and opening_of(study).works
    root = study.design.root.id
    sizes = study.resolved[root].sizes
    page = sizes["page-width"].length
    for side, foot in zip(("left", "right"), FEET[kind](sizes), strict=True):
        mat = study.resolved[side].sizes["cut-width"].length
        assert page - foot - 3.175 - 1.6 <= mat <= page - foot - 3.0  # its border on either side, down to the trimmer
    # shut, what stands up lies over the mat of the right page, which does not move
    mat = MultiPoint(plan_of(study, "right", 0.0)[0][:, :2]).convex_hull
    others = [p for p in plan_of(study, root, 0.0) if len(p)]
    level = plan_of(study, "right", 0.0)[0][:, 2].mean()
    over = sum(
        MultiPoint(p[:, :2]).convex_hull.intersection(mat).area
        for p in others if np.ptp(p[:, 2]) < 0.1 and level < p[:, 2].mean() < level + 3.0
    )  # fmt: skip
    assert over > 0.1 * mat.area
    # opened, no sheet of it lies on a mat where it is glued down
    foot = FEET[kind](sizes)[1]
    gutter = min(p[:, 0].min() for p in plan_of(study, "right", 0.0)) - foot - 1.5875
    assert gutter == pytest.approx(plan_of(study, root, 0.0, "card")[0][:, 0].min(), abs=1.7)


@pytest.mark.parametrize("kind", sorted(FEET))
def test_only_what_lies_under_it_makes_it_thicker(kind: str) -> None:
    plain = start_design(kind, {"page-width": 150.0, "page-height": 140.0, **SMALL[kind]})
    root = plain.root.id
    base = Study(plain)
    reach = base.resolved[root].sizes["shut-reach"].length
    feet = FEET[kind](base.resolved[root].sizes)
    free = 150.0 - feet[1]

    def with_photo(near: float) -> Study:
        """A photo 1 mm thick on the right page, its inner edge so far from the gutter, mm."""
        middle = near + 10.0 - feet[1] - free / 2
        return Study(put(plain, root, "photo", "photo", "right", x=middle, width=20.0, height=20.0, thick=1.0))

    beside, under = with_photo(reach + 2.0), with_photo(reach - 12.0)
    assert not beside.has_clash and not under.has_clash
    thick = base.closed[2]
    assert under.closed[2] > thick + 0.9
    assert beside.closed[2] < thick + 0.9 and beside.closed[2] >= thick - 0.01
