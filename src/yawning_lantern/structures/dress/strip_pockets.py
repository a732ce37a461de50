"""Strip pockets: strips that overlap, each a pocket; those behind are deep, since only their ends are glued."""

from __future__ import annotations

from collections.abc import Mapping

from yawning_lantern.assembly import (
    HOST,
    Attach,
    Instance,
    Joint,
    Mount,
    Part,
    Pocket,
    Room,
    Root,
    Span,
    Term,
    span,
    uses,
)
from yawning_lantern.errors import ParameterError
from yawning_lantern.measure import give_at_most, inches, told
from yawning_lantern.pattern import Panel, build_piece, rectangle
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes, Start, fact
from yawning_lantern.structures.kit.lying import Lying, count_of, extent, face_mount, fit_gap
from yawning_lantern.structures.kit.shell import lever_term
from yawning_lantern.structures.kit.solving import as_given, down_to_cut, face_room, given_length, length_of, sheet_gap

MOST = 5  # pockets at most
STRIP = inches(1 / 4)
"""What is glued at each end, and along the foot of the foremost, mm. Common practice, no source."""
LEAST_STEP = 4.0
"""Of a strip that shows less nothing can be drawn out, mm. From memory."""
PLAY = inches(1 / 8)
"""How much narrower what slides in is, mm. Common practice, no source."""


class StripPockets(Lying):
    """The hindmost strip is the uppermost; each next one lies over it a step lower. Only the foremost is glued along
    its foot, so that all pockets reach down to there."""

    id = "strip-pockets"
    name = "Strip pockets"
    about = "Overlapping strips glued at their ends: two pockets or more, the ones behind as deep as all together."
    shelf = "Dress"
    headline = ("width", "strips")
    starts: tuple[Start, ...] = ("size", "contents")
    footprint = ("width", "all")
    levers = ("width", "strip-height")
    faces = tuple((f"strip-{k}", f"strip {k}, from behind") for k in range(1, MOST + 1))
    parameters = (
        Parameter("width", "Width", "length", "Of every strip.", "Size", 20.0),
        Parameter("strips", "Strips", "count", "One behind the other.", "Strips", 2, MOST, default=2),
        Parameter("strip-height", "Strip, height", "length", "Of each.", "Strips", 12.0),
        Parameter("step", "Step", "length", "How much lower each next one lies, so much shows of the one behind.",
                  "Strips", LEAST_STEP),
        Parameter("end", "Glued ends", "length", "At each end, and along the foot of the foremost.", "Strips", 2.0,
                  30.0, default=STRIP),
        fact("content-width", "What slides in, width", "A tag or card.", "Contents", 6.0),
        fact("content-height", "What slides in, length", "Into the hindmost.", "Contents", 6.0),
        Parameter("all", "Height in all", "length", "Over all strips.", "Size", derived=True),
        Parameter("deepest", "Deepest pocket", "length", "Of the hindmost strip.", "Strips", derived=True),
    )  # fmt: skip

    def size(self, situation: Situation) -> dict[str, Sized]:
        """Strips and steps. Raises ParameterError where a step is as high as a strip, or glue leaves no pocket."""
        s, given = situation, situation.given
        end, n = length_of(given, "end", STRIP), count_of(s, "strips", 2)
        content = given_length(given, "content-width")
        auto = None if content is None else content + PLAY + 2 * end.length
        sizes = {"end": end, "strips": n, "width": extent(s, "width", 0, inches(4), auto)}
        high = extent(s, "strip-height", 1, inches(4), None)
        count = n.length
        share = down_to_cut(s, high.length / (count + 1), "fill").length if high.origin == "fill" else inches(1)
        if high.origin in ("fill", "default"):  # a strip of two steps over each step
            strip = 2 * share if high.origin == "fill" else inches(2)
            sizes["strip-height"] = Sized(strip, high.origin)
        else:
            sizes["strip-height"] = high
        sizes["step"] = length_of(given, "step", min(share, sizes["strip-height"].length / 2), "auto")
        strip, step = sizes["strip-height"].length, sizes["step"].length
        if step > strip - 2 * end.length:
            raise ParameterError(
                f"Steps of {told(step)} leave strips of {told(strip)} no overlap.", "Step",
                give_at_most(strip - 2 * end.length, LEAST_STEP, "Make the strips higher, or the glued ends narrower."),
            )  # fmt: skip
        sizes["all"] = Sized(strip + (count - 1) * step, "given" if high.origin == "given" else high.origin)
        sizes["deepest"] = Sized(sizes["all"].length - end.length, "auto")
        if sizes["width"].length - 2 * end.length < 8.0:
            raise ParameterError("The glue leaves no pocket.", "Glued ends", "Make them narrower, or the strips wider.")
        sizes |= as_given(given, "content-width", "content-height")
        return sizes

    def reaches(self, s: Situation, sizes: Sizes) -> tuple[Span, Span]:
        """Half the width, half of all heights."""
        n, e = int(sizes["strips"].length), s.element
        along = span("strip", sizes["strip-height"].length / 2, e, "strip-height", 0.5).plus(
            Term("steps", (n - 1) * sizes["step"].length / 2)
        )
        return span("strips", sizes["width"].length / 2, e, "width", 0.5), along

    def thickness(self, s: Situation, sizes: Sizes) -> Span:
        """The strips, one over the other, and what is on them."""
        n = int(sizes["strips"].length)
        sheet, flat = s.paper.caliper + s.glue, n * s.paper.caliper + (n - 1) * s.glue
        high = max(k * sheet - s.glue + s.bulk_on(f"strip-{k}") for k in range(1, n + 1))  # beside those before it
        return span("strips", flat).plus(Term("what stands above them", max(0.0, high - flat)))

    def rooms(self, situation: Situation, sizes: Sizes) -> dict[str, Room]:
        """What shows of every strip."""
        s, n, w = situation, int(sizes["strips"].length), sizes["width"].length
        shown = {k: "strip-height" if k == n else "step" for k in range(1, n + 1)}
        return {
            f"strip-{k}": face_room(w, sizes[high].length, s.paper.caliper, s.element, ("width", high), f"strip {k}")
            for k, high in shown.items()
        }

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        """Strip on strip, each a step lower."""
        s, e, t, g = situation, situation.element, situation.paper.caliper, situation.glue
        w, h, step, end = (sizes[n].length for n in ("width", "strip-height", "step", "end"))
        n, total = int(sizes["strips"].length), sizes["all"].length
        panel = Panel("strip", "strip", rectangle(0, 0, w, h))
        piece = build_piece(
            f"{e}.strip", f"{s.name}, strip", s.paper, [panel], quantity=n,
            note="Glue the ends only; of the foremost the foot too.",
        )  # fmt: skip
        # the whole lies about its middle: the first strip's head is its head
        middle = h - total / 2
        instances = [Instance("strip-1", piece.id, Root("strip", (w / 2, middle)))]
        ends = (rectangle(0, 0, end, h), rectangle(w - end, 0, w, h))
        joints = [Joint(("strip-1", "strip"), HOST, spots=ends, label="at its ends only: the pocket goes on below")]
        mounts: list[Mount] = []
        labels = dict(self.faces)
        pockets = []
        for k in range(1, n + 1):
            name = f"strip-{k}"
            if k > 1:
                up = (0.0, 1.0)
                on = Attach(f"strip-{k - 1}", "strip", (w / 2, 0.0), up, 1, t + g)
                instances.append(Instance(name, piece.id, Root("strip", (w / 2, step)), on))
                over = (rectangle(0, step, end, h), rectangle(w - end, step, w, h))
                where = "at its ends only" if k < n else "at its ends, and along its foot"
                joints.append(Joint((name, "strip"), (f"strip-{k - 1}", "strip"), spots=over, act=name, label=where))
                if k == n:
                    joints.append(Joint((name, "strip"), HOST, spots=(rectangle(end, 0, w - end, end),), act=name))
            low, high = (0.0, h) if k == n else (h - step, h)
            mounts.append(face_mount(name, labels[name], name, panel, 1, t, shape=(0.0, low, w, high)))
            pockets.append(Pocket(f"pocket {k}", (name,), "up", w - 2 * end, h + (n - k) * step - end))
        across, along = span("width", w, e, "width"), span("height", h, e, "strip-height")
        gaps = [
            sheet_gap(e, piece.name, s.paper, piece.size, (across.terms, along.terms)),
            fit_gap(
                s, uses.SPARE, (f"{s.name}, glue at the foot", "foremost strip"),
                along.plus(lever_term("glue", -2 * end, e, "end", -2.0), lever_term("step", -step, e, "step", -1.0)),
            ),
        ]  # fmt: skip
        if "content-width" in sizes:
            left = across.plus(lever_term("glued ends", -2 * end, e, "end", -2.0)) - span(
                "what slides in", sizes["content-width"].length
            )
            gaps.append(fit_gap(s, uses.POCKET, ("what slides in", f"{s.name}, across"), left, uses.SLIDES))
        return Part(
            e, s.name, (piece,), tuple(instances), tuple(mounts), gaps=tuple(gaps), pockets=tuple(pockets),
            joints=tuple(joints),
        )  # fmt: skip


FAMILY = StripPockets()
