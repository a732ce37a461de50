"""The Form page driven as a maker drives it."""

from __future__ import annotations

import pytest
from PySide6.QtCore import QEvent, QObject, QPoint, QPointF, Qt
from PySide6.QtGui import QImage
from PySide6.QtWidgets import QApplication, QComboBox, QLineEdit, QPushButton
from pytestqt.qtbot import QtBot

from yawning_lantern.desktop.shared.putting import suiting_faces
from yawning_lantern.desktop.shell.workbench import Workbench
from yawning_lantern.desktop.shot import settle
from yawning_lantern.fit import Check
from yawning_lantern.structures import start_design

LEFT = Qt.MouseButton.LeftButton


def rest(bench: Workbench) -> None:
    app = QApplication.instance()
    assert isinstance(app, QApplication) and settle(app, bench.window)


def type_into(qtbot: QtBot, bench: Workbench, name: str, text: str) -> QLineEdit:
    row = bench.form.measures.rows[name]
    field = row.field
    assert isinstance(field, QLineEdit)
    field.setFocus()
    field.selectAll()
    qtbot.keyClicks(field, text)
    qtbot.keyClick(field, Qt.Key.Key_Return)
    rest(bench)
    return field


def colours(bench: Workbench, view: str) -> int:
    """How many colours a view paints: an empty one has few."""
    image: QImage = getattr(bench.form, view).grab().toImage()
    return len({image.pixel(x, y) for x in range(0, image.width(), 3) for y in range(0, image.height(), 3)})


def test_demo_shows_every_view_and_no_trouble(demo: Workbench) -> None:
    assert demo.window.stack.currentWidget() is demo.form
    for view in ("nest", "standing", "flat", "cutaway"):
        assert colours(demo, view) > 12, view
    assert demo.form.advice.isHidden()
    assert demo.form.fits.summary.text().startswith("All ")
    assert "Comet Night keepsake box" in demo.window.windowTitle()


def test_typing_a_size_changes_all_that_follows(demo: Workbench, qtbot: QtBot) -> None:
    study = demo.session.study
    assert study is not None and study.current("layer-3", "base") == pytest.approx(76.2)
    field = type_into(qtbot, demo, "base", "3 7/8")
    study = demo.session.study
    assert study is not None
    assert study.current("box", "base") == pytest.approx(98.425)
    assert study.current("layer-3", "base") == pytest.approx(98.425 - 25.4)
    assert field.text() == "3 ⅞" and field.property("origin") == "given"
    type_into(qtbot, demo, "wall", "1/8 less")
    assert demo.session.study is not None and demo.session.study.current("box", "wall") == pytest.approx(98.425)


def test_nonsense_is_told_under_the_field_and_changes_nothing(demo: Workbench, qtbot: QtBot) -> None:
    before = demo.session.design
    type_into(qtbot, demo, "base", "four and a bit")
    row = demo.form.measures.rows["base"]
    assert "cannot be read" in row.note.text() and row.note.isVisible() and row.field.property("trouble") == "yes"
    assert demo.session.design == before
    type_into(qtbot, demo, "base", "4 1/4")
    assert not row.note.isVisible()


def test_an_impossible_size_is_told_and_the_last_study_stays(demo: Workbench, qtbot: QtBot) -> None:
    study = demo.session.study
    type_into(qtbot, demo, "layer-step", "2")
    assert "base comes out" in demo.form.advice.words.text() and demo.form.advice.isVisible()
    assert demo.session.study is study
    assert "Form is open" in demo.window.band.accessibleDescription() and demo.window.band.toolTip()
    demo.session.undo()
    rest(demo)
    assert demo.form.advice.isHidden()


def test_releasing_a_figure_lets_it_be_worked_out(demo: Workbench, qtbot: QtBot) -> None:
    demo.session.select("tray")
    rest(demo)
    row = demo.form.measures.rows["height"]
    assert row.release.isVisible()
    qtbot.mouseClick(row.release, LEFT)
    rest(demo)
    assert "height" not in demo.session.selected_element().settings
    assert row.origin.text() == "fills its host"


def test_words_are_chosen_from_a_list(demo: Workbench) -> None:
    combo = demo.form.measures.rows["corner"].field
    assert isinstance(combo, QComboBox)
    combo.setCurrentText("plain")
    combo.activated.emit(combo.currentIndex())
    rest(demo)
    study = demo.session.study
    assert study is not None and len(study.pieces[0].panels) == 5


def test_layers_are_added_and_taken_away(demo: Workbench, qtbot: QtBot) -> None:
    type_into(qtbot, demo, "layers", "2")
    study = demo.session.study
    assert study is not None and "layer-3" not in study.resolved and study.resolved["tray"].host == "layer-2"
    demo.session.undo()
    rest(demo)
    assert demo.session.study is not None and "layer-3" in demo.session.study.resolved


def test_undo_and_redo_walk_every_step(demo: Workbench, qtbot: QtBot) -> None:
    seen = [demo.session.design]
    for text in ("3", "3 1/2", "4 1/2"):
        type_into(qtbot, demo, "base", text)
        seen.append(demo.session.design)
    for design in reversed(seen[:-1]):
        qtbot.keyClick(demo.window, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
        rest(demo)
        assert demo.session.design == design
    assert not demo.window.actions_by_id["undo"].isEnabled()
    for design in seen[1:]:
        demo.session.redo()
        rest(demo)
        assert demo.session.design == design
    assert demo.session.study is not None and demo.session.study.current("box", "base") == pytest.approx(4.5 * 25.4)


def drag(qtbot: QtBot, bench: Workbench, parameter: str, by: float) -> None:
    """Drag the first flag of a parameter along the ruler by so many mm."""
    flat = bench.form.flat
    piece = flat.piece()
    assert piece is not None
    layout = flat.layout_of(piece)
    index = next(i for i, f in enumerate(piece.flags) if f.parameter == parameter and f.axis == "x")
    start = flat._flag_boxes(piece, layout)[index].center().toPoint()
    qtbot.mousePress(flat, LEFT, pos=start)
    for share in (0.25, 0.5, 0.75, 1.0):
        qtbot.mouseMove(flat, start + QPoint(round(by * share * layout.scale), 0))
        rest(bench)
    qtbot.mouseRelease(flat, LEFT, pos=start + QPoint(round(by * layout.scale), 0))
    rest(bench)


def test_dragging_a_flag_snaps_to_the_groove_and_is_one_step(demo: Workbench, qtbot: QtBot) -> None:
    drag(qtbot, demo, "base", -20.0)
    study = demo.session.study
    assert study is not None
    base = study.current("box", "base") or 0.0
    assert base < 4 * 25.4 - 10
    at = next(f.at for f in study.pieces[0].flags if f.parameter == "base")
    assert at / (25.4 / 8) == pytest.approx(round(at / (25.4 / 8)), abs=1e-6)
    assert study.current("layer-2", "base") == pytest.approx(base - 12.7)
    assert demo.session.history.at == 1
    demo.session.undo()
    rest(demo)
    assert demo.session.study is not None and demo.session.study.current("box", "base") == pytest.approx(101.6)


def test_what_is_dragged_is_painted_before_all_else_is_asked(demo: Workbench, qtbot: QtBot) -> None:
    session, form = demo.session, demo.form
    told: list[str] = []

    class Watch(QObject):
        def eventFilter(self, view: QObject, event: QEvent) -> bool:  # noqa: N802  # Qt names it
            if event.type() == QEvent.Type.Paint:
                told.append(f"{names[view]} painted")
            return False

    names = {form.flat: "flat", form.standing: "standing", form.cutaway: "cutaway", form.nest: "nest"}
    watch = Watch()
    for view in names:
        view.installEventFilter(watch)
    session.studied.connect(lambda: told.append("studied"))
    session.judged.connect(lambda: told.append("judged"))
    session.hand, session._took, session._judging = form.flat, 0.001, 0.001
    session.give("box", "base", 95.0, "base")
    assert told == ["flat painted"] and session.study is not None  # before the event loop turns at all
    assert session.study.current("box", "base") == 95.0 and "assembly" not in vars(session.study)
    session._took = 0.001  # however slow this machine is
    session.give("box", "base", 96.0, "base")
    rest(demo)
    assert told[:4] == ["flat painted", "flat painted", "studied", "judged"]  # once, for the newest
    assert {f"{name} painted" for name in names.values()} <= set(told)
    assert told.count("flat painted") == 2  # what was painted at once is not painted again
    session.hand = None


@pytest.mark.parametrize("kind", ["spinner", "thread-disc"])
def test_names_stand_beside_what_is_punched(kind: str, demo: Workbench) -> None:
    demo.session.start(start_design(kind, {}))
    rest(demo)
    flat = demo.form.flat
    piece = flat.piece()
    assert piece is not None and piece.holes
    layout, image = flat.layout_of(piece), flat.grab().toImage()
    at = [(x, y) for x in range(image.width()) for y in range(image.height())]
    white = [(x, y) for x, y in at if image.pixelColor(x, y).blue() > 215]  # the name: all else is darker
    (hole,) = ([layout.point(*corner) for corner in ring] for ring in piece.holes)
    left, right = min(p.x() for p in hole), max(p.x() for p in hole)
    top, foot = min(p.y() for p in hole), max(p.y() for p in hole)
    assert not [(x, y) for x, y in white if left < x < right and top < y < foot]
    assert len([(x, y) for x, y in white if left - 40 < x < right + 40 and foot <= y < foot + 30]) > 10


def test_flags_move_by_key(demo: Workbench, qtbot: QtBot) -> None:
    flat = demo.form.flat
    flat.setFocus()
    qtbot.keyClick(flat, Qt.Key.Key_F)
    qtbot.keyClick(flat, Qt.Key.Key_Right)
    rest(demo)
    assert demo.session.study is not None
    assert demo.session.study.current("box", "wall") == pytest.approx(4.125 * 25.4)


def test_standing_view_turns_selects_and_opens(demo: Workbench, qtbot: QtBot) -> None:
    view = demo.form.standing
    before = view.grab().toImage()
    qtbot.keyClick(view, Qt.Key.Key_Left)
    assert view.grab().toImage() != before
    qtbot.mouseClick(view, LEFT, pos=view.rect().center())
    rest(demo)
    assert demo.session.selection in ("lid", "mat")
    for value, word in ((100, "open"), (-100, "flat"), (0, "shut")):
        demo.form.slider.setValue(value)
        assert demo.session.position == value / 100, word
    demo.window.commands["more_open"].do()
    assert demo.form.slider.value() == 10


def test_nest_chooses_by_mouse_and_key_and_moves_by_dragging(demo: Workbench, qtbot: QtBot) -> None:
    nest = demo.form.nest
    at = {s.element: QPointF(s.box.left() + 30, s.box.top() + 15).toPoint() for s in nest._sleeves}
    qtbot.mouseClick(nest, LEFT, pos=at["tray"])
    assert demo.session.selection == "tray"
    qtbot.keyClick(nest, Qt.Key.Key_Up)
    assert demo.session.selection == "layer-3"
    qtbot.mousePress(nest, LEFT, pos=at["mat-2"])
    qtbot.mouseMove(nest, at["layer-3"] + QPoint(12, 3))
    qtbot.mouseRelease(nest, LEFT, pos=at["layer-3"])
    rest(demo)
    assert demo.session.study is not None and demo.session.study.resolved["mat-2"].host == "layer-3"


def test_parts_are_put_on_a_face_and_taken_off(demo: Workbench) -> None:
    demo.session.select("layer-2")
    rest(demo)
    over = [face for face, _ in suiting_faces(demo.session, "layer-2", "lid")]
    assert over == ["mouth"]  # lids go over walls, mats on every plain face, those that are free first
    plain = [face for face, _ in suiting_faces(demo.session, "layer-2", "mat")]
    assert "mouth" not in plain and plain.index("left-inside") < plain.index("back-outside")
    demo.form.put("left-inside", "mat")
    rest(demo)
    new = demo.session.selection
    assert demo.session.study is not None and demo.session.study.resolved[new].host == "layer-2"
    demo.form.remove_selected()
    rest(demo)
    assert demo.session.study is not None and new not in demo.session.study.resolved


def test_a_fault_is_told_and_cured_by_one_click(demo: Workbench, qtbot: QtBot) -> None:
    demo.session.select("tray")
    rest(demo)
    type_into(qtbot, demo, "height", "4 1/8")
    fits = demo.form.fits
    assert "clash" in fits.summary.text()
    first = fits.model.checks[0]
    assert isinstance(first, Check) and first.is_clash and first.gap.code == "headroom"
    assert "=" in fits.detail.text()
    button = fits.cures.itemAt(0).widget()
    assert isinstance(button, QPushButton) and "tray" in button.text().lower()
    qtbot.mouseClick(button, LEFT)
    rest(demo)
    assert fits.summary.text().startswith("All ")


def test_cutaway_draws_and_tells_every_gap(demo: Workbench) -> None:
    study = demo.session.study
    assert study is not None
    told = demo.form.cutaway.callouts(study)
    assert {c.check.gap.code for c in told} >= {"layer", "lid", "tray", "headroom", "wall-height"}
    for callout in told:
        length = ((callout.start[0] - callout.end[0]) ** 2 + (callout.start[1] - callout.end[1]) ** 2) ** 0.5
        share = 0.5 if callout.check.gap.where in ("across", "front to back") else 1.0
        assert length == pytest.approx(abs(callout.check.gap.value) * share, abs=1e-6)
    demo.form.cutaway.look_along(0)
    assert "layer" in demo.form.cutaway.accessibleDescription().lower()


def test_units_dark_and_text_size(demo: Workbench, qtbot: QtBot) -> None:
    demo.window.actions_by_id["toggle_units"].trigger()
    rest(demo)
    assert demo.session.design.units == "mm"
    field = demo.form.measures.rows["base"].field
    assert isinstance(field, QLineEdit) and field.text() == "101.6"
    type_into(qtbot, demo, "base", "100")
    assert demo.session.study is not None and demo.session.study.current("box", "base") == pytest.approx(100.0)
    demo.session.undo()
    demo.session.undo()
    rest(demo)
    assert demo.session.design.units == "in" and not demo.window.actions_by_id["toggle_units"].isChecked()
    light = demo.form.standing.grab().toImage().pixelColor(3, 3).lightness()
    demo.window.actions_by_id["toggle_dark"].trigger()
    rest(demo)
    assert demo.form.standing.grab().toImage().pixelColor(3, 3).lightness() < light
    demo.window.commands["larger_text"].do()
    assert demo.window.program.settings.value("text", 0.0, float) == 11.0
    demo.window.actions_by_id["toggle_dark"].trigger()
    demo.window.commands["smaller_text"].do()


def test_everything_has_a_name_for_those_who_listen(demo: Workbench) -> None:
    form = demo.form
    for widget in (form.nest, form.standing, form.flat, form.cutaway, form.slider, form.fits.list, demo.window.band):
        assert widget.accessibleName()
        assert widget.focusPolicy() != Qt.FocusPolicy.NoFocus
    for row in form.measures.rows.values():
        assert row.field.accessibleName()
    index = form.fits.model.index(0)
    assert index.data(Qt.ItemDataRole.AccessibleTextRole)
