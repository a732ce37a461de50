"""Gate bag: a gusseted bag across the gutter of two front leaves that stands up as they open."""

from __future__ import annotations

import math
from collections.abc import Mapping

from msgspec.structs import replace

from yawning_lantern.assembly import Attach, Closure, Instance, Joint, Loop, Part, Room, Root, Term, Ware, span, uses
from yawning_lantern.measure import inches
from yawning_lantern.pattern import Fold, Panel, Piece, ScoreFlag, build_piece, rectangle
from yawning_lantern.structures.kit.card import CARD_FACES, CARD_PARAMETERS, RISE, PopUp, as_part, quarter_open
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes
from yawning_lantern.structures.kit.lying import TAB, face_mount, fit_gap, within
from yawning_lantern.structures.kit.shell import lever_term
from yawning_lantern.structures.kit.solving import face_room, given_length, length_of, on_board, positive, word_of

HANDLE_OVER = inches(1)
"""What a handle's cord takes for its knots, mm. Common practice, no source."""


class GateBag(PopUp):
    """Front, back and two gussets of two panels in one strip; bottom tabs glued either side of the gutter."""

    id = "gate-bag"
    name = "Gate bag"
    about = "A gusseted bag across the gutter: it stands and fills out as the two front leaves open."
    shelf = "Pop-ups"
    opens = 180
    sheets = 5
    faces = (*CARD_FACES, ("bag-front", "front of the bag"), ("bag-back", "back of the bag"))
    parameters = (
        Parameter("bag-width", "Bag, width", "length", "Along the gutter.", "Bag", 10.0),
        Parameter("bag-height", "Bag, height", "length", "Foot to mouth.", "Bag", 10.0),
        Parameter("gusset", "Gusset", "length", "Front to back when it stands open.", "Bag", 6.0),
        Parameter(
            "seam",
            "Seam",
            "word",
            "The seam tab inside the bag or outside: two schools.",
            "Bag",
            words=("inside", "outside"),
            default="inside",
        ),
        Parameter("seam-tab", "Seam tab", "length", "Glued to the front.", "Bag", 3.0),
        Parameter("tab", "Bottom tab", "length", "Glued either side of the gutter.", "Bag", 3.0),
        Parameter(
            "band",
            "Doubled band",
            "length",
            "Folded down inside the mouth; hides the ends of the handles.",
            "Bag",
            most=100.0,
        ),
        Parameter("centre", "Centre", "length", "The panel that both leaves cover.", "Card", 20.0),
        *CARD_PARAMETERS,
        Parameter(
            "shut-reach", "Reach when shut", "length", "How far it reaches from the gutter.", "Bag", derived=True
        ),
        Parameter("handle-cord", "Cord for a handle", "length", "Two are needed.", "Bag", derived=True),
    )

    def size(self, situation: Situation) -> dict[str, Sized]:
        """Leaves and bag. Raises ParameterError where nothing is left to fold."""
        s = situation
        sizes = self.card_sizes(s)
        centre = given_length(s.given, "centre")
        if centre is not None and "page-width" not in s.given:
            sizes["page-width"] = Sized(centre / 2, "auto")
        page, high = sizes["page-width"].length, sizes["page-height"].length
        sizes["centre"] = length_of(s.given, "centre", 2 * page, "auto")
        sizes["bag-width"] = length_of(s.given, "bag-width", on_board(s, high * 0.55), "auto")
        gusset = min(sizes["bag-width"].length * 0.6, page * 0.5)
        sizes["gusset"] = length_of(s.given, "gusset", on_board(s, gusset, 2), "auto")
        tall = page - sizes["gusset"].length / 2 - inches(1 / 8)
        sizes["bag-height"] = length_of(s.given, "bag-height", on_board(s, tall), "auto")
        sizes["seam"] = word_of(s.given, "seam", "inside")
        sizes["seam-tab"] = length_of(s.given, "seam-tab", min(TAB, on_board(s, sizes["gusset"].length / 2)), "auto")
        sizes["tab"] = length_of(s.given, "tab", min(TAB, on_board(s, sizes["gusset"].length / 2)), "auto")
        sizes["band"] = length_of(
            s.given, "band", min(inches(3 / 4), on_board(s, sizes["bag-height"].length / 4)), "auto"
        )
        for name in ("bag-width", "bag-height", "gusset", "seam-tab", "tab"):
            positive(sizes[name].length, f"bag's {name.removeprefix('bag-')}", "Make the leaves larger.")
        within(sizes, "seam-tab", "Seam tab", sizes["bag-width"].length, "the front")
        sizes["shut-reach"] = Sized(sizes["gusset"].length / 2 + sizes["bag-height"].length, "auto")
        sizes["handle-cord"] = Sized(1.5 * sizes["bag-width"].length + 2 * HANDLE_OVER, "auto")
        return sizes

    def feet(self, sizes: Sizes) -> tuple[float, float]:
        """Its bottom tabs lie between the gutter and half a gusset."""
        return sizes["gusset"].length / 2, sizes["gusset"].length / 2

    def on_it(self, s: Situation, sizes: Sizes) -> float:
        """Both doubled bands, the glue of its seam, and what is on the bag."""
        bands = 2 * (s.paper.caliper + s.glue) if sizes["band"].length else 0.0
        return bands + s.glue + s.bulk_on("bag-front") + s.bulk_on("bag-back")

    def rooms(self, situation: Situation, sizes: Sizes) -> dict[str, Room]:
        """The card's faces, front and back of the bag."""
        s, t, e = situation, situation.paper.caliper, situation.element
        rooms = self.card_rooms(s, sizes)
        for face in ("front", "back"):
            rooms[f"bag-{face}"] = face_room(
                sizes["bag-width"].length, sizes["bag-height"].length, t, e, ("bag-width", "bag-height"), f"bag {face}"
            )
        return rooms

    def _piece(self, s: Situation, sizes: Sizes) -> Piece:
        w, h, g = (sizes[n].length for n in ("bag-width", "bag-height", "gusset"))
        seam, tab, band = (sizes[n].length for n in ("seam-tab", "tab", "band"))
        x = (0.0, w, w + g / 2, w + g, 2 * w + g, 2 * w + 1.5 * g, 2 * w + 2 * g, 2 * w + 2 * g + seam)
        names = ("front", "gusset-1a", "gusset-1b", "back", "gusset-2a", "gusset-2b", "seam")
        labels = ("front", "gusset", "gusset", "back", "gusset", "gusset", "seam tab")
        panels = [
            Panel(n, label, rectangle(a, 0.0, b, h)) for n, label, a, b in zip(names, labels, x, x[1:], strict=False)
        ]
        half, layer = math.pi, s.paper.caliper + s.glue
        inside = layer if sizes["seam"].value == "inside" else 0.0  # the seam lies between front and gussets
        banded = layer if band else 0.0
        folds = [
            Fold("front", "gusset-1a", -half, wrap=inside + banded), Fold("gusset-1a", "gusset-1b", half),
            Fold("gusset-1b", "back", -half, wrap=banded), Fold("back", "gusset-2a", -half, wrap=banded),
            Fold("gusset-2a", "gusset-2b", half),
            Fold("gusset-2b", "seam", -half, wrap=banded + layer - inside),
        ]  # fmt: skip
        bevel = min(tab / 3, 2.0)
        for name, a, b in (("front", 0.0, w), ("back", x[3], x[4])):
            foot = ((a + bevel, -tab), (b - bevel, -tab), (b, 0.0), (a, 0.0))
            panels.append(Panel(f"foot-{name}", "bottom tab", foot))
            folds.append(Fold(f"foot-{name}", name, -1e-9))
            if band:
                panels.append(Panel(f"band-{name}", "doubled band", rectangle(a + 1.0, h, b - 1.0, h + band)))
                folds.append(Fold(name, f"band-{name}", -half, wrap=s.glue + (inside if name == "front" else 0.0)))
        flags = (ScoreFlag("x", w, "bag-width", 1.0), ScoreFlag("x", x[3], "gusset", 1.0))
        return build_piece(
            f"{s.element}.bag",
            f"{s.name}, bag",
            s.paper,
            panels,
            folds,
            flags=flags,
            note=f"Seam {sizes['seam'].value}. Punch the holes and knot the cords before the band is glued down.",
        )

    def _loop(self, s: Situation, sizes: Sizes) -> Loop:
        """Two rings at once: the back's bottom tab on the left leaf, and the seam on the front."""
        page, high = sizes["page-width"].length, sizes["page-height"].length
        w, h, g = (sizes[n].length for n in ("bag-width", "bag-height", "gusset"))
        tab, seam, half = sizes["tab"].length, sizes["seam-tab"].length, s.paper.caliper / 2
        away = half + s.glue
        bottom = []
        for along, down in ((0.0, 0.0), (w, 0.0), (w / 2, tab)):
            bag = (w + g + along, -down, away + s.bulk_on("bag-back") + self.under(s, sizes, "left"))
            leaf = (page - g / 2 + down, high / 2 + w / 2 - along, half)
            bottom.append((bag, leaf))
        side = 1.0 if sizes["seam"].value == "inside" else -1.0
        edge = 2 * w + 2 * g
        joined = [
            ((edge + along, up, side * away), (along, up, -side * half))
            for along, up in ((0.0, 0.0), (0.0, h), (seam, h / 2))
        ]
        lift = (math.pi - quarter_open(sizes) * math.radians(sizes["opens"].length)) / 2
        foot, corner, gusset = -(math.pi / 2 - lift), -(math.pi / 2 + lift), 2 * lift
        order = (
            ("foot-front/front", foot), ("front/gusset-1a", corner), ("gusset-1a/gusset-1b", gusset),
            ("gusset-1b/back", corner), ("foot-back/back", foot), ("back/gusset-2a", corner),
            ("gusset-2a/gusset-2b", gusset), ("gusset-2b/seam", corner),
        )  # fmt: skip
        closures = (
            Closure("bottom tab on the left leaf", ("bag", "foot-back"), ("card", "page-left"), tuple(bottom)),
            Closure("seam on the front", ("bag", "seam"), ("bag", "front"), tuple(joined)),
        )
        unknowns = tuple((("bag", crease, 1.0),) for crease, _ in order)
        return Loop("bag", RISE, unknowns, tuple(angle for _, angle in order), closures, quarter_open(sizes))

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        """Leaves and bag."""
        s, e, t = situation, situation.element, situation.paper.caliper
        page, high = sizes["page-width"].length, sizes["page-height"].length
        w, h, g = (sizes[n].length for n in ("bag-width", "bag-height", "gusset"))
        card, bag = self.card(s, sizes), self._piece(s, sizes)
        on_front = t + s.glue if sizes["seam"].value == "outside" else 0.0  # the seam's tab
        under = s.bulk_on("bag-front") + on_front + self.under(s, sizes, "right")
        on = Attach("card", "page-right", (page + g / 2, high / 2), (1.0, 0.0), 1, t + s.glue + under)
        instances = [
            self.card_instance(sizes, card),
            Instance("bag", bag.id, Root("foot-front", (w / 2, 0.0), touch=1), on),
        ]
        gaps = [
            fit_gap(
                s,
                uses.INSIDE_CARD,
                (s.name, "leaf edge"),
                span("leaf", page, e, "page-width").plus(
                    lever_term("half a gusset", -g / 2, e, "gusset", -0.5),
                    lever_term("bag", -h, e, "bag-height", -1.0),
                ),
            ),
            fit_gap(
                s,
                uses.INSIDE_CARD,
                (f"{s.name}, along the gutter", "leaf"),
                span("leaf", high, e, "page-height") - span("bag", w, e, "bag-width"),
            ),
            fit_gap(
                s,
                uses.SPARE,
                (f"{s.name}, gussets folded in", "bag's width"),
                span("bag", w, e, "bag-width").plus(
                    lever_term("both gussets", -g, e, "gusset", -1.0), Term("seam", 0.0)
                ),
            ),
            fit_gap(
                s,
                uses.SPARE,
                (f"{s.name}, bottom tab", "gutter"),
                span("half a gusset", g / 2, e, "gusset", 0.5) - span("tab", sizes["tab"].length, e, "tab"),
            ),
            fit_gap(
                s,
                uses.LEAVES,
                (f"{s.name}, two leaves", "centre"),
                span("two leaves", 2 * page, e, "page-width", 2.0)
                - span("centre", sizes["centre"].length, e, "centre"),
            ),
            self.card_sheet(s, sizes, card),
        ]
        mounts = [
            *self.card_mounts(s, sizes, card, list(rooms)),
            face_mount("bag-front", "front of the bag", "bag", bag.panel("front"), 1, t + 2 * on_front),
            face_mount("bag-back", "back of the bag", "bag", bag.panel("back"), 1, t),
        ]
        cords = (Ware(f"{s.name}, cord for a handle", 2, sizes["handle-cord"].length),)
        loop = self._loop(s, sizes)
        part = as_part(s, (card, bag), instances, mounts, self.card_swing(s, sizes), gaps, loop, cords)
        inside = sizes["seam"].value == "inside"
        return replace(part, joints=_bands_and_seam(inside, bool(sizes["band"].length)))


def _bands_and_seam(inside: bool, banded: bool) -> tuple[Joint, ...]:
    """The doubled bands are glued down; a seam that is inside lies on the one in front."""
    bands = [Joint(("bag", f"band-{name}"), ("bag", name)) for name in ("front", "back")] if banded else []
    under = ("front", "band-front") if inside and banded else ("front",)
    seam = [Joint(("bag", "seam"), ("bag", name), act="seam", label="seam on the front", seam=True) for name in under]
    return (*bands, *seam)


FAMILY = GateBag()
