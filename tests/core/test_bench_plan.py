"""The plan for the bench: each thing once and after what it needs; numbers as the trade reads them; evenings."""

from __future__ import annotations

import json
from collections import Counter
from datetime import date, timedelta
from itertools import pairwise
from pathlib import Path

import networkx as nx
import numpy as np
import pytest
import vobject
from hypothesis import given as drawn
from hypothesis import strategies as st
from msgspec.structs import replace

from yawning_lantern.bench import BenchPlan, Schools, Step, acts_of
from yawning_lantern.bench.evenings import _cut_up, evenings
from yawning_lantern.bench.glue_map import glue_map
from yawning_lantern.cli.main import main
from yawning_lantern.design import Element, Place, add_guest, set_value
from yawning_lantern.errors import LanternError
from yawning_lantern.exchange.bench_data import bench_json, bench_words, calendar, step_words
from yawning_lantern.exchange.design_file import read_design, write_design
from yawning_lantern.fold import apply
from yawning_lantern.measure import MM_PER_INCH, inches, speak
from yawning_lantern.structures import families, start_design
from yawning_lantern.study import Study
from yawning_lantern.study.at_bench import plan_bench
from yawning_lantern.study.seams import _way

from ..conftest import DEMO, designed
from ..plain_hosts import hosted
from .test_contracts import forms
from .test_joints import CASES, frame_of

SET = DEMO.with_name("comet-night-set.lantern")
DONE = ("glue", "decorate", "tie")


def is_sound(study: Study, plan: BenchPlan) -> None:
    """Every step after what it needs; every piece and every joint once; nothing handled while its glue is wet."""
    ids = [step.id for step in plan.steps]
    assert len(set(ids)) == len(ids)
    graph = nx.DiGraph([(need, step.id) for step in plan.steps for need in step.needs])
    assert nx.is_directed_acyclic_graph(graph)
    place = {one: k for k, one in enumerate(ids)}
    assert all(place[a] < place[b] for a, b in graph.edges)
    cut = [step.piece for step in plan.steps if step.kind == "cut"]
    assert sorted(cut) == sorted(piece.id for piece in study.pieces if not piece.bought)
    for step in plan.steps:
        if step.id.endswith(":slanted"):  # those scores that run neither along an edge nor across it
            lines = next(piece.lines for piece in study.pieces if piece.id == step.piece)
            ways = [[abs(a - b) for a, b in zip(line.start, line.end, strict=True)] for line in lines]
            slant = [k for k, way in enumerate(ways) if lines[k].kind == "score" and min(way) > 0.01]
            assert list(step.lines) == slant and f" {len(slant)} slanted" in step.text
    acts = Counter(step.act for step in plan.steps if step.kind in DONE and step.act)
    assert acts == Counter(act.name for act in acts_of(study.assembly))
    clock, holds = 0.0, {}
    for step in plan.steps:
        for told in (step.heed, step.because):
            sentences = told.split(". ")
            assert len(set(sentences)) == len(sentences), told  # no sentence stands twice
        if step.kind in ("fit", "put") or (step.kind == "glue" and "fit:" + step.act in place):
            assert clock >= holds.get(step.element, 0.0) - 0.02, step.id
        clock += step.minutes
        if step.kind in DONE and step.wait:
            holds[step.element] = clock + step.wait


@pytest.mark.parametrize(("kind", "given"), CASES)
def test_each_thing_is_done_once_and_in_order(kind: str, given: dict[str, float | str]) -> None:
    study = Study(designed(kind, **given))
    is_sound(study, plan_bench(study))


@pytest.mark.parametrize("path", [DEMO, SET], ids=["box", "set"])
@pytest.mark.parametrize("schools", [Schools(), Schools("later", "after")], ids=["flat", "later"])
def test_the_examples_either_way(path: Path, schools: Schools) -> None:
    study = Study(read_design(path))
    is_sound(study, plan_bench(study, schools))


def steps_of(plan: BenchPlan, kind: str) -> list[Step]:
    return [step for step in plan.steps if step.kind == kind]


def numbers(step: Step) -> list[float]:
    assert step.placing is not None
    return [round(reading.mark / MM_PER_INCH, 4) for reading in step.placing.readings]


def test_check_values_as_they_are_read_off() -> None:
    # a 12 × 12 cross at 4: one number in every placing. Common practice, no source
    cross = plan_bench(Study(designed("explosion-box", sheet=12, wall=4)))
    assert {n for step in steps_of(cross, "score") for n in numbers(step)} == {4.0, 8.0}
    assert all(step.face == "back" for step in steps_of(cross, "score"))  # walls fold up: valleys, ridge inside
    # a lid 15/16 from every edge: four placings of one number; its rims fold down. Common practice, no source
    flat = replace(designed("lid", rim=15 / 16, top_width=4, top_depth=4), score_tool="trimmer-score")
    lid = steps_of(plan_bench(Study(flat)), "score")
    assert [numbers(step) for step in lid] == [[0.9375]] * 4
    assert {step.face for step in lid} == {"front"}
    assert [step.text.split(".")[0] for step in lid[1:]] == ["A quarter turn"] * 3
    # a gift card stand: 4 × 4 scored at 1/2, 1 1/4, 2, 2 3/4, 3 1/2, read from either end. Common practice, no source
    stand = Study(designed("stand", panel=0.75, tab=0.5, stand_width=4, page_width=4, page_height=4.5))
    strip = next(step for step in steps_of(plan_bench(stand), "score") if "strip" in step.piece)
    assert set(numbers(strip)) <= {0.5, 1.25, 2.0, 2.75, 3.5}


def test_mats_while_flat_or_later() -> None:
    tray = start_design("tray", {})
    design = add_guest(tray, tray.root.id, Element("mat", "mat"), Place("front-outside"))
    for school, first in (("flat", "decorate"), ("later", "glue")):
        done = [step.kind for step in plan_bench(Study(design), Schools(school)).steps if step.kind in DONE]
        assert done[0] == first
        assert Counter(done) == {"glue": 4, "decorate": 1}


def test_what_closes_comes_last_and_is_tried_first() -> None:
    box = designed("board-cover")
    design = add_guest(box, box.root.id, Element("band", "belly-band"), Place("around"))
    plan = plan_bench(Study(design))
    kinds = [(step.kind, step.element) for step in plan.steps if step.kind in (*DONE, "fit", "rehearse")]
    assert kinds[-3:] == [("fit", "band"), ("glue", "band"), ("rehearse", design.root.id)]
    assert plan.steps[plan.at["glue:band.close"]].state == "trim to fit"


def test_nothing_is_put_in_before_it_was_tried() -> None:
    plan = plan_bench(Study(read_design(SET)))
    at = plan.at
    for inner in ("layer-2", "tiers", "comet", "rosette", "moon", "programme"):
        glue = next(step for step in plan.steps if step.kind == "glue" and step.act.startswith(f"{inner}.") and
                    f"fit:{step.act}" in at)  # fmt: skip
        assert at[f"fit:{glue.act}"] < at[glue.id]
    layer = plan.steps[at["fit:layer-2.cross/base"]]
    assert "quarter to the left" in layer.heed  # pockets then face clear walls
    assert at["insert:layer-2.1"] > max(at[s.id] for s in plan.steps if "layer-2.cross/flap" in s.id)


def test_a_notch_is_punched_before_something_lies_behind_it() -> None:
    for family, given, kinds in (
        ("pocket", {"mouth": "up", "notch": 1.0}, ["cut", "punch"]),
        ("pull-waterfall", {}, ["cut", "punch"]),
    ):
        design = designed(family, **given)  # type: ignore[arg-type]  # words in a table
        for school in ("before", "after"):
            plan = plan_bench(Study(design), Schools(notch=school))
            piece = steps_of(plan, "punch")
            assert len(piece) == 1, (family, school)
            assert [s.kind for s in plan.steps if s.piece == piece[0].piece][: len(kinds)] == kinds


def test_copies_are_made_side_by_side() -> None:
    study = Study(designed("tray"))
    one, three = plan_bench(study), plan_bench(study, copies=3)
    assert [step.id for step in three.steps] == [step.id for step in one.steps if step.kind != "wait"] or three.waits
    assert {step.copies for step in three.steps if step.kind != "wait"} == {3}
    assert three.minutes == pytest.approx(3 * one.minutes, rel=0.02)


def test_the_longest_chain_by_all_chains() -> None:
    plan = plan_bench(Study(designed("tray")))
    graph = nx.DiGraph([(need, step.id) for step in plan.steps for need in step.needs])
    by_id = {step.id: step for step in plan.steps}
    starts = [n for n in graph if not graph.in_degree(n)]
    ends = [n for n in graph if not graph.out_degree(n)]

    def long(chain: list[str]) -> float:
        return sum(by_id[a].minutes + by_id[a].wait for a in chain[:-1]) + by_id[chain[-1]].minutes

    longest = max(long(c) for a in starts for b in ends for c in nx.all_simple_paths(graph, a, b))
    assert plan.critical[1] == pytest.approx(longest, abs=0.011)


@pytest.mark.parametrize("minutes", [30.0, 60.0, 90.0, 500.0])
def test_evenings_hold_all_steps_and_end_before_the_day(minutes: float) -> None:
    plan = plan_bench(Study(read_design(SET)))
    until = date(2027, 3, 14)
    sittings = evenings(plan, until, minutes)
    done = [step.id for one in sittings for step in one.steps]
    waits = {step.id for step in plan.steps if step.kind == "wait"}
    assert [i for i in done if i not in waits] == [s.id for s in plan.steps if s.id not in waits]
    assert all(one.minutes <= minutes + 1e-6 for one in sittings)
    assert sittings[-1].day == until - timedelta(days=1)
    assert all(b.day - a.day == timedelta(days=1) for a, b in pairwise(sittings))
    assert len(sittings) >= plan.minutes / minutes
    read = vobject.readOne(calendar("Comet, “Night”; set", sittings, "in").decode())
    events = read.vevent_list
    assert [event.dtstart.value.date() for event in events] == [one.day for one in sittings]
    assert len({event.uid.value for event in events}) == len(sittings)
    first = events[0].description.value.splitlines()
    assert len(first) == len(sittings[0].steps) and first[0].startswith("Cut ")
    assert all((e.dtend.value - e.dtstart.value).total_seconds() >= 60 * o.minutes - 31
               for e, o in zip(events, sittings, strict=True))  # fmt: skip


def test_glue_edge_by_edge() -> None:
    # facts of the trade: a pocket is glued on three sides, a corner flap along its foot, a tab all over; from memory
    pocket = Study(add_guest(d := designed("tray"), d.root.id, Element("p", "pocket"), Place("front-outside")))
    told = {act.name: glue_map(pocket.assembly, act.joints[0], pocket.shut_frames) for act in acts_of(pocket.assembly)}
    sides = told["p.pocket/pocket"].edges
    assert Counter(edge.shut for edge in sides) == {"glue": 3, "open": 1}
    assert [edge.end for edge in sides] == [edge.start for edge in (*sides[1:], sides[0])]  # side after side
    tab = next(one for name, one in told.items() if "tab-right-back" in name)
    assert Counter(edge.shut for edge in tab.edges) == {"fold": 1, "glue": 3}
    box = Study(designed("explosion-box", corner="pocket"))
    act = next(act for act in acts_of(box.assembly) if "flap-back-left" in act.name)
    flap = glue_map(box.assembly, act.joints[0], box.shut_frames)
    assert Counter(edge.shut for edge in flap.edges) == {"fold": 1, "glue": 1, "open": 1}
    assert flap.width == pytest.approx(inches(1 / 4), rel=0.1)


def test_the_command_tells_it(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    path = tmp_path / "box.lantern"
    write_design(designed("lid", rim_kind="double"), path)
    assert main(["bench-plan", str(path), "--json"]) == 0
    told = json.loads(capsys.readouterr().out)
    assert told == bench_json(plan_bench(Study(read_design(path))), "in")
    first = next(step for step in told["steps"] if step["kind"] == "score")
    assert set(first) >= {
        "number",
        "id",
        "kind",
        "piece",
        "parts",
        "text",
        "face_up",
        "readings",
        "needs",
        "wait",
        "caution",
    }
    assert set(first["readings"][0]) == {"edge", "fence", "on_grid", "residual"}
    lined = next(step for step in told["steps"] if step["id"].startswith("glue:lid.lid/tab-right-back"))
    assert "held shut" in lined["because"] and "inner rim" in lined["because"]
    out = tmp_path / "evenings.ics"
    assert main(["bench-plan", str(path), "--by", "2027-03-14", "--evening", "30", "--calendar", str(out)]) == 0
    text = capsys.readouterr().out
    assert "Sat 13 Mar 2027" in text and "no groove" not in text
    assert len(vobject.readOne(out.read_text()).vevent_list) == text.count("Mar 2027")


@pytest.mark.parametrize(
    ("words", "said"),
    [(["--by", "soon"], "is no day"), (["--calendar", "x.ics"], "--by"), (["--copies", "0"], "copies"),
     (["--by", "2027-01-01", "--evening", "1"], "ten minutes")],
)  # fmt: skip
def test_what_cannot_be_is_said(words: list[str], said: str, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["bench-plan", "--family", "tray", *words]) == 2
    assert said in capsys.readouterr().err


def test_words_of_the_examples_have_no_raw_lengths() -> None:
    for path in (DEMO, SET):
        lines = bench_words(plan_bench(Study(read_design(path))), "in")
        assert not [line for line in lines if "{" in line or "mm}" in line]


@pytest.mark.parametrize("caliper", [0.3, 0.06])
@pytest.mark.parametrize(("kind", "given"), CASES)
def test_glue_goes_on_the_face_that_meets_its_mate(kind: str, given: dict[str, float | str], caliper: float) -> None:
    # the face is looked for by moving what is brought along its own normal: that must bring it away from its mate
    study = Study(replace(designed(kind, **given), calipers={"card-216": caliper}))
    frames = study.shut_frames
    for act in acts_of(study.assembly):
        for bonded in act.joints:
            a, b = study.assembly.nodes[bonded.a], study.assembly.nodes[bonded.b]
            if a.shape is not None or b.shape is not None:
                continue
            (turn, at), (other, there) = frame_of(frames[bonded.a]), frame_of(frames[bonded.b])
            mine = np.array([[*p, 0.0] for p in a.panel.outline]) @ turn.T + at
            theirs = np.array([[*p, 0.0] for p in b.panel.outline]) @ other.T + there
            way = turn[:, 2] * (1 if glue_map(study.assembly, bonded, frames).face == "front" else -1)
            assert (theirs @ way).mean() > (mine @ way).mean() - 1e-6
    plan = plan_bench(study)
    assert all(f"on its {s.face}" in s.heed for s in plan.steps if s.kind in ("glue", "decorate") and s.act)


def test_glue_keeps_off_folds_and_the_first_flap_is_checked() -> None:
    plan = plan_bench(Study(designed("waterfall")))
    flaps = [s for s in plan.steps if s.kind == "glue"]
    assert "decides whether all are straight" in flaps[0].heed and "flap 1" in flaps[0].text
    assert all("off folds and open edges" in step.heed for step in flaps)
    box = plan_bench(Study(designed("explosion-box", corner="pocket")))
    assert all("the open edge stays free" in s.heed and "1/4" in speak(s.heed, "in") for s in steps_of(box, "glue"))


def test_what_will_lie_behind_a_notch_has_it_punched_first() -> None:
    tray = designed("tray")
    pocket = Element("p", "pocket", settings={"notch": inches(0.75)})
    study = Study(add_guest(tray, tray.root.id, pocket, Place("front-outside")))
    plan = plan_bench(study, Schools(notch="after"))
    punch = steps_of(plan, "punch")[0]
    glue = next(s for s in plan.steps if s.kind in ("decorate", "glue") and s.element == "p")
    assert plan.at[punch.id] < plan.at[glue.id] and "Tray" in punch.heed and "will lie behind it" in punch.heed


@pytest.mark.parametrize("family", ["prism", "casing", "drawer-sleeve", "box-card", "belly-band"])
def test_a_seam_looks_where_its_panel_looks(family: str) -> None:
    """The normal of the panel by a cross product, away from what it is glued to."""
    study = Study(designed(family))
    for bonded in study.assembly.joints:
        a, b = (
            np.array([apply(study.shut_frames[k], *p) for p in study.assembly.nodes[k].panel.outline])
            for k in (bonded.a, bonded.b)
        )
        normal = np.cross(a[1] - a[0], a[2] - a[0])
        normal /= np.linalg.norm(normal)
        outward = normal if (a.mean(axis=0) - b.mean(axis=0)) @ normal > 0 else -normal
        assert np.abs(np.array(_way(study, bonded)) / 10 - outward).max() < 0.06, bonded.act


def test_seams_that_show_are_told() -> None:
    # facts of the trade: a seam inside a bag is hidden, one outside is seen; a band of two pieces laps twice
    def told(family: str, **given: float | str) -> list[str]:
        return [s.heed for s in plan_bench(Study(designed(family, **given))).steps if "seam shows" in s.heed]

    assert not told("gate-bag", seam="inside") or "opened" in told("gate-bag", seam="inside")[0]
    assert told("gate-bag", seam="outside")
    assert len(told("belly-band", over_width=4)) == 1
    assert all("different faces" in words for words in told("belly-band", over_width=10)) and told(
        "belly-band", over_width=10
    )
    assert not told("tray") and not told("lid", rim_kind="double")


@pytest.mark.parametrize("kind", sorted(families()))
def test_every_piece_that_is_cut_is_joined_put_or_slid_in(kind: str) -> None:
    for given in ({}, *forms(kind)):
        try:
            study = Study(start_design(kind, given))
        except LanternError:
            continue
        nodes, plan = study.assembly.nodes, plan_bench(study)
        used = {nodes[k].piece.id for bonded in study.assembly.joints for k in (bonded.a, bonded.b) if k is not None}
        done = " ".join(s.text for s in plan.steps if s.kind in ("glue", "insert", "tie", "put", "decorate"))
        placed = Counter(one.piece for r in study.resolved.values() for one in r.part.instances)
        for piece in study.pieces:
            assert placed[piece.id] in (0, piece.quantity), (given, piece.name)
            alone = len(study.resolved[study.design.root.id].part.pieces) == 1
            assert alone or piece.bought or piece.id in used or piece.name in done, (given, piece.name)


STEPS = st.lists(
    st.builds(Step, st.uuids().map(str), st.sampled_from(["cut", "glue", "wait"]), st.just("…"),
              minutes=st.sampled_from([0.0, 2.0, 5.0, 9.0, 20.0])),
    min_size=1, max_size=24,
)  # fmt: skip


@drawn(STEPS, st.sampled_from([10.0, 15.0, 30.0, 90.0]))
def test_sittings_are_cut_from_the_last_one_back(steps: list[Step], long: float) -> None:
    """Nothing but waits is left out and none ends a sitting; no sitting is too long, and none could be begun a step
    sooner."""
    sittings = _cut_up(steps, long)
    kept = [step.id for one in sittings for step in one]
    assert kept == [s.id for s in steps if s.id in set(kept)]
    assert all(s.kind == "wait" for s in steps if s.id not in set(kept))
    assert all(one[-1].kind != "wait" for one in sittings)
    total = [sum(step.minutes for step in one) for one in sittings]
    assert all(minutes <= long or len(one) == 1 for minutes, one in zip(total, sittings, strict=True))
    for before, minutes, one in zip(sittings, total[1:], sittings[1:], strict=False):
        waits = steps[[s.id for s in steps].index(before[-1].id) + 1 :]
        between = waits[: [s.id for s in waits].index(one[0].id)]
        last = before[-1].minutes + sum(s.minutes for s in between)
        assert minutes + last > long or any(s.kind == "wait" for s in between)


def test_tape_that_is_wider_than_its_strip_is_cut_along() -> None:
    box = set_value(start_design("closing-box", {}), "box", "tab", 7.0)
    for adhesive, seam, flaps in (
        ("tape", "tape 6 mm along the edges", "tape 6 mm along the edges"),
        ("tape-12", "wider than the strip (7.0 mm): cut it along", "tape 12 mm along the edges"),
        ("wet-glue", "thin, 2.00 mm off folds", "thin, 2.00 mm off folds"),
        ("foam-1", "Foam pads", "Foam pads"),
    ):
        plan = plan_bench(Study(replace(box, adhesive=adhesive)))
        heeds = [speak(step.heed, "mm") for step in plan.steps if step.kind == "glue"]
        assert len(heeds) == 3 and seam in heeds[0] and all(flaps in heed for heed in heeds[1:]), heeds


@pytest.mark.parametrize("kind", ["drawer-sleeve", "tier-wrap", "gate-bag", "thread-disc"])
def test_what_slides_in_waits_until_all_of_its_part_is_glued(kind: str) -> None:
    """Alone and on a host to which it is glued before its own last joint."""
    seen = 0
    for design in (start_design(kind, {}), *(hosted_on for _, hosted_on in hosted(kind))):
        study = Study(design)
        feet = {act.name for act in acts_of(study.assembly) if act.is_foot}
        steps = plan_bench(study).steps
        for k, step in enumerate(steps):
            if step.kind == "insert":
                seen += 1
                late = [s for s in steps[k + 1 :] if s.kind == "glue" and s.element == step.element]
                assert all(s.act in feet for s in late), (step.text, [s.text for s in late])
    assert seen >= 2


@pytest.mark.parametrize(("rounded", "first"), [(6.35, "Round 2 corners of Flap: 1/4″."), (0.0, "Score Flap on ")])
def test_rounded_corners_are_told_by_how_round_they_are(rounded: float, first: str) -> None:
    """A punch or scissors make them when the piece is scored: no knife follows an arc of a quarter of an inch."""
    steps = [step_words(step, "in") for step in plan_bench(Study(start_design("flap", {"rounded": rounded}))).steps]
    assert any(first in words for words in steps) and any("Round" in words for words in steps) == bool(rounded)
    assert not any("what is hatched goes" in words for words in steps)
