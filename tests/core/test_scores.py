"""Score plans: an independent scorer places blanks and presses lines, and must get the lines of the piece back."""

from __future__ import annotations

import json
from collections.abc import Sequence
from itertools import combinations, pairwise, permutations

import networkx as nx
import pytest
from hypothesis import given
from hypothesis import strategies as st
from shapely import LineString, unary_union

from yawning_lantern.bench import Placing, ScorePlan, fewest_numbers, score_plan
from yawning_lantern.bench.scores import _joined, _rest, straight_scores
from yawning_lantern.cli.main import main
from yawning_lantern.exchange.design_file import read_design
from yawning_lantern.exchange.scoring import placing_words, reading_words
from yawning_lantern.pattern import Panel, Piece
from yawning_lantern.pattern.piece import Line
from yawning_lantern.stock import builtin_catalogue
from yawning_lantern.structures import families, start_design
from yawning_lantern.study import Study

from ..conftest import DEMO, designed

BOARD = builtin_catalogue().tool("board-8")
PAPER = builtin_catalogue().paper("card-216")
Mark = tuple[str, float, float, float, float]


def pressed(plan: ScorePlan) -> set[Mark]:
    """What lies on the piece, seen from its front, when all is done: the sense of each line and its ends, mm.

    A blank is laid with an edge at the fence. Pressed from above, the ridge is below; folded with the ridge inside,
    what is up becomes the outside: front up makes a mountain, back up a valley (the trade's rule).
    """
    w, h = plan.piece.size
    found: set[Mark] = set()
    for placing in plan.placings:
        sense = "mountain" if placing.face == "front" else "valley"
        for r in placing.readings:
            level = placing.edge in ("foot", "head")
            at = r.number if placing.edge in ("left", "foot") else (h if level else w) - r.number
            for a, b in r.runs or ((0.0, w if level else h),):
                ends = (a, at, b, at) if level else (at, a, at, b)
                found.add((sense, *(round(v, 2) for v in ends)))
    for face, (x0, y0), (x1, y1) in plan.slanted:
        found.add(("mountain" if face == "front" else "valley", *(round(v, 2) for v in (x0, y0, x1, y1))))
    return found


def on_a_line(line: Line, marks: set[Mark]) -> bool:
    """Whether a score of the piece was pressed."""
    (x0, y0), (x1, y1) = sorted((line.start, line.end))
    for sense, a, b, c, d in marks:
        (ax, ay), (cx, cy) = sorted(((a, b), (c, d)))
        if sense != line.fold:
            continue
        upright = abs(ax - cx) < 0.01 and abs(x0 - ax) < 0.02 and abs(x1 - ax) < 0.02
        level = abs(ay - cy) < 0.01 and abs(y0 - ay) < 0.02 and abs(y1 - ay) < 0.02
        if upright and min(ay, cy) <= min(y0, y1) + 0.02 and max(ay, cy) >= max(y0, y1) - 0.02:
            return True
        if level and ax <= x0 + 0.02 and cx >= x1 - 0.02:
            return True
        if max(abs(x0 - ax), abs(y0 - ay), abs(x1 - cx), abs(y1 - cy)) < 0.02:
            return True
    return False


@pytest.mark.parametrize("kind", sorted(families()))
def test_the_scorer_gets_every_line_back_and_presses_no_panel(kind: str) -> None:
    for piece in Study(start_design(kind, {})).pieces:
        plan = score_plan(piece, BOARD)
        marks = pressed(plan)
        scores = [line for line in piece.lines if line.kind == "score"]
        for line in scores:
            assert on_a_line(line, marks), (piece.name, line)
        # nothing is pressed through a panel that has no score there
        for sense, a, b, c, d in marks:
            middle = (a + c) / 2, (b + d) / 2
            steps = [(a + (c - a) * k / 40, b + (d - b) * k / 40) for k in range(1, 40)] + [middle]
            for x, y in steps:
                if any(inside(panel, x, y) for panel in piece.panels):
                    near = [line for line in scores if line.fold == sense and lies_on(line, x, y)]
                    assert near, (piece.name, sense, x, y)


def inside(panel: Panel, x: float, y: float) -> bool:
    """Well within a convex panel."""
    points = panel.outline
    for k, (ax, ay) in enumerate(points):
        bx, by = points[(k + 1) % len(points)]
        size = ((bx - ax) ** 2 + (by - ay) ** 2) ** 0.5 or 1.0
        if ((bx - ax) * (y - ay) - (by - ay) * (x - ax)) / size < 0.1:
            return False
    return True


def lies_on(line: Line, x: float, y: float) -> bool:
    (x0, y0), (x1, y1) = line.start, line.end
    size = ((x1 - x0) ** 2 + (y1 - y0) ** 2) ** 0.5
    off = abs((x1 - x0) * (y - y0) - (y1 - y0) * (x - x0)) / size
    along = ((x - x0) * (x1 - x0) + (y - y0) * (y1 - y0)) / size
    return off < 0.1 and -0.1 < along < size + 0.1


def strip(width: float, *scores: tuple[float, str]) -> Piece:
    outline = ((0.0, 0.0), (width, 0.0), (width, 50.0), (0.0, 50.0))
    lines = tuple(Line("score", fold, (x, 0.0), (x, 50.0)) for x, fold in scores)  # type: ignore[arg-type]  # one of two
    return Piece("s", "Strip", PAPER, outline, (Panel("p", "p", outline),), lines=lines)


def test_a_sheet_is_turned_over_as_seldom_as_can_be() -> None:
    # each face is done at one go, so once less than there are faces; quarter turns by trying every order of placings
    around = {"left": 0, "foot": 90, "right": 180, "head": 270}
    both = 0
    for kind in sorted(families()):
        for piece in Study(start_design(kind, {})).pieces:
            placings = score_plan(piece, BOARD).placings
            if not 2 < len(placings) <= 6:
                continue

            def turned(order: Sequence[Placing]) -> tuple[int, int]:
                over = sum(a.face != b.face for a, b in pairwise(order))
                apart = [abs(around[a.edge] - around[b.edge]) for a, b in pairwise(order)]
                return over, sum(min(angle, 360 - angle) // 90 for angle in apart)

            assert turned(placings) == min(map(turned, permutations(placings)))
            assert turned(placings)[0] == len({placing.face for placing in placings}) - 1
            both += len({placing.face for placing in placings}) == 2
    assert both > 3


def test_worked_readings() -> None:
    inch = 25.4
    # 5 7/16 of a strip of 7 5/16 has no groove of an eighth; from the other edge it is 1 7/8: the trade's own example
    (placing,) = score_plan(strip(7.3125 * inch, (5.4375 * inch, "mountain")), BOARD).placings
    assert placing_words(placing) == "right edge at the fence, front up"
    assert [reading_words(r, "in") for r in placing.readings] == ["1 7/8"]
    # neither edge has a groove for 3 1/16 of 6 1/8: told with the nearest
    (placing,) = score_plan(strip(6.125 * inch, (3.0625 * inch, "valley")), BOARD).placings
    assert placing.face == "back" and "no groove" in reading_words(placing.readings[0], "in")
    # mountains and valleys are scored from the two faces: one turn over, not three
    zigzag = score_plan(strip(8 * inch, *((k * inch, ("mountain", "valley")[k % 2]) for k in range(1, 8))), BOARD)
    assert [p.face for p in zigzag.placings] in (["front", "back"], ["back", "front"])
    assert zigzag.off == 0 and len(zigzag.numbers) == 7


def test_partial_scores_say_from_where_to_where() -> None:
    # a box with pocket corners: on the line of a wall's fold the corner flaps are cut, the score must stop there
    cross = next(
        p for p in Study(designed("explosion-box", base=4, wall=3, corner="pocket")).pieces if "tag" not in p.id
    )
    scores = straight_scores(cross)
    assert all(s.is_full for s in straight_scores(strip(100.0, (40.0, "valley"))))
    whole = {(s.axis, round(s.at, 2)): s for s in scores}
    assert whole
    for s in scores:
        for a, b in s.runs:
            assert 0 <= a < b <= cross.size[1 - s.axis] + 1e-6


def test_the_fewest_numbers_are_a_least_vertex_cover() -> None:
    # by brute force over all sets of numbers, and networkx's bound: a matching is never larger than a cover
    study = Study(designed("explosion-box", base=4, wall=3, layers=2, lid="easy"))
    pieces = [p for p in study.pieces if not p.bought]
    graph = nx.Graph()
    for piece in pieces:
        for s in straight_scores(piece):
            graph.add_edge(round(s.at, 2), round(piece.size[s.axis] - s.at, 2))
    found = fewest_numbers(pieces)
    assert all(a in found or b in found for a, b in graph.edges)
    assert len(found) >= len(nx.maximal_matching(graph)) / 2
    for smaller in combinations(graph.nodes, len(found) - 1):
        assert not all(a in smaller or b in smaller for a, b in graph.edges)


def test_figures_of_the_demo() -> None:
    # a measured prototype took 12 numbers piece by piece for the demo's box and 5 for all its pieces together
    pieces = [p for p in Study(read_design(DEMO)).pieces if not p.bought]
    plans = [score_plan(piece, BOARD) for piece in pieces]
    assert sum(len(plan.numbers) for plan in plans) <= 12 and sum(plan.off for plan in plans) == 0
    assert len(fewest_numbers(pieces)) <= 5
    cross = Study(designed("explosion-box", base=4, wall=4)).pieces[:1]
    assert fewest_numbers(cross) == pytest.approx([101.6])


def test_the_command_tells_it(capsys: pytest.CaptureFixture[str]) -> None:
    words = ["scores", "--family", "explosion-box", "--set", "base=4", "--set", "wall=4"]
    assert main(words) == 0
    told = capsys.readouterr().out
    assert "edge at the fence" in told and told.rstrip().endswith("1 number does: 4")
    assert main([*words, "--json"]) == 0
    data = json.loads(capsys.readouterr().out)
    assert data["numbers"] == [4.0]
    (cross,) = (p for p in data["pieces"] if p["piece"] == "box.cross")
    assert {r["number"] for p in cross["placings"] for r in p["readings"]} <= {4.0, 8.0}
    assert all(r["on"] for p in cross["placings"] for r in p["readings"])


STRETCHES = st.lists(st.tuples(st.integers(0, 30), st.integers(1, 9)), min_size=1, max_size=6)


@given(STRETCHES, st.integers(40, 60))
def test_stretches_of_a_line_and_what_is_left_of_it(stretches: list[tuple[int, int]], whole: int) -> None:
    """Against shapely, along a line of whole millimetres."""
    runs = [(float(a), float(a + long)) for a, long in stretches]
    union = unary_union([LineString([(a, 0), (b, 0)]) for a, b in runs])
    left = LineString([(0, 0), (whole, 0)]).difference(union)

    def ends(shape: LineString) -> list[tuple[float, float]]:
        return sorted((g.coords[0][0], g.coords[-1][0]) for g in getattr(shape, "geoms", [shape]) if not g.is_empty)

    joined = _joined(runs)
    touching = LineString([(0, 0), (whole, 0)]).difference(left.buffer(1e-9))  # shapely keeps touching ones apart
    assert sum(b - a for a, b in joined) == pytest.approx(union.length) == pytest.approx(touching.length, abs=1e-6)
    assert all(b[0] > a[1] for a, b in pairwise(joined))
    assert _rest(joined, float(whole)) == ends(left)
