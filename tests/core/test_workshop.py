"""The drawer: nothing is lost and nothing doubled, whoever kills it; what was cut can be taken back."""

from __future__ import annotations

import json
import random
import signal
import sqlite3
import subprocess
import sys
import time
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from yawning_lantern.cli.main import main
from yawning_lantern.errors import ParameterError, WriteError
from yawning_lantern.workshop import Job, Workshop, workshop_path

WRITES = 200
WRITER = """
import sys
from pathlib import Path
from yawning_lantern.workshop import Workshop
drawer = Workshop(Path(sys.argv[1]))
for k in range(int(sys.argv[2])):
    drawer.keep("card", 100.0 + k, 50.0, f"n{k}")
    print(k, flush=True)
"""


@pytest.fixture
def drawer(tmp_path: Path) -> Workshop:
    return Workshop(tmp_path / "w.sqlite")


@pytest.mark.parametrize("seed", range(4))
def test_killed_in_the_middle_nothing_is_lost_and_nothing_doubled(seed: int, tmp_path: Path) -> None:
    file = tmp_path / "w.sqlite"
    with subprocess.Popen(
        [sys.executable, "-c", WRITER, str(file), str(WRITES)], stdout=subprocess.PIPE, text=True
    ) as child:
        assert child.stdout is not None
        stop = random.Random(seed).randint(1, WRITES - 20)
        told = -1
        for line in child.stdout:
            told = int(line)
            if told >= stop:
                break
        time.sleep(random.Random(seed).random() * 0.01)
        child.send_signal(signal.SIGKILL)
        rest = [int(line) for line in child.stdout]
    told = max([told, *rest])
    names = [one.name for one in Workshop(file).off_cuts()]
    assert names == [f"n{k}" for k in range(len(names))]  # each once, in order
    assert told + 1 <= len(names) <= told + 2  # what was told as done is there; one more may just not have been told
    with sqlite3.connect(file) as base:
        assert base.execute("PRAGMA integrity_check").fetchone() == ("ok",)


def test_two_windows_use_one_file(tmp_path: Path) -> None:
    file = tmp_path / "w.sqlite"

    def work(who: int) -> None:
        own = Workshop(file)
        for k in range(40):
            own.keep("card", 10.0, 10.0, f"{who}.{k}")
        own.close()

    with ThreadPoolExecutor(2) as pool:
        list(pool.map(work, (1, 2)))
    names = {one.name for one in Workshop(file).off_cuts()}
    assert names == {f"{who}.{k}" for who in (1, 2) for k in range(40)}


jobs = st.lists(st.tuples(st.integers(0, 3), st.booleans(), st.integers(0, 3)), min_size=1, max_size=8)


@given(steps=jobs, rng=st.randoms(use_true_random=False))
@settings(max_examples=25)
def test_what_was_cut_and_taken_back_leaves_the_drawer_as_it_was(
    steps: list[tuple[int, bool, int]], rng: random.Random, tmp_path_factory: pytest.TempPathFactory
) -> None:
    drawer = Workshop(tmp_path_factory.mktemp("w") / "w.sqlite")
    drawer.count("card", 5)
    drawer.keep("card", 90.0, 80.0, "first")
    states, done = [], []
    for sheets, uses, left in steps:
        states.append((drawer.counts(), drawer.off_cuts()))
        there = [one.id for one in drawer.off_cuts()]
        used = [rng.choice(there)] if uses and there else []
        kept = [("card", f"left {k}", 30.0 + k, 20.0) for k in range(left)]
        done.append(drawer.cut(Job("box", {"card": sheets, "felt": 1}, used, kept)))
        assert drawer.counts()["card"] == max(0, states[-1][0]["card"] - sheets) and "felt" not in drawer.counts()
    for job, state in zip(reversed(done), reversed(states), strict=True):
        drawer.take_back(job)
        assert (drawer.counts(), drawer.off_cuts()) == state
        with pytest.raises(ParameterError, match="not marked"):
            drawer.take_back(job)


def test_nothing_is_half_cut(drawer: Workshop) -> None:
    drawer.count("card", 3)
    kept = drawer.keep("card", 50.0, 50.0)
    with pytest.raises(ParameterError, match="not in the drawer"):
        drawer.cut(Job("box", {"card": 1}, [kept.id, 999], [("card", "rest", 20.0, 20.0)]))
    assert drawer.counts() == {"card": 3} and drawer.off_cuts() == (kept,)
    job = drawer.cut(Job("box", {}, [], [("card", "rest", 20.0, 20.0)]))
    drawer.take(drawer.off_cuts()[-1].id)
    with pytest.raises(ParameterError, match="used since"):
        drawer.take_back(job)


def test_wrong_words_and_files_are_told(drawer: Workshop, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    for wrong in (-1, 10**9):
        with pytest.raises(ParameterError, match="no count"):
            drawer.count("card", wrong)
    with pytest.raises(ParameterError, match="no size"):
        drawer.keep("card", 0.0, 10.0)
    newer = tmp_path / "newer.sqlite"
    with sqlite3.connect(newer) as base:
        base.execute("PRAGMA user_version = 99")
    with pytest.raises(WriteError, match="newer program"):
        Workshop(newer)
    torn = tmp_path / "torn.sqlite"
    torn.write_bytes(b"not a drawer at all" * 100)
    with pytest.raises(WriteError, match="damaged"):
        Workshop(torn)
    with pytest.raises(WriteError, match="cannot be"):
        Workshop(torn / "below" / "w.sqlite")
    monkeypatch.setenv("LANTERN_WORKSHOP", str(tmp_path / "own.sqlite"))
    assert workshop_path() == tmp_path / "own.sqlite"


# -- the command


def test_the_drawer_by_command(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    own = ["--workshop", str(tmp_path / "w.sqlite")]
    assert main(["stock", "list", *own]) == 0 and "empty" in capsys.readouterr().out
    assert main(["stock", "add", "--stock", "card-216", "--sheets", "12", *own]) == 0
    assert (
        main(["stock", "add", "--stock", "card-216", "--off-cut", "9in×5 1/2in", "--name", "from the box", *own]) == 0
    )
    capsys.readouterr()
    assert main(["stock", "list", *own]) == 0
    told = capsys.readouterr().out
    assert "12 × Cardstock 216" in told and "off-cut 1 “from the box”: 9 × 5 1/2" in told
    for name in ("d.csv", "d.json"):
        other = ["--workshop", str(tmp_path / f"{name}.sqlite")]
        assert main(["stock", "export", str(tmp_path / name), *own]) == 0
        assert main(["stock", "import", str(tmp_path / name), *other]) == 0
        capsys.readouterr()
        assert main(["stock", "list", *other]) == 0
        assert capsys.readouterr().out == told
    # the next project uses what is kept: a mat of 8 × 5 in needs no new sheet
    words = ["sheets", "--family", "mat", "--set", "width=8 1/8in", "--set", "height=5 1/8in", "--json", *own]
    assert main(words) == 0
    plan = json.loads(capsys.readouterr().out)
    assert plan["count"] == 0 and plan["sheets"][0]["from"] == "off-cut"
    assert main(["stock", "take", "1", *own]) == 0
    assert main(["stock", "take", "1", *own]) == 2


@pytest.mark.parametrize(
    "text",
    [
        "kind,stock\nsheets,\n",
        "kind,stock,count\nsheets,card,many\n",
        "kind,stock,width\noff-cut,card,\n",
        "kind,stock,count,width,height\nsheets,card,3,,\noff-cut,card,1,5,5\noff-cut,card,1,0,5\n",
        "{",
    ],
)
def test_a_list_that_is_wrong_changes_nothing(text: str, tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    file = tmp_path / ("l.json" if text == "{" else "l.csv")
    good = "" if text == "{" else text.splitlines()[0] + "\n"
    file.write_text(good + text.removeprefix(good))
    own = ["--workshop", str(tmp_path / "w.sqlite")]
    assert main(["stock", "import", str(file), *own]) == 2
    capsys.readouterr()
    assert main(["stock", "list", *own]) == 0 and "empty" in capsys.readouterr().out
