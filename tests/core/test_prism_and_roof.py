"""Prisms and roofs of three to twelve sides: closed forms, sides that come together again, area that is kept, faults.
Distances are taken from the posed panels by numpy; closed forms are solid geometry."""

from __future__ import annotations

import math
from itertools import pairwise
from pathlib import Path

import numpy as np
import pytest
from shapely.geometry import Polygon

from yawning_lantern.design import Design, Element, Place, Value, add_guest
from yawning_lantern.errors import ParameterError
from yawning_lantern.exchange.design_file import read_design
from yawning_lantern.fold import corners
from yawning_lantern.measure import inches
from yawning_lantern.structures import start_design
from yawning_lantern.structures.boxes.prism import corner_shift
from yawning_lantern.structures.kit.roof_trim import hip_turn
from yawning_lantern.structures.kit.shell import FOLD_SHIFT
from yawning_lantern.study import Study, opening_of
from yawning_lantern.study.at_bench import plan_bench
from yawning_lantern.study.shopping import paper_of, shopping

from ..plain_hosts import bulky
from .test_shopping import planned

EXAMPLE = Path(__file__).parents[2] / "src/yawning_lantern/examples/observatory-box.lantern"

SIDES = range(3, 13)


def nest(*parts: tuple[str, dict[str, Value], str]) -> Design:
    """A structure, and on its face the next, and so on: (family, settings, face of the one before)."""
    (kind, given, _), *rest = parts
    design = start_design(kind, given)
    host = design.root.id
    for number, (kind, given, face) in enumerate(rest, 1):
        name = f"{kind}-{number}"
        design = add_guest(design, host, Element(name, kind, kind.capitalize(), given), Place(face))
        host = name
    return design


def made(kind: str, **given: Value) -> Study:
    """A structure; lengths in mm."""
    return Study(start_design(kind, {name.replace("_", "-"): value for name, value in given.items()}))


def placed(study: Study) -> dict[tuple[str, str], np.ndarray]:
    """Corners of every panel when it is shut, by instance and panel, mm."""
    return {
        (node.instance, node.panel.name): np.array(corners(node, frame))
        for node, frame in zip(study.assembly.nodes, study.shut_frames, strict=True)
    }


def walls(study: Study) -> list[np.ndarray]:
    at = placed(study)
    return [next(p for (_, name), p in at.items() if name == f"wall-{k}") for k in range(1, 13) if any(
        name == f"wall-{k}" for _, name in at)]  # fmt: skip


# -- prism


@pytest.mark.parametrize("n", SIDES)
def test_walls_come_together_again_around_a_regular_polygon(n: int) -> None:
    study = made("prism", sides=n, side=40)
    found = walls(study)
    assert len(found) == n
    a = 20 / math.tan(math.pi / n)
    for k, wall in enumerate(found):
        assert np.ptp(wall[:, 2]) == pytest.approx(101.6, abs=0.3)
        foot = wall[wall[:, 2].argsort()][:2, :2]
        middle = foot.mean(axis=0)
        centre = np.mean([w[:, :2].mean(axis=0) for w in found], axis=0)
        assert np.linalg.norm(middle - centre) == pytest.approx(a, abs=0.4)  # apothem, and the bends
        following = found[(k + 1) % n]
        gap = min(np.linalg.norm(p - q) for p in wall for q in following)
        assert gap < 0.1 + 2 * corner_shift(2 * math.pi / n, 0.27)
    assert all(wall[:, 2].min() == pytest.approx(found[0][:, 2].min(), abs=0.02) for wall in found)


@pytest.mark.parametrize("n", SIDES)
def test_the_base_lies_between_the_walls(n: int) -> None:
    study = made("prism", sides=n, side=40)
    at = placed(study)
    plate = Polygon(at["base", "plate"][:, :2])
    ring = Polygon([w[w[:, 2].argsort()][:2, :2].mean(axis=0) for w in walls(study)])
    assert plate.area == pytest.approx(n / 2 * (plate.exterior.length / n) ** 2 / (2 * math.tan(math.pi / n)), rel=1e-3)
    t = study.pieces[0].stock.caliper
    for wall in walls(study):
        foot = wall[wall[:, 2].argsort()][:2, :2]
        way = foot.mean(axis=0) - np.array(plate.centroid.coords[0])
        way = way / np.linalg.norm(way)
        left = foot.mean(axis=0) @ way - (np.array(plate.exterior.coords) @ way).max() - t / 2
        assert 0.1 < left < inches(1 / 16) + 0.1
    assert ring.area > 0 and study.checks and not study.has_clash
    assert opening_of(study).works


@pytest.mark.parametrize(("plate", "clash"), [(1.0, False), (1.02, True), (0.94, True)])
def test_a_base_that_the_walls_do_not_follow_is_told(plate: float, clash: bool) -> None:
    """Mistake: walls do not follow the base plate, the roof misses. Larger than the walls leave, or so small that they
    stand off it."""
    usual = made("prism", sides=6, side=60)
    side = usual.resolved[usual.design.root.id].sizes["plate"].length
    study = made("prism", sides=6, side=60, plate=side * plate)
    (check,) = (c for c in study.checks if c.gap.code == "plate")
    assert (check.is_clash or check.against == "above") == clash


def test_strips_follow_the_sheet_and_each_joins_the_next() -> None:
    study = made("prism", sides=8, side=70)
    r = study.resolved[study.design.root.id]
    strips = [p for p in r.part.pieces if "walls" in p.id]
    assert len(strips) == 2 and max(p.size[0] for p in strips) <= inches(12)
    at = placed(study)
    for k in (1, 2):
        tab = at[f"walls-{k}", "tab"]
        mate = at["walls-2", "wall-5"] if k == 1 else at["walls-1", "wall-1"]
        normal = np.cross(mate[1] - mate[0], mate[2] - mate[0])
        normal = normal / np.linalg.norm(normal)
        off = (tab - mate[0]) @ normal
        assert np.abs(off).max() < 1.0 and np.ptp(off) < 0.15  # flat on the inside of the next wall
    assert not plan_bench(study).stuck
    with pytest.raises(ParameterError, match="9 strips"):
        made("prism", sides=8, side=70, strips=9)


@pytest.mark.parametrize("n", SIDES)
def test_the_wrapping_goes_around_its_base(n: int) -> None:
    """Turned in, the strips lie on the underside side by side: none on another, none over the board's edge."""
    study = made("prism", sides=n, side=60)
    at, t = placed(study), study.pieces[0].stock.caliper
    board = next(p for p in study.pieces if p.id.endswith(".base"))
    plate = Polygon(at["base", "plate"][:, :2])
    level = at["base", "plate"][:, 2].mean()
    sheet = at["wrap", "sheet"]
    assert Polygon(sheet[:, :2]).symmetric_difference(plate).area < 1.0
    assert sheet[:, 2].mean() - level == pytest.approx(board.stock.caliper / 2 + t / 2, abs=0.1)
    strips = [Polygon(at["wrap", f"turn-{k + 1}"][:, :2]) for k in range(n)]
    for k, strip in enumerate(strips):
        below = at["wrap", f"turn-{k + 1}"][:, 2]
        assert np.ptp(below) < 0.01 and level - below.mean() == pytest.approx(board.stock.caliper / 2 + t / 2, abs=0.1)
        assert strip.difference(plate.buffer(0.05)).area < 0.5
        assert all(strip.intersection(other).area < 0.5 for other in strips[k + 1 :])
    # flat, the sheet is the base and its strips, and so much is lost at every mitre as lies between two strips
    flat = Polygon(next(p for p in study.pieces if p.id.endswith(".wrap")).outline)
    assert flat.area == pytest.approx(plate.area + sum(s.area for s in strips), rel=0.01)
    plan = plan_bench(study)
    acts = [step.act for step in plan.steps if step.kind == "glue"]
    (turns,) = (k for k, act in enumerate(acts) if act.endswith(".turn-ins"))
    assert turns < min(k for k, act in enumerate(acts) if "foot-" in act) and not plan.stuck
    bare = made("prism", sides=n, side=60, wrap="none")
    assert not [p for p in bare.pieces if p.id.endswith(".wrap")]
    notes = [next(p for p in one.pieces if p.id.endswith(".base")).note for one in (study, bare)]
    assert notes == ["Wrapped before the feet are glued.", ""]
    tall = [placed(one)["base", "plate"][:, 2].mean() for one in (study, bare)]
    assert tall[0] - tall[1] == pytest.approx(t, abs=0.1)


@pytest.mark.parametrize("n", SIDES)
def test_folded_corners_of_a_wrapping_are_ears_within_the_board(n: int) -> None:
    """Uncut, the sheet is a larger polygon of the same kind; of fewer than six sides an ear has no room."""
    if n < 6:
        with pytest.raises(ParameterError, match="reach over"):
            made("prism", sides=n, side=60, wrap="folded")
        return
    study = made("prism", sides=n, side=60, wrap="folded")
    assert not study.has_clash and not plan_bench(study).stuck
    at, board = placed(study), 60.0
    plate = Polygon(at["base", "plate"][:, :2]).buffer(0.3)
    sheet = next(p for p in study.pieces if p.id.endswith(".wrap"))
    assert len(sheet.outline) == n and not any(line.kind == "cut" for line in sheet.lines)
    board = math.dist(*at["base", "plate"][:2, :2])
    wide = min(inches(3 / 4), (0.45 * board - 0.27) / math.tan(math.pi / n))
    side = board + 2 * wide * math.tan(math.pi / n)
    assert Polygon(sheet.outline).area == pytest.approx(n * side**2 / (4 * math.tan(math.pi / n)), rel=1e-3)
    for k in range(1, n + 1):
        for name in (f"ear-{k}", f"back-{k}"):
            ear = Polygon(at["wrap", name][:, :2])
            assert ear.area > 5.0 and ear.difference(plate).area < 0.05
            assert at["wrap", name][:, 2].max() < at["base", "plate"][:, 2].mean()  # below the board


def test_what_a_prism_shall_hold_goes_in() -> None:
    for n in (3, 5, 6, 8):
        study = made("prism", sides=n, content_width=80, content_height=90)
        found = walls(study)
        centre = np.mean([w[:, :2].mean(axis=0) for w in found], axis=0)
        t = study.pieces[0].stock.caliper
        inside = min(np.linalg.norm(w[w[:, 2].argsort()][:2, :2].mean(axis=0) - centre) for w in found) - t / 2
        assert 2 * inside > 80 + 2 * t  # tabs too
        plate = placed(study)["base", "plate"]
        top = max(w[:, 2].max() for w in found)
        board = next(p for p in study.pieces if p.id.endswith(".base")).stock.caliper
        assert top - plate[:, 2].max() - board / 2 - t > 90  # the base is wrapped
        assert not [c for c in study.checks if c.is_clash and c.gap.code != "sheet"]


# -- roof


@pytest.mark.parametrize("n", SIDES)
@pytest.mark.parametrize("degrees", [20, 40, 60])
def test_the_hip_turns_as_vectors_say(n: int, degrees: int) -> None:
    """Two neighbouring slopes by their corners in space; the angle between them by cross products."""
    p, theta = math.radians(degrees), 2 * math.pi / n
    tip = np.array([0.0, 0.0, math.tan(p)])
    rim = [
        np.array([math.cos(theta * (k - 0.5)), math.sin(theta * (k - 0.5)), 0.0]) / math.cos(theta / 2)
        for k in (0, 1, 2)
    ]
    one, two = (np.cross(b - a, tip - a) for a, b in pairwise(rim))
    exact = math.atan2(float(np.linalg.norm(np.cross(one, two))), float(one @ two))
    assert hip_turn(p, theta) == pytest.approx(exact, abs=1e-9)


@pytest.mark.parametrize("n", SIDES)
def test_slopes_come_together_again(n: int) -> None:
    """The last slope's hip lies on the first's; all lean to one point; every foot lies on the ring."""
    study = made("roof", sides=n, side=50)
    r, at = study.resolved[study.design.root.id], placed(study)
    slopes = [at["slopes", f"slope-{k}"] for k in range(1, n + 1)]
    pitch = math.radians(40)
    for one, following in zip(slopes, [*slopes[1:], slopes[0]], strict=True):
        normal = np.cross(one[1] - one[0], one[2] - one[0])
        assert abs(normal[2]) / np.linalg.norm(normal) == pytest.approx(math.cos(pitch), abs=2e-3)
        ends = [sorted(np.linalg.norm(p - q) for p in one for q in following)[:2]]
        assert np.max(ends) < 0.1
    eaves = min(s[:, 2].min() for s in slopes)
    tops = max(s[:, 2].max() for s in slopes)
    run = r.sizes["plate"].length / 2 / math.tan(math.pi / n)
    assert r.sizes["rise"].length == pytest.approx(run * math.tan(pitch), rel=1e-6)
    left = 1 - 2.0 / r.sizes["plate"].length  # its point is cut off where it is 2 mm wide
    assert tops - eaves == pytest.approx(r.sizes["rise"].length * left, abs=0.3)
    level = [at["slopes", f"foot-{k}"][:, 2] for k in range(1, n + 1)]
    assert max(np.ptp(z) for z in level) < 0.2 and np.ptp([z.mean() for z in level]) < 0.1
    assert opening_of(study).works and not study.has_clash


@pytest.mark.parametrize("n", [3, 6, 12])
@pytest.mark.parametrize("storey", [0.0, 30.0])
def test_a_roof_is_as_large_as_its_solid(n: int, storey: float) -> None:
    """Developed area against the lateral area of a pyramid or its frustum: half the girths by the slant height."""
    study = made("roof", sides=n, side=50, storey=storey)
    r = study.resolved[study.design.root.id]
    fan = next(p for p in r.part.pieces if p.id.endswith("slopes"))
    area = sum(Polygon(p.outline).area for p in fan.panels if p.name.startswith("slope"))
    a = r.sizes["plate"].length / 2 / math.tan(math.pi / n)
    b = storey / 2 / math.tan(math.pi / n)
    slant = math.hypot(a - b, r.sizes["rise"].length)
    assert area == pytest.approx(n * (r.sizes["plate"].length + storey) / 2 * slant, rel=2e-3)
    if storey:
        deck = placed(study)["deck", "deck"]
        assert Polygon(deck[:, :2]).area == pytest.approx(n * storey**2 / (4 * math.tan(math.pi / n)), rel=1e-3)
        assert np.ptp(deck[:, 2]) < 0.1
        at = placed(study)
        ends = np.vstack([p[p[:, 2].argsort()][2:] for (_, name), p in at.items() if name.startswith("slope")])
        assert max(min(np.linalg.norm(p[:2] - q[:2]) for q in ends) for p in deck) < 1.0  # corner on corner


@pytest.mark.parametrize(("given", "words"), [
    ({"storey": 60}, "no slope"), ({"height": 400}, "cannot be folded"), ({"tab": 24}, "do not go under"),
    ({"pitch": 5}, "out of bounds"),
])  # fmt: skip
def test_roofs_that_cannot_be_are_told(given: dict[str, float], words: str) -> None:
    with pytest.raises(ParameterError, match=words) as told:
        made("roof", sides=6, side=45, **given)
    assert told.value.remedy


def test_a_height_goes_before_the_pitch() -> None:
    study = made("roof", sides=6, side=50, height=30)
    r = study.resolved[study.design.root.id]
    assert r.sizes["rise"].length == pytest.approx(30) and r.sizes["pitch"].origin == "auto"


def test_shingles_overlap_from_the_eaves_up_and_are_staggered() -> None:
    study = made("roof", sides=6, side=50, courses=4)
    r, at = study.resolved[study.design.root.id], placed(study)
    slope = at["slopes", "slope-1"]
    up = slope[slope[:, 2].argsort()][2:].mean(axis=0) - slope[slope[:, 2].argsort()][:2].mean(axis=0)
    up = up / np.linalg.norm(up)
    spans = []
    for k in range(1, 5):
        course = at[f"course-{k}-1", "course"]
        along = (course - slope[0]) @ up
        spans.append((along.min(), along.max()))
    assert all(b[0] < a[1] and b[0] > a[0] for a, b in pairwise(spans))
    slits = [sorted(line.start[0] for line in p.lines if line.kind == "cut") for p in r.part.pieces if "course" in p.id]
    assert all(slits) and abs(slits[0][0] - slits[1][0]) > 2.0
    assert not study.has_clash and not plan_bench(study).stuck


@pytest.mark.parametrize("n", [3, 4, 6, 8, 12])
def test_a_roof_sits_on_its_prism_and_lifts_off_as_one(n: int) -> None:
    study = Study(nest(("prism", {"sides": n, "side": 50.0}, ""), ("roof", {}, "mouth")))
    assert not study.has_clash, [c for c in study.checks if c.is_clash]
    at = placed(study)
    ring = np.vstack([p for (i, name), p in at.items() if name.startswith("ring-")])
    top = max(p[:, 2].max() for (_, name), p in at.items() if name.startswith("wall-"))
    t = study.pieces[0].stock.caliper
    assert ring[:, 2].min() - t / 2 == pytest.approx(top, abs=0.1)
    rims = [p for (i, name), p in at.items() if name == "rim"]
    assert len(rims) == n and all(p[:, 2].min() < top - 10 for p in rims)
    inner = min(np.linalg.norm(w[:, :2].mean(axis=0)) for w in walls(study))
    assert max(np.linalg.norm(p[:, :2].mean(axis=0)) for p in rims) < inner
    opening = opening_of(study)
    assert opening.works and "Roof" in study.assembly.motions[opening.steps[0].motion].label


def test_a_small_storey_stands_on_the_roof() -> None:
    study = Study(nest(
        ("prism", {"sides": 6, "side": 60.0}, ""), ("roof", {"storey": 44.0}, "mouth"),
        ("prism", {"sides": 6, "side": 19.0, "height": 40.0}, "top"), ("roof", {"overhang": 4.0}, "mouth"),
    ))  # fmt: skip
    assert not study.has_clash, [c for c in study.checks if c.is_clash]
    assert opening_of(study).works


@pytest.mark.parametrize("storey", [0.0, 30.0])
@pytest.mark.parametrize("n", SIDES)
def test_ridge_strips_lie_on_both_slopes_of_a_hip(n: int, storey: float) -> None:
    study = made("roof", sides=n, side=70, ridge=9, storey=storey)
    assert not [c for c in study.checks if c.is_clash and c.gap.code != "sheet"]
    at, t = placed(study), study.pieces[0].stock.caliper
    glue = study.resolved[study.design.root.id].final.glue
    for k in range(1, n + 1):
        shadows = []
        for leg, on in ((f"ridge-{k}", k), (f"ridge-{(k - 2) % n + 1}", k)):
            slope = at["slopes", f"slope-{on}"]
            across, up = slope[1] - slope[0], slope[2] - slope[0]
            across = across / np.linalg.norm(across)
            normal = np.cross(across, up)
            normal = normal / np.linalg.norm(normal)
            plane = np.array([across, np.cross(normal, across)])
            strip = at[leg, "leg-1" if leg == f"ridge-{k}" else "leg-2"]
            off = (strip - slope[0]) @ normal
            assert np.ptp(off) < 0.02 and abs(off.mean()) == pytest.approx(t + glue, abs=0.05)  # flat, a sheet above
            outline, shadow = Polygon(slope @ plane.T), Polygon(strip @ plane.T)
            assert shadow.difference(outline.buffer(0.5)).area < 0.1  # the slope's own bends
            wide = shadow.minimum_rotated_rectangle.exterior
            assert wide.length > 18.0 and shadow.area > 20.0
            shadows.append(shadow)
        assert shadows[0].intersection(shadows[1]).area < 0.05  # they meet along the middle of a slope
    acts = [step.act for step in plan_bench(study).steps if step.kind == "glue"]
    closed = next(k for k, act in enumerate(acts) if act.endswith("close the last hip"))
    strips = [k for k, act in enumerate(acts) if ".ridge strip " in act]
    assert len(strips) == n and min(strips) > closed


@pytest.mark.parametrize(("courses", "ridge"), [(1, 0.0), (4, 0.0), (5, 7.0)])
def test_every_course_has_a_guide_line_at_its_foot(courses: int, ridge: float) -> None:
    study = made("roof", sides=6, side=70, courses=courses, ridge=ridge, storey=25)
    fan = next(p for p in study.pieces if p.id.endswith(".slopes"))
    marks = [line for line in fan.lines if line.kind == "mark"]
    assert len(marks) == 6 * (courses - 1)  # the first lies on the eaves
    frames = {
        (n.instance, n.panel.name): np.array(f) for n, f in zip(study.assembly.nodes, study.shut_frames, strict=True)
    }
    at, slope = placed(study), frames["slopes", "slope-1"]
    seen = 0
    for number in range(2, courses + 1):
        foot = at[f"course-{number}-1", "course"][:2]
        flat = [((p - slope[9:]) @ slope[:3], (p - slope[9:]) @ slope[3:6]) for p in foot]  # as the piece sees it
        seen += any(
            max(math.dist(flat[0], a), math.dist(flat[1], b)) < 1.5
            for line in marks for a, b in ((line.start, line.end), (line.end, line.start))
        )  # fmt: skip
    assert seen == courses - 1


@pytest.mark.parametrize("name", sorted(path.stem for path in EXAMPLE.parent.glob("*.lantern")))
def test_every_fit_of_every_example_is_as_asked(name: str) -> None:
    study = Study(read_design(EXAMPLE.with_name(f"{name}.lantern")))
    assert [(c.gap.between, c.gap.value) for c in study.checks if not c.is_fine] == []


def test_the_example_is_built_as_it_stands() -> None:
    study = Study(read_design(EXAMPLE))
    assert not [c for c in study.checks if c.is_clash]
    opening = opening_of(study)
    assert opening.works and study.assembly.motions[opening.steps[0].motion].label == "lift Lower roof"
    assert not plan_bench(study).stuck
    bought = shopping(study, planned(study), 1)
    assert any("Board 1.5 mm" in buy.what for buy in bought)  # families bring board of their own


@pytest.mark.parametrize("kind", ["prism", "board-cover"])
def test_board_that_a_family_brings_is_cut_and_bought(kind: str) -> None:
    study = made(kind, board=2.0)
    plan = planned(study)
    assert plan.count >= 2
    assert paper_of(study, "board-2").caliper == 2.0
    assert any(buy.what.startswith("Board 2.0 mm") for buy in shopping(study, plan, 1))


def test_bends_make_the_ring_a_little_larger() -> None:
    """Three walls of 40, each bent by 120° about half a sheet: longer by t/2·(√3 − π/3) at each end; a right angle is
    what boxes are made with (worked by hand)."""
    assert corner_shift(math.pi / 2, 0.3) == pytest.approx(0.3 * FOLD_SHIFT)
    study = made("prism", sides=3, side=40)
    t = study.pieces[0].stock.caliper
    found = walls(study)
    feet = [w[w[:, 2].argsort()][:2, :2] for w in found]
    plate = placed(study)["base", "plate"][:, :2].mean(axis=0)
    for foot in feet:
        along = (foot[1] - foot[0]) / np.linalg.norm(foot[1] - foot[0])
        across = np.array([-along[1], along[0]])
        apothem = abs((foot.mean(axis=0) - plate) @ across)
        assert apothem == pytest.approx((40 + t * (math.sqrt(3) - math.pi / 3)) / (2 * math.sqrt(3)), abs=0.02)


@pytest.mark.parametrize("thick", [False, True])
@pytest.mark.parametrize("n", [3, 4, 6, 9, 12])
def test_corner_strips_and_skirting_lie_on_their_walls(n: int, thick: bool) -> None:
    """Every panel of them lies a sheet and the glue off its own wall, all around the ring: the last as true as the
    first, though each is set on its first wall only; and goes around a corner as far on one wall as on the other."""
    design = start_design("prism", {"sides": n, "side": 50.0, "height": 60.0, "corner": 8.0, "skirting": 10.0})
    study = Study(bulky(design) if thick else design)
    assert thick or (not study.has_clash and not plan_bench(study).stuck)
    t, glue = study.pieces[0].stock.caliper, study.resolved[study.design.root.id].final.glue
    frames = study.shut_frames
    walls = {n_.panel.name: k for k, n_ in enumerate(study.assembly.nodes) if n_.panel.name.startswith("wall-")}
    checked = 0
    from_corners: dict[tuple[str, str], list[float]] = {}
    for k, node in enumerate(study.assembly.nodes):
        name, copy = node.panel.name, node.instance
        if name.startswith("skirt-"):
            wall = f"wall-{name.split('-')[1]}"
        elif name.startswith("leg-"):
            first = int(copy.split("-")[1])
            wall = f"wall-{first if name == 'leg-1' else first % n + 1}"
        else:
            continue
        other = np.array(frames[walls[wall]])
        points = np.array(corners(node, frames[k])) - other[9:]
        assert points @ other[6:9] == pytest.approx(np.full(len(points), t + glue), abs=0.02), (name, copy)
        along = points @ other[:3]
        x0, x1 = (edge(p[0] for p in study.assembly.nodes[walls[wall]].panel.outline) for edge in (min, max))
        assert along.min() > x0 - (1.2 if thick else 0.4) and along.max() < x1 + (1.2 if thick else 0.4)
        checked += 1
        number = int(wall.split("-")[1])
        for where, left in ((number % n + 1, x1 - along.max()), (number, along.min() - x0)):
            from_corners.setdefault((copy, f"corner {where}"), []).append(float(left))
    assert checked == 3 * n
    both = [ends for ends in from_corners.values() if len(ends) == 2 and max(ends) < 2.0]
    assert len(both) >= n and all(one == pytest.approx(other, abs=0.02) for one, other in both)
    if thick:
        return
    # a mat on a wall has the room that they leave
    mat = Study(add_guest(study.design, study.design.root.id, Element("m", "mat"), Place("wall-2-outside")))
    sizes = mat.resolved["m"].sizes
    assert sizes["cut-width"].length <= 50.0 - 16.0 - 3.0 and sizes["cut-height"].length <= 60.0 - 10.0 - 3.0
    assert not mat.has_clash


@pytest.mark.parametrize(("host", "face", "given"), [("mat", "face", {"width": 150.0, "height": 150.0}),
                                                      ("gusset-pouch", "front", {})])  # fmt: skip
def test_a_tall_prism_is_pressed_down_by_its_board(host: str, face: str, given: dict[str, Value]) -> None:
    """No finger gets down to its feet, but its base is a board, and pressing that presses them (common practice, no
    source); of a base of thin card that is not so."""
    design = start_design(host, given)
    for board, stuck in ((1.5, False), (0.4, True)):
        prism = Element("p", "prism", "Prism", {"side": 31.75, "height": 101.6, "board": board})
        plan = plan_bench(Study(add_guest(design, design.root.id, prism, Place(face))))
        assert bool(plan.stuck) == stuck
        if not stuck:
            step = next(s for s in plan.steps if s.id == "glue:p.feet")
            assert "Glue Prism on" in step.text and not step.caution


@pytest.mark.parametrize(
    ("wide", "deep", "goes"), [(90.0, 90.0, True), (90.0, 91.0, True), (90.0, 95.0, False), (95.0, 90.0, False)]
)
def test_a_roof_goes_over_equal_walls_only(wide: float, deep: float, goes: bool) -> None:
    """Its rims meet two walls of a box that is not square (worked geometry)."""
    box = start_design("tray", {"width": wide, "depth": deep, "height": 50.0})
    design = add_guest(box, box.root.id, Element("r", "roof", "Roof"), Place("mouth"))
    if goes:
        assert not Study(design).has_clash
    else:
        with pytest.raises(ParameterError, match="all alike") as refused:
            Study(design)
        assert "lid" in refused.value.remedy
