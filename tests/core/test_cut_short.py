"""A program that is killed while it saves: the file is whole, and it is the last that was told to be saved or the next;
what was autosaved is offered again."""

from __future__ import annotations

import random
import subprocess
import sys
import time
from pathlib import Path

import pytest

from yawning_lantern.exchange.design_file import read_design
from yawning_lantern.exchange.recovery import Recovery

SAVER = """
import sys
from msgspec.structs import replace
from pathlib import Path
from yawning_lantern.design import set_value
from yawning_lantern.exchange.design_file import read_design, write_design
from yawning_lantern.exchange.recovery import Recovery
path, folder = Path(sys.argv[1]), Path(sys.argv[2])
design, kept = read_design(path), Recovery(folder)
for k in range(1_000_000):
    design = set_value(design, design.root.id, "wall", 50.0 + k % 900 / 10)
    write_design(replace(design, name=str(k)), path)
    kept.save(replace(design, name=str(k)), path)
    print(k, flush=True)
"""


def killed(path: Path, folder: Path, after: float) -> None:
    """One program that saves as fast as it can, killed at some moment; what it leaves is looked at."""
    with subprocess.Popen([sys.executable, "-c", SAVER, str(path), str(folder)], stdout=subprocess.PIPE) as program:
        assert program.stdout is not None and program.stdout.readline().strip() == b"0"
        time.sleep(after)
        program.kill()
        told = [0, *(int(line) for line in program.stdout.read().split(b"\n")[:-1])]
    saved = int(read_design(path).name)
    assert saved in (told[-1], told[-1] + 1)
    leftovers = Recovery(folder).leftovers()
    assert len(leftovers) == 1 and int(leftovers[0].design.name) in (told[-1], told[-1] + 1)
    assert leftovers[0].path == path
    leftovers[0].file.unlink()


def kills(folder: Path, seed: int, count: int) -> None:
    rng = random.Random(seed)
    source = Path(__file__).parents[2] / "src/yawning_lantern/examples/comet-night-box.lantern"
    path = folder / "box.lantern"
    path.write_bytes(source.read_bytes())
    for _ in range(count):
        killed(path, folder / "autosave", rng.uniform(0.0, 0.06))


def test_killed_while_saving(tmp_path: Path) -> None:
    kills(tmp_path, 1, 4)


@pytest.mark.long
@pytest.mark.parametrize("seed", range(10))
def test_killed_five_hundred_times(tmp_path: Path, seed: int) -> None:
    kills(tmp_path, 100 + seed, 50)
