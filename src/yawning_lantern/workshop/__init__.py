"""The maker's own drawer: how many sheets of each stock are there, and which off-cuts are kept."""

from yawning_lantern.workshop.store import Job, OffCut, Workshop, workshop_path

__all__ = ["Job", "OffCut", "Workshop", "workshop_path"]
