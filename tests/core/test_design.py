"""The document: edits, history, layers; and what the study keeps from one edit to the next."""

from __future__ import annotations

import pytest

from yawning_lantern.design import (
    Element,
    History,
    Place,
    add_guest,
    find,
    fresh_id,
    move_guest,
    parent_of,
    remove_element,
    set_stock,
    set_value,
    walk,
)
from yawning_lantern.errors import LanternError, ParameterError, UnknownNameError
from yawning_lantern.structures import families, with_layers
from yawning_lantern.study import Study

from ..conftest import designed


def test_edits_share_what_they_do_not_touch() -> None:
    design = designed("explosion-box", base=4, wall=4, layers=3, lid="easy")
    after = set_value(design, "lid", "rim", 30.0)
    assert find(after, "layer-2") is find(design, "layer-2")
    assert find(design, "lid").settings.get("rim") is None
    assert set_value(after, "lid", "rim", None) == design


def test_guests_move_and_never_into_themselves() -> None:
    design = add_guest(
        designed("explosion-box", base=4, wall=4, layers=2), "box", Element("m", "mat"), Place("right-inside")
    )
    moved = move_guest(design, "m", "layer-2", Place("left-inside"))
    host = parent_of(moved, "m")
    assert host is not None and host.id == "layer-2"
    with pytest.raises(UnknownNameError, match="carries itself"):
        move_guest(moved, "layer-2", "m", Place("face"))
    assert [e.id for e in walk(remove_element(moved, "layer-2").root)] == ["box"]
    assert fresh_id(moved, "m") == "m-2"
    with pytest.raises(UnknownNameError):
        find(moved, "nobody")


def test_history_joins_a_gesture_and_forgets_what_was_undone() -> None:
    design = designed("tray", width=2)
    history = History.start(design)
    for k in range(5):
        history = history.push(set_value(design, "tray", "width", 60.0 + k), "drag", "g1")
    assert history.at == 1 and history.undo().design == design
    back = history.undo().push(set_value(design, "tray", "depth", 70.0), "depth")
    assert back.redo().design == back.design and back.redo_words == "" and back.undo_words == "depth"
    assert history.push(history.design, "nothing") is history


def test_layers_come_and_go_with_their_contents() -> None:
    design = designed("explosion-box", content_width=2, content_depth=2, content_height=2, layers=3)
    assert "content-width" in find(design, "layer-3").settings and "content-width" not in design.root.settings
    fewer = with_layers(design, "box", 1)
    assert fewer.root.settings["content-width"] == pytest.approx(50.8) and len(list(walk(fewer.root))) == 1
    more = with_layers(design, "box", 4)
    assert [e.place.turn for e in walk(more.root) if e.place] == [1, 1, 1]
    assert "content-width" in find(more, "layer-4").settings
    with pytest.raises(ParameterError):
        with_layers(design, "box", 0)


def test_tray_follows_the_innermost_layer() -> None:
    design = add_guest(designed("explosion-box", base=4, wall=4), "box", Element("t", "tray"), Place("floor"))
    host = parent_of(with_layers(design, "box", 3), "t")
    assert host is not None and host.id == "layer-3"
    host = parent_of(with_layers(with_layers(design, "box", 3), "box", 2), "t")
    assert host is not None and host.id == "layer-2"


def test_sizes_flow_up_and_down() -> None:
    up = designed("explosion-box")
    up = add_guest(
        up, "box", Element("t", "tray", settings={"width": 50.8, "depth": 38.1, "height": 25.4}), Place("floor")
    )
    study = Study(up)
    t = study.resolved["t"].final.paper.caliper
    assert (study.current("box", "base") or 0) >= 50.8 + 2 * t and study.resolved["box"].sizes["base"].origin == "auto"
    assert (study.current("box", "wall") or 0) >= 25.4 + t
    turned = add_guest(remove_element(up, "t"), "box", find(up, "t"), Place("floor", turn=1))
    assert Study(turned).current("box", "base") == study.current("box", "base-depth")
    down = Study(set_value(set_value(up, "box", "base", 101.6), "t", "width", None))
    assert down.resolved["t"].sizes["width"].origin == "fill"
    assert not down.has_clash


def test_only_what_depends_on_the_edit_is_built_again() -> None:
    design = designed("explosion-box", base=4, wall=4, layers=3, lid="easy")
    before = Study(design)
    _ = before.assembly
    after = Study(set_value(design, "lid", "rim", 30.0), before=before)
    same = {e for e in after.resolved if after.resolved[e].part is before.resolved[e].part}
    assert same == {"layer-2", "layer-3"} | ({"box"} & same)
    assert after.resolved["lid"].part is not before.resolved["lid"].part
    fresh = Study(after.design)
    assert fresh.checks == after.checks and fresh.assembly == after.assembly
    again = Study(after.design, before=after)
    assert again.assembly is after.assembly


def test_stock_of_one_part_changes_its_thickness_alone() -> None:
    design = designed("explosion-box", base=4, wall=4, layers=2)
    study = Study(set_stock(design, "layer-2", "chipboard-1"))
    assert study.resolved["layer-2"].final.paper.caliper == 1.0
    assert study.resolved["box"].final.paper.caliper == pytest.approx(0.27)
    gap = next(c.gap for c in study.checks if c.gap.code == "layer")
    assert gap.value == pytest.approx((101.6 - 88.9) / 2 - (0.27 + 1.0) / 2)


def test_faces_that_are_not_there() -> None:
    hexagon = add_guest(
        designed("explosion-box", base=2, wall=2, sides=6), "box", Element("m", "mat"), Place("left-inside")
    )
    with pytest.raises(LanternError, match="offers nothing"):
        Study(hexagon)
    with pytest.raises(UnknownNameError, match="no face"):
        Study(add_guest(designed("tray", width=2), "tray", Element("m", "mat"), Place("roof")))
    twice = add_guest(designed("tray", width=2), "tray", Element("tray", "mat"), Place("floor"))
    with pytest.raises(ParameterError, match="both called"):
        Study(twice)


def test_every_parameter_is_declared_fully() -> None:
    for kind in families().values():
        assert kind.about.endswith(".") and kind.starts
        ids = [p.id for p in kind.parameters]
        assert len(ids) == len(set(ids))
        for p in kind.parameters:
            assert p.help.endswith((".", "…")) or p.help, (kind.id, p.id)
            assert p.kind != "word" or p.words


def test_layers_are_turned_a_quarter_if_asked() -> None:
    for words, turns in (("quarter", [1, 1]), ("none", [0, 0])):
        design = designed("explosion-box", base=4, wall=4, layers=3, layer_turn=words, corner="pocket")
        assert [e.place.turn for e in walk(design.root) if e.place] == turns
        assert "layer-turn" not in design.root.settings
        study = Study(design)
        # pockets take room on back and front; turned, the next layer shows these a clear wall
        gaps = {c.gap.where: c.gap.value for c in study.checks if c.gap.code == "layer" and c.gap.element == "layer-2"}
        assert gaps["back"] < gaps["right"] and gaps["front"] == pytest.approx(gaps["back"])
        flaps = {
            round(abs(frame[7]))
            for node, frame in zip(study.assembly.nodes, study.shut_frames, strict=True)
            if node.element == "layer-2" and node.panel.name.startswith("flap")
        }
        assert flaps == ({0} if words == "quarter" else {1})
