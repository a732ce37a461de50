"""One step, readable from a metre: what is done, one huge number, the piece as it lies."""

from __future__ import annotations

from collections.abc import Set

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QFont, QFontMetricsF, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QWidget

from yawning_lantern.bench import KINDS, Act, Step, Walk
from yawning_lantern.bench.glue_map import glue_map
from yawning_lantern.bench.lying import Lying
from yawning_lantern.bench.score_plan import Reading
from yawning_lantern.desktop.bench.drawing import (
    Place,
    draw_blank,
    draw_fence,
    draw_glue,
    draw_lines,
    draw_readings,
    draw_ruler,
    number_words,
)
from yawning_lantern.desktop.shared.scene import ScenePainter
from yawning_lantern.desktop.shared.spoken import LIST, Spoken
from yawning_lantern.desktop.shared.theme import DAY, Theme
from yawning_lantern.fold.camera import Camera
from yawning_lantern.measure import Units, format_fine, format_size, speak
from yawning_lantern.pattern import Piece
from yawning_lantern.study import Study

HUGE, LARGE, PLAIN = 128.0, 30.0, 17.0  # px at the usual text size
PAD = 16.0


class StepView(QWidget):
    """Paints the step of a walk. `done`: it is (Space, Enter). `back`: the one before (Backspace). `ticked`: a copy was
    clicked."""

    done = Signal()
    back = Signal()
    ticked = Signal(int)
    spoken_role = LIST

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.theme: Theme = DAY
        self.walk: Walk | None = None
        self.units: Units = "in"
        self.text_scale = 1.0
        self.trouble = ""
        self.only: Set[int] = frozenset()
        self.countdown = ""
        self._study: Study | None = None
        self._pieces: dict[str, Piece] = {}
        self._acts: dict[str, Act] = {}
        self._chips: list[QRectF] = []
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)  # nothing behind it need be painted
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMinimumSize(360, 300)
        self.setAccessibleName("The step")

    def sizeHint(self) -> QSize:
        return QSize(800, 640)

    def show_walk(self, walk: Walk | None, study: Study | None, acts: dict[str, Act], units: Units) -> None:
        """Show where a maker is."""
        self.walk, self._study, self._acts, self.units = walk, study, acts, units
        self._pieces = {piece.id: piece for piece in study.pieces} if study is not None else {}
        self.setAccessibleDescription(self.said())
        self.update()

    def said(self) -> str:
        """The step in words, for a screen reader and for tests."""
        step = self.walk.step if self.walk is not None else None
        if step is None:
            return "Everything is done." if self.walk is not None else self.trouble
        number = self.number()
        words = [KINDS[step.kind], f"number {number}" if number else "", speak(step.text, self.units)]
        words += [speak(w, self.units) for w in (step.heed, step.caution) if w]
        return ". ".join(word.rstrip(".") for word in words if word) + "."

    def reading(self) -> Reading | None:
        """The score to make now."""
        step = self.walk.step if self.walk is not None else None
        if self.walk is None or step is None or step.placing is None:
            return None
        return step.placing.readings[self.walk.number]

    def number(self) -> str:
        """The one number of the step, as it is read; nothing where there is none."""
        reading = self.reading()
        if reading is not None:
            told = number_words(reading.mark, self.units)
            return told if "/" in told else told.replace(" ", "\u2009")  # a fraction in one glyph stands close
        step = self.walk.step if self.walk is not None else None
        if step is not None and step.kind == "cut" and step.piece in self._pieces:
            return format_size(self._pieces[step.piece].size, self.units, glyphs=True)
        if step is not None and step.kind == "wait":
            return self.countdown or f"{max(1, round(step.minutes))} min"
        return ""

    def spoken_items(self) -> list[Spoken]:
        """The copies to check off."""
        ticked = self.walk.ticked if self.walk is not None else frozenset()
        return [
            Spoken(f"copy {k + 1}, {'done' if k in ticked else 'to do'}", box, chosen=k in ticked)
            for k, box in enumerate(self._chips)
        ]

    # -- hands

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key = event.key()
        if key in (Qt.Key.Key_Space, Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.done.emit()
        elif key == Qt.Key.Key_Backspace:
            self.back.emit()
        elif Qt.Key.Key_1 <= key <= Qt.Key.Key_9 and len(self._chips) > 1:
            self.ticked.emit(key - Qt.Key.Key_1)
        else:
            super().keyPressEvent(event)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.setFocus()
        for k, chip in enumerate(self._chips):
            if chip.contains(event.position()):
                self.ticked.emit(k)

    # -- painting

    def _font(self, pixels: float, bold: bool = False) -> QFont:
        font = QFont(self.font())
        font.setPixelSize(max(8, round(pixels * self.text_scale * min(1.0, self.height() / 620))))
        font.setBold(bold)
        return font

    def paintEvent(self, event: QPaintEvent) -> None:
        t = self.theme
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), t.colour("table"))
        self._chips = []
        box = QRectF(self.rect()).adjusted(PAD, PAD, -PAD, -PAD)
        if self.walk is None:
            painter.setPen(t.colour("clash" if self.trouble else "faint"))
            painter.setFont(self._font(LARGE * 0.8))
            words = f"✕ {self.trouble}" if self.trouble else "Working out the order …"
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap, words)
            return
        step = self.walk.step
        if step is None:
            painter.setPen(t.colour("ink"))
            painter.setFont(self._font(LARGE * 1.4, True))
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, "Everything is done.")
            return
        top = self._head(painter, box, step)
        foot = self._foot(painter, box, step)
        self._picture(painter, QRectF(box.left(), top, box.width(), foot - top), step)
        if self.hasFocus():
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(t.colour("lamp"), 2))
            painter.drawRect(self.rect().adjusted(1, 1, -2, -2))

    def _head(self, painter: QPainter, box: QRectF, step: Step) -> float:
        """What is done to which part; the huge number; which face is up. Gives where the picture may begin."""
        t = self.theme
        painter.setPen(t.colour("ink"))
        kind = KINDS[step.kind]
        many = f"{step.copies} × " if step.copies > 1 else ""
        part = step.parts[0] if step.parts else ""
        words, room = f"{kind}: {many}{part}", box.width() * 0.78
        wide = QFontMetricsF(self._font(LARGE, True)).horizontalAdvance(words)
        font = self._font(LARGE * min(1.0, max(0.6, room / wide)), True)
        painter.setFont(font)
        metrics = QFontMetricsF(font)
        title = metrics.elidedText(words, Qt.TextElideMode.ElideRight, room)
        painter.drawText(QRectF(box.left(), box.top(), box.width(), metrics.height()), 0, title)
        place = f"{self.walk.at + 1} of {len(self.walk.plan.steps)}" if self.walk is not None else ""
        painter.setFont(self._font(PLAIN))
        painter.setPen(t.colour("faint"))
        painter.drawText(
            QRectF(box.left(), box.top(), box.width(), metrics.height()), Qt.AlignmentFlag.AlignRight, place
        )
        top = box.top() + metrics.height() + 4
        number = self.number()
        if number:
            top = self._number(painter, QRectF(box.left(), top, box.width(), 0), step, number)
        return top + 6

    def _number(self, painter: QPainter, box: QRectF, step: Step, number: str) -> float:
        """The number, as large as leaves room for the words beside it. Gives where they end."""
        t = self.theme
        lines = [(words, self._font(LARGE * 0.8 if bold else PLAIN, bold), bold) for words, bold in self._beside(step)]
        need = max((QFontMetricsF(font).horizontalAdvance(words) for words, font, bold in lines if bold), default=0.0)
        size = HUGE if step.kind != "cut" else HUGE * 0.6
        huge = self._font(size, True)
        wide = QFontMetricsF(huge).horizontalAdvance(number)
        room = max(box.width() - need - 36, box.width() * 0.4)
        if wide > room:
            huge = self._font(size * room / wide, True)
            wide = QFontMetricsF(huge).horizontalAdvance(number)
        tall = QFontMetricsF(huge).height()
        painter.setFont(huge)
        painter.setPen(t.colour("lamp"))
        painter.drawText(QRectF(box.left(), box.top(), wide + 8, tall), Qt.AlignmentFlag.AlignVCenter, number)
        y, left = box.top() + 6, box.left() + wide + 28
        for words, font, bold in lines:
            painter.setFont(font)
            painter.setPen(t.colour("ink" if bold else "faint"))
            flags = Qt.TextFlag.TextWordWrap
            high = QFontMetricsF(font).boundingRect(QRectF(0, 0, box.right() - left, 300), flags, words).height()
            painter.drawText(QRectF(left, y, box.right() - left, high + 2), flags, words)
            y += high + 1
        return max(box.top() + tall, y)

    def _beside(self, step: Step) -> list[tuple[str, bool]]:
        """What stands beside the number, and whether it is large."""
        reading, walk = self.reading(), self.walk
        if step.placing is None or walk is None:
            return []
        lines = []
        turn = step.text.split(". ")[0] if step.text.startswith(("A quarter", "Turn")) else ""
        if turn and walk.number == 0:
            lines.append((f"↻ {turn}", True))
        lines.append((f"{step.placing.edge} edge at the fence", True))
        lines.append((f"{step.placing.face} up".upper(), True))
        lines.append((f"number {walk.number + 1} of {walk.numbers}", False))
        if reading is not None and not reading.is_on:
            near = number_words(reading.groove - reading.offset, self.units)
            way = "too far" if reading.residual > 0 else "too near"
            lines.append((f"no groove: {near} is {format_fine(abs(reading.residual), self.units)} {way}", False))
        if reading is not None and reading.runs:
            told = [f"{number_words(a, self.units)} to {number_words(b, self.units)}" for a, b in reading.runs]
            lines.append((f"only from {' and '.join(told)}", False))
        return lines

    def _foot(self, painter: QPainter, box: QRectF, step: Step) -> float:
        """The sentence, what to heed, the caution, what was done and what comes. Gives where the picture must end."""
        t = self.theme
        rows: list[tuple[str, str, float, bool]] = []
        if step.placing is None:
            rows.append((speak(step.text, self.units), "ink", PLAIN * 1.25, True))
        if self.walk is not None and self.walk.missing:
            first = self.walk.missing[0]
            rows.append((f"▲ Not done yet: {speak(first.text, self.units)}", "tight", PLAIN, True))
        for words, colour in ((step.heed, "ink"), (step.because and f"Now, because {step.because}.", "worked")):
            if words:
                rows.append((speak(words[0].upper() + words[1:], self.units), colour, PLAIN, False))
        if step.state != "sure":
            rows.append((f"{step.state.capitalize()}.", "worked", PLAIN, True))
        if step.caution:
            rows.append((f"▲ {step.caution}", "clash", PLAIN, True))
        y = box.bottom()
        y = self._around_it(painter, box, y)
        y = self._copies(painter, box, y, step)
        for words, colour, size, bold in reversed(rows):
            font = self._font(size, bold)
            painter.setFont(font)
            flags = Qt.TextFlag.TextWordWrap
            high = QFontMetricsF(font).boundingRect(QRectF(0, 0, box.width(), 400), flags, words).height()
            y -= high + 3
            painter.setPen(t.colour(colour))
            painter.drawText(QRectF(box.left(), y, box.width(), high + 2), flags, words)
        return y - 8

    def _around_it(self, painter: QPainter, box: QRectF, y: float) -> float:
        """What was done just now, and what comes."""
        walk = self.walk
        assert walk is not None
        font = self._font(PLAIN * 0.9)
        painter.setFont(font)
        painter.setPen(self.theme.colour("faint"))
        metrics = QFontMetricsF(font)
        y -= metrics.height()
        half = box.width() / 2 - 10
        for k, (one, words) in enumerate(((walk.before, "Just done: "), (walk.after, "Next: "))):
            text = words + (
                speak(one.text, self.units) if one is not None else ("nothing yet" if k == 0 else "the end")
            )
            told = metrics.elidedText(text, Qt.TextElideMode.ElideRight, half)
            painter.drawText(QRectF(box.left() + k * (half + 20), y, half, metrics.height()), 0, told)
        return y - 6

    def _copies(self, painter: QPainter, box: QRectF, y: float, step: Step) -> float:
        """A chip for every copy, to check off."""
        if step.copies < 2 or self.walk is None:
            return y
        t, size = self.theme, 30.0
        fit = max(1, int(box.width() // (size + 6)))
        rows = (step.copies + fit - 1) // fit
        y -= rows * (size + 6)
        painter.setFont(self._font(PLAIN, True))
        for k in range(step.copies):
            chip = QRectF(box.left() + (k % fit) * (size + 6), y + (k // fit) * (size + 6), size, size)
            self._chips.append(chip)
            done = k in self.walk.ticked
            painter.setPen(QPen(t.colour("lamp" if done else "line"), 2))
            painter.setBrush(t.colour("lamp" if done else "field"))
            painter.drawRoundedRect(chip, 4, 4)
            painter.setPen(t.colour("lamp_ink" if done else "ink"))
            painter.drawText(chip, Qt.AlignmentFlag.AlignCenter, "✓" if done else str(k + 1))
        return y - 4

    def _picture(self, painter: QPainter, box: QRectF, step: Step) -> None:
        """The piece as it lies, or what gets glue."""
        if box.height() < 40:
            return
        if step.act in self._acts and step.kind in ("glue", "decorate", "tie"):
            self._glue(painter, box, self._acts[step.act])
            return
        piece = self._pieces.get(step.piece)
        if piece is None:
            if step.kind in ("fit", "put", "insert", "rehearse"):
                self._scene(painter, box)
            return
        face = step.face or "front"
        lying = Lying(step.placing.edge if step.placing else "left", face, piece.size)
        place = Place.within(box.adjusted(0, 34 if step.placing else 8, 0, -10), lying)
        blank = step.kind in ("cut", "score")
        draw_blank(painter, piece, place, self.theme, blank=blank)
        if step.placing is not None and self.walk is not None and self._study is not None:
            draw_fence(painter, place, self.theme)
            painter.setFont(self._font(PLAIN * 0.85))
            tool = self._study.catalogue.tool(self._study.design.score_tool)
            draw_ruler(painter, place, self.theme, self.units, tool.offset)
            paper = piece.stock.front if face == "front" else piece.stock.back
            draw_readings(painter, place, step.placing, self.walk.number, self.theme, paper, self.units)
        elif step.kind != "cut":
            draw_lines(painter, piece, place, step.lines, self.theme)
        self._face_word(painter, place, piece, face)

    def _face_word(self, painter: QPainter, place: Place, piece: Piece, face: str) -> None:
        """“front” or “back” on the paper itself."""
        font = self._font(PLAIN * 1.1, True)
        painter.setFont(font)
        wide, high = place.lying.extent
        box = QRectF(place.left + 6, place.foot - high * place.scale, wide * place.scale - 12, high * place.scale - 5)
        word = f"{face} up"
        if QFontMetricsF(font).horizontalAdvance(word) < box.width() and QFontMetricsF(font).height() < box.height():
            where = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignBottom
            plate = QRectF(painter.boundingRect(box, where, word))
            painter.fillRect(plate.adjusted(-6, -1, 6, 1), self.theme.colour("card"))
            painter.setPen(self.theme.colour("ink"))
            painter.drawText(box, where, word)

    def _glue(self, painter: QPainter, box: QRectF, act: Act) -> None:
        """What gets glue in an act: the panels of what is brought."""
        if self._study is None:
            return
        assembly = self._study.assembly
        first = assembly.nodes[act.joints[0].a]
        own = [b for b in act.joints if assembly.nodes[b.a].piece is first.piece
               and assembly.nodes[b.a].instance == first.instance]  # fmt: skip
        maps = list({b.a: glue_map(assembly, b, self._study.shut_frames) for b in own}.values())
        names = [assembly.nodes[one.node].panel.name for one in maps]
        panels = [k for k, panel in enumerate(first.piece.panels) if panel.name in names]
        painter.setFont(self._font(PLAIN))
        draw_glue(painter, first.piece, maps, panels, box, self.theme)

    def _scene(self, painter: QPainter, box: QRectF) -> None:
        """What is tried or put together, standing."""
        if self._study is None or not self.only:
            return
        painter.save()
        painter.translate(box.topLeft())
        shut = self.walk is not None and self.walk.step is not None and self.walk.step.kind in ("put", "rehearse")
        size = (box.width(), box.height())
        scene = ScenePainter(self._study, 0.0 if shut else 1.0, Camera(), size, self.theme, (), self.only)
        element = self.walk.step.element if self.walk is not None and self.walk.step is not None else ""
        scene.paint(painter, element)
        painter.restore()

    def centre_of_chip(self, copy: int) -> QPointF:
        """Where a copy's chip is, px."""
        return self._chips[copy].center()
