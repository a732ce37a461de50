"""Structures on paper: templates read back by a foreign library, cut lists, files, for pieces of every shape."""

from __future__ import annotations

import csv
import io
import math
from itertools import pairwise
from pathlib import Path

import pdfplumber
import pytest
from pypdf import PdfReader
from shapely import LineString, Polygon

from yawning_lantern.design import Element, Place, add_guest
from yawning_lantern.exchange.design_file import from_bytes, read_design, to_bytes, write_design
from yawning_lantern.exchange.pages import template_pages
from yawning_lantern.exchange.pdf import write_templates
from yawning_lantern.exchange.plan import cut_list, plan, score_readings
from yawning_lantern.pattern import bounds
from yawning_lantern.structures import families, start_design
from yawning_lantern.structures.kit.corners import rounded
from yawning_lantern.structures.kit.lying import notch
from yawning_lantern.study import Study
from yawning_lantern.study.shopping import wares_of

from ..conftest import DEMO, Maker

POINT = 25.4 / 72  # mm
KINDS = sorted(families())


@pytest.mark.parametrize("kind", KINDS)
def test_templates_hold_every_piece_at_its_size(kind: str, tmp_path: Path) -> None:
    study = Study(start_design(kind, {}))
    target = tmp_path / "t.pdf"
    count = write_templates(study, target, "a3", "mm")
    pages = PdfReader(target).pages
    assert len(pages) == count >= 1
    assert all(
        float(p.mediabox.width) * POINT == pytest.approx(297, abs=0.1)
        or float(p.mediabox.height) * POINT == pytest.approx(297, abs=0.1)
        for p in pages
    )  # ISO 216
    text = " ".join(page.extract_text() for page in pages)
    for piece in study.pieces:
        assert piece.name in text.replace("\n", " ")


def test_a_whole_piece_is_drawn_to_scale(tmp_path: Path) -> None:
    study = Study(start_design("pocket", {"width": 120.0, "height": 80.0, "tag": "no"}))
    target = tmp_path / "t.pdf"
    write_templates(study, target, "a4", "mm")
    with pdfplumber.open(target) as pdf:
        page = pdf.pages[0]
        xs = [x * POINT for line in (*page.lines, *page.curves, *page.rects) for x in (line["x0"], line["x1"])]
        lengths = [round((line["x1"] - line["x0"]) * POINT, 1) for line in page.lines]
    assert 120.0 in lengths or any(abs(a - b - 120.0) < 0.1 for a in xs for b in xs)


@pytest.mark.parametrize("kind", KINDS)
def test_cut_list_has_a_row_for_every_piece(kind: str) -> None:
    study = Study(start_design(kind, {}))
    rows = list(csv.DictReader(io.StringIO(cut_list(study, "in"))))
    assert len(rows) == len(study.pieces) + len(wares_of(study))
    for row, piece in zip(rows, study.pieces, strict=False):  # wares follow
        assert int(row["quantity"]) == piece.quantity
        assert float(row["width (decimal)"]) * 25.4 == pytest.approx(piece.size[0], abs=0.01)


@pytest.mark.parametrize("kind", KINDS)
def test_designs_of_every_structure_come_back(kind: str, tmp_path: Path) -> None:
    design = start_design(kind, {})
    assert from_bytes(to_bytes(design)) == design
    write_design(design, tmp_path / "d.lantern")
    assert read_design(tmp_path / "d.lantern") == design


def test_pleats_are_read_from_the_fence(studied: Maker) -> None:
    spine = studied("accordion-spine", pages=5)
    piece = next(p for p in spine.pieces if p.id == "spine.spine")
    read = score_readings(piece, 0, "in").split("; ")
    assert read[:4] == ["1/2", "1", "1 1/2", "2"] and len(read) == 11
    ring = studied("rosette", strip_width=2, pleat=0.5, strips=2, strip_length=12)
    strip = next(p for p in ring.pieces if "strip" in p.id)
    senses = [line.fold for line in sorted(strip.lines, key=lambda n: n.start[0]) if line.kind == "score"]
    assert all(a != b for a, b in pairwise(senses))  # to and fro
    assert len(senses) == len(strip.panels) - 1


@pytest.mark.parametrize("radius", [0.0, 3.0, 8.0])
def test_rounded_corners_take_what_circles_take(radius: float) -> None:
    shape = Polygon(rounded(0, 0, 60, 40, radius, ("bl", "br")))
    full = 60 * 40 - 2 * (1 - math.pi / 4) * radius**2
    assert shape.area == pytest.approx(full, abs=0.03 * radius**2 + 1e-9)
    assert shape.is_valid and shape.convex_hull.area == pytest.approx(shape.area)  # a panel is convex
    assert shape.bounds == (0, 0, 60, 40)


@pytest.mark.parametrize(("way", "inside"), [((0.0, -1.0), (0, -1)), ((-1.0, 0.0), (-1, 0)), ((1.0, 0.0), (1, 0))])
def test_a_notch_is_half_a_circle_into_the_panel(way: tuple[float, float], inside: tuple[int, int]) -> None:
    lines = notch((10.0, 20.0), 18.0, way)
    assert all(line.kind == "cut" for line in lines)
    points = [lines[0].start, *(line.end for line in lines)]
    assert all(math.dist(p, (10.0, 20.0)) == pytest.approx(9.0) for p in points)
    assert math.dist(points[0], points[-1]) == pytest.approx(18.0)
    deepest = max(points, key=lambda p: (p[0] - 10) * inside[0] + (p[1] - 20) * inside[1])
    assert deepest == pytest.approx((10 + 9 * inside[0], 20 + 9 * inside[1]))


def test_notches_lie_on_the_mouth_and_in_the_paper(studied: Maker) -> None:
    for mouth in ("up", "right", "left"):
        study = studied("pocket", mouth=mouth)
        piece = study.pieces[0]
        cuts = [line for line in piece.lines if line.kind == "cut"]
        paper = Polygon(piece.outline).buffer(1e-6)
        assert cuts and all(paper.covers(LineString([c.start, c.end])) for c in cuts)
        x0, y0, x1, y1 = bounds([c.start for c in cuts] + [c.end for c in cuts])
        w, h = piece.size
        edge = {"up": (y1, h), "right": (x1, w), "left": (x0, 0.0)}[mouth]
        assert edge[0] == pytest.approx(edge[1])
        assert y0 >= -1e-6


def test_mitred_turn_ins_do_not_meet_flat(studied: Maker) -> None:
    # the mitre stands an eighth and a board off the corner, along the diagonal
    study = studied("board-cover", board_width=4.5, board_height=8.5, turn_in=1)
    cover = Polygon(study.pieces[0].outline)
    inset = 25.4 - 25.4 / 8 - 1.5
    corner = Polygon([(0, 0), (inset, 0), (0, inset)])
    assert cover.intersection(corner).area < 1e-6


def test_demo_set_is_planned_and_printed(tmp_path: Path) -> None:
    study = Study(read_design(DEMO.with_name("comet-night-set.lantern")))
    told = plan(study)
    assert len(told["pieces"]) == len(study.pieces) > 20
    assert told["findings"] and told["findings"][0]["part"] == "comet"
    assert told["solved"]["tiers.trays"] == 3 and told["solved"]["moon.mat-count"] == 9
    pages = template_pages(study, "letter", "in")
    assert len(pages) > 5


def test_what_is_bought_is_not_cut(studied: Maker) -> None:
    book = studied("gusset-book", page_kind="envelopes")
    page = next(p for p in book.pieces if p.id == "book.page")
    assert "not cut" in page.note and page.stock.name == "bought envelope"
    assert not any(c.gap.code == "sheet" and c.gap.between[0] == page.name for c in book.checks)
    card = Study(
        add_guest(start_design("mat", {}), "mat", Element("c", "photo", "", {"format": "id-card"}), Place("face"))
    )
    size = next(p for p in card.pieces if p.id == "c.photo").size
    assert size == pytest.approx((85.60, 53.98))  # ISO/IEC 7810 ID-1
    assert card.resolved["c"].final.given == {"format": "id-card"}
