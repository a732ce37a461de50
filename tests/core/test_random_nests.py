"""Two hundred random nests over all families and faces: each is solved whole, or refused with a reason."""

from __future__ import annotations

import random

import pytest

from yawning_lantern.design import Design, Element, Place, add_guest, walk
from yawning_lantern.errors import LanternError
from yawning_lantern.exchange.design_file import from_bytes, to_bytes
from yawning_lantern.exchange.plan import plan
from yawning_lantern.pattern.validity import faults
from yawning_lantern.structures import families, family, new_guest
from yawning_lantern.study import Study

from ..conftest import designed

PAPERS = ("card-216", "card-176", "card-297", "pattern-160", "chipboard-1", None)
ROOTS = (
    ("explosion-box", {"base": 4.0, "wall": 3.5}),
    ("explosion-box", {"content_width": 2.0, "content_depth": 1.5, "content_height": 2.0}),
    ("explosion-box", {"sheet": 12.0}),
    ("tray", {"width": 4.0, "depth": 3.0, "height": 2.0}),
    ("lid", {"over_width": 4.0, "over_depth": 4.0, "rim": 1.0}),
    ("mat", {"width": 4.0, "height": 4.0}),
)


def random_nest(rng: random.Random) -> Design:
    kind, given = rng.choice(ROOTS)
    extra: dict[str, float | str] = {}
    if kind == "explosion-box":
        extra = {"layers": rng.randint(1, 3), "lid": rng.choice(["none", "snug", "easy", "loose"])}
        extra["corner"] = rng.choice(["plain", "pocket"])
        extra["layer_walls"] = rng.choice(["same", "lower"])
    design = designed(kind, **given, **extra)
    for _ in range(rng.randint(0, 6)):
        host = rng.choice(list(walk(design.root)))
        faces = [face for face, _ in family(host.family).faces]
        face = rng.choice(faces)
        if face == "floor":
            guest = rng.choice(["tray", "explosion-box"])
        elif face == "mouth":
            guest = "lid"
        else:
            guest = "mat"
        if any(g.place and g.place.face == face for g in host.guests):
            continue
        made = new_guest(design, family(guest))
        made = Element(made.id, made.family, made.name, stock=rng.choice(PAPERS))
        design = add_guest(design, host.id, made, Place(face, turn=rng.randint(0, 3)))
    return design


@pytest.mark.parametrize("block", range(8))
def test_random_nests(block: int) -> None:
    solved = 0
    for seed in range(block * 25, block * 25 + 25):
        rng = random.Random(seed)
        design = random_nest(rng)
        assert from_bytes(to_bytes(design)) == design
        try:
            study = Study(design)
        except LanternError as error:
            assert error.what.endswith(".") and error.remedy, (seed, error.sentence())
            continue
        solved += 1
        assert set(study.resolved) == {element.id for element in walk(design.root)}
        for r in study.resolved.values():
            for name, sized in r.sizes.items():
                if sized.origin == "fill":
                    assert name not in r.element.settings
        for check in study.checks:
            # what the program itself worked out never clashes, but for paper that is too thick or too small for it
            if check.is_clash:
                assert check.gap.code in ("sheet", "rim", "pocket", "mat", "headroom"), (seed, check)
        for piece in study.pieces:
            assert faults(piece) == (), (seed, piece.id)
        told = plan(study, "mm")
        assert all(low <= high for low, high in (fit["want"] for fit in told["fits"]))
        assert all(x > 0 for x in (*told["finished"]["closed"], *told["finished"]["open"]))
        frames, tree = study.picture(0.0)
        assert tree is not None and tree.fragments >= len(frames)
    assert solved >= 15


def test_every_family_is_among_them() -> None:
    met = {e.family for seed in range(200) for e in walk(random_nest(random.Random(seed)).root)}
    assert met == set(families())
