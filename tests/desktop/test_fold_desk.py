"""Your own sheet: marked out with mouse and keys, folded by hand, its acts reordered and undone, and made a design."""

from __future__ import annotations

from collections.abc import Iterator

import pytest
from PySide6.QtCore import QPointF, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QWidget
from pytestqt.qtbot import QtBot

from yawning_lantern.desktop.idea.fold_desk import FoldDesk
from yawning_lantern.desktop.shared.spoken import Spoken
from yawning_lantern.desktop.shell.workbench import Workbench
from yawning_lantern.desktop.shot import settle
from yawning_lantern.flatfold.state import apply, mirror
from yawning_lantern.flatfold.telling import script_text
from yawning_lantern.measure import inches

LEFT = Qt.MouseButton.LeftButton


@pytest.fixture
def desk(bench: Workbench, qapp: QApplication, qtbot: QtBot) -> Iterator[FoldDesk]:
    bench.window.actions_by_id["own_sheet"].trigger()
    found = bench.idea.desk
    assert found is not None
    still(found, qtbot)
    yield found
    if bench.idea.desk is not None:
        bench.idea.desk.close()


def still(desk: FoldDesk, qtbot: QtBot) -> None:
    qtbot.waitUntil(lambda: desk.is_idle, timeout=20000)
    QApplication.processEvents()


def gridded(desk: FoldDesk, text: str, qtbot: QtBot) -> None:
    desk.grid.setFocus()
    desk.grid.setText(text)
    QTest.keyClick(desk.grid, Qt.Key.Key_Return)
    desk.grid.clearFocus()
    still(desk, qtbot)


def click(pad: QWidget, p: QPointF) -> None:
    QTest.mouseClick(pad, LEFT, pos=p.toPoint())


def slit(desk: FoldDesk, *segments: tuple[str, str]) -> None:
    for segment in segments:
        a, b = desk.flat.ends(segment)
        click(desk.flat, (a + b) / 2)


def drag(desk: FoldDesk, panel: str, score: tuple[str, str], qtbot: QtBot) -> None:
    """Take a panel by its middle over a score to where it comes to lie."""
    pad = desk.folded
    at = pad.map
    assert at is not None and at.largest(panel) is not None, panel
    start = QPointF(at.middle(panel))
    end = at.px(apply(mirror(*at.state.stretch(at.state.sheet.hinge(*score))), at.place(start)))
    QTest.mousePress(pad, LEFT, pos=start.toPoint())
    still(desk, qtbot)
    QTest.mouseMove(pad, end.toPoint())
    QApplication.processEvents()
    QTest.mouseRelease(pad, LEFT, pos=end.toPoint())
    still(desk, qtbot)


def words(desk: FoldDesk) -> list[str]:
    return [desk.map.item(k).text().strip() for k in range(desk.map.count())]


def test_lines_cells_and_slants_are_drawn(desk: FoldDesk, qtbot: QtBot) -> None:
    gridded(desk, "3 3 by 3 3", qtbot)
    assert desk.draft.columns == pytest.approx((76.2, 76.2)) and desk.draft.rows == pytest.approx((76.2, 76.2))
    line = ("c1r1", "c2r1")
    for kind in ("slit", "nothing", "score"):
        slit(desk, line)
        assert desk.draft.kind(line) == kind
    click(desk.flat, desk.flat.cell_box(1, 1).center())
    assert desk.draft.gone == ("c2r2",)
    desk.marking.button(1).click()
    pad = desk.flat
    a, b = pad.cell_box(0, 1).bottomLeft(), pad.cell_box(0, 1).topRight()
    QTest.mousePress(pad, LEFT, pos=a.toPoint())
    QTest.mouseMove(pad, b.toPoint())
    QTest.mouseRelease(pad, LEFT, pos=b.toPoint())
    assert desk.draft.slants == (("score", (0.0, 1.0), (1.0, 2.0)),)
    still(desk, qtbot)
    assert desk.seen is not None and desk.seen.sheet is not None
    assert {f.name for f in desk.seen.sheet.facets} == {"c1r1", "c2r1", "c1r2a", "c1r2b"}
    QTest.keyClick(desk, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    desk.undo()
    assert not desk.draft.slants


def test_lines_of_the_grid_are_dragged(desk: FoldDesk, qtbot: QtBot) -> None:
    gridded(desk, "3 3 by 4 2", qtbot)
    drag(desk, "c2r1", ("c1r1", "c2r1"), qtbot)
    pad = desk.flat
    at = dict(pad.handles())
    assert set(at) == {(0, 1), (1, 1)}
    start = at[0, 1]
    end = start + QPointF(pad._scale() * inches(0.5) + 1.0, 3.0)  # a little off the grid
    QTest.mousePress(pad, LEFT, pos=start.toPoint())
    QTest.mouseMove(pad, end.toPoint())
    QTest.mouseRelease(pad, LEFT, pos=end.toPoint())
    still(desk, qtbot)
    assert desk.draft.columns == pytest.approx((inches(3.5), inches(2.5))) and desk.grid.text() == "3 1/2 2 1/2 by 4 2"
    assert len(desk.draft.script) == 1  # what was folded stays
    start = dict(pad.handles())[1, 1]
    QTest.mousePress(pad, LEFT, pos=start.toPoint())
    QTest.mouseMove(pad, (start + QPointF(0, -900)).toPoint())
    QTest.mouseRelease(pad, LEFT, pos=(start + QPointF(0, -900)).toPoint())
    still(desk, qtbot)
    assert desk.draft.rows == pytest.approx((inches(5.75), inches(0.25)))  # no narrower
    desk.undo()
    assert desk.draft.rows == pytest.approx((inches(4), inches(2)))


def test_keys_do_what_the_mouse_does(desk: FoldDesk, qtbot: QtBot) -> None:
    pad = desk.flat
    pad.setFocus()
    QTest.keyClick(pad, Qt.Key.Key_Right)
    QTest.keyClick(pad, Qt.Key.Key_Up)
    assert pad.at == (1, 1)
    QTest.keyClick(pad, Qt.Key.Key_Up, Qt.KeyboardModifier.ShiftModifier)
    assert desk.draft.slits == (("c2r2", "c2r3"),)
    QTest.keyClick(pad, Qt.Key.Key_Space)
    assert desk.draft.gone == ("c2r2",)
    spoken = pad.spoken_items()
    assert any("taken out" in s.words and s.chosen for s in spoken) and any("slit" in s.words for s in spoken)
    still(desk, qtbot)
    desk.folded.setFocus()
    before = desk.folded.chosen
    QTest.keyClick(desk.folded, Qt.Key.Key_Right)
    assert desk.folded.chosen != before
    chosen = [s for s in desk.folded.spoken_items() if s.chosen]
    assert len(chosen) == 1 and isinstance(chosen[0], Spoken) and "front up, 1 layers" in chosen[0].words
    QTest.keyClick(desk.folded, Qt.Key.Key_Return)
    still(desk, qtbot)
    assert desk.folded._menu is not None
    texts = [action.text() for action in desk.folded._menu.actions()]
    assert any(text.startswith("Fold ") for text in texts)
    desk.folded._menu.close()


def test_a_sheet_is_folded_glued_and_made(desk: FoldDesk, bench: Workbench, qapp: QApplication, qtbot: QtBot) -> None:
    gridded(desk, "3 3 3 by 3 3", qtbot)
    assert not desk.make.isEnabled()
    slit(desk, ("c1r2", "c2r2"), ("c2r2", "c3r2"))
    still(desk, qtbot)
    for panel, score in (
        ("c2r2", ("c2r1", "c2r2")), ("c1r2", ("c1r1", "c1r2")), ("c3r2", ("c3r1", "c3r2")), ("c1r2", ("c1r1", "c2r1")),
    ):  # fmt: skip
        drag(desk, panel, score, qtbot)
    told = "over c2r1/c2r2; over c1r1/c1r2; over c3r1/c3r2; over c2r1/c1r1"
    assert script_text(desk.draft.script) == told
    desk.folding.button(2).click()  # glue
    at = desk.folded.map
    assert at is not None
    click(desk.folded, at.px((min(p[0] for p in at.state.places[0]) + 2, at.place(QPointF(at.middle("c1r1")))[1])))
    still(desk, qtbot)
    assert script_text(desk.draft.script).endswith("glue c1r1/c1r2 left")
    assert "No pocket yet" in words(desk)  # as much of it is open as shut
    edges = [k for k in range(desk.map.count()) if desk.map.item(k).text().strip().endswith(", right")]
    desk.map.itemDoubleClicked.emit(desk.map.item(edges[0]))
    still(desk, qtbot)
    assert {"left", "right"} <= set(script_text(desk.draft.script).split("glue ")[1].split())
    assert any("open at the foot, 2 1/2 × 3" in text for text in words(desk))
    assert "do not stand as the rest" in desk.words.text()
    desk.make.click()
    settle(qapp, bench.window)
    assert bench.idea.desk is None and bench.session.design.root.family == "grid-sheet"
    study = bench.session.study
    assert study is not None and len(study.resolved[bench.session.design.root.id].part.pockets) == 1


def test_what_cannot_be_folded_says_why(desk: FoldDesk, qtbot: QtBot) -> None:
    gridded(desk, "3 3 by 3 3", qtbot)
    drag(desk, "c2r1", ("c1r1", "c2r1"), qtbot)  # the whole column goes along
    assert script_text(desk.draft.script) == "over c1r1/c2r1 c1r2/c2r2"
    desk.undo()
    slit(desk, ("c1r2", "c2r2"), ("c1r2", "c2r2"))  # neither scored nor slit
    still(desk, qtbot)
    drag(desk, "c2r1", ("c1r1", "c2r1"), qtbot)
    assert not desk.draft.script and "still joined another way round" in desk.said.text()
    gridded(desk, "3 by x", qtbot)
    assert "no width" in desk.words.text() and len(desk.draft.columns) == 2


def test_a_tuck_asks_where(desk: FoldDesk, qtbot: QtBot) -> None:
    gridded(desk, "3 3 3 3 by 4", qtbot)
    drag(desk, "c4r1", ("c3r1", "c4r1"), qtbot)
    drag(desk, "c4r1", ("c2r1", "c3r1"), qtbot)
    desk.folding.button(1).click()
    drag(desk, "c1r1", ("c1r1", "c2r1"), qtbot)
    menu = desk.folded._menu
    assert menu is not None
    texts = [action.text() for action in menu.actions()]
    assert len(texts) >= 3 and all(text.startswith("Tuck c1r1") for text in texts)
    inner = next(action for action in menu.actions() if "over c2r1" in action.text() and "under" in action.text())
    inner.trigger()
    menu.close()
    still(desk, qtbot)
    assert script_text(desk.draft.script).count("tuck") == 1 and desk.make.isEnabled()


def test_acts_are_looked_at_moved_and_taken(desk: FoldDesk, qtbot: QtBot) -> None:
    gridded(desk, "3 3 3 by 4", qtbot)
    drag(desk, "c1r1", ("c1r1", "c2r1"), qtbot)
    drag(desk, "c3r1", ("c2r1", "c3r1"), qtbot)
    rows = desk.acts.list
    assert rows.count() == 3 and rows.currentRow() == 2
    rows.setCurrentRow(0)
    still(desk, qtbot)
    assert desk.folded.state is not None and not desk.folded.state.shut
    rows.setCurrentRow(2)
    desk.acts.earlier.click()
    still(desk, qtbot)
    assert script_text(desk.draft.script) == "over c2r1/c3r1; over c2r1/c1r1" and rows.currentRow() == 1
    desk.acts.take.click()
    still(desk, qtbot)
    assert script_text(desk.draft.script) == "over c2r1/c1r1"
    desk.undo()
    desk.undo()
    desk.undo()
    still(desk, qtbot)
    assert script_text(desk.draft.script) == "over c2r1/c1r1"
    desk.redo()
    desk.redo()
    slit(desk, ("c2r1", "c3r1"))
    still(desk, qtbot)
    assert "✕" in rows.item(1).text() and "do not hang together" in desk.words.text() and not desk.make.isEnabled()


@pytest.mark.parametrize(("frm", "to"), [(0, 2), (2, 0), (1, 2), (2, 1), (0, 1)])
def test_a_drag_in_the_list_is_one_move(desk: FoldDesk, qtbot: QtBot, frm: int, to: int) -> None:
    gridded(desk, "3 3 3 3 by 4", qtbot)
    for panel, score in (("c1r1", ("c1r1", "c2r1")), ("c4r1", ("c3r1", "c4r1")), ("c1r1", ("c2r1", "c3r1"))):
        drag(desk, panel, score, qtbot)
    script = list(desk.draft.script)
    assert len(script) == 3
    item = desk.acts.list.takeItem(frm + 1)
    desk.acts.list.insertItem(to + 1, item)
    desk.acts._dropped()
    still(desk, qtbot)
    script.insert(to, script.pop(frm))
    assert desk.draft.script == tuple(script)


def test_acts_are_played(desk: FoldDesk, qtbot: QtBot) -> None:
    gridded(desk, "3 3 by 4", qtbot)
    drag(desk, "c2r1", ("c1r1", "c2r1"), qtbot)
    desk.acts._beat.setInterval(20)
    desk.acts.play.click()
    assert desk.acts.list.currentRow() == 0
    qtbot.waitUntil(lambda: desk.acts.list.currentRow() == 1 and not desk.acts._beat.isActive(), timeout=5000)


def test_a_grid_sheet_is_folded_anew(bench: Workbench, qapp: QApplication, qtbot: QtBot) -> None:
    from yawning_lantern.structures import start_design

    bench.session.start(start_design("grid-sheet", {}))
    settle(qapp, bench.window)
    study = bench.session.study
    assert study is not None
    before = study.resolved[bench.session.design.root.id]
    assert bench.window.commands["fold_anew"].when()
    bench.window.actions_by_id["fold_anew"].trigger()
    desk = bench.idea.desk
    assert desk is not None
    still(desk, qtbot)
    assert len(desk.draft.script) == 15 + 7 and len(desk.draft.slits) == 24 - 15  # folds and pockets; of all lines
    assert desk.seen is not None and desk.seen.can_be_made
    assert sum(text.startswith("between") for text in words(desk)) == 7
    desk.make.click()
    settle(qapp, bench.window)
    study = bench.session.study
    assert study is not None and "script" in bench.session.design.root.settings
    after = study.resolved[bench.session.design.root.id]
    assert len(after.part.pockets) == len(before.part.pockets) == 7
    assert after.sizes["thick"].length == pytest.approx(before.sizes["thick"].length, abs=0.01)
    bench.session.undo()
    settle(qapp, bench.window)
    assert "script" not in bench.session.design.root.settings
