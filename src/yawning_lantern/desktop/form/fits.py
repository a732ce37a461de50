"""The fits in words, grouped by what they join; the formula and the remedies of the chosen one below."""

from __future__ import annotations

from typing import cast

from PySide6.QtCore import QModelIndex, QPointF, QRectF, QSize, Qt, QTimer
from PySide6.QtGui import QFont, QFontMetricsF, QPainter, QPen
from PySide6.QtWidgets import (
    QLabel,
    QListView,
    QPushButton,
    QStyle,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QVBoxLayout,
    QWidget,
)

from yawning_lantern.assembly.spans import PLACES
from yawning_lantern.desktop.form.fit_groups import FitsModel, Group, Index, Row
from yawning_lantern.desktop.shared.cards import empty
from yawning_lantern.desktop.shared.marks import draw_verdict
from yawning_lantern.desktop.shared.runner import Runner
from yawning_lantern.desktop.shared.session import Session
from yawning_lantern.desktop.shared.theme import DAY, Theme
from yawning_lantern.fit import Candidate, Check, sums
from yawning_lantern.fold.examine import Finding
from yawning_lantern.measure import format_length
from yawning_lantern.study import Study, applied, lever_label, remedies

_WRAPPED = int(Qt.TextFlag.TextWordWrap | Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignTop)

_KEPT = 2000  # rows whose height is known
QUIET = 350  # ms without an edit until rings are solved through


class FitDelegate(QStyledItemDelegate):
    """Paints one row: of a group its mark, what it joins and how it stands; of a check mark, subject, verdict in words.
    Words are whole, on as many lines as they take."""

    def __init__(self, view: FitsPanel) -> None:
        super().__init__(view)
        self._view = view
        self._tall: dict[tuple[str, str, int], float] = {}
        self._sizes: dict[tuple[str, str, bool, int, str], QSize] = {}

    def _left(self, row: Row) -> float:
        return 40.0 if isinstance(row, Group) else 58.0

    def _is_bold(self, row: Row) -> bool:
        return isinstance(row, Group) or not row.is_fine

    def _font(self, row: Row, font: QFont) -> QFont:
        own = QFont(font)
        own.setBold(self._is_bold(row))
        return own

    def sizeHint(self, option: QStyleOptionViewItem, index: Index) -> QSize:
        row: Row = index.data(Qt.ItemDataRole.UserRole)
        width = self._view.list.viewport().width()
        first, second, _ = self._view.model.said(index)
        key = first, second, self._is_bold(row), width, option.font.key()
        size = self._sizes.get(key)  # most rows of a list read as they did before the edit
        if size is None:
            if len(self._sizes) > _KEPT:
                self._sizes.clear()
            room = max(width - int(self._left(row)) - 6, 60)
            height = self._height(first, self._font(row, option.font), room) + self._height(second, option.font, room)
            size = self._sizes[key] = QSize(width, int(height) + 9)
        return size

    def _height(self, words: str, font: QFont, width: int) -> float:
        """How tall words are in a room of a width, px."""
        key = words, font.key(), width
        if key not in self._tall:
            if len(self._tall) > _KEPT:
                self._tall.clear()
            room = QRectF(0, 0, width, 1000)
            self._tall[key] = QFontMetricsF(font).boundingRect(room, _WRAPPED, words).height()
        return self._tall[key]

    def paint(self, painter: QPainter, option: QStyleOptionViewItem, index: Index) -> None:
        row: Row = index.data(Qt.ItemDataRole.UserRole)
        t = self._view.theme
        box = QRectF(option.rect)
        painter.save()
        chosen = bool(option.state & QStyle.StateFlag.State_Selected)
        if chosen:
            painter.fillRect(box, t.colour("table"))
            painter.fillRect(QRectF(box.left(), box.top(), 3, box.height()), t.colour("lamp"))
        left = box.left() + self._left(row)
        worst = row.checks[0] if isinstance(row, Group) else row
        if isinstance(row, Group):
            self._fold(painter, box, self._view.model.is_open(row))
        draw_verdict(painter, worst.verdict, QPointF(left - 13, box.top() + 13), 12, t)
        plain, top = painter.font(), box.top() + 3
        painter.setPen(t.colour("ink"))
        faint = t.colour("faint") if worst.is_fine else t.colour(worst.verdict if worst.is_clash else "tight")
        first, second, _ = self._view.model.said(index)
        for words, font in ((first, self._font(row, plain)), (second, plain)):
            painter.setFont(font)
            room = QRectF(left, top, box.right() - left - 6, box.bottom() - top)
            painter.drawText(room, _WRAPPED, words)
            top += self._height(words, font, int(room.width()))
            painter.setPen(faint)
        painter.restore()

    def _fold(self, painter: QPainter, box: QRectF, is_open: bool) -> None:
        """A corner that points down where the group is unfolded, to the right where it is folded."""
        x, y = box.left() + 12, box.top() + 13
        points = ((-4, -2), (0, 3), (4, -2)) if is_open else ((-2, -4), (3, 0), (-2, 4))
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        pen = QPen(self._view.theme.colour("faint"), 1.6)
        pen.setCapStyle(Qt.PenCapStyle.RoundCap)
        pen.setJoinStyle(Qt.PenJoinStyle.RoundJoin)
        painter.setPen(pen)
        painter.drawPolyline([QPointF(x + a, y + b) for a, b in points])


class FitsPanel(QWidget):
    """The list, and below it the chosen fit in figures with what would cure it."""

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.session = session
        self.theme: Theme = DAY
        self.model = FitsModel(session)
        self.list = QListView()
        self.list.setModel(self.model)
        self.list.setItemDelegate(FitDelegate(self))
        self.list.setResizeMode(QListView.ResizeMode.Adjust)
        self.list.setVerticalScrollMode(QListView.ScrollMode.ScrollPerPixel)
        self.list.setAccessibleName("Fits")
        self.list.setMinimumHeight(110)
        self.list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.summary = QLabel()
        self.summary.setObjectName("heading")
        self.summary.setWordWrap(True)
        self.findings = QLabel()
        self.findings.setWordWrap(True)
        self.findings.hide()
        self._rings = Runner(self)
        self._quiet = QTimer(self)
        self._quiet.setSingleShot(True)
        self._quiet.setInterval(QUIET)
        self._quiet.timeout.connect(self._examine)
        self._rings.answered.connect(self._found)
        self.detail = QLabel("Choose a fit to see its sum.")
        self.detail.setWordWrap(True)
        self.detail.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
        self.cures = QVBoxLayout()
        self.cures.setSpacing(3)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(4)
        layout.addWidget(self.summary)
        layout.addWidget(self.findings)
        layout.addWidget(self.list, 1)
        layout.addWidget(self.detail)
        layout.addLayout(self.cures)
        self._chosen = ""
        self._shown: Check | None = None
        self._runner = Runner(self)
        self._runner.answered.connect(self._cured)
        self.list.selectionModel().currentChanged.connect(self._choose)
        self.list.clicked.connect(self._turn)
        if not self.style().styleHint(QStyle.StyleHint.SH_ItemView_ActivateItemOnSingleClick, None, self.list):
            self.list.activated.connect(self._turn)
        session.judged.connect(self.refresh)

    @property
    def is_idle(self) -> bool:
        """Whether no remedy is being tried."""
        return not (self._runner.is_busy or self._rings.is_busy or self._quiet.isActive())

    def stop(self) -> None:
        """Let running trials end."""
        self._runner.stop()
        self._quiet.stop()
        self._rings.stop()

    def refresh(self) -> None:
        """Show the newest study, the same fit still chosen."""
        self.model.refresh()
        checks = self.model.checks
        wrong = [c for c in checks if not c.is_fine]
        clashes = sum(c.is_clash for c in wrong)
        if clashes:
            words = f"{clashes} of {len(checks)} fits clash: it cannot be built like this"
        elif wrong:
            words = f"{len(wrong)} of {len(checks)} fits are not as asked"
        else:
            words = f"All {len(checks)} fits are as asked"
        self.summary.setText(words)
        has_rings = self.session.study is not None and bool(self.session.study.assembly.rings)
        self.findings.setEnabled(False)  # of the study before: pale until they are found again, so that nothing jumps
        if has_rings:
            self._quiet.start()
        if not has_rings or self.session.history.at == 0:  # of another design nothing stays
            self.findings.hide()
        chosen = next((c for c in checks if c.gap.key == self._chosen), wrong[0] if wrong else None)
        if chosen is not None:
            self.choose(chosen.gap.key)
        self._show(chosen)

    def choose(self, key: str) -> None:
        """Choose a fit by its gap's key; its group is unfolded."""
        row = self.model.reveal(key)
        if row is not None:
            self.list.setCurrentIndex(self.model.index(row))

    def _turn(self, index: QModelIndex) -> None:
        """Fold or unfold the group that was clicked."""
        row = index.data(Qt.ItemDataRole.UserRole)
        if isinstance(row, Group):
            self.model.toggle(row)
            at = next((k for k, r in enumerate(self.model.rows) if isinstance(r, Group) and r.key == row.key), 0)
            self.list.setCurrentIndex(self.model.index(at))

    def _examine(self) -> None:
        """Solve the rings of pop-ups over their whole swing, off the GUI thread."""
        study = self.session.study
        if study is not None:
            self._rings.submit(lambda: (study, study.findings))

    def _found(self, answer: object) -> None:
        if isinstance(answer, BaseException):
            raise answer
        study, findings = cast(tuple[Study, tuple[Finding, ...]], answer)
        if study is not self.session.study:
            return
        units = self.session.design.units
        told = [f"• {f.words(study.resolved[f.element].final.name, units)}" for f in findings]
        self.findings.setText("\n".join(told))
        self.findings.setEnabled(True)
        self.findings.setVisible(bool(findings))

    def _choose(self, current: QModelIndex) -> None:
        check = current.data(Qt.ItemDataRole.UserRole) if current.isValid() else None
        if isinstance(check, Check):
            self._chosen = check.gap.key
            self._show(check)

    def _show(self, check: Check | None) -> None:
        if check == self._shown:
            return
        self._shown = check
        self._clear()
        if check is None:
            self.detail.setText("Choose a fit to see its sum.")
            return
        units = self.session.design.units
        self.detail.setText(sums(check, units))
        study = self.session.study
        if not check.is_fine and not check.gap.lacks and study is not None:
            self._runner.submit(lambda: (check, study, remedies(study, check)))

    def _clear(self) -> None:
        empty(self.cures)

    def _cured(self, answer: object) -> None:
        if isinstance(answer, BaseException):
            raise answer
        check, study, cures = cast(tuple[Check, Study, tuple[Candidate, ...]], answer)
        if check != self._shown or study is not self.session.study:
            return  # another fit was chosen, or another design, while this was worked out
        self._clear()
        for cure in cures[:3]:
            button = QPushButton(self.cure_words(study, cure))
            button.clicked.connect(lambda _=False, c=cure: self._apply(study, c))
            self.cures.addWidget(button)
        if not cures:
            label = QLabel("No single change of a measurement cures this.")
            label.setWordWrap(True)
            self.cures.addWidget(label)

    def cure_words(self, study: Study, cure: Candidate) -> str:
        """A remedy in words."""
        r = study.resolved[cure.element]
        label = lever_label(r.family, cure.parameter).lower()
        name = r.element.name or r.family.name
        if cure.parameter in PLACES and not cure.value:
            return f"{name}: back to the middle, {label.removeprefix('place, ')}"
        if cure.value is None:
            return f"Let {name}, {label} be worked out"
        return f"{name}: {label} {format_length(cure.value, self.session.design.units, glyphs=True)}"

    def _apply(self, study: Study, cure: Candidate) -> None:
        if study is not self.session.study:
            return
        words = self.cure_words(study, cure)
        self.session.edit(applied(study, cure), f"remedy: {words}")
