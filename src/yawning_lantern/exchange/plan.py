"""The plan as plain data: every piece with its lines, the finished size, the fits, and what was solved."""

from __future__ import annotations

import csv
import io
from collections.abc import Sequence
from typing import Any

from yawning_lantern.fit import formula
from yawning_lantern.fold import weight
from yawning_lantern.measure import MM_PER_INCH, Units, format_length, speak
from yawning_lantern.opening import Contact, Opening, Step
from yawning_lantern.pattern import Piece, Point
from yawning_lantern.stock import Tool
from yawning_lantern.structures import Sized
from yawning_lantern.study import Resolved, Study
from yawning_lantern.study.opened import contact_words, cure_words, cures, shut_words, step_words
from yawning_lantern.study.page_map import is_folded, pages_of, pockets_of
from yawning_lantern.study.shopping import wares_of
from yawning_lantern.study.warning import StockWarning

_DECIMALS = 5  # decimals of a length in mm


OFF = 0.4
"""A groove that is no further off than this, mm, is where the score is to be. From memory: a fold is not truer."""


def plan(
    study: Study, units: Units = "in", opening: Opening | None = None, warnings: Sequence[StockWarning] | None = None
) -> dict[str, Any]:
    """The plan, lengths as decimals in the chosen unit (see docs/file-formats.md), with the opening and with what the
    stock cannot do, if they are known."""

    def u(mm: float) -> float:
        return round(mm / (MM_PER_INCH if units == "in" else 1.0), _DECIMALS) + 0.0

    record: dict[str, Any] = {
        "name": study.design.name,
        "units": units,
        "pieces": [_piece(piece, study.copies(piece), units, u) for piece in study.pieces],
        "buy": [{"name": ware.name, "quantity": ware.count, "length": u(ware.length)} for ware in wares_of(study)]
        + [
            {"name": piece.name, "quantity": piece.quantity, "length": u(max(piece.size))}
            for piece in study.pieces
            if piece.bought
        ],
        "finished": {"closed": [u(x) for x in study.size_at(0.0)], "open": [u(x) for x in study.size_at(1.0)]},
        "fits": [
            {
                "code": check.gap.code,
                "between": list(check.gap.between),
                "gap": None if check.gap.lacks else u(check.gap.value),
                "lacks": check.gap.lacks,
                "want": [u(check.want[0]), u(check.want[1])],
                "verdict": check.verdict,
                "asked": check.against,
                "formula": formula(check, units),
            }
            for check in study.checks
        ],
        "solved": _solved(study, u),
        "folded": [_folded(study, r, u) for r in study.resolved.values() if is_folded(r)],
        "findings": [
            {
                "code": f.code,
                "part": f.element,
                "joint": f.closure,
                "amount": round(f.amount, _DECIMALS) if f.code == "missing-glue" else u(f.amount),
                "at": round(f.at, 3),
                "text": f.words(study.resolved[f.element].final.name, units),
            }
            for f in study.findings
        ],
        "bulk": {
            "cell": u(study.bulk.cell),
            "low": [u(x) for x in study.bulk.low],
            "layers": [list(row) for row in study.bulk.layers],
            "paper": [[u(v) for v in row] for row in study.bulk.paper],
            "weight_g": round(weight(study.pieces), 1),
        },
    }
    if warnings is not None:
        record["stock"] = [
            {"code": w.code, "part": w.element, "panels": list(w.panels), "text": speak(w.sentence, units)}
            for w in warnings
        ]
    if opening is not None:
        record["opening"] = [_step(study, k, step, units, u) for k, step in enumerate(opening.steps)]
        record["shut_contacts"] = [
            {"a": _sheet(study, c.a), "b": _sheet(study, c.b), "depth": u(c.depth), "text": shut_words(study, c, units)}
            for c in opening.shut
        ]
    return record


def _sheet(study: Study, node: int) -> dict[str, str]:
    n = study.assembly.nodes[node]
    return {"part": n.element, "piece": n.piece.id, "copy": n.instance, "panel": n.panel.name}


def _step(study: Study, k: int, step: Step, units: Units, u: Any) -> dict[str, Any]:
    """One step of the opening. Angles in degrees; a contact is where sheets meet, or where a panel comes to rest."""
    motion = study.assembly.motions[step.motion]

    def told(contact: Contact) -> dict[str, Any]:
        begin, end = (step.from_deg, step.to_deg) if step.opens else (step.to_deg, step.from_deg)
        return {
            "a": _sheet(study, contact.a),
            "b": _sheet(study, contact.b),
            "at_deg": round(begin + (end - begin) * contact.at, 2),
            "at": round(contact.at, 4),
            "depth": u(contact.depth),
            "worst_at": round(contact.worst, 4),
            "text": contact_words(study, step, contact, units),
        }

    record: dict[str, Any] = {
        "step": k + 1,
        "parts": [motion.element],
        "motion": motion.name,
        "label": step_words(study, step),
        "opens": step.opens,
        "stage": step.stage,
        "from_deg": round(step.from_deg, 3),
        "to_deg": round(step.to_deg, 3),
        "travel": u(step.travel),
        "clear": step.clear,
        "contact": None if step.contact is None else told(step.contact),
        "rests": [told(contact) for contact in step.resting],
    }
    if step.contact is not None:
        record["cures"] = [cure_words(study, cure, units) for cure in cures(study, step.contact)]
    return record


def material(piece: Piece) -> str:
    """What a piece is cut from, with the thickness and whether that is an estimate."""
    known = "estimated" if piece.stock.is_estimated else "measured"
    return f"{piece.stock.name}, {piece.stock.caliper:.2f} mm ({known})"


def _piece(piece: Piece, copies: tuple[str, ...], units: Units, u: Any) -> dict[str, Any]:
    width, height = piece.size
    return {
        "id": piece.id,
        "stands_for": list(copies),
        "name": piece.name,
        "bought": piece.bought,
        "quantity": piece.quantity,
        "material": material(piece),
        "width": u(width),
        "height": u(height),
        "outline": [[u(x), u(y)] for x, y in piece.outline],
        "holes": [[[u(x), u(y)] for x, y in hole] for hole in piece.holes],
        "lines": [
            {
                "kind": line.kind,
                "fold": line.fold,
                "x1": u(line.start[0]),
                "y1": u(line.start[1]),
                "x2": u(line.end[0]),
                "y2": u(line.end[1]),
            }
            for line in piece.lines
        ],
        "note": speak(piece.note, units),
    }


def _value(r: Resolved, name: str, sized: Sized, u: Any) -> Any:
    kinds = {p.id: p.kind for p in r.family.parameters}
    if isinstance(sized.value, str):
        return sized.value
    return int(sized.value) if kinds.get(name) == "count" else u(sized.value)


def _folded(study: Study, r: Resolved, u: Any) -> dict[str, Any]:
    """The map of a folded sheet: pages and pockets."""
    return {
        "part": r.element.id,
        "pages": [
            {"face": p.face, "label": p.label, "panel": p.panel, "side": p.side, "up": p.up, "holds": p.holds}
            for p in pages_of(study, r)
        ],
        "pockets": [
            {"name": p.name, "between": list(p.between), "mouth": p.mouth, "width": u(p.width), "depth": u(p.depth)}
            for p in pockets_of(r)
        ],
    }


def _solved(study: Study, u: Any) -> dict[str, Any]:
    """The root's parameters by their ids; those of parts in it as `part.parameter`; contents also by their ids."""
    record: dict[str, Any] = {}
    for element, r in study.resolved.items():
        for name, sized in r.sizes.items():
            value = _value(r, name, sized, u)
            if not r.host:
                record[name] = value
            else:
                record[f"{element}.{name}"] = value
                if name.startswith("content-") and name != "content-play":
                    record.setdefault(name, value)
    return record


def cut_list(study: Study, units: Units = "in") -> str:
    """The cut list as CSV: a row for every piece, sizes as the tools read them."""
    out = io.StringIO()
    rows = csv.writer(out)
    rows.writerow(
        [
            "piece",
            "quantity",
            f"width ({units})",
            f"height ({units})",
            "width (decimal)",
            "height (decimal)",
            "scores from the left",
            "scores from the foot",
            "slanted scores",
            "material",
            "note",
        ]
    )
    tool = score_tool(study)
    for piece in study.pieces:
        width, height = piece.size
        divide = MM_PER_INCH if units == "in" else 1.0
        rows.writerow(
            [
                piece.name,
                piece.quantity,
                format_length(width, units, mark=False),
                format_length(height, units, mark=False),
                f"{width / divide:.4f}",
                f"{height / divide:.4f}",
                score_readings(piece, 0, units, tool),
                score_readings(piece, 1, units, tool),
                slanted_scores(piece, units),
                "ready-made, do not cut" if piece.bought else material(piece),
                speak(piece.note, units),
            ]
        )
    for ware in wares_of(study):
        length = format_length(ware.length, units, mark=False)
        decimal = f"{ware.length / (MM_PER_INCH if units == 'in' else 1.0):.4f}"
        rows.writerow([ware.name, ware.count, length, "", decimal, "", "", "", "", "bought by length", ""])
    return out.getvalue()


def to_buy(study: Study, units: Units, copies: int = 1) -> list[str]:
    """What is bought by length for so many copies, a line each: “2 × Gate bag, cord for a handle: 6 1/2″”."""
    return [f"{ware.count * copies} × {ware.name}: {format_length(ware.length, units)}" for ware in wares_of(study)]


def score_tool(study: Study) -> Tool:
    """What a design is scored on."""
    return study.catalogue.tool(study.design.score_tool)


def readings(piece: Piece, units: Units, tool: Tool | None = None) -> tuple[tuple[str, str], ...]:
    """What a maker reads of a piece beside its size, each with its heading: scores from the fence, and the note."""
    readings = (
        ("scores from the left", score_readings(piece, 0, units, tool)),
        ("scores from the foot", score_readings(piece, 1, units, tool)),
        ("slanted scores", slanted_scores(piece, units)),
        ("note", speak(piece.note, units)),
    )
    return tuple((heading, text) for heading, text in readings if text)


def score_readings(piece: Piece, axis: int, units: Units, tool: Tool | None = None) -> str:
    """Distances from the fence of every score across `axis` (0: read from the left, 1: from the foot). Where the tool's
    grooves are not evenly spaced and none is there, the nearest is told."""
    readings = sorted(
        {
            round(line.start[axis], 3)
            for line in piece.lines
            if line.kind == "score" and abs(line.start[axis] - line.end[axis]) < 1e-6
        }
    )
    return "; ".join(_reading(at, units, tool) for at in readings)


def _reading(at: float, units: Units, tool: Tool | None) -> str:
    told = format_length(at, units, mark=False)
    if tool is None or not tool.grooves or abs(tool.groove(at) - at) <= OFF:
        return told
    return f"{told} (no groove there, the nearest is {format_length(tool.groove(at), units, mark=False)})"


def slanted_scores(piece: Piece, units: Units) -> str:
    """Scores that run along neither edge, each from one end to the other: “0, 1 to 2, 3” from left and foot."""

    def at(p: Point) -> str:
        return f"{format_length(p[0], units, mark=False)}, {format_length(p[1], units, mark=False)}"

    slanted = [
        line
        for line in piece.lines
        if line.kind == "score" and min(abs(line.start[k] - line.end[k]) for k in (0, 1)) > 1e-6
    ]
    return "; ".join(f"{at(line.start)} to {at(line.end)}" for line in slanted)
