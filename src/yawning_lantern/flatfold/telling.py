"""A sheet of one's own and its script as text, and read back: what stands in a design file and on the command line.

A script is one act after another, parted by semicolons:

- `over c1r1/c2r1`: what hangs beyond the score between the two, on the second one's side, is folded over all;
  `under c1r1/c2r1 c1r2/c2r2`: two scores on one line at once, under all;
- `tuck c1r1/c2r1 over c3r1 under c4r1`: between layers;
- `turn`: the whole is turned over, left to right;
- `glue c1r1/c2r1 left foot`: a strip along these edges of what they share; without edges all of it.

Slits and stretches without a score are told by the cells on either side, `c1r1/c2r1`; slants by kind and two marks in
columns and rows from the lower left, `score 0,1 1,0; slit 1,0 2,1.5`.
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Sequence
from itertools import accumulate

from yawning_lantern.errors import ParameterError
from yawning_lantern.flatfold.script import Bring, Edge, Glue, Hinges, Script, Step, Tuck, Turn
from yawning_lantern.flatfold.sheet import Sheet, Slant, cell_name, grid
from yawning_lantern.measure import MM_PER_INCH
from yawning_lantern.pattern import Point
from yawning_lantern.words import in_a_row

_CELL = re.compile(r"^c(\d{1,2})r(\d{1,2})$")
_PANEL = re.compile(r"^c\d{1,2}r\d{1,2}[ab]*$")
EDGES: tuple[Edge, ...] = ("left", "right", "foot", "head")
_HOW = "Acts are over, under, tuck, turn and glue, parted by semicolons."


def parse_script(text: str, strip: float) -> Script:
    """The acts of a script; glue along edges is `strip` wide, mm. Raises ParameterError for what is none."""
    return tuple(_act(line, strip) for line in re.split(r"[;\n]", text) if line.strip())


def _act(line: str, strip: float) -> Step:
    act, *words = line.replace(",", " ").split()
    if act == "turn" and not words:
        return Turn()
    if act in ("over", "under") and words:
        return Bring(_pairs(words), "over" if act == "over" else "under")
    if act == "tuck" and words:
        first = next((k for k, word in enumerate(words) if word in ("over", "under")), len(words))
        layers: dict[str, list[str]] = {"over": [], "under": []}
        side = "over"
        for word in words[first:]:
            if word in layers:
                side = word
            else:
                layers[side].append(_panel(word))
        return Tuck(_pairs(words[:first]), tuple(layers["over"]), tuple(layers["under"]))
    if act == "glue" and words:
        score, *edges = words
        ((a, b),) = _pairs([score])
        for word in edges:
            if word not in EDGES:
                raise ParameterError(f"“{word}” is no edge.", "Script", f"Edges are {', '.join(EDGES)}.")
        return Glue(a, b, tuple(edge for edge in EDGES if edge in edges), strip if edges else 0.0)
    raise ParameterError(f"“{line.strip()}” is no act.", "Script", _HOW)


def _panel(word: str) -> str:
    if not _PANEL.match(word):
        raise ParameterError(f"“{word}” is no panel.", "Script", "Panels are told as c1r1: first column, first row.")
    return word


def _pairs(words: Sequence[str]) -> Hinges:
    pairs = []
    for word in words:
        a, slash, b = word.partition("/")
        if not slash:
            raise ParameterError(f"“{word}” is no score.", "Script", "A score is told by its two panels: c1r1/c2r1.")
        pairs.append((_panel(a), _panel(b)))
    if not pairs:
        raise ParameterError("A fold without a score is none.", "Script", _HOW)
    return tuple(pairs)


def script_text(script: Iterable[Step]) -> str:
    """A script as `parse_script` reads it."""
    return "; ".join(step_text(step) for step in script)


def step_text(step: Step) -> str:
    """One act as `parse_script` reads it."""
    if isinstance(step, Turn):
        return "turn"
    if isinstance(step, Glue):
        return " ".join((f"glue {step.a}/{step.b}", *step.edges))
    told = " ".join(f"{a}/{b}" for a, b in step.hinges)
    if isinstance(step, Bring):
        return f"{step.way} {told}"
    over = " over " + " ".join(step.over) if step.over else ""
    under = " under " + " ".join(step.under) if step.under else ""
    return f"tuck {told}{over}{under}"


def step_words(step: Step) -> str:
    """One act in words."""
    if isinstance(step, Turn):
        return "Turn it over"
    if isinstance(step, Glue):
        where = f" along {in_a_row(step.edges)}" if step.edges else " all over"
        return f"Glue {step.a} to {step.b}{where}"
    moves = in_a_row(b for _, b in step.hinges)
    onto = in_a_row(a for a, _ in step.hinges)
    if isinstance(step, Bring):
        return f"Fold {moves} {step.way} {onto}"
    over = f" over {in_a_row(step.over)}" if step.over else ""
    under = f" under {in_a_row(step.under)}" if step.under else ""
    return f"Tuck {moves}{over}{',' if over and under else ''}{under}"


def parse_cells(text: str) -> tuple[str, ...]:
    """Cells by name. Raises ParameterError for what is none."""
    cells = text.replace(",", " ").split()
    for word in cells:
        if not _CELL.match(word):
            raise ParameterError(f"“{word}” is no cell.", "Cells", "Cells are told as c1r1: first column, first row.")
    return tuple(cells)


def parse_segments(text: str) -> tuple[tuple[str, str], ...]:
    """Stretches by the cells on either side. Raises ParameterError where two do not lie side by side."""
    segments = []
    for word in text.replace(",", " ").split():
        a, _, b = word.partition("/")
        one, two = _CELL.match(a), _CELL.match(b)
        if one is None or two is None:
            raise ParameterError(f"“{word}” is no stretch.", "Slits", "Tell it by its two cells: c1r1/c2r1.")
        if abs(int(one[1]) - int(two[1])) + abs(int(one[2]) - int(two[2])) != 1:
            raise ParameterError(f"{a} and {b} do not lie side by side.", "Slits", "Name two neighbours.")
        segments.append((a, b) if (int(one[1]), int(one[2])) < (int(two[1]), int(two[2])) else (b, a))
    return tuple(segments)


def parse_slants(text: str, columns: Sequence[float], rows: Sequence[float]) -> tuple[Slant, ...]:
    """Slants from mark to mark on a grid of these widths, mm. Raises ParameterError for marks that are none."""
    slants = []
    for line in re.split(r"[;\n]", text):
        words = line.split()
        if not words:
            continue
        try:
            kind, one, two = words
            marks = [tuple(float(n) for n in mark.split(",")) for mark in (one, two)]
            if kind not in ("score", "slit") or any(len(mark) != 2 for mark in marks):
                raise ValueError(kind)
        except ValueError:
            raise ParameterError(
                f"“{line.strip()}” is no slant.", "Slants",
                "Tell kind and two marks, in columns and rows from the lower left: score 0,1 1,0.",
            ) from None  # fmt: skip
        start, end = (at_mark((mark[0], mark[1]), columns, rows) for mark in marks)
        slants.append(Slant(start, end, "score" if kind == "score" else "slit"))
    return tuple(slants)


def at_mark(mark: Point, columns: Sequence[float], rows: Sequence[float]) -> Point:
    """Where a mark is, mm: 1.5 is the middle of the second column. Raises ParameterError beyond the sheet."""
    points = []
    for along, widths in zip(mark, (columns, rows), strict=True):
        if not 0 <= along <= len(widths):
            raise ParameterError(f"The mark {along:g} lies beyond the sheet.", "Slants", "End it on the sheet.")
        lines = (0.0, *accumulate(widths))
        k = min(int(along), len(widths) - 1)
        points.append(lines[k] + (along - k) * widths[k])
    return points[0], points[1]


def parse_grid(text: str, unit: float = MM_PER_INCH) -> tuple[tuple[float, ...], tuple[float, ...]]:
    """Columns and rows as people say them, `3 3 3 3 by 3 1/2 3`, in mm; `unit` is what one stands for. A fraction goes
    with the whole number before it. Raises ParameterError for what is none."""
    across, by, up = text.replace("×", " by ").replace("+", " ").partition(" by ")
    sides = [_numbers(side, unit) for side in (across, up)]
    if not by or not all(sides):
        raise ParameterError(f"“{text}” is no grid.", "Grid", "Say columns by rows, such as 3 3 3 3 by 4 4.")
    return sides[0], sides[1]


def _numbers(text: str, unit: float) -> tuple[float, ...]:
    numbers: list[float] = []
    whole = False  # whether the last was a whole number, that a fraction may follow
    for word in text.replace(",", " ").split():
        top, slash, below = word.partition("/")
        try:
            value = float(top) / float(below) if slash else float(word)
        except (ValueError, ZeroDivisionError):
            raise ParameterError(f"“{word}” is no width.", "Grid", "Say numbers, such as 3 3 1/2 3.") from None
        if slash and whole and value < 1:
            numbers[-1] += value
            whole = False
        else:
            numbers.append(value)
            whole = not slash and "." not in word
    return tuple(value * unit for value in numbers)


def own_sheet(
    columns: Sequence[float], rows: Sequence[float], slits: str = "", blank: str = "", gone: str = "", slants: str = ""
) -> Sheet:
    """A sheet from what is told about it; widths in mm. Raises ParameterError for what cannot be."""
    return grid(
        columns, rows, slits=[_between(pair, columns, rows) for pair in parse_segments(slits)],
        blank=[_between(pair, columns, rows) for pair in parse_segments(blank)], gone=parse_cells(gone),
        slants=parse_slants(slants, columns, rows),
    )  # fmt: skip


def _between(pair: tuple[str, str], columns: Sequence[float], rows: Sequence[float]) -> tuple[Point, Point]:
    """The line between two neighbouring cells, mm."""
    xs, ys = (0.0, *accumulate(columns)), (0.0, *accumulate(rows))
    (c0, r0), (c1, r1) = (tuple(int(n) for n in cell[1:].split("r")) for cell in pair)
    if max(c0, c1) > len(columns) or max(r0, r1) > len(rows):
        raise ParameterError(
            f"The sheet has no {pair[1]}.", "Slits", f"It has {len(columns)} columns and {len(rows)} rows."
        )
    if r0 == r1:
        return (xs[c0], ys[r0 - 1]), (xs[c0], ys[r0])
    return (xs[c0 - 1], ys[r0]), (xs[c0], ys[r0])


def segments_of(columns: int, rows: int) -> tuple[tuple[str, str], ...]:
    """Every stretch of a grid's lines inside the sheet, by its two cells."""
    segments = [(cell_name(c, r), cell_name(c + 1, r)) for r in range(1, rows + 1) for c in range(1, columns)]
    segments += [(cell_name(c, r), cell_name(c, r + 1)) for r in range(1, rows) for c in range(1, columns + 1)]
    return tuple(segments)
