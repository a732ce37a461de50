"""Opening: the demo opens, faults that were put in are found, and all agrees with other ways of working it out."""

from __future__ import annotations

import math
import random
from itertools import permutations

import networkx
import numpy as np
import pytest
from msgspec.structs import replace

from yawning_lantern.assembly import Assembly, CreaseStep, Guest, join
from yawning_lantern.design import Design, Element, Place, add_guest
from yawning_lantern.errors import LanternError
from yawning_lantern.exchange.design_file import read_design
from yawning_lantern.fold import State, pose
from yawning_lantern.opening import (
    CancelledError,
    Margin,
    Opening,
    Plates,
    Standing,
    check_order,
    find_opening,
    natural_order,
    sweep,
)
from yawning_lantern.opening.order import _raised
from yawning_lantern.opening.sweep import moves
from yawning_lantern.structures import families, family, start_design
from yawning_lantern.study import Study, opening_of, state_at
from yawning_lantern.study.bodies import GIVES, solids
from yawning_lantern.study.opened import (
    broken,
    contact_words,
    cures,
    knot_words,
    reach,
    shut_words,
    step_words,
    verdict,
)

from ..conftest import DEMO, designed
from .test_random_nests import random_nest, random_settings

SET = DEMO.with_name("comet-night-set.lantern")
SLOW = {"v-fold", "gate-bag", "tent", "floating-layer", "stand", "box-card"}  # rings: some seconds each
BLOCKS = [sorted(families())[k::7] for k in range(7)]


@pytest.fixture(scope="module")
def demo_set() -> tuple[Study, Opening]:
    study = Study(read_design(SET))
    return study, opening_of(study)


def opened(assembly: Assembly) -> Opening:
    plates = Plates(assembly)
    count = len(assembly.motions)
    return find_opening(plates, plates.shut_contacts(pose(assembly, State(1.0, (0.0,) * count))))


# -- what must open, opens


def test_the_demo_set_opens_in_an_order_a_maker_would_take(demo_set: tuple[Study, Opening]) -> None:
    study, opening = demo_set
    assert opening.works and not opening.knot
    said = [study.assembly.motions[s.motion].name for s in opening.steps if s.opens]
    assert sorted(said) == sorted(m.name for m in study.assembly.motions)
    # facts of the trade: a lid holds the walls, outer walls hold the inner layer, a layer holds what stands in it
    for first, later in (("lid.lift", "box.fall"), ("box.fall", "layer-2.fall"), ("layer-2.fall", "tiers.roll-1")):
        names = [n for n in said if n.split(".")[0] in (first.split(".")[0], later.split(".")[0])]
        assert names.index(next(n for n in names if n.startswith(first.split(".")[0]))) == 0, (first, later, names)
    # the book on the wall is shut again before the next layer falls on it
    book = [s.opens for s in opening.steps if study.assembly.motions[s.motion].element == "programme"]
    assert book == [True, False]
    last = opening.steps[-1].after
    assert {study.assembly.motions[m].element for m in last.opened} >= {"lid", "box", "layer-2", "tiers", "comet"}


def test_what_falls_on_a_book_comes_to_rest_on_it(demo_set: tuple[Study, Opening]) -> None:
    study, opening = demo_set
    step = next(s for s in opening.steps if study.assembly.motions[s.motion].element == "layer-2" and s.opens)
    assert step.resting and all(met.rests and met.at > 0.5 for met in step.resting)
    words = [contact_words(study, step, met, "mm") for met in step.resting]
    assert any("comes to rest on Programme book" in w for w in words)
    # the wall that rests on nothing lies quite down: its share is not limited
    assert len({k for (k, _), share in step.after.rests.items() if share < 1.0}) == len(step.resting)


def test_what_is_left_of_a_way_is_summed_over_its_own_creases(demo_set: tuple[Study, Opening]) -> None:
    step = next(step for step in demo_set[1].steps if step.resting)
    rests = {(3, step.motion): 0.9, (4, step.motion): 0.75, (5, step.motion + 1): 0.2}
    assert _raised(replace(step, after=replace(step.after, rests=rests))) == pytest.approx(0.1 + 0.25)


def test_the_smaller_demo_opens() -> None:
    study = Study(read_design(DEMO))
    opening = opening_of(study)
    assert opening.works
    assert "Opens and shuts clear" in verdict(study, opening, "in", reach(study, opening))
    assert verdict(study, opening, "mm", (121.0, 93.0, 8.0)).endswith("It needs 125.0 × 95.0 mm of table.")
    assert verdict(study, opening, "in", (121.0, 93.0, 8.0)).endswith("It needs 5 × 4″ of table.")
    # a margin of a tenth of a millimetre breaks nothing
    assert all(s.clear for s in broken(study, opening, Margin(0.1, 0.0)).steps)


@pytest.mark.parametrize("block", range(len(BLOCKS)))
def test_random_designs_give_no_false_alarm(block: int) -> None:
    """Over all families some 500 designs: a structure by itself opens, whatever its measurements (common practice)."""
    solved = 0
    for name in BLOCKS[block]:
        rng, got = random.Random(name), 0
        wanted = 5 if name in SLOW else 22
        for _ in range(6 * wanted):
            if got == wanted:
                break
            try:
                study = Study(start_design(name, random_settings(rng, family(name))))
            except LanternError:
                continue
            if study.has_clash:
                continue
            got += 1
            opening = opened(study.assembly)
            assert opening.works, (name, study.design.root.settings, opening)
        solved += got
    assert solved >= 40


# -- faults that were put in


def grown(assembly: Assembly, element: str, instance: str, panels: tuple[str, ...], by: float) -> Assembly:
    """The same with panels longer at the edge that is furthest from the one they are folded at, mm."""
    nodes = list(assembly.nodes)
    for k, node in enumerate(nodes):
        if (node.element, node.instance) != (element, instance) or node.panel.name not in panels:
            continue
        if not isinstance(node.step, CreaseStep):
            continue  # glued by this panel
        into = node.step.into
        far = max(x * into[0] + y * into[1] for x, y in node.panel.outline)
        outline = tuple(
            (x + by * into[0], y + by * into[1]) if x * into[0] + y * into[1] > far - 1e-6 else (x, y)
            for x, y in node.panel.outline
        )
        panel = replace(node.panel, outline=outline)
        panels = tuple(panel if p.name == panel.name else p for p in node.piece.panels)
        nodes[k] = replace(node, panel=panel, piece=replace(node.piece, panels=panels))
    return replace(assembly, nodes=tuple(nodes))


WALLS = ("wall-front", "wall-back", "wall-left", "wall-right")


def test_a_tray_2_mm_too_tall_in_a_roll_is_found() -> None:
    study = Study(designed("tier-wrap", trays=3, slack=0.02))
    assert opened(study.assembly).works
    opening = opened(grown(study.assembly, study.design.root.id, "tray-2", WALLS, 2.0))
    met = {study.assembly.nodes[k].instance for c in opening.shut for k in (c.a, c.b)}
    assert not opening.works and {"tray-1", "tray-2"} <= met
    assert (
        max(c.depth for c in opening.shut) > 0.8
    )  # 2 mm less slack and what the plates give, or what a sheet is thick


def boxed(*guests: tuple[str, str, Element]) -> Design:
    design = start_design("explosion-box", {})
    for host, face, element in guests:
        design = add_guest(design, host, element, Place(face))
    return design


def test_an_inner_lid_under_the_outer_one_cannot_go_first() -> None:
    design = boxed(
        ("box", "floor", Element("inner", "explosion-box", "Inner box")),
        ("inner", "mouth", Element("inner-lid", "lid", "Inner lid")),
        ("box", "mouth", Element("outer-lid", "lid", "Outer lid")),
    )
    study = Study(design)
    plates, names = Plates(study.assembly), [m.name for m in study.assembly.motions]
    inner, outer = names.index("inner-lid.lift"), names.index("outer-lid.lift")
    wrong = check_order(plates, [inner, outer])
    step = wrong.steps[-1]
    assert len(wrong.steps) == 1 and not step.clear and step.contact is not None
    said = contact_words(study, step, step.contact, "mm")
    assert "Inner lid" in said and "Outer lid" in said and said.startswith(("Inner", "Outer")) and "mm deep" in said
    for time, share in ((0.25, 0.25), (0.5, 0.5), (1.0, 1.0), (7.0, 1.0)):  # it goes as far as it is clear, and stays
        progress = state_at(study, wrong, time).progress
        assert progress[inner] == pytest.approx(share * step.contact.at) and sum(progress) == progress[inner]
    told = verdict(study, wrong, "mm", (1.0, 1.0, 1.0))
    assert told == f"Stops at “{step_words(study, step)}”. {said}"
    opening = find_opening(plates)
    assert opening.works and [s.motion for s in opening.steps].index(outer) < [s.motion for s in opening.steps].index(
        inner
    )


def test_an_inner_layer_as_wide_as_the_outer_is_found() -> None:
    part = Study(start_design("explosion-box", {})).resolved["box"].part
    opening = opened(join([Guest(part), Guest(replace(part, element="inner"), "box", "floor")]))
    assert not opening.works and len(opening.shut) >= 4  # every wall stands in a wall


def test_a_panel_past_the_edge_of_a_card_meets_the_wall_beside_it() -> None:
    """A pop-up card fills a box's floor; its page made 3 mm longer stands in the wall."""
    design = boxed(("box", "floor", Element("card", "tent", "Pop-up card")))
    study = Study(design)
    assert opened(study.assembly).works
    grown_page = grown(study.assembly, "card", "card", ("page-left",), 3.0)
    assert not opened(grown_page).works


def test_a_gusset_thinner_than_its_pages_is_found() -> None:
    design = start_design("gusset-book", {})
    root = design.root.id
    for k, face in enumerate(f for f in Study(design).resolved[root].rooms if f.startswith("page")):
        design = add_guest(design, root, Element(f"b{k}", "mat", "Board", {}, "chipboard-1"), Place(face))
    assert opening_of(Study(design)).works  # the gusset follows what lies on its pages
    thin = Study(replace_settings(design, {"gusset": 1.0}))
    assert not opening_of(thin).works
    assert any(check.is_clash and check.gap.code == "spine" for check in thin.checks)


def replace_settings(design: Design, given: dict[str, float]) -> Design:
    from msgspec.structs import replace as changed

    return changed(design, root=changed(design.root, settings={**design.root.settings, **given}))


def test_a_band_holds_everything() -> None:
    design = start_design("accordion-spine", {"pages": 4})
    design = add_guest(design, design.root.id, Element("band", "belly-band", "Belly band"), Place("around"))
    study = Study(design)
    plates = Plates(study.assembly)
    names = [m.element for m in study.assembly.motions]
    opening = find_opening(plates)
    assert opening.works and study.assembly.motions[opening.steps[0].motion].element == "band"
    wrong = check_order(plates, [names.index(design.root.id), names.index("band")])
    assert not wrong.works and len(wrong.steps) == 1


def test_what_gives_first_is_told_with_a_cure() -> None:
    study = Study(read_design(DEMO))
    opening = opening_of(study)
    assert broken(study, opening, Margin(0.0, 0.0)).works
    gives = broken(study, opening, Margin(9.0, 0.0)).shut
    assert gives and gives[0].depth == max(met.depth for met in gives)
    said = shut_words(study, gives[0], "mm")
    assert "are in one place when all is shut" in said and cures(study, gives[0])
    # a sheet that is a fifth thicker presses on its neighbours, and nothing else
    assert not broken(study, opening, Margin(0.0, 0.2)).shut


def test_a_ring_of_motions_is_a_ring() -> None:
    """Where nothing goes on, each of the knot's motions meets a sheet that the next one moves."""
    found = 0
    for seed in range(120):
        try:
            study = Study(random_nest(random.Random(seed)))
        except LanternError:
            continue
        if study.has_clash or study.assembly.rings or len(study.assembly.motions) < 2:
            continue
        plates = Plates(study.assembly)
        opening = find_opening(plates)
        if not opening.knot:
            continue
        found += 1
        stopped = {s.motion: s.contact for s in opening.steps if not s.clear}
        for one, following in zip(opening.knot, (*opening.knot[1:], opening.knot[0]), strict=True):
            met = stopped[one]
            assert met is not None and {met.a, met.b} & moves(plates, following)
        assert "none can go first" in knot_words(study, opening)
    assert found >= 1


def test_a_windmill_is_explained() -> None:
    """Flaps of which the last tucks under the first, a known fold (common practice); a waterfall's stand for them."""
    study = Study(designed("waterfall", flaps=4))
    for knot in ((0, 1, 2), (0, 1, 2, 3)):
        words = knot_words(study, Opening((), (), knot))
        assert "windmill" in words and "Lift them all a little together" in words
    assert "windmill" not in knot_words(study, Opening((), (), (0, 1)))


def test_what_stands_in_a_box_is_a_body() -> None:
    held = {"content-width": 60.0, "content-depth": 50.0, "content-height": 40.0}
    for name, kind in families().items():
        known = {n: v for n, v in held.items() if n in {p.id for p in kind.parameters}}
        if "contents" in kind.starts:
            study = Study(start_design(name, known))
            assert opening_of(study).works, name
    design = start_design("tray", held)
    design = add_guest(design, design.root.id, Element("lid", "lid", "Lid"), Place("mouth"))
    study = Study(design)
    (box,) = solids(study.resolved, study.assembly)
    xs, ys = zip(*box.outline, strict=True)
    size = (max(xs) - min(xs), max(ys) - min(ys), box.high - box.low)
    assert size == pytest.approx((60.0 - 2 * GIVES, 50.0 - 2 * GIVES, 40.0 - 2 * GIVES))
    assert opening_of(study).works
    # worked: contents 40 mm high in walls of 30 stand some 10 mm above them, in the lid's top
    low = Study(replace_settings(design, {"height": 30.0}))
    opening = opening_of(low)
    assert opening.shut and "What is in Tray" in shut_words(low, opening.shut[0], "mm")
    assert max(c.depth for c in opening.shut) > 5.0


# -- other ways of working it out


def brute(a: np.ndarray, b: np.ndarray) -> bool:
    """Whether two convex slabs (bottom corners, then top ones, mm) share a place: an edge of one goes through a
    triangle of the other (Möller and Trumbore, 1997), or one holds a corner of the other."""

    def triangles(c: np.ndarray) -> np.ndarray:
        n = len(c) // 2
        sides = [(k, (k + 1) % n, n + (k + 1) % n) for k in range(n)] + [(k, n + (k + 1) % n, n + k) for k in range(n)]
        caps = [(0, k, k + 1) for k in range(1, n - 1)] + [(n, n + k, n + k + 1) for k in range(1, n - 1)]
        return c[np.array(sides + caps)]

    def edges(c: np.ndarray) -> np.ndarray:
        n = len(c) // 2
        pairs = [(k, (k + 1) % n) for k in range(n)]
        return c[np.array(pairs + [(n + i, n + j) for i, j in pairs] + [(k, n + k) for k in range(n)])]

    def pierces(e: np.ndarray, t: np.ndarray) -> bool:
        start, way = e[:, None, 0], e[:, None, 1] - e[:, None, 0]
        u, v = (t[None, :, 1] - t[None, :, 0]), (t[None, :, 2] - t[None, :, 0])
        p = np.cross(way, v)
        det = (u * p).sum(-1)
        whole = np.where(abs(det) > 1e-12, det, 1.0)
        to = start - t[None, :, 0]
        s = (to * p).sum(-1) / whole
        q = np.cross(to, u)
        r, at = (way * q).sum(-1) / whole, (v * q).sum(-1) / whole
        hit = (abs(det) > 1e-12) & (s >= 0) & (r >= 0) & (s + r <= 1) & (at >= 0) & (at <= 1)
        return bool(hit.any())

    def holds(c: np.ndarray, points: np.ndarray) -> bool:
        t, middle = triangles(c), c.mean(axis=0)
        normal = np.cross(t[:, 1] - t[:, 0], t[:, 2] - t[:, 0])
        out = np.sign(((t[:, 0] - middle) * normal).sum(-1))[:, None] * normal
        return bool((((points[:, None] - t[None, :, 0]) * out[None]).sum(-1) <= 0).all(-1).any())

    ta, tb = triangles(a), triangles(b)
    return pierces(edges(a), tb) or pierces(edges(b), ta) or holds(a, b) or holds(b, a)


def test_contacts_agree_with_edges_through_triangles_in_random_poses() -> None:
    study = Study(read_design(DEMO))
    plates, rng = Plates(study.assembly), random.Random(4)
    count = len(study.assembly.motions)
    outlines = [len(study.assembly.nodes[k].panel.outline) for k in plates.nodes]
    told = {True: 0, False: 0}
    for _ in range(240):
        turns, origins = plates.placed(pose(study.assembly, State(1.0, tuple(rng.random() for _ in range(count)))))
        corners, ways = plates.corners(turns, origins), plates.ways(turns)
        lo, hi = corners.min(axis=1), corners.max(axis=1)
        near = np.argwhere(np.triu((lo[:, None] <= hi[None]).all(-1) & (lo[None] <= hi[:, None]).all(-1), 1))
        for i, j in near[rng.sample(range(len(near)), min(6, len(near)))]:
            half = corners.shape[1] // 2
            a, b = (np.unique(corners[k], axis=0) for k in (i, j))
            if len(a) != 2 * outlines[i] or len(b) != 2 * outlines[j]:
                continue  # an outline that lost a corner to its inset
            a = np.concatenate([corners[i][: outlines[i]], corners[i][half : half + outlines[i]]])
            b = np.concatenate([corners[j][: outlines[j]], corners[j][half : half + outlines[j]]])
            touch = plates.touch(i, j, turns, origins) is not None
            deep = plates.depth(i, j, corners, ways)
            if 0.0 < deep < 1e-4:
                continue  # as good as touching: rounding decides
            assert touch == brute(a, b), (plates.nodes[i], plates.nodes[j], deep)
            assert touch == (deep > 0.0)
            told[touch] += 1
    assert told[True] > 60 and told[False] > 60


def test_a_sweep_meets_where_poses_close_together_meet() -> None:
    """Random nests: the first contact of a motion against 600 poses of it, each pair put to the library by itself."""
    tried = met = 0
    for seed in range(160):
        try:
            study = Study(random_nest(random.Random(seed)))
        except LanternError:
            continue
        if study.has_clash or not 2 <= len(study.assembly.motions) <= 6 or study.assembly.rings:
            continue
        plates = Plates(study.assembly)
        motion = random.Random(seed).randrange(len(study.assembly.motions))
        swept = sweep(plates, motion)
        tried += 1
        if swept.contact is None:
            continue
        met += 1
        i, j = plates.ranks[swept.contact.a][0], plates.ranks[swept.contact.b][0]
        count = len(study.assembly.motions)
        rests = {(node, motion): share for node, share in swept.rests}
        first = None
        for k in range(1, 601):
            progress = tuple(k / 600 if m == motion else 0.0 for m in range(count))
            turns, origins = plates.placed(pose(study.assembly, State(1.0, progress, rests)))
            if plates.touch(i, j, turns, origins) is not None:
                first = k / 600
                break
        assert first is not None and swept.contact.at <= first + 1e-9
        assert first - swept.contact.at < 2 / 600 or swept.contact.depth < 1.0
    assert tried >= 12 and met >= 3


def test_orders_agree_with_every_order_there_is() -> None:
    tried = 0
    kinds = {True: 0, False: 0}
    for seed in range(400):
        if tried == 14:
            break
        try:
            study = Study(random_nest(random.Random(seed)))
        except LanternError:
            continue
        count = len(study.assembly.motions)
        if study.has_clash or not 2 <= count <= 4 or study.assembly.rings:
            continue
        plates = Plates(study.assembly)
        opening = find_opening(plates)
        orders = [
            order for order in permutations(range(count)) if all(s.clear for s in check_order(plates, order).steps)
        ]
        tried += 1
        kinds[bool(orders)] += 1
        if orders:
            assert opening.works, (seed, orders)
        elif opening.works:
            assert any(not s.opens for s in opening.steps), seed  # only by shutting something again
        graph = networkx.DiGraph()
        for order in orders:
            for k in range(count):
                graph.add_edge(frozenset(order[:k]), frozenset(order[: k + 1]))
        plain = opening.works and all(s.opens for s in opening.steps)
        if plain:
            path = [frozenset(s.motion for s in opening.steps[:k]) for k in range(count + 1)]
            assert networkx.is_path(graph, path), seed
    assert tried == 14 and kinds[True] >= 8


# -- the rest of what it tells


def test_resting_and_shutting_are_states_of_the_film(demo_set: tuple[Study, Opening]) -> None:
    study, opening = demo_set
    count = len(study.assembly.motions)
    assert state_at(study, opening, 0.0).progress == (0.0,) * count
    for k, step in enumerate(opening.steps):
        now, end = state_at(study, opening, k + 0.5), state_at(study, opening, k + 1.0)
        assert now.progress[step.motion] == pytest.approx(0.5)
        assert end.progress[step.motion] == pytest.approx(1.0 if step.opens else 0.0)
        after = pose(study.assembly, step.after.state(count))
        assert np.allclose(np.array(pose(study.assembly, end)), np.array(after), atol=1e-6)
    words = [step_words(study, s) for s in opening.steps]
    assert words[0] == "Lift Comet lid" and any(w.startswith("Shut again: ") for w in words)


def test_a_sweep_can_be_given_up() -> None:
    study = Study(read_design(DEMO))
    with pytest.raises(CancelledError):
        find_opening(Plates(study.assembly), cancelled=lambda: True)


def test_natural_order_takes_the_lid_first_and_the_fullest_guest_last(demo_set: tuple[Study, Opening]) -> None:
    study, _ = demo_set
    names = [study.assembly.motions[m].element for m in natural_order(study.assembly)]
    assert list(dict.fromkeys(names)) == ["lid", "box", "moon", "programme", "layer-2", "tiers", "comet"]


def test_two_boxes_in_one_another_do_not_open_the_inner_first() -> None:
    study = Study(boxed(("box", "floor", Element("inner", "explosion-box", "Inner box"))))
    plates = Plates(study.assembly)
    names = [m.name for m in study.assembly.motions]
    inner = names.index(next(n for n in names if n.startswith("inner")))
    swept = sweep(plates, inner)
    assert swept.contact is not None
    # worked geometry: a wall of height h hinged d inside the outer one meets it when it leans by asin(d / h)
    sizes = {e: study.resolved[e].sizes for e in ("box", "inner")}
    gap = (sizes["box"]["base"].length - sizes["inner"]["base"].length) / 2
    leaning = math.degrees(math.asin(gap / sizes["inner"]["wall"].length))
    assert swept.contact.at * 90 == pytest.approx(leaning, abs=0.8)
    shut = Standing()
    assert sweep(plates, 1 - inner, shut).contact is None
    assert knot_words(study, find_opening(plates)) == ""
