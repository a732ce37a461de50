"""Booklet: sheets folded once, laid in one another and stapled through the fold; its last page lies on the face."""

from __future__ import annotations

import math
from collections.abc import Mapping

from yawning_lantern.assembly import Attach, Instance, Joint, Part, Room, Root, Span, Swing, Term, span, uses
from yawning_lantern.errors import ParameterError
from yawning_lantern.measure import inches, told
from yawning_lantern.pattern import Fold, Panel, Piece, ScoreFlag, build_piece, rectangle
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes, Start
from yawning_lantern.structures.kit.lying import Lying, count_of, extent, face_mount, fit_gap
from yawning_lantern.structures.kit.shell import lever_term
from yawning_lantern.structures.kit.solving import down_to_cut, face_room, sheet_gap, word_of

MOST = 8
WIRE = 0.5
"""A staple's wire, mm. From memory."""
THICKEST = 2.0
"""What a common stapler goes through, mm of paper. From memory: its label goes first."""


class Booklet(Lying):
    """Sheet 1 is the cover and lies outermost. Inner sheets stand out at the fore edge by π/2 of a sheet each (arcs
    about one middle), or are cut so much narrower. What is put on pages lies before the middle: leaves behind it are
    turned in the hand."""

    id = "booklet"
    name = "Booklet"
    about = "Sheets folded once, one in the other, stapled through the fold: pages to leaf through on a face."
    shelf = "Books"
    headline = ("page-width", "page-height", "sheets")
    starts: tuple[Start, ...] = ("size",)
    footprint = ("page-width", "page-height")
    faces = tuple((f"page-{k}", f"page {k}") for k in range(1, 2 * MOST + 2))
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
    def _bulk(s: Situation, k: int) -> float:
        """What lies between the front leaf of sheet k and what is under it, mm."""
        return s.bulk_on(f"page-{2 * k}") + s.bulk_on(f"page-{2 * k + 1}")

    def _wraps(self, s: Situation, sizes: Sizes) -> list[float]:
        """What each sheet's fold goes around, the cover's first, mm."""
        n, t, inside = int(sizes["sheets"].length), s.paper.caliper, 0.0
        found = []
        for k in range(n, 0, -1):
            inside += self._bulk(s, k)
            found.append(inside)
            inside += 2 * t
        return found[::-1]

    def thickness(self, s: Situation, sizes: Sizes) -> Span:
        """All leaves, what lies between them and on the cover."""
        return span("leaves", 2 * int(sizes["sheets"].length) * s.paper.caliper).plus(
            Term(
                "bulk on the pages", self._wraps(s, sizes)[0] - 2 * (int(sizes["sheets"].length) - 1) * s.paper.caliper
            ),
            Term("bulk on the cover", s.bulk_on("page-1")),
        )

    def beyond(self, s: Situation, sizes: Sizes) -> tuple[float, float]:
        """The fold stands out by its radius; at the fore edge inner sheets that are all alike do."""
        radius = (s.paper.caliper + self._wraps(s, sizes)[0]) / 2
        back = radius + s.paper.caliper / 2
        creep = (
            (int(sizes["sheets"].length) - 1) * sizes["creep"].length if sizes["fore-edge"].value == "alike" else 0.0
        )
        return max(back, creep), 0.0

    def rooms(self, situation: Situation, sizes: Sizes) -> dict[str, Room]:
        """The pages up to the middle, which its leaves bring to light."""
        s, n = situation, int(sizes["sheets"].length)
        levers = ("page-width", "page-height")
        return {
            f"page-{p}": face_room(
                self._wide(s, sizes, min((p + 1) // 2, n)), sizes["page-height"].length,
                s.paper.caliper, s.element, levers, f"page {p}",
            )
            for p in range(1, 2 * n + 2)
        }  # fmt: skip

    def _wide(self, s: Situation, sizes: Sizes, k: int) -> float:
        """The page of sheet k (from 1), fold to fore edge, mm: cut down to the trimmer's marks."""
        wide = sizes["page-width"].length
        if k == 1 or sizes["fore-edge"].value == "alike":
            return wide
        return down_to_cut(s, wide - (k - 1) * sizes["creep"].length, "auto").length

    def _sheet(self, s: Situation, sizes: Sizes, k: int, wrap: float) -> Piece:
        w, h = self._wide(s, sizes, k), sizes["page-height"].length
        panels = [
            Panel("back", "back leaf", rectangle(0, 0, w, h)),
            Panel("front", "front leaf", rectangle(w, 0, 2 * w, h)),
        ]
        many = int(sizes["staples"].length)
        at = ", ".join(told(h * (2 * j + 1) / (2 * many)) for j in range(many))
        name = "cover" if k == 1 else f"sheet {k}"
        return build_piece(
            f"{s.element}.sheet-{k}", f"{s.name}, {name}", s.paper, panels, [Fold("back", "front", math.pi, wrap=wrap)],
            flags=(ScoreFlag("x", w, "page-width", 1.0),) if k == 1 else (),
            note=f"Staples through the fold at {at} from the foot." if k == 1 else "",
        )  # fmt: skip

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        """Sheets in one another, their folds about one middle; the front leaves open one by one."""
        s, e, t = situation, situation.element, situation.paper.caliper
        n, h = int(sizes["sheets"].length), sizes["page-height"].length
        wraps = self._wraps(s, sizes)
        pieces = [self._sheet(s, sizes, k, wraps[k - 1]) for k in range(1, n + 1)]
        radii = [(t + wrap) / 2 for wrap in wraps]
        wide = [self._wide(s, sizes, k) for k in range(1, n + 1)]
        instances = [Instance("sheet-1", pieces[0].id, Root("back", (wide[0] / 2, h / 2)))]
        joints, mounts, up = [], [], (0.0, 1.0)
        for k in range(2, n + 1):
            # where the arc of either fold begins on its back leaf lies one over the other
            on, own = (wide[j] - math.pi / 2 * radii[j] for j in (k - 2, k - 1))
            instances.append(
                Instance(f"sheet-{k}", pieces[k - 1].id, Root("back", (own, h / 2)),
                         Attach(f"sheet-{k - 1}", "back", (on, h / 2), up, 1, t))
            )  # fmt: skip
            joints.append(
                Joint((f"sheet-{k}", "back"), (f"sheet-{k - 1}", "back"), "held", act="staple",
                      label="all sheets open on one another, staples through the fold from outside, their ends inside",
                      caution="A staple's ends are sharp: press them flat, and look where fingers are.")
            )  # fmt: skip
        for k in range(1, n):
            joints.append(Joint((f"sheet-{k}", "front"), (f"sheet-{k + 1}", "front"), "free"))
        labels = dict(self.faces)
        for p in range(1, 2 * n + 2):
            sheet = min((p + 1) // 2, n)
            leaf, inner = ("front", p % 2 == 0) if p <= 2 * n else ("back", True)
            panel = pieces[sheet - 1].panel(leaf)
            mounts.append(face_mount(f"page-{p}", labels[f"page-{p}"], f"sheet-{sheet}", panel, 1 if inner else -1, t))
        swings = [
            Swing(f"leaf-{k}", f"leaf {k} of {s.name} turns", ((f"sheet-{k}", "back/front", math.pi / 8 - 0.02 * k),))
            for k in range(1, n + 1)
        ]
        gaps = [
            sheet_gap(e, pieces[0].name, s.paper, pieces[0].size, (
                (lever_term("two pages", 2 * wide[0], e, "page-width", 2.0),),
                span("height", h, e, "page-height").terms,
            )),
            fit_gap(s, uses.STEP, (f"{s.name}, sheets", "stapler"),
                    Span((Term("what a stapler goes through", THICKEST), Term("sheets", -n * t)))),
        ]  # fmt: skip
        return Part(
            e, s.name, tuple(pieces), tuple(instances), tuple(mounts), tuple(swings), tuple(gaps), joints=tuple(joints)
        )


FAMILY = Booklet()
