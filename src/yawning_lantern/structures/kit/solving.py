"""What the box families share when they settle sizes: reading what was given, rounding safely, common mount shapes."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence

from msgspec.structs import replace

from yawning_lantern.assembly import Gap, Lever, Need, Room, Side, Span, Term, box_sides, edge_gaps, span, uses
from yawning_lantern.design import Value
from yawning_lantern.errors import ParameterError
from yawning_lantern.measure import inches, snap, told
from yawning_lantern.pattern import Point
from yawning_lantern.pattern.build import rectangle
from yawning_lantern.stock import Paper
from yawning_lantern.structures.kit.declare import Origin, Parameter, Situation, Sized, Sizes, fact

PLAY_WORDS: dict[str, float] = {"snug": 0.0, "easy": inches(1 / 16), "loose": inches(1 / 8)}
"""Play in all of a lid, mm, before it is rounded up. Common practice, no source."""

LID_PARAMETER = Parameter(
    "lid",
    "Lid",
    "word",
    "Begin with a lid that is snug, easy or loose, or with none.",
    "Lid",
    words=("none", "snug", "easy", "loose"),
    default="none",
    structural=True,
)

HEADROOM = inches(1 / 16)
"""Room left above what stands in a box, mm. Common practice, no source."""

CONTENT_PARAMETERS = (
    fact("content-width", "Contents, width", "How wide the thing inside is.", "Contents", 1.0),
    fact("content-depth", "Contents, depth", "How deep it is, front to back.", "Contents", 1.0),
    fact("content-height", "Contents, height", "How tall it stands.", "Contents", 0.0),
    Parameter(
        "content-play",
        "Room around contents",
        "length",
        "Room in all, across: half of it each side.",
        "Contents",
        0.0,
        100.0,
        default=inches(1 / 8),
    ),
)


def given_length(given: Mapping[str, Value], name: str) -> float | None:
    """A given length in mm, or None where nothing was given."""
    value = given.get(name)
    return None if value is None or isinstance(value, str) else float(value)


def word_of(given: Mapping[str, Value], name: str, default: str) -> Sized:
    """A word, given or by default."""
    value = given.get(name)
    return Sized(value, "given") if isinstance(value, str) else Sized(default, "default")


def length_of(given: Mapping[str, Value], name: str, default: float, origin: Origin = "default") -> Sized:
    """A length, given or by default."""
    value = given_length(given, name)
    return Sized(default, origin) if value is None else Sized(value, "given")


def as_given(given: Mapping[str, Value], *names: str) -> dict[str, Sized]:
    """Those of some lengths that are given."""
    return {name: Sized(own, "given") for name in names if (own := given_length(given, name)) is not None}


def worked_out(*of: Sized) -> Origin:
    """Where a size comes from that follows from others: with what fills its host it does too, and what is the maker's
    or worked out makes it worked out."""
    origins = {sized.origin for sized in of}
    if "fill" in origins:
        return "fill"
    return "default" if origins == {"default"} else "auto"


def up_to_cut(s: Situation, exact: float, origin: Origin) -> Sized:
    """A length rounded up to the cutting tool's grid, the exact figure kept."""
    return Sized(snap(exact, s.cut.grid, "up").value, origin, exact)


def down_to_cut(s: Situation, exact: float, origin: Origin) -> Sized:
    """A length rounded down to the cutting tool's grid, the exact figure kept."""
    return Sized(snap(exact, s.cut.grid, "down").value, origin, exact)


def up_to_score(s: Situation, exact: float, origin: Origin) -> Sized:
    """A score's distance from the fence rounded up to a groove, the exact figure kept."""
    return Sized(snap(exact, s.score.grid, "up", s.score.offset).value, origin, exact)


def on_board(s: Situation, exact: float, parts: int = 1) -> float:
    """A free distance between two scores, mm: the groove below; of what is small for the board's grooves, the trimmer's
    mark below. With `parts`, the length is scored into so many equal ones."""
    groove = snap(exact, s.score.grid * parts, "down").value
    return groove if groove >= 0.75 * exact else snap(exact, s.cut.grid * parts, "down").value


def positive(value: float, what: str, remedy: str) -> float:
    """The value if it can be a panel. Raises ParameterError where the sum leaves nothing."""
    if value < 3.0:
        words = what.replace("-", " ")
        if round(value, 2) >= 0.0:
            said = f"The {words} comes out at {told(max(value, 0.0))}: nothing can be folded from that."
        else:
            said = f"Nothing is left for the {words}: {told(-value)} is missing."
        raise ParameterError(said, words, remedy)
    return value


def contents_of(sizes: Sizes) -> tuple[float, float, float] | None:
    """Width, depth and height of the contents (mm), where width is known; what is not told is as the width."""
    if "content-width" not in sizes:
        return None
    width = sizes["content-width"].length
    depth, height = (sizes[n].length if n in sizes else width for n in ("content-depth", "content-height"))
    return width, depth, height


def contents_gaps(element: str, name: str, sizes: Sizes, floor: Room) -> tuple[Gap, ...]:
    """The gaps of what stands on a floor, as if it were a guest there: across, front to back (or towards each wall),
    and in height where that was told."""
    contents = contents_of(sizes)
    if contents is None:
        return ()
    width, depth, height = contents
    across, along = (span("contents", size / 2) for size in (width, depth))
    told = span("contents", height) if "content-height" in sizes else None
    need = Need("inside", uses.CONTENTS, box_sides((across, along, across, along)), height=told)
    return edge_gaps(element, element, (name, "contents"), replace(floor, per_side=False), need, 0, (0.0, 0.0))


def told_contents(
    s: Situation, sizes: Sizes, name: str, pairs: Iterable[tuple[str, str]], less: float = 0.0
) -> list[Gap]:
    """A fit for every told size of contents against the size that holds it, `less` mm smaller in all, where that does
    not follow from the contents: what was given goes before, so it may be too small."""
    gaps = []
    for content, own in pairs:
        told = given_length(s.given, content)
        if told is not None and (own in s.given or sizes[own].length - less < told - 1e-6):
            left = span(own.replace("-", " "), sizes[own].length, s.element, own).plus(Term("border", -less))
            left = left - span("what is at hand", sizes[content].length, s.element, content)
            axis = "width" if content.endswith("width") else "height"
            gaps.append(Gap(uses.AT_HAND, s.element, s.element, (name, f"what is at hand, {axis}"), left))
    return gaps


def guests_want(s: Situation, axis: int) -> float | None:
    """What the guests on the floor need along an axis (0 across, 1 front to back), play included, mm."""
    return max((wanted for g in s.on("floor") if (wanted := g.wants(axis)) is not None), default=None)


def face_room(
    width: float, height: float, caliper: float, element: str, levers: tuple[str, str], name: str,
    shares: tuple[float, float] = (1.0, 1.0),
) -> Room:  # fmt: skip
    """The room of a bare face: a mat or another flat thing may lie on it. Lengths in mm. `shares` are what width and
    height gain by their levers."""
    across = Span((Term(f"{name} width", width / 2, Lever(element, levers[0], shares[0] / 2)),))
    along = Span((Term(f"{name} height", height / 2, Lever(element, levers[1], shares[1] / 2)),))
    sides: tuple[Side, ...] = box_sides((across, along, across, along))
    return Room("onto", uses.MAT, sides, (width, height), caliper)


def facing_wall(room: Room, element: str, across: float, lever: str, caliper: float, held: float = 0.0) -> Room:
    """The room on the inside of a wall, bounded by the wall across. `across` is from score to score; `held` is what is
    glued to both walls already, tabs and pockets. mm."""
    clear = span("from wall to wall", across, element, lever).plus(Term("sheet", -caliper), Term("tabs", -held))
    return replace(room, height=clear, bound="wall across")


def tallest_inside(s: Situation, usual: float, layered: bool = False) -> float:
    """How high what stands on the floor is, its glue included, mm; 0 where nothing does. What only lies there is no
    reason for lower walls than `usual` (mm), but for higher ones. Where boxes are `layered`, what stands above the wall
    of a layer may do so."""
    high = [
        (g.need.relation, s.glue + (g.need.height.value if layered else g.need.tall))
        for g in s.on("floor")
        if g.need.height
    ]
    tallest = max((height for _, height in high), default=0.0)
    stands = max((height for relation, height in high if relation == "inside"), default=0.0)
    return tallest if tallest > usual else stands


def between_walls(nominal: float, bulk: float) -> float:
    """The width of a wall's inside between what is on the walls beside it, `bulk` thick in all, mm. A mat's own border
    takes the first eighth."""
    return nominal - max(0.0, bulk - inches(1 / 8))


def hanging_gap(element: str, name: str, floor: Room) -> Gap:
    """What is left under what hangs from a lid, over an empty floor."""
    assert floor.height is not None
    left = floor.height.plus(Term("hanging from the lid", -floor.intrudes))
    return Gap(uses.HEADROOM, element, element, (f"{name}, inside of the lid", f"{name}, floor"), left.merged())


def centred(width: float, height: float) -> tuple[Point, ...]:
    """A rectangle about the origin, mm: the outline of a mount."""
    return rectangle(-width / 2, -height / 2, width / 2, height / 2)


def sheet_gap(
    element: str, name: str, paper: Paper, size: tuple[float, float], terms: Sequence[tuple[Term, ...]]
) -> Gap:
    """How much of the sheet is left beside a piece, laid the better way. `terms` sum up to its width and height, mm."""
    sheet = paper.sheet
    width, height = sheet.usable_width, sheet.usable_height
    straight = min(width - size[0], height - size[1])
    turned = min(height - size[0], width - size[1])
    if turned > straight:
        width, height = height, width
    tight = 0 if width - size[0] <= height - size[1] else 1
    usable = (width, height)[tight]
    left = Span((Term("sheet that can be used", usable),)) - Span(terms[tight])
    return Gap(uses.SHEET, element, element, (name, paper.sheet.name), left.merged(), "any", (0.0, usable), "")


def fits_sheet(paper: Paper, size: tuple[float, float]) -> bool:
    """Whether a piece can be cut from one sheet, either way round."""
    w, h = paper.sheet.usable_width + 1e-6, paper.sheet.usable_height + 1e-6
    return (size[0] <= w and size[1] <= h) or (size[0] <= h and size[1] <= w)
