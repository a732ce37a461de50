"""Every piece of every family through JSON, CSV and PDF, read back by foreign readers: whole, once, with its scores."""

from __future__ import annotations

import csv
import io
import json
import math
from pathlib import Path

import pdfplumber
import pytest
from shapely import LineString, Point, Polygon, unary_union

from yawning_lantern.design import Design, Element, Place, add_guest
from yawning_lantern.exchange.design_file import read_design
from yawning_lantern.exchange.pages import PAPERS, template_pages
from yawning_lantern.exchange.pdf import write_templates
from yawning_lantern.exchange.plan import cut_list, plan
from yawning_lantern.exchange.shapes import FOOT, MARGIN, Label, Stroke
from yawning_lantern.structures import families, start_design
from yawning_lantern.study import Study

from ..conftest import DEMO, Maker, designed

POINT = 72 / 25.4
CASES: dict[str, Design] = {
    **{kind: start_design(kind, {}) for kind in families()},
    "tier-wrap on a foot": start_design("tier-wrap", {"foot": 12.0, "trays": 8, "width": 30.0}),
    "hexagon": start_design("explosion-box", {"sides": 6, "base": 50.0, "wall": 50.0, "lid": "easy"}),
    "wide V": start_design("v-fold", {"corner": 110, "spread": 40}),
    "narrow V": start_design("v-fold", {"corner": 70, "spread": 35}),
    "bag, seam outside": start_design("gate-bag", {"seam": "outside", "band": 0.0}),
    "set": read_design(DEMO.with_name("comet-night-set.lantern")),
}
LOW = MARGIN + FOOT


@pytest.mark.parametrize("name", sorted(CASES))
def test_the_plan_has_every_piece_whole(name: str) -> None:
    study = Study(CASES[name])
    told = json.loads(json.dumps(plan(study, "mm")))
    built = {piece.id: piece for r in study.resolved.values() for piece in r.part.pieces}
    assert sorted(i for p in told["pieces"] for i in p["stands_for"]) == sorted(built)
    for piece in told["pieces"]:
        shape = Polygon(piece["outline"], piece["holes"])
        assert shape.is_valid and shape.bounds == pytest.approx((0, 0, piece["width"], piece["height"]), abs=1e-4)
        own = built[piece["id"]]
        assert shape.area == pytest.approx(Polygon(own.outline, own.holes).area, rel=3e-6)
        assert piece["quantity"] == sum(built[i].quantity for i in piece["stands_for"])
        paper = shape.buffer(1e-3)
        for line in piece["lines"]:
            ends = [(line["x1"], line["y1"]), (line["x2"], line["y2"])]
            assert paper.covers(LineString(ends)) and (line["fold"] == "none") == (line["kind"] != "score")
        folds = [c for c in own.creases if c.angle != 0]
        scored = sum(math.hypot(x["x2"] - x["x1"], x["y2"] - x["y1"]) for x in piece["lines"] if x["kind"] == "score")
        assert scored <= sum(math.dist(c.start, c.end) for c in folds) + 1e-3
        assert own.bought or (scored > 0) == bool(folds)


def inches_of(text: str) -> float:
    """`2 7/8` or `2.875` as a number."""
    total = 0.0
    for part in text.split():
        top, _, bottom = part.partition("/")
        total += float(top) / float(bottom or 1)
    return total


@pytest.mark.parametrize("name", sorted(CASES))
def test_the_cut_list_reads_every_score_from_the_fence(name: str) -> None:
    study = Study(CASES[name])
    rows = list(csv.DictReader(io.StringIO(cut_list(study, "in"))))
    for row, piece in zip(rows, study.pieces, strict=False):
        scores = [line for line in piece.lines if line.kind == "score"]
        for axis, column in ((0, "scores from the left"), (1, "scores from the foot")):
            want = sorted({round(s.start[axis] / 25.4, 3) for s in scores if abs(s.start[axis] - s.end[axis]) < 1e-6})
            got = [inches_of(text) for text in row[column].split("; ") if text]
            assert got == pytest.approx(want, abs=0.001), (row["piece"], column)
            assert all(-1e-6 <= at <= piece.size[axis] / 25.4 + 1e-6 for at in got)
        slanted = [s for s in scores if min(abs(s.start[k] - s.end[k]) for k in (0, 1)) > 1e-6]
        told = [part for part in row["slanted scores"].split("; ") if part]
        assert len(told) == len(slanted)
        for text, line in zip(told, slanted, strict=True):
            numbers = [inches_of(n) for end in text.split(" to ") for n in end.split(", ")]
            assert numbers == pytest.approx([c / 25.4 for c in (*line.start, *line.end)], abs=0.001)
        assert (row["material"] == "ready-made, do not cut") == piece.bought


@pytest.mark.parametrize("name", sorted(CASES))
def test_templates_show_every_piece_once_and_whole(name: str, tmp_path: Path) -> None:
    """What pdfplumber reads as drawn in the cutting pen is every outline once, none off the page."""
    study, out = Study(CASES[name]), tmp_path / "t.pdf"
    write_templates(study, out, "a3")
    width, height = PAPERS["a3"]
    cut = 0.0
    with pdfplumber.open(out) as pdf:
        text = " ".join((page.extract_text() or "") for page in pdf.pages)
        tiled = any(" · tile " in (page.extract_text() or "") for page in pdf.pages)
        for page in pdf.pages:
            for line in page.lines:
                x0, x1 = line["x0"] / POINT, line["x1"] / POINT
                y0, y1 = (page.height - line["bottom"]) / POINT, (page.height - line["top"]) / POINT
                assert x0 >= -0.01 and x1 <= width + 0.01 and y0 >= -0.01 and y1 <= height + 0.01
                solid = abs(line["linewidth"] - 0.35) < 0.01 or abs(line["linewidth"] - 0.35 * POINT) < 0.02
                if solid and y0 > LOW - 1e-3:
                    cut += math.hypot(x1 - x0, y1 - y0)
    want = sum(
        sum(
            math.dist(p, q)
            for loop in (piece.outline, *piece.holes)
            for p, q in zip(loop, (*loop[1:], loop[0]), strict=True)
        )
        + sum(math.dist(line.start, line.end) for line in piece.lines if line.kind == "cut")
        for piece in study.pieces
    )
    if tiled:  # what lies where two tiles overlap is there twice; test_tiles lays them on each other
        assert want * (1 - 2e-3) <= cut <= 1.15 * want
    else:
        assert cut == pytest.approx(want, rel=2e-3, abs=0.5)
    for piece in study.pieces:
        assert text.count(f"{piece.quantity} × {piece.name}") >= 1
        if piece.note:
            assert piece.note.split()[0] in text
        if piece.bought:
            assert "do not cut" in text


@pytest.mark.parametrize("name", ["set", "gate-bag"])
def test_no_fit_is_lost_on_the_way_to_paper(name: str) -> None:
    study = Study(CASES[name])
    for paper in PAPERS:
        labels = [s.text for p in template_pages(study, paper, "in") if p.title.endswith("fits") for s in p.shapes
                  if isinstance(s, Label) and s.bold]  # fmt: skip
        told = " ".join(labels)
        for check in study.checks:
            assert check.gap.between[0] in told
        heads = [s for p in template_pages(study, paper, "in") if p.title.endswith("fits") for s in p.shapes]
        assert sum(isinstance(s, Label) and not s.bold for s in heads) >= len(study.checks)
        assert all(s.at[1] >= MARGIN - 1e-6 for s in heads if isinstance(s, Label))


def test_glue_is_hatched_on_the_tabs(studied: Maker) -> None:
    study = studied("tray", width=3, height=1)
    piece = study.pieces[0]
    tabs = unary_union([Polygon(o) for o in study.glued[piece.id]])
    assert tabs.area == pytest.approx(sum(Polygon(p.outline).area for p in piece.panels if "tab" in p.name))
    (page,) = [p for p in template_pages(study, "12x12", "in") if p.title.endswith(": Tray")]
    strokes = [s for s in page.shapes if isinstance(s, Stroke) and s.pen == "glue" and s.start[1] > LOW]
    assert len(strokes) > 8
    x = min(s.start[0] for s in page.shapes if isinstance(s, Stroke) and s.pen == "cut" and s.start[1] > LOW)
    y = min(
        min(s.start[1], s.end[1]) for s in page.shapes if isinstance(s, Stroke) and s.pen == "cut" and s.start[1] > LOW
    )
    for s in strokes:
        assert tabs.buffer(0.01).covers(LineString([(a - x, b - y) for a, b in (s.start, s.end)]))


def test_a_long_piece_is_turned_to_fit(studied: Maker) -> None:
    study = studied("belly-band", over_width=4, over_thick=0.3)  # some 9 1/4 × 1: across a letter only when turned
    pages = [p for p in template_pages(study, "letter", "in") if "Belly band" in p.title]
    assert len(pages) == 1 and "tile" not in pages[0].title
    cuts = [s for s in pages[0].shapes if isinstance(s, Stroke) and s.pen == "cut" and s.start[1] > LOW]
    xs, ys = ([v for s in cuts for v in (s.start[k], s.end[k])] for k in (0, 1))
    assert (max(ys) - min(ys), max(xs) - min(xs)) == pytest.approx(study.pieces[0].size)


# -- senses, grids, words


def test_scores_of_a_stand_are_of_the_sense_they_rise_with(studied: Maker) -> None:
    # strip from foot to foot: out to the ridge and back twice, a fin between: the two beside the fin are valleys
    strip = next(p for p in studied("stand").pieces if "strip" in p.id)
    senses = [line.fold for line in sorted(strip.lines, key=lambda n: n.start[0]) if line.kind == "score"]
    assert senses == ["mountain", "valley", "mountain", "valley", "mountain"]


def test_the_mitre_stands_clear_of_the_boards_corner(studied: Maker) -> None:
    study = studied("board-cover", board_width=4.5, board_height=8.5, turn_in=1)
    cover = Polygon(study.pieces[0].outline)
    # an eighth (common practice, no source) and the board's thickness, measured square to the cut
    assert cover.exterior.distance(Point(25.4, 25.4)) == pytest.approx(25.4 / 8 + 1.5)
    assert not [line for line in study.pieces[0].lines if line.kind == "cut"]


@pytest.mark.parametrize("kind", sorted(families()))
def test_free_choices_are_on_the_grid(kind: str) -> None:
    # on the trimmer's marks; what follows from the thing it goes around, or from an angle, is not free
    if kind in ("belly-band", "closing-tongue", "ribbon", "v-fold", "stand", "strap", "prism", "roof"):
        return
    for piece in (one for one in Study(start_design(kind, {})).pieces if not one.bought):
        for size in piece.size:
            assert size / (25.4 / 32) == pytest.approx(round(size / (25.4 / 32)), abs=1e-3), (piece.name, size / 25.4)


def test_twelve_inches_are_enough_for_twelve(studied: Maker) -> None:
    study = studied("tier-wrap", trays=4, width=2.875)
    assert study.current("wrap", "wrapper-length") == pytest.approx(12 * 25.4) and not study.has_clash


def test_three_walls_on_the_cross_where_the_sheet_takes_them() -> None:
    study = Study(start_design("explosion-box", {"base": 76.2, "wall": 76.2}, stock="card-216-letter"))
    # by hand: three walls on the cross leave 2 1/2 in beside 6 × 9, too little for a wall of 3 × 3 1/2; two and two go
    # on one sheet, the strip of 3 × 9 with both walls beside it
    assert [(p.id, p.quantity) for p in study.pieces] == [("box.strip", 1), ("box.wall", 2)] and not study.has_clash
    study = Study(start_design("explosion-box", {"base": 50.8, "wall": 88.9}, stock="card-216-letter"))
    assert [(p.id, p.quantity) for p in study.pieces] == [("box.strip", 1), ("box.wall", 1)] and not study.has_clash
    assert len([c for c in study.pieces[0].creases if c.a == "base"]) == 3
    frames = {n.panel.label: f for n, f in zip(study.assembly.nodes, study.shut_frames, strict=True)}
    assert abs(frames["wall"][8]) < 1e-6  # the joined wall stands like the others


def test_a_lid_follows_its_sheet_and_its_rim(studied: Maker) -> None:
    for kind, rims in (("single", 2), ("double", 4)):
        study = studied("lid", sheet=6, rim=0.75, rim_kind=kind)
        assert max(study.pieces[0].size) == pytest.approx(152.4) and not study.has_clash
        assert study.current("lid", "top-width") == pytest.approx((6 - rims * 0.75) * 25.4)
    assert studied("lid", sheet=6, rim=1, over_width=5).has_clash


@pytest.mark.parametrize("sides", [3, 5, 6, 8, 12])
def test_lids_of_any_sides_are_as_loose_as_asked(sides: int) -> None:
    for play, most in (("easy", 25.4 * 5 / 32), ("loose", 25.4 / 4)):
        design = start_design(
            "explosion-box", {"sides": sides, "base": 40.0, "wall": 40.0, "lid": play, "piecing": "one"}
        )
        gaps = [c for c in Study(design).checks if c.gap.code == "lid"]
        assert gaps and all(c.is_fine and c.gap.value <= most * (c.gap.share) + 1e-6 for c in gaps)


@pytest.mark.parametrize("name", sorted(CASES))
def test_nothing_is_judged_tight_that_the_program_chose_itself(name: str) -> None:
    for check in Study(CASES[name]).checks:
        assert check.verdict not in ("tight", "clash"), (check.gap.code, check.gap.between, check.gap.value)


def test_notes_and_refusals_speak_the_designs_units() -> None:
    mat = add_guest(
        designed("tray", width=4), "tray", Element("m", "mat", "", {"border": 3.175}), Place("right-outside")
    )
    study = Study(mat)
    notes = {u: " ".join(p["note"] for p in plan(study, u)["pieces"]) for u in ("in", "mm")}  # type: ignore[arg-type]  # units
    assert "1/8″" in notes["in"] and "mm" not in notes["in"] and "3.2 mm" in notes["mm"]
    for units, sign in (("in", "″"), ("mm", " mm")):
        with pytest.raises(Exception, match=sign):
            Study(start_design("tent", {"side": 20.0, "foot": 60.0}, units=units))


def test_no_sum_ends_in_minus_nothing() -> None:
    from yawning_lantern.fit import formula

    for design in CASES.values():
        for check in Study(design).checks:
            for units in ("in", "mm"):
                assert "−0.000″" not in formula(check, units) and "−0.00 mm" not in formula(check, units)  # type: ignore[arg-type]  # units
