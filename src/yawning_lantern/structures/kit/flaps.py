"""Hinged flaps, one above another on a base: what a waterfall and a cascade share."""

from __future__ import annotations

import math

from msgspec import Struct

from yawning_lantern.assembly import Attach, Gap, Instance, Joint, Mount, Room, Root, Swing, span, uses
from yawning_lantern.pattern import Fold, Panel, Piece, build_piece, rectangle
from yawning_lantern.stock import Paper
from yawning_lantern.structures.kit.corners import corner_gaps, rounded, with_corners
from yawning_lantern.structures.kit.declare import Situation, Sizes
from yawning_lantern.structures.kit.lying import LEAST, face_mount, fit_gap
from yawning_lantern.structures.kit.shell import lever_term
from yawning_lantern.structures.kit.solving import face_room

MOST_FLAPS = 16  # flaps that are faces


class Stack(Struct, frozen=True):
    """N flaps hinged at their heads on a base, the first lowest; lengths in mm.

    `bulks` holds, for each flap, what is glued on its front and on its inside. `radius` rounds the free
    corners; `under` is what lies on the base beneath the flaps, beyond the thickness of their tabs.
    """

    paper: Paper
    glue: float
    width: float
    length: float
    tab: float
    step: float
    first: float
    flaps: int
    bulks: tuple[tuple[float, float], ...]
    radius: float = 0.0
    under: float = 0.0

    def wrap(self, k: int) -> float:
        """What the hinge of flap k goes around: the flaps beneath it and what is on their faces, mm."""
        return self.under + k * self.paper.caliper + sum(a + b for a, b in self.bulks[:k]) + self.bulks[k][1]

    def piece(self, element: str, name: str) -> Piece:
        """The flaps: a face, and the tab behind the fold."""
        w, length = self.width, self.length
        panels = [
            Panel("flap", "flap", rounded(0, 0, w, length, self.radius, ("bl", "br"))),
            Panel("tab", "tab", rectangle(0, length, w, length + self.tab)),
        ]
        fold = Fold("tab", "flap", -math.pi)
        return build_piece(f"{element}.flap", f"{name}, flap", self.paper, panels, [fold], quantity=self.flaps)

    def instances(self, element: str, base: str, panel: str, middle: float, standoff: float) -> list[Instance]:
        """Every flap glued by its tab on a panel whose coordinates run up; `middle` is the x of the flaps' middle."""
        instances = []
        for k in range(self.flaps):
            hinge = self.first + self.length + k * self.step
            instances.append(
                Instance(
                    f"flap-{k + 1}",
                    f"{element}.flap",
                    Root("tab", (self.width / 2, self.length), (0.0, -1.0), 1),
                    Attach(base, panel, (middle, hinge), (0.0, 1.0), 1, standoff),
                    wraps=(("tab/flap", self.wrap(k)),),
                )
            )
        return instances

    def joints(self, base: str, panel: str) -> tuple[Joint, ...]:
        """The flaps' tabs: the first decides whether all are straight."""
        words = "mark its line across the base first: it decides whether all are straight; check it before the next"
        return (Joint(("flap-1", "tab"), (base, panel), act="flap-1", label=words),)

    def swings(self, name: str, opened: float, verb: str, least: float) -> list[Swing]:
        """The flaps move one by one, the last first; `opened` is how far the first goes, `least` what is left
        until it would lie flat the other way, radians."""
        swings = []
        for j, k in enumerate(reversed(range(self.flaps))):
            angle = -max(least, math.pi - opened + 0.05 * j)
            swings.append(
                Swing(f"flap-{k + 1}", f"flap {k + 1} of {name} {verb}", ((f"flap-{k + 1}", "tab/flap", angle),))
            )
        return swings

    def fits(self, s: Situation, base: tuple[float, float], word: str) -> list[Gap]:
        """Flaps on a base `base` mm wide and long: their fall, their tabs and their width."""
        e, n = s.element, self.flaps
        tab, length = span("tab", self.tab, e, "tab"), span("flap", self.length, e, "flap-length")
        fall = span(word, base[1], e, "base-length").plus(
            lever_term("flap", -self.length, e, "flap-length", -1.0),
            lever_term(f"steps ({n - 1})", -(n - 1) * self.step, e, "step", -(n - 1.0)),
        )
        across = span(word, base[0], e, "base-width") - span("flap", self.width, e, "flap-width")
        return [
            fit_gap(s, uses.FLAPS, (f"{s.name}, {n} flap{'s' if n > 1 else ''}", word), fall),
            fit_gap(s, uses.STEP, (f"{s.name}, tab", "step"), span("step", self.step, e, "step") - tab),
            fit_gap(s, uses.SPARE, (f"{s.name}, tab", "flap that hides it"), length - tab),
            fit_gap(s, uses.PLACE, (f"{s.name}, flaps", f"{word}, across"), across),
            *corner_gaps(s, self.radius),
        ]

    def mounts(self, piece: Piece, over: float = 0.0) -> list[Mount]:
        """Both faces of every flap, `over` mm above the sheet; the inside has its head at the free edge."""
        mounts = []
        for k in range(self.flaps):
            panel, t, one = piece.panel("flap"), self.paper.caliper, f"flap-{k + 1}"
            mounts += [
                face_mount(f"{one}-front", f"flap {k + 1}, front", one, panel, 1, t + 2 * over),
                face_mount(f"{one}-inside", f"flap {k + 1}, inside", one, panel, -1, t + 2 * over, (0.0, -1.0)),
            ]
        return mounts


def flap_faces(most: int = MOST_FLAPS) -> tuple[tuple[str, str], ...]:
    """The faces that flaps can offer."""
    return tuple((f"flap-{k + 1}-{face}", f"flap {k + 1}, {face}") for k in range(most) for face in ("front", "inside"))


def flap_rooms(s: Situation, sizes: Sizes, word: str) -> dict[str, Room]:
    """Both faces of every flap, and what shows of the base beside the first."""
    t, e = s.paper.caliper, s.element
    w, length = sizes["flap-width"].length, sizes["flap-length"].length
    radius = sizes["rounded"].length if "rounded" in sizes else 0.0
    rooms = {
        f"flap-{k + 1}-{face}": with_corners(
            face_room(w, length, t, e, ("flap-width", "flap-length"), f"flap {k + 1}"), s, radius
        )
        for k in range(int(sizes["flaps"].length))
        for face in ("front", "inside")
    }
    free = max(length - sizes["tab"].length, LEAST)
    rooms["base"] = face_room(sizes["base-width"].length, free, t, e, ("base-width", "flap-length"), word)
    return rooms
