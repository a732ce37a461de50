"""What reaches a glued joint: nozzle and bottle, finger and hand, folder and fist, as boxes beside a point of a face.

A tool is told in the frame of its axis: along it from the point, square to it in the face, and off the face, mm. Sizes
are those of common tools and a middling hand: common practice, no source."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from yawning_lantern.arrays import Floats, Truths, np

_SKIN = 0.4
"""How far off the face a tool's box begins, mm: paper and flesh give as much."""


@dataclass(frozen=True, slots=True)
class Box:
    """A box beside a point: from and to along the axis, off the face (or, of what comes straight, to either side), and
    how wide, mm."""

    along: tuple[float, float]
    off: tuple[float, float]
    wide: float


@dataclass(frozen=True, slots=True)
class Tool:
    """A thing in a hand. `flat`: it lies along the face; else it comes at it with its tip. `tilts` are the angles
    between its axis and the face's normal, radians."""

    name: str
    boxes: tuple[Box, ...]
    flat: bool
    tilts: tuple[float, ...]


def _tip(name: str, thick: float, long: float, behind: tuple[float, float, float]) -> Tool:
    """What comes with its tip: `thick` square, `long`, and behind it a bottle or a hand (thick, wide, long)."""
    deep, wide, more = behind
    boxes = (
        Box((_SKIN, long), (-thick / 2, thick / 2), thick),
        Box((long, long + more), (-deep / 2, deep / 2), wide),
    )
    return Tool(name, boxes, False, (0.0, math.pi / 6, math.pi / 3))


NOZZLE = _tip("nozzle", 6.0, 60.0, (35.0, 35.0, 100.0))
NOZZLE_ALONG = Tool("nozzle", (Box((_SKIN, 60.0), (_SKIN, 6.4), 6.0), Box((60.0, 160.0), (_SKIN, 35.4), 35.0)), True, ())
FINGER = Tool("finger", (Box((-6.0, 40.0), (_SKIN, 12.0), 12.0), Box((40.0, 150.0), (_SKIN, 30.0), 75.0)), True, ())
FOLDER = Tool("folder", (Box((-6.0, 120.0), (_SKIN, 3.0), 15.0), Box((120.0, 210.0), (_SKIN, 40.0), 75.0)), True, ())
FINGERTIP = _tip("finger", 12.0, 40.0, (30.0, 75.0, 110.0))
TIP = _tip("folder's tip", 4.0, 100.0, (30.0, 75.0, 110.0))
PRESSING = (FINGERTIP, FINGER, FOLDER, TIP)
"""What presses a joint, the simplest first."""
_AZIMUTHS = 8


def _axes(normal: Floats, along: Floats, tool: Tool) -> list[tuple[Floats, Floats, Floats]]:
    """The ways a tool can be held at a face: (axis, off the face, across), unit vectors."""
    across = np.cross(normal, along)
    found = []
    for k in range(_AZIMUTHS):
        angle = 2 * math.pi * k / _AZIMUTHS
        way = math.cos(angle) * along + math.sin(angle) * across
        if tool.flat:
            found.append((way, normal, np.cross(normal, way)))
            continue
        for tilt in tool.tilts:
            if tilt == 0.0 and k:
                continue
            axis = math.cos(tilt) * normal + math.sin(tilt) * way
            off = math.cos(tilt) * way - math.sin(tilt) * normal
            found.append((axis, off, np.cross(axis, off)))
    return found


def boxes_at(points: Floats, normal: Floats, along: Floats, tool: Tool) -> tuple[Floats, Floats, Floats]:
    """Every box of a tool at every point (p, 3) of a face, held every way: middles (p, w, b, 3), axes (w, 3, 3), rows
    along, off and across, and half sizes (b, 3), mm."""
    frames = np.array(_axes(normal, along, tool))
    middles = np.array([[sum(box.along) / 2, sum(box.off) / 2, 0.0] for box in tool.boxes])
    halves = np.array(
        [
            [(box.along[1] - box.along[0]) / 2, (box.off[1] - box.off[0]) / 2, box.wide / 2]
            for box in tool.boxes
        ]
    )
    offsets = middles @ frames  # (w, b, 3)
    return points[:, None, None] + offsets[None], frames, halves


def free_points(
    points: Floats, normal: Floats, along: Floats, tool: Tool, corners: Floats, ways: Floats
) -> Truths:
    """Which points of a face (p, 3) a tool reaches without meeting one of the plates, (p,).

    `corners` (n, k, 3) and `ways` (n, m, 3) are the plates' corners and the directions that may part them from others.
    Boxes and plates are parted by those and by the box's own axes; crossed edges are left out, so that a tool that would
    just pass aslant is told to meet.
    """
    if not len(corners):
        return np.ones(len(points), dtype=bool)
    middles, frames, halves = boxes_at(points, normal, along, tool)
    p, w, b, _ = middles.shape
    # along the box's own axes
    spread = corners.reshape(-1, 3) @ frames.transpose(0, 2, 1)  # (w, n·k, 3)
    spread = spread.reshape(w, *corners.shape[:2], 3)
    low, high = spread.min(axis=2), spread.max(axis=2)  # (w, n, 3)
    at = np.einsum("pwbi,wji->pwbj", middles, frames)  # middles along the axes
    gap = np.maximum(low[None, :, None] - (at + halves)[:, :, :, None], (at - halves)[:, :, :, None] - high[None, :, None])
    apart = (gap > 0).any(-1)  # (p, w, b, n)
    # along the plates' own directions
    reach = np.einsum("nmk,nqk->nqm", ways, corners)
    least, most = reach.min(axis=1), reach.max(axis=1)  # (n, m)
    middle = np.einsum("pwbi,nmi->pwbnm", middles, ways)
    half = np.einsum("bj,wji,nmi->wbjnm", halves, frames, ways)
    half = np.abs(half).sum(axis=2)  # (w, b, n, m)
    beyond = np.maximum(least - (middle + half[None]), (middle - half[None]) - most)
    apart |= (beyond > 0).any(-1)
    clear: Truths = apart.all(axis=(2, 3)).any(axis=1)
    return clear


def is_flat_against(corners: Floats, point: Floats, normal: Floats, most: float) -> bool:
    """Whether nothing stands out beyond a face by more than `most` mm: it can lie on a table."""
    return bool(((corners.reshape(-1, 3) - point) @ normal).max() < most)


def names_of(tools: Sequence[Tool]) -> tuple[str, ...]:
    """The names of tools, each once."""
    return tuple(dict.fromkeys(tool.name for tool in tools))
