"""What would admit a refused design: each kind of change, that it is the smallest, and that nothing else is touched."""

from __future__ import annotations

import math
from contextlib import suppress

import pytest

from yawning_lantern.design import Design, Element, Place, add_guest, find, set_stock, set_value, walk
from yawning_lantern.errors import LanternError
from yawning_lantern.stock import builtin_catalogue
from yawning_lantern.structures import start_design
from yawning_lantern.study import Admission, Study, admission

from ..conftest import designed

CATALOGUE = builtin_catalogue()


def advised(design: Design) -> Admission:
    """The advice for a design that is refused, tried."""
    found = admission(design, CATALOGUE)
    assert found is not None
    assert not Study(found.design, CATALOGUE).has_clash
    return found


def changes(before: Design, after: Design) -> dict[str, dict[str, tuple[object, object]]]:
    """What differs, by element and setting; an element that went is told as gone."""
    left = {e.id: e for e in walk(after.root)}
    told: dict[str, dict[str, tuple[object, object]]] = {}
    for element in walk(before.root):
        if element.id not in left:
            told[element.id] = {"gone": (True, True)}
            continue
        other = left[element.id]
        keys = element.settings.keys() | other.settings.keys()
        found = {k: (element.settings.get(k), other.settings.get(k)) for k in keys}
        found = {k: v for k, v in found.items() if v[0] != v[1]}
        if element.place != other.place:
            found["face"] = (element.place, other.place)
        if found:
            told[element.id] = found
    return told


def test_all_is_well() -> None:
    assert admission(designed("tray", width=4, depth=3, height=1), CATALOGUE) is None


def test_one_length_is_moved_by_the_least_that_helps() -> None:
    # worked: the cover must stand over page and pleat; a sixteenth of an inch less still clashes
    design = start_design("accordion-spine", {"page-width": 100.0, "pleat": 10.0, "cover-width": 100.0})
    found = advised(design)
    told = changes(design, found.design)
    assert list(told) == ["spine"] and len(told["spine"]) == 1
    (name, (old, new)) = next(iter(told["spine"].items()))
    assert isinstance(old, float) and isinstance(new, float)
    step = 25.4 / 16
    # a trimmer's mark less would not do
    nearer = new - step if new > old else new + step
    assert Study(set_value(design, "spine", name, nearer)).has_clash
    assert found.change.startswith("Set “") and "Accordion spine" in found.change


def test_counts_go_down_one_by_one() -> None:
    design = start_design("drop-cascade", {"flaps": 9, "base-length": 80.0, "step": 10.0, "flap-length": 30.0})
    found = advised(design)
    told = changes(design, found.design)["cascade"]
    assert len(told) == 1
    if "flaps" in told:
        # worked: L + (N − 1)·s ≤ B
        assert told["flaps"][1] == 1 + math.floor((80 - 30) / 10)


def test_a_wrong_word_is_set_right() -> None:
    design = start_design("explosion-box", {"sides": 6, "corner": "pocket", "base": 60.0, "wall": 60.0})
    found = advised(design)
    told = changes(design, found.design)["box"]
    assert told in (
        {"corner": ("pocket", None)},
        {"corner": ("pocket", "plain")},
        {"sides": (6, 4)},
        {"sides": (6, None)},
    )


def test_what_is_given_may_be_let_go() -> None:
    design = start_design("stand", {"page-width": 100.0, "page-height": 100.0, "tab": 90.0})
    found = advised(design)
    assert changes(design, found.design) == {"stand": {"tab": (90.0, None)}}
    assert found.change == "Let “Tab” of Stand be worked out."


def test_the_host_may_be_what_has_to_change() -> None:
    tray = start_design("tray", {"width": 60.0, "depth": 60.0, "height": 20.0})
    design = add_guest(
        tray, "tray", Element("box", "tray", "Sand box", {"width": 40.0, "depth": 40.0, "height": 30.0}), Place("floor")
    )
    study = Study(design)
    assert study.has_clash
    found = advised(design)
    assert "Headroom" in found.reason
    told = changes(design, found.design)
    assert set(told) <= {"tray", "box"} and sum(len(v) for v in told.values()) == 1


def test_reason_and_change_name_the_part_as_the_maker_does() -> None:
    tray = start_design("tray", {"width": 60.0, "depth": 60.0, "height": 20.0})
    design = add_guest(
        tray, "tray", Element("card", "photo", "Star card", {"width": 80.0, "height": 30.0}), Place("floor")
    )
    found = advised(design)
    assert "Star card" in found.reason
    assert "Star card" in found.change or "Tray" in found.change
    assert found.change[0].isupper() and found.change.endswith(".")


def test_units_of_the_maker() -> None:
    given = {"flap-length": 100.0, "base-length": 96.0, "flap-width": 50.0}
    inch = start_design("waterfall", given)
    metric = start_design("waterfall", given, units="mm", cut_tool="trimmer-mm", score_tool="scorer-mm")
    assert "mm" in advised(metric).change and "″" in advised(inch).change


def test_two_faults_take_two_parts_off() -> None:
    tray = start_design("tray", {"width": 60.0, "depth": 60.0, "height": 30.0})
    design = tray
    for k, face in enumerate(("right-outside", "left-outside")):
        wrong = Element(f"w{k}", "lid", f"Lid {k}")
        design = add_guest(design, "tray", wrong, Place(face))
    found = advised(design)
    assert set(changes(design, found.design)) == {"w0", "w1"} and found.change == "Take Lid 0 off, take Lid 1 off."


def test_a_root_that_cannot_be_is_begun_again() -> None:
    design = start_design("rosette", {"diameter": 25.0, "pleat": 60.0, "strip-length": 900.0, "hub": 60.0})
    found = advised(design)
    assert find(found.design, "rosette").family == "rosette"


@pytest.mark.parametrize("caliper", [0.3, 1.0, 3.0])
def test_thick_sheets_are_told_what_helps(caliper: float) -> None:
    from yawning_lantern.design import set_caliper

    for kind in ("rosette", "gate-bag", "accordion-spine", "tier-wrap", "waterfall"):
        design = set_caliper(start_design(kind, {}), "card-216", caliper)
        found = admission(design, CATALOGUE)
        if found is not None:
            assert not Study(found.design).has_clash and found.reason


@pytest.mark.parametrize("kind", ["waterfall", "gate-bag", "accordion-spine", "lid", "v-fold"])
def test_of_thinner_papers_the_nearest_is_told(kind: str) -> None:
    design = set_stock(start_design(kind, {}), None, "chipboard-2")
    found = advised(design)
    element = design.root.id
    chosen = Study(found.design).resolved[element].final.paper
    assert chosen.caliper < 2.0 and f"from {chosen.name}." in found.change
    for paper in CATALOGUE.papers:
        if paper.kind != "film" and chosen.caliper + 1e-6 < paper.caliper < 2.0 - 1e-6:
            with suppress(LanternError):  # or it is refused at once
                assert Study(set_stock(design, element, paper.id)).has_clash, paper.name


def test_what_is_told_is_changed_before_what_is_not() -> None:
    """A roof's height would go before its pitch; who told a pitch is told which one will do."""
    design = start_design("roof", {"pitch": 10})
    told = changes(design, advised(design).design)
    assert told == {design.root.id: {"pitch": (10, 15)}}
    with pytest.raises(LanternError):
        Study(set_value(design, design.root.id, "pitch", 14), CATALOGUE)
