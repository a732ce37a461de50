"""Beginning, opening, saving, recovering, exporting; and the program as a process."""

from __future__ import annotations

import json
import os
import shutil
import signal
import subprocess
import sys
import time
from pathlib import Path

import pytest
from PySide6.QtCore import QMimeData, QPointF, Qt, QUrl
from PySide6.QtGui import QDropEvent, QImage
from PySide6.QtWidgets import QApplication, QFileDialog, QLabel, QLineEdit, QMessageBox
from pytestqt.qtbot import QtBot

from yawning_lantern.design import set_caliper
from yawning_lantern.desktop.__main__ import main
from yawning_lantern.desktop.shared.notice import Notice
from yawning_lantern.desktop.shell.application import make_program, new_window
from yawning_lantern.desktop.shell.help_text import help_html
from yawning_lantern.desktop.shell.window import PAGES, MainWindow
from yawning_lantern.desktop.shell.workbench import Workbench
from yawning_lantern.desktop.shot import settle
from yawning_lantern.exchange.design_file import read_design

from ..conftest import DEMO

LEFT = Qt.MouseButton.LeftButton


def rest(bench: Workbench) -> None:
    app = QApplication.instance()
    assert isinstance(app, QApplication) and settle(app, bench.window)


def notices(window: MainWindow) -> list[Notice]:
    QApplication.processEvents()
    return [n for n in window.findChildren(Notice) if n.isVisible()]


def test_first_window_is_the_idea_page_and_only_what_can_be_done_is_enabled(bench: Workbench) -> None:
    assert bench.window.stack.currentWidget() is bench.idea
    enabled = {name for name, action in bench.window.actions_by_id.items() if action.isEnabled()}
    assert enabled == {
        "new_design", "new_window", "open_design", "open_beside", "open_demo", "find_book", "own_sheet", "quit_program",
        "toggle_units", "toggle_dark", "toggle_patterns", "larger_text", "smaller_text", "page_idea", "show_help",
        "find_command", "show_about",
    }  # fmt: skip
    bench.show_page("form")
    assert bench.window.stack.currentWidget() is bench.idea  # nothing is open yet


def test_every_key_is_its_own_and_in_the_help_of_every_page(bench: Workbench) -> None:
    commands = tuple(bench.window.commands.values())
    keys = [c.shortcut for c in commands if c.shortcut]
    assert len(keys) == len(set(keys))
    for page, _ in PAGES:
        assert all(key in help_html(page, commands) for key in keys)


def test_save_open_and_recent(demo: Workbench, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    demo.session.give("box", "base", 90.0, "set base")
    rest(demo)
    assert demo.session.is_dirty and "*" in demo.window.windowTitle()
    target = tmp_path / "mine"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a, **k: (str(target), ""))
    demo.files.save_design()
    saved = tmp_path / "mine.lantern"
    assert read_design(saved) == demo.session.design and not demo.session.is_dirty
    demo.session.give("box", "base", 80.0, "set base")
    demo.files.save_design()
    assert read_design(saved).root.settings["base"] == 80.0
    demo.files.open_demo()
    rest(demo)
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *a, **k: (str(saved), ""))
    demo.files.open_design()
    rest(demo)
    assert demo.session.path == saved and demo.files.recent.paths() == [saved]
    assert [a.text() for a in demo.window.recent_menu.actions()] == [str(saved)]


def test_a_bad_file_is_told_and_the_open_design_stays(demo: Workbench, tmp_path: Path) -> None:
    bad = tmp_path / "bad.lantern"
    raw = json.loads(DEMO.read_text())
    before = demo.session.design
    for text in (
        "{",
        json.dumps({**raw, "version": 7}),
        json.dumps({**raw, "stock": "gold leaf"}),
        json.dumps({**raw, "root": {**raw["root"], "family": "origami-crane"}}),
    ):
        bad.write_text(text)
        demo.files.open_path(bad)
        assert demo.session.design is before
    assert len(notices(demo.window)) == 4
    assert "newer version" in notices(demo.window)[1].label.text()
    assert all(one.label.text().endswith("The open design stays as it was.") for one in notices(demo.window))


def test_a_file_dropped_on_the_window_opens(demo: Workbench, tmp_path: Path) -> None:
    other = tmp_path / "other.lantern"
    shutil.copy(DEMO, other)
    data = QMimeData()
    data.setUrls([QUrl.fromLocalFile(str(other))])
    event = QDropEvent(QPointF(5, 5), Qt.DropAction.CopyAction, data, LEFT, Qt.KeyboardModifier.NoModifier)
    demo.window.dropEvent(event)
    rest(demo)
    assert demo.session.path == other


def test_unsaved_work_is_asked_about(demo: Workbench, monkeypatch: pytest.MonkeyPatch) -> None:
    demo.session.give("box", "base", 90.0, "set base")
    answers = [QMessageBox.StandardButton.Cancel, QMessageBox.StandardButton.Discard]
    monkeypatch.setattr(QMessageBox, "exec", lambda self: answers.pop(0))
    demo.files.open_demo()
    assert demo.session.design.root.settings["base"] == 90.0
    demo.files.open_demo()
    assert demo.session.design.name == "Comet Night set"


def test_exports_and_preview(demo: Workbench, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, qtbot: QtBot) -> None:
    for command, name in (("export_pdf", "t.pdf"), ("export_csv", "c.csv"), ("export_json", "p.json")):
        target = tmp_path / name
        monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a, t=target, **k: (str(t), ""))
        demo.window.actions_by_id[command].trigger()
    rest(demo)  # written one after the other; none is dropped for the next
    for name, start in (("t.pdf", b"%PDF"), ("c.csv", b"piece,"), ("p.json", b"{")):
        target = tmp_path / name
        assert target.read_bytes().startswith(start)
    demo.exports.preview_templates()
    assert demo.exports.preview is not None
    pages = len(demo.exports.preview.sheet.pages)
    assert demo.exports.preview.count.text() == f"{pages} pages"
    demo.exports.preview.paper.setCurrentIndex(2)
    assert len(demo.exports.preview.sheet.pages) < pages
    demo.exports.preview.save_to(tmp_path / "v.pdf")
    assert (tmp_path / "v.pdf").exists() and "Saved" in demo.exports.preview.told.text()
    demo.exports.preview.save_to(tmp_path / "no" / "v.pdf")
    assert demo.exports.preview.told.text().startswith("✕")
    image = demo.exports.preview.sheet.grab().toImage()
    assert len({image.pixel(x, 200) for x in range(image.width())}) > 3
    demo.exports.preview.close()


def test_printing_draws_every_page(demo: Workbench, tmp_path: Path) -> None:
    from pypdf import PdfReader
    from PySide6.QtPrintSupport import QPrinter

    demo.exports.preview_templates()
    assert demo.exports.preview is not None
    printer = QPrinter(QPrinter.PrinterMode.HighResolution)
    printer.setOutputFileName(str(tmp_path / "printed.pdf"))
    demo.exports.preview.print_to(printer)
    pages = PdfReader(tmp_path / "printed.pdf").pages
    assert len(pages) == len(demo.exports.preview.sheet.pages)
    assert float(pages[0].mediabox.width) == pytest.approx(612, abs=1)  # Letter, ANSI/ASME Y14.1
    demo.exports.preview.close()


def test_stock_page_measures_a_stack(demo: Workbench) -> None:
    demo.session.edit(set_caliper(demo.session.design, "card-216", 0.29), "measure")  # as by the command line
    demo.show_page("stock")
    rest(demo)
    page = demo.stock
    page.shelf.choose("card-216")
    stack = page.thing.editors["A stack of ten measures"]
    assert isinstance(stack, QLineEdit)
    assert "estimated" in page.thing.facts.text() and "Measured in this design 0.290 mm" in page.thing.facts.text()
    for text, caliper, words in (("3.1 mm", 0.31, "measured"), ("a stack", 0.31, "measured"), ("", 0.27, "estimated")):
        stack.setText(text)
        stack.editingFinished.emit()
        rest(demo)
        assert page.thing.trouble.isVisible() == (text == "a stack")
        assert demo.session.study is not None and demo.session.design.calipers == {}
        assert demo.session.study.resolved["box"].final.paper.caliper == pytest.approx(caliper)
        assert words in page.thing.facts.text()
    demo.session.select("box")
    page.shelf.choose("chipboard-1")
    page.use.click()
    rest(demo)
    assert demo.session.study is not None and demo.session.study.resolved["box"].final.paper.caliper == 1.0


PROGRAM = """
import sys
from pathlib import Path
from yawning_lantern.desktop.shell.application import make_application, make_program, new_window
from yawning_lantern.desktop.shot import settle
app = make_application()
window = new_window(make_program(Path(sys.argv[1])))
window.show()
settle(app, window)
window.bench.files.open_demo()
window.bench.session.give("box", "base", 95.0, "set base")
settle(app, window)
print("edited", flush=True)
app.exec()
"""


def test_killed_while_editing_and_recovered(qapp: QApplication, qtbot: QtBot, tmp_path: Path) -> None:
    state = tmp_path / "state"
    state.mkdir()
    env = {**os.environ, "QT_QPA_PLATFORM": "offscreen"}
    with subprocess.Popen([sys.executable, "-c", PROGRAM, str(state)], env=env, stdout=subprocess.PIPE) as program:
        assert program.stdout is not None and program.stdout.readline().strip() == b"edited"
        end = time.monotonic() + 20
        while not list((state / "autosave").glob("*.autosave")) and time.monotonic() < end:
            time.sleep(0.05)
        program.send_signal(signal.SIGKILL)
    window = new_window(make_program(state))
    window.show()
    assert settle(qapp, window) and window.bench is not None
    offers = notices(window)
    assert len(offers) == 1 and "Comet Night set" in offers[0].findChild(QLabel).text()
    qtbot.mouseClick(offers[0].buttons["Recover it"], LEFT)
    rest(window.bench)
    assert window.bench.session.design.root.settings["base"] == 95.0 and window.bench.session.is_dirty
    window.hide()
    window.close()
    assert not list((state / "autosave").glob("*.autosave"))


def test_a_picture_of_each_page_without_a_display(tmp_path: Path) -> None:
    env = {k: v for k, v in os.environ.items() if k not in ("DISPLAY", "WAYLAND_DISPLAY")}
    env["QT_QPA_PLATFORM"] = "offscreen"
    target = tmp_path / "form.png"
    done = subprocess.run(
        [sys.executable, "-m", "yawning_lantern.desktop", "demo", "--shot", str(target), "--page", "form", "--dark"],
        env=env,
        capture_output=True,
        timeout=120,
        check=False,
    )
    assert done.returncode == 0, done.stderr
    image = QImage(str(target))
    assert (image.width(), image.height()) == (1280, 800) and image.pixelColor(300, 795).lightness() < 110


@pytest.mark.parametrize(
    ("words", "said"),
    [
        (["demo", "--page", "kitchen"], "There are idea, stock, form, opening, sheets, bench."),
        (["demo", "--size", "wide"], "“wide” is no value for --size."),
        (["demo", "--position", "nan"], "“nan” is no value for --position."),
        (["dem"], "Did you mean demo?"),
        (["open", "nowhere.lantern", "--shot", "x.png"], "It cannot be read"),
        (["demo", "--shot", "x.png", "--part", "moo"], "There is no part “moo”"),
    ],
)
def test_wrong_words_get_a_sentence_before_any_window(
    words: list[str], said: str, capsys: pytest.CaptureFixture[str]
) -> None:
    assert main(words) == 2
    out, told = capsys.readouterr()
    assert not out and told.startswith("lantern: ") and told.count("\n") == 1 and said in told


@pytest.mark.skipif(shutil.which("Xvfb") is None, reason="needs Xvfb; ./lantern test installs it where apt is allowed")
def test_in_a_real_x11_window(tmp_path: Path) -> None:
    target = tmp_path / "x.png"
    read, write = os.pipe()
    with subprocess.Popen(
        ["Xvfb", "-displayfd", str(write), "-screen", "0", "1280x800x24"], pass_fds=[write], stderr=subprocess.DEVNULL
    ) as server:
        os.close(write)
        with os.fdopen(read) as pipe:
            number = pipe.readline().strip()
        env = {**os.environ, "DISPLAY": f":{number}", "QT_QPA_PLATFORM": "xcb"}
        done = subprocess.run(
            [sys.executable, "-m", "yawning_lantern.desktop", "demo", "--shot", str(target)],
            env=env,
            capture_output=True,
            timeout=120,
            check=False,
        )
        server.terminate()
    assert done.returncode == 0, done.stderr
    assert not QImage(str(target)).isNull()


def test_qt_calls_do_not_lose_references_to_none(qapp: QApplication) -> None:
    """A Qt binding that drops a reference to None at each call ends the process after some thousand calls."""
    label = QLabel()
    label.setText("warm")
    before = sys.getrefcount(None)
    for k in range(2000):
        label.setText(str(k % 7))
        label.resize(10, 10)
    assert sys.getrefcount(None) > before - 200
