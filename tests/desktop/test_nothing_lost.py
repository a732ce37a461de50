"""Work that could be lost, and doors that could jam: typed text, files that others change, autosave, odd folders."""

from __future__ import annotations

import os
from pathlib import Path

import pytest
from PySide6.QtWidgets import QApplication, QFileDialog, QLineEdit, QMessageBox, QPushButton
from pytestqt.qtbot import QtBot

from yawning_lantern.design import Element, Place, add_guest, find, set_value
from yawning_lantern.desktop.shared.notice import Notice
from yawning_lantern.desktop.shell.application import make_program, new_window
from yawning_lantern.desktop.shell.workbench import Workbench
from yawning_lantern.desktop.shot import settle
from yawning_lantern.exchange.design_file import read_design, write_design
from yawning_lantern.exchange.recovery import Recovery
from yawning_lantern.structures import start_design
from yawning_lantern.study import remedies

from ..conftest import designed


def rest(bench: Workbench) -> None:
    app = QApplication.instance()
    assert isinstance(app, QApplication) and settle(app, bench.window)


def typed(bench: Workbench, qtbot: QtBot, element: str, parameter: str, text: str) -> QLineEdit:
    """Type into a field of a part without entering it."""
    bench.session.select(element)
    rest(bench)
    field = bench.form.measures.rows[parameter].field
    assert isinstance(field, QLineEdit)
    field.setFocus()
    field.selectAll()
    qtbot.keyClicks(field, text)
    return field


@pytest.fixture
def answers(monkeypatch: pytest.MonkeyPatch) -> list[QMessageBox.StandardButton]:
    """What is answered to the next questions, and nothing may be asked that was not foreseen."""
    queue: list[QMessageBox.StandardButton] = []

    def answer(box: QMessageBox) -> int:
        assert queue, box.text()
        return int(queue.pop(0))

    monkeypatch.setattr(QMessageBox, "exec", answer)
    return queue


def test_a_design_with_a_refused_value_is_saved_and_opened_again(bench: Workbench, tmp_path: Path) -> None:
    refused = set_value(start_design("explosion-box", {"base": 80.0}), "box", "sheet", 20.0)
    refused = set_value(set_value(refused, "box", "base", None), "box", "wall", 30.0)
    bench.session.start(refused, dirty=True)
    rest(bench)
    assert bench.session.is_refused
    bench.files.save_to(tmp_path / "r.lantern")
    bench.session.start(designed("tray"))
    rest(bench)
    bench.files.open_path(tmp_path / "r.lantern")
    rest(bench)
    assert bench.session.design == refused and bench.session.is_refused
    advice = bench.form.advice
    assert advice.isVisibleTo(bench.form) and advice.change.isEnabled()
    advice.change.click()
    rest(bench)
    assert not bench.session.is_refused and bench.session.study is not None


def test_what_was_typed_goes_to_the_part_it_was_typed_for(demo: Workbench, qtbot: QtBot) -> None:
    before = dict(find(demo.session.design, "box").settings)
    guest = next(e for e in find(demo.session.design, "box").guests if e.family == "explosion-box")
    typed(demo, qtbot, guest.id, "base", "1 1/2")
    demo.form.remove_selected()  # the part goes before Enter
    rest(demo)
    assert find(demo.session.design, "box").settings == before
    assert guest.id not in {e.id for e in find(demo.session.design, "box").guests}
    # and when another part is chosen, it goes to the first
    lid = next(e for e in find(demo.session.design, "box").guests if e.family == "lid")
    field = typed(demo, qtbot, lid.id, "rim", "7/8")
    demo.session.select("box")
    field.editingFinished.emit()
    rest(demo)
    assert find(demo.session.design, "box").settings == before


def test_half_typed_text_is_saved_too(demo: Workbench, qtbot: QtBot, tmp_path: Path) -> None:
    target = tmp_path / "d.lantern"
    demo.files.save_to(target)
    typed(demo, qtbot, "box", "base", "3 7/8")
    demo.window.actions_by_id["save_design"].trigger()
    assert read_design(target).root.settings["base"] == pytest.approx(3.875 * 25.4)


def test_save_as_without_the_suffix_asks_first(
    demo: Workbench, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, answers: list[QMessageBox.StandardButton]
) -> None:
    there = tmp_path / "mine.lantern"
    write_design(designed("tray"), there)
    kept = there.read_bytes()
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a, **k: (str(tmp_path / "mine"), ""))
    answers.append(QMessageBox.StandardButton.Cancel)
    demo.files.save_design_as()
    assert there.read_bytes() == kept and demo.session.path is None
    answers.append(QMessageBox.StandardButton.Save)
    demo.files.save_design_as()
    assert read_design(there) == demo.session.design


def test_a_file_that_someone_else_changed_is_not_overwritten_without_a_word(
    demo: Workbench, tmp_path: Path, answers: list[QMessageBox.StandardButton]
) -> None:
    target = tmp_path / "d.lantern"
    demo.files.save_to(target)
    demo.session.give("box", "base", 90.0, "base")
    demo.files.save_design()  # nobody was there: nothing is asked
    other = designed("tray", width=5)
    write_design(other, target)  # a second window
    demo.session.give("box", "base", 80.0, "base")
    answers.append(QMessageBox.StandardButton.Cancel)
    demo.files.save_design()
    assert read_design(target) == other and demo.session.is_dirty
    answers.append(QMessageBox.StandardButton.Save)
    demo.files.save_design()
    assert read_design(target).root.settings["base"] == 80.0 and not answers


def bad_things(folder: Path) -> None:
    folder.mkdir(parents=True, exist_ok=True)
    (folder / "a.autosave").symlink_to(folder / "nowhere")
    (folder / "b.autosave").write_text("[" * 100_000)
    (folder / "c.autosave").write_text('{"pid": 1e999, "started": null, "design": 3}')
    (folder / "d.autosave").write_bytes(b"\xff\xfe\x00")
    os.mkfifo(folder / "e.autosave")
    (folder / "f.autosave").mkdir()
    (folder / "g.autosave").write_text('{"pid": 999999999, "started": "1", "path": 7, "design": {}}')
    (folder / "h.autosave").symlink_to(folder / "h.autosave")
    (folder / "i.autosave").write_text('{"pid": ' + "9" * 5000 + "}")


def test_one_bad_thing_in_the_autosave_folder_keeps_nothing_from_starting(
    qapp: QApplication, qtbot: QtBot, tmp_path: Path
) -> None:
    folder = tmp_path / "state" / "autosave"
    bad_things(folder)
    good = Recovery(folder)
    good.save(designed("tray", width=5), None)
    record = good.file.read_text().replace(f'"pid": {os.getpid()}', '"pid": 999999999')
    good.file.write_text(record)
    window = new_window(make_program(tmp_path / "state"))
    window.show()
    assert settle(qapp, window) and window.bench is not None
    found = window.bench.session.recovery.leftovers()
    assert [one.design.root.family for one in found] == ["tray"]
    window.hide()
    window.close()
    window.deleteLater()
    qapp.processEvents()


def test_autosave_tells_when_its_folder_cannot_be_made(demo: Workbench, tmp_path: Path) -> None:
    blocked = tmp_path / "file"
    blocked.write_text("no folder")
    demo.session.recovery.folder = blocked / "autosave"
    demo.session.give("box", "base", 90.0, "base")
    rest(demo)
    assert demo.session.autosave() is False
    assert "autosave failed" in demo.session.trouble


def test_forty_edits_in_a_row_are_kept_on_the_way(demo: Workbench, qtbot: QtBot) -> None:
    for k in range(40):
        demo.session.give("box", "base", 90.0 + k / 10, "base")
        qtbot.wait(40)  # never 700 ms of quiet
        if demo.session.recovery.file.exists():
            break
    assert demo.session.recovery.file.exists() and k < 39


def test_recovery_keeps_the_old_file_until_the_new_one_is_written(demo: Workbench, tmp_path: Path) -> None:
    folder = tmp_path / "state" / "autosave"
    gone = Recovery(folder)
    gone.save(designed("tray", width=5), None)
    gone.file.write_text(gone.file.read_text().replace(f'"pid": {os.getpid()}', '"pid": 999999999'))
    (leftover,) = demo.session.recovery.leftovers()
    blocked = tmp_path / "file"
    blocked.write_text("no folder")
    kept = demo.session.recovery.folder
    demo.session.recovery.folder = blocked / "autosave"
    demo.session.recovery.file = blocked / "autosave" / "x.autosave"
    demo.files.offer(leftover)
    demo.session._clean = demo.session.design  # nothing else to lose
    notice = next(n for n in demo.window.findChildren(Notice) if "was open when" in n.label.text())
    next(b for b in notice.findChildren(QPushButton) if b.text() == "Recover it").click()
    rest(demo)
    assert leftover.file.exists() and demo.session.design.root.family == "tray"
    demo.session.recovery.folder = kept


def test_playing_an_opening_while_a_smaller_design_is_opened(demo: Workbench, qtbot: QtBot) -> None:
    demo.show_page("opening")
    qtbot.waitUntil(lambda: demo.opening.work.current is not None, timeout=60_000)
    demo.opening.play_opening()
    qtbot.wait(200)
    small = designed("tray", width=4, lid="easy")
    demo.session.start(small)
    qtbot.wait(300)  # frames go on; an error in a slot fails the test
    demo.opening.view.grab()
    rest(demo)
    assert demo.opening.lanes.count <= 1 and demo.session.study is not None
    assert len(demo.session.study.assembly.motions) == 1


def test_a_remedy_that_comes_late_is_dropped(demo: Workbench, qtbot: QtBot) -> None:
    demo.session.edit(
        add_guest(demo.session.design, "box", Element("m", "mat", "M"), Place("right-outside", 12.0)), "put"
    )
    rest(demo)
    study = demo.session.study
    assert study is not None
    check = next(c for c in study.checks if c.is_clash)
    fits = demo.form.fits
    fits._shown = check
    demo.session.start(designed("tray", width=4))  # another design while the remedy is looked for
    fits._cured((check, study, remedies(study, check)))
    rest(demo)
    assert demo.session.design.root.family == "tray"


def test_nothing_of_a_refused_design_is_exported(
    demo: Workbench, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    demo.session.give("box", "wall", 1.0, "wall")
    rest(demo)
    assert demo.session.is_refused
    target = tmp_path / "t.pdf"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a, **k: (str(target), ""))
    demo.exports.export_pdf()
    assert not target.exists()
    assert demo.form.advice.change.isEnabled()  # and what would help is offered
