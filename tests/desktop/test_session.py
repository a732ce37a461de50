"""The session on its own: studies at once and off the GUI thread, trouble, gestures, what is kept."""

from __future__ import annotations

import time
import weakref
from collections.abc import Iterator
from itertools import pairwise
from pathlib import Path
from threading import Event

import pytest
from PySide6.QtCore import QTimer
from pytestqt.qtbot import QtBot

from yawning_lantern.design import Place, add_guest, find
from yawning_lantern.desktop.shared import session as module
from yawning_lantern.desktop.shared.letting_go import LettingGo
from yawning_lantern.desktop.shared.session import Session
from yawning_lantern.errors import DesignFileError
from yawning_lantern.exchange import recovery as recovering
from yawning_lantern.exchange.design_file import read_design, write_design
from yawning_lantern.exchange.recovery import Recovery
from yawning_lantern.structures import family, new_guest
from yawning_lantern.study import Study

from ..conftest import DEMO, designed


@pytest.fixture
def session(qtbot: QtBot, tmp_path: Path) -> Iterator[Session]:
    made = Session(Recovery(tmp_path / "autosave"))
    yield made
    made.close()


def wait(qtbot: QtBot, session: Session) -> None:
    qtbot.waitUntil(lambda: session.is_idle, timeout=20_000)


def test_the_first_study_leaves_the_gui_thread_and_short_ones_do_not(session: Session, qtbot: QtBot) -> None:
    session.start(designed("tray", width=4))
    assert session.study is None  # it comes by the worker
    wait(qtbot, session)
    assert session.study is not None
    session._took = session._judging = 0.001
    session.give("tray", "width", 90.0, "width")
    assert session.study.current("tray", "width") == 90.0  # at once


def test_long_studies_are_made_by_the_worker_and_the_newest_wins(
    session: Session, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    session.start(designed("tray", width=4))
    wait(qtbot, session)
    real = module.Study

    def slow(*args: object, **kwargs: object) -> object:
        time.sleep(0.05)
        return real(*args, **kwargs)  # type: ignore[arg-type]  # passed through

    monkeypatch.setattr(module, "Study", slow)
    monkeypatch.setattr(module, "SHORT", 0.0)
    seen: list[float] = []
    session.studied.connect(lambda: seen.append(session.study.current("tray", "width") or 0.0))  # type: ignore[union-attr]  # there is a study once it is told
    began = time.monotonic()
    for width in (60.0, 61.0, 62.0, 63.0, 64.0):
        session.give("tray", "width", width, "width")
    assert time.monotonic() - began < 0.04  # nothing waited
    qtbot.waitUntil(lambda: session.is_idle, timeout=5000)
    assert seen[-1] == 64.0 and len(seen) <= 2


def test_trouble_comes_and_goes(session: Session, qtbot: QtBot) -> None:
    told: list[str] = []
    session.troubled.connect(told.append)
    session.start(designed("explosion-box", sheet=10, wall=3))
    wait(qtbot, session)
    good = session.study
    session.give("box", "wall", 130.0, "wall")
    wait(qtbot, session)
    assert "Nothing is left for the base" in session.trouble and session.study is good
    session.undo()
    wait(qtbot, session)
    assert session.trouble == "" and [bool(t) for t in told] == [True, False]


def test_the_selection_goes_back_to_the_root_when_its_part_goes(session: Session, qtbot: QtBot) -> None:
    session.start(designed("tray", width=4, lid="easy"))
    session.select("lid")
    assert session.selected_element().place == Place("mouth")
    session.undo()
    assert session.selection == "lid"
    from yawning_lantern.design import remove_element

    session.edit(remove_element(session.design, "lid"), "take off")
    assert session.selection == "tray" and session.selected_element().place is None
    wait(qtbot, session)


def test_the_place_between_flat_and_open_has_ends(session: Session) -> None:
    places: list[float] = []
    session.moved.connect(lambda: places.append(session.position))
    for place in (-7.0, 0.25, 9.0):
        session.move_to(place)
    assert places == [-1.0, 0.25, 1.0]


def test_autosave_follows_the_work_and_goes_with_the_saving(session: Session, qtbot: QtBot, tmp_path: Path) -> None:
    session.start(read_design(DEMO))
    wait(qtbot, session)
    session.autosave()
    assert not session.recovery.file.exists()  # nothing to lose yet
    session.give("box", "base", 95.0, "base")
    qtbot.waitUntil(session.recovery.file.exists, timeout=5000)
    session.save(tmp_path / "x.lantern")
    assert not session.recovery.file.exists() and not session.is_dirty
    assert read_design(tmp_path / "x.lantern") == session.design


def test_what_was_replaced_is_let_go_a_moment_later(qtbot: QtBot, session: Session) -> None:
    class Thing:
        pass

    things = [Thing() for _ in range(3)]
    known = [weakref.ref(thing) for thing in things]
    old = LettingGo(session)
    while things:
        old.put(things.pop(0))
    assert all(one() is not None for one in known)
    qtbot.waitUntil(lambda: known[0]() is None and known[1]() is None, timeout=2000)
    assert known[2]() is not None  # the newest still stands before what replaced it


def test_a_slow_disk_does_not_hold_up_the_hand(session: Session, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch) -> None:
    write = recovering.write_atomically

    def slow(path: Path, data: bytes) -> None:
        time.sleep(1.2)
        write(path, data)

    monkeypatch.setattr(recovering, "write_atomically", slow)
    session.start(designed("tray", width=4), dirty=True)
    wait(qtbot, session)
    ticks: list[float] = [time.monotonic()]
    clock = QTimer()
    clock.timeout.connect(lambda: ticks.append(time.monotonic()))
    clock.start(5)
    qtbot.waitUntil(session.recovery.file.exists, timeout=10_000)
    clock.stop()
    assert max(b - a for a, b in pairwise(ticks)) < 0.8  # the window went on all the while
    session.give("tray", "width", 90.0, "width")
    qtbot.wait(900)  # the next is being written
    session.close()
    assert not session.recovery.file.exists()


def test_a_file_that_cannot_be_studied_does_not_replace_what_is_open(
    session: Session, qtbot: QtBot, tmp_path: Path
) -> None:
    session.start(designed("tray", width=4))
    wait(qtbot, session)
    design = session.design
    bad = add_guest(designed("tray", width=4), "tray", new_guest(design, family("lid")), Place("nowhere"))
    write_design(bad, tmp_path / "bad.lantern")
    with pytest.raises(Exception, match="no face"):
        session.open_file(tmp_path / "bad.lantern")
    with pytest.raises(DesignFileError):
        session.open_file(tmp_path / "none.lantern")
    assert session.design is design and session.path is None


def test_a_new_design_begins_a_new_history(session: Session, qtbot: QtBot) -> None:
    session.start(designed("tray", width=4))
    session.give("tray", "width", 80.0, "width")
    session.start(designed("tray", width=5), dirty=True)
    assert session.history.undo_words == "" and session.is_dirty
    assert find(session.design, "tray").settings["width"] == pytest.approx(127.0)
    wait(qtbot, session)


def test_what_is_under_the_hand_comes_before_the_fits(session: Session, qtbot: QtBot) -> None:
    told: list[str] = []
    session.start(designed("tray", width=4, lid="easy"))
    wait(qtbot, session)
    session._took = session._judging = 0.001
    session.studied.connect(lambda: told.append(f"studied {session.study.current('tray', 'width')}"))  # type: ignore[union-attr]  # there is a study once it is told
    session.judged.connect(lambda: told.append(f"judged {len(session.study.checks) > 0}"))  # type: ignore[union-attr]  # there is a study once it is told
    session.give("tray", "width", 90.0, "width")
    assert told == ["studied 90.0"] and not session.is_idle
    session.give("tray", "width", 91.0, "width")  # before the first was judged: that is not done any more
    wait(qtbot, session)
    assert told == ["studied 90.0", "studied 91.0", "judged True"]


@pytest.mark.parametrize("judging", [0.001, 1.0])
def test_what_is_under_the_hand_is_handed_over_before_anything_is_judged(
    session: Session, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch, judging: float
) -> None:
    session.start(designed("tray", width=4, lid="easy"))
    wait(qtbot, session)
    handed, judge = Event(), Session._time_judging

    def later(own: Session, study: Study) -> None:
        assert handed.wait(5.0)  # in the worker too, where judging takes long
        judge(own, study)

    monkeypatch.setattr(Session, "_time_judging", later)
    session._took, session._judging, session.hand = 1.0, judging, session  # whatever view it is
    session.handed.connect(handed.set)
    session.give("tray", "width", 90.0, "width")
    wait(qtbot, session)
    assert handed.is_set() and session.study is not None and session.study.current("tray", "width") == 90.0


def test_a_hand_sees_itself_move_while_fits_take_long(
    session: Session, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    session.start(designed("tray", width=4, lid="easy"))
    wait(qtbot, session)
    judge, told, judged, go = Session._time_judging, list[float](), list[float](), Event()

    def slow(own: Session, study: Study) -> None:
        assert go.wait(20.0)
        judge(own, study)

    def width() -> float:
        assert session.study is not None
        return session.study.current("tray", "width") or 0.0

    monkeypatch.setattr(Session, "_time_judging", slow)
    session._took, session._judging, session.hand = 1.0, 1.0, session
    session.handed.connect(lambda: told.append(width()))
    session.judged.connect(lambda: judged.append(width()))
    session.give("tray", "width", 90.0, "width")
    qtbot.waitUntil(lambda: told == [90.0], timeout=10_000)
    for value in (91.0, 92.0):
        session.give("tray", "width", value, "width")
    go.set()
    wait(qtbot, session)
    assert told == [90.0, 92.0] and judged == [92.0]  # the one between was never begun


@pytest.mark.parametrize("slow", [0.001, 1.0])
def test_another_design_is_opened_while_the_last_is_dragged(session: Session, qtbot: QtBot, slow: float) -> None:
    session.start(designed("tray", width=4, lid="easy"))
    wait(qtbot, session)
    families: list[str] = []
    session._took, session._judging, session.hand = slow, slow, session
    session.give("tray", "width", 95.0, "width")
    session.start(designed("explosion-box", sheet=10, wall=3))  # the worker or the next turn is still at the tray
    for signal in (session.handed, session.studied, session.judged):
        signal.connect(lambda: families.append(session.study.design.root.family if session.study else ""))
    wait(qtbot, session)
    assert families and set(families) == {"explosion-box"}
