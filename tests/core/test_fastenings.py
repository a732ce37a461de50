"""What fastens, what goes through a panel, and what stands as a body: found in the posed thing by numpy, not from what
the families add up."""

from __future__ import annotations

import math

import numpy as np
import pytest
from scipy.spatial.transform import Rotation
from shapely import Point as At
from shapely import Polygon

from yawning_lantern.bench import Reach, acts_of, find_order
from yawning_lantern.design import Design, Element, Place, Value, add_guest
from yawning_lantern.errors import ParameterError
from yawning_lantern.fold import State, corners, pose
from yawning_lantern.measure import inches
from yawning_lantern.pattern import round_hole
from yawning_lantern.pattern.validity import faults
from yawning_lantern.structures import start_design
from yawning_lantern.study import Study, opening_of
from yawning_lantern.study.at_bench import plan_bench, rules
from yawning_lantern.study.fastened import _to_outline


def put(design: Design, host: str, name: str, family: str, face: str, x: float = 0.0, y: float = 0.0,
        **given: Value) -> Design:  # fmt: skip
    settings = {key.replace("_", "-"): value for key, value in given.items()}
    return add_guest(design, host, Element(name, family, name.capitalize(), settings), Place(face, x, y))


def points(study: Study, element: str, instance: str = "") -> np.ndarray:
    """Corners of the mid-surfaces of an element when it is shut (n, 3), mm."""
    return np.array(
        [p for node, frame in zip(study.assembly.nodes, study.shut_frames, strict=True)
         if node.element == element and instance in ("", node.instance) for p in corners(node, frame)]
    )  # fmt: skip


def flapped(**given: Value) -> Design:
    """A flap on a mat, a fastener on its inside near its free edge."""
    design = put(start_design("mat", {"width": 150.0, "height": 150.0}), "mat", "flap", "flap", "face",
                 width=100.0, height=100.0, tab=12.7)  # fmt: skip
    return put(design, "flap", "clasp", "fastener", "inside", y=30.0, **given)


def clasp_of(design: Design) -> tuple[float, str, bool]:
    check = next(c for c in Study(design).checks if c.gap.code == "clasp")
    return check.gap.value, check.gap.between[1], check.is_fine


@pytest.mark.parametrize("kind", ["magnet", "hook and loop", "snap"])
def test_a_pair_reaches_what_it_closes_on(kind: str) -> None:
    """Both halves on the flap reach the mat below: the hinge goes around them, so nothing is left between."""
    value, name, fine = clasp_of(flapped(kind=kind))
    assert name == "Mat" and fine and value < 0.5
    study = Study(flapped(kind=kind))
    outer, mat = points(study, "clasp", "half-2"), points(study, "mat")
    thick = next(p for p in study.pieces if "clasp" in p.id).stock.caliper
    air = outer[:, 2].min() - mat[:, 2].max() - thick / 2 - study.pieces[0].stock.caliper / 2
    assert value == pytest.approx(max(0.0, air), abs=0.05)


def test_a_fastening_that_meets_nothing_is_told() -> None:
    value, name, fine = clasp_of(flapped(halves="one"))
    assert fine  # one half too: the flap lies on it
    # on the outside of the flap nothing lies over it
    design = put(start_design("mat", {"width": 150.0, "height": 150.0}), "mat", "flap", "flap", "face", width=100.0,
                 height=100.0)  # fmt: skip
    value, name, fine = clasp_of(put(design, "flap", "clasp", "fastener", "front"))
    assert (name, fine) == ("nothing that opens", False) and value == pytest.approx(inches(1))
    # what is kept off by something thicker beside it holds no more: a block under the same flap
    thick = put(flapped(), "flap", "block", "photo", "inside", y=-20.0, width=30.0, height=20.0, thick=6.0)
    value, name, fine = clasp_of(thick)
    assert value > 3.0 and not fine


def test_a_wall_that_never_opens_is_no_mate() -> None:
    tray = start_design("tray", {"width": 60.0, "depth": 60.0, "height": 40.0})
    design = put(tray, "tray", "clasp", "fastener", "front-inside", thick=9.0, diameter=20.0, halves="both")
    assert clasp_of(design)[1] == "nothing that opens"


@pytest.mark.parametrize(("apart", "told"), [(10.0, True), (45.0, True), (60.0, False)])
def test_a_magnet_beside_a_magnetic_stripe_is_told(apart: float, told: bool) -> None:
    """A card of ISO/IEC 7810 ID-1, 85.60 × 53.98 mm, may bear a stripe: two inches are kept (from memory)."""
    design = start_design("mat", {"width": 280.0, "height": 150.0})
    design = put(design, "mat", "card", "photo", "face", x=-80.0, format="id-card")
    design = put(design, "mat", "flap", "flap", "face", x=-80.0 + 42.8 + apart + 20.0, width=40.0, height=60.0)
    for kind, expected in (("magnet", told), ("snap", False)):
        checks = Study(put(design, "flap", "clasp", "fastener", "inside", x=-15.0, diameter=10.0, kind=kind)).checks
        found = [c for c in checks if c.gap.code == "stripe"]
        assert bool(found) == expected
        for check in found:
            assert check.against == "below" and check.gap.value == pytest.approx(apart + 5.0, abs=1.0)
    plain = put(put(design, "mat", "other", "photo", "face", x=-80.0, y=60.0, width=40.0, height=20.0), "flap",
                "clasp", "fastener", "inside", diameter=10.0)  # fmt: skip
    assert all(c.gap.between[1] != "Other" for c in Study(plain).checks if c.gap.code == "stripe")


def braided() -> Design:
    design = start_design("tray", {"width": 80.0, "depth": 80.0, "height": 60.0})
    design = put(design, "tray", "wall", "mat", "front-outside")
    return put(design, "wall", "brad", "fastener", "face", x=10.0, y=5.0, kind="brad")


def test_a_brad_goes_in_before_its_back_is_covered() -> None:
    """Holes and prongs come before what they lie behind is glued down (common practice, no source)."""
    study = Study(braided())
    (hole,) = study.holes
    piece = next(p for p in study.pieces if p.id == hole.piece)
    assert faults(piece) == () and len(piece.holes) == 1
    ring = Polygon(piece.holes[0])
    w, h = piece.size
    assert ring.centroid.distance(At(w / 2 + 10.0, h / 2 + 5.0)) < 1e-6  # where it was put, from the middle
    assert ring.buffer(1e-6).contains(ring.centroid.buffer(1.5)) and ring.area < math.pi * 1.56**2
    plan = plan_bench(study)
    ids = [step.id for step in plan.steps]
    punch, tie = ids.index(f"hole:{piece.id}:1"), ids.index("tie:brad.half-1/disc")
    glue = next(k for k, step in enumerate(plan.steps) if step.act.startswith("wall.") and step.kind == "decorate")
    assert punch < tie < glue and "sharp" in plan.steps[tie].caution
    # asked for the other way round, the order does not have it
    acts = acts_of(study.assembly)
    order = find_order([*acts[::-1]], Reach(study.assembly), rules(study))
    names = [act.name for act, _ in order.acts]
    assert names.index("brad.half-1/disc") < names.index(plan.steps[glue].act)


def test_prongs_that_nothing_covers_are_told() -> None:
    design = put(start_design("tray", {"width": 80.0, "depth": 80.0, "height": 60.0}), "tray", "brad", "fastener",
                 "front-outside", kind="brad")  # fmt: skip
    step = next(s for s in plan_bench(Study(design)).steps if s.kind == "tie")
    assert "cover it with a mat" in step.heed
    covered = plan_bench(Study(put(design, "tray", "lining", "mat", "front-inside")))
    step = next(s for s in covered.steps if s.kind == "tie")
    assert "cover it" not in step.heed
    ids = [s.id for s in covered.steps]
    assert ids.index(step.id) < next(k for k, s in enumerate(covered.steps) if s.act.startswith("lining."))


@pytest.mark.parametrize("across", [1.0, 3.0, 12.0])
def test_a_punched_hole_lets_through_what_it_is_told_for(across: float) -> None:
    ring = Polygon(round_hole((5.0, -2.0), across))
    assert ring.exterior.is_ccw is False
    assert ring.buffer(1e-9).contains(At(5.0, -2.0).buffer(across / 2))
    assert ring.area < 1.02 * math.pi * across**2 / 4


def test_a_spinner_has_its_circle_to_itself() -> None:
    mat = start_design("mat", {"width": 200.0, "height": 150.0})
    alone = put(mat, "mat", "spinner", "spinner", "face", x=-40.0, diameter=80.0)
    for x, clash in ((60.0, False), (0.0, True)):
        design = put(alone, "mat", "flap", "flap", "face", x=x, width=50.0, height=60.0)
        assert Study(design).has_clash == clash  # under a flap it is found, beside it there is none
    study = Study(alone)
    tip = points(study, "spinner", "pointer")
    middle = points(study, "spinner", "dial").mean(axis=0)
    assert np.hypot(*(tip - middle)[:, :2].T).max() < 40.0  # wherever it turns, it stays over its dial
    steps = [s.id for s in plan_bench(study).steps]
    assert steps.index("tie:spinner.brad") < steps.index("glue:spinner.dial/dial")
    with pytest.raises(ParameterError, match="beyond its dial"):
        Study(put(mat, "mat", "s", "spinner", "face", diameter=60.0, pointer=40.0))


@pytest.mark.parametrize(
    ("kind", "size"),
    [("block of sweets", (60.0, 40.0, 15.0)), ("film tub", (31.0, 31.0, 51.0)), ("plastic card", (85.6, 53.98, 0.76))],
)
def test_a_ready_made_thing_takes_the_room_it_is_told(kind: str, size: tuple[float, float, float]) -> None:
    """The plastic card is ISO/IEC 7810 ID-1; the others from memory."""
    design = put(start_design("tray", {}), "tray", "thing", "ready-made", "floor", format=kind)
    study = Study(design)
    assert not study.has_clash
    shape = points(study, "thing")
    for axis in range(3):
        assert np.ptp(shape[:, axis]) + 0.1 == pytest.approx(size[axis], abs=0.15)
    # the box has grown around it, with its play, and the fits tell the same distances
    t = study.pieces[0].stock.caliper
    walls = {n.panel.name: np.array(corners(n, f)) for n, f in zip(study.assembly.nodes, study.shut_frames, strict=True)
             if n.element == "tray"}  # fmt: skip
    wide = walls["wall-right"][:, 0].min() - walls["wall-left"][:, 0].max() - t - size[0]
    told = next(c.gap.value for c in study.checks if c.gap.code == "contents" and "across" in c.gap.between[1])
    assert told == pytest.approx(wide, abs=0.1) and inches(1 / 8) <= wide < inches(1 / 4)


def test_a_ready_made_thing_is_a_body_for_fits_and_sweep() -> None:
    # a box given too small for it, two things in one place, and a lid that cannot be shut over it
    small = start_design("tray", {"width": 50.0, "depth": 50.0, "height": 30.0})
    assert Study(put(small, "tray", "thing", "ready-made", "floor", format="block of sweets")).has_clash
    wide = start_design("tray", {"width": 150.0, "depth": 80.0, "height": 70.0})
    for x, clash in ((45.0, False), (20.0, True)):
        design = put(wide, "tray", "one", "ready-made", "floor", x=-30.0, format="film tub")
        assert (
            Study(put(design, "tray", "two", "ready-made", "floor", x=x - 30.0, format="film tub")).has_clash == clash
        )
    study = Study(put(wide, "tray", "one", "ready-made", "floor", format="film tub"))
    opening = opening_of(study)
    assert opening.works and [study.assembly.motions[s.motion].label for s in opening.steps] == ["One is lifted out"]
    lifted = pose(study.assembly, State(1.0, (1.0,)))
    low = min(p[2] for n, f in zip(study.assembly.nodes, lifted, strict=True) if n.element == "one"
              for p in corners(n, f))  # fmt: skip
    assert low > points(study, "tray")[:, 2].max()
    assert [s.text.split(".")[0] for s in plan_bench(study).steps if s.kind == "put"] == [
        "Put One in Tray, floor, inside"
    ]
    with pytest.raises(ParameterError, match="round"):
        Study(put(wide, "tray", "x", "ready-made", "floor", shape="round", width=30.0, depth=40.0))


def test_panels_of_a_fold_out_lie_within_the_first_and_come_out_one_by_one() -> None:
    mat = start_design("mat", {"width": 120.0, "height": 100.0})
    study = Study(put(mat, "mat", "out", "fold-out", "face", width=60.0, height=50.0, count=4, step=2.0))
    assert not study.has_clash
    t = study.pieces[0].stock.caliper
    first = points(study, "out")[:4]
    for k in range(1, 4):
        panel = points(study, "out")[4 * k : 4 * k + 4]
        assert np.ptp(panel[:, 0]) == pytest.approx(60.0 - 2.0 * k, abs=0.01)
        assert panel[:, 0].min() > first[:, 0].min() - t and panel[:, 0].max() < first[:, 0].max() + 2 * t
    opened = pose(study.assembly, State(1.0, (1.0,) * len(study.assembly.motions)))
    wide = np.ptp([p[0] for n, f in zip(study.assembly.nodes, opened, strict=True) if n.element == "out"
                   for p in corners(n, f)])  # fmt: skip
    assert wide > 0.75 * (60 + 58 + 56 + 54)
    with pytest.raises(ParameterError, match="last panel"):
        Study(put(mat, "mat", "out", "fold-out", "face", width=60.0, count=8, step=8.0))


@pytest.mark.parametrize("first", ["left", "right"])
def test_leaves_of_a_double_flap_lie_one_over_the_other(first: str) -> None:
    mat = start_design("mat", {"width": 200.0, "height": 100.0})
    study = Study(put(mat, "mat", "two", "double-flap", "face", width=60.0, height=50.0, first=first))
    assert not study.has_clash and opening_of(study).works
    panels = dict(zip(("left", "middle", "right"), (_panel(study, f"c{k}r1") for k in (1, 2, 3)), strict=True))
    under, over = (panels["left"], panels["right"]) if first == "left" else (panels["right"], panels["left"])
    assert panels["middle"][:, 2].mean() < under[:, 2].mean() < over[:, 2].mean()
    for leaf in (under, over):
        assert leaf[:, 0].min() > panels["middle"][:, 0].min() - 1.0
        assert leaf[:, 0].max() < panels["middle"][:, 0].max() + 1.0
    # the upper one must go before the other can
    moved = [study.assembly.motions[s.motion].label for s in opening_of(study).steps]
    assert moved[0].startswith("right" if first == "left" else "left")


def _panel(study: Study, name: str) -> np.ndarray:
    return np.array(
        [p for n, f in zip(study.assembly.nodes, study.shut_frames, strict=True)
         if n.element == "two" and n.panel.name == name for p in corners(n, f)]
    )  # fmt: skip


def test_a_round_mat_is_an_oval_in_its_border_and_holds_its_photo() -> None:
    study = Study(start_design("mat", {"content-width": 60.0, "content-height": 40.0, "shape": "round"}))
    (piece,) = study.pieces
    oval = Polygon(piece.outline)
    assert oval.area == pytest.approx(math.pi / 4 * piece.size[0] * piece.size[1], rel=0.01)
    photo = Polygon([(sx * 30.0 + piece.size[0] / 2, sy * 20.0 + piece.size[1] / 2)
                     for sx, sy in ((-1, -1), (1, -1), (1, 1), (-1, 1))])  # fmt: skip
    assert oval.contains(photo) and not study.has_clash
    less = Study(start_design("mat", {"width": 80.0, "height": 50.0, "border": 2.0, "border-up": 6.0}))
    assert less.pieces[0].size == (pytest.approx(76.0, abs=1.6), pytest.approx(38.0, abs=1.6))
    rounded = Study(start_design("mat", {"width": 80.0, "height": 50.0, "shape": "rounded", "corner": 8.0})).pieces[0]
    whole = rounded.size[0] * rounded.size[1]
    assert whole - Polygon(rounded.outline).area == pytest.approx((4 - math.pi) * 64.0, rel=0.08)  # drawn in pieces
    with pytest.raises(ParameterError, match="meet"):
        Study(start_design("mat", {"width": 20.0, "height": 50.0, "shape": "rounded", "corner": 30.0}))


@pytest.mark.parametrize(
    ("family", "given", "face"),
    [
        ("explosion-box", {"sides": 6}, "wall-2-outside"),
        ("explosion-box", {"sides": 4}, "left-outside"),
        ("mat", {"shape": "round", "width": 120.0, "height": 120.0}, "face"),
        ("prism", {"sides": 5}, "wall-2-outside"),
        ("tray", {}, "right-outside"),
    ],
)
def test_a_hole_lies_on_the_cut_piece_where_the_part_lies_in_space(
    family: str, given: dict[str, Value], face: str
) -> None:
    """Pieces are drawn where it suits their family and cut from the corner of a sheet: the hole keeps its distance from
    every corner of its panel, measured in space."""
    host = start_design(family, given)
    study = Study(put(host, host.root.id, "brad", "fastener", face, x=6.0, y=-4.0, kind="brad", diameter=10.0))
    (hole,) = study.holes
    mount = next(m for m in study.resolved[host.root.id].part.mounts if m.id == face)
    piece = next(p for p in study.pieces if p.id == hole.piece)
    index = study.assembly.index(host.root.id, mount.instance, mount.panel)
    node, frame = study.assembly.nodes[index], np.array(study.shut_frames[index])
    normal = frame[6:9]
    middle = points(study, "brad").mean(axis=0)
    middle -= ((middle - frame[9:12]) @ normal) * normal  # through the panel
    away = np.linalg.norm(np.array(corners(node, study.shut_frames[index])) - middle, axis=1)
    laid = np.array(piece.panel(mount.panel).outline)
    assert sorted(np.linalg.norm(laid - np.array(hole.at), axis=1)) == pytest.approx(sorted(away), abs=0.02)
    assert not hole.drawn or Polygon(piece.holes[0]).centroid.distance(At(hole.at)) < 1e-6


def test_a_brad_has_no_other_half() -> None:
    with pytest.raises(ParameterError, match="one piece") as refused:
        Study(flapped(kind="brad", halves="both"))
    assert "one" in refused.value.remedy and Study(flapped(kind="brad", halves="one")).resolved["clasp"]


@pytest.mark.parametrize("seed", range(20))
def test_how_far_a_point_is_from_a_panel_in_space(seed: int) -> None:
    """Beside it shapely's distance in its plane and the height above it, by Pythagoras; turned at random."""
    rng = np.random.default_rng(seed)
    flat = Polygon(rng.uniform(-40, 40, size=(12, 2))).convex_hull
    ring = np.array(flat.exterior.coords)[:-1]
    turn = Rotation.random(rng=seed).as_matrix()
    shift = rng.uniform(-50, 50, size=3)
    for x, y, high in rng.uniform(-70, 70, size=(30, 3)):
        want = math.hypot(flat.distance(At(x, y)), high)
        for corners_of in (ring, ring[::-1]):  # either face up
            world = np.column_stack([corners_of, np.zeros(len(ring))]) @ turn.T + shift
            assert _to_outline(turn @ (x, y, high) + shift, world) == pytest.approx(want, abs=1e-6)


@pytest.mark.parametrize(("to", "goes"), [(0.0, True), (0.5, False), (19.0, False), (60.0, True)])
def test_two_discs_lie_beside_one_another_or_there_is_one(to: float, goes: bool) -> None:
    given: dict[str, Value] = {"to": to, "diameter": inches(3 / 4)}
    if goes:
        assert Study(start_design("thread-disc", given)).pieces
    else:
        with pytest.raises(ParameterError, match="lie over one another"):
            Study(start_design("thread-disc", given))
