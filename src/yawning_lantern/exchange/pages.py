"""Templates at 1:1: pieces laid on pages, tiled where they are larger, with marks to join the tiles and a scale bar."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence

from msgspec import Struct

from yawning_lantern.errors import UnknownNameError
from yawning_lantern.exchange.lists import fit_shapes, list_shapes
from yawning_lantern.exchange.prints import print_strokes
from yawning_lantern.exchange.shapes import FOOT, MARGIN, Label, Page, Pen, Stroke, clipped
from yawning_lantern.measure import Units, format_size, inches
from yawning_lantern.pattern import Piece, Point
from yawning_lantern.sheets import Board, Effort, Rectangle, Trimmer, plan_sheets
from yawning_lantern.study import Study

PAPERS: dict[str, tuple[float, float]] = {
    "letter": (inches(8.5), inches(11)),
    "a4": (210.0, 297.0),
    "a3": (297.0, 420.0),
    "12x12": (inches(12), inches(12)),
}
"""Paper for templates, mm: US Letter, ISO 216 A4 and A3, and the 12 in square."""
OVERLAP = 8.0  # mm: what two neighbouring tiles share
SPACE, TITLE = 6.0, 5.0
"""Between two pieces, and above each for its title, mm."""
READABLE = 1.8
"""A smaller title cannot be read, mm."""
HATCH = 4.0
"""Between two lines of a hatching that shows where glue goes, along both edges, mm."""
Shape = Stroke | Label


class _Window(Struct, frozen=True):
    """The part of a page that carries a template, mm."""

    width: float
    height: float

    @staticmethod
    def of(paper: tuple[float, float]) -> _Window:
        return _Window(paper[0] - 2 * MARGIN, paper[1] - 2 * MARGIN - FOOT)


def template_pages(study: Study, paper: str, units: Units) -> list[Page]:
    """Every piece that is cut at 1:1, then the list of pieces with their notes, then the fits.

    A piece is turned by a quarter where it then fits a page, or needs fewer. What is larger than a page is told in
    tiles; those that do not fill their page share it with others.

    Raises:
        UnknownNameError: no such paper.
    """
    if paper not in PAPERS:
        raise UnknownNameError(f"There is no paper “{paper}” for templates.", remedy=f"Choose {', '.join(PAPERS)}.")
    size = PAPERS[paper]
    window = _Window.of(size)
    drawn = [_drawn(study, piece, window, units) for piece in study.pieces]
    large = [tile for one in drawn if not _fits(one.size, window) for tile in _tiles(one, window)]
    full = [tile for tile in large if not _fits(tile.size, window)]
    small = [one for one in (*drawn, *large) if _fits(one.size, window)]
    pages = [_page(size, f"{study.design.name}: {title}", shapes, units) for title, shapes in _shared(small, window)]
    for tile in full:
        shapes = [_moved(shape, MARGIN, MARGIN + FOOT) for shape in tile.shapes]
        pages.append(_page(size, f"{study.design.name}: {tile.title}", shapes, units))
    for title, shapes in (*list_shapes(study, size, units), *fit_shapes(study, size, units)):
        pages.append(_page(size, title, shapes, units))
    return pages


class _Drawn(Struct, frozen=True):
    """A piece as it lies on paper: its shapes from its lower left corner, its size (mm), its title."""

    piece: Piece
    size: Point
    shapes: tuple[Shape, ...]
    title: str

    @property
    def name(self) -> str:
        """What it is called among others on a page."""
        tile = self.title.partition(" · tile ")[2]
        return f"{self.piece.name} · tile {tile}" if tile else self.piece.name


def _drawn(study: Study, piece: Piece, window: _Window, units: Units) -> _Drawn:
    w, h = piece.size
    turned = (not _fits((w, h), window) and _fits((h, w), window)) or _count((h, w), window) < _count((w, h), window)
    shapes = piece_shapes(piece, units, study.glued[piece.id])
    if turned:
        shapes = [_quarter(shape, h) for shape in shapes]
    return _Drawn(piece, (h, w) if turned else (w, h), tuple(shapes), _title(piece, units))


def _count(size: Point, window: _Window) -> int:
    """How many pages a piece takes."""
    if _fits(size, window):
        return 1
    across = max(1, math.ceil((size[0] - OVERLAP) / (window.width - OVERLAP)))
    return across * max(1, math.ceil((size[1] - OVERLAP) / (window.height - OVERLAP)))


def _quarter(shape: Shape, height: float) -> Shape:
    """A shape turned by a quarter to the left and moved back into the first quadrant; texts stay level."""

    def at(p: Point) -> Point:
        return height - p[1], p[0]

    if isinstance(shape, Stroke):
        return Stroke(shape.pen, at(shape.start), at(shape.end))
    return Label(at(shape.at), shape.text, shape.size, shape.anchor, shape.bold)


def _fits(size: Point, window: _Window) -> bool:
    return size[0] <= window.width and size[1] + TITLE <= window.height


def piece_shapes(piece: Piece, units: Units, glued: Sequence[Sequence[Point]] = ()) -> list[Shape]:
    """A piece in its own coordinates: outline, holes, lines, where glue goes, panel names."""
    shapes: list[Shape] = []
    for outline in glued:
        shapes += _hatched(outline)
    for loop in (piece.outline, *piece.holes):
        shapes += [Stroke("cut", p, loop[(i + 1) % len(loop)]) for i, p in enumerate(loop)]
    shapes += print_strokes(piece)
    for line in piece.lines:
        pen: Pen = "cut" if line.kind == "cut" else "mark"
        if line.kind == "score":
            pen = "mountain" if line.fold == "mountain" else "valley"
        shapes.append(Stroke(pen, line.start, line.end))
    for panel in piece.panels:
        x0, y0, x1, y1 = panel.blank
        x, y = panel.centre if not panel.window else ((x0 + x1) / 2, (y0 + y1) / 2)
        for label in (panel.label, panel.label.split(",")[0]):  # where there is no room for all, what it is
            size = min(3.5, (x1 - x0) / max(len(label), 1) / 0.62, y1 - y0 if panel.window else 99.0)
            if size >= 2.0 and label:
                shapes.append(Label((x, y - size / 3), label, size, "middle"))
                break
    return shapes


def _hatched(outline: Sequence[Point]) -> list[Shape]:
    """Thin lines at 45° over a convex panel: here goes the glue."""
    lo = min(x + y for x, y in outline)
    hi = max(x + y for x, y in outline)
    shapes: list[Shape] = []
    for k in range(1, int((hi - lo) / HATCH) + 1):
        at = lo + k * HATCH
        ends: list[Point] = []
        for i, p in enumerate(outline):
            q = outline[(i + 1) % len(outline)]
            a, b = p[0] + p[1] - at, q[0] + q[1] - at
            if (a > 0) != (b > 0):
                share = a / (a - b)
                ends.append((p[0] + share * (q[0] - p[0]), p[1] + share * (q[1] - p[1])))
        if len(ends) == 2:
            shapes.append(Stroke("glue", ends[0], ends[1]))
    return shapes


def _title(piece: Piece, units: Units) -> str:
    count = f" · cut {piece.quantity}" if piece.quantity > 1 else ""
    if piece.bought:
        count = f" · {piece.quantity} × ready-made, do not cut"
    return f"{piece.name} · {format_size(piece.size, units)}{count}"


def _moved(shape: Shape, dx: float, dy: float) -> Shape:
    if isinstance(shape, Stroke):
        return Stroke(shape.pen, (shape.start[0] + dx, shape.start[1] + dy), (shape.end[0] + dx, shape.end[1] + dy))
    return Label((shape.at[0] + dx, shape.at[1] + dy), shape.text, shape.size, shape.anchor, shape.bold)


def _shared(pieces: list[_Drawn], window: _Window) -> Iterator[tuple[str, list[Shape]]]:
    """Pieces that fit on one page, on as few pages as the planner of sheets finds, each with room for the scissors and
    for its title above it: (title, shapes) for each page."""
    if not pieces:
        return
    wanted = [Rectangle(str(k), one.size[0], one.size[1] + TITLE, may_turn=False) for k, one in enumerate(pieces)]
    page = Board("page", "", window.width, window.height)
    effort = Effort(moves=40, seconds=0.3, proof=0.0)
    for sheet in plan_sheets(wanted, [page], Trimmer(kerf=SPACE), effort).sheets:
        shapes: list[Shape] = []
        names: list[str] = []
        for placed in sorted(sheet.placed, key=lambda p: (-p.y, p.x)):
            one = pieces[int(placed.piece)]
            left, foot = MARGIN + placed.x, MARGIN + FOOT + placed.y
            shapes += [_moved(shape, left, foot) for shape in one.shapes]
            title, size = _above(one)
            shapes.append(Label((left, foot + one.size[1] + 1.5), title, size, bold=True))
            names.append(one.name)
        yield ", ".join(names), shapes


def _above(one: _Drawn) -> tuple[str, float]:
    """The title above a piece and its size in mm: of a narrow one no more than can be read."""
    parts = one.title.split(" · ")
    shorter = [" · ".join(parts[:count]) for count in range(len(parts) - 1, 0, -1)]
    title, size = one.title, 0.0
    for title in (one.title, *([one.name] if " · tile " in one.title else shorter)):
        size = min(3.0, one.size[0] / len(title) / 0.55)
        if size >= READABLE:
            break
    return title, size


def _tiles(one: _Drawn, window: _Window) -> Iterator[_Drawn]:
    """One piece in parts that overlap, none larger than a page; every inner edge carries join lines and the neighbour's
    name."""
    width, height = one.size
    step_x, step_y = window.width - OVERLAP, window.height - OVERLAP
    across = max(1, math.ceil((width - OVERLAP) / step_x))
    along = max(1, math.ceil((height - OVERLAP) / step_y))
    for row in range(along):
        for col in range(across):
            x0, y0 = col * step_x, row * step_y
            box = (x0, y0, min(x0 + window.width, width), min(y0 + window.height, height))
            shapes: list[Shape] = []
            for shape in one.shapes:
                if isinstance(shape, Label):
                    if box[0] <= shape.at[0] <= box[2] and box[1] <= shape.at[1] <= box[3]:
                        shapes.append(_moved(shape, -x0, -y0))
                elif (part := clipped(shape.start, shape.end, box)) is not None:
                    shapes.append(_moved(Stroke(shape.pen, *part), -x0, -y0))
            size = box[2] - x0, box[3] - y0
            shapes += _joins(row, col, along, across, size)
            yield _Drawn(one.piece, size, tuple(shapes), f"{one.title} · tile {_tile(row, col)} of {along} × {across}")


def _tile(row: int, col: int) -> str:
    return f"{chr(65 + row)}{col + 1}"


def _joins(row: int, col: int, along: int, across: int, size: Point) -> list[Shape]:
    """Join lines in the middle of each overlap, with crosses that fall on each other when two tiles are laid right."""
    shapes: list[Shape] = []
    x0, y0, x1, y1 = 0.0, 0.0, *size
    ways = [
        (col > 0, x0 + OVERLAP / 2, True, row, col - 1),
        (col < across - 1, x1 - OVERLAP / 2, True, row, col + 1),
        (row > 0, y0 + OVERLAP / 2, False, row - 1, col),
        (row < along - 1, y1 - OVERLAP / 2, False, row + 1, col),
    ]
    for here, at, upright, r, c in ways:
        if not here:
            continue
        lo, hi = (y0, y1) if upright else (x0, x1)
        shapes.append(Stroke("join", (at, lo), (at, hi)) if upright else Stroke("join", (lo, at), (hi, at)))
        for share in (0.25, 0.5, 0.75):
            m = lo + (hi - lo) * share
            x, y = (at, m) if upright else (m, at)
            shapes += [Stroke("join", (x - 3, y - 3), (x + 3, y + 3)), Stroke("join", (x - 3, y + 3), (x + 3, y - 3))]
        x, y = (at, lo + (hi - lo) * 0.4) if upright else (lo + (hi - lo) * 0.4, at)
        shapes.append(Label((x, y + 1), f"joins {_tile(r, c)}", 2.4, "middle"))
    return shapes


def _page(paper: tuple[float, float], title: str, shapes: list[Shape], units: Units) -> Page:
    """A page with its foot: scale bars of 100 mm and 4 in, the legend, the title."""
    bars: list[Shape] = []
    x = MARGIN
    for length, y, text in ((100.0, MARGIN + 9.5, "100 mm"), (inches(4), MARGIN + 4.5, "4 in")):
        bars += [
            Stroke("guide", (x, y), (x + length, y)),
            Stroke("guide", (x, y - 1.2), (x, y + 1.2)),
            Stroke("guide", (x + length, y - 1.2), (x + length, y + 1.2)),
            Label((x + length + 1.5, y - 1), text, 2.6),
        ]
    pens: tuple[tuple[Pen, str], ...] = (
        ("cut", "cut"),
        ("valley", "score, valley"),
        ("mountain", "score, mountain"),
        ("glue", "hatched: glue"),
    )
    left = x + inches(4) + 16
    for i, (pen, text) in enumerate(pens):
        at, y = left + 38 * (i // 2), MARGIN + 10.4 - i % 2 * 4.0
        bars += [Stroke(pen, (at, y), (at + 11, y)), Label((at + 13, y - 0.9), text, 2.4)]
    bars.append(Label((x, MARGIN), f"{title}  ·  1:1, front face up. Measure the bar before you cut.", 2.4))
    return Page(*paper, title, (*shapes, *bars))
