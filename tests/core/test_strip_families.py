"""Envelope fold, angled album, strip album and pocket folio: check values, and distances taken from the posed panels by
numpy and shapely, not from what the families add up."""

from __future__ import annotations

import random
from itertools import pairwise

import numpy as np
import pytest
from shapely.geometry import Polygon

from yawning_lantern.errors import LanternError, ParameterError
from yawning_lantern.fold import State, corners, pose
from yawning_lantern.measure import inches
from yawning_lantern.structures import start_design
from yawning_lantern.study import Study, opening_of
from yawning_lantern.study.at_bench import plan_bench
from yawning_lantern.study.opened import opening_in_order
from yawning_lantern.study.resolve import Resolved

COUNTS = {"leaves", "pages"}


def made(kind: str, **given: float | str) -> tuple[Study, Resolved]:
    """A structure; numbers in inches but for counts."""
    told = {
        name.replace("_", "-"): value if name in COUNTS or isinstance(value, str) else inches(value)
        for name, value in given.items()
    }
    study = Study(start_design(kind, told))
    return study, study.resolved[study.design.root.id]


def placed(study: Study, state: State | None = None) -> dict[tuple[str, str], np.ndarray]:
    """Corners of every panel when it is shut, or in another state, by instance and panel, mm."""
    frames = study.shut_frames if state is None else pose(study.assembly, state)
    return {
        (node.instance, node.panel.name): np.array(corners(node, frame))
        for node, frame in zip(study.assembly.nodes, frames, strict=True)
    }


def level(points: np.ndarray) -> float:
    assert np.ptp(points[:, 2]) < 0.05
    return float(points[:, 2].mean())


def over(points: np.ndarray) -> Polygon:
    return Polygon(points[:, :2])


# -- angled album: two sheets of 12 in halves, scored at 6, mark 2 (common practice, no source)


def test_an_album_of_two_sheets_has_four_leaves_and_three_pockets() -> None:
    _, r = made("angled-album")
    assert [(p.quantity, *p.size) for p in r.part.pieces] == [(2, inches(12), inches(6))] * 2
    assert len(r.part.pockets) == 3 and r.sizes["wedge"].length == pytest.approx(inches(4))
    for piece in r.part.pieces:  # what is cut off is a triangle of 6 by 4
        wedge = Polygon(piece.outline).envelope.difference(Polygon(piece.outline))
        assert wedge.area == pytest.approx(inches(6) * inches(4) / 2)
        ring = list(wedge.exterior.coords)
        sides = sorted(np.hypot(a[0] - b[0], a[1] - b[1]) for a, b in pairwise(ring))
        assert sides[:2] == pytest.approx([inches(4), inches(6)])
    right, left = (p.panel("slant").centre[0] > p.panel("whole").centre[0] for p in r.part.pieces)
    assert right and not left


def test_its_glue_runs_along_three_edges_of_what_lies_below() -> None:
    """Edges of 2, 6 and 6, a strip of 1/4, in every one of the three pockets; the slant stays open."""
    study, r = made("angled-album")
    at, strip = placed(study), inches(1 / 4)
    joints = [j for j in r.part.joints if j.spots]
    assert len(joints) == 3
    for joint in joints:
        area = sum(Polygon(spot).area for spot in joint.spots)
        # the strips along 2, 6 and 6 less what they share at two corners, and less a sliver under the slant
        assert area == pytest.approx(strip * (inches(2) + 2 * inches(6)) - 2 * strip**2, rel=0.02)
        page, slant = over(at[joint.a]), over(at[joint.b])
        assert page.buffer(0.1).contains(slant)
        assert level(at[joint.a]) - level(at[joint.b]) == pytest.approx(study.pieces[0].stock.caliper, abs=0.2)


def test_leaves_are_glued_with_their_folds_on_either_side_in_turn() -> None:
    study, _ = made("angled-album", leaves=6)
    sides = []
    for node in study.assembly.nodes:
        if node.panel.name == "slant":
            crease = node.piece.creases[0]
            frame = study.shut_frames[study.assembly.nodes.index(node)]
            x = frame[0] * crease.start[0] + frame[3] * crease.start[1] + frame[9]
            sides.append(round(float(x)))
    assert len(set(sides)) == 2 and sides == [sides[0], sides[1]] * 3
    opening = opening_of(study)
    assert opening.works and len(opening.steps) == 6


@pytest.mark.parametrize(
    ("given", "words"),
    [
        ({"leaves": 3}, "2 right-handed and 1 left-handed"), ({"mark": 5.9}, "no slant"), ({"mark": 0.24}, "no edge"),
        ({"sheet": 3}, "out of bounds"),
    ],
)  # fmt: skip
def test_albums_that_cannot_be_are_told(given: dict[str, float], words: str) -> None:
    with pytest.raises(ParameterError, match=words) as told:
        made("angled-album", **given)
    assert told.value.remedy


# -- envelope fold


def test_an_envelope_fold_covers_its_size_with_pockets_shut_by_folds() -> None:
    study, r = made("envelope-fold", width=4.5, height=4)
    at = placed(study)
    whole = over(at["sheet", "c1r3"])
    for name, points in at.items():
        assert whole.buffer(0.5).contains(over(points)), name
    assert r.part.pieces[0].size == pytest.approx((inches(9), inches(8) + r.sizes["flap"].length))
    slit = [line for line in r.part.pieces[0].lines if line.kind == "cut"]
    assert len(slit) == 1 and np.hypot(*np.subtract(slit[0].start, slit[0].end)) == pytest.approx(inches(2))
    assert {p.name: p.mouth for p in r.part.pockets} == {"lower pocket": "up", "side pocket": "up"}
    # the side pocket's freed end lies within it, below its fold; the lower pocket over both; the flap over all
    order = sorted(at, key=lambda key: -level(at[key]))
    assert order[0][1] == "c1r4" and order[-1][1] == "c1r3"
    glued = [j for j in r.part.joints if j.bond == "glue"]
    assert {frozenset((j.a[1], j.b[1])) for j in glued} == {frozenset(("c1r1", "c1r3")), frozenset(("c1r1", "c2r3"))}
    assert opening_of(study).works


def test_what_an_envelope_holds_goes_in() -> None:
    study, r = made("envelope-fold", content_width=4, content_height=5)
    (pocket,) = (p for p in r.part.pockets if p.name == "lower pocket")
    assert pocket.width >= inches(4) + 1.0 and r.sizes["height"].length > inches(5) + 1.0
    assert {c.gap.code for c in study.checks if c.is_clash} == {"sheet"}  # two heights and a flap: 12 in are too short


# -- strip album


def test_album_pages_grow_downwards_and_their_edges_show() -> None:
    study, _ = made("strip-album", pages=3, cover=4.5)
    at = placed(study)
    pages = [at[f"page-{k}", "page"] for k in (1, 2, 3)]
    heights = [level(p) for p in pages]
    assert heights == sorted(heights, reverse=True)  # the smallest on top
    spine, edges = [p[:, 0].min() for p in pages], [p[:, 0].max() for p in pages]
    assert np.ptp(spine) < 0.05
    assert np.diff(edges) == pytest.approx(inches(1 / 2), abs=0.05)
    assert at["cover", "back"][:, 0].max() > edges[-1]
    assert level(at["cover", "front"]) - level(at["cover", "back"]) == pytest.approx(inches(1 / 4), abs=0.2)
    assert not [c for c in study.checks if c.is_clash and c.gap.code != "sheet"]


def test_the_latch_turns_in_a_circle_that_is_free_and_laps_the_flap() -> None:
    study, r = made("strip-album")
    at = placed(study)
    bar, flap, page = over(at["latch", "bar"]), over(at["page-1", "flap"]), over(at["page-1", "page"])
    assert bar.intersection(flap).area > 15.0  # it holds the flap
    opened = State(1.0, tuple(float(m.name.endswith("latch")) for m in study.assembly.motions))
    aside = over(placed(study, opened)["latch", "bar"])
    assert not aside.intersects(flap.buffer(-0.1)) and page.contains(aside)  # turned aside
    assert aside.centroid.distance(bar.centroid) < 1e-6
    wrong = [
        k for k, m in enumerate(study.assembly.motions) if m.name.split(".")[1] in ("cover", "cover-flap", "flap-1")
    ]
    steps = opening_in_order(study, wrong).steps
    assert [step.clear for step in steps] == [True, True, False]  # shut, it holds
    circle = bar.centroid.buffer(inches(3 / 4) / 2)
    lap = circle.intersection(flap)
    assert lap.bounds[2] - lap.bounds[0] == pytest.approx(inches(1 / 8), abs=0.05)
    assert page.buffer(0.05).contains(circle)
    narrow, _ = made("strip-album", page_flap=3)
    told = [c for c in narrow.checks if c.gap.between[1] == "circle it turns in"]
    assert told and told[0].is_clash  # the brad's circle runs over the spine
    held = [j for j in r.part.joints if j.bond == "held"]
    assert len(held) == 1 and "turns" in held[0].label
    without, _ = made("strip-album", latch="no")
    assert ("latch", "bar") not in placed(without)


def test_album_opens_from_the_cover_inwards() -> None:
    study, _ = made("strip-album", pages=2, cover=4.25)
    opening = opening_of(study)
    order = [study.assembly.motions[s.motion].name.split(".")[1] for s in opening.steps]
    assert opening.works and order[0] == "cover" and order.index("page-1") < order.index("page-2")
    with pytest.raises(ParameterError, match="the hinge"):
        made("strip-album", pocket=3.75)
    with pytest.raises(ParameterError, match="comes out at"):
        made("strip-album", pages=4, cover=2.5)


# -- pocket folio


@pytest.mark.parametrize(("pages", "insert"), [(2, 0.0), (3, 0.0), (4, 1 / 16), (5, 0.0)])
def test_folio_strips_lie_back_to_back_all_the_way(pages: int, insert: float) -> None:
    """Both strips' pages are parallel, as far apart as told, and neither runs through the other."""
    study, r = made("pocket-folio", pages=pages, page_width=2.5, insert=insert)
    at, t = placed(study), study.pieces[0].stock.caliper
    apart = t + inches(insert)
    for k in range(1, pages + 1):
        one, other = at["first", f"page-{k}"], at["second", f"page-{k}"]
        assert abs(level(one) - level(other)) == pytest.approx(apart, abs=0.05)
        assert over(one).intersection(over(other)).area > over(one).area * (1 - 2 * apart / inches(2.5))
    for k in range(1, pages):
        xs = sorted(
            (abs(at[strip, f"gusset-{k}"][:, 0].mean()), strip, np.ptp(at[strip, f"gusset-{k}"][:, 2]))
            for strip in ("first", "second")
        )
        inner, outer = xs  # nearer to the middle is inside
        assert inner[1] == ("first" if k % 2 else "second")
        assert inner[2] == pytest.approx(inches(1 / 4), abs=0.05) and outer[2] - inner[2] == pytest.approx(
            2 * apart, abs=0.05
        )
    assert len(r.part.pockets) == pages - 1 and all(p.mouth == "up" for p in r.part.pockets)


def test_the_folio_s_cover_clears_what_it_holds_and_its_tape_leaves_heads_open() -> None:
    study, r = made("pocket-folio", pages=3)
    at = placed(study)
    top = max(level(at[strip, "page-3"]) for strip in ("first", "second"))
    bottom = level(at["cover", "wide"])
    assert level(at["cover", "narrow"]) - top >= study.pieces[0].stock.caliper - 0.02
    assert min(level(at[strip, "page-1"]) for strip in ("first", "second")) > bottom
    second = next(p for p in r.part.pieces if p.id.endswith("second"))
    taped = {}
    for joint in (j for j in r.part.joints if j.spots):
        page = Polygon(second.panel(joint.a[1]).outline)
        x0, y0, x1, y1 = page.bounds
        spots = [Polygon(spot) for spot in joint.spots]
        sides = {
            "head": (x0 + 20, y1 - 2), "foot": (x0 + 20, y0 + 2), "left": (x0 + 2, (y0 + y1) / 2),
            "right": (x1 - 2, (y0 + y1) / 2),
        }  # fmt: skip
        from shapely.geometry import Point

        taped[joint.a[1]] = {side for side, p in sides.items() if any(spot.contains(Point(p)) for spot in spots)}
    assert taped["page-1"] == {"head", "foot", "left", "right"}  # a frame
    assert len(taped["page-2"]) == 2 and "foot" in taped["page-2"] and "head" not in taped["page-2"]  # an L
    assert taped["page-3"] == {"foot", "left", "right"}  # a U
    glued, _ = made("pocket-folio", **{"spine-is": "glued"})  # type: ignore[arg-type]  # a word
    assert any(j.a == ("cover", "spine") for j in glued.resolved[glued.design.root.id].part.joints)
    assert not any(j.a == ("cover", "spine") for j in r.part.joints)


# -- all of them, at random


KINDS = {
    "envelope-fold": (("width", 2, 6), ("height", 2, 6)),
    "angled-album": (("sheet", 4, 12), ("leaves", 2, 8)),
    "strip-album": (("cover", 3, 5), ("height", 3, 7), ("pages", 1, 4)),
    "pocket-folio": (("page_width", 2, 5), ("height", 3, 7), ("pages", 2, 6)),
}


@pytest.mark.parametrize("kind", KINDS)
def test_at_random_sizes_they_shut_flat_open_and_can_be_made(kind: str) -> None:
    tried = 0
    for seed in range(12):
        rng = random.Random(seed)
        given = {
            name: rng.randint(low, high) if name in COUNTS else round(rng.uniform(low, high) * 16) / 16
            for name, low, high in KINDS[kind]
        }
        try:
            study, r = made(kind, **given)
        except LanternError:
            continue
        tried += 1
        assert not [c for c in study.checks if c.is_clash and c.gap.code != "sheet"], given
        top = max(float(p[:, 2].max()) for p in placed(study).values())
        assert top == pytest.approx(r.sizes["thick"].length - study.pieces[0].stock.caliper / 2, abs=0.3), given
        opening = opening_of(study)
        assert opening.works and not opening.shut, given
        if seed < 3:
            assert not plan_bench(study).stuck, given
    assert tried > 5


# -- free strip: double scores, several panels glued


def test_a_fold_around_layers_is_scored_twice_its_own_height_apart() -> None:
    """3 1/4 + 3 1/2 + 3 1/4 + 2, the last rolled in under the third: the fold at 6 3/4 goes around it and is scored
    twice, a groove apart, the others once (worked by hand)."""
    told = {"panels": "82.55mm + 88.9mm + 82.55mm + 50.8mm"}
    found = {}
    for scores in ("single", "double"):
        study = Study(start_design("free-strip", {**told, "scores": scores}))
        piece = study.pieces[0]
        found[scores] = sorted(round(line.start[0] / 25.4, 4) for line in piece.lines if line.kind == "score")
    assert found == {"single": [3.25, 6.75, 10.0], "double": [3.25, 6.75, 6.875, 10.0]}


def test_several_panels_are_glued_and_stay_flat() -> None:
    told = {"panels": "50mm + 60mm + 70mm + 50mm", "base": 2, "together": 2}
    study = Study(start_design("free-strip", told))
    at = placed(study)
    assert level(at["sheet", "c2r1"]) == pytest.approx(level(at["sheet", "c3r1"]))
    assert level(at["sheet", "c1r1"]) > level(at["sheet", "c2r1"]) < level(at["sheet", "c4r1"])
    assert len([line for line in study.pieces[0].lines if line.kind == "score"]) == 2
    assert over(at["sheet", "c2r1"]).union(over(at["sheet", "c3r1"])).bounds[2] - over(at["sheet", "c2r1"]).bounds[
        0
    ] == (pytest.approx(130))
    with pytest.raises(ParameterError, match="From panel 2 on there are 3, not 4"):
        Study(start_design("free-strip", {**told, "together": 4}))


# -- gusset book bound by its pages' own flaps


@pytest.mark.parametrize("pages", [2, 5, 8])
def test_pages_on_their_own_flaps_lie_close_but_for_the_first_gusset(pages: int) -> None:
    """About 1/8 for all together (common practice, no source): the first two pages stand that far apart, the others lie
    on one another with a flap between."""
    study, r = made("gusset-book", pages=pages, binding="own flaps")
    at, t = placed(study), study.pieces[0].stock.caliper
    heights = [level(at[f"page-{k}", "page"]) for k in range(1, pages + 1)]
    steps = np.diff(heights)
    assert steps[0] == pytest.approx(inches(1 / 8) + t, abs=0.2)
    assert steps[1:] == pytest.approx(2 * t, abs=0.11)
    assert r.sizes["gussets"].length == pytest.approx(inches(1 / 8))
    assert len(r.part.pieces) == (2 if pages == 2 else 3) and sum(p.quantity for p in r.part.pieces) == pages
    assert opening_of(study).works
    scores = [sum(line.kind == "score" for line in p.lines) for p in r.part.pieces]
    assert scores == [0, 2, 1][: len(scores)]  # a double score on the first flap only
    # (ignored: mypy takes the named values for the maker's own keywords)
    bought, other = made("gusset-book", pages=pages, binding="own flaps", **{"page-kind": "envelopes"})  # type: ignore[arg-type]  # words among lengths: any value a family takes
    assert all(p.bought for p in other.part.pieces) and not plan_bench(bought).stuck
