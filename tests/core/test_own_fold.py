"""A sheet of one's own: what is told and read back, what a script makes, and that its model is what its folding says.

The folded place of every panel is taken from the posed model and compared with reflections by plain matrices; what is
counted (faces, pockets) with what a hand counts.
"""

from __future__ import annotations

import random

import numpy as np
import pytest
from shapely.geometry import Polygon

from yawning_lantern.design import Element, Place, Value, add_guest
from yawning_lantern.errors import ParameterError
from yawning_lantern.flatfold.anatomy import anatomy
from yawning_lantern.flatfold.cavity import stacks
from yawning_lantern.flatfold.folding import carried_out, sound, stepped
from yawning_lantern.flatfold.order import broken
from yawning_lantern.flatfold.script import Bring, Glue, Turn
from yawning_lantern.flatfold.state import flat
from yawning_lantern.flatfold.telling import (
    own_sheet,
    parse_cells,
    parse_grid,
    parse_script,
    parse_segments,
    parse_slants,
    script_text,
    segments_of,
    step_words,
)
from yawning_lantern.fold import corners
from yawning_lantern.measure import inches
from yawning_lantern.pattern.convex import largest_level
from yawning_lantern.structures import start_design
from yawning_lantern.study import Study, opening_of

from ..contracts import broken_as_guest, broken_as_host
from ..plain_hosts import hosted, hosting

POCKETED = {
    "widths": "76.2mm + 76.2mm + 76.2mm", "heights": "76.2mm + 76.2mm", "slits": "c1r2/c2r2 c2r2/c3r2",
    "script": "over c2r1/c2r2; over c1r1/c1r2; over c3r1/c3r2; over c2r1/c1r1; over c2r1/c3r1; "
              "glue c1r1/c1r2 left right",
}  # fmt: skip
MAP = "over c1r1/c2r1 c1r2/c2r2; over c1r1/c1r2 c2r1/c2r2"


def own(**given: str | float) -> Study:
    """A grid sheet with a script; lengths in mm."""
    return Study(start_design("grid-sheet", given))


# -- text


def test_scripts_are_read_as_they_are_told() -> None:
    text = (
        "over c1r1/c2r1; under c1r1/c1r2 c2r1/c2r2; tuck c1r1a/c1r1b over c2r2 under c3r3; turn; "
        "glue c1r1/c2r1 left foot"
    )
    script = parse_script(text, 6.0)
    assert script_text(script) == text and parse_script(script_text(script), 6.0) == script
    assert step_words(script[2]) == "Tuck c1r1b over c2r2, under c3r3"
    assert step_words(script[4]) == "Glue c1r1 to c2r1 along left and foot"


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("fold c1r1/c2r1", "no act"), ("over c1r1", "no score"), ("glue c1r1/c2r1 top", "no edge"),
        ("turn it", "no act"), ("over x/y", "no panel"), ("tuck over c1r1", "without a score"), ("over", "no act"),
    ],
)  # fmt: skip
def test_what_is_no_script_is_told(text: str, words: str) -> None:
    with pytest.raises(ParameterError, match=words) as told:
        parse_script(text, 6.0)
    assert told.value.remedy


def test_grids_are_read_as_people_say_them() -> None:
    i = inches
    assert parse_grid("3 3 3 3 by 3 3") == ((i(3),) * 4, (i(3),) * 2)
    assert parse_grid("3 1/4 + 3 1/2 by 2 1/2 4.5") == ((i(3.25), i(3.5)), (i(2.5), i(4.5)))
    assert parse_grid("30 30 × 40", 1.0) == ((30.0, 30.0), (40.0,))
    assert parse_grid("1/2 3/4 by 1") == ((i(0.5), i(0.75)), (i(1),))
    for text in ("3 3", "by 3", "3 x 3", "3 by x", "3/0 by 1"):
        with pytest.raises(ParameterError):
            parse_grid(text)


@pytest.mark.parametrize(
    ("tell", "text", "words"),
    [
        (parse_cells, "c1r1 d2", "no cell"), (parse_segments, "c1r1/c3r1", "side by side"),
        (parse_segments, "c1r1", "no stretch"),
        (lambda text: parse_slants(text, (1.0,), (1.0,)), "score 0,0", "no slant"),
        (lambda text: parse_slants(text, (1.0,), (1.0,)), "score 0,0 2,1", "beyond the sheet"),
        (lambda text: own_sheet((9.0, 9.0), (9.0,), slits=text), "c1r1/c1r2", "no c1r2"),
    ],
)  # fmt: skip
def test_what_cannot_be_drawn_is_told(tell: object, text: str, words: str) -> None:
    assert callable(tell)
    with pytest.raises(ParameterError, match=words):
        tell(text)


def test_every_inner_stretch_is_named_once() -> None:
    assert len(segments_of(4, 3)) == 3 * 3 + 2 * 4 and len(set(segments_of(4, 3))) == 17
    sheet = own_sheet((10.0,) * 4, (10.0,) * 3, slits=" ".join("/".join(pair) for pair in segments_of(4, 3)))
    assert not sheet.hinges and sum(np.hypot(*(np.subtract(c.end, c.start))) for c in sheet.cuts) == pytest.approx(170)


# -- rectangles in faces


@pytest.mark.parametrize("seed", range(12))
def test_the_rectangle_in_a_face_is_nearly_the_largest(seed: int) -> None:
    """Against rectangles put in at random; inside, by shapely."""
    rng = np.random.default_rng(seed)
    hull = Polygon(rng.uniform(0, 100, (7, 2))).convex_hull
    ring = list(hull.exterior.coords)[:-1]
    x0, y0, x1, y1 = largest_level(ring if hull.exterior.is_ccw else ring[::-1])
    assert hull.buffer(1e-3).contains(Polygon([(x0, y0), (x1, y0), (x1, y1), (x0, y1)]))
    best = 0.0
    for a, b, c, d in rng.uniform(0, 100, (4000, 4)):
        box = Polygon([(a, b), (c, b), (c, d), (a, d)])
        if box.area > best and hull.contains(box):
            best = box.area
    assert (x1 - x0) * (y1 - y0) > 0.97 * best


def test_half_a_square_holds_a_square_of_a_quarter() -> None:
    x0, y0, x1, y1 = largest_level([(0, 0), (8, 0), (0, 8)])  # geometry: half the legs each
    assert (x1 - x0, y1 - y0) == pytest.approx((4, 4))


# -- the sheet folded


@pytest.mark.parametrize("given", [POCKETED, {"columns": 2, "rows": 2, "script": MAP}])
def test_panels_lie_where_reflections_put_them(given: dict[str, str | float]) -> None:
    study = own(**given)
    r = study.resolved[study.design.root.id]
    piece = r.part.pieces[0]
    # every panel mirrored in the scores between it and the lowest, one after another
    root = study.assembly.nodes[0].panel.name
    seen: dict[str, np.ndarray] = {root: np.eye(3)}
    while len(seen) < len(piece.panels):
        for crease in piece.creases:
            for a, b in ((crease.a, crease.b), (crease.b, crease.a)):
                if a in seen and b not in seen:
                    n = np.array([-(crease.end[1] - crease.start[1]), crease.end[0] - crease.start[0]])
                    n = n / np.linalg.norm(n)
                    flip = np.eye(3)
                    flip[:2, :2] -= 2 * np.outer(n, n)
                    flip[:2, 2] = 2 * n * (n @ np.array(crease.start))
                    seen[b] = seen[a] @ flip
    at = {node.panel.name: np.array(corners(node, frame))[:, :2] for node, frame in zip(
        study.assembly.nodes, study.shut_frames, strict=True)}  # fmt: skip
    home = np.array(piece.panel(root).outline)
    for name, places in at.items():
        flatly = np.c_[np.array(piece.panel(name).outline), np.ones(4)] @ seen[name].T
        # the root may be turned over and moved: compare distances to its corners
        want = np.linalg.norm(flatly[:, None, :2] - home[None], axis=-1)
        have = np.linalg.norm(places[:, None] - at[root][None], axis=-1)
        assert have == pytest.approx(want, abs=0.05), name


def test_a_pocket_is_found_with_its_mouth_and_what_opens() -> None:
    study = own(**POCKETED)
    r = study.resolved[study.design.root.id]
    (pocket,) = r.part.pockets
    assert set(pocket.panels) == {"c1r1", "c1r2"} and pocket.mouth == "down"  # its fold is at the head
    assert pocket.width == pytest.approx(76.2 - 2 * 6.35) and pocket.depth == pytest.approx(76.2)
    assert [swing.name for swing in r.part.swings] == ["act-5", "act-4", "act-3", "act-1"]  # glue holds the second
    opening = opening_of(study)
    assert opening.works and len(opening.steps) == 4
    faces = [(m.panel, m.side) for m in r.part.mounts]
    assert len(faces) == len(set(faces)) == 9  # 12 less two in the pocket and the one it lies on
    assert ("c1r2", 1) not in faces and ("c1r1", 1) not in faces  # the inside of the pocket
    assert r.sizes["thick"].length == pytest.approx(6 * 0.27 + 0.0, abs=0.2)


@pytest.mark.parametrize(
    ("columns", "rows", "fold", "glued", "mouth"),
    [(1, 2, "c1r1/c1r2", "left right", "down"), (1, 2, "c1r2/c1r1", "left right", "up"),
     (2, 1, "c1r1/c2r1", "head foot", "left"), (2, 1, "c2r1/c1r1", "head foot", "right")],
)  # fmt: skip
def test_a_pocket_opens_across_from_its_fold(columns: int, rows: int, fold: str, glued: str, mouth: str) -> None:
    """One sheet of 80 by 60 a panel folded once and glued at both sides, in all four ways."""
    study = own(widths=" + ".join(["80mm"] * columns), heights=" + ".join(["60mm"] * rows),
                script=f"over {fold}; glue c1r1/{'c1r2' if rows > 1 else 'c2r1'} {glued}")  # fmt: skip
    (pocket,) = study.resolved[study.design.root.id].part.pockets
    across, deep = (80.0, 60.0) if rows > 1 else (60.0, 80.0)
    assert (pocket.mouth, pocket.width, pocket.depth) == (mouth, pytest.approx(across - 2 * 6.35), pytest.approx(deep))


@pytest.mark.parametrize("script", ["over c1r1/c2r1", "under c1r1/c2r1", "over c2r1/c1r1"])
@pytest.mark.parametrize(("face", "apart", "which"), [("inside", True, 0), ("inside", True, 1), ("outside", False, 0)])
def test_what_is_glued_between_two_layers_holds_them_apart(face: str, apart: bool, script: str, which: int) -> None:
    """Both faces that meet, and the one that looks out; the last lies on what it is glued on."""
    design = start_design("grid-sheet", {"columns": 2, "rows": 1, "script": script})
    bare = Study(design)
    r = bare.resolved[design.root.id]
    (over, under) = sorted(range(2), key=lambda k: bare.shut_frames[k][11])
    inner = {(bare.assembly.nodes[k].panel.name, 1 if bare.shut_frames[k][8] > 0 else -1) for k in (over,)}
    inner |= {(bare.assembly.nodes[k].panel.name, -1 if bare.shut_frames[k][8] > 0 else 1) for k in (under,)}
    chosen = [m for m in r.part.mounts if ((m.panel, m.side) in inner) == apart][which]
    study = Study(add_guest(design, design.root.id, Element("card", "mat", "", stock="chipboard-2"), Place(chosen.id)))

    def between(one: Study) -> float:
        heights = [f[11] for f, n in zip(one.shut_frames, one.assembly.nodes, strict=True) if n.element != "card"]
        return max(heights) - min(heights)

    more = 2.0 + study.catalogue.adhesive(design.adhesive).thickness if apart else 0.0
    assert between(study) - between(bare) == pytest.approx(more, abs=0.03), face
    assert not study.has_clash


@pytest.mark.parametrize("slant", ["1,0 2,1", "1,1 2,0"])
def test_what_turns_over_a_slant_keeps_its_promises(slant: str) -> None:
    """A strip folded over a corner goes on upwards: its faces lie where they are told, turned by a quarter."""
    given: dict[str, Value] = {"widths": "50mm + 60mm + 80mm", "heights": "60mm", "slants": f"score {slant}",
                               "script": "over c2r1a/c2r1b"}  # fmt: skip
    cases = list(hosting("grid-sheet", given))
    assert len(cases) >= 5 and list(broken_as_host(cases)) == []


@pytest.mark.parametrize("wide", [30.0, 50.0])
def test_the_cover_is_what_shows_most_of_it(wide: float) -> None:
    """A panel of 80 mm under one of 30 shows 50 of itself; under one of 50 it shows 30: by hand."""
    study = own(widths=f"80mm + {wide}mm", heights="60mm", script="over c1r1/c2r1")
    mounts = {mount.id: mount.panel for mount in study.resolved[study.design.root.id].part.mounts}
    assert mounts["cover"] == ("c1r1" if wide < 40 else "c2r1") and {mounts["cover"], mounts["page-1"]} == set(
        mounts.values()
    )


def test_an_own_fold_takes_what_a_face_lets_its_cells_be() -> None:
    """An eighth is left of a face; no sheet is larger than twelve inches. Common practice, no source."""
    given: dict[str, Value] = {"columns": 2, "rows": 1, "script": "over c1r1/c2r1"}
    assert list(broken_as_guest(hosted("grid-sheet", given))) == []
    for wide, high in ((100.0, 80.0), (300.0, 400.0)):
        host = start_design("mat", {"width": wide, "height": high})
        study = Study(add_guest(host, host.root.id, Element("g", "grid-sheet", settings=given), Place("face")))
        mat, sizes = (study.resolved[e].sizes for e in (host.root.id, "g"))
        left = [mat[f"cut-{side}"].length - 25.4 / 8 for side in ("width", "height")]
        cell = [min(free, most) for free, most in zip(left, (152.4, 304.8), strict=True)]
        assert [sizes["sheet-width"].length / 2, sizes["sheet-height"].length] == pytest.approx(cell)
        assert (sizes["wide"].length, sizes["wide"].origin) == (pytest.approx(cell[0]), "fill")
    small = start_design("mat", {"width": 10.0, "height": 80.0})
    with pytest.raises(ParameterError, match="leaves"):
        Study(add_guest(small, small.root.id, Element("g", "grid-sheet", settings=given), Place("face")))


def test_a_map_opens_again_its_last_fold_flat_first() -> None:
    study = own(columns=2, rows=2, script=MAP)
    opening = opening_of(study)
    assert opening.works and [s.motion for s in opening.steps] == [0, 1]
    r = study.resolved[study.design.root.id]
    assert [round(angle, 6) for _, _, angle in r.part.swings[0].creases] == [0.0, 0.0]


def test_cells_taken_out_are_off_cuts_and_widths_may_differ() -> None:
    study = own(widths="60mm + 76mm + 59mm", heights="50mm + 90mm", gone="c1r2 c3r2",
                script="over c2r1/c2r2; over c2r1/c1r1; over c2r1/c3r1")  # fmt: skip
    r = study.resolved[study.design.root.id]
    piece = r.part.pieces[0]
    shape = Polygon(piece.outline)
    assert shape.area == pytest.approx(195 * 50 + 76 * 90)
    assert r.sizes["wide"].length == pytest.approx(76) and r.sizes["high"].length == pytest.approx(90)


@pytest.mark.parametrize(
    ("given", "words"),
    [
        ({"script": "over c1r1/c2r1", "columns": 2, "rows": 2}, "Slit"),
        ({"script": "glue c1r1/c2r1", "columns": 2, "rows": 1}, "do not lie on one another"),
        ({"script": "over c1r1/c2r1; over c1r1/c2r1", "columns": 2, "rows": 1}, "folded already"),
        ({"script": "over c1r1/c2r1", "blank": "c1r1/c2r1", "columns": 2, "rows": 1}, "no score"),
        ({"script": "over c1r1/c2r1", "widths": "3mm + 60mm", "rows": 1}, "too narrow"),
        ({"script": "over c1r1/c2r1", "columns": 2, "rows": 1, "content-width": 50.0}, "picture"),
        ({"slits": "c1r1/c2r1"}, "fold of your own"),
    ],
)
def test_what_cannot_be_folded_is_told_with_a_way_out(given: dict[str, str | float], words: str) -> None:
    with pytest.raises(ParameterError, match=words) as told:
        own(**given)
    assert told.value.remedy


# -- random grids, slits and scripts


@pytest.mark.parametrize("block", range(4))
def test_random_sheets_fold_soundly_or_are_refused_with_a_reason(block: int) -> None:
    """200 random grids in all with random slits and acts: what is accepted keeps its area, and every two panels over a
    place have an order that paper can do (judged by the conditions on layers, not by folding); what is refused says
    why."""
    accepted = refused = 0
    for seed in range(50 * block, 50 * block + 50):
        rng = random.Random(seed)
        c, r = rng.randint(1, 4), rng.randint(1, 3)
        columns = [rng.choice((30.0, 30.0, 25.0, 40.0)) for _ in range(c)]
        rows = [rng.choice((30.0, 30.0, 20.0)) for _ in range(r)]
        stretches = segments_of(c, r)
        slits = " ".join("/".join(pair) for pair in stretches if rng.random() < 0.4)
        sheet = own_sheet(columns, rows, slits)
        state, script = flat(sheet), []
        for _ in range(7):
            if not sheet.hinges:
                break
            k = rng.randrange(len(sheet.hinges))
            h = sheet.hinges[k]
            names = (state.name(h.a), state.name(h.b))
            pair = names if rng.random() < 0.5 else names[::-1]
            step = rng.choice((Bring((pair,), rng.choice(("over", "under"))), Turn(), Glue(*pair)))
            try:
                state = stepped(state, step)
                script.append(step)
                accepted += 1
            except ParameterError as problem:
                refused += 1
                assert problem.what and problem.remedy
        assert not broken(state) and not sound(state)
        assert sum(Polygon(ring).area for ring in state.places) == pytest.approx(sum(columns) * sum(rows))
        layers = stacks(state)
        assert sum(Polygon(s.outline).area * len(s.layers) for s in layers) == pytest.approx(
            sum(columns) * sum(rows), rel=1e-4
        )
        for stack in layers:  # from below to above, one order for all
            assert all(state.over(i, j) == 1 for n, i in enumerate(stack.layers) for j in stack.layers[n + 1 :])
        assert carried_out(sheet, tuple(script))[-1] == state
        assert anatomy(sheet, parse_script(script_text(script), 6.0)).layers == layers
    assert accepted > 40 and refused > 40
