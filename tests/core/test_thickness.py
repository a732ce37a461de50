"""Told thickness against what lies straight down, books by the faces that meet, every piece against its sheet, contents
against a size that was given beside them."""

from __future__ import annotations

import math
from itertools import pairwise

import numpy as np
import pytest
from msgspec.structs import replace

from yawning_lantern.cli.main import main
from yawning_lantern.design import Element, Place, add_guest, set_stock, set_value
from yawning_lantern.errors import LanternError
from yawning_lantern.exchange.design_file import read_design
from yawning_lantern.structures import families, start_design
from yawning_lantern.study import Study

from ..conftest import DEMO, Maker, designed
from ..plain_hosts import bulky, takers
from .test_contracts import forms
from .test_stacks import with_mats
from .test_structures import corners, on_a_sheet, span_of

T = 0.27  # mm: 216 g/m² at 1.25 cm³/g
PRESSED = (
    "box-card", "waterfall", "drop-cascade", "flap", "accordion-spine", "floating-layer", "tent", "v-fold", "stand",
    "gate-bag", "mat", "photo", "tag", "pocket", "strap",
)  # fmt: skip
"""What lies sheet on sheet when shut. The others hold air that they name: walls, pleats, gussets, play."""


def straight_down(study: Study) -> float:
    """The most paper in one place over the sheet that all lies on, mm."""
    return study.bulk.thickest - study.resolved["mat"].final.paper.caliper


@pytest.mark.parametrize("kind", PRESSED)
def test_no_sheet_is_told_that_does_not_lie_there(kind: str) -> None:
    study = on_a_sheet(kind)
    need = study.resolved["g"].need
    assert need.height is not None
    assert need.height.value == pytest.approx(straight_down(study), abs=0.02)


@pytest.mark.parametrize(
    "kind",
    [k for k, f in families().items() if f.relation in ("onto", "inside") and takers(k)[0][0] in ("mat", "tray")],
)
def test_what_lies_there_is_told_with_mats_on_every_face(kind: str) -> None:
    host = start_design("mat", {"width": 250.0, "height": 290.0})
    dressed = with_mats(start_design(kind, {})).root
    there = Study(add_guest(host, "mat", Element("g", kind), Place("face"))).resolved["g"].rooms
    guests = tuple(g for g in dressed.guests if g.place and g.place.face in there)  # what lies on it hides its back
    own = replace(dressed, id="g", guests=guests)
    study = Study(add_guest(host, "mat", own, Place("face")))
    need = study.resolved["g"].need
    assert need.height is not None and need.height.value >= straight_down(study) - 0.02


def test_sheets_of_the_pop_ups_by_hand(studied: Maker) -> None:
    # two pages, two panels between them; a V has its tabs under its panels; a bag two walls, a gusset of two, its seam
    # and two bands; a box card its walls and a strip on its tab
    sheets = {"floating-layer": 4, "tent": 4, "stand": 4, "v-fold": 6, "gate-bag": 9, "box-card": 4}
    for kind, count in sheets.items():
        study = studied(kind)
        assert study.bulk.most == count and study.closed[2] == pytest.approx(count * T, abs=0.02), kind


def test_play_of_a_pulled_strip_counts_once_and_the_holder_lets_all_flaps_pass(studied: Maker) -> None:
    # base, strip, holder, strip and eight flaps; the strip's play is a sheet
    study = studied("pull-waterfall", flaps=8, base_length=12, flap_length=5, step=0.5)
    assert study.closed[2] == pytest.approx((4 + 8 + 1) * T, abs=0.02)
    (behind,) = [c for c in study.checks if "turned flaps" in c.gap.between[1]]
    assert not behind.is_clash
    # an arc of a circle, worked by Newton: 9 sheets behind a strip over 4 in
    across, high = 101.6, 9 * T
    radius = (across * across / 4 + high * high) / (2 * high)
    arc = 2 * radius * math.asin(across / 2 / radius)
    slack = study.current("waterfall", "slack") or 0.0
    assert slack >= arc - across
    tight = Study(set_value(study.design, "waterfall", "slack", (arc - across) * 0.7))
    assert any(c.is_clash and "turned flaps" in c.gap.between[1] for c in tight.checks)


@pytest.mark.parametrize("adhesive", ["wet-glue", "tape-3", "foam-1"])
def test_what_lies_beneath_flaps_lifts_them_by_what_it_is_thicker_than_their_tabs(adhesive: str) -> None:
    design = replace(start_design("waterfall", {}), adhesive=adhesive)
    bare, layer = Study(design), Study(design).catalogue.adhesive(adhesive).thickness
    assert bare.closed[2] == pytest.approx(6 * T + layer)  # base, tab and four flaps, glued once
    design = add_guest(design, "waterfall", Element("mat", "mat"), Place("base"))
    for stock, more in (("card-216", 0.0), ("chipboard-2", 2.0 - T)):  # it is glued as the tabs are
        study = Study(set_stock(design, "mat", stock))
        height = study.resolved["waterfall"].need.height
        assert height is not None and height.value == pytest.approx(6 * T + layer + more, abs=1e-6)
        assert study.closed[2] == pytest.approx(6 * T + layer + more, abs=1e-6)


@pytest.mark.parametrize("trays", [2, 3, 4, 5, 8])
def test_a_lid_on_a_tier_wrap_takes_play_once(trays: int) -> None:
    design = start_design("tier-wrap", {"trays": trays})
    study = Study(add_guest(design, design.root.id, Element("lid", "lid"), Place("mouth")))
    lo, hi = span_of(study, design.root.id)
    lid_lo, lid_hi = span_of(study, "lid")
    assert not [c for c in study.checks if c.is_clash and c.gap.code != "sheet"]
    for axis in (0, 1):
        # round the column: two sheets and two tabs of the lid, its play of 1/16, and twice the trimmer's 1/16 at most
        spare = (lid_hi[axis] - lid_lo[axis]) - (hi[axis] - lo[axis])
        assert 0 < spare < 4 * T + 3 * 25.4 / 16 + 0.3
        middle = (lid_hi[axis] + lid_lo[axis]) / 2
        assert middle == pytest.approx((hi[axis] + lo[axis]) / 2, abs=0.15)  # it sits amid what it covers


@pytest.mark.parametrize(
    ("kind", "face", "given"),
    [
        ("accordion-spine", "cover-back", {}),
        ("board-cover", "back", {}),
        ("board-cover", "back", {"liner": "two"}),
        ("gusset-book", "page-1-back", {}),
        ("gusset-book", "page-1-back", {"binding": "own flaps"}),
    ],
)
def test_a_book_stands_on_what_dresses_its_back_and_a_band_goes_around_both(
    kind: str, face: str, given: dict[str, float | str]
) -> None:
    book = start_design(kind, given)
    thick = 3.0
    gem = Element("gem", "photo", "", {"thick": thick, "width": 20.0, "height": 20.0})
    dressed = add_guest(book, book.root.id, gem, Place(face))
    bare, study = Study(book), Study(dressed)
    # it lies lowest, on the ground, and the whole book is higher by it (and its glue)
    assert low_of(study, "gem") == pytest.approx(thick / 2, abs=0.02)
    risen = low_of(study, book.root.id) - low_of(bare, book.root.id)
    assert risen == pytest.approx(thick, abs=0.1)
    assert study.closed[2] - bare.closed[2] == pytest.approx(risen, abs=0.02)
    assert not study.has_clash
    band = Study(add_guest(dressed, book.root.id, Element("band", "belly-band"), Place("around")))
    assert not [c for c in band.checks if c.is_clash and "band" in (c.gap.element, c.gap.host)]
    assert low_of(band, "band") < low_of(band, "gem") - thick / 2 + 0.01


def low_of(study: Study, element: str) -> float:
    """The lowest middle of one thing's panels that lie flat, mm."""
    nodes = zip(study.assembly.nodes, study.shut_frames, strict=True)
    found = [np.array(corners(n, f))[:, 2] for n, f in nodes if n.element == element]
    return min(float(z.mean()) for z in found if np.ptp(z) < 0.01)


@pytest.mark.parametrize(("trays", "turns"), [(2, 1), (3, 1), (4, 1), (5, 2), (8, 2), (9, 3)])
def test_what_dresses_a_wrapper_outside_lies_under_the_lid(trays: int, turns: int) -> None:
    bare = start_design("tier-wrap", {"trays": trays, "turns": turns})
    last = 4 * turns if turns > 1 else trays  # the wrapper's last panel; only its last four are seen when it is rolled
    design = bare
    for k in range(max(last - 3, 1), last + 1):
        design = add_guest(
            design,
            bare.root.id,
            Element(f"m{k}", "photo", "", {"thick": 1.5, "width": 20.0, "height": 20.0}),
            Place(f"panel-{k}-outside"),
        )
    design = add_guest(design, bare.root.id, Element("lid", "lid"), Place("mouth"))
    study = Study(design)
    assert not [c for c in study.checks if c.is_clash and c.gap.code != "sheet"]
    # every photo lies beyond every panel that faces its way, and the lid's rim beyond it (thickness counted by hand)
    nodes = zip(study.assembly.nodes, study.shut_frames, strict=True)
    faces = [(node.element, np.array(corners(node, frame))) for node, frame in nodes]
    middle = (np.array(span_of(study, bare.root.id)[0]) + np.array(span_of(study, bare.root.id)[1])) / 2
    for name, photo in faces:
        if not name.startswith("m"):
            continue
        (axis,) = [a for a in (0, 1) if np.ptp(photo[:, a]) < 0.1]
        at = float(photo[:, axis].mean() - middle[axis])

        def beyond(element: str, axis: int = axis, sign: float = math.copysign(1.0, at)) -> float:
            upright = [p for who, p in faces if who == element and np.ptp(p[:, axis]) < 0.1]
            return max(sign * float(p[:, axis].mean() - middle[axis]) for p in upright)

        assert abs(at) - 1.5 / 2 >= beyond(bare.root.id) + T / 2 - 0.01
        assert beyond("lid") - T / 2 >= abs(at) + 1.5 / 2


def test_tails_and_bows_count(studied: Maker) -> None:
    plain, tailed = studied("rosette", diameter=4), studied("rosette", diameter=4, tails=3)
    assert tailed.closed[2] - plain.closed[2] == pytest.approx(3 * T)  # three tails cross in the middle
    assert tailed.closed[1] > plain.closed[1] + 10
    ribbon = studied("ribbon", over_width=4, over_thick=0.5)
    assert ribbon.closed[0] < 4 * 25.4 + 3  # the bow lies over the front, not beside it
    need = ribbon.resolved["ribbon"].need
    at = {n.panel.name: f[11] for n, f in zip(ribbon.assembly.nodes, ribbon.shut_frames, strict=True)}
    assert need.height is not None and len([name for name in at if "tail" in name]) == 3
    assert need.height.value == pytest.approx(at["tail-3"] - at["front"] + 0.25, abs=0.6)


# -- books


def with_photos(kind: str, faces: tuple[str, ...], thick: float = 2.0, **given: float | str) -> Study:
    design = designed(kind, **given)
    for k, face in enumerate(faces):
        design = add_guest(design, design.root.id, Element(f"p{k}", "photo", "", {"thick": thick}), Place(face))
    return Study(design)


@pytest.mark.parametrize(
    ("kind", "faces", "setting"),
    [
        ("gusset-book", ("page-2-front", "page-3-back"), "gusset"),
        ("accordion-spine", ("page-2-recto", "page-3-verso"), "hill-top"),
    ],
)
def test_two_photos_that_meet_need_the_room_of_both(kind: str, faces: tuple[str, str], setting: str) -> None:
    study = with_photos(kind, faces)
    assert not study.has_clash
    pages = sorted(
        f[11] for n, f in zip(study.assembly.nodes, study.shut_frames, strict=True) if n.panel.name == "page"
    )
    assert pages[2] - pages[1] >= 4.0 + T
    root = study.design.root.id
    tight = Study(set_value(study.design, root, setting, 2.2))
    told = [c for c in tight.checks if c.is_clash and c.gap.code == "spine"]
    assert told and "meet" in told[0].gap.between[1]
    # the same two on the faces of one leaf meet nothing but bare paper
    other = {"page-3-back": "page-2-back", "page-3-verso": "page-2-verso"}
    apart = with_photos(kind, (faces[0], other[faces[1]]))
    assert (apart.current(root, setting) or 0.0) < (study.current(root, setting) or 0.0)


@pytest.mark.parametrize(
    ("kind", "holds", "setting", "begin"),
    [("accordion-spine", "page-bulk", "hill-top", 1.3), ("board-cover", "content-height", "spine", 6.2)],
)
def test_a_book_is_as_thick_as_it_must_be(kind: str, holds: str, setting: str, begin: float) -> None:
    """A mark of the trimmer less, and what it holds does not go in."""
    for k in range(40):
        given: dict[str, float | str] = {holds: begin + 0.11 * k}
        study = Study(start_design(kind, given))
        mark = study.resolved[study.design.root.id].sizes[setting].length - 25.4 / 16
        less = Study(start_design(kind, {**given, setting: mark}))
        least, short = (min(c.gap.value for c in s.checks if c.gap.code == "spine") for s in (study, less))
        assert short < 0 <= least < 25.4 / 16, (given, mark)


def test_what_lies_inside_the_covers_meets_the_outer_pages() -> None:
    study = with_photos("accordion-spine", ("cover-inside", "page-5-recto"))
    assert not study.has_clash
    at = {n.instance: f[11] for n, f in zip(study.assembly.nodes, study.shut_frames, strict=True)
          if n.panel.name in ("page", "board")}  # fmt: skip
    assert at["front"] - at["page-5"] >= 4.0 + T - 0.01


@pytest.mark.parametrize(
    ("face", "parts"),
    [("back-inside", False), ("page-1-verso", False), ("page-1-recto", True), ("page-2-verso", True),
     ("page-4-recto", True), ("page-5-verso", True), ("page-5-recto", False), ("cover-inside", False)],
)  # fmt: skip
def test_pages_of_an_accordion_are_parted_by_what_lies_between_two(face: str, parts: bool) -> None:
    """What lies between a page and a cover is no page's: of five, four spaces lie between two pages."""
    bare, laden = (with_photos("accordion-spine", faces) for faces in ((), (face,)))
    before, after = (s.resolved[s.design.root.id].sizes["page-bulk"].length for s in (bare, laden))
    assert after - before == pytest.approx(2.0 if parts else 0.0)


def test_five_thin_pages_make_a_thin_book(studied: Maker) -> None:
    # about 1/8 for the hinges of five thin pages together (common practice, no source), and the pages and tabs
    cut, bought = studied("gusset-book", pages=5), studied("gusset-book", pages=5, page_kind="envelopes")
    assert cut.closed[2] < 25.4 / 8 + 5 * T + 4 * 2 * T
    assert bought.closed[2] < 25.4 / 8 + 15 * T + 4 * 2 * T < 0.5 * 25.4


@pytest.mark.parametrize(
    ("kind", "given"),
    [
        ("waterfall", {"flap_width": 2.0, "content_width": 12.0}),
        ("waterfall", {"base_width": 2.0, "content_width": 12.0}),
        ("accordion-spine", {"page_width": 3.0, "content_width": 5.0}),
        ("accordion-spine", {"height": 4.0, "content_height": 6.0}),
        ("accordion-spine", {"cover_width": 4.0, "content_width": 5.0}),
        ("gusset-book", {"page_height": 4.0, "content_height": 6.0}),
        ("mat", {"width": 2.0, "content_width": 3.0}),
        ("lid", {"over_width": 2.0, "content_width": 3.0}),
        ("pocket", {"width": 2.0, "content_width": 3.0}),
        ("explosion-box", {"base": 2.0, "content_width": 3.0}),
        ("tray", {"width": 2.0, "content_width": 3.0}),
        ("tier-wrap", {"width": 2.0, "content_width": 3.0}),
        ("drop-front", {"height": 1.0, "content_height": 3.0, "content_width": 1.0}),
        ("board-cover", {"spine": 0.25, "content_height": 1.0}),
    ],
)
def test_contents_beside_a_size_that_is_too_small_are_told(studied: Maker, kind: str, given: dict[str, float]) -> None:
    assert studied(kind, **given).has_clash


def test_what_lies_flat_between_walls_has_to_go_in() -> None:
    box = designed("tray", width=4, depth=4, height=1)
    inside = 4 * 25.4 - T - 2 * T  # between the walls; front to back the tabs take a sheet each
    for width, verdict, fine in (
        (inside + 0.2, "clash", False),
        (inside, "tight", False),
        (inside - 1.0, "easy", True),
    ):
        photo = Element("p", "photo", "", {"width": 60.0, "height": width, "thick": 0.25})
        study = Study(add_guest(box, "tray", photo, Place("floor")))
        (found,) = [c for c in study.checks if c.gap.code == "floor" and c.gap.where == "front to back"]
        assert (found.verdict, found.is_fine) == (verdict, fine)
    loose = add_guest(box, "tray", Element("p", "photo"), Place("floor"))
    assert not Study(loose).has_clash


# -- sheets


@pytest.mark.parametrize("kind", sorted(families()))
def test_every_piece_that_is_cut_is_held_against_its_sheet(kind: str) -> None:
    for study in (Study(start_design(kind, {})), Study(with_mats(start_design(kind, {})))):
        told = {c.gap.between[0] for c in study.checks if c.gap.code == "sheet"}
        assert {p.name for p in study.pieces if not p.bought} == told
        for piece in study.pieces:
            sheet = piece.stock.sheet
            w, h = piece.size
            fits = min(
                max(w - sheet.usable_width, h - sheet.usable_height),
                max(h - sheet.usable_width, w - sheet.usable_height),
            )
            checks = [c for c in study.checks if c.gap.code == "sheet" and c.gap.between[0] == piece.name]
            assert piece.bought or min(c.gap.value for c in checks) <= -fits + 1e-6


@pytest.mark.parametrize(
    "words",
    [
        "--family gate-bag --set page-width=6in --set page-height=11in",
        "--family tier-wrap --set trays=2 --set width=5.75in --set height=4in",
    ],
)
def test_a_piece_that_no_sheet_holds_ends_with_1(words: str, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["plan", *words.split()]) == 1
    assert "Sheet holds piece" in capsys.readouterr().out


def test_equal_mats_are_one_row_with_their_number() -> None:
    study = Study(read_design(DEMO.with_name("comet-night-set.lantern")))
    keys = [(p.name, p.outline, p.stock.id, p.lines) for p in study.pieces]
    assert len(set(keys)) == len(keys)
    every = [p for r in study.resolved.values() for p in r.part.pieces]
    assert sum(p.quantity for p in study.pieces) == sum(p.quantity for p in every)
    assert sorted(i for p in study.pieces for i in study.copies(p)) == sorted(p.id for p in every)


@pytest.mark.parametrize("kind", sorted(families()))
def test_a_piece_lies_against_the_fence_as_it_is_built(kind: str) -> None:
    for r in Study(start_design(kind, {})).resolved.values():
        for piece in r.part.pieces:
            laid = piece.laid
            assert min(p[0] for p in laid.outline) == pytest.approx(0) and min(
                p[1] for p in laid.outline
            ) == pytest.approx(0)
            assert laid.size == pytest.approx(piece.size) and len(laid.lines) == len(piece.lines)
            for a, b in zip(piece.lines, laid.lines, strict=True):
                assert math.dist(a.start, a.end) == pytest.approx(math.dist(b.start, b.end))


SHUT = {"wide": 0, "thick": 2}
"""Sizes that are worked out of the shut thing, and along which axis they are measured."""


@pytest.mark.parametrize(
    "kind",
    [name for name, kind in sorted(families().items()) if {p.id for p in kind.parameters if p.derived} & {*SHUT}],
)
def test_sizes_told_of_the_shut_thing_are_those_measured(kind: str) -> None:
    for given in ({}, *forms(kind)):
        try:
            thin = start_design(kind, given)
            studies = [Study(thin), Study(bulky(thin))]
        except LanternError:
            continue
        for study in studies:
            r = study.resolved[study.design.root.id]
            for p in r.family.parameters:
                if p.id in SHUT and p.derived and p.id in r.sizes:
                    assert r.sizes[p.id].length == pytest.approx(study.closed[SHUT[p.id]], abs=0.15), (given, p.label)


@pytest.mark.parametrize("sides", [4, 6, 8])
@pytest.mark.parametrize("thick", [False, True])
def test_a_rim_goes_between_the_tabs_inside_the_walls(sides: int, thick: bool) -> None:
    """Half the play is left all round, sheets and glue of the tabs taken off: measured square to the walls of the
    folded thing."""
    host = start_design("prism", {"side": 50.0, "height": 60.0, "sides": sides})
    design = add_guest(host, host.root.id, Element("g", "roof"), Place("mouth"))
    study = Study(bulky(design) if thick else design)
    upright = [
        (node.element, node.instance, np.mean(corners(node, frame), axis=0), np.array(frame[6:9]))
        for node, frame in zip(study.assembly.nodes, study.shut_frames, strict=True)
        if abs(frame[8]) < 0.1
    ]
    rim = [(middle, normal) for element, instance, middle, normal in upright if element == "g" and "rim" in instance]
    walls = [(middle, normal) for element, _, middle, normal in upright if element != "g"]
    axis, t = np.mean([middle for middle, _ in rim], axis=0), study.resolved["g"].final.paper.caliper
    outer = max(abs((middle - axis) @ normal) for middle, normal in rim) + t / 2
    inner = min(abs((middle - axis) @ normal) for middle, normal in walls) - t / 2
    play = study.resolved["g"].sizes["play"].length
    assert len(rim) == sides and inner - outer == pytest.approx(play / 2, abs=0.15 * t)


@pytest.mark.parametrize(("sides", "storey"), [(6, 10.0), (6, 30.0), (8, 14.0), (4, 12.0)])
def test_ledges_leave_half_of_a_storey_open(sides: int, storey: float) -> None:
    """Each takes a quarter of the way across at most: measured in the folded thing."""
    design = start_design("roof", {"sides": sides, "side": 60.0, "storey": storey})
    study = Study(design)
    ledges = [
        np.array(corners(node, frame))[:, :2]
        for node, frame in zip(study.assembly.nodes, study.shut_frames, strict=True) if "ledge" in node.panel.name
    ]  # fmt: skip
    assert len(ledges) == sides
    axis = np.mean(np.concatenate(ledges), axis=0)
    apothem = storey / 2 / math.tan(math.pi / sides)
    nearest = min(float(np.linalg.norm((a + b) / 2 - axis)) for c in ledges for a, b in pairwise((*c, c[0])))
    assert nearest >= apothem / 2 - 1.0
