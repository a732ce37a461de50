"""Drop ladder: trays that lie on one another and hang from alternating hinges when they are let down."""

from __future__ import annotations

import math
from collections.abc import Mapping

from msgspec.structs import replace

from yawning_lantern.assembly import Attach, Instance, Mount, Part, Room, Root, Span, Swing, Term, span
from yawning_lantern.measure import inches
from yawning_lantern.pattern import Fold, Panel, ScoreFlag, build_piece, rectangle
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes
from yawning_lantern.structures.kit.lying import SIZE_PARAMETERS, Lying, count_of, extent
from yawning_lantern.structures.kit.shell import FOLD_SHIFT, WALL_UP, corner_joints, lever_term, shell_piece
from yawning_lantern.structures.kit.solving import centred, face_room, length_of, positive, sheet_gap

MOST = 8  # boxes at most
LEAF = inches(1 / 2)
"""A leaf of a hinge strip, mm. Common practice, no source."""


class DropLadder(Lying):
    """Trays with their backs on one another; each hangs from the one before by a strip across their feet or heads."""

    id = "drop-ladder"
    name = "Drop ladder"
    about = "Shallow trays that lie on one another and drop down one below the other, on hinges that alternate."
    shelf = "Boxes"
    headline = ("width", "height", "trays")
    faces = tuple((f"tray-{k + 1}", f"tray {k + 1}, floor") for k in range(MOST))
    parameters = (
        Parameter("trays", "Trays", "count", "How many hang below one another.", "Size", 2, MOST, default=3),
        *SIZE_PARAMETERS,
        Parameter("tray-depth", "Tray, depth", "length", "Wall of a tray, score to edge.", least=3.0),
        Parameter("drop-length", "Reach when let down", "length", "Head of the first to foot of the last.", "Fall",
                  derived=True),
    )  # fmt: skip

    def size(self, situation: Situation) -> dict[str, Sized]:
        """Trays and how far they reach. Raises ParameterError where no tray can be folded."""
        s = situation
        inner = [max((g.wants(axis) or 0.0 for g in s.guests), default=0.0) for axis in (0, 1)]
        sizes = {"trays": count_of(s, "trays", 3)}
        t = s.paper.caliper
        for axis, name in enumerate(("width", "height")):
            auto = inner[axis] + 3 * t if inner[axis] else None
            sizes[name] = extent(s, name, axis, inches(3), auto)
        high = max((g.need.tall for g in s.guests), default=0.0)
        sizes["tray-depth"] = length_of(
            s.given, "tray-depth", max(inches(1 / 2), high + s.glue + t + inches(1 / 16)), "auto"
        )
        for name in ("width", "height", "tray-depth"):
            positive(sizes[name].length, f"tray's {name}", "Make it larger.")
        sizes["drop-length"] = Sized(sizes["trays"].length * (sizes["height"].length + t), "auto")
        return sizes

    def thickness(self, s: Situation, sizes: Sizes) -> Span:
        """Every tray's wall, and its floor."""
        n, t = sizes["trays"].length, s.paper.caliper
        walls = span("tray walls", n * sizes["tray-depth"].length, s.element, "tray-depth", n)
        return walls.plus(Term("floors", n * (t / 2 + FOLD_SHIFT * t)))

    def beyond(self, s: Situation, sizes: Sizes) -> tuple[float, float]:
        """Half a sheet and the folds' bend; hinge strips at foot and head."""
        wall = s.paper.caliper * (0.5 + FOLD_SHIFT)
        return wall, wall + s.paper.caliper + s.glue

    def rooms(self, situation: Situation, sizes: Sizes) -> dict[str, Room]:
        """The floor of each tray, as deep as its walls."""
        s, t = situation, situation.paper.caliper
        w, h, d = (sizes[n].length for n in ("width", "height", "tray-depth"))
        face = face_room(w - 3 * t, h - 3 * t, t, s.element, ("width", "height"), "tray floor")
        clear = span("tray wall", d, s.element, "tray-depth").plus(Term("half a sheet", -t / 2))
        return {f"tray-{k + 1}": replace(face, height=clear) for k in range(int(sizes["trays"].length))}

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        """Trays and hinge strips; odd trays open towards the eye, even ones towards the face they hang on."""
        s, e, t = situation, situation.element, situation.paper.caliper
        w, h, d, n = *(sizes[k].length for k in ("width", "height", "tray-depth")), int(sizes["trays"].length)
        flags = (ScoreFlag("x", d, "tray-depth", 1.0), ScoreFlag("y", d, "tray-depth", 1.0))
        tray = shell_piece(
            f"{e}.tray", f"{s.name}, tray", s.paper, ("base", "base"), (w, h, d), 1, "wall", flags, s.glue
        )
        tray = replace(tray, quantity=n)
        leaf = min(LEAF, d)
        strip = build_piece(
            f"{e}.hinge", f"{s.name}, hinge strip", s.paper,
            [
                Panel("upper", "upper leaf", rectangle(0, leaf, w, 2 * leaf)),
                Panel("lower", "lower leaf", rectangle(0, 0, w, leaf)),
            ],
            [Fold("upper", "lower", 1e-9)],
            quantity=n - 1,
            note="Score the middle on both faces: it lies flat when shut and folds back on itself when let down.",
        )  # fmt: skip
        middle = (d + w / 2, d + h / 2)
        instances = [Instance("tray-1", tray.id, Root("base", middle))]
        swings = []
        for k in range(1, n):
            mouths = k % 2 == 1  # mouth meets mouth: hinged at the rims, at the foot; else base on base, at the head
            # in its own frame every tray's head is up; turned over, the wall below is still its front wall
            wall = "front" if mouths else "back"
            # at the front wall's edge; at the back wall's foot, as far in as the underside of the base
            at = 0.0 if mouths else d + h - (0.5 + FOLD_SHIFT) * t
            out = WALL_UP[wall]
            up = out if mouths else (-out[0], -out[1])  # away from the tray that carries
            away = t + s.glue
            instances.append(
                Instance(
                    f"hinge-{k}", strip.id, Root("upper", (w / 2, leaf), (0.0, -1.0)),
                    Attach(f"tray-{k}", f"wall-{wall}", (middle[0], at), up, -1, away),
                )
            )  # fmt: skip
            instances.append(
                Instance(
                    f"tray-{k + 1}", tray.id, Root(f"wall-{wall}", (middle[0], at), up, -1),
                    Attach(f"hinge-{k}", "lower", (w / 2, leaf), (0.0, 1.0), -1, away),
                )
            )  # fmt: skip
            swings.append(
                Swing(f"drop-{k}", f"tray {k + 1} of {s.name} drops", ((f"hinge-{k}", "upper/lower", math.pi * 0.995),))
            )
        up = (0.0, 1.0)
        mounts = [
            Mount(f"tray-{k + 1}", f"tray {k + 1}, floor", f"tray-{k + 1}", "base", 1, middle, up, centred(w, h), t / 2)
            for k in range(n)
        ]
        gaps = [
            sheet_gap(
                e, tray.name, s.paper, tray.size,
                tuple(
                    (lever_term(k, sizes[k].length, e, k), lever_term("two walls", 2 * d, e, "tray-depth", 2.0))
                    for k in ("width", "height")
                ),
            )
        ]  # fmt: skip
        return Part(
            e,
            s.name,
            (tray, strip),
            tuple(instances),
            tuple(mounts),
            tuple(reversed(swings)),
            tuple(gaps),
            joints=tuple(j for k in range(n) for j in corner_joints(f"tray-{k + 1}")),
        )


FAMILY = DropLadder()
