"""Board cover: boards on a covering sheet with hinge gaps, turn-ins and mitres, lined in one or two leaves."""

from __future__ import annotations

import math
from collections.abc import Mapping
from itertools import pairwise

from msgspec.structs import replace

from yawning_lantern.assembly import Attach, Gap, Instance, Joint, Part, Room, Root, Span, Swing, Term, span, uses
from yawning_lantern.errors import ParameterError
from yawning_lantern.measure import inches, snap, told
from yawning_lantern.pattern import Fold, Panel, Piece, ScoreFlag, Slit, build_piece, rectangle
from yawning_lantern.structures.kit.around import AROUND, around_mount, around_room
from yawning_lantern.structures.kit.boards import board_of
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, Sizes, Start, fact
from yawning_lantern.structures.kit.lying import Lying, bulks, extent, face_mount, fit_gap, usual_length
from yawning_lantern.structures.kit.over_edge import through
from yawning_lantern.structures.kit.shell import lever_term
from yawning_lantern.structures.kit.solving import face_room, length_of, sheet_gap, word_of

TURN_IN, LEAST_TURN_IN = inches(1), inches(5 / 8)
"""Turn-in, and the least that holds, mm. Common practice, no source."""
CORNER = inches(1 / 8)
"""How far a mitre stays clear of the board's corner, beside the board's thickness, mm. Common practice, no source."""
ABOUT = 0.05
"""How much a hinge gap may fall short, mm: an eighth suits boards of 1.6. Common practice, no source."""
BOARD = 1.5
"""A usual board, mm. Common practice, no source."""


class BoardCover(Lying):
    """Covering sheet = boards + gaps + two turn-ins; a hinge gap is at least twice the board's thickness."""

    id = "board-cover"
    name = "Board cover"
    about = "Two boards and a spine on a covering sheet, hinged by gaps, lined inside: for what must last."
    shelf = "Books"
    footprint = ("outside-width", "board-height")
    levers = ("board-width", "board-height")
    headline = ("board-width", "board-height", "spine")
    starts: tuple[Start, ...] = ("size", "contents", "sheet")
    faces = (
        ("front", "front board, outside"),
        ("back", "back board, outside"),
        ("inside-front", "front board, inside"),
        ("inside-back", "back board, inside"),
        ("inside-spine", "spine, inside"),
        (AROUND, "around it, shut"),
    )
    parameters = (
        Parameter("board-width", "Board, width", "length", "Of one board.", "Boards", 20.0),
        Parameter("board-height", "Board, height", "length", "Foot to head.", "Boards", 20.0),
        Parameter(
            "spine", "Spine", "length", "Width of the spine board; from what lies inside if left open.", "Boards", 2.0
        ),
        Parameter("board", "Board, thickness", "length", "Of the boards.", "Boards", 0.3, 5.0, default=BOARD),
        Parameter("gap", "Hinge gap", "length", "Between spine and board; twice the board at least.", "Cover", 0.5),
        Parameter("turn-in", "Turn-in", "length", "What is folded over the edges.", "Cover", 5.0, default=TURN_IN),
        Parameter(
            "liner",
            "Liner",
            "word",
            "One leaf with slack over the hinges, or one for each board.",
            "Cover",
            words=("two", "one"),
            default="two",
        ),
        Parameter(
            "liner-border",
            "Liner, border",
            "length",
            "What stays free of a board all round.",
            "Cover",
            0.0,
            40.0,
            default=inches(1 / 16),
        ),
        fact("content-height", "Thickness inside", "What lies between the boards.", "Contents", 0.0),
        Parameter("cover-width", "Covering sheet, width", "length", "To cut.", "Cover", derived=True),
        Parameter("cover-height", "Covering sheet, height", "length", "To cut.", "Cover", derived=True),
        Parameter("mitre", "Mitre", "length", "Cut off each corner, along both edges.", "Cover", derived=True),
        Parameter(
            "slack",
            "Liner, slack",
            "length",
            "How much of one liner folds into each hinge as it shuts.",
            "Cover",
            derived=True,
        ),
        Parameter("outside-width", "Shut, width", "length", "Board, gap and spine.", "Boards", derived=True),
    )

    def size(self, situation: Situation) -> dict[str, Sized]:
        """Boards, gaps and covering sheet. Raises ParameterError where the boards vanish."""
        s = situation
        board = length_of(s.given, "board", BOARD)
        inner = max(s.bulk_on("inside-front") + s.bulk_on("inside-back"), s.bulk_on("inside-spine"))
        inside = length_of(s.given, "content-height", inner)
        grid = s.cut.grid
        gap = length_of(s.given, "gap", max(inches(1 / 8), snap(2 * board.length - ABOUT, grid, "up").value), "auto")
        spine = inside.length - self._clear(s, gap.length, board.length)
        high = extent(s, "board-height", 1, inches(6))
        if "board-width" in s.given:
            wide = length_of(s.given, "board-width", 0.0)
        else:
            whole = extent(s, "outside-width", 0, inches(4.5) + self._stands_out(s, gap.length))
            wide = Sized(snap(whole.length - self._stands_out(s, gap.length), grid, "down").value, whole.origin)
        least = min(wide.length, high.length)
        if least < 2 * LEAST_TURN_IN:
            raise ParameterError(
                f"On boards of {told(max(least, 0.0))} turn-ins of {told(LEAST_TURN_IN)} meet: less does not hold.",
                "Boards", "Make them larger.",
            )  # fmt: skip
        sizes = {
            "board": board,
            "gap": gap,
            "spine": length_of(s.given, "spine", max(snap(spine, grid, "up").value, inches(1 / 4)), "auto"),
            "turn-in": usual_length(s, "turn-in", TURN_IN, least / 2, scored=True),
            "liner": word_of(s.given, "liner", "two"),
            "liner-border": length_of(s.given, "liner-border", inches(1 / 16)),
            "board-height": high,
        }
        if "content-height" in s.given:
            sizes["content-height"] = inside
        sizes["board-width"] = wide
        if least - 2 * sizes["liner-border"].length < 10.0:
            raise ParameterError("Its border leaves no liner.", "Liner, border", "Make it narrower.")
        w, h, apart, turn = (sizes[n].length for n in ("board-width", "board-height", "gap", "turn-in"))
        sizes["cover-width"] = Sized(2 * w + sizes["spine"].length + 2 * apart + 2 * turn, "auto")
        sizes["cover-height"] = Sized(h + 2 * turn, "auto")
        sizes["mitre"] = Sized(max(2 * turn - (CORNER + board.length) * math.sqrt(2), 0.0) if turn else 0.0, "auto")
        if sizes["liner"].value == "one":
            sizes["slack"] = Sized(self._slack(s, apart, board.length), "auto")
        shut = w + self._stands_out(s, apart)
        sizes["outside-width"] = Sized(shut, sizes["board-width"].origin)
        return sizes

    @staticmethod
    def _stands_out(s: Situation, gap: float) -> float:
        """How far the spine stands out beyond the boards when shut, mm."""
        return gap / math.sqrt(2) + s.paper.caliper

    @staticmethod
    def _slack(s: Situation, gap: float, board: float) -> float:
        """How much nearer the inner edges of board and spine are when it is shut than when it lies open, mm: the gap
        then stands at 45° to both, and the edges lie so far within it as board, glue and half a sheet are thick."""
        deep = s.paper.caliper / 2 + s.glue + board
        return gap - math.sqrt(2) * abs(gap / math.sqrt(2) - deep)

    @staticmethod
    def _clear(s: Situation, gap: float, board: float) -> float:
        """What the hinge gaps add to the spine's width between the liners, mm: each gap stands at 45° when shut. Either
        board is glued to the sheet, two turn-ins on it, and a liner on those."""
        return math.sqrt(2) * gap - 2 * board - 7 * s.paper.caliper - 8 * s.glue

    def thickness(self, s: Situation, sizes: Sizes) -> Span:
        """The spine between two hinge gaps at 45°, and the covering sheet."""
        gap = sizes["gap"].length
        spine = span("spine", sizes["spine"].length, s.element, "spine")
        return spine.plus(
            Term("hinge gaps", math.sqrt(2) * gap),
            Term("sheet", s.paper.caliper),
            *bulks(s, "bulk outside", "front", "back"),
        )

    def rooms(self, situation: Situation, sizes: Sizes) -> dict[str, Room]:
        """Both boards inside, the spine, the front; around it where it lies on nothing."""
        s, e, t = situation, situation.element, situation.paper.caliper
        w, h, spine = (sizes[n].length for n in ("board-width", "board-height", "spine"))
        gaps = self._clear(s, sizes["gap"].length, sizes["board"].length)
        clear = span("spine", spine, e, "spine").plus(Term("hinge gaps, boards and liners", gaps))
        levers = ("board-width", "board-height")
        other = {"inside-front": s.bulk_on("inside-back"), "inside-back": s.bulk_on("inside-front")}
        rooms = {"front": face_room(w, h, t, e, levers, "board")}
        for name, eaten in other.items():
            left = clear.plus(Term("on the other board", -eaten))
            rooms[name] = replace(face_room(w, h, t, e, levers, "board"), height=left)
        rooms["inside-spine"] = face_room(spine, h, t, e, ("spine", "board-height"), "spine")
        if s.room is None:
            reach = span("half the shut cover", sizes["outside-width"].length / 2, e, "board-width", 0.5)
            rooms["back"] = face_room(w, h, t, e, levers, "board")
            thick, half = self.thickness(s, sizes), (w / 2 + t, h / 2 + t)  # turn-ins go around the edges
            for face, far in (("front", "back"), ("back", "front")):
                edges = through(s, thick, *half, (face, far), behind=face == "back")
                rooms[face] = replace(rooms[face], through=edges)
            rooms[AROUND] = around_room(reach, self.thickness(s, sizes), (sizes["outside-width"].length, h), t)
        return rooms

    def _cover(self, s: Situation, sizes: Sizes) -> Piece:
        """The covering sheet: its inside up, boards lie on it, turn-ins folded over them."""
        w, h, gap, turn, spine = (sizes[n].length for n in ("board-width", "board-height", "gap", "turn-in", "spine"))
        t, board, glue = s.paper.caliper, sizes["board"].length, s.glue
        x = (
            turn,
            turn + w,
            turn + w + gap,
            turn + w + gap + spine,
            turn + w + 2 * gap + spine,
            turn + 2 * w + 2 * gap + spine,
        )
        y0, y1 = turn, turn + h
        names = ("front", "gap-front", "spine", "gap-back", "back")
        labels = ("front board", "hinge gap", "spine", "hinge gap", "back board")
        panels = [
            Panel(n, label, rectangle(a, y0, b, y1))
            for n, label, a, b in zip(names, labels, x[:-1], x[1:], strict=True)
        ]
        folds = [Fold(a, b, math.pi / 4) for a, b in pairwise(names)]
        # the mitre runs at 45° so far from the board's corner: what it leaves of the corner square is tucked in
        near = min((CORNER + board) * math.sqrt(2), turn * 0.9)
        inset = min(turn - near, 0.45 * h, 0.9 * w)
        for name, foot, edge in (("front", x[0], 0.0), ("back", x[5], x[5] + turn)):
            way = 1.0 if edge > foot else -1.0
            sides = (
                (foot, y0), (foot + way * near, y0), (edge, y0 + inset), (edge, y1 - inset), (foot + way * near, y1),
                (foot, y1),
            )  # fmt: skip
            panels.append(Panel(f"turn-{name}", "turn-in", sides if way > 0 else tuple(reversed(sides))))
            folds.append(Fold(name, f"turn-{name}", math.pi, wrap=board + t + 3 * glue))  # over those of head and foot
            for end, y, up in (("foot", y0, -1.0), ("head", y1, 1.0)):
                tuck = ((foot, y), (foot + way * near, y), (foot, y + up * near))
                panels.append(
                    Panel(f"tuck-{name}-{end}", "", tuck if way * up > 0 else tuple(reversed(tuck)), soft=True)
                )
                folds.append(Fold(f"turn-{name}", f"tuck-{name}-{end}", math.pi, scored=False))
        for name, a, b in (("front", x[0], x[1]), ("back", x[4], x[5])):
            at = x[0] if name == "front" else x[5]
            for end, foot, edge in (("foot", y0, 0.0), ("head", y1, y1 + turn)):
                inward, up = (1.0 if name == "front" else -1.0), (1.0 if edge > foot else -1.0)
                mitre = [(at, foot + up * near), (at + inward * inset, edge)]
                far = [(a, foot), (b, foot), (b, edge), *reversed(mitre)] if name == "front" else [
                    (a, foot), (b, foot), *mitre, (a, edge)
                ]  # fmt: skip
                shape = tuple(far) if edge > foot else tuple(reversed(far))
                panels.append(Panel(f"turn-{name}-{end}", "turn-in", shape))
                folds.append(Fold(name, f"turn-{name}-{end}", math.pi, wrap=board + 2 * glue))
        for end, foot, edge in (("foot", y0, 0.0), ("head", y1, y1 + turn)):
            shape = rectangle(x[2], min(foot, edge), x[3], max(foot, edge))
            panels.append(Panel(f"turn-spine-{end}", "turn-in", shape))
            folds.append(Fold("spine", f"turn-spine-{end}", math.pi, wrap=board + 2 * glue))
        for k, (a, b) in enumerate(((x[1], x[2]), (x[3], x[4]))):
            for end, lo, hi in (("foot", 0.0, y0), ("head", y1, y1 + turn)):
                name = ("gap-front", "gap-back")[k]
                panels.append(Panel(f"turn-{name}-{end}", "turn-in", rectangle(a, lo, b, hi), soft=True))
                folds.append(Fold(name, f"turn-{name}-{end}", math.pi, wrap=t))
        flags = (ScoreFlag("x", x[0], "turn-in", 1.0), ScoreFlag("x", x[1], "board-width", 1.0))
        slits = []
        for end in ("foot", "head"):
            row_names = [f"turn-{n}-{end}" for n in names]
            slits += [Slit(a, b, cut=False) for a, b in pairwise(row_names)]
            slits += [Slit(f"turn-{name}-{end}", f"tuck-{name}-{end}", cut=False) for name in ("front", "back")]
        return build_piece(
            f"{s.element}.cover", f"{s.name}, covering sheet", s.paper.turned_over, panels, folds, slits=slits,
            flags=flags,
            note=f"Mitre each corner {told(CORNER + board)} clear of the board's corner, an eighth and the board's "
            "thickness; fold the turn-ins over, head and foot first, the corners tucked in.",
        )  # fmt: skip

    def build(self, situation: Situation, sizes: Sizes, rooms: Mapping[str, Room]) -> Part:
        """The back board lies on the host; the front one folds over on two hinge gaps about the spine."""
        s, e, t = situation, situation.element, situation.paper.caliper
        w, h, gap, turn, spine = (sizes[n].length for n in ("board-width", "board-height", "gap", "turn-in", "spine"))
        thick, stock = sizes["board"].length, board_of(s.paper, sizes["board"].length)
        cover = self._cover(s, sizes)
        boards = build_piece(
            f"{e}.board", f"{s.name}, board", stock, [Panel("board", "board", rectangle(0, 0, w, h))], quantity=2
        )
        back = build_piece(
            f"{e}.spine", f"{s.name}, spine board", stock, [Panel("board", "spine", rectangle(0, 0, spine, h))]
        )
        pieces, away = [cover, boards, back], t / 2 + thick / 2 + s.glue
        x_back, x_front, x_spine = turn + w + 2 * gap + spine, turn, turn + w + gap
        mid = turn + h / 2
        lies = Root("back", (x_back + (w - self._stands_out(s, gap)) / 2, mid), away=s.bulk_on("back"))
        instances = [Instance("cover", cover.id, lies)]
        for name, piece, panel, x, wide in (
            ("board-back", boards, "back", x_back, w), ("board-front", boards, "front", x_front, w),
            ("board-spine", back, "spine", x_spine, spine),
        ):  # fmt: skip
            on = Attach("cover", panel, (x + wide / 2, mid), (0.0, 1.0), 1, away)
            instances.append(Instance(name, piece.id, Root("board", (wide / 2, h / 2)), on))
        count = 2 if sizes["liner"].value == "two" else 1
        groove = 2 * thick if count == 1 else 0.0  # one liner goes down into every hinge and up again
        lined = (w, h) if count == 2 else (2 * w + 2 * gap + spine + 2 * groove, h)
        less = 2 * sizes["liner-border"].length
        liner = build_piece(
            f"{e}.liner",
            f"{s.name}, liner",
            s.paper,
            [Panel("liner", "liner", rectangle(0, 0, lined[0] - less, lined[1] - less))],
            quantity=count,
            note="One leaf for each board: it cannot buckle."
            if count == 2
            else f"Do not glue it taut: {told(sizes['slack'].length)} of it folds into each hinge as the cover shuts. "
            "Press it into the hinges with a folder, the cover half shut, and glue it there too.",
        )
        pieces.append(liner)
        if count == 2:
            for name in ("back", "front"):
                on = Attach(
                    f"board-{name}", "board", (w / 2, h / 2), (0.0, 1.0), 1, thick / 2 + t / 2 + 2 * t + 3 * s.glue
                )
                instances.append(
                    Instance(f"liner-{name}", liner.id, Root("liner", ((w - less) / 2, (h - less) / 2)), on)
                )
        swing = Swing("open", f"{s.name} opens", tuple(
            ("cover", f.name, 0.0) for f in cover.creases if not f.b.startswith("turn")
        ))  # fmt: skip
        leaves = (("liner-front", "liner"), ("liner-back", "liner")) if count == 2 else ()
        lying = stock.caliper + 6 * (t + s.glue)  # two turn-ins and the liner
        bare = stock.caliper + 2 * (t + s.glue) if count == 2 else lying  # of the spine head and foot alone are covered
        mounts = [
            face_mount("front", "front board, outside", "cover", cover.panel("front"), -1, t),
            face_mount(
                "inside-front", "front board, inside", "board-front", boards.panels[0], 1, lying, over=leaves[:1]
            ),
            face_mount("inside-back", "back board, inside", "board-back", boards.panels[0], 1, lying, over=leaves[1:]),
            face_mount(
                "inside-spine",
                "spine, inside",
                "board-spine",
                back.panels[0],
                1,
                bare,
                over=(("cover", "turn-spine-head"), ("cover", "turn-spine-foot")) if count == 2 else (),
            ),
        ]
        if s.room is None:
            mounts.append(face_mount("back", "back board, outside", "cover", cover.panel("back"), -1, t))
            outside = Panel(
                "front", "front", rectangle(x_front, turn, x_front + sizes["outside-width"].length, turn + h)
            )
            mounts.append(
                around_mount("cover", outside, -1, t + 2 * s.bulk_on("front"), (0.0, 1.0), (outside_width(sizes), h))
            )
        return Part(
            e,
            s.name,
            tuple(pieces),
            tuple(instances),
            tuple(mounts),
            (swing,),
            tuple(self._gaps(s, sizes, pieces)),
            joints=_turn_ins(count == 2),
        )

    def _gaps(self, s: Situation, sizes: Sizes, pieces: list[Piece]) -> list[Gap]:
        e, t = s.element, s.paper.caliper
        w, h, gap, turn, spine = (sizes[n].length for n in ("board-width", "board-height", "gap", "turn-in", "spine"))
        inner = s.bulk_on("inside-front") + s.bulk_on("inside-back")
        inner = max(
            inner, s.bulk_on("inside-spine"), sizes["content-height"].length if "content-height" in sizes else 0.0
        )
        cover = pieces[0]
        return [
            fit_gap(
                s, uses.SPARE, (f"{s.name}, hinge gap", "two boards"),
                span("gap", gap, e, "gap") - span("two boards", 2 * sizes["board"].length, e, "board", 2.0),
                (-ABOUT, inches(12)),
            ),
            fit_gap(
                s, uses.SPINE, (f"{s.name}, spine", "what lies inside"),
                span("spine", spine, e, "spine").plus(
                    Term("hinge gaps, boards and liners", self._clear(s, gap, sizes["board"].length)),
                    Term("inside", -inner),
                ), (-t, inches(12)),
            ),
            fit_gap(
                s,
                uses.SPARE,
                (f"{s.name}, turn-ins", "the board between them"),
                span("board", min(w, h), e, "board-width" if w < h else "board-height").plus(
                    lever_term("two turn-ins", -2 * turn, e, "turn-in", -2.0)
                ),
            ),
            fit_gap(
                s, uses.SPARE, (f"{s.name}, turn-in", "least turn-in"),
                span("turn-in", turn, e, "turn-in").plus(Term("least", -LEAST_TURN_IN)),
            ),
            sheet_gap(
                e, cover.name, s.paper, cover.size,
                (
                    (lever_term("boards", 2 * w, e, "board-width", 2.0), lever_term("spine", spine, e, "spine"),
                     lever_term("gaps", 2 * gap, e, "gap", 2.0), lever_term("turn-ins", 2 * turn, e, "turn-in", 2.0)),
                    (lever_term("board", h, e, "board-height"), lever_term("turn-ins", 2 * turn, e, "turn-in", 2.0)),
                ),
            ),
        ]  # fmt: skip


def outside_width(sizes: Sizes) -> float:
    """Width of the shut cover, mm."""
    return sizes["outside-width"].length


def _turn_ins(lined: bool) -> tuple[Joint, ...]:
    """The turn-ins on the boards: head and foot in one fold each, then the sides over their ends; liners over all."""
    joints = []
    for end in ("head", "foot"):
        joints += [
            Joint(("cover", f"turn-{name}-{end}"), (f"board-{name}", "board"), act=f"turn-{end}")
            for name in ("front", "spine", "back")
        ]
    for name in ("front", "back"):
        board, side, liner = (f"board-{name}", "board"), ("cover", f"turn-{name}"), (f"liner-{name}", "liner")
        ends = [("cover", f"turn-{name}-{end}") for end in ("head", "foot")]
        joints += [Joint(side, under, act=f"turn-{name}") for under in (board, *ends)]
        if lined:
            joints += [Joint(liner, under, act=f"liner-{name}") for under in (board, side, *ends)]
    return tuple(joints)


FAMILY = BoardCover()
