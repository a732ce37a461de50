"""How many sheets lie where, and what they weigh, against shapely and worked cases."""

from __future__ import annotations

import math

import pytest
from shapely.geometry import Point, Polygon

from yawning_lantern.design import Element, Place, add_guest, walk
from yawning_lantern.fold import bulk_map, weight
from yawning_lantern.fold.pose import flat_parts
from yawning_lantern.structures import families, start_design
from yawning_lantern.study import Study


@pytest.mark.parametrize("name", sorted(families()))
def test_layers_agree_with_polygons_looked_up_one_by_one(name: str) -> None:
    # general-purpose reference library: shapely's point in polygon
    study = Study(start_design(name, {}))
    found = bulk_map(study.assembly, study.shut_frames, cell=7.3)
    shapes = []
    for node, frame in zip(study.assembly.nodes, study.shut_frames, strict=True):
        for points, normal, _ in flat_parts(node, frame, 1.0):
            if abs(normal[2]) >= 0.05:
                shape = Polygon([p[:2] for p in points]).buffer(0)
                shapes.append((shape, node.piece.stock.caliper / abs(normal[2])))
    compared = 0
    for i, row in enumerate(found.layers):
        for j, layers in enumerate(row):
            at = Point(found.low[0] + (j + 0.5) * found.cell, found.low[1] + (i + 0.5) * found.cell)
            if any(shape.boundary.distance(at) < 1e-6 for shape, _ in shapes):
                continue  # on a cut edge both answers are right
            over = [thick for shape, thick in shapes if shape.contains(at)]
            assert layers == len(over), (name, i, j)
            assert found.paper[i][j] == pytest.approx(sum(over), abs=1e-9)
            compared += 1
    assert compared > 0 and found.most > 0


def test_sheets_over_the_middle_of_a_box_are_counted() -> None:
    # worked: a box of three layers has three floors over its middle, its lid's top makes four, each mat one more
    design = start_design("explosion-box", {"layers": 3, "lid": "easy"})
    bulk = Study(design).bulk
    assert bulk.layers[len(bulk.layers) // 2][len(bulk.layers[0]) // 2] == 4

    lid = next(e for e in walk(design.root) if e.family == "lid")
    for k in range(2):
        design = add_guest(design, lid.id, Element(f"mat-{k}", "mat"), Place(("top", "ceiling")[k]))
    more = Study(design).bulk
    assert more.layers[len(more.layers) // 2][len(more.layers[0]) // 2] == 6
    assert more.thickest > bulk.thickest


def test_weight_follows_from_the_definition_of_basis_weight() -> None:
    # definition: pounds of 500 sheets of the basic size; cover's is 20 × 26 in. A mat of 4 × 6 in of 65 lb cover
    study = Study(start_design("mat", {"width": 25.4 * 4, "height": 25.4 * 6}, stock="card-176"))
    (piece,) = study.pieces
    width, height = piece.size
    pounds = 65 * 453.59237 / 500 * (width / 25.4) * (height / 25.4) / (20 * 26)
    assert weight(study.pieces) == pytest.approx(pounds, rel=0.01)


def test_what_is_cut_out_does_not_weigh() -> None:
    for name in ("tray", "pocket", "gate-bag", "rosette"):
        pieces = Study(start_design(name, {})).pieces
        by_area = sum(
            p.quantity
            * Polygon(p.outline, p.holes).area
            * 1e-6
            * (p.stock.grammage or 1000 * p.stock.caliper / p.stock.bulk)
            for p in pieces
        )
        assert math.isclose(weight(pieces), by_area, rel_tol=1e-9)
