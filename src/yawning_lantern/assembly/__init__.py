"""What a built design is: parts of pieces and joints, Room and Need between them, gaps, and the whole joined up."""

from yawning_lantern.assembly.edges import edge_gaps, seat_shift
from yawning_lantern.assembly.joined import Assembly, Bonded, CreaseStep, Guest, Motion, Node, PlaceStep, Ring, join
from yawning_lantern.assembly.joints import joints_of
from yawning_lantern.assembly.part import (
    HOST,
    Attach,
    Closure,
    Hint,
    Instance,
    Joint,
    Loop,
    Mount,
    Part,
    Pocket,
    Root,
    Shape,
    Swing,
    Vec,
    Ware,
)
from yawning_lantern.assembly.room import Gap, Need, Relation, Room, Side, box_sides, sits_on
from yawning_lantern.assembly.spans import Lever, Span, Term, span
from yawning_lantern.assembly.uses import Use, use_of

__all__ = [
    "HOST",
    "Assembly",
    "Attach",
    "Bonded",
    "Closure",
    "CreaseStep",
    "Gap",
    "Guest",
    "Hint",
    "Instance",
    "Joint",
    "Lever",
    "Loop",
    "Motion",
    "Mount",
    "Need",
    "Node",
    "Part",
    "PlaceStep",
    "Pocket",
    "Relation",
    "Ring",
    "Room",
    "Root",
    "Shape",
    "Side",
    "Span",
    "Swing",
    "Term",
    "Use",
    "Vec",
    "Ware",
    "box_sides",
    "edge_gaps",
    "join",
    "joints_of",
    "seat_shift",
    "sits_on",
    "span",
    "use_of",
]
