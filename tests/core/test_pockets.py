"""A pocket is as wide and as deep as it is told: measured on the folded sheet, glue taken off."""

from __future__ import annotations

from collections.abc import Iterator

import pytest
from shapely import Polygon, unary_union

from yawning_lantern.assembly import Pocket
from yawning_lantern.errors import LanternError
from yawning_lantern.fold import apply
from yawning_lantern.pattern import Point
from yawning_lantern.structures import start_design
from yawning_lantern.study import Study

from .test_contracts import forms

FAMILIES = ("maze-book", "grid-sheet", "flip-book", "envelope-fold", "strip-album")
"""Their pockets are walls of one size, glued along straight edges that their joints tell."""
OWN: tuple[dict[str, float | str], ...] = (
    {"widths": "60mm + 70mm + 80mm", "heights": "90mm + 50mm", "slits": "c1r2/c2r2 c2r2/c3r2", "strip": 5.0,
     "script": "over c2r1/c2r2; over c1r1/c1r2; over c3r1/c3r2; glue c3r1/c3r2 left right"},
    {"widths": "90mm + 50mm", "heights": "60mm + 70mm + 80mm", "slits": "c2r1/c2r2 c2r2/c2r3", "strip": 5.0,
     "script": "over c1r2/c2r2; over c1r1/c2r1; over c1r3/c2r3; glue c1r3/c2r3 head foot"},
)  # fmt: skip


def measured(study: Study, pocket: Pocket) -> tuple[float, float]:
    """What both walls of a pocket share and no glue takes: across its mouth, and in from it, mm."""
    nodes, part = study.assembly.nodes, study.design.root.id

    def flat(k: int, points: tuple[Point, ...]) -> Polygon:
        return Polygon([apply(study.shut_frames[k], *at)[:2] for at in points])

    walls = [[k for k, n in enumerate(nodes) if n.element == part and n.panel.name == name] for name in pocket.panels]
    shown = [unary_union([flat(k, nodes[k].panel.outline) for k in wall]) for wall in walls]
    inside = shown[0].intersection(unary_union(shown[1:])) if shown[1:] else shown[0]
    for bonded in study.assembly.joints:
        if any(bonded.a in wall or bonded.b in wall for wall in walls):
            for spot in bonded.joint.spots:
                inside = inside.difference(flat(bonded.a, spot).buffer(0.01))
    clear = inside.buffer(-0.3).buffer(0.3)  # slivers hold nothing
    x0, y0, x1, y1 = max(getattr(clear, "geoms", [clear]), key=lambda shape: shape.area).bounds
    return (x1 - x0, y1 - y0) if pocket.mouth in ("up", "down") else (y1 - y0, x1 - x0)


def pocketed() -> Iterator[tuple[str, dict[str, float | str]]]:
    for kind in FAMILIES:
        for given in ({}, *forms(kind)):
            yield kind, given
    for own in OWN:
        yield "grid-sheet", own


def test_every_pocket_is_as_large_as_it_is_told() -> None:
    seen = set()
    for kind, given in pocketed():
        try:
            study = Study(start_design(kind, given))
        except LanternError:
            continue
        for pocket in study.resolved[study.design.root.id].part.pockets:
            told, found = (pocket.width, pocket.depth), measured(study, pocket)
            assert told == pytest.approx(found, abs=0.15), (kind, given, pocket)
            seen.add((kind, pocket.mouth))
    assert {("strip-album", "left"), ("grid-sheet", "right"), ("grid-sheet", "up")} <= seen
    assert {kind for kind, _ in seen} == set(FAMILIES)


@pytest.mark.parametrize("own", OWN)
def test_a_pocket_of_ones_own_is_the_cell_less_its_glue(own: dict[str, float | str]) -> None:
    # the last panel is 80 by 50, glued along both of its shorter sides' neighbours, 5 mm each
    study = Study(start_design("grid-sheet", own))
    (pocket,) = study.resolved[study.design.root.id].part.pockets
    assert sorted((pocket.width, pocket.depth)) == pytest.approx(sorted((80.0 - 10.0, 50.0)))
    assert pocket.mouth in (("up", "down") if "+ 80mm" in str(own["widths"]) else ("left", "right"))
