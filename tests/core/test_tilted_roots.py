"""A root that leans, against rotations of a library; a ready-made thing that leans takes the box about it."""

from __future__ import annotations

import math
import random

import numpy as np
import pytest
from scipy.spatial.transform import Rotation

from yawning_lantern.assembly import Guest, Instance, Mount, Part, Root, join
from yawning_lantern.design import Element, Place, add_guest, set_value
from yawning_lantern.fold import State, pose
from yawning_lantern.fold.frames import apply
from yawning_lantern.pattern import Panel, build_piece, rectangle
from yawning_lantern.stock import builtin_catalogue
from yawning_lantern.study import Study, opening_of

from ..conftest import designed

PAPER = builtin_catalogue().paper("card-270")
PLATE = rectangle(-60.0, -60.0, 60.0, 60.0)


def part(element: str, root: Root, mounts: tuple[Mount, ...] = ()) -> Part:
    piece = build_piece(f"{element}.plate", element, PAPER, [Panel("plate", "plate", PLATE)])
    return Part(element, element, (piece,), (Instance("plate", piece.id, root),), mounts)


@pytest.mark.parametrize("seed", range(30))
def test_a_leaning_root_stands_where_a_library_turns_it(seed: int) -> None:
    rng = random.Random(seed)
    tilt, ahead, side, touch = (
        rng.uniform(0, math.pi / 2),
        rng.uniform(-20, 20),
        rng.choice((1, -1)),
        rng.choice((1, -1)),
    )
    up_angle, own_angle, turn = rng.uniform(0, 6.28), rng.uniform(0, 6.28), rng.randrange(4)
    up = (math.cos(up_angle), math.sin(up_angle))
    own_up = (math.cos(own_angle), math.sin(own_angle))
    origin, middle, offset = ((rng.uniform(-9, 9), rng.uniform(-9, 9)) for _ in range(3))
    mount = Mount("face", "face", "plate", "plate", side, middle, up, PLATE, PAPER.caliper / 2)
    assembly = join([
        Guest(part("host", Root("plate", (0.0, 0.0)), (mount,)), "", "", (0.0, 0.0), 0, 0.0),
        Guest(part("guest", Root("plate", origin, own_up, touch, 0.0, tilt, ahead)), "host", "face", offset, turn, 0.0),
    ])  # fmt: skip
    frames = pose(assembly, State(1.0, ()))
    host, guest = ({n.element: f for n, f in zip(assembly.nodes, frames, strict=True)}[e] for e in ("host", "guest"))
    # the face's own axes in the world: out of it, up, right; then the guest's, turned in the face, then about its right
    out = side * np.array(host[6:9])
    high = np.array(apply(host, *up)) - np.array(apply(host, 0.0, 0.0))
    quarter = Rotation.from_rotvec(out * turn * math.pi / 2)
    high = quarter.apply(high)
    right = np.cross(high, out)
    lean = Rotation.from_rotvec(right * tilt)
    own = np.array(apply(guest, *own_up)) - np.array(apply(guest, 0.0, 0.0))
    assert own == pytest.approx(lean.apply(high), abs=1e-9)
    assert -touch * np.array(guest[6:9]) == pytest.approx(lean.apply(out), abs=1e-9)
    place = np.array(apply(host, *middle)) + ahead * high
    face_right = np.cross(np.array(apply(host, *up)) - np.array(apply(host, 0.0, 0.0)), out)
    place += offset[0] * face_right + offset[1] * (np.array(apply(host, *up)) - np.array(apply(host, 0.0, 0.0)))
    half = PAPER.caliper / 2
    assert np.array(apply(guest, *origin)) == pytest.approx(place + out * (half + half * math.cos(tilt)), abs=1e-9)
    # its lower face's edge through the origin touches the host's face: that corner is as high as the face
    corner = np.array(apply(guest, *origin, touch * half))
    assert out @ (corner - np.array(apply(host, *middle))) == pytest.approx(half, abs=1e-9)


@pytest.mark.parametrize("leans", [0, 20, 45, 75, 90])
def test_a_thing_that_leans_takes_the_box_about_it(leans: int) -> None:
    wide, deep, high = 42.0, 38.0, 9.0
    design = designed("tray", width=4, depth=4, height=2)
    card = Element("c", "ready-made", "Card", {"width": wide, "depth": deep, "height": high, "leans": leans})
    study = Study(add_guest(design, "tray", card, Place("floor")))
    floor = study.resolved["tray"].final.paper.caliper
    points = np.array([
        apply(f, *p) for n, f in zip(study.assembly.nodes, study.shut_frames, strict=True) if n.element == "c"
        for p in n.panel.outline
    ])  # fmt: skip
    low, top = points.min(axis=0), points.max(axis=0)
    c, s = math.cos(math.radians(leans)), math.sin(math.radians(leans))
    assert top - low == pytest.approx([wide, deep * c + high * s, deep * s + high * c], abs=0.2)
    assert (top + low)[:2] / 2 == pytest.approx([0.0, 0.0], abs=0.1) and low[2] == pytest.approx(floor, abs=0.1)
    need = study.resolved["c"].need
    assert need.height is not None and need.height.value == pytest.approx(deep * s + high * c)
    assert need.nominal == pytest.approx((wide, deep * c + high * s))
    before = {check.gap.where: check.gap.value for check in study.checks if check.gap.element == "c"}
    for name, by in (("depth", 1.0), ("height", 1.0)):  # every lever moves its gap as far as it says
        after = Study(set_value(study.design, "c", name, {"depth": deep, "height": high}[name] + by))
        for check in (k for k in after.checks if k.gap.element == "c" and k.gap.where in before):
            levers = [t.lever for t in check.gap.span.terms if t.lever and t.lever.element == "c"]
            moved = sum(lever.slope * by for lever in levers if lever.parameter == name)
            assert check.gap.value - before[check.gap.where] == pytest.approx(moved, abs=1e-6)
    opening = opening_of(study)
    assert opening.works and [step.travel > deep * s + high * c for step in opening.steps] == [True]


@pytest.mark.parametrize("leans", [0, 35, 90])
def test_a_round_thing_is_round_and_carries_what_lies_on_its_top(leans: int) -> None:
    across, high = 40.0, 22.0
    design = designed("tray", width=4, depth=4, height=3)
    tub = Element("c", "ready-made", "Tub", {"width": across, "height": high, "shape": "round", "leans": leans})
    design = add_guest(add_guest(design, "tray", tub, Place("floor")), "c", Element("m", "mat"), Place("top"))
    study = Study(design)
    nodes = dict(zip(((n.element, n.panel.name) for n in study.assembly.nodes), study.shut_frames, strict=True))
    panels = {n.panel.name: n.panel for n in study.assembly.nodes if n.element == "c"}
    base, top = nodes["c", "base"], nodes["c", "top"]
    middle = np.mean([apply(base, *p) for p in panels["base"].outline], axis=0)
    axis = np.array(base[6:9])
    for name, panel in panels.items():
        if not name.startswith("side"):
            continue
        for p in panel.outline:  # every corner of every side as far from the axis as a circle about 16 sides asks
            off = np.array(apply(nodes["c", name], *p)) - middle
            off -= (off @ axis) * axis
            assert np.linalg.norm(off) == pytest.approx(across / 2 / math.cos(math.pi / 16), abs=0.15)
    assert len(panels) == 18
    assert abs(np.array(top[6:9]) @ axis) == pytest.approx(1.0)
    lid = np.mean([apply(top, *p) for p in panels["top"].outline], axis=0)
    assert abs((lid - middle) @ axis) == pytest.approx(high, abs=0.15)
    mat = next(n for n in study.assembly.nodes if n.element == "m")
    placed = np.mean([apply(nodes["m", mat.panel.name], *p) for p in mat.panel.outline], axis=0)
    out = (lid - middle) / np.linalg.norm(lid - middle)
    assert placed == pytest.approx(lid + out * (0.05 + mat.piece.stock.caliper / 2), abs=0.02)
    room = study.resolved["c"].rooms["top"].nominal
    assert room == pytest.approx((across / math.sqrt(2),) * 2)
