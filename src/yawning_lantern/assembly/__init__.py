"""What a built design is: parts of pieces and joints, Room and Need between them, gaps, and the whole joined up."""

from yawning_lantern.assembly.edges import edge_gaps
from yawning_lantern.assembly.joined import Assembly, CreaseStep, Guest, Motion, Node, PlaceStep, join
from yawning_lantern.assembly.part import Attach, Instance, Mount, Part, Pocket, Root, Swing
from yawning_lantern.assembly.room import Gap, Need, Relation, Room, Side, box_sides
from yawning_lantern.assembly.spans import Lever, Span, Term, span

__all__ = [
    "Assembly",
    "Attach",
    "CreaseStep",
    "Gap",
    "Guest",
    "Instance",
    "Lever",
    "Motion",
    "Mount",
    "Need",
    "Node",
    "Part",
    "PlaceStep",
    "Pocket",
    "Relation",
    "Room",
    "Root",
    "Side",
    "Span",
    "Swing",
    "Term",
    "box_sides",
    "edge_gaps",
    "join",
    "span",
]
