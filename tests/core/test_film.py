"""The opening goes out: strips as SVG and PDF, films, poses read back by other libraries, and the plan's steps."""

from __future__ import annotations

import io
import json
from pathlib import Path
from xml.etree import ElementTree

import jsonschema
import numpy as np
import pdfplumber
import pytest
import trimesh
from PIL import Image, ImageSequence

from yawning_lantern.cli.main import main
from yawning_lantern.errors import UnknownNameError
from yawning_lantern.exchange.design_file import read_design
from yawning_lantern.exchange.film import FRAMES, film, strip_pdf, strip_svg, write_strip
from yawning_lantern.exchange.mesh import obj, write_pose
from yawning_lantern.exchange.plan import plan
from yawning_lantern.fold import extent, pose
from yawning_lantern.opening import Opening
from yawning_lantern.study import Study, opening_of, state_at
from yawning_lantern.study.opened import closed_facts, reach

from ..conftest import DEMO, designed

SCHEMA = json.loads((Path(__file__).parents[2] / "docs" / "schema" / "plan.schema.json").read_text())
SVG = "{http://www.w3.org/2000/svg}"


@pytest.fixture(scope="module")
def told() -> tuple[Study, Opening]:
    study = Study(read_design(DEMO))
    return study, opening_of(study)


def test_a_strip_has_a_picture_for_every_step(told: tuple[Study, Opening]) -> None:
    study, opening = told
    room = reach(study, opening)
    root = ElementTree.fromstring(strip_svg(study, opening, "in", room))
    pictures = root.findall(f"{SVG}g")
    assert len(pictures) == len(opening.steps) + 1
    assert all(len(g.findall(f"{SVG}polygon")) >= len(study.assembly.nodes) * 0.5 for g in pictures)
    with pdfplumber.open(io.BytesIO(strip_pdf(study, opening, "in", room))) as pdf:
        words = pdf.pages[0].extract_text()
        assert len(pdf.pages) == 1 and study.design.name in words and "Opens and shuts clear" in words
        assert len(pdf.pages[0].curves) + len(pdf.pages[0].rects) > len(study.assembly.nodes)


def test_a_strip_of_another_kind_is_refused(told: tuple[Study, Opening], tmp_path: Path) -> None:
    with pytest.raises(UnknownNameError, match=r"\.pdf or \.svg"):
        write_strip(*told, tmp_path / "s.doc", "in", (1.0, 1.0, 1.0))
    with pytest.raises(UnknownNameError, match="gif or png"):
        film(*told, "mov")


@pytest.mark.parametrize("kind", ["gif", "png"])
def test_a_film_moves(kind: str) -> None:
    study = Study(designed("flap"))
    opening = opening_of(study)
    with Image.open(io.BytesIO(film(study, opening, kind))) as image:
        count = len(list(ImageSequence.Iterator(image)))
        assert count >= FRAMES * len(opening.steps) and image.size == (640, 480)
        image.seek(0)
        first = np.asarray(image.convert("RGB")).astype(int)
        image.seek(count - 1)
        assert abs(np.asarray(image.convert("RGB")).astype(int) - first).sum() > 100_000


def test_a_pose_is_read_back_as_closed_slabs(told: tuple[Study, Opening], tmp_path: Path) -> None:
    study, opening = told
    for time in (0.0, 1.5, float(len(opening.steps))):
        state = state_at(study, opening, time)
        write_pose(study, state, tmp_path / "p.obj")
        mesh = trimesh.load(tmp_path / "p.obj", force="mesh")
        lo, hi = extent(study.assembly, pose(study.assembly, state))
        assert np.allclose(mesh.bounds, [lo, hi], atol=0.05)
        assert len(mesh.faces) >= 8 * len(study.assembly.nodes)  # a triangle has two faces and three sides
    flat = Study(designed("photo"))
    slab = trimesh.load(io.StringIO(obj(flat, state_at(flat, opening_of(flat), 0.0))), file_type="obj", force="mesh")
    piece = flat.pieces[0]
    assert slab.is_watertight and slab.is_winding_consistent
    assert slab.volume == pytest.approx(piece.size[0] * piece.size[1] * piece.stock.caliper, rel=1e-3)


def test_the_plan_tells_the_steps_as_its_schema_says(told: tuple[Study, Opening]) -> None:
    study, opening = told
    found = plan(study, "mm", opening)
    jsonschema.validate(found, SCHEMA)
    assert [s["motion"] for s in found["opening"]] == [study.assembly.motions[s.motion].name for s in opening.steps]
    fall = next(s for s in found["opening"] if s["label"].startswith("Walls of"))
    assert (fall["from_deg"], fall["to_deg"], fall["clear"], fall["contact"]) == (90.0, 0.0, True, None)
    assert "opening" not in plan(study, "mm")


def test_a_contact_in_the_plan_has_words_and_cures(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["plan", "--family", "tent", "--json"]) == 0
    found = json.loads(capsys.readouterr().out)
    jsonschema.validate(found, SCHEMA)
    assert found["opening"][0]["clear"] and found["shut_contacts"] == []
    target = tmp_path / "s.svg"
    assert main(["opening", str(DEMO), "--strip", str(target), "--pose", str(tmp_path / "p.obj")]) == 0
    out = capsys.readouterr().out
    assert "Opens and shuts clear" in out and "Belly band" in out and "the carrier's own" in out
    assert target.read_text().startswith("<svg") and (tmp_path / "p.obj").exists()


def test_what_follows_from_the_shut_thing() -> None:
    """A band goes twice around width and thickness and overlaps half an inch (common practice, no source)."""
    study = Study(designed("mat", width=100 / 25.4, height=60 / 25.4))
    facts = dict(closed_facts(study, "mm"))
    wide, deep, high = study.closed
    assert facts["Shut"].startswith(f"{-(-wide // 1):.1f} × {-(-deep // 1):.1f}")
    assert float(facts["Belly band"].split()[0]) == pytest.approx(2 * (min(wide, deep) + high) + 12.7, abs=4.0)
    assert facts["Most bulk"].startswith("1 sheet")
    # around crosswise it goes over and under both ways; 20 in more for a bow with tails (common practice, no source)
    crosswise = 2 * (wide + deep + 2 * high) + 508.0
    assert crosswise - 1e-6 <= float(facts["Ribbon"].split()[0]) < crosswise + 8.0 + 12.0  # up to whole 8 mm
    assert high <= float(facts["Spine"].split()[0]) < high + 1.0
    grams = 0.1 * 0.06 * 216  # the mat at its grammage, borders off
    assert 0.85 * grams < float(facts["Paper"].split()[0]) + 0.5 and float(facts["Paper"].split()[0]) <= grams + 0.5
