"""The Opening page in a real window: found off the GUI thread, stepped, played, reordered, broken, exported."""

from __future__ import annotations

import json
from pathlib import Path

import pytest
from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtWidgets import QApplication, QFileDialog
from pytestqt.qtbot import QtBot

from yawning_lantern.design import Element, Place, add_guest
from yawning_lantern.desktop.opening.lanes import HEAD, ROW
from yawning_lantern.desktop.shell.workbench import Workbench
from yawning_lantern.desktop.shot import settle
from yawning_lantern.structures import start_design

LEFT = Qt.MouseButton.LeftButton


def settled(bench: Workbench) -> None:
    app = QApplication.instance()
    assert isinstance(app, QApplication) and settle(app, bench.window, 60.0)


@pytest.fixture
def opening(demo: Workbench) -> Workbench:
    demo.show_page("opening")
    settled(demo)
    return demo


def drag(qtbot: QtBot, bench: Workbench, row: int, to: int) -> None:
    """Drag a lane by its name to above another row."""
    lanes = bench.opening.lanes
    start, end = QPoint(60, HEAD + row * ROW + ROW // 2), QPoint(60, HEAD + to * ROW + 2)
    qtbot.mousePress(lanes, LEFT, pos=start)
    qtbot.mouseMove(lanes, (start + end) / 2)
    qtbot.mouseMove(lanes, end)
    qtbot.mouseRelease(lanes, LEFT, pos=end)


def test_the_demo_opens_and_says_so(opening: Workbench) -> None:
    page = opening.opening
    assert page.sign.text() == "✓" and page.words.text().startswith("Opens and shuts clear in")
    assert "comes to rest on" in page.meets.text()
    assert page.lanes.parts[0][1] == opening.session.study.resolved["lid"].final.name  # type: ignore[union-attr]  # settled
    assert page.bulk.bulk is not None and "sheets lie in one place" in page.bulk.accessibleDescription()
    assert not page.bar.isVisible() and page.break_it.isEnabled()
    image = page.lanes.grab().toImage()
    wedge = image.pixelColor(int(page.lanes.x_at(0.9)), HEAD + ROW - 8)
    assert wedge == page.lanes.theme.colour("worked")


def test_steps_by_keys_and_scrubbing_move_the_view(opening: Workbench, qtbot: QtBot) -> None:
    page = opening.opening
    page.setFocus()
    shut = page.view.grab().toImage()
    qtbot.keyClick(page, Qt.Key.Key_Right)
    assert page.time == 1.0 and page.now.text().startswith("1  Lift")
    assert page.view.grab().toImage() != shut
    qtbot.keyClick(page, Qt.Key.Key_End)
    assert page.time == page.lanes.count > 2
    qtbot.keyClick(page, Qt.Key.Key_Left)
    assert page.time == page.lanes.count - 1
    qtbot.keyClick(page, Qt.Key.Key_Home)
    assert page.time == 0.0 and page.now.text() == "Now: shut"
    middle = QPoint(int(page.lanes.x_at(1.5)), HEAD + 10)
    qtbot.mouseClick(page.lanes, LEFT, pos=middle)
    assert page.time == pytest.approx(1.5, abs=0.05) and page.now.text().startswith("2  ")
    page.step_back()
    assert page.time == 1.0


def test_it_plays_to_the_end_and_pauses(opening: Workbench, qtbot: QtBot) -> None:
    page = opening.opening
    page.go_to(page.lanes.count - 0.4)
    qtbot.keyClick(page, Qt.Key.Key_Space)
    assert page.play_button.text() == "Pause"
    qtbot.waitUntil(lambda: page.time == page.lanes.count, timeout=5000)
    assert page.play_button.text() == "Play" and page.is_idle
    page.play_opening()  # from the beginning again
    qtbot.waitUntil(lambda: 0.0 < page.time < 2.0, timeout=3000)
    page.play_opening()
    assert page.is_idle


def test_a_lane_dragged_above_the_lid_does_not_work_and_the_way_back_does(opening: Workbench, qtbot: QtBot) -> None:
    page = opening.opening
    found = page.work.current
    names = [e for e, _ in page.lanes.parts]
    drag(qtbot, opening, names.index("box"), 0)
    settled(opening)
    assert [e for e, _ in page.lanes.parts] == ["box", *(e for e in names if e != "box")]
    assert page.sign.text() == "✕" and page.words.text().startswith("This order does not work. Stops at")
    assert " meets " in page.words.text() and "deep" in page.words.text()
    assert "→ " in page.meets.text()  # a fit and a measurement that would cure it
    assert opening.window.band.toolTip().endswith("Opening: it does not open")
    page.go_to(1.0)
    assert page.view.annotations() and page.view.annotations()[0].startswith("meets ")
    qtbot.mouseClick(page.back, LEFT)
    settled(opening)
    assert page.work.current is found and page.sign.text() == "✓"


def test_an_order_that_works_too_is_said_to_work(opening: Workbench) -> None:
    page = opening.opening
    order = [s.motion for s in page.work.current.opening.steps]  # type: ignore[union-attr]  # settled
    page.work.ask(order)
    settled(opening)
    assert page.words.text().startswith("This order works.")


def test_try_to_break_it_tells_what_gives_first_or_that_nothing_does(opening: Workbench, qtbot: QtBot) -> None:
    page = opening.opening
    qtbot.mouseClick(page.break_it, LEFT)
    settled(opening)
    said = page.meets.text().splitlines()[0]
    assert said.startswith(("✓ Tried to break it", "✕ 0.5 mm larger and a fifth thicker, this gives first"))
    broke = page.work.broken
    assert broke is not None and said.startswith("✓") == broke.opening.works


def test_an_edit_makes_the_answer_stale_and_it_is_found_anew(opening: Workbench) -> None:
    page = opening.opening
    old = page.work.current
    opening.session.give("box", "wall", 80.0, "set wall")
    settled(opening)
    new = page.work.current
    assert new is not None and old is not None and new.study is opening.session.study and new.study is not old.study


def test_it_can_be_cancelled_and_taken_up_again(demo: Workbench, qtbot: QtBot) -> None:
    page = demo.opening
    demo.show_page("opening")
    qtbot.waitUntil(page.bar.isVisible, timeout=5000)
    qtbot.mouseClick(page.cancel, LEFT)
    settled(demo)
    if page.work.current is None:  # it had not ended by then
        assert page.anew.isVisible() and page.sign.text() == "?"
        qtbot.mouseClick(page.anew, LEFT)
        settled(demo)
    assert page.sign.text() == "✓"


def test_a_design_in_which_nothing_moves_says_so(bench: Workbench) -> None:
    bench.files.begin(start_design("photo", {}))
    settled(bench)
    bench.show_page("opening")
    settled(bench)
    assert bench.opening.words.text() == "Nothing moves in this design."
    bench.opening.play_opening()
    assert bench.opening.is_idle


def test_a_stop_is_marked_on_the_lane_by_a_square_with_a_cross(bench: Workbench) -> None:
    design = add_guest(
        start_design("explosion-box", {}), "box", Element("inner", "explosion-box", "Inner box"), Place("floor")
    )
    bench.files.begin(design)
    bench.show_page("opening")
    settled(bench)
    page = bench.opening
    motions = bench.session.study.assembly.motions  # type: ignore[union-attr]  # settled
    page.work.ask([k for k, m in enumerate(motions) if m.element == "inner"])
    settled(bench)
    step = page.work.current.opening.steps[0]  # type: ignore[union-attr]  # settled
    assert step.contact is not None
    at = QPointF(page.lanes.x_at(step.contact.at), HEAD + page.lanes.row_of("inner") * ROW + ROW / 2).toPoint()
    image = page.lanes.grab().toImage()
    assert image.pixelColor(at) == Qt.GlobalColor.white  # the middle of the cross
    assert image.pixelColor(at + QPoint(0, 6)) == page.lanes.theme.colour("clash")


def test_the_opening_goes_out_as_pictures_film_and_mesh(
    opening: Workbench, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    for command, name, start in (
        ("export_strip", "s.svg", b"<svg"), ("export_strip", "s.pdf", b"%PDF"),
        ("export_film", "f.gif", b"GIF89a"), ("export_pose", "p.obj", b"#"),
    ):  # fmt: skip
        target = tmp_path / name
        monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a, t=target, **k: (str(t), ""))
        opening.window.actions_by_id[command].trigger()
        settled(opening)
        assert target.read_bytes().startswith(start), name
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a, **k: (str(tmp_path / "f.mov"), ""))
    opening.opening_commands.export_film()
    settled(opening)
    assert opening.window.notices.count() == 1  # told, nothing written
    target = tmp_path / "plan.json"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a, **k: (str(target), ""))
    opening.exports.export_json()
    settled(opening)
    told = json.loads(target.read_text())
    assert [s["step"] for s in told["opening"]] == list(range(1, opening.opening.lanes.count + 1))


def test_commands_of_the_menu_go_to_the_page(opening: Workbench) -> None:
    opening.show_page("form")
    opening.window.actions_by_id["step_on"].trigger()
    assert opening.window.stack.currentWidget() is opening.opening and opening.opening.time == 1.0
    opening.window.actions_by_id["step_back"].trigger()
    assert opening.opening.time == 0.0
    opening.window.actions_by_id["page_opening"].trigger()
    opening.window.actions_by_id["try_to_break"].trigger()
    settled(opening)
    assert opening.opening.work.broken is not None
