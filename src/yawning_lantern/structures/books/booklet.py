"""Booklet: sheets folded once, laid in one another and stapled through the fold; its last page lies on the face."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence

from msgspec.structs import replace

from yawning_lantern.assembly import Attach, Instance, Joint, Part, Roll, Room, Root, Span, Swing, Term, Vec, span, uses
from yawning_lantern.errors import ParameterError
from yawning_lantern.measure import inches, told
from yawning_lantern.pattern import Fold, Panel, Piece, ScoreFlag, build_piece, rectangle
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes, Start
from yawning_lantern.structures.kit.lying import Lying, count_of, extent, face_mount, fit_gap
from yawning_lantern.structures.kit.over_edge import through
from yawning_lantern.structures.kit.shell import lever_term
from yawning_lantern.structures.kit.solving import down_to_cut, face_room, sheet_gap, word_of

MOST = 8  # sheets at most
WIRE = 0.5
"""A staple's wire, mm. From memory."""
THICKEST = 2.0
"""What a common stapler goes through, mm of paper. From memory: its label goes first."""


class Booklet(Lying):
    """Sheet 1 is the cover and lies outermost. Inner sheets stand out at the fore edge by π/2 of a sheet each (arcs
    about one middle), or are cut so much narrower. Front leaves turn on their folds; behind the middle the back leaf of
    a sheet turns on its fold, and the front leaf stays where it lies."""

    id = "booklet"
    name = "Booklet"
    about = "Sheets folded once, one in the other, stapled through the fold: pages to leaf through on a face."
    shelf = "Books"
    headline = ("page-width", "page-height", "sheets")
    starts: tuple[Start, ...] = ("size",)
    footprint = ("page-width", "page-height")
    faces = tuple((f"page-{k}", f"page {k}") for k in range(1, 4 * MOST + 1))
    parameters = (
        Parameter("page-width", "Page, width", "length", "Fold to fore edge, of the cover.", "Pages", 15.0),
        Parameter("page-height", "Page, height", "length", "Foot to head.", "Pages", 15.0),
        Parameter("sheets", "Sheets", "count", "Each makes four pages.", "Pages", 1, MOST, default=3),
        Parameter("fore-edge", "Fore edge", "word", "Inner sheets cut narrower, so that it is even; or all alike.",
                  "Pages", words=("even", "alike"), default="even"),
        Parameter("staples", "Staples", "count", "Through the fold.", "Staples", 1, 4, default=2),
        Parameter("creep", "Creep", "length", "How far each sheet stands out beyond the one around it.", "Pages",
                  derived=True),
    )  # fmt: skip

    def size(self, situation: Situation) -> dict[str, Sized]:
        """Pages and sheets. Raises ParameterError where so many sheets are too thick for staples."""
        s = situation
        sizes = {
            "page-width": extent(s, "page-width", 0, inches(3)),
            "page-height": extent(s, "page-height", 1, inches(4)),
            "sheets": count_of(s, "sheets", 3),
            "fore-edge": word_of(s.given, "fore-edge", "even"),
            "staples": count_of(s, "staples", 2),
        }
        sizes["creep"] = Sized(math.pi / 2 * s.paper.caliper, "auto")
        thick = sizes["sheets"].length * s.paper.caliper
        if thick > THICKEST:
            raise ParameterError(
                f"{int(sizes['sheets'].length)} sheets are {told(thick, fine=True)} of paper: no stapler goes through.",
                "Sheets", f"Take at most {int(THICKEST / s.paper.caliper)}, or thinner paper.",
            )  # fmt: skip
        return sizes

    @staticmethod
    def _before(s: Situation, k: int) -> float:
        """What lies on the inside of sheet k's front leaf and on what meets it, mm; of the innermost, in the middle."""
        return s.bulk_on(f"page-{2 * k}") + s.bulk_on(f"page-{2 * k + 1}")

    @staticmethod
    def _behind(s: Situation, n: int, k: int) -> float:
        """What lies between the back leaves of sheet k and of the next, of n sheets, mm."""
        return s.bulk_on(f"page-{4 * n - 2 * k + 1}") + s.bulk_on(f"page-{4 * n - 2 * k}") if k < n else 0.0

    def _wraps(self, s: Situation, sizes: Sizes) -> list[float]:
        """What each sheet's fold goes around, the cover's first, mm."""
        n, t, inside = int(sizes["sheets"].length), s.paper.caliper, 0.0
        wraps = []
        for k in range(n, 0, -1):
            inside += self._before(s, k) + self._behind(s, n, k)
            wraps.append(inside)
            inside += 2 * t
        return wraps[::-1]

    def thickness(self, s: Situation, sizes: Sizes) -> Span:
        """All leaves, what lies between them and on the cover."""
        return span("leaves", 2 * int(sizes["sheets"].length) * s.paper.caliper).plus(
            Term(
                "bulk on the pages", self._wraps(s, sizes)[0] - 2 * (int(sizes["sheets"].length) - 1) * s.paper.caliper
            ),
            Term("bulk on the cover", s.bulk_on("page-1") + s.bulk_on(f"page-{4 * int(sizes['sheets'].length)}")),
        )

    def beyond(self, s: Situation, sizes: Sizes) -> tuple[float, float]:
        """Half of what stands out at both sides: it lies with its middle on the face's."""
        return sum(self._stands_out(s, sizes)) / 2, 0.0

    def _stands_out(self, s: Situation, sizes: Sizes) -> tuple[float, float]:
        """How far the fold stands out on the left of the outermost page, and the inner ones at its fore edge, mm: the
        arc of a fold takes its length from both leaves, the inner arcs less."""
        arcs = [math.pi / 2 * (s.paper.caliper + wrap) / 2 for wrap in self._wraps(s, sizes)]
        ends = [self._wide(s, sizes, k + 1) - arc for k, arc in enumerate(arcs)]
        return max(s.paper.caliper / 2 - arcs[0] * (1 - 2 / math.pi), 0.0), max(ends) - ends[0]

    def rooms(self, situation: Situation, sizes: Sizes) -> dict[str, Room]:
        """Every page, but the last where that is glued down."""
        s, n, high = situation, int(sizes["sheets"].length), sizes["page-height"].length
        levers, last = ("page-width", "page-height"), 4 * n if situation.room is None else 4 * n - 1
        rooms = {
            f"page-{p}": face_room(
                self._wide(s, sizes, _sheet_of(p, n)), high, s.paper.caliper, s.element, levers, f"page {p}"
            )
            for p in range(1, last + 1)
        }
        if s.room is None:
            ends, wide = ("page-1", f"page-{4 * n}"), self._wide(s, sizes, 1)
            for face, far in (ends, ends[::-1]):
                edges = through(s, self.thickness(s, sizes), wide / 2, high / 2, (face, far), behind=face != "page-1")
                rooms[face] = replace(rooms[face], through=edges)
        return rooms

    def _wide(self, s: Situation, sizes: Sizes, k: int) -> float:
        """The page of sheet k (from 1), fold to fore edge, mm: cut down to the trimmer's marks."""
        wide = sizes["page-width"].length
        if k == 1 or sizes["fore-edge"].value == "alike":
            return wide
        return down_to_cut(s, wide - (k - 1) * sizes["creep"].length, "auto").length

    def _sheet(self, s: Situation, sizes: Sizes, k: int, wrap: float) -> Piece:
        w, h = self._wide(s, sizes, k), sizes["page-height"].length
        panels = [
            Panel("front", "front leaf", rectangle(0, 0, w, h)),
            Panel("back", "back leaf", rectangle(w, 0, 2 * w, h)),
        ]
        many = int(sizes["staples"].length)
        at = ", ".join(told(h * (2 * j + 1) / (2 * many)) for j in range(many))
        name = "cover" if k == 1 else f"sheet {k}"
        return build_piece(
            f"{s.element}.sheet-{k}", f"{s.name}, {name}", s.paper, panels, [Fold("front", "back", math.pi, wrap=wrap)],
            flags=(ScoreFlag("x", w, "page-width", 1.0),) if k == 1 else (),
            note=f"Staples through the fold at {at} from the foot." if k == 1 else "",
        )  # fmt: skip

    def _sinks(self, s: Situation, n: int, k: int, radii: Sequence[float]) -> Vec:
        """Where sheet k goes as it turns over, mm: it lay on the back leaf of the sheet around it, with what is behind
        it between them, and lies on its front leaf, with what is before; there too both folds are about one middle."""
        t, lean = s.paper.caliper, _lies(k - 1)
        beside = math.pi / 2 * (radii[k - 2] - radii[k - 1])  # from fold to fold, where arcs begin over one another
        apart, wanted = t + self._behind(s, n, k - 1), t + self._before(s, k - 1)
        sine, cosine = math.sin(lean), math.cos(lean)
        out = beside * (1 + cosine) - apart * sine  # along the front leaf, and across it
        off = wanted - beside * sine - apart * cosine
        return off * sine - out * cosine, 0.0, off * cosine + out * sine

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        """Sheets in one another, their folds about one middle; the front leaves open one by one."""
        s, e, t = situation, situation.element, situation.paper.caliper
        n, h = int(sizes["sheets"].length), sizes["page-height"].length
        wraps = self._wraps(s, sizes)
        pieces = [self._sheet(s, sizes, k, wraps[k - 1]) for k in range(1, n + 1)]
        radii = [(t + wrap) / 2 for wrap in wraps]
        wide = [self._wide(s, sizes, k) for k in range(1, n + 1)]
        back, fore = self._stands_out(s, sizes)
        lies = Root("back", (1.5 * wide[0] + (fore - back) / 2, h / 2), away=s.bulk_on(f"page-{4 * n}"))
        instances = [Instance("sheet-1", pieces[0].id, lies)]
        joints, mounts, up = [], [], (0.0, 1.0)
        # where the arc of a fold begins on its back leaf: these lie one over the other
        arc = [w + math.pi / 2 * radius for w, radius in zip(wide, radii, strict=True)]
        for k in range(2, n + 1):
            apart = t + self._behind(s, n, k - 1)
            instances.append(
                Instance(f"sheet-{k}", pieces[k - 1].id, Root("back", (arc[k - 1], h / 2)),
                         Attach(f"sheet-{k - 1}", "back", (arc[k - 2], h / 2), up, 1, apart))
            )  # fmt: skip
            joints.append(
                Joint((f"sheet-{k}", "back"), (f"sheet-{k - 1}", "back"), "held", act="staple",
                      label="all sheets open on one another, staples through the fold from outside, their ends inside",
                      caution="A staple's ends are sharp: press them flat, and look where fingers are.")
            )  # fmt: skip
        for k in range(1, n):
            joints.append(Joint((f"sheet-{k}", "front"), (f"sheet-{k + 1}", "front"), "free"))
        for p in range(1, 4 * n + (1 if s.room is None else 0)):
            leaf, inner = ("front", p % 2 == 0) if p <= 2 * n else ("back", p % 2 == 1)
            sheet = _sheet_of(p, n)
            panel = pieces[sheet - 1].panel(leaf)
            mounts.append(face_mount(f"page-{p}", f"page {p}", f"sheet-{sheet}", panel, 1 if inner else -1, t))
        swings = [
            Swing(f"leaf-{k}", f"leaf {k} of {s.name} turns", ((f"sheet-{k}", "front/back", _lies(k)),))
            for k in range(1, n + 1)
        ]
        for k in range(n, 1, -1):
            # its back leaf comes over; the front leaf, and the sheet that was turned before, stay where they lie
            number = 2 * n - k + 1
            fold = (f"sheet-{k}", "front/back", _lies(k) + math.pi - _lies(number))
            riders = (f"sheet-{k + 1}",) if k < n else ()
            roll = Roll(f"sheet-{k}", "front/back", riders)
            slides = ((f"sheet-{k}", self._sinks(s, n, k, radii)),)
            swings.append(Swing(f"leaf-{number}", f"leaf {number} of {s.name} turns", (fold,), slides, rolls=(roll,)))
        gaps = [
            sheet_gap(e, pieces[0].name, s.paper, pieces[0].size, (
                (lever_term("two pages", 2 * wide[0], e, "page-width", 2.0),),
                span("height", h, e, "page-height").terms,
            )),
            fit_gap(s, uses.SPARE, (f"{s.name}, sheets", "stapler"),
                    Span((Term("what a stapler goes through", THICKEST), Term("sheets", -n * t)))),
        ]  # fmt: skip
        return Part(
            e, s.name, tuple(pieces), tuple(instances), tuple(mounts), tuple(swings), tuple(gaps), joints=tuple(joints)
        )


def _sheet_of(page: int, sheets: int) -> int:
    """Which sheet a page is on, from the outermost (1)."""
    return (page + 1) // 2 if page <= 2 * sheets else (4 * sheets - page) // 2 + 1


def _lies(leaf: int) -> float:
    """How far a turned leaf still stands up from flat, radians: each on the one before."""
    return math.pi / 8 + 0.03 * leaf


FAMILY = Booklet()
