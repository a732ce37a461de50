"""The booklet: title, what must be had, sheets with their cuts, every step with its picture, the opening, cautions,
notes; then templates at 1:1. Or a paper trial: templates and steps only, to try it on copy paper first."""

from __future__ import annotations

import io
from collections.abc import Sequence
from pathlib import Path
from typing import Any

from yawning_lantern.bench import KINDS, BenchPlan, Step, acts_of
from yawning_lantern.exchange.cutting import sheet_pages
from yawning_lantern.exchange.files import write_atomically
from yawning_lantern.exchange.film import draw_polygons, picture
from yawning_lantern.exchange.lists import wrapped
from yawning_lantern.exchange.pages import PAPERS, template_pages
from yawning_lantern.exchange.pdf import POINTS_PER_MM, draw_page, register_fonts
from yawning_lantern.exchange.scoring import reading_words
from yawning_lantern.exchange.shopping_list import buy_words
from yawning_lantern.exchange.step_picture import Box, StepPictures
from yawning_lantern.fold import opening_state
from yawning_lantern.measure import Units, format_size, inches, speak
from yawning_lantern.sheets import Effort, Plan, plan_sheets
from yawning_lantern.study import Study
from yawning_lantern.study.shopping import shopping
from yawning_lantern.study.wanted import boards_of, trimmer_of, wanted

MARGIN = 11.0  # mm: around what is on a page
EFFORT = Effort(moves=300, seconds=0.5, proof=0.0)
"""How hard fewer sheets are looked for: the Sheets page looks harder."""
COLUMNS, ROWS = 2, 4  # steps on a page, with their pictures
STRIP = 6
"""Pictures of the opening, at most."""
_INK = (0.17, 0.15, 0.25)  # red, green and blue, 0 to 1: of lines and words
_LAMP = (0.72, 0.26, 0.18)  # red, green and blue, 0 to 1: of what a step is about
CAUTIONS = (
    "Blades: cut away from yourself, shut the knife when it lies down, and keep it from children.",
    "Hot glue and heat tools burn; solvent glues want fresh air. Read the label: it has the last word.",
    "Strong magnets and small parts: not for small children, not near pacemakers or magnetic stripes.",
    "Never a flame in paper. Food lies in a lined box only. What goes by mail: ask the carrier.",
)


def booklet(study: Study, plan: BenchPlan, sheets: Plan | None, units: Units, paper: str, copies: int = 1) -> bytes:
    """The booklet as the bytes of a PDF; with no `sheets` it is a paper trial.

    Raises:
        UnknownNameError: no such paper.
    """
    templates = template_pages(study, paper, units)  # first: it knows the papers
    from reportlab.pdfgen.canvas import Canvas

    register_fonts()
    out = io.BytesIO()
    size = PAPERS[paper]
    canvas = Canvas(out, pagesize=(size[0] * POINTS_PER_MM, size[1] * POINTS_PER_MM))
    canvas.setTitle(study.design.name)
    canvas.setCreator("Yawning Lantern")
    book = _Book(canvas, size, study, plan, units)
    book.title(trial=sheets is None)
    if sheets is not None:
        names = {piece.stock.id: piece.stock.name for piece in study.pieces}
        book.list("What must be had", [buy_words(one, units) for one in shopping(study, sheets, copies)])
        for page in sheet_pages(sheets, names, units):
            draw_page(canvas, page)
    steps = plan.steps if sheets is not None else [s for s in plan.steps if s.kind not in ("wait", "insert")]
    book.steps(steps)
    book.opening()
    book.list("Take care", CAUTIONS)
    book.notes()
    for page in templates:
        draw_page(canvas, page)
    canvas.save()
    return out.getvalue()


def write_booklet(
    study: Study, plan: BenchPlan, path: Path, units: Units, paper: str = "letter", *, copies: int = 1,
    trial: bool = False,
) -> None:  # fmt: skip
    """Write the booklet, or the paper trial. Raises WriteError, UnknownNameError."""
    sheets = None
    if not trial:
        trimmer = trimmer_of(study.design, study.catalogue)
        sheets = plan_sheets(wanted(study, copies), boards_of(study), trimmer, EFFORT)
    write_atomically(path, booklet(study, plan, sheets, units, paper, copies))


class _Book:
    """Pages one after the other."""

    def __init__(self, canvas: Any, size: tuple[float, float], study: Study, plan: BenchPlan, units: Units) -> None:
        self.canvas, self.size, self.study, self.plan, self.units = canvas, size, study, plan, units
        self.pictures = StepPictures(study, plan, {act.name: act for act in acts_of(study.assembly)})

    def _begin(self, heading: str) -> float:
        """A new page under its heading. Gives where it may go on, mm from the foot."""
        self.canvas.setPageSize((self.size[0] * POINTS_PER_MM, self.size[1] * POINTS_PER_MM))
        self.canvas.scale(POINTS_PER_MM, POINTS_PER_MM)
        self.canvas.setFillColorRGB(*_INK)
        self._text(MARGIN, self.size[1] - MARGIN - 5, heading, 5.5, bold=True)
        return self.size[1] - MARGIN - 13

    def _text(self, x: float, y: float, words: str, size: float, *, bold: bool = False) -> None:
        self.canvas.setFont("Lato-Bold" if bold else "Lato-Regular", size)
        self.canvas.drawString(x, y, words)

    def title(self, *, trial: bool) -> None:
        """Name, picture, finished size, how long it takes."""
        y = self._begin("Paper trial" if trial else "Booklet")
        wide = self.size[0] - 2 * MARGIN
        self._text(MARGIN, y - 10, self.study.design.name, 11.0, bold=True)
        high = min(wide * 0.8, y - 70)
        self.pictures.scene(self.canvas, None, Box(MARGIN, y - 20 - high, wide, high))
        self.canvas.setFillColorRGB(*_INK)
        y -= 32 + high
        grid = inches(1 / 32) if self.units == "in" else 1.0
        shut = tuple(round(side / grid) * grid for side in self.study.closed)
        lines = [
            f"Finished, shut: about {format_size(shut, self.units)}",
            f"{len(self.plan.steps)} steps, about {round(self.plan.minutes)} minutes of hands.",
            f"Scored on {self.study.catalogue.tool(self.study.design.score_tool).name}; glued with "
            f"{self.study.catalogue.adhesive(self.study.design.adhesive).name}.",
        ]
        if trial:
            lines.append(
                "Print the templates on copy paper, score and fold: it shows what goes where. Thin paper slips"
            )
            lines.append("more easily than card: whether it shuts is told by the fits, not by the trial.")
        for line in lines:
            self._text(MARGIN, y, line, 4.0)
            y -= 6.5
        self.canvas.showPage()

    def list(self, heading: str, lines: Sequence[str]) -> None:
        """Lines with a box to tick."""
        y = self._begin(heading)
        for line in lines:
            told = wrapped(line, self.size[0] - 2 * MARGIN - 8, 3.6)
            if y - 5 * len(told) < MARGIN:
                self.canvas.showPage()
                y = self._begin(heading)
            self.canvas.setStrokeColorRGB(*_INK)
            self.canvas.setLineWidth(0.25)
            self.canvas.rect(MARGIN, y - 0.4, 3.2, 3.2)
            for words in told:
                self._text(MARGIN + 7, y, words, 3.6)
                y -= 5.0
            y -= 1.6
        self.canvas.showPage()

    def steps(self, steps: Sequence[Step]) -> None:
        """Steps, some on a page, each with its picture."""
        wide = (self.size[0] - 2 * MARGIN - 6) / COLUMNS
        each = COLUMNS * ROWS
        for first in range(0, len(steps), each):
            top = self._begin(f"Steps {self.plan.at[steps[first].id] + 1} and on")
            high = (top - MARGIN + 6) / ROWS
            for k, step in enumerate(steps[first : first + each]):
                row, column = divmod(k, COLUMNS)
                self._step(step, Box(MARGIN + column * (wide + 6), top + 6 - (row + 1) * high, wide, high - 4))
            self.canvas.showPage()

    def _step(self, step: Step, box: Box) -> None:
        canvas, units = self.canvas, self.units
        top = box.y + box.height
        canvas.setStrokeColorRGB(*_INK)
        canvas.setLineWidth(0.2)
        canvas.line(box.x, top, box.x + box.width, top)
        canvas.rect(box.x + box.width - 4, top - 5.4, 3.4, 3.4)
        canvas.setFillColorRGB(*_INK)
        many = f"{step.copies} × " if step.copies > 1 else ""
        part = step.parts[0] if step.parts else ""
        head = wrapped(f"{self.plan.at[step.id] + 1}  {KINDS[step.kind]}: {many}{part}", box.width - 8, 3.6)[0]
        self._text(box.x, top - 5, head, 3.6, bold=True)
        side = min(box.height - 12, box.width * 0.44)
        self.pictures.draw(canvas, step, Box(box.x, top - 9 - side, side, side))
        x, width, y = box.x + side + 3, box.width - side - 3, top - 10.5
        canvas.setFillColorRGB(*_LAMP)
        for reading in step.placing.readings[:6] if step.placing else ():
            for words in wrapped(reading_words(reading, units), width, 4.2):
                self._text(x, y, words, 4.2, bold=True)
                y -= 5.0
        if step.placing is not None and len(step.placing.readings) > 6:
            self._text(x, y, f"and {len(step.placing.readings) - 6} more", 3.4)
            y -= 4.4
        canvas.setFillColorRGB(*_INK)
        told = [(step.text, False), (step.heed, False), (step.because and f"Now, because {step.because}.", False)]
        if step.state != "sure":
            told.append((f"{step.state.capitalize()}.", True))
        if step.caution:
            told.append((f"Caution: {step.caution}", True))
        for text, bold in told:
            for words in wrapped(speak(text, units), width, 2.7) if text else ():
                if y < box.y:
                    return
                self._text(x, y, words, 2.7, bold=bold)
                y -= 3.5

    def opening(self) -> None:
        """How it opens, in pictures, as its parts tell it."""
        motions = self.study.assembly.motions
        if not motions:
            return
        self._begin("How it opens")
        count = min(STRIP, len(motions) + 1)
        wide, high = (self.size[0] - 2 * MARGIN) / 2, (self.size[1] - 2 * MARGIN - 20) / 3
        for k in range(count):
            share = k / (count - 1)
            done = round(share * len(motions))
            row, column = divmod(k, 2)
            x, top = MARGIN + column * wide, self.size[1] - MARGIN - 14 - row * high
            state = opening_state(self.study.assembly, done / len(motions))
            self.canvas.setLineWidth(0.12)
            draw_polygons(self.canvas, picture(self.study, state, (wide - 6, high - 14), ()), x, top)
            self.canvas.setFillColorRGB(*_INK)
            words = "Shut" if not done else f"{done}  {motions[done - 1].label}"
            for n, line in enumerate(wrapped(words, wide - 8, 3.0)[:2]):
                self._text(x, top - high + 10 - 3.8 * n, line, 3.0)
        self.canvas.showPage()

    def notes(self) -> None:
        """Lines to write on."""
        y = self._begin("Notes for next time")
        self.canvas.setStrokeGray(0.7)
        self.canvas.setLineWidth(0.15)
        while y > MARGIN + 4:
            y -= 9
            self.canvas.line(MARGIN, y, self.size[0] - MARGIN, y)
        self.canvas.showPage()
