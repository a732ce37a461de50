"""Rosette: strips pleated and joined into a ring, pressed flat and glued on a disc."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from itertools import pairwise

from msgspec.structs import replace

from yawning_lantern.assembly import (
    Attach,
    Gap,
    Hint,
    Instance,
    Joint,
    Mount,
    Part,
    Room,
    Root,
    Span,
    Strain,
    Term,
    span,
    uses,
)
from yawning_lantern.errors import ParameterError
from yawning_lantern.measure import at_most, inches, snap, told
from yawning_lantern.pattern import Fold, Panel, Piece, build_piece
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes, Start
from yawning_lantern.structures.kit.lying import BEARS, Lying, bulks, fit_gap, row, within
from yawning_lantern.structures.kit.pleats import (
    PleatedRing,
    Ring,
    joined,
    keeps_alternating,
    least_hub,
    strips_must_flip,
)
from yawning_lantern.structures.kit.shell import lever_term
from yawning_lantern.structures.kit.solving import down_to_cut, face_room, given_length, length_of, sheet_gap, word_of

FULL = 1.9
LEAN, RICH = 1.7, 2.2
"""Fullness that looks good, and what is aimed at. Common practice, no source."""
FLAT, WARN = 1.0, 1.05
"""Ring length over the rim's circle: least, and where it begins to be safe. Measured on simulated paper."""
DISC_SIDES = 24  # sides of the polygon that stands for a disc
MOST_STRIPS = 12  # strips at most
LEAST = 20.0  # mm across: a smaller one is not folded by hand


def _circle(radius: float) -> tuple[tuple[float, float], ...]:
    """A circle as a polygon about its middle moved to (radius, radius), mm."""
    return tuple(
        (
            radius + radius * math.cos(2 * math.pi * k / DISC_SIDES),
            radius + radius * math.sin(2 * math.pi * k / DISC_SIDES),
        )
        for k in range(DISC_SIDES)
    )


YOUNG = 3000.0
"""Young's modulus of paper, N/mm². From memory: 2 to 5 GPa."""
CREASED = 150.0
"""A crease is as stiff as a strip of so many calipers of the sheet beside it. From memory: the origami length of a
creased sheet (Lechenault, Thiria and Adda-Bedia 2014) is 100 to 300 times its thickness."""
TURNED = 1.0
"""How far pressing turns a fold from where it would rest, radians. From memory."""
PRESSED: dict[str, tuple[str, float, float]] = {
    "hot-glue": ("hot glue", 1.0, 5.0),
    "tape": ("strong double-sided tape", 0.5, 1.2),
}
"""What it is called, minutes it is held, and what it holds for good, N for every cm² of the disc. From memory: the
maker's label has the last word."""


def spring(ring: Ring, caliper: float) -> float:
    """What a ring pressed flat lifts its disc's rim with, N: n folds, each of the torque κ·w·Δ over one pleat, with
    κ = E t³/12 ÷ (150 t). An order of magnitude, no more."""
    stiffness = YOUNG * caliper**3 / 12 / (CREASED * caliper)
    return ring.panels * stiffness * ring.width * TURNED / ring.pitch


class Rosette(Lying):
    """n panels of pitch p: it lies flat where n·p ≥ 2π·R, R = hub + strip width; n must be even."""

    id = "rosette"
    name = "Rosette"
    about = "Strips pleated, joined into a ring, pressed flat on a disc, with a medallion and tails if you like."
    shelf = "Dress"
    footprint = ("diameter", "diameter")
    headline = ("diameter", "panels")
    starts: tuple[Start, ...] = ("size", "sheet")
    faces = (("medallion", "on the medallion"),)
    parameters = (
        Parameter(
            "diameter", "Diameter", "length", "Rim to rim. Leave it open to work from strips.", "Rosette", 20.0, 900.0
        ),
        Parameter("strip-width", "Strip, width", "length", "From hub to rim.", "Strips", 6.0),
        Parameter("pleat", "Pleat", "length", "From score to score; narrower for small ones.", "Strips", 3.0, 60.0),
        Parameter("strips", "Strips", "count", "How many are joined.", "Strips", 1, MOST_STRIPS),
        Parameter("strip-length", "Strip, length", "length", "Of one strip as cut.", "Strips", 20.0),
        Parameter(
            "print-margin",
            "Unprinted margin",
            "length",
            "White at each end of a strip that must go.",
            "Strips",
            most=60.0,
        ),
        Parameter("hub", "Hub", "length", "Radius of the hole; the sheets themselves need some.", "Rosette", 0.0),
        Parameter(
            "medallion",
            "Medallion",
            "length",
            "Diameter of the round in the middle; 0 for none.",
            "Rosette",
            most=600.0,
        ),
        Parameter("tails", "Tails", "count", "Ribbons of paper with a V cut, below.", "Rosette", 0, 3, default=0),
        Parameter("tail-width", "Tail, width", "length", "Side to side.", "Rosette", 6.0),
        Parameter("tail-length", "Tail, length", "length", "From the middle to the points.", "Rosette", 20.0),
        Parameter(
            "press",
            "Hold with",
            "word",
            "What keeps it on its disc: its spring is strong.",
            "Rosette",
            words=("hot-glue", "tape"),
            default="hot-glue",
        ),
        Parameter("panels", "Panels", "count", "In the ring; even, or two mountains meet.", "Worked out", derived=True),
        Parameter("each", "Panels a strip", "count", "Before joining.", "Worked out", derived=True),
        Parameter(
            "trim", "Panels to cut away", "count", "So that the ring keeps alternating.", "Worked out", derived=True
        ),
        Parameter(
            "fullness",
            "Fullness, percent",
            "count",
            "Ring length over the rim; 170 to 220 is good.",
            "Worked out",
            derived=True,
        ),
        Parameter("rim-thick", "Thick at the rim", "length", "When pressed flat.", "Worked out", derived=True),
        Parameter("hub-thick", "Thick at the hub", "length", "When pressed flat.", "Worked out", derived=True),
        Parameter("disc", "Disc", "length", "Diameter of the round it is glued on.", "Worked out", derived=True),
    )

    def size(self, situation: Situation) -> dict[str, Sized]:
        """Ring, hub, disc. Raises ParameterError where a ring cannot close or cannot lie flat."""
        s, given = situation, situation.given
        from_strips = "diameter" not in given and ("strip-width" in given or "strips" in given)
        sizes = self._of_strips(s) if from_strips else self._of_diameter(s)
        margin = length_of(given, "print-margin", 0.0)
        sizes["print-margin"] = margin
        ring = self._ring(sizes)
        if ring.fullness < FLAT - 1e-9:
            most = ring.length / (2 * math.pi)
            raise ParameterError(
                f"{ring.panels} panels of {told(ring.pitch)} make {told(ring.length)}: too few to lie flat about "
                f"a rim of {told(2 * ring.radius)}.",
                "Strips",
                f"Join more strips, or make it {told(2 * most)} across or less.",
            )
        sizes["fullness"] = Sized(round(100 * ring.fullness), "auto")
        sizes["rim-thick"] = Sized(ring.height(ring.radius), "auto")
        sizes["hub-thick"] = Sized(ring.height(ring.hub), "auto")
        least, most = 2 * ring.hub + inches(1 / 2), snap(2 * ring.radius, s.cut.grid, "down").value
        sizes["disc"] = down_to_cut(s, min(max(least, ring.radius), most), "auto")
        cover = snap(max(least, ring.radius * 0.7), s.cut.grid, "up").value
        sizes["medallion"] = length_of(given, "medallion", min(cover, most), "auto")
        within(sizes, "medallion", "Medallion", 2 * ring.radius, "the rosette")
        tails = given.get("tails")
        sizes["tails"] = Sized(0, "default") if tails is None or isinstance(tails, str) else Sized(int(tails), "given")
        sizes["tail-length"] = length_of(given, "tail-length", snap(1.6 * ring.radius, s.cut.grid, "up").value, "auto")
        slim = snap(0.3 * sizes["tail-length"].length, s.cut.grid, "nearest").value
        sizes["tail-width"] = length_of(given, "tail-width", slim, "auto")
        if sizes["tail-width"].length > 1.9 * sizes["tail-length"].length:
            raise ParameterError(
                f"A tail of {told(sizes['tail-width'].length)} across is all V.", "Tail, width",
                f"Give {at_most(1.9 * sizes['tail-length'].length)}.",
            )  # fmt: skip
        sizes["press"] = word_of(given, "press", "hot-glue")
        return sizes

    @staticmethod
    def _ring(sizes: Sizes) -> Ring:
        pitch, width = sizes["pleat"].length, sizes["strip-width"].length
        return Ring(int(sizes["panels"].length), pitch, width, sizes["hub"].length)

    @staticmethod
    def _at_hand(s: Situation, pitch: float) -> tuple[Sized, int]:
        """A strip, by default as long as the sheet, and the whole pleats it gives beside a printed margin."""
        sheet = s.paper.sheet
        length = length_of(s.given, "strip-length", max(sheet.usable_width, sheet.usable_height))
        margin = given_length(s.given, "print-margin") or 0.0
        each = int((length.length - 2 * margin + 1e-6) // pitch)
        if each < 4:
            raise ParameterError(
                f"A strip gives {'one pleat' if each == 1 else f'{each} pleats'}: a ring is of more.",
                "Strip, length",
                "Take longer strips or narrower pleats.",
            )
        return length, each

    def _of_strips(self, s: Situation) -> dict[str, Sized]:
        """From the strips at hand."""
        given, t = s.given, s.paper.caliper
        pitch = length_of(given, "pleat", inches(1 / 2))
        width = length_of(given, "strip-width", inches(2))
        length, each = self._at_hand(s, pitch.length)
        strips = given.get("strips")
        if strips is not None and not isinstance(strips, str):
            count = Sized(int(strips), "given")
        else:
            goal = FULL * 2 * math.pi * (width.length + least_hub(60, t)) / pitch.length
            count = Sized(min(MOST_STRIPS, max(1, math.ceil(goal / (each - 1)))), "auto")
        n = joined(int(count.length), each)
        trim = 0 if keeps_alternating(n) else 1
        panels = n - trim
        hub = length_of(given, "hub", snap(least_hub(panels, t), 0.1, "up").value, "auto")
        return {
            "strip-width": width, "pleat": pitch, "strip-length": length, "strips": count,
            "panels": Sized(panels, "auto"), "each": Sized(each, "auto"), "trim": Sized(trim, "auto"),
            "hub": hub, "diameter": Sized(2 * (width.length + hub.length), "auto"),
        }  # fmt: skip

    def _of_diameter(self, s: Situation) -> dict[str, Sized]:
        """From the diameter wanted, or the face it lies on."""
        given = s.given
        if (own := given_length(given, "diameter")) is not None:
            across = Sized(own, "given")
        elif s.room is not None:
            across = down_to_cut(s, min(s.room.clear(0), s.room.clear(1)) - inches(1 / 8), "fill")
            if across.length < LEAST:
                raise ParameterError(f"There is room for {told(across.length)}: too little for a rosette.", "Diameter")
        else:
            across = Sized(inches(4), "default")
        radius = across.length / 2
        usual = inches(1 / 2) if radius > inches(1.25) else inches(1 / 4)
        pitch = length_of(given, "pleat", usual, "auto")
        length, each = self._at_hand(s, pitch.length)
        wanted = given.get("strips")
        goal = 2 * math.ceil(FULL * math.pi * radius / pitch.length)
        if wanted is not None and not isinstance(wanted, str):
            count = Sized(int(wanted), "given")
            panels = joined(int(wanted), each)
        else:
            least = LEAN * 2 * math.pi * radius / pitch.length  # a strip more only for what looks lean without it
            count = Sized(max(1, math.ceil(least / (each - 1))), "auto")
            panels = min(goal, joined(int(count.length), each))
        trim = joined(int(count.length), each) - panels
        if not keeps_alternating(panels):
            panels, trim = panels - 1, trim + 1
        hub, strip = self._split(s, radius, panels)
        if strip.length < BEARS:
            raise ParameterError(
                f"The hub takes {told(2 * hub.length)} of {told(across.length)}: no strip is left.", "Diameter",
                "Make it larger, or take thinner paper or wider pleats.",
            )  # fmt: skip
        return {
            "diameter": across, "strip-width": strip, "pleat": pitch,
            "strip-length": length, "strips": count, "panels": Sized(panels, "auto"), "each": Sized(each, "auto"),
            "trim": Sized(trim, "auto"), "hub": hub,
        }  # fmt: skip

    @staticmethod
    def _split(s: Situation, radius: float, panels: int) -> tuple[Sized, Sized]:
        """Hub and strip width that make up a radius: the strip on the trimmer's grid, the hub takes what is left.

        Raises ParameterError where hub and strip are given and do not make up the diameter, or leave the sheets no hub.
        """
        own, wide = given_length(s.given, "hub"), given_length(s.given, "strip-width")
        least = panels * s.paper.caliper / (2 * math.pi)
        if wide is not None:
            rest = radius - wide
            if own is not None and abs(own - rest) > 0.05:
                raise ParameterError(
                    f"A hub of {told(own)} and a strip of {told(wide)} make {told(2 * (own + wide))} across, not "
                    f"{told(2 * radius)}.",
                    "Diameter",
                    "Leave one of the three open.",
                )
            if rest < least:
                raise ParameterError(
                    f"A strip of {told(wide)} leaves {told(max(rest, 0.0))} for the hub of a rosette "
                    f"{told(2 * radius)} across; the sheets need {told(least)}.",
                    "Strip, width",
                    "Make the strip narrower, or leave the diameter open.",
                )
            return Sized(rest, "given" if own is not None else "auto"), Sized(wide, "given")
        if own is not None:
            return Sized(own, "given"), Sized(radius - own, "auto")
        usual = snap(least_hub(panels, s.paper.caliper), 0.1, "up").value
        strip = down_to_cut(s, radius - usual, "auto")
        return Sized(radius - strip.length, "auto"), strip

    @staticmethod
    def _under(s: Situation, sizes: Sizes) -> float:
        """What tails between disc and ring add, mm: they fan out, but all cross in the middle."""
        return (s.paper.caliper + s.glue) * sizes["tails"].length

    def thickness(self, s: Situation, sizes: Sizes) -> Span:
        """Disc, pleats at the hub, medallion and what is on it."""
        t, round_ = s.paper.caliper, t_of(sizes, s)
        pleats = span("disc", t).plus(Term("pleats at the hub", sizes["hub-thick"].length + t))
        return pleats.plus(
            Term("medallion", round_),
            Term("tails", self._under(s, sizes)),
            Term("glue", (2 if round_ else 1) * s.glue),
            *bulks(s, "on the medallion", "medallion"),
        )

    def rooms(self, situation: Situation, sizes: Sizes) -> dict[str, Room]:
        """The medallion: a stacked rosette, a photo or a mat sits there."""
        across = sizes["medallion"].length
        if across < BEARS:
            return {}
        side = across / math.sqrt(2)
        return {
            "medallion": face_room(
                side,
                side,
                situation.paper.caliper,
                situation.element,
                ("medallion", "medallion"),
                "medallion",
                (1 / math.sqrt(2), 1 / math.sqrt(2)),
            )
        }

    def _strip(self, s: Situation, sizes: Sizes, ring: Ring, count: int, first: int, name: str) -> Piece:
        parts = [(f"pleat-{k + 1}", f"pleat {k + 1}", ring.pitch) for k in range(count)]
        folds = [Fold(a[0], b[0], math.pi if (first + k) % 2 else -math.pi) for k, (a, b) in enumerate(pairwise(parts))]
        flip = strips_must_flip(int(sizes["each"].length)) and not s.paper.two_sided and sizes["strips"].length > 1
        note = "Score every pleat, fold to and fro, join panel on panel. "
        note += "Turn every second strip over: its back shows. " if flip else ""
        note += "Its spring is strong: hold it down until it has set. "
        note += "Hot glue burns." if sizes["press"].value == "hot-glue" else "Use strong tape."
        return build_piece(
            f"{s.element}.{name}", f"{s.name}, strip", s.paper, row(parts, 0.0, ring.width), folds, note=note
        )

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        """Disc below, the ring, the medallion on the hub, tails under all."""
        s, e, t = situation, situation.element, situation.paper.caliper
        ring = self._ring(sizes)
        radius = sizes["disc"].length / 2
        disc = build_piece(f"{e}.disc", f"{s.name}, disc", s.paper, [Panel("disc", "disc", _circle(radius))])
        pieces, instances = [disc], [Instance("disc", disc.id, Root("disc", (radius, radius)))]
        placed, strips, each = 0, int(sizes["strips"].length), int(sizes["each"].length)
        on = Attach("disc", "disc", (radius, radius), (0.0, 1.0), 1, t + s.glue + self._under(s, sizes))
        made: dict[tuple[int, int], int] = {}
        for k in range(strips):
            count = each - 1 if k < strips - 1 else ring.panels - placed
            if count <= 0:
                break
            shown = count + 1  # every join overlaps one panel, the one that closes the ring too
            kind = (shown, placed % 2)
            if kind in made:
                pieces[made[kind]] = replace(pieces[made[kind]], quantity=pieces[made[kind]].quantity + 1)
            else:
                made[kind] = len(pieces)
                pieces.append(self._strip(s, sizes, ring, shown, placed, f"strip-{len(made)}"))
            piece = pieces[made[kind]]
            shape = PleatedRing(ring, placed)
            instances.append(Instance(f"strip-{k + 1}", piece.id, Root("pleat-1", (0.0, 0.0)), on, shape))
            placed += count
        across = sizes["medallion"].length
        mounts: list[Mount] = []
        high = sizes["hub-thick"].length + 2 * t + 2 * s.glue + self._under(s, sizes)
        if across >= BEARS:
            pieces.append(build_piece(f"{e}.medallion", f"{s.name}, medallion", s.paper,
                                      [Panel("medallion", "medallion", _circle(across / 2))]))  # fmt: skip
            over = Attach("disc", "disc", (radius, radius), (0.0, 1.0), 1, high)
            instances.append(Instance("medallion", f"{e}.medallion", Root("medallion", (across / 2, across / 2)), over))
            half = across / math.sqrt(2) / 2
            outline = ((-half, -half), (half, -half), (half, half), (-half, half))
            middle = (across / 2, across / 2)
            mounts.append(
                Mount("medallion", "on the medallion", "medallion", "medallion", 1, middle, (0.0, 1.0), outline, t / 2)
            )
        if sizes["tails"].length:
            tail, tails = self._tails(s, sizes, radius)
            pieces.append(tail)
            instances += tails
        return Part(
            e,
            s.name,
            tuple(pieces),
            tuple(instances),
            tuple(mounts),
            gaps=tuple(self._gaps(s, sizes, ring, pieces)),
            joints=_joins(pieces, instances, str(sizes["press"].value)),
            strain=self._strain(s, sizes, ring),
            hints=_ring_first(strips),
        )

    @staticmethod
    def _strain(s: Situation, sizes: Sizes, ring: Ring) -> Strain:
        """What its folds spring back with, pressed flat, against what holds it on its disc, N."""
        springs = spring(ring, s.paper.caliper)
        holds = PRESSED[str(sizes["press"].value)][2] * math.pi * (sizes["disc"].length / 20) ** 2
        hot = sizes["press"].value == "hot-glue"
        better = "a larger disc and thinner paper" if hot else "hot glue, or thinner paper"
        return Strain(springs, holds, f"Hold it with {better}; a weight on it overnight takes some of its spring.")

    @staticmethod
    def _tails(s: Situation, sizes: Sizes, radius: float) -> tuple[Piece, list[Instance]]:
        """Tails fan out below, behind the ring; the V is cut into their foot."""
        length, n = sizes["tail-length"].length, int(sizes["tails"].length)
        wide = sizes["tail-width"].length
        left = Panel("left", "tail", ((0.0, 0.0), (wide / 2, wide / 2), (wide / 2, length), (0.0, length)))
        right = Panel("right", "tail", ((wide / 2, wide / 2), (wide, 0.0), (wide, length), (wide / 2, length)))
        tail = build_piece(
            f"{s.element}.tail", f"{s.name}, tail", s.paper, [left, right], [Fold("left", "right", 0.0)], quantity=n,
            note="Cut a V into the foot.",
        )  # fmt: skip
        copies = []
        for k in range(n):
            turn = (k - (n - 1) / 2) * 0.45
            on = Attach(
                "disc",
                "disc",
                (radius, radius),
                (math.sin(turn), math.cos(turn)),
                1,
                (s.paper.caliper + s.glue) * (k + 1),
            )
            copies.append(Instance(f"tail-{k + 1}", tail.id, Root("left", (wide / 2, length)), on, limp=True))
        return tail, copies

    @staticmethod
    def _gaps(s: Situation, sizes: Sizes, ring: Ring, pieces: list[Piece]) -> list[Gap]:
        e, t = s.element, s.paper.caliper
        rim = 2 * math.pi * ring.radius
        circle = Term("circle of the rim", -rim)
        if "diameter" not in s.given and "strip-width" in s.given and "strips" in s.given:
            circle = lever_term("circle of the rim", -rim, e, "strip-width", -2 * math.pi)
        spare = span("panels", ring.length).plus(circle)
        hub = span("hub", ring.hub, e, "hub").plus(Term("sheets at the hub", -ring.panels * t / (2 * math.pi)))
        gaps = [
            fit_gap(s, uses.RING, (f"{s.name}, pleats", "rim"), spare, ((WARN - 1) * rim, 4 * rim)),
            fit_gap(s, uses.SPARE, (f"{s.name}, hub", "sheets"), hub),
        ]
        sheet = max(pieces[1:], key=lambda p: p.size[0], default=None)
        if sheet is not None:
            gaps.append(
                sheet_gap(e, sheet.name, s.paper, sheet.size,
                          (span("pleats", sheet.size[0]).terms, span("strip", ring.width, e, "strip-width").terms))
            )  # fmt: skip
        if sizes["medallion"].length:
            cover = span("medallion", sizes["medallion"].length, e, "medallion").plus(Term("hub", -2 * ring.hub))
            gaps.append(fit_gap(s, uses.SPARE, (f"{s.name}, medallion", "hub"), cover))
        return gaps


def _ring_first(strips: int) -> tuple[Hint, ...]:
    """Strips are joined, the ring is closed, pressed flat on its disc, and the medallion holds it down."""
    acts = [*(f"join {k}" for k in range(1, strips)), "close the ring", "on the disc"]
    words = "the ring is joined before it is pressed flat on its disc"
    return tuple(Hint(a, b, words) for a, b in pairwise(acts))


def _joins(pieces: Sequence[Piece], instances: Sequence[Instance], press: str) -> tuple[Joint, ...]:
    """Strip on strip, panel on panel; the last join closes the ring."""
    last = {piece.id: piece.panels[-1].name for piece in pieces}
    strips = [(one.id, last[one.piece]) for one in instances if one.shape is not None]
    joints = [Joint((b, "pleat-1"), a, act=f"join {k + 1}") for k, (a, (b, _)) in enumerate(pairwise(strips))]
    hot = press == "hot-glue"
    caution = "Hot glue and its nozzle burn: press with a folder, fingers away." if hot else ""
    joints += [
        Joint((name, "pleat-1"), ("disc", "disc"), act="on the disc", by=PRESSED[press][0], hold=PRESSED[press][1],
              caution=caution)
        for name, _ in strips
    ]  # fmt: skip
    joints.append(
        Joint(strips[-1], (strips[0][0], "pleat-1"), act="close the ring", label="panel on panel: it closes the ring")
    )
    if any(one.id == "medallion" for one in instances):
        over = ("medallion", "medallion")
        joints += [Joint(over, ("disc", "disc"), "free"), Joint(over, (strips[0][0], "pleat-1"), label="on the hub")]
    return tuple(joints)


def t_of(sizes: Sizes, s: Situation) -> float:
    """The medallion's thickness, mm; nothing where there is none."""
    return s.paper.caliper if sizes["medallion"].length >= BEARS else 0.0


FAMILY = Rosette()
