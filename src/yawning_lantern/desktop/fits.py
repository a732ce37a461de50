"""The fits in words: one line a gap, worst first; the formula and the remedies of the chosen one below."""

from __future__ import annotations

from typing import Any

from PySide6.QtCore import QAbstractListModel, QModelIndex, QPersistentModelIndex, QPointF, QRectF, QSize, Qt, QTimer
from PySide6.QtGui import QPainter
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
from yawning_lantern.desktop.marks import draw_verdict
from yawning_lantern.desktop.runner import Runner
from yawning_lantern.desktop.session import Session
from yawning_lantern.desktop.theme import DAY, Theme
from yawning_lantern.exchange.plan import finding_words, gap_key
from yawning_lantern.fit import USES, Candidate, Check, asked, formula, headline, sentence
from yawning_lantern.measure import format_length
from yawning_lantern.study import Study, applied, lever_label, remedies

_RANK = {"clash": 0, "tight": 1, "snug": 2, "loose": 3, "easy": 4}
Index = QModelIndex | QPersistentModelIndex


QUIET = 350  # ms without an edit until rings are solved through


class FitsModel(QAbstractListModel):
    """Checks in the order a maker wants to read them: what is wrong first."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self._session = session
        self.checks: list[Check] = []

    def refresh(self) -> None:
        """Take the checks of the newest study."""
        study = self._session.study
        found = list(study.checks) if study else []
        found.sort(key=lambda c: (c.is_fine, _RANK[c.verdict] if not c.is_fine else 0))
        if len(found) == len(self.checks) and found:
            self.checks = found
            self.dataChanged.emit(self.index(0), self.index(len(found) - 1))
        else:
            self.beginResetModel()
            self.checks = found
            self.endResetModel()

    def rowCount(self, parent: Index = QModelIndex()) -> int:  # noqa: B008  # Qt's own signature
        return 0 if parent.isValid() else len(self.checks)

    def data(self, index: Index, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        if not index.isValid() or index.row() >= len(self.checks):
            return None
        check = self.checks[index.row()]
        if role == Qt.ItemDataRole.DisplayRole:
            return headline(check)
        if role in (Qt.ItemDataRole.AccessibleTextRole, Qt.ItemDataRole.ToolTipRole):
            return f"{headline(check)}: {sentence(check, self._session.design.units)}"
        if role == Qt.ItemDataRole.UserRole:
            return check
        return None


class FitDelegate(QStyledItemDelegate):
    """Paints one check: mark, subject, verdict in words."""

    def __init__(self, view: FitsPanel) -> None:
        super().__init__(view)
        self._view = view

    def sizeHint(self, option: QStyleOptionViewItem, index: Index) -> QSize:
        return QSize(200, 2 * option.fontMetrics.height() + 10)  # type: ignore[attr-defined]  # Qt's stubs leave the option's fields out

    def paint(self, painter: QPainter, option: QStyleOptionViewItem, index: Index) -> None:
        check: Check = index.data(Qt.ItemDataRole.UserRole)
        t = self._view.theme
        box = QRectF(option.rect)  # type: ignore[attr-defined]  # Qt's stubs leave the option's fields out
        painter.save()
        chosen = bool(option.state & QStyle.StateFlag.State_Selected)  # type: ignore[attr-defined]  # Qt's stubs leave the option's fields out
        if chosen:
            painter.fillRect(box, t.colour("table"))
            painter.fillRect(QRectF(box.left(), box.top(), 3, box.height()), t.colour("lamp"))
        draw_verdict(painter, check.verdict, QPointF(box.left() + 15, box.top() + 14), 12, t)
        left, width = box.left() + 28, box.width() - 34
        height = painter.fontMetrics().height()
        font = painter.font()
        font.setBold(not check.is_fine)
        painter.setFont(font)
        painter.setPen(t.colour("ink"))
        gap = check.gap
        subject = headline(check) if gap.code == "sheet" else f"{USES[gap.code].label}: {gap.between[0]}"
        way = gap.between[1].rpartition(", ")[2] if ", " in gap.between[1] else ""
        if way and not gap.between[0].endswith(way):
            subject = f"{subject}, {way}"
        subject = painter.fontMetrics().elidedText(subject, Qt.TextElideMode.ElideRight, int(width))
        painter.drawText(QRectF(left, box.top() + 4, width, height), Qt.AlignmentFlag.AlignVCenter, subject)
        painter.setPen(t.colour("faint") if check.is_fine else t.colour(check.verdict if check.is_clash else "tight"))
        words = sentence(check, self._view.session.design.units)
        words = painter.fontMetrics().elidedText(words, Qt.TextElideMode.ElideRight, int(width))
        painter.drawText(QRectF(left, box.top() + 4 + height, width, height), Qt.AlignmentFlag.AlignVCenter, words)
        painter.restore()


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
        self.list.setUniformItemSizes(True)
        self.list.setAccessibleName("Fits")
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
        session.studied.connect(self.refresh)

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
        self.findings.hide()
        if self.session.study is not None and self.session.study.assembly.rings:
            self._quiet.start()
        row = next((i for i, c in enumerate(checks) if gap_key(c.gap) == self._chosen), None)
        if row is None and wrong:
            row = 0
        if row is not None:
            self.list.setCurrentIndex(self.model.index(row))
            self._show(checks[row])
        elif self._shown is not None:
            self._show(None)

    def _examine(self) -> None:
        """Solve the rings of pop-ups over their whole swing, off the GUI thread."""
        study = self.session.study
        if study is not None:
            self._rings.submit(lambda: (study, study.findings))

    def _found(self, answer: object) -> None:
        if isinstance(answer, BaseException):
            raise answer
        assert isinstance(answer, tuple)
        study, findings = answer
        if study is not self.session.study or not findings:
            return
        units = self.session.design.units
        told = [f"• {finding_words(f, study.resolved[f.element].final.name, units)}" for f in findings]
        self.findings.setText("\n".join(told))
        self.findings.show()

    def _choose(self, current: QModelIndex) -> None:
        check = current.data(Qt.ItemDataRole.UserRole) if current.isValid() else None
        if isinstance(check, Check):
            self._chosen = gap_key(check.gap)
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
        want = f"Asked: {asked(check, units)}."
        self.detail.setText(f"{headline(check)}\n{formula(check, units)}\n{want}")
        study = self.session.study
        if not check.is_fine and study is not None:
            self._runner.submit(lambda: (check, study, remedies(study, check)))

    def _clear(self) -> None:
        while (item := self.cures.takeAt(0)) is not None:
            widget = item.widget()
            if widget is not None:
                widget.hide()
                widget.deleteLater()

    def _cured(self, answer: object) -> None:
        if isinstance(answer, BaseException):
            raise answer
        assert isinstance(answer, tuple)
        check, study, cures = answer
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
