"""The map of what is one sheet folded: every page with the panel and face it is, and which way is up; every pocket."""

from __future__ import annotations

import math
from collections import Counter
from typing import Literal

from msgspec import Struct

from yawning_lantern.assembly import Mount
from yawning_lantern.study.resolve import Resolved
from yawning_lantern.study.study import Study

Turn = Literal["up", "left", "down", "right"]
_TURNS: tuple[Turn, ...] = ("right", "up", "left", "down")


class Page(Struct, frozen=True):
    """A face of a folded sheet: what it is called, the panel and side of the sheet it is, where its up points as the
    sheet lies with its front up, and what lies on it."""

    element: str
    face: str
    label: str
    panel: str
    side: Literal["front", "back"]
    up: Turn
    holds: str


class PocketTold(Struct, frozen=True):
    """A pocket: the panels it lies between, where it opens, and its inside, mm."""

    element: str
    name: str
    between: tuple[str, ...]
    mouth: str
    width: float
    depth: float


def is_folded(r: Resolved) -> bool:
    """Whether a part is a sheet folded by a script."""
    return bool(r.part.folding)


def pages_of(study: Study, r: Resolved) -> tuple[Page, ...]:
    """The pages of a folded sheet, in the order its family tells them."""
    held = {guest.place.face: guest.final.name for guest in _guests(study, r.element.id)}
    piece = r.part.pieces[0]
    labels = {panel.name: panel.label for panel in piece.panels}
    return tuple(
        Page(
            r.element.id,
            mount.id,
            mount.label,
            labels[mount.panel],
            "front" if mount.side > 0 else "back",
            _turn(mount),
            held.get(mount.id, ""),
        )
        for mount in r.part.mounts
        if not mount.seat
    )


def _guests(study: Study, host: str) -> list[Resolved]:
    return [other for other in study.resolved.values() if other.host == host]


def _turn(mount: Mount) -> Turn:
    return _TURNS[round(math.atan2(mount.up[1], mount.up[0]) / (math.pi / 2)) % 4]


def pockets_of(r: Resolved) -> tuple[PocketTold, ...]:
    """The pockets of a folded sheet."""
    labels = {panel.name: panel.label for piece in r.part.pieces for panel in piece.panels}
    return tuple(
        PocketTold(r.element.id, p.name, tuple(labels.get(n, n) for n in p.panels), p.mouth, p.width, p.depth)
        for p in r.part.pockets
    )


def heads(pages: tuple[Page, ...]) -> str:
    """What a pattern with a direction meets on these pages, as a sentence; nothing where all stand one way."""
    count = Counter(page.up for page in pages if page.face.startswith("page"))
    if len(count) < 2:
        return ""
    (_, n), *rest = count.most_common()
    other = sum(k for _, k in rest)
    return f"{other} of {n + other} pages do not stand as the others do: use paper without a direction, or mats."
