"""Small parts that go on faces: tuck spots, strip pockets, booklets, handles, thread discs, tags to draw by, folded
flaps. What they promise is held by geometry of another kind: shapely, polylines, the posed panels."""

from __future__ import annotations

import math

import numpy as np
import pytest
from shapely import LineString, Point, Polygon, unary_union

from yawning_lantern.assembly import HOST
from yawning_lantern.design import Design, Element, Place, Value, add_guest
from yawning_lantern.errors import ParameterError
from yawning_lantern.fold import State, apply, corners, pose
from yawning_lantern.measure import inches
from yawning_lantern.structures import start_design
from yawning_lantern.structures.closures.thread_disc import eight
from yawning_lantern.structures.dress.handle import bow
from yawning_lantern.study import Study, opening_of
from yawning_lantern.study.at_bench import plan_bench
from yawning_lantern.study.shopping import wares_of
from yawning_lantern.study.wanted import wanted

from .test_fastenings import points, put

MAT: dict[str, Value] = {"width": 160.0, "height": 140.0}


def mat() -> Design:
    return start_design("mat", MAT)


@pytest.mark.parametrize("shape", ["band", "half round", "corner"])
def test_what_is_tucked_in_passes_the_glue(shape: str) -> None:
    """The glued strips are cut out of the shape: what is told to be clear at the mouth is what is left there."""
    study = Study(put(mat(), "mat", "spot", "tuck-spot", "face", shape=shape, width=60.0, strip=5.0))
    part = study.resolved["spot"].part
    (joint,) = part.joints
    outline = Polygon(part.pieces[0].outline)
    glue = unary_union([Polygon(spot) for spot in joint.spots])
    assert outline.buffer(0.6).contains(glue) and all(Polygon(spot).exterior.is_ccw for spot in joint.spots)
    free = outline.difference(glue.buffer(0.01))
    x0, y0, x1, y1 = outline.bounds
    rim = {"band": LineString([(x0, y0), (x0, y1)]).union(LineString([(x1, y0), (x1, y1)])),
           "corner": LineString([(x0, y1), (x0, y0), (x1, y0)]),
           "half round": outline.exterior.difference(LineString([(x0, y1), (x1, y1)]).buffer(0.01))}[shape]  # fmt: skip
    near = outline.intersection(rim.buffer(5.0, cap_style="flat", join_style="mitre"))
    assert glue.symmetric_difference(near).area < (60.0 if shape == "half round" else 0.02)  # an arc in chords
    mouth = LineString([(x0 - 1, y0 + 0.02), (x1 + 1, y0 + 0.02)])
    if shape == "corner":  # open along its slope: across, at the height of the strip's edge
        mouth = LineString([(x0 - 1, y0 + 5.02), (x1 + 1, y0 + 5.02)])
    elif shape == "half round":
        mouth = LineString([(x0 - 1, y1 - 0.02), (x1 + 1, y1 - 0.02)])
    clear = free.intersection(mouth).length
    assert study.resolved["spot"].sizes["clear"].length == pytest.approx(
        clear + (5.0 if shape == "corner" else 0), abs=0.2
    )
    held = Study(put(mat(), "mat", "spot", "tuck-spot", "face", shape=shape, content_width=40.0))
    sizes = held.resolved["spot"].sizes
    assert sizes["clear"].length >= 40.0 + inches(1 / 8) - 1e-6
    tight = Study(put(mat(), "mat", "spot", "tuck-spot", "face", shape=shape, content_width=40.0, width=45.0))
    assert any(c.gap.code == "pocket" and c.against == "below" for c in tight.checks)
    with pytest.raises(ParameterError, match="tucked in"):
        Study(put(mat(), "mat", "spot", "tuck-spot", "face", shape=shape, width=20.0, strip=15.0))


@pytest.mark.parametrize("n", [2, 3, 5])
def test_a_pocket_behind_reaches_down_to_the_foot_of_the_foremost(n: int) -> None:
    """A ruler let down behind strip k meets glue only at the foot: the strips of glue are laid out and looked for."""
    study = Study(put(mat(), "mat", "p", "strip-pockets", "face", width=100.0, strips=n, strip_height=40.0, step=15.0))
    assert not study.has_clash
    part = study.resolved["p"].part
    heads = [points(study, "p", f"strip-{k}")[:, 1].max() for k in range(1, n + 1)]
    feet = [points(study, "p", f"strip-{k}")[:, 1].min() for k in range(1, n + 1)]
    levels = [points(study, "p", f"strip-{k}")[:, 2].mean() for k in range(1, n + 1)]
    assert levels == sorted(levels) and heads == sorted(heads, reverse=True)
    foot = feet[-1] + inches(1 / 4)
    for k, pocket in enumerate(part.pockets):
        assert pocket.depth == pytest.approx(heads[k] - foot, abs=1e-6)
    # no glue across the way but at the foot of the foremost
    for joint in part.joints:
        for spot in joint.spots:
            x0, _, x1, _ = Polygon(spot).bounds
            at_an_end = x1 <= inches(1 / 4) + 1e-6 or x0 >= 100.0 - inches(1 / 4) - 1e-6
            assert at_an_end or (joint.b == HOST and joint.a[0] == f"strip-{n}")
    steps = [s for s in plan_bench(study).steps if s.act.startswith("p.")]
    assert steps and not any(s.caution for s in steps)
    with pytest.raises(ParameterError, match="overlap"):
        Study(put(mat(), "mat", "p", "strip-pockets", "face", strip_height=20.0, step=15.0))


@pytest.mark.parametrize("n", [1, 3, 6])
def test_inner_sheets_of_a_booklet_creep_out_by_their_arcs(n: int) -> None:
    """Half a sheet is as long outside as inside: of nested half circles each inner one leaves π/2 of a sheet more for
    its leaf (worked geometry; common practice says t and a little)."""
    for fore_edge in ("alike", "even"):
        study = Study(put(mat(), "mat", "b", "booklet", "face", page_width=60.0, page_height=80.0, sheets=n,
                          fore_edge=fore_edge))  # fmt: skip
        t = study.resolved["b"].final.paper.caliper
        edges, spines = [], []
        for k in range(1, n + 1):
            leaf = points(study, "b", f"sheet-{k}")
            edges.append(leaf[:, 0].max())
            spines.append(leaf[:, 0].min())
        out = np.diff(edges)
        if fore_edge == "alike":
            assert out == pytest.approx([math.pi / 2 * t] * (n - 1), abs=0.02)
        else:
            assert max(spines) < min(edges)  # bound at the left
            beyond = np.array(edges) - np.array(edges[0])  # cut down to the trimmer's marks, never out
            assert (beyond < 0.02).all() and (beyond > -1.7).all()
        assert not study.has_clash


def test_leaves_of_a_booklet_turn_one_after_the_other() -> None:
    design = put(mat(), "mat", "b", "booklet", "face", page_width=60.0, page_height=80.0, sheets=3)
    study = Study(put(design, "b", "photo", "photo", "page-3", width=30.0, height=40.0))
    assert not study.has_clash and opening_of(study).works
    plan = plan_bench(study)
    staple = next(step for step in plan.steps if step.act == "b.staple")
    assert "sharp" in staple.caution and not plan.stuck
    assert "from the foot" in study.resolved["b"].part.pieces[0].note
    with pytest.raises(ParameterError, match="stapler"):
        Study(start_design("booklet", {"sheets": 8}, stock="card-297"))


@pytest.mark.parametrize(("spread", "drop"), [(80.0, 40.0), (50.0, 90.0), (100.0, 10.0)])
def test_a_cord_is_as_long_as_its_bow_and_knots(spread: float, drop: float) -> None:
    """Against Ramanujan's second formula for the ellipse (published 1914, exact here to a thousandth)."""
    a, b = spread / 2, drop
    h = ((a - b) / (a + b)) ** 2
    half = math.pi * (a + b) * (1 + 3 * h / (10 + math.sqrt(4 - 3 * h))) / 2
    assert bow(spread, drop) == pytest.approx(half, rel=1e-3)
    study = Study(put(mat(), "mat", "h", "handle", "face", width=130.0, spread=spread, drop=drop, cord=3.0))
    (ware,) = wares_of(study)
    assert half + 60.0 < ware.length < half + 90.0
    holes = [h for h in study.holes if h.element == "h"]
    assert math.dist(holes[0].middle, holes[1].middle) == pytest.approx(spread)
    band = next(p for p in study.pieces if p.id == "h.band")
    assert len(band.holes) == 2 and len(next(p for p in study.pieces if p.id == "mat.mat").holes) == 2
    with pytest.raises(ParameterError, match="tears out"):
        Study(put(mat(), "mat", "h", "handle", "face", width=100.0, spread=97.0))


@pytest.mark.parametrize(("apart", "across"), [(40.0, 20.0), (90.0, 12.0), (25.0, 24.0)])
def test_a_thread_is_as_long_as_an_eight_around_two_discs(apart: float, across: float) -> None:
    """Against a polyline: the outline of the belt, its crossing straights between points of contact, drawn and
    measured by shapely."""
    r, half = across / 2, apart / 2
    tilt = math.acos(r / half)  # of the point of contact from the line of middles
    arc = np.linspace(tilt, 2 * math.pi - tilt, 2001)
    right = [(half - r * math.cos(v) * 1, r * math.sin(v)) for v in arc]
    left = [(-half + r * math.cos(v), r * math.sin(v)) for v in arc]
    ring = LineString([*right, *left, right[0]])
    assert eight(apart, across) == pytest.approx(ring.length, rel=1e-4)
    study = Study(put(mat(), "mat", "d", "thread-disc", "face", diameter=across, to=apart, turns=2))
    (ware,) = wares_of(study)
    assert 2 * ring.length + 40.0 < ware.length < 2 * ring.length + 65.0
    steps = [s.id for s in plan_bench(study).steps]
    assert "tie:d.set" in steps
    with pytest.raises(ParameterError, match="over one another"):
        Study(put(mat(), "mat", "d", "thread-disc", "face", diameter=across, to=across - 1.0))


def test_a_tag_with_a_pull_tab_is_no_longer_than_told() -> None:
    plain, pulled = (
        Study(put(mat(), "mat", "t", "tag", "face", width=50.0, height=80.0, **more)) for more in ({}, {"pull": 20.0})
    )
    for study in (plain, pulled):
        assert np.ptp(points(study, "t")[:, 1]) == pytest.approx(80.0)
    head = points(pulled, "t")
    assert np.ptp(head[head[:, 1] > head[:, 1].max() - 1.0][:, 0]) < 20.0
    assert len(pulled.pieces[1].panels) == 2 and not any(line.kind == "score" for line in pulled.pieces[1].lines)
    with pytest.raises(ParameterError, match="wider than the head"):
        Study(put(mat(), "mat", "t", "tag", "face", width=30.0, height=80.0, pull=28.0))


def test_a_flap_folded_in_half_comes_down_twice_as_long() -> None:
    design = put(mat(), "mat", "f", "flap", "face", width=70.0, height=60.0, fold="half")
    study = Study(design)
    assert not study.has_clash and opening_of(study).works
    labels = [study.assembly.motions[step.motion].label for step in opening_of(study).steps]
    assert labels == ["F lifts", "half of F unfolds"]
    at = {n.panel.name: np.array(corners(n, f)) for n, f in zip(study.assembly.nodes, study.shut_frames, strict=True)
          if n.element == "f"}  # fmt: skip
    assert np.ptp(np.vstack(list(at.values()))[:, 1]) < 62.0  # shut it takes no more than the flap
    assert at["half"][:, 2].mean() < at["flap"][:, 2].mean()  # behind it
    assert at["half"][:, 1].max() < at["tab"][:, 1].min() + 0.5  # and below the tab, not on it
    opened = pose(study.assembly, State(1.0, (1.0, 1.0)))
    shown = np.array([p for n, f in zip(study.assembly.nodes, opened, strict=True) if n.element == "f"
                      for p in corners(n, f)])  # fmt: skip
    hinge = at["flap"][:, 1].max(), at["flap"][:, 2].mean()
    assert np.hypot(shown[:, 1] - hinge[0], shown[:, 2] - hinge[1]).max() > 60.0 + 0.9 * 45.0
    thick = put(put(design, "f", "a", "photo", "inside", thick=2.0, width=30.0, height=20.0), "f", "b", "photo",
                "half-front", thick=1.0, width=30.0, height=20.0)  # fmt: skip
    full = Study(thick)
    assert not full.has_clash and full.closed[2] > study.closed[2] + 2.9


def test_a_card_stand_is_a_triangle_under_a_fin() -> None:
    """The check value of the trade: 4 × 4 scored at 1/2, 1 1/4, 2, 2 3/4, 3 1/2 (common practice, no source); its
    height by Pythagoras from the feet, its ends in one plane."""
    study = Study(start_design("card-stand", {}))
    (piece,) = study.pieces
    scores = sorted({round(line.start[0] / 25.4, 6) for line in piece.lines if line.kind == "score"})
    assert piece.size == (pytest.approx(inches(4)), pytest.approx(inches(4))) and scores == [0.5, 1.25, 2.0, 2.75, 3.5]
    for foot, panel in ((9.0, 19.05), (5.0, 25.0), (15.0, 22.0)):
        study = Study(put(mat(), "mat", "s", "card-stand", "face", foot=foot, panel=panel, width=60.0))
        at = {n.panel.name: np.array(corners(n, f)) for n, f in
              zip(study.assembly.nodes, study.shut_frames, strict=True) if n.element == "s"}  # fmt: skip
        level = at["tab-near"][:, 2].mean()
        assert np.ptp(np.vstack([at["tab-near"], at["tab-far"]])[:, 2]) < 0.02
        head = at["fin-front"][:, 2].max() - level
        assert head == pytest.approx(math.sqrt(panel**2 - foot**2) + panel, abs=0.3)
        spread = at["tab-far"][:, 1].min() - at["tab-near"][:, 1].max()
        assert spread == pytest.approx(2 * foot, abs=0.5)
        assert np.ptp(at["fin-front"][:, 1]) < 0.01 and not study.has_clash
        assert study.closed[2] == pytest.approx(study.resolved["s"].sizes["stands"].length, abs=0.8)


def test_a_stand_that_only_the_diagonal_takes_lies_on_it() -> None:
    tray = start_design("tray", {"width": 80.0, "depth": 80.0, "height": 60.0})
    for wide, lies in ((70.0, "straight"), (None, "diagonal")):
        given: dict[str, Value] = {"panel": 12.0, "tab": 6.0, **({"width": wide} if wide else {"lies": "diagonal"})}
        study = Study(put(tray, "tray", "s", "card-stand", "floor", **given))
        assert study.resolved["s"].sizes["lies"].value == lies and not study.has_clash
        inside = 80.0 - study.pieces[0].stock.caliper
        shape = points(study, "s")
        assert np.abs(shape[:, :2]).max() < inside / 2
        if lies == "diagonal":
            across = shape[:, 0] + shape[:, 1]
            assert np.ptp(across) / math.sqrt(2) == pytest.approx(
                study.resolved["s"].sizes["width"].length, abs=0.1
            ) or (
                np.ptp(shape[:, 0] - shape[:, 1]) / math.sqrt(2)
                == pytest.approx(study.resolved["s"].sizes["width"].length, abs=0.1)
            )
            assert study.resolved["s"].sizes["width"].length > 70.0
    assert Study(put(tray, "tray", "s", "card-stand", "floor", panel=12.0, tab=6.0, width=100.0)).has_clash
    with pytest.raises(ParameterError, match="no height"):
        Study(start_design("card-stand", {"foot": 30.0, "panel": 20.0}))


@pytest.mark.parametrize(("form", "high"), [("ridge", math.sqrt(20.0**2 - 12.0**2)), ("step", 20.0)])
def test_a_stand_as_ridge_or_step_stands_by_its_panels(form: str, high: float) -> None:
    """A ridge by Pythagoras, a step as high as its panels; both feet in one plane, a step's top level."""
    study = Study(put(mat(), "mat", "s", "card-stand", "face", form=form, foot=12.0, panel=20.0, width=60.0))
    assert not study.has_clash and not plan_bench(study).stuck
    at = {n.panel.name: np.array(corners(n, f)) for n, f in zip(study.assembly.nodes, study.shut_frames, strict=True)
          if n.element == "s"}  # fmt: skip
    feet = np.vstack([at["tab-near"], at["tab-far"]])
    assert np.ptp(feet[:, 2]) < 0.02
    t = study.resolved["s"].final.paper.caliper
    assert np.vstack(list(at.values()))[:, 2].max() - feet[0, 2] == pytest.approx(high, abs=0.5 * t)
    apart = at["tab-far"][:, 1].min() - at["tab-near"][:, 1].max()
    assert apart == pytest.approx(24.0, abs=2 * t)
    if form == "step":
        assert np.ptp(at["top"][:, 2]) < 1e-6
        plain = study.closed[2]
        loaded = Study(put(study.design, "s", "photo", "photo", "top", width=20.0, height=15.0, thick=3.0))
        assert loaded.closed[2] == pytest.approx(plain + 3.0, abs=0.2) and not loaded.has_clash


def test_a_decorative_edge_is_cut_from_a_larger_blank() -> None:
    plain, edged = (Study(start_design("mat", {"width": 80.0, "height": 60.0, **more})) for more in ({}, {"edge": 4.0}))
    assert plain.pieces[0].size == edged.pieces[0].size  # what is left of it is the same
    a, b = (wanted(study)[0] for study in (plain, edged))
    assert (b.width - a.width, b.height - a.height) == (pytest.approx(8.0), pytest.approx(8.0))
    step = next(s for s in plan_bench(edged).steps if s.kind == "cut")
    assert "decorative edge" in step.heed


@pytest.mark.parametrize("face", ["front", "inside"])
@pytest.mark.parametrize(
    ("radius", "mat", "lies"),
    [(3.0, {}, True), (6.35, {}, True), (38.0, {}, True), (6.35, {"shape": "square"}, False),
     (12.0, {"shape": "rounded", "corner": 6.35}, False), (12.0, {"shape": "rounded", "corner": 11.0}, True),
     (30.0, {"shape": "round"}, True)],
)  # fmt: skip
def test_what_lies_on_a_rounded_flap_lies_within_its_corners(
    face: str, radius: float, mat: dict[str, Value], lies: bool
) -> None:
    """Told as shapely finds it: how far the mat stands out of the flap, or what is left to the flap's edge."""
    design = start_design("flap", {"width": 76.2, "height": 76.2, "rounded": radius})
    study = Study(add_guest(design, design.root.id, Element("m", "mat", "Mat", mat), Place(face)))
    (check,) = (c for c in study.checks if c.gap.use.code == "corners")
    flap, on_it = (
        Polygon([apply(study.shut_frames[k], *p)[:2] for p in study.assembly.nodes[k].panel.outline])
        for k in (study.assembly.index(design.root.id, "flap", "flap"), study.assembly.index("m", "mat", "mat"))
    )
    out = [flap.distance(Point(p)) for p in on_it.exterior.coords]
    left = -max(out) if max(out) > 0 else min(flap.exterior.distance(Point(p)) for p in on_it.exterior.coords)
    assert check.gap.value == pytest.approx(left, abs=1e-6)
    assert lies == (not check.is_clash) == (left >= 0)


@pytest.mark.parametrize(("radius", "sides"), [(0.0, 4), (5.0, 4), (6.35, 24), (20.0, 24)])
def test_mats_of_a_waterfall_follow_its_rounded_corners(radius: float, sides: int) -> None:
    study = Study(start_design("waterfall", {"flap-width": 76.2, "rounded": radius, "mats": "all"}))
    names = study.design.root.id
    flap, on_it = (
        Polygon([apply(study.shut_frames[k], *p)[:2] for p in study.assembly.nodes[k].panel.outline])
        for k in (study.assembly.index(names, "flap-1", "flap"), study.assembly.index(names, "mat-1-front", "mat"))
    )
    assert flap.buffer(1e-6).covers(on_it) and len(on_it.exterior.coords) - 1 == sides
    assert flap.exterior.distance(on_it.exterior) > (0.1 if radius else 1.5)  # square ones come near an arc


@pytest.mark.parametrize("width", [("flap", "width"), ("waterfall", "flap-width"), ("closing-tongue", "breadth")])
def test_two_rounded_corners_do_not_meet(width: tuple[str, str]) -> None:
    kind, across = width
    assert Study(start_design(kind, {across: 25.4, "rounded": 12.7})).checks
    with pytest.raises(ParameterError, match="meet") as told:
        Study(start_design(kind, {across: 25.4, "rounded": 12.8}))
    assert "Give at most" in told.value.remedy


@pytest.mark.parametrize("thick", [0.3, 3.0])
@pytest.mark.parametrize("form", ["fin", "ridge", "step"])
@pytest.mark.parametrize("lies", ["straight", "diagonal"])
def test_a_card_stand_stands_in_the_middle_of_its_place(form: str, lies: str, thick: float) -> None:
    """Its two tabs reach as far to one side as to the other, as near as bends leave them (under 0.1 mm)."""
    study = Study(start_design("card-stand", {"form": form, "lies": lies, "card-thick": thick}))
    ends = [corners(node, frame, 1.0) for node, frame in zip(study.assembly.nodes, study.shut_frames, strict=True)
            if node.panel.name in ("tab-near", "tab-far")]  # fmt: skip
    middle = np.mean(np.concatenate(ends), axis=0)
    assert len(ends) == 2 and np.abs(middle[:2]).max() < 0.1
