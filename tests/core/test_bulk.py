"""How many sheets lie where, and what they weigh, against shapely and worked cases."""

from __future__ import annotations

import json
import math

import pytest
from shapely.geometry import Point, Polygon

from yawning_lantern.cli.main import main
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


@pytest.mark.parametrize("name", sorted(families()))
def test_paper_in_one_place_is_never_thicker_than_the_whole(name: str) -> None:
    # fact of the solid: what a line straight down meets lies inside the closed thickness
    study = Study(start_design(name, {}))
    flat = all(
        abs(frame[8]) > 0.999 for n, frame in zip(study.assembly.nodes, study.shut_frames, strict=True) if not n.shape
    )
    if flat and all(n.shape is None for n in study.assembly.nodes):
        assert study.bulk.thickest <= study.closed[2] + 0.05
    assert study.bulk.most <= len(study.assembly.nodes) * 4
    width, depth = len(study.bulk.layers[0]) * study.bulk.cell, len(study.bulk.layers) * study.bulk.cell
    assert 0 <= width - study.closed[0] < study.bulk.cell
    assert 0 <= depth - study.closed[1] < study.bulk.cell


def test_bulk_is_told_in_the_plan_and_in_words(capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["plan", "--family", "mat", "--json", "--units", "mm"]) == 0
    bulk = json.loads(capsys.readouterr().out)["bulk"]
    study = Study(start_design("mat", {}))
    assert bulk["cell"] == study.bulk.cell
    assert [tuple(row) for row in bulk["layers"]] == list(study.bulk.layers)
    assert bulk["weight_g"] == pytest.approx(weight(study.pieces), abs=0.05)
    caliper = study.pieces[0].stock.caliper
    assert {v for row in bulk["paper"] for v in row} <= {0.0, round(caliper, 5)}

    assert main(["plan", "--family", "mat"]) == 0
    told = capsys.readouterr().out
    assert "At most 1 sheet lies in one place" in told and "the carrier's own" in told
    assert main(["plan", "--family", "tent"]) == 0
    assert "sheets lie in one place" in capsys.readouterr().out


def test_a_finer_map_finds_the_same_area() -> None:
    # worked: cells times their side squared come to the area of what lies there, the better the finer the map is
    study = Study(start_design("mat", {}))
    (piece,) = study.pieces
    true = abs(Polygon(piece.outline, piece.holes).area)
    errors = []
    for cell in (8.0, 2.0, 0.5):
        found = bulk_map(study.assembly, study.shut_frames, cell)
        covered = sum(n for row in found.layers for n in row) * cell**2
        errors.append(abs(covered - true) / true)
    assert errors[2] < 0.02
    assert errors[2] <= errors[0] + 1e-9


def test_every_layer_adds_its_weight() -> None:
    # worked: copies of one piece weigh as many times as much
    one = Study(start_design("waterfall", {"flaps": 2}))
    two = Study(start_design("waterfall", {"flaps": 4}))
    flap = next(p for p in one.pieces if p.id.endswith("flap"))
    more = next(p for p in two.pieces if p.id.endswith("flap"))
    assert (flap.quantity, more.quantity) == (2, 4)
    assert weight([flap]) / 2 == pytest.approx(abs(Polygon(flap.outline).area) * 1e-6 * (flap.stock.grammage or 0.0))
