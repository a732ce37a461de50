"""Mats on all walls, from the Edit menu: one step, undone in one."""

from __future__ import annotations

from PySide6.QtWidgets import QApplication

from yawning_lantern.desktop.shell.workbench import Workbench
from yawning_lantern.desktop.shot import settle
from yawning_lantern.structures import start_design


def test_mats_go_on_every_wall_and_come_off_in_one_step(bench: Workbench, qapp: QApplication) -> None:
    bench.session.start(start_design("prism", {"sides": 5}))
    bench.show_page("form")
    settle(qapp, bench.window)
    commands = bench.window.commands
    assert commands["mat_outside"].when() and commands["mat_inside"].when()
    bench.window.actions_by_id["mat_outside"].trigger()
    settle(qapp, bench.window)
    assert len(bench.session.design.root.guests) == 5 and not commands["mat_outside"].when()
    assert bench.session.study is not None and not bench.session.study.has_clash
    assert bench.window.actions_by_id["undo"].text().endswith("mats on all walls")
    bench.session.undo()
    settle(qapp, bench.window)
    assert not bench.session.design.root.guests and commands["mat_outside"].when()
