"""Patterns: whether a tile looks as claimed when it is turned, and which way it ends up on a folded panel."""

from __future__ import annotations

import math

import pytest
from msgspec.structs import replace
from shapely import affinity
from shapely.geometry import Point, Polygon, box
from shapely.ops import unary_union

from yawning_lantern.assembly.joined import Frame
from yawning_lantern.design import Design, Element, Lay, Place, add_guest, carry, set_lay, set_stock
from yawning_lantern.exchange.design_file import from_bytes, to_bytes
from yawning_lantern.exchange.prints import print_strokes
from yawning_lantern.fold import apply, opening_state, pose
from yawning_lantern.stock import KINDS, Motif, MotifKind, Paper, SheetFormat, builtin_catalogue, shapes
from yawning_lantern.stock.motifs import SAME_AFTER
from yawning_lantern.structures import families, start_design
from yawning_lantern.study import Study
from yawning_lantern.study.stock_warnings import stock_warnings
from yawning_lantern.study.upright import pattern_warnings, shown_faces
from yawning_lantern.study.wanted import lying, wanted

from ..conftest import designed

PRINT = builtin_catalogue().paper("night-print-190")
ONE_WAY = Motif("print", "#203040", 20.0)


def printed(front: Motif | None, back: Motif | None = None, grain: str = "none", name: str = "own") -> Paper:
    plain = builtin_catalogue().paper("card-216")
    return Paper(name, "Own paper", "paper", plain.sheet, 216.0, front_motif=front, back_motif=back, grain=grain)  # type: ignore[arg-type]  # a word


def of_paper(design: Design, paper: Paper) -> Design:
    """The design with all of it made of one paper."""
    return replace(carry(set_stock(design, None, paper.id), paper), root=design.root)


# -- the tile


@pytest.mark.parametrize("kind", KINDS)
def test_a_tile_is_the_same_after_as_many_quarter_turns_as_it_says(kind: MotifKind) -> None:
    # by areas (shapely): the plane full of tiles, turned, and laid on itself with every shift of a 32nd
    tile = unary_union([Polygon(shape) for shape in shapes(kind)])
    plane = unary_union([affinity.translate(tile, i, j) for i in range(-3, 4) for j in range(-3, 4)])
    window = box(0, 0, 1, 1)
    here = plane.intersection(window)

    def differs(turns: int) -> float:
        turned = affinity.rotate(plane, 90 * turns, origin=(0.5, 0.5))
        shifts = [(i / 32, j / 32) for i in range(32) for j in range(32)]
        return min(
            affinity.translate(turned, *s).intersection(window).symmetric_difference(here).area for s in shifts
        ) / here.area  # fmt: skip

    same = SAME_AFTER[kind]
    assert differs(same % 4 or 4) < 0.02
    for turns in range(1, same):
        assert differs(turns) > 0.08, turns


@pytest.mark.parametrize("kind", KINDS)
def test_tiles_join(kind: MotifKind) -> None:
    tile = unary_union([Polygon(shape) for shape in shapes(kind)])
    assert tile.bounds[0] > -1e-9 and tile.bounds[2] < 1 + 1e-9
    assert kind == "scales" or (tile.bounds[1] > -1e-9 and tile.bounds[3] < 1 + 1e-9)
    e, apart = 1e-4, 0
    for k in range(101):
        at = k / 100 + 0.0013
        apart += tile.contains(Point(e, at)) != tile.contains(Point(1 - e, at))
        if kind != "scales":  # its rows begin where a tile does
            apart += tile.contains(Point(at, e)) != tile.contains(Point(at, 1 - e))
    assert apart == 0


# -- on folded panels


def stands(study: Study, node: int, side: int, frame: Frame, lies: bool) -> tuple[str, float]:
    """How a print with an up side stands on a face, by brute force, and how far (degrees) from being told otherwise: a
    little arrow of two points is drawn on the sheet, carried by the pose to where it lies in the room, and looked at.
    Up is the sky for what stands, away from the maker for what lies: common practice, no source."""
    n = study.assembly.nodes[node]
    motif = n.piece.stock.front_motif if side > 0 else n.piece.stock.back_motif
    assert motif is not None
    # the sheet lies with this face up, its top away from us; the arrow is turned to the left as the print is
    arrow = complex(0, 1) * complex(0, 1) ** motif.turn
    if side < 0:  # seen through the sheet
        arrow = complex(-arrow.real, arrow.imag)
    arrow *= complex(0, 1) ** n.piece.way
    x, y = n.panel.centre
    foot, tip = apply(frame, x, y), apply(frame, x + arrow.real, y + arrow.imag)
    goes = [b - a for a, b in zip(foot, tip, strict=True)]
    above = (0.0, 1.0, 0.0) if lies else (0.0, 0.0, 1.0)
    slope = sum(frame[6 + k] * above[k] for k in range(3))
    up = [above[k] - slope * frame[6 + k] for k in range(3)]  # up, as far as it runs in the panel
    cosine = sum(a * b for a, b in zip(goes, up, strict=True)) / math.hypot(*up)
    off = math.degrees(math.acos(max(-1.0, min(1.0, cosine))))
    how = "upright" if off < 45 else "upside down" if off > 135 else "sideways"
    return how, min(abs(off - 45), abs(off - 135))


@pytest.mark.parametrize("kind", sorted(families()))
@pytest.mark.parametrize("turn", [0, 1])
def test_warnings_are_what_an_arrow_on_the_sheet_shows(kind: str, turn: int) -> None:
    # every structure of a paper with an up side on both faces, which run different ways; a design a structure and turn
    ways = (Motif("print", "#203040", 20.0, turn), Motif("print", "#203040", 20.0, (2 - turn) % 4))
    study = Study(of_paper(start_design(kind, {}), printed(*ways)))
    opened = pose(study.assembly, opening_state(study.assembly, 1.0))
    for element in study.resolved:
        told = {(w.code.replace("-", " "), panel) for w in pattern_warnings(study, element) for panel in w.panels}
        seen = {s.node: s for s in study.seen(element)}
        upright: set[str] = set()
        others: set[str] = set()
        for face in shown_faces(study, element):
            shut, last, shows = study.shut_frames[face.node], opened[face.node], seen[face.node]
            lies = abs(shut[8]) >= 0.9
            first_shut = "shut" in (shows.front, shows.back)
            words = f"{face.words} ({'front' if face.side > 0 else 'back'})"
            bent = study.assembly.nodes[face.node].shape is not None
            if bent or not (first_shut or (not lies and last[8] ** 2 > 0.9)):
                others.add(words)  # bent, or read in a pose between: what is turned like a page is held below
                continue
            stock = study.assembly.nodes[face.node].piece.stock
            if (stock.front_motif if face.side > 0 else stock.back_motif) is None:
                continue  # board that the structure brings is not printed
            how, margin = stands(study, face.node, face.side, shut, lies)
            (upright if how == "upright" and margin > 1.0 else others).add(words)
            if how != "upright" and margin > 1.0:
                assert (how, words) in told, (element, how, words)
        assert not (upright - others) & {panel for _, panel in told}


def warned(design: Design) -> list[tuple[str, str]]:
    study = Study(design)
    return [(w.element, w.code) for element in study.resolved for w in pattern_warnings(study, element)]


@pytest.mark.parametrize(("lay", "codes"), [(0, []), (1, ["sideways"]), (2, ["upside-down"]), (3, ["sideways"])])
def test_a_mat_on_a_lying_face_reads_as_its_sheet_is_turned(lay: int, codes: list[str]) -> None:
    # common sense: a mat alone on the table shows what its sheet shows; a stripe may stand on its head, dots anyhow
    mat = of_paper(designed("mat", width=4, height=3), printed(ONE_WAY))
    assert [code for _, code in warned(set_lay(mat, "mat", "mat", Lay(lay)))] == codes
    striped = of_paper(designed("mat", width=4, height=3), printed(Motif("stripes", "#203040")))
    assert bool(warned(set_lay(striped, "mat", "mat", Lay(lay)))) is (lay % 2 == 1)
    dotted = of_paper(designed("mat", width=4, height=3), printed(Motif("dots", "#203040")))
    assert warned(set_lay(dotted, "mat", "mat", Lay(lay))) == []


def test_pages_and_flaps_read_like_pages() -> None:
    # a page of a book that lies keeps its head away from the maker on either side, whichever way it is turned
    book = of_paper(start_design("accordion-spine", {}), printed(ONE_WAY))
    study = Study(book)
    pages = [w for w in pattern_warnings(study, study.design.root.id) if "page" in w.what]
    assert pages == []
    # the front of a card that is closed by a fold at its left shows what the sheet shows
    card = of_paper(start_design("box-card", {}), printed(ONE_WAY))
    assert all(code == "sideways" or code == "upside-down" for _, code in warned(card))


def test_every_cure_does_what_it_says() -> None:
    mat = set_lay(of_paper(designed("mat", width=4, height=3), printed(ONE_WAY)), "mat", "mat", Lay(1))
    study = Study(mat)
    (warning,) = pattern_warnings(study, "mat")
    assert warning.panels == ("mat",) and "lies on its side" in warning.what and "Turn" in warning.remedy
    words = [cure.words for cure in warning.cures]
    assert any("quarter" in w for w in words) and any("no direction" in w for w in words)
    for cure in warning.cures:
        assert ("mat", "sideways") not in warned(cure.design), cure.words
    # both faces of a card that stands cannot be put right by turning: a box of one sheet has walls all around
    box_ = of_paper(designed("explosion-box", base=4, wall=4), printed(ONE_WAY, ONE_WAY))
    told = pattern_warnings(Study(box_), "box")
    assert {w.code for w in told} == {"sideways", "upside-down"}
    assert not any("Turn" in cure.words for w in told for cure in w.cures)
    assert any("front wall" in panel for w in told for panel in w.panels)


def test_the_demo_stands_upright() -> None:
    from importlib.resources import files

    design = from_bytes(files("yawning_lantern").joinpath("examples/comet-night-set.lantern").read_bytes())
    study = Study(design)
    directed = {piece.stock.id for piece in study.pieces if piece.stock.has_direction}
    assert len(directed) >= 3
    assert not [w for w in stock_warnings(study) if w.code in ("upside-down", "sideways")]


# -- on the sheet


def test_a_direction_or_the_grain_tells_how_a_piece_lies() -> None:
    mat = of_paper(designed("mat", width=5, height=3), printed(ONE_WAY))
    (upright,) = wanted(Study(mat))
    size = Study(mat).pieces[0].size
    assert not upright.may_turn and upright.on_sheet == pytest.approx(size) and size[0] > size[1]
    (turned,) = wanted(Study(set_lay(mat, "mat", "mat", Lay(1))))
    assert not turned.may_turn and turned.on_sheet == pytest.approx(size[::-1])
    (free,) = wanted(Study(of_paper(designed("mat", width=5, height=3), printed(Motif("dots", "#000000")))))
    assert free.may_turn
    # a spine wants the grain along it: common practice, no source; the folds of a book run along its height
    for grain, along in (("long", True), ("short", False)):
        study = Study(of_paper(start_design("accordion-spine", {}), printed(None, grain=grain)))
        spine = next(piece for piece in study.pieces if len(piece.creases) > 2)
        upright_folds = abs(spine.creases[0].end[1] - spine.creases[0].start[1]) > 1
        assert lying(spine) == (False, upright_folds is not along)
        assert not [w for w in stock_warnings(study) if w.code == "grain" and spine.name in w.what]


def test_a_pattern_that_forces_folds_across_the_grain_is_told() -> None:
    paper = printed(ONE_WAY, grain="short")
    study = Study(of_paper(start_design("accordion-spine", {}), paper))
    spine = next(piece for piece in study.pieces if len(piece.creases) > 2)
    upright_folds = abs(spine.creases[0].end[1] - spine.creases[0].start[1]) > 1
    told = any(w.code == "grain" and spine.name in w.what for w in stock_warnings(study))
    assert told is upright_folds  # the short grain of a square sheet runs along its width


def test_the_back_of_the_paper_can_be_the_front() -> None:
    two = printed(Motif("dots", "#102030"), ONE_WAY)
    mat = of_paper(designed("mat", width=4, height=3), two)
    over = Study(set_lay(mat, "mat", "mat", Lay(2, True))).resolved["mat"].part.pieces[0]
    assert over.stock.front_motif == ONE_WAY and over.stock.back_motif == two.front_motif and over.way == 2
    assert [code for _, code in warned(set_lay(mat, "mat", "mat", Lay(2, True)))] == ["upside-down"]
    assert warned(mat) == []


def test_a_design_carries_its_paper() -> None:
    mat = set_lay(of_paper(designed("mat", width=4, height=3), printed(ONE_WAY)), "mat", "mat", Lay(3))
    again = from_bytes(to_bytes(mat))
    assert again == mat and Study(again).resolved["mat"].final.paper.front_motif == ONE_WAY
    other = add_guest(mat, "mat", Element("m", "mat", stock="night-print-190"), Place("front"))
    assert {p.id for p in from_bytes(to_bytes(other)).papers} == {"own"}  # what ships with the program is known


@pytest.mark.parametrize("way", range(4))
def test_templates_show_the_pattern_as_it_lies(way: int) -> None:
    # the lantern's roof ends in a point on top: of all strokes it reaches furthest towards the pattern's up side
    mat = set_lay(of_paper(designed("mat", width=2, height=2), printed(ONE_WAY)), "mat", "mat", Lay(way))
    piece = Study(mat).pieces[0]
    strokes = list(print_strokes(piece))
    assert strokes and all(0 < v < 50.8 for s in strokes for p in (s.start, s.end) for v in p)
    xs, ys = zip(*[p for s in strokes for p in (s.start, s.end)], strict=True)
    middle = (min(xs) + max(xs)) / 2, (min(ys) + max(ys)) / 2
    tips = [(x - middle[0], y - middle[1]) for x, y in zip(xs, ys, strict=True)]
    up = ((0, 1), (-1, 0), (0, -1), (1, 0))[way]
    top = max(tips, key=lambda t: t[0] * up[0] + t[1] * up[1])
    foot = min(tips, key=lambda t: t[0] * up[0] + t[1] * up[1])
    across = lambda t: abs(t[0] * up[1] - t[1] * up[0])  # noqa: E731  # of use in this test only
    assert across(top) < 0.5 < across(foot)


def test_small_faces_are_nobodys_matter() -> None:
    for side, told in ((0.45, False), (1.0, True)):
        mat = of_paper(designed("mat", width=side, height=side), printed(ONE_WAY))
        study = Study(set_lay(mat, "mat", "mat", Lay(2)))
        w, h = study.pieces[0].size
        assert (w * h > 100) is told  # a square centimetre
        assert bool(pattern_warnings(study, "mat")) is told


@pytest.mark.parametrize(("lay", "words"), [(1, "to the left"), (3, "to the right"), (2, "half a turn")])
def test_the_way_to_turn_is_told(lay: int, words: str) -> None:
    # the sheet's up side lies a quarter to the left of the piece's: turning the piece to the left brings them together
    mat = set_lay(of_paper(designed("mat", width=4, height=3), printed(ONE_WAY)), "mat", "mat", Lay(lay))
    (warning,) = pattern_warnings(Study(mat), "mat")
    assert words in warning.cures[0].words and warned(warning.cures[0].design) == []


@pytest.mark.parametrize(("width", "height", "turns"), [(11.0, 4.0, False), (5.0, 4.0, True)])
def test_a_piece_is_not_turned_off_its_sheet(width: float, height: float, turns: bool) -> None:
    low = builtin_catalogue().paper("card-216")
    sheet = SheetFormat("low", "low", 304.8, 152.4, 304.8, 152.4)
    paper = Paper("low", "Low", "paper", sheet, 216.0, front_motif=Motif("print", low.front, 20.0, 1))
    mat = of_paper(designed("mat", width=width, height=height), paper)
    (warning,) = pattern_warnings(Study(mat), "mat")
    assert any("Turn" in cure.words and "over" not in cure.words for cure in warning.cures) is turns


def test_one_sided_paper_is_not_turned_over() -> None:
    for two_sided in (True, False):
        paper = replace(printed(Motif("print", "#203040", 20.0, 1)), two_sided=two_sided)
        tray = carry(designed("tray", width=4, depth=4, height=1), paper)
        design = add_guest(tray, "tray", Element("m", "mat", stock="own"), Place("floor"))
        (warning,) = pattern_warnings(Study(design), "m")
        assert any("other side of its paper" in cure.words for cure in warning.cures) is two_sided


def test_a_design_carries_its_glue_and_tools() -> None:
    shelf = builtin_catalogue()
    glue = replace(shelf.adhesive("tape"), id="own-tape", name="Own tape", thickness=0.2)
    board = replace(shelf.tool("board-8"), id="own-board", grid=4.0)
    cutter = replace(shelf.tool("trimmer-16"), id="own-cutter", kerf=0.3)
    unused = replace(cutter, id="unused")
    design = carry(designed("tray", width=4, depth=4, height=1), glue, board, cutter, unused)
    used = replace(design, adhesive="own-tape", score_tool="own-board", cut_tool="own-cutter")
    again = from_bytes(to_bytes(used))
    assert again.adhesives == (glue,) and set(again.tools) == {board, cutter}
    assert Study(again).catalogue.adhesive("own-tape").thickness == 0.2


@pytest.mark.parametrize(("way", "turn"), [(0, 1), (1, 1), (2, 3), (0, 2)])
def test_the_print_on_a_template_heeds_how_the_pattern_lies_on_its_sheet(way: int, turn: int) -> None:
    # turning the pattern on the paper and turning the piece the same way show the same
    def strokes(w: int, t: int) -> list[tuple[float, ...]]:
        mat = of_paper(designed("mat", width=2, height=2), printed(Motif("print", "#203040", 20.0, t)))
        piece = Study(set_lay(mat, "mat", "mat", Lay(w))).pieces[0]
        return sorted(tuple(round(v, 6) for v in (*s.start, *s.end)) for s in print_strokes(piece))

    assert strokes(way, turn) == strokes((way + turn) % 4, 0) != strokes(way, 0)


@pytest.mark.parametrize("kind", KINDS)
def test_a_pattern_stays_within_its_tile_and_has_paper_between(kind: MotifKind) -> None:
    # tiles lie side by side: what leaves one would be cut off at the next
    drawn = [Polygon(shape) for shape in shapes(kind)]
    assert all(one.is_valid or kind == "script" for one in drawn)
    for one in drawn:
        x0, y0, x1, y1 = one.bounds
        assert min(x0, y0) >= -1e-9 and max(x1, y1) <= 1 + 1e-9
    covered = unary_union([one.buffer(0) for one in drawn]).area
    assert 0.05 < covered < 0.75
