"""Files for cutting machines: read back by other readers, and done on the simulated machine, against the pieces."""

from __future__ import annotations

import io
import math
from collections import Counter
from itertools import pairwise
from pathlib import Path

import ezdxf
import pytest
import svgelements
from hypothesis import given
from hypothesis import strategies as st
from shapely import LineString, MultiLineString, Polygon, box, set_precision, unary_union
from shapely.affinity import rotate, translate
from shapely.geometry.polygon import orient
from shapely.ops import polygonize

from yawning_lantern.cli.main import main
from yawning_lantern.exchange.cut_files import APART, NAMES, beds_of, report_svg, to_dxf, to_hpgl, to_svg
from yawning_lantern.exchange.design_file import read_design, write_design
from yawning_lantern.machine import Bed, Plotter, bed_of_piece, run
from yawning_lantern.machine import Path as Cut
from yawning_lantern.machine.paths import once
from yawning_lantern.machine.plotter import PlotterError
from yawning_lantern.pattern import Piece
from yawning_lantern.study import Study

from ..conftest import DEMO, designed
from .test_joints import CASES

TRUE = 0.01  # mm, what readers must give back
TIP = 0.06  # mm, what a knife leaves at a corner: steps of a fortieth, arcs of six degrees
BIG = Plotter(1500.0, 1500.0)


def pieces_of(study: Study) -> list[Piece]:
    return [piece.laid for piece in study.pieces if not piece.bought]


def segments(piece: Piece, kind: str, fold: str = "") -> list[LineString]:
    return [LineString([n.start, n.end]) for n in piece.lines if n.kind == kind and fold in ("", n.fold)]


@pytest.mark.parametrize(("kind", "given"), CASES)
def test_every_structure_is_cut_as_it_is_drawn(kind: str, given: dict[str, float | str]) -> None:
    for piece in pieces_of(Study(designed(kind, **given))):
        report = run(to_hpgl([bed_of_piece(piece)], BIG), BIG)
        assert report.faults == ()
        blade = [
            LineString(s.tip).simplify(0.01, preserve_topology=False) for s in report.strokes if s.tool == BIG.blade
        ]
        outline, holes = Polygon(piece.outline).exterior, [Polygon(hole).exterior for hole in piece.holes]
        wanted = unary_union([outline, *holes, *segments(piece, "cut")])
        done = MultiLineString([line.coords for line in blade])
        assert done.difference(wanted.buffer(TIP)).length < 0.2
        assert wanted.difference(done.buffer(TIP)).length < 0.2
        stylus = unary_union([LineString(s.tip) for s in report.strokes if s.tool == BIG.stylus] or [LineString()])
        scores = unary_union([*segments(piece, "score")] or [LineString()])
        assert stylus.hausdorff_distance(scores) < 0.03 if not scores.is_empty else stylus.is_empty


def svg_layers(text: str) -> dict[str, list[LineString]]:
    """Lines by the class of their group, mm, as another library reads them."""
    read = svgelements.SVG.parse(io.StringIO(text), ppi=25.4)
    found: dict[str, list[LineString]] = {}
    for path in read.elements(lambda one: isinstance(one, svgelements.Path)):
        points = [(step.end.x, step.end.y) for step in path]
        found.setdefault(path.values["class"], []).append(LineString(points))
    return found


def dxf_layers(text: str, tmp_path: Path) -> dict[str, list[LineString]]:
    file = tmp_path / "pieces.dxf"
    file.write_text(text)
    document = ezdxf.readfile(file)
    assert not document.audit().has_errors and document.header["$INSUNITS"] == 4
    found: dict[str, list[LineString]] = {}
    for one in document.modelspace().query("POLYLINE"):
        points = [(v.dxf.location.x, v.dxf.location.y) for v in one.vertices]
        found.setdefault(one.dxf.layer.lower(), []).append(
            LineString([*points, *points[:1]] if one.is_closed else points)
        )
    assert len(document.modelspace()) == sum(map(len, found.values()))
    return found


@pytest.mark.parametrize("kind", ["lid", "explosion-box", "v-fold", "pocket", "rosette", "board-cover", "gate-bag"])
def test_drawings_are_read_back_by_others(kind: str, tmp_path: Path) -> None:
    for piece in pieces_of(Study(designed(kind))):
        bed = bed_of_piece(piece)
        wide, high = piece.size
        drawn = svg_layers(to_svg([bed], "piece & more"))
        cut = dxf_layers(to_dxf([bed]), tmp_path)
        wanted = {
            "cut-outline": [Polygon(piece.outline).exterior],
            "cut-inner": [*[Polygon(h).exterior for h in piece.holes], *segments(piece, "cut")],
            "score-mountain": segments(piece, "score", "mountain"),
            "score-valley": segments(piece, "score", "valley"),
            "mark": segments(piece, "mark"),
        }
        assert set(wanted) == set(NAMES.values())
        for name, lines in wanted.items():
            assert len(drawn.get(name, [])) == len(cut.get(name, [])) == len(lines), (piece.name, name)
            if not lines:
                continue
            want = MultiLineString([line.coords for line in lines])
            flipped = MultiLineString([[(x, high - y) for x, y in line.coords] for line in drawn[name]])
            assert flipped.hausdorff_distance(want) < TRUE
            assert MultiLineString([line.coords for line in cut[name]]).hausdorff_distance(want) < TRUE
        root = svgelements.SVG.parse(io.StringIO(to_svg([bed], "x")), ppi=25.4)
        assert (root.width, root.height) == (pytest.approx(wide, abs=TRUE), pytest.approx(high, abs=TRUE))


def same_shape(face: Polygon, piece: Piece) -> bool:
    """Whether a face is a piece, turned by quarters."""
    own = Polygon(piece.outline)
    for turns in range(4):
        turned = rotate(own, 90 * turns, origin=(0, 0))
        moved = translate(turned, face.bounds[0] - turned.bounds[0], face.bounds[1] - turned.bounds[1])
        if face.symmetric_difference(moved).area < 0.05 * face.length:
            return True
    return False


@pytest.mark.parametrize("name", ["comet-night-box.lantern", "comet-night-set.lantern"])
def test_pieces_nested_on_sheets_come_out_whole(name: str) -> None:
    study = Study(read_design(DEMO.with_name(name)))
    beds = beds_of(study, each=False)
    machine = Plotter(310.0, 310.0)
    report = run(to_hpgl(beds, machine), machine)
    assert report.faults == () and max(s.sheet for s in report.strokes) == len(beds) - 1
    assert [bed.name.split(",")[0] for bed in beds] == [f"sheet {k}" for k in range(1, len(beds) + 1)]
    left = Counter({piece.id: piece.quantity for piece in pieces_of(study)})
    for k in range(len(beds)):
        tips = [LineString(s.tip) for s in report.strokes if s.sheet == k and s.tool == machine.blade]
        done = MultiLineString([tip.simplify(0.01, preserve_topology=False).coords for tip in tips])
        outlines = [LineString([*p.points, *p.points[:1]] if p.closed else p.points) for p in beds[k].paths
                    if p.layer == "outline"]  # fmt: skip
        assert unary_union(outlines).difference(done.buffer(TIP)).length < 0.5
        for face in polygonize(unary_union([set_precision(line, 0.001) for line in outlines])):
            match = next((p for p in pieces_of(study) if left[p.id] > 0 and same_shape(face, p)), None)
            if match is not None:
                left[match.id] -= 1
    assert not +left, +left


def square(x: float, y: float, side: float, layer: str = "outline") -> Cut:
    return Cut(layer, ((x, y), (x + side, y), (x + side, y + side), (x, y + side)), True)  # type: ignore[arg-type]  # words in a table


def faults(*paths: Cut, machine: Plotter | None = None) -> list[str]:
    return [fault.kind for fault in run(to_hpgl([Bed("", 100, 100, paths)], machine), machine).faults]


def test_faults_put_in_are_told() -> None:
    slit = Cut("slit", ((20.0, 20.0), (30.0, 30.0)))
    assert faults(slit, square(10, 10, 40)) == []
    assert faults(square(10, 10, 40), slit) == ["order"]
    assert faults(square(10, 10, 40), Cut("valley", ((10.0, 20.0), (50.0, 20.0)))) == ["order"]
    assert faults(square(10, 10, 40), square(10, 10, 40)) == ["doubled"]
    assert faults(square(10, 10, 40), square(50, 10, 20)) == ["doubled"]  # edge to edge, cut twice
    assert faults(*[square(10, 10, 40)] * 3) == ["doubled"] * 2  # once for each cut that goes over another
    assert "outside" in faults(square(300, 10, 40))
    assert faults(Cut("mark", ((-5.0, 3.0), (5.0, 3.0)))) == ["outside"]
    assert faults(square(60, 60, 20), square(10, 10, 40)) == []


def test_a_file_for_another_knife_rounds_the_corners() -> None:
    paths = (square(20, 20, 50),)
    text = to_hpgl([Bed("", 100, 100, paths)], Plotter(offset=0.0))
    wanted = Polygon(paths[0].points).exterior
    led = run(to_hpgl([Bed("", 100, 100, paths)], Plotter(offset=1.0)), Plotter(offset=1.0))
    trailed = run(text, Plotter(offset=1.0))
    assert LineString(led.strokes[0].tip).hausdorff_distance(wanted) < 0.35  # it goes on over its beginning
    assert unary_union([LineString(led.strokes[0].tip)]).difference(wanted.buffer(TIP)).length < 0.1
    assert LineString(trailed.strokes[0].tip).difference(wanted.buffer(0.2)).length > 0.5


def test_a_closed_cut_goes_on_over_its_beginning_so_that_no_thread_holds() -> None:
    machine = Plotter(offset=0.0)
    (stroke,) = run(to_hpgl([Bed("", 100, 100, (square(20, 20, 50),))], machine), machine).strokes
    twice = sum(LineString(pair).length for pair in pairwise(stroke.tip)) - 4 * 50.0
    assert 0.2 < twice < 0.5  # three tenths of a millimetre, common practice, no source


@given(st.lists(st.tuples(st.floats(5, 95), st.floats(5, 95)), min_size=2, max_size=8), st.floats(0.05, 1.0))
def test_the_tip_follows_any_path(points: list[tuple[float, float]], offset: float) -> None:
    way = [p for k, p in enumerate(points) if k == 0 or math.dist(p, points[k - 1]) > 1.0]
    if len(way) < 2:
        return
    machine = Plotter(offset=offset)
    report = run(to_hpgl([Bed("", 100, 100, (Cut("slit", tuple(way)),))], machine), machine)
    tip = LineString(report.strokes[0].tip)
    assert tip.difference(LineString(way).buffer(TIP)).length < 0.1
    assert LineString(way).difference(tip.buffer(TIP)).length < 0.1


@pytest.mark.parametrize("text", ["IN;QQ1;", "IN;SP1;PU0,0;PD1,x;", "12;", "IN;PD*"])
def test_what_the_machine_does_not_know_is_said(text: str) -> None:
    with pytest.raises(PlotterError):
        run(text)


def test_relative_ways_and_reports_are_drawn() -> None:
    report = run("IN;SP1;PU400,400;PD;PR400,0,0,400;PU;SP0;")
    assert report.strokes[0].tip == ((10.0, 10.0), (20.0, 10.0), (20.0, 20.0))
    drawn = svgelements.SVG.parse(io.StringIO(report_svg(report)), ppi=25.4)
    assert len([e for e in drawn.elements() if isinstance(e, svgelements.Path)]) == 1


def test_the_command_writes_and_tries_them(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    path = tmp_path / "box.lantern"
    write_design(designed("tray"), path)
    out = {kind: tmp_path / f"tray.{kind}" for kind in ("svg", "dxf", "plt", "drawn.svg")}
    words = ["cut", str(path), "--svg", str(out["svg"]), "--dxf", str(out["dxf"]), "--hpgl", str(out["plt"])]
    assert main([*words, "--drawn", str(out["drawn.svg"])]) == 0
    assert "every cut as it should be" in capsys.readouterr().out
    assert all(file.stat().st_size > 200 for file in out.values())
    assert main([*words, "--each", "--bed", "100x100"]) == 1
    assert "leaves the bed" in capsys.readouterr().err
    for bad in (["cut", str(path)], ["cut", str(path), "--hpgl", "x", "--bed", "wide"], [*words, "--knife", "9"]):
        assert main(bad) == 2
    two = beds_of(Study(designed("drop-ladder")), each=True)
    assert len(two) == 2
    left = svg_layers(to_svg(two, "two"))["cut-outline"]
    assert left[1].bounds[0] - left[0].bounds[0] == pytest.approx(two[0].width + APART, abs=1.0)


@given(
    st.lists(st.tuples(st.integers(0, 3), st.integers(0, 3), st.integers(1, 2), st.integers(1, 2)), max_size=7),
    st.booleans(),
)
def test_an_edge_that_two_pieces_share_is_cut_once(boxes: list[tuple[int, int, int, int]], clockwise: bool) -> None:
    """Rectangles on a grid of 10 mm that lie edge to edge, against the union of their rims by shapely."""
    placed: list[Polygon] = []
    for x, y, w, h in boxes:
        one = box(10 * x, 10 * y, 10 * (x + w), 10 * (y + h))
        if all(one.intersection(other).area < 1e-9 for other in placed):
            placed.append(one)
    rings = [list(orient(p, -1.0 if clockwise else 1.0).exterior.coords)[:-1] for p in placed]
    inner = Cut("slit", ((1.0, 1.0), (2.0, 2.0)))
    told = once((inner, *(Cut("outline", tuple(ring), True, f"p{k}") for k, ring in enumerate(rings))))
    assert told[0] == inner
    lines = [LineString((*p.points, p.points[0]) if p.closed else p.points) for p in told[1:]]
    rims = unary_union([p.exterior for p in placed]) if placed else LineString()
    assert sum(line.length for line in lines) == pytest.approx(rims.length)
    assert (unary_union(lines) if lines else LineString()).symmetric_difference(rims).length < 1e-6
    alone = {f"p{k}" for k, one in enumerate(placed)
             if all(one.exterior.intersection(other.exterior).length < 1e-9 for other in placed[:k])}  # fmt: skip
    assert {p.piece for p in told[1:] if p.closed} == alone
    for piece in {p.piece for p in told[1:]}:  # what follows on is one stroke of the knife
        runs = [p.points for p in told[1:] if p.piece == piece and not p.closed]
        assert all(math.dist(a[-1], b[0]) > 1e-6 for a in runs for b in runs if a is not b)
