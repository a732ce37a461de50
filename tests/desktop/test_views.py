"""The painted views one by one: what they show, how they answer to mouse, wheel and keys."""

from __future__ import annotations

import itertools

import pytest
from PySide6.QtCore import QEvent, QPoint, QPointF, QRectF, Qt
from PySide6.QtGui import QImage, QKeyEvent, QPainter, QWheelEvent
from PySide6.QtWidgets import QApplication, QWidget
from pytestqt.qtbot import QtBot

from yawning_lantern.design import walk
from yawning_lantern.desktop.form.cutaway_view import CutawayView
from yawning_lantern.desktop.form.fit_groups import Group, subject
from yawning_lantern.desktop.shell.workbench import Workbench
from yawning_lantern.desktop.shot import settle
from yawning_lantern.fit import Check
from yawning_lantern.structures import start_design

LEFT = Qt.MouseButton.LeftButton


def rest(bench: Workbench) -> None:
    app = QApplication.instance()
    assert isinstance(app, QApplication) and settle(app, bench.window)


def picture(view: QWidget) -> QImage:
    return view.grab().toImage()


def wheel(view: QWidget, by: int, at: QPointF | None = None) -> None:
    at = at or QPointF(view.rect().center())
    event = QWheelEvent(
        at,
        view.mapToGlobal(at),
        QPoint(),
        QPoint(0, by),
        Qt.MouseButton.NoButton,
        Qt.KeyboardModifier.NoModifier,
        Qt.ScrollPhase.NoScrollPhase,
        False,
    )
    QApplication.sendEvent(view, event)


def key(view: QWidget, code: Qt.Key) -> None:
    QApplication.sendEvent(view, QKeyEvent(QEvent.Type.KeyPress, code, Qt.KeyboardModifier.NoModifier))


@pytest.mark.parametrize("family", ["explosion-box", "lid", "tray", "mat"])
@pytest.mark.parametrize("units", ["in", "mm"])
def test_every_family_is_painted_in_every_view(bench: Workbench, family: str, units: str) -> None:
    bench.files.begin(start_design(family, {}, units=units))
    rest(bench)
    for view in (bench.form.nest, bench.form.standing, bench.form.flat):
        image = picture(view)
        colours = {image.pixel(x, y) for x in range(0, image.width(), 3) for y in range(0, image.height(), 3)}
        assert len(colours) > 3, (family, view.accessibleName())
    assert bench.form.piece_title.text()
    for position in (-1.0, -0.5, 0.0, 0.5, 1.0):
        bench.session.move_to(position)
        assert not picture(bench.form.standing).isNull()
    assert bench.session.trouble == ""


def test_flat_view_pages_through_the_pieces_of_a_part(demo: Workbench, qtbot: QtBot) -> None:
    flat = demo.form.flat
    first = demo.form.piece_title.text()
    row = demo.form.pieces
    qtbot.mouseClick(row, LEFT, pos=row.cell(1).center().toPoint())
    assert "tag" in demo.form.piece_title.text() and "cut 2" in demo.form.piece_title.text()
    key(row, Qt.Key.Key_Right)
    assert demo.form.piece_title.text() == first
    key(flat, Qt.Key.Key_PageUp)
    assert "tag" in demo.form.piece_title.text()
    key(row, Qt.Key.Key_Left)
    assert demo.form.piece_title.text() == first
    demo.session.select("lid")
    assert demo.form.piece_title.text().startswith("Comet lid")
    assert "Scores at" in flat.accessibleDescription()


def test_flags_never_cover_each_other_and_point_where_they_stand(demo: Workbench) -> None:
    for part in ("box", "layer-3", "lid", "tray", "tray-lid"):
        demo.session.select(part)
        rest(demo)
        flat = demo.form.flat
        piece = flat.piece()
        assert piece is not None and piece.flags
        layout = flat.layout_of(piece)
        boxes = flat._flag_boxes(piece, layout)
        for i, a in enumerate(boxes):
            for b in boxes[i + 1 :]:
                assert not a.intersects(b), part
        for flag in piece.flags:
            scores = [
                line.start[0 if flag.axis == "x" else 1]
                for line in piece.lines
                if line.kind == "score"
                and abs(line.start[0 if flag.axis == "x" else 1] - line.end[0 if flag.axis == "x" else 1]) < 1e-6
            ]
            assert min(abs(s - flag.at) for s in scores) < 1e-6  # every flag stands on a score


def test_a_flag_stops_where_the_parameter_must(demo: Workbench, qtbot: QtBot) -> None:
    flat = demo.form.flat
    piece = flat.piece()
    assert piece is not None
    before = demo.session.design
    flat._move(piece.flags[0], -500.0)
    rest(demo)
    assert demo.session.design == before
    flat._move(piece.flags[0], piece.flags[0].at + 0.4)  # less than half a groove
    assert demo.session.design == before


def test_keys_without_a_chosen_flag_do_nothing(demo: Workbench) -> None:
    before = demo.session.design
    key(demo.form.flat, Qt.Key.Key_Right)
    assert demo.session.design == before
    demo.session.select("mat")
    rest(demo)
    key(demo.form.flat, Qt.Key.Key_F)  # a mat has no score
    assert demo.session.design == before


def test_standing_view_zooms_moves_and_fits(demo: Workbench, qtbot: QtBot) -> None:
    view = demo.form.standing
    start = view.camera
    wheel(view, 240)
    assert view.camera.zoom > start.zoom
    key(view, Qt.Key.Key_Minus)
    key(view, Qt.Key.Key_Plus)
    middle = view.rect().center()
    qtbot.mousePress(view, LEFT, pos=middle)
    qtbot.mouseMove(view, middle + QPoint(30, 10))
    qtbot.mouseRelease(view, LEFT, pos=middle + QPoint(30, 10))
    key(view, Qt.Key.Key_0)
    assert view.camera == start
    demo.looks.fit_views()
    assert view.camera == start


def test_cutaway_zooms_about_the_pointer_and_fits(demo: Workbench, qtbot: QtBot) -> None:
    view = demo.form.cutaway
    view.setFocus()
    first = picture(view)
    wheel(view, 480, QPointF(60, 60))
    assert picture(view) != first
    key(view, Qt.Key.Key_Plus)
    key(view, Qt.Key.Key_Minus)
    qtbot.mousePress(view, LEFT, pos=QPoint(50, 50))
    qtbot.mouseMove(view, QPoint(80, 90))
    qtbot.mouseRelease(view, LEFT, pos=QPoint(80, 90))
    qtbot.mouseDClick(view, LEFT, pos=QPoint(50, 50))
    assert picture(view) == first
    key(view, Qt.Key.Key_0)
    assert picture(view) == first


@pytest.mark.parametrize("count", [1, 4, 11])
def test_callouts_keep_apart_and_on_the_view(count: int) -> None:
    wanted = [50.0 + k * 2 for k in range(count)]
    ys = CutawayView._spread(wanted, 18.0, 12.0, 220.0)
    assert all(b - a >= 18.0 - 1e-9 for a, b in itertools.pairwise(ys))
    assert min(ys) >= 12.0 and max(ys) <= 220.0


@pytest.mark.parametrize("text", [10.0, 13.0, 15.0])
def test_cutaway_labels_are_whole(demo: Workbench, text: float, monkeypatch: pytest.MonkeyPatch) -> None:
    """What is painted beside the section is every label's own words, none cut off, over another or off the view."""
    view = demo.form.cutaway
    demo.window.resize(1280, 800)
    demo.window.program.resize_text(text - demo.window.program.text_size)
    QApplication.processEvents()
    written: list[tuple[QRectF, str]] = []
    write = QPainter.drawText

    def noted(painter: QPainter, box: object, flags: object, *words: object) -> None:
        if isinstance(box, QRectF) and words and isinstance(words[-1], str):
            written.append((QRectF(box), words[-1]))
        write(painter, box, flags, *words)

    monkeypatch.setattr(QPainter, "drawText", noted)
    for axis in (0, 1):
        view.look_along(axis)
        written.clear()
        view.grab()
        labels = [(box, words) for box, words in written if words != "contents"]
        told = sorted(words.replace("\n", " · ") for _, words in labels)
        assert told == sorted(note.text for note in view._notes_now)
        for (a, _), (b, _) in itertools.combinations(labels, 2):
            assert not a.adjusted(0, 1, 0, -1).intersects(b.adjusted(0, 1, 0, -1))
        assert all(QRectF(view.rect()).adjusted(-1, -1, 1, 1).contains(box) for box, _ in labels)


def test_what_follows_is_folded_behind_what_is_the_makers(demo: Workbench, qtbot: QtBot) -> None:
    measures = demo.form.measures
    demo.window.resize(1280, 800)
    demo.session.select("lid")
    QApplication.processEvents()
    given = set(demo.session.selected_element().settings)
    assert given <= {n for n, r in measures.rows.items() if r.field.isVisible()}
    assert not measures.rows["over-width"].field.isVisible()  # it follows the box
    assert measures.more.text().startswith("▸") and "more that follow" in measures.more.text()
    qtbot.mouseClick(measures.more, LEFT)
    assert measures.rows["over-width"].field.isVisible() and measures.more.text().startswith("▾")
    demo.session.select("box")
    QApplication.processEvents()
    assert measures.rows["content-width"].field.isVisible()  # it stays unfolded
    qtbot.mouseClick(measures.more, LEFT)
    assert not measures.rows["content-width"].field.isVisible()
    assert measures.rows["content-width"].label.text() == "Width"  # the heading says of what


@pytest.mark.parametrize(("text", "size"), [(10.0, (1280, 800)), (10.0, (1024, 700)), (15.0, (1280, 800))])
def test_no_label_is_broken_inside_a_word_nor_cut_off(demo: Workbench, text: float, size: tuple[int, int]) -> None:
    demo.window.resize(*size)
    demo.window.program.resize_text(text - demo.window.program.text_size)
    measures = demo.form.measures
    measures.more.setChecked(True)
    for element in walk(demo.session.design.root):
        demo.session.select(element.id)
        QApplication.processEvents()
        panel = measures.parentWidget().width()
        assert measures.width() <= panel, element.id
        for name, row in measures.rows.items():
            metrics = row.label.fontMetrics()
            longest = max(metrics.horizontalAdvance(word) for word in row.label.text().split())
            assert row.label.width() >= longest, (element.id, name, text)
            assert not row.origin.isVisible() or row.origin.width() >= row.origin.sizeHint().width()
            assert row.field.width() >= 60


def test_nest_keys_stay_within_the_nest(demo: Workbench) -> None:
    nest = demo.form.nest
    key(nest, Qt.Key.Key_Up)
    assert demo.session.selection == "box"
    for _ in range(30):
        key(nest, Qt.Key.Key_Down)
    assert demo.session.selection == "mat-3"
    boxes = {s.element: s.box for s in nest._sleeves}
    assert boxes["box"].contains(boxes["layer-2"]) and boxes["tray"].contains(boxes["tray-lid"])
    assert not boxes["lid"].intersects(boxes["layer-2"])


def test_a_part_is_not_put_where_it_cannot_be(demo: Workbench) -> None:
    before = demo.session.design
    demo.form.nest.put("layer-2", "tray")  # the tray is inside it
    rest(demo)
    assert demo.session.design == before and demo.form.advice.isVisible()
    demo.form.nest.put("box", "tray")  # the root stays
    demo.form.nest.put("tray", "layer-3")  # it is there already
    assert demo.session.design == before


def test_fits_list_keeps_the_chosen_one(demo: Workbench) -> None:
    fits = demo.form.fits
    fits.choose(next(c for c in fits.model.checks if c.gap.code == "lid").gap.key)
    assert "Lid over box" in fits.detail.text() and "Asked:" in fits.detail.text()
    demo.session.give("lid", "rim", 28.0, "rim")
    rest(demo)
    assert "Lid over box" in fits.detail.text()
    assert fits.cures.count() == 0  # nothing is wrong with it


def test_fits_are_grouped_by_what_they_join(demo: Workbench, qtbot: QtBot) -> None:
    fits = demo.form.fits
    study = demo.session.study
    assert study is not None
    groups = [row for row in fits.model.rows if isinstance(row, Group)]
    # every fit is in one group, and where all is well only the groups are shown
    assert len(groups) == len(fits.model.rows) < len(study.checks)
    assert sorted(c.gap.code for g in groups for c in g.checks) == sorted(c.gap.code for c in study.checks)
    assert any(" over " in g.title for g in groups) and all("as asked" in g.words for g in groups)
    # a click unfolds and folds again; the words of a check name what the group does not
    at = fits.list.visualRect(fits.model.index(0)).center()
    qtbot.mouseClick(fits.list.viewport(), LEFT, pos=at)
    assert fits.model.rows[1 : 1 + len(groups[0].checks)] == list(groups[0].checks)
    assert groups[0].title not in subject(groups[0].checks[0], study)
    assert "unfolded" in fits.model.index(0).data(Qt.ItemDataRole.AccessibleTextRole)
    qtbot.mouseClick(fits.list.viewport(), LEFT, pos=at)
    assert len(fits.model.rows) == len(groups)
    # what is wrong comes first, unfolded and chosen; a narrow list makes rows taller, not words shorter
    demo.session.give("tray", "height", 104.8, "too tall")
    rest(demo)
    first, second = fits.model.rows[:2]
    assert isinstance(first, Group) and first.wrong and isinstance(second, Check) and second.is_clash
    assert fits.list.currentIndex().row() == 1
    tall = [fits.list.visualRect(fits.model.index(k)).height() for k in range(2)]
    fits.list.resize(130, fits.list.height())
    QApplication.processEvents()
    assert sum(fits.list.sizeHintForIndex(fits.model.index(k)).height() for k in range(2)) > sum(tall)


def test_recovery_folder_that_cannot_be_written_is_told(
    demo: Workbench, tmp_path_factory: pytest.TempPathFactory
) -> None:
    blocked = tmp_path_factory.mktemp("blocked") / "file"
    blocked.write_text("in the way")
    demo.session.recovery.folder = blocked.parent
    demo.session.recovery.file = blocked / "x.autosave"
    demo.session.give("lid", "rim", 26.0, "rim")
    rest(demo)
    demo.session.autosave()
    assert "autosave failed" in demo.form.advice.words.text()
    demo.session.recovery.file = blocked.parent / "y.autosave"
    demo.session.autosave()
    assert (blocked.parent / "y.autosave").exists()


def test_a_part_gets_a_name_of_its_own(demo: Workbench, monkeypatch: pytest.MonkeyPatch) -> None:
    from PySide6.QtWidgets import QInputDialog

    monkeypatch.setattr(QInputDialog, "getText", lambda *a, **k: ("Eclipse lid", True))
    demo.session.select("lid")
    demo.editing.rename()
    rest(demo)
    assert demo.session.study is not None and demo.session.study.resolved["lid"].part.name == "Eclipse lid"
    assert any("Eclipse lid" in c.gap.between[0] for c in demo.session.study.checks)
    demo.form.remove_selected()
    rest(demo)
    assert demo.session.study is not None and "lid" not in demo.session.study.resolved


def test_text_size_has_ends_and_switches_are_kept(bench: Workbench) -> None:
    for _ in range(3):
        bench.window.commands["smaller_text"].do()
    assert bench.window.program.text_size == 7.0
    bench.window.commands["smaller_text"].do()
    assert bench.window.program.text_size == 7.0
    bench.window.actions_by_id["toggle_units"].trigger()
    assert bench.window.program.settings.value("units") == "mm"
    card = bench.idea.asking.cards["contents"]
    assert card.fields["content-width"].text() == "60"
    bench.window.actions_by_id["toggle_units"].trigger()
    assert card.fields["content-width"].text() == "2 3/8"


def test_the_band_goes_from_page_to_page(demo: Workbench, qtbot: QtBot) -> None:
    band = demo.window.band
    seen = [band.current]
    for _ in range(5):
        key(band, Qt.Key.Key_Down)
        seen.append(band.current)
    assert sorted(seen) == ["bench", "form", "idea", "opening", "sheets", "stock"]
    qtbot.mouseClick(band, LEFT, pos=QPoint(20, 20))
    assert band.current == "idea" and demo.window.stack.currentWidget() is demo.idea
    demo.window.commands["page_form"].do()
    assert "Form is open" in band.accessibleDescription()
    demo.window.commands["page_stock"].do()
    demo.window.commands["page_idea"].do()
    assert band.current == "idea"


def test_a_part_is_turned_by_a_command(demo: Workbench) -> None:
    assert not demo.window.actions_by_id["turn_part"].isEnabled()  # the root lies as it lies
    demo.session.select("tray")
    before = demo.session.study
    assert before is not None
    demo.window.actions_by_id["turn_part"].trigger()
    rest(demo)
    after = demo.session.study
    assert after is not None and after.resolved["tray"].place.turn == 1
    assert after.current("tray", "width") == pytest.approx(before.current("tray", "depth") or 0.0)
    assert not after.has_clash
    for _ in range(3):
        demo.editing.turn()
        rest(demo)
    assert demo.session.design.root == before.design.root
    demo.session.undo()
    rest(demo)
    assert demo.session.study is not None and demo.session.study.resolved["tray"].place.turn == 3
