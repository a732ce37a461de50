"""Patterns that end up on their head or on their side once the thing is folded, and what would turn them.

A pattern's up side is known in the piece (`Motif.turn`, `Piece.way`); which way is up on a panel is worked out from the
poses (`fold.seen`). The two are compared in the piece: what folds do to a panel they do to both.
"""

from __future__ import annotations

import math
from collections.abc import Iterable

from msgspec import Struct

from yawning_lantern.assembly import sits_on
from yawning_lantern.design import Lay, Place, add_guest, set_lay, set_stock
from yawning_lantern.fold import PanelSeen
from yawning_lantern.pattern import Piece, area
from yawning_lantern.stock import Motif, Paper
from yawning_lantern.structures import family, new_guest
from yawning_lantern.study.study import Study
from yawning_lantern.study.warning import Cure, StockWarning

SMALL = 100.0
"""mm²: on a smaller panel nobody minds."""
_QUARTERS = ("", "a quarter to the right", "half a turn", "a quarter to the left")


class Face(Struct, frozen=True):
    """A face of a panel that shows: its node, its side (1 front, −1 back), and its name in words."""

    node: int
    side: int
    words: str
    up: tuple[float, float]


def quarters_off(up: tuple[float, float], way: int, motif: Motif, side: int) -> int:
    """How many quarter turns a pattern's up side is off up on a panel.

    `up` is a unit vector in the piece seen from its front, `way` the piece's. What is printed on the back turns the
    other way, since it is seen from the other side.
    """
    angle = math.pi / 2 * (1 + way + motif.turn * side)
    off = angle - math.atan2(up[1], up[0])
    return round(off / (math.pi / 2)) % 4


def shown_faces(study: Study, element: str) -> tuple[Face, ...]:
    """The faces of an element's panels that show at some time, small ones left out. Some ten milliseconds."""
    faces = []
    copies: dict[str, set[str]] = {}
    for node in study.assembly.nodes:
        if node.element == element:
            copies.setdefault(node.piece.id, set()).add(node.instance)
    for seen in study.seen(element):
        node = study.assembly.nodes[seen.node]
        if area(node.panel.outline) < SMALL or node.panel.soft:
            continue
        which = node.instance.replace("-", " ") if len(copies[node.piece.id]) > 1 else ""
        label = node.panel.label or node.piece.name
        words = label if not which or which == label else f"{which}, {label}"
        for side in _sides_shown(seen):
            faces.append(Face(seen.node, side, words, seen.up))
    return tuple(faces)


def _sides_shown(seen: PanelSeen) -> Iterable[int]:
    if seen.front != "never":
        yield 1
    if seen.back != "never":
        yield -1


def _motif(paper: Paper, side: int) -> Motif | None:
    return paper.front_motif if side > 0 else paper.back_motif


def _stands(paper: Paper, way: int, face: Face) -> str:
    """How the pattern stands on a face: upright where there is none."""
    motif = _motif(paper, face.side)
    return "upright" if motif is None else motif.stands(quarters_off(face.up, way, motif, face.side))


def pattern_warnings(study: Study, element: str) -> tuple[StockWarning, ...]:
    """What stands on its head or on its side on an element's panels: one warning for a piece and each of the two."""
    if not any(piece.stock.has_direction for piece in study.resolved[element].part.pieces):
        return ()
    by_piece: dict[str, list[Face]] = {}
    for face in shown_faces(study, element):
        by_piece.setdefault(study.assembly.nodes[face.node].piece.id, []).append(face)
    warnings = []
    for piece in study.resolved[element].part.pieces:
        faces = by_piece.get(piece.id, [])
        wrong: dict[str, list[Face]] = {}
        for face in faces:
            wrong.setdefault(_stands(piece.stock, piece.way, face), []).append(face)
        for code, words in (("upside down", "stands on its head"), ("sideways", "lies on its side")):
            if code in wrong:
                warnings.append(_warning(study, element, piece, faces, code, words, wrong[code]))
    return tuple(warnings)


def _warning(
    study: Study, element: str, piece: Piece, faces: list[Face], code: str, words: str, wrong: list[Face]
) -> StockWarning:
    which = tuple(dict.fromkeys(_on_face(face, piece) for face in wrong))
    told = ", ".join(which[:4]) + (f" and {len(which) - 4} more" if len(which) > 4 else "")
    cures = tuple(_cures(study, element, piece, faces, wrong))
    name = f"{piece.name}: the pattern of {piece.stock.name} {words} on {told}."
    if cures:
        remedy = " Or: ".join(dict.fromkeys(f"{cure.words}." for cure in cures[:3]))
    else:
        remedy = "Take a paper without direction, or cut it in two."
    return StockWarning(code.replace(" ", "-"), element, name, remedy, which, cures)


def _on_face(face: Face, piece: Piece) -> str:
    both = all(_motif(piece.stock, side) is not None for side in (1, -1))
    return f"{face.words} ({'front' if face.side > 0 else 'back'})" if both else face.words


def _cures(study: Study, element: str, piece: Piece, faces: list[Face], wrong: list[Face]) -> Iterable[Cure]:
    """Turning it on the sheet, and over, where that puts every face right; a mat where one goes; plain paper."""
    design, paper = study.design, piece.stock
    key = piece.id.removeprefix(f"{element}.")
    lay = study.resolved[element].element.lays.get(key, Lay())
    for turn in (2, 1, 3):
        way = (piece.way + turn) % 4
        if all(_stands(paper, way, face) == "upright" for face in faces) and _fits(piece, way):
            words = f"Turn {piece.name} by {_QUARTERS[turn]} on its sheet"
            yield Cure(words, set_lay(design, element, key, Lay(way, lay.over)))
            break
    over = paper.turned_over
    if paper.two_sided and all(_stands(over, piece.way, face) == "upright" for face in faces):
        words = f"Turn {piece.name} over, so that the other side of its paper shows there"
        yield Cure(words, set_lay(design, element, key, Lay(lay.turn, not lay.over)))
    yield from _mats(study, element, wrong)
    shelf = study.catalogue.papers
    plain = [one for one in shelf if one.kind == paper.kind and one.two_sided and not one.has_direction]
    if plain:
        best = min(plain, key=lambda one: (one.sheet != paper.sheet, abs(one.caliper - paper.caliper)))
        words = f"Make {study.resolved[element].final.name} of {best.name}, which has no direction"
        yield Cure(words, set_stock(design, element, best.id))


def _fits(piece: Piece, way: int) -> bool:
    """Whether a piece still fits its sheet when it lies so."""
    w, h = piece.size if way % 2 == 0 else piece.size[::-1]
    sheet = piece.stock.sheet
    return w <= sheet.usable_width + 1e-6 and h <= sheet.usable_height + 1e-6


def _mats(study: Study, element: str, wrong: list[Face]) -> Iterable[Cure]:
    """One change that puts a plain mat on every wrong face, where all of them can carry one."""
    design, resolved, mat = study.design, study.resolved[element], family("mat")
    taken = {guest.place.face for guest in resolved.element.guests if guest.place}
    spots = {(m.instance, m.panel, m.side): m.id for m in resolved.part.mounts if m.id in resolved.rooms}
    faces = []
    for face in wrong:
        node = study.assembly.nodes[face.node]
        mount = spots.get((node.instance, node.panel.name, -1 if face.side < 0 else 1))
        if mount is None or mount in taken or not sits_on(mat.relation, resolved.rooms[mount].relation):
            return
        faces.append(mount)
    plain = next((p for p in study.catalogue.papers if p.kind == "paper" and not p.has_direction), None)
    if plain is None or not faces:
        return
    for mount in faces:
        guest = new_guest(design, mat)
        design = set_stock(add_guest(design, element, guest, Place(mount)), guest.id, plain.id)
    words = "Put a mat over it" if len(faces) == 1 else f"Put mats over the {len(faces)} faces"
    yield Cure(words, design)
