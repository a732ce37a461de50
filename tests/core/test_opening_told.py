"""What is told of an opening: angles and ways of a step, and what is said first."""

from __future__ import annotations

import math

import numpy as np
import pytest
from msgspec.structs import replace

from yawning_lantern.assembly import CreaseStep
from yawning_lantern.design import Element, Place, add_guest
from yawning_lantern.fold import State, pose
from yawning_lantern.opening.order import _angles
from yawning_lantern.structures import start_design
from yawning_lantern.study import Study, opening_of
from yawning_lantern.study.opened import shut_words, verdict, where


@pytest.mark.parametrize("kind", ["tier-wrap", "explosion-box", "booklet", "accordion-spine", "closing-box", "tray"])
def test_a_motion_begins_and_ends_at_the_angles_of_its_crease(kind: str) -> None:
    """Measured between a panel and the one it hangs on, as rotations, what came before on the same crease done."""
    assembly = Study(start_design(kind, {})).assembly
    count = len(assembly.motions)
    for motion in range(count):
        told = _angles(assembly, motion)
        nodes = [k for k, n in enumerate(assembly.nodes)
                 if isinstance(n.step, CreaseStep) and any(m == motion and by for m, by in n.step.turns)]  # fmt: skip
        if not nodes:
            continue
        for deg, done in zip(told, (0.0, 1.0), strict=True):
            progress = tuple(1.0 if m < motion else done if m == motion else 0.0 for m in range(count))
            frames = pose(assembly, State(1.0, progress))
            one, other = (np.array(frames[k]).reshape(4, 3)[:3] for k in (nodes[0], assembly.nodes[nodes[0]].parent))
            turn = math.degrees(math.acos(max(-1.0, min(1.0, (np.trace(other @ one.T) - 1) / 2))))
            assert abs((deg + 180) % 360 - 180) == pytest.approx(turn, abs=0.01), (motion, told)


def test_where_a_step_is_on_its_way() -> None:
    study = Study(start_design("flap", {}))
    step = opening_of(study).steps[0]
    turning = replace(step, from_deg=170.0, to_deg=20.0, travel=0.0)
    shutting = replace(turning, opens=False, from_deg=20.0, to_deg=170.0)  # its share is that of the opening
    for share, words in ((0.5, "at 95°"), (0.1, "at 155°"), (1.0, "at 20°")):
        assert where(turning, share, "mm") == where(shutting, share, "mm") == words
    still = replace(step, from_deg=0.0, to_deg=0.0, travel=0.0)
    assert where(still, 0.4, "mm") == "40 % on its way"
    assert where(replace(still, travel=50.0), 0.4, "mm") == "after 20.0 mm"


def test_what_is_in_one_place_when_all_is_shut_is_said_first() -> None:
    host = start_design("tray", {"width": 60.0, "depth": 50.0, "height": 40.0})
    large = Element("g", "tray", "Large", {"width": 80.0, "depth": 50.0, "height": 20.0})
    study = Study(add_guest(host, host.root.id, large, Place("floor")))
    opening = opening_of(study)
    assert opening.shut and not opening.works
    said = verdict(study, opening, "mm", (1.0, 1.0, 1.0))
    assert said == shut_words(study, opening.shut[0], "mm") and "are in one place when all is shut" in said
