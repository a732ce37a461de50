"""The Bench page, driven as a maker would: keys, one number at a time, timers, copies, taken up after a crash."""

from __future__ import annotations

from pathlib import Path

import pytest
import vobject
from PySide6.QtCore import QEvent, Qt
from PySide6.QtGui import QAccessible, QImage
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QFileDialog, QInputDialog
from pytestqt.qtbot import QtBot

from yawning_lantern.bench import Schools, Walk
from yawning_lantern.bench.lying import Lying
from yawning_lantern.desktop.bench.page import BenchPage
from yawning_lantern.desktop.bench.timers import Timers
from yawning_lantern.desktop.bench.wrong import WrongDialog
from yawning_lantern.desktop.shell.workbench import Workbench
from yawning_lantern.desktop.shot import settle
from yawning_lantern.exchange.design_file import read_design
from yawning_lantern.measure import format_length, speak

from ..conftest import DEMO, designed


@pytest.fixture
def page(bench: Workbench, qapp: QApplication) -> BenchPage:
    bench.window.resize(1280, 800)
    bench.session.start(designed("lid", rim=1, top_width=4, top_depth=4, rim_kind="double"))
    bench.show_page("bench")
    assert settle(qapp, bench.window)
    return bench.bench


def press(page: BenchPage, key: Qt.Key, times: int = 1) -> None:
    page.view.setFocus()
    for _ in range(times):
        QTest.keyClick(page.view, key)


def test_space_and_backspace_walk_through_every_number(page: BenchPage) -> None:
    assert page.walk is not None
    plan = page.walk.plan
    for step in plan.steps:
        for k in range(len(step.placing.readings) if step.placing else 1):
            assert page.walk.step is not None and page.walk.step.id == step.id and page.walk.number == k
            assert speak(step.text, "in").rstrip(".") in page.view.said()
            if step.placing is not None:
                read = format_length(step.placing.readings[k].mark, "in", glyphs=True, mark=False)
                assert page.view.number().replace("\u2009", " ") == read
                assert step.placing.face in page.view.said()
            press(page, Qt.Key.Key_Space)
    assert page.walk.step is None and page.summary.text() == "Everything is done."
    assert not page.next.isEnabled()
    press(page, Qt.Key.Key_Backspace)
    assert page.walk.step is not None and page.walk.step.id == plan.steps[-1].id


def test_a_click_does_what_a_key_does(page: BenchPage, qtbot: QtBot) -> None:
    qtbot.mouseClick(page.next, Qt.MouseButton.LeftButton)
    assert page.walk is not None and page.walk.at == 1
    qtbot.mouseClick(page.before, Qt.MouseButton.LeftButton)
    assert page.walk.at == 0 and not page.before.isEnabled()


def test_one_goes_on_where_one_stopped(page: BenchPage, bench: Workbench, qapp: QApplication) -> None:
    press(page, Qt.Key.Key_Space, 9)
    assert page.walk is not None
    before, design = page.walk, bench.session.design
    bench.session.start(designed("tray"))
    assert settle(qapp, bench.window)
    assert page.walk is not None and page.walk.at == 0
    bench.session.start(design)
    assert settle(qapp, bench.window)
    assert page.walk is not None
    assert (page.walk.at, page.walk.number, page.walk.done) == (before.at, before.number, before.done)
    kept = bench.drawer.workshop()
    assert kept is not None and kept.progress(design.name)["done"] == sorted(before.done)


def test_the_list_folds_out_and_goes_anywhere(page: BenchPage, bench: Workbench, qapp: QApplication) -> None:
    assert not page.steps.isVisible()
    bench.window.actions_by_id["all_steps"].trigger()
    assert settle(qapp, bench.window) and page.steps.isVisible() and page.walk is not None
    rows = [page.steps.item(k) for k in range(page.steps.count())]
    ranked = [row for row in rows if row.data(Qt.ItemDataRole.UserRole) is not None]
    assert len(ranked) == len(page.walk.plan.steps) and len(rows) > len(ranked)
    page.steps.itemActivated.emit(ranked[-3])
    assert page.walk.at == len(ranked) - 3
    assert "Not done yet" not in page.view.said() and page.walk.missing


def test_glue_sets_a_timer_that_rings_once_and_stands_still(qapp: QApplication) -> None:
    timers, rung = Timers(), []
    timers.rang.connect(rung.append)
    timers.start("lid", "Lid", 5.0)
    timers.pass_time(200)
    assert timers.all[0].told == "1:40" and timers.is_running
    timers.pause()
    assert not timers.is_running
    kept = timers.record()
    again = Timers()
    again.rang.connect(rung.append)
    again.restore([*kept, "nonsense", [1, 2]])
    assert [one.told for one in again.all] == ["1:40"]
    again.pass_time(99)
    assert rung == []
    again.pass_time(2)
    again.pass_time(60)
    assert rung == ["Lid"] and not again.is_running and again.record() == []


def test_gluing_starts_and_undoing_stops_a_timer(page: BenchPage) -> None:
    assert page.walk is not None
    first = next(k for k, s in enumerate(page.walk.plan.steps) if s.wait)
    page.show_walk(page.walk.go(first))
    press(page, Qt.Key.Key_Space)
    assert [one.words for one in page.timers.all] == ["Lid"] and "4:5" in page.ringing.text() + "4:5"
    press(page, Qt.Key.Key_Backspace)
    assert page.timers.all == []


def test_copies_are_ticked_with_mouse_and_keys(
    page: BenchPage, bench: Workbench, qapp: QApplication, qtbot: QtBot
) -> None:
    page.copies.setValue(3)
    assert settle(qapp, bench.window) and page.walk is not None
    page.view.repaint()
    assert page.walk.step is not None and page.walk.step.copies == 3
    qtbot.mouseClick(page.view, Qt.MouseButton.LeftButton, pos=page.view.centre_of_chip(1).toPoint())
    assert page.walk.ticked == {1}
    press(page, Qt.Key.Key_1)
    assert page.walk.ticked == {0, 1} and page.walk.at == 0
    page.view.repaint()
    told = [QAccessible.queryAccessibleInterface(page.view).child(k) for k in range(3)]
    assert [one.text(QAccessible.Text.Name) for one in told if one] == ["copy 1, done", "copy 2, done", "copy 3, to do"]
    press(page, Qt.Key.Key_3)
    assert page.walk.at == 1 and page.walk.ticked == frozenset()


def test_another_school_is_another_order(bench: Workbench, qapp: QApplication) -> None:
    from yawning_lantern.design import Element, Place, add_guest

    tray = designed("tray")
    bench.session.start(add_guest(tray, tray.root.id, Element("m", "mat"), Place("front-outside")))
    bench.show_page("bench")
    assert settle(qapp, bench.window)
    kinds = []
    for k in range(2):
        bench.bench.school.setCurrentIndex(k)
        assert settle(qapp, bench.window) and bench.bench.walk is not None
        assert bench.bench.school.currentData() == (Schools(), Schools("later"))[k]
        kinds.append([s.kind for s in bench.bench.walk.plan.steps if s.kind in ("glue", "decorate")])
    assert kinds[0][0] == "decorate" and kinds[1][-1] == "decorate"


def test_a_clash_is_told_and_a_refusal_stands_instead_of_a_plan(bench: Workbench, qapp: QApplication) -> None:
    bench.session.start(designed("explosion-box", base=3, wall=3, content_width=4, content_height=2))
    bench.show_page("bench")
    assert settle(qapp, bench.window)
    assert bench.bench.walk is not None and bench.bench.summary.text().startswith("▲ Something clashes")
    bench.session.start(read_design(DEMO.with_name("comet-night-set.lantern")))
    assert settle(qapp, bench.window)
    bench.bench.copies.setValue(7)
    bench.bench.work.give_up()
    assert settle(qapp, bench.window)
    assert bench.bench.walk is None and "Given up" in bench.bench.view.trouble
    assert bench.bench.view.said() == bench.bench.view.trouble


@pytest.mark.parametrize("face", ["front", "back"])
@pytest.mark.parametrize("edge", ["left", "right", "foot", "head"])
def test_a_piece_is_turned_and_turned_over_as_hands_do_it(edge: str, face: str) -> None:
    # worked by hand: the edge named lies at the fence, and nothing is mirrored but by turning it over
    lying = Lying(edge, face, (70.0, 40.0))  # type: ignore[arg-type]  # words in a table
    middle = {"left": (0.0, 20.0), "right": (70.0, 20.0), "foot": (35.0, 0.0), "head": (35.0, 40.0)}[edge]
    assert lying.at(middle) == (0.0, lying.extent[1] / 2)
    (ox, oy), (ax, ay), (bx, by) = (lying.at(p) for p in ((0.0, 0.0), (1.0, 0.0), (0.0, 1.0)))
    turn = (ax - ox) * (by - oy) - (ay - oy) * (bx - ox)
    assert turn == (1.0 if face == "front" else -1.0)
    corners = [lying.at(p) for p in ((0.0, 0.0), (70.0, 0.0), (70.0, 40.0), (0.0, 40.0))]
    assert {min(c) >= 0 for c in corners} == {True}
    assert (max(u for u, _ in corners), max(v for _, v in corners)) == lying.extent


def test_the_number_is_huge_and_the_line_is_where_it_says(page: BenchPage) -> None:
    assert page.walk is not None
    at = next(k for k, s in enumerate(page.walk.plan.steps) if s.placing is not None)
    page.show_walk(page.walk.go(at))
    image = page.view.grab().toImage()
    lamp = page.view.theme.colour("lamp").rgb()
    rows = [y for y in range(image.height() // 3) if any(image.pixel(x, y) == lamp for x in range(20, 260, 2))]
    assert len(rows) > 60  # px: a tenth of the page
    reading = page.view.reading()
    assert reading is not None and page.walk.step is not None and page.walk.step.placing is not None
    study = page.session.study
    assert study is not None
    piece = next(p for p in study.pieces if p.id == page.walk.step.piece)
    lying = Lying(page.walk.step.placing.edge, page.walk.step.placing.face, piece.size)
    half = image.height() // 2
    columns = [
        x for x in range(20, image.width() - 20) if all(image.pixel(x, half + d) == lamp for d in range(0, 60, 5))
    ]
    assert columns
    fence = page.view.theme.colour("fence").rgb()
    ends = [x for x in range(image.width()) if image.pixel(x, half) == fence]
    left = max(ends) + 1
    ground = page.view.theme.colour("table").rgb()
    right = max(x for x in range(left, image.width() - 20) if image.pixel(x, half) != ground)
    share = (sum(columns) / len(columns) - left) / (right - left)
    assert share == pytest.approx(reading.number / lying.extent[0], abs=0.02)


def test_what_goes_is_hatched_and_slits_stand_out(bench: Workbench, qapp: QApplication) -> None:
    bench.session.start(designed("pocket", notch=1.0))
    bench.show_page("bench")
    assert settle(qapp, bench.window)
    page = bench.bench
    assert page.walk is not None
    faint, lamp = (page.view.theme.colour(name).rgb() for name in ("faint", "lamp"))

    def count(image: QImage, colour: int) -> int:
        box = range(image.height() // 5, image.height() * 3 // 4)
        return sum(image.pixel(x, y) == colour for y in box for x in range(30, image.width() - 30, 2))

    page.show_walk(page.walk.go(page.walk.plan.at["punch:pocket.pocket"]))
    punched = count(page.view.grab().toImage(), lamp)
    page.show_walk(page.walk.go(page.walk.plan.at["cut:pocket.pocket"]))
    assert count(page.view.grab().toImage(), lamp) < punched > 20
    bench.session.start(designed("explosion-box"))
    assert settle(qapp, bench.window) and page.walk is not None
    page.show_walk(page.walk.go(page.walk.plan.at["trim:box.cross"]))
    hatched = count(page.view.grab().toImage(), faint)
    page.show_walk(page.walk.go(page.walk.plan.at["cut:box.cross"]))
    assert hatched > 4 * count(page.view.grab().toImage(), faint) + 200


def test_evenings_are_written_from_the_menu(
    page: BenchPage, bench: Workbench, qapp: QApplication, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    out = tmp_path / "work.ics"
    answers = iter([("soon", True), ("2027-03-14", True)])
    monkeypatch.setattr(QInputDialog, "getText", lambda *a, **k: next(answers))
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a, **k: (str(out), ""))
    bench.window.actions_by_id["export_evenings"].trigger()
    assert not out.exists()  # no day: said, not written
    bench.window.actions_by_id["export_evenings"].trigger()
    assert settle(qapp, bench.window)
    assert len(vobject.readOne(out.read_text()).vevent_list) == 1


def test_a_window_put_away_holds_the_timers(page: BenchPage, bench: Workbench, qapp: QApplication) -> None:
    page.timers.start("lid", "Lid", 5.0)
    bench.window.hide()
    qapp.sendPostedEvents(None, QEvent.Type.Hide)
    assert not page.timers.is_running
    bench.window.show()
    assert settle(qapp, bench.window) and page.timers.is_running


# -- something went wrong


def asked(page: BenchPage, qtbot: QtBot) -> WrongDialog:
    page.window().actions_by_id["went_wrong"].trigger()  # type: ignore[attr-defined]  # the main window
    assert page.rescue.dialog is not None and page.rescue.dialog.isVisible()
    return page.rescue.dialog


def answered(dialog: WrongDialog, qtbot: QtBot) -> str:
    qtbot.mouseClick(dialog.help, Qt.MouseButton.LeftButton)
    qtbot.waitUntil(lambda: dialog.is_idle and dialog.answer is not None, timeout=20000)
    return dialog.words.text()


def test_a_wrong_score_is_fitted_round_and_can_be_taken_back(
    page: BenchPage, bench: Workbench, qapp: QApplication, qtbot: QtBot
) -> None:
    bench.session.start(designed("explosion-box", base=4, wall=3))
    assert settle(qapp, bench.window) and page.walk is not None
    page.show_walk(page.walk.go(page.walk.plan.at["score:box.cross:1"]))
    dialog = asked(page, qtbot)
    assert dialog.piece() is not None and "planned at" in dialog.line.currentText()
    dialog.measured.setText("not a length")
    dialog.ask()
    assert dialog.words.text().startswith("✕") and dialog.answer is None
    dialog.measured.setText("3 1/8")
    words = answered(dialog, qtbot)
    assert words.startswith("✓ The rest fits again") and "3 1/8″ instead of 3″" in words
    before = bench.session.design
    qtbot.mouseClick(dialog.go_on, Qt.MouseButton.LeftButton)
    assert settle(qapp, bench.window)
    built = bench.session.design.built
    assert [(one.piece, one.kind, round(one.measured, 3)) for one in built] == [("box.cross", "score", 79.375)]
    assert bench.session.design.root.settings != before.root.settings
    assert page.walk is not None and page.walk.step is not None and page.walk.step.id == "score:box.cross:1"
    again = asked(page, qtbot)
    assert "As built: Explosion box, scored in the wrong place at 3 1/8″" in again.built.text()
    again.close()
    bench.window.actions_by_id["undo"].trigger()
    assert settle(qapp, bench.window) and bench.session.design == before


def test_where_nothing_helps_one_piece_is_made_anew(
    page: BenchPage, bench: Workbench, qapp: QApplication, qtbot: QtBot
) -> None:
    assert page.walk is not None
    page.show_walk(Walk(page.walk.plan, page.walk.plan.at["glue:lid.lining-back"], done=frozenset(page.walk.plan.at)))
    dialog = asked(page, qtbot)
    dialog.kind.setCurrentIndex(dialog.kind.findData("score"))
    dialog.measured.setText("1/4")
    assert "anew" in answered(dialog, qtbot) and dialog.go_on.text() == "Make it anew"
    qtbot.mouseClick(dialog.go_on, Qt.MouseButton.LeftButton)
    assert settle(qapp, bench.window)
    assert page.walk is not None and page.walk.step is not None and page.walk.step.id == "cut:lid.lid"


def test_a_line_is_pointed_at_in_the_picture(page: BenchPage, qtbot: QtBot) -> None:
    dialog = asked(page, qtbot)
    dialog.kind.setCurrentIndex(dialog.kind.findData("score"))
    ends = dialog.picture.ends()
    told = QAccessible.queryAccessibleInterface(dialog.picture)
    assert told is not None and told.childCount() == len(ends) >= 6
    for name in ("x1", "y2"):
        a, b = ends[name]
        spot = a * 0.62 + b * 0.38
        qtbot.mouseClick(dialog.picture, Qt.MouseButton.LeftButton, pos=spot.toPoint())
        assert dialog.line.currentData() == name and dialog.picture.chosen == name
    dialog.kind.setCurrentIndex(dialog.kind.findData("turned"))
    assert not dialog.picture.isVisible() and dialog.what.count() == 0
    dialog.ask()
    assert "nothing here" in dialog.words.text()
    dialog.close()
