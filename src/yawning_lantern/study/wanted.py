"""What a design wants of sheets: its pieces as rectangles, and the sheets of their stock."""

from __future__ import annotations

from collections.abc import Iterable

from yawning_lantern.design import Design
from yawning_lantern.pattern import Piece
from yawning_lantern.sheets import Board, Rectangle, Trimmer
from yawning_lantern.stock import Catalogue, Paper
from yawning_lantern.study.spare import spare_of
from yawning_lantern.study.study import Study
from yawning_lantern.workshop import OffCut

HEAVY = 200.0
"""g/m²: from here on it matters how the grain runs. Common practice, no source."""


def wanted(study: Study, copies: int = 1) -> tuple[Rectangle, ...]:
    """Every piece that is cut, as its rectangle, so many times over. A piece is told by its name, as lists tell it.

    A pattern with a direction, and the grain of heavy stock, tell how a piece lies on its sheet; any other may be
    turned.
    """
    rectangles = []
    for piece in study.pieces:
        if not piece.bought:
            may_turn, turned = lying(piece)
            count = piece.quantity * copies
            spare = spare_of(piece, piece.way if not may_turn else 0, turned) if not piece.edge else ()
            rectangles.append(Rectangle(piece.name, *piece.blank, count, may_turn, piece.stock.id, turned, spare))
    return tuple(rectangles)


def lying(piece: Piece) -> tuple[bool, bool]:
    """Whether a piece may be turned by a quarter on its sheet, and if not whether it lies turned."""
    paper = piece.stock
    if paper.has_direction:
        return False, piece.way % 2 == 1
    if paper.grain_up is not None and piece.creases and ((paper.grammage or 0.0) >= HEAVY or paper.coated):
        up, level = _folds(piece)
        return False, (up < level) == paper.grain_up
    return True, False


def folds_along(piece: Piece) -> tuple[float, float]:
    """How long its folds are along the grain and across it, as the piece lies on its sheet, mm; those that slant count
    for both."""
    up, level = _folds(piece)
    turned = lying(piece)[1]
    return (up, level) if piece.stock.grain_up != turned else (level, up)


def _folds(piece: Piece) -> tuple[float, float]:
    """The length of all folds of a piece along its height and along its width, mm."""
    up = sum(abs(crease.end[1] - crease.start[1]) for crease in piece.creases)
    return up, sum(abs(crease.end[0] - crease.start[0]) for crease in piece.creases)


def sheet_of(paper: Paper) -> Board:
    """The sheet that a paper is bought as, what can be used of it."""
    return Board(paper.sheet.name, paper.id, paper.sheet.usable_width, paper.sheet.usable_height)


def boards(papers: Iterable[Paper]) -> tuple[Board, ...]:
    """A sheet of every paper, as many as are bought."""
    return tuple(sheet_of(paper) for paper in {paper.id: paper for paper in papers}.values())


def kept_boards(off_cuts: Iterable[OffCut]) -> tuple[Board, ...]:
    """Off-cuts as sheets to cut from, each once; their name is their number in the drawer."""
    return tuple(Board(f"off-cut {o.id}", o.stock, o.width, o.height, 1, kept=True) for o in off_cuts)


def boards_of(study: Study) -> tuple[Board, ...]:
    """A sheet of every paper that a design's pieces are cut from."""
    return boards(piece.stock for piece in study.pieces if not piece.bought)


def trimmer_of(design: Design, catalogue: Catalogue) -> Trimmer:
    """What a design is cut with: its cutting tool's longest cut and what its blade takes away."""
    tool = catalogue.tool(design.cut_tool)
    return Trimmer(tool.longest, tool.kerf)
