"""What a design asks of its paper that it does not give: too thin to stand, bare where it shows, glue refused."""

from __future__ import annotations

from dataclasses import dataclass

from yawning_lantern.fold import corners
from yawning_lantern.measure import told
from yawning_lantern.study.study import Study

SLENDER = 600.0
"""A wall higher than so many calipers does not stand by itself. From memory: 80 g/m² stands 6 cm, 216 g/m² 16 cm."""
_STANDS = 0.3  # of its normal, upright: what leans less stands
_SMALL = 100.0  # mm²: of a smaller panel nobody sees that it is bare


@dataclass(frozen=True, slots=True)
class StockWarning:
    """What is wrong between a part and its paper, and what would help. `code` tells the kind in one word."""

    code: str
    element: str
    what: str
    remedy: str

    @property
    def sentence(self) -> str:
        """All of it in words."""
        return f"{self.what} {self.remedy}"


def stock_warnings(study: Study) -> tuple[StockWarning, ...]:
    """Every warning, in the order of the nest. Some ten milliseconds for each part of one-sided paper."""
    found: list[StockWarning] = []
    wet = study.catalogue.adhesive(study.design.adhesive)
    for element, r in study.resolved.items():
        papers = {piece.stock.id: piece.stock for piece in r.part.pieces if not piece.bought}
        for paper in papers.values():
            if paper.kind == "film" and wet.can_shift:
                found.append(StockWarning(
                    "glue", element, f"{r.final.name}: {paper.name} refuses {wet.name.lower()}.",
                    "Join it with double-sided tape or glue dots; the label of the glue has the last word.",
                ))  # fmt: skip
        found += _too_thin(study, element)
        if any(not paper.two_sided and paper.kind == "paper" for paper in papers.values()):
            found += _bare(study, element)
    return tuple(found)


def _too_thin(study: Study, element: str) -> list[StockWarning]:
    """The highest standing panel of a part against what its paper can hold up."""
    worst: tuple[float, float, str] | None = None
    name = study.resolved[element].final.name
    for node, frame in zip(study.assembly.nodes, study.shut_frames, strict=True):
        if node.element != element or node.shape is not None or node.panel.soft or abs(frame[8]) > _STANDS:
            continue
        heights = [z for _, _, z in corners(node, frame)]
        high, most = max(heights) - min(heights), SLENDER * node.piece.stock.caliper
        if high > most + 1e-6 and (worst is None or high > worst[0]):
            worst = high, most, node.piece.stock.name
    if worst is None:
        return []
    high, most, paper = worst
    return [StockWarning(
        "thin", element, f"{name}: its walls are {told(high)} high, and {paper} stands {told(most)} at the most.",
        "Take heavier stock, lower walls, or mats on both sides.",
    )]  # fmt: skip


def _bare(study: Study, element: str) -> list[StockWarning]:
    """Panels of one-sided paper whose bare back can be seen."""
    name = study.resolved[element].final.name
    bare = []
    for seen in study.seen(element):
        node = study.assembly.nodes[seen.node]
        x, y = zip(*node.panel.outline, strict=True)
        large = (max(x) - min(x)) * (max(y) - min(y)) > _SMALL
        if not node.piece.stock.two_sided and seen.back != "never" and large and node.panel.label not in bare:
            bare.append(node.panel.label)
    if not bare:
        return []
    which = ", ".join(bare[:3]) + (" and more" if len(bare) > 3 else "")
    return [StockWarning(
        "one-sided", element, f"{name}: the bare back of its paper shows ({which}).",
        "Take a two-sided paper, or put a mat on what shows.",
    )]  # fmt: skip
