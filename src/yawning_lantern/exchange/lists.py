"""Lists on pages: every piece with its scores and what to heed, and every fit in words."""

from __future__ import annotations

from collections.abc import Iterator

from yawning_lantern.exchange.plan import material, readings, score_tool, to_buy
from yawning_lantern.exchange.shapes import FOOT, MARGIN, Label, Stroke
from yawning_lantern.fit import headline, sentence
from yawning_lantern.measure import Units, format_size
from yawning_lantern.study import Study

_SMALL, _TEXT = 2.6, 2.9  # mm: how high small words and others are
_PER_MM = 0.52  # of its size in mm, how wide a letter is on the average
Shapes = list[Stroke | Label]


def wrapped(text: str, width: float, size: float) -> list[str]:
    """A text in lines that are no wider than so many mm in a type of so many mm."""
    most = max(8, int(width / (size * _PER_MM)))
    lines = [""]
    for word in text.split():
        if lines[-1] and len(lines[-1]) + 1 + len(word) > most:
            lines.append(word)
        else:
            lines[-1] = f"{lines[-1]} {word}".strip()
    return [line for line in lines if line]


def _paged(
    title: str, heading: str, blocks: list[list[tuple[str, bool]]], paper: tuple[float, float]
) -> Iterator[tuple[str, Shapes]]:
    """Blocks of lines (text, bold) one below the other, none torn by the end of a page."""
    top, low = paper[1] - MARGIN - 6, MARGIN + FOOT
    shapes: Shapes = [Label((MARGIN, top), heading, 5.0, bold=True)]
    y = top - 4.0
    for block in blocks:
        if y - 4.0 * len(block) - 2.0 < low and len(shapes) > 1:
            yield title, shapes
            shapes, y = [Label((MARGIN, top), heading, 5.0, bold=True)], top - 4.0
        y -= 2.0
        for text, bold in block:
            y -= 4.0
            shapes.append(Label((MARGIN if bold else MARGIN + 4, y), text, _TEXT if bold else _SMALL, bold=bold))
    yield title, shapes


def list_shapes(study: Study, paper: tuple[float, float], units: Units) -> Iterator[tuple[str, Shapes]]:
    """What is cut and what is bought, with scores read from the fence and notes: (title, shapes) for each page."""
    width = paper[0] - 2 * MARGIN - 4
    blocks = []
    for piece in study.pieces:
        how = "ready-made, do not cut" if piece.bought else material(piece)
        lines = [(f"{piece.quantity} × {piece.name}: {format_size(piece.size, units)}", True), (how, False)]
        for heading, text in readings(piece, units, score_tool(study)):
            lines += [(line, False) for line in wrapped(f"{heading.capitalize()}: {text}", width, _SMALL)]
        blocks.append(lines)
    blocks += [[(f"To buy: {line}", True)] for line in to_buy(study, units)]
    yield from _paged(f"{study.design.name}: pieces", f"{study.design.name}: pieces", blocks, paper)


def fit_shapes(study: Study, paper: tuple[float, float], units: Units) -> Iterator[tuple[str, Shapes]]:
    """Every fit in words, and the finished size: (title, shapes) for each page."""
    closed = format_size(tuple(round(x, 1) for x in study.size_at(0.0)), units)
    blocks: list[list[tuple[str, bool]]] = [[(f"Closed: {closed}", False)]]
    width = paper[0] - 2 * MARGIN - 4
    for check in study.checks:
        heads = wrapped(headline(check), width, _TEXT)
        blocks.append([*((line, True) for line in heads), (sentence(check, units), False)])
    yield from _paged(f"{study.design.name}: fits", f"{study.design.name}: will it fit", blocks, paper)
