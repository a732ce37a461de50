"""Mats on all walls in one word, for every box that has walls."""

from __future__ import annotations

from pathlib import Path

import pytest

from yawning_lantern.cli.main import main
from yawning_lantern.design import Element
from yawning_lantern.errors import ParameterError
from yawning_lantern.exchange.design_file import read_design
from yawning_lantern.structures import start_design
from yawning_lantern.study import Study
from yawning_lantern.study.all_walls import WORDS, on_all_walls, wall_faces

BOXES = {"tray": (4, 4), "explosion-box": (4, 4), "closing-box": (4, 0), "prism": (6, 6), "drop-front": (4, 4)}


@pytest.mark.parametrize("kind", BOXES)
def test_every_free_wall_gets_one_and_nothing_clashes(kind: str) -> None:
    outside, inside = BOXES[kind]
    for which, count in zip(WORDS, (outside, inside, outside + inside), strict=True):
        study = Study(start_design(kind, {}))
        root = study.design.root.id
        if not count:
            with pytest.raises(ParameterError, match="no wall that is free"):
                on_all_walls(study, root, which, Element("m", "mat"))
            continue
        dressed = Study(on_all_walls(study, root, which, Element("m", "mat", "Panel")))
        mats = [r for r in dressed.resolved.values() if r.family.id == "mat"]
        assert len(mats) == count and len({r.place.face for r in mats}) == count
        assert {r.place.face for r in mats} == set(wall_faces(study, root, which))
        assert [r.final.name for r in mats] == [f"Panel {k}" for k in range(1, count + 1)]
        assert not wall_faces(dressed, root, which) and not dressed.has_clash


def test_walls_that_carry_something_are_left(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    file = str(tmp_path / "box.lantern")
    assert main(["new", file, "--family", "tray"]) == 0
    assert main(["edit", file, "put", "mat", "--on", "tray:back-outside", "--name", "Door"]) == 0
    assert main(["edit", file, "put", "mat", "--on", "tray:walls-outside", "--stock", "pattern-190"]) == 0
    capsys.readouterr()
    root = read_design(Path(file)).root
    assert root.guests[0].name == "Door" and len(root.guests) == 4
    assert {g.stock for g in root.guests[1:]} == {"pattern-190"}
    assert main(["edit", file, "put", "mat", "--on", "tray:walls-outside"]) == 2
    assert "no wall that is free" in capsys.readouterr().err
