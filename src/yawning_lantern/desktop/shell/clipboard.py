"""Parts on the clipboard, for this window and every other: a design of its own whose root is the part."""

from __future__ import annotations

from msgspec.structs import replace
from PySide6.QtCore import QMimeData
from PySide6.QtGui import QGuiApplication

from yawning_lantern.design import Design, Element
from yawning_lantern.exchange.design_file import from_bytes, to_bytes
from yawning_lantern.study import known_names

MIME = "application/x-yawning-lantern-part"


def keep(design: Design, element: Element) -> None:
    """Put a part with all it carries on the clipboard; as text it is the JSON of a design."""
    data = QMimeData()
    alone = to_bytes(replace(design, root=replace(element, place=None), name=element.name or element.family))
    data.setData(MIME, alone)
    data.setText(alone.decode("utf-8"))
    QGuiApplication.clipboard().setMimeData(data)


def kept() -> Design | None:
    """The part on the clipboard as the root of a design that carries its stock, or None where there is none that this
    program knows. Raises LanternError where it is damaged."""
    data = QGuiApplication.clipboard().mimeData()
    if not data.hasFormat(MIME):
        return None
    design = from_bytes(bytes(data.data(MIME).data()), "clipboard")
    known_names(design)
    return design
