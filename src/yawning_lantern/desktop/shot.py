"""Painting a page to a picture, without a display."""

from __future__ import annotations

import argparse
import sys
import time

from PySide6.QtWidgets import QApplication

from yawning_lantern.bench import Walk
from yawning_lantern.desktop.shell.application import bench_of
from yawning_lantern.desktop.shell.window import MainWindow

LONGEST = 120.0  # s


def settle(app: QApplication, window: MainWindow, seconds: float = LONGEST) -> bool:
    """Handle events until nothing is under way; whether that came about in time."""
    end = time.monotonic() + seconds
    while time.monotonic() < end:
        app.processEvents()
        if window.bench is not None and bench_of(window).is_idle:
            for _ in range(3):
                app.processEvents()
            if bench_of(window).is_idle:
                return True
        time.sleep(0.002)
    return False


def paint_shot(app: QApplication, window: MainWindow, options: argparse.Namespace) -> int:
    """Show the window, wait for its study, save the picture; gives the exit code."""
    window.resize(*options.size)
    window.show()
    if not settle(app, window):
        print("lantern: the page did not come to rest", file=sys.stderr)
        return 1
    bench = bench_of(window)
    if options.part:
        bench.session.select(options.part)
    bench.session.move_to(options.position)
    bench.form.fill_shelf()
    bench.form.sides.setChecked(options.sides)
    if options.page == "opening":
        bench.opening.go_to(options.step)
    walk = bench.bench.walk if options.page == "bench" else None
    if walk is not None and options.step:
        at = int(options.step)
        done = frozenset(step.id for step in walk.plan.steps[:at])
        bench.bench.show_walk(Walk(walk.plan, at, done=done))
    if options.do:
        window.actions_by_id[options.do].trigger()
    end = time.monotonic() + 0.4
    while time.monotonic() < end or not settle(app, window):
        app.processEvents()
    dialog = app.activeModalWidget() if options.do else None
    saved = (dialog or window).grab().save(str(options.shot), "PNG")
    if dialog is not None:
        dialog.close()
    window.close()
    if not saved:
        print(f"lantern: {options.shot}: It could not be written. Choose another folder.", file=sys.stderr)
    return 0 if saved else 2
