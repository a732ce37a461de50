"""Draws the pictures of docs/add-a-structure.md from folded structures: `.venv/bin/python docs/words.py`."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from html import escape
from pathlib import Path

from yawning_lantern.design import Design, Element, Place, add_guest, set_stock
from yawning_lantern.fold import opening_state, pose
from yawning_lantern.fold.pose import corners, facets
from yawning_lantern.fold.section import Cut, cut_through
from yawning_lantern.structures import start_design
from yawning_lantern.study import Study

HERE = Path(__file__).parent / "words"
INK, FAINT, LAMP, WORKED, TABLE = "#2b2640", "#6c6478", "#b8432f", "#2c6468", "#e4dcca"
PAPERS = ("#c9b48a", "#8fb0b0", "#d59a86", "#a9a3c4")
WIDE, HIGH = 720, 260
Point = tuple[float, float]


class Picture:
    """An SVG in mm of the thing, y up; words and arrows at their place."""

    def __init__(self, low: Point, high: Point) -> None:
        self.low = low
        self.scale = min((WIDE - 60) / (high[0] - low[0]), (HIGH - 60) / (high[1] - low[1]))
        self.left = (WIDE - self.scale * (high[0] - low[0])) / 2
        self.foot = (HIGH + self.scale * (high[1] - low[1])) / 2
        self.lines: list[str] = []

    def at(self, p: Point) -> Point:
        return self.left + (p[0] - self.low[0]) * self.scale, self.foot - (p[1] - self.low[1]) * self.scale

    def shape(self, points: Iterable[Point], fill: str, stroke: str = INK, dash: str = "") -> None:
        told = " ".join(f"{x:.1f},{y:.1f}" for x, y in map(self.at, points))
        self.lines.append(
            f'<polygon points="{told}" fill="{fill}" stroke="{stroke}" stroke-width="1" stroke-dasharray="{dash}"/>'
        )

    def arrow(self, a: Point, b: Point, words: str, colour: str, above: bool = True) -> None:
        (x0, y0), (x1, y1) = self.at(a), self.at(b)
        upright = abs(y1 - y0) > abs(x1 - x0)
        for (x, y), sign in (((x0, y0), 1), ((x1, y1), -1)):
            ends = (
                [(x - 4, y + sign * -8), (x + 4, y + sign * -8)]
                if upright
                else [(x + sign * 8, y - 4), (x + sign * 8, y + 4)]
            )
            head = " ".join(f"{u:.1f},{v:.1f}" for u, v in ((x, y), *ends))
            self.lines.append(f'<polygon points="{head}" fill="{colour}"/>')
        self.lines.append(
            f'<line x1="{x0:.1f}" y1="{y0:.1f}" x2="{x1:.1f}" y2="{y1:.1f}" stroke="{colour}" stroke-width="1.4"/>'
        )
        x, y = (x0 + x1) / 2, (y0 + y1) / 2
        spot = (x + 8, y + 4, "start") if upright else (x, y - 6 if above else y + 16, "middle")
        self.words(words, colour, *spot)

    def words(self, text: str, colour: str, x: float, y: float, anchor: str = "start", size: int = 14) -> None:
        look = f'fill="{colour}" font-size="{size}" text-anchor="{anchor}"'
        self.lines.append(f'<text x="{x:.1f}" y="{y:.1f}" {look}>{escape(text)}</text>')

    def save(self, name: str) -> None:
        head = f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {WIDE} {HIGH}" font-family="Lato, sans-serif">'
        page = f'<rect width="{WIDE}" height="{HIGH}" fill="{TABLE}"/>'
        (HERE / f"{name}.svg").write_text("\n".join((head, page, *self.lines, "</svg>\n")), encoding="utf-8")


def paper_of(study: Study, node: int) -> str:
    """A colour for every element, in the order of the nest."""
    return PAPERS[list(study.resolved).index(study.assembly.nodes[node].element) % len(PAPERS)]


def cut(study: Study, cuts: Sequence[Cut], low: Point, high: Point) -> Picture:
    """A section as a picture, seen from `low` to `high`, mm."""
    picture = Picture(low, high)
    for one in cuts:
        dash = "4 3" if study.assembly.nodes[one.node].limp else ""
        picture.shape(one.corners, paper_of(study, one.node), dash=dash)
    return picture


def ends(study: Study, cuts: Sequence[Cut], element: str, above: float = 3.0) -> list[float]:
    """Inner and outer faces of an element's walls along the section, mm: of what stands up from `above` mm."""
    found = [x for c in cuts if study.assembly.nodes[c.node].element == element
             and max(z for _, z in c.corners) - min(z for _, z in c.corners) > above for x, _ in c.corners]  # fmt: skip
    return sorted(found)


def nested() -> Design:
    """A tray of thick board in a tray of thick board, so that sheets can be seen."""
    design = start_design("tray", {"width": 64.0, "depth": 60.0, "height": 30.0}, stock="chipboard-2")
    return add_guest(
        design, "tray", Element("inner", "tray", settings={"height": 20.0}, stock="chipboard-1"), Place("floor")
    )


def need_and_room() -> None:
    study = Study(nested())
    cuts = study.section(1)
    host, guest = ends(study, cuts, "tray"), ends(study, cuts, "inner")
    picture = cut(study, cuts, (-46, -4), (46, 34))
    inside = next(x for x in host if x > 0)
    picture.arrow((-inside, 26), (inside, 26), "room: from wall to wall", WORKED)
    picture.arrow((guest[0], 10), (guest[-1], 10), "need: outside of the guest", LAMP)
    high = study.resolved["tray"].rooms["floor"].height
    assert high is not None
    floor = study.resolved["tray"].final.paper.caliper
    picture.arrow((38, floor), (38, floor + high.value), "room, up", WORKED)
    picture.save("need-and-room")


def lever() -> None:
    study = Study(nested())
    gap = next(c.gap for c in study.checks if c.gap.element == "inner" and c.gap.where == "across")
    terms = gap.span.terms
    most = sum(t.value for t in terms if t.value > 0)
    picture = Picture((0, 0), (most, most * (HIGH - 60) / (WIDE - 60)))
    row = most * (HIGH - 60) / (WIDE - 60) / (len(terms) + 1)
    at, y = 0.0, row * len(terms)
    for term in terms:
        a, b = sorted((at, at + term.value))
        picture.shape([(a, y), (max(b, a + 0.15), y), (max(b, a + 0.15), y + row * 0.6), (a, y + row * 0.6)],
                      PAPERS[0] if term.lever else PAPERS[3])  # fmt: skip
        pulled = f", lever: {term.lever.element}.{term.lever.parameter} × {term.lever.slope:+g}" if term.lever else ""
        long, told = b - a > most / 3, f"{term.label} {term.value:+.2f}{pulled}".replace("-", "−")
        x, v = picture.at((a if not long else (a + b) / 2, y + row * 0.18))
        picture.words(told, INK, x - (0 if long else 8), v, "middle" if long else "end", 13)
        at += term.value
        y -= row
    x, v = picture.at((0, 0))
    picture.words(f"left: {gap.value:.2f} mm", LAMP, x, v + 14)
    picture.save("lever")


def origin() -> None:
    design = start_design("explosion-box", {"content-width": 60.0, "content-height": 40.0, "lid": "easy"})
    design = add_guest(design, "box", Element("mat", "mat", settings={"border": 2.0}), Place("back-inside"))
    study = Study(design)
    picture = Picture((0, 0), (WIDE - 60, HIGH - 60))
    spots = (
        ("box", "base"),
        ("box", "content-width"),
        ("lid", "top-width"),
        ("lid", "play"),
        ("mat", "width"),
        ("mat", "border"),
    )
    for k, (element, parameter) in enumerate(spots):
        sized = study.resolved[element].sizes[parameter]
        x, y = 20 + 232 * (k % 3), 30 + 110 * (k // 3)
        told = sized.value if isinstance(sized.value, str) else f"{sized.value:.1f} mm"
        colour = LAMP if sized.origin == "given" else WORKED
        picture.lines.append(
            f'<rect x="{x}" y="{y}" width="216" height="84" rx="6" fill="#fffdf7" stroke="{colour}" stroke-width="2"/>'
        )
        picture.words(f"{element}: {parameter}", FAINT, x + 12, y + 26, size=13)
        picture.words(told, INK, x + 12, y + 54, size=20)
        picture.words(sized.origin, colour, x + 204, y + 72, "end")
    picture.save("origin")


def settle() -> None:
    design = start_design("tray", {"width": 40.0, "depth": 40.0, "height": 16.0}, stock="chipboard-2")
    study = Study(design)
    picture = Picture((-2, 11), (34, 24))
    half = study.resolved["tray"].final.paper.caliper / 2
    for node, frame in zip(study.assembly.nodes, study.shut_frames, strict=True):
        if node.panel.name not in ("wall-right", "wall-back", "tab-right-back"):
            continue
        points = corners(node, frame)
        nx, ny = frame[6] * half, frame[7] * half
        (x0, y0), (x1, y1) = (min(p[:2] for p in points), max(p[:2] for p in points))
        picture.shape([(x0 + nx, y0 + ny), (x1 + nx, y1 + ny), (x1 - nx, y1 - ny), (x0 - nx, y0 - ny)],
                      PAPERS[2] if node.panel.name.startswith("tab") else PAPERS[0])  # fmt: skip
    for words, p in (("back wall", (2, 19.8)), ("tab, glued inside", (8, 18.0)), ("right wall", (21.6, 13))):
        x, y = picture.at(p)
        picture.words(words, INK, x, y, size=13)
    picture.arrow((23.0, 20.2), (23.0, 20.2 - 2 * half), "settle: one sheet and its glue", LAMP)
    picture.save("settle")


def wrap() -> None:
    design = start_design("board-cover", {"board-width": 50.0, "board-height": 40.0, "spine": 12.0})
    study = Study(design)
    cuts = study.section(1)
    xs = [x for c in cuts for x, _ in c.corners]
    picture = cut(study, cuts, (min(xs) - 2, -3), (min(xs) + 42, 20))
    zs = [z for c in cuts for _, z in c.corners]
    picture.arrow((min(xs) + 26, 3.6), (min(xs) + 26, max(zs) - 3.4), "wrap: what lies between", LAMP)
    picture.save("wrap")


def limp() -> None:
    design = set_stock(start_design("pull-waterfall", {"base-width": 60.0, "base-length": 90.0}), None, "card-297")
    study = Study(design)
    frames = pose(study.assembly, opening_state(study.assembly, 0.5))
    cuts = cut_through(study.assembly, facets(study.assembly, frames), 0, 0.0)
    xs, zs = [x for c in cuts for x, _ in c.corners], [z for c in cuts for _, z in c.corners]
    picture = cut(study, cuts, (min(xs), min(zs) - 6), (max(xs), max(zs) + 6))
    picture.words("dashed: the pulled strip, limp", FAINT, 20, HIGH - 14)
    picture.save("limp")


if __name__ == "__main__":
    for draw in (need_and_room, lever, origin, settle, wrap, limp):
        draw()
