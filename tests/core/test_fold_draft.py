"""A sheet of one's own while it is made: drafts kept and told, folds that are offered, what is found wrong.

Offers are held against trying every set of open scores on a line in turn; tucks against every order of layers.
"""

from __future__ import annotations

import random
from itertools import combinations

import pytest
from msgspec.structs import replace
from shapely import LineString, Polygon, union_all

from yawning_lantern.errors import ParameterError
from yawning_lantern.flatfold.draft import Draft, draft_of, replayed
from yawning_lantern.flatfold.findings import findings, way_up
from yawning_lantern.flatfold.folding import stepped
from yawning_lantern.flatfold.offers import edge_near, glue_at, offers, tucks
from yawning_lantern.flatfold.order import broken
from yawning_lantern.flatfold.script import Bring, Glue, Tuck
from yawning_lantern.flatfold.state import Folded
from yawning_lantern.flatfold.telling import own_sheet, parse_script, segments_of
from yawning_lantern.structures import start_design
from yawning_lantern.study import Study

Q = 76.2


def folded(columns: int, rows: int, script: str = "", **drawn: str) -> Folded:
    sheet = own_sheet((Q,) * columns, (Q,) * rows, **drawn)
    return replayed(sheet, parse_script(script, 6.0)).states[-1]


# -- drafts


@pytest.mark.parametrize("seed", range(20))
def test_a_draft_is_told_and_read_back(seed: int) -> None:
    rng = random.Random(seed)
    draft = Draft(tuple(rng.uniform(20, 90) for _ in range(3)), tuple(rng.uniform(20, 90) for _ in range(2)))
    for segment in segments_of(3, 2):
        for _ in range(rng.randrange(3)):
            draft = draft.turned_to_next(segment)
    if rng.random() < 0.5:
        draft = draft.taken("c3r2").slanted("score", (0.0, 1.0), (1.0, 2.0)).slanted("slit", (1.0, 0.0), (2.0, 1.0))
    draft = draft.acted(Bring((("c1r1", "c2r1"),))).acted(Glue("c1r1", "c2r1", ("left",), 6.35))
    told = draft.settings()
    again = draft_of(told, draft.columns, draft.rows, 6.35)
    assert again == draft
    assert again.settings() == told


@pytest.mark.parametrize("segment", segments_of(3, 4))
def test_a_slit_lies_where_its_two_cells_meet(segment: tuple[str, str]) -> None:
    """As shapely sees the sheet cut: along the whole border of those two cells and of no others."""
    sheet = own_sheet((30.0, 40.0, 50.0), (20.0, 25.0, 35.0, 45.0), slits="/".join(segment))
    a, b = (Polygon(sheet.facets[sheet.at(name)].outline) for name in segment)
    cuts = union_all([LineString([cut.start, cut.end]) for cut in sheet.cuts])
    assert cuts.equals(a.intersection(b)) and cuts.length >= 20.0


def test_lines_go_round_and_cells_come_back() -> None:
    draft = Draft((Q, Q), (Q,))
    line = ("c1r1", "c2r1")
    kinds = []
    for _ in range(3):
        draft = draft.turned_to_next(line)
        kinds.append(draft.kind(line))
    assert kinds == ["slit", "nothing", "score"] and draft == Draft((Q, Q), (Q,))
    assert draft.taken("c1r1").taken("c1r1") == draft
    slanted = draft.slanted("score", (0.0, 0.0), (1.0, 1.0))
    assert slanted.slanted("score", (1.0, 1.0), (0.0, 0.0)).slants == (("slit", (0.0, 0.0), (1.0, 1.0)),)
    assert not slanted.slanted("score", (0.0, 0.0), (1.0, 1.0)).slanted("score", (0.0, 0.0), (1.0, 1.0)).slants


def test_acts_are_put_in_moved_and_taken() -> None:
    a, b, c = (Bring(((f"c{k}r1", f"c{k + 1}r1"),)) for k in (1, 2, 3))
    draft = Draft((Q,) * 4, (Q,)).acted(a).acted(c).acted(b, 1)
    assert draft.script == (a, b, c)
    assert draft.moved(0, 2).script == (b, c, a) and draft.without(1).script == (a, c)
    glued = draft.acted(Glue("c1r1", "c2r1", ("left",), 6.0)).acted(Glue("c2r1", "c1r1", ("head", "left"), 6.0))
    assert glued.script[-1] == Glue("c1r1", "c2r1", ("left", "head"), 6.0)  # one act of the same two panels
    other = glued.gridded((50.0,) * 4, (60.0,))
    assert other.script == glued.script and other.columns == (50.0,) * 4
    assert glued.gridded((50.0,) * 3, (60.0,)).script == ()


def test_a_script_is_carried_out_as_far_as_it_goes() -> None:
    sheet = own_sheet((Q,) * 3, (Q,))
    seen = replayed(sheet, parse_script("over c1r1/c2r1; over c1r1/c2r1; over c2r1/c3r1", 6.0))
    assert len(seen.states) == 2 and seen.problem is not None and "folded already" in seen.problem.what


# -- offers


def every_fold(state: Folded, facet: int, way: str) -> set[tuple[tuple[float, float, float, float, float, float], ...]]:
    """Where the facets lie after every fold that can be done and moves a facet: all sets of open scores are tried, and
    both sides of each. A set is left out where some of it do already: the rest is a fold of its own."""
    found = set()
    done: list[set[int]] = []
    free = [k for k, h in enumerate(state.sheet.hinges) if k not in state.shut and h.scored]
    for count in (1, 2, 3):
        for group in combinations(free, count):
            if any(less <= set(group) for less in done):
                continue
            hinges = [state.sheet.hinges[k] for k in group]
            names = [(state.name(h.a), state.name(h.b)) for h in hinges]
            for pairs in (names, [(b, a) for a, b in names]):
                try:
                    after = stepped(state, Bring(tuple(pairs), way))  # type: ignore[arg-type]  # one of two words
                except ParameterError:
                    continue
                if after.isos[facet] != state.isos[facet]:
                    found.add(tuple(tuple(round(x, 4) for x in iso) for iso in after.isos))
                    done.append(set(group))
    return found


@pytest.mark.parametrize("seed", range(24))
def test_every_fold_that_can_be_done_is_offered(seed: int) -> None:
    rng = random.Random(seed)
    c, r = rng.choice(((2, 2), (3, 2), (3, 1), (2, 3)))
    slits = " ".join("/".join(pair) for pair in segments_of(c, r) if rng.random() < 0.3)
    state = folded(c, r, slits=slits)
    for _ in range(3):
        names = [f.name for f in state.sheet.facets]
        for name in names:
            given = {
                tuple(tuple(round(x, 4) for x in iso) for iso in offer.after.isos)
                for offer in offers(state, name)
                if offer.after is not None
            }
            assert given == every_fold(state, state.sheet.at(name), "over"), name
        done = [offer for offer in offers(state, rng.choice(names)) if offer.after is not None]
        if not done:
            break
        after = rng.choice(done).after
        assert after is not None and not broken(after)
        state = after


def test_what_cannot_be_done_is_offered_with_the_reason() -> None:
    state = folded(2, 2, blank="c1r2/c2r2")
    why = {offer.why_not for offer in offers(state, "c2r1") if offer.after is None}
    assert any("still joined another way round" in words and "slit c1r1/c2r1" in words for words in why)


def test_a_tuck_is_offered_into_every_gap() -> None:
    """A strip of four with its end rolled up: the first panel goes over all, under all, or between the second and the
    roll; within the roll its fold would cross another (counted by hand)."""
    state = folded(4, 1, "over c3r1/c4r1; over c2r1/c3r1")
    found = tucks(state, (("c2r1", "c1r1"),))
    told = {(offer.step.over, offer.step.under) for offer in found if isinstance(offer.step, Tuck)}
    assert told == {
        (("c2r1", "c3r1", "c4r1"), ()), (("c2r1",), ("c3r1", "c4r1")), ((), ("c2r1", "c3r1", "c4r1")),
    }  # fmt: skip
    for offer in found:
        assert offer.after is not None and not broken(offer.after)
    assert tucks(folded(2, 2), (("c1r1", "c2r1"),)) == ()


def test_glue_goes_to_the_nearest_edge() -> None:
    state = folded(2, 1, "over c1r1/c2r1")
    assert (
        edge_near(state, "c1r1", "c2r1", (2.0, 30.0)) == "left" and edge_near(state, "c1r1", "c2r1", (40, 75)) == "head"
    )
    step = glue_at(state, (0, 1), (40.0, 1.0), 5.0)
    assert step == Glue("c2r1", "c1r1", ("foot",), 5.0) and glue_at(state, (0,), (1.0, 1.0), 5.0) is None


# -- findings


def codes(columns: int, rows: int, script: str, two_sided: bool = True, **drawn: str) -> dict[str, tuple[str, str]]:
    sheet = own_sheet((Q,) * columns, (Q,) * rows, **drawn)
    found = findings(sheet, parse_script(script, 6.0), 0.27, two_sided)
    assert all(one.what and one.remedy for one in found)
    return {one.code: (one.what, one.remedy) for one in found}


def test_every_finding_is_told_with_what_helps() -> None:
    assert "1 of 3 faces" in codes(1, 2, "over c1r1/c1r2")["heads"][0]
    assert "heads" not in codes(2, 1, "over c1r1/c2r1")
    shut = codes(2, 1, "over c1r1/c2r1; glue c1r1/c2r1 left head foot")
    assert "glued shut" in shut["shut"][0] and "shut" not in codes(2, 1, "over c1r1/c2r1; glue c1r1/c2r1 left head")
    waste = codes(2, 1, "over c1r1/c2r1; glue c1r1/c2r1 right foot")["waste"]
    assert "along the right" in waste[0] and "c1r1/c2r1" in waste[0] and waste[1] == "Leave the right out."
    back = codes(2, 1, "over c1r1/c2r1", two_sided=False)["back"]
    assert "1 of 3 faces, 1 of them when it is shut" in back[0]  # what it lies on does not count
    assert "back" not in codes(2, 1, "over c1r1/c2r1")
    gape = codes(5, 1, "over c4r1/c5r1; over c3r1/c4r1; over c2r1/c3r1; over c1r1/c2r1")["gape"]
    assert "3 sheets" in gape[0] and "gape" not in codes(2, 1, "over c1r1/c2r1")
    refused = codes(2, 1, "over c1r1/c2r1; over c1r1/c2r1")["refused"]
    assert refused[0].startswith("Act 2: ")


def test_a_point_that_cannot_fold_flat_is_told_with_the_slit_that_frees_it() -> None:
    """Kawasaki's condition: one more score into a crossing spoils it."""
    flat = codes(2, 2, "", slants="score 0,0 1,1")["flat"]
    assert "cannot all fold flat" in flat[0] and "Slit " in flat[1]
    slit = flat[1].split("Slit ")[1].split(",")[0]
    assert "flat" not in codes(2, 2, "") and "/" in slit


@pytest.mark.parametrize(("script", "ways"), [("over c1r1/c2r1", "up up"), ("over c1r1/c2r1; turn", "up up")])
def test_which_way_is_up_follows_reflections(script: str, ways: str) -> None:
    state = folded(2, 1, script)
    assert [way_up(state, f"c{k}r1") for k in (1, 2)] == ways.split()
    over = folded(1, 2, "over c1r1/c1r2")
    assert way_up(over, "c1r2") == "down"
    corner = folded(1, 1, "over c1r1b/c1r1a", slants="score 0,0 1,1")
    assert {way_up(corner, "c1r1a"), way_up(corner, "c1r1b")} == {"up", "right"}


def test_a_draft_makes_the_design_it_shows() -> None:
    draft = replace(
        Draft((Q,) * 3, (Q, 50.0)), gone=("c1r2", "c3r2"), script=parse_script("over c2r1/c2r2; over c2r1/c1r1", 6)
    )
    study = Study(start_design("grid-sheet", draft.settings()))
    r = study.resolved[study.design.root.id]
    assert r.sizes["wide"].length == pytest.approx(2 * Q) and r.sizes["high"].length == pytest.approx(Q)
