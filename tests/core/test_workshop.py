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
from msgspec.structs import replace

from yawning_lantern.cli.main import main
from yawning_lantern.errors import ParameterError, WriteError
from yawning_lantern.exchange.item_rows import item_of, item_row
from yawning_lantern.folders import workshop_path
from yawning_lantern.stock import Item, Paper, builtin_catalogue, parse_weight
from yawning_lantern.workshop import Job, Workshop

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


# -- things of one's own


def test_the_catalogue_is_the_first_filling_and_not_a_wall(drawer: Workshop) -> None:
    assert drawer.catalogue() == builtin_catalogue()
    paper = replace(drawer.catalogue().paper("card-216"), id="mine", name="Marsh blue", grammage=230.0)
    drawer.put(paper)
    drawer.put(replace(paper, name="Marsh grey"))
    assert drawer.catalogue().paper("mine").name == "Marsh grey"
    drawer.count("mine", 7)
    drawer.keep("mine", 50.0, 60.0)
    drawer.remove(drawer.catalogue().paper("mine"))
    drawer.remove(drawer.catalogue().adhesive("tape-runner"))
    again = Workshop(drawer.path)
    assert again.counts() == {} and again.off_cuts() == ()
    assert {a.id for a in builtin_catalogue().adhesives} - {a.id for a in again.catalogue().adhesives} == {
        "tape-runner"
    }
    with pytest.raises(ParameterError):
        again.remove(paper)
    for wrong in (replace(paper, name=""), replace(paper, grammage=-1.0), replace(paper, front="blue")):
        with pytest.raises(ParameterError):
            again.put(replace(paper, id="fine"), wrong)
    assert "fine" not in {p.id for p in again.catalogue().papers}  # all or none


def test_a_drawer_of_the_version_before_is_taken_over(tmp_path: Path) -> None:
    file = tmp_path / "old.sqlite"
    with sqlite3.connect(file) as base:  # as version 1 wrote it
        base.executescript("""
            CREATE TABLE sheets (stock TEXT PRIMARY KEY, count INTEGER NOT NULL CHECK (count >= 0));
            CREATE TABLE offcuts (id INTEGER PRIMARY KEY AUTOINCREMENT, stock TEXT NOT NULL, name TEXT NOT NULL,
                width REAL NOT NULL CHECK (width > 0), height REAL NOT NULL CHECK (height > 0));
            CREATE TABLE jobs (id INTEGER PRIMARY KEY AUTOINCREMENT, name TEXT NOT NULL, record TEXT NOT NULL,
                undone INTEGER NOT NULL DEFAULT 0);
        """)
        base.execute("INSERT INTO sheets VALUES ('card-216', 4)")
        base.execute("PRAGMA user_version = 1")
    base.close()
    taken = Workshop(file)
    assert taken.counts() == {"card-216": 4} and taken.catalogue() == builtin_catalogue()


def test_a_damaged_thing_is_told(drawer: Workshop) -> None:
    base = sqlite3.connect(drawer.path)
    base.execute("UPDATE items SET record = '{}' WHERE id = 'card-216'")
    base.commit()
    base.close()
    with pytest.raises(WriteError, match="damaged"):
        drawer.catalogue()


@pytest.mark.parametrize("item", builtin_catalogue().items, ids=lambda item: item.id)
def test_a_thing_comes_back_from_its_row(item: Item) -> None:
    row = item_row(item)
    again = item_of(row, "row", builtin_catalogue().sheets)
    assert type(again) is type(item) and item_row(again) == row
    if isinstance(item, Paper) and isinstance(again, Paper):
        assert again == item


@pytest.mark.parametrize(
    ("told", "grammage"),
    [("216", 216), ("216 g/m²", 216), ("80 lb cover", 216.3), ("65# cover", 175.8), ("100lb text", 148.0),
     ("110 lb index", 198.9)],
)  # fmt: skip
def test_weights_are_read_in_both_systems(told: str, grammage: float) -> None:
    # basis weights as merchants' tables print them: 80 lb cover 216, 65 lb cover 176, 100 lb text 148, 110 lb index 199
    assert parse_weight(told) == pytest.approx(grammage, abs=0.2)


@pytest.mark.parametrize("told", ["", "heavy", "80 lb wall", "-3", "80 oz"])
def test_what_is_no_weight_is_told(told: str) -> None:
    with pytest.raises(ParameterError, match=r"no weight|basis weight|above zero"):
        parse_weight(told)


def test_a_stock_of_ones_own_by_command(
    tmp_path: Path, capsys: pytest.CaptureFixture[str], monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setenv("LANTERN_WORKSHOP", str(tmp_path / "w.sqlite"))
    words = ["--kind", "paper", "--stock", "mine", "--name", "Marsh blue", "--weight", "80 lb cover", "--width", "9in",
             "--height", "9in", "--front-pattern", "print #102030 20mm"]  # fmt: skip
    assert main(["stock", "add", *words]) == 0
    assert main(["stock", "list", "--find", "marsh pri"]) == 0
    assert "Marsh blue  [mine]" in capsys.readouterr().out
    assert main(["stock", "list", "--find", "no such thing"]) == 0
    assert "Nothing in the drawer" in capsys.readouterr().out
    told = ["sheets", "--family", "mat", "--set", "width=3", "--set", "height=4", "--stock", "Marsh blue", "--json"]
    assert main(told) == 0
    plan = json.loads(capsys.readouterr().out)
    assert plan["sheets"][0]["stock"] == "Marsh blue" and plan["sheets"][0]["width"] == 9
    assert main(["stock", "remove", "mine"]) == 0
    assert main(told) == 2
    assert main(["stock", "add", *words[:4], "--name", "No size"]) == 2
