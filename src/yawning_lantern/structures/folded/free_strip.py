"""Free strip: any panels in a row, each as wide as told, folded onto the one that is glued down."""

from __future__ import annotations

from yawning_lantern.structures.kit.free_strip import FreeStrip

FAMILY = FreeStrip()
