"""A score flag stands where the piece is scored, and moves with the measurement that it names, as it says."""

from __future__ import annotations

import pytest

from yawning_lantern.design import set_value
from yawning_lantern.errors import LanternError
from yawning_lantern.pattern import Piece
from yawning_lantern.structures import families, start_design
from yawning_lantern.study import Study

STEP = 0.5  # mm


def scores(piece: Piece, axis: str) -> list[float]:
    """Where scores, edges and marks of a piece run square to an axis, mm from its fence."""
    k = 0 if axis == "x" else 1
    creases = [(c.start, c.end) for c in piece.creases]
    edges = list(zip(piece.outline, (*piece.outline[1:], piece.outline[0]), strict=True))
    return [a[k] for a, b in (*creases, *edges) if abs(a[k] - b[k]) < 1e-6]


def held(kind: str) -> Study:
    """The usual thing with every length as if the maker had typed it, so that one can be moved alone."""
    design = start_design(kind, {})
    root = Study(design).resolved[design.root.id]
    fixed = design
    for p in families()[kind].parameters:
        sized = root.sizes.get(p.id)
        if sized is None or p.derived or p.structural or p.kind != "length" or isinstance(sized.value, str):
            continue
        if not p.id.startswith("content") and p.id != "sheet" and p.least <= sized.length <= p.most:
            fixed = set_value(fixed, design.root.id, p.id, sized.length)
    try:
        return Study(fixed)
    except LanternError:  # as much of it as goes together
        return Study(design)


@pytest.mark.parametrize("kind", sorted(families()))
def test_flags_stand_on_scores_and_move_them(kind: str) -> None:
    study = held(kind)
    name = study.design.root.id
    pieces = study.resolved[name].part.pieces
    moved = 0
    for piece in pieces:
        for k, flag in enumerate(piece.flags):
            assert min((abs(at - flag.at) for at in scores(piece, flag.axis)), default=99.0) < 1e-6, (piece.name, flag)
            now = study.current(name, flag.parameter)
            assert now is not None, (piece.name, flag)
            try:
                after = Study(set_value(study.design, name, flag.parameter, now + STEP))
            except LanternError:
                continue
            then = next(p for p in after.resolved[name].part.pieces if p.id == piece.id).flags[k].at
            assert (then - flag.at) / STEP == pytest.approx(flag.slope, abs=0.02), (piece.name, flag)
            moved += 1
    assert moved or not any(piece.flags for piece in pieces)


def test_of_a_base_that_was_told_square_either_side_is_moved_by_itself() -> None:
    study = Study(start_design("explosion-box", {"base": 100.0, "base-depth": 100.0}))
    flags = study.pieces[0].flags
    assert [f.parameter for f in flags] == ["wall", "base", "wall", "base-depth"]
    assert [f.parameter for f in Study(start_design("explosion-box", {"base": 100.0})).pieces[0].flags][3] == "base"
