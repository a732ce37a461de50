"""The opening as pictures: a strip for paper and screen (SVG, PDF), and a film (GIF or animated PNG)."""

from __future__ import annotations

import io
import math
from collections.abc import Callable, Sequence, Set
from pathlib import Path
from typing import Any
from xml.sax.saxutils import escape

from msgspec import Struct

from yawning_lantern.errors import UnknownNameError
from yawning_lantern.exchange.files import write_atomically
from yawning_lantern.exchange.pdf import FONTS, POINTS_PER_MM, register_fonts
from yawning_lantern.fold import State, corners, paint_order
from yawning_lantern.fold.bsp import Vec
from yawning_lantern.fold.camera import Camera, Projection
from yawning_lantern.fold.lit import Colour, shade
from yawning_lantern.measure import Units
from yawning_lantern.opening import Opening
from yawning_lantern.study import Study, state_at
from yawning_lantern.study.opened import contact_words, room_of, step_words, verdict

COLUMNS = 3  # pictures of a strip side by side
PICTURE = (84.0, 66.0)
"""Size of one picture of a strip, mm."""
_MARGIN, _CAPTION, _TITLE = 10.0, 14.0, 18.0  # mm: around a strip, under a picture, above all
_TABLE: Colour = (0.937, 0.914, 0.863)  # red, green and blue, 0 to 1: of what it lies on
_INK: Colour = (0.17, 0.15, 0.25)  # red, green and blue, 0 to 1: of lines and words
FILM = (640, 480)
"""Size of a film, pixels."""
FRAMES = 8
"""Pictures of one step in a film."""
_TWICE = 2  # drawn so much larger, then made smaller: edges without steps


class Polygon(Struct, frozen=True):
    """A plane piece of a sheet as seen: corners (x right, y down), its colour, and which edges are the panel's own."""

    points: tuple[tuple[float, float], ...]
    fill: Colour
    edges: tuple[bool, ...]


class Picture(Struct, frozen=True):
    """What is seen of a state, far to near, in units of `size`; `caption` tells what was done."""

    size: tuple[float, float]
    polygons: tuple[Polygon, ...]
    caption: str


def picture(
    study: Study, state: State, size: tuple[float, float], around: Sequence[Vec], caption: str = "",
    only: Set[int] | None = None,
) -> Picture:  # fmt: skip
    """A state as the standing view shows it: all of it, or `only` some nodes."""
    frames, tree = study.picture_of(state)
    nodes = [(k, n, frames[k]) for k, n in enumerate(study.assembly.nodes) if only is None or k in only]
    held = [*around, *(p for _, n, f in nodes for p in corners(n, f, state.make))]
    view = Projection.holding(Camera(), held, size)
    shapes = []
    for facet in paint_order(tree, view.eye):
        if only is not None and facet.node not in only:
            continue
        node = study.assembly.nodes[facet.node]
        stock, depth = node.piece.stock, study.resolved[node.element].depth
        fill = shade(facet, stock.front, stock.back, depth, view.eye)
        shapes.append(Polygon(tuple(view.point(p) for p in facet.points), fill, tuple(facet.edges)))
    return Picture(size, tuple(shapes), caption)


def strip(study: Study, opening: Opening, units: Units) -> list[Picture]:
    """Shut, and after every step."""
    around = room_of(study, opening)
    pictures = [picture(study, state_at(study, opening, 0.0), PICTURE, around, "Shut")]
    for k, step in enumerate(opening.steps):
        words = f"{k + 1}  {step_words(study, step)}"
        if step.contact is not None:
            words = f"{words}. Stops: {contact_words(study, step, step.contact, units)}"
        pictures.append(picture(study, state_at(study, opening, k + 1.0), PICTURE, around, words))
    return pictures


def _sheet_size(count: int) -> tuple[float, float]:
    columns = min(COLUMNS, count)
    rows = -(-count // columns)
    return 2 * _MARGIN + columns * PICTURE[0], 2 * _MARGIN + _TITLE + rows * (PICTURE[1] + _CAPTION)


def _place(k: int) -> tuple[float, float]:
    """Upper left corner of picture k, mm from the upper left of the sheet."""
    row, column = divmod(k, COLUMNS)
    return _MARGIN + column * PICTURE[0], _MARGIN + _TITLE + row * (PICTURE[1] + _CAPTION)


def _lines(text: str, width: int = 46) -> list[str]:
    import textwrap

    return textwrap.wrap(text, width)[:3]


def _hex(colour: Colour) -> str:
    return "#" + "".join(f"{round(part * 255):02x}" for part in colour)


def _darker(colour: Colour) -> Colour:
    red, green, blue = (part * 0.6 for part in colour)
    return red, green, blue


def strip_svg(study: Study, opening: Opening, units: Units, room: tuple[float, float, float]) -> str:
    """The strip as an SVG file, one picture for every step, in mm."""
    pictures = strip(study, opening, units)
    width, height = _sheet_size(len(pictures))
    out = [
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{width:.1f}mm" height="{height:.1f}mm" '
        f'viewBox="0 0 {width:.1f} {height:.1f}" font-family="Lato, sans-serif" fill="{_hex(_INK)}">',
        f"<title>{escape(study.design.name)}</title>",
        f'<text x="{_MARGIN}" y="{_MARGIN + 6}" font-size="6" font-weight="bold">{escape(study.design.name)}</text>',
        f'<text x="{_MARGIN}" y="{_MARGIN + 12}" font-size="3.4">{escape(verdict(study, opening, units, room))}</text>',
    ]
    for k, shown in enumerate(pictures):
        x, y = _place(k)
        out.append(f'<g id="step-{k}" transform="translate({x:.2f} {y:.2f})">')
        out.append(f'<rect x="1" width="{PICTURE[0] - 2}" height="{PICTURE[1]}" fill="{_hex(_TABLE)}"/>')
        for polygon in shown.polygons:
            points = " ".join(f"{px:.2f},{py:.2f}" for px, py in polygon.points)
            fill, edge = _hex(polygon.fill), _hex(_darker(polygon.fill))
            line = edge if all(polygon.edges) else fill
            pen = f'stroke="{line}" stroke-width="0.15" stroke-linejoin="round"'
            out.append(f'<polygon points="{points}" fill="{fill}" {pen}/>')
            if not all(polygon.edges):
                for (ax, ay), (bx, by) in _own_edges(polygon):
                    out.append(f'<path d="M{ax:.2f} {ay:.2f}L{bx:.2f} {by:.2f}" stroke="{edge}" stroke-width="0.15"/>')
        for row, text in enumerate(_lines(shown.caption)):
            out.append(f'<text x="2" y="{PICTURE[1] + 4 + 3.8 * row:.1f}" font-size="3.2">{escape(text)}</text>')
        out.append("</g>")
    return "\n".join([*out, "</svg>", ""])


def _own_edges(polygon: Polygon) -> list[tuple[tuple[float, float], tuple[float, float]]]:
    after = (*polygon.points[1:], polygon.points[0])
    return [(a, b) for a, b, own in zip(polygon.points, after, polygon.edges, strict=True) if own]


def strip_pdf(study: Study, opening: Opening, units: Units, room: tuple[float, float, float]) -> bytes:
    """The strip as a PDF of one page."""
    from reportlab.pdfgen.canvas import Canvas

    register_fonts()
    pictures = strip(study, opening, units)
    width, height = _sheet_size(len(pictures))
    out = io.BytesIO()
    canvas = Canvas(out, pagesize=(width * POINTS_PER_MM, height * POINTS_PER_MM))
    canvas.setTitle(study.design.name)
    canvas.setCreator("Yawning Lantern")
    canvas.scale(POINTS_PER_MM, POINTS_PER_MM)
    canvas.setFillColorRGB(*_INK)
    canvas.setFont("Lato-Bold", 6)
    canvas.drawString(_MARGIN, height - _MARGIN - 6, study.design.name)
    canvas.setFont("Lato-Regular", 3.4)
    canvas.drawString(_MARGIN, height - _MARGIN - 12, verdict(study, opening, units, room))
    canvas.setLineWidth(0.15)
    canvas.setLineJoin(1)
    for k, shown in enumerate(pictures):
        x, y = _place(k)
        _draw(canvas, shown, x, height - y)
    canvas.showPage()
    canvas.save()
    return out.getvalue()


def _draw(canvas: Any, shown: Picture, x: float, top: float) -> None:
    """One picture with its upper left corner at a place of the page, mm, and its words below."""
    canvas.setFillColorRGB(*_TABLE)
    canvas.rect(x + 1, top - PICTURE[1], PICTURE[0] - 2, PICTURE[1], stroke=0, fill=1)
    draw_polygons(canvas, shown, x, top)
    canvas.setFillColorRGB(*_INK)
    canvas.setFont("Lato-Regular", 3.2)
    for row, text in enumerate(_lines(shown.caption)):
        canvas.drawString(x + 2, top - PICTURE[1] - 4 - 3.8 * row, text)


def draw_polygons(canvas: Any, shown: Picture, x: float, top: float) -> None:
    """What is seen, as vectors, with its upper left corner at a place of the page, mm."""
    for polygon in shown.polygons:
        path = canvas.beginPath()
        for k, (px, py) in enumerate(polygon.points):
            (path.lineTo if k else path.moveTo)(x + px, top - py)
        path.close()
        whole = all(polygon.edges)
        canvas.setFillColorRGB(*polygon.fill)
        canvas.setStrokeColorRGB(*(_darker(polygon.fill) if whole else polygon.fill))
        canvas.drawPath(path, stroke=1, fill=1)
        if not whole:
            canvas.setStrokeColorRGB(*_darker(polygon.fill))
            for (ax, ay), (bx, by) in _own_edges(polygon):
                canvas.line(x + ax, top - ay, x + bx, top - by)


def film(study: Study, opening: Opening, kind: str, told: Callable[[int, int], None] = lambda done, of: None) -> bytes:
    """The opening as a film: `kind` is gif or png (animated). `told` hears of every frame.

    Raises:
        UnknownNameError: another kind was asked for.
    """
    from PIL import Image, ImageDraw, ImageFont

    if kind not in ("gif", "png"):
        raise UnknownNameError(f"A film cannot be written as “{kind}”.", remedy="Choose gif or png.")
    around = room_of(study, opening)
    count = max(len(opening.steps), 1) * FRAMES
    size = (float(FILM[0] * _TWICE), float((FILM[1] - 40) * _TWICE))
    font = ImageFont.truetype(str(FONTS / "Lato-Regular.ttf"), 18 * _TWICE)
    frames, lengths = [], []
    for k in range(count + 1):
        time = k / FRAMES
        shown = picture(study, state_at(study, opening, time), size, around)
        image = Image.new("RGB", (FILM[0] * _TWICE, FILM[1] * _TWICE), _hex(_TABLE))
        draw = ImageDraw.Draw(image)
        for polygon in shown.polygons:
            draw.polygon(polygon.points, fill=_hex(polygon.fill))
            for a, b in _own_edges(polygon):
                draw.line([a, b], fill=_hex(_darker(polygon.fill)), width=_TWICE)
        step = min(max(math.ceil(time) - 1, 0), len(opening.steps) - 1)
        words = f"{step + 1}  {step_words(study, opening.steps[step])}" if opening.steps and k else study.design.name
        draw.text((12 * _TWICE, (FILM[1] - 32) * _TWICE), words, fill=_hex(_INK), font=font)
        frames.append(image.resize(FILM, Image.Resampling.BOX))
        lengths.append(700 if k % FRAMES == 0 else 90)
        told(k, count)
    out = io.BytesIO()
    how: dict[str, Any] = {"save_all": True, "append_images": frames[1:], "duration": lengths, "loop": 0}
    frames[0].save(out, "GIF" if kind == "gif" else "PNG", **how)
    return out.getvalue()


def write_strip(study: Study, opening: Opening, path: Path, units: Units, room: tuple[float, float, float]) -> None:
    """The strip as PDF or SVG, by the name's ending. Raises UnknownNameError, WriteError."""
    kind = path.suffix.lower()
    if kind == ".pdf":
        write_atomically(path, strip_pdf(study, opening, units, room))
    elif kind == ".svg":
        write_atomically(path, strip_svg(study, opening, units, room).encode("utf-8"))
    else:
        raise UnknownNameError(f"A strip cannot be written as “{path.name}”.", remedy="End the name in .pdf or .svg.")


def write_film(study: Study, opening: Opening, path: Path) -> None:
    """The film as GIF or animated PNG, by the name's ending. Raises UnknownNameError, WriteError."""
    write_atomically(path, film(study, opening, path.suffix.lower().lstrip(".")))
