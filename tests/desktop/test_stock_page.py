"""The Stock page: the drawer beside the design, driven as a maker would. Things in it are invented."""

from __future__ import annotations

from collections.abc import Callable

import pytest
from msgspec.structs import replace
from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtGui import QAccessible, QColor, QDropEvent, QImage, QPainter, QTransform
from PySide6.QtWidgets import QApplication, QCheckBox, QColorDialog, QComboBox, QLineEdit, QPushButton, QWidget
from pytestqt.qtbot import QtBot
from shapely.geometry import Point, Polygon
from shapely.ops import unary_union

from yawning_lantern.design import find, set_stock
from yawning_lantern.desktop.shared.landing import Landing
from yawning_lantern.desktop.shared.printed import flat_brush
from yawning_lantern.desktop.shared.stocking import dragged_thing, thing_mime
from yawning_lantern.desktop.shared.theme import DAY
from yawning_lantern.desktop.shell.workbench import Workbench
from yawning_lantern.desktop.shot import settle
from yawning_lantern.desktop.stock.fields import fields_of
from yawning_lantern.desktop.stock.page import StockPage
from yawning_lantern.desktop.stock.shelf_view import COUNT, KINDS, THING
from yawning_lantern.desktop.stock.used import Used
from yawning_lantern.exchange.design_file import from_bytes, to_bytes
from yawning_lantern.pattern import Piece
from yawning_lantern.stock import Item, Motif, Paper, builtin_catalogue, shapes


@pytest.fixture
def page(demo: Workbench, qapp: QApplication) -> StockPage:
    demo.window.resize(1280, 800)
    demo.show_page("stock")
    assert settle(qapp, demo.window)
    return demo.stock


@pytest.fixture
def rest(page: StockPage, qapp: QApplication) -> Callable[[], None]:
    def until_it_rests() -> None:
        assert settle(qapp, page.window())

    return until_it_rests


def names(page: StockPage) -> list[str]:
    entries = [page.shelf.item(row) for row in range(page.shelf.count())]
    return [entry.data(THING).id for entry in entries if not entry.isHidden()]


def typed(page: StockPage, label: str, text: str) -> None:
    edit = page.thing.editors[label]
    assert isinstance(edit, QLineEdit)
    edit.setText(text)
    edit.editingFinished.emit()


def paper_of(page: StockPage, element: str) -> Paper:
    assert page.session.study is not None
    return page.session.study.resolved[element].final.paper


def let_fall(view: Landing, at: QPointF, item: Item) -> None:
    data = thing_mime(item)  # the event does not own it
    left, none = Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier
    view.dropEvent(QDropEvent(at, Qt.DropAction.CopyAction, data, left, none))


# -- the drawer


def test_all_that_ships_is_in_it_and_found_by_typing(page: StockPage, qtbot: QtBot) -> None:
    assert names(page) == [item.id for item in builtin_catalogue().items]
    qtbot.keyClicks(page.search, "print 190")
    assert names(page) == ["night-print-190"] and page.thing.item is not None
    assert page.thing.item.id == "night-print-190" and page.title.text().startswith("Lantern print")
    page.search.setText("no such thing")
    assert names(page) == [] and "Nothing in the drawer" in page.note.text() and page.note.isVisible()
    page.search.clear()
    counted = 0
    for kind in KINDS[1:]:
        page.kind.setCurrentText(kind)
        counted += len(names(page))
    assert counted == len(builtin_catalogue().items)  # each is of one kind


def test_what_the_design_uses_is_on_top_with_what_is_missing(page: StockPage, rest: Callable[[], None]) -> None:
    study = page.session.study
    assert study is not None
    cut = {piece.stock.id for piece in study.pieces if not piece.bought}
    assert {one.item.id for one in page.used.used if one.needed is not None} == cut
    body = next(one for one in page.used.used if one.item.id == page.session.design.stock)
    assert body.needed and "not counted" in body.words and "Night sky box" in body.parts
    page.shelf.choose(body.item.id)
    page.thing.count.setValue(1)
    page.thing.count.editingFinished.emit()
    rest()
    body = next(one for one in page.used.used if one.item.id == body.item.id)
    assert body.missing == (body.needed or 0) - 1 > 0 and "missing" in body.words
    entry = next(e for row in range(page.shelf.count()) if (e := page.shelf.item(row)).data(THING).id == body.item.id)
    assert entry.data(COUNT) == 1
    spoken = QAccessible.queryAccessibleInterface(page.used)
    assert spoken.childCount() == len(page.used.used)
    assert "missing" in "".join(spoken.child(k).text(QAccessible.Text.Name) for k in range(spoken.childCount()))


def test_a_chip_leads_to_the_thing(page: StockPage, qtbot: QtBot) -> None:
    k = next(k for k, one in enumerate(page.used.used) if one.item.id == "pattern-160")
    qtbot.mouseClick(page.used, Qt.MouseButton.LeftButton, pos=page.used.box(k).center().toPoint())
    assert page.thing.item is not None and page.thing.item.id == "pattern-160" and page.used.at == k
    qtbot.keyClick(page.used, Qt.Key.Key_Left)
    assert page.thing.item.id == page.used.used[k - 1].item.id
    boxes = [page.used.box(n) for n in range(len(page.used.used))]
    assert all(not a.intersects(b) for n, a in enumerate(boxes) for b in boxes[:n])
    assert all(b.left() >= 0 and b.right() <= page.used.width() + 1 for b in boxes)


# -- a thing


@pytest.mark.parametrize("name", ["card-216", "tape", "plastic-card", "board-folio"])
def test_every_fact_reads_back_as_it_is_shown(page: StockPage, name: str, rest: Callable[[], None]) -> None:
    # typing what stands there changes nothing; a word instead of a length is told and changes nothing either
    page.shelf.choose(name)
    item = page.thing.item
    assert item is not None and set(page.thing.editors) == {field.label for field in fields_of(item)}
    for label, editor in page.thing.editors.items():
        if isinstance(editor, QLineEdit) and label != "Name":
            shown = editor.text()
            typed(page, label, shown)
            typed(page, label, "wide")
            assert page.thing.trouble.isVisible(), label
            assert page.thing.item == item
            typed(page, label, shown)
    rest()
    assert page.drawer.catalogue() == builtin_catalogue()


def test_a_paper_of_ones_own(page: StockPage, rest: Callable[[], None], monkeypatch: pytest.MonkeyPatch) -> None:
    page.shelf.choose("card-216")
    page.duplicate.click()
    own = page.thing.item
    assert isinstance(own, Paper) and own.id == "card-216-2" and "card-216-2" in names(page)
    typed(page, "Name", "Marsh blue")
    typed(page, "Weight", "100 lb cover")
    typed(page, "Sheet, width", "9in")
    typed(page, "Usable height", "11 3/4")
    typed(page, "A stack of ten measures", "3.4 mm")
    page.thing.editors["Grain"].setCurrentIndex(1)  # type: ignore[attr-defined]  # a list to pick from
    page.thing.editors["Grain"].activated.emit(1)  # type: ignore[attr-defined]  # as above
    ticked = page.thing.editors["Coated"]
    assert isinstance(ticked, QCheckBox)
    ticked.click()
    front, back = page.thing.faces
    front.kind.textActivated.emit("print")
    monkeypatch.setattr(QColorDialog, "getColor", lambda *_: QColor("#123456"))
    front.ink.click()
    front.repeat.setText("1in")
    front.repeat.editingFinished.emit()
    front.way.activated.emit(2)
    back.colour.click()
    made = page.drawer.catalogue().paper("card-216-2")
    assert (
        made.name == "Marsh blue"
        and made.grammage == pytest.approx(270, abs=1)
        and made.measured == pytest.approx(0.34)
    )
    assert (made.sheet.width, made.sheet.height) == pytest.approx((228.6, 304.8))
    assert (made.sheet.usable_width, made.sheet.usable_height) == pytest.approx((228.6, 298.45))
    assert made.grain == "long" and made.coated and made.back == "#123456"
    motif = made.front_motif
    assert motif is not None and (motif.kind, motif.ink, motif.turn) == ("print", "#123456", 2)
    assert motif.repeat == pytest.approx(25.4)
    assert "0.340 mm thick, measured" in page.thing.facts.text() and "100 lb cover" in page.thing.facts.text()
    # it is used, carried by the design, and every further change of it is seen there
    page.session.select("lid")
    assert page.use.text() == "Use for Comet lid"
    page.use.click()
    rest()
    assert paper_of(page, "lid").name == "Marsh blue"
    assert from_bytes(to_bytes(page.session.design)).papers == (made,)
    typed(page, "Name", "Marsh green")
    rest()
    assert paper_of(page, "lid").name == "Marsh green" and page.session.is_dirty


def test_what_was_done_to_the_drawer_is_taken_back(page: StockPage, rest: Callable[[], None]) -> None:
    before = page.drawer.catalogue()
    page.shelf.choose("vellum")
    page.thing.count.setValue(5)
    page.thing.count.editingFinished.emit()
    workshop = page.drawer.workshop()
    assert workshop is not None
    workshop.keep("vellum", 60.0, 80.0, "corner")
    page.drawer.look_again()
    page.look_at(page.thing.item)
    page.remove.click()
    assert "vellum" not in names(page) and page.drawer.counts() == {} and page.drawer.off_cuts() == ()
    assert page.back.toolTip().startswith("Take back: remove")
    page.back.click()
    assert set(names(page)) == {item.id for item in before.items} and page.drawer.counts() == {"vellum": 5}
    assert [one.name for one in page.drawer.off_cuts()] == ["corner"]
    page.shelf.choose("vellum")
    rest()
    buttons = [b for b in page.thing.findChildren(QPushButton) if b.text() == "Used up"]
    used_up = next(b for b in buttons if b.isVisible())
    used_up.click()
    assert page.drawer.off_cuts() == ()
    page.back.click()
    assert len(page.drawer.off_cuts()) == 1


# -- using it


def test_by_key_and_button(page: StockPage, rest: Callable[[], None], qtbot: QtBot) -> None:
    page.session.select("layer-2")
    page.shelf.choose("card-297")
    qtbot.keyClick(page.shelf, Qt.Key.Key_Return)
    rest()
    assert paper_of(page, "layer-2").id == "card-297" and page.body.isVisible()
    page.body.click()
    rest()
    assert paper_of(page, "layer-2").id == page.session.design.stock
    for name, words in (("tape", "Glue with it"), ("board-16", "Score with it"), ("trimmer-32", "Cut with it")):
        page.shelf.choose(name)
        assert page.use.text() == words
        page.use.click()
        rest()
    design = page.session.design
    assert (design.adhesive, design.score_tool, design.cut_tool) == ("tape", "board-16", "trimmer-32")
    page.shelf.choose("trimmer-score")
    page.use.click()
    assert (page.session.design.score_tool, page.session.design.cut_tool) == ("trimmer-score", "trimmer-score")
    page.session.select("box")
    page.shelf.choose("card-176")
    page.use.click()
    assert page.session.design.stock == "card-176" and find(page.session.design, "box").stock is None


def test_a_swatch_falls_on_a_part_and_on_a_face(page: StockPage, rest: Callable[[], None]) -> None:
    paper = builtin_catalogue().paper("vellum")
    assert dragged_thing(thing_mime(paper)) == paper
    sleeve = next(s for s in page.nest._sleeves if s.element == "lid")
    let_fall(page.nest, QPointF(sleeve.box.left() + 4, sleeve.box.top() + 6), paper)
    rest()
    assert paper_of(page, "lid").id == "vellum"
    # on the standing view a face may become a mat of it
    page.standing.grab()
    spot = next(
        s.polygon.boundingRect().center() for s in reversed(page.standing._drawn)
        if s.element == "box" and page.standing.sheet_at(s.polygon.boundingRect().center()) == s
    )  # fmt: skip
    seen = page.standing.face_at(spot, "mat")
    assert seen is not None and seen[0] == "box"
    let_fall(page.standing, spot, paper)
    menu = page.standing.menu
    assert menu is not None and [a.text()[:4] for a in menu.actions()] == ["Make", "Put "]
    menu.actions()[1].trigger()
    menu.close()
    rest()
    mat = find(page.session.design, page.session.selection)
    assert mat.family == "mat" and mat.stock == "vellum" and mat.place is not None and mat.place.face == seen[1]


def test_what_is_ready_made_goes_on_a_face(page: StockPage, rest: Callable[[], None]) -> None:
    page.session.select("layer-2")
    page.shelf.choose("plastic-card")
    assert page.use.text() == "Put on Dusk layer"
    page.use.click()
    assert page.menu is not None
    page.menu.actions()[0].trigger()
    page.menu.close()
    rest()
    study = page.session.study
    assert study is not None
    card = study.resolved[page.session.selection]
    # ISO/IEC 7810: a card of format ID-1 is 85.60 × 53.98 × 0.76 mm
    assert (card.sizes["width"].length, card.sizes["height"].length) == pytest.approx((85.60, 53.98))
    assert card.part.pieces[0].bought and card.part.pieces[0].stock.caliper == pytest.approx(0.76)


# -- what the papers cannot do


def test_warnings_come_with_what_would_mend_them(page: StockPage, rest: Callable[[], None]) -> None:
    assert not page.warnings.isVisible()
    page.session.edit(set_stock(page.session.design, None, "copy-80"), "choose stock")
    while page.work.is_idle:  # until the study is there and is looked over
        QApplication.processEvents()
    assert "looking over" in page.uses.text()
    rest()
    assert page.uses.text() == "In this design"
    assert "stands" in page.warnings.text() and page.warnings.isVisible()
    page.session.undo()
    rest()
    assert not page.warnings.isVisible()
    mat = find(page.session.design, "mat-2")
    from yawning_lantern.design import Lay, set_lay

    page.session.edit(set_lay(page.session.design, mat.id, "mat", Lay(2)), "turn")
    rest()
    assert "stands on its head" in page.warnings.text()
    show, mend = (b for b in page.warnings.findChildren(QPushButton) if b.isVisible())
    show.click()
    assert page.session.selection == "mat-2"
    menu = mend.menu()
    assert menu is not None and "half a turn" in menu.actions()[0].text()
    menu.actions()[0].trigger()
    rest()
    assert not page.warnings.isVisible() and find(page.session.design, "mat-2").lays == {}


def test_the_switch_turns_patterns_off(page: StockPage, demo: Workbench, rest: Callable[[], None]) -> None:
    def inks(view: QWidget) -> int:
        image = view.grab().toImage()
        colours = {
            image.pixelColor(x, y).name() for x in range(0, image.width(), 2) for y in range(0, image.height(), 2)
        }
        return len(colours)

    page.shelf.choose("night-print-190")
    with_patterns = inks(page.thing.swatch)
    demo.window.actions_by_id["toggle_patterns"].trigger()
    rest()
    assert (
        not page.shelf.theme.patterned and not demo.form.flat.theme.patterned and not demo.sheets.view.theme.patterned
    )
    assert inks(page.thing.swatch) < with_patterns
    assert demo.window.program.settings.value("patterns", True, bool) is False
    demo.window.actions_by_id["toggle_patterns"].trigger()
    assert page.shelf.theme == DAY._replace(patterned=True)


def test_the_drawers_papers_begin_designs(page: StockPage, demo: Workbench, rest: Callable[[], None]) -> None:
    paper = replace(builtin_catalogue().paper("card-270"), id="own", name="Own board")
    assert page.drawer.put(paper, "add")
    demo.show_page("idea")
    rest()
    combo: QComboBox = demo.idea.asking.stock
    combo.setCurrentIndex(combo.findData("own"))
    rest()
    demo.idea.asking.begin()
    rest()
    assert demo.session.design.stock == "own" and demo.session.design.papers == (paper,)


def test_a_drawer_that_cannot_be_used_is_told(page: StockPage) -> None:
    page.drawer.close()
    for file in page.drawer.path.parent.glob(f"{page.drawer.path.name}*"):
        file.unlink()
    page.drawer.path.mkdir()
    page.drawer.look_again()
    assert page.note.isVisible() and "drawer" in page.note.text()
    assert QPoint(0, 0) == page.mapFrom(page, QPoint(0, 0)) and names(page)  # what ships is still offered


def test_the_other_face_comes_out_by_command(page: StockPage, demo: Workbench, rest: Callable[[], None]) -> None:
    two = replace(builtin_catalogue().paper("night-print-190"), id="two")
    page.session.select("mat-2")
    page.drawer.put(two, "add")
    page.shelf.choose("two")
    page.use.click()
    rest()
    demo.show_page("form")
    rest()

    def piece() -> Piece:
        shown = demo.form.flat.piece()
        assert shown is not None
        return shown

    assert piece().stock.front_motif == two.front_motif and piece().way == 0
    demo.window.actions_by_id["other_face"].trigger()
    rest()
    assert piece().stock.front_motif == two.back_motif and piece().stock.front == two.back
    demo.window.actions_by_id["turn_on_sheet"].trigger()
    rest()
    assert piece().way == 1
    for _ in range(2):
        page.session.undo()
        rest()
    assert piece().stock.front_motif == two.front_motif and piece().way == 0


def test_new_things_of_every_kind(page: StockPage, rest: Callable[[], None]) -> None:
    menu = page.new.menu()
    assert menu is not None
    before = len(page.drawer.catalogue().items)
    for k, action in enumerate(menu.actions(), 1):
        action.trigger()
        rest()
        assert len(page.drawer.catalogue().items) == before + k
        assert page.thing.item is not None and page.thing.item.name.startswith("New")
    for _ in menu.actions():
        page.back.click()
    assert len(page.drawer.catalogue().items) == before


# -- painted as it lies


@pytest.mark.parametrize("front", [True, False])
@pytest.mark.parametrize(("way", "turn"), [(0, 0), (1, 0), (0, 1), (2, 3), (3, 1)])
def test_a_brush_puts_ink_where_the_tile_has_it(qapp: QApplication, front: bool, way: int, turn: int) -> None:
    # every spot by itself: carried back to the tile by complex numbers, looked up among its polygons (shapely)
    motif = Motif("print", "#000000", 40.0, turn)
    plain = builtin_catalogue().paper("card-216")
    paper = replace(plain, front="#ffffff", back="#ffffff", front_motif=motif, back_motif=motif)
    image = QImage(240, 240, QImage.Format.Format_RGB32)
    painter = QPainter(image)
    painter.fillRect(0, 0, 240, 240, flat_brush(paper, way, QTransform(3.0, 0.0, 0.0, -3.0, 0.0, 240.0), front))
    painter.end()
    tile = unary_union([Polygon(shape) for shape in shapes("print")])
    looked = 0
    for px in range(7, 240, 13):
        for py in range(5, 240, 11):
            spot = complex((px + 0.5) / 3.0, (240 - py - 0.5) / 3.0)  # on the piece, mm, y up
            spot *= complex(0, -1) ** (way + (turn if front else -turn))
            if not front:
                spot = complex(-spot.real, spot.imag)
            u, v = (spot.real / 40.0) % 1.0, (spot.imag / 40.0) % 1.0
            here = Point(u, v)
            if tile.boundary.distance(here) < 0.03:
                continue
            looked += 1
            assert (image.pixelColor(px, py).lightness() < 128) is tile.contains(here), (px, py)
    assert looked > 150


@pytest.mark.parametrize(
    ("needed", "there", "words", "missing"),
    [(None, None, "Lid", 0), (0, 3, "larger than its sheet", 0), (1, None, "1 sheet, not counted", 0),
     (4, 9, "4 sheets, 9 there", 0), (4, 1, "4 sheets, 3 missing", 3), (2, 0, "2 sheets, 2 missing", 2)],
)  # fmt: skip
def test_what_a_chip_says(needed: int | None, there: int | None, words: str, missing: int) -> None:
    used = Used(builtin_catalogue().paper("card-216"), "Lid", needed, there, "larger than its sheet")
    assert (used.words, used.missing) == (words, missing)
