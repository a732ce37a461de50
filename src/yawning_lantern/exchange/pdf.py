"""Pages as PDF, 1:1, by reportlab."""

from __future__ import annotations

import io
from collections.abc import Sequence
from pathlib import Path
from typing import Any

from yawning_lantern.exchange.files import write_atomically
from yawning_lantern.exchange.pages import template_pages
from yawning_lantern.exchange.shapes import DASHES, GREY, WIDTHS, Label, Page, Stroke
from yawning_lantern.measure import Units
from yawning_lantern.study import Study, sound

POINTS_PER_MM = 72.0 / 25.4  # a point is a 72nd of an inch
FONTS = Path(__file__).parent.parent / "fonts"


def register_fonts() -> None:
    """Make the shipped faces known to the PDF writer."""
    from reportlab import rl_config
    from reportlab.pdfbase import pdfmetrics
    from reportlab.pdfbase.ttfonts import TTFont

    rl_config.useA85 = 0  # streams as they are: every reader takes them, and it is a fifth of the time and size
    for name in ("Lato-Regular", "Lato-Bold"):
        if name not in pdfmetrics.getRegisteredFontNames():
            pdfmetrics.registerFont(TTFont(name, FONTS / f"{name}.ttf"))


def to_pdf(pages: Sequence[Page], title: str) -> bytes:
    """Pages as the bytes of a PDF file."""
    from reportlab.pdfgen.canvas import Canvas

    register_fonts()
    out = io.BytesIO()
    canvas = Canvas(out, pagesize=(pages[0].width * POINTS_PER_MM, pages[0].height * POINTS_PER_MM))
    canvas.setTitle(title)
    canvas.setCreator("Yawning Lantern")
    for page in pages:
        draw_page(canvas, page)
    canvas.save()
    return out.getvalue()


def draw_page(canvas: Any, page: Page) -> None:
    """One page of strokes and texts."""
    canvas.setPageSize((page.width * POINTS_PER_MM, page.height * POINTS_PER_MM))
    canvas.scale(POINTS_PER_MM, POINTS_PER_MM)
    canvas.setFillGray(0.0)
    for shape in page.shapes:
        if isinstance(shape, Stroke):
            canvas.setStrokeGray(GREY.get(shape.pen, 0.0))
            canvas.setLineWidth(WIDTHS[shape.pen])
            canvas.setDash(*([list(DASHES[shape.pen])] if DASHES[shape.pen] else []))
            canvas.line(*shape.start, *shape.end)
        else:
            _text(canvas, shape)
    canvas.showPage()


def _text(canvas: Any, label: Label) -> None:
    canvas.setFont("Lato-Bold" if label.bold else "Lato-Regular", label.size)
    draw = {"left": canvas.drawString, "middle": canvas.drawCentredString, "right": canvas.drawRightString}
    draw[label.anchor](*label.at, label.text)


def write_templates(study: Study, path: Path, paper: str = "letter", units: Units = "in") -> int:
    """Write the templates of a design; gives the number of pages. Raises WriteError, UnknownNameError."""
    pages = template_pages(sound(study), paper, units)
    write_atomically(path, to_pdf(pages, study.design.name))
    return len(pages)
