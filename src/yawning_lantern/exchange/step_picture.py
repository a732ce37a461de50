"""The picture of a step on paper: the piece as it lies, what gets glue, or how the thing stands. Lengths in mm."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from msgspec import Struct

from yawning_lantern.bench import Act, BenchPlan, Step, Walk, made_nodes
from yawning_lantern.bench.glue_map import glue_map
from yawning_lantern.bench.lying import Lying
from yawning_lantern.exchange.film import draw_polygons, picture
from yawning_lantern.fold import State
from yawning_lantern.pattern import Line, Piece, Point
from yawning_lantern.study import Study

_FENCE = 2.0  # mm: how wide a fence is drawn
_LAMP = (0.72, 0.26, 0.18)  # red, green and blue, 0 to 1: of what the step is about
_INK = (0.17, 0.15, 0.25)  # red, green and blue, 0 to 1: of lines and words
_PAPER = {"front": (0.9, 0.87, 0.8), "back": (0.98, 0.97, 0.94)}  # red, green and blue of either side of a sheet


class Box(Struct, frozen=True):
    """Where a picture goes on the page: its lower left corner and size, mm."""

    x: float
    y: float
    width: float
    height: float


class StepPictures:
    """Draws the pictures of a plan on a canvas that is scaled to mm."""

    def __init__(self, study: Study, plan: BenchPlan, acts: Mapping[str, Act]) -> None:
        self._study, self._plan, self._acts = study, plan, acts
        self._pieces = {piece.id: piece for piece in study.pieces}

    def draw(self, canvas: Any, step: Step, box: Box) -> None:
        """The picture of one step."""
        canvas.saveState()
        canvas.setLineJoin(1)
        piece = self._pieces.get(step.piece)
        if step.act in self._acts and step.kind in ("glue", "decorate", "tie"):
            self._glue(canvas, self._acts[step.act], box)
        elif piece is not None:
            self._piece(canvas, step, piece, box)
        elif step.kind != "wait":
            self.scene(canvas, step, box)
        canvas.restoreState()

    def scene(self, canvas: Any, step: Step | None, box: Box) -> None:
        """What hangs together at a step, standing; with no step the whole thing, shut."""
        study, count = self._study, len(self._study.assembly.motions)
        only = None
        shut = step is None or step.kind in ("put", "rehearse", "tie")
        if step is not None:
            at = self._plan.at[step.id]
            done = frozenset(one.id for one in self._plan.steps[:at])
            only = made_nodes(study.assembly, Walk(self._plan, at, done=done), self._acts)
        state = State(1.0, (0.0 if shut else 1.0,) * count)
        shown = picture(study, state, (box.width, box.height), (), only=only)
        canvas.setLineWidth(0.12)
        draw_polygons(canvas, shown, box.x, box.y + box.height)

    def _piece(self, canvas: Any, step: Step, piece: Piece, box: Box) -> None:
        lying = Lying(step.placing.edge if step.placing else "left", step.face or "front", piece.size)
        wide, high = lying.extent
        scale = min((box.width - _FENCE) / wide, box.height / high)
        x0 = box.x + _FENCE + (box.width - _FENCE - wide * scale) / 2
        y0 = box.y + (box.height - high * scale) / 2

        def at(p: Point) -> Point:
            u, v = lying.at(p)
            return x0 + u * scale, y0 + v * scale

        blank = step.kind in ("cut", "score")
        canvas.setFillColorRGB(*_PAPER[lying.face])
        canvas.setStrokeColorRGB(*_INK)
        canvas.setLineWidth(0.25)
        w, h = piece.size
        whole = ((0.0, 0.0), (w, 0.0), (w, h), (0.0, h))
        if not blank:
            canvas.setDash([0.6, 0.8])
            _outline(canvas, [at(p) for p in whole], fill=0)
            canvas.setDash()
        _outline(canvas, [at(p) for p in (whole if blank else piece.outline)], fill=1)
        canvas.setFillGray(1.0)
        for hole in piece.holes if not blank else ():
            _outline(canvas, [at(p) for p in hole], fill=1)
        if step.placing is not None:
            canvas.setFillGray(0.55)
            canvas.rect(x0 - _FENCE, y0 - 1, _FENCE, high * scale + 2, stroke=0, fill=1)
            canvas.setStrokeColorRGB(*_LAMP)
            canvas.setLineWidth(0.5)
            for reading in step.placing.readings:
                x = x0 + reading.number * scale
                canvas.line(x, y0, x, y0 + high * scale)
        elif not blank:
            for k, line in enumerate(piece.lines):
                _line(canvas, line, at(line.start), at(line.end), k in step.lines)

    def _glue(self, canvas: Any, act: Act, box: Box) -> None:
        assembly = self._study.assembly
        maps = {b.a: glue_map(assembly, b, self._study.shut_frames) for b in act.joints}
        first = assembly.nodes[act.joints[0].a]
        own = [one for k, one in maps.items() if assembly.nodes[k].instance == first.instance]
        outlines = [assembly.nodes[one.node].panel.outline for one in own]
        xs = [p[0] for o in outlines for p in o]
        ys = [p[1] for o in outlines for p in o]
        wide, high = max(xs) - min(xs), max(ys) - min(ys)
        scale = min((box.width - 12) / max(wide, 1.0), (box.height - 8) / max(high, 1.0))
        x0 = box.x + (box.width - wide * scale) / 2 - min(xs) * scale
        y0 = box.y + (box.height - high * scale) / 2 - min(ys) * scale

        face = own[0].face if own else "front"
        middle = min(xs) + max(xs)

        def at(p: Point) -> Point:
            x = p[0] if face == "front" else middle - p[0]  # turned over
            return x0 + x * scale, y0 + p[1] * scale

        canvas.setLineWidth(0.25)
        canvas.setStrokeColorRGB(*_INK)
        canvas.setFillColorRGB(*_INK)
        canvas.setFont("Lato-Bold", 2.4)
        canvas.drawRightString(box.x + box.width, box.y, f"{face} up")
        for one, outline in zip(own, outlines, strict=True):
            canvas.setFillColorRGB(*_PAPER[face])
            _outline(canvas, [at(p) for p in outline], fill=1)
            canvas.setFillColorRGB(0.93, 0.72, 0.66)
            for spot in one.spots:
                _outline(canvas, [at(p) for p in spot], fill=1)
            canvas.setFillColorRGB(*_INK)
            canvas.setFont("Lato-Regular", 2.2)
            for edge in one.edges:
                (ax, ay), (bx, by) = at(edge.start), at(edge.end)
                if abs(ax - bx) + abs(ay - by) > 4:
                    cx, cy = box.x + box.width / 2, box.y + box.height / 2
                    mx, my = (ax + bx) / 2, (ay + by) / 2
                    far = max(((mx - cx) ** 2 + (my - cy) ** 2) ** 0.5, 1e-6)
                    canvas.drawCentredString(mx + (mx - cx) / far * 4, my + (my - cy) / far * 2.6 - 0.8, edge.shut)


def _outline(canvas: Any, points: Sequence[Point], fill: int) -> None:
    path = canvas.beginPath()
    for k, (x, y) in enumerate(points):
        (path.lineTo if k else path.moveTo)(x, y)
    path.close()
    canvas.drawPath(path, stroke=1, fill=fill)


def _line(canvas: Any, line: Line, a: Point, b: Point, chosen: bool) -> None:
    canvas.setStrokeColorRGB(*(_LAMP if chosen else _INK))
    canvas.setLineWidth(0.55 if chosen else 0.2)
    if line.kind == "score":
        canvas.setDash([2.0, 0.8, 0.4, 0.8] if line.fold == "mountain" else [1.4, 0.9])
    canvas.line(*a, *b)
    canvas.setDash()
