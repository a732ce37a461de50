"""The shopping list in words, as CSV and as a spreadsheet (OpenDocument, ISO/IEC 26300)."""

from __future__ import annotations

import csv
import io
from collections.abc import Sequence
from pathlib import Path
from typing import Any

from yawning_lantern.errors import ParameterError
from yawning_lantern.measure import MM_PER_INCH, Units, format_length, format_size
from yawning_lantern.study.shopping import Buy

HEAD = ("kind", "what", "needed", "in the drawer", "to buy", "size", "length", "glued")
FORMATS = (".csv", ".ods")


def buy_words(buy: Buy, units: Units) -> str:
    """One thing as it stands on a list: “2 × Cardstock, 12 × 12 in: 1 in the drawer, 1 to buy”."""
    if buy.kind in ("tape", "glue"):
        return f"{buy.what}: {amount(buy, units)}"
    line = f"{buy.count} × {buy.what}"
    if buy.kind == "by length" and buy.length is not None:
        return f"{line}: {format_length(buy.length, units)}"
    if buy.kind == "ready-made" and buy.size is not None:
        return f"{line}: {format_size(buy.size, units)}"
    if buy.have is not None:
        line += f": {buy.have} in the drawer" + (f", {buy.missing} to buy" if buy.missing else "")
    return line


def amount(buy: Buy, units: Units) -> str:
    """How much tape, or how large what is glued is."""
    if buy.kind == "tape" and buy.length is not None:
        long = f"{buy.length / 1000:.1f} m" if units == "mm" else f"{buy.length / MM_PER_INCH / 12:.0f} ft"
        return f"about {long}, " + ("a roll" if buy.count == 1 else f"{buy.count} rolls")
    return f"for {_area(buy.area or 0.0, units)} of joints"


def _area(mm2: float, units: Units) -> str:
    return f"{mm2 / 100:.0f} cm²" if units == "mm" else f"{mm2 / MM_PER_INCH**2:.0f} in²"


def _rows(list_: Sequence[Buy], units: Units) -> list[tuple[str | int, ...]]:
    return [
        (
            buy.kind, buy.what, buy.count, "" if buy.have is None else buy.have, buy.missing,
            format_size(buy.size, units) if buy.size else "",
            "" if buy.length is None else format_length(buy.length, units),
            "" if buy.area is None else _area(buy.area, units),
        )
        for buy in list_
    ]  # fmt: skip


def shopping_json(list_: Sequence[Buy], units: Units) -> list[dict[str, Any]]:
    """The list as data, lengths in the units (areas in their square)."""
    divide = MM_PER_INCH if units == "in" else 1.0
    records = []
    for buy in list_:
        row: dict[str, Any] = {"kind": buy.kind, "what": buy.what, "count": buy.count, "missing": buy.missing}
        if buy.have is not None:
            row["have"] = buy.have
        if buy.size is not None:
            row["width"], row["height"] = (round(v / divide, 4) for v in buy.size)
        if buy.length is not None:
            row["length"] = round(buy.length / divide, 4)
        if buy.area is not None:
            row["area"] = round(buy.area / divide**2, 4)
        records.append(row)
    return records


def shopping_bytes(list_: Sequence[Buy], units: Units, title: str, path: Path) -> bytes:
    """The list as a file of the kind that the path's ending tells. Raises ParameterError for another kind."""
    suffix = path.suffix.lower()
    if suffix not in FORMATS:
        raise ParameterError(f"A list cannot be written as “{suffix}”.", path.name, f"Choose {' or '.join(FORMATS)}.")
    rows = _rows(list_, units)
    if suffix == ".csv":
        out = io.StringIO()
        table = csv.writer(out, lineterminator="\n")
        table.writerow(HEAD)
        table.writerows(rows)
        return out.getvalue().encode("utf-8")
    return _spreadsheet(rows, title)


def _spreadsheet(rows: Sequence[Sequence[str | int]], title: str) -> bytes:
    from odf.opendocument import OpenDocumentSpreadsheet
    from odf.style import Style, TextProperties
    from odf.table import Table, TableCell, TableRow
    from odf.text import P

    document = OpenDocumentSpreadsheet()
    bold = Style(name="head", family="table-cell")
    bold.addElement(TextProperties(fontweight="bold"))
    document.automaticstyles.addElement(bold)
    table = Table(name=title[:30] or "Shopping")

    def add(cells: Sequence[str | int], style: Any = None) -> None:
        row = TableRow()
        for value in cells:
            number = isinstance(value, int)
            told: dict[str, Any] = {"valuetype": "float", "value": value} if number else {"valuetype": "string"}
            cell = TableCell(**told, **({"stylename": style} if style else {}))
            cell.addElement(P(text=str(value)))
            row.addElement(cell)
        table.addElement(row)

    add(HEAD, bold)
    for row in rows:
        add(row)
    document.spreadsheet.addElement(table)
    out = io.BytesIO()
    document.write(out)
    return out.getvalue()
