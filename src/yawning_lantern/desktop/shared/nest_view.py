"""The nest: structures as sleeves inside sleeves, each with its size. Choose, move and take off parts here."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from msgspec import Struct
from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import (
    QColor,
    QFont,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPainterPath,
    QPaintEvent,
    QPen,
    QResizeEvent,
)
from PySide6.QtWidgets import QWidget

from yawning_lantern.design import Element, Place, find, move_guest, parent_of, walk
from yawning_lantern.desktop.shared.landing import Landing
from yawning_lantern.desktop.shared.marks import draw_verdict
from yawning_lantern.desktop.shared.session import Session
from yawning_lantern.desktop.shared.spoken import BRANCH, TREE, Spoken
from yawning_lantern.desktop.shared.theme import DAY, Theme
from yawning_lantern.errors import LanternError
from yawning_lantern.measure import format_size
from yawning_lantern.study import Resolved, Study

FOOT = 7.0
INSET = 9.0
BETWEEN = 5.0
_WORST = ("clash", "tight", "snug", "loose", "easy")


class Sleeve(Struct, frozen=True):
    """One element's place in the picture."""

    element: str
    box: QRectF
    depth: int


def _counted(n: int, several: str) -> str:
    """So many of it; `several` is the word for more than one."""
    one = "leaf" if several == "leaves" else several.removesuffix("s")
    return f"{n} {one if n == 1 else several}"


class NestView(Landing):
    """Sleeves; up and down choose, Delete takes off, dragging puts a part on another's face of the same name."""

    spoken_role = TREE

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(session, parent)
        self.theme: Theme = DAY
        self._sleeves: list[Sleeve] = []
        self._told: dict[str, tuple[str, str]] = {}
        self._faces: dict[str, str] = {}
        self._dragged: str | None = None
        self._over: str | None = None
        self._pressed = QPointF()
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)  # nothing behind it need be painted
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Nest")
        for signal in (session.judged, session.selected, session.troubled):
            signal.connect(self._refresh)
        self._refresh()

    def sizeHint(self) -> QSize:
        return QSize(226, int(max((s.box.bottom() for s in self._sleeves), default=80.0)) + 10)

    def _refresh(self) -> None:
        self._sleeves = []
        self._lay(self._session.design.root, 4.0, 4.0, 0)
        height = self.sizeHint().height()
        if height != self.minimumHeight():
            self.setMinimumHeight(height)
        study = self._session.study
        self._told = self._figures(study)
        self._faces = {s.element: self._face_words(study, s.element) for s in self._sleeves}
        element = self._session.selected_element()
        parts = len(self._sleeves)
        self.setAccessibleDescription(f"{element.name or element.family} is chosen, one of {parts} parts.")
        self.update()

    def resizeEvent(self, event: QResizeEvent) -> None:
        self._refresh()
        super().resizeEvent(event)

    def _line(self) -> float:
        """The height of a line of text, px."""
        return self.fontMetrics().height() + 3.0

    def _head(self) -> float:
        """The height of a sleeve's own words, px."""
        return 2 * self._line() + 10.0

    def _lay(self, element: Element, x: float, y: float, depth: int) -> float:
        index = len(self._sleeves)
        self._sleeves.append(Sleeve(element.id, QRectF(), depth))
        width = self.width() - 2 * x
        foot = y + self._head()
        for guest in element.guests:
            foot = self._lay(guest, x + INSET, foot, depth + 1) + BETWEEN
        bottom = foot + (FOOT - BETWEEN if element.guests else 0.0)
        self._sleeves[index] = Sleeve(element.id, QRectF(x, y, width, bottom - y), depth)
        return bottom

    def _figures(self, study: Study | None) -> dict[str, tuple[str, str]]:
        """By element its size in words, and its worst verdict."""
        verdicts: dict[str, set[str]] = {}
        for check in study.checks if study is not None else ():
            if not check.is_fine:
                verdicts.setdefault(check.gap.element, set()).add(check.verdict)
        figures = {}
        for sleeve in self._sleeves:
            r = study.resolved.get(sleeve.element) if study is not None else None
            own = verdicts.get(sleeve.element, ())
            worst = next((v for v in _WORST if v in own), "")
            figures[sleeve.element] = (self._size_words(r) if r is not None else "", worst)
        return figures

    def _size_words(self, r: Resolved) -> str:
        """What of a part's measurements stands in its headline: lengths, then counts."""
        declared = {p.id: p for p in r.family.parameters if p.id in r.family.headline}
        shown = [(declared[name], r.sizes[name]) for name in r.family.headline if name in r.sizes]
        lengths = tuple(sized.length for p, sized in shown if p.kind == "length")
        counts = [_counted(int(sized.length), p.label.lower()) for p, sized in shown if p.kind == "count"]
        return " · ".join([format_size(lengths, self._session.design.units, glyphs=True), *counts])

    @staticmethod
    def _face_words(study: Study | None, element: str) -> str:
        """Where a part sits, in few words; nothing where that goes without saying."""
        if study is None or element not in study.resolved:
            return ""
        r = study.resolved[element]
        if not r.host:
            return ""
        rooms = study.resolved[r.host].rooms
        way = rooms[r.place.face].relation
        if way != "onto" and sum(room.relation == way for room in rooms.values()) == 1:
            return ""
        words = dict(study.resolved[r.host].family.faces).get(r.place.face, r.place.face)
        return words.replace(" wall, inside", ", in").replace(" wall, outside", ", out").replace("top, outside", "top")

    def spoken_items(self) -> list[Spoken]:
        """Every part: its name, where it sits, its figures, its worst fit."""
        design, items = self._session.design, []
        for sleeve in self._sleeves:
            element = find(design, sleeve.element)
            figures, verdict = self._told.get(sleeve.element, ("", ""))
            words = (element.name or element.family, self._faces.get(sleeve.element, ""), figures, verdict)
            chosen = sleeve.element == self._session.selection
            items.append(Spoken(", ".join(word for word in words if word), sleeve.box, BRANCH, chosen))
        return items

    def paintEvent(self, event: QPaintEvent) -> None:
        t = self.theme
        painter = QPainter(self)
        painter.fillRect(event.rect(), t.colour("card"))
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        study = self._session.study
        elements = {element.id: element for element in walk(self._session.design.root)}
        seen = QRectF(event.rect().adjusted(-4, -12, 4, 12))  # a long nest is seen in part
        shown = [sleeve for sleeve in self._sleeves if sleeve.box.intersects(seen)]
        for sleeve in shown:
            self._sleeve(painter, study, sleeve)
        font = painter.font()
        font.setBold(True)
        names = {s.element: elements[s.element].name or elements[s.element].family for s in shown}
        self._write(painter, font, t.colour("ink"), 0, (38, 42), shown, names)
        font.setBold(False)
        words = {}
        for sleeve in shown:
            size, face = self._told.get(sleeve.element, ("", ""))[0], self._faces.get(sleeve.element, "")
            words[sleeve.element] = size + (f" · {face}" if face else "")
        self._write(painter, font, t.colour("faint"), 1, (16, 20), shown, words)
        if self.hasFocus():
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(t.colour("lamp"), 1, Qt.PenStyle.DotLine))
            painter.drawRect(self.rect().adjusted(0, 0, -1, -1))

    def _sleeve(self, painter: QPainter, study: Study | None, sleeve: Sleeve) -> None:
        """A sleeve without its words: outline, paper, and the mark of its worst fit."""
        t, box, chosen = self.theme, sleeve.box, sleeve.element == self._session.selection
        painter.setPen(QPen(t.colour("lamp") if chosen else t.colour("line"), 2.2 if chosen else 1.2))
        if sleeve.element == self._over:
            painter.setPen(QPen(t.colour("worked"), 2.5, Qt.PenStyle.DashLine))
        painter.setBrush(QColor(t.field if sleeve.depth % 2 else t.card))
        painter.drawPath(self._sleeve_path(box))
        if study is not None and sleeve.element in study.resolved:
            paper = QColor(study.resolved[sleeve.element].final.paper.front)
            painter.fillRect(QRectF(box.left() + 1.5, box.top() + 8, 5, self._head() - 14), paper)
        worst = self._told.get(sleeve.element, ("", ""))[1]
        if worst:
            draw_verdict(painter, worst, QPointF(box.right() - 14, box.top() + 14), 11, t)

    def _write(
        self, painter: QPainter, font: QFont, ink: QColor, line: int, margins: tuple[int, int],
        sleeves: Sequence[Sleeve], words: Mapping[str, str],
    ) -> None:  # fmt: skip
        """The words (by element) of one line of some sleeves; `margins`: what is left beside them, and beside those cut
        short, px. One font at a time, since changing it takes longer than a word."""
        painter.setFont(font)
        painter.setPen(ink)
        metrics, high = painter.fontMetrics(), self._line()
        less, spare = margins
        for sleeve in sleeves:
            box = sleeve.box
            room = QRectF(box.left() + 13, box.top() + 5 + line * high, box.width() - less, high)
            whole = metrics.elidedText(words[sleeve.element], Qt.TextElideMode.ElideRight, int(box.width() - spare))
            painter.drawText(room, Qt.AlignmentFlag.AlignVCenter, whole)

    @staticmethod
    def _sleeve_path(box: QRectF) -> QPainterPath:
        """A sleeve: open at the top, where a notch is punched for a finger."""
        path = QPainterPath()
        notch = min(9.0, box.width() / 8)
        middle = box.right() - 34
        path.moveTo(box.topLeft())
        path.lineTo(middle - notch, box.top())
        path.arcTo(QRectF(middle - notch, box.top() - notch * 0.55, 2 * notch, notch * 1.1), 180, 180)
        path.lineTo(box.topRight())
        path.lineTo(box.bottomRight())
        path.lineTo(box.bottomLeft())
        path.closeSubpath()
        return path

    def sleeve_at(self, at: QPointF) -> str | None:
        """The innermost element under a pixel."""
        under = [s for s in self._sleeves if s.box.contains(at)]
        return max(under, key=lambda s: s.depth).element if under else None

    def mousePressEvent(self, event: QMouseEvent) -> None:
        element = self.sleeve_at(event.position())
        if element:
            self._session.select(element)
        self._dragged, self._pressed = element, event.position()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._dragged is None or (event.position() - self._pressed).manhattanLength() < 10:
            return
        self._over = self.sleeve_at(event.position())
        self.setCursor(Qt.CursorShape.ClosedHandCursor)
        self.update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        dragged, over = self._dragged, self._over
        self._dragged = self._over = None
        self.setCursor(Qt.CursorShape.ArrowCursor)
        self.update()
        if dragged and over and over != dragged:
            self.put(dragged, over)

    def put(self, element_id: str, host_id: str) -> None:
        """Put a part on the face of the same name of another host, or on its first face."""
        design, study = self._session.design, self._session.study
        host = parent_of(design, element_id)
        if host is None or host.id == host_id or study is None or host_id not in study.resolved:
            return
        element = find(design, element_id)
        faces = [face for face, _ in study.resolved[host_id].family.faces if face in study.resolved[host_id].rooms]
        old = element.place or Place("")
        face = old.face if old.face in faces else (faces[0] if faces else None)
        if face is None:
            return
        try:
            moved = move_guest(design, element_id, host_id, Place(face, 0.0, 0.0, old.turn))
        except LanternError as error:
            self._session.tell(error.sentence())
            return
        self._session.edit(moved, f"move {element.name or element.family}")

    def host_at(self, at: QPointF) -> str | None:
        return self.sleeve_at(at)

    def mark(self, at: QPointF | None) -> None:
        self._over = self.sleeve_at(at) if at is not None else None

    def keyPressEvent(self, event: QKeyEvent) -> None:
        ids = [element.id for element in walk(self._session.design.root)]
        step = {Qt.Key.Key_Down: 1, Qt.Key.Key_Up: -1}.get(Qt.Key(event.key()))
        if step is None:
            super().keyPressEvent(event)
            return
        at = ids.index(self._session.selection) + step
        if 0 <= at < len(ids):
            self._session.select(ids[at])
