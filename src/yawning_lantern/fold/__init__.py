"""Folding: poses from crease angles with true thickness, exact painter order, and sections."""

from yawning_lantern.fold.bsp import Facet, PaintTree, build_tree, paint_order
from yawning_lantern.fold.pose import State, apply, extent, facets, opening_state, pose
from yawning_lantern.fold.section import Cut, cut_through

__all__ = [
    "Cut",
    "Facet",
    "PaintTree",
    "State",
    "apply",
    "build_tree",
    "cut_through",
    "extent",
    "facets",
    "opening_state",
    "paint_order",
    "pose",
]
