"""What is ordinary opens, and what goes through a sheet is stopped: bodies as thick as they are, motions judged by the
way they go on. Worked geometry and facts of the trade (common practice, no source)."""

from __future__ import annotations

import pytest
from msgspec.structs import replace

from yawning_lantern.assembly import PlaceStep
from yawning_lantern.design import Design, Element, Place, add_guest
from yawning_lantern.opening import Plates, find_opening
from yawning_lantern.structures import start_design
from yawning_lantern.study import Study, opening_of

from ..conftest import designed

T = 0.27  # mm: 216 g/m² at 1.25 cm³/g


def on(design: Design, host: str, kind: str, face: str, name: str = "", turn: int = 0, **given: float | str) -> Design:
    element = Element(name or kind, kind, "", {k.replace("_", "-"): v for k, v in given.items()})
    return add_guest(design, host, element, Place(face, turn=turn))


BOOKS = (("accordion-spine", "cover-front"), ("gusset-book", "page-5-front"), ("board-cover", "front"))
ORDINARY = {
    "a pieced layer": start_design("explosion-box", {"base": 90.0, "wall": 80.0, "layers": 2, "piecing": "pieced"}),
    "pieced layers under a lid": start_design(
        "explosion-box", {"base": 90.0, "wall": 80.0, "layers": 3, "piecing": "pieced", "lid": "easy"}
    ),
    **{
        f"a pocket corner with a mat, {face}": on(
            start_design("explosion-box", {"base": 90.0, "wall": 90.0, "corner": "pocket", "layers": layers}),
            "box",
            "mat",
            face,
        )
        for face in ("front-inside", "back-inside")
        for layers in (1, 2)
    },
    **{
        f"a band over a {kind} with a mat on its front": on(
            on(start_design(kind, {}), kind.split("-")[-1], "mat", face), kind.split("-")[-1], "belly-band", "around"
        )
        for kind, face in BOOKS
    },
    **{
        f"a box card with a mat on {face}": on(start_design("box-card", {}), "card", "mat", face)
        for face in ("strip-1", "strip-2", "wall-front", "wall-back")
    },
    "a band in two pieces": on(
        start_design("accordion-spine", {"page-width": 150.0}), "spine", "belly-band", "around"
    ),
    "a cascade that falls by half a turn with photos on it": on(
        on(start_design("drop-cascade", {}), "cascade", "photo", "flap-1-front", "a", thick=1.0),
        "cascade", "photo", "flap-2-front", "b", thick=1.0,
    ),
}  # fmt: skip


@pytest.mark.parametrize("name", sorted(ORDINARY))
def test_what_is_ordinary_is_not_refused(name: str) -> None:
    study = Study(ORDINARY[name])
    assert not study.has_clash, [(c.gap.code, c.gap.between, c.gap.value) for c in study.checks if c.is_clash]
    assert opening_of(study).works


# -- ways out


def way_of(study: Study, element: str) -> tuple[float, ...]:
    """How far an element moves when everything is open, mm in the world."""
    from yawning_lantern.fold import State, pose

    count = len(study.assembly.motions)
    at = next(k for k, n in enumerate(study.assembly.nodes) if n.element == element)
    opened = pose(study.assembly, State(1.0, (1.0,) * count))
    return tuple(opened[at][9 + k] - study.shut_frames[at][9 + k] for k in range(3))


@pytest.mark.parametrize("turn", range(4))
def test_a_tag_leaves_where_its_head_points(turn: int) -> None:
    # on a level face, seen from above: head away, to the left, towards you, to the right
    study = Study(on(designed("mat", width=6, height=6), "mat", "tag", "face", turn=turn, width=30.0, height=60.0))
    want = [(0.0, 60.0), (-60.0, 0.0), (0.0, -60.0), (60.0, 0.0)][turn]
    assert way_of(study, "tag") == pytest.approx((*want, 0.0), abs=1e-6)


def test_a_tag_between_walls_is_lifted_out() -> None:
    study = Study(on(designed("tray", width=4, depth=4, height=1), "tray", "tag", "floor"))
    x, y, z = way_of(study, "tag")
    assert (x, y) == pytest.approx((0.0, 0.0), abs=1e-6) and z > 25.4
    assert opening_of(study).works and "lifted out" in study.assembly.motions[0].label


def slid(study: Study, way: tuple[float, float, float]) -> bool:
    """Whether a tag goes clear that slides along a way in the frame of what it lies on."""
    nodes = list(study.assembly.nodes)
    for k, node in enumerate(nodes):
        if node.element == "tag" and isinstance(node.step, PlaceStep):
            nodes[k] = replace(node, step=replace(node.step, moves=((node.step.moves[0][0], way),)))
    return find_opening(Plates(replace(study.assembly, nodes=tuple(nodes)))).works


def test_a_tag_does_not_slide_through_a_wall_however_low_it_lies() -> None:
    """On the floor a tag lies in the bend of the wall's fold, a tenth of a millimetre deep: it goes on for 4.8 in all
    the same, and that is no graze."""
    study = Study(on(designed("tray", width=6, depth=6, height=1), "tray", "tag", "floor"))
    for way in ((0.0, 122.0, 0.0), (122.0, 0.0, 0.0), (-122.0, 0.0, 0.0)):
        assert not slid(study, way)
    assert slid(study, (0.0, 0.0, 60.0)) and slid(study, (0.0, 1.0, 0.0))


@pytest.mark.parametrize("turn", [1, 2, 3])
def test_a_pocket_whose_mouth_is_at_a_wall_is_told(turn: int) -> None:
    design = on(designed("tray", width=5, depth=5, height=1.5), "tray", "pocket", "left-inside", turn=turn)
    assert not opening_of(Study(design)).works
    assert opening_of(Study(on(designed("tray", width=5, depth=5, height=1.5), "tray", "pocket", "left-inside"))).works


# -- bodies as thick as they are


@pytest.mark.parametrize("over", [3.0, 1.0])
def test_a_block_that_stands_through_a_lid_is_told(over: float) -> None:
    # walls 1 in high; a block 8 mm thick on its edge stands 3 mm through the lid's top
    design = on(designed("tray", width=3, depth=3, height=1), "tray", "lid", "mouth")
    block = {"width": 50.0, "height": 25.4 + over, "thick": 8.0}
    study = Study(on(design, "tray", "photo", "right-inside", "block", **block))
    place = study.resolved["block"].place
    standing = Study(add_guest(design, "tray", Element("block", "photo", "", block), Place(place.face, 0.0, over / 2)))
    assert not opening_of(standing).works and standing.has_clash
    assert any(c.gap.element == "block" for c in standing.checks if c.is_clash)
    # what keeps within the wall and is as thick clears the lid
    low = {**block, "height": 24.0}
    assert opening_of(Study(on(design, "tray", "photo", "right-inside", "block", **low))).works


def test_thick_edges_are_not_given_away() -> None:
    # two blocks of 10 mm side by side, 1 mm in one another
    design = designed("mat", width=6, height=6)
    for name, at in (("a", -19.5), ("b", 19.5)):
        element = Element(name, "photo", "", {"width": 40.0, "height": 40.0, "thick": 10.0})
        design = add_guest(design, "mat", element, Place("face", at))
    study = Study(design)
    (found,) = [c for c in study.checks if c.is_clash]
    assert found.gap.value == pytest.approx(-1.0, abs=0.01)


def two_rosettes(apart: float, tails: int = 0) -> Study:
    design = designed("mat", width=11, height=6)
    for name, at in (("a", -apart / 2), ("b", apart / 2)):
        element = Element(name, "rosette", "", {"diameter": 100.0, "tails": tails if name == "a" else 0})
        design = add_guest(design, "mat", element, Place("face", at))
    return Study(design)


def test_rosettes_have_a_body() -> None:
    met = [c for c in two_rosettes(74.0).checks if c.is_clash and c.gap.code == "beside"]
    assert met and -27.0 < met[0].gap.value < -12.0  # lifted off by its height, or moved by 26
    assert Plates(two_rosettes(74.0).assembly).shut_contacts(two_rosettes(74.0).shut_frames)
    assert not two_rosettes(104.0).has_clash
    # a ring is lower at its rim than at its hub: what lies over the rim clears it
    ring = two_rosettes(104.0).resolved["a"]
    assert ring.sizes["hub-thick"].length > ring.sizes["rim-thick"].length > 5.0


def test_tails_have_a_body_too() -> None:
    design = designed("mat", width=8, height=11)
    design = add_guest(
        design, "mat", Element("r", "rosette", "", {"diameter": 60.0, "tails": 1}), Place("face", 0.0, 40.0)
    )
    block = Element("p", "photo", "", {"width": 20.0, "height": 20.0, "thick": 3.0})
    study = Study(add_guest(design, "mat", block, Place("face", 0.0, 75.0)))
    clear = Study(add_guest(design, "mat", block, Place("face", 60.0, 75.0)))
    reach = study.resolved["r"].sizes["tail-length"].length
    # tails run from the middle along the face's up: the block lies on their way
    assert reach > 40.0 and study.has_clash and not clear.has_clash
