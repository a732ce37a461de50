"""What reaches a glued joint: nozzle and bottle, finger and hand, folder and fist, as boxes beside a point of a face.

A tool is told in the frame of its axis: along it from the point, square to it in the face, and off the face, mm. Sizes
are those of common tools and a middling hand: common practice, no source."""

from __future__ import annotations

import math
from collections.abc import Sequence
from functools import lru_cache

from msgspec import Struct

from yawning_lantern.arrays import Floats, Truths, np

_SKIN = 0.4
"""How far off the face a tool's box begins, mm: paper and flesh give as much."""


Span = tuple[float, float]


class Box(Struct, frozen=True):
    """A box beside a point: from and to along the axis, off the face (of what comes straight, to either side), and
    across, mm."""

    along: Span
    off: Span
    across: Span


class Tool(Struct, frozen=True):
    """A thing in a hand. `flat`: it lies along the face; else it comes at it with its tip, at some angles to the face's
    normal."""

    name: str
    boxes: tuple[Box, ...]
    flat: bool


def _both(wide: float) -> Span:
    return -wide / 2, wide / 2


def _tip(name: str, *parts: tuple[float, Span, Span]) -> Tool:
    """What comes with its tip, in lengths one behind the other: (length, off, across)."""
    boxes, at = [], _SKIN
    for length, off, across in parts:
        boxes.append(Box((at, at + length), off, across))
        at += length
    return Tool(name, tuple(boxes), False)


def _flat(name: str, *parts: tuple[float, float, Span], back: float = 0.0) -> Tool:
    """What lies along a face, in lengths one behind the other: (length, thickness, across); it begins `back` behind
    the point."""
    boxes, at = [], -back
    for length, thick, across in parts:
        boxes.append(Box((at, at + length), (_SKIN, _SKIN + thick), across))
        at += length
    return Tool(name, tuple(boxes), True)


_HAND = (110.0, _both(30), _both(75))  # length, off and across, mm: a hand behind its fingers
_BOTTLE = (100.0, _both(35), _both(35))  # a bottle of glue behind its nozzle
_EDGE = (-0.5, 11.5)  # mm across: a finger that presses with its edge
NOZZLES = (
    _tip("nozzle", (14.0, _both(2), _both(2)), (46.0, _both(6), _both(6)), _BOTTLE),
    _flat("nozzle", (14.0, 2.0, _both(2)), (46.0, 6.0, _both(6)), (100.0, 35.0, _both(35))),
)
"""A bottle with a fine tip, held at the face or along it: of each part from where to where it is along, off and across
its way, mm. From memory."""
PRESSING = (
    _tip("finger", (40.0, _both(12), _both(12)), _HAND),
    _flat("finger", (46.0, 12.0, _both(12)), (110.0, 30.0, _both(75)), back=6.0),
    _tip("finger", (40.0, _both(12), _EDGE), _HAND),
    _flat("finger", (46.0, 12.0, _EDGE), (110.0, 30.0, _both(75)), back=6.0),
    _flat("folder", (126.0, 3.0, _both(15)), (90.0, 40.0, _both(75)), back=6.0),
    _tip("folder's tip", (100.0, _both(4), _both(4)), _HAND),
    _flat("folder's tip", (100.0, 4.0, _both(4)), (110.0, 30.0, _both(75))),
)
"""What presses a joint, the simplest first; a finger with its middle, then with its edge. Its parts as above. From
memory."""
_TILTS = (0.0, math.pi / 6, math.pi / 3)  # from the face's normal, radians: how what comes with its tip is tried
_AZIMUTHS = 8  # ways around the normal in which a tool is tried


@lru_cache
def _held(tool: Tool) -> tuple[Floats, Floats, Floats]:
    """The ways a tool can be held at a face: frames (w, 3, 3) with rows along, off and across, told by a way in the
    face, the one square to it, and the normal; the middles of its boxes in each (w, b, 3); half sizes (b, 3), mm."""
    held = []
    for k in range(_AZIMUTHS):
        angle = 2 * math.pi * k / _AZIMUTHS
        c, s = math.cos(angle), math.sin(angle)
        if tool.flat:
            held.append(((c, s, 0.0), (0.0, 0.0, 1.0), (-s, c, 0.0)))
            continue
        for tilt in _TILTS:
            lean, up = math.sin(tilt), math.cos(tilt)
            held.append(((lean * c, lean * s, up), (up * c, up * s, -lean), (-s, c, 0.0)))
    frames = np.array(held)
    middles = np.array([[sum(side) / 2 for side in (box.along, box.off, box.across)] for box in tool.boxes])
    halves = np.array([[np.ptp(side) / 2 for side in (box.along, box.off, box.across)] for box in tool.boxes])
    return frames, middles @ frames, halves


def boxes_at(points: Floats, normal: Floats, along: Floats, tool: Tool) -> tuple[Floats, Floats, Floats]:
    """Every box of a tool at every point (p, 3) of a face, held every way: middles (p, w, b, 3), axes (w, 3, 3), rows
    along, off and across, and half sizes (b, 3), mm."""
    frames, offsets, halves = _held(tool)
    basis = np.array([along, np.cross(normal, along), normal])
    return points[:, None, None] + (offsets @ basis)[None], frames @ basis, halves


def met_by(points: Floats, normal: Floats, along: Floats, tool: Tool, corners: Floats, ways: Floats) -> Truths:
    """Which plates a tool meets at each point of a face (p, 3) in each way of holding it, (n, p, w).

    `corners` (n, k, 3) and `ways` (n, m, 3) are the plates' corners and the directions that may part them from others.
    Boxes and plates are parted by those and by the box's own axes; crossed edges are left out, so that a tool that
    would just pass aslant is told to meet.
    """
    # one direction after another: numpy is slow where the axis that is reduced is the last and short
    middles, frames, halves = boxes_at(points, normal, along, tool)
    apart = np.zeros((*middles.shape[:3], len(corners)), dtype=bool)  # (p, w, b, n)
    swapped = corners.transpose(1, 0, 2).reshape(-1, 3).T  # (3, k·n)
    for k in range(3):  # along the box's own axes
        axis = frames[:, k]  # (w, 3)
        spread = (axis @ swapped).reshape(len(axis), corners.shape[1], len(corners))
        at = (middles * axis[:, None]).sum(-1)  # (p, w, b)
        _part(apart, at, halves[:, k, None], spread.min(1), spread.max(1))
    reach = corners @ ways.transpose(0, 2, 1)  # (n, k, m)
    least, most = reach.min(axis=1), reach.max(axis=1)
    for m in range(ways.shape[1]):  # along the plates' own directions
        way = ways[:, m].T  # (3, n)
        _part(apart, middles @ way, halves @ np.abs(frames @ way), least[:, m], most[:, m])
    met: Truths = ~apart[:, :, 0]
    for b in range(1, len(halves)):
        met |= ~apart[:, :, b]
    return np.ascontiguousarray(met.transpose(2, 0, 1))


def _part(apart: Truths, at: Floats, half: Floats, low: Floats, high: Floats) -> None:
    """Note which boxes and plates a direction parts: middles along it (p, w, b) or, where it is another for every
    plate, (p, w, b, n), half lengths (b, 1) or (w, b, n), and where the plates lie, (w, n) or (n,)."""
    if at.ndim == apart.ndim - 1:
        at, low, high = at[..., None], low[:, None], high[:, None]
    apart |= at + half < low
    apart |= at - half > high


class Free:
    """What tools meet at faces, kept for every plate by itself: reasons are looked for by leaving some plates out."""

    def __init__(self) -> None:
        self._met: dict[tuple[bytes, Tool], dict[bytes, Truths]] = {}

    def points(
        self, points: Floats, normal: Floats, along: Floats, tool: Tool, corners: Floats, ways: Floats
    ) -> Truths:
        """Which points of a face (p, 3) a tool reaches without meeting one of the plates, (p,); see `met_by`."""
        if not len(corners):
            return np.ones(len(points), dtype=bool)
        face = b"".join(np.ascontiguousarray(part).tobytes() for part in (points, normal, along))
        known = self._met.setdefault((face, tool), {})
        names = [plate.tobytes() for plate in np.ascontiguousarray(corners)]
        new = [k for k, name in enumerate(names) if name not in known]
        if new:
            met = met_by(points, normal, along, tool, corners[new], ways[new])
            known.update((names[k], met[n]) for n, k in enumerate(new))
        clear: Truths = (~np.logical_or.reduce([known[name] for name in names])).any(axis=1)
        return clear


def is_flat_against(corners: Floats, point: Floats, normal: Floats, most: float) -> bool:
    """Whether nothing stands out beyond a face by more than `most` mm: it can lie on a table."""
    return bool(((corners.reshape(-1, 3) - point) @ normal).max() < most)


def names_of(tools: Sequence[Tool]) -> tuple[str, ...]:
    """The names of tools, each once."""
    return tuple(dict.fromkeys(tool.name for tool in tools))
