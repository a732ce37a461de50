"""After an edit only what it touches is swept again, and what is told is what a sweep of everything tells."""

from __future__ import annotations

import random
from pathlib import Path

import msgspec
import pytest

from yawning_lantern.design import Design, Element, Place, add_guest, remove_element, replace_element, set_value, walk
from yawning_lantern.errors import LanternError
from yawning_lantern.exchange.design_file import read_design
from yawning_lantern.opening import Memory, Opening, Plates, order
from yawning_lantern.opening.again import Again
from yawning_lantern.opening.stations import Standing
from yawning_lantern.structures import start_design
from yawning_lantern.study import Study, opening_of

from .test_random_nests import random_nest

EXAMPLES = Path(__file__).parents[2] / "src/yawning_lantern/examples"


def edits(design: Design, rng: random.Random) -> list[Design]:
    """The design with a part moved, taken off, put on, made larger, and with nothing but its root's size changed."""
    made: list[Design] = []
    guests = [e for e in walk(design.root) if e.place is not None]
    for e in rng.sample(guests, min(2, len(guests))):
        assert e.place is not None
        moved = msgspec.structs.replace(e.place, x=e.place.x + rng.uniform(-4.0, 4.0))
        made.append(replace_element(design, e.id, lambda part, moved=moved: msgspec.structs.replace(part, place=moved)))
        made.append(remove_element(design, e.id))
    study = Study(design)
    for r in rng.sample(list(study.resolved.values()), min(2, len(study.resolved))):
        for name, sized in r.sizes.items():
            if r.family.id in ("mat", "photo") or isinstance(sized.value, str) or sized.length < 20.0:
                continue
            made.append(set_value(design, r.element.id, name, round(sized.length * rng.choice((0.9, 1.05)), 1)))
            break
        faces = [face for face in r.rooms if r.rooms[face].relation == "onto"]
        if faces:
            block = Element("post", "ready-made", "Post", {"width": 8.0, "depth": 8.0, "height": 12.0, "held": "glued"})
            made.append(add_guest(design, r.element.id, block, Place(rng.choice(faces))))
    return made


def told(opening: Opening) -> list[tuple[object, ...]]:
    return [(s.motion, s.opens, s.clear, s.stage, s.contact and (s.contact.a, s.contact.b), sorted(s.after.opened),
             len(s.resting)) for s in opening.steps]  # fmt: skip


def shares(opening: Opening) -> list[float]:
    return [share for s in opening.steps for _, share in sorted(s.after.rests.items())] + [
        s.contact.at for s in opening.steps if s.contact is not None
    ]


def hold(design: Design, rng: random.Random) -> int:
    memory, compared = Memory(), 0
    opening_of(Study(design), memory=memory)
    for other in edits(design, rng):
        try:
            study = Study(other)
            study.assembly  # noqa: B018  # what cannot be built is refused here
        except LanternError:
            continue
        kept = Memory(memory.plates, memory.kept)
        again, anew = opening_of(study, memory=kept), opening_of(study)
        assert told(again) == told(anew)
        assert shares(again) == pytest.approx(shares(anew), abs=2e-2)  # stations lie elsewhere where less is asked
        assert opening_of(study, memory=kept) == again  # and once more, from what was kept then
        compared += 1
    return compared


@pytest.mark.parametrize("name", ["comet-night-box", "observatory-box", "four-lenses"])
def test_an_edit_of_an_example_opens_as_if_from_nothing(name: str) -> None:
    assert hold(read_design(EXAMPLES / f"{name}.lantern"), random.Random(name)) >= 2


@pytest.mark.parametrize("block", range(4))
def test_edits_of_random_nests_open_as_if_from_nothing(block: int) -> None:
    compared = 0
    for seed in range(7000 + 10 * block, 7010 + 10 * block):
        try:
            design = random_nest(random.Random(seed))
            if not 2 <= len(Study(design).assembly.motions) <= 14:
                continue
        except LanternError:
            continue
        compared += hold(design, random.Random(seed))
    assert compared > 5


@pytest.mark.parametrize("kind", ["booklet", "rosette", "v-fold", "strip-album", "gate-bag", "spinner"])
def test_what_rolls_rings_and_turns_is_swept_again_where_it_changed(kind: str) -> None:
    assert hold(start_design(kind, {}), random.Random(kind)) >= 1


def test_nothing_is_swept_where_nothing_changed_and_little_where_little_did(monkeypatch: pytest.MonkeyPatch) -> None:
    design = read_design(EXAMPLES / "comet-night-box.lantern")
    asked: list[int] = []
    plain = order.sweep

    def counted(*args: object) -> object:
        only = args[4] if len(args) > 4 else None
        asked.append(-1 if only is None else int(only.sum()))  # type: ignore[attr-defined]  # an array of truths
        return plain(*args)  # type: ignore[arg-type]  # as they came

    monkeypatch.setattr(order, "sweep", counted)
    memory = Memory()
    opening_of(Study(design), memory=memory)
    full = asked.count(-1)
    assert full > 5
    asked.clear()
    opening_of(Study(design), memory=memory)
    assert asked == []
    mat = next(e for e in walk(design.root) if e.family == "mat" and e.place is not None)
    moved = msgspec.structs.replace(mat.place, x=1.0)
    other = Study(replace_element(design, mat.id, lambda part: msgspec.structs.replace(part, place=moved)))
    opening_of(other, memory=Memory(memory.plates, memory.kept))
    assert asked.count(-1) < full / 2 and asked.count(1) + asked.count(2) > full / 2  # the mat's own body alone


@pytest.mark.parametrize("name", ["comet-night-set", "comet-night-box", "observatory-box"])
def test_one_standing_tells_of_another_what_a_whole_sweep_tells(name: str, monkeypatch: pytest.MonkeyPatch) -> None:
    plates = Plates(Study(read_design(EXAMPLES / f"{name}.lantern")).assembly)
    plain, asked = order.sweep, [0]

    def counted(*args: object) -> object:
        asked[0] += len(args) <= 4
        return plain(*args)  # type: ignore[arg-type]  # as they came

    monkeypatch.setattr(order, "sweep", counted)
    search = order.Search(plates, lambda: False)
    rng, motions = random.Random(name), range(len(plates.assembly.motions))
    for _ in range(24):
        motion = rng.choice(motions)
        standing = Standing(frozenset(m for m in motions if m != motion and rng.random() < 0.4))
        one, whole = search.swept(motion, standing), plain(plates, motion, standing)
        assert (one.contact is None) == (whole.contact is None) and len(one.rests) == len(whole.rests)
        if one.contact is not None and whole.contact is not None:
            assert one.contact.at == pytest.approx(whole.contact.at, abs=2e-2)
    assert 0 < asked[0] < 23  # some were told from others


def test_what_is_glued_otherwise_is_known_as_changed() -> None:
    design = read_design(EXAMPLES / "comet-night-box.lantern")
    memory = Memory()
    study = Study(design)
    opening_of(study, memory=memory)
    assert memory.plates is not None
    same = Again(memory.plates, memory.plates, memory.kept)
    assert not same.changed.any()
    from copy import copy

    other = copy(memory.plates)
    other.joined = other.joined.copy()
    i, j = next((i, j) for i in range(len(other.nodes)) for j in range(i) if not other.joined[i, j])
    other.joined[i, j] = other.joined[j, i] = True
    assert set(Again(other, memory.plates, memory.kept).changed.nonzero()[0]) == {i, j}
