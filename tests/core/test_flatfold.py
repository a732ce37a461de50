"""One sheet folded flat: against published counts, plain matrices, brackets, worked sheets."""

from __future__ import annotations

import math
import random
from itertools import pairwise, permutations

import numpy as np
import pytest
from shapely import LineString, MultiPoint

from yawning_lantern.errors import ParameterError
from yawning_lantern.flatfold.cavity import hollows
from yawning_lantern.flatfold.folding import carried_out, sound, stepped
from yawning_lantern.flatfold.order import _crosses, broken, heights, orders
from yawning_lantern.flatfold.points import inner_points, mountains
from yawning_lantern.flatfold.script import Bring, Glue, Tuck, Turn
from yawning_lantern.flatfold.sheet import Facet, Sheet, Slant, cell_name, grid, joints
from yawning_lantern.flatfold.state import Folded, apply, flat, meets, mirror, then
from yawning_lantern.measure import inches
from yawning_lantern.pattern import area

INCH = 25.4
CELL = 30.0


def one_cell(columns: int, rows: int) -> Folded:
    """A grid with every score folded, so that all cells lie on one; its order not yet told."""
    sheet = grid([CELL] * columns, [CELL] * rows)
    isos = []
    for facet in sheet.facets:
        c, r = (round(facet.outline[0][k] / CELL) for k in (0, 1))
        x, y = (
            (-1.0, (c + 1) * CELL) if c % 2 else (1.0, -c * CELL),
            (-1.0, (r + 1) * CELL) if r % 2 else (1.0, -r * CELL),
        )
        isos.append((x[0], 0.0, 0.0, y[0], x[1], y[1]))
    return Folded(sheet, tuple(isos), {}, frozenset(range(len(sheet.hinges))))


# Strips with labelled leaves: OEIS A000136. Maps: Lunnon 1971, "Multi-dimensional map-folding" (2 × n: 8, 60, 320;
# 3 × 3: 1368).
COUNTS = [
    (2, 1, 2), (3, 1, 6), (4, 1, 16), (5, 1, 50), (6, 1, 144), (7, 1, 462), (2, 2, 8), (3, 2, 60),
    (4, 2, 320), (3, 3, 1368),
]  # fmt: skip


@pytest.mark.parametrize(("columns", "rows", "count"), COUNTS)
def test_a_map_folds_in_as_many_ways_as_published(columns: int, rows: int, count: int) -> None:
    assert sum(1 for _ in orders(one_cell(columns, rows))) == count


def in_brackets(columns: int, rows: int, stack: tuple[int, ...]) -> bool:
    """Whether a stack of the cells of a grid is one paper can be in: on every side the folds open and shut like
    brackets."""
    at = {cell: k for k, cell in enumerate(stack)}
    sides: dict[str, list[tuple[int, int]]] = {}
    for r in range(rows):
        for c in range(columns):
            if c + 1 < columns:
                pair = sorted((at[r * columns + c], at[r * columns + c + 1]))
                sides.setdefault(f"x{(c + 1) % 2}", []).append((pair[0], pair[1]))
            if r + 1 < rows:
                pair = sorted((at[r * columns + c], at[(r + 1) * columns + c]))
                sides.setdefault(f"y{(r + 1) % 2}", []).append((pair[0], pair[1]))
    for arcs in sides.values():
        shut = dict(arcs)
        opened: list[int] = []
        for k in range(len(stack)):
            if k in shut:
                opened.append(shut[k])
            elif k in shut.values() and opened.pop() != k:
                return False
    return True


@pytest.mark.parametrize(("columns", "rows"), [(3, 2), (5, 1), (2, 3)])
def test_the_conditions_agree_with_brackets(columns: int, rows: int) -> None:
    """Every order of the cells, judged twice."""
    state = one_cell(columns, rows)
    for stack in permutations(range(columns * rows)):
        at = {cell: k for k, cell in enumerate(stack)}
        above = {(i, j): 1 if at[j] > at[i] else -1 for i in range(len(stack)) for j in range(i + 1, len(stack))}
        told = Folded(state.sheet, state.isos, above, state.shut)
        assert (not broken(told)) == in_brackets(columns, rows, stack), stack


def test_reflections_are_plain_matrices() -> None:
    """Against homogeneous matrices: move the line to the axis, flip y, move back."""
    rng = random.Random(4)
    for _ in range(200):
        p, q, s = (tuple(rng.uniform(-90, 90) for _ in range(2)) for _ in range(3))
        angle = math.atan2(q[1] - p[1], q[0] - p[0])
        c, n = math.cos(angle), math.sin(angle)
        to = np.array([[c, n, -(c * p[0] + n * p[1])], [-n, c, n * p[0] - c * p[1]], [0, 0, 1]])
        whole = np.linalg.inv(to) @ np.diag([1.0, -1.0, 1.0]) @ to
        want = whole @ np.array([*s, 1.0])
        # (ignored below: an array's row, made a tuple, is to mypy of any length; here it is of two)
        assert apply(mirror(p, q), s) == pytest.approx(tuple(want[:2]), abs=1e-9)  # type: ignore[arg-type]  # pairs of floats are points
        twice = then(mirror(p, q), mirror(p, q))  # type: ignore[arg-type]  # pairs of floats are points
        assert apply(twice, s) == pytest.approx(s, abs=1e-9)  # type: ignore[arg-type]  # pairs of floats are points


def random_grid(rng: random.Random) -> Sheet:
    columns, rows = ([rng.choice((20.0, 25.0, 30.0)) for _ in range(rng.randint(2, 4))] for _ in "xy")
    xs, ys = ([sum(w[:k]) for k in range(len(w) + 1)] for w in (columns, rows))
    slits = []
    for x in xs[1:-1]:
        slits += [((x, a), (x, b)) for a, b in pairwise(ys) if rng.random() < 0.4]
    for y in ys[1:-1]:
        slits += [((a, y), (b, y)) for a, b in pairwise(xs) if rng.random() < 0.4]
    cells = [cell_name(c + 1, r + 1) for c in range(len(columns)) for r in range(len(rows))]
    gone = rng.sample(cells, rng.randint(0, 2))
    return grid(columns, rows, slits=slits, gone=gone)


@pytest.mark.parametrize("seed", range(200))
def test_what_folding_accepts_paper_can_do(seed: int) -> None:
    """Random sheets and folds: accepted states are judged by the conditions on their end, which share nothing with
    folding; every refusal says why and what would help."""
    rng = random.Random(seed)
    state = flat(random_grid(rng))
    done = 0
    for _ in range(14):
        if not state.sheet.hinges:
            return
        k = rng.randrange(len(state.sheet.hinges))
        line = state.stretch(k)
        together = [  # sometimes every hinge that lies on that line at once
            h for h in range(len(state.sheet.hinges))
            if h == k or (rng.random() < 0.5 and all(abs(_off(line, p)) < 1e-6 for p in state.stretch(h)))
        ]  # fmt: skip
        ends = []
        for h in together:
            a, b = state.name(state.sheet.hinges[h].a), state.name(state.sheet.hinges[h].b)
            ends.append((a, b) if rng.random() < 0.5 else (b, a))
        step = rng.choice((Bring(tuple(ends), rng.choice(("over", "under"))), Turn()))
        try:
            after = stepped(state, step)
        except ParameterError as problem:
            assert problem.what and problem.remedy
            continue
        assert not sound(after), (seed, step)
        assert heights(after) is not None
        for before, now in zip(state.places, after.places, strict=True):
            assert area(now) == pytest.approx(area(before))
        for h in range(len(after.sheet.hinges)):  # paper does not tear: both facets still hold the hinge
            hinge = after.sheet.hinges[h]
            for p in (hinge.start, hinge.end):
                assert apply(after.isos[hinge.a], p) == pytest.approx(apply(after.isos[hinge.b], p), abs=1e-6)
        state = after
        done += isinstance(step, Bring)
    for point in inner_points(state.sheet):  # Maekawa: where all is folded, mountains and valleys differ by two
        senses = [mountains(state, h) for h in point.hinges]
        if all(senses):
            assert abs(sum(senses)) == 2


def _off(line: tuple[tuple[float, float], tuple[float, float]], p: tuple[float, float]) -> float:
    (x0, y0), (x1, y1) = line
    return ((x1 - x0) * (p[1] - y0) - (y1 - y0) * (p[0] - x0)) / math.dist(*line)


def test_a_point_that_cannot_fold_flat_is_told() -> None:
    """Kawasaki (1989): four scores meet at right angles, or not; two lines that cross always fold flat, three spokes
    never do."""
    crossed = grid([CELL, CELL], [CELL, CELL])
    assert [p.off for p in inner_points(crossed)] == [0.0]
    three = grid([CELL, CELL], [CELL, CELL], blank=[((CELL, 0.0), (CELL, CELL))])
    (point,) = inner_points(three)
    assert point.off > 0 and point.frees is not None
    with pytest.raises(ParameterError, match="cannot fold flat: slit"):
        carried_out(three, (Bring((("c1r1", "c1r2"),)),))
    slit = grid([CELL, CELL], [CELL, CELL], slits=[((CELL, 0.0), (CELL, CELL))])
    assert not inner_points(slit)  # the slit frees it
    skew = [  # four spokes at 0, 80, 180 and 270 degrees: 80 + 90 is not 180
        Facet("a", ((0, 0), (50, 0), (50, 50), (50 / math.tan(math.radians(80)), 50))),
        Facet("b", ((0, 0), (50 / math.tan(math.radians(80)), 50), (-50, 50), (-50, 0))),
        Facet("c", ((0, 0), (-50, 0), (-50, -50), (0, -50))),
        Facet("d", ((0, 0), (0, -50), (50, -50), (50, 0))),
    ]
    hinges, cuts = joints(skew, ())
    (point,) = inner_points(Sheet(100, 100, tuple(skew), hinges, cuts))
    assert math.degrees(point.off) == pytest.approx(10.0)


# Geometry: a sheet of 12 with side scores 3 1/2 and 8 1/2 makes a page of 5 by 6, overlap 2.
def pocket_page(width: float, side: float) -> tuple[Folded, ...]:
    half, w = width / 2, width
    sheet = grid(
        [side, w - 2 * side, side], [half, half],
        slits=[((0, half), (side, half)), ((w - side, half), (w, half))],
        slants=[
            Slant((side, half), (0, half - side)), Slant((0, half + side), (side, half)),
            Slant((w - side, half), (w, half - side)), Slant((w, half + side), (w - side, half)),
        ],
    )  # fmt: skip
    corners = [("c1r1a", "c1r1b"), ("c3r1b", "c3r1a"), ("c1r2a", "c1r2b"), ("c3r2b", "c3r2a")]
    script = (
        *(Bring((pair,)) for pair in corners),
        Bring((("c2r1", "c1r1a"), ("c2r2", "c1r2a"))), Bring((("c2r1", "c3r1b"), ("c2r2", "c3r2b"))),
        Glue("c1r1a", "c3r1b"), Glue("c1r2a", "c3r2b"),
        Bring((("c2r1", "c2r2"),), "under"),
    )  # fmt: skip
    return carried_out(sheet, script)


def test_pocket_page_by_its_figures() -> None:
    states = pocket_page(inches(12), inches(3.5))
    end = states[-1]
    assert not sound(end)
    assert len(states) - 1 - 2 == 7  # simple folds, the two of glue apart
    level = heights(end)
    assert level is not None
    assert max(level) + 1 == 10  # layers
    xs, ys = ([p[k] for place in end.places for p in place] for k in (0, 1))
    assert (max(xs) - min(xs)) / INCH == pytest.approx(5) and (max(ys) - min(ys)) / INCH == pytest.approx(6)
    pockets = [h for h in hollows(end, [("c2r1", "c2r2")]) if h.pocket]
    assert len(pockets) == 2
    for pocket in pockets:
        assert pocket.length("fold") > 0 and {rim.kind for rim in pocket.rim} <= {"fold", "wrapped", "open"}


def test_a_pocket_glued_shut_has_no_mouth() -> None:
    sheet = grid([100.0], [60.0, 60.0])
    fold = Bring((("c1r1", "c1r2"),))
    for edges, kinds in (
        (("left", "right"), {"fold", "glue", "open"}),
        (("left", "right", "foot"), {"fold", "glue"}),
        (("left", "right", "foot", "head"), {"glue"}),  # glue on a fold is waste, and it shuts the rest
    ):
        (hollow,) = hollows(carried_out(sheet, (fold, Glue("c1r1", "c1r2", edges, 6.0)))[-1])
        assert {rim.kind for rim in hollow.rim} == kinds
        assert hollow.pocket == ("open" in kinds)
        x0, y0, x1, y1 = hollow.extent
        assert x1 - x0 == pytest.approx(100 - 12)
        assert y1 - y0 == pytest.approx(60 - 6 * (len(edges) - 2))


def windmill(side: float, leg: float, cut: bool) -> Folded:
    """Four flaps folded in over a square, with whole tips or cut off at the middle."""
    tips = []
    half_side = math.sqrt(2) * (side - leg) / 2  # of the inner square, which is set upright here
    reach = leg / math.sqrt(2)
    high = min(reach, half_side) if cut else reach
    wide = min(half_side, reach)
    for k in range(4):
        # base on the inner square's edge, as wide as that; sides straight up, then at 45° to the tip
        # (a lambda, for it is the turn of this side and of no other)
        at = lambda u, v, k=k: (  # noqa: E731  # as short as what it stands for
            (u, -half_side - v), (half_side + v, u), (-u, half_side + v), (-half_side - v, -u)
        )[k]  # fmt: skip
        shoulder = reach - wide
        low = [(-wide, 0.0), (-wide, max(shoulder, 1e-3))]
        top = [(high - reach, high), (reach - high, high)] if cut and high < reach else [(0.0, high)]
        points = [*low, *top, (wide, max(shoulder, 1e-3)), (wide, 0.0)]
        ring = tuple(at(u, v) for u, v in points)
        tips.append(Facet(f"flap{k}", ring if area(ring) > 0 else tuple(reversed(ring))))
    h = half_side
    facets = (Facet("middle", ((-h, -h), (h, -h), (h, h), (-h, h))), *tips)
    hinges, cuts = joints(facets, ())
    state = flat(Sheet(side, side, facets, hinges, cuts))
    isos = list(state.isos)
    for hinge in hinges:
        isos[hinge.b] = mirror(hinge.start, hinge.end)
    return Folded(state.sheet, tuple(isos), {}, frozenset(range(len(hinges))))


def test_a_windmill_has_no_heights_and_whole_tips_no_windmill() -> None:
    """Geometry: square of 12, legs 7. Tips cut to the middle leave four pairs of neighbours, 16 orders, of which the
    two that go round have no heights. Whole tips all lie over the middle: 24 orders of four, none goes round."""
    found = []
    for cut, count, round_ in ((True, 16, 2), (False, 24, 0)):
        state = windmill(inches(12), inches(7), cut)
        known = {(0, k): 1 for k in range(1, 5)}
        several = list(orders(state, known))
        assert len(several) == count
        bent = [o for o in several if heights(Folded(state.sheet, state.isos, o, state.shut)) is None]
        assert len(bent) == round_
        found.append(several)


def test_a_pouch_strip_folds_only_with_its_strip_to_the_back_first() -> None:
    """Front, gusset leaf, gusset leaf, back, gusset leaf, glue strip: facts of the trade (common practice, no
    source)."""
    sheet = grid([100.0, 15.0, 15.0, 100.0, 15.0, 12.0], [120.0])
    front, one, two, back, three, strip = (cell_name(k, 1) for k in range(1, 7))
    strip_first = (Bring(((three, strip),), "under"), Bring(((back, three),), "over"))
    close = (Bring(((two, one),), "under"), Bring(((one, front),), "under"), Bring(((back, two),), "over"))
    good = carried_out(sheet, (*strip_first, *close, Glue(strip, front)))[-1]
    assert not sound(good)
    level = dict(zip((f.name for f in sheet.facets), heights(good) or (), strict=True))
    assert level[back] < level[three] < level[strip] < level[front]
    late = carried_out(sheet, (*close, *strip_first))[-1]
    assert not sound(late) and late.over(sheet.at(front), sheet.at(strip)) > 0  # it lies outside, on the front
    with pytest.raises(ParameterError, match=r"lies between|do not lie"):
        carried_out(sheet, (*close, *strip_first, Glue(strip, back)))


def test_a_tuck_says_what_is_open_and_goes_between() -> None:
    sheet = grid([40.0, 40.0, 30.0], [40.0])
    folded = Bring((("c1r1", "c2r1"),))
    between = carried_out(sheet, (folded, Tuck((("c2r1", "c3r1"),), over=("c1r1",), under=("c2r1",))))[-1]
    level = heights(between)
    assert level is not None
    by_name = {f.name: h for f, h in zip(sheet.facets, level, strict=True)}
    assert by_name["c1r1"] < by_name["c3r1"] < by_name["c2r1"]
    with pytest.raises(ParameterError, match="open whether"):
        carried_out(sheet, (folded, Tuck((("c2r1", "c3r1"),))))
    with pytest.raises(ParameterError, match="cannot be tucked there: it would go through paper"):
        carried_out(sheet, (folded, Tuck((("c2r1", "c3r1"),), over=("c2r1",), under=("c1r1",))))


WRONG = [
    (lambda: grid([40.0, 40.0], [40.0], slits=[((40.0, 0.0), (40.0, 60.0))]), "beyond the sheet"),
    (lambda: grid([40.0, 40.0], [40.0], slits=[((30.0, 0.0), (30.0, 20.0))]), "no line of the grid"),
    (lambda: grid([40.0, 0.0], [40.0]), "without width"),
    (lambda: grid([40.0], [40.0], gone=("c2r1",)), "no cell c2r1"),
    (lambda: grid([40.0], [40.0], gone=("c1r1",)), "No paper"),
    (lambda: grid([40.0], [40.0], slants=(Slant((0.0, 0.0), (20.0, 20.0)),)), "ends within"),
    (lambda: carried_out(grid([40.0, 40.0], [40.0]), (Bring((("c1r1", "c3r1"),)),)), "no panel c3r1"),
    (lambda: carried_out(grid([40.0, 40.0], [40.0, 40.0]), (Bring((("c1r1", "c2r1"),)),)), "joined another way"),
    (lambda: carried_out(grid([40.0, 40.0], [40.0]), (Bring((("c1r1", "c2r1"),)),) * 2), "folded already"),
    (lambda: carried_out(grid([40.0, 40.0], [40.0]), (Glue("c1r1", "c2r1"),)), "do not lie on one another"),
    (lambda: carried_out(
        grid([60.0, 20.0, 20.0, 20.0], [40.0]), (Bring((("c2r1", "c3r1"),)), Bring((("c1r1", "c2r1"),)))),
     "c3r1 and c4r1 move together|c4r1 and c3r1 move together"),
    (lambda: carried_out(
        grid([40.0, 40.0, 30.0], [40.0]), (Bring((("c2r1", "c3r1"),)), Bring((("c1r1", "c2r1"),), "under"),
                                           Bring((("c2r1", "c1r1"),)))), "folded already"),
    (lambda: carried_out(
        grid([30.0, 60.0, 40.0], [40.0]), (Bring((("c2r1", "c3r1"),)), Bring((("c2r1", "c1r1"),)),
                                           Turn(), Glue("c1r1", "c3r1", ("left",), 0.0))), "without width"),
]  # fmt: skip


@pytest.mark.parametrize(("wrong", "words"), WRONG)
def test_what_cannot_be_is_said_in_a_sentence(wrong: object, words: str) -> None:
    with pytest.raises(ParameterError, match=words) as told:
        wrong()  # type: ignore[operator]  # a table of calls is typed as objects
    assert told.value.remedy


def test_what_lies_on_a_panel_keeps_it_from_moving() -> None:
    sheet = grid([40.0, 40.0], [40.0, 40.0], slits=[((40.0, 40.0), (80.0, 40.0))])
    shut = Bring((("c1r1", "c1r2"),))
    with pytest.raises(ParameterError, match="c2r2 lies on c2r1"):
        carried_out(sheet, (shut, Bring((("c1r1", "c2r1"),))))
    under = carried_out(sheet, (shut, Bring((("c1r1", "c2r1"),), "under")))[-1]
    assert not sound(under)
    assert not meets(*(f.outline for f in sheet.facets[:2]))


def test_what_lies_across_a_fold_is_what_a_library_finds() -> None:
    """A facet lies across a stretch of a fold where shapely finds more than a point of the stretch inside it."""
    rng, found = random.Random(11), 0
    for _ in range(400):
        facet = MultiPoint([(rng.uniform(-40, 60), rng.uniform(-60, 40)) for _ in range(rng.randint(3, 6))]).convex_hull
        start, end = ((rng.uniform(-60, 80), rng.uniform(-80, 60)) for _ in "ab")
        within = facet.intersection(LineString([start, end])).length
        if facet.area < 5.0 or 0 < within < 1.0:
            continue
        corners = tuple(facet.exterior.coords)[:-1]  # type: ignore[attr-defined]  # it has an area
        assert _crosses(corners, (start, end)) == (within > 0), (corners, start, end)
        found += within > 0
    assert 60 < found < 340


def _strip(widths: tuple[float, ...]) -> tuple[Folded, list[tuple[float, float]]]:
    """A strip folded to and fro at every score, and where each panel lies, from and to."""
    isos, spans, shift, edge = [], [], 0.0, 0.0
    for k, width in enumerate(widths):
        sign = -1.0 if k % 2 else 1.0
        shift = shift + 2 * edge * (1.0 if k % 2 else -1.0) if k else 0.0
        isos.append((sign, 0.0, 0.0, 1.0, shift, 0.0))
        ends = sorted(sign * x + shift for x in (edge, edge + width))
        spans.append((ends[0], ends[1]))
        edge += width
    return Folded(grid(list(widths), [20.0]), tuple(isos), {}, frozenset(range(len(widths) - 1))), spans


def _can_lie(spans: list[tuple[float, float]], widths: tuple[float, ...], stack: tuple[int, ...]) -> bool:
    """Whether panels of a strip may lie in that order: none runs through a fold, and folds on one place and one side
    are within one another or apart (Justin's conditions in one dimension)."""
    at = {panel: k for k, panel in enumerate(stack)}
    folds = [(spans[k][k % 2 == 0], k % 2, *sorted((at[k], at[k + 1]))) for k in range(len(widths) - 1)]
    for place, _, low, high in folds:
        if any(low < at[k] < high and a + 1e-6 < place < b - 1e-6 for k, (a, b) in enumerate(spans)):
            return False
    return not any(
        p[0] == q[0] and p[1] == q[1] and (p[2] < q[2] < p[3] < q[3] or q[2] < p[2] < q[3] < p[3])
        for p in folds for q in folds
    )  # fmt: skip


@pytest.mark.parametrize(
    "widths",
    [(40.0, 20.0, 20.0), (40.0, 20.0, 40.0), (40.0, 20.0, 30.0, 20.0), (20.0, 30.0, 20.0, 40.0),
     (30.0, 20.0, 20.0, 10.0, 30.0)],
)  # fmt: skip
def test_uneven_strips_agree_with_one_dimension(widths: tuple[float, ...]) -> None:
    state, spans = _strip(widths)
    seen = set()
    for stack in permutations(range(len(widths))):
        at = {panel: k for k, panel in enumerate(stack)}
        above = {
            (i, j): 1 if at[j] > at[i] else -1
            for i in range(len(stack)) for j in range(i + 1, len(stack))
            if min(spans[i][1], spans[j][1]) - max(spans[i][0], spans[j][0]) > 1e-6
        }  # fmt: skip
        allowed = not broken(Folded(state.sheet, state.isos, above, state.shut))
        assert allowed == _can_lie(spans, widths, stack), stack
        seen.add(allowed)
    assert seen == {True, False}
