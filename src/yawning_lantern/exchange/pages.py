"""Templates at 1:1: pieces laid on pages, tiled where they are larger, with marks to join the tiles and a scale bar."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass

from yawning_lantern.errors import UnknownNameError
from yawning_lantern.exchange.plan import material
from yawning_lantern.exchange.shapes import Label, Page, Pen, Stroke, clipped
from yawning_lantern.fit import headline, sentence
from yawning_lantern.measure import Units, format_size, inches
from yawning_lantern.pattern import Piece, Point
from yawning_lantern.study import Study

PAPERS: dict[str, tuple[float, float]] = {
    "letter": (inches(8.5), inches(11)),
    "a4": (210.0, 297.0),
    "a3": (297.0, 420.0),
    "12x12": (inches(12), inches(12)),
}
"""Paper for templates, mm: US Letter, ISO 216 A4 and A3, and the 12 in square."""
MARGIN = 8.0
FOOT = 16.0  # height kept for the scale bar and the page's title
OVERLAP = 8.0  # what two neighbouring tiles share
SPACE = 6.0
Shape = Stroke | Label


@dataclass(frozen=True, slots=True)
class _Window:
    """The part of a page that carries a template, mm."""

    width: float
    height: float

    @staticmethod
    def of(paper: tuple[float, float]) -> _Window:
        return _Window(paper[0] - 2 * MARGIN, paper[1] - 2 * MARGIN - FOOT)


def template_pages(study: Study, paper: str, units: Units) -> list[Page]:
    """Every piece at 1:1, then a page with the fits.

    Raises:
        UnknownNameError: no such paper.
    """
    if paper not in PAPERS:
        raise UnknownNameError(f"There is no paper “{paper}” for templates.", remedy=f"Choose {', '.join(PAPERS)}.")
    size = PAPERS[paper]
    window = _Window.of(size)
    small = [p for p in study.pieces if _fits(p.size, window)]
    pages = [
        _page(size, f"{study.design.name}: {title}", shapes, units) for title, shapes in _shelves(small, window, units)
    ]
    for piece in study.pieces:
        if not _fits(piece.size, window):
            pages += _tiles(piece, size, window, study.design.name, units)
    pages += _fit_pages(study, size, units)
    return pages


def _fits(size: Point, window: _Window) -> bool:
    return size[0] <= window.width and size[1] + 5.0 <= window.height


def piece_shapes(piece: Piece, units: Units) -> list[Shape]:
    """A piece in its own coordinates: outline, holes, lines, panel names."""
    shapes: list[Shape] = []
    for loop in (piece.outline, *piece.holes):
        shapes += [Stroke("cut", p, loop[(i + 1) % len(loop)]) for i, p in enumerate(loop)]
    for line in piece.lines:
        pen: Pen = "cut" if line.kind == "cut" else "mark"
        if line.kind == "score":
            pen = "mountain" if line.fold == "mountain" else "valley"
        shapes.append(Stroke(pen, line.start, line.end))
    for panel in piece.panels:
        x0, x1 = min(p[0] for p in panel.outline), max(p[0] for p in panel.outline)
        size = min(3.5, (x1 - x0) / max(len(panel.label), 1) / 0.62)
        if size >= 1.6:
            shapes.append(Label((panel.centre[0], panel.centre[1] - size / 3), panel.label, size, "middle"))
    return shapes


def _title(piece: Piece, units: Units) -> str:
    count = f" · cut {piece.quantity}" if piece.quantity > 1 else ""
    return f"{piece.name} · {format_size(piece.size, units)}{count}"


def _moved(shape: Shape, dx: float, dy: float) -> Shape:
    if isinstance(shape, Stroke):
        return Stroke(shape.pen, (shape.start[0] + dx, shape.start[1] + dy), (shape.end[0] + dx, shape.end[1] + dy))
    return Label((shape.at[0] + dx, shape.at[1] + dy), shape.text, shape.size, shape.anchor, shape.bold)


def _shelves(pieces: list[Piece], window: _Window, units: Units) -> Iterator[tuple[str, list[Shape]]]:
    """Pieces that fit on one page, put side by side in shelves: (title, shapes) for each page."""
    shapes: list[Shape] = []
    names: list[str] = []
    x = y = shelf = 0.0
    for piece in sorted(pieces, key=lambda p: -p.size[1]):
        width, height = piece.size[0], piece.size[1] + 5.0
        if x and x + width > window.width:
            x, y, shelf = 0.0, y + shelf + SPACE, 0.0
        if y + height > window.height:
            yield ", ".join(names), shapes
            shapes, names, x, y, shelf = [], [], 0.0, 0.0, 0.0
        left, foot = MARGIN + x, MARGIN + FOOT + window.height - y - height
        shapes += [_moved(shape, left, foot) for shape in piece_shapes(piece, units)]
        title = _title(piece, units)
        shapes.append(Label((left, foot + piece.size[1] + 1.5), title, min(3.0, width / len(title) / 0.55), bold=True))
        names.append(piece.name)
        x, shelf = x + width + SPACE, max(shelf, height)
    if shapes:
        yield ", ".join(names), shapes


def _tiles(piece: Piece, paper: tuple[float, float], window: _Window, design: str, units: Units) -> Iterator[Page]:
    """One piece over several pages that overlap; every inner edge carries join lines and the neighbour's name."""
    width, height = piece.size
    step_x, step_y = window.width - OVERLAP, window.height - OVERLAP
    across = max(1, math.ceil((width - OVERLAP) / step_x))
    along = max(1, math.ceil((height - OVERLAP) / step_y))
    for row in range(along):
        for col in range(across):
            x0, y0 = col * step_x, row * step_y
            box = (x0, y0, x0 + window.width, y0 + window.height)
            dx, dy = MARGIN - x0, MARGIN + FOOT - y0
            shapes: list[Shape] = []
            for shape in piece_shapes(piece, units):
                if isinstance(shape, Label):
                    if box[0] <= shape.at[0] <= box[2] and box[1] <= shape.at[1] <= box[3]:
                        shapes.append(_moved(shape, dx, dy))
                elif (part := clipped(shape.start, shape.end, box)) is not None:
                    shapes.append(_moved(Stroke(shape.pen, *part), dx, dy))
            shapes += _joins(row, col, along, across, window)
            title = f"{design}: {_title(piece, units)} · tile {_tile(row, col)} of {along} × {across}"
            yield _page(paper, title, shapes, units)


def _tile(row: int, col: int) -> str:
    return f"{chr(65 + row)}{col + 1}"


def _joins(row: int, col: int, along: int, across: int, window: _Window) -> list[Shape]:
    """Join lines in the middle of each overlap, with crosses that fall on each other when two tiles are laid right."""
    shapes: list[Shape] = []
    x0, y0, x1, y1 = MARGIN, MARGIN + FOOT, MARGIN + window.width, MARGIN + FOOT + window.height
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
    pens: tuple[tuple[Pen, str], ...] = (("cut", "cut"), ("valley", "score, valley"), ("mountain", "score, mountain"))
    left = x + inches(4) + 16
    for i, (pen, text) in enumerate(pens):
        y = MARGIN + 10.5 - i * 3.4
        bars += [Stroke(pen, (left, y), (left + 14, y)), Label((left + 16, y - 0.9), text, 2.4)]
    bars.append(Label((x, MARGIN), f"{title}  ·  1:1, front face up. Measure the bar before you cut.", 2.4))
    return Page(*paper, title, (*shapes, *bars))


def _fit_pages(study: Study, paper: tuple[float, float], units: Units) -> Iterator[Page]:
    """The fits in words, and the materials."""
    lines = [(f"{headline(check)}", sentence(check, units)) for check in study.checks]
    closed = format_size(tuple(round(x, 1) for x in study.size_at(0.0)), units)
    intro = [f"Closed: {closed}", *sorted({material(piece) for piece in study.pieces})]
    rows = int((paper[1] - 2 * MARGIN - FOOT - 24) / 9.0)
    for start in range(0, max(len(lines), 1), rows):
        y = paper[1] - MARGIN - 6
        shapes: list[Shape] = [Label((MARGIN, y), f"{study.design.name}: will it fit", 5.0, bold=True)]
        if start == 0:
            for text in intro:
                y -= 5
                shapes.append(Label((MARGIN, y), text, 2.9))
        for head, words in lines[start : start + rows - (len(intro) if start == 0 else 0)]:
            y -= 8.5
            shapes += [Label((MARGIN, y), head, 2.9, bold=True), Label((MARGIN + 4, y - 3.8), words, 2.9)]
        yield _page(paper, f"{study.design.name}: fits", shapes, units)
