"""Structures of one sheet: folded as their script says, at true thickness, by their check values, anywhere."""

from __future__ import annotations

import math
import random
from collections import Counter
from pathlib import Path

import numpy as np
import pytest
from msgspec.structs import replace
from shapely.geometry import Polygon
from shapely.ops import unary_union

from yawning_lantern.assembly import Guest, join
from yawning_lantern.errors import LanternError, ParameterError
from yawning_lantern.exchange.design_file import read_design
from yawning_lantern.exchange.plan import plan
from yawning_lantern.flatfold.cavity import hollows
from yawning_lantern.flatfold.folding import carried_out, sound
from yawning_lantern.flatfold.snakes import beside
from yawning_lantern.fold import State, pose
from yawning_lantern.measure import inches
from yawning_lantern.opening.plates import Plates
from yawning_lantern.pattern import area
from yawning_lantern.structures import families, start_design
from yawning_lantern.structures.kit.declare import Family
from yawning_lantern.structures.kit.free_strip import readings
from yawning_lantern.structures.kit.one_sheet import FoldedSheet
from yawning_lantern.study import Study
from yawning_lantern.study.at_bench import plan_bench
from yawning_lantern.study.opened import opening_of
from yawning_lantern.study.page_map import heads, pages_of

KINDS = [kind.id for kind in families().values() if hasattr(kind, "made")]
INCH = 25.4
EXAMPLES = Path(__file__).parents[2] / "src/yawning_lantern/examples"


def study_of(kind: str, **given: float | str) -> Study:
    """A design of that one structure, lengths in inches, counts and words as they are."""
    known = {p.id: p for p in families()[kind].parameters}
    settings = {
        name.replace("_", "-"): value
        if isinstance(value, str) or known[name.replace("_", "-")].kind == "count"
        else inches(value)
        for name, value in given.items()
    }
    return Study(start_design(kind, settings))


def made_of(study: Study) -> FoldedSheet:
    r = study.resolved[study.design.root.id]
    kind: Family = r.family
    made: FoldedSheet = kind.made(r.final, r.sizes)  # type: ignore[attr-defined]  # only folded families have it
    return made


def value(study: Study, name: str) -> float:
    return study.resolved[study.design.root.id].sizes[name].length


def test_there_are_such_families() -> None:
    assert {
        "maze-book",
        "flip-book",
        "pocket-page",
        "pinwheel-pouch",
        "gusset-pouch",
        "mini-envelope",
        "grid-sheet",
    } <= set(KINDS)


@pytest.mark.parametrize("kind", KINDS)
def test_the_making_goes_through_the_script(kind: str) -> None:
    """After each stage the posed panels lie as the sheet's reflections say: by matrices, not by creases."""
    study = study_of(kind)
    made = made_of(study)
    part = study.resolved[study.design.root.id].part
    states = [s for s, step in zip(carried_out(made.sheet, made.script), (None, *made.script), strict=True)
              if step is None or hasattr(step, "hinges")]  # fmt: skip
    assert len(states) == len(part.folding) + 1
    nodes = study.assembly.nodes
    root = made.sheet.at(nodes[0].panel.name)
    for k, state in enumerate(states):
        frames = pose(study.assembly, State(k / len(part.folding), (0.0,) * len(study.assembly.motions)))
        a, b, c, d, e, f = state.isos[root]
        home = np.linalg.inv(np.array([[a, c, e], [b, d, f], [0, 0, 1]]))
        turn, at = np.array(frames[0][:9]).reshape(3, 3).T, np.array(frames[0][9:])
        for node, frame in zip(nodes, frames, strict=True):
            g, h, i, j, m, n = state.isos[made.sheet.at(node.panel.name)]
            flat = home @ np.array([[g, i, m], [h, j, n], [0, 0, 1]])
            rows, to = np.array(frame[:9]).reshape(3, 3).T, np.array(frame[9:])
            for x, y in node.panel.outline:
                seen = turn.T @ (rows @ np.array([x, y, 0.0]) + to - at)
                want = flat @ np.array([x, y, 1.0])
                assert seen[:2] == pytest.approx(want[:2], abs=1e-6), (kind, k, node.panel.name)


@pytest.mark.parametrize("kind", KINDS)
def test_no_fold_goes_through_paper(kind: str) -> None:
    """Plates of true thickness, by a general collision library, in eight poses of every fold."""
    study = study_of(kind)
    part = study.resolved[study.design.root.id].part
    plates, n = Plates(study.assembly), len(part.folding)
    rest = (0.0,) * len(study.assembly.motions)
    for k in range(n):
        for share in (0.1, 0.25, 0.4, 0.5, 0.6, 0.75, 0.9, 1.0):
            found = plates.shut_contacts(pose(study.assembly, State((k + share) / n, rest)))
            assert not found, (kind, k, share, [(c.a, c.b, c.depth) for c in found][:3])


@pytest.mark.parametrize("kind", ["pinwheel-pouch", "gusset-pouch"])
def test_the_same_folds_the_other_way_round_go_through_paper(kind: str) -> None:
    """What holds the check above to its word."""
    study = study_of(kind)
    part = study.resolved[study.design.root.id].part
    wrong = join([Guest(replace(part, folding=part.folding[::-1]))])
    plates, n = Plates(wrong), len(part.folding)
    rest = (0.0,) * len(wrong.motions)
    assert any(plates.shut_contacts(pose(wrong, State(k / (4 * n), rest))) for k in range(4 * n))


@pytest.mark.parametrize("kind", KINDS)
def test_anywhere(kind: str) -> None:
    """Random sizes: paper is neither made nor lost, layers share no place, the end is one paper can be in, and what is
    called a pocket has a mouth; else it is refused with a reason."""
    rng = random.Random(kind)
    good = 0
    for _ in range(25):
        given = {}
        for p in families()[kind].parameters:
            if p.derived or p.kind in ("word", "text", "lengths") or rng.random() < 0.5:
                continue
            low, high = max(p.least, 3.0), min(p.most, 400.0)
            given[p.id] = rng.randint(int(p.least), int(p.most)) if p.kind == "count" else rng.uniform(low, high)
        try:
            study = Study(start_design(kind, given))
        except LanternError as problem:
            assert problem.what and problem.remedy, given
            continue
        good += 1
        made = made_of(study)
        assert not sound(made.state), given
        piece = made.piece
        whole = sum(area(panel.outline) for panel in piece.panels)
        assert Polygon(piece.outline, piece.holes).area == pytest.approx(whole, rel=1e-6)
        w, h = made.sheet.width, made.sheet.height
        assert whole + sum(abs(area(shape)) for _, shape in made.sheet.offcuts) <= w * h + 1e-3
        levels: dict[float, list[Polygon]] = {}
        for place, level in zip(made.state.places, made.level, strict=True):
            levels.setdefault(round(level, 4), []).append(Polygon(place))
        for shapes in levels.values():
            assert unary_union(shapes).area == pytest.approx(sum(s.area for s in shapes), rel=1e-4)
        part = study.resolved[study.design.root.id].part
        turning = [tuple(crease.split("/")) for swing in part.swings for _, crease, _ in swing.creases]
        for hollow in hollows(made.state, turning):
            between = {", ".join(pair) for pair in hollow.walls}
            assert {r.by for r in hollow.rim if r.kind in ("open", "page")} <= between, given
        if part.pockets and kind not in ("pinwheel-pouch",):
            found = [x for x in hollows(made.state, turning) if x.mouth and x.length("glue", "fold", "wrapped") > 0]
            assert len(found) >= len(part.pockets), (given, len(found))
        for pocket in part.pockets:
            assert pocket.width > 0 and pocket.depth > 0
    assert good > 3


@pytest.mark.parametrize("block", range(6))
def test_any_row_of_cells_makes_a_grid_sheet(block: int) -> None:
    """Ten walks at random through a grid each, cells left over cut away: each folds, opens clear, and has no clash."""
    rng = random.Random(block)
    for _ in range(10):
        columns, rows = rng.randint(1, 5), rng.randint(2, 4)
        path = [(rng.randrange(columns), rng.randrange(rows))]
        while True:
            free = [q for q in beside(path[-1], columns, rows) if q not in path]
            if not free or len(path) > 14:
                break
            path.append(rng.choice(free))
        if len(path) < 2:
            continue
        words = " ".join(f"c{c + 1}r{r + 1}" for c, r in path)
        study = study_of("grid-sheet", columns=columns, rows=rows, path=words)
        assert not study.has_clash
        assert opening_of(study).works, words
        made = made_of(study)
        mounts = study.resolved[study.design.root.id].part.mounts
        assert mounts and {tuple(sorted(map(abs, m.up))) for m in mounts} == {(0.0, 1.0)}, words  # along the sheet
        assert len(made.sheet.facets) == len(path) and len(made.sheet.offcuts) == columns * rows - len(path)


def test_maze_book_by_its_figures() -> None:
    """12 × 12 at 3, 6, 9 both ways: pages 3 × 3, mats 2 7/8, 7 pockets, 16 inner pages, 16 layers (geometry)."""
    study = study_of("maze-book", sheet_width=12, sheet_height=12)
    names = ("page-width", "page-height", "mat-width", "mat-height")
    assert [value(study, n) / INCH for n in names] == pytest.approx([3, 3, 2.875, 2.875])
    assert (value(study, "pages"), value(study, "pockets")) == (16, 7)
    r = study.resolved[study.design.root.id]
    slits = [line for line in r.part.pieces[0].lines if line.kind == "cut"]
    assert sorted(math.dist(line.start, line.end) / INCH for line in slits) == pytest.approx([9, 9, 9])
    assert {round(line.start[1] / INCH) for line in slits} == {3, 6, 9}
    assert Counter(pocket.mouth for pocket in r.part.pockets) == {"up": 6, "right": 1}
    made = made_of(study)
    assert made.thick == pytest.approx(16 * made.caliper + 7 * r.final.glue)
    # every page is the front of the sheet, eight of them with its up to the head
    ups = [mount.up for mount in r.part.mounts if mount.id.startswith("page")]
    assert Counter(round(up[1]) for up in ups) == {1: 8, -1: 8}
    assert all(mount.side == 1 for mount in r.part.mounts if mount.id.startswith("page"))


@pytest.mark.parametrize("kind", KINDS)
def test_every_page_has_its_head_where_the_map_says(kind: str) -> None:
    """The up of every page, posed, is the up of all of them; on the sheet it points as the map tells."""
    study = study_of(kind)
    r = study.resolved[study.design.root.id]
    pages = pages_of(study, r)
    assert [page.face for page in pages] == [mount.id for mount in r.part.mounts if not mount.seat]
    ways = {"right": (1, 0), "up": (0, 1), "left": (-1, 0), "down": (0, -1)}
    seen = []
    for page, mount in zip(pages, [m for m in r.part.mounts if not m.seat], strict=True):
        k = study.assembly.index(r.element.id, mount.instance, mount.panel)
        turn = np.array(study.shut_frames[k][:9]).reshape(3, 3).T
        if kind != "pinwheel-pouch":  # its sheet lies aslant
            assert ways[page.up] == pytest.approx(mount.up, abs=1e-6)
        seen.append(turn @ np.array([*mount.up, 0.0]))
        labels = {p.name: p.label for p in r.part.pieces[0].panels}
        assert page.panel == labels[mount.panel]
    assert all(np.allclose(up, seen[0], atol=1e-6) for up in seen)


def test_the_plan_has_the_map() -> None:
    study = Study(read_design(EXAMPLES / "tide-table-book.lantern"))
    (told,) = plan(study)["folded"]
    assert len([p for p in told["pages"] if p["face"].startswith("page")]) == 16 and len(told["pockets"]) == 7
    assert {p["face"]: p["holds"] for p in told["pages"]}["page-1"] == "How to read it"
    assert Counter(p["mouth"] for p in told["pockets"]) == {"up": 6, "right": 1}
    assert heads(pages_of(study, study.resolved[told["part"]])).startswith("8 of 16 pages")
    assert plan(study_of("lid"))["folded"] == []


def test_the_bench_tells_in_which_order_it_folds() -> None:
    steps = {step.kind: step for step in plan_bench(study_of("gusset-pouch")).steps}
    told = steps["fold"].heed
    order = ["strip on gusset", "gusset on back", "foot on back"]
    assert [told.index(words) for words in order] == sorted(told.index(words) for words in order)
    maze = next(step for step in plan_bench(study_of("maze-book")).steps if step.kind == "fold")
    assert "in this order" not in maze.heed  # fifteen folds are no list


def test_flip_book_by_its_figures() -> None:
    """Folds per edge 2, 2 and 1; ten of twelve faces show (geometry)."""
    study = study_of("flip-book")
    r = study.resolved[study.design.root.id]
    trunk = r.family.trunk(r.sizes)  # type: ignore[attr-defined]  # the flip book's alone
    assert sorted(Counter(trunk.folds).values()) == [1, 2, 2]
    assert value(study, "pages") + 2 == 10
    assert len({(m.panel, m.side) for m in r.part.mounts if m.id.startswith("page")}) == 8


def test_pocket_page_by_its_figures() -> None:
    """12 with side scores 3 1/2: page 5 × 6, overlap 2 (geometry); 12 with 4: page 4 × 6, overlap 4."""
    for side, page, overlap in ((3.5, 5, 2), (4, 4, 4)):
        study = study_of("pocket-page", sheet=12, side=side)
        assert [value(study, n) / INCH for n in ("page-width", "page-height", "overlap")] == pytest.approx(
            [page, 6, overlap]
        )


def test_pinwheel_pouch_by_its_figures() -> None:
    """Legs a from each corner leave a square of √2·(W − a) (geometry); it holds what it is asked to hold."""
    assert value(study_of("pinwheel-pouch", sheet=12, leg=7), "side") / INCH == pytest.approx(5 * math.sqrt(2))
    for card in (2.5, 4.25, 6):
        study = study_of("pinwheel-pouch", content_width=card, content_height=card)
        made = made_of(study)
        places = dict(zip((f.name for f in made.sheet.facets), made.state.places, strict=True))
        corners = np.array(places["middle"])
        sides = np.linalg.norm(np.roll(corners, 1, axis=0) - corners, axis=1)
        assert sides == pytest.approx(sides[0]) and sides[0] / INCH >= card + 1 / 8 - 1e-9
        middle = corners.mean(axis=0)
        for k in range(1, 5):  # every flap reaches over the middle
            assert Polygon(places[f"flap-{k}"]).contains(Polygon(middle + 0.5 * np.array([[0, 0], [1, 0], [0, 1]])))


def test_gusset_pouch_by_its_sum() -> None:
    """Front, two leaves, back, a leaf and the glue strip across; the foot below the back (common practice, no
    source)."""
    study = study_of("gusset-pouch", width=3, height=4, gusset=0.375, tab=0.5)
    assert [x / INCH for x in made_of(study).piece.size] == pytest.approx([2 * 3 + 3 * 0.375 + 0.375, 4.5])
    thick = study_of("gusset-pouch", content_width=3, content_height=4, insert=1)
    assert value(thick, "gusset") / INCH == pytest.approx(0.5) and value(thick, "width") / INCH >= 4


def test_a_free_strip_by_its_sum_and_its_order() -> None:
    """3 1/4 + 3 1/2 + 3 1/4 + 2 is 12 (arithmetic); rolled in the end lies inside, to and fro it lies outside."""
    told = "82.55mm + 88.9mm + 82.55mm + 50.8mm"
    study = study_of("free-strip", panels=told, strip=12)
    assert value(study, "total") / INCH == pytest.approx(12) and value(study, "wide") / INCH == pytest.approx(3.5)
    levels = {}
    for folds in ("rolled in", "to and fro"):
        made = made_of(study_of("free-strip", panels=told, folds=folds))
        level = dict(zip((f.name for f in made.sheet.facets), made.level, strict=True))
        levels[folds] = [level[f"c{k}r1"] for k in (2, 1, 4, 3)]
    assert levels["rolled in"] == sorted(levels["rolled in"])
    back_and_forth = levels["to and fro"]
    assert back_and_forth[3] < back_and_forth[2] and back_and_forth[:2] == sorted(back_and_forth[:2])


def test_a_row_that_does_not_come_out_is_read_anew() -> None:
    """What another panel already is comes first, then what a ruler shows most plainly."""
    assert [k for k, _ in readings((82.55, 88.9, 88.9, 50.8), 304.8)] == [2, 3, 1, 4]
    assert readings((50.0, 10.0), 5.0) == ()  # nothing is left of either
    with pytest.raises(ParameterError, match="12 1/4″, the strip is 12″: 1/4″ too long") as told:
        study_of("free-strip", panels="82.55mm + 88.9mm + 88.9mm + 50.8mm", strip=12)
    assert "panel 2 is 3 1/4″" in told.value.remedy
    with pytest.raises(ParameterError, match="1″ too short"):
        study_of("free-strip", panels="82.55mm + 88.9mm", strip=7.75)


WRONG = [
    ("free-strip", {"panels": "50mm"}, "none that folds"),
    ("free-strip", {"panels": "50mm + 3mm"}, "cannot be folded"),
    ("free-strip", {"panels": "50mm + 40mm", "base": 3}, "no panel 3"),
    ("free-strip", {"panels": "50mm + 20mm + 40mm"}, "has no score there|both sides"),
    ("pocket-page", {"sheet": 12, "side": 6.5}, "beyond the far fold"),
    ("pocket-page", {"sheet": 12, "side": 2.5}, "leave 2″ between"),
    ("pocket-page", {"sheet": 12, "side": 3.02}, "lap by"),
    ("pinwheel-pouch", {"sheet": 12, "leg": 5}, "do not reach over the middle"),
    ("maze-book", {"columns": 3, "rows": 3}, "two sides"),
    ("maze-book", {"sheet_width": 1.5}, "nothing can be folded"),
    ("maze-book", {"strip": 1.1}, "leaves no pocket"),
    ("gusset-pouch", {"width": 2, "gusset": 1}, "meet inside"),
    ("mini-envelope", {"height": 2, "front": 2.5}, "reaches over the far fold"),
    ("mini-envelope", {"height": 4, "front": 1, "flap": 1}, "between them open"),
    ("grid-sheet", {"path": "c1r1 c3r1"}, "does not lie beside"),
    ("grid-sheet", {"path": "c1r1 c2r1 c1r1"}, "comes twice"),
    ("grid-sheet", {"path": "c1r1 c9r1"}, "no cell c9r1"),
    ("grid-sheet", {"path": "c1r1 banana"}, "is no cell"),
    ("grid-sheet", {"path": "c1r1"}, "One cell alone"),
]


@pytest.mark.parametrize(("kind", "given", "words"), WRONG)
def test_what_cannot_be_folded_is_said_in_a_sentence(kind: str, given: dict[str, float | str], words: str) -> None:
    with pytest.raises(ParameterError, match=words) as told:
        study_of(kind, **given)
    assert told.value.remedy
