"""Can it be made: every piece from its sheet, every fold in its stock, every glued joint wide enough to hold.

Families need not think of it: all follows from the pieces, their folds and how they are set on one another."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator, Sequence

from msgspec.structs import replace

from yawning_lantern.assembly import HOST, Attach, Gap, Instance, Lever, Part, Span, Term, joints_of, span, uses
from yawning_lantern.assembly.part import Ends
from yawning_lantern.errors import ParameterError
from yawning_lantern.kept import LastAnswers
from yawning_lantern.pattern import Crease, Panel, Piece, Point, area, bounds
from yawning_lantern.pattern.convex import least_width, shared
from yawning_lantern.structures.kit.solving import sheet_gap

LEAST_GLUE, NO_GLUE = 6.0, 3.0
"""A glued joint is to be as wide as the first, mm; one narrower than the second does not hold. Common practice, no
source."""
HARD, HARD_SHEETS = 2.0, 3.0
"""A panel narrower than this, mm or calipers, cannot be folded. From memory."""
ASKED, ASKED_SHEETS = 6.0, 6.0
"""A panel is to be as wide as this, mm or calipers, to fold clean. From memory."""
PLEATED, CREASED = 1.0, 1.6
"""Thickest stock that is pleated (folded flat), and that is folded by a right angle, mm. From memory: grey board of
1 mm still takes a scored right angle, cardstock of 0.6 mm a flat fold."""
PLEAT_SPARE, CREASE_SPARE = 0.4, 0.6
"""How much thinner it is to be, mm, so that it does not crack. From memory."""
_NOTHING = 0.02  # mm²: a panel that is not larger is nothing
_FLAT, _SQUARE = 0.75 * math.pi, 0.2 * math.pi  # radians: bent more a crease is flat, bent less the stock is not asked

_fitted = LastAnswers[Part](256)


def with_making_fits(part: Part, set_on: bool) -> Part:
    """The part with what its pieces, folds and glued joints ask of stock and glue. It is `set_on` a host: glued there.
    Of a part that is as it was when its element was last asked for, the very same part is given again.

    Raises:
        ParameterError: a panel comes out inside out or as good as nothing: values that make no such thing.
    """
    return _fitted.given(part.element, (set_on, part), lambda: _with_fits(part, set_on))


def _with_fits(part: Part, set_on: bool) -> Part:
    for piece in part.pieces:
        for panel in piece.panels:
            if not area(panel.outline) > _NOTHING:
                what = f"{piece.name}, {panel.label}" if panel.label else piece.name
                raise ParameterError(
                    "These measurements leave no paper for it.", what, "Make it larger, or what is cut from it smaller."
                )
    more = [*_sheet_fits(part), *_stock_fits(part), *_glue_fits(part, set_on)]
    return replace(part, gaps=(*part.gaps, *more)) if more else part


def laid(part: Part, lays: Sequence[tuple[str, int, bool]]) -> Part:
    """The part with its pieces lying on their sheets as told: (piece, quarter turns, turned over)."""
    told = {f"{part.element}.{piece}": (turn, over) for piece, turn, over in lays}
    if not any(piece.id in told for piece in part.pieces):
        return part

    def lying(piece: Piece) -> Piece:
        turn, over = told.get(piece.id, (0, False))
        return replace(piece, way=turn % 4, stock=piece.stock.turned_over if over else piece.stock)

    return replace(part, pieces=tuple(map(lying, part.pieces)))


def _sheet_fits(part: Part) -> Iterable[Gap]:
    """A sheet fit for every piece that is cut and has none of its own yet; equal ones share it."""
    told = {gap.between[0] for gap in part.gaps if gap.use == uses.SHEET}
    more: dict[tuple[str, float, float], Gap] = {}
    for piece in part.pieces:
        if piece.bought or piece.name in told:
            continue
        w, h = piece.size
        terms = (span(f"{piece.name}, width", w).terms, span(f"{piece.name}, height", h).terms)
        more[piece.name, round(w, 4), round(h, 4)] = sheet_gap(part.element, piece.name, piece.stock, (w, h), terms)
    return more.values()


# -- stock


def _width_from(crease: Crease, panel: Panel) -> float:
    """How far a panel reaches from a crease, mm."""
    (x0, y0), (x1, y1) = crease.start, crease.end
    size = math.dist(crease.start, crease.end)
    return max([abs((x - x0) * (y1 - y0) - (y - y0) * (x1 - x0)) for x, y in panel.outline]) / size


def _narrowest(piece: Piece) -> tuple[Panel, float] | None:
    """The narrowest panel that hangs on one fold (a wall, rim or tab) or lies between two flat folds (a pleat)."""
    narrowest: tuple[Panel, float] | None = None
    folds: dict[str, list[Crease]] = {panel.name: [] for panel in piece.panels}
    for crease in piece.creases:
        if crease.angle != 0:
            folds[crease.a].append(crease)
            folds[crease.b].append(crease)
    for panel in piece.panels:
        own = folds[panel.name]
        pleat = len(own) > 1 and all(abs(c.angle) > _FLAT for c in own)
        if panel.soft or not (len(own) == 1 or pleat):
            continue
        width = min(_width_from(c, panel) for c in own)
        if narrowest is None or width < narrowest[1]:
            narrowest = (panel, width)
    return narrowest


def _lever(part: Part, piece: Piece, width: float) -> Lever | None:
    """The parameter that a panel's width is, where a score flag tells so: the first score from an edge."""
    for flag in piece.flags:
        if abs(flag.at - width) < 1e-6:
            return Lever(part.element, flag.parameter, flag.slope)
    return None


def _stock_fits(part: Part) -> Iterator[Gap]:
    """What a piece's stock does not allow or hardly allows; nothing where all is well."""
    for piece in {one.name: one for one in reversed(part.pieces)}.values():  # equal strips are told once
        t = piece.stock.caliper
        steepest = max((abs(c.angle) for c in piece.creases), default=0.0)
        if piece.bought or steepest < _SQUARE:
            continue
        flat = steepest > _FLAT
        limit, spare = (PLEATED, PLEAT_SPARE) if flat else (CREASED, CREASE_SPARE)
        how = "folded flat" if flat else "folded square"
        if limit - t < spare - 1e-9:
            left = span(f"thickest that is {how}", limit).plus(Term(piece.stock.name, -t))
            yield Gap(uses.STOCK, part.element, part.element, (piece.name, how), left, want=(spare, limit))
        narrow = _narrowest(piece)
        if narrow is None:
            continue
        panel, width = narrow
        hard, asked = max(HARD, HARD_SHEETS * t), max(ASKED, ASKED_SHEETS * t)
        if width < asked - 1e-6:
            left = Span((Term(panel.label, width, _lever(part, piece, width)), Term("least that folds", -hard)))
            between = (f"{piece.name}, {panel.label}", f"fold in {piece.stock.name}")
            yield Gap(uses.PANEL, part.element, part.element, between, left, want=(asked - hard, uses.NO_END))


# -- glue


def _on_host(instance: Instance, attach: Attach, panel: Panel) -> list[Point]:
    """The outline of an instance's root panel in the coordinates of the panel it is glued on."""
    root, (ux, uy) = instance.root, attach.up
    right = (uy * attach.side, -ux * attach.side)
    up = root.up
    own_right = (-up[1] * root.touch, up[0] * root.touch)
    points = []
    for x, y in panel.outline:
        dx, dy = x - root.origin[0], y - root.origin[1]
        across, along = dx * own_right[0] + dy * own_right[1], dx * up[0] + dy * up[1]
        points.append(
            (
                attach.origin[0] + across * right[0] + along * ux,
                attach.origin[1] + across * right[1] + along * uy,
            )
        )
    return points if area(points) > 0 else points[::-1]


def _joints(part: Part, set_on: bool) -> Iterator[tuple[Piece, Panel, tuple[Sequence[Point], ...]]]:
    """Everything of a part that gets glue: the piece, the panel, and the outlines of what is glued of it, mm. Where it
    is `set_on` a host, the foot that is glued there is one too; of a flat thing the whole of it."""
    done: set[Ends] = set()
    for joint in joints_of(part):
        if joint.bond != "glue" or joint.a in done or (joint.b == HOST and not set_on):
            continue
        done.add(joint.a)
        instance = part.instance(joint.a[0])
        piece, attach = part.piece(instance.piece), instance.attach
        panel = piece.panel(joint.a[1])
        if joint.spots:
            yield piece, panel, joint.spots
        elif attach is not None and joint.a[1] == instance.root.panel and joint.b == (attach.host, attach.panel):
            if instance.shape is None:
                host = part.piece(part.instance(attach.host).piece).panel(attach.panel)
                yield piece, panel, (shared(_on_host(instance, attach, panel), host.outline),)
        else:
            yield piece, panel, (panel.outline,)


def glued_panels(part: Part) -> dict[str, frozenset[str]]:
    """By piece id the panels of folded pieces whose whole face is glued to another: tabs, feet and seams."""
    glued: dict[str, set[str]] = {piece.id: set() for piece in part.pieces}
    for piece, panel, spots in _joints(part, set_on=False):
        if len(piece.panels) > 1 and sum(map(area, filter(None, spots))) > 0.9 * area(panel.outline):
            glued[piece.id].add(panel.name)
    return {piece: frozenset(panels) for piece, panels in glued.items()}


def glued_outlines(part: Part, set_on: bool) -> list[Sequence[Point]]:
    """The outline of everything that is glued of a part, joint by joint, mm: tabs, seams, feet; and of a flat thing
    that is `set_on` a host all of it."""
    return [spot for _, _, spots in _joints(part, set_on) for spot in spots if len(spot) > 2]


def _glue_fits(part: Part, set_on: bool) -> Iterator[Gap]:
    """The narrowest glued joint of every piece against the least that holds."""
    worst: dict[str, tuple[str, float]] = {}
    for joint, panel, spots in _joints(part, set_on):
        if not joint.creases and spots == (panel.outline,):
            continue  # a flat thing that is glued all over
        width = max(map(least_width, spots))
        if joint.name not in worst or width < worst[joint.name][1] - 1e-6:  # of equal ones the first
            worst[joint.name] = (panel.label, width)
    for piece, (label, width) in worst.items():
        x0, y0, x1, y1 = bounds([p for one in part.pieces if one.name == piece for p in one.outline])
        most = min(x1 - x0, y1 - y0)
        wanted = min(LEAST_GLUE, most * 0.9)  # of a thing that is smaller than that itself the whole is glued
        left = span(label, width).plus(Term("least that holds", -NO_GLUE))
        between = (f"{piece}, {label}", "glue")
        yield Gap(uses.JOINT, part.element, part.element, between, left, want=(wanted - NO_GLUE, uses.NO_END))
