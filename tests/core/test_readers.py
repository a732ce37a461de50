"""Readers: whatever is in a file, or typed at the command line, gets a sentence; what is kept can be read back."""

from __future__ import annotations

import copy
import json
import os
import random
import time
from pathlib import Path

import pytest

from yawning_lantern.cli.main import main
from yawning_lantern.design import find
from yawning_lantern.errors import LanternError
from yawning_lantern.exchange.design_file import from_bytes, read_design, to_bytes, write_design
from yawning_lantern.exchange.files import write_atomically
from yawning_lantern.structures import families, start_design
from yawning_lantern.study import Study, known_names

from ..conftest import DEMO, designed

WHOLE = json.loads(to_bytes(designed("explosion-box", base=4, wall=4, layers=2, lid="easy")))
ODD: list[object] = [
    None, True, -1, 0, 1e308, -1e308, 10**400, 1e-320, "", " ", "a" * 5000, "\u0000", "\ud800", "\u202e", [], {}, [[]],
    {"id": ""}, "nan", "inf", float("nan"), float("inf"), 2**63, -(2**70), "../../x", "box",
]  # fmt: skip


def damaged(rng: random.Random) -> bytes:
    """A design file with something wrong: bytes flipped, cut off, doubled, or a value that does not belong there."""
    raw = json.loads(json.dumps(WHOLE))
    for _ in range(rng.randrange(1, 4)):
        here: object = raw
        while isinstance(here, dict | list) and here and rng.random() < 0.85:
            keys = list(here) if isinstance(here, dict) else list(range(len(here)))
            key = rng.choice(keys)
            inner = here[key]  # type: ignore[index]  # a key of its own
            if isinstance(inner, dict | list) and inner and rng.random() < 0.7:
                here = inner
                continue
            deed = rng.randrange(4)
            if deed == 0 and isinstance(here, dict):
                del here[key]
            elif deed == 1 and isinstance(here, dict):
                here[rng.choice(["x", "id", "family", "face", "guests", "", "\ud800"])] = copy.deepcopy(rng.choice(ODD))
            else:
                here[key] = copy.deepcopy(rng.choice(ODD))  # type: ignore[index]  # a key of its own
            break
    text = json.dumps(raw)
    data = bytearray(text.encode("utf-8", "surrogatepass"))
    if rng.random() < 0.5:
        for _ in range(rng.randrange(1, 6)):
            at = rng.randrange(len(data))
            deed = rng.randrange(4)
            if deed == 0:
                data[at] = rng.randrange(256)
            elif deed == 1:
                del data[at : at + rng.randrange(1, 40)]
            elif deed == 2:
                data[at:at] = data[at : at + rng.randrange(1, 200)]
            else:
                del data[at:]
            if not data:
                break
    return bytes(data)


def read_one(data: bytes) -> str:
    """What becomes of a file: refused, or read and worked out. Raises whatever is no LanternError."""
    try:
        design = from_bytes(data, "x.lantern")
        assert from_bytes(to_bytes(design)) == design  # what is kept can be read back
        known_names(design)
        Study(design)
    except LanternError as error:
        said = error.sentence()
        assert said and "\n" not in said and len(said) < 800 and said.isprintable()
        return "refused"
    return "read"


def test_damaged_files_get_a_sentence() -> None:
    rng = random.Random(7)
    counted = {"refused": 0, "read": 0}
    for _ in range(1500):
        counted[read_one(damaged(rng))] += 1
    assert counted["refused"] > 500 and counted["read"] > 20


@pytest.mark.long
@pytest.mark.parametrize("block", range(20))
def test_a_hundred_thousand_damaged_files(block: int) -> None:
    rng = random.Random(1000 + block)
    slowest = 0.0
    for _ in range(5000):
        data = damaged(rng)
        begin = time.perf_counter()
        read_one(data)
        slowest = max(slowest, time.perf_counter() - begin)
    assert slowest < 2.0


@pytest.mark.parametrize(
    "change",
    [
        lambda text: text.replace('"box"', '"\\ud800"', 1),
        lambda text: text.replace('"version": 3', '"version": ' + "9" * 5000),
        lambda text: text.replace("101.6", "9" * 5000, 1),
        lambda text: text.replace('"id": "box"', '"id": ""', 1),
        lambda text: text.replace('"calipers": {}', '"calipers": {"vellum": 1e999}'),
        lambda text: text.replace('"calipers": {}', '"calipers": {"vellum": NaN}'),
        lambda text: text.replace('"name": "Untitled"', '"name": "' + "x\\n" * 3000 + '", "wings": 2'),
    ],
)
def test_known_damage(change: object) -> None:
    text = json.dumps(WHOLE)
    changed = change(text)  # type: ignore[operator]  # a function in the table
    assert changed != text
    with pytest.raises(LanternError) as caught:
        from_bytes(changed.encode("utf-8", "surrogatepass"), "x.lantern")
    assert len(caught.value.sentence()) < 800


def test_fifty_thousand_parts_are_refused_soon() -> None:
    raw = json.loads(json.dumps(WHOLE))
    raw["root"]["guests"] = [
        {"id": f"m{k}", "family": "mat", "place": {"face": "right-outside"}} for k in range(50_000)
    ]
    data = json.dumps(raw, separators=(",", ":")).encode()
    begin = time.process_time()
    json.loads(data)
    read = time.process_time() - begin
    with pytest.raises(LanternError, match=r"MB, far more|more than 2000 parts"):
        from_bytes(data)
    assert time.process_time() - begin - read < 8 * read  # a few times what the standard library takes to read it


def test_what_is_no_file_is_not_waited_for(tmp_path: Path) -> None:
    os.mkfifo(tmp_path / "fifo")
    (tmp_path / "ring").symlink_to(tmp_path / "ring")
    for path in (tmp_path / "fifo", tmp_path / "ring", tmp_path, Path("/dev/zero"), Path("a\0b")):
        with pytest.raises(LanternError):
            read_design(path)
    for path in (tmp_path / "ring", tmp_path / "no" / "x", Path("a\0b")):
        with pytest.raises(LanternError):
            write_atomically(path, b"x")


# -- the command line


def run(capsys: pytest.CaptureFixture[str], *words: str) -> tuple[int, str, str]:
    code = main(words)
    out, err = capsys.readouterr()
    return code, out, err


@pytest.mark.parametrize(
    ("words", "told"),
    [
        (["plam"], "Did you mean plan?"),
        (["plan", "--famly", "tray"], "not understood"),
        (["plan", "--family"], "needs a value"),
        (["plan", "--family", "tray", "--paper", "a44"], "Did you mean a4?"),
        (["plan", "--family", "tray", "--set", "width=nan"], "cannot be read"),
        (["plan", "--family", "tray", "--caliper", "nan"], "cannot be read"),
        (["opening", "--family", "tray", "--step", "nan"], "no value for --step"),
        (["opening", "--family", "tray", "--step", "-1"], "no value for --step"),
        (["plan", "--family", "exploson-box"], "Did you mean explosion-box?"),
        (["plan", "--family", "tray", "--set", "heigth=1"], "Did you mean height?"),
        (["plan", "--family", "lid", "--set", "rim-kind=duble"], "Did you mean double?"),
        (["plan", "--family", "tray", "--set", "width=" + "9" * 6000], "too long"),
        (["plan", "--family", "tray\ud800"], "no family"),
        ([], "missing"),
    ],
)
def test_wrong_words_get_one_sentence_and_one_suggestion(
    capsys: pytest.CaptureFixture[str], words: list[str], told: str
) -> None:
    code, out, err = run(capsys, *words)
    assert code == 2 and out == "" and told in err and err.startswith("lantern: ") and err.count("\n") == 1
    assert "usage:" not in err and "argument" not in err and err.count("Did you mean") <= 1 and len(err) < 900


def test_a_fault_inside_has_a_status_of_its_own(
    capsys: pytest.CaptureFixture[str], monkeypatch: pytest.MonkeyPatch
) -> None:
    from yawning_lantern.cli import planning

    monkeypatch.setattr(planning, "told_design", lambda options: 1 / 0)
    code, out, err = run(capsys, "plan", "--family", "tray")
    assert code == 3 and out == "" and "fault inside" in err and "Traceback" not in err


def test_any_nest_is_made_without_the_window(capsys: pytest.CaptureFixture[str], tmp_path: Path) -> None:
    file = str(tmp_path / "d.lantern")
    assert run(capsys, "new", file, "--family", "explosion-box", "--set", "base=4", "--set", "lid=easy")[0] == 0
    assert run(capsys, "new", file, "--family", "tray")[0] == 2  # it is there already
    assert (
        run(capsys, "new", file, "--family", "explosion-box", "--set", "base=4", "--set", "lid=easy", "--force")[0] == 0
    )
    code, out, _ = run(capsys, "edit", file, "put", "waterfall", "--on", "box:left-inside", "--set", "flaps=3")
    assert code == 0 and "waterfall (waterfall) on box:left-inside" in out
    assert run(capsys, "edit", file, "put", "mat", "--on", "waterfall:flap-1-front", "--name", "Moon")[0] == 0
    assert run(capsys, "edit", file, "set", "waterfall", "flaps=4", "tab=3/8")[0] == 0
    assert run(capsys, "edit", file, "set", "waterfall", "tab=")[0] == 0
    moved = ("move", "mat", "--on", "box:right-outside", "--at", "-1/2,-1/4", "--turn", "1")
    assert run(capsys, "edit", file, *moved)[0] == 0
    assert run(capsys, "edit", file, "rename", "mat", "Half moon")[0] == 0
    design = read_design(Path(file))
    mat = find(design, "mat")
    assert mat.name == "Half moon" and mat.place is not None
    assert (mat.place.face, mat.place.x, mat.place.y, mat.place.turn) == ("right-outside", -12.7, -6.35, 1)
    assert find(design, "waterfall").settings == {"flaps": 4}
    assert run(capsys, "plan", file)[0] == 1  # half an inch off the middle hangs over the wall's edge
    assert run(capsys, "edit", file, "move", "mat", "--at", "0,0")[0] == 0 and run(capsys, "plan", file)[0] == 0
    assert run(capsys, "edit", file, "take", "waterfall")[0] == 0
    assert [e.id for e in read_design(Path(file)).root.guests] == ["lid", "mat"]


@pytest.mark.parametrize(
    ("words", "told"),
    [
        (["put", "mat"], "where it goes"),
        (["put", "mat", "--on", "floor"], "names no face"),
        (["put", "mat", "--on", "box:flor"], "Did you mean floor?"),
        (["put", "mat", "--on", "bx:floor"], "Did you mean box?"),
        (["put", "matt", "--on", "box:floor"], "Did you mean mat?"),
        (["put", "mat", "--on", "box:floor", "--at", "1"], "is no place"),
        (["put", "mat", "--on", "box:floor", "--at", "1,two"], "cannot be read"),
        (["put", "lid", "--on", "box:floor"], "goes over walls"),
        (["set", "box", "base=0"], "out of bounds"),
        (["set", "box", "bse=4"], "Did you mean base?"),
        (["take", "box"], "outermost"),
        (["move", "box", "--at", "1,1"], "outermost"),
        (["rename", "box", " "], "called nothing"),
        (["move", "lid", "--on", "lid:top"], "itself"),
    ],
)
def test_an_edit_that_cannot_be_changes_nothing(
    capsys: pytest.CaptureFixture[str], tmp_path: Path, words: list[str], told: str
) -> None:
    file = tmp_path / "d.lantern"
    write_design(designed("explosion-box", base=4, wall=4, lid="easy"), file)
    before = file.read_bytes()
    code, out, err = run(capsys, "edit", str(file), *words)
    assert code == 2 and told in err and out == "" and file.read_bytes() == before


@pytest.mark.parametrize(
    ("kind", "given", "told"),
    [
        ("lid", {"over-width": 3.0, "over-depth": 3.0}, "too little"),
        ("waterfall", {"flap-width": 3.0, "base-width": 40.0, "mats": "all"}, "nothing for a mat"),
        ("pocket", {"width": 60.0, "height": 60.0, "notch": 50.0}, "wider than the pocket's mouth"),
        ("mat", {"width": 10.0, "border": 6.0}, "Nothing is left for the mat.s width"),
    ],
)
def test_what_cannot_be_paper_is_refused_by_the_family(kind: str, given: dict[str, float | str], told: str) -> None:
    with pytest.raises(LanternError, match=told):
        Study(start_design(kind, given))


def test_extreme_measurements_are_sound_or_refused() -> None:
    """Every family at the ends of its bounds and beyond what suits: whole paper, or a sentence."""
    from yawning_lantern.study import sound

    rng = random.Random(3)
    made = refused = 0
    for kind in families().values():
        for _ in range(40):
            given: dict[str, float | str] = {}
            for p in rng.sample(kind.parameters, min(len(kind.parameters), rng.randrange(1, 6))):
                if p.derived or p.structural or p.kind in ("text", "lengths"):
                    continue
                if p.words and (p.kind == "word" or rng.random() < 0.3):
                    given[p.id] = rng.choice(p.words)
                elif p.kind == "count":
                    given[p.id] = rng.randint(int(p.least), int(max(p.least, min(p.most, 16))))
                else:
                    given[p.id] = rng.choice([p.least, p.least * 1.01, 3.0, 7.0, 60.0, 400.0, min(p.most, 900.0)])
                    given[p.id] = min(max(float(given[p.id]), p.least), p.most)
            try:
                study = Study(start_design(kind.id, given))
            except LanternError as error:
                assert error.sentence().endswith((".", "?"))
                refused += 1
                continue
            sound(study)
            made += 1
    assert made > 300 and refused > 50


def test_the_demo_is_one_of_ours() -> None:
    assert read_one(DEMO.read_bytes()) == "read"
