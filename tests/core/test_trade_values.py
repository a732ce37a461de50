"""Check values of the trade for the fold-out structures, by name. Common practice, no source, unless said otherwise."""

from __future__ import annotations

import math

import pytest

from yawning_lantern.errors import ParameterError
from yawning_lantern.exchange.plan import plan
from yawning_lantern.structures import start_design
from yawning_lantern.structures.boxes.tier_wrap import within_ends
from yawning_lantern.study import Study, remedies

from ..conftest import Maker


def scores(study: Study, piece: str, axis: str = "x") -> list[float]:
    """Where a piece is scored across an axis, inches from the fence."""
    found = next(p for p in plan(study)["pieces"] if p["id"] == piece)
    a, b = f"{axis}1", f"{axis}2"
    return sorted({round(n[a], 4) for n in found["lines"] if n["kind"] == "score" and abs(n[a] - n[b]) < 1e-6})


def size_of(study: Study, piece: str) -> tuple[float, float, int]:
    found = next(p for p in plan(study)["pieces"] if p["id"] == piece)
    return found["width"], found["height"], found["quantity"]


def test_gift_card_stand(studied: Maker) -> None:
    study = studied("stand", stand_width=4, tab=0.5, panel=0.75, page_width=4, page_height=5)
    assert size_of(study, "stand.strip")[:2] == pytest.approx((4.0, 4.0))
    assert scores(study, "stand.strip") == [0.5, 1.25, 2.0, 2.75, 3.5]
    assert not study.has_clash


def test_gift_card_stands_in_the_fin(studied: Maker) -> None:
    # the card: ISO/IEC 7810 ID-1, 85.60 × 53.98 × 0.76 mm
    study = studied("stand", card_thick=0.76 / 25.4)
    without = studied("stand")
    assert study.closed[2] - without.closed[2] == pytest.approx(0.76, abs=0.01)


def test_waterfall(studied: Maker) -> None:
    study = studied("waterfall", flap_width=4, flap_length=4, tab=0.5, base_length=7.75)
    solved = plan(study)["solved"]
    assert size_of(study, "waterfall.flap") == pytest.approx((4.0, 4.5, 8))
    assert scores(study, "waterfall.flap", "y") == [4.0]  # a tab of 1/2 behind it
    assert size_of(study, "waterfall.base")[:2] == pytest.approx((4.0, 7.75))
    assert (solved["mat-width"], solved["mat-height"]) == (3.875, 3.875)
    assert (solved["photo-width"], solved["photo-height"]) == (3.75, 3.75)
    assert solved["flaps"] == 8 and solved["margin"] == pytest.approx(0.25)  # 4 + 7·½ = 7½ on 7¾


def test_folio_with_two_of_seven_flaps_takes_thirty_mats(studied: Maker) -> None:
    study = studied("waterfall", flap_width=4, flap_length=4, flaps=7, base_length=7.75, mats="all")
    assert 2 * plan(study)["solved"]["mat-count"] == 30
    assert 2 * size_of(study, "waterfall.mat")[2] == 30
    assert sum(n.panel.name == "mat" for n in study.assembly.nodes) == 15


def test_folio_cover(studied: Maker) -> None:
    study = studied("board-cover", board_width=4.5, board_height=8.5, spine=0.75, gap=0.125, turn_in=1)
    assert size_of(study, "cover.cover")[:2] == pytest.approx((12.0, 10.5))
    assert size_of(study, "cover.board") == pytest.approx((4.5, 8.5, 2))
    assert scores(study, "cover.cover") == [1.0, 5.5, 5.625, 6.375, 6.5, 11.0]
    assert not study.has_clash
    assert studied("board-cover", board_width=4.5, board_height=8.5).current("cover", "gap") == pytest.approx(3.175)


def test_accordion_spine(studied: Maker) -> None:
    study = studied("accordion-spine", pages=5, pleat=0.5, height=5.75, page_width=4.375)
    solved = plan(study)["solved"]
    assert solved["panels"] == 12
    assert size_of(study, "spine.spine")[:2] == pytest.approx((6.0, 5.75))
    assert scores(study, "spine.spine") == [k / 2 for k in range(1, 12)]
    assert size_of(study, "spine.page") == pytest.approx((4.375, 5.75, 5))  # an A2 announcement envelope
    assert size_of(study, "spine.cover-front")[:2] == pytest.approx((5.0, 5.75))
    assert scores(study, "spine.cover-front") == [0.5]


def test_rosette_of_two_strips(studied: Maker) -> None:
    study = studied("rosette", strip_width=2, pleat=0.5, strips=2, strip_length=12)
    solved = plan(study)["solved"]
    assert (solved["each"], solved["panels"], solved["trim"]) == (24, 46, 0)
    assert 170 <= solved["fullness"] <= 220
    strips = [p for p in plan(study)["pieces"] if "strip" in p["id"]]
    assert (
        sum(round(p["width"] / 0.5) * p["quantity"] for p in strips) == 46 + 2
    )  # whole strips: each join takes a panel


def test_rosette_of_three_strips(studied: Maker) -> None:
    study = studied("rosette", strip_width=2.5, pleat=0.5, strips=3, strip_length=11, medallion=3)
    solved = plan(study)["solved"]
    # 3·22 panels less 3 joins are 63: odd, so one more is cut away
    assert (solved["each"], solved["panels"], solved["trim"]) == (22, 62, 1)
    assert 170 <= solved["fullness"] <= 220 and solved["medallion"] == 3.0


def test_printed_margin_takes_pleats(studied: Maker) -> None:
    plain = studied("rosette", strip_width=2, pleat=0.5, strips=2, strip_length=12)
    margin = studied("rosette", strip_width=2, pleat=0.5, strips=2, strip_length=12, print_margin=0.25)
    assert plan(plain)["solved"]["each"] - plan(margin)["solved"]["each"] == 1


def test_envelope_album(studied: Maker) -> None:
    study = studied("gusset-book", pages=5, page_width=4.25, page_height=6.25, page_kind="envelopes")
    solved = plan(study)["solved"]
    assert solved["gussets"] == pytest.approx(0.125)  # for all five together: every page has its share
    assert (solved["mat-width"], solved["mat-height"]) == (4.0, 6.0)
    assert 6.0 - solved["mat-width"] == 2.0  # what each 6 × 6 sheet leaves for pockets
    assert size_of(study, "book.page") == pytest.approx((4.25, 6.25, 5))


def test_belly_band(studied: Maker) -> None:
    study = studied("belly-band", over_width=5, over_thick=0.5, overlap=0.5, play=0.125)
    assert plan(study)["solved"]["strip"] == pytest.approx(2 * 5.5 + 0.5 + 0.125)
    assert not study.has_clash
    long = studied("belly-band", over_width=6, over_thick=1)
    assert [p["id"] for p in plan(long)["pieces"]] == ["band.band", "band.bridge"]
    assert not long.has_clash and long.closed[0] == pytest.approx(6.0 * 25.4, abs=2.0)


def test_ribbon_takes_nine_to_twelve_for_a_bow(studied: Maker) -> None:
    strip = plan(studied("ribbon", over_width=4, over_thick=0.5))["solved"]["strip"]
    assert 9 + 9 <= strip <= 9 + 12


def test_pocket_and_insert(studied: Maker) -> None:
    # inside = panel − the glued strips; insert ≤ inside − 1/8 across; a notch of 3/4 to 1 1/2
    study = studied("pocket", width=4, height=3, strip=0.25)
    solved = plan(study)["solved"]
    assert solved["tag-width"] == pytest.approx(4 - 0.5 - 0.125)
    assert 0.75 <= solved["notch"] <= 1.5


def test_hinge_over_contents(studied: Maker) -> None:
    # b1 + b2 + t apart, rounded up to the trimmer's sixteenth
    study = studied("hinge-strip", bulk_1=0.25, bulk_2=0.125)
    sized = study.resolved["strip"].sizes["spine"]
    assert sized.exact == pytest.approx(25.4 * 0.375 + 0.27)
    assert 0 <= sized.residual <= 25.4 / 16


def test_tier_wrap(studied: Maker) -> None:
    # panels b + play wide and N·h + play tall, one for each tray
    study = studied("tier-wrap", trays=4, width=2, height=1, play=0.0625, slack=0.125)
    solved = plan(study)["solved"]
    sheets = 2 * 0.27 / 25.4
    assert solved["panel"] == pytest.approx(2 + sheets + 0.0625, abs=1 / 16)
    assert solved["wrapper-height"] == pytest.approx(67 / 16)  # 4 + 4 t + 1/8, up to the trimmer's mark
    assert len(scores(study, "wrap.wrapper")) == 3


@pytest.mark.parametrize("k", range(16))
def test_a_strip_rolled_around_itself_lies_on_what_was_rolled_before(k: int) -> None:
    """A panel goes from the sheets on the side before it to those on the side after it, counted one by one."""
    before, after = (sum(1 for j in range(max(side, 0)) if j % 4 == side % 4) for side in (k - 1, k + 1))
    assert within_ends(k) == (before, after)


def test_drop_strap_is_the_chord(studied: Maker) -> None:
    # worked: both ends three quarters up a wall of 2, front fallen by 90°: √2 · 1.5
    study = studied("drop-front", height=2)
    assert plan(study)["solved"]["strap"] == pytest.approx(1.5 * math.sqrt(2), abs=1e-4)
    assert plan(study)["solved"]["reach"] == pytest.approx(2.0)


@pytest.mark.parametrize(
    ("kind", "given", "words", "remedy"),
    [
        ("waterfall", {"flap-length": 120.0, "base-length": 100.0}, "longer than its base", "Make the flap"),
        (
            "rosette",
            {"strip-width": 60.0, "strips": 1, "strip-length": 300.0},
            "too few to lie flat",
            "Join more strips",
        ),
        ("tier-wrap", {"trays": 6, "turns": 1}, "need 2 turns", "Set the turns to 2"),
        ("v-fold", {"spread": 70, "corner": 60}, "lie flat", "corner larger"),
        ("tent", {"foot": 60.0, "side": 40.0}, "too short to meet", "Make them longer"),
        ("stand", {"panel": 19.0, "foot": 25.0}, "too far apart", "nearer"),
        ("pocket", {"width": 20.0, "height": 20.0, "strip": 10.0}, "no pocket", "larger"),
        ("strap", {"from": 60.0, "to": 20.0, "free": 20.0}, "shorter than its ends", "at least"),
        ("drop-cascade", {"flaps": 16, "base-length": 60.0, "step": 10.0}, "do not fit", "fewer flaps"),
        ("tag", {"width": 30.0, "height": 60.0, "shoulder": 20.0}, "shoulders would meet", "Clip less"),
    ],
)
def test_bad_values_get_a_sentence_and_a_remedy(kind: str, given: dict[str, float], words: str, remedy: str) -> None:
    with pytest.raises(ParameterError, match=words) as caught:
        Study(start_design(kind, given))
    assert remedy in caught.value.remedy and caught.value.what.endswith(".")
    assert caught.value.element  # it is known whose it is


@pytest.mark.parametrize("kind", ["tier-wrap", "drop-ladder", "pull-waterfall", "gusset-book"])
def test_one_alone_is_none(kind: str) -> None:
    name = {"tier-wrap": "trays", "drop-ladder": "trays", "pull-waterfall": "flaps", "gusset-book": "pages"}[kind]
    with pytest.raises(ParameterError, match="out of bounds") as caught:
        start_design(kind, {name: 1})
    assert "It can be 2 to" in caught.value.remedy


def test_an_odd_ring_is_never_made() -> None:
    for each in range(5, 40):
        for strips in range(1, 6):
            given = {"strip-width": 20.0, "strips": strips, "pleat": 10.0, "strip-length": each * 10.0}
            try:
                study = Study(start_design("rosette", given))
            except ParameterError as error:
                assert "too few" in error.what
                continue
            panels = study.current("rosette", "panels") or 0
            assert panels % 2 == 0
            assert panels + (study.current("rosette", "trim") or 0) == strips * (each - 1)


def test_pop_up_past_the_edge_is_a_clash_with_a_remedy(studied: Maker) -> None:
    study = studied("floating-layer", page_width=4, out=2, up=2.125)
    clash = next(c for c in study.checks if c.is_clash)
    assert clash.gap.code == "inside-card" and clash.gap.value == pytest.approx(-0.125 * 25.4)
    cures = {cure.parameter for cure in remedies(study, clash)}
    assert {"up", "page-width"} <= cures
