"""A study made from the one before it is the study made from nothing, whatever was edited."""

from __future__ import annotations

import gc
import random
import sys
from collections import Counter
from collections.abc import Callable
from functools import partial

import pytest
from msgspec.structs import replace

from yawning_lantern.assembly import Guest, join, uses
from yawning_lantern.design import (
    Design,
    Element,
    Place,
    Value,
    add_guest,
    move_guest,
    remove_element,
    replace_element,
    set_stock,
    set_value,
    walk,
)
from yawning_lantern.errors import LanternError
from yawning_lantern.exchange.choices import choices
from yawning_lantern.exchange.design_file import read_design
from yawning_lantern.kept import LastAnswers
from yawning_lantern.opening import bodies
from yawning_lantern.pattern import build
from yawning_lantern.structures import families, family, making, new_guest, start_design
from yawning_lantern.structures.kit import one_sheet
from yawning_lantern.study import Study

from ..conftest import DEMO
from .test_random_nests import random_nest

SET = DEMO.with_name("comet-night-set.lantern")
EDITS = 12


def anew(design: Design) -> Study:
    """The study with nothing taken over, pieces and parts that were kept forgotten too."""
    build._built.forget()
    making._fitted.forget()
    bodies._prisms.forget()
    one_sheet._made.forget()
    return Study(design)


def asked(study: Study) -> object:
    """Which bodies were asked how near they are, and what came of it."""
    assert study.checks is not None and study._beside is not None
    bodies = study._beside.bodies
    ranks = {body: k for k, body in enumerate(bodies.all)}
    return {(ranks[a], ranks[b]): pair for (a, b), pair in bodies._asked.items()}


def told(study: Study) -> object:
    """All that a maker gets of a study: sizes, places, depths, parts, what is joined to what, poses, faces, fits."""
    return (
        {name: (r.sizes, r.seat, r.depth, r.host, r.alone, r.part) for name, r in study.resolved.items()},
        [(c.gap.code, c.gap.between, round(c.gap.value, 9), c.want, c.verdict) for c in study.checks],
        study.shut_frames,
        (study.assembly.nodes, study.assembly.motions, study.assembly.rings, study.assembly.joints),
        study.mount_frames,
        study.shut_facets,
        asked(study),
    )


def some_edit(rng: random.Random, design: Design) -> Design:
    """An edit of any kind: a length, the stock of one part or of all, a place, a part on or off or elsewhere."""
    elements = list(walk(design.root))
    one = rng.choice(elements)
    study = Study(design)
    r = study.resolved[one.id]

    def length() -> Design:
        names = [p.id for p in r.family.parameters if p.kind == "length" and not p.derived and p.id in r.sizes]
        name = rng.choice(names)
        value = r.sizes[name].value
        return set_value(
            design, one.id, name, float(value) * rng.uniform(0.9, 1.1) if not isinstance(value, str) else 9.0
        )

    def stock() -> Design:
        return set_stock(design, rng.choice((None, one.id)), rng.choice(("card-216", "card-176", "card-297")))

    def place() -> Design:
        if one.place is None:
            return stock()
        host = r.host
        faces = list(study.resolved[host].rooms)
        face = rng.choice((one.place.face, rng.choice(faces)))
        return move_guest(design, one.id, host, Place(face, rng.choice((0.0, 2.0)), 0.0, rng.randint(0, 3)))

    def on() -> Design:
        return add_guest(design, one.id, new_guest(design, family("mat")), Place(rng.choice(list(r.rooms))))

    def off() -> Design:
        return remove_element(design, one.id) if one.place is not None else stock()

    ways: tuple[Callable[[], Design], ...] = (length, length, stock, place, on, off)
    return rng.choice(ways)()


def hold(design: Design, rng: random.Random) -> int:
    """Edit after edit, each study made from the last; how many could be studied."""
    before, held = Study(design), 0
    _ = before.checks
    for _ in range(EDITS):
        try:
            edited = some_edit(rng, before.design)
            again = Study(edited, before=before)
        except (LanternError, IndexError):
            continue
        assert told(again) == told(anew(edited)), edited
        before, held = again, held + 1
    return held


@pytest.mark.parametrize("seed", range(3))
def test_the_demo_set_edited_is_the_demo_set_made_anew(seed: int) -> None:
    assert hold(read_design(SET), random.Random(seed)) > EDITS // 4


@pytest.mark.parametrize("block", range(4))
def test_random_nests_edited_are_as_made_anew(block: int) -> None:
    held = 0
    for seed in range(block * 20, block * 20 + 20, 2):
        rng = random.Random(seed)
        nest = random_nest(rng)
        try:
            Study(nest)
        except LanternError:
            continue  # of nests at random some cannot be made
        held += hold(nest, rng)
    assert held > EDITS // 2


def test_stock_that_changes_nothing_a_host_asks_is_changed_all_the_same() -> None:
    # the same card in another format is as thick: the host, of its own stock, sees no difference
    tray = set_stock(start_design("tray", {}), "tray", "card-176")
    design = add_guest(tray, "tray", new_guest(tray, family("pocket")), Place("front-outside"))
    before = Study(design)
    _ = before.checks
    edited = set_stock(design, None, "card-216-a4")
    again, fresh = Study(edited, before=before), anew(edited)
    assert [p.stock for p in again.pieces] == [p.stock for p in fresh.pieces]
    assert told(again) == told(fresh)


def test_what_an_edit_leaves_as_it_was_is_the_very_same() -> None:
    before = Study(read_design(SET))
    again = Study(set_value(before.design, "box", "base", 101.6), before=before)
    same = {
        (name, piece.id)
        for name, r in again.resolved.items()
        for piece, old in zip(r.part.pieces, before.resolved[name].part.pieces, strict=True)
        if piece is old
    }
    assert {("rosette", "rosette.strip-1"), ("star", "star.photo")} <= same  # of sizes of their own
    assert ("box", "box.cross") not in same and again.resolved["rosette"].part is before.resolved["rosette"].part


def trays(count: int) -> Design:
    """So many trays on one sheet, a mat in each and two side by side on its back."""
    design = start_design("mat", {"width": 900.0, "height": 900.0})
    for k in range(count):
        tray = f"tray-{k}"
        settings: dict[str, Value] = {"width": 80.0, "depth": 70.0, "height": 40.0}
        place = Place("face", (k % 4 - 1.5) * 140.0, (k // 4 - 1.5) * 160.0)
        design = add_guest(design, "mat", Element(tray, "tray", settings=settings), place)
        for n, at in enumerate((-17.5, 17.5)):
            mat: dict[str, Value] = {"width": 38.0, "height": 20.0}
            design = add_guest(design, tray, Element(f"mat-{k}-{n}", "mat", settings=mat), Place("back-outside", at))
        design = add_guest(design, tray, Element(f"floor-{k}", "mat"), Place("floor"))
    return design


def test_an_edit_asks_as_much_in_a_large_design_as_in_a_small_one(monkeypatch: pytest.MonkeyPatch) -> None:
    made: list[str] = []

    def count(module: str, name: str) -> None:
        where = sys.modules[f"yawning_lantern.{module}"]
        own = getattr(where, name)
        monkeypatch.setattr(where, name, lambda *given, **more: made.append(name) or own(*given, **more))

    names = {"Body": "study.near", "parted": "study.near", "_framed": "fold.pose", "_facets_of": "fold.pose"}
    names["joints_of"] = "assembly.joined"
    for name, module in names.items():
        count(module, name)
    asked = []
    for many in (3, 12):
        study = Study(trays(many))
        _ = study.checks, study.picture(0.0)
        assert len(study.checks) > 5 * many
        made.clear()
        again = Study(set_value(study.design, "mat-1-0", "width", 37.5), before=study)
        _ = again.checks, again.picture(0.0)
        asked.append(Counter(made))
        kept = [n for n, old in zip(again.assembly.nodes, study.assembly.nodes, strict=True) if n is old]
        assert len(kept) == len(study.assembly.nodes) - 1  # the mat
    assert asked[0] == asked[1] and set(asked[0]) == set(names)
    assert asked[0]["_framed"] == asked[0]["_facets_of"] == asked[0]["joints_of"] == 1
    touched = sum(node.element in ("mat", "tray-1", "mat-1-0") for node in study.assembly.nodes)
    assert asked[0]["Body"] <= touched and asked[0]["parted"] == 1  # how near its neighbour is


def lidded(count: int) -> Design:
    """Such trays with something standing in them: a lid on each, one floor free, the mats of one in one another."""
    design = trays(count)
    for k in range(count):
        for side, size in (("width", 60.0), ("depth", 50.0), ("height", 24.0)):
            design = set_value(design, f"tray-{k}", f"content-{side}", size)
        design = add_guest(design, f"tray-{k}", Element(f"lid-{k}", "lid"), Place("mouth"))
    design = remove_element(design, f"floor-{count - 1}")
    return move_guest(design, "mat-1-1", "tray-1", Place("back-outside", 5.0))


def named(design: Design, element: str, name: str) -> Design:
    """The same with another name for one part."""
    return replace_element(design, element, lambda one: replace(one, name=name))


ONE_EDIT: dict[str, Callable[[Design], Design]] = {
    "a name": lambda d: named(d, "mat-0-0", "Moon"),
    "the name of a host": lambda d: named(d, "tray-0", "Moon"),
    "the name of what moves": lambda d: named(d, "lid-0", "Moon"),
    "a floor set free": lambda d: remove_element(d, "floor-1"),
    "two floors set free": lambda d: remove_element(remove_element(d, "floor-0"), "floor-1"),
    "taller contents": lambda d: set_value(d, "tray-2", "content-height", 30.0),
    "contents above the walls": lambda d: set_value(d, "tray-1", "content-height", 60.0),
    "what stands in it moved with it": lambda d: move_guest(d, "tray-2", "mat", Place("face", -70.0, -230.0)),
    "another glue": lambda d: replace(d, adhesive="foam-1"),
    "a part before all others": lambda d: replace_element(
        d, "mat", lambda one: replace(one, guests=(Element("first", "mat", place=Place("face", -300.0)), *one.guests))
    ),
    "the first one off": lambda d: remove_element(d, "tray-0"),
    "the last one off": lambda d: remove_element(d, "tray-2"),
    "one lid off, one on": lambda d: add_guest(
        remove_element(d, "lid-0"), "tray-1", Element("lid-1b", "lid"), Place("mouth")
    ),
    "a turn": lambda d: move_guest(d, "floor-0", "tray-0", Place("floor", turn=2)),
    "a half turn of a tray": lambda d: move_guest(d, "tray-1", "mat", Place("face", -70.0, -240.0, 2)),
    "nearer": lambda d: move_guest(d, "mat-0-1", "tray-0", Place("back-outside", 16.5)),
    "in one another": lambda d: move_guest(d, "mat-0-1", "tray-0", Place("back-outside", 5.0)),
    "out of one another": lambda d: move_guest(d, "mat-1-1", "tray-1", Place("back-outside", 17.5)),
    "one tray into the next": lambda d: move_guest(d, "tray-0", "mat", Place("face", -150.0, -240.0)),
    "a wall no longer high enough": lambda d: set_value(d, "tray-1", "height", 12.0),
}


@pytest.mark.parametrize("words", ONE_EDIT)
def test_one_edit_there_and_back_is_as_made_anew(words: str) -> None:
    design = lidded(3)
    before = Study(design)
    assert any(check.gap.use == uses.BESIDE and check.is_clash for check in before.checks)
    for edited in (ONE_EDIT[words](design), design):
        again = Study(edited, before=before)
        assert told(again) == told(anew(edited))
        before = again


def otherwise(rng: random.Random, guests: list[Guest], k: int) -> Guest:
    """A guest otherwise joined, or of a part otherwise made."""
    one = guests[k]
    part = one.part
    ways = [
        replace(one, turn=one.turn + 1),
        replace(one, glue=one.glue + 0.3),
        replace(one, offset=(one.offset[0] + 1.0, one.offset[1])),
        replace(one, part=replace(part, under=not part.under)),
        replace(one, part=replace(part, name="Moon")),
    ]
    if not part.loops and not any(swing.rolls for swing in part.swings):
        ways += [replace(one, part=replace(part, swings=(), folding=()))]
        pieces = tuple(replace(piece, creases=piece.creases[::-1]) for piece in part.pieces)
        ways += [replace(one, part=replace(part, pieces=pieces))]
    return rng.choice(ways)


@pytest.mark.parametrize("block", range(4))
def test_parts_are_joined_again_as_they_are_joined_anew(block: int) -> None:
    """Any part otherwise, one after the other: what is taken over is what would be made."""
    held = same = 0
    designs = [lidded(2), read_design(SET)]
    for seed in range(block * 12, block * 12 + 12):
        designs.append(random_nest(random.Random(seed)))
    for n, design in enumerate(designs):
        rng = random.Random(100 * block + n)
        try:
            study = Study(design)
        except LanternError:
            continue
        guests = [Guest(r.part, r.host, r.place.face, r.seat, r.place.turn, 0.1) for r in study.resolved.values()]
        before = join(guests)
        for _ in range(6):
            k = rng.randrange(len(guests))
            guests[k] = otherwise(rng, guests, k)
            again, fresh = join(guests, before), join(guests)
            for what in ("nodes", "motions", "rings", "joints"):
                assert getattr(again, what) == getattr(fresh, what), (design, guests[k].part.name, what)
            same += sum(one is old for one, old in zip(again.nodes, before.nodes, strict=False))
            held += len(again.nodes)
            before = again
    assert same > held / 4


@pytest.mark.parametrize("kind", families())
def test_any_family_edited_is_as_made_anew(kind: str) -> None:
    """Other paper, another name, something on a face, all one after the other, and every choice it has."""
    design = start_design(kind, {})
    root = design.root.id
    faces = [face for face, room in Study(design).resolved[root].rooms.items() if room.relation == "onto"][:2]
    edits = [set_stock(design, None, "card-216-a4"), set_stock(design, None, "card-297"), named(design, root, "Moon")]
    edits += [add_guest(design, root, Element("m", "mat"), Place(face)) for face in faces]
    edits += [set_value(design, root, name, value) for given in choices(family(kind)) for name, value in given.items()]
    before, held = Study(design), 0
    for edited in edits:
        try:
            again = Study(edited, before=before)
        except LanternError:
            continue
        assert told(again) == told(anew(edited))
        before, held = again, held + 1
    assert held > 2


@pytest.mark.parametrize("kind", families())
def test_a_study_that_is_done_with_leaves_nothing_to_the_collector(kind: str) -> None:
    # what holds itself in a circle stays until it is looked for, and looking takes longer than a frame
    def look() -> None:
        study = Study(start_design(kind, {}))
        _ = study.checks, study.closed, study.mount_frames, study.picture(0.0), study.section(1), study.pieces

    look()
    gc.collect()
    gc.disable()
    try:
        look()
        assert gc.collect() == 0
    finally:
        gc.enable()


def test_of_more_keys_than_are_kept_the_oldest_go() -> None:
    """Against a plain list of what must have been made anew."""
    kept, made = LastAnswers[str](2), list[str]()

    def make(word: str) -> str:
        made.append(word)
        return word

    for key, asked in (("a", 1), ("b", 1), ("a", 1), ("a", 2), ("a", 1), ("c", 1), ("b", 1), ("a", 1)):
        assert kept.given(key, (asked,), partial(make, f"{key}{asked}")) == f"{key}{asked}"
    assert made == ["a1", "b1", "a2", "a1", "c1", "a1"]
