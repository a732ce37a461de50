"""Using a thing of the drawer in the design: one edit each, with a copy of the thing."""

from __future__ import annotations

from msgspec.structs import replace
from PySide6.QtCore import QMimeData

from yawning_lantern.design import Element, Place, carry, find, set_stock
from yawning_lantern.desktop.shared.putting import put_element
from yawning_lantern.desktop.shared.session import Session
from yawning_lantern.stock import Adhesive, Item, Paper, ReadyMade
from yawning_lantern.structures import family, new_guest
from yawning_lantern.workshop import read_item, written

MIME = "application/x-yawning-lantern-thing"


def thing_mime(item: Item) -> QMimeData:
    """A thing as it is dragged."""
    data = QMimeData()
    kind, _, record = written(item)
    data.setData(MIME, f"{kind}\n{record}".encode())
    return data


def dragged_thing(data: QMimeData) -> Item | None:
    """The thing that is dragged, if it is one."""
    if not data.hasFormat(MIME):
        return None
    kind, _, record = bytes(data.data(MIME).data()).decode().partition("\n")
    return read_item(kind, record, "what is dragged")


def use_paper(session: Session, paper: Paper, element: str | None) -> None:
    """Make a part of a paper, or with none named all parts that have no paper of their own: one step."""
    design = carry(session.design, paper)
    if element is None or (element == design.root.id and find(design, element).stock is None):
        session.edit(set_stock(design, None, paper.id), "choose stock")
    else:
        session.edit(set_stock(design, element, paper.id), "choose a part's stock")


def use_body(session: Session, element: str) -> None:
    """Make a part of what the body is made of."""
    session.edit(set_stock(session.design, element, None), "choose a part's stock")


def put_mat(session: Session, element: str, face: str, paper: Paper) -> None:
    """Put a mat of a paper on a face: one step."""
    guest = replace(new_guest(session.design, family("mat")), stock=paper.id)
    put_element(session, element, Place(face), guest, "add", paper)


def ready_made(session: Session, thing: ReadyMade) -> Element:
    """A ready-made thing as a part."""
    settings = {"format": "own", "width": thing.width, "height": thing.height, "thick": thing.thickness}
    return replace(new_guest(session.design, family("photo"), thing.name), settings=settings)


def use_thing(session: Session, item: Item) -> None:
    """Use glue, tape or a tool for the whole design: one step. A tool that does both is used for both."""
    design = carry(session.design, item)
    if isinstance(item, Adhesive):
        session.edit(replace(design, adhesive=item.id), "choose adhesive")
    elif not isinstance(item, Paper | ReadyMade):
        if item.does("score"):
            design = replace(design, score_tool=item.id)
        if item.does("cut"):
            design = replace(design, cut_tool=item.id)
        session.edit(design, "choose tool")
