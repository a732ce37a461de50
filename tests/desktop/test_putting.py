"""Beginning with a structure, putting structures on faces by drag and by key, which side shows, and advice."""

from __future__ import annotations

from PySide6.QtCore import QMimeData, QPointF, Qt
from PySide6.QtGui import QDragEnterEvent, QDragLeaveEvent, QDragMoveEvent, QDropEvent
from PySide6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from yawning_lantern.design import walk
from yawning_lantern.desktop.shared.putting import suiting_faces
from yawning_lantern.desktop.shared.shelf import MIME, dragged_family
from yawning_lantern.desktop.shell.workbench import Workbench
from yawning_lantern.fold import PanelSeen
from yawning_lantern.structures import families, family

from .test_form import rest

LEFT = Qt.MouseButton.LeftButton
COPY = Qt.DropAction.CopyAction
PLAIN = Qt.KeyboardModifier.NoModifier


def data_of(family_id: str) -> QMimeData:
    data = QMimeData()
    data.setData(MIME, family_id.encode())
    return data


def drop(view: object, family_id: str, at: QPointF) -> bool:
    """Drag a structure in, over a place, and let it go; whether the place took it."""
    data = data_of(family_id)
    view.dragEnterEvent(QDragEnterEvent(at.toPoint(), COPY, data, LEFT, PLAIN))  # type: ignore[attr-defined]  # one of two views
    move = QDragMoveEvent(at.toPoint(), COPY, data, LEFT, PLAIN)
    view.dragMoveEvent(move)  # type: ignore[attr-defined]  # one of two views
    view.dropEvent(QDropEvent(at, COPY, data, LEFT, PLAIN))  # type: ignore[attr-defined]  # one of two views
    return move.isAccepted()


def guests(demo: Workbench, host: str) -> list[tuple[str, str]]:
    element = next(e for e in walk(demo.session.design.root) if e.id == host)
    return [(g.family, g.place.face) for g in element.guests if g.place]


def test_a_structure_is_dropped_on_a_sleeve(demo: Workbench) -> None:
    nest = demo.form.nest
    sleeve = {s.element: s for s in nest._sleeves}["tray-lid"]
    at = QPointF(sleeve.box.left() + 14, sleeve.box.top() + 8)
    assert drop(nest, "rosette", at)
    assert nest.menu is not None  # several faces would do: the maker is asked
    words = [a.text() for a in nest.menu.actions()]
    assert words[0] == "Top, outside"
    nest.menu.actions()[0].trigger()
    nest.menu.close()
    rest(demo)
    assert ("rosette", "top") in guests(demo, "tray-lid")
    assert demo.session.selection.startswith("rosette") and "Rosette" in demo.form.part_title.text()
    demo.session.undo()
    rest(demo)
    assert guests(demo, "tray-lid") == []


def test_what_no_face_takes_is_not_taken(demo: Workbench) -> None:
    nest = demo.form.nest
    sleeve = {s.element: s for s in nest._sleeves}["mat"]
    assert not drop(nest, "lid", QPointF(sleeve.box.left() + 14, sleeve.box.top() + 8))
    rest(demo)
    assert guests(demo, "mat") == [] and "no face for a lid" in demo.session.trouble
    assert dragged_family(QMimeData()) == ""


def test_a_structure_is_dropped_on_the_face_that_is_seen(demo: Workbench) -> None:
    standing = demo.form.standing
    demo.session.move_to(1.0)
    rest(demo)
    standing.repaint()
    study = demo.session.study
    assert study is not None
    for sheet in reversed(standing._drawn):
        found = standing.face_at(sheet.polygon.boundingRect().center(), "mat")
        if found and found[1].endswith("-inside") and not any(f == found[1] for _, f in guests(demo, found[0])):
            assert drop(standing, "mat", sheet.polygon.boundingRect().center())
            break
    else:
        raise AssertionError("no free face is seen")
    rest(demo)
    assert ("mat", found[1]) in guests(demo, found[0])


def test_a_structure_is_put_on_with_keys_alone(demo: Workbench, qtbot: QtBot) -> None:
    demo.session.select("mat")
    rest(demo)
    demo.window.actions_by_id["put_part"].trigger()
    shelf = demo.form.shelf
    shown = [shelf.item(r).data(256) for r in range(shelf.count()) if not shelf.item(r).isHidden()]
    assert "lid" not in shown and "belly-band" not in shown and "photo" in shown  # only what can sit on a mat
    for row in range(shelf.count()):
        if shelf.item(row).data(256) == "photo":
            shelf.setCurrentRow(row)
    qtbot.keyClick(shelf, Qt.Key.Key_Return)
    rest(demo)
    assert guests(demo, "mat") == [("photo", "face")]  # one face suits: nothing is asked
    assert demo.form.faces is None
    demo.session.select("box")
    rest(demo)
    qtbot.keyClick(shelf, Qt.Key.Key_Return)
    assert demo.form.faces is not None and len(demo.form.faces.actions()) == len(
        suiting_faces(demo.session, "box", "photo")
    )
    demo.form.faces.close()


def test_every_structure_can_be_put_on_a_wall_or_over_it(demo: Workbench) -> None:
    for kind in families():
        faces = suiting_faces(demo.session, "box", kind)
        relation = family(kind).relation
        assert faces, kind
        if relation == "over":
            assert [f for f, _ in faces] == ["mouth"]
        elif relation == "around":
            assert [f for f, _ in faces] == ["around"]
        else:
            assert len(faces) >= 9


def test_sides_and_up_are_written_on_the_flat_piece(demo: Workbench) -> None:
    flat = demo.form.flat

    def known() -> dict[str, PanelSeen]:
        piece = flat.piece()
        assert piece is not None
        return flat.sides.of(piece)

    demo.session.select("lid")
    rest(demo)
    assert known() == {}
    demo.window.actions_by_id["mark_sides"].trigger()
    rest(demo)
    sides = known()
    assert sides["top"].back == "open" or sides["top"].back == "never"
    assert sides["tab-right-back"].front == sides["tab-right-back"].back == "never"  # hidden by the inner rim
    assert sides["wall-front"].front == "shut"
    told = flat.accessibleDescription()
    assert "front rim: front shows" in told and "up is" in told
    flat.repaint()
    demo.window.actions_by_id["mark_sides"].trigger()
    rest(demo)
    assert known() == {}


def test_advice_offers_the_smallest_change_and_does_it(bench: Workbench, qtbot: QtBot) -> None:
    from yawning_lantern.structures import start_design

    bench.session.start(start_design("waterfall", {"flap-length": 100.0, "base-length": 150.0}))
    bench.show_page("form")
    rest(bench)
    bench.session.give("waterfall", "base-length", 90.0, "set base")
    rest(bench)
    advice = bench.form.advice
    assert advice.isVisible() and "longer than its base" in advice.words.text()
    assert advice.change.isEnabled() and advice.change.text().startswith("Set “")
    qtbot.mouseClick(advice.change, LEFT)
    rest(bench)
    assert advice.isHidden() and bench.session.trouble == ""
    assert bench.session.study is not None and not bench.session.study.has_clash


def test_what_a_ring_asks_of_the_paper_is_told(bench: Workbench) -> None:
    from yawning_lantern.structures import start_design

    bench.session.start(start_design("v-fold", {}))
    bench.show_page("form")
    rest(bench)
    assert bench.form.fits.findings.isVisible() and "asks the paper to give" in bench.form.fits.findings.text()
    # while it is found again after an edit what was told stays, pale: the list below does not jump
    findings, there = bench.form.fits.findings, bench.form.fits.list.geometry()
    before = findings.text()
    bench.session.give("fold", "spread", 36, "set spread")
    while not bench.session.is_idle:
        QApplication.processEvents()
    assert findings.isVisible() and not findings.isEnabled() and findings.text() == before
    assert bench.form.fits.list.geometry() == there
    rest(bench)
    assert findings.isEnabled() and findings.isVisible() and findings.text() != before
    bench.session.start(start_design("tent", {}))
    rest(bench)
    assert bench.form.fits.findings.isHidden()


def test_nothing_lands_where_nothing_is(demo: Workbench) -> None:
    before = demo.session.design
    for view in (demo.form.nest, demo.form.standing):
        off = QPointF(1.0, view.height() - 1.0)
        assert view.host_at(off) is None
        assert not drop(view, "mat", off)
        assert view.menu is None
    assert demo.session.design == before


def test_what_is_no_structure_is_not_taken(demo: Workbench) -> None:
    text = QMimeData()
    text.setText("mat")
    nest = demo.form.nest
    at = nest._sleeves[0].box.center()
    enter = QDragEnterEvent(at.toPoint(), COPY, text, LEFT, PLAIN)
    enter.setAccepted(False)
    nest.dragEnterEvent(enter)
    move = QDragMoveEvent(at.toPoint(), COPY, text, LEFT, PLAIN)
    nest.dragMoveEvent(move)
    nest.dropEvent(QDropEvent(at, COPY, text, LEFT, PLAIN))
    assert not enter.isAccepted() and not move.isAccepted()
    assert nest._over is None and nest.menu is None


def test_the_mark_goes_when_the_pointer_leaves(demo: Workbench) -> None:
    nest = demo.form.nest
    sleeve = {s.element: s for s in nest._sleeves}["tray-lid"]
    at = QPointF(sleeve.box.left() + 14, sleeve.box.top() + 8)
    data = data_of("rosette")
    nest.dragMoveEvent(QDragMoveEvent(at.toPoint(), COPY, data, LEFT, PLAIN))
    assert nest._over == "tray-lid"
    marked = nest.grab().toImage()
    nest.dragLeaveEvent(QDragLeaveEvent())
    assert nest._over is None
    assert nest.grab().toImage() != marked
