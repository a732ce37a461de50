"""Files for cutting machines: SVG and DXF in millimetres with a layer for each kind of line, and plotter files (HPGL).

DXF is written as release 12, whose few words every reader knows (group codes from the published reference, from
memory). In SVG y runs down, in DXF and HPGL up."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from pathlib import Path as PathLike
from xml.sax.saxutils import quoteattr

from yawning_lantern.exchange.files import write_atomically
from yawning_lantern.machine import Bed, Layer, Path, Plotter, Report, bed_of_piece, beds_on_sheets, compensated, run
from yawning_lantern.machine.plotter import UNIT, PlotterError
from yawning_lantern.pattern import Point
from yawning_lantern.sheets import Effort, plan_sheets
from yawning_lantern.study import Study
from yawning_lantern.study.wanted import boards_of, trimmer_of, wanted

NAMES: dict[Layer, str] = {
    "mark": "mark",
    "valley": "score-valley",
    "mountain": "score-mountain",
    "slit": "cut-inner",
    "outline": "cut-outline",
}
"""What layers are called in files; mountain and valley are seen from the front, which lies up."""
_COLOURS: dict[Layer, tuple[str, int]] = {
    "mark": ("#8a8a8a", 8), "valley": ("#2c6468", 4), "mountain": ("#b8432f", 1), "slit": ("#5b3a8c", 6),
    "outline": ("#1d1930", 7),
}  # fmt: skip
EFFORT = Effort(moves=300, seconds=0.5)
"""How hard fewer sheets are looked for: the Sheets page looks harder."""
APART = 12.0
"""What lies between two sheets in one drawing, mm."""


def _drawn_on(beds: Sequence[Bed]) -> list[tuple[Bed, float]]:
    """Beds side by side: each with where its left edge lies, mm."""
    found, x = [], 0.0
    for bed in beds:
        found.append((bed, x))
        x += bed.width + APART
    return found


def _figure(value: float) -> str:
    return f"{value:.4f}".rstrip("0").rstrip(".") if abs(value) > 5e-5 else "0"


def to_svg(beds: Sequence[Bed], title: str) -> str:
    """Beds side by side, a group for each and in it one for each layer. A unit is a millimetre."""
    placed = _drawn_on(beds)
    wide = placed[-1][1] + placed[-1][0].width if placed else 1.0
    high = max((bed.height for bed in beds), default=1.0)
    lines = [
        '<?xml version="1.0" encoding="UTF-8"?>',
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{_figure(wide)}mm" height="{_figure(high)}mm" '
        f'viewBox="0 0 {_figure(wide)} {_figure(high)}">',
        f"<title>{_text(title)}</title>",
    ]
    for n, (bed, left) in enumerate(placed, 1):
        lines.append(f'<g id="sheet-{n}" data-name={quoteattr(bed.name)}>')
        for layer, name in NAMES.items():
            own = [path for path in bed.paths if path.layer == layer]
            if not own:
                continue
            colour = _COLOURS[layer][0]
            lines.append(f'<g id="sheet-{n}-{name}" fill="none" stroke="{colour}" stroke-width="0.1">')
            for path in own:
                told = f'class="{name}" data-piece={quoteattr(path.piece)}'
                lines.append(f'<path {told} d="{_way(path, left, high)}"/>')
            lines.append("</g>")
        lines.append("</g>")
    lines.append("</svg>")
    return "\n".join(lines) + "\n"


def _text(words: str) -> str:
    return words.replace("&", "&amp;").replace("<", "&lt;")


def _way(path: Path, left: float, high: float) -> str:
    told = [f"{_figure(x + left)} {_figure(high - y)}" for x, y in path.points]
    return f"M {' L '.join(told)}{' Z' if path.closed else ''}"


def to_dxf(beds: Sequence[Bed]) -> str:
    """Beds side by side, layers by name. A unit is a millimetre."""
    rows: list[tuple[int, object]] = [(0, "SECTION"), (2, "HEADER"), (9, "$ACADVER"), (1, "AC1009")]
    rows += [(9, "$INSUNITS"), (70, 4), (0, "ENDSEC"), (0, "SECTION"), (2, "TABLES"), (0, "TABLE"), (2, "LAYER")]
    rows.append((70, len(NAMES)))
    for layer, name in NAMES.items():
        rows += [(0, "LAYER"), (2, name.upper()), (70, 0), (62, _COLOURS[layer][1]), (6, "CONTINUOUS")]
    rows += [(0, "ENDTAB"), (0, "ENDSEC"), (0, "SECTION"), (2, "ENTITIES")]
    for bed, left in _drawn_on(beds):
        for path in bed.paths:
            rows += _polyline(path, left)
    rows += [(0, "ENDSEC"), (0, "EOF")]
    return "".join(f"{code}\n{value}\n" for code, value in rows)


def _polyline(path: Path, left: float) -> Iterable[tuple[int, object]]:
    layer = NAMES[path.layer].upper()
    yield from ((0, "POLYLINE"), (8, layer), (66, 1), (70, int(path.closed)), (10, 0.0), (20, 0.0), (30, 0.0))
    for x, y in path.points:
        yield from ((0, "VERTEX"), (8, layer), (10, f"{x + left:.6f}"), (20, f"{y:.6f}"), (30, 0.0))
    yield from ((0, "SEQEND"), (8, layer))


def to_hpgl(beds: Sequence[Bed], plotter: Plotter | None = None) -> str:
    """Bed after bed, tool after tool; the carriage is led so that the knife's tip does the cuts."""
    machine = plotter or Plotter()
    tools = {"mark": machine.pen, "valley": machine.stylus, "mountain": machine.stylus}
    words, heading = ["IN;"], 0.0
    for n, bed in enumerate(beds):
        if n:
            words.append("SP0;PG;")
        tool = 0
        for path in bed.paths:
            wanted = tools.get(path.layer, machine.blade)
            if wanted != tool:
                tool = wanted
                words.append(f"SP{tool};")
            if tool == machine.blade:
                way, heading = compensated(path.points, path.closed, machine.offset, heading)
            else:
                way = (*path.points, path.points[0]) if path.closed else path.points
            words.append(f"PU{_steps(way[:1])};PD{_steps(way[1:])};")
    words.append("PU0,0;SP0;")
    return "\n".join(words) + "\n"


def _steps(points: Sequence[Point]) -> str:
    return ",".join(f"{round(x * UNIT)},{round(y * UNIT)}" for x, y in points)


def report_svg(report: Report) -> str:
    """What the machine really did, sheet beside sheet, faulty strokes thick."""
    machine = report.plotter
    sheets = max((stroke.sheet for stroke in report.strokes), default=0) + 1
    wide, high = sheets * (machine.width + APART) - APART, machine.height
    colours = {machine.pen: "#8a8a8a", machine.stylus: "#2c6468", machine.blade: "#1d1930"}
    faulty = {fault.stroke for fault in report.faults}
    lines = [
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{_figure(wide)}mm" height="{_figure(high)}mm" '
        f'viewBox="0 0 {_figure(wide)} {_figure(high)}">',
    ]
    for k in range(sheets):
        x = _figure(k * (machine.width + APART))
        size = f'width="{_figure(machine.width)}" height="{_figure(high)}"'
        lines.append(f'<rect x="{x}" y="0" {size} fill="#fffdf7" stroke="#cfc4ae" stroke-width="0.3"/>')
    for k, stroke in enumerate(report.strokes):
        left = stroke.sheet * (machine.width + APART)
        way = " L ".join(f"{_figure(x + left)} {_figure(high - y)}" for x, y in stroke.tip)
        thick, colour = ("0.8", "#b8432f") if k in faulty else ("0.15", colours.get(stroke.tool, "#000000"))
        lines.append(f'<path d="M {way}" fill="none" stroke="{colour}" stroke-width="{thick}"/>')
    lines.append("</svg>")
    return "\n".join(lines) + "\n"


def beds_of(study: Study, *, each: bool) -> tuple[Bed, ...]:
    """Every piece by itself, or all of them nested on sheets."""
    pieces = [piece for piece in study.pieces if not piece.bought]
    if each:
        return tuple(map(bed_of_piece, pieces))
    plan = plan_sheets(wanted(study), boards_of(study), trimmer_of(study.design, study.catalogue), EFFORT)
    return beds_on_sheets(plan.sheets, pieces)


def write_cut_file(study: Study, path: PathLike) -> None:
    """Write the pieces nested on sheets by the file's suffix: .svg, .dxf, else a plotter file.

    Raises:
        PlotterError: the simulated machine finds something wrong with the plotter file.
    """
    beds = beds_of(study, each=False)
    suffix = path.suffix.lower()
    if suffix == ".svg":
        write_atomically(path, to_svg(beds, study.design.name).encode())
    elif suffix == ".dxf":
        write_atomically(path, to_dxf(beds).encode())
    else:
        text = to_hpgl(beds)
        faults = run(text).faults
        if faults:
            raise PlotterError(faults[0].words, path.name, "Take a machine with a larger bed, or smaller sheets.")
        write_atomically(path, text.encode())
