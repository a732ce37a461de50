"""What fits promise, held by brute force over random nests of all families: a body for every sheet as it is drawn, in
its full thickness; how deep two lie in one another is the least way out of the hull of all differences of their corners
(the Minkowski difference; from memory), by scipy. It shares nothing with `study.beside` or `opening`.

Edges are drawn in by a sheet and a half: what a cut edge and a fold round off, and what a corner of three walls hides.
`docs/proof.md` tells what comes out of the long run."""

from __future__ import annotations

import itertools
import random
from collections import Counter
from dataclasses import dataclass

import numpy as np
import pytest
from scipy.spatial import ConvexHull, QhullError
from shapely import MultiPoint, Polygon

from yawning_lantern.assembly import Gap, Node
from yawning_lantern.errors import LanternError
from yawning_lantern.fold.pose import corners, flat_parts
from yawning_lantern.study import Study

from .test_random_nests import random_nest

GOAL = 0.4
"""mm: deeper than this in one another, and nobody told, is a false clear."""
NOT_OF_PLACE = {
    "sheet": "larger than the sheet it is cut from",
    "stock": "stock too thick for its folds",
    "panel": "a panel too narrow to fold",
    "joint": "a joint too narrow to hold",
    "at-hand": "too large for what shall hold it, and not there",
    "strap": "a strap that is too short",
    "flat-tube": "what lies there only when folded flat the other way",
    "step": "a step, gutter or turn-in narrower than what is glued on it",
    "stack": "what passes while it moves",
    "cover": "pages that are larger than the covers",
    "pocket": "a tag wider than the clear opening",
    "inside-card": "what stands out of a shut card",
    "contents": "what is put in later",
    "ring": "a ring that does not close",
    "flaps": "flaps longer than their base",
    "spare": "a brad wider than its pointer, a leaf longer than its middle: nothing lies in another",
    "lap": "a flap that laps too little",
    "toggle": "a bar that its own loop slips off",
    "loop": "a loop shorter than around its thing",
}
"""Fits that do not say that two sheets are in one place when all is shut, and what they say."""
NESTS, BLOCKS = 3000, 30


@dataclass(frozen=True)
class Body:
    """One plane part of a sheet: who it belongs to, and its corners (n, 3), mm."""

    node: int
    corners: np.ndarray

    @property
    def box(self) -> tuple[np.ndarray, np.ndarray]:
        return self.corners.min(axis=0), self.corners.max(axis=0)


def bodies(study: Study) -> list[Body]:
    """Every plane part of every sheet that is stiff, in its thickness."""
    found = []
    for k, (node, frame) in enumerate(zip(study.assembly.nodes, study.shut_frames, strict=True)):
        t = node.piece.stock.caliper
        if node.panel.soft:
            continue
        for points, normal, _ in flat_parts(node, frame, 1.0):
            p, n = np.array(points), np.array(normal)
            x = p[1] - p[0]
            x = x / np.linalg.norm(x)
            y = np.cross(n, x)
            flat = Polygon([((q - p[0]) @ x, (q - p[0]) @ y) for q in p]).buffer(-1.5 * t, join_style="mitre")
            if flat.is_empty or flat.geom_type != "Polygon" or flat.area < 1.0:
                continue
            ring = [p[0] + a * x + b * y for a, b in list(flat.convex_hull.exterior.coords)[:-1]]
            found.append(Body(k, np.array([q + s * t / 2 * n for s in (-1, 1) for q in ring])))
    return found


def depth(a: Body, b: Body) -> float:
    """How far two bodies lie in one another, mm; nothing where they are apart."""
    (la, ha), (lb, hb) = a.box, b.box
    if (np.maximum(la, lb) >= np.minimum(ha, hb) - 1e-6).any():
        return 0.0
    try:
        hull = ConvexHull((b.corners[:, None] - a.corners[None]).reshape(-1, 3))
    except QhullError:
        return 0.0
    return float(max(0.0, (-hull.equations[:, 3]).min()))


def one_sheet(a: Node, b: Node) -> bool:
    """Whether two panels hang together at a crease, or are parts of bent sheets that are glued into one ring."""
    if a.element == b.element and a.shape is not None and b.shape is not None:
        return True
    if (a.element, a.instance) != (b.element, b.instance):
        return False
    return any({c.a, c.b} == {a.panel.name, b.panel.name} for c in a.piece.creases)


def measured(study: Study) -> dict[frozenset[str], float]:
    """Which elements lie in one another when all is shut, and how deep, mm."""
    found: dict[frozenset[str], float] = {}
    nodes = study.assembly.nodes
    for a, b in itertools.combinations(bodies(study), 2):
        if a.node == b.node or one_sheet(nodes[a.node], nodes[b.node]):
            continue
        deep = depth(a, b)
        if deep > 0.05:
            key = frozenset((nodes[a.node].element, nodes[b.node].element))
            found[key] = max(found.get(key, 0.0), deep)
    return found


def hangs_out(study: Study, gap: Gap) -> bool:
    """Whether the guest's sheets reach over the edge of the panel they sit on (seen square to it)."""
    r = study.resolved[gap.element]
    if not r.host:
        return False
    frame = study.mount_frames[r.host, r.place.face]
    mount = next(m for m in study.resolved[r.host].part.mounts if m.id == r.place.face)
    panel = study.assembly.index(r.host, mount.instance, mount.panel)

    def seen(nodes: list[int]) -> np.ndarray:
        points = [p for k in nodes for p in corners(study.assembly.nodes[k], study.shut_frames[k])]
        return np.array(points) @ np.array(frame[:6]).reshape(2, 3).T

    own = seen([k for k, node in enumerate(study.assembly.nodes) if node.element == gap.element])
    room = Polygon(seen([panel])).buffer(0.01)
    return not room.contains(MultiPoint(own))


def judged(study: Study) -> tuple[str, str]:
    """What fits and brute force say of one design, in a word, and the details."""
    met = measured(study)
    deepest = max(met.values(), default=0.0)
    told = [check.gap for check in study.checks if check.is_clash]
    if not told:
        return ("false clear" if deepest > GOAL else "clear", f"{met}")
    if deepest > 0.05:
        return "contact, told", ""
    # what is told of a photo or of contents is told of what is not there yet
    of_place = [
        gap for gap in told if gap.code not in NOT_OF_PLACE and not gap.between[0].startswith(("photo", "contents"))
    ]
    if not of_place:
        return "told, not of place", ""
    if any(hangs_out(study, gap) for gap in of_place):
        return "told, over the edge", ""
    sheets = 1.5 * max(node.piece.stock.caliper for node in study.assembly.nodes)
    if all(-gap.value <= 2 * sheets for gap in of_place):
        return "told, within the sheets' own edges", ""
    return "false alarm", f"{[(gap.code, gap.between, round(gap.value, 2)) for gap in of_place]}"


def counted(seeds: range) -> tuple[Counter[str], list[str]]:
    """How many designs of each word, and the details of those that are wrong."""
    words: Counter[str] = Counter()
    wrong = []
    for seed in seeds:
        try:
            study = Study(random_nest(random.Random(seed)))
        except LanternError:
            words["refused"] += 1
            continue
        word, details = judged(study)
        words[word] += 1
        if word.startswith("false"):
            wrong.append(f"{word} {seed}: {details}")
    return words, wrong


def test_brute_force_finds_what_it_should() -> None:
    # worked: two sheets crossing at right angles 3 mm from the edge of one; side by side; one above the other
    def block(*sizes: float, at: tuple[float, float, float] = (0.0, 0.0, 0.0)) -> Body:
        return Body(0, np.array(list(itertools.product(*([0.0, s] for s in sizes)))) + np.array(at))

    assert depth(block(50, 50, 0.3), block(0.3, 50, 50, at=(3.0, 10.0, -20.0))) == pytest.approx(3.3)
    assert depth(block(50, 50, 0.3), block(50, 50, 0.3, at=(0.0, 0.0, 0.2))) == pytest.approx(0.1)
    assert depth(block(50, 50, 0.3), block(50, 50, 0.3, at=(0.0, 0.0, 0.31))) == 0.0


def test_fits_and_brute_force_agree() -> None:
    words, wrong = counted(range(5000, 5070))
    assert not wrong and words["clear"] > 12 and words["contact, told"] > 1


@pytest.mark.long
@pytest.mark.parametrize("block", range(BLOCKS))
def test_three_thousand_nests(block: int) -> None:
    size = NESTS // BLOCKS
    words, wrong = counted(range(block * size, block * size + size))
    print(dict(words), wrong)  # for docs/proof.md: run with -rP
    solved = sum(words.values()) - words["refused"]
    assert not words["false clear"], wrong
    assert words["false alarm"] <= max(1.0, solved / 100), wrong
