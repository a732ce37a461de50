"""Check values of the trade that concern boxes, and others worked by hand."""

from __future__ import annotations

import math

import pytest
from shapely import Polygon

from yawning_lantern.design import set_value
from yawning_lantern.exchange.plan import plan, score_readings
from yawning_lantern.measure import inches
from yawning_lantern.stock import builtin_catalogue
from yawning_lantern.structures import start_design
from yawning_lantern.structures.kit.cross import beside
from yawning_lantern.study import Study

from ..conftest import Maker

T = 0.27  # mm: 216 g/m² at 1.25 cm³/g


def test_twelve_inch_sheet_scored_at_four(studied: Maker) -> None:
    # common practice, no source: 12×12 scored at 4 all round is a 4 box
    found = plan(studied("explosion-box", sheet=12))
    assert found["solved"]["base"] == pytest.approx(4) and found["solved"]["wall"] == pytest.approx(4)
    assert score_readings(studied("explosion-box", sheet=12).pieces[0], 0, "in") == "4; 8"


def test_eleven_inch_sheet_scored_at_four(studied: Maker) -> None:
    # common practice, no source: 11×11 scored at 4 from each edge: base 3, walls 4
    found = plan(studied("explosion-box", sheet=11, wall=4))
    assert found["solved"]["base"] == pytest.approx(3)
    assert [found["pieces"][0]["width"], found["pieces"][0]["height"]] == pytest.approx([11, 11])


def test_its_lid_habit(studied: Maker) -> None:
    # common practice, no source: lid = box + both sheets + play 1/8, rounded up to the trimmer's 1/16
    study = studied("lid", over_width=3, over_depth=3, rim=1, play=0.125)
    top = study.current("lid", "top-width")
    exact = inches(3) + 2 * T + inches(1 / 8)
    assert top is not None and exact <= top < exact + 2 * T + inches(1 / 16)
    assert top / inches(1 / 16) == pytest.approx(round(top / inches(1 / 16)))
    width, height = study.pieces[0].size
    assert width == pytest.approx(top + 2 * inches(1)) and height == pytest.approx(width)
    assert score_readings(study.pieces[0], 0, "in").split("; ")[0] == "1"  # the rim is kept exactly


def test_double_rim_takes_two_sheets_more(studied: Maker) -> None:
    # common practice, no source: a rim folded double takes 2 t more; scores at r and 2r all round
    single = studied("lid", over_width=3, over_depth=3, rim=1)
    double = studied("lid", over_width=3, over_depth=3, rim=1, rim_kind="double")
    exact = [s.resolved["lid"].sizes["top-width"].exact or 0.0 for s in (single, double)]
    assert exact[1] - exact[0] == pytest.approx(2 * T)
    top = double.current("lid", "top-width") or 0.0
    assert double.pieces[0].size[0] == pytest.approx(top + 4 * inches(1))
    assert score_readings(double.pieces[0], 0, "in").startswith("1; 2; ")


@pytest.mark.parametrize(("panel", "mat"), [(4, 3.875), (3, 2.875)])
def test_mats(studied: Maker, panel: float, mat: float) -> None:
    # common practice, no source: a mat is the panel less 1/8 in all; on a 4 flap 3 7/8, on a 3 cell 2 7/8
    assert studied("mat", width=panel, height=panel).pieces[0].size == pytest.approx((inches(mat), inches(mat)))


def test_photo_on_mat_is_an_eighth_less(studied: Maker) -> None:
    # common practice, no source; photo 4 × 6 (a common print size, from memory)
    assert studied("mat", content_width=4, content_height=6).pieces[0].size == pytest.approx(
        (inches(4.125), inches(6.125))
    )


def test_envelope_album_mats(studied: Maker) -> None:
    # common practice, no source: mats 4 × 6 on 4 1/4 × 6 1/4 envelopes with a border of 1/8
    found = studied("mat", width=4.25, height=6.25, border=0.125).pieces[0].size
    assert found == pytest.approx((inches(4), inches(6)))


def test_tray_for_a_gift_card(studied: Maker) -> None:
    # ISO/IEC 7810 ID-1: 85.60 × 53.98 × 0.76 mm; a tray must take it with play on its own grid
    mm = 1 / 25.4
    study = studied("tray", content_width=85.6 * mm, content_depth=53.98 * mm, content_height=0.76 * 10 * mm)
    w, d, h = (study.current("tray", k) or 0.0 for k in ("width", "depth", "height"))
    assert 85.6 + T <= w - inches(1 / 8) < 85.6 + T + 2 * T + inches(1 / 16)
    assert d - T - 53.98 >= inches(1 / 8)
    assert h - T / 2 >= 7.6
    assert all(check.is_fine for check in study.checks)


def test_candle_tin_three_layers(studied: Maker) -> None:
    # worked by hand: 60 + 0.27 + 3.175 = 63.445 → 2 1/2; 45 + 0.135 + 1.5875 = 46.72 → 1 7/8; steps of 1/2 outwards
    mm = 1 / 25.4
    study = studied(
        "explosion-box", content_width=60 * mm, content_depth=60 * mm, content_height=45 * mm, layers=3, lid="easy"
    )
    bases = [(study.current(e, "base") or 0.0) / 25.4 for e in ("box", "layer-2", "layer-3")]
    assert bases == pytest.approx([3.5, 3.0, 2.5])
    assert [(study.current(e, "wall") or 0.0) / 25.4 for e in ("box", "layer-3")] == pytest.approx([1.875, 1.875])
    assert study.pieces[0].size == pytest.approx((inches(7.25), inches(7.25)))  # B + 2H
    assert all(check.is_fine for check in study.checks)
    assert {c.gap.code for c in study.checks} >= {"lid", "layer", "contents", "headroom", "sheet", "wall-height"}


@pytest.mark.parametrize("n", [3, 5, 6, 8])
def test_polygon_base_is_regular(studied: Maker, n: int) -> None:
    # regular polygon: area = n·s² / (4·tan(π/n)); every wall adds s·h
    study = studied("explosion-box", base=2, wall=3, sides=n)
    base = Polygon(study.pieces[0].panel("base").outline)
    assert base.area == pytest.approx(n * inches(2) ** 2 / (4 * math.tan(math.pi / n)))
    assert Polygon(study.pieces[0].outline).area == pytest.approx(base.area + n * inches(2) * inches(3))


@pytest.mark.parametrize("n", [3, 5, 6, 8])
def test_star_from_a_sheet_fills_it(studied: Maker, n: int) -> None:
    study = studied("explosion-box", sheet=12, wall=3, sides=n)
    # the largest base on the trimmer's marks: a sixteenth more would not fit
    assert max(study.pieces[0].size) <= inches(12) + 1e-6
    base = study.current("box", "base") or 0.0
    more = Study(set_value(study.design, "box", "base", base + inches(1 / 16)))
    assert (base / inches(1 / 16)) == pytest.approx(round(base / inches(1 / 16)))
    assert max(more.pieces[0].size) > inches(12)


@pytest.mark.parametrize(
    ("large", "small", "many"),
    [((6.0, 12.0), (3.0, 3.0), 8), ((12.0, 12.0), (1.0, 1.0), 0), ((8.0, 4.0), (4.0, 4.0), 7),
     ((9.0, 9.0), (3.0, 12.0), 1), ((9.0, 9.0), (12.0, 3.0), 1), ((7.0, 5.0), (7.0, 3.5), 3)],
)  # fmt: skip
def test_pieces_beside_a_large_one_on_a_twelve_inch_sheet(
    large: tuple[float, float], small: tuple[float, float], many: int
) -> None:
    # counted on squared paper: whole multiples of the sheet go in to the very edge
    situation = Study(start_design("tray", {})).resolved["tray"].final
    inch = [tuple(25.4 * side for side in piece) for piece in (large, small)]
    assert beside(situation, (inch[0][0], inch[0][1]), (inch[1][0], inch[1][1])) == many


def test_piecing_when_the_cross_exceeds_the_sheet(studied: Maker) -> None:
    # common practice, no source: base with two walls as one strip, the other walls joined with a 1/2 tab
    study = studied("explosion-box", base=4, wall=4.5)
    sizes = {p.id: (p.size, p.quantity) for p in study.pieces}
    assert sizes["box.strip"] == (pytest.approx((inches(4), inches(13))), 1)
    assert sizes["box.wall"] == (pytest.approx((inches(4), inches(5))), 2)
    assert study.has_clash  # a strip of 13 is still too long for 12
    fits = studied("explosion-box", base=3.5, wall=4.25, piecing="pieced")
    assert not fits.has_clash
    assert fits.size_at(0.0)[2] == pytest.approx(inches(4.25), abs=3 * T)


def test_diagonal_pockets_halve_the_corner_squares(studied: Maker) -> None:
    # geometry: two walls keep both corner squares, each cut on its diagonal; less the relief at the foot
    plain, pocket = (studied("explosion-box", base=4, wall=4, corner=c).pieces[0] for c in ("plain", "pocket"))
    kept = Polygon(pocket.outline).area - Polygon(plain.outline).area
    reach, tall = inches(4 - 1 / 16), inches(4 - 1 / 16)
    assert kept == pytest.approx(4 * reach * tall / 2, rel=1e-9)


def test_metric_tools_round_to_millimetres() -> None:
    from yawning_lantern.structures import start_design
    from yawning_lantern.study import Study

    design = start_design(
        "explosion-box",
        {"content-width": 60.0, "content-depth": 60.0, "content-height": 45.0},
        units="mm",
        score_tool="scorer-mm",
        cut_tool="trimmer-mm",
    )
    study = Study(design)
    assert study.current("box", "base") == pytest.approx(64.0)  # 63.445 up
    assert study.current("box", "wall") == pytest.approx(47.0)  # 46.72 up
    assert builtin_catalogue().tool("trimmer-mm").grid == 1.0
