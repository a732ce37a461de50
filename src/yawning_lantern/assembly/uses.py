"""What each kind of gap wants, by school. Every figure here is common practice of the trade, with no source.

A gap carries its use: a family that has none to its liking brings its own."""

from __future__ import annotations

from msgspec import Struct

from yawning_lantern.measure import inches


class Use(Struct, frozen=True, eq=False):
    """A kind of gap, told apart by identity.

    `bands` are the upper ends of clash, tight, snug and easy, mm; `wants` holds (school, least, most), the usual school
    first. `upto`: what is as wide as the end of easy is easy still. `outside`: the guest goes over or around its host.
    `drawn`: it has a place in pictures. `fills`: more room than it asks is no fault where nobody gave its size.
    `only_short`: it is told only where something falls short. `elsewhere` is its use on a face that is not made for
    it, `between` where it goes in between walls.
    """

    code: str
    label: str
    bands: tuple[float, float, float, float]
    wants: tuple[tuple[str, float, float], ...]
    upto: bool = True
    outside: bool = False
    drawn: bool = True
    fills: bool = False
    only_short: bool = False
    elsewhere: Use | None = None
    between: Use | None = None

    def wanted(self, school: str) -> tuple[float, float]:
        """What a school asks, or the usual one where it has no such school, mm."""
        ranges = {name: (least, most) for name, least, most in self.wants}
        return ranges.get(school) or next(iter(ranges.values()))


def use_of(
    code: str, label: str, bands: tuple[float, float, float], wants: dict[str, tuple[float, float]], *,
    upto: bool = True, outside: bool = False, drawn: bool = True, fills: bool = False, only_short: bool = False,
    elsewhere: Use | None = None, between: Use | None = None,
) -> Use:  # fmt: skip
    """A use told in inches, as the trade does: upper ends of tight, snug and easy, and the range of each school."""
    tight, snug, easy = (inches(b) for b in bands)
    ranges = tuple((school, inches(a), inches(b)) for school, (a, b) in wants.items())
    return Use(
        code, label, (0.0, tight, snug, easy), ranges, upto, outside, drawn, fills, only_short, elsewhere, between
    )


NO_END = 2000.0
"""What is left over at most where there is no such bound, mm."""
ENOUGH = (0.0, NO_END)
"""What is asked where anything left over will do, mm."""
SLIDES = (inches(1 / 16), NO_END)
"""What is asked beside something that slides in, mm: it may be wider. Common practice, no source."""
FLOOR = use_of("floor", "Flat between walls", (1 / 64, 1 / 32, 36), {"easy": (1 / 32, 36)})
TRAY = use_of("tray", "Tray in its place", (1 / 64, 1 / 32, 1 / 8), {"easy": (1 / 32, 1 / 8)}, fills=True)
LID = use_of(
    "lid",
    "Lid over box",
    (0.0, 1 / 32, 1 / 8),
    {"snug": (0, 1 / 32), "easy": (1 / 32, 5 / 32), "loose": (1 / 8, 1 / 4)},
    upto=False,
    outside=True,
)
LAYER = use_of(
    "layer", "Layer in layer", (1 / 64, 1 / 32, 1 / 2), {"easy": (1 / 32, 1 / 2)}, fills=True, elsewhere=TRAY
)
CONTENTS = use_of("contents", "Contents", (1 / 32, 1 / 16, 1 / 4), {"easy": (1 / 16, 1 / 4)})
HEADROOM = use_of("headroom", "Headroom", (1 / 64, 1 / 32, 36), {"easy": (1 / 32, 12)})
WALL_HEIGHT = use_of(
    "wall-height",
    "Layer's wall under the outer's",
    (0.0, 1 / 32, 1 / 2),
    {"stepped": (0, 1 / 2), "easy": (0, 12), "level": (0, 1 / 8)},
)
MAT = use_of("mat", "Mat on panel", (1 / 16, 3 / 32, 3 / 8), {"easy": (1 / 16, 3 / 8)}, drawn=False, fills=True)
POCKET = use_of("pocket", "In its pocket", (1 / 16, 3 / 32, 1 / 2), {"easy": (1 / 16, 1 / 2)}, drawn=False)
RIM = use_of("rim", "Rim against wall", (0.0, 0.0, 36), {"easy": (0, 12)})
PLACE = use_of("place", "Place on the face", (0.0, 0.0, 36), {"easy": (0, 36)}, between=FLOOR)
STOCK = use_of("stock", "Stock takes the fold", (1 / 64, 1 / 32, 36), {"easy": (0, 36)}, only_short=True)
PANEL = use_of("panel", "Panel wide enough to fold", (1 / 32, 1 / 16, 36), {"easy": (0, 36)}, only_short=True)
JOINT = use_of("joint", "Glued joint holds", (1 / 16, 1 / 8, 36), {"easy": (0, 36)})
BESIDE = use_of("beside", "Beside one another", (0.0, 1 / 32, 36), {"easy": (0, 36)}, only_short=True)
CORNERS = use_of("corners", "Within rounded corners", (0.0, 1 / 64, 36), {"easy": (0, 36)}, only_short=True)
FLAPS = use_of("flaps", "Flaps on their base", (0.0, 0.0, 36), {"easy": (0, 36)})
STEP = use_of("step", "Step clears the tab", (0.0, 0.0, 36), {"easy": (0, 36)})
SPARE = use_of("spare", "Room for it", (0.0, 0.0, 36), {"easy": (0, 36)})
LAP = use_of("lap", "Laps far enough", (0.0, 0.0, 36), {"easy": (0, 36)})
AT_HAND = use_of("at-hand", "Holds what is at hand", (0.0, 1 / 16, 1 / 4), {"easy": (0, 78)})
WRAP = use_of("wrap", "Wrapper around the stack", (0.0, 1 / 32, 3 / 16), {"easy": (0, 3 / 16)})
STACK = use_of("stack", "Stack in the wrapper's height", (0.0, 1 / 32, 36), {"easy": (0, 36)})
STRAP = use_of("strap", "Strap long enough", (0.0, 1 / 16, 36), {"easy": (0, 36)})
SPINE = use_of("spine", "Wide enough at the fold", (0.0, 1 / 32, 1 / 4), {"easy": (0, 2)})
COVER = use_of("cover", "Covers what lies under it", (0.0, 1 / 16, 1 / 4), {"easy": (1 / 16, 2)})
RING = use_of("ring", "Pleats around the ring", (0.0, 1 / 4, 36), {"easy": (0, 96)})
INSIDE_CARD = use_of("inside-card", "Inside the shut card", (0.0, 1 / 16, 36), {"easy": (0, 36)})
LEAVES = use_of("leaves", "Front leaves over the centre", (0.0, 0.0, 1 / 16), {"easy": (0, 1 / 16)})
FLAT_TUBE = use_of("flat-tube", "Walls fold flat in pairs", (0.0, 0.0, 1 / 64), {"easy": (0, 1 / 64)})
GLUE = use_of("glue", "Width left for glue", (1 / 8, 1 / 4, 36), {"easy": (1 / 8, 36)})
CLASP = use_of("clasp", "Fastening meets what it closes on", (0.0, 1 / 128, 1 / 16), {"easy": (0, 1 / 16)}, drawn=False)
STRIPE = use_of("stripe", "Magnet from a magnetic stripe", (1, 3 / 2, 2), {"easy": (2, 400)}, drawn=False)
BAND = use_of("band", "Band around", (1 / 128, 1 / 64, 1 / 8), {"easy": (1 / 16, 1 / 4)}, outside=True)
SHEET = use_of("sheet", "Sheet holds piece", (0.0, 0.0, 36), {"any": (0, 36)}, drawn=False)
