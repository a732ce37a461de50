"""Sheets and their cuts on paper and in files: JSON, CSV, pages, and lists of rectangles read in."""

from __future__ import annotations

import csv
import io
from collections.abc import Sequence
from pathlib import Path
from typing import Any

from yawning_lantern.errors import DesignFileError, ParameterError
from yawning_lantern.exchange.shapes import FOOT, MARGIN, Label, Page, Stroke
from yawning_lantern.exchange.shopping_list import shopping_json
from yawning_lantern.measure import MM_PER_INCH, Units, format_length, format_size, parse_length
from yawning_lantern.sheets import Cut, Plan, Rectangle, SheetPlan
from yawning_lantern.study.shopping import Buy

_DECIMALS = 4  # decimals of a length in a drawing's own unit
_PAGE = (215.9, 279.4)  # mm: of a sheet of paper a drawing is laid on


def sheets_json(plan: Plan, names: dict[str, str], units: Units, buy: Sequence[Buy] = ()) -> dict[str, Any]:
    """A plan as data, lengths in the units: see the file formats page. `names` are the stocks' by id."""
    divide = MM_PER_INCH if units == "in" else 1.0

    def u(mm: float) -> float:
        return round(mm / divide, _DECIMALS)

    def told(sheet: SheetPlan) -> dict[str, Any]:
        return {
            "stock": names.get(sheet.board.stock, sheet.board.stock),
            "from": "off-cut" if sheet.board.kept else "sheet",
            "name": sheet.board.name,
            "width": u(sheet.board.width),
            "height": u(sheet.board.height),
            "cuts": [
                {
                    "number": cut.number,
                    "part": cut.part,
                    "across": cut.across,
                    "fence": u(cut.fence),
                    "length": u(cut.length),
                    "gives": [cut.at_fence, cut.beyond],
                }
                for cut in sheet.cuts
            ],
            "placed": [
                {
                    "piece": p.piece,
                    "x": u(p.x),
                    "y": u(p.y),
                    "width": u(p.width),
                    "height": u(p.height),
                    "turned": p.turned,
                }
                for p in sheet.placed
            ],
            "left": [
                {
                    "name": p.name,
                    "x": u(p.x),
                    "y": u(p.y),
                    "width": u(p.width),
                    "height": u(p.height),
                    "useful": p.useful,
                }
                for p in sheet.left
            ],
            "corners": [
                {"name": p.name, "x": u(p.x), "y": u(p.y), "width": u(p.width), "height": u(p.height)}
                for p in sheet.corners
            ],
        }

    return {
        "units": units,
        "count": plan.count,
        "bound": plan.bound,
        "settings": plan.settings,
        "sheets": [told(sheet) for sheet in plan.sheets],
        "buy": shopping_json(buy, units),
    }


def summary(plan: Plan) -> str:
    """How many sheets, and how sure that is."""
    sheets = "1 sheet" if plan.count == 1 else f"{plan.count} sheets"
    kept = sum(sheet.board.kept for sheet in plan.sheets)
    from_kept = f", and {kept} off-cut{'s' if kept > 1 else ''}" if kept else ""
    return f"{sheets}{from_kept}. {sureness(plan)}"


def sureness(plan: Plan) -> str:
    """How sure it is that there need not be more sheets."""
    return "It cannot be done with fewer." if plan.is_least else f"It cannot be fewer than {plan.bound}."


def cut_words(cut: Cut, units: Units) -> str:
    """One cut as it is read out at the bench."""
    of = "the sheet" if cut.part == 1 else f"part {cut.part}"
    gives = f"part {cut.at_fence} at the fence" + (f", part {cut.beyond} beyond" if cut.beyond else "")
    fence, length = format_length(cut.fence, units), format_length(cut.length, units)
    return f"{of}, across its {cut.across}: fence {fence}, {length} long; gives {gives}"


def sheets_csv(plan: Plan, names: dict[str, str], units: Units) -> str:
    """Every cut in the order made, a row each."""
    out = io.StringIO()
    rows = csv.writer(out, lineterminator="\n")
    rows.writerow(["sheet", "stock", "number", "part", "across", "fence", "length", "at the fence", "beyond"])
    for k, rank in plan.order:
        sheet = plan.sheets[k]
        cut = sheet.cuts[rank]
        fence, length = format_length(cut.fence, units), format_length(cut.length, units)
        rows.writerow([k + 1, names.get(sheet.board.stock, ""), cut.number, cut.part, cut.across, fence, length,
                       cut.at_fence, cut.beyond or ""])  # fmt: skip
    return out.getvalue()


def read_rectangles(path: Path, units: Units) -> tuple[Rectangle, ...]:
    """A list of rectangles: name, width, height, count, stock, may-turn (the last three may be left out).

    Raises:
        DesignFileError: it cannot be read. ParameterError: a row does not tell a rectangle.
    """
    try:
        text = path.read_text(encoding="utf-8-sig")
    except (OSError, UnicodeDecodeError) as error:
        remedy = "Give a CSV file with name, width and height."
        raise DesignFileError(f"{path.name} cannot be read.", remedy=remedy) from error
    rectangles = []
    for number, row in enumerate(csv.DictReader(text.splitlines()), 2):
        cells = {
            (key or "").strip().lower(): (value or "").strip() for key, value in row.items() if isinstance(value, str)
        }
        where = f"{path.name}, line {number}"
        if not cells.get("width") or not cells.get("height"):
            raise ParameterError("A row has no width or height.", where, "Its head is: name, width, height, count.")
        count, turn = cells.get("count") or "1", (cells.get("may-turn") or "yes").lower()
        if not count.isdigit() or not 0 < int(count) <= 1000:
            raise ParameterError(f"“{count}” is no count.", where, "Give a whole number from 1 to 1000.")
        width, height = (parse_length(cells[name], units) for name in ("width", "height"))
        if width <= 0 or height <= 0:
            raise ParameterError("A rectangle has no size.", where, "Give a width and a height above zero.")
        may_turn = turn not in ("no", "n", "0", "false")
        name = cells.get("name") or f"piece {number - 1}"
        rectangles.append(Rectangle(name, width, height, int(count), may_turn, cells.get("stock", "")))
    if not rectangles:
        raise ParameterError("The list is empty.", path.name, "Give at least one row under its head.")
    return tuple(rectangles)


def sheet_pages(plan: Plan, names: dict[str, str], units: Units) -> list[Page]:
    """A page for every sheet: drawn as it is cut, its cuts numbered and listed."""
    pages = []
    wide, high = _PAGE
    for k, sheet in enumerate(plan.sheets):
        title = f"Sheet {k + 1} of {len(plan.sheets)}: {names.get(sheet.board.stock, '')}, {sheet.board.name}".strip()
        shapes: list[Stroke | Label] = [Label((MARGIN, high - MARGIN - 6), title, 4.5, bold=True)]
        scale = min((wide - 2 * MARGIN) / sheet.board.width, (high * 0.5) / sheet.board.height)
        left, low = MARGIN, high - MARGIN - 12 - sheet.board.height * scale
        shapes += _box(left, low, sheet.board.width * scale, sheet.board.height * scale, "cut")
        for p in sheet.placed:
            x, y, w, h = left + p.x * scale, low + p.y * scale, p.width * scale, p.height * scale
            shapes += _box(x, y, w, h, "cut")
            size = max(1.6, min(3.2, w / max(len(p.piece), 1) * 1.7, h * 0.4))
            shapes.append(Label((x + w / 2, y + h / 2), p.piece, size, "middle"))
            shapes.append(
                Label(
                    (x + w / 2, y + h / 2 - size * 1.3), format_size((p.width, p.height), units), size * 0.8, "middle"
                )
            )
        for part in sheet.left:
            shapes += _box(
                left + part.x * scale, low + part.y * scale, part.width * scale, part.height * scale, "guide"
            )
            if part.useful:
                at = left + (part.x + part.width / 2) * scale, low + (part.y + part.height / 2) * scale
                shapes.append(Label(at, f"off-cut {part.name}", 2.4, "middle"))
        y = low - 7
        for cut in sheet.cuts:
            if y < MARGIN + FOOT:
                pages.append(Page(wide, high, title, tuple(shapes)))
                shapes, y = [Label((MARGIN, high - MARGIN - 6), title, 4.5, bold=True)], high - MARGIN - 14
            shapes.append(Label((MARGIN, y), f"{cut.number}.", 2.8, bold=True))
            shapes.append(Label((MARGIN + 9, y), cut_words(cut, units), 2.8))
            y -= 4.2
        pages.append(Page(wide, high, title, tuple(shapes)))
    return pages


def _box(x: float, y: float, w: float, h: float, pen: Any) -> list[Stroke | Label]:
    corners: Sequence[tuple[float, float]] = ((x, y), (x + w, y), (x + w, y + h), (x, y + h))
    return [Stroke(pen, corners[k], corners[(k + 1) % 4]) for k in range(4)]
