"""Folding: poses from crease angles with true thickness, exact painter order, and sections."""

from yawning_lantern.fold.bsp import Facet, PaintTree, build_tree, paint_order
from yawning_lantern.fold.bulk import BulkMap, bulk_map, weight
from yawning_lantern.fold.examine import Finding, examine, jam
from yawning_lantern.fold.frames import apply
from yawning_lantern.fold.pose import (
    Posed,
    State,
    corners,
    extent,
    extent_of,
    facets,
    flat_parts,
    opening_state,
    pose,
    shut_facets,
    shut_pose,
    unmoved,
)
from yawning_lantern.fold.rings import RingPath, RingSolver, ring_path
from yawning_lantern.fold.section import Cut, cut_through
from yawning_lantern.fold.seen import PanelSeen, Scene, looks, panels_seen

__all__ = [
    "BulkMap",
    "Cut",
    "Facet",
    "Finding",
    "PaintTree",
    "PanelSeen",
    "Posed",
    "RingPath",
    "RingSolver",
    "Scene",
    "State",
    "apply",
    "build_tree",
    "bulk_map",
    "corners",
    "cut_through",
    "examine",
    "extent",
    "extent_of",
    "facets",
    "flat_parts",
    "jam",
    "looks",
    "opening_state",
    "paint_order",
    "panels_seen",
    "pose",
    "ring_path",
    "shut_facets",
    "shut_pose",
    "unmoved",
    "weight",
]
