"""Yawning Lantern: fold-out paper structures, worked out, folded and proven before paper is cut."""

__version__ = "0.4.0"
