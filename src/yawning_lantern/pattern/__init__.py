"""Flat pieces: panels, creases, lines made of segments, built from score grids."""

from yawning_lantern.pattern.build import Fold, Slit, build_piece, rectangle, round_hole
from yawning_lantern.pattern.piece import Crease, Line, Panel, Piece, Point, ScoreFlag, area, bounds

__all__ = [
    "Crease",
    "Fold",
    "Line",
    "Panel",
    "Piece",
    "Point",
    "ScoreFlag",
    "Slit",
    "area",
    "bounds",
    "build_piece",
    "rectangle",
    "round_hole",
]
