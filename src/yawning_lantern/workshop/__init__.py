"""The maker's own drawer: papers, glue and tools, how many sheets are there, and which off-cuts are kept."""

from yawning_lantern.workshop.records import read as read_item
from yawning_lantern.workshop.records import written
from yawning_lantern.workshop.store import Job, OffCut, Workshop

__all__ = ["Job", "OffCut", "Workshop", "read_item", "written"]
