"""The drawer as a list: CSV and JSON, written and read in again."""

from __future__ import annotations

import csv
import io
import json
from pathlib import Path
from typing import Any

from yawning_lantern.errors import DesignFileError, ParameterError
from yawning_lantern.exchange.item_rows import COLUMNS, KINDS, item_of, item_row
from yawning_lantern.measure import parse_length
from yawning_lantern.stock import Item, builtin_catalogue
from yawning_lantern.workshop import Workshop

_HEAD = ("kind", "stock", "name", "count", "width", "height", *COLUMNS)


def drawer_rows(workshop: Workshop) -> list[dict[str, Any]]:
    """Everything in the drawer: things, then counts, then off-cuts; bare lengths in mm."""
    rows: list[dict[str, Any]] = [dict(item_row(item)) for item in workshop.catalogue().items]
    rows += [{"kind": "sheets", "stock": stock, "count": count} for stock, count in workshop.counts().items()]
    rows += [
        {"kind": "off-cut", "stock": o.stock, "name": o.name, "count": 1, "width": o.width, "height": o.height}
        for o in workshop.off_cuts()
    ]
    return rows


def drawer_bytes(workshop: Workshop, as_json: bool) -> bytes:
    """The drawer as a file."""
    rows = drawer_rows(workshop)
    if as_json:
        return json.dumps({"units": "mm", "drawer": rows}, indent=2, ensure_ascii=False).encode("utf-8")
    out = io.StringIO()
    table = csv.DictWriter(out, _HEAD, lineterminator="\n")
    table.writeheader()
    for row in rows:
        told = {key: f"{value:g}mm" if isinstance(value, float) else value for key, value in row.items()}
        table.writerow(told)
    return out.getvalue().encode("utf-8")


def read_drawer(workshop: Workshop, path: Path) -> int:
    """Take a list into the drawer: things are put in the place of those of the same name, counts are set, off-cuts are
    added; all of it or nothing. Gives how many rows there were.

    Raises:
        DesignFileError: the file cannot be read. ParameterError: a row tells nothing that can be kept.
    """
    remedy = "Give a CSV or JSON file as `./lantern stock export` writes it."
    try:
        text = path.read_text(encoding="utf-8-sig")
        rows = json.loads(text)["drawer"] if path.suffix.lower() == ".json" else list(csv.DictReader(text.splitlines()))
    except (OSError, ValueError, KeyError, TypeError) as error:
        raise DesignFileError(f"{path.name} cannot be read as a drawer.", remedy=remedy) from error
    items: list[Item] = []
    counts: dict[str, int] = {}
    off_cuts: list[tuple[str, str, float, float]] = []
    for number, row in enumerate(rows, 1):
        where = f"{path.name}, row {number}"
        if not isinstance(row, dict) or not row.get("stock") or row.get("kind") not in ("sheets", "off-cut", *KINDS):
            remedy = f"Its kind is sheets, off-cut, {', '.join(KINDS)}; its stock is an id."
            raise ParameterError("A row tells no thing, no sheets and no off-cut.", where, remedy)
        if row["kind"] in KINDS:
            items.append(item_of(row, where, builtin_catalogue().sheets))
            continue
        count = str(row.get("count") or "1")
        if not count.isdigit():
            raise ParameterError(f"“{count}” is no count.", where, "Give a whole number.")
        if row["kind"] == "sheets":
            counts[str(row["stock"])] = int(count)
            continue
        width, height = (parse_length(str(row.get(side) or ""), "mm") for side in ("width", "height"))
        off_cuts += [(str(row["stock"]), str(row.get("name") or ""), width, height)] * int(count)
    workshop.fill(counts, off_cuts, items)
    return len(rows)
