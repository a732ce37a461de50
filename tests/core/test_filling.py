"""What was given no size fills the face it sits on: with all that its folds stand beyond, in any stock, it goes in."""

from __future__ import annotations

import re

import pytest

from yawning_lantern.design import Design, Element, Place, add_guest
from yawning_lantern.errors import LanternError, ParameterError
from yawning_lantern.exchange.choices import choices
from yawning_lantern.fit import headline
from yawning_lantern.structures import families, start_design
from yawning_lantern.study import Study

HOSTS = (
    ("tray", "floor", {"width": 212.3, "depth": 163.1, "height": 150.0}),
    ("tray", "floor", {"width": 101.6, "depth": 152.4, "height": 150.0}),
    ("mat", "face", {"width": 140.0, "height": 140.0}),
    ("explosion-box", "floor", {"base": 163.1, "base-depth": 212.3, "wall": 150.0}),
    ("explosion-box", "floor", {"base": 163.1, "wall": 150.0, "corner": "pocket"}),
    ("closing-box", "floor", {"width": 163.1, "depth": 101.6, "height": 150.0}),
)
PLAIN = ("mat", "pocket", "photo", "tag", "pocket-folio", "double-flap", "fold-out", "booklet", "envelope-fold", "flap")
"""What is as wide and as high as its face leaves, and not a number of panels of a sheet."""
STOCKS = ("copy-80", "card-216", "chipboard-1", "chipboard-2")


@pytest.mark.parametrize("kind", sorted(families()))
def test_what_fills_its_face_has_the_play_that_is_asked(kind: str) -> None:
    filled = 0
    for host, face, size in HOSTS:
        for stock in STOCKS:
            guest = Element("guest", kind, stock=stock, place=Place(face))
            settings: dict[str, float | str] = dict(size)
            try:
                study = Study(Design(Element("host", host, settings=settings, guests=(guest,))))
            except LanternError:
                continue  # it does not go there at all, or not in that stock
            r = study.resolved["guest"]
            if not any(sized.origin == "fill" for sized in r.sizes.values()):
                continue
            for gap in r.gaps:
                if gap.angle is not None or gap.where == "up":
                    least, _ = gap.want or gap.use.wanted(gap.school)
                    assert gap.value >= least * gap.share - 1e-6, (host, stock, gap.between)
                    filled += 1
            if kind in PLAIN:  # no smaller than it must be: at most the usual border and two marks are left
                spare = [gap.value for gap in r.gaps if gap.angle is not None and gap.in_all]
                assert max(spare) < 3.2 + 2 * 1.6, (host, stock, spare)
    assert filled > 12 or kind not in PLAIN


@pytest.mark.parametrize(
    ("kind", "face"),
    [("tray", "floor"), ("drop-front", "floor"), ("closing-box", "floor"), ("drawer-sleeve", "floor"),
     ("tier-wrap", "tray-1"), ("drop-ladder", "tray-1"), ("explosion-box", "floor")],
)  # fmt: skip
@pytest.mark.parametrize("stock", ["card-216", "chipboard-2"])
def test_what_has_no_size_grows_around_what_lies_in_it(stock: str, kind: str, face: str) -> None:
    # flat things ask for a thirty-second in all between walls and what is glued inside; common practice, no source
    sizes: tuple[tuple[str, dict[str, float | str]], ...] = (
        ("booklet", {"page-width": 97.0, "page-height": 143.0}), ("booklet", {"page-width": 98.3, "page-height": 61.6}),
        ("photo", {"width": 97.0, "height": 143.0}), ("tray", {"width": 93.1, "depth": 55.7, "height": 21.0}),
        ("tray", {"width": 93.1, "depth": 55.7, "height": 61.0}),
    )  # fmt: skip
    for guest, settings in sizes:
        for turn in (0, 1):
            inner = Element("in", guest, settings=settings, place=Place(face, turn=turn))
            study = Study(Design(Element("host", kind, stock=stock, guests=(inner,))))
            for check in study.checks:
                if (check.gap.element, check.gap.host) == ("in", "host"):
                    assert check.against != "below", (guest, settings, turn, check.gap.between, check.gap.value)


@pytest.mark.parametrize("stock", STOCKS)
@pytest.mark.parametrize("kind", ["closing-box", "drop-front", "prism", "tier-wrap", "tray"])
@pytest.mark.parametrize("deep", [60.0, 90.0])
@pytest.mark.usefixtures("no_rounding")
def test_what_fills_the_height_leaves_a_sixteenth_above_it(kind: str, stock: str, deep: float) -> None:
    """To a hundredth of a millimetre where no tool rounds (1/16: common practice, no source)."""
    settings = {"width": 150.0, "depth": 150.0, "height": deep}
    host = Element("host", "tray", settings=settings, guests=(Element("g", kind, place=Place("floor")),))
    study = Study(Design(host, stock=stock, cut_tool="free", score_tool="free"))
    (above,) = (c.gap.value for c in study.checks if c.gap.element == "g" and c.gap.code == "headroom")
    assert above == pytest.approx(25.4 / 16, abs=0.01)
    beside = [c.gap.value for c in study.checks if c.gap.element == "g" and c.gap.angle is not None and c.gap.in_all]
    if kind in ("closing-box", "drop-front", "tray"):  # whose walls are its outside, and as long as it likes
        assert beside and beside == pytest.approx([25.4 / 16] * len(beside), abs=0.01)


def _tightest(design: Design) -> float:
    """The least that is left of the tray across what fills it, or front to back, mm."""
    checks = [c.gap for c in Study(design).checks if (c.gap.element, c.gap.host) == ("g", "host")]
    return min(gap.value for gap in checks if gap.angle is not None and gap.in_all)


SIZED = ("photo", "ready-made", "rosette")
"""What is as large as its format, or its strips, whatever it is put on."""


@pytest.mark.parametrize("kind", [kind for kind in sorted(families()) if kind not in SIZED])
def test_what_fills_its_face_goes_in_whatever_is_chosen(kind: str) -> None:
    """Any word and any count, on something oblong both ways and on a square. A row that clashes is passed over where
    contracts are asked: a box of six walls was twice as large as its tray, and was never asked."""
    types = {p.id: p.kind for p in families()[kind].parameters}
    for given in choices(families()[kind]):
        if any(types[name] not in ("word", "count") for name in given):
            continue
        for host, face, size in HOSTS[:3]:
            guest = Element("g", kind, settings=given, place=Place(face))
            try:
                study = Study(Design(Element("host", host, settings={**size}, guests=(guest,))))
            except LanternError:
                continue
            told = [
                c for c in study.checks if c.is_clash and c.gap.element == "g" and c.gap.code not in ("sheet", "clasp")
            ]
            assert [headline(c) for c in told] == [], (given, host)


BOXES = ("casing", "closing-box", "drawer-sleeve", "drop-front", "explosion-box", "tray")
"""What stands in another's walls with walls of its own."""
FLAT = (
    "accordion-spine", "board-cover", "booklet", "box-card", "drop-cascade", "flap", "floating-layer", "gate-bag",
    "handle", "photo", "pocket", "rosette", "spinner", "stand", "strip-pockets", "tag", "tent", "tuck-spot", "v-fold",
    "waterfall",
)  # fmt: skip
"""What lies on its face, and of which nothing stands out beyond what it takes."""


@pytest.mark.parametrize("stock", ["card-216", "chipboard-1"])
@pytest.mark.parametrize("kind", [*BOXES, *FLAT])
@pytest.mark.usefixtures("no_rounding")
def test_what_fills_its_face_leaves_a_sixteenth_or_an_eighth(kind: str, stock: str) -> None:
    """In all, where no tool rounds: a sixteenth within walls, an eighth on a face. Common practice, no source."""
    for host, size in (
        ("tray", {"width": 212.3, "depth": 163.1, "height": 150.0}),
        ("mat", {"width": 140.0, "height": 150.0}),
    ):
        guest = Element("g", kind, stock=stock, place=Place("floor" if host == "tray" else "face"))
        design = Design(Element("host", host, settings={**size}, guests=(guest,)), cut_tool="free", score_tool="free")
        try:
            left = _tightest(design)
        except LanternError:
            assert (kind, stock) == ("booklet", "chipboard-1")  # no stapler goes through
        else:
            assert left == pytest.approx(25.4 / 16 if kind in BOXES else 25.4 / 8, abs=0.01)


LOOSER = {
    "booklet": 1.6, "double-flap": 0.3, "explosion-box": 2.01, "flip-book": 0.55, "fold-out": 0.55, "free-strip": 0.55,
    "grid-sheet": 0.55, "maze-book": 0.55, "prism": 0.55, "pull-waterfall": 0.15, "strip-album": 0.55,
    "tier-wrap": 2.01,
}  # fmt: skip
"""Of these it may be so much more or less, mm: folds that swell, leaves that creep out, a box that stands in the middle
with board on one side of it."""


@pytest.mark.parametrize("kind", sorted(families()))
@pytest.mark.usefixtures("no_rounding")
def test_what_fills_its_face_fills_it_as_well_with_something_on_it(kind: str) -> None:
    """Board on any of its own faces leaves as much beside it: it is taken into account once, and the right way."""
    fills = Element("g", kind, place=Place("floor"))
    host = Element("host", "tray", settings={"width": 212.3, "depth": 163.1, "height": 150.0}, guests=(fills,))
    design = Design(host, cut_tool="free", score_tool="free")
    try:
        bare = Study(design).resolved["g"]
    except LanternError:
        return
    if not any(sized.origin == "fill" for sized in bare.sizes.values()):
        return
    left, asked = _tightest(design), set()
    for face, room in bare.rooms.items():
        if room.relation == "onto" and (alike := re.sub(r"[2-9]|1\d", "2", face)) not in asked:  # the first and another
            asked.add(alike)
            try:
                dressed = _tightest(add_guest(design, "g", Element("on", "mat", stock="chipboard-2"), Place(face)))
            except LanternError:
                continue  # on what is too small for it, or cannot be board
            assert dressed == pytest.approx(left, abs=LOOSER.get(kind, 0.01)), face


@pytest.mark.parametrize("width", [12.0, 16.0])
def test_where_nothing_can_be_kept_free_it_is_made_all_the_same_and_told(width: float) -> None:
    # a waterfall of 1 mm board in a tray as narrow as a finger: with less room it could not be made at all
    guest = Element("guest", "pull-waterfall", stock="chipboard-1", place=Place("floor"))
    settings: dict[str, float | str] = {"width": width, "depth": 40.0, "height": 30.0}
    study = Study(Design(Element("host", "tray", settings=settings, guests=(guest,))))
    told = [check for check in study.checks if (check.gap.element, check.gap.host) == ("guest", "host")]
    assert [check for check in told if check.against == "below" and check.gap.angle is not None]


SMALL = ((20.0, 20.0), (30.0, 45.0), (45.0, 30.0), (60.0, 60.0), (90.0, 50.0))
"""Faces as small as a tag and as a card, across and up, mm."""

ELSEWHERE = re.compile(r"[Pp]ut it on ")


@pytest.mark.parametrize("kind", [kind for kind in sorted(families()) if kind != "ready-made"])
def test_what_is_usual_suits_a_small_face_or_is_refused(kind: str) -> None:
    """Nothing told, no fit of it clashes, in itself or with what it is on; what is ready-made is as large as it is.
    Where it is refused a larger face helps, or another kind of face, and it says so in a maker's words."""
    inner = {p.id for p in families()[kind].parameters if "-" in p.id and p.id not in p.label.lower()}
    for host, names in (("mat", ("width", "height")), ("tray", ("width", "depth"))):
        for size in SMALL:
            design = start_design(host, dict(zip(names, size, strict=True)))
            face = "face" if host == "mat" else "floor"
            try:
                study = Study(add_guest(design, design.root.id, Element("g", kind), Place(face)))
            except ParameterError as refused:
                said = refused.sentence()
                assert ELSEWHERE.search(refused.remedy), said
                assert "−" not in said and not [name for name in inner if name in said], said
            else:
                assert [headline(c) for c in study.checks if c.is_clash and c.gap.element == "g"] == [], (host, size)
