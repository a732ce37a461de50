"""One element, built: its pieces, how they join, what moves, the faces it offers, its pockets and own gaps."""

from __future__ import annotations

from typing import Literal, Protocol

from msgspec import Struct

from yawning_lantern.assembly.room import Gap
from yawning_lantern.pattern import Piece, Point

Vec = tuple[float, float, float]


class Root(Struct, frozen=True):
    """The panel by which a thing is placed: its middle and up direction in the piece, and the face that touches.

    `touch` is −1 where the back lies against the host, +1 where the front does. `away` is what lies between the two,
    mm: a tag under its pocket. With a `tilt` (radians) it stands on the line through its origin and its up direction
    rises so far from the host's face: 0 lies, a quarter turn stands on its edge. `ahead` is where that origin is in the
    face, mm along the up direction from the middle of its place.
    """

    panel: str
    origin: Point
    up: Point = (0.0, 1.0)
    touch: Literal[-1, 1] = -1
    away: float = 0.0
    tilt: float = 0.0
    ahead: float = 0.0


class Attach(Struct, frozen=True):
    """A joint inside a part: an instance set on a panel of another.

    `side` +1 is the host panel's front, −1 its back; `standoff` is the distance between the two mid-surfaces, mm.
    """

    host: str
    panel: str
    origin: Point
    up: Point
    side: Literal[-1, 1]
    standoff: float
    kind: Literal["glue", "slide"] = "glue"


class Shape(Protocol):
    """Where the panels of a sheet lie that bends out of its planes: given by a formula, not by creases."""

    def points(self, panel: int, make: float) -> tuple[Vec, ...]:
        """Corners of a panel (by its place in the piece), in the piece's frame, mm; flat at make 0, made at 1."""

    def bodies(self, panel: int) -> tuple[tuple[tuple[Point, ...], float, float], ...]:
        """What cannot be shared with another sheet when made, told once for the whole sheet (by its first panel):
        upright prisms of (outline, low, high) in the piece's frame, mm, inside what the sheet takes up."""


class Instance(Struct, frozen=True):
    """One copy of a piece in the built thing. The first of a part has no `attach`: the host places it.

    A piece with a `shape` is not folded crease by crease: the shape tells where its panels are. `wraps` holds (crease
    name, bulk that this copy's fold goes around, mm) where copies differ.
    """

    id: str
    piece: str
    root: Root
    attach: Attach | None = None
    shape: Shape | None = None
    wraps: tuple[tuple[str, float], ...] = ()
    limp: bool = False


class Pin(Struct, frozen=True):
    """What turns a whole instance: an axis through a point `at` of its own piece along a unit way `axis` (x, y, and z
    out of its front, mm), where all is shut, and by how much, radians, right-handed. A staple, a brad."""

    instance: str
    at: Vec
    axis: Vec
    angle: float


class Roll(Struct, frozen=True):
    """What turns the panel by which an instance is set, while the panel beyond a crease stays where it stands, and with
    it the `riders`, instances that are set on the panel that turns: a leaf behind the middle of a booklet. The swing
    tells where that crease goes."""

    instance: str
    crease: str
    riders: tuple[str, ...] = ()


class Swing(Struct, frozen=True):
    """Creases, slides, pins and rolls that move together: (instance, crease name, angle in radians when it is done),
    and (instance, way in its own piece: x, y, and z out of its front, mm), however it is set and turned. A crease may
    move again in a later swing of its part; what turns about several pins is turned by the earlier swings first."""

    name: str
    label: str
    creases: tuple[tuple[str, str, float], ...] = ()
    slides: tuple[tuple[str, Vec], ...] = ()
    pins: tuple[Pin, ...] = ()
    rolls: tuple[Roll, ...] = ()


class Closure(Struct, frozen=True):
    """A glued joint that closes a ring: points of one panel that must stay on points of another.

    `a` and `b` are (instance, panel); each pair holds the same place in both pieces' coordinates, mm (z off the
    mid-surface).
    """

    label: str
    a: tuple[str, str]
    b: tuple[str, str]
    points: tuple[tuple[Vec, Vec], ...]


Ends = tuple[str, str]
"""An instance and one of its panels."""
HOST: Ends = ("", "")
"""The face of another part that a part is put on, in a joint that it tells of."""
Bond = Literal["glue", "slide", "free", "held"]
"""glue: fixed for good. slide: kept in place and moves. free: they only lie on one another. held: a knot or a brad."""


class Joint(Struct, frozen=True):
    """Two faces of panels that meet when shut and stay as they are.

    `a` is the one that is brought to the other. Joints with the same `act` are closed by one fold or one press; one
    without an act is closed by itself. `spots` are the outlines of what is glued, in the piece of `a`, mm; where
    there are none it is all that both faces share. `on_contents`: it is pressed against what the thing holds, or a
    board that is stiff. `closes`: the thing is shut by it, so that it comes last. `by_eye`: no number tells its
    place. `seam`: its edge is seen where its outer face is. `hollow`: it is made at a hollow wall, so that what is
    brought slides in along the sheet it goes on, and is pressed through the wall. `tried`: what is tried before it is
    made, for it does not open again. `caution`: what can hurt someone there. `by`: what it is joined with, where that
    is not the design's glue; it springs back, and is held down for so many minutes (`hold`). `label` says what is done,
    where the names of the two do not. How a part is set on another and how its rings close are joints too, without
    being told; a joint of the same two panels tells more of it.
    """

    a: Ends
    b: Ends
    bond: Bond = "glue"
    act: str = ""
    label: str = ""
    spots: tuple[tuple[Point, ...], ...] = ()
    on_contents: bool = False
    closes: bool = False
    by_eye: bool = False
    seam: bool = False
    hollow: bool = False
    tried: str = ""
    caution: str = ""
    by: str = ""
    hold: float = 0.0

    @property
    def name(self) -> str:
        """The name of its act within the part."""
        return self.act or "/".join(word for word in (*self.a, *self.b) if word)


class Loop(Struct, frozen=True):
    """A ring of hinged panels: one swing drives it, the `unknowns` follow so that the closures hold.

    Each unknown is an angle that one or more creases share: (instance, crease name, factor). `start` are the angles
    (radians) near which to look when the swing is `start_at` done: they choose the branch.
    """

    name: str
    swing: str
    unknowns: tuple[tuple[tuple[str, str, float], ...], ...]
    start: tuple[float, ...]
    closures: tuple[Closure, ...]
    start_at: float = 1.0


class Mount(Struct, frozen=True):
    """A face that can carry a guest: where it is, and how the guest sits.

    `outline` is the free part of the face in the mount's frame (x right, y up, origin in its middle), mm.
    `standoff` is the distance from the host panel's mid-surface to the plane the guest's touching face lies in, mm.
    `seat` guests rest, and lift off by `lift` mm along the face's normal and `draw` mm (right, up) along the face;
    others are glued. What `holds` is a floor where the part's contents stand. `over` are panels of the part that lie
    flush on the face, so that a guest is glued on them too: tabs, leaves, a liner.
    """

    id: str
    label: str
    instance: str
    panel: str
    side: Literal[-1, 1]
    origin: Point
    up: Point
    outline: tuple[Point, ...]
    standoff: float
    seat: bool = False
    lift: float = 0.0
    draw: Point = (0.0, 0.0)
    holds: bool = False
    over: tuple[tuple[str, str], ...] = ()


class Pocket(Struct, frozen=True):
    """A pocket: the panels that make it, its mouth, and depth and inside width after glue, mm."""

    name: str
    panels: tuple[str, ...]
    mouth: str
    width: float
    depth: float


class Ware(Struct, frozen=True):
    """Something by length that is bought for a part and is no piece of it: a cord, a ribbon. Length of one in mm."""

    name: str
    count: int
    length: float


class Hint(Struct, frozen=True):
    """Of two acts of a part which comes first, and why: where reach would let them come either way."""

    first: str
    then: str
    because: str


class Strain(Struct, frozen=True):
    """What springs back, and what holds it, N: both to an order of magnitude. `remedy` is what would help."""

    springs: float
    holds: float
    remedy: str


class Clasp(Struct, frozen=True):
    """Half of a fastening: the `side` of a panel that must meet what it closes on when all is shut, and across how much
    air it still `holds`, mm. A `magnetic` one is kept away from magnetic stripes; one that is `tucks` wide, mm, is
    tucked into a pocket or under a band there."""

    instance: str
    panel: str
    side: Literal[-1, 1]
    holds: float
    magnetic: bool = False
    tucks: float = 0.0


class Part(Struct, frozen=True):
    """One element, built. Immutable, and a function of its situation alone.

    `contents` is the box of what stands on its floor (width, depth, height, mm), where the maker told of it. `folding`
    tells in which order its creases are folded when it is made, each stage the (instance, crease) folded at once; what
    it does not name is folded all along. A part that `pierces` goes through the panel it is put on where these points
    of its root piece lie, by holes so wide, mm, and is held behind it. One with a `clasp` fastens something; one that
    is `striped` bears a magnetic stripe; one under `strain` springs off unless what holds it is stronger. What it
    `shaves` is cut a hair too wide, and made narrower by hand until it holds. One that is laid `under` comes before
    what is glued over it on its host.
    """

    element: str
    name: str
    pieces: tuple[Piece, ...]
    instances: tuple[Instance, ...]
    mounts: tuple[Mount, ...] = ()
    swings: tuple[Swing, ...] = ()
    gaps: tuple[Gap, ...] = ()
    pockets: tuple[Pocket, ...] = ()
    contents: tuple[float, float, float] | None = None
    loops: tuple[Loop, ...] = ()
    wares: tuple[Ware, ...] = ()
    joints: tuple[Joint, ...] = ()
    hints: tuple[Hint, ...] = ()
    folding: tuple[tuple[tuple[str, str], ...], ...] = ()
    pierces: tuple[tuple[Point, float], ...] = ()
    clasp: Clasp | None = None
    striped: bool = False
    strain: Strain | None = None
    shaves: str = ""
    under: bool = False

    def piece(self, piece_id: str) -> Piece:
        """The piece of that id. Raises KeyError."""
        for piece in self.pieces:
            if piece.id == piece_id:
                return piece
        raise KeyError(piece_id)

    def instance(self, instance_id: str) -> Instance:
        """The instance of that id. Raises KeyError."""
        for instance in self.instances:
            if instance.id == instance_id:
                return instance
        raise KeyError(instance_id)
