"""Random nests over all families and random parameters: each is solved whole, or refused with one reason and the
smallest change that admits it. Sixty-four each time, five hundred in the long run."""

from __future__ import annotations

import random

import pytest

from yawning_lantern.assembly import sits_on
from yawning_lantern.design import Design, Element, Place, Value, add_guest, walk
from yawning_lantern.errors import LanternError
from yawning_lantern.exchange.design_file import from_bytes, to_bytes
from yawning_lantern.exchange.plan import plan
from yawning_lantern.pattern.validity import faults
from yawning_lantern.stock import builtin_catalogue
from yawning_lantern.structures import Family, families, family, new_guest, start_design
from yawning_lantern.study import Study, admission

PAPERS = ("card-216", "card-176", "card-297", "pattern-160", "chipboard-1", None)
NESTS, SIZE = 200, 16


def random_settings(rng: random.Random, kind: Family) -> dict[str, Value]:
    """About one parameter in eight, anywhere within its bounds."""
    found: dict[str, Value] = {}
    for p in kind.parameters:
        if p.derived or p.structural or p.kind in ("text", "lengths") or rng.random() > 0.12:
            continue
        if p.kind == "word":
            found[p.id] = rng.choice(p.words)
        elif p.kind == "count":
            found[p.id] = rng.randint(int(p.least), int(min(p.most, p.least + 8)))
        else:
            low, high = max(p.least, 3.0), min(p.most, 100.0)
            found[p.id] = round(rng.uniform(low, high), 1) if high > low else p.least
    return found


def random_nest(rng: random.Random) -> Design:
    """A root of any family, and up to eight guests on faces that are offered, half of them as deep as it goes."""
    kind = family(rng.choice(sorted(families())))
    design = start_design(kind.id, random_settings(rng, kind) if rng.random() < 0.5 else {})
    for _ in range(rng.randint(0, 8)):
        try:
            study = Study(design)
        except LanternError:
            return design
        host = study.resolved[rng.choice(list(study.resolved))]
        if rng.random() < 0.6:
            host = max(study.resolved.values(), key=lambda r: r.depth)
        taken = {g.place.face for g in host.element.guests if g.place}
        faces = [face for face in host.rooms if face not in taken]
        if not faces:
            continue
        face = rng.choice(faces)
        relation = host.rooms[face].relation
        guest = family(rng.choice([k for k, v in families().items() if sits_on(v.relation, relation)]))
        made = new_guest(design, guest)
        given = random_settings(rng, guest) if rng.random() < 0.2 else {}
        made = Element(made.id, made.family, made.name, given, rng.choice(PAPERS))
        design = add_guest(design, host.element.id, made, Place(face, turn=rng.randint(0, 3)))
    return design


def check_solved(study: Study) -> None:
    """Everything was settled, nothing clashes, every piece can be cut, and the whole can be drawn and told."""
    assert set(study.resolved) == {element.id for element in walk(study.design.root)}
    for r in study.resolved.values():
        assert not (r.sizes.keys() & r.element.settings.keys()) or all(
            r.sizes[k].origin == "given" for k in r.element.settings if k in r.sizes and k not in ("wall", "base")
        )
    for check in study.checks:
        assert check.gap.value >= min(0.0, check.want[0]) - 1e-6
    for piece in study.pieces:
        assert faults(piece) == (), piece.id
    told = plan(study, "mm")
    assert all(low <= high for low, high in (fit["want"] for fit in told["fits"]))
    assert all(x > 0 for x in (*told["finished"]["closed"], *told["finished"]["open"]))
    for position in (0.0, 0.7):
        frames, tree = study.picture(position)
        assert tree is not None and tree.fragments >= len(frames)


def hold(seeds: range) -> int:
    """Solve or refuse some random nests; how many were solved."""
    catalogue = builtin_catalogue()
    solved = 0
    for seed in seeds:
        design = random_nest(random.Random(seed))
        assert from_bytes(to_bytes(design)) == design
        try:
            study = Study(design)
        except LanternError as error:
            assert error.what.endswith(".") and error.remedy and error.element, (seed, error.sentence())
        else:
            if not study.has_clash:
                solved += 1
                check_solved(study)
                assert admission(design, catalogue) is None
                continue
        found = admission(design, catalogue)
        assert found is not None and found.reason and found.change.endswith("."), seed
        assert not Study(found.design, catalogue).has_clash, (seed, found.change)
    return solved


@pytest.mark.parametrize("block", range(4))
def test_random_nests(block: int) -> None:
    assert hold(range(block * SIZE, block * SIZE + SIZE)) >= 1


@pytest.mark.long
@pytest.mark.parametrize("block", range(4, 32))
def test_five_hundred_random_nests(block: int) -> None:
    hold(range(block * SIZE, block * SIZE + SIZE))


def test_the_nests_reach_far() -> None:
    nests = [random_nest(random.Random(seed)) for seed in range(NESTS)]
    met = {e.family for design in nests for e in walk(design.root)}
    assert met == set(families())
    deepest = 0
    for seed in (*range(60), *range(320, 720)):  # as many as it takes: which seed is deep changes with every family
        try:
            study = Study(random_nest(random.Random(seed)))
        except LanternError:
            continue
        if not study.has_clash:
            deepest = max(deepest, *(r.depth for r in study.resolved.values()))
        if deepest >= 5:
            break
    assert deepest >= 5


def test_the_smallest_change_is_small() -> None:
    # worked: one eighth too much on a page of four inches; nothing smaller than an eighth less helps
    design = start_design("floating-layer", {"page-width": 101.6, "out": 50.8, "up": 53.975})
    found = admission(design, builtin_catalogue())
    assert found is not None and "page edge" in found.reason
    old, new = design.root.settings, found.design.root.settings
    changed = {k for k in old if old[k] != new.get(k)}
    assert len(changed) == 1
    name = changed.pop()
    assert abs(float(new[name]) - float(old[name])) == pytest.approx(25.4 / 8)  # type: ignore[arg-type]  # these are lengths


def test_parts_that_cannot_sit_there_go_elsewhere() -> None:
    tray = start_design("tray", {"width": 100.0, "depth": 100.0, "height": 40.0})
    design = add_guest(tray, "tray", new_guest(tray, family("lid")), Place("floor"))
    found = admission(design, builtin_catalogue())
    assert found is not None and "goes over walls" in found.reason
    assert found.change == "Put Lid on “over the mouth”."
