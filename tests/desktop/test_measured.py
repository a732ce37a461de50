"""What `./lantern bench` starts as processes of their own runs and tells a figure."""

from __future__ import annotations

import os
import subprocess
import sys

import pytest


def told(program: str) -> list[float]:
    """The figures that a program prints, after “painted” where it tells that."""
    done = subprocess.run(
        [sys.executable, "-m", "yawning_lantern.desktop.measured", program],
        capture_output=True,
        text=True,
        timeout=120,
        check=True,
        env={**os.environ, "QT_QPA_PLATFORM": "offscreen"},
    )
    return [float(line) for line in done.stdout.split() if line != "painted"]


@pytest.mark.parametrize("program", ["empty", "first", "form"])
def test_memory_is_told_when_it_is_painted(program: str) -> None:
    (memory,) = told(program)
    # from memory: Qt's widgets alone take some tens of MB, and no page may take a gigabyte
    assert 10.0 < memory < 1000.0


def test_the_first_window_is_not_the_whole_program() -> None:
    # what a picture or a solver needs is loaded on use: the first window is nearer to an empty one than to the Form
    (empty,), (first,), (form,) = (told(name) for name in ("empty", "first", "form"))
    assert empty < first < form
    assert first - empty < form - first
    assert form < 2.3 * empty  # the demo at rest; 1.8 when this was written
