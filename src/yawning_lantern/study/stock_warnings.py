"""What a design asks of its stock that it does not give: paper too thin to stand, bare where it shows, folded across
its grain, turned on its head; glue refused, tape wider than the tab, board that takes no score."""

from __future__ import annotations

import math

from msgspec.structs import replace

from yawning_lantern.design import Lay, set_lay
from yawning_lantern.fold import corners
from yawning_lantern.measure import told
from yawning_lantern.pattern import Crease, Piece
from yawning_lantern.pattern.convex import least_width
from yawning_lantern.stock import Adhesive
from yawning_lantern.structures.making import CREASED, PLEATED
from yawning_lantern.study.study import Study
from yawning_lantern.study.upright import pattern_warnings
from yawning_lantern.study.wanted import HEAVY, folds_along, lying
from yawning_lantern.study.warning import Cure, StockWarning

SLENDER = 600.0
"""A wall higher than so many calipers does not stand by itself. From memory: 80 g/m² stands 6 cm, 216 g/m² 16 cm."""
_STANDS = 0.3  # of its normal, upright: what leans less stands
_SMALL = 100.0  # mm²: of a smaller panel nobody sees that it is bare


def stock_warnings(study: Study) -> tuple[StockWarning, ...]:
    """Every warning, in the order of the nest. Some ten milliseconds for each part of one-sided or directed paper."""
    warnings: list[StockWarning] = []
    glue = study.catalogue.adhesive(study.design.adhesive)
    for element, r in study.resolved.items():
        cut = [piece for piece in r.part.pieces if not piece.bought]
        for piece in {piece.stock.id: piece for piece in cut}.values():
            warnings += _refused(study, element, piece, glue)
        warnings += _too_thin(study, element)
        warnings += _unscored(study, element, cut)
        warnings += _across_grain(study, element, cut)
        warnings += _wide_tape(study, element, cut, glue)
        warnings += _springs(study, element)
        warnings += _too_long(study, element, cut)
        if any(not piece.stock.two_sided and piece.stock.kind == "paper" for piece in cut):
            warnings += _bare(study, element)
        warnings += pattern_warnings(study, element)
    return tuple(warnings)


def _refused(study: Study, element: str, piece: Piece, glue: Adhesive) -> list[StockWarning]:
    """Film and coated paper under wet glue."""
    paper, name = piece.stock, study.resolved[element].final.name
    if not glue.is_wet or not (paper.kind == "film" or paper.coated):
        return []
    glued = [joint for joint in study.resolved[element].part.joints if joint.bond == "glue"]
    if glued and all(joint.by for joint in glued):
        return []  # it is held by something else
    why = "refuses" if paper.kind == "film" else "is coated: it takes long to hold and may stain with"
    tapes = [a for a in study.catalogue.adhesives if not a.is_wet and a.thickness < 0.2]
    return [StockWarning(
        "glue", element, f"{name}: {paper.name} {why} {glue.name.lower()}.",
        "Join it with double-sided tape or glue dots; the label of the glue has the last word.",
        cures=tuple(Cure(f"Use {a.name.lower()}", replace(study.design, adhesive=a.id)) for a in tapes[:1]),
    )]  # fmt: skip


def _unscored(study: Study, element: str, cut: list[Piece]) -> list[StockWarning]:
    """Board that is to be folded and is too thick for it."""
    bad = [piece for piece in cut if piece.stock.kind == "board" and any(_too_stiff(piece, c) for c in piece.creases)]
    if not bad:
        return []
    what = f"{bad[0].name}: {bad[0].stock.name} cannot be scored and folded {len(bad[0].creases)} times."
    remedy = "Cut it apart and hinge it with paper or tape, or take cardstock."
    return [StockWarning("board", element, what, remedy)]


def _too_stiff(piece: Piece, crease: Crease) -> bool:
    """Whether a fold is more than its board takes: a right angle up to 1.6 mm, a flat fold up to 1 mm."""
    flat = abs(crease.angle) > 0.75 * math.pi
    return piece.stock.caliper >= (PLEATED if flat else CREASED)


def _across_grain(study: Study, element: str, cut: list[Piece]) -> list[StockWarning]:
    """Heavy or coated stock with more folds across its grain than along it, as it lies on its sheet."""
    warnings = []
    for piece in {piece.name: piece for piece in cut}.values():
        paper = piece.stock
        if paper.grain_up is None or not ((paper.grammage or 0.0) >= HEAVY or paper.coated):
            continue
        along, across = folds_along(piece)
        if across > along + 1e-6:
            warnings.append(StockWarning(
                "grain", element,
                f"{piece.name}: {told(across)} of its folds run across the grain of {paper.name}, "
                f"{told(along)} along it.",
                "Turn it on its sheet where its pattern lets you, or score twice and fold with the ridge inside: "
                "across the grain heavy and coated stock cracks.",
            ))  # fmt: skip
    return warnings


def _wide_tape(study: Study, element: str, cut: list[Piece], glue: Adhesive) -> list[StockWarning]:
    """Tape that is wider than the narrowest tab it must hold."""
    if glue.width is None:
        return []
    worst: tuple[float, str] | None = None
    for piece in study.pieces:
        if piece.id in {one.id for one in cut}:
            for outline in study.glued[piece.id]:
                wide = least_width(outline)
                if wide < glue.width - 1e-6 and (worst is None or wide < worst[0]):
                    worst = wide, piece.name
    if worst is None:
        return []
    narrower = [a for a in study.catalogue.adhesives if a.width is not None and a.width <= worst[0]]
    best = max(narrower, key=lambda a: a.width or 0.0, default=None)
    what = f"{worst[1]}: {glue.name} is {told(glue.width)} wide, its narrowest tab {told(worst[0])}."
    remedy = f"Take {best.name.lower()}." if best else "Slit the tape along, or take wet glue there."
    cures = (Cure(f"Use {best.name.lower()}", replace(study.design, adhesive=best.id)),) if best else ()
    return [StockWarning("tape", element, what, remedy, cures=cures)]


def _springs(study: Study, element: str) -> list[StockWarning]:
    """What springs back more than what holds it down."""
    r = study.resolved[element]
    strain = r.part.strain
    if strain is None or strain.springs <= strain.holds:
        return []
    forces = f"some {_round(strain.springs)} N; what holds it gives {_round(strain.holds)} N"
    what = f"{r.final.name}: it springs back with {forces}."
    return [StockWarning("spring", element, what, strain.remedy)]


def _round(force: float) -> str:
    """One figure: more is not known."""
    digits = -math.floor(math.log10(max(force, 1e-3)))
    return f"{round(force, digits):g}"


def _too_thin(study: Study, element: str) -> list[StockWarning]:
    """The highest standing panel of a part against what its paper can hold up."""
    worst: tuple[float, float, str] | None = None
    r = study.resolved[element]
    name = r.final.name
    if r.host and len(r.part.instances) == 1 and len(r.part.pieces[0].panels) == 1:
        return []  # it is glued on what stands
    for node, frame in zip(study.assembly.nodes, study.shut_frames, strict=True):
        if node.element != element or node.shape is not None or node.panel.soft or abs(frame[8]) > _STANDS:
            continue
        heights = [z for _, _, z in corners(node, frame)]
        high, most = max(heights) - min(heights), SLENDER * node.piece.stock.caliper
        if high > most + 1e-6 and (worst is None or high > worst[0]):
            worst = high, most, node.piece.stock.name
    if worst is None:
        return []
    high, most, paper = worst
    return [StockWarning(
        "thin", element, f"{name}: its walls are {told(high)} high, and {paper} stands {told(most)} at the most.",
        "Take heavier stock, lower walls, or mats on both sides.",
    )]  # fmt: skip


def _too_long(study: Study, element: str, cut: list[Piece]) -> list[StockWarning]:
    """Pieces that fit their sheet only across the way their pattern or the grain asks: strips cut the wrong way."""
    warnings = []
    for piece in {one.name: one for one in cut}.values():
        may_turn, turned = lying(piece)
        sheet, (w, h) = piece.stock.sheet, piece.size
        usable = sheet.usable_width + 1e-6, sheet.usable_height + 1e-6
        lies, other = ((h, w), (w, h)) if turned else ((w, h), (h, w))
        if may_turn or all(a <= b for a, b in zip(lies, usable, strict=True)):
            continue
        if not all(a <= b for a, b in zip(other, usable, strict=True)):
            continue  # it fits no way: the fits tell
        lengths = max(math.ceil(a / b) for a, b in zip(lies, usable, strict=True))
        why = "its pattern" if piece.stock.has_direction else "the grain"
        key, element_ = piece.id.removeprefix(f"{element}."), study.resolved[element].element
        lay = element_.lays.get(key, Lay())
        turn = set_lay(study.design, element, key, Lay((lay.turn + 1) % 4, lay.over))
        warnings.append(StockWarning(
            "across", element,
            f"{piece.name}: as {why} asks it lies across the sheet of {piece.stock.name}: it takes {lengths} lengths, "
            f"joined {'once' if lengths == 2 else f'{lengths - 1} times'}.",
            "Turn it on its sheet where the pattern may run along it, or take a larger sheet or a plain paper.",
            cures=(Cure(f"Turn {piece.name} by a quarter on its sheet", turn),) if piece.stock.has_direction else (),
        ))  # fmt: skip
    return warnings


def _bare(study: Study, element: str) -> list[StockWarning]:
    """Panels of one-sided paper whose bare back can be seen."""
    name = study.resolved[element].final.name
    bare = []
    for seen in study.seen(element):
        node = study.assembly.nodes[seen.node]
        x, y = zip(*node.panel.outline, strict=True)
        large = (max(x) - min(x)) * (max(y) - min(y)) > _SMALL
        if not node.piece.stock.two_sided and seen.back != "never" and large and node.panel.label not in bare:
            bare.append(node.panel.label)
    if not bare:
        return []
    which = ", ".join(bare[:3]) + (" and more" if len(bare) > 3 else "")
    what = f"{name}: the bare back of its paper shows ({which})."
    return [
        StockWarning("one-sided", element, what, "Take a two-sided paper, or put a mat on what shows.", tuple(bare))
    ]
