"""Thick stock and narrow glue: what cannot be folded or would not hold is told. Figures from memory unless said."""

from __future__ import annotations

import math

import pytest
from msgspec import structs
from msgspec.structs import replace
from shapely import Polygon

from yawning_lantern.assembly import PlaceStep
from yawning_lantern.design import Element, Place, add_guest
from yawning_lantern.errors import LanternError
from yawning_lantern.fit import Check
from yawning_lantern.fold import corners
from yawning_lantern.stock import builtin_catalogue
from yawning_lantern.structures import families, start_design
from yawning_lantern.structures.making import with_making_fits
from yawning_lantern.study import Study, admission, remedies


def told(study: Study, *codes: str) -> list[Check]:
    return [c for c in study.checks if c.gap.code in codes and not c.is_fine]


@pytest.mark.parametrize("kind", sorted(families()))
def test_cardstock_of_the_usual_kind_is_not_complained_of(kind: str) -> None:
    for stock in ("card-216", "pattern-160"):
        assert not told(Study(start_design(kind, {}, stock=stock)), "stock", "panel", "joint", "step", "spare")


@pytest.mark.parametrize(
    "kind", ["rosette", "accordion-spine", "waterfall", "flap", "gate-bag", "tent", "drop-cascade"]
)
def test_board_of_2_mm_is_not_pleated(kind: str) -> None:
    design = start_design(kind, {}, stock="chipboard-2")
    try:
        study = Study(design)
    except LanternError:
        return  # a family may refuse it altogether
    found = told(study, "stock")
    assert found and all(c.is_clash for c in found)
    change = admission(design, builtin_catalogue())
    assert change is not None and not Study(change.design).has_clash


@pytest.mark.parametrize(
    ("kind", "caliper", "said"),
    [
        # cardstock of 0.6 mm takes a flat fold, grey board of 1 mm a right angle; thicker may crack, then will (memory)
        ("accordion-spine", 0.55, "fine"),
        ("accordion-spine", 0.8, "risky"),
        ("accordion-spine", 1.05, "clash"),
        ("tray", 0.95, "fine"),
        ("tray", 1.3, "risky"),
        ("tray", 1.7, "clash"),
    ],
)
def test_stock_that_may_crack_is_told_before_it_must(kind: str, caliper: float, said: str) -> None:
    design = structs.replace(start_design(kind, {}), calipers={"card-216": caliper})
    found = told(Study(design), "stock")
    assert bool(found) == (said != "fine")
    assert any(check.is_clash for check in found) == (said == "clash")


@pytest.mark.parametrize(
    ("stock", "height", "clash"),
    [
        ("chipboard-1", 3.175, False),
        ("chipboard-2", 3.175, True),
        ("chipboard-2", 40.0, True),
        ("card-216", 3.5, False),
    ],
)
def test_low_walls_are_told(stock: str, height: float, clash: bool) -> None:
    study = Study(start_design("tray", {"height": height}, stock=stock))
    assert study.has_clash == clash and told(study, "panel", "stock")
    for check in told(study, "panel"):
        assert any(term.lever and term.lever.parameter == "height" for term in check.gap.span.terms)
        if stock == "card-216":
            assert any(cure.parameter == "height" for cure in remedies(study, check))


@pytest.mark.parametrize(
    ("kind", "given"),
    [
        ("lid", {"rim": 3.5}),
        ("waterfall", {"tab": 3.5}),
        ("flap", {"tab": 3.5}),
        ("gusset-book", {"tab": 4.0}),
        ("box-card", {"tab": 4.0}),
        ("tent", {"tab": 4.0}),
        ("gate-bag", {"seam-tab": 4.0}),
        ("v-fold", {"tab": 4.0}),
    ],
)
def test_tabs_and_rims_under_6_mm_are_told(kind: str, given: dict[str, float]) -> None:
    # least glue 6 mm: common practice, no source
    found = told(Study(start_design(kind, given)), "joint")
    assert found and all(c.against == "below" for c in found)


def test_corners_are_rounded_by_what_can_be_cut() -> None:
    assert told(Study(start_design("flap", {"rounded": 1.0})), "spare")
    assert not told(Study(start_design("flap", {"rounded": 6.0})), "spare")


@pytest.mark.parametrize("kind", sorted(families()))
def test_glue_is_as_wide_as_two_panels_share(kind: str) -> None:
    """Independent: root panel and host panel in the world, their overlap by shapely."""
    study = Study(start_design(kind, {}))
    nodes, frames = study.assembly.nodes, study.shut_frames
    least: dict[str, float] = {}
    for node, frame in zip(nodes, frames, strict=True):
        if not isinstance(node.step, PlaceStep) or node.step.kind != "glue" or node.shape is not None:
            continue
        host = frames[node.parent]

        def flat(points: list[tuple[float, float, float]], f: tuple[float, ...] = host) -> Polygon:
            moved = [tuple(p[k] - f[9 + k] for k in range(3)) for p in points]
            return Polygon(
                [(sum(m[k] * f[k] for k in range(3)), sum(m[k] * f[3 + k] for k in range(3))) for m in moved]
            )

        shared = flat(corners(node, frame)).intersection(flat(corners(nodes[node.parent], host)))
        box = shared.minimum_rotated_rectangle.exterior.coords
        wide = min(math.dist(box[0], box[1]), math.dist(box[1], box[2]))
        least[node.piece.name] = min(wide, least.get(node.piece.name, math.inf))
    for check in study.checks:
        name = check.gap.between[0].rsplit(", ", 1)[0]
        if check.gap.code == "joint" and name in least:
            assert check.gap.value + 3.0 <= least[name] + 0.3, (check.gap.between, least[name])


def test_a_narrow_strip_glued_on_a_narrow_face_is_told() -> None:
    design = start_design("tray", {"width": 60.0, "depth": 60.0, "height": 30.0})
    design = add_guest(design, "tray", Element("flap", "flap", "", {"tab": 4.0}), Place("right-outside"))
    assert [c.gap.element for c in told(Study(design), "joint")] == ["flap"]


@pytest.mark.parametrize(("kind", "words"), [("explosion-box", "base"), ("booklet", "back leaf"), ("flap", "tab")])
def test_a_foot_is_glued_where_it_is_set_on_something(kind: str, words: str) -> None:
    (r,) = Study(start_design(kind, {})).resolved.values()
    bare = replace(r.part, gaps=())
    feet = [[g.between[0] for g in with_making_fits(bare, on).gaps if g.code == "joint"] for on in (True, False, True)]
    assert feet[0] == feet[2] and any(words in name for name in feet[0])
    assert not any(words in name for name in feet[1])  # standing by itself it has no foot
