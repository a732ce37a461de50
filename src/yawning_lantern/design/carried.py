"""The copies of stock that a design carries, so that it opens the same wherever it is opened."""

from __future__ import annotations

from functools import lru_cache

from msgspec.structs import replace

from yawning_lantern.design.document import Design
from yawning_lantern.design.edits import walk
from yawning_lantern.stock import Adhesive, Catalogue, Item, Paper, Tool, builtin_catalogue


def catalogue_for(design: Design) -> Catalogue:
    """What ships with the program, and before it what the design carries."""
    own: tuple[Item, ...] = (*design.papers, *design.adhesives, *design.tools)
    return _under(own) if own else builtin_catalogue()


@lru_cache(maxsize=64)
def _under(own: tuple[Item, ...]) -> Catalogue:
    return builtin_catalogue().under(own)


def carry(design: Design, *items: Item) -> Design:
    """The design with copies of things, in the place of those of the same id; what is just as it ships needs none."""
    papers, adhesives, tools = (
        {thing.id: thing for thing in had} for had in (design.papers, design.adhesives, design.tools)
    )
    for item in items:
        if isinstance(item, Paper):
            papers[item.id] = item
        elif isinstance(item, Adhesive):
            adhesives[item.id] = item
        elif isinstance(item, Tool):
            tools[item.id] = item
    carrying = replace(
        design, papers=tuple(papers.values()), adhesives=tuple(adhesives.values()), tools=tuple(tools.values())
    )
    return without_shipped(carrying)


def stocks_used(design: Design) -> tuple[str, ...]:
    """The ids of all stock that a design names, the body's first."""
    named = (element.stock for element in walk(design.root))
    return tuple(dict.fromkeys((design.stock, *(stock for stock in named if stock))))


def without_shipped(design: Design) -> Design:
    """The design without those copies that are just as what ships with the program."""
    shipped = set(builtin_catalogue().items)
    return replace(
        design,
        papers=tuple(paper for paper in design.papers if paper not in shipped),
        adhesives=tuple(glue for glue in design.adhesives if glue not in shipped),
        tools=tuple(tool for tool in design.tools if tool not in shipped),
    )


def with_copies(design: Design) -> Design:
    """The design with a copy of everything it uses and of nothing else. What is unknown is left out."""
    shelf = catalogue_for(design)
    used = set(stocks_used(design))
    return replace(
        design,
        papers=tuple(paper for paper in shelf.papers if paper.id in used),
        adhesives=tuple(glue for glue in shelf.adhesives if glue.id == design.adhesive),
        tools=tuple(tool for tool in shelf.tools if tool.id in (design.score_tool, design.cut_tool)),
    )
