"""The Sheets page, driven as a maker would: what is shown is the plan, and the plan is of the design as it is now."""

from __future__ import annotations

from collections import Counter
from itertools import combinations, pairwise
from pathlib import Path

import numpy as np
import pytest
from PySide6.QtCore import QEvent, QPoint, QPointF, QRectF, Qt
from PySide6.QtGui import QAccessible, QMouseEvent
from PySide6.QtWidgets import QApplication, QFileDialog
from pytestqt.qtbot import QtBot

from yawning_lantern.design import set_stock
from yawning_lantern.desktop.sheets import work as module
from yawning_lantern.desktop.sheets.page import SheetsPage
from yawning_lantern.desktop.sheets.sheet_painter import free_room
from yawning_lantern.desktop.shell.workbench import Workbench
from yawning_lantern.desktop.shot import settle
from yawning_lantern.sheets import Board, Effort, Move, Plan, SheetPlan

from ..conftest import designed


@pytest.fixture
def page(bench: Workbench, qapp: QApplication, monkeypatch: pytest.MonkeyPatch) -> SheetsPage:
    monkeypatch.setattr(module, "USUAL", Effort(moves=20, seconds=5.0, proof=0.5))
    bench.window.resize(1280, 800)
    bench.session.start(designed("explosion-box", base=4, wall=3, lid="easy"))
    bench.show_page("sheets")
    assert settle(qapp, bench.window)
    return bench.sheets


def shown(page: SheetsPage) -> list[str]:
    return [page.cuts.item(k).text() for k in range(page.cuts.count())]


def test_every_piece_is_on_a_sheet_and_every_cut_is_listed(page: SheetsPage) -> None:
    study = page.session.study
    assert study is not None and page.work.current is not None
    placed = Counter(p.piece for sheet in page.view.sheets for p in sheet.placed)
    assert placed == Counter({piece.name: piece.quantity for piece in study.pieces if not piece.bought})
    assert page.summary.text() == f"{page.work.current.plan.count} sheets"
    for k, sheet in enumerate(page.view.sheets):
        page.view.choose(k)
        page.view.chosen.emit(k)
        listed = shown(page)
        if sheet.cuts:
            fences = [cut.fence for cut in sheet.cuts]
            settings = 1 + sum(a != b for a, b in pairwise(fences))
            assert len(listed) == len(sheet.cuts) + settings and listed[0].startswith("Fence at")
        else:
            assert listed == ["The sheet is used whole: no cut."]
    assert any("Cardstock 216" in page.buy.item(k).text() for k in range(page.buy.count()))


def test_a_click_on_a_piece_chooses_its_part(page: SheetsPage, qtbot: QtBot) -> None:
    page.session.select("box")
    k, placed = next((k, p) for k, s in enumerate(page.view.sheets) for p in s.placed if p.piece == "Lid")
    spot = page.view.place(k, placed).center().toPoint()
    qtbot.mouseClick(page.view, Qt.MouseButton.LeftButton, pos=QPoint(spot))
    assert page.session.selection == "lid" and page.view.at == k and "Lid" in page.view.marked
    page.session.select("box")
    assert "Lid" not in page.view.marked  # and the other way round


def test_copies_and_one_setting_for_all(page: SheetsPage, qapp: QApplication) -> None:
    one = page.work.current
    assert one is not None and one.counts[0] == one.plan.count
    page.copies.setValue(3)
    assert settle(qapp, page.window())
    three = page.work.current
    assert three is not None and three.copies == 3 and one.plan.count < three.plan.count <= 3 * one.plan.count
    page._ways.button(1).click()
    assert settle(qapp, page.window())
    together = page.work.current
    assert together is not None and together.together and together.plan.settings <= three.plan.settings


def test_an_edit_lays_the_sheets_out_anew_and_trouble_is_told(page: SheetsPage, qapp: QApplication) -> None:
    before = page.work.current
    page.session.give("box", "base", 80.0, "base")
    assert settle(qapp, page.window())
    after = page.work.current
    assert after is not None and after is not before and after.study is page.session.study
    page.session.give("box", "wall", 150.0, "wall")  # 80 + 2 × 150 mm: no sheet holds that
    page.session.give("box", "piecing", "one", "piecing")
    assert settle(qapp, page.window())
    assert "cannot be cut" in page.note.text() and "{" not in page.note.text() and page.work.current is None


def test_looking_can_be_given_up(page: SheetsPage, qapp: QApplication, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(module, "USUAL", Effort(moves=10**9, seconds=600.0, proof=600.0))
    page.copies.setValue(7)
    page.enough.click()
    assert settle(qapp, page.window(), 30.0)


def test_sheets_are_spoken_and_walked_with_the_keys(page: SheetsPage, qtbot: QtBot) -> None:
    spoken = QAccessible.queryAccessibleInterface(page.view)
    assert spoken.childCount() == len(page.view.sheets)
    assert "Lid" in "".join(spoken.child(k).text(QAccessible.Text.Name) for k in range(spoken.childCount()))
    page.view.choose(0)
    qtbot.keyClick(page.view, Qt.Key.Key_Right)
    assert page.view.at == 1 and spoken.child(1).state().selected


def test_a_sheet_marked_as_cut_goes_from_the_drawer_and_off_cuts_go_in(page: SheetsPage, qapp: QApplication) -> None:
    drawer = page.drawer.workshop()
    assert drawer is not None
    drawer.count("card-216", 10)
    k = next(k for k, sheet in enumerate(page.view.sheets) if any(left.useful for left in sheet.left))
    page.view.choose(k)
    page.view.chosen.emit(k)
    page.done.click()
    useful = page.view.sheets[k].kept
    assert drawer.counts() == {"card-216": 9}
    assert [(o.width, o.height) for o in drawer.off_cuts()] == [(p.width, p.height) for p in useful]
    assert page.view.cut == {k} and "Take back" in page.done.text()
    assert "9 in the drawer" in page.buy.item(0).text()
    page.done.click()
    assert drawer.counts() == {"card-216": 10} and drawer.off_cuts() == () and page.view.cut == frozenset()
    # what is kept is used first where that is asked
    before = page.work.current
    assert before is not None
    drawer.keep("card-216", 300.0, 300.0, "kept")
    page.kept.click()
    assert settle(qapp, page.window())
    after = page.work.current
    assert after is not None and after.plan.count < before.plan.count
    at = next(k for k, sheet in enumerate(page.view.sheets) if sheet.board.kept)
    page.view.choose(at)
    page.view.chosen.emit(at)
    page.done.click()
    assert all(one.name != "kept" for one in drawer.off_cuts()) and drawer.counts() == {"card-216": 10}


def test_a_drawer_that_cannot_be_used_is_told(page: SheetsPage) -> None:
    page.drawer.path.unlink(missing_ok=True)
    page.drawer.path.mkdir()
    page.kept.click()
    assert "drawer cannot be used" in page.note.text()


def test_sheets_go_out_as_pages_and_as_a_list(
    page: SheetsPage, bench: Workbench, qapp: QApplication, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    for command, name in (("export_sheets", "s.pdf"), ("export_cuts", "c.csv")):
        monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_, name=name: (str(tmp_path / name), ""))
        bench.window.actions_by_id[command].trigger()
        assert settle(qapp, bench.window)
    assert (tmp_path / "s.pdf").read_bytes().startswith(b"%PDF")
    rows = (tmp_path / "c.csv").read_text().splitlines()
    assert len(rows) == 1 + sum(len(sheet.cuts) for sheet in page.view.sheets)
    at = page.view.at
    bench.window.actions_by_id["next_sheet"].trigger()
    assert page.view.at == (at + 1) % len(page.view.sheets)
    bench.window.actions_by_id["mark_cut"].trigger()
    assert page.view.cut == {page.view.at}


# -- by hand


def centre(page: SheetsPage, k: int, rank: int) -> QPoint:
    return page.view.place(k, page.view.sheets[k].placed[rank]).center().toPoint()


def drag(page: SheetsPage, qtbot: QtBot, start: QPoint, end: QPoint) -> None:
    qtbot.mousePress(page.view, Qt.MouseButton.LeftButton, pos=start)
    for share in (0.3, 0.7, 1.0):
        at = QPointF(start) + (QPointF(end) - QPointF(start)) * share
        move = QMouseEvent(QEvent.Type.MouseMove, at, page.view.mapToGlobal(at), Qt.MouseButton.NoButton,
                           Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier)  # fmt: skip
        page.view.mouseMoveEvent(move)
        page.view.grab()
    qtbot.mouseRelease(page.view, Qt.MouseButton.LeftButton, pos=end)


def test_a_piece_is_dragged_and_told_what_it_costs(page: SheetsPage, qtbot: QtBot, qapp: QApplication) -> None:
    planned = page.work.current
    assert planned is not None
    before = planned.plan
    k = next(k for k, s in enumerate(page.view.sheets) if any(p.piece == "Lid" for p in s.placed))
    rank = next(n for n, p in enumerate(page.view.sheets[k].placed) if p.piece == "Lid")
    corner = page.view.box(k).topRight().toPoint() + QPoint(-6, 6)
    drag(page, qtbot, centre(page, k, rank), corner)
    after = page.work.current
    assert after is not None and after.plan != before and "Lid is locked there" in page.note.text()
    sheet, lies = next((s, p) for s in after.plan.sheets for p in s.placed if p.piece == "Lid")
    assert (lies.x + lies.width, lies.y + lies.height) == pytest.approx((sheet.board.width, sheet.board.height))
    assert len(page.hand.locks) == 1 and page.hand.pin.text() == "Free the piece"
    # what is not locked is laid anew, and the lid stays
    page.hand.anew.click()
    assert settle(qapp, page.window())
    anew = page.work.current
    assert anew is not None
    still = next(p for s in anew.plan.sheets for p in s.placed if p.piece == "Lid")
    assert (still.x, still.y) == pytest.approx((lies.x, lies.y)) and len(page.hand.locks) == 1
    page.view.choose(next(k for k, s in enumerate(page.view.sheets) if still in s.placed))
    page.view.choose_piece(page.view.sheets[page.view.at].placed.index(still))
    page.hand.pin.click()
    assert not page.hand.locks
    assert page.work.current is not None and page.work.current.plan.count == anew.plan.count


def test_a_move_is_taken_back(page: SheetsPage, qtbot: QtBot) -> None:
    planned = page.work.current
    assert planned is not None and not page.hand.back.isEnabled()
    k = next(k for k, s in enumerate(page.view.sheets) if len(s.placed) >= 1)
    drag(page, qtbot, centre(page, k, 0), page.view.box(k).topRight().toPoint() + QPoint(-4, 4))
    assert page.hand.back.isEnabled()
    page.hand.back.click()
    assert page.work.current is planned and page.view.sheets == planned.plan.sheets and not page.hand.back.isEnabled()


def test_by_keys_a_piece_goes_to_the_next_sheet(page: SheetsPage, qtbot: QtBot, qapp: QApplication) -> None:
    assert len(page.view.sheets) > 1
    page.view.setFocus()
    page.view.choose(0)
    qtbot.keyClick(page.view, Qt.Key.Key_Space)
    piece = page.view.piece()
    assert piece is not None
    qtbot.keyClick(page.view, Qt.Key.Key_Right, Qt.KeyboardModifier.ShiftModifier)
    after = page.work.current
    told = page.note.text()
    assert after is not None and ("locked there" in told or "does not fit" in told)
    if "locked there" in told:
        assert page.view.piece() is not None and (page.view.at, page.view.rank) in page.hand.locks
    qtbot.keyClick(page.view, Qt.Key.Key_Right)
    assert settle(qapp, page.window())


def test_a_piece_stays_on_its_own_paper(page: SheetsPage, qtbot: QtBot, qapp: QApplication) -> None:
    page.session.edit(set_stock(page.session.design, "lid", "card-176"), "choose")
    assert settle(qapp, page.window())
    papers = [s.board.stock for s in page.view.sheets]
    a, b = papers.index("card-216"), papers.index("card-176")
    plan = page.work.current
    drag(page, qtbot, centre(page, b, 0), page.view.box(a).center().toPoint())
    assert page.work.current is plan and not page.hand.locks
    page.hand.put(Move(b, 0, a, 10.0, 10.0))
    assert "another paper" in page.note.text()


@pytest.mark.parametrize(
    ("sheets", "settings", "words"),
    [(0, 0, "It costs nothing."), (1, 0, "It takes a sheet more."), (0, -1, "The fence is set once less."),
     (-2, 3, "It takes 2 sheets less and the fence is set 3 times more.")],
)  # fmt: skip
def test_what_a_move_costs_in_words(sheets: int, settings: int, words: str) -> None:
    board = Board("sheet", "a", 100.0, 100.0)
    before = Plan((SheetPlan(board, (), (), ()),) * 5, 0, 10, ())
    after = Plan((SheetPlan(board, (), (), ()),) * (5 + sheets), 0, 10 + settings, ())
    assert module.cost_words(before, after) == words


@pytest.mark.parametrize("seed", range(40))
def test_names_stand_in_the_largest_place_that_outlines_leave(seed: int) -> None:
    # against every rectangle of whole pixels, counted on a grid by summed areas
    rng = np.random.default_rng(seed)
    wide, high = rng.integers(8, 16, 2)
    grid = np.zeros((high, wide), int)
    taken = []
    for _ in range(rng.integers(0, 5)):
        x, y = rng.integers(0, wide - 2), rng.integers(0, high - 2)
        w, h = rng.integers(1, 4, 2)
        grid[y : y + h, x : x + w] = 1
        taken.append(QRectF(x + 100, y + 50, w, h))
    sums = np.pad(grid.cumsum(0).cumsum(1), ((1, 0), (1, 0)))
    best = max(
        (b - a) * (d - c)
        for a, b in combinations(range(wide + 1), 2)
        for c, d in combinations(range(high + 1), 2)
        if sums[d, b] - sums[c, b] - sums[d, a] + sums[c, a] == 0
    )
    part = QRectF(100, 50, wide, high)
    found = free_room(part, taken)
    assert part.contains(found) and not any(box.intersects(found) for box in taken)
    assert found.width() * found.height() == pytest.approx(best)
