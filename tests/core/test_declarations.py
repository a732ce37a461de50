"""What families declare is true: every parameter does something, and sides show as a maker sees them."""

from __future__ import annotations

import math
import re
from collections.abc import Mapping

import numpy as np
import pytest
from scipy.spatial.transform import Rotation

from yawning_lantern.design import Element, Place, add_guest
from yawning_lantern.errors import LanternError
from yawning_lantern.exchange.choices import choices
from yawning_lantern.fold import PanelSeen, opening_state, pose
from yawning_lantern.fold.frames import crease_frame, crease_turn
from yawning_lantern.fold.seen import up_on
from yawning_lantern.structures import Parameter, families, family, start_design
from yawning_lantern.structures.kit.declare import Sized
from yawning_lantern.structures.kit.solving import worked_out
from yawning_lantern.study import Study

from ..conftest import Maker, designed
from ..plain_hosts import takers

KINDS = sorted(families())
ACROSS = "over c1r1/c2r1 c1r2/c2r2 c1r3/c2r3 c1r4/c2r4"
TOGETHER: dict[tuple[str, str], dict[str, float | str]] = {
    ("explosion-box", "wall-step"): {"layer-walls": "lower"},
    ("accordion-spine", "hills"): {"page-bulk": 8.0},
    ("rosette", "tail-length"): {"tails": 2},
    ("rosette", "tail-width"): {"tails": 2},
    ("mat", "corner"): {"shape": "rounded"},
    ("prism", "pane"): {"windows": "all"},
    ("free-strip", "folds"): {"panels": "50mm + 76.2mm + 50mm + 40mm"},
    ("free-strip", "scores"): {"panels": "50mm + 76.2mm + 50mm + 40mm"},
    **{("grid-sheet", name): {"script": ACROSS} for name in ("slits", "blank", "gone", "slants")},
    ("grid-sheet", "widths"): {"script": "over c1r1/c2r1", "columns": 2, "rows": 1},
    ("grid-sheet", "heights"): {"script": "over c1r1/c1r2", "columns": 1, "rows": 2},
}
"""What a parameter needs beside it to do anything."""
CONTENT = "content-"
OF_THE_THING = {"over-caliper", "over-bulk", "over-thick", "sides"}
"""What is taken from what it goes over or around, and does not grow with it."""


TEXTS: dict[str, float | str] = {
    "path": "c1r1 c2r1 c3r1 c4r1", "panels": "60mm + 76.2mm + 50.8mm", "widths": "60mm + 50mm",
    "heights": "60mm + 50mm",
    "script": ACROSS, "slits": "c3r1/c4r1", "blank": "c3r1/c4r1", "gone": "c4r4",
    "slants": "score 3,4 4,3",
}  # fmt: skip
"""What another text can be."""


def tries(p: Parameter, now: float | str | None) -> list[float | str]:
    """Values to try, the nearest first."""
    if p.kind in ("text", "lengths"):
        return [TEXTS[p.id]]
    if p.kind == "word":
        return [w for w in p.words if w != now]
    if p.kind == "count":
        base = int(now) if isinstance(now, int | float) else int(p.least)
        return [v for v in (base + 1, base - 1, int(p.least) + 1, base + 2) if p.least <= v <= p.most and v != now]
    base = float(now) if isinstance(now, int | float) and now else 30.0
    return [
        v for v in (base * 0.9, base * 0.8, base * 1.1, base * 0.5, 12.0, 1.0, 150.0, 280.0) if p.least <= v <= p.most
    ]


def told(study: Study) -> object:
    """All that a maker gets: pieces, frames, pockets, fits."""
    pockets = tuple((r.part.pockets, r.part.wares) for r in study.resolved.values())
    pieces = tuple((p.outline, p.holes, p.lines, p.quantity, p.note) for p in study.pieces)
    return pieces, tuple(study.shut_frames), tuple(c.gap.value for c in study.checks), study.assembly.motions, pockets


def seen_of(study: Study) -> object:
    """All that a maker gets, and how it stands open."""
    return told(study), pose(study.assembly, opening_state(study.assembly, 1.0))


def seen_with(kind: str, settings: Mapping[str, float | str]) -> object:
    """What a structure is with these settings alone."""
    return seen_of(Study(start_design(kind, settings)))


@pytest.mark.parametrize("kind", KINDS)
def test_every_parameter_does_something(kind: str) -> None:
    # contents are tried together with the rest of them, and one flap of a pair alone does nothing
    base = start_design(kind, {})
    study = Study(base)
    usual = seen_of(study)
    dead = []
    for p in families()[kind].parameters:
        if p.derived or p.structural or p.id == "content-play":
            continue
        element = base.root.id
        sized = study.resolved[element].sizes.get(p.id)
        now = p.default if sized is None else sized.value
        for value in tries(p, now):
            settings = {p.id: value}
            if p.id.startswith(CONTENT):
                settings = {q.id: 40.0 for q in families()[kind].parameters if q.id.startswith(CONTENT)}
                settings.pop("content-play", None)
                settings[p.id] = float(value)
            if kind == "explosion-box" and p.id.startswith("tag"):
                settings["corner"] = "pocket"
            beside = TOGETHER.get((kind, p.id), {})
            before = seen_with(kind, beside) if beside else usual
            settings.update(beside)
            try:
                other = Study(start_design(kind, settings))
            except LanternError:
                continue
            after = seen_of(other)
            if after != before:
                break
        else:
            dead.append(p.id)
    # these speak to guests only: the next layer, or what is put inside
    quiet = {"layer-step", "layer-walls", "wall-step"} if kind == "explosion-box" else set()
    quiet |= {"strip"} if kind == "free-strip" else set()  # any other length is refused
    quiet |= {"blank"} if kind == "grid-sheet" else set()  # refuses folds, changes none
    quiet |= {"held", "play"} if kind == "ready-made" else set()  # speak to its host
    quiet |= {"holds"} if kind == "fastener" else set()  # speaks of what it meets
    quiet |= {"scores"} if kind == "fold-out" else set()  # of what its folds go around
    assert set(dead) <= quiet


# -- which side shows, and which way is up


def seen(study: Study, element: str) -> dict[str, PanelSeen]:
    nodes = study.assembly.nodes
    return {f"{nodes[s.node].instance}/{nodes[s.node].panel.name}": s for s in study.seen(element)}


def test_a_lid_hides_its_tabs_and_shows_its_outside(studied: Maker) -> None:
    sides = seen(studied("lid", over_width=3, over_depth=3, rim_kind="double"), "lid")
    assert sides["lid/top"].front == "shut"
    for name in ("right", "left"):
        for end in ("front", "back"):
            tab = sides[f"lid/tab-{name}-{end}"]
            assert (tab.front, tab.back) == ("never", "never")  # what the inner rim is for
    assert all(sides[f"lid/wall-{w}"].front == "shut" for w in ("front", "back", "left", "right"))
    assert all(sides[f"lid/wall-{w}"].back == "never" for w in ("front", "back", "left", "right"))


def test_walls_in_a_shut_box_show_when_it_is_opened() -> None:
    sides = seen(Study(designed("explosion-box", base=4, wall=4, lid="easy")), "box")
    wall = sides["cross/wall-back"]
    assert wall.back == "shut" and wall.front == "open"
    assert sides["cross/base"].front == "open"


def test_a_mat_hides_what_it_lies_on() -> None:
    design = add_guest(designed("tray", width=4, depth=4, height=2), "tray", Element("m", "mat"), Place("back-outside"))
    bare, matted = seen(Study(designed("tray", width=4, depth=4, height=2)), "tray"), seen(Study(design), "tray")
    assert bare["tray/wall-back"].back == "shut" and matted["tray/wall-back"].back == "never"
    mat = seen(Study(design), "m")["mat/mat"]
    assert mat.front == "shut" and mat.back == "never"


def test_up_on_the_walls_is_away_from_the_floor(studied: Maker) -> None:
    sides = seen(studied("tray", width=4, depth=4, height=2), "tray")
    want = {"right": (1.0, 0.0), "back": (0.0, 1.0), "left": (-1.0, 0.0), "front": (0.0, -1.0)}
    for name, up in want.items():
        assert sides[f"tray/wall-{name}"].up == pytest.approx(up, abs=1e-6)


def test_inside_of_a_flap_has_its_head_at_the_free_edge(studied: Maker) -> None:
    # the trade's mistake: a pattern that is upside down once the flap is lifted
    study = studied("waterfall", flaps=3)
    lifted = seen(study, "waterfall")["flap-3/flap"]
    assert lifted.front == "shut" and lifted.back == "open"
    nodes = study.assembly.nodes
    opened = pose(study.assembly, opening_state(study.assembly, 1.0))
    k = next(i for i, n in enumerate(nodes) if n.instance == "flap-2" and n.panel.name == "flap")
    assert up_on(study.shut_frames[k], opened[k], True) == pytest.approx((0.0, 1.0), abs=1e-6)
    assert up_on(study.shut_frames[k], opened[k], False) == pytest.approx((0.0, -1.0), abs=1e-6)
    mount = {m.id: m for m in study.resolved["waterfall"].part.mounts}
    assert mount["flap-2-front"].up == (0.0, 1.0) and mount["flap-2-inside"].up == (0.0, -1.0)


def test_pages_keep_their_way_up_when_they_are_turned(studied: Maker) -> None:
    sides = seen(studied("accordion-spine", pages=3), "spine")
    for k in (1, 2, 3):
        assert sides[f"page-{k}/page"].up == pytest.approx((0.0, 1.0), abs=1e-6)
    assert sides["front/board"].front == "shut" and sides["front/board"].back == "open"


# -- the step over a thick fold


@pytest.mark.parametrize("strip", [False, True])
@pytest.mark.parametrize("angle", [-3.0, -1.2, -0.2, 0.4, 1.5, 3.1])
def test_crease_turn_is_the_derivative_of_crease_frame(angle: float, strip: bool) -> None:
    from yawning_lantern.assembly import CreaseStep

    step = CreaseStep((3.0, -2.0), (0.6, 0.8), (-0.8, 0.6), 0.7, 0.2, 0.0, (), strip=strip)
    axis, at, moved = (np.array(v) for v in crease_turn(step, angle))
    h = 1e-6
    for point in ((5.0, 7.0, 0.0), (-3.0, 2.0, 0.4)):
        ahead, back = (
            np.array(f[9:]) + np.array(f[:9]).reshape(3, 3).T @ np.array(point)
            for f in (crease_frame(step, angle + h), crease_frame(step, angle - h))
        )
        now = crease_frame(step, angle)
        place = np.array(now[9:]) + np.array(now[:9]).reshape(3, 3).T @ np.array(point)
        assert (ahead - back) / (2 * h) == pytest.approx(np.cross(axis, place - at) + moved, abs=1e-6)
    turn = Rotation.from_matrix(np.array(crease_frame(step, angle)[:9]).reshape(3, 3).T)
    assert turn.magnitude() == pytest.approx(abs(angle) if abs(angle) <= math.pi else 0, abs=1e-9)


@pytest.mark.parametrize("kind", families())
def test_no_two_measurements_of_a_part_share_a_label(kind: str) -> None:
    labels = [p.label for p in family(kind).parameters]
    assert len(labels) == len(set(labels))


NO_MARK = {
    *("board", "thick", "cord", "across"), *("play", "grip", "proud", "gusset", "holds"),
    *("spread", "at", "hub", "strap"), *(("prism", "plate"), ("roof", "side")),
}  # fmt: skip
"""What no maker measures along a ruler: how thick things are, play and slack, places told from a
middle, thread; what a regular polygon makes of a length that is on a mark."""


def on_larger_and_smaller(kind: str) -> list[Study]:
    """The family as a guest `g` on its first plain host made larger and smaller, where it can be had there."""
    host, given, face = takers(kind)[0]
    usual = start_design(host, {})
    sizes = Study(usual).resolved[usual.root.id].sizes
    sides = given or {n: sizes[n].value for n in ("page-width", "page-height", "board-width", "width") if n in sizes}
    studies = []
    for factor in (0.4, 0.6, 0.8, 1.0, 1.25):
        grown = {name: v * factor if isinstance(v, float) else v for name, v in sides.items()}
        design = start_design(host, grown)
        try:
            studies.append(Study(add_guest(design, design.root.id, Element("g", kind), Place(face))))
        except LanternError:
            continue
    return studies


@pytest.mark.parametrize("kind", KINDS)
def test_where_a_size_comes_from_is_as_told(kind: str) -> None:
    """What is said to be usual is so on every face, what fills its host differs from face to face; nothing fills where
    there is no host, and nothing is the maker's of what nobody told."""
    alone = Study(start_design(kind, {}))
    sizes = alone.resolved[alone.design.root.id].sizes
    declared = [p.id for p in family(kind).parameters]
    assert not {name: sizes[name] for name in declared if name in sizes and sizes[name].origin in ("fill", "given")}
    hosted = [study.resolved["g"].sizes for study in on_larger_and_smaller(kind)]
    assert len(hosted) > 1
    for name in declared:
        told = [sizes[name] for sizes in hosted if name in sizes]
        assert not [sized for sized in told if sized.origin == "given"], name
        usual = {sized.value for sized in told if sized.origin == "default"}
        assert len(usual) <= 1, (name, usual)
        if any(sized.origin == "fill" for sized in told) and name not in OF_THE_THING:
            assert len({sized.value for sized in told}) > 1, (name, told)
        # rounded by a mark, of a sheet of cells by one a cell, and cord by tens of mm
        assert not [sized for sized in told if abs(sized.residual) >= 10.0], name


@pytest.mark.parametrize("kind", KINDS)
def test_lengths_that_are_worked_out_lie_on_marks(kind: str) -> None:
    """A maker reads the trimmer by sixteenths of an inch and cuts cord by five mm. Common practice, no source."""
    alone = Study(start_design(kind, {}))
    for element, study in [(alone.design.root.id, alone), *(("g", one) for one in on_larger_and_smaller(kind))]:
        for declared in family(kind).parameters:
            sized = study.resolved[element].sizes.get(declared.id)
            if sized is None or declared.kind != "length" or declared.derived or declared.fact:
                continue
            if declared.id in NO_MARK or (kind, declared.id) in NO_MARK:
                continue
            off = min(abs(sized.length - round(sized.length / mark) * mark) for mark in (25.4 / 16, 5.0))
            assert off < 1e-6, (declared.id, sized)


@pytest.mark.parametrize(
    ("of", "told"),
    [("default", "default"), ("given", "auto"), ("auto", "auto"), ("fill", "fill"), ("given default", "auto"),
     ("fill given", "fill"), ("default fill", "fill"), ("default default", "default")],
)  # fmt: skip
def test_what_follows_from_sizes_comes_from_where_they_come(of: str, told: str) -> None:
    assert worked_out(*(Sized(1.0, origin) for origin in of.split())) == told  # type: ignore[arg-type]  # words above


def test_a_gusset_for_something_thick_is_worked_out() -> None:
    for insert, origin in ((0.0, "default"), (30.0, "auto")):
        study = Study(start_design("gusset-pouch", {"width": 100.0, "insert": insert}))
        assert study.resolved[study.design.root.id].sizes["gusset"].origin == origin


@pytest.mark.parametrize("kind", sorted(families()))
def test_what_is_declared_as_usual_is_what_a_new_one_has(kind: str) -> None:
    """Of what has a default, unless a new one is not told it at all."""
    study = Study(start_design(kind, {}))
    sizes = study.resolved[study.design.root.id].sizes
    usual = {p.id: p.default for p in families()[kind].parameters if p.default is not None and p.id in sizes}
    assert {name: sizes[name].value for name in usual} == pytest.approx(usual)


@pytest.mark.parametrize("kind", sorted(families()))
def test_a_face_with_a_number_is_called_by_it(kind: str) -> None:
    """Whatever is chosen: “panel 3” is none but the third."""
    for given in ({}, *choices(family(kind))):
        try:
            study = Study(start_design(kind, given))
        except LanternError:
            continue
        for mount in (mount for r in study.resolved.values() for mount in r.part.mounts):
            told = re.findall(r"\d+", mount.label)
            assert not told or told == re.findall(r"\d+", mount.id), (given, mount.id, mount.label)
