"""Idea: any structure found by typing, its own three ways in, and what would come of it shown while one types."""

from __future__ import annotations

import pytest
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from yawning_lantern.desktop.idea.outlook import largest
from yawning_lantern.desktop.shared.shelf import Shelf
from yawning_lantern.desktop.shell.workbench import Workbench
from yawning_lantern.desktop.shot import settle
from yawning_lantern.measure import parse_length
from yawning_lantern.structures import families, family
from yawning_lantern.study import Study
from yawning_lantern.study.ways_in import begin, ways_in

LEFT = Qt.MouseButton.LeftButton
WAYS = [(kind.id, way.start) for kind in families().values() for way in ways_in(kind)]


def rest(bench: Workbench) -> None:
    app = QApplication.instance()
    assert isinstance(app, QApplication) and settle(app, bench.window)


def shown(gallery: Shelf) -> list[str]:
    return [i.data(256) for i in gallery._items() if not i.isHidden()]


@pytest.mark.parametrize("start", ["contents", "size", "sheet"])
def test_three_ways_to_begin_a_box(bench: Workbench, qtbot: QtBot, start: str) -> None:
    asking = bench.idea.asking
    asking.cards[start].taken.emit()
    rest(bench)
    assert asking.study is not None and asking.outcome.text().startswith("4 pieces, closed within")
    assert [c.property("used") for c in asking.cards.values()] == [s == start for s in asking.cards]
    qtbot.mouseClick(asking.go, LEFT)
    rest(bench)
    study = bench.session.study
    assert study is not None and not study.has_clash and bench.session.is_dirty
    assert study.current("box", "layers") == 3 and "lid" in study.resolved
    assert bench.window.stack.currentWidget() is bench.form


@pytest.mark.parametrize("kind", families())
def test_every_structure_begins_by_every_way_that_it_tells(bench: Workbench, kind: str) -> None:
    """With the figures that stand there at first it is worked out, without a clash, and it holds what it shall hold."""
    asking = bench.idea.asking
    bench.idea.gallery.choose(kind)
    rest(bench)
    told = [start for start, card in asking.cards.items() if card.isEnabled()]
    assert set(told) == set(family(kind).starts)
    for start in told:
        asking.take(start)
        rest(bench)
        study = asking.study
        assert study is not None, (kind, start, asking.outcome.text())
        assert not study.has_clash, (kind, start)
        root = next(iter(study.resolved.values()))
        assert root.family.id == kind
        typed = {n: f.text() for n, f in asking.cards[start].fields.items() if f.text()}
        if start == "sheet":
            side = parse_length(typed["sheet"], "in")
            assert max(max(p.size) for p in study.pieces if not p.bought) <= side + 1e-6
            assert max(max(p.size) for p in study.pieces if not p.bought) > 0.3 * side, "much of the sheet is not used"
        for name in typed:
            if start == "contents":
                inner = next(r for r in study.resolved.values() if name in r.element.settings)
                assert inner.element.settings[name] == pytest.approx(parse_length(typed[name], "in"))


def test_what_is_left_open_tells_what_comes_of_it(bench: Workbench, qtbot: QtBot) -> None:
    asking = bench.idea.asking
    bench.idea.gallery.choose("tray")
    asking.take("size")
    rest(bench)
    fields = asking.cards["size"].fields
    assert fields["width"].placeholderText() == "3" and fields["height"].placeholderText()[0].isdigit()
    fields["width"].setText("5 1/2")
    rest(bench)
    assert asking.study is not None and asking.study.current("tray", "width") == pytest.approx(5.5 * 25.4)
    fields["width"].setText("wide")
    rest(bench)
    assert asking.study is None and "cannot be read" in asking.outcome.text()
    qtbot.mouseClick(asking.go, LEFT)
    rest(bench)
    assert not bench.session.is_open


def test_from_contents_as_in_the_workshop(bench: Workbench, qtbot: QtBot) -> None:
    bench.window.actions_by_id["toggle_units"].trigger()
    card = bench.idea.asking.cards["contents"]
    assert [f.text() for f in card.fields.values()] == ["60", "60", "45"]
    card.fields["content-width"].setText("85.6")
    qtbot.keyClick(card.fields["content-width"], Qt.Key.Key_Return)
    rest(bench)
    study = bench.session.study
    assert study is not None and study.current("layer-3", "content-width") == pytest.approx(85.6)
    assert all(c.is_fine for c in study.checks if c.gap.code == "contents")
    assert bench.session.design.units == "mm" and bench.session.design.cut_tool == "trimmer-mm"


def test_a_start_that_cannot_be_is_told(bench: Workbench, qtbot: QtBot) -> None:
    asking = bench.idea.asking
    asking.cards["size"].fields["base"].setText("1")
    asking.layers.setValue(6)
    qtbot.mouseClick(asking.go, LEFT)
    rest(bench)
    assert asking.outcome.text().startswith("✕") and "base" in asking.outcome.text()
    assert not bench.session.is_open


def test_gallery_is_grouped_and_found_by_typing(bench: Workbench, qtbot: QtBot) -> None:
    bench.show_page("idea")
    rest(bench)
    idea, gallery = bench.idea, bench.idea.gallery
    assert set(shown(gallery)) == set(families()) == set(bench.thumbs.pictures)
    for item in gallery._items():
        assert not item.icon().isNull() and item.toolTip().endswith(families()[item.data(256)].about)
    heading = ""
    for row in range(gallery.count()):  # every structure stands under its own heading
        item = gallery.item(row)
        if item.data(256):
            assert families()[item.data(256)].shelf == heading
        else:
            heading = item.text()
    tops = {gallery.visualItemRect(i).top() for i in gallery._headings.values()}
    assert not any(gallery.visualItemRect(i).top() in tops for i in gallery._items())  # a heading has its own line
    qtbot.keyClicks(idea.seek, "gate bag")
    assert shown(gallery) == ["gate-bag"] and idea.asking.kind.id == "gate-bag"
    assert [h for h, i in gallery._headings.items() if not i.isHidden()] == ["Pop-ups"]
    idea.seek.setText("xyzzy")
    assert shown(gallery) == [] and idea.nothing.isVisible()
    idea.seek.setText("")
    assert set(shown(gallery)) == set(families()) and not idea.nothing.isVisible()
    gallery.choose("gate-bag")
    gallery.setFocus()
    qtbot.keyClick(gallery, Qt.Key.Key_Return)
    rest(bench)
    assert bench.session.design.root.family == "gate-bag" and bench.window.stack.currentWidget() is bench.form


@pytest.mark.parametrize(("kind", "start"), WAYS)
def test_a_way_asks_few_things_and_says_what_it_needs(kind: str, start: str) -> None:
    way = next(w for w in ways_in(family(kind)) if w.start == start)
    assert 1 <= len(way.fields) <= 4 and set(way.needed) <= {f.id for f in way.fields}
    assert not any(f.derived or f.structural for f in way.fields)


def test_the_piece_shown_on_its_sheet_is_the_one_that_wants_the_largest() -> None:
    study = Study(begin(family("explosion-box"), "size", {"base": 100.0}, name="x", stock="card-216", units="mm"))
    piece = largest(study)
    areas = {p.name: p.size[0] * p.size[1] for p in study.pieces if not p.bought}
    assert piece is not None and piece.name == max(areas, key=lambda n: areas[n])
