"""No sheet lies in another: every pair of parallel sheets of a shut thing by brute force, areas by shapely."""

from __future__ import annotations

import math

import numpy as np
import pytest

from yawning_lantern.assembly import CreaseStep
from yawning_lantern.design import Design, Element, Place, add_guest
from yawning_lantern.errors import LanternError
from yawning_lantern.exchange.design_file import read_design
from yawning_lantern.fold import corners
from yawning_lantern.structures import families, start_design
from yawning_lantern.study import Study

from ..conftest import DEMO, designed
from ..contracts import buried

SET = DEMO.with_name("comet-night-set.lantern")
ALONE = sorted(families())


@pytest.mark.parametrize("kind", ALONE)
def test_no_sheet_lies_in_another(kind: str) -> None:
    assert buried(Study(start_design(kind, {}))) == []


@pytest.mark.parametrize("path", [DEMO, SET], ids=["box", "set"])
def test_nothing_is_buried_in_the_examples(path: object) -> None:
    assert buried(Study(read_design(path))) == []  # type: ignore[arg-type]  # a path in the table


def with_mats(design: Design) -> Design:
    """A mat on every face of the root that takes one."""
    study = Study(design)
    root = study.resolved[design.root.id]
    for k, (face, room) in enumerate(root.rooms.items()):
        if room.relation not in ("onto", "inside") or "floor" in face or face.startswith("tray-"):
            continue
        tried = add_guest(design, root.element.id, Element(f"m{k}", "mat", stock="pattern-190"), Place(face))
        try:
            if Study(tried).has_clash:
                continue
        except LanternError:
            continue
        design = tried
    return design


@pytest.mark.parametrize("kind", [k for k in ALONE if families()[k].relation != "around"])
def test_mats_on_every_face_find_their_room(kind: str) -> None:
    # bulk enters every gap it touches: what lies on a face is never inside its neighbour
    study = Study(with_mats(start_design(kind, {})))
    assert buried(study) == []


@pytest.mark.parametrize("layers", [2, 3, 4])
def test_layers_with_pockets_and_lids_stand_clear(layers: int) -> None:
    for lid in ("snug", "easy", "loose"):
        study = Study(designed("explosion-box", base=4, wall=3.5, layers=layers, lid=lid, corner="pocket"))
        assert buried(study) == []


@pytest.mark.parametrize("adhesive", ["wet-glue", "tape", "foam-1"])
@pytest.mark.parametrize("kind", ["waterfall", "gate-bag", "accordion-spine", "tier-wrap", "pocket"])
def test_thick_glue_makes_room_for_itself(kind: str, adhesive: str) -> None:
    study = Study(start_design(kind, {}, adhesive=adhesive))
    assert buried(study) == []
    thin = Study(start_design(kind, {}))
    if adhesive == "foam-1":
        assert study.closed[2] >= thin.closed[2] - 1e-6


def test_the_check_itself_finds_a_sheet_that_is_pushed_into_another() -> None:
    # a fault on purpose: the second flap of a waterfall glued as deep as the first
    from msgspec.structs import replace

    study = Study(start_design("waterfall", {"flaps": 4}))
    assembly = study.assembly
    nodes = list(assembly.nodes)
    hinges = [k for k, n in enumerate(nodes) if n.panel.name == "flap"]
    first = nodes[hinges[0]].step
    second = nodes[hinges[1]].step
    assert isinstance(first, CreaseStep) and isinstance(second, CreaseStep)
    nodes[hinges[1]] = replace(nodes[hinges[1]], step=replace(second, radius=first.radius))
    study.__dict__["assembly"] = replace(assembly, nodes=tuple(nodes))
    found = buried(study)
    assert len(found) == 1 and "flap-1/flap" in found[0][0] and "flap-2/flap" in found[0][1]
    assert found[0][2] < 0.01 and found[0][3] > 1000


def test_parallel_sheets_of_a_gusset_lie_in_order() -> None:
    study = Study(start_design("gate-bag", {}))
    at = {n.panel.name: f[11] for n, f in zip(study.assembly.nodes, study.shut_frames, strict=True)}
    assert at["page-right"] < at["front"] < at["gusset-1a"] < at["gusset-1b"] < at["back"] < at["page-left"]
    assert math.isclose(at["gusset-2a"], at["gusset-1b"], abs_tol=0.3)


@pytest.mark.parametrize("block", range(4))
def test_nothing_is_buried_in_random_nests(block: int) -> None:
    # bulk of everything on everything, five and more levels deep
    import random

    from .test_random_nests import random_nest

    looked = 0
    for seed in range(block * 50, block * 50 + 50):
        try:
            study = Study(random_nest(random.Random(seed)))
        except LanternError:
            continue
        if study.has_clash:
            continue
        looked += 1
        assert buried(study) == [], seed
    assert looked >= 10


def test_things_on_facing_walls_are_told_when_they_meet() -> None:
    box = start_design("tray", {"width": 60.0, "depth": 60.0, "height": 50.0})
    for side in ("right", "left"):
        block = Element(side, "photo", "", {"thick": 9.9, "width": 40.0, "height": 30.0})
        box = add_guest(box, "tray", block, Place(f"{side}-inside"))
    assert not Study(box).has_clash
    more = add_guest(box, "right", Element("more", "drop-ladder", "", {"tray-depth": 14.0, "trays": 3}), Place("face"))
    clash = next(c for c in Study(more).checks if c.is_clash and c.gap.code == "beside")
    # worked: 60 − 2 × 9.9 − 3 × 14 = −1.8, less the sheets of the ladder's floors and of the walls
    assert -3.6 < clash.gap.value < -1.8


def test_what_hangs_in_a_lid_is_told_when_it_meets_an_empty_floor() -> None:
    tray = add_guest(designed("tray", width=4, depth=4, height=1), "tray", Element("lid", "lid"), Place("mouth"))
    fine = add_guest(
        tray, "lid", Element("gem", "photo", "", {"thick": 9.0, "width": 20.0, "height": 20.0}), Place("ceiling")
    )
    assert not Study(fine).has_clash
    tall = add_guest(
        tray, "lid", Element("gem", "tray", "", {"height": 60.0, "width": 30.0, "depth": 30.0}), Place("ceiling")
    )
    assert [c.gap.code for c in Study(tall).checks if c.is_clash] == ["headroom"]


@pytest.mark.parametrize("sides", [3, 5, 6, 8])
def test_every_wall_of_a_polygon_carries_things(sides: int) -> None:
    size = 120.0 if sides == 3 else 60.0
    design = start_design("explosion-box", {"sides": sides, "base": size, "wall": 50.0, "layers": 2, "lid": "easy"})
    box = design.root.id
    apart = []
    for k in range(sides):
        gem = Element(f"gem-{k}", "photo", "", {"thick": 3.0 + k % 2, "width": 20.0, "height": 25.0})
        design = add_guest(design, box, gem, Place(f"wall-{k + 1}-inside"))
        design = add_guest(
            design, box, Element(f"mat-{k}", "mat", "", {}, "pattern-160"), Place(f"wall-{k + 1}-outside")
        )
    study = Study(design)
    assert not study.has_clash
    assert buried(study) == []
    # worked: what lies on a wall's inside is nearer to the middle than the wall, on its outside farther
    at = {}
    for node, frame in zip(study.assembly.nodes, study.shut_frames, strict=True):
        at[(node.element, node.panel.name)] = np.mean(np.array(corners(node, frame)), axis=0)[:2]
    middle = at[(box, "base")]
    for k in range(sides):
        wall = np.linalg.norm(at[(box, f"wall-{k + 1}")] - middle)
        inside, outside = (
            np.linalg.norm(next(v for (e, _), v in at.items() if e == f"{kind}-{k}") - middle)
            for kind in ("gem", "mat")
        )
        apart.append(outside - inside)
        assert inside < wall < outside
    # facts of the solid: all walls are alike, so what is on them differs by what the gems' own thickness adds
    assert max(apart) - min(apart) < 1.5


def test_a_thing_on_a_polygon_wall_keeps_to_its_side_of_the_corner() -> None:
    # worked: a block 10 mm thick on a wall of 60 mm of a hexagon, whose corners halve at 60°, may be
    # 60 − 2 × 10 × tan 30° = 48.5 mm wide, and an eighth more for a mat's border
    box = start_design("explosion-box", {"sides": 6, "base": 60.0, "wall": 60.0})
    for width, clashes in ((46.0, False), (56.0, True)):
        block = Element("block", "photo", "", {"thick": 10.0, "width": width, "height": 30.0})
        study = Study(add_guest(box, box.root.id, block, Place("wall-3-inside")))
        assert study.has_clash is clashes, width
