"""Painting a folded thing from a study: the one picture that the standing view and the thumbnails share."""

from __future__ import annotations

from collections.abc import Sequence, Set
from functools import lru_cache
from itertools import starmap
from typing import NamedTuple

from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QBrush, QColor, QImage, QPainter, QPen, QPolygonF, QTransform

from yawning_lantern.assembly.joined import Frame
from yawning_lantern.desktop.shared.printed import STEPS, lying, motif_of, tile, tile_side
from yawning_lantern.desktop.shared.theme import Theme
from yawning_lantern.fold import Facet, State, apply, paint_order
from yawning_lantern.fold.bsp import Vec
from yawning_lantern.fold.camera import Camera, Projection
from yawning_lantern.fold.lit import faces_eye, parts, share
from yawning_lantern.fold.pose import plane_of
from yawning_lantern.study import Study

SMALL = 0.2
"""What is seen is found out in a picture of this share of the size."""
MUCH = 1.0
"""Patterned sheets that cover less of the view than this, all told, are painted whether they are seen or not."""
SEAM = 1.6
"""Pixels: a seam goes that far over what was painted between its two sides and leaked over it, half to either."""
FINE = 3.0
"""Pixels: a pattern that repeats in less is painted as plain colour."""


class Sheet(NamedTuple):
    """A polygon as it was painted: whose it is, its corners, which node, and whether its front is towards the eye."""

    element: str
    corners: list[QPointF]
    node: int
    front: bool

    @property
    def polygon(self) -> QPolygonF:
        """The polygon in pixels."""
        return QPolygonF(self.corners)


Drawn = list[Sheet]
Side = tuple[int, bool]
"""A node, and whether its front is meant."""


class _Ink(NamedTuple):
    """What a sheet of one colour is painted with: its face, its edges, and the seams that a split made."""

    fill: QBrush
    edge: QPen
    seam: QPen


@lru_cache(maxsize=1024)
def _ink(red: int, green: int, blue: int) -> _Ink:
    fill = QColor(red, green, blue)
    return _Ink(QBrush(fill), QPen(fill.darker(165), 0.9), QPen(fill, SEAM))


@lru_cache(maxsize=4096)
def _lit(colour: str, normal: Vec, depth: int, front: bool) -> tuple[float, _Ink]:
    """How much light a side gives back, and what it is painted with: most sheets turn the way they did a moment ago."""
    light = share(normal, depth, front)
    red, green, blue = (round(part * light * 255) for part in parts(colour))
    return light, _ink(red, green, blue)


@lru_cache(maxsize=1024)
def _ends(edges: tuple[bool, ...], own: bool) -> tuple[int, ...]:
    """The corners at the ends of a facet's original edges, two for each, or of those a split made."""
    return tuple(end for k, original in enumerate(edges) if original == own for end in (k, (k + 1) % len(edges)))


class ScenePainter:
    """Paints one study at one place between flat and open, or in a state, as a camera sees it.

    `around` holds points (mm) that must be in view too, so that pictures of one film keep their scale. `only` are the
    nodes that are painted, where not all are. `printed`: the sides (node, front or not) whose pattern is painted,
    where that is known already; after painting those it was painted on.
    """

    def __init__(
        self, study: Study, at: float | State, camera: Camera, size: tuple[float, float], theme: Theme,
        around: Sequence[Vec] = (), only: Set[int] | None = None, printed: Set[Side] | None = None,
    ) -> None:  # fmt: skip
        self.printed = printed
        position = at if isinstance(at, float) else at.make - 1.0
        self._study, self._position, self._theme = study, position, theme
        self._size = size
        self._make = 1.0 + min(position, 0.0)
        self._planes: dict[int, QTransform] = {}
        self._frames, self._tree = study.picture(at) if isinstance(at, float) else study.picture_of(at)
        self._only = only
        source = self._tree.source if self._tree is not None else []
        points = [p for facet in source if only is None or facet.node in only for p in facet.points]
        self._points = list(dict.fromkeys(points))  # sheets share most of them
        held = [*self._points, *around] or [(0.0, 0.0, 0.0)]
        if only is not None:  # one flat piece fills the view: its table has corners where it has none
            held += self._footprint()
        self._view = Projection.holding(camera, held, size)

    def paint(self, painter: QPainter, chosen: str = "") -> Drawn:
        """Table, sheets far to near, contents; gives every polygon with its element, in the order painted."""
        self._table(painter)
        study, view = self._study, self._view
        nodes, eye = study.assembly.nodes, view.eye
        depth = {element: r.depth for element, r in study.resolved.items()}
        lamp = QPen(self._theme.colour("lamp"), 2.0)
        drawn: Drawn = []
        order = paint_order(self._tree, eye)
        if self._only is not None:
            order = [f for f in order if f.node in self._only]
        corners = list(dict.fromkeys([p for facet in order for p in facet.points]))
        at = dict(zip(corners, starmap(QPointF, view.points(corners)), strict=True))
        for facet in order:
            shape = [at[p] for p in facet.points]
            drawn.append(Sheet(nodes[facet.node].element, shape, facet.node, faces_eye(facet, eye)))
        at_rest = bool(painter.renderHints() & QPainter.RenderHint.Antialiasing)
        if self.printed is None:
            seen = self._patterns_seen(drawn, at_rest) if self._theme.patterned else ()
            self.printed = {(drawn[k].node, drawn[k].front) for k in seen}
            shown = set(seen)
        else:
            shown = {k for k, sheet in enumerate(drawn) if (sheet.node, sheet.front) in self.printed}
        brushes: dict[tuple[int, bool], QBrush | None] = {}
        for k, (facet, sheet) in enumerate(zip(order, drawn, strict=True)):
            stock, front, shape = nodes[facet.node].piece.stock, sheet.front, sheet.corners
            light, ink = _lit(stock.front if front else stock.back, facet.normal, depth[sheet.element], front)
            fill: QBrush | None = None
            if k in shown:
                key = facet.node, front
                if key not in brushes:
                    brushes[key] = self._printed(facet, light, front)
                fill = brushes[key]
            painter.setBrush(fill or ink.fill)
            edge = lamp if sheet.element == chosen else ink.edge
            if all(facet.edges):
                painter.setPen(edge)
                painter.drawPolygon(shape)
            else:
                painter.setPen(Qt.PenStyle.NoPen)
                painter.drawPolygon(shape)
                painter.setPen(QPen(fill, SEAM) if fill is not None else ink.seam)  # a pattern runs on over its seams
                painter.drawLines([shape[i] for i in _ends(facet.edges, False)])  # pairs of ends: no lines are made
                ends = _ends(facet.edges, True)
                if ends:
                    painter.setPen(edge)
                    painter.drawLines([shape[i] for i in ends])
        if self._position >= 0 and self._only is None:
            self._contents(painter)
        return drawn

    def _patterns_seen(self, drawn: Drawn, at_rest: bool) -> Set[int]:
        """The places in what is painted where a pattern is painted too: at rest wherever it is seen, while all turns
        where a repeat of it has room.

        A pattern that is painted over costs as much as any. Where there is much of it all is painted small and plain
        first, each sheet in a colour of its own; the colours that are left are seen.
        """
        nodes = self._study.assembly.nodes
        printed: set[int] = set()
        area = 0.0
        for k, sheet in enumerate(drawn):
            stock = nodes[sheet.node].piece.stock
            motif = stock.front_motif if sheet.front else stock.back_motif
            if motif is None:
                continue
            box = sheet.polygon.boundingRect()
            if at_rest or min(box.width(), box.height()) > 0.7 * self._view.scale * motif.repeat:
                printed.add(k)
                area += box.width() * box.height()
        if area <= MUCH * self._size[0] * self._size[1]:
            return printed
        wide, high = (max(8, int(side * SMALL)) for side in self._size)
        image = QImage(wide, high, QImage.Format.Format_RGB32)
        image.fill(0xFFFFFF)
        painter = QPainter(image)
        painter.scale(SMALL, SMALL)
        painter.setPen(Qt.PenStyle.NoPen)
        for k, sheet in enumerate(drawn):
            painter.setBrush(QColor(k))
            painter.drawPolygon(sheet.polygon)
        painter.end()
        left = {colour & 0xFFFFFF for colour in set(memoryview(image.constBits()).cast("I"))}
        return printed & left

    def _printed(self, facet: Facet, light: float, front: bool) -> QBrush | None:
        """The pattern of a facet's side that is seen, as it lies on it; None where there is none, or it is too fine."""
        node = self._study.assembly.nodes[facet.node]
        motif, ground = motif_of(node.piece.stock, front)
        size = self._view.scale * motif.repeat if motif is not None else 0.0
        if motif is None or size < FINE:
            return None
        onto = self._planes.get(facet.node)
        if onto is None:
            plane = plane_of(node, self._frames[facet.node], self._make)
            onto = self._planes[facet.node] = QTransform(*self._view.plane(*plane))
        pixels = tile_side(size)
        brush = QBrush(tile(motif, ground, round(light * STEPS), pixels))
        brush.setTransform(lying(motif, node.piece.way, 1 if front else -1, pixels) * onto)
        return brush

    def _table(self, painter: QPainter) -> None:
        """The footprint on the table, so that the thing stands somewhere."""
        if self._view.eye[2] <= 0 or not self._points:
            return
        painter.setPen(QPen(self._theme.colour("line"), 1, Qt.PenStyle.DashLine))
        painter.setBrush(self._theme.colour("ground"))
        painter.drawPolygon(QPolygonF(list(starmap(QPointF, self._view.points(self._footprint())))))

    def _footprint(self) -> list[Vec]:
        """The corners of the table, mm."""
        if not self._points:
            return []
        xs, ys, _ = zip(*self._points, strict=True)
        x0, y0, x1, y1 = min(xs) - 6, min(ys) - 6, max(xs) + 6, max(ys) + 6
        return [(x0, y0, 0.0), (x1, y0, 0.0), (x1, y1, 0.0), (x0, y1, 0.0)]

    def _contents(self, painter: QPainter) -> None:
        """What stands inside, as a dashed box."""
        painter.setPen(QPen(self._theme.colour("lamp"), 1.2, Qt.PenStyle.DashLine))
        for element, r in self._study.resolved.items():
            if r.part.contents is None:
                continue
            for mount in (m for m in r.part.mounts if m.holds):
                self._standing_box(painter, self._study.mount_frames[element, mount.id], r.part.contents)

    def _standing_box(self, painter: QPainter, frame: Frame, size: tuple[float, float, float]) -> None:
        w, d, h = size
        feet = [(-w / 2, -d / 2), (w / 2, -d / 2), (w / 2, d / 2), (-w / 2, d / 2)]
        rims: list[list[Vec]] = [[apply(frame, x, y, z) for x, y in feet] for z in (0.0, h)]
        low, high = ([QPointF(*self._view.point(p)) for p in rim] for rim in rims)
        for k in range(4):
            j = (k + 1) % 4
            painter.drawLine(low[k], low[j])
            painter.drawLine(high[k], high[j])
            painter.drawLine(low[k], high[k])
