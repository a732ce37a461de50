"""A book from one sheet: wishes asked on the screen, an answer chosen, and the design that comes of it."""

from __future__ import annotations

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from yawning_lantern.desktop.idea.book_cards import words_of
from yawning_lantern.desktop.idea.finding import FindBook
from yawning_lantern.desktop.shared.spoken import Spoken
from yawning_lantern.desktop.shell.workbench import Workbench
from yawning_lantern.desktop.shot import settle


@pytest.fixture
def dialog(bench: Workbench, qapp: QApplication, qtbot: QtBot) -> FindBook:
    bench.window.actions_by_id["find_book"].trigger()
    found = bench.idea.finding
    assert found is not None
    answered(found, qtbot)
    return found


def answered(dialog: FindBook, qtbot: QtBot) -> None:
    qtbot.waitUntil(lambda: dialog.is_idle, timeout=20000)
    QApplication.processEvents()


def test_every_kind_is_shown_with_what_it_gives(dialog: FindBook) -> None:
    assert "6 kinds" in dialog.words.text()
    assert [words_of(book)[0] for book in dialog.cards.books].count("16 pages, 7 pockets") == 4
    spoken = dialog.cards.spoken_items()
    assert len(spoken) == 6 and isinstance(spoken[0], Spoken) and spoken[0].chosen
    assert "6 of 7 pockets" in dialog.detail.text() and "on their heads" in dialog.detail.text()
    picture = dialog.cards.grab().toImage()
    inked = {picture.pixelColor(x, y).name() for x in range(0, 560, 3) for y in range(0, 200, 3)}
    assert dialog.cards.theme.ink in inked and dialog.cards.theme.worked in inked


def test_keys_and_clicks_choose(dialog: FindBook) -> None:
    cards = dialog.cards
    cards.setFocus()
    QTest.keyClick(cards, Qt.Key.Key_Right)
    assert cards.at == 1
    QTest.keyClick(cards, Qt.Key.Key_Down)
    assert cards.at == 1 + cards.columns()
    QTest.keyClick(cards, Qt.Key.Key_Up)
    QTest.keyClick(cards, Qt.Key.Key_Left)
    QTest.keyClick(cards, Qt.Key.Key_Left)
    assert cards.at == 0
    middle = cards.card(2).center()
    QTest.mouseClick(cards, Qt.MouseButton.LeftButton, pos=QPoint(int(middle.x()), int(middle.y())))
    assert cards.at == 2


def test_a_wish_that_cannot_be_had_is_answered_and_led_on(dialog: FindBook, qtbot: QtBot) -> None:
    dialog.upright.setValue(16)
    answered(dialog, qtbot)
    assert "the most is 8" in dialog.words.text() and not dialog.other.isHidden() and dialog.cards.books
    dialog.other.click()
    answered(dialog, qtbot)
    assert (dialog.columns.value(), dialog.rows.value()) == (8, 3)
    assert dialog.other.isHidden() and all(book.upright >= 16 for book in dialog.cards.books)
    dialog.columns.setValue(3)
    answered(dialog, qtbot)
    assert "No 3 × 3" in dialog.words.text() and not dialog.make.isEnabled()


def test_wishes_hold(dialog: FindBook, qtbot: QtBot) -> None:
    dialog.rim_only.setChecked(True)
    answered(dialog, qtbot)
    assert [len(book.slits) for book in dialog.cards.books] == [3]
    dialog.rim_only.setChecked(False)
    dialog.hide_back.setChecked(True)
    answered(dialog, qtbot)
    assert dialog.cards.books and all(not book.backs for book in dialog.cards.books)
    assert "hidden" in dialog.detail.text()


def test_the_chosen_one_becomes_a_design(dialog: FindBook, bench: Workbench, qapp: QApplication, qtbot: QtBot) -> None:
    dialog.width_field.setText("twelve")
    dialog.take()
    assert dialog.words.text().startswith("✕") and dialog.isVisible()
    dialog.width_field.setText("10")
    dialog.height_field.setText("12")
    dialog.cards.choose(1)
    path = [f"c{c + 1}r{r + 1}" for c, r in dialog.cards.books[1].trunk.path]
    dialog.make.click()
    assert settle(qapp, bench.window)
    root = bench.session.design.root
    assert root.family == "grid-sheet" and root.settings["path"] == " ".join(path)
    study = bench.session.study
    assert study is not None
    assert study.resolved[root.id].sizes["page-width"].length == pytest.approx(63.5)
    assert not study.has_clash and bench.idea.finding is None


def test_a_path_of_ones_own(dialog: FindBook, bench: Workbench, qapp: QApplication, qtbot: QtBot) -> None:
    """Drawn with mouse and keys; told at once; what is left over is cut away; made a design."""
    dialog.cards.choose(0)
    dialog.own.setChecked(True)
    answered(dialog, qtbot)
    pad = dialog.pad
    assert pad.path == dialog.cards.books[0].trunk.path and not dialog.wishes.isVisible()
    assert "16 pages of 3 × 3″, 7 pockets" in dialog.detail.text()
    sixth = pad.cell_box(pad.path[5]).center()  # a click on the path goes back to there
    QTest.mouseClick(pad, Qt.MouseButton.LeftButton, pos=QPoint(int(sixth.x()), int(sixth.y())))
    assert len(pad.path) == 6
    QTest.keyClick(pad, Qt.Key.Key_Up)
    QTest.keyClick(pad, Qt.Key.Key_Right)
    assert pad.path[6:] == ((2, 2), (3, 2))
    QTest.keyClick(pad, Qt.Key.Key_Right)  # off the sheet: nothing
    QTest.keyClick(pad, Qt.Key.Key_Backspace)
    answered(dialog, qtbot)
    assert len(pad.path) == 7 and "9 cells are off-cuts" in dialog.detail.text()
    spoken = pad.spoken_items()
    assert len(spoken) == 16 and sum("cut away" in one.words for one in spoken) == 9
    trunk = pad.trunk()
    assert trunk is not None
    slits = {frozenset(s) for s in pad.slits(trunk)}
    assert frozenset(((0, 1), (1, 1))) in slits and frozenset(((0, 3), (1, 3))) not in slits  # none in what is cut away
    dialog.width_field.setText("")
    assert dialog.detail.text().startswith("✕") and not dialog.make.isEnabled()
    dialog.width_field.setText("12")
    answered(dialog, qtbot)
    dialog.make.click()
    assert settle(qapp, bench.window)
    assert bench.session.design.root.settings["path"] == "c1r1 c2r1 c3r1 c4r1 c4r2 c3r2 c3r3"


def test_a_path_is_begun_anew_on_another_grid(dialog: FindBook, qtbot: QtBot) -> None:
    dialog.own.setChecked(True)
    for _ in range(2):
        dialog.pad.step_to(dialog.pad.path[0])
    assert dialog.pad.path == () and dialog.pad.trunk() is None
    dialog.pad.setFocus()
    QTest.keyClick(dialog.pad, Qt.Key.Key_Right)
    assert dialog.pad.path == ((0, 0),)
    dialog.pad.step_to((3, 3))  # not beside it
    assert dialog.pad.path == ((0, 0),)
    answered(dialog, qtbot)
    assert "Go on" in dialog.detail.text() and not dialog.make.isEnabled()
    dialog.pad.step_to((0, 1))
    dialog.pad.step_to((0, 2))
    dialog.rows.setValue(2)
    answered(dialog, qtbot)
    assert dialog.pad.path == ()
    dialog.own.setChecked(False)
    answered(dialog, qtbot)
    assert dialog.wishes.isVisible() and dialog.cards.books


def test_examples_are_opened_from_the_menu(bench: Workbench, qapp: QApplication) -> None:
    menu = bench.window.examples_menu
    menu.aboutToShow.emit()
    names = [action.text() for action in menu.actions()]
    assert {"Tide-table maze book", "Entry card pouch", "Comet Night set"} <= set(names)
    menu.actions()[names.index("Tide-table maze book")].trigger()
    assert settle(qapp, bench.window)
    assert bench.session.design.root.family == "maze-book" and bench.session.path is None


def test_a_long_search_can_be_stopped(dialog: FindBook, qtbot: QtBot) -> None:
    dialog.columns.setValue(8)
    dialog.rows.setValue(8)
    assert not dialog.halt.isHidden()
    qtbot.wait(150)
    dialog.stop()
    answered(dialog, qtbot)
    assert dialog.answer is not None and not dialog.answer.complete
    assert "topped" in dialog.words.text() and dialog.halt.isHidden()
