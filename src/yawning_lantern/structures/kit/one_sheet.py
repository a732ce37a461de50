"""What families share that are one sheet folded flat: from its marks and its script to a piece that stands.

The engine (`flatfold`) tells where each panel lies and in which order; here every layer gets its height from true
thickness, each fold the bulk it goes around, and the script becomes the order in which the piece is folded on screen.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable, Mapping, Sequence
from functools import lru_cache, wraps
from typing import Literal, TypeVar

from msgspec import Struct

from yawning_lantern.assembly import (
    Gap,
    Instance,
    Joint,
    Lever,
    Mount,
    Part,
    Pocket,
    Room,
    Root,
    Span,
    Swing,
    Term,
    box_sides,
    uses,
)
from yawning_lantern.flatfold.folding import carried_out
from yawning_lantern.flatfold.order import heights
from yawning_lantern.flatfold.script import Bring, Glue, Script, Tuck
from yawning_lantern.flatfold.sheet import Sheet
from yawning_lantern.flatfold.state import Folded, Pair, apply, back, turned
from yawning_lantern.kept import LastAnswers
from yawning_lantern.pattern import Fold, Panel, Piece, Point, ScoreFlag, Slit, bounds, build_piece, rectangle
from yawning_lantern.stock import Paper
from yawning_lantern.structures.kit.around import AROUND, DRAWN_OFF
from yawning_lantern.structures.kit.declare import Situation, Sized

SHEET = "sheet"
"""The one instance of such a part."""


class FoldedSheet(Struct, frozen=True):
    """A sheet folded at true thickness. `level` is how high the middle of each facet lies over the lowest's, mm."""

    sheet: Sheet
    state: Folded
    script: Script
    level: tuple[float, ...]
    piece: Piece
    caliper: float

    @property
    def thick(self) -> float:
        """From the underside of the lowest layer to the top of the highest, mm."""
        return max(self.level) + self.caliper

    @property
    def outermost(self) -> float:
        """How far folds stand out beyond their scores, mm: half a sheet and half of what they go around, at most two
        sheets: around more the leaves gape, the fold does not grow."""
        rise = [abs(self.level[h.a] - self.level[h.b]) for k, h in enumerate(self.sheet.hinges) if k in self.state.shut]
        return min(max(rise, default=0.0), 3 * self.caliper) / 2 + self.caliper / 2

    @property
    def lowest(self) -> int:
        """The lowest facet; of several the largest."""
        outlines = [facet.outline for facet in self.sheet.facets]
        return min(range(len(outlines)), key=lambda k: (round(self.level[k], 6), -_extent(outlines[k])))

    @property
    def middle(self) -> Point:
        """The middle of what it covers, as it lies folded, mm."""
        xs, ys = ([p[n] for place in self.state.places for p in place] for n in (0, 1))
        return (min(xs) + max(xs)) / 2, (min(ys) + max(ys)) / 2

    def root(self, up: Point = (0.0, 1.0)) -> Root:
        """How it lies on its host: on its lowest facet, `up` the direction that is up, as it lies folded."""
        k = self.lowest
        home = back(self.state.isos[k])
        at = apply(home, self.middle)
        return Root(self.sheet.facets[k].name, at, _turned(home, up), 1 if turned(self.state.isos[k]) else -1)

    def face(self, facet: str, up: Point = (0.0, 1.0)) -> tuple[Panel, Point]:
        """A panel, and which way is up on it, in the piece, where `up` is up as it lies folded."""
        k = self.sheet.at(facet)
        return self.piece.panel(facet), _turned(back(self.state.isos[k]), up)

    def shows(self, facet: str) -> int:
        """The side of a facet that lies up: +1 its front, −1 its back."""
        return -1 if turned(self.state.isos[self.sheet.at(facet)]) else 1

    def stages(self) -> tuple[tuple[tuple[str, str], ...], ...]:
        """The creases of each fold of the script, in its order, for `Part.folding`."""
        names = {frozenset((c.a, c.b)): c.name for c in self.piece.creases}
        return tuple(
            tuple((SHEET, names[frozenset(pair)]) for pair in step.hinges)
            for step in self.script
            if isinstance(step, Bring | Tuck)
        )

    def glue_joints(self, label: str = "", by_fold: bool = True) -> tuple[Joint, ...]:
        """A joint for every two facets that the script glues; what is glued by one fold is one act."""
        acts = self._acts() if by_fold else [""] * len(self.state.glued)
        names = [facet.name for facet in self.sheet.facets]
        return tuple(
            Joint((SHEET, names[g.a]), (SHEET, names[g.b]), act=act, spots=g.spots, label=label)
            for g, act in zip(self.state.glued, acts, strict=True)
        )

    def _acts(self) -> list[str]:
        """For every glue of the script the fold that closes it: the last one before it."""
        acts, last = [], ""
        for step in self.script:
            if isinstance(step, Glue):
                acts.append(last)
            elif isinstance(step, Bring | Tuck):
                last = f"fold {step.hinges[0][1]}"
        return acts

    def resting(self, parting: Iterable[tuple[str, str]] = ()) -> tuple[Joint, ...]:
        """What only lies on one another: every two facets that touch when shut, stay so and are not glued. `parting`
        are those that part when something opens."""
        told = {(min(g.a, g.b), max(g.a, g.b)) for g in self.state.glued}
        for a, b in parting:
            i, j = self.sheet.at(a), self.sheet.at(b)
            told.add((min(i, j), max(i, j)))
        names = [facet.name for facet in self.sheet.facets]
        return tuple(
            Joint((SHEET, names[i]), (SHEET, names[j]), "free")
            for i, j in self.state.above
            if (i, j) not in told and abs(self.level[i] - self.level[j]) < self.caliper + 0.05
        )


def _extent(outline: Sequence[Point]) -> float:
    xs, ys = [p[0] for p in outline], [p[1] for p in outline]
    return (max(xs) - min(xs)) * (max(ys) - min(ys))


def _turned(iso: tuple[float, float, float, float, float, float], way: Point) -> Point:
    a, b, c, d, _, _ = iso
    return a * way[0] + c * way[1], b * way[0] + d * way[1]


@lru_cache(maxsize=256)
def end_of(sheet: Sheet, script: Script) -> Folded:
    """The state a script ends in: kept, for the same sheet is folded anew whenever another stock or bulk is tried."""
    return carried_out(sheet, script)[-1]


_made = LastAnswers[FoldedSheet](64)


Own = TypeVar("Own")
"""A family that is one sheet folded, or what folds it for one."""


def folded_once(
    make: Callable[[Own, Situation, Mapping[str, Sized]], FoldedSheet],
) -> Callable[[Own, Situation, Mapping[str, Sized]], FoldedSheet]:
    """Of a family's way to fold its sheet: asked again for the same part in the same situation, with the same sizes,
    the very same is given. A study asks for it where it tells sizes, faces and what is needed, and to build."""

    @wraps(make)
    def given(self: Own, s: Situation, sizes: Mapping[str, Sized]) -> FoldedSheet:
        return _made.given(s.element, (self, s, dict(sizes)), lambda: make(self, s, sizes))

    return given


def fold_sheet(
    piece_id: str,
    name: str,
    paper: Paper,
    sheet: Sheet,
    script: Script,
    *,
    glue: float,
    labels: Mapping[str, str] | None = None,
    between: Mapping[tuple[str, str], float] | None = None,
    flags: Iterable[ScoreFlag] = (),
    note: str = "",
    quantity: int = 1,
    double: Callable[[float], float] | None = None,
) -> FoldedSheet:
    """The piece of a sheet folded by a script. `between` holds what lies between two facets, mm; layers that are glued
    stand off by the glue. `double` tells of a fold that goes around so much (mm) how far apart it is scored twice, 0
    for once.

    Raises:
        ParameterError: a step cannot be done, or layers lie over one another in a circle.
    """
    state = end_of(sheet, script)
    bulk: dict[Pair, float] = {}
    for (a, b), thick in (between or {}).items():
        i, j = sheet.at(a), sheet.at(b)
        bulk[min(i, j), max(i, j)] = thick
    for stuck in state.glued:
        pair = (min(stuck.a, stuck.b), max(stuck.a, stuck.b))
        bulk[pair] = max(bulk.get(pair, 0.0), glue)
    level = heights(state, paper.caliper, bulk)
    if level is None:
        raise ValueError(f"{piece_id}: layers in a circle")
    shown = labels or {}
    panels = [Panel(f.name, shown.get(f.name, f.name), f.outline) for f in sheet.facets]
    folds, slits = [], []
    for k, hinge in enumerate(sheet.hinges):
        a, b = sheet.facets[hinge.a].name, sheet.facets[hinge.b].name
        if k not in state.shut:
            folds.append(Fold(a, b, 0.0, scored=False))
            continue
        rise = level[hinge.b] - level[hinge.a]
        valley = rise > 0 if not turned(state.isos[hinge.a]) else rise < 0
        wrap = max(0.0, abs(rise) - paper.caliper)
        apart = double(wrap) if double is not None else 0.0
        folds.append(Fold(a, b, math.pi if valley else -math.pi, wrap=wrap, strip=wrap > 0.0, double=apart))
    joined = {frozenset((h.a, h.b)) for h in sheet.hinges}
    for cut in sheet.cuts:
        i, j = _parted_by(sheet, cut.start, cut.end)
        if frozenset((i, j)) not in joined:
            slits.append(Slit(sheet.facets[i].name, sheet.facets[j].name))
    piece = build_piece(
        piece_id, name, paper, panels, folds, slits=slits, flags=tuple(flags), note=note, quantity=quantity
    )
    return FoldedSheet(sheet, state, script, level, piece, paper.caliper)


def _parted_by(sheet: Sheet, start: Point, end: Point) -> Pair:
    """The two facets on either side of a cut."""
    middle = ((start[0] + end[0]) / 2, (start[1] + end[1]) / 2)
    parted = [k for k, facet in enumerate(sheet.facets) if _on_rim(facet.outline, middle)]
    return parted[0], parted[1]


def _on_rim(outline: Sequence[Point], p: Point) -> bool:
    for k, (x0, y0) in enumerate(outline):
        x1, y1 = outline[(k + 1) % len(outline)]
        length = math.hypot(x1 - x0, y1 - y0)
        off = ((x1 - x0) * (p[1] - y0) - (y1 - y0) * (p[0] - x0)) / length
        along = ((x1 - x0) * (p[0] - x0) + (y1 - y0) * (p[1] - y0)) / length
        if abs(off) < 1e-4 and -1e-4 < along < length + 1e-4:
            return True
    return False


def page_room(
    width: float, height: float, caliper: float, element: str, levers: tuple[tuple[str, float], tuple[str, float]]
) -> Room:
    """The room on a page, mm. `levers` are (parameter, how much of it a page's side is)."""
    spans = []
    for size, (parameter, share) in zip((width, height), levers, strict=True):
        spans.append(Span((Term("half a page", size / 2, Lever(element, parameter, share / 2)),)))
    across, along = spans
    return Room("onto", uses.MAT, box_sides((across, along, across, along)), (width, height), caliper)


def page_mount(
    made: FoldedSheet, mount: str, label: str, facet: str, side: int, up: Point,
    shape: tuple[float, float, float, float] | None = None, over: tuple[tuple[str, str], ...] = (),
) -> Mount:  # fmt: skip
    """A face of a panel as a place for guests, `up` as it lies folded, however the panel is turned in the sheet.
    `shape` (x0, y0, x1, y1, mm, in the sheet) where not all of it is free."""
    panel, (ux, uy) = made.face(facet, up)
    rx, ry = (uy, -ux) if side > 0 else (-uy, ux)  # to the right of up, seen from that face
    points = panel.outline if shape is None else rectangle(*shape)
    along = [(x * rx + y * ry, x * ux + y * uy) for x, y in points]
    x0, y0, x1, y1 = bounds(along)
    u, v = (x0 + x1) / 2, (y0 + y1) / 2
    outline = rectangle((x0 - x1) / 2, (y0 - y1) / 2, (x1 - x0) / 2, (y1 - y0) / 2)
    middle = (u * rx + v * ux, u * ry + v * uy)
    way: Literal[-1, 1] = 1 if side > 0 else -1
    return Mount(mount, label, SHEET, facet, way, middle, (ux, uy), outline, made.caliper / 2, over=over)


def around_sheet(made: FoldedSheet, facet: str, up: Point, size: tuple[float, float], bulk: float) -> Mount:
    """Where a band lies around a folded sheet: over the middle of its upper side, on a facet there and as high as the
    highest, `bulk` mm of what stands above that between; drawn off along `up`. `size` of the shut thing, mm."""
    k = made.sheet.at(facet)
    off = max(made.level) - made.level[k] + bulk
    side: Literal[-1, 1] = 1 if made.shows(facet) > 0 else -1
    _, way = made.face(facet, up)
    w, h = size
    outline = rectangle(-w / 2, -h / 2, w / 2, h / 2)
    origin = apply(back(made.state.isos[k]), made.middle)
    return Mount(
        AROUND, "around it, shut", SHEET, facet, side, origin, way, outline, made.caliper / 2 + off, True, 0.0,
        (0.0, DRAWN_OFF * h),
    )  # fmt: skip


def sheet_part(
    s: Situation, made: FoldedSheet, up: Point, *, mounts: Sequence[Mount], swings: Sequence[Swing] = (),
    gaps: Sequence[Gap] = (), pockets: Sequence[Pocket] = (), joints: Sequence[Joint] = (), label: str = "",
    by_fold: bool = True,
) -> Part:  # fmt: skip
    """The part of a folded sheet: on its lowest panel, glued as its script says, folded in its order. `by_fold`: what
    is glued is closed by the fold before it; else each glued pair is pressed by itself."""
    return Part(
        s.element, s.name, (made.piece,), (Instance(SHEET, made.piece.id, made.root(up)),), tuple(mounts),
        tuple(swings), tuple(gaps), tuple(pockets),
        joints=(*made.glue_joints(label, by_fold), *joints), folding=made.stages(),
    )  # fmt: skip
