"""The rest fitted again round a line that lies elsewhere than planned.

How every line of every piece moves with every measure is told by differences, one study each. Wanted are few measures
whose change puts the wrong line where it is and leaves all that is made as it is; blanks that are cut may be trimmed,
not made larger. What is found is worked out anew as a whole and only taken where the lines come out so and nothing
clashes that did not before.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping, Sequence
from itertools import combinations

from msgspec import Struct

from yawning_lantern.arrays import Floats, np
from yawning_lantern.design import Design, set_value
from yawning_lantern.errors import LanternError
from yawning_lantern.structures import parameter
from yawning_lantern.study.amiss import Amiss, Made, all_lines
from yawning_lantern.study.study import Study

STEP = 0.4
"""What a measure is changed by to see what follows, mm."""
TRUE = 0.06
"""How near a line must come out, mm: a fold is not truer."""
MOST = 3
"""So many measures are changed at most."""
TRIM = 0.05  # mm: a blank that grew by less is not trimmed again
Line = tuple[str, str]
Lever = tuple[str, str]
"""An element and one of its measures."""


class Change(Struct, frozen=True):
    """A measure that becomes another: of which element, its label, before and after, mm."""

    element: str
    parameter: str
    label: str
    before: float
    after: float


class Refit(Struct, frozen=True):
    """A design that has the wrong line where it is: what changes, the pieces that are cut otherwise than planned, those
    that are trimmed, and how much is cut off the wrong piece at the fence, mm."""

    design: Design
    study: Study
    changes: tuple[Change, ...]
    other: tuple[str, ...]
    trimmed: tuple[str, ...]
    cut: float = 0.0


def levers_near(study: Study, element: str) -> tuple[Lever, ...]:
    """The lengths that may be changed: of the part itself, what it stands on and what stands on it."""
    near = {element, study.resolved[element].host}
    near |= {e for e, r in study.resolved.items() if r.host == element}
    levers = []
    for one in study.resolved:
        if one not in near:
            continue
        r = study.resolved[one]
        for name, sized in r.sizes.items():
            told = parameter(r.family, name) if any(p.id == name for p in r.family.parameters) else None
            if told is None or told.kind != "length" or told.derived or told.fact or isinstance(sized.value, str):
                continue
            levers.append((one, name))
    return tuple(levers)


class Moves:
    """How lines move with measures, by differences; kept for one study."""

    def __init__(self, study: Study) -> None:
        self.study = study
        self.lines = all_lines(study)
        self._known: dict[Lever, Mapping[Line, float] | None] = {}

    def of(self, lever: Lever) -> Mapping[Line, float] | None:
        """What each line moves by for a millimetre of a measure; None where the design then is another or cannot be."""
        if lever not in self._known:
            self._known[lever] = self._ask(lever)
        return self._known[lever]

    def _ask(self, lever: Lever) -> Mapping[Line, float] | None:
        element, name = lever
        value = self.study.resolved[element].sizes[name].length
        try:
            trial = Study(set_value(self.study.design, element, name, value + STEP), self.study.catalogue)
            now = all_lines(trial)
        except LanternError:
            return None
        if now.keys() != self.lines.keys():
            return None
        moved = {line: (now[line] - self.lines[line]) / STEP for line in now}
        return {line: by for line, by in moved.items() if abs(by) > 1e-3}


def refit(
    study: Study, wrong: Amiss, made: Made, told: Callable[[int, int], object] = lambda done, of: None,
    moves: Moves | None = None,
) -> Refit | None:  # fmt: skip
    """The rest fitted again round a wrong score or cut, or None where no few measures do it."""
    moves = moves or Moves(study)
    element = wrong.piece.split(".")[0]
    levers = levers_near(study, element)
    target = wrong.piece, wrong.line
    asked: dict[Lever, Mapping[Line, float]] = {}
    for k, lever in enumerate(levers):
        told(k, len(levers))
        by = moves.of(lever)
        if by:
            asked[lever] = by
    ask = _ask(moves, target, wrong.measured - moves.lines[target], made)
    for count in range(1, MOST + 1):
        for chosen in _sets(asked, target, count):
            for trim in (False, True) if wrong.kind == "score" else (False,):
                solved = _solved(study, moves, asked, chosen, ask, trim)
                if solved is not None:
                    return solved
    return None


def _sets(asked: Mapping[Lever, Mapping[Line, float]], target: Line, count: int) -> Iterable[tuple[Lever, ...]]:
    """Sets of measures of which one moves the wrong line."""
    first = [lever for lever, by in asked.items() if target in by]
    others = list(asked)
    for one in first:
        rest = [lever for lever in others if lever != one and set(asked[lever]) & set(asked[one])]
        for more in combinations(rest[:24], count - 1):
            yield (one, *more)


class _Ask(Struct, frozen=True):
    """What is asked of one solution: what lines must move by, and which blanks cannot grow."""

    target: Line
    rows: Mapping[Line, float]
    blanks: frozenset[Line]


def _ask(moves: Moves, target: Line, off: float, made: Made) -> _Ask:
    """The wrong line to where it is; those that are scored stay; blanks that are cut do not grow."""
    rows = {target: off}
    for piece, name in moves.lines:
        if (piece, name) != target and name in made.lines(piece):
            rows[piece, name] = 0.0
    blanks = frozenset(line for line in moves.lines if line[1] in "wh" and line[0] in made.cut and line != target)
    return _Ask(target, rows, blanks)


def _trimmed(line: Line, target: Line) -> bool:
    """Whether a line moves with the wrong one where its piece is trimmed at the fence."""
    return line[0] == target[0] and line[1][0] == target[1][0] and line[1] not in ("w", "h")


def _solved(
    study: Study, moves: Moves, asked: Mapping[Lever, Mapping[Line, float]], chosen: Sequence[Lever], ask: _Ask,
    trim: bool,
) -> Refit | None:  # fmt: skip
    """Measures that do it, the piece trimmed at the fence or not; where blanks would grow, with those held."""
    touched = {line for lever in chosen for line in asked[lever]}
    for held in (False, True):
        wanted = dict(ask.rows)
        if held:
            wanted |= {line: 0.0 for line in ask.blanks if line in touched}
        used = [line for line in wanted if line in touched or _trimmed(line, ask.target)]
        columns = [[asked[lever].get(line, 0.0) for line in used] for lever in chosen]
        if trim:
            columns.append([float(_trimmed(line, ask.target) or line == _side(ask.target)) for line in used])
        matrix: Floats = np.array(columns).T
        rows: Floats = np.array([wanted[line] for line in used])
        x = np.linalg.lstsq(matrix, rows, rcond=None)[0]
        if np.abs(matrix @ x - rows).max() > TRUE or np.abs(x).max() > 60.0:
            continue
        cut = float(x[-1]) if trim else 0.0
        if trim and cut < TRUE:
            continue
        by = [float(one) for one in x[: len(chosen)]]
        found = _verified(study, moves, chosen, by, ask, cut)
        if found is not None:
            return found
    return None


def _side(target: Line) -> Line:
    """The side of its piece that a line is measured along."""
    return target[0], "w" if target[1][0] in "xw" else "h"


def _verified(
    study: Study, moves: Moves, chosen: Sequence[Lever], x: Sequence[float], ask: _Ask, cut: float
) -> Refit | None:
    """The design changed so, if it comes out as it must and nothing clashes that did not."""
    design, changes = study.design, []
    for (element, name), by in zip(chosen, x, strict=True):
        if abs(by) < 1e-3:
            continue
        before = study.resolved[element].sizes[name].length
        design = set_value(design, element, name, before + by)
        label = parameter(study.resolved[element].family, name).label
        changes.append(Change(element, name, label, before, before + by))
    try:
        now = Study(design, study.catalogue)
        lines = all_lines(now)
    except LanternError:
        return None
    if lines.keys() != moves.lines.keys():
        return None
    moved = {line: at - moves.lines[line] + (cut if _trimmed(line, ask.target) else 0.0) for line, at in lines.items()}
    grown = [line for line in ask.blanks if moved[line] + (cut if line == _side(ask.target) else 0.0) > TRIM]
    if grown or any(abs(moved[line] - by) > TRUE for line, by in ask.rows.items()):
        return None
    if sum(check.is_clash for check in now.checks) > sum(check.is_clash for check in study.checks):
        return None
    names = {piece.id: piece.name for piece in study.pieces}
    other = {piece for (piece, _), by in moved.items() if abs(by) > TRUE and piece != ask.target[0]}
    trimmed = {line[0] for line in ask.blanks if moved[line] < -TRUE} | ({ask.target[0]} if cut > TRUE else set())
    told = tuple(sorted(names[piece] for piece in other)), tuple(sorted(names[piece] for piece in trimmed))
    return Refit(design, now, tuple(changes), *told, cut)
