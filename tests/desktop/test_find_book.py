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
