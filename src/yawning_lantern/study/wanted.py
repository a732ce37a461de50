"""What a design wants of sheets: its pieces as rectangles, and the sheets of their stock."""

from __future__ import annotations

from collections.abc import Iterable

from yawning_lantern.design import Design
from yawning_lantern.sheets import Board, Rectangle, Trimmer
from yawning_lantern.stock import Catalogue, Paper
from yawning_lantern.study.study import Study
from yawning_lantern.workshop import OffCut


def wanted(study: Study, copies: int = 1) -> tuple[Rectangle, ...]:
    """Every piece that is cut, as its rectangle, so many times over. A piece is told by its name, as lists tell it."""
    return tuple(
        Rectangle(piece.name, *piece.size, piece.quantity * copies, True, piece.stock.id)
        for piece in study.pieces
        if not piece.bought
    )


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
