"""Regular polygons against shapely, and what goes over walls is told the same of them."""

from __future__ import annotations

import math

import pytest
from shapely.geometry import Point, Polygon, box

from yawning_lantern.structures.kit.below import below, walls_below
from yawning_lantern.structures.kit.regular import Regular, half_flat
from yawning_lantern.study import Study

from ..conftest import designed


@pytest.mark.parametrize("sides", range(3, 13))
def test_a_regular_polygon_is_what_a_library_measures(sides: int) -> None:
    made = Regular(sides, 37.0)
    ring = Polygon(made.corners)
    assert ring.exterior.is_ccw and ring.length == pytest.approx(37.0 * sides)
    assert ring.exterior.distance(Point(0, 0)) == pytest.approx(made.apothem) == pytest.approx(37.0 * half_flat(sides))
    assert ring.centroid.distance(Point(0, 0)) < 1e-9 and math.degrees(made.turn) == pytest.approx(360 / sides)
    level = [max(p[0] for p in made.corners)] * 2
    assert sorted(p[0] for p in made.corners)[-2:] == pytest.approx(level)  # a side on its right
    half = made.square
    assert ring.buffer(1e-6).contains(box(-half, -half, half, half))
    assert not ring.contains(box(-1.01 * half, -1.01 * half, 1.01 * half, 1.01 * half))


@pytest.mark.parametrize(("kind", "cap"), [("explosion-box", "lid"), ("prism", "lid"), ("prism", "roof")])
def test_lids_and_roofs_are_told_of_the_same_walls(kind: str, cap: str) -> None:
    from yawning_lantern.design import Element, Place, add_guest

    design = designed(kind, sides=6)
    study = Study(add_guest(design, design.root.id, Element("cap", cap), Place("mouth")))
    made = study.resolved["cap"].final
    under, box_ = below(made), study.resolved[design.root.id]
    assert under is not None and under.walls == walls_below(made, 4).value == 6
    assert under.caliper == box_.final.paper.caliper
    points = [  # the walls as they stand: how far their outsides are from the middle
        abs(f[9] * f[6] + f[10] * f[7])
        for n, f in zip(study.assembly.nodes, study.shut_frames, strict=True)
        if n.element == design.root.id and n.panel.name.startswith("wall") and abs(f[8]) < 1e-6
    ]
    outside = max(points) + under.caliper / 2
    assert under.outside - under.bulk == pytest.approx(outside, abs=0.6)  # but for tabs that are glued there
    names = [side.name for side in study.resolved["cap"].need.sides]
    assert cap == "roof" or [name.rpartition(" ")[2] for name in names] == [str(k) for k in range(1, 7)]
    assert below(study.resolved[design.root.id].final) is None and walls_below(box_.final, 9).value == 6
