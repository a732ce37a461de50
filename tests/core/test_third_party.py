"""A small family from outside: what docs/architecture.md says is enough to add one."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from pathlib import Path

import pytest

from yawning_lantern.assembly import Instance, Mount, Need, Part, Room, Root, Term, box_sides, span, use_of
from yawning_lantern.design import Element, Place, add_guest, set_value
from yawning_lantern.exchange.plan import plan
from yawning_lantern.exchange.reference import page as reference
from yawning_lantern.pattern import Panel, build_piece, rectangle
from yawning_lantern.structures import Parameter, Situation, Sized, Sizes, registry
from yawning_lantern.structures.kit.solving import centred, face_room, length_of, sheet_gap
from yawning_lantern.study import Study, remedies

from ..conftest import designed

IN_TRAY = use_of("plaque", "Plaque in its tray", (1 / 64, 1 / 32, 1 / 4), {"easy": (1 / 32, 1 / 4)}, fills=True)


class Plaque:
    """A board of given size that stands flat on a floor and carries a mat."""

    id, name, about, shelf = "plaque", "Plaque", "A board that lies on a floor.", "Dress"
    starts = ("size",)
    relation, headline = "inside", ("width", "height")
    faces = (("face", "on the plaque"),)
    parameters = (
        Parameter("width", "Width", "length", "Left to right.", least=3.0),
        Parameter("height", "Height", "length", "Foot to head.", least=3.0),
    )

    def size(self, situation: Situation) -> dict[str, Sized]:
        room = situation.room
        fill = (room.sides[0].reach.value * 2 - 3, room.sides[1].reach.value * 2 - 3) if room else (40.0, 40.0)
        origin = "fill" if room else "default"
        return {n: length_of(situation.given, n, fill[k], origin) for k, n in enumerate(("width", "height"))}  # type: ignore[arg-type]  # words are not used here

    def need(self, situation: Situation, sizes: Sizes) -> Need:
        t = situation.paper.caliper
        thick = span("board", t).plus(Term("bulk on it", situation.bulk_on("face")))
        if situation.room is None and not situation.given:
            return Need("inside", IN_TRAY, height=thick, caliper=t)
        w, h = (span("board", sizes[n].length / 2, situation.element, n, 0.5) for n in ("width", "height"))
        return Need("inside", IN_TRAY, box_sides((w, h, w, h)), height=thick, caliper=t, play=3.0)

    def rooms(self, situation: Situation, sizes: Sizes) -> dict[str, Room]:
        w, h = sizes["width"].length, sizes["height"].length
        return {"face": face_room(w, h, situation.paper.caliper, situation.element, ("width", "height"), "plaque")}

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        w, h = sizes["width"].length, sizes["height"].length
        e, paper = situation.element, situation.paper
        piece = build_piece(f"{e}.board", situation.name, paper, [Panel("board", "board", rectangle(0, 0, w, h))])
        middle = (w / 2, h / 2)
        terms = (span("width", w, e, "width").terms, span("height", h, e, "height").terms)
        return Part(
            e,
            situation.name,
            (piece,),
            (Instance("board", piece.id, Root("board", middle)),),
            (Mount("face", "on the plaque", "board", "board", 1, middle, (0, 1), centred(w, h), paper.caliper / 2),),
            gaps=(sheet_gap(e, situation.name, paper, (w, h), terms),),
        )


OUTSIDE = Plaque()


def test_an_installed_package_is_found_by_its_entry_point(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    info = tmp_path / "plaques-1.0.dist-info"
    info.mkdir()
    (info / "METADATA").write_text("Metadata-Version: 2.1\nName: plaques\nVersion: 1.0\n")
    (info / "entry_points.txt").write_text(f"[{registry.ENTRY_POINTS}]\nplaque = {__name__}:OUTSIDE\n")
    assert "plaque" not in registry.families()
    registry.families.cache_clear()
    monkeypatch.syspath_prepend(tmp_path)
    try:
        assert registry.families()["plaque"] is registry.family("plaque") is OUTSIDE
    finally:
        registry.families.cache_clear()


@pytest.fixture
def plaque(monkeypatch: pytest.MonkeyPatch) -> Iterator[None]:
    class Point:
        def load(self) -> Plaque:
            return Plaque()

    registry.families.cache_clear()
    monkeypatch.setattr(registry, "entry_points", lambda group: [Point()] if group == registry.ENTRY_POINTS else [])
    yield
    registry.families.cache_clear()


@pytest.mark.usefixtures("plaque")
def test_a_family_from_outside_is_host_and_guest_like_any_other() -> None:
    design = designed("tray", width=4, depth=3, height=1)
    design = add_guest(design, "tray", Element("p", "plaque", stock="chipboard-2"), Place("floor"))
    design = add_guest(design, "p", Element("m", "mat"), Place("face"))
    study = Study(design)
    assert study.resolved["p"].sizes["width"].origin == "fill" and not study.has_clash
    assert study.current("m", "width") == study.current("p", "width")
    board = next(p for p in plan(study)["pieces"] if p["id"] == "p.board")
    assert "Chipboard 2 mm" in board["material"]
    mat = next(f for n, f in zip(study.assembly.nodes, study.shut_frames, strict=True) if n.element == "m")
    t = study.resolved["tray"].final.paper.caliper
    assert mat[11] == pytest.approx(t + 2.0 + study.resolved["m"].final.paper.caliper / 2)  # stacked by thickness
    wide = Study(set_value(design, "p", "width", 110.0))
    assert [c.gap.element for c in wide.checks if c.is_clash] == ["p"]
    assert any(cure.parameter == "width" for cure in remedies(wide, next(c for c in wide.checks if c.is_clash)))
    assert "Plaque in its tray" in {c.gap.use.label for c in wide.checks}  # its own kind of gap
    assert "## Plaque (`plaque`)" in reference()


def test_the_reference_page_is_current() -> None:
    registry.families.cache_clear()
    page = Path(__file__).parent.parent.parent / "docs" / "structures.md"
    assert page.read_text(encoding="utf-8") == reference()
