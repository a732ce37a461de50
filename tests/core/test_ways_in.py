"""Structures from each way in: contents, size, sheet; lids over polygons; bands around; what the command line says."""

from __future__ import annotations

import json
import math
from itertools import pairwise
from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely import Polygon

from yawning_lantern.cli.main import main
from yawning_lantern.design import Element, Place, add_guest
from yawning_lantern.errors import LanternError, ParameterError, UnknownNameError
from yawning_lantern.fold import State, corners, cut_through, pose
from yawning_lantern.pattern.validity import faults
from yawning_lantern.structures import Family, families, start_design
from yawning_lantern.study import Study, fill_sheet
from yawning_lantern.study.ways_in import ways_in

from ..conftest import Maker, designed

T = 0.27  # mm: 216 g/m² at 1.25 cm³/g
BY_SHEET = sorted(
    k for k, f in families().items() if "sheet" in f.starts and not any(p.id == "sheet" for p in f.parameters)
)


@pytest.mark.parametrize("kind", BY_SHEET)
def test_the_sheet_is_filled_and_no_more(kind: str) -> None:
    side = 203.2
    design = fill_sheet(kind, {}, side)
    study = Study(design)
    assert not any(c.is_clash and c.gap.code != "sheet" for c in study.checks)
    own = [p for p in study.pieces if "not cut" not in p.note]
    largest = max(max(p.size) for p in own)
    assert largest <= side + 1e-6
    assert largest >= 0.9 * side  # as large as the trimmer's marks allow
    for piece in own:
        assert faults(piece) == ()


def test_what_is_given_stays_when_a_sheet_is_filled() -> None:
    design = fill_sheet("waterfall", {"flaps": 5, "tab": 10.0}, 150.0)
    study = Study(design)
    assert study.current("waterfall", "flaps") == 5 and study.current("waterfall", "tab") == 10.0
    assert study.current("waterfall", "base-length") == pytest.approx(150.0, abs=25.4 / 16)


def test_no_sheet_is_too_small_without_a_word() -> None:
    with pytest.raises(ParameterError, match=r"can be cut from a sheet of 0\.591″") as caught:
        fill_sheet("gate-bag", {}, 15.0)
    assert "larger sheet" in caught.value.remedy
    with pytest.raises(UnknownNameError):
        fill_sheet("gate-bags", {}, 150.0)


@pytest.mark.parametrize(
    ("kind", "given_", "holds"),
    [
        ("waterfall", {"content-width": 76.2, "content-height": 101.6}, ("flap-width", "flap-length")),
        ("pocket", {"content-width": 85.6, "content-height": 53.98}, ("tag-width", "tag-length")),
        ("accordion-spine", {"content-width": 111.1, "content-height": 146.0}, ("page-width", "height")),
        ("gusset-book", {"content-width": 108.0, "content-height": 158.8}, ("page-width", "page-height")),
        ("tier-wrap", {"content-width": 40.0, "content-height": 20.0}, ("width", "height")),
        ("drop-front", {"content-width": 60.0, "content-depth": 40.0, "content-height": 50.0}, ("width", "height")),
    ],
)
def test_contents_are_held(kind: str, given_: dict[str, float], holds: tuple[str, str]) -> None:
    study = Study(start_design(kind, given_))
    assert not study.has_clash
    element = study.design.root.id
    for name, content in zip(holds, (given_["content-width"], given_["content-height"]), strict=True):
        assert (study.current(element, name) or 0.0) >= content - 1e-6
        assert study.resolved[element].sizes[name].origin == "auto"


# -- polygons


@given(st.integers(5, 12), st.floats(30, 60), st.sampled_from(["snug", "easy", "loose"]))
@settings(max_examples=25)
def test_polygon_lids_go_on(sides: int, base: float, play: str) -> None:
    # independent: across the flats of both regular polygons, by trigonometry
    study = Study(start_design("explosion-box", {"sides": sides, "base": base, "wall": 40.0, "lid": play}))
    assert not study.has_clash
    top = study.current("lid", "top-width") or 0.0
    flats = [side / math.tan(math.pi / sides) for side in (base, top)]
    inside_lid = flats[1] - T - 2 * T  # half a sheet a side, and a tab inside every rim
    outside_box = flats[0] + T
    left = (inside_lid - outside_box) / 2
    # both sides together where sides are opposite, else each side for itself
    gaps = [c.gap.value for c in study.checks if c.gap.code == "lid"]
    assert gaps and all(g == pytest.approx(2 * left if sides % 2 == 0 else left, abs=1e-6) for g in gaps)
    assert left * 2 >= {"snug": 0.0, "easy": 25.4 / 16, "loose": 25.4 / 8}[play] - 1e-6
    lid = study.resolved["lid"].part.pieces[0]
    assert faults(lid) == ()
    walls = {n.panel.name: k for k, n in enumerate(study.assembly.nodes) if n.element == "lid"}
    heads = [corners(study.assembly.nodes[k], study.shut_frames[k]) for n, k in walls.items() if n.startswith("wall")]
    for k in range(sides):
        here, after = np.array(heads[k]), np.array(heads[(k + 1) % sides])
        # neighbouring rims meet along an edge: folded, the star closes
        near = min(np.linalg.norm(p - q) for p in here for q in after)
        assert near < 4 * T


def test_a_polygon_lid_has_no_double_rim() -> None:
    with pytest.raises(ParameterError, match="four sides"):
        Study(start_design("lid", {"sides": 6, "rim-kind": "double"}))


def test_lids_on_layers_of_a_hexagon_carry_a_rosette() -> None:
    design = start_design("explosion-box", {"sides": 6, "base": 60.0, "wall": 60.0, "layers": 3, "lid": "easy"})
    design = add_guest(design, "lid", Element("r", "rosette"), Place("top"))
    study = Study(design)
    assert not study.has_clash and len(study.resolved) == 5
    across = study.current("r", "diameter") or 0.0
    assert across < 2 * (study.current("lid", "top-width") or 0.0)


# -- around


@pytest.mark.parametrize("kind", ["explosion-box", "accordion-spine", "board-cover", "gusset-book"])
@pytest.mark.parametrize("band", ["belly-band", "ribbon"])
def test_bands_go_around_the_whole_thing(kind: str, band: str) -> None:
    plain = Study(start_design(kind, {}))
    root = plain.design.root.id
    design = add_guest(plain.design, root, Element("band", band), Place("around"))
    study = Study(design)
    assert not study.has_clash
    host = study.resolved[root].rooms["around"]
    assert host.height is not None
    assert study.current("band", "over-thick") == pytest.approx(host.height.value)
    # the band's panels stand outside the thing on every side
    nodes = [(n, f) for n, f in zip(study.assembly.nodes, study.shut_frames, strict=True) if n.element == "band"]
    xs = [p[0] for n, f in nodes if not n.panel.name.startswith("tail") for p in corners(n, f)]
    wide = sum(side.reach.value for side in host.sides)
    assert max(xs) - min(xs) >= wide - 2 * T
    # and it comes off before anything else moves
    assert study.assembly.motions[0].element == "band"


def test_bulk_lengthens_the_band(studied: Maker) -> None:
    def strip(extra: float) -> float:
        book = start_design("accordion-spine", {"pages": 3})
        book = add_guest(
            book,
            "spine",
            Element("gem", "photo", "", {"thick": extra, "width": 20.0, "height": 20.0}),
            Place("cover-front"),
        )
        study = Study(add_guest(book, "spine", Element("band", "belly-band"), Place("around")))
        return study.current("band", "strip") or 0.0

    assert strip(5.0) - strip(1.0) == pytest.approx(8.0, abs=25.4 / 16)  # front and back edge, twice the bulk


def test_no_band_goes_around_what_is_glued_down() -> None:
    design = add_guest(
        designed("tray", width=6, depth=6, height=2), "tray", Element("book", "gusset-book"), Place("floor")
    )
    with pytest.raises(LanternError, match="offers nothing"):
        Study(add_guest(design, "book", Element("band", "belly-band"), Place("around")))


# -- sections


def test_a_section_shows_every_sheet_of_a_stack(studied: Maker) -> None:
    study = studied("accordion-spine", pages=4)
    cuts = study.section(1, 0.4)
    at_page = 30.0  # beyond the pleats, where covers and pages lie
    heights = sorted(
        np.mean([z for _, z in cut.corners])
        for cut in cuts
        if min(x for x, _ in cut.corners) < at_page < max(x for x, _ in cut.corners)
    )
    assert len(heights) == 6  # two covers and four pages
    assert all(b - a >= 2 * T for a, b in pairwise(heights))


def test_sections_of_bent_sheets_lie_on_the_pleats(studied: Maker) -> None:
    study = studied("rosette")
    ring = study.current("rosette", "diameter") or 0.0
    cuts = cut_through(study.assembly, study.shut_facets, 1, 0.4)
    nodes = study.assembly.nodes
    pleats = [c for c in cuts if nodes[c.node].panel.name.startswith("pleat")]
    assert pleats
    thick = study.current("rosette", "hub-thick") or 0.0
    for cut in pleats:
        for x, z in cut.corners:
            assert abs(x) <= ring / 2 + 1 and -1 <= z <= thick + 4 * T


def test_opening_is_continuous(studied: Maker) -> None:
    # no panel jumps: a hundredth of the opening moves nothing by more than a fair share of its size
    for kind in ("gate-bag", "v-fold", "box-card", "accordion-spine", "tier-wrap"):
        study = studied(kind)
        n = len(study.assembly.motions)
        before = None
        for k in range(101):
            states = tuple(min(1.0, max(0.0, k / 100 * n - m)) for m in range(n))
            now = np.array([f[9:] for f in pose(study.assembly, State(1.0, states))])
            if before is not None:
                assert np.abs(now - before).max() < 40, (kind, k)
            before = now


# -- the command line


def run(capsys: pytest.CaptureFixture[str], *arguments: str) -> tuple[int, dict[str, Any], str]:
    code = main(["plan", *arguments, "--json"])
    out, err = capsys.readouterr()
    return code, json.loads(out) if out else {}, err


@pytest.mark.parametrize("kind", sorted(families()))
def test_every_structure_is_planned_from_its_size(kind: str, capsys: pytest.CaptureFixture[str]) -> None:
    code, plan, _ = run(capsys, "--family", kind, "--from", "size")
    assert code == 0 and plan["pieces"] and plan["solved"]
    for piece in plan["pieces"]:
        shape = Polygon(piece["outline"], piece["holes"])
        assert shape.is_valid and shape.area > 0
        x0, y0, x1, y1 = shape.bounds
        assert (x1 - x0, y1 - y0) == pytest.approx((piece["width"], piece["height"]), abs=1e-4)
    assert all(fit["verdict"] != "clash" for fit in plan["fits"])


def test_a_sheet_is_given_on_the_command_line(capsys: pytest.CaptureFixture[str]) -> None:
    code, plan, _ = run(capsys, "--family", "tent", "--from", "sheet", "--set", "sheet=6")
    assert code == 0
    assert max(max(p["width"], p["height"]) for p in plan["pieces"]) == pytest.approx(6.0, abs=0.2)
    assert main(["plan", "--family", "photo", "--from", "sheet"]) == 2
    assert "cannot be solved from its sheet" in capsys.readouterr().err


def test_findings_are_in_the_plan(capsys: pytest.CaptureFixture[str]) -> None:
    _, plan, _ = run(capsys, "--family", "v-fold")
    assert plan["findings"][0]["code"] == "slack" and "asks the paper to give" in plan["findings"][0]["text"]
    code, plan, _ = run(capsys, "--family", "box-card", "--set", "left-depth=2.5", "--set", "box-depth=2")
    assert code == 1
    assert plan["findings"][0]["code"] == "crooked" and 0 <= plan["findings"][0]["at"] <= 1


def test_bad_values_end_with_a_sentence(capsys: pytest.CaptureFixture[str]) -> None:
    for arguments, words in (
        (("--family", "waterfall", "--set", "flap-length=8", "--set", "base-length=6"), "longer than its base"),
        (("--family", "tier-wrap", "--set", "trays=1"), "It can be 2 to 12"),
        (("--family", "rosette", "--set", "strip-width=3", "--set", "strips=1"), "too few to lie flat"),
        (("--family", "floating-layer", "--set", "outward=2"), "Did you mean out"),
    ):
        assert main(["plan", *arguments]) == 2
        assert words in capsys.readouterr().err


@pytest.mark.parametrize("kind", sorted(families()))
def test_what_a_way_in_asks(kind: str) -> None:
    """Contents ask for contents, the size for the first measures that are the maker's, the sheet for its side and one
    measure beside it; what must be known is asked for."""
    own = families()[kind]
    declared = [p.id for p in own.parameters]
    maker = [p.id for p in own.parameters if p.kind in ("length", "count") and not p.structural and not p.derived]
    maker = [name for name in maker if not name.startswith("content-") and name != "sheet"]
    assert tuple(way.start for way in ways_in(own)) == own.starts
    for way in ways_in(own):
        asked = [p.id for p in way.fields]
        assert set(way.needed) <= set(asked) and len(set(asked)) == len(asked)
        if way.start == "contents":
            assert asked == [n for n in declared if n.startswith("content-") and n != "content-play"]
            wanted = ("content-width", "content-height")[: 1 if own.relation == "over" else 2]
            assert way.needed == tuple(name for name in wanted if name in declared)
        elif way.start == "size":
            assert 1 <= len(asked) <= 4 and way.needed == ()
            assert asked == maker_first(own, len(asked))
        else:
            assert asked[0] == "sheet" == way.needed[0] and len(asked) <= 2
            assert set(asked[1:]) <= set(own.headline) & set(maker)


def maker_first(own: Family, count: int) -> list[str]:
    """The first measures of a family that a maker gives, those of contents, sheet and what is worked out left off."""
    return [
        p.id for p in own.parameters
        if p.kind in ("length", "count") and not p.structural and not p.derived
        and p.group not in ("Contents", "Sheet", "Worked out")
    ][:count]  # fmt: skip


@pytest.mark.parametrize(("thick", "play", "edge"), [(0.1, 0.0, 0.5), (0.1, 4.0, 1.1), (6.0, 0.0, 6.0)])
def test_a_band_around_next_to_nothing_still_has_edges(thick: float, play: float, edge: float) -> None:
    """Half a millimetre at least between its scores; else as thick as the thing and a quarter of the play."""
    study = Study(start_design("belly-band", {"over-width": 100.0, "over-thick": thick, "play": play}))
    places = sorted({round(line.start[0], 6) for line in study.pieces[0].lines if line.kind == "score"})
    assert places[1] - places[0] == pytest.approx(edge, abs=1e-3)
