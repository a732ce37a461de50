"""What holds a window together: several designs, the clipboard, the search, the tour, help, and the free screen."""

from __future__ import annotations

import itertools
from functools import partial
from pathlib import Path
from types import SimpleNamespace

import pytest
from PySide6.QtCore import QPoint, QRect, QSize, Qt
from PySide6.QtGui import QGuiApplication, QImage
from PySide6.QtWidgets import QApplication, QFileDialog, QMenu
from pytestqt.qtbot import QtBot

from yawning_lantern.design import find, walk
from yawning_lantern.desktop.shared.fitting import dialog_fitting, fitting
from yawning_lantern.desktop.shell import clipboard
from yawning_lantern.desktop.shell.application import bench_of, make_program, new_window
from yawning_lantern.desktop.shell.finder import Deed, matching
from yawning_lantern.desktop.shell.tour import Tour, beside
from yawning_lantern.desktop.shell.window import LEAST, PAGES, USUAL, MainWindow
from yawning_lantern.desktop.shell.workbench import Workbench
from yawning_lantern.desktop.shot import settle

LEFT = Qt.MouseButton.LeftButton


def rest(bench: Workbench) -> None:
    app = QApplication.instance()
    assert isinstance(app, QApplication) and settle(app, bench.window)


def beside_it(bench: Workbench) -> Workbench:
    """One more window, at rest."""
    window = bench.files.open_window()
    app = QApplication.instance()
    assert isinstance(app, QApplication) and settle(app, window)
    return bench_of(window)


# -- several designs


def test_windows_have_designs_of_their_own_and_share_the_looks(demo: Workbench) -> None:
    other = beside_it(demo)
    assert not other.session.is_open and demo.session.is_open
    other.files.open_demo()
    rest(other)
    other.session.give("box", "base", 95.0, "set base")
    rest(other)
    assert demo.session.design.root.settings["base"] != 95.0 and not demo.session.is_dirty
    other.window.actions_by_id["toggle_dark"].trigger()
    for one in (demo, other):
        assert one.window.band.theme.dark and one.form.standing.theme.dark
        assert one.window.actions_by_id["toggle_dark"].isChecked()
    demo._list_windows()
    told = [action.text() for action in demo.window.menus["&Window"].actions()]
    assert told == [demo.window.windowTitle(), other.window.windowTitle()] and told[1].startswith("Comet Night set*")
    other.window.hide()
    other.window.close()
    assert demo.window.program.windows == [demo.window]


def test_two_windows_keep_two_autosaves(demo: Workbench) -> None:
    other = beside_it(demo)
    other.files.open_demo()
    for one, base in ((demo, 96.0), (other, 97.0)):
        one.session.give("box", "base", base, "set base")
        rest(one)
        assert one.session.autosave()
    folder = demo.window.program.state_folder / "autosave"
    assert len(list(folder.glob("*.autosave"))) == 2
    assert not demo.session.recovery.leftovers()  # both still run


# -- the clipboard


def test_a_part_goes_to_another_window_with_all_it_carries(demo: Workbench) -> None:
    carrier = next(e for e in walk(demo.session.design.root) if e.guests and e.id != "box" and e.family != "lid")
    demo.session.select(carrier.id)
    demo.editing.copy()
    other = beside_it(demo)
    other.files.open_demo()
    rest(other)
    before = [e.id for e in walk(other.session.design.root)]
    host = next(e for e in walk(other.session.design.root) if any(g.id == carrier.id for g in e.guests))
    other.session.select(host.id)
    other.editing.paste()
    if other.editing.faces is not None:
        other.editing.faces.actions()[0].trigger()
        other.editing.faces.close()
    rest(other)
    after = list(walk(other.session.design.root))
    new = [e for e in after if e.id not in before]
    assert len(after) == len({e.id for e in after})  # every id is its own
    assert [e.family for e in new] == [e.family for e in walk(carrier)]
    assert [e.settings for e in new] == [e.settings for e in walk(carrier)]
    assert new[0].name != carrier.name and other.session.selection == new[0].id  # sentences tell the two apart
    assert demo.session.design.root == find(demo.session.design, "box")  # nothing happened here


def test_cut_and_paste_and_back(demo: Workbench) -> None:
    part = next(e for e in walk(demo.session.design.root) if e.family == "lid")
    host = next(e for e in walk(demo.session.design.root) if part in e.guests)
    before = demo.session.design
    demo.session.select(part.id)
    demo.editing.cut()
    rest(demo)
    assert part.id not in {e.id for e in walk(demo.session.design.root)} and clipboard.kept() is not None
    demo.session.select(host.id)
    demo.editing.paste()
    rest(demo)
    back = next(e for e in find(demo.session.design, host.id).guests if e.family == "lid")
    assert back.settings == part.settings and back.name == part.name and back.place.face == part.place.face
    demo.session.undo()
    demo.session.undo()
    assert demo.session.design == before


def test_duplicate_takes_a_free_face_first(demo: Workbench) -> None:
    part = next(e for e in walk(demo.session.design.root) if e.family == "mat")
    host = next(e for e in walk(demo.session.design.root) if part in e.guests)
    demo.session.select(part.id)
    demo.editing.duplicate()
    rest(demo)
    twin = find(demo.session.design, demo.session.selection)
    assert twin in find(demo.session.design, host.id).guests and twin.family == part.family and twin.id != part.id
    taken = {g.place.face for g in host.guests if g.place}
    assert twin.place is not None and twin.place.face not in taken


@pytest.mark.parametrize("held", [b"", b"{", b'{"format": "yawning-lantern", "version": 1, "root": {}}'])
def test_what_is_no_part_is_told(demo: Workbench, held: bytes) -> None:
    from PySide6.QtCore import QMimeData

    data = QMimeData()
    if held:
        data.setData(clipboard.MIME, held)
    else:
        data.setText("two eighths")
    QGuiApplication.clipboard().setMimeData(data)
    before = demo.session.design
    demo.editing.paste()
    assert demo.session.design is before
    assert demo.window.notices.count() == (1 if held else 0)
    assert held or "No part is on the clipboard" in demo.window.statusBar().currentMessage()


def test_a_field_keeps_its_own_copy_and_paste(demo: Workbench, qtbot: QtBot) -> None:
    QGuiApplication.clipboard().setText("3 7/8")
    field = next(row.field for row in demo.form.measures.rows.values() if not row.field.isReadOnly())
    field.setFocus()
    field.selectAll()
    before = demo.session.design
    qtbot.keyClick(field, Qt.Key.Key_V, Qt.KeyboardModifier.ControlModifier)
    assert field.text() == "3 7/8" and demo.session.design is before


# -- the search


def test_words_are_found_in_any_order_and_beginnings_first() -> None:
    deeds = [Deed(w, "View", "", print) for w in ("Larger text", "Text smaller", "Millimetres", "Dark")]
    assert [d.words for d in matching(deeds, "text")] == ["Text smaller", "Larger text"]
    assert [d.words for d in matching(deeds, "text larg")] == ["Larger text"]
    assert [d.words for d in matching(deeds, "view dark")] == ["Dark"]
    assert matching(deeds, "glue") == [] and matching(deeds, " ") == deeds


def test_every_command_that_can_be_done_is_found_by_its_words_and_done(demo: Workbench, qtbot: QtBot) -> None:
    deeds = demo.guidance.deeds()
    can = {c.plain for c in demo.window.commands.values() if c.when()} - {"Find a command or a part"}
    assert {d.words for d in deeds if d.where != "part"} == can
    for deed in deeds:
        assert deed in matching(deeds, deed.words)
    demo.window.actions_by_id["find_command"].trigger()
    finder = demo.guidance.finder
    assert finder is not None and finder.isVisible()
    qtbot.keyClicks(finder.field, "idea")
    qtbot.keyClick(finder.field, Qt.Key.Key_Return)
    assert demo.shown_page() == "idea" and not finder.isVisible()


def test_parts_are_found_and_chosen(demo: Workbench, qtbot: QtBot) -> None:
    demo.show_page("stock")
    part = list(walk(demo.session.design.root))[3]
    demo.guidance.find()
    finder = demo.guidance.finder
    assert finder is not None
    qtbot.keyClicks(finder.field, f"{part.name} part")
    qtbot.keyClick(finder.field, Qt.Key.Key_Down)
    qtbot.keyClick(finder.field, Qt.Key.Key_Up)
    qtbot.keyClick(finder.field, Qt.Key.Key_Return)
    assert demo.shown_page() == "form" and demo.session.selection == part.id
    demo.guidance.find()
    assert demo.guidance.finder is not None
    qtbot.keyClicks(demo.guidance.finder.field, "xyzzy")
    assert "Nothing is called that" in demo.guidance.finder.foot.text()
    qtbot.keyClick(demo.guidance.finder.field, Qt.Key.Key_Return)  # does nothing, and nothing breaks
    demo.guidance.finder.close()


# -- help and tour


def test_help_is_of_the_page_one_is_on(demo: Workbench) -> None:
    seen = set()
    for page, words in PAGES:
        demo.show_page(page)
        demo.window.actions_by_id["show_help"].trigger()
        dialog = demo.guidance.dialog
        assert dialog is not None and dialog.isVisible() and words in dialog.windowTitle()
        assert demo.guidance._text is not None
        seen.add(demo.guidance._text.toPlainText())
    assert len(seen) == len(PAGES)
    demo.guidance.show_about()
    assert "MIT" in demo.guidance._text.toPlainText() and "Open Font" in demo.guidance._text.toPlainText()
    demo.guidance.dialog.close()


@pytest.mark.parametrize("size", [QSize(1280, 800), QSize(1024, 700)])
def test_the_tour_comes_once_and_its_notes_stand_whole_beside_what_they_are_about(
    bench: Workbench, qtbot: QtBot, size: QSize
) -> None:
    settings = bench.window.program.settings
    settings.setValue("toured", False)
    bench.window.resize(size)
    bench.files.open_demo()
    rest(bench)
    qtbot.waitUntil(lambda: bench.guidance.tour is not None)
    tour = bench.guidance.tour
    assert isinstance(tour, Tour) and tour.isVisible() and len(tour._stops) == 5
    for at, stop in enumerate(tour._stops):
        assert tour.at == at and tour.title.text() == stop.title
        assert bench.window.rect().contains(tour.geometry())
        assert tour.words.height() >= tour.words.heightForWidth(tour.words.width())
        about = QRect(stop.about.mapTo(bench.window, QPoint(0, 0)), stop.about.size())
        covered = about.intersected(tour.geometry())
        assert covered.width() * covered.height() < 0.5 * about.width() * about.height()
        qtbot.mouseClick(tour.on, LEFT)
    assert not tour.isVisible() and settings.value("toured", False, bool)
    bench.files.open_demo()
    rest(bench)
    assert bench.guidance.tour is tour and not tour.isVisible()


def test_a_note_is_always_whole_in_the_room() -> None:
    for left, top in itertools.product(range(0, 1000, 90), range(0, 700, 70)):
        x, y = beside((left, top, 180, 90), (330, 160), (1024, 700))
        assert 0 <= x <= 1024 - 330 and 0 <= y <= 700 - 160


# -- what the page shows


def test_one_view_fills_the_page_and_all_come_back(demo: Workbench) -> None:
    form = demo.form
    for view in (form.flat, form.cutaway, form.standing):
        view.setFocus()
        before = view.size()
        demo.window.actions_by_id["one_view"].trigger()
        QApplication.processEvents()
        others = [v for v in (form.standing, form.flat, form.cutaway, form.nest, form.fits) if v is not view]
        assert view.isVisible() and not any(v.isVisible() for v in others)
        assert view.width() * view.height() > 2 * before.width() * before.height()
        assert demo.window.actions_by_id["one_view"].isChecked()
        demo.window.actions_by_id["one_view"].trigger()
        QApplication.processEvents()
        assert all(v.isVisible() for v in others)


def shades(image: QImage) -> list[int]:
    return [image.pixel(x, y) for x in range(0, image.width(), 3) for y in range(0, image.height(), 3)]


def test_faces_that_would_take_the_chosen_structure_are_marked_while_one_chooses(demo: Workbench) -> None:
    form = demo.form
    demo.session.move_to(1.0)
    rest(demo)
    form.standing.setFocus()
    plain = shades(form.standing.grab().toImage())
    demo.window.actions_by_id["put_part"].trigger()
    QApplication.processEvents()
    assert form.shelf.hasFocus() and form.standing._offered
    form.shelf.setCurrentRow(next(r for r in range(form.shelf.count()) if form.shelf.item(r).text() == "Mat"))
    assert set(form.standing._offered) == faces_of(demo, demo.session.selection)
    assert shades(form.standing.grab().toImage()) != plain
    form.nest.setFocus()
    assert not form.standing._offered


def test_the_first_window_fits_the_free_screen(window: MainWindow, monkeypatch: pytest.MonkeyPatch) -> None:
    free = QGuiApplication.primaryScreen().availableGeometry()
    assert window.width() <= free.width() and window.height() <= free.height()
    for wide, high in ((1280, 800), (1024, 700), (1920, 1080)):
        screen = SimpleNamespace(availableGeometry=partial(QRect, 0, 0, wide, high))
        monkeypatch.setattr(QGuiApplication, "primaryScreen", lambda screen=screen: screen)
        size = fitting(USUAL, LEAST)
        assert size.width() <= wide and size.height() + 30 <= high  # a title bar has room
        assert size.width() <= 1280 and size.height() <= 800
        large = dialog_fitting(QSize(1480, 900))  # a dialog with large text
        assert large.width() <= wide and large.height() + 30 <= high


@pytest.mark.parametrize("page", [page for page, _ in PAGES])
def test_every_page_can_be_as_small_as_a_small_screen(demo: Workbench, page: str) -> None:
    demo.show_page(page)
    demo.window.resize(1016, 660)
    QApplication.processEvents()
    assert (demo.window.width(), demo.window.height()) == (1016, 660)
    least = demo.window.minimumSizeHint()
    assert least.width() <= 1016 and least.height() <= 660, (page, least)


def test_menus_have_no_two_of_one_key(demo: Workbench) -> None:
    for menu in demo.window.menus.values():
        assert isinstance(menu, QMenu)
        keys = [t[t.index("&") + 1].lower() for a in menu.actions() if "&" in (t := a.text())]
        assert len(keys) == len(set(keys)), (menu.title(), keys)


def test_an_export_that_waits_is_written_before_the_window_goes(
    demo: Workbench, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    for name in ("export_pdf", "export_csv", "export_json"):
        target = tmp_path / name
        monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a, t=target, **k: (str(t), ""))
        demo.window.actions_by_id[name].trigger()
    demo.window.hide()
    demo.window.close()
    assert all((tmp_path / name).stat().st_size > 100 for name in ("export_pdf", "export_csv", "export_json"))


def test_marked_faces_follow_the_chosen_part(demo: Workbench) -> None:
    demo.window.actions_by_id["put_part"].trigger()
    demo.form.shelf.choose("mat")
    before = demo.form.standing._host
    other = next(e for e in walk(demo.session.design.root) if e.id != before and faces_of(demo, e.id))
    demo.session.select(other.id)
    assert demo.form.standing._host == other.id
    assert set(demo.form.standing._offered) == faces_of(demo, other.id)


def faces_of(bench: Workbench, host: str) -> set[str]:
    from yawning_lantern.desktop.shared.putting import suiting_faces

    return {face for face, _ in suiting_faces(bench.session, host, "mat")}


def test_a_design_that_is_opened_at_once_does_not_wait_for_the_pictures_of_idea(
    qapp: QApplication, tmp_path: Path
) -> None:
    program = make_program(tmp_path / "state")
    program.settings.setValue("toured", True)
    window = new_window(program)

    def begin() -> None:
        bench_of(window).files.open_demo()

    window.ready.connect(begin)
    window.show()
    assert settle(qapp, window)
    bench = bench_of(window)
    assert bench.shown_page() == "form" and bench.idea.asking.study is None
    bench.show_page("idea")
    assert settle(qapp, window)
    assert bench.idea.asking.study is not None
    window.hide()
    window.close()


def test_pages_are_made_when_they_are_first_shown(bench: Workbench, qapp: QApplication) -> None:
    assert bench.pages.made == (bench.idea,)
    bench.files.open_demo()
    assert settle(qapp, bench.window)
    for n, page in enumerate(("stock", "opening", "sheets", "bench")):
        assert len(bench.pages.made) == n + 1
        bench.show_page(page)
        assert bench.window.stack.currentWidget() is getattr(bench, page) is bench.pages.made[-1 if n else 1]
        assert settle(qapp, bench.window)
        commands = [c for c in bench.window.commands.values() if c.menu == f"&{page.title()}"]
        assert all(c.when() for c in commands if c.id not in ("move_back", "lock_piece"))


def test_a_design_that_is_opened_at_once_makes_no_idea_page(qapp: QApplication, tmp_path: Path) -> None:
    window = new_window(make_program(tmp_path / "state"))

    def begin() -> None:
        bench_of(window).files.open_demo()

    window.ready.connect(begin)
    window.show()
    assert settle(qapp, window)
    bench = bench_of(window)
    assert bench.pages.made == () and bench.shown_page() == "form" and bench.form.standing.isVisible()
    window.hide()
    window.close()
