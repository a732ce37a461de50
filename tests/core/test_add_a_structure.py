"""The worked family of docs/add-a-structure.md, taken from the page as it stands there, is a family like any other."""

from __future__ import annotations

import re
from pathlib import Path

import pytest

from yawning_lantern.design import Element, Place, add_guest
from yawning_lantern.exchange.plan import plan
from yawning_lantern.structures import Family, registry
from yawning_lantern.study import Study

from ..conftest import designed
from ..contracts import broken

PAGE = Path(__file__).parent.parent.parent / "docs" / "add-a-structure.md"


def worked() -> str:
    """The code on the page."""
    (code,) = re.findall(r"```python\n(.*?)```", PAGE.read_text(encoding="utf-8"), re.DOTALL)
    return str(code)


@pytest.fixture
def locket(monkeypatch: pytest.MonkeyPatch) -> Family:
    found: dict[str, object] = {"__name__": "locket"}
    exec(compile(worked(), str(PAGE), "exec"), found)
    kind: Family = found["FAMILY"]  # type: ignore[assignment]  # the page says so
    known = {**registry.families(), kind.id: kind}
    for module in ("yawning_lantern.structures.registry", "tests.plain_hosts"):
        monkeypatch.setattr(f"{module}.families", lambda: known)
    return kind


def test_it_keeps_every_promise(locket: Family) -> None:
    assert list(broken(locket.id)) == []


def test_it_is_as_short_as_the_page_says() -> None:
    code = worked()
    body = code[code.index("class Locket") : code.index("FAMILY")]
    assert sum(bool(line.strip()) for line in body.splitlines()) <= 60
    assert all(len(line) <= 140 for line in code.splitlines())


@pytest.mark.usefixtures("locket")
def test_it_finds_its_place_in_a_nest_and_in_the_plan() -> None:
    design = designed("tray", width=4, depth=3, height=1)
    design = add_guest(design, "tray", Element("l", "locket"), Place("floor"))
    design = add_guest(design, "l", Element("m", "mat"), Place("inside"))
    study = Study(design)
    assert not study.has_clash and study.resolved["l"].sizes["width"].origin == "fill"
    told = plan(study)
    assert {"l.back", "l.leaf"} <= {piece["id"] for piece in told["pieces"]}
    assert study.assembly.motions[-1].label.endswith("opens")


def test_the_page_shows_only_pictures_that_are_there() -> None:
    pictures = re.findall(r"\]\((words/.*?)\)", PAGE.read_text(encoding="utf-8"))
    assert len(pictures) == 6 and all((PAGE.parent / picture).is_file() for picture in pictures)
